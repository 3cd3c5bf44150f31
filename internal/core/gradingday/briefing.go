package gradingday

import (
	"slices"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// Briefing is what candidates are told before they begin, from the policy and the sheets as they stand.
type Briefing struct {
	On       civil.Date
	Place    string
	Policy   scoring.Policy
	Marking  Marking
	Panel    int // examiners of a ring, the most
	Results  Results
	Retest   civil.Date // the earliest day
	Scope    Scope
	Sheets   []BriefSheet
	Cautions bool // contact, falls or boards are on a sheet
}

// BriefSheet is what one rung asks.
type BriefSheet struct {
	For      string // what is tested for
	Sections []BriefSection
	Must     []string // what must pass
	Bonus    []string
}

// BriefSection is what a section asks, what is called equally often together.
type BriefSection struct {
	Name  string
	Lines []BriefLines
}

// BriefLines are lines that are shown equally often.
type BriefLines struct {
	Names  []string
	Asked  curriculum.Quantity
	Called int // reps called where more are called, so that everybody is looked at; 0 as asked
}

// Brief sums up the sheets of the groups of a grading, one for each rung: what is called for the largest group of it.
func Brief(g Grading, groups []BriefGroup) Briefing {
	b := Briefing{On: g.On, Place: g.Place, Policy: g.Policy, Marking: g.Marking, Results: g.Results, Retest: g.RetestFrom(), Scope: g.RetestScope}
	for i := range g.Rings {
		b.Panel = max(b.Panel, len(g.Panel(i)))
	}
	largest := map[string]int{}
	var order []string
	for k, x := range groups {
		at, there := largest[x.For]
		if !there {
			order = append(order, x.For)
		}
		if !there || x.Candidates > groups[at].Candidates {
			largest[x.For] = k
		}
	}
	for _, name := range order {
		x := groups[largest[name]]
		sheet := BriefSheet{For: name}
		for _, it := range x.Items {
			if it.MustPass {
				sheet.Must = append(sheet.Must, it.Label)
			}
			if it.Bonus {
				sheet.Bonus = append(sheet.Bonus, it.Label)
			}
			for _, l := range it.Lines {
				sheet.add(l, x.Candidates)
				b.Cautions = b.Cautions || len(l.Cautions) > 0
			}
		}
		b.Sheets = append(b.Sheets, sheet)
	}
	return b
}

// About is the briefing for those who are tested for one thing, so that it fits a page; "" is everybody's.
func (b Briefing) About(what string) Briefing {
	if what == "" {
		return b
	}
	b.Sheets = slices.DeleteFunc(slices.Clone(b.Sheets), func(s BriefSheet) bool { return s.For != what })
	return b
}

// BriefGroup is a group whose sheet is read out.
type BriefGroup struct {
	For        string
	Candidates int
	Items      []GroupItem
}

func (s *BriefSheet) add(l curriculum.Line, candidates int) {
	at := slices.IndexFunc(s.Sections, func(x BriefSection) bool { return x.Name == l.Section })
	if at < 0 {
		at = len(s.Sections)
		s.Sections = append(s.Sections, BriefSection{Name: l.Section})
	}
	section := &s.Sections[at]
	asked, called := l.Quantity, l.CalledMore(candidates)
	k := slices.IndexFunc(section.Lines, func(x BriefLines) bool { return x.Asked == asked && x.Called == called })
	if k < 0 {
		k = len(section.Lines)
		section.Lines = append(section.Lines, BriefLines{Asked: asked, Called: called})
	}
	section.Lines[k].Names = append(section.Lines[k].Names, l.Call)
}
