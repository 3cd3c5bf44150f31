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

type requirementsView struct {
	Requirement store.ListedRequirement
	Rung        curriculum.Rung
	Form        form
	Roles       []option
	Section     []option
	Techniques  []store.ListedTechnique
}

// readRequirement reads the one-line form: the amount is typed as people write it.
func readRequirement(v url.Values) (curriculum.Requirement, check.Problems) {
	var p check.Problems
	q, err := curriculum.ParseQuantity(v.Get("amount"))
	if err != nil {
		p.Add("amount", "%s", err)
	}
	return curriculum.Requirement{
		RungID: v.Get("rung"), SectionID: v.Get("section"), Role: curriculum.Role(v.Get("role")), Quantity: q,
		MustPass: v.Get("must_pass") != "", Bonus: v.Get("bonus") != "", Weight: p.Whole("weight", v.Get("weight"), 1, 100, 1), Note: v.Get("note"),
	}, p
}

// saveRequirement checks everything before it writes, so that all problems are told at once.
func (a *app) saveRequirement(r *http.Request, by store.By, v url.Values, x curriculum.Requirement, p check.Problems) (store.Done, error) {
	if p.Of("amount") == "" {
		for _, y := range x.Check() {
			p.Add(y.Field, "%s", y.Text)
		}
	}
	p.Name("technique", check.Tidy(v.Get("technique")))
	if len(p) > 0 {
		return store.Done{}, p
	}
	return a.store.SaveRequirement(r.Context(), by, x, v.Get("technique"), curriculum.KindOfSection(a.sectionName(r, x)))
}

// sectionName is the name of the section a requirement is put in, "" where it is unknown.
func (a *app) sectionName(r *http.Request, x curriculum.Requirement) string {
	g, err := a.store.Rung(r.Context(), x.RungID)
	if err != nil {
		return ""
	}
	all, err := a.store.Sections(r.Context(), g.ProgramID)
	if err != nil {
		return ""
	}
	for _, s := range all {
		if s.ID == x.SectionID {
			return s.Name
		}
	}
	return ""
}

func (a *app) requirementsAdd(w http.ResponseWriter, r *http.Request) {
	var x curriculum.Requirement
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		x, p = readRequirement(v)
		return a.saveRequirement(r, by, v, x, p)
	}, func(store.Done) string { return a.rungAddress(x.RungID, values("section", x.SectionID)) + "#add" }, func(status int, f form) {
		a.ladderRung(w, r, f.Get("rung"), status, f)
	})
}

func (a *app) requirementsShow(w http.ResponseWriter, r *http.Request) {
	a.requirementsForm(w, r, http.StatusOK, form{})
}

func (a *app) requirementsForm(w http.ResponseWriter, r *http.Request, status int, f form) {
	ctx := r.Context()
	x, err := a.store.Requirement(ctx, chi.URLParam(r, "requirement"))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	v := requirementsView{Requirement: x, Form: f, Roles: options(curriculum.Roles, func(x curriculum.Role) string { return string(x) })}
	if v.Rung, err = a.store.Rung(ctx, x.RungID); err != nil {
		a.fail(w, r, err)
		return
	}
	sections, err := a.store.Sections(ctx, v.Rung.ProgramID)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	for _, s := range sections {
		v.Section = append(v.Section, option{s.ID, s.Name})
	}
	if v.Techniques, err = a.store.Techniques(ctx, v.Rung.ProgramID, "", ""); err != nil {
		a.fail(w, r, err)
		return
	}
	if v.Form.Values == nil {
		v.Form.Values = values("technique", x.Technique.Name, "section", x.SectionID, "role", string(x.Role), "amount", x.Quantity.String(), "weight", strconv.Itoa(x.Weight), "note", x.Note)
		if x.MustPass {
			v.Form.Values.Set("must_pass", "1")
		}
		if x.Bonus {
			v.Form.Values.Set("bonus", "1")
		}
	}
	a.show(w, r, status, v.Rung.ProgramID, page{Screen: "requirements", Title: x.Technique.Name + " for " + v.Rung.Name, Nav: "ladder", Here: x.RungID, Body: v})
}

func (a *app) requirementsSave(w http.ResponseWriter, r *http.Request) {
	var rung string
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		x, p := readRequirement(v)
		old, err := a.store.Requirement(r.Context(), chi.URLParam(r, "requirement"))
		if err != nil {
			return store.Done{}, err
		}
		x.ID, x.RungID, rung = old.ID, old.RungID, old.RungID
		return a.saveRequirement(r, by, v, x, p)
	}, func(store.Done) string { return a.rungAddress(rung, nil) }, func(status int, f form) { a.requirementsForm(w, r, status, f) })
}

func (a *app) requirementsMove(w http.ResponseWriter, r *http.Request) {
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.MoveRequirement(r.Context(), by, chi.URLParam(r, "requirement"), places(v))
	}, to(a.rungAddress(r.FormValue("rung"), nil)+"#requirements"), nil)
}

func (a *app) requirementsDelete(w http.ResponseWriter, r *http.Request) {
	a.save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return a.store.DeleteRequirement(r.Context(), by, chi.URLParam(r, "requirement"))
	}, to(a.rungAddress(r.FormValue("rung"), nil)+"#requirements"), nil)
}

type sheetView struct {
	Rung  curriculum.Rung
	Sheet curriculum.TestSheet
	Sizes []int
}

// sheetShow is the test sheet of a rung, on screen and for print.
func (a *app) sheetShow(w http.ResponseWriter, r *http.Request) {
	g, err := a.store.Rung(r.Context(), chi.URLParam(r, "rung"))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	var p check.Problems
	size := p.Whole("group", r.URL.Query().Get("group"), 1, 4, sheetGroup)
	if len(p) > 0 {
		a.message(w, r, http.StatusBadRequest, "The address is wrong", p.Error())
		return
	}
	sheet, err := a.store.TestSheet(r.Context(), g.ProgramID, curriculum.Asking{RungID: g.ID, Group: size})
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.show(w, r, http.StatusOK, g.ProgramID, page{Screen: "sheet", Title: "Test sheet, " + g.Name, Nav: "ladder", Here: g.ID, Body: sheetView{g, sheet, []int{1, 2, 3, 4}}})
}
