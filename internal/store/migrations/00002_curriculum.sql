-- +goose Up

-- What belongs to a definition beyond its first columns, as one JSON object each.
ALTER TABLE program ADD COLUMN details TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(details));
ALTER TABLE rung ADD COLUMN details TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(details));
ALTER TABLE technique ADD COLUMN details TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(details));
ALTER TABLE requirement ADD COLUMN details TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(details));

-- A published curriculum: the whole of it as it stood, in the open format.
CREATE TABLE version (
  id         TEXT PRIMARY KEY,
  program_id TEXT NOT NULL REFERENCES program (id),
  number     INTEGER NOT NULL,
  note       TEXT NOT NULL DEFAULT '',
  document   TEXT NOT NULL CHECK (json_valid(document)),
  revision   INTEGER NOT NULL, -- of the draft it was published from
  actor      TEXT NOT NULL,
  at         TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX version_number ON version (program_id, number);

-- A student climbs by the version current at enrolment until moved; NULL: none was
-- published yet, so the draft. track_id is set where a track is chosen by hand.
ALTER TABLE enrolment ADD COLUMN version_id TEXT REFERENCES version (id);
ALTER TABLE enrolment ADD COLUMN track_id TEXT NOT NULL DEFAULT '';
CREATE INDEX enrolment_version ON enrolment (version_id) WHERE version_id IS NOT NULL;

CREATE TABLE adaptation (
  id         TEXT PRIMARY KEY,
  student_id TEXT NOT NULL REFERENCES student (id),
  program_id TEXT NOT NULL REFERENCES program (id),
  what       TEXT NOT NULL CHECK (json_valid(what)),
  from_date  TEXT,
  to_date    TEXT,
  deleted_at TEXT
) STRICT;
CREATE INDEX adaptation_student ON adaptation (student_id);

ALTER TABLE grading ADD COLUMN seed INTEGER NOT NULL DEFAULT 0; -- what is drawn at it
ALTER TABLE test_sheet ADD COLUMN candidate_id TEXT REFERENCES candidate (id); -- of a sheet made for one alone
ALTER TABLE rank_entry ADD COLUMN grade TEXT NOT NULL DEFAULT '' CHECK (grade IN ('', 'provisional', 'permanent'));

-- Counts every change of a program's curriculum, so that one read of it serves until the next.
CREATE TABLE curriculum_revision (
  program_id TEXT PRIMARY KEY REFERENCES program (id),
  revision   INTEGER NOT NULL
) STRICT;
INSERT INTO curriculum_revision SELECT id, 1 FROM program;

-- +goose StatementBegin
CREATE TRIGGER program_made AFTER INSERT ON program BEGIN
  INSERT INTO curriculum_revision (program_id, revision) VALUES (NEW.id, 1);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER program_changed AFTER UPDATE ON program BEGIN
  UPDATE curriculum_revision SET revision = revision + 1 WHERE program_id = NEW.id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER section_made AFTER INSERT ON section BEGIN
  UPDATE curriculum_revision SET revision = revision + 1 WHERE program_id = NEW.program_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER section_changed AFTER UPDATE ON section BEGIN
  UPDATE curriculum_revision SET revision = revision + 1 WHERE program_id = NEW.program_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER rung_made AFTER INSERT ON rung BEGIN
  UPDATE curriculum_revision SET revision = revision + 1 WHERE program_id = NEW.program_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER rung_changed AFTER UPDATE ON rung BEGIN
  UPDATE curriculum_revision SET revision = revision + 1 WHERE program_id = NEW.program_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER technique_made AFTER INSERT ON technique BEGIN
  UPDATE curriculum_revision SET revision = revision + 1 WHERE program_id = NEW.program_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER technique_changed AFTER UPDATE ON technique BEGIN
  UPDATE curriculum_revision SET revision = revision + 1 WHERE program_id = NEW.program_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER requirement_made AFTER INSERT ON requirement BEGIN
  UPDATE curriculum_revision SET revision = revision + 1 WHERE program_id = (SELECT program_id FROM rung WHERE id = NEW.rung_id);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER requirement_changed AFTER UPDATE ON requirement BEGIN
  UPDATE curriculum_revision SET revision = revision + 1 WHERE program_id = (SELECT program_id FROM rung WHERE id = NEW.rung_id);
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER version_no_update BEFORE UPDATE ON version BEGIN
  SELECT RAISE(ABORT, 'version is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER version_no_delete BEFORE DELETE ON version BEGIN
  SELECT RAISE(ABORT, 'version is append-only');
END;
-- +goose StatementEnd
