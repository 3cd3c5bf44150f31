package check

import (
	"testing"

	"github.com/stretchr/testify/assert"
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
