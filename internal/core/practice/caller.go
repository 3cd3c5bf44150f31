package practice

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
)

// Call is something the caller calls, rep by rep or against the clock.
type Call struct {
	Words    string                 `json:"words"`
	Term     string                 `json:"term,omitempty"`
	Section  string                 `json:"section"`
	Number   int                    `json:"number,omitempty"` // the program's call number, else its number in its series; 0: none
	Series   string                 `json:"series,omitempty"` // that the number counts in; "" it is a call number
	Moves    []curriculum.StripMove `json:"moves,omitempty"`
	Partner  []curriculum.StripMove `json:"partner,omitempty"`
	Parts    []Part                 `json:"parts,omitempty"` // that can be called alone
	Sets     []Set                  `json:"sets"`
	Counts   int                    `json:"counts,omitempty"` // counts in one rep, where it has several
	Phases   []string               `json:"phases,omitempty"` // called one after the other, where that is asked
	Manner   string                 `json:"manner,omitempty"` // slowly, supported …
	Remark   string                 `json:"remark,omitempty"`
	Common   []string               `json:"common,omitempty"` // counts for the whole section, series or form
	Cautions []string               `json:"cautions,omitempty"`
	Why      string                 `json:"why,omitempty"`     // freshness: new, grown, carried
	Travels  string                 `json:"travels,omitempty"` // the technique's id, where its moves can be followed on the floor
}

// Part is a named part of a technique: its steps from … to.
type Part struct {
	Name string `json:"name"`
	From int    `json:"from"` // step, from 1
	To   int    `json:"to"`
}

// Set is one part of an amount: a side, a round, a hold. Sides and Readings are by the stance of
// whom it is called for: "" for a hall of both, else orthodox or southpaw.
type Set struct {
	Sides    map[curriculum.View]string             `json:"sides,omitempty"`    // which side it is; none where it has none
	Readings map[curriculum.View]curriculum.Reading `json:"readings,omitempty"` // of the moves
	Before   string                                 `json:"before,omitempty"`   // the command before it: turn, change of stance
	InTurn   bool                                   `json:"in_turn,omitempty"`  // left and right in turn, so many in all
	Reps     int                                    `json:"reps,omitempty"`     // counted; 0: against the clock
	Seconds  int                                    `json:"seconds,omitempty"`
	Rest     int                                    `json:"rest,omitempty"`    // seconds after it
	Pace     int                                    `json:"pace,omitempty"`    // tenths of a second for a rep
	Closing  int                                    `json:"closing,omitempty"` // seconds before the end at which the closing sprint is called; 0: none is asked
}

// changeOver is how many seconds there are to change the side.
const changeOver = 5

// slower is how much longer a rep takes that is done slowly.
const slower = 2

// CallOf is a line of a test sheet as the caller calls it, with so many reps called in the
// measure asked; 0: as asked.
func CallOf(b *curriculum.Book, l curriculum.Line, called int) Call {
	c := Call{Words: l.Call, Term: l.Term, Section: l.Section, Moves: l.Moves, Partner: l.Partner, Manner: l.Manner, Remark: l.Note, Common: l.Common, Cautions: l.Cautions, Why: string(l.Freshness)}
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
			if phase, _ := curriculum.Phase(x); phase != "" && !slices.Contains(c.Phases, phase) {
				c.Phases = append(c.Phases, phase)
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
	words := CommandsOf(b.Program)
	sets := l.Sets(t, called)
	for i, s := range sets {
		x := Set{Sides: sideWords(s, l.Kind, paired(l.Moves)), Readings: readingsOf(s.Turn, l.Moves), Reps: s.Reps, Seconds: s.Seconds, Rest: s.Rest, InTurn: s.Turn == curriculum.InTurn}
		if s.Reps > 0 {
			x.Pace = pace
		} else {
			x.Closing = l.Sprint
		}
		switch {
		case s.Turn == curriculum.OtherStance && paired(l.Moves):
			x.Before = otherSide
		case s.Turn == curriculum.OtherStance:
			x.Before = words.Change
		case s.Turn == curriculum.BackAgain:
			x.Before = words.Turn
		case s.Turn == curriculum.RearLimb:
			x.Before = "the other " + limbOf(l.Kind)
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
	l := curriculum.Line{Call: line, Section: "Combinations", Kind: "combination", Moves: b.Strip(line, curriculum.AsWritten), Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: reps}}
	c := CallOf(b, l, 0)
	c.Sets = nil
	for i, turn := range []curriculum.Turn{curriculum.OwnStance, curriculum.OtherStance} {
		s := Set{Sides: sideWords(curriculum.Set{Turn: turn}, l.Kind, false), Readings: readingsOf(turn, l.Moves), Reps: reps, Pace: 10 * max(3, len(l.Moves))}
		if i == 0 {
			s.Rest = changeOver
		} else {
			s.Before = CommandsOf(b.Program).Change
		}
		c.Sets = append(c.Sets, s)
	}
	return c
}

// limbOf is what a kind of technique is done with.
func limbOf(k curriculum.Kind) string {
	switch k {
	case "kick", "balance", "footwork":
		return "leg"
	case "strike", "block":
		return "hand"
	}
	return "side"
}

// otherSide is the second set of what no change of stance mirrors: of a pair, and of a form.
const otherSide = "the other side"

// paired reports whether moves have an other side that is not the other stance.
func paired(moves []curriculum.StripMove) bool {
	return slices.ContainsFunc(moves, func(m curriculum.StripMove) bool { return m.Paired })
}

// sideWords say which side a set is, for each stance.
func sideWords(s curriculum.Set, k curriculum.Kind, paired bool) map[curriculum.View]string {
	all := func(text string) map[curriculum.View]string {
		return map[curriculum.View]string{curriculum.AsWritten: text, curriculum.Orthodox: text, curriculum.Southpaw: text}
	}
	limb := limbOf(k)
	switch {
	case paired && s.Turn == curriculum.OwnStance:
		return all("one side")
	case paired && s.Turn == curriculum.OtherStance:
		return all(otherSide)
	}
	switch s.Turn {
	case curriculum.OwnStance:
		return map[curriculum.View]string{curriculum.AsWritten: "own stance", curriculum.Orthodox: "left foot forward", curriculum.Southpaw: "right foot forward"}
	case curriculum.OtherStance:
		return map[curriculum.View]string{curriculum.AsWritten: "other stance", curriculum.Orthodox: "right foot forward", curriculum.Southpaw: "left foot forward"}
	case curriculum.LeadLimb:
		return map[curriculum.View]string{curriculum.AsWritten: "lead " + limb, curriculum.Orthodox: "left " + limb, curriculum.Southpaw: "right " + limb}
	case curriculum.RearLimb:
		return map[curriculum.View]string{curriculum.AsWritten: "rear " + limb, curriculum.Orthodox: "right " + limb, curriculum.Southpaw: "left " + limb}
	case curriculum.OneWay:
		if k == "evasion" {
			return all("to the left")
		}
		return all("one way")
	case curriculum.BackAgain:
		if k == "evasion" {
			return all("to the right")
		}
		return all("and back")
	case curriculum.Round:
		return all(fmt.Sprintf("round %d of %d", s.N, s.Of))
	case curriculum.HoldFor:
		return all(fmt.Sprintf("hold %d of %d", s.N, s.Of))
	case curriculum.InTurn:
		return all("left and right in turn")
	}
	return nil
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

// Commands are the words the caller uses, the program's own where it has them.
type Commands struct {
	Ready  string `json:"ready"`
	Begin  string `json:"begin"`
	Stop   string `json:"stop"`
	Turn   string `json:"turn"`
	Change string `json:"change"`
	Rest   string `json:"rest"`
}

// CommandsOf finds a program's commands by what they mean.
func CommandsOf(p curriculum.Program) Commands {
	c := Commands{Ready: "ready", Begin: "begin", Stop: "stop", Turn: "turn", Change: "change of stance", Rest: "rest"}
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
