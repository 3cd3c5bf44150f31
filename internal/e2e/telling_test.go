package e2e

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// bringUp brings an empty school to a program with a stranger's curriculum: a lock of moves and
// sentences, a numbered combination, a form, and a child who stands with the right foot forward.
func bringUp(t *testing.T) (s *server, x *tab, yellow string) {
	s = start(t, "serve", "--db", filepath.Join(t.TempDir(), "school.db"), "--addr", "127.0.0.1:0")
	x = open(t, s, 1280, 800)
	x.visit("/welcome?code=" + x.code)
	for name, value := range map[string]string{"school": "Reed Hall", "name": "Rosa Castell", "sign_in": "rosa", "password": "four odd grain sacks"} {
		x.fill(name, value)
	}
	x.submit("main .button.is-primary")
	x.fill("name", "Reed")
	x.submit("main .button.is-primary")
	for i, name := range []string{"White belt", "Yellow belt"} {
		x.visit("/rungs/new")
		x.fill("name", name)
		x.fill("colour", []string{"#ffffff", "#f0c030"}[i])
		x.submit("main .button.is-primary")
	}
	for _, technique := range [][3]string{
		{"Sleeve hold", "lock", ""}, {"Jab", "strike", ""}, {"Cross", "strike", ""},
		{"Reed lock", "lock", "Take the wrist.\nlead sleeve hold keep\nTurn it out, slowly.\nrear sleeve hold\nPress behind the shoulder.!\nlead free\nLet go on the tap."},
		{"Weir", "form", "from ready: left step, right cross\nturn cw 180 right jab in right front stance, step through left cross"},
	} {
		x.visit("/techniques/new")
		x.fill("name", technique[0])
		x.fill("kind", technique[1])
		if technique[2] != "" {
			x.fill("stage_0_steps", technique[2])
		}
		x.submit("main form .button.is-primary")
		require.Contains(t, eval[string](x, `document.querySelector("h1").innerText`), technique[0], x.text())
	}
	x.visit("/ladder")
	x.follow("Yellow belt")
	yellow = eval[string](x, `location.pathname.split("/").at(-1)`)
	x.visit("/binder/" + yellow)
	x.fill("page", "Combinations\nMill drill 12, 2 a side: lead jab, rear cross / left jab\nSelf-defence\nReed lock, 3 a side, slowly\nForms\nWeir\nKicks\nFront kick, 4 each leg")
	x.submit("main form .button.is-primary")
	require.Contains(t, x.text(), "Added 4 requirements")
	x.visit("/students/new")
	x.fill("name", "Ada Rill")
	x.fill("birth_date", "2017-03-01")
	x.fill("stance", "southpaw")
	x.submit("main .button.is-primary")
	return s, x, yellow
}

// What a southpaw is told of the three, step by step, wherever it is told.
var (
	toldLock  = []string{"Take the wrist.", "right sleeve hold", "Turn it out, slowly.", "left sleeve hold", "Press behind the shoulder.!", "free right sleeve hold", "Let go on the tap."}
	toldDrill = []string{"right jab", "left cross", "right jab"}
	toldForm  = []string{"left step", "right cross", "right jab", "left cross"} // a form is never mirrored for a person
)

// TestASouthpawChild: parent's phone, caller at home, ring, own sheet and paper tell the same
// limbs and steps.
func TestASouthpawChild(t *testing.T) {
	t.Parallel()
	s, x, yellow := bringUp(t)
	x.visit("/students")
	student := eval[string](x, `new URL(document.querySelector("main table a").href).pathname`)
	x.visit("/techniques")
	x.follow("Mill drill 12")
	assert.Contains(t, x.text(), "number 12 of Mill drill")

	// The child's own sheet.
	x.visit("/sheet/" + yellow + "?student=" + filepath.Base(student))
	cells := func(call string) []string {
		return eval[[]string](x, fmt.Sprintf(`(() => { const row = [...document.querySelectorAll("tr, .task, li.task")].find(r => r.querySelector("bdi")?.textContent.startsWith(%q)); return [...row.querySelector(".prompts").children].map(c => c.querySelector("b").textContent) })()`, call))
	}
	check := func(where string) {
		t.Helper()
		assert.Equal(t, toldLock, cells("Reed lock"), where)
		assert.Equal(t, toldDrill, cells("Mill drill 12"), where)
		assert.Equal(t, toldForm, cells("Weir"), where)
	}
	check("own sheet")
	assert.Contains(t, x.text(), "4 each leg")
	x.accessible("own sheet")

	// Practice sheet and the parent's phone.
	x.visit(student)
	x.follow("Practice sheet")
	check("practice sheet")
	assert.Contains(t, x.text(), "4 times with each leg")
	x.fill("who", "Grandfather")
	x.submit(`form[action$="/link"] .button`)
	link := strings.TrimPrefix(eval[string](x, `document.querySelector(".made code").textContent`), s.url)
	phone := open(t, s, 390, 844)
	phone.visit(link)
	owner := x
	x = phone
	check("the family's phone")
	assert.LessOrEqual(t, eval[int](x, `document.documentElement.scrollWidth`), 390)
	x.accessible("the family's phone")

	// The caller at home: her stance is chosen, sets are two, the second exchanges left and right.
	x.visit(link + "/caller")
	assert.Equal(t, "southpaw", eval[string](x, `document.querySelector("[data-stance]").value`))
	seen := map[string][]string{}
	for range 4 {
		seen[eval[string](x, `document.querySelector("[data-word]").textContent`)] = eval[[]string](x, `[...document.querySelectorAll("[data-moves] b")].map(b => b.textContent)`)
		x.do(chromedp.Click(chromedp.CSS("[data-on]")))
	}
	assert.Equal(t, toldLock, seen["Reed lock"])
	assert.Equal(t, toldDrill, seen["Mill drill 12"])
	assert.Equal(t, toldForm, seen["Weir"])
	assert.LessOrEqual(t, eval[int](x, `document.documentElement.scrollWidth`), 390)
	x.accessible("caller at home")
	// Said by its number, once it is known.
	eval[bool](x, `(() => { const s = document.querySelector("[data-say]"); s.value = "numbers"; s.dispatchEvent(new Event("change")); return true })()`)
	words := map[string]bool{}
	for range 5 {
		words[eval[string](x, `document.querySelector("[data-word]").textContent`)] = true
		x.do(chromedp.Click(chromedp.CSS("[data-back]")))
	}
	assert.True(t, words["12"], words)
	// A form walked move by move says what was and what comes.
	eval[bool](x, `(() => { document.querySelector(".caller-more").open = true; const w = document.querySelector("[data-walk]"); w.click(); const only = document.querySelector("[data-section]"); only.value = "Forms"; only.dispatchEvent(new Event("change")); return true })()`)
	walked := []string{}
	for range toldForm {
		x.do(chromedp.Click(chromedp.CSS("[data-on]")))
		walked = append(walked, eval[string](x, `document.querySelector("[data-word]").textContent`))
	}
	assert.Equal(t, toldForm, walked)
	assert.Equal(t, "was: right jab · the last move", eval[string](x, `document.querySelector("[data-how]").textContent`))

	// The grading: ring, scoring table and paper.
	x = owner
	x.visit("/gradings/new")
	eval[bool](x, `[...document.querySelectorAll("label")].find(l => l.textContent.trim() === "Yellow belt").querySelector("input").checked = true, document.querySelector("[name=examiner]").value = "C. Vane", true`)
	x.submit("main .button.is-primary")
	grading := eval[string](x, `location.pathname.split("/").at(-1)`)
	eval[bool](x, `document.querySelectorAll("[name=candidates]").forEach(b => { b.checked = true; const r = b.closest("tr, li")?.querySelector("[name^=reason]"); if (r) r.value = "asked for" }), true`)
	x.submit("aside .button.is-primary")
	x.submit("main .head-row .button.is-primary")
	table := eval[string](x, `new URL(document.querySelector(".tables a").href).pathname`)
	x.visit(table)
	x.until(`document.querySelector(".candidate.at") !== null`)
	eval[bool](x, `[...document.querySelectorAll("[data-lines] button")].find(b => b.textContent.includes("Reed lock")).click() || true`)
	x.until(`document.querySelector(".prompts")?.children.length === 7`)
	assert.Equal(t, []string{"Take the wrist.", "lead sleeve hold", "Turn it out, slowly.", "rear sleeve hold", "Press behind the shoulder.!", "free lead sleeve hold", "Let go on the tap."}, eval[[]string](x, `[...document.querySelectorAll(".prompts b")].map(b => b.textContent)`), "neutral words stand large")
	assert.Equal(t, "right forward: right sleeve hold", eval[string](x, `document.querySelectorAll(".prompts .both")[0].lastChild.textContent`), "both readings small")
	assert.Contains(t, x.text(), "right foot forward", "the candidate's stance is told")
	x.accessible("a lock at the table")
	x.visit("/head/" + grading)
	x.visit(eval[string](x, `document.querySelector("a[href^='/ring/']").getAttribute("href")`))
	x.until(`document.querySelector("[data-live]").textContent === "◉ live"`)
	called := map[string]bool{}
	for range 4 {
		word := eval[string](x, `document.querySelector("[data-word]").textContent`)
		count := eval[string](x, `document.querySelector("[data-count]").textContent`)
		called[word] = true
		switch {
		case strings.HasPrefix(word, "Reed lock"):
			assert.Len(t, eval[[]string](x, `[...document.querySelectorAll("[data-moves] > li")].map(b => b.textContent)`), 7)
			assert.Equal(t, "3 times, 1 of 2", count, "one candidate: as asked")
		case strings.HasPrefix(word, "Front kick"):
			assert.Equal(t, "4 times, 1 of 2", count)
			assert.Contains(t, x.text(), "lead leg")
		}
		if len(called) < 4 {
			x.do(chromedp.Click(chromedp.CSS("button[data-on]")))
			x.until(fmt.Sprintf(`document.querySelector("[data-word]").textContent !== %q`, word))
		}
	}
	assert.Len(t, called, 4)
	x.visit("/papers/" + grading + "?show=scoresheets")
	paper := strings.Join(strings.Fields(eval[string](x, `[...document.querySelectorAll("svg text")].map(t => t.textContent).join(" ")`)), " ")
	for i, step := range []string{"Take the wrist.", "lead sleeve hold (keep)", "Turn it out, slowly.", "rear sleeve hold", "Press behind the shoulder.!", "free lead sleeve hold", "Let go on the tap."} {
		assert.Contains(t, paper, fmt.Sprintf("%d. %s", i+1, step))
	}
	assert.Contains(t, paper, "right foot forward: Take the wrist. / right sleeve hold (keep)")
}
