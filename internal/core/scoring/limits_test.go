package scoring

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"velvetladder/internal/golden"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// TestLawOfBounds: however soon the search stops, what it says is true: an exact answer is the one that is found without bounds, "at least n"
// is no more than that, and what cannot turn is known all the same.
func TestLawOfBounds(t *testing.T) {
	golden.Alone(t)
	curve, table := longestCurve, effortTable
	defer func() { longestCurve, effortTable = curve, table }()
	cut := 0
	rapid.Check(t, func(t *rapid.T) {
		p, x := draw(t, shape{items: 4, sheets: 6, steps: 12, rules: allRules, unseen: true, deductions: true})
		longestCurve, effortTable = curve, table
		want, err := p.Decide(x)
		require.NoError(t, err)
		longestCurve, effortTable = rapid.IntRange(1, 20).Draw(t, "curve"), rapid.IntRange(200, 2000).Draw(t, "table")
		got, err := p.Decide(x)
		require.NoError(t, err)
		require.Equal(t, want.Outcome, got.Outcome)
		if want.Change == nil {
			require.Nil(t, got.Change)
			return
		}
		require.Equal(t, want.Change.Impossible, got.Change.Impossible)
		if got.Change.Exact {
			require.Equal(t, want.Change.Steps, got.Change.Steps, "%v", got.Change)
			return
		}
		cut++
		require.LessOrEqual(t, got.Change.Steps, want.Change.Steps)
		require.Positive(t, got.Change.Steps)
		require.Empty(t, got.Change.Moves)
	})
	assert.Positive(t, cut, "some were cut short")
}

// TestTheLimitsOfTheFormat: 99 examiners, 1,000 items, 100,000 steps a mark, every rule on. It is answered with "at least n"; without
// bounds it would take minutes and all memory there is.
func TestTheLimitsOfTheFormat(t *testing.T) {
	golden.Alone(t)
	for _, rule := range allRules {
		r := rand.New(rand.NewPCG(1, 99))
		step := Decimal(unit / 1000)
		p := Policy{Scale: Scale{Highest: Whole(100), Step: step, Failing: ptr(Whole(30))}, Panel: rule, Tie: TieChief, Rules: Rules{AllowedFailing: ptr(3)}}
		x, threshold := Test{Chief: "e0"}, Whole(100)
		for k := range MaxItems {
			it := Item{ID: fmt.Sprint("i", k), Section: fmt.Sprint("s", k%9), Weight: 1 + k%7, MustPass: k%50 == 0}
			x.Items = append(x.Items, it)
			threshold += Whole(50 * it.Weight)
		}
		p.Rules.Threshold = &threshold
		for k := range 9 {
			p.Rules.SectionMinima = append(p.Rules.SectionMinima, SectionMinimum{fmt.Sprint("s", k), unit / 2})
		}
		for j := range MaxExaminers {
			s := Sheet{Examiner: fmt.Sprint("e", j)}
			for range MaxItems {
				s.Marks = append(s.Marks, Seen(Decimal(r.IntN(MaxSteps+1))*step))
			}
			x.Sheets = append(x.Sheets, s)
		}
		got, err := p.Decide(x)
		require.NoError(t, err)
		require.NotNil(t, got.Change, rule)
		assert.False(t, got.Change.Exact, rule)
		assert.Greater(t, got.Change.Steps, 1000, "%s: what is proven is worth saying", rule)
	}
}

// FuzzDecimal: what is read is written as what is read the same, to the last place.
func FuzzDecimal(f *testing.F) {
	for _, seed := range []string{"49", "48.5", "-2", "4.85e1", "0.000000001", "9000000000", "-0", "1e9", "1e-9", "00.10", ".5", "5.", "+1", "1_000"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, in string) {
		d, err := ParseDecimal(in)
		if err != nil {
			return
		}
		same, err := ParseDecimal(d.String())
		require.NoError(t, err, in)
		require.Equal(t, d, same, in)
	})
}
