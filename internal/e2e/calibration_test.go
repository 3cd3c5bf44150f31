package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestCalibration: three devices mark one clip, one of them cut off for half of it; nobody sees another's marks before
// they have finished; then everybody sees themselves beside the others, the owner too.
func TestCalibration(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/agreement")
	require.Contains(t, x.text(), "Dorothea Duvall marks 0.4 of a step lower than those who saw the same")
	x.accessible("examiners beside each other")
	x.visit("/calibrations")
	x.accessible("calibrations")
	x.submit("aside .button.is-primary")
	require.Contains(t, x.text(), "name it, so that it is found again")
	require.Contains(t, x.text(), "choose a rung whose sheet is marked")
	x.fill("name", "Orange sheet, January")
	x.submit("aside .button.is-primary")
	require.Equal(t, "Orange sheet, January", eval[string](x, `document.querySelector("[name=name]").value`), "what was typed is kept")
	eval[bool](x, `document.querySelector("[name=lines]").value = "Jab\nFront kick\nHigh block\nBent Reed", true`)
	x.submit("aside .button.is-primary")
	require.Contains(t, x.text(), "Nobody has marked yet")
	owner := eval[string](x, `location.pathname`)
	link := eval[string](x, `new URL(document.querySelector(".code-address a").href).pathname`)

	w := newWire(t, s.url)
	devices := []*tab{open(t, s, 1024, 768), open(t, s, 390, 844), open(t, &server{t: t, url: w.url()}, 1024, 768)}
	for i, name := range []string{"Cora Vane", "Ed Weir", "Fay Rush"} {
		d := devices[i]
		d.visit(link)
		d.accessible("a calibration, before")
		d.do(chromedp.SendKeys(chromedp.CSS("#who"), name+kb.Enter))
		d.until(`document.querySelectorAll("[data-place]").length === 4`)
		if i == 2 {
			d.until(`document.body.dataset.offline === "ready"`)
			w.set(true)
		}
		d.keys("3")
		d.until(`document.activeElement.dataset.place === "1"`)
		d.keys("2n")
		if i == 2 {
			d.until(`document.querySelector("[data-kept]").textContent.includes("3 kept here: no connection")`)
			d.do(chromedp.Reload())
			d.until(`document.querySelectorAll("[data-place]").length === 4 && document.activeElement.dataset.place === "3"`)
			w.set(false)
		}
		assert.True(t, eval[bool](d, `document.querySelector("[data-beside]").hidden`), "before one has finished nothing is shown")
		d.keys(fmt.Sprint(i * 2))
		d.until(`!document.querySelector("[data-beside]").hidden`)
		require.Equal(t, i+1, eval[int](d, `document.querySelectorAll(".compared thead th.num").length`), "beside those who have finished")
	}
	devices[2].accessible("a calibration, after")
	assert.Equal(t, "Bent Reed apart|0|2|4", eval[string](devices[2], `[...document.querySelector(".compared tbody tr.apart-row").children].map(c => c.textContent.trim()).join("|")`))
	x.visit(owner)
	require.Contains(t, x.text(), "Too few marks stand beside each other to say who marks lower.")
	require.Equal(t, 3, eval[int](x, `document.querySelectorAll(".compared thead th.num").length`))
	x.accessible("a calibration, the owner's view")
	s.kill()
	s.restart()
	x.visit(owner)
	require.Equal(t, "Bent Reed apart|0|2|4", eval[string](x, `[...document.querySelector(".compared tbody tr.apart-row").children].map(c => c.textContent.trim()).join("|")`))
	x.submit(`form[action$="/delete"] button`)
	require.NotContains(t, eval[string](x, `document.querySelector("main").innerText`), "Orange sheet, January")
	x.submit(`.done form button`)
	require.Contains(t, eval[string](x, `document.querySelector("main").innerText`), "Orange sheet, January")
}
