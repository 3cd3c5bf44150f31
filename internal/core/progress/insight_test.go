package progress

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
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
	assert.Equal(t, []string{"2025, first half", "2025, second half"}, []string{c[0].Name, c[1].Name})
	assert.Equal(t, []CohortPoint{{0, 0, 2, 0}, {3, 50, 2, 0}, {6, 100, 2, 0}, {9, 150, 2, 0}}, c[0].Points)
	assert.Equal(t, CohortPoint{3, 0, 1, 0}, c[1].Points[1])
	assert.Len(t, c[0].Names, 2)
}
