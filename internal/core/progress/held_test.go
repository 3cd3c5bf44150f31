package progress

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/golden"
)

// TestReplaysAsTheyWere keeps what the forecasts of three made-up schools came to when somebody
// looked last. What is meant to change it changes these lines too.
func TestReplaysAsTheyWere(t *testing.T) {
	golden.Alone(t)
	for seed, want := range []string{
		"1059 907 152, 762 144 94, 41.1 66.5, 0.157 0.04/0.08/239 0.15/0.25/126 0.25/0.32/152 0.35/0.43/151 0.45/0.54/149 0.55/0.66/154 0.65/0.66/154 0.75/0.79/200 0.85/0.86/239 0.96/0.95/362",
		"1212 901 311, 886 100 14, 70.6 90.8, 0.116 0.03/0.03/857 0.15/0.13/297 0.25/0.32/228 0.35/0.38/144 0.45/0.54/140 0.55/0.59/126 0.65/0.83/122 0.75/0.87/86 0.85/0.93/89 0.94/1.00/29",
		"1186 885 301, 843 122 35, 79.4 111.7, 0.140 0.03/0.06/798 0.14/0.17/266 0.25/0.36/187 0.35/0.46/163 0.45/0.56/124 0.55/0.59/140 0.65/0.75/118 0.76/0.83/94 0.84/0.86/94 0.93/1.00/36",
	} {
		climbs, calendars := generated(uint64(seed))
		r := Replay(climbs, calendars)
		got := fmt.Sprintf("%d %d %d, %d %d %d, %.1f %.1f, %.3f", r.Forecasts, r.Came, r.Censored, r.Inside, r.Early, r.Late, r.Error, r.Naive, r.Brier)
		for _, x := range r.Tenths {
			got += fmt.Sprintf(" %.2f/%.2f/%d", x.Told, x.Came, x.N)
		}
		assert.Equal(t, want, got, "school %d", seed)
	}
}

// TestTheLeastClassesForAShare holds the formula against trying one class after the other.
func TestTheLeastClassesForAShare(t *testing.T) {
	on := day("2026-11-24")
	var ahead []civil.Date
	for i := range 400 {
		ahead = append(ahead, on.AddDays(1+i))
	}
	for _, percent := range []int{1, 50, 66, 75, 80, 99} {
		for held := range 14 {
			for came := range held + 1 {
				e := Evidence{Since: on.AddDays(-100), Registered: on.AddDays(-200), Attended: Attended{{Kind: "general", Mode: timetable.Hall}: came}, Held: Attended{{Kind: "general", Mode: timetable.Hall}: held}, Ahead: timetable.Ahead{"": ahead}}
				a := Judge([]curriculum.Rule{{Kind: curriculum.ClassShare, Amount: percent}}, e, on).Answers[0]
				least := 0
				for (came+least)*100 < percent*(held+least) {
					least++
				}
				if held == 0 {
					continue // nothing was held: another answer
				}
				require.Equal(t, least, a.Lacks, "%d of %d, %d percent", came, held, percent)
				require.Equal(t, least == 0, a.State == Met)
				if least > 0 && least <= len(ahead) {
					require.Equal(t, ahead[least-1], a.Earliest)
				}
			}
		}
	}
}

// TestJudgedOnAnotherDay: evidence read today is held against a later day.
func TestJudgedOnAnotherDay(t *testing.T) {
	today := day("2026-11-24")
	born := day("2010-12-01")
	rules := []curriculum.Rule{{Kind: curriculum.LeastAge, Amount: 16}, {Kind: curriculum.DaysSince, Amount: 1}}
	v := Judge(rules, Evidence{Born: born, Since: today.AddDays(-9)}, today)
	assert.Equal(t, []any{NotMet, day("2026-12-01")}, []any{v.State, v.Earliest})
	v = Judge(rules, Evidence{Born: born, Since: today.AddDays(-9), Today: today}, day("2026-12-02"))
	assert.Equal(t, Met, v.State)
	classes := []curriculum.Rule{{Kind: curriculum.ClassesSince, Amount: 9}}
	v = Judge(classes, Evidence{Since: today.AddDays(-9), Today: today}, today.AddDays(30))
	assert.Equal(t, today, v.Answers[0].Earliest, "what is unknown may be so on the day the evidence was read")
	assert.Equal(t, today.AddDays(30), Judge(classes, Evidence{Since: today.AddDays(-9)}, today.AddDays(30)).Answers[0].Earliest)
	assert.Equal(t, day("2027-06-01"), DatesOf([]curriculum.Rule{{Kind: curriculum.MonthsSince, Amount: 6}, {Kind: curriculum.LeastAge, Amount: 15}}, Evidence{Since: day("2026-12-01"), Born: born, Today: day("2026-12-01")}))
	months := curriculum.Rule{Kind: curriculum.MonthsSince, Amount: 6}
	assert.Equal(t, day("2025-12-01"), DatesOf([]curriculum.Rule{months, {Kind: curriculum.LeastAge, Amount: 15}}, Evidence{Since: day("2024-12-01"), Born: born, Today: day("2024-12-01"), Waived: map[curriculum.RuleKind]string{months.Key(): "moved here"}}), "what is waived does not hold it up")
}

// TestTheUsualWeek: of as many weeks the one with more classes.
func TestTheUsualWeek(t *testing.T) {
	monday := civil.MustParse("2026-01-05")
	table := timetable.Table{Classes: []timetable.Class{
		{ID: "a", Name: "A", Kind: "general", Weekday: 1, Start: 1080, Minutes: 60, From: monday},
		{ID: "b", Name: "B", Kind: "general", Weekday: 3, Start: 1080, Minutes: 60, From: monday.AddDays(14)},
	}}
	for end, usual := range map[int]int{21: 1, 28: 2, 35: 2} {
		table.Classes[0].To, table.Classes[1].To = monday.AddDays(end-1), monday.AddDays(end-1)
		c := CalendarOf(table, "", "", monday.AddDays(-1), monday.AddDays(end))
		require.Len(t, c.Held, end/7)
		require.Equal(t, usual, c.Usual, "after %d days", end)
	}
}

// TestStripesOfNothing: a section of which nothing is asked is no hindrance.
func TestStripesOfNothing(t *testing.T) {
	b, asked := readyBook()
	done, _ := asked.Done(nil, nil)
	for i := range done {
		if done[i].ID == "d" {
			done = append(done[:i], done[i+1:]...)
			break
		}
	}
	got := Stripes(b.Rung("y"), b, done, nil)
	assert.Equal(t, []bool{false, true}, []bool{got[0].Due, got[1].Due})
	elsewhere, _ := asked.Done([]Showing{{TechniqueID: "front", Role: "performer", Rung: "w", On: day("2026-01-01")}}, nil)
	assert.Zero(t, elsewhere[0].Done, "what was signed off for a rung whose sheet is not known tells nothing")
	assert.True(t, asked.Has("wheel", "attacker"))
	assert.False(t, asked.Has("wheel", "holder"))
}
