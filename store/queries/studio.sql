-- name: Studio :one
SELECT name, epoch, zone, settings, standing_minute, brought, air FROM studio WHERE id = 1;
-- name: AddStudio :exec
INSERT INTO studio (id, name, epoch, zone, settings, standing_minute, brought) VALUES (1, ?, ?, ?, ?, ?, ?);
-- name: SetStandingMinute :exec
UPDATE studio SET standing_minute = ? WHERE id = 1;
-- name: Climate :many
SELECT * FROM climate_hour ORDER BY hour;
-- name: AddClimateHour :exec
INSERT INTO climate_hour (hour, tenths_celsius, humidity_per_mille) VALUES (?, ?, ?);
-- name: Materials :many
SELECT * FROM material ORDER BY position;
-- name: PutMaterial :exec
INSERT INTO material (id, position, name, unit, wire, form, supplier_id, pack, keep_at_least, out_of_use, beyond) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, unit = excluded.unit, wire = excluded.wire, form = excluded.form,
    supplier_id = excluded.supplier_id, pack = excluded.pack, keep_at_least = excluded.keep_at_least, out_of_use = excluded.out_of_use,
    beyond = excluded.beyond;
-- name: DryingClasses :many
SELECT * FROM drying_class ORDER BY position;
-- name: PutDryingClass :exec
INSERT INTO drying_class (id, position, name, firm_minutes, dry_minutes, thickness_um, spread_per_mille, stall_humidity_per_mille,
    stiff_minutes, softens_minutes, percentile) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, firm_minutes = excluded.firm_minutes, dry_minutes = excluded.dry_minutes,
    thickness_um = excluded.thickness_um, spread_per_mille = excluded.spread_per_mille,
    stall_humidity_per_mille = excluded.stall_humidity_per_mille, stiff_minutes = excluded.stiff_minutes,
    softens_minutes = excluded.softens_minutes, percentile = excluded.percentile;
-- name: Places :many
SELECT * FROM place ORDER BY position;
-- name: PutPlace :exec
INSERT INTO place (id, position, name, slots, keeps_minutes, surroundings, made_by, size_um, out_of_use) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, slots = excluded.slots, keeps_minutes = excluded.keeps_minutes,
    surroundings = excluded.surroundings, made_by = excluded.made_by, size_um = excluded.size_um, out_of_use = excluded.out_of_use;
-- name: People :many
SELECT * FROM person ORDER BY position;
-- name: PutPerson :exec
INSERT INTO person (id, position, name, beyond) VALUES (?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, beyond = excluded.beyond;
-- name: DropPerson :exec
DELETE FROM person WHERE id = ?;
-- name: DropSkills :exec
DELETE FROM person_skill WHERE person_id = ?;
-- name: DropHours :exec
DELETE FROM person_hours WHERE person_id = ?;
-- name: DropAway :exec
DELETE FROM person_away WHERE person_id = ?;
-- name: Rename :exec
UPDATE studio SET name = ? WHERE id = 1;
-- name: SetZone :exec
UPDATE studio SET zone = ? WHERE id = 1;
-- name: DropClimate :exec
DELETE FROM climate_hour;
-- name: Skills :many
SELECT * FROM person_skill ORDER BY person_id, position;
-- name: AddSkill :exec
INSERT INTO person_skill (person_id, position, skill, pace_hundredths) VALUES (?, ?, ?, ?);
-- name: Hours :many
SELECT * FROM person_hours ORDER BY person_id, position;
-- name: AddHours :exec
INSERT INTO person_hours (person_id, position, day, from_minute, to_minute) VALUES (?, ?, ?, ?, ?);
-- name: Away :many
SELECT * FROM person_away ORDER BY person_id, day;
-- name: AddAway :exec
INSERT INTO person_away (person_id, day) VALUES (?, ?);
-- name: RecipeIDs :many
SELECT id FROM recipe_revision ORDER BY position;
-- name: RecipeBody :one
SELECT body, format FROM recipe_revision WHERE id = ?;
-- name: AddRecipe :exec
INSERT INTO recipe_revision (id, position, recipe_id, revision, kind, name, body, format) VALUES (?, ?, ?, ?, ?, ?, ?, ?);
-- name: Colourways :many
SELECT * FROM colourway ORDER BY position;
-- name: AddColourway :exec
INSERT INTO colourway (id, position, name) VALUES (?, ?, ?);
-- name: ColourwaySlots :many
SELECT * FROM colourway_slot ORDER BY colourway_id, slot;
-- name: AddColourwaySlot :exec
INSERT INTO colourway_slot (colourway_id, slot, mix_id) VALUES (?, ?, ?);
