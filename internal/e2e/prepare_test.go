package e2e

import (
	"context"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/timetable"
	"velvetladder/internal/rehearsal"
	"velvetladder/internal/store"
)

// grading is the id of the demo's grading whose name begins so.
func (s *server) grading(name string) string {
	m := regexp.MustCompile(`/gradings/([0-9a-f]{20})"[^>]*><bdi>` + name).FindStringSubmatch(s.get("/gradings"))
	require.NotNil(s.t, m, name)
	return m[1]
}

// TestPreparingAGrading goes through what is done before the day, from the home screen: the plan with keys and pointer, what
// breaks, what if, pairs, checklist and messages, belts, line-up, papers. Nothing of it is lost by a power cut.
func TestPreparingAGrading(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	x.visit("/")
	x.visit("/gradings")
	x.visit("/gradings/" + s.grading("Winter grading"))
	x.visit(eval[string](x, `new URL([...document.querySelectorAll(".preparing a")].find(a => a.textContent === "Day plan").href).pathname`))
	x.accessible("day plan")
	figures := eval[[]string](x, `[...document.querySelectorAll(".day-sum .figure")].map(e => e.textContent)`)
	ends, err := timetable.ParseClock(figures[0])
	require.NoError(t, err)
	bound, err := timetable.ParseClock(figures[1])
	require.NoError(t, err)
	assert.LessOrEqual(t, 100*(ends-bound), 5*(bound-600), "within 5 %% of the bound: %s, %s", figures[0], figures[1])
	assert.Contains(t, x.text(), "Every rule holds")

	// With keys: a block goes to the other ring and keeps the focus; with the last key it is pinned.
	at := func(group string) [2]int {
		return [2]int(eval[[]int](x, `(() => { const b = document.querySelector('svg.day [data-group="`+group+`"][tabindex]'); return [Number(b.dataset.ring), Number(b.dataset.at)] })()`))
	}
	group := eval[string](x, `(() => { const b = document.querySelector("svg.day [data-group][tabindex]"); b.focus(); return b.dataset.group })()`)
	before := at(group)
	key := map[int]string{0: kb.ArrowDown, 1: kb.ArrowUp}[before[0]]
	x.keys(key)
	x.until(`location.search.includes("group=` + group + `") && document.activeElement.dataset?.group === "` + group + `" && document.activeElement.dataset.ring === "` + map[int]string{0: "1", 1: "0"}[before[0]] + `"`)
	x.keys("p")
	x.until(`document.activeElement.classList.contains("pinned")`)
	s.kill()
	s.restart()
	x.visit("/day/" + s.grading("Winter grading"))
	assert.Equal(t, 1-before[0], at(group)[0], "kept through a power cut")
	assert.True(t, eval[bool](x, `document.querySelector('svg.day [data-group="`+group+`"].pinned') !== null`))

	// With the pointer: back where it was.
	box := eval[[]float64](x, `(() => { const r = document.querySelector('svg.day [data-group="`+group+`"] rect').getBoundingClientRect(), b = document.querySelectorAll("svg.day .band")[`+map[int]string{0: "0", 1: "1"}[before[0]]+`].getBoundingClientRect(); return [r.x + 8, r.y + 20, b.y + 20] })()`)
	x.do(chromedp.MouseEvent("mousePressed", box[0], box[1], chromedp.ButtonLeft), chromedp.MouseEvent("mouseMoved", box[0]+20, box[2], chromedp.ButtonLeft), chromedp.MouseEvent("mouseReleased", box[0]+20, box[2], chromedp.ButtonLeft))
	x.until(`document.querySelector('svg.day [data-group="` + group + `"][data-ring="` + map[int]string{0: "0", 1: "1"}[before[0]] + `"]') !== null && document.readyState === "complete"`)

	// Within its ring too: the first of three goes behind the second.
	three := eval[string](x, `(() => { const in3 = [0, 1].find(r => document.querySelectorAll('svg.day [data-ring="' + r + '"][tabindex]').length > 2); return document.querySelector('svg.day [data-ring="' + in3 + '"][tabindex]').dataset.group })()`)
	was := at(three)
	spot := eval[[]float64](x, `(() => { const all = [...document.querySelectorAll('svg.day [data-ring="`+strconv.Itoa(was[0])+`"][tabindex] rect:first-of-type')].map(r => r.getBoundingClientRect()); return [all[0].x + 6, all[0].y + 20, all[2].x - 4] })()`)
	x.do(chromedp.MouseEvent("mousePressed", spot[0], spot[1], chromedp.ButtonLeft), chromedp.MouseEvent("mouseMoved", spot[2], spot[1], chromedp.ButtonLeft), chromedp.MouseEvent("mouseReleased", spot[2], spot[1], chromedp.ButtonLeft))
	x.until(`location.search.includes("group=` + three + `") && document.readyState === "complete" && document.querySelectorAll('svg.day [data-ring="` + strconv.Itoa(was[0]) + `"][tabindex]')[1].dataset.group === "` + three + `"`)

	// Hours that are too short say by how much; the plan is made all the same, and undone.
	x.fill("close", "10:40")
	eval[bool](x, `document.getElementById("f-pause_from").value = document.getElementById("f-pause_to").value = "", true`)
	x.submit(`form[action^="/day/"] .is-primary`)
	assert.Regexp(t, `The day ends at \d\d:\d\d and the hall closes at 10:40: \d+ min too long`, x.text())
	x.submit(".done button")
	assert.NotContains(t, x.text(), "too long")
	x.visit(eval[string](x, `(() => { const u = new URL([...document.querySelectorAll(".what-ifs a")].find(a => a.textContent.includes("One ring more")).href); return u.pathname + u.search })()`))
	assert.Contains(t, x.text(), "in the place of")
	assert.Contains(t, x.text(), "Nothing is changed")

	id := s.grading("Winter grading")
	x.visit("/pairs/" + id)
	x.accessible("sparring pairs")
	x.fill("months", "900")
	x.fill("height_cm", "90")
	x.fill("weight_kg", "90")
	x.submit(`form[action^="/pairs/"] .is-primary`)
	assert.Contains(t, x.text(), "bouts of")
	x.visit("/checklist/" + id)
	x.accessible("checklist")
	x.submit(`form[action$="/write"] .is-primary`)
	assert.Contains(t, x.text(), "Outbox")
	assert.Contains(t, x.text(), "Nothing is sent from here")
	x.accessible("outbox")
	x.visit(eval[string](x, `new URL(document.querySelector("main [data-row]").href).pathname`))
	assert.Regexp(t, `Come at: \d\d:\d\d`, x.text())
	x.accessible("message")
	x.visit("/lineup/" + id)
	assert.Positive(t, eval[int](x, `document.querySelectorAll("svg.lineup .body").length`))
	x.accessible("line-up")
	x.visit("/belts/" + id)
	x.accessible("belts")
	for _, kind := range []string{"scoresheets", "runsheets"} {
		x.visit("/papers/" + id + "?show=" + kind)
		assert.Positive(t, eval[int](x, `document.querySelectorAll("svg.paper text").length`))
		x.accessible("papers: " + kind)
	}
	for _, page := range []string{"/settings", "/officers", "/backups"} {
		x.visit(page)
		x.accessible(page)
	}
	// On a phone nothing but the pictures scrolls sideways.
	x.do(chromedp.EmulateViewport(390, 844))
	for _, page := range []string{"/day/" + id, "/checklist/" + id, "/pairs/" + id, "/belts/" + id, "/lineup/" + id, "/papers/" + id, "/settings", "/outbox"} {
		x.visit(page)
		assert.LessOrEqual(t, eval[int](x, `document.documentElement.scrollWidth`), 391, page)
	}
}

// TestABackupUnderLoad takes a backup while tablets mark, with the command people use. Every mark acknowledged before is in
// it, and the restored school opens with them.
func TestABackupUnderLoad(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	live := s.db()
	dir := t.TempDir()
	var r rehearsal.Report
	done := make(chan error, 1)
	stop := make(chan struct{})
	go func() {
		var err error
		r, err = rehearsal.Run(context.Background(), rehearsal.Options{URL: s.url, Grading: s.grading("Stripe evening"), Seed: 3, Correct: 400, Stop: func() bool {
			select {
			case <-stop:
				return true
			default:
				return false
			}
		}})
		done <- err
	}()
	marks := func(path string) int {
		c, err := store.CheckFile(context.Background(), path)
		require.NoError(t, err)
		return c.Marks
	}
	begin := marks(live)
	for marks(live) == begin { // until the tablets are at it
		select {
		case err := <-done:
			t.Fatalf("the rehearsal ended early: %v", err)
		default:
		}
	}
	before := marks(live)
	out, err := runProgram("backup", filepath.Join(dir, "backup.db"), "--db", live)
	require.NoError(t, err, out)
	after := marks(live)
	held := marks(filepath.Join(dir, "backup.db"))
	assert.GreaterOrEqual(t, held, before, "every mark acknowledged before is in the backup")
	assert.LessOrEqual(t, held, after)
	close(stop)
	require.NoError(t, <-done)
	assert.Zero(t, r.Missing)

	out, err = runProgram("restore", filepath.Join(dir, "backup.db"), "--db", live)
	require.Error(t, err)
	assert.Contains(t, out, "is in use")
	s.stop()
	out, err = runProgram("restore", filepath.Join(dir, "backup.db"), "--db", live)
	require.NoError(t, err, out)
	kept := regexp.MustCompile(`kept as (\S+)`).FindStringSubmatch(out)
	require.NotNil(t, kept, out)
	assert.Equal(t, held, marks(live))
	_, err = os.Stat(strings.TrimSpace(kept[1]))
	assert.NoError(t, err)
	s.run()
	assert.Contains(t, s.get("/gradings"), "Stripe evening")
}
