package web_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// TestThePlan: what those who come still need is planned, said for whom, pinned, dropped and
// rested.
func TestThePlan(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class := h.Evening("Evening")
	path := "/plan/" + class + "/2026-11-24"
	webtest.Says(t, h.Page(path), "Serves 2 of 2 students it is for; it has no history yet.")
	webtest.Says(t, h.Page(path), "Whom it is for")
	var entries []store.Attendance
	for week := 1; week <= 4; week++ {
		entries = append(entries, store.Attendance{ID: store.NewID(), ClassID: class, On: h.Store.Today().AddDays(-7 * week), StudentID: h.Student, State: store.Present, Mode: timetable.Hall})
	}
	refused, err := h.Store.RecordAttendance(webtest.Ctx, webtest.Me, entries)
	require.NoError(t, err)
	require.Empty(t, refused)
	page := h.Page(path)
	webtest.Says(t, page, "Serves 1 of 1 student who are likely to come.")
	webtest.Says(t, page, "83 of 100 times")
	webtest.Says(t, page, "For Ben Sluice")
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

// TestInsights: every figure has the students behind it.
func TestInsights(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class := h.Evening("Evening")
	enter := func(student string, daysAgo int) {
		refused, err := h.Store.RecordAttendance(webtest.Ctx, webtest.Me, []store.Attendance{{ID: store.NewID(), ClassID: class, On: h.Store.Today().AddDays(-daysAgo), StudentID: student, State: store.Present, Mode: timetable.Hall}})
		require.NoError(t, err)
		require.Empty(t, refused)
	}
	webtest.Says(t, h.Page("/insights"), "Nobody: all who climb have come in the last three weeks, or no register is kept yet.")
	enter(h.Student, 35)
	enter(h.Student, 28)
	webtest.Says(t, h.Page("/insights"), "Nobody: all who climb", "no class was held since")
	d, err := h.Store.KeepRegister(webtest.Ctx, webtest.Me, class, h.Store.Today())
	require.NoError(t, err)
	require.NotEmpty(t, d.ID)
	webtest.Says(t, h.Page("/insights"), "Ben Sluice White · last on Tue 27 Oct 2026, 28 days ago; before that 1.0 a week")
	webtest.Says(t, h.Page("/insights"), "No result is announced yet.")

	marks := []store.Mark{}
	for i, c := range []string{h.Candidate, h.Candidate2} {
		marks = append(marks, store.Mark{ID: store.NewID(), CandidateID: c, ExaminerID: h.Examiner, ItemID: h.Item, Kind: store.MarkGiven, Value: scoring.Whole(3 * i)})
	}
	require.NoError(t, h.Store.RecordMarks(webtest.Ctx, webtest.Me, marks))
	_, err = h.Store.Sign(webtest.Ctx, webtest.Me, h.Examiner, h.Group, false)
	require.NoError(t, err)
	for _, c := range []string{h.Candidate, h.Candidate2} {
		outcome := scoring.OutcomeRetest
		if c == h.Candidate2 {
			outcome = scoring.OutcomePromote
		}
		_, err := h.Store.Decide(webtest.Ctx, webtest.Me, store.Decision{CandidateID: c, Outcome: outcome, DecidedBy: "Rosa", Reason: "seen by the committee"})
		require.NoError(t, err)
	}
	assert.NotContains(t, webtest.Text(h.Page("/insights")), "1 of 2", "held results show nowhere")
	_, err = h.Store.Announce(webtest.Ctx, webtest.Me, h.Grading, []string{h.Candidate, h.Candidate2})
	require.NoError(t, err)
	page := h.Page("/insights")
	webtest.Says(t, page, "1 of 2")
	webtest.Says(t, page, "326 days", "the promotion ended a stay")
	webtest.Says(t, page, "2026, first half")
	rates := page[strings.Index(page, "Pass rates"):]
	assert.Contains(t, rates[:strings.Index(rates, "</section>")], "/students/", "the student behind the figure")
	assert.Equal(t, "/programs/new", webtest.NewHouse(t).Do("GET", "/insights", "").Header().Get("Location"))
}
