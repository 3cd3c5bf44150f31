package exchange

import (
	"io"
	"strconv"

	"velvetladder/internal/core/notation"
)

type notationTravel struct {
	Kind string `json:"kind"`
	Turn string `json:"turn,omitempty"` // "cw 90"
}

type notationMove struct {
	Count     int              `json:"count"` // from 1
	Beat      int              `json:"beat"`  // from 1, in its count
	Technique string           `json:"technique,omitempty"`
	Call      int              `json:"call,omitempty"`
	Side      notation.Side    `json:"side,omitempty"`
	Limb      notation.Side    `json:"limb,omitempty"`
	Travel    []notationTravel `json:"travel,omitempty"`
	Times     int              `json:"times"`
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
	Lead      notation.Side    `json:"lead_after"`
	Facing    int              `json:"facing_after"`
}

type notationOut struct {
	Line     string         `json:"line"`
	Mirror   string         `json:"mirror"`
	Stance   string         `json:"stance"`
	Moves    []notationMove `json:"moves"`
	Totals   notationTotals `json:"totals"`
	Held     []string       `json:"held"`
	Problems []string       `json:"problems"`
}

type notationTotals struct {
	Moves   int    `json:"moves"`
	Counts  int    `json:"counts"`
	Left    int    `json:"left"`
	Right   int    `json:"right"`
	Lead    int    `json:"lead"`
	Rear    int    `json:"rear"`
	Low     int    `json:"low"`
	Mid     int    `json:"mid"`
	High    int    `json:"high"`
	Turns   int    `json:"turns"`
	Facing  int    `json:"facing"`
	Seconds string `json:"seconds"` // exact: "9" or "9.5"
}

// WriteNotation writes a parsed line as JSON: its canonical form, its mirror, and its moves
// as one student does them.
func WriteNotation(w io.Writer, c *notation.Catalogue, s notation.Sequence, southpaw bool) error {
	out := notationOut{Line: c.Print(s), Mirror: c.Print(s.Mirror()), Stance: "orthodox", Held: []string{}, Problems: []string{}}
	if southpaw {
		out.Stance = "southpaw"
	}
	steps, f := s.Walk(southpaw)
	for _, x := range steps {
		m := x.Move
		y := notationMove{
			Count: x.Count + 1, Beat: x.Beat + 1, Technique: m.Name, Call: m.Number, Side: m.Side, Limb: x.Limb, Times: max(m.Times, 1), Level: m.Level, Target: m.Target, Stance: m.Stance,
			AngleOut: m.AngleOut, Keep: m.Keep, Free: m.Free, Shout: m.Shout, Breath: m.Breath, Notes: m.Notes, Lead: notation.Right, Facing: x.Facing,
		}
		if x.LeftLeads {
			y.Lead = notation.Left
		}
		if m.Turn.Degrees > 0 {
			y.Turn = m.Turn.String()
		}
		for _, t := range m.Travel {
			z := notationTravel{Kind: t.Kind}
			if t.Turn.Degrees > 0 {
				z.Turn = t.Turn.String()
			}
			y.Travel = append(y.Travel, z)
		}
		out.Moves = append(out.Moves, y)
	}
	out.Held, out.Problems = append(out.Held, f.Held...), append(out.Problems, f.Problems...)
	seconds := []string{"", ".5"}[f.HalfSeconds%2]
	out.Totals = notationTotals{f.Moves, f.Counts, f.Left, f.Right, f.Lead, f.Rear, f.Low, f.Mid, f.High, f.Turns, f.Facing, strconv.Itoa(f.HalfSeconds/2) + seconds}
	return writeJSON(w, out)
}
