-- Gyms and all that belongs to one. Every table but gyms carries gym_id, and every reference within a gym goes through
-- (gym_id, id), so that a row can never point into another gym.

-- +goose Up
CREATE TABLE gyms (
    id         uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    name       text        NOT NULL CHECK (length(btrim(name)) BETWEEN 1 AND 120),
    units      text        NOT NULL DEFAULT 'metric' CHECK (units IN ('metric', 'imperial')),
    zone       text        NOT NULL DEFAULT 'UTC',
    demo       boolean     NOT NULL DEFAULT false,
    created_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE coaches (
    id            uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id        uuid        NOT NULL REFERENCES gyms (id) ON DELETE CASCADE,
    email         text        NOT NULL CHECK (email = lower(email) AND position('@' IN email) > 1),
    name          text        NOT NULL CHECK (length(btrim(name)) BETWEEN 1 AND 120),
    password_hash text        NOT NULL,
    created_at    timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id)
);
CREATE UNIQUE INDEX coaches_email ON coaches (email);

-- Sign-in sessions. The token is kept as a hash; data holds the coach it belongs to.
CREATE TABLE sessions (
    token  text PRIMARY KEY,
    data   bytea       NOT NULL,
    expiry timestamptz NOT NULL
);
CREATE INDEX sessions_expiry ON sessions (expiry);

CREATE TABLE trainees (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id      uuid        NOT NULL REFERENCES gyms (id) ON DELETE CASCADE,
    name        text        NOT NULL CHECK (length(btrim(name)) BETWEEN 1 AND 120),
    stance      text        NOT NULL CHECK (stance IN ('orthodox', 'southpaw')),
    band        text        NOT NULL CHECK (band IN ('first-timer', 'beginner', 'intermediate', 'advanced', 'expert')),
    age_band    text        NOT NULL DEFAULT 'adult' CHECK (age_band IN ('child', 'youth', 'adult', 'senior')),
    height      double precision CHECK (height BETWEEN 0.8 AND 2.4),
    reach       double precision CHECK (reach BETWEEN 0.6 AND 2.6),
    notes       text        NOT NULL DEFAULT '' CHECK (length(notes) <= 4000),
    retired_at  timestamptz,
    created_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id)
);
CREATE INDEX trainees_gym ON trainees (gym_id, name);

-- A rig's measures are a document checked by the core; version counts its changes.
CREATE TABLE rigs (
    id         uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid        NOT NULL REFERENCES gyms (id) ON DELETE CASCADE,
    name       text        NOT NULL CHECK (length(btrim(name)) BETWEEN 1 AND 120),
    kind       text        NOT NULL CHECK (kind IN ('speed')),
    doc        jsonb       NOT NULL CHECK (jsonb_typeof(doc) = 'object' AND doc ->> 'kind' = kind),
    version    integer     NOT NULL DEFAULT 1 CHECK (version >= 1),
    measured_at timestamptz NOT NULL DEFAULT now(), -- last change of a measure
    retired_at timestamptz,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id)
);
CREATE INDEX rigs_gym ON rigs (gym_id, name);

-- What measuring found out about a rig: the parameter that was fitted, its value, and how well it fits. The newest one
-- that is not undone holds; one older than rigs.measured_at is out of date.
CREATE TABLE calibrations (
    id         uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid             NOT NULL,
    rig_id     uuid             NOT NULL,
    rig_version integer         NOT NULL CHECK (rig_version >= 1),
    parameter  text             NOT NULL,
    value      double precision NOT NULL,
    residual   double precision CHECK (residual >= 0),
    evidence   jsonb            NOT NULL CHECK (jsonb_typeof(evidence) = 'object'),
    undone_at  timestamptz,
    created_at timestamptz      NOT NULL DEFAULT now(),
    FOREIGN KEY (gym_id, rig_id) REFERENCES rigs (gym_id, id) ON DELETE CASCADE
);
CREATE INDEX calibrations_rig ON calibrations (gym_id, rig_id, created_at DESC);

CREATE TABLE drills (
    id         uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid        NOT NULL REFERENCES gyms (id) ON DELETE CASCADE,
    name       text        NOT NULL CHECK (length(btrim(name)) BETWEEN 1 AND 120),
    rig_id     uuid        NOT NULL,
    trainee_id uuid        NOT NULL,
    doc        jsonb       NOT NULL CHECK (jsonb_typeof(doc) = 'object'),
    version    integer     NOT NULL DEFAULT 1 CHECK (version >= 1),
    retired_at timestamptz,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id),
    FOREIGN KEY (gym_id, rig_id) REFERENCES rigs (gym_id, id),
    FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id)
);
CREATE INDEX drills_gym ON drills (gym_id, trainee_id);

-- A run keeps the rig, the drill and the timeline it was run with: later changes to either do not rewrite the log.
CREATE TABLE runs (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id      uuid        NOT NULL REFERENCES gyms (id) ON DELETE CASCADE,
    drill_id    uuid        NOT NULL,
    rig_id      uuid        NOT NULL,
    trainee_id  uuid        NOT NULL,
    coach_id    uuid        NOT NULL,
    drill_name  text        NOT NULL,
    rig_doc     jsonb       NOT NULL CHECK (jsonb_typeof(rig_doc) = 'object'),
    drill_doc   jsonb       NOT NULL CHECK (jsonb_typeof(drill_doc) = 'object'),
    timeline    jsonb       NOT NULL CHECK (jsonb_typeof(timeline) = 'object'),
    source      text        NOT NULL CHECK (source IN ('keys', 'standin', 'device')),
    state       text        NOT NULL CHECK (state IN ('ready', 'running', 'paused', 'done', 'stopped')),
    intake_hash text        NOT NULL, -- of the key a device sends hits with
    latency_us  bigint      CHECK (latency_us BETWEEN 0 AND 1000000), -- of the device, where it was measured
    clock_us    bigint      NOT NULL DEFAULT 0 CHECK (clock_us >= 0), -- how far the run's clock is known to have come
    zero_at     timestamptz, -- wall time of the clock's zero while it runs
    zone        text        NOT NULL,
    seen_at     timestamptz NOT NULL DEFAULT now(),
    started_at  timestamptz,
    ended_at    timestamptz,
    summary     jsonb       CHECK (summary IS NULL OR jsonb_typeof(summary) = 'object'),
    created_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id),
    FOREIGN KEY (gym_id, drill_id) REFERENCES drills (gym_id, id),
    FOREIGN KEY (gym_id, rig_id) REFERENCES rigs (gym_id, id),
    FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id),
    FOREIGN KEY (gym_id, coach_id) REFERENCES coaches (gym_id, id)
);
CREATE INDEX runs_gym ON runs (gym_id, created_at DESC);
CREATE INDEX runs_trainee ON runs (gym_id, trainee_id, created_at DESC);
CREATE UNIQUE INDEX runs_intake ON runs (intake_hash);
CREATE INDEX runs_open ON runs (seen_at) WHERE state IN ('ready', 'running', 'paused');

-- Whoever captures hits names itself and numbers them; sent twice, a hit is kept once.
CREATE TABLE hits (
    gym_id uuid     NOT NULL,
    run_id uuid     NOT NULL,
    device text     NOT NULL CHECK (length(device) BETWEEN 1 AND 64),
    seq    integer  NOT NULL CHECK (seq >= 0),
    at_us  bigint   NOT NULL,
    hand   text     CHECK (hand IN ('lead', 'rear')),
    force  double precision CHECK (force >= 0),
    PRIMARY KEY (run_id, device, seq),
    FOREIGN KEY (gym_id, run_id) REFERENCES runs (gym_id, id) ON DELETE CASCADE
);

-- What the coach saw: a mark on the run's clock, captured and numbered like a hit.
CREATE TABLE marks (
    gym_id uuid     NOT NULL,
    run_id uuid     NOT NULL,
    device text     NOT NULL CHECK (length(device) BETWEEN 1 AND 64),
    seq    integer  NOT NULL CHECK (seq >= 0),
    at_us  bigint   NOT NULL,
    kind   text     NOT NULL CHECK (kind IN ('missed', 'offLine', 'wild', 'touched', 'found')),
    PRIMARY KEY (run_id, device, seq),
    FOREIGN KEY (gym_id, run_id) REFERENCES runs (gym_id, id) ON DELETE CASCADE
);

-- +goose Down
DROP TABLE marks, hits, runs, drills, calibrations, rigs, trainees, sessions, coaches, gyms;
