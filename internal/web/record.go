package web

import (
	"bytes"
	"net/http"
	"net/url"

	"github.com/go-chi/chi/v5"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
)

type recordView struct {
	Student progress.Student
	Form    form
}

// recordShow is where one person's data is taken out or erased, on request.
func (a *app) recordShow(w http.ResponseWriter, r *http.Request) {
	a.recordPage(w, r, http.StatusOK, form{})
}

func (a *app) recordPage(w http.ResponseWriter, r *http.Request, status int, f form) {
	s, err := a.store.Student(r.Context(), chi.URLParam(r, "student"))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.show(w, r, status, "", page{Screen: "record", Title: "The record of " + s.Name, Nav: "students", Body: recordView{s, f}})
}

func (a *app) recordExport(w http.ResponseWriter, r *http.Request) {
	var out bytes.Buffer
	if err := a.store.ExportPerson(r.Context(), chi.URLParam(r, "student"), &out); err != nil {
		a.fail(w, r, err)
		return
	}
	attachment(w, "application/json", "record "+a.store.Today().String()+".json", out.Bytes())
}

func (a *app) recordErase(w http.ResponseWriter, r *http.Request) {
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.ErasePerson(r.Context(), by, chi.URLParam(r, "student"), v.Get("confirm"))
	}, to("/students"), func(status int, f form) { a.recordPage(w, r, status, f) })
}
