// Package body knows how long a body's parts are.
package body

// Body is the parts that floor distances are made of, in millimetres.
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

// Parts as thousandths of the height: the segment lengths of Drillis and Contini (1966), as
// tabled by Winter, Biomechanics and Motor Control of Human Movement. They are means of grown people;
// children's legs are a little shorter.
const (
	shoulder = 259
	arm      = 440
	leg      = 530
	foot     = 152
)

// Of is the body of someone so many centimetres tall; 0 is not measured. Parts are rounded to the
// nearest millimetre.
func Of(heightCM int) Body {
	b := Body{Height: heightCM * 10}
	if heightCM <= 0 {
		b.Height, b.Guessed = UsualHeight*10, true
	}
	part := func(thousandths int) int { return (b.Height*thousandths + 500) / 1000 }
	b.Shoulder, b.Arm, b.Leg, b.Foot = part(shoulder), part(arm), part(leg), part(foot)
	return b
}

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

// PartsOf are the parts of a body by the published proportions (Of says whose), with what was measured in the place of what
// follows from the height. A leg that was measured, from the floor to the hip, keeps the published share of thigh and
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
