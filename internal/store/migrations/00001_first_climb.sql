-- +goose Up

CREATE TABLE school (
  id   INTEGER PRIMARY KEY CHECK (id = 1),
  name TEXT NOT NULL,
  zone TEXT NOT NULL -- IANA name of the zone its civil dates are in; 'Local' is the machine's
) STRICT;
INSERT INTO school (id, name, zone) VALUES (1, '', 'Local');

-- Definitions: these rows may change and be taken out (deleted_at); ids never change.

CREATE TABLE program (
  id              TEXT PRIMARY KEY,
  name            TEXT NOT NULL,
  name_key        TEXT NOT NULL,
  second_language TEXT NOT NULL DEFAULT '',
  position        INTEGER NOT NULL,
  deleted_at      TEXT
) STRICT;
CREATE UNIQUE INDEX program_name ON program (name_key) WHERE deleted_at IS NULL;

CREATE TABLE section (
  id         TEXT PRIMARY KEY,
  program_id TEXT NOT NULL REFERENCES program (id),
  name       TEXT NOT NULL,
  name_key   TEXT NOT NULL,
  position   INTEGER NOT NULL,
  deleted_at TEXT
) STRICT;
CREATE UNIQUE INDEX section_name ON section (program_id, name_key) WHERE deleted_at IS NULL;

CREATE TABLE rung (
  id         TEXT PRIMARY KEY,
  program_id TEXT NOT NULL REFERENCES program (id),
  position   INTEGER NOT NULL, -- 0 is the lowest
  kind       TEXT NOT NULL CHECK (kind IN ('belt', 'rank_stripe', 'stage_stripe')),
  name       TEXT NOT NULL,
  name_key   TEXT NOT NULL,
  cloth      TEXT NOT NULL CHECK (json_valid(cloth)),
  deleted_at TEXT
) STRICT;
CREATE UNIQUE INDEX rung_name ON rung (program_id, name_key) WHERE deleted_at IS NULL;

CREATE TABLE technique (
  id          TEXT PRIMARY KEY,
  program_id  TEXT NOT NULL REFERENCES program (id),
  name        TEXT NOT NULL,
  name_key    TEXT NOT NULL,
  kind        TEXT NOT NULL,
  term        TEXT NOT NULL DEFAULT '',
  note        TEXT NOT NULL DEFAULT '',
  aliases     TEXT NOT NULL CHECK (json_valid(aliases)),
  checkpoints TEXT NOT NULL CHECK (json_valid(checkpoints)),
  faults      TEXT NOT NULL CHECK (json_valid(faults)),
  cautions    TEXT NOT NULL CHECK (json_valid(cautions)),
  surfaces    TEXT NOT NULL CHECK (json_valid(surfaces)),
  deleted_at  TEXT
) STRICT;
CREATE UNIQUE INDEX technique_name ON technique (program_id, name_key) WHERE deleted_at IS NULL;

CREATE TABLE requirement (
  id           TEXT PRIMARY KEY,
  rung_id      TEXT NOT NULL REFERENCES rung (id),
  section_id   TEXT NOT NULL REFERENCES section (id),
  technique_id TEXT NOT NULL REFERENCES technique (id),
  position     INTEGER NOT NULL,
  role         TEXT NOT NULL,
  measure      TEXT NOT NULL,
  reps         INTEGER NOT NULL DEFAULT 0,
  seconds      INTEGER NOT NULL DEFAULT 0,
  rounds       INTEGER NOT NULL DEFAULT 0,
  rest         INTEGER NOT NULL DEFAULT 0,
  must_pass    INTEGER NOT NULL DEFAULT 0 CHECK (must_pass IN (0, 1)),
  bonus        INTEGER NOT NULL DEFAULT 0 CHECK (bonus IN (0, 1)),
  weight       INTEGER NOT NULL DEFAULT 1 CHECK (weight BETWEEN 1 AND 100),
  note         TEXT NOT NULL DEFAULT '',
  deleted_at   TEXT
) STRICT;
CREATE INDEX requirement_rung ON requirement (rung_id);
CREATE INDEX requirement_technique ON requirement (technique_id);
CREATE INDEX requirement_section ON requirement (section_id);

CREATE TABLE student (
  id           TEXT PRIMARY KEY,
  name         TEXT NOT NULL,
  name_key     TEXT NOT NULL,
  birth_date   TEXT,
  guardian     TEXT NOT NULL DEFAULT '',
  contact      TEXT NOT NULL DEFAULT '',
  stance       TEXT NOT NULL CHECK (stance IN ('orthodox', 'southpaw')),
  height_cm    INTEGER NOT NULL DEFAULT 0,
  belt_size    TEXT NOT NULL DEFAULT '',
  uniform_size TEXT NOT NULL DEFAULT '',
  limits       TEXT NOT NULL DEFAULT '',
  joined_on    TEXT,
  deleted_at   TEXT
) STRICT;
CREATE INDEX student_name ON student (name_key) WHERE deleted_at IS NULL;
CREATE INDEX student_deleted ON student (id) WHERE deleted_at IS NOT NULL;

-- A student climbs a program's ladder. rung_id follows the newest rank entry.
CREATE TABLE enrolment (
  id         TEXT PRIMARY KEY,
  student_id TEXT NOT NULL REFERENCES student (id),
  program_id TEXT NOT NULL REFERENCES program (id),
  rung_id    TEXT NOT NULL REFERENCES rung (id),
  since      TEXT NOT NULL, -- standing on rung_id since
  ended_on   TEXT
) STRICT;
CREATE UNIQUE INDEX enrolment_student ON enrolment (student_id, program_id);
CREATE INDEX enrolment_rung ON enrolment (rung_id, ended_on, since);
CREATE INDEX enrolment_program ON enrolment (program_id, ended_on);

-- Gradings

CREATE TABLE grading (
  id          TEXT PRIMARY KEY,
  program_id  TEXT NOT NULL REFERENCES program (id),
  name        TEXT NOT NULL DEFAULT '',
  on_date     TEXT NOT NULL,
  place       TEXT NOT NULL DEFAULT '',
  marking     TEXT NOT NULL CHECK (marking IN ('movement_scale', 'category_points', 'sign_off')),
  policy      TEXT NOT NULL CHECK (json_valid(policy)), -- the grading's own copy
  group_size  INTEGER NOT NULL CHECK (group_size BETWEEN 1 AND 4),
  retest_days INTEGER NOT NULL CHECK (retest_days BETWEEN 0 AND 730),
  begun_at    TEXT, -- sheets are frozen and tables open from then on
  deleted_at  TEXT
) STRICT;
CREATE INDEX grading_program ON grading (program_id, on_date);

CREATE TABLE grading_rung (
  grading_id TEXT NOT NULL REFERENCES grading (id),
  rung_id    TEXT NOT NULL REFERENCES rung (id),
  PRIMARY KEY (grading_id, rung_id)
) STRICT;

CREATE TABLE panel (
  id         TEXT PRIMARY KEY,
  grading_id TEXT NOT NULL REFERENCES grading (id),
  name       TEXT NOT NULL,
  position   INTEGER NOT NULL
) STRICT;
CREATE INDEX panel_grading ON panel (grading_id);

CREATE TABLE examiner (
  id       TEXT PRIMARY KEY,
  panel_id TEXT NOT NULL REFERENCES panel (id),
  name     TEXT NOT NULL,
  letter   TEXT NOT NULL, -- the short mark on the plumb line
  chief    INTEGER NOT NULL CHECK (chief IN (0, 1)),
  position INTEGER NOT NULL
) STRICT;
CREATE INDEX examiner_panel ON examiner (panel_id);

CREATE TABLE candidate_group (
  id         TEXT PRIMARY KEY,
  grading_id TEXT NOT NULL REFERENCES grading (id),
  panel_id   TEXT NOT NULL REFERENCES panel (id),
  name       TEXT NOT NULL,
  position   INTEGER NOT NULL
) STRICT;
CREATE INDEX candidate_group_grading ON candidate_group (grading_id);

-- A frozen test sheet. Nothing is ever looked up through the rung again.
CREATE TABLE test_sheet (
  id                 TEXT PRIMARY KEY,
  grading_id         TEXT NOT NULL REFERENCES grading (id),
  rung_id            TEXT NOT NULL REFERENCES rung (id),
  rung_words         TEXT NOT NULL,
  track              TEXT,
  seed               INTEGER,
  curriculum_version TEXT,
  seconds            INTEGER NOT NULL,
  at                 TEXT NOT NULL
) STRICT;
CREATE INDEX test_sheet_grading ON test_sheet (grading_id);

-- What gets a mark: a line, or a category that gathers lines.
CREATE TABLE test_item (
  id        TEXT PRIMARY KEY,
  sheet_id  TEXT NOT NULL REFERENCES test_sheet (id),
  position  INTEGER NOT NULL,
  label     TEXT NOT NULL,
  section   TEXT NOT NULL,
  weight    INTEGER NOT NULL,
  bonus     INTEGER NOT NULL,
  must_pass INTEGER NOT NULL
) STRICT;
CREATE INDEX test_item_sheet ON test_item (sheet_id);

CREATE TABLE test_line (
  id       TEXT PRIMARY KEY,
  sheet_id TEXT NOT NULL REFERENCES test_sheet (id),
  item_id  TEXT NOT NULL REFERENCES test_item (id),
  position INTEGER NOT NULL,
  line     TEXT NOT NULL CHECK (json_valid(line))
) STRICT;
CREATE INDEX test_line_sheet ON test_line (sheet_id);

CREATE TABLE candidate (
  id           TEXT PRIMARY KEY,
  grading_id   TEXT NOT NULL REFERENCES grading (id),
  group_id     TEXT NOT NULL REFERENCES candidate_group (id),
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  number       INTEGER NOT NULL,
  from_rung_id TEXT NOT NULL REFERENCES rung (id),
  from_words   TEXT NOT NULL,
  to_rung_id   TEXT NOT NULL REFERENCES rung (id),
  to_words     TEXT NOT NULL,
  sheet_id     TEXT REFERENCES test_sheet (id),
  reason       TEXT NOT NULL DEFAULT '', -- why someone not on the rung below is tested
  withdrawn_at TEXT
) STRICT;
CREATE UNIQUE INDEX candidate_once ON candidate (grading_id, enrolment_id) WHERE withdrawn_at IS NULL;
CREATE INDEX candidate_enrolment ON candidate (enrolment_id);
CREATE INDEX candidate_group_of ON candidate (group_id);

-- What happened: append-only, each with the id its maker gave it and the one it supersedes.

CREATE TABLE rank_entry (
  id           TEXT PRIMARY KEY,
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  rung_id      TEXT NOT NULL REFERENCES rung (id),
  rung_words   TEXT NOT NULL,
  on_date      TEXT NOT NULL,
  kind         TEXT NOT NULL CHECK (kind IN ('start', 'promotion', 'correction')),
  reason       TEXT NOT NULL DEFAULT '',
  candidate_id TEXT REFERENCES candidate (id),
  supersedes   TEXT UNIQUE REFERENCES rank_entry (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX rank_entry_enrolment ON rank_entry (enrolment_id);
CREATE UNIQUE INDEX rank_entry_start ON rank_entry (enrolment_id) WHERE supersedes IS NULL AND kind = 'start';

CREATE TABLE mark_event (
  id           TEXT PRIMARY KEY,
  candidate_id TEXT NOT NULL REFERENCES candidate (id),
  examiner_id  TEXT NOT NULL REFERENCES examiner (id),
  item_id      TEXT NOT NULL REFERENCES test_item (id),
  kind         TEXT NOT NULL CHECK (kind IN ('mark', 'not_seen', 'open')), -- open: a note, or a mark taken back
  value        INTEGER CHECK ((kind = 'mark') = (value IS NOT NULL)), -- billionths of a point
  note         TEXT NOT NULL DEFAULT '',
  supersedes   TEXT UNIQUE REFERENCES mark_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX mark_event_first ON mark_event (candidate_id, examiner_id, item_id) WHERE supersedes IS NULL;
CREATE INDEX mark_event_place ON mark_event (candidate_id, examiner_id, item_id);

CREATE VIEW mark AS
SELECT * FROM mark_event e WHERE NOT EXISTS (SELECT 1 FROM mark_event n WHERE n.supersedes = e.id);

CREATE TABLE fault_event (
  id           TEXT PRIMARY KEY,
  candidate_id TEXT NOT NULL REFERENCES candidate (id),
  examiner_id  TEXT NOT NULL REFERENCES examiner (id),
  kind         TEXT NOT NULL CHECK (kind IN ('note', 'deduction', 'ending', 'ending_confirmed', 'withdrawn')),
  points       INTEGER NOT NULL DEFAULT 0 CHECK (points >= 0), -- billionths, of a deduction
  text         TEXT NOT NULL,
  supersedes   TEXT UNIQUE REFERENCES fault_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX fault_event_candidate ON fault_event (candidate_id);

CREATE VIEW fault AS
SELECT * FROM fault_event e
WHERE kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM fault_event n WHERE n.supersedes = e.id);

-- An examiner signs the sheet of a group; reopening needs a reason.
CREATE TABLE signature_event (
  id          TEXT PRIMARY KEY,
  examiner_id TEXT NOT NULL REFERENCES examiner (id),
  group_id    TEXT NOT NULL REFERENCES candidate_group (id),
  kind        TEXT NOT NULL CHECK (kind IN ('signed', 'reopened')),
  reason      TEXT NOT NULL DEFAULT '',
  supersedes  TEXT UNIQUE REFERENCES signature_event (id),
  actor       TEXT NOT NULL,
  at          TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX signature_event_first ON signature_event (examiner_id, group_id) WHERE supersedes IS NULL;

CREATE VIEW signature AS
SELECT * FROM signature_event e
WHERE kind = 'signed' AND NOT EXISTS (SELECT 1 FROM signature_event n WHERE n.supersedes = e.id);

CREATE TABLE decision_event (
  id           TEXT PRIMARY KEY,
  candidate_id TEXT NOT NULL REFERENCES candidate (id),
  outcome      TEXT NOT NULL CHECK (outcome IN ('promote', 'promote_with_honours', 'refer_for_double_promotion', 'retest', 'undone')),
  proposal     TEXT NOT NULL, -- what the marks said when it was decided
  reason       TEXT NOT NULL DEFAULT '',
  retest_from  TEXT,
  decided_by   TEXT NOT NULL,
  supersedes   TEXT UNIQUE REFERENCES decision_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX decision_event_first ON decision_event (candidate_id) WHERE supersedes IS NULL;
CREATE INDEX decision_event_candidate ON decision_event (candidate_id);

CREATE VIEW decision AS
SELECT * FROM decision_event e
WHERE outcome <> 'undone' AND NOT EXISTS (SELECT 1 FROM decision_event n WHERE n.supersedes = e.id);

CREATE TABLE announcement (
  candidate_id TEXT PRIMARY KEY REFERENCES candidate (id),
  decision_id  TEXT NOT NULL UNIQUE REFERENCES decision_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;

-- Who did what, in the transaction of the deed itself.
CREATE TABLE audit (
  seq     INTEGER PRIMARY KEY,
  id      TEXT NOT NULL UNIQUE,
  at      TEXT NOT NULL,
  actor   TEXT NOT NULL,
  action  TEXT NOT NULL, -- in words: "Added Orange belt"
  changes TEXT NOT NULL CHECK (json_valid(changes)), -- rows of definitions before and after
  undoes  TEXT REFERENCES audit (id)
) STRICT;

-- A request that was answered: the same again gets the same answer, other content a refusal.
CREATE TABLE request (
  id     TEXT PRIMARY KEY,
  digest TEXT NOT NULL,
  result TEXT NOT NULL,
  audit  TEXT NOT NULL,
  at     TEXT NOT NULL
) STRICT;

-- +goose StatementBegin
CREATE TRIGGER rank_entry_no_update BEFORE UPDATE ON rank_entry BEGIN
  SELECT RAISE(ABORT, 'rank_entry is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER rank_entry_no_delete BEFORE DELETE ON rank_entry BEGIN
  SELECT RAISE(ABORT, 'rank_entry is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER mark_event_no_update BEFORE UPDATE ON mark_event BEGIN
  SELECT RAISE(ABORT, 'mark_event is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER mark_event_no_delete BEFORE DELETE ON mark_event BEGIN
  SELECT RAISE(ABORT, 'mark_event is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER fault_event_no_update BEFORE UPDATE ON fault_event BEGIN
  SELECT RAISE(ABORT, 'fault_event is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER fault_event_no_delete BEFORE DELETE ON fault_event BEGIN
  SELECT RAISE(ABORT, 'fault_event is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER signature_event_no_update BEFORE UPDATE ON signature_event BEGIN
  SELECT RAISE(ABORT, 'signature_event is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER signature_event_no_delete BEFORE DELETE ON signature_event BEGIN
  SELECT RAISE(ABORT, 'signature_event is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER decision_event_no_update BEFORE UPDATE ON decision_event BEGIN
  SELECT RAISE(ABORT, 'decision_event is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER decision_event_no_delete BEFORE DELETE ON decision_event BEGIN
  SELECT RAISE(ABORT, 'decision_event is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER announcement_no_update BEFORE UPDATE ON announcement BEGIN
  SELECT RAISE(ABORT, 'announcement is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER announcement_no_delete BEFORE DELETE ON announcement BEGIN
  SELECT RAISE(ABORT, 'announcement is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER audit_no_update BEFORE UPDATE ON audit BEGIN
  SELECT RAISE(ABORT, 'audit is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER audit_no_delete BEFORE DELETE ON audit BEGIN
  SELECT RAISE(ABORT, 'audit is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER test_sheet_no_update BEFORE UPDATE ON test_sheet BEGIN
  SELECT RAISE(ABORT, 'test_sheet is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER test_sheet_no_delete BEFORE DELETE ON test_sheet BEGIN
  SELECT RAISE(ABORT, 'test_sheet is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER test_item_no_update BEFORE UPDATE ON test_item BEGIN
  SELECT RAISE(ABORT, 'test_item is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER test_item_no_delete BEFORE DELETE ON test_item BEGIN
  SELECT RAISE(ABORT, 'test_item is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER test_line_no_update BEFORE UPDATE ON test_line BEGIN
  SELECT RAISE(ABORT, 'test_line is append-only');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER test_line_no_delete BEFORE DELETE ON test_line BEGIN
  SELECT RAISE(ABORT, 'test_line is append-only');
END;
-- +goose StatementEnd
