package people_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/demo"
	"velvetladder/internal/web/webtest"
)

func TestStudentsFromAFile(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	text := "Member;Date of birth;Style;Belt;Shoe\nEve Race;30/4/2016;kenpo;white\nIvo Lock;31.04.2016;Kenpo;White belt\nBen Sluice;2014-02-28;;\nUma Ford;;Kenpo;Mauve belt\n"
	here, w := h.Table("/students/import", text)
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	for _, said := range []string{"1 row to read in · 1 double left out · 2 rows to correct", `"31.04.2016"; write it as YYYY-MM-DD`, "1 left out", "1 row of students who may be here already", "the same name, born the same day", "is not on the ladder of Kenpo", "White belt"} {
		webtest.Says(t, w.Body.String(), strings.ReplaceAll(said, `"`, "&#34;"))
	}
	total := func() int {
		_, n, err := h.Store.Students(webtest.Ctx, "", "", 100, 0)
		require.NoError(t, err)
		return n
	}
	assert.Equal(t, 2, total(), "looking stores nothing")
	refused := h.Do("GET", here+"/refused.csv", "").Body.String()
	assert.Equal(t, 3, strings.Count(refused, "\n"), refused)
	assert.Contains(t, refused, "Ivo Lock,31.04.2016,Kenpo,White belt,,", "as it stands, with what is wrong")
	_, page := h.Send(here, "add", "1")
	webtest.Says(t, page, "Added Eve Race")
	rows, n, err := h.Store.Students(webtest.Ctx, h.Program, "eve", 100, 0)
	require.NoError(t, err)
	require.Equal(t, 1, n)
	assert.Equal(t, "White belt", rows[0].Rung.Name)
	assert.Equal(t, civil.MustParse("2016-04-30"), rows[0].BirthDate)
	assert.Contains(t, h.Do("GET", "/students/export.csv", "").Body.String(), "Eve Race,2016-04-30")
	assert.Equal(t, http.StatusSeeOther, h.Do("POST", here, "add=1").Code, "pressed twice it is in once")
	assert.Equal(t, 3, total())
	h.Undo(page)
	assert.Equal(t, 2, total())

	for bad, said := range map[string]string{"": "it is empty", "name\n\"open": "line 2", "PK\x03\x04no workbook": "cannot be opened as a workbook", "\xD0\xCF\x11\xE0": "of the old kind", "name" + strings.Repeat(",", 300) + "x": "up to 200"} {
		_, w := h.Table("/students/import", bad)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
		webtest.Says(t, w.Body.String(), said)
	}
	for _, path := range []string{"/students/import/gone", "/students/import/gone/refused.csv"} {
		assert.Equal(t, "/students/import?why=file-gone", h.Do("GET", path, "").Header().Get("Location"))
	}
	webtest.Says(t, h.Page("/students/import?why=file-gone"), "That file is not here any more")
	assert.Contains(t, h.Do("GET", "/students/import/gone/progress", "").Body.String(), "file-gone")
}

// TestColumnsMatchedByHand: heads nobody knows, no heads at all, the order of days; the choice stays while one looks again.
func TestColumnsMatchedByHand(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	here, w := h.Table("/students/import", "Who\tWhen\nEve Race\t3/4/2016\nIvo Lock\t5/6/2015\n")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "no column is the name; say which one is")
	_, page := h.Send(here, "column_0", "name", "column_1", "birth_date", "look", "1")
	webtest.Says(t, page, "2 rows to read in")
	webtest.Says(t, page, "Sun 3 Apr 2016")
	webtest.Says(t, page, "The file does not show which")
	_, page = h.Send(here, "column_0", "name", "column_1", "birth_date", "days", "month", "look", "1")
	webtest.Says(t, page, "Fri 4 Mar 2016")
	_, page = h.Send(here, "column_0", "name", "column_1", "", "headless", "1", "look", "1")
	webtest.Says(t, page, "3 rows to read in")
	webtest.Says(t, page, "column B")
	w = h.Do("POST", here, webtest.Values("column_0", "name", "column_1", "name", "add", "1").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "two columns are said to be “Name”")
	_, page = h.Send(here, "column_0", "name", "column_1", "birth_date", "days", "day", "add", "1")
	webtest.Says(t, page, "Added 2 students")
}

// TestWhatIsDoneAboutDoubles: of each, or of all: left out, added too, or the record completed; undone as a whole.
// TestSinceWhenTheyStandThere: a row with a rung and no day stands on it since the day that is chosen for all such, today where none is; a day
// to come is not taken.
func TestSinceWhenTheyStandThere(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	here, w := h.Table("/students/import", "Name;Style;Belt;Since\nEve Race;Kenpo;White belt;\nIvo Lock;Kenpo;White belt;2026-02-03\n")
	webtest.Says(t, w.Body.String(), "1 row of students with a rung and no day: they stand on it since")
	for _, day := range []string{"2999-01-01", "soon"} {
		h.Do("POST", here, webtest.Values("since", day).Encode())
		assert.Contains(t, h.Page(here), `name="since" value="`+h.Store.Today().String()+`"`, day)
	}
	h.Do("POST", here, webtest.Values("since", "2026-01-15").Encode())
	assert.Contains(t, h.Page(here), `name="since" value="2026-01-15"`)
	h.Send(here, "add", "1")
	rows, _, err := h.Store.Students(webtest.Ctx, h.Program, "", 100, 0)
	require.NoError(t, err)
	since := map[string]string{}
	for _, r := range rows {
		since[r.Name] = r.Since.String()
	}
	assert.Equal(t, []string{"2026-01-15", "2026-02-03"}, []string{since["Eve Race"], since["Ivo Lock"]})
}

func TestWhatIsDoneAboutDoubles(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	known, err := h.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Known Already", BirthDate: civil.MustParse("2014-02-28"), Guardian: "Her aunt"})
	require.NoError(t, err)
	file := "name,birth_date,guardian,contact,rung\nKnown Alreadi,2014-02-28,Her uncle,12 34,White belt\nNew One,2015-01-01,,,\nNew Ome,2015-01-01,,,\nBen Sluice,,,56 78,White belt\n"
	total := func() int {
		_, n, err := h.Store.Students(webtest.Ctx, "", "", 100, 0)
		require.NoError(t, err)
		return n
	}
	before := total()
	here, w := h.Table("/students/import", file)
	page := w.Body.String()
	webtest.Says(t, page, "1 row to read in · 3 doubles left out")
	webtest.Says(t, page, "New One , in an earlier row born Thu 1 Jan 2015 nearly the same name, born the same day")
	_, page = h.Send(here, "all", "fill", "look", "1")
	webtest.Says(t, page, "3 rows to read in, of which 2 records completed · 1 double left out")
	_, page = h.Send(here, "row_2", "leave", "row_4", "add", "look", "1")
	webtest.Says(t, page, "3 rows to read in, of which 1 record completed · 1 double left out")
	_, page = h.Send(here, "row_2", "", "row_4", "add", "row_5", "leave", "nonsense_1", "x", "row_x", "add", "row_3", "sell", "look", "1")
	webtest.Says(t, page, "3 rows to read in, of which 1 record completed · 1 double left out")
	_, page = h.Send(here, "add", "1")
	webtest.Says(t, page, "Added 2 students from a file; records completed: 1")
	assert.Equal(t, before+2, total())
	x, err := h.Store.Student(webtest.Ctx, known.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"Known Already", "Her aunt", "12 34"}, []string{x.Name, x.Guardian, x.Contact}, "what the record says stays")
	standings, err := h.Store.Standings(webtest.Ctx, known.ID)
	require.NoError(t, err)
	require.Len(t, standings, 1)
	h.Undo(page)
	x, err = h.Store.Student(webtest.Ctx, known.ID)
	require.NoError(t, err)
	assert.Empty(t, x.Contact)
	rows, _, err := h.Store.Students(webtest.Ctx, "", "New", 9, 0)
	require.NoError(t, err)
	assert.Empty(t, rows)
}

// TestNobodySeesAnothersFile: what one owner looks at is on no page of another, nor of one who may not read files in.
func TestNobodySeesAnothersFile(t *testing.T) {
	_, browser := webtest.ClosedHouse(t)
	rosa, una, marek := browser(), browser(), browser()
	rosa.Do("POST", "/welcome", webtest.Values("name", "Rosa", "sign_in", "rosa", "password", webtest.Secret).Encode())
	rosa.Do("POST", "/people", webtest.Values("name", "Una", "sign_in", "una", "role", "owner", "password", webtest.Secret).Encode())
	rosa.Do("POST", "/people", webtest.Values("name", "Marek", "sign_in", "marek", "role", "instructor", "password", webtest.Secret).Encode())
	require.Equal(t, http.StatusSeeOther, una.SignIn("una", webtest.Secret).Code)
	require.Equal(t, http.StatusSeeOther, marek.SignIn("marek", webtest.Secret).Code)
	here := rosa.Do("POST", "/students/import", webtest.Values("text", "name\nCanary Child\n").Encode()).Header().Get("Location")
	require.Contains(t, rosa.Do("GET", here, "").Body.String(), "Canary Child")
	for _, path := range []string{here, here + "/refused.csv", here + "/progress"} {
		assert.NotContains(t, una.Do("GET", path, "").Body.String(), "Canary", path)
		assert.Equal(t, http.StatusForbidden, marek.Do("GET", path, "").Code, path)
	}
	assert.Equal(t, "/students/import?why=file-gone", una.Do("POST", here, "add=1").Header().Get("Location"))
}

// TestWhoIsImported: each row of a file of students, with what is said of it; nobody comes in twice,
// and a second row of one student is a second program.
func TestWhoIsImported(t *testing.T) {
	h, programs := webtest.Mill(t)
	kenpo, karate := programs[0], programs[1]
	first := func(p demo.Program) string { return p.Rungs[0].Name }
	rows := []struct{ line, says string }{
		{"New One,2015-01-02,,,", ""},
		{"Two Programs,2015-01-03,Kenpo," + first(kenpo) + ",2026-01-05", ""},
		{"two programs,2015-01-03,KARATE," + first(karate) + ",", ""},
		{"Two Programs,2015-01-03,Kenpo," + first(kenpo) + ",", "stands in an earlier row with the same birth date and program"},
		{"New One,2015-01-02,,,", "stands in an earlier row"},
		{"New One,2015-01-03,,,", ""},
		{"Lost One,,," + first(karate) + " and more,", "is not on the ladder of Kenpo"}, // the program looked at
		{"Lost Two,,Judoka," + first(kenpo) + ",", "is not a program of this school"},
		{"Lost Three,,Karate,Mauve belt,", "is not on the ladder of Karate"},
	}
	file := "name,birth_date,program,rung,since\n"
	for _, r := range rows {
		file += r.line + "\n"
	}
	_, looked := h.Table("/students/import", file)
	look := webtest.Text(looked.Body.String())
	good := ""
	for i, r := range rows {
		if r.says == "" {
			good += r.line + "\n"
			continue
		}
		assert.Contains(t, look, r.says, r.line)
		_, alone := h.Table("/students/import", "name,birth_date,program,rung,since\n"+good+r.line+"\n")
		assert.Equal(t, 422, alone.Code, "%d: %s", i, r.line)
		assert.Equal(t, 1, strings.Count(webtest.Text(alone.Body.String()), r.says))
	}
	all := func() int {
		n, _, err := h.Store.Students(webtest.Ctx, "", "", 99, 0)
		require.NoError(t, err)
		return len(n)
	}
	before := all()
	here, _ := h.Table("/students/import", "name,birth_date,program,rung,since\n"+good)
	h.Send(here, "add", "1", "all", "add")
	assert.Equal(t, before+4, all(), "of three people one is in two programs")
	people, _, err := h.Store.Students(webtest.Ctx, "", "Two Programs", 9, 0)
	require.NoError(t, err)
	require.Len(t, people, 2)
	assert.Equal(t, people[0].ID, people[1].ID, "two rows of one student are one student")
	standings, err := h.Store.Standings(webtest.Ctx, people[0].ID)
	require.NoError(t, err)
	require.Len(t, standings, 2)
	since := map[string]string{}
	for _, s := range standings {
		since[s.Rung.Name+s.Rung.ProgramID] = s.Since.String()
	}
	assert.Equal(t, map[string]string{first(kenpo) + kenpo.Program.ID: "2026-01-05", first(karate) + karate.Program.ID: "2026-11-24"}, since, "without a day it is today")
	here, _ = h.Table("/students/import", "name,birth_date,program,rung\nYellow One,2015-01-09,Kenpo,yellow\nYellow Two,2015-01-09,Kenpo,Yellow stripe\n")
	h.Send(here, "add", "1", "all", "add")
	for name, rung := range map[string]string{"Yellow One": "Yellow belt", "Yellow Two": "Yellow stripe"} {
		found, _, err := h.Store.Students(webtest.Ctx, "", name, 9, 0)
		require.NoError(t, err)
		require.Len(t, found, 1)
		at, err := h.Store.Standings(webtest.Ctx, found[0].ID)
		require.NoError(t, err)
		assert.Equal(t, rung, at[0].Rung.Name, "a colour alone is the belt, not the stripe below it")
	}
	lone := webtest.NewHouse(t).Furnish()
	_, looked = lone.Table("/students/import", "name,rung\nAda One,White belt\nAda Two,white\n")
	assert.Equal(t, 200, looked.Code, "where there is one program only, it is meant, and a belt by its colour")
}
