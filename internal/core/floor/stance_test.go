package floor

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"velvetladder/internal/core/body"
)

func tall(cm float64) body.Parts { return body.PartsOf(body.Measured{HeightCM: cm}) }

// usual is a usual stance for somebody of 170 cm; in shoulders it is the same for everybody.
func usual(name string) Stance {
	d, level, _ := UsualFor(name)
	return d.For(tall(170), name, level)
}

// between is the way from the rear heel to the lead heel.
func (x Stand) between() Point { return x.Feet[x.Lead].Heel.Minus(x.Feet[x.Lead.Other()].Heel) }

// TestFrontStance: one shoulder wide and one and a half long, worked by hand for 170 and 120 cm.
func TestFrontStance(t *testing.T) {
	x := usual("front").Take(tall(170), Left)
	assert.InDelta(t, -440, x.between().X, .5, "wide")
	assert.InDelta(t, 660, x.between().Y, .5, "long")
	assert.InDelta(t, 742, x.Hip, .5)
	assert.InDelta(t, 65, x.Legs[Left].Bend, .5)
	assert.InDelta(t, 122, x.Legs[Left].Knee, .5)
	assert.InDelta(t, 10, x.Legs[Right].Bend, 1e-9, "as it is stated")
	assert.Zero(t, x.Legs[Left].Short)
	assert.True(t, x.KneeOver(Left, tall(170)))
	small := usual("front").Take(tall(120), Right)
	assert.InDelta(t, 311, small.between().X, .5)
	assert.InDelta(t, 466, small.between().Y, .5)
}

// TestALegThatCannotReach: at three shoulders the rear leg would have to be 876 mm, and has 835.
func TestALegThatCannotReach(t *testing.T) {
	s := usual("front")
	s.Length = 3
	x := s.Take(tall(170), Left)
	assert.InDelta(t, 876, x.Legs[Right].Needs, .5)
	assert.InDelta(t, 876-835, x.Legs[Right].Short, .5)
	assert.Equal(t, []float64{0, 0}, []float64{x.Legs[Right].Bend, x.Legs[Right].Knee}, "it has no knee to speak of")
	assert.Zero(t, x.Legs[Left].Short)
	// The hips are as high as the stated leg has them, whatever the other would want.
	y := Stance{Length: 2.6, OnLead: 10, Bend: [2]float64{Computed, 20}}.Take(tall(170), Left)
	assert.Positive(t, y.Legs[Left].Short)
	assert.InDelta(t, 20, y.Legs[Right].Bend, 1e-9)
}

// TestHorseStance: two shoulders wide, both legs alike, the weight in the middle and the knees ahead of the ankles.
func TestHorseStance(t *testing.T) {
	b := tall(170)
	x := usual("horse").Take(b, Left)
	assert.InDelta(t, 2*440.3, -x.between().X, .5)
	assert.InDelta(t, 0, x.between().Y, 1e-9)
	assert.InDelta(t, 0, x.Mass.X, 1e-9)
	assert.InDelta(t, 0, x.Mass.Y, 1e-9)
	for _, leg := range x.Legs {
		assert.InDelta(t, 60, leg.Bend, 1e-9)
		assert.Positive(t, leg.Knee)
	}
	assert.InDelta(t, x.Legs[Left].Knee, x.Legs[Right].Knee, 1e-9)
	assert.Greater(t, usual("ready").Take(b, Left).Hip, x.Hip, "the head sinks")
}

// TestLiftingTheFrontFoot: a back stance with 70 % on the rear foot sways 190 mm first, one with 95 % not at all; in a front stance the
// rear foot is lifted only after leaning as far.
func TestLiftingTheFrontFoot(t *testing.T) {
	b := tall(170)
	assert.InDelta(t, 190, usual("back").Take(b, Left).Sway(Left, b), .5)
	last := math.Inf(1)
	for rear := 70; rear <= 100; rear++ {
		s := usual("back")
		s.OnLead = 100 - rear
		sway := s.Take(b, Right).Sway(Right, b)
		assert.LessOrEqual(t, sway, last, "more weight on the rear never asks for more")
		last = sway
		assert.Equal(t, rear >= 94, sway < 1, "%d %%: %v mm", rear, sway)
		assert.Equal(t, rear >= 95, sway == 0, "%d %%: %v mm", rear, sway)
	}
	assert.Less(t, usual("cat").Take(b, Left).Sway(Left, b), 2.0, "that is what it is for")
}

// TestAFoot: its places, its outline and what lies outside of it, heading right.
func TestAFoot(t *testing.T) {
	b := body.Parts{Foot: 200, FootBreadth: 80}
	f := Foot{Heel: Point{10, 20}, Heading: 90}
	near := func(want, got Point, what string) {
		assert.InDelta(t, want.X, got.X, 1e-9, what)
		assert.InDelta(t, want.Y, got.Y, 1e-9, what)
	}
	near(Point{50, 20}, f.At(AtAnkle, b), "ankle")
	near(Point{110, 20}, f.bears(b), "it bears at its middle")
	f.HeelUp = true
	near(Point{150, 20}, f.bears(b), "and on its ball where the heel is up")
	for i, corner := range []Point{{10, 60}, {210, 60}, {210, -20}, {10, -20}} {
		near(corner, f.Outline(b)[i], "corner")
	}
	for p, away := range map[Point]float64{{100, 20}: 0, {210, 60}: 0, {0, 20}: 10, {213, 20}: 3, {100, 63}: 3, {100, -24}: 4, {213, 64}: 5, {10, 61}: 1} {
		assert.InDelta(t, away, f.Away(p, b), 1e-9, "%v", p)
	}
}

// TestLawsOfStances: on the other side everything is the mirror image; a body twice as tall stands twice as wide with the same angles; the feet
// have their middle at the origin; and no knee bends where a leg is straight.
func TestLawsOfStances(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		angle := rapid.Float64Range(0, 90)
		s := Stance{Width: rapid.Float64Range(0, 2).Draw(t, "width"), Length: rapid.Float64Range(0, 1.6).Draw(t, "length"), Out: [2]float64{angle.Draw(t, "lead"), angle.Draw(t, "rear")},
			OnLead: rapid.IntRange(0, 100).Draw(t, "weight"), Bend: [2]float64{Computed, rapid.Float64Range(0, 60).Draw(t, "bend")}, LeadHeelUp: rapid.Bool().Draw(t, "up"), Hips: rapid.Float64Range(0, 60).Draw(t, "hips")}
		cm := rapid.Float64Range(90, 120).Draw(t, "height")
		l, r, twice := s.Take(tall(cm), Left), s.Take(tall(cm), Right), s.Take(tall(2*cm), Left)
		near := func(a, b float64) {
			if math.Abs(a-b) > 1e-6*max(1, math.Abs(a)) {
				t.Fatalf("%v is not %v", a, b)
			}
		}
		sum := Point{}
		for side := range l.Feet {
			other := Side(side).Other()
			near(l.Feet[side].Heel.X, -r.Feet[other].Heel.X)
			near(l.Feet[side].Heel.Y, r.Feet[other].Heel.Y)
			near(l.Feet[side].Heading, -r.Feet[other].Heading)
			near(l.Legs[side].Bend, r.Legs[other].Bend)
			near(l.Legs[side].Knee, r.Legs[other].Knee)
			near(2*l.Feet[side].Heel.X, twice.Feet[side].Heel.X)
			near(2*l.Legs[side].Knee, twice.Legs[side].Knee)
			near(l.Legs[side].Bend, twice.Legs[side].Bend)
			sum = sum.Plus(l.Feet[side].At(AtMiddle, tall(cm)))
		}
		for side, leg := range l.Legs {
			if leg.Short > 0 {
				continue
			}
			b, ankle := tall(cm), l.Feet[side].At(AtAnkle, tall(cm))
			near(b.Shank, math.Hypot(leg.At.Minus(ankle).Length(), leg.Up-b.Ankle)) // two links, and no longer
			near(b.Thigh, math.Hypot(leg.Joint.Minus(leg.At).Length(), l.Hip-leg.Up))
			// Knee, ankle, hip and where the foot points lie in one plane.
			h, k, w := Point{0, 1}.Turned(l.Feet[side].Heading), leg.At.Minus(ankle), leg.Joint.Minus(ankle)
			volume := h.X*(k.Y*(l.Hip-b.Ankle)-(leg.Up-b.Ankle)*w.Y) - h.Y*(k.X*(l.Hip-b.Ankle)-(leg.Up-b.Ankle)*w.X)
			near(0, volume/b.Height/b.Height)
		}
		near(0, sum.X)
		near(0, sum.Y)
		near(l.Hip, r.Hip)
		near(2*l.Hip, twice.Hip)
		near(l.Mass.X, -r.Mass.X)
		near(l.Mass.Y, r.Mass.Y)
		near(l.Sway(Left, tall(cm)), r.Sway(Right, tall(cm)))
	})
}
