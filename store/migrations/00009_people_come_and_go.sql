-- People who are erased leave their rounds as counts without a name. What was measured of somebody is evidence, and no kind of bag is null
-- there; who did what is a reference beside the name as it was; days of the week are numbers.

-- +goose Up
ALTER TABLE findings RENAME TO evidence;
ALTER INDEX findings_trainee RENAME TO evidence_trainee;
ALTER TABLE evidence DROP CONSTRAINT findings_bag_kind_check, ALTER COLUMN bag_kind DROP NOT NULL, ALTER COLUMN bag_kind DROP DEFAULT;
UPDATE evidence SET bag_kind = NULL WHERE bag_kind = '';
ALTER TABLE evidence ADD CONSTRAINT evidence_bag_kind_fkey FOREIGN KEY (bag_kind) REFERENCES bag_kinds (kind);
CREATE INDEX evidence_kind ON evidence (bag_kind);
CREATE INDEX evidence_run ON evidence (gym_id, run_id) WHERE run_id IS NOT NULL;

ALTER TABLE decisions DROP CONSTRAINT decisions_bag_kind_check, ADD CONSTRAINT decisions_bag_kind_fkey FOREIGN KEY (bag_kind) REFERENCES bag_kinds (kind),
    ADD COLUMN coach_id uuid, ADD CONSTRAINT decisions_coach_fkey FOREIGN KEY (gym_id, coach_id) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (coach_id);
CREATE INDEX decisions_kind ON decisions (bag_kind);
CREATE INDEX decisions_coach ON decisions (gym_id, coach_id);
ALTER TABLE cautions ADD COLUMN set_by_id uuid, ADD COLUMN lifted_by_id uuid,
    ADD CONSTRAINT cautions_set_by_fkey FOREIGN KEY (gym_id, set_by_id) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (set_by_id),
    ADD CONSTRAINT cautions_lifted_by_fkey FOREIGN KEY (gym_id, lifted_by_id) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (lifted_by_id);
CREATE INDEX cautions_setter ON cautions (gym_id, set_by_id);
CREATE INDEX cautions_lifter ON cautions (gym_id, lifted_by_id);
-- Where one coach of the gym alone has that name, it was they.
UPDATE decisions d SET coach_id = (SELECT min(c.id::text)::uuid FROM coaches c WHERE c.gym_id = d.gym_id AND c.name = d.coach HAVING count(*) = 1);
UPDATE cautions d SET set_by_id = (SELECT min(c.id::text)::uuid FROM coaches c WHERE c.gym_id = d.gym_id AND c.name = d.set_by HAVING count(*) = 1);

ALTER TABLE trainees ADD COLUMN days smallint[] NOT NULL DEFAULT '{2,4}' CHECK (days <@ '{0,1,2,3,4,5,6}'); -- of the week, 0 is Sunday
UPDATE trainees SET days = string_to_array(nullif(weeks_days, ''), ',')::smallint[] WHERE weeks_days <> '';
UPDATE trainees SET days = '{}' WHERE weeks_days = '';
ALTER TABLE trainees DROP COLUMN weeks_days;
ALTER TABLE trainees RENAME COLUMN days TO weeks_days;

ALTER TABLE runs ALTER COLUMN trainee_id DROP NOT NULL, DROP CONSTRAINT runs_gym_id_trainee_id_fkey,
    ADD CONSTRAINT runs_trainee_fkey FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id) ON DELETE SET NULL (trainee_id);

-- +goose Down
-- The older release needs somebody of every round: those of people who were erased go.
DELETE FROM runs WHERE trainee_id IS NULL;
ALTER TABLE runs ALTER COLUMN trainee_id SET NOT NULL, DROP CONSTRAINT runs_trainee_fkey,
    ADD CONSTRAINT runs_gym_id_trainee_id_fkey FOREIGN KEY (gym_id, trainee_id) REFERENCES trainees (gym_id, id);
ALTER TABLE trainees ADD COLUMN days text NOT NULL DEFAULT '2,4' CHECK (days ~ '^([0-6](,[0-6])*)?$');
UPDATE trainees SET days = array_to_string(weeks_days, ',');
ALTER TABLE trainees DROP COLUMN weeks_days;
ALTER TABLE trainees RENAME COLUMN days TO weeks_days;
ALTER TABLE cautions DROP COLUMN set_by_id, DROP COLUMN lifted_by_id;
DROP INDEX decisions_kind;
ALTER TABLE decisions DROP COLUMN coach_id, DROP CONSTRAINT decisions_bag_kind_fkey,
    ADD CONSTRAINT decisions_bag_kind_check CHECK (bag_kind IN ('speed', 'doubleEnd', 'reflex', 'slip', 'hanging'));
DROP INDEX evidence_kind, evidence_run;
ALTER TABLE evidence DROP CONSTRAINT evidence_bag_kind_fkey;
UPDATE evidence SET bag_kind = '' WHERE bag_kind IS NULL;
ALTER TABLE evidence ALTER COLUMN bag_kind SET NOT NULL, ALTER COLUMN bag_kind SET DEFAULT '',
    ADD CONSTRAINT findings_bag_kind_check CHECK (bag_kind IN ('', 'speed', 'doubleEnd', 'reflex', 'slip', 'hanging'));
ALTER INDEX evidence_trainee RENAME TO findings_trainee;
ALTER TABLE evidence RENAME TO findings;
