// Package floor is where feet are: stances as geometry, for a body. Millimetres and degrees, unrounded until they
// are shown; x to the right, y forward at the start, angles clockwise from y.
package floor

import (
	"math"

	"velvetladder/internal/core/body"
)

// Point is a place on the floor.
type Point struct{ X, Y float64 }

// Plus is the point so far from this one.
func (p Point) Plus(q Point) Point { return Point{p.X + q.X, p.Y + q.Y} }

// Minus is the way from another point to this one.
func (p Point) Minus(q Point) Point { return Point{p.X - q.X, p.Y - q.Y} }

// Times is the way so many times.
func (p Point) Times(f float64) Point { return Point{p.X * f, p.Y * f} }

// Length is how long the way is.
func (p Point) Length() float64 { return math.Hypot(p.X, p.Y) }

// Turned is the way turned clockwise by degrees.
func (p Point) Turned(degrees float64) Point {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	return Point{p.X*cos + p.Y*sin, p.Y*cos - p.X*sin}
}

// Side is left or right.
type Side int

// The sides.
const (
	Left  Side = 0
	Right Side = 1
)

// Other is the other side.
func (s Side) Other() Side { return 1 - s }

// out is the direction of outwards: anticlockwise for the left foot.
func (s Side) out() float64 {
	if s == Left {
		return -1
	}
	return 1
}

// Places along a foot, in foot lengths from the heel.
const (
	AtHeel   = 0.0
	AtAnkle  = .2
	AtMiddle = .5
	AtBall   = .7
	AtToe    = 1.0
)

// Foot is a foot on the floor.
type Foot struct {
	Heel    Point
	Heading float64 // degrees
	HeelUp  bool
}

// At is a place along the foot.
func (f Foot) At(part float64, b body.Parts) Point {
	return f.Heel.Plus(Point{0, part * b.Foot}.Turned(f.Heading))
}

// bears is where a foot bears its share of the weight.
func (f Foot) bears(b body.Parts) Point {
	if f.HeelUp {
		return f.At(AtBall, b)
	}
	return f.At(AtMiddle, b)
}

// Outline are the corners of a foot: heel left, toe left, toe right, heel right.
func (f Foot) Outline(b body.Parts) [4]Point {
	half := Point{b.FootBreadth / 2, 0}.Turned(f.Heading)
	heel, toe := f.Heel, f.At(AtToe, b)
	return [4]Point{heel.Minus(half), toe.Minus(half), toe.Plus(half), heel.Plus(half)}
}

// Away is how far a point lies outside a foot's outline; 0 inside.
func (f Foot) Away(p Point, b body.Parts) float64 {
	in := p.Minus(f.Heel).Turned(-f.Heading)
	x := max(0, math.Abs(in.X)-b.FootBreadth/2)
	y := max(0, -in.Y, in.Y-b.Foot)
	return math.Hypot(x, y)
}

// Computed is the bend of a leg that follows from the other's.
const Computed = -1

// Stance is a stance as its feet stand, heel to heel, in shoulders. A Definition says it as a school does.
type Stance struct {
	Name          string
	Width, Length float64    // across and along the facing, in shoulders
	Out           [2]float64 // outward angles of the lead and the rear foot, degrees
	OnLead        int        // per cent of the weight
	Bend          [2]float64 // of the lead and the rear leg, degrees; 0 is straight, Computed follows
	LeadHeelUp    bool
	Hips          float64 // turned away from the facing, to the rear foot's side, degrees
	Level         bool    // both feet stand alike: neither leads
}

// Stand is somebody standing: feet, weight, and what follows of the legs.
type Stand struct {
	Stance Stance
	Feet   [2]Foot // by side
	Lead   Side    // of a level stance, the foot that led last
	Facing float64 // degrees
	Line   float64 // of the stance, degrees: the facing, but for a step at an angle
	Mass   Point   // centre of mass, on the floor
	Hip    float64 // its height
	Low    bool    // dropped, until the next step
	Legs   [2]Leg  // by side
}

// Leg is a leg of two links from ankle to hip.
type Leg struct {
	Joint Point   // of the hip, over the floor
	Needs float64 // from ankle to hip; more than thigh and shank together: the leg cannot reach
	Bend  float64 // degrees; 0 where it cannot reach
	Knee  float64 // ahead of the ankle, along the foot
	At    Point   // of the knee, over the floor
	Up    float64 // of the knee, above the floor
	Short float64 // by how much the leg is too short; 0 it reaches
}

// Take is the stance as a body takes it, facing forward, the midpoint of its two foot middles at the origin.
func (s Stance) Take(b body.Parts, lead Side) Stand {
	x := Stand{Stance: s, Lead: lead}
	x.Feet[lead.Other()] = x.foot(lead.Other(), Point{})
	x.Feet[lead] = x.foot(lead, x.apart(lead, b))
	middle := x.Feet[Left].At(AtMiddle, b).Plus(x.Feet[Right].At(AtMiddle, b)).Times(.5)
	x.shift(Point{}.Minus(middle))
	x.settle(b)
	return x
}

// angle is where a foot points in the stance.
func (x *Stand) angle(side Side) float64 {
	role := 0
	if side != x.Lead {
		role = 1
	}
	return x.Facing + x.Stance.Out[role]*side.out()
}

// foot is a foot as the stance has it, with its heel at a place.
func (x *Stand) foot(side Side, heel Point) Foot {
	return Foot{Heel: heel, Heading: x.angle(side), HeelUp: x.Stance.LeadHeelUp && side == x.Lead}
}

// apart is the way from the other heel to a side's heel, as the stance has it.
func (x *Stand) apart(side Side, b body.Parts) Point {
	long := x.Stance.Length
	if side != x.Lead {
		long = -long
	}
	return Point{x.Stance.Width * side.out(), long}.Times(b.Shoulder).Turned(x.Line)
}

// shift moves both feet alike.
func (x *Stand) shift(by Point) {
	for i := range x.Feet {
		x.Feet[i].Heel = x.Feet[i].Heel.Plus(by)
	}
}

// settle computes where the weight is, and what follows of hips and legs.
func (x *Stand) settle(b body.Parts) {
	rear, share := x.Lead.Other(), float64(x.Stance.OnLead)/100
	x.Mass = x.Feet[x.Lead].bears(b).Times(share).Plus(x.Feet[rear].bears(b).Times(1 - share))
	for side := range x.Legs {
		half := Point{b.HipWidth / 2 * Side(side).out(), 0}
		x.Legs[side] = Leg{Joint: x.Mass.Plus(half.Turned(x.Trunk()))}
	}
	x.stand(x.Stance, b)
}

// Trunk is where the trunk faces, in degrees: away from the facing as far as the hips are turned.
func (x *Stand) Trunk() float64 { return x.Facing + x.Stance.Hips*x.Lead.Other().out() }

// dropped is how far a drop lowers the hips, in body heights.
const dropped = .1

// Sinks is how far the head sinks from standing straight.
func (x *Stand) Sinks(b body.Parts) float64 { return b.Ankle + b.Thigh + b.Shank - x.Hip }

// stand computes the height of the hips from the legs whose bend is stated, the lowest, and from it all legs.
func (x *Stand) stand(s Stance, b body.Parts) {
	reach := b.Thigh + b.Shank
	away := func(side Side) float64 { return x.Legs[side].Joint.Minus(x.Feet[side].At(AtAnkle, b)).Length() }
	x.Hip = b.Ankle + reach
	for i, side := range []Side{x.Lead, x.Lead.Other()} {
		if s.Bend[i] == Computed {
			continue
		}
		d2 := b.Thigh*b.Thigh + b.Shank*b.Shank + 2*b.Thigh*b.Shank*math.Cos(s.Bend[i]*math.Pi/180)
		r := away(side)
		x.Hip = min(x.Hip, b.Ankle+math.Sqrt(max(0, d2-r*r)))
	}
	if x.Low {
		x.Hip -= dropped * b.Height
	}
	for side := range x.Legs {
		l := &x.Legs[side]
		l.Needs = math.Hypot(away(Side(side)), x.Hip-b.Ankle)
		if l.Short = max(0, l.Needs-reach); l.Short > 0 {
			continue
		}
		l.Bend = math.Acos(min(1, (l.Needs*l.Needs-b.Thigh*b.Thigh-b.Shank*b.Shank)/(2*b.Thigh*b.Shank))) * 180 / math.Pi
		l.At, l.Up = x.knee(Side(side), b)
		ahead := l.At.Minus(x.Feet[side].At(AtAnkle, b)).Turned(-x.Feet[side].Heading)
		l.Knee = ahead.Y
	}
}

// knee is where a knee lies: up the line from ankle to hip, and off it towards where the foot points.
func (x *Stand) knee(side Side, b body.Parts) (at Point, up float64) {
	foot, l := x.Feet[side], x.Legs[side]
	ankle := foot.At(AtAnkle, b)
	along := (b.Shank*b.Shank - b.Thigh*b.Thigh + l.Needs*l.Needs) / (2 * l.Needs)
	off := math.Sqrt(max(0, b.Shank*b.Shank-along*along))
	// The line from ankle to hip, and the foot's heading made square to it.
	way, rise := l.Joint.Minus(ankle), x.Hip-b.Ankle
	heading := Point{0, 1}.Turned(foot.Heading)
	dot := (heading.X*way.X + heading.Y*way.Y) / l.Needs
	square := Point{heading.X - dot*way.X/l.Needs, heading.Y - dot*way.Y/l.Needs}
	high := -dot * rise / l.Needs
	size := math.Sqrt(square.X*square.X + square.Y*square.Y + high*high)
	at = ankle.Plus(way.Times(along / l.Needs)).Plus(square.Times(off / size))
	return at, b.Ankle + rise*along/l.Needs + high*off/size
}

// Sway is how far the centre of mass has to move before a foot can be lifted: to the outline of the other.
func (x Stand) Sway(lifted Side, b body.Parts) float64 {
	return x.Feet[lifted.Other()].Away(x.Mass, b)
}

// KneeOver reports whether a knee lies over its foot: between ankle and toe.
func (x Stand) KneeOver(side Side, b body.Parts) bool {
	k := x.Legs[side].Knee
	return k >= 0 && k <= (AtToe-AtAnkle)*b.Foot
}
