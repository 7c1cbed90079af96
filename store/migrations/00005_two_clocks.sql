-- Rounds on the bag's clock: how hard a hit was, how a run plays, how it ended; runs that record nothing; runs that are removed from
-- the log and can be brought back; rigs calibrated from rounds.

-- +goose Up
ALTER TABLE hits ADD COLUMN launch double precision CHECK (launch > 0 AND launch <= 30); -- m/s at which the bag was driven off

ALTER TABLE runs
    DROP CONSTRAINT runs_source_check,
    ADD CONSTRAINT runs_source_check CHECK (source IN ('keys', 'standin', 'device', 'none')),
    ADD COLUMN plays text NOT NULL DEFAULT 'beat' CHECK (plays IN ('beat', 'follow', 'startThenFollow')),
    ADD COLUMN ending text NOT NULL DEFAULT '' CHECK (ending IN ('', 'bell', 'stopped', 'vanished')),
    ADD COLUMN predicted double precision CHECK (predicted BETWEEN 0 AND 1), -- share that was to meet the bag, by the models alone
    ADD COLUMN removed_at timestamptz;
UPDATE runs SET ending = CASE state WHEN 'done' THEN 'bell' WHEN 'stopped' THEN 'stopped' ELSE '' END;
-- What counts for the ladder: a round that came to its bell and in which something was recorded.
UPDATE runs SET summary = summary || jsonb_build_object('counts', state = 'done' AND coalesce((summary ->> 'hits')::int, 0) > 0)
    WHERE summary IS NOT NULL;

ALTER TABLE calibrations
    DROP CONSTRAINT calibrations_method_check,
    ADD CONSTRAINT calibrations_method_check CHECK (method IN ('taps', 'count', 'period', 'rounds'));

-- +goose Down
-- What the older release does not know goes: calibrations from rounds (the rigs keep their values), and runs that recorded nothing.
DELETE FROM calibrations WHERE method = 'rounds';
ALTER TABLE calibrations
    DROP CONSTRAINT calibrations_method_check,
    ADD CONSTRAINT calibrations_method_check CHECK (method IN ('taps', 'count', 'period'));
DELETE FROM runs WHERE source = 'none' OR removed_at IS NOT NULL;
ALTER TABLE runs
    DROP CONSTRAINT runs_source_check,
    ADD CONSTRAINT runs_source_check CHECK (source IN ('keys', 'standin', 'device')),
    DROP COLUMN plays, DROP COLUMN ending, DROP COLUMN predicted, DROP COLUMN removed_at;
ALTER TABLE hits DROP COLUMN launch;
