package store

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// TestEveryRingHasAChief: without one the tables do not open; who sits alone is the chief; one can be chosen while the
// tables are open, and confirms what ends a test then.
func TestEveryRingHasAChief(t *testing.T) {
	x := newSchool(t)
	g := x.plan()
	g.GroupSize = 1
	twoRings(&g)
	for i := range g.Examiners {
		g.Examiners[i].Chief = i == 0
	}
	d, err := x.SaveGrading(bg, me, g)
	require.NoError(t, err)
	x.enterAll(d.ID)
	_, err = x.Begin(bg, me, d.ID)
	refused(t, err, "Wheel room has no chief examiner")
	full, err := x.Grading(bg, d.ID)
	require.NoError(t, err)
	second := full.Panel(1)[1]
	done, err := x.ChooseChief(bg, me, second.ID)
	require.NoError(t, err)
	assert.Equal(t, d.ID, done.ID)
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(t, err)
	full, err = x.Grading(bg, d.ID)
	require.NoError(t, err)
	chiefs := 0
	for _, e := range full.Panel(1) {
		if e.Chief {
			chiefs++
			assert.Equal(t, second.ID, e.ID)
		}
	}
	assert.Equal(t, 1, chiefs)
	_, err = x.MarkAbsent(bg, me, second.ID, true)
	require.NoError(t, err)
	_, err = x.ChooseChief(bg, me, second.ID)
	refused(t, err, "is absent")
	_, err = x.ChooseChief(bg, me, "nobody")
	assert.ErrorIs(t, err, ErrNotFound)

	// In a file from before, an examiner who sits alone is the chief once the tables open.
	y := newSchool(t)
	_, err = y.SaveGrading(bg, me, y.plan())
	require.NoError(t, err)
	_, err = y.w.Exec(`UPDATE examiner SET chief = 0`)
	require.NoError(t, err)
	_, table := y.begun()
	assert.True(t, table.Examiner.Chief)
}

// TestAnAbsentExaminer: nobody waits for their signature; what they marked stands, what they did not see is not seen;
// the last one there cannot go.
func TestAnAbsentExaminer(t *testing.T) {
	x := newSchool(t)
	id, tables := x.ringed(nil)
	ada := tables["Ada Rill"]
	x.marksOf(ada[:2], 3)
	stage := func() gradingday.Stage {
		h, err := x.Head(bg, id)
		require.NoError(t, err)
		for _, g := range h.Groups {
			if g.GroupID == ada[0].GroupID {
				return g.Stage
			}
		}
		return ""
	}
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{ada[2].mark(0, 0, 1)}))
	assert.Equal(t, gradingday.UnderWay, stage())
	review := func() Reviewed {
		_, rows, err := x.Review(bg, id)
		require.NoError(t, err)
		for _, r := range rows {
			if r.Name == "Ada Rill" {
				return r
			}
		}
		return Reviewed{}
	}
	assert.True(t, review().Sealed())
	_, err := x.MarkAbsent(bg, me, ada[2].Examiner.ID, true)
	require.NoError(t, err)
	assert.Equal(t, gradingday.Ready, stage())
	row := review()
	assert.False(t, row.Sealed(), "nobody waits for who is not there")
	assert.True(t, row.Result.Outcome.Promotes(), "two of three pass")
	assert.Equal(t, scoring.VerdictIncomplete, row.Result.Tallies[2].Verdict)
	assert.Equal(t, scoring.Seen(scoring.Whole(1)), row.Test.Sheets[2].Marks[0], "what was marked stands")
	table, err := x.ScoringTable(bg, ada[0].Examiner.ID, ada[0].GroupID)
	require.NoError(t, err)
	assert.True(t, table.AllSigned)
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{ada[2].mark(0, 1, 2)}), "a device that comes back late loses nothing")
	_, err = x.MarkAbsent(bg, me, ada[1].Examiner.ID, true)
	require.NoError(t, err)
	_, err = x.MarkAbsent(bg, me, ada[0].Examiner.ID, true)
	refused(t, err, "the last examiner")
	_, err = x.MarkAbsent(bg, me, ada[2].Examiner.ID, false)
	require.NoError(t, err)
	assert.True(t, review().Sealed(), "who is there again signs")
	deeds, _, err := x.Deeds(bg, TrailQuery{Limit: 50, Match: saying("absent")})
	require.NoError(t, err)
	assert.Len(t, deeds, 2)
}

// TestLeavingAndComing: who leaves in the middle gives the reason, keeps the sheet, is on record, and comes back to the
// same marks.
func TestLeavingAndComing(t *testing.T) {
	x := newSchool(t)
	id, tables := x.ringed(nil)
	ada := tables["Ada Rill"][0]
	candidate := ada.Candidates[0]
	m := ada.mark(0, 0, 3)
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}))
	_, err := x.WithdrawCandidate(bg, me, candidate.ID, " ", true)
	problem(t, err, "reason", "Ada Rill has 1 mark already")
	_, err = x.WithdrawCandidate(bg, me, candidate.ID, "felt unwell", false)
	refused(t, err, "say that it is meant")
	_, err = x.WithdrawCandidate(bg, me, candidate.ID, strings.Repeat("x", 5000), true)
	problem(t, err, "reason", "")
	_, err = x.WithdrawCandidate(bg, me, candidate.ID, " felt  unwell ", true)
	require.NoError(t, err)
	refused(t, x.RecordMarks(bg, me, []gradingday.Mark{ada.mark(0, 1, 3)}), "does not mark this candidate")
	left, err := x.WhoLeft(bg, id, "")
	require.NoError(t, err)
	require.Len(t, left, 1)
	assert.Equal(t, []any{"Ada Rill", "felt unwell", me.Actor, 1}, []any{left[0].Name, left[0].Reason, left[0].Actor, left[0].Marks})
	own, err := x.WhoLeft(bg, "", candidate.EnrolmentID)
	require.NoError(t, err)
	assert.Equal(t, left, own, "it stands on the student's page too")
	deeds, _, err := x.Deeds(bg, TrailQuery{Limit: 5})
	require.NoError(t, err)
	assert.Contains(t, saidOf(deeds[0]), "Ada Rill")
	assert.Contains(t, saidOf(deeds[0]), "felt unwell")

	_, err = x.BringBack(bg, me, candidate.ID)
	require.NoError(t, err)
	_, err = x.BringBack(bg, me, candidate.ID)
	refused(t, err, "is entered for this grading")
	back := x.tables(id)["Ada Rill"][0]
	assert.Equal(t, []any{ada.GroupID, candidate.ID, candidate.SheetID}, []any{back.GroupID, back.Candidates[0].ID, back.Candidates[0].SheetID})
	assert.Equal(t, []gradingday.Mark{m}, back.Marks, "the same marks on the same sheet")
	left, err = x.WhoLeft(bg, id, "")
	require.NoError(t, err)
	assert.Empty(t, left)

	// Whoever was entered anew meanwhile cannot come back a second time.
	_, err = x.WithdrawCandidate(bg, me, candidate.ID, "went home", true)
	require.NoError(t, err)
	_, err = x.AddCandidates(bg, me, id, []Entrant{{EnrolmentID: candidate.EnrolmentID}})
	require.NoError(t, err)
	_, err = x.BringBack(bg, me, candidate.ID)
	refused(t, err, "is entered for this grading")
	_, err = x.BringBack(bg, me, "nobody")
	assert.ErrorIs(t, err, ErrNotFound)
}

// TestWhatToLookAtBefore: a rung that asks for five examiners, and a student in two gradings on one day.
func TestWhatToLookAtBefore(t *testing.T) {
	x := newSchool(t)
	b := x.book()
	rung := *b.Rung(x.rungs[1])
	rung.Panel = 5
	_, err := x.SaveRung(bg, me, rung)
	require.NoError(t, err)
	id := x.coming(nil)
	x.enterAll(id)
	g, err := x.Grading(bg, id)
	require.NoError(t, err)
	all, err := x.Candidates(bg, id)
	require.NoError(t, err)
	few, err := x.TooFew(bg, g, all)
	require.NoError(t, err)
	require.NotEmpty(t, few)
	assert.Equal(t, gradingday.TooFew{Rung: "Yellow belt", Ring: "Ring A", Asks: 5, Has: len(g.Panel(0))}, few[0])
	also, err := x.AlsoEntered(bg, g)
	require.NoError(t, err)
	assert.Empty(t, also)

	// The same student climbs another program, and is tested there on the same day.
	d, err := x.SaveProgram(bg, me, curriculum.Program{Name: "Karate"})
	require.NoError(t, err)
	other := d.ID
	var rungs []string
	for i, name := range []string{"White", "Yellow"} {
		d, err = x.SaveRung(bg, me, curriculum.Rung{ProgramID: other, Position: i, Kind: curriculum.Belt, Name: name, Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffffff"}})
		require.NoError(t, err)
		rungs = append(rungs, d.ID)
	}
	d, err = x.Enrol(bg, me, x.people[0], rungs[0], today.AddDays(-300))
	require.NoError(t, err)
	there := g.Grading
	there.ID, there.ProgramID, there.RungIDs, there.Name = "", other, rungs[1:], "Karate evening"
	made, err := x.SaveGrading(bg, me, there)
	require.NoError(t, err)
	eligible, err := x.Eligible(bg, made.ID)
	require.NoError(t, err)
	require.Len(t, eligible, 1)
	_, err = x.AddCandidates(bg, me, made.ID, []Entrant{{EnrolmentID: eligible[0].EnrolmentID}})
	require.NoError(t, err)
	also, err = x.AlsoEntered(bg, g)
	require.NoError(t, err)
	assert.Equal(t, []string{"Ada Rill is also entered for Karate evening, on the same day."}, also)
	_, err = x.SaveStudent(bg, me, progress.Student{ID: x.people[0], Name: "Ada Rill", Stance: progress.Orthodox})
	require.NoError(t, err)
}
