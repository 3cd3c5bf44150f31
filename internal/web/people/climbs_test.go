package people_test

import (
	"net/http"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
	"velvetladder/internal/web/webtest"
)

func TestAStudentsAdaptationTrackAndMerit(t *testing.T) {
	golden.Alone(t)
	h := webtest.NewHouse(t).Furnish()
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	h.Enrolment = standings[0].EnrolmentID
	form := []string{"student", h.Student, "program", h.Program, "does", "excuse", "what", "Kick " + webtest.Nasty, "reason", "hip", "from", "2026-11-01"}
	_, page := h.Send("/enrolments/"+h.Enrolment+"/adapt", form...)
	webtest.Says(t, page, "excused from Kick")
	mine := h.Page("/sheet/" + h.Yellow + "?student=" + h.Student)
	webtest.Says(t, mine, "for Ben Sluice")
	webtest.Says(t, mine, "the draft · 1 adaptation")
	webtest.Says(t, mine, "Excused: hip")
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/sheet/"+h.Yellow+"?student=nobody", "").Code)
	end := regexp.MustCompile(`/adaptations/[0-9a-f]+/end`).FindString(page)
	_, page = h.Send(end, "student", h.Student)
	assert.NotContains(t, page, end)
	assert.Contains(t, h.Undo(page), end)
	for field, x := range map[string][2]string{"what": {"Nothing known", "is no technique of this program"}, "reason": {"", "say why, it stands on the sheet"}, "to": {"2026-10-01", "lies before the first day"}, "amount": {"lots", "not an amount"}} {
		v := webtest.Values(form...)
		v.Set(field, x[0])
		w := h.Do("POST", "/enrolments/"+h.Enrolment+"/adapt", v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		webtest.Says(t, w.Body.String(), x[1], field)
	}
	h.Send("/programs/"+h.Program+"/details", "track_0_name", "Cubs", "track_0_to", "6", "track_1_name", "Adults", "track_1_from", "7")
	b := h.Book()
	_, page = h.Send("/enrolments/"+h.Enrolment+"/track", "student", h.Student, "track", b.Program.Tracks[0].ID)
	webtest.Says(t, page, "Set the track of")
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("POST", "/enrolments/"+h.Enrolment+"/track", "track=none&student="+h.Student).Code)
	w := h.Do("POST", "/enrolments/"+h.Enrolment+"/merit", "reason=x&student="+h.Student)
	assert.Equal(t, http.StatusConflict, w.Code)
	webtest.Says(t, w.Body.String(), "is not provisional")
}

// TestWaiversAndWords: a waiver and a word count at once, stand on record for ever, and can
// be withdrawn.
func TestWaiversAndWords(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Rules("rule_months_since", "24", "rule_word", "1")
	page, enrolment := h.Climber("Wren Lock", "2015-01-01", "2026-01-01")
	id := webtest.Last(page)
	webtest.Says(t, h.Page(page), "◇ from Sat 1 Jan 2028")
	waive := "/enrolments/" + enrolment + "/waive"
	w := h.Do("POST", waive, webtest.Values("student", id, "rule", "months_since", "reason", " ").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "it is shown for ever")
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("POST", waive, webtest.Values("student", id, "rule", "height", "reason", "tall").Encode()).Code)
	_, after := h.Send(waive, "student", id, "rule", "months_since", "reason", "held the rank elsewhere")
	webtest.Says(t, after, "months since the last promotion waived:")
	webtest.Says(t, after, "held the rank elsewhere")
	webtest.Says(t, after, "not known: an instructor who says so is missing")
	assert.Equal(t, http.StatusConflict, h.Do("POST", waive, webtest.Values("student", id, "rule", "months_since", "reason", "again").Encode()).Code)
	w = h.Do("POST", "/enrolments/"+enrolment+"/word", webtest.Values("student", id, "who", "").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	_, after = h.Send("/enrolments/"+enrolment+"/word", "student", id, "who", "R. Castellane")
	webtest.Says(t, after, "◆ may test")
	webtest.Says(t, after, "R. Castellane said: ready")
	given := regexp.MustCompile(`/given/[0-9a-f]+/withdraw`).FindAllString(after, -1)
	require.Len(t, given, 2)
	_, after = h.Send(given[0], "student", id)
	webtest.Says(t, after, "· withdrawn")
	webtest.Says(t, after, "◇ from Sat 1 Jan 2028")
	assert.Equal(t, http.StatusNotFound, h.Do("POST", given[0], "student="+id).Code, "it is withdrawn already")
	ever, err := h.Store.GivenEver(webtest.Ctx, enrolment)
	require.NoError(t, err)
	assert.Equal(t, []bool{true, false}, []bool{ever[0].Withdrawn, ever[1].Withdrawn}, "nothing is overwritten")
}

// TestFormsOfTwoClimbs: a student who climbs two ladders has each form twice; a mistake is
// told in the one it was made in, and every label points to its own field.
func TestFormsOfTwoClimbs(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/programs/new", "name", "Staff")
	programs, err := h.Store.Programs(webtest.Ctx)
	require.NoError(t, err)
	second := programs[slices.IndexFunc(programs, func(p curriculum.Program) bool { return p.Name == "Staff" })].ID
	h.Send("/rungs/new", "program", second, "name", "Plain staff", "kind", "belt", "weave", "plain", "colour", "#ffffff", "mark_count", "0", "position", "0")
	h.Send("/rungs/new", "program", second, "name", "Banded staff", "kind", "belt", "weave", "plain", "colour", "#ffff00", "mark_count", "0", "position", "1")
	staff, err := h.Store.Book(webtest.Ctx, second)
	require.NoError(t, err)
	require.Len(t, staff.Rungs, 2)
	h.Send("/students/"+h.Student+"/enrol", "program", second, "rung", staff.Rungs[0].ID)
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	require.Len(t, standings, 2)
	assert.NotContains(t, h.Page("/students/"+h.Student), `role="alert"`)
	ids := regexp.MustCompile(` id="([^"]*)"`)
	for _, s := range standings {
		for path, typed := range map[string][]string{"correct": {"reason", "so"}, "adapt": {"what", "so", "does", "excuse"}, "word": {"who", ""}, "merit": {"on", "so"}} {
			w := h.Do("POST", "/enrolments/"+s.EnrolmentID+"/"+path, webtest.Values(append(typed, "student", h.Student)...).Encode())
			assert.Equal(t, http.StatusUnprocessableEntity, w.Code, path)
			assert.Contains(t, w.Body.String(), `role="alert">Not saved. `, path)
			seen := map[string]bool{}
			for _, id := range ids.FindAllStringSubmatch(w.Body.String(), -1) {
				assert.False(t, seen[id[1]], "%s: two things are called %s", path, id[1])
				seen[id[1]] = true
			}
			for _, other := range standings {
				_, form, found := strings.Cut(w.Body.String(), `action="/enrolments/`+other.EnrolmentID+"/"+path+`"`)
				form, _, _ = strings.Cut(form, "</form>")
				// A word and a merit stripe are not asked for here: what is wrong is said at the head alone.
				if asked := path == "correct" || path == "adapt"; assert.Equal(t, asked, found, path) && asked {
					assert.Equal(t, other.EnrolmentID == s.EnrolmentID, strings.Contains(form, "<strong>"), "%s is told in its own form", path)
				}
			}
		}
	}
}
