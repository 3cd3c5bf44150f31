package floor

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"velvetladder/internal/core/notation"
)

func (a Place) far(b Place) float64 { return math.Hypot(a.Minus(b.Point).Length(), a.Up-b.Up) }

// TestPoses: who stands is as tall as the body, hands that strike are as far away as the arm is long and as high as the level, and limbs that
// do nothing stay.
func TestPoses(t *testing.T) {
	b := tall(170)
	x := usual("attention").Take(b, Left)
	p := x.Pose(b, nil)
	assert.InDelta(t, 1700-x.Sinks(b), p.Head.Up+p.Radius, 1e-6)
	assert.InDelta(t, .818*1700-x.Sinks(b), p.Neck.Up, 1e-6)
	assert.Less(t, x.Sinks(b), 12.0, "with the feet together the legs stand a little askew")
	f := usual("fighting").Take(b, Left)
	rest := f.Pose(b, nil)
	for level, up := range map[notation.Level]float64{notation.Low: .53 * 1700, notation.Mid: .72 * 1700, notation.High: .87 * 1700, "": .72 * 1700} {
		q := f.Pose(b, []Does{{Doing{Act: Punch}, notation.Right, level}})
		assert.InDelta(t, up, q.Arms[Right].End.Up, 1e-6)
		assert.InDelta(t, 656.2, q.Arms[Right].From.far(q.Arms[Right].End), .1)
		assert.True(t, q.Arms[Right].Acts)
		assert.Equal(t, rest.Arms[Left], q.Arms[Left])
		assert.Greater(t, q.Arms[Right].End.Y, rest.Arms[Right].End.Y)
		k := f.Pose(b, []Does{{Doing{Act: FrontKick}, notation.Left, level}})
		assert.InDelta(t, 901, k.Legs[Left].From.far(k.Legs[Left].End), .1)
		assert.Equal(t, rest.Legs[Right], k.Legs[Right])
	}
	both := f.Pose(b, []Does{{Doing{Act: Block, Sweep: Upward}, notation.Both, ""}})
	for _, arm := range both.Arms {
		assert.InDelta(t, .87*1700, arm.End.Up, 1e-6)
		assert.Equal(t, Block, arm.Act)
	}
	assert.InDelta(t, .53*1700, f.Pose(b, []Does{{Doing{Block, Down}, notation.Left, notation.High}}).Arms[Left].End.Up, 1e-6)
	elbow := f.Pose(b, []Does{{Doing{Act: Elbow}, notation.Left, ""}}).Arms[Left]
	assert.Greater(t, elbow.Bend.Y, elbow.End.Y, "the elbow is ahead of the hand")
	assert.Equal(t, rest, f.Pose(b, []Does{{Doing{}, notation.Left, ""}, {Doing{Act: Punch}, "", ""}}))
	cat := usual("cat").Take(b, Left)
	assert.Greater(t, cat.Pose(b, nil).Legs[Left].End.Up, b.Ankle, "the heel is up")
	assert.InDelta(t, b.Ankle, cat.Pose(b, nil).Legs[Right].End.Up, 1e-9)
	short := Stance{Width: 1, Length: 4, OnLead: 60, Bend: [2]float64{Computed, 10}}.Take(b, Left)
	assert.Positive(t, short.Legs[Right].Short)
	q := short.Pose(b, nil).Legs[Right]
	assert.InDelta(t, q.From.far(q.Bend), q.Bend.far(q.End), 1e-6, "a leg that is too short is drawn straight")
}

// TestLawsOfPoses: legs are as long as thigh and shank, and the other side is the mirror image.
func TestLawsOfPoses(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := tall(rapid.Float64Range(90, 200).Draw(t, "height"))
		s := usual(rapid.SampledFrom([]string{"walking", "front", "back", "cat", "fighting", "horse"}).Draw(t, "stance"))
		act := Doing{rapid.SampledFrom([]Act{"", Punch, Elbow, FrontKick, Kick, Block, Hold}).Draw(t, "act"), rapid.SampledFrom(Sweeps).Draw(t, "sweep")}
		level := rapid.SampledFrom([]notation.Level{"", notation.Low, notation.Mid, notation.High}).Draw(t, "level")
		x, y := s.Take(b, Left), s.Take(b, Right)
		p, q := x.Pose(b, []Does{{act, notation.Left, level}}), y.Pose(b, []Does{{act, notation.Right, level}})
		mirrored := func(a, z Place) {
			if z.far(Place{Point{-a.X, a.Y}, a.Up}) > 1e-6 {
				t.Fatalf("%v is not the mirror of %v", z, a)
			}
		}
		for side := range p.Arms {
			for _, pair := range [][2]Limb{{p.Arms[side], q.Arms[1-side]}, {p.Legs[side], q.Legs[1-side]}} {
				mirrored(pair[0].From, pair[1].From)
				mirrored(pair[0].Bend, pair[1].Bend)
				mirrored(pair[0].End, pair[1].End)
			}
			mirrored(p.Toes[side], q.Toes[1-side])
			if leg := p.Legs[side]; !leg.Acts && !x.Feet[side].HeelUp {
				if math.Abs(leg.From.far(leg.Bend)-b.Thigh) > 1e-6 || math.Abs(leg.Bend.far(leg.End)-b.Shank) > 1e-6 {
					t.Fatalf("a leg of %v and %v", leg.From.far(leg.Bend), leg.Bend.far(leg.End))
				}
			}
		}
	})
}
