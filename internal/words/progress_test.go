package words

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

func TestWhyAThingComesFirst(t *testing.T) {
	on := civil.MustParse("2026-11-24")
	next := func(u progress.Urge) progress.Next {
		return progress.Next{Item: progress.Item{Line: curriculum.Line{Section: "Kicks", Role: "performer", Kind: "kick"}}, Urge: u}
	}
	for said, u := range map[string]progress.Urge{
		"": {}, "new at this rung": {Kind: progress.UrgeNew}, "more is asked than before": {Kind: progress.UrgeMore}, "known in part: the rest is new": {Kind: progress.UrgeInPart},
		"asked again, and not seen from this student yet":                {Kind: progress.UrgeAgain},
		"must pass: without it the test is not passed":                   {Kind: progress.UrgeMustPass},
		"left foot forward is signed off, right foot forward is missing": {Kind: progress.UrgeHalf, Misses: "right"},
		"right foot forward is signed off, left foot forward is missing": {Kind: progress.UrgeHalf, Misses: "left"},
		"tried on Tue 24 Nov 2026: not right yet":                        {Kind: progress.UrgeNotYet, On: on},
		"tried on Tue 24 Nov 2026: guard drops":                          {Kind: progress.UrgeNotYet, On: on, Fault: "guard drops"},
		"the last thing for the Kicks stripe":                            {Kind: progress.UrgeStripe},
		"Jumping front kick builds on it":                                {Kind: progress.UrgeBase, Name: "Jumping front kick"},
		"asked again, and not seen for 90 days":                          {Kind: progress.UrgeUnseen, Days: 90},
		"of your own choice":                                             {Kind: progress.UrgeChoice},
	} {
		assert.Equal(t, said, Urge(next(u)))
	}
}

func TestWhoMayBeWho(t *testing.T) {
	for l, said := range map[progress.Likeness]string{progress.Same: "the same name", progress.SameBorn: "the same name, born the same day", progress.SameBornApart: "the same name, born another day",
		progress.Nearly: "nearly the same name", progress.NearlyBorn: "nearly the same name, born the same day"} {
		assert.Equal(t, said, Likeness(l))
	}
	assert.Equal(t, []string{"2025, first half", "2025, second half"}, []string{HalfYear(civil.MustParse("2025-01-01")), HalfYear(civil.MustParse("2025-07-01"))})
}

func TestHowGoodForecastsWere(t *testing.T) {
	none := "0 forecasts of climbs that lacked classes or sign-offs: the day of 0 came, 0 had not when the records end.\n"
	assert.Equal(t, none, BackTest(progress.Report{}))
	assert.Equal(t, `9 forecasts of climbs that lacked classes or sign-offs: the day of 7 came, 2 had not when the records end.
Inside early to late: 76.7 percent (80 are meant); before it 10.0, after it 13.3.
Mean error of the likely day: 30.9 days; of the own last twelve weeks on the timetable: 73.4 days; of a constant rate since the promotion: 57.4 days.
Chances for 60 and 120 days ahead, mean squared error 0.112:
  told  15 percent, came  35 percent of 98
`, BackTest(progress.Report{Forecasts: 9, Came: 7, Censored: 2, Inside: 767, Early: 100, Late: 133, Error: 30.94, Rival: 73.4, Naive: 57.4, Brier: 0.1119, Tenths: []progress.ChanceOf{{Told: 0.15, Came: 0.35, N: 98}}}))
	assert.Contains(t, BackTest(progress.Report{Forecasts: 9, Came: 7, Early: 50, Held: 3, EarlyFree: 74}), "before it 5.0, after it 0.0.\nOf 3 the early day is that of a rule, and nobody can be before it; of the others 7.4 percent were before it.\n")
}
