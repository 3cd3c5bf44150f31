package web

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
)

// TestPracticeAtHome: the sheet says what to do in plain words; a link shows it to the family,
// who tick and send clips, and nothing of anybody else; ended, it opens nothing.
func TestPracticeAtHome(t *testing.T) {
	h := newHouse(t).furnish()
	standings, err := h.s.Standings(bg, h.student)
	require.NoError(t, err)
	e := standings[0].EnrolmentID
	sheet := "/practice/" + e
	page := h.page(sheet)
	says(t, page, "Practice sheet for Ben")
	says(t, page, "5 times")
	says(t, page, "Why: new at this rung.")
	_, page = h.send(sheet+"/tick", "technique", h.technique, "role", "performer")
	says(t, page, "✓ practised today")
	_, page = h.send(sheet+"/tick", "technique", h.technique, "role", "performer")
	says(t, page, "Practised today")
	w := h.do("POST", sheet+"/link", "who=Greta&days=999")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "must be from 1 to 366")
	w = h.do("POST", sheet+"/link", "who=Greta&days=30")
	link := regexp.MustCompile(`/family/[0-9a-f]{40}`).FindString(w.Body.String())
	require.NotEmpty(t, link, w.Body.String())
	assert.NotContains(t, h.page(sheet), link, "it is told once")
	says(t, h.page(sheet), "Greta made 24 Nov 2026, until Thu 24 Dec 2026")

	home := h.page(link)
	says(t, home, "White belt")
	says(t, home, "What to practise")
	assert.NotContains(t, home, "Ada ", "nobody else is named")
	assert.NotContains(t, home, nasty)
	assert.NotContains(t, text(home), "not announced", "no result before it is announced")
	assert.Equal(t, http.StatusNotFound, h.do("GET", link+"0", "").Code)
	_, home = h.send(link+"/tick", "technique", h.technique, "role", "performer")
	says(t, home, "✓ practised today")
	for address, told := range map[string]string{"": "begins with https://", "javascript:alert(1)": "begins with https://", "http://clips.example/1": "begins with https://", "https://" + strings.Repeat("x", 400): "up to 300 fit"} {
		w := h.do("POST", link+"/clip", url.Values{"technique": {h.technique}, "role": {"performer"}, "address": {address}}.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, address)
		assert.Contains(t, w.Body.String(), told)
	}
	_, home = h.send(link+"/clip", "technique", h.technique, "role", "performer", "address", "https://clips.example/1")
	says(t, home, "Not answered yet.")
	page = h.page(sheet)
	says(t, page, "Greta (family)")
	clip := regexp.MustCompile(`name="clip" value="([0-9a-f]+)"`).FindStringSubmatch(page)[1]
	assert.Contains(t, h.do("POST", sheet+"/answer", "clip="+clip).Body.String(), "the one thing to mend")
	h.send(sheet+"/answer", "clip", clip, "answer", "Good height. Fold the knee sooner.")
	says(t, h.page(link), "owner: Good height. Fold the knee sooner.")
	says(t, h.page(link+"/caller"), "Call")

	// The link of one student does not reach another's climb.
	assert.Equal(t, http.StatusNotFound, h.do("GET", link+"?climb="+h.enrolment, "").Code)
	assert.Equal(t, http.StatusNotFound, h.do("POST", link+"/tick", "climb="+h.enrolment+"&technique="+h.technique+"&role=performer").Code)
	id := regexp.MustCompile(`/family-links/([0-9a-f]+)/revoke`).FindStringSubmatch(page)[1]
	h.send("/family-links/"+id+"/revoke", "enrolment", e)
	w = h.do("GET", link, "")
	assert.Equal(t, http.StatusNotFound, w.Code)
	assert.Contains(t, w.Body.String(), "This link opens nothing")
	assert.NotContains(t, w.Body.String(), "Ben")
}

// TestCallerAndCombinations: a rung is called as it stands; combinations are counted, filtered,
// drawn, and what was called is drawn last.
func TestCallerAndCombinations(t *testing.T) {
	h, _ := mill(t)
	page := h.page("/ladder")
	rungs := regexp.MustCompile(`/ladder/([0-9a-z]+)" class="whole[^>]*title="Orange belt`).FindStringSubmatch(page)
	require.NotNil(t, rungs)
	caller := h.page("/caller/" + rungs[1] + "?stance=southpaw&reps=10")
	assert.Contains(t, caller, "&#34;reps&#34;:10")
	assert.Contains(t, caller, "right foot forward")
	assert.Contains(t, caller, "Mill Wheel")
	assert.Equal(t, http.StatusBadRequest, h.do("GET", "/caller/"+rungs[1]+"?reps=lots", "").Code)
	assert.Equal(t, http.StatusNotFound, h.do("GET", "/caller/none", "").Code)

	page = h.page("/combinations?rung=" + rungs[1])
	says(t, page, "8 × 8 × 8 = 512")
	says(t, page, "Useful by the rules switched on:")
	some := "/combinations?rung=" + rungs[1] + "&k=2&directions=2&piece=lead+jab&piece=rear+cross&no_twice=1"
	page = h.page(some)
	says(t, page, "2 × 2 × 2 directions = 8")
	says(t, page, "Useful by the rules switched on: 4")
	says(t, page, "lead jab, rear cross")
	w := h.do("GET", some+"&directions=99", "")
	assert.Equal(t, http.StatusOK, w.Code, "the first of two counts")
	assert.Equal(t, http.StatusUnprocessableEntity, h.do("GET", "/combinations?k=many", "").Code)
	w = h.do("POST", "/combinations/drill", url.Values{"rung": {rungs[1]}, "line": {"lead jab, rear cross"}}.Encode())
	assert.True(t, strings.HasPrefix(w.Header().Get("Location"), "/caller/"+rungs[1]+"?line=lead+jab"), w.Header().Get("Location"))
	assert.Contains(t, h.page(w.Header().Get("Location")), "lead jab, rear cross")
	for seed := range 4 {
		says(t, h.page(some+"&draw="+string(rune('1'+seed))), "rear cross, lead jab never called yet")
	}
	assert.Equal(t, http.StatusUnprocessableEntity, h.do("POST", "/combinations/drill", "rung="+rungs[1]+"&line=").Code)
}

// TestChoosingAtHome: a family chooses what is shown on a free-choice line; the desk, the table and the
// paper have it.
func TestChoosingAtHome(t *testing.T) {
	h := newHouse(t).furnish()
	own, err := h.s.SaveTechnique(bg, me, curriculum.Technique{ProgramID: h.program, Name: "Own work", Kind: "combination"})
	require.NoError(t, err)
	_, err = h.s.SaveTechnique(bg, me, curriculum.Technique{ProgramID: h.program, Name: "Jab", Kind: "strike"})
	require.NoError(t, err)
	_, err = h.s.SaveRequirement(bg, me, curriculum.Requirement{RungID: h.yellow, SectionID: h.section, TechniqueID: own.ID, Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 2}, RequirementDetails: curriculum.RequirementDetails{Free: true}}, "", "")
	require.NoError(t, err)
	standings, err := h.s.Standings(bg, h.student)
	require.NoError(t, err)
	sheet := "/practice/" + standings[0].EnrolmentID
	says(t, h.page(sheet), "Choose now what will be shown")
	says(t, h.page(sheet), "The whole test, 2 things")
	w := h.do("POST", sheet+"/link", "who=Greta&days=30")
	link := regexp.MustCompile(`/family/[0-9a-f]{40}`).FindString(w.Body.String())
	w = h.do("POST", link+"/choice", url.Values{"technique": {own.ID}, "lines": {"lead jab\nlead jba"}}.Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "line 2, column 6")
	assert.Contains(t, w.Body.String(), "lead jab\nlead jba</textarea>", "what was typed is kept")
	_, home := h.send(link+"/choice", "technique", own.ID, "lines", "lead jab\nrear jab, lead jab")
	says(t, home, "rear Jab, lead Jab it begins with the rear side")
	says(t, home, "Choose again")
	says(t, h.page(sheet), "rear Jab, lead Jab it begins with the rear side")
	assert.Contains(t, h.page(link+"/caller"), "rear Jab, lead Jab")
	assert.Contains(t, h.do("POST", link+"/choice", url.Values{"technique": {h.technique}, "lines": {"lead jab"}}.Encode()).Body.String(), "no longer a free choice")
	assert.Equal(t, http.StatusNotFound, h.do("POST", link+"/choice", "climb="+h.enrolment+"&technique="+own.ID+"&lines=lead+jab").Code, "another's climb")

	// The table of a grading that is begun now has the list; the paper too.
	d, err := h.s.SaveGrading(bg, me, gradingday.Grading{ProgramID: h.program, Name: "Own evening", On: h.s.Today(), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 3, RungIDs: []string{h.yellow}, Examiners: []gradingday.Examiner{{Name: "Orla", Chief: true}}})
	require.NoError(t, err)
	_, err = h.s.AddCandidates(bg, me, d.ID, []store.Entrant{{EnrolmentID: standings[0].EnrolmentID, Reason: "again"}})
	require.NoError(t, err)
	_, err = h.s.Begin(bg, me, d.ID)
	require.NoError(t, err)
	g, err := h.s.Grading(bg, d.ID)
	require.NoError(t, err)
	all, err := h.s.Candidates(bg, d.ID)
	require.NoError(t, err)
	state := h.page("/scoring/" + g.Examiners[0].ID + "/" + all[0].GroupID + "/state")
	assert.Contains(t, state, `"ticks":{"`+all[0].ID+`":[{"text":"lead Jab"},{"text":"rear Jab, lead Jab","note":"it begins with the rear side"}]}`)
	assert.Contains(t, text(h.page("/papers/"+d.ID+"?show=scoresheets")), "□ lead Jab")
	_, home = h.send(link+"/choice", "technique", own.ID, "lines", "")
	says(t, home, "Choose now what will be shown")
}
