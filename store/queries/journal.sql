-- name: LastN :one
SELECT CAST(COALESCE(MAX(n), 0) AS INTEGER) AS n FROM journal;
-- name: LastMinute :one
SELECT CAST(COALESCE(MAX(at_minute), 0) AS INTEGER) AS minute FROM journal;
-- name: AddEntry :exec
INSERT INTO journal (n, at_minute, person_id, command_id, kind, summary, answer, undoes) VALUES (?, ?, ?, ?, ?, ?, ?, ?);
-- name: EntryByCommand :one
SELECT n, kind, answer FROM journal WHERE command_id = ?;
-- name: Entry :one
SELECT * FROM journal WHERE n = ?;
-- name: JournalPage :many
SELECT journal.n, journal.at_minute, journal.kind, journal.summary, journal.undoes,
    CAST(COALESCE(person.name, '') AS TEXT) AS person,
    CAST(EXISTS (SELECT 1 FROM journal AS later WHERE later.undoes = journal.n) AS INTEGER) AS undone,
    CAST(EXISTS (SELECT 1 FROM journal_touch WHERE journal_touch.n = journal.n AND thing <> 'clock') AS INTEGER) AS touched
FROM journal LEFT JOIN person ON person.id = journal.person_id
WHERE journal.n < sqlc.arg(before) AND +journal.at_minute >= sqlc.arg(since) AND +journal.at_minute < sqlc.arg(until)
    AND (instr(lower(journal.summary), lower(CAST(sqlc.arg(text) AS TEXT))) > 0 OR instr(lower(person.name), lower(CAST(sqlc.arg(text) AS TEXT))) > 0)
ORDER BY journal.n DESC LIMIT sqlc.arg(most);
-- name: UndoneBy :one
SELECT n FROM journal WHERE undoes = ?;
-- name: AddTouch :exec
INSERT INTO journal_touch (n, thing, id, before, after) VALUES (?, ?, ?, ?, ?);
-- name: Touches :many
SELECT * FROM journal_touch WHERE n = ? ORDER BY thing, id;
-- name: LaterTouch :one
SELECT journal.n, journal.summary FROM journal_touch JOIN journal ON journal.n = journal_touch.n
WHERE journal_touch.thing = ? AND journal_touch.id = ? AND journal_touch.n > ? AND journal.undoes IS NULL
    AND NOT EXISTS (SELECT 1 FROM journal AS later WHERE later.undoes = journal.n)
ORDER BY journal.n LIMIT 1;
-- name: AddMovement :exec
INSERT INTO ledger (n, stock_lot_id, lot_id, material_id, length_um, order_id, movement, amount) VALUES (?, ?, ?, ?, ?, ?, ?, ?);
-- name: ReverseMovements :exec
INSERT INTO ledger (n, stock_lot_id, lot_id, material_id, length_um, order_id, movement, amount)
SELECT CAST(sqlc.arg(undo) AS INTEGER), stock_lot_id, lot_id, material_id, length_um, order_id, movement, -amount FROM ledger WHERE ledger.n = sqlc.arg(undone);
-- name: Offcuts :many
SELECT * FROM offcut ORDER BY material_id, length_um DESC;
-- name: Reservations :many
SELECT * FROM reservation WHERE quantity > 0 ORDER BY first;
-- name: LedgerPage :many
SELECT ledger.id, ledger.n, ledger.movement, ledger.amount, CAST(COALESCE(ledger.order_id, '') AS TEXT) AS of_order, journal.at_minute, journal.summary,
    CAST(COALESCE(person.name, '') AS TEXT) AS person, CAST(COALESCE(order_version.name, '') AS TEXT) AS order_name
FROM ledger JOIN journal ON journal.n = ledger.n LEFT JOIN person ON person.id = journal.person_id
    LEFT JOIN customer_order ON customer_order.id = ledger.order_id
    LEFT JOIN order_version ON order_version.order_id = customer_order.id AND order_version.version = customer_order.version
WHERE (stock_lot_id = sqlc.arg(of) OR material_id = sqlc.arg(of) AND COALESCE(length_um, 0) = CAST(sqlc.arg(length) AS INTEGER))
    AND ledger.id < sqlc.arg(before) AND +journal.at_minute >= sqlc.arg(since) AND +journal.at_minute < sqlc.arg(until)
    AND (instr(lower(journal.summary), lower(CAST(sqlc.arg(text) AS TEXT))) > 0 OR instr(lower(person.name), lower(CAST(sqlc.arg(text) AS TEXT))) > 0)
ORDER BY ledger.id DESC LIMIT sqlc.arg(most);
-- name: JournalEntry :one
SELECT journal.n, journal.at_minute, journal.kind, journal.summary, journal.undoes, CAST(COALESCE(person.name, '') AS TEXT) AS person
FROM journal LEFT JOIN person ON person.id = journal.person_id WHERE journal.n = ?;
-- name: MovementsOfLine :many
SELECT CAST(COALESCE(material_id, stock_lot_id, lot_id, '') AS TEXT) AS of_thing, CAST(COALESCE(length_um, 0) AS INTEGER) AS length_um, movement,
    amount, CAST(COALESCE(material.name, '') AS TEXT) AS material, CAST(COALESCE(material.unit, '') AS TEXT) AS unit
FROM ledger LEFT JOIN material ON material.id = ledger.material_id WHERE ledger.n = ? ORDER BY ledger.id LIMIT 200;
