package curriculum

import (
	"strings"

	"velvetladder/internal/core/check"
)

// Kind says what sort of thing a technique is.
type Kind string

// Kinds are the kinds of technique, in the order screens offer them.
var Kinds = []Kind{
	"strike", "kick", "block", "evasion", "stance", "footwork", "lock", "throw", "breakfall", "form", "combination",
	"self_defence", "partner_set", "sparring", "fitness", "balance", "knowledge", "courtesy", "board_break", "character",
}

var kindWords = map[Kind]string{
	"block": "block or parry", "lock": "lock or hold", "throw": "throw or takedown", "self_defence": "self-defence technique",
	"partner_set": "partner set", "sparring": "sparring round", "fitness": "fitness item", "balance": "balance drill",
	"knowledge": "knowledge question", "courtesy": "courtesy item", "board_break": "board break", "character": "character task",
}

// Words is the kind as people say it.
func (k Kind) Words() string {
	if w := kindWords[k]; w != "" {
		return w
	}
	return string(k)
}

// sectionOfKind is where a requirement of a kind usually stands.
var sectionOfKind = map[Kind]string{
	"strike": "Strikes", "kick": "Kicks", "block": "Blocks", "evasion": "Evasions", "stance": "Stances", "footwork": "Stances",
	"lock": "Self-defence", "throw": "Self-defence", "breakfall": "Self-defence", "form": "Forms", "combination": "Combinations",
	"self_defence": "Self-defence", "partner_set": "Sparring", "sparring": "Sparring", "fitness": "Fitness", "balance": "Stances",
	"knowledge": "Knowledge", "courtesy": "Courtesy", "board_break": "Kicks", "character": "Character",
}

// SectionOfKind is the name of the default section where a kind usually stands.
func SectionOfKind(k Kind) string { return sectionOfKind[k] }

// KindOfSection guesses the kind of a technique first met in a section, for quick entry.
func KindOfSection(section string) Kind {
	for _, k := range Kinds {
		if strings.EqualFold(sectionOfKind[k], section) {
			return k
		}
	}
	return "strike"
}

// Fault is what is seen when a technique goes wrong.
type Fault struct {
	Seen       string `json:"seen"`
	Correction string `json:"correction,omitempty"`
}

// Surface is the part that strikes in one context; the wrong one injures.
type Surface struct {
	Context string `json:"context"` // basics, sparring, self-defence
	Part    string `json:"part"`
}

// SurfaceContexts are the contexts a striking surface is stated for.
var SurfaceContexts = []string{"basics", "sparring", "self-defence"}

// Technique is anything a requirement can name.
type Technique struct {
	ID, ProgramID string
	Name          string
	Kind          Kind
	Term          string // in the program's second language, romanised
	Aliases       []string
	Checkpoints   []string // ordered, observable
	Faults        []Fault
	Cautions      []string
	Surfaces      []Surface
	Note          string // as people would write it on a card: the moves, the attack
}

// Check notes what is wrong with a technique.
func (t Technique) Check() check.Problems {
	var p check.Problems
	p.Name("name", t.Name)
	p.Line("term", t.Term, check.NameLength)
	p.Line("note", t.Note, check.LineLength)
	check.OneOf(&p, "kind", t.Kind, Kinds)
	seen := map[string]bool{check.Key(t.Name): true}
	for _, a := range t.Aliases {
		p.Line("aliases", a, check.NameLength)
		if seen[check.Key(a)] {
			p.Add("aliases", "%q stands twice; an alias is another name", a)
		}
		seen[check.Key(a)] = true
	}
	return p
}

// ParseFaults reads one fault a line, with the correction after an arrow or "->".
func ParseFaults(lines []string) (out []Fault) {
	for _, line := range lines {
		seen, correction, _ := strings.Cut(strings.ReplaceAll(line, "->", "→"), "→")
		out = append(out, Fault{check.Tidy(seen), check.Tidy(correction)})
	}
	return out
}

// String is the line ParseFaults reads.
func (f Fault) String() string {
	if f.Correction == "" {
		return f.Seen
	}
	return f.Seen + " → " + f.Correction
}

// riskOf are the cautions that come with a kind whether or not the school has written its own.
var riskOf = map[Kind]string{
	"lock":        "Slow, growing pressure, never jerk. Agree a tap and a word first; release at once.",
	"throw":       "Breakfalls first, mats, matched partners, supervised.",
	"sparring":    "The rung's rule, kit checked, stop word. Any sign of concussion ends sparring for the day.",
	"fitness":     "Stop on pain or dizziness; warm up; adapt for injury.",
	"board_break": "The right surface; an adult holds; adapt for age.",
}

// AllCautions are the school's own cautions and the ones that come with the kind.
func (t Technique) AllCautions() []string {
	out := append([]string{}, t.Cautions...)
	if c := riskOf[t.Kind]; c != "" {
		out = append(out, c)
	}
	return out
}
