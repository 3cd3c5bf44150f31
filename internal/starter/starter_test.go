package starter

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
)

// TestALadderToBeginWith: each holds together, asks something on every rung, and has no hole that the
// ladder check would show a school on its first day.
func TestALadderToBeginWith(t *testing.T) {
	for _, l := range Ladders() {
		c, found := Curriculum(l.Key)
		require.True(t, found, l.Key)
		assert.Empty(t, c.Validate(), l.Key)
		b := curriculum.Open(c)
		for _, x := range b.Check() {
			if x.Kind != curriculum.AttackUnanswered { // a school's own defences come later
				t.Errorf("%s: %s, %v: %v", l.Key, x.Kind, x.Where, x.Facts)
			}
		}
		for _, r := range b.Rungs {
			assert.NotEmpty(t, b.Asked(r.ID), "%s, %s", l.Key, r.Name)
		}
		for _, x := range c.Techniques {
			assert.NotContains(t, []curriculum.Kind{"form", "combination", "self_defence", "partner_set"}, x.Kind, "%s: %s has a name of somebody’s own", l.Key, x.Name)
		}
	}
	_, found := Curriculum("nothing")
	assert.False(t, found)
}
