-- +goose Up

-- what somebody asks for help with, and what was not as it should be, with a photo
ALTER TABLE task ADD COLUMN asks TEXT NOT NULL DEFAULT '';
ALTER TABLE task ADD COLUMN remarks TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(remarks));
CREATE INDEX task_person ON task (person_id, lot_id);

-- +goose Down
DROP INDEX task_person;
ALTER TABLE task DROP COLUMN remarks;
ALTER TABLE task DROP COLUMN asks;
