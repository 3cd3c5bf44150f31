package classes_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/web/webtest"
)

// TestTheRegister: taps come as forms or as entries; each wrong one is told and nothing of it
// kept.
func TestTheRegister(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class := h.Evening("Evening")
	path := "/register/" + class + "/2026-11-24"
	page := h.Page(path)
	assert.Contains(t, page, "0</strong> here")
	webtest.Says(t, page, "Ben Sluice")
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	_, page = h.Send(path, "tap", h.Student, "mode", "live")
	assert.Contains(t, page, "1</strong> here")
	_, page = h.Send(path, "tap", h.Student)
	assert.Contains(t, page, "0</strong> here", "a second tap takes it back")
	_, page = h.Send(path, "visitor", "Vera Trial")
	webtest.Says(t, page, "on trial Vera Trial")
	w := h.Do("POST", path, "visitor=")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "names a visitor")
	for at, told := range map[string]string{
		"/register/" + class + "/2026-12-01": "it lies in the future", "/register/" + class + "/2026-11-23": "it is not held on a Monday",
	} {
		assert.Contains(t, h.Do("GET", at, "").Body.String(), told)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("GET", "/register/"+class+"/yesterday", "").Code)
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/register/none/2026-11-24", "").Code)

	entry := func(id, student, state, on, supersedes string) string {
		return fmt.Sprintf(`{"entries":[{"id":%q,"class":%q,"on":%q,"student":%q,"visitor":"","state":%q,"mode":"hall","make_up":false,"supersedes":%q}]}`, id, class, on, student, state, supersedes)
	}
	post := func(body string) string { return h.Do("POST", path+"/entries", body).Body.String() }
	assert.Contains(t, post(entry("tap-one-", h.Student, "present", "2026-11-24", "")), `"stored":["tap-one-"]`)
	assert.Contains(t, post(entry("tap-one-", h.Student, "present", "2026-11-24", "")), `"stored":["tap-one-"]`)
	assert.Contains(t, post(entry("tap-one-", h.Student, "late", "2026-11-24", "")), "nothing of this one")
	assert.Contains(t, post(entry("tap-two-", h.Student, "late", "2026-11-24", "")), `"current":{"id":"tap-one-"`)
	assert.Contains(t, post(entry("tap-six-", h.Student, "late", "2026-11-17", "")), "another class")
	assert.Contains(t, post(`{"entries":[]}`), "must be 1 to 500")
	assert.Contains(t, post(`{"entries":[{"id":1}]}`), "cannot be read")
	webtest.Says(t, h.Page("/students/"+h.Student), "Tue 24 Nov 2026, Evening")

	// The wall takes a number and says no more than a first name.
	s, err := h.Store.Student(webtest.Ctx, h.Student)
	require.NoError(t, err)
	wall := "/checkin/" + class + "/2026-11-24"
	webtest.Says(t, h.Page(wall), "Welcome. Type your number.")
	typed := func(id, number string) string {
		return h.Do("POST", wall, fmt.Sprintf(`{"entries":[{"id":%q,"number":%q}]}`, id, number)).Body.String()
	}
	for range 2 {
		answer := typed("wall-one", fmt.Sprint(s.Number))
		assert.Contains(t, answer, `"stored":["wall-one"]`)
		assert.Contains(t, answer, `"names":{"wall-one":"Ben"}`)
		assert.NotContains(t, answer, "Sluice")
	}
	assert.Contains(t, typed("wall-two", "9999"), "nobody has the number 9999")
	assert.Contains(t, typed("wall-two", "x"), "nobody has the number x")
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("POST", wall, `{"entries":[]}`).Code)

	// What was shown: sign off, not yet, and the class that worked on it.
	shown := "/signoffs/" + class + "/2026-11-24"
	webtest.Says(t, h.Page(shown), "Kick")
	webtest.Says(t, h.Page(shown), "1 student")
	body := fmt.Sprintf(`{"entries":[{"id":"shown-one","enrolment":%q,"technique":%q,"role":"performer","stage":0,"side":"","kind":"shown","fault":"","clip":false,"class":%q,"on":"2026-11-24","supersedes":""}]}`, standings[0].EnrolmentID, h.Technique, class)
	assert.Contains(t, h.Do("POST", shown+"/entries", body).Body.String(), `"stored":["shown-one"]`)
	assert.Contains(t, h.Do("POST", shown+"/entries", strings.Replace(body, `"shown-one"`, `"shown-two"`, 1)+" ").Body.String(), `"stored":["shown-two"]`)
	_, page = h.Send(shown+"/taught", "technique", h.Technique)
	assert.Contains(t, page, "Noted that the class worked on Kick")
	webtest.Says(t, page, "worked on")
	assert.Equal(t, http.StatusNotFound, h.Do("POST", shown+"/taught", "technique=none").Code)
	webtest.Says(t, h.Page("/signoffs/"+class+"/2026-11-17"), "Nobody is on the register yet.")
	webtest.Says(t, h.Page("/students/"+h.Student), "1 of 1")
}
