package classes_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

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
