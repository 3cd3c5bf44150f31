package store

import (
	"context"
	"database/sql"
	"time"

	"velvetladder/internal/core/agreement"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
)

// Calibration is one on record.
type Calibration struct {
	agreement.Calibration
	Actor    string
	At       time.Time
	ClosedAt time.Time // zero: it takes marks
	Who      int       // have marked
}

const selectCalibration = `SELECT c.id, c.program_id, c.name, c.what, c.scale, c.lines, c.performances, c.actor, c.at, c.closed_at,
	(SELECT count(DISTINCT e.who) FROM calibration_event e WHERE e.calibration_id = c.id) FROM calibration c WHERE c.deleted_at IS NULL `

func bindCalibration(c *Calibration) []any {
	return []any{&c.ID, &c.ProgramID, &c.Name, &c.What, asJSON{&c.Scale}, asJSON{&c.Lines}, asJSON{&c.Performances}, &c.Actor, asTime{&c.At}, asTime{&c.ClosedAt}, &c.Who}
}

// Calibrations are those of a program, the newest first.
func (s *Store) Calibrations(ctx context.Context, program string) ([]Calibration, error) {
	return list(ctx, s.r, bindCalibration, selectCalibration+`AND c.program_id = ? ORDER BY c.at DESC, c.id`, program)
}

// Calibration is one by its id.
func (s *Store) Calibration(ctx context.Context, id string) (Calibration, error) {
	return one(ctx, s.r, bindCalibration, selectCalibration+`AND c.id = ?`, id)
}

// CalibrationEntries are the entries of a calibration that stand.
func (s *Store) CalibrationEntries(ctx context.Context, id string) ([]agreement.Entry, error) {
	return list(ctx, s.r, bindEntryOf, selectCalibrationEntry+`WHERE e.calibration_id = ? AND NOT EXISTS (SELECT 1 FROM calibration_event n WHERE n.supersedes = e.id) ORDER BY e.who, e.performance, e.line`, id)
}

const selectCalibrationEntry = `SELECT e.id, e.calibration_id, e.who, e.performance, e.line, e.kind, e.value, e.supersedes FROM calibration_event e `

func bindEntryOf(e *agreement.Entry) []any {
	return []any{&e.ID, &e.Calibration, &e.Who, &e.Performance, &e.Line, &e.Kind, asDecimal{&e.Value}, asText{&e.Supersedes}}
}

// BeginCalibration puts a calibration on record.
func (s *Store) BeginCalibration(ctx context.Context, by By, c agreement.Calibration) (Done, error) {
	c.Tidy()
	if err := c.Check().Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		id := NewID()
		return id, office.CalibrationBegun.Named(c.Name), t.exec(ctx, `INSERT INTO calibration (id, program_id, name, what, scale, lines, performances, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			id, c.ProgramID, c.Name, c.What, toJSON(c.Scale), toJSON(c.Lines), toJSON(c.Performances), t.by.Actor, t.at)
	})
}

// CloseCalibration ends marking, or lets it go on.
func (s *Store) CloseCalibration(ctx context.Context, by By, id string, closed bool) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		c, err := one(ctx, t, bindCalibration, selectCalibration+`AND c.id = ?`, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		deed, at := office.CalibrationClosed, sql.NullString{String: t.at, Valid: closed}
		if !closed {
			deed = office.CalibrationOpened
		}
		return id, deed.Named(c.Name), t.exec(ctx, `UPDATE calibration SET closed_at = ? WHERE id = ?`, at, id)
	})
}

// DeleteCalibration takes a calibration off the list; undoing brings it back.
func (s *Store) DeleteCalibration(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		c, err := one(ctx, t, bindCalibration, selectCalibration+`AND c.id = ?`, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		if err := t.touch(ctx, "calibration", id); err != nil {
			return "", office.Deed{}, err
		}
		return c.ProgramID, office.Deleted.Named(c.Name), t.exec(ctx, `UPDATE calibration SET deleted_at = ? WHERE id = ?`, t.at, id)
	})
}

// RecordCalibration writes one entry of a calibration, under the same rules for ids as marks.
func (s *Store) RecordCalibration(ctx context.Context, by By, e agreement.Entry) error {
	e.Who = check.Tidy(e.Who)
	if e.Kind != gradingday.MarkGiven {
		e.Value = 0
	}
	_, err := s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		c, err := one(ctx, t, bindCalibration, selectCalibration+`AND c.id = ?`, e.Calibration)
		if err != nil {
			return "", office.Deed{}, err
		}
		if err := c.CheckEntry(e); err != nil {
			return "", office.Deed{}, err
		}
		same, err := list(ctx, t, bindEntryOf, selectCalibrationEntry+`WHERE e.id = ?`, e.ID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if len(same) > 0 {
			if same[0] != e {
				err = ErrConflict
			}
			return "", office.Deed{}, err
		}
		if !c.ClosedAt.IsZero() {
			return "", office.Deed{}, refuse("This calibration is closed; it takes no marks any more.")
		}
		stands, err := list(ctx, t, bindEntryOf, selectCalibrationEntry+`WHERE e.calibration_id = ? AND e.who = ? AND e.performance = ? AND e.line = ? AND NOT EXISTS (SELECT 1 FROM calibration_event n WHERE n.supersedes = e.id)`, e.Calibration, e.Who, e.Performance, e.Line)
		if err != nil {
			return "", office.Deed{}, err
		}
		if len(stands) == 0 && e.Supersedes != "" || len(stands) > 0 && stands[0].ID != e.Supersedes {
			return "", office.Deed{}, refuse("Another device has marked this as %s since; load the page again.", e.Who)
		}
		value := sql.NullInt64{Int64: int64(e.Value), Valid: e.Kind == gradingday.MarkGiven}
		return "", office.Deed{}, t.exec(ctx, `INSERT INTO calibration_event (id, calibration_id, who, performance, line, kind, value, supersedes, at) VALUES (?, ?, ?, ?, ?, ?, ?, nullif(?, ''), ?)`,
			e.ID, e.Calibration, e.Who, e.Performance, e.Line, e.Kind, value, e.Supersedes, t.at)
	})
	return err
}
