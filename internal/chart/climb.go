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

	Came    []civil.Date  // classes attended, in order: ticks along the bottom
	Stripes []ClimbStripe // section stripes on the way
	Fan     *ClimbFan     // nil: nothing is foreseen
}

// ClimbStripe is a section stripe awarded while standing on a rung.
type ClimbStripe struct {
	On       civil.Date
	Position int
	Colour   string // #rrggbb
	Words    string
}

// ClimbFan is when the next rung may be tested for: early, likely and late. A zero day lies
// beyond what is foreseen.
type ClimbFan struct {
	Position            int // of the rung climbed to
	Early, Likely, Late civil.Date
}

// away is after how many days between two classes the picture says so.
const away = 35

// The picture's size and margins in pixels.
const (
	climbTop, climbRow, climbBottom      = 26, 36, 30
	climbBelow, climbAbove, climbFewRows = 1, 3, 5 // rungs shown around those climbed
)

// climbForm is how wide a picture of a climb is: its letters are of one size in each.
type climbForm struct {
	class              string
	width, left, right int
	belt, name, ticks  int // width of a belt, letters of a name, dates below
}

// A desk has room for the whole; a phone gets a picture of its own width instead of a small copy, whose letters nobody could read.
var climbForms = []climbForm{{"climb", 616, 152, 34, 40, 16, 5}, {"climb narrow", 320, 98, 27, 24, 9, 3}}

// SVG draws time across and rungs up: each promotion a step, each failed test a diamond. It draws it for a desk and for a phone; the
// page shows one of them.
func (c Climb) SVG() string {
	if len(c.Steps) == 0 || len(c.Rungs) == 0 {
		return ""
	}
	out := ""
	for _, f := range climbForms {
		out += c.svg(f)
	}
	return out
}

// svg is long: the picture is made from the back to the front.
func (c Climb) svg(form climbForm) string {
	low, high := c.Steps[0].Position, c.Steps[0].Position
	for _, s := range c.Steps {
		low, high = min(low, s.Position), max(high, s.Position)
	}
	low, high = max(low-climbBelow, 0), min(high+climbAbove, len(c.Rungs)-1)
	low = max(min(low, high-climbFewRows), 0)
	rows := high - low + 1
	bottom := climbTop + (rows-1)*climbRow + 14
	if len(c.Came) > 0 { // a strip of its own for the classes
		bottom += 14
	}
	height := bottom + climbBottom

	from := c.Steps[0].On.FirstOfMonth()
	to := c.Today.AddMonths(3).FirstOfMonth()
	for _, s := range c.Steps {
		if to.Before(s.On) {
			to = s.On.AddMonths(2)
		}
	}
	if f := c.Fan; f != nil {
		far := c.Today.AddMonths(9)
		for _, d := range []civil.Date{f.Likely.AddMonths(1), f.Late} {
			if to.Before(d) {
				to = d
			}
		}
		if far.Before(to) { // the way behind must not shrink for a far guess
			to = far
		}
	}
	span := max(from.DaysTo(to), 1)
	x := func(d civil.Date) int {
		return form.left + from.DaysTo(d)*(form.width-form.left-form.right)/span
	}
	y := func(position int) int { return climbTop + (high-position)*climbRow }

	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="%s" viewBox="0 0 %d %d" role="img" aria-label="%s">`, form.class, form.width, height, html.EscapeString(c.Sentence()))
	for p := low; p <= high; p++ {
		r := c.Rungs[p]
		name := r.Name
		if len([]rune(name)) > form.name { // the cloth beside it says the rest
			name = r.Pictured()
		}
		fmt.Fprintf(&b, `<line class="grid" x1="%d" x2="%d" y1="%d" y2="%[3]d"/>`, form.left, form.width-form.right+min(20, form.right), y(p))
		b.WriteString(text(form.left-form.belt-18, y(p)+4, "rank", "end", shorten(name, form.name)))
		b.WriteString(cloth(r.Cloth, form.left-form.belt-10, y(p)-6, form.belt, 12))
	}
	months := max(1, (span/30+form.ticks-1)/form.ticks)
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

	c.ticks(&b, x, bottom)
	if f := c.Fan; f != nil {
		c.fan(&b, form, x, y, to)
	}
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
	for _, s := range c.Stripes {
		fmt.Fprintf(&b, `<rect class="stripe-mark" x="%d" y="%d" width="5" height="11" fill="%s"><title>%s</title></rect>`, x(s.On)-2, y(s.Position)-14, html.EscapeString(s.Colour), html.EscapeString(s.Words))
	}
	for _, t := range c.Tries {
		cx, cy := x(t.On), y(t.Position)
		fmt.Fprintf(&b, `<path class="try" d="M%d %d l6 6 l-6 6 l-6 -6 z"><title>%s, %s</title></path>`, cx, cy-6, html.EscapeString(t.Words), t.On.Long())
	}
	b.WriteString(`</svg>`)
	return b.String()
}

// ticks draws a tick for every class attended and names the long gaps between them.
func (c Climb) ticks(b *strings.Builder, x func(civil.Date) int, bottom int) {
	if len(c.Came) == 0 {
		return
	}
	var d []string
	last := -2
	for _, on := range c.Came {
		if at := x(on); at > last { // not two at one place
			d = append(d, fmt.Sprintf("M%d %dv6", at, bottom-7))
			last = at
		}
	}
	fmt.Fprintf(b, `<path class="came" d="%s"><title>%d classes attended</title></path>`, strings.Join(d, ""), len(c.Came))
	for i, on := range c.Came {
		next := c.Today
		if i+1 < len(c.Came) {
			next = c.Came[i+1]
		}
		if days := on.DaysTo(next); days >= away && x(next)-x(on) > 20 {
			b.WriteString(text((x(on)+x(next))/2, bottom-10, "gap", "middle", fmt.Sprintf("away %d weeks", days/7)))
		}
	}
}

// fan draws from today to the days on which the next rung may be tested for.
func (c Climb) fan(b *strings.Builder, form climbForm, x func(civil.Date) int, y func(int) int, end civil.Date) {
	within := func(d civil.Date) civil.Date {
		if d.IsZero() || end.Before(d) {
			return end
		}
		return d
	}
	f, here := c.Fan, c.Steps[len(c.Steps)-1].Position
	fmt.Fprintf(b, `<path class="fan" d="M%d %d L%d %d H%d Z"><title>early %s, late %s</title></path>`, x(c.Today), y(here), x(within(f.Early)), y(f.Position), max(x(within(f.Late)), x(within(f.Early))+2), dayOr(f.Early), dayOr(f.Late))
	at := x(within(f.Likely))
	fmt.Fprintf(b, `<path class="likely" d="M%d %d L%d %d"/>`, x(c.Today), y(here), at, y(f.Position))
	words := "likely " + f.Likely.Short()
	if f.Likely.IsZero() {
		words = "not in sight"
	}
	anchor, shift := "middle", 0
	if at > form.width-form.right-40 {
		anchor, shift = "end", 14
	}
	b.WriteString(text(at+shift, y(f.Position)-8, "likely", anchor, words))
}

func dayOr(d civil.Date) string {
	if d.IsZero() {
		return "beyond what is foreseen"
	}
	return d.Long()
}

// Bar is how much of something is done, as a bar.
func Bar(done, of int) string {
	const width, height = 150, 10
	n := 0
	if of > 0 {
		n = width * done / of
	}
	return fmt.Sprintf(`<svg class="bar" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" aria-hidden="true"><rect class="all" width="%[1]d" height="%[2]d"/><rect class="done" width="%[3]d" height="%[2]d"/></svg>`, width, height, n)
}

// Sentence says the climb in words, for those who cannot see the picture.
func (c Climb) Sentence() string {
	var parts []string
	for _, s := range c.Steps {
		parts = append(parts, fmt.Sprintf("%s on %s", c.Rungs[s.Position].Name, s.On.Long()))
	}
	words := c.Name + "’s climb: " + strings.Join(slices.Compact(parts), ", ")
	if len(c.Came) > 0 {
		words += fmt.Sprintf("; %d classes attended", len(c.Came))
	}
	if f := c.Fan; f != nil {
		words += fmt.Sprintf("; %s may be tested for: early %s, likely %s, late %s", c.Rungs[f.Position].Name, dayOr(f.Early), dayOr(f.Likely), dayOr(f.Late))
	}
	return words
}

func shorten(s string, n int) string {
	if r := []rune(s); len(r) > n {
		return string(r[:n-1]) + "…"
	}
	return s
}
