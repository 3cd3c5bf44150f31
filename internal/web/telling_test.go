package web_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/web/webtest"
)

// TestNumbersOfASeries: a name typed anywhere gets its number, says so, and is made a plain name,
// or numbered with many others, in one step that can be undone.
func TestNumbersOfASeries(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	named := func(name string) *curriculum.Technique { return h.Book().Named(name) }
	h.Send("/requirements/new", "rung", h.Yellow, "section", h.Section, "technique", "Mill drill 12", "amount", "2 a side", "role", "performer", "weight", "1")
	require.NotNil(t, named("Mill drill 12"))
	assert.Equal(t, "Mill drill 12", named("Mill drill 12").Series+" "+parts.Positive(named("Mill drill 12").Number))
	h.Send("/techniques/new", "program", h.Program, "name", "Mill drill 2", "kind", "combination", "stage_0_steps", "Step in.")
	h.Send("/techniques/new", "program", h.Program, "name", "Mill drill 10", "kind", "combination")
	w := h.Do("POST", "/binder/"+h.Yellow+"/read", webtest.Values("page", "Kicks\nSluice 3, 4 a side\nSluice 4, 4 a side, not a number").Encode())
	require.Equal(t, http.StatusOK, w.Code)
	assert.Contains(t, w.Body.String(), `"place":"number 3 of the series Sluice","asked":true`)
	assert.Equal(t, 1, strings.Count(w.Body.String(), `"place"`))

	list := webtest.Text(h.Page("/techniques"))
	assert.Less(t, strings.Index(list, "Mill drill 2"), strings.Index(list, "Mill drill 10"), "2 before 10")
	webtest.Says(t, h.Page("/check"), "There is no number 11, but there is a 12.")
	page := h.Page("/techniques/" + named("Mill drill 12").ID)
	webtest.Says(t, page, "number 12 of Mill drill")
	_, page = h.Send("/techniques/" + named("Mill drill 12").ID + "/unnumber")
	webtest.Says(t, page, "Made 3 numbers of Mill drill plain names")
	assert.Zero(t, named("Mill drill 12").Number+named("Mill drill 2").Number)
	h.Send("/techniques/new", "program", h.Program, "name", "Mill drill 13", "kind", "combination")
	assert.Empty(t, named("Mill drill 13").Series, "it is remembered for the program")
	h.Undo(page)
	assert.Equal(t, 12, named("Mill drill 12").Number)
	w = h.Do("POST", "/techniques/"+h.Technique+"/unnumber", "request=x")
	assert.Equal(t, http.StatusConflict, w.Code)

	// Many at once.
	page = h.Page("/numbers")
	webtest.Says(t, page, "from its name", "Gaps and doubles")
	id := named("Mill drill 13").ID
	w = h.Do("POST", "/numbers", webtest.Values("program", h.Program, "series_"+id, "", "number_"+id, "13").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, webtest.Text(w.Body.String()), "is empty; a number needs the series it counts in")
	w = h.Do("POST", "/numbers", webtest.Values("program", h.Program, "series_"+id, "Mill drill", "number_"+id, "many").Encode())
	assert.Contains(t, webtest.Text(w.Body.String()), "is not a whole number")
	assert.Contains(t, w.Body.String(), `value="many"`, "what was typed is kept")
	two := named("Mill drill 2").ID
	_, page = h.Send("/numbers", "program", h.Program, "series_"+id, "Weir drill", "number_"+id, "5", "series_"+two, "Weir drill", "number_"+two, "6")
	webtest.Says(t, page, "Numbered 2 techniques")
	assert.Equal(t, "Weir drill", named("Mill drill 13").Series)
	h.Undo(page)
	assert.Equal(t, 2, named("Mill drill 2").Number)
	webtest.Says(t, h.Page("/numbers?text=drill+13"), "Mill drill 13")
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

// TestReadDifferently: after an upgrade the owner is shown once which lines have another meaning.
func TestReadDifferently(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/techniques/new", "program", h.Program, "name", "Jab", "kind", "strike")
	h.Send("/techniques/new", "program", h.Program, "name", "Turning drill", "kind", "combination", "stage_0_steps", "lead jab turn cw 180")
	assert.NotContains(t, webtest.Text(h.Page("/check")), "Read differently since the upgrade 1 finding")
	_, err := h.Store.ChangeProgram(webtest.Ctx, webtest.Me, h.Program, "upgraded", func(d *curriculum.ProgramDetails) error { d.ReadAnew = true; return nil })
	require.NoError(t, err)
	webtest.Says(t, h.Page("/ladder"), "1 line of moves is read differently since the upgrade")
	page := h.Page("/check")
	webtest.Says(t, page, "Read differently since the upgrade", "it was the left, the right foot leading, facing 180°; now it is the right", "I have looked at all of them")
	_, page = h.Send("/check/read", "program", h.Program)
	assert.NotContains(t, webtest.Text(page), "it was the left")
	assert.NotContains(t, webtest.Text(h.Page("/ladder")), "read differently since")
	h.Undo(page)
	webtest.Says(t, h.Page("/check"), "it was the left")
}

// TestWhatASideMeansOnTheForms: of the program, a technique and a line, and what holds for a section.
func TestWhatASideMeansOnTheForms(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	address, _ := h.Send("/techniques/new", "program", h.Program, "name", "Hook", "kind", "strike", "side_means", "limb")
	h.Send("/requirements/new", "rung", h.Yellow, "section", h.Section, "technique", "Hook", "amount", "5 a side", "role", "performer", "weight", "1")
	h.Send("/requirements/new", "rung", h.Yellow, "section", h.Section, "technique", "Slip", "amount", "5 each way", "role", "performer", "weight", "1")
	sheet := func() string { return webtest.Text(h.Page("/sheet/" + h.Yellow + "?group=3")) }
	assert.Contains(t, sheet(), "5 each limb 6 each limb")
	assert.Contains(t, sheet(), "5 each way 6 each way")
	form := webtest.Fields(h.Page("/techniques/" + webtest.Last(address) + "/edit"))
	assert.Equal(t, "limb", form.Get("side_means"))
	form.Set("side_means", "")
	h.Send("/techniques/"+webtest.Last(address)+"/edit", webtest.Flat(form)...)
	assert.Contains(t, sheet(), "5 a side 6 a side")
	details := webtest.Fields(h.Page("/programs/" + h.Program))
	details.Set("side_means", "limb")
	details.Set("voice", "last_move")
	h.Send("/programs/"+h.Program+"/details", webtest.Flat(details)...)
	assert.Contains(t, sheet(), "5 each limb 6 each limb")
	assert.Contains(t, sheet(), "shout on the last move")
	rung := webtest.Fields(h.Page("/rungs/" + h.Yellow))
	rung.Set("common", "Kicks: eyes up; breathe out")
	rung.Set("voice", "silent")
	h.Send("/rungs/"+h.Yellow, webtest.Flat(rung)...)
	webtest.Says(t, h.Page("/sheet/"+h.Yellow), "Kicks eyes up; breathe out; in silence")
	webtest.Says(t, h.Page("/booklet/"+h.Yellow), "Throughout: eyes up; breathe out; in silence")
	rung.Set("common", "Kicks eyes up")
	w := h.Do("POST", "/rungs/"+h.Yellow, rung.Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, webtest.Text(w.Body.String()), "line 1: write a section, a series or a form, a colon")
	// A lock with ways in: the line asks for one by name, with steps of its own.
	h.Send("/techniques/new", "program", h.Program, "name", "Reed lock", "kind", "lock", "stage_0_steps", "Press down.", "entries", "Counter-grip\n- Lay the hand over it.\nworks when: the elbow lifts\nOwn start (own start)")
	_, page := h.Send("/requirements/new", "rung", h.Yellow, "section", h.Section, "technique", "Reed lock", "amount", "3", "role", "performer", "weight", "1")
	id := regexp.MustCompile(`/requirements/([0-9a-f]+)"[^>]*data-row><bdi>Reed lock`).FindStringSubmatch(page)
	require.NotNil(t, id)
	asked := webtest.Fields(h.Page("/requirements/" + id[1]))
	asked.Set("entries", "Counter-grip")
	asked.Set("sprint", "15")
	asked.Set("by_phases", "1")
	_, page = h.Send("/requirements/"+id[1], webtest.Flat(asked)...)
	webtest.Says(t, page, "Reed lock, Counter-grip", "Lay the hand over it. / Press down.")
	webtest.Says(t, h.Page("/sheet/"+h.Yellow), "Lay the hand over it. Press down.", "It works when: the elbow lifts", "by phases")
	for field, wrong := range map[string]string{"entries": "- a step", "parts": "All"} {
		w := h.Do("POST", "/techniques/new", webtest.Values("program", h.Program, "name", "Wrong", "kind", "lock", field, wrong).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), "line 1:", field)
	}
}

// TestAnsweredAnew: after an upgrade the owner is shown once whose answer about what is signed off
// is another one.
func TestAnsweredAnew(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	assert.NotContains(t, webtest.Text(h.Page("/eligible")), "reckoned anew")
	_, err := h.Store.ChangeProgram(webtest.Ctx, webtest.Me, h.Program, "upgraded", func(d *curriculum.ProgramDetails) error { d.SignedOffAnew = true; return nil })
	require.NoError(t, err)
	webtest.Says(t, h.Page("/eligible"), "“All signed off” is reckoned anew since the upgrade.", "Nobody’s answer is another one.")
	_, page := h.Send("/eligible/seen", "program", h.Program)
	assert.NotContains(t, webtest.Text(page), "reckoned anew since")
	h.Undo(page)
	webtest.Says(t, h.Page("/eligible"), "reckoned anew since")
}

// TestHowGoodTheForecastsWere: an empty school has nothing to look back on, and says so.
func TestHowGoodTheForecastsWere(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	webtest.Says(t, h.Page("/insights/forecasts"), "There is nothing to look back on yet.")
}

// TestALadderThatWasRefused: beside a refused line the links of stance and track lead to the rung.
func TestALadderThatWasRefused(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	w := h.Do("POST", "/requirements/new", webtest.Values("rung", h.Yellow, "technique", "Hook", "amount", "lots", "role", "performer", "weight", "1").Encode())
	require.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `href="/ladder/`+h.Yellow+`?`)
	assert.NotContains(t, w.Body.String(), `href="/requirements/new?`)
}
