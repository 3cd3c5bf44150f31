package store

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/practice"
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
	p, err := x.Likely(bg, c.ID, today)
	require.NoError(t, err)
	assert.Equal(t, Turnout{Chances: map[string]int{x.people[0]: 900, x.people[1]: 300}, Heard: true}, p, "of the last eight")
	live := x.came(c, 2, today)
	live.Mode, live.MakeUp = timetable.Live, true
	require.NoError(t, x.enter(live))
	p, err = x.Likely(bg, c.ID, today)
	require.NoError(t, err)
	assert.Equal(t, Turnout{Chances: map[string]int{x.people[2]: 1000}, Heard: true, Kept: true, Online: true, MakeUp: map[string]bool{x.people[2]: true}}, p)
	p, err = x.Expected(bg, c.ID, today)
	require.NoError(t, err)
	assert.Len(t, p.Chances, 2, "the register of the day is not looked at")
	fresh := x.evening(func(c *timetable.Class) { c.Name, c.Start = "Late", 20*60 })
	p, err = x.Likely(bg, fresh.ID, today)
	require.NoError(t, err)
	assert.Equal(t, Turnout{Chances: map[string]int{x.people[0]: 500, x.people[1]: 500, x.people[2]: 500}}, p, "whoever it is for")
	elsewhere := x.evening(func(c *timetable.Class) { c.Name, c.Start, c.Programs = "Other", 21*60, []string{"elsewhere"} })
	p, err = x.Likely(bg, elsewhere.ID, today)
	require.NoError(t, err)
	assert.Empty(t, p.Chances)
}

// TestThemesOfTheWeek: a theme is kept for a week and a program, changed, undone and taken away.
func TestThemesOfTheWeek(t *testing.T) {
	x := newSchool(t)
	sections, err := x.Sections(bg, x.program)
	require.NoError(t, err)
	monday := civil.MustParse("2026-11-23")
	theme := func(on civil.Date) practice.Theme {
		all, err := x.Themes(bg, on)
		require.NoError(t, err)
		return all[x.program].Theme
	}
	set := func(h practice.Theme) Done {
		d, err := x.SaveThemes(bg, me, monday, map[string]practice.Theme{x.program: h})
		require.NoError(t, err)
		return d
	}
	set(practice.Theme{})
	assert.True(t, theme(monday).IsZero())
	set(practice.Theme{Sections: []string{sections[0].ID, "no section"}, Words: "  low   stances "})
	want := practice.Theme{Sections: []string{sections[0].ID}, Words: "low stances"}
	assert.Equal(t, want, theme(monday))
	assert.True(t, theme(monday.AddDays(7)).IsZero(), "the next week has its own")
	assert.True(t, theme(monday.AddDays(-7)).IsZero())
	assert.Equal(t, want, theme(monday.AddDays(-6)), "a school whose weeks begin on Tuesday now finds it too")
	d := set(practice.Theme{Words: "ribs"})
	assert.Equal(t, practice.Theme{Sections: []string{}, Words: "ribs"}, theme(monday))
	_, err = x.Undo(bg, me, d.Audit)
	require.NoError(t, err)
	assert.Equal(t, want, theme(monday))
	set(practice.Theme{})
	assert.True(t, theme(monday).IsZero())
	_, err = x.SaveThemes(bg, me, monday, map[string]practice.Theme{x.program: {Words: ",,; & /"}})
	require.ErrorContains(t, err, "no word in it")
	_, err = x.SaveThemes(bg, me, monday, map[string]practice.Theme{x.program: {Words: strings.Repeat("x", 1000)}})
	problem(t, err, "words", "characters")
}

// TestWhatWasMissed: what a class worked on while somebody was away who comes to it, until it is seen
// in another.
func TestWhatWasMissed(t *testing.T) {
	x := newSchool(t)
	techniques, err := x.Techniques(bg, x.program, "", "")
	require.NoError(t, err)
	technique := techniques[0].ID
	c := x.evening(nil)
	other := x.evening(func(c *timetable.Class) { c.Name, c.Start = "Late", 20*60 })
	week := func(n int) civil.Date { return today.AddDays(-7 * n) }
	for n := 1; n <= 5; n++ {
		require.NoError(t, x.enter(x.came(c, 0, week(n))))
	}
	require.NoError(t, x.enter(x.came(c, 1, week(5))))
	missed := func(from civil.Date) []Missed {
		out, err := x.MissedBy(bg, x.people, from, today)
		require.NoError(t, err)
		return out
	}
	assert.Empty(t, missed(week(4)))
	teach := func(class string, n int) {
		_, err := x.Teach(bg, me, class, week(n), technique)
		require.NoError(t, err)
	}
	teach(c.ID, 3)
	teach(c.ID, 2)
	want := []Missed{{x.people[1], technique, week(2), c.Name}}
	assert.Equal(t, want, missed(week(4)), "the latest day; not somebody who never comes to this class")
	assert.Empty(t, missed(week(1)))
	require.NoError(t, x.enter(x.came(other, 1, week(2))))
	assert.Equal(t, want, missed(week(4)), "another class that worked on something else")
	teach(other.ID, 2)
	assert.Empty(t, missed(week(4)), "seen in another class since")
	none, err := x.MissedBy(bg, nil, week(4), today)
	require.NoError(t, err)
	assert.Empty(t, none)
	last, err := x.LastTaught(bg, week(3), week(2))
	require.NoError(t, err)
	assert.Equal(t, map[string]civil.Date{technique: week(3)}, last)
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

// TestALinkHolderIsBounded: ticks, clips and choices come as often as a family needs, and then no more; tomorrow, or once clips are answered, it
// goes on.
func TestALinkHolderIsBounded(t *testing.T) {
	x := newSchool(t)
	e := x.standing(0).EnrolmentID
	kick, err := x.Requirement(bg, x.lines[0])
	require.NoError(t, err)
	day := clock()
	x.now = func() time.Time { return day }
	family := By{Actor: "Una (family)"}
	n := 0
	deeds := map[string]struct {
		most int
		do   func() error
	}{
		"ticks of today": {MostTicks, func() error { _, err := x.Tick(bg, family, e, kick.TechniqueID, "performer"); return err }},
		"clips of today": {MostClips, func() error {
			n++
			_, err := x.SendClip(bg, family, e, kick.TechniqueID, "performer", fmt.Sprint("https://clips.example/", n))
			return err
		}},
		"choices of today": {MostChoices, func() error { _, err := x.Choose(bg, family, e, kick.TechniqueID, []string{"a kick"}); return err }},
	}
	for what, d := range deeds {
		for i := range d.most {
			require.NoError(t, d.do(), "%s %d", what, i)
		}
		refused(t, d.do(), fmt.Sprint(d.most, " ", what))
	}
	for range 2 {
		day = day.AddDate(0, 0, 1)
		for what, d := range deeds {
			require.NoError(t, d.do(), what)
		}
		for range MostClips - 1 {
			require.NoError(t, deeds["clips of today"].do())
		}
	}
	day = day.AddDate(0, 0, 1)
	refused(t, deeds["clips of today"].do(), "30 clips that wait for an answer")
	all, err := x.Clips(bg, e)
	require.NoError(t, err)
	require.Len(t, all, MostWaiting)
	_, err = x.AnswerClip(bg, me, all[0].ID, "the knee is good")
	require.NoError(t, err)
	assert.NoError(t, deeds["clips of today"].do())
}
