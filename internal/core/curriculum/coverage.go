package curriculum

import (
	"cmp"
	"slices"
	"strings"

	"velvetladder/internal/core/notation"
)

// AttackRow is one kind of attack from one side and origin.
type AttackRow struct {
	Kind    AttackKind
	Side    notation.Side // "" either
	Origin  Origin
	Answers []Answer // lowest rung first
}

// Words is the attack as people say it.
func (r AttackRow) Words() string {
	out := strings.TrimSpace(string(r.Side) + " " + string(r.Kind))
	if r.Origin != "front" && !strings.HasPrefix(string(r.Kind), string(r.Origin)) {
		out += ", from the " + string(r.Origin)
	}
	return out
}

// Answer is a technique that answers an attack, from the rung that first asks for it.
type Answer struct {
	TechniqueID string
	Rung        int // place on the ladder, from 0; -1: no rung asks for it
	Position    Position
	Range       Zone
}

// Coverage lists every attack that any technique answers, reading each element of an
// attack's sequence, with the answers the ladder asks for as defender or performer. Rows go
// by the order of attack kinds, then origin, then side.
func (b *Book) Coverage() (out []AttackRow) {
	type key struct {
		kind   AttackKind
		side   notation.Side
		origin Origin
	}
	rows := map[key]int{}
	for i := range b.Techniques {
		t := &b.Techniques[i]
		rung := b.firstDefended(t.ID)
		for n, a := range t.Attack {
			k := key{a.Kind, a.Side, cmp.Or(a.Origin, Origins[0])}
			at, there := rows[k]
			if !there {
				at = len(out)
				rows[k] = at
				out = append(out, AttackRow{Kind: k.kind, Side: k.side, Origin: k.origin})
			}
			if slices.Contains(t.Attack[:n], a) { // the same again in one sequence
				continue
			}
			out[at].Answers = append(out[at].Answers, Answer{t.ID, rung, t.Position, t.Range})
		}
	}
	for i := range out {
		slices.SortStableFunc(out[i].Answers, func(x, y Answer) int { return cmp.Compare(uint(x.Rung), uint(y.Rung)) })
	}
	slices.SortStableFunc(out, func(x, y AttackRow) int {
		return cmp.Or(cmp.Compare(slices.Index(AttackKinds, x.Kind), slices.Index(AttackKinds, y.Kind)),
			cmp.Compare(slices.Index(Origins, x.Origin), slices.Index(Origins, y.Origin)), cmp.Compare(x.Side, y.Side))
	})
	return out
}

// firstDefended is the lowest rung that asks for a technique from the one attacked, -1 for none.
func (b *Book) firstDefended(technique string) int {
	for _, i := range b.byTechnique[technique] {
		if r := &b.Requirements[i]; r.Role == "defender" || r.Role == "performer" {
			return b.rungs[r.RungID]
		}
	}
	return -1
}

// Answered is the rung from which on a row has an answer, -1 for never.
func (r AttackRow) Answered() int {
	for _, a := range r.Answers {
		if a.Rung >= 0 {
			return a.Rung
		}
	}
	return -1
}

// Asked is how many answers some rung asks for.
func (r AttackRow) Asked() (n int) {
	for _, a := range r.Answers {
		if a.Rung >= 0 {
			n++
		}
	}
	return n
}
