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

// AttackKinds are the usual ones, in the order coverage lists them. A school adds its own and leaves
// out what it does not teach against.
var AttackKinds = []AttackKind{
	"straight punch", "lunge punch", "hook", "uppercut", "back fist", "hammer fist", "elbow", "knee", "head butt", "chop", "slap", "push", "wrist grab", "two-hand wrist grab", "shoulder grab", "two-hand shoulder grab", "lapel grab", "two-hand lapel grab", "sleeve grab", "arm grab", "belt grab",
	"front choke", "rear choke", "side choke", "hug", "full nelson", "arm lock", "headlock", "front kick", "round kick", "side kick", "push kick", "low kick", "axe kick", "hook kick", "back kick", "tackle", "leg grab", "hair grab", "club", "stick", "knife overhead", "knife thrust", "knife slash", "gun", "ground mounted", "ground face down",
}

// Nature is what sort of thing an attack is; its cautions follow from it.
type Nature string

// Natures are the choices.
var Natures = []Nature{"strike", "kick", "grab", "choke", "lock", "weapon", "ground", "tackle"}

// OwnAttack is a kind of attack that a school added, with its nature.
type OwnAttack struct {
	Name   AttackKind `json:"name"`
	Nature Nature     `json:"nature"`
}

// nature is that of a usual kind.
func (k AttackKind) nature() Nature {
	said := string(k)
	switch {
	case k == "club" || k == "stick" || k == "gun" || strings.HasPrefix(said, "knife"):
		return "weapon"
	case strings.HasSuffix(said, "choke") || k == "headlock" || k == "full nelson":
		return "choke"
	case strings.HasSuffix(said, "kick"):
		return "kick"
	case strings.HasSuffix(said, "grab") || k == "hug":
		return "grab"
	case strings.HasPrefix(said, "ground"):
		return "ground"
	case k == "arm lock":
		return "lock"
	case k == "tackle":
		return "tackle"
	}
	return "strike"
}

// NatureOf is the nature of a kind of attack, a school's own or a usual one.
func (x *ProgramDetails) NatureOf(k AttackKind) Nature {
	for _, own := range x.Attacks {
		if own.Name == k {
			return own.Nature
		}
	}
	return k.nature()
}

// Own are the kinds of attack that a school added.
func (x *ProgramDetails) Own() (out []AttackKind) {
	for _, own := range x.Attacks {
		if !slices.Contains(AttackKinds, own.Name) { // added before it was a usual one
			out = append(out, own.Name)
		}
	}
	return out
}

// Taught are the kinds of attack a school teaches against: the usual ones less those it leaves
// out, and its own.
func (x *ProgramDetails) Taught() []AttackKind {
	out := slices.DeleteFunc(slices.Clone(AttackKinds), func(k AttackKind) bool { return slices.Contains(x.NoAttacks, k) })
	return append(out, x.Own()...)
}

// AttackLines are the lines ParseAttackLines reads: the school's own kinds with their nature, and
// the usual ones left out.
func (x *ProgramDetails) AttackLines() (out []string) {
	for _, own := range x.Attacks {
		out = append(out, string(own.Name)+" = "+string(own.Nature))
	}
	for _, k := range x.NoAttacks {
		out = append(out, "not "+string(k))
	}
	return out
}

// ParseAttackLines reads a school's own kinds of attack, "elbow drop = strike", and the usual ones
// it leaves out, "not knife slash". Of a usual one it may say another nature.
func ParseAttackLines(lines []string) (own []OwnAttack, left []AttackKind, err error) {
	for i, line := range lines {
		key := check.Key(line)
		if usual, not := strings.CutPrefix(key, "not "); not {
			if !slices.Contains(AttackKinds, AttackKind(usual)) {
				return nil, nil, fmt.Errorf("line %d: %q is none of the usual attacks", i+1, usual)
			}
			left = append(left, AttackKind(usual))
			continue
		}
		name, nature, found := strings.Cut(key, "=")
		x := OwnAttack{AttackKind(strings.TrimSpace(name)), Nature(strings.TrimSpace(nature))}
		switch {
		case !found || x.Name == "" || !slices.Contains(Natures, x.Nature):
			return nil, nil, fmt.Errorf("line %d: %q; write the attack and its nature, one of %s: elbow drop = strike", i+1, line, oneAfterOther(Natures))
		case slices.Contains(AttackKinds, x.Name) && x.Name.nature() == x.Nature: // added before it was a usual one
			continue
		case slices.ContainsFunc(own, func(o OwnAttack) bool { return o.Name == x.Name }):
			return nil, nil, fmt.Errorf("line %d: %s is there already", i+1, x.Name)
		}
		own = append(own, x)
	}
	return own, left, nil
}

func oneAfterOther[T ~string](all []T) string {
	words := make([]string, len(all))
	for i, x := range all {
		words[i] = string(x)
	}
	return strings.Join(words, ", ")
}

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
	q.Name("kind", string(a.Kind)) // which kinds there are the program says
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
func ParseAttack(lines []string, own ...AttackKind) (out []AttackElement, err error) {
	for i, line := range lines {
		a := AttackElement{}
		words := strings.Fields(strings.ToLower(strings.ReplaceAll(line, ",", " ")))
		for len(words) > 0 {
			n, err := a.Take(words, own)
			if err != nil {
				return nil, fmt.Errorf("line %d: %w", i+1, err)
			}
			words = words[n:]
		}
		if a.Kind == "" {
			return nil, fmt.Errorf("line %d: %q names no attack; write for example: right straight punch, high, step-through, front", i+1, line)
		}
		if a.Origin == "" {
			a.Origin = UsualOrigin(a.Kind)
		}
		out = append(out, a)
	}
	return out, nil
}

// UsualOrigin is where an attack usually comes from: a rear choke from the rear, what says nothing from the front.
func UsualOrigin(k AttackKind) Origin {
	switch {
	case k == "full nelson" || k == "arm lock":
		return "rear"
	case strings.HasPrefix(string(k), "ground"):
		return "ground"
	case strings.HasPrefix(string(k), "rear"):
		return "rear"
	case k == "side choke":
		return "side"
	}
	return Origins[0]
}

// Take reads what the words begin with and returns how many it took. The longest kind wins:
// "front kick" is no origin.
func (a *AttackElement) Take(words []string, own []AttackKind) (int, error) {
	all := append(slices.Clone(AttackKinds), own...)
	for n := min(4, len(words)); n > 0; n-- {
		phrase := strings.Join(words[:n], " ")
		at := slices.Index(all, AttackKind(phrase))
		switch {
		case at >= 0 && a.Kind != "":
			return 0, fmt.Errorf("both %s and %s; write each on a line of its own, in order", a.Kind, phrase)
		case at >= 0:
			a.Kind = all[at]
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
		return 0, fmt.Errorf("%q is no attack, side, level, motion or origin; attacks are %s; the school adds its own on the program’s page", w, oneAfterOther(all))
	}
	return 1, nil
}

// Words is the attack as people say it: left wrist grab, from the rear.
func (a AttackElement) Words() string {
	out := strings.TrimSpace(string(a.Side) + " " + string(a.Kind))
	if a.Side == notation.Both {
		out = "two-hand " + string(a.Kind)
	}
	if a.Origin != "" && a.Origin != Origins[0] && !strings.HasPrefix(string(a.Kind), string(a.Origin)) {
		out += ", from the " + string(a.Origin)
	}
	return out
}

// AttackWords is an attack as people say it.
func AttackWords(attack []AttackElement) string {
	var out []string
	for _, a := range attack {
		out = append(out, a.Words())
	}
	return strings.Join(out, ", then ")
}
