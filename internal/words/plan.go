package words

import (
	"fmt"
	"strings"

	"velvetladder/internal/core/practice"
)

// How is how a class is held.
func How(h practice.How) string {
	return map[practice.How]string{
		practice.InHall: "in the hall, with partners", practice.Live: "live online", practice.Recorded: "from a recording", practice.Unpaired: "in the hall, without partners",
	}[h]
}

// atHomeOnline is what is said of every class that is held where nobody stands by.
const atHomeOnline = "At home: two metres of clear floor all round, no shoes or socks that slip, nobody jumps or spins unless the room is large enough; stop on pain or dizziness."

// HeldSo is what holds for a class that is held so; "" nothing in particular.
func HeldSo(h practice.How) string {
	switch h {
	case practice.Live:
		return atHomeOnline
	case practice.Recorded:
		return atHomeOnline + " Nobody is seen: sign-offs wait for clips that are sent in, or for the next class in the hall."
	}
	return ""
}

// Topic is what a class could work on, with the roles it is worked on in.
func Topic(name string, roles practice.RolesAsked) string {
	switch roles {
	case practice.BothRoles:
		return name + ", both roles"
	case practice.StrikeAndHold:
		return name + ", striking and holding"
	}
	return name
}

// Block is what a part of a class is called.
func Block(b practice.Block) string {
	switch {
	case b.WarmUp:
		return "Warm-up"
	case b.Free:
		return "Open work"
	case b.Bow:
		return "Bow out"
	}
	return Topic(b.Name, b.Roles)
}

// DoneAs is how something is done where not as it is asked; "" as asked.
func DoneAs(as practice.As) string {
	return map[practice.As]string{
		practice.StepsAlone: "the steps alone, the partner imagined", practice.InAir: "in the air instead of on pads",
		practice.WithoutBag: "in the air, without the bag", practice.AlonePart: "what is done alone of it",
	}[as]
}

// Shares are whom a block serves, by the rung they climb to: 3 to Green, 1 to Blue.
func Shares(all []practice.Share) string {
	out := make([]string, len(all))
	for i, s := range all {
		out[i] = fmt.Sprintf("%d to %s", s.N, s.Rung)
	}
	return strings.Join(out, ", ")
}

// Needed is why somebody needs to work on something.
func Needed(all []practice.Reason) string {
	out := make([]string, len(all))
	for i, r := range all {
		switch r.Kind {
		case practice.NotSigned:
			out[i] = "not signed off yet"
		case practice.MustPass:
			out[i] = "must pass"
		case practice.NotRight:
			out[i] = "tried, not right yet"
		case practice.NotSeen:
			out[i] = "not seen for " + Count(r.Weeks, "week")
		case practice.WasAway:
			out[i] = "away on " + r.On.Short() + " when it was worked on"
		case practice.OfTheTheme:
			out[i] = "theme of the week"
		case practice.OfTheClass:
			out[i] = "what this class is for"
		}
	}
	return strings.Join(out, "; ")
}

// ChoiceNote is something to be said of a combination of one's own.
func ChoiceNote(n practice.ChoiceNote) string {
	switch n.Kind {
	case practice.Unreadable:
		return "it can be read no more: " + n.Why.Error()
	case practice.NotAllowed:
		return n.Technique + ": " + n.Why.Error()
	case practice.ComesLater:
		return n.Technique + " comes with " + n.Rung
	case practice.StepsOnly:
		return "it has steps and no technique"
	case practice.RearFirst:
		return "it begins with the rear side"
	case practice.NoRecovery:
		return "after a kick the hands do not come back first"
	case practice.LimbTwice:
		return "one limb works twice running"
	case practice.NotKnown:
		return "it is on none of the school's lists; show it to the instructor first"
	}
	return ""
}

// ChoiceNotes are all that is to be said of a combination of one's own.
func ChoiceNotes(all []practice.ChoiceNote) string {
	out := make([]string, len(all))
	for i, n := range all {
		out[i] = ChoiceNote(n)
	}
	return strings.Join(out, "; ")
}
