package floor

import (
	"math"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/notation"
)

// Place is a place above the floor, in millimetres.
type Place struct {
	Point
	Up float64
}

// Limb is an arm from shoulder to hand, or a leg from hip to ankle.
type Limb struct {
	From, Bend, End Place
	Acts            bool // it does the technique
	Act             Act
}

// Pose is a whole body as it is drawn: joints above the floor. Arms that do nothing are held as a guard; that is our own
// figure, as are the height of the head and how an arm bends.
type Pose struct {
	Arms, Legs [2]Limb // by side
	Toes       [2]Place
	Hips       Place // the middle between them
	Neck       Place
	Head       Place // its middle
	Radius     float64
	Trunk      float64 // where it faces, degrees
	Facing     float64
}

// The parts of a figure that no table tells, in body heights.
const (
	headRadius = .062
	guardAhead = .17 // a hand that guards, before the shoulders
	guardUp    = .74 // its height
	guardIn    = .06 // from the middle
	elbowIn    = .62 // an elbow's height that guards
	blockAhead = .24
)

// Pose is a stand as it is drawn, with what its limbs do.
func (x *Stand) Pose(b body.Parts, does []Does) Pose {
	h, sinks := b.Height, x.Sinks(b)
	ahead := func(from Point, across, along, facing float64) Point {
		return from.Plus(Point{across, along}.Turned(facing))
	}
	p := Pose{Trunk: x.Trunk(), Facing: x.Facing, Radius: headRadius * h}
	p.Hips = Place{x.Mass, x.Hip}
	p.Neck = Place{x.Mass, shoulders*h - sinks}
	p.Head = Place{x.Mass, h - headRadius*h - sinks}
	for i := range p.Arms {
		side := Side(i)
		from := ahead(x.Mass, side.out()*b.Shoulder/2, 0, x.Trunk())
		p.Arms[i] = Limb{From: Place{from, p.Neck.Up}, Bend: Place{ahead(from, 0, guardAhead*h/2, x.Facing), elbowIn*h - sinks}, End: Place{ahead(x.Mass, side.out()*guardIn*h, guardAhead*h, x.Facing), guardUp*h - sinks}}
		leg := x.Legs[i]
		foot := x.Feet[i]
		ankle := Place{foot.At(AtAnkle, b), b.Ankle}
		if foot.HeelUp {
			ankle.Up += (AtBall - AtAnkle) * b.Foot * .6
		}
		knee := Place{leg.At, leg.Up}
		if leg.Short > 0 {
			knee = Place{leg.Joint.Plus(ankle.Point).Times(.5), (x.Hip + ankle.Up) / 2}
		}
		p.Legs[i] = Limb{From: Place{leg.Joint, x.Hip}, Bend: knee, End: ankle}
		p.Toes[i] = Place{foot.At(AtToe, b), 0}
	}
	for _, d := range does {
		for _, side := range d.sides() {
			x.act(&p, b, d, side)
		}
	}
	return p
}

// Does is what one limb does in a frame.
type Does struct {
	Doing
	Limb  notation.Side
	Level notation.Level
}

func (d Does) sides() []Side {
	if d.Limb == notation.Both {
		return []Side{Left, Right}
	}
	if s, single := side(d.Limb); single {
		return []Side{s}
	}
	return nil
}

// act lets a limb do what a technique does.
func (x *Stand) act(p *Pose, b body.Parts, d Does, side Side) {
	up := target(d.Level, b)
	switch d.Act {
	case Punch, Hold, Elbow, Block:
		arm := &p.Arms[side]
		arm.Acts, arm.Act = true, d.Act
		from := x.joint(d.Act, side, b)
		arm.From.Point = from
		long, across := b.UpperArm+b.Forearm+b.Hand/2, 0.0
		switch d.Act {
		case Elbow:
			elbow := from.Plus(Point{0, b.UpperArm}.Turned(x.Facing))
			arm.Bend, arm.End = Place{elbow, up}, Place{elbow.Plus(Point{-side.out() * b.Forearm, -b.Forearm / 3}.Turned(x.Facing)), up}
			return
		case Block:
			long = blockAhead * b.Height
			across = map[Sweep]float64{Inward: -.1, Outward: .08}[d.Sweep] * side.out() * b.Height
			if d.Sweep == Upward {
				up = targetHigh * b.Height
			}
			if d.Sweep == Down {
				up = targetLow * b.Height
			}
		}
		flat := math.Sqrt(max(long*long/4, long*long-(up-arm.From.Up)*(up-arm.From.Up)))
		arm.End = Place{from.Plus(Point{across, flat}.Turned(x.Facing)), up}
		arm.Bend = Place{from.Plus(arm.End.Point).Times(.5), (arm.From.Up + up) / 2}
		if d.Act == Block {
			arm.Bend.Up -= .08 * b.Height
		}
	case FrontKick, Kick:
		leg := &p.Legs[side]
		leg.Acts, leg.Act = true, d.Act
		flat := math.Sqrt(max(b.Hip*b.Hip/4, b.Hip*b.Hip-(up-x.Hip)*(up-x.Hip)))
		leg.End = Place{leg.From.Plus(Point{0, flat}.Turned(x.Facing)), up}
		leg.Bend = Place{leg.From.Plus(leg.End.Point).Times(.5), (leg.From.Up + up) / 2}
		p.Toes[side] = Place{leg.End.Plus(Point{0, b.Foot / 3}.Turned(x.Facing)), up + b.Foot/2}
	}
}

// Does is what the limbs do in a frame.
func (f *Frame) Does(doing func(technique string) Doing) (out []Does) {
	for i, m := range f.Moves {
		if m.Technique != "" {
			out = append(out, Does{doing(m.Technique), f.Limbs[i], m.Level})
		}
	}
	return out
}
