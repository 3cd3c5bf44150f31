package body

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestPartsOf: the published table at 170 cm, to the tenth of a millimetre, and measured parts before it.
func TestPartsOf(t *testing.T) {
	p := PartsOf(Measured{HeightCM: 170})
	for part, x := range map[string][2]float64{
		"height": {p.Height, 1700}, "shoulder": {p.Shoulder, 440.3}, "hip width": {p.HipWidth, 324.7}, "hip": {p.Hip, 901}, "ankle": {p.Ankle, 66.3}, "thigh": {p.Thigh, 416.5}, "shank": {p.Shank, 418.2},
		"foot": {p.Foot, 258.4}, "foot breadth": {p.FootBreadth, 93.5}, "upper arm": {p.UpperArm, 316.2}, "forearm": {p.Forearm, 248.2}, "hand": {p.Hand, 183.6}, "trunk": {p.Trunk, 119},
	} {
		assert.InDelta(t, x[1], x[0], .05, part)
	}
	assert.Equal(t, PartsOf(Measured{HeightCM: UsualHeight}), PartsOf(Measured{}), "the usual height where nothing is measured")
	own := PartsOf(Measured{HeightCM: 120, ShoulderCM: 30, LegCM: 60, FootCM: 19})
	assert.Equal(t, []float64{300, 600, 190}, []float64{own.Shoulder, own.Hip, own.Foot})
	assert.InDelta(t, 600-own.Ankle, (own.Thigh+own.Shank)*(.530-.039)/.491, .001, "thigh and shank share what was measured as they share the table's")
	assert.InDelta(t, .245/.246, own.Thigh/own.Shank, 1e-9)
	assert.InDelta(t, 120*.055*10*19/(120*.152), own.FootBreadth, .001)
	assert.InDelta(t, 120*10*.186, own.UpperArm, .001, "what was not measured follows from the height")
}

// TestOf: for a line, the same parts in whole millimetres, worked with whole numbers: a half goes up.
func TestOf(t *testing.T) {
	for cm := 40; cm <= 260; cm++ {
		h := cm * 10
		part := func(thousandths int) int { return (h*thousandths + 500) / 1000 }
		assert.Equal(t, Body{h, part(259), part(440), part(530), part(152), false}, Of(cm))
	}
	assert.Equal(t, Body{1650, 427, 726, 875, 251, true}, Of(0))
}
