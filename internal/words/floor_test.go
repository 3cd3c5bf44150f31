package words

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/progress"
)

// TestHeld: how a measure stands to its definition, and what would be fine.
func TestHeld(t *testing.T) {
	for _, x := range []struct {
		held floor.Held
		want string
	}{
		{floor.Held{What: "width", Wanted: 368, Measured: 290, Off: -78, Within: 55, Shoulders: -21}, "7.8 cm too narrow, 0.21 of a shoulder; up to 5.5 cm is fine"},
		{floor.Held{What: "width", Off: 80, Within: 55, Shoulders: 22}, "8 cm too wide, 0.22 of a shoulder; up to 5.5 cm is fine"},
		{floor.Held{What: "length", Off: 100, Within: 55, Shoulders: 30}, "10 cm too long, 0.3 of a shoulder; up to 5.5 cm is fine"},
		{floor.Held{What: "length", Off: -56, Within: 55, Shoulders: -15}, "5.6 cm too short, 0.15 of a shoulder; up to 5.5 cm is fine"},
		{floor.Held{What: "length", Off: 28, Within: 55}, "Length fine: 2.8 cm over (up to 5.5 cm is fine)"},
		{floor.Held{What: "width", Off: -55, Within: 55}, "Width fine: 5.5 cm under (up to 5.5 cm is fine)"},
		{floor.Held{What: "width", Within: 55}, "Width as it should be"},
		{floor.Held{What: "rear", Wanted: 20, Off: -8, Within: 10}, "Rear foot fine: 8° further in than 20°"},
		{floor.Held{What: "lead", Wanted: 0, Off: 11, Within: 10}, "Front foot 11° further out than 0°; up to 10° is fine"},
		{floor.Held{What: "lead", Within: 10}, "Front foot as it should be"},
	} {
		assert.Equal(t, x.want, Held(x.held))
	}
}

// TestFloorWords: spans, points of the feet, places and facings as people say them.
func TestFloorWords(t *testing.T) {
	assert.Equal(t, []string{"1 shoulder", "1.5 shoulders", "0.5 feet", "1 foot", "2 legs", "0 shoulders"}, []string{Span(100, ""), Span(150, floor.Shoulder), Span(50, floor.FootLong), Span(100, floor.FootLong), Span(200, floor.LegLong), Span(0, "")})
	assert.Equal(t, "between the inner edges", Between(floor.Inner, floor.Inner))
	assert.Equal(t, "between the heels", Between("", floor.Heel))
	assert.Equal(t, "front toe to rear heel", Between(floor.Toe, ""))
	for degrees, want := range map[float64]string{0: "ahead, as at the start", 90: "to the right", 180: "to the back", 270: "to the left", -90: "to the left", 45: "45° to the right", 315: "45° to the left"} {
		assert.Equal(t, want, Facing(degrees), "%v", degrees)
	}
	b := body.PartsOf(body.Measured{HeightCM: 170})
	front, _, _ := floor.UsualFor("front stance")
	x := front.For(b, "Front stance", false).Take(b, floor.Right)
	assert.Equal(t, "at the start, front stance, facing ahead, as at the start, right foot in front", Standing(&x, b))
	horse, _, _ := floor.UsualFor("horse stance")
	y := horse.For(b, "Horse stance", true).Take(b, floor.Left)
	assert.Contains(t, Standing(&y, b), "feet level")
	assert.Equal(t, "1 shoulder wide between the heels, 1.5 shoulders long between the heels, feet 0° and 20° out, weight 60 : 40, knees bent as it comes out and 10°", Stance(front, false))
	cat, _, _ := floor.UsualFor("cat stance")
	cat.Look = "back straight"
	assert.Equal(t, "0.25 shoulders wide between the heels, 0.9 shoulders long between the heels, feet 0° and 45° out, weight 10 : 90, knees bent as it comes out and 50°, front heel up, hips turned 45°, back straight", Stance(cat, false))
	assert.NotContains(t, Stance(horse, true), "long")
	assert.Equal(t, []string{"3 cm behind the ankle", "over the foot", "over the foot", "over the foot", "2 cm beyond the toes"}, []string{KneeOver(-30, 200), KneeOver(0, 200), KneeOver(100, 200), KneeOver(200, 200), KneeOver(220, 200)})
	assert.Equal(t, []string{"", "A", "A or B", "A, B or C"}, []string{Either(nil), Either([]string{"A"}), Either([]string{"A", "B"}), Either([]string{"A", "B", "C"})})
	assert.Equal(t, "12°", Degrees(12.4))
	assert.Contains(t, Estimate(progress.ChildParts), "Under 14")
	assert.Contains(t, Estimate(progress.NoHeight), "No height")
	assert.Empty(t, Estimate(""))
}
