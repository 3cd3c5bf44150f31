package curriculum_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
)

// Sheets, draws and amounts, at their bounds.

// TestSheetsAreDisordered: a curriculum whose lines come in no order is asked in the ladder's.
func TestSheetsAreDisordered(t *testing.T) {
	b := ladder(t, simple)
	c := b.Curriculum
	c.Requirements = slices.Clone(c.Requirements)
	slices.Reverse(c.Requirements)
	kept := slices.Clone(c.Requirements)
	c.Requirements = append(c.Requirements, Requirement{ID: "lost", RungID: "gone", TechniqueID: "jab"})
	turned := Open(c)
	assert.Equal(t, kept, c.Requirements[:len(kept)], "what is given stays as it is")
	assert.ElementsMatch(t, said(b.Compile(Asking{RungID: "orange"})), said(turned.Compile(Asking{RungID: "orange"})))
	assert.Equal(t, []string{"white", "orange"}, []string{turned.UsedBy("jab")[0].RungID, turned.UsedBy("jab")[1].RungID})
	assert.Len(t, turned.UsedBy("jab"), 2, "a line of no rung is asked nowhere")
}

// TestAlikeInEveryRespect: amounts of another measure, side or pace are not alike.
func TestAlikeInEveryRespect(t *testing.T) {
	base := Line{Quantity: Quantity{Measure: RepsPerSide, Reps: 5}}
	shown := base.Demand()
	assert.True(t, Alike(&shown, &base))
	for what, change := range map[string]func(*Line){
		"measure": func(l *Line) { l.Quantity.Measure = RepsInAll }, "side": func(l *Line) { l.Quantity.Side = "left" }, "pace": func(l *Line) { l.Slow = true }, "non-stop": func(l *Line) { l.NonStop = true },
	} {
		other := base
		change(&other)
		assert.False(t, Alike(&shown, &other), what)
	}
}

// TestWhatWasDrawnIsDrawnAgain: at a retest the questions asked before come first, whatever the seed; where some are gone
// the rest is drawn.
func TestWhatWasDrawnIsDrawnAgain(t *testing.T) {
	page := "White\n\tKnowledge"
	for n := range 12 {
		page += fmt.Sprintf("\n\tAsked %c, once, from Pool", 'A'+n)
	}
	b := ladder(t, page)
	ids := func(s TestSheet) (out []string) {
		for _, l := range s.Lines {
			out = append(out, l.RequirementID)
		}
		slices.Sort(out)
		return out
	}
	first := ids(b.Compile(Asking{RungID: "white", Seed: 7, Candidate: "a"}))
	changed := 0
	for seed := range uint64(20) {
		fresh := ids(b.Compile(Asking{RungID: "white", Seed: seed, Candidate: "b"}))
		if !slices.Equal(fresh, first) {
			changed++
		}
		again := b.Compile(Asking{RungID: "white", Seed: seed, Candidate: "b", Kept: append([]string{"gone"}, first...)})
		require.Equal(t, first, ids(again))
		assert.Contains(t, kinds(again.Lines[0].Why), WhyKept)
		one := ids(b.Compile(Asking{RungID: "white", Seed: seed, Candidate: "b", Kept: first[:1]}))
		require.Len(t, one, 2)
		require.Contains(t, one, first[0])
	}
	assert.Greater(t, changed, 10, "else this shows nothing")
}

// TestDrawsForOneCandidate: questions are drawn for each candidate, what is done together for all.
func TestDrawsForOneCandidate(t *testing.T) {
	drawn := func(section, candidate string) string {
		page := "White\n\t" + section
		for n := range 12 {
			page += fmt.Sprintf("\n\tAsked %c, once, from Pool", 'A'+n)
		}
		var out []string
		for _, l := range ladder(t, page).Compile(Asking{RungID: "white", Seed: 7, Candidate: candidate}).Lines {
			out = append(out, l.Call)
		}
		require.Len(t, out, 2)
		return strings.Join(out, ", ")
	}
	differ := func(section string) bool {
		first := drawn(section, "a")
		return slices.ContainsFunc([]string{"b", "c", "d", "e"}, func(c string) bool { return drawn(section, c) != first })
	}
	assert.True(t, differ("Knowledge"))
	assert.False(t, differ("Forms"), "what is shown together is drawn once")
}
