package chart

import (
	"fmt"
	"html"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/timetable"
)

// DayBand is a ring.
type DayBand struct {
	Name, Panel string
	Closed      bool
}

// DayBlock is a part of a group in a ring. From and To are minutes after midnight.
type DayBlock struct {
	Group         string // id; blocks of one group share it
	Name, For     string
	Label         string // all of it in words
	Cloth         curriculum.Cloth
	Ring          int
	From, To      int
	Second        bool // after the rest
	Pinned, Wrong bool
}

// Day is a day plan as bands: rings down, time across.
type Day struct {
	gradingday.DayRules
	Finish, Bound int // times of day; 0 none
	Bands         []DayBand
	Blocks        []DayBlock
}

// The picture's size and margins in pixels.
const (
	dayWidth, dayLeft, dayRight, dayTop = 1000, 128, 14, 34
	dayBand, dayBlock                   = 76, 58
)

// SVG draws the day. Each block takes keys and pointers and has its words as label; the list beside it has buttons for the same, and the page
// gives it its meaning. Without plan it draws empty bands over the hall's hours.
func (d Day) SVG() string {
	until := d.Close
	if d.Finish > 0 {
		until = max(d.Finish, d.Bound) + 15
	}
	until = (until + 14) / 15 * 15
	from := d.Open / 15 * 15
	span := max(until-from, 30)
	x := func(minute int) int { return dayLeft + (minute-from)*(dayWidth-dayLeft-dayRight)/span }
	bottom := dayTop + max(len(d.Bands), 1)*dayBand
	height := bottom + 30
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="day" viewBox="0 0 %d %d" role="group" aria-label="%s" data-from="%d" data-span="%d" data-left="%d" data-width="%d" data-top="%d" data-band="%d">`,
		dayWidth, height, html.EscapeString(d.sentence()), from, span, dayLeft, dayWidth-dayLeft-dayRight, dayTop, dayBand)
	step := 15
	for _, s := range []int{15, 30, 60, 120} {
		if step = s; span/s <= 14 {
			break
		}
	}
	for t := (from + step - 1) / step * step; t <= until; t += step {
		fmt.Fprintf(&b, `<line class="grid" x1="%d" x2="%[1]d" y1="%d" y2="%d"/>`, x(t), dayTop-6, bottom)
		b.WriteString(text(x(t), dayTop-13, "tick", "middle", timetable.Clock(t)))
	}
	for i, r := range d.Bands {
		y := dayTop + i*dayBand
		class := "band"
		if r.Closed {
			class += " closed"
		}
		fmt.Fprintf(&b, `<rect class="%s" x="%d" y="%d" width="%d" height="%d" rx="4"/>`, class, dayLeft, y+(dayBand-dayBlock)/2-3, dayWidth-dayLeft-dayRight, dayBlock+6)
		b.WriteString(text(4, y+dayBand/2-3, "ring", "start", shorten(r.Name, 15)))
		b.WriteString(text(4, y+dayBand/2+15, "panel", "start", shorten(r.Panel, 20)))
	}
	if d.Warmup > 0 {
		fmt.Fprintf(&b, `<rect class="warmup" x="%d" y="%d" width="%d" height="%d"/>`, x(d.Open), dayTop, x(d.Open+d.Warmup)-x(d.Open), bottom-dayTop)
		b.WriteString(text((x(d.Open)+x(d.Open+d.Warmup))/2, bottom+17, "tick", "middle", "warm-up"))
	}
	if d.PauseTo > d.PauseFrom && d.PauseFrom < until {
		fmt.Fprintf(&b, `<rect class="pause" x="%d" y="%d" width="%d" height="%d"/>`, x(d.PauseFrom), dayTop, x(min(d.PauseTo, until))-x(d.PauseFrom), bottom-dayTop)
		b.WriteString(text((x(d.PauseFrom)+x(min(d.PauseTo, until)))/2, bottom+17, "tick", "middle", "pause"))
	}
	for _, k := range d.Blocks {
		d.block(&b, k, x)
	}
	mark := func(minute int, class, words, anchor string, dx int) {
		if minute == 0 || minute > until {
			return
		}
		fmt.Fprintf(&b, `<line class="%s" x1="%d" x2="%[2]d" y1="%d" y2="%d"/>`, class, x(minute), dayTop-4, bottom+4)
		b.WriteString(text(x(minute)+dx, bottom+17, "tick "+class, anchor, words))
	}
	if d.Bound > 0 {
		mark(d.Bound, "bound", "not before "+timetable.Clock(d.Bound), "end", -3)
	}
	mark(d.Close, "closes", "hall closes", "end", -3)
	b.WriteString(`</svg>`)
	return b.String()
}

func (d Day) block(b *strings.Builder, k DayBlock, x func(int) int) {
	class := "block"
	for _, c := range []struct {
		on   bool
		name string
	}{{k.Second, "second"}, {k.Pinned, "pinned"}, {k.Wrong, "wrong"}} {
		if c.on {
			class += " " + c.name
		}
	}
	left, width := x(k.From), max(x(k.To)-x(k.From)-1, 3)
	top := dayTop + k.Ring*dayBand + (dayBand-dayBlock)/2
	fmt.Fprintf(b, `<g class="%s" data-group="%s" data-ring="%d" data-at="%d"`, class, html.EscapeString(k.Group), k.Ring, k.From)
	if k.Second {
		b.WriteString(` aria-hidden="true">`)
	} else {
		fmt.Fprintf(b, ` tabindex="0" role="img" aria-label="%s">`, html.EscapeString(k.Label))
	}

	fmt.Fprintf(b, `<title>%s</title><rect x="%d" y="%d" width="%d" height="%d" rx="4"/>`, html.EscapeString(k.Label), left, top, width, dayBlock)
	b.WriteString(cloth(k.Cloth, left+3, top+3, max(width-6, 2), 9))
	letters := (width - 8) / 7
	if letters >= 2 {
		b.WriteString(text(left+5, top+29, "name", "start", shortGroup(k.Name, letters)))
	}
	if letters >= 6 {
		words := k.For
		if k.Second {
			words = "after rest"
		}
		b.WriteString(text(left+5, top+43, "what", "start", shorten(words, letters+letters/8)))
		b.WriteString(text(left+5, top+55, "what", "start", timetable.Clock(k.From)))
	}
	if k.Pinned && !k.Second {
		fmt.Fprintf(b, `<path class="pin" d="M%d %dl5 5v9l-5 -3l-5 3v-9z"/>`, left+width-9, top+16)
	}
	if k.Wrong {
		b.WriteString(text(left+width-5, top+54, "bang", "end", "!"))
	}
	b.WriteString(`</g>`)
}

// shortGroup keeps the number of "Group 12" where little fits.
func shortGroup(name string, letters int) string {
	if len([]rune(name)) <= letters {
		return name
	}
	if i := strings.LastIndexByte(name, ' '); i >= 0 && len(name)-i-1 <= letters {
		return name[i+1:]
	}
	return shorten(name, letters)
}

func (d Day) sentence() string {
	groups := map[string]bool{}
	for _, k := range d.Blocks {
		groups[k.Group] = true
	}
	if len(groups) == 0 {
		return fmt.Sprintf("No plan yet for %d rings", len(d.Bands))
	}
	return fmt.Sprintf("Day plan: %d groups in %d rings, from %s to %s. The list below has every time.", len(groups), len(d.Bands), timetable.Clock(d.Open), timetable.Clock(d.Finish))
}
