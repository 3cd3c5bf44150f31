package agreement

import (
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

// Bounds of a calibration.
const (
	MaxLines        = 60
	MaxPerformances = 12
)

// Calibration is a sheet without consequences: examiners mark the same clip or demonstration, at once or one after the
// other, then see themselves beside the others.
type Calibration struct {
	ID, ProgramID string // whoever knows the id may mark
	Name          string
	What          string // where the clip is, or what is shown
	Scale         scoring.Scale
	Lines         []string
	Performances  []string // what is marked on each line, at least one: "the clip", "Ada's form"
}

// Tidy puts names without stray spaces, leaves empty ones out, and gives one performance where none is named.
func (c *Calibration) Tidy() {
	c.Name, c.What = check.Tidy(c.Name), check.Tidy(c.What)
	tidy := func(all []string) (out []string) {
		for _, x := range all {
			if x = check.Tidy(x); x != "" {
				out = append(out, x)
			}
		}
		return out
	}
	if c.Lines, c.Performances = tidy(c.Lines), tidy(c.Performances); len(c.Performances) == 0 {
		c.Performances = []string{"What is shown"}
	}
}

// Check notes what is wrong with a calibration.
func (c Calibration) Check() check.Problems {
	var p check.Problems
	if p.Line("name", c.Name, check.NameLength); c.Name == "" {
		p.Add("name", "is empty; name it, so that it is found again")
	}
	p.Line("what", c.What, check.LineLength)
	for field, x := range map[string]struct {
		list []string
		most int
		one  string
	}{"lines": {c.Lines, MaxLines, "line, or choose a rung whose sheet is marked"}, "performances": {c.Performances, MaxPerformances, "performance"}} {
		if len(x.list) == 0 {
			p.Add(field, "is empty; write at least one %s", x.one)
		}
		if len(x.list) > x.most {
			p.Add(field, "has %d; up to %d are marked at once", len(x.list), x.most)
		}
		seen := map[string]bool{}
		for _, name := range x.list {
			p.Line(field, name, check.NameLength)
			if seen[check.Key(name)] {
				p.Add(field, "has %q twice", name)
			}
			seen[check.Key(name)] = true
		}
	}
	return p
}

// Entry is one mark of a calibration. It replaces the entry it supersedes; both stay on record.
type Entry struct {
	ID, Calibration   string
	Who               string // the examiner's name
	Performance, Line int    // from 0
	Kind              gradingday.MarkKind
	Value             scoring.Decimal
	Supersedes        string
}

// Check says what is wrong with an entry.
func (c Calibration) CheckEntry(e Entry) error {
	if err := gradingday.EntryID(e.ID); err != nil {
		return err
	}
	var p check.Problems
	if p.Line("who", e.Who, check.NameLength); check.Tidy(e.Who) == "" {
		p.Add("who", "is empty; say who marks")
	}
	check.OneOf(&p, "kind", e.Kind, []gradingday.MarkKind{gradingday.MarkGiven, gradingday.MarkNotSeen, gradingday.MarkOpen})
	if e.Performance < 0 || e.Performance >= len(c.Performances) || e.Line < 0 || e.Line >= len(c.Lines) {
		p.Add("line", "is none of this calibration's")
	}
	if e.Kind == gradingday.MarkGiven && !c.Scale.Holds(e.Value) {
		p.Add("value", "%s is not a mark here; the scale is %s", e.Value, c.Scale.Describe())
	}
	return p.Err()
}

// Finished are those who have an entry at every place, in order of name. Before, nobody's marks are shown to others.
func (c Calibration) Finished(entries []Entry) (out []string) {
	n := map[string]int{}
	for _, e := range entries {
		if e.Kind != gradingday.MarkOpen {
			n[e.Who]++
		}
	}
	for who, count := range n {
		if count >= len(c.Lines)*len(c.Performances) {
			out = append(out, who)
		}
	}
	slices.Sort(out)
	return out
}

// Units are the marks of some examiners beside each other.
func (c Calibration) Units(entries []Entry, who []string) (out []Unit) {
	at := map[[2]int]map[string]float64{}
	for _, e := range entries {
		if e.Kind != gradingday.MarkGiven || !slices.Contains(who, e.Who) {
			continue
		}
		place := [2]int{e.Performance, e.Line}
		if at[place] == nil {
			at[place] = map[string]float64{}
		}
		at[place][e.Who] = float64(e.Value-c.Scale.Lowest) / float64(c.Scale.Step)
	}
	for k, performance := range c.Performances {
		for i, line := range c.Lines {
			if marks := at[[2]int{k, i}]; len(marks) > 0 {
				out = append(out, Unit{Candidate: performance, Item: line, Marks: marks})
			}
		}
	}
	return out
}
