package curriculum

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
	Record   string // what a new one is made from
	Findings int
	Empty    bool
}

func (ch *chapter) versionsShow(w http.ResponseWriter, r *http.Request) {
	ch.versionsPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) versionsPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	v := versionsView{Form: f, Record: store.DraftOf(b.Program.ID), Empty: len(b.Rungs) == 0}
	var err error
	if v.Versions, v.Changed, err = ch.records.Versions(r.Context(), b.Program.ID); err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, x := range b.Check() {
		if x.Silenced == "" {
			v.Findings++
		}
	}
	ch.Show(w, r, status, b.Program.ID, frame.Page{Screen: "versions", Title: "Versions", Nav: "ladder", Body: v})
}

func (ch *chapter) versionsPublish(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.Publish(r.Context(), by, v.Get("program"), v.Get("note"), v.Get("everyone") != "")
	}, frame.To("/versions"), func(status int, f frame.Form) { ch.versionsPage(w, r, status, f) })
}

// versionsMove lets those who climb by one version climb by another.
func (ch *chapter) versionsMove(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if v.Get("to") == "" || v.Get("to") == v.Get("from") {
			return store.Done{}, check.Problems{{Field: "to", Text: "choose the version they go on by"}}
		}
		return ch.records.MoveToVersion(r.Context(), by, v.Get("to"), v.Get("from"), nil)
	}, frame.To("/versions"), func(status int, f frame.Form) { ch.versionsPage(w, r, status, f) })
}
