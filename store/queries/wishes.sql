-- name: Wishes :many
SELECT * FROM wish ORDER BY thing, id;
-- name: Wish :one
SELECT * FROM wish WHERE thing = ? AND id = ?;
-- name: PutWish :exec
INSERT INTO wish (thing, id, wished, accepted) VALUES (?, ?, ?, ?) ON CONFLICT (thing, id) DO UPDATE SET wished = excluded.wished, accepted = excluded.accepted;
-- name: DropWish :exec
DELETE FROM wish WHERE thing = ? AND id = ?;
