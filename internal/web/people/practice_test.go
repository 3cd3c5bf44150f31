package people_test

import (
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// TestPracticeAtHome: the sheet says what to do in plain words; a link shows it to the family,
// who tick and send clips, and nothing of anybody else; ended, it opens nothing.
func TestPracticeAtHome(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	e := standings[0].EnrolmentID
	sheet := "/practice/" + e
	page := h.Page(sheet)
	webtest.Says(t, page, "Practice sheet for Ben")
	webtest.Says(t, page, "5 times")
	webtest.Says(t, page, "Why: new at this rung.")
	_, page = h.Send(sheet+"/tick", "technique", h.Technique, "role", "performer")
	webtest.Says(t, page, "✓ practised today")
	_, page = h.Send(sheet+"/tick", "technique", h.Technique, "role", "performer")
	webtest.Says(t, page, "Practised today")
	w := h.Do("POST", sheet+"/link", "who=Greta&days=999")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "must be from 1 to 366")
	w = h.Do("POST", sheet+"/link", "who=Greta&days=30")
	link := regexp.MustCompile(`/family/[0-9a-f]{40}`).FindString(w.Body.String())
	require.NotEmpty(t, link, w.Body.String())
	assert.NotContains(t, h.Page(sheet), link, "it is told once")
	webtest.Says(t, h.Page(sheet), "Greta made 24 Nov 2026, until Thu 24 Dec 2026")

	home := h.Page(link)
	webtest.Says(t, home, "White belt")
	webtest.Says(t, home, "What to practise")
	assert.NotContains(t, home, "Ada ", "nobody else is named")
	assert.NotContains(t, home, webtest.Nasty)
	assert.NotContains(t, webtest.Text(home), "not announced", "no result before it is announced")
	assert.Equal(t, http.StatusNotFound, h.Do("GET", link+"0", "").Code)
	_, home = h.Send(link+"/tick", "technique", h.Technique, "role", "performer")
	webtest.Says(t, home, "✓ practised today")
	for address, told := range map[string]string{"": "begins with https://", "javascript:alert(1)": "begins with https://", "http://clips.example/1": "begins with https://", "https://" + strings.Repeat("x", 400): "up to 300 fit"} {
		w := h.Do("POST", link+"/clip", url.Values{"technique": {h.Technique}, "role": {"performer"}, "address": {address}}.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, address)
		assert.Contains(t, w.Body.String(), told)
	}
	_, home = h.Send(link+"/clip", "technique", h.Technique, "role", "performer", "address", "https://clips.example/1")
	webtest.Says(t, home, "Not answered yet.")
	page = h.Page(sheet)
	webtest.Says(t, page, "Greta (family)")
	clip := regexp.MustCompile(`name="clip" value="([0-9a-f]+)"`).FindStringSubmatch(page)[1]
	assert.Contains(t, h.Do("POST", sheet+"/answer", "clip="+clip).Body.String(), "the one thing to mend")
	h.Send(sheet+"/answer", "clip", clip, "answer", "Good height. Fold the knee sooner.")
	webtest.Says(t, h.Page(link), "owner: Good height. Fold the knee sooner.")
	webtest.Says(t, h.Page(link+"/caller"), "Call")

	// The link of one student does not reach another's climb.
	assert.Equal(t, http.StatusNotFound, h.Do("GET", link+"?climb="+h.Enrolment, "").Code)
	assert.Equal(t, http.StatusNotFound, h.Do("POST", link+"/tick", "climb="+h.Enrolment+"&technique="+h.Technique+"&role=performer").Code)
	id := regexp.MustCompile(`/family-links/([0-9a-f]+)/revoke`).FindStringSubmatch(page)[1]
	h.Send("/family-links/"+id+"/revoke", "enrolment", e)
	w = h.Do("GET", link, "")
	assert.Equal(t, http.StatusNotFound, w.Code)
	assert.Contains(t, w.Body.String(), "This link opens nothing")
	assert.NotContains(t, w.Body.String(), "Ben")
}

// TestChoosingAtHome: a family chooses what is shown on a free-choice line; the desk, the table and the
// paper have it.
func TestChoosingAtHome(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	own, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, curriculum.Technique{ProgramID: h.Program, Name: "Own work", Kind: "combination"})
	require.NoError(t, err)
	_, err = h.Store.SaveTechnique(webtest.Ctx, webtest.Me, curriculum.Technique{ProgramID: h.Program, Name: "Jab", Kind: "strike"})
	require.NoError(t, err)
	_, err = h.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: h.Yellow, SectionID: h.Section, TechniqueID: own.ID, Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 2}, RequirementDetails: curriculum.RequirementDetails{Free: true}}, "", "")
	require.NoError(t, err)
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	sheet := "/practice/" + standings[0].EnrolmentID
	webtest.Says(t, h.Page(sheet), "Choose now what will be shown")
	webtest.Says(t, h.Page(sheet), "The whole test, 2 things")
	w := h.Do("POST", sheet+"/link", "who=Greta&days=30")
	link := regexp.MustCompile(`/family/[0-9a-f]{40}`).FindString(w.Body.String())
	w = h.Do("POST", link+"/choice", url.Values{"technique": {own.ID}, "lines": {"lead jab\nlead jba"}}.Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "line 2, column 6")
	assert.Contains(t, w.Body.String(), "lead jab\nlead jba</textarea>", "what was typed is kept")
	_, home := h.Send(link+"/choice", "technique", own.ID, "lines", "lead jab\nrear jab, lead jab")
	webtest.Says(t, home, "rear Jab, lead Jab it begins with the rear side")
	webtest.Says(t, home, "Choose again")
	webtest.Says(t, h.Page(sheet), "rear Jab, lead Jab it begins with the rear side")
	assert.Contains(t, h.Page(link+"/caller"), "rear Jab, lead Jab")
	assert.Contains(t, h.Do("POST", link+"/choice", url.Values{"technique": {h.Technique}, "lines": {"lead jab"}}.Encode()).Body.String(), "no longer a free choice")
	assert.Equal(t, http.StatusNotFound, h.Do("POST", link+"/choice", "climb="+h.Enrolment+"&technique="+own.ID+"&lines=lead+jab").Code, "another's climb")

	// The table of a grading that is begun now has the list; the paper too.
	d, err := h.Store.SaveGrading(webtest.Ctx, webtest.Me, gradingday.Grading{ProgramID: h.Program, Name: "Own evening", On: h.Store.Today(), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 3, RungIDs: []string{h.Yellow}, Examiners: []gradingday.Examiner{{Name: "Orla", Chief: true}}})
	require.NoError(t, err)
	_, err = h.Store.AddCandidates(webtest.Ctx, webtest.Me, d.ID, []store.Entrant{{EnrolmentID: standings[0].EnrolmentID, Reason: "again"}})
	require.NoError(t, err)
	_, err = h.Store.Begin(webtest.Ctx, webtest.Me, d.ID)
	require.NoError(t, err)
	g, err := h.Store.Grading(webtest.Ctx, d.ID)
	require.NoError(t, err)
	all, err := h.Store.Candidates(webtest.Ctx, d.ID)
	require.NoError(t, err)
	state := h.Page("/scoring/" + g.Examiners[0].ID + "/" + all[0].GroupID + "/state")
	assert.Contains(t, state, `"ticks":{"`+all[0].ID+`":[{"text":"lead Jab"},{"text":"rear Jab, lead Jab","note":"it begins with the rear side"}]}`)
	assert.Contains(t, webtest.Text(h.Page("/papers/"+d.ID+"?show=scoresheets")), "□ lead Jab")
	_, home = h.Send(link+"/choice", "technique", own.ID, "lines", "")
	webtest.Says(t, home, "Choose now what will be shown")
}

// TestARemarkStandsOnceOnThePracticeSheet: of something with a remark and no moves, the remark is told once where it is practised, and once more in
// the list of the whole test.
func TestARemarkStandsOnceOnThePracticeSheet(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	h.Send("/binder/"+h.Yellow, "page", "Sparring\nMillpond round, 2 x 60 s (hands only)\nKicks\nMillpond kick 10 per leg, hold 2 sec")
	page := webtest.Text(h.Page("/practice/" + standings[0].EnrolmentID))
	tasks, whole, found := strings.Cut(page, "The whole test")
	assert.True(t, found)
	assert.Equal(t, []int{1, 1}, []int{strings.Count(tasks, "hold 2 sec"), strings.Count(whole, "hold 2 sec")}, page)
}
