-- A second lock behind the queries' own: a connection sees the rows of the gym that it says it works for, and none where it says nothing.
-- '*' is said where the gym is yet to be found, and by those who look after the whole house. The table's owner is held to it as well; a
-- superuser is not, and none is needed.

-- +goose Up
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['coaches', 'trainees', 'rigs', 'calibrations', 'drills', 'assignments', 'runs', 'timelines', 'outcomes', 'hits', 'marks', 'evidence', 'cautions', 'decisions'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY of_the_gym ON %I USING (current_setting(''melodromos.gym'', true) IN (''*'', gym_id::text))', t);
    END LOOP;
END $$;
-- +goose StatementEnd
ALTER TABLE gyms ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_the_gym ON gyms USING (current_setting('melodromos.gym', true) IN ('*', id::text));
ALTER TABLE sessions ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_the_house ON sessions USING (current_setting('melodromos.gym', true) = '*');
ALTER TABLE bag_kinds ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY for_everybody ON bag_kinds FOR SELECT USING (true);
CREATE POLICY of_the_house ON bag_kinds USING (current_setting('melodromos.gym', true) = '*');

-- +goose Down
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['coaches', 'trainees', 'rigs', 'calibrations', 'drills', 'assignments', 'runs', 'timelines', 'outcomes', 'hits', 'marks', 'evidence', 'cautions', 'decisions', 'gyms'] LOOP
        EXECUTE format('DROP POLICY of_the_gym ON %I', t);
        EXECUTE format('ALTER TABLE %I NO FORCE ROW LEVEL SECURITY, DISABLE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd
DROP POLICY of_the_house ON sessions;
ALTER TABLE sessions NO FORCE ROW LEVEL SECURITY, DISABLE ROW LEVEL SECURITY;
DROP POLICY of_the_house ON bag_kinds;
DROP POLICY for_everybody ON bag_kinds;
ALTER TABLE bag_kinds NO FORCE ROW LEVEL SECURITY, DISABLE ROW LEVEL SECURITY;
