package notation

import (
	"slices"
	"strings"
	"unicode"
)

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

// Travel is a way of moving the feet. Only turn and spin have a Turn, only side step and
// circle a Way.
type Travel struct {
	Kind string
	Turn Turn
	Way  Side // left or right; "" is not said
}

// travels are the kinds of travel; two words come before the one they begin with.
var travels = []string{
	"step through", "step back", "side step", "slide back", "cross step", "shuffle back",
	"step", "circle", "slide", "skip", "switch", "shuffle", "turn", "spin", "jump", "drop",
}

// Feet says how the feet of a stance stand to each other.
type Feet string

// How feet stand; "" is no stance.
const (
	OneLeads   Feet = "one_leads" // one foot is in front
	SideBySide Feet = "level"     // nobody leads
)

// Stance is a stance that a line names: after from, after in, or as a move of its own.
type Stance struct {
	Name string // as the catalogue has it, or as it was typed where nobody knows it
	Side Side   // left or right: that foot is in front; "" is not said
	Feet Feet   // "" where nobody knows the stance
}

func (s Stance) String() string {
	if s.Side != "" {
		return string(s.Side) + " " + s.Name
	}
	return s.Name
}

// Move is one limb doing one thing, the feet moving, or a step said in a sentence.
type Move struct {
	Travel    []Travel
	Times     int    // 2 is "double"; 0 is once
	Whole     bool   // the whole move is repeated, travel and all; else the technique alone
	Side      Side   // of the limb; on travel without a technique, of the foot
	Technique string // id; "" for pure travel
	Name      string // as the catalogue has it
	Stands    Feet   // of a technique that is a stance
	Number    int    // the call number it was written as, 0 for none
	Level     Level
	Target    []string // words; left and right in it are sides
	In        Stance   // that the move ends in; its Name is "" where none is said
	Turn      Turn     // written after the name; it happens first all the same
	AngleOut  int      // degrees off the line, 0 for none
	Keep      bool     // stays on until freed
	Free      bool
	Shout     bool
	Breath    bool
	Notes     []string
	Sentence  string // without its full stop; nothing else but shout, breath and notes goes with it
}

// Beat is what happens at the same time.
type Beat []Move

// Count is what one shouted number covers.
type Count []Beat

// Sequence is a whole line. It starts in the fighting stance where From is empty.
type Sequence struct {
	From   Stance
	Counts []Count
}

// Join is sequences one after the other, which start where the first does.
func Join(parts ...Sequence) (out Sequence) {
	for i, p := range parts {
		if i == 0 {
			out.From = p.From
		}
		out.Counts = append(out.Counts, p.Counts...)
	}
	return out
}

// All calls f for every move in order.
func (s Sequence) All(f func(count, beat int, m *Move)) {
	for c := range s.Counts {
		for b := range s.Counts[c] {
			for i := range s.Counts[c][b] {
				f(c, b, &s.Counts[c][b][i])
			}
		}
	}
}

// Moves is the number of moves written; sentences are none.
func (s Sequence) Moves() (n int) {
	s.All(func(_, _ int, m *Move) {
		if m.Sentence == "" {
			n++
		}
	})
	return n
}

// Clone copies a sequence down to its moves.
func (s Sequence) Clone() Sequence {
	out := Sequence{From: s.From, Counts: make([]Count, len(s.Counts))}
	for c, count := range s.Counts {
		out.Counts[c] = make(Count, len(count))
		for b, beat := range count {
			out.Counts[c][b] = slices.Clone(beat)
			for i := range beat {
				m := &out.Counts[c][b][i]
				m.Travel, m.Target, m.Notes = slices.Clone(m.Travel), slices.Clone(m.Target), slices.Clone(m.Notes)
			}
		}
	}
	return out
}

// Mirror swaps left and right and the two ways of turning. Lead, rear and everything stated
// in relation to them stay, and so do names, notes and sentences. Mirrored twice it is the
// original.
func (s Sequence) Mirror() Sequence {
	out := s.Clone()
	out.From.Side = out.From.Side.Other()
	out.All(func(_, _ int, m *Move) {
		m.Side, m.In.Side = m.Side.Other(), m.In.Side.Other()
		for i, w := range m.Target {
			m.Target[i] = string(Side(w).Other())
		}
		for i := range m.Travel {
			m.Travel[i].Turn, m.Travel[i].Way = m.Travel[i].Turn.mirror(), m.Travel[i].Way.Other()
		}
		m.Turn = m.Turn.mirror()
	})
	return out
}

// Answering is the sequence with every relation to the attack named by its limb: against the
// left or right limb that attacks. Without one relations stay as they are.
func (s Sequence) Answering(attacks Side) Sequence {
	if attacks != Left && attacks != Right {
		return s
	}
	out := s.Clone()
	out.All(func(_, _ int, m *Move) {
		switch m.Side {
		case SameSide: // the two face each other: the left hand is on the side of a right punch
			m.Side = attacks.Other()
		case SameName:
			m.Side = attacks
		}
	})
	return out
}

// Related reports whether a move is told in relation to the attack.
func (s Sequence) Related() (yes bool) {
	s.All(func(_, _ int, m *Move) { yes = yes || m.Side == SameSide || m.Side == SameName })
	return yes
}

// SaysSides reports whether left or right stands where it cannot be mirrored: in a name, a
// note or a sentence.
func (m Move) SaysSides() bool {
	return saysSides(m.Name) || saysSides(m.Sentence) || slices.ContainsFunc(m.Notes, saysSides)
}

func saysSides(text string) bool {
	return slices.ContainsFunc(strings.FieldsFunc(strings.ToLower(text), func(r rune) bool { return !unicode.IsLetter(r) }), func(w string) bool { return w == "left" || w == "right" })
}

func (t Turn) mirror() Turn {
	if t.Degrees != 0 {
		t.CounterClockwise = !t.CounterClockwise
	}
	return t
}

// signed is the turn in degrees, clockwise positive.
func (t Turn) signed() int {
	if t.CounterClockwise {
		return -t.Degrees
	}
	return t.Degrees
}

// turned is how far a move turns in all, its turns added up.
func (m Move) turned() int {
	sum := m.Turn.signed()
	for _, t := range m.Travel {
		sum += t.Turn.signed()
	}
	return sum
}
