package store

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

func TestWhatPassedStandsAtARetest(t *testing.T) {
	x := newSchool(t)
	allowed := 0
	change := func(g *gradingday.Grading) {
		g.Policy.Rules.AllowedFailing, g.RetestScope, g.CarryDays, g.RetestDays = &allowed, scoring.ScopeItems, 30, 0
	}
	id, tables := x.ringed(change)
	ada := tables["Ada Rill"]
	x.marksOf(ada, 3, 1, 2)
	candidate := ada[0].Candidates[0].ID
	_, err := x.Decide(bg, me, Decision{CandidateID: candidate, Outcome: scoring.OutcomeRetest, DecidedBy: "Cora Vane"})
	require.NoError(t, err)
	_, err = x.Announce(bg, me, id, []string{candidate})
	require.NoError(t, err)

	second, again := x.ringed(change)
	left := again["Ada Rill"]
	require.Len(t, left[0].Items, 1, "only what failed is called")
	assert.Equal(t, "Low block", left[0].Items[0].Label)
	assert.Len(t, again["Ben Sluice"][0].Items, 3, "of the others everything")
	full, err := x.Grading(bg, second)
	require.NoError(t, err)
	together, err := x.RunningOrder(bg, full, append(left[0].Candidates, again["Ben Sluice"][0].Candidates...))
	require.NoError(t, err)
	require.Len(t, together, 3)
	assert.True(t, together[0].Stands[left[0].Candidates[0].ID], "who passed it before is told apart")
	uses, err := x.SheetUses(bg, second)
	require.NoError(t, err)
	assert.Equal(t, 2, uses[left[0].Candidates[0].ID].Stands)
	m := left[0].mark(0, 0, 4)
	_, rows, err := x.Review(bg, second)
	require.NoError(t, err)
	for _, r := range rows {
		if r.Name == "Ada Rill" {
			m.ItemID = r.Items[0].ID
			assert.Equal(t, scoring.OutcomeIncomplete, r.Result.Outcome, "what stands alone makes nobody pass")
		}
	}
	refused(t, x.RecordMarks(bg, me, []gradingday.Mark{m}), "passed this at an earlier attempt")
	x.marksOf(left, 2)
	_, rows, err = x.Review(bg, second)
	require.NoError(t, err)
	for _, r := range rows {
		if r.Name != "Ada Rill" {
			continue
		}
		assert.Equal(t, scoring.OutcomePromote, r.Result.Outcome)
		assert.Equal(t, 3, r.Result.Tallies[0].Seen)
		assert.Equal(t, scoring.Whole(3+2+2), r.Result.Tallies[0].Points, "with the marks at which the rest stood")
	}
	// After the days are over the whole test is asked again.
	late, err := Open(bg, x.path, func() time.Time { return clock().AddDate(0, 0, 31) })
	require.NoError(t, err)
	defer late.Close()
	y := *x
	y.Store = late
	_, err = y.WithdrawCandidate(bg, me, left[0].Candidates[0].ID, "went home", true)
	require.NoError(t, err)
	_, third := y.ringed(func(g *gradingday.Grading) { change(g); g.On = late.Today() })
	assert.Len(t, third["Ada Rill"][0].Items, 3)
}

func TestResultsAtOnce(t *testing.T) {
	x := newSchool(t)
	id, tables := x.ringed(func(g *gradingday.Grading) { g.Results = gradingday.AtOnce })
	x.marksOf(tables["Ada Rill"][:2], 3)
	assert.Equal(t, "White belt", x.standing(0).Rung.Name, "the panel has not all signed")
	x.marksOf(tables["Ada Rill"][2:], 3)
	assert.Equal(t, "Yellow belt", x.standing(0).Rung.Name)
	x.marksOf(tables["Ben Sluice"], 0)
	assert.Equal(t, "White belt", x.standing(1).Rung.Name)
	_, rows, err := x.Review(bg, id)
	require.NoError(t, err)
	for _, r := range rows {
		assert.Equal(t, r.Name != "Cleo Weir", r.Announced, r.Name)
		if r.Announced {
			assert.Equal(t, r.Test.Chief, r.Decision.DecidedBy)
		}
	}
	x.followsHistory()
}

func TestHoldAndASetTime(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	x.markAll(table, 3)
	ids := []string{table.Candidates[0].ID, table.Candidates[1].ID, table.Candidates[2].ID}
	_, err := x.Hold(bg, me, ids[0], true)
	refused(t, err, "no decision")
	_, err = x.Agree(bg, me, nil, "Cora Vane")
	problem(t, err, "form", "nobody is ticked")
	_, err = x.Agree(bg, me, ids[:2], "")
	problem(t, err, "decided_by", "is empty")
	_, err = x.Agree(bg, me, []string{ids[0], ids[1], ids[0]}, "Cora Vane") // one is sent twice
	require.NoError(t, err)
	_, err = x.Hold(bg, me, ids[1], true)
	require.NoError(t, err)
	_, err = x.AnnounceAt(bg, me, id, clock().Add(-time.Minute))
	problem(t, err, "announce_at", "lies in the past")
	_, err = x.AnnounceAt(bg, me, id, clock().Add(time.Hour))
	require.NoError(t, err)
	n, err := x.AnnounceDue(bg)
	require.NoError(t, err)
	assert.Zero(t, n, "its time has not come")
	later, err := Open(bg, x.path, func() time.Time { return clock().Add(2 * time.Hour) })
	require.NoError(t, err)
	defer later.Close()
	n, err = later.AnnounceDue(bg)
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	_, rows, err := later.Review(bg, id)
	require.NoError(t, err)
	assert.Equal(t, []bool{true, false, false}, []bool{rows[0].Announced, rows[1].Announced, rows[2].Announced}, "held and undecided ones wait")
	n, err = later.AnnounceDue(bg)
	require.NoError(t, err)
	assert.Zero(t, n, "once")
	_, err = x.Hold(bg, me, ids[1], false)
	require.NoError(t, err)
	_, err = x.Announce(bg, me, id, ids[1:2])
	require.NoError(t, err)
}

func TestACorrectedResultMovesTheRank(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	x.markAll(table, 2)
	ids := []string{table.Candidates[0].ID, table.Candidates[1].ID}
	fix := func(c string, o scoring.Outcome, reason string) error {
		_, err := x.CorrectResult(bg, me, Decision{CandidateID: c, Outcome: o, DecidedBy: "Rosa Castell", Reason: reason})
		return err
	}
	refused(t, fix(ids[0], scoring.OutcomeRetest, "swapped"), "has not been announced")
	_, err := x.Decide(bg, me, Decision{CandidateID: ids[1], Outcome: scoring.OutcomeRetest, DecidedBy: "Cora Vane", Reason: "stopped half way"})
	require.NoError(t, err)
	_, err = x.Agree(bg, me, ids[:1], "Cora Vane")
	require.NoError(t, err)
	_, err = x.Announce(bg, me, id, ids)
	require.NoError(t, err)
	problem(t, fix(ids[0], scoring.OutcomeRetest, " "), "reason", "say why")
	problem(t, fix(ids[0], scoring.OutcomePromote, "x"), "outcome", "what was announced")
	before := x.standing(0)
	require.NoError(t, fix(ids[0], scoring.OutcomeRetest, "two candidates were swapped"))
	require.NoError(t, fix(ids[1], scoring.OutcomePromote, "two candidates were swapped"))
	assert.Equal(t, "Yellow belt", before.Rung.Name)
	assert.Equal(t, "White belt", x.standing(0).Rung.Name)
	assert.Equal(t, today.AddDays(-200), x.standing(0).Since, "they stand there since they ever did")
	assert.Equal(t, "Yellow belt", x.standing(1).Rung.Name)
	x.followsHistory()
	told, err := x.Attempts(bg, x.standing(0).EnrolmentID)
	require.NoError(t, err)
	assert.Equal(t, scoring.OutcomeRetest, told[0].Outcome)
	assert.Equal(t, today.AddDays(28), told[0].RetestFrom)
	var n int
	require.NoError(t, x.r.QueryRow(`SELECT count(*) FROM decision_event WHERE candidate_id = ?`, ids[0]).Scan(&n))
	assert.Equal(t, 2, n, "what was announced stays on record")
}

func TestAReferralIsSettledByANamedPerson(t *testing.T) {
	x := newSchool(t)
	g := x.plan()
	g.Policy.Scale.Double = true
	d, err := x.SaveGrading(bg, me, g)
	require.NoError(t, err)
	for i := range x.people {
		_, err = x.AddCandidates(bg, me, d.ID, []Entrant{{EnrolmentID: x.standing(i).EnrolmentID}})
		require.NoError(t, err)
	}
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(t, err)
	table := x.table(d.ID)
	x.markAll(table, 4)
	var ids []string
	for _, c := range table.Candidates {
		ids = append(ids, c.ID)
	}
	_, err = x.Agree(bg, me, ids, "Cora Vane")
	require.NoError(t, err)
	grant := func(c string, granted bool, reason string) error {
		_, err := x.SettleReferral(bg, me, Referral{CandidateID: c, Granted: granted, Reason: reason, DecidedBy: "Rosa Castell"})
		return err
	}
	refused(t, grant(ids[0], true, "strong"), "not announced yet")
	_, err = x.Announce(bg, me, d.ID, ids)
	require.NoError(t, err)
	assert.Equal(t, "Yellow belt", x.standing(0).Rung.Name, "a referral is one rung until somebody decides")
	problem(t, grant(ids[0], true, ""), "reason", "say why")
	require.NoError(t, grant(ids[0], true, "strong in everything"))
	require.NoError(t, grant(ids[1], false, "too young"))
	assert.Equal(t, "Green belt", x.standing(0).Rung.Name)
	assert.Equal(t, "Yellow belt", x.standing(1).Rung.Name)
	history, err := x.History(bg, x.standing(0).EnrolmentID)
	require.NoError(t, err)
	var climbed []string
	for _, h := range history {
		climbed = append(climbed, h.Words)
	}
	assert.Subset(t, climbed, []string{"Yellow belt", "Green belt"}, "each of both rungs stands in the history")
	refused(t, grant(ids[0], false, "after all"), "has been settled")

	next := x.plan()
	next.On = g.On.AddDays(7)
	next.RungIDs = []string{x.standing(0).Rung.ID}
	later, err := x.SaveGrading(bg, me, next)
	require.NoError(t, err)
	coming, err := x.GradingsFor(bg, x.standing(0).Rung.ID)
	require.NoError(t, err)
	require.Len(t, coming, 1)
	assert.Equal(t, later.ID, coming[0].ID)
	set := func(c, at string, granted bool) error {
		_, err := x.SettleReferral(bg, me, Referral{CandidateID: c, Granted: granted, TestedAt: at, Reason: "let us see it", DecidedBy: "Rosa Castell"})
		return err
	}
	problem(t, set(ids[2], later.ID, true), "tested_at", "one of the two")
	refused(t, set(ids[2], d.ID, false), "is entered for this grading already")
	require.NoError(t, set(ids[2], later.ID, false))
	assert.Equal(t, "Yellow belt", x.standing(2).Rung.Name, "one rung until it is tested")
	entered, err := x.Candidates(bg, later.ID)
	require.NoError(t, err)
	require.Len(t, entered, 1)
	assert.Equal(t, [4]string{"Yellow belt", "Green belt", "let us see it", x.people[2]}, [4]string{entered[0].FromWords, entered[0].ToWords, entered[0].Reason, entered[0].StudentID})
	_, rows, err := x.Review(bg, d.ID)
	require.NoError(t, err)
	for _, r := range rows {
		if r.ID == ids[2] {
			assert.Equal(t, later.ID, r.Referral.TestedAt)
		}
	}
	deeds, _, err := x.Deeds(bg, TrailQuery{Grading: d.ID, Limit: 500})
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(deeds, func(d Deed) bool {
		return saidOf(d) == "Cleo Weir: double promotion to be tested, set by Rosa Castell: let us see it"
	}))
	_, err = x.CorrectResult(bg, me, Decision{CandidateID: ids[0], Outcome: scoring.OutcomeRetest, DecidedBy: "R", Reason: "x"})
	refused(t, err, "has been settled")
	x.followsHistory()
}

func TestLaboratory(t *testing.T) {
	x := newSchool(t)
	id, tables := x.ringed(nil)
	x.marksOf(tables["Ada Rill"], 2, 1, 1)
	strict := scoring.MovementScale()
	one := 1
	strict.Rules.AllowedFailing = &one
	_, rows, err := x.Laboratory(bg, id, strict)
	require.NoError(t, err)
	require.Len(t, rows, 1, "only who is signed by all")
	assert.Equal(t, scoring.OutcomePromote, rows[0].Result.Outcome)
	assert.Equal(t, scoring.OutcomeRetest, rows[0].Other.Outcome)
	none := scoring.MovementScale()
	none.Rules.SectionMinima = []scoring.SectionMinimum{{Section: "Swimming", Ratio: 1}}
	_, rows, err = x.Laboratory(bg, id, none)
	require.NoError(t, err)
	assert.ErrorContains(t, rows[0].Why, "no item is in section")
}

func TestASetTimeThatCannotBeKeptIsSaid(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	x.markAll(table, 3)
	_, err := x.Agree(bg, me, []string{table.Candidates[0].ID}, "Cora Vane")
	require.NoError(t, err)
	_, err = x.AnnounceAt(bg, me, id, clock().Add(time.Hour))
	require.NoError(t, err)
	// The student was put elsewhere meanwhile.
	_, err = x.CorrectRank(bg, me, x.standing(0).EnrolmentID, x.rungs[2], today, "came with a rank")
	require.NoError(t, err)
	later, err := Open(bg, x.path, func() time.Time { return clock().Add(2 * time.Hour) })
	require.NoError(t, err)
	defer later.Close()
	_, err = later.AnnounceDue(bg)
	require.NoError(t, err)
	g, rows, err := later.Review(bg, id)
	require.NoError(t, err)
	assert.True(t, g.AnnounceAt.IsZero(), "it is not tried for ever")
	assert.False(t, rows[0].Announced)
	deeds, _, err := later.Deeds(bg, TrailQuery{Match: saying("could not announce"), Limit: 5})
	require.NoError(t, err)
	require.Len(t, deeds, 1)
	assert.Contains(t, saidOf(deeds[0]), "Ada Rill stands on another rung by now")
	assert.Equal(t, "the set time", deeds[0].Actor)
}
