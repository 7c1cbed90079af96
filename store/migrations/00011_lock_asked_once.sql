-- The second lock is asked once for a query and not once for each row, and compares ids as such, so that it costs nothing and the planner
-- knows how many rows it lets through.

-- +goose Up
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['coaches', 'trainees', 'rigs', 'calibrations', 'drills', 'assignments', 'runs', 'timelines', 'outcomes', 'hits', 'marks', 'evidence', 'cautions', 'decisions', 'gyms'] LOOP
        EXECUTE format('ALTER POLICY of_the_gym ON %I USING ((SELECT current_setting(''melodromos.gym'', true) = ''*'') OR %I = (SELECT CASE WHEN gym ~ ''^[0-9a-f-]{36}$'' THEN gym::uuid END FROM current_setting(''melodromos.gym'', true) gym))',
            t, CASE t WHEN 'gyms' THEN 'id' ELSE 'gym_id' END);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['coaches', 'trainees', 'rigs', 'calibrations', 'drills', 'assignments', 'runs', 'timelines', 'outcomes', 'hits', 'marks', 'evidence', 'cautions', 'decisions', 'gyms'] LOOP
        EXECUTE format('ALTER POLICY of_the_gym ON %I USING (current_setting(''melodromos.gym'', true) IN (''*'', %I::text))', t, CASE t WHEN 'gyms' THEN 'id' ELSE 'gym_id' END);
    END LOOP;
END $$;
-- +goose StatementEnd
