package chart

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

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
