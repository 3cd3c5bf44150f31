package notation

import "slices"

// Side says which limb. Lead and rear depend on the stance; left and right are the limbs
// themselves.
type Side string

// The sides; "" is none.
const (
	Lead  Side = "lead"
	Rear  Side = "rear"
	Left  Side = "left"
	Right Side = "right"
	Both  Side = "both"
	// Relations to the limb that attacks. They do not mirror by the letter, so the relation
	// itself is stored.
	SameSide Side = "same-side" // the limb on that side of the room: the left meets a right punch
	SameName Side = "same-name" // the limb of the same name: the right answers a right punch
)

// Other is the other one of left and right; anything else stays.
func (s Side) Other() Side {
	switch s {
	case Left:
		return Right
	case Right:
		return Left
	}
	return s
}

// Level is the height of a move; "" is none.
type Level string

// The levels.
const (
	Low  Level = "low"
	Mid  Level = "mid"
	High Level = "high"
)

// Turn is a turn of the body, in degrees seen from above.
type Turn struct {
	CounterClockwise bool
	Degrees          int // 1 to 720; 0: no turn, or one whose angle is not written
}

// Travel is a way of moving the feet. Only turn and spin have a Turn.
type Travel struct {
	Kind string
	Turn Turn
}

// travels are the kinds of travel; two words come before the one they begin with.
var travels = []string{"step through", "step back", "slide back", "cross step", "step", "slide", "skip", "switch", "shuffle", "turn", "spin", "jump", "drop"}

// Move is one limb doing one thing, or the feet moving.
type Move struct {
	Travel    []Travel
	Times     int // 2 is "double"; 0 is once
	Side      Side
	Technique string // id; "" for pure travel
	Name      string // as the catalogue has it
	Number    int    // the call number it was written as, 0 for none
	Level     Level
	Target    []string // words; left and right in it are sides
	Stance    string
	Turn      Turn // after the move
	AngleOut  int  // degrees off the line, 0 for none
	Keep      bool // stays on until freed
	Free      bool
	Shout     bool
	Breath    bool
	Notes     []string
}

// Beat is what happens at the same time.
type Beat []Move

// Count is what one shouted number covers.
type Count []Beat

// Sequence is a whole line.
type Sequence []Count

// All calls f for every move in order.
func (s Sequence) All(f func(count, beat int, m *Move)) {
	for c := range s {
		for b := range s[c] {
			for i := range s[c][b] {
				f(c, b, &s[c][b][i])
			}
		}
	}
}

// Moves is the number of moves.
func (s Sequence) Moves() (n int) {
	s.All(func(int, int, *Move) { n++ })
	return n
}

// clone copies a sequence down to its moves.
func (s Sequence) clone() Sequence {
	out := make(Sequence, len(s))
	for c, count := range s {
		out[c] = make(Count, len(count))
		for b, beat := range count {
			out[c][b] = slices.Clone(beat)
			for i := range out[c][b] {
				m := &out[c][b][i]
				m.Travel, m.Target, m.Notes = slices.Clone(m.Travel), slices.Clone(m.Target), slices.Clone(m.Notes)
			}
		}
	}
	return out
}

// Mirror swaps left and right and the two ways of turning. Lead, rear and everything stated
// in relation to them stay. Mirrored twice it is the original.
func (s Sequence) Mirror() Sequence {
	swap := map[string]string{"left": "right", "right": "left"}
	out := s.clone()
	out.All(func(_, _ int, m *Move) {
		if other := swap[string(m.Side)]; other != "" {
			m.Side = Side(other)
		}
		for i, w := range m.Target {
			if other := swap[w]; other != "" {
				m.Target[i] = other
			}
		}
		for i := range m.Travel {
			m.Travel[i].Turn = m.Travel[i].Turn.mirror()
		}
		m.Turn = m.Turn.mirror()
	})
	return out
}

// For is the sequence with its limbs named for one stance: lead and rear become left and
// right where the feet stand by then, and what was written with left and right, for an
// orthodox student, is mirrored for a southpaw. answers is the limb that attacks, left or
// right, for relations to it; "" leaves relations as they are.
func (s Sequence) For(southpaw bool, answers Side) Sequence {
	out := s.clone()
	if southpaw {
		out = s.Mirror()
	}
	steps, _ := out.Walk(southpaw)
	n := 0
	out.All(func(_, _ int, m *Move) {
		limb := steps[n].Limb
		n++
		switch {
		case m.Side == SameSide && answers != "":
			m.Side = answers.Other()
		case m.Side == SameName && answers != "":
			m.Side = answers
		case m.Side == Lead || m.Side == Rear:
			m.Side = limb
		}
	})
	return out
}

// LastLimb is the limb of the last move that has one when done from a stance: what a
// defence's relations refer to.
func (s Sequence) LastLimb(southpaw bool) Side {
	if southpaw {
		s = s.Mirror()
	}
	steps, _ := s.Walk(southpaw)
	for i := len(steps) - 1; i >= 0; i-- {
		if l := steps[i].Limb; l == Left || l == Right {
			return l
		}
	}
	return ""
}

func (t Turn) mirror() Turn {
	if t.Degrees != 0 {
		t.CounterClockwise = !t.CounterClockwise
	}
	return t
}
