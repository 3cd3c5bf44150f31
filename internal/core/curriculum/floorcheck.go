package curriculum

import (
	"fmt"
	"math"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/floor"
)

// onTheFloor looks at what is drawn to scale, for the usual body and the stance each is written for.
func (c *checker) onTheFloor() {
	of := body.PartsOf(body.Measured{})
	for i := range c.Techniques {
		t := &c.Techniques[i]
		switch {
		case t.Kind == "stance" && t.Stance != nil:
			for _, x := range t.Stance.For(of, t.Name, false).Troubles(of) {
				c.add(Finding{Kind: StanceCannot, TechniqueID: t.ID, Subject: x.Kind, Place: t.Name, Reason: TroubleWords(x), Mend: "Change its length, its width or the bend of a knee on the page of the stance."})
			}
		case t.Returns:
			if f := c.OnFloor(t, len(t.Stages), AsWritten, AsWritten, of); f != nil && !f.Path.Returns(0) {
				c.add(Finding{Kind: EndsElsewhere, TechniqueID: t.ID, Place: t.Name, Reason: "It should end where it began, and ends " + AwayWords(f.Path.Ends()) + ".",
					Mend: "Look at which foot moves on its turns; or say that it does not return."})
			}
		case t.Position != "" && t.Defends():
			if m := c.Meet(t, len(t.Stages), AsWritten, AsWritten, of, of); m != nil && m.Opposite {
				why := "by the feet"
				if m.ByHand {
					why = "by the blocking hand"
				}
				c.add(Finding{Kind: ArmOpposite, TechniqueID: t.ID, Place: t.Name, Reason: fmt.Sprintf("It is said to end %s the attacker’s arm, and is %s it at the first contact, %s.", t.Position, m.Side, why),
					Mend: "Change what is said, the foot that moves, or the hand that blocks."})
			}
		}
	}
}

// TroubleWords say what a stance contradicts.
func TroubleWords(x floor.Trouble) string {
	leg := "rear"
	if x.Lead {
		leg = "front"
	}
	cm := func(mm float64) float64 { return math.Round(mm / 10) }
	switch x.Kind {
	case floor.TooShort:
		return fmt.Sprintf("The %s leg cannot reach: from hip to ankle it would have to be %.0f cm, and is %.0f cm when straight.", leg, cm(x.Needs), cm(x.Has))
	case floor.HeelRises:
		return fmt.Sprintf("The %s heel must rise: with it down the leg would have to be %.0f cm, and is %.0f cm when straight.", leg, cm(x.Needs), cm(x.Has))
	case floor.BendDiffers:
		return fmt.Sprintf("The %s knee is said to bend %.0f°, and with the other as it is said it bends %.0f°.", leg, x.Has, x.Needs)
	}
	return "The feet would stand on one another."
}

// AwayWords say how far a point lies from the start: "0 cm", "40 cm left", "1.20 m ahead and 10 cm right".
func AwayWords(p floor.Point) string {
	far := func(mm float64, way string) string {
		switch cm := math.Round(math.Abs(mm) / 10); {
		case cm >= 100:
			return fmt.Sprintf("%.2f m %s", cm/100, way)
		case cm > 0:
			return fmt.Sprintf("%.0f cm %s", cm, way)
		}
		return ""
	}
	across, along := "right", "ahead"
	if p.X < 0 {
		across = "left"
	}
	if p.Y < 0 {
		along = "behind"
	}
	x, y := far(p.X, across), far(p.Y, along)
	switch {
	case x == "" && y == "":
		return "0 cm"
	case x == "" || y == "":
		return y + x
	}
	return y + " and " + x
}
