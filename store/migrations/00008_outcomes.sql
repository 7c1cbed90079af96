-- What became of a round in columns; its timeline in a table of its own, which is read only when the round is opened. A round's state is
-- tied to its times.

-- +goose Up
CREATE TABLE timelines (
    run_id uuid PRIMARY KEY,
    gym_id uuid  NOT NULL,
    doc    jsonb NOT NULL CHECK (jsonb_typeof(doc) = 'object'),
    FOREIGN KEY (gym_id, run_id) REFERENCES runs (gym_id, id) ON DELETE CASCADE
);
INSERT INTO timelines (run_id, gym_id, doc) SELECT id, gym_id, timeline FROM runs;
ALTER TABLE runs DROP COLUMN timeline;

CREATE TABLE outcomes (
    run_id    uuid PRIMARY KEY,
    gym_id    uuid             NOT NULL,
    headline  text             NOT NULL CHECK (length(headline) <= 400),
    planned   integer          NOT NULL CHECK (planned >= 0), -- strikes; of a slip bag where nothing is struck, passes
    hits      integer          NOT NULL CHECK (hits >= 0),
    clean     integer          NOT NULL CHECK (clean >= 0),
    missed    integer          CHECK (missed >= 0), -- null in rounds of older releases, as are the other two
    extra     integer          CHECK (extra >= 0),
    offset_s  double precision,                     -- s, taken off before judging
    longest   integer          NOT NULL CHECK (longest >= 0), -- in a row
    passes    integer          NOT NULL DEFAULT 0 CHECK (passes >= 0),
    share     double precision NOT NULL CHECK (share BETWEEN 0 AND 1),
    give      double precision NOT NULL DEFAULT 0 CHECK (give >= 0), -- by which an estimated share may be off
    tempo     double precision CHECK (tempo > 0), -- strikes a minute that were held, and that were asked
    asked     double precision CHECK (asked > 0),
    counts    boolean          NOT NULL, -- it moves what is known of somebody, and the ladder
    judged    boolean          NOT NULL,
    wild      boolean          NOT NULL,
    -- What the round tells of the bag: all or none.
    rig_parameter text,
    rig_value     double precision,
    rig_spread    double precision CHECK (rig_spread >= 0),
    rig_steps     integer          CHECK (rig_steps > 0),
    judged_at timestamptz      NOT NULL DEFAULT now(),
    CHECK (num_nulls(rig_parameter, rig_value, rig_spread, rig_steps) IN (0, 4)),
    FOREIGN KEY (gym_id, run_id) REFERENCES runs (gym_id, id) ON DELETE CASCADE
);
INSERT INTO outcomes (run_id, gym_id, headline, planned, hits, clean, longest, passes, share, give, tempo, asked, counts, judged, wild, rig_parameter, rig_value, rig_spread, rig_steps, judged_at)
SELECT id, gym_id, coalesce(summary ->> 'headline', ''), coalesce((summary ->> 'planned')::int, 0), coalesce((summary ->> 'hits')::int, 0), coalesce((summary ->> 'clean')::int, 0),
       coalesce((summary ->> 'longest')::int, 0), coalesce((summary ->> 'passes')::int, 0), least(1, greatest(0, coalesce((summary ->> 'share')::float8, 0))), coalesce((summary ->> 'give')::float8, 0),
       nullif((summary ->> 'tempo')::float8, 0), nullif((summary ->> 'asked')::float8, 0), coalesce((summary ->> 'counts')::boolean, false), NOT coalesce((summary ->> 'unjudged')::boolean, false),
       coalesce((summary ->> 'wild')::boolean, false), summary -> 'rig' ->> 'parameter', (summary -> 'rig' ->> 'value')::float8, (summary -> 'rig' ->> 'spread')::float8, (summary -> 'rig' ->> 'steps')::int,
       coalesce(ended_at, created_at)
FROM runs WHERE summary IS NOT NULL;
ALTER TABLE runs DROP COLUMN summary;
CREATE INDEX outcomes_rig ON outcomes (gym_id, run_id) WHERE rig_parameter IS NOT NULL;

-- What earlier releases let pass.
UPDATE runs SET zero_at = NULL WHERE state <> 'running';
UPDATE runs SET state = 'paused' WHERE state = 'running' AND zero_at IS NULL;
UPDATE runs SET state = 'stopped', ending = 'stopped' WHERE state IN ('done', 'paused', 'running') AND started_at IS NULL;
UPDATE runs SET zero_at = NULL WHERE state <> 'running';
UPDATE runs SET ended_at = NULL, ending = '' WHERE state NOT IN ('done', 'stopped');
UPDATE runs SET ended_at = seen_at WHERE state IN ('done', 'stopped') AND ended_at IS NULL;
UPDATE runs SET ending = 'bell' WHERE state = 'done';
UPDATE runs SET ending = 'stopped' WHERE state = 'stopped' AND ending NOT IN ('stopped', 'vanished');
UPDATE runs SET started_at = NULL WHERE state = 'ready';
ALTER TABLE runs
    ADD CONSTRAINT runs_over CHECK ((state IN ('done', 'stopped')) = (ended_at IS NOT NULL) AND (state IN ('done', 'stopped')) = (ending <> '')),
    ADD CONSTRAINT runs_bell CHECK ((state = 'done') = (ending = 'bell')),
    ADD CONSTRAINT runs_clock CHECK ((state = 'running') = (zero_at IS NOT NULL)),
    ADD CONSTRAINT runs_started CHECK (CASE state WHEN 'ready' THEN started_at IS NULL WHEN 'stopped' THEN true ELSE started_at IS NOT NULL END);

-- +goose Down
ALTER TABLE runs DROP CONSTRAINT runs_over, DROP CONSTRAINT runs_bell, DROP CONSTRAINT runs_clock, DROP CONSTRAINT runs_started,
    ADD COLUMN summary jsonb CHECK (summary IS NULL OR jsonb_typeof(summary) = 'object'),
    ADD COLUMN timeline jsonb;
UPDATE runs r SET timeline = t.doc FROM timelines t WHERE t.run_id = r.id;
UPDATE runs SET timeline = '{}' WHERE timeline IS NULL; -- of somebody who was erased
ALTER TABLE runs ALTER COLUMN timeline SET NOT NULL, ADD CONSTRAINT runs_timeline_check CHECK (jsonb_typeof(timeline) = 'object');
UPDATE runs r SET summary = jsonb_strip_nulls(jsonb_build_object(
    'headline', o.headline, 'planned', o.planned, 'hits', o.hits, 'clean', o.clean, 'longest', o.longest, 'share', o.share, 'give', nullif(o.give, 0), 'counts', o.counts,
    'unjudged', CASE WHEN o.judged THEN NULL ELSE true END, 'wild', nullif(o.wild, false), 'passes', nullif(o.passes, 0), 'tempo', o.tempo, 'asked', o.asked,
    'rig', CASE WHEN o.rig_parameter IS NOT NULL THEN jsonb_build_object('parameter', o.rig_parameter, 'value', o.rig_value, 'spread', o.rig_spread, 'steps', o.rig_steps) END))
FROM outcomes o WHERE o.run_id = r.id;
DROP TABLE outcomes, timelines;
