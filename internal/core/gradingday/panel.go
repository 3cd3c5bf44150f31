package gradingday

import (
	"velvetladder/internal/core/check"
)

// WhoIsThere are the examiners of a panel who are there.
func WhoIsThere(panel []Examiner) (out []Examiner) {
	for _, e := range panel {
		if !e.Absent {
			out = append(out, e)
		}
	}
	return out
}

// HasChief reports whether somebody who is there is the chief examiner of a panel.
func HasChief(panel []Examiner) bool {
	for _, e := range panel {
		if e.Chief && !e.Absent {
			return true
		}
	}
	return false
}

// Chiefless are the rings in which somebody is tested and nobody is chief examiner, or none who is there: a fault that
// ends a test could be confirmed by nobody there.
func (g Grading) Chiefless(tested map[string]bool) (out []Ring) {
	for i, r := range g.Rings {
		if tested[r.ID] && !HasChief(g.Panel(i)) {
			out = append(out, r)
		}
	}
	return out
}

// RingSize is how many examiners sit in a ring.
type RingSize struct {
	Ring string
	N    int // who are there
}

// Uneven are the sizes of the panels where they differ; none where all are of one size.
func (g Grading) Uneven() (out []RingSize) {
	same := true
	for i, r := range g.Rings {
		out = append(out, RingSize{r.Name, len(WhoIsThere(g.Panel(i)))})
		same = same && out[i].N == out[0].N
	}
	if same {
		return nil
	}
	return out
}

// TooFew is a rung that asks for more examiners than sit where it is tested.
type TooFew struct {
	Rung, Ring string
	Asks, Has  int
}

// MayOpen reports whether an examiner's sheet may be opened by whoever is not that examiner: everybody of the panel
// keeps their eyes on their own until all have signed or the day is closed, but for the sheet of somebody who is absent.
// who is the name of who asks.
func MayOpen(panel []Examiner, of Examiner, who string, signed, closed bool) bool {
	if signed || closed || of.Absent || check.Key(of.Name) == check.Key(who) {
		return true
	}
	for _, e := range panel {
		if check.Key(e.Name) == check.Key(who) {
			return false
		}
	}
	return true
}
