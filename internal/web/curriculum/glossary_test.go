package curriculum_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/golden"
	"velvetladder/internal/web/webtest"
)

func TestGlossaryAndBooklet(t *testing.T) {
	golden.Alone(t)
	h, programs := webtest.Mill(t)
	karate := "?program=" + programs[1].Program.ID
	page := webtest.Text(h.Page("/glossary" + karate))
	for _, said := range []string{"Snap front kick mae geri 前蹴り", "hajime begin", "stepping punch"} {
		assert.Contains(t, page, said)
	}
	whole := h.Page("/booklet?program=" + h.Program)
	assert.Equal(t, len(h.Book().Rungs), strings.Count(whole, `class="rung-part"`))
	webtest.Says(t, whole, "drawn at each grading")
	webtest.Says(t, whole, "⚠")
	one := webtest.Text(h.Page("/booklet/" + h.Book().RungNamed("Orange belt").ID + "?track=" + h.Book().Program.Tracks[0].ID))
	assert.Contains(t, one, "Kenpo · Cubs")
}
