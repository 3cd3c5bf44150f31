package curriculum_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/web/webtest"
)

func TestMovesAreReadAsOneTypes(t *testing.T) {
	h, _ := webtest.Mill(t)
	ask := func(body ...string) string {
		w := h.Do("POST", "/notation", webtest.Values(append(body, "program", h.Program)...).Encode())
		require.Equal(t, http.StatusOK, w.Code)
		return w.Body.String()
	}
	assert.Contains(t, ask("text", "lead jab, rear corss"), `"column":16,"problem":"\"corss\" is not in the catalogue; near it are Cross`)
	assert.Contains(t, ask("text", "lead jab +"), `"column":11,"problem":"a move is missing before the end"`)
	assert.Contains(t, ask("text", "lead jab; the punch\nIn plain words.\n", "steps", "1"), `{"what":"In plain words.","count":1,"step":1,"sentence":true}`)
	assert.Contains(t, ask("text", "lead jba, rear cross."), `"doubts":[{"column":1,"reason":"\"lead jba\" is read as words of a sentence; if it is the move lead Jab`)
	assert.Contains(t, ask("text", "from ready: lead jab"), `"column":13,"problem":"nobody leads in Ready stance`)
	assert.Contains(t, ask("text", "lead jab high"), `"strip":[{"what":"lead jab","how":"high","count":1,"step":1}]`)
	assert.Contains(t, ask("text", "999"), "no technique has the call number 999")
	assert.Contains(t, ask("text", strings.TrimSuffix(strings.Repeat("lead jab, ", 5000), ", ")), "this is step 1001; a line has at most 1000")
	assert.Less(t, len(ask("text", strings.Repeat("x\n", 5000))), 20_000, "what a field may ask is bounded")
	assert.Contains(t, ask("text", strings.Repeat("jab ", 50_000)), "no line of moves is that long")
	names := h.Do("GET", "/notation/names?program="+h.Program, "").Body.String()
	assert.Contains(t, names, `"Front kick"`)
	assert.Contains(t, names, `"cross step"`)
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/notation/names?program=none", "").Code)
}
