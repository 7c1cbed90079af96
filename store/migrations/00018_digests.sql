-- What proposals and predictions are made from, packed: the rounds of a person on a bag with what they showed, and what was found without a
-- bag (under the empty id). A digest is moved on in the transaction that ends a round; whatever else touches what it is made from leaves it
-- stale, and it is made anew before it is read. The log is searched by the names that stand in it: under row-level security no index of
-- PostgreSQL serves ILIKE itself, for its operator is not leakproof.

-- +goose Up
CREATE SEQUENCE digest_revisions;
CREATE TABLE digests (
    gym_id     uuid    NOT NULL,
    trainee_id uuid    NOT NULL,
    rig_id     uuid    NOT NULL,
    rev        bigint  NOT NULL DEFAULT nextval('digest_revisions'), -- another one whenever what it says is another
    stale      boolean NOT NULL DEFAULT true,
    rounds     bytea   NOT NULL DEFAULT '',
    evidence   bytea   NOT NULL DEFAULT '',
    PRIMARY KEY (gym_id, trainee_id, rig_id),
    FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id) ON DELETE CASCADE
);
CREATE INDEX digests_stale ON digests (gym_id) WHERE stale;

-- +goose StatementBegin
CREATE FUNCTION digest_is_stale(gym uuid, trainee uuid, rig uuid) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
    -- asked first: a conflict locks the row anew for each of many rows
    IF EXISTS (SELECT FROM digests d WHERE d.gym_id = gym AND d.trainee_id = trainee AND d.rig_id = rig AND d.stale)
        OR NOT EXISTS (SELECT FROM trainees t WHERE t.gym_id = gym AND t.id = trainee) THEN
        RETURN;
    END IF;
    INSERT INTO digests AS d (gym_id, trainee_id, rig_id) VALUES (gym, trainee, rig)
    ON CONFLICT (gym_id, trainee_id, rig_id) DO UPDATE SET stale = true WHERE NOT d.stale;
END $$;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE FUNCTION digest_of_run() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF OLD.trainee_id IS NOT NULL THEN
        PERFORM digest_is_stale(OLD.gym_id, OLD.trainee_id, OLD.rig_id);
    END IF;
    IF TG_OP = 'DELETE' THEN
        RETURN NULL;
    END IF;
    IF NEW.trainee_id IS NOT NULL AND (NEW.trainee_id, NEW.rig_id) IS DISTINCT FROM (OLD.trainee_id, OLD.rig_id) THEN
        PERFORM digest_is_stale(NEW.gym_id, NEW.trainee_id, NEW.rig_id);
    END IF;
    RETURN NULL;
END $$;
-- +goose StatementEnd
-- Of what many rows come to in one statement each digest is looked up once.
-- +goose StatementBegin
CREATE FUNCTION digests_of_outcomes() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM digest_is_stale(k.gym_id, k.trainee_id, k.rig_id)
    FROM (SELECT DISTINCT r.gym_id, r.trainee_id, r.rig_id FROM touched o JOIN runs r ON r.id = o.run_id WHERE r.trainee_id IS NOT NULL) k;
    RETURN NULL;
END $$;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE FUNCTION digests_of_evidence() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM digest_is_stale(k.gym_id, k.trainee_id, k.rig_id)
    FROM (SELECT DISTINCT e.gym_id, e.trainee_id, coalesce(r.rig_id, '00000000-0000-0000-0000-000000000000') AS rig_id
          FROM touched e LEFT JOIN runs r ON r.id = e.run_id) k;
    RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER digest AFTER UPDATE ON runs FOR EACH ROW
    WHEN ((OLD.started_at IS NOT NULL OR NEW.started_at IS NOT NULL) AND
        (OLD.trainee_id, OLD.rig_id, OLD.assignment_id, OLD.rung, OLD.eased, OLD.created_at, OLD.predicted, OLD.started_at, OLD.ended_at, OLD.removed_at)
        IS DISTINCT FROM
        (NEW.trainee_id, NEW.rig_id, NEW.assignment_id, NEW.rung, NEW.eased, NEW.created_at, NEW.predicted, NEW.started_at, NEW.ended_at, NEW.removed_at))
    EXECUTE FUNCTION digest_of_run();
CREATE TRIGGER digest_gone AFTER DELETE ON runs FOR EACH ROW EXECUTE FUNCTION digest_of_run();
-- +goose StatementBegin
DO $$
DECLARE t text; e text;
BEGIN
    FOREACH t IN ARRAY ARRAY['outcomes', 'evidence'] LOOP
        FOREACH e IN ARRAY ARRAY['insert', 'update', 'delete'] LOOP
            EXECUTE format('CREATE TRIGGER digests_%s AFTER %s ON %I REFERENCING %s TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION digests_of_%s()',
                e, e, t, CASE e WHEN 'delete' THEN 'OLD' ELSE 'NEW' END, t);
        END LOOP;
    END LOOP;
END $$;
-- +goose StatementEnd

INSERT INTO digests (gym_id, trainee_id, rig_id)
SELECT r.gym_id, r.trainee_id, r.rig_id FROM runs r JOIN outcomes o ON o.run_id = r.id WHERE r.trainee_id IS NOT NULL
UNION SELECT gym_id, trainee_id, '00000000-0000-0000-0000-000000000000' FROM evidence WHERE run_id IS NULL;

ALTER TABLE digests ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_the_gym ON digests USING ((SELECT current_setting('melodromos.gym', true) = '*') OR gym_id = (SELECT CASE WHEN gym ~ '^[0-9a-f-]{36}$' THEN gym::uuid END FROM current_setting('melodromos.gym', true) gym));

CREATE INDEX runs_of ON runs (gym_id, trainee_id, rig_id, created_at DESC) WHERE started_at IS NOT NULL AND ended_at IS NOT NULL AND removed_at IS NULL;
CREATE INDEX runs_drill_name ON runs (gym_id, drill_name, created_at DESC);

-- +goose Down
DROP INDEX runs_drill_name;
DROP INDEX runs_of;
DROP TRIGGER digest ON runs;
DROP TRIGGER digest_gone ON runs;
DROP TRIGGER digests_insert ON outcomes;
DROP TRIGGER digests_update ON outcomes;
DROP TRIGGER digests_delete ON outcomes;
DROP TRIGGER digests_insert ON evidence;
DROP TRIGGER digests_update ON evidence;
DROP TRIGGER digests_delete ON evidence;
DROP FUNCTION digest_of_run();
DROP FUNCTION digests_of_outcomes();
DROP FUNCTION digests_of_evidence();
DROP FUNCTION digest_is_stale(uuid, uuid, uuid);
DROP TABLE digests;
DROP SEQUENCE digest_revisions;
