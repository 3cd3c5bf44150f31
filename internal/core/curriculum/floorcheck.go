package curriculum

import (
	"velvetladder/internal/core/body"
)

// onTheFloor looks at what is drawn to scale, for the usual body and the stance each is written for.
func (c *checker) onTheFloor() {
	of := body.PartsOf(body.Measured{})
	for i := range c.Techniques {
		t := &c.Techniques[i]
		switch {
		case t.Kind == "stance" && t.Stance != nil:
			for _, x := range t.Stance.For(of, t.Name, false).Troubles(of) {
				c.add(Finding{Kind: StanceCannot, TechniqueID: t.ID, Subject: x.Kind, Where: Where{Technique: t.Name}, Facts: Facts{Trouble: x}})
			}
		case t.Returns:
			if f := c.OnFloor(t, len(t.Stages), AsWritten, AsWritten, of); f != nil && !f.Path.Returns(0) {
				c.add(Finding{Kind: EndsElsewhere, TechniqueID: t.ID, Where: Where{Technique: t.Name}, Facts: Facts{Ends: f.Path.Ends()}})
			}
		case t.Position != "" && t.Defends():
			if m := c.Meet(t, len(t.Stages), AsWritten, AsWritten, of, of); m != nil && m.Opposite {
				c.add(Finding{Kind: ArmOpposite, TechniqueID: t.ID, Where: Where{Technique: t.Name}, Facts: Facts{Text: string(t.Position), Other: string(m.Side), ByHand: m.ByHand}})
			}
		}
	}
}
