-- name: Clients :many
SELECT client.* FROM client JOIN customer_order ON customer_order.id = client.order_id WHERE closed = 0;
-- name: ClientOf :one
SELECT * FROM client WHERE order_id = ?;
-- name: PutClient :exec
INSERT INTO client (order_id, name, contact) VALUES (?, ?, ?)
ON CONFLICT (order_id) DO UPDATE SET name = excluded.name, contact = excluded.contact;
-- name: DropClient :exec
DELETE FROM client WHERE order_id = ?;
-- name: Packing :one
SELECT * FROM packing WHERE order_id = ?;
-- name: PutPacking :exec
INSERT INTO packing (order_id, version, body) VALUES (?, ?, ?)
ON CONFLICT (order_id) DO UPDATE SET version = excluded.version, body = excluded.body;
-- name: DropPacking :exec
DELETE FROM packing WHERE order_id = ?;
