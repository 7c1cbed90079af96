-- What went wrong in a round, what the coach says of it, and what was corrected; marks of what only an eye sees.

-- +goose Up
-- The faults that a round shows, as it was judged; replaced when it is judged anew.
CREATE TABLE faults (
    gym_id   uuid             NOT NULL,
    run_id   uuid             NOT NULL,
    code     text             NOT NULL CHECK (code ~ '^[a-z][A-Za-z]{2,30}$'),
    place    smallint         NOT NULL CHECK (place >= 0), -- 0 is the most costly
    cost     double precision NOT NULL CHECK (cost >= 0),  -- share of the strikes
    effect   double precision NOT NULL,
    spread   double precision NOT NULL CHECK (spread >= 0), -- standard error of the effect
    times    integer          NOT NULL CHECK (times >= 0),
    PRIMARY KEY (run_id, code),
    FOREIGN KEY (gym_id, run_id) REFERENCES runs (gym_id, id) ON DELETE CASCADE
);
CREATE INDEX faults_gym ON faults (gym_id, code);

-- What a coach says of a round, or of what somebody did in a class: counted by eye, or in a word, and a note.
CREATE TABLE ratings (
    id         uuid        PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid        NOT NULL,
    run_id     uuid UNIQUE,
    turn_id    uuid UNIQUE,
    clean      integer     CHECK (clean BETWEEN 0 AND out_of),
    out_of     integer     CHECK (out_of BETWEEN 1 AND 10000),
    word       text        NOT NULL DEFAULT '' CHECK (word IN ('', 'held', 'shaky', 'notYet')),
    note       text        NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    coach      text        NOT NULL CHECK (length(coach) <= 120), -- name, as it was
    coach_id   uuid,
    version    integer     NOT NULL DEFAULT 1 CHECK (version >= 1),
    created_at timestamptz NOT NULL DEFAULT now(),
    CHECK ((run_id IS NULL) <> (turn_id IS NULL)),
    CHECK ((clean IS NULL) = (out_of IS NULL)),
    FOREIGN KEY (gym_id, coach_id) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (coach_id),
    FOREIGN KEY (gym_id, run_id) REFERENCES runs (gym_id, id) ON DELETE CASCADE
);
ALTER TABLE turns ADD UNIQUE (gym_id, id);
ALTER TABLE ratings ADD FOREIGN KEY (gym_id, turn_id) REFERENCES turns (gym_id, id) ON DELETE CASCADE;
CREATE INDEX ratings_coach ON ratings (gym_id, coach_id) WHERE coach_id IS NOT NULL;
CREATE INDEX ratings_run ON ratings (gym_id, run_id) WHERE run_id IS NOT NULL;
CREATE INDEX ratings_turn ON ratings (gym_id, turn_id) WHERE turn_id IS NOT NULL;

-- What was changed about a judgement, with what was there before: a strike said to be something else, or the whole round
-- judged anew by another plan or delay.
CREATE TABLE corrections (
    id         uuid        PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid        NOT NULL,
    run_id     uuid        NOT NULL,
    kind       text        NOT NULL CHECK (kind IN ('strike', 'judged')),
    strike     integer     CHECK (strike >= 0),
    verdict    text        NOT NULL DEFAULT '' CHECK (verdict IN ('', 'clean', 'early', 'late', 'wrongHand', 'missed', 'harmless')),
    reason     text        NOT NULL DEFAULT '' CHECK (length(reason) <= 400),
    was        jsonb       NOT NULL DEFAULT '{}',
    coach      text        NOT NULL CHECK (length(coach) <= 120), -- name, as it was
    coach_id   uuid,
    undone_at  timestamptz,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id),
    CHECK ((kind = 'strike') = (strike IS NOT NULL)),
    FOREIGN KEY (gym_id, run_id) REFERENCES runs (gym_id, id) ON DELETE CASCADE,
    FOREIGN KEY (gym_id, coach_id) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (coach_id)
);
CREATE INDEX corrections_run ON corrections (gym_id, run_id, created_at);
CREATE INDEX corrections_coach ON corrections (gym_id, coach_id) WHERE coach_id IS NOT NULL;

ALTER TABLE marks DROP CONSTRAINT marks_kind_check, ADD CONSTRAINT marks_kind_check CHECK (kind IN ('missed', 'offLine', 'wild', 'touched', 'found', 'fistsTouched',
    'strikingDown', 'pullingStraight', 'idleHand', 'farStop', 'telegraph', 'chinUp', 'handDropped', 'feetPlanted', 'betweenTargets', 'grabbing'));

-- How long a round lasted; of older ones as long as their drill has it, where that is a time.
ALTER TABLE outcomes ADD COLUMN lasted double precision CHECK (lasted >= 0); -- s
UPDATE outcomes o SET lasted = least((r.drill_doc ->> 'work')::double precision, r.clock_us / 1e6)
FROM runs r WHERE r.id = o.run_id AND jsonb_typeof(r.drill_doc -> 'work') = 'number' AND (r.drill_doc ->> 'work')::double precision >= 0;

-- Hits can come from a table of times, after the round.
ALTER TABLE runs DROP CONSTRAINT runs_source_check, ADD CONSTRAINT runs_source_check CHECK (source IN ('keys', 'standin', 'device', 'file', 'none'));

-- The log is searched by what stands in it, and read by time.
CREATE INDEX runs_log ON runs (gym_id, created_at DESC) WHERE started_at IS NOT NULL AND removed_at IS NULL;

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['faults', 'ratings', 'corrections'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY of_the_gym ON %I USING ((SELECT current_setting(''melodromos.gym'', true) = ''*'') OR gym_id = (SELECT CASE WHEN gym ~ ''^[0-9a-f-]{36}$'' THEN gym::uuid END FROM current_setting(''melodromos.gym'', true) gym))', t);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
-- What the older release does not know goes: faults, ratings, corrections, and marks of what it has no word for. A round
-- that was judged anew stays as it was judged last.
UPDATE runs SET source = 'device' WHERE source = 'file';
ALTER TABLE runs DROP CONSTRAINT runs_source_check, ADD CONSTRAINT runs_source_check CHECK (source IN ('keys', 'standin', 'device', 'none'));
DROP TABLE corrections;
DROP TABLE ratings;
DROP TABLE faults;
DROP INDEX runs_log;
ALTER TABLE outcomes DROP COLUMN lasted;
ALTER TABLE turns DROP CONSTRAINT turns_gym_id_id_key;
DELETE FROM marks WHERE kind NOT IN ('missed', 'offLine', 'wild', 'touched', 'found');
ALTER TABLE marks DROP CONSTRAINT marks_kind_check, ADD CONSTRAINT marks_kind_check CHECK (kind IN ('missed', 'offLine', 'wild', 'touched', 'found'));
