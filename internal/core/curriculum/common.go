package curriculum

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
)

// Voice says what is shouted; "" is not said, or as the program or the rung says.
type Voice string

// The ways of using the voice.
const (
	ShoutEach  Voice = "each_move"
	ShoutLast  Voice = "last_move"
	ShoutTurns Voice = "turns"
	BreathOnly Voice = "breath"
	NoVoice    Voice = "silent"
)

// Voices are the choices.
var Voices = []Voice{ShoutLast, ShoutTurns, ShoutEach, BreathOnly, NoVoice}

// Words is the voice as people say it.
func (v Voice) Words() string {
	return map[Voice]string{ShoutEach: "shout on each move", ShoutLast: "shout on the last move", ShoutTurns: "shout on the turns", BreathOnly: "breathe out without a shout", NoVoice: "in silence"}[v]
}

// voiced are the kinds of technique that are done with the voice a program or a rung states.
var voiced = map[Kind]bool{"strike": true, "kick": true, "block": true, "combination": true, "form": true, "self_defence": true, "partner_set": true}

// Common is what counts at a rung for every line of a section, a series or a form: it is said
// once at their head and looked for on each.
type Common struct {
	Of   string   `json:"of"` // name of the section, the series or the technique
	Says []string `json:"says"`
}

// String is the line ParseCommon reads.
func (h Common) String() string { return h.Of + ": " + strings.Join(h.Says, "; ") }

// ParseCommon reads one statement a line: a section, a series or a form, a colon, and what
// counts for all its lines, with semicolons between.
func ParseCommon(lines []string) (out []Common, err error) {
	for i, line := range lines {
		if line = check.Tidy(line); line == "" {
			continue
		}
		of, says, found := strings.Cut(line, ":")
		h := Common{Of: check.Tidy(of)}
		for _, s := range strings.Split(says, ";") {
			if s = check.Tidy(s); s != "" {
				h.Says = append(h.Says, s)
			}
		}
		if !found || h.Of == "" || len(h.Says) == 0 {
			return nil, fmt.Errorf("line %d: write a section, a series or a form, a colon, and what counts for all its lines: Forms: eyes before the turn; breathe out on each block", i+1)
		}
		out = append(out, h)
	}
	return out, nil
}

// holding is what counts for a line because of its section, its series or its form, the
// statements of this rung and of the rungs that brought the line here.
func (b *Book) holding(t *Technique, section string, rungs ...int) (out []Throughout) {
	for _, at := range rungs {
		for _, h := range b.Rungs[at].Common {
			key := check.Key(h.Of)
			if key != check.Key(section) && key != check.Key(t.Name) && (t.Series == "" || key != check.Key(t.Series)) {
				continue
			}
			for _, s := range h.Says {
				if x := (Throughout{Says: s}); !slices.Contains(out, x) {
					out = append(out, x)
				}
			}
		}
	}
	return out
}

// base is the technique that a variant shows the checkpoints, faults and surfaces of, where it
// has none of its own; itself where it is no variant.
func (b *Book) base(t *Technique, has func(*Technique) bool) *Technique {
	at := t
	for range len(b.Techniques) {
		if has(at) || len(at.Modifiers) == 0 || len(at.BuildsOn) == 0 {
			return at
		}
		next := b.Technique(at.BuildsOn[0])
		if next == nil {
			return at
		}
		at = next
	}
	return t
}

// Checkpoints are those of a technique, or of the one it is a variant of.
func (b *Book) Checkpoints(t *Technique) []string {
	return b.base(t, func(x *Technique) bool { return len(x.Checkpoints) > 0 }).Checkpoints
}

// checkpointsOf are those that are looked for in a role.
func (b *Book) checkpointsOf(t *Technique, role Role) []string {
	if role == "attacker" && len(t.AttackerLooks) > 0 {
		return t.AttackerLooks
	}
	return b.Checkpoints(t)
}

// Faults are those of a technique, or of the one it is a variant of.
func (b *Book) Faults(t *Technique) []Fault {
	return b.base(t, func(x *Technique) bool { return len(x.Faults) > 0 }).Faults
}

// faultsOf are the faults looked for on a line: those of the technique, and to show what looks
// like it.
func (b *Book) faultsOf(t *Technique) []Fault {
	faults := b.Faults(t)
	if more := b.ApartFaults(t); len(more) > 0 {
		return append(slices.Clip(faults), more...)
	}
	return faults
}

// Surfaces are those of a technique, or of the one it is a variant of.
func (b *Book) Surfaces(t *Technique) []Surface {
	return b.base(t, func(x *Technique) bool { return len(x.Surfaces) > 0 }).Surfaces
}

// surfaceFor is the part that strikes in the setting of a line; "" where none is stated.
func (b *Book) surfaceFor(t *Technique, role Role) string {
	all := b.Surfaces(t)
	context := SurfaceContexts[0]
	switch {
	case t.Kind == "sparring" || t.Kind == "partner_set":
		context = "sparring"
	case t.Kind == "self_defence" || role == "defender" || role == "attacker":
		context = "self-defence"
	}
	for _, s := range all {
		if s.Context == context {
			return s.Part
		}
	}
	return ""
}
