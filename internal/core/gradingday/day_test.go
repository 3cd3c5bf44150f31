package gradingday

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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

// TestLawSpansSayWhatTheClockReads looks readings up in the spans, as devices do.
func TestLawSpansSayWhatTheClockReads(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := Clock{Seconds: rapid.IntRange(1, 200).Draw(t, "seconds"), Rounds: rapid.IntRange(1, 6).Draw(t, "rounds"), Rest: rapid.IntRange(0, 60).Draw(t, "rest"), Cue: rapid.IntRange(0, 250).Draw(t, "cue"), StartedAt: 1}
		spent := rapid.Int64Range(1, 1_500_000).Draw(t, "spent")
		want := c.At(1 + spent)
		got := Reading{Phase: ClockDone, Round: c.Rounds}
		for _, s := range c.Spans() {
			if spent < s.Until {
				got = Reading{Phase: s.Phase, Round: s.Round, Left: s.Until - spent, Running: true, Closing: s.Phase == ClockWork && spent >= s.Cue && s.Cue < s.Until}
				break
			}
		}
		assert.Equal(t, want, got)
	})
	assert.Nil(t, Clock{}.Spans())
}

func TestStepsOfACount(t *testing.T) {
	table := []curriculum.TableMark{{Count: 10, Mark: scoring.Whole(1)}, {Count: 20, Mark: scoring.Whole(2)}, {Count: 30, Mark: scoring.Whole(4)}}
	steps := Steps(table, 0, 60)
	for _, x := range []struct{ count, mark, next, aim int }{{0, -1, 10, 10}, {9, -1, 10, 10}, {10, 1, 20, 20}, {29, 2, 30, 30}, {30, 4, 0, 30}, {500, 4, 0, 30}} {
		s := StepOf(steps, x.count)
		if x.mark < 0 {
			assert.Nil(t, s.Mark, "below the lowest row")
		} else {
			assert.Equal(t, scoring.Whole(x.mark), *s.Mark, x.count)
		}
		if x.next == 0 {
			assert.Nil(t, s.Next)
		} else {
			assert.Equal(t, x.next, s.Next.Count)
		}
		assert.Equal(t, x.aim, s.Aim, x.count)
	}
	assert.Equal(t, 40, StepOf(Steps(table, 40, 60), 25).Aim, "what is asked goes before the table")
	assert.Len(t, Steps([]curriculum.TableMark{{Count: 0, Mark: scoring.Whole(1)}}, 0, 60), 1, "a row from nothing on is the first step")
	asked := Steps(nil, 30, 60)
	require.Len(t, asked, 1)
	assert.Equal(t, -1, asked[0].Ahead(14, 31_999), "the 15th falls due after 30 s")
	assert.Equal(t, []int{1, 0}, []int{asked[0].Ahead(1, 1_999), asked[0].Ahead(1, 2_000)}, "on the beat")
	assert.Equal(t, 3, asked[0].Ahead(33, 99_000), "after the end the whole aim is due")
	assert.Equal(t, []int64{334, 667, 1000}, Steps(nil, 3, 1)[0].Beats, "rounded up")
	for _, none := range []Step{Steps(nil, 0, 60)[0], Steps(nil, 30, 0)[0], Steps(nil, MaxBeats+1, 60)[0]} {
		assert.Nil(t, none.Beats)
	}
	assert.Len(t, Steps(nil, MaxBeats, 60)[0].Beats, MaxBeats)
}

func TestMostlyUnseen(t *testing.T) {
	for _, x := range []struct {
		notSeen, of int
		want        bool
	}{{0, 1, false}, {1, 1, true}, {1, 2, false}, {2, 2, true}, {1, 3, false}, {2, 3, true}, {2, 4, false}, {3, 4, true}} {
		assert.Equal(t, x.want, MostlyUnseen(x.notSeen, x.of), "%d of %d", x.notSeen, x.of)
	}
}

func TestLineNumbers(t *testing.T) {
	two := GroupItem{Number: 3, Item: Item{Lines: make([]curriculum.Line, 2)}}
	assert.Equal(t, []string{"3.1", "3.2"}, []string{two.LineNumber(0), two.LineNumber(1)})
	assert.Equal(t, "4", GroupItem{Number: 4, Item: Item{Lines: make([]curriculum.Line, 1)}}.LineNumber(0))
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
