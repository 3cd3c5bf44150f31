package curriculum_test

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
	"velvetladder/internal/web/webtest"
)

func TestABinderPage(t *testing.T) {
	golden.Alone(t)
	h, _ := webtest.Mill(t)
	green := h.Book().RungNamed("Green belt").ID
	before := len(h.Book().Asked(green))
	page := "Kicks\nFront kick, 12 a side, must\nMillpond kick, on pads\n\nCombinations\nCombination 77: lead jab, rear cross / rear front kick mid"
	read := h.Do("POST", "/binder/"+green+"/read", webtest.Values("page", page+"\nJab, weight lots").Encode()).Body.String()
	assert.Contains(t, read, `"call":"Millpond kick","amount":"5 a side","traits":"on pads","new":"kick"`)
	assert.Contains(t, read, `"column":6,"problem":"after weight stands`)
	assert.Regexp(t, `"number":1,"text":"Kicks","head":true.*"number":2,.*"number":3,.*"number":5,"text":"Combinations","head":true.*"number":6,`, read, "headings stand where they were typed")
	w := h.Do("POST", "/binder/"+green, webtest.Values("page", page+"\nJab, weight lots").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), `line 7, column 6: after weight stands`)
	assert.Contains(t, w.Body.String(), "Millpond kick, on pads", "the page is kept")
	webtest.Says(t, w.Body.String(), "heading: Kicks")
	inline := h.Do("POST", "/binder/"+green+"/read", webtest.Values("page", "Blocks: low block, high block\r\nKicks\r\nMillpond kick").Encode()).Body.String()
	assert.Equal(t, 1, strings.Count(inline, `"head":true`), "what stands behind a heading on its line says its section")
	assert.Contains(t, inline, `"text":"Kicks","head":true`)
	assert.Len(t, h.Book().Asked(green), before, "all or nothing")
	_, rung := h.Send("/binder/"+green, "page", page)
	webtest.Says(t, rung, "Added 3 requirements to Green belt")
	assert.Len(t, h.Book().Asked(green), before+3)
	require.NotNil(t, h.Book().Named("Combination 77"))
	h.Undo(rung)
	assert.Len(t, h.Book().Asked(green), before)
	assert.Nil(t, h.Book().Named("Millpond kick"), "what was made on the way goes too")
	w = h.Do("POST", "/binder/"+green, "page=+")
	webtest.Says(t, w.Body.String(), "is empty; write a heading such as Kicks")
}

// TestWhatTheRungAsksBesides: a page that names some of what stands on its rung says what else stands there; one that names nothing of it does not.
func TestWhatTheRungAsksBesides(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	names := []string{"Otter kick", "Heron kick", "Swan kick", "Wren kick", "Crane kick", "Coot kick", "Rook kick", "Finch kick", "Tern kick", "Lark kick"}
	h.Send("/binder/"+h.Yellow, "page", "Kicks\n"+strings.Join(names, ", 3\n")+", 3")
	read := func(page string) string {
		return h.Do("POST", "/binder/"+h.Yellow+"/read", webtest.Values("page", page).Encode()).Body.String()
	}
	stood := len(h.Book().Asked(h.Yellow))
	assert.NotContains(t, read("Kicks\nGull kick, 5"), "asks besides")
	assert.Contains(t, read("Kicks\nHeron kick, 5"), "asks besides: ")
	assert.Contains(t, read("Kicks\nHeron kick, 5"), fmt.Sprintf(" and %d more. It stays", stood-1-8))
	assert.NotContains(t, read("Kicks\nHeron kick, 5"), "Heron kick, Swan kick")
	w := h.Do("POST", "/binder/"+h.Yellow, webtest.Values("page", "Kicks\nHeron kick, 3").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "asks for nothing new")
	webtest.Says(t, w.Body.String(), "asks besides: ")
}

// TestAPageInAnotherLanguage: words, brackets and a legend are kept for the program, and a page is read by
// them.
func TestAPageInAnotherLanguage(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	details := "/programs/" + h.Program + "/details"
	w := h.Do("POST", details, webtest.Values("words", "osu = high\nnice", "brackets", "terms").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "line 2")
	assert.Contains(t, w.Body.String(), "osu = high\nnice</textarea>")
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("POST", details, webtest.Values("brackets", "braces").Encode()).Code)
	p, err := h.Store.Program(webtest.Ctx, h.Program)
	require.NoError(t, err)
	p.SecondLanguage = "Islandic"
	_, err = h.Store.SaveProgram(webtest.Ctx, webtest.Me, p)
	require.NoError(t, err)
	_, page := h.Send(details, "words", "osu = high\ndori = kick\ntobu = jumping", "brackets", "terms")
	assert.Contains(t, page, "osu = high\ndori = kick\ntobu = jumping</textarea>")
	read := h.Do("POST", "/binder/"+h.Yellow+"/read", webtest.Values("page", "Basics\nTobu yoko dori (bird), 5\nSparring\n60 s, light contact\n1 = low punch\nCombinations\n1-1\nStretch 2-3, 20 s").Encode()).Body.String()
	for _, said := range []string{`"variant":"jumping"`, `term bird`, `"rule":"contact light"`, `"noted":"call numbers: 1 calls Low punch"`, `"call":"1-1"`} {
		assert.Contains(t, read, said)
	}
	h.Send("/binder/"+h.Yellow, "page", "Basics\nTobu yoko dori (bird), 5\nSparring\n60 s, light contact\n1 = low punch\nKnowledge\n1 question from river lore\nWhat flows?")
	b := h.Book()
	assert.Equal(t, []any{"bird", curriculum.Kind("kick"), 1}, []any{b.Named("Tobu yoko dori").Term, b.Named("Tobu yoko dori").Kind, b.Named("Low punch").Call})
	assert.Equal(t, curriculum.Contact("light"), b.Rung(h.Yellow).Sparring.Contact)
	require.Len(t, b.Program.Groups, 1)
	assert.Equal(t, "River lore", b.Program.Groups[0].Name)
	address, _ := h.Send("/binder/"+h.Yellow, "page", "2 = cross punch")
	assert.Contains(t, address, "/ladder/", "a legend alone is something")
	assert.Equal(t, 2, h.Book().Named("Cross punch").Call)
}

// TestWhatAPageMakesAndWaitsFor: the moves that are made with a combination, and what waits for its heading, are shown while a page is
// typed and where it is refused.
func TestWhatAPageMakesAndWaitsFor(t *testing.T) {
	golden.Alone(t)
	h, _ := webtest.Mill(t)
	yellow := h.Book().RungNamed("Yellow belt").ID
	page := "Combinations\nCombo 9: reed jab - stamp kick\nJuggling:\nOld oak, 2"
	read := h.Do("POST", "/binder/"+yellow+"/read", webtest.Values("page", page).Encode()).Body.String()
	assert.Contains(t, read, `"makes":"Reed jab, Stamp kick"`)
	assert.Contains(t, read, `"waits":true`)
	w := h.Do("POST", "/binder/"+yellow, webtest.Values("page", page).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	for _, shown := range []string{"new with it: Reed jab, Stamp kick", "its kind follows from the heading"} {
		assert.Contains(t, w.Body.String(), shown)
	}
}

// TestAPageAsksAsMuchAsTheRungBelow: what a page says no amount of is asked as the nearest rung below asks it, is shown so while it is typed,
// and is kept so.
func TestAPageAsksAsMuchAsTheRungBelow(t *testing.T) {
	h, _ := webtest.Mill(t)
	b := h.Book()
	yellow := b.RungNamed("Yellow belt").ID
	first := b.Rungs[0]
	at := slices.IndexFunc(b.Asked(first.ID), func(r curriculum.Requirement) bool {
		kind := b.Technique(r.TechniqueID).Kind
		return (kind == "kick" || kind == "strike" || kind == "block" || kind == "stance") && r.Setting == "" && r.Quantity != curriculum.DefaultAmount(kind) && !slices.ContainsFunc(b.Asked(b.Rungs[1].ID), func(x curriculum.Requirement) bool { return x.TechniqueID == r.TechniqueID })
	})
	require.GreaterOrEqual(t, at, 0)
	r := b.Asked(first.ID)[at]
	page := b.Section(r.SectionID).Name + "\n" + b.Technique(r.TechniqueID).Name
	read := h.Do("POST", "/binder/"+yellow+"/read", webtest.Values("page", page).Encode()).Body.String()
	assert.Contains(t, read, `"amount":"`+r.Quantity.String()+`"`)
	assert.Contains(t, read, `"as at `+first.Name)
	require.Equal(t, http.StatusSeeOther, h.Do("POST", "/binder/"+yellow, webtest.Values("page", page).Encode()).Code)
	asked := h.Book().Asked(yellow)
	assert.True(t, slices.ContainsFunc(asked, func(x curriculum.Requirement) bool { return x.TechniqueID == r.TechniqueID && x.Quantity == r.Quantity }))
}
