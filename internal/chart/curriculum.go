package chart

import (
	"fmt"
	"html"
	"slices"
	"strings"

	"velvetladder/internal/core/curriculum"
)

// link wraps a drawing in a link with words for screen readers and as a tooltip.
func link(address, words, drawing string) string {
	return fmt.Sprintf(`<a href="%s" aria-label="%s"><title>%[2]s</title>%s</a>`, html.EscapeString(address), html.EscapeString(words), drawing)
}

// StairStep is a part of a technique with the rung on which it arrives.
type StairStep struct {
	Name  string
	Rung  *curriculum.Rung // nil: with whatever rung asks for the technique first
	Adds  string           // in words
	Shown string           // how it appears below its rung
}

// The staircase's measures in pixels.
const (
	stairWidth, stairRise, stairTop, stairFoot = 640, 46, 30, 40
	stairLetter                                = 7 // an average letter of the words on a step
)

// Staircase draws the parts of a technique as steps that rise with the ladder: the cloth of
// the rung on which a part arrives, its name, and what it adds.
func Staircase(label string, steps []StairStep) string {
	if len(steps) == 0 {
		return ""
	}
	run := stairWidth / len(steps)
	height := stairTop + stairRise*(len(steps)-1) + stairFoot + 10
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="stairs" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" role="img" aria-label="%s">`, stairWidth, height, html.EscapeString(label))
	path := fmt.Sprintf("M0 %d", height-8)
	for i := range steps {
		y := height - stairFoot - stairRise*i - 10
		path += fmt.Sprintf("V%dH%d", y, run*(i+1))
	}
	fmt.Fprintf(&b, `<path class="flight" d="%sV%dZ"/>`, path, height-8)
	for i, s := range steps {
		x, y := run*i+12, height-stairFoot-stairRise*i-10
		fit := (run - 14) / stairLetter
		b.WriteString(text(x, y-8, "name", "start", clip(s.Name, fit)))
		below := y + 18
		if s.Rung != nil {
			b.WriteString(cloth(s.Rung.Cloth, x, y+7, 34, 11))
			b.WriteString(text(x+40, below, "rung", "start", clip(s.Rung.Pictured(), fit-6)))
		} else {
			b.WriteString(text(x, below, "rung", "start", clip("from the start", fit)))
		}
		b.WriteString(text(x, below+16, "adds", "start", clip(s.Adds, fit)))
	}
	b.WriteString(`</svg>`)
	return b.String()
}

func clip(s string, n int) string {
	if r := []rune(s); len(r) > max(n, 4) {
		return strings.TrimSpace(string(r[:max(n, 4)-1])) + "…"
	}
	return s
}

// Coverage is the matrix of attacks and rungs.
type Coverage struct {
	Rungs []curriculum.Rung // lowest first
	Rows  []curriculum.AttackRow
	// Names are the techniques' names by id.
	Names map[string]string
}

// The matrix's measures in pixels.
const coverLabel, coverCell, coverRow, coverHead, coverGap, coverTotal = 232, 62, 30, 74, 10, 34

// positionShape tells answers that end outside from those inside, by shape.
func positionShape(p curriculum.Position, cx, cy int, class string) string {
	switch p {
	case "outside":
		return fmt.Sprintf(`<rect class="%s" x="%d" y="%d" width="14" height="14"/>`, class, cx-7, cy-7)
	case "inside":
		return fmt.Sprintf(`<circle class="%s" cx="%d" cy="%d" r="8"/>`, class, cx, cy)
	}
	return fmt.Sprintf(`<path class="%s" d="M%d %dl9 9l-9 9l-9-9z"/>`, class, cx, cy-9)
}

// rangeLetter stands in a shape: at which range the answer works.
var rangeLetter = map[curriculum.Zone]string{"outside": "o", "middle": "m", "inside": "i"}

// SVG draws a row for each attack and a column for each rung. A shape stands where a rung
// brings an answer; a line runs on from the first one. Rows without any are marked.
func (c Coverage) SVG() string {
	width := coverLabel + coverCell*len(c.Rungs) + coverTotal
	height := coverHead + coverRow*len(c.Rows) + coverGap
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="coverage" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" role="group" aria-label="Attacks down, rungs across">`, width, height)
	x := func(rung int) int { return coverLabel + coverCell*rung + coverCell/2 }
	for i, r := range c.Rungs {
		head := cloth(r.Cloth, x(i)-24, 8, 48, 13) + text(x(i), 40, "head", "middle", clip(r.Pictured(), 9))
		b.WriteString(link("/ladder/"+r.ID, r.Name, head))
		fmt.Fprintf(&b, `<line class="grid" x1="%d" x2="%[1]d" y1="48" y2="%d"/>`, x(i), height-coverGap)
	}
	for n, row := range c.Rows {
		y := coverHead + coverRow*n
		if n > 0 && c.Rows[n-1].Kind != row.Kind {
			fmt.Fprintf(&b, `<line class="part" x1="0" x2="%d" y1="%d" y2="%[2]d"/>`, width, y-coverRow/2)
		}
		class := "attack"
		first := row.Answered()
		if first < 0 {
			class = "attack open"
		}
		b.WriteString(text(0, y+5, class, "start", clip(strings.Replace(row.Words(), ", from the ", ", ", 1), 34)))
		if first < 0 {
			b.WriteString(text(coverLabel+6, y+5, "open", "start", "no rung asks for an answer"))
		} else {
			fmt.Fprintf(&b, `<line class="run" x1="%d" x2="%d" y1="%d" y2="%[3]d"/>%s`, x(first), width-coverTotal, y, text(width-coverGap, y+5, "total", "end", fmt.Sprint(row.Asked())))
		}
		for i := range c.Rungs {
			at := slices.DeleteFunc(slices.Clone(row.Answers), func(a curriculum.Answer) bool { return a.Rung != i })
			for k, a := range at {
				cx := x(i) + (2*k-len(at)+1)*10
				b.WriteString(link("/techniques/"+a.TechniqueID, fmt.Sprintf("%s answers %s from %s on%s", c.Names[a.TechniqueID], row.Words(), c.Rungs[i].Name, ends(a)), positionShape(a.Position, cx, y, "answer")+text(cx, y+4, "zone", "middle", rangeLetter[a.Range])))
			}
		}
	}
	b.WriteString(`</svg>`)
	return b.String()
}

func ends(a curriculum.Answer) string {
	out := ""
	if a.Position != "" {
		out += ", ending " + string(a.Position)
	}
	if a.Range != "" {
		out += ", at " + string(a.Range) + " range"
	}
	return out
}

// LoadBar is how much one rung asks.
type LoadBar struct {
	Rung                curriculum.Rung
	New, Grown, Carried int // lines
	Minutes             int
}

// The load curve's measures in pixels.
const loadLeft, loadBar, loadWay, loadTop, loadHeight, loadFoot = 4, 70, 52, 92, 140, 44

// minutesAt is the height of a rung's minutes in the band above the bars.
func minutesAt(minutes, longest int) int { return 20 + loadWay - minutes*loadWay/longest }

// Load draws a track's load curve: a bar of lines for each rung, new ones filled, grown ones
// framed, carried ones dashed, and above the bars the minutes as a line with its figures.
func Load(label string, bars []LoadBar) string {
	most, longest := 1, 1
	for _, x := range bars {
		most, longest = max(most, x.New+x.Grown+x.Carried), max(longest, x.Minutes)
	}
	width, height := loadLeft+loadBar*len(bars)+10, loadTop+loadHeight+loadFoot
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="load" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" role="group" aria-label="%s">`, width, height, html.EscapeString(label))
	base := loadTop + loadHeight
	fmt.Fprintf(&b, `<line class="grid" x1="%d" x2="%d" y1="%d" y2="%[3]d"/>`, loadLeft, width, base)
	way := ""
	for i, x := range bars {
		left := loadLeft + loadBar*i + 16
		y := base
		var bar strings.Builder
		for _, part := range []struct {
			n     int
			class string
		}{{x.Carried, "carried"}, {x.Grown, "grown"}, {x.New, "new"}} {
			if part.n == 0 {
				continue
			}
			h := part.n * loadHeight / most
			y -= h
			fmt.Fprintf(&bar, `<rect class="%s" x="%d" y="%d" width="34" height="%d"/>`, part.class, left, y, h)
		}
		total := x.New + x.Grown + x.Carried
		bar.WriteString(cloth(x.Rung.Cloth, left-2, base+6, 38, 10))
		b.WriteString(text(left+17, y-5, "lines", "middle", fmt.Sprint(total)) + text(left+17, base+32, "head", "middle", clip(x.Rung.Pictured(), 10)))
		b.WriteString(link("/ladder/"+x.Rung.ID, fmt.Sprintf("%s: %d lines (%d new, %d grown, %d carried), %d min", x.Rung.Name, total, x.New, x.Grown, x.Carried, x.Minutes), bar.String()))
		way += fmt.Sprintf("%s%d %d", map[bool]string{true: "M", false: "L"}[i == 0], left+17, minutesAt(x.Minutes, longest))
	}
	fmt.Fprintf(&b, `<path class="way" d="%s"/>`, way)
	for i, x := range bars {
		cx, my := loadLeft+loadBar*i+33, minutesAt(x.Minutes, longest)
		fmt.Fprintf(&b, `<circle class="dot" cx="%d" cy="%d" r="3.5"/>%s`, cx, my, text(cx, my-8, "minutes", "middle", fmt.Sprintf("%d min", x.Minutes)))
	}
	b.WriteString(`</svg>`)
	return b.String()
}
