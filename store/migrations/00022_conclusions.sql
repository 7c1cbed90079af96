-- What could be judged of a round is kept as a code, with the number of strikes that count beside the figures; the sentence is made of them where
-- it is told. A sentence that is none of ours, of a round that came in as a table, stays.

-- +goose Up
ALTER TABLE outcomes
    ADD COLUMN conclusion text NOT NULL DEFAULT '' CHECK (conclusion IN ('', 'onBeat', 'counted', 'estimated', 'passes', 'noHits', 'coarse', 'noStrikes', 'unrecorded')),
    ADD COLUMN scored integer CHECK (scored >= 0),
    ALTER COLUMN headline SET DEFAULT '';
UPDATE outcomes o SET
    scored = coalesce(substring(o.headline FROM 'of ([0-9]+) strikes'), substring(o.headline FROM 'Counted: [0-9]+ of ([0-9]+)'))::integer,
    conclusion = CASE
        WHEN o.headline LIKE '%None touched, of % passes.' OR o.headline LIKE '% passes without a touch, % in a row.' THEN 'passes'
        WHEN o.headline LIKE '%Nothing was recorded%' THEN 'unrecorded'
        WHEN o.headline LIKE '%before the first strike: nothing to judge.' THEN 'noStrikes'
        WHEN o.headline LIKE '%o hits were recorded%' THEN 'noHits'
        WHEN o.headline LIKE '%this source is too coarse%' THEN 'coarse'
        WHEN o.headline LIKE '%About % met the bag, give or take %' THEN 'estimated'
        WHEN o.headline LIKE '% strikes met the bag, % in a row.' THEN 'counted'
        WHEN o.headline LIKE '%clean: % of % strikes, % in a row.' THEN 'onBeat'
        ELSE '' END
FROM runs r WHERE r.id = o.run_id AND r.brought_at IS NULL;
UPDATE outcomes SET headline = '' WHERE conclusion <> '';

-- A test that a figure comes of is named by its code.
UPDATE evidence SET note = CASE note WHEN 'Two hands in turn' THEN 'alternate' WHEN 'One hand' THEN 'sameHand' WHEN 'Keeping a beat' THEN 'beat' WHEN 'Reaction to light' THEN 'sight' WHEN 'Reaction to sound' THEN 'sound' ELSE note END WHERE run_id IS NULL AND origin = 'tested';

-- +goose Down
UPDATE evidence SET note = CASE note WHEN 'alternate' THEN 'Two hands in turn' WHEN 'sameHand' THEN 'One hand' WHEN 'beat' THEN 'Keeping a beat' WHEN 'sight' THEN 'Reaction to light' WHEN 'sound' THEN 'Reaction to sound' ELSE note END WHERE run_id IS NULL AND origin = 'tested';
UPDATE outcomes o SET headline = CASE r.ending WHEN 'stopped' THEN 'Stopped early. ' WHEN 'vanished' THEN 'The screen was lost. ' ELSE '' END ||
    CASE conclusion
        WHEN 'passes' THEN format('%s of %s passes without a touch, %s in a row.', clean, planned, longest)
        WHEN 'unrecorded' THEN 'Nothing was recorded.'
        WHEN 'noStrikes' THEN 'Stopped before the first strike: nothing to judge.'
        WHEN 'noHits' THEN format('Not judged: no hits were recorded, of %s strikes.', coalesce(scored, planned))
        WHEN 'coarse' THEN format('%s hits recorded, not judged: this source is too coarse to tell clean from late.', hits)
        WHEN 'estimated' THEN format('About %s %% met the bag, give or take %s. Counted: %s of %s, %s in a row.', round((100 * share)::numeric), greatest(1, round((100 * give)::numeric)), clean, coalesce(scored, planned), longest)
        WHEN 'counted' THEN format('%s %% clean: %s of %s strikes met the bag, %s in a row.', round((100 * share)::numeric), clean, coalesce(scored, planned), longest)
        ELSE format('%s %% clean: %s of %s strikes, %s in a row.', round((100 * share)::numeric), clean, coalesce(scored, planned), longest) END
FROM runs r WHERE r.id = o.run_id AND conclusion <> '';
ALTER TABLE outcomes DROP COLUMN conclusion, DROP COLUMN scored, ALTER COLUMN headline DROP DEFAULT;
