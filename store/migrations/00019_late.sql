-- What comes to a round after its end is kept at once; the round is judged anew once nothing more comes. late_at is when something came that is
-- not judged yet.

-- +goose Up
ALTER TABLE runs ADD COLUMN late_at timestamptz;
CREATE INDEX runs_late ON runs (late_at) WHERE late_at IS NOT NULL;

-- +goose Down
DROP INDEX runs_late;
ALTER TABLE runs DROP COLUMN late_at;
