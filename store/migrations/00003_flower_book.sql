-- +goose Up
ALTER TABLE material ADD COLUMN form TEXT NOT NULL DEFAULT '';
ALTER TABLE place ADD COLUMN size_um INTEGER NOT NULL DEFAULT 0 CHECK (size_um >= 0);
ALTER TABLE colourway ADD COLUMN version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0);

-- recipes that somebody is writing: not in the book, not to be ordered
CREATE TABLE recipe_draft (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    version INTEGER NOT NULL CHECK (version > 0),
    name TEXT NOT NULL,
    body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

-- photos and drawings, as they are served: encoded anew, or cleaned
CREATE TABLE picture (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    media TEXT NOT NULL CHECK (media IN ('image/png', 'image/jpeg', 'image/svg+xml')),
    body BLOB NOT NULL CHECK (length(body) > 0)
) STRICT;

CREATE TABLE touch (
    n INTEGER NOT NULL REFERENCES journal (n) DEFERRABLE INITIALLY DEFERRED,
    thing TEXT NOT NULL CHECK (thing IN ('order', 'lot', 'clock', 'page', 'revision', 'draft', 'colourway', 'material', 'place', 'drying class', 'equipment')),
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
DROP TABLE picture;
DROP TABLE recipe_draft;
ALTER TABLE colourway DROP COLUMN version;
ALTER TABLE place DROP COLUMN size_um;
ALTER TABLE material DROP COLUMN form;
