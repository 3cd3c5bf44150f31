package review

import (
	"net/http"
	"net/url"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type trailView struct {
	Deeds    []store.Deed
	Older    string
	Form     frame.Form
	Gradings []frame.Option
	Grading  store.Grading
}

// trailShown is how many deeds stand on one page.
const trailShown = 100

// trailShow reads the audit trail: who did what, and when.
func (ch *chapter) trailShow(w http.ResponseWriter, r *http.Request) {
	q := r.URL.Query()
	v := trailView{Form: frame.Form{Values: q}}
	text := check.Tidy(q.Get("text"))
	if len(text) > check.LineLength {
		text = ""
	}
	all, err := ch.records.Gradings(r.Context(), "")
	for _, g := range all {
		if g.Begun() {
			v.Gradings = append(v.Gradings, frame.Option{Value: g.ID, Label: g.On.Long() + ", " + g.Title()})
		}
		if g.ID == q.Get("grading") {
			v.Grading = g
		}
	}
	if err == nil {
		v.Deeds, v.Older, err = ch.records.Deeds(r.Context(), store.TrailQuery{Grading: v.Grading.ID, Text: text, Before: q.Get("before"), Limit: trailShown})
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if v.Older != "" {
		next := url.Values{"before": {v.Older}, "text": {text}, "grading": {v.Grading.ID}}
		v.Older = "/trail?" + next.Encode()
	}
	ch.Show(w, r, http.StatusOK, v.Grading.ProgramID, frame.Page{Screen: "trail", Title: "Audit trail", Nav: "gradings", Body: v})
}
