package people_test

import (
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/web/webtest"
)

// TestCallerAndCombinations: a rung is called as it stands; combinations are counted, filtered,
// drawn, and what was called is drawn last.
func TestCallerAndCombinations(t *testing.T) {
	h, _ := webtest.Mill(t)
	page := h.Page("/ladder")
	rungs := regexp.MustCompile(`/ladder/([0-9a-z]+)" class="whole[^>]*title="Orange belt`).FindStringSubmatch(page)
	require.NotNil(t, rungs)
	caller := h.Page("/caller/" + rungs[1] + "?stance=southpaw&reps=10")
	assert.Contains(t, caller, "&#34;reps&#34;:10")
	assert.Contains(t, caller, "right foot forward")
	assert.Contains(t, caller, "Mill Wheel")
	assert.Equal(t, http.StatusBadRequest, h.Do("GET", "/caller/"+rungs[1]+"?reps=lots", "").Code)
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/caller/none", "").Code)

	page = h.Page("/combinations?rung=" + rungs[1])
	webtest.Says(t, page, "8 × 8 × 8 = 512")
	webtest.Says(t, page, "Useful by the rules switched on:")
	some := "/combinations?rung=" + rungs[1] + "&k=2&directions=2&piece=lead+jab&piece=rear+cross&no_twice=1"
	page = h.Page(some)
	webtest.Says(t, page, "2 × 2 × 2 directions = 8")
	webtest.Says(t, page, "Useful by the rules switched on: 4")
	webtest.Says(t, page, "lead jab, rear cross")
	w := h.Do("GET", some+"&directions=99", "")
	assert.Equal(t, http.StatusOK, w.Code, "the first of two counts")
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("GET", "/combinations?k=many", "").Code)
	w = h.Do("POST", "/combinations/drill", url.Values{"rung": {rungs[1]}, "line": {"lead jab, rear cross"}}.Encode())
	assert.True(t, strings.HasPrefix(w.Header().Get("Location"), "/caller/"+rungs[1]+"?line=lead+jab"), w.Header().Get("Location"))
	assert.Contains(t, h.Page(w.Header().Get("Location")), "lead jab, rear cross")
	for seed := range 4 {
		webtest.Says(t, h.Page(some+"&draw="+string(rune('1'+seed))), "rear cross, lead jab never called yet")
	}
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("POST", "/combinations/drill", "rung="+rungs[1]+"&line=").Code)
}
