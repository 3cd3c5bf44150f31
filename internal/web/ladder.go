package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"

	"github.com/go-chi/chi/v5"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
)

// home goes to the ladder, or where there is none yet to the first step.
func (a *app) home(w http.ResponseWriter, r *http.Request) {
	p, err := a.program(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if p.ID == "" {
		http.Redirect(w, r, "/programs/new", http.StatusSeeOther)
		return
	}
	http.Redirect(w, r, "/ladder", http.StatusSeeOther)
}

// ladderHome shows the first rung that someone is climbing to, or an empty ladder.
func (a *app) ladderHome(w http.ResponseWriter, r *http.Request) {
	p, err := a.program(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	rungs, err := a.store.Ladder(r.Context(), p.ID)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if len(rungs) == 0 {
		a.show(w, r, http.StatusOK, p.ID, page{Screen: "ladder", Title: "Ladder", Nav: "ladder", Body: ladderView{}})
		return
	}
	at := min(1, len(rungs)-1) // nobody climbs to the lowest
	for i := range rungs {
		if i > 0 && rungs[i-1].Students > 0 {
			at = i
			break
		}
	}
	a.ladderRung(w, r, rungs[at].ID, http.StatusOK, form{})
}

func (a *app) ladderShow(w http.ResponseWriter, r *http.Request) {
	f := form{Values: values("amount", "5 a side", "weight", "1", "role", "performer")}
	if s := r.URL.Query().Get("section"); s != "" {
		f.Values.Set("section", s)
	}
	a.ladderRung(w, r, chi.URLParam(r, "rung"), http.StatusOK, f)
}

type ladderSection struct {
	Section curriculum.Section
	Lines   []ladderLine
}

type ladderLine struct {
	store.ListedRequirement
	Number int
}

type ladderView struct {
	Rung       *curriculum.Rung
	Place      string
	Standing   int
	Sections   []ladderSection
	All        []curriculum.Section
	Techniques []store.ListedTechnique
	Sheet      curriculum.TestSheet
	Group      int
	Climbing   []store.Standing // the first of the Climbers
	Climbers   int
	Below      string
	Next       *store.Grading
	Today      civil.Date
	Form       form
	Adding     bool
	Roles      []option
	Section    []option
}

// climbingShown is how many students the card beside a rung names.
const climbingShown = 15

// sheetGroup is the size of group that screens quote minutes for.
const sheetGroup = 3

// ladderRung shows one rung: what it asks for, who is climbing to it, the next grading.
func (a *app) ladderRung(w http.ResponseWriter, r *http.Request, id string, status int, f form) {
	ctx := r.Context()
	g, err := a.store.Rung(ctx, id)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	v := ladderView{Rung: &g, Form: f, Group: sheetGroup, Today: a.store.Today(), Adding: r.URL.Query().Has("section") || status != http.StatusOK}
	if f.Values == nil {
		v.Form.Values = values("amount", "5 a side", "weight", "1", "role", "performer")
	}
	for _, load := range []func() error{
		func() (err error) { v.All, err = a.store.Sections(ctx, g.ProgramID); return },
		func() (err error) { v.Techniques, err = a.store.Techniques(ctx, g.ProgramID, "", ""); return },
		func() (err error) {
			v.Sheet, err = a.store.TestSheet(ctx, g.ProgramID, curriculum.Asking{RungID: g.ID, Group: sheetGroup})
			return
		},
		func() (err error) { return a.climbing(r, g, &v) },
		func() (err error) { return a.asks(r, g, &v) },
		func() (err error) {
			next, found, err := a.store.NextGrading(ctx, g.ProgramID)
			if found {
				v.Next = &next
			}
			return err
		},
	} {
		if err := load(); err != nil {
			a.fail(w, r, err)
			return
		}
	}
	v.Roles = options(curriculum.Roles, func(x curriculum.Role) string { return string(x) })
	v.Section = []option{{"", "by its kind"}}
	for _, s := range v.All {
		v.Section = append(v.Section, option{s.ID, s.Name})
	}
	a.show(w, r, status, g.ProgramID, page{Screen: "ladder", Title: g.Name, Nav: "ladder", Here: g.ID, Body: v})
}

// asks fills in the requirements by section.
func (a *app) asks(r *http.Request, g curriculum.Rung, v *ladderView) error {
	rows, err := a.store.Requirements(r.Context(), g.ID)
	for i, row := range rows {
		if n := len(v.Sections); n == 0 || v.Sections[n-1].Section.ID != row.SectionID {
			v.Sections = append(v.Sections, ladderSection{Section: curriculum.Section{ID: row.SectionID, Name: row.Section}})
		}
		last := &v.Sections[len(v.Sections)-1]
		last.Lines = append(last.Lines, ladderLine{ListedRequirement: row, Number: i + 1})
	}
	return err
}

// climbing fills in the rung's place and those on the rung below.
func (a *app) climbing(r *http.Request, g curriculum.Rung, v *ladderView) error {
	rungs, err := a.store.Ladder(r.Context(), g.ProgramID)
	if err != nil {
		return err
	}
	for i, x := range rungs {
		if x.ID != g.ID {
			continue
		}
		v.Place, v.Standing = fmt.Sprintf("%s of %s", ordinal(i+1), many(len(rungs), "rung")), x.Students
		if i > 0 {
			v.Below = rungs[i-1].Name
			v.Climbing, err = a.store.OnRung(r.Context(), rungs[i-1].ID, climbingShown)
			v.Climbers = rungs[i-1].Students
		}
	}
	return err
}

func ordinal(n int) string {
	end := "th"
	if n%100 < 11 || n%100 > 13 {
		switch n % 10 {
		case 1:
			end = "st"
		case 2:
			end = "nd"
		case 3:
			end = "rd"
		}
	}
	return strconv.Itoa(n) + end
}

type findView struct {
	Query string
	Found []store.Found
}

// findLimit is how many finds of each kind a page lists.
const findLimit = 20

func (a *app) findShow(w http.ResponseWriter, r *http.Request) {
	q := r.URL.Query().Get("q")
	if len(q) > 200 {
		q = q[:200]
	}
	found, err := a.store.Find(r.Context(), q, findLimit)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.show(w, r, http.StatusOK, "", page{Screen: "find", Title: "Find", Body: findView{q, found}})
}

// rungAddress is a rung's page, with what it should be shown with.
func (a *app) rungAddress(id string, v url.Values) string {
	address := "/ladder/" + id
	if len(v) > 0 {
		address += "?" + v.Encode()
	}
	return address
}
