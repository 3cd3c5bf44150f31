package office

import (
	"net/http"
	"net/url"
	"strings"

	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

// firstHourShow is the way from an empty school to its first register, step by step.
func (ch *chapter) firstHourShow(w http.ResponseWriter, r *http.Request) {
	ch.Show(w, r, http.StatusOK, "", frame.Page{Screen: "firsthour", Title: "The first hour"})
}

// firstHourSkip keeps a step from being asked for any more, and goes back to where one was.
func (ch *chapter) firstHourSkip(w http.ResponseWriter, r *http.Request) {
	back := "/first-hour"
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if to := v.Get("back"); to != "" {
			back, _, _ = strings.Cut(frame.Back(to), "?")
		}
		step := office.FirstStep(v.Get("step"))
		title, _, _ := words.FirstStep(step)
		return ch.records.SkipFirstStep(r.Context(), by, step, title)
	}, func(store.Done) string { return back }, nil)
}
