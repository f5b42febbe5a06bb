-- name: Orders :many
SELECT * FROM customer_order ORDER BY id;
-- name: CustomerOrder :one
SELECT * FROM customer_order WHERE id = ?;
-- name: PutOrder :exec
INSERT INTO customer_order (id, version, accepted_version) VALUES (?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, accepted_version = excluded.accepted_version;
-- name: OrderVersion :one
SELECT * FROM order_version WHERE order_id = ? AND version = ?;
-- name: AddOrderVersion :exec
INSERT INTO order_version (order_id, version, name, occasion, leaves, leaving, importance, allergies, state) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?);
-- name: StandingVersions :many
SELECT order_version.* FROM order_version JOIN customer_order ON customer_order.id = order_version.order_id
WHERE order_version.version = customer_order.version OR order_version.version = customer_order.accepted_version;
-- name: StandingLines :many
SELECT order_line.* FROM order_line JOIN customer_order ON customer_order.id = order_line.order_id
WHERE order_line.version = customer_order.version OR order_line.version = customer_order.accepted_version
ORDER BY order_line.order_id, order_line.version, order_line.position;
-- name: OrderLines :many
SELECT * FROM order_line WHERE order_id = ? AND version = ? ORDER BY position;
-- name: AddOrderLine :exec
INSERT INTO order_line (order_id, version, position, id, recipe_id, colourway_id, quantity, service_per_mille, variant) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?);
-- name: Lots :many
SELECT * FROM lot WHERE EXISTS (SELECT 1 FROM task WHERE lot_id = lot.id) ORDER BY gather_key, ordinal;
-- name: PutLot :exec
INSERT INTO lot (id, gather_key, recipe_id, mixes, ordinal, need, started, variant, stock_lot_id, reached) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO NOTHING;
-- name: Tasks :many
SELECT * FROM task ORDER BY lot_id, position;
-- name: TasksOfLot :many
SELECT * FROM task WHERE lot_id = ? ORDER BY position;
-- name: Lot :one
SELECT * FROM lot WHERE id = ?;
-- name: AtOtherWork :one
SELECT CAST(COUNT(*) AS INTEGER) AS number FROM task WHERE person_id = ? AND lot_id <> ? AND state = 'started' AND machine = '';
-- name: DropTasks :exec
DELETE FROM task WHERE lot_id = ?;
-- name: AddTask :exec
INSERT INTO task (lot_id, position, step, state, person_id, start_minute, end_minute, good, second, broken, mend, machine, used, weighed) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?);
-- name: Shelf :many
SELECT stock_lot.id, stock_lot.recipe_id, stock_lot.mixes, stock_lot.quality, stock_lot.made_minute, stock_lot.use_by_minute, stock_lot.lot_id,
    stock_lot.variant, stock_lot.reached, stock_lot.place, stock_lot.kept, stock_lot.surroundings,
    CAST(COALESCE((SELECT SUM(amount) FROM ledger WHERE stock_lot_id = stock_lot.id AND movement NOT IN ('reserved', 'released')), 0) AS INTEGER) AS amount
FROM stock_lot ORDER BY stock_lot.made_minute, stock_lot.id;
-- name: StockOfLot :one
SELECT id FROM stock_lot WHERE lot_id = ? AND quality = ?;
-- name: AddStockLot :exec
INSERT INTO stock_lot (id, recipe_id, mixes, quality, made_minute, use_by_minute, lot_id, variant, reached, place, kept, surroundings) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?);
