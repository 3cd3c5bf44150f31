package curriculum

import (
	"bytes"
	"html/template"
	"net/http"
	"slices"
	"time"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/exchange"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

// posterView is the poster of a ladder, as it will be printed.
type posterView struct {
	Chosen  chosen
	Picture template.HTML
	Query   string
}

func (ch *chapter) posterShow(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	v := posterView{Chosen: choice(r, b)}
	if v.Chosen.Track != "" {
		v.Query = "?track=" + v.Chosen.Track
	}
	if len(b.Rungs) > 0 {
		p, err := ch.poster(r, b, v.Chosen)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Picture = template.HTML(exchange.PreviewPoster(p))
	}
	ch.Show(w, r, http.StatusOK, b.Program.ID, frame.Page{Screen: "poster", Title: "Poster of the ladder", Nav: "ladder", Body: v})
}

// posterFile is the poster as a PDF on A3.
func (ch *chapter) posterFile(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	p, err := ch.poster(r, b, choice(r, b))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	var out bytes.Buffer
	if err := exchange.WritePoster(&out, p, ch.records.Today().At(0, time.UTC)); err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "application/pdf", b.Program.Name+" poster.pdf", out.Bytes())
}

// poster is what every rung asks for the first time, for a track.
func (ch *chapter) poster(r *http.Request, b *curriculum.Book, c chosen) (p exchange.Poster, err error) {
	p = exchange.Poster{Program: b.Program.Name, Size: chart.MarkSize, Under: "the ladder, from the ground up"}
	if p.School, err = ch.records.School(r.Context()); err != nil {
		return p, err
	}
	if name := c.TrackName(); name != "" {
		p.Under = name + ": " + p.Under
	}
	for i := range b.Rungs {
		g := &b.Rungs[i]
		x := exchange.PosterRung{Name: g.Name, Cloth: g.Cloth}
		lines := b.Compile(curriculum.Asking{RungID: g.ID, TrackID: c.Track}).Lines
		var seen []string
		for _, l := range lines {
			t := b.Technique(l.TechniqueID)
			if l.Freshness == curriculum.Carried || t == nil || slices.Contains(seen, l.TechniqueID) {
				continue
			}
			seen = append(seen, l.TechniqueID)
			x.Lines = append(x.Lines, exchange.PosterLine{Name: t.Name, Mark: strokes(chart.MarkOf(b, t))})
		}
		x.Says = words.Count(len(lines), "line")
		p.Rungs = append(p.Rungs, x)
	}
	return p, nil
}

// strokes are a mark as paper draws it.
func strokes(m chart.Mark) (out []exchange.Stroke) {
	thick := map[string]float64{"figure": 1.8, "limb": 2.6, "sweep": 1.2, "walk": 2}
	for _, s := range m {
		x := exchange.Stroke{Filled: s.Closed, Thick: thick[s.Class], Radius: s.Radius}
		for _, d := range s.Dots {
			x.Dots = append(x.Dots, [2]float64{d.X, d.Y})
		}
		out = append(out, x)
	}
	return out
}

// mark is the small mark of a technique, for a page.
func mark(b *curriculum.Book, technique string) template.HTML {
	t := b.Technique(technique)
	if t == nil {
		return ""
	}
	return template.HTML(chart.MarkOf(b, t).SVG())
}
