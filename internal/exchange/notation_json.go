package exchange

import (
	"io"
	"slices"
	"strconv"

	"velvetladder/internal/core/notation"
)

type notationTravel struct {
	Kind string        `json:"kind"`
	Turn string        `json:"turn,omitempty"` // "cw 90"
	Way  notation.Side `json:"way,omitempty"`  // "left"
}

type notationMove struct {
	Count     int              `json:"count"` // from 1
	Beat      int              `json:"beat"`  // from 1, in its count
	Technique string           `json:"technique,omitempty"`
	Call      int              `json:"call,omitempty"`
	Sentence  string           `json:"sentence,omitempty"`
	Side      notation.Side    `json:"side,omitempty"`
	Limb      notation.Side    `json:"limb,omitempty"`  // of the last time it is done
	Limbs     []notation.Side  `json:"limbs,omitempty"` // of each time, where a whole move is repeated
	Feet      []notation.Side  `json:"feet,omitempty"`  // that move, each time
	Travel    []notationTravel `json:"travel,omitempty"`
	Times     int              `json:"times"`
	Whole     bool             `json:"whole,omitempty"` // travel and all is repeated
	Level     notation.Level   `json:"level,omitempty"`
	Target    []string         `json:"target,omitempty"`
	Stance    string           `json:"stance,omitempty"`
	Turn      string           `json:"turn,omitempty"`
	AngleOut  int              `json:"angle_out,omitempty"`
	Keep      bool             `json:"keep,omitempty"`
	Free      bool             `json:"free,omitempty"`
	Shout     bool             `json:"shout,omitempty"`
	Breath    bool             `json:"breath,omitempty"`
	Notes     []string         `json:"notes,omitempty"`
	Lead      string           `json:"lead_after"` // left, right, or nobody
	Facing    int              `json:"facing_after"`
}

type notationOut struct {
	Line     string          `json:"line"`
	Mirror   string          `json:"mirror"`
	Stance   string          `json:"stance"`
	From     string          `json:"from,omitempty"`
	Answers  string          `json:"answers,omitempty"`
	Attack   *notationAttack `json:"attack,omitempty"`
	Moves    []notationMove  `json:"moves"`
	Totals   notationTotals  `json:"totals"`
	Held     []string        `json:"held"`
	Problems []string        `json:"problems"`
	Doubts   []notationDoubt `json:"doubts,omitempty"`
}

type notationAttack struct {
	Line  string          `json:"line"`
	Limbs []notation.Side `json:"limbs"`           // of its moves, as they are done
	Match notation.Match  `json:"match,omitempty"` // how the line's relation to it was resolved
}

type notationDoubt struct {
	Column int    `json:"column"`
	Reason string `json:"reason"`
}

type notationTotals struct {
	Steps     int    `json:"steps"`
	Moves     int    `json:"moves"`
	Sentences int    `json:"sentences"`
	Counts    int    `json:"counts"`
	Left      int    `json:"left"`
	Right     int    `json:"right"`
	Lead      int    `json:"lead"`
	Rear      int    `json:"rear"`
	Low       int    `json:"low"`
	Mid       int    `json:"mid"`
	High      int    `json:"high"`
	Turns     int    `json:"turns"`
	Facing    int    `json:"facing"`
	Seconds   string `json:"seconds"` // exact: "9" or "9.5"
}

// Telling says for whom a line is told.
type Telling struct {
	Southpaw bool               // who does the line stands with the right foot forward
	Answers  string             // what the line answers, of a step of a defence
	Attack   *notation.Sequence // that it answers; nil none
	Attacker bool               // the attacker is a southpaw
}

// WriteNotation writes a parsed line as JSON: its canonical form, its mirror, and its moves
// as one student does them.
func WriteNotation(w io.Writer, c *notation.Catalogue, r notation.Reading, t Telling) error {
	out := notationOut{Line: c.Print(r.Sequence), Mirror: c.Print(r.Sequence.Mirror()), Stance: "orthodox", From: r.From.String(), Answers: t.Answers, Held: []string{}, Problems: []string{}}
	if t.Southpaw {
		out.Stance = "southpaw"
	}
	for _, d := range r.Doubts {
		out.Doubts = append(out.Doubts, notationDoubt(d))
	}
	s := r.Sequence
	if t.Attack != nil {
		attack := c.Attack(*t.Attack, t.Attacker)
		steps, matches := notation.Defence([]notation.Sequence{s}, []string{t.Answers}, attack, "", t.Attacker && !t.Attack.SaysLimbs())
		out.Attack, s = &notationAttack{Line: c.Print(*t.Attack), Limbs: []notation.Side{}, Match: matches[0]}, steps[0]
		for _, m := range attack {
			out.Attack.Limbs = append(out.Attack.Limbs, m.Limb)
		}
	}
	steps, f := c.Walk(s, t.Southpaw)
	for _, x := range steps {
		out.Moves = append(out.Moves, notationMoveOf(x))
	}
	out.Held, out.Problems = append(out.Held, f.Held...), append(out.Problems, f.Problems...)
	seconds := []string{"", ".5"}[f.HalfSeconds%2]
	out.Totals = notationTotals{f.Beats, f.Moves, f.Sentences, f.Counts, f.Left, f.Right, f.Lead, f.Rear, f.Low, f.Mid, f.High, f.Turns, f.Facing, strconv.Itoa(f.HalfSeconds/2) + seconds}
	return writeJSON(w, out)
}

func notationMoveOf(x notation.Step) notationMove {
	m := x.Move
	y := notationMove{
		Count: x.Count + 1, Beat: x.Beat + 1, Technique: m.Name, Call: m.Number, Sentence: m.Sentence, Side: m.Side, Limb: x.Limb(), Times: max(m.Times, 1), Whole: m.Whole, Level: m.Level, Target: m.Target,
		Stance: m.In.String(), AngleOut: m.AngleOut, Keep: m.Keep, Free: m.Free, Shout: m.Shout, Breath: m.Breath, Notes: m.Notes, Lead: "right", Facing: x.Facing,
	}
	switch {
	case x.Nobody:
		y.Lead = "nobody"
	case x.LeftLeads:
		y.Lead = "left"
	}
	if m.Whole {
		y.Limbs = x.Limbs
	}
	if slices.ContainsFunc(x.Feet, func(f notation.Side) bool { return f != "" }) {
		y.Feet = x.Feet
	}
	if m.Turn.Degrees > 0 {
		y.Turn = m.Turn.String()
	}
	for _, t := range m.Travel {
		z := notationTravel{Kind: t.Kind, Way: t.Way}
		if t.Turn.Degrees > 0 {
			z.Turn = t.Turn.String()
		}
		y.Travel = append(y.Travel, z)
	}
	return y
}
