package chart

import (
	"encoding/xml"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
)

// floorBook is a small program with a stance, a form and a defence.
var floorBook = curriculum.Open(curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "P"}, Techniques: []curriculum.Technique{
	{ID: "front", Name: "Front stance", Kind: "stance"}, {ID: "horse", Name: "Horse stance", Kind: "stance"}, {ID: "cat", Name: "Cat stance", Kind: "stance"},
	{ID: "punch", Name: "Punch <x>", Kind: "strike", TechniqueDetails: curriculum.TechniqueDetails{Levels: []notation.Level{"low", "high"}}}, {ID: "kick", Name: "Round kick", Kind: "kick"}, {ID: "fk", Name: "Front kick", Kind: "kick"},
	{ID: "elbow", Name: "Elbow", Kind: "strike"}, {ID: "block", Name: "Inward block", Kind: "block"}, {ID: "cross", Name: "Cross block", Kind: "block"}, {ID: "word", Name: "Word", Kind: "knowledge"},
	{ID: "form", Name: "Weir", Kind: "form", Note: "from ready stance: left step turn ccw 90 in front stance + left inward block / step through right punch <x> / right round kick mid, left step turn ccw 90 in ready stance"},
	{ID: "gate", Name: "Gate", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{AttackMoves: "step through right punch <x>", Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: "side step to the left + left inward block"}, {Moves: "right elbow"}}}}}},
}})

func stanceOf(t *testing.T, id string, other string, cm float64) Stance {
	b := body.PartsOf(body.Measured{HeightCM: cm})
	x := floorBook.Technique(id)
	d, _, known := floorBook.StanceOf(x)
	require.True(t, known)
	level := x.FeetStand() == notation.SideBySide
	s := Stance{Label: x.Name + " <of> somebody", Definition: d, Stand: d.For(b, x.Name, level).Take(b, floor.Left), Body: b, Width: "w", Length: "l"}
	if other != "" {
		o := floor.Usual[other].For(b, other, level).Take(b, floor.Left)
		s.Other = &o
	}
	return s
}

// TestStances: from above, from the side and from the front, as they were looked at.
func TestStances(t *testing.T) {
	front := stanceOf(t, "front", "long front", 142)
	golden(t, "stance_above", front.Above())
	golden(t, "stance_side", front.Side())
	golden(t, "stance_front", front.Front())
	assert.Equal(t, 2, strings.Count(front.Above(), `class="print other"`), "the other definition beside it")
	horse := stanceOf(t, "horse", "", 170)
	golden(t, "stance_level", horse.Above())
	assert.NotContains(t, horse.Above(), ">l</text>", "a level stance has no length")
	assert.NotContains(t, horse.Side(), "plumb")
	assert.Contains(t, stanceOf(t, "cat", "", 170).Above(), "lead up", "a raised heel is drawn dashed")
	for _, said := range []string{"60 %", "40 %", "37 cm"} {
		assert.Contains(t, front.Above(), ">"+said+"</text>")
	}
	assert.Contains(t, front.Side(), "sinks 13 cm")
}

func scene(t *testing.T, id string) (Scene, int) {
	b := body.PartsOf(body.Measured{HeightCM: 170})
	doing := func(id string) floor.Doing {
		x := floorBook.Technique(id)
		return floor.Doing{Act: x.Act(), Sweep: x.SweepOf()}
	}
	x := floorBook.Technique(id)
	if m := floorBook.Meet(x, 1, curriculum.Orthodox, curriculum.Orthodox, b, b); m != nil {
		return Scene{ID: "p", Label: "two & two", Actors: Pair(&m.Met, &m.Pair), Lines: true}, len(m.Moments)
	}
	f := floorBook.OnFloor(x, 0, curriculum.AsWritten, curriculum.AsWritten, b)
	require.NotNil(t, f)
	return Scene{ID: "p", Label: "one", Actors: []Actor{Alone(&f.Path, doing)}, Counts: []string{"", "1", "2", "", "3"}}, len(f.Path.Frames)
}

// TestScenes: somebody alone, and two, from above and from the side, as they were looked at; and the frames that a page moves through
// are those that are drawn.
func TestScenes(t *testing.T) {
	for id, last := range map[string]int{"form": 3, "gate": 2} {
		s, n := scene(t, id)
		golden(t, "scene_"+id, s.Above(last))
		golden(t, "scene_"+id+"_side", s.Side(last))
		frames := s.Frames()
		require.Len(t, frames, n)
		for i, f := range frames {
			svg := s.Above(i)
			for who := range s.Actors {
				x, y := float64(f.Above[2*(who*abovePoints+10)])/10, float64(f.Above[2*(who*abovePoints+10)+1])/10
				assert.Contains(t, svg, fmt.Sprintf(`cx="%.1f" cy="%.1f"`, x, y), "the head of frame %d", i)
				foot := who * 6
				assert.Contains(t, svg, fmt.Sprintf(`data-foot="%d" transform="translate(%.1f %.1f) rotate(%d)"`, foot/3, float64(f.Feet[foot])/10, float64(f.Feet[foot+1])/10, f.Feet[foot+2]))
			}
			assert.Len(t, f.Side, 2*sidePoints*len(s.Actors))
			assert.Len(t, f.Kicks, 2*len(s.Actors))
		}
	}
	s, _ := scene(t, "form")
	assert.Equal(t, "01", s.Frames()[3].Kicks, "the right leg kicks in the third")
	s.Close, s.Width, s.Height = true, 200, 200
	assert.NotContains(t, s.Above(2), `class="print`, "by itself a step shows its own feet alone")
	two, _ := scene(t, "gate")
	assert.Contains(t, two.Above(0), `class="line"`)
	assert.Contains(t, Standalone(two.Above(0)), `<svg xmlns="http://www.w3.org/2000/svg" class="scene above"`)
	wellFormed(t, Standalone(two.Above(0)))
}

// TestMarks: each kind of technique has its own, drawn from its data; what says nothing has none.
func TestMarks(t *testing.T) {
	all := ""
	seen := map[string]string{}
	for i := range floorBook.Techniques {
		x := &floorBook.Techniques[i]
		svg := MarkOf(floorBook, x).SVG()
		if x.ID == "word" {
			assert.Empty(t, svg)
			continue
		}
		if x.ID == "gate" { // it gets nowhere worth drawing, so it is drawn by what it does first
			assert.Equal(t, "Inward block", seen[svg])
			continue
		}
		require.NotEmpty(t, svg, x.Name)
		wellFormed(t, svg)
		assert.Empty(t, seen[svg], "%s looks like another", x.Name)
		seen[svg] = x.Name
		all += svg
		for _, s := range MarkOf(floorBook, x) {
			for _, d := range s.Dots {
				assert.True(t, d.X >= 0 && d.X <= MarkSize && d.Y >= 0 && d.Y <= MarkSize, "%s: %v lies outside", x.Name, d)
			}
		}
	}
	golden(t, "marks", "<svg>"+all+"</svg>")
}

// TestTargets: named as people name them, in front or behind, on either side; what is shown and not struck has a shape of its own.
func TestTargets(t *testing.T) {
	svg := Targets("of <Gate>", []Target{{"ribs", false}, {"eyes", true}, {"the back of the knee", true}, {"soft spot", false}, {"kidneys", false}, {"outer thigh", false}, {"jaw", false}})
	golden(t, "targets", svg)
	assert.Equal(t, 4, strings.Count(svg, "spot care"), "two eyes and two knees")
	assert.Equal(t, 8, strings.Count(svg, `class="spot"`), "ribs, kidneys, thighs, and both sides of the jaw")
	assert.NotContains(t, svg, "soft spot")
	assert.Empty(t, Targets("none", []Target{{"nothing known", false}}))
	assert.Empty(t, Targets("none", nil))
}

// wellFormed expects a picture that can be read.
func wellFormed(t require.TestingT, svg string) {
	dec := xml.NewDecoder(strings.NewReader(svg))
	for {
		_, err := dec.Token()
		if err == io.EOF {
			return
		}
		require.NoError(t, err, svg)
	}
}

// TestLawsOfScale: whatever a definition says, its pictures are well-formed, and whoever walks whatever stays in the picture.
func TestLawsOfScale(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := floor.Definition{Width: rapid.IntRange(0, 400).Draw(t, "width"), Length: rapid.IntRange(0, 400).Draw(t, "length"), OutLead: rapid.IntRange(-60, 120).Draw(t, "out"), OutRear: rapid.IntRange(-60, 120).Draw(t, "out rear"),
			OnLead: rapid.IntRange(0, 100).Draw(t, "weight"), BendLead: floor.Computed, BendRear: rapid.IntRange(0, 150).Draw(t, "bend"), Hips: rapid.IntRange(0, 90).Draw(t, "hips"), LeadHeelUp: rapid.Bool().Draw(t, "up")}
		b := body.PartsOf(body.Measured{HeightCM: rapid.Float64Range(60, 220).Draw(t, "height")})
		s := Stance{Label: `"<&>"`, Definition: d, Stand: d.For(b, "x", false).Take(b, floor.Right), Body: b, Width: "<", Length: "&"}
		for _, svg := range []string{s.Above(), s.Side(), s.Front()} {
			wellFormed(t, svg)
			if strings.Contains(svg, "NaN") || strings.Contains(svg, "Inf") {
				t.Fatalf("no number: %s", svg)
			}
		}
	})
}
