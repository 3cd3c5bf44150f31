package exchange

import (
	"cmp"
	"io"
	"math"
	"slices"
	"strings"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
)

// Sign is a line for a signature.
type Sign struct{ Name, Title string }

// Certificate is what one student is given.
type Certificate struct {
	School, Seal, Colour string // Colour #rrggbb
	Title                string
	Lines                []string // the wording, filled in; the lines that are Name and Rank are written large
	Name, Rank           string
	Rungs                []curriculum.Rung // the ladder, lowest first
	At                   int               // the new rung on it
	Signs                []Sign            // at most four
	Preview              bool              // says across the page that it is none
}

// Promoted is what a certificate says of somebody.
type Promoted struct {
	Name, Rung, Rank string // Rung is its id on the ladder; Rank what the school calls it
	Grade            string // provisional, permanent; "" neither
	Honours          bool
	First            string // the first rung of a double promotion, whose second is Rank; "" none
	On               civil.Date
	Place            string // "" the school
	Panel            []gradingday.Examiner
}

// NewCertificate is the certificate of a school, with the wording of its settings. Where nobody examined
// the head signs.
func NewCertificate(school string, set office.Settings, b *curriculum.Book, x Promoted) Certificate {
	c := Certificate{School: school, Seal: set.SealOf(school), Colour: set.SealColour, Title: set.Title, Name: x.Name, Rank: x.Rank, Rungs: b.Rungs}
	c.Lines = set.Words(map[string]string{"name": x.Name, "rank": x.Rank, "program": b.Program.Name, "date": x.On.Full(), "place": cmp.Or(x.Place, school), "school": school, "grade": x.Grade, "honours": x.honours()})
	if more := x.besides(set.Wording); more != "" {
		c.Lines = append(c.Lines, more)
	}
	c.At = slices.IndexFunc(b.Rungs, func(g curriculum.Rung) bool { return g.ID == x.Rung })
	for _, e := range x.Panel {
		title := set.Examiner
		if e.Chief {
			title = "Chief " + strings.ToLower(set.Examiner)
		}
		c.Signs = append(c.Signs, Sign{Name: e.Name, Title: title})
	}
	if len(c.Signs) == 0 || set.HeadName != "" && len(c.Signs) < mostSigns {
		c.Signs = append(c.Signs, Sign{Name: set.HeadName, Title: set.Head})
	}
	return c
}

// mostSigns are as many signatures as have room.
const mostSigns = 4

func (x Promoted) honours() string {
	if x.Honours {
		return "with honours"
	}
	return ""
}

// besides is what was earned and the school's own wording has no place for.
func (x Promoted) besides(wording string) string {
	var out []string
	if x.Honours && !strings.Contains(wording, "{honours}") {
		out = append(out, x.honours())
	}
	if x.Grade != "" && !strings.Contains(wording, "{grade}") {
		out = append(out, x.Grade+" rank")
	}
	if x.First != "" {
		out = append(out, "by double promotion, with "+x.First)
	}
	return strings.Join(out, ", ")
}

// WriteCertificates writes a page each, in landscape.
func WriteCertificates(w io.Writer, all []Certificate, paper office.Paper, at time.Time) error {
	return drawn(all, paper, true, "Certificates", at).write(w)
}

// PreviewCertificates are the first pages as pictures; so are the other previews.
func PreviewCertificates(all []Certificate, paper office.Paper, most int) []string {
	return drawn(all[:min(most, len(all))], paper, true, "Certificates", time.Time{}).previews(most)
}

// drawn makes a document of what draws itself.
func drawn[T interface{ draw(*page) }](all []T, paper office.Paper, landscape bool, title string, at time.Time) *page {
	p := newPage(paper, landscape, title, at)
	for _, x := range all {
		x.draw(p)
	}
	return p
}

func (c Certificate) draw(p *page) {
	p.AddPage()
	const edge = 10
	// Frame: a line in the school's colour with a brass one inside.
	p.ink(c.Colour)
	p.SetLineWidth(1.1)
	p.Rect(edge, edge, p.wide-2*edge, p.tall-2*edge, "D")
	p.ink("#b48a3c")
	p.SetLineWidth(0.35)
	p.Rect(edge+2.2, edge+2.2, p.wide-2*edge-4.4, p.tall-2*edge-4.4, "D")

	// The ladder, with the new rung across both rails.
	left, top, bottom := edge+13.0, edge+14.0, p.tall-edge-14.0
	wide := 26.0
	p.SetLineWidth(1.2)
	for _, x := range []float64{left, left + wide} {
		p.Line(x, top-4, x, bottom+4)
	}
	n := len(c.Rungs)
	step := (bottom - top) / float64(max(n, 1))
	for i, r := range c.Rungs {
		y := bottom - step*(float64(i)+0.5)
		h := min(5.2, step*0.62)
		switch {
		case i == c.At:
			p.belt(r.Cloth, left-5, y-h*0.75, wide+10, h*1.5)
		case i < c.At:
			p.belt(r.Cloth, left, y-h/2, wide, h)
		default: // still to come: only its place
			p.ink("#d8cbbb")
			p.SetLineWidth(0.25)
			p.Rect(left, y-h/2, wide, h, "D")
		}
	}

	from, to := left+wide+14, p.wide-edge-12
	mid, span := (from+to)/2, to-from
	y := edge + 24.0
	p.ink("#5c5159")
	p.centre(mid, y, sans, p.fit(span, sans, 13, 8, c.School), c.School)
	p.ink(c.Colour)
	size := p.fit(span, serif, 30, 14, c.Title)
	y += 15
	for i, line := range p.lines(span, serif, size, c.Title) {
		if i > 0 {
			y += size * 0.42
		}
		p.centre(mid, y, serif, size, line)
	}
	p.ink("#b48a3c")
	p.SetLineWidth(0.5)
	p.Line(mid-18, y+5, mid+18, y+5)

	// The wording, between title and signatures.
	below := p.tall - edge - 46
	type row struct {
		text string
		face face
		size float64
		high float64
	}
	var rows []row
	room := 0.0
	for _, l := range c.Lines {
		r := row{l, sans, 14, 8.5}
		switch {
		case strings.TrimSpace(l) == c.Name:
			r = row{l, serif, p.fit(span, serif, 34, 12, l), 16}
		case strings.TrimSpace(l) == c.Rank:
			r = row{l, serif, p.fit(span, serif, 26, 12, l), 13}
		}
		texts := []string{l}
		if r.face == sans || p.width(r.face, r.size, l) > span {
			texts = p.lines(span, r.face, r.size, l)
		}
		for _, t := range texts {
			r.text = t
			rows = append(rows, r)
			room += r.high
		}
	}
	scale := min(1, (below-y-14)/math.Max(room, 1))
	y += 10 + (below-y-14-room*scale)/2
	for _, r := range rows {
		y += r.high * scale
		p.ink("#251b23")
		if r.face == serif {
			p.ink(c.Colour)
		}
		p.centre(mid, y, r.face, r.size*min(1, scale+0.12), r.text)
	}

	// Seal, and lines to sign on.
	cx, cy, radius := from+17, p.tall-edge-29, 14.0
	p.ink(c.Colour)
	p.SetLineWidth(0.9)
	p.Circle(cx, cy, radius, "D")
	p.SetLineWidth(0.3)
	p.Circle(cx, cy, radius-2, "D")
	for i := range 24 {
		a := float64(i) * math.Pi / 12
		p.Line(cx+math.Cos(a)*(radius+0.8), cy+math.Sin(a)*(radius+0.8), cx+math.Cos(a)*(radius+2.2), cy+math.Sin(a)*(radius+2.2))
	}
	seal := p.fit(2*radius-7, serif, 24, 7, c.Seal)
	p.centre(cx, cy+seal*0.125, serif, seal, c.Seal)
	if k := min(len(c.Signs), 4); k > 0 {
		begin := from + 42
		each := (to - begin) / float64(k)
		for i, s := range c.Signs[:k] {
			x := begin + each*float64(i)
			p.ink("#251b23")
			p.SetLineWidth(0.25)
			p.Line(x, p.tall-edge-25, x+each-7, p.tall-edge-25)
			p.put(x, p.tall-edge-20, sans, 10.5, p.clip(each-7, sans, 10.5, s.Name))
			p.ink("#5c5159")
			p.put(x, p.tall-edge-15.5, sans, 9, p.clip(each-7, sans, 9, s.Title))
		}
	}
	if c.Preview {
		p.ink("#b8a9b3")
		p.slanted(28, func() { p.centre(p.wide/2, p.tall/2, bold, 70, "only a preview") })
	}
	p.ink("#000000")
}
