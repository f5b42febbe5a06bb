-- name: Scenes :many
SELECT * FROM scene ORDER BY name, id;
-- name: Scene :one
SELECT * FROM scene WHERE id = ?;
-- name: PutScene :exec
INSERT INTO scene (id, version, name, changes) VALUES (?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, name = excluded.name, changes = excluded.changes;
-- name: DropScene :exec
DELETE FROM scene WHERE id = ?;
