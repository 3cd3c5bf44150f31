package store

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
)

// Climbing is a standing with whether the student may be tested for the rung above.
type Climbing struct {
	Standing
	Joined   civil.Date
	Next     *curriculum.Rung // nil at the top
	Track    curriculum.Track // on the day asked for
	Verdict  progress.Verdict
	Evidence progress.Evidence
	Given    []Given    // waivers, words and examples for the climb to Next that stand
	LastOn   civil.Date // the last class attended; zero: none

	book    *curriculum.Book        // it climbs by
	adapted []curriculum.Adaptation // that hold on the day
	rules   []curriculum.Rule
	born    civil.Date
	byHand  string // the track set by hand
	weeks   weekCounts
	signed  []shownLine
	seen    []shownLine // what was shown before this climb
	entered enteredOn
}

const selectClimbing = `SELECT e.id, s.id, s.name, e.program_id, e.since, e.ended_on, e.rung_id, s.birth_date, s.joined_on, e.track_id, e.version_id, s.kit, s.papers,
	m.attended, m.weeks, m.signed, m.stripes, m.last_on, m.seen, m.presumed
	FROM enrolment e JOIN student s ON s.id = e.student_id AND s.deleted_at IS NULL JOIN rung r ON r.id = e.rung_id LEFT JOIN climb_summary m ON m.enrolment_id = e.id WHERE `

// climbingRow is a row as read.
type climbingRow struct {
	Climbing
	rung, version, kit, papers string
	attended                   progress.Attended
	stripes                    []stripeOn
}

func bindClimbing(x *climbingRow) []any {
	return []any{&x.EnrolmentID, &x.StudentID, &x.Name, &x.ProgramID, asDate{&x.Since}, asDate{&x.EndedOn}, &x.rung, asDate{&x.born}, asDate{&x.Joined}, &x.byHand, asText{&x.version}, asText{&x.kit}, &x.papers,
		asAttended{&x.attended}, &x.weeks, asShown{&x.signed}, asStripes{&x.stripes}, asDate{&x.LastOn}, asShown{&x.seen}, &x.entered}
}

// climbings reads climbs and judges each on a day by the rules of the version it climbs by.
// where speaks of e, the enrolment, s, the student, and r, the rung. Without judge only where
// a climb stands is looked up.
func (s *Store) climbings(ctx context.Context, q querier, draft func(program string) (*curriculum.Book, error), judge bool, on civil.Date, where string, args ...any) ([]Climbing, error) {
	rows, err := list(ctx, q, bindClimbing, selectClimbing+where, args...)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	j := &judging{s: s, q: q, draft: draft, on: on, today: s.Today(), books: map[string]*curriculum.Book{}, sheets: map[sheetKey]*progress.Asked{}, rules: map[sheetKey][]curriculum.Rule{}, ahead: map[[2]string]timetable.Ahead{}, first: map[string]civil.Date{}}
	adapted, err := adaptedOn(ctx, q, on, where, args...)
	if err != nil {
		return nil, err
	}
	j.since = rows[0].Since
	for i := range rows {
		if rows[i].Since.Before(j.since) {
			j.since = rows[i].Since
		}
		rows[i].adapted = adapted[[2]string{rows[i].StudentID, rows[i].ProgramID}]
	}
	out := make([]Climbing, 0, len(rows))
	if !judge {
		for i := range rows {
			if stands, err := j.place(ctx, &rows[i]); err != nil {
				return nil, err
			} else if stands {
				out = append(out, rows[i].Climbing)
			}
		}
		return out, nil
	}
	given, err := givenTo(ctx, q, where, args...)
	if err != nil {
		return nil, err
	}
	retest, err := retestsFrom(ctx, q, where, args...)
	if err != nil {
		return nil, err
	}
	for i := range rows {
		x := &rows[i]
		if stands, err := j.place(ctx, x); err != nil {
			return nil, err
		} else if !stands {
			continue
		}
		if x.Next != nil {
			if err := j.evidence(ctx, x, given[x.EnrolmentID], retest[x.EnrolmentID]); err != nil {
				return nil, fmt.Errorf("the climb %s: %w", x.EnrolmentID, err)
			}
		}
		out = append(out, x.Climbing)
	}
	judgeAll(out, on)
	return out, nil
}

// givenTo are the waivers, words and examples that stand, by enrolment.
func givenTo(ctx context.Context, q querier, where string, args ...any) (map[string][]Given, error) {
	given, err := list(ctx, q, func(g *Given) []any {
		return []any{&g.ID, &g.EnrolmentID, &g.RungID, &g.Kind, &g.Rule, &g.Reason, &g.Actor}
	}, `SELECT v.id, v.enrolment_id, v.rung_id, v.kind, v.rule, v.reason, v.actor
		FROM enrolment e JOIN student s ON s.id = e.student_id JOIN rung r ON r.id = e.rung_id CROSS JOIN eligibility_event v ON v.enrolment_id = e.id
		WHERE v.kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM eligibility_event n WHERE n.supersedes = v.id) AND `+where, args...)
	return gathered(given, func(g Given) string { return g.EnrolmentID }), err
}

// retestsFrom are the earliest days of retests from the rung somebody stands on, by enrolment.
func retestsFrom(ctx context.Context, q querier, where string, args ...any) (map[string]civil.Date, error) {
	type wait struct {
		enrolment string
		from      civil.Date
	}
	waits, err := list(ctx, q, func(w *wait) []any { return []any{&w.enrolment, asDate{&w.from}} }, `SELECT c.enrolment_id, max(d.retest_from)
		FROM enrolment e JOIN student s ON s.id = e.student_id JOIN rung r ON r.id = e.rung_id
		CROSS JOIN candidate c ON c.enrolment_id = e.id AND c.from_rung_id = e.rung_id JOIN announcement a ON a.candidate_id = c.id
		CROSS JOIN decision d ON d.candidate_id = c.id AND d.retest_from IS NOT NULL WHERE `+where+` GROUP BY c.enrolment_id`, args...)
	out := map[string]civil.Date{}
	for _, w := range waits {
		out[w.enrolment] = w.from
	}
	return out, err
}

// evidence puts together what a climb is judged by.
func (j *judging) evidence(ctx context.Context, x *climbingRow, given []Given, retest civil.Date) error {
	e := progress.Evidence{Since: x.Since, Born: x.born, Today: j.today}
	if !retest.Before(x.Since) { // else of an earlier climb
		e.RetestFrom = retest
	}
	for _, g := range given {
		if g.RungID != x.Next.ID {
			continue
		}
		x.Given = append(x.Given, g)
		switch g.Kind {
		case "word":
			e.Word = g.Reason
		case "character":
			e.Character = g.Reason
		default:
			if e.Waived == nil {
				e.Waived = map[curriculum.RuleKind]string{}
			}
			e.Waived[g.Rule] = g.Reason
		}
	}
	rules := j.rulesOf(x.Climbing)
	if err := j.gather(ctx, &e, x, rules); err != nil {
		return err
	}
	if x.kit != "" {
		if err := (asJSON{&e.Owned}).Scan(x.kit); err != nil {
			return err
		}
		e.KitKnown = true
	}
	if x.papers != "[]" {
		if err := (asJSON{&e.Papers}).Scan(x.papers); err != nil {
			return err
		}
	}
	x.Evidence, x.rules = e, rules
	return nil
}

func (s *Store) read(ctx context.Context, on civil.Date, where string, args ...any) ([]Climbing, error) {
	return s.climbings(ctx, s.r, func(program string) (*curriculum.Book, error) { return s.Book(ctx, program) }, true, on, where, args...)
}

// stand reads where climbs stand, without judging them.
func (s *Store) stand(ctx context.Context, where string, args ...any) ([]Climbing, error) {
	return s.climbings(ctx, s.r, func(program string) (*curriculum.Book, error) { return s.Book(ctx, program) }, false, s.Today(), where, args...)
}

// byRung sorts climbs by rung from the lowest up, then by name.
func byRung(all []Climbing) []Climbing {
	slices.SortStableFunc(all, func(x, y Climbing) int {
		return cmp.Or(cmp.Compare(x.Rung.Position, y.Rung.Position), cmp.Compare(strings.ToLower(x.Name), strings.ToLower(y.Name)))
	})
	return all
}

// OnRung lists who stands on a rung, longest first, at most limit of them, judged today.
func (s *Store) OnRung(ctx context.Context, rung string, limit int) ([]Climbing, error) {
	all, err := s.read(ctx, s.Today(), `e.id IN (SELECT id FROM enrolment WHERE rung_id = ? AND ended_on IS NULL ORDER BY since LIMIT ?)`, rung, limit)
	slices.SortStableFunc(all, func(x, y Climbing) int {
		return cmp.Or(y.Since.DaysTo(x.Since), cmp.Compare(strings.ToLower(x.Name), strings.ToLower(y.Name)))
	})
	return all, err
}

// ClimbingOf is one enrolment, judged on a day.
func (s *Store) ClimbingOf(ctx context.Context, enrolment string, on civil.Date) (Climbing, error) {
	all, err := s.read(ctx, on, `e.id = ?`, enrolment)
	if err == nil && len(all) == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return Climbing{}, err
	}
	return all[0], nil
}

// WhoMayTest are all who climb in a program and have a rung above them, judged on a day, by
// rung from the lowest up.
func (s *Store) WhoMayTest(ctx context.Context, program string, on civil.Date) ([]Climbing, error) {
	all, err := s.everyone(ctx, program)
	if err != nil {
		return nil, err
	}
	all = slices.DeleteFunc(slices.Clone(all), func(c Climbing) bool { return c.Next == nil })
	if on == s.Today() {
		return all, nil
	}
	// Of whoever is of another track on that day, other rules may hold: they are read anew.
	var other []any
	b, err := s.Book(ctx, program)
	if err != nil {
		return nil, err
	}
	for _, c := range all {
		if trackOn(b, c.byHand, c.born, on).ID != c.Track.ID {
			other = append(other, c.EnrolmentID)
		}
	}
	judgeAll(all, on)
	if len(other) == 0 {
		return all, nil
	}
	anew, err := s.read(ctx, on, `e.id IN (SELECT value FROM json_each(?))`, toJSON(other))
	for _, c := range anew {
		all[slices.IndexFunc(all, func(x Climbing) bool { return x.EnrolmentID == c.EnrolmentID })] = c
	}
	return all, err
}

// Eligible are the students on the rungs below the ones a grading tests who are not entered,
// judged on its day.
func (s *Store) Eligible(ctx context.Context, grading string) ([]Climbing, error) {
	on, err := one(ctx, s.r, func(d *civil.Date) []any { return []any{asDate{d}} }, `SELECT on_date FROM grading WHERE id = ?`, grading)
	if err != nil {
		return nil, err
	}
	all, err := s.read(ctx, on, `e.ended_on IS NULL AND EXISTS (
		SELECT 1 FROM grading_rung x JOIN rung up ON up.id = x.rung_id WHERE x.grading_id = ?1 AND up.program_id = r.program_id
		AND r.position = (SELECT max(b.position) FROM rung b WHERE b.program_id = up.program_id AND b.deleted_at IS NULL AND b.position < up.position))
		AND NOT EXISTS (SELECT 1 FROM candidate c WHERE c.grading_id = ?1 AND c.enrolment_id = e.id AND c.withdrawn_at IS NULL)`, grading)
	return byRung(all), err
}

// climbings are the climbs as the transaction sees them.
func (t *txn) climbings(ctx context.Context, on civil.Date, where string, args ...any) ([]Climbing, error) {
	return t.s.climbings(ctx, t, func(program string) (*curriculum.Book, error) { return t.book(ctx, program) }, true, on, where, args...)
}

// stand reads where climbs stand as the transaction sees them, without judging them.
func (t *txn) stand(ctx context.Context, on civil.Date, where string, args ...any) ([]Climbing, error) {
	return t.s.climbings(ctx, t, func(program string) (*curriculum.Book, error) { return t.book(ctx, program) }, false, on, where, args...)
}

// mayTest refuses an entrant who may not be tested on the day, unless a reason is given.
func (t *txn) mayTest(ctx context.Context, g Grading, enrolment, reason string) error {
	if reason != "" {
		return nil
	}
	all, err := t.climbings(ctx, g.On, `e.id = ?`, enrolment)
	if err != nil || len(all) == 0 || all[0].Verdict.State != progress.NotMet {
		return err
	}
	when := " may not be tested yet by the rules"
	if v := all[0].Verdict; v.On.Before(v.Earliest) {
		when = " may be tested from " + v.Earliest.Long()
	}
	return check.Problems{{Field: "reason", Text: all[0].Name + when + "; say why the test is allowed on " + g.On.Long()}}
}

// AnewAnswer is a student of whom “all signed off” is answered otherwise since it is reckoned
// from everything that was seen.
type AnewAnswer struct {
	Climbing
	progress.Anew
}

// AnsweredAnew lists whose answer about what is signed off is another one since the upgrade, and
// why.
func (s *Store) AnsweredAnew(ctx context.Context, program string) (out []AnewAnswer, err error) {
	all, err := s.everyone(ctx, program)
	if err != nil {
		return nil, err
	}
	j := &judging{}
	for _, c := range all {
		if c.Next == nil || c.Evidence.Sections == nil {
			continue
		}
		asked := j.asked(c)
		signed, err := showings(c.signed, asked)
		if err != nil {
			return nil, err
		}
		done, of := asked.OfThisClimb(signed)
		if anew, is := progress.AnsweredAnew(done, of, c.Evidence.Sections); is {
			out = append(out, AnewAnswer{c, anew})
		}
	}
	return out, nil
}
