-- What a gym trains and how it calls: kicks, knees and elbows or not, punches by numbers or names, slips by lead and rear or by
-- inside and outside.

-- +goose Up
ALTER TABLE gyms
    ADD COLUMN kicks boolean NOT NULL DEFAULT false,
    ADD COLUMN punch_names text NOT NULL DEFAULT 'numbers' CHECK (punch_names IN ('numbers', 'names')),
    ADD COLUMN slip_names text NOT NULL DEFAULT 'sides' CHECK (slip_names IN ('sides', 'inside'));

-- +goose Down
ALTER TABLE gyms DROP COLUMN kicks, DROP COLUMN punch_names, DROP COLUMN slip_names;
