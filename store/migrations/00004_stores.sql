-- +goose Up

-- the ledger, with cut wires by length and reservations for orders
DROP TRIGGER ledger_keeps_lines;
DROP TRIGGER ledger_loses_no_line;
CREATE TABLE movement (
    id INTEGER PRIMARY KEY,
    n INTEGER NOT NULL REFERENCES journal (n) DEFERRABLE INITIALLY DEFERRED,
    stock_lot_id TEXT REFERENCES stock_lot (id),
    lot_id TEXT REFERENCES lot (id),
    material_id TEXT REFERENCES material (id),
    -- of wires of a material that lie cut to a length
    length_um INTEGER CHECK (length_um > 0),
    -- whom a reservation is for; NULL where the lead keeps it back
    order_id TEXT REFERENCES customer_order (id),
    movement TEXT NOT NULL CHECK (movement IN ('bought', 'mixed', 'used', 'made', 'spoilt', 'counted', 'reserved', 'released', 'corrected')),
    amount INTEGER NOT NULL CHECK (amount <> 0),
    CHECK ((stock_lot_id IS NOT NULL) + (lot_id IS NOT NULL) + (material_id IS NOT NULL) = 1),
    CHECK (length_um IS NULL OR material_id IS NOT NULL),
    CHECK (movement IN ('reserved', 'released') OR order_id IS NULL AND lot_id IS NULL),
    CHECK (movement NOT IN ('reserved', 'released') OR material_id IS NULL)
) STRICT;
INSERT INTO movement (id, n, stock_lot_id, material_id, movement, amount) SELECT id, n, stock_lot_id, material_id, movement, amount FROM ledger;
DROP TABLE ledger;
ALTER TABLE movement RENAME TO ledger;
CREATE INDEX ledger_stock ON ledger (stock_lot_id);
CREATE INDEX ledger_lot ON ledger (lot_id);
CREATE INDEX ledger_material ON ledger (material_id);
CREATE INDEX ledger_n ON ledger (n);
-- +goose StatementBegin
CREATE TRIGGER ledger_keeps_lines BEFORE UPDATE ON ledger BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER ledger_loses_no_line BEFORE DELETE ON ledger BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
-- +goose StatementEnd

-- where a lot lies, and how a mix is kept: on the board, wrapped or cold
ALTER TABLE stock_lot ADD COLUMN place TEXT NOT NULL DEFAULT '';
ALTER TABLE stock_lot ADD COLUMN kept TEXT NOT NULL DEFAULT '' CHECK (kept IN ('', 'board', 'wrapped', 'cold'));

-- what was weighed for a mixing
ALTER TABLE task ADD COLUMN weighed TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(weighed));

-- lots that are not begun and that the lead has decided on: as she wishes, and as it is
-- accepted; null where she has not, or has let it go
CREATE TABLE decided_lot (
    id TEXT PRIMARY KEY,
    wished TEXT NOT NULL CHECK (json_valid(wished)),
    accepted TEXT NOT NULL CHECK (json_valid(accepted))
) STRICT;

CREATE TABLE supplier (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    position INTEGER NOT NULL UNIQUE,
    name TEXT NOT NULL UNIQUE CHECK (name <> ''),
    days INTEGER NOT NULL CHECK (days BETWEEN 0 AND 365)
) STRICT;
ALTER TABLE material ADD COLUMN supplier_id TEXT NOT NULL DEFAULT '';
ALTER TABLE material ADD COLUMN pack INTEGER NOT NULL DEFAULT 0 CHECK (pack >= 0);
ALTER TABLE material ADD COLUMN keep_at_least INTEGER NOT NULL DEFAULT 0 CHECK (keep_at_least >= 0);

-- what was ordered from a supplier; a line that is outstanding is a delivery to come
CREATE TABLE purchase (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    supplier_id TEXT NOT NULL REFERENCES supplier (id),
    version INTEGER NOT NULL CHECK (version > 0),
    body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

CREATE TABLE touch (
    n INTEGER NOT NULL REFERENCES journal (n) DEFERRABLE INITIALLY DEFERRED,
    thing TEXT NOT NULL CHECK (thing IN ('order', 'lot', 'clock', 'page', 'revision', 'draft', 'colourway', 'material', 'place', 'drying class', 'equipment',
        'stock', 'decided', 'purchase')),
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
DROP TABLE purchase;
ALTER TABLE material DROP COLUMN keep_at_least;
ALTER TABLE material DROP COLUMN pack;
ALTER TABLE material DROP COLUMN supplier_id;
DROP TABLE supplier;
DROP TABLE decided_lot;
ALTER TABLE task DROP COLUMN weighed;
ALTER TABLE stock_lot DROP COLUMN kept;
ALTER TABLE stock_lot DROP COLUMN place;
