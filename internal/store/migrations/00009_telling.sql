-- +goose Up

-- A stance may be not yet known: ''.
ALTER TABLE student ADD COLUMN footing TEXT NOT NULL DEFAULT '' CHECK (footing IN ('', 'orthodox', 'southpaw'));
UPDATE student SET footing = stance;
ALTER TABLE student DROP COLUMN stance;
ALTER TABLE student RENAME COLUMN footing TO stance;

-- What a side of an amount means; '': as technique or program say.
ALTER TABLE requirement ADD COLUMN side_means TEXT NOT NULL DEFAULT '' CHECK (side_means IN ('', 'stance', 'limb', 'direction'));

-- Moves written so far were read in another way: the owner is shown once which lines differ.
UPDATE program SET details = json_set(details, '$.moves_read_anew', json('true'));
