-- +goose Up

-- Who signs in. Passwords stand apart, so that no trail ever holds one.
CREATE TABLE person (
  id         TEXT PRIMARY KEY,
  name       TEXT NOT NULL,
  sign_in    TEXT NOT NULL, -- as typed at the door, in lower case
  role       TEXT NOT NULL CHECK (role IN ('owner', 'instructor')),
  deleted_at TEXT
) STRICT;
CREATE UNIQUE INDEX person_sign_in ON person (sign_in) WHERE deleted_at IS NULL;

CREATE TABLE person_password (
  person_id TEXT PRIMARY KEY REFERENCES person (id),
  hash      TEXT NOT NULL,             -- argon2id, with its parameters and salt
  stamp     INTEGER NOT NULL DEFAULT 1 -- counts changes: sessions of an older one end
) STRICT, WITHOUT ROWID;

CREATE TABLE sessions (
  token  TEXT PRIMARY KEY,
  data   BLOB NOT NULL,
  expiry REAL NOT NULL -- Julian day
) STRICT;
CREATE INDEX sessions_expiry ON sessions (expiry);
