package web

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// TestNumbersOfASeries: a name typed anywhere gets its number, says so, and is made a plain name,
// or numbered with many others, in one step that can be undone.
func TestNumbersOfASeries(t *testing.T) {
	h := newHouse(t).furnish()
	named := func(name string) *curriculum.Technique { return h.book().Named(name) }
	h.send("/requirements/new", "rung", h.yellow, "section", h.section, "technique", "Mill drill 12", "amount", "2 a side", "role", "performer", "weight", "1")
	require.NotNil(t, named("Mill drill 12"))
	assert.Equal(t, "Mill drill 12", named("Mill drill 12").Series+" "+positive(named("Mill drill 12").Number))
	h.send("/techniques/new", "program", h.program, "name", "Mill drill 2", "kind", "combination", "stage_0_steps", "Step in.")
	h.send("/techniques/new", "program", h.program, "name", "Mill drill 10", "kind", "combination")
	w := h.do("POST", "/binder/"+h.yellow+"/read", values("page", "Kicks\nSluice 3, 4 a side\nSluice 4, 4 a side, not a number").Encode())
	require.Equal(t, http.StatusOK, w.Code)
	assert.Contains(t, w.Body.String(), `"place":"number 3 of the series Sluice","asked":true`)
	assert.Equal(t, 1, strings.Count(w.Body.String(), `"place"`))

	list := text(h.page("/techniques"))
	assert.Less(t, strings.Index(list, "Mill drill 2"), strings.Index(list, "Mill drill 10"), "2 before 10")
	says(t, h.page("/check"), "There is no number 11, but there is a 12.")
	page := h.page("/techniques/" + named("Mill drill 12").ID)
	says(t, page, "number 12 of Mill drill")
	_, page = h.send("/techniques/" + named("Mill drill 12").ID + "/unnumber")
	says(t, page, "Made 3 numbers of Mill drill plain names")
	assert.Zero(t, named("Mill drill 12").Number+named("Mill drill 2").Number)
	h.send("/techniques/new", "program", h.program, "name", "Mill drill 13", "kind", "combination")
	assert.Empty(t, named("Mill drill 13").Series, "it is remembered for the program")
	h.undo(page)
	assert.Equal(t, 12, named("Mill drill 12").Number)
	w = h.do("POST", "/techniques/"+h.technique+"/unnumber", "request=x")
	assert.Equal(t, http.StatusConflict, w.Code)

	// Many at once.
	page = h.page("/numbers")
	says(t, page, "from its name", "Gaps and doubles")
	id := named("Mill drill 13").ID
	w = h.do("POST", "/numbers", values("program", h.program, "series_"+id, "", "number_"+id, "13").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, text(w.Body.String()), "is empty; a number needs the series it counts in")
	w = h.do("POST", "/numbers", values("program", h.program, "series_"+id, "Mill drill", "number_"+id, "many").Encode())
	assert.Contains(t, text(w.Body.String()), "is not a whole number")
	assert.Contains(t, w.Body.String(), `value="many"`, "what was typed is kept")
	two := named("Mill drill 2").ID
	_, page = h.send("/numbers", "program", h.program, "series_"+id, "Weir drill", "number_"+id, "5", "series_"+two, "Weir drill", "number_"+two, "6")
	says(t, page, "Numbered 2 techniques")
	assert.Equal(t, "Weir drill", named("Mill drill 13").Series)
	h.undo(page)
	assert.Equal(t, 2, named("Mill drill 2").Number)
	says(t, h.page("/numbers?text=drill+13"), "Mill drill 13")
}

// TestAStanceNotYetKnown: sheets keep lead and rear, and the register asks.
func TestAStanceNotYetKnown(t *testing.T) {
	h := newHouse(t).furnish()
	class := h.evening("Evening")
	x, err := h.s.Student(bg, h.student)
	require.NoError(t, err)
	assert.NotContains(t, text(h.page("/register/"+class+"/"+h.s.Today().String())), "Which foot is in front?")
	x.Stance = ""
	_, err = h.s.SaveStudent(bg, me, x)
	require.NoError(t, err)
	says(t, h.page("/students/"+h.student), "stance not known yet")
	register := "/register/" + class + "/" + h.s.Today().String()
	says(t, h.page(register), "Which foot is in front?", "Until it is, their sheets say lead and rear.")
	w := h.do("POST", "/students/"+h.student+"/stance", values("class", class, "on", h.s.Today().String()).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	w = h.do("POST", "/students/"+h.student+"/stance", values("stance", "sideways").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	address, page := h.send("/students/"+h.student+"/stance", "stance", "southpaw", "class", class, "on", h.s.Today().String())
	assert.True(t, strings.HasPrefix(address, register), address)
	assert.NotContains(t, text(page), "Which foot is in front?")
	x, err = h.s.Student(bg, h.student)
	require.NoError(t, err)
	assert.Equal(t, progress.Southpaw, x.Stance)
}

// TestReadDifferently: after an upgrade the owner is shown once which lines have another meaning.
func TestReadDifferently(t *testing.T) {
	h := newHouse(t).furnish()
	h.send("/techniques/new", "program", h.program, "name", "Jab", "kind", "strike")
	h.send("/techniques/new", "program", h.program, "name", "Turning drill", "kind", "combination", "stage_0_steps", "lead jab turn cw 180")
	assert.NotContains(t, text(h.page("/check")), "Read differently since the upgrade 1 finding")
	_, err := h.s.ChangeProgram(bg, me, h.program, "upgraded", func(d *curriculum.ProgramDetails) error { d.ReadAnew = true; return nil })
	require.NoError(t, err)
	says(t, h.page("/ladder"), "1 line of moves is read differently since the upgrade")
	page := h.page("/check")
	says(t, page, "Read differently since the upgrade", "it was the left, the right foot leading, facing 180°; now it is the right", "I have looked at all of them")
	_, page = h.send("/check/read", "program", h.program)
	assert.NotContains(t, text(page), "it was the left")
	assert.NotContains(t, text(h.page("/ladder")), "read differently since")
	h.undo(page)
	says(t, h.page("/check"), "it was the left")
}

// TestWhatASideMeansOnTheForms: of the program, a technique and a line, and what holds for a section.
func TestWhatASideMeansOnTheForms(t *testing.T) {
	h := newHouse(t).furnish()
	address, _ := h.send("/techniques/new", "program", h.program, "name", "Hook", "kind", "strike", "side_means", "limb")
	h.send("/requirements/new", "rung", h.yellow, "section", h.section, "technique", "Hook", "amount", "5 a side", "role", "performer", "weight", "1")
	h.send("/requirements/new", "rung", h.yellow, "section", h.section, "technique", "Slip", "amount", "5 each way", "role", "performer", "weight", "1")
	sheet := func() string { return text(h.page("/sheet/" + h.yellow + "?group=3")) }
	assert.Contains(t, sheet(), "5 each limb 6 each limb")
	assert.Contains(t, sheet(), "5 each way 6 each way")
	form := fields(h.page("/techniques/" + last(address) + "/edit"))
	assert.Equal(t, "limb", form.Get("side_means"))
	form.Set("side_means", "")
	h.send("/techniques/"+last(address)+"/edit", flat(form)...)
	assert.Contains(t, sheet(), "5 a side 6 a side")
	details := fields(h.page("/programs/" + h.program))
	details.Set("side_means", "limb")
	details.Set("voice", "last_move")
	h.send("/programs/"+h.program+"/details", flat(details)...)
	assert.Contains(t, sheet(), "5 each limb 6 each limb")
	assert.Contains(t, sheet(), "shout on the last move")
	rung := fields(h.page("/rungs/" + h.yellow))
	rung.Set("common", "Kicks: eyes up; breathe out")
	rung.Set("voice", "silent")
	h.send("/rungs/"+h.yellow, flat(rung)...)
	says(t, h.page("/sheet/"+h.yellow), "Kicks eyes up; breathe out; in silence")
	says(t, h.page("/booklet/"+h.yellow), "Throughout: eyes up; breathe out; in silence")
	rung.Set("common", "Kicks eyes up")
	w := h.do("POST", "/rungs/"+h.yellow, rung.Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, text(w.Body.String()), "line 1: write a section, a series or a form, a colon")
	// A lock with ways in: the line asks for one by name, with steps of its own.
	h.send("/techniques/new", "program", h.program, "name", "Reed lock", "kind", "lock", "stage_0_steps", "Press down.", "entries", "Counter-grip\n- Lay the hand over it.\nworks when: the elbow lifts\nOwn start (own start)")
	_, page := h.send("/requirements/new", "rung", h.yellow, "section", h.section, "technique", "Reed lock", "amount", "3", "role", "performer", "weight", "1")
	id := regexp.MustCompile(`/requirements/([0-9a-f]+)"[^>]*data-row><bdi>Reed lock`).FindStringSubmatch(page)
	require.NotNil(t, id)
	asked := fields(h.page("/requirements/" + id[1]))
	asked.Set("entries", "Counter-grip")
	asked.Set("sprint", "15")
	asked.Set("by_phases", "1")
	_, page = h.send("/requirements/"+id[1], flat(asked)...)
	says(t, page, "Reed lock, Counter-grip", "Lay the hand over it. / Press down.")
	says(t, h.page("/sheet/"+h.yellow), "Lay the hand over it. Press down.", "It works when: the elbow lifts", "by phases")
	for field, wrong := range map[string]string{"entries": "- a step", "parts": "All"} {
		w := h.do("POST", "/techniques/new", values("program", h.program, "name", "Wrong", "kind", "lock", field, wrong).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), "line 1:", field)
	}
}

// TestAnsweredAnew: after an upgrade the owner is shown once whose answer about what is signed off
// is another one.
func TestAnsweredAnew(t *testing.T) {
	h := newHouse(t).furnish()
	assert.NotContains(t, text(h.page("/eligible")), "reckoned anew")
	_, err := h.s.ChangeProgram(bg, me, h.program, "upgraded", func(d *curriculum.ProgramDetails) error { d.SignedOffAnew = true; return nil })
	require.NoError(t, err)
	says(t, h.page("/eligible"), "“All signed off” is reckoned anew since the upgrade.", "Nobody’s answer is another one.")
	_, page := h.send("/eligible/seen", "program", h.program)
	assert.NotContains(t, text(page), "reckoned anew since")
	h.undo(page)
	says(t, h.page("/eligible"), "reckoned anew since")
}

// TestHowGoodTheForecastsWere: an empty school has nothing to look back on, and says so.
func TestHowGoodTheForecastsWere(t *testing.T) {
	h := newHouse(t).furnish()
	says(t, h.page("/insights/forecasts"), "There is nothing to look back on yet.")
	assert.Equal(t, []string{"81.2", "0.4", "100.0"}, []string{permille(812), permille(4), permille(1000)})
}

// TestALadderThatWasRefused: beside a refused line the links of stance and track lead to the rung.
func TestALadderThatWasRefused(t *testing.T) {
	h := newHouse(t).furnish()
	w := h.do("POST", "/requirements/new", values("rung", h.yellow, "technique", "Hook", "amount", "lots", "role", "performer", "weight", "1").Encode())
	require.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `href="/ladder/`+h.yellow+`?`)
	assert.NotContains(t, w.Body.String(), `href="/requirements/new?`)
}
