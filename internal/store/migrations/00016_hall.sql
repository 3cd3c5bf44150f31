-- +goose Up
-- What an examiner notes beside a mark: faults of the line that were seen, and that it is asked for again.
ALTER TABLE mark_event ADD COLUMN faults TEXT NOT NULL DEFAULT '';
ALTER TABLE mark_event ADD COLUMN again TEXT NOT NULL DEFAULT '' CHECK (again IN ('', 'followed', 'disturbed', 'doubt'));
DROP VIEW mark;
CREATE VIEW mark AS
SELECT * FROM mark_event e WHERE NOT EXISTS (SELECT 1 FROM mark_event n WHERE n.supersedes = e.id);
