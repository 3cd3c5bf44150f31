package floor

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/check"
)

// TestTroubles: what no body can do is said: a straight rear leg that cannot reach, a heel that must rise, a bend that cannot be, feet on
// one another.
func TestTroubles(t *testing.T) {
	b := tall(170)
	for name := range Usual {
		assert.Empty(t, usual(name).Troubles(b), "%s can be stood in", name)
	}
	front := func(change func(*Definition)) []Trouble {
		d := Usual["front"]
		change(&d)
		return d.For(b, "front", false).Troubles(b)
	}
	long := front(func(d *Definition) { d.Length = 300 })
	assert.Len(t, long, 1)
	assert.Equal(t, HeelRises, long[0].Kind, "on the ball of the foot it would reach")
	assert.False(t, long[0].Lead)
	assert.InDelta(t, 876, long[0].Needs, .5)
	assert.InDelta(t, 834.7, long[0].Has, .1)
	assert.Equal(t, TooShort, front(func(d *Definition) { d.Length = 400 })[0].Kind)
	both := front(func(d *Definition) { d.BendLead = 20 })
	assert.Equal(t, Trouble{BendDiffers, true, both[0].Needs, 20}, both[0])
	assert.Empty(t, front(func(d *Definition) { d.BendLead = 65 }), "as it comes out")
	assert.Equal(t, FeetOverlap, front(func(d *Definition) { d.Width, d.Length = 10, 20 })[0].Kind)
	assert.Empty(t, Definition{WidthFrom: Inner, OnLead: 50}.For(b, "", true).Troubles(b), "feet that touch do not overlap")
}

// TestOnTheMat: too narrow by 8 cm for somebody of 142 cm is a fifth of a shoulder; exactly at the tolerance is fine, a millimetre
// beyond it is not.
func TestOnTheMat(t *testing.T) {
	b := tall(142)
	d := Usual["front"]
	h := d.Hold(Taped{290, 580, Nothing, 12}, b)
	assert.Equal(t, []Held{{"width", 368, 290, -78, 55, -21}, {"length", 552, 580, 28, 55, 8}, {"rear", 20, 12, -8, 10, 0}}, h)
	assert.False(t, h[0].Fine())
	assert.True(t, h[1].Fine())
	for off, fine := range map[int]bool{-56: false, -55: true, 0: true, 55: true, 56: false} {
		assert.Equal(t, fine, d.Hold(Taped{368 + off, Nothing, Nothing, Nothing}, b)[0].Fine(), "%d mm", off)
	}
	d.WithinWidth, d.WithinAngle = 30, 4
	h = d.Hold(Taped{290, Nothing, 5, Nothing}, b)
	assert.True(t, h[0].Fine())
	assert.False(t, h[1].Fine())
	_, _, weight := d.Tolerances()
	assert.Equal(t, UsualWithinWeight, weight)
	d.WithinShare = 3
	_, _, weight = d.Tolerances()
	assert.Equal(t, 3, weight)
}

// measuredBetween is where a spot of a foot lies, found among its outline by hand.
func measuredBetween(x Stand, spot Spot, side Side, b body.Parts) Point {
	f := x.Feet[side]
	if spot == Inner || spot == Outer {
		best := math.Inf(-1)
		for _, c := range f.Outline(b) {
			out := c.X * side.out()
			if spot == Inner {
				out = -out
			}
			best = max(best, out)
		}
		if spot == Inner {
			best = -best
		}
		return Point{best * side.out(), 0}
	}
	return f.At(map[Spot]float64{"": 0, Heel: 0, Middle: .5, Ball: .7, Toe: 1}[spot], b)
}

// TestPointsOfMeasurement: whatever points a definition names, the feet stand so that the tape between these points reads what it says.
func TestPointsOfMeasurement(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		length := rapid.SampledFrom(append([]Spot{""}, Spots...))
		unit := rapid.SampledFrom(append([]Unit{""}, Units...))
		d := Definition{Width: rapid.IntRange(0, 250).Draw(t, "width"), WidthUnit: unit.Draw(t, "width unit"), WidthFrom: rapid.SampledFrom(append([]Spot{""}, WidthSpots...)).Draw(t, "from"),
			Length: rapid.IntRange(0, 200).Draw(t, "length"), LengthUnit: unit.Draw(t, "length unit"), LengthLead: length.Draw(t, "lead point"), LengthRear: length.Draw(t, "rear point"),
			OutLead: rapid.IntRange(-60, 120).Draw(t, "out lead"), OutRear: rapid.IntRange(-60, 120).Draw(t, "out rear"), OnLead: rapid.IntRange(0, 100).Draw(t, "weight"), BendLead: Computed, BendRear: 10}
		b := body.PartsOf(body.Measured{HeightCM: rapid.Float64Range(100, 200).Draw(t, "height"), FootCM: rapid.Float64Range(15, 30).Draw(t, "foot"), LegCM: rapid.Float64Range(50, 110).Draw(t, "leg")})
		size := func(u Unit) float64 {
			return map[Unit]float64{"": b.Shoulder, Shoulder: b.Shoulder, FootLong: b.Foot, LegLong: b.Hip}[u]
		}
		x := d.For(b, "", false).Take(b, Left)
		across := measuredBetween(x, d.WidthFrom, Right, b).X - measuredBetween(x, d.WidthFrom, Left, b).X
		along := measuredBetween(x, d.LengthLead, Left, b).Y - measuredBetween(x, d.LengthRear, Right, b).Y
		if reads := x.Reads(Right, d.WidthFrom, b).X - x.Reads(Left, d.WidthFrom, b).X; math.Abs(across-reads) > 1e-6 {
			t.Fatalf("the tape reads %v, not %v", reads, across)
		}
		if want := float64(d.Width) * size(d.WidthUnit) / 100; math.Abs(across-want) > 1e-6 {
			t.Fatalf("%v mm across, not %v", across, want)
		}
		if want := float64(d.Length) * size(d.LengthUnit) / 100; math.Abs(along-want) > 1e-6 {
			t.Fatalf("%v mm along, not %v", along, want)
		}
		if h := d.Hold(Taped{int(math.Round(across)), int(math.Round(along)), d.OutLead, d.OutRear}, b); !h[0].Fine() || !h[1].Fine() || max(h[0].Off, h[1].Off, h[2].Off, h[3].Off) != 0 {
			t.Fatalf("%+v", h)
		}
	})
}

// TestDefinitionsAreChecked: every field is refused beyond its limits, and at them it is not.
func TestDefinitionsAreChecked(t *testing.T) {
	for field, x := range map[string]struct{ good, bad func(*Definition) }{
		"width":         {func(d *Definition) { d.Width = 500 }, func(d *Definition) { d.Width = 501 }},
		"length":        {func(d *Definition) { d.Length = 0 }, func(d *Definition) { d.Length = -1 }},
		"out_lead":      {func(d *Definition) { d.OutLead = -60 }, func(d *Definition) { d.OutLead = -61 }},
		"out_rear":      {func(d *Definition) { d.OutRear = 120 }, func(d *Definition) { d.OutRear = 121 }},
		"on_lead":       {func(d *Definition) { d.OnLead = 100 }, func(d *Definition) { d.OnLead = 101 }},
		"bend_lead":     {func(d *Definition) { d.BendLead = Computed }, func(d *Definition) { d.BendLead = -2 }},
		"bend_rear":     {func(d *Definition) { d.BendRear = 150 }, func(d *Definition) { d.BendLead, d.BendRear = Computed, Computed }},
		"hips":          {func(d *Definition) { d.Hips = 90 }, func(d *Definition) { d.Hips = 91 }},
		"within_width":  {func(d *Definition) { d.WithinWidth = 100 }, func(d *Definition) { d.WithinWidth = 101 }},
		"within_angle":  {func(d *Definition) { d.WithinAngle = 90 }, func(d *Definition) { d.WithinAngle = -1 }},
		"within_weight": {func(d *Definition) { d.WithinShare = 50 }, func(d *Definition) { d.WithinShare = 51 }},
		"width_unit":    {func(d *Definition) { d.WidthUnit = LegLong }, func(d *Definition) { d.WidthUnit = "ell" }},
		"length_unit":   {func(d *Definition) { d.LengthUnit = FootLong }, func(d *Definition) { d.LengthUnit = "ell" }},
		"width_from":    {func(d *Definition) { d.WidthFrom = Outer }, func(d *Definition) { d.WidthFrom = "nose" }},
		"length_lead":   {func(d *Definition) { d.LengthLead = Toe }, func(d *Definition) { d.LengthLead = Inner }},
		"length_rear":   {func(d *Definition) { d.LengthRear = Ball }, func(d *Definition) { d.LengthRear = "nose" }},
		"look":          {func(d *Definition) { d.Look = "trunk upright" }, func(d *Definition) { d.Look = "two\x00lines" }},
	} {
		for i, change := range []func(*Definition){x.good, x.bad} {
			d := Usual["front"]
			change(&d)
			var p check.Problems
			d.Check(&p)
			assert.Equal(t, i == 1, p.Of(field) != "", "%s %d: %v", field, i, p)
		}
	}
	for name := range Usual {
		d, level, known := UsualFor(name + " Stance")
		var p check.Problems
		d.Check(&p)
		assert.NoError(t, p.Err(), name)
		assert.True(t, known)
		assert.Equal(t, d.Length == 0, level, name)
	}
	_, _, known := UsualFor("crane stance")
	assert.False(t, known)
}
