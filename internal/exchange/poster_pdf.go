package exchange

import (
	"fmt"
	"io"
	"math"
	"time"

	"github.com/go-pdf/fpdf"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

// A3 is the paper of a poster.
const A3 office.Paper = "A3"

// Stroke is a line of a drawing, or a circle, in the drawing's own units.
type Stroke struct {
	Dots   [][2]float64
	Filled bool
	Thick  float64
	Radius float64 // of a circle around the first dot; 0: a line
}

// PosterLine is something that a rung asks newly, with its small drawing.
type PosterLine struct {
	Name string
	Mark []Stroke // empty: none is known
}

// PosterRung is a rung of the poster.
type PosterRung struct {
	Name  string
	Cloth curriculum.Cloth
	Says  string // a word beside its name: how much it asks
	Lines []PosterLine
}

// Poster is a ladder on one sheet, to hang up: the highest rung at the top.
type Poster struct {
	School, Program, Under string
	Size                   float64 // of a drawing, in its own units
	Rungs                  []PosterRung
}

// WritePoster writes the poster on A3.
func WritePoster(w io.Writer, p Poster, at time.Time) error {
	return drawn([]Poster{p}, A3, false, p.Program, at).write(w)
}

// PreviewPoster is the poster as a picture.
func PreviewPoster(p Poster) string {
	return drawn([]Poster{p}, A3, false, p.Program, time.Time{}).previews(1)[0]
}

// The poster's measures in millimetres.
const (
	posterTop, posterFoot          = 52.0, 16.0
	posterRails                    = 14.0 // from the left edge to the belts
	posterBelt, posterBeltHigh     = 62.0, 8.0
	posterLeft                     = 100.0 // of what a rung asks
	posterCell, posterRow          = 30.5, 16.5
	posterMark                     = 9.5
	posterHead                     = 2.5
	posterSmallest, posterOrdinary = 7.0, 8.5 // points
)

func (x Poster) draw(p *page) {
	p.AddPage()
	p.centre(p.wide/2, 26, serif, p.fit(p.wide-40, serif, 40, 18, x.Program), x.Program)
	p.ink("#6c5f69")
	p.centre(p.wide/2, 36, sans, 13, x.School)
	p.centre(p.wide/2, 43, sans, 10, x.Under)
	bottom := p.tall - posterFoot
	p.rails(posterTop-4, bottom+2)
	across := int((p.wide - posterLeft - 12) / posterCell)
	rows := x.rows(across, int((bottom-posterTop)/posterRow))
	high := (bottom - posterTop) / float64(max(total(rows), 1))
	high = min(high, posterRow*1.6)
	y := bottom
	for i, r := range x.Rungs { // the lowest first, upwards
		band := high * float64(rows[i])
		y -= band
		r.draw(p, y, band, high, rows[i]*across, across, x.Size)
	}
	p.ink("#6c5f69")
	p.centre(p.wide/2, p.tall-7, sans, 8, "What each rung asks for the first time. The instructor decides; medical advice, the insurer’s terms and local law come first.")
}

// rails are the two that the belts hang on.
func (p *page) rails(top, bottom float64) {
	p.ink("#b48a3c")
	for _, x := range []float64{posterRails + 2, posterRails + posterBelt - 4} {
		p.Rect(x, top, 2, bottom-top, "F")
	}
	p.ink("#000000")
}

// rows are how many rows of drawings each rung gets, of so many in all: what it needs, less from the fullest where the sheet
// is too short.
func (x Poster) rows(across, most int) []int {
	out := make([]int, len(x.Rungs))
	for i, r := range x.Rungs {
		out[i] = max(1, (len(r.Lines)+across-1)/across)
	}
	for total(out) > most {
		fullest := 0
		for i := range out {
			if out[i] > out[fullest] {
				fullest = i
			}
		}
		if out[fullest] == 1 {
			break // then all are squeezed alike
		}
		out[fullest]--
	}
	return out
}

func total(list []int) (n int) {
	for _, v := range list {
		n += v
	}
	return n
}

// draw draws a rung in its band.
func (r PosterRung) draw(p *page, y, band, high float64, room, across int, size float64) {
	middle := y + band/2
	p.ink("#e4dcd6")
	p.SetLineWidth(.2)
	p.Line(posterLeft-4, y+band, p.wide-12, y+band)
	tall := min(posterBeltHigh, band*.5)
	p.belt(r.Cloth, posterRails, middle-tall/2-1, posterBelt, tall)
	p.ink("#251b23")
	name := p.fit(posterBelt-12, bold, 11, posterSmallest, r.Name)
	left := posterRails + 6.0
	p.put(left, middle+tall/2+name*.42+.6, bold, name, p.clip(posterBelt-12, bold, name, r.Name))
	p.ink("#6c5f69")
	p.put(left+p.width(bold, name, p.clip(posterBelt-12, bold, name, r.Name))+2, middle+tall/2+name*.42+.6, sans, posterSmallest, r.Says)
	shown := r.Lines
	if len(shown) > room {
		shown = shown[:room-1]
	}
	for i, l := range shown {
		x, top := posterLeft+float64(i%across)*posterCell, y+posterHead+float64(i/across)*high
		l.draw(p, x, top, high-posterHead, size)
	}
	if n := len(r.Lines) - len(shown); n > 0 {
		i := len(shown)
		p.ink("#6c5f69")
		p.put(posterLeft+float64(i%across)*posterCell, y+posterHead+float64(i/across)*high+6, sans, posterOrdinary, fmt.Sprintf("and %d more", n))
	}
}

// draw draws a line: its mark, and its name below.
func (l PosterLine) draw(p *page, x, y, high, size float64) {
	mark := min(posterMark, high-4)
	under := y + high - 1
	if len(l.Mark) > 0 && mark > 3 {
		p.strokes(l.Mark, x, y, mark/size)
	}
	p.ink("#251b23")
	lines := p.lines(posterCell-2, sans, posterSmallest, l.Name)
	if len(l.Mark) == 0 { // the words alone, in the middle
		under = y + high/2
	}
	if len(lines) > 1 && len(l.Mark) > 0 {
		lines = []string{p.clip(posterCell-2, sans, posterSmallest, l.Name)}
	}
	for i, text := range lines[:min(len(lines), 2)] {
		p.put(x, under+float64(i)*2.8, sans, posterSmallest, text)
	}
	p.ink("#000000")
}

// strokes draws a drawing at a place, so many millimetres to its unit.
func (p *page) strokes(all []Stroke, x, y, scale float64) {
	p.ink("#3a1a33")
	for _, s := range all {
		at := func(d [2]float64) (float64, float64) { return x + d[0]*scale, y + d[1]*scale }
		p.SetLineWidth(max(.15, s.Thick*scale))
		if s.Radius > 0 {
			cx, cy := at(s.Dots[0])
			p.Circle(cx, cy, s.Radius*scale, "F")
			continue
		}
		if s.Filled {
			points := make([]fpdf.PointType, len(s.Dots))
			d := ""
			for i, q := range s.Dots {
				px, py := at(q)
				points[i] = fpdf.PointType{X: px, Y: py}
				d += fmt.Sprintf("%.2f,%.2f ", px, py)
			}
			p.Polygon(points, "F")
			p.sketch(`<polygon points="%s" %s/>`, d, p.drawn("F"))
			continue
		}
		p.SetLineCapStyle("round")
		for i := 1; i < len(s.Dots); i++ {
			x1, y1 := at(s.Dots[i-1])
			x2, y2 := at(s.Dots[i])
			if math.Hypot(x2-x1, y2-y1) > .001 {
				p.Line(x1, y1, x2, y2)
			}
		}
		p.SetLineCapStyle("butt")
	}
}
