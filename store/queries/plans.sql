-- name: LatestPlan :one
SELECT version, base, body FROM plan_version ORDER BY version DESC LIMIT 1;
-- name: LatestPlanHead :one
SELECT version, base FROM plan_version ORDER BY version DESC LIMIT 1;
-- name: PlanVersion :one
SELECT version, base, body FROM plan_version WHERE version = ?;
-- name: AddPlan :exec
INSERT INTO plan_version (version, base, body)
SELECT CAST(latest.version + 1 AS INTEGER), CAST(sqlc.arg(base) AS INTEGER), CAST(sqlc.arg(body) AS BLOB)
FROM (SELECT COALESCE(MAX(version), 0) AS version, COALESCE(MAX(base), 0) AS base FROM plan_version) AS latest
WHERE latest.base < CAST(sqlc.arg(base) AS INTEGER);
-- name: ImprovePlan :exec
UPDATE plan_version SET body = sqlc.arg(body) WHERE plan_version.base = sqlc.arg(base) AND plan_version.version = (SELECT MAX(latest.version) FROM plan_version AS latest)
    AND NOT EXISTS (SELECT 1 FROM journal_touch WHERE journal_touch.n = plan_version.base AND journal_touch.thing = 'plan');
-- name: DropOldPlans :exec
DELETE FROM plan_version WHERE version <= (SELECT MAX(version) FROM plan_version) - CAST(sqlc.arg(keep) AS INTEGER)
    AND NOT EXISTS (SELECT 1 FROM journal_touch WHERE journal_touch.n = plan_version.base AND journal_touch.thing = 'plan');
-- name: PlanVersions :many
SELECT plan_version.version, plan_version.base, journal.at_minute, journal.summary, CAST(COALESCE(person.name, '') AS TEXT) AS person,
    CAST(EXISTS (SELECT 1 FROM journal_touch WHERE journal_touch.n = plan_version.base AND journal_touch.thing = 'plan') AS INTEGER) AS accepted
FROM plan_version JOIN journal ON journal.n = plan_version.base LEFT JOIN person ON person.id = journal.person_id
ORDER BY plan_version.version DESC LIMIT ?;
-- name: OfferHeads :many
SELECT id, base, how, steps FROM offered_plan ORDER BY id;
-- name: OfferedPlan :one
SELECT * FROM offered_plan WHERE id = ?;
-- name: MakeOfferFollow :exec
UPDATE offered_plan SET base = ?, body = ? WHERE id = ?;
-- name: DropOldOffers :exec
DELETE FROM offered_plan WHERE id NOT IN (SELECT id FROM offered_plan ORDER BY id DESC LIMIT ?);
-- name: PutOfferedPlan :exec
INSERT INTO offered_plan (id, base, how, steps, body) VALUES (?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET base = excluded.base, body = excluded.body;
-- name: DropOfferedPlan :exec
DELETE FROM offered_plan WHERE id = ?;
-- name: DropOfferedPlans :exec
DELETE FROM offered_plan;
-- name: AddFall :exec
INSERT INTO fall (at_minute, order_id, body) VALUES (?, ?, ?);
-- name: DropPlans :exec
DELETE FROM plan_version;
-- name: DropFalls :exec
DELETE FROM fall;
-- name: DropOldFalls :exec
DELETE FROM fall WHERE id <= (SELECT MAX(id) FROM fall) - CAST(sqlc.arg(keep) AS INTEGER);
-- name: LatestFalls :many
SELECT body FROM fall ORDER BY id DESC LIMIT ?;
