package web

import (
	"net/http"
	"net/url"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type versionsView struct {
	Versions []store.Version
	Changed  bool
	Form     frame.Form
	Findings int
	Empty    bool
}

func (a *app) versionsShow(w http.ResponseWriter, r *http.Request) {
	a.versionsPage(w, r, http.StatusOK, frame.Form{})
}

func (a *app) versionsPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	b, ok := a.Book(w, r)
	if !ok {
		return
	}
	v := versionsView{Form: f, Empty: len(b.Rungs) == 0}
	var err error
	if v.Versions, v.Changed, err = a.store.Versions(r.Context(), b.Program.ID); err != nil {
		a.Fail(w, r, err)
		return
	}
	for _, x := range b.Check() {
		if x.Silenced == "" {
			v.Findings++
		}
	}
	a.Show(w, r, status, b.Program.ID, frame.Page{Screen: "versions", Title: "Versions", Nav: "ladder", Body: v})
}

func (a *app) versionsPublish(w http.ResponseWriter, r *http.Request) {
	a.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.Publish(r.Context(), by, v.Get("program"), v.Get("note"), v.Get("everyone") != "")
	}, frame.To("/versions"), func(status int, f frame.Form) { a.versionsPage(w, r, status, f) })
}

// versionsMove lets those who climb by one version climb by another.
func (a *app) versionsMove(w http.ResponseWriter, r *http.Request) {
	a.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if v.Get("to") == "" || v.Get("to") == v.Get("from") {
			return store.Done{}, check.Problems{{Field: "to", Text: "choose the version they go on by"}}
		}
		return a.store.MoveToVersion(r.Context(), by, v.Get("to"), v.Get("from"), nil)
	}, frame.To("/versions"), func(status int, f frame.Form) { a.versionsPage(w, r, status, f) })
}
