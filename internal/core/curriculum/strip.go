package curriculum

import (
	"strings"

	"velvetladder/internal/core/notation"
)

// StripMove is one cell of a strip of moves: what is done, and under it how.
type StripMove struct {
	What  string   `json:"what"`            // "lead side kick!"
	How   string   `json:"how,omitempty"`   // "cross step · mid · to ribs"
	Count int      `json:"count,omitempty"` // from 1: which shouted number covers it
	Held  []string `json:"held,omitempty"`  // checks and grips that stay on after it
}

// View says for whom moves are named.
type View string

// The views. Calls as written are given in lead and rear, or for one stance.
const (
	AsWritten View = ""
	Orthodox  View = "orthodox" // left foot forward
	Southpaw  View = "southpaw"
)

// Views are the choices screens offer.
var Views = []View{AsWritten, Orthodox, Southpaw}

// Words is the view as people say it.
func (v View) Words() string {
	return map[View]string{AsWritten: "as called", Orthodox: "left foot forward", Southpaw: "right foot forward"}[v]
}

// Strip reads a line of moves for a view; nothing where it is not written in notation.
func (b *Book) Strip(line string, v View) []StripMove {
	if v == AsWritten {
		return b.called(line)
	}
	seq, err := b.Read(line)
	if err != nil {
		return nil
	}
	return StripOf(seq.For(v == Southpaw, ""))
}

// StripOf is a sequence as cells. Moves at the same time share a cell.
func StripOf(seq notation.Sequence) (out []StripMove) {
	held := map[notation.Side]string{}
	for n, count := range seq {
		for _, beat := range count {
			cell := StripMove{What: what(beat[0], held), How: how(beat[0]), Count: n + 1}
			for _, m := range beat[1:] {
				also := "+ " + what(m, held)
				if h := how(m); h != "" {
					also += ", " + h
				}
				cell.How = strings.TrimPrefix(cell.How+" "+also, " ")
			}
			for _, m := range beat {
				if m.Keep {
					held[m.Side] = strings.TrimSpace(string(m.Side) + " " + strings.ToLower(m.Name))
				}
				if m.Free {
					delete(held, m.Side)
				}
			}
			for _, side := range []notation.Side{notation.Lead, notation.Rear, notation.Left, notation.Right, notation.Both, notation.SameSide, notation.SameName, ""} {
				if held[side] != "" {
					cell.Held = append(cell.Held, held[side])
				}
			}
			out = append(out, cell)
		}
	}
	return out
}

// what is the limb and the technique, the travel of a move that is travel alone, or what a
// hand lets go that is held.
func what(m notation.Move, held map[notation.Side]string) string {
	if m.Free && m.Technique == "" && held[m.Side] != "" {
		return "free " + held[m.Side]
	}
	short := notation.Move{Times: m.Times, Side: m.Side, Technique: m.Technique, Name: strings.ToLower(m.Name), Free: m.Free, Shout: m.Shout}
	if m.Technique == "" {
		short.Travel = m.Travel
	}
	return short.String()
}

// how is everything else, with points between.
func how(m notation.Move) string {
	var parts []string
	for _, part := range []notation.Move{
		{Travel: m.Travel}, {Level: m.Level}, {Target: m.Target}, {Stance: m.Stance}, {Turn: m.Turn}, {AngleOut: m.AngleOut}, {Keep: m.Keep}, {Notes: m.Notes},
	} {
		if part.Travel != nil && m.Technique == "" {
			continue
		}
		if text := strings.TrimSpace(part.String()); text != "" {
			parts = append(parts, text)
		}
	}
	return strings.Join(parts, " · ")
}

// ShownStep is a step of a technique as it is shown to one student.
type ShownStep struct {
	TaughtStep
	Strip []StripMove // where it is written in notation
}

// Showing is a technique as one student does it, or as the two of a pair do.
type Showing struct {
	Attack  []StripMove // the attacker's part
	Steps   []ShownStep
	Facts   notation.Facts // of the steps written in notation, in the stance of the view
	Written bool           // all steps are written in notation
}

// Show resolves the steps up to a stage for a view, and the attacker's part for the
// attacker's. Lead and rear are followed through all steps; relations to the attacking limb
// refer to the last one of the attack, where the attacker's stance is known.
func (b *Book) Show(t *Technique, stage int, v, attacker View) (out Showing) {
	out.Attack = b.Strip(t.AttackMoves, attacker)
	answers := notation.Side("")
	if seq, err := b.Read(t.AttackMoves); err == nil && attacker != AsWritten {
		answers = seq.LastLimb(attacker == Southpaw)
	}
	steps := t.StepsAt(stage)
	out.Written = len(steps) > 0
	var all notation.Sequence
	counts := make([]int, len(steps))
	for i, s := range steps {
		out.Steps = append(out.Steps, ShownStep{TaughtStep: s})
		seq, err := b.Read(s.Moves)
		if err != nil {
			out.Written = out.Written && s.Attached != ""
			continue
		}
		counts[i] = len(seq)
		all = append(all, seq...)
	}
	if len(all) == 0 {
		return out
	}
	_, out.Facts = all.Walk(v == Southpaw)
	if v != AsWritten {
		all = all.For(v == Southpaw, answers)
	}
	// One strip for all: what is held goes on from step to step.
	cells := StripOf(all)
	before := 0
	for i, n := range counts {
		for len(cells) > 0 && cells[0].Count <= before+n {
			cell := cells[0]
			cell.Count -= before
			out.Steps[i].Strip = append(out.Steps[i].Strip, cell)
			cells = cells[1:]
		}
		before += n
	}
	return out
}

// Spoken is a technique's moves in one written line, up to a stage and for a view; for the
// attacker's role the attacker's part. "" where they are not written in notation.
func (b *Book) Spoken(t *Technique, role Role, stage int, v View) string {
	line := lineOf(t.StepsAt(stage))
	switch {
	case role == "attacker" && t.AttackMoves != "":
		line = t.AttackMoves
	case line == "":
		line = t.Note
	}
	seq, err := b.Read(line)
	if err != nil {
		return ""
	}
	if v == AsWritten {
		return line
	}
	seq = seq.For(v == Southpaw, "")
	seq.All(func(_, _ int, m *notation.Move) { m.Name, m.Number = strings.ToLower(m.Name), 0 })
	return seq.String()
}
