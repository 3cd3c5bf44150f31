package chart

import (
	"fmt"
	"html"
	"math"
	"strings"
)

// BesideRow is one examiner beside the others.
type BesideRow struct {
	Name, Under, Words string  // the words stand beside the dot
	Mean, Low, High    float64 // scale steps
	Enough, Sure       bool
}

// The measures of examiners beside each other, in pixels.
const (
	besideWidth, besideLeft, besideRight   = 616, 168, 100
	besideTop, besideRowHeight, besideFoot = 42, 46, 12
)

// Beside draws how far each examiner's marks lie from those of the others on the same performances: a dot at the mean,
// a bar over what it may be, around a line for "as the others".
func Beside(label string, rows []BesideRow) string {
	reach := 1.0
	for _, r := range rows {
		for _, x := range []float64{r.Mean, r.Low, r.High} {
			reach = max(reach, math.Ceil(math.Abs(x)))
		}
	}
	half := float64(besideWidth-besideLeft-besideRight) / 2
	middle := float64(besideLeft) + half
	x := func(steps float64) int { return int(math.Round(middle + steps/reach*half)) }
	height := besideTop + besideRowHeight*len(rows) + besideFoot
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="beside" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" role="img" aria-label="%s">`, besideWidth, height, html.EscapeString(label))
	steps := func(n float64, way string) string {
		switch n {
		case 0.5:
			return "½"
		case 1:
			return "1 step " + way
		}
		return fmt.Sprintf("%g steps %s", n, way)
	}
	for _, t := range []float64{-reach, -reach / 2, 0, reach / 2, reach} {
		class, words := "grid", steps(math.Abs(t), map[bool]string{true: "lower", false: "higher"}[t < 0])
		if t == 0 {
			class, words = "even", "as the others"
		} else if math.Abs(t) < reach && t != 0.5 && t != -0.5 {
			words = fmt.Sprintf("%g", math.Abs(t))
		}
		fmt.Fprintf(&b, `<line class="%s" x1="%d" x2="%[2]d" y1="%d" y2="%d"/>`, class, x(t), besideTop-10, height-besideFoot)
		b.WriteString(text(x(t), besideTop-18, "tick", "middle", words))
	}
	for i, r := range rows {
		y := besideTop + besideRowHeight*i + besideRowHeight/2
		b.WriteString(text(14, y-2, "name", "start", clip(r.Name, 22)))
		b.WriteString(text(14, y+14, "under", "start", r.Under))
		class, radius := "row", 9
		switch {
		case !r.Enough:
			class, radius = "row few", 8
		case r.Sure && r.Mean < 0:
			class = "row lower"
		}
		fmt.Fprintf(&b, `<g class="%s">`, class)
		if r.Enough {
			fmt.Fprintf(&b, `<rect x="%d" y="%d" width="%d" height="9" rx="4.5"/>`, x(r.Low), y-5, max(x(r.High)-x(r.Low), 9))
		}
		fmt.Fprintf(&b, `<circle cx="%d" cy="%d" r="%d"/>`, x(r.Mean), y, radius)
		at, anchor := max(x(r.High), x(r.Mean)+radius)+8, "start"
		if r.Mean < 0 && r.Enough {
			at, anchor = min(x(r.Low), x(r.Mean)-radius)-8, "end"
		}
		if anchor == "end" && at-7*len(r.Words) < besideLeft-10 { // it would run into the names
			at, anchor = max(x(r.High), x(r.Mean)+radius)+8, "start"
		}
		b.WriteString(text(at, y+4, "words", anchor, r.Words) + `</g>`)
	}
	b.WriteString(`</svg>`)
	return b.String()
}
