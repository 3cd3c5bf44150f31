package practice

import (
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
)

// Chosen is a combination of a student's own, chosen ahead of a grading.
type Chosen struct {
	Line  string       // in notation, as it is printed
	Notes []ChoiceNote // where it breaks a rule of useful combinations, or goes beyond the rung
	Moves []curriculum.StripMove
}

// ChoiceKind is what is to be said of a combination of one's own.
type ChoiceKind string

// The kinds of notes; the words behind name the fields of a ChoiceNote they use.
const (
	Unreadable ChoiceKind = "unreadable"  // Why: in today's curriculum
	NotAllowed ChoiceKind = "not allowed" // Technique, Why
	ComesLater ChoiceKind = "comes later" // Technique comes with Rung
	StepsOnly  ChoiceKind = "steps only"  // and no technique
	RearFirst  ChoiceKind = "rear first"  // it begins with the rear side
	NoRecovery ChoiceKind = "no recovery" // after a kick the hands do not come back first
	LimbTwice  ChoiceKind = "limb twice"  // one limb works twice running
)

// ChoiceNote is something to be said of a combination of one's own.
type ChoiceNote struct {
	Kind            ChoiceKind
	Technique, Rung string
	Why             error
}

// usual are the rules that a combination of one's own is held against.
var usual = Rules{LeadFirst: true, Recover: true, NoTwice: true}

// Choose reads what somebody on the way to a rung would show on a free-choice line, a combination a
// line. A line that cannot be read, that stands twice or names what the track may not do is a problem;
// one that is only unusual is kept, with a note that the examiner sees too.
func Choose(b *curriculum.Book, l curriculum.Line, rung, track string, lines []string) (out []Chosen, p check.Problems) {
	if !l.Free {
		p.Add("lines", "this is no free-choice line; what is shown on it is what the school asks")
		return nil, p
	}
	if most := l.Slots(); most > 0 && len(lines) > most {
		p.Add("lines", "there are %d; %d are shown", len(lines), most)
	}
	seen := map[string]int{}
	for i, line := range lines {
		p.Line("lines", line, check.LineLength)
		seq, err := b.Read(line)
		if err != nil {
			p.Add("lines", "line %d, %s", i+1, err)
			continue
		}
		c := Chosen{Line: b.Catalogue.Print(seq)}
		c.Moves = b.Strip(c.Line, curriculum.AsWritten)
		if before, twice := seen[c.Line]; twice {
			p.Add("lines", "lines %d and %d are the same combination", before, i+1)
		}
		seen[c.Line] = i + 1
		var no *ChoiceNote
		if c.Notes, no = judgeChoice(b, seq, rung, track); no != nil {
			p.Add("lines", "line %d: %s: %s", i+1, no.Technique, no.Why)
		}
		out = append(out, c)
	}
	return out, p
}

// Noted says what is to be said of combinations that were chosen before, in today's curriculum: one
// that can be read no more says so.
func Noted(b *curriculum.Book, rung, track string, lines []string) (out []Chosen) {
	for _, line := range lines {
		c := Chosen{Line: line}
		seq, err := b.Read(line)
		if err != nil {
			c.Notes = []ChoiceNote{{Kind: Unreadable, Why: err}}
		} else {
			var no *ChoiceNote
			if c.Notes, no = judgeChoice(b, seq, rung, track); no != nil {
				c.Notes = append([]ChoiceNote{*no}, c.Notes...)
			}
			c.Moves = b.Strip(line, curriculum.AsWritten)
		}
		out = append(out, c)
	}
	return out
}

// judgeChoice notes what is unusual in a combination, and says in no what may not be.
func judgeChoice(b *curriculum.Book, seq notation.Sequence, rung, track string) (notes []ChoiceNote, no *ChoiceNote) {
	note := func(n ChoiceNote) {
		if !slices.Contains(notes, n) {
			notes = append(notes, n)
		}
	}
	type done struct {
		Piece
		sided, doubled bool
	}
	var pieces []done
	sentences, techniques := 0, 0
	seq.All(func(_, _ int, m *notation.Move) {
		if m.Sentence != "" {
			sentences++
		}
		t := b.Technique(m.Technique)
		if t == nil {
			return
		}
		techniques++
		if why := b.MayNot(t, "", b.Track(track)); why != nil && no == nil {
			no = &ChoiceNote{Kind: NotAllowed, Technique: t.Name, Why: why}
		}
		if first := firstAsked(b, t.ID); first > b.Place(rung) {
			note(ChoiceNote{Kind: ComesLater, Technique: t.Name, Rung: b.Rungs[first].Name})
		}
		if t.Kind == "strike" || t.Kind == "kick" {
			pieces = append(pieces, done{Piece{Text: m.Name, Hand: t.Kind == "strike" && curriculum.LimbOf(t.Kind, t.Name) != curriculum.Leg, Kick: t.Kind == "kick", Lead: m.Side == notation.Lead},
				m.Side == notation.Lead || m.Side == notation.Rear, m.Times > 1})
		}
	})
	if techniques == 0 && sentences == 0 {
		note(ChoiceNote{Kind: StepsOnly})
	}
	for i, p := range pieces {
		switch {
		case !p.sided:
		case i == 0 && usual.LeadFirst && !p.Lead:
			note(ChoiceNote{Kind: RearFirst})
		case i == 0:
		case usual.Recover && pieces[i-1].Kick && !p.Hand:
			note(ChoiceNote{Kind: NoRecovery})
		case usual.NoTwice && pieces[i-1].sided && pieces[i-1].limb() == p.limb() && !p.doubled:
			note(ChoiceNote{Kind: LimbTwice})
		}
	}
	return notes, no
}

// firstAsked is the place of the lowest rung that asks for a technique; -1 for none.
func firstAsked(b *curriculum.Book, technique string) int {
	for i, g := range b.Rungs {
		if slices.ContainsFunc(b.Asked(g.ID), func(r curriculum.Requirement) bool { return r.TechniqueID == technique }) {
			return i
		}
	}
	return -1
}
