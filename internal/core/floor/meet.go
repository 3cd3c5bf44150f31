package floor

import (
	"math"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/notation"
)

// Act is what a technique does across the distance between two.
type Act string

// The acts; "" reaches for nobody.
const (
	Punch     Act = "punch" // any strike with the hand
	Elbow     Act = "elbow" // and the other strikes of the inside
	FrontKick Act = "front kick"
	Kick      Act = "kick" // any other
	Block     Act = "block"
	Hold      Act = "hold"
)

// Sweep is the way a block takes; "" is not said.
type Sweep string

// The ways.
const (
	Inward  Sweep = "inward"
	Outward Sweep = "outward"
	Upward  Sweep = "up"
	Down    Sweep = "down"
)

// Sweeps are the choices.
var Sweeps = []Sweep{Inward, Outward, Upward, Down}

// Where targets are, in body heights: low, mid and high.
const (
	targetLow  = .53
	targetMid  = .72
	targetHigh = .87
	shoulders  = .818 // how high they are
	hips       = .530
)

// target is how high a target is on a body, in millimetres; mid where nothing is said.
func target(l notation.Level, b body.Parts) float64 {
	switch l {
	case notation.Low:
		return targetLow * b.Height
	case notation.High:
		return targetHigh * b.Height
	}
	return targetMid * b.Height
}

// turnsIn is how far the shoulders turn in behind an arm, in millimetres: from hips that are turned away.
func (x *Stand) turnsIn(b body.Parts) float64 {
	return b.Shoulder / 2 * math.Sin(x.Stance.Hips*math.Pi/180)
}

// Reach is how far an act reaches from the pelvis, in millimetres, to a height above the floor.
func (x *Stand) Reach(b body.Parts, act Act, height float64) float64 {
	away := func(limb, from float64) float64 { return math.Sqrt(max(0, limb*limb-(from-height)*(from-height))) }
	switch act {
	case Punch, Hold, Block:
		return away(b.UpperArm+b.Forearm+b.Hand/2, shoulders*b.Height-x.Sinks(b)) + x.turnsIn(b)
	case Elbow:
		return b.UpperArm + x.turnsIn(b)
	case FrontKick:
		return away(b.Hip, hips*b.Height)
	case Kick:
		return away(b.Hip, hips*b.Height) + b.HipWidth/2
	}
	return 0
}

// Zones are where the ranges of a body end, from pelvis to pelvis of a partner of the same size: inside, middle and outside.
func Zones(b body.Parts, fighting Stance) [3]float64 {
	x := fighting.Take(b, Left)
	return [3]float64{
		x.Reach(b, Elbow, 0) + b.Trunk,
		x.Reach(b, Punch, target(notation.Mid, b)) + b.Trunk,
		x.Reach(b, Kick, hips*b.Height) + b.Trunk,
	}
}

// ZoneNames are the ranges, near to far; behind the last nobody reaches.
var ZoneNames = [3]string{"inside", "middle", "outside"}

// ZoneAt is the range of a distance; "" beyond the last.
func ZoneAt(zones [3]float64, distance float64) string {
	for i, end := range zones {
		if distance <= end {
			return ZoneNames[i]
		}
	}
	return ""
}

// Doing is what a technique does, as two people meet.
type Doing struct {
	Act   Act
	Sweep Sweep
}

// Reached is the side of the attacking arm on which the defender is.
type Reached string

// The sides of an arm; "" is undecided.
const (
	Inside  Reached = "inside"
	Outside Reached = "outside"
)

// asideOf is how far from the line of the attack a trunk has to be for its feet to decide, in shoulders.
const asideOf = .25

// Pair is two people on one floor: an attack, and a defence against it.
type Pair struct {
	Attack, Defence Path  // each as if alone, from its own start
	With            []int // of each frame of the defence: the frame of the attack it happens with
	Steps           []int // of each frame of the defence: the step it belongs to; nil: each is one
	Doing           func(technique string) Doing
	Start           float64       // typed, from pelvis to pelvis; 0: where the attack just lands
	Range           string        // where the middle of a range is taken, of an attack without moves
	Limb            notation.Side // that attacks, of an attack without moves
	Zones           [3]float64    // of the defender
}

// Touch is something that one of the two does across the distance.
type Touch struct {
	ByDefender bool
	Act        Act
	Name       string
	Limb       notation.Side
	Level      notation.Level
	Short      float64 // millimetres that it is too short; negative are to spare
	Joint      Point   // of the limb, over the floor
}

// Moment is both of them after a frame of the defence. The defender begins at the origin and faces forward, the attacker
// comes down the line.
type Moment struct {
	Frame, Attack      int // of the two paths
	Attacker, Defender Stand
	Before, Distance   float64 // from pelvis to pelvis
	Zone               string  // that the distance lies in; "" beyond the last
	Touches            []Touch
	Contact            bool // the first
}

// Met is how the two meet.
type Met struct {
	Start   float64
	Moments []Moment
	Side    Reached // of the attacking arm, at the first contact
	ByHand  bool    // the blocking hand decides it, not the feet
	Off     float64 // how far the defender's trunk is off the line through the attacking joint, outwards positive
	Leaves  float64 // how far the defender's trunk gets from the line on which the two began
}

// across reports whether an act is one by which an attack lands.
func (a Act) across() bool { return a != "" && a != Block }

// contact is the first frame of the attack that reaches for somebody, and the move that does; 0 none.
func (p *Pair) contact() (frame, move int) {
	for i, f := range p.Attack.Frames {
		for k, m := range f.Moves {
			if m.Technique != "" && p.Doing(m.Technique).Act.across() {
				return i, k
			}
		}
	}
	return 0, 0
}

// Apart is how far from pelvis to pelvis the two begin: as typed; else where the attack just lands on a defender who stands
// still: its way, its reach and half the defender's trunk; else in the middle of the range.
func (p *Pair) Apart() float64 {
	if p.Start > 0 {
		return p.Start
	}
	if i, k := p.contact(); i > 0 {
		f, m := p.Attack.Frames[i], p.Attack.Frames[i].Moves[k]
		advance := f.Stand.Mass.Y - p.Attack.Frames[0].Stand.Mass.Y
		return advance + f.Stand.Reach(p.Attack.Body, p.Doing(m.Technique).Act, target(m.Level, p.Defence.Body)) + p.Defence.Body.Trunk
	}
	near := 0.0
	for i, end := range p.Zones {
		if ZoneNames[i] == p.Range || p.Range == "" && i == 1 {
			return (near + end) / 2
		}
		near = end
	}
	return near
}

// facing is a stand of the attacker as it is on the floor of both.
func (p *Pair) facing(x Stand, apart float64) Stand {
	from, to := p.Attack.Frames[0].Stand.Mass, p.Defence.Frames[0].Stand.Mass.Plus(Point{0, apart})
	over := func(q Point) Point { return to.Minus(q.Minus(from)) }
	for side := range x.Feet {
		x.Feet[side].Heel, x.Feet[side].Heading = over(x.Feet[side].Heel), x.Feet[side].Heading+halfTurn
		x.Legs[side].Joint, x.Legs[side].At = over(x.Legs[side].Joint), over(x.Legs[side].At)
	}
	x.Mass, x.Facing, x.Line = over(x.Mass), x.Facing+halfTurn, x.Line+halfTurn
	return x
}

// joint is from where a limb reaches: the shoulder behind an arm, turned in with the hips, or the hip of a leg.
func (x *Stand) joint(act Act, side Side, b body.Parts) Point {
	if act == Kick || act == FrontKick {
		return x.Mass.Plus(Point{side.out() * b.HipWidth / 2, 0}.Turned(x.Facing))
	}
	sin, cos := math.Sincos(x.Stance.Hips * math.Pi / 180)
	return x.Mass.Plus(Point{side.out() * cos, sin}.Times(b.Shoulder / 2).Turned(x.Facing))
}

// Meet follows both.
func (p *Pair) Meet() Met {
	m := Met{Start: p.Apart()}
	contact, move := p.contact()
	last, first := m.Start, 0
	for i, f := range p.Defence.Frames {
		at := p.With[i]
		x := Moment{Frame: i, Attack: at, Attacker: p.facing(p.Attack.Frames[at].Stand, m.Start), Defender: f.Stand, Before: last}
		x.Distance = x.Attacker.Mass.Minus(x.Defender.Mass).Length()
		x.Zone = ZoneAt(p.Zones, x.Distance)
		last = x.Distance
		from := 0
		if i > 0 {
			from = p.With[i-1]
		}
		for k := from + 1; k <= at; k++ {
			x.Touches = append(x.Touches, p.touches(p.Attack.Frames[k], &x, false)...)
		}
		x.Touches = append(x.Touches, p.touches(f, &x, true)...)
		if contact > from && contact <= at {
			first = i
		}
		m.Leaves = max(m.Leaves, math.Abs(x.Defender.Mass.X-p.Defence.Frames[0].Stand.Mass.X))
		m.Moments = append(m.Moments, x)
	}
	if first == 0 {
		p.byHand(&m, p.Limb, p.Defence.Frames)
		return m
	}
	x := &m.Moments[p.met(first)]
	x.Contact = true
	p.decide(&m, x, p.Attack.Frames[contact], move)
	return m
}

// met is the frame of the step in which the attack arrives where the two meet: the first with a block, else the last.
func (p *Pair) met(first int) int {
	last := first
	for i := first; i < len(p.Defence.Frames) && (i == first || p.Steps != nil && p.Steps[i] == p.Steps[first]); i++ {
		last = i
		for _, move := range p.Defence.Frames[i].Moves {
			if move.Technique != "" && p.Doing(move.Technique).Act == Block {
				return i
			}
		}
	}
	return last
}

// touches are what a frame does across the distance.
func (p *Pair) touches(f Frame, x *Moment, byDefender bool) (out []Touch) {
	own, other, b := &x.Attacker, p.Defence.Body, p.Attack.Body
	if byDefender {
		own, other, b = &x.Defender, p.Attack.Body, p.Defence.Body
	}
	for i, m := range f.Moves {
		act := p.Doing(m.Technique).Act
		limb, single := side(f.Limbs[i])
		if m.Technique == "" || act == "" || !single {
			continue
		}
		t := Touch{ByDefender: byDefender, Act: act, Name: m.Name, Limb: f.Limbs[i], Level: m.Level, Joint: own.joint(act, limb, b)}
		t.Short = x.Distance - own.Reach(b, act, target(m.Level, other)) - other.Trunk
		out = append(out, t)
	}
	return out
}

// decide says on which side of the attacking limb the defender is: by the feet where the trunk is clearly outside of its line,
// else by the blocking hand, else by the feet where it is clearly inside.
func (p *Pair) decide(m *Met, x *Moment, f Frame, move int) {
	limb, single := side(f.Limbs[move])
	if !single {
		return
	}
	joint := x.Attacker.joint(p.Doing(f.Moves[move].Technique).Act, limb, p.Attack.Body)
	outwards := Point{limb.out(), 0}.Turned(x.Attacker.Facing)
	off := x.Defender.Mass.Minus(joint)
	m.Off = off.X*outwards.X + off.Y*outwards.Y
	aside := asideOf * p.Attack.Body.Shoulder
	if m.Off >= aside {
		m.Side = Outside
		return
	}
	if p.byHand(m, f.Limbs[move], p.Defence.Frames[x.Frame:x.Frame+1]); m.Side == "" && m.Off <= -aside {
		m.Side = Inside
	}
}

// byHand takes the side from the first block of some frames that goes inward or outward: the hand on the side of the attack
// inward, and the hand of its name outward, lead outside.
func (p *Pair) byHand(m *Met, attacks notation.Side, frames []Frame) {
	if attacks != notation.Left && attacks != notation.Right {
		return
	}
	for _, f := range frames {
		for i, move := range f.Moves {
			d, by := p.Doing(move.Technique), f.Limbs[i]
			if move.Technique == "" || d.Act != Block || d.Sweep != Inward && d.Sweep != Outward || by != notation.Left && by != notation.Right {
				continue
			}
			m.ByHand, m.Side = true, Inside
			if (d.Sweep == Inward) == (by != attacks) {
				m.Side = Outside
			}
			return
		}
	}
}
