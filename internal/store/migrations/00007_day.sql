-- +goose Up

-- A ring is a panel's floor. A group moved by hand stays in its ring.
ALTER TABLE candidate_group ADD COLUMN pinned INTEGER NOT NULL DEFAULT 0 CHECK (pinned IN (0, 1));

ALTER TABLE grading ADD COLUMN results TEXT NOT NULL DEFAULT 'held' CHECK (results IN ('held', 'at_once'));
ALTER TABLE grading ADD COLUMN retest_scope TEXT NOT NULL DEFAULT 'whole' CHECK (retest_scope IN ('whole', 'items', 'sections'));
ALTER TABLE grading ADD COLUMN carry_days INTEGER NOT NULL DEFAULT 180 CHECK (carry_days BETWEEN 1 AND 730);
ALTER TABLE grading ADD COLUMN announce_at TEXT; -- when what is decided becomes known by itself
ALTER TABLE grading ADD COLUMN closed_at TEXT; -- examiners' devices are out from then on

-- A count behind a mark: press-ups, skips.
ALTER TABLE mark_event ADD COLUMN count INTEGER CHECK (count BETWEEN 0 AND 100000);

-- How far a day is, is read again and again: the few entries that are no mark, and each
-- examiner's newest, are found without reading all the others.
CREATE INDEX mark_event_unseen ON mark_event (candidate_id, item_id) WHERE kind = 'not_seen';
CREATE INDEX mark_event_newest ON mark_event (examiner_id, at);
CREATE INDEX mark_event_open ON mark_event (candidate_id, examiner_id) WHERE kind = 'open';

-- What a candidate has passed at an earlier attempt is on the sheet and not asked again.
ALTER TABLE test_item ADD COLUMN carried INTEGER; -- the mark it stands at, billionths of a point
ALTER TABLE test_item ADD COLUMN carried_on TEXT;

ALTER TABLE decision_event ADD COLUMN scope TEXT NOT NULL DEFAULT 'whole' CHECK (scope IN ('whole', 'items', 'sections'));
ALTER TABLE decision_event ADD COLUMN held INTEGER NOT NULL DEFAULT 0 CHECK (held IN (0, 1));
ALTER TABLE decision_event ADD COLUMN correction INTEGER NOT NULL DEFAULT 0 CHECK (correction IN (0, 1)); -- of a result that was announced

ALTER TABLE fault_event ADD COLUMN conduct TEXT NOT NULL DEFAULT '';
ALTER TABLE fault_event ADD COLUMN bout_id TEXT REFERENCES bout (id);

DROP VIEW mark;
CREATE VIEW mark AS
SELECT * FROM mark_event e WHERE NOT EXISTS (SELECT 1 FROM mark_event n WHERE n.supersedes = e.id);
DROP VIEW fault;
CREATE VIEW fault AS
SELECT * FROM fault_event e
WHERE kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM fault_event n WHERE n.supersedes = e.id);
DROP VIEW decision;
CREATE VIEW decision AS
SELECT * FROM decision_event e
WHERE outcome <> 'undone' AND NOT EXISTS (SELECT 1 FROM decision_event n WHERE n.supersedes = e.id);

-- A code lets one device in, once, as one examiner of one grading. Only its digest is kept.
CREATE TABLE join_code (
  id          TEXT PRIMARY KEY,
  examiner_id TEXT NOT NULL REFERENCES examiner (id),
  digest      TEXT NOT NULL UNIQUE,
  until       TEXT NOT NULL,
  used_at     TEXT,
  ended_at    TEXT,
  actor       TEXT NOT NULL,
  at          TEXT NOT NULL
) STRICT;
CREATE INDEX join_code_examiner ON join_code (examiner_id);

-- A seat is a device that came in by a code.
CREATE TABLE seat (
  id          TEXT PRIMARY KEY,
  code_id     TEXT NOT NULL UNIQUE REFERENCES join_code (id),
  examiner_id TEXT NOT NULL REFERENCES examiner (id),
  device      TEXT NOT NULL,
  at          TEXT NOT NULL,
  ended_at    TEXT,
  ended_by    TEXT
) STRICT;
CREATE INDEX seat_examiner ON seat (examiner_id);

-- What a ring's devices agree on: what is called now, and the clock. No record of anybody.
CREATE TABLE ring_state (
  panel_id TEXT PRIMARY KEY REFERENCES panel (id),
  called   TEXT NOT NULL CHECK (json_valid(called)),
  clock    TEXT NOT NULL CHECK (json_valid(clock))
) STRICT;

-- A bout of two candidates, or of one with a partner from outside.
CREATE TABLE bout (
  id       TEXT PRIMARY KEY,
  panel_id TEXT NOT NULL REFERENCES panel (id),
  a        TEXT NOT NULL REFERENCES candidate (id),
  b        TEXT REFERENCES candidate (id),
  partner  TEXT NOT NULL DEFAULT '',
  rounds   INTEGER NOT NULL CHECK (rounds BETWEEN 1 AND 20),
  seconds  INTEGER NOT NULL CHECK (seconds BETWEEN 1 AND 3600),
  rule     TEXT NOT NULL CHECK (json_valid(rule)), -- the sparring rule as it stood
  actor    TEXT NOT NULL,
  at       TEXT NOT NULL
) STRICT;
CREATE INDEX bout_panel ON bout (panel_id);
CREATE INDEX bout_a ON bout (a);
CREATE INDEX bout_b ON bout (b);

CREATE TABLE bout_event (
  id         TEXT PRIMARY KEY,
  bout_id    TEXT NOT NULL REFERENCES bout (id),
  kind       TEXT NOT NULL CHECK (kind IN ('point', 'ended', 'stopped', 'withdrawn')),
  side       TEXT NOT NULL DEFAULT '' CHECK (side IN ('', 'a', 'b')),
  round      INTEGER NOT NULL DEFAULT 1,
  points     INTEGER NOT NULL DEFAULT 0 CHECK (points BETWEEN 0 AND 10),
  text       TEXT NOT NULL DEFAULT '',
  supersedes TEXT UNIQUE REFERENCES bout_event (id),
  actor      TEXT NOT NULL,
  at         TEXT NOT NULL
) STRICT;
CREATE INDEX bout_event_bout ON bout_event (bout_id);

-- What became of a referral for double promotion.
CREATE TABLE referral_event (
  id           TEXT PRIMARY KEY,
  candidate_id TEXT NOT NULL UNIQUE REFERENCES candidate (id),
  granted      INTEGER NOT NULL CHECK (granted IN (0, 1)),
  reason       TEXT NOT NULL,
  decided_by   TEXT NOT NULL,
  actor        TEXT NOT NULL,
  at           TEXT NOT NULL
) STRICT;

CREATE INDEX audit_at ON audit (at);
CREATE INDEX audit_undoes ON audit (undoes) WHERE undoes IS NOT NULL;

-- +goose StatementBegin
CREATE TRIGGER bout_no_update BEFORE UPDATE ON bout BEGIN SELECT RAISE(ABORT, 'bout is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER bout_no_delete BEFORE DELETE ON bout BEGIN SELECT RAISE(ABORT, 'bout is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER bout_event_no_update BEFORE UPDATE ON bout_event BEGIN SELECT RAISE(ABORT, 'bout_event is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER bout_event_no_delete BEFORE DELETE ON bout_event BEGIN SELECT RAISE(ABORT, 'bout_event is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER referral_event_no_update BEFORE UPDATE ON referral_event BEGIN SELECT RAISE(ABORT, 'referral_event is append-only'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER referral_event_no_delete BEFORE DELETE ON referral_event BEGIN SELECT RAISE(ABORT, 'referral_event is append-only'); END;
-- +goose StatementEnd
