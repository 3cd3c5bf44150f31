package exchange

import (
	"encoding/json"
	"io"
	"math"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
)

// FloorFormat and FloorVersion stand at the head of a path's JSON.
const (
	FloorFormat  = "velvetladder floor"
	FloorVersion = 1
)

type floorOut struct {
	Format    string        `json:"format"`
	Version   int           `json:"version"`
	Program   string        `json:"program"`
	Technique string        `json:"technique"`
	HeightMM  int           `json:"height_mm"`
	Frames    []floorFrame  `json:"frames"`
	Extent    *floorExtent  `json:"extent,omitempty"`
	Ends      *[2]int       `json:"ends,omitempty"`
	Returns   *bool         `json:"returns,omitempty"` // of a form that says it does: whether it does
	Sides     []floorSide   `json:"sides,omitempty"`
	Pair      *floorMeeting `json:"pair,omitempty"`
}

// All lengths are whole millimetres, all angles whole degrees; x is to the right and y ahead of the start, angles clockwise.
type floorFrame struct {
	Count   int            `json:"count"` // from 1; 0 before the first
	Beat    int            `json:"beat"`
	Time    int            `json:"time"` // from 1, of a step that is repeated
	Moves   []string       `json:"moves,omitempty"`
	Stance  string         `json:"stance"`
	Lead    string         `json:"lead"` // left, right, or nobody
	Facing  int            `json:"facing"`
	Placed  bool           `json:"placed"`
	Left    floorFoot      `json:"left"`
	Right   floorFoot      `json:"right"`
	Mass    [2]int         `json:"mass"`
	Hip     int            `json:"hip"`
	Partner *floorPartner  `json:"partner,omitempty"`
	Reaches []floorReaches `json:"reaches,omitempty"`
}

type floorFoot struct {
	Heel    [2]int `json:"heel"`
	Heading int    `json:"heading"`
	HeelUp  bool   `json:"heel_up,omitempty"`
	Bend    *int   `json:"knee_bend,omitempty"` // of its leg; none where the leg is too short
}

type floorPartner struct {
	Mass     [2]int `json:"mass"`
	Distance int    `json:"distance"`
	Before   int    `json:"distance_before"`
	Range    string `json:"range,omitempty"`
}

type floorReaches struct {
	By    string `json:"by"` // attacker or defender
	What  string `json:"what"`
	Limb  string `json:"limb"`
	Short int    `json:"short"` // negative is to spare
}

type floorExtent struct {
	Left  int `json:"left"`
	Right int `json:"right"`
	Back  int `json:"back"`
	Front int `json:"front"`
}

type floorSide struct {
	Technique string `json:"technique"`
	Left      int    `json:"left"`
	Right     int    `json:"right"`
	Both      int    `json:"both,omitempty"`
	Other     int    `json:"other,omitempty"`
}

type floorMeeting struct {
	Start  int    `json:"start"`
	Side   string `json:"side,omitempty"` // inside or outside
	By     string `json:"by,omitempty"`   // feet or hand
	Stated string `json:"stated,omitempty"`
	Leaves int    `json:"leaves_line"`
}

func mm(v float64) int { return int(math.Round(v)) }

func place(p floor.Point) [2]int { return [2]int{mm(p.X), mm(p.Y)} }

// circle brings an angle to 0 … 359.
func circle(v float64) int { return (mm(v)%360 + 360) % 360 }

func floorStand(x *floor.Stand) (f floorFrame) {
	f = floorFrame{Stance: x.Stance.Name, Lead: "left", Facing: circle(x.Facing), Mass: place(x.Mass), Hip: mm(x.Hip)}
	switch {
	case x.Stance.Level:
		f.Lead = "nobody"
	case x.Lead == floor.Right:
		f.Lead = "right"
	}
	for side, to := range []*floorFoot{&f.Left, &f.Right} {
		foot := x.Feet[side]
		*to = floorFoot{Heel: place(foot.Heel), Heading: circle(foot.Heading), HeelUp: foot.HeelUp}
		if leg := x.Legs[side]; leg.Short == 0 {
			bend := mm(leg.Bend)
			to.Bend = &bend
		}
	}
	return f
}

// WriteFloor writes a technique on the floor. together is a defence with its attacker, nil for anything else.
func WriteFloor(w io.Writer, program string, t *curriculum.Technique, f *curriculum.Floored, together *curriculum.Together) error {
	p := &f.Path
	out := floorOut{Format: FloorFormat, Version: FloorVersion, Program: program, Technique: t.Name, HeightMM: mm(p.Body.Height)}
	for i := range p.Frames {
		fr := &p.Frames[i]
		x := floorStand(&fr.Stand)
		x.Count, x.Beat, x.Time, x.Placed = fr.Count+1, fr.Beat+1, fr.Time+1, fr.Placed
		for _, m := range fr.Moves {
			x.Moves = append(x.Moves, m.String())
		}
		if together != nil {
			m := &together.Moments[i]
			x.Partner = &floorPartner{Mass: place(m.Attacker.Mass), Distance: mm(m.Distance), Before: mm(m.Before), Range: m.Zone}
			for _, c := range m.Touches {
				by := "attacker"
				if c.ByDefender {
					by = "defender"
				}
				x.Reaches = append(x.Reaches, floorReaches{By: by, What: c.Name, Limb: string(c.Limb), Short: mm(c.Short)})
			}
		}
		out.Frames = append(out.Frames, x)
	}
	if len(p.Frames) > 1 {
		e, ends := p.Extent(), place(p.Ends())
		out.Extent, out.Ends = &floorExtent{mm(e.Left), mm(e.Right), mm(e.Back), mm(e.Front)}, &ends
		for _, s := range p.Sides() {
			out.Sides = append(out.Sides, floorSide{s.Name, s.Left, s.Right, s.Both, s.Other})
		}
	}
	if t.Returns {
		returns := p.Returns(0)
		out.Returns = &returns
	}
	if together != nil {
		m := floorMeeting{Start: mm(together.Start), Side: string(together.Side), Stated: string(together.Stated), Leaves: mm(together.Leaves)}
		if m.Side != "" {
			m.By = map[bool]string{true: "hand", false: "feet"}[together.ByHand]
		}
		out.Pair = &m
	}
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	return enc.Encode(out)
}
