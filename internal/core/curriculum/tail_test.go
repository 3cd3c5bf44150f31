package curriculum_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	. "velvetladder/internal/core/curriculum"
)

// TestEitherEnding: an optional tail is told from its rung on, changes no stage that is asked,
// shown or compared, and brings its cautions to those alone who are taught it; a part behind it
// makes it obligatory.
func TestEitherEnding(t *testing.T) {
	book := func(change func(*Curriculum)) *Book {
		return ladder(t, "No belt\nWhite\n\tSelf-defence\n\tReed, 2 a side, always\nYellow\nOrange", func(c *Curriculum) {
			x := technique(c, "reed")
			x.Stages = []Stage{{Does: Appends, Steps: ParseSteps([]string{"Step in."})}, {Does: Appends, RungID: "yellow", Name: "the sweep", Optional: true, Steps: ParseSteps([]string{"Sweep the leg.", "Step away."})}}
			change(c)
		})
	}
	line := func(b *Book, rung, track string) Line {
		return b.Compile(Asking{RungID: rung, TrackID: track}).Lines[0]
	}
	b := book(func(*Curriculum) {})
	white, yellow := line(b, "white", ""), line(b, "yellow", "")
	assert.Equal(t, []any{"Reed", 1, 1, New, 0}, []any{white.Call, white.Stage, white.Stages, white.Freshness, len(white.Cautions)})
	assert.NotContains(t, white.Common, Throughout{Part: "the sweep", Steps: "Sweep the leg / Step away"})
	assert.Equal(t, []any{"Reed", 1, 1, Carried}, []any{yellow.Call, yellow.Stage, yellow.Stages, yellow.Freshness}, "it never makes a line grown")
	assert.Contains(t, yellow.Common, Throughout{Part: "the sweep", Steps: "Sweep the leg / Step away"})
	assert.Equal(t, []string{UsualCautions["throw"]}, yellow.Cautions)
	assert.Len(t, yellow.Moves, 1, "nobody has to show it")
	assert.Equal(t, 2, b.Technique("reed").Tail())

	capped := line(book(func(c *Curriculum) { c.Requirements[0].Tracks = []TrackChange{{TrackID: "cubs", StageCap: 1}} }), "yellow", "cubs")
	assert.Empty(t, capped.Cautions, "a track that goes up to the part before is not taught it")
	behind := book(func(c *Curriculum) {
		x := technique(c, "reed")
		x.Stages = append(x.Stages, Stage{Does: Appends, RungID: "orange", Steps: ParseSteps([]string{"Bow."})})
	})
	assert.Zero(t, behind.Technique("reed").Tail())
	yellow = line(behind, "yellow", "")
	assert.Equal(t, []any{2, 3, Grown}, []any{yellow.Stage, yellow.Stages, yellow.Freshness})
	goes := line(book(func(c *Curriculum) {
		c.Techniques = append(c.Techniques, Technique{ID: "oar", Name: "Two Oars", Kind: "self_defence"})
		x := technique(c, "reed")
		x.Stages[1] = Stage{Does: Attaches, Optional: true, Attached: "oar"}
	}), "white", "")
	assert.Contains(t, goes.Common, Throughout{Part: "stage 2", Steps: "Two Oars"}, "without a rung it is there from the first")
	assert.NotEmpty(t, Technique{Name: "A", Kind: "kick", TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Optional: true, Steps: ParseSteps([]string{"a."})}}}}.Check().Of("stage_0"))
}
