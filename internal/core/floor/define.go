package floor

import (
	"math"
	"slices"
	"strings"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/check"
)

// Unit is what widths and lengths of a stance are told in.
type Unit string

// Units are the choices; "" is the shoulder.
const (
	Shoulder Unit = "shoulder" // from joint to joint
	FootLong Unit = "foot"
	LegLong  Unit = "leg" // from the floor to the hip
)

// Units are the choices.
var Units = []Unit{Shoulder, FootLong, LegLong}

// of is the unit of a body, in millimetres.
func (u Unit) of(b body.Parts) float64 {
	switch u {
	case FootLong:
		return b.Foot
	case LegLong:
		return b.Hip
	}
	return b.Shoulder
}

// Spot is the point of a foot that is measured from.
type Spot string

// The spots; "" is the heel. Edges are for widths alone.
const (
	Heel   Spot = "heel"
	Middle Spot = "middle"
	Ball   Spot = "ball"
	Toe    Spot = "toe"
	Inner  Spot = "inner edge"
	Outer  Spot = "outer edge"
)

// Spots are the choices for lengths; WidthSpots for widths.
var (
	Spots      = []Spot{Heel, Middle, Ball, Toe}
	WidthSpots = []Spot{Heel, Middle, Ball, Toe, Inner, Outer}
)

// along is how far a spot lies from the heel, in foot lengths.
func (s Spot) along() float64 {
	return map[Spot]float64{Middle: AtMiddle, Ball: AtBall, Toe: AtToe}[s]
}

// outwards is how far a spot lies outwards of the heel of a foot that points so many degrees out.
func (s Spot) outwards(degrees float64, b body.Parts) float64 {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	edge := b.FootBreadth / 2 * math.Abs(cos)
	switch s {
	case Inner:
		return min(0, b.Foot*sin) - edge
	case Outer:
		return max(0, b.Foot*sin) + edge
	}
	return s.along() * b.Foot * sin
}

// Reads is where the tape reads a spot of a foot: edges are where the foot reaches farthest across the facing.
func (x *Stand) Reads(side Side, spot Spot, b body.Parts) Point {
	f := x.Feet[side]
	if spot != Inner && spot != Outer {
		return f.At(spot.along(), b)
	}
	out := (f.Heading - x.Facing) * side.out()
	return f.Heel.Plus(Point{spot.outwards(out, b) * side.out(), 0}.Turned(x.Facing))
}

// Definition is a stance as a school defines it: in body units, from stated points of the feet. Tolerances of 0 are the
// usual ones.
type Definition struct {
	Width       int    `json:"width"` // across the facing, in hundredths of its unit
	WidthUnit   Unit   `json:"width_unit,omitempty"`
	WidthFrom   Spot   `json:"width_from,omitempty"` // of both feet
	Length      int    `json:"length"`               // along the facing, in hundredths of its unit
	LengthUnit  Unit   `json:"length_unit,omitempty"`
	LengthLead  Spot   `json:"length_lead,omitempty"` // from this point of the front foot
	LengthRear  Spot   `json:"length_rear,omitempty"` // to this one of the rear foot
	OutLead     int    `json:"out_lead,omitzero"`     // outward angle of the front foot, degrees
	OutRear     int    `json:"out_rear,omitzero"`
	OnLead      int    `json:"on_lead"`   // per cent of the weight
	BendLead    int    `json:"bend_lead"` // of the front knee, degrees from straight; −1 follows from the other leg
	BendRear    int    `json:"bend_rear"`
	LeadHeelUp  bool   `json:"lead_heel_up,omitzero"`
	Hips        int    `json:"hips,omitzero"`          // turned away from the facing, degrees
	WithinWidth int    `json:"within_width,omitzero"`  // tolerance of width and length, in hundredths of a shoulder
	WithinAngle int    `json:"within_angle,omitzero"`  // degrees
	WithinShare int    `json:"within_weight,omitzero"` // per cent of the weight
	Look        string `json:"look,omitempty"`         // what else holds of knees, heels, trunk and head, in words
}

// The usual tolerances: hundredths of a shoulder, degrees, per cent.
const (
	UsualWithin       = 15
	UsualWithinAngle  = 10
	UsualWithinWeight = 10
)

// Tolerances are those that hold.
func (d Definition) Tolerances() (width, angle, weight int) {
	width, angle, weight = UsualWithin, UsualWithinAngle, UsualWithinWeight
	if d.WithinWidth > 0 {
		width = d.WithinWidth
	}
	if d.WithinAngle > 0 {
		angle = d.WithinAngle
	}
	if d.WithinShare > 0 {
		weight = d.WithinShare
	}
	return width, angle, weight
}

// For is the definition as a body's feet stand, heel to heel. Which foot stands where in a level stance is told by level.
func (d Definition) For(b body.Parts, name string, level bool) Stance {
	lead, rear := float64(d.OutLead), float64(d.OutRear)
	cos := func(degrees float64) float64 { return math.Cos(degrees * math.Pi / 180) }
	width := float64(d.Width)/100*d.WidthUnit.of(b) - d.WidthFrom.outwards(lead, b) - d.WidthFrom.outwards(rear, b)
	length := float64(d.Length)/100*d.LengthUnit.of(b) - d.LengthLead.along()*b.Foot*cos(lead) + d.LengthRear.along()*b.Foot*cos(rear)
	return Stance{Name: name, Width: width / b.Shoulder, Length: length / b.Shoulder, Out: [2]float64{lead, rear}, OnLead: d.OnLead,
		Bend: [2]float64{float64(d.BendLead), float64(d.BendRear)}, LeadHeelUp: d.LeadHeelUp, Hips: float64(d.Hips), Level: level}
}

// Limits of a definition.
const (
	mostSpan  = 500 // hundredths of a unit
	mostOut   = 120 // degrees
	mostIn    = 60
	mostBend  = 150
	mostHips  = 90
	mostSlack = 100
)

// Check notes what no body could be told by.
func (d Definition) Check(p *check.Problems) {
	within := func(field string, v, least, most int, unit string) {
		if v < least || v > most {
			p.Add(field, "is %d; it is from %d to %d %s", v, least, most, unit)
		}
	}
	span := func(field string, v, least int) {
		if v < least || v > mostSpan {
			p.Add(field, "is %s; it is from %s to 5 shoulders, feet or legs", check.Hundredths(v), check.Hundredths(least))
		}
	}
	span("width", d.Width, -100)
	span("length", d.Length, 0)
	within("out_lead", d.OutLead, -mostIn, mostOut, "degrees outwards")
	within("out_rear", d.OutRear, -mostIn, mostOut, "degrees outwards")
	within("on_lead", d.OnLead, 0, 100, "per cent")
	within("bend_lead", d.BendLead, Computed, mostBend, "degrees, or nothing where it follows")
	within("bend_rear", d.BendRear, Computed, mostBend, "degrees, or nothing where it follows")
	within("hips", d.Hips, 0, mostHips, "degrees")
	within("within_width", d.WithinWidth, 0, mostSlack, "hundredths of a shoulder")
	within("within_angle", d.WithinAngle, 0, mostHips, "degrees")
	within("within_weight", d.WithinShare, 0, 50, "per cent")
	p.Line("look", d.Look, check.LineLength)
	for _, u := range []struct {
		field string
		unit  Unit
	}{{"width_unit", d.WidthUnit}, {"length_unit", d.LengthUnit}} {
		if u.unit != "" {
			check.OneOf(p, u.field, u.unit, Units)
		}
	}
	if d.WidthFrom != "" {
		check.OneOf(p, "width_from", d.WidthFrom, WidthSpots)
	}
	for _, x := range []struct {
		field string
		spot  Spot
	}{{"length_lead", d.LengthLead}, {"length_rear", d.LengthRear}} {
		if x.spot != "" {
			check.OneOf(p, x.field, x.spot, Spots)
		}
	}
	if d.BendLead == Computed && d.BendRear == Computed {
		p.Add("bend_rear", "is left to follow from the front knee, and that from this one; state one of them")
	}
}

// Usual are the stances as the product gives them, for a school to change.
var Usual = map[string]Definition{
	"attention":  {Width: 0, WidthFrom: Inner, OnLead: 50},
	"ready":      {Width: 100, OnLead: 50, BendLead: 5, BendRear: 5},
	"natural":    {Width: 100, OnLead: 50, BendLead: 5, BendRear: 5},
	"walking":    {Width: 50, Length: 120, OutRear: 20, OnLead: 50, BendLead: Computed, BendRear: 10},
	"front":      {Width: 100, Length: 150, OutRear: 20, OnLead: 60, BendLead: Computed, BendRear: 10},
	"long front": {Width: 100, Length: 175, OutRear: 20, OnLead: 60, BendLead: Computed, BendRear: 10},
	"back":       {Length: 150, OutRear: 90, OnLead: 30, BendLead: Computed, BendRear: 60, Hips: 45},
	"horse":      {Width: 200, OnLead: 50, BendLead: 60, BendRear: 60},
	"cat":        {Width: 25, Length: 90, OutRear: 45, OnLead: 10, BendLead: Computed, BendRear: 50, LeadHeelUp: true, Hips: 45},
	"fighting":   {Width: 100, Length: 125, OutLead: 10, OutRear: 45, OnLead: 50, BendLead: Computed, BendRear: 30, Hips: 45},
}

// levels are the usual stances in which the feet stand side by side.
var levels = []string{"attention", "ready", "natural", "horse"}

// Fighting is the stance that a sequence starts in where it names none.
const Fighting = "fighting"

// UsualFor is the usual definition for a name, with or without the word stance; false where there is none.
func UsualFor(name string) (d Definition, level, known bool) {
	key := strings.TrimSuffix(check.Key(name), " stance")
	d, known = Usual[key]
	return d, slices.Contains(levels, key), known
}
