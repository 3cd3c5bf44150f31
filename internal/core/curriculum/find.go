package curriculum

import (
	"slices"
	"strings"

	"velvetladder/internal/core/check"
)

// Wanted says which techniques are looked for. What is empty does not narrow.
type Wanted struct {
	Range   Zone
	Target  string     // part of a target's name
	Surface string     // part of a striking surface's name
	Answers AttackKind // an attack it answers
	Caution string     // a kind of caution it is shown with
}

// Any reports whether anything narrows.
func (w Wanted) Any() bool { return w != Wanted{} }

// Fits reports whether a technique is one that is looked for.
func (b *Book) Fits(t *Technique, w Wanted) bool {
	holds := func(all []string, part string) bool {
		return part == "" || slices.ContainsFunc(all, func(s string) bool { return strings.Contains(check.Key(s), check.Key(part)) })
	}
	var surfaces []string
	for _, s := range b.Surfaces(t) {
		surfaces = append(surfaces, s.Part)
	}
	return (w.Range == "" || t.Range == w.Range) && (w.Target == "" || holds(b.targetsOf(t), w.Target)) && holds(surfaces, w.Surface) &&
		(w.Answers == "" || slices.ContainsFunc(t.Attack, func(a AttackElement) bool { return a.Kind == w.Answers })) &&
		(w.Caution == "" || slices.ContainsFunc(b.AllCautions(t), func(c Caution) bool { return c.Kind == w.Caution && c.Aside == "" }))
}

// Guess is a technique whose kind was guessed when it was typed, and the kind it seems to be.
type Guess struct {
	*Technique
	Kind Kind // proposed
}

// Guesses are the techniques whose kind is what was guessed for whatever was typed under its
// section, a lock under self-defence, a partner set under sparring, a strike under a section of
// another name, and not what their section or their own words say. Those with steps, an attack or
// modifiers were looked at by somebody.
func (b *Book) Guesses() (out []Guess) {
	for i := range b.Techniques {
		t := &b.Techniques[i]
		if len(t.Stages) > 0 || len(t.Entries) > 0 || len(t.Attack) > 0 || t.AttackMoves != "" || len(t.Modifiers) > 0 {
			continue
		}
		var under Kind
		for _, n := range b.byTechnique[t.ID] {
			if s := b.Section(b.Requirements[n].SectionID); s != nil {
				under = s.Kind
				break
			}
		}
		if under == "" || under == t.Kind {
			continue
		}
		guessed := t.Kind == "lock" && under == "self_defence" || t.Kind == "partner_set" && under == "sparring" || t.Kind == "strike" && under != "combination"
		if words := KindInWords(t.Name); guessed && words != t.Kind {
			out = append(out, Guess{t, under})
		}
	}
	return out
}
