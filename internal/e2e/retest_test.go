package e2e

import (
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lines are the names of the lines on the sheet of the table that is open, in their order.
func (x *tab) lines() []string {
	x.t.Helper()
	return strings.Split(eval[string](x, `[...document.querySelectorAll("[data-lines] li span:nth-child(2)")].map(e => e.textContent.trim()).join("|")`), "|")
}

// TestARetestKeepsWhatWasDrawn: of five questions typed on a page two are drawn; one is passed, one is not. The retest of what
// failed asks that one question again, none that was never asked, and what was passed stands.
func TestARetestKeepsWhatWasDrawn(t *testing.T) {
	onlyLong(t)
	t.Parallel()
	s := start(t, "serve", "--db", filepath.Join(t.TempDir(), "school.db"), "--addr", "127.0.0.1:0")
	x := open(t, s, 1280, 800)
	x.found("White belt", "Yellow belt")
	x.visit("/ladder")
	x.follow("Yellow belt")
	x.keys("b")
	x.until(`document.activeElement?.id === "f-page"`)
	for i, line := range strings.Split("kicks\nfront kick, 5 a side\nknowledge\n2 questions from the list below\nwhy we bow\nwhat a tap means\nwhen to walk away\nthe three stances\nwhat the belt means", "\n") {
		if i > 0 {
			x.keys("\r")
		}
		x.keys(line)
	}
	x.until(`document.querySelector("[data-binder-sum]").textContent === "6 lines, all understood"`)
	x.do(chromedp.KeyEvent(kb.Enter, chromedp.KeyModifiers(2)))
	x.until(`document.body.innerText.includes("Added 6 requirements to Yellow belt")`)
	x.visit("/students/new")
	x.fill("name", "Ada Rill")
	x.fill("birth_date", "2001-03-01")
	x.submit("main .button.is-primary")
	tested := func() string {
		x.visit("/gradings/new")
		eval[bool](x, `document.querySelectorAll('[name=rungs]').forEach(b => b.checked = true), document.querySelector('[name=examiner]').value = "C. Vane", document.querySelector("[name=allowed_failing]").value = "0", document.querySelector("[name=retest_days]").value = "0", document.querySelector("[name=retest_scope]").value = "items", true`)
		x.submit("main .button.is-primary")
		grading := eval[string](x, `location.pathname.split("/")[2]`)
		eval[bool](x, `document.querySelector('[name=candidates]').checked = true`)
		x.submit("aside .button.is-primary")
		x.submit("main .head-row .button.is-primary")
		x.submit(".tables a")
		x.until(`document.querySelector(".candidate.at") !== null`)
		return grading
	}
	grading := tested()
	asked := x.lines()
	require.Len(t, asked, 3, "a kick, and two questions of five")
	for _, key := range []string{"3", "3", "1"} {
		was := eval[string](x, `document.querySelector("[data-line] h1").textContent`)
		x.keys(key)
		x.until(`document.querySelector("[data-line] h1").textContent !== ` + strconv.Quote(was) + ` || document.querySelector("[data-left]").textContent === "Every line is marked."`)
	}
	x.until(`document.querySelector("[data-kept]").textContent.includes("all marks stored")`)
	x.submit("[data-sign] button")
	x.visit("/review/" + grading)
	require.Contains(t, x.text(), "retest")
	x.announce()
	require.Contains(t, x.railCounts(), "White belt: 1 student")

	again := tested()
	require.NotEqual(t, grading, again)
	assert.Equal(t, asked[2:], x.lines(), "what failed, and nothing that was never asked")
	x.keys("3")
	x.until(`document.querySelector("[data-kept]").textContent.includes("all marks stored")`)
	x.submit("[data-sign] button")
	x.visit("/review/" + again)
	assert.Contains(t, x.text(), "2 stand from an earlier attempt")
	x.announce()
	assert.Contains(t, x.railCounts(), "Yellow belt: 1 student")
	s.kill()
	s.run()
	x.url = s.url
	x.visit("/review/" + again)
	assert.Contains(t, x.text(), "2 stand from an earlier attempt")
	assert.Contains(t, x.railCounts(), "Yellow belt: 1 student")
}
