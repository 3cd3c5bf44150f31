package e2e

import (
	"context"
	"fmt"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
)

// ring is a ring of the demo's grading under way in which nobody has marked.
type ring struct {
	grading, id, group string
	codes              []string // paths to join, in the order of the panel
	names              []string
}

// freeRing finds the ring on the head table, and makes codes for its panel.
func freeRing(x *tab) (r ring) {
	x.visit("/gradings")
	r.grading = eval[string](x, `[...document.querySelectorAll("main table a")].find(a => a.textContent.includes("Stripe evening")).getAttribute("href").split("/")[2]`)
	x.visit("/head/" + r.grading)
	r.id = eval[string](x, `[...document.querySelectorAll("[data-ring]")].find(b => b.textContent.includes("Wheel room")).dataset.ring`)
	at := fmt.Sprintf(`document.querySelector('[data-ring="%s"] `, r.id)
	r.group = eval[string](x, fmt.Sprintf(`[...document.querySelectorAll('[data-ring="%s"] [data-group]')].find(g => g.querySelectorAll("p:first-child bdi").length > 1).dataset.group`, r.id))
	r.names = eval[[]string](x, fmt.Sprintf(`[...document.querySelectorAll('[data-group="%s"] .head-tables bdi')].map(b => b.textContent)`, r.group))
	require.Len(x.t, r.names, 3, at)
	x.submit(`form[action$="/codes"] .button`)
	for _, name := range r.names {
		address := eval[string](x, fmt.Sprintf(`[...document.querySelectorAll(".codes li")].find(c => c.textContent.includes(%q)).querySelector(".code-address").textContent`, name))
		r.codes = append(r.codes, regexp.MustCompile(`/join/.*`).FindString(address))
	}
	x.accessible("codes")
	return r
}

// sit joins as an examiner and opens the group's sheet.
func (r ring) sit(x *tab, nth int) {
	x.t.Helper()
	x.visit(r.codes[nth])
	x.accessible("join")
	x.submit("main .button.is-primary")
	require.Contains(x.t, x.text(), r.names[nth])
	x.submit(fmt.Sprintf(`a[href$="/%s"]`, r.group))
	x.until(`document.querySelector(".candidate.at") !== null`)
}

const everyMark = `document.querySelector("[data-kept]").textContent === "◉ all marks stored"`

// markLines gives a mark to everybody for some lines, with keys alone; 0 for all that are left.
func (x *tab) markLines(key string, lines int) {
	x.t.Helper()
	for n := 0; lines == 0 || n < lines; n++ {
		for tries := 0; !eval[bool](x, `document.activeElement.hasAttribute("data-next")`); tries++ {
			require.Less(x.t, tries, 12, "the focus does not move on")
			x.keys(key)
		}
		if eval[string](x, `document.querySelector("[data-next]").textContent`) == "To the signature" {
			return
		}
		x.keys(kb.Enter)
	}
}

// TestThreeExaminers mark one group in browsers of their own: one is cut off for half of the
// sheet and loads it again meanwhile, the server is killed once. Every mark is there exactly
// once, the verdicts are right, and nobody saw another's marks.
func TestThreeExaminers(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	head := open(t, s, 1280, 800)
	r := freeRing(head)
	w := newWire(t, s.url)
	a, b, c := open(t, s, 1024, 768), open(t, s, 1024, 768), open(t, &server{t: t, url: w.url()}, 1024, 768)
	r.sit(a, 0)
	r.sit(b, 1)
	r.sit(c, 2)
	c.until(`document.body.dataset.offline === "ready"`)
	c.accessible("an examiner's table")

	// The head table hears of them as it happens.
	head.visit("/head/" + r.grading)
	head.until(fmt.Sprintf(`document.querySelectorAll('[data-ring="%s"] [data-online]')[0].textContent === "●"`, r.id))
	c.markLines("1", 3)
	c.until(everyMark)
	head.until(fmt.Sprintf(`document.querySelectorAll('[data-group="%s"] [data-at]')[2].textContent.startsWith("line 3,")`, r.group))
	assert.NotContains(t, eval[string](head, `document.querySelector("main").innerHTML`), "not right yet", "no mark is shown")
	head.accessible("head table")

	w.set(true)
	c.markLines("1", 4)
	c.until(waiting)
	c.visit(eval[string](c, `location.pathname`)) // without network: the kept page, and what waits laid over it
	c.until(waiting)
	c.until(`document.querySelector("[aria-current] button span") !== null`) // the count is there before the sheet is drawn
	assert.Equal(t, "8", eval[string](c, `document.querySelector("[aria-current] button span").textContent`), "it goes on where it was")
	c.markLines("1", 2)
	// One mark is corrected twice before the first ever arrives.
	c.keys(kb.ArrowLeft + kb.ArrowDown)
	c.keys("2")
	c.keys(kb.ArrowDown)
	c.keys("1")
	c.keys(kb.ArrowRight)
	a.markLines("3", 6)
	a.until(everyMark)
	s.kill()
	a.markLines("3", 1)
	w.set(false)
	s.restart()
	a.until(everyMark)
	c.until(everyMark)
	for _, x := range []*tab{a, b, c} {
		key := map[*tab]string{a: "3", b: "3", c: "1"}[x]
		x.markLines(key, 0)
		x.until(everyMark)
		x.until(`document.querySelector("[data-left]").textContent === "Every line is marked."`)
	}
	// A fault that would end the test comes to the chief examiner's table by itself, and to no other.
	b.keys("f")
	b.until(`document.querySelector("[data-keep^=kind]") !== null`)
	eval[bool](b, `(document.querySelector("[data-keep^=conduct]").value = "unsafe_act", document.querySelector("[data-keep^=kind]").value = "ending", true)`)
	b.do(chromedp.Click(chromedp.CSS(".wide .button.is-primary")))
	a.until(`document.querySelector("[data-line]").textContent.includes("unsafe act. Does this end the test?")`)
	assert.NotContains(t, c.text(), "Does this end the test?")
	head.until(`document.querySelector("[data-faults]").textContent.includes("unsafe act")`)
	eval[bool](a, `[...document.querySelectorAll("[data-line] button")].find(x => x.textContent === "No, withdraw it").click() || true`)
	b.until(`document.querySelector(".flagged") === null`)
	a.until(everyMark)
	// Nobody reaches a neighbour's sheet.
	mine := strings.Split(eval[string](c, `location.pathname`), "/")[2]
	for _, path := range []string{"/state", "/live", ""} {
		assert.Equal(t, 403, eval[int](a, fmt.Sprintf(`fetch("/scoring/%s/%s%s", {headers: {"Content-Type": "application/json"}}).then(r => r.status)`, mine, r.group, path)))
	}
	for _, path := range []string{"/review/" + r.grading, "/trail?grading=" + r.grading, "/gradings/" + r.grading, "/students"} {
		assert.Equal(t, 403, eval[int](a, fmt.Sprintf(`fetch(%q).then(r => r.status)`, path)))
	}
	head.visit("/review/" + r.grading)
	assert.Contains(t, head.text(), "Sealed until all have signed")
	for _, x := range []*tab{a, b, c} {
		x.submit("[data-sign] button")
		assert.Contains(t, x.text(), "Signed")
	}
	head.visit("/head/" + r.grading)
	head.until(fmt.Sprintf(`document.querySelector('[data-group="%s"]').dataset.stage === "ready"`, r.group))
	s.stop()

	records, err := store.Open(context.Background(), s.db(), time.Now)
	require.NoError(t, err)
	defer records.Close()
	_, rows, err := records.Review(context.Background(), r.grading)
	require.NoError(t, err)
	n := 0
	for _, row := range rows {
		if row.GroupID != r.group {
			continue
		}
		n++
		require.Len(t, row.Test.Sheets, 3)
		for k, sheet := range row.Test.Sheets {
			for i, m := range sheet.Marks {
				require.True(t, m.Seen, "%s, %s, %s", row.Name, sheet.Examiner, row.Test.Items[i].Label)
				want := []int{3, 3, 1}[k]
				assert.Equal(t, scoring.Whole(want), m.Value, "%s, %s, %s", row.Name, sheet.Examiner, row.Test.Items[i].Label)
			}
		}
		assert.True(t, row.Result.Outcome.Promotes(), "two of three pass")
		assert.False(t, row.Result.Tallies[2].Verdict.Passes())
	}
	assert.Equal(t, 2, n)
	deeds, _, err := records.Deeds(context.Background(), store.TrailQuery{Grading: r.grading, Match: func(d store.Deed) bool { return d.Happened.Examiner == r.names[2] }, Limit: 500})
	require.NoError(t, err)
	changes := 0
	for _, d := range deeds {
		if d.Happened.Before != nil {
			changes++
		}
	}
	assert.Equal(t, 2, changes, "both corrections are on record, each once")
}

// TestReadyFromTheMomentOfJoining: a device that has joined loses the network before it has opened any sheet. It
// opens one, marks it, loads it again, and is sent home meanwhile: what it keeps stays on it, is shown, and is taken
// in at the head table. Nothing is sent as somebody else.
func TestReadyFromTheMomentOfJoining(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	head := open(t, s, 1280, 800)
	r := freeRing(head)
	w := newWire(t, s.url)
	x := open(t, &server{t: t, url: w.url()}, 1024, 768)
	x.visit(r.codes[0])
	x.submit("main .button.is-primary")
	x.until(`document.querySelector("[data-ready]").textContent.startsWith("◉ Ready")`)
	w.set(true)
	x.visit("/join")
	require.Contains(t, x.text(), r.names[0], "the groups are there without network")
	x.submit(fmt.Sprintf(`a[href$="/%s"]`, r.group))
	x.until(`document.querySelector(".candidate.at") !== null`)
	const lines = 10 // of two candidates
	x.markLines("2", lines)
	x.until(waiting)
	x.do(chromedp.Reload())
	x.until(`document.querySelector(".candidate.at") !== null`)
	x.until(fmt.Sprintf(`document.querySelector("[data-kept]").textContent.includes("%d kept here: no connection")`, 2*lines))
	require.Equal(t, fmt.Sprint(lines+1), eval[string](x, `document.querySelector("[aria-current] button span").textContent`))

	// Sent home meanwhile: nothing is taken, and nothing falls.
	head.visit("/head/" + r.grading)
	head.submit(`form[action^="/seats/"] button`)
	w.set(false)
	x.until(`document.querySelector('[data-kept] a[href="/kept"]') !== null`)
	x.submit(`[data-kept] a`)
	x.until(fmt.Sprintf(`document.querySelector("[data-sheaf]")?.textContent.includes("Scoring table: %d")`, 2*lines))
	x.accessible("what a device keeps")
	x.visit("/join")
	x.submit(`form[action="/leave"] button`)
	x.visit("/kept") // whoever comes to this device now is the owner
	x.until(`document.querySelector("[data-take]") !== null`)
	require.Contains(t, x.text(), "made by "+r.names[0]+": they go when")
	x.do(chromedp.Click(chromedp.CSS("[data-take]")))
	x.until(`document.querySelector("[data-shelf]").textContent.includes("Nothing waits here")`)
	require.Contains(t, x.text(), fmt.Sprintf("%d taken in of %d.", 2*lines, 2*lines))
	head.visit("/trail")
	require.Contains(t, head.text(), fmt.Sprintf("Took in %d entries that a device of %s had kept", 2*lines, r.names[0]))
	head.visit("/head/" + r.grading)
	head.until(fmt.Sprintf(`document.querySelector('[data-group="%s"] [data-at]').textContent.includes("%d of ")`, r.group, 2*lines))
}

// TestOneExaminerOnTwoDevices: what one device marks shows on the other, and where both mark at
// once the second is told, and nothing is overwritten silently.
func TestOneExaminerOnTwoDevices(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	r := freeRing(x)
	w := newWire(t, s.url)
	one, two := open(t, s, 1024, 768), open(t, &server{t: t, url: w.url()}, 1024, 768)
	r.sit(one, 0)
	x.visit("/head/" + r.grading)
	eval[bool](x, `document.querySelector('form[action$="/codes"] details').open = true`)
	eval[bool](x, fmt.Sprintf(`[...document.querySelectorAll('[name=examiner]')].find(b => b.parentElement.textContent.includes(%q)).checked = true`, r.names[0]))
	x.submit(`form[action$="/codes"] .button`)
	r.codes[0] = regexp.MustCompile(`/join/.*`).FindString(eval[string](x, `document.querySelector(".code-address").textContent`))
	r.sit(two, 0)
	one.keys("3")
	one.until(everyMark)
	two.until(`document.querySelector('.candidate [aria-pressed="true"] b')?.textContent === "3"`)

	w.set(true)
	two.keys(kb.ArrowDown)
	two.keys("1") // the second candidate, while the line is cut
	two.until(waiting)
	one.keys("4")
	one.until(everyMark)
	w.set(false)
	two.until(`document.querySelector("[data-notices]").textContent.includes("another device has marked this since; what stands now is 4")`)
	two.until(`document.querySelectorAll(".candidate")[1].querySelector('[aria-pressed="true"] b')?.textContent === "4"`)
	// Knowing what stands, the examiner may still change it.
	two.keys(kb.ArrowUp)
	two.keys("2")
	two.until(everyMark)
	one.until(`document.querySelectorAll(".candidate")[1].querySelector('[aria-pressed="true"] b')?.textContent === "2"`)
}

// TestOneClock: devices whose own clocks are minutes off show the same time, and follow the caller.
func TestOneClock(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	r := freeRing(x)
	table := open(t, s, 1024, 768)
	_, err := chromedp.Call(table.ctx, page.AddScriptToEvaluateOnNewDocument, page.AddScriptToEvaluateOnNewDocumentParams{Source: `{ const now = Date.now.bind(Date); Date.now = () => now() + 7 * 60_000; }`})
	require.NoError(t, err)
	r.sit(table, 0)
	x.visit("/ring/" + r.id)
	x.until(`document.querySelector("[data-live]").textContent === "◉ live"`)
	x.accessible("caller of a ring")
	x.do(chromedp.SetValue(chromedp.CSS("[data-group]"), r.group))
	eval[bool](x, `document.querySelector("[data-group]").dispatchEvent(new Event("change"))`)
	x.keys(kb.ArrowRight + kb.ArrowRight + kb.ArrowRight + kb.ArrowRight + kb.ArrowLeft + kb.ArrowLeft)
	table.until(`document.querySelector("[data-called]").textContent.startsWith("The caller is at line 3,")`)
	table.keys("g")
	table.until(`document.querySelector("[aria-current] button span").textContent === "3"`)
	// Sides: what is called now, and what comes after it.
	x.until(`document.querySelector("[data-side]").textContent.endsWith("own stance")`)
	eval[bool](x, `document.activeElement.blur() || true`)
	x.keys("o")
	x.until(`document.querySelector("[data-side]").textContent.endsWith("other stance")`)
	x.do(chromedp.SetValue(chromedp.CSS("[name=seconds]"), "90"))
	eval[bool](x, `document.querySelector("[data-set-clock]").requestSubmit() || true`)
	x.until(`document.querySelector("[data-clock]").textContent === "1:30"`)
	x.keys(" ")
	table.until(`/^1:2\d$/.test(document.querySelector("[data-ring-clock]").textContent)`)
	// Both devices read at one instant of this machine: what they show differs by a tick at most.
	read := `(() => { const [m, s] = document.querySelector("[data-ring-clock], [data-clock].big").textContent.split(":"); return performance.timeOrigin + performance.now() + 1000 * (60 * Number(m) + Number(s)) })()`
	ends := eval[float64](x, strings.ReplaceAll(read, `"[data-ring-clock], [data-clock].big"`, `"[data-clock]"`))
	other := eval[float64](table, strings.ReplaceAll(read, `"[data-ring-clock], [data-clock].big"`, `"[data-ring-clock]"`))
	assert.InDelta(t, ends, other, 2100, "ms; both show whole seconds, and a tab in the background ticks once a second")
	// What is counted is held against the same clock, and gives the mark of the rung's table.
	eval[bool](table, `[...document.querySelectorAll("[data-lines] button")].find(b => b.textContent.includes("Press-ups")).click() || true`)
	table.until(`/^aim \d+, [\d.]+ s each; (on pace|\d+ ahead|\d+ behind)$/.test(document.querySelector("[data-pace]")?.textContent ?? "")`)
	eval[bool](table, `document.activeElement.blur() || true`)
	table.keys("ccc")
	table.until(`document.querySelector("[data-pace]").dataset.count === "3"`)
	x.keys(" ")
	table.until(`document.querySelector("[data-ring-clock]").textContent.endsWith("paused")`)
}

// TestPaperSheets types a sheet in, and a second time to compare.
func TestPaperSheets(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	r := freeRing(x)
	x.visit("/gradings/" + r.grading)
	path := eval[string](x, fmt.Sprintf(`[...document.querySelectorAll('a[href^="/paper/"]')].find(a => a.href.endsWith(%q)).getAttribute("href")`, r.group))
	x.visit(path)
	x.until(`document.querySelector(".cell.at") !== null`)
	x.accessible("paper")
	cells := eval[int](x, `document.querySelectorAll(".cell").length`)
	for i := range cells {
		x.keys([]string{"3", "2"}[i%2])
	}
	x.until(`document.querySelector("[data-kept]").textContent === "◉ all stored"`)
	x.until(fmt.Sprintf(`document.querySelector("[data-sum]").textContent.startsWith("%d of %d typed")`, cells, cells))
	x.visit(path + "?twice=1")
	x.until(`document.querySelector(".cell.at") !== null`)
	for i := range cells {
		key := []string{"3", "2"}[i%2]
		if i == 4 || i == 7 {
			key = "4"
		}
		x.keys(key)
	}
	x.until(`document.querySelectorAll(".differs").length === 2`)
	x.accessible("paper, second reading")
	eval[bool](x, `document.querySelector(".differs .choose button:last-child").click() || true`) // take what was typed the second time
	x.until(`document.querySelectorAll(".differs").length === 1`)
	eval[bool](x, `document.querySelector(".differs .choose button").click() || true`) // keep the first
	x.until(`document.querySelectorAll(".differs").length === 0`)
	x.until(`document.querySelector("[data-kept]").textContent === "◉ all stored"`)
	x.submit("[data-checked] button")
	x.visit("/trail?text=second+time")
	assert.Contains(t, x.text(), fmt.Sprintf("%d marks typed, 2 differed", cells))
	x.accessible("trail")
	x.visit(path)
	x.until(`document.querySelectorAll(".cell")[4]?.textContent === "4"`)
}

// TestBoutsAndFaults: points and a fault in a bout, and head contact that ends it.
func TestBoutsAndFaults(t *testing.T) {
	onlyLong(t)
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	r := freeRing(x)
	x.visit("/bouts/" + r.id)
	x.accessible("bouts, none yet")
	pick := func(field string, nth int) {
		eval[bool](x, fmt.Sprintf(`(document.querySelector("[name=%s]").selectedIndex = %d, true)`, field, nth))
	}
	pick("a", 1)
	pick("b", 2)
	x.submit("form .button.is-primary")
	for _, b := range []string{`[data-point="1"][data-side="a"]`, `[data-point="2"][data-side="b"]`, `[data-point="2"][data-side="b"]`, `[data-unpoint][data-side="b"]`} {
		x.do(chromedp.Click(chromedp.CSS(b)))
	}
	x.until(stored)
	x.accessible("bouts")
	x.visit("/bouts/" + r.id)
	assert.Equal(t, "1 2", eval[string](x, `[...document.querySelectorAll(".bout-points")].map(b => b.textContent).join(" ")`))
	eval[bool](x, `(document.querySelector(".bout details").open = true, document.querySelector("[data-fault] [name=conduct]").value = "head", true)`)
	eval[bool](x, `(window.before = true)`)
	x.do(chromedp.Click(chromedp.CSS("[data-fault] .button")))
	x.until(`window.before === undefined && document.body.innerText.includes("Ended")`)
	assert.Contains(t, x.text(), "sign of concussion")
	pick("a", 1)
	pick("b", 2)
	eval[bool](x, `document.querySelector("details").open = true`)
	x.submit("form .button.is-primary")
	assert.Contains(t, x.text(), "does not spar any more today")
}

// TestScreensOfTheDayAreAccessible runs axe-core over what the other tests do not show, at the
// sizes of tablets and phones.
func TestScreensOfTheDayAreAccessible(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/gradings")
	karate := eval[string](x, `[...document.querySelectorAll("main table a")].find(a => a.textContent.includes("Karate")).getAttribute("href").split("/")[2]`)
	x.visit("/lab/" + karate + "?panel=mean&tie=chief&threshold=56")
	assert.Contains(t, x.text(), "would change")
	x.accessible("policy laboratory")
	x.visit("/review/" + karate)
	eval[bool](x, `document.querySelectorAll("details").forEach(d => d.open = true) || true`)
	x.accessible("review, all open")
	x.visit(eval[string](x, `document.querySelector('a[href^="/result/"]').getAttribute("href")`))
	x.accessible("result")
	x.visit("/gradings/new")
	eval[bool](x, `document.querySelectorAll("details").forEach(d => d.open = true) || true`)
	x.accessible("a grading, all open")
	x.visit("/trail?grading=" + karate)
	x.accessible("trail")
	for _, size := range [][2]int64{{1024, 768}, {390, 844}} {
		x.do(chromedp.EmulateViewport(size[0], size[1]))
		for _, path := range []string{s.openTable(), "/head/" + karate, "/lab/" + karate, "/review/" + karate, "/trail"} {
			x.visit(path)
			x.until(`document.readyState === "complete"`)
			if strings.HasPrefix(path, "/scoring/") {
				x.until(`document.querySelector(".candidate.at") !== null`)
			}
			x.accessible(fmt.Sprint(path, size))
			assert.LessOrEqual(t, eval[int](x, `document.documentElement.scrollWidth`), int(size[0]), "%s scrolls sideways at %v", path, size)
		}
	}
}

// TestWhoLeavesComesBackToTheSameSheet: a candidate with marks leaves with a reason that is confirmed; the table hears of it
// by itself, the student's page says so; taken back, the same sheet goes on with the same marks.
func TestWhoLeavesComesBackToTheSameSheet(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	owner := open(t, s, 1280, 800)
	r := freeRing(owner)
	a := open(t, s, 1024, 768)
	r.sit(a, 0)
	a.markLines("3", 4)
	a.until(everyMark)
	people := `[...document.querySelectorAll(".candidate .who bdi")].map(b => b.textContent)`
	names := eval[[]string](a, people)
	gone := names[0]

	owner.visit("/gradings/" + r.grading)
	id := eval[string](owner, fmt.Sprintf(`[...document.querySelectorAll(".leaves form")].find(f => f.querySelector("button").textContent.startsWith(%q)).getAttribute("action").split("/")[2]`, gone))
	form := fmt.Sprintf(`form[action="/candidates/%s/withdraw"]`, id)
	leave := func(reason string, sure bool) {
		t.Helper()
		eval[bool](owner, fmt.Sprintf(`{ const f = document.querySelector(%q); f.closest("details").open = true; f.elements.reason.value = %q; f.elements.sure.checked = %v; true }`, form, reason, sure))
		owner.submit(form + " .button")
	}
	leave("", true)
	require.Contains(t, owner.text(), "say why the test is left, it stays on record")
	leave("a twisted ankle", false)
	require.Contains(t, owner.text(), "4 marks")
	require.Equal(t, "a twisted ankle", eval[string](owner, fmt.Sprintf(`document.querySelector(%q).elements.reason.value`, form)), "what was typed is kept")
	owner.accessible("who leaves")
	require.Equal(t, names, eval[[]string](a, people), "nobody has left yet")
	leave("a twisted ankle", true)
	require.Contains(t, owner.text(), gone+" ")
	require.Contains(t, owner.text(), ": a twisted ankle ·")
	require.Contains(t, owner.text(), "4 marks on record")

	a.until(fmt.Sprintf(`![...document.querySelectorAll(".candidate .who bdi")].some(b => b.textContent === %q)`, gone))
	require.Equal(t, names[1:], eval[[]string](a, people), "the others are where they were")
	student := eval[string](owner, fmt.Sprintf(`[...document.querySelectorAll("ul.rows a.grow")].find(a => a.textContent === %q).getAttribute("href")`, gone))
	owner.visit(student)
	eval[bool](owner, `document.querySelectorAll("details.past").forEach(d => d.open = true), true`)
	require.Regexp(t, `Left .*Stripe evening.* on .*: a twisted ankle \(4 marks on record\)`, owner.text())
	owner.visit("/gradings/" + r.grading)
	owner.submit(fmt.Sprintf(`form[action="/candidates/%s/back"] .button`, id))
	a.until(fmt.Sprintf(`[...document.querySelectorAll(".candidate .who bdi")].some(b => b.textContent === %q)`, gone))
	a.visit(eval[string](a, `location.pathname`))
	a.until(`document.querySelector(".candidate.at") !== null`)
	require.ElementsMatch(t, names, eval[[]string](a, people))
	a.until(everyMark)
	a.markLines("3", 0)
	a.until(everyMark)
	require.Equal(t, "To the signature", eval[string](a, `document.querySelector("[data-next]").textContent`), "nothing marked before is asked again")
	owner.visit(student)
	eval[bool](owner, `document.querySelectorAll("details.past").forEach(d => d.open = true), true`)
	require.NotContains(t, owner.text(), "a twisted ankle")
}
