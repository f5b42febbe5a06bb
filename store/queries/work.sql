-- name: OpenOrders :many
SELECT * FROM customer_order WHERE closed = 0 ORDER BY id;
-- name: PastOrders :many
SELECT order_version.*, customer_order.accepted_version
FROM order_version JOIN customer_order ON customer_order.id = order_version.order_id AND customer_order.version = order_version.version
WHERE closed = 1 AND leaves >= sqlc.arg(since) AND leaves < sqlc.arg(until)
    AND (leaves < sqlc.arg(before) OR leaves = sqlc.arg(before) AND order_id < CAST(sqlc.arg(before_id) AS TEXT))
    AND (instr(lower(name), lower(CAST(sqlc.arg(text) AS TEXT))) > 0 OR instr(lower(occasion), lower(CAST(sqlc.arg(text) AS TEXT))) > 0)
ORDER BY leaves DESC, order_id DESC LIMIT sqlc.arg(most);
-- name: LinesOf :many
SELECT order_line.* FROM json_each(CAST(sqlc.arg(orders) AS TEXT)) AS wanted
    JOIN customer_order ON customer_order.id = wanted.value
    JOIN order_line ON order_line.order_id = customer_order.id AND order_line.version = customer_order.version
ORDER BY order_line.order_id, order_line.position;
-- name: CustomerOrder :one
SELECT * FROM customer_order WHERE id = ?;
-- name: PutOrder :exec
INSERT INTO customer_order (id, version, accepted_version, closed) VALUES (?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, accepted_version = excluded.accepted_version, closed = excluded.closed;
-- name: OrderVersion :one
SELECT * FROM order_version WHERE order_id = ? AND version = ?;
-- name: AddOrderVersion :exec
INSERT INTO order_version (order_id, version, name, occasion, leaves, leaving, importance, allergies, state, quoted, beyond) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?);
-- name: StandingVersions :many
SELECT order_version.* FROM customer_order CROSS JOIN order_version
WHERE order_version.order_id = customer_order.id AND closed = 0 AND (order_version.version = customer_order.version OR order_version.version = customer_order.accepted_version);
-- name: StandingLines :many
SELECT order_line.* FROM customer_order CROSS JOIN order_line
WHERE order_line.order_id = customer_order.id AND closed = 0 AND (order_line.version = customer_order.version OR order_line.version = customer_order.accepted_version)
ORDER BY order_line.order_id, order_line.version, order_line.position;
-- name: OrderLines :many
SELECT * FROM order_line WHERE order_id = ? AND version = ? ORDER BY position;
-- name: AddOrderLine :exec
INSERT INTO order_line (order_id, version, position, id, recipe_id, colourway_id, quantity, service_per_mille, variant, gone) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?);
-- name: OpenLots :many
SELECT * FROM lot WHERE closed_minute IS NULL AND EXISTS (SELECT 1 FROM task WHERE lot_id = lot.id) ORDER BY gather_key, ordinal;
-- name: PutLot :exec
INSERT INTO lot (id, gather_key, recipe_id, mixes, ordinal, need, started, variant, stock_lot_id, reached) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO NOTHING;
-- name: OpenTasks :many
SELECT task.* FROM lot CROSS JOIN task WHERE task.lot_id = lot.id AND closed_minute IS NULL ORDER BY lot_id, task.position;
-- name: TasksSince :many
SELECT * FROM task WHERE task.lot_id IN (SELECT later.lot_id FROM task AS later WHERE later.start_minute >= ?) ORDER BY lot_id, position;
-- name: LotsAbout :many
SELECT journal_touch.id FROM journal_touch WHERE journal_touch.n = sqlc.arg(n) AND thing = 'lot'
UNION SELECT CAST(stock_lot.lot_id AS TEXT) FROM ledger JOIN stock_lot ON stock_lot.id = ledger.stock_lot_id WHERE ledger.n = sqlc.arg(n) AND stock_lot.lot_id IS NOT NULL;
-- name: LotsNotClosed :many
SELECT id FROM lot WHERE closed_minute IS NULL;
-- name: StockLeftOf :one
SELECT CAST(COUNT(*) AS INTEGER) AS number FROM stock_lot WHERE lot_id = ? AND amount <> 0;
-- name: CloseLot :exec
UPDATE lot SET closed_minute = ?, good = ?, lost = ?, minutes = ? WHERE id = ?;
-- name: ClosedLots :many
SELECT lot.id, lot.recipe_id, lot.variant, lot.started, lot.good, lot.lost, lot.minutes, CAST(lot.closed_minute AS INTEGER) AS closed, recipe_revision.name
FROM lot JOIN recipe_revision ON recipe_revision.id = lot.recipe_id
WHERE closed_minute IS NOT NULL AND closed_minute >= sqlc.arg(since) AND closed_minute < sqlc.arg(until)
    AND (closed_minute < sqlc.arg(before) OR closed_minute = sqlc.arg(before) AND lot.id < CAST(sqlc.arg(before_id) AS TEXT))
    AND instr(lower(recipe_revision.name), lower(CAST(sqlc.arg(text) AS TEXT))) > 0
ORDER BY closed_minute DESC, lot.id DESC LIMIT sqlc.arg(most);
-- name: ClosedPieces :many
SELECT * FROM closed_pieces WHERE good + lost > 0 ORDER BY page_id;
-- name: AddClosedPieces :exec
INSERT INTO closed_pieces (page_id, good, lost) VALUES (?, ?, ?);
-- name: AddClosedOrdinal :exec
INSERT INTO closed_ordinal (gather_key, highest) VALUES (?, ?);
-- name: ClosedOrdinals :many
SELECT * FROM closed_ordinal;
-- name: TasksOfLot :many
SELECT * FROM task WHERE lot_id = ? ORDER BY position;
-- name: Lot :one
SELECT * FROM lot WHERE id = ?;
-- name: AtOtherWork :one
SELECT CAST(COUNT(*) AS INTEGER) AS number FROM task WHERE person_id = ? AND lot_id <> ? AND state = 'started' AND machine = '';
-- name: DropTasks :exec
DELETE FROM task WHERE lot_id = ?;
-- name: AddTask :exec
INSERT INTO task (lot_id, position, step, state, person_id, start_minute, end_minute, good, second, broken, mend, machine, used, weighed, asks, remarks) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?);
-- name: Shelf :many
SELECT * FROM stock_lot WHERE amount <> 0 ORDER BY made_minute, id;
-- name: StockOfLot :one
SELECT id FROM stock_lot WHERE lot_id = ? AND quality = ?;
-- name: AddStockLot :exec
INSERT INTO stock_lot (id, recipe_id, mixes, quality, made_minute, use_by_minute, lot_id, variant, reached, place, kept, surroundings) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?);
-- name: LotsDoneBy :one
SELECT CAST(COUNT(DISTINCT task.lot_id) AS INTEGER) AS number
FROM task JOIN lot ON lot.id = task.lot_id JOIN recipe_revision ON recipe_revision.id = lot.recipe_id
WHERE task.person_id = ? AND task.state = 'done' AND task.machine = '' AND recipe_revision.recipe_id = ?;
-- name: TasksRemarkedOn :many
SELECT task.step, task.remarks, lot.id AS lot_id, lot.recipe_id, lot.variant
FROM task JOIN lot ON lot.id = task.lot_id
WHERE task.remarks <> '[]' ORDER BY task.start_minute DESC LIMIT ?;
