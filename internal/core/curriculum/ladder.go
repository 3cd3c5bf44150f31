// Package curriculum holds what a school teaches and asks for: ladders of rungs, techniques,
// requirements, and the test sheets made from them.
package curriculum

import (
	"strings"

	"velvetladder/internal/core/check"
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
	ID, Name       string
	SecondLanguage string // of the terms beside English, "" for none
}

// Check notes what is wrong with a program.
func (x Program) Check() check.Problems {
	var p check.Problems
	p.Name("name", x.Name)
	p.Line("second_language", x.SecondLanguage, check.NameLength)
	return p
}

// Rung is one place on a ladder. Position 0 is the lowest.
type Rung struct {
	ID, ProgramID string
	Position      int
	Kind          RungKind
	Name          string // the rank in the school's own words
	Cloth         Cloth
}

// Check notes what is wrong with a rung.
func (r Rung) Check() check.Problems {
	var p check.Problems
	p.Name("name", r.Name)
	check.OneOf(&p, "kind", r.Kind, RungKinds)
	r.Cloth.Check(&p)
	return p
}

// Short is the name without the word "belt" or "stripe", for places where the picture says it.
func (r Rung) Short() string {
	for _, end := range []string{" belt", " stripe"} {
		if s, cut := strings.CutSuffix(r.Name, end); cut && s != "" {
			return s
		}
	}
	return r.Name
}

// Section groups requirements of a program: strikes, kicks, forms …
type Section struct {
	ID, ProgramID, Name string
	Position            int
}

// DefaultSections are what a new program begins with.
var DefaultSections = []string{
	"Courtesy", "Stances", "Strikes", "Kicks", "Blocks", "Evasions", "Combinations", "Forms", "Self-defence",
	"Sparring", "Fitness", "Knowledge", "Character",
}
