package curriculum

import (
	"strings"

	"velvetladder/internal/core/notation"
)

// StripMove is one cell of a strip of moves: what is done, and under it how.
type StripMove struct {
	What  string `json:"what"`            // "lead side kick!"
	How   string `json:"how,omitempty"`   // "cross step · mid · to ribs"
	Count int    `json:"count,omitempty"` // from 1: which shouted number covers it
}

// Strip reads a line of moves; nothing where it is not written in notation. Moves at the
// same time share a cell.
func Strip(c *notation.Catalogue, line string) (out []StripMove) {
	seq, err := c.Parse(line)
	if err != nil {
		return nil
	}
	for n, count := range seq {
		for _, beat := range count {
			cell := StripMove{What: what(beat[0]), How: how(beat[0]), Count: n + 1}
			for _, m := range beat[1:] {
				also := "+ " + what(m)
				if h := how(m); h != "" {
					also += ", " + h
				}
				cell.How = strings.TrimPrefix(cell.How+" "+also, " ")
			}
			out = append(out, cell)
		}
	}
	return out
}

// what is the limb and the technique, or the travel of a move that is travel alone.
func what(m notation.Move) string {
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
