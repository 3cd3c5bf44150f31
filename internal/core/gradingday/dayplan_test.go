package gradingday

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/timetable"
	"velvetladder/internal/golden"
)

// bigDay is a day of 200 candidates, 5 rings and 15 examiners of different ranks, some with
// children among the candidates.
func bigDay(seed uint64) Day {
	rng := rand.New(rand.NewPCG(seed, 7))
	d := Day{DayRules: UsualDay, PanelSize: 3}
	d.Close, d.Share = 20*60, true
	d.Order = Orders[seed%4]
	if seed%3 == 0 {
		d.PauseFrom, d.PauseTo = 12*60+30, 13*60+15
	}
	for i := range 5 {
		d.Rings = append(d.Rings, Ring{ID: fmt.Sprint("r", i), Name: "Ring " + string(rune('A'+i))})
	}
	who, left := 0, 200
	for left > 0 {
		rung := rng.IntN(9) + 1
		n := min(left, 1+rng.IntN(9)) // of this rung and track
		left -= n
		base, then := 6+rung+rng.IntN(6), 0
		if rung > 3 {
			then = 4 + rng.IntN(6)
		}
		for _, size := range Split(n, 3) {
			g := DayGroup{ID: fmt.Sprint("g", len(d.Groups)), Name: fmt.Sprint("Group ", len(d.Groups)+1), For: fmt.Sprint("rung ", rung), Rung: rung, Months: 60 + rng.IntN(500), First: base + 2*size, Then: then, Ring: Spare}
			for range size {
				g.Students = append(g.Students, fmt.Sprint("s", who))
				who++
			}
			d.Groups = append(d.Groups, g)
		}
	}
	for i := range 15 {
		e := DayExaminer{ID: fmt.Sprint("e", i), Name: fmt.Sprint("Examiner ", i), Ring: Spare, Rank: 7 + rng.IntN(4), RankName: "a rung"}
		if i < 3 {
			e.Rank = 10
		}
		if rng.IntN(3) == 0 {
			e.Family = []string{fmt.Sprint("s", rng.IntN(200))}
		}
		d.Examiners = append(d.Examiners, e)
	}
	return d
}

func hard(breaches []Breach) (out []Breach) {
	for _, b := range breaches {
		if b.Hard {
			out = append(out, b)
		}
	}
	return out
}

// waited are the candidate-minutes between rests that were over and second parts, counted from the slots alone.
func waited(d Day, p DayPlan) (n int) {
	over := map[int]int{}
	for _, s := range p.Slots {
		if s.Part == 1 {
			over[s.Group] = s.To + d.Rest
		}
	}
	for _, s := range p.Slots {
		if s.Part == 2 {
			n += (s.From - over[s.Group]) * max(1, len(d.Groups[s.Group].Students))
		}
	}
	return n
}

func TestBigDaysArePlannedNearTheirBound(t *testing.T) {
	golden.Alone(t)
	for seed := range uint64(20) {
		d := bigDay(seed)
		plan, greedy, bound := PlanDay(d, seed)
		assert.Empty(t, hard(CheckDay(d, plan)), "day %d", seed)
		require.GreaterOrEqual(t, plan.Finish, bound.Finish, "a bound is a bound")
		over := 100 * float64(plan.Finish-bound.Finish) / float64(bound.Finish-d.Open)
		t.Logf("day %2d: %d groups, %s, ends %s, bound %s (%.1f %%), greedy %s, waiting %d", seed, len(d.Groups), d.Order, timetable.Clock(plan.Finish), timetable.Clock(bound.Finish), over, timetable.Clock(greedy.Finish), plan.Waiting)
		assert.LessOrEqual(t, over, 5.0, "day %d", seed)
		assert.LessOrEqual(t, plan.Finish, greedy.Finish)
		assert.Equal(t, []int{waited(d, plan), waited(d, greedy)}, []int{plan.Waiting, greedy.Waiting}, "day %d", seed)
		assert.NotZero(t, LimitOf(d, plan, bound).Groups)
	}
}

func TestADayIsPlannedTheSameAgain(t *testing.T) {
	a, _, _ := PlanDay(bigDay(3), 5)
	b, _, _ := PlanDay(bigDay(3), 5)
	assert.Equal(t, a, b)
}

func BenchmarkPlanDay(b *testing.B) {
	d := bigDay(0)
	for b.Loop() {
		PlanDay(d, 1)
	}
}

func TestEveryPlanHoldsItsRules(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := Day{DayRules: UsualDay, PanelSize: rapid.SampledFrom([]int{1, 3}).Draw(t, "panel")}
		d.Close = 24 * 60
		d.Order, d.Share = rapid.SampledFrom(Orders).Draw(t, "order"), rapid.Bool().Draw(t, "share")
		if rapid.Bool().Draw(t, "pause") {
			d.PauseFrom, d.PauseTo = 600, 630
		}
		rings := rapid.IntRange(1, 4).Draw(t, "rings")
		for i := range rings {
			d.Rings = append(d.Rings, Ring{ID: fmt.Sprint("r", i), Name: fmt.Sprint("Ring ", i)})
		}
		for i := range rapid.IntRange(0, 9).Draw(t, "examiners") {
			d.Examiners = append(d.Examiners, DayExaminer{ID: fmt.Sprint("e", i), Ring: rapid.IntRange(Spare, rings-1).Draw(t, "ring"), Rank: rapid.IntRange(RankUnknown, 3).Draw(t, "rank"), Family: []string{fmt.Sprint("s", rapid.IntRange(0, 12).Draw(t, "family"))}})
		}
		for i := range rapid.IntRange(0, 9).Draw(t, "groups") {
			d.Groups = append(d.Groups, DayGroup{ID: fmt.Sprint("g", i), Name: fmt.Sprint("Group ", i), Rung: rapid.IntRange(1, 4).Draw(t, "rung"), Months: rapid.IntRange(0, 300).Draw(t, "age"), Students: []string{fmt.Sprint("s", i)},
				First: rapid.IntRange(1, 50).Draw(t, "first"), Then: rapid.SampledFrom([]int{0, 0, 5, 20}).Draw(t, "then"), Ring: Spare})
		}
		plan, greedy, bound := PlanDay(d, 1)
		for _, p := range []DayPlan{plan, greedy} {
			gone := map[int]bool{}
			for _, u := range p.Unplaced {
				assert.NotEmpty(t, u.Why, "who is not tested is told why")
				gone[u.Group] = true
			}
			for _, b := range CheckDay(d, p) {
				if b.Hard && !(b.Ring == "" && b.Group != "" && gone[index(d, b.Group)]) {
					t.Fatal(b)
				}
			}
		}
		assert.GreaterOrEqual(t, plan.Finish, bound.Finish)
		assert.GreaterOrEqual(t, greedy.Finish, bound.Finish)
	})
}

func index(d Day, id string) int {
	for i, g := range d.Groups {
		if g.ID == id {
			return i
		}
	}
	return -1
}

// smallDay has two rings with three examiners each and four groups.
func smallDay() Day {
	d := Day{DayRules: UsualDay, PanelSize: 3, Rings: []Ring{{"a", "Ring A"}, {"b", "Ring B"}}}
	for i, name := range []string{"Ilsa Corder", "Bram Weir", "Oona Fell", "Tam Sluice", "Ede Rook", "Wil Marsh"} {
		d.Examiners = append(d.Examiners, DayExaminer{ID: name, Name: name, Ring: i / 3, Chief: i%3 == 0, Rank: 9, RankName: "Black belt"})
	}
	for i := range 4 {
		d.Groups = append(d.Groups, DayGroup{ID: fmt.Sprint("g", i+1), Name: fmt.Sprint("Group ", i+1), For: "Orange belt", Rung: 3, Months: 100 + i, Students: []string{fmt.Sprint("s", i)}, First: 30, Then: 8, Ring: Spare})
	}
	return d
}

// The checker is tested by breaking a good plan, one rule at a time.
func TestTheCheckerSeesEachBrokenRule(t *testing.T) {
	for name, c := range map[string]struct {
		day   func(*Day)
		plan  func(*DayPlan)
		says  Breach // but for its ids and Hard
		small bool
	}{
		"no ring":              {day: func(d *Day) { d.Rings, d.Groups = nil, nil }, plan: func(p *DayPlan) { *p = DayPlan{} }, says: Breach{Kind: NoRings}},
		"one for two rings":    {plan: func(p *DayPlan) { p.Panels[1][0] = p.Panels[0][0] }, says: Breach{Kind: TwoSeats, Name: "Ilsa Corder", Beside: "Ring A", Where: "Ring B"}},
		"a panel of two":       {plan: func(p *DayPlan) { p.Panels[0] = p.Panels[0][:2] }, says: Breach{Kind: PanelSize, Name: "Ring A", N: 2}},
		"a ring without panel": {plan: func(p *DayPlan) { p.Panels[0] = nil }, says: Breach{Kind: RingEmpty, Name: "Ring A"}},
		"rank too low":         {day: func(d *Day) { d.Examiners[0].Rank, d.Examiners[0].RankName = 2, "Yellow belt" }, says: Breach{Kind: MayNot, Name: "Group 1", Where: "Ring A", Bars: []Bar{{Kind: BarRank, Examiner: "Ilsa Corder", Holds: "Yellow belt", Tested: "Orange belt"}}}},
		"family":               {day: func(d *Day) { d.Examiners[1].Family, d.Examiners[4].Family = []string{"s0"}, []string{"s0"} }, says: Breach{Kind: MayNot, Name: "Group 1", Where: "Ring A", Bars: []Bar{{Kind: BarFamily, Examiner: "Bram Weir"}}}},
		"rank not on record":   {day: func(d *Day) { d.Examiners[2].Rank = RankUnknown }, says: Breach{Kind: RankUnseen, Name: "Oona Fell"}, small: true},
		"forgotten":            {plan: func(p *DayPlan) { p.Slots = p.Slots[2:] }, says: Breach{Kind: NotTested, Name: "Group 1", For: "Orange belt"}},
		"half of it":           {plan: func(p *DayPlan) { p.Slots = p.Slots[1:] }, says: Breach{Kind: NotTested, Name: "Group 1", For: "Orange belt"}},
		"too short":            {plan: func(p *DayPlan) { p.Slots[0].To -= 5 }, says: Breach{Kind: TooShort, Name: "Group 1", N: 25, M: 30}},
		"too short after": {plan: func(p *DayPlan) {
			at := slices.IndexFunc(p.Slots, func(s Slot) bool { return s.Part == 2 })
			p.Slots[at].To--
		}, says: Breach{Kind: ShortAfter, Name: "Group 1", N: 7, M: 8}},
		"not rested": {plan: func(p *DayPlan) {
			at := slices.IndexFunc(p.Slots, func(s Slot) bool { return s.Part == 2 })
			first := slices.IndexFunc(p.Slots, func(s Slot) bool { return s.Part == 1 && s.Group == p.Slots[at].Group })
			p.Slots[at].From = p.Slots[first].To + smallDay().Rest - 1
		}, says: Breach{Kind: RestTooShort, Name: "Group 1", N: 9, M: 10}},
		"three times": {plan: func(p *DayPlan) {
			at := slices.IndexFunc(p.Slots, func(s Slot) bool { return s.Part == 2 })
			p.Slots = append(p.Slots, p.Slots[at])
		}, says: Breach{Kind: PlacedOften, Name: "Group 1", N: 3, M: 2}},
		"nobody may": {plan: func(p *DayPlan) {
			p.Slots = slices.DeleteFunc(p.Slots, func(s Slot) bool { return s.Group == 0 })
			p.Unplaced = []Unplaced{{Group: 1}, {Group: 0}, {Group: 0, Why: []Bar{{Kind: BarRank}, {Kind: BarFamily}}}}
		}, says: Breach{Kind: NotTested, Name: "Group 1", For: "Orange belt", Bars: []Bar{{Kind: BarRank}, {Kind: BarFamily}}}},
		"no place": {plan: func(p *DayPlan) {
			p.Slots = slices.DeleteFunc(p.Slots, func(s Slot) bool { return s.Group == 0 })
			p.Unplaced = []Unplaced{{Group: 1, Why: []Bar{{Kind: BarRank}}}, {Group: 0}}
		}, says: Breach{Kind: NotTested, Name: "Group 1", For: "Orange belt"}},
		"before the warm-up": {plan: func(p *DayPlan) { p.Slots[0].From, p.Slots[0].To = 540, 570 }, says: Breach{Kind: BeforeReady, Name: "Group 1", N: 540, M: 15, K: 555}},
		"no rest":            {day: func(d *Day) { d.Rest = 200 }, says: Breach{Kind: RestTooShort, Name: "Group 1", N: 36, M: 200}},
		"at once":            {plan: func(p *DayPlan) { p.Slots[1].From, p.Slots[1].To = p.Slots[0].From, p.Slots[0].To }, says: Breach{Kind: Overlap, Name: "Group 2", Beside: "Group 1", N: 555, M: 585}},
		"no change":          {day: func(d *Day) { d.Change = 60 }, says: Breach{Kind: ChangeShort, Name: "Group 2", Beside: "Group 1", N: 3, M: 60}, small: true},
		"in the pause":       {day: func(d *Day) { d.PauseFrom, d.PauseTo = 560, 570 }, says: Breach{Kind: InThePause, Name: "Group 1"}},
		"too long":           {day: func(d *Day) { d.Close = 600 }, says: Breach{Kind: PastClosing, N: 640, M: 600}},
		"out of order": {day: func(d *Day) {
			for i := range d.Groups {
				d.Groups[i].Months = 900 - i
			}
		}, says: Breach{Kind: OutOfOrder, Name: "Group 2", Beside: "Group 1", Where: "Ring A", Order: YoungestFirst}, small: true},
		"pinned elsewhere": {day: func(d *Day) { d.Groups[0].Ring, d.Groups[0].At = 1, 700 }, says: Breach{Kind: OffItsPin, Name: "Group 1"}},
		"one child twice": {day: func(d *Day) {
			for i := range d.Groups {
				d.Groups[i].Students = []string{"x"}
			}
		}, says: Breach{Kind: TwoPlaces, Name: "Group 3", Beside: "Group 1"}},
		"even when named": {day: func(d *Day) { d.Examiners[2].Ring = 1 }, says: Breach{Kind: SeatsLeft, Name: "Ring B", N: 4, M: 3}, small: true},
	} {
		t.Run(name, func(t *testing.T) {
			d := smallDay()
			p, _, _ := PlanDay(d, 1)
			require.Empty(t, hard(CheckDay(d, p)))
			if c.day != nil {
				c.day(&d)
			}
			if c.plan != nil {
				c.plan(&p)
			}
			all := CheckDay(d, p)
			found := false
			for _, b := range all {
				hard := b.Hard
				b.Hard, b.Group, b.Ring = false, "", ""
				found = found || hard != c.small && assert.ObjectsAreEqual(c.says, b)
			}
			assert.True(t, found, "%v is not among %v", c.says, all)
			assert.True(t, slices.IsSortedFunc(all, func(a, b Breach) int {
				if a.Hard != b.Hard && b.Hard {
					return 1
				}
				return 0
			}), "what must not be comes first: %v", all)
		})
	}
}

func TestPinnedGroupsStay(t *testing.T) {
	d := smallDay()
	d.Groups[2].Ring, d.Groups[2].At = 1, 11*60
	p, _, b := PlanDay(d, 1)
	assert.Empty(t, hard(CheckDay(d, p)))
	for _, s := range p.Slots {
		if s.Group == 2 && s.Part == 1 {
			assert.Equal(t, Slot{2, 1, 1, 660, 690}, s)
		}
	}
	assert.Equal(t, 660+30+10+8, b.Finish, "no plan ends before a pinned group does")
	assert.Equal(t, Proof{Kind: ByPin, Name: "Group 3", At: 660, Each: 48}, b.Proof)
}

func TestWhatLimitsADay(t *testing.T) {
	d := smallDay()
	p, greedy, b := PlanDay(d, 1)
	assert.Less(t, p.Finish, greedy.Finish, "rests are filled with the work of others")
	limit := LimitOf(d, p, b)
	assert.Equal(t, Limit{Ring: limit.Ring, Until: p.Finish, Groups: 2, Work: 76, Idle: 9, Bound: b}, limit)
	assert.True(t, limit.Proven())
	assert.False(t, Limit{Until: 601, Bound: Bound{Finish: 600}}.Proven())
	assert.Equal(t, 555+30+3+30+3+8+3+8, p.Finish)
	assert.Equal(t, p.Finish, b.Finish, "few groups: every share of them was tried")
	d.Examiners[0].Rank = 1
	for i := range d.Groups {
		d.Groups[i].Then = 0
	}
	_, _, b = PlanDay(d, 1)
	assert.Equal(t, []string{"Ring B"}, b.Whose.Only)
	for i := range d.Examiners {
		d.Examiners[i].Rank = 1
	}
	p, _, _ = PlanDay(d, 1)
	require.Len(t, p.Unplaced, 4)
	assert.Len(t, p.Unplaced[0].Why, 2)
	assert.Empty(t, p.Slots)
	p, _, _ = PlanDay(Day{DayRules: UsualDay}, 1)
	assert.Empty(t, p.Slots)
}

// TestWhatLimitsTheDayIsNamed: the groups that few may examine are called by their rung and those above it; where all are of one
// rung they are all groups.
func TestWhatLimitsTheDayIsNamed(t *testing.T) {
	day := func(low int) Day {
		d := Day{DayRules: UsualDay, PanelSize: 1, Rings: []Ring{{ID: "a", Name: "Ring A"}, {ID: "b", Name: "Ring B"}},
			Examiners: []DayExaminer{{ID: "x", Name: "High", Rank: 9}, {ID: "y", Name: "Low", Rank: 2}}}
		for i := range 7 {
			g := DayGroup{ID: fmt.Sprint("g", i), Name: fmt.Sprint("Group ", i), For: "Brown belt", Rung: 8, First: 20, Ring: Spare, Students: []string{fmt.Sprint("s", i)}}
			if i < low {
				g.For, g.Rung = "Yellow belt", 1
			}
			d.Groups = append(d.Groups, g)
		}
		return d
	}
	for low, proof := range map[int]Proof{1: {Kind: ByShare, Whose: Whose{AtLeast: "Brown belt"}, Groups: 6, Work: 120, Gaps: 15, Rings: 1, Each: 135},
		0: {Kind: ByShare, Groups: 7, Work: 140, Gaps: 18, Rings: 1, Each: 158}} {
		d := day(low)
		d.Share = true // the plan may share the examiners over the rings
		_, bound := Beside(d, [][]int{{0}, {1}})
		assert.Equal(t, proof, bound.Proof)
	}
}
