package practice

import (
	"slices"

	"velvetladder/internal/core/curriculum"
)

// How says how a class is held, as far as it decides what can be done in it.
type How string

// The ways of holding a class.
const (
	InHall   How = "hall"
	Live     How = "live"     // online, the instructor sees them
	Recorded How = "recorded" // a clip that each watches alone
	Unpaired How = "unpaired" // in the hall, nobody to pair with
)

// Hows are the choices, the usual one first.
var Hows = []How{InHall, Live, Recorded, Unpaired}

// Needs is what a topic takes, as it is asked.
type Needs struct {
	Partner bool // two people
	Alone   bool // it takes a partner, but one of what is asked is done alone anyhow
	Pads    bool
	Gear    bool // a bag, mats
	Never   bool // not even in part without partner and instructor
}

// needsOf is what one line takes.
func needsOf(kind curriculum.Kind, role curriculum.Role, setting curriculum.Setting) (n Needs) {
	switch kind {
	case "sparring", "partner_set", "lock", "throw", "board_break":
		n.Partner, n.Never = true, true
	case "self_defence":
		n.Partner = true
	case "breakfall":
		n.Gear = true
	}
	switch role {
	case "attacker", "defender":
		n.Partner = true
	case "holder":
		n.Partner, n.Never = true, true
	}
	switch setting {
	case "pads":
		n.Pads = true
	case "partner":
		n.Partner = true
	case "boards":
		n.Never = true
	case "bag":
		n.Gear = true
	}
	n.Alone = !n.Partner && !n.Never
	return n
}

// and joins what two lines of one technique take: what one of them can do without, it can do.
func (n Needs) and(m Needs) Needs {
	return Needs{Partner: n.Partner || m.Partner, Alone: n.Alone || m.Alone, Pads: n.Pads || m.Pads, Gear: n.Gear || m.Gear, Never: n.Never && m.Never}
}

// imagined is what a topic is worth, in percent, where it is done without what it takes.
const imagined = 50

// As is how something is done where not as it is asked; "" as asked.
type As string

// Ways to do something otherwise than asked.
const (
	StepsAlone As = "steps alone" // the partner imagined
	InAir      As = "in the air"  // instead of on pads
	WithoutBag As = "without bag" // in the air
	AlonePart  As = "alone part"  // what is done alone of it
)

// of is how much of a topic can be done so, in percent of its worth, and how.
func (h How) of(x *Topic) (part int, as As) {
	n := x.Needs
	home := h == Live || h == Recorded
	switch {
	case h == InHall || h == "":
		return 100, ""
	case n.Never || home && x.Kind == "breakfall":
		return 0, ""
	case n.Partner && !n.Alone:
		return imagined, StepsAlone
	case n.Pads:
		return imagined, InAir
	case n.Gear && home:
		return imagined, WithoutBag
	case n.Partner:
		return imagined, AlonePart
	}
	return 100, ""
}

// has reports whether there is what something is done with.
func (h How) has(with curriculum.Setting) bool {
	switch h {
	case Live, Recorded:
		return with == ""
	case Unpaired:
		return with == "" || with == "bag" // nobody holds a pad
	}
	return true
}

// cannot reports whether a topic is out of the question so.
func (h How) cannot(x *Topic) bool {
	part, _ := h.of(x)
	return part == 0
}

// median is the middle of how far people are, the lower one of an even number; Begins of nobody.
func median(far []curriculum.Far) curriculum.Far {
	if len(far) == 0 {
		return curriculum.Begins
	}
	slices.Sort(far)
	return far[(len(far)-1)/2]
}
