package scoring

import (
	"fmt"
	"math/big"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// texts are the reasons that hold or do not, as said.
func texts(reasons []Reason) string {
	var out []string
	for _, r := range reasons {
		mark := "no: "
		if r.Holds {
			mark = "yes: "
		}
		out = append(out, mark+r.Text)
	}
	return strings.Join(out, "\n")
}

func TestReasonsSpeakPlainly(t *testing.T) {
	items := itemsOf(4)
	items[0].Label, items[0].MustPass, items[1].Section = "Mill Wheel", true, "kicks"
	movement := MovementScale()
	movement.Rules.Threshold = ptr(Whole(8))
	movement.Rules.SectionMinima = []SectionMinimum{{"kicks", Whole(1) / 2}}
	points := CategoryPoints(Whole(20))
	mean := points
	mean.Panel = Mean
	trimmed := movement
	trimmed.Panel, trimmed.Scale.Double = TrimmedMean, true
	sign := SignOff()
	none := points
	none.Rules = Rules{IgnoreMustPass: true}
	for _, c := range []struct {
		name   string
		policy Policy
		test   Test
		said   string
	}{
		{"a failing sheet says each rule", movement, Test{Items: items, Sheets: []Sheet{sheet(t, "Ann", 1, 1, 0, 4)}}, `no: 0 of 1 complete sheets pass; more than half is 1
no: 6 of 16 points; the threshold is 8: 2 short
no: kicks: 25 % of what was possible; at least 50 % is asked
no: 3 failing items; up to 2 allowed: Mill Wheel, i2, i3
no: must pass, and failing: Mill Wheel`},
		{"a passing sheet", movement, Test{Items: items, Sheets: []Sheet{sheet(t, "Ann", 2, 2, 2, 2)}}, `yes: 1 of 1 complete sheets pass; more than half is 1`},
		{"a mean that is no short decimal", mean, Test{Items: items[:3], Sheets: []Sheet{sheet(t, "A", 7, 7, 7), sheet(t, "B", 6, 7, 7), sheet(t, "C", 7, 7, 6)}}, `yes: mean 20.33… of 30 points; the threshold is 20: 0.33… clear`},
		{"a trimmed mean of five with double", trimmed, Test{Items: items, Sheets: []Sheet{sheet(t, "A", 4, 4, 4, 4), sheet(t, "B", 4, 4, 4, 4), sheet(t, "C", 4, 4, 4, 4), sheet(t, "D", 2, 2, 2, 2), sheet(t, "E", 2, 2, 2, 2)}}, `yes: trimmed mean 13.33… of 16 points; the threshold is 8: 5.33… clear
yes: kicks: 83.33… % of what was possible; at least 50 % is asked
yes: no failing item; up to 2 allowed
yes: no must-pass item is failing
yes: 3 of 5 complete sheets have double`},
		{"sign-off", sign, Test{Items: items, Sheets: []Sheet{sheet(t, "A", 1, 0, 1, 1)}}, `no: 0 of 1 complete sheets pass; more than half is 1
no: 1 failing item; up to 0 allowed: i2`},
		{"no rule at all", none, Test{Items: items, Sheets: []Sheet{sheet(t, "A", 0, 0, 0, 0)}}, `yes: 1 of 1 complete sheets pass; more than half is 1`},
		{"nobody saw it and too few complete", points, Test{Items: items, Sheets: []Sheet{sheet(t, "A", 5, "-", 5, "-"), sheet(t, "B", "-", "-", "-", "-")}}, `no: seen by nobody, to be called again: i2, i4
no: no complete sheet of 2; at least 2 are needed`},
	} {
		t.Run(c.name, func(t *testing.T) {
			r, err := c.policy.Decide(c.test)
			require.NoError(t, err)
			assert.Equal(t, c.said, texts(r.Reasons))
		})
	}
	tally := none.Tally(items, sheet(t, "A", 0, 0, 0, 0))
	assert.Equal(t, "no rule is switched on: a complete sheet passes", tally.Reasons[0].Text)
	tally = points.Tally(items, sheet(t, "A", "-", "-", "-", "-"))
	assert.Equal(t, "no counted item was seen", tally.Reasons[0].Text)
	tally = movement.Tally(items, sheet(t, "A", 2, "-", 2, 2))
	assert.Equal(t, "kicks has a minimum, and no counted item of it was seen", tally.Reasons[0].Text)
}

func TestImpossibleChangesSayWhy(t *testing.T) {
	items := itemsOf(2)
	for said, c := range map[string]struct {
		policy Policy
		test   Test
	}{
		"even with every mark seen at its highest: A: 18 of 20 points; the threshold is 19: 1 short": {CategoryPoints(Whole(19)), Test{Items: items, Sheets: []Sheet{{Examiner: "A", Marks: sheet(t, "A", 9, 9).Marks, Deductions: Whole(2)}}}},
		"even with every mark seen at its lowest":                                                    {CategoryPoints(0), Test{Items: items, Sheets: []Sheet{sheet(t, "A", 9, 9)}}},
		"an ending fault is confirmed":                                                               {CategoryPoints(0), Test{Items: items, Sheets: []Sheet{sheet(t, "A", 9, 9)}, EndingFault: true}},
	} {
		r, err := c.policy.Decide(c.test)
		require.NoError(t, err)
		assert.Contains(t, r.Change.Impossible, said)
		assert.Equal(t, strings.ToUpper(r.Change.Impossible[:1])+r.Change.Impossible[1:], r.Change.Sentence(c.test))
	}
}

// TestTheSearchIsBounded gives the search more than its effort: it answers in time with a
// bound, and what it then says is still true.
func TestTheSearchIsBounded(t *testing.T) {
	p := Policy{Scale: Scale{Highest: Whole(100), Step: Whole(1)}, Rules: Rules{Threshold: ptr(Whole(3000))}, Panel: TrimmedMean, Tie: TieChief}
	x := Test{Items: itemsOf(40)}
	for j := range 9 {
		s := Sheet{Examiner: fmt.Sprint("e", j)}
		for k := range 40 {
			s.Marks = append(s.Marks, Seen(Whole((j*7+k*13)%60)))
		}
		x.Sheets = append(x.Sheets, s)
	}
	r, err := p.Decide(x)
	require.NoError(t, err)
	require.Equal(t, OutcomeRetest, r.Outcome)
	require.False(t, r.Change.Exact)
	assert.Positive(t, r.Change.Steps)
	assert.Empty(t, r.Change.Moves, "no change is named that was not found")
	assert.Contains(t, r.Change.Sentence(x), "At least ")
	// Examiners who each missed other items of odd weights have no common denominator of use.
	primes := []int{997, 991, 983, 977, 971, 967, 953, 947}
	p.Panel, x = Mean, Test{}
	for k, w := range primes {
		x.Items = append(x.Items, Item{ID: fmt.Sprint("i", k), Weight: w})
	}
	p.Rules = Rules{Threshold: ptr(Whole(200_000)), MinimumSeen: ptr(Decimal(0))}
	for j := range primes {
		s := Sheet{Examiner: fmt.Sprint("e", j)}
		for k := range primes {
			if k == j {
				s.Marks = append(s.Marks, Mark{})
			} else {
				s.Marks = append(s.Marks, Seen(Whole(10)))
			}
		}
		x.Sheets = append(x.Sheets, s)
	}
	r, err = p.Decide(x)
	require.NoError(t, err)
	assert.Equal(t, OutcomeRetest, r.Outcome)
	assert.False(t, r.Change.Exact)
}

func TestLawDecimalsAreReadAsPrinted(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := Decimal(rapid.Int64Range(-9*unit*unit, 9*unit*unit).Draw(t, "billionths"))
		back, err := ParseDecimal(v.String())
		require.NoError(t, err)
		assert.Equal(t, v, back)
		var j Decimal
		text, err := v.MarshalJSON()
		require.NoError(t, err)
		require.NoError(t, j.UnmarshalJSON(text))
		require.NoError(t, j.UnmarshalJSON([]byte(`"`+v.String()+`"`)))
		assert.Equal(t, v, j)
	})
}

func TestLawProductsCompareLikeBigNumbers(t *testing.T) {
	n := rapid.Int64Range(0, 1<<62)
	rapid.Check(t, func(t *rapid.T) {
		a, b, c, d := n.Draw(t, "a"), n.Draw(t, "b"), n.Draw(t, "c"), n.Draw(t, "d")
		mul := func(x, y int64) *big.Int { return new(big.Int).Mul(big.NewInt(x), big.NewInt(y)) }
		assert.Equal(t, mul(a, b).Cmp(mul(c, d)), productsCompare(a, b, c, d))
		assert.Equal(t, 0, productsCompare(a, b, b, a))
	})
}

func TestRatiosInSentences(t *testing.T) {
	for _, c := range []struct {
		num, den     int64
		exact, plain string
	}{{97, 2, "48.5", "48.5"}, {146, 3, "146/3", "48.66…"}, {-1, 3, "-1/3", "-0.33…"}, {49, 1, "49", "49"}, {1, 1_000_000_000, "0.000000001", "0.00…"}, {-5, 2, "-2.5", "-2.5"}} {
		r := big.NewRat(c.num, c.den)
		assert.Equal(t, c.exact, exact(r))
		assert.Equal(t, c.plain, plain(r))
	}
}

func TestScalesDescribeThemselves(t *testing.T) {
	assert.Equal(t, "0 to 10 in steps of 0.5", CategoryPoints(0).Scale.Describe())
	assert.Equal(t, "strong", MovementScale().Scale.Word(Whole(3)))
	assert.Empty(t, CategoryPoints(0).Scale.Word(Whole(3)))
	for _, p := range []Policy{MovementScale(), CategoryPoints(Whole(49)), SignOff()} {
		assert.NoError(t, p.Check())
	}
}
