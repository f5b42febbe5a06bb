-- +goose Up
-- what was said of an order when it was asked for; plans that were promised with one; scenes
ALTER TABLE order_version ADD COLUMN quoted TEXT NOT NULL DEFAULT 'null' CHECK (json_valid(quoted));

CREATE TABLE offer (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    base INTEGER NOT NULL REFERENCES journal (n),
    how TEXT NOT NULL CHECK (how IN ('searched', 'anew', 'earlier', 'promised')),
    steps INTEGER NOT NULL CHECK (steps >= 0),
    body BLOB NOT NULL
) STRICT;
INSERT INTO offer SELECT id, base, how, steps, body FROM offered_plan;
DROP TABLE offered_plan;
ALTER TABLE offer RENAME TO offered_plan;

-- a studio as it would be, by name: changes that are tried beside its plan
CREATE TABLE scene (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    version INTEGER NOT NULL CHECK (version > 0),
    name TEXT NOT NULL CHECK (name <> ''),
    changes TEXT NOT NULL CHECK (json_valid(changes))
) STRICT;

-- +goose Down
DROP TABLE scene;
CREATE TABLE offer (
    id TEXT PRIMARY KEY CHECK (length(id) = 36),
    base INTEGER NOT NULL REFERENCES journal (n),
    how TEXT NOT NULL CHECK (how IN ('searched', 'anew', 'earlier')),
    steps INTEGER NOT NULL CHECK (steps >= 0),
    body BLOB NOT NULL
) STRICT;
INSERT INTO offer SELECT id, base, how, steps, body FROM offered_plan WHERE how <> 'promised';
DROP TABLE offered_plan;
ALTER TABLE offer RENAME TO offered_plan;
ALTER TABLE order_version DROP COLUMN quoted;
