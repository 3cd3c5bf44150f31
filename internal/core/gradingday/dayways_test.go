package gradingday

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
)

// slowest tries every way to plan a small day, one part after the other, without any shortcut: every share of the groups
// over the rings that may take them, in each ring every order of the parts that the rules allow, each as early as it can
// be. It gives the earliest end, and the least waiting of what ends then.
func slowest(d Day, elig []uint) (finish, waiting int) {
	finish = 1 << 30
	rings := make([][]int, len(d.Rings))
	var share func(g int)
	share = func(g int) {
		if g == len(d.Groups) {
			end, wait := 0, 0
			for _, ring := range rings {
				e, w := slowestRing(d, ring, 1<<30)
				end, wait = max(end, e), wait+w
			}
			finish = min(finish, end)
			return
		}
		if elig[g] == 0 {
			share(g + 1)
			return
		}
		for r := range rings {
			if elig[g]&(1<<r) != 0 {
				rings[r] = append(rings[r], g)
				share(g + 1)
				rings[r] = rings[r][:len(rings[r])-1]
			}
		}
	}
	share(0)
	waiting = 1 << 30
	least := func() {
		sum := 0
		for _, ring := range rings {
			_, w := slowestRing(d, ring, finish)
			sum += w
		}
		waiting = min(waiting, sum)
	}
	var again func(g int)
	again = func(g int) {
		if g == len(d.Groups) {
			least()
			return
		}
		if elig[g] == 0 {
			again(g + 1)
			return
		}
		for r := range rings {
			if elig[g]&(1<<r) != 0 {
				rings[r] = append(rings[r], g)
				again(g + 1)
				rings[r] = rings[r][:len(rings[r])-1]
			}
		}
	}
	again(0)
	return finish, waiting
}

// slowestRing is the earliest end of a ring; with a limit the least waiting of what ends by then.
func slowestRing(d Day, ring []int, limit int) (finish, waiting int) {
	finish, waiting = 1<<30, 1<<28
	if len(ring) == 0 {
		return 0, 0
	}
	type part struct{ group, from, to int }
	var done []part
	var try func(first, second map[int]int, wait int)
	try = func(first, second map[int]int, wait int) {
		left := false
		t, last := d.Open+d.Warmup, -1
		for _, p := range done {
			t, last = p.to, p.group
		}
		put := func(g, ready, minutes int) int {
			from := t
			if last >= 0 && last != g {
				from += d.Change
			}
			from = max(from, ready)
			if d.PauseTo > 0 && from < d.PauseTo && from+minutes > d.PauseFrom {
				from = d.PauseTo
			}
			return from
		}
		for _, g := range ring {
			x := d.Groups[g]
			if _, was := first[g]; !was {
				left = true
				before := false // somebody of a lower key has to go first
				for _, h := range ring {
					if _, over := first[h]; !over && d.key(d.Groups[h]) < d.key(x) {
						before = true
					}
				}
				if before {
					continue
				}
				from := put(g, 0, x.First)
				first[g] = from + x.First
				done = append(done, part{g, from, from + x.First})
				try(first, second, wait)
				done = done[:len(done)-1]
				delete(first, g)
			} else if _, was := second[g]; !was && x.Then > 0 {
				left = true
				from := put(g, first[g]+d.Rest, x.Then)
				second[g] = from
				done = append(done, part{g, from, from + x.Then})
				try(first, second, wait+(from-first[g]-d.Rest)*max(1, len(x.Students)))
				done = done[:len(done)-1]
				delete(second, g)
			}
		}
		if left {
			return
		}
		if finish = min(finish, t); t <= limit {
			waiting = min(waiting, wait)
		}
	}
	try(map[int]int{}, map[int]int{}, 0)
	return finish, waiting
}

// littleDay is a small realistic day: one to three rings, a few groups, often of one key.
func littleDay(rng *rand.Rand) Day {
	d := Day{DayRules: DayRules{Open: 540, Close: 1440, Warmup: rng.IntN(3) * 10, Rest: rng.IntN(4) * 5, Change: rng.IntN(4) * 2, Order: Orders[rng.IntN(4)]}}
	if rng.IntN(2) == 0 {
		d.PauseFrom = 570 + rng.IntN(90)
		d.PauseTo = d.PauseFrom + 15 + rng.IntN(4)*15
	}
	rings := 1 + rng.IntN(3)
	for i := range rings {
		d.Rings = append(d.Rings, Ring{ID: fmt.Sprint("r", i), Name: fmt.Sprint("Ring ", i)})
		d.Examiners = append(d.Examiners, DayExaminer{ID: fmt.Sprint("e", i), Name: fmt.Sprint("E", i), Ring: i, Rank: 3 - rng.IntN(2)*rng.IntN(2)})
	}
	parts := 0
	for i := range 2 + rng.IntN(4) {
		g := DayGroup{ID: fmt.Sprint("g", i), Name: fmt.Sprint("Group ", i), Rung: 1 + rng.IntN(3), Months: 100 * (1 + rng.IntN(3)), First: 20 + rng.IntN(40), Ring: Spare}
		if parts++; rng.IntN(2) == 0 && parts < 6 {
			g.Then = 5 + rng.IntN(20)
			parts++
		}
		for k := range 1 + rng.IntN(3) {
			g.Students = append(g.Students, fmt.Sprint(i, k))
		}
		if parts > 7 {
			break
		}
		d.Groups = append(d.Groups, g)
	}
	return d
}

// TestSmallDaysAgainstEveryWay: the plan of a small day ends when the best of all does, and waits as little; the plain plan
// never ends earlier, and the bound says so.
func TestSmallDaysAgainstEveryWay(t *testing.T) {
	golden.Alone(t)
	rng := rand.New(rand.NewPCG(17, 8))
	waits := 0
	for n := range 3000 {
		d := littleDay(rng)
		plan, greedy, bound := PlanDay(d, 1)
		elig := eligibility(d, plan.Panels)
		finish, waiting := slowest(d, elig)
		if finish == 0 {
			continue
		}
		require.Equal(t, finish, plan.Finish, "day %d: %+v", n, d)
		require.LessOrEqual(t, plan.Finish, greedy.Finish, "day %d", n)
		require.Equal(t, finish, bound.Finish, "day %d: %v", n, bound.Proof)
		require.GreaterOrEqual(t, plan.Waiting, waiting, "day %d", n)
		if plan.Waiting > waiting {
			waits++
		}
		for _, b := range CheckDay(d, plan) {
			if b.Hard && b.Group != "" && len(plan.Unplaced) == 0 {
				t.Fatal(n, b)
			}
		}
	}
	assert.Zero(t, waits, "days on which somebody waits longer than they need")
}

// TestWrittenDays are two that were planned too late.
func TestWrittenDays(t *testing.T) {
	d := Day{DayRules: DayRules{Open: 540, Close: 1080, Warmup: 15, Rest: 10, Change: 3, Order: AnyOrder}, Rings: []Ring{{ID: "r", Name: "Ring A"}},
		Examiners: []DayExaminer{{ID: "e", Rank: RankUnknown}},
		Groups:    []DayGroup{{ID: "a", First: 39, Ring: Spare, Students: []string{"x"}}, {ID: "b", First: 25, Then: 16, Ring: Spare, Students: []string{"y"}}}}
	plan, greedy, bound := PlanDay(d, 1)
	assert.Equal(t, []int{641, 641}, []int{plan.Finish, bound.Finish})
	assert.Greater(t, greedy.Finish, 641)
	d.Order, d.PauseFrom, d.PauseTo = RankUp, 720, 765
	d.Groups = []DayGroup{{ID: "a", Rung: 3, First: 52, Ring: Spare}, {ID: "b", Rung: 1, First: 43, Ring: Spare}, {ID: "c", Rung: 3, First: 47, Then: 11, Ring: Spare}}
	plan, _, bound = PlanDay(d, 1)
	assert.Equal(t, []int{717, 717}, []int{plan.Finish, bound.Finish})
}

// TestLargerDaysAreNeverLaterThanThePlainPlan: those that are too large to try every way.
func TestLargerDaysAreNeverLaterThanThePlainPlan(t *testing.T) {
	golden.Alone(t)
	rng := rand.New(rand.NewPCG(3, 8))
	for n := range 80 {
		d := littleDay(rng)
		for i := range 6 + rng.IntN(14) {
			g := DayGroup{ID: fmt.Sprint("more", i), Name: fmt.Sprint("More ", i), Rung: 1 + rng.IntN(3), Months: 100 * (1 + rng.IntN(3)), First: 10 + rng.IntN(30), Then: rng.IntN(2) * rng.IntN(20), Ring: Spare, Students: []string{fmt.Sprint("m", i)}}
			d.Groups = append(d.Groups, g)
		}
		plan, greedy, bound := PlanDay(d, 1)
		require.LessOrEqual(t, plan.Finish, greedy.Finish, "day %d", n)
		require.GreaterOrEqual(t, plan.Finish, bound.Finish, "day %d", n)
		for _, b := range CheckDay(d, plan) {
			if b.Hard && b.Group != "" && len(plan.Unplaced) == 0 && plan.Finish <= d.Close {
				t.Fatal(n, b)
			}
		}
	}
}

// TestWhatGroupsAreOrderedBy: whose age is not known comes last where the youngest are first.
func TestWhatGroupsAreOrderedBy(t *testing.T) {
	young, old, unknown := DayGroup{Months: 1, Rung: 2}, DayGroup{Months: 900, Rung: 3}, DayGroup{Rung: 1}
	for order, sorted := range map[Order][]DayGroup{YoungestFirst: {young, old, unknown}, RankUp: {unknown, young, old}, RankDown: {old, young, unknown}} {
		r := DayRules{Order: order}
		assert.True(t, r.key(sorted[0]) < r.key(sorted[1]) && r.key(sorted[1]) < r.key(sorted[2]), order)
	}
	r := DayRules{Order: AnyOrder}
	assert.Equal(t, r.key(young), r.key(unknown))
}
