-- +goose Up

-- orders that lost slack, and what made them: body is a fall of the core
CREATE TABLE fall (
    id INTEGER PRIMARY KEY,
    at_minute INTEGER NOT NULL,
    order_id TEXT NOT NULL,
    body TEXT NOT NULL
) STRICT;

-- what a studio was set to before there was a choice
UPDATE studio SET settings = json_set(settings, '$.remnantMilligrams', 0, '$.sittingMinutes', 0)
WHERE json_extract(settings, '$.remnantMilligrams') IS NULL;

-- what of an order line has left already
ALTER TABLE order_line ADD COLUMN gone INTEGER NOT NULL DEFAULT 0 CHECK (gone BETWEEN 0 AND quantity);

-- +goose Down
UPDATE studio SET settings = json_remove(settings, '$.remnantMilligrams', '$.sittingMinutes');
ALTER TABLE order_line DROP COLUMN gone;
DROP TABLE fall;
