-- +goose Up

-- What a week is about, for one program: some of its sections, or words of the school's own.
CREATE TABLE week_theme (
  id         TEXT PRIMARY KEY,
  program_id TEXT NOT NULL REFERENCES program (id),
  week       TEXT NOT NULL, -- its first day
  words      TEXT NOT NULL,
  sections   TEXT NOT NULL CHECK (json_valid(sections)), -- ids
  deleted_at TEXT
) STRICT;
CREATE UNIQUE INDEX week_theme_week ON week_theme (program_id, week) WHERE deleted_at IS NULL;
