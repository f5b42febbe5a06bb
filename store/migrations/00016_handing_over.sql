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

-- +goose Down
DROP TABLE packing;
DROP TABLE client;
ALTER TABLE order_version DROP COLUMN beyond;
