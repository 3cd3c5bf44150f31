-- +goose Up
-- Where the second rung of a referral is tested, if it is.
ALTER TABLE referral_event ADD COLUMN grading_id TEXT REFERENCES grading (id);
