package classes_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// TestInsights: every figure has the students behind it.
func TestInsights(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class := h.Evening("Evening")
	enter := func(student string, daysAgo int) {
		refused, err := h.Store.RecordAttendance(webtest.Ctx, webtest.Me, []gradingday.Attendance{{ID: store.NewID(), ClassID: class, On: h.Store.Today().AddDays(-daysAgo), StudentID: student, State: gradingday.Present, Mode: timetable.Hall}})
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

	marks := []gradingday.Mark{}
	for i, c := range []string{h.Candidate, h.Candidate2} {
		marks = append(marks, gradingday.Mark{ID: store.NewID(), CandidateID: c, ExaminerID: h.Examiner, ItemID: h.Item, Kind: gradingday.MarkGiven, Value: scoring.Whole(3 * i)})
	}
	webtest.Mark(t, h.Store, marks)
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
	assert.Equal(t, "/programs/new?why=no-program", webtest.NewHouse(t).Do("GET", "/insights", "").Header().Get("Location"))
}

// TestHowGoodTheForecastsWere: an empty school has nothing to look back on, and says so.
func TestHowGoodTheForecastsWere(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	webtest.Says(t, h.Page("/insights/forecasts"), "There is nothing to look back on yet.")
}
