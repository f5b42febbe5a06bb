-- +goose Up

-- what there is, kept by the ledger itself: pieces and mixes, materials, cut wires, and what
-- is reserved for whom ('' where the lead keeps it back), with the line that first did so
ALTER TABLE stock_lot ADD COLUMN amount INTEGER NOT NULL DEFAULT 0;
ALTER TABLE material ADD COLUMN on_hand INTEGER NOT NULL DEFAULT 0;
CREATE TABLE offcut (
    material_id TEXT NOT NULL REFERENCES material (id),
    length_um INTEGER NOT NULL CHECK (length_um > 0),
    number INTEGER NOT NULL,
    PRIMARY KEY (material_id, length_um)
) STRICT, WITHOUT ROWID;
CREATE TABLE reservation (
    of_lot TEXT NOT NULL,
    order_id TEXT NOT NULL,
    quantity INTEGER NOT NULL,
    first INTEGER NOT NULL,
    PRIMARY KEY (of_lot, order_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX stock_there ON stock_lot (made_minute, id) WHERE amount <> 0;

UPDATE stock_lot SET amount = COALESCE((SELECT SUM(amount) FROM ledger WHERE stock_lot_id = stock_lot.id AND movement NOT IN ('reserved', 'released')), 0);
UPDATE material SET on_hand = COALESCE((SELECT SUM(amount) FROM ledger WHERE material_id = material.id AND length_um IS NULL), 0);
INSERT INTO offcut SELECT material_id, length_um, SUM(amount) FROM ledger WHERE length_um IS NOT NULL GROUP BY material_id, length_um HAVING SUM(amount) <> 0;
INSERT INTO reservation SELECT COALESCE(stock_lot_id, lot_id), COALESCE(order_id, ''), SUM(amount), MIN(id) FROM ledger
    WHERE movement IN ('reserved', 'released') GROUP BY stock_lot_id, lot_id, order_id HAVING SUM(amount) <> 0;

-- +goose StatementBegin
CREATE TRIGGER ledger_moves_stock AFTER INSERT ON ledger WHEN NEW.stock_lot_id IS NOT NULL AND NEW.movement NOT IN ('reserved', 'released') BEGIN
    UPDATE stock_lot SET amount = amount + NEW.amount WHERE id = NEW.stock_lot_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER ledger_moves_material AFTER INSERT ON ledger WHEN NEW.material_id IS NOT NULL AND NEW.length_um IS NULL BEGIN
    UPDATE material SET on_hand = on_hand + NEW.amount WHERE id = NEW.material_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER ledger_moves_offcuts AFTER INSERT ON ledger WHEN NEW.length_um IS NOT NULL BEGIN
    INSERT INTO offcut VALUES (NEW.material_id, NEW.length_um, NEW.amount) ON CONFLICT DO UPDATE SET number = number + excluded.number;
    DELETE FROM offcut WHERE material_id = NEW.material_id AND length_um = NEW.length_um AND number = 0;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER ledger_moves_reservations AFTER INSERT ON ledger WHEN NEW.movement IN ('reserved', 'released') BEGIN
    INSERT INTO reservation VALUES (COALESCE(NEW.stock_lot_id, NEW.lot_id), COALESCE(NEW.order_id, ''), NEW.amount, NEW.id)
    ON CONFLICT DO UPDATE SET quantity = quantity + excluded.quantity;
    DELETE FROM reservation WHERE of_lot = COALESCE(NEW.stock_lot_id, NEW.lot_id) AND order_id = COALESCE(NEW.order_id, '') AND quantity = 0;
END;
-- +goose StatementEnd

-- a lot is closed once its pieces are made and none of them is left: since the end of its last
-- task, with what came of it and the minutes it took; NULL while it is open
ALTER TABLE lot ADD COLUMN closed_minute INTEGER;
ALTER TABLE lot ADD COLUMN good INTEGER NOT NULL DEFAULT 0;
ALTER TABLE lot ADD COLUMN lost INTEGER NOT NULL DEFAULT 0;
ALTER TABLE lot ADD COLUMN minutes INTEGER NOT NULL DEFAULT 0;
CREATE INDEX lot_open ON lot (gather_key, ordinal) WHERE closed_minute IS NULL;
CREATE INDEX lot_closed ON lot (closed_minute, id) WHERE closed_minute IS NOT NULL;
CREATE INDEX task_start ON task (start_minute, lot_id);

-- what closed lots come to: pieces by page of the flower book, ordinals by gather key
CREATE TABLE closed_pieces (
    page_id TEXT PRIMARY KEY,
    good INTEGER NOT NULL,
    lost INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
CREATE TABLE closed_ordinal (
    gather_key TEXT PRIMARY KEY,
    highest INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
INSERT INTO closed_pieces SELECT json_extract(value, '$.recipe'), json_extract(value, '$.good'), json_extract(value, '$.lost') FROM studio, json_each(studio.equipment, '$.recorded');

-- +goose StatementBegin
CREATE TRIGGER lot_closes AFTER UPDATE OF closed_minute ON lot WHEN OLD.closed_minute IS NULL AND NEW.closed_minute IS NOT NULL BEGIN
    INSERT INTO closed_ordinal VALUES (NEW.gather_key, NEW.ordinal) ON CONFLICT DO UPDATE SET highest = max(highest, excluded.highest);
    INSERT INTO closed_pieces SELECT recipe_id, NEW.good, NEW.lost FROM recipe_revision WHERE id = NEW.recipe_id AND NEW.good + NEW.lost > 0
    ON CONFLICT DO UPDATE SET good = good + excluded.good, lost = lost + excluded.lost;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER lot_opens AFTER UPDATE OF closed_minute ON lot WHEN OLD.closed_minute IS NOT NULL AND NEW.closed_minute IS NULL BEGIN
    UPDATE closed_pieces SET good = good - OLD.good, lost = lost - OLD.lost WHERE page_id = (SELECT recipe_id FROM recipe_revision WHERE id = OLD.recipe_id);
END;
-- +goose StatementEnd

-- an order is closed once it has left or is cancelled, and nothing of it awaits acceptance
ALTER TABLE customer_order ADD COLUMN closed INTEGER NOT NULL DEFAULT 0 CHECK (closed IN (0, 1));
UPDATE customer_order SET closed = 1 WHERE EXISTS (SELECT 1 FROM order_version WHERE order_id = customer_order.id AND version = customer_order.version
    AND state IN ('left', 'cancelled')) AND (accepted_version IS NULL OR accepted_version = version);
CREATE INDEX order_open ON customer_order (id) WHERE closed = 0;
CREATE INDEX order_leaves ON order_version (leaves, order_id);

-- what a station may change one by one: surroundings, drying methods, tools, machines, gates
-- and colour families, as the document has them
CREATE TABLE equipment (
    kind TEXT NOT NULL CHECK (kind <> ''),
    id TEXT NOT NULL CHECK (id <> ''),
    position INTEGER NOT NULL,
    version INTEGER NOT NULL CHECK (version > 0),
    body TEXT NOT NULL CHECK (json_valid(body)),
    PRIMARY KEY (kind, id),
    UNIQUE (kind, position)
) STRICT, WITHOUT ROWID;
INSERT INTO equipment SELECT 'surroundings', json_extract(value, '$.id'), key, 1, value FROM studio, json_each(studio.equipment, '$.surroundings');
INSERT INTO equipment SELECT 'drying method', json_extract(value, '$.id'), key, 1, value FROM studio, json_each(studio.equipment, '$.dryingMethods');
INSERT INTO equipment SELECT 'tool', json_extract(value, '$.id'), key, 1, value FROM studio, json_each(studio.equipment, '$.tools');
INSERT INTO equipment SELECT 'machine', json_extract(value, '$.id'), key, 1, value FROM studio, json_each(studio.equipment, '$.machines');
INSERT INTO equipment SELECT 'gate', json_extract(value, '$.id'), key, 1, value FROM studio, json_each(studio.equipment, '$.gates');
INSERT INTO equipment SELECT 'colour family', json_extract(value, '$.id'), key, 1, value FROM studio, json_each(studio.equipment, '$.setupFamilies');

-- the document that the studio began with also brought readings, and what people were told
ALTER TABLE studio RENAME COLUMN equipment TO brought;
UPDATE studio SET brought = json_remove(brought, '$.surroundings', '$.dryingMethods', '$.tools', '$.machines', '$.gates', '$.setupFamilies', '$.recorded');

-- which things a command may touch is for the program to say
CREATE TABLE touch (
    n INTEGER NOT NULL REFERENCES journal (n) DEFERRABLE INITIALLY DEFERRED,
    thing TEXT NOT NULL CHECK (thing <> ''),
    id TEXT NOT NULL,
    before TEXT NOT NULL CHECK (json_valid(before)),
    after TEXT NOT NULL CHECK (json_valid(after)),
    PRIMARY KEY (n, thing, id)
) STRICT;
INSERT INTO touch SELECT * FROM journal_touch;
DROP TABLE journal_touch;
ALTER TABLE touch RENAME TO journal_touch;
CREATE INDEX journal_touch_thing ON journal_touch (thing, id, n);

-- +goose Down
UPDATE studio SET brought = json_set(brought, '$.surroundings', json((SELECT json_group_array(json(body)) FROM (SELECT body FROM equipment WHERE kind = 'surroundings' ORDER BY position))),
    '$.dryingMethods', json((SELECT json_group_array(json(body)) FROM (SELECT body FROM equipment WHERE kind = 'drying method' ORDER BY position))),
    '$.tools', json((SELECT json_group_array(json(body)) FROM (SELECT body FROM equipment WHERE kind = 'tool' ORDER BY position))),
    '$.machines', json((SELECT json_group_array(json(body)) FROM (SELECT body FROM equipment WHERE kind = 'machine' ORDER BY position))),
    '$.gates', json((SELECT json_group_array(json(body)) FROM (SELECT body FROM equipment WHERE kind = 'gate' ORDER BY position))),
    '$.setupFamilies', json((SELECT json_group_array(json(body)) FROM (SELECT body FROM equipment WHERE kind = 'colour family' ORDER BY position))));
ALTER TABLE studio RENAME COLUMN brought TO equipment;
DROP TABLE equipment;
DROP INDEX order_leaves;
DROP INDEX order_open;
ALTER TABLE customer_order DROP COLUMN closed;
DROP TRIGGER lot_opens;
DROP TRIGGER lot_closes;
DROP TABLE closed_ordinal;
DROP TABLE closed_pieces;
DROP INDEX task_start;
DROP INDEX lot_closed;
DROP INDEX lot_open;
ALTER TABLE lot DROP COLUMN minutes;
ALTER TABLE lot DROP COLUMN lost;
ALTER TABLE lot DROP COLUMN good;
ALTER TABLE lot DROP COLUMN closed_minute;
DROP TRIGGER ledger_moves_reservations;
DROP TRIGGER ledger_moves_offcuts;
DROP TRIGGER ledger_moves_material;
DROP TRIGGER ledger_moves_stock;
DROP INDEX stock_there;
DROP TABLE reservation;
DROP TABLE offcut;
ALTER TABLE material DROP COLUMN on_hand;
ALTER TABLE stock_lot DROP COLUMN amount;
