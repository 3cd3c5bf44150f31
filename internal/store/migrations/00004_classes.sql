-- +goose Up

-- The week: definitions, that may change and be taken out.
CREATE TABLE class (
  id         TEXT PRIMARY KEY,
  name       TEXT NOT NULL,
  kind       TEXT NOT NULL,
  weekday    INTEGER NOT NULL CHECK (weekday BETWEEN 1 AND 7),    -- 1 is Monday
  start      INTEGER NOT NULL CHECK (start BETWEEN 0 AND 1439),   -- minutes after midnight
  minutes    INTEGER NOT NULL CHECK (minutes BETWEEN 5 AND 720),
  from_date  TEXT NOT NULL,
  to_date    TEXT,
  programs   TEXT NOT NULL CHECK (json_valid(programs)),          -- ids; [] is all
  tracks     TEXT NOT NULL CHECK (json_valid(tracks)),            -- ids; [] is all
  place      TEXT NOT NULL DEFAULT '',
  deleted_at TEXT
) STRICT;

CREATE TABLE closure (
  id         TEXT PRIMARY KEY,
  class_id   TEXT REFERENCES class (id), -- NULL: every class
  from_date  TEXT NOT NULL,
  to_date    TEXT NOT NULL,
  reason     TEXT NOT NULL,
  deleted_at TEXT
) STRICT;

-- A class that was held, as it was on its day: made with the first entry, never changed.
CREATE TABLE register (
  id       TEXT PRIMARY KEY,
  class_id TEXT NOT NULL REFERENCES class (id),
  on_date  TEXT NOT NULL,
  name     TEXT NOT NULL,
  kind     TEXT NOT NULL,
  start    INTEGER NOT NULL,
  minutes  INTEGER NOT NULL,
  programs TEXT NOT NULL CHECK (json_valid(programs)),
  tracks   TEXT NOT NULL CHECK (json_valid(tracks)),
  actor    TEXT NOT NULL,
  at       TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX register_class ON register (class_id, on_date);
CREATE INDEX register_day ON register (on_date);

CREATE TABLE attendance_event (
  id          TEXT PRIMARY KEY,
  register_id TEXT NOT NULL REFERENCES register (id),
  on_date     TEXT NOT NULL, -- of the register
  student_id  TEXT REFERENCES student (id), -- NULL: a visitor on trial
  visitor     TEXT NOT NULL DEFAULT '' CHECK ((student_id IS NULL) = (visitor <> '')),
  state       TEXT NOT NULL CHECK (state IN ('present', 'late', 'absent')), -- absent: an entry taken back
  mode        TEXT NOT NULL CHECK (mode IN ('hall', 'live', 'recorded')),
  make_up     INTEGER NOT NULL DEFAULT 0 CHECK (make_up IN (0, 1)),
  supersedes  TEXT UNIQUE REFERENCES attendance_event (id),
  actor       TEXT NOT NULL,
  at          TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX attendance_event_first ON attendance_event (register_id, student_id) WHERE supersedes IS NULL AND student_id IS NOT NULL;
CREATE INDEX attendance_event_register ON attendance_event (register_id);
CREATE INDEX attendance_event_student ON attendance_event (student_id, on_date);

CREATE VIEW attendance AS
SELECT * FROM attendance_event e
WHERE state <> 'absent' AND NOT EXISTS (SELECT 1 FROM attendance_event n WHERE n.supersedes = e.id);

-- What a class worked on.
CREATE TABLE taught_event (
  id           TEXT PRIMARY KEY,
  register_id  TEXT NOT NULL REFERENCES register (id),
  technique_id TEXT NOT NULL REFERENCES technique (id),
  kind         TEXT NOT NULL CHECK (kind IN ('taught', 'withdrawn')),
  supersedes   TEXT UNIQUE REFERENCES taught_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX taught_event_register ON taught_event (register_id);

CREATE VIEW taught AS
SELECT * FROM taught_event e
WHERE kind = 'taught' AND NOT EXISTS (SELECT 1 FROM taught_event n WHERE n.supersedes = e.id);

-- Who showed what on the way to a rung, and who not yet.
CREATE TABLE signoff_event (
  id           TEXT PRIMARY KEY,
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  rung_id      TEXT NOT NULL REFERENCES rung (id), -- climbed to
  technique_id TEXT NOT NULL REFERENCES technique (id),
  role         TEXT NOT NULL,
  stage        INTEGER NOT NULL DEFAULT 0,
  side         TEXT NOT NULL DEFAULT '' CHECK (side IN ('', 'left', 'right')), -- '': all that are asked
  kind         TEXT NOT NULL CHECK (kind IN ('shown', 'not_yet', 'withdrawn')),
  fault        TEXT NOT NULL DEFAULT '',
  clip         INTEGER NOT NULL DEFAULT 0 CHECK (clip IN (0, 1)), -- seen on a clip, not in class
  register_id  TEXT REFERENCES register (id),
  on_date      TEXT NOT NULL,
  supersedes   TEXT UNIQUE REFERENCES signoff_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX signoff_event_enrolment ON signoff_event (enrolment_id, rung_id);
CREATE INDEX signoff_event_register ON signoff_event (register_id) WHERE register_id IS NOT NULL;

CREATE VIEW signoff AS
SELECT * FROM signoff_event e
WHERE kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM signoff_event n WHERE n.supersedes = e.id);

CREATE TABLE stripe_event (
  id           TEXT PRIMARY KEY,
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  rung_id      TEXT NOT NULL REFERENCES rung (id), -- climbed to
  section_id   TEXT NOT NULL REFERENCES section (id),
  kind         TEXT NOT NULL CHECK (kind IN ('awarded', 'withdrawn')),
  on_date      TEXT NOT NULL,
  reason       TEXT NOT NULL DEFAULT '',
  supersedes   TEXT UNIQUE REFERENCES stripe_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX stripe_event_enrolment ON stripe_event (enrolment_id);

CREATE VIEW stripe AS
SELECT * FROM stripe_event e
WHERE kind = 'awarded' AND NOT EXISTS (SELECT 1 FROM stripe_event n WHERE n.supersedes = e.id);

-- One row for each climb: what was attended since the last promotion, how many classes in
-- each of the last weeks, what is signed off and awarded. Made anew from the entries in the
-- transaction of every entry that touches it.
CREATE TABLE climb_summary (
  enrolment_id TEXT PRIMARY KEY REFERENCES enrolment (id),
  attended     TEXT NOT NULL,
  weeks        TEXT NOT NULL,
  signed       TEXT NOT NULL,
  stripes      TEXT NOT NULL,
  last_on      TEXT -- the last class attended
) STRICT, WITHOUT ROWID;
INSERT INTO climb_summary SELECT id, '', '', '', '', NULL FROM enrolment;

ALTER TABLE student ADD COLUMN kit TEXT CHECK (kit IS NULL OR json_valid(kit)); -- NULL: nobody looked
ALTER TABLE student ADD COLUMN number INTEGER; -- for the check-in screen; counts up, never given twice
UPDATE student SET number = 100 + (SELECT count(*) FROM student o WHERE o.rowid <= student.rowid);
CREATE UNIQUE INDEX student_number ON student (number);
ALTER TABLE student ADD COLUMN papers TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(papers));

-- Examples of a character task are given like waivers and words.
DROP TRIGGER eligibility_event_no_update;
DROP TRIGGER eligibility_event_no_delete;
ALTER TABLE eligibility_event RENAME TO eligibility_event_old;
DROP INDEX eligibility_event_enrolment;
DROP INDEX eligibility_event_supersedes;
CREATE TABLE eligibility_event (
  id           TEXT PRIMARY KEY,
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  rung_id      TEXT NOT NULL REFERENCES rung (id),
  kind         TEXT NOT NULL CHECK (kind IN ('waiver', 'word', 'character', 'withdrawn')),
  rule         TEXT NOT NULL DEFAULT '',
  reason       TEXT NOT NULL DEFAULT '',
  supersedes   TEXT REFERENCES eligibility_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
INSERT INTO eligibility_event SELECT * FROM eligibility_event_old ORDER BY at;
DROP TABLE eligibility_event_old;
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
-- +goose StatementBegin
CREATE TRIGGER register_no_update BEFORE UPDATE ON register BEGIN
  SELECT RAISE(ABORT, 'register is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER register_no_delete BEFORE DELETE ON register BEGIN
  SELECT RAISE(ABORT, 'register is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER attendance_event_no_update BEFORE UPDATE ON attendance_event BEGIN
  SELECT RAISE(ABORT, 'attendance_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER attendance_event_no_delete BEFORE DELETE ON attendance_event BEGIN
  SELECT RAISE(ABORT, 'attendance_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER taught_event_no_update BEFORE UPDATE ON taught_event BEGIN
  SELECT RAISE(ABORT, 'taught_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER taught_event_no_delete BEFORE DELETE ON taught_event BEGIN
  SELECT RAISE(ABORT, 'taught_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER signoff_event_no_update BEFORE UPDATE ON signoff_event BEGIN
  SELECT RAISE(ABORT, 'signoff_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER signoff_event_no_delete BEFORE DELETE ON signoff_event BEGIN
  SELECT RAISE(ABORT, 'signoff_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER stripe_event_no_update BEFORE UPDATE ON stripe_event BEGIN
  SELECT RAISE(ABORT, 'stripe_event is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER stripe_event_no_delete BEFORE DELETE ON stripe_event BEGIN
  SELECT RAISE(ABORT, 'stripe_event is append-only');
END;
-- +goose StatementEnd
