package curriculum

import (
	"cmp"
	"fmt"
	"slices"

	"velvetladder/internal/core/notation"
)

// Line is one line of a test sheet: what is called, and what examiners look for.
type Line struct {
	RequirementID string      `json:"requirement"`
	TechniqueID   string      `json:"technique"`
	Section       string      `json:"section"`
	Call          string      `json:"call"` // what is called out
	Term          string      `json:"term,omitempty"`
	Detail        string      `json:"detail,omitempty"` // the moves, the attack, or a remark
	Moves         []StripMove `json:"moves,omitempty"`  // the detail, where it is written in notation
	Kind          Kind        `json:"kind"`
	Role          Role        `json:"role"`
	Quantity      Quantity    `json:"quantity"`
	MustPass      bool        `json:"must_pass,omitempty"`
	Bonus         bool        `json:"bonus,omitempty"`
	Weight        int         `json:"weight"`
	Checkpoints   []string    `json:"checkpoints,omitempty"`
	Faults        []Fault     `json:"faults,omitempty"`
	Cautions      []string    `json:"cautions,omitempty"`
	Seconds       int         `json:"seconds"`               // for a group of the size the sheet was compiled for
	RepsCalled    int         `json:"reps_called,omitempty"` // per side; more than asked where examiners need more looks
}

// TestSheet is what one rung asks, in the order it is called.
type TestSheet struct {
	Lines   []Line
	Group   int // candidates that one examiner watches at once
	Seconds int
}

// Minutes is the sheet's length, rounded up.
func (s TestSheet) Minutes() int { return (s.Seconds + 59) / 60 }

// Durations in seconds. They are estimates from the floor, stated here so that a sheet's
// minutes can be followed by hand.
const (
	callOverhead  = 12 // naming the line, taking the position
	looksEach     = 2  // times an examiner must see each candidate
	otherRep      = 5
	defaultWeight = 1
)

var secondsPerRep = map[Kind]int{
	"strike": 2, "kick": 3, "block": 2, "evasion": 2, "stance": 4, "footwork": 3, "lock": 10, "throw": 12, "breakfall": 6,
	"form": 60, "combination": 6, "self_defence": 10, "partner_set": 15, "balance": 20, "knowledge": 20, "courtesy": 15,
	"board_break": 30, "character": 30,
}

// Compile makes the test sheet of a rung from its requirements, for a group of g candidates.
// Lines are ordered by section, then by the school's own order.
//
//	reps called a side = max(reps asked, looks each × g ÷ sides, rounded up)
//	seconds of a line  = call overhead + sides × reps × seconds per rep of the kind,
//	                     or the timed seconds and the rests between rounds
//
// catalogue reads the details that are written in notation; nil reads none.
//
// A form, a question, a courtesy or a character task is shown as often as it is asked: one
// long showing, or a turn for each candidate.
func Compile(requirements []Requirement, techniques map[string]Technique, sections []Section, catalogue *notation.Catalogue, g int) TestSheet {
	g = max(g, 1)
	place := map[string]Section{}
	for _, s := range sections {
		place[s.ID] = s
	}
	ordered := slices.Clone(requirements)
	slices.SortStableFunc(ordered, func(a, b Requirement) int {
		return cmp.Or(cmp.Compare(place[a.SectionID].Position, place[b.SectionID].Position), cmp.Compare(a.Position, b.Position))
	})
	sheet := TestSheet{Group: g}
	for _, r := range ordered {
		t := techniques[r.TechniqueID]
		l := Line{
			RequirementID: r.ID, TechniqueID: t.ID, Section: place[r.SectionID].Name, Call: t.Name, Term: t.Term, Detail: t.Note,
			Kind: t.Kind, Role: r.Role, Quantity: r.Quantity, MustPass: r.MustPass, Bonus: r.Bonus, Weight: max(r.Weight, defaultWeight),
			Checkpoints: t.Checkpoints, Faults: t.Faults, Cautions: t.AllCautions(),
		}
		if r.Role == "attacker" || r.Role == "defender" || r.Role == "holder" {
			l.Call = fmt.Sprintf("%s, %s", t.Name, r.Role)
		}
		if r.Note != "" {
			l.Detail = r.Note
		}
		if catalogue != nil && l.Detail != "" {
			l.Moves = Strip(catalogue, l.Detail)
		}
		l.RepsCalled, l.Seconds = duration(t.Kind, r.Quantity, g)
		sheet.Seconds += l.Seconds
		sheet.Lines = append(sheet.Lines, l)
	}
	return sheet
}

func duration(k Kind, q Quantity, g int) (reps, seconds int) {
	switch q.Measure {
	case Timed:
		return 0, callOverhead + q.Seconds
	case RoundsTimed:
		return 0, callOverhead + q.Rounds*q.Seconds + (q.Rounds-1)*q.Rest
	}
	sides := 1
	if q.Measure == RepsPerSide {
		sides = 2
	}
	per, known := secondsPerRep[k]
	if !known {
		per = otherRep
	}
	switch k {
	case "form":
		return q.Reps, callOverhead + sides*q.Reps*per
	case "knowledge", "courtesy", "character", "board_break": // one after the other
		return q.Reps, callOverhead + sides*q.Reps*per*g
	}
	reps = max(q.Reps, (looksEach*g+sides-1)/sides)
	return reps, callOverhead + sides*reps*per
}
