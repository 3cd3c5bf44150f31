package curriculum_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
	"velvetladder/internal/web/webtest"
)

// TestCurriculaAsFiles: what is saved can be read in here and elsewhere, is the same again,
// and nothing of a broken file is kept.
func TestCurriculaAsFiles(t *testing.T) {
	golden.Alone(t)
	h, _ := webtest.Mill(t)
	saved := h.Do("GET", "/files/curriculum.json?program="+h.Program, "")
	assert.Contains(t, saved.Header().Get("Content-Disposition"), "Kenpo%20curriculum.json")
	file := saved.Body.String()
	other := webtest.NewHouse(t)
	w := other.Upload("/files/curriculum", file)
	assert.Equal(t, http.StatusOK, w.Code)
	webtest.Says(t, w.Body.String(), "It is a program that is not here yet. Its ladder check has 2 open findings.")
	programs, err := other.Store.Programs(webtest.Ctx)
	require.NoError(t, err)
	assert.Empty(t, programs, "a look stores nothing")
	_, page := other.Send("/files/curriculum", "text", file, "keep", "1")
	webtest.Says(t, page, "Added the program Kenpo")
	assert.Equal(t, file, other.Do("GET", "/files/curriculum.json", "").Body.String(), "the same to the letter")

	changed := strings.Replace(file, `"reps": 10`, `"reps": 11`, 1)
	webtest.Says(t, h.Upload("/files/curriculum", changed).Body.String(), "how much: 11 a side, was 10 a side")
	_, page = h.Send("/files/curriculum", "text", changed, "keep", "1")
	webtest.Says(t, page, "Read in the curriculum of Kenpo")
	h.Undo(page)
	assert.Equal(t, file, h.Do("GET", "/files/curriculum.json?program="+h.Program, "").Body.String())

	kick := h.Book().Named("Front kick")
	for said, broken := range map[string]string{
		"unexpected EOF":                                 file[:len(file)/2],
		"is not a field of this format":                  strings.Replace(file, `"sections"`, `"chapters"`, 1),
		"is no rung of this ladder":                      strings.Replace(file, `"rung": "`+h.Book().RungNamed("Black belt").ID, `"rung": "gone`, 1),
		"stands twice":                                   strings.Replace(file, h.Book().Named("Jab").ID, kick.ID, 1),
		"a curriculum&#39;s file says":                   `{"format":"other","version":1}`,
		"&#34;gone&#34; is no technique of this program": strings.Replace(file, `"builds_on": [`, `"builds_on": ["gone",`, 1),
		"is not a choice; it must be one of":             strings.Replace(file, `"kind": "belt"`, `"kind": "dance"`, 1),
		"is no kind of technique":                        strings.Replace(file, `"kind": "kick"`, `"kind": "dance"`, 1),
		"is not in the catalogue":                        strings.Replace(file, `"moves": "drop step`, `"moves": "drop stumble`, 1),
	} {
		w := h.Upload("/files/curriculum", broken)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, said)
		webtest.Says(t, w.Body.String(), said)
		assert.Contains(t, w.Body.String(), "$", "a place is named")
	}
	assert.Equal(t, file, h.Do("GET", "/files/curriculum.json?program="+h.Program, "").Body.String(), "nothing was half-imported")
}

func TestRequirementsAsATable(t *testing.T) {
	h, _ := webtest.Mill(t)
	csv := h.Do("GET", "/files/requirements.csv?program="+h.Program, "").Body.String()
	n := len(h.Book().Requirements)
	path := "/files/requirements?program=" + h.Program
	_, w := h.Table(path, csv)
	webtest.Says(t, w.Body.String(), fmt.Sprintf("0 lines added, 0 changed, %d as they are", n))
	edited := "\xEF\xBB\xBFBelt;Item;Reps\r\nGreen belt;Jab;33 a side\r\nGreen belt;Front kick;lots\r\nMauve belt;Jab;5\r\n"
	here, w := h.Table(path, edited)
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	for _, said := range []string{"1 line added", "2 rows with something to correct", "3 Green belt · Front kick How much : not an amount", "is no rung of this ladder; there are"} {
		webtest.Says(t, w.Body.String(), said)
	}
	assert.Equal(t, 3, strings.Count(h.Do("GET", here+"/refused.csv", "").Body.String(), "\n"))
	assert.Len(t, h.Book().Requirements, n)
	_, page := h.Send(here, "keep", "1")
	webtest.Says(t, page, "Read in 1 requirement of Kenpo")
	assert.Len(t, h.Book().Requirements, n+1)
	h.Undo(page)
	assert.Len(t, h.Book().Requirements, n)
	_, w = h.Table(path, "technique,rung,amount\nJab,Green belt,7\n", "only", "1")
	webtest.Says(t, w.Body.String(), "Taken out, because the file leaves them out")
	w = h.Do("POST", here, webtest.Values("column_0", "rung", "column_1", "technique", "column_2", "amount", "keep", "1", "only", "1").Encode())
	assert.Equal(t, http.StatusConflict, w.Code)
	webtest.Says(t, w.Body.String(), "can only be taken out when every row can be read")
	h.Do("POST", here, webtest.Values("column_0", "rung", "column_1", "technique", "column_2", "", "look", "1").Encode())
	webtest.Says(t, h.Do("GET", here, "").Body.String(), "2 lines added") // without amounts, the usual ones
	w = h.Do("POST", here, webtest.Values("column_0", "rung", "column_1", "", "column_2", "", "keep", "1").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "no column is the technique")
	for _, broken := range []string{"", "technique\n\"open", "\x00\x01"} {
		_, w := h.Table(path, broken)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "%q", broken)
		webtest.Says(t, w.Body.String(), "this is not a requirements")
	}
	assert.Equal(t, "/files/requirements?why=file-gone", h.Do("GET", "/files/requirements/gone", "").Header().Get("Location"))
}
