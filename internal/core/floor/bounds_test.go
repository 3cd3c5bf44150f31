package floor

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
)

// TestFeetOnOneAnother: feet that touch on any side do not overlap, a centimetre further they do; worked for feet of 258.4 by 93.5 mm.
func TestFeetOnOneAnother(t *testing.T) {
	b := tall(170)
	for _, x := range []struct {
		width, length float64 // millimetres from heel to heel
		out           float64 // of the rear foot
		overlap       bool
	}{
		{93.5, 0, 0, false}, {-93.5, 0, 0, false}, {83, 0, 0, true}, {-83, 0, 0, true}, {0, 258.4, 0, false}, {0, 248, 0, true}, {0, -258.4, 0, false}, {0, -248, 0, true}, {93.5, 248, 0, false}, {0, 60, 90, false}, {0, 30, 90, true},
	} {
		s := Stance{Width: x.width / b.Shoulder, Length: x.length / b.Shoulder, Out: [2]float64{0, x.out}, OnLead: 50}
		for _, lead := range []Side{Left, Right} {
			stand := s.Take(b, lead)
			assert.Equal(t, x.overlap, stand.overlap(b), "%+v", x)
		}
	}
}

// TestHeelsThatRise: at which length the rear heel must rise, and from which on nothing helps, found step by step.
func TestHeelsThatRise(t *testing.T) {
	b := tall(170)
	kinds := map[string][2]int{}
	for length := 150; length <= 500; length++ {
		d := Usual["front"]
		d.Length = length
		for _, x := range d.For(b, "", false).Troubles(b) {
			if x.Lead || x.Kind == BendDiffers {
				continue
			}
			assert.InDelta(t, 834.7, x.Has, .1)
			assert.Greater(t, x.Needs, x.Has)
			k, there := kinds[x.Kind]
			if !there {
				k[0] = length
			}
			k[1] = length
			kinds[x.Kind] = k
		}
	}
	assert.Equal(t, map[string][2]int{HeelRises: {285, 323}, TooShort: {324, 500}}, kinds)
}

// TestEdges: exactly at a limit is still within it.
func TestEdges(t *testing.T) {
	b := body.Parts{Foot: 250}
	x := Stand{}
	for knee, over := range map[float64]bool{0: true, -.1: false, 200: true, 200.1: false} {
		x.Legs[Left].Knee = knee
		assert.Equal(t, over, x.KneeOver(Left, b), "%v", knee)
	}
	h := Usual["front"].Hold(Taped{Nothing, Nothing, 40, 40}, tall(170))
	assert.Equal(t, []Held{{"lead", 0, 40, 40, 10, 0}, {"rear", 20, 40, 20, 10, 0}}, h, "angles are no parts of a shoulder")
	for width, fine := range map[int]bool{-100: true, -101: false} {
		d := Usual["front"]
		d.Width = width
		var p check.Problems
		d.Check(&p)
		assert.Equal(t, fine, p.Of("width") == "", "%d", width)
	}
	p := walk(t, "lead jab", 170, false)
	assert.True(t, p.Frames[0].Placed, "who begins stands as the stance has it")
	assert.Equal(t, []int{-1, -1}, []int{p.Frames[0].Count, p.Frames[0].Beat})
	angle := walk(t, "from left front stance: left step back angle out 1", 170, false)
	assert.InDelta(t, 1, angle.Frames[1].Stand.Line, 1e-9, "a degree is a degree")
}

// TestReadsAnyWay: whichever way somebody faces, the tape between the outer edges reads how far the outlines reach across the facing.
func TestReadsAnyWay(t *testing.T) {
	b := tall(170)
	for _, line := range []string{"from left front stance: jump", "from left front stance: left step turn cw 90", "from left front stance: left step turn ccw 180"} {
		p := walk(t, line, 170, false)
		x := p.Frames[1].Stand
		across := func(q Point) float64 { return q.Turned(-x.Facing).X }
		for spot, want := range map[Spot]func(Side) float64{
			Outer: func(s Side) float64 { return extreme(x.Feet[s], b, across, s.out()) }, Inner: func(s Side) float64 { return extreme(x.Feet[s], b, across, -s.out()) },
		} {
			for _, s := range []Side{Left, Right} {
				assert.InDelta(t, want(s), across(x.Reads(s, spot, b)), 1e-6, "%s: %s of %d", line, spot, s)
			}
		}
	}
}

// extreme is how far a foot's outline reaches one way.
func extreme(f Foot, b body.Parts, across func(Point) float64, way float64) float64 {
	best := across(f.Heel)
	for i, c := range f.Outline(b) {
		if v := across(c); i == 0 || v*way > best*way {
			best = v
		}
	}
	return best
}

// TestApartFromAStance: from a front stance, whose weight is not in the middle, a slide brings the cross as much nearer as it is long.
func TestApartFromAStance(t *testing.T) {
	b := tall(170)
	x := usual("front").Take(b, Left)
	want := 440.3/2 + x.Reach(b, Punch, .72*1700) + 119
	near := pair(t, "from left front stance: slide right cross", "jump", 170, 170, "")
	assert.InDelta(t, want, near.Apart(), .1)
	assert.NotZero(t, near.Attack.Frames[0].Stand.Mass.Y, "the weight is not in the middle")
	q := x.Pose(b, []Does{{Doing{Act: Block}, notation.Left, notation.Mid}}).Arms[Left]
	assert.Less(t, q.Bend.Up, (q.From.Up+q.End.Up)/2, "the elbow of a block hangs")
	p := x.Pose(b, []Does{{Doing{Act: Punch}, notation.Left, notation.Mid}}).Arms[Left]
	assert.InDelta(t, (p.From.Up+p.End.Up)/2, p.Bend.Up, 1e-9, "the arm of a punch is straight")
	d := Usual["front"]
	d.WithinWidth, d.WithinAngle, d.WithinShare = 1, 1, 1
	w, a, s := d.Tolerances()
	assert.Equal(t, []int{1, 1, 1}, []int{w, a, s})
}

// TestWhoTouches: only what one limb does is a touch; a stance, a turn, both hands at once and what the catalogue does not know are none.
func TestWhoTouches(t *testing.T) {
	p := pair(t, "right cross", "in front stance, both jab, left low block + rear cross, jab", 170, 170, Inward)
	m := p.Meet()
	var said []string
	for _, x := range m.Moments {
		for _, c := range x.Touches {
			if c.ByDefender {
				said = append(said, string(c.Limb)+" "+c.Name)
				assert.NotZero(t, c.Joint)
			}
		}
	}
	assert.Equal(t, []string{"left low block", "right cross"}, said)
	assert.Equal(t, Block, m.Moments[3].Touches[0].Act)
	p.Doing = func(string) Doing { return Doing{} }
	for _, x := range p.Meet().Moments {
		assert.Empty(t, x.Touches)
	}
}

// TestTheStepOfContact: where a step has several beats, the two meet at its first block, else at its last beat; and the joint of the attacking arm is
// half a shoulder out, turned in with the hips.
func TestTheStepOfContact(t *testing.T) {
	for defence, want := range map[string]int{"slide back, jump, left low block, jump": 3, "slide back, jump": 2, "left low block, slide back": 1, "rear cross, left low block": 2} {
		p := pair(t, "slide right cross", defence, 170, 170, Inward)
		p.Steps = append([]int{0}, slicesOf(len(p.With)-1, 1)...)
		m := p.Meet()
		for i, x := range m.Moments {
			assert.Equal(t, i == want, x.Contact, "%s at %d", defence, i)
		}
	}
	p := pair(t, "slide right cross", "jump, jump", 170, 170, Inward)
	p.Steps = []int{0, 1, 2}
	assert.True(t, p.Meet().Moments[1].Contact, "the next step is another one")
	b := tall(170)
	x := usual("fighting").Take(b, Left)
	at := x.joint(Punch, Right, b).Minus(x.Mass)
	assert.InDelta(t, 155.7, at.X, .1)
	assert.InDelta(t, 155.7, at.Y, .1)
	hip := x.joint(Kick, Left, b).Minus(x.Mass)
	assert.InDelta(t, -162.35, hip.X, .1)
	assert.InDelta(t, 0, hip.Y, 1e-9)
}
