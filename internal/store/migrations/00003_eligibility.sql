-- +goose Up

-- Waivers of a rule and instructors' words for one climb to a rung. A later entry withdraws
-- an earlier one; nothing is changed or deleted.
CREATE TABLE eligibility_event (
  id           TEXT PRIMARY KEY,
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  rung_id      TEXT NOT NULL REFERENCES rung (id),
  kind         TEXT NOT NULL CHECK (kind IN ('waiver', 'word', 'withdrawn')),
  rule         TEXT NOT NULL DEFAULT '',
  reason       TEXT NOT NULL DEFAULT '',
  supersedes   TEXT REFERENCES eligibility_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX eligibility_event_enrolment ON eligibility_event (enrolment_id);
CREATE UNIQUE INDEX eligibility_event_supersedes ON eligibility_event (supersedes) WHERE supersedes IS NOT NULL;

-- +goose StatementBegin
CREATE TRIGGER eligibility_event_no_update BEFORE UPDATE ON eligibility_event BEGIN
  SELECT RAISE(ABORT, 'eligibility_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER eligibility_event_no_delete BEFORE DELETE ON eligibility_event BEGIN
  SELECT RAISE(ABORT, 'eligibility_event is append-only');
END;
-- +goose StatementEnd
