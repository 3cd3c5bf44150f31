package people

import (
	"bytes"
	"errors"
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
func (ch *chapter) recordShow(w http.ResponseWriter, r *http.Request) {
	ch.recordPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) recordPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	s, err := ch.records.Student(r.Context(), r.PathValue("student"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "record", Title: "The record of " + s.Name, Nav: "students", Body: recordView{s, f}})
}

func (ch *chapter) recordExport(w http.ResponseWriter, r *http.Request) {
	var out bytes.Buffer
	if err := ch.records.ExportPerson(r.Context(), r.PathValue("student"), &out); err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "application/json", "record "+ch.records.Today().String()+".json", out.Bytes())
}

func (ch *chapter) recordErase(w http.ResponseWriter, r *http.Request) {
	full := false
	seen := func(d store.Done) string {
		if full {
			return "/erasures?full=1"
		}
		return "/erasures"
	}
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		done, err := ch.records.ErasePerson(r.Context(), by, r.PathValue("student"), v.Get("confirm"))
		if err != nil {
			return done, err
		}
		// What is erased is erased; that pages of the file still hold it is said where this leads to, and tried again.
		if err := ch.records.Rebuild(r.Context()); err != nil && !errors.Is(err, store.ErrTableOpen) && !errors.Is(err, store.ErrRead) {
			ch.Log.Error("the file could not be rebuilt after erasing; it is tried again", "error", err)
			full = store.Full(err)
		}
		return done, nil
	}, seen, func(status int, f frame.Form) { ch.recordPage(w, r, status, f) })
}
