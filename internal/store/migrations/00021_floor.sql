-- +goose Up
-- Parts of the body that were measured, in millimetres; 0 is not measured.
ALTER TABLE student ADD COLUMN shoulder_mm INTEGER NOT NULL DEFAULT 0;
ALTER TABLE student ADD COLUMN leg_mm INTEGER NOT NULL DEFAULT 0;
ALTER TABLE student ADD COLUMN foot_mm INTEGER NOT NULL DEFAULT 0;

-- What a tape said of a student's stance on the mat, and what it was held against that day.
CREATE TABLE taped_event (
  id           TEXT PRIMARY KEY,
  student_id   TEXT NOT NULL REFERENCES student (id),
  technique_id TEXT NOT NULL REFERENCES technique (id),
  on_date      TEXT NOT NULL,
  kind         TEXT NOT NULL CHECK (kind IN ('taped', 'withdrawn')),
  held         TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(held)), -- measures, wanted, within
  fault        TEXT NOT NULL DEFAULT '', -- a fault of the technique that was noted with it
  supersedes   TEXT UNIQUE REFERENCES taped_event (id),
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;
CREATE INDEX taped_student ON taped_event (student_id, technique_id, at);
