package curriculum

import (
	"net/http"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/web/frame"
)

type bookletView struct {
	Chosen  chosen
	Parts   []bookletRung
	Rung    *curriculum.Rung // of a booklet of one rung; nil: the whole ladder
	Program curriculum.Program
}

type bookletRung struct {
	Rung     *curriculum.Rung
	Sections []ladderSection
	Sheet    curriculum.TestSheet
	Kit      []string
	Sparring *curriculum.SparringRule
	Stripes  []sectionStripe
	Drawn    []drawnGroup
}

// drawnGroup is a sample group with what is drawn from it at a rung.
type drawnGroup struct {
	Name     string
	Draw, Of int
}

// bookletShow is the printed syllabus of a rung, or of the whole ladder. What is drawn by
// lot at a grading stands as its whole group: nobody can learn a draw.
func (ch *chapter) bookletShow(w http.ResponseWriter, r *http.Request) {
	var b *curriculum.Book
	var g *curriculum.Rung
	ok := false
	if r.PathValue("rung") != "" {
		g, b, ok = ch.RungBook(w, r)
	} else {
		b, ok = ch.Book(w, r)
	}
	if !ok {
		return
	}
	v := bookletView{Chosen: choice(r, b), Rung: g, Program: b.Program}
	title, here := "Syllabus of "+b.Program.Name, ""
	if g != nil {
		title, here = "Syllabus, "+g.Name, g.ID
		v.Parts = append(v.Parts, v.part(b, g))
	} else {
		for i := range b.Rungs {
			v.Parts = append(v.Parts, v.part(b, &b.Rungs[i]))
		}
	}
	ch.Show(w, r, http.StatusOK, b.Program.ID, frame.Page{Screen: "booklet", Title: title, Nav: "ladder", Here: here, Body: v})
}

func (v *bookletView) part(b *curriculum.Book, g *curriculum.Rung) bookletRung {
	x := ladderView{Rung: g, Chosen: v.Chosen}
	x.asks(b, true, false)
	out := bookletRung{Rung: g, Sections: x.Sections, Sheet: x.Sheet, Kit: b.KitOf(g.ID), Sparring: b.SparringOf(g.ID), Stripes: stripesOf(b, g)}
	pools := map[string]int{}
	for _, l := range x.Sheet.Lines {
		pools[l.Pool]++
	}
	for _, group := range b.Program.Groups {
		if n := pools[group.Name]; n > 0 {
			out.Drawn = append(out.Drawn, drawnGroup{group.Name, min(group.Draw, n), n})
		}
	}
	return out
}
