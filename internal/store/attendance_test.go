package store

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/golden"
	"velvetladder/internal/words"
)

// evening puts a class on the timetable, by default on today's weekday, since long ago.
func (x *school) evening(change func(*timetable.Class)) timetable.Class {
	c := timetable.Class{Name: "Evening", Kind: "General", Weekday: today.Weekday(), Start: 18 * 60, Minutes: 60, From: today.AddDays(-700), Programs: []string{x.program}}
	if change != nil {
		change(&c)
	}
	d, err := x.SaveClass(bg, me, c)
	require.NoError(x.t, err)
	c.ID = d.ID
	return c
}

func (x *school) came(c timetable.Class, student int, on civil.Date) gradingday.Attendance {
	return gradingday.Attendance{ID: NewID(), ClassID: c.ID, On: on, StudentID: x.people[student], State: gradingday.Present, Mode: timetable.Hall}
}

// enter writes entries and gives the reason of the first refusal.
func (x *school) enter(entries ...gradingday.Attendance) error {
	refused, err := x.RecordAttendance(bg, me, entries)
	require.NoError(x.t, err)
	if len(refused) > 0 {
		return refused[0].Why
	}
	return nil
}

func (x *school) entries() (n int) {
	require.NoError(x.t, x.r.QueryRow(`SELECT count(*) FROM attendance_event`).Scan(&n))
	return n
}

func TestAttendance(t *testing.T) {
	x := newSchool(t)
	c := x.evening(nil)
	first := x.came(c, 0, today)
	require.NoError(t, x.enter(first))
	require.NoError(t, x.enter(first), "the same again")
	twice := x.came(c, 0, today)
	require.NoError(t, x.enter(twice), "a second device saw the same")
	assert.Equal(t, 1, x.entries())
	other := first
	other.State = gradingday.Late
	assert.ErrorIs(t, x.enter(other), ErrConflict, "other content under one id")
	late := x.came(c, 0, today)
	late.State = gradingday.Late
	var old *Outdated
	require.ErrorAs(t, x.enter(late), &old)
	assert.Equal(t, first, old.Current)
	late.Supersedes = first.ID
	require.NoError(t, x.enter(late))
	gone := x.came(c, 0, today)
	gone.State, gone.Supersedes = gradingday.Absent, late.ID
	require.NoError(t, x.enter(gone))
	back := x.came(c, 0, today)
	require.NoError(t, x.enter(back), "one who was taken out comes after all")
	require.NoError(t, x.enter(back), "and the same again")
	visitor := gradingday.Attendance{ID: NewID(), ClassID: c.ID, On: today, Visitor: " Vera  Trial ", State: gradingday.Present, Mode: timetable.Hall}
	visitor.Visitor = "Vera Trial"
	require.NoError(t, x.enter(visitor))

	people, visitors, kept, err := x.RegisterOf(bg, c, today)
	require.NoError(t, err)
	assert.NotEmpty(t, kept)
	require.Len(t, people, 3)
	assert.Equal(t, "Vera Trial", visitors[0].Visitor)
	for _, p := range people {
		assert.Equal(t, p.StudentID == x.people[0], p.Entry != nil)
	}
	leaves := visitor
	leaves.ID, leaves.State, leaves.Supersedes = NewID(), gradingday.Absent, visitor.ID
	require.NoError(t, x.enter(leaves))
	_, visitors, _, err = x.RegisterOf(bg, c, today)
	require.NoError(t, err)
	assert.Empty(t, visitors)

	_, err = x.SaveStudent(bg, me, progress.Student{ID: x.people[1], Name: "Ben Sluice", Stance: progress.Orthodox, JoinedOn: today.AddDays(-7)})
	require.NoError(t, err)
	_, err = x.AddClosure(bg, me, timetable.Closure{From: today.AddDays(-21), To: today.AddDays(-20), Reason: "Flood"})
	require.NoError(t, err)
	gone2 := x.evening(func(c *timetable.Class) { c.Name = "Morning"; c.Start = 600 })
	_, err = x.DeleteClass(bg, me, gone2.ID)
	require.NoError(t, err)
	for words, change := range map[string]func(*gradingday.Attendance){
		"lies in the future":                        func(a *gradingday.Attendance) { a.On = today.AddDays(7) },
		"before this student joined":                func(a *gradingday.Attendance) { a.StudentID, a.On = x.people[1], today.AddDays(-14) },
		"is not held on":                            func(a *gradingday.Attendance) { a.On = today.AddDays(-1) },
		"was not held on Tue 3 Nov 2026: Flood":     func(a *gradingday.Attendance) { a.On = today.AddDays(-21) },
		"was taken off the timetable":               func(a *gradingday.Attendance) { a.ClassID = gone2.ID },
		"This class is not on record":               func(a *gradingday.Attendance) { a.ClassID = "nothing" },
		"This student is not on record":             func(a *gradingday.Attendance) { a.StudentID = "nobody00" },
		"made at random":                            func(a *gradingday.Attendance) { a.ID = "x" },
		"is not a choice":                           func(a *gradingday.Attendance) { a.State = "asleep" },
		"a student, or names a visitor":             func(a *gradingday.Attendance) { a.Visitor = "Both" },
		"day of the class":                          func(a *gradingday.Attendance) { a.On = civil.Date{} },
		"entry this one replaces is not on record.": func(a *gradingday.Attendance) { a.StudentID, a.Supersedes = x.people[2], "nothing-there" },
		"not on record, or was replaced":            func(a *gradingday.Attendance) { a.StudentID, a.Visitor, a.Supersedes = "", "Vera Trial", visitor.ID },
	} {
		n := x.entries()
		a := x.came(c, 2, today)
		change(&a)
		assert.ErrorContains(t, x.enter(a), words)
		assert.Equal(t, n, x.entries(), "nothing half-written")
	}
	good, bad := x.came(c, 2, today.AddDays(-7)), x.came(c, 2, today.AddDays(-8))
	refused, err := x.RecordAttendance(bg, me, []gradingday.Attendance{bad, good})
	require.NoError(t, err)
	require.Len(t, refused, 1)
	assert.Equal(t, 0, refused[0].At, "the good one is kept")
	list, err := x.AttendedSince(bg, x.people[2], today.AddDays(-30), 10)
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

func TestTheTimetableCanBeUndone(t *testing.T) {
	x := newSchool(t)
	_, err := x.SaveClass(bg, me, timetable.Class{Name: "Night", Weekday: 9})
	problem(t, err, "weekday", "choose a day")
	c := x.evening(nil)
	d, err := x.AddClosure(bg, me, timetable.Closure{ClassID: c.ID, From: today.AddDays(-7), Reason: "Frost"})
	require.NoError(t, err)
	assert.ErrorContains(t, x.enter(x.came(c, 0, today.AddDays(-7))), "Frost")
	_, err = x.Undo(bg, me, d.Audit)
	require.NoError(t, err)
	require.NoError(t, x.enter(x.came(c, 0, today.AddDays(-7))))
	_, err = x.AddClosure(bg, me, timetable.Closure{From: today.AddDays(-8), To: today, Reason: "Frost"})
	problem(t, err, "from", "1 register were kept")
	d, err = x.DeleteClass(bg, me, c.ID)
	require.NoError(t, err)
	_, err = x.Class(bg, c.ID)
	assert.ErrorIs(t, err, ErrNotFound)
	require.NoError(t, x.enter(x.came(c, 1, today.AddDays(-7))), "its register stays and can be mended")
	_, err = x.Undo(bg, me, d.Audit)
	require.NoError(t, err)
	d, err = x.KeepRegister(bg, me, c.ID, today)
	require.NoError(t, err)
	again, err := x.KeepRegister(bg, me, c.ID, today)
	require.NoError(t, err)
	assert.Equal(t, d.ID, again.ID)
	_, err = x.KeepRegister(bg, me, c.ID, today.AddDays(7))
	refused(t, err, "future")
	all, err := x.Registers(bg, today.AddDays(-30), today)
	require.NoError(t, err)
	require.Len(t, all, 2)
	assert.Equal(t, []int{0, 2}, []int{all[0].Came, all[1].Came})
}

// TestSummariesEqualARecount: whatever is entered, taken back, promoted or reordered, the
// summary that was kept is the one that counting everything anew gives.
func TestSummariesEqualARecount(t *testing.T) {
	golden.Alone(t)
	base := newSchool(t)
	warm := func(s *Store) []Climbing {
		all, err := s.WhoMayTest(bg, base.program, today)
		require.NoError(t, err)
		return all
	}
	r, err := base.Rung(bg, base.rungs[1])
	require.NoError(t, err)
	r.Rules = []curriculum.Rule{{Kind: curriculum.ClassesSince, Amount: 3}, {Kind: curriculum.AllSignedOff, Amount: 1}, {Kind: curriculum.ClassShare, Amount: 50}}
	_, err = base.SaveRung(bg, me, r)
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "base.db")
	_, err = base.w.Exec(`VACUUM INTO ?`, path)
	require.NoError(t, err)
	n := 0
	few(t, 25)
	rapid.Check(t, func(rt *rapid.T) {
		n++
		s := open(t, copied(t, path, fmt.Sprint(n)))
		defer s.Close()
		x := *base
		x.Store = s
		warm(s)
		classes := []timetable.Class{x.evening(nil), x.evening(func(c *timetable.Class) { c.Kind, c.Start = "Sparring", 1200 }), x.evening(func(c *timetable.Class) { c.Programs, c.Start = []string{"another"}, 500 })}
		var entered []gradingday.Attendance
		var signed []SignOff
		sheet := []string{}
		b, err := s.Book(bg, x.program)
		require.NoError(t, err)
		for _, r := range b.Asked(x.rungs[1]) {
			sheet = append(sheet, r.TechniqueID)
		}
		for range rapid.IntRange(1, 16).Draw(rt, "deeds") {
			student := rapid.IntRange(0, 2).Draw(rt, "student")
			on := today.AddDays(-7 * rapid.IntRange(0, 60).Draw(rt, "weeks ago"))
			st := x.standing(student)
			switch rapid.IntRange(0, 7).Draw(rt, "deed") {
			case 0, 1, 2:
				a := x.came(rapid.SampledFrom(classes).Draw(rt, "class"), student, on)
				a.Mode = rapid.SampledFrom(timetable.Modes).Draw(rt, "mode")
				if x.enter(a) == nil {
					entered = append(entered, a)
				}
			case 3:
				if len(entered) > 0 {
					a := rapid.SampledFrom(entered).Draw(rt, "entry")
					a.Supersedes, a.ID = a.ID, NewID()
					a.State = rapid.SampledFrom(gradingday.AttendanceStates).Draw(rt, "state")
					_ = x.enter(a)
				}
			case 4, 5:
				so := SignOff{ID: NewID(), EnrolmentID: st.EnrolmentID, TechniqueID: rapid.SampledFrom(sheet).Draw(rt, "technique"), Role: "performer", Kind: "shown", Side: rapid.SampledFrom([]string{"", "left", "right"}).Draw(rt, "side"), On: on}
				if len(signed) > 0 && rapid.Bool().Draw(rt, "back") {
					old := rapid.SampledFrom(signed).Draw(rt, "sign-off")
					so.EnrolmentID, so.Supersedes, so.Kind = old.EnrolmentID, old.ID, "withdrawn"
				}
				if r, err := s.RecordSignOffs(bg, me, []SignOff{so}); err == nil && len(r) == 0 && so.Kind == "shown" {
					signed = append(signed, so)
				}
			case 6:
				_, err := s.CorrectRank(bg, me, st.EnrolmentID, x.rungs[rapid.IntRange(0, 1).Draw(rt, "rung")], on, "to try")
				require.NoError(t, err)
			case 7:
				_, err := s.MoveRung(bg, me, x.rungs[2], rapid.IntRange(-2, 1).Draw(rt, "places"))
				require.NoError(t, err)
			}
		}
		kept := warm(s) // what is remembered, with what the deeds made stale
		s.known.forget(map[string]bool{"": true}, nil)
		fresh := warm(s)
		require.Equal(t, len(fresh), len(kept))
		for i := range fresh {
			require.Equal(t, fresh[i].Verdict, kept[i].Verdict)
			require.Equal(t, fresh[i].Evidence, kept[i].Evidence)
			require.Equal(t, fresh[i].LastOn, kept[i].LastOn)
		}
		for i := range x.people {
			st := x.standing(i)
			var kept summary
			require.NoError(t, s.r.QueryRow(`SELECT attended, weeks, signed, seen, stripes, presumed, coalesce(last_on, '') FROM climb_summary WHERE enrolment_id = ?`, st.EnrolmentID).Scan(&kept.attended, &kept.weeks, &kept.signed, &kept.seen, &kept.stripes, &kept.presumed, &kept.last))
			tx, err := s.w.BeginTx(bg, nil)
			require.NoError(t, err)
			fresh, err := (&txn{Tx: tx, s: s}).summary(bg, st.EnrolmentID)
			require.NoError(t, err)
			require.NoError(t, tx.Rollback())
			require.Equal(t, fresh, kept)
			byHand, total := 0, 0
			all, err := s.AttendedSince(bg, x.people[i], st.Since, 1000)
			require.NoError(t, err)
			for _, a := range all {
				if a.Kind == "General" || a.Kind == "Sparring" {
					byHand++
				}
			}
			var elsewhere int
			require.NoError(t, s.r.QueryRow(`SELECT count(*) FROM attendance a JOIN register r ON r.id = a.register_id WHERE a.student_id = ? AND a.on_date >= ? AND r.class_id = ?`, x.people[i], st.Since.String(), classes[2].ID).Scan(&elsewhere))
			var came progress.Attended
			require.NoError(t, asAttended{&came}.Scan(kept.attended))
			for _, k := range came {
				total += k
			}
			require.Equal(t, byHand-elsewhere, total, "classes of another program do not count")
		}
	})
}

// shows signs a technique of the yellow rung off.
func (x *school) shows(student int, technique string, change func(*SignOff)) SignOff {
	so := SignOff{ID: NewID(), EnrolmentID: x.standing(student).EnrolmentID, TechniqueID: technique, Role: "performer", Kind: "shown", On: today}
	if change != nil {
		change(&so)
	}
	return so
}

func (x *school) sign(all ...SignOff) error {
	r, err := x.RecordSignOffs(bg, me, all)
	require.NoError(x.t, err)
	if len(r) > 0 {
		return r[0].Why
	}
	return nil
}

// TestSignOffsAndStripes: what is shown makes a stripe due, the stripe is awarded and taken
// back, and rules follow.
func TestSignOffsAndStripes(t *testing.T) {
	x := newSchool(t)
	c := x.evening(nil)
	r, err := x.Rung(bg, x.rungs[1])
	require.NoError(t, err)
	r.Stripes = []curriculum.SectionStripe{{SectionID: x.section.ID, Colour: "#b8322c"}}
	r.Kit = []string{"Gloves"}
	r.Rules = []curriculum.Rule{{Kind: curriculum.AllStripes, Amount: 1}, {Kind: curriculum.AllSignedOff, Amount: 1}, {Kind: curriculum.KitOwned, Amount: 1}, {Kind: curriculum.Membership, Amount: 1}, {Kind: curriculum.CharacterTask, Amount: 1}, {Kind: curriculum.ClassesSince, Amount: 2}, {Kind: curriculum.ClassShare, Amount: 50}}
	_, err = x.SaveRung(bg, me, r)
	require.NoError(t, err)
	b, err := x.Book(bg, x.program)
	require.NoError(t, err)
	var asked []string
	for _, q := range b.Asked(x.rungs[1]) {
		asked = append(asked, q.TechniqueID)
	}
	require.Len(t, asked, 3)
	e := x.standing(0).EnrolmentID

	left := x.shows(0, asked[0], func(s *SignOff) { s.Side, s.ClassID = "left", c.ID })
	require.NoError(t, x.sign(left))
	require.NoError(t, x.sign(left), "the same again")
	other := left
	other.Side = "right"
	assert.ErrorIs(t, x.sign(other), ErrConflict)
	require.NoError(t, x.sign(x.shows(0, asked[1], func(s *SignOff) { s.Kind, s.Fault = "not_yet", "elbow drops" })))
	ready, err := x.ReadyOf(bg, e)
	require.NoError(t, err)
	require.Len(t, ready.Items, 3)
	assert.True(t, ready.Items[0].Left && !ready.Items[0].Right && !ready.Items[0].Done)
	assert.Equal(t, "elbow drops", ready.Items[1].Fault)
	assert.Equal(t, []progress.SectionDone{{ID: x.section.ID, Name: x.section.Name, Done: 0, Of: 3, Open: []string{"Front kick", "Low block", "Bent Reed"}}}, ready.Sections)
	next := ready.NextThings(ready.Book, ready.Stripes, today, 3)
	require.Len(t, next, 3)
	assert.Equal(t, "Front kick", next[0].Call)
	assert.Equal(t, progress.Urge{Kind: progress.UrgeMustPass}, next[0].Urge)
	assert.Equal(t, progress.Urge{Kind: progress.UrgeNotYet, On: civil.MustParse("2026-11-24"), Fault: "elbow drops"}, next[1].Urge)

	v := ready.Verdict
	states := map[curriculum.RuleKind]progress.State{}
	for _, a := range v.Answers {
		states[a.Kind] = a.State
	}
	assert.Equal(t, map[curriculum.RuleKind]progress.State{curriculum.AllStripes: progress.NotMet, curriculum.AllSignedOff: progress.NotMet, curriculum.KitOwned: progress.Unknown, curriculum.Membership: progress.Unknown, curriculum.CharacterTask: progress.Unknown,
		curriculum.ClassesSince: progress.Unknown, curriculum.ClassShare: progress.NotMet}, states, "a register was kept today, and she is not on it")

	_, err = x.AwardStripes(bg, me, today, []Stripe{{e, x.section.ID}}, "")
	problem(t, err, "reason", "has not been signed off")
	require.NoError(t, x.sign(x.shows(0, asked[0], func(s *SignOff) { s.Side = "right" }), x.shows(0, asked[1], nil), x.shows(0, asked[2], func(s *SignOff) { s.Clip = true })))
	due, err := x.DueStripes(bg, x.program)
	require.NoError(t, err)
	require.Len(t, due, 1)
	assert.Equal(t, "Ada Rill", due[0].Name)
	_, err = x.AwardStripes(bg, me, today.AddDays(1), []Stripe{{e, x.section.ID}}, "")
	problem(t, err, "on", "future")
	_, err = x.AwardStripes(bg, me, today, nil, "")
	problem(t, err, "stripes", "none is chosen")
	_, err = x.AwardStripes(bg, me, today, []Stripe{{e, "no section"}}, "")
	refused(t, err, "no stripe for that section")
	d, err := x.AwardStripes(bg, me, today, []Stripe{{e, x.section.ID}}, "")
	require.NoError(t, err)
	_, err = x.AwardStripes(bg, me, today, []Stripe{{e, x.section.ID}}, "")
	refused(t, err, "already")
	due, err = x.DueStripes(bg, x.program)
	require.NoError(t, err)
	assert.Empty(t, due)
	answer := func(k curriculum.RuleKind) progress.Answer {
		c, err := x.ClimbingOf(bg, e, today)
		require.NoError(t, err)
		return c.Verdict.Answers[slices.IndexFunc(c.Verdict.Answers, func(a progress.Answer) bool { return a.Kind == k })]
	}
	assert.Equal(t, "1 of 1", words.Figure(answer(curriculum.AllStripes), today))
	assert.Equal(t, progress.Met, answer(curriculum.AllSignedOff).State)
	_, err = x.WithdrawStripe(bg, me, d.ID)
	require.NoError(t, err)
	_, err = x.WithdrawStripe(bg, me, d.ID)
	assert.ErrorIs(t, err, ErrNotFound)
	assert.Equal(t, progress.NotMet, answer(curriculum.AllStripes).State)
	past, err := x.StripesEver(bg, e)
	require.NoError(t, err)
	require.Len(t, past, 1)
	assert.True(t, past[0].Withdrawn, "it stays on record")

	_, err = x.SaveEvidence(bg, me, x.people[0], &[]string{"gloves"}, []progress.Paper{{Kind: curriculum.Membership, Until: today}})
	require.NoError(t, err)
	assert.Equal(t, progress.Met, answer(curriculum.KitOwned).State)
	assert.Equal(t, "valid until Tue 24 Nov 2026", words.Figure(answer(curriculum.Membership), today))
	_, err = x.SaveEvidence(bg, me, x.people[0], nil, []progress.Paper{{Kind: "passport"}})
	problem(t, err, "papers", "no paper that rules ask for")
	_, err = x.GiveExample(bg, me, e, "")
	problem(t, err, "example", "is empty")
	_, err = x.GiveExample(bg, By{Actor: "Nan (family)"}, e, "thanked her partner after a hard round")
	require.NoError(t, err)
	_, err = x.GiveExample(bg, me, e, " Thanked her  partner after a hard round")
	refused(t, err, "on record already")
	_, err = x.GiveExample(bg, me, e, "lays the table unasked")
	require.NoError(t, err)
	assert.Equal(t, "lays the table unasked", words.Figure(answer(curriculum.CharacterTask), today))
	require.NoError(t, x.enter(x.came(c, 0, today.AddDays(-196)), x.came(c, 1, today.AddDays(-7)), x.came(c, 0, today)))
	assert.Equal(t, progress.Met, answer(curriculum.ClassesSince).State)
	assert.Equal(t, "2 of 3 classes, 66 percent", words.Figure(answer(curriculum.ClassShare), today))

	for words, change := range map[string]func(*SignOff){
		"is not a choice":             func(s *SignOff) { s.Kind = "perhaps" },
		"lies in the future":          func(s *SignOff) { s.On = today.AddDays(1) },
		"does not ask":                func(s *SignOff) { s.Role = "holder" },
		"This climb is not on record": func(s *SignOff) { s.EnrolmentID = "nothing" },
		"not a part":                  func(s *SignOff) { s.Stage = 3 },
		"only then":                   func(s *SignOff) { s.Supersedes = "something" },
		"was taken back before":       func(s *SignOff) { s.Kind, s.Supersedes = "withdrawn", "something" },
		"is not held on":              func(s *SignOff) { s.ClassID, s.On = c.ID, today.AddDays(-1) },
	} {
		assert.ErrorContains(t, x.sign(x.shows(0, asked[0], change)), words)
	}
	d, err = x.Teach(bg, me, c.ID, today, asked[0])
	require.NoError(t, err)
	taught, err := x.TaughtIn(bg, c.ID, today)
	require.NoError(t, err)
	require.Len(t, taught, 1)
	assert.Equal(t, "Front kick", taught[0].Name)
	_, err = x.Teach(bg, me, c.ID, today, asked[0])
	require.NoError(t, err)
	taught, err = x.TaughtIn(bg, c.ID, today)
	require.NoError(t, err)
	assert.Empty(t, taught, "once more takes it back")
	in, err := x.SignOffsIn(bg, c.ID, today)
	require.NoError(t, err)
	assert.Len(t, in, 1)
}

// TestWhatIsExcusedIsNotMissing: the rules and the mat ask a student for what the student page asks.
func TestWhatIsExcusedIsNotMissing(t *testing.T) {
	x := newSchool(t)
	r, err := x.Rung(bg, x.rungs[1])
	require.NoError(t, err)
	r.Rules = []curriculum.Rule{{Kind: curriculum.AllSignedOff, Amount: 1}}
	_, err = x.SaveRung(bg, me, r)
	require.NoError(t, err)
	b, err := x.Book(bg, x.program)
	require.NoError(t, err)
	asked := b.Asked(x.rungs[1])
	for _, q := range asked[1:] {
		for _, side := range []string{"left", "right"} {
			s := x.shows(0, q.TechniqueID, func(s *SignOff) { s.Side = side })
			if err = x.sign(s); err != nil {
				s.Side = ""
				err = x.sign(s)
			}
			require.NoError(t, err)
		}
	}
	st := x.standing(0)
	states := func() (out []progress.State) {
		c, err := x.ClimbingOf(bg, st.EnrolmentID, today)
		require.NoError(t, err)
		all, err := x.WhoMayTest(bg, x.program, today)
		require.NoError(t, err)
		at := slices.IndexFunc(all, func(c Climbing) bool { return c.EnrolmentID == st.EnrolmentID })
		mat, err := x.ReadyOfStudents(bg, map[string]bool{st.StudentID: true}, nil)
		require.NoError(t, err)
		one, err := x.ReadyOf(bg, st.EnrolmentID)
		require.NoError(t, err)
		assert.Equal(t, one.Sections, mat[0].Sections)
		return []progress.State{c.Verdict.Answers[0].State, all[at].Verdict.Answers[0].State}
	}
	assert.Equal(t, []progress.State{progress.NotMet, progress.NotMet}, states())
	_, err = x.AddAdaptation(bg, me, st.StudentID, x.program, curriculum.Adaptation{Does: curriculum.Excuse, TechniqueID: asked[0].TechniqueID, Reason: "ankle"})
	require.NoError(t, err)
	assert.Equal(t, []progress.State{progress.Met, progress.Met}, states())
}

// TestForecastFromRecords: a student who comes every week is foreseen earlier than one who
// comes now and then, and a replay reads the same records.
func TestForecastFromRecords(t *testing.T) {
	x := newSchool(t)
	c := x.evening(nil)
	r, err := x.Rung(bg, x.rungs[1])
	require.NoError(t, err)
	r.Rules = []curriculum.Rule{{Kind: curriculum.ClassesSince, Amount: 40}} // since 200 days ago, of which 29 weeks
	_, err = x.SaveRung(bg, me, r)
	require.NoError(t, err)
	for week := 29; week >= 0; week-- {
		on := today.AddDays(-7 * week)
		require.NoError(t, x.enter(x.came(c, 0, on)))
		if week%3 == 0 {
			require.NoError(t, x.enter(x.came(c, 1, on)))
		}
	}
	all, err := x.WhoMayTest(bg, x.program, today)
	require.NoError(t, err)
	see, err := x.Foresee(bg, all)
	require.NoError(t, err)
	often, seldom := see[x.standing(0).EnrolmentID], see[x.standing(1).EnrolmentID]
	assert.True(t, often.Likely.Before(seldom.Likely) || seldom.Likely.IsZero(), "%s %s", often.Likely, seldom.Likely)
	assert.Contains(t, words.Drives(often.Drives), "11 classes more at")
	one, err := x.ClimbingOf(bg, x.standing(0).EnrolmentID, today)
	require.NoError(t, err)
	alone, err := x.Foresee(bg, []Climbing{one})
	require.NoError(t, err)
	assert.Equal(t, often.Likely, alone[one.EnrolmentID].Likely, "alone as among others")
	climbs, calendars, err := x.Replays(bg)
	require.NoError(t, err)
	require.Len(t, climbs, 2)
	assert.Equal(t, []curriculum.Rule{{Kind: curriculum.ClassesSince, Amount: 40}}, climbs[0].Rules)
	report := progress.Replay(climbs, calendars)
	assert.Positive(t, report.Forecasts)
	assert.Equal(t, report.Forecasts, report.Censored, "nobody is there yet")
	assert.Contains(t, words.BackTest(report), "had not when the records end")

	later, err := Open(bg, x.path, func() time.Time { return clock().AddDate(0, 10, 0) })
	require.NoError(t, err)
	defer later.Close()
	stopped, _, err := later.Replays(bg)
	require.NoError(t, err)
	for i := range stopped {
		assert.Equal(t, today, stopped[i].Until, "nobody knows who came after the last register")
	}
	b, err := x.Book(bg, x.program)
	require.NoError(t, err)
	shown, err := later.RecordSignOffs(bg, me, []SignOff{x.shows(0, b.Asked(x.rungs[1])[0].TechniqueID, func(s *SignOff) { s.On = today.AddDays(40) })})
	require.NoError(t, err)
	require.Empty(t, shown)
	signed, _, err := later.Replays(bg)
	require.NoError(t, err)
	assert.Equal(t, []civil.Date{today.AddDays(40), today.AddDays(40)}, []civil.Date{signed[0].Until, signed[1].Until}, "a sign-off is on record as well")
}

// TestManyWrongRows: of many rows of which a tenth is wrong the others are kept.
func TestManyWrongRows(t *testing.T) {
	x := newSchool(t)
	c := x.evening(func(c *timetable.Class) { c.From = civil.MustParse("1900-01-02") })
	var entries []gradingday.Attendance
	for i := range 1500 {
		a := x.came(c, i%3, today.AddDays(-7*(i/3)))
		if i%10 == 3 {
			a.On = a.On.AddDays(1)
		}
		entries = append(entries, a)
	}
	refused, err := x.RecordAttendance(bg, me, entries)
	require.NoError(t, err)
	assert.Len(t, refused, 150)
	assert.Equal(t, 1350, x.entries())
}

// few makes a property test try less often: each try opens a database of its own. The long
// variants try as often as usual.
func few(t *testing.T, tries int) {
	if golden.Long() {
		return
	}
	usual := flag.Lookup("rapid.checks").Value.String()
	require.NoError(t, flag.Set("rapid.checks", strconv.Itoa(tries)))
	t.Cleanup(func() { flag.Set("rapid.checks", usual) })
}

// copied is a copy of a database file.
func copied(t testing.TB, path, name string) string {
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	to := filepath.Join(t.TempDir(), name+".db")
	require.NoError(t, os.WriteFile(to, data, 0o600))
	return to
}

// TestLookingFirst: a file is looked through without writing, and what would be refused is told.
func TestLookingFirst(t *testing.T) {
	x := newSchool(t)
	c := x.evening(nil)
	wrong := x.came(c, 1, today.AddDays(-1))
	refused, err := x.LookAttendance(bg, me, []gradingday.Attendance{x.came(c, 0, today), wrong})
	require.NoError(t, err)
	require.Len(t, refused, 1)
	assert.Equal(t, 1, refused[0].At)
	assert.Zero(t, x.entries(), "looking writes nothing")
	steps := 0
	done, refused, err := x.ImportAttendance(bg, me, []gradingday.Attendance{x.came(c, 0, today), wrong, x.came(c, 1, today)}, func(int) { steps++ })
	require.NoError(t, err)
	assert.Len(t, refused, 1)
	assert.Equal(t, 3, steps)
	assert.Equal(t, 2, x.entries())

	// Taken back as a whole, but for what was corrected since; the entries stay, with who and when.
	first := x.came(c, 0, today)
	late := first
	late.State, late.ID = gradingday.Late, NewID()
	require.NoError(t, x.r.QueryRow(`SELECT id FROM attendance_event WHERE student_id = ?`, first.StudentID).Scan(&late.Supersedes))
	refused, err = x.RecordAttendance(bg, By{Actor: "another"}, []gradingday.Attendance{late})
	require.NoError(t, err)
	require.Empty(t, refused)
	e, err := x.Trail(bg, done.Audit)
	require.NoError(t, err)
	assert.True(t, e.Undoable)
	_, err = x.Undo(bg, me, done.Audit)
	require.NoError(t, err)
	all, err := x.AllAttendance(bg)
	require.NoError(t, err)
	require.Len(t, all, 1, "what somebody corrected since stands")
	assert.Equal(t, gradingday.Late, all[0].State)
	e, err = x.Trail(bg, done.Audit)
	require.NoError(t, err)
	assert.False(t, e.Undoable)
	_, err = x.Undo(bg, me, done.Audit)
	assert.ErrorContains(t, err, "Nothing of it stands any more")
}

// TestARegisterForOneTrack lists those it is for, and whoever came all the same.
func TestARegisterForOneTrack(t *testing.T) {
	x := newSchool(t)
	_, err := x.ChangeProgram(bg, me, x.program, office.WordsChanged.Named("the program"), func(d *curriculum.ProgramDetails) error {
		d.Tracks = []curriculum.Track{{ID: "cubs", Name: "Cubs", To: 6}, {ID: "adults", Name: "Adults", From: 7}}
		return nil
	})
	require.NoError(t, err)
	for i := range x.people {
		_, err = x.SetTrack(bg, me, x.standing(i).EnrolmentID, "adults")
		require.NoError(t, err)
	}
	c := x.evening(func(c *timetable.Class) { c.Tracks = []string{"cubs"} })
	people, _, _, err := x.RegisterOf(bg, c, today)
	require.NoError(t, err)
	assert.Empty(t, people)
	require.NoError(t, x.enter(x.came(c, 1, today)))
	people, _, _, err = x.RegisterOf(bg, c, today)
	require.NoError(t, err)
	require.Len(t, people, 1)
	assert.Equal(t, x.people[1], people[0].StudentID)
}

// TestItemsOfOneCall: category marks are told apart by their label, others by their line.
func TestItemsOfOneCall(t *testing.T) {
	it := gradingday.Item{Item: scoring.Item{Label: "Power"}, Lines: []curriculum.Line{{RequirementID: "r", TechniqueID: "t"}}}
	assert.Equal(t, []string{"Power", "r t"}, []string{it.Key(gradingday.CategoryPoints), it.Key(gradingday.MovementScale)})
	it.Lines = nil
	assert.Equal(t, "Power", it.Key(gradingday.MovementScale))
}
