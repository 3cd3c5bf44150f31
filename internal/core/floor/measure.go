package floor

import (
	"math"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/notation"
)

// Extent is how much floor a path takes: as far as the outlines of the feet reach, from the start.
type Extent struct{ Left, Right, Back, Front float64 }

// Width is how wide it is, across the facing at the start.
func (e Extent) Width() float64 { return e.Right - e.Left }

// Depth is how deep it is.
func (e Extent) Depth() float64 { return e.Front - e.Back }

// Extent is how much floor the path takes.
func (p *Path) Extent() Extent {
	e := Extent{math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)}
	for _, f := range p.Frames {
		for _, foot := range f.Stand.Feet {
			for _, c := range foot.Outline(p.Body) {
				e = Extent{min(e.Left, c.X), max(e.Right, c.X), min(e.Back, c.Y), max(e.Front, c.Y)}
			}
		}
	}
	return e
}

// Ends is where the middle of the feet ends, from where it began.
func (p *Path) Ends() Point {
	last := p.Frames[len(p.Frames)-1].Stand
	return last.Feet[Left].At(AtMiddle, p.Body).Plus(last.Feet[Right].At(AtMiddle, p.Body)).Times(.5)
}

// Returns reports whether it ends where it began, to so many millimetres; 0 is a foot's length.
func (p *Path) Returns(within float64) bool {
	if within <= 0 {
		within = p.Body.Foot
	}
	return p.Ends().Length() <= within
}

// levelHead is how much a head may rise or sink and still be level, in body heights.
const levelHead = .01

// Rises is how far the head rises into a frame, in millimetres, sinking negative; 0 where it stays level.
func (p *Path) Rises(frame int) float64 {
	if frame == 0 {
		return 0
	}
	by := p.Frames[frame].Stand.Hip - p.Frames[frame-1].Stand.Hip
	if math.Abs(by) <= levelHead*p.Body.Height {
		return 0
	}
	return by
}

// Most is the frame into which the head rises or sinks most; 0 where it stays level.
func (p *Path) Most() (frame int) {
	for i := range p.Frames {
		if math.Abs(p.Rises(i)) > math.Abs(p.Rises(frame)) {
			frame = i
		}
	}
	return frame
}

// PerSide is how often a technique is done with each side.
type PerSide struct {
	Technique, Name          string
	Left, Right, Both, Other int
}

// OneSided reports whether it is done with one side alone.
func (s PerSide) OneSided() bool { return s.Both+s.Other == 0 && (s.Left == 0) != (s.Right == 0) }

// Sides counts techniques by side, in the order in which they come.
func (p *Path) Sides() (out []PerSide) {
	at := map[string]int{}
	for _, f := range p.Frames {
		for i, m := range f.Moves {
			if m.Technique == "" || m.Stands != "" {
				continue
			}
			n, there := at[m.Technique]
			if !there {
				n = len(out)
				at[m.Technique], out = n, append(out, PerSide{Technique: m.Technique, Name: m.Name})
			}
			times := 1
			if !m.Whole {
				times = max(m.Times, 1)
			}
			switch f.Limbs[i] {
			case notation.Left:
				out[n].Left += times
			case notation.Right:
				out[n].Right += times
			case notation.Both:
				out[n].Both += times
			default:
				out[n].Other += times
			}
		}
	}
	return out
}

// Turns counts the turns by how far they go, in degrees without their way.
func (p *Path) Turns() map[int]int {
	out := map[int]int{}
	for _, f := range p.Frames {
		if f.Turned != 0 {
			out[max(f.Turned, -f.Turned)]++
		}
	}
	return out
}

// Arm is an arm's length, from the shoulder to the fingertips.
func Arm(b body.Parts) float64 { return b.UpperArm + b.Forearm + b.Hand }

// AtOnce is how many do it at once in a hall, millimetres wide and deep, with an arm's length between them.
func (p *Path) AtOnce(width, depth float64) int {
	e, arm := p.Extent(), Arm(p.Body)
	fit := func(hall, one float64) int { return int((hall + arm) / (one + arm)) }
	return fit(width, e.Width()) * fit(depth, e.Depth())
}
