package gradingday

import (
	"fmt"
	"math/bits"
	"math/rand/v2"
	"testing"

	"velvetladder/internal/golden"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func someFighters(rng *rand.Rand, n int) (out []Fighter) {
	for i := range n {
		months := 80 + rng.IntN(120)
		out = append(out, Fighter{ID: fmt.Sprint(i), Name: fmt.Sprint("Fighter ", i), Months: months, HeightCM: 90 + months/3 + rng.IntN(12), WeightKG: 20 + months/6 + rng.IntN(8), Rung: rng.IntN(6), Ring: rng.IntN(2)})
	}
	return out
}

// optimum of one bout each, over all subsets of fighters.
func optimum(all []Fighter, r PairRules) int {
	best := make([]int, 1<<len(all))
	for set := 1; set < len(best); set++ {
		i := bits.TrailingZeros(uint(set))
		best[set] = best[set&^(1<<i)] + seniorCost
		for j := i + 1; j < len(all); j++ {
			if c, beyond := r.difference(all[i], all[j]); beyond.What == "" && set&(1<<j) != 0 {
				best[set] = min(best[set], best[set&^(1<<i|1<<j)]+c)
			}
		}
	}
	return best[len(best)-1]
}

// fits looks at pairs by hand: bouts of everyone, limits, nobody twice.
func fits(t require.TestingT, all []Fighter, r PairRules, pairs []Pair) {
	n, seen := map[int]int{}, map[[2]int]bool{}
	for _, p := range pairs {
		n[p.A]++
		if p.B == Senior {
			continue
		}
		n[p.B]++
		require.False(t, seen[pairKey(p.A, p.B)], "the same two fight once")
		seen[pairKey(p.A, p.B)] = true
		a, b := all[p.A], all[p.B]
		require.LessOrEqual(t, max(a.Months-b.Months, b.Months-a.Months), r.Months)
		require.LessOrEqual(t, max(a.HeightCM-b.HeightCM, b.HeightCM-a.HeightCM), r.HeightCM)
		require.LessOrEqual(t, max(a.WeightKG-b.WeightKG, b.WeightKG-a.WeightKG), r.WeightKG)
		require.LessOrEqual(t, max(a.Rung-b.Rung, b.Rung-a.Rung), r.Rungs)
		require.True(t, !r.SameRing || a.Ring == b.Ring)
	}
	for i := range all {
		require.Equal(t, r.Bouts, n[i], "%s fights the set number of bouts", all[i].Name)
	}
}

func TestPairsAreAsGoodAsTheOptimum(t *testing.T) {
	golden.Alone(t)
	better, r := 0, UsualPairs
	for seed := range uint64(18) {
		all := someFighters(rand.New(rand.NewPCG(seed, 3)), 4+int(seed%13))
		pairs := Pairs(all, r, seed)
		fits(t, all, r, pairs)
		assert.Equal(t, optimum(all, r), total(pairs), "%d fighters, case %d", len(all), seed)
		m := newMatching(all, r)
		m.greedy()
		if total(pairs) < total(m.pairs) {
			better++
		}
	}
	assert.Greater(t, better, 3, "taking the nearest pair first is not enough")
}

// Several bouts each: the exchange, run on cases small enough for the exact search.
func TestSeveralBoutsAreAsGoodAsTheOptimum(t *testing.T) {
	for seed := range uint64(12) {
		r := UsualPairs
		r.Bouts, r.SameRing = 2, false
		all := someFighters(rand.New(rand.NewPCG(seed, 5)), 5+int(seed%4))
		exact := Pairs(all, r, seed)
		fits(t, all, r, exact)
		m := newMatching(all, r)
		m.solve(seed)
		assert.Equal(t, total(exact), total(m.pairs), "case %d", seed)
	}
}

func TestPairsAndListsHoldTheirRules(t *testing.T) {
	golden.Alone(t)
	rapid.Check(t, func(t *rapid.T) {
		r := PairRules{Bouts: rapid.IntRange(1, 4).Draw(t, "bouts"), Months: rapid.IntRange(0, 60).Draw(t, "months"), HeightCM: rapid.IntRange(0, 30).Draw(t, "height"), WeightKG: rapid.IntRange(0, 20).Draw(t, "weight"),
			Rungs: rapid.IntRange(0, 5).Draw(t, "rungs"), SameRing: rapid.Bool().Draw(t, "same ring"), RestBouts: rapid.IntRange(0, 3).Draw(t, "rest")}
		require.Empty(t, r.Check())
		all := someFighters(rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1)), rapid.IntRange(0, 24).Draw(t, "fighters"))
		pairs := Pairs(all, r, 1)
		fits(t, all, r, pairs)
		list := BoutList(all, pairs, r, 2)
		require.Len(t, list, len(pairs))
		at, last := map[[2]int]bool{}, map[int][]int{}
		for _, p := range list {
			require.False(t, at[[2]int{p.Ring, p.Turn}], "one bout at a time in a ring")
			at[[2]int{p.Ring, p.Turn}] = true
			for _, w := range []int{p.A, p.B} {
				if w == Senior {
					continue
				}
				for _, turn := range last[w] {
					require.Greater(t, max(turn-p.Turn, p.Turn-turn), r.RestBouts, "nobody fights again without rest")
				}
				last[w] = append(last[w], p.Turn)
				require.True(t, !r.SameRing || all[w].Ring == p.Ring)
			}
		}
	})
}

func TestWhoFightsASeniorIsToldWhy(t *testing.T) {
	r := UsualPairs
	r.SameRing = false
	all := []Fighter{{Name: "Ada", Months: 100, HeightCM: 130}, {Name: "Bo", Months: 104, HeightCM: 133}, {Name: "Cai", Months: 101, HeightCM: 131}, {Name: "Dov", Months: 300, HeightCM: 180}}
	pairs := Pairs(all, r, 1)
	with := map[string]Alone{}
	for _, p := range pairs {
		if p.B == Senior {
			with[all[p.A].Name] = WhySenior(all, r, p.A)
		}
	}
	assert.Equal(t, map[string]Alone{"Bo": {Paired: true}, "Dov": {Nearest: "Bo", Beyond: Beyond{Gap{AgeApart, 196}, 24}}}, with)
	assert.Equal(t, Alone{}, WhySenior(all[:1], r, 0))
	assert.Contains(t, PairRules{}.Check().Of("bouts"), "from 1 to 5")
}

func BenchmarkPairs200(b *testing.B) {
	all := someFighters(rand.New(rand.NewPCG(1, 3)), 200)
	r := UsualPairs
	r.Bouts = 3
	for b.Loop() {
		BoutList(all, Pairs(all, r, 1), r, 2)
	}
}
