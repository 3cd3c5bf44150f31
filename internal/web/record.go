package web

import (
	"bytes"
	"net/http"
	"net/url"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type recordView struct {
	Student progress.Student
	Form    frame.Form
}

// recordShow is where one person's data is taken out or erased, on request.
func (a *app) recordShow(w http.ResponseWriter, r *http.Request) {
	a.recordPage(w, r, http.StatusOK, frame.Form{})
}

func (a *app) recordPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	s, err := a.store.Student(r.Context(), r.PathValue("student"))
	if err != nil {
		a.Fail(w, r, err)
		return
	}
	a.Show(w, r, status, "", frame.Page{Screen: "record", Title: "The record of " + s.Name, Nav: "students", Body: recordView{s, f}})
}

func (a *app) recordExport(w http.ResponseWriter, r *http.Request) {
	var out bytes.Buffer
	if err := a.store.ExportPerson(r.Context(), r.PathValue("student"), &out); err != nil {
		a.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "application/json", "record "+a.store.Today().String()+".json", out.Bytes())
}

func (a *app) recordErase(w http.ResponseWriter, r *http.Request) {
	a.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.ErasePerson(r.Context(), by, r.PathValue("student"), v.Get("confirm"))
	}, frame.To("/students"), func(status int, f frame.Form) { a.recordPage(w, r, status, f) })
}
