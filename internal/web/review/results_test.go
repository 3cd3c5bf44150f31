package review_test

import (
	"net/http"
	"path/filepath"
	"strings"
	"testing"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

func TestFilesOfAGrading(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	v := h.Visitor()
	assert.Equal(t, http.StatusConflict, v.Do("GET", "/gradings/"+h.Grading+"/results.xlsx", "").Code, "no panel has signed")
	assert.NotContains(t, h.Page("/papers/"+h.Grading), "results.xlsx", "no link to what is not ready")
	w := v.Do("GET", "/gradings/"+h.Grading+"/grading.json", "")
	require.Equal(t, http.StatusOK, w.Code)
	g, err := exchange.ReadGrading(strings.NewReader(w.Body.String()))
	require.NoError(t, err)
	assert.True(t, g.Candidates[0].Sealed)
	assert.Nil(t, g.Candidates[0].Tally, "marks of an unsigned sheet stay sealed")

	table, err := h.Store.ScoringTable(webtest.Ctx, h.Examiner, h.Group)
	require.NoError(t, err)
	var marks []gradingday.Mark
	for _, c := range table.Candidates {
		for _, it := range table.Items {
			if !markedBefore(table, c.ID, it.IDs[c.ID]) {
				marks = append(marks, gradingday.Mark{ID: store.NewID(), CandidateID: c.ID, ExaminerID: h.Examiner, ItemID: it.IDs[c.ID], Kind: gradingday.MarkGiven, Value: scoring.Whole(3)})
			}
		}
	}
	webtest.Mark(t, h.Store, marks)
	_, err = h.Store.Sign(webtest.Ctx, webtest.Me, h.Examiner, h.Group, false)
	require.NoError(t, err)
	assert.Contains(t, h.Page("/papers/"+h.Grading), "results.xlsx")
	w = v.Do("GET", "/gradings/"+h.Grading+"/results.xlsx", "")
	require.Equal(t, http.StatusOK, w.Code)
	f, err := excelize.OpenReader(w.Body)
	require.NoError(t, err)
	got, err := f.CalcCellValue("Results", "S2")
	require.NoError(t, err)
	assert.Equal(t, "yes", got)
	g, err = exchange.ReadGrading(v.Do("GET", "/gradings/"+h.Grading+"/grading.json", "").Body)
	require.NoError(t, err)
	for _, c := range g.Candidates {
		_, same, err := c.Recompute()
		require.NoError(t, err)
		assert.True(t, same, c.Name)
	}

	h.Coming()
	w = v.Do("GET", "/files/calendar.ics", "")
	cal, err := ics.ParseCalendar(w.Body)
	require.NoError(t, err)
	assert.NotEmpty(t, cal.Events())
	w = v.Do("GET", "/files/school.jsonl", "")
	path := filepath.Join(t.TempDir(), "moved.db")
	require.NoError(t, store.ImportSchool(webtest.Ctx, path, w.Body, webtest.Clock))
}

func markedBefore(t store.Table, candidate, item string) bool {
	for _, m := range t.Marks {
		if m.CandidateID == candidate && m.ItemID == item {
			return true
		}
	}
	return false
}
