package notation

import (
	"fmt"
	"reflect"
	"strconv"
	"strings"
)

// orders are the orders in which what stands before a name may be written. The first one
// that is read back as the same move is the canonical form: "lead double jab" must not
// become "double lead jab" where the catalogue has a technique called lead jab.
var orders = []string{"travel times side", "side travel times", "travel side times", "times travel side", "side times travel", "times side travel"}

// Print writes a sequence in its one canonical form. A parsed sequence is read back as it was.
func (c *Catalogue) Print(s Sequence) string { return s.write(c.printMove) }

// String is the sequence as it is usually written; Catalogue.Print makes sure of how it is read.
func (s Sequence) String() string { return s.write(Move.String) }

func (s Sequence) write(move func(Move) string) string {
	var counts []string
	for _, count := range s.Counts {
		var beats []string
		for _, beat := range count {
			var moves []string
			for _, m := range beat {
				moves = append(moves, move(m))
			}
			beats = append(beats, strings.Join(moves, " + "))
		}
		counts = append(counts, strings.Join(beats, ", "))
	}
	text := strings.Join(counts, " / ")
	if s.From.Name != "" {
		text = "from " + s.From.String() + ": " + text
	}
	return text
}

func (c *Catalogue) printMove(m Move) string {
	first := ""
	for _, order := range append([]string{m.order()}, orders...) {
		text := m.text(order)
		if first == "" {
			first = text
		}
		words, err := scan(text, 0)
		if err != nil {
			continue
		}
		if back, _, err := c.move(words, new([]Doubt)); err == nil && reflect.DeepEqual(back, m) {
			return text
		}
	}
	return first
}

// String is the move as it is usually written; Catalogue.Print makes sure of how it is read.
func (m Move) String() string { return m.text(m.order()) }

// order is how a move is usually written: "left step back", "double step through lead jab",
// "step through double lead jab".
func (m Move) order() string {
	switch {
	case m.Technique == "":
		return "times side travel"
	case m.Whole:
		return "times travel side"
	}
	return orders[0]
}

func (m Move) text(order string) string {
	if m.Sentence != "" {
		return m.Sentence + "." + m.signs()
	}
	var out []string
	for _, part := range strings.Fields(order) {
		switch {
		case part == "travel":
			for _, t := range m.Travel {
				out = append(out, t.String())
			}
		case part == "side" && m.Side != "":
			out = append(out, string(m.Side))
		case part == "times" && m.Times == 2:
			out = append(out, "double")
		case part == "times" && m.Times > 2:
			out = append(out, "x"+strconv.Itoa(m.Times))
		}
	}
	if m.Number > 0 {
		out = append(out, strconv.Itoa(m.Number))
	} else if m.Technique != "" {
		out = append(out, m.Name)
	}
	if m.Level != "" {
		out = append(out, string(m.Level))
	}
	if len(m.Target) > 0 {
		out = append(out, "to", strings.Join(m.Target, " "))
	}
	if m.In.Name != "" {
		out = append(out, "in", m.In.String())
	}
	if m.Turn.Degrees > 0 {
		out = append(out, "turn", m.Turn.String())
	}
	if m.AngleOut > 0 {
		out = append(out, fmt.Sprintf("angle out %d", m.AngleOut))
	}
	if m.Keep {
		out = append(out, "keep")
	}
	if m.Free {
		out = append(out, "free")
	}
	return strings.Join(out, " ") + m.signs()
}

// signs are the shout, the breath and the notes behind a move.
func (m Move) signs() (text string) {
	if m.Shout {
		text += "!"
	}
	if m.Breath {
		text += "~"
	}
	for _, n := range m.Notes {
		text += " (" + n + ")"
	}
	return text
}

// String is the travel as it is written: "turn cw 90", "circle to the left".
func (t Travel) String() string {
	text := t.Kind
	if t.Turn.Degrees > 0 {
		text += " " + t.Turn.String()
	}
	if t.Way != "" {
		text += " to the " + string(t.Way)
	}
	return text
}

// String is "cw 90" or "ccw 180".
func (t Turn) String() string {
	if t.CounterClockwise {
		return fmt.Sprintf("ccw %d", t.Degrees)
	}
	return fmt.Sprintf("cw %d", t.Degrees)
}
