// Package gradingday holds the rules of a grading: what is marked, who stands together.
package gradingday

import (
	"fmt"
	"regexp"
	"strconv"

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

// MaxRings is the most rings a grading runs at once.
const MaxRings = 8

// Ring is a floor with a panel of its own.
type Ring struct{ ID, Name string }

// Examiner sits on the panel of one ring.
type Examiner struct {
	ID, Name string
	Letter   string // stands for the examiner on the plumb line, unique within a ring
	Chief    bool
	Ring     int  // index in Grading.Rings, from 0
	Absent   bool // is not there: nobody waits for their signature, and what they marked stands
}

// Results says when results become known.
type Results string

// The ways results become known.
const (
	Held   Results = "held"    // a committee decides, and announces later
	AtOnce Results = "at_once" // as soon as a ring's panel has signed, as the marks propose
)

// Scope says what a retest asks again.
type Scope = scoring.Scope

// Grading is a test day for some rungs of a program.
type Grading struct {
	ID, ProgramID string
	Name, Place   string
	On            civil.Date
	Marking       Marking
	Policy        scoring.Policy
	GroupSize     int // 1 to MaxGroup
	RetestDays    int // from the grading to the earliest retest, 0 to 730
	RetestMonths  int // before those days, 0 to 24
	RungIDs       []string
	Rings         []Ring // "Ring A" alone where none is named
	Examiners     []Examiner
	Results       Results // "" is held
	RetestScope   Scope   // of a retest; "" is whole
	CarryDays     int     // how long what passed stays passed where the scope is not whole, 1 to 730; 0: 180
}

// DefaultCarryDays is how long what passed stays passed where nothing else is set.
const DefaultCarryDays = 180

// Panel are the examiners of a ring, in their order.
func (g Grading) Panel(ring int) (out []Examiner) {
	for _, e := range g.Examiners {
		if e.Ring == ring {
			out = append(out, e)
		}
	}
	return out
}

// PanelOf is Panel by the ring's id, with the ring's index.
func (g Grading) PanelOf(id string) (ring int, panel []Examiner) {
	for i, r := range g.Rings {
		if r.ID == id {
			return i, g.Panel(i)
		}
	}
	return -1, nil
}

// Fill puts what is usual where nothing was said.
func (g *Grading) Fill() {
	if len(g.Rings) == 0 {
		g.Rings = []Ring{{}}
	}
	for i := range g.Rings {
		if g.Rings[i].Name = check.Tidy(g.Rings[i].Name); g.Rings[i].Name == "" {
			g.Rings[i].Name = "Ring " + string(rune('A'+i))
		}
	}
	if g.Results == "" {
		g.Results = Held
	}
	if g.RetestScope == "" {
		g.RetestScope = scoring.ScopeWhole
	}
	if g.CarryDays == 0 {
		g.CarryDays = DefaultCarryDays
	}
	for i := range g.Rings {
		Letters(g.Examiners, i)
		if panel := g.Panel(i); len(panel) == 1 {
			for k := range g.Examiners {
				g.Examiners[k].Chief = g.Examiners[k].Chief || g.Examiners[k].Ring == i
			}
		}
	}
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
	if g.RetestMonths < 0 || g.RetestMonths > 24 {
		p.Add("retest_days", "is %d months; it must be from 0 to 24 months", g.RetestMonths)
	}
	if len(g.RungIDs) == 0 {
		p.Add("rungs", "none is chosen; choose at least one rung to be tested")
	}
	check.OneOf(&p, "results", g.Results, []Results{Held, AtOnce, ""})
	check.OneOf(&p, "retest_scope", g.RetestScope, append([]Scope{""}, scoring.Scopes...))
	if g.CarryDays < 0 || g.CarryDays > 730 {
		p.Add("carry_days", "is %d; it must be from 1 to 730", g.CarryDays)
	}
	if len(g.Rings) > MaxRings {
		p.Add("examiners", "%d rings are named; up to %d run at once", len(g.Rings), MaxRings)
	}
	rings := map[string]bool{}
	for i, r := range g.Rings {
		p.Line("examiners", r.Name, check.NameLength)
		if rings[check.Key(r.Name)] {
			p.Add("examiners", "two rings are called %q", r.Name)
		}
		rings[check.Key(r.Name)] = true
		g.checkPanel(&p, i)
	}
	if len(g.Rings) == 0 {
		g.checkPanel(&p, 0)
	}
	names := map[string]bool{}
	for _, e := range g.Examiners {
		p.Line("examiners", e.Name, check.NameLength)
		if names[check.Key(e.Name)] {
			p.Add("examiners", "%q stands twice; one examiner is in one place at a time", e.Name)
		}
		names[check.Key(e.Name)] = true
	}
	if err := g.Policy.Check(); err != nil {
		p.Add("policy", "%s", err)
	}
	return p
}

func (g Grading) checkPanel(p *check.Problems, ring int) {
	where := ""
	if ring < len(g.Rings) && len(g.Rings) > 1 {
		where = g.Rings[ring].Name + ": "
	}
	panel := g.Panel(ring)
	switch len(panel) {
	case 1, 3, 5:
	case 0:
		p.Add("examiners", "%snobody is named; a panel has 1, 3 or 5 examiners", where)
	default:
		p.Add("examiners", "%s%d are named; a panel has 1, 3 or 5 examiners", where, len(panel))
	}
	chiefs := 0
	for _, e := range panel {
		if e.Chief {
			chiefs++
		}
	}
	if chiefs > 1 {
		p.Add("examiners", "%s%d are chief; a panel has one chief examiner at most", where, chiefs)
	}
	if len(panel) > 0 && g.Policy.Quorum > len(panel) {
		p.Add("quorum", "%sis %d; the panel has %d, so no result could ever come", where, g.Policy.Quorum, len(panel))
	}
}

// Letters gives each examiner of a ring the first letter of the surname, or a number where
// two share it.
func Letters(examiners []Examiner, ring int) {
	used := map[string]bool{}
	n := 0
	for i := range examiners {
		if examiners[i].Ring != ring {
			continue
		}
		n++
		letter := fmt.Sprint(n)
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

// RetestFrom is the earliest day of a retest. Months clamp to the end of a shorter month.
func (g Grading) RetestFrom() civil.Date { return g.On.AddMonths(g.RetestMonths).AddDays(g.RetestDays) }

// RetestWait is how long after the grading a retest is, as a form has it: 28, or 3 months, or 1 month and 3 days.
func (g Grading) RetestWait() string {
	out := ""
	switch {
	case g.RetestMonths == 0:
		return strconv.Itoa(g.RetestDays)
	case g.RetestMonths == 1:
		out = "1 month"
	default:
		out = fmt.Sprintf("%d months", g.RetestMonths)
	}
	switch {
	case g.RetestDays == 1:
		out += " and 1 day"
	case g.RetestDays > 1:
		out += fmt.Sprintf(" and %d days", g.RetestDays)
	}
	return out
}

var waitPattern = regexp.MustCompile(`^(\d{1,4}) ?(days?|weeks?|months?)(?:(?: and|,) (\d{1,4}) ?days?)?$`)

// ReadRetestWait reads how long after a grading a retest is: days, or 4 weeks, or 3 months and 2 days. found
// is false where it says neither, and days alone are left to the reader of whole numbers.
func ReadRetestWait(s string) (months, days int, found bool) {
	m := waitPattern.FindStringSubmatch(check.Key(s))
	if m == nil {
		return 0, 0, false
	}
	n, _ := strconv.Atoi(m[1])
	more, _ := strconv.Atoi(m[3])
	switch m[2][0] {
	case 'm':
		return n, more, true
	case 'w':
		return 0, 7*n + more, true
	}
	return 0, n, m[3] == ""
}
