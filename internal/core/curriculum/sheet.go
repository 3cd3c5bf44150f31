package curriculum

import (
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
)

// Freshness says how a line stands to what lower rungs asked.
type Freshness string

// What a line is.
const (
	New     Freshness = "new"
	Grown   Freshness = "grown" // a later stage or a larger demand than at the last rung that asked it
	Carried Freshness = "carried"
)

// Line is one line of a test sheet: what is called, and what examiners look for.
type Line struct {
	RequirementID  string          `json:"requirement"`
	TechniqueID    string          `json:"technique"`
	Section        string          `json:"section"`
	Call           string          `json:"call"` // what is called out
	Term           string          `json:"term,omitempty"`
	Detail         string          `json:"detail,omitempty"`  // the moves or a remark
	Against        []AttackElement `json:"against,omitempty"` // the attack, where there is no remark
	Entry          string          `json:"entry,omitempty"`   // the way in that is asked; "" none by name
	Moves          []StripMove     `json:"moves,omitempty"`   // the steps of the role, sentences too
	Partner        []StripMove     `json:"partner,omitempty"` // the steps of the other one of a pair
	Kind           Kind            `json:"kind"`
	Role           Role            `json:"role"`
	Setting        Setting         `json:"setting,omitempty"`
	CoversSettings bool            `json:"covers_settings,omitzero"` // shown in this setting it need not be shown in others
	Quantity       Quantity        `json:"quantity"`
	MustPass       bool            `json:"must_pass,omitzero"`
	Bonus          bool            `json:"bonus,omitzero"`
	Free           bool            `json:"free_choice,omitzero"`
	Weight         int             `json:"weight"`
	Level          notation.Level  `json:"level,omitempty"` // the least level that counts
	Stage          int             `json:"stage,omitzero"`  // the stage asked, from 1; 0: the technique has none
	Stages         int             `json:"stages,omitzero"`
	Checkpoints    []string        `json:"checkpoints,omitempty"`
	SomeChecks     bool            `json:"some_checkpoints,omitzero"` // not all of the technique's count yet
	Faults         []Fault         `json:"faults,omitempty"`
	Apart          []ToldApart     `json:"told_apart,omitempty"` // from what looks like it
	Cautions       []string        `json:"cautions,omitempty"`
	Risks          []string        `json:"-"`                 // the kinds of caution that hold for what is asked
	Answers        []string        `json:"answers,omitempty"` // accepted ones
	Versions       []string        `json:"versions,omitempty"`
	Table          []TableMark     `json:"table,omitempty"`
	MarkLooks      []MarkLook      `json:"mark_looks,omitempty"` // what a mark looks like on this line
	Surface        string          `json:"surface,omitempty"`    // that strikes in this setting
	Targets        []string        `json:"targets,omitempty"`
	Success        []string        `json:"success_signs,omitempty"`
	Common         []Throughout    `json:"common,omitempty"` // counts for every line of its section, series or form
	Voice          Voice           `json:"voice,omitempty"`
	OwnVoice       bool            `json:"own_voice,omitzero"` // the requirement says it, not its rung or program
	Note           string          `json:"note,omitempty"`     // the remark of the requirement
	Manner         string          `json:"manner,omitempty"`   // how it is done, in words: of a sheet of before the fields below said it
	Sprint         int             `json:"sprint,omitzero"`    // seconds before the end at which a closing sprint is called
	Slow           bool            `json:"slow,omitzero"`
	NonStop        bool            `json:"non_stop,omitzero"`
	Supported      bool            `json:"supported,omitzero"`
	Phases         bool            `json:"by_phases,omitzero"`
	Looks          int             `json:"looks,omitzero"`       // an examiner needs of each; 0 on lines frozen before it was kept
	AtOnce         int             `json:"at_once,omitzero"`     // who can work at once; 0: all
	Seconds        int             `json:"seconds"`              // for a group of the size the sheet was compiled for
	RepsCalled     int             `json:"reps_called,omitzero"` // in the measure asked, for a group of that size
	Freshness      Freshness       `json:"freshness,omitempty"`
	Before         Before          `json:"before,omitzero"`   // how it stands to what lower rungs asked
	Why            []Why           `json:"why,omitempty"`     // why the line is here and asks what it asks
	Covers         []string        `json:"covers,omitempty"`  // what it shows besides
	Adapted        *Adapted        `json:"adapted,omitempty"` // what was changed for this candidate; nil nothing
	Pool           string          `json:"pool,omitempty"`    // the sample group it is still to be drawn from; "" it is asked outright, or was drawn

	stageNames []string // of the technique, by number, while the line is made
}

// Key tells the lines of sheets for one group apart: the same line on two candidates'
// sheets has the same key.
func (l Line) Key() string {
	if l.Entry != "" {
		return l.RequirementID + " " + l.TechniqueID + " " + check.Key(l.Entry)
	}
	return l.RequirementID + " " + l.TechniqueID
}

// Unlike is how one candidate's line differs from the one that is called for the group: another amount, part or height for
// their track, or an adaptation.
func (l Line) Unlike(called Line) (out Otherwise) {
	if l.Quantity != called.Quantity {
		out.Amount = l.Quantity.String()
	}
	if l.Stage != called.Stage && l.Stages > 0 {
		out.Part, out.Of = l.Stage, l.Stages
	}
	if l.Level != called.Level {
		out.Level = l.Level
	}
	if l.Bonus != called.Bonus {
		out.Bonus, out.NoBonus = l.Bonus, !l.Bonus
	}
	out.Adapted = l.Adapted
	return out
}

// TestSheet is what one rung asks, in the order it is called.
type TestSheet struct {
	Lines   []Line
	LeftOut []LeftOut
	Group   int // candidates that one examiner watches at once
	Seconds int
}

// Minutes is the sheet's length, rounded up.
func (s TestSheet) Minutes() int { return (s.Seconds + 59) / 60 }

// Common is what counts for every line of a section, to be said once at its head.
func (s TestSheet) Common(section string) []Throughout {
	var out []Throughout
	first := true
	for _, l := range s.Lines {
		if l.Section != section {
			continue
		}
		if first {
			out, first = slices.Clone(l.Common), false
			continue
		}
		out = slices.DeleteFunc(out, func(x Throughout) bool { return !slices.Contains(l.Common, x) })
	}
	return out
}

// Besides is what counts for a line because of its series or its form, beside what is said at
// the head of its section.
func (l Line) Besides(head []Throughout) (out []Throughout) {
	for _, x := range l.Common {
		if !slices.Contains(head, x) {
			out = append(out, x)
		}
	}
	return out
}
