-- name: NextPosition :one
SELECT CAST(MAX(
    COALESCE((SELECT MAX(position) FROM material), -1), COALESCE((SELECT MAX(position) FROM place), -1),
    COALESCE((SELECT MAX(position) FROM drying_class), -1), COALESCE((SELECT MAX(position) FROM recipe_revision), -1),
    COALESCE((SELECT MAX(position) FROM colourway), -1), COALESCE((SELECT MAX(position) FROM supplier), -1),
    COALESCE((SELECT MAX(position) FROM person), -1)) + 1 AS INTEGER) AS position;
-- name: Equipment :many
SELECT * FROM equipment ORDER BY kind, position;
-- name: EquipmentOf :one
SELECT * FROM equipment WHERE kind = ? AND id = ?;
-- name: PutEquipment :exec
INSERT INTO equipment (kind, id, position, version, body) VALUES (?, ?, ?, ?, ?)
ON CONFLICT (kind, id) DO UPDATE SET version = excluded.version, body = excluded.body;
-- name: DropEquipment :exec
DELETE FROM equipment WHERE kind = ? AND id = ?;
-- name: NextOfKind :one
SELECT CAST(COALESCE(MAX(position), -1) + 1 AS INTEGER) AS position FROM equipment WHERE kind = ?;
-- name: DropMaterial :exec
DELETE FROM material WHERE id = ?;
-- name: DropPlace :exec
DELETE FROM place WHERE id = ?;
-- name: DropDryingClass :exec
DELETE FROM drying_class WHERE id = ?;
-- name: DropRevision :exec
DELETE FROM recipe_revision WHERE id = ?;
-- name: Colourway :one
SELECT * FROM colourway WHERE id = ?;
-- name: PutColourway :exec
INSERT INTO colourway (id, position, name, version) VALUES (?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, version = excluded.version;
-- name: SlotsOfColourway :many
SELECT * FROM colourway_slot WHERE colourway_id = ? ORDER BY slot;
-- name: DropSlots :exec
DELETE FROM colourway_slot WHERE colourway_id = ?;
-- name: DropColourway :exec
DELETE FROM colourway WHERE id = ?;
-- name: Drafts :many
SELECT * FROM recipe_draft ORDER BY name, id;
-- name: Draft :one
SELECT * FROM recipe_draft WHERE id = ?;
-- name: PutDraft :exec
INSERT INTO recipe_draft (id, version, name, body, format) VALUES (?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, name = excluded.name, body = excluded.body, format = excluded.format;
-- name: DropDraft :exec
DELETE FROM recipe_draft WHERE id = ?;
-- name: AddPicture :exec
INSERT INTO picture (id, media, body) VALUES (?, ?, ?) ON CONFLICT (id) DO NOTHING;
-- name: Picture :one
SELECT * FROM picture WHERE id = ?;
