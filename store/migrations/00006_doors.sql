-- Sign-ins that can be ended everywhere at once, coaches that can be removed while their rounds stay, addresses no longer than can be
-- signed in with.

-- +goose Up
ALTER TABLE coaches
    ADD COLUMN epoch integer NOT NULL DEFAULT 0, -- sign-ins of an earlier one have ended
    ADD CONSTRAINT coaches_email_length CHECK (length(email) <= 254);

ALTER TABLE runs
    ALTER COLUMN coach_id DROP NOT NULL,
    DROP CONSTRAINT runs_gym_id_coach_id_fkey,
    ADD CONSTRAINT runs_gym_id_coach_id_fkey FOREIGN KEY (gym_id, coach_id) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (coach_id);

-- +goose Down
-- The older release needs a coach of every run: the oldest of the gym takes those of one who was removed.
UPDATE runs SET coach_id = (SELECT id FROM coaches c WHERE c.gym_id = runs.gym_id ORDER BY c.created_at, c.id LIMIT 1) WHERE coach_id IS NULL;
DELETE FROM runs WHERE coach_id IS NULL; -- of a gym that nobody can sign in to
ALTER TABLE runs
    DROP CONSTRAINT runs_gym_id_coach_id_fkey,
    ADD CONSTRAINT runs_gym_id_coach_id_fkey FOREIGN KEY (gym_id, coach_id) REFERENCES coaches (gym_id, id),
    ALTER COLUMN coach_id SET NOT NULL;
ALTER TABLE coaches DROP COLUMN epoch, DROP CONSTRAINT coaches_email_length;
