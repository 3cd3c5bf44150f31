package check

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// TestHundredths: as people write them, and what is refused.
func TestHundredths(t *testing.T) {
	for text, want := range map[string]int{"1.5": 150, "1,5": 150, "½": 50, "1½": 150, "1 ¾": 175, ".25": 25, "0.2": 20, "-0.25": -25, "2": 200, "": 7, " 3. ": 300} {
		var p Problems
		assert.Equal(t, want, p.Hundredths("width", text, -100, 500, 7), text)
		assert.NoError(t, p.Err(), text)
	}
	for _, text := range []string{"wide", "1.555", "1.5.5", "--1", ".", "½½", "x½", "99999999999", "5.01", "-1.01", "1e2", "+1"} {
		var p Problems
		p.Hundredths("width", text, -100, 500, 7)
		assert.Error(t, p.Err(), text)
	}
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(-500, 500).Draw(t, "n")
		var p Problems
		if got := p.Hundredths("x", Hundredths(n), -500, 500, 9999); got != n || p.Err() != nil {
			t.Fatalf("%d is written %s and read as %d", n, Hundredths(n), got)
		}
	})
}
