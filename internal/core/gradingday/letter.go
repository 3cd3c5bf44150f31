package gradingday

import (
	"cmp"
	"slices"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// Letter is a result in plain words for a student and their family. It holds no figure.
type Letter struct {
	Strong []string // what was strong, at most three
	Mend   []Mend   // what was not right yet, to be mended first
	Next   []Mend   // what was sound and comes next; with Mend at most three
}

// Mend is one thing to mend, with how to go about it.
type Mend struct {
	What string
	Word string // how it was seen: "not right yet"; "" where the scale has no words
	How  []string
}

// letterMost is how many things a person takes in at once.
const letterMost = 3

// LetterOf picks from a test what was strong and what to mend. lines are the lines each item
// gathers, notes what examiners wrote on it, seen the faults of its lines that were seen, each by item. An item is as good as its median mark over the
// sheets that saw it, the lower of the middle two. Strong is the upper half of what is above
// the failing marks and above the lowest item; to mend or to work on is the lowest below the
// highest mark, what a fault was seen in first, then must-pass items. What is sound is never called to be mended.
func LetterOf(p scoring.Policy, t scoring.Test, lines [][]curriculum.Line, notes, seenFaults map[string][]string) Letter {
	type seen struct {
		k    int
		mark scoring.Decimal
	}
	var all []seen
	carried := p.Again(t, scoring.ScopeWhole).Carried
	for k := range t.Items {
		if slices.ContainsFunc(t.Sheets, func(s scoring.Sheet) bool { return s.Marks[k].Seen }) {
			all = append(all, seen{k, carried[k]})
		}
	}
	var out Letter
	if len(all) == 0 {
		return out
	}
	must := func(x seen) int {
		switch {
		case len(seenFaults[t.Items[x.k].ID]) > 0:
			return 0
		case t.Items[x.k].MustPass:
			return 1
		}
		return 2
	}
	low := slices.Clone(all)
	slices.SortStableFunc(low, func(a, b seen) int { return cmp.Or(cmp.Compare(a.mark, b.mark), cmp.Compare(must(a), must(b))) })
	mended := map[int]bool{}
	for _, x := range low {
		if len(out.Mend)+len(out.Next) == letterMost || x.mark == p.Scale.Highest {
			break
		}
		mended[x.k] = true
		id := t.Items[x.k].ID
		m := Mend{What: t.Items[x.k].Name(), Word: p.Scale.Word(x.mark), How: how(lines[x.k], notes[id], seenFaults[id])}
		if p.Weak(x.mark) {
			out.Mend = append(out.Mend, m)
		} else {
			out.Next = append(out.Next, m)
		}
	}
	high := slices.Clone(all)
	slices.SortStableFunc(high, func(a, b seen) int { return cmp.Compare(b.mark, a.mark) })
	for _, x := range high {
		if len(out.Strong) == letterMost || p.Scale.Fails(x.mark) || 2*(x.mark-p.Scale.Lowest) < p.Scale.Highest-p.Scale.Lowest {
			break
		}
		if !mended[x.k] {
			out.Strong = append(out.Strong, t.Items[x.k].Name())
		}
	}
	return out
}

// how is what to do about an item: the faults that were seen, each with its own correction, and what an examiner wrote;
// else the corrections of its usual faults, else its checkpoints.
func how(lines []curriculum.Line, notes, seen []string) (out []string) {
	add := func(s string) {
		if s = strings.TrimSpace(s); s != "" && len(out) < 2 && !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	for _, s := range seen {
		add(Mended(s, lines))
	}
	for _, n := range notes {
		add(n)
	}
	if len(seen) > 0 {
		return out
	}
	for _, l := range lines {
		for _, f := range l.Faults {
			add(f.Correction)
		}
	}
	if len(out) == 0 {
		for _, l := range lines {
			for _, c := range l.Checkpoints {
				add(c)
			}
		}
	}
	return out
}

// Mended is a fault that was seen, with its own correction where the lines know one: "heel lifts: press it down".
func Mended(seen string, lines []curriculum.Line) string {
	for _, l := range lines {
		for _, f := range l.Faults {
			if f.Seen == seen && f.Correction != "" {
				return seen + ": " + f.Correction
			}
		}
	}
	return seen
}

// ThoughtMargin is how many steps from turning a result is close, where nothing else is said.
const ThoughtMargin = 2

// ThoughtKind says why a committee should look at a result first.
type ThoughtKind string

// The kinds of thought.
const (
	NotComplete  ThoughtKind = "not_complete"
	NoProposal   ThoughtKind = "no_proposal"
	IsReferral   ThoughtKind = "referral"
	WasEnded     ThoughtKind = "ended"
	PanelSplit   ThoughtKind = "split"
	CloseToTurn  ThoughtKind = "close"  // N steps would turn it
	HardlySeen   ThoughtKind = "thin"   // N lines were seen by less than half of the panel
	HasItsFaults ThoughtKind = "faults" // one on record
)

// Thought is one reason to look at a result first.
type Thought struct {
	Kind  ThoughtKind
	N     int
	Fault Fault
}

// Thoughts are the reasons why a committee should look at a result first; none for one that is
// plain. A result is close when margin steps or fewer would turn it; one on which a panel of several
// agrees is not.
func Thoughts(t scoring.Test, r scoring.Result, faults []Fault, margin int) (out []Thought) {
	say := func(kind ThoughtKind, n int) { out = append(out, Thought{Kind: kind, N: n}) }
	switch r.Outcome {
	case scoring.OutcomeIncomplete:
		say(NotComplete, 0)
	case scoring.OutcomeCommittee:
		say(NoProposal, 0)
	case scoring.OutcomeDouble:
		say(IsReferral, 0)
	}
	if t.EndingFault {
		say(WasEnded, 0)
	}
	pass, complete := r.Votes()
	if pass > 0 && pass < complete {
		say(PanelSplit, 0)
	}
	agreed := complete > 1 && (pass == 0 || pass == complete)
	if c := r.Change; c != nil && c.Impossible == nil && c.Exact && c.Steps <= margin && !agreed {
		say(CloseToTurn, c.Steps)
	}
	if n := thinlySeen(t); n > 0 {
		say(HardlySeen, n)
	}
	for _, f := range faults {
		out = append(out, Thought{Kind: HasItsFaults, Fault: f})
	}
	return out
}

// thinlySeen counts the lines that less than half of a panel saw.
func thinlySeen(t scoring.Test) (n int) {
	for k := range t.Items {
		saw := 0
		for _, s := range t.Sheets {
			if s.Marks[k].Seen {
				saw++
			}
		}
		if 2*saw < len(t.Sheets) {
			n++
		}
	}
	return n
}
