package store

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/timetable"
)

// tested are the rings of a grading in which somebody is tested.
func (t *txn) tested(ctx context.Context, gradingID string) (map[string]bool, error) {
	rings, err := list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT DISTINCT o.panel_id FROM candidate c JOIN candidate_group o ON o.id = c.group_id WHERE c.grading_id = ? AND c.withdrawn_at IS NULL`, gradingID)
	out := map[string]bool{}
	for _, id := range rings {
		out[id] = true
	}
	return out, err
}

// chiefsThere refuses to open the tables where a ring has no chief examiner.
func (t *txn) chiefsThere(ctx context.Context, g Grading) error {
	if _, err := t.ExecContext(ctx, `UPDATE examiner SET chief = 1 WHERE panel_id IN (SELECT id FROM panel WHERE grading_id = ?) AND (SELECT count(*) FROM examiner x WHERE x.panel_id = examiner.panel_id) = 1`, g.ID); err != nil {
		return err
	}
	g, err := grading(ctx, t, g.ID)
	if err != nil {
		return err
	}
	tested, err := t.tested(ctx, g.ID)
	if err != nil {
		return err
	}
	var names []string
	for _, r := range g.Chiefless(tested) {
		names = append(names, r.Name)
	}
	if len(names) > 0 {
		return refuse("%s has no chief examiner, and a fault that ends a test is confirmed by one. Choose one under Change, then open the tables.", strings.Join(names, " and "))
	}
	return nil
}

// examinerOf is an examiner with the grading and ring they sit in.
func (t *txn) examinerOf(ctx context.Context, id string) (g Grading, e gradingday.Examiner, err error) {
	of, err := one(ctx, t, func(id *string) []any { return []any{id} }, `SELECT p.grading_id FROM examiner e JOIN panel p ON p.id = e.panel_id WHERE e.id = ?`, id)
	if err == nil {
		g, err = grading(ctx, t, of)
	}
	if at := slices.IndexFunc(g.Examiners, func(e gradingday.Examiner) bool { return e.ID == id }); at >= 0 {
		e = g.Examiners[at]
	}
	return g, e, err
}

// ChooseChief makes an examiner the chief of their ring, also while the tables are open.
func (s *Store) ChooseChief(ctx context.Context, by By, examiner string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, e, err := t.examinerOf(ctx, examiner)
		if err != nil {
			return "", office.Deed{}, err
		}
		if e.Absent {
			return "", office.Deed{}, refuse("%s is absent; choose somebody who is there.", e.Name)
		}
		if _, err := t.ExecContext(ctx, `UPDATE examiner SET chief = (id = ?1) WHERE panel_id = ?2`, e.ID, g.Rings[e.Ring].ID); err != nil {
			return "", office.Deed{}, err
		}
		return g.ID, office.Deed{Kind: office.ChiefChosen, Who: e.ID, What: g.Rings[e.Ring].Name}, nil
	})
}

// MarkAbsent notes that an examiner is not there, or is again. Nobody waits for their signature then; what they marked
// stands, and what they did not see counts as not seen.
func (s *Store) MarkAbsent(ctx context.Context, by By, examiner string, absent bool) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, e, err := t.examinerOf(ctx, examiner)
		if err != nil {
			return "", office.Deed{}, err
		}
		deed, at := office.ExaminerBack, any(nil)
		if absent {
			deed, at = office.ExaminerAbsent, t.at
			if len(gradingday.WhoIsThere(g.Panel(e.Ring))) < 2 && !e.Absent {
				return "", office.Deed{}, refuse("%s is the last examiner of %s who is there; move its groups to another ring first.", e.Name, g.Rings[e.Ring].Name)
			}
		}
		return g.ID, deed.Of(e.ID), t.exec(ctx, `UPDATE examiner SET absent_at = ? WHERE id = ?`, at, e.ID)
	})
}

// TooFew are the rungs of a grading that ask for more examiners than sit where they are tested.
func (s *Store) TooFew(ctx context.Context, g Grading, candidates []Candidate) (out []gradingday.TooFew, err error) {
	b, err := s.Book(ctx, g.ProgramID)
	if err != nil {
		return nil, err
	}
	for _, c := range candidates {
		rung := b.Rung(c.To.ID)
		ring, panel := g.PanelOf(c.RingID)
		if rung == nil || ring < 0 || rung.Panel <= len(gradingday.WhoIsThere(panel)) {
			continue
		}
		x := gradingday.TooFew{Rung: rung.Name, Ring: g.Rings[ring].Name, Asks: rung.Panel, Has: len(gradingday.WhoIsThere(panel))}
		if !slices.Contains(out, x) {
			out = append(out, x)
		}
	}
	return out, nil
}

// AlsoEntered are candidates of a grading who are entered for another one on the same day, in words; where both days
// are planned, only those whose hours meet.
func (s *Store) AlsoEntered(ctx context.Context, g Grading) (out []string, err error) {
	type row struct{ student, name, grading, group, here string }
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.student, &x.name, &x.grading, &x.group, &x.here} },
		`SELECT s.id, s.name, o.grading_id, o.group_id, c.group_id FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id
			JOIN enrolment f ON f.student_id = s.id JOIN candidate o ON o.enrolment_id = f.id AND o.grading_id <> c.grading_id AND o.withdrawn_at IS NULL JOIN grading h ON h.id = o.grading_id AND h.deleted_at IS NULL
		WHERE c.grading_id = ? AND c.withdrawn_at IS NULL AND h.on_date = ? ORDER BY s.name, h.id`, g.ID, g.On.String())
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	plans := map[string]DayPlan{}
	ids := []string{g.ID}
	for _, x := range rows {
		ids = append(ids, x.grading)
	}
	for _, id := range ids {
		if _, known := plans[id]; !known {
			if plans[id], err = s.DayPlan(ctx, id); err != nil {
				return nil, err
			}
		}
	}
	for _, x := range rows {
		there, here := plans[x.grading], plans[g.ID]
		a, known := here.hours(x.here)
		b, planned := there.hours(x.group)
		if known && planned && (a[1] <= b[0] || b[1] <= a[0]) {
			continue
		}
		when := "on the same day"
		if planned {
			when = fmt.Sprintf("from %s to %s", timetable.Clock(b[0]), timetable.Clock(b[1]))
		}
		out = append(out, fmt.Sprintf("%s is also entered for %s, %s.", x.name, there.Grading.Title(), when))
	}
	return out, nil
}

// hours are from when to when a group is tested by the plan of the day, in minutes of the day.
func (d DayPlan) hours(group string) (out [2]int, planned bool) {
	at := slices.IndexFunc(d.Day.Groups, func(g gradingday.DayGroup) bool { return g.ID == group })
	if !d.Made || at < 0 {
		return out, false
	}
	for _, slot := range d.Plan.Slots {
		if slot.Group == at && (!planned || slot.From < out[0]) {
			out[0] = slot.From
		}
		if slot.Group == at {
			out[1], planned = max(out[1], slot.To), true
		}
	}
	return out, planned
}
