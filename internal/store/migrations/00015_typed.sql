-- +goose Up

-- A deed on the trail is its kind and what it was about: people by their ids, so that erasing one
-- leaves nothing behind in sentences. Deeds of before have their sentence in action, and no kind.
ALTER TABLE audit ADD COLUMN kind TEXT NOT NULL DEFAULT '';
ALTER TABLE audit ADD COLUMN args TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(args));

-- Why somebody came to stand on a rung is a kind, and a day where it has one; the reason is only what a person wrote.
-- Entries of before have all of it in reason.
ALTER TABLE rank_entry ADD COLUMN because TEXT NOT NULL DEFAULT '' CHECK (because IN ('', 'honours', 'referred', 'double', 'corrected', 'merit', 'came_back'));
ALTER TABLE rank_entry ADD COLUMN because_on TEXT;

-- What is asked of a whole grading, of a sheet, of a bout, of a clip is found without reading all there is.
CREATE INDEX candidate_grading ON candidate (grading_id);
CREATE INDEX signature_event_sheet ON signature_event (examiner_id, group_id);
CREATE INDEX signature_event_group ON signature_event (group_id);
CREATE INDEX fault_event_bout ON fault_event (bout_id) WHERE bout_id IS NOT NULL;
CREATE INDEX clip_event_about ON clip_event (about) WHERE about IS NOT NULL;

-- Which lines were passed is worked out by the scoring, and kept in graded_line.
DROP VIEW passed_line;
