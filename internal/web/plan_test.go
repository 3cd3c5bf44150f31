package web

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
)

// TestThePlan: what those who come still need is planned, said for whom, pinned, dropped and
// rested.
func TestThePlan(t *testing.T) {
	h := newHouse(t).furnish()
	class := h.evening("Evening")
	path := "/plan/" + class + "/2026-11-24"
	says(t, h.page(path), "Serves 2 of 2 students it is for; it has no history yet.")
	says(t, h.page(path), "Whom it is for")
	var entries []store.Attendance
	for week := 1; week <= 4; week++ {
		entries = append(entries, store.Attendance{ID: store.NewID(), ClassID: class, On: h.s.Today().AddDays(-7 * week), StudentID: h.student, State: store.Present, Mode: timetable.Hall})
	}
	refused, err := h.s.RecordAttendance(bg, me, entries)
	require.NoError(t, err)
	require.Empty(t, refused)
	page := h.page(path)
	says(t, page, "Serves 1 of 1 student who are likely to come.")
	says(t, page, "83 of 100 times")
	says(t, page, "For Ben Sluice")
	says(t, page, "Open work")
	says(t, page, "not signed off yet")
	assert.Regexp(t, `(?s)0–7 min.*Warm-up.*7–13 min.*Kick`, text(page))
	links := regexp.MustCompile(`href="(/plan/[^"]*(pin|drop)=[^"]*)"`).FindAllStringSubmatch(page, -1)
	require.Len(t, links, 2)
	plain := func(s string) string { return strings.ReplaceAll(s, "&amp;", "&") }
	pinned := h.page(plain(links[0][1]))
	says(t, pinned, "● pinned")
	says(t, h.page(plain(links[0][1])+"&minutes=10"), "What is pinned is 4 min too long")
	dropped := h.page(plain(links[1][1]))
	says(t, dropped, "1 thing dropped.")
	assert.NotContains(t, text(dropped), "For Ben Sluice")
	_, err = h.s.Teach(bg, me, class, h.s.Today().AddDays(-7), h.technique)
	require.NoError(t, err)
	says(t, h.page(path), "7–13 min", "a week ago is long enough")
	later := "/plan/" + class + "/2026-11-24"
	_, err = h.s.SaveClass(bg, me, timetable.Class{Name: "Sunday", Kind: "General", Weekday: 7, Start: 600, Minutes: 60, From: h.s.Today().AddDays(-60), Programs: []string{h.program}})
	require.NoError(t, err)
	tt, err := h.s.Timetable(bg)
	require.NoError(t, err)
	_, err = h.s.Teach(bg, me, tt.Classes[1].ID, h.s.Today().AddDays(-2), h.technique)
	require.NoError(t, err)
	says(t, h.page(later), "Resting, because it was just worked on: Kick")
	w := h.do("GET", path+"?minutes=lots", "")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `value="lots"`)
	assert.Equal(t, http.StatusConflict, h.do("GET", "/plan/"+class+"/2026-11-23", "").Code)
}

// TestInsights: every figure has the students behind it.
func TestInsights(t *testing.T) {
	h := newHouse(t).furnish()
	class := h.evening("Evening")
	enter := func(student string, daysAgo int) {
		refused, err := h.s.RecordAttendance(bg, me, []store.Attendance{{ID: store.NewID(), ClassID: class, On: h.s.Today().AddDays(-daysAgo), StudentID: student, State: store.Present, Mode: timetable.Hall}})
		require.NoError(t, err)
		require.Empty(t, refused)
	}
	says(t, h.page("/insights"), "Nobody: all who climb have come in the last three weeks, or no register is kept yet.")
	enter(h.student, 35)
	enter(h.student, 28)
	says(t, h.page("/insights"), "Nobody: all who climb", "no class was held since")
	d, err := h.s.KeepRegister(bg, me, class, h.s.Today())
	require.NoError(t, err)
	require.NotEmpty(t, d.ID)
	says(t, h.page("/insights"), "Ben Sluice White · last on Tue 27 Oct 2026, 28 days ago; before that 1.0 a week")
	says(t, h.page("/insights"), "No result is announced yet.")

	marks := []store.Mark{}
	for i, c := range []string{h.candidate, h.candidate2} {
		marks = append(marks, store.Mark{ID: store.NewID(), CandidateID: c, ExaminerID: h.examiner, ItemID: h.item, Kind: store.MarkGiven, Value: scoring.Whole(3 * i)})
	}
	require.NoError(t, h.s.RecordMarks(bg, me, marks))
	_, err = h.s.Sign(bg, me, h.examiner, h.group, false)
	require.NoError(t, err)
	for _, c := range []string{h.candidate, h.candidate2} {
		outcome := scoring.OutcomeRetest
		if c == h.candidate2 {
			outcome = scoring.OutcomePromote
		}
		_, err := h.s.Decide(bg, me, store.Decision{CandidateID: c, Outcome: outcome, DecidedBy: "Rosa", Reason: "seen by the committee"})
		require.NoError(t, err)
	}
	assert.NotContains(t, text(h.page("/insights")), "1 of 2", "held results show nowhere")
	_, err = h.s.Announce(bg, me, h.grading, []string{h.candidate, h.candidate2})
	require.NoError(t, err)
	page := h.page("/insights")
	says(t, page, "1 of 2")
	says(t, page, "326 days", "the promotion ended a stay")
	says(t, page, "2026, first half")
	rates := page[strings.Index(page, "Pass rates"):]
	assert.Contains(t, rates[:strings.Index(rates, "</section>")], "/students/", "the student behind the figure")
	assert.Equal(t, "/programs/new", newHouse(t).do("GET", "/insights", "").Header().Get("Location"))
}
