package gradingday

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

func TestClock(t *testing.T) {
	c := Clock{Seconds: 60, Rounds: 2, Rest: 30, Cue: 10}
	assert.Empty(t, c.Check())
	assert.Equal(t, Reading{Phase: ClockReady, Round: 1, Left: 60_000}, c.At(5))
	assert.Equal(t, ClockUnset, Clock{}.At(5).Phase)
	run := c.Start(1_000)
	for _, x := range []struct {
		at   int64
		want Reading
	}{
		{1_000, Reading{ClockWork, 1, 60_000, true, false}},
		{900, Reading{ClockWork, 1, 60_000, true, false}}, // a device a little behind
		{51_000, Reading{ClockWork, 1, 10_000, true, true}},
		{60_999, Reading{ClockWork, 1, 1, true, true}},
		{61_000, Reading{ClockRest, 1, 30_000, true, false}},
		{91_000, Reading{ClockWork, 2, 60_000, true, false}},
		{151_000, Reading{ClockDone, 2, 0, false, false}},
		{1 << 50, Reading{ClockDone, 2, 0, false, false}},
	} {
		assert.Equal(t, x.want, run.At(x.at), "%d", x.at)
	}
	paused := run.Pause(21_000)
	assert.Equal(t, Reading{ClockWork, 1, 40_000, false, false}, paused.At(999_000))
	again := paused.Start(1_000_000)
	assert.Equal(t, int64(39_000), again.At(1_001_000).Left)
	assert.Equal(t, again, again.Start(1_002_000), "a clock that runs is not started anew")
	assert.Equal(t, c.At(0), again.Reset().At(0))
	assert.Greater(t, again.Version, paused.Version)
	for _, field := range []string{"seconds", "rounds", "rest", "cue"} {
		assert.NotEmpty(t, Clock{Rest: -1, Cue: 601}.Check().Of(field), field)
	}
}

func TestLawClocksAgreeHoweverTheyArePaused(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := Clock{Seconds: rapid.IntRange(1, 300).Draw(t, "seconds"), Rounds: rapid.IntRange(1, 5).Draw(t, "rounds"), Rest: rapid.IntRange(0, 60).Draw(t, "rest"), Cue: 10}
		const noon = 1_700_000_000_000
		straight := c.Start(noon)
		broken, now, ran := c, int64(noon), int64(0)
		for range rapid.IntRange(0, 6).Draw(t, "pauses") {
			broken = broken.Start(now)
			d := rapid.Int64Range(0, 100_000).Draw(t, "runs")
			now, ran = now+d, ran+d
			broken = broken.Pause(now)
			now += rapid.Int64Range(0, 100_000).Draw(t, "stands")
		}
		a, b := straight.At(noon+ran), broken.At(now)
		if ran > 0 {
			assert.Equal(t, []any{a.Phase, a.Round, a.Left}, []any{b.Phase, b.Round, b.Left})
		}
	})
}

func TestPaceAndTable(t *testing.T) {
	assert.Equal(t, Pace{Aim: 30, Seconds: 60, EachMS: 2000, Due: 15, Ahead: -1}, PaceOf(14, 30, 60, 31_999))
	assert.Equal(t, 3, PaceOf(33, 30, 60, 99_000).Ahead, "after the end the whole aim is due")
	assert.Equal(t, Pace{}, PaceOf(14, 0, 60, 1000))
	table := []curriculum.TableMark{{Count: 10, Mark: scoring.Whole(1)}, {Count: 20, Mark: scoring.Whole(2)}, {Count: 30, Mark: scoring.Whole(4)}}
	for _, x := range []struct {
		count int
		mark  int
		found bool
		next  int
	}{{9, 0, false, 10}, {10, 1, true, 20}, {29, 2, true, 30}, {30, 4, true, 0}, {500, 4, true, 0}} {
		mark, found, next := MarkOf(table, x.count)
		assert.Equal(t, scoring.Whole(x.mark), mark)
		assert.Equal(t, x.found, found)
		if x.next == 0 {
			assert.Nil(t, next)
		} else if assert.NotNil(t, next) {
			assert.Equal(t, x.next, next.Count)
		}
	}
}

func TestStateOf(t *testing.T) {
	full := func(signed bool) TableState { return TableState{Given: 4, Of: 4, Signed: signed} }
	gone := []Unseen{{Name: "Ben", Item: "Form", Line: 9}, {Name: "Ada", Item: "Kick", Line: 2}}
	for _, x := range []struct {
		name   string
		tables []TableState
		unseen []Unseen
		want   Stage
	}{
		{"no table", nil, nil, Waiting},
		{"nothing yet", []TableState{{Of: 4}, {Of: 4}}, nil, Waiting},
		{"one has begun", []TableState{{Given: 1, Of: 4}, {Of: 4}}, nil, UnderWay},
		{"nobody saw two", []TableState{full(false), full(true)}, gone, CallAgain},
		{"signed, and yet nobody saw two", []TableState{full(true), full(true)}, gone, CallAgain},
		{"to sign", []TableState{full(false), full(true)}, nil, ToSign},
		{"ready", []TableState{full(true), full(true)}, nil, Ready},
	} {
		assert.Equal(t, x.want, StateOf("g", x.tables, x.unseen).Stage, x.name)
	}
	assert.Equal(t, Unseen{Name: "Ada", Item: "Kick", Line: 2}, StateOf("g", nil, gone).Unseen[0], "in the order of lines")
}
