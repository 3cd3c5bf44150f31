package gradingday

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
)

// TestBoundsOfWhatIsTyped: the least and the most that a field takes, and one beyond each.
func TestBoundsOfWhatIsTyped(t *testing.T) {
	for name, x := range map[string]struct {
		least, most int
		ok          func(int) bool
	}{
		"seconds of a clock": {1, 3600, func(n int) bool { return len(Clock{Seconds: n, Rounds: 1}.Check()) == 0 }},
		"rounds of a clock":  {1, 20, func(n int) bool { return len(Clock{Seconds: 1, Rounds: n}.Check()) == 0 }},
		"rest of a clock":    {0, 600, func(n int) bool { return len(Clock{Seconds: 1, Rounds: 1, Rest: n}.Check()) == 0 }},
		"cue of a clock":     {0, 600, func(n int) bool { return len(Clock{Seconds: 1, Rounds: 1, Cue: n}.Check()) == 0 }},
		"width of a hall":    {200, 10000, func(n int) bool { return len(Hall{WidthCM: n, DepthCM: 500}.Check()) == 0 }},
		"depth of a hall":    {200, 10000, func(n int) bool { return len(Hall{WidthCM: 500, DepthCM: n}.Check()) == 0 }},
		"count of a mark":    {0, MaxCount, func(n int) bool { return Mark{ID: "mark-0001", Kind: MarkGiven, Count: n}.Check() == nil }},
		"opening of a day":   {0, 1439, func(n int) bool { r := UsualDay; r.Open, r.Close = n, 1440; return len(r.Check()) == 0 }},
		"closing of a day":   {541, 1440, func(n int) bool { r := UsualDay; r.Close = n; return len(r.Check()) == 0 }},
		"warm-up":            {0, 120, func(n int) bool { r := UsualDay; r.Warmup = n; return len(r.Check()) == 0 }},
		"rest":               {0, 120, func(n int) bool { r := UsualDay; r.Rest = n; return len(r.Check()) == 0 }},
		"change":             {0, 120, func(n int) bool { r := UsualDay; r.Change = n; return len(r.Check()) == 0 }},
		"bouts of a pair":    {1, 5, func(n int) bool { r := UsualPairs; r.Bouts = n; return len(r.Check()) == 0 }},
		"months of a pair":   {0, 1200, func(n int) bool { r := UsualPairs; r.Months = n; return len(r.Check()) == 0 }},
		"centimetres":        {0, 200, func(n int) bool { r := UsualPairs; r.HeightCM = n; return len(r.Check()) == 0 }},
		"kilograms":          {0, 200, func(n int) bool { r := UsualPairs; r.WeightKG = n; return len(r.Check()) == 0 }},
		"rungs of a pair":    {0, 100, func(n int) bool { r := UsualPairs; r.Rungs = n; return len(r.Check()) == 0 }},
		"bouts of rest":      {0, 10, func(n int) bool { r := UsualPairs; r.RestBouts = n; return len(r.Check()) == 0 }},
	} {
		assert.Equal(t, []bool{false, true, true, false}, []bool{x.ok(x.least - 1), x.ok(x.least), x.ok(x.most), x.ok(x.most + 1)}, name)
	}
	for name, x := range map[string]struct {
		from, to int
		ok       bool
	}{"none": {0, 0, true}, "at the opening": {540, 600, true}, "to the closing": {1000, 1080, true}, "before the opening": {539, 600, false}, "after the closing": {1000, 1081, false}, "turned": {700, 600, false}, "of nothing": {700, 700, false}, "without an end": {700, 0, false}} {
		r := UsualDay
		r.PauseFrom, r.PauseTo = x.from, x.to
		assert.Equal(t, x.ok, len(r.Check()) == 0, "a pause %s", name)
	}
}

func TestRetestWaitsInWords(t *testing.T) {
	g := Grading{On: civil.MustParse("2026-01-31")}
	for said, x := range map[string][2]int{"0": {0, 0}, "28": {0, 28}, "1 month": {1, 0}, "2 months": {2, 0}, "1 month and 3 days": {1, 3}, "3 months and 1 day": {3, 1}} {
		g.RetestMonths, g.RetestDays = x[0], x[1]
		assert.Equal(t, said, g.RetestWait())
	}
	g.RetestMonths, g.RetestDays = 1, 3
	assert.Equal(t, "2026-03-03", g.RetestFrom().String(), "months clamp first, then days")
}

// TestPairsInALineAreTheNearest: where only age tells people apart the best pairs are neighbours by age, whatever the number;
// so what is found for many is held against what is known.
func TestPairsInALineAreTheNearest(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 5))
	rules := PairRules{Bouts: 1, Months: 60, HeightCM: 1, WeightKG: 1, Rungs: 1}
	worse := 0
	for n := range 25 {
		var all []Fighter
		at := 60
		for i := range 12 + 2*rng.IntN(8) {
			at += rng.IntN(25)
			all = append(all, Fighter{ID: fmt.Sprint(i), Months: at})
		}
		best := 0
		for i := 0; i < len(all); i += 2 {
			c, beyond := rules.difference(all[i], all[i+1])
			require.Empty(t, beyond)
			best += c
		}
		shuffled := slices.Clone(all)
		rng.Shuffle(len(shuffled), func(i, j int) { shuffled[i], shuffled[j] = shuffled[j], shuffled[i] })
		pairs := Pairs(shuffled, rules, 1)
		require.Len(t, pairs, len(all)/2, "case %d: nobody needs a senior", n)
		seen := map[int]bool{}
		for _, p := range pairs {
			require.False(t, seen[p.A] || seen[p.B], "everybody once")
			seen[p.A], seen[p.B] = true, true
		}
		require.GreaterOrEqual(t, total(pairs), best, "case %d", n)
		if total(pairs) > best {
			worse++
		}
	}
	assert.LessOrEqual(t, worse, 1, "of 25")
}

// TestSecondBoutsAreWithOthers: several bouts each, nobody twice with the same, as many as can be without a senior.
func TestSecondBoutsAreWithOthers(t *testing.T) {
	rng := rand.New(rand.NewPCG(6, 6))
	rules := PairRules{Bouts: 3, Months: 1200, HeightCM: 200, WeightKG: 200, Rungs: 100}
	for range 6 {
		var all []Fighter
		for i := range 12 + 2*rng.IntN(6) {
			all = append(all, Fighter{ID: fmt.Sprint(i), Months: 60 + rng.IntN(300), HeightCM: 100 + rng.IntN(80)})
		}
		pairs := Pairs(all, rules, 1)
		require.Len(t, pairs, 3*len(all)/2)
		met, bouts := map[[2]int]bool{}, map[int]int{}
		for _, p := range pairs {
			require.NotEqual(t, Senior, p.B)
			require.False(t, met[pairKey(p.A, p.B)], "twice with the same")
			met[pairKey(p.A, p.B)] = true
			bouts[p.A]++
			bouts[p.B]++
		}
		for i := range all {
			require.Equal(t, 3, bouts[i])
		}
	}
}

func TestHowFarTwoAreApart(t *testing.T) {
	r := PairRules{Months: 24, HeightCM: 10, WeightKG: 5, Rungs: 2, SameRing: true}
	a := Fighter{Months: 100, HeightCM: 140, WeightKG: 40, Rung: 3, Ring: 1}
	for name, x := range map[string]struct {
		change func(*Fighter)
		cost   int
		beyond Beyond
	}{
		"alike":                 {func(*Fighter) {}, 0, Beyond{}},
		"at the limit of age":   {func(f *Fighter) { f.Months = 124 }, 1000, Beyond{}},
		"a month beyond":        {func(f *Fighter) { f.Months = 75 }, 1041 * 1041 / 1000, Beyond{Gap{AgeApart, 25}, 24}},
		"age not known":         {func(f *Fighter) { f.Months = 0 }, 0, Beyond{}},
		"half of the height":    {func(f *Fighter) { f.HeightCM = 145 }, 250, Beyond{}},
		"too tall":              {func(f *Fighter) { f.HeightCM = 151 }, 1210, Beyond{Gap{HeightApart, 11}, 10}},
		"a height of one":       {func(f *Fighter) { f.HeightCM = 1 }, 193210, Beyond{Gap{HeightApart, 139}, 10}},
		"height not measured":   {func(f *Fighter) { f.HeightCM = 0 }, 0, Beyond{}},
		"at the limit of kilos": {func(f *Fighter) { f.WeightKG = 35 }, 1000, Beyond{}},
		"weight not measured":   {func(f *Fighter) { f.WeightKG = 0 }, 0, Beyond{}},
		"a rung":                {func(f *Fighter) { f.Rung = 4 }, 250, Beyond{}},
		"three rungs":           {func(f *Fighter) { f.Rung = 0 }, 2250, Beyond{Gap{RankApart, 3}, 2}},
		"another ring":          {func(f *Fighter) { f.Ring = 0 }, 0, Beyond{Gap: Gap{What: RingsApart}}},
		"all a little":          {func(f *Fighter) { f.Months, f.HeightCM, f.WeightKG, f.Rung = 112, 145, 42, 4 }, 250 + 250 + 160 + 250, Beyond{}},
	} {
		b := a
		x.change(&b)
		for _, two := range [][2]Fighter{{a, b}, {b, a}} {
			cost, beyond := r.difference(two[0], two[1])
			assert.Equal(t, []any{x.cost, x.beyond}, []any{cost, beyond}, name)
		}
	}
	assert.Equal(t, []Gap{{AgeApart, 12}, {HeightApart, 1}, {WeightApart, 1}, {RankApart, 2}}, Apart(Fighter{Months: 100, HeightCM: 140, WeightKG: 40, Rung: 1}, Fighter{Months: 112, HeightCM: 141, WeightKG: 39, Rung: 3}))
	assert.Equal(t, []Gap{{AgeApart, 1}, {RankApart, 0}}, Apart(Fighter{Months: 100}, Fighter{Months: 101, HeightCM: 140}))
	assert.Equal(t, []Gap{{AgeApart, 0}, {HeightApart, 0}, {WeightApart, 0}, {RankApart, 0}}, Apart(Fighter{Months: 1, HeightCM: 1, WeightKG: 1}, Fighter{Months: 1, HeightCM: 1, WeightKG: 1}), "what is known is said, however little")
	assert.Equal(t, Alone{}, WhySenior([]Fighter{a}, r, 0))
	far := a
	far.Name, far.Rung = "Ben", 9
	assert.Equal(t, Alone{Nearest: "Ben", Beyond: Beyond{Gap{RankApart, 6}, 2}}, WhySenior([]Fighter{a, far}, r, 0))
	assert.Equal(t, Alone{Paired: true}, WhySenior([]Fighter{a, a}, r, 0))
	assert.Equal(t, []bool{true, false, true, false}, []bool{Proven(10, PairRules{Bouts: 2}), Proven(11, PairRules{Bouts: 1}), Proven(4, PairRules{Bouts: 5}), Proven(5, PairRules{Bouts: 5})})
}

// TestOddPanels: a panel has 1, 3 or 5, the chief among them.
func TestOddPanels(t *testing.T) {
	var all []DayExaminer
	for i := range 8 {
		all = append(all, DayExaminer{ID: fmt.Sprint(i), Chief: i == 6})
	}
	for n, want := range map[int][]int{0: {}, 1: {0}, 2: {0}, 3: {0, 1, 2}, 4: {0, 1, 2}, 5: {0, 1, 2, 3, 4}, 6: {0, 1, 2, 3, 4}, 7: {0, 1, 2, 3, 6}} {
		var panel []int
		for i := range n {
			panel = append(panel, i)
		}
		assert.Equal(t, want, append([]int{}, odd(all, panel)...), "of %d", n)
	}
}

// TestDaysInWhichSomebodyIsPinned: what is pinned stays, nothing lies in its way, and nothing ends later than it must:
// held against every place for the group that is free.
func TestDaysInWhichSomebodyIsPinned(t *testing.T) {
	d := Day{DayRules: DayRules{Open: 540, Close: 1080, Change: 5, Rest: 10, Order: AnyOrder}, Rings: []Ring{{ID: "r", Name: "Ring A"}}, Examiners: []DayExaminer{{ID: "e", Rank: RankUnknown}},
		Groups: []DayGroup{{ID: "p", Name: "P", First: 30, Then: 10, Ring: 0, At: 600}, {ID: "a", Name: "A", First: 55, Ring: Spare}, {ID: "b", Name: "B", First: 20, Ring: Spare}}}
	plan, _, bound := PlanDay(d, 1)
	require.Empty(t, hard(CheckDay(d, plan)))
	assert.Equal(t, []Slot{{1, 0, 1, 540, 595}, {0, 0, 1, 600, 630}, {2, 0, 1, 635, 655}, {0, 0, 2, 660, 670}}, plan.Slots, "A fills the time before, B the rest")
	assert.Equal(t, 670, bound.Finish)
	d.Groups[1].First = 56 // one minute too long to go before
	plan, _, _ = PlanDay(d, 1)
	require.Empty(t, hard(CheckDay(d, plan)))
	assert.Equal(t, 540, plan.Slots[0].From)
	assert.Equal(t, 2, plan.Slots[0].Group)
	assert.Equal(t, 635+56+5+10, plan.Finish)
	d.Rest = 0
	plan, _, _ = PlanDay(d, 1)
	assert.Equal(t, 640+5+56, plan.Finish, "a second part may follow its own first at once")
}

// TestNobodyIsThere: a seat that stays empty is said.
func TestNobodyIsThere(t *testing.T) {
	d := smallDay()
	_, swaps := Without(d, nil, d.Examiners[0].ID)
	assert.Equal(t, []Swap{{Kind: GoesOn, Name: "Ring A", N: 1}}, swaps)
	d.Examiners = append(d.Examiners, DayExaminer{ID: "away", Ring: Spare})
	_, swaps = Without(d, nil, "away")
	assert.Equal(t, []Swap{{Kind: RingsClose}}, swaps)
	d.Examiners[len(d.Examiners)-1].Ring = len(d.Rings)
	_, swaps = Without(d, nil, "away")
	assert.Equal(t, []Swap{{Kind: RingsClose}}, swaps, "a ring that is not there")
	out, swaps := Without(d, nil, "nobody")
	assert.Empty(t, swaps)
	assert.Len(t, out.Examiners, len(d.Examiners))
}
