package notation

import (
	"slices"
	"strings"
)

// Performed is one move of an attack as it is done.
type Performed struct {
	Names []string // of the technique, aliases too
	Kind  string   // what its kind is called
	Limb  Side     // left or right; anything else is no single limb
	Lead  bool     // by the attacker's lead limb
	At    int      // from 1: what is done at one time has one number, each time of a repeat its own
}

// SaysLimbs reports whether a sequence is written for limbs: it names left or right, and so
// is the same for everybody who attacks.
func (s Sequence) SaysLimbs() bool {
	says := s.From.Side != ""
	s.All(func(_, _ int, m *Move) { says = says || m.Side == Left || m.Side == Right || m.In.Side != "" })
	return says
}

// Attack is an attack as somebody does it, move by move, repeats too. What is written with
// left and right stays for every attacker; lead and rear follow the attacker's own stance.
func (c *Catalogue) Attack(s Sequence, southpaw bool) (out []Performed) {
	walk := c.WalkFor
	if s.SaysLimbs() {
		walk = c.Walk
	}
	steps, _ := walk(s, southpaw)
	at := 0
	for i, x := range steps {
		m := x.Move
		if i == 0 || steps[i-1].Count != x.Count || steps[i-1].Beat != x.Beat {
			at++
		}
		first := at
		at += len(x.Limbs) - 1
		if m.Technique == "" {
			continue
		}
		p := Performed{Names: []string{m.Name}}
		if e, there := c.ids[m.Technique]; there {
			p.Names, p.Kind = append(p.Names, c.entries[e].Aliases...), c.entries[e].Kind
		}
		times := 1
		if !m.Whole {
			times = max(m.Times, 1)
		}
		for time, limb := range x.Limbs {
			for range times {
				p.Limb, p.At = limb, first+time
				p.Lead = m.Side == Lead || m.Side != Rear && (limb == Left) == x.LeftLeads
				out = append(out, p)
			}
		}
	}
	return out
}

// Match says how a step's relation was resolved.
type Match string

// How a relation is resolved.
const (
	ByName   Match = "name"       // the attack move that the step names
	LastLimb Match = "last"       // the step names none: the last limb that attacks
	Torn     Match = "torn"       // the step names moves of different limbs: the last limb that attacks
	Recorded Match = "recorded"   // no move of one limb: the side on record
	Nothing  Match = "unresolved" // no limb is known
)

var (
	articles = []string{"the", "a", "an", "his", "her", "their", "its"}
	ordinals = []string{"first", "second", "third", "fourth", "fifth"}
)

// Against finds the attacking limb that a step of a defence is told in relation to. said is
// what the step answers: a name or alias of an attacking move, else the last word of a name or
// of a kind, with an article, an ordinal (first to fifth, last) or a side before it. Ordinals
// count the moves as they are done. recorded is the attack's side where it has no moves.
func Against(moves []Performed, said string, recorded Side) (Side, Match) {
	last := Side("")
	for _, m := range moves {
		if m.single() {
			last = m.Limb
		}
	}
	if last == "" {
		if recorded == Left || recorded == Right {
			return recorded, Recorded
		}
		return "", Nothing
	}
	limbs := map[Side]bool{}
	var limb Side
	for _, m := range named(moves, said) {
		if m.single() {
			limb = m.Limb
			limbs[limb] = true
		}
	}
	switch len(limbs) {
	case 0:
		return last, LastLimb
	case 1:
		return limb, ByName
	}
	return last, Torn
}

func (p Performed) single() bool { return p.Limb == Left || p.Limb == Right }

// named are the moves that a phrase names.
func named(moves []Performed, said string) []Performed {
	words := strings.FieldsFunc(strings.ToLower(said), func(r rune) bool { return strings.ContainsRune(" \t,.!?:", r) })
	for len(words) > 0 && slices.Contains(articles, words[0]) {
		words = words[1:]
	}
	if len(words) == 0 {
		return nil
	}
	if whole := fitting(moves, strings.Join(words, " ")); len(whole) > 0 {
		return whole
	}
	at, side := 0, Side("") // at: from 1; −1 the last
	for len(words) > 0 {
		w := words[0]
		switch n := slices.Index(ordinals, w); {
		case n >= 0:
			at = n + 1
		case w == "last":
			at = -1
		case slices.Contains([]Side{Left, Right, Lead, Rear}, Side(w)):
			side = Side(w)
		case slices.Contains(articles, w):
		default:
			w = ""
		}
		if w == "" {
			break
		}
		words = words[1:]
	}
	if len(words) > 0 {
		moves = fitting(moves, strings.Join(words, " "))
	}
	if side != "" {
		moves = slices.DeleteFunc(slices.Clone(moves), func(p Performed) bool { return !p.by(side) })
	}
	switch {
	case at < 0 && len(moves) > 0:
		return moves[len(moves)-1:]
	case at > len(moves):
		return nil
	case at > 0:
		return moves[at-1 : at]
	}
	return moves
}

// Named is when the move of an attack comes that a phrase names, the last of several: its At; 0 where it names none.
func Named(moves []Performed, said string) (at int) {
	for _, x := range named(moves, said) {
		at = x.At
	}
	return at
}

// by reports whether a move is done with a side.
func (p Performed) by(side Side) bool {
	switch side {
	case Lead:
		return p.single() && p.Lead
	case Rear:
		return p.single() && !p.Lead
	}
	return p.Limb == side
}

// fitting are the moves of a name or alias, else those whose name or kind ends with the phrase.
func fitting(moves []Performed, phrase string) (out []Performed) {
	wanted := loose(phrase)
	equal := func(name string) bool { return loose(name) == wanted }
	ends := func(name string) bool { w := strings.Fields(name); return len(w) > 0 && loose(w[len(w)-1]) == wanted }
	for _, p := range moves {
		if slices.ContainsFunc(p.Names, equal) {
			out = append(out, p)
		}
	}
	if len(out) > 0 {
		return out
	}
	for _, p := range moves {
		if slices.ContainsFunc(p.Names, ends) || slices.ContainsFunc(strings.Split(p.Kind, " or "), ends) {
			out = append(out, p)
		}
	}
	return out
}

// Defence is the steps of a defence with their relations named by limbs. answers is what each
// step answers; mirrored exchanges left and right first, for an attacker who mirrors the attack.
// A match is "" where a step has no relation.
func Defence(steps []Sequence, answers []string, attack []Performed, recorded Side, mirrored bool) (out []Sequence, matches []Match) {
	for i, s := range steps {
		if mirrored {
			s = s.Mirror()
		}
		var match Match
		if s.Related() {
			limb, how := Against(attack, answers[i], recorded)
			s, match = s.Answering(limb), how
		}
		out, matches = append(out, s), append(matches, match)
	}
	return out, matches
}
