-- How long it is from the last press to the bell is the gym's to say.

-- +goose Up
ALTER TABLE gyms ADD COLUMN get_ready real NOT NULL DEFAULT 10 CHECK (get_ready BETWEEN 3 AND 30); -- s

-- +goose Down
ALTER TABLE gyms DROP COLUMN get_ready;
