package classes_test

import (
	"fmt"
	"net/http"
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
		"Nobody Here,2026-11-24,Evening,,,,", "Ben Sluice,2026-11-23,Evening,,,,", "Ben Sluice,2027-01-05,Evening,,,,", "Ben Sluice,32.11.2026,Evening,,,,",
		"Ben Sluice,2026-11-24,Morning,,,,", "Ben Sluice,2026-11-24,Evening,asleep,,,", "Ben Sluice,2026-11-24,Evening,,telepathy,,", "Ben Sluice,2026-11-24,Evening,,,at six,", ",2026-11-24,Evening,,,,", "Ben Sluice,2026-11-24,Evening,,,,perhaps",
	}
	text.WriteString(strings.Join(wrong, "\n"))
	here := ""
	look := func() (int, string) {
		at, w := h.Table("/attendance/import", text.String())
		here = at
		return w.Code, w.Body.String()
	}
	code, page := look()
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	webtest.Says(t, page, "40 rows to enter · 10 rows to correct")
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
	assert.Equal(t, 11, strings.Count(h.Do("GET", here+"/refused.csv", "").Body.String(), "\n"))
	_, page = h.Send(here, "add", "1")
	webtest.Says(t, page, "Entered 40 attendances out of a file")
	assert.Equal(t, 40, count())
	saved := h.Do("GET", "/attendance/export.csv", "").Body.String()
	assert.Equal(t, 41, strings.Count(saved, "\n"))
	text.Reset()
	text.WriteString(saved)
	look()
	_, again := h.Send(here, "add", "1")
	webtest.Says(t, again, "Entered 0 attendances out of a file")
	assert.Equal(t, 40, count(), "what was saved comes in once")
	text.Reset()
	text.WriteString("name,date,class,state\nBen Sluice,2026-11-24,Evening,late\n")
	_, looked := look()
	webtest.Says(t, looked, "this student is on record for that class already, as present")
	h.Undo(page)
	assert.Equal(t, 0, count(), "taken back as a whole")
	text.Reset()
	text.WriteString("who,when,what\nBen Sluice,3/11/2026,Evening\n")
	code, looked = look()
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	webtest.Says(t, looked, "no column is the name")
	_, looked = h.Send(here, "column_0", "name", "column_1", "date", "column_2", "class", "days", "day")
	webtest.Says(t, looked, "1 row to enter")
	assert.Equal(t, "/attendance/import?why=file-gone", h.Do("GET", "/attendance/import/gone", "").Header().Get("Location"))
}
