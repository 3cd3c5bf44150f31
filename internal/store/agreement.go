package store

import (
	"context"
	"maps"
	"slices"
	"sync"

	"velvetladder/internal/core/agreement"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/scoring"
)

// Beside is what examiners marked of the same performances at one grading whose panels have signed.
type Beside struct {
	GradingID, Title string
	On               civil.Date
	Scale            scoring.Scale
	Units            []agreement.Unit
	Candidates       map[string]string // candidate → name
}

// besideKnown keeps what was read last of a program, until something is marked, signed or planned anew.
type besideKnown struct {
	mu       sync.Mutex
	stamp    string
	programs map[string][]Beside
	changes  map[string]AlikeCount
}

// stamped clears what is known where the records have moved on.
func (k *besideKnown) stamped(stamp string) {
	if k.stamp != stamp {
		k.stamp, k.programs, k.changes = stamp, map[string][]Beside{}, map[string]AlikeCount{}
	}
}

// besideStamp changes with every mark, signature and grading.
func (s *Store) besideStamp(ctx context.Context) (string, error) {
	return one(ctx, s.r, func(x *string) []any { return []any{x} }, `SELECT (SELECT coalesce(max(rowid), 0) FROM mark_event) || ' ' || (SELECT coalesce(max(rowid), 0) FROM signature_event) || ' ' ||
		(SELECT coalesce(max(rowid), 0) FROM fault_event) || ' ' || (SELECT coalesce(max(seq), 0) FROM audit WHERE kind IN ('grading_changed', 'undid', 'erased', 'candidate_withdrawn', 'candidate_back', 'examiner_absent', 'examiner_back'))`)
}

// MarkedBeside is what examiners marked of the same performances in a program since a day, grading by grading, the
// earliest first. The caller must not change it. What is not signed by a whole panel is sealed, and left out.
func (s *Store) MarkedBeside(ctx context.Context, program string, since civil.Date) ([]Beside, error) {
	stamp, err := s.besideStamp(ctx)
	if err != nil {
		return nil, err
	}
	key := program + " " + since.String()
	s.beside.mu.Lock()
	defer s.beside.mu.Unlock()
	s.beside.stamped(stamp)
	if known, there := s.beside.programs[key]; there {
		return known, nil
	}
	out, err := s.readBeside(ctx, program, since)
	if err == nil {
		s.beside.programs[key] = out
	}
	return out, err
}

func (s *Store) readBeside(ctx context.Context, program string, since civil.Date) (out []Beside, err error) {
	gradings, err := s.Gradings(ctx, program)
	if err != nil {
		return nil, err
	}
	at := map[string]int{}
	for _, g := range slices.Backward(gradings) {
		if g.Begun() && !g.On.Before(since) {
			at[g.ID] = len(out)
			out = append(out, Beside{GradingID: g.ID, Title: g.Title(), On: g.On, Scale: g.Policy.Scale, Candidates: map[string]string{}})
		}
	}
	type row struct {
		grading, candidate, name, item, label, section, examiner string
		value                                                    scoring.Decimal
	}
	rows, err := list(ctx, s.r, func(x *row) []any {
		return []any{&x.grading, &x.candidate, &x.name, &x.item, &x.label, &x.section, &x.examiner, asDecimal{&x.value}}
	}, `SELECT g.id, c.id, s.name, i.id, i.label, i.section, e.name, m.value
		FROM grading g CROSS JOIN candidate c ON c.grading_id = g.id JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id
			CROSS JOIN mark m ON m.candidate_id = c.id AND m.kind = 'mark' JOIN test_item i ON i.id = m.item_id JOIN examiner e ON e.id = m.examiner_id
		WHERE g.program_id = ? AND g.on_date >= ? AND g.deleted_at IS NULL AND g.begun_at IS NOT NULL
			AND NOT EXISTS (SELECT 1 FROM candidate_group o JOIN examiner p ON p.panel_id = o.panel_id WHERE o.id = c.group_id AND p.absent_at IS NULL AND NOT EXISTS (SELECT 1 FROM signature x WHERE x.group_id = o.id AND x.examiner_id = p.id))
		ORDER BY g.on_date, c.number, c.id, i.position, i.id, e.position`, program, since.String())
	if err != nil {
		return nil, err
	}
	for k, x := range rows {
		b := &out[at[x.grading]]
		if k == 0 || rows[k-1].candidate != x.candidate || rows[k-1].item != x.item {
			b.Units = append(b.Units, agreement.Unit{Candidate: x.candidate, Item: x.label, Section: x.section, Marks: map[string]float64{}})
			b.Candidates[x.candidate] = x.name
		}
		b.Units[len(b.Units)-1].Marks[x.examiner] = float64(x.value-b.Scale.Lowest) / float64(b.Scale.Step)
	}
	return slices.DeleteFunc(out, func(b Beside) bool { return len(b.Units) == 0 }), nil
}

// SeverityYears is how far back it is looked how examiners mark.
const SeverityYears = 2

// Severities are how the examiners of a program mark beside each other, over the gradings of the last years that are
// marked on one scale.
func (s *Store) Severities(ctx context.Context, program string, scale scoring.Scale) ([]agreement.Severity, error) {
	all, err := s.MarkedBeside(ctx, program, s.Today().AddMonths(-12*SeverityYears))
	if err != nil {
		return nil, err
	}
	var units []agreement.Unit
	for _, b := range all {
		if SameScale(b.Scale, scale) {
			units = append(units, b.Units...)
		}
	}
	return agreement.Severities(units), nil
}

// SameScale reports whether marks on two scales are the same steps.
func SameScale(a, b scoring.Scale) bool {
	return a.Lowest == b.Lowest && a.Highest == b.Highest && a.Step == b.Step
}

// AlikeShift is what each examiner's marks are moved by where all are to count as if they had marked alike: who is
// surely lower by so many hundredths of a step, by as much up. Empty where nobody surely marks otherwise.
func AlikeShift(all []agreement.Severity, scale scoring.Scale) map[string]scoring.Decimal {
	out := map[string]scoring.Decimal{}
	for _, x := range all {
		if h := x.Hundredths(); h != 0 {
			out[x.Examiner] = -scale.Step * scoring.Decimal(h) / 100
		}
	}
	return out
}

// AlikeCount is how many results of the last years would be others if all examiners marked alike.
type AlikeCount struct {
	Results, Up, Down int // those that were not promotions and would be; that were and would not be
	Retests           int // that were none: of these are those up
}

// AlikeChanges counts over a program's gradings marked on a scale what would be otherwise if all marked alike.
func (s *Store) AlikeChanges(ctx context.Context, program string, scale scoring.Scale) (AlikeCount, error) {
	all, err := s.MarkedBeside(ctx, program, s.Today().AddMonths(-12*SeverityYears))
	if err != nil {
		return AlikeCount{}, err
	}
	severities, err := s.Severities(ctx, program, scale)
	if err != nil {
		return AlikeCount{}, err
	}
	shift := AlikeShift(severities, scale)
	key := program + " " + toJSON(scale)
	s.beside.mu.Lock()
	known, there := s.beside.changes[key]
	stamp := s.beside.stamp
	s.beside.mu.Unlock()
	if there {
		return known, nil
	}
	var out AlikeCount
	for _, b := range all {
		if !SameScale(b.Scale, scale) {
			continue
		}
		g, rows, err := s.Review(ctx, b.GradingID)
		if err != nil {
			return out, err
		}
		for _, x := range rows {
			if x.Sealed() {
				continue
			}
			alike, err := g.Policy.Decide(x.Test.Alike(shift))
			if err != nil {
				return out, err
			}
			out.Add(x.Result.Outcome, alike.Outcome)
		}
	}
	s.beside.mu.Lock()
	defer s.beside.mu.Unlock()
	if s.beside.stamp == stamp {
		s.beside.changes[key] = out
	}
	return out, nil
}

// Add counts one result as it was and as it would be.
func (c *AlikeCount) Add(was, alike scoring.Outcome) {
	c.Results++
	if was == scoring.OutcomeRetest {
		c.Retests++
	}
	switch {
	case alike.Promotes() && !was.Promotes():
		c.Up++
	case !alike.Promotes() && was.Promotes():
		c.Down++
	}
}

// Examiners are the names that stand beside others at some gradings, in order.
func Examiners(all []Beside) []string {
	names := map[string]bool{}
	for _, b := range all {
		for _, u := range b.Units {
			for name := range u.Marks {
				names[name] = true
			}
		}
	}
	return slices.Sorted(maps.Keys(names))
}
