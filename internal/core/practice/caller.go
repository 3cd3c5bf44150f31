package practice

import (
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
)

// Call is something the caller calls, rep by rep or against the clock.
type Call struct {
	curriculum.Line
	Number  int    // the program's call number, else its number in its series; 0: none
	Series  string // that the number counts in; "" it is a call number
	Parts   []Part // that can be called alone
	Sets    []Set
	Counts  int      // counts in one rep, where it has several
	Steps   []string // the phases, called one after the other, where that is asked
	Paired  bool     // its moves have an other side that is not the other stance
	Travels string   // the technique's id, where its moves can be followed on the floor
}

// Part is a named part of a technique: its steps from … to, from 1.
type Part struct {
	Name     string
	From, To int
}

// Before is the command before a set.
type Before string

// Commands before a set; none is "".
const (
	ChangeStance Before = "stance"
	TurnRound    Before = "turn"
	ChangeSides  Before = "side"
	ChangeLimbs  Before = "limb"
)

// Set is one part of an amount: a side, a round, a hold. Readings are by the stance of whom it is called for: "" for a
// hall of both, else orthodox or southpaw.
type Set struct {
	curriculum.Set
	Readings map[curriculum.View]curriculum.Reading // of the moves
	Before   Before
	Pace     int // tenths of a second for a rep
	Closing  int // seconds before the end at which the closing sprint is called; 0: none is asked
}

// changeOver is how many seconds there are to change the side.
const changeOver = 5

// slower is how much longer a rep takes that is done slowly.
const slower = 2

// CallOf is a line of a test sheet as the caller calls it, with so many reps called in the
// measure asked; 0: as asked.
func CallOf(b *curriculum.Book, l curriculum.Line, called int) Call {
	c := Call{Line: l, Paired: Paired(l.Moves)}
	t := b.Technique(l.TechniqueID)
	if t != nil {
		if c.Number = t.Call; c.Number == 0 {
			c.Number, c.Series = t.Number, t.Series
		}
		if b.Travels(t) {
			c.Travels = t.ID
		}
		for _, p := range t.Parts {
			c.Parts = append(c.Parts, Part{p.Name, p.From, p.To})
		}
	}
	if l.Phases {
		for _, x := range l.Checkpoints {
			if phase, _ := curriculum.Phase(x); phase != "" && !slices.Contains(c.Steps, phase) {
				c.Steps = append(c.Steps, phase)
			}
		}
	}
	for _, m := range c.Moves {
		c.Counts = max(c.Counts, m.Count)
	}
	pace := curriculum.SecondsPerRep(l.Kind) * 10
	if l.Kind == "combination" || l.Kind == "form" {
		pace = max(pace, 10*c.Counts)
	}
	if l.Slow {
		pace *= slower
	}
	sets := l.Sets(t, called)
	for i, s := range sets {
		x := Set{Set: s, Readings: readingsOf(s.Turn, l.Moves)}
		if s.Reps > 0 {
			x.Pace = pace
		} else {
			x.Closing = l.Sprint
		}
		switch {
		case s.Turn == curriculum.OtherStance && c.Paired:
			x.Before = ChangeSides
		case s.Turn == curriculum.OtherStance:
			x.Before = ChangeStance
		case s.Turn == curriculum.BackAgain:
			x.Before = TurnRound
		case s.Turn == curriculum.RearLimb:
			x.Before = ChangeLimbs
		}
		if i+1 < len(sets) && x.Rest == 0 && s.Turn != curriculum.Round {
			x.Rest = changeOver
		}
		c.Sets = append(c.Sets, x)
	}
	return c
}

// CombinationCall is a line of moves that was drawn or typed, called on both sides.
func CombinationCall(b *curriculum.Book, line string, reps int) Call {
	l := curriculum.Line{Call: line, Kind: "combination", Moves: b.Strip(line, curriculum.AsWritten), Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: reps}}
	c := CallOf(b, l, 0)
	c.Sets, c.Paired = nil, false
	for i, turn := range []curriculum.Turn{curriculum.OwnStance, curriculum.OtherStance} {
		s := Set{Set: curriculum.Set{Turn: turn, Reps: reps}, Readings: readingsOf(turn, l.Moves), Pace: 10 * max(3, len(l.Moves))}
		if i == 0 {
			s.Rest = changeOver
		} else {
			s.Before = ChangeStance
		}
		c.Sets = append(c.Sets, s)
	}
	return c
}

// Paired reports whether moves have an other side that is not the other stance.
func Paired(moves []curriculum.StripMove) bool {
	return slices.ContainsFunc(moves, func(m curriculum.StripMove) bool { return m.Paired })
}

// readingsOf are the readings of the moves in a set, for each stance. After a change of stance
// left and right are exchanged; one limb after the other, and one way and back, stay in the
// stance.
func readingsOf(turn curriculum.Turn, moves []curriculum.StripMove) map[curriculum.View]curriculum.Reading {
	out := map[curriculum.View]curriculum.Reading{}
	for _, v := range curriculum.Views {
		out[v] = v.For()
		if turn == curriculum.OtherStance {
			out[v] = curriculum.OtherSide(moves, v.For())
		}
	}
	return out
}

// Commands are the words the caller uses that are the program's own; "" it has none.
type Commands struct{ Ready, Begin, Stop, Turn, Change, Rest string }

// CommandsOf finds a program's commands by what they mean.
func CommandsOf(p curriculum.Program) (c Commands) {
	for _, x := range []struct {
		word  *string
		means []string
	}{
		{&c.Ready, []string{"ready", "fighting stance", "guard"}}, {&c.Begin, []string{"begin", "start"}}, {&c.Stop, []string{"stop", "finish"}},
		{&c.Turn, []string{"turn"}}, {&c.Change, []string{"change of stance", "change stance", "switch stance", "change sides"}}, {&c.Rest, []string{"rest", "at ease", "relax"}},
	} {
		for _, means := range x.means {
			at := slices.IndexFunc(p.Commands, func(y curriculum.Command) bool { return says(y.Meaning, means) })
			if at >= 0 {
				*x.word = p.Commands[at].Word
				break
			}
		}
	}
	return c
}

// says reports whether a meaning begins with words.
func says(meaning, words string) bool {
	key := check.Key(meaning)
	return key == words || strings.HasPrefix(key, words+" ") || strings.HasPrefix(key, words+",") || strings.HasPrefix(key, words+";")
}
