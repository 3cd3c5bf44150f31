package check

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestDistance(t *testing.T) {
	for pair, far := range map[[2]string]int{{"", ""}: 0, {"", "abc"}: 3, {"kick", "kick"}: 0, {"kick", "kcik"}: 1, {"block", "blok"}: 1, {"Zoë", "Zoe"}: 1, {"punch", "lunge"}: 3, {"ab", "bca"}: 3} {
		assert.Equal(t, far, Distance(pair[0], pair[1]), pair)
	}
	rapid.Check(t, func(t *rapid.T) {
		a, b := rapid.StringOfN(rapid.RuneFrom([]rune("abö")), 0, 7, -1).Draw(t, "a"), rapid.StringOfN(rapid.RuneFrom([]rune("abö")), 0, 7, -1).Draw(t, "b")
		far, x, y := Distance(a, b), len([]rune(a)), len([]rune(b))
		assert.Equal(t, far, Distance(b, a))
		assert.Equal(t, a == b, far == 0)
		assert.True(t, far <= max(x, y) && far >= max(x-y, y-x))
	})
}

// plainly reckons the distance by trying everything from the front, without looking at what is the same.
func plainly(x, y []rune) int {
	if len(x) == 0 || len(y) == 0 {
		return len(x) + len(y)
	}
	cost := 1
	if x[0] == y[0] {
		cost = 0
	}
	best := min(plainly(x[1:], y)+1, plainly(x, y[1:])+1, plainly(x[1:], y[1:])+cost)
	if len(x) > 1 && len(y) > 1 && x[0] == y[1] && x[1] == y[0] {
		best = min(best, plainly(x[2:], y[2:])+1)
	}
	return best
}

func TestLawTheQuickDistanceIsThePlainOne(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		word := rapid.StringMatching(`[abë]{0,6}`)
		a, b := word.Draw(t, "a"), word.Draw(t, "b")
		require.Equal(t, plainly([]rune(a), []rune(b)), Distance(a, b), "%q %q", a, b)
	})
}
