package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"unicode"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// follow opens the page that a link of the page leads to, by its words or title.
func (x *tab) follow(words string) {
	x.t.Helper()
	x.visit(eval[string](x, fmt.Sprintf(`(() => { const a = [...document.querySelectorAll("a")].find(a => (a.title + a.textContent).includes(%q)); const u = new URL(a.href); return u.pathname + u.search + u.hash })()`, words)))
}

// pageOfABelt is a whole belt as it stands in a ring binder.
const pageOfABelt = `stances
cat step, 30 s
horse stance, 60 s, weight 2
strikes
jab, 12 a side, must
cross, 12 a side
palm strike, on pads
hammer fist, on pads
ridge hand, 6 a side
kicks
front kick, 12 a side, must
round kick, on pads
side kick, level mid
blocks
low block, 12 a side
inward parry
mill brush parry, slowly
combinations
combination 7
combination 8, again
mill race 31: lead jab, rear cross / rear front kick mid
mill race 32: slide back lead low block, rear palm strike high
self-defence
mill wheel, as defender, must
mill wheel, as attacker
two oars, as defender, not for cubs
bent reed, as defender
fitness
press-ups, 18 in 60 s, bonus
knowledge
three rules of the mill
when to walk away, from questions
what a tap means
courtesy
bow and introduction`

// headingsOfABelt is how many lines of the page are headings.
const headingsOfABelt = 9

// TestAPageAtWritingSpeed types a whole belt with the keyboard alone and counts the keys.
func TestAPageAtWritingSpeed(t *testing.T) {
	t.Parallel()
	x := open(t, startDemo(t), 1280, 800)
	x.visit("/ladder")
	x.follow("Green belt")
	was := eval[int](x, `document.querySelectorAll(".asks ol > li").length`)
	x.keys("b")
	x.until(`document.activeElement?.id === "f-page"`)
	eval[bool](x, `(window.pressed = 1, addEventListener("keydown", () => window.pressed++, true), true)`) // the key that opened the page is one
	shifts := 0
	for i, line := range strings.Split(pageOfABelt, "\n") {
		if i > 0 {
			x.keys("\r")
		}
		x.keys(line)
		for _, r := range line {
			if unicode.IsUpper(r) {
				shifts++
			}
		}
	}
	require.Equal(t, pageOfABelt, eval[string](x, `document.activeElement.value`))
	// The answer to what was typed last, not to the page as it stood a moment before.
	lines := strings.Count(pageOfABelt, "\n") + 1 - headingsOfABelt
	x.until(fmt.Sprintf(`document.querySelector("[data-binder-sum]").textContent === "%d lines, all understood"`, lines))
	assert.Equal(t, lines+1, eval[int](x, `document.querySelectorAll("[data-binder-read] > li:not(.head)").length`), "and what the belt asks besides")
	assert.Contains(t, eval[string](x, `document.querySelector("[data-binder-read] > li:last-child").innerText`), "Green belt asks besides: ")
	assert.Equal(t, headingsOfABelt, eval[int](x, `document.querySelectorAll("[data-binder-read] > li.head").length`))
	assert.GreaterOrEqual(t, lines, 25)
	count := func(said string) int {
		return eval[int](x, fmt.Sprintf(`[...document.querySelectorAll("[data-binder-read] > li")].filter((l) => l.innerText.includes(%q)).length`, said))
	}
	changed, stands := count("in place of"), count("asked here already")
	assert.Positive(t, changed, "which the belt asks otherwise")
	keys := eval[int](x, `window.pressed`) + shifts + 2 // Ctrl and Enter
	per := float64(keys) / float64(len(pageOfABelt))
	t.Logf("%d lines: %d keys for %d characters, %.3f keys a character", lines, keys, len(pageOfABelt), per)
	assert.LessOrEqual(t, per, 1.15)
	x.accessible("binder page, typed")
	eval[bool](x, `window.before = true`)
	x.do(chromedp.KeyEvent(kb.Enter, chromedp.KeyModifiers(2)))
	x.until(`window.before === undefined`)
	assert.Contains(t, x.text(), fmt.Sprintf("Typed a page for Green belt: %d requirements added, %d changed", lines-changed-stands, changed))
	assert.Greater(t, eval[int](x, `document.querySelectorAll(".asks ol > li").length`), was)
	assert.Contains(t, x.text(), "mill race 31")
	x.submit(".done button")
	assert.NotContains(t, x.text(), "mill race 31")
}

// TestMovesAsOneTypes completes names, shows the strip, marks the error under its character,
// and keeps what was typed when the server refuses it.
func TestMovesAsOneTypes(t *testing.T) {
	t.Parallel()
	x := open(t, startDemo(t), 1280, 800)
	x.visit("/techniques/new")
	x.fill("name", "Combination 99")
	eval[bool](x, `document.querySelector("[name=kind]").value = "combination", document.querySelector("[name=stage_0_steps]").focus(), true`)
	x.keys("lead ja")
	x.until(`!document.querySelector(".offers").hidden && document.querySelector(".offers li").textContent === "Jab"`)
	assert.Greater(t, eval[int](x, `Math.round(document.activeElement.offsetWidth * 100 / document.querySelector("main form").offsetWidth)`), 85, "a line of moves has the width of the form")
	x.accessible("names offered")
	x.keys("\t")
	x.keys(", rear rou")
	x.until(`document.querySelector(".offers li")?.textContent === "Round kick" && !document.querySelector(".offers").hidden`)
	x.keys(kb.ArrowDown + "\t")
	x.keys(" high!")
	x.until(`document.querySelector(".live .prompts")?.innerText.includes("rear round kick!")`)
	assert.Equal(t, "lead Jab, rear Round kick high!", eval[string](x, `document.activeElement.value`))
	x.keys("\rlead nonsense")
	x.until(`document.querySelector(".live pre")?.textContent.startsWith("lead nonsense\n")`) // not of "lead n"
	assert.Equal(t, []string{"lead nonsense", "     ^"}, strings.Split(eval[string](x, `document.querySelector(".live pre").textContent`), "\n")[:2])
	x.accessible("an error under its character")
	x.submit("main form .button.is-primary")
	assert.Contains(t, x.text(), "step 2, column 6")
	assert.Contains(t, eval[string](x, `document.querySelector("[name=stage_0_steps]").value`), "lead nonsense", "what was typed is kept")
	x.fill("stage_0_steps", "lead jab, rear round kick high!\nslide back")
	x.submit("main form .button.is-primary")
	assert.Contains(t, x.text(), "rear round kick!")
	x.follow("right foot forward")
	assert.Contains(t, x.text(), "left round kick!")
	assert.Contains(t, x.text(), "the right foot forward")
}

// TestTheCurriculumFromTheHomeScreen walks from the ladder to every place of the curriculum
// and back: a track, reasons, the check with a silence undone, a version published, a file
// taken out and put in.
func TestTheCurriculumFromTheHomeScreen(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/ladder")
	x.follow("Orange belt")
	x.follow("Cubs")
	x.do(chromedp.Click(chromedp.CSS(".asks .why summary")))
	x.until(`document.querySelector(".why[open] li") !== null`)
	x.accessible("why a line is there")
	x.keys("d")
	x.until(`document.querySelector("h1")?.innerText.includes("beyond Orange stripe")`)
	x.follow("Check")
	assert.Contains(t, x.text(), "2 holes in the ladder")
	eval[bool](x, `document.querySelector(".findings details").open = true`)
	x.accessible("silencing a finding")
	eval[bool](x, `document.querySelector(".findings [name=reason]").value = "13 is left out on purpose", true`)
	x.submit(".findings form .button.is-primary")
	assert.Contains(t, x.text(), "1 hole in the ladder")
	x.submit(".done button")
	assert.Contains(t, x.text(), "2 holes in the ladder")
	x.follow("Coverage")
	x.visit(eval[string](x, `document.querySelector(".coverage .answer").closest("a").getAttribute("href")`))
	assert.Contains(t, x.text(), "The attack")
	x.visit("/versions")
	assert.Contains(t, x.text(), "Version 1 is the draft")
	x.visit("/files")
	file := eval[string](x, `fetch("/files/curriculum.json").then(r => r.text())`)
	path := filepath.Join(t.TempDir(), "curriculum.json")
	require.NoError(t, os.WriteFile(path, []byte(strings.Replace(file, `"name": "Jab"`, `"name": "Long jab"`, 1)), 0o600))
	x.do(chromedp.SetUploadFiles(chromedp.CSS("#f-curriculum"), []string{path}))
	x.submit("main form[action='/files/curriculum'] .button.is-primary")
	assert.Contains(t, x.text(), "is not in the catalogue", "moves still say Jab")
	require.NoError(t, os.WriteFile(path, []byte(strings.Replace(file, `"reps": 10`, `"reps": 11`, 1)), 0o600))
	x.do(chromedp.SetUploadFiles(chromedp.CSS("#f-curriculum"), []string{path}))
	x.submit("main form[action='/files/curriculum'] .button.is-primary")
	assert.Contains(t, x.text(), "It takes the place of the draft of this program")
	x.accessible("preview of a curriculum")
	x.submit("main form.actions .button.is-primary")
	assert.Contains(t, x.text(), "Read in the curriculum of Kenpo")
	s.kill()
	s.restart()
	x.visit("/versions")
	assert.Contains(t, x.text(), "The draft has changed", "it is there after a power cut")
	x.fill("note", "eleven")
	x.submit("aside .button.is-primary")
	assert.Contains(t, x.text(), "Version 2 is the draft")
	assert.Equal(t, strings.Replace(file, `"reps": 10`, `"reps": 11`, 1), eval[string](x, `fetch("/files/curriculum.json").then(r => r.text())`))
}

// TestTermsAndPrintedPages narrows the glossary as one types, and looks at glossary, booklet
// and sheet as a printer does: no rail, no bars, nothing to press.
func TestTermsAndPrintedPages(t *testing.T) {
	onlyLong(t)
	t.Parallel()
	x := open(t, startDemo(t), 1280, 800)
	x.visit("/ladder")
	x.follow("Taekwondo")
	x.visit("/glossary")
	eval[bool](x, `document.querySelector("[data-filter]").focus(), true`)
	x.keys("dollyeo")
	x.until(`[...document.querySelectorAll("tr[data-text]")].filter(r => !r.hidden).length === 1`)
	assert.Contains(t, eval[string](x, `document.querySelector("tr[data-text]:not([hidden])").innerText`), "돌려차기")
	x.keys(kb.Escape)
	x.visit("/ladder")
	x.follow("Blue belt")
	rung := eval[string](x, `location.pathname.split("/").at(-1)`)
	x.print("print", 794, 1123)
	for _, page := range []string{"/glossary", "/booklet", "/booklet/" + rung, "/sheet/" + rung} {
		x.visit(page)
		for _, gone := range []string{".rail", ".top", ".within", ".choice", "main .button"} {
			assert.True(t, eval[bool](x, fmt.Sprintf(`[...document.querySelectorAll(%q)].every(e => e.offsetParent === null)`, gone)), "%s prints %s", page, gone)
		}
		assert.LessOrEqual(t, eval[int](x, `document.documentElement.scrollWidth`), 794, page)
		assert.NotEqual(t, "none", eval[string](x, `getComputedStyle(document.querySelector("main table")).display`), page)
	}
	assert.Contains(t, x.text(), "Free bout")
}

// TestAHurtStudent records an adaptation in the browser: it stands on the student's sheet,
// what is wrong is told in its place, and it can be taken back.
func TestAHurtStudent(t *testing.T) {
	t.Parallel()
	x := open(t, startDemo(t), 1280, 800)
	x.visit("/students?of=everybody&text=malachi")
	x.visit(eval[string](x, `new URL(document.querySelector("main table a").href).pathname`))
	form := `main form[action$="/adapt"]`
	set := func(name, value string) {
		eval[bool](x, fmt.Sprintf(`(() => { const f = document.querySelector(%q); f.closest("details").open = true; f.elements[%q].value = %q; return true })()`, form, name, value))
	}
	set("what", "Fornt kick")
	set("does", "change")
	set("amount", "2 a side")
	set("reason", "hip")
	x.submit(form + " .button")
	assert.Contains(t, x.text(), `"Fornt kick" is no technique of this program; near it are Front kick`)
	assert.Equal(t, "hip", eval[string](x, fmt.Sprintf(`document.querySelector(%q).elements.reason.value`, form)), "what was typed is kept")
	x.accessible("an adaptation that was refused")
	set("what", "Front kick")
	x.submit(form + " .button")
	assert.Contains(t, x.text(), "Front kick: 2 a side")
	x.follow("Test sheet for")
	assert.Contains(t, x.text(), "◈ adapted 2 a side instead of")
	x.accessible("a student's own sheet")
	x.visit(eval[string](x, `new URL(document.querySelector("main h1 a").href).pathname`))
	x.submit(`main form[action^="/adaptations/"] .button`)
	assert.True(t, eval[bool](x, `document.querySelector('main form[action^="/adaptations/"]') === null`), "it stays on record, ended")
	x.follow("Test sheet for")
	assert.NotContains(t, x.text(), "adapted")
}

// TestATrackAndWhatItChanges adds a track to the program, changes a requirement for it, and
// finds both on the rung.
func TestATrackAndWhatItChanges(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/ladder")
	x.visit(eval[string](x, `new URL(document.querySelector(".within a[href^='/programs/']").href).pathname`))
	eval[bool](x, `(() => { const f = document.querySelector("form[action$='/details']").elements;
		f.track_3_name.value = "Seniors"; f.track_3_from.value = "60"; f.track_2_to.value = "59"; return true })()`)
	x.submit(`form[action$="/details"] .button.is-primary`)
	x.accessible("a program with four tracks")
	x.visit("/ladder")
	x.follow("Orange belt")
	x.visit(eval[string](x, `new URL([...document.querySelectorAll("li[data-move] a.what")].find(a => a.textContent.includes("Hammer fist")).href).pathname`))
	eval[bool](x, `(() => { const f = document.querySelector(".sheet-form").elements;
		f.track_3_amount.value = "4 a side"; f.carry.value = "until"; f.carry_rung.value = [...f.carry_rung.options].find(o => o.text === "Green belt").value; return true })()`)
	x.submit(".sheet-form .button.is-primary")
	x.follow("Seniors")
	row := `[...document.querySelectorAll(".asks li")].find(l => l.textContent.includes("Hammer fist"))`
	assert.Contains(t, eval[string](x, row+`.textContent`), "4 a side")
	assert.Contains(t, eval[string](x, row+`.querySelector(".why").textContent`), "Seniors do 4 a side instead of 10 a side.")
	s.kill()
	s.restart()
	x.visit("/ladder")
	x.follow("Green belt")
	assert.Contains(t, eval[string](x, row+`.querySelector(".why").textContent`), "Carried from Orange belt, until Green belt.")
}

// TestTheTableTellsOneCandidateApart: on the mat the examiner sees how a line is done and
// who does it differently.
func TestTheTableTellsOneCandidateApart(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/eligible")
	names := eval[[]string](x, `[...document.querySelectorAll("main section:first-of-type tbody tr")].filter(r => r.children[2].textContent.includes("Yellow belt")).map(r => r.querySelector("a").textContent)`)
	require.GreaterOrEqual(t, len(names), 2)
	x.follow(names[0])
	eval[bool](x, `(() => { const f = document.querySelector('main form[action$="/adapt"]'); f.closest("details").open = true;
		f.elements.what.value = "Front kick"; f.elements.does.value = "change"; f.elements.amount.value = "1 a side"; f.elements.reason.value = "knee"; return true })()`)
	x.submit(`main form[action$="/adapt"] .button`)
	x.visit("/gradings/new")
	eval[bool](x, `[...document.querySelectorAll("label")].find(l => l.textContent.trim() === "Yellow belt").querySelector("input").checked = true, document.querySelector("[name=examiner]").value = "C. Vane", true`)
	x.submit("main .button.is-primary")
	eval[bool](x, `[...document.querySelectorAll("[name=candidates]")].filter(b => !b.closest("details")).forEach(b => b.checked = true), true`)
	x.submit("aside .button.is-primary")
	x.submit("main .head-row .button.is-primary")
	assert.Contains(t, x.text(), "version 1")
	table := eval[string](x, fmt.Sprintf(`new URL([...document.querySelectorAll(".group")].find(g => g.textContent.includes(%q)).querySelector(".tables a").href).pathname`, names[0]))
	x.visit(table)
	x.until(`document.querySelector(".candidate") !== null`)
	eval[bool](x, `[...document.querySelectorAll("[data-lines] button")].find(b => b.textContent.includes("Front kick")).click(), true`)
	x.until(`document.querySelector(".own") !== null`)
	own := eval[string](x, `[...document.querySelectorAll(".own")].map(o => o.closest(".candidate").querySelector("b").textContent + " " + o.textContent).join()`)
	assert.Contains(t, own, names[0])
	assert.Contains(t, own, "adapted: 1 a side instead of")
	x.accessible("a table with an adapted line")
}

// TestWhoMayTest asks for a day, finds who is nearly there, waives a rule for one of them with
// a reason, and sees it stand after a power cut and go when it is withdrawn.
func TestWhoMayTest(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/ladder")
	x.follow("Karate")
	x.visit("/students")
	x.keys("m")
	x.until(`document.querySelector("h1")?.innerText.startsWith("Who may be tested on")`)
	notYet := `[...document.querySelectorAll("main section")].find(s => s.querySelector("h2").textContent.startsWith("Not yet"))`
	x.fill("on", "1999-01-01")
	x.submit("main .filter .button")
	require.True(t, eval[bool](x, notYet+` !== undefined`), "long ago nobody was ready")
	assert.NotContains(t, x.text(), "May be tested")
	all := eval[int](x, `document.querySelectorAll("main tbody tr").length`)
	eval[bool](x, `document.querySelector("[data-filter]").focus(), true`)
	x.keys("noor")
	x.until(`[...document.querySelectorAll("tr[data-text]")].filter(r => !r.hidden).length === 1`)
	x.fill("on", "2100-01-01")
	x.submit("main .filter .button")
	assert.Equal(t, all, eval[int](x, `document.querySelectorAll("main tbody tr").length`))
	assert.False(t, eval[bool](x, `/months? since the last promotion:/.test(document.querySelector("main").innerText)`), "one day everybody has waited long enough")

	// A rule that nobody meets yet, for the next rung of everybody who stands on white.
	x.visit("/ladder")
	x.follow("Red belt")
	x.follow("Change")
	x.fill("rule_days_since", "3000")
	x.submit("main .sheet-form .button.is-primary")
	x.visit("/versions")
	eval[bool](x, `document.querySelector("[name=everyone]").checked = true, true`)
	x.submit("aside .button.is-primary")
	x.visit("/eligible")
	require.True(t, eval[bool](x, notYet+` !== undefined`))
	x.visit(eval[string](x, `[...`+notYet+`.querySelectorAll("a")].at(-1).getAttribute("href")`))
	student := eval[string](x, `location.pathname`)
	assert.Contains(t, x.text(), "days since the last promotion")
	eval[bool](x, `(() => { const f = document.querySelector('form[action$="/waive"]'); f.closest("details").open = true; f.elements.rule.value = "days_since"; return true })()`)
	x.submit(`form[action$="/waive"] .button`)
	assert.Contains(t, x.text(), "it is shown for ever")
	x.accessible("a waiver without a reason")
	eval[bool](x, `(() => { const f = document.querySelector('form[action$="/waive"]'); f.elements.rule.value = "days_since"; f.elements.reason.value = "taught elsewhere for years"; return true })()`)
	x.submit(`form[action$="/waive"] .button`)
	assert.Contains(t, x.text(), "waived: taught elsewhere for years")
	s.kill()
	s.restart()
	x.visit(student)
	assert.Contains(t, x.text(), "taught elsewhere for years")
	eval[bool](x, `document.querySelector(".past").open = true`)
	x.submit(`form[action^="/given/"] .button`)
	eval[bool](x, `document.querySelector(".past").open = true`)
	assert.Contains(t, x.text(), "· withdrawn")
	assert.NotContains(t, eval[string](x, `document.querySelector(".may-test").textContent`), "waived:")
}
