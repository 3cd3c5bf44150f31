package curriculum

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"

	"velvetladder/internal/core/check"
)

// Entry is a way into a technique: a lock taken by a direct grip, by a counter-grip, or after
// redirecting. Its steps come before those of the technique.
type Entry struct {
	Name      string   `json:"name"`
	Initiated bool     `json:"initiated,omitzero"` // the performer begins; nothing is answered
	Steps     []Step   `json:"steps,omitempty"`
	Success   []string `json:"success_signs,omitempty"`
}

// UnmarshalJSON reads an entry, and the bare name that was all there was of one before.
func (e *Entry) UnmarshalJSON(text []byte) error {
	if len(text) > 0 && text[0] == '"' {
		return json.Unmarshal(text, &e.Name)
	}
	type plain Entry
	read := json.NewDecoder(bytes.NewReader(text))
	read.DisallowUnknownFields()
	return read.Decode((*plain)(e))
}

// Entry is the entry of a name, nil where there is none.
func (t *Technique) Entry(name string) *Entry {
	for i := range t.Entries {
		if name != "" && check.Key(t.Entries[i].Name) == check.Key(name) {
			return &t.Entries[i]
		}
	}
	return nil
}

// maxEntries bounds the ways into one technique.
const maxEntries = 12

func (t *Technique) checkEntries(p *check.Problems) {
	if len(t.Entries) > maxEntries {
		p.Add("entries", "there are %d; up to %d fit", len(t.Entries), maxEntries)
	}
	seen := map[string]bool{}
	for _, e := range t.Entries {
		p.Name("entries", e.Name)
		if seen[check.Key(e.Name)] {
			p.Add("entries", "%q stands twice", e.Name)
		}
		seen[check.Key(e.Name)] = true
		for _, s := range e.Steps {
			p.Line("entries", s.Moves, check.TextLength)
			p.Line("entries", s.Answers, check.LineLength)
		}
		for _, s := range e.Success {
			p.Line("entries", s, check.LineLength)
		}
	}
}

// ParseEntries reads entries as they stand in a field: the name on a line of its own, under it
// its steps, each after a dash, and a sign of success after "works when". "own start" behind
// the name in parentheses says that the performer begins.
//
//	Counter-grip
//	- same-side grip; the wrist grab
//	- Turn the thumb down.
//	works when: the partner rises on the toes
func ParseEntries(lines []string) (out []Entry, err error) {
	for i, line := range lines {
		line = check.Tidy(line)
		step, isStep := strings.CutPrefix(line, "-")
		sign, isSign := cutFold(line, "works when:")
		switch {
		case line == "":
		case (isStep || isSign) && len(out) == 0:
			return nil, fmt.Errorf("line %d: the name of the way in comes first, on a line of its own", i+1)
		case isStep:
			out[len(out)-1].Steps = append(out[len(out)-1].Steps, ParseSteps([]string{step})...)
		case isSign:
			out[len(out)-1].Success = append(out[len(out)-1].Success, check.Tidy(sign))
		default:
			e := Entry{Name: line}
			if name, initiated := cutFoldEnd(line, "(own start)"); initiated {
				e.Name, e.Initiated = check.Tidy(name), true
			}
			out = append(out, e)
		}
	}
	return out, nil
}

func cutFold(line, prefix string) (rest string, found bool) {
	if len(line) >= len(prefix) && strings.EqualFold(line[:len(prefix)], prefix) {
		return line[len(prefix):], true
	}
	return line, false
}

func cutFoldEnd(line, suffix string) (rest string, found bool) {
	if n := len(line) - len(suffix); n >= 0 && strings.EqualFold(line[n:], suffix) {
		return line[:n], true
	}
	return line, false
}

// String is the lines ParseEntries reads.
func (e Entry) String() string {
	out := []string{e.Name}
	if e.Initiated {
		out[0] += " (own start)"
	}
	for _, s := range e.Steps {
		out = append(out, "- "+s.String())
	}
	for _, s := range e.Success {
		out = append(out, "works when: "+s)
	}
	return strings.Join(out, "\n")
}
