package chart

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/curriculum"
)

func rungs(names ...string) (out []curriculum.Rung) {
	for i, n := range names {
		out = append(out, curriculum.Rung{ID: "r" + n, Name: n + " belt", Position: i, Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#efc231"}})
	}
	return out
}

func TestStaircase(t *testing.T) {
	ladder := rungs("Yellow", "Blue")
	golden(t, "staircase", Staircase("The parts of <Wheel>", []StairStep{
		{Name: "stage 1", Adds: "2 steps"}, {Name: "stage 2", Rung: &ladder[0], Adds: "adds 1 step"}, {Name: "an extension with a very long name indeed, and more", Rung: &ladder[1], Adds: "goes on with <Reed>"},
	}))
	assert.Empty(t, Staircase("none", nil))
}

func TestCoverage(t *testing.T) {
	c := Coverage{Rungs: rungs("White", "Blue"), Names: map[string]string{"a": "Reed & Rush", "b": "Wheel", "c": "Oar"}, Rows: []curriculum.AttackRow{
		{Kind: "straight punch", Side: "right", Origin: "front", Answers: []curriculum.Answer{{TechniqueID: "a", Rung: 0, Position: "outside", Range: "middle"}, {TechniqueID: "b", Rung: 0, Position: "inside"}, {TechniqueID: "c", Rung: 1}}},
		{Kind: "front choke", Origin: "front", Answers: []curriculum.Answer{{TechniqueID: "a", Rung: -1}}},
	}}
	svg := c.SVG()
	golden(t, "coverage", svg)
	for _, said := range []string{"Reed &amp; Rush answers right straight punch from White belt on, ending outside, at middle range", "no rung asks for an answer", `href="/techniques/c"`, ">3</text>"} {
		assert.Contains(t, svg, said)
	}
	assert.Equal(t, 3, strings.Count(svg, `class="answer"`))
}

func TestLoad(t *testing.T) {
	ladder := rungs("White", "Blue", "Black")
	svg := Load("Cubs", []LoadBar{{Rung: ladder[0]}, {Rung: ladder[1], New: 6, Grown: 2, Carried: 4, Minutes: 20}, {Rung: ladder[2], New: 1, Carried: 23, Minutes: 41}})
	golden(t, "load", svg)
	assert.Contains(t, svg, "Blue belt: 12 lines (6 new, 2 grown, 4 carried), 20 min")
	golden(t, "load_empty", Load("nobody", nil))
}

// TestLawsOfPictures: whatever a curriculum holds, its pictures are well-formed, hold every
// link once, and nothing lies outside of them.
func TestLawsOfPictures(t *testing.T) {
	text := rapid.StringOfN(rapid.RuneFrom([]rune("ab <>&\"'é型")), 0, 40, -1)
	rapid.Check(t, func(t *rapid.T) {
		var ladder []curriculum.Rung
		for i := range rapid.IntRange(1, 30).Draw(t, "rungs") {
			ladder = append(ladder, curriculum.Rung{ID: fmt.Sprint("r", i), Name: text.Draw(t, "name"), Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#efc231"}})
		}
		var bars []LoadBar
		for _, r := range ladder {
			bars = append(bars, LoadBar{r, rapid.IntRange(0, 60).Draw(t, "new"), rapid.IntRange(0, 60).Draw(t, "grown"), rapid.IntRange(0, 60).Draw(t, "carried"), rapid.IntRange(0, 400).Draw(t, "minutes")})
		}
		names, answers := map[string]string{}, 0
		var rows []curriculum.AttackRow
		for i := range rapid.IntRange(0, 12).Draw(t, "rows") {
			row := curriculum.AttackRow{Kind: rapid.SampledFrom(curriculum.AttackKinds).Draw(t, "kind"), Origin: rapid.SampledFrom(curriculum.Origins).Draw(t, "origin")}
			for k := range rapid.IntRange(0, 3).Draw(t, "answers") {
				a := curriculum.Answer{TechniqueID: fmt.Sprint("t", i, k), Rung: rapid.IntRange(-1, len(ladder)-1).Draw(t, "rung"), Position: rapid.SampledFrom([]curriculum.Position{"", "inside", "outside"}).Draw(t, "position")}
				names[a.TechniqueID] = text.Draw(t, "technique")
				row.Answers = append(row.Answers, a)
				if a.Rung >= 0 {
					answers++
				}
			}
			rows = append(rows, row)
		}
		coverage, load := Coverage{ladder, rows, names}.SVG(), Load(text.Draw(t, "track"), bars)
		var steps []StairStep
		for i := range rapid.IntRange(1, 12).Draw(t, "steps") {
			steps = append(steps, StairStep{Name: text.Draw(t, "step"), Rung: &ladder[i%len(ladder)], Adds: text.Draw(t, "adds")})
		}
		for _, svg := range []string{coverage, load, Staircase("parts", steps)} {
			wellFormed(t, svg)
			require.NotRegexp(t, ` (x|y|width|height|cx|cy|x1|x2|y1|y2)="-`, svg, "nothing lies outside")
		}
		require.Equal(t, answers, strings.Count(coverage, `class="answer"`))
		require.Equal(t, len(ladder), strings.Count(load, `href="/ladder/`))
	})
}
