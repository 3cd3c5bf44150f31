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

type programsView struct {
	Program  curriculum.Program // its ID is "" for a new one
	First    bool
	Form     form
	Sections []curriculum.Section
	Section  form // what was typed for a section
	Editing  string
}

func (a *app) programsNew(w http.ResponseWriter, r *http.Request) {
	a.programsForm(w, r, http.StatusOK, programsView{})
}

func (a *app) programsShow(w http.ResponseWriter, r *http.Request) {
	a.programsOf(w, r, http.StatusOK, form{}, form{})
}

// programsOf shows a program on record, with what was typed where it was refused.
func (a *app) programsOf(w http.ResponseWriter, r *http.Request, status int, f, section form) {
	p, err := a.store.Program(r.Context(), chi.URLParam(r, "program"))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.programsForm(w, r, status, programsView{Program: p, Form: f, Section: section, Editing: section.Get("section")})
}

func (a *app) programsForm(w http.ResponseWriter, r *http.Request, status int, v programsView) {
	school, err := a.store.School(r.Context())
	if err == nil && v.Program.ID != "" {
		v.Sections, err = a.store.Sections(r.Context(), v.Program.ID)
	}
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if v.Form.Values == nil {
		v.Form.Values = values("school", school, "name", v.Program.Name, "second_language", v.Program.SecondLanguage)
	}
	title := v.Program.Name
	if v.Program.ID == "" {
		title = "A new program"
		all, err := a.store.Programs(r.Context())
		if err != nil {
			a.fail(w, r, err)
			return
		}
		v.First = len(all) == 0
	}
	a.show(w, r, status, v.Program.ID, page{Screen: "programs", Title: title, Nav: "ladder", Body: v})
}

func (a *app) programsSave(w http.ResponseWriter, r *http.Request) {
	id := chi.URLParam(r, "program")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		school := check.Tidy(v.Get("school"))
		old, err := a.store.School(r.Context())
		if err != nil {
			return store.Done{}, err
		}
		done, err := a.store.SaveProgram(r.Context(), by, curriculum.Program{ID: id, Name: v.Get("name"), SecondLanguage: v.Get("second_language")})
		if err == nil && v.Has("school") && school != old {
			_, err = a.store.NameSchool(r.Context(), store.By{Actor: by.Actor}, school)
		}
		return done, err
	}, func(d store.Done) string {
		if id == "" {
			return "/ladder?program=" + d.ID
		}
		return "/programs/" + id
	}, func(status int, f form) {
		if id != "" {
			a.programsOf(w, r, status, f, form{})
			return
		}
		a.programsForm(w, r, status, programsView{Form: f})
	})
}

func (a *app) programsDelete(w http.ResponseWriter, r *http.Request) {
	a.save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return a.store.DeleteProgram(r.Context(), by, chi.URLParam(r, "program"))
	}, to("/ladder"), func(status int, f form) { a.programsOf(w, r, status, form{General: f.General}, form{}) })
}

func (a *app) sectionsSave(w http.ResponseWriter, r *http.Request) {
	program := chi.URLParam(r, "program")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.SaveSection(r.Context(), by, curriculum.Section{ID: v.Get("section"), ProgramID: program, Name: v.Get("name")})
	}, to("/programs/"+program+"#sections"), func(status int, f form) { a.programsOf(w, r, status, form{}, f) })
}

func (a *app) sectionsMove(w http.ResponseWriter, r *http.Request) {
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.MoveSection(r.Context(), by, chi.URLParam(r, "section"), places(v))
	}, to("/programs/"+r.FormValue("program")+"#sections"), nil)
}

func (a *app) sectionsDelete(w http.ResponseWriter, r *http.Request) {
	a.save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return a.store.DeleteSection(r.Context(), by, chi.URLParam(r, "section"))
	}, to("/programs/"+r.FormValue("program")+"#sections"), nil)
}

// places is how far a row is to move; anything unreadable is not at all.
func places(v url.Values) int {
	n, _ := strconv.Atoi(v.Get("places"))
	return n
}
