package curriculum

import (
	"cmp"
	"fmt"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
)

// Role is the part the candidate plays.
type Role string

// Roles are the choices; performer is the usual one.
var Roles = []Role{"performer", "attacker", "defender", "holder"}

// Measure says in what a requirement is counted.
type Measure string

// The measures.
const (
	RepsPerSide Measure = "reps_per_side"
	RepsInAll   Measure = "reps"
	Timed       Measure = "seconds"
	TimedSide   Measure = "seconds_per_side"
	RoundsTimed Measure = "rounds" // rounds × seconds with rests between
	Alternating Measure = "reps_alternating"
	CountWithin Measure = "count_within"  // as many as asked within the seconds
	Holds       Measure = "holds"         // reps of so many seconds each
	NoTouchDown Measure = "no_touch_down" // reps a side without putting the foot down
)

// Measures are the choices, in the order screens offer them.
var Measures = []Measure{RepsPerSide, RepsInAll, Alternating, Timed, TimedSide, RoundsTimed, CountWithin, Holds, NoTouchDown}

// MostReps is how many repetitions may be asked at once: five hundred skips, a thousand kicks.
const MostReps = 1000

// Quantity is how much is asked. Fields that the measure does not use are 0.
type Quantity struct {
	Measure Measure `json:"measure"`
	Reps    int     `json:"reps,omitzero"`    // 1 to MostReps, of both reps measures
	Seconds int     `json:"seconds,omitzero"` // 1 to 3600, of timed work or of one round
	Rounds  int     `json:"rounds,omitzero"`  // 1 to 20
	Rest    int     `json:"rest,omitzero"`    // seconds between rounds, 0 to 600
	// Side is what a side means, of the measures a side; "" is the usual meaning, and on a
	// compiled line a change of stance.
	Side SideMeaning `json:"side,omitempty"`
}

// Check notes what is wrong with a quantity.
func (q Quantity) Check(p *check.Problems) {
	check.OneOf(p, "measure", q.Measure, Measures)
	if q.Side != "" {
		check.OneOf(p, "side", q.Side, SideMeanings)
	}
	between := func(field string, n, least, most int) {
		if n < least || n > most {
			p.Add(field, "is %d; it must be from %d to %d", n, least, most)
		}
	}
	switch q.Measure {
	case RepsPerSide, RepsInAll, Alternating, NoTouchDown:
		between("reps", q.Reps, 1, MostReps)
	case CountWithin, Holds:
		between("reps", q.Reps, 1, MostReps)
		between("seconds", q.Seconds, 1, 3600)
	case RoundsTimed:
		between("rounds", q.Rounds, 1, 20)
		between("rest", q.Rest, 0, 600)
		between("seconds", q.Seconds, 1, 3600)
	case Timed, TimedSide:
		between("seconds", q.Seconds, 1, 3600)
	}
}

// String is the quantity as it stands on a sheet: "5 a side", "3 × 60 s, 30 s rest".
func (q Quantity) String() string {
	switch q.Measure {
	case RepsPerSide:
		return fmt.Sprintf("%d %s", q.Reps, q.Side.each())
	case RepsInAll:
		if q.Reps == 1 {
			return "once"
		}
		return fmt.Sprintf("%d times", q.Reps)
	case Alternating:
		return fmt.Sprintf("%d alternating", q.Reps)
	case NoTouchDown:
		return fmt.Sprintf("%d %s without touching down", q.Reps, q.Side.each())
	case CountWithin:
		return fmt.Sprintf("%d in %d s", q.Reps, q.Seconds)
	case Holds:
		return fmt.Sprintf("%d holds of %d s", q.Reps, q.Seconds)
	case Timed:
		return fmt.Sprintf("%d s", q.Seconds)
	case TimedSide:
		return fmt.Sprintf("%d s %s", q.Seconds, q.Side.each())
	}
	if q.Rest > 0 && q.Rounds > 1 {
		return fmt.Sprintf("%d × %d s, %d s rest", q.Rounds, q.Seconds, q.Rest)
	}
	return fmt.Sprintf("%d × %d s", q.Rounds, q.Seconds)
}

// each is how a meaning of a side is written behind an amount.
func (s SideMeaning) each() string {
	switch s {
	case ByStance:
		return "each stance"
	case ByLimb:
		return "each limb"
	case ByDirection:
		return "each way"
	}
	return "a side"
}

// Larger reports whether q asks for more than the other. comparable is false where they are
// counted in different units.
func (q Quantity) Larger(than Quantity) (larger, comparable bool) {
	if q.Measure != than.Measure || q.Side != than.Side {
		return false, false
	}
	if q.Measure == CountWithin { // as many in a shorter time is more
		return q.Reps*than.Seconds > than.Reps*q.Seconds, true
	}
	return q.size() > than.size(), true
}

// size is the amount within its own measure: reps, or seconds of work.
func (q Quantity) size() int {
	switch q.Measure {
	case Timed, TimedSide:
		return q.Seconds
	case RoundsTimed:
		return q.Rounds * q.Seconds
	case Holds:
		return q.Reps * q.Seconds
	}
	return q.Reps
}

// Setting says with what a line is shown; "" is in the air.
type Setting string

// Settings are the choices.
var Settings = []Setting{"air", "pads", "bag", "partner", "boards"}

// CarryKind says for how long a requirement is asked again above its rung.
type CarryKind string

// The kinds of carry; "" is once.
const (
	Once   CarryKind = "once"
	Until  CarryKind = "until" // a named rung, inclusive
	Always CarryKind = "always"
	Sample CarryKind = "sample" // a member of a named group of which some are drawn
)

// Carry is a requirement's carry.
type Carry struct {
	Kind  CarryKind `json:"kind,omitempty"`
	Rung  string    `json:"rung,omitempty"`  // of until
	Group string    `json:"group,omitempty"` // of sample
}

// TrackChange is what one track changes about a requirement.
type TrackChange struct {
	TrackID  string         `json:"track"`
	LeaveOut bool           `json:"leave_out,omitzero"`
	Bonus    bool           `json:"bonus,omitzero"`
	Quantity *Quantity      `json:"quantity,omitempty"`
	Level    notation.Level `json:"level,omitempty"`
	StageCap int            `json:"stage_cap,omitzero"`
}

// TableMark is a row of a fitness table: from this count on the mark is this.
type TableMark struct {
	Count int             `json:"count"`
	Mark  scoring.Decimal `json:"mark"`
}

// MarkLook says what a mark looks like on a line of a rung: 2 is one slide, 3 is two.
type MarkLook struct {
	Mark  scoring.Decimal `json:"mark"`
	Looks string          `json:"looks"`
}

// Requirement asks for a technique at a rung. A rung may ask for one technique more than once.
type Requirement struct {
	ID          string   `json:"id"`
	RungID      string   `json:"rung"`
	SectionID   string   `json:"section"`
	TechniqueID string   `json:"technique"`
	Position    int      `json:"-"`
	Role        Role     `json:"role"`
	Quantity    Quantity `json:"quantity"`
	MustPass    bool     `json:"must_pass,omitzero"`
	Bonus       bool     `json:"bonus,omitzero"`
	Weight      int      `json:"weight"` // 1 to 100
	Note        string   `json:"note,omitempty"`
	RequirementDetails
}

// RequirementDetails is what a requirement may say beyond technique and amount.
type RequirementDetails struct {
	Setting    Setting        `json:"setting,omitempty"`
	Covers     bool           `json:"covers_settings,omitzero"` // shown in this setting it need not be shown in others
	NonStop    bool           `json:"non_stop,omitzero"`        // not counted out
	Slow       bool           `json:"slow,omitzero"`
	Supported  bool           `json:"support_allowed,omitzero"`
	Sprint     int            `json:"sprint,omitzero"`       // seconds before the end at which the table calls a closing sprint
	Checks     []string       `json:"checkpoints,omitempty"` // those that count yet; none: all
	LeastLevel notation.Level `json:"least_level,omitempty"`
	Versions   []string       `json:"versions,omitempty"`   // equally right
	Table      []TableMark    `json:"table,omitempty"`      // of fitness: count → mark
	MarkLooks  []MarkLook     `json:"mark_looks,omitempty"` // what a mark looks like here, by rising mark; none: as the scale says
	Tracks     []TrackChange  `json:"tracks,omitempty"`
	Carry      Carry          `json:"carry,omitzero"`
	StageCap   int            `json:"stage_cap,omitzero"` // 0: none
	ShowAgain  bool           `json:"show_again,omitzero"`
	Free       bool           `json:"free_choice,omitzero"` // the candidate's own; the examiner ticks what was seen
	AtOnce     int            `json:"at_once,omitzero"`     // candidates who can work at once, for want of gear or headroom; 0: all
	Looks      int            `json:"looks,omitzero"`       // an examiner needs of each candidate, 1 to 9; 0: the usual two
	Entries    []string       `json:"entries,omitempty"`    // names of the ways in that are asked, a line each; none: the technique as such
	Voice      Voice          `json:"voice,omitempty"`      // "": as the rung says
	Phases     bool           `json:"by_phases,omitzero"`   // called phase by phase
}

// checkLooks notes what is wrong with what marks look like.
func checkLooks(p *check.Problems, rows []MarkLook) {
	for i, row := range rows {
		p.Line("mark_looks", row.Looks, check.LineLength)
		if row.Looks == "" || i > 0 && row.Mark <= rows[i-1].Mark {
			p.Add("mark_looks", "row %d: a mark and what it looks like, each mark once, the lowest first", i+1)
		}
	}
}

// Check notes what is wrong with a requirement.
func (r Requirement) Check() check.Problems {
	var p check.Problems
	check.OneOf(&p, "role", r.Role, Roles)
	r.Quantity.Check(&p)
	if r.Weight < 1 || r.Weight > 100 {
		p.Add("weight", "is %d; it must be from 1 to 100", r.Weight)
	}
	if r.MustPass && r.Bonus {
		p.Add("bonus", "a bonus line cannot fail anybody; take away either bonus or must pass")
	}
	p.Line("note", r.Note, check.LineLength)
	if r.Setting != "" {
		check.OneOf(&p, "setting", r.Setting, Settings)
	}
	if r.LeastLevel != "" {
		check.OneOf(&p, "least_level", r.LeastLevel, []notation.Level{notation.Low, notation.Mid, notation.High})
	}
	if r.Carry.Kind != "" {
		check.OneOf(&p, "carry", r.Carry.Kind, []CarryKind{Once, Until, Always, Sample})
	}
	if (r.Carry.Kind == Until) != (r.Carry.Rung != "") {
		p.Add("carry", "asked again until a rung needs that rung, and only then")
	}
	if (r.Carry.Kind == Sample) != (r.Carry.Group != "") {
		p.Add("carry", "a line that is drawn needs the group it is drawn from, and only then")
	}
	within := func(field string, n, most int) {
		if n < 0 || n > most {
			p.Add(field, "is %d; it must be from 0 to %d", n, most)
		}
	}
	within("stage_cap", r.StageCap, MaxStages)
	within("at_once", r.AtOnce, 50)
	within("looks", r.Looks, 9)
	within("sprint", r.Sprint, 600)
	if r.Voice != "" {
		check.OneOf(&p, "voice", r.Voice, Voices)
	}
	for i, row := range r.Table {
		if row.Count < 0 || i > 0 && row.Count <= r.Table[i-1].Count {
			p.Add("table", "row %d: counts must rise from row to row", i+1)
		}
	}
	checkLooks(&p, r.MarkLooks)
	seen := map[string]bool{}
	for _, t := range r.Tracks {
		if seen[t.TrackID] {
			p.Add("tracks", "one track is named twice")
		}
		seen[t.TrackID] = true
		if t.Quantity != nil {
			t.Quantity.Check(&p)
		}
		within("tracks", t.StageCap, MaxStages)
	}
	return p
}

// SettingWords are the settings as they stand in a remark.
var SettingWords = map[Setting]string{"air": "in the air", "pads": "on pads", "bag": "on the bag", "partner": "with a partner", "boards": "on boards"}

// Words is the setting as people say it.
func (s Setting) Words() string { return SettingWords[cmp.Or(s, Settings[0])] }

// leftOut reports whether a track leaves a requirement out.
func (r *Requirement) leftOut(track string) bool {
	return slices.ContainsFunc(r.Tracks, func(c TrackChange) bool { return c.TrackID == track && c.LeaveOut })
}
