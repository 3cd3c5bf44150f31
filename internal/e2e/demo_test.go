package e2e

import (
	"context"
	"os/exec"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
)

// TestDemoSchool expects of the demo, as it is built today, the school it promises: people all
// over three ladders, two years of classes, and gradings in every state.
func TestDemoSchool(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	school := startDemo(t)
	school.stop()
	s, err := store.Open(ctx, school.db(), time.Now)
	require.NoError(t, err)
	programs, err := s.Programs(ctx)
	require.NoError(t, err)
	require.Len(t, programs, 3)
	kenpo := programs[0]
	ladder, err := s.Ladder(ctx, kenpo.ID)
	require.NoError(t, err)
	require.Len(t, ladder, 11)
	occupied := 0
	for _, r := range ladder {
		rows, err := s.Requirements(ctx, r.ID)
		require.NoError(t, err)
		assert.NotEmpty(t, rows, r.Name)
		if r.Students > 0 {
			occupied++
		}
	}
	assert.GreaterOrEqual(t, occupied, 8, "students stand all over the ladder")
	techniques, err := s.Techniques(ctx, kenpo.ID, "", "")
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(techniques), 40)
	_, students, err := s.Students(ctx, kenpo.ID, "", 1, 0)
	require.NoError(t, err)
	assert.Equal(t, 30, students)
	gradings, err := s.Gradings(ctx, "")
	require.NoError(t, err)
	outcomes := map[scoring.Outcome]int{}
	var announced, open, prepared int
	for _, g := range gradings {
		_, rows, err := s.Review(ctx, g.ID)
		require.NoError(t, err)
		for _, r := range rows {
			outcomes[r.Result.Outcome]++
		}
		switch {
		case !g.Begun():
			prepared++
		case g.Announced == g.Candidates:
			announced++
		default:
			open++
		}
	}
	assert.GreaterOrEqual(t, announced, 5)
	assert.Equal(t, 3, open, "one half marked, two in review")
	assert.Equal(t, 1, prepared)
	assert.Positive(t, outcomes[scoring.OutcomePromote])
	assert.Positive(t, outcomes[scoring.OutcomeHonours])
	assert.Positive(t, outcomes[scoring.OutcomeRetest])
	t.Log(outcomes)
	_, all, err := s.Students(ctx, "", "", 1, 0)
	require.NoError(t, err)
	assert.InDelta(t, 70, all, 4)
	registers, err := s.Registers(ctx, s.Today().AddDays(-730), s.Today())
	require.NoError(t, err)
	came := 0
	for _, r := range registers {
		came += r.Came
	}
	assert.Greater(t, len(registers), 900)
	assert.Greater(t, came, 6000)
	for _, p := range programs {
		quiet, err := s.GoneQuiet(ctx, p.ID)
		require.NoError(t, err)
		assert.Less(t, len(quiet), 12)
	}
	text, err := exec.Command(program, "backtest", "--db", school.db()).Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "Inside early to late:")
	t.Logf("%s", text)
}
