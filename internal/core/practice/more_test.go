package practice

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// TestClipsOfAStage: a clip of a later part of a technique, or of a rung above, is not shown.
func TestClipsOfAStage(t *testing.T) {
	clips := []curriculum.Clip{{Title: "all"}, {Title: "part 1", Stage: 1}, {Title: "part 2", Stage: 2}, {Title: "part 3", Stage: 3}, {Title: "from white", From: "w"}, {Title: "from yellow", From: "y"}, {Title: "from green", From: "g"}, {Title: "from nowhere", From: "x"}}
	b := curriculum.Open(curriculum.Curriculum{Rungs: []curriculum.Rung{{ID: "w"}, {ID: "y"}, {ID: "g"}}, Techniques: []curriculum.Technique{{ID: "t", Name: "Reed", TechniqueDetails: curriculum.TechniqueDetails{Clips: clips}}}})
	titles := func(stage int) (out []string) {
		for _, c := range Sheet(b, "y", []progress.Next{{Item: progress.Item{Line: curriculum.Line{TechniqueID: "t", Stage: stage}}}}, curriculum.Orthodox, "")[0].Clips {
			out = append(out, c.Title)
		}
		return out
	}
	assert.Equal(t, []string{"all", "part 1", "part 2", "from white", "from yellow"}, titles(2))
	assert.Equal(t, []string{"all", "part 1", "part 2", "part 3", "from white", "from yellow"}, titles(0))
}

func TestLimbsAndDraws(t *testing.T) {
	seen := map[int]bool{}
	for _, p := range []Piece{{Hand: true, Lead: true}, {Hand: true}, {Lead: true}, {}} {
		seen[p.limb()] = true
	}
	assert.Len(t, seen, 4, "four limbs")
	assert.Equal(t, []int{0, 1, 2, 3}, []int{Piece{}.limb(), Piece{Lead: true}.limb(), Piece{Hand: true}.limb(), Piece{Hand: true, Lead: true}.limb()})
	list, _, _ := Useful(pieces, 1, Rules{}, 99)
	require.Len(t, list, 4)
	var drawn []int
	for seed := range uint64(12) {
		drawn = append(drawn, Draw(list, nil, seed))
	}
	assert.Equal(t, drawnBefore, drawn, "a seed draws the same again")
	done := map[string]int{Line(list[0]): 2, Line(list[1]): 3, Line(list[2]): 2, Line(list[3]): 2}
	for seed := range uint64(12) {
		assert.NotEqual(t, 1, Draw(list, done, seed), "the least practised")
	}
	done[Line(list[3])] = 1
	assert.Equal(t, 3, Draw(list, done, 5))
}

// TestMinutesNobodyNeeds are named, and what fits to the minute fits.
func TestMinutesNobodyNeeds(t *testing.T) {
	p := MakePlan(nil, Tonight{Minutes: 60, On: tuesday})
	require.Len(t, p.Blocks, 3)
	assert.Equal(t, Block{Topic: Topic{Minutes: 50}, Begin: 7, Free: true}, p.Blocks[1], "minutes that no need fills are named")
	assert.True(t, p.Blocks[0].WarmUp)
	exact := []Topic{{ID: "a", Minutes: 20, Serves: []Served{{Student: "1", Worth: 5}}}, {ID: "b", Minutes: 30, Serves: []Served{{Student: "2", Worth: 5}}}, {ID: "c", Minutes: 1, Serves: []Served{{Student: "3", Worth: 0}}}}
	p = MakePlan(exact, Tonight{Minutes: 60, On: tuesday})
	swap := MakePlan([]Topic{{ID: "a", Minutes: 30, Serves: []Served{{Student: "1", Worth: 900}}}, {ID: "b", Minutes: 50, Serves: []Served{{Student: "2", Worth: 1000}}}}, Tonight{Minutes: 60, On: tuesday})
	assert.Equal(t, []any{"b", 1000}, []any{swap.Blocks[1].ID, swap.Worth}, "more a minute is first, and gives way to what is worth more and fills the room exactly")
	for kind, drilled := range map[curriculum.Kind]bool{"kick": true, "form": true, "knowledge": false, "courtesy": false, "character": false} {
		assert.Equal(t, drilled, Block{Topic: Topic{Kind: kind}}.Drilled(), kind)
	}
	assert.Equal(t, 9, p.Worth, "what fits to the minute fits")
	assert.Empty(t, p.Next, "what is worth nothing does not come next")
	assert.Len(t, p.Blocks, 4)
}

// drawnBefore is what the first twelve seeds draw of four.
var drawnBefore = []int{3, 1, 2, 1, 2, 2, 0, 3, 2, 0, 2, 1}

func TestGroupsByRung(t *testing.T) {
	b := Block{Topic: Topic{Serves: []Served{{Rung: "Green"}, {Rung: "Blue"}, {Rung: "Green"}, {Rung: "Red"}, {Rung: "Green"}}}}
	assert.Equal(t, []Share{{3, "Green"}, {1, "Blue"}, {1, "Red"}}, b.Shares())
}
