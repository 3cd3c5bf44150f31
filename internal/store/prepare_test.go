package store

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
)

// coming is a grading in two rings that is still to come, everybody entered, alone in a group.
func (x *school) coming(change func(*gradingday.Grading)) string {
	g := x.plan()
	g.On, g.GroupSize = today.AddDays(10), 1
	twoRings(&g)
	if change != nil {
		change(&g)
	}
	d, err := x.SaveGrading(bg, me, g)
	require.NoError(x.t, err)
	x.enterAll(d.ID)
	return d.ID
}

// TestKitToOrder: who climbs lacks what the rung above asks for and is not on record as theirs.
func TestKitToOrder(t *testing.T) {
	x := newSchool(t)
	up := *x.book().Rung(x.rungs[2])
	up.Kit = []string{"gloves", "shin guards"}
	_, err := x.SaveRung(bg, me, up)
	require.NoError(t, err)
	id := x.coming(nil)
	x.enterAll(id)
	_, err = x.SaveEvidence(bg, me, x.people[0], &[]string{"Gloves"}, nil)
	require.NoError(t, err)
	b, err := x.Belts(bg, id)
	require.NoError(t, err)
	lacking := map[string][]string{}
	for _, w := range b.Kit {
		lacking[w.Rung] = append(lacking[w.Rung], w.Name)
		assert.Equal(t, 800, w.Chance)
	}
	assert.Equal(t, map[string][]string{"gloves": {"Ben Sluice", "Cleo Weir"}, "shin guards": {"Ada Rill", "Ben Sluice", "Cleo Weir"}}, lacking)
	assert.True(t, b.KitFrom.IsZero(), "no class is timetabled")
	c := x.evening(nil)
	b, err = x.Belts(bg, id)
	require.NoError(t, err)
	assert.True(t, b.Grading.On.Before(b.KitFrom), c.Name)
}

func (x *school) enterAll(id string) {
	eligible, err := x.Eligible(bg, id)
	require.NoError(x.t, err)
	for _, e := range eligible {
		_, err = x.AddCandidates(bg, me, id, []Entrant{{EnrolmentID: e.EnrolmentID}})
		require.NoError(x.t, err)
	}
}

func hardOf(d DayPlan) (out []gradingday.Breach) {
	for _, b := range gradingday.CheckDay(d.Day, d.Plan) {
		if b.Hard {
			out = append(out, b)
		}
	}
	return out
}

func TestADayIsPlannedMovedPinnedAndUndone(t *testing.T) {
	x := newSchool(t)
	id := x.coming(nil)
	look := func() DayPlan {
		d, err := x.DayPlan(bg, id)
		require.NoError(t, err)
		return d
	}
	before := look()
	require.False(t, before.Made)
	require.Len(t, before.Day.Groups, 3)
	_, err := x.MoveInPlan(bg, me, id, PlanMove{Group: before.Day.Groups[0].ID, By: 1})
	refused(t, err, "There is no plan yet")

	made, err := x.MakeDayPlan(bg, me, id, gradingday.UsualDay)
	require.NoError(t, err)
	d := look()
	require.True(t, d.Made)
	assert.Empty(t, hardOf(d))
	first := d.Plan.Slots[0]
	assert.Equal(t, 9*60+15, first.From)
	all, err := x.Candidates(bg, id)
	require.NoError(t, err)
	for _, c := range all {
		r, _ := d.Grading.PanelOf(c.RingID)
		at := slices.IndexFunc(d.Plan.Slots, func(s gradingday.Slot) bool { return d.Day.Groups[s.Group].ID == c.GroupID })
		assert.Equal(t, d.Plan.Slots[at].Ring, r, "the group stands in the plan's ring")
	}

	// Moved to the other ring; times of both follow, and it can be undone.
	group := d.Day.Groups[first.Group].ID
	other := d.Day.Rings[1-first.Ring].ID
	moved, err := x.MoveInPlan(bg, me, id, PlanMove{Group: group, Ring: other, At: 1439})
	require.NoError(t, err)
	now := look()
	assert.Empty(t, hardOf(now))
	last := now.Plan.Slots[slices.IndexFunc(now.Plan.Slots, func(s gradingday.Slot) bool { return now.Day.Groups[s.Group].ID == group })]
	assert.Equal(t, 1-first.Ring, last.Ring)
	assert.Greater(t, last.From, first.From, "behind those that begin earlier")
	_, err = x.MoveInPlan(bg, me, id, PlanMove{Group: group, By: -9})
	require.NoError(t, err)
	assert.Equal(t, 9*60+15, look().Plan.Slots[slices.IndexFunc(look().Plan.Slots, func(s gradingday.Slot) bool { return look().Day.Groups[s.Group].ID == group })].From)
	_, err = x.Undo(bg, me, moved.Audit)
	refused(t, err, "changed again since")

	// Pinned: planning again leaves it where it is.
	yes, no := true, false
	_, err = x.MoveInPlan(bg, me, id, PlanMove{Group: group, Pin: &yes})
	require.NoError(t, err)
	rules := gradingday.UsualDay
	rules.Open = 8 * 60
	_, err = x.MakeDayPlan(bg, me, id, rules)
	require.NoError(t, err)
	d = look()
	assert.True(t, d.Pinned[group])
	assert.Equal(t, 9*60+15, d.begins(slices.IndexFunc(d.Day.Groups, func(g gradingday.DayGroup) bool { return g.ID == group })))
	free, err := x.MoveInPlan(bg, me, id, PlanMove{Group: group, Pin: &no})
	require.NoError(t, err)
	assert.False(t, look().Pinned[group])
	_, err = x.Undo(bg, me, free.Audit)
	require.NoError(t, err)
	assert.True(t, look().Pinned[group], "undone")
	_ = made

	// Bad rules keep what there is.
	rules.Close = 7 * 60
	_, err = x.MakeDayPlan(bg, me, id, rules)
	var p check.Problems
	require.ErrorAs(t, err, &p)
	assert.Contains(t, p.Of("close"), "the hall closes after it opens")
	_, err = x.MoveInPlan(bg, me, id, PlanMove{Group: "nobody"})
	assert.ErrorIs(t, err, ErrNotFound)

	// Once formed anew there is none; once begun it stands.
	_, err = x.FormGroups(bg, me, id)
	require.NoError(t, err)
	assert.False(t, look().Made)
	hours, err := x.PlannedHours(bg)
	require.NoError(t, err)
	assert.NotContains(t, hours, id)
}

func TestAPlanFollowsWhoComesAndGoes(t *testing.T) {
	x := newSchool(t)
	id := x.coming(nil)
	_, err := x.MakeDayPlan(bg, me, id, gradingday.UsualDay)
	require.NoError(t, err)
	all, err := x.Candidates(bg, id)
	require.NoError(t, err)
	_, err = x.WithdrawCandidate(bg, me, all[0].ID, "went home", true)
	require.NoError(t, err)
	d, err := x.DayPlan(bg, id)
	require.NoError(t, err)
	assert.Len(t, d.Day.Groups, 2)
	assert.Empty(t, hardOf(d))
	_, err = x.AddCandidates(bg, me, id, []Entrant{{EnrolmentID: all[0].EnrolmentID}})
	require.NoError(t, err)
	d, err = x.DayPlan(bg, id)
	require.NoError(t, err)
	assert.Len(t, d.Day.Groups, 3)
	assert.Empty(t, hardOf(d), "who comes late stands at the end of a ring")
	hours, err := x.PlannedHours(bg)
	require.NoError(t, err)
	assert.Equal(t, Hours{9 * 60, d.Plan.Finish}, hours[id])
	_, err = x.MoveGroup(bg, me, d.Day.Groups[0].ID, d.Day.Rings[1].ID)
	require.NoError(t, err)
	d, err = x.DayPlan(bg, id)
	require.NoError(t, err)
	assert.Empty(t, hardOf(d), "moved on the grading's page, the plan follows")

	larger, err := x.Regrouped(bg, d, 3)
	require.NoError(t, err)
	assert.Len(t, larger.Groups, 1)
	assert.Less(t, larger.Groups[0].Minutes(), 3*d.Day.Groups[0].Minutes(), "together they are called once")
}

func TestExaminersAreHeldToRankAndFamily(t *testing.T) {
	x := newSchool(t)
	id := x.coming(nil)
	d, err := x.SaveOfficer(bg, me, Officer{Name: "ed  WEIR", Holds: map[string]string{x.program: x.rungs[0]}})
	require.NoError(t, err)
	_, err = x.SaveOfficer(bg, me, Officer{Name: "Gil Marsh", Holds: map[string]string{x.program: x.rungs[2]}, Family: []string{x.people[0]}})
	require.NoError(t, err)
	plan, err := x.DayPlan(bg, id)
	require.NoError(t, err)
	assert.Equal(t, 0, plan.Day.Examiners[1].Rank, "the name is the same, however it is written")
	assert.Equal(t, gradingday.RankUnknown, plan.Day.Examiners[0].Rank)
	_, err = x.MakeDayPlan(bg, me, id, gradingday.UsualDay)
	require.NoError(t, err)
	plan, err = x.DayPlan(bg, id)
	require.NoError(t, err)
	require.Len(t, plan.Plan.Unplaced, 1, "Ada: one ring lacks the rank, the other is family")
	assert.Len(t, plan.Plan.Unplaced[0].Why, 2)
	for _, s := range plan.Plan.Slots {
		assert.Equal(t, 1, s.Ring)
	}
	// Shared out by the plan: Ed Weir goes where he may, if anywhere.
	rules := gradingday.UsualDay
	rules.Share = true
	_, err = x.MakeDayPlan(bg, me, id, rules)
	require.NoError(t, err)
	plan, err = x.DayPlan(bg, id)
	require.NoError(t, err)
	seats := map[int]int{}
	for _, e := range plan.Day.Examiners {
		seats[e.Ring]++
	}
	assert.Equal(t, map[int]int{0: 3, 1: 3}, seats)
	assert.Empty(t, plan.Plan.Unplaced, "Ed Weir and Gil Marsh sit together, and the other ring takes Ada")

	_, err = x.SaveOfficer(bg, me, Officer{Name: "Ed Weir"})
	problem(t, err, "name", "already the name of another examiner")
	_, err = x.SaveOfficer(bg, me, Officer{Name: "New", Holds: map[string]string{x.program: "gone"}})
	problem(t, err, "holds", "not on record any more")
	_, err = x.SaveOfficer(bg, me, Officer{Name: " "})
	problem(t, err, "name", "is empty")
	_, err = x.DeleteOfficer(bg, me, d.ID)
	require.NoError(t, err)
	names, err := x.UnknownExaminers(bg)
	require.NoError(t, err)
	assert.Contains(t, names, "Ed Weir")
	assert.NotContains(t, names, "Gil Marsh")
}

func TestSparringList(t *testing.T) {
	x := newSchool(t)
	id := x.coming(nil)
	_, err := x.MakePairs(bg, me, id, gradingday.UsualPairs)
	refused(t, err, "asks for sparring")
	_, err = x.SaveRequirement(bg, me, x.asks(x.rungs[1], false), "Free rounds", "sparring")
	require.NoError(t, err)
	rules := gradingday.UsualPairs
	rules.SameRing = false
	done, err := x.MakePairs(bg, me, id, rules)
	require.NoError(t, err)
	s, err := x.Sparring(bg, id)
	require.NoError(t, err)
	require.Len(t, s.Fighters, 3)
	require.Len(t, s.Kept.Bouts, 2, "one pair, and one with a senior")
	_, err = x.Undo(bg, me, done.Audit)
	require.NoError(t, err)
	s, err = x.Sparring(bg, id)
	require.NoError(t, err)
	assert.Nil(t, s.Kept)
	rules.Bouts = 9
	_, err = x.MakePairs(bg, me, id, rules)
	problem(t, err, "bouts", "from 1 to 5")
}

func TestBeltsAreOrderedAndHandedOut(t *testing.T) {
	x := newSchool(t)
	for i, h := range []int{130, 131, 0} {
		s, err := x.Student(bg, x.people[i])
		require.NoError(t, err)
		s.HeightCM = h
		_, err = x.SaveStudent(bg, me, s)
		require.NoError(t, err)
	}
	count := func(size string, n int, set bool) error {
		_, err := x.CountStock(bg, me, x.rungs[1], size, n, set, "")
		return err
	}
	require.NoError(t, count("1", 5, true))
	require.NoError(t, count("1", -2, false))
	problem(t, count("", 1, true), "size", "is empty")
	problem(t, count("1", -1, true), "pieces", "is -1")
	problem(t, count("1", 0, false), "pieces", "is 0")
	id, table := x.begun()
	b, err := x.Belts(bg, id)
	require.NoError(t, err)
	require.Len(t, b.Wishes, 3)
	assert.Equal(t, []string{"1", "1", ""}, []string{b.Wishes[0].Size, b.Wishes[1].Size, b.Wishes[2].Size})
	assert.Empty(t, b.Sized[2], "no size, waist or height")
	assert.Equal(t, 3, b.Stock[gradingday.BeltKey{RungID: x.rungs[1], Size: "1"}])
	orders := gradingday.Belts(b.Wishes, b.Stock, 900)
	assert.Equal(t, 0, orders[0].Order, "three are enough for two")

	x.markAll(table, 3)
	_, rows, err := x.Review(bg, id)
	require.NoError(t, err)
	var ids []string
	for _, r := range rows {
		_, err = x.Decide(bg, me, Decision{CandidateID: r.ID, Outcome: r.Result.Outcome, Reason: "as seen", DecidedBy: "Cora Vane"})
		require.NoError(t, err)
		ids = append(ids, r.ID)
	}
	_, err = x.Announce(bg, me, id, ids)
	require.NoError(t, err)
	stock, err := x.Stock(bg, x.program)
	require.NoError(t, err)
	require.Len(t, stock, 1, "only what was counted is handed out")
	assert.Equal(t, 1, stock[0].Pieces)
	// A correction takes the belt back into stock.
	_, err = x.CorrectResult(bg, me, Decision{CandidateID: ids[0], Outcome: "retest", Reason: "mixed up", DecidedBy: "Cora Vane", RetestFrom: today.AddDays(20)})
	require.NoError(t, err)
	stock, err = x.Stock(bg, x.program)
	require.NoError(t, err)
	assert.Equal(t, 2, stock[0].Pieces)
}

func TestChecklistAndOutbox(t *testing.T) {
	x := newSchool(t)
	ladder, err := x.Ladder(bg, x.program)
	require.NoError(t, err)
	yellow := ladder[1].Rung
	yellow.Kit, yellow.Rules = []string{"Gum shield", "Pads"}, []curriculum.Rule{{Kind: curriculum.Membership, Amount: 1}}
	_, err = x.SaveRung(bg, me, yellow)
	require.NoError(t, err)
	kit := []string{"gum shield"}
	_, err = x.SaveEvidence(bg, me, x.people[0], &kit, []progress.Paper{{Kind: curriculum.Membership, Until: today.AddDays(400)}})
	require.NoError(t, err)
	id := x.coming(nil)
	_, rows, err := x.Checklist(bg, id)
	require.NoError(t, err)
	require.Len(t, rows, 3)
	states := map[string]progress.State{}
	for _, c := range rows {
		for _, i := range c.Items {
			states[c.Name+" "+i.What] = i.State
		}
	}
	assert.Equal(t, progress.Met, states["Ada Rill Gum shield"])
	assert.Equal(t, progress.NotMet, states["Ada Rill Pads"])
	assert.Equal(t, progress.Met, states["Ada Rill membership"])
	assert.Equal(t, progress.Unknown, states["Ben Sluice Pads"], "nobody has looked: never a failure")
	assert.Equal(t, progress.Unknown, states["Ben Sluice membership"])

	_, err = x.WriteMessages(bg, me, nil)
	problem(t, err, "candidates", "nobody is chosen")
	_, err = x.WriteMessages(bg, me, []Message{{Kind: "bring", GradingID: id, CandidateID: rows[0].ID, StudentID: rows[0].StudentID, ToName: "Una Rill", Address: "una@family.example", Subject: "=1+1", Body: "Dear Una"}})
	require.NoError(t, err)
	all, err := x.Outbox(bg, true)
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.True(t, all[0].Waits())
	_, rows, err = x.Checklist(bg, id)
	require.NoError(t, err)
	assert.NotNil(t, rows[0].Written)
	_, err = x.SettleMessage(bg, me, all[0].ID, "failed", "no such host")
	require.NoError(t, err)
	all, err = x.Outbox(bg, true)
	require.NoError(t, err)
	assert.True(t, all[0].Waits(), "what failed may be sent again")
	_, err = x.SettleMessage(bg, me, all[0].ID, "sent", "")
	require.NoError(t, err)
	_, err = x.SettleMessage(bg, me, all[0].ID, "sent", "")
	refused(t, err, "has been sent already")
	all, err = x.Outbox(bg, true)
	require.NoError(t, err)
	assert.Empty(t, all)
	_, err = x.Message(bg, "none")
	assert.ErrorIs(t, err, ErrNotFound)
}

func TestSettingsAreKeptAndUndone(t *testing.T) {
	x := newSchool(t)
	s, err := x.Settings(bg)
	require.NoError(t, err)
	assert.Equal(t, office.Usual, s)
	s.Paper, s.Retention, s.Sunday = office.Letter, 5, true
	d, err := x.SaveSettings(bg, me, "Marrowby Mill", s, nil)
	require.NoError(t, err)
	got, err := x.Settings(bg)
	require.NoError(t, err)
	assert.Equal(t, s, got)
	s.Wording = "For {name}: {rank}, {colour}"
	_, err = x.SaveSettings(bg, me, "Marrowby Mill", s, nil)
	problem(t, err, "wording", "{colour} is no word that is filled in")
	_, err = x.Undo(bg, me, d.Audit)
	require.NoError(t, err)
	got, err = x.Settings(bg)
	require.NoError(t, err)
	assert.Equal(t, office.A4, got.Paper)

	// A child who left long ago is listed, an adult and one who stayed are not.
	s.Wording = office.Usual.Wording
	_, err = x.SaveSettings(bg, me, "Marrowby Mill", s, nil)
	require.NoError(t, err)
	for i, born := range []civil.Date{today.AddMonths(-12 * 14), today.AddMonths(-12 * 40), today.AddMonths(-12 * 13)} {
		st, err := x.Student(bg, x.people[i])
		require.NoError(t, err)
		st.BirthDate = born
		_, err = x.SaveStudent(bg, me, st)
		require.NoError(t, err)
	}
	_, err = x.w.Exec(`UPDATE enrolment SET ended_on = ? WHERE student_id IN (?, ?)`, today.AddMonths(-61).String(), x.people[0], x.people[1])
	require.NoError(t, err)
	gone, err := x.DueForErasing(bg)
	require.NoError(t, err)
	require.Len(t, gone, 1)
	assert.Equal(t, "Ada Rill", gone[0].Name)
}
