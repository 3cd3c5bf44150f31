package notation

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestTurnsAsPeopleWriteThem: the way and the angle in words or letters, in either order, are one turn.
func TestTurnsAsPeopleWriteThem(t *testing.T) {
	c, err := NewCatalogue([]Entry{{ID: "p", Name: "Punch", Kind: "strike"}, {ID: "w", Name: "Clockwise Wheel", Kind: "strike"}})
	require.NoError(t, err)
	for typed, want := range map[string]string{
		"turn cw 180, punch": "turn cw 180, punch", "turn clockwise 180, punch": "turn cw 180, punch", "turn 180 degrees clockwise, punch": "turn cw 180, punch", "turn 90 anticlockwise punch": "turn ccw 90 punch",
		"turn counterclockwise 270 degrees, punch": "turn ccw 270, punch", "turn 45 ccw punch": "turn ccw 45 punch", "turn counter-clockwise 90, punch": "turn ccw 90, punch", "turn clockwise wheel": "turn clockwise wheel",
	} {
		got, err := c.Parse(typed)
		require.NoError(t, err, typed)
		plain, err := c.Parse(want)
		require.NoError(t, err, want)
		assert.Equal(t, c.Print(plain), c.Print(got), typed)
	}
	for typed, said := range map[string]string{"turn 180, punch": "a turn needs its way", "turn 721 degrees clockwise, punch": "is not an angle", "turn cw, punch": "the degrees are missing", "turn 180 degrees, punch": "a turn needs its way"} {
		_, err := c.Parse(typed)
		assert.ErrorContains(t, err, said, typed)
	}
}
