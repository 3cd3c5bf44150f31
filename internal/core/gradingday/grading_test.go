package gradingday

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

func TestItems(t *testing.T) {
	sheet := curriculum.TestSheet{Lines: []curriculum.Line{
		{Section: "Strikes", Call: "Jab", Weight: 2}, {Section: "Strikes", Call: "Cross", Weight: 1, Bonus: true}, {Section: "Kicks", Call: "Front kick", Weight: 1, Bonus: true}, {Section: "Forms", Call: "Lower Weir", Weight: 3, MustPass: true},
	}}
	lines := Items(sheet, MovementScale)
	assert.Len(t, lines, 4)
	assert.Equal(t, scoring.Item{Label: "Jab", Section: "Strikes", Weight: 2}, lines[0].Item)
	categories := Items(sheet, CategoryPoints)
	assert.Equal(t, []Marked{
		{scoring.Item{Label: "Strikes", Section: "Strikes", Weight: 1}, []int{0, 1}},
		{scoring.Item{Label: "Kicks", Section: "Kicks", Weight: 1, Bonus: true}, []int{2}},
		{scoring.Item{Label: "Forms", Section: "Forms", Weight: 1, MustPass: true}, []int{3}},
	}, categories)
	assert.ErrorContains(t, CheckSheet(categories, scoring.CategoryPoints(scoring.Whole(49)), "Red belt"), "threshold is 49, and its sheet has 20 points")
	assert.NoError(t, CheckSheet(categories, scoring.CategoryPoints(scoring.Whole(20)), "Red belt"))
	assert.ErrorContains(t, CheckSheet(categories[1:2], scoring.CategoryPoints(0), "Red belt"), "asks for nothing that counts")
}

func TestCheck(t *testing.T) {
	good := Grading{On: civil.MustParse("2026-12-12"), Marking: SignOff, Policy: scoring.SignOff(), GroupSize: 3, RungIDs: []string{"a"}, Examiners: []Examiner{{Name: "A"}}}
	assert.Empty(t, good.Check())
	for field, x := range map[string]struct {
		most int
		set  func(*Grading, int)
	}{
		"retest_days": {730, func(g *Grading, n int) { g.RetestDays = n }},
		"carry_days":  {730, func(g *Grading, n int) { g.CarryDays = n }},
		"group_size":  {MaxGroup, func(g *Grading, n int) { g.GroupSize = n }},
	} {
		for n, ok := range map[int]bool{-1: false, 1: true, x.most: true, x.most + 1: false} {
			g := good
			x.set(&g, n)
			assert.Equal(t, ok, g.Check().Of(field) == "", "%s: %d", field, n)
		}
	}
	good.RetestMonths = 24
	assert.Empty(t, good.Check())
	good.RetestMonths = -1
	assert.NotEmpty(t, good.Check().Of("retest_days"))
	good.RetestMonths, good.RetestDays, good.CarryDays = 0, 0, 0
	assert.Empty(t, good.Check(), "a retest may be the same day")
	bad := Grading{Marking: "guess", GroupSize: 9, RetestDays: -1, Examiners: []Examiner{{Name: "A"}, {Name: "a"}}}
	for _, field := range []string{"on", "marking", "group_size", "retest_days", "rungs", "examiners", "policy"} {
		assert.NotEmpty(t, bad.Check().Of(field), field)
	}
	panel := []Examiner{{Name: "Rosalind Castellane"}, {Name: "Duvall"}, {Name: "Cora Cray"}, {Name: ""}}
	Letters(panel, 0)
	assert.Equal(t, []string{"C", "D", "3", "4"}, []string{panel[0].Letter, panel[1].Letter, panel[2].Letter, panel[3].Letter})
}

func TestLawGroupsHoldEverybodyEvenly(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, size := rapid.IntRange(0, 300).Draw(t, "candidates"), rapid.IntRange(1, MaxGroup).Draw(t, "size")
		sum := 0
		sizes := Split(n, size)
		for i, s := range sizes {
			sum += s
			assert.LessOrEqual(t, s, size)
			assert.GreaterOrEqual(t, s, 1)
			assert.LessOrEqual(t, s, sizes[max(i-1, 0)])
		}
		assert.Equal(t, n, sum)
		if len(sizes) > 0 {
			assert.LessOrEqual(t, sizes[0]-sizes[len(sizes)-1], 1)
		}
	})
}

// TestRetestWaits: days, weeks or months after a grading, months clamped to a shorter month's end.
func TestRetestWaits(t *testing.T) {
	for said, want := range map[string][3]any{"28 days": {0, 28, "28"}, "1 day": {0, 1, "1"}, "4 weeks": {0, 28, "28"}, "3 months": {3, 0, "3 months"}, "1 month": {1, 0, "1 month"}, "3 Months ": {3, 0, "3 months"},
		"3 months and 2 days": {3, 2, "3 months and 2 days"}, "1 month, 1 day": {1, 1, "1 month and 1 day"}, "2 weeks and 3 days": {0, 17, "17"}} {
		months, days, found := ReadRetestWait(said)
		g := Grading{On: civil.MustParse("2026-11-30"), RetestMonths: months, RetestDays: days}
		assert.True(t, found)
		assert.Equal(t, want, [3]any{months, days, g.RetestWait()}, said)
	}
	for _, said := range []string{"28", "", "soon", "3 years", "-1 months", "3 days and 2 days", "1 month 2"} {
		_, _, found := ReadRetestWait(said)
		assert.False(t, found, said)
	}
	g := Grading{On: civil.MustParse("2026-11-30"), RetestMonths: 3, RetestDays: 2}
	assert.Equal(t, []string{"2027-03-02", "3 months and 2 days"}, []string{g.RetestFrom().String(), g.RetestWait()})
	g.RetestMonths = 25
	assert.Contains(t, g.Check().Of("retest_days"), "is 25 months")
}
