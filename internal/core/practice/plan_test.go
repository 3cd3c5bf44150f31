package practice

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

var tuesday = civil.MustParse("2026-11-24")

func someTopics(rng *rand.Rand, n int) (out []Topic) {
	for i := range n {
		t := Topic{ID: fmt.Sprint("t", i), Name: fmt.Sprint("Topic ", i), Section: fmt.Sprint("S", rng.IntN(4)), Minutes: 3 + rng.IntN(8)}
		t.Place = int(t.Section[1] - '0')
		for s := range rng.IntN(6) {
			t.Serves = append(t.Serves, Served{Student: fmt.Sprint(s), Name: fmt.Sprint("N", s), Rung: "Green", Worth: 100 + rng.IntN(900)})
		}
		out = append(out, t)
	}
	return out
}

// optimum tries every choice.
func (t Tonight) optimum(pool []Topic) (best int) {
	alone := make([]int, len(pool))
	for i := range pool {
		alone[i] = t.worthOf(&pool[i])
	}
	for mask := range 1 << len(pool) {
		var chosen []int
		minutes := 0
		for i := range pool {
			if mask>>i&1 == 1 {
				chosen, minutes = append(chosen, i), minutes+pool[i].Minutes
			}
		}
		if minutes <= t.room() {
			best = max(best, t.value(pool, chosen, alone))
		}
	}
	return best
}

// TestPlansAgainstTheOptimum reports greedy, ours and the exact optimum on small cases.
func TestPlansAgainstTheOptimum(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	greedy, ours, best, exact, n := 0, 0, 0, 0, 60
	worst := 1000
	for range n {
		tonight := Tonight{Minutes: 40 + rng.IntN(40), On: tuesday}
		topics := someTopics(rng, 13)
		alone := make([]int, len(topics))
		for i := range topics {
			alone[i] = tonight.worthOf(&topics[i])
		}
		o := tonight.optimum(topics)
		p := MakePlan(topics, tonight).Worth
		greedy += tonight.value(topics, tonight.greedy(topics, alone), alone)
		ours, best = ours+p, best+o
		require.LessOrEqual(t, p, o)
		if p == o {
			exact++
		}
		if o > 0 {
			worst = min(worst, p*1000/o)
		}
	}
	t.Logf("of the optimum: greedy %.2f percent, ours %.2f percent; %d of %d plans are the optimum, the worst is %.1f percent of it", 100*float64(greedy)/float64(best), 100*float64(ours)/float64(best), exact, n, float64(worst)/10)
	assert.GreaterOrEqual(t, ours, greedy)
	assert.GreaterOrEqual(t, ours*1000, best*995, "within half a percent of the optimum")
	assert.GreaterOrEqual(t, worst, 960)
}

// TestLawsOfPlans: a plan fits, keeps its pins, leaves out what was dropped or rests, is the same
// again, and is worth no less with more minutes.
func TestLawsOfPlans(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		topics := someTopics(rng, rapid.IntRange(0, 14).Draw(t, "topics"))
		tonight := Tonight{Minutes: rapid.IntRange(10, 120).Draw(t, "minutes"), On: tuesday, Pinned: map[string]bool{}, Dropped: map[string]bool{}}
		if len(topics) > 3 {
			tonight.Dropped[topics[0].ID] = true
			topics[1].Taught = tuesday.AddDays(-rapid.IntRange(0, 9).Draw(t, "taught"))
			if rapid.Bool().Draw(t, "pin") {
				tonight.Pinned[topics[2].ID] = true
			}
		}
		p := MakePlan(topics, tonight)
		require.True(t, p.Blocks[0].WarmUp, "the warm-up first")
		at := 0
		for i, b := range p.Blocks {
			require.GreaterOrEqual(t, b.Begin, at)
			at = b.Begin + b.Minutes
			require.False(t, tonight.Dropped[b.ID])
			require.False(t, tonight.rests(&p.Blocks[i].Topic))
			busy := map[string]bool{}
			for _, s := range b.Serves {
				busy[s.Name] = true
			}
			for _, g := range b.Meanwhile {
				for _, name := range g.Names {
					require.False(t, busy[name], "nobody is in two places at once")
					busy[name] = true
				}
			}
			delete(tonight.Pinned, b.ID)
		}
		require.Empty(t, tonight.Pinned, "what is pinned is in it")
		if p.Over == 0 && tonight.Minutes >= warmUpLeast+closing {
			require.LessOrEqual(t, at, tonight.Minutes)
		}
	})
}

func TestThemeRestAndCautions(t *testing.T) {
	serves := []Served{{Student: "a", Rung: "Green", Worth: 500}, {Student: "b", Rung: "Blue", Worth: 400}}
	topics := []Topic{{ID: "kick", Name: "Kick", Section: "Kicks", Minutes: 20, Serves: serves}, {ID: "form", Name: "Form", Section: "Forms", Place: 1, Minutes: 20, Serves: serves[:1]}, {ID: "old", Name: "Old", Section: "Kicks", Minutes: 5, Serves: serves, Taught: tuesday.AddDays(-2)}}
	names := func(p Plan) (out []string) {
		for _, b := range p.Blocks {
			out = append(out, b.Name)
		}
		return out
	}
	p := MakePlan(topics, Tonight{Minutes: 35, On: tuesday})
	assert.Equal(t, []string{"Warm-up", "Kick", "Open work", "Bow out"}, names(p))
	assert.Equal(t, []string{"1 to Green", "1 to Blue"}, p.Blocks[1].Groups())
	assert.Equal(t, "Old", p.Rest[0].Name)
	assert.Equal(t, "Form", p.Next[0].Name)
	assert.Equal(t, 2, p.Served)
	p = MakePlan(topics, Tonight{Minutes: 35, On: tuesday, Theme: "Forms"})
	assert.Equal(t, []string{"Warm-up", "Kick", "Open work", "Bow out"}, names(p), "the theme tips the scales, and no more")
	p = MakePlan(topics, Tonight{Minutes: 35, On: tuesday, Pinned: map[string]bool{"form": true, "old": true, "kick": true}})
	assert.Equal(t, []string{"Warm-up", "Kick", "Old", "Form", "Bow out"}, names(p))
	assert.Equal(t, 18, p.Over, "pins that do not fit are told")

	groups := MakePlan([]Topic{{ID: "kick", Name: "Kick", Section: "Kicks", Minutes: 25, Serves: serves[:1]}, {ID: "form", Name: "Form", Kind: "form", Section: "Forms", Minutes: 25, Serves: []Served{{Student: "b", Name: "Ben", Worth: 100}}},
		{ID: "choke", Name: "Choke", Kind: "lock", Section: "Kicks", Minutes: 25, Serves: []Served{{Student: "b", Name: "Ben", Worth: 200}}}}, Tonight{Minutes: 35, On: tuesday})
	require.Equal(t, "Kick", groups.Blocks[1].Name)
	assert.Equal(t, []Group{{"Form", []string{"Ben"}}}, groups.Blocks[1].Meanwhile, "a lock is not left to a senior")

	for kind, word := range map[curriculum.Kind]string{"lock": "tap", "throw": "Breakfalls", "sparring": "stop word", "fitness": "pain"} {
		assert.Contains(t, fmt.Sprint(Careful(&curriculum.Technique{Kind: kind})), word)
		own := curriculum.Technique{Kind: kind, Cautions: []string{"lock: a tap, breakfalls, a stop word, no pain"}}
		assert.Len(t, Careful(&own), 1, "its own caution is enough")
	}
	assert.Contains(t, fmt.Sprint(Careful(&curriculum.Technique{Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{Attack: []curriculum.AttackElement{{Kind: "knife thrust"}, {Kind: "rear choke"}}}})), "Training weapons")
	assert.Contains(t, fmt.Sprint(Careful(&curriculum.Technique{Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Modifiers: []curriculum.Modifier{"jumping"}}})), "landing")
	for _, k := range curriculum.Kinds {
		assert.Positive(t, TopicMinutes(k))
	}
}
