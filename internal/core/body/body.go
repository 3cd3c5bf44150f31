// Package body knows how long a body's parts are.
package body

import "math"

// Body is the parts that people standing in line are spaced by, in whole millimetres.
type Body struct {
	Height   int
	Shoulder int // width from joint to joint
	Arm      int // from the shoulder to the fingertips
	Leg      int // from the floor to the hip
	Foot     int
	Guessed  bool // the height was not measured
}

// UsualHeight is taken where nothing is measured, in centimetres.
const UsualHeight = 165

// Of is the body of someone so many centimetres tall, to the nearest millimetre; 0 is not measured.
func Of(heightCM int) Body {
	p := PartsOf(Measured{HeightCM: float64(heightCM)})
	return Body{whole(p.Height), whole(p.Shoulder), whole(p.UpperArm + p.Forearm + p.Hand), whole(p.Hip), whole(p.Foot), heightCM <= 0}
}

// whole is the nearest millimetre; a half, to a thousandth, goes up.
func whole(mm float64) int { return int(math.Floor(math.Round(mm*1000)/1000 + .5)) }

// Parts are a body's parts in millimetres, unrounded until they are shown.
type Parts struct {
	Height                  float64
	Shoulder, HipWidth      float64 // from joint to joint
	Hip, Ankle              float64 // heights above the floor
	Thigh, Shank            float64
	Foot, FootBreadth       float64
	UpperArm, Forearm, Hand float64
	Trunk                   float64 // half its depth
}

// Measured are parts that somebody measured, in centimetres; 0 is not measured.
type Measured struct {
	HeightCM, ShoulderCM, LegCM, FootCM float64
}

// PartsOf are the parts of a body by published proportions, with what was measured in the place of what follows from the
// height. They are the segment lengths of Drillis and Contini (1966), as tabled by Winter, Biomechanics and Motor Control of
// Human Movement: means of grown people; children's legs are a little shorter. A leg that was measured, from the floor to the hip, keeps the published share of thigh and
// shank. Half the trunk's depth is our own figure.
func PartsOf(m Measured) Parts {
	h := m.HeightCM * 10
	if h <= 0 {
		h = UsualHeight * 10
	}
	p := Parts{Height: h, Shoulder: .259 * h, HipWidth: .191 * h, Hip: .530 * h, Ankle: .039 * h, Thigh: .245 * h, Shank: .246 * h,
		Foot: .152 * h, FootBreadth: .055 * h, UpperArm: .186 * h, Forearm: .146 * h, Hand: .108 * h, Trunk: .07 * h}
	if m.ShoulderCM > 0 {
		p.Shoulder = m.ShoulderCM * 10
	}
	if m.LegCM > 0 {
		longer := (m.LegCM*10 - p.Ankle) / (p.Hip - p.Ankle)
		p.Hip, p.Thigh, p.Shank = m.LegCM*10, p.Thigh*longer, p.Shank*longer
	}
	if m.FootCM > 0 {
		p.FootBreadth *= m.FootCM * 10 / p.Foot
		p.Foot = m.FootCM * 10
	}
	return p
}
