package store

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"velvetladder/internal/core/office"
)

// Entry is one line of the audit trail.
type Entry struct {
	ID, Actor string
	Told      office.Told
	At        time.Time
	Undoable  bool
}

// mayTakeOut says, per table of definitions, what else refers to a row, so that undoing its
// making is refused for the same reasons as deleting it.
var mayTakeOut = map[string]func(context.Context, *txn, string) error{
	"program": programFree, "section": sectionFree, "rung": rungFree, "technique": techniqueFree,
	"requirement": func(context.Context, *txn, string) error { return nil },
	"student":     studentFree, "grading": gradingFree,
	"enrolment":  func(context.Context, *txn, string) error { return nil }, // only ever changed
	"adaptation": func(context.Context, *txn, string) error { return nil },
	"person":     personFree,
	"class":      func(context.Context, *txn, string) error { return nil }, // its registers stay
	"closure":    func(context.Context, *txn, string) error { return nil },
	"week_theme": func(context.Context, *txn, string) error { return nil },
	"officer":    func(context.Context, *txn, string) error { return nil }, // gradings keep the name
	// Only ever changed:
	"school": func(context.Context, *txn, string) error { return nil }, "candidate_group": func(context.Context, *txn, string) error { return nil }, "calibration": func(context.Context, *txn, string) error { return nil }, "examiner": func(context.Context, *txn, string) error { return nil },
}

// Trail returns the audit trail's entry with an id.
func (s *Store) Trail(ctx context.Context, id string) (Entry, error) {
	e, err := one(ctx, s.r, bindEntry, selectEntry+` WHERE a.id = ?`, id)
	if err != nil {
		return Entry{}, err
	}
	all := []entryRow{e}
	err = s.tell(ctx, all)
	return all[0].Entry, err
}

// Undo puts back the rows an entry changed, if nothing has changed them since. Undoing is
// itself an entry and can be undone.
func (s *Store) Undo(ctx context.Context, by By, entry string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		was, err := one(ctx, t, func(x *[2]string) []any { return []any{&x[0], &x[1]} }, `SELECT changes, kind FROM audit WHERE id = ?`, entry)
		if err != nil {
			return "", office.Deed{}, err
		}
		text, kind := was[0], was[1]
		if office.DeedKind(kind) == office.AttendanceRead {
			t.undoes = entry
			return entry, office.Deed{Kind: office.Undid}, t.takeBackAttendance(ctx, entry)
		}
		var changes []change
		dec := json.NewDecoder(strings.NewReader(text))
		dec.UseNumber()
		if err := dec.Decode(&changes); err != nil {
			return "", office.Deed{}, err
		}
		if len(changes) == 0 {
			return "", office.Deed{}, refuse("This cannot be undone: what happened stays on record, and is corrected by a new entry.")
		}
		t.undoes = entry
		for _, c := range changes { // two rows may have exchanged their names
			if c.Before["name_key"] != nil && c.After["name_key"] != nil && c.Before["name_key"] != c.After["name_key"] {
				if _, known := mayTakeOut[c.Table]; !known {
					continue
				}
				if _, err := t.ExecContext(ctx, `UPDATE `+c.Table+` SET name_key = 'being changed ' || id WHERE id = ? AND name_key = ?`, c.ID, c.After["name_key"]); err != nil {
					return "", office.Deed{}, err
				}
			}
		}
		for _, c := range slices.Backward(changes) {
			if err := t.putBack(ctx, c); err != nil {
				return "", office.Deed{}, err
			}
		}
		return entry, office.Deed{Kind: office.Undid}, nil
	})
}

func (t *txn) putBack(ctx context.Context, c change) error {
	free, known := mayTakeOut[c.Table]
	if !known {
		return refuse("This cannot be undone.")
	}
	if err := t.touch(ctx, c.Table, c.ID); err != nil {
		return err
	}
	now := t.before[len(t.before)-1].Before
	if key, _ := now["name_key"].(string); strings.HasPrefix(key, "being changed ") {
		now["name_key"] = c.After["name_key"]
	}
	since := map[string]any{} // columns that came with a later schema are not part of the deed
	for column := range c.After {
		since[column] = now[column]
	}
	if now == nil {
		since = nil
	}
	if same, err := sameRow(since, c.After); err != nil || !same {
		if err != nil {
			return err
		}
		return refuse("This cannot be undone: it was changed again since.")
	}
	before := c.Before
	if before == nil { // it was made: taking it out is the way back
		before = c.After
		before["deleted_at"] = t.at
	}
	if before["deleted_at"] != nil && now["deleted_at"] == nil {
		if err := free(ctx, t, c.ID); err != nil {
			return err
		}
	}
	if c.Table == "person" && before["deleted_at"] != nil {
		if err := t.endSignIns(ctx, c.ID, ""); err != nil {
			return err
		}
	}
	var sets []string
	var args []any
	for column, v := range before {
		sets = append(sets, fmt.Sprintf("%q = ?", column))
		if n, ok := v.(json.Number); ok {
			whole, err := n.Int64()
			if err != nil {
				return err
			}
			v = whole
		}
		args = append(args, v)
	}
	err := t.exec(ctx, `UPDATE `+c.Table+` SET `+strings.Join(sets, ", ")+` WHERE id = ?`, append(args, c.ID)...)
	name, _ := before["name"].(string)
	return named(err, "name", name, c.Table)
}

func sameRow(a, b map[string]any) (bool, error) {
	x, err := json.Marshal(a)
	if err != nil {
		return false, err
	}
	y, err := json.Marshal(b)
	return bytes.Equal(x, y), err
}
