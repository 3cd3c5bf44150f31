package curriculum_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/web/webtest"
)

// TestSeveralAtOnce: kind, series and caution of ticked techniques change in one deed; a kind that
// was guessed is proposed, and nothing is ticked beforehand.
func TestSeveralAtOnce(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	for _, name := range []string{"Reed Gate", "Long Oar", "Mill Race"} {
		h.Send("/techniques/new", "program", h.Program, "name", name, "kind", "lock")
	}
	b := h.Book()
	gate, oar := b.Named("Reed Gate").ID, b.Named("Long Oar").ID
	var defence string
	for _, s := range b.Sections {
		if s.Kind == "self_defence" {
			defence = s.ID
		}
	}
	h.Send("/requirements/new", "rung", h.Yellow, "section", defence, "technique", "Reed Gate", "amount", "5 a side", "role", "performer", "weight", "1")
	page := h.Page("/techniques/many")
	webtest.Says(t, page, "Kinds that were guessed")
	webtest.Says(t, page, "Reed Gate is a lock or hold , proposed: self-defence technique")
	assert.NotContains(t, page, " checked")
	for said, pairs := range map[string][]string{
		"none is ticked":           {"kind", "kick"},
		"nothing is to be changed": {"technique", gate},
		"is not a choice":          {"technique", gate, "kind", "dance"},
		"says no reason":           {"technique", gate, "caution", "no joint"},
	} {
		w := h.Do("POST", "/techniques/many", webtest.Values(append(pairs, "program", h.Program)...).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, said)
		webtest.Says(t, w.Body.String(), said)
	}
	_, page = h.Send("/techniques/many", "program", h.Program, "technique", gate, "proposed", "kind")
	assert.Equal(t, curriculum.Kind("self_defence"), h.Book().Technique(gate).Kind)
	assert.NotContains(t, webtest.Text(page), "Kinds that were guessed")
	h.Undo(page)
	assert.Equal(t, curriculum.Kind("lock"), h.Book().Technique(gate).Kind)
	v := webtest.Values("program", h.Program, "kind", "throw", "series", "Gates", "caution", "throw: on mats")
	v["technique"] = []string{gate, oar}
	w := h.Do("POST", "/techniques/many", v.Encode())
	assert.Equal(t, http.StatusSeeOther, w.Code)
	for _, id := range []string{gate, oar} {
		x := h.Book().Technique(id)
		assert.Equal(t, []any{curriculum.Kind("throw"), "Gates", []string{"throw: on mats"}}, []any{x.Kind, x.Series, x.Cautions})
	}
	assert.Equal(t, curriculum.Kind("lock"), h.Book().Named("Mill Race").Kind, "what is not ticked stays")
	webtest.Says(t, h.Page("/techniques/many?text=throw"), "Long Oar")
	assert.NotContains(t, webtest.Text(h.Page("/techniques/many?text=throw")), "Mill Race")

	webtest.Says(t, h.Page("/techniques?caution=throw"), "2 techniques")
	webtest.Says(t, h.Page("/techniques?range=inside"), "Nothing fits this filter.")
}

// TestAttacksOnlyWordsSay: a technique whose name says what it answers is not counted in coverage until somebody states it, several in
// one deed; nothing is ticked beforehand.
func TestAttacksOnlyWordsSay(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	for _, name := range []string{"Escape from a headlock", "Reed Gate"} {
		h.Send("/techniques/new", "program", h.Program, "name", name, "kind", "self_defence")
	}
	b := h.Book()
	hold := b.Named("Escape from a headlock").ID
	webtest.Says(t, h.Page("/coverage"), "Only words say what 1 technique answers")
	page := h.Page("/techniques/many")
	webtest.Says(t, page, "Escape from a headlock answers headlock")
	assert.NotContains(t, page, " checked")
	_, page = h.Send("/techniques/many", "program", h.Program, "technique", hold, "proposed", "attack")
	assert.Equal(t, []curriculum.AttackElement{{Kind: "headlock", Origin: "front"}}, h.Book().Technique(hold).Attack)
	assert.Empty(t, h.Book().Named("Reed Gate").Attack)
	assert.NotContains(t, webtest.Text(page), "Attacks that only words say")
	assert.NotContains(t, webtest.Text(h.Page("/coverage")), "Only words say")
	h.Undo(page)
	assert.Empty(t, h.Book().Technique(hold).Attack)
}
