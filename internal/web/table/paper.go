package table

import (
	"net/http"
	"net/url"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type paperView struct {
	Table  store.Table
	Scale  string // the marks in words
	Seated bool
	Twice  bool
}

// paperShow is the grid into which a paper sheet is typed; the script fills it from the table's
// state and sends marks as the scoring table does.
func (ch *chapter) paperShow(w http.ResponseWriter, r *http.Request) {
	t, ok := ch.openTable(w, r)
	if !ok {
		return
	}
	_, seated := frame.SeatOf(r)
	v := paperView{Table: t, Scale: t.Grading.Policy.Scale.Describe(), Seated: seated, Twice: r.URL.Query().Get("twice") != ""}
	ch.Show(w, r, http.StatusOK, t.Grading.ProgramID, frame.Page{Screen: "paper", Title: "Paper sheet: " + t.Group + ", " + t.Examiner.Name, Bare: true, Body: v})
}

// paperChecked notes that a sheet was typed a second time, and how many marks differed.
func (ch *chapter) paperChecked(w http.ResponseWriter, r *http.Request) {
	examiner, group := r.PathValue("examiner"), r.PathValue("group")
	t, err := ch.ownTable(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		typed, differed := p.Whole("typed", v.Get("typed"), 1, 4000, 0), p.Whole("differed", v.Get("differed"), 0, 4000, 0)
		if len(p) > 0 || typed == 0 {
			return store.Done{}, &store.Refused{Reason: "Nothing was typed a second time yet."}
		}
		return ch.records.NoteDeed(r.Context(), by, office.Deed{Kind: office.PaperReadTwice, Who: t.Examiner.ID, What: t.Group, N: typed, M: differed})
	}, frame.To("/paper/"+examiner+"/"+group), func(status int, f frame.Form) { ch.Message(w, r, status, "Not noted", f.General) })
}
