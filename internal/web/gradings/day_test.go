package gradings_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

func TestTheDayIsPlannedOnThePage(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	id := h.Coming()
	v := h.Visitor()
	page := v.Do("GET", "/day/"+id, "").Body.String()
	assert.Contains(t, page, "Plan the day")
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id, webtest.DayForm.Encode()).Code)
	page = v.Do("GET", "/day/"+id, "").Body.String()
	for _, said := range []string{"no plan can end before", "is full until", "What if", "The rank of Examiner 0 is not on record"} {
		assert.Contains(t, page, said)
	}
	assert.NotContains(t, page, "<script>alert", "escaped, in the picture too")
	group := regexp.MustCompile(`id="g-([0-9a-f]{20})"`).FindStringSubmatch(page)[1]
	for _, do := range []string{"later", "earlier", "pin", "unpin"} {
		w := v.Do("POST", "/day/"+id+"/move", url.Values{"group": {group}, "do": {do}}.Encode())
		require.Equal(t, http.StatusSeeOther, w.Code, do)
		assert.True(t, strings.Contains(w.Header().Get("Location"), "?group="+group), "back to the group")
	}
	ring := regexp.MustCompile(`name="do" value="([0-9a-f]{20})"`).FindStringSubmatch(page)[1]
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id+"/move", url.Values{"group": {group}, "do": {ring}, "at": {"600"}}.Encode()).Code)
	for _, what := range regexp.MustCompile(`href="\?if=([^#"]+)`).FindAllStringSubmatch(page, -1) {
		page := v.Do("GET", "/day/"+id+"?if="+what[1], "").Body.String()
		assert.Contains(t, page, "Nothing is changed.", what[1])
	}
	assert.Equal(t, http.StatusNotFound, v.Do("GET", "/day/"+id+"?if=rain", "").Code)
	// Whom nobody may examine is said, and why, ring by ring.
	for _, name := range []string{"Examiner 0", "Examiner 4"} {
		_, err := h.Store.SaveOfficer(webtest.Ctx, webtest.Me, store.Officer{Name: name, Holds: map[string]string{h.Program: h.White}})
		require.NoError(t, err)
	}
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id, webtest.DayForm.Encode()).Code)
	page = v.Do("GET", "/day/"+id, "").Body.String()
	assert.Contains(t, page, "The day cannot run like this")
	assert.Contains(t, page, "is not tested: nobody may examine it: Ring A: Examiner 0 holds White belt")
	assert.Contains(t, page, "Ring B: Examiner 4 holds White belt")
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id+"/groups", "").Code)
	assert.Contains(t, v.Do("GET", "/day/"+id, "").Body.String(), "Plan the day")
}

// BenchmarkBeforeTheDay measures the pages of a grading with 200 candidates, 5 rings and 15 examiners.
func BenchmarkBeforeTheDay(b *testing.B) {
	h := webtest.HouseOf(b, &webtest.Empty).Furnish()
	var all []store.NewStudent
	for i := range 200 {
		all = append(all, store.NewStudent{Student: progress.Student{Name: fmt.Sprintf("Student %03d", i), Stance: progress.Orthodox, HeightCM: 110 + i%70, WeightKG: 20 + i%50, BirthDate: clockDay(-3000 - 20*i)}, Starts: []store.Start{{RungID: h.White, Since: clockDay(-300)}}})
	}
	_, err := h.Store.AddStudents(webtest.Ctx, webtest.Me, all)
	require.NoError(b, err)
	for _, kind := range []curriculum.Kind{"fitness", "sparring"} {
		_, err = h.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: h.Yellow, SectionID: h.Section, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.Timed, Seconds: 120}, Weight: 1}, "Item of "+string(kind), kind)
		require.NoError(b, err)
	}
	g := gradingday.Grading{ProgramID: h.Program, Name: "Large", On: h.Store.Today().AddDays(9), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 3, RungIDs: []string{h.Yellow}}
	for k := range 15 {
		g.Rings = append(g.Rings, gradingday.Ring{})[:min(k+1, 5)]
		g.Examiners = append(g.Examiners, gradingday.Examiner{Name: fmt.Sprint("Examiner ", k), Ring: k / 3})
	}
	d, err := h.Store.SaveGrading(webtest.Ctx, webtest.Me, g)
	require.NoError(b, err)
	may, err := h.Store.Eligible(webtest.Ctx, d.ID)
	require.NoError(b, err)
	var entrants []store.Entrant
	for _, e := range may {
		entrants = append(entrants, store.Entrant{EnrolmentID: e.EnrolmentID})
	}
	_, err = h.Store.AddCandidates(webtest.Ctx, webtest.Me, d.ID, entrants)
	require.NoError(b, err)
	rules := gradingday.UsualDay
	rules.Close = 1440
	_, err = h.Store.MakeDayPlan(webtest.Ctx, webtest.Me, d.ID, rules)
	require.NoError(b, err)
	_, err = h.Store.MakePairs(webtest.Ctx, webtest.Me, d.ID, gradingday.UsualPairs)
	require.NoError(b, err)
	for _, page := range []string{"/day/", "/checklist/", "/pairs/", "/lineup/", "/belts/", "/papers/"} {
		b.Run(strings.Trim(page, "/"), func(b *testing.B) {
			for b.Loop() {
				r := httptest.NewRequest("GET", page+d.ID, nil)
				w := httptest.NewRecorder()
				h.ServeHTTP(w, r)
				require.Equal(b, http.StatusOK, w.Code)
			}
		})
	}
	b.Run("plan", func(b *testing.B) {
		for b.Loop() {
			_, err := h.Store.MakeDayPlan(webtest.Ctx, webtest.Me, d.ID, rules)
			require.NoError(b, err)
		}
	})
	b.Run("move", func(b *testing.B) {
		plan, err := h.Store.DayPlan(webtest.Ctx, d.ID)
		require.NoError(b, err)
		for b.Loop() {
			_, err := h.Store.MoveInPlan(webtest.Ctx, webtest.Me, d.ID, store.PlanMove{Group: plan.Day.Groups[3].ID, By: 1})
			require.NoError(b, err)
		}
	})
}

func clockDay(days int) civil.Date { return civil.On(webtest.Clock()).AddDays(days) }
