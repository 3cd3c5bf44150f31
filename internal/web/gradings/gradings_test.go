package gradings_test

import (
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// TestPanelRulesByForms plans a grading with every panel rule, and reads it back.
func TestPanelRulesByForms(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	base := func(more ...string) string {
		v := webtest.Values("program", h.Program, "on", "2026-12-12", "marking", "movement_scale", "group_size", "3", "retest_days", "28", "rungs", h.Yellow, "allowed_failing", "2", "panel", "majority", "tie", "chief",
			"examiner", "Cora Vane", "examiner", "Ed Weir", "examiner", "Fay Rush", "chief", "2")
		for i := 0; i < len(more); i += 2 {
			v.Del(more[i])
		}
		for i := 0; i < len(more); i += 2 {
			v.Add(more[i], more[i+1])
		}
		return v.Encode()
	}
	for _, c := range []struct {
		name, body string
		want       func(store.Grading) bool
		words      string
	}{
		{"mean with a threshold", base("panel", "mean", "threshold", "2.5", "quorum", "2"), func(g store.Grading) bool { return g.Policy.Panel == scoring.Mean && g.Policy.Quorum == 2 }, "mean of 3, 2 needed"},
		{"median", base("panel", "median"), func(g store.Grading) bool { return g.Policy.Panel == scoring.Median }, "median of 3"},
		{"trimmed mean", base("panel", "trimmed_mean", "tie", "committee"), func(g store.Grading) bool { return g.Policy.Tie == scoring.TieCommittee }, "trimmed mean of 3"},
		{"a section's minimum", base("minima", "Kicks 62.5%\n\n", "minimum_seen", "60"), func(g store.Grading) bool {
			return g.Policy.Rules.SectionMinima[0] == scoring.SectionMinimum{Section: "Kicks", Ratio: scoring.Whole(5) / 8} && *g.Policy.Rules.MinimumSeen == scoring.Whole(3)/5
		}, "Kicks at least 62.5 %"},
		{"honours, double, no must-pass", base("honours", "4", "double", "1", "ignore_must_pass", "1"), func(g store.Grading) bool {
			return *g.Policy.Scale.Honours == scoring.Whole(4) && g.Policy.Scale.Double && g.Policy.Rules.IgnoreMustPass
		}, "must-pass lines count like others"},
		{"two rings", base("ring_name", "Mill floor", "examiner_1", "Gil Marsh", "chief_1", "1"), func(g store.Grading) bool {
			return len(g.Rings) == 2 && g.Rings[0].Name == "Mill floor" && g.Panel(1)[0].Chief && g.Panel(0)[1].Chief
		}, "in each of 2 rings"},
		{"results and retests", base("results", "at_once", "retest_scope", "sections", "carry_days", "90"), func(g store.Grading) bool {
			return g.Results == gradingday.AtOnce && g.RetestScope == scoring.ScopeSections && g.CarryDays == 90
		}, "majority of 3"},
	} {
		w := h.Do("POST", "/gradings/new", c.body)
		require.Equal(t, http.StatusSeeOther, w.Code, "%s: %s", c.name, w.Body)
		id := regexp.MustCompile(`[0-9a-f]{20}`).FindString(w.Header().Get("Location"))
		g, err := h.Store.Grading(webtest.Ctx, id)
		require.NoError(t, err)
		assert.True(t, c.want(g), "%s: %+v", c.name, g.Policy)
		assert.Contains(t, webtest.Text(h.Page("/gradings/"+id)), c.words, c.name)
		// The form to change it offers every field.
		edit := h.Page("/gradings/" + id + "/edit")
		again := url.Values{}
		for _, m := range regexp.MustCompile(`(?s)<(?:input|textarea|select)[^>]*name="([a-z_0-9]+)"[^>]*>`).FindAllStringSubmatch(edit, -1) {
			again[m[1]] = nil
		}
		for _, name := range []string{"panel", "tie", "quorum", "minima", "honours", "double", "ring_name", "examiner_1", "results", "retest_scope", "carry_days"} {
			assert.Contains(t, again, name, c.name)
		}
	}
	for _, c := range []struct{ name, body, holds string }{
		{"a rule that is none", base("panel", "loudest"), "is not a choice"},
		{"a quorum nobody reaches", base("quorum", "5"), "no result could ever come"},
		{"a minimum without percent", base("minima", "Kicks"), "write for example Kicks 60"},
		{"a minimum of 120", base("minima", "Kicks 120"), "is no percent from 0 to 100"},
		{"honours off the scale", base("honours", "9"), "it must be a mark of the scale"},
		{"seen of 300 percent", base("minimum_seen", "300"), "write percent from 0 to 100"},
		{"one examiner in two rings", base("examiner_1", "cora vane"), "one place at a time"},
		{"two in the second ring", base("examiner_1", "A B", "examiner_1", "C D"), "2 are named"},
	} {
		w := h.Do("POST", "/gradings/new", c.body)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, c.name)
		assert.Contains(t, webtest.Text(w.Body.String()), c.holds, c.name)
		assert.Contains(t, w.Body.String(), "Cora Vane", "what was typed is kept")
	}
}

func TestAGradingByForms(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	form := []string{"program", h.Program, "name", "Spring", "place", "Upper floor", "on", "2026-11-24", "marking", "category_points", "threshold", "7.5", "group_size", "2", "retest_days", "30", "rungs", h.Yellow,
		"examiner", "Rosa Castell", "examiner", "Dora Duval", "examiner", "Max Moor", "chief", "2"}
	address, page := h.Send("/gradings/new", form...)
	id := webtest.Last(address)
	assert.Contains(t, webtest.Text(page), "category points, a mark for each section · threshold 7.5 points · majority of 3 · Rosa Castell , Dora Duval (chief), Max Moor")
	edit := h.Page("/gradings/" + id + "/edit")
	assert.Contains(t, edit, `value="7.5"`)
	assert.Contains(t, edit, `value="Max Moor"`)
	eligible, err := h.Store.Eligible(webtest.Ctx, id)
	require.NoError(t, err)
	require.Len(t, eligible, 2)
	_, page = h.Send("/gradings/"+id+"/candidates", "candidates", eligible[0].EnrolmentID, "candidates", eligible[1].EnrolmentID)
	assert.Contains(t, webtest.Text(page), "Group 1")
	w := h.Do("POST", "/gradings/"+id+"/candidates", "")
	assert.Contains(t, w.Body.String(), "nobody is chosen")
	_, page = h.Send("/gradings/"+id+"/edit", append([]string{"threshold", "8"}, form...)...)
	assert.Contains(t, webtest.Text(page), "threshold 8 points")
	w = h.Do("GET", "/review/"+id, "")
	assert.Contains(t, webtest.Text(w.Body.String()), "There is nothing to review yet")
	_, page = h.Send("/gradings/" + id + "/begin")
	assert.Contains(t, webtest.Text(page), "Rosa Castell · 0 of 2 marks")
	w = h.Do("POST", "/gradings/"+id+"/begin", "")
	assert.Equal(t, http.StatusConflict, w.Code)

	g, err := h.Store.Grading(webtest.Ctx, id)
	require.NoError(t, err)
	all, err := h.Store.Candidates(webtest.Ctx, id)
	require.NoError(t, err)
	for i, e := range g.Examiners {
		table, err := h.Store.ScoringTable(webtest.Ctx, e.ID, all[0].GroupID)
		require.NoError(t, err)
		for n, c := range all {
			value := []string{"8.5", "7.5"}[n]
			if i == 2 {
				value = "10"
			}
			w := h.Do("POST", "/scoring/"+e.ID+"/"+all[0].GroupID+"/marks", fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"item":%q,"kind":"mark","value":%s,"note":"steady","supersedes":""}]}`, store.NewID(), c.ID, e.ID, table.Items[0].ID, value))
			require.Equal(t, http.StatusOK, w.Code, w.Body)
		}
		if i == 1 {
			fault := fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"kind":"ending","points":0,"text":"struck after stop","supersedes":""}]}`, store.NewID(), all[0].ID, e.ID)
			require.Equal(t, http.StatusOK, h.Do("POST", "/scoring/"+e.ID+"/"+all[0].GroupID+"/faults", fault).Code)
		}
		_, page := h.Send("/scoring/"+e.ID+"/"+all[0].GroupID+"/sign", "request", "sign"+e.ID)
		assert.Contains(t, webtest.Text(page), "Signed ✓")
	}
	review := webtest.Text(h.Page("/review/" + id))
	for _, said := range []string{"threshold 8 points", "◆ promote", "◇ retest", "3 of 3 pass", "1 of 3 pass", "closest: Rosa Castell, 0.5 clear", "the panel is split", "struck after stop", "The chief confirms: ends the test", "steady", "Smallest change"} {
		assert.Contains(t, review, said)
	}
	_, rows, err := h.Store.Review(webtest.Ctx, id)
	require.NoError(t, err)
	f := rows[0].Faults[0]
	_, page = h.Send("/review/"+id+"/fault", "candidate", f.CandidateID, "examiner", f.ExaminerID, "fault", f.ID, "text", f.Text, "kind", "ending_confirmed")
	assert.Contains(t, webtest.Text(page), "a fault ended the test")
	_, page = h.Send("/review/"+id+"/decide", "candidate", rows[0].ID, "outcome", "retest", "decided_by", "Dora Duval")
	assert.Contains(t, webtest.Text(page), "Dora Duval · from Thu 24 Dec 2026")
	w = h.Do("POST", "/review/"+id+"/decide", webtest.Values("candidate", rows[1].ID, "outcome", "promote", "decided_by", "").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "is empty; write a name", "a decision is somebody's")
	w = h.Do("POST", "/review/"+id+"/decide", webtest.Values("candidate", rows[1].ID, "outcome", "promote", "decided_by", "Dora Duval").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "differs from what the marks propose")
	_, page = h.Send("/review/"+id+"/decide", "candidate", rows[1].ID, "outcome", "retest", "decided_by", "Dora Duval")
	assert.Contains(t, webtest.Text(page), "Announce 2 decided")
	_, page = h.Send("/review/"+id+"/undo", "candidate", rows[1].ID)
	assert.Contains(t, webtest.Text(page), "Announce 1 decided")
	_, page = h.Send("/review/"+id+"/announce", "candidate", rows[0].ID)
	assert.Contains(t, webtest.Text(page), "announced · from Thu 24 Dec 2026")
}
