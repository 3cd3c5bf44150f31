package review

import (
	"net/http"
	"net/url"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type trailView struct {
	Deeds    []trailDeed
	Older    string
	Form     frame.Form
	Gradings []frame.Option
	Grading  store.Grading
}

// trailDeed is a deed with its sentence.
type trailDeed struct {
	store.Deed
	Said string
}

// saidOf is a deed as the trail tells it.
func saidOf(d store.Deed) string {
	if d.Happened != nil {
		return words.Happened(*d.Happened)
	}
	return words.Deed(d.Told)
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
		ask := store.TrailQuery{Grading: v.Grading.ID, Before: q.Get("before"), Limit: trailShown}
		if text != "" {
			ask.Match = func(d store.Deed) bool { return strings.Contains(check.Key(d.Actor+" "+saidOf(d)), check.Key(text)) }
		}
		var deeds []store.Deed
		deeds, v.Older, err = ch.records.Deeds(r.Context(), ask)
		for _, d := range deeds {
			v.Deeds = append(v.Deeds, trailDeed{d, saidOf(d)})
		}
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
