-- +goose Up

ALTER TABLE school ADD COLUMN settings TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(settings));
ALTER TABLE student ADD COLUMN weight_kg INTEGER NOT NULL DEFAULT 0; -- 0: not measured
ALTER TABLE student ADD COLUMN waist_cm INTEGER NOT NULL DEFAULT 0;
ALTER TABLE student ADD COLUMN erased_at TEXT; -- on request: nothing says any more who it was
ALTER TABLE grading ADD COLUMN plan TEXT CHECK (plan IS NULL OR json_valid(plan)); -- of the day; NULL: none was made
ALTER TABLE grading ADD COLUMN pairs TEXT CHECK (pairs IS NULL OR json_valid(pairs)); -- sparring pairs

-- Who examines at this school: what they hold in each program, and whom they are family of.
CREATE TABLE officer (
  id         TEXT PRIMARY KEY,
  name       TEXT NOT NULL,
  name_key   TEXT NOT NULL,
  holds      TEXT NOT NULL CHECK (json_valid(holds)),  -- program → rung
  family     TEXT NOT NULL CHECK (json_valid(family)), -- students
  deleted_at TEXT
) STRICT;
CREATE UNIQUE INDEX officer_name ON officer (name_key) WHERE deleted_at IS NULL;

-- Belts that came and went. What is in stock is their sum.
CREATE TABLE stock_event (
  id           TEXT PRIMARY KEY,
  rung_id      TEXT NOT NULL REFERENCES rung (id),
  size         TEXT NOT NULL,
  pieces       INTEGER NOT NULL CHECK (pieces BETWEEN -10000 AND 10000),
  reason       TEXT NOT NULL,
  candidate_id TEXT REFERENCES candidate (id), -- whose promotion took it
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX stock_event_belt ON stock_event (rung_id, size);
CREATE INDEX stock_event_candidate ON stock_event (candidate_id) WHERE candidate_id IS NOT NULL;

-- Messages to families. Nothing leaves the house but by a deed of its own.
CREATE TABLE message (
  id           TEXT PRIMARY KEY,
  kind         TEXT NOT NULL CHECK (kind IN ('bring', 'result')),
  grading_id   TEXT REFERENCES grading (id),
  candidate_id TEXT REFERENCES candidate (id),
  student_id   TEXT NOT NULL REFERENCES student (id),
  to_name      TEXT NOT NULL,
  address      TEXT NOT NULL DEFAULT '', -- '': none is on record
  subject      TEXT NOT NULL,
  body         TEXT NOT NULL,
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX message_at ON message (at);
CREATE INDEX message_candidate ON message (candidate_id, kind);
CREATE INDEX message_student ON message (student_id);

CREATE TABLE message_event (
  id         TEXT PRIMARY KEY,
  message_id TEXT NOT NULL REFERENCES message (id),
  kind       TEXT NOT NULL CHECK (kind IN ('sent', 'failed', 'given', 'withdrawn')), -- given: handed over on paper or by hand
  text       TEXT NOT NULL DEFAULT '',
  actor      TEXT NOT NULL,
  at         TEXT NOT NULL
) STRICT;
CREATE INDEX message_event_message ON message_event (message_id);

-- +goose StatementBegin
CREATE TRIGGER stock_event_no_update BEFORE UPDATE ON stock_event BEGIN SELECT RAISE(ABORT, 'stock_event is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER stock_event_no_delete BEFORE DELETE ON stock_event BEGIN SELECT RAISE(ABORT, 'stock_event is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER message_no_update BEFORE UPDATE ON message BEGIN SELECT RAISE(ABORT, 'message is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER message_no_delete BEFORE DELETE ON message BEGIN SELECT RAISE(ABORT, 'message is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER message_event_no_update BEFORE UPDATE ON message_event BEGIN SELECT RAISE(ABORT, 'message_event is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER message_event_no_delete BEFORE DELETE ON message_event BEGIN SELECT RAISE(ABORT, 'message_event is append-only'); END;
-- +goose StatementEnd
