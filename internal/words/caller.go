package words

import (
	"cmp"
	"fmt"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/practice"
)

// Commands are the words the caller uses: the program's own, else the usual ones.
func Commands(p curriculum.Program) practice.Commands {
	c := practice.CommandsOf(p)
	return practice.Commands{
		Ready: cmp.Or(c.Ready, "ready"), Begin: cmp.Or(c.Begin, "begin"), Stop: cmp.Or(c.Stop, "stop"),
		Turn: cmp.Or(c.Turn, "turn"), Change: cmp.Or(c.Change, "change of stance"), Rest: cmp.Or(c.Rest, "rest"),
	}
}

// limb is what a line is done with, else a side.
func limb(l curriculum.Line) string { return cmp.Or(string(curriculum.LimbOf(l.Kind, l.Call)), "side") }

// Asked is how much of a line is asked, with the limb by its name: 5 each leg.
func Asked(l curriculum.Line) string { return withLimb(l, l.Quantity.String()) }

// CalledAmount is what is called for a group of g, in the measure asked; "" where it is timed.
func CalledAmount(l curriculum.Line, g int) string { return withLimb(l, l.CalledAmount(g)) }

func withLimb(l curriculum.Line, amount string) string {
	if l.Quantity.Side != curriculum.ByLimb {
		return amount
	}
	return strings.Replace(amount, "each limb", "each "+limb(l), 1)
}

// otherSide is the second set of what no change of stance mirrors: of a pair, and of a form.
const otherSide = "the other side"

// Before is the command before a set; "" there is none.
func Before(c practice.Call, s practice.Set, commands practice.Commands) string {
	switch s.Before {
	case practice.ChangeSides:
		return otherSide
	case practice.ChangeStance:
		return commands.Change
	case practice.TurnRound:
		return commands.Turn
	case practice.ChangeLimbs:
		return "the other " + limb(c.Line)
	}
	return ""
}

// SetSide is which side a set is, for a stance; "" it has none.
func SetSide(c practice.Call, s practice.Set, v curriculum.View) string {
	switch {
	case c.Paired && s.Turn == curriculum.OwnStance:
		return "one side"
	case c.Paired && s.Turn == curriculum.OtherStance:
		return otherSide
	}
	first, second, lead, rear := "own stance", "other stance", "lead ", "rear "
	switch v {
	case curriculum.Orthodox:
		first, second, lead, rear = "left foot forward", "right foot forward", "left ", "right "
	case curriculum.Southpaw:
		first, second, lead, rear = "right foot forward", "left foot forward", "right ", "left "
	}
	switch s.Turn {
	case curriculum.OwnStance:
		return first
	case curriculum.OtherStance:
		return second
	case curriculum.LeadLimb:
		return lead + limb(c.Line)
	case curriculum.RearLimb:
		return rear + limb(c.Line)
	case curriculum.OneWay:
		if c.Kind == "evasion" {
			return "to the left"
		}
		return "one way"
	case curriculum.BackAgain:
		if c.Kind == "evasion" {
			return "to the right"
		}
		return "and back"
	case curriculum.Round:
		return fmt.Sprintf("round %d of %d", s.N, s.Of)
	case curriculum.HoldFor:
		return fmt.Sprintf("hold %d of %d", s.N, s.Of)
	case curriculum.InTurn:
		return "left and right in turn"
	}
	return ""
}
