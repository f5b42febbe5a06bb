-- name: StockLot :one
SELECT * FROM stock_lot WHERE id = ?;
-- name: KeepStockLot :exec
UPDATE stock_lot SET place = ?, kept = ?, use_by_minute = ?, surroundings = ? WHERE id = ?;
-- name: Suppliers :many
SELECT * FROM supplier ORDER BY position;
-- name: PutSupplier :exec
INSERT INTO supplier (id, position, name, days, out_of_use, beyond) VALUES (?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, days = excluded.days, out_of_use = excluded.out_of_use, beyond = excluded.beyond;
-- name: DropSupplier :exec
DELETE FROM supplier WHERE id = ?;
-- name: Purchases :many
SELECT * FROM purchase ORDER BY id;
-- name: Purchase :one
SELECT * FROM purchase WHERE id = ?;
-- name: PutPurchase :exec
INSERT INTO purchase (id, supplier_id, version, body) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO UPDATE SET version = excluded.version, body = excluded.body;
-- name: DropPurchase :exec
DELETE FROM purchase WHERE id = ?;
