// Package curriculum holds what a school teaches and asks for: ladders of rungs, techniques,
// requirements, and the test sheets made from them.
package curriculum

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/scoring"
)

// RungKind says what a rung is.
type RungKind string

// The kinds of rung. Section stripes and merit stripes are not rungs.
const (
	Belt        RungKind = "belt"
	RankStripe  RungKind = "rank_stripe"  // a rank in its own right, tested formally
	StageStripe RungKind = "stage_stripe" // brings in the next stage of techniques already begun
)

// RungKinds are the choices, in the order screens offer them.
var RungKinds = []RungKind{Belt, RankStripe, StageStripe}

// Words is the kind as people say it.
func (k RungKind) Words() string { return strings.ReplaceAll(string(k), "_", " ") }

// Weave says how a belt's colours lie.
type Weave string

// The weaves.
const (
	Plain    Weave = "plain"
	Halves   Weave = "halves"    // two colours, one above the other along the belt
	CoreLine Weave = "core_line" // a line of the second colour along the middle
)

// Weaves are the choices.
var Weaves = []Weave{Plain, Halves, CoreLine}

// Words is the weave as people say it.
func (w Weave) Words() string {
	return map[Weave]string{Plain: "one colour", Halves: "two halves", CoreLine: "a core line"}[w]
}

// MarkPlace says how marks are sewn on.
type MarkPlace string

// The places of marks.
const (
	Tip        MarkPlace = "tip"        // bars across one end
	Lengthwise MarkPlace = "lengthwise" // a line along the belt
)

// MarkPlaces are the choices.
var MarkPlaces = []MarkPlace{Tip, Lengthwise}

// BeltMarks are bars or lines sewn on a belt.
type BeltMarks struct {
	Colour string    `json:"colour"` // #rrggbb
	Count  int       `json:"count"`  // 1 to MaxMarks
	Place  MarkPlace `json:"place"`
}

// MaxMarks is the most bars or lines one belt shows.
const MaxMarks = 10

// Cloth is what a belt looks like. Order and meaning of colours are the school's own.
type Cloth struct {
	Weave  Weave      `json:"weave"`
	Colour string     `json:"colour"`           // #rrggbb
	Second string     `json:"second,omitempty"` // of halves and core lines
	Marks  *BeltMarks `json:"marks,omitempty"`
}

// Check notes what is wrong with a cloth.
func (c Cloth) Check(p *check.Problems) {
	check.OneOf(p, "weave", c.Weave, Weaves)
	colour(p, "colour", c.Colour)
	if c.Weave != Plain {
		colour(p, "second", c.Second)
	}
	if c.Marks != nil {
		colour(p, "mark_colour", c.Marks.Colour)
		check.OneOf(p, "mark_place", c.Marks.Place, MarkPlaces)
		if c.Marks.Count < 1 || c.Marks.Count > MaxMarks {
			p.Add("mark_count", "is %d; it must be from 1 to %d", c.Marks.Count, MaxMarks)
		}
	}
}

func colour(p *check.Problems, field, value string) {
	if len(value) != 7 || value[0] != '#' || strings.Trim(value[1:], "0123456789abcdef") != "" {
		p.Add(field, "%q is not a colour; write one as #rrggbb, for example #b03a2e", value)
	}
}

// Program is one art on one ladder.
type Program struct {
	ID             string `json:"id"`
	Name           string `json:"name"`
	SecondLanguage string `json:"second_language,omitempty"` // of the terms beside English, "" for none
	ProgramDetails
}

// ProgramDetails is what belongs to a program as a whole.
type ProgramDetails struct {
	Tracks        []Track         `json:"tracks,omitempty"`
	Groups        []SampleGroup   `json:"sample_groups,omitempty"`
	Commands      []Command       `json:"commands,omitempty"`
	Counting      []string        `json:"counting,omitempty"` // the counting words from one on
	Opening       []string        `json:"opening,omitempty"`  // what is done when the hall opens, in order
	Closing       []string        `json:"closing,omitempty"`
	PermanentFrom string          `json:"permanent_from,omitempty"` // rung from which on every grade is permanent; below it grades are provisional. "": all are permanent
	SideMeans     SideMeaning     `json:"side_means,omitempty"`     // what a side of an amount usually is; "": a change of stance
	Voice         Voice           `json:"voice,omitempty"`          // what is usually shouted; "": not said
	Marking       Marking         `json:"marking,omitempty"`        // the usual school of marking
	Policy        *scoring.Policy `json:"policy,omitempty"`         // the usual policy; nil: not said
	Silenced      []Silence       `json:"silenced,omitempty"`
	Attacks       []OwnAttack     `json:"attacks,omitempty"`          // kinds that the school added
	NoAttacks     []AttackKind    `json:"attacks_left_out,omitempty"` // usual kinds it does not teach against
	Meanings      []Meaning       `json:"words,omitempty"`            // words of the second language in names, and what they mean
	Brackets      Brackets        `json:"brackets,omitempty"`         // what stands in brackets behind a name on a page; "": asked
	NoSeries      []string        `json:"no_series,omitempty"`        // names with a number that are no numbers of a series
	// ReadAnew: moves were written when they were read in another way; what differs is still to
	// be shown to the owner.
	ReadAnew bool `json:"moves_read_anew,omitzero"`
	// SignedOffAnew: what counts as signed off is reckoned in another way since an upgrade; whose
	// answer is another one is still to be shown to the owner.
	SignedOffAnew bool `json:"signed_off_anew,omitzero"`
}

// Marking is the school of marking a grading follows.
type Marking string

// The schools of marking.
const (
	MovementScale  Marking = "movement_scale"  // one mark per line
	CategoryPoints Marking = "category_points" // lines are prompts, one mark per category
	SignOff        Marking = "sign_off"        // shown or not yet, per line
)

// Words is the marking as people say it.
func (m Marking) Words() string {
	return map[Marking]string{MovementScale: "movement scale, a mark for each line", CategoryPoints: "category points, a mark for each section", SignOff: "sign-off, shown or not yet"}[m]
}

// Track is a way of grading the same ladder by age or status.
type Track struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	From int    `json:"from_age,omitzero"` // years, inclusive; 0: from birth
	To   int    `json:"to_age,omitzero"`   // years, inclusive; 0: no end
	// Young tracks are warned of chokes, weapons and the like.
	Young bool `json:"young,omitzero"`
	// AllowsRisk: the owner has allowed chokes and neck holds on this young track.
	AllowsRisk bool `json:"allows_risk,omitzero"`
}

// Ages is the track's range in words.
func (t Track) Ages() string {
	switch {
	case t.From == 0 && t.To == 0:
		return "any age"
	case t.To == 0:
		return fmt.Sprintf("%d and over", t.From)
	case t.From == 0:
		return fmt.Sprintf("up to %d", t.To)
	}
	return fmt.Sprintf("%d to %d", t.From, t.To)
}

// Holds reports whether an age in whole years falls into the track.
func (t Track) Holds(age int) bool { return age >= t.From && (t.To == 0 || age <= t.To) }

// SampleGroup is a pool of lines of which some are drawn at each grading.
type SampleGroup struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Draw int    `json:"draw"` // lines drawn, 1 to 50
	// Outright: at its own rung a line is asked in any case, and drawn only above it.
	Outright bool `json:"outright,omitzero"`
}

// Command is a word the caller uses.
type Command struct {
	Word    string `json:"word"`
	Meaning string `json:"meaning"`
}

// Silence keeps one finding of the ladder check quiet, with a reason.
type Silence struct {
	Finding string `json:"finding"` // Finding.Key
	Reason  string `json:"reason"`
}

// TrackOf is the track an age falls into; the first that holds it. found is false where none does.
func (x ProgramDetails) TrackOf(age int) (Track, bool) {
	for _, t := range x.Tracks {
		if t.Holds(age) {
			return t, true
		}
	}
	return Track{}, false
}

// Check notes what is wrong with a program.
func (x Program) Check() check.Problems {
	var p check.Problems
	p.Name("name", x.Name)
	p.Line("second_language", x.SecondLanguage, check.NameLength)
	names := map[string]bool{}
	for _, t := range x.Tracks {
		p.Name("tracks", t.Name)
		if t.From < 0 || t.From > 120 || t.To < 0 || t.To > 120 || t.To != 0 && t.To < t.From {
			p.Add("tracks", "%s runs from %d to %d; write ages from 0 to 120, the lower one first", t.Name, t.From, t.To)
		}
		if names[check.Key(t.Name)] {
			p.Add("tracks", "%q stands twice", t.Name)
		}
		names[check.Key(t.Name)] = true
	}
	names = map[string]bool{}
	for _, g := range x.Groups {
		p.Name("groups", g.Name)
		if g.Draw < 1 || g.Draw > 50 {
			p.Add("groups", "%s draws %d; a sample is of 1 to 50 lines", g.Name, g.Draw)
		}
		if names[check.Key(g.Name)] {
			p.Add("groups", "%q stands twice", g.Name)
		}
		names[check.Key(g.Name)] = true
	}
	for _, c := range x.Commands {
		p.Name("commands", c.Word)
		p.Line("commands", c.Meaning, check.LineLength)
	}
	if x.SideMeans != "" {
		check.OneOf(&p, "side_means", x.SideMeans, SideMeanings)
	}
	if x.Brackets != "" {
		check.OneOf(&p, "brackets", x.Brackets, []Brackets{BracketTerms, BracketRemarks})
	}
	var words []string
	for _, m := range x.Meanings {
		words = append(words, m.String())
	}
	if _, err := ParseMeanings(words); err != nil {
		p.Add("words", "%s", err)
	}
	if x.Voice != "" {
		check.OneOf(&p, "voice", x.Voice, Voices)
	}
	if x.Policy != nil {
		check.OneOf(&p, "marking", x.Marking, []Marking{MovementScale, CategoryPoints, SignOff})
		if err := x.Policy.Check(); err != nil {
			p.Add("policy", "%s", err)
		}
	}
	return p
}

// Rung is one place on a ladder. Position 0 is the lowest.
type Rung struct {
	ID        string   `json:"id"`
	ProgramID string   `json:"-"`
	Position  int      `json:"-"`
	Kind      RungKind `json:"kind"`
	Name      string   `json:"name"` // the rank in the school's own words
	Cloth     Cloth    `json:"cloth"`
	RungDetails
}

// RungDetails is what a rung states besides what it asks for.
type RungDetails struct {
	Kit      []string        `json:"kit,omitempty"`             // to be owned for the test
	Sparring *SparringRule   `json:"sparring,omitempty"`        // nil: none of its own; the one of the rung below holds
	Stripes  []SectionStripe `json:"section_stripes,omitempty"` // earned in class on the way to this rung, in any order
	Rules    []Rule          `json:"rules,omitempty"`           // of eligibility; all must hold
	Note     string          `json:"note,omitempty"`
	Panel    int             `json:"panel,omitzero"`   // how many examiners its test asks for at least, 0 as many as there are
	Voice    Voice           `json:"voice,omitempty"`  // "": as the program says
	Common   []Common        `json:"common,omitempty"` // what counts for all lines of a section, a series or a form
}

// SectionStripe is awarded when a section of this rung's requirements is signed off.
type SectionStripe struct {
	SectionID string `json:"section"`
	Colour    string `json:"colour"` // #rrggbb
}

// Contact says how hard sparring may be.
type Contact string

// Contacts are the choices; none until the school says otherwise.
var Contacts = []Contact{"none", "touch", "light"}

// SparringRule states separately what a bout allows.
type SparringRule struct {
	Limbs   string  `json:"limbs"`   // allowed to strike: "hands only", "hands and feet"
	Targets string  `json:"targets"` // that may be touched or shown at
	Contact Contact `json:"contact"`
	Scoring string  `json:"scoring"`
}

// Words is what the rule says, in one line; what is not stated is left out.
func (s *SparringRule) Words() string {
	contact := ""
	if s.Contact != "" {
		contact = "contact " + string(s.Contact)
	}
	parts := []string{s.Limbs, s.Targets, contact, s.Scoring}
	return strings.Join(slices.DeleteFunc(parts, func(part string) bool { return part == "" }), "; ")
}

// Check notes what is wrong with a rung.
func (r Rung) Check() check.Problems {
	var p check.Problems
	p.Name("name", r.Name)
	check.OneOf(&p, "kind", r.Kind, RungKinds)
	r.Cloth.Check(&p)
	for _, s := range r.Stripes {
		colour(&p, "stripes", s.Colour)
	}
	if s := r.Sparring; s != nil {
		check.OneOf(&p, "contact", s.Contact, Contacts)
		p.Line("limbs", s.Limbs, check.LineLength)
		p.Line("targets", s.Targets, check.LineLength)
		p.Line("scoring", s.Scoring, check.LineLength)
	}
	checkRules(&p, r.Rules)
	if r.Voice != "" {
		check.OneOf(&p, "voice", r.Voice, Voices)
	}
	for _, h := range r.Common {
		p.Name("common", h.Of)
		for _, line := range h.Says {
			p.Line("common", line, check.LineLength)
		}
	}
	p.Line("rung_note", r.Note, check.LineLength)
	return p
}

// Short is the name without the word "belt": Yellow. "Yellow stripe", "Yellow belt, black stripe" and "No belt" say it in full, so that no two rungs
// are called the same.
func (r Rung) Short() string {
	if s, cut := strings.CutSuffix(r.Name, " belt"); cut && s != "" && !strings.Contains(s, ",") && !strings.EqualFold(s, "no") {
		return s
	}
	return r.Name
}

// Pictured is what stands beside its cloth, which tells a stripe from a belt: "Yellow" for both.
func (r Rung) Pictured() string {
	if s, cut := strings.CutSuffix(r.Name, " stripe"); cut && s != "" && !strings.Contains(s, ",") {
		return s
	}
	return r.Short()
}

// Section groups requirements of a program: strikes, kicks, forms …
type Section struct {
	ID        string `json:"id"`
	ProgramID string `json:"-"`
	Name      string `json:"name"`
	Kind      Kind   `json:"kind,omitempty"` // of what is new in it, whatever it is called; "": the line says it
	Position  int    `json:"-"`
}

// DefaultSections are what a new program begins with.
var DefaultSections = []string{
	"Courtesy", "Stances", "Strikes", "Kicks", "Blocks", "Evasions", "Combinations", "Forms", "Self-defence",
	"Sparring", "Fitness", "Knowledge", "Character",
}
