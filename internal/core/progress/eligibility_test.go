package progress

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

func day(s string) civil.Date { return civil.MustParse(s) }

func TestRulesOneByOne(t *testing.T) {
	months, days, age, word := curriculum.Rule{Kind: curriculum.MonthsSince, Amount: 6}, curriculum.Rule{Kind: curriculum.DaysSince, Amount: 30}, curriculum.Rule{Kind: curriculum.LeastAge, Amount: 7}, curriculum.Rule{Kind: curriculum.Word}
	for _, x := range []struct {
		name     string
		rule     curriculum.Rule
		evidence Evidence
		on       string
		state    State
		figure   string
		missing  string
		earliest string
	}{
		{"months exactly", months, Evidence{Since: day("2026-05-24")}, "2026-11-24", Met, "6 months", "", "2026-11-24"},
		{"a day short", months, Evidence{Since: day("2026-05-25")}, "2026-11-24", NotMet, "5 months", "1 day more", "2026-11-25"},
		{"a month that is too short", months, Evidence{Since: day("2026-08-31")}, "2027-02-27", NotMet, "5 months", "1 day more", "2027-02-28"},
		{"and its last day", months, Evidence{Since: day("2026-08-31")}, "2027-02-28", Met, "6 months", "", "2027-02-28"},
		{"no day of promotion", months, Evidence{}, "2026-11-24", Unknown, "", "the day of the last promotion", "2026-11-24"},
		{"days", days, Evidence{Since: day("2026-10-25")}, "2026-11-24", Met, "30 days", "", "2026-11-24"},
		{"days short", days, Evidence{Since: day("2026-11-20")}, "2026-11-24", NotMet, "4 days", "26 days more", "2026-12-20"},
		{"before the promotion", days, Evidence{Since: day("2026-12-01")}, "2026-11-24", NotMet, "0 days", "37 days more", "2026-12-31"},
		{"a birthday", age, Evidence{Born: day("2019-11-24")}, "2026-11-24", Met, "7 years", "", "2026-11-24"},
		{"the day before", age, Evidence{Born: day("2019-11-25")}, "2026-11-24", NotMet, "6 years", "1 day more", "2026-11-25"},
		{"29 February, a common year", age, Evidence{Born: day("2020-02-29")}, "2027-02-28", NotMet, "6 years", "1 day more", "2027-03-01"},
		{"no birth date is no failure", age, Evidence{}, "2026-11-24", Unknown, "", "the birth date", "2026-11-24"},
		{"nobody has said so", word, Evidence{}, "2026-11-24", Unknown, "", "an instructor who says so", "2026-11-24"},
		{"the word", word, Evidence{Word: "R. Castellane"}, "2026-11-24", Met, "given by R. Castellane", "", "2026-11-24"},
	} {
		t.Run(x.name, func(t *testing.T) {
			v := Judge([]curriculum.Rule{x.rule}, x.evidence, day(x.on))
			require.Len(t, v.Answers, 1)
			a := v.Answers[0]
			assert.Equal(t, x.state, v.State)
			assert.Equal(t, x.figure, a.Figure)
			assert.Equal(t, x.missing, a.Missing)
			assert.Equal(t, x.earliest, a.Earliest.String())
			assert.NotEmpty(t, a.Threshold)
		})
	}
}

func TestAllRulesMustHold(t *testing.T) {
	rules := []curriculum.Rule{{Kind: curriculum.MonthsSince, Amount: 2}, {Kind: curriculum.LeastAge, Amount: 10}, {Kind: curriculum.Word}}
	on := day("2026-11-24")
	assert.Equal(t, "may test", Judge(nil, Evidence{}, on).Words(), "without rules nothing stands in the way")
	v := Judge(rules, Evidence{Since: day("2026-11-01"), Born: day("2017-01-05")}, on)
	assert.Equal(t, NotMet, v.State, "not met outweighs unknown")
	assert.Equal(t, "from Tue 5 Jan 2027, if an instructor who says so is given", v.Words())
	v = Judge(rules, Evidence{Since: day("2026-01-01"), Word: "R."}, on)
	assert.Equal(t, Unknown, v.State)
	assert.Equal(t, "not known: the birth date is missing", v.Words())
	v = Judge(rules, Evidence{Since: day("2026-01-01"), Word: "R.", Waived: map[curriculum.RuleKind]string{curriculum.LeastAge: "moved here with the rank"}}, on)
	assert.Equal(t, Met, v.State)
	assert.Equal(t, "moved here with the rank", v.Answers[1].Waived)
	v = Judge(nil, Evidence{RetestFrom: day("2026-12-01")}, on)
	assert.Equal(t, NotMet, v.State, "a retest waits, whatever the rung asks")
	assert.Equal(t, "2026-12-01", v.Earliest.String())
	assert.Equal(t, Met, Judge(nil, Evidence{RetestFrom: on}, on).State)
}

func anyDay(t *rapid.T, name string) civil.Date {
	return day("2016-01-01").AddDays(rapid.IntRange(0, 5000).Draw(t, name))
}

// TestLawsOfEligibility: the earliest day is truly the first one, time never makes anyone
// less eligible, another rule never makes anyone more so, and neither does less evidence.
func TestLawsOfEligibility(t *testing.T) {
	rank := map[State]int{NotMet: 0, Unknown: 1, Met: 2}
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) curriculum.Rule {
			k := rapid.SampledFrom(curriculum.RuleKinds).Draw(t, name)
			return curriculum.Rule{Kind: k, Amount: rapid.IntRange(1, 24).Draw(t, name+" amount")}
		}
		var rules []curriculum.Rule
		for i := range rapid.IntRange(0, 3).Draw(t, "rules") {
			rules = append(rules, draw(string(rune('a'+i))))
		}
		e := Evidence{Since: anyDay(t, "since"), Born: anyDay(t, "born"), Word: rapid.SampledFrom([]string{"", "R."}).Draw(t, "word")}
		if rapid.Bool().Draw(t, "retest") {
			e.RetestFrom = anyDay(t, "retest from")
		}
		on := anyDay(t, "on")
		v := Judge(rules, e, on)
		require.LessOrEqual(t, rank[Judge(append(rules, draw("more")), e, on).State], rank[v.State], "another rule")
		require.LessOrEqual(t, rank[v.State], rank[Judge(rules, e, on.AddDays(rapid.IntRange(0, 400).Draw(t, "later"))).State], "time")
		less := e
		less.Born = civil.Date{}
		if v.State == Met {
			require.NotEqual(t, NotMet, Judge(rules, less, on).State, "missing evidence is never a failure")
		}
		full := e
		full.Word = "R."
		for _, a := range v.Answers {
			// Walk the days: the rule is met on its earliest day, and on none before.
			one := []curriculum.Rule{}
			for _, r := range rules {
				if r.Kind == a.Kind {
					one = append(one, r)
				}
			}
			if len(one) != 1 || a.State == Unknown {
				continue
			}
			full.RetestFrom = civil.Date{}
			require.Equal(t, Met, Judge(one, full, a.Earliest).State)
			if a.Kind != curriculum.Word {
				require.NotEqual(t, Met, Judge(one, full, a.Earliest.AddDays(-1)).State)
			}
		}
	})
}
