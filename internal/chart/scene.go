package chart

import (
	"fmt"
	"html"
	"math"
	"strings"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/floor"
)

// Actor is one person of a scene: where they stand after each frame, and what they do.
type Actor struct {
	Class  string // own or other
	Body   body.Parts
	Stands []floor.Stand
	Poses  []floor.Pose
	Placed []bool // the feet stand as their stance has them
}

// Alone is somebody who walks a path alone.
func Alone(p *floor.Path, doing func(string) floor.Doing) Actor {
	a := Actor{Class: "own", Body: p.Body}
	for i := range p.Frames {
		f := &p.Frames[i]
		a.Stands, a.Poses, a.Placed = append(a.Stands, f.Stand), append(a.Poses, f.Stand.Pose(p.Body, f.Does(doing))), append(a.Placed, f.Placed)
	}
	return a
}

// Pair are the two of a defence on one floor.
func Pair(m *floor.Met, p *floor.Pair) []Actor {
	own, other := Actor{Class: "own", Body: p.Defence.Body}, Actor{Class: "other", Body: p.Attack.Body}
	for i := range m.Moments {
		x := &m.Moments[i]
		f := &p.Defence.Frames[x.Frame]
		own.Stands, own.Placed = append(own.Stands, x.Defender), append(own.Placed, f.Placed)
		own.Poses = append(own.Poses, x.Defender.Pose(own.Body, f.Does(p.Doing)))
		does := p.Attack.Frames[x.Attack].Does(p.Doing) // it stays for the answer
		other.Stands, other.Placed = append(other.Stands, x.Attacker), append(other.Placed, true)
		other.Poses = append(other.Poses, x.Attacker.Pose(other.Body, does))
	}
	return []Actor{own, other}
}

// Scene is one or two people on a floor, drawn at one frame and moved by the page to the others.
type Scene struct {
	ID     string // of its feet on the page
	Label  string
	Actors []Actor
	Counts []string // what stands beside the feet that were set down in a frame; "" nothing
	Lines  bool     // of attack: from one to the other as they began
	Width  int      // of the picture at most, in pixels; 0 is 600
	Height int      // 0 is 440
	Around float64  // millimetres kept free around the feet; 0 is 550
	Close  bool     // only the frame's own feet are looked at
}

// Frame is what moves, in tenths of a pixel: points from above, from the side, and the feet with their headings in degrees.
type Frame struct {
	Above []int  `json:"a"`
	Feet  []int  `json:"f"` // of each person: x, y, degrees of the left, then of the right foot
	Trunk []int  `json:"t"` // of each person, degrees
	Side  []int  `json:"s"`
	Kicks string `json:"k"` // of each person and leg: 1 it kicks
}

// The points of one person from above: shoulder, elbow and hand of each arm, hip and foot of each leg, the head.
const abovePoints = 11

// The points of one person from the side: hips, neck, head, then shoulder, elbow, hand, and hip, knee, ankle, toe of each side.
const sidePoints = 17

func (s *Scene) size() (w, h int, around float64) {
	w, h, around = s.Width, s.Height, s.Around
	if w == 0 {
		w = 600
	}
	if h == 0 {
		h = 440
	}
	if around == 0 {
		around = 550
	}
	return w, h, around
}

// plan fits the floor that is needed into the picture.
func (s *Scene) plan(frame int) (p plan, width, height int) {
	w, h, around := s.size()
	e := floor.Extent{Left: math.Inf(1), Right: math.Inf(-1), Back: math.Inf(1), Front: math.Inf(-1)}
	for _, a := range s.Actors {
		for i := range a.Stands {
			if s.Close && i != frame {
				continue
			}
			o := bounds(a.Body, &a.Stands[i])
			e = floor.Extent{Left: min(e.Left, o.Left), Right: max(e.Right, o.Right), Back: min(e.Back, o.Back), Front: max(e.Front, o.Front)}
		}
	}
	p.scale = min(float64(w)/(e.Width()+2*around), float64(h)/(e.Depth()+2*around), .22)
	height = int(math.Ceil((e.Depth() + 2*around) * p.scale))
	p.x = float64(w)/2 - (e.Left+e.Right)/2*p.scale
	p.y = float64(height)/2 + (e.Back+e.Front)/2*p.scale
	return p, w, height
}

// Above draws the scene from above at a frame: where feet were set down, and who stands there now. One square is half a metre.
func (s *Scene) Above(frame int) string {
	p, w, h := s.plan(frame)
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="scene above" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" role="img" aria-label="%s">`, w, h, html.EscapeString(s.Label))
	for i, a := range s.Actors {
		b.WriteString(soles(fmt.Sprint(s.ID, i), a.Body, p.scale))
	}
	b.WriteString(p.grid(w, h, 500))
	if s.Lines && len(s.Actors) == 2 {
		x1, y1 := p.at(s.Actors[0].Stands[0].Mass)
		_, y2 := p.at(s.Actors[1].Stands[0].Mass)
		fmt.Fprintf(&b, `<path class="line" d="M%.1f %.1fV%.1f"/>`, x1, max(y1+60, 0), max(y2-60, 0))
	}
	for i, a := range s.Actors {
		if !s.Close {
			s.walked(&b, p, i, a)
		}
	}
	f := s.frame(frame, p)
	for i := range s.Actors {
		s.person(&b, i, f, p)
	}
	b.WriteString(`</svg>`)
	return b.String()
}

// walked draws the way of the body, and every foot where it was set down, with its count.
func (s *Scene) walked(b *strings.Builder, p plan, who int, a Actor) {
	way := ""
	for i, x := range a.Stands {
		px, py := p.at(x.Mass)
		way += fmt.Sprintf("%s%.1f %.1f", map[bool]string{true: "M", false: "L"}[i == 0], px, py)
	}
	fmt.Fprintf(b, `<path class="way %s" d="%s"/>`, a.Class, way)
	said := map[[2]int]int{}
	for i, x := range a.Stands {
		for side, f := range x.Feet {
			if i > 0 && f.Heel.Minus(a.Stands[i-1].Feet[side].Heel).Length() < 1 && math.Abs(f.Heading-a.Stands[i-1].Feet[side].Heading) < 1 {
				continue
			}
			b.WriteString(p.print("print "+a.Class, fmt.Sprintf("%s%d%d", s.ID, who, side), f))
		}
		if who > 0 || i >= len(s.Counts) || s.Counts[i] == "" {
			continue
		}
		// Beside the body, and further out where something stands already.
		for n := 0.0; n < 4; n++ {
			px, py := p.at(x.Mass.Plus(floor.Point{X: 330 + n*170}.Turned(x.Facing)))
			key := [2]int{int(px / 16), int(py / 14)}
			if said[key]++; said[key] > 1 {
				continue
			}
			b.WriteString(label(px, py+4, "count", "middle", s.Counts[i]))
			break
		}
	}
}

// person draws one person as they stand in a frame. What moves names its points.
func (s *Scene) person(b *strings.Builder, who int, f Frame, p plan) {
	a := s.Actors[who]
	at := func(n int) (x, y float64) {
		k := 2 * (who*abovePoints + n)
		return float64(f.Above[k]) / 10, float64(f.Above[k+1]) / 10
	}
	thick := func(share float64) float64 { return share * a.Body.Height * p.scale }
	fmt.Fprintf(b, `<g class="person %s">`, a.Class)
	for side := range 2 {
		k := who*6 + side*3
		fmt.Fprintf(b, `<use href="#%s%d%d" class="now" data-foot="%d" transform="translate(%.1f %.1f) rotate(%d)"/>`, s.ID, who, side, k/3, float64(f.Feet[k])/10, float64(f.Feet[k+1])/10, f.Feet[k+2])
	}
	line := func(class string, from, to int, wide float64, more string) {
		x1, y1 := at(from)
		x2, y2 := at(to)
		base := who * abovePoints
		fmt.Fprintf(b, `<line class="%s" data-from="%d" data-to="%d" x1="%.1f" y1="%.1f" x2="%.1f" y2="%.1f" stroke-width="%.1f"%s/>`, class, base+from, base+to, x1, y1, x2, y2, thick(wide), more)
	}
	for side := range 2 {
		class := "leg"
		if f.Kicks[2*who+side] != '1' {
			class += " rests"
		}
		line(class, 6+2*side, 7+2*side, thickLeg, fmt.Sprintf(` data-kick="%d"`, 2*who+side))
		line("arm", 3*side, 3*side+1, thickArm, "")
		line("arm", 3*side+1, 3*side+2, thickArm, "")
	}
	x, y := at(10)
	fmt.Fprintf(b, `<g class="trunk" data-trunk="%d" data-at="%d" transform="translate(%.1f %.1f) rotate(%d)"><ellipse rx="%.1f" ry="%.1f"/><path d="M-4 %.1[7]fL0 %.1[8]fL4 %.1[7]fZ"/></g>`,
		who, who*abovePoints+10, x, y, f.Trunk[who], a.Body.Shoulder/2*p.scale, thick(.055), -thick(.055), -thick(.055)-7)
	fmt.Fprintf(b, `<circle class="head" data-at="%d" cx="%.1f" cy="%.1f" r="%.1f"/></g>`, who*abovePoints+10, x, y, thick(.05))
}

// Side draws the scene from the side at a frame. One person alone faces right, wherever they face on the floor; of two the
// defender stands at the left.
func (s *Scene) Side(frame int) string {
	w, _, _ := s.size()
	h := w * 3 / 5
	f := s.side(frame, w, h)
	scale := s.sideScale(w, h)
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="scene side" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" role="img" aria-label="%s, from the side">`, w, h, html.EscapeString(s.Label))
	fmt.Fprintf(&b, `<path class="floor" d="M8 %dH%d"/>`, h-24, w-8)
	for who, a := range s.Actors {
		at := func(n int) (x, y float64) {
			k := 2 * (who*sidePoints + n)
			return float64(f[k]) / 10, float64(f[k+1]) / 10
		}
		fmt.Fprintf(&b, `<g class="person %s">`, a.Class)
		line := func(class string, from, to int, thick float64) {
			x1, y1 := at(from)
			x2, y2 := at(to)
			base := who * sidePoints
			fmt.Fprintf(&b, `<line class="%s" data-from="%d" data-to="%d" x1="%.1f" y1="%.1f" x2="%.1f" y2="%.1f" stroke-width="%.1f"/>`, class, base+from, base+to, x1, y1, x2, y2, thick*a.Body.Height*scale)
		}
		for side := range 2 {
			n, class := 3+7*side, map[int]string{0: "left", 1: "right"}[side]
			line("leg "+class, n+3, n+4, thickLeg)
			line("leg "+class, n+4, n+5, thickLeg*.85)
			line("foot "+class, n+5, n+6, thickLeg*.6)
			line("arm "+class, n, n+1, thickArm)
			line("arm "+class, n+1, n+2, thickArm)
		}
		line("trunk", 0, 1, thickTrunk)
		x, y := at(2)
		fmt.Fprintf(&b, `<circle class="head" data-at="%d" cx="%.1f" cy="%.1f" r="%.1f"/></g>`, who*sidePoints+2, x, y, a.Poses[0].Radius*scale)
	}
	b.WriteString(`</svg>`)
	return b.String()
}

// Frames are all frames for the page that moves the scene.
func (s *Scene) Frames() (out []Frame) {
	p, w, _ := s.plan(0)
	for i := range s.Actors[0].Stands {
		f := s.frame(i, p)
		f.Side = s.side(i, w, w*3/5)
		out = append(out, f)
	}
	return out
}

func tenths(v float64) int { return int(math.Round(v * 10)) }

func degrees(v float64) int { return int(math.Round(v)) }

// frame is a frame from above.
func (s *Scene) frame(i int, p plan) (f Frame) {
	add := func(q floor.Point) {
		x, y := p.at(q)
		f.Above = append(f.Above, tenths(x), tenths(y))
	}
	for _, a := range s.Actors {
		x, pose := a.Stands[i], a.Poses[i]
		for _, arm := range pose.Arms {
			add(arm.From.Point)
			add(arm.Bend.Point)
			add(arm.End.Point)
		}
		for side, leg := range pose.Legs {
			add(leg.From.Point)
			add(leg.End.Point)
			f.Kicks += map[bool]string{true: "1", false: "0"}[leg.Acts]
			hx, hy := p.at(x.Feet[side].Heel)
			f.Feet = append(f.Feet, tenths(hx), tenths(hy), degrees(x.Feet[side].Heading))
		}
		add(x.Mass)
		f.Trunk = append(f.Trunk, degrees(pose.Trunk))
	}
	return f
}

func (s *Scene) sideScale(w, h int) float64 {
	tallest, apart := 0.0, 0.0
	for _, a := range s.Actors {
		tallest = max(tallest, a.Body.Height)
	}
	if len(s.Actors) == 2 {
		for i := range s.Actors[0].Stands {
			apart = max(apart, math.Abs(s.Actors[1].Stands[i].Mass.Y-s.Actors[0].Stands[i].Mass.Y))
		}
	}
	return min(float64(h-44)/(1.02*tallest), float64(w)/(apart+1.5*tallest))
}

// side are the points of a frame from the side.
func (s *Scene) side(i, w, h int) (out []int) {
	scale := s.sideScale(w, h)
	middle := s.Actors[0].Stands[i].Mass
	if len(s.Actors) == 2 {
		middle = middle.Plus(s.Actors[1].Stands[i].Mass).Times(.5)
	}
	for who, a := range s.Actors {
		pose := a.Poses[i]
		facing := pose.Facing
		if who == 1 || len(s.Actors) == 2 {
			facing = 0 // both on the line between them
		}
		add := func(q floor.Place) {
			along := q.Point.Minus(middle).Turned(-facing).Y
			out = append(out, tenths(float64(w)/2+along*scale), tenths(float64(h-24)-q.Up*scale))
		}
		add(pose.Hips)
		add(pose.Neck)
		add(pose.Head)
		for side := range 2 {
			arm, leg := pose.Arms[side], pose.Legs[side]
			for _, q := range []floor.Place{arm.From, arm.Bend, arm.End, leg.From, leg.Bend, leg.End, pose.Toes[side]} {
				add(q)
			}
		}
	}
	return out
}
