-- +goose Up
-- Who was erased, and when the pages of the file were rebuilt, so that nothing of it is left in them.
CREATE TABLE erasure (
  student_id TEXT PRIMARY KEY REFERENCES student (id),
  at         TEXT NOT NULL,
  actor      TEXT NOT NULL,
  namesake   INTEGER NOT NULL DEFAULT 0 CHECK (namesake IN (0, 1)), -- somebody else has the name: where texts of others say it, it stayed
  rebuilt_at TEXT
) STRICT, WITHOUT ROWID;
INSERT INTO erasure (student_id, at, actor) SELECT id, erased_at, '' FROM student WHERE erased_at IS NOT NULL;
