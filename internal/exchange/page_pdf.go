package exchange

import (
	"bytes"
	"fmt"
	"html"
	"io"
	"strconv"
	"strings"
	"time"

	"github.com/go-pdf/fpdf"
	"golang.org/x/text/unicode/norm"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

// page writes printed papers: text in several scripts, belts, rules. Lengths are in millimetres,
// sizes of letters in points.
//
// Everything that is drawn is kept as SVG too, for previews on screen.
type page struct {
	*fpdf.Fpdf
	known  map[face]bool
	wide   float64 // of the sheet
	tall   float64
	seen   []strings.Builder // a picture for each page
	colour string
	line   float64
}

// newPage begins a document. at is the instant it is made, and stands in the file.
func newPage(paper office.Paper, landscape bool, title string, at time.Time) *page {
	orientation := "P"
	if landscape {
		orientation = "L"
	}
	p := &page{Fpdf: fpdf.New(orientation, "mm", string(paper), ""), known: map[face]bool{}}
	p.SetCatalogSort(true)
	p.SetCreationDate(at)
	p.SetModificationDate(at)
	p.SetTitle(title, true)
	p.SetProducer("Velvet Ladder", true)
	p.SetLang("en-GB")
	p.SetAutoPageBreak(false, 0)
	p.SetMargins(0, 0, 0)
	p.wide, p.tall = p.GetPageSize()
	return p
}

// AddPage begins a sheet of paper.
func (p *page) AddPage() {
	p.Fpdf.AddPage()
	p.seen = append(p.seen, strings.Builder{})
	p.ink("#000000")
	p.SetLineWidth(0.2)
}

func (p *page) sketch(format string, args ...any) {
	fmt.Fprintf(&p.seen[len(p.seen)-1], format, args...)
}

// SetLineWidth is in millimetres.
func (p *page) SetLineWidth(w float64) {
	p.line = w
	p.Fpdf.SetLineWidth(w)
}

// Line draws one.
func (p *page) Line(x1, y1, x2, y2 float64) {
	p.Fpdf.Line(x1, y1, x2, y2)
	p.sketch(`<line x1="%.2f" y1="%.2f" x2="%.2f" y2="%.2f" stroke="%s" stroke-width="%.2f"/>`, x1, y1, x2, y2, p.colour, p.line)
}

// Rect draws its outline ("D") or fills it ("F").
func (p *page) Rect(x, y, w, h float64, style string) {
	p.Fpdf.Rect(x, y, w, h, style)
	p.sketch(`<rect x="%.2f" y="%.2f" width="%.2f" height="%.2f" %s/>`, x, y, w, h, p.drawn(style))
}

// Circle draws its outline ("D") or fills it ("F").
func (p *page) Circle(x, y, r float64, style string) {
	p.Fpdf.Circle(x, y, r, style)
	p.sketch(`<circle cx="%.2f" cy="%.2f" r="%.2f" %s/>`, x, y, r, p.drawn(style))
}

func (p *page) drawn(style string) string {
	if style == "F" {
		return fmt.Sprintf(`fill="%s"`, p.colour)
	}
	return fmt.Sprintf(`fill="none" stroke="%s" stroke-width="%.2f"`, p.colour, p.line)
}

// slanted draws what do draws, turned by so many degrees about the middle of the page.
func (p *page) slanted(degrees float64, do func()) {
	p.TransformBegin()
	p.TransformRotate(degrees, p.wide/2, p.tall/2)
	p.sketch(`<g transform="rotate(%.1f %.1f %.1f)">`, -degrees, p.wide/2, p.tall/2)
	do()
	p.sketch(`</g>`)
	p.TransformEnd()
}

// families are the faces as a browser has them.
var families = map[face]string{sans: "Source Sans 3", bold: "Source Sans 3", serif: "Fraunces", kanji: "sans-serif", hangul: "sans-serif"}

// previews are the first pages as pictures.
func (p *page) previews(most int) (out []string) {
	for i := range p.seen[:min(most, len(p.seen))] {
		out = append(out, fmt.Sprintf(`<svg class="paper" viewBox="0 0 %.1f %.1f" role="img" aria-label="Page %d"><rect width="%.1f" height="%.1f" fill="#ffffff"/>%s</svg>`, p.wide, p.tall, i+1, p.wide, p.tall, p.seen[i].String()))
	}
	return out
}

func (p *page) use(f face, size float64) {
	if !p.known[f] {
		p.AddUTF8FontFromBytes(string(f), "", faceFiles[f])
		p.known[f] = true
	}
	p.SetFont(string(f), "", size)
}

// width of a text.
func (p *page) width(f face, size float64, s string) (w float64) {
	for _, r := range runs(f, norm.NFC.String(s)) {
		p.use(r.face, size)
		w += p.GetStringWidth(r.text)
	}
	return w
}

// put writes a text with its baseline's left end at x, y.
func (p *page) put(x, y float64, f face, size float64, s string) {
	for _, r := range runs(f, norm.NFC.String(s)) {
		p.use(r.face, size)
		p.Text(x, y, r.text)
		w := p.GetStringWidth(r.text)
		weight := ""
		if f == bold {
			weight = ` font-weight="700"`
		} else if f == serif {
			weight = ` font-weight="600"`
		}
		p.sketch(`<text x="%.2f" y="%.2f" font-family="%s" font-size="%.2f"%s fill="%s" textLength="%.2f" lengthAdjust="spacingAndGlyphs" xml:space="preserve">%s</text>`, x, y, families[r.face], size*25.4/72, weight, p.colour, w, html.EscapeString(r.text))
		x += w
	}
}

func (p *page) centre(x, y float64, f face, size float64, s string) {
	p.put(x-p.width(f, size, s)/2, y, f, size, s)
}

func (p *page) right(x, y float64, f face, size float64, s string) {
	p.put(x-p.width(f, size, s), y, f, size, s)
}

// fit is the largest size, at most size and at least least, at which a text is no wider than w.
func (p *page) fit(w float64, f face, size, least float64, s string) float64 {
	for size > least && p.width(f, size, s) > w {
		size--
	}
	return size
}

// clip shortens a text to a width.
func (p *page) clip(w float64, f face, size float64, s string) string {
	if p.width(f, size, s) <= w {
		return s
	}
	r := []rune(s)
	for len(r) > 1 && p.width(f, size, string(r)+"…") > w {
		r = r[:len(r)-1]
	}
	return strings.TrimSpace(string(r)) + "…"
}

// lines breaks a text into lines no wider than w, between words, or within one that is too long.
func (p *page) lines(w float64, f face, size float64, s string) (out []string) {
	for part := range strings.SplitSeq(s, "\n") {
		line := ""
		for _, word := range strings.Fields(part) {
			if next := strings.TrimSpace(line + " " + word); p.width(f, size, next) <= w {
				line = next
				continue
			}
			if line != "" {
				out = append(out, line)
			}
			for line = word; p.width(f, size, line) > w && len([]rune(line)) > 1; {
				r := []rune(line)
				n := len(r) - 1
				for n > 1 && p.width(f, size, string(r[:n])) > w {
					n--
				}
				out, line = append(out, string(r[:n])), string(r[n:])
			}
		}
		out = append(out, line)
	}
	return out
}

// block writes a text in lines from the baseline y on and says where the next one goes.
func (p *page) block(x, y, w, step float64, f face, size float64, s string) float64 {
	for _, line := range p.lines(w, f, size, s) {
		p.put(x, y, f, size, line)
		y += step
	}
	return y
}

// ink sets the colour of text, lines and fills from #rrggbb.
func (p *page) ink(hex string) {
	p.colour = hex
	r, g, b := rgb(hex)
	p.SetTextColor(r, g, b)
	p.SetDrawColor(r, g, b)
	p.SetFillColor(r, g, b)
}

func rgb(hex string) (r, g, b int) {
	n, err := strconv.ParseUint(strings.TrimPrefix(hex, "#"), 16, 32)
	if err != nil {
		return 0, 0, 0
	}
	return int(n >> 16 & 255), int(n >> 8 & 255), int(n & 255)
}

// belt draws a piece of belt.
func (p *page) belt(c curriculum.Cloth, x, y, w, h float64) {
	p.ink(c.Colour)
	p.Rect(x, y, w, h, "F")
	switch c.Weave {
	case curriculum.Halves:
		p.ink(c.Second)
		p.Rect(x, y+h/2, w, h/2, "F")
	case curriculum.CoreLine:
		p.ink(c.Second)
		p.Rect(x, y+h*3/8, w, h/4, "F")
	}
	if m := c.Marks; m != nil {
		p.ink(m.Colour)
		for i := range m.Count {
			if m.Place == curriculum.Lengthwise {
				p.Rect(x, y+float64(i+1)*h/float64(m.Count+1)-h/16, w, h/8, "F")
			} else {
				bar := w / 26
				p.Rect(x+w-bar*float64(2*i+3), y, bar, h, "F")
			}
		}
	}
	p.ink("#5c5159")
	p.SetLineWidth(0.2)
	p.Rect(x, y, w, h, "D")
	p.ink("#000000")
}

// foot numbers the pages and says whose they are.
func (p *page) foot(words string) {
	p.ink("#5c5159")
	p.put(15, p.tall-9, sans, 8.5, p.clip(p.wide-60, sans, 8.5, words))
	p.right(p.wide-15, p.tall-9, sans, 8.5, "page "+strconv.Itoa(p.PageNo()))
	p.ink("#000000")
}

// write ends the document.
func (p *page) write(w io.Writer) error {
	var out bytes.Buffer
	if err := p.Output(&out); err != nil {
		return err
	}
	_, err := w.Write(out.Bytes())
	return err
}
