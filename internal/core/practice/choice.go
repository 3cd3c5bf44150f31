package practice

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
)

// Chosen is a combination of a student's own, chosen ahead of a grading.
type Chosen struct {
	Line  string   // in notation, as it is printed
	Notes []string // where it breaks a rule of useful combinations, or goes beyond the rung
	Moves []curriculum.StripMove
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
	if most := max(l.Slots(), 1); len(lines) > most && l.Slots() > 0 {
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
		var no string
		if c.Notes, no = judgeChoice(b, seq, rung, track); no != "" {
			p.Add("lines", "line %d: %s", i+1, no)
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
			c.Notes = []string{"it can be read no more: " + err.Error()}
		} else {
			no := ""
			if c.Notes, no = judgeChoice(b, seq, rung, track); no != "" {
				c.Notes = append([]string{no}, c.Notes...)
			}
			c.Moves = b.Strip(line, curriculum.AsWritten)
		}
		out = append(out, c)
	}
	return out
}

// judgeChoice notes what is unusual in a combination, and says in no what may not be.
func judgeChoice(b *curriculum.Book, seq notation.Sequence, rung, track string) (notes []string, no string) {
	note := func(format string, args ...any) {
		if text := fmt.Sprintf(format, args...); !slices.Contains(notes, text) {
			notes = append(notes, text)
		}
	}
	var pieces []Piece
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
		if why := b.MayNot(t, "", b.Track(track)); why != "" && no == "" {
			no = t.Name + ": " + why
		}
		if first := firstAsked(b, t.ID); first > b.Place(rung) {
			note("%s comes with %s", t.Name, b.Rungs[first].Name)
		}
		if t.Kind == "strike" || t.Kind == "kick" {
			p := Piece{Text: m.Name, Hand: t.Kind == "strike" && !byKnee.MatchString(t.Name), Kick: t.Kind == "kick", Lead: m.Side == notation.Lead}
			if m.Times > 1 {
				p.Text = "double " + p.Text
			}
			if m.Side != notation.Lead && m.Side != notation.Rear {
				p.Text += " side not said"
			}
			pieces = append(pieces, p)
		}
	})
	if techniques == 0 && sentences == 0 {
		note("it has steps and no technique")
	}
	unsided := func(p Piece) bool { return strings.HasSuffix(p.Text, " side not said") }
	for i, p := range pieces {
		switch {
		case unsided(p):
		case i == 0 && usual.LeadFirst && !p.Lead:
			note("it begins with the rear side")
		case i == 0:
		case usual.Recover && pieces[i-1].Kick && !p.Hand:
			note("after a kick the hands do not come back first")
		case usual.NoTwice && !unsided(pieces[i-1]) && pieces[i-1].limb() == p.limb() && !strings.HasPrefix(p.Text, "double "):
			note("one limb works twice running")
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
