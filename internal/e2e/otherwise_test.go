package e2e

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// pageOfAStranger is a belt as another school writes it, under its own headings.
const pageOfAStranger = `Yellow belt requirements
Round about
2 x 60 secs light contact
Set yourself free
Wrist lock, lock, 3 each hand
Reed Cut 2 each side, must
Your partner takes one wrist.
Press the thumb to the throat.
Kicks
Jumping front kick 5 each leg
Heart and lungs
20 squats in 60 secs
Total 100 marks`

// TestASchoolThatWritesOtherwise: from an empty school with sections of its own names, through a
// page typed as it stands, to check, sheet, sign-off, plan and family page; no form is opened to
// mend a kind.
func TestASchoolThatWritesOtherwise(t *testing.T) {
	t.Parallel()
	s := start(t, "serve", "--db", filepath.Join(t.TempDir(), "school.db"), "--addr", "127.0.0.1:0")
	x := open(t, s, 1280, 800)
	x.visit("/welcome?code=" + x.code)
	x.fill("school", "Weir House")
	x.fill("name", "Odo Brand")
	x.fill("sign_in", "odo")
	x.fill("password", "four odd grain sacks")
	x.submit("main .button.is-primary")
	x.fill("name", "River way")
	x.submit("main .button.is-primary")
	program := eval[string](x, `document.querySelector('main [name="program"], [name="program"]')?.value ?? ""`)
	for _, name := range []string{"No belt", "Yellow belt"} {
		x.visit("/rungs/new")
		x.fill("name", name)
		if name == "Yellow belt" { // the cloth follows the name, and is seen to
			eval[bool](x, `document.querySelector('main [name="name"]').dispatchEvent(new Event("input", { bubbles: true }))`)
			x.until(`document.querySelector('[name="colour"]').value === "#efc231" && document.querySelector("[data-preview] rect").getAttribute("fill") === "#efc231"`)
		}
		x.submit("main .button.is-primary")
	}
	rung := eval[string](x, `[...document.querySelectorAll(".rungs a")].find(a => a.title.startsWith("Yellow")).pathname.split("/").at(-1)`)
	x.visit("/ladder")
	if program == "" {
		program = eval[string](x, `[...document.querySelectorAll('a[href^="/programs/"]')].map(a => a.pathname.split("/").at(-1)).find(id => id !== "new")`)
	}
	for _, of := range [][2]string{{"Sparring", "Round about"}, {"Self-defence", "Set yourself free"}, {"Fitness", "Heart and lungs"}} {
		x.visit("/programs/" + program)
		eval[bool](x, fmt.Sprintf(`(() => { const i = [...document.querySelectorAll('form[action*="/sections"] [name="name"]')].find(i => i.value === %q); i.value = %q; i.form.querySelector("button").id = "rename"; return true })()`, of[0], of[1]))
		x.submit("#rename")
		require.Contains(t, eval[[]string](x, `[...document.querySelectorAll('form[action*="/sections"] [name="name"]')].map(i => i.value)`), of[1])
	}

	aSectionOfItsOwn(x, "/binder/"+rung)
	x.visit("/binder/" + rung)
	x.until(`document.activeElement?.id === "f-page" && document.activeElement.value === ""`)
	x.keys(strings.ReplaceAll(pageOfAStranger, "\n", kb.Enter))
	x.until(`document.querySelector("[data-binder-sum]").textContent === "5 lines, all understood"`)
	x.accessible("a stranger's page, read")
	read := eval[[]string](x, `[...document.querySelectorAll("[data-binder-read] > li:not(.head)")].map(l => [...l.childNodes].map(n => n.textContent).join(" ").replace(/\s+/g, " "))`)
	require.Len(t, read, 7, "the title and the sum are set aside, and shown so")
	assert.Contains(t, read[0], "the title of the page")
	assert.Contains(t, read[3], "Your partner takes one wrist. / Press the thumb to the throat.", "sentences are its steps")
	assert.Contains(t, read[4], "jumping")
	kinds := eval[[]string](x, `[...document.querySelectorAll("[data-binder-read] .kind-of")].map(s => s.value)`)
	assert.Equal(t, []string{"sparring round", "lock or hold", "self-defence technique", "kick", "fitness item"}, kinds)
	x.keys(kb.Control + kb.Enter)
	eval[bool](x, `document.querySelector("[data-binder]")?.requestSubmit() ?? true`)
	x.until(`location.pathname.startsWith("/ladder/")`)

	x.visit("/check")
	check := x.text()
	for _, said := range []string{"joint locks (a lock or hold)", "jumping and spinning (jumping: Jumping front kick)", "sparring (a sparring round)", "Neither this rung nor one below lists kit."} {
		assert.Contains(t, check, said)
	}
	cautions := []string{"Agree a tap and a word first", "clear landing", "stop word", "shown, not struck", "Stop on pain or dizziness"}
	x.visit("/sheet/" + rung)
	for _, said := range append(cautions, "Press the thumb to the throat", "2 × 60 s", "light contact", "20 in 60 s") {
		assert.Contains(t, x.text(), said, "the sheet")
	}

	x.visit("/students/new")
	x.fill("name", "Ivy Marsh")
	x.fill("birth_date", "2012-05-05")
	x.submit("main .button.is-primary")
	x.visit("/classes/new")
	today := time.Now()
	x.fill("name", "Evening")
	x.fill("kind", "General")
	x.fill("weekday", fmt.Sprint((int(today.Weekday())+6)%7+1))
	x.fill("start", "18:30")
	x.fill("minutes", "60")
	x.fill("from", today.AddDate(0, 0, -60).Format(time.DateOnly))
	x.submit("main .button.is-primary")
	on := today.Format(time.DateOnly)
	x.visit("/classes?on=" + on)
	class := eval[string](x, `document.querySelector('a[href^="/register/"]').pathname.split("/")[2]`)
	x.visit("/plan/" + class + "/" + on)
	plan := x.text()
	for _, said := range []string{"Reed Cut", "Agree a tap and a word first", "shown, not struck"} {
		assert.Contains(t, plan, said, "the plan")
	}
	x.visit("/register/" + class + "/" + on)
	const stored = `document.querySelector("[data-kept]").textContent.includes("all stored")`
	eval[bool](x, `document.querySelector('.here-list li[data-student] .tap').click() || true`)
	x.until(stored + ` && document.querySelector("[data-count]").textContent === "1"`)
	x.visit("/signoffs/" + class + "/" + on)
	require.Equal(t, 5, eval[int](x, `document.querySelectorAll("[data-technique]").length`))
	for _, said := range cautions {
		assert.Contains(t, eval[string](x, `document.querySelector("main").textContent`), said, "where it is signed off")
	}
	eval[bool](x, `(() => { const d = [...document.querySelectorAll("[data-technique]")].find(d => d.dataset.name === "Reed Cut"); d.open = true; d.querySelector(".yes").click(); return true })()`)
	x.until(stored + ` && [...document.querySelectorAll("[data-technique]")].find(d => d.dataset.name === "Reed Cut").querySelector(".yes").getAttribute("aria-pressed") === "true"`)
	s.kill()
	s.restart()
	x.visit("/students")
	x.submit("main table a")
	item := eval[string](x, `[...document.querySelectorAll(".asked .rows li")].find(l => l.textContent.includes("Reed Cut")).textContent`)
	assert.Contains(t, item, "shown")
	sheet := eval[string](x, `[...document.querySelectorAll('a[href^="/practice/"]')].map(a => a.pathname)[0]`)
	x.visit(sheet)
	home := x.text()
	for _, said := range []string{"Jumping front kick", "clear landing", "Wrist lock", "Agree a tap and a word first", "Stop on pain or dizziness"} {
		assert.Contains(t, home, said, "for home")
	}
}

// aSectionOfItsOwn makes a section of a heading that the program does not know, and another kind of a line, beside the page as it is read; what
// is typed stays, and nothing says that it was lost.
func aSectionOfItsOwn(x *tab, page string) {
	x.t.Helper()
	x.visit(page)
	x.until(`document.activeElement?.id === "f-page"`)
	x.keys(strings.ReplaceAll("COMBATIVES\nPalm heel, 5 a side\nReaping leg", "\n", kb.Enter))
	x.until(`document.querySelector(".new-section") !== null`)
	x.accessible("a heading that is asked about")
	eval[bool](x, `(document.querySelector(".new-section select").value = "strike") !== ""`)
	x.submit(".new-section button")
	x.until(`document.querySelectorAll("[data-binder-read] .kind-of").length === 2`)
	assert.Contains(x.t, x.text(), "Combatives is a section now.")
	assert.Equal(x.t, "COMBATIVES\nPalm heel, 5 a side\nReaping leg", eval[string](x, `document.querySelector("[data-binder]").elements.page.value`))
	assert.False(x.t, eval[bool](x, `document.querySelector(".kept-typing") !== null`))
	eval[bool](x, `(() => { const s = [...document.querySelectorAll(".kind-of")].at(-1); s.value = "throw or takedown"; return s.dispatchEvent(new Event("change")) })()`)
	x.until(`[...document.querySelectorAll("[data-binder-read] .kind-of")].at(-1).value === "throw or takedown" && document.querySelector("[data-binder]").elements.page.value.endsWith("\nReaping leg [kind throw or takedown]")`)
	x.visit(page)
	x.until(`document.querySelector(".kept-typing") !== null`)
	assert.True(x.t, eval[bool](x, `document.querySelector("[data-binder]").elements.page.value.endsWith("[kind throw or takedown]")`), "left without saving, it is kept")
	eval[bool](x, `document.querySelector(".kept-typing button").click() || true`)
	x.until(`document.querySelector("[data-binder]").elements.page.value === ""`)
}
