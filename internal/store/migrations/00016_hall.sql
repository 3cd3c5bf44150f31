-- +goose Up
-- What an examiner notes beside a mark: faults of the line that were seen, and that it is asked for again.
ALTER TABLE mark_event ADD COLUMN faults TEXT NOT NULL DEFAULT '';
ALTER TABLE mark_event ADD COLUMN again TEXT NOT NULL DEFAULT '' CHECK (again IN ('', 'followed', 'disturbed', 'doubt'));
DROP VIEW mark;
CREATE VIEW mark AS
SELECT * FROM mark_event e WHERE NOT EXISTS (SELECT 1 FROM mark_event n WHERE n.supersedes = e.id);

-- A sheet without consequences, that examiners mark beside each other. Whoever knows its id may mark.
CREATE TABLE calibration (
  id           TEXT PRIMARY KEY,
  program_id   TEXT NOT NULL REFERENCES program (id),
  name         TEXT NOT NULL,
  what         TEXT NOT NULL DEFAULT '',
  scale        TEXT NOT NULL CHECK (json_valid(scale)),
  lines        TEXT NOT NULL CHECK (json_valid(lines)),
  performances TEXT NOT NULL CHECK (json_valid(performances)),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL,
  closed_at    TEXT,
  deleted_at   TEXT
) STRICT;
CREATE INDEX calibration_program ON calibration (program_id, at);

CREATE TABLE calibration_event (
  id             TEXT PRIMARY KEY,
  calibration_id TEXT NOT NULL REFERENCES calibration (id),
  who            TEXT NOT NULL,
  performance    INTEGER NOT NULL,
  line           INTEGER NOT NULL,
  kind           TEXT NOT NULL CHECK (kind IN ('mark', 'not_seen', 'open')),
  value          INTEGER CHECK ((kind = 'mark') = (value IS NOT NULL)), -- billionths of a point
  supersedes     TEXT UNIQUE REFERENCES calibration_event (id),
  at             TEXT NOT NULL
) STRICT;
CREATE INDEX calibration_event_place ON calibration_event (calibration_id, who, performance, line);

-- An examiner who is not there: nobody waits for their signature. What they marked stands.
ALTER TABLE examiner ADD COLUMN absent_at TEXT;
-- Every ring has a chief examiner; where one examiner sits alone, it is that one.
UPDATE examiner SET chief = 1 WHERE (SELECT count(*) FROM examiner x WHERE x.panel_id = examiner.panel_id) = 1;

-- Who left a grading and came back, with the reason. candidate.withdrawn_at is how it stands.
CREATE TABLE withdrawal_event (
  id           TEXT PRIMARY KEY,
  candidate_id TEXT NOT NULL REFERENCES candidate (id),
  kind         TEXT NOT NULL CHECK (kind IN ('left', 'back')),
  reason       TEXT NOT NULL DEFAULT '',
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX withdrawal_candidate ON withdrawal_event (candidate_id, at);
