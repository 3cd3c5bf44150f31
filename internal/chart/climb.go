package chart

import (
	"fmt"
	"html"
	"slices"
	"strings"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

// ClimbStep says that from On the student stood at a position of the ladder.
type ClimbStep struct {
	On       civil.Date
	Position int
}

// ClimbTry is a test that did not lead up.
type ClimbTry struct {
	On       civil.Date
	Position int // stood at then
	Words    string
}

// Climb is a student's way up a ladder.
type Climb struct {
	Name  string
	Rungs []curriculum.Rung // lowest first; steps' positions index them
	Steps []ClimbStep       // oldest first
	Tries []ClimbTry
	Today civil.Date
}

// The picture's size and margins in pixels.
const (
	climbWidth, climbLeft, climbRight    = 616, 152, 34
	climbTop, climbRow, climbBottom      = 26, 36, 30
	climbBelow, climbAbove, climbFewRows = 1, 3, 5 // rungs shown around those climbed
)

// SVG draws time across and rungs up: each promotion a step, each failed test a diamond.
func (c Climb) SVG() string {
	if len(c.Steps) == 0 || len(c.Rungs) == 0 {
		return ""
	}
	low, high := c.Steps[0].Position, c.Steps[0].Position
	for _, s := range c.Steps {
		low, high = min(low, s.Position), max(high, s.Position)
	}
	low, high = max(low-climbBelow, 0), min(high+climbAbove, len(c.Rungs)-1)
	low = max(min(low, high-climbFewRows), 0)
	rows := high - low + 1
	bottom := climbTop + (rows-1)*climbRow + 14
	height := bottom + climbBottom

	from := c.Steps[0].On.FirstOfMonth()
	to := c.Today.AddMonths(3).FirstOfMonth()
	for _, s := range c.Steps {
		if to.Before(s.On) {
			to = s.On.AddMonths(2)
		}
	}
	span := max(from.DaysTo(to), 1)
	x := func(d civil.Date) int {
		return climbLeft + from.DaysTo(d)*(climbWidth-climbLeft-climbRight)/span
	}
	y := func(position int) int { return climbTop + (high-position)*climbRow }

	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="climb" viewBox="0 0 %d %d" role="img" aria-label="%s">`, climbWidth, height, html.EscapeString(c.Sentence()))
	for p := low; p <= high; p++ {
		r := c.Rungs[p]
		fmt.Fprintf(&b, `<line class="grid" x1="%d" x2="%d" y1="%d" y2="%[3]d"/>`, climbLeft, climbWidth-climbRight+20, y(p))
		b.WriteString(text(climbLeft-58, y(p)+4, "rank", "end", shorten(r.Name, 16)))
		b.WriteString(cloth(r.Cloth, climbLeft-50, y(p)-6, 40, 12))
	}
	months := max(1, (span/30+4)/5)
	for _, step := range []int{1, 2, 3, 6, 12, 24, 60} {
		if step >= months {
			months = step
			break
		}
	}
	for d := from; !to.Before(d); d = d.AddMonths(months) {
		fmt.Fprintf(&b, `<line class="grid" x1="%d" x2="%[1]d" y1="%d" y2="%d"/>`, x(d), climbTop-12, bottom)
		b.WriteString(text(x(d), bottom+18, "tick", "middle", d.MonthYear()))
	}
	fmt.Fprintf(&b, `<line class="today" x1="%d" x2="%[1]d" y1="%d" y2="%d"/>`, x(c.Today), climbTop-14, bottom)
	b.WriteString(text(x(c.Today)-6, climbTop-6, "today", "end", "today"))

	var path []string
	for i, s := range c.Steps {
		if i == 0 {
			path = append(path, fmt.Sprintf("M%d %d", x(s.On), y(s.Position)))
			continue
		}
		path = append(path, fmt.Sprintf("H%d V%d", x(s.On), y(s.Position)))
	}
	if last := c.Steps[len(c.Steps)-1]; last.On.Before(c.Today) {
		path = append(path, fmt.Sprintf("H%d", x(c.Today)))
	}
	fmt.Fprintf(&b, `<path class="way" d="%s"/>`, strings.Join(path, " "))
	for _, s := range c.Steps {
		fmt.Fprintf(&b, `<circle class="step" cx="%d" cy="%d" r="5"><title>%s, %s</title></circle>`, x(s.On), y(s.Position), html.EscapeString(c.Rungs[s.Position].Name), s.On.Long())
	}
	for _, t := range c.Tries {
		cx, cy := x(t.On), y(t.Position)
		fmt.Fprintf(&b, `<path class="try" d="M%d %d l6 6 l-6 6 l-6 -6 z"><title>%s, %s</title></path>`, cx, cy-6, html.EscapeString(t.Words), t.On.Long())
	}
	b.WriteString(`</svg>`)
	return b.String()
}

// Sentence says the climb in words, for those who cannot see the picture.
func (c Climb) Sentence() string {
	var parts []string
	for _, s := range c.Steps {
		parts = append(parts, fmt.Sprintf("%s on %s", c.Rungs[s.Position].Name, s.On.Long()))
	}
	return c.Name + "’s climb: " + strings.Join(slices.Compact(parts), ", ")
}

func shorten(s string, n int) string {
	if r := []rune(s); len(r) > n {
		return string(r[:n-1]) + "…"
	}
	return s
}
