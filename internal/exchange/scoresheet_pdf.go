package exchange

import (
	"fmt"
	"io"
	"strings"
	"time"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

// PaperItem is a row of a paper scoresheet: what gets a mark.
type PaperItem struct {
	Label    string
	Section  string
	Detail   string
	MustPass bool
	Bonus    bool
	Weight   int        // how often its mark counts
	Head     string     // what counts for all rows of its section
	Under    []string   // the steps, and what to look at: a line each
	Prompts  []string   // of a category: what is called
	Stands   []bool     // by candidate: it stands from an earlier attempt, and is not asked
	NotFor   []bool     // by candidate: it is not on their sheet
	Ticks    [][]string // by candidate: what of a free choice is ticked when it is seen
	Own      []string   // by candidate: how it differs for them; "" does as called
}

// flags are what is said behind a row's name.
func (it PaperItem) flags() (out string) {
	if it.Weight > 1 {
		out = fmt.Sprintf(" (counts %d ×)", it.Weight)
	}
	switch {
	case it.Bonus:
		return out + " (bonus)"
	case it.MustPass:
		return out + " ◆"
	}
	return out
}

// Scoresheet is one examiner's paper for one group.
type Scoresheet struct {
	School, Grading, On, Ring, Group, For string
	Examiner, ExaminerTitle               string
	When                                  string // "10:05–10:43"; "" not planned
	Candidates                            []string
	Numbers                               []int
	Cloths                                []curriculum.Cloth
	Scale                                 []string // "0 not known", …
	Items                                 []PaperItem
	Cautions                              []string
	Sums                                  []PaperSum // what the examiner adds up
	After                                 string     // what stands below the sums
}

// PaperSum is a line at the end of a sheet: a box for each candidate, with small print in it, or what is printed instead.
type PaperSum struct {
	Label string
	Boxes []string // by candidate
	Given bool
}

// WriteScoresheets writes sheets with boxes large enough for a pen, a row for each mark.
func WriteScoresheets(w io.Writer, all []Scoresheet, paper office.Paper, at time.Time) error {
	return drawn(all, paper, false, "Scoresheets", at).write(w)
}

// PreviewScoresheets are the first pages as pictures.
func PreviewScoresheets(all []Scoresheet, paper office.Paper, most int) []string {
	return drawn(all[:min(most, len(all))], paper, false, "Scoresheets", time.Time{}).previews(most)
}

// headRoom is what head, foot and a label take of a page, and underStep a line of small print, in
// millimetres.
const headRoom, underStep = 95.0, 3.7

// The box for a mark, in millimetres.
const boxWide, boxHigh = 19.0, 11.0

func (s Scoresheet) draw(p *page) {
	const left = 15.0
	right := p.wide - 15
	n := len(s.Candidates)
	boxes := right - float64(n)*(boxWide+1.5)
	y := 0.0
	head := func(first bool) {
		p.AddPage()
		p.foot(s.School + " · " + s.Grading + " · " + s.On + " · " + s.Examiner + " · " + s.Group)
		y = 19
		p.put(left, y, serif, 17, p.clip(boxes-left+20, serif, 17, s.For))
		p.right(right, y, bold, 12, s.Group)
		y += 6
		y = p.block(left, y, right-left, 4.6, sans, 10, strings.Join(full(s.Grading, s.On, s.Ring, s.When), " · ")) + 1.4
		p.put(left, y, sans, 10, s.ExaminerTitle+":")
		room := right - 78 - (left + 26) - 3
		size := p.fit(room, bold, 11, 6, s.Examiner)
		p.put(left+26, y, bold, size, p.clip(room, bold, size, s.Examiner))
		if first {
			p.put(right-78, y, sans, 10, "Signature")
			p.SetLineWidth(0.25)
			p.Line(right-60, y+0.5, right, y+0.5)
		}
		y += 5
		if first {
			y = p.block(left, y+1, right-left, 4.2, sans, 9, "Marks: "+strings.Join(s.Scale, " · ")+" · write – for not seen, and a note beside the box.")
			if len(s.Cautions) > 0 {
				y = p.block(left, y+0.6, right-left, 4.2, bold, 9, "Mind: "+strings.Join(s.Cautions, " · "))
			}
		}
		y += 1
		deepest := 1
		for i, name := range s.Candidates {
			x := boxes + float64(i)*(boxWide+1.5)
			p.belt(s.Cloths[i], x, y, boxWide, 2.4)
			p.centre(x+boxWide/2, y+7.4, bold, 12, fmt.Sprint(s.Numbers[i]))
			names := p.lines(boxWide, sans, 7.5, name)
			for k, line := range names {
				p.centre(x+boxWide/2, y+11+float64(k)*3, sans, 7.5, line)
			}
			deepest = max(deepest, len(names))
		}
		y += 10 + 3*float64(deepest)
	}
	head(true)
	section := ""
	for k, it := range s.Items {
		label := p.lines(boxes-left-10, bold, 11, it.Label+it.flags())
		under := []string{}
		if it.Detail != "" {
			under = append(under, p.lines(boxes-left-12, sans, 8.5, it.Detail)...)
		}
		for _, q := range it.Under {
			under = append(under, p.lines(boxes-left-12, sans, 8.5, q)...)
		}
		for _, q := range it.Prompts {
			under = append(under, p.lines(boxes-left-12, sans, 8.5, "– "+q)...)
		}
		for i, own := range it.Own {
			if own != "" {
				under = append(under, p.lines(boxes-left-12, bold, 8.5, fmt.Sprintf("%d: %s", s.Numbers[i], own))...)
			}
		}
		for i, list := range it.Ticks {
			if len(list) > 0 {
				under = append(under, p.lines(boxes-left-12, sans, 8.5, fmt.Sprintf("%d: □ %s", s.Numbers[i], strings.Join(list, "   □ ")))...)
			}
		}
		// A row that no page holds runs on behind it.
		var on []string
		if most := int((p.tall - headRoom) / underStep); len(under) > most {
			under, on = under[:most], under[most:]
		}
		high := max(boxHigh+1.6, float64(len(label))*4.8+float64(len(under))*3.7+2.5)
		need, above := high, []string(nil)
		if it.Section != section {
			if it.Head != "" {
				above = p.lines(right-left, bold, 8.5, "Throughout: "+it.Head)
			}
			need += 7 + 3.7*float64(len(above))
		}
		if y+need > p.tall-15 {
			head(false)
			section = ""
		}
		if it.Section != section {
			section = it.Section
			p.put(left, y+4.5, serif, 12, section)
			p.SetLineWidth(0.2)
			p.Line(left, y+6, right, y+6)
			y += 7
			for _, l := range above {
				p.put(left, y+2.6, bold, 8.5, l)
				y += 3.7
			}
		}
		p.put(left, y+4.6, sans, 9, fmt.Sprint(k+1))
		for i, l := range label {
			p.put(left+8, y+4.6+float64(i)*4.8, bold, 11, l)
		}
		for i, l := range under {
			p.put(left+8, y+4.6+float64(len(label)-1)*4.8+4.2+float64(i)*3.7, sans, 8.5, l)
		}
		for i := range s.Candidates {
			x := boxes + float64(i)*(boxWide+1.5)
			p.SetLineWidth(0.45)
			switch {
			case i < len(it.NotFor) && it.NotFor[i]:
				p.centre(x+boxWide/2, y+7, sans, 8, "not asked")
			case i < len(it.Stands) && it.Stands[i]:
				p.centre(x+boxWide/2, y+7, sans, 8, "stands")
			default:
				p.Rect(x, y+0.4, boxWide, boxHigh, "D")
			}
		}
		y += high
		p.SetLineWidth(0.1)
		p.Line(left, y-0.6, right, y-0.6)
		for i, l := range on {
			if i == 0 || y+underStep > p.tall-15 {
				head(false)
				p.put(left, y+4.6, bold, 11, it.Label+", goes on")
				y += 8
			}
			p.put(left+8, y+2.6, sans, 8.5, l)
			y += underStep
		}
		if len(on) > 0 {
			y += 2
			p.Line(left, y-0.6, right, y-0.6)
		}
	}
	y = s.sums(p, y, left, boxes, func() float64 { head(false); return y })
	if y+24 > p.tall-15 {
		head(false)
	}
	p.put(left, y+6, sans, 9, "◆ must pass. Faults: what, who, and whether it takes points off or ends the test (the chief examiner confirms that).")
	for i := range 2 {
		p.Line(left, y+14+float64(i)*8, right, y+14+float64(i)*8)
	}
}

// sums draws what closes the sheet: a row for each sum, with a box under each candidate. They are kept together where a page
// holds them.
func (s Scoresheet) sums(p *page, y, left, boxes float64, again func() float64) float64 {
	if len(s.Sums) == 0 {
		return y
	}
	const small = 8.6 // the box for a sum, in millimetres
	var labels [][]string
	high := func(k int) float64 { return max(small+1.2, float64(len(labels[k]))*4+1.6) }
	need := 12.0
	for k, sum := range s.Sums {
		labels = append(labels, p.lines(boxes-left-3, sans, 9.5, sum.Label))
		need += high(k)
	}
	if y+need > p.tall-15 {
		y = again()
	}
	p.put(left, y+4.5, serif, 12, "Adding up")
	p.SetLineWidth(0.2)
	p.Line(left, y+6, p.wide-15, y+6)
	y += 7
	for k, sum := range s.Sums {
		if y+high(k) > p.tall-15 {
			y = again()
		}
		for i, l := range labels[k] {
			p.put(left, y+4.6+float64(i)*4, sans, 9.5, l)
		}
		for i, in := range sum.Boxes {
			x := boxes + float64(i)*(boxWide+1.5)
			if sum.Given {
				p.centre(x+boxWide/2, y+5.6, bold, p.fit(boxWide, bold, 10, 4, in), in)
				continue
			}
			p.SetLineWidth(0.45)
			p.Rect(x, y+0.4, boxWide, small, "D")
			if in != "" {
				p.right(x+boxWide-0.8, y+small-0.5, sans, p.fit(boxWide-1.6, sans, 6.5, 4, in), in)
			}
		}
		y += high(k)
		p.SetLineWidth(0.1)
		p.Line(left, y-0.3, p.wide-15, y-0.3)
	}
	if s.After != "" {
		y = p.block(left, y+4, p.wide-30, 4.2, sans, 9, s.After)
	}
	return y
}

func full(parts ...string) (out []string) {
	for _, x := range parts {
		if x != "" {
			out = append(out, x)
		}
	}
	return out
}
