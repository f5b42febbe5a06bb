-- +goose Up

-- which version of the format a recipe was written in: what an earlier one means is lifted when it is read
ALTER TABLE recipe_revision ADD COLUMN format INTEGER NOT NULL DEFAULT 1;
ALTER TABLE recipe_draft ADD COLUMN format INTEGER NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE recipe_draft DROP COLUMN format;
ALTER TABLE recipe_revision DROP COLUMN format;
