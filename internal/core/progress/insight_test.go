package progress

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
)

func TestTimeInGrade(t *testing.T) {
	stay := func(days int, ended bool) Stay {
		return Stay{Position: 1, From: day("2026-01-01"), To: day("2026-01-01").AddDays(days), Ended: ended}
	}
	g := TimeInGrade([]Stay{stay(100, true), stay(200, true), stay(300, false), stay(400, true), {Position: 0, From: day("2026-01-01"), To: day("2026-03-01")}})
	require.Len(t, g, 2)
	assert.Equal(t, []int{-1, 0, 59}, []int{g[0].Half, len(g[0].Promoted), g[0].StillLongest}, "nobody has gone up from it")
	assert.Equal(t, 200, g[1].Half, "after 200 days 3/4 × 2/3 = a half are left")
	assert.Equal(t, 100, g[1].Quickest)
	assert.Equal(t, 1, g[1].LongerThan)
	for _, tie := range [][]Stay{{stay(100, false), stay(100, true), stay(200, true)}, {stay(100, true), stay(100, false), stay(200, true)}} { // a third goes up after 100 days, the one who stays is there until then
		assert.Equal(t, 200, TimeInGrade(tie)[0].Half, "who stands there still is counted among those who might have gone up that day")
	}
	rapid.Check(t, func(t *rapid.T) {
		var all []Stay
		for range rapid.IntRange(1, 30).Draw(t, "stays") {
			all = append(all, stay(rapid.IntRange(0, 900).Draw(t, "days"), rapid.Bool().Draw(t, "ended")))
		}
		g := TimeInGrade(all)[0]
		require.Equal(t, len(all), len(g.Promoted)+len(g.Still))
		if g.Half >= 0 {
			require.GreaterOrEqual(t, g.Half, g.Quickest)
		}
		longer := TimeInGrade(append(all, stay(1000, false), stay(1000, false)))[0]
		if longer.Half >= 0 {
			require.GreaterOrEqual(t, longer.Half, g.Half, "those who still stand there never make it look quicker")
		}
	})
}

func TestCohorts(t *testing.T) {
	way := func(name, from string, steps ...string) Way {
		w := Way{StudentID: name, Name: name}
		for i, s := range append([]string{from}, steps...) {
			w.Steps = append(w.Steps, Stay{Position: 2 + i, From: day(s)})
		}
		return w
	}
	gone := way("gone", "2025-08-01")
	gone.Left = day("2025-12-01")
	c := Cohorts([]Way{way("a", "2025-02-10", "2025-04-01", "2025-09-01"), way("b", "2025-03-01", "2025-08-01"), gone}, day("2025-12-31"))
	require.Len(t, c, 2)
	assert.Equal(t, []string{"2025-01-01", "2025-07-01"}, []string{c[0].From.String(), c[1].From.String()})
	assert.Equal(t, []CohortPoint{{0, 0, 2, 0}, {3, 50, 2, 0}, {6, 100, 2, 0}, {9, 150, 2, 0}}, c[0].Points)
	assert.Equal(t, CohortPoint{3, 0, 1, 0}, c[1].Points[1])
	assert.Len(t, c[0].Names, 2)
}

// TestTimeInGradeToTheDay: ties, the first day, and those who have stood there for just as long.
func TestTimeInGradeToTheDay(t *testing.T) {
	from := day("2026-01-01")
	sum := func(days ...int) InGrade { // below zero: still there
		var all []Stay
		for _, n := range days {
			all = append(all, Stay{Position: 3, From: from, To: from.AddDays(max(n, -n)), Ended: n >= 0})
		}
		return TimeInGrade(all)[0]
	}
	for _, x := range []struct {
		days                            []int
		half, quickest, longer, longest int
	}{
		{[]int{0}, 0, 0, 0, 0},
		{[]int{0, 50}, 0, 0, 0, 0},
		{[]int{0, -50}, 0, 0, 1, 50}, // a half that went up on the day they came
		{[]int{-10}, -1, -1, 0, 10},
		{[]int{30, -30}, 30, 30, 0, 30},      // of a tie the promotion came first
		{[]int{30, -31, -5}, 30, 30, 1, 31},  // 1/2 is left of the two who were followed so far
		{[]int{-31, -32, 30}, -1, 30, 0, 32}, // 2/3 are left
		{[]int{10, 20, 30, -40}, 20, 10, 1, 40},
		{[]int{7, 5, 9}, 7, 5, 0, 0}, // 2/3, then 1/3
	} {
		g := sum(x.days...)
		assert.Equal(t, []int{x.half, x.quickest, x.longer, x.longest}, []int{g.Half, g.Quickest, g.LongerThan, g.StillLongest}, "%v", x.days)
		assert.Equal(t, 3, g.Position)
	}
	still := sum(-3, -9, -6).Still
	assert.Equal(t, []int{9, 6, 3}, []int{still[0].Days(), still[1].Days(), still[2].Days()}, "the longest first")
	two := TimeInGrade([]Stay{{Position: 5, From: from, To: from}, {Position: 2, From: from, To: from}})
	assert.Equal(t, []int{2, 5}, []int{two[0].Position, two[1].Position})
	assert.Equal(t, []int64{6, 1, 4, 1}, []int64{gcd(12, 18), gcd(7, 3), gcd(4, 0), gcd(0, 0)})
}

// TestCohortsToTheDay: the day a rung is reached and the day somebody leaves count.
func TestCohortsToTheDay(t *testing.T) {
	way := Way{StudentID: "a", Steps: []Stay{{Position: 1, From: day("2025-06-30")}, {Position: 4, From: day("2025-09-30")}, {Position: 3, From: day("2025-12-31")}}, Left: day("2025-12-30")}
	c := Cohorts([]Way{way, {StudentID: "b", Steps: []Stay{{Position: 1, From: day("2025-07-01")}}}}, day("2025-12-30"))
	assert.Equal(t, []civil.Date{day("2025-01-01"), day("2025-07-01")}, []civil.Date{c[0].From, c[1].From})
	assert.Equal(t, []CohortPoint{{0, 0, 1, 0}, {3, 300, 1, 0}, {6, 300, 1, 1}}, c[0].Points, "three rungs at once, three months to the day; left on the last")
	assert.Equal(t, []CohortPoint{{0, 0, 1, 0}, {3, 0, 1, 0}}, c[1].Points, "six months are not over")
	assert.Equal(t, 3, c[0].Names[0].Position)
	later := Cohorts([]Way{way}, day("2026-03-30"))
	assert.Equal(t, CohortPoint{9, 200, 1, 1}, later[0].Points[3], "a correction takes one back")
	third := Cohorts([]Way{way, {Steps: []Stay{{Position: 1, From: day("2025-06-30")}}}, {Steps: []Stay{{Position: 1, From: day("2025-06-30")}}}}, day("2026-03-30"))
	assert.Equal(t, 67, third[0].Points[3].Climbed, "2/3 of a rung, rounded")
}
