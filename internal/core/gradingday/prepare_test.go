package gradingday

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/body"
)

func TestBodies(t *testing.T) {
	assert.Equal(t, body.Body{Height: 1800, Shoulder: 466, Arm: 792, Leg: 954, Foot: 274}, body.Of(180))
	assert.True(t, body.Of(0).Guessed)
	assert.Equal(t, 1650, body.Of(0).Height)
}

func TestLineUpByHand(t *testing.T) {
	people := []InLine{{Name: "Bo", Rung: 1, HeightCM: 100}, {Name: "Ada", Rung: 5, HeightCM: 180}, {Name: "Cai", Rung: 5, HeightCM: 100}}
	l := MakeLineUp(people, Hall{WidthCM: 220, DepthCM: 500, Left: true})
	require.Len(t, l.Rows, 2, "three do not fit side by side: 0.23 + 1.15 + 0.70 + 0.13 m are more than 2.20")
	assert.Equal(t, 1, l.Rows[0].Stands[0].Who, "the highest rank, of two the first by name")
	assert.Equal(t, (466+259)/2+792, l.Rows[0].Stands[1].X-l.Rows[0].Stands[0].X, "the longer arm between the shoulders")
	assert.Equal(t, 530+152, l.Rows[1].Behind, "a leg and a foot of those behind")
	assert.Zero(t, l.Lacks())
	l = MakeLineUp(people, Hall{WidthCM: 200, DepthCM: 200})
	deep := MakeLineUp(people, Hall{WidthCM: 120, DepthCM: 50})
	assert.Equal(t, []int{2, 834, 500, 334}, []int{len(deep.Rows), deep.Depth, deep.Has, deep.Lacks()})
	assert.Greater(t, l.Rows[0].Stands[0].X, l.Rows[0].Stands[1].X, "the highest at the right")
	assert.Empty(t, MakeLineUp(nil, UsualHall).Rows)
	assert.Len(t, Hall{}.Check(), 2)
}

func TestLineUpsHoldTheirDistances(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var people []InLine
		for i := range rapid.IntRange(0, 60).Draw(t, "people") {
			people = append(people, InLine{Name: fmt.Sprint(i), Rung: rapid.IntRange(0, 9).Draw(t, "rung"), HeightCM: rapid.SampledFrom([]int{0, 95, 120, 150, 180, 200}).Draw(t, "height")})
		}
		h := Hall{WidthCM: rapid.IntRange(200, 2000).Draw(t, "width"), DepthCM: 1000, Left: rapid.Bool().Draw(t, "left")}
		l := MakeLineUp(people, h)
		n, last := 0, 100
		for _, row := range l.Rows {
			n += len(row.Stands)
			for k, s := range row.Stands {
				require.True(t, s.X-s.Shoulder/2 >= -1 && s.X+s.Shoulder/2 <= h.WidthCM*10+1 || len(row.Stands) == 1, "within the hall")
				require.LessOrEqual(t, people[s.Who].Rung, last, "highest rank first")
				last = people[s.Who].Rung
				if k > 0 {
					o := row.Stands[k-1]
					gap := max(s.X-o.X, o.X-s.X)
					require.Equal(t, (s.Shoulder+o.Shoulder)/2+max(s.Arm, o.Arm), gap)
				}
			}
		}
		require.Equal(t, len(people), n)
	})
}

func TestSizes(t *testing.T) {
	for _, c := range []struct {
		noted         string
		waist, height int
		size          string
		by            SizeBy
	}{
		{"2½", 60, 150, "2½", SizeBy{Kind: SizeNoted}},
		{"", 64, 190, "1", SizeBy{SizeWaist, 64, 64}},
		{"", 65, 190, "2", SizeBy{SizeWaist, 65, 70}},
		{"", 0, 150, "2", SizeBy{SizeHeight, 150, 150}},
		{"", 0, 151, "3", SizeBy{SizeHeight, 151, 160}},
		{"", 0, 0, "", SizeBy{}},
	} {
		size, by := SizeOf(UsualSizes, c.noted, c.waist, c.height)
		assert.Equal(t, c.size, size)
		assert.Equal(t, c.by, by)
	}
	assert.Empty(t, CheckSizes(UsualSizes))
	assert.Contains(t, CheckSizes([]SizeRow{{"a", 150, 0}, {"b", 140, 0}}).Of("sizes"), "row 2 is not larger")
	assert.Contains(t, CheckSizes([]SizeRow{{"a", 150, 0}, {"a", 160, 0}}).Of("sizes"), "row 2")
	assert.Contains(t, CheckSizes([]SizeRow{{Size: "a"}}).Of("sizes"), "one of them is needed")
	assert.Contains(t, CheckSizes(nil).Of("sizes"), "0 rows")
	for row, wrong := range map[SizeRow]bool{{"a", 260, 250}: false, {"a", 1, 0}: false, {"a", 0, 1}: false, {"a", 261, 1}: true, {"a", -1, 1}: true, {"a", 1, 251}: true, {"a", 1, -1}: true} {
		assert.Equal(t, wrong, len(CheckSizes([]SizeRow{row})) > 0, "%v", row)
	}
}

func TestBeltsByHand(t *testing.T) {
	// Two at 9 in 10: both pass 81 %, at most one 19 %.
	w := BeltWish{RungID: "o", Rung: "Orange belt", Size: "1", Chance: 900}
	two := []BeltWish{w, w}
	for certain, want := range map[int]int{10: 0, 11: 1, 190: 1, 191: 2, 950: 2, 1000: 2} {
		assert.Equal(t, want, Belts(two, nil, certain)[0].Cover, "%d of 1000", certain)
	}
	o := Belts(two, map[BeltKey]int{{"o", "1"}: 1}, 950)[0]
	assert.Equal(t, []int{1800, 2, 1, 1, 1000}, []int{o.Likely, o.Cover, o.Stock, o.Order, o.Enough})
	o = Belts(two, map[BeltKey]int{{"o", "1"}: 5}, 950)[0]
	assert.Equal(t, 0, o.Order)
	all := []BeltWish{w, {RungID: "y", Size: "10"}, {RungID: "y", Size: "2"}, {RungID: "y", Size: ""}}
	list := Belts(all, nil, 950)
	SortBelts(list, map[string]int{"y": 1, "o": 2}, UsualSizes)
	assert.Equal(t, []BeltKey{{"y", ""}, {"y", "10"}, {"y", "2"}, {"o", "1"}}, []BeltKey{list[0].BeltKey, list[1].BeltKey, list[2].BeltKey, list[3].BeltKey})
	assert.Equal(t, 800, Chance(0, 0))
	assert.Equal(t, 910, Chance(38, 40)-23, "38 of 40, drawn a little down: 933")
}

// The exact cover is held against chance itself: 4000 draws.
func TestBeltsCoverWhatIsDrawn(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 1))
	var wishes []BeltWish
	for range 40 {
		wishes = append(wishes, BeltWish{RungID: "o", Chance: 500 + rng.IntN(500)})
	}
	o := Belts(wishes, nil, 900)[0]
	enough := 0
	for range 4000 {
		n := 0
		for _, w := range wishes {
			if rng.IntN(1000) < w.Chance {
				n++
			}
		}
		if n <= o.Cover {
			enough++
		}
	}
	assert.InDelta(t, o.Enough, enough/4, 25)
	assert.GreaterOrEqual(t, o.Enough, 900)
}

// TestLawBelts: who asks for more certainty orders no less, stock is taken off piece by piece, and what is ordered with what is there is as
// certain as was asked.
func TestLawBelts(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var wishes []BeltWish
		for range rapid.IntRange(1, 12).Draw(t, "candidates") {
			wishes = append(wishes, BeltWish{RungID: "o", Size: "1", Chance: rapid.IntRange(0, 1000).Draw(t, "chance")})
		}
		key, last := BeltKey{"o", "1"}, 0
		for _, certain := range []int{1, 300, 500, 800, 900, 990, 1000} {
			o := Belts(wishes, nil, certain)[0]
			require.GreaterOrEqual(t, o.Cover, last)
			require.LessOrEqual(t, o.Cover, len(wishes))
			require.GreaterOrEqual(t, o.Enough, certain)
			last = o.Cover
			have := rapid.IntRange(0, 14).Draw(t, "stock")
			less := Belts(wishes, map[BeltKey]int{key: have}, certain)[0]
			require.Equal(t, max(0, o.Cover-have), less.Order)
			require.GreaterOrEqual(t, less.Enough, certain)
			if o.Cover > 0 { // one fewer would not be enough
				fewer := atMost(distribution(chancesOf(wishes)), o.Cover-1)
				require.Less(t, fewer, certain)
			}
		}
	})
}

func chancesOf(wishes []BeltWish) (out []int) {
	for _, w := range wishes {
		out = append(out, w.Chance)
	}
	return out
}

// TestLawPanels: whoever is named, a panel examines with 1, 3 or 5, the chief among them, nobody in two rings.
func TestLawPanels(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := Day{DayRules: UsualDay, PanelSize: rapid.SampledFrom([]int{1, 3, 5}).Draw(t, "size")}
		d.Share = rapid.Bool().Draw(t, "share")
		rings := rapid.IntRange(1, 4).Draw(t, "rings")
		chief := map[int]string{}
		for i := range rings {
			d.Rings = append(d.Rings, Ring{ID: fmt.Sprint(i)})
		}
		for i := range rapid.IntRange(0, 16).Draw(t, "examiners") {
			e := DayExaminer{ID: fmt.Sprint(i), Ring: rapid.IntRange(Spare, rings-1).Draw(t, "ring"), Rank: rapid.IntRange(RankUnknown, 9).Draw(t, "rank")}
			if e.Ring != Spare && chief[e.Ring] == "" && rapid.Bool().Draw(t, "chief") {
				e.Chief, chief[e.Ring] = true, e.ID
			}
			d.Examiners = append(d.Examiners, e)
		}
		p, _, _ := PlanDay(d, 3)
		seen := map[string]bool{}
		for r, panel := range p.Panels {
			require.Contains(t, []int{0, 1, 3, 5}, len(panel))
			led := false
			for _, i := range panel {
				require.False(t, seen[d.Examiners[i].ID])
				seen[d.Examiners[i].ID] = true
				led = led || d.Examiners[i].ID == chief[r]
				require.True(t, d.Share || d.Examiners[i].Ring == r, "where they are named")
			}
			require.True(t, d.Share || len(panel) == 0 || chief[r] == "" || led, "the chief stays")
		}
		if d.Share && len(d.Examiners) >= rings*d.PanelSize {
			require.Len(t, seen, rings*d.PanelSize, "as many rings as can be are seated")
		}
	})
}
