package office

import (
	"net/http"

	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

// home goes to the ladder, or where there is none yet to the first step. An owner who has just begun was
// not led astray: the first hour says what this page is for.
func (ch *chapter) home(w http.ResponseWriter, r *http.Request) {
	p, err := ch.Program(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if p.ID == "" {
		http.Redirect(w, r, "/programs/new", http.StatusSeeOther)
		return
	}
	http.Redirect(w, r, "/ladder", http.StatusSeeOther)
}

type findView struct {
	Query string
	Found []store.Found
}

// findLimit is how many finds of each kind a page lists.
const findLimit = 20

func (ch *chapter) findShow(w http.ResponseWriter, r *http.Request) {
	q := r.URL.Query().Get("q")
	if len(q) > 200 {
		q = q[:200]
	}
	found, err := ch.records.Find(r.Context(), q, findLimit)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, http.StatusOK, "", frame.Page{Screen: "find", Title: "Find", Body: findView{q, found}})
}
