package curriculum_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
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
