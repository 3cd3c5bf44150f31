package scoring

import (
	"fmt"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

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
		num, den int64
		exact    string
	}{{97, 2, "48.5"}, {146, 3, "146/3"}, {-1, 3, "-1/3"}, {49, 1, "49"}, {1, 1_000_000_000, "0.000000001"}, {-5, 2, "-2.5"}} {
		assert.Equal(t, c.exact, exact(big.NewRat(c.num, c.den)))
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
