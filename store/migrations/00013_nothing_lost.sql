-- Two who change the same person or the gym's settings at once are told of each other, as with bags and drills; and a gym's coaches bring in
-- others by a link.

-- +goose Up
ALTER TABLE trainees ADD COLUMN version integer NOT NULL DEFAULT 1 CHECK (version >= 1);
ALTER TABLE gyms ADD COLUMN version integer NOT NULL DEFAULT 1 CHECK (version >= 1);

-- The link's secret is known to whoever has it alone: what is kept is its hash (SHA-256).
CREATE TABLE invitations (
    id         uuid        PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid        NOT NULL REFERENCES gyms ON DELETE CASCADE,
    secret     bytea       NOT NULL UNIQUE CHECK (octet_length(secret) = 32),
    for_whom   text        NOT NULL DEFAULT '' CHECK (char_length(for_whom) <= 120),
    invited_by text        NOT NULL CHECK (char_length(invited_by) <= 120),
    expires_at timestamptz NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX invitations_gym ON invitations (gym_id);
ALTER TABLE invitations ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_the_gym ON invitations USING ((SELECT current_setting('melodromos.gym', true) = '*') OR gym_id = (SELECT CASE WHEN gym ~ '^[0-9a-f-]{36}$' THEN gym::uuid END FROM current_setting('melodromos.gym', true) gym));

-- +goose Down
DROP TABLE invitations;
ALTER TABLE gyms DROP COLUMN version;
ALTER TABLE trainees DROP COLUMN version;
