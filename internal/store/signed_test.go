package store

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

// open lists what is still to be shown for the rung above.
func (x *school) open(student int) (out []string) {
	r, err := x.ReadyOf(bg, x.standing(student).EnrolmentID)
	require.NoError(x.t, err)
	for _, s := range r.Sections {
		out = append(out, s.Open...)
	}
	c, err := x.ClimbingOf(bg, x.standing(student).EnrolmentID, today)
	require.NoError(x.t, err)
	var quick []string
	for _, s := range c.Evidence.Sections {
		quick = append(quick, s.Open...)
	}
	assert.Equal(x.t, out, quick, "the quick count is the full one")
	return out
}

// TestShownAtTheDemandAsked: a line counts when this student has shown it at what is asked now:
// signed off, passed at a grading whatever its outcome, or presumed on entry.
func TestShownAtTheDemandAsked(t *testing.T) {
	x := newSchool(t)
	always := x.asks(x.rungs[1], false)
	always.ID, always.Carry.Kind = x.lines[1], curriculum.Always
	_, err := x.SaveRequirement(bg, me, always, "Low block", "strike")
	require.NoError(t, err)
	allowed := 1
	id, tables := x.ringed(func(g *gradingday.Grading) { g.Policy.Rules.AllowedFailing = &allowed })
	for i := range x.rungs[1:] {
		r, err := x.Rung(bg, x.rungs[i+1])
		require.NoError(t, err)
		r.Rules = []curriculum.Rule{{Kind: curriculum.AllSignedOff, Amount: 1}}
		_, err = x.SaveRung(bg, me, r)
		require.NoError(t, err)
	}
	assert.Equal(t, []string{"Front kick", "Low block", "Bent Reed"}, x.open(0))
	x.marksOf(tables["Ada Rill"], 3, 1, 2)
	x.marksOf(tables["Ben Sluice"], 1, 2, 2)
	x.marksOf(tables["Cleo Weir"], 2, 2, 2)
	assert.Len(t, x.open(1), 3, "what is not announced is not known")
	decided := map[string]scoring.Outcome{"Ada Rill": scoring.OutcomePromote, "Ben Sluice": scoring.OutcomeRetest, "Cleo Weir": scoring.OutcomePromote}
	var told []string
	for name, outcome := range decided {
		c := tables[name][0].Candidates[0].ID
		told = append(told, c)
		_, err := x.Decide(bg, me, Decision{CandidateID: c, Outcome: outcome, DecidedBy: "Cora Vane"})
		require.NoError(t, err)
	}
	_, err = x.Announce(bg, me, id, told)
	require.NoError(t, err)
	assert.Equal(t, []string{"Low block"}, x.open(0), "promoted, but that was failed; the kick was seen")
	assert.Equal(t, []string{"Front kick"}, x.open(1), "what was passed counts though the grading was not")
	assert.Empty(t, x.open(2))
	d, err := x.SaveStudent(bg, me, progress.Student{Name: "Dot Mere", Stance: progress.Orthodox})
	require.NoError(t, err)
	x.people = append(x.people, d.ID)
	_, err = x.Enrol(bg, me, d.ID, x.rungs[1], today)
	require.NoError(t, err)
	assert.Empty(t, x.open(3), "presumed on entry")
	_, err = x.CorrectRank(bg, me, x.standing(3).EnrolmentID, x.rungs[0], today, "a beginner after all")
	require.NoError(t, err)
	assert.Len(t, x.open(3), 3, "nothing is presumed of the first rung")

	// What was asked grows: it has to be shown anew, by whoever has not shown it.
	b, err := x.Book(bg, x.program)
	require.NoError(t, err)
	more := b.Asked(x.rungs[2])[0]
	more.Quantity.Reps = 8
	_, err = x.SaveRequirement(bg, me, more, "Front kick", "kick")
	require.NoError(t, err)
	assert.Equal(t, []string{"Low block", "Front kick"}, x.open(0))
	kick := more.TechniqueID
	line := more.ID + " " + kick
	assert.ErrorContains(t, x.sign(x.shows(0, kick, func(s *SignOff) { s.Line = "elsewhere " + kick })), "has changed since the page was opened")
	require.NoError(t, x.sign(x.shows(0, kick, func(s *SignOff) { s.Line = line })))
	assert.Equal(t, []string{"Low block"}, x.open(0))
	all, err := x.SignOffsOf(bg, x.standing(0).EnrolmentID)
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, &curriculum.Demand{Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 8}}, all[0].Demand, "what was shown is kept with the entry")
	more.Quantity.Reps = 9
	_, err = x.SaveRequirement(bg, me, more, "Front kick", "kick")
	require.NoError(t, err)
	assert.Equal(t, []string{"Low block", "Front kick"}, x.open(0), "eight are not nine")

	// Two lines of one technique are signed off each for itself; an entry that names none is of both.
	more.Quantity.Reps = 5
	_, err = x.SaveRequirement(bg, me, more, "Front kick", "kick")
	require.NoError(t, err)
	pads := more
	pads.ID, pads.Setting = "", "pads"
	d, err = x.SaveRequirement(bg, me, pads, "Front kick", "kick")
	require.NoError(t, err)
	assert.Equal(t, []string{"Front kick, on pads"}, x.open(2))
	require.NoError(t, x.sign(x.shows(2, kick, func(s *SignOff) { s.Line = line })))
	assert.Equal(t, []string{"Front kick, on pads"}, x.open(2), "in the air is not on pads")
	both := x.shows(2, kick, nil)
	require.NoError(t, x.sign(both))
	assert.Empty(t, x.open(2))
	require.NoError(t, x.sign(x.shows(2, kick, func(s *SignOff) { s.Kind, s.Supersedes = "withdrawn", both.ID })))
	require.NoError(t, x.sign(x.shows(2, kick, func(s *SignOff) { s.Line = d.ID + " " + kick })))
	assert.Empty(t, x.open(2))
}

// TestAnswersThatAreOthersNow: after the upgrade the owner is told whose answer is another one.
func TestAnswersThatAreOthersNow(t *testing.T) {
	x := newSchool(t)
	r, err := x.Rung(bg, x.rungs[2])
	require.NoError(t, err)
	r.Rules = []curriculum.Rule{{Kind: curriculum.AllSignedOff, Amount: 1}}
	_, err = x.SaveRung(bg, me, r)
	require.NoError(t, err)
	always := x.asks(x.rungs[1], false)
	always.ID, always.Carry.Kind = x.lines[1], curriculum.Always
	_, err = x.SaveRequirement(bg, me, always, "Low block", "strike")
	require.NoError(t, err)
	new := x.asks(x.rungs[2], false)
	_, err = x.SaveRequirement(bg, me, new, "Mill Wheel", "strike")
	require.NoError(t, err)
	allowed := 2
	id, tables := x.ringed(func(g *gradingday.Grading) { g.Policy.Rules.AllowedFailing = &allowed })
	var told []string
	for name, marks := range map[string][]int{"Ada Rill": {2, 1, 2}, "Ben Sluice": {2, 2, 2}, "Cleo Weir": {2, 2, 2}} {
		x.marksOf(tables[name], marks...)
		told = append(told, tables[name][0].Candidates[0].ID)
	}
	_, err = x.Agree(bg, me, told, "Cora Vane")
	require.NoError(t, err)
	_, err = x.Announce(bg, me, id, told)
	require.NoError(t, err)
	b, err := x.Book(bg, x.program)
	require.NoError(t, err)
	wheel := b.Named("Mill Wheel").ID
	require.NoError(t, x.sign(x.shows(0, wheel, nil), x.shows(1, wheel, nil)))
	assert.Equal(t, []string{"Low block"}, x.open(0))
	assert.Empty(t, x.open(1))
	assert.Equal(t, []string{"Mill Wheel"}, x.open(2))
	anew, err := x.AnsweredAnew(bg, x.program)
	require.NoError(t, err)
	require.Len(t, anew, 1)
	assert.Equal(t, "Ada Rill", anew[0].Name)
	assert.Equal(t, "Everything new was signed off. What lower rungs asked counts too now, at what is asked here, and was never seen: Low block.", words.Anew(anew[0].Anew))

	// One who entered higher up was “not met” for want of sign-offs of what is presumed.
	require.NoError(t, x.sign(x.shows(2, wheel, nil)))
	_, err = x.CorrectRank(bg, me, x.standing(2).EnrolmentID, x.rungs[1], today, "entered here")
	require.NoError(t, err)
	grown := b.Asked(x.rungs[2])[0]
	grown.Setting = "pads"
	_, err = x.SaveRequirement(bg, me, grown, "Front kick", "kick")
	require.NoError(t, err)
	low := b.Asked(x.rungs[1])[0]
	low.Setting, low.Covers, low.MustPass = "pads", true, false
	_, err = x.SaveRequirement(bg, me, low, "Front kick", "kick")
	require.NoError(t, err)
	assert.Empty(t, x.open(2))
}

// TestTheTrailCountsWhatWasTaken: of entries some of which are refused.
func TestTheTrailCountsWhatWasTaken(t *testing.T) {
	x := newSchool(t)
	b, err := x.Book(bg, x.program)
	require.NoError(t, err)
	kick := b.Named("Front kick").ID
	refused, err := x.RecordSignOffs(bg, me, []SignOff{x.shows(0, kick, nil), x.shows(1, "nothing", nil), x.shows(2, kick, nil)})
	require.NoError(t, err)
	require.Len(t, refused, 1)
	deeds, _, err := x.Deeds(bg, TrailQuery{Limit: 1})
	require.NoError(t, err)
	assert.Equal(t, "Entered 2 sign-offs", saidOf(deeds[0]))
}

// TestMovesEndAtTheEnds: a section moved further than there are places stands first or last.
func TestMovesEndAtTheEnds(t *testing.T) {
	x := newSchool(t)
	of := func() (out []string) {
		all, err := x.Sections(bg, x.program)
		require.NoError(t, err)
		for _, s := range all {
			out = append(out, s.ID)
		}
		return out
	}
	ids := of()
	_, err := x.MoveSection(bg, me, ids[2], 99)
	require.NoError(t, err)
	assert.Equal(t, ids[2], of()[len(ids)-1])
	assert.Equal(t, ids[3], of()[2])
	_, err = x.MoveSection(bg, me, ids[2], -99)
	require.NoError(t, err)
	assert.Equal(t, ids[2], of()[0])
	_, err = x.MoveSection(bg, me, ids[2], 2)
	require.NoError(t, err)
	assert.Equal(t, ids, of())
}

// TestCountsAreTold: what was counted for a line stands with the remarks, also without one.
func TestCountsAreTold(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	m := table.mark(0, 0, 3)
	m.Count = 1
	plain := table.mark(0, 1, 3)
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m, plain}))
	_, rows, err := x.Review(bg, id)
	require.NoError(t, err)
	for _, r := range rows {
		if r.ID == m.CandidateID {
			assert.Equal(t, []Note{{Examiner: "Cora Vane", Item: "Front kick", Count: 1, ItemID: table.Items[0].ID}}, r.Notes)
		}
	}
}

// TestAFaultSeenAtAGrading: what was not passed is tried and not right yet, with the fault that was seen, until it is
// shown right; what was passed in spite of one is not; insights count both, per line.
func TestAFaultSeenAtAGrading(t *testing.T) {
	x := newSchool(t)
	require.NoError(t, func() error {
		kick := x.book().Named("Front kick")
		kick.Faults = []curriculum.Fault{{Seen: "heel lifts", Correction: "press it down"}, {Seen: "knee low"}}
		_, err := x.SaveTechnique(bg, me, *kick)
		return err
	}())
	id, tables := x.ringed(func(g *gradingday.Grading) {
		none := 0
		g.Policy.Rules.AllowedFailing = &none
	})
	give := func(who string, value int, faults string) {
		for _, table := range tables[who] {
			for i := range table.Items {
				m := table.mark(0, i, 3)
				if table.Items[i].Label == "Front kick" {
					m.Value, m.Faults = scoring.Whole(value), faults
				}
				require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}))
			}
			_, err := x.Sign(bg, me, table.Examiner.ID, table.GroupID, false)
			require.NoError(t, err)
		}
		candidate := tables[who][0].Candidates[0].ID
		outcome := scoring.OutcomeRetest
		_, err := x.Decide(bg, me, Decision{CandidateID: candidate, Outcome: outcome, DecidedBy: "Cora Vane", Reason: "seen"})
		require.NoError(t, err)
		ready := func() (notYet bool, fault string) {
			c, err := x.ReadyOf(bg, tables[who][0].Candidates[0].EnrolmentID)
			require.NoError(t, err)
			roster, err := x.ReadyOfStudents(bg, map[string]bool{tables[who][0].Candidates[0].StudentID: true}, nil)
			require.NoError(t, err)
			for _, r := range []ReadyClimb{c, roster[0]} {
				k := slices.IndexFunc(r.Items, func(it progress.Item) bool { return it.Call == "Front kick" })
				notYet, fault = !r.Items[k].NotYet.IsZero(), r.Items[k].Fault
			}
			return notYet, fault
		}
		notYet, _ := ready()
		assert.False(t, notYet, "not before it is announced")
		_, err = x.Announce(bg, me, id, []string{candidate})
		require.NoError(t, err)
		notYet, fault := ready()
		assert.Equal(t, value < 2, notYet, who)
		if value < 2 {
			assert.Equal(t, "heel lifts", fault)
		}
	}
	give("Ada Rill", 1, "heel lifts")
	give("Ben Sluice", 3, "knee low\nheel lifts")
	weak, err := x.WeakItems(bg, x.program)
	require.NoError(t, err)
	k := slices.IndexFunc(weak, func(w Weak) bool { return w.Label == "Front kick" })
	assert.Equal(t, []FaultCount{{"heel lifts", 6}, {"knee low", 3}}, weak[k].Faults)
}
