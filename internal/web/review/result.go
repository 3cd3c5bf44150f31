package review

import (
	"net/http"

	"velvetladder/internal/web/frame"
)

// resultShow is a result in plain words, to be printed and handed over.
func (ch *chapter) resultShow(w http.ResponseWriter, r *http.Request) {
	x, err := ch.records.Result(r.Context(), r.PathValue("candidate"), true)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v, err := ch.ResultOf(r, x)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, http.StatusOK, x.Grading.ProgramID, frame.Page{Screen: "result", Title: "Result of " + x.Name, Nav: "gradings", Body: v})
}
