package floor

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// TestEnds: two side steps of somebody of 154.44 cm end 40 cm to the left; within a foot's length is back where it began.
func TestEnds(t *testing.T) {
	p := walk(t, "from ready stance: side step to the left, side step to the left", 154.44, false)
	assert.InDelta(t, -400, p.Ends().X, .1)
	assert.InDelta(t, 0, p.Ends().Y, 1e-6)
	assert.False(t, p.Returns(0), "a foot is 235 mm")
	assert.True(t, p.Returns(400.1))
	assert.False(t, p.Returns(399.9))
	one := walk(t, "from ready stance: side step to the left", 154.44, false)
	assert.True(t, one.Returns(0), "200 mm")
}

// TestExtent: a step through from a front stance at 170 cm, by hand: the rear heel stays where it was, the toes of the foot that steps are
// 1.5 shoulders further; and how many do that in a hall.
func TestExtent(t *testing.T) {
	p := walk(t, "from left front stance: step through", 170, false)
	b := tall(170)
	start := p.Frames[0].Stand
	e := p.Extent()
	heel := start.Feet[Right].Outline(b)
	assert.InDelta(t, min(heel[0].Y, heel[3].Y), e.Back, 1e-6)
	ahead := p.Frames[1].Stand.Feet[Left].Heel.Plus(Point{0, 660.45 + 258.4})
	assert.InDelta(t, ahead.Y, e.Front, .1)
	assert.Greater(t, e.Width(), 440.3)
	assert.InDelta(t, e.Front-e.Back, e.Depth(), 1e-9)
	// One needs 0.6 by 1.8 m or so, and an arm of 748 mm to the next.
	arm := Arm(b)
	assert.InDelta(t, 748, arm, .1)
	w, d := e.Width(), e.Depth()
	assert.Equal(t, 1, p.AtOnce(w, d))
	assert.Equal(t, 0, p.AtOnce(w-1, d))
	assert.Equal(t, 2, p.AtOnce(2*w+arm+1, d))
	assert.Equal(t, 1, p.AtOnce(2*w+arm-1, d))
	assert.Equal(t, 6, p.AtOnce(2*w+arm+1, 3*d+2*arm+1))
}

// TestHeads: from front stance into a horse stance and up into ready: what the head does, and where it does most.
func TestHeads(t *testing.T) {
	p := walk(t, "from left front stance: step through, in horse stance, in ready stance", 170, false)
	assert.Zero(t, p.Rises(0))
	assert.Zero(t, p.Rises(1), "a step keeps the stance, and the head its level")
	assert.InDelta(t, p.Frames[3].Stand.Hip-p.Frames[2].Stand.Hip, p.Rises(3), 1e-9)
	assert.Positive(t, p.Rises(3))
	assert.Equal(t, 3, p.Most())
	level := walk(t, "from left front stance: step through, slide", 170, false)
	assert.Zero(t, level.Most())
}

// TestSides: each technique by side, repeats too, in the order in which they come.
func TestSides(t *testing.T) {
	p := walk(t, "lead jab, rear cross, step through lead jab, x3 step through lead jab, double rear cross, left low block + right low block, both low block, jab, in front stance", 170, false)
	assert.Equal(t, []PerSide{{"jab", "jab", 3, 2, 0, 1}, {"cross", "cross", 0, 3, 0, 0}, {"block", "low block", 1, 1, 1, 0}}, p.Sides())
	assert.False(t, p.Sides()[0].OneSided())
	assert.True(t, p.Sides()[1].OneSided())
	assert.False(t, p.Sides()[2].OneSided())
	assert.Equal(t, map[int]int{90: 2, 180: 1}, turns(t, "turn cw 90, left step turn ccw 90, spin cw 180"))
}

func turns(t *testing.T, line string) map[int]int {
	p := walk(t, line, 170, false)
	return p.Turns()
}

// TestExtentHoldsEveryFoot: no corner of a foot lies outside, and on every side one lies on the line.
func TestExtentHoldsEveryFoot(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		line := aLine(t)
		if _, err := catalogue.Parse(line); err != nil {
			t.Skip(err)
		}
		p := walk(t, line, 150, false)
		e := p.Extent()
		least := [4]float64{math.Inf(1), math.Inf(1), math.Inf(1), math.Inf(1)}
		for _, f := range p.Frames {
			for _, foot := range f.Stand.Feet {
				for _, c := range foot.Outline(p.Body) {
					for i, room := range []float64{c.X - e.Left, e.Right - c.X, c.Y - e.Back, e.Front - c.Y} {
						least[i] = min(least[i], room)
					}
				}
			}
		}
		for _, room := range least {
			if math.Abs(room) > 1e-9 {
				t.Fatalf("%s: %v", line, least)
			}
		}
	})
}

// BenchmarkForm walks a form of 60 counts.
func BenchmarkForm(b *testing.B) {
	line := ""
	for i := range 60 {
		line += []string{"left step turn ccw 90 in front stance + left low block", " / step through lead jab", " / right step turn cw 180 + right low block", " / "}[i%3]
		if i%3 == 2 && i < 59 {
			line += " / "
		}
	}
	seq, err := catalogue.Parse("from ready stance: " + line)
	if err != nil {
		b.Fatal(err)
	}
	g := ground(tall(170))
	b.ReportAllocs()
	for b.Loop() {
		Walk(catalogue.Floor(seq, false, false), seq.From, false, g)
	}
}
