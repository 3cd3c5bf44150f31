package classes_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// TestSignOffsFromTheStudent: something seen on a clip is signed off and taken back on the
// student's page; kit, papers and stripes are kept there too.
func TestSignOffsFromTheStudent(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Rules("rule_section_stripes", "1", "rule_kit", "1", "rule_membership", "1", "rule_character", "1", "stripe", h.Section, "kit", "Gloves")
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	e := standings[0].EnrolmentID
	page := h.Page("/students/" + h.Student)
	webtest.Says(t, page, "? not known the kit for the rung missing: a look at the kit: Gloves")
	webtest.Says(t, page, "◇ not met every section stripe missing: Kicks")
	_, page = h.Send("/enrolments/"+e+"/signoff", "student", h.Student, "technique", h.Technique, "role", "performer", "kind", "shown", "clip", "1")
	webtest.Says(t, page, "shown on a clip, Tue 24 Nov 2026")
	webtest.Says(t, page, "shown on a clip, owner", "and its history")
	webtest.Says(t, page, "Award it")
	webtest.Says(t, h.Page("/stripes"), "Ben Sluice Kicks")
	w := h.Do("POST", "/stripes", "")
	assert.Contains(t, w.Body.String(), "none is chosen")
	_, page = h.Send("/stripes", "stripes", e+" "+h.Section)
	webtest.Says(t, page, "No stripe is due")
	page = h.Page("/students/" + h.Student)
	webtest.Says(t, page, "Kicks ● 24 Nov")
	stripe := regexp.MustCompile(`/stripes/([0-9a-f]+)/withdraw`).FindStringSubmatch(page)
	_, page = h.Send("/stripes/"+stripe[1]+"/withdraw", "student", h.Student)
	webtest.Says(t, page, "taken back")
	last := regexp.MustCompile(`name="supersedes" value="([^"]+)"`).FindStringSubmatch(page)
	_, page = h.Send("/enrolments/"+e+"/signoff", "student", h.Student, "technique", h.Technique, "role", "performer", "kind", "withdrawn", "supersedes", last[1])
	webtest.Says(t, page, "never seen")
	w = h.Do("POST", "/enrolments/"+e+"/signoff", "student="+h.Student+"&technique="+h.Technique+"&role=performer&kind=shown&on=2027-01-01")
	assert.Contains(t, w.Body.String(), "lies in the future")

	_, page = h.Send("/students/"+h.Student+"/evidence", "looked", "1", "owned", "Gloves", "kit", "Long staff", "membership", "2027-03-31", "insurance_ever", "1")
	webtest.Says(t, page, "Has Long staff, Gloves; membership until Wed 31 Mar 2027; insurance for good.")
	webtest.Says(t, page, "◆ met membership valid on the day valid until Wed 31 Mar 2027")
	w = h.Do("POST", "/students/"+h.Student+"/evidence", "membership=31.3.2027")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `value="31.3.2027"`)
	_, page = h.Send("/enrolments/"+e+"/example", "student", h.Student, "example", "lays the table unasked")
	webtest.Says(t, page, "The family: lays the table unasked")
	assert.Contains(t, h.Do("POST", "/enrolments/"+e+"/example", "student="+h.Student).Body.String(), "what the family saw")
	var rules []curriculum.RuleKind
	for _, r := range h.Book().RulesOf(h.Yellow, "") {
		rules = append(rules, r.Kind)
	}
	assert.Equal(t, []curriculum.RuleKind{curriculum.AllStripes, curriculum.KitOwned, curriculum.Membership, curriculum.CharacterTask}, rules)
}

// TestWhatIsSignedOff: what stands on the sheet stands to be signed off in its order, with how it is asked and what it answers.
func TestWhatIsSignedOff(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/binder/"+h.Yellow, "page", "Forms\nReed Path at full speed\nSelf-defence\nReed Bow for a hair pull from behind\nAlder Bow for a push, slowly")
	class := h.Evening("Evening")
	_, err := h.Store.RecordAttendance(webtest.Ctx, webtest.Me, []gradingday.Attendance{
		{ID: store.NewID(), ClassID: class, On: h.Store.Today(), StudentID: h.Student, State: gradingday.Present, Mode: timetable.Hall},
	})
	require.NoError(t, err)
	page := h.Page("/signoffs/" + class + "/" + h.Store.Today().String())
	webtest.Says(t, page, "once, at full speed", "Reed Bow against hair grab, from the rear · Self-defence", "2 a side, slowly")
	order := []int{strings.Index(page, "Reed Path"), strings.Index(page, "Reed Bow"), strings.Index(page, "Alder Bow")}
	assert.IsIncreasing(t, order, "as on the sheet, not by name")
	assert.NotContains(t, page, "part 1<")
}
