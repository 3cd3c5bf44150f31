package curriculum_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	chapter "velvetladder/internal/web/curriculum"
	"velvetladder/internal/web/webtest"
)

func TestVersionsAndWhoClimbsByThem(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	webtest.Says(t, h.Page("/versions"), "Nothing is published yet")
	_, page := h.Send("/versions/publish", "program", h.Program, "note", "the first")
	webtest.Says(t, page, "Version 1 is the draft")
	assert.Equal(t, http.StatusConflict, h.Do("POST", "/versions/publish", webtest.Values("program", h.Program).Encode()).Code, "nothing has changed")
	_, _ = h.Send("/requirements/"+h.Requirement, webtest.Flat(with(chapter.RequirementValues(h.Book().Asked(h.Yellow)[0], *h.Book().Technique(h.Technique), h.Book()), "amount", "9"))...)
	webtest.Says(t, h.Page("/versions"), "The draft has changed")
	webtest.Says(t, h.Page("/difference"), "how much: 9 times, was 5 times")
	_, page = h.Send("/versions/publish", "program", h.Program, "note", "nine")
	assert.Regexp(t, `2 Tue 24 Nov 2026 owner nine 0 .* 1 Tue 24 Nov 2026 owner the first 2`, webtest.Text(page))
	versions, _, err := h.Store.Versions(webtest.Ctx, h.Program)
	require.NoError(t, err)
	_, page = h.Send("/versions/move", "from", versions[1].ID, "to", versions[0].ID)
	webtest.Says(t, page, "Moved 2 students to version 2")
	webtest.Says(t, h.Page("/students/"+h.Student), "version 2")
	h.Undo(page)
	webtest.Says(t, h.Page("/students/"+h.Student), "version 1")
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/difference?from=none", "").Code)
	w := h.Do("POST", "/versions/move", webtest.Values("from", versions[1].ID).Encode())
	webtest.Says(t, w.Body.String(), "choose the version they go on by")
}
