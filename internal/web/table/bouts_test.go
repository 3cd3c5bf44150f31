package table_test

import (
	"fmt"
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/web/webtest"
)

// TestTheListOfBoutsIsAtTheRing: what was paired before the day is begun from the ring with one press, once.
func TestTheListOfBoutsIsAtTheRing(t *testing.T) {
	x := webtest.NewHall(t)
	_, err := x.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: x.Yellow, SectionID: x.Section, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}, Weight: 1}, "Free rounds", "sparring")
	require.NoError(t, err)
	_, err = x.Store.MakePairs(webtest.Ctx, webtest.Me, x.Day, gradingday.UsualPairs)
	require.NoError(t, err)
	page := x.Owns.Do("GET", "/bouts/"+x.Ring, "").Body.String()
	require.Contains(t, page, "Next on the list")
	assert.Contains(t, page, "a senior")
	w := x.Owns.Do("POST", "/bouts/"+x.Ring, url.Values{"a": {x.Candidate}, "b": {""}, "partner": {"a senior"}, "rounds": {"2"}, "seconds": {"60"}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, webtest.WrongWords(w.Body.String()))
	assert.NotContains(t, x.Owns.Do("GET", "/bouts/"+x.Ring, "").Body.String(), "Next on the list")
}

// TestABoutAsAsked: rounds, seconds and the rest between them reach the ring's clock.
func TestABoutAsAsked(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	g, err := h.Store.Grading(webtest.Ctx, h.Grading)
	require.NoError(t, err)
	ring := g.Rings[0].ID
	for seconds, cue := range map[string]int{"60": 10, "12": 6} {
		w := h.Do("POST", "/bouts/"+ring, webtest.Values("a", h.Candidate, "b", h.Candidate2, "rounds", "2", "seconds", seconds).Encode())
		require.Equal(t, 303, w.Code, w.Body.String())
		state, err := h.Store.Ring(webtest.Ctx, ring)
		require.NoError(t, err)
		c := state.State.Clock
		assert.Equal(t, []any{"Bout", seconds, 2, 30, cue}, []any{c.Label, fmt.Sprint(c.Seconds), c.Rounds, c.Rest, c.Cue})
	}
}
