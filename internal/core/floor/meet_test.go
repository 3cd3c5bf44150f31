package floor

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"velvetladder/internal/core/notation"
)

// doing is what the catalogue of these tests does; a block goes the way its test wants.
func doing(sweep Sweep) func(string) Doing {
	return func(technique string) Doing {
		return map[string]Doing{"jab": {Act: Punch}, "cross": {Act: Punch}, "block": {Block, sweep}}[technique]
	}
}

// pair is an attack and a defence by people of these heights; every step of the defence meets the whole attack.
func pair(t testing.TB, attack, defence string, attacker, defender float64, sweep Sweep) Pair {
	p := Pair{Attack: walk(t, attack, attacker, false), Defence: walk(t, defence, defender, false), Doing: doing(sweep)}
	p.With = make([]int, len(p.Defence.Frames))
	for i := range p.With[1:] {
		p.With[i+1] = len(p.Attack.Frames) - 1
	}
	p.Zones = Zones(tall(defender), usual("fighting"))
	return p
}

// TestZones: where the ranges end at 170 cm.
func TestZones(t *testing.T) {
	z := Zones(tall(170), usual("fighting"))
	for i, end := range []float64{591, 924, 1182} {
		assert.InDelta(t, end, z[i], .5, ZoneNames[i])
	}
	for distance, want := range map[float64]string{0: "inside", 590: "inside", 592: "middle", 925: "outside", 1182: "outside", 1183: ""} {
		assert.Equal(t, want, ZoneAt(z, distance), "%v", distance)
	}
}

// TestSteppingStraightBack: a cross on the step through into a front stance begins 1,472 mm away; stepping straight back leaves it 293 mm short, and the hand
// decides on which side of the arm one is.
func TestSteppingStraightBack(t *testing.T) {
	for sweep, want := range map[Sweep]Reached{Inward: Inside, Outward: Outside, Upward: Inside, Down: Inside} {
		p := pair(t, "step through right cross in front stance", "from ready stance: left step back + right low block", 170, 170, sweep)
		m := p.Meet()
		assert.InDelta(t, 1472, m.Start, .5)
		assert.InDelta(t, 293, m.Moments[1].Touches[0].Short, .5)
		assert.True(t, m.Moments[1].Contact)
		assert.Equal(t, want, m.Side, sweep)
		assert.Equal(t, sweep == Inward || sweep == Outward, m.ByHand)
		assert.InDelta(t, -440.3/2, m.Off, 120, "about in the middle of the two shoulders")
	}
}

// TestLeavingTheLine: a side step away from the other arm is outside of it whatever the hand does, to the other side it is inside.
func TestLeavingTheLine(t *testing.T) {
	for defence, want := range map[string]Reached{
		"side step to the left, side step to the left + right low block": Outside, // the attacker's right arm is on the left
		"side step to the right + right low block":                       Inside,
	} {
		p := pair(t, "step through right cross", defence, 170, 170, Upward)
		p.With = p.With[:len(p.Defence.Frames)]
		for i := range p.With[:len(p.With)-1] {
			p.With[i] = 0
		}
		m := p.Meet()
		assert.Equal(t, want, m.Side, defence)
		assert.False(t, m.ByHand)
		assert.InDelta(t, 220.15*float64(len(p.With)-1), m.Leaves, .1, "half a shoulder for each step")
	}
}

// TestShortByHalfAForearm: a cross thrown from 38 cm too far is 38 cm short, typed or not; a taller attacker has more reach.
func TestShortByHalfAForearm(t *testing.T) {
	p := pair(t, "right cross", "jump", 170, 170, "")
	just := p.Apart()
	p.Start = just + 380
	m := p.Meet()
	assert.InDelta(t, 380, m.Moments[1].Touches[0].Short, 1e-6)
	assert.False(t, m.Moments[1].Touches[0].ByDefender)
	assert.InDelta(t, just+380, m.Moments[1].Distance, 1e-6)
	tallest := pair(t, "right cross", "jump", 190, 170, "")
	assert.Greater(t, tallest.Apart(), just)
	// The defender's own cross falls short by as much as it is too far away.
	own := pair(t, "right cross", "jump, rear cross", 170, 170, "")
	own.Start = 1000
	x := own.Meet().Moments[2].Touches
	assert.Len(t, x, 1)
	assert.True(t, x[0].ByDefender)
	assert.InDelta(t, 1000-924, x[0].Short, 1)
}

// TestWithoutMoves: an attack on record without moves begins in the middle of its range, and its limb is met by the hand.
func TestWithoutMoves(t *testing.T) {
	p := pair(t, "jump", "right low block", 170, 170, Inward)
	p.With = []int{0, 0}
	for zone, want := range map[string]float64{"inside": 591 / 2., "middle": (591 + 924) / 2., "outside": (924 + 1182) / 2., "": (591 + 924) / 2.} {
		p.Range = zone
		assert.InDelta(t, want, p.Apart(), 1, zone)
	}
	for limb, want := range map[notation.Side]Reached{notation.Left: Outside, notation.Right: Inside, "": "", notation.Both: ""} {
		p.Limb = limb
		m := p.Meet()
		assert.Equal(t, want, m.Side, limb)
		assert.False(t, m.Moments[1].Contact)
	}
}

// TestReach: arm and leg as the hypotenuse of how far and how high, at 170 cm.
func TestReach(t *testing.T) {
	b := tall(170)
	x := usual("horse").Take(b, Left) // the hips are square
	sunk := .818*1700 - x.Sinks(b)
	assert.InDelta(t, math.Sqrt(656.2*656.2-(sunk-.72*1700)*(sunk-.72*1700)), x.Reach(b, Punch, .72*1700), .1)
	f := usual("fighting").Take(b, Left)
	assert.InDelta(t, 901, f.Reach(b, FrontKick, .53*1700), .1)
	assert.InDelta(t, math.Sqrt(901*901-323*323)+162.35, f.Reach(b, Kick, .72*1700), .1)
	assert.InDelta(t, math.Sqrt(901*901-578*578), f.Reach(b, FrontKick, .87*1700), .1)
	assert.InDelta(t, 316.2+440.3/2*math.Sqrt(.5), f.Reach(b, Elbow, 0), .1)
	assert.Zero(t, f.Reach(b, "", 0))
	assert.InDelta(t, 440.3/2*math.Sqrt(.5), f.Reach(b, Punch, 9999), .1, "what is too high is not reached by the arm at all")
}

// TestLawsOfPairs: both mirrored the two are on the same side, as far apart and as short.
func TestLawsOfPairs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		attack := rapid.SampledFrom([]string{"step through right cross", "left jab", "slide right cross", "step through left jab"}).Draw(t, "attack")
		defence := rapid.SampledFrom([]string{"left step back + right low block", "side step to the left + left low block", "side step to the right + right low block, slide rear cross", "right step angle out 45 + left low block, lead jab", "circle to the left + right low block"}).Draw(t, "defence")
		sweep := rapid.SampledFrom(Sweeps).Draw(t, "sweep")
		one, other := rapid.Float64Range(120, 200).Draw(t, "attacker"), rapid.Float64Range(120, 200).Draw(t, "defender")
		make := func(southpaw bool) Met {
			p := Pair{Attack: walk(t, attack, one, southpaw), Defence: walk(t, defence, other, southpaw), Doing: doing(sweep)}
			p.With = append([]int{0}, slicesOf(len(p.Defence.Frames)-1, 1)...)
			p.Zones = Zones(tall(other), usual("fighting"))
			return p.Meet()
		}
		a, z := make(false), make(true)
		near := func(x, y float64) bool { return math.Abs(x-y) < 1e-6 }
		if a.Side != z.Side || a.ByHand != z.ByHand || !near(a.Off, z.Off) || !near(a.Start, z.Start) || !near(a.Leaves, z.Leaves) {
			t.Fatalf("%+v is not the mirror of %+v", z, a)
		}
		for i, m := range a.Moments {
			n := z.Moments[i]
			if !near(m.Distance, n.Distance) || m.Zone != n.Zone || len(m.Touches) != len(n.Touches) || !near(m.Attacker.Mass.X, -n.Attacker.Mass.X) {
				t.Fatalf("moment %d: %+v is not the mirror of %+v", i, n, m)
			}
			for k := range m.Touches {
				if !near(m.Touches[k].Short, n.Touches[k].Short) || m.Touches[k].Limb == n.Touches[k].Limb {
					t.Fatalf("%+v is not the mirror of %+v", n.Touches[k], m.Touches[k])
				}
			}
		}
	})
}

func slicesOf(n, v int) (out []int) {
	for range n {
		out = append(out, v)
	}
	return out
}
