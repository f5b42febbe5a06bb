-- +goose Up
CREATE TABLE studio (
    id INTEGER PRIMARY KEY CHECK (id = 1),
    name TEXT NOT NULL CHECK (name <> ''),
    epoch TEXT NOT NULL,
    zone TEXT NOT NULL,
    settings TEXT NOT NULL CHECK (json_valid(settings)),
    -- a minute at which the demo's clock stands; NULL for the real time
    standing_minute INTEGER
) STRICT;

CREATE TABLE climate_hour (
    hour INTEGER PRIMARY KEY CHECK (hour BETWEEN 0 AND 23),
    tenths_celsius INTEGER NOT NULL CHECK (tenths_celsius BETWEEN -100 AND 500),
    humidity_per_mille INTEGER NOT NULL CHECK (humidity_per_mille BETWEEN 0 AND 1000)
) STRICT;

CREATE TABLE material (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    position INTEGER NOT NULL UNIQUE,
    name TEXT NOT NULL UNIQUE CHECK (name <> ''),
    unit TEXT NOT NULL CHECK (unit IN ('mg', 'µm', 'pieces')),
    wire TEXT NOT NULL DEFAULT 'null' CHECK (json_valid(wire))
) STRICT;

CREATE TABLE drying_class (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    position INTEGER NOT NULL UNIQUE,
    name TEXT NOT NULL UNIQUE CHECK (name <> ''),
    firm_minutes INTEGER NOT NULL CHECK (firm_minutes > 0),
    dry_minutes INTEGER NOT NULL CHECK (dry_minutes >= firm_minutes),
    thickness_um INTEGER NOT NULL CHECK (thickness_um > 0),
    spread_per_mille INTEGER NOT NULL CHECK (spread_per_mille BETWEEN 0 AND 1000),
    stall_humidity_per_mille INTEGER NOT NULL CHECK (stall_humidity_per_mille BETWEEN 600 AND 950)
) STRICT;

CREATE TABLE place (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    position INTEGER NOT NULL UNIQUE,
    name TEXT NOT NULL UNIQUE CHECK (name <> ''),
    slots INTEGER NOT NULL CHECK (slots > 0)
) STRICT;

CREATE TABLE person (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    position INTEGER NOT NULL UNIQUE,
    name TEXT NOT NULL UNIQUE CHECK (name <> '')
) STRICT;

CREATE TABLE person_skill (
    person_id TEXT NOT NULL REFERENCES person (id),
    position INTEGER NOT NULL,
    skill TEXT NOT NULL CHECK (skill <> ''),
    pace_hundredths INTEGER NOT NULL CHECK (pace_hundredths BETWEEN 10 AND 1000),
    PRIMARY KEY (person_id, skill)
) STRICT;

CREATE TABLE person_hours (
    person_id TEXT NOT NULL REFERENCES person (id),
    position INTEGER NOT NULL,
    -- a weekday's name, or 'break' for a break on every day
    day TEXT NOT NULL CHECK (day IN ('monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday', 'break')),
    from_minute INTEGER NOT NULL CHECK (from_minute BETWEEN 0 AND 1440),
    to_minute INTEGER NOT NULL CHECK (to_minute BETWEEN 0 AND 1440),
    CHECK (from_minute < to_minute),
    PRIMARY KEY (person_id, position)
) STRICT;

CREATE TABLE person_away (
    person_id TEXT NOT NULL REFERENCES person (id),
    day TEXT NOT NULL CHECK (day GLOB '????-??-??'),
    PRIMARY KEY (person_id, day)
) STRICT;

-- one immutable revision of a recipe; its body refers to other revisions
CREATE TABLE recipe_revision (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    position INTEGER NOT NULL UNIQUE,
    recipe_id TEXT NOT NULL CHECK (length(recipe_id) = 36),
    revision INTEGER NOT NULL CHECK (revision > 0),
    kind TEXT NOT NULL CHECK (kind IN ('mix', 'part', 'flower', 'spray')),
    name TEXT NOT NULL CHECK (name <> ''),
    body TEXT NOT NULL CHECK (json_valid(body)),
    UNIQUE (recipe_id, revision)
) STRICT;

CREATE TABLE colourway (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    position INTEGER NOT NULL UNIQUE,
    name TEXT NOT NULL UNIQUE CHECK (name <> '')
) STRICT;

CREATE TABLE colourway_slot (
    colourway_id TEXT NOT NULL REFERENCES colourway (id),
    slot TEXT NOT NULL CHECK (slot <> ''),
    mix_id TEXT NOT NULL REFERENCES recipe_revision (id),
    PRIMARY KEY (colourway_id, slot)
) STRICT;

-- the journal: one line per command, never changed
CREATE TABLE journal (
    n INTEGER PRIMARY KEY,
    at_minute INTEGER NOT NULL,
    person_id TEXT REFERENCES person (id),
    command_id TEXT NOT NULL UNIQUE CHECK (length(command_id) = 36),
    kind TEXT NOT NULL CHECK (kind <> ''),
    summary TEXT NOT NULL,
    answer TEXT NOT NULL CHECK (json_valid(answer)),
    undoes INTEGER UNIQUE REFERENCES journal (n)
) STRICT;

-- what a command touched, before and after
CREATE TABLE journal_touch (
    n INTEGER NOT NULL REFERENCES journal (n) DEFERRABLE INITIALLY DEFERRED,
    thing TEXT NOT NULL CHECK (thing IN ('order', 'lot', 'clock')),
    id TEXT NOT NULL,
    before TEXT NOT NULL CHECK (json_valid(before)),
    after TEXT NOT NULL CHECK (json_valid(after)),
    PRIMARY KEY (n, thing, id)
) STRICT;
CREATE INDEX journal_touch_thing ON journal_touch (thing, id, n);

-- an order is its versions: the latest is the lead's wish, the accepted one is
-- what the plan in force is made for
CREATE TABLE customer_order (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    version INTEGER NOT NULL CHECK (version > 0),
    accepted_version INTEGER,
    FOREIGN KEY (id, version) REFERENCES order_version (order_id, version) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (id, accepted_version) REFERENCES order_version (order_id, version) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE order_version (
    order_id TEXT NOT NULL REFERENCES customer_order (id) DEFERRABLE INITIALLY DEFERRED,
    version INTEGER NOT NULL CHECK (version > 0),
    name TEXT NOT NULL CHECK (name <> ''),
    occasion TEXT NOT NULL,
    leaves TEXT NOT NULL CHECK (leaves GLOB '????-??-??T??:??'),
    leaving TEXT NOT NULL,
    importance INTEGER NOT NULL CHECK (importance BETWEEN 1 AND 100),
    allergies TEXT NOT NULL CHECK (json_valid(allergies)),
    state TEXT NOT NULL CHECK (state IN ('open', 'quote', 'cancelled', 'left')),
    PRIMARY KEY (order_id, version)
) STRICT;

CREATE TABLE order_line (
    order_id TEXT NOT NULL,
    version INTEGER NOT NULL,
    position INTEGER NOT NULL,
    id TEXT NOT NULL CHECK (length(id) = 36),
    recipe_id TEXT NOT NULL REFERENCES recipe_revision (id),
    colourway_id TEXT NOT NULL REFERENCES colourway (id),
    quantity INTEGER NOT NULL CHECK (quantity > 0),
    service_per_mille INTEGER NOT NULL CHECK (service_per_mille BETWEEN 500 AND 999),
    PRIMARY KEY (order_id, version, position),
    UNIQUE (order_id, version, id),
    FOREIGN KEY (order_id, version) REFERENCES order_version (order_id, version) DEFERRABLE INITIALLY DEFERRED
) STRICT;

-- a lot becomes a row once somebody begins it
CREATE TABLE lot (
    id TEXT PRIMARY KEY,
    gather_key TEXT NOT NULL,
    recipe_id TEXT NOT NULL REFERENCES recipe_revision (id),
    mixes TEXT NOT NULL CHECK (json_valid(mixes)),
    ordinal INTEGER NOT NULL CHECK (ordinal > 0),
    need INTEGER NOT NULL CHECK (need >= 0),
    started INTEGER NOT NULL CHECK (started >= need AND started > 0),
    UNIQUE (gather_key, ordinal)
) STRICT;

CREATE TABLE task (
    lot_id TEXT NOT NULL REFERENCES lot (id),
    position INTEGER NOT NULL,
    step TEXT NOT NULL CHECK (step <> ''),
    state TEXT NOT NULL CHECK (state IN ('started', 'paused', 'done')),
    person_id TEXT NOT NULL REFERENCES person (id),
    start_minute INTEGER NOT NULL,
    end_minute INTEGER NOT NULL,
    good INTEGER NOT NULL CHECK (good >= 0),
    second INTEGER NOT NULL CHECK (second >= 0),
    broken INTEGER NOT NULL CHECK (broken >= 0),
    PRIMARY KEY (lot_id, step),
    CHECK (state <> 'done' OR end_minute >= start_minute)
) STRICT;
CREATE UNIQUE INDEX one_task_at_a_time ON task (person_id) WHERE state = 'started';

-- finished pieces, or milligrams of a mix; how many there are is the ledger's word
CREATE TABLE stock_lot (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    recipe_id TEXT NOT NULL REFERENCES recipe_revision (id),
    mixes TEXT NOT NULL CHECK (json_valid(mixes)),
    quality TEXT NOT NULL CHECK (quality IN ('good', 'second')),
    made_minute INTEGER NOT NULL,
    use_by_minute INTEGER,
    lot_id TEXT REFERENCES lot (id),
    UNIQUE (lot_id, quality)
) STRICT;

-- the ledger: every movement of stock or material, never changed
CREATE TABLE ledger (
    id INTEGER PRIMARY KEY,
    n INTEGER NOT NULL REFERENCES journal (n) DEFERRABLE INITIALLY DEFERRED,
    stock_lot_id TEXT REFERENCES stock_lot (id),
    material_id TEXT REFERENCES material (id),
    movement TEXT NOT NULL CHECK (movement IN ('bought', 'made', 'used', 'spoilt', 'counted', 'corrected')),
    amount INTEGER NOT NULL CHECK (amount <> 0),
    CHECK ((stock_lot_id IS NULL) <> (material_id IS NULL))
) STRICT;
CREATE INDEX ledger_stock ON ledger (stock_lot_id);
CREATE INDEX ledger_material ON ledger (material_id);
CREATE INDEX ledger_n ON ledger (n);

-- immutable versions of the plan in force; base is the journal number each was made at
CREATE TABLE plan_version (
    version INTEGER PRIMARY KEY,
    base INTEGER NOT NULL UNIQUE REFERENCES journal (n),
    body BLOB NOT NULL
) STRICT;

-- +goose StatementBegin
CREATE TRIGGER journal_keeps_lines BEFORE UPDATE ON journal BEGIN SELECT RAISE(ABORT, 'the journal is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER journal_loses_no_line BEFORE DELETE ON journal BEGIN SELECT RAISE(ABORT, 'the journal is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER ledger_keeps_lines BEFORE UPDATE ON ledger BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER ledger_loses_no_line BEFORE DELETE ON ledger BEGIN SELECT RAISE(ABORT, 'the ledger is append-only'); END;
-- +goose StatementEnd

-- +goose Down
DROP TABLE plan_version;
DROP TABLE ledger;
DROP TABLE stock_lot;
DROP TABLE task;
DROP TABLE lot;
DROP TABLE order_line;
DROP TABLE order_version;
DROP TABLE customer_order;
DROP TABLE journal_touch;
DROP TABLE journal;
DROP TABLE colourway_slot;
DROP TABLE colourway;
DROP TABLE recipe_revision;
DROP TABLE person_away;
DROP TABLE person_hours;
DROP TABLE person_skill;
DROP TABLE person;
DROP TABLE place;
DROP TABLE drying_class;
DROP TABLE material;
DROP TABLE climate_hour;
DROP TABLE studio;
