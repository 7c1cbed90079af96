-- What people can do and where they stand: findings of tests and rounds, cautions until lifted, decisions on what comes next, and
-- how their weeks build up.

-- +goose Up
ALTER TABLE trainees
    ADD COLUMN dominant text NOT NULL DEFAULT '' CHECK (dominant IN ('', 'left', 'right')),
    ADD COLUMN weak     text NOT NULL DEFAULT '' CHECK (weak IN ('', 'lead', 'rear')),
    ADD COLUMN goals    text NOT NULL DEFAULT '' CHECK (length(goals) <= 4000),
    ADD COLUMN sport    text NOT NULL DEFAULT 'boxing' CHECK (sport IN ('boxing', 'kicking')),
    ADD COLUMN school   text NOT NULL DEFAULT '' CHECK (school IN ('', 'fistRoll')),
    ADD COLUMN weeks_from   date,
    ADD COLUMN weeks_days   text NOT NULL DEFAULT '2,4' CHECK (weeks_days ~ '^([0-6](,[0-6])*)?$'), -- 0 is Sunday
    ADD COLUMN weeks_rounds integer NOT NULL DEFAULT 4 CHECK (weeks_rounds BETWEEN 1 AND 12),
    ADD COLUMN weeks_most   integer NOT NULL DEFAULT 8 CHECK (weeks_most BETWEEN weeks_rounds AND 15);

ALTER TABLE gyms
    ADD COLUMN gate_clean  double precision NOT NULL DEFAULT 0.8 CHECK (gate_clean BETWEEN 0.3 AND 1),
    ADD COLUMN gate_run    integer NOT NULL DEFAULT 10 CHECK (gate_run BETWEEN 1 AND 200),
    ADD COLUMN gate_rounds integer NOT NULL DEFAULT 2 CHECK (gate_rounds BETWEEN 1 AND 10);

-- The rung of a ladder that a drill was made for; a run keeps it.
ALTER TABLE drills ADD COLUMN rung text NOT NULL DEFAULT '' CHECK (length(rung) <= 60);
ALTER TABLE runs ADD COLUMN rung text NOT NULL DEFAULT '' CHECK (length(rung) <= 60);
CREATE INDEX runs_rung ON runs (gym_id, trainee_id, created_at) WHERE started_at IS NOT NULL;

-- One figure found out about somebody. Those of a run are replaced when it is judged anew.
CREATE TABLE findings (
    id         uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid             NOT NULL,
    trainee_id uuid             NOT NULL,
    run_id     uuid,
    figure     text             NOT NULL,
    bag_kind   text             NOT NULL DEFAULT '' CHECK (bag_kind IN ('', 'speed', 'doubleEnd', 'reflex', 'slip', 'hanging')),
    value      double precision NOT NULL,
    spread     double precision NOT NULL CHECK (spread >= 0),
    origin     text             NOT NULL CHECK (origin IN ('stated', 'tested', 'rounds')),
    bound      boolean          NOT NULL DEFAULT false, -- the figure is no smaller than this
    note       text             NOT NULL DEFAULT '' CHECK (length(note) <= 400),
    found_at   timestamptz      NOT NULL,
    created_at timestamptz      NOT NULL DEFAULT now(),
    FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id) ON DELETE CASCADE,
    FOREIGN KEY (gym_id, run_id) REFERENCES runs (gym_id, id) ON DELETE CASCADE,
    UNIQUE (run_id, figure)
);
CREATE INDEX findings_trainee ON findings (gym_id, trainee_id, found_at DESC);

-- What somebody has to be spared until it is lifted, and by whom.
CREATE TABLE cautions (
    id         uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid        NOT NULL,
    trainee_id uuid        NOT NULL,
    kind       text        NOT NULL CHECK (kind IN ('wrist', 'shoulder', 'head')),
    note       text        NOT NULL DEFAULT '' CHECK (length(note) <= 400),
    set_by     text        NOT NULL,
    lifted_by  text        NOT NULL DEFAULT '' CHECK (length(lifted_by) <= 120),
    lifted_at  timestamptz,
    created_at timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id) ON DELETE CASCADE,
    CHECK ((lifted_at IS NULL) = (lifted_by = ''))
);
CREATE INDEX cautions_trainee ON cautions (gym_id, trainee_id, created_at DESC);

-- What a coach did with what was proposed.
CREATE TABLE decisions (
    id         uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid        NOT NULL,
    trainee_id uuid        NOT NULL,
    bag_kind   text        NOT NULL CHECK (bag_kind IN ('speed', 'doubleEnd', 'reflex', 'slip', 'hanging')),
    rung       text        NOT NULL CHECK (length(rung) BETWEEN 1 AND 60),
    choice     text        NOT NULL CHECK (choice IN ('accept', 'change', 'hold', 'goOn', 'skip')),
    reason     text        NOT NULL DEFAULT '' CHECK (length(reason) <= 400),
    coach      text        NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id) ON DELETE CASCADE
);
CREATE INDEX decisions_trainee ON decisions (gym_id, trainee_id, created_at);

-- +goose Down
DROP TABLE decisions;
DROP TABLE cautions;
DROP TABLE findings;
DROP INDEX runs_rung;
ALTER TABLE runs DROP COLUMN rung;
ALTER TABLE drills DROP COLUMN rung;
ALTER TABLE gyms DROP COLUMN gate_clean, DROP COLUMN gate_run, DROP COLUMN gate_rounds;
ALTER TABLE trainees
    DROP COLUMN dominant, DROP COLUMN weak, DROP COLUMN goals, DROP COLUMN sport, DROP COLUMN school,
    DROP COLUMN weeks_from, DROP COLUMN weeks_days, DROP COLUMN weeks_rounds, DROP COLUMN weeks_most;
