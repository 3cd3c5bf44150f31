package notation

// Footing is one thing that the feet do, for whoever draws them on a floor. A move is told as its turn, its travels and the
// stance it ends in; own moves of a technique follow.
type Footing struct {
	Turned    int    // degrees clockwise that the facing turns first
	Only      bool   // of a turn: the feet wait for the foot that the same move places
	Travel    string // its kind; "" is none
	Way       Side   // of a side step or a circle; "" is not said
	Begins    Side   // the foot that is named on it
	Places    Side   // the foot that goes where the stance wants it; "" both move alike, or none
	Stance    Stance // that is taken; its Name is "" where it stays
	Out       int    // degrees outwards that the way goes
	LeftLeads bool   // after it
	Nobody    bool   // nobody leads after it
}

// tell notes a footing, with who leads by now.
func (w *walker) tell(x Footing) {
	if w.telling {
		x.LeftLeads, x.Nobody = w.feet.leftLeads, w.feet.nobody
		w.footing = append(w.footing, x)
	}
}

// tellStance notes the stance in which a move ends: with the foot that the move has placed, else of its own. from is the
// first footing of the move.
func (w *walker) tellStance(from int, s Stance, places Side) {
	if !w.telling {
		return
	}
	for i := len(w.footing) - 1; i >= from; i-- {
		x := &w.footing[i]
		step := x.Travel == "step" || x.Travel == "step back" // of both feet, until the stance names one
		if x.Places == "" && x.Travel != "switch" && (!step || places == "") {
			continue
		}
		if x.Stance = s; places != "" {
			x.Places = places
		}
		x.LeftLeads, x.Nobody = w.feet.leftLeads, w.feet.nobody
		return
	}
	w.tell(Footing{Stance: s, Places: places})
}

// toldMove lets the feet wait in a turn for the foot that the same move places.
func (w *walker) toldMove(from int) {
	for i := from; i < len(w.footing); i++ {
		if w.footing[i].Places != "" && w.footing[from].Turned != 0 {
			w.footing[from].Only = true
		}
	}
}

// Floor does a sequence as Walk does, or as WalkMirrored does, and tells the footing of every step.
func (c *Catalogue) Floor(s Sequence, southpaw, mirrored bool) []Step {
	w := walker{c: c, mirror: mirrored, telling: true}
	steps, _ := w.walk(s, southpaw)
	return steps
}
