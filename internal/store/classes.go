package store

import (
	"context"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/timetable"
)

const classColumns = `c.id, c.name, c.kind, c.weekday, c.start, c.minutes, c.from_date, c.to_date, c.programs, c.tracks, c.place`

func bindClass(c *timetable.Class) []any {
	return []any{&c.ID, &c.Name, &c.Kind, &c.Weekday, &c.Start, &c.Minutes, asDate{&c.From}, asDate{&c.To}, asJSON{&c.Programs}, asJSON{&c.Tracks}, &c.Place}
}

func readTimetable(ctx context.Context, q querier) (t timetable.Table, err error) {
	if t.Classes, err = list(ctx, q, bindClass, `SELECT `+classColumns+` FROM class c WHERE deleted_at IS NULL ORDER BY weekday, start, name`); err != nil {
		return t, err
	}
	t.Closures, err = list(ctx, q, func(c *timetable.Closure) []any {
		return []any{&c.ID, asText{&c.ClassID}, asDate{&c.From}, asDate{&c.To}, &c.Reason}
	}, `SELECT id, class_id, from_date, to_date, reason FROM closure WHERE deleted_at IS NULL ORDER BY from_date DESC`)
	return t, err
}

// Timetable is the school's week with what is closed, the newest closure first.
func (s *Store) Timetable(ctx context.Context) (timetable.Table, error) {
	return readTimetable(ctx, s.r)
}

// Class is one class of the timetable.
func (s *Store) Class(ctx context.Context, id string) (timetable.Class, error) {
	return one(ctx, s.r, bindClass, `SELECT `+classColumns+` FROM class c WHERE id = ? AND deleted_at IS NULL`, id)
}

// SaveClass adds a class when the ID is empty, else changes it. Registers that were kept stay
// as they are.
func (s *Store) SaveClass(ctx context.Context, by By, c timetable.Class) (Done, error) {
	c.Name, c.Kind, c.Place = check.Tidy(c.Name), check.Tidy(c.Kind), check.Tidy(c.Place)
	if err := c.Check().Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		id, deed := c.ID, office.Changed.Named(c.Name)
		if id == "" {
			id, deed.Kind = NewID(), office.Added
		}
		if err := t.touch(ctx, "class", id); err != nil {
			return "", office.Deed{}, err
		}
		values := []any{c.Name, c.Kind, c.Weekday, c.Start, c.Minutes, c.From.String(), dateOrNull(c.To), toJSON(c.Programs), toJSON(c.Tracks), c.Place, id}
		if c.ID == "" {
			return id, deed, t.exec(ctx, `INSERT INTO class (name, kind, weekday, start, minutes, from_date, to_date, programs, tracks, place, id) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`, values...)
		}
		return id, deed, t.exec(ctx, `UPDATE class SET name = ?, kind = ?, weekday = ?, start = ?, minutes = ?, from_date = ?, to_date = ?, programs = ?, tracks = ?, place = ? WHERE id = ? AND deleted_at IS NULL`, values...)
	})
}

// DeleteClass takes a class off the timetable as if it had never been on it. The registers
// that were kept of it stay.
func (s *Store) DeleteClass(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "class", id)
}

// AddClosure records that a class, or every class, is not held for some days.
func (s *Store) AddClosure(ctx context.Context, by By, c timetable.Closure) (Done, error) {
	c.Reason = check.Tidy(c.Reason)
	if c.To.IsZero() {
		c.To = c.From
	}
	if err := c.Check().Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if c.ClassID != "" {
			if _, err := one(ctx, t, bindClass, `SELECT `+classColumns+` FROM class c WHERE id = ? AND deleted_at IS NULL`, c.ClassID); err != nil {
				return "", office.Deed{}, err
			}
		}
		kept, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM register WHERE on_date BETWEEN ? AND ? AND (?3 = '' OR class_id = ?3)`, c.From.String(), c.To.String(), c.ClassID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if kept > 0 {
			return "", office.Deed{}, check.Problems{{Field: "from", Text: "in these days " + check.Count(kept, "register") + " were kept already, so classes were held; choose days without one"}}
		}
		id := NewID()
		if err := t.touch(ctx, "closure", id); err != nil {
			return "", office.Deed{}, err
		}
		return id, office.Closed.Named(c.Reason), t.exec(ctx, `INSERT INTO closure (id, class_id, from_date, to_date, reason) VALUES (?, nullif(?, ''), ?, ?, ?)`, id, c.ClassID, c.From.String(), c.To.String(), c.Reason)
	})
}

// DeleteClosure takes a closure back.
func (s *Store) DeleteClosure(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "closure", id)
}

// Register is a class that was held on a day.
type Register struct {
	ID   string
	On   civil.Date
	Came int
	timetable.Class
}

// Registers are the registers kept from a day to a day, newest first, with how many came.
func (s *Store) Registers(ctx context.Context, from, to civil.Date) ([]Register, error) {
	return list(ctx, s.r, func(r *Register) []any {
		return []any{&r.ID, &r.Class.ID, asDate{&r.On}, &r.Name, &r.Kind, &r.Start, &r.Minutes, asJSON{&r.Programs}, asJSON{&r.Tracks}, &r.Came}
	}, `SELECT r.id, r.class_id, r.on_date, r.name, r.kind, r.start, r.minutes, r.programs, r.tracks, (SELECT count(*) FROM attendance a WHERE a.register_id = r.id)
		FROM register r WHERE r.on_date BETWEEN ? AND ? ORDER BY r.on_date DESC, r.start DESC`, from.String(), to.String())
}

// Zone is the school's time zone.
func (s *Store) Zone() *time.Location { return s.zone }
