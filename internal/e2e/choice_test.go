package e2e

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
)

// TestAFreeChoice: a student's own combinations are chosen ahead at home, held against the school's
// rules, called there, and ticked at the table; what was ticked survives a killed server.
func TestAFreeChoice(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	s := startDemo(t)
	records, err := store.Open(ctx, s.db(), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { records.Close() })
	programs, err := records.Programs(ctx)
	require.NoError(t, err)
	by := store.By{Actor: "owner"}
	grading := ""
	var climb store.Climbing
	for _, p := range programs {
		b, err := records.Book(ctx, p.ID)
		require.NoError(t, err)
		rung := b.RungNamed("Brown belt")
		if p.Name != "Kenpo" || rung == nil {
			continue
		}
		d, err := records.SaveGrading(ctx, by, gradingday.Grading{ProgramID: p.ID, Name: "Own evening", On: records.Today(), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 3, RungIDs: []string{rung.ID}, Examiners: []gradingday.Examiner{{Name: "Orla Finch", Chief: true}}})
		require.NoError(t, err)
		grading = d.ID
		eligible, err := records.Eligible(ctx, grading)
		require.NoError(t, err)
		k := slices.IndexFunc(eligible, func(c store.Climbing) bool { return c.Next != nil && c.Next.ID == rung.ID })
		require.GreaterOrEqual(t, k, 0, "somebody stands below Brown")
		climb = eligible[k]
	}
	require.NotEmpty(t, grading)

	x := open(t, s, 390, 844)
	x.visit("/practice/" + climb.EnrolmentID)
	const field = `textarea[name="lines"]`
	pick := func(lines string) {
		eval[bool](x, `(() => { const f = document.querySelector('`+field+`'); f.closest("details").open = true; f.value = ""; f.focus(); return true })()`)
		x.do(chromedp.SetValue(chromedp.CSS(field), lines))
		eval[bool](x, `(() => { document.querySelector('`+field+`').form.querySelector("button").id = "keep-own"; return true })()`)
		x.submit("#keep-own")
	}
	pick("lead jba, rear cross")
	require.Contains(t, x.text(), "line 1, column 6")
	require.Equal(t, "lead jba, rear cross", eval[string](x, `document.querySelector('`+field+`').value`), "what was typed is kept")
	x.accessible("a choice that cannot be read")
	pick("lead jab, rear cross\nrear cross, lead front kick")
	require.Contains(t, x.text(), "it begins with the rear side")

	_, err = records.AddCandidates(ctx, by, grading, []store.Entrant{{EnrolmentID: climb.EnrolmentID, Reason: "shows her own"}})
	require.NoError(t, err)
	_, err = records.Begin(ctx, by, grading)
	require.NoError(t, err)
	g, err := records.Grading(ctx, grading)
	require.NoError(t, err)
	candidates, err := records.Candidates(ctx, grading)
	require.NoError(t, err)
	table := "/scoring/" + g.Examiners[0].ID + "/" + candidates[0].GroupID
	y := open(t, s, 1280, 800)
	y.visit(table)
	y.until(`document.querySelector(".candidate.at") !== null`)
	toOwn := `[...document.querySelectorAll("[data-lines] button")].find(b => b.textContent.includes("Own combinations")).click(), true`
	eval[bool](y, toOwn)
	y.until(`document.querySelectorAll(".tick").length === 2`)
	ticks := func() []string {
		return eval[[]string](y, `[...document.querySelectorAll(".tick")].map(b => b.getAttribute("aria-pressed") + " " + b.textContent)`)
	}
	assert.Equal(t, []string{"false ☐ lead Jab, rear Cross", "false ☐ rear Cross, lead Front kick it begins with the rear side"}, ticks())
	y.accessible("a list to tick")
	eval[bool](y, `document.querySelectorAll(".tick")[1].click(), true`)
	y.until(`document.querySelectorAll('.tick[aria-pressed="true"]').length === 1 && ` + everyMark)
	y.keys("3") // of one candidate, on to the next line
	y.until(`!document.querySelector("[aria-current]").textContent.includes("Own combinations")`)
	eval[bool](y, toOwn)
	y.until(everyMark + ` && document.querySelector('.marks-row [aria-pressed="true"]')?.textContent.startsWith("3")`)
	eval[bool](y, `document.querySelectorAll(".tick")[0].click(), true`)
	y.until(`document.querySelectorAll('.tick[aria-pressed="true"]').length === 2 && ` + everyMark)
	eval[bool](y, `document.querySelectorAll(".tick")[1].click(), true`)
	y.until(`document.querySelectorAll('.tick[aria-pressed="true"]').length === 1 && ` + everyMark)
	s.kill()
	s.restart()
	y.visit(table)
	y.until(`document.querySelector(".candidate") !== null`)
	eval[bool](y, toOwn)
	y.until(`document.querySelectorAll(".tick").length === 2`)
	assert.Equal(t, []string{"true ☑ lead Jab, rear Cross", "false ☐ rear Cross, lead Front kick it begins with the rear side"}, ticks())
	assert.Equal(t, "true", eval[string](y, `[...document.querySelectorAll(".marks-row button")].find(b => b.textContent.startsWith("3")).getAttribute("aria-pressed")`), "the mark stays with the ticks")

	// The same sheet typed in from paper: the ticks of the cell in focus, by keys alone; a mark typed over keeps them.
	y.visit("/paper/" + g.Examiners[0].ID + "/" + candidates[0].GroupID)
	y.until(`document.querySelector(".cell.at") !== null`)
	own := `[...document.querySelectorAll(".paper-grid tbody tr")].find(r => r.textContent.includes("Own combinations")).querySelector(".cell")`
	eval[bool](y, own+`.click(), true`)
	y.until(`document.querySelectorAll("[data-ticks] .tick").length === 2`)
	assert.Equal(t, []string{"true ☑ lead Jab, rear Cross", "false ☐ rear Cross, lead Front kick it begins with the rear side"}, ticks())
	y.keys("t")
	y.until(`document.activeElement.className === "tick"`)
	y.do(chromedp.KeyEvent("\t"))
	y.keys(" ")
	y.until(`document.querySelectorAll('.tick[aria-pressed="true"]').length === 2 && document.querySelector("[data-kept]").textContent === "◉ all stored"`)
	require.True(t, eval[bool](y, `document.activeElement.className === "tick"`), "the focus stays on what was ticked")
	y.accessible("a paper sheet with a list to tick")
	y.keys("g")
	y.until(`document.activeElement.classList.contains("cell")`)
	y.keys("2")
	y.until(own + `.textContent === "2" && document.querySelector("[data-kept]").textContent === "◉ all stored"`)
	s.kill()
	s.restart()
	y.visit("/paper/" + g.Examiners[0].ID + "/" + candidates[0].GroupID)
	y.until(`document.querySelector(".cell.at") !== null`)
	eval[bool](y, own+`.click(), true`)
	y.until(`document.querySelectorAll('.tick[aria-pressed="true"]').length === 2`)
	assert.Equal(t, "2", eval[string](y, own+`.textContent`))
	y.visit("/paper/" + g.Examiners[0].ID + "/" + candidates[0].GroupID + "?twice=1")
	y.until(`document.querySelector(".cell.at") !== null`)
	eval[bool](y, own+`.click(), true`)
	y.until(`document.querySelectorAll(".tick:disabled").length === 2`)
}
