-- +goose Up
-- what of a workshop is not offered any more; of people and equipment their bodies say it
ALTER TABLE material ADD COLUMN out_of_use INTEGER NOT NULL DEFAULT 0 CHECK (out_of_use IN (0, 1));
ALTER TABLE place ADD COLUMN out_of_use INTEGER NOT NULL DEFAULT 0 CHECK (out_of_use IN (0, 1));
ALTER TABLE supplier ADD COLUMN out_of_use INTEGER NOT NULL DEFAULT 0 CHECK (out_of_use IN (0, 1));

-- +goose Down
ALTER TABLE supplier DROP COLUMN out_of_use;
ALTER TABLE place DROP COLUMN out_of_use;
ALTER TABLE material DROP COLUMN out_of_use;
