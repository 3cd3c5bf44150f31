package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// TestTheThemeOfTheWeek is kept for every class of the week, followed, changed and undone.
func TestTheThemeOfTheWeek(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class := h.Evening("Evening")
	path := "/plan/" + class + "/2026-11-24"
	webtest.Says(t, h.Page(path), "The week of Mon 23 Nov 2026, for every class of this program.")
	sections, err := h.Store.Sections(webtest.Ctx, h.Program)
	require.NoError(t, err)
	address, page := h.Send(path+"/theme", "sections", sections[3].ID, "words", "low stances")
	assert.True(t, strings.HasPrefix(address, path))
	webtest.Says(t, page, "Theme of the week : "+sections[3].Name+", low stances. 6 of 50 min follow it.")
	assert.Contains(t, page, `value="`+sections[3].ID+`" checked`)
	_, page = h.Send(path+"/theme", "words", "river stones")
	webtest.Says(t, page, "Theme of the week : river stones.")
	webtest.Says(t, page, "Nothing that those who come are taught belongs to it, or fits")
	long := strings.Repeat("x", 1000)
	w := h.Do("POST", path+"/theme", webtest.Values("words", long).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), long, "what was typed is kept")
	webtest.Says(t, h.Page(path), "river stones")
	_, page = h.Send(path + "/theme")
	assert.NotContains(t, webtest.Text(page), "Theme of the week : ")

	webtest.Says(t, h.Page(path+"?how=live"), "live online")
	webtest.Says(t, h.Page(path+"?how=live"), "two metres of clear floor")
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("GET", path+"?how=flying", "").Code)
	online := h.Evening("Online evening")
	webtest.Says(t, h.Page("/plan/"+online+"/2026-11-24"), "live online")
}

// TestWhatWasMissedComesFirst: in a make-up class, and for who is there to make up.
func TestWhatWasMissedComesFirst(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class := h.Evening("Evening")
	came := func(class, student string, daysAgo int) {
		refused, err := h.Store.RecordAttendance(webtest.Ctx, webtest.Me, []store.Attendance{{ID: store.NewID(), ClassID: class, On: h.Store.Today().AddDays(-daysAgo), StudentID: student, State: store.Present, Mode: timetable.Hall}})
		require.NoError(t, err)
		require.Empty(t, refused)
	}
	d, err := h.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Cara Mill"})
	require.NoError(t, err)
	came(class, h.Student, 21)
	came(class, d.ID, 7)
	_, err = h.Store.Teach(webtest.Ctx, webtest.Me, class, h.Store.Today().AddDays(-7), h.Technique)
	require.NoError(t, err)
	webtest.Says(t, h.Page("/plan/"+class+"/2026-11-24"), "Ben Sluice: not signed off yet; away on 17 Nov when it was worked on")
	makeUp := h.Evening("Catch-up")
	page := h.Page("/plan/" + makeUp + "/2026-11-24")
	webtest.Says(t, page, "It is there to make up: what those who come missed is first.")
	webtest.Says(t, page, "away on 17 Nov when it was worked on")
}
