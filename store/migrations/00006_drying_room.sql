-- +goose Up

-- what measures the air; surroundings is NULL until somebody says where it hangs, '' is the room
CREATE TABLE sensor (
    id INTEGER PRIMARY KEY,
    device TEXT NOT NULL UNIQUE CHECK (device <> ''),
    surroundings TEXT,
    refused INTEGER NOT NULL DEFAULT 0,
    refusal TEXT NOT NULL DEFAULT '',
    refused_minute INTEGER NOT NULL DEFAULT 0,
    last_minute INTEGER NOT NULL DEFAULT -1
) STRICT;

-- what a sensor sent on one day of the epoch: four bytes for each minute, as store/readings.go packs them
CREATE TABLE reading_day (
    id INTEGER PRIMARY KEY,
    sensor_id INTEGER NOT NULL REFERENCES sensor (id),
    day INTEGER NOT NULL,
    body BLOB NOT NULL CHECK (length(body) = 5760),
    UNIQUE (sensor_id, day)
) STRICT;

-- what that comes to, hour by hour
CREATE TABLE reading_hour (
    sensor_id INTEGER NOT NULL REFERENCES sensor (id),
    hour INTEGER NOT NULL,
    tenths_celsius INTEGER NOT NULL,
    humidity_per_mille INTEGER NOT NULL,
    samples INTEGER NOT NULL,
    outliers INTEGER NOT NULL,
    PRIMARY KEY (sensor_id, hour)
) STRICT, WITHOUT ROWID;

-- the air that plans reckon with, and what the lead said of it
ALTER TABLE studio ADD COLUMN air TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(air));

-- the air in which finished pieces lie
ALTER TABLE stock_lot ADD COLUMN surroundings TEXT NOT NULL DEFAULT '';

-- what was found of a lot's pieces by touch, and where they were put
ALTER TABLE lot ADD COLUMN lying TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(lying));

-- timers that somebody has started by hand and nobody has stopped
CREATE TABLE timer (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    name TEXT NOT NULL CHECK (name <> ''),
    person_id TEXT NOT NULL REFERENCES person (id),
    started_minute INTEGER NOT NULL,
    ends_minute INTEGER NOT NULL CHECK (ends_minute > started_minute)
) STRICT;

-- what was learnt and not wanted, as it stood then
CREATE TABLE refused_proposal (
    key TEXT PRIMARY KEY CHECK (key <> ''),
    body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

CREATE TABLE touch (
    n INTEGER NOT NULL REFERENCES journal (n) DEFERRABLE INITIALLY DEFERRED,
    thing TEXT NOT NULL CHECK (thing IN ('order', 'lot', 'clock', 'page', 'revision', 'draft', 'colourway', 'material', 'place', 'drying class', 'equipment',
        'stock', 'decided', 'purchase', 'divided', 'pin', 'plan', 'air', 'sensor', 'lying', 'person', 'settings', 'refusal', 'timer')),
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
ALTER TABLE lot DROP COLUMN lying;
ALTER TABLE stock_lot DROP COLUMN surroundings;
ALTER TABLE studio DROP COLUMN air;
DROP TABLE refused_proposal;
DROP TABLE timer;
DROP TABLE reading_hour;
DROP TABLE reading_day;
DROP TABLE sensor;
