-- +goose Up

-- orders that lost slack, and what made them: body is a fall of the core
CREATE TABLE fall (
    id INTEGER PRIMARY KEY,
    at_minute INTEGER NOT NULL,
    order_id TEXT NOT NULL,
    body TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE fall;
