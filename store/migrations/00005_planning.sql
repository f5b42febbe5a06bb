-- +goose Up

-- what the lead has decided of lots that are not begun, of how many lots a group is, and of
-- single tasks: as she wishes, and as it is accepted; null where she has not, or has let it go
CREATE TABLE wish (
    thing TEXT NOT NULL CHECK (thing IN ('decided', 'divided', 'pin')),
    id TEXT NOT NULL,
    wished TEXT NOT NULL CHECK (json_valid(wished)),
    accepted TEXT NOT NULL CHECK (json_valid(accepted)),
    PRIMARY KEY (thing, id)
) STRICT;
INSERT INTO wish SELECT 'decided', id, wished, accepted FROM decided_lot;
INSERT INTO wish SELECT 'pin', json_extract(pin.value, '$.task'), pin.value, pin.value FROM studio, json_each(studio.equipment, '$.pins') AS pin;
DROP TABLE decided_lot;

-- versions of the plan in force may be written within the command that makes them
CREATE TABLE version (
    version INTEGER PRIMARY KEY,
    base INTEGER NOT NULL UNIQUE REFERENCES journal (n) DEFERRABLE INITIALLY DEFERRED,
    body BLOB NOT NULL
) STRICT;
INSERT INTO version SELECT version, base, body FROM plan_version;
DROP TABLE plan_version;
ALTER TABLE version RENAME TO plan_version;

-- plans that were searched for, or gone back to, and that await the lead's word
CREATE TABLE offered_plan (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    base INTEGER NOT NULL REFERENCES journal (n),
    how TEXT NOT NULL CHECK (how IN ('searched', 'anew', 'earlier')),
    steps INTEGER NOT NULL CHECK (steps >= 0),
    body BLOB NOT NULL
) STRICT;

CREATE TABLE touch (
    n INTEGER NOT NULL REFERENCES journal (n) DEFERRABLE INITIALLY DEFERRED,
    thing TEXT NOT NULL CHECK (thing IN ('order', 'lot', 'clock', 'page', 'revision', 'draft', 'colourway', 'material', 'place', 'drying class', 'equipment',
        'stock', 'decided', 'purchase', 'divided', 'pin', 'plan')),
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
DROP TABLE offered_plan;
CREATE TABLE decided_lot (
    id TEXT PRIMARY KEY,
    wished TEXT NOT NULL CHECK (json_valid(wished)),
    accepted TEXT NOT NULL CHECK (json_valid(accepted))
) STRICT;
INSERT INTO decided_lot SELECT id, wished, accepted FROM wish WHERE thing = 'decided';
DROP TABLE wish;
