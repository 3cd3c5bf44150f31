package e2e

import (
	"fmt"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
)

// TestFirstClimb goes from an empty database to a promoted student, marks by keyboard only.
func TestFirstClimb(t *testing.T) {
	t.Parallel()
	s := start(t, "serve", "--db", filepath.Join(t.TempDir(), "school.db"), "--addr", "127.0.0.1:0")
	x := open(t, s, 1280, 800)

	x.found("White belt", "Yellow belt")

	// A technique of its own, then two lines typed on the ladder, one naming a new technique.
	x.visit("/techniques/new")
	x.fill("name", "Front kick")
	x.fill("kind", "kick")
	x.fill("checkpoints", "knee high\nball of the foot")
	x.submit("main .button.is-primary")
	x.visit("/ladder")
	x.keys("r")
	x.until(`document.activeElement.name === "technique"`)
	for _, technique := range []string{"Front kick", "Bent Reed"} {
		x.fill("technique", technique)
		x.fill("amount", "5 a side")
		if technique == "Bent Reed" { // new, so its section is chosen; a known one finds its own
			eval[bool](x, `(() => { const s = document.querySelector("#f-section"); s.value = [...s.options].find(o => o.label === "Self-defence").value; return true })()`)
		}
		x.submit("#add button.is-primary")
	}
	page := x.text()
	assert.Contains(t, page, "Front kick")
	assert.Contains(t, page, "Bent Reed")
	assert.Contains(t, strings.ReplaceAll(page, "\n", " "), "2 lines")
	require.Contains(t, x.railCounts(), "Yellow belt: 0 students", "the new lines belong to the rung that is shown")
	rung := eval[string](x, `location.pathname`)

	x.visit("/students/new")
	x.fill("name", "Ada Rill")
	x.fill("birth_date", "2015-03-01")
	x.submit("main .button.is-primary")
	assert.Contains(t, x.railCounts(), "White belt: 1 student")

	x.visit("/gradings/new")
	eval[bool](x, `document.querySelectorAll('[name=rungs]').forEach(b => b.checked = true), document.querySelector('[name=examiner]').value = "C. Vane", true`)
	x.submit("main .button.is-primary")
	eval[bool](x, `document.querySelector('[name=candidates]').checked = true`)
	x.submit("aside .button.is-primary")
	assert.Contains(t, x.text(), "Group 1")
	x.submit("main .head-row .button.is-primary") // open the tables
	require.Contains(t, x.text(), "marks")
	x.submit(".tables a")

	// Signing at once says what is missing, and stays at the sheet.
	x.until(`document.querySelector(".candidate.at") !== null`)
	x.do(chromedp.Click(chromedp.CSS("[data-sign] button")))
	x.until(`document.querySelector("[data-sign-said]").textContent.includes("2 marks are still to be given")`)
	// Mark with keys alone: of one candidate a key a line.
	x.keys("2")
	x.until(`document.querySelector("[aria-current] button").innerText.startsWith("2")`)
	x.until(`document.querySelector(".just b")?.textContent === "2"`)
	x.keys("4")
	x.until(`document.querySelector("[data-kept]").textContent.includes("all marks stored")`)
	x.until(`document.querySelector("[data-left]").textContent === "Every line is marked."`)
	x.accessible("scoring table")
	// A key too many changes nothing. Correct the mark just given; the earlier value stays on record.
	x.keys("1")
	x.until(`document.activeElement === document.querySelector("[data-sign] button")`)
	assert.Equal(t, "4", eval[string](x, `document.querySelector('[aria-pressed="true"] b').textContent`))
	x.keys(kb.ArrowDown + "3")
	x.until(`document.querySelector('[aria-pressed="true"] b')?.textContent === "3"`)
	x.until(`document.querySelector("[data-kept]").textContent.includes("all marks stored")`)
	x.submit("[data-sign] button")
	assert.Contains(t, x.text(), "Signed")
	assert.True(t, eval[bool](x, `[...document.querySelectorAll(".marks-row button")].every(b => b.disabled)`), "a signed sheet is read-only")

	x.visit("/gradings")
	x.submit("main table a")
	x.submit("main .head-row .button.is-primary")
	assert.Contains(t, x.text(), "Committee review")
	assert.Contains(t, x.text(), "1 of 1 pass")
	x.accessible("review")
	x.announce()
	assert.Contains(t, x.text(), "announced")

	assert.Contains(t, x.railCounts(), "White belt: 0 students")
	assert.Contains(t, x.railCounts(), "Yellow belt: 1 student")
	x.visit("/students")
	x.submit("main table a")
	assert.Contains(t, x.text(), "Kenpo: Yellow belt")
	assert.Contains(t, eval[string](x, `document.querySelector(".past").textContent`), "promotion")

	// All of it is still there after a power cut.
	s.kill()
	s.run()
	x.url = s.url
	x.visit(rung)
	assert.Contains(t, x.railCounts(), "Yellow belt: 1 student")
	s.stop()
}

// announce agrees with the one proposal of the review that is open, and makes it known.
func (x *tab) announce() {
	x.t.Helper()
	x.keys("a")
	x.until(`document.body.innerText.includes("Announce 1 decided")`)
	eval[bool](x, `document.querySelector(".announce").open = true`)
	x.submit(".announce form button")
}

// found opens a school with one program and its rungs, from the first page of an empty database.
func (x *tab) found(rungs ...string) {
	x.t.Helper()
	x.visit("/")
	assert.Contains(x.t, x.text(), "This school has no owner yet")
	x.visit("/welcome?code=" + x.code)
	assert.Contains(x.t, x.text(), "Who owns this school?")
	x.accessible("first start")
	x.fill("school", "Test Mill")
	x.fill("name", "Rosa Castell")
	x.fill("sign_in", "rosa")
	x.fill("password", "four odd grain sacks")
	x.submit("main .button.is-primary")
	assert.Contains(x.t, x.text(), "What does your school teach?")
	x.accessible("no program yet")
	x.fill("name", "Kenpo")
	x.submit("main .button.is-primary")
	assert.Contains(x.t, x.text(), "an empty ladder")
	for i, name := range rungs {
		x.visit("/rungs/new")
		x.fill("name", name)
		x.fill("colour", []string{"#ffffff", "#f0c030", "#308040"}[i])
		x.submit("main .button.is-primary")
		assert.Contains(x.t, x.text(), name+"\n")
	}
}

// TestADoublePromotionToTheCertificate: a sheet of highest marks is referred, one rung is promoted at once, a named person
// grants the second with a reason; both rungs stand on the student's page, and both on the certificate.
func TestADoublePromotionToTheCertificate(t *testing.T) {
	t.Parallel()
	s := start(t, "serve", "--db", filepath.Join(t.TempDir(), "school.db"), "--addr", "127.0.0.1:0")
	x := open(t, s, 1280, 800)
	x.found("White belt", "Yellow belt", "Green belt")
	for rung, technique := range map[string]string{"Yellow": "Front kick", "Green": "Low block"} {
		x.visit("/ladder")
		x.visit(eval[string](x, fmt.Sprintf(`[...document.querySelectorAll(".rungs a")].find(a => a.title.startsWith(%q)).getAttribute("href")`, rung)))
		x.keys("r")
		x.until(`document.activeElement.name === "technique"`)
		x.fill("technique", technique)
		x.fill("amount", "5 a side")
		eval[bool](x, `(() => { const s = document.querySelector("#f-section"); s.value = [...s.options].find(o => o.label === "Self-defence").value; return true })()`)
		x.submit("#add button.is-primary")
		require.Contains(t, x.text(), technique)
	}
	x.visit("/students/new")
	x.fill("name", "Ada Rill")
	x.fill("birth_date", "2001-03-01")
	x.submit("main .button.is-primary")
	x.visit("/gradings/new")
	eval[bool](x, `document.querySelectorAll('[name=rungs]').forEach(b => b.checked = true), document.querySelector('[name=examiner]').value = "C. Vane", document.querySelector("[name=double]").checked = true`)
	x.submit("main .button.is-primary")
	grading := eval[string](x, `location.pathname.split("/")[2]`)
	eval[bool](x, `document.querySelector('[name=candidates]').checked = true`)
	x.submit("aside .button.is-primary")
	x.submit("main .head-row .button.is-primary")
	x.submit(".tables a")
	x.until(`document.querySelector(".candidate.at") !== null`)
	x.keys("4")
	x.until(`document.querySelector("[data-kept]").textContent.includes("all marks stored")`)
	x.submit("[data-sign] button")

	x.visit("/review/" + grading)
	require.Contains(t, x.text(), "refer for double promotion")
	x.announce()
	require.Contains(t, x.railCounts(), "Yellow belt: 1 student", "one rung until somebody decides")
	x.visit("/papers/" + grading + "?show=certificates")
	require.NotContains(t, eval[string](x, `document.querySelector("main").textContent`), "Green belt")

	x.visit("/review/" + grading)
	refer := func(why string) {
		eval[bool](x, `{ const f = document.querySelector('form[action$="/referral"]'); f.closest("details").open = true; f.elements.reason.value = `+strconv.Quote(why)+`; true }`)
		x.submit(`form[action$="/referral"] .button.is-primary`)
	}
	refer("")
	require.Contains(t, x.text(), "say why")
	x.accessible("a referral")
	refer("strong in everything")
	require.Contains(t, x.text(), "Double promotion granted by Rosa Castell: strong in everything")
	require.Contains(t, x.railCounts(), "Green belt: 1 student")
	s.kill()
	s.run()
	x.url = s.url
	x.visit("/papers/" + grading + "?show=certificates")
	paper := eval[string](x, `document.querySelector(".paper-previews").textContent.replace(/\s+/g, " ")`)
	require.Contains(t, paper, "Green belt")
	require.Contains(t, paper, "Yellow belt", "both rungs stand on the certificate")
	x.visit("/students")
	x.submit("main table a")
	require.Contains(t, x.text(), "Kenpo: Green belt")
	past := eval[string](x, `document.querySelector(".past table").textContent`)
	require.Contains(t, past, "Yellow belt")
	require.Contains(t, past, "Green belt")
	s.stop()
}

// railCounts is what the rail says of each rung.
func (x *tab) railCounts() string {
	return eval[string](x, `[...document.querySelectorAll(".rungs a")].map(a => a.title).join("; ")`)
}

// TestScreensAreAccessible runs axe-core over every screen of the demo school.
func TestScreensAreAccessible(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/students")
	first := func(page, selector string) string {
		x.visit(page)
		return eval[string](x, fmt.Sprintf(`new URL(document.querySelector(%q).href).pathname`, selector))
	}
	rung := first("/ladder", ".rungs a")
	student := first("/students", "main table a")
	technique := first("/techniques", "main table a")
	gradings := eval[[]string](&tab{t: t, ctx: x.ctx, url: x.url}, `fetch("/gradings").then(r => r.text()).then(t => [...new DOMParser().parseFromString(t, "text/html").querySelectorAll("main table a")].map(a => a.getAttribute("href")))`)
	require.NotEmpty(t, gradings)
	pages := []string{rung, "/sheet/" + filepath.Base(rung), "/rungs/" + filepath.Base(rung), "/rungs/new", "/programs/new", student, student + "/edit", "/students/new", "/students/import",
		"/binder/" + filepath.Base(rung), "/difference/" + filepath.Base(rung), "/booklet/" + filepath.Base(rung), "/booklet", "/check", "/coverage", "/load", "/versions", "/difference", "/glossary", "/files", "/eligible", "/eligible?on=2027-06-01",
		technique, technique + "/edit", "/techniques/new", "/gradings", "/gradings/new", "/find?q=mill", "/find?q=", "/no/such/page"}
	for _, g := range gradings[:min(len(gradings), 5)] {
		pages = append(pages, g, "/review/"+filepath.Base(g))
	}
	for i, p := range pages {
		if golden.Sample(i, 3) {
			x.visit(p)
			x.accessible(p)
		}
	}
	x.visit(rung)
	program := eval[string](x, `new URL(document.querySelector(".programs a[href^='/programs/']").href).pathname`)
	x.visit(program)
	x.accessible(program)
	x.visit(rung + "?section=#add")
	x.accessible("quick entry")
	x.visit(eval[string](x, `new URL(document.querySelector(".asks a").href).pathname`))
	x.accessible("requirement")
}

// TestListsAndKeys walks a list with the arrow keys, filters as one types, and shows the keys.
func TestListsAndKeys(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/students")
	x.keys(kb.ArrowDown + kb.ArrowDown)
	assert.Equal(t, eval[string](x, `document.querySelectorAll("main [data-row]")[1].innerText`), eval[string](x, `document.activeElement.innerText`))
	eval[bool](x, `document.querySelector("[data-filter]").focus(), true`)
	x.keys("okon")
	x.until(`[...document.querySelectorAll("tbody tr")].filter(r => !r.hidden).length === 1`)
	x.keys(kb.Escape)
	x.keys("?")
	x.until(`document.querySelector("dialog[open]")?.innerText.includes("find anything")`)
	x.keys(kb.Escape)
	x.keys("/")
	x.until(`document.activeElement.id === "find"`)
	x.do(chromedp.SetValue(chromedp.CSS("#find"), "mill wheel"))
	x.keys(kb.Enter)
	x.until(`document.querySelector("h1").innerText.includes("mill wheel")`)
	assert.Contains(t, x.text(), "Mill Wheel")
}
