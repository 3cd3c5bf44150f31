package chart

import (
	"fmt"
	"html"
	"strings"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/words"
)

// The picture's size and margins in pixels.
const (
	cohortWidth, cohortHeight             = 640, 260
	cohortLeft, cohortBottom, cohortRight = 44, 34, 120
)

// dashes tell curves apart where colour does not.
var dashes = []string{"", "7 4", "2 3", "10 3 2 3", "1 4", "14 5"}

// Cohorts draws for each cohort how many rungs it had climbed on average, month by month.
func Cohorts(all []progress.Cohort) string {
	months, top := 3, 100
	for _, c := range all {
		for _, p := range c.Points {
			months, top = max(months, p.Months), max(top, p.Climbed)
		}
	}
	top = (top + 99) / 100 * 100
	x := func(m int) int { return cohortLeft + m*(cohortWidth-cohortLeft-cohortRight)/months }
	y := func(v int) int { return 12 + (top-v)*(cohortHeight-cohortBottom-12)/top }
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="cohorts" viewBox="0 0 %d %d" role="img" aria-label="Rungs climbed on average, by the half year of the beginning; the table below has the figures">`, cohortWidth, cohortHeight)
	for v := 0; v <= top; v += max(100, top/500*100) {
		fmt.Fprintf(&b, `<line class="grid" x1="%d" x2="%d" y1="%d" y2="%[3]d"/>`, cohortLeft, cohortWidth-cohortRight, y(v))
		b.WriteString(text(cohortLeft-8, y(v)+4, "tick", "end", fmt.Sprint(v/100)))
	}
	for m := 0; m <= months; m += 6 {
		b.WriteString(text(x(m), cohortHeight-cohortBottom+18, "tick", "middle", fmt.Sprintf("%d mo", m)))
	}
	last := -100
	for i, c := range all {
		var d []string
		for k, p := range c.Points {
			word := "L"
			if k == 0 {
				word = "M"
			}
			d = append(d, fmt.Sprintf("%s%d %d", word, x(p.Months), y(p.Climbed)))
		}
		if len(c.Points) < 2 {
			continue
		}
		end := c.Points[len(c.Points)-1]
		fmt.Fprintf(&b, `<path class="curve c%d" stroke-dasharray="%s" d="%s"><title>%s</title></path>`, i%len(dashes), dashes[i%len(dashes)], strings.Join(d, " "), html.EscapeString(words.HalfYear(c.From)))
		at := y(end.Climbed) + 4
		if at-last < 13 && at > last-13 {
			at = last + 13
		}
		last = at
		b.WriteString(text(x(end.Months)+6, at, "name", "start", shorten(words.HalfYear(c.From), 20)))
	}
	b.WriteString(`</svg>`)
	return b.String()
}
