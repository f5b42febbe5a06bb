-- +goose Up
-- what no station changes one by one yet: surroundings, readings, drying methods,
-- tools, machines, gates, setup families, pins, what was seen
ALTER TABLE studio ADD COLUMN equipment TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(equipment));
ALTER TABLE drying_class ADD COLUMN stiff_minutes INTEGER NOT NULL DEFAULT 1 CHECK (stiff_minutes > 0);
ALTER TABLE drying_class ADD COLUMN softens_minutes INTEGER NOT NULL DEFAULT 0 CHECK (softens_minutes >= 0);
ALTER TABLE drying_class ADD COLUMN percentile INTEGER NOT NULL DEFAULT 0 CHECK (percentile = 0 OR percentile BETWEEN 50 AND 99);
UPDATE drying_class SET stiff_minutes = dry_minutes;
ALTER TABLE place ADD COLUMN keeps_minutes INTEGER NOT NULL DEFAULT 0 CHECK (keeps_minutes >= 0);
ALTER TABLE place ADD COLUMN surroundings TEXT NOT NULL DEFAULT '';
ALTER TABLE place ADD COLUMN made_by TEXT NOT NULL DEFAULT '';
-- shifts, overtime and the colours last worked with
ALTER TABLE person ADD COLUMN beyond TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(beyond));
ALTER TABLE order_line ADD COLUMN variant TEXT NOT NULL DEFAULT '';
ALTER TABLE lot ADD COLUMN variant TEXT NOT NULL DEFAULT '';
-- of a lot that is finished from half-made pieces: the stock lot and the step reached
ALTER TABLE lot ADD COLUMN stock_lot_id TEXT NOT NULL DEFAULT '';
ALTER TABLE lot ADD COLUMN reached TEXT NOT NULL DEFAULT '';
-- a wait in a machine is a task of the machine; who set it off goes on with other work
ALTER TABLE task ADD COLUMN machine TEXT NOT NULL DEFAULT '';
ALTER TABLE task ADD COLUMN used TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(used));
DROP INDEX one_task_at_a_time;
CREATE UNIQUE INDEX one_task_at_a_time ON task (person_id) WHERE state = 'started' AND machine = '';
ALTER TABLE task ADD COLUMN mend INTEGER NOT NULL DEFAULT 0 CHECK (mend >= 0);
ALTER TABLE stock_lot ADD COLUMN variant TEXT NOT NULL DEFAULT '';
ALTER TABLE stock_lot ADD COLUMN reached TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE stock_lot DROP COLUMN reached;
ALTER TABLE stock_lot DROP COLUMN variant;
ALTER TABLE task DROP COLUMN mend;
DROP INDEX one_task_at_a_time;
CREATE UNIQUE INDEX one_task_at_a_time ON task (person_id) WHERE state = 'started';
ALTER TABLE task DROP COLUMN used;
ALTER TABLE task DROP COLUMN machine;
ALTER TABLE lot DROP COLUMN reached;
ALTER TABLE lot DROP COLUMN stock_lot_id;
ALTER TABLE lot DROP COLUMN variant;
ALTER TABLE order_line DROP COLUMN variant;
ALTER TABLE person DROP COLUMN beyond;
ALTER TABLE place DROP COLUMN made_by;
ALTER TABLE place DROP COLUMN surroundings;
ALTER TABLE place DROP COLUMN keeps_minutes;
ALTER TABLE drying_class DROP COLUMN percentile;
ALTER TABLE drying_class DROP COLUMN softens_minutes;
ALTER TABLE drying_class DROP COLUMN stiff_minutes;
ALTER TABLE studio DROP COLUMN equipment;
