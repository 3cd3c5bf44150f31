package store

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
)

// TestFamilyLinks: a token is told once and kept as a digest; it opens until its last day, or
// until it is ended.
func TestFamilyLinks(t *testing.T) {
	x := newSchool(t)
	_, _, err := x.MakeLink(bg, me, x.people[0], strings.Repeat("x", 100), 500)
	problem(t, err, "days", "1 to 366")
	problem(t, err, "who", "up to 80 fit")
	_, _, err = x.MakeLink(bg, me, "nobody", "Greta", 30)
	assert.ErrorIs(t, err, ErrNotFound)
	token, d, err := x.MakeLink(bg, me, x.people[0], " Greta ", 30)
	require.NoError(t, err)
	assert.Len(t, token, 40)
	l, err := x.LinkOf(bg, token)
	require.NoError(t, err)
	assert.Equal(t, []any{x.people[0], "Greta", today.AddDays(30)}, []any{l.StudentID, l.Who, l.ExpiresOn})
	var kept string
	require.NoError(t, x.r.QueryRow(`SELECT digest FROM family_link`).Scan(&kept))
	assert.NotContains(t, kept, token, "whoever reads the file cannot use it")
	for _, guess := range []string{"", kept, token[:39], token + "0", strings.ToUpper(token)} {
		_, err := x.LinkOf(bg, guess)
		assert.ErrorIs(t, err, ErrNotFound, guess)
	}
	for days, want := range map[int]error{30: nil, 31: ErrEnded} {
		x.now = func() time.Time { return clock().AddDate(0, 0, days) }
		_, err := x.LinkOf(bg, token)
		assert.ErrorIs(t, err, want, "%d days later", days)
	}
	x.now = clock
	_, err = x.RevokeLink(bg, me, d.ID)
	require.NoError(t, err)
	_, err = x.LinkOf(bg, token)
	assert.ErrorIs(t, err, ErrEnded)
	_, err = x.RevokeLink(bg, me, d.ID)
	assert.ErrorIs(t, err, ErrNotFound)
	links, err := x.Links(bg, x.people[0])
	require.NoError(t, err)
	assert.True(t, links[0].Revoked, "it stays on record")
}

// TestTicksClipsAndDrills: each is an entry; a second tick of one day takes the first back.
func TestTicksClipsAndDrills(t *testing.T) {
	x := newSchool(t)
	e := x.standing(0).EnrolmentID
	b, err := x.Book(bg, x.program)
	require.NoError(t, err)
	kick := b.Named("Front kick").ID
	times := func() int {
		all, err := x.PractisedOf(bg, e, today.AddDays(-14))
		require.NoError(t, err)
		if len(all) == 0 {
			return 0
		}
		return all[0].Times
	}
	for i, want := range []int{1, 0, 1} {
		_, err := x.Tick(bg, me, e, kick, "performer")
		require.NoError(t, err)
		assert.Equal(t, want, times(), i)
	}
	x.now = func() time.Time { return clock().AddDate(0, 0, 1) }
	_, err = x.Tick(bg, me, e, kick, "performer")
	require.NoError(t, err)
	assert.Equal(t, 2, times())
	x.now = clock
	_, err = x.Tick(bg, me, e, kick, "cook")
	problem(t, err, "role", "is not a choice")
	_, err = x.Tick(bg, me, e, "no technique", "performer")
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = x.SendClip(bg, me, e, kick, "performer", "file:///etc/passwd")
	problem(t, err, "address", "begins with https://")
	d, err := x.SendClip(bg, By{Actor: "Greta (family)"}, e, kick, "performer", "https://clips.example/1")
	require.NoError(t, err)
	_, err = x.AnswerClip(bg, me, d.ID, " ")
	problem(t, err, "answer", "is empty")
	for _, text := range []string{"Good height.", "Good height. Fold sooner."} {
		_, err = x.AnswerClip(bg, me, d.ID, text)
		require.NoError(t, err)
		x.now = func() time.Time { return clock().Add(time.Minute) }
	}
	clips, err := x.Clips(bg, e)
	require.NoError(t, err)
	require.Len(t, clips, 1)
	assert.Equal(t, []string{"Greta (family)", "Good height. Fold sooner.", "tester"}, []string{clips[0].From, clips[0].Answer, clips[0].AnsweredBy})
	for range 2 {
		_, err = x.Drill(bg, me, x.program, "lead jab,  rear cross")
		require.NoError(t, err)
	}
	_, err = x.Drill(bg, me, x.program, " ")
	problem(t, err, "line", "is empty")
	drilled, err := x.Drilled(bg, x.program)
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"lead jab, rear cross": 2}, drilled)
}

// TestLikely: habit tells who comes until the register does.
func TestLikely(t *testing.T) {
	x := newSchool(t)
	c := x.evening(nil)
	for week := 1; week <= 10; week++ {
		require.NoError(t, x.enter(x.came(c, 0, today.AddDays(-7*week))))
		if week%4 == 0 {
			require.NoError(t, x.enter(x.came(c, 1, today.AddDays(-7*week))))
		}
	}
	p, heard, err := x.Likely(bg, c.ID, today)
	require.NoError(t, err)
	assert.Equal(t, map[string]int{x.people[0]: 900, x.people[1]: 300}, p, "of the last eight")
	assert.True(t, heard)
	require.NoError(t, x.enter(x.came(c, 2, today)))
	p, heard, err = x.Likely(bg, c.ID, today)
	require.NoError(t, err)
	assert.Equal(t, map[string]int{x.people[2]: 1000}, p)
	assert.True(t, heard)
	fresh := x.evening(func(c *timetable.Class) { c.Name, c.Start = "Late", 20*60 })
	p, heard, err = x.Likely(bg, fresh.ID, today)
	require.NoError(t, err)
	assert.False(t, heard)
	assert.Equal(t, map[string]int{x.people[0]: 500, x.people[1]: 500, x.people[2]: 500}, p, "whoever it is for")
	elsewhere := x.evening(func(c *timetable.Class) { c.Name, c.Start, c.Programs = "Other", 21*60, []string{"elsewhere"} })
	p, _, err = x.Likely(bg, elsewhere.ID, today)
	require.NoError(t, err)
	assert.Empty(t, p)
}

// TestInsightsFromRecords: only what was announced counts, and ways hold promotions apart from
// corrections.
func TestInsightsFromRecords(t *testing.T) {
	x := newSchool(t)
	g, table := x.begun()
	x.markAll(table, 0, 3, 3)
	rates, err := x.PassRates(bg, x.program)
	require.NoError(t, err)
	assert.Empty(t, rates)
	weak, err := x.WeakItems(bg, x.program)
	require.NoError(t, err)
	assert.Empty(t, weak)
	var all []string
	for i, c := range table.Candidates {
		d := Decision{CandidateID: c.ID, Outcome: scoring.OutcomePromote, DecidedBy: "Rosa", Reason: "seen"}
		if i == 0 {
			d.Outcome = scoring.OutcomeRetest
		}
		_, err := x.Decide(bg, me, d)
		require.NoError(t, err)
		all = append(all, c.ID)
	}
	_, err = x.Announce(bg, me, g, all)
	require.NoError(t, err)
	rates, err = x.PassRates(bg, x.program)
	require.NoError(t, err)
	require.Len(t, rates, 1)
	assert.Equal(t, []int{3, 2, 1}, []int{rates[0].Tried, rates[0].Promoted, len(rates[0].Retested)})
	weak, err = x.WeakItems(bg, x.program)
	require.NoError(t, err)
	require.NotEmpty(t, weak)
	assert.Equal(t, 3, weak[0].Marks)
	assert.Equal(t, 1, weak[0].Failing)
	_, err = x.CorrectRank(bg, me, x.standing(0).EnrolmentID, x.rungs[2], today, "graded elsewhere")
	require.NoError(t, err)
	ways, stays, err := x.Ways(bg, x.program)
	require.NoError(t, err)
	require.Len(t, ways, 3)
	ended := 0
	for _, s := range stays {
		if s.Ended {
			ended++
		}
	}
	assert.Equal(t, 2, ended, "two promotions; a correction is none")
	quiet, err := x.GoneQuiet(bg, x.program)
	require.NoError(t, err)
	assert.Empty(t, quiet, "no register was kept")
	c := x.evening(nil)
	require.NoError(t, x.enter(x.came(c, 0, today.AddDays(-28)), x.came(c, 1, today)))
	quiet, err = x.GoneQuiet(bg, x.program)
	require.NoError(t, err)
	require.Len(t, quiet, 1)
	assert.Equal(t, 28, quiet[0].Days)
	assert.Equal(t, 10, quiet[0].PerWeek)
}
