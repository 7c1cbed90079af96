-- Five kinds of rig, each with the place where it is mounted; heights of people in stance; what a calibration replaced; a
-- gym's own borders between slack and tight.

-- +goose Up
ALTER TABLE rigs
    DROP CONSTRAINT rigs_kind_check,
    ADD CONSTRAINT rigs_kind_check CHECK (kind IN ('speed', 'doubleEnd', 'reflex', 'slip', 'hanging')),
    ADD COLUMN place jsonb NOT NULL DEFAULT '{}' CHECK (jsonb_typeof(place) = 'object');

ALTER TABLE trainees
    ADD COLUMN eye   double precision CHECK (eye BETWEEN 0.5 AND 2.3),
    ADD COLUMN mouth double precision CHECK (mouth BETWEEN 0.5 AND 2.3),
    ADD COLUMN chin  double precision CHECK (chin BETWEEN 0.5 AND 2.3);

ALTER TABLE calibrations
    ADD COLUMN was    double precision,
    ADD COLUMN was_measured_at timestamptz, -- what rigs.measured_at was before it
    ADD COLUMN spread double precision CHECK (spread >= 0),
    ADD COLUMN method text CHECK (method IN ('taps', 'count', 'period'));
-- Of earlier ones it was not kept: undone, they leave the figure as it is.
UPDATE calibrations SET was = value, was_measured_at = created_at, method = CASE WHEN evidence ->> 'method' IN ('taps', 'period') THEN evidence ->> 'method' ELSE 'count' END;
ALTER TABLE calibrations ALTER COLUMN was SET NOT NULL, ALTER COLUMN was_measured_at SET NOT NULL, ALTER COLUMN method SET NOT NULL;

-- Times in seconds of the half-power return: above slack too slack, to head for head movement, to tight for combinations.
ALTER TABLE gyms
    ADD COLUMN border_slack double precision NOT NULL DEFAULT 0.45,
    ADD COLUMN border_head  double precision NOT NULL DEFAULT 0.32,
    ADD COLUMN border_tight double precision NOT NULL DEFAULT 0.17,
    ADD CONSTRAINT gyms_borders CHECK (0 < border_tight AND border_tight < border_head AND border_head < border_slack AND border_slack < 3);

-- +goose Down
ALTER TABLE gyms DROP COLUMN border_slack, DROP COLUMN border_head, DROP COLUMN border_tight;
ALTER TABLE calibrations DROP COLUMN was, DROP COLUMN was_measured_at, DROP COLUMN spread, DROP COLUMN method;
ALTER TABLE trainees DROP COLUMN eye, DROP COLUMN mouth, DROP COLUMN chin;
-- Other kinds of rig stay as they are: the older release refuses to read them and to take new ones.
ALTER TABLE rigs
    DROP COLUMN place,
    DROP CONSTRAINT rigs_kind_check,
    ADD CONSTRAINT rigs_kind_check CHECK (kind IN ('speed')) NOT VALID;
