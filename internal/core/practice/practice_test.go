package practice

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

func TestWays(t *testing.T) {
	for _, x := range []struct {
		n, k       int
		repeats    bool
		directions int
		each       bool
		words      string
	}{
		{5, 3, false, 1, false, "5 × 4 × 3 = 60"},
		{5, 3, true, 1, false, "5 × 5 × 5 = 125"},
		{5, 3, false, 4, false, "5 × 4 × 3 × 4 directions = 240"},
		{5, 3, false, 4, true, "5 × 4 × 3 × 4 directions to the power of 3 = 3840"},
		{2, 3, false, 1, false, "2 × 1 × 0 = 0"},
		{40, 12, true, 1, false, "40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 = 16777216000000000000"},
	} {
		_, words := Ways(x.n, x.k, x.repeats, x.directions, x.each)
		assert.Equal(t, x.words, words)
	}
}

var pieces = []Piece{{"lead jab", true, true, false}, {"rear cross", true, false, false}, {"lead front kick", false, true, true}, {"rear front kick", false, false, true}}

func TestUseful(t *testing.T) {
	list, n, exact := Useful(pieces, 2, Rules{LeadFirst: true, Recover: true, NoTwice: true, CanLeave: true}, 99)
	assert.True(t, exact)
	assert.Equal(t, 4, n)
	var lines []string
	for _, c := range list {
		lines = append(lines, Line(c))
	}
	assert.Equal(t, []string{"lead jab, rear cross", "lead jab, lead front kick", "lead front kick, lead jab", "lead front kick, rear cross"}, lines)
	_, n, exact = Useful(pieces, 20, Rules{}, 10)
	assert.False(t, exact, "too many to walk through")
	assert.LessOrEqual(t, n, MostTried)
	list, _, _ = Useful(pieces, 2, Rules{NoRepeats: true}, 99)
	assert.Len(t, list, 12)
	done := map[string]int{}
	for i := range 12 {
		at := Draw(list, done, uint64(i))
		require.GreaterOrEqual(t, at, 0)
		assert.Zero(t, done[Line(list[at])], "the least practised first")
		done[Line(list[at])]++
	}
	assert.Equal(t, -1, Draw(nil, nil, 1))
}

// TestLawsOfCombinations: without rules the walk finds as many as the formula says, every rule
// only takes away, and what is left keeps it.
func TestLawsOfCombinations(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, k := rapid.IntRange(1, 4).Draw(t, "n"), rapid.IntRange(1, 4).Draw(t, "k")
		some := pieces[:n]
		_, all, _ := Useful(some, k, Rules{}, 0)
		total, _ := Ways(n, k, true, 1, false)
		require.Equal(t, total.Int64(), int64(all))
		_, once, _ := Useful(some, k, Rules{NoRepeats: true}, 0)
		total, _ = Ways(n, k, false, 1, false)
		require.Equal(t, total.Int64(), int64(once))
		flip := func(name string) bool { return rapid.Bool().Draw(t, name) }
		r := Rules{LeadFirst: flip("lead"), Recover: flip("recover"), NoTwice: flip("twice"), CanLeave: flip("leave"), NoRepeats: flip("repeats")}
		list, fewer, _ := Useful(some, k, r, 1000)
		require.LessOrEqual(t, fewer, all)
		for _, c := range list {
			for i, p := range c {
				require.True(t, r.allows(c[:i], p, i+1 == k))
			}
		}
	})
}

func small() *curriculum.Book {
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Kenpo"},
		Sections: []curriculum.Section{{ID: "k", Name: "Kicks"}, {ID: "d", Name: "Self-defence"}},
		Rungs:    []curriculum.Rung{{ID: "w", Name: "White belt"}, {ID: "y", Name: "Yellow belt"}},
		Techniques: []curriculum.Technique{
			{ID: "fk", Name: "Front kick", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Call: 4, Clips: []curriculum.Clip{{Title: "Front kick, slowly", Address: "clips/fk.mp4"}, {Title: "Later", Address: "x", From: "z"}}}},
			{ID: "jab", Name: "Jab", Kind: "strike", TechniqueDetails: curriculum.TechniqueDetails{Sides: curriculum.LeadSide}},
			{ID: "mw", Name: "Mill Wheel", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{Attack: []curriculum.AttackElement{{Kind: "rear choke", Origin: "rear"}}}},
			{ID: "pu", Name: "Press-ups", Kind: "fitness"},
		},
		Requirements: []curriculum.Requirement{
			{ID: "1", RungID: "y", SectionID: "k", TechniqueID: "fk", Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 5}, Weight: 1, RequirementDetails: curriculum.RequirementDetails{Setting: "pads"}},
			{ID: "2", RungID: "y", SectionID: "d", TechniqueID: "mw", Role: "defender", Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 2}, Weight: 1},
			{ID: "3", RungID: "y", SectionID: "d", TechniqueID: "mw", Role: "attacker", Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}, Weight: 1},
			{ID: "4", RungID: "y", SectionID: "k", TechniqueID: "jab", Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RoundsTimed, Rounds: 2, Seconds: 30, Rest: 10}, Weight: 1},
			{ID: "5", RungID: "y", SectionID: "k", TechniqueID: "pu", Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.CountWithin, Reps: 20, Seconds: 60}, Weight: 1},
		}}
	return curriculum.Open(c)
}

func TestSheetAndCalls(t *testing.T) {
	b := small()
	sheet := b.Compile(curriculum.Asking{RungID: "y"})
	ready := progress.AskedBy(b, sheet).Ready([]progress.Showing{{TechniqueID: "fk", Role: "performer", Side: "left", On: civil.MustParse("2026-11-01")}}, nil)
	tasks := Sheet(b, "y", ready.NextThings(b, nil, civil.MustParse("2026-11-25"), SheetTasks), curriculum.Orthodox)
	by := map[string]Task{}
	for _, x := range tasks {
		by[x.Call] = x
	}
	kick := by["Front kick, on pads"]
	assert.Equal(t, "5 times on each side; the right side needs it most, on pads", kick.Do)
	assert.Equal(t, "A partner holds the pad in both hands, against the body.", kick.Partner)
	require.Len(t, kick.Clips, 1, "a clip of a later rung is not shown")
	wheel := by["Mill Wheel, defender"]
	assert.Equal(t, "twice", wheel.Do)
	assert.Contains(t, wheel.Partner, "rear choke rear")
	assert.Contains(t, wheel.Cautions, "Hands at the neck only touch at home; never squeeze. Children practise this with the instructor.")
	assert.Contains(t, by["Mill Wheel, attacker"].Partner, "Your partner defends")
	assert.Equal(t, "2 rounds of 30 seconds, resting 10 seconds between", by["Jab"].Do)
	assert.Equal(t, "as many as you can in 60 seconds; 20 are asked", by["Press-ups"].Do)
	assert.Contains(t, by["Press-ups"].Cautions, "Warm up first. Stop on pain or dizziness.")

	calls := map[string]Call{}
	for _, l := range sheet.Lines {
		calls[l.Call] = CallOf(b, l, curriculum.Southpaw, 0)
	}
	assert.Equal(t, 4, calls["Front kick, on pads"].Number)
	assert.Equal(t, []Set{{Side: "right foot forward", Reps: 5, Pace: 30, Rest: changeOver}, {Side: "left foot forward", Reps: 5, Pace: 30}}, calls["Front kick, on pads"].Sets)
	assert.Equal(t, []Set{{Side: "round 1 of 2", Seconds: 30, Rest: 10}, {Side: "round 2 of 2", Seconds: 30}}, calls["Jab"].Sets)
	assert.Equal(t, []Set{{Seconds: 60}}, calls["Press-ups"].Sets)
	assert.Equal(t, 10, CallOf(b, sheet.Lines[0], curriculum.AsWritten, 10).Sets[0].Reps)

	got := PiecesOf(b, "y")
	assert.Equal(t, []Piece{{"lead front kick", false, true, true}, {"rear front kick", false, false, true}, {"lead jab", true, true, false}}, got)
	assert.Empty(t, PiecesOf(b, "w"))
}
