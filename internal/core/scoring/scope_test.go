package scoring

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestAgain(t *testing.T) {
	items := []Item{{ID: "a", Section: "kicks", Weight: 1}, {ID: "b", Section: "kicks", Weight: 1}, {ID: "c", Section: "forms", Weight: 1}, {ID: "x", Section: "forms", Weight: 1, Bonus: true}}
	panel := func(marks ...[]int) (out []Sheet) {
		for i, row := range marks {
			s := Sheet{Examiner: fmt.Sprint("e", i)}
			for _, m := range row {
				if m < 0 {
					s.Marks = append(s.Marks, Mark{})
				} else {
					s.Marks = append(s.Marks, Seen(Whole(m)))
				}
			}
			out = append(out, s)
		}
		return out
	}
	points := CategoryPoints(Whole(18)) // of 30: six tenths of each
	minimum := MovementScale()
	minimum.Rules.SectionMinima = []SectionMinimum{{"forms", Whole(3) / 4}}
	both := minimum
	both.Rules.SectionMinima = []SectionMinimum{{"forms", Whole(3) / 4}, {"kicks", Whole(3) / 4}}
	for _, x := range []struct {
		name   string
		p      Policy
		sheets []Sheet
		ending bool
		scope  Scope
		want   []int
	}{
		{"whole is everything", MovementScale(), panel([]int{1, 3, 3, 3}), false, ScopeWhole, []int{0, 1, 2, 3}},
		{"what most fail", MovementScale(), panel([]int{1, 3, 2, 0}, []int{1, 1, 2, 0}, []int{3, 3, 2, 0}), false, ScopeItems, []int{0}},
		{"its whole section", MovementScale(), panel([]int{1, 3, 2, 0}), false, ScopeSections, []int{0, 1}},
		{"what nobody saw", MovementScale(), panel([]int{3, 3, -1, 3}), false, ScopeItems, []int{2}},
		{"nothing failed: everything", MovementScale(), panel([]int{3, 3, 3, 3}), false, ScopeItems, []int{0, 1, 2, 3}},
		{"an ending fault: everything", MovementScale(), panel([]int{1, 3, 3, 3}), true, ScopeItems, []int{0, 1, 2, 3}},
		{"points under the threshold's share", points, panel([]int{5, 6, 6, 9}), false, ScopeItems, []int{0}},
		{"exactly at the share stands", points, panel([]int{6, 6, 2, 9}), false, ScopeItems, []int{2}},
		{"missed by deductions alone: the lowest", points, panel([]int{7, 6, 6, 9}), false, ScopeItems, []int{1, 2}},
		{"half of the panel is not most of it", MovementScale(), panel([]int{1, 3, 0, 3}, []int{3, 3, 1, 3}), false, ScopeItems, []int{2}},
		{"a section below its minimum", minimum, panel([]int{2, 2, 2, 4}), false, ScopeItems, []int{2, 3}},
		{"a section at its minimum", minimum, panel([]int{1, 2, 3, 0}), false, ScopeItems, []int{0}},
		{"of two minima one is missed", both, panel([]int{2, 2, 4, 0}), false, ScopeItems, []int{0, 1}},
		{"both are missed", both, panel([]int{2, 2, 2, 0}), false, ScopeItems, []int{0, 1, 2, 3}},
		{"a section nobody saw has no points to miss", both, panel([]int{-1, -1, 4, 4}), false, ScopeItems, []int{0, 1}},
		{"a bonus under the share is not asked again", points, panel([]int{5, 6, 6, 0}), false, ScopeItems, []int{0}},
		{"a bonus is never the lowest", points, panel([]int{7, 6, 6, 0}), false, ScopeItems, []int{1, 2}},
		{"what fails is left out of the lowest", points, panel([]int{2, 7, 6, 0}), false, ScopeItems, []int{0}},
	} {
		got := x.p.Again(Test{Items: items, Sheets: x.sheets, EndingFault: x.ending}, x.scope)
		assert.Equal(t, x.want, got.Items, x.name)
	}
	// What stands does so at the median, the lower of the middle two; where that one fails and the item does not, at the least that passes.
	again := MovementScale().Again(Test{Items: items, Sheets: panel([]int{2, 0, 4, 1}, []int{3, 4, 1, -1})}, ScopeWhole)
	assert.Equal(t, []Decimal{Whole(2), Whole(2), Whole(2), Whole(1)}, again.Carried)
}

// TestPassed: an item is passed when it was seen and most of those who saw it do not fail it, whatever came of
// the test; of the sheets that saw it only the complete ones count, where there are any.
func TestPassed(t *testing.T) {
	items := itemsOf(3)
	items[2].Bonus = true
	points := CategoryPoints(Whole(18))
	for _, x := range []struct {
		name     string
		p        Policy
		promoted bool
		sheets   []Sheet
		want     [3]bool
	}{
		{"seen and not failing", MovementScale(), false, []Sheet{sheet(t, "A", 2, 1, 3)}, [3]bool{true, false, true}},
		{"a bonus that is not right is not passed", MovementScale(), true, []Sheet{sheet(t, "A", 2, 2, 1)}, [3]bool{true, true, false}},
		{"not seen", MovementScale(), true, []Sheet{sheet(t, "A", 2, 2, "-")}, [3]bool{true, true, false}},
		{"most of three", MovementScale(), false, []Sheet{sheet(t, "A", 1, 1, 3), sheet(t, "B", 1, 2, 3), sheet(t, "C", 3, 2, 3)}, [3]bool{false, true, true}},
		{"half of two is not most", MovementScale(), false, []Sheet{sheet(t, "A", 1, 3, 3), sheet(t, "B", 3, 3, 3)}, [3]bool{true, true, true}},
		{"a sheet that is not complete does not count beside one that is", MovementScale(), false, []Sheet{sheet(t, "A", 3, 3, 3), sheet(t, "B", 0, "-", "-"), sheet(t, "C", 0, "-", "-")}, [3]bool{true, true, true}},
		{"and counts where no other saw it", MovementScale(), false, []Sheet{sheet(t, "A", "-", "-", 3), sheet(t, "B", 0, "-", "-")}, [3]bool{false, false, true}},
		{"where no mark fails, with the test", points, true, []Sheet{sheet(t, "A", 0, "-", 9)}, [3]bool{true, false, true}},
		{"and not without it", points, false, []Sheet{sheet(t, "A", 9, 9, 9)}, [3]bool{}},
	} {
		for k, want := range x.want {
			assert.Equal(t, want, x.p.Passed(Test{Items: items, Sheets: x.sheets}, k, x.promoted), "%s: item %d", x.name, k)
		}
	}
}

func TestWeakMarks(t *testing.T) {
	assert.Equal(t, []bool{true, true, false}, []bool{MovementScale().Weak(0), MovementScale().Weak(Whole(1)), MovementScale().Weak(Whole(2))}, "the failing ones")
	points := CategoryPoints(Whole(18))
	assert.Equal(t, []bool{true, true, false}, []bool{points.Weak(Whole(3)), points.Weak(Whole(5)), points.Weak(Whole(11) / 2)}, "the lower half, where none fails")
}

func TestLawTheNarrowerScopeAsksNoMore(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, x := draw(t, shape{items: 6, sheets: 5, steps: 4, rules: allRules, unseen: true, deductions: true})
		of := map[Scope]Again{}
		for _, s := range Scopes {
			of[s] = p.Again(x, s)
			assert.True(t, slices.IsSorted(of[s].Items))
			assert.NotEmpty(t, of[s].Items, "something is always asked")
		}
		assert.Len(t, of[ScopeWhole].Items, len(x.Items))
		for _, k := range of[ScopeItems].Items {
			assert.True(t, slices.Contains(of[ScopeSections].Items, k) || len(of[ScopeItems].Items) == len(x.Items), "what failed is in its section")
		}
		for k, m := range of[ScopeItems].Carried {
			asked := slices.Contains(of[ScopeItems].Items, k)
			if !asked && !x.Items[k].Bonus {
				assert.True(t, p.Scale.Holds(m))
				assert.False(t, p.Fails(x.Items[k], Seen(m)), "nothing that fails is carried over")
			}
		}
	})
}

// TestTheFigureSaysOfWhichSheetsItIs: one sheet has its own sums, several have the rule by which they come to one.
func TestTheFigureSaysOfWhichSheetsItIs(t *testing.T) {
	p := CategoryPoints(Whole(10))
	p.Panel = Mean
	for n, by := range map[int]PanelRule{1: "", 2: Mean, 3: Mean} {
		x := Test{Items: itemsOf(2)}
		for i := range n {
			x.Sheets = append(x.Sheets, sheet(t, fmt.Sprint("E", i), 6, 7))
		}
		r, err := p.Decide(x)
		require.NoError(t, err)
		assert.Equal(t, by, r.Reasons[0].Sums.By, "%d sheets", n)
		assert.Equal(t, Whole(20), r.Reasons[0].Sums.Full)
	}
}

// TestNothingGoesBelowTheScale: on a scale from 1 up the lowest mark is 1, and no change goes under it.
func TestNothingGoesBelowTheScale(t *testing.T) {
	p := Policy{Scale: Scale{Lowest: Whole(1), Highest: Whole(5), Step: Whole(1)}, Panel: Majority, Tie: TieChief}
	for threshold, steps := range map[int]int{3: 1, 2: 2, 1: 0} {
		p.Rules.Threshold = ptr(Whole(threshold))
		r, err := p.Decide(Test{Items: itemsOf(1), Sheets: []Sheet{sheet(t, "A", 3)}})
		require.NoError(t, err)
		require.Equal(t, OutcomePromote, r.Outcome)
		assert.Equal(t, steps, r.Change.Steps, "threshold %d", threshold)
		assert.Equal(t, steps == 0, r.Change.Impossible != nil, "threshold %d", threshold)
	}
}

// TestTrimmedMeans leave out one sheet at each end, from five on.
func TestTrimmedMeans(t *testing.T) {
	p := CategoryPoints(Whole(5))
	p.Panel = TrimmedMean
	for figure, marks := range map[string][]any{"6": {0, 5, 6, 7, 10}, "4": {0, 0, 4, 8, 9}, "5.75": {0, 6, 7, 10}} {
		x := Test{Items: itemsOf(1)}
		for i, m := range marks {
			x.Sheets = append(x.Sheets, sheet(t, fmt.Sprint("E", i), m))
		}
		r, err := p.Decide(x)
		require.NoError(t, err)
		assert.Equal(t, figure, r.Reasons[0].Figure, "%v", marks)
	}
}
