package people_test

import (
	"fmt"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/web/webtest"
)

func TestStudents(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	address, _ := h.Send("/students/new", "name", "Eve Race", "stance", "southpaw", "birth_date", "2016-02-29", "guardian", "Imke Race", "height_cm", "131", "rung", h.White, "since", "2026-05-05")
	id := regexp.MustCompile(`^/students/([0-9a-f]{20})\?done=`).FindStringSubmatch(address)[1]
	page := webtest.Text(h.Page("/students/" + id))
	for _, said := range []string{"10 years · southpaw stance", "Kenpo: White belt since Tue 5 May 2026", "131 cm", "Imke Race", "started here"} {
		assert.Contains(t, page, said)
	}
	_, edited := h.Send("/students/"+id+"/edit", "name", "Eve Race-Lock", "stance", "southpaw", "limits", "left knee")
	assert.Contains(t, webtest.Text(edited), "left knee")
	assert.NotContains(t, webtest.Text(h.Undo(edited)), "left knee")

	standings, err := h.Store.Standings(webtest.Ctx, id)
	require.NoError(t, err)
	correct := "/enrolments/" + standings[0].EnrolmentID + "/correct"
	w := h.Do("POST", correct, webtest.Values("student", id, "rung", h.Yellow, "on", "2026-06-01", "reason", "").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "say why the rank is corrected")
	assert.Contains(t, w.Body.String(), `value="2026-06-01"`)
	_, page = h.Send(correct, "student", id, "rung", h.Yellow, "on", "2026-06-01", "reason", "came with a higher rank")
	assert.Contains(t, webtest.Text(page), "correction: came with a higher rank")
	_, page = h.Send("/enrolments/"+standings[0].EnrolmentID+"/end", "student", id)
	assert.Contains(t, webtest.Text(page), "ended Tue 24 Nov 2026")
	w = h.Do("POST", "/students/"+id+"/enrol", webtest.Values("since", "2031-01-01", "rung", h.White, "program", h.Program).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "lies in the future")
	_, page = h.Send("/students/"+id+"/enrol", "rung", h.White, "since", "")
	assert.Contains(t, webtest.Text(page), "correction: came back")
	_, page = h.Send("/students/" + id + "/delete")
	assert.NotContains(t, page, id)
	assert.Contains(t, h.Undo(page), id)
	assert.Equal(t, http.StatusBadRequest, h.Do("GET", "/students?from=x", "").Code)
	assert.Contains(t, webtest.Text(h.Page("/find?q=eve")), "Eve Race student")
}

// TestAStanceNotYetKnown: sheets keep lead and rear, and the register asks.
func TestAStanceNotYetKnown(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class := h.Evening("Evening")
	x, err := h.Store.Student(webtest.Ctx, h.Student)
	require.NoError(t, err)
	assert.NotContains(t, webtest.Text(h.Page("/register/"+class+"/"+h.Store.Today().String())), "Which foot is in front?")
	x.Stance = ""
	_, err = h.Store.SaveStudent(webtest.Ctx, webtest.Me, x)
	require.NoError(t, err)
	webtest.Says(t, h.Page("/students/"+h.Student), "stance not known yet")
	register := "/register/" + class + "/" + h.Store.Today().String()
	webtest.Says(t, h.Page(register), "Which foot is in front?", "Until it is, their sheets say lead and rear.")
	w := h.Do("POST", "/students/"+h.Student+"/stance", webtest.Values("class", class, "on", h.Store.Today().String()).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	w = h.Do("POST", "/students/"+h.Student+"/stance", webtest.Values("stance", "sideways").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	address, page := h.Send("/students/"+h.Student+"/stance", "stance", "southpaw", "class", class, "on", h.Store.Today().String())
	assert.True(t, strings.HasPrefix(address, register), address)
	assert.NotContains(t, webtest.Text(page), "Which foot is in front?")
	x, err = h.Store.Student(webtest.Ctx, h.Student)
	require.NoError(t, err)
	assert.Equal(t, progress.Southpaw, x.Stance)
}

// TestAStudentsFiguresAtTheirEnds: the least and the most that a student's form takes, and one
// beyond; what is beyond is told, and kept in its field.
func TestAStudentsFiguresAtTheirEnds(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	for field, x := range map[string][2]int{"height_cm": {40, 260}, "weight_kg": {8, 250}, "waist_cm": {30, 200}} {
		for n, code := range map[int]int{x[0] - 1: 422, x[0]: 303, x[1]: 303, x[1] + 1: 422} {
			w := h.Do("POST", "/students/new", webtest.Values("name", fmt.Sprint("Ada ", field, n), field, fmt.Sprint(n), "another", "yes").Encode())
			assert.Equal(t, code, w.Code, "%s %d", field, n)
			if code == 422 {
				assert.Contains(t, w.Body.String(), fmt.Sprintf(`value="%d"`, n))
				assert.Contains(t, webtest.Text(w.Body.String()), fmt.Sprintf("must be from %d to %d", x[0], x[1]))
			}
		}
	}
}

// TestAStudentWhoSeemsToBeHere: one who may be on record already is asked about, with what was typed kept; a tick adds them, and nothing is asked of
// a change or of a stranger.
func TestAStudentWhoSeemsToBeHere(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	address, _ := h.Send("/students/new", "name", "Eve Race", "stance", "southpaw", "birth_date", "2016-02-29")
	address, _, _ = strings.Cut(address, "?")
	w := h.Do("POST", "/students/new", webtest.Values("name", "Eve Rase", "stance", "orthodox", "birth_date", "2016-02-29", "guardian", "Imke Race").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	page := w.Body.String()
	for _, said := range []string{"Is this somebody else?", `href="` + address + `"`, "born Mon 29 Feb 2016 · nearly the same name, born the same day", `value="Imke Race"`, `value="Eve Rase"`} {
		assert.Contains(t, page, said)
	}
	_, total, err := h.Store.Students(webtest.Ctx, "", "eve", 10, 0)
	require.NoError(t, err)
	assert.Equal(t, 1, total)

	form := webtest.FieldsOf(page, `class="sheet-form"`)
	form.Set("another", "yes")
	form.Set("height_cm", "tall")
	w = h.Do("POST", "/students/new", form.Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `name="another" value="yes" checked`, "the tick stays while something else is mended")
	form.Set("height_cm", "131")
	assert.Equal(t, http.StatusSeeOther, h.Do("POST", "/students/new", form.Encode()).Code)
	h.Send(address+"/edit", "name", "Eve Rase", "stance", "southpaw", "birth_date", "2016-02-29")
	h.Send("/students/new", "name", "Mallory Locke", "stance", "", "birth_date", "2016-02-29")
}
