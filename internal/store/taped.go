package store

import (
	"context"
	"database/sql"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/office"
)

// Taped is what a tape said of a student's stance on a day.
type Taped struct {
	ID, StudentID, TechniqueID, Technique string
	On                                    civil.Date
	Held                                  []floor.Held // as it was held against the definition of that day
	Fault                                 string       // of the technique, that was noted with it
	Actor                                 string
}

// RecordTaped puts on record what a tape said of a student's stance today.
func (s *Store) RecordTaped(ctx context.Context, by By, x Taped) (Done, error) {
	var p check.Problems
	if len(x.Held) == 0 {
		p.Add("width", "nothing was measured; write a width, a length or an angle")
	}
	p.Line("fault", x.Fault, check.LineLength)
	if len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if _, err := one(ctx, t, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.id = ? AND s.deleted_at IS NULL`, x.StudentID); err != nil {
			return "", office.Deed{}, err
		}
		name, err := one(ctx, t, func(n *string) []any { return []any{n} }, `SELECT name FROM technique WHERE id = ? AND deleted_at IS NULL`, x.TechniqueID)
		if err != nil {
			return "", office.Deed{}, err
		}
		id := NewID()
		return id, office.Deed{Kind: office.Taped, Who: x.StudentID, What: name},
			t.exec(ctx, `INSERT INTO taped_event (id, student_id, technique_id, on_date, kind, held, fault, actor, at) VALUES (?, ?, ?, ?, 'taped', ?, ?, ?, ?)`,
				id, x.StudentID, x.TechniqueID, s.Today().String(), toJSON(x.Held), x.Fault, t.by.Actor, t.at)
	})
}

// WithdrawTaped takes back what a tape was said to read. Both entries stay on record.
func (s *Store) WithdrawTaped(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		x, err := one(ctx, t, bindTaped, selectTaped+` AND e.id = ?`, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		back := NewID()
		return back, office.Deed{Kind: office.TapedWithdrawn, Who: x.StudentID, What: x.Technique},
			t.exec(ctx, `INSERT INTO taped_event (id, student_id, technique_id, on_date, kind, supersedes, actor, at) VALUES (?, ?, ?, ?, 'withdrawn', ?, ?, ?)`,
				back, x.StudentID, x.TechniqueID, s.Today().String(), sql.NullString{String: id, Valid: true}, t.by.Actor, t.at)
	})
}

const selectTaped = `SELECT e.id, e.student_id, e.technique_id, q.name, e.on_date, e.held, e.fault, e.actor
	FROM taped_event e
	JOIN technique q ON q.id = e.technique_id
	WHERE e.kind = 'taped'
	AND NOT EXISTS (SELECT 1 FROM taped_event n WHERE n.supersedes = e.id)`

func bindTaped(x *Taped) []any {
	return []any{&x.ID, &x.StudentID, &x.TechniqueID, &x.Technique, asDate{&x.On}, asJSON{&x.Held}, &x.Fault, &x.Actor}
}

// TapedOf is what a tape said of a student, the newest first, a hundred at most; of one technique, or of all where it is "".
func (s *Store) TapedOf(ctx context.Context, student, technique string) ([]Taped, error) {
	return list(ctx, s.r, bindTaped, selectTaped+` AND e.student_id = ? AND ? IN ('', e.technique_id) ORDER BY e.at DESC, e.rowid DESC LIMIT 100`, student, technique)
}
