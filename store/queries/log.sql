-- name: LotsSince :many
SELECT * FROM lot WHERE id IN (SELECT task.lot_id FROM task WHERE task.start_minute >= ?) ORDER BY gather_key, ordinal;
-- name: SetPace :exec
UPDATE person_skill SET pace_hundredths = ? WHERE person_id = ? AND skill = ?;
-- name: PaceOf :one
SELECT pace_hundredths FROM person_skill WHERE person_id = ? AND skill = ?;
-- name: SetSettings :exec
UPDATE studio SET settings = ? WHERE id = 1;
-- name: Refusals :many
SELECT * FROM refused_proposal;
-- name: Refusal :one
SELECT body FROM refused_proposal WHERE key = ?;
-- name: PutRefusal :exec
INSERT INTO refused_proposal (key, body) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET body = excluded.body;
-- name: DropRefusal :exec
DELETE FROM refused_proposal WHERE key = ?;
