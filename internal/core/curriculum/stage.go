package curriculum

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
)

// Does says what a stage does to the steps taught before it.
type Does string

// What a stage does.
const (
	Appends      Does = "append"       // adds its steps at the end
	Alters       Does = "alter"        // puts its steps in the place of as many, from step From on
	ReplacesTail Does = "replace_tail" // puts its steps in the place of all from step From on
	Attaches     Does = "attach"       // goes on with another technique
)

// Words is what a stage does as people say it.
func (d Does) Words() string {
	return map[Does]string{Appends: "adds steps", Alters: "alters steps", ReplacesTail: "ends differently", Attaches: "goes on with another technique"}[d]
}

// Shown says how later stages appear to those below their rung.
type Shown string

// The ways a later stage is shown; "" is taught.
const (
	Hidden    Shown = "hidden"
	OpenToTry Shown = "open"
	Taught    Shown = "taught"
)

// Words is the way of showing as people say it.
func (s Shown) Words() string {
	return map[Shown]string{Hidden: "hidden below its rung", OpenToTry: "open to try below its rung", Taught: "taught below its rung too"}[s]
}

// Stage is a part of a technique that arrives on a rung. The first stage of a technique has
// no rung where it arrives with whatever rung asks for it first.
type Stage struct {
	RungID   string `json:"rung,omitempty"`
	Name     string `json:"name,omitempty"` // such as extension
	Does     Does   `json:"does"`
	From     int    `json:"from,omitzero"` // step, from 1, of alter and replace_tail
	Steps    []Step `json:"steps,omitempty"`
	Attached string `json:"attached,omitempty"` // technique id
	Shown    Shown  `json:"shown,omitempty"`
	// Optional: either ending is right, with this part or without. It holds of the last part
	// alone: a part behind it makes it obligatory.
	Optional bool   `json:"optional,omitzero"`
	Note     string `json:"note,omitempty"`
}

// Step is one beat of a technique.
type Step struct {
	Moves   string `json:"moves"`             // in notation, or plain words
	Answers string `json:"answers,omitempty"` // the attack move or reaction it answers
}

// String is the line ParseSteps reads: the moves, and after a semicolon what they answer.
func (s Step) String() string {
	if s.Answers == "" {
		return s.Moves
	}
	return s.Moves + "; " + s.Answers
}

func (s Stage) check(p *check.Problems, i int) {
	field := fmt.Sprintf("stage_%d", i)
	check.OneOf(p, field, s.Does, []Does{Appends, Alters, ReplacesTail, Attaches})
	if s.Shown != "" {
		check.OneOf(p, field, s.Shown, []Shown{Hidden, OpenToTry, Taught})
	}
	switch {
	case i == 0 && s.Does != Appends:
		p.Add(field, "the first part can only append; there is nothing before it to change")
	case s.Does == Attaches && s.Attached == "":
		p.Add(field, "names no technique to go on with")
	case (s.Does == Alters || s.Does == ReplacesTail) && s.From < 1:
		p.Add(field, "from which step on is not said; write a step from 1 on")
	case s.Does != Attaches && len(s.Steps) == 0:
		p.Add(field, "has no steps; write one a line")
	case i == 0 && s.Optional:
		p.Add(field, "is the whole technique; only a later part may be left out")
	case i > 0 && s.RungID == "":
		p.Add(field, "has no rung; a later part arrives on one")
	}
	p.Line(field, s.Name, check.NameLength)
	p.Line(field, s.Note, check.LineLength)
	for _, x := range s.Steps {
		p.Line(field, x.Moves, check.TextLength)
		p.Line(field, x.Answers, check.LineLength)
	}
}

// ParseSteps reads one step a line.
func ParseSteps(lines []string) (out []Step) {
	for _, line := range lines {
		moves, answers, _ := strings.Cut(line, ";")
		out = append(out, Step{check.Tidy(moves), check.Tidy(answers)})
	}
	return out
}

// TaughtStep is a step of a technique as it stands at a stage.
type TaughtStep struct {
	Step
	Stage    int    // that brought it, from 1; 0 of an entry
	Entry    string // name of the entry it belongs to; "" it is the technique's own
	Attached string // technique id, of a step that goes on with another technique
	Of       string // technique id, of a step that another technique brings; "" its own
	Number   int    // in its stage or entry, from 1
}

// StepsAt are the steps of a technique with the stages up to n, 1 being the first; 0 has none.
func (t Technique) StepsAt(n int) (out []TaughtStep) {
	for i, s := range t.Stages[:min(max(n, 0), len(t.Stages))] {
		var own []TaughtStep
		for k, x := range s.Steps {
			own = append(own, TaughtStep{Step: x, Stage: i + 1, Number: k + 1})
		}
		at := min(max(s.From-1, 0), len(out))
		switch s.Does {
		case Appends:
			out = append(out, own...)
		case Attaches:
			out = append(append(out, own...), TaughtStep{Stage: i + 1, Attached: s.Attached})
		case ReplacesTail:
			out = append(slices.Clone(out[:at]), own...)
		case Alters:
			rest := out[min(at+len(own), len(out)):]
			out = append(append(slices.Clone(out[:at]), own...), rest...)
		}
	}
	return out
}

// MovesLine is the steps as one line of notation; the step with an attached technique names it.
func MovesLine(steps []TaughtStep) string {
	var out []string
	for _, s := range steps {
		if s.Moves != "" {
			out = append(out, s.Moves)
		}
	}
	return strings.Join(out, " / ")
}

// StageName is what a stage is called: its own name, or its number.
func (t Technique) StageName(n int) string {
	if n >= 1 && n <= len(t.Stages) && t.Stages[n-1].Name != "" {
		return t.Stages[n-1].Name
	}
	return "stage " + strconv.Itoa(n)
}

// stageNames are the names of all stages by number, from 0, which is none and has none.
func (t *Technique) stageNames() []string {
	out := []string{""}
	for n := range t.Stages {
		out = append(out, t.StageName(n+1))
	}
	return out
}

// Tail is the number of the last stage where it may be left out, 0 where none may.
func (t *Technique) Tail() int {
	if n := len(t.Stages); n > 1 && t.Stages[n-1].Optional {
		return n
	}
	return 0
}

// obligatory is how many stages a technique has that are no optional tail.
func (t *Technique) obligatory() int {
	if n := t.Tail(); n > 0 {
		return n - 1
	}
	return len(t.Stages)
}

// eitherEnding says that an optional tail is on the sheet of a rung: its own steps, which nobody
// has to show; none where there is none, or not yet.
func (b *Book) eitherEnding(t *Technique, at int) Throughout {
	n := t.Tail()
	if n == 0 {
		return Throughout{}
	}
	s := t.Stages[n-1]
	if from, there := b.rungs[s.RungID]; s.RungID != "" && (!there || from > at) {
		return Throughout{}
	}
	var steps []string
	for _, x := range s.Steps {
		steps = append(steps, strings.TrimSuffix(x.Moves, "."))
	}
	if next := b.Technique(s.Attached); next != nil {
		steps = append(steps, next.Name)
	}
	return Throughout{Part: t.StageName(n), Steps: strings.Join(steps, " / ")}
}

// Steps splits a line of moves into steps, one for each count.
func Steps(line string) (out []Step) {
	depth, from := 0, 0
	cut := func(to int) {
		if part := check.Tidy(line[from:to]); part != "" {
			out = append(out, Step{Moves: part})
		}
		from = to + 1
	}
	for i, r := range line {
		switch {
		case r == '(':
			depth++
		case r == ')':
			depth--
		case r == '/' && depth == 0: // a stroke within a note is part of the note
			cut(i)
		}
	}
	cut(len(line))
	return out
}
