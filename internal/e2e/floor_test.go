package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// find is the address of a link by its words, in a list that is open.
const find = `(words) => { const a = [...document.querySelectorAll("main a")].find((a) => a.textContent.trim() === words); const u = new URL(a.href); return u.pathname + u.search }`

// TestPlayedOnTheFloor: a defence is stepped through with keys and by itself, from above and from the side, for other bodies, full screen
// and in still pictures; where less motion is asked for it jumps.
func TestPlayedOnTheFloor(t *testing.T) {
	t.Parallel()
	x := open(t, startDemo(t), 1280, 800)
	x.visit("/techniques?text=Mill+Wheel")
	wheel := eval[string](x, `(`+find+`)("Mill Wheel")`)
	x.visit(wheel + "?who=170&attacker_is=170")
	x.until(`document.querySelector(".floor-player").dataset.at === "0"`)
	foot := `document.querySelector('.scene.above [data-foot="0"]').getAttribute("transform")`
	head := `[...document.querySelectorAll(".scene.above .other .head")].map((h) => h.getAttribute("cy")).join()`
	began, stood := eval[string](x, foot), eval[string](x, head)
	x.keys(kb.ArrowRight)
	x.until(`document.querySelector(".floor-player").dataset.at === "1" && ` + head + ` !== "` + stood + `"`)
	assert.Contains(t, eval[string](x, `document.querySelector("[data-now]").textContent`), "drop step")
	assert.Equal(t, "1", eval[string](x, `String([...document.querySelectorAll("[data-step]")].findIndex((s) => s.getAttribute("aria-current") === "step"))`))
	x.keys(kb.ArrowLeft)
	x.until(head + ` === "` + stood + `"`)
	x.keys("v")
	x.until(`document.querySelector(".from-above").offsetParent === null && document.querySelector(".from-side").offsetParent !== null`)
	x.keys("v")
	eval[bool](x, `document.querySelector("[data-tempo]").value = "80", document.querySelector("[data-play]").click(), true`)
	x.until(`document.querySelector(".floor-player").dataset.at === "2"`)
	x.keys("p")
	x.until(`document.querySelector("[data-play]").textContent.includes("Play")`)
	eval[bool](x, `[...document.querySelectorAll("[data-step] button")].at(-1).click(), true`)
	x.until(foot + ` !== "` + began + `"`)
	x.accessible("a defence on the floor")
	x.visit(wheel + "/floor?who=142&attacker_is=158")
	x.until(`document.querySelector(".floor-player").dataset.at === "0"`)
	x.accessible("full screen")
	assert.LessOrEqual(t, eval[int](x, `document.documentElement.scrollWidth`), 1280)
	x.visit(wheel + "/prints")
	x.accessible("still pictures")
	// Less motion: the frame is there at once.
	_, err := chromedp.Call(x.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{{Name: "prefers-reduced-motion", Value: "reduce"}}})
	require.NoError(t, err)
	x.visit(wheel + "?who=170&attacker_is=170")
	x.until(`document.querySelector(".floor-player").dataset.at === "0"`)
	moved := eval[string](x, `document.querySelector("[data-after]").click(), `+head)
	assert.NotEqual(t, stood, moved)
	assert.Equal(t, moved, eval[string](x, head))
	x.do(chromedp.EmulateViewport(390, 844))
	x.visit(wheel)
	assert.LessOrEqual(t, eval[int](x, `document.documentElement.scrollWidth`), 390, "no sideways scroll on a phone")
	assert.GreaterOrEqual(t, eval[int](x, `Math.round(document.querySelector(".scene text").getBoundingClientRect().height)`), 12)
}

// TestWalkedByTheCaller: while a form is called move by move it is drawn on the floor, each move where it is done; a combination that was
// drawn by lot is played too.
func TestWalkedByTheCaller(t *testing.T) {
	t.Parallel()
	x := open(t, startDemo(t), 1280, 800)
	x.visit("/ladder")
	rung := eval[string](x, `new URL([...document.querySelectorAll(".rungs a")].find((a) => a.textContent.includes("Orange") && !a.title.includes("stripe")).href).pathname`)
	x.visit("/caller/" + strings.TrimPrefix(rung, "/ladder/"))
	x.until(`document.querySelector("[data-word]").textContent.trim() !== ""`)
	eval[bool](x, `document.querySelector(".caller-more").open = true, document.querySelector("[data-walk]").click(), true`)
	eval[bool](x, `document.querySelector("[data-section]").value = "Forms", document.querySelector("[data-section]").dispatchEvent(new Event("change")), document.querySelector(".caller-more").open = false, true`)
	next := `document.querySelector("[data-on]").click(), true`
	for range 2 { // past the opening, into the form
		eval[bool](x, next)
	}
	x.until(`document.querySelector(".caller-stage .floor-player")?.dataset.at === "1" && !document.querySelector(".caller-stage").hidden`)
	assert.Equal(t, "left low block", eval[string](x, `document.querySelector("[data-word]").textContent`))
	eval[bool](x, next)
	x.until(`document.querySelector(".caller-stage .floor-player").dataset.at === "2"`)
	x.accessible("a form that is walked")
	assert.Contains(t, eval[string](x, `document.querySelector("[data-on-floor]").href`), "/floor")
	x.visit("/combinations?draw=3")
	x.keys(kb.ArrowRight)
	x.until(`document.querySelector(".floor-player").dataset.at === "1"`)
	x.accessible("a combination that was drawn")
}

// TestAStanceAsOneTypes: its measures are drawn while they are typed, what cannot be is said, and they are saved; measured on the mat it
// goes on a student's record; the tape marks and the poster are there to be printed.
func TestAStanceAsOneTypes(t *testing.T) {
	t.Parallel()
	x := open(t, startDemo(t), 1280, 800)
	x.visit("/techniques?kind=stance")
	stance := eval[string](x, `(`+find+`)("Fighting stance")`)
	x.visit(stance)
	x.accessible("a stance")
	x.follow("To scale, for anybody")
	x.accessible("a stance to scale")
	eval[bool](x, `document.querySelector("#measures").open = true`)
	x.accessible("the measures of a stance")
	picture := `document.querySelector('[data-picture="Above"]').innerHTML`
	was := eval[string](x, picture)
	x.fill("length", "4.5")
	eval[bool](x, `document.querySelector("[name=length]").dispatchEvent(new Event("input", { bubbles: true })), true`)
	x.until(`document.querySelector("[data-answers]").textContent.includes("leg cannot reach")`)
	assert.NotEqual(t, was, eval[string](x, picture))
	x.fill("length", "long")
	eval[bool](x, `document.querySelector("[name=length]").dispatchEvent(new Event("input", { bubbles: true })), true`)
	x.until(`document.querySelector("[data-answers]").textContent.includes("is not a number")`)
	x.submit("#measures .button.is-primary")
	assert.Contains(t, x.text(), "is not a number")
	assert.Equal(t, "long", eval[string](x, `document.querySelector("[name=length]").value`), "what was typed is kept")
	x.fill("length", "1.4")
	x.submit("#measures .button.is-primary")
	assert.Contains(t, x.text(), "1.4 shoulders long")
	x.visit(stance + "/stance?who=Teodor&taped_width=27")
	x.submit("#mat form[method=post] .button.is-primary")
	assert.Contains(t, x.text(), "Measured Fighting stance of Teodor Vance on the mat")
	assert.Contains(t, x.text(), "6.5 cm too narrow")
	x.visit(stance + "/tape?who=142")
	x.accessible("tape marks")
	x.visit("/poster")
	x.accessible("the poster")
	for _, wide := range []int64{320, 390} {
		x.do(chromedp.EmulateViewport(wide, 844))
		x.visit(stance + "/stance")
		assert.LessOrEqual(t, eval[int64](x, `document.documentElement.scrollWidth`), wide, "no sideways scroll")
	}
}
