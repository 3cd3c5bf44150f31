-- +goose Up

-- What a student would show where the choice is theirs. The newest entry stands.
CREATE TABLE choice_event (
  id           TEXT PRIMARY KEY,
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  technique_id TEXT NOT NULL REFERENCES technique (id), -- of the free-choice line
  lines        TEXT NOT NULL CHECK (json_valid(lines)), -- combinations as they are written; none: taken back
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX choice_event_enrolment ON choice_event (enrolment_id, technique_id, at);

-- What of a free-choice line an examiner saw: the words of the list, a line each.
ALTER TABLE mark_event ADD COLUMN ticked TEXT NOT NULL DEFAULT '';

-- +goose StatementBegin
CREATE TRIGGER choice_event_no_update BEFORE UPDATE ON choice_event BEGIN
  SELECT RAISE(ABORT, 'choice_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER choice_event_no_delete BEFORE DELETE ON choice_event BEGIN
  SELECT RAISE(ABORT, 'choice_event is append-only');
END;
-- +goose StatementEnd
