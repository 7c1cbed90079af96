-- What is easier than a rung has it is kept as a code, which was a phrase.

-- +goose Up
CREATE TEMPORARY TABLE steps (said text, code text);
INSERT INTO steps VALUES
    ('drawn back less', 'pulledLess'),
    ('drawn back further', 'pulledMore'),
    ('more rebounds', 'moreRebounds'),
    ('every second return', 'secondReturns'),
    ('fewer changes of hands', 'fewerHandChanges'),
    ('a part of it', 'partOnly'),
    ('straight punches only', 'straightsOnly'),
    ('no random cues', 'noCues'),
    ('seen as well as heard', 'seenToo'),
    ('more force', 'moreForce'),
    ('from further out', 'furtherOut'),
    ('a hook for the last straight', 'hookLast'),
    ('an uppercut for the last hook', 'uppercutLast'),
    ('every return', 'everyReturn'),
    ('hands changed sooner', 'soonerHandChanges'),
    ('twice over', 'bothSides'),
    ('without calls', 'withoutCalls'),
    ('by ear only', 'byEar'),
    ('random cues over it', 'withCues');
UPDATE assignments SET eased = code FROM steps WHERE eased = said;
UPDATE runs SET eased = code FROM steps WHERE eased = said;
UPDATE hours SET plan = jsonb_set(plan, '{given}', (
    SELECT jsonb_agg(CASE WHEN s.code IS NULL THEN g ELSE g || jsonb_build_object('eased', s.code) END ORDER BY n)
    FROM jsonb_array_elements(plan -> 'given') WITH ORDINALITY AS e (g, n) LEFT JOIN steps s ON s.said = g ->> 'eased'))
WHERE jsonb_typeof(plan -> 'given') = 'array'
    AND EXISTS (SELECT 1 FROM jsonb_array_elements(plan -> 'given') g JOIN steps s ON s.said = g ->> 'eased');
DROP TABLE steps;

-- +goose Down
CREATE TEMPORARY TABLE steps (said text, code text);
INSERT INTO steps VALUES
    ('drawn back less', 'pulledLess'),
    ('drawn back further', 'pulledMore'),
    ('more rebounds', 'moreRebounds'),
    ('every second return', 'secondReturns'),
    ('fewer changes of hands', 'fewerHandChanges'),
    ('a part of it', 'partOnly'),
    ('straight punches only', 'straightsOnly'),
    ('no random cues', 'noCues'),
    ('seen as well as heard', 'seenToo'),
    ('more force', 'moreForce'),
    ('from further out', 'furtherOut'),
    ('a hook for the last straight', 'hookLast'),
    ('an uppercut for the last hook', 'uppercutLast'),
    ('every return', 'everyReturn'),
    ('hands changed sooner', 'soonerHandChanges'),
    ('twice over', 'bothSides'),
    ('without calls', 'withoutCalls'),
    ('by ear only', 'byEar'),
    ('random cues over it', 'withCues');
UPDATE assignments SET eased = said FROM steps WHERE eased = code;
UPDATE runs SET eased = said FROM steps WHERE eased = code;
UPDATE hours SET plan = jsonb_set(plan, '{given}', (
    SELECT jsonb_agg(CASE WHEN s.said IS NULL THEN g ELSE g || jsonb_build_object('eased', s.said) END ORDER BY n)
    FROM jsonb_array_elements(plan -> 'given') WITH ORDINALITY AS e (g, n) LEFT JOIN steps s ON s.code = g ->> 'eased'))
WHERE jsonb_typeof(plan -> 'given') = 'array'
    AND EXISTS (SELECT 1 FROM jsonb_array_elements(plan -> 'given') g JOIN steps s ON s.code = g ->> 'eased');
DROP TABLE steps;
