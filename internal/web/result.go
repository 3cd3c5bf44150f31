package web

import (
	"net/http"

	"velvetladder/internal/web/frame"
)

// resultShow is a result in plain words, to be printed and handed over.
func (a *app) resultShow(w http.ResponseWriter, r *http.Request) {
	x, err := a.store.Result(r.Context(), r.PathValue("candidate"), true)
	if err != nil {
		a.Fail(w, r, err)
		return
	}
	v, err := a.ResultOf(r, x)
	if err != nil {
		a.Fail(w, r, err)
		return
	}
	a.Show(w, r, http.StatusOK, x.Grading.ProgramID, frame.Page{Screen: "result", Title: "Result of " + x.Name, Nav: "gradings", Body: v})
}
