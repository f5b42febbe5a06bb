-- +goose Up
-- what was said of an order when it was asked for; plans that were promised with one
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

-- +goose Down
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
