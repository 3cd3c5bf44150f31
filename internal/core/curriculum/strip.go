package curriculum

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/notation"
)

// StripMove is one cell of a strip: what is done at one time, and under it how. A step that is
// said in a sentence is a cell of its own.
type StripMove struct {
	What      string             `json:"what"`                 // "lead side kick!", or the sentence
	How       string             `json:"how,omitempty"`        // "cross step · mid · to ribs"
	Feet      string             `json:"feet,omitempty"`       // which foot moves and who leads then, where that is told
	Count     int                `json:"count,omitempty"`      // from 1: which shouted number covers it
	Step      int                `json:"step,omitempty"`       // from 1: which step of the technique
	Answers   string             `json:"answers,omitempty"`    // the attack move or reaction, on the first cell of its step
	Sentence  bool               `json:"sentence,omitempty"`   // said in words
	AsWritten bool               `json:"as_written,omitempty"` // says left or right where it cannot be mirrored for whom it is told
	Held      []string           `json:"held,omitempty"`       // checks and grips that stay on after it
	Paired    bool               `json:"paired,omitempty"`     // its other side has readings of its own
	Readings  map[Reading]Spoken `json:"readings,omitempty"`   // to somebody, where that is told otherwise
}

// Spoken is a cell as it is told to one person.
type Spoken struct {
	What      string   `json:"what"`
	How       string   `json:"how,omitempty"`
	Feet      string   `json:"feet,omitempty"`
	AsWritten bool     `json:"as_written,omitempty"`
	Held      []string `json:"held,omitempty"`
}

// Reading says to whom a strip is told: "" as it is written, a view, and behind a stroke
// "other" for the other side of what no change of stance mirrors.
type Reading string

// The readings.
const (
	ForOther         Reading = "other" // as it is written, in its mirror
	ForOrthodox      Reading = "orthodox"
	ForSouthpaw      Reading = "southpaw"
	ForOrthodoxOther Reading = "orthodox/other"
	ForSouthpawOther Reading = "southpaw/other"
)

// readings are those a strip is told in. Only what has two who act, and what is never mirrored
// for a person, has an other side that is not the other stance.
func (x *told) readings() []Reading {
	if x.defends || x.fixed {
		return []Reading{ForOther, ForOrthodox, ForSouthpaw, ForOrthodoxOther, ForSouthpawOther}
	}
	return []Reading{ForOther, ForOrthodox, ForSouthpaw}
}

func (r Reading) person() person {
	return person{southpaw: strings.HasPrefix(string(r), string(Southpaw)), attacker: r.other(), other: r.other(), named: r != "" && r != ForOther}
}

func (r Reading) other() bool { return strings.HasSuffix(string(r), string(ForOther)) }

// For is the reading for a view.
func (v View) For() Reading { return Reading(v) }

// OtherSide is the reading of the set again: after a change of stance, or of a pair and of what
// is never mirrored for a person, in its mirror.
func OtherSide(cells []StripMove, r Reading) Reading {
	paired := slices.ContainsFunc(cells, func(c StripMove) bool { return c.Paired })
	switch {
	case r == "":
		return ForOther
	case paired:
		return r + "/other"
	case r == ForOrthodox:
		return ForSouthpaw
	}
	return ForOrthodox
}

// Told is a strip as it is told to somebody. A strip that was kept before readings were, and a
// cell that is told to everybody alike, is as it stands.
func Told(cells []StripMove, to Reading) []StripMove {
	if to == "" {
		return cells
	}
	out := slices.Clone(cells)
	for i := range out {
		out[i].Readings = nil
		if r, there := cells[i].Readings[to]; there {
			out[i].What, out[i].How, out[i].Feet, out[i].AsWritten, out[i].Held = r.What, r.How, r.Feet, r.AsWritten, r.Held
		}
	}
	return out
}

// Differs reports whether a strip is told otherwise to two people.
func Differs(cells []StripMove, a, b Reading) bool {
	x, y := Told(cells, a), Told(cells, b)
	for i := range x {
		if x[i].What != y[i].What || x[i].How != y[i].How {
			return true
		}
	}
	return false
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

// cells are steps that were walked as cells. Moves at the same time share a cell. With a
// person's limbs named says so; else sides stay as they are written.
func cells(steps []notation.Step, from notation.Stance, southpaw, named, mirrored bool) (out []StripMove) {
	held := map[notation.Side]string{}
	leads, nobody := from.Side == notation.Left || from.Side == "" && !southpaw, from.Feet == notation.SideBySide
	for i := 0; i < len(steps); {
		n := i + 1
		for n < len(steps) && steps[n].Count == steps[i].Count && steps[n].Beat == steps[i].Beat {
			n++
		}
		cell := StripMove{Count: steps[i].Count + 1}
		for k, s := range steps[i:n] {
			what, how := sayMove(s, named, held)
			if k == 0 {
				cell.What, cell.How, cell.Sentence = what, how, s.Move.Sentence != ""
			} else {
				also := "+ " + what
				if how != "" {
					also += ", " + how
				}
				cell.How = strings.TrimPrefix(cell.How+" "+also, " ")
			}
			cell.AsWritten = cell.AsWritten || mirrored && s.Move.SaysSides()
			if f := feetWords(s, named, leads, nobody); f != "" {
				cell.Feet = strings.TrimPrefix(cell.Feet+"; "+f, "; ")
			}
			leads, nobody = s.LeftLeads, s.Nobody
			side := s.Move.Side
			if named {
				side = s.Limb()
			}
			if s.Move.Keep {
				held[side] = strings.TrimSpace(string(side) + " " + strings.ToLower(s.Move.Name))
			}
			if s.Move.Free {
				delete(held, side)
			}
		}
		if i == 0 && from.Name != "" {
			cell.How = strings.TrimSuffix("from "+from.String()+" · "+cell.How, " · ")
		}
		for _, side := range []notation.Side{notation.Lead, notation.Rear, notation.Left, notation.Right, notation.Both, notation.SameSide, notation.SameName, ""} {
			if held[side] != "" {
				cell.Held = append(cell.Held, held[side])
			}
		}
		out = append(out, cell)
		i = n
	}
	return out
}

// sayMove is a move as one says it: what, and how.
func sayMove(s notation.Step, named bool, held map[notation.Side]string) (what, how string) {
	m := s.Move
	if m.Sentence != "" {
		text := notation.Move{Sentence: m.Sentence, Shout: m.Shout}
		return text.String(), strings.Join(bracketed(m.Notes), " · ")
	}
	if named {
		m.Side = personal(s)
	}
	if m.Free && m.Technique == "" && held[m.Side] != "" {
		return "free " + held[m.Side], howOf(m)
	}
	name := strings.ToLower(m.Name)
	if named && m.Whole && m.Technique != "" && differ(s.Limbs) {
		return eachTime(m, name, s.Limbs), howOf(m)
	}
	short := notation.Move{Times: m.Times, Whole: m.Whole, Side: m.Side, Technique: m.Technique, Name: name, Free: m.Free, Shout: m.Shout}
	if m.Technique == "" || m.Whole {
		short.Travel = m.Travel
	}
	if what = short.String(); m.Technique == "" && len(m.Travel) == 0 && m.In.Name != "" {
		short.In, m.In = m.In, notation.Stance{}
		what = short.String()
	}
	return what, howOf(m)
}

// personal is the side of a move as its one student does it.
func personal(s notation.Step) notation.Side {
	m := s.Move
	if m.Side != notation.Lead && m.Side != notation.Rear {
		return m.Side
	}
	if m.Technique == "" && len(m.Travel) > 0 {
		return s.Feet[0]
	}
	return s.Limb()
}

func differ(limbs []notation.Side) bool {
	return slices.ContainsFunc(limbs, func(l notation.Side) bool { return l != limbs[0] })
}

// mostSpelled is up to how many repeats each one's limb is named.
const mostSpelled = 4

// eachTime names the limbs of a move that is repeated whole: "step through right jab, left jab".
func eachTime(m notation.Move, name string, limbs []notation.Side) string {
	travel := notation.Move{Travel: m.Travel}.String()
	if len(limbs) > mostSpelled {
		return fmt.Sprintf("%d times %s %s, %s and %s in turn", len(limbs), travel, name, limbs[0], limbs[1])
	}
	var out []string
	for _, l := range limbs {
		out = append(out, strings.TrimSpace(fmt.Sprintf("%s %s %s", travel, l, name)))
	}
	text := strings.Join(out, ", ")
	if m.Shout {
		text += "!"
	}
	return text
}

func bracketed(notes []string) (out []string) {
	for _, n := range notes {
		out = append(out, "("+n+")")
	}
	return out
}

// howOf is everything but limb and technique, with points between.
func howOf(m notation.Move) string {
	var parts []string
	travel := m.Travel
	if m.Technique == "" || m.Whole {
		travel = nil
	}
	for _, part := range []notation.Move{
		{Travel: travel}, {Level: m.Level}, {Target: m.Target}, {In: m.In}, {Turn: m.Turn}, {AngleOut: m.AngleOut}, {Keep: m.Keep}, {Notes: m.Notes},
	} {
		if text := strings.TrimSpace(part.String()); text != "" {
			parts = append(parts, text)
		}
	}
	if m.Breath {
		parts = append(parts, "breathe")
	}
	return strings.Join(parts, " · ")
}

// feetWords say which foot moves, where one is told apart, and who leads where that changes.
func feetWords(s notation.Step, named, leads, nobody bool) string {
	var out []string
	m := s.Move
	foot := s.Feet[len(s.Feet)-1]
	written := m.Side == notation.Left || m.Side == notation.Right || m.In.Side != "" || m.Stands != ""
	changed := s.LeftLeads != leads || s.Nobody != nobody
	tellsFeet := named || written && (m.Technique == "" || m.In.Side != "")
	if tellsFeet && len(s.Feet) == 1 && (foot == notation.Left || foot == notation.Right) && (changed || m.Technique == "" && m.Side != "") {
		out = append(out, string(foot)+" foot moves")
	}
	if changed && !s.Nobody {
		switch {
		case tellsFeet && s.LeftLeads:
			out = append(out, "left leads")
		case tellsFeet:
			out = append(out, "right leads")
		case !nobody:
			out = append(out, "the other foot leads")
		}
	}
	return strings.Join(out, ", ")
}

// Written is a strip in lines for print, one for each step of the technique, told to somebody:
// what is done at one time and how, with commas between, and what the step answers.
func Written(cells []StripMove, to Reading) (out []string) {
	at := 0
	for _, c := range Told(cells, to) {
		text := c.What
		if c.How != "" {
			text += " (" + c.How + ")"
		}
		if c.Answers != "" {
			text = "to " + c.Answers + ": " + text
		}
		if c.AsWritten {
			text += " [as written]"
		}
		if len(out) > 0 && c.Step == at {
			out[len(out)-1] += ", " + text
			continue
		}
		at = c.Step
		out = append(out, text)
	}
	return out
}

// Pairings are the readings of a strip that people of some stances are told, each once; as it
// is written where nobody's stance is known.
func Pairings(cells []StripMove, stances ...View) (out []Reading) {
	for _, v := range stances {
		if v != AsWritten && !slices.Contains(out, v.For()) && slices.ContainsFunc(cells, func(c StripMove) bool { _, there := c.Readings[v.For()]; return there }) {
			out = append(out, v.For())
		}
	}
	return out
}
