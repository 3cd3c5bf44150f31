package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
)

// TestPictures takes the pictures of docs/screenshots from the demo school. It runs on
// request only (make pictures).
func TestPictures(t *testing.T) {
	if os.Getenv("VELVETLADDER_PICTURES") == "" {
		t.Skip("set VELVETLADDER_PICTURES to take the pictures")
	}
	s := startDemo(t)
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
	eval[bool](x, `document.querySelector("#add").open = true, document.querySelector("#add").scrollIntoView({block: "end"}), true`)
	x.do(chromedp.SetValue(chromedp.CSS("#f-technique"), "Mill Wh"), chromedp.SetValue(chromedp.CSS("#f-amount"), "lots"))
	x.submit("#add button.is-primary")
	eval[bool](x, `document.querySelector("#add").scrollIntoView({block: "end"}), true`)
	shot("quick-entry")
	follow("/ladder", link("Orange belt"))
	x.visit(eval[string](x, `new URL(`+link("Test sheet")+`.href).pathname`))
	shot("test-sheet")
	follow("/techniques", link("Combination 7"))
	shot("technique")
	x.visit("/students")
	shot("students")
	follow("/students?of=everybody", link("Malachi Brandt"))
	shot("student")
	x.visit("/students/import")
	x.do(chromedp.SetValue(chromedp.CSS("#f-text"), "name,birth_date,program,rung\nEve Race,2016-04-30,Kenpo,White belt\nIvo Lock,30.04.2016,Kenpo,White belt\nUma Ford,2015-01-31,Kenpo,Mauve belt\n"))
	x.submit("main form .button.is-primary")
	shot("import")

	follow("/gradings", link("Stripe evening"))
	shot("grading")
	x.visit(eval[string](x, `new URL(document.querySelectorAll(".tables a")[1].href).pathname`))
	x.until(`document.querySelector(".candidate.at") !== null`)
	x.keys("3")
	x.until(`document.querySelector("[data-kept]").textContent.includes("all marks stored")`)
	eval[bool](x, `[...document.querySelectorAll("[data-lines] button")].find(b => b.textContent.includes("Combination")).click(), true`)
	shot("scoring-table")
	x.do(chromedp.EmulateViewport(390, 844))
	shot("scoring-table-phone")
	x.do(chromedp.EmulateViewport(1280, 800))
	follow("/gradings", link("Autumn grading"))
	x.visit(eval[string](x, `new URL(`+link("Committee review")+`.href).pathname`))
	shot("review")

	x.visit("/ladder?program=" + eval[string](x, `new URL(`+link("Karate")+`.href).searchParams.get("program")`))
	follow("/gradings", link("Karate grading"))
	review := eval[string](x, `new URL(`+link("Committee review")+`.href).pathname`)
	table := eval[string](x, `new URL(document.querySelector(".tables a").href).pathname`)
	x.visit(review)
	shot("review-points")
	x.visit(table)
	x.until(`document.querySelector(".candidate") !== null`)
	eval[bool](x, `document.querySelector(".sign details").open = true, document.querySelector("[name=reason]").value = "two candidates were swapped", true`)
	x.submit(".sign details .button")
	x.until(`document.querySelector(".candidate.at") !== null`)
	x.keys("8")
	x.keys(".")
	x.until(`document.querySelector("[data-kept]").textContent.includes("all marks stored")`)
	shot("scoring-table-points")
	x.do(chromedp.EmulateViewport(390, 844))
	follow("/ladder", link("Yellow belt"))
	shot("ladder-phone")
}
