package curriculum_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
)

// Names: where they go along, join, and are said.

// TestNamesGoAlong: where a technique is called otherwise, lines that name it are written anew,
// and only those.
func TestNamesGoAlong(t *testing.T) {
	b := school(func(c *Curriculum) {
		c.Techniques = append(c.Techniques,
			Technique{ID: "user", Name: "User", Kind: "self_defence", Note: "lead cross", TechniqueDetails: TechniqueDetails{AttackMoves: "right jab", Stages: []Stage{{Does: Appends, Steps: ParseSteps([]string{"lead jab in horse stance", "Wait."})}}, Entries: []Entry{{Name: "Way", Steps: ParseSteps([]string{"rear jab"})}}}},
			Technique{ID: "starter", Name: "Starter", Kind: "combination", TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Steps: ParseSteps([]string{"from horse stance: left cross"})}}}})
	})
	lines := func(id, name string, aliases ...string) map[string]string {
		x := *b.Technique(id)
		x.Name, x.Aliases = name, aliases
		out := map[string]string{}
		for _, y := range b.Renamed(x) {
			if y.ID != "user" && y.ID != "starter" {
				continue
			}
			for _, s := range y.StepsAt(9) {
				out[y.ID] += s.Moves + "; "
			}
			for _, e := range y.Entries {
				out[y.ID] += e.Steps[0].Moves + "; "
			}
			out[y.ID] += y.AttackMoves + "; " + y.Note
		}
		return out
	}
	assert.Equal(t, map[string]string{"user": "lead Poke in Millstone stance; Wait.; rear Poke; right Poke; lead cross"}, lines("jab", "Poke"))
	assert.Equal(t, map[string]string{"user": "lead jab in horse stance; Wait.; rear jab; right jab; lead Thrust"}, map[string]string{"user": lines("cross", "Thrust")["user"]})
	assert.Empty(t, lines("jab", "Poke", "jab"), "the old name is an alias now")
	horse := b.Named("Horse stance")
	require.NotNil(t, horse)
	moved := lines(horse.ID, "Bench stance")
	assert.Contains(t, moved["user"], "Bench stance")
	assert.Contains(t, moved["starter"], "from Bench stance")
	x := *b.Technique("jab")
	assert.Empty(t, b.Renamed(x))
	x.ID = "new"
	assert.Empty(t, b.Renamed(x))
}

// TestCuesOfVariants: a technique's own cue words come first, a variant without any has those of its base.
func TestCuesOfVariants(t *testing.T) {
	b := school(func(c *Curriculum) {
		technique(c, "jab").Cues = []string{"snap"}
		c.Techniques = append(c.Techniques, Technique{ID: "high jab", Name: "High jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"jumping"}, BuildsOn: []string{"jab"}}},
			Technique{ID: "low jab", Name: "Low jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"stepping"}, BuildsOn: []string{"jab"}, Cues: []string{"sink"}}})
	})
	assert.Equal(t, [][]string{{"snap"}, {"snap"}, {"sink"}}, [][]string{b.Cues(b.Technique("jab")), b.Cues(b.Technique("high jab")), b.Cues(b.Technique("low jab"))})
}

// TestCardsInMoves: a remark in moves is what a card says; words are none.
func TestCardsInMoves(t *testing.T) {
	for note, want := range map[string]int{"": 0, "lead jab, rear cross": 1, "with care.": 0, "nobody knows": 0, "lead jab, with care.": 0} {
		b := school(func(c *Curriculum) { technique(c, "jab").Note = note })
		assert.Len(t, NotedIn(b, b.Technique("jab")), want, note)
	}
}
