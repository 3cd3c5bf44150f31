package store

import (
	"context"
	"slices"
	"strings"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// quietAfter is after how many days without a class somebody has gone quiet.
const quietAfter = 21

// Quiet is a student who has not come for long.
type Quiet struct {
	Climbing
	Days    int
	PerWeek int // tenths of classes a week in the quarter before the last class
}

// GoneQuiet are those who climb in a program, have come before, and not for three weeks of which
// the school was open in part; the longest away first.
func (s *Store) GoneQuiet(ctx context.Context, program string) (out []Quiet, err error) {
	all, err := s.everyone(ctx, program)
	if err != nil {
		return nil, err
	}
	today := s.Today()
	kept, err := list(ctx, s.r, func(d *civil.Date) []any { return []any{asDate{d}} }, `SELECT max(on_date) FROM register WHERE programs = '[]' OR instr(programs, '"' || ? || '"')`, program)
	if err != nil || len(kept) == 0 {
		return nil, err
	}
	for _, c := range all {
		if c.LastOn.IsZero() || c.LastOn.DaysTo(today) < quietAfter || !c.LastOn.Before(kept[0]) {
			continue
		}
		q := Quiet{Climbing: c, Days: c.LastOn.DaysTo(today)}
		if first, weeks := c.weeks.from, c.weeks.counts; weeks != "" {
			last := first.DaysTo(c.LastOn)/7 + 1
			n, of := 0, 0
			for i := max(last-13, 0); i < min(last, len(weeks)); i++ {
				n, of = n+int(weeks[i]-'0'), of+1
			}
			q.PerWeek = 10 * n / max(of, 1)
		}
		out = append(out, q)
	}
	slices.SortStableFunc(out, func(x, y Quiet) int { return y.Days - x.Days })
	return out, nil
}

// Ways are the ways of all who ever climbed in a program: their stays on its rungs, oldest first.
// A correction moves a student without being a promotion.
func (s *Store) Ways(ctx context.Context, program string) (ways []progress.Way, stays []progress.Stay, err error) {
	type row struct {
		enrolment, student, name, kind string
		position                       int
		on, ended                      civil.Date
	}
	rows, err := list(ctx, s.r, func(x *row) []any {
		return []any{&x.enrolment, &x.student, &x.name, &x.kind, &x.position, asDate{&x.on}, asDate{&x.ended}}
	}, `SELECT e.id, s.id, s.name, k.kind, r.position, k.on_date, e.ended_on FROM rank_entry k JOIN enrolment e ON e.id = k.enrolment_id JOIN student s ON s.id = e.student_id AND s.deleted_at IS NULL
		JOIN rung r ON r.id = k.rung_id AND r.deleted_at IS NULL WHERE e.program_id = ? ORDER BY e.id, k.at, k.on_date`, program)
	if err != nil {
		return nil, nil, err
	}
	today := s.Today()
	last := ""
	for i, x := range rows {
		if x.enrolment != last {
			ways = append(ways, progress.Way{StudentID: x.student, Name: x.name, Left: x.ended})
			last = x.enrolment
		}
		w := &ways[len(ways)-1]
		stay := progress.Stay{StudentID: x.student, Name: x.name, Position: x.position, From: x.on, To: today}
		if !x.ended.IsZero() {
			stay.To = x.ended
		}
		if i+1 < len(rows) && rows[i+1].enrolment == x.enrolment {
			stay.To, stay.Ended = rows[i+1].on, rows[i+1].kind == "promotion"
		}
		w.Steps = append(w.Steps, stay)
		if stay.To.Before(stay.From) {
			continue // a correction that reaches back
		}
		stays = append(stays, stay)
	}
	return ways, stays, nil
}

// Tested is how candidates for a rung fared, over all announced gradings of a program.
type Tested struct {
	Rung            string
	Position        int
	Tried, Promoted int
	Retested        []Person // who was not promoted at least once: id and name
}

// PassRates are the announced results by rung, from the lowest up.
func (s *Store) PassRates(ctx context.Context, program string) (out []Tested, err error) {
	type row struct {
		rung, student, name string
		outcome             scoring.Outcome
		position            int
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.rung, &x.position, &x.student, &x.name, &x.outcome} },
		`SELECT r.name, r.position, s.id, s.name, d.outcome
		FROM grading g JOIN candidate c ON c.grading_id = g.id JOIN announcement a ON a.candidate_id = c.id CROSS JOIN decision d ON d.candidate_id = c.id
		JOIN rung r ON r.id = c.to_rung_id JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id
		WHERE g.program_id = ? ORDER BY r.position, s.name_key`, program)
	if err != nil {
		return nil, err
	}
	for _, x := range rows {
		if n := len(out); n == 0 || out[n-1].Rung != x.rung {
			out = append(out, Tested{Rung: x.rung, Position: x.position})
		}
		t := &out[len(out)-1]
		if t.Tried++; x.outcome.Promotes() {
			t.Promoted++
		} else {
			if n := len(t.Retested); n == 0 || t.Retested[n-1].ID != x.student {
				t.Retested = append(t.Retested, Person{ID: x.student, Name: x.name})
			}
		}
	}
	return out, nil
}

// Weak is how often one item was marked as failing, over all announced gradings of a program.
type Weak struct {
	Label, Section string
	Marks, Failing int
	Who            []Person // whose marks they were, each once
	Faults         []FaultCount
}

// FaultCount is how often examiners saw a fault of a line.
type FaultCount struct {
	Seen string
	N    int
}

// WeakItems are the items with marks, the one that fails most first: by the share of weak
// marks, as scoring.Policy.Weak has it.
func (s *Store) WeakItems(ctx context.Context, program string) (out []Weak, err error) {
	policies, err := policiesOf(ctx, s.r, program)
	if err != nil {
		return nil, err
	}
	type row struct {
		label, section string
		student, name  string
		grading        string
		value          scoring.Decimal
		marks          int
	}
	rows, err := list(ctx, s.r, func(x *row) []any {
		return []any{&x.label, &x.section, &x.student, &x.name, &x.grading, asDecimal{&x.value}, &x.marks}
	}, `SELECT i.label, i.section, s.id, s.name, g.id, m.value, count(*)
		FROM grading g CROSS JOIN candidate c ON c.grading_id = g.id JOIN announcement a ON a.candidate_id = c.id CROSS JOIN mark m ON m.candidate_id = c.id AND m.kind = 'mark'
		JOIN test_item i ON i.id = m.item_id AND i.bonus = 0 JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id
		WHERE g.program_id = ? GROUP BY i.label, i.section, s.id, g.id, m.value ORDER BY i.label, i.section, s.name_key, s.id`, program)
	if err != nil {
		return nil, err
	}
	for _, x := range rows {
		if n := len(out); n == 0 || out[n-1].Label != x.label || out[n-1].Section != x.section {
			out = append(out, Weak{Label: x.label, Section: x.section})
		}
		w := &out[len(out)-1]
		w.Marks += x.marks
		if !policies[x.grading].Weak(x.value) {
			continue
		}
		w.Failing += x.marks
		if n := len(w.Who); n == 0 || w.Who[n-1].ID != x.student {
			w.Who = append(w.Who, Person{ID: x.student, Name: x.name})
		}
	}
	slices.SortStableFunc(out, func(x, y Weak) int { return y.Failing*x.Marks - x.Failing*y.Marks })
	return out, s.countFaults(ctx, program, out)
}

// countFaults adds to each item how often each of its faults was seen at announced gradings, the most frequent first.
func (s *Store) countFaults(ctx context.Context, program string, items []Weak) error {
	type row struct {
		label, section, faults string
		n                      int
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.label, &x.section, &x.faults, &x.n} },
		`SELECT i.label, i.section, m.faults, count(*) FROM grading g CROSS JOIN candidate c ON c.grading_id = g.id JOIN announcement a ON a.candidate_id = c.id
			CROSS JOIN mark m ON m.candidate_id = c.id AND m.faults <> '' JOIN test_item i ON i.id = m.item_id WHERE g.program_id = ? GROUP BY i.label, i.section, m.faults ORDER BY i.label, i.section, m.faults`, program)
	for _, x := range rows {
		at := slices.IndexFunc(items, func(w Weak) bool { return w.Label == x.label && w.Section == x.section })
		if at < 0 {
			continue
		}
		for _, seen := range strings.Split(x.faults, "\n") {
			k := slices.IndexFunc(items[at].Faults, func(f FaultCount) bool { return f.Seen == seen })
			if k < 0 {
				k = len(items[at].Faults)
				items[at].Faults = append(items[at].Faults, FaultCount{Seen: seen})
			}
			items[at].Faults[k].N += x.n
		}
	}
	for i := range items {
		slices.SortStableFunc(items[i].Faults, func(a, b FaultCount) int { return b.N - a.N })
	}
	return err
}

// policiesOf are the policies of a program's gradings.
func policiesOf(ctx context.Context, q querier, program string) (map[string]scoring.Policy, error) {
	type row struct {
		id     string
		policy scoring.Policy
	}
	rows, err := list(ctx, q, func(x *row) []any { return []any{&x.id, asJSON{&x.policy}} }, `SELECT id, policy FROM grading WHERE program_id = ?`, program)
	out := map[string]scoring.Policy{}
	for _, x := range rows {
		out[x.id] = x.policy
	}
	return out, err
}
