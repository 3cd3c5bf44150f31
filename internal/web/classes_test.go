package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/web/webtest"
)

// TestTheWeek: classes are put on, changed, closed and taken off again from their screens, and
// mistakes are told beside what was typed.
func TestTheWeek(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	webtest.Says(t, h.Page("/classes"), "No class is on the timetable yet.")
	_, page := h.Send("/classes/new", "name", "Evening", "kind", "General", "weekday", "2", "start", "18:30", "minutes", "60", "from", "2026-09-01", "programs", h.Program)
	webtest.Says(t, page, "Added Evening")
	webtest.Says(t, page, "Today, Tue 24 Nov 2026")
	webtest.Says(t, page, "18:30–19:30 Evening General · Kenpo")
	class := regexp.MustCompile(`/classes/([0-9a-f]+)/edit`).FindStringSubmatch(page)[1]
	for name, x := range map[string]struct{ field, value, told string }{
		"no name":       {"name", "", "is empty"},
		"no time":       {"start", "at six", "write it as 18:30"},
		"too long":      {"minutes", "900", "must be from 5 to 720"},
		"no day":        {"weekday", "9", "must be from 1 to 7"},
		"ends first":    {"to", "2026-08-01", "is before"},
		"never held":    {"to", "2026-09-01", ""},
		"no first day":  {"from", "", "write the first day"},
		"broken day":    {"from", "1.9.2026", "YYYY-MM-DD"},
		"a long place":  {"place", strings.Repeat("x", 200), "up to 80 fit"},
		"no kind at al": {"kind", " ", "is empty"},
	} {
		v := webtest.Fields(h.Page("/classes/" + class + "/edit"))
		v.Set(x.field, x.value)
		w := h.Do("POST", "/classes/"+class+"/edit", v.Encode())
		if x.told == "" {
			continue
		}
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, name)
		assert.Contains(t, w.Body.String(), x.told, name)
	}
	_, page = h.Send("/classes/new", "name", "Night watch", "kind", "General", "weekday", "2", "start", "23:30", "minutes", "90", "from", "2026-09-01")
	webtest.Says(t, page, "23:30–01:00 next day Night watch")
	_, page = h.Send("/closures/new", "from", "2026-12-22", "to", "2026-12-29", "reason", "Winter")
	webtest.Says(t, page, "Winter Tue 22 Dec 2026 to Tue 29 Dec 2026")
	webtest.Says(t, h.Page("/classes?on=2026-12-29"), "not held: Winter")
	w := h.Do("POST", "/closures/new", "from=2026-12-22&to=2026-12-01&reason=Backwards")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "Backwards", "what was typed is kept")
	assert.Equal(t, http.StatusBadRequest, h.Do("GET", "/classes?on=tomorrow", "").Code)
	_, page = h.Send("/classes/" + class + "/delete")
	webtest.Says(t, page, "Deleted Evening")
	assert.NotContains(t, h.Page("/classes"), "18:30–19:30")
}

// TestTheRegister: taps come as forms or as entries; each wrong one is told and nothing of it
// kept.
func TestTheRegister(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class := h.Evening("Evening")
	path := "/register/" + class + "/2026-11-24"
	page := h.Page(path)
	assert.Contains(t, page, "0</strong> here")
	webtest.Says(t, page, "Ben Sluice")
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	_, page = h.Send(path, "tap", h.Student, "mode", "live")
	assert.Contains(t, page, "1</strong> here")
	_, page = h.Send(path, "tap", h.Student)
	assert.Contains(t, page, "0</strong> here", "a second tap takes it back")
	_, page = h.Send(path, "visitor", "Vera Trial")
	webtest.Says(t, page, "on trial Vera Trial")
	w := h.Do("POST", path, "visitor=")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "names a visitor")
	for at, told := range map[string]string{
		"/register/" + class + "/2026-12-01": "it lies in the future", "/register/" + class + "/2026-11-23": "it is not held on a Monday",
	} {
		assert.Contains(t, h.Do("GET", at, "").Body.String(), told)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("GET", "/register/"+class+"/yesterday", "").Code)
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/register/none/2026-11-24", "").Code)

	entry := func(id, student, state, on, supersedes string) string {
		return fmt.Sprintf(`{"entries":[{"id":%q,"class":%q,"on":%q,"student":%q,"visitor":"","state":%q,"mode":"hall","make_up":false,"supersedes":%q}]}`, id, class, on, student, state, supersedes)
	}
	post := func(body string) string { return h.Do("POST", path+"/entries", body).Body.String() }
	assert.Contains(t, post(entry("tap-one-", h.Student, "present", "2026-11-24", "")), `"stored":["tap-one-"]`)
	assert.Contains(t, post(entry("tap-one-", h.Student, "present", "2026-11-24", "")), `"stored":["tap-one-"]`)
	assert.Contains(t, post(entry("tap-one-", h.Student, "late", "2026-11-24", "")), "nothing of this one")
	assert.Contains(t, post(entry("tap-two-", h.Student, "late", "2026-11-24", "")), `"current":{"id":"tap-one-"`)
	assert.Contains(t, post(entry("tap-six-", h.Student, "late", "2026-11-17", "")), "another class")
	assert.Contains(t, post(`{"entries":[]}`), "must be 1 to 500")
	assert.Contains(t, post(`{"entries":[{"id":1}]}`), "cannot be read")
	webtest.Says(t, h.Page("/students/"+h.Student), "Tue 24 Nov 2026, Evening")

	// The wall takes a number and says no more than a first name.
	s, err := h.Store.Student(webtest.Ctx, h.Student)
	require.NoError(t, err)
	wall := "/checkin/" + class + "/2026-11-24"
	webtest.Says(t, h.Page(wall), "Welcome. Type your number.")
	typed := func(id, number string) string {
		return h.Do("POST", wall, fmt.Sprintf(`{"entries":[{"id":%q,"number":%q}]}`, id, number)).Body.String()
	}
	for range 2 {
		answer := typed("wall-one", fmt.Sprint(s.Number))
		assert.Contains(t, answer, `"stored":["wall-one"]`)
		assert.Contains(t, answer, `"names":{"wall-one":"Ben"}`)
		assert.NotContains(t, answer, "Sluice")
	}
	assert.Contains(t, typed("wall-two", "9999"), "nobody has the number 9999")
	assert.Contains(t, typed("wall-two", "x"), "nobody has the number x")
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("POST", wall, `{"entries":[]}`).Code)

	// What was shown: sign off, not yet, and the class that worked on it.
	shown := "/signoffs/" + class + "/2026-11-24"
	webtest.Says(t, h.Page(shown), "Kick")
	webtest.Says(t, h.Page(shown), "1 student")
	body := fmt.Sprintf(`{"entries":[{"id":"shown-one","enrolment":%q,"technique":%q,"role":"performer","stage":0,"side":"","kind":"shown","fault":"","clip":false,"class":%q,"on":"2026-11-24","supersedes":""}]}`, standings[0].EnrolmentID, h.Technique, class)
	assert.Contains(t, h.Do("POST", shown+"/entries", body).Body.String(), `"stored":["shown-one"]`)
	assert.Contains(t, h.Do("POST", shown+"/entries", strings.Replace(body, `"shown-one"`, `"shown-two"`, 1)+" ").Body.String(), `"stored":["shown-two"]`)
	_, page = h.Send(shown+"/taught", "technique", h.Technique)
	assert.Contains(t, page, "Noted that the class worked on Kick")
	webtest.Says(t, page, "worked on")
	assert.Equal(t, http.StatusNotFound, h.Do("POST", shown+"/taught", "technique=none").Code)
	webtest.Says(t, h.Page("/signoffs/"+class+"/2026-11-17"), "Nobody is on the register yet.")
	webtest.Says(t, h.Page("/students/"+h.Student), "1 of 1")
}

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

// TestAttendanceFromAFile: good rows go in, wrong ones are told with row and reason, and what
// was saved comes in again without doubling.
func TestAttendanceFromAFile(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Evening("Evening")
	var text strings.Builder
	text.WriteString("name,date,class,state,mode,start,make_up\n")
	for i := range 40 {
		fmt.Fprintf(&text, "Ben Sluice,%s,evening,%s,,,\n", h.Store.Today().AddDays(-7*i), []string{"", "late"}[i%2])
	}
	wrong := []string{
		"Nobody Here,2026-11-24,Evening,,,,", "Ben Sluice,2026-11-23,Evening,,,,", "Ben Sluice,2027-01-05,Evening,,,,", "Ben Sluice,24.11.2026,Evening,,,,",
		"Ben Sluice,2026-11-24,Morning,,,,", "Ben Sluice,2026-11-24,Evening,asleep,,,", "Ben Sluice,2026-11-24,Evening,,telepathy,,", "Ben Sluice,2026-11-24,Evening,,,at six,", ",2026-11-24,Evening,,,,", "Ben Sluice,2026-11-24,Evening,,,,perhaps",
	}
	text.WriteString(strings.Join(wrong, "\n"))
	send := func(pairs ...string) (int, string) {
		v := url.Values{"text": {text.String()}}
		for i := 0; i+1 < len(pairs); i += 2 {
			v.Set(pairs[i], pairs[i+1])
		}
		w := h.Do("POST", "/attendance/import", v.Encode())
		return w.Code, w.Body.String()
	}
	code, page := send()
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	webtest.Says(t, page, "40 rows can be entered")
	for _, told := range []string{"“Nobody Here” is not on record", "Evening is not held on Mon 23 Nov 2026", "lies in the future", "YYYY-MM-DD", "is not on the timetable", "must be one of present, late", "must be one of hall, live, recorded", "write it as 18:30", "name the student who came", "is not yes or no"} {
		webtest.Says(t, page, strings.NewReplacer("“", "&#34;", "”", "&#34;").Replace(told))
	}
	webtest.Says(t, page, "42 Nobody Here")
	count := func() int {
		all, err := h.Store.AllAttendance(webtest.Ctx)
		require.NoError(t, err)
		return len(all)
	}
	assert.Equal(t, 0, count(), "looking writes nothing")
	_, page = send("add", "1")
	webtest.Says(t, page, "40 rows entered")
	assert.Equal(t, 40, count())
	saved := h.Do("GET", "/attendance/export.csv", "").Body.String()
	assert.Equal(t, 41, strings.Count(saved, "\n"))
	text.Reset()
	text.WriteString(saved)
	_, page = send("add", "1")
	webtest.Says(t, page, "40 rows entered")
	assert.Equal(t, 40, count(), "what was saved comes in once")
	text.Reset()
	text.WriteString("name,date,class,state\nBen Sluice,2026-11-24,Evening,late\n")
	_, page = send()
	webtest.Says(t, page, "this student is on record for that class already, as present")
	text.Reset()
	text.WriteString("who,when\n")
	code, page = send()
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	webtest.Says(t, page, "column 1 is called")
}
