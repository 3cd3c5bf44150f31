package gradingday

import (
	"cmp"
	"math/rand/v2"
	"slices"

	"velvetladder/internal/core/check"
)

// Fighter is someone who is to spar.
type Fighter struct {
	ID, Name string
	Months   int // age; 0 unknown
	HeightCM int // 0 not measured
	WeightKG int // 0 not measured
	Rung     int // place on the ladder where they stand
	Ring     int // index of the ring they are tested in
}

// PairRules are the hard limits of a pair, and how often everyone fights. A figure that is
// not on record for one of the two limits nothing, and is said.
type PairRules struct {
	Bouts     int  `json:"bouts"`      // of everyone, 1 to 5
	Months    int  `json:"months"`     // greatest difference of age, 0 to 1200
	HeightCM  int  `json:"height_cm"`  // of height, 0 to 200
	WeightKG  int  `json:"weight_kg"`  // of weight, 0 to 200
	Rungs     int  `json:"rungs"`      // of rank, 0 to 100
	SameRing  bool `json:"same_ring"`  // only those tested in one ring
	RestBouts int  `json:"rest_bouts"` // bouts of others between two of one person, 0 to 10
}

// UsualPairs is what a new list begins with.
var UsualPairs = PairRules{Bouts: 1, Months: 24, HeightCM: 15, WeightKG: 10, Rungs: 3, SameRing: true, RestBouts: 1}

// Check notes what is wrong with the rules.
func (r PairRules) Check() check.Problems {
	var p check.Problems
	for _, x := range []struct {
		name              string
		value, least, top int
	}{{"bouts", r.Bouts, 1, 5}, {"months", r.Months, 0, 1200}, {"height_cm", r.HeightCM, 0, 200}, {"weight_kg", r.WeightKG, 0, 200}, {"rungs", r.Rungs, 0, 100}, {"rest_bouts", r.RestBouts, 0, 10}} {
		if x.value < x.least || x.value > x.top {
			p.Add(x.name, "is %d; it must be from %d to %d", x.value, x.least, x.top)
		}
	}
	return p
}

// Measured is what two people are apart in.
type Measured string

// What two people are apart in.
const (
	AgeApart    Measured = "age"    // months
	HeightApart Measured = "height" // cm
	WeightApart Measured = "weight" // kg
	RankApart   Measured = "rank"   // rungs
	RingsApart  Measured = "rings"  // tested in different ones
)

// Gap is how far two are apart in one thing.
type Gap struct {
	What Measured
	By   int
}

// Beyond is a gap that is wider than allowed.
type Beyond struct {
	Gap
	Allowed int
}

// difference is how unlike two people are, in thousandths of the limits: an even share of age,
// height, weight and rank, squared, so that one great difference weighs more than several small ones.
// beyond is the first limit they are beyond; the zero value is none.
func (r PairRules) difference(a, b Fighter) (cost int, beyond Beyond) {
	part := func(x, y, limit int, what Measured) {
		d := max(x-y, y-x)
		if d > limit && beyond.What == "" {
			beyond = Beyond{Gap{what, d}, limit}
		}
		share := 1000 * d / max(limit, 1)
		cost += share * share / 1000
	}
	if a.Months > 0 && b.Months > 0 {
		part(a.Months, b.Months, r.Months, AgeApart)
	}
	if a.HeightCM > 0 && b.HeightCM > 0 {
		part(a.HeightCM, b.HeightCM, r.HeightCM, HeightApart)
	}
	if a.WeightKG > 0 && b.WeightKG > 0 {
		part(a.WeightKG, b.WeightKG, r.WeightKG, WeightApart)
	}
	part(a.Rung, b.Rung, r.Rungs, RankApart)
	if r.SameRing && a.Ring != b.Ring && beyond.What == "" {
		beyond.What = RingsApart
	}
	return cost, beyond
}

// Senior is the opponent of a bout for which nobody within the limits is left.
const Senior = -1

// Pair is one bout: indexes of fighters, B may be Senior.
type Pair struct {
	A, B int
	Cost int // see difference; seniorCost with a senior
}

// seniorCost makes a bout with a senior dearer than any pair within the limits.
const seniorCost = 100_000

// Pairs matches everyone for the set number of bouts, nobody twice with the same, so that as few
// as can be need a senior and the pairs are as alike as can be. Up to exactFighters it is the
// optimum; beyond, the nearest pairs first, then exchanges of two and three bouts until none
// helps, and that once more after a walk that also takes exchanges for the worse, ever smaller ones:
// the better of the two. The same fighters and seed give the same pairs.
func Pairs(all []Fighter, r PairRules, seed uint64) []Pair {
	m := newMatching(all, r)
	if Proven(len(all), r) {
		m.exact()
	} else {
		m.solve(seed)
	}
	out := m.pairs
	for i := range out {
		if out[i].A == Senior {
			out[i].A, out[i].B = out[i].B, out[i].A
		}
	}
	out = slices.DeleteFunc(out, func(p Pair) bool { return p.A == Senior })
	slices.SortFunc(out, func(a, b Pair) int { return cmp.Or(cmp.Compare(a.A, b.A), cmp.Compare(a.B, b.B)) })
	return out
}

// Proven reports whether the pairs of so many fighters are the most alike there are: every way was tried.
func Proven(fighters int, r PairRules) bool {
	return fighters <= exactFighters && fighters*r.Bouts <= exactBouts
}

// Bounds of the exact search: the most that is found in a few milliseconds.
const (
	exactFighters = 10
	exactBouts    = 20
)

type matching struct {
	all    []Fighter
	rules  PairRules
	senior int     // what a bout with one costs just now
	cost   [][]int // never, beyond the limits
	pairs  []Pair
	used   map[[2]int]bool // pairs that stand
}

const never = 4 * seniorCost

func newMatching(all []Fighter, r PairRules) *matching {
	m := &matching{all: all, rules: r, senior: seniorCost, cost: make([][]int, len(all)), used: map[[2]int]bool{}}
	for i := range all {
		m.cost[i] = make([]int, len(all))
		for j := range all {
			c, beyond := r.difference(all[i], all[j])
			if m.cost[i][j] = c; beyond.What != "" || i == j {
				m.cost[i][j] = never
			}
		}
	}
	return m
}

// price of a bout; two seniors need no bout.
func (m *matching) price(a, b int) int {
	switch {
	case a == Senior && b == Senior:
		return 0
	case a == Senior || b == Senior:
		return m.senior
	}
	return m.cost[a][b]
}

func pairKey(a, b int) [2]int { return [2]int{min(a, b), max(a, b)} }

// exact tries every way, the cheapest partners first, and gives up a way as soon as it is
// dearer than the best so far.
// It is long: one search whose steps share what it has found.
func (m *matching) exact() {
	n := len(m.all)
	left := make([]int, n)
	for i := range left {
		left[i] = m.rules.Bouts
	}
	least := make([]int, n) // of one bout of each, halved: two share it
	for i := range n {
		least[i] = seniorCost
		for j := range n {
			least[i] = min(least[i], m.cost[i][j]/2)
		}
	}
	best, bestCost := []Pair(nil), 1<<60
	var now []Pair
	var try func(cost int)
	try = func(cost int) {
		first, rest := -1, 0
		for i := range left {
			if left[i] > 0 {
				rest += left[i] * least[i]
				if first < 0 {
					first = i
				}
			}
		}
		if cost+rest >= bestCost {
			return
		}
		if first < 0 {
			best, bestCost = slices.Clone(now), cost
			return
		}
		// Partners of one person are taken in ascending order, so that no set comes twice.
		after := -1
		for _, p := range now {
			if p.A == first && p.B != Senior {
				after = max(after, p.B)
			}
		}
		senior := slices.ContainsFunc(now, func(p Pair) bool { return p.A == first && p.B == Senior })
		type choice struct{ who, cost int }
		var choices []choice
		if !senior {
			for j := first + 1; j < n; j++ {
				if left[j] > 0 && j > after && m.cost[first][j] < never {
					choices = append(choices, choice{j, m.cost[first][j]})
				}
			}
			slices.SortStableFunc(choices, func(a, b choice) int { return cmp.Compare(a.cost, b.cost) })
		}
		choices = append(choices, choice{Senior, seniorCost})
		for _, c := range choices {
			left[first]--
			if c.who != Senior {
				left[c.who]--
			}
			now = append(now, Pair{first, c.who, c.cost})
			try(cost + c.cost)
			now = now[:len(now)-1]
			left[first]++
			if c.who != Senior {
				left[c.who]++
			}
		}
	}
	try(0)
	m.pairs = best
}

// greedy takes the most alike pair that is still to be had, again and again; whoever is left
// fights a senior.
func (m *matching) greedy() {
	var edges []Pair
	for i := range m.all {
		for j := i + 1; j < len(m.all); j++ {
			if m.cost[i][j] < never {
				edges = append(edges, Pair{i, j, m.cost[i][j]})
			}
		}
	}
	slices.SortStableFunc(edges, func(a, b Pair) int { return cmp.Compare(a.Cost, b.Cost) })
	left := make([]int, len(m.all))
	for i := range left {
		left[i] = m.rules.Bouts
	}
	for _, e := range edges {
		if left[e.A] > 0 && left[e.B] > 0 {
			left[e.A]--
			left[e.B]--
			m.put(e)
		}
	}
	for i, n := range left {
		for range n {
			m.put(Pair{i, Senior, seniorCost})
		}
	}
	// Free seniors let one pair part into two bouts with seniors where that frees others.
	m.put(Pair{Senior, Senior, 0})
	m.put(Pair{Senior, Senior, 0})
}

func (m *matching) put(p Pair) {
	if p.A != Senior && p.B != Senior {
		m.used[pairKey(p.A, p.B)] = true
	}
	m.pairs = append(m.pairs, p)
}

// Figures of the walk: how many of them, how many steps for each bout, what a bout with a senior costs on it, so that one
// may be given and taken, and how much worse a step may be at its beginning.
const (
	walks      = 3
	walkSteps  = 1500
	walkMost   = 600_000
	walkSenior = 2500
	walkWorse  = 2000
)

func (m *matching) solve(seed uint64) {
	rng := rand.New(rand.NewPCG(seed, 2))
	m.greedy()
	m.exchange(rng)
	best := slices.Clone(m.pairs)
	for range walks {
		m.walk(rng)
		m.exchange(rng)
		if total(m.pairs) < total(best) {
			best = slices.Clone(m.pairs)
		}
	}
	m.pairs = best
}

func total(pairs []Pair) (n int) {
	for _, p := range pairs {
		n += p.Cost
	}
	return n
}

// walk takes exchanges of two bouts at random, also ones for the worse, up to a bound that falls to nothing.
func (m *matching) walk(rng *rand.Rand) {
	n := len(m.pairs)
	if n < 2 {
		return
	}
	m.reprice(walkSenior)
	steps := min(walkSteps*n, walkMost)
	for k := range steps {
		i, j := rng.IntN(n), rng.IntN(n)
		if i == j {
			continue
		}
		m.swap(i, j, walkWorse*(steps-k)/steps, 1<<rng.IntN(2))
	}
	m.reprice(seniorCost)
}

func (m *matching) reprice(senior int) {
	m.senior = senior
	for i, p := range m.pairs {
		m.pairs[i].Cost = m.price(p.A, p.B)
	}
}

// exchange re-pairs the people of two bouts, and of three drawn near each other, wherever
// that is cheaper.
func (m *matching) exchange(rng *rand.Rand) {
	for range 40 {
		better := false
		for i := range m.pairs {
			for j := i + 1; j < len(m.pairs); j++ {
				better = m.swap(i, j, 0, 3) || better
			}
		}
		for range 60 * len(m.pairs) {
			better = m.rotate(rng) || better
		}
		if !better {
			return
		}
	}
}

func (m *matching) free(a, b int, but ...int) bool {
	if a == Senior || b == Senior {
		return true
	}
	if a == b || m.cost[a][b] >= never {
		return false
	}
	if !m.used[pairKey(a, b)] {
		return true
	}
	for _, i := range but {
		if p := m.pairs[i]; p.A != Senior && p.B != Senior && pairKey(p.A, p.B) == pairKey(a, b) {
			return true
		}
	}
	return false
}

func (m *matching) replace(at []int, with []Pair) {
	for _, i := range at {
		if p := m.pairs[i]; p.A != Senior && p.B != Senior {
			delete(m.used, pairKey(p.A, p.B))
		}
	}
	for k, i := range at {
		m.pairs[i] = with[k]
		if p := with[k]; p.A != Senior && p.B != Senior {
			m.used[pairKey(p.A, p.B)] = true
		}
	}
}

// swap re-pairs the people of two bouts where that costs less than now and worse together. ways is a bit set of
// the two ways to do it.
func (m *matching) swap(i, j, worse, ways int) bool {
	p, q := m.pairs[i], m.pairs[j]
	now := p.Cost + q.Cost + worse
	for k, w := range [2][4]int{{p.A, q.A, p.B, q.B}, {p.A, q.B, p.B, q.A}} {
		if ways&(1<<k) == 0 {
			continue
		}
		cost := m.price(w[0], w[1]) + m.price(w[2], w[3])
		if cost < now && m.free(w[0], w[1], i, j) && m.free(w[2], w[3], i, j) && !same(w[0], w[1], w[2], w[3]) {
			m.replace([]int{i, j}, []Pair{{w[0], w[1], m.price(w[0], w[1])}, {w[2], w[3], m.price(w[2], w[3])}})
			return true
		}
	}
	return false
}

func same(a, b, c, d int) bool {
	return a != Senior && b != Senior && c != Senior && d != Senior && pairKey(a, b) == pairKey(c, d)
}

// rotate re-pairs the six people of three bouts in the best of the fifteen ways.
func (m *matching) rotate(rng *rand.Rand) bool {
	if len(m.pairs) < 3 {
		return false
	}
	at := [3]int{rng.IntN(len(m.pairs)), rng.IntN(len(m.pairs)), rng.IntN(len(m.pairs))}
	if at[0] == at[1] || at[1] == at[2] || at[0] == at[2] {
		return false
	}
	var six [6]int
	now := 0
	for k, i := range at {
		six[2*k], six[2*k+1] = m.pairs[i].A, m.pairs[i].B
		now += m.pairs[i].Cost
	}
	for b := 1; b < 6; b++ {
		rest := [4]int{}
		n := 0
		for k := 1; k < 6; k++ {
			if k != b {
				rest[n] = six[k]
				n++
			}
		}
		if !m.free(six[0], six[b], at[:]...) {
			continue
		}
		for d := 1; d < 4; d++ {
			other := [2]int{}
			n = 0
			for k := 1; k < 4; k++ {
				if k != d {
					other[n] = rest[k]
					n++
				}
			}
			cost := m.price(six[0], six[b]) + m.price(rest[0], rest[d]) + m.price(other[0], other[1])
			if cost >= now || !m.free(rest[0], rest[d], at[:]...) || !m.free(other[0], other[1], at[:]...) ||
				same(six[0], six[b], rest[0], rest[d]) || same(six[0], six[b], other[0], other[1]) || same(rest[0], rest[d], other[0], other[1]) {
				continue
			}
			m.replace(at[:], []Pair{{six[0], six[b], m.price(six[0], six[b])}, {rest[0], rest[d], m.price(rest[0], rest[d])}, {other[0], other[1], m.price(other[0], other[1])}})
			return true
		}
	}
	return false
}

// Alone is why a fighter's bout is with a senior: Paired, everyone within the limits is paired already; without a
// Nearest, nobody else spars; else the nearest is beyond a limit.
type Alone struct {
	Paired  bool
	Nearest string
	Beyond  Beyond
}

// WhySenior finds for a bout with a senior whom the fighter comes nearest to, and what forbids it.
func WhySenior(all []Fighter, r PairRules, who int) (out Alone) {
	best := 1 << 60
	for j := range all {
		if j == who {
			continue
		}
		cost, beyond := r.difference(all[who], all[j])
		if beyond.What == "" {
			return Alone{Paired: true}
		}
		if cost < best {
			best, out = cost, Alone{Nearest: all[j].Name, Beyond: beyond}
		}
	}
	return out
}

// Placed is a bout with its place: bouts of one Turn run at once, one in each ring.
type Placed struct {
	Pair
	Ring, Turn int // from 0
}

// BoutList puts bouts into rings and turns so that everyone has the rest between two of their
// own. Whoever has most bouts left goes first. Where the rules keep pairs within rings, each stays in
// its own; else a bout goes to the ring that is free. Turns in which a ring waits for someone's rest stay empty.
func BoutList(all []Fighter, pairs []Pair, r PairRules, rings int) (out []Placed) {
	left := map[int]int{}
	for _, p := range pairs {
		left[p.A]++
		if p.B != Senior {
			left[p.B]++
		}
	}
	last := map[int]int{}
	for i := range all {
		last[i] = -1000
	}
	todo := slices.Clone(pairs)
	for turn := 0; len(todo) > 0; turn++ {
		taken := make([]bool, max(rings, 1))
		slices.SortStableFunc(todo, func(a, b Pair) int {
			return cmp.Or(cmp.Compare(pressure(left, b), pressure(left, a)), cmp.Compare(a.A, b.A))
		})
		for k := 0; k < len(todo); k++ {
			p := todo[k]
			if turn-last[p.A] <= r.RestBouts || p.B != Senior && turn-last[p.B] <= r.RestBouts {
				continue
			}
			ring := slices.Index(taken, false)
			if r.SameRing {
				if ring = all[p.A].Ring; ring < 0 || ring >= len(taken) || taken[ring] {
					continue
				}
			}
			if ring < 0 {
				break
			}
			taken[ring] = true
			for _, w := range []int{p.A, p.B} {
				if w != Senior {
					last[w] = turn
					left[w]--
				}
			}
			out = append(out, Placed{p, ring, turn})
			todo = slices.Delete(todo, k, k+1)
			k--
		}
	}
	slices.SortStableFunc(out, func(a, b Placed) int { return cmp.Or(cmp.Compare(a.Ring, b.Ring), cmp.Compare(a.Turn, b.Turn)) })
	return out
}

func pressure(left map[int]int, p Pair) int {
	if p.B == Senior {
		return 2 * left[p.A]
	}
	return max(left[p.A], left[p.B])*2 + min(left[p.A], left[p.B])
}

// Partners pairs the candidates of a group for partner lines, by the same differences but without
// limits. Whoever is left over, or is more than a limit smaller than the partner that is left, gets a senior.
func Partners(group []Fighter, r PairRules) []Pair {
	r.Bouts, r.SameRing = 1, false
	return Pairs(group, r, 1)
}

// Apart is how far two are apart in what is on record of both: age, height, weight, and always rank.
func Apart(a, b Fighter) (out []Gap) {
	add := func(x, y int, what Measured, known bool) {
		if known {
			out = append(out, Gap{what, max(x-y, y-x)})
		}
	}
	add(a.Months, b.Months, AgeApart, a.Months > 0 && b.Months > 0)
	add(a.HeightCM, b.HeightCM, HeightApart, a.HeightCM > 0 && b.HeightCM > 0)
	add(a.WeightKG, b.WeightKG, WeightApart, a.WeightKG > 0 && b.WeightKG > 0)
	add(a.Rung, b.Rung, RankApart, true)
	return out
}

// SeniorFor proposes who helps out as a partner: of a higher rank, not busy, the nearest in size where both are
// measured, then in rank; -1 where nobody is.
func SeniorFor(who Fighter, all []Fighter, busy func(id string) bool) int {
	best, least := -1, 1<<60
	for i, x := range all {
		if x.ID == who.ID || x.Rung <= who.Rung || busy(x.ID) {
			continue
		}
		far := 50 // as if so many centimetres apart, where one is not measured
		if x.HeightCM > 0 && who.HeightCM > 0 {
			far = max(x.HeightCM-who.HeightCM, who.HeightCM-x.HeightCM)
		}
		if cost := 100*far + x.Rung - who.Rung; cost < least {
			best, least = i, cost
		}
	}
	return best
}
