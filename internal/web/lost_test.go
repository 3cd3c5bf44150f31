package web_test

import (
	"maps"
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/timetable"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// TestNobodysChangeIsLost: of two people who have one form open, the second to save is told who changed it and when. What
// does not collide is taken together; of what does, both are shown and nothing is stored until it is saved again.
func TestNobodysChangeIsLost(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class, err := h.Store.SaveClass(webtest.Ctx, webtest.Me, timetable.Class{Name: "Evening", Kind: "regular", Weekday: 2, Start: 1080, Minutes: 60, From: h.Store.Today()})
	require.NoError(t, err)
	_, err = h.Store.SavePerson(webtest.Ctx, webtest.Me, store.Person{Name: "Rosa", SignIn: "rosa", Role: store.Owner}, webtest.Secret, true)
	require.NoError(t, err)
	d, err := h.Store.SavePerson(webtest.Ctx, webtest.Me, store.Person{Name: "Marek", SignIn: "marek", Role: store.Instructor}, webtest.Secret, false)
	require.NoError(t, err)
	for name, x := range map[string]struct{ path, marked, one, two string }{
		"an account":    {"/people", `action="/people/` + d.ID + `"`, "name", "sign_in"},
		"a student":     {"/students/" + h.Student + "/edit", `class="sheet-form"`, "guardian", "limits"},
		"a technique":   {"/techniques/" + h.Technique + "/edit", `class="sheet-form"`, "name", "note"},
		"a rung":        {"/rungs/" + h.White, `class="sheet-form"`, "kit", "rung_note"},
		"a requirement": {"/requirements/" + h.Requirement, `class="sheet-form"`, "note", "weight"},
		"a program":     {"/programs/" + h.Program, `class="sheet-form"`, "name", "second_language"},
		"its details":   {"/programs/" + h.Program, `action="/programs/` + h.Program + `/details" class="sheet-form"`, "group_0_name", "group_0_draw"},
		"a class":       {"/classes/" + class.ID + "/edit", `class="sheet-form"`, "place", "name"},
		"the settings":  {"/settings", `class="sheet-form"`, "head_name", "head"},
		"a grading":     {"/gradings/" + h.Coming() + "/edit", `class="sheet-form"`, "place", "name"},
	} {
		t.Run(name, func(t *testing.T) {
			to := x.path
			switch name {
			case "its details":
				to += "/details"
			case "an account":
				to += "/" + d.ID
			}
			open := func() url.Values { return webtest.FieldsOf(h.Page(x.path), x.marked) }
			typed := func(v url.Values, pairs ...string) url.Values {
				v = maps.Clone(v)
				for i := 0; i+1 < len(pairs); i += 2 {
					v.Set(pairs[i], pairs[i+1])
				}
				return v
			}
			save := func(v url.Values) (int, string) {
				w := h.Do("POST", to, v.Encode())
				return w.Code, w.Body.String()
			}
			if name == "its details" { // a group has a name and a number
				code, _ := save(typed(open(), x.one, "First", x.two, "1"))
				require.Equal(t, http.StatusSeeOther, code)
			}
			mine, theirs := open(), open()
			require.Contains(t, mine, "seen")
			require.Contains(t, mine, x.one)
			code, said := save(typed(theirs, x.two, "3"))
			require.Equal(t, http.StatusSeeOther, code, webtest.Text(said))
			code, said = save(typed(mine, x.one, "Of mine"))
			require.Equal(t, http.StatusConflict, code, "the second to save is asked")
			webtest.Says(t, said, "owner changed this on Tue 24 Nov 2026 at 12:00, after you had opened it.")
			webtest.Says(t, said, "Taken over from them: “3”. Nothing of it collides with what you typed; save again.")
			both := webtest.FieldsOf(said, x.marked)
			assert.Equal(t, []string{"Of mine", "3"}, []string{both.Get(x.one), both.Get(x.two)})
			assert.NotEqual(t, "Of mine", open().Get(x.one), "nothing is stored yet")
			code, said = save(both)
			require.Equal(t, http.StatusSeeOther, code, webtest.Text(said))
			assert.Equal(t, []string{"Of mine", "3"}, []string{open().Get(x.one), open().Get(x.two)})

			mine, theirs = open(), open()
			code, _ = save(typed(theirs, x.one, "First <b>"))
			require.Equal(t, http.StatusSeeOther, code)
			code, said = save(typed(mine, x.one, "Second"))
			require.Equal(t, http.StatusConflict, code)
			webtest.Says(t, said, "They wrote “First &lt;b&gt;” where you wrote “Second”. Yours stands in the form; save again to keep it.")
			assert.Equal(t, "First <b>", open().Get(x.one), "theirs stands until then")
			again := webtest.FieldsOf(said, x.marked)
			assert.Equal(t, "Second", again.Get(x.one))
			code, _ = save(again)
			require.Equal(t, http.StatusSeeOther, code)
			assert.Equal(t, "Second", open().Get(x.one))
			code, _ = save(typed(open(), x.one, "Third"))
			require.Equal(t, http.StatusSeeOther, code, "nobody was in between")
		})
	}
}

// TestAnEmptyPostWipesNothing: what a form did not send at all stays as it was.
func TestAnEmptyPostWipesNothing(t *testing.T) {
	golden.Alone(t)
	h := webtest.NewHouse(t).Furnish()
	v := webtest.FieldsOf(h.Page("/settings"), `class="sheet-form"`)
	v.Set("head_name", "Rosa Castell")
	v.Set("wording", "{name} has climbed to {rank}.")
	require.Equal(t, http.StatusSeeOther, h.Do("POST", "/settings", v.Encode()).Code)
	details := `action="/programs/` + h.Program + `/details" class="sheet-form"`
	v = webtest.FieldsOf(h.Page("/programs/"+h.Program), details)
	v.Set("track_0_name", "Cubs")
	v.Set("track_0_to", "7")
	require.Equal(t, http.StatusSeeOther, h.Do("POST", "/programs/"+h.Program+"/details", v.Encode()).Code)
	forms := []string{"/settings", "/programs/" + h.Program + "/details", "/programs/" + h.Program, "/students/" + h.Student + "/edit", "/techniques/" + h.Technique + "/edit", "/rungs/" + h.White, "/requirements/" + h.Requirement}
	stand := func() (out []string) {
		for _, path := range forms {
			marked := `class="sheet-form"`
			if path == "/programs/"+h.Program+"/details" {
				path, marked = "/programs/"+h.Program, details
			}
			v := webtest.FieldsOf(h.Page(path), marked)
			require.Greater(t, len(v), 3, path)
			v.Del("seen")
			out = append(out, path+"?"+v.Encode())
		}
		return out
	}
	before := stand()
	assert.Contains(t, before[0], "Rosa+Castell")
	assert.Contains(t, before[1], "Cubs")
	for _, path := range forms {
		assert.Less(t, h.Do("POST", path, "").Code, 500, path)
		assert.Equal(t, before, stand(), path)
	}
}

// TestAnExaminersFormIsMerged: rank and family that others changed meanwhile are taken over.
func TestAnExaminersFormIsMerged(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	d, err := h.Store.SaveOfficer(webtest.Ctx, webtest.Me, store.Officer{Name: "Vane", Holds: map[string]string{}})
	require.NoError(t, err)
	open := func() url.Values { return webtest.FieldsOf(h.Page("/officers"), `action="/officers/`+d.ID+`"`) }
	mine, theirs := open(), open()
	theirs.Set("holds_"+h.Program, h.Yellow)
	theirs["family"] = []string{h.Student}
	require.Equal(t, http.StatusSeeOther, h.Do("POST", "/officers/"+d.ID, theirs.Encode()).Code)
	mine.Set("name", "Vane the Elder")
	w := h.Do("POST", "/officers/"+d.ID, mine.Encode())
	require.Equal(t, http.StatusConflict, w.Code)
	webtest.Says(t, w.Body.String(), "Nothing of it collides")
	both := webtest.FieldsOf(w.Body.String(), `action="/officers/`+d.ID+`"`)
	require.Equal(t, http.StatusSeeOther, h.Do("POST", "/officers/"+d.ID, both.Encode()).Code)
	o, err := h.Store.Officers(webtest.Ctx)
	require.NoError(t, err)
	assert.Equal(t, []any{"Vane the Elder", h.Yellow, []string{h.Student}}, []any{o[0].Name, o[0].Holds[h.Program], o[0].Family})
}

// TestAPageThatSomebodyElseTypedToo: two people type one paper page; the second is told that there are lines now that they did not see,
// their page stands there, and is taken when it is sent again. So it is with a draft that is published.
func TestAPageThatSomebodyElseTypedToo(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	page := func() url.Values { return webtest.FieldsOf(h.Page("/binder/"+h.White), `data-binder=`) }
	mine, theirs := page(), page()
	theirs.Set("page", "Kicks\nLow kick, 10")
	mine.Set("page", "Kicks\nHigh kick, 10")
	require.Equal(t, http.StatusSeeOther, h.Do("POST", "/binder/"+h.White, theirs.Encode()).Code)
	w := h.Do("POST", "/binder/"+h.White, mine.Encode())
	require.Equal(t, http.StatusConflict, w.Code)
	webtest.Says(t, w.Body.String(), "owner changed this on Tue 24 Nov 2026 at 12:00, after you had opened it.")
	webtest.Says(t, w.Body.String(), "High kick, 10")
	asked, err := h.Store.Book(webtest.Ctx, h.Program)
	require.NoError(t, err)
	require.Len(t, asked.Asked(asked.RungNamed("White belt").ID), 1, "nothing of it was added")
	again := webtest.FieldsOf(w.Body.String(), `data-binder=`)
	again.Set("page", mine.Get("page"))
	require.Equal(t, http.StatusSeeOther, h.Do("POST", "/binder/"+h.White, again.Encode()).Code)

	publish := func() url.Values { return webtest.FieldsOf(h.Page("/versions"), `action="/versions/publish"`) }
	early := publish()
	late := page()
	late.Set("page", "Kicks\nSide kick, 10")
	require.Equal(t, http.StatusSeeOther, h.Do("POST", "/binder/"+h.White, late.Encode()).Code)
	w = h.Do("POST", "/versions/publish", early.Encode())
	require.Equal(t, http.StatusConflict, w.Code)
	webtest.Says(t, w.Body.String(), "after you had opened it. Look at it")
	require.Equal(t, http.StatusSeeOther, h.Do("POST", "/versions/publish", publish().Encode()).Code)
}

// TestWhatWasDeletedMeanwhile: a form about something that somebody has deleted loses nothing that was typed.
func TestWhatWasDeletedMeanwhile(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	class, err := h.Store.SaveClass(webtest.Ctx, webtest.Me, timetable.Class{Name: "Evening", Kind: "regular", Weekday: 2, Start: 1080, Minutes: 60, From: h.Store.Today()})
	require.NoError(t, err)
	for path, field := range map[string]string{"/classes/" + class.ID + "/edit": "name", "/requirements/" + h.Requirement: "note"} {
		form := webtest.FieldsOf(h.Page(path), `class="sheet-form"`)
		form.Set(field, "what took me an hour")
		switch field {
		case "name":
			_, err = h.Store.DeleteClass(webtest.Ctx, webtest.Me, class.ID)
		default:
			_, err = h.Store.DeleteRequirement(webtest.Ctx, webtest.Me, h.Requirement)
		}
		require.NoError(t, err)
		w := h.Visitor().Form(path, form)
		assert.Equal(t, http.StatusNotFound, w.Code, path)
		webtest.Says(t, w.Body.String(), "This is not on record any more")
		webtest.Says(t, w.Body.String(), "what took me an hour")
	}
}
