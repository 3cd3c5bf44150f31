package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
)

// weekPages are the screens between two gradings, with today's class and one student.
func weekPages(x *tab) []string {
	class, on := todaysClass(x)
	at := class + "/" + on
	x.visit("/students")
	x.visit(eval[string](x, `new URL(document.querySelector("main table a").href).pathname`))
	sheet := eval[string](x, `new URL(document.querySelector('a[href^="/practice/"]').href).pathname`)
	rung := eval[string](x, `new URL(document.querySelectorAll(".rungs a")[3].href).pathname.split("/").at(-1)`)
	link := eval[string](x, `fetch("`+sheet+`/link", {method: "POST", body: new URLSearchParams({who: "Greta", days: "30"})}).then(r => r.text()).then(t => t.match(/\/family\/[0-9a-f]{40}/)[0])`)
	return []string{"/classes", "/classes/new", "/classes/" + class + "/edit", "/attendance/import", "/stripes", "/plan/" + at, "/plan/" + at + "?theme=Kicks&minutes=90", "/register/" + at, "/checkin/" + at, "/signoffs/" + at,
		sheet, link, link + "/caller", "/caller/" + rung, "/combinations", "/combinations?k=2&draw=3", "/insights", "/insights/forecasts", "/techniques/many", "/people", "/account"}
}

// TestTheWeekIsAccessible runs axe-core over the screens of the week, with a class that has a
// register, and looks that none of them scrolls sideways on a phone.
func TestTheWeekIsAccessible(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	pages := weekPages(x)
	x.visit("/classes")
	yesterday := eval[string](x, `new URL(document.querySelector('.short a[href^="/register/"]').href).pathname`)
	pages = append(pages, yesterday, strings.Replace(yesterday, "register", "signoffs", 1))
	for i, p := range pages {
		if golden.Sample(i, 3) {
			x.visit(p)
			x.accessible(p)
		}
	}
	x.do(chromedp.EmulateViewport(390, 844))
	for _, p := range pages { // that none of them scrolls sideways, TestEveryWidth sees
		if !strings.HasPrefix(p, "/caller/") && !strings.HasPrefix(p, "/practice/") && !strings.HasPrefix(p, "/register/") && !strings.HasPrefix(p, "/family/") {
			continue
		}
		x.visit(p)
		if strings.HasPrefix(p, "/caller/") {
			assert.GreaterOrEqual(t, eval[float64](x, `parseFloat(getComputedStyle(document.querySelector("[data-word]")).fontSize)`), 0.18*390, "read across the hall")
		}
		assert.LessOrEqual(t, eval[int](x, `document.documentElement.scrollWidth`), 390, p)
		if strings.HasPrefix(p, "/caller/") || strings.HasPrefix(p, "/practice/") || strings.HasPrefix(p, "/register/") {
			x.accessible(p + " on a phone")
		}
	}
	for _, p := range []string{"/register/", "/signoffs/", "/caller/"} {
		for _, q := range pages {
			if strings.HasPrefix(q, p) {
				x.visit(q)
				small := eval[string](x, `[...document.querySelectorAll(".tap, .late, .sign-buttons button, .caller-tools button")].filter(b => b.offsetParent !== null && (b.offsetHeight < 48 || b.offsetWidth < 44)).map(b => b.textContent).join()`)
				assert.Empty(t, small, "targets are large enough for a thumb on %s", q)
			}
		}
	}
}

// TestAClassOnTheMat plans a class, keeps its register by keys, signs off what was shown, awards
// the stripe, and finds it all on the student's page after a power cut.
func TestAClassOnTheMat(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1024, 768)
	class, on := todaysClass(x)
	x.visit("/plan/" + class + "/" + on)
	assert.Contains(t, x.text(), "who are likely to come")
	topic := eval[string](x, `document.querySelectorAll(".blocks strong")[1].textContent`)
	x.submit(`.blocks a[aria-label^="Drop"]`)
	assert.NotContains(t, eval[string](x, `[...document.querySelectorAll(".blocks strong")].map(b => b.textContent).join("|")`), topic+"|")
	x.submit(`.blocks a[aria-label^="Pin"]`)
	assert.Contains(t, x.text(), "● pinned")
	x.fill("minutes", "90")
	x.submit("aside form .button")
	assert.Contains(t, x.text(), "● pinned", "what was pinned stays")

	x.visit("/register/" + class + "/" + on)
	name := eval[string](x, `[...document.querySelectorAll(".here-list li")].at(-1).dataset.name`)
	x.keys("f")
	x.until(`document.activeElement.matches("[data-names]")`)
	x.keys(name + kb.Enter)
	x.until(stored + ` && document.querySelector("[data-count]").textContent === "1"`)
	all := eval[int](x, `(() => { const rows = [...document.querySelectorAll('.here-list li[data-student][data-state=""]')]; rows.forEach(r => r.querySelector(".tap").click()); return rows.length + 1 })()`)
	x.until(stored)
	assert.Equal(t, all, eval[int](x, `Number(document.querySelector("[data-count]").textContent)`))
	x.visit("/signoffs/" + class + "/" + on)
	require.True(t, eval[bool](x, `document.querySelector("[data-technique]") !== null`), "somebody still has something to show")
	name = eval[string](x, `document.querySelector("[data-technique] .who bdi").textContent`)
	shown := eval[string](x, `(() => { const d = document.querySelector("[data-technique]"); d.open = true; d.querySelector(".no").click(); return d.dataset.name })()`)
	x.until(`document.querySelector(".faults button") !== null`)
	x.accessible("choosing a fault")
	eval[bool](x, `document.querySelector(".faults button").click() || true`)
	x.until(stored + ` && document.querySelector("[data-technique] .no").getAttribute("aria-pressed") === "true"`)
	eval[bool](x, `document.querySelector("[data-technique] .yes").click() || true`)
	x.until(stored + ` && document.querySelector("[data-technique] .yes").getAttribute("aria-pressed") === "true"`)
	s.kill()
	s.restart()
	x.visit("/students?of=everybody&text=" + strings.ReplaceAll(name, " ", "+"))
	x.submit("main table a")
	eval[bool](x, `document.querySelectorAll("details").forEach(d => d.open = true) || true`)
	assert.Contains(t, x.text(), "The last classes")
	item := eval[string](x, `[...document.querySelectorAll(".asked .rows li")].find(l => l.textContent.includes(`+"`"+shown+"`"+`)).textContent`)
	assert.Contains(t, item, "shown")

	// The caller goes through a call by itself, and stops.
	x.visit("/caller/" + eval[string](x, `new URL(document.querySelectorAll(".rungs a")[3].href).pathname.split("/").at(-1)`))
	opening := eval[[]string](x, `JSON.parse(document.querySelector("main.caller").dataset.program).opening`)
	word := eval[string](x, `document.querySelector("[data-word]").textContent`)
	assert.Equal(t, []string{opening[0], "then: " + opening[1]}, []string{word, eval[string](x, `document.querySelector("[data-next]").textContent`)}, "what the hall does next")
	x.keys(" ")
	x.until(`document.querySelector("[data-go]").textContent === "Pause"`)
	x.keys(" ")
	x.until(`document.querySelector("[data-go]").textContent !== "Pause"`)
	x.keys(kb.ArrowRight)
	x.until(`document.querySelector("[data-word]").textContent !== "` + word + `"`)
	x.visit("/checkin/" + class + "/" + on)
	x.keys("9999" + kb.Enter)
	x.until(`document.querySelector("[data-greeting]").textContent.includes("nobody has the number 9999")`)
	x.keys("103" + kb.Enter)
	x.until(`/Good to see you|before this student joined/.test(document.querySelector("[data-greeting]").textContent)`)
}
