package chart

import (
	"flag"
	"math/big"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

var update = flag.Bool("update", false, "write the golden pictures")

// golden expects a picture to be well-formed, without inline style, and as it was.
func golden(t *testing.T, name, svg string) {
	wellFormed(t, svg)
	assert.NotContains(t, svg, "style=")
	path := filepath.Join("testdata", name+".svg")
	if *update {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(path, []byte(svg), 0o644))
	}
	want, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, string(want), svg)
}

func TestBelts(t *testing.T) {
	for name, c := range map[string]curriculum.Cloth{
		"plain":      {Weave: curriculum.Plain, Colour: "#d9772b"},
		"halves":     {Weave: curriculum.Halves, Colour: "#ffffff", Second: "#b8322c"},
		"core_line":  {Weave: curriculum.CoreLine, Colour: "#1b1a1c", Second: "#b8322c"},
		"tips":       {Weave: curriculum.Plain, Colour: "#ffffff", Marks: &curriculum.BeltMarks{Colour: "#efc231", Count: 2, Place: curriculum.Tip}},
		"ten_tips":   {Weave: curriculum.Plain, Colour: "#1b1a1c", Marks: &curriculum.BeltMarks{Colour: "#efc231", Count: 10, Place: curriculum.Tip}},
		"lengthwise": {Weave: curriculum.Plain, Colour: "#ffffff", Marks: &curriculum.BeltMarks{Colour: "#27548f", Count: 2, Place: curriculum.Lengthwise}},
	} {
		golden(t, "belt_"+name, Belt(c, 162, 22))
	}
	assert.NotContains(t, Belt(curriculum.Cloth{Colour: `"><script>`}, 10, 10), "<script>")
}

func TestClimb(t *testing.T) {
	c := Climb{Name: `Ada "<b>"`, Today: civil.MustParse("2026-11-24")}
	assert.Empty(t, c.SVG(), "nobody to draw")
	for _, name := range []string{"White belt", "Yellow <belt>", "Green belt", "Blue belt", "Brown belt", "Black belt", "A rank with a very long name"} {
		c.Rungs = append(c.Rungs, curriculum.Rung{Name: name, Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#efc231"}})
	}
	c.Steps = []ClimbStep{{civil.MustParse("2025-01-10"), 0}, {civil.MustParse("2025-06-14"), 1}, {civil.MustParse("2026-09-05"), 2}}
	c.Tries = []ClimbTry{{civil.MustParse("2026-05-02"), 1, "retest for Green belt"}}
	golden(t, "climb", c.SVG())
	assert.Contains(t, c.Sentence(), "Yellow <belt> on Sat 14 Jun 2025")
	for _, days := range []int{0, 1, 40, 400, 20_000} {
		one := Climb{Name: "Ben", Rungs: c.Rungs, Today: c.Today, Steps: []ClimbStep{{c.Today.AddDays(-days), 6}}}
		assert.Less(t, strings.Count(one.SVG(), `class="tick"`), 14, "ticks stay readable over %d days", days)
	}
}

func TestPlumb(t *testing.T) {
	r := func(n int64) *big.Rat { return big.NewRat(n, 2) }
	p := Plumb{From: r(80), To: r(140), Threshold: r(98), Label: "three examiners", Dots: []PlumbDot{
		{"C", "C: 50 of 70", r(100), DotPass}, {"D", "D: 48.5 of 70", r(97), DotFail}, {"M", "M <so far>", r(99), DotIncomplete}}}
	golden(t, "plumb", p.SVG())
	p.Threshold, p.To = nil, p.From
	assert.NotContains(t, p.SVG(), "threshold")
}
