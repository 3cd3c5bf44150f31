-- +goose Up

-- A link for a student or guardian. Only the digest of what stands in it is kept: whoever reads
-- this file cannot use it.
CREATE TABLE family_link (
  id         TEXT PRIMARY KEY,
  student_id TEXT NOT NULL REFERENCES student (id),
  digest     TEXT NOT NULL UNIQUE, -- SHA-256 of the token
  who        TEXT NOT NULL DEFAULT '',
  expires_on TEXT NOT NULL, -- the last day
  revoked_at TEXT,
  actor      TEXT NOT NULL,
  at         TEXT NOT NULL
) STRICT;
CREATE INDEX family_link_student ON family_link (student_id);

CREATE TABLE practice_event (
  id           TEXT PRIMARY KEY,
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  technique_id TEXT NOT NULL REFERENCES technique (id),
  role         TEXT NOT NULL,
  on_date      TEXT NOT NULL,
  kind         TEXT NOT NULL CHECK (kind IN ('practised', 'withdrawn')),
  supersedes   TEXT UNIQUE REFERENCES practice_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX practice_event_enrolment ON practice_event (enrolment_id, on_date);

-- A clip sent in for feedback, and the answers to it.
CREATE TABLE clip_event (
  id           TEXT PRIMARY KEY,
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  technique_id TEXT NOT NULL REFERENCES technique (id),
  role         TEXT NOT NULL,
  kind         TEXT NOT NULL CHECK (kind IN ('sent', 'answered', 'withdrawn')),
  text         TEXT NOT NULL, -- the address of the clip, or the answer
  about        TEXT REFERENCES clip_event (id), -- of an answer: the clip
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX clip_event_enrolment ON clip_event (enrolment_id);

-- A combination that was drawn and called.
CREATE TABLE drill_event (
  id         TEXT PRIMARY KEY,
  program_id TEXT NOT NULL REFERENCES program (id),
  line       TEXT NOT NULL,
  on_date    TEXT NOT NULL,
  actor      TEXT NOT NULL,
  at         TEXT NOT NULL
) STRICT;
CREATE INDEX drill_event_program ON drill_event (program_id, line);

-- +goose StatementBegin
CREATE TRIGGER practice_event_no_update BEFORE UPDATE ON practice_event BEGIN
  SELECT RAISE(ABORT, 'practice_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER practice_event_no_delete BEFORE DELETE ON practice_event BEGIN
  SELECT RAISE(ABORT, 'practice_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER clip_event_no_update BEFORE UPDATE ON clip_event BEGIN
  SELECT RAISE(ABORT, 'clip_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER clip_event_no_delete BEFORE DELETE ON clip_event BEGIN
  SELECT RAISE(ABORT, 'clip_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER drill_event_no_update BEFORE UPDATE ON drill_event BEGIN
  SELECT RAISE(ABORT, 'drill_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER drill_event_no_delete BEFORE DELETE ON drill_event BEGIN
  SELECT RAISE(ABORT, 'drill_event is append-only');
END;
-- +goose StatementEnd
