-- +goose Up
-- where an order goes, when the cake is eaten and what its flowers go on; who asked for it, apart from its versions and
-- the journal, so that they can be forgotten; how it was packed and handed over
ALTER TABLE order_version ADD COLUMN beyond TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(beyond));

CREATE TABLE client (
    order_id TEXT PRIMARY KEY REFERENCES customer_order (id),
    name TEXT NOT NULL CHECK (name <> ''),
    contact TEXT NOT NULL
) STRICT;

CREATE TABLE packing (
    order_id TEXT PRIMARY KEY REFERENCES customer_order (id),
    version INTEGER NOT NULL CHECK (version > 0),
    body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

-- keys of calendars open one each
CREATE TABLE access_key_of (
  id TEXT PRIMARY KEY,
  secret TEXT NOT NULL UNIQUE, -- sha256
  purpose TEXT NOT NULL CHECK (purpose IN ('sensor', 'reader', 'calendar')),
  opens TEXT NOT NULL DEFAULT '', -- of a calendar: which
  name TEXT NOT NULL,
  made INTEGER NOT NULL,
  seen INTEGER NOT NULL DEFAULT 0
) WITHOUT ROWID;
INSERT INTO access_key_of SELECT id, secret, purpose, '', name, made, seen FROM access_key;
DROP TABLE access_key;
ALTER TABLE access_key_of RENAME TO access_key;

-- +goose Down
CREATE TABLE access_key_was (
  id TEXT PRIMARY KEY,
  secret TEXT NOT NULL UNIQUE, -- sha256
  purpose TEXT NOT NULL CHECK (purpose IN ('sensor', 'reader')),
  name TEXT NOT NULL,
  made INTEGER NOT NULL,
  seen INTEGER NOT NULL DEFAULT 0
) WITHOUT ROWID;
INSERT INTO access_key_was SELECT id, secret, purpose, name, made, seen FROM access_key WHERE purpose <> 'calendar';
DROP TABLE access_key;
ALTER TABLE access_key_was RENAME TO access_key;
DROP TABLE packing;
DROP TABLE client;
ALTER TABLE order_version DROP COLUMN beyond;
