package e2e

import (
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// kept is what stands of typing on the device, by the number of forms and as one text.
func kept(x *tab) (n int, all string) {
	const of = `Object.keys(localStorage).filter((k) => k.startsWith("velvetladder.draft:"))`
	return eval[int](x, of+`.length`), eval[string](x, of+`.map((k) => k + localStorage.getItem(k)).join("\n")`)
}

// typed waits until the device has a text of a form.
func (x *tab) typed(field, text string) {
	x.t.Helper()
	x.do(chromedp.Focus(chromedp.CSS(`main [name="` + field + `"]`)))
	x.keys(text)
	x.until(`Object.keys(localStorage).some((k) => k.startsWith("velvetladder.draft:") && localStorage.getItem(k).includes("` + text + `"))`)
}

// TestTypingIsNeverLost: a form left, reloaded, expired, refused or sent to a server that is gone comes back as it was; what
// arrived, what was put away and what another account typed does not; signing out takes it off the device.
func TestTypingIsNeverLost(t *testing.T) {
	t.Parallel()
	s := start(t, "serve", "--db", filepath.Join(t.TempDir(), "school.db"), "--addr", "127.0.0.1:0", "--backups", "off")
	x := open(t, s, 1280, 800)
	x.visit("/welcome?code=" + s.code)
	signUp := func(name string) {
		x.fill("name", name)
		x.fill("sign_in", "petra")
		x.fill("password", "four odd grain sacks")
		x.submit("main button")
	}
	signUp("Petra Holm")
	x.until(`document.activeElement.name === "school"`) // the first field of a new form
	x.fill("name", "Karate")
	eval[bool](x, `(document.querySelector("[value='starter:karate']").click(), true)`)
	x.submit("main .is-primary")

	// Left by a link, and by Back.
	x.visit("/students/new")
	x.typed("name", "Ida Brandt")
	x.typed("guardian", "Her aunt")
	x.submit(`.top a[href="/classes"]`)
	x.visit("/students/new")
	assert.Equal(t, "Ida Brandt", eval[string](x, `document.querySelector("main [name=name]").value`))
	assert.Contains(t, x.text(), "was not saved. It stands in the form again.")
	x.accessible("typing that came back")

	// Expired: signed out elsewhere, the form waits, is sent after signing in, and is not offered again.
	y := open(t, s, 1280, 800)
	y.visit("/sign-in")
	y.fill("sign_in", "petra")
	y.fill("password", "four odd grain sacks")
	y.submit("main button")
	y.visit("/account")
	y.submit(`form[action^="/signed-in/"] button`)
	x.submit(".sheet-form .is-primary")
	assert.Contains(t, x.text(), "Sign in again")
	x.visit("/sign-in") // whoever leaves that page loses nothing either
	x.fill("sign_in", "petra")
	x.fill("password", "four odd grain sacks")
	x.submit("main button")
	x.visit("/students/new")
	require.Equal(t, "Her aunt", eval[string](x, `document.querySelector("main [name=guardian]").value`))

	// Refused: it stands in the answer, the first thing wrong has the focus; and after leaving that too.
	x.fill("birth_date", "2099-01-01")
	x.submit(".sheet-form .is-primary")
	x.until(`document.activeElement.name === "birth_date"`)
	x.visit("/ladder")
	x.visit("/students/new")
	require.Equal(t, "2099-01-01", eval[string](x, `document.querySelector("main [name=birth_date]").value`))
	x.fill("birth_date", "2015-01-01")

	// The server is gone when it is sent.
	s.kill()
	eval[bool](x, `(window.before = true)`)
	x.do(chromedp.Click(chromedp.CSS(".sheet-form .is-primary")))
	x.until(`window.before === undefined`)
	s.restart()
	x.visit("/students/new")
	require.Equal(t, []string{"Ida Brandt", "2015-01-01"}, eval[[]string](x, `["name", "birth_date"].map((n) => document.querySelector("main [name=" + n + "]").value)`))
	x.submit(".sheet-form .is-primary")
	assert.Contains(t, x.text(), "Added Ida Brandt")
	require.Equal(t, "H1", eval[string](x, `document.activeElement.tagName`), "what was just made has the focus")
	n, all := kept(x)
	require.Zero(t, n, all)
	x.visit("/students/new")
	require.Empty(t, eval[string](x, `document.querySelector("main [name=name]").value`), "what arrived is not offered again")

	// A page that answers itself what was sent, as one that shows a link once, says that it arrived.
	x.visit("/students")
	x.submit(`main a[href^="/students/"]:not([href*="import"]):not([href*="export"]):not([href$="/new"])`)
	x.submit(`main a[href^="/practice/"]`)
	x.typed("who", "Her aunt")
	x.submit(`form[action$="/link"] button`)
	require.Contains(t, x.text(), "This is the link. It is shown this once:")
	n, all = kept(x)
	require.Zero(t, n, all)
	require.NotContains(t, x.text(), "was not saved")

	// A record that another has changed meanwhile is not overwritten by what comes back.
	x.visit("/students")
	x.submit(`main a[href^="/students/"]:not([href*="import"]):not([href*="export"]):not([href$="/new"])`)
	page := eval[string](x, `location.pathname`)
	x.visit(page + "/edit")
	x.typed("contact", "the blue door")
	x.visit("/ladder")
	y.visit("/sign-in")
	y.fill("sign_in", "petra")
	y.fill("password", "four odd grain sacks")
	y.submit("main button")
	y.visit(page + "/edit")
	y.fill("contact", "the red gate")
	y.submit(".sheet-form .is-primary")
	x.visit(page + "/edit")
	x.submit(".sheet-form .is-primary")
	assert.Contains(t, x.text(), "the red gate")
	assert.Equal(t, "the blue door", eval[string](x, `document.querySelector("main [name=contact]").value`))
	x.submit(".sheet-form .is-primary")
	assert.Contains(t, x.text(), "the blue door")

	// Put away; a page being typed; passwords; what is too old.
	x.visit("/rungs/new")
	x.typed("name", "Teal belt")
	x.visit("/rungs/new")
	x.do(chromedp.Click(chromedp.CSS(".kept-typing button")))
	require.Empty(t, eval[string](x, `document.querySelector("main [name=name]").value`))
	x.visit("/rungs/new")
	require.Zero(t, eval[int](x, `document.querySelectorAll(".kept-typing").length`))
	x.visit("/ladder")
	x.submit(`main a[href^="/binder/"]`)
	x.typed("page", "Kicks and more")
	x.visit("/ladder")
	x.submit(`main a[href^="/binder/"]`)
	assert.Equal(t, "Kicks and more", eval[string](x, `document.querySelector("main [name=page]").value`))
	x.until(`document.querySelector("[data-binder-read] li") !== null`) // it is read again at once
	x.visit("/account")
	if eval[bool](x, `document.querySelector("main [name=password]") !== null`) {
		x.do(chromedp.Focus(chromedp.CSS(`main [name=password]`)))
		x.keys("never kept")
	}
	x.visit("/rungs/new")
	x.typed("name", "Old belt")
	eval[bool](x, `(() => { for (const k of Object.keys(localStorage)) if (localStorage.getItem(k).includes("Old belt")) localStorage.setItem(k, JSON.stringify({...JSON.parse(localStorage.getItem(k)), at: Date.now() - 8 * 24 * 3600 * 1000})); return true })()`)
	x.visit("/rungs/new")
	require.Empty(t, eval[string](x, `document.querySelector("main [name=name]").value`), "after seven days it is gone")
	n, all = kept(x)
	require.Equal(t, 1, n, "the page alone: %s", all)
	assert.NotContains(t, all, "never kept")
	assert.NotContains(t, all, "grain sacks")

	x.visit("/account")
	x.submit("[data-sign-out] button")
	n, all = kept(x)
	require.Zero(t, n, all)
}
