package gradingday

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// TestMinutes: where a sheet is parted, and how long its parts take.
func TestMinutes(t *testing.T) {
	for name, c := range map[string]struct {
		lines       string // kind and seconds
		first, then int
	}{
		"nothing":                      {"", 0, 0},
		"no rest without sparring":     {"kick 61, fitness 59", 2, 0},
		"no rest without fitness":      {"kick 60, sparring 60, form 60", 3, 0},
		"a rest between the two":       {"kick 90, fitness 30, sparring 120, knowledge 1", 2, 3},
		"also the other way":           {"sparring 60, form 60, fitness 61", 2, 2},
		"where the second kind begins": {"fitness 60, form 60, fitness 60, sparring 60, fitness 60", 3, 2},
		"each rounded up by itself":    {"fitness 1, sparring 1", 1, 1},
	} {
		var lines []curriculum.Line
		for part := range strings.SplitSeq(c.lines, ", ") {
			if part != "" {
				var l curriculum.Line
				_, err := fmt.Sscan(part, &l.Kind, &l.Seconds)
				require.NoError(t, err)
				lines = append(lines, l)
			}
		}
		first, then := Minutes(lines)
		assert.Equal(t, [2]int{c.first, c.then}, [2]int{first, then}, name)
	}
}

func TestDayRules(t *testing.T) {
	assert.Empty(t, UsualDay.Check())
	for name, c := range map[string]struct {
		change      func(*DayRules)
		field, says string
	}{
		"opens yesterday":         {func(r *DayRules) { r.Open = -1 }, "open", "no time of day"},
		"closes before it opens":  {func(r *DayRules) { r.Close = r.Open }, "close", "closes after it opens, at 09:00"},
		"closes tomorrow":         {func(r *DayRules) { r.Close = 1441 }, "close", "closes after"},
		"a warm-up below nothing": {func(r *DayRules) { r.Warmup = -1 }, "warmup", "from 0 to 120"},
		"a rest of hours":         {func(r *DayRules) { r.Rest = 121 }, "rest", "from 0 to 120"},
		"a change of hours":       {func(r *DayRules) { r.Change = 500 }, "change", "from 0 to 120"},
		"half a pause":            {func(r *DayRules) { r.PauseFrom = 720 }, "pause_from", "within hall hours, 09:00 to 18:00"},
		"a pause at night":        {func(r *DayRules) { r.PauseFrom, r.PauseTo = 1200, 1260 }, "pause_from", "leave both empty"},
		"an order of its own":     {func(r *DayRules) { r.Order = "loudest" }, "order", "not a choice"},
	} {
		r := UsualDay
		c.change(&r)
		assert.Contains(t, r.Check().Of(c.field), c.says, name)
	}
	for _, o := range Orders {
		assert.NotEmpty(t, o.Words())
	}
}

// TestWhatIf: each question is answered with a day that holds its rules, and the day asked about stays as it is.
func TestWhatIf(t *testing.T) {
	d := smallDay()
	before := fmt.Sprint(d)
	spare := []DayExaminer{{ID: "s1", Name: "Low", Rank: 4}, {ID: "s2", Name: "High", Rank: 8}, {ID: "s3", Name: "Unknown", Rank: RankUnknown}}

	more, swaps := OneRingMore(d, spare)
	assert.Len(t, more.Rings, 3)
	assert.Equal(t, []Swap{{Kind: ExaminesThere, Name: "High"}, {Kind: ExaminesThere, Name: "Low"}, {Kind: ExaminesThere, Name: "Unknown"}}, swaps)
	p, _, _ := PlanDay(more, 1)
	q, _, _ := PlanDay(d, 1)
	assert.Empty(t, hard(CheckDay(more, p)))
	assert.LessOrEqual(t, p.Finish, q.Finish)
	_, swaps = OneRingMore(d, nil)
	assert.Equal(t, []Swap{{Kind: ToBeFound, N: 3}}, swaps)
	_, swaps = OneRingMore(d, spare[:2])
	assert.Equal(t, Swap{Kind: ToBeFound, N: 1}, swaps[2])

	slow := Slower(d, 20)
	assert.Equal(t, 36, slow.Groups[0].First)
	assert.Equal(t, 10, slow.Groups[0].Then, "9.6 min, rounded up")
	p, _, _ = PlanDay(slow, 1)
	assert.Greater(t, p.Finish, q.Finish)

	ill, swaps := Without(d, spare, d.Examiners[0].ID)
	assert.Equal(t, []Swap{{Kind: TakesTheSeat, Name: "High"}}, swaps)
	assert.True(t, ill.Examiners[0].Chief, "and is chief as the other was")
	p, _, _ = PlanDay(ill, 1)
	assert.Empty(t, hard(CheckDay(ill, p)))

	ill, swaps = Without(d, nil, d.Examiners[0].ID)
	assert.Equal(t, []Swap{{Kind: GoesOn, Name: "Ring A", N: 1}}, swaps)
	p, _, _ = PlanDay(ill, 1)
	assert.Empty(t, hard(CheckDay(ill, p)))
	alone := d
	alone.Examiners = append([]DayExaminer{}, d.Examiners[0])
	alone.Examiners = append(alone.Examiners, d.Examiners[3:]...)
	closed, swaps := Without(alone, nil, d.Examiners[0].ID)
	assert.Equal(t, []Swap{{Kind: RingCloses, Name: "Ring A"}}, swaps)
	p, _, _ = PlanDay(closed, 1)
	assert.Empty(t, hard(CheckDay(closed, p)))
	for _, s := range p.Slots {
		assert.Equal(t, 1, s.Ring)
	}
	shared := d
	shared.Share = true
	_, swaps = Without(shared, nil, d.Examiners[0].ID)
	assert.Equal(t, []Swap{{Kind: RingsClose}}, swaps)
	same, swaps := Without(d, spare, "nobody")
	assert.Len(t, same.Examiners, 6)
	assert.Empty(t, swaps)
	assert.Equal(t, before, fmt.Sprint(d), "nothing of it was changed")
}

// TestRetimedDays: whatever order somebody moves groups into, times follow without two at once.
func TestRetimedDays(t *testing.T) {
	d := smallDay()
	panels := Named(d)
	for _, rings := range [][][]int{{{0, 1}, {2, 3}}, {{3, 2, 1, 0}, {}}, {{}, {2, 0, 3, 1}}, {{1}, {3, 0, 2}}} {
		p := Retime(d, panels, rings)
		assert.Empty(t, hard(CheckDay(d, p)), "%v", rings)
		for r, want := range rings {
			var got []int
			for _, s := range p.Slots {
				if s.Ring == r && s.Part == 1 {
					got = append(got, s.Group)
				}
			}
			assert.Equal(t, fmt.Sprint(want), fmt.Sprint(append([]int{}, got...)), "the order is kept")
		}
		greedy, bound := Beside(d, panels)
		assert.GreaterOrEqual(t, greedy.Finish, bound.Finish)
		assert.GreaterOrEqual(t, p.Finish, 555+30+10+8)
	}

	// One that is pinned, by hand: the second part, a minute long, comes when the rest is over; after another's first part,
	// where that is on the way, and somebody waits for it.
	d = Day{DayRules: DayRules{Open: 540, Close: 1080, Change: 5, Rest: 20, Order: AnyOrder}, Rings: []Ring{{ID: "r"}}, Examiners: []DayExaminer{{ID: "e", Rank: RankUnknown}},
		Groups: []DayGroup{{First: 30, Then: 1, At: 600, Students: []string{"x", "y"}}, {First: 18, Ring: Spare}}}
	p := Retime(d, Named(d), [][]int{{0}, {}})
	assert.Equal(t, []any{[]Slot{{0, 0, 1, 600, 630}, {0, 0, 2, 650, 651}}, 651, 0}, []any{p.Slots, p.Finish, p.Waiting})
	d.Groups[1].First = 56 // too long to go before
	p = Retime(d, Named(d), [][]int{{0, 1}})
	assert.Equal(t, []any{[]Slot{{0, 0, 1, 600, 630}, {1, 0, 1, 635, 691}, {0, 0, 2, 696, 697}}, 697, 2 * 46}, []any{p.Slots, p.Finish, p.Waiting})
}

func TestWhoHelpsOut(t *testing.T) {
	all := []Fighter{{ID: "a", Rung: 1, HeightCM: 120}, {ID: "b", Rung: 3, HeightCM: 180}, {ID: "c", Rung: 2, HeightCM: 130}, {ID: "d", Rung: 5}, {ID: "e", Rung: 1, HeightCM: 121}}
	nobody := func(string) bool { return false }
	assert.Equal(t, 2, SeniorFor(all[0], all, nobody), "of a higher rank, the nearest in size")
	assert.Equal(t, 3, SeniorFor(all[0], all, func(id string) bool { return id == "c" }), "not measured counts as 50 cm apart: before 60")
	assert.Equal(t, -1, SeniorFor(all[3], all, nobody), "nobody is above the highest")
	assert.Equal(t, -1, SeniorFor(all[0], all, func(string) bool { return true }))
	assert.Equal(t, []Gap{{HeightApart, 60}, {RankApart, 2}}, Apart(all[0], all[1]))
	assert.Equal(t, []Gap{{AgeApart, 1}, {WeightApart, 1}, {RankApart, 0}}, Apart(Fighter{Months: 100, WeightKG: 30}, Fighter{Months: 101, WeightKG: 31, HeightCM: 3}))
}

func TestChecklists(t *testing.T) {
	on := civil.MustParse("2026-12-12")
	v := progress.Judge([]curriculum.Rule{{Kind: curriculum.KitOwned, Amount: 1}, {Kind: curriculum.Membership, Amount: 1}, {Kind: curriculum.LeastAge, Amount: 12}, {Kind: curriculum.DaysSince, Amount: 10}},
		progress.Evidence{Born: civil.MustParse("2016-01-01"), Since: civil.MustParse("2026-01-01"), Papers: []progress.Paper{{Kind: curriculum.Membership, Until: civil.MustParse("2026-06-30")}}, Today: on}, on)
	owned := []string{" Gum   SHIELD "}
	items := Checklist(Bringing{Kit: []string{"gum shield", "pads"}, Owned: &owned, Verdict: v, Spars: true, HeightCM: 140})
	var got []string
	for _, i := range items {
		got = append(got, fmt.Sprint(i.Kind, " ", i.What, " ", i.State))
	}
	assert.Equal(t, []string{"kit gum shield met", "kit pads not_met", "paper membership not_met", "evidence 12 years of age not_met", "measure weight unknown", "contact an address to write to unknown"}, got)
}
