-- +goose Up
-- Who is signed in where. A session names its row: what ends the row ends the session, on every device and in every program that
-- serves the file.
CREATE TABLE sign_in (
  id        TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES person (id),
  at        TEXT NOT NULL,
  seen_at   TEXT NOT NULL, -- last used, to a few minutes
  proved_at TEXT NOT NULL, -- when the password was last asked for
  address   TEXT NOT NULL,
  device    TEXT NOT NULL,
  ended_at  TEXT
) STRICT;
CREATE INDEX sign_in_person ON sign_in (person_id, address);

-- A code from the person's own device is asked for besides the password.
CREATE TABLE second_factor (
  person_id TEXT PRIMARY KEY REFERENCES person (id),
  secret    TEXT NOT NULL,    -- base 32; it has to be known to tell a right code
  step      INTEGER NOT NULL, -- half-minute of the last code that was taken: none works twice
  since     TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE recovery_code (
  digest    TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES person (id),
  used_at   TEXT
) STRICT, WITHOUT ROWID;
CREATE INDEX recovery_code_person ON recovery_code (person_id);

-- Sessions of a time before sign-ins were kept end.
DELETE FROM sessions;
ALTER TABLE person_password DROP COLUMN stamp;
