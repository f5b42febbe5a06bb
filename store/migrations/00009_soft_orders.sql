-- +goose Up

-- what a studio was set to before there was a choice
UPDATE studio SET settings = json_set(settings, '$.sparesFor', 'service')
WHERE json_extract(settings, '$.sparesFor') IS NULL;

-- a line of what has colours of its own needs no colourway
CREATE TABLE order_line_uncoloured (
    order_id TEXT NOT NULL,
    version INTEGER NOT NULL,
    position INTEGER NOT NULL,
    id TEXT NOT NULL CHECK (length(id) = 36),
    recipe_id TEXT NOT NULL REFERENCES recipe_revision (id),
    colourway_id TEXT REFERENCES colourway (id),
    quantity INTEGER NOT NULL CHECK (quantity > 0),
    service_per_mille INTEGER NOT NULL CHECK (service_per_mille BETWEEN 500 AND 999),
    variant TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (order_id, version, position),
    UNIQUE (order_id, version, id),
    FOREIGN KEY (order_id, version) REFERENCES order_version (order_id, version) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO order_line_uncoloured
SELECT order_id, version, position, id, recipe_id, colourway_id, quantity, service_per_mille, variant FROM order_line;
DROP TABLE order_line;
ALTER TABLE order_line_uncoloured RENAME TO order_line;

-- +goose Down
UPDATE studio SET settings = json_remove(settings, '$.sparesFor');
