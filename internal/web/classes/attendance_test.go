package classes_test

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/web/webtest"
)

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
