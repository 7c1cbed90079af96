-- Sessions that a gym has laid out, the hours of its classes, and what everybody did in them.

-- +goose Up
CREATE TABLE session_plans (
    id          uuid        PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id      uuid        NOT NULL REFERENCES gyms ON DELETE CASCADE,
    name        text        NOT NULL CHECK (char_length(name) BETWEEN 1 AND 120),
    doc         jsonb       NOT NULL,
    version     integer     NOT NULL DEFAULT 1 CHECK (version >= 1),
    made_by     uuid, -- NULL where that coach has gone
    archived_at timestamptz,
    created_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id),
    FOREIGN KEY (gym_id, made_by) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (made_by)
);
CREATE INDEX session_plans_maker ON session_plans (gym_id, made_by) WHERE made_by IS NOT NULL;

-- An hour keeps its plan and, in order, all that was done to it on the floor: how it went follows from the two.
CREATE TABLE hours (
    id         uuid        PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid        NOT NULL REFERENCES gyms ON DELETE CASCADE,
    coach_id   uuid, -- NULL where that coach has gone
    name       text        NOT NULL CHECK (char_length(name) BETWEEN 1 AND 120),
    plan       jsonb       NOT NULL,
    deeds      jsonb       NOT NULL DEFAULT '[]',
    get_ready  integer     NOT NULL DEFAULT 10 CHECK (get_ready BETWEEN 0 AND 60), -- s
    state      text        NOT NULL DEFAULT 'ready' CHECK (state IN ('ready', 'running', 'paused', 'done', 'stopped')),
    ending     text        NOT NULL DEFAULT '' CHECK (ending IN ('', 'bell', 'stopped', 'vanished')),
    clock_us   bigint      NOT NULL DEFAULT 0 CHECK (clock_us >= 0),
    zero_at    timestamptz,
    seen_at    timestamptz NOT NULL DEFAULT now(),
    started_at timestamptz,
    ended_at   timestamptz,
    removed_at timestamptz, -- from the log; it can be brought back
    version    integer     NOT NULL DEFAULT 1 CHECK (version >= 1), -- of the plan
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id),
    FOREIGN KEY (gym_id, coach_id) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (coach_id)
);
CREATE INDEX hours_newest ON hours (gym_id, created_at DESC);
CREATE INDEX hours_coach ON hours (gym_id, coach_id) WHERE coach_id IS NOT NULL;

-- What somebody did in a block of an hour: on a bag, or off it.
CREATE TABLE turns (
    id            uuid        PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id        uuid        NOT NULL,
    hour_id       uuid        NOT NULL,
    lap           integer     NOT NULL,
    round         integer     NOT NULL,
    block         integer     NOT NULL,
    trainee_id    uuid        NOT NULL,
    rig_id        uuid, -- NULL off the bag
    assignment_id uuid, -- NULL where it was none of theirs, or is gone
    rung          text        NOT NULL DEFAULT '' CHECK (length(rung) <= 60),
    title         text        NOT NULL CHECK (char_length(title) <= 2000),
    seconds       integer     NOT NULL CHECK (seconds > 0),
    got           integer     NOT NULL DEFAULT 0 CHECK (got >= 0),
    failed        integer     NOT NULL DEFAULT 0 CHECK (failed >= 0),
    carried       boolean     NOT NULL DEFAULT false,
    at            timestamptz NOT NULL,
    UNIQUE (hour_id, lap, round, block, trainee_id),
    FOREIGN KEY (gym_id, hour_id) REFERENCES hours (gym_id, id) ON DELETE CASCADE,
    FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id) ON DELETE CASCADE,
    FOREIGN KEY (gym_id, rig_id) REFERENCES rigs (gym_id, id),
    FOREIGN KEY (gym_id, assignment_id) REFERENCES assignments (gym_id, id) ON DELETE SET NULL (assignment_id)
);
CREATE INDEX turns_hour ON turns (gym_id, hour_id);
CREATE INDEX turns_trainee ON turns (gym_id, trainee_id, at DESC);
CREATE INDEX turns_rig ON turns (gym_id, rig_id) WHERE rig_id IS NOT NULL;
CREATE INDEX turns_assignment ON turns (gym_id, assignment_id) WHERE assignment_id IS NOT NULL;

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['session_plans', 'hours', 'turns'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY of_the_gym ON %I USING ((SELECT current_setting(''melodromos.gym'', true) = ''*'') OR gym_id = (SELECT CASE WHEN gym ~ ''^[0-9a-f-]{36}$'' THEN gym::uuid END FROM current_setting(''melodromos.gym'', true) gym))', t);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP TABLE turns;
DROP TABLE hours;
DROP TABLE session_plans;
