package practice

import (
	"cmp"
	"fmt"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// Call is something the caller calls, rep by rep or against the clock.
type Call struct {
	Words    string                 `json:"words"`
	Term     string                 `json:"term,omitempty"`
	Section  string                 `json:"section"`
	Number   int                    `json:"number,omitempty"` // the program's call number; 0: none
	Moves    []curriculum.StripMove `json:"moves,omitempty"`
	Sets     []Set                  `json:"sets"`
	Counts   int                    `json:"counts,omitempty"` // counts in one rep, where it has several
	Cautions []string               `json:"cautions,omitempty"`
	Why      string                 `json:"why,omitempty"` // freshness: new, grown, carried
}

// Set is one side, or one round, of a call.
type Set struct {
	Side    string `json:"side,omitempty"` // which foot is forward, or which side
	Reps    int    `json:"reps,omitempty"` // counted; 0: against the clock
	Seconds int    `json:"seconds,omitempty"`
	Rest    int    `json:"rest,omitempty"` // seconds after it
	Pace    int    `json:"pace,omitempty"` // tenths of a second for a rep
}

// changeOver is how many seconds there are to change the side.
const changeOver = 5

// CallOf is a line of a test sheet as the caller calls it, for a stance. reps is how often a side
// is called in place of what the line asks; 0: as asked.
func CallOf(b *curriculum.Book, l curriculum.Line, stance curriculum.View, reps int) Call {
	c := Call{Words: l.Call, Term: l.Term, Section: l.Section, Moves: l.Moves, Cautions: l.Cautions, Why: string(l.Freshness)}
	t := b.Technique(l.TechniqueID)
	if t != nil {
		c.Number = t.Call
	}
	if stance != curriculum.AsWritten && l.Detail != "" {
		if moves := b.Strip(l.Detail, stance); moves != nil {
			c.Moves = moves
		}
	}
	for _, m := range c.Moves {
		c.Counts = max(c.Counts, m.Count)
	}
	q := l.Quantity
	pace := curriculum.PaceOf(l.Kind) * 10
	if l.Kind == "combination" || l.Kind == "form" {
		pace = max(pace, 10*c.Counts)
	}
	counted := cmp.Or(reps, q.Reps, 1)
	switch q.Measure {
	case curriculum.Timed, curriculum.CountWithin:
		c.Sets = []Set{{Seconds: q.Seconds}}
	case curriculum.RoundsTimed:
		for i := range q.Rounds {
			x := Set{Side: fmt.Sprintf("round %d of %d", i+1, q.Rounds), Seconds: q.Seconds, Rest: q.Rest}
			if i+1 == q.Rounds {
				x.Rest = 0
			}
			c.Sets = append(c.Sets, x)
		}
	case curriculum.Holds:
		for range counted {
			c.Sets = append(c.Sets, Set{Seconds: q.Seconds, Rest: changeOver})
		}
	default:
		if progress.Sided(l, t) || reps > 0 && t != nil && t.Sides.Sides() == 2 {
			first, second := "left foot forward", "right foot forward"
			if stance == curriculum.Southpaw {
				first, second = second, first
			}
			c.Sets = []Set{{Side: first, Reps: counted, Pace: pace, Rest: changeOver}, {Side: second, Reps: counted, Pace: pace}}
		} else {
			c.Sets = []Set{{Reps: counted, Pace: pace}}
		}
	}
	return c
}
