package curriculum

import (
	"cmp"
	"slices"

	"velvetladder/internal/core/pattern"
)

// SideMeaning says what "a side" of an amount is; "" is the usual one of the technique or the
// program, and on a compiled line a change of stance.
type SideMeaning string

// What a side means.
const (
	ByStance    SideMeaning = "stance"    // the set in one stance, a change of stance, the set again with left and right exchanged
	ByLimb      SideMeaning = "limb"      // the lead limb, then the rear limb, the stance unchanged
	ByDirection SideMeaning = "direction" // one way, "turn", and back, the same foot leading and the same limbs
)

// SideMeanings are the choices.
var SideMeanings = []SideMeaning{ByStance, ByLimb, ByDirection}

// Words is the meaning as people say it.
func (s SideMeaning) Words() string {
	return map[SideMeaning]string{
		ByStance:    "a change of stance: the set again with the other foot in front",
		ByLimb:      "each limb: the lead one, then the rear one, in the same stance",
		ByDirection: "each direction: one way, turn, and back with the same foot leading",
	}[s]
}

// SideMeans is what a side of an amount means for a technique: as the amount says, else the
// technique, else the program, else a change of stance. One limb after the other there is only
// where a line is of one limb.
func (b *Book) SideMeans(q Quantity, t *Technique) SideMeaning {
	means := cmp.Or(q.Side, t.SideMeans, b.Program.SideMeans, ByStance)
	if means == ByLimb && !b.oneLimb(t) {
		return ByStance
	}
	return means
}

// oneLimb reports whether a technique is of one limb: a strike, kick or block by itself, or
// moves that are all of the same limb.
func (b *Book) oneLimb(t *Technique) bool {
	told := b.told(t, len(t.Stages), "", -1)
	limbs := map[string]bool{}
	for _, s := range told.seqs {
		for _, count := range s.Counts {
			for _, beat := range count {
				for _, m := range beat {
					if m.Technique != "" && m.Stands == "" {
						limbs[string(m.Side)] = true
					}
				}
			}
		}
	}
	if len(limbs) > 0 {
		return len(limbs) == 1
	}
	return slices.Contains([]Kind{"strike", "kick", "block", "balance"}, t.Kind)
}

// settle gives a quantity that is asked the meaning of its side; "" where a change of stance is
// meant, or where it has none.
func (b *Book) settle(q Quantity, t *Technique) Quantity {
	if !q.PerSide() {
		q.Side = ""
		return q
	}
	if q.Side = b.SideMeans(q, t); q.Side == ByStance {
		q.Side = ""
	}
	return q
}

// PerSide reports whether the amount is asked of each side.
func (q Quantity) PerSide() bool {
	return q.Measure == RepsPerSide || q.Measure == NoTouchDown || q.Measure == TimedSide
}

// Sides is how many sides a line is shown on: two where its amount is asked a side and its
// technique is trained on both.
func (l Line) Sides(t *Technique) int {
	if l.Quantity.PerSide() && t != nil {
		return t.Sides.Sides()
	}
	return 1
}

// Turn says which part of an amount a set is.
type Turn string

// The sets of an amount.
const (
	AllAtOnce   Turn = ""
	OwnStance   Turn = "own stance"   // the set in one's own stance
	OtherStance Turn = "other stance" // the set again after a change of stance
	LeadLimb    Turn = "lead"
	RearLimb    Turn = "rear"
	OneWay      Turn = "one way"
	BackAgain   Turn = "back" // after "turn"
	InTurn      Turn = "left and right in turn"
	Round       Turn = "round"
	HoldFor     Turn = "hold"
)

// Set is one part of an amount as it is called: so many reps, or so many seconds.
type Set struct {
	Turn    Turn
	N, Of   int // which round or hold, from 1
	Reps    int // 0: against the clock
	Seconds int
	Rest    int // seconds after it
}

// Sets are the parts of a line's amount in order, with reps called in place of those asked.
// Whatever measure is asked is kept: so many a side is so many on each side, alternating and in
// all is so many altogether.
func (l Line) Sets(t *Technique, called int) (out []Set) {
	q := l.Quantity
	reps := max(called, q.Reps, 1)
	switch q.Measure {
	case Timed, CountWithin:
		return []Set{{Seconds: q.Seconds}}
	case RoundsTimed:
		for i := range q.Rounds {
			s := Set{Turn: Round, N: i + 1, Of: q.Rounds, Seconds: q.Seconds, Rest: q.Rest}
			if i+1 == q.Rounds {
				s.Rest = 0
			}
			out = append(out, s)
		}
		return out
	case Holds:
		for i := range q.Reps {
			out = append(out, Set{Turn: HoldFor, N: i + 1, Of: q.Reps, Seconds: q.Seconds})
		}
		return out
	case Alternating:
		return []Set{{Turn: InTurn, Reps: reps}}
	}
	one := Set{Reps: reps}
	if q.Measure == TimedSide {
		one = Set{Seconds: q.Seconds}
	}
	if l.Sides(t) < 2 {
		return []Set{one}
	}
	first, second := OwnStance, OtherStance
	switch q.Side {
	case ByLimb:
		first, second = LeadLimb, RearLimb
	case ByDirection:
		first, second = OneWay, BackAgain
	}
	other := one
	one.Turn, other.Turn = first, second
	return []Set{one, other}
}

// Called is how many reps of a line are called for a group of g, in the measure asked: the
// reps asked, or as many as the looks an examiner needs of those at work at once, whichever is
// more. Forms, questions, courtesies, character tasks, whatever breaks boards, timed lines, holds and
// free choice are called as asked.
func (l Line) Called(g int) int {
	if l.Looks == 0 { // frozen when the reps were reckoned with the sheet
		return l.RepsCalled
	}
	q := l.Quantity
	switch q.Measure {
	case Timed, TimedSide, CountWithin, RoundsTimed:
		return 0
	case Holds:
		return q.Reps
	}
	switch l.Kind {
	case "form", "knowledge", "courtesy", "character":
		return q.Reps
	}
	if l.Free || l.breaksBoards() {
		return q.Reps
	}
	return max(q.Reps, l.Looks*l.atWork(g))
}

// breaksBoards reports whether a line is a board break, or another technique that is shown on boards.
func (l Line) breaksBoards() bool { return l.Kind == "board_break" || l.Setting == Boards }

// turns is how often a group changes over, where only some can work at once.
func (l Line) turns(g int) int {
	if l.AtOnce > 0 {
		return max((g+l.AtOnce-1)/l.AtOnce, 1)
	}
	return 1
}

// atWork is how many of a group work at once.
func (l Line) atWork(g int) int { return (max(g, 1) + l.turns(g) - 1) / l.turns(g) }

// CalledAmount is what is called for a group of g, in the measure asked; "" where it is timed.
func (l Line) CalledAmount(g int) string {
	q := l.Quantity
	if q.Reps = l.Called(g); q.Reps == 0 {
		return ""
	}
	return q.String()
}

// CalledMore is how many reps are called for a group of g where that is more than asked, in the measure asked; else 0.
func (l Line) CalledMore(g int) int {
	if called := l.Called(g); called > l.Quantity.Reps {
		return called
	}
	return 0
}

// Limb is what a technique is done with.
type Limb string

// The limbs of which one does it; "" is none alone.
const (
	Leg  Limb = "leg"
	Hand Limb = "hand"
	Arm  Limb = "arm"
)

var (
	// byLeg are strikes and blocks that a leg does, and byArm such that need no hand.
	byLeg = pattern.Of(`(?i)\b(?:knees?|shins?|stamps?|stomps?|leg|foot)\b`)
	byArm = pattern.Of(`(?i)\b(?:elbows?|forearms?|empi|palkup)\b`)
)

// LimbOf is the limb that a technique of a kind and a name is done with: a knee strike with a leg, an elbow with an arm.
func LimbOf(k Kind, name string) Limb {
	switch {
	case k == "kick", k == "balance", k == "footwork":
		return Leg
	case k != "strike" && k != "block":
		return ""
	case byLeg.MatchString(name):
		return Leg
	case byArm.MatchString(name):
		return Arm
	}
	return Hand
}
