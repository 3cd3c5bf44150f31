package people

import (
	"cmp"
	"net/http"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

// callerShow calls the lines of a rung for a track and a stance, or one combination.
func (ch *chapter) callerShow(w http.ResponseWriter, r *http.Request) {
	g, b, ok := ch.RungBook(w, r)
	if !ok {
		return
	}
	q := r.URL.Query()
	var p check.Problems
	stance := curriculum.View(q.Get("stance"))
	if !slices.Contains(curriculum.Views, stance) {
		stance = curriculum.AsWritten
	}
	reps := p.Whole("reps", q.Get("reps"), 1, 100, 0)
	if len(p) > 0 {
		ch.Message(w, r, http.StatusBadRequest, "The address is wrong", p.Error())
		return
	}
	v := parts.CallerView{Title: g.Name, Back: "/ladder/" + g.ID, Floor: "/techniques/*/floor", Stance: string(stance), Stances: frame.Options(curriculum.Views, curriculum.View.Words)}
	var calls []practice.Call
	if line := check.Tidy(q.Get("line")); line != "" {
		v.Title, v.Back = "a combination", "/combinations?rung="+g.ID
		calls = []practice.Call{practice.CombinationCall(b, line, cmp.Or(reps, 5))}
	} else {
		v.Whole = true
		sheet := b.Compile(curriculum.Asking{RungID: g.ID, TrackID: q.Get("track"), Undrawn: true})
		for _, l := range sheet.Lines {
			if l.Kind != "courtesy" && l.Kind != "knowledge" && l.Kind != "character" && l.Kind != "board_break" {
				calls = append(calls, practice.CallOf(b, l, reps))
			}
		}
	}
	ch.ShowCaller(w, r, v, b, calls)
}
