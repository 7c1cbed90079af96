-- What a coach can mark is listed in one place, which is not here: a mark's kind is any code. It is read when it is
-- written, and a kind that is not known any more is shown as its code.

-- +goose Up
ALTER TABLE marks DROP CONSTRAINT marks_kind_check, ADD CONSTRAINT marks_kind_check CHECK (kind ~ '^[A-Za-z]{1,40}$');

-- +goose Down
DELETE FROM marks WHERE kind NOT IN ('missed', 'offLine', 'wild', 'touched', 'found', 'fistsTouched', 'strikingDown',
    'pullingStraight', 'idleHand', 'farStop', 'telegraph', 'chinUp', 'handDropped', 'feetPlanted', 'betweenTargets', 'grabbing');
ALTER TABLE marks DROP CONSTRAINT marks_kind_check, ADD CONSTRAINT marks_kind_check CHECK (kind IN ('missed', 'offLine', 'wild', 'touched', 'found', 'fistsTouched',
    'strikingDown', 'pullingStraight', 'idleHand', 'farStop', 'telegraph', 'chinUp', 'handDropped', 'feetPlanted', 'betweenTargets', 'grabbing'));
