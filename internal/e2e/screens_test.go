package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const allStored = `document.querySelector("[data-kept]").textContent.includes("all marks stored")`

// TestMarksOutliveTheServer goes on marking while the program is dead and expects every mark
// to arrive exactly once when it is back.
func TestMarksOutliveTheServer(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	table := s.openTable()
	x := open(t, s, 1280, 800)
	x.visit(table)
	x.until(`document.querySelector(".candidate.at") !== null`)
	eval[bool](x, `document.querySelector("[data-lines] button").click(), true`)
	was := s.state(table)
	n := len(was.Candidates)
	require.GreaterOrEqual(t, n, 2)
	marks := "4041"[:n]
	want := strings.Join(strings.Split(marks, ""), ",")
	s.kill()
	for i := range n { // the line is marked: a key changes the mark of whom one has gone to
		x.keys(strings.Repeat(kb.ArrowDown, i+1) + marks[i:i+1])
	}
	x.until(fmt.Sprintf(`document.querySelector("[data-kept]").textContent.includes("%d kept here: no connection")`, n))
	assert.Equal(t, n, eval[int](x, `document.querySelectorAll("button.pending").length`), "what is not stored is not shown as stored")
	assert.Equal(t, 0, eval[int](x, `document.querySelectorAll('[aria-pressed="true"]').length`))
	s.restart()
	x.until(allStored)
	assert.Equal(t, want, eval[string](x, `[...document.querySelectorAll('[aria-pressed="true"] b')].map(b => b.textContent).join()`))
	after := s.state(table)
	places := map[string]bool{}
	for _, m := range append(was.Marks, after.Marks...) {
		places[m.Candidate+m.Item] = true
	}
	assert.Len(t, after.Marks, len(places), "one mark stands in each place")
	x.visit(table)
	x.until(`document.querySelector(".candidate") !== null`)
	eval[bool](x, `document.querySelector("[data-lines] button").click(), true`)
	assert.Equal(t, want, eval[string](x, `[...document.querySelectorAll('[aria-pressed="true"] b')].map(b => b.textContent).join()`))
}

// largestTable is the first table of the largest group on a grading's page.
const largestTable = `new URL([...document.querySelectorAll(".group")].sort((a, b) => b.querySelectorAll("ol li").length - a.querySelectorAll("ol li").length)[0].querySelector(".tables a").href).pathname`

// TestCategoryPoints uses the keys of half points, not seen, note, fault and taking back.
func TestCategoryPoints(t *testing.T) {
	onlyLong(t)
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/ladder")
	x.visit(eval[string](x, `(() => { const u = new URL([...document.querySelectorAll(".programs a")].find(a => a.textContent === "Karate").href); return u.pathname + u.search })()`))
	x.visit("/gradings")
	x.visit(eval[string](x, `new URL([...document.querySelectorAll("main table a")].find(a => a.textContent === "Karate grading").href).pathname`))
	review := eval[string](x, `new URL(document.querySelector(".head-row .button.is-primary").href).pathname`)
	x.visit(eval[string](x, largestTable))
	x.until(`document.querySelector(".candidate") !== null`)
	x.keys("5")
	assert.Equal(t, 0, eval[int](x, `document.querySelectorAll(".pending").length`), "a signed sheet takes no marks")
	eval[bool](x, `document.querySelector(".sign details").open = true`)
	x.submit(".sign details .button")
	assert.Contains(t, x.text(), "say why the sheet is opened again")
	eval[bool](x, `document.querySelector("[name=reason]").value = "two were swapped", true`)
	x.submit(".sign details .button")
	x.until(`document.querySelector(".marks-row button")?.disabled === false`)

	// A line that all of the group are asked: of some a retest asks only a part.
	eval[bool](x, `[...document.querySelectorAll("[data-lines] button")].some(b => { b.click(); return !document.querySelector("[data-line]").textContent.match(/is not asked|it stands/) })`)
	pressed := `[...document.querySelectorAll(".candidate")].map(c => c.querySelector('[aria-pressed="true"]')?.innerText.trim() ?? "-").join()`
	first := eval[string](x, pressed)
	require.NotEmpty(t, first)
	x.keys(kb.ArrowDown + "7")
	x.keys(".")
	x.until(allStored + ` && ` + pressed + `.startsWith("7½")`)
	x.keys(".")
	x.until(allStored + ` && ` + pressed + `.startsWith("7,")`)
	x.keys(kb.ArrowDown + "x")
	x.until(allStored + ` && ` + pressed + `.startsWith("10,")`)
	x.keys(".")
	assert.Contains(t, eval[string](x, pressed), "10,", "nothing lies above the highest mark")
	x.keys(kb.ArrowDown + kb.ArrowDown + "n") // of the second
	x.until(allStored + ` && ` + pressed + `.includes(",not seen")`)
	x.keys(kb.Backspace)
	x.until(`document.querySelector("[data-left]").textContent === "1 mark still to be given."`)
	x.until(allStored)
	x.keys("m")
	x.until(`document.activeElement.id.startsWith("note-")`)
	x.do(chromedp.SetValue(chromedp.CSS(".wide input"), "looked at the wrong one"))
	x.keys(kb.Enter)
	x.until(allStored + ` && [...document.querySelectorAll(".remark")].some(r => r.textContent.includes("looked at the wrong one"))`)
	x.keys("6")
	x.until(allStored + ` && document.querySelector("[data-left]").textContent === "Every line is marked."`)
	assert.Contains(t, x.text(), "looked at the wrong one", "the note stays with the corrected mark")

	x.keys("f")
	x.until(`document.activeElement.id.startsWith("conduct-")`)
	eval[bool](x, `document.querySelector(".wide [data-keep^=conduct]").value = "", document.querySelector(".wide [data-keep^=kind]").value = "deduction", true`)
	eval[bool](x, `document.querySelector(".wide [inputmode]").value = "lots", true`)
	x.do(chromedp.Click(chromedp.CSS(".wide .button.is-primary")))
	x.until(`document.querySelector(".wide .said").textContent.includes("lots is no deduction")`)
	eval[bool](x, `document.querySelector(".wide [inputmode]").value = "0,5", true`)
	x.do(chromedp.Click(chromedp.CSS(".wide .button.is-primary")))
	x.until(`document.querySelector(".wide .said").textContent.includes("Say what was seen")`)
	x.do(chromedp.SetValue(chromedp.CSS(".wide input[maxlength]"), "too hard a touch"))
	x.do(chromedp.Click(chromedp.CSS(".wide .button.is-primary")))
	x.until(`[...document.querySelectorAll(".flagged")].some(r => r.textContent.includes("−0.5: too hard a touch"))`)
	x.until(allStored)
	x.submit("[data-sign] button")
	x.visit(review)
	assert.Contains(t, x.text(), "fault: −0.5 points, too hard a touch")
	assert.Contains(t, eval[string](x, `document.querySelector(".review").textContent`), "looked at the wrong one")
}

// TestDecideOtherwise decides against the proposal by keys: a reason is asked for.
func TestDecideOtherwise(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/gradings")
	reviews := eval[[]string](x, `[...document.querySelectorAll("main table a")].filter(a => a.textContent === "Karate grading").map(a => new URL(a.href).pathname.replace("gradings", "review"))`)
	x.visit(reviews[0])
	undecided := eval[int](x, `[...document.querySelectorAll("[data-candidate]")].findIndex(c => c.querySelector(".other"))`)
	require.GreaterOrEqual(t, undecided, 0)
	x.keys(strings.Repeat("j", undecided))
	x.keys("o")
	x.until(`document.activeElement.name === "outcome"`)
	// What is decided moves down the list, so the row is found by its name.
	row := eval[string](x, fmt.Sprintf(`"#" + document.querySelectorAll("[data-candidate]")[%d].id + " "`, undecided))
	proposal := eval[string](x, `document.querySelector('`+row+`.why p').innerText`)
	other := "promote"
	if !strings.Contains(proposal, "retest") {
		other = "retest"
	}
	x.do(chromedp.SetValue(chromedp.CSS(row+"select"), other))
	x.submit(row + ".other .button.is-primary")
	assert.Contains(t, x.text(), "differs from what the marks propose")
	assert.Equal(t, other, eval[string](x, `document.querySelector('`+row+`select').value`), "the choice is kept")
	eval[bool](x, `document.querySelector('`+row+`[name=reason]').value = "seen on another day", true`)
	x.submit(row + ".other .button.is-primary")
	assert.Contains(t, eval[string](x, `document.querySelector('`+row+`.decide').innerText`), "seen on another day")
	x.until(`document.querySelector("` + row + `").classList.contains("at")`)
	x.keys("u")
	x.until(`document.querySelector("` + row + `.other") !== null`)
	x.keys("m")
	x.until(`document.querySelector("` + row + `.all-marks").open`)
}

// TestReorderAndUndo moves requirements with keys and with the mouse, and takes it back.
func TestReorderAndUndo(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 1400)
	x.visit("/ladder")
	x.visit(eval[string](x, `new URL([...document.querySelectorAll(".rungs a")].find(a => a.title.startsWith("Orange belt")).href).pathname`))
	order := `[...document.querySelectorAll(".asks:nth-of-type(3) li[data-move] bdi")].map(b => b.textContent).join()`
	require.Equal(t, "Hammer fist,Spear hand", eval[string](x, order))
	eval[bool](x, `document.querySelector(".asks:nth-of-type(3) li[data-move] a").focus(), (window.before = true)`)
	x.do(chromedp.KeyEvent(kb.ArrowDown, chromedp.KeyModifiers(chromedp.ModifierAlt)))
	x.until(`window.before === undefined && ` + order + ` === "Spear hand,Hammer fist"`)
	x.submit(".done button")
	assert.Equal(t, "Hammer fist,Spear hand", eval[string](x, order))
	// The same by dragging, as the browser tells a page of it.
	eval[bool](x, `(() => {
		window.before = true;
		const [first, second] = document.querySelectorAll(".asks:nth-of-type(3) li[data-move]"), data = new DataTransfer();
		first.dispatchEvent(new DragEvent("dragstart", {bubbles: true, dataTransfer: data}));
		second.dispatchEvent(new DragEvent("dragover", {bubbles: true, cancelable: true, dataTransfer: data}));
		second.dispatchEvent(new DragEvent("drop", {bubbles: true, cancelable: true, dataTransfer: data}));
		return true })()`)
	x.until(`window.before === undefined && ` + order + ` === "Spear hand,Hammer fist"`)
}

// TestSingleKeysCanBeSwitchedOff and letters typed into fields stay letters.
func TestSingleKeysCanBeSwitchedOff(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/students")
	eval[bool](x, `document.querySelector("#f-text").focus(), true`)
	x.keys("n/?")
	assert.Equal(t, "n/?", eval[string](x, `document.querySelector("#f-text").value`))
	assert.Equal(t, "/students", eval[string](x, `location.pathname`))
	x.keys(kb.Escape + "?")
	x.until(`document.querySelector("dialog[open]") !== null`)
	x.do(chromedp.Click(chromedp.CSS("#keys-off")))
	x.keys(kb.Escape)
	x.until(`document.querySelector("dialog[open]") === null`)
	x.keys("n")
	assert.Equal(t, "/students", eval[string](x, `location.pathname`))
	eval[bool](x, `localStorage.clear(), true`)
	eval[bool](x, `(window.before = true)`)
	x.keys("n")
	x.until(`window.before === undefined && location.pathname === "/students/new"`)
}

// TestStudentsFromAFile chooses a file, looks at the preview, adds the good rows, and takes
// them back.
func TestStudentsFromAFile(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	file := filepath.Join(t.TempDir(), "students.csv")
	require.NoError(t, os.WriteFile(file, []byte("\xEF\xBB\xBFname;birth_date;program;rung\r\nEve Race;2016-04-30;Kenpo;White belt\r\nعلي;2015-01-31;Kenpo;White belt\r\nIvo Lock;31.04.2016;Kenpo;White belt\r\n"), 0o600))
	x.visit("/students/import")
	before := x.countOn("White belt")
	x.do(chromedp.SetUploadFiles(chromedp.CSS("#f-file"), []string{file}))
	x.submit("main form .button.is-primary")
	assert.Contains(t, x.text(), "2 rows to read in")
	assert.Contains(t, x.text(), `"31.04.2016"; write it as YYYY-MM-DD`)
	x.accessible("preview of an import")
	assert.Equal(t, before, x.countOn("White belt"), "a preview stores nothing")
	x.keys("a")
	x.until(`location.pathname === "/students"`)
	assert.Equal(t, before+2, x.countOn("White belt"))
	assert.Contains(t, x.text(), "Added 2 students")
	x.submit(".done button")
	assert.Equal(t, before, x.countOn("White belt"))
}

// countOn is the number the rail shows beside a rung.
func (x *tab) countOn(rung string) int {
	return eval[int](x, fmt.Sprintf(`Number([...document.querySelectorAll(".rungs a")].find(a => a.title.startsWith(%q)).querySelector(".count").innerText || "0")`, rung))
}

// TestTheClothFollowsTheForm draws a belt while it is described.
func TestTheClothFollowsTheForm(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/rungs/new")
	colours := `[...document.querySelectorAll("[data-preview] rect")].map(r => r.getAttribute("fill")).join()`
	plain := eval[string](x, colours)
	eval[bool](x, `(() => {
		const f = document.querySelector("[data-belt]");
		for (const [name, value] of Object.entries({weave: "core_line", colour: "#102030", second: "#aabbcc", mark_count: "2", mark_colour: "#ff8800"})) f.elements[name].value = value;
		f.dispatchEvent(new Event("input", {bubbles: true}));
		return true })()`)
	drawn := eval[string](x, colours)
	assert.NotEqual(t, plain, drawn)
	assert.Contains(t, drawn, "#102030,#aabbcc,#ff8800,#ff8800")
	x.fill("name", "Dusk belt")
	x.submit("main .button.is-primary")
	assert.Contains(t, x.railCounts(), "Dusk belt: 0 students")
	assert.Contains(t, eval[string](x, `document.querySelector(".rungs .here svg").innerHTML`), "#aabbcc")
}
