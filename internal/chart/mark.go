package chart

import (
	"fmt"
	"math"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
)

// MarkSize is how wide and high a small mark is, in its own units: pixels on a screen.
const MarkSize = 34

const markPad = 4

// markFeet is how much larger feet are drawn in a mark, to be seen.
const markFeet = 1.5

// Dot is a place in a mark, from its left upper corner.
type Dot struct{ X, Y float64 }

// Shape is a line through dots, closed or not, or a circle around one.
type Shape struct {
	Class  string // lead, foot, walk, limb, figure, sweep: how it is drawn
	Dots   []Dot
	Closed bool
	Radius float64 // of a circle; 0: it is a line
}

// Mark is the small mark of a technique, drawn from its own data; the one drawing for screens and for paper.
type Mark []Shape

// MarkOf is the mark of a technique: the feet of a stance, the way of anything that walks, what a strike, a kick or a block
// does from a stance. It is empty where nothing is known to draw.
func MarkOf(b *curriculum.Book, t *curriculum.Technique) Mark {
	switch t.Kind {
	case "stance":
		if s := b.MarkStance(t); s != nil {
			return markOfStance(s)
		}
	case "form", "combination", "self_defence", "partner_set", "footwork":
		if way := b.MarkWay(t); far(way) >= leastWay {
			return markOfWay(way)
		}
		if x := b.FirstAct(t); x != nil {
			return markOfAct(x.Act(), x.SweepOf(), levelOf(x))
		}
	case "strike", "kick", "block":
		return markOfAct(t.Act(), t.SweepOf(), levelOf(t))
	}
	return nil
}

// SVG is the mark for a page, beside the name it belongs to.
func (m Mark) SVG() string {
	if len(m) == 0 {
		return ""
	}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="mark-of" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" aria-hidden="true">`, MarkSize, MarkSize)
	for _, s := range m {
		if s.Radius > 0 {
			fmt.Fprintf(&b, `<circle class="%s" cx="%.4g" cy="%.4g" r="%.4g"/>`, s.Class, s.Dots[0].X, s.Dots[0].Y, s.Radius)
			continue
		}
		d := ""
		for i, q := range s.Dots {
			d += fmt.Sprintf("%s%.3g %.3g", map[bool]string{true: "M", false: "L"}[i == 0], q.X, q.Y)
		}
		if s.Closed {
			d += "Z"
		}
		fmt.Fprintf(&b, `<path class="%s" d="%s"/>`, s.Class, d)
	}
	b.WriteString(`</svg>`)
	return b.String()
}

// fitted is a plan in which an extent fills the mark.
func fitted(e floor.Extent, most float64) plan {
	room := float64(MarkSize - 2*markPad)
	scale := min(room/max(e.Width(), 1), room/max(e.Depth(), 1), most)
	return plan{x: MarkSize/2.0 - (e.Left+e.Right)/2*scale, y: MarkSize/2.0 + (e.Back+e.Front)/2*scale, scale: scale}
}

func markOfStance(s *curriculum.Marked) (m Mark) {
	p := fitted(bounds(s.Body, &s.Stand), .05)
	for side, f := range s.Stand.Feet {
		class := "foot"
		if floor.Side(side) == s.Stand.Lead && !s.Stand.Stance.Level {
			class = "foot lead"
		}
		shape := Shape{Class: class, Closed: true}
		way := floor.Side(side)
		for i := 0; i < len(sole); i += 3 { // the ends of its curves are enough at this size
			q := floor.Point{X: sole[i][0] * s.Body.FootBreadth, Y: (sole[i][1] - .5) * s.Body.Foot}.Times(markFeet)
			if way == floor.Left {
				q.X = -q.X
			}
			x, y := p.at(f.At(floor.AtMiddle, s.Body).Plus(q.Turned(f.Heading)))
			shape.Dots = append(shape.Dots, Dot{x, y})
		}
		m = append(m, shape)
	}
	return m
}

// leastWay is how far somebody has to get, in millimetres, for the way to say something.
const leastWay = 400

// far is how far a way gets from its start at the most.
func far(way []floor.Point) (most float64) {
	for _, q := range way {
		most = max(most, q.Minus(way[0]).Length())
	}
	return most
}

func markOfWay(way []floor.Point) Mark {
	e := floor.Extent{Left: way[0].X, Right: way[0].X, Back: way[0].Y, Front: way[0].Y}
	for _, q := range way {
		e = floor.Extent{Left: min(e.Left, q.X), Right: max(e.Right, q.X), Back: min(e.Back, q.Y), Front: max(e.Front, q.Y)}
	}
	p := fitted(e, .03)
	line := Shape{Class: "walk"}
	for _, q := range way {
		x, y := p.at(q)
		line.Dots = append(line.Dots, Dot{x, y})
	}
	return Mark{line, {Class: "start", Dots: line.Dots[:1], Radius: 3}, {Class: "end", Dots: line.Dots[len(line.Dots)-1:], Radius: 2}}
}

// levelOf is the highest level a technique is done at, 0 low to 2 high; the middle where nothing is said.
func levelOf(t *curriculum.Technique) int {
	level := -1
	for _, l := range t.Levels {
		level = max(level, map[string]int{"low": 0, "mid": 1, "high": 2}[string(l)])
	}
	if level < 0 {
		return 1
	}
	return level
}

// arrow is a line with a head.
func arrow(from, to Dot) []Shape {
	way := math.Atan2(to.Y-from.Y, to.X-from.X)
	barb := func(by float64) Dot { return Dot{to.X - 4*math.Cos(way+by), to.Y - 4*math.Sin(way+by)} }
	return []Shape{{Class: "sweep", Dots: []Dot{from, to}}, {Class: "sweep", Dots: []Dot{barb(.6), to, barb(-.6)}}}
}

// markOfAct draws a figure from the side that does something at a height.
func markOfAct(act floor.Act, sweep floor.Sweep, level int) Mark {
	m := Mark{{Class: "figure", Dots: []Dot{{10, 9.5}, {10, 20}, {6, 31}}}, {Class: "figure", Dots: []Dot{{10, 20}, {14, 31}}}, {Class: "head", Dots: []Dot{{10, 6}}, Radius: 3}}
	y := []float64{23, 15, 8}[level]
	limb := func(dots ...Dot) {
		m = append(m, Shape{Class: "limb", Dots: append([]Dot{{10, 12}}, dots...)}, Shape{Class: "tip", Dots: dots[len(dots)-1:], Radius: 2.4})
	}
	switch act {
	case floor.Punch:
		limb(Dot{28, y})
	case floor.Elbow:
		m = append(m, Shape{Class: "limb", Dots: []Dot{{20, y}, {14, y - 4}}})
		limb(Dot{20, y})
	case floor.FrontKick, floor.Kick:
		m = append(m, Shape{Class: "limb", Dots: []Dot{{10, 20}, {28, y}}}, Shape{Class: "tip", Dots: []Dot{{28, y}}, Radius: 2.4})
		if act == floor.Kick { // it comes round
			m = append(m, Shape{Class: "sweep", Dots: []Dot{{19, 31}, {25, 29}, {29, 25}, {30, y + 5}}})
		}
	case floor.Block:
		m = append(m, Shape{Class: "limb", Dots: []Dot{{10, 12}, {18, 17}, {20, y - 3}}})
		if ends, said := map[floor.Sweep][2]Dot{floor.Inward: {{31, 15}, {23, 15}}, floor.Outward: {{23, 15}, {31, 15}}, floor.Upward: {{27, 18}, {27, 7}}, floor.Down: {{27, 15}, {27, 26}}}[sweep]; said {
			m = append(m, arrow(ends[0], ends[1])...)
		}
	default:
		return nil
	}
	return m
}
