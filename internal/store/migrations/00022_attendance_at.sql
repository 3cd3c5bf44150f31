-- +goose Up
-- What came out of one file has one instant: it can be taken back as a whole.
CREATE INDEX attendance_event_at ON attendance_event (at);

-- +goose Down
DROP INDEX attendance_event_at;
