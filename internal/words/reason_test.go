package words_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

func sheet(t testing.TB, who string, marks ...any) scoring.Sheet {
	s := scoring.Sheet{Examiner: who}
	for _, m := range marks {
		if n, is := m.(int); is {
			s.Marks = append(s.Marks, scoring.Seen(scoring.Whole(n)))
		} else {
			s.Marks = append(s.Marks, scoring.Mark{}) // "-"
		}
	}
	return s
}

func itemsOf(n int) (items []scoring.Item) {
	for i := range n {
		items = append(items, scoring.Item{ID: fmt.Sprintf("i%d", i+1), Weight: 1, Section: "all"})
	}
	return items
}

// texts are the reasons that hold or do not, as said.
func texts(reasons []scoring.Reason) string {
	var out []string
	for _, r := range reasons {
		mark := "no: "
		if r.Holds {
			mark = "yes: "
		}
		out = append(out, mark+words.Reason(r))
	}
	return strings.Join(out, "\n")
}

func TestReasonsSpeakPlainly(t *testing.T) {
	items := itemsOf(4)
	items[0].Label, items[0].MustPass, items[1].Section = "Mill Wheel", true, "kicks"
	movement := scoring.MovementScale()
	movement.Rules.Threshold = new(scoring.Whole(8))
	movement.Rules.SectionMinima = []scoring.SectionMinimum{{Section: "kicks", Ratio: scoring.Whole(1) / 2}}
	points := scoring.CategoryPoints(scoring.Whole(20))
	mean := points
	mean.Panel = scoring.Mean
	trimmed := movement
	trimmed.Panel, trimmed.Scale.Double = scoring.TrimmedMean, true
	sign := scoring.SignOff()
	none := points
	none.Rules = scoring.Rules{IgnoreMustPass: true}
	for _, c := range []struct {
		name   string
		policy scoring.Policy
		test   scoring.Test
		said   string
	}{
		{"a failing sheet says each rule", movement, scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "Ann", 1, 1, 0, 4)}}, `no: 0 of 1 complete sheets pass; more than half is 1
no: 6 of 16 points; the threshold is 8: 2 short
no: kicks: 25 % of what was possible; at least 50 % is asked
no: 3 failing items; up to 2 allowed: Mill Wheel, i2, i3
no: must pass, and failing: Mill Wheel`},
		{"a passing sheet", movement, scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "Ann", 2, 2, 2, 2)}}, `yes: 1 of 1 complete sheets pass; more than half is 1`},
		{"a mean that is no short decimal", mean, scoring.Test{Items: items[:3], Sheets: []scoring.Sheet{sheet(t, "A", 7, 7, 7), sheet(t, "B", 6, 7, 7), sheet(t, "C", 7, 7, 6)}}, `yes: mean 20.33… of 30 points; the threshold is 20: 0.33… clear`},
		{"a trimmed mean of five with double", trimmed, scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "A", 4, 4, 4, 4), sheet(t, "B", 4, 4, 4, 4), sheet(t, "C", 4, 4, 4, 4), sheet(t, "D", 2, 2, 2, 2), sheet(t, "E", 2, 2, 2, 2)}}, `yes: trimmed mean 13.33… of 16 points; the threshold is 8: 5.33… clear
yes: kicks: 83.33… % of what was possible; at least 50 % is asked
yes: no failing item; up to 2 allowed
yes: no must-pass item is failing
yes: 3 of 5 complete sheets have double`},
		{"sign-off", sign, scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "A", 1, 0, 1, 1)}}, `no: 0 of 1 complete sheets pass; more than half is 1
no: 1 failing item; up to 0 allowed: i2`},
		{"no rule at all", none, scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "A", 0, 0, 0, 0)}}, `yes: 1 of 1 complete sheets pass; more than half is 1`},
		{"nobody saw it and too few complete", points, scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "A", 5, "-", 5, "-"), sheet(t, "B", "-", "-", "-", "-")}}, `no: seen by nobody, to be called again: i2, i4
no: no complete sheet of 2; at least 2 are needed`},
	} {
		t.Run(c.name, func(t *testing.T) {
			r, err := c.policy.Decide(c.test)
			require.NoError(t, err)
			assert.Equal(t, c.said, texts(r.Reasons))
		})
	}
	tally := none.Tally(items, sheet(t, "A", 0, 0, 0, 0))
	assert.Equal(t, "no rule is switched on: a complete sheet passes", words.Reason(tally.Reasons[0]))
	tally = points.Tally(items, sheet(t, "A", "-", "-", "-", "-"))
	assert.Equal(t, "no counted item was seen", words.Reason(tally.Reasons[0]))
	tally = movement.Tally(items, sheet(t, "A", 2, "-", 2, 2))
	assert.Equal(t, "kicks has a minimum, and no counted item of it was seen", words.Reason(tally.Reasons[0]))
}

func TestImpossibleChangesSayWhy(t *testing.T) {
	items := itemsOf(2)
	for said, c := range map[string]struct {
		policy scoring.Policy
		test   scoring.Test
	}{
		"even with every mark seen at its highest: A: 18 of 20 points; the threshold is 19: 1 short": {scoring.CategoryPoints(scoring.Whole(19)), scoring.Test{Items: items, Sheets: []scoring.Sheet{{Examiner: "A", Marks: sheet(t, "A", 9, 9).Marks, Deductions: scoring.Whole(2)}}}},
		"even with every mark seen at its lowest the rules that are on would hold":                   {scoring.CategoryPoints(0), scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "A", 9, 9)}}},
		"an ending fault is confirmed: no marks could turn it":                                       {scoring.CategoryPoints(0), scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "A", 9, 9)}, EndingFault: true}},
	} {
		r, err := c.policy.Decide(c.test)
		require.NoError(t, err)
		assert.Equal(t, "Impossible, because "+said, words.Change(*r.Change, c.test))
	}
}

func TestChangeSpeaksPlainly(t *testing.T) {
	items := itemsOf(3)
	items[0].Label = "Mill Wheel"
	test := scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "C. Vane", 1, 1, 1)}}
	r, err := scoring.MovementScale().Decide(test)
	require.NoError(t, err)
	assert.Equal(t, "1 step would make it a promotion: C. Vane, Mill Wheel: 1 → 2", words.Change(*r.Change, test))
}

// TestReasonsOneByOne: those a panel's marks seldom come to.
func TestReasonsOneByOne(t *testing.T) {
	for said, r := range map[string]scoring.Reason{
		"every counted item has the highest mark 4":                                          {Rule: scoring.RuleDouble, Holds: true, Threshold: "4"},
		"every counted item is at 3 or above":                                                {Rule: scoring.RuleHonours, Holds: true, Threshold: "3"},
		"2 of 3 complete sheets have honours":                                                {Rule: scoring.RuleHonours, Figure: "2", Of: 3},
		"1 of 1 complete sheets have double":                                                 {Rule: scoring.RuleDouble, Figure: "1", Of: 1},
		"5 of 7 counted items seen; at least 6 are needed":                                   {Rule: scoring.RuleMinimumSeen, Figure: "5", Of: 7, Threshold: "6"},
		"1 complete sheet of 3; at least 2 are needed":                                       {Rule: scoring.RuleQuorum, Figure: "1", Of: 3, Threshold: "2"},
		"a tie is a retest":                                                                  {Rule: scoring.RuleTie, Tie: scoring.TieRetest},
		"a tie goes to the committee":                                                        {Rule: scoring.RuleTie, Tie: scoring.TieCommittee, Absent: true},
		"a tie goes by the chief examiner's sheet, which passes":                             {Rule: scoring.RuleTie, Tie: scoring.TieChief, Holds: true},
		"a tie goes by the chief examiner's sheet, which fails":                              {Rule: scoring.RuleTie, Tie: scoring.TieChief},
		"a tie goes by the chief examiner, who has no complete sheet: the committee decides": {Rule: scoring.RuleTie, Tie: scoring.TieChief, Absent: true},
		"a fault that ends the test, confirmed by the chief examiner":                        {Rule: scoring.RuleEndingFault},
		"42 of 60 points seen, which is 49 of the full 70; the threshold is 49: exactly met": {Rule: scoring.RuleThreshold, Figure: "49", Threshold: "49", Margin: "0", Sums: &scoring.Sums{Points: scoring.Whole(42), Possible: scoring.Whole(60), Full: scoring.Whole(70)}},
	} {
		assert.Equal(t, said, words.Reason(r))
	}
	items := itemsOf(1)
	x := scoring.Test{Items: items, Sheets: []scoring.Sheet{sheet(t, "A", 1)}}
	assert.Equal(t, "At least 3 steps would be needed to make it a retest", words.Change(scoring.Change{Towards: scoring.OutcomeRetest, Steps: 3}, x))
	assert.Equal(t, "1 step would make it a promotion: A, i1: 1 → 2", words.Change(scoring.Change{Towards: scoring.OutcomePromote, Exact: true, Steps: 1, Moves: []scoring.Move{{From: scoring.Whole(1), To: scoring.Whole(2), Steps: 1}}}, x))
	assert.Equal(t, "impossible, because the sheets that could turn are too few", words.Never(scoring.Never{Up: true}))
	short := []scoring.Reason{{Rule: scoring.RuleNothingSeen}, {Rule: scoring.RuleNothingSeen, Examiner: "A"}}
	assert.Equal(t, "impossible, because even with every mark seen at its highest: no counted item was seen; A: no counted item was seen", words.Never(scoring.Never{Up: true, Short: short}))
}
