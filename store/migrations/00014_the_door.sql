-- +goose Up
-- what a material costs and is to who eats or receives it; until when, on which days and how a supplier takes orders
ALTER TABLE material ADD COLUMN beyond TEXT NOT NULL DEFAULT '{}';
ALTER TABLE supplier ADD COLUMN beyond TEXT NOT NULL DEFAULT '{}';

-- +goose Down
ALTER TABLE supplier DROP COLUMN beyond;
ALTER TABLE material DROP COLUMN beyond;
