-- When classes are held, who may read that from outside, and rounds that came in as a table.

-- +goose Up
-- A class that is to be held, once or every week, by the gym's own clock.
CREATE TABLE dates (
    id              uuid        PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id          uuid        NOT NULL REFERENCES gyms ON DELETE CASCADE,
    name            text        NOT NULL CHECK (char_length(name) BETWEEN 1 AND 120),
    day             date        NOT NULL, -- the first
    at              text        NOT NULL CHECK (at ~ '^[0-2][0-9]:[0-5][0-9]$'),
    minutes         integer     NOT NULL CHECK (minutes BETWEEN 5 AND 600),
    weekly          boolean     NOT NULL DEFAULT false,
    until           date, -- NULL for no end
    skipped         jsonb       NOT NULL DEFAULT '[]',
    note            text        NOT NULL DEFAULT '' CHECK (char_length(note) <= 400),
    session_plan_id uuid,
    version         integer     NOT NULL DEFAULT 1 CHECK (version >= 1),
    archived_at     timestamptz,
    created_at      timestamptz NOT NULL DEFAULT now(),
    UNIQUE (gym_id, id)
);
ALTER TABLE session_plans ADD UNIQUE (gym_id, id);
ALTER TABLE dates ADD FOREIGN KEY (gym_id, session_plan_id) REFERENCES session_plans (gym_id, id) ON DELETE SET NULL (session_plan_id);
CREATE INDEX dates_session ON dates (gym_id, session_plan_id) WHERE session_plan_id IS NOT NULL;

-- An address at which whoever knows it reads the dates. Of its secret only the hash is kept, and stays when it is revoked.
CREATE TABLE calendar_links (
    id         uuid        PRIMARY KEY DEFAULT gen_random_uuid(),
    gym_id     uuid        NOT NULL REFERENCES gyms ON DELETE CASCADE,
    name       text        NOT NULL CHECK (char_length(name) BETWEEN 1 AND 120),
    hash       text        NOT NULL UNIQUE CHECK (length(hash) = 64),
    made_by    uuid,
    read_at    timestamptz, -- last
    revoked_at timestamptz,
    created_at timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (gym_id, made_by) REFERENCES coaches (gym_id, id) ON DELETE SET NULL (made_by)
);
CREATE INDEX calendar_links_gym ON calendar_links (gym_id);
CREATE INDEX calendar_links_maker ON calendar_links (gym_id, made_by) WHERE made_by IS NOT NULL;

-- A round that came in as a table is told by its figures alone: it has no timeline.
-- Nor need its drill be one of the gym's.
ALTER TABLE runs ADD COLUMN brought_at timestamptz, ALTER COLUMN drill_id DROP NOT NULL;

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['dates', 'calendar_links'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY of_the_gym ON %I USING ((SELECT current_setting(''melodromos.gym'', true) = ''*'') OR gym_id = (SELECT CASE WHEN gym ~ ''^[0-9a-f-]{36}$'' THEN gym::uuid END FROM current_setting(''melodromos.gym'', true) gym))', t);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
-- What the older release does not know goes: dates, addresses, and rounds that came in as a table.
DELETE FROM runs WHERE brought_at IS NOT NULL OR drill_id IS NULL;
ALTER TABLE runs DROP COLUMN brought_at, ALTER COLUMN drill_id SET NOT NULL;
DROP TABLE calendar_links;
DROP TABLE dates;
ALTER TABLE session_plans DROP CONSTRAINT session_plans_gym_id_id_key;
