package curriculum

import (
	"fmt"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
)

// Part is a named part of a form or a technique: its steps from … to, put together the whole.
type Part struct {
	Name string `json:"name"`
	From int    `json:"from"` // step, from 1
	To   int    `json:"to"`   // step, inclusive
}

// String is the line ParseParts reads: "The weir: 3 to 6".
func (p Part) String() string { return fmt.Sprintf("%s: %d to %d", p.Name, p.From, p.To) }

// ParseParts reads one part a line: its name, a colon, and its steps.
func ParseParts(lines []string) (out []Part, err error) {
	for i, line := range lines {
		name, steps, found := strings.Cut(line, ":")
		words := strings.Fields(strings.NewReplacer("–", " to ", "-", " to ").Replace(steps))
		p := Part{Name: check.Tidy(name)}
		var wrong error
		switch {
		case found && len(words) == 1:
			p.From, wrong = strconv.Atoi(words[0])
			p.To = p.From
		case found && len(words) == 3 && words[1] == "to":
			if p.From, wrong = strconv.Atoi(words[0]); wrong == nil {
				p.To, wrong = strconv.Atoi(words[2])
			}
		default:
			found = false
		}
		if !found || wrong != nil || p.Name == "" {
			return nil, fmt.Errorf("line %d: write a name, a colon and its steps, for example The weir: 3 to 6", i+1)
		}
		out = append(out, p)
	}
	return out, nil
}

func (t *Technique) checkParts(p *check.Problems) {
	steps := len(t.StepsAt(len(t.Stages)))
	seen := map[string]bool{}
	for _, x := range t.Parts {
		p.Name("parts", x.Name)
		if x.From < 1 || x.To < x.From || x.To > steps {
			p.Add("parts", "%s has the steps %d to %d; the technique has %d", x.Name, x.From, x.To, steps)
		}
		if seen[check.Key(x.Name)] {
			p.Add("parts", "%q stands twice", x.Name)
		}
		seen[check.Key(x.Name)] = true
	}
}
