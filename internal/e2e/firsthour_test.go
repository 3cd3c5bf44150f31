package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// newcomer works by what stands on the screen alone, and counts what that takes.
type newcomer struct {
	*tab
	presses int      // buttons, links, choices, and keys that are no name
	steps   []string // what was pressed
}

// press presses what says this, in full or as its first line: a button, a link or a choice.
func (n *newcomer) press(says string) {
	n.t.Helper()
	n.until(fmt.Sprintf(`(() => {
		document.querySelectorAll("[data-pressed]").forEach((e) => delete e.dataset.pressed);
		const said = (e) => [e.innerText.trim(), e.innerText.trim().split("\n")[0].trim()];
		const shown = [...document.querySelectorAll("button, a, label:has([type=radio]), label:has([type=checkbox]), summary")].filter((e) => e.checkVisibility({visibilityProperty: true, opacityProperty: true}) && said(e).includes(%q));
		if (shown.length === 0) return false;
		shown[0].dataset.pressed = "1";
		return true;
	})()`, says))
	n.do(chromedp.Click(chromedp.CSS(`[data-pressed]`)))
	n.presses++
	n.steps = append(n.steps, says)
}

// write types into the field whose label says this, in the place of what stands there. A name costs nothing.
func (n *newcomer) write(label, text string, name bool) {
	n.t.Helper()
	n.until(fmt.Sprintf(`(() => {
		const at = [...document.querySelectorAll("label")].find((l) => l.checkVisibility() && l.innerText.trim() === %q);
		if (!at?.control) return false;
		at.control.focus();
		at.control.select?.();
		return document.activeElement === at.control;
	})()`, label))
	n.do(chromedp.KeyEvent(kb.Delete))
	n.do(chromedp.KeyEvent(text))
	if !name {
		n.presses += len(text)
	}
	n.steps = append(n.steps, label)
}

// reads waits until the page says something.
func (n *newcomer) reads(text string) {
	n.t.Helper()
	n.until(fmt.Sprintf(`document.body.innerText.includes(%q)`, text))
}

// TestTheFirstHour: the program as it is downloaded, in an empty folder, by somebody who knows nothing but what stands on the
// screen: a general ladder, three students, a class, the first register.
func TestTheFirstHour(t *testing.T) {
	t.Parallel()
	if !archived {
		t.Skip("there is no commit to make an archive of")
	}
	folder := filepath.Join(t.TempDir(), "school")
	s := start(t, "start", "--folder", folder, "--no-browser")
	_, err := os.Stat(filepath.Join(filepath.Dir(program), "Start here.txt"))
	require.NoError(t, err, "it stands beside the program")
	n := &newcomer{tab: open(t, s, 1280, 800)}
	n.visit("/welcome?code=" + s.code)
	n.write("The school’s name", "Quarry Lane", true)
	n.write("Your name", "Petra Holm", true)
	n.write("Name to sign in with", "petra", true)
	n.write("Password", "oddkettleblue", false)
	n.press("Begin")
	n.reads("What does your school teach?")
	n.accessible("the first program")
	n.press("Karate")
	n.press("Add the program")
	n.reads("Added the program Karate")
	n.reads("4 steps left")
	n.press("Add a student")
	for i, name := range []string{"Ida Brandt", "Milo Brandt", "Ruth Okafor"} {
		n.reads("Add a student")
		n.until(`document.activeElement.name === "name"`)
		n.do(chromedp.KeyEvent(name))
		n.press([]string{"Add, and one more", "Add, and one more", "Add the student"}[i])
		n.reads("Added " + name)
	}
	n.press("Add a class")
	n.write("Name", "Evening class", true)
	n.write("At", "18:30", false)
	n.press("Add the class")
	n.reads("Added Evening class")
	n.press("Register")
	for i, name := range []string{"Ida Brandt", "Milo Brandt", "Ruth Okafor"} {
		n.until(fmt.Sprintf(`document.querySelectorAll("[data-student] .tap").length === 3 && document.querySelector("[data-count]").innerText === "%d"`, i))
		eval[bool](n.tab, fmt.Sprintf(`(() => { document.querySelectorAll("[data-pressed]").forEach((e) => delete e.dataset.pressed); const b = [...document.querySelectorAll("button")].find((e) => e.innerText.includes(%q)); b.dataset.pressed = "1"; return true })()`, name))
		n.do(chromedp.Click(chromedp.CSS(`[data-pressed]`)))
		n.presses++
	}
	n.until(`document.querySelector("[data-count]").innerText === "3" && document.querySelector("[data-kept]").innerText.includes("all stored")`)
	t.Logf("%d presses: %v", n.presses, n.steps)
	assert.LessOrEqual(t, n.presses, 60)

	s.kill()
	s.run()
	n.url = s.url
	n.visit("/first-hour")
	if eval[bool](n.tab, `document.querySelector("[name=password]") !== null`) { // another port, another origin
		n.write("Name", "petra", true)
		n.write("Password", "oddkettleblue", true)
		n.press("Sign in")
	}
	n.reads("Plan the next grading")
	n.accessible("the first hour")
	require.Equal(t, int64(6), eval[int64](n.tab, `document.querySelectorAll(".first-steps .had").length`), "all but the grading is on record after a power cut")
	n.press("Skip")
	n.reads("It is over")
	require.Zero(t, eval[int](n.tab, `document.querySelectorAll(".first-hour").length`))
}
