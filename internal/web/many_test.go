package web

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
)

// TestSeveralAtOnce: kind, series and caution of ticked techniques change in one deed; a kind that
// was guessed is proposed, and nothing is ticked beforehand.
func TestSeveralAtOnce(t *testing.T) {
	h := newHouse(t).furnish()
	for _, name := range []string{"Reed Gate", "Long Oar", "Mill Race"} {
		h.send("/techniques/new", "program", h.program, "name", name, "kind", "lock")
	}
	b := h.book()
	gate, oar := b.Named("Reed Gate").ID, b.Named("Long Oar").ID
	var defence string
	for _, s := range b.Sections {
		if s.Kind == "self_defence" {
			defence = s.ID
		}
	}
	h.send("/requirements/new", "rung", h.yellow, "section", defence, "technique", "Reed Gate", "amount", "5 a side", "role", "performer", "weight", "1")
	page := h.page("/techniques/many")
	says(t, page, "Kinds that were guessed")
	says(t, page, "Reed Gate is a lock or hold , proposed: self-defence technique")
	assert.NotContains(t, page, " checked")
	for said, pairs := range map[string][]string{
		"none is ticked":           {"kind", "kick"},
		"nothing is to be changed": {"technique", gate},
		"is not a choice":          {"technique", gate, "kind", "dance"},
		"says no reason":           {"technique", gate, "caution", "no joint"},
	} {
		w := h.do("POST", "/techniques/many", values(append(pairs, "program", h.program)...).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, said)
		says(t, w.Body.String(), said)
	}
	_, page = h.send("/techniques/many", "program", h.program, "technique", gate, "proposed", "1")
	assert.Equal(t, curriculum.Kind("self_defence"), h.book().Technique(gate).Kind)
	assert.NotContains(t, text(page), "Kinds that were guessed")
	h.undo(page)
	assert.Equal(t, curriculum.Kind("lock"), h.book().Technique(gate).Kind)
	v := values("program", h.program, "kind", "throw", "series", "Gates", "caution", "throw: on mats")
	v["technique"] = []string{gate, oar}
	w := h.do("POST", "/techniques/many", v.Encode())
	assert.Equal(t, http.StatusSeeOther, w.Code)
	for _, id := range []string{gate, oar} {
		x := h.book().Technique(id)
		assert.Equal(t, []any{curriculum.Kind("throw"), "Gates", []string{"throw: on mats"}}, []any{x.Kind, x.Series, x.Cautions})
	}
	assert.Equal(t, curriculum.Kind("lock"), h.book().Named("Mill Race").Kind, "what is not ticked stays")
	says(t, h.page("/techniques/many?text=throw"), "Long Oar")
	assert.NotContains(t, text(h.page("/techniques/many?text=throw")), "Mill Race")

	says(t, h.page("/techniques?caution=throw"), "2 techniques")
	says(t, h.page("/techniques?range=inside"), "Nothing fits this filter.")
}
