-- +goose Up

-- what a studio was set to before there was a choice
UPDATE studio SET settings = json_set(settings, '$.sparesFor', 'service')
WHERE json_extract(settings, '$.sparesFor') IS NULL;

-- +goose Down
UPDATE studio SET settings = json_remove(settings, '$.sparesFor');
