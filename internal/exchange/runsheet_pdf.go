package exchange

import (
	"io"
	"strings"
	"time"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

// RunRow is one entry of a run sheet.
type RunRow struct {
	When, What string // "10:05–10:43", "Group 3: Orange belt, Juniors"
	Cloth      *curriculum.Cloth
	People     []string
	Notes      []string // partner lines, rest, what to have ready
}

// RunSheet is one ring's day.
type RunSheet struct {
	School, Grading, On, Place, Ring string
	Panel                            []string
	Rows                             []RunRow
	Bouts                            []string // "1  Ada Rill – Ben Sluice"
	Cautions                         []string
}

// WriteRunSheets writes a page or more for each ring.
func WriteRunSheets(w io.Writer, all []RunSheet, paper office.Paper, at time.Time) error {
	return drawn(all, paper, false, "Run sheets", at).write(w)
}

// PreviewRunSheets are the first pages as pictures.
func PreviewRunSheets(all []RunSheet, paper office.Paper, most int) []string {
	return drawn(all[:min(most, len(all))], paper, false, "Run sheets", time.Time{}).previews(most)
}

func (s RunSheet) draw(p *page) {
	const left = 15.0
	right := p.wide - 15
	y := 0.0
	head := func() {
		p.AddPage()
		p.foot(s.School + " · " + s.Grading + " · " + s.On + " · " + s.Ring)
		y = 20
		p.put(left, y, serif, 20, s.Ring)
		p.right(right, y, sans, 10, strings.Join(full(s.Grading, s.On, s.Place), " · "))
		y += 7
		y = p.block(left, y, right-left, 4.6, sans, 10.5, "Panel: "+strings.Join(s.Panel, ", "))
		p.SetLineWidth(0.4)
		p.Line(left, y-1, right, y-1)
		y += 5
	}
	head()
	for _, r := range s.Rows {
		var lines []string
		lines = append(lines, p.lines(right-left-36, sans, 10, strings.Join(r.People, ", "))...)
		notes := []string{}
		for _, n := range r.Notes {
			notes = append(notes, p.lines(right-left-36, sans, 8.5, n)...)
		}
		high := 7 + float64(len(lines))*4.6 + float64(len(notes))*3.9 + 3
		if len(r.People) == 0 {
			lines, high = nil, high-4.6
		}
		if y+high > p.tall-15 {
			head()
		}
		p.put(left, y, bold, 12, r.When)
		x := left + 32
		if r.Cloth != nil {
			p.belt(*r.Cloth, x, y-3.6, 16, 4)
			x += 19
		}
		p.put(x, y, bold, 11.5, p.clip(right-x-8, bold, 11.5, r.What))
		p.SetLineWidth(0.3)
		p.Rect(right-4.5, y-3.8, 4.5, 4.5, "D") // to tick
		y += 5.4
		for _, l := range lines {
			p.put(left+32, y, sans, 10, l)
			y += 4.6
		}
		for _, l := range notes {
			p.ink("#5c5159")
			p.put(left+32, y, sans, 8.5, l)
			p.ink("#000000")
			y += 3.9
		}
		y += 1.5
		p.SetLineWidth(0.1)
		p.Line(left, y-1, right, y-1)
		y += 4.5
	}
	list := func(title string, rows []string) {
		if len(rows) == 0 {
			return
		}
		if y+18 > p.tall-15 {
			head()
		}
		y += 2
		p.put(left, y, serif, 13, title)
		y += 6
		for _, b := range rows {
			for _, l := range p.lines(right-left, sans, 10, b) {
				if y > p.tall-16 {
					head()
				}
				p.put(left, y, sans, 10, l)
				y += 4.8
			}
		}
	}
	list("Bouts", s.Bouts)
	list("Mind", s.Cautions)
}

// ResultLetter is a result in plain words on paper.
type ResultLetter struct {
	School, Colour, Grading, On, Place string
	Name                               string
	Lead                               string
	Parts                              []LetterPart
	Closing                            string
	Sign                               Sign
}

// LetterPart is a list with a title.
type LetterPart struct {
	Title string
	Rows  []string
}

// WriteLetters writes a page or more for each student.
func WriteLetters(w io.Writer, all []ResultLetter, paper office.Paper, at time.Time) error {
	return drawn(all, paper, false, "Result letters", at).write(w)
}

// PreviewLetters are the first pages as pictures.
func PreviewLetters(all []ResultLetter, paper office.Paper, most int) []string {
	return drawn(all[:min(most, len(all))], paper, false, "Result letters", time.Time{}).previews(most)
}

func (l ResultLetter) draw(p *page) {
	const left, width = 25.0, 160.0
	y := 0.0
	head := func() {
		p.AddPage()
		p.foot(l.School + " · " + l.Name)
		p.ink(l.Colour)
		p.put(left, 22, serif, 12, l.School)
		p.ink("#b48a3c")
		p.SetLineWidth(0.5)
		p.Line(left, 25, left+width, 25)
		p.ink("#000000")
		y = 40
	}
	head()
	step := func(h float64) {
		if y+h > p.tall-20 {
			head()
		}
	}
	p.ink("#5c5159")
	p.put(left, y, sans, 10.5, strings.Join(full(l.Grading, l.On, l.Place), " · "))
	p.ink(l.Colour)
	y += 13
	size := p.fit(width, serif, 26, 14, l.Name)
	below := size * 0.42
	y = p.block(left, y, width, below, serif, size, l.Name) - below
	p.ink("#000000")
	y = p.block(left, y+12, width, 6.4, sans, 13, l.Lead) + 4
	for _, part := range l.Parts {
		step(18)
		p.put(left, y, serif, 14, part.Title)
		y += 7
		for _, r := range part.Rows {
			lines := p.lines(width-6, sans, 11, r)
			step(float64(len(lines)) * 5.4)
			p.put(left, y, sans, 11, "–")
			for _, t := range lines {
				p.put(left+5, y, sans, 11, t)
				y += 5.4
			}
			y += 0.8
		}
		y += 4
	}
	step(40)
	y = p.block(left, y, width, 5.4, sans, 11, l.Closing) + 16
	p.SetLineWidth(0.25)
	p.Line(left, y, left+62, y)
	p.put(left, y+5, sans, 10.5, l.Sign.Name)
	p.put(left, y+9.5, sans, 9, l.Sign.Title)
}
