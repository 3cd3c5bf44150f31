package web

import (
	"net/http"
	"net/url"
	"strconv"

	"github.com/go-chi/chi/v5"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
)

type rungsView struct {
	Rung    curriculum.Rung // its ID is "" for a new one
	Program string
	Form    form
	Above   []option // where a new rung may go
	Kinds   []option
	Weaves  []option
	Places  []option
	Preview curriculum.Cloth
}

func (a *app) rungsNew(w http.ResponseWriter, r *http.Request) {
	p, err := a.program(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.rungsForm(w, r, http.StatusOK, rungsView{Program: p.ID, Form: form{Values: values("kind", "belt", "weave", "plain", "colour", "#f5f1e8", "second", "#1b1b1b", "mark_count", "0", "mark_colour", "#c8371f", "mark_place", "tip", "position", "top")}})
}

func (a *app) rungsShow(w http.ResponseWriter, r *http.Request) {
	a.rungsOf(w, r, http.StatusOK, form{})
}

func (a *app) rungsOf(w http.ResponseWriter, r *http.Request, status int, f form) {
	g, err := a.store.Rung(r.Context(), chi.URLParam(r, "rung"))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if f.Values == nil {
		c := g.Cloth
		marks := curriculum.BeltMarks{Colour: "#c8371f", Place: curriculum.Tip}
		if c.Marks != nil {
			marks = *c.Marks
		}
		if c.Second == "" {
			c.Second = "#1b1b1b"
		}
		f.Values = values("name", g.Name, "kind", string(g.Kind), "weave", string(c.Weave), "colour", c.Colour, "second", c.Second,
			"mark_count", strconv.Itoa(marks.Count), "mark_colour", marks.Colour, "mark_place", string(marks.Place))
	}
	a.rungsForm(w, r, status, rungsView{Rung: g, Program: g.ProgramID, Form: f})
}

func (a *app) rungsForm(w http.ResponseWriter, r *http.Request, status int, v rungsView) {
	v.Kinds = options(curriculum.RungKinds, curriculum.RungKind.Words)
	v.Weaves = options(curriculum.Weaves, curriculum.Weave.Words)
	v.Places = []option{{"tip", "bars across the tip"}, {"lengthwise", "lines along the belt"}}
	read, _ := readRung(v.Form.Values)
	v.Preview = read.Cloth
	var p check.Problems
	if v.Preview.Check(&p); len(p) > 0 {
		v.Preview = curriculum.Cloth{Weave: curriculum.Plain, Colour: "#f5f1e8"}
	}
	title := v.Rung.Name
	if v.Rung.ID == "" {
		title = "A new rung"
		rungs, err := a.store.Ladder(r.Context(), v.Program)
		if err != nil {
			a.fail(w, r, err)
			return
		}
		v.Above = append(v.Above, option{"top", "at the top"})
		for i := len(rungs) - 1; i >= 0; i-- {
			v.Above = append(v.Above, option{strconv.Itoa(i), "below " + rungs[i].Name})
		}
	}
	a.show(w, r, status, v.Program, page{Screen: "rungs", Title: title, Nav: "ladder", Here: v.Rung.ID, Body: v})
}

// readRung reads a rung's form; what cannot be read is a problem.
func readRung(v url.Values) (curriculum.Rung, check.Problems) {
	var p check.Problems
	g := curriculum.Rung{Name: v.Get("name"), Kind: curriculum.RungKind(v.Get("kind")), ProgramID: v.Get("program"), Position: 1 << 30}
	if at := v.Get("position"); at != "top" && at != "" {
		g.Position = p.Whole("position", at, 0, 10_000, 0)
	}
	g.Cloth = curriculum.Cloth{Weave: curriculum.Weave(v.Get("weave")), Colour: v.Get("colour")}
	if g.Cloth.Weave != curriculum.Plain {
		g.Cloth.Second = v.Get("second")
	}
	if n := p.Whole("mark_count", v.Get("mark_count"), 0, curriculum.MaxMarks, 0); n > 0 {
		g.Cloth.Marks = &curriculum.BeltMarks{Colour: v.Get("mark_colour"), Count: n, Place: curriculum.MarkPlace(v.Get("mark_place"))}
	}
	return g, p
}

func (a *app) rungsSave(w http.ResponseWriter, r *http.Request) {
	id := chi.URLParam(r, "rung")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		g, p := readRung(v)
		if len(p) > 0 {
			return store.Done{}, append(p, g.Check()...)
		}
		g.ID = id
		return a.store.SaveRung(r.Context(), by, g)
	}, func(d store.Done) string { return "/ladder/" + d.ID }, func(status int, f form) {
		if id != "" {
			a.rungsOf(w, r, status, f)
			return
		}
		a.rungsForm(w, r, status, rungsView{Program: f.Get("program"), Form: f})
	})
}

func (a *app) rungsMove(w http.ResponseWriter, r *http.Request) {
	id := chi.URLParam(r, "rung")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.MoveRung(r.Context(), by, id, places(v))
	}, to("/ladder/"+id), nil)
}

func (a *app) rungsDelete(w http.ResponseWriter, r *http.Request) {
	a.save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return a.store.DeleteRung(r.Context(), by, chi.URLParam(r, "rung"))
	}, to("/ladder"), func(status int, f form) { a.rungsOf(w, r, status, form{General: f.General}) })
}
