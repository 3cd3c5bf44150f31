package floor

import (
	"math"

	"velvetladder/internal/core/body"
)

// Trouble is what a definition contradicts for a body.
type Trouble struct {
	Kind  string  // short, heel, bend or feet
	Lead  bool    // of the front leg; else of the rear one
	Needs float64 // millimetres from ankle to hip, or the bend it comes to in degrees
	Has   float64 // millimetres of thigh and shank, or the stated bend
}

// What a definition can contradict.
const (
	TooShort    = "short" // the leg does not reach, whatever the heel does
	HeelRises   = "heel"  // it reaches with a raised heel alone
	BendDiffers = "bend"  // a stated bend cannot be, the other leg being as stated
	FeetOverlap = "feet"  // the feet would stand on one another
)

// heelRise is how far a heel can be raised, in degrees about the ball of the foot.
const heelRise = 60.0

// mostBendOff is how far a bend may be from what is stated, in degrees.
const mostBendOff = 5.0

// Troubles are what a stance contradicts for a body.
func (s Stance) Troubles(b body.Parts) (out []Trouble) {
	x := s.Take(b, Left)
	for i, side := range []Side{Left, Right} {
		leg, stated := x.Legs[side], s.Bend[i]
		switch {
		case leg.Short > 0 && x.onTheBall(side, b) <= b.Thigh+b.Shank:
			out = append(out, Trouble{HeelRises, i == 0, leg.Needs, b.Thigh + b.Shank})
		case leg.Short > 0:
			out = append(out, Trouble{TooShort, i == 0, leg.Needs, b.Thigh + b.Shank})
		case stated != Computed && math.Abs(leg.Bend-stated) > mostBendOff:
			out = append(out, Trouble{BendDiffers, i == 0, leg.Bend, stated})
		}
	}
	if x.overlap(b) {
		out = append(out, Trouble{Kind: FeetOverlap})
	}
	return out
}

// onTheBall is how far hip and ankle are apart with the heel raised as far as it goes.
func (x *Stand) onTheBall(side Side, b body.Parts) float64 {
	sin, cos := math.Sincos(heelRise * math.Pi / 180)
	back := (AtBall - AtAnkle) * b.Foot // from the ball to where the ankle stands
	f := x.Feet[side]
	ankle := f.At(AtBall, b).Minus(Point{0, back*cos - b.Ankle*sin}.Turned(f.Heading))
	up := back*sin + b.Ankle*cos
	return math.Hypot(x.Legs[side].Joint.Minus(ankle).Length(), x.Hip-up)
}

// overlap reports whether the feet lie on one another: no side of either outline has the other foot wholly beyond it.
func (x *Stand) overlap(b body.Parts) bool {
	const slack = 1 // millimetre: feet that touch do not overlap
	for side, f := range x.Feet {
		other := x.Feet[1-side].Outline(b)
		inside := [4]bool{true, true, true, true} // beyond the left, the right, the heel, the toe
		for _, c := range other {
			in := c.Minus(f.Heel).Turned(-f.Heading)
			inside[0] = inside[0] && in.X <= slack-b.FootBreadth/2
			inside[1] = inside[1] && in.X >= b.FootBreadth/2-slack
			inside[2] = inside[2] && in.Y <= slack
			inside[3] = inside[3] && in.Y >= b.Foot-slack
		}
		if inside[0] || inside[1] || inside[2] || inside[3] {
			return false
		}
	}
	return true
}

// Taped is what somebody measured on the mat between the points that the definition names, in millimetres and degrees;
// Nothing is not measured.
type Taped struct{ Width, Length, OutLead, OutRear int }

// Nothing was measured.
const Nothing = math.MinInt

// Held is one measure held against the definition. Widths and lengths are in whole millimetres, angles in degrees.
type Held struct {
	What      string `json:"what"` // width, length, lead, rear
	Wanted    int    `json:"wanted"`
	Measured  int    `json:"measured"`
	Off       int    `json:"off"`                // positive is too much
	Within    int    `json:"within"`             // what is fine
	Shoulders int    `json:"shoulders,omitzero"` // Off in hundredths of a shoulder, rounded to the nearest; 0 of angles
}

// Fine reports whether a measure is within its tolerance: exactly at it is.
func (h Held) Fine() bool { return max(h.Off, -h.Off) <= h.Within }

// Hold holds what was measured against the definition for a body. The definition's millimetres are rounded to the nearest
// before they are compared, so that what is shown is what decides.
func (d Definition) Hold(t Taped, b body.Parts) (out []Held) {
	width, angle, _ := d.Tolerances()
	nearest := func(v float64) int { return int(math.Round(v)) }
	within := nearest(float64(width) / 100 * b.Shoulder)
	add := func(what string, wanted, measured, within int, long bool) {
		if measured == Nothing {
			return
		}
		h := Held{What: what, Wanted: wanted, Measured: measured, Off: measured - wanted, Within: within}
		if long {
			h.Shoulders = nearest(float64(h.Off) * 100 / b.Shoulder)
		}
		out = append(out, h)
	}
	add("width", nearest(float64(d.Width)/100*d.WidthUnit.of(b)), t.Width, within, true)
	add("length", nearest(float64(d.Length)/100*d.LengthUnit.of(b)), t.Length, within, true)
	add("lead", d.OutLead, t.OutLead, angle, false)
	add("rear", d.OutRear, t.OutRear, angle, false)
	return out
}
