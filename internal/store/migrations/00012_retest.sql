-- +goose Up

-- A retest may be so many months after the grading, the end of a shorter month included.
ALTER TABLE grading ADD COLUMN retest_months INTEGER NOT NULL DEFAULT 0 CHECK (retest_months BETWEEN 0 AND 24);
