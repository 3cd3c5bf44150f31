package curriculum

import (
	"cmp"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
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
	return AttackElement{Kind: r.Kind, Side: r.Side, Origin: r.Origin}.Words()
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
	order := append(slices.Clone(AttackKinds), b.Program.Own()...)
	slices.SortStableFunc(out, func(x, y AttackRow) int {
		return cmp.Or(cmp.Compare(slices.Index(order, x.Kind), slices.Index(order, y.Kind)),
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

// Gaps are the kinds of attack the school teaches against that no technique answers, also where
// nobody ever wrote them down.
func (b *Book) Gaps() (out []AttackKind) {
	answered := map[AttackKind]bool{}
	for i := range b.Techniques {
		for _, a := range b.Techniques[i].Attack {
			answered[a.Kind] = true
		}
	}
	for _, k := range b.Program.Taught() {
		if !answered[k] {
			out = append(out, k)
		}
	}
	return out
}

// RangeRow is what the school has for one target, by range.
type RangeRow struct {
	Target string // "" none is said
	In     map[Zone][]Answer
}

// ByRange lists the techniques that are done at a range or on a target, those the ladder asks for
// first, from the lowest rung: what do we have inside, in the middle and outside, on which
// targets, from which rung on. The zone "" is not said. Targets are those of the card and those
// that the moves name after to.
func (b *Book) ByRange() (out []RangeRow) {
	rows := map[string]int{}
	for i := range b.Techniques {
		t := &b.Techniques[i]
		targets := b.targetsOf(t)
		if len(targets) == 0 {
			if t.Range == "" {
				continue
			}
			targets = []string{""}
		}
		rung := -1
		if asked := b.byTechnique[t.ID]; len(asked) > 0 {
			rung = b.rungs[b.Requirements[asked[0]].RungID]
		}
		for _, target := range targets {
			at, there := rows[target]
			if !there {
				at = len(out)
				rows[target] = at
				out = append(out, RangeRow{Target: target, In: map[Zone][]Answer{}})
			}
			out[at].In[t.Range] = append(out[at].In[t.Range], Answer{t.ID, rung, t.Position, t.Range})
		}
	}
	for _, r := range out {
		for _, list := range r.In {
			slices.SortStableFunc(list, func(x, y Answer) int { return cmp.Compare(uint(x.Rung), uint(y.Rung)) })
		}
	}
	slices.SortFunc(out, func(x, y RangeRow) int {
		if (x.Target == "") != (y.Target == "") {
			return cmp.Compare(y.Target, x.Target) // what says no target comes last
		}
		return check.Natural(x.Target, y.Target)
	})
	return out
}

// targetsOf are the targets of a technique's card and of its own moves, without their side.
func (b *Book) targetsOf(t *Technique) (out []string) {
	add := func(words ...string) {
		for len(words) > 1 && slices.Contains([]string{"the", "left", "right", "lead", "rear", "his", "her", "their"}, words[0]) {
			words = words[1:]
		}
		if name := strings.Join(words, " "); name != "" && !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	for _, target := range t.Targets {
		add(strings.Fields(strings.ToLower(target))...)
	}
	x := b.told(t, len(t.Stages), "", -1)
	for i, seq := range x.seqs {
		if x.read[i] {
			seq.All(func(_, _ int, m *notation.Move) {
				if len(m.Target) > 0 {
					add(strings.Fields(strings.ToLower(strings.Join(m.Target, " ")))...)
				}
			})
		}
	}
	return out
}
