package practice

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
)

// Chosen is a combination of a student's own, or a form or defence by its name, chosen ahead of a grading.
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
	NotKnown   ChoiceKind = "not known"   // Technique: a name the school has no technique of this kind by
)

// ChoiceNote is something to be said of a combination of one's own.
type ChoiceNote struct {
	Kind            ChoiceKind
	Technique, Rung string
	Why             error
}

// usual are the rules that a combination of one's own is held against.
var usual = Rules{LeadFirst: true, Recover: true, NoTwice: true}

// chosenByName are the kinds of which one is chosen by its name; of the others moves are written.
var chosenByName = []curriculum.Kind{"form", "self_defence", "partner_set", "throw", "lock"}

// ByName reports whether what is chosen on a free-choice line of a kind is written by its name.
func ByName(k curriculum.Kind) bool { return slices.Contains(chosenByName, k) }

// Offered are the names that can be chosen on a line by name: what the rungs up to this one ask of its kind, less what the track may not do.
func Offered(b *curriculum.Book, kind curriculum.Kind, rung, track string) (out []string) {
	for i := 0; i <= b.Place(rung) && ByName(kind); i++ {
		for _, r := range b.Asked(b.Rungs[i].ID) {
			if t := b.Technique(r.TechniqueID); t.Kind == kind && !r.Free && !slices.Contains(out, t.Name) && b.MayNot(t, "", b.Track(track)) == nil {
				out = append(out, t.Name)
			}
		}
	}
	return out
}

// Example is how a combination of one's own is written, in names that the rungs up to this one ask; the usual ones where they ask too few.
func Example(b *curriculum.Book, rung, track string) string {
	var hands, feet []string
	for i := 0; i <= b.Place(rung); i++ {
		for _, r := range b.Asked(b.Rungs[i].ID) {
			t := b.Technique(r.TechniqueID)
			if r.Free || b.MayNot(t, "", b.Track(track)) != nil {
				continue
			}
			switch name := strings.ToLower(t.Name); {
			case t.Kind == "strike" && curriculum.LimbOf(t.Kind, t.Name) != curriculum.Leg && !slices.Contains(hands, name):
				hands = append(hands, name)
			case t.Kind == "kick":
				feet = append(feet, name)
			}
		}
	}
	if len(hands) < 2 || len(feet) == 0 {
		hands, feet = []string{"jab", "cross"}, []string{"front kick"}
	}
	return fmt.Sprintf("lead %s, rear %s, rear %s", hands[0], hands[1], feet[0])
}

// choose reads one choice.
func choose(b *curriculum.Book, kind curriculum.Kind, rung, track, line string) (c Chosen, no *ChoiceNote, err error) {
	c.Line = check.Tidy(line)
	if ByName(kind) {
		t := b.Named(c.Line)
		if t == nil || t.Kind != kind {
			c.Notes = []ChoiceNote{{Kind: NotKnown, Technique: c.Line}}
			return c, nil, nil
		}
		c.Line = t.Name
		if why := b.MayNot(t, "", b.Track(track)); why != nil {
			no = &ChoiceNote{Kind: NotAllowed, Technique: t.Name, Why: why}
		}
		if first := firstAsked(b, t.ID); first > b.Place(rung) {
			c.Notes = []ChoiceNote{{Kind: ComesLater, Technique: t.Name, Rung: b.Rungs[first].Name}}
		}
		return c, no, nil
	}
	seq, err := b.Read(line)
	if err != nil {
		return c, nil, err
	}
	c.Line = b.Catalogue.Print(seq)
	c.Moves = b.Strip(c.Line, curriculum.AsWritten)
	c.Notes, no = judgeChoice(b, seq, rung, track)
	return c, no, nil
}

// Choose reads what somebody on the way to a rung would show on a free-choice line, one a line: a
// combination as moves, a form or a defence by its name. A line that cannot be read, that stands twice or names what the track may not do is a problem;
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
		c, no, err := choose(b, l.Kind, rung, track, line)
		if err != nil {
			p.Add("lines", "line %d, %s", i+1, err)
			continue
		}
		if before, twice := seen[check.Key(c.Line)]; twice {
			p.Add("lines", "lines %d and %d are the same", before, i+1)
		}
		seen[check.Key(c.Line)] = i + 1
		if no != nil {
			p.Add("lines", "line %d: %s: %s", i+1, no.Technique, no.Why)
		}
		out = append(out, c)
	}
	return out, p
}

// Noted says what is to be said of choices of a kind that were made before, in today's curriculum: one
// that can be read no more says so.
func Noted(b *curriculum.Book, kind curriculum.Kind, rung, track string, lines []string) (out []Chosen) {
	for _, line := range lines {
		c, no, err := choose(b, kind, rung, track, line)
		switch {
		case err != nil:
			c = Chosen{Line: line, Notes: []ChoiceNote{{Kind: Unreadable, Why: err}}}
		case no != nil:
			c.Notes = append([]ChoiceNote{*no}, c.Notes...)
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
