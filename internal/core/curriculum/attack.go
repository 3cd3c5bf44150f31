package curriculum

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
)

// AttackKind says what an attack is.
type AttackKind string

// AttackKinds are the choices, in the order coverage lists them.
var AttackKinds = []AttackKind{
	"straight punch", "hook", "push", "wrist grab", "two-hand wrist grab", "shoulder grab", "two-hand shoulder grab", "lapel grab", "two-hand lapel grab",
	"front choke", "rear choke", "hug", "headlock", "front kick", "round kick", "side kick", "push kick", "club", "knife overhead", "knife thrust", "ground mounted", "ground face down",
}

// Weapon reports whether the attacker holds one.
func (k AttackKind) Weapon() bool { return k == "club" || strings.HasPrefix(string(k), "knife") }

// Choke reports whether the neck is held.
func (k AttackKind) Choke() bool { return strings.HasSuffix(string(k), "choke") || k == "headlock" }

// Motion says how an attacker moves; "" is not said.
type Motion string

// Motions are the choices.
var Motions = []Motion{"step-through", "lunge", "static"}

// Origin says where an attack comes from.
type Origin string

// Origins are the choices; the first is the usual one.
var Origins = []Origin{"front", "side", "rear", "ground"}

// AttackElement is one part of an attack.
type AttackElement struct {
	Kind   AttackKind     `json:"kind"`
	Side   notation.Side  `json:"side,omitempty"`  // the attacker's; "" either
	Level  notation.Level `json:"level,omitempty"` // "" unknown
	Motion Motion         `json:"motion,omitempty"`
	Origin Origin         `json:"origin"`
}

// AttackSides are the sides an attack may come on.
var AttackSides = []notation.Side{notation.Left, notation.Right, notation.Lead, notation.Rear, notation.Both}

func (a AttackElement) check(p *check.Problems, i int) {
	var q check.Problems
	check.OneOf(&q, "kind", a.Kind, AttackKinds)
	if a.Side != "" {
		check.OneOf(&q, "side", a.Side, AttackSides)
	}
	if a.Level != "" {
		check.OneOf(&q, "level", a.Level, []notation.Level{notation.Low, notation.Mid, notation.High})
	}
	if a.Motion != "" {
		check.OneOf(&q, "motion", a.Motion, Motions)
	}
	check.OneOf(&q, "origin", a.Origin, Origins)
	if len(q) > 0 {
		p.Add("attack", "line %d: %s", i+1, q.Error())
	}
}

// String is the line ParseAttack reads: "right straight punch, high, step-through, front".
func (a AttackElement) String() string {
	parts := []string{strings.TrimSpace(string(a.Side) + " " + string(a.Kind))}
	for _, x := range []string{string(a.Level), string(a.Motion), string(a.Origin)} {
		if x != "" {
			parts = append(parts, x)
		}
	}
	return strings.Join(parts, ", ")
}

// ParseAttack reads one element a line: the kind, and in any order side, level, motion and
// origin, which is the front where none is said. "rear" before the attack is a side, after it
// an origin.
func ParseAttack(lines []string) (out []AttackElement, err error) {
	for i, line := range lines {
		a := AttackElement{}
		words := strings.Fields(strings.ToLower(strings.ReplaceAll(line, ",", " ")))
		for len(words) > 0 {
			n, err := a.take(words)
			if err != nil {
				return nil, fmt.Errorf("line %d: %w", i+1, err)
			}
			words = words[n:]
		}
		if a.Kind == "" {
			return nil, fmt.Errorf("line %d: %q names no attack; write for example: right straight punch, high, step-through, front", i+1, line)
		}
		if a.Origin == "" {
			a.Origin = originOf(a.Kind)
		}
		out = append(out, a)
	}
	return out, nil
}

func originOf(k AttackKind) Origin {
	switch {
	case strings.HasPrefix(string(k), "ground"):
		return "ground"
	case strings.HasPrefix(string(k), "rear"):
		return "rear"
	}
	return Origins[0]
}

// take reads what the words begin with and returns how many it took. The longest kind wins:
// "front kick" is no origin.
func (a *AttackElement) take(words []string) (int, error) {
	for n := min(4, len(words)); n > 0; n-- {
		phrase := strings.Join(words[:n], " ")
		at := slices.Index(AttackKinds, AttackKind(phrase))
		switch {
		case at >= 0 && a.Kind != "":
			return 0, fmt.Errorf("both %s and %s; write each on a line of its own, in order", a.Kind, phrase)
		case at >= 0:
			a.Kind = AttackKinds[at]
			return n, nil
		}
	}
	w := words[0]
	switch {
	case w == "rear" && a.Kind != "": // before the attack it is a side, after it an origin
		a.Origin = "rear"
	case slices.Contains(AttackSides, notation.Side(w)):
		a.Side = notation.Side(w)
	case w == "either" || w == "unknown":
	case w == "low" || w == "mid" || w == "high":
		a.Level = notation.Level(w)
	case slices.Contains(Motions, Motion(w)):
		a.Motion = Motion(w)
	case slices.Contains(Origins, Origin(w)):
		a.Origin = Origin(w)
	default:
		kinds := make([]string, len(AttackKinds))
		for i, k := range AttackKinds {
			kinds[i] = string(k)
		}
		return 0, fmt.Errorf("%q is no attack, side, level, motion or origin; attacks are %s", w, strings.Join(kinds, ", "))
	}
	return 1, nil
}

func attackWords(attack []AttackElement) string {
	var out []string
	for _, a := range attack {
		out = append(out, strings.TrimSpace(string(a.Side)+" "+string(a.Kind)))
	}
	return strings.Join(out, ", then ")
}
