package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// TestPictures takes the pictures of docs/screenshots from the demo school. It runs on
// request only (make pictures).
func TestPictures(t *testing.T) {
	if os.Getenv("VELVETLADDER_PICTURES") == "" {
		t.Skip("set VELVETLADDER_PICTURES to take the pictures")
	}
	s := startDemo(t) // of a fixed day, so that pictures differ where screens do
	x := open(t, s, 1280, 800)
	shot := func(name string) {
		x.t.Helper()
		x.picture(filepath.Join("..", "..", "docs", "screenshots", name+".png"))
	}
	follow := func(page, find string) {
		x.visit(page)
		x.visit(eval[string](x, `(() => { const a = `+find+`; const u = new URL(a.href); return u.pathname + u.search })()`))
	}
	link := func(words string) string {
		return `[...document.querySelectorAll("a")].find(a => (a.title + a.textContent).includes("` + words + `"))`
	}

	follow("/ladder", link("Orange belt"))
	shot("ladder")
	x.submit(`main a[href^="/binder/"]`)
	x.do(chromedp.Focus(chromedp.CSS(`main [name="page"]`)))
	eval[bool](x, "(() => { const t = document.querySelector('main [name=page]'); t.value = `Kicks\nSkipping heron kick - right leg 5, left leg 5\n\nSelf-defence\n"+
		"1. Grey Sluice for a straight left punch\n2. Closed Weir (rear bear hug). Step, turn, elbow.\nStone Arch: two-hand push\n\nSparring\nLight sparring 2 x 1 min\nFootwork and shadow, 5 & 5`; "+
		"t.dispatchEvent(new Event('input', { bubbles: true })); return true })()")
	x.until(`document.querySelectorAll("[data-binder-read] li").length > 5`)
	eval[bool](x, `document.querySelector("main [name=page]").scrollIntoView(), true`)
	shot("typed-page")
	follow("/techniques", link("Mill Wheel"))
	eval[bool](x, `document.querySelector("#growth").previousElementSibling.scrollIntoView(), true`)
	shot("technique")
	x.visit(eval[string](x, `location.pathname`) + "/prints?who=170&attacker_is=170")
	shot("two-people")
	follow("/techniques", link("Fighting stance"))
	x.visit(eval[string](x, `location.pathname`) + "/stance?who=Teodor&taped_width=27&taped_length=44")
	x.visit(eval[string](x, `location.pathname + location.search + "&beside=" + [...document.querySelectorAll("[name=beside] option")].find(o => o.textContent === "Cat step").value`))
	shot("stance")
	x.visit("/ladder?program=" + eval[string](x, `new URL(`+link("Karate")+`.href).searchParams.get("program")`))
	follow("/techniques", link("First Millstone"))
	x.visit(eval[string](x, `location.pathname`) + "?who=142")
	for range 6 {
		x.keys(kb.ArrowRight)
	}
	x.until(`document.querySelector(".floor-player").dataset.at === "6" && !("gliding" in document.querySelector(".floor-player").dataset)`)
	x.until(`getComputedStyle(document.querySelector("[aria-current=step] button")).backgroundColor === "rgb(58, 26, 51)"`)
	eval[bool](x, `document.querySelector("h1").scrollIntoView(), true`)
	shot("form")
	x.visit("/ladder?program=" + eval[string](x, `new URL(`+link("Kenpo")+`.href).searchParams.get("program")`))
	x.visit("/poster")
	eval[bool](x, `document.querySelector(".poster").scrollIntoView(), true`)
	shot("poster")
	follow("/students?of=everybody", link("Hyacinth Barlow"))
	shot("student")
	x.visit(eval[string](x, `new URL(document.querySelector('a[href^="/practice/"]').href).pathname`))
	shot("practice")
	x.visit("/ladder?program=" + eval[string](x, `new URL(`+link("Kenpo")+`.href).searchParams.get("program")`))
	x.visit("/insights")
	shot("insights")
	class, on := todaysClass(x)
	shot("classes")
	x.do(chromedp.EmulateViewport(390, 844))
	x.visit("/register/" + class + "/" + on)
	for _, n := range []string{"0", "1", "3", "4", "6"} {
		eval[string](x, tapRow+"("+n+")")
	}
	eval[bool](x, `document.querySelectorAll("[data-late]")[6].click() || true`)
	x.until(stored)
	shot("register-phone")
	x.do(chromedp.EmulateViewport(1280, 800))
	follow("/gradings", link("Stripe evening"))
	shot("grading")
	head := eval[string](x, `new URL(document.querySelector('a[href^="/head/"]').href).pathname`)
	table := s.openTable()
	other := open(t, s, 1280, 800) // somebody at the table, so that the head table shows a device on the line
	other.visit(table)
	x.visit(head)
	x.until(`document.querySelector("[data-live]").textContent === "◉ live" && document.querySelector("[data-online]").textContent !== ""`)
	shot("head")
	x.visit(table)
	x.until(`document.querySelector(".candidate.at") !== null`)
	x.keys("3")
	x.until(`document.querySelector("[data-kept]").textContent.includes("all marks stored")`)
	eval[bool](x, `[...document.querySelectorAll("[data-lines] button")].find(b => b.textContent.includes("Combination")).click(), true`)
	shot("scoring-table")

	x.visit("/ladder")
	x.visit("/ladder?program=" + eval[string](x, `new URL(`+link("Karate")+`.href).searchParams.get("program")`))
	follow("/gradings", link("Karate grading"))
	x.visit(eval[string](x, `new URL(`+link("Committee review")+`.href).pathname`))
	shot("review")
	winter := s.grading("Winter grading")
	x.visit("/day/" + winter)
	shot("day")

	x.do(chromedp.EmulateViewport(820, 1180))
	x.visit(table)
	x.until(`document.querySelector(".candidate.at") !== null`)
	shot("table-tablet")

	empty := start(t, "serve", "--db", filepath.Join(t.TempDir(), "school.db"), "--addr", "127.0.0.1:0", "--backups", "off")
	x = open(t, empty, 1280, 800)
	x.visit("/welcome?code=" + empty.code)
	for name, value := range map[string]string{"school": "Quarry Lane", "name": "Petra Holm", "sign_in": "petra", "password": "four odd grain sacks"} {
		x.fill(name, value)
	}
	x.submit("main button")
	eval[bool](x, `(document.querySelector("[value='starter:karate']").click(), true)`)
	x.submit("main .is-primary")
	x.visit("/first-hour")
	shot("first-hour")
}

// print shows pages as a medium does, in a window of a size.
func (x *tab) print(medium string, width, height int64) {
	_, err := chromedp.Call(x.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Media: medium})
	require.NoError(x.t, err)
	x.do(chromedp.EmulateViewport(width, height))
}
