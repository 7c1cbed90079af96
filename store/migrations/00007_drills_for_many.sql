-- Drills belong to the gym and are for a kind of bag, with force, tempo and pull left open; an assignment gives one to a person on a bag,
-- with those set. Kinds of bag stand in a table of their own. What is put away is archived.

-- +goose Up
CREATE TABLE bag_kinds (kind text PRIMARY KEY);
INSERT INTO bag_kinds VALUES ('speed'), ('doubleEnd'), ('reflex'), ('slip'), ('hanging');

ALTER TABLE trainees RENAME COLUMN retired_at TO archived_at;
ALTER TABLE rigs RENAME COLUMN retired_at TO archived_at;
ALTER TABLE rigs DROP CONSTRAINT rigs_kind_check, ADD CONSTRAINT rigs_kind_fkey FOREIGN KEY (kind) REFERENCES bag_kinds (kind);
CREATE INDEX rigs_kind ON rigs (kind);

CREATE TABLE assignments (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id      uuid        NOT NULL,
    drill_id    uuid        NOT NULL,
    trainee_id  uuid        NOT NULL,
    rig_id      uuid        NOT NULL,
    -- What the drill leaves open, and how long a round lasts where that is not the drill's own; null where the drill has it.
    tempo       double precision CHECK (tempo > 0),  -- strikes a minute
    slower      double precision CHECK (slower > 0), -- strikes a minute
    fist        double precision CHECK (fist > 0),   -- m/s
    pull        double precision CHECK (pull > 0),   -- m
    work        double precision CHECK (work > 0),   -- s
    strikes     integer     CHECK (strikes > 0),
    repetitions integer     CHECK (repetitions > 0),
    eased       text        NOT NULL DEFAULT '' CHECK (length(eased) <= 120), -- what is easier than the rung has it
    own         boolean     NOT NULL DEFAULT false,  -- the coach has set it: it is left as it is
    version     integer     NOT NULL DEFAULT 1 CHECK (version >= 1),
    given_by    uuid,
    archived_at timestamptz,
    created_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id),
    FOREIGN KEY (gym_id, drill_id) REFERENCES drills (gym_id, id),
    FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id) ON DELETE CASCADE,
    FOREIGN KEY (gym_id, rig_id) REFERENCES rigs (gym_id, id),
    FOREIGN KEY (gym_id, given_by) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (given_by)
);
CREATE INDEX assignments_drill ON assignments (gym_id, drill_id);
CREATE INDEX assignments_trainee ON assignments (gym_id, trainee_id, created_at);
CREATE INDEX assignments_rig ON assignments (gym_id, rig_id);
CREATE INDEX assignments_giver ON assignments (gym_id, given_by) WHERE given_by IS NOT NULL;

INSERT INTO assignments (id, gym_id, drill_id, trainee_id, rig_id, tempo, slower, fist, pull, own, version, archived_at, created_at)
SELECT id, gym_id, id, trainee_id, rig_id,
       nullif((doc ->> 'tempo')::double precision, 0), nullif((doc ->> 'slower')::double precision, 0), nullif((doc ->> 'fist')::double precision, 0), nullif((doc ->> 'pull')::double precision, 0),
       rung = '' OR EXISTS (SELECT FROM decisions x WHERE x.gym_id = d.gym_id AND x.trainee_id = d.trainee_id AND x.rung = d.rung AND x.choice = 'change'),
       version, retired_at, created_at
FROM drills d;

ALTER TABLE drills RENAME COLUMN retired_at TO archived_at;
ALTER TABLE drills ADD COLUMN kind text REFERENCES bag_kinds (kind), ADD COLUMN made_by uuid,
    ADD CONSTRAINT drills_made_by_fkey FOREIGN KEY (gym_id, made_by) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (made_by);
UPDATE drills d SET kind = r.kind, doc = d.doc - 'tempo' - 'slower' - 'fist' - 'pull' FROM rigs r WHERE r.gym_id = d.gym_id AND r.id = d.rig_id;
DROP INDEX drills_gym;
ALTER TABLE drills ALTER COLUMN kind SET NOT NULL, DROP COLUMN rig_id, DROP COLUMN trainee_id;
CREATE INDEX drills_gym ON drills (gym_id, kind, name);
CREATE INDEX drills_kind ON drills (kind);
CREATE INDEX drills_maker ON drills (gym_id, made_by) WHERE made_by IS NOT NULL;

ALTER TABLE runs ADD COLUMN assignment_id uuid, ADD COLUMN eased text NOT NULL DEFAULT '' CHECK (length(eased) <= 120),
    ADD CONSTRAINT runs_assignment_fkey FOREIGN KEY (gym_id, assignment_id) REFERENCES assignments (gym_id, id) ON DELETE SET NULL (assignment_id);
UPDATE runs SET assignment_id = drill_id;
CREATE INDEX runs_assignment ON runs (gym_id, assignment_id);
CREATE INDEX runs_drill ON runs (gym_id, drill_id);
CREATE INDEX runs_rig ON runs (gym_id, rig_id, created_at);
CREATE INDEX runs_coach ON runs (gym_id, coach_id);

ALTER TABLE gyms
    ADD COLUMN gate_days integer NOT NULL DEFAULT 2 CHECK (gate_days BETWEEN 1 AND 10),
    ADD COLUMN gate_a_day integer NOT NULL DEFAULT 2 CHECK (gate_a_day BETWEEN 1 AND 10);
UPDATE gyms SET gate_days = least(gate_days, gate_rounds);
ALTER TABLE gyms ADD CONSTRAINT gyms_gate_days CHECK (gate_days <= gate_rounds);

-- +goose Down
-- The older release has a drill for each person and bag: each assignment becomes one, and rounds follow theirs. A drill that nobody has is
-- not known there.
ALTER TABLE gyms DROP CONSTRAINT gyms_gate_days, DROP COLUMN gate_days, DROP COLUMN gate_a_day;
ALTER TABLE drills ADD COLUMN rig_id uuid, ADD COLUMN trainee_id uuid;
ALTER TABLE runs DROP CONSTRAINT runs_gym_id_drill_id_fkey, DROP CONSTRAINT runs_assignment_fkey;
CREATE TEMPORARY TABLE older ON COMMIT DROP AS
SELECT a.id, a.gym_id, d.name, d.kind, d.rung, a.version, greatest(a.archived_at, d.archived_at) AS archived_at, a.created_at, a.rig_id, a.trainee_id,
       d.doc || jsonb_strip_nulls(jsonb_build_object('tempo', a.tempo, 'slower', a.slower, 'fist', a.fist, 'pull', a.pull, 'work', a.work, 'strikes', a.strikes, 'repetitions', a.repetitions)) AS doc
FROM assignments a JOIN drills d ON d.gym_id = a.gym_id AND d.id = a.drill_id;
DROP TABLE assignments;
DELETE FROM drills;
INSERT INTO drills (id, gym_id, name, kind, rung, version, archived_at, created_at, rig_id, trainee_id, doc)
SELECT id, gym_id, name, kind, rung, version, archived_at, created_at, rig_id, trainee_id, doc FROM older;
UPDATE runs SET drill_id = assignment_id WHERE assignment_id IS NOT NULL;
DELETE FROM runs WHERE NOT EXISTS (SELECT FROM drills d WHERE d.gym_id = runs.gym_id AND d.id = runs.drill_id); -- of an assignment that is gone
ALTER TABLE runs DROP COLUMN assignment_id, DROP COLUMN eased,
    ADD CONSTRAINT runs_gym_id_drill_id_fkey FOREIGN KEY (gym_id, drill_id) REFERENCES drills (gym_id, id);
DROP INDEX drills_gym, drills_kind, runs_drill, runs_rig, runs_coach;
ALTER TABLE drills DROP CONSTRAINT drills_made_by_fkey, DROP COLUMN made_by, DROP COLUMN kind,
    ALTER COLUMN rig_id SET NOT NULL, ALTER COLUMN trainee_id SET NOT NULL,
    ADD FOREIGN KEY (gym_id, rig_id) REFERENCES rigs (gym_id, id), ADD FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id);
ALTER TABLE drills RENAME COLUMN archived_at TO retired_at;
CREATE INDEX drills_gym ON drills (gym_id, trainee_id);
DROP INDEX rigs_kind;
ALTER TABLE rigs DROP CONSTRAINT rigs_kind_fkey, ADD CONSTRAINT rigs_kind_check CHECK (kind IN ('speed', 'doubleEnd', 'reflex', 'slip', 'hanging'));
ALTER TABLE rigs RENAME COLUMN archived_at TO retired_at;
ALTER TABLE trainees RENAME COLUMN archived_at TO retired_at;
DROP TABLE bag_kinds;
