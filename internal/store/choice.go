package store

import (
	"context"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
)

// maxChosen bounds what is chosen for one line.
const maxChosen = 20

// Choose keeps the combinations that a student would show on a free-choice line; none takes the choice
// back. Whether the school's rules allow them is the caller's to ask first.
func (s *Store) Choose(ctx context.Context, by By, enrolment, technique string, lines []string) (Done, error) {
	var p check.Problems
	if len(lines) > maxChosen {
		p.Add("lines", "there are %d; up to %d fit", len(lines), maxChosen)
	}
	for _, l := range lines {
		p.Line("lines", l, check.LineLength)
	}
	if len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		name, err := t.asksFor(ctx, enrolment, technique)
		if err != nil {
			return "", office.Deed{}, err
		}
		if err := t.notMore(ctx, MostChoices, "choices of today", `SELECT count(*) FROM choice_event WHERE enrolment_id = ? AND at >= ?`, enrolment, s.midnight()); err != nil {
			return "", office.Deed{}, err
		}
		deed := office.ChoiceMade.Named(name)
		if len(lines) == 0 {
			deed.Kind = office.ChoiceWithdrawn
		}
		id := NewID()
		return id, deed, t.exec(ctx, `INSERT INTO choice_event (id, enrolment_id, technique_id, lines, actor, at) VALUES (?, ?, ?, ?, ?, ?)`, id, enrolment, technique, toJSON(append([]string{}, lines...)), t.by.Actor, t.at)
	})
}

// Choices are what each of some climbs has chosen to show: enrolment → technique → combinations.
func (s *Store) Choices(ctx context.Context, enrolments ...string) (map[string]map[string][]string, error) {
	type row struct {
		enrolment, technique string
		lines                []string
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.enrolment, &x.technique, asJSON{&x.lines}} },
		`SELECT enrolment_id, technique_id, lines FROM choice_event WHERE enrolment_id IN (SELECT value FROM json_each(?)) ORDER BY rowid`, toJSON(append([]string{}, enrolments...)))
	out := map[string]map[string][]string{}
	for _, x := range rows {
		if out[x.enrolment] == nil {
			out[x.enrolment] = map[string][]string{}
		}
		out[x.enrolment][x.technique] = x.lines
	}
	return out, err
}
