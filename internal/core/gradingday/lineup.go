package gradingday

import (
	"cmp"
	"slices"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/check"
)

// Hall is the floor people line up on.
type Hall struct {
	WidthCM int  `json:"width_cm"` // along the rows, 200 to 10000
	DepthCM int  `json:"depth_cm"` // 200 to 10000
	Left    bool `json:"left"`     // the highest rank stands at the left, seen from the front; else at the right
}

// UsualHall is taken where nothing is set.
var UsualHall = Hall{WidthCM: 1200, DepthCM: 1000}

// Check notes what is wrong with a hall.
func (h Hall) Check() check.Problems {
	var p check.Problems
	for name, v := range map[string]int{"width_cm": h.WidthCM, "depth_cm": h.DepthCM} {
		if v < 200 || v > 10000 {
			p.Add(name, "is %d cm; it must be from 200 to 10000", v)
		}
	}
	return p
}

// InLine is someone who lines up.
type InLine struct {
	ID, Name string
	Rung     int // place on the ladder
	Since    string
	HeightCM int // 0 not measured
}

// Stand is where someone stands: millimetres from the left wall and from the front line, to
// the middle of the body.
type Stand struct {
	Who  int // index of the people given
	X, Y int
	body.Body
}

// Row is one row of the line-up.
type Row struct {
	Stands []Stand
	Behind int // millimetres behind the row in front; 0 for the first
}

// LineUp is who stands where.
type LineUp struct {
	Rows    []Row
	Depth   int // from the front line to the last row, with a foot behind it, in millimetres
	Has     int // the depth of the hall, in millimetres
	Guessed int // people without a measured height, taken as of UsualHeight
}

// Lacks is how many millimetres of depth the hall lacks; 0 it fits.
func (l LineUp) Lacks() int { return max(0, l.Depth-l.Has) }

// MakeLineUp lines people up, the highest rank first and, of one rank, who has held it longest.
// Shoulders of neighbours are as far apart as the longer of their arms; a row stands behind the one in front by the longest leg and foot of
// its own people, who kick towards it. It makes the fewest rows the hall is wide enough for, and rows as
// even as can be.
func MakeLineUp(people []InLine, h Hall) (out LineUp) {
	order := make([]int, len(people))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Or(cmp.Compare(people[b].Rung, people[a].Rung), cmp.Compare(people[a].Since, people[b].Since), cmp.Compare(people[a].Name, people[b].Name))
	})
	bodies := make([]body.Body, len(people))
	for i, p := range people {
		bodies[i] = body.Of(p.HeightCM)
		if bodies[i].Guessed {
			out.Guessed++
		}
	}
	width := h.WidthCM * 10
	var rows [][]int
	for _, i := range order {
		n := len(rows)
		if n == 0 || rowWidth(append(slices.Clone(rows[n-1]), i), bodies) > width {
			rows = append(rows, nil)
			n++
		}
		rows[n-1] = append(rows[n-1], i)
	}
	if even := deal(order, len(rows)); !slices.ContainsFunc(even, func(r []int) bool { return rowWidth(r, bodies) > width }) {
		rows = even
	}
	y := 0
	for k, r := range rows {
		row := Row{}
		if k > 0 {
			for _, i := range r {
				row.Behind = max(row.Behind, bodies[i].Leg+bodies[i].Foot)
			}
		}
		y += row.Behind
		x := (width - rowWidth(r, bodies)) / 2
		for n, i := range r {
			if n == 0 {
				x += bodies[i].Shoulder / 2
			} else {
				x += between(bodies[r[n-1]], bodies[i])
			}
			at := x
			if !h.Left {
				at = width - x
			}
			row.Stands = append(row.Stands, Stand{i, at, y, bodies[i]})
			out.Depth = max(out.Depth, y+bodies[i].Foot)
		}
		out.Rows = append(out.Rows, row)
	}
	out.Has = h.DepthCM * 10
	return out
}

func deal(order []int, rows int) (out [][]int) {
	for k, rest := 0, order; k < rows; k++ {
		n := (len(rest) + rows - k - 1) / (rows - k)
		out, rest = append(out, rest[:n]), rest[n:]
	}
	return out
}

func between(a, b body.Body) int { return (a.Shoulder+b.Shoulder)/2 + max(a.Arm, b.Arm) }

func rowWidth(r []int, bodies []body.Body) (w int) {
	for n, i := range r {
		if n == 0 {
			w += bodies[i].Shoulder / 2
		} else {
			w += between(bodies[r[n-1]], bodies[i])
		}
		if n == len(r)-1 {
			w += bodies[i].Shoulder / 2
		}
	}
	return w
}
