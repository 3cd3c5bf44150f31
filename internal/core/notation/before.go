package notation

import "slices"

// Before is a sequence as it was read until sentences, starts and placed feet came into the
// language: travel in the order it is written, a turn behind a name after the technique, a
// repeat of the technique alone, and only a step through, a switch and a half turn exchange
// lead and rear. It is kept to tell the owner which stored lines have changed their meaning.
func (s Sequence) Before(southpaw bool) (steps []Step) {
	leads, facing := !southpaw, 0
	turn := func(t Turn) {
		facing = ((facing+t.signed())%360 + 360) % 360
		if t.Degrees%360 == 180 {
			leads = !leads
		}
	}
	s.All(func(count, beat int, m *Move) {
		for _, t := range m.Travel {
			if t.Kind == "step through" || t.Kind == "switch" {
				leads = !leads
			}
			turn(t.Turn)
		}
		limb := (&feet{leftLeads: leads}).limb(m.Side)
		turn(m.Turn)
		steps = append(steps, Step{Count: count, Beat: beat, Move: *m, Limbs: []Side{limb}, LeftLeads: leads, Facing: facing})
	})
	return steps
}

// ChangedMeaning is the first move, from 0, of which limb, lead or facing is another than
// before; -1 none. Both are read from an orthodox stance.
func (c *Catalogue) ChangedMeaning(s Sequence) (move int, was, is Step) {
	old := s.Before(false)
	now, _ := c.Walk(s, false)
	for i, x := range now {
		y := old[i]
		limb := func(side Side) bool { return x.Move.Technique != "" && side != y.Limb() }
		if slices.ContainsFunc(x.Limbs, limb) || x.LeftLeads != y.LeftLeads && !x.Nobody || x.Facing != y.Facing {
			return i, y, x
		}
	}
	return -1, Step{}, Step{}
}
