package office_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/web/webtest"
)

// TestTheFirstHourIsShownUntilItIsOver: what is on record is done, what is not needed is skipped, and both can be undone.
func TestTheFirstHourIsShownUntilItIsOver(t *testing.T) {
	h := webtest.NewHouse(t)
	webtest.Says(t, h.Page("/programs/new"), "The first hour 7 steps left Name the school.")
	_, page := h.Send("/programs/new", "school", "Quarry Lane", "name", "Karate", "begin", "starter:karate")
	webtest.Says(t, page, "4 steps left Bring in the students.")
	_, page = h.Send("/first-hour/skip", "step", "students", "back", "/students")
	webtest.Says(t, page, "Skipped a step of the first hour: Bring in the students")
	webtest.Says(t, page, "3 steps left Put the week on the timetable.")
	webtest.Says(t, h.Undo(page), "4 steps left")
	for _, step := range []string{"students", "week", "register"} {
		h.Send("/first-hour/skip", "step", step)
	}
	h.Send("/settings", "seal", "QL") // keeps what was skipped
	page = h.Page("/first-hour")
	webtest.Says(t, page, "Plan the next grading")
	webtest.Says(t, page, "skipped")
	_, page = h.Send("/first-hour/skip", "step", "grading")
	webtest.Says(t, page, "It is over")
	assert.NotContains(t, h.Page("/ladder"), `class="first-hour"`)
	for _, step := range []string{"", "tea"} {
		w := h.Do("POST", "/first-hour/skip", webtest.Values("step", step).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
		webtest.Says(t, w.Body.String(), "is no step of the first hour")
	}
	assert.Contains(t, h.Page("/students/new"), "Add, and one more")
	address, page := h.Send("/students/new", "name", "Ida Brandt", "more", "1")
	assert.Contains(t, address, "/students/new")
	webtest.Says(t, page, "Added Ida Brandt")
}
