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
