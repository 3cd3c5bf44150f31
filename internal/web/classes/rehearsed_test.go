package classes

import (
	"context"
	"log/slog"
	"net/http"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/practice"
	"velvetladder/internal/demotest"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

// TestTwentyEvenings plans the last evenings of the demo school from what was known before each, and holds
// the plans against who came then: the warm-up is first, the minutes fit, nothing stands twice, and but
// for three blocks in a hundred each serves somebody who was there. Planned again by the register every
// block does.
func TestTwentyEvenings(t *testing.T) {
	golden.Alone(t)
	s, err := store.Open(context.Background(), demotest.Copy(t), demotest.Now)
	require.NoError(t, err)
	defer s.Close()
	a := &chapter{Parts: parts.New(frame.New(s, slog.New(slog.DiscardHandler), frame.Access{}), s), records: s}
	r, err := http.NewRequest("GET", "/", nil)
	require.NoError(t, err)
	held, err := s.Registers(context.Background(), s.Today().AddDays(-60), s.Today().AddDays(-1))
	require.NoError(t, err)
	evenings, blocks, nobody, roles, drills, groups := 0, 0, 0, 0, 0, 0
	for _, x := range held {
		if evenings == 20 {
			break
		}
		came, err := s.Likely(context.Background(), x.Class.ID, x.On)
		require.NoError(t, err)
		if !came.Kept {
			continue
		}
		before, err := s.Expected(context.Background(), x.Class.ID, x.On)
		require.NoError(t, err)
		who, err := a.whoComes(r, x.Class, x.On, before)
		require.NoError(t, err)
		topics := practice.Topics(who.present, who.taught, x.On)
		p := practice.MakePlan(topics, practice.Tonight{Minutes: x.Minutes, On: x.On})
		evenings++
		require.True(t, p.Blocks[0].WarmUp, "%s, %s", x.Name, x.On)
		after, err := a.whoComes(r, x.Class, x.On, came)
		require.NoError(t, err)
		for _, b := range practice.MakePlan(practice.Topics(after.present, after.taught, x.On), practice.Tonight{Minutes: x.Minutes, On: x.On}).Blocks {
			require.Equal(t, b.ID != "", len(b.Serves) > 0, "%s, %s: %s", x.Name, x.On, b.Name)
			for _, v := range b.Serves {
				require.Equal(t, 1000, came.Chances[v.Student])
			}
		}
		total := 0
		for i, b := range p.Blocks {
			require.InDelta(t, total, b.Begin, 0, "%s, %s: %s begins when what was before ends", x.Name, x.On, b.Name)
			total += b.Minutes
			if b.ID == "" {
				require.True(t, b.WarmUp || b.Free || i == len(p.Blocks)-1)
				continue
			}
			blocks++
			if slices.ContainsFunc(p.Blocks[:i], func(o practice.Block) bool { return o.ID == b.ID }) {
				t.Errorf("%s, %s: %s stands twice", x.Name, x.On, b.Name)
			}
			if !slices.ContainsFunc(b.Serves, func(s practice.Served) bool { return came.Chances[s.Student] > 0 }) {
				nobody++
				t.Logf("%s, %s: %s serves nobody who came", x.Name, x.On, b.Name)
			}
			if b.Roles == practice.BothRoles {
				roles++
			}
			if b.Drill != "" {
				drills++
			}
			groups += len(b.Meanwhile)
		}
		require.InDelta(t, x.Minutes, total, 1, "%s, %s", x.Name, x.On)
	}
	require.Equal(t, 20, evenings)
	t.Logf("%d evenings, %d blocks, %d of them serve nobody who came, %d are both roles of a technique, %d have a drill; %d groups meanwhile", evenings, blocks, nobody, roles, drills, groups)
	require.LessOrEqual(t, 100*nobody, 3*blocks)
	require.Positive(t, roles)
	require.Positive(t, drills)
}
