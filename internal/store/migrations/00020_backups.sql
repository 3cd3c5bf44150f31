-- +goose Up
-- To whom automatic backups are encrypted: an age recipient. Its identity lies here, and beside the backups, under a passphrase that is
-- kept nowhere.
CREATE TABLE backup_key (
  id        INTEGER PRIMARY KEY CHECK (id = 1),
  recipient TEXT NOT NULL,
  identity  TEXT NOT NULL,
  at        TEXT NOT NULL,
  actor     TEXT NOT NULL
) STRICT;

-- When a backup was opened and looked through, and what was in it.
CREATE TABLE backup_event (
  id       TEXT PRIMARY KEY,
  kind     TEXT NOT NULL CHECK (kind IN ('made', 'rehearsed')),
  name     TEXT NOT NULL,
  school   TEXT NOT NULL,
  students INTEGER NOT NULL,
  marks    INTEGER NOT NULL,
  last_at  TEXT, -- the last deed in it
  actor    TEXT NOT NULL,
  at       TEXT NOT NULL
) STRICT;
CREATE INDEX backup_event_kind ON backup_event (kind, at);
CREATE TRIGGER backup_event_no_update BEFORE UPDATE ON backup_event BEGIN SELECT RAISE(ABORT, 'backup_event is append-only'); END;
CREATE TRIGGER backup_event_no_delete BEFORE DELETE ON backup_event BEGIN SELECT RAISE(ABORT, 'backup_event is append-only'); END;
