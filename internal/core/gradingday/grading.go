// Package gradingday holds the rules of a grading: what is marked, who stands together.
package gradingday

import (
	"fmt"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// Marking is the school of marking a grading follows.
type Marking = curriculum.Marking

// The schools of marking.
const (
	MovementScale  = curriculum.MovementScale
	CategoryPoints = curriculum.CategoryPoints
	SignOff        = curriculum.SignOff
)

// Markings are the choices, in the order screens offer them.
var Markings = []Marking{MovementScale, CategoryPoints, SignOff}

// MaxPanel is the most examiners the screens offer on one panel.
const MaxPanel = 5

// MaxGroup is the most candidates one examiner watches at once.
const MaxGroup = 4

// Examiner sits on a panel.
type Examiner struct {
	ID, Name string
	Letter   string // stands for the examiner on the plumb line
	Chief    bool
}

// Grading is a test day for some rungs of a program.
type Grading struct {
	ID, ProgramID string
	Name, Place   string
	On            civil.Date
	Marking       Marking
	Policy        scoring.Policy
	GroupSize     int // 1 to MaxGroup
	RetestDays    int // from the grading to the earliest retest, 0 to 730
	RungIDs       []string
	Examiners     []Examiner
}

// Check notes what is wrong with a grading.
func (g Grading) Check() check.Problems {
	var p check.Problems
	p.Line("name", g.Name, check.NameLength)
	p.Line("place", g.Place, check.NameLength)
	if g.On.IsZero() {
		p.Add("on", "is empty; write the day of the grading")
	}
	check.OneOf(&p, "marking", g.Marking, Markings)
	if g.GroupSize < 1 || g.GroupSize > MaxGroup {
		p.Add("group_size", "is %d; one examiner watches 1 to %d candidates at once", g.GroupSize, MaxGroup)
	}
	if g.RetestDays < 0 || g.RetestDays > 730 {
		p.Add("retest_days", "is %d; it must be from 0 to 730", g.RetestDays)
	}
	if len(g.RungIDs) == 0 {
		p.Add("rungs", "none is chosen; choose at least one rung to be tested")
	}
	switch len(g.Examiners) {
	case 1, 3, 5:
	case 0:
		p.Add("examiners", "nobody is named; a panel has 1, 3 or 5 examiners")
	default:
		p.Add("examiners", "%d are named; a panel has 1, 3 or 5 examiners", len(g.Examiners))
	}
	names := map[string]bool{}
	for _, e := range g.Examiners {
		p.Line("examiners", e.Name, check.NameLength)
		if names[check.Key(e.Name)] {
			p.Add("examiners", "%q stands twice", e.Name)
		}
		names[check.Key(e.Name)] = true
	}
	if err := g.Policy.Check(); err != nil {
		p.Add("policy", "%s", err)
	}
	return p
}

// Letters gives each examiner the first letter of the surname, or a number where two share it.
func Letters(examiners []Examiner) {
	used := map[string]bool{}
	for i := range examiners {
		letter := fmt.Sprint(i + 1)
		if words := []rune(lastWord(examiners[i].Name)); len(words) > 0 && !used[string(words[:1])] {
			letter = string(words[:1])
		}
		used[letter] = true
		examiners[i].Letter = letter
	}
}

func lastWord(s string) string {
	for i := len(s) - 1; i >= 0; i-- {
		if s[i] == ' ' {
			return s[i+1:]
		}
	}
	return s
}

// Marked is an item with the lines of the sheet it gathers.
type Marked struct {
	Item  scoring.Item // without an ID
	Lines []int
}

// Items says what gets a mark. Under category points each section is one item of weight 1,
// gathers its lines, and is a bonus only if every line in it is; it must pass if any line
// must. Otherwise each line is an item of its own.
func Items(sheet curriculum.TestSheet, m Marking) (out []Marked) {
	for i, l := range sheet.Lines {
		if m == CategoryPoints {
			if n := len(out); n > 0 && out[n-1].Item.Section == l.Section {
				last := &out[n-1]
				last.Lines = append(last.Lines, i)
				last.Item.Bonus = last.Item.Bonus && l.Bonus
				last.Item.MustPass = last.Item.MustPass || l.MustPass
				continue
			}
			out = append(out, Marked{scoring.Item{Label: l.Section, Section: l.Section, Weight: 1, Bonus: l.Bonus, MustPass: l.MustPass}, []int{i}})
			continue
		}
		out = append(out, Marked{scoring.Item{Label: l.Call, Section: l.Section, Weight: l.Weight, Bonus: l.Bonus, MustPass: l.MustPass}, []int{i}})
	}
	return out
}

// CheckSheet refuses a sheet on which the policy could not come to a result, in words.
func CheckSheet(items []Marked, p scoring.Policy, rung string) error {
	full, counted := scoring.Decimal(0), 0
	for _, m := range items {
		if !m.Item.Bonus {
			full += scoring.Decimal(m.Item.Weight) * p.Scale.Highest
			counted++
		}
	}
	if counted == 0 {
		return fmt.Errorf("%s asks for nothing that counts; add requirements to it first", rung)
	}
	if t := p.Rules.Threshold; t != nil && *t > full {
		return fmt.Errorf("nobody could pass for %s: the threshold is %s, and its sheet has %s points in all", rung, *t, full)
	}
	return nil
}

// Split shares n candidates over groups of at most size, as evenly as can be; the sizes
// differ by one at most and the larger come first.
func Split(n, size int) (sizes []int) {
	if n <= 0 {
		return nil
	}
	groups := (n + size - 1) / size
	for i := range groups {
		s := n / groups
		if i < n%groups {
			s++
		}
		sizes = append(sizes, s)
	}
	return sizes
}
