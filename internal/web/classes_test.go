package web

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
	"velvetladder/internal/core/timetable"
)

// evening puts a class on the timetable of every Tuesday: the test's clock stands on one.
func (h *house) evening(name string) string {
	h.t.Helper()
	d, err := h.s.SaveClass(bg, me, timetable.Class{Name: name, Kind: "General", Weekday: 2, Start: 18 * 60, Minutes: 60, From: h.s.Today().AddDays(-400), Programs: []string{h.program}})
	require.NoError(h.t, err)
	return d.ID
}

// TestTheWeek: classes are put on, changed, closed and taken off again from their screens, and
// mistakes are told beside what was typed.
func TestTheWeek(t *testing.T) {
	h := newHouse(t).furnish()
	says(t, h.page("/classes"), "No class is on the timetable yet.")
	_, page := h.send("/classes/new", "name", "Evening", "kind", "General", "weekday", "2", "start", "18:30", "minutes", "60", "from", "2026-09-01", "programs", h.program)
	says(t, page, "Added Evening")
	says(t, page, "Today, Tue 24 Nov 2026")
	says(t, page, "18:30–19:30 Evening General · Kenpo")
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
		v := fields(h.page("/classes/" + class + "/edit"))
		v.Set(x.field, x.value)
		w := h.do("POST", "/classes/"+class+"/edit", v.Encode())
		if x.told == "" {
			continue
		}
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, name)
		assert.Contains(t, w.Body.String(), x.told, name)
	}
	_, page = h.send("/classes/new", "name", "Night watch", "kind", "General", "weekday", "2", "start", "23:30", "minutes", "90", "from", "2026-09-01")
	says(t, page, "23:30–01:00 next day Night watch")
	_, page = h.send("/closures/new", "from", "2026-12-22", "to", "2026-12-29", "reason", "Winter")
	says(t, page, "Winter Tue 22 Dec 2026 to Tue 29 Dec 2026")
	says(t, h.page("/classes?on=2026-12-29"), "not held: Winter")
	w := h.do("POST", "/closures/new", "from=2026-12-22&to=2026-12-01&reason=Backwards")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "Backwards", "what was typed is kept")
	assert.Equal(t, http.StatusBadRequest, h.do("GET", "/classes?on=tomorrow", "").Code)
	_, page = h.send("/classes/" + class + "/delete")
	says(t, page, "Deleted Evening")
	assert.NotContains(t, h.page("/classes"), "18:30–19:30")
}

// TestTheRegister: taps come as forms or as entries; each wrong one is told and nothing of it
// kept.
func TestTheRegister(t *testing.T) {
	h := newHouse(t).furnish()
	class := h.evening("Evening")
	path := "/register/" + class + "/2026-11-24"
	page := h.page(path)
	assert.Contains(t, page, "0</strong> here")
	says(t, page, "Ben Sluice")
	standings, err := h.s.Standings(bg, h.student)
	require.NoError(t, err)
	_, page = h.send(path, "tap", h.student, "mode", "live")
	assert.Contains(t, page, "1</strong> here")
	_, page = h.send(path, "tap", h.student)
	assert.Contains(t, page, "0</strong> here", "a second tap takes it back")
	_, page = h.send(path, "visitor", "Vera Trial")
	says(t, page, "on trial Vera Trial")
	w := h.do("POST", path, "visitor=")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "names a visitor")
	for at, told := range map[string]string{
		"/register/" + class + "/2026-12-01": "it lies in the future", "/register/" + class + "/2026-11-23": "it is not held on a Monday",
	} {
		assert.Contains(t, h.do("GET", at, "").Body.String(), told)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, h.do("GET", "/register/"+class+"/yesterday", "").Code)
	assert.Equal(t, http.StatusNotFound, h.do("GET", "/register/none/2026-11-24", "").Code)

	entry := func(id, student, state, on, supersedes string) string {
		return fmt.Sprintf(`{"entries":[{"id":%q,"class":%q,"on":%q,"student":%q,"visitor":"","state":%q,"mode":"hall","make_up":false,"supersedes":%q}]}`, id, class, on, student, state, supersedes)
	}
	post := func(body string) string { return h.do("POST", path+"/entries", body).Body.String() }
	assert.Contains(t, post(entry("tap-one-", h.student, "present", "2026-11-24", "")), `"stored":["tap-one-"]`)
	assert.Contains(t, post(entry("tap-one-", h.student, "present", "2026-11-24", "")), `"stored":["tap-one-"]`)
	assert.Contains(t, post(entry("tap-one-", h.student, "late", "2026-11-24", "")), "nothing of this one")
	assert.Contains(t, post(entry("tap-two-", h.student, "late", "2026-11-24", "")), `"current":{"id":"tap-one-"`)
	assert.Contains(t, post(entry("tap-six-", h.student, "late", "2026-11-17", "")), "another class")
	assert.Contains(t, post(`{"entries":[]}`), "must be 1 to 500")
	assert.Contains(t, post(`{"entries":[{"id":1}]}`), "cannot be read")
	says(t, h.page("/students/"+h.student), "Tue 24 Nov 2026, Evening")

	// The wall takes a number and says no more than a first name.
	s, err := h.s.Student(bg, h.student)
	require.NoError(t, err)
	wall := "/checkin/" + class + "/2026-11-24"
	says(t, h.page(wall), "Welcome. Type your number.")
	typed := func(id, number string) string {
		return h.do("POST", wall, fmt.Sprintf(`{"entries":[{"id":%q,"number":%q}]}`, id, number)).Body.String()
	}
	for range 2 {
		answer := typed("wall-one", fmt.Sprint(s.Number))
		assert.Contains(t, answer, `"stored":["wall-one"]`)
		assert.Contains(t, answer, `"names":{"wall-one":"Ben"}`)
		assert.NotContains(t, answer, "Sluice")
	}
	assert.Contains(t, typed("wall-two", "9999"), "nobody has the number 9999")
	assert.Contains(t, typed("wall-two", "x"), "nobody has the number x")
	assert.Equal(t, http.StatusUnprocessableEntity, h.do("POST", wall, `{"entries":[]}`).Code)

	// What was shown: sign off, not yet, and the class that worked on it.
	shown := "/signoffs/" + class + "/2026-11-24"
	says(t, h.page(shown), "Kick")
	says(t, h.page(shown), "1 student")
	body := fmt.Sprintf(`{"entries":[{"id":"shown-one","enrolment":%q,"technique":%q,"role":"performer","stage":0,"side":"","kind":"shown","fault":"","clip":false,"class":%q,"on":"2026-11-24","supersedes":""}]}`, standings[0].EnrolmentID, h.technique, class)
	assert.Contains(t, h.do("POST", shown+"/entries", body).Body.String(), `"stored":["shown-one"]`)
	assert.Contains(t, h.do("POST", shown+"/entries", strings.Replace(body, `"shown-one"`, `"shown-two"`, 1)+" ").Body.String(), `"stored":["shown-two"]`)
	_, page = h.send(shown+"/taught", "technique", h.technique)
	assert.Contains(t, page, "Noted that the class worked on Kick")
	says(t, page, "worked on")
	assert.Equal(t, http.StatusNotFound, h.do("POST", shown+"/taught", "technique=none").Code)
	says(t, h.page("/signoffs/"+class+"/2026-11-17"), "Nobody is on the register yet.")
	says(t, h.page("/students/"+h.student), "1 of 1")
}

// TestSignOffsFromTheStudent: something seen on a clip is signed off and taken back on the
// student's page; kit, papers and stripes are kept there too.
func TestSignOffsFromTheStudent(t *testing.T) {
	h := newHouse(t).furnish()
	h.rules("rule_section_stripes", "1", "rule_kit", "1", "rule_membership", "1", "rule_character", "1", "stripe", h.section, "kit", "Gloves")
	standings, err := h.s.Standings(bg, h.student)
	require.NoError(t, err)
	e := standings[0].EnrolmentID
	page := h.page("/students/" + h.student)
	says(t, page, "? not known the kit for the rung missing: a look at the kit: Gloves")
	says(t, page, "◇ not met every section stripe missing: Kicks")
	_, page = h.send("/enrolments/"+e+"/signoff", "student", h.student, "technique", h.technique, "role", "performer", "kind", "shown", "clip", "1")
	says(t, page, "shown on a clip, Tue 24 Nov 2026")
	says(t, page, "shown on a clip, owner", "and its history")
	says(t, page, "Award it")
	says(t, h.page("/stripes"), "Ben Sluice Kicks")
	w := h.do("POST", "/stripes", "")
	assert.Contains(t, w.Body.String(), "none is chosen")
	_, page = h.send("/stripes", "stripes", e+" "+h.section)
	says(t, page, "No stripe is due")
	page = h.page("/students/" + h.student)
	says(t, page, "Kicks ● 24 Nov")
	stripe := regexp.MustCompile(`/stripes/([0-9a-f]+)/withdraw`).FindStringSubmatch(page)
	_, page = h.send("/stripes/"+stripe[1]+"/withdraw", "student", h.student)
	says(t, page, "taken back")
	last := regexp.MustCompile(`name="supersedes" value="([^"]+)"`).FindStringSubmatch(page)
	_, page = h.send("/enrolments/"+e+"/signoff", "student", h.student, "technique", h.technique, "role", "performer", "kind", "withdrawn", "supersedes", last[1])
	says(t, page, "never seen")
	w = h.do("POST", "/enrolments/"+e+"/signoff", "student="+h.student+"&technique="+h.technique+"&role=performer&kind=shown&on=2027-01-01")
	assert.Contains(t, w.Body.String(), "lies in the future")

	_, page = h.send("/students/"+h.student+"/evidence", "looked", "1", "owned", "Gloves", "kit", "Long staff", "membership", "2027-03-31", "insurance_ever", "1")
	says(t, page, "Has Long staff, Gloves; membership until Wed 31 Mar 2027; insurance for good.")
	says(t, page, "◆ met membership valid on the day valid until Wed 31 Mar 2027")
	w = h.do("POST", "/students/"+h.student+"/evidence", "membership=31.3.2027")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `value="31.3.2027"`)
	_, page = h.send("/enrolments/"+e+"/example", "student", h.student, "example", "lays the table unasked")
	says(t, page, "The family: lays the table unasked")
	assert.Contains(t, h.do("POST", "/enrolments/"+e+"/example", "student="+h.student).Body.String(), "what the family saw")
	var rules []curriculum.RuleKind
	for _, r := range h.book().RulesOf(h.yellow, "") {
		rules = append(rules, r.Kind)
	}
	assert.Equal(t, []curriculum.RuleKind{curriculum.AllStripes, curriculum.KitOwned, curriculum.Membership, curriculum.CharacterTask}, rules)
}

// TestAttendanceFromAFile: good rows go in, wrong ones are told with row and reason, and what
// was saved comes in again without doubling.
func TestAttendanceFromAFile(t *testing.T) {
	h := newHouse(t).furnish()
	h.evening("Evening")
	var text strings.Builder
	text.WriteString("name,date,class,state,mode,start,make_up\n")
	for i := range 40 {
		fmt.Fprintf(&text, "Ben Sluice,%s,evening,%s,,,\n", h.s.Today().AddDays(-7*i), []string{"", "late"}[i%2])
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
		w := h.do("POST", "/attendance/import", v.Encode())
		return w.Code, w.Body.String()
	}
	code, page := send()
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	says(t, page, "40 rows can be entered")
	for _, told := range []string{"“Nobody Here” is not on record", "Evening is not held on Mon 23 Nov 2026", "lies in the future", "YYYY-MM-DD", "is not on the timetable", "must be one of present, late", "must be one of hall, live, recorded", "write it as 18:30", "name the student who came", "is not yes or no"} {
		says(t, page, strings.NewReplacer("“", "&#34;", "”", "&#34;").Replace(told))
	}
	says(t, page, "42 Nobody Here")
	count := func() int {
		all, err := h.s.AllAttendance(bg)
		require.NoError(t, err)
		return len(all)
	}
	assert.Equal(t, 0, count(), "looking writes nothing")
	_, page = send("add", "1")
	says(t, page, "40 rows entered")
	assert.Equal(t, 40, count())
	saved := h.do("GET", "/attendance/export.csv", "").Body.String()
	assert.Equal(t, 41, strings.Count(saved, "\n"))
	text.Reset()
	text.WriteString(saved)
	_, page = send("add", "1")
	says(t, page, "40 rows entered")
	assert.Equal(t, 40, count(), "what was saved comes in once")
	text.Reset()
	text.WriteString("name,date,class,state\nBen Sluice,2026-11-24,Evening,late\n")
	_, page = send()
	says(t, page, "this student is on record for that class already, as present")
	text.Reset()
	text.WriteString("who,when\n")
	code, page = send()
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	says(t, page, "column 1 is called")
}
