package e2e

import (
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"

	"velvetladder/internal/golden"
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

// outOfCard are the tables that stand out of the card or the column they are in, and not in a box that scrolls.
const outOfCard = `(() => {
  const out = [];
  for (const table of document.querySelectorAll("main table")) {
    const box = table.parentElement.closest(".card-plain, section, aside, .wide, main");
    let inside = table.parentElement;
    while (inside && inside !== box && !["auto", "scroll"].includes(getComputedStyle(inside).overflowX)) inside = inside.parentElement;
    if (!table.checkVisibility() || inside && inside !== box || ["auto", "scroll"].includes(getComputedStyle(table).overflowX)) continue;
    const far = Math.round(table.getBoundingClientRect().right - box.getBoundingClientRect().right);
    if (far > 1) out.push(table.className + " by " + far + " px");
  }
  return out.slice(0, 3).join("; ");
})()`

// tiny is the text of a page that is smaller than 12 px, and that of drawings, as it is scaled, under 10; a picture of what comes
// on paper is as small as it has to be.
const tiny = `(() => {
  const paper = ["settings", "poster", "papers"].includes(document.body.dataset.screen);
  const out = new Set(), walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let text = walk.nextNode(); text; text = walk.nextNode()) {
    const of = text.parentElement;
    if (!text.data.trim() || paper && of.closest("svg") || of.closest("script, style, option, title") || !of.checkVisibility()) continue;
    const drawn = of.closest("svg") && !of.closest("foreignObject");
    const size = parseFloat(getComputedStyle(of).fontSize) * (drawn ? of.getScreenCTM()?.a ?? 1 : 1);
    if (size < (drawn ? 9.95 : 12)) out.add(of.tagName.toLowerCase() + ": " + text.data.trim());
  }
  return [...out].slice(0, 3).join("; ");
})()`

// TestEveryWidth: no kind of page that can be reached from the home screen scrolls sideways, from a small phone to a wide desk, and no
// text on it is tiny.
func TestEveryWidth(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
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
		for i, wide := range widths {
			if !golden.Sample(len(seen)+i, 3) { // the phone and two more of each page are seen by make test-long
				continue
			}
			x.do(chromedp.EmulateViewport(wide, 900))
			looks := fmt.Sprint(wide == 390 || wide == 1280) // where those of phones and of desks are
			found := eval[[3]string](x, `[`+reaches+`, `+outOfCard+`, `+looks+` ? `+tiny+` : ""]`)
			for i, wrong := range []string{"it scrolls sideways", "a table runs out of its card", "text under 12 px"} {
				if found[i] != "" {
					assert.Fail(t, wrong, fmt.Sprintf("%s at %d: %s", kind, wide, found[i]))
				}
			}
		}
	}
	assert.Greater(t, len(seen), 70, "the demo has every screen")
}

// low are the things to press of a place that are less high or wide than a finger needs, 48 px.
const low = `((place) => [...document.querySelectorAll(place)].filter((n) => n.checkVisibility() && Math.min(n.getBoundingClientRect().width, n.getBoundingClientRect().height) < 48)
  .map((n) => n.outerHTML.slice(0, 80) + " " + n.getBoundingClientRect().width + " × " + n.getBoundingClientRect().height))`

// TestOnTheMat: what is pressed at the scoring table and, on a tablet held upright, at the caller is as large as a finger needs; the hall's caller
// can be dark, and stays so on that device; the application can be put on a home screen.
func TestOnTheMat(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 820, 1180)
	table := s.openTable()
	for _, size := range [][2]int64{{390, 844}, {820, 1180}, {1024, 768}, {1280, 800}} {
		x.do(chromedp.EmulateViewport(size[0], size[1]))
		x.visit(table)
		x.until(`document.querySelector(".candidate") !== null`)
		touched := ".marks-row button, .next .button, .sign .button"
		if size[0] < 1200 { // wider ones have a mouse, or say themselves that they have none
			touched += ", .lines ol button, .candidate .more button, .faults button"
		}
		assert.Empty(t, eval[[]string](x, low+"(\""+touched+"\")"), size)
		assert.Empty(t, eval[string](x, reaches), size)
		assert.Empty(t, eval[string](x, tiny), size)
	}
	x.do(chromedp.EmulateViewport(820, 1180))

	x.visit("/ladder")
	rung := eval[string](x, `document.querySelector(".rungs a[aria-current]")?.getAttribute("href") ?? document.querySelectorAll(".rungs a")[2].getAttribute("href")`)
	x.visit(rung)
	x.visit(eval[string](x, `document.querySelector("a[href^='/caller/']").getAttribute("href")`))
	assert.Empty(t, eval[[]string](x, low+`(".caller .button, .caller-top .check, .caller-top select, .caller summary")`))
	ground := `getComputedStyle(document.getElementById("main")).backgroundColor`
	light := eval[string](x, ground)
	eval[bool](x, `document.querySelector("[data-dark]").click(), true`)
	x.until(ground + ` === "rgb(27, 18, 25)"`)
	assert.Equal(t, "rgb(255, 255, 255)", light)
	x.accessible("caller, dark")
	eval[bool](x, `document.querySelector("[data-on]").click(), document.querySelector("[data-go]").click(), true`)
	x.accessible("caller, dark, running")
	x.do(chromedp.Reload())
	x.until(ground + ` === "rgb(27, 18, 25)" && document.querySelector("[data-dark]").checked`)

	got := eval[[]string](x, `(async () => {
	  const link = document.querySelector("link[rel=manifest]"), reply = await fetch(link.href), said = await reply.json(), out = [reply.headers.get("Content-Type"), said.start_url];
	  for (const icon of said.icons) {
	    const picture = new Image();
	    picture.src = new URL(icon.src, link.href);
	    await picture.decode();
	    out.push(icon.sizes === "any" ? "drawn" : icon.sizes === picture.naturalWidth + "x" + picture.naturalHeight);
	  }
	  return out.map(String);
	})()`)
	assert.Equal(t, []string{"application/json", "/", "drawn", "true", "true"}, got)
}

// TestALongLadder: on a rail of thirty rungs one sees where one is, on a desk and on a phone, without the page moving; and a rung can be
// added on a phone too.
func TestALongLadder(t *testing.T) {
	onlyLong(t)
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	rungs := int64(30)
	x.visit("/ladder")
	eval[bool](x, `(async () => {
		const ids = [...document.querySelectorAll(".rungs a")].map((a) => a.pathname.split("/").pop());
		for (let i = ids.length; i < `+strconv.FormatInt(rungs, 10)+`; i++) {
			const sent = await fetch("/rungs/" + ids[0] + "/copy", { method: "POST", body: new URLSearchParams({ request: "longladder" + i, name: "Black belt, " + i }) });
			if (!sent.ok) throw new Error(sent.status);
		}
		return true;
	})()`)
	for _, size := range [][2]int64{{1280, 800}, {390, 844}} {
		x.do(chromedp.EmulateViewport(size[0], size[1]))
		for _, which := range []string{"at(0)", "at(14)", "at(-1)"} {
			x.visit("/ladder")
			x.visit(eval[string](x, `[...document.querySelectorAll(".rungs a")].`+which+`.pathname`))
			assert.Equal(t, rungs, eval[int64](x, `document.querySelectorAll(".rungs a").length`))
			assert.True(t, eval[bool](x, `(() => {
				const at = document.querySelector(".rungs .here").getBoundingClientRect();
				return at.top >= 0 && at.bottom <= innerHeight && at.left >= 0 && at.right <= innerWidth && scrollY === 0;
			})()`), "%s at %d: the rung one is at is seen", which, size[0])
		}
		assert.True(t, eval[bool](x, `document.querySelector('a[href="/rungs/new"]').checkVisibility()`))
	}
}
