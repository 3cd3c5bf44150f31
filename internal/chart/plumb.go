package chart

import (
	"fmt"
	"html"
	"math/big"
	"slices"
	"strings"
)

// PlumbDot is one examiner's figure on the line.
type PlumbDot struct {
	Letter, Words string
	At            *big.Rat
	State         DotState
}

// DotState says how a dot is drawn; shape and fill carry it, colour only helps.
type DotState string

// The states of a dot.
const (
	DotPass       DotState = "pass"       // filled
	DotFail       DotState = "fail"       // hollow
	DotIncomplete DotState = "incomplete" // dashed
)

// Plumb is a threshold as a vertical line with every examiner's figure beside it.
type Plumb struct {
	From, To, Threshold *big.Rat // Threshold nil: no line
	Dots                []PlumbDot
	Label               string
}

// The picture's size in pixels.
const plumbWidth, plumbHeight, plumbPad, plumbRadius = 316, 46, 14, 9

// crowded is where dots go that stand at one place: beside the line, then further back.
var crowded = [][2]int{{0, 0}, {0, 13}, {0, -13}, {-15, 7}, {-15, -7}}

// SVG draws the plumb line. Dots that would hide each other are moved up and down.
func (p Plumb) SVG() string {
	x := func(v *big.Rat) int {
		span := new(big.Rat).Sub(p.To, p.From)
		if span.Sign() <= 0 {
			return plumbWidth / 2
		}
		share := new(big.Rat).Quo(new(big.Rat).Sub(v, p.From), span)
		px := share.Mul(share, big.NewRat(plumbWidth-2*plumbPad, 1))
		n := int(new(big.Int).Quo(px.Num(), px.Denom()).Int64())
		return plumbPad + min(max(n, 0), plumbWidth-2*plumbPad)
	}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="plumb" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" role="img" aria-label="%s">`, plumbWidth, plumbHeight, html.EscapeString(p.Label))
	mid := plumbHeight / 2
	fmt.Fprintf(&b, `<line class="cord" x1="%d" x2="%d" y1="%d" y2="%[3]d"/>`, plumbPad, plumbWidth-plumbPad, mid)
	if p.Threshold != nil {
		at := x(p.Threshold)
		fmt.Fprintf(&b, `<rect class="clear" x="%d" y="%d" width="%d" height="14"/>`, at, mid-7, plumbWidth-plumbPad-at)
		fmt.Fprintf(&b, `<line class="threshold" x1="%d" x2="%[1]d" y1="2" y2="%d"/>`, at, plumbHeight-2)
	}
	dots := slices.Clone(p.Dots)
	slices.SortStableFunc(dots, func(a, b PlumbDot) int { return a.At.Cmp(b.At) })
	last, crowd := -100, 0
	for _, d := range dots {
		cx := x(d.At)
		if crowd++; cx-last >= plumbRadius+6 {
			crowd = 0
		}
		nudge := crowded[crowd%len(crowded)]
		last = cx
		cx, cy := cx+nudge[0], mid+nudge[1]
		fmt.Fprintf(&b, `<g class="dot %s"><circle cx="%d" cy="%d" r="%d"/>%s<title>%s</title></g>`, d.State, cx, cy, plumbRadius,
			text(cx, cy+4, "letter", "middle", d.Letter), html.EscapeString(d.Words))
	}
	b.WriteString(`</svg>`)
	return b.String()
}
