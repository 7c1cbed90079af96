-- A coach who is removed takes their links along.

-- +goose Up
ALTER TABLE invitations ADD COLUMN coach_id uuid, -- NULL where that was not kept
    ADD CONSTRAINT invitations_coach_fkey FOREIGN KEY (gym_id, coach_id) REFERENCES coaches (gym_id, id) ON DELETE CASCADE;
CREATE INDEX invitations_coach ON invitations (gym_id, coach_id);
DROP INDEX invitations_gym;

-- +goose Down
CREATE INDEX invitations_gym ON invitations (gym_id);
DROP INDEX invitations_coach;
ALTER TABLE invitations DROP COLUMN coach_id;
