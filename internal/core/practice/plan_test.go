package practice

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

var tuesday = civil.MustParse("2026-11-24")

func someTopics(rng *rand.Rand, n int, theme string) (out []Topic) {
	for i := range n {
		t := Topic{ID: fmt.Sprint("t", i), Name: fmt.Sprint("Topic ", i), Section: fmt.Sprint("S", rng.IntN(4)), Minutes: 3 + rng.IntN(8)}
		t.Place = int(t.Section[1] - '0')
		t.Themed = theme != "" && t.Section == theme
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
		if minutes <= t.Room() {
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
		topics := someTopics(rng, 13, "")
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
		topics := someTopics(rng, rapid.IntRange(0, 14).Draw(t, "topics"), rapid.SampledFrom([]string{"", "S1"}).Draw(t, "theme"))
		for i := range topics {
			topics[i].For = i%5 == 4
		}
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
			require.LessOrEqual(t, len(b.Meanwhile), 3, "a class does not fall apart")
			for _, g := range b.Meanwhile {
				require.NotEmpty(t, g.Names)
				for _, name := range g.Names {
					require.False(t, busy[name], "nobody is in two places at once")
					busy[name] = true
				}
			}
			delete(tonight.Pinned, b.ID)
		}
		require.Empty(t, tonight.Pinned, "what is pinned is in it")
		if p.Over == 0 && tonight.Minutes >= warmUpLeast+closing {
			total := 0
			for _, b := range p.Blocks {
				total += b.Minutes
			}
			if len(p.Blocks) > 2 { // one is there to take what is left over
				require.Equal(t, tonight.Minutes, total, "the minutes fit")
			}
			require.Equal(t, tonight.Minutes, at)
		}
		for k, wanted := range always {
			room := tonight.Room()
			if k == 1 { // what the class is for goes before
				room -= 10
			}
			if best(p.Next, worths(tonight, p.Next), room, wanted) >= 0 && len(tonight.Pinned) == 0 && p.Over == 0 && !pinnedAny(p) {
				require.True(t, slices.ContainsFunc(p.Blocks, func(b Block) bool { return b.ID != "" && wanted(&b.Topic) }), "one of the theme, and of what the class is for, is there where any fits")
			}
		}
	})
}

func worths(t Tonight, topics []Topic) (out []int) {
	for i := range topics {
		out = append(out, t.worthOf(&topics[i]))
	}
	return out
}

func pinnedAny(p Plan) bool {
	return slices.ContainsFunc(p.Blocks, func(b Block) bool { return b.Pinned })
}

func TestThemeRestAndCautions(t *testing.T) {
	serves := []Served{{Student: "a", Rung: "Green", Worth: 500}, {Student: "b", Rung: "Blue", Worth: 400}}
	topics := []Topic{{ID: "kick", Name: "Kick", Section: "Kicks", Minutes: 20, Serves: serves}, {ID: "form", Name: "Form", Section: "Forms", Place: 1, Minutes: 20, Serves: serves[:1]}, {ID: "old", Name: "Old", Section: "Kicks", Minutes: 5, Serves: serves, Taught: tuesday.AddDays(-2)}}
	names := func(p Plan) (out []string) {
		for _, b := range p.Blocks {
			switch {
			case b.WarmUp:
				b.Name = "Warm-up"
			case b.Free:
				b.Name = "Open work"
			case b.Bow:
				b.Name = "Bow out"
			}
			out = append(out, b.Name)
		}
		return out
	}
	p := MakePlan(topics, Tonight{Minutes: 35, On: tuesday})
	assert.Equal(t, []string{"Warm-up", "Kick", "Open work", "Bow out"}, names(p))
	assert.Equal(t, []Share{{1, "Green"}, {1, "Blue"}}, p.Blocks[1].Shares())
	assert.Equal(t, "Old", p.Rest[0].Name)
	assert.Equal(t, "Form", p.Next[0].Name)
	assert.Equal(t, 2, p.Served)
	topics[1].Themed = true
	p = MakePlan(topics, Tonight{Minutes: 35, On: tuesday})
	assert.Equal(t, []string{"Warm-up", "Form", "Open work", "Bow out"}, names(p), "one of the theme is always there")
	assert.Equal(t, 20, p.Theme)
	topics[2].Serves = []Served{{Student: "a", Worth: 10}, {Student: "b", Worth: 10, Missed: true}}
	p = MakePlan(topics, Tonight{Minutes: 35, On: tuesday})
	assert.Equal(t, []string{"Warm-up", "Old", "Form", "Bow out"}, names(p), "what was missed does not rest for who was away")
	assert.Equal(t, []Served{{Student: "b", Worth: 10, Missed: true}}, p.Blocks[1].Serves)
	topics[2].Serves = serves
	p = MakePlan(topics, Tonight{Minutes: 35, On: tuesday, Pinned: map[string]bool{"form": true, "old": true, "kick": true}})
	assert.Equal(t, []string{"Warm-up", "Kick", "Old", "Form", "Bow out"}, names(p))
	assert.Equal(t, 18, p.Over, "pins that do not fit are told")

	groups := MakePlan([]Topic{{ID: "kick", Name: "Kick", Section: "Kicks", Minutes: 25, Serves: serves[:1]}, {ID: "form", Name: "Form", Kind: "form", Section: "Forms", Minutes: 25, Serves: []Served{{Student: "b", Name: "Ben", Worth: 100}}},
		{ID: "choke", Name: "Choke", Kind: "lock", Section: "Kicks", Minutes: 25, Serves: []Served{{Student: "b", Name: "Ben", Worth: 200}}}}, Tonight{Minutes: 35, On: tuesday})
	require.Equal(t, "Kick", groups.Blocks[1].Name)
	assert.Equal(t, []Group{{Topic: "Form", Names: []string{"Ben"}}}, groups.Blocks[1].Meanwhile, "a lock is not left to a senior")

	for _, k := range curriculum.Kinds {
		assert.Positive(t, TopicMinutes(k))
	}
}

// TestGroupsBeside a block are few, of those who can work together, and go on to the next thing.
func TestGroupsBeside(t *testing.T) {
	one := func(names ...string) (out []Served) {
		for i, n := range names {
			out = append(out, Served{Student: n, Name: n, Worth: 100 - i})
		}
		return out
	}
	topic := func(name string, minutes int, who ...string) Topic {
		return Topic{ID: name, Name: name, Section: name, Kind: "form", Minutes: minutes, Serves: one(who...)}
	}
	p := MakePlan([]Topic{
		topic("Kick", 30, "Ann", "Bo", "Cy", "Di"), topic("Punch", 30, "Ann", "Bo", "Cy"),
		topic("Heron", 40, "Ed", "Flo"), topic("Crane", 40, "Ed", "Gus", "Hal"), topic("Reed", 40, "Flo"), topic("Swan", 40, "Ivo"), topic("Wren", 40, "Joy"),
	}, Tonight{Minutes: 72, On: tuesday})
	require.Equal(t, []string{"Kick", "Punch"}, []string{p.Blocks[1].Name, p.Blocks[2].Name})
	assert.Equal(t, []Group{{"Crane", "", []string{"Ed", "Gus", "Hal"}}, {"Reed", "", []string{"Flo"}}, {"Swan", "", []string{"Ivo"}}}, p.Blocks[1].Meanwhile)
	assert.Equal(t, []int{4, 6}, []int{p.Served, p.Beside}, "each is counted once")
	assert.Equal(t, []Group{{"Heron", "", []string{"Ed", "Flo"}}, {"Wren", "", []string{"Joy"}}, {"Crane", "", []string{"Gus", "Hal"}}}, p.Blocks[2].Meanwhile, "Joy has her turn, Ed and Flo another thing")
}

// TestPlansAsTheyWere keeps five evenings as they were planned: what is taken first, when it
// begins, what comes next, and what it is worth.
func TestPlansAsTheyWere(t *testing.T) {
	for seed, want := range []struct {
		greedy, blocks, next string
		worth, over          int
	}{
		{"4 12 8 13 1 0", "t4@5 t12@14 t1@18 t8@21 t0@26 t13@31", "t5 t7 t10 t9 t11 t2 t6", 11832, 0},
		{"3 10 5 4 7 1 13 11", "t1@5 t11@8 t5@11 t10@14 t7@19 t13@26 t4@30 t3@34", "t2 t9 t12 t0", 15409, 0},
		{"0 3 4 12 9 6 11", "t3@6 t9@9 t11@13 t12@22 t4@28 t0@34 t6@37", "t2 t5", 14030, 0},
		{"3 8 7 13 10 11 4", "t4@7 t7@12 t13@16 t10@22 t3@26 t11@36 t8@43", "t5 t1 t6 t9 t2", 17521, 0},
		{"7 12 1 11 6 8 0 2", "t7@7 t1@11 t8@14 t0@24 t11@27 t12@35 t2@40 t6@50", "t13 t10 t3 t5", 16329, 0},
	} {
		rng := rand.New(rand.NewPCG(uint64(seed), 9))
		topics := someTopics(rng, 14, fmt.Sprint("S", seed%4))
		n := Tonight{Minutes: 38 + 6*seed, On: tuesday, Pinned: map[string]bool{"t3": seed%2 == 1}}
		alone := make([]int, len(topics))
		for i := range topics {
			alone[i] = n.worthOf(&topics[i])
		}
		p := MakePlan(topics, n)
		var blocks, next []string
		for _, b := range p.Blocks {
			if b.ID != "" {
				blocks = append(blocks, fmt.Sprintf("%s@%d", b.ID, b.Begin))
			}
		}
		for _, x := range p.Next {
			next = append(next, x.ID)
		}
		assert.Equal(t, want.greedy, strings.Trim(fmt.Sprint(n.greedy(topics, alone)), "[]"), seed)
		assert.Equal(t, want.blocks, strings.Join(blocks, " "), seed)
		assert.Equal(t, want.next, strings.Join(next, " "), seed)
		assert.Equal(t, []int{want.worth, want.over}, []int{p.Worth, p.Over}, seed)
	}
}

// TestWhatAPlanCounts: minutes of each kind, worth by theme and variety, rest, room and what is too much.
func TestWhatAPlanCounts(t *testing.T) {
	for kind, minutes := range map[curriculum.Kind]int{"form": 10, "sparring": 10, "partner_set": 10, "lock": 8, "throw": 8, "self_defence": 8, "kick": 6, "combination": 6, "breakfall": 6, "fitness": 6, "knowledge": 3, "courtesy": 3, "character": 3, "strike": 5, "stance": 5} {
		assert.Equal(t, minutes, TopicMinutes(kind), kind)
	}
	serve := func(n int) []Served { return []Served{{Student: fmt.Sprint(n), Worth: n}} }
	topics := []Topic{{ID: "a", Section: "S", Minutes: 20, Serves: serve(1000)}, {ID: "b", Section: "S", Minutes: 20, Serves: serve(100)}, {ID: "c", Section: "S", Minutes: 20, Serves: serve(500)}, {ID: "d", Section: "T", Minutes: 20, Serves: serve(200), Themed: true}}
	n := Tonight{Minutes: 40, On: tuesday}
	alone := []int{}
	for i := range topics {
		alone = append(alone, n.worthOf(&topics[i]))
	}
	assert.Equal(t, []int{1000, 100, 500, 300}, alone, "a topic of the theme counts half as much again")
	assert.Equal(t, 1000+400+64+300, n.value(topics, []int{0, 1, 2, 3}, alone), "each further one of a section counts a fifth less")
	assert.Zero(t, n.value(topics, nil, alone))
	talk := []Topic{{Section: "S", Kind: "knowledge"}, {Section: "T", Kind: "courtesy"}, {Section: "U", Kind: "character"}, {Section: "S", Kind: "kick"}}
	assert.Equal(t, 1000+500+200+500, n.value(talk, []int{0, 1, 2, 3}, []int{1000, 1000, 800, 500}), "of what is only talked of each further one counts half less, whatever its section")
	assert.Equal(t, []int{5, 32, 7, 50, 5, 0, 3, 0}, []int{n.warmUp(), n.Room(), Tonight{Minutes: 60}.warmUp(), Tonight{Minutes: 60}.Room(), Tonight{Minutes: 5}.warmUp(), Tonight{Minutes: 5}.Room(), Tonight{Minutes: 3}.warmUp(), Tonight{Minutes: 3}.Room()})
	n.Pinned = map[string]bool{"a": true, "d": true}
	p := MakePlan(topics, n)
	assert.Equal(t, 8, p.Over, "40 minutes are pinned and 32 are there")
	assert.Equal(t, 1300, p.Worth)
	assert.Equal(t, 2, p.Served)
	rested := topics[0]
	for days, rests := range map[int]bool{0: true, 5: true, 6: false} {
		rested.Taught = tuesday.AddDays(-days)
		assert.Equal(t, rests, Tonight{On: tuesday}.rests(&rested), "%d days", days)
	}
	assert.False(t, n.rests(&rested), "what is pinned never rests")
	rested.For, rested.Taught = true, tuesday.AddDays(-1)
	assert.False(t, Tonight{On: tuesday}.rests(&rested), "nor does what the class is for")
}
