package e2e

import (
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// widths are those of phones, tablets held upright and across, and desks.
var widths = []int64{320, 390, 768, 820, 1024, 1280, 1600}

// reaches is how far a page reaches to the right, and what on it reaches farthest.
const reaches = `(() => {
  const wide = document.documentElement.scrollWidth;
  if (wide <= innerWidth) return "";
  let far = 0, what = "";
  for (const node of document.querySelectorAll("body *")) {
    const right = Math.round(node.getBoundingClientRect().right);
    let inside = node.parentElement;
    while (inside && !["auto", "scroll", "hidden"].includes(getComputedStyle(inside).overflowX)) inside = inside.parentElement;
    if (inside && inside !== document.documentElement && inside !== document.body) continue;
    if (right > far) { far = right; what = node.tagName.toLowerCase() + (node.className && typeof node.className === "string" ? "." + node.className.trim().replaceAll(" ", ".") : ""); }
  }
  return wide + " wide, by " + what;
})()`

// TestEveryWidth: no kind of page that can be reached from the home screen scrolls sideways, from a small phone to a wide desk.
func TestEveryWidth(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	ids := regexp.MustCompile(`[0-9a-f]{16,}|\d{4}-\d\d-\d\d`)
	seen := map[string]bool{}
	for todo := []string{"/"}; len(todo) > 0; todo = todo[1:] {
		path, _, _ := strings.Cut(todo[0], "?")
		kind := ids.ReplaceAllString(path, "*")
		if seen[kind] || strings.Contains(path, ".") || strings.HasPrefix(path, "/static") {
			continue
		}
		seen[kind] = true
		x.visit(todo[0])
		todo = append(todo, eval[[]string](x, `[...document.querySelectorAll("a[href^='/']")].map((a) => a.pathname + a.search)`)...)
		for _, wide := range widths {
			x.do(chromedp.EmulateViewport(wide, 900))
			if far := eval[string](x, reaches); far != "" {
				assert.Fail(t, "it scrolls sideways", fmt.Sprintf("%s at %d: %s", kind, wide, far))
			}
		}
	}
	assert.Greater(t, len(seen), 70, "the demo has every screen")
}
