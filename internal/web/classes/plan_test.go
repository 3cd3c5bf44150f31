package classes_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
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

	h.Send("/binder/"+h.Yellow, "page", "Throws\nReed reap")
	h.Send(path+"/theme", "words", "throwing")
	webtest.Says(t, h.Page(path+"?how=recorded"), "What belongs to it cannot be done so:")
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
		refused, err := h.Store.RecordAttendance(webtest.Ctx, webtest.Me, []gradingday.Attendance{{ID: store.NewID(), ClassID: class, On: h.Store.Today().AddDays(-daysAgo), StudentID: student, State: gradingday.Present, Mode: timetable.Hall}})
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

// TestThePlan: what those who come still need is planned, said for whom, pinned, dropped and
// rested.
func TestThePlan(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class := h.Evening("Evening")
	path := "/plan/" + class + "/2026-11-24"
	webtest.Says(t, h.Page(path), "Serves 2 of 2 students it is for; it has no history yet.")
	webtest.Says(t, h.Page(path), "Whom it is for")
	var entries []gradingday.Attendance
	for week := 1; week <= 4; week++ {
		entries = append(entries, gradingday.Attendance{ID: store.NewID(), ClassID: class, On: h.Store.Today().AddDays(-7 * week), StudentID: h.Student, State: gradingday.Present, Mode: timetable.Hall})
	}
	refused, err := h.Store.RecordAttendance(webtest.Ctx, webtest.Me, entries)
	require.NoError(t, err)
	require.Empty(t, refused)
	page := h.Page(path)
	webtest.Says(t, page, "Serves 1 of 1 student who are likely to come.")
	webtest.Says(t, page, "83 of 100 times")
	webtest.Says(t, page, "For Ben Sluice")
	assert.NotContains(t, webtest.Text(page), "The others", "nobody else comes")
	webtest.Says(t, page, "Open work")
	webtest.Says(t, page, "not signed off yet")
	assert.Regexp(t, `(?s)0–7 min.*Warm-up.*7–13 min.*Kick`, webtest.Text(page))
	links := regexp.MustCompile(`href="(/plan/[^"]*(pin|drop)=[^"]*)"`).FindAllStringSubmatch(page, -1)
	require.Len(t, links, 2)
	plain := func(s string) string { return strings.ReplaceAll(s, "&amp;", "&") }
	pinned := h.Page(plain(links[0][1]))
	webtest.Says(t, pinned, "● pinned")
	webtest.Says(t, h.Page(plain(links[0][1])+"&minutes=10"), "What is pinned is 4 min too long")
	dropped := h.Page(plain(links[1][1]))
	webtest.Says(t, dropped, "1 thing dropped.")
	assert.NotContains(t, webtest.Text(dropped), "For Ben Sluice")
	_, err = h.Store.Teach(webtest.Ctx, webtest.Me, class, h.Store.Today().AddDays(-7), h.Technique)
	require.NoError(t, err)
	webtest.Says(t, h.Page(path), "7–13 min", "a week ago is long enough")
	later := "/plan/" + class + "/2026-11-24"
	_, err = h.Store.SaveClass(webtest.Ctx, webtest.Me, timetable.Class{Name: "Sunday", Kind: "General", Weekday: 7, Start: 600, Minutes: 60, From: h.Store.Today().AddDays(-60), Programs: []string{h.Program}})
	require.NoError(t, err)
	tt, err := h.Store.Timetable(webtest.Ctx)
	require.NoError(t, err)
	_, err = h.Store.Teach(webtest.Ctx, webtest.Me, tt.Classes[1].ID, h.Store.Today().AddDays(-2), h.Technique)
	require.NoError(t, err)
	webtest.Says(t, h.Page(later), "Resting, because it was just worked on: Kick")
	w := h.Do("GET", path+"?minutes=lots", "")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `value="lots"`)
	assert.Equal(t, http.StatusConflict, h.Do("GET", "/plan/"+class+"/2026-11-23", "").Code)
}
