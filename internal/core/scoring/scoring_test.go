package scoring

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func d(t testing.TB, s string) Decimal {
	t.Helper()
	v, err := ParseDecimal(s)
	require.NoError(t, err)
	return v
}

func TestDecimal(t *testing.T) {
	for in, want := range map[string]string{
		"9000000000": "9000000000", "-9000000000": "-9000000000", "1e-9": "0.000000001", "1e0002": "100", "0." + strings.Repeat("0", 58): "0",
		"49": "49", "48.5": "48.5", "-0.25": "-0.25", "4.85e1": "48.5", "1.000000001": "1.000000001", " 7 ": "7", "1.10": "1.1", "0.0": "0", "-0": "0",
	} {
		assert.Equal(t, want, d(t, in).String(), in)
	}
	for _, in := range []string{"9000000000.000000001", "-9000000000.000000001", "1e00002", "0." + strings.Repeat("0", 59), "", "x", "1.0000000001", "9999999999999", "1e999999999", "NaN", "Inf", "0x10", "1/3", "1_000", "--1"} {
		_, err := ParseDecimal(in)
		assert.ErrorIs(t, err, ErrDecimal, in)
	}
}

// TestALongNumberIsCut where it is told.
func TestALongNumberIsCut(t *testing.T) {
	_, err := ParseDecimal(strings.Repeat("é", 40))
	assert.ErrorContains(t, err, `"`+strings.Repeat("é", 40)+`"`)
	_, err = ParseDecimal(strings.Repeat("é", 41))
	assert.ErrorContains(t, err, `"`+strings.Repeat("é", 40)+`…"`)
}

// TestVotes: of those who marked everything, who passes; a sheet that is not complete has no vote.
func TestVotes(t *testing.T) {
	p := MovementScale()
	p.Rules.AllowedFailing = ptr(0)
	r, err := p.Decide(Test{Items: itemsOf(2), Sheets: []Sheet{sheet(t, "A", 2, 3), sheet(t, "B", 1, 3), sheet(t, "C", 4, 4), sheet(t, "D", "-", "-")}})
	require.NoError(t, err)
	pass, complete := r.Votes()
	assert.Equal(t, []int{2, 3}, []int{pass, complete})
}

// marks turns rows such as "3 2 - 4" into a sheet per row; "-" is not seen.
func sheet(t testing.TB, who string, marks ...any) Sheet {
	s := Sheet{Examiner: who}
	for _, m := range marks {
		switch m := m.(type) {
		case int:
			s.Marks = append(s.Marks, Seen(Whole(m)))
		case string:
			if m == "-" {
				s.Marks = append(s.Marks, Mark{})
			} else {
				s.Marks = append(s.Marks, Seen(d(t, m)))
			}
		}
	}
	return s
}

func itemsOf(n int) (items []Item) {
	for i := range n {
		items = append(items, Item{ID: fmt.Sprintf("i%d", i+1), Weight: 1, Section: "all"})
	}
	return items
}

func TestPanelCases(t *testing.T) {
	seven := itemsOf(7)
	points := CategoryPoints(Whole(49))
	at := func(who string) Sheet { return sheet(t, who, 7, 7, 7, 7, 7, 7, 7) }
	under := func(who string) Sheet { return sheet(t, who, 7, 7, 7, 7, 7, 7, "6.5") }
	half := func(who string) Sheet { return sheet(t, who, 7, 7, 7, "-", "-", "-", "-") }
	lines := itemsOf(4)
	must := itemsOf(4)
	must[1].MustPass = true
	bonus := itemsOf(4)
	bonus[3].Bonus = true
	movement := MovementScale()
	with := func(p Policy, change func(*Policy)) Policy { change(&p); return p }
	sectioned := itemsOf(4)
	sectioned[0].Section, sectioned[1].Section = "kicks", "kicks"

	for _, c := range []struct {
		name    string
		policy  Policy
		test    Test
		outcome Outcome
		rule    string // of the first reason
		steps   int    // of the smallest change; -1: none is asked, -2: impossible
	}{
		{"one examiner exactly at the threshold", points, Test{Items: seven, Sheets: []Sheet{at("C")}}, OutcomePromote, "majority", 1},
		{"half a point under", points, Test{Items: seven, Sheets: []Sheet{under("C")}}, OutcomeRetest, "majority", 1},
		{"2 to 1", points, Test{Items: seven, Sheets: []Sheet{at("C"), under("D"), at("M")}}, OutcomePromote, "majority", 1},
		{"3 to 2 against", points, Test{Items: seven, Sheets: []Sheet{at("A"), under("B"), under("C"), at("D"), under("E")}}, OutcomeRetest, "majority", 1},
		{"an item nobody saw", movement, Test{Items: lines, Sheets: []Sheet{sheet(t, "A", 3, 3, 3, "-"), sheet(t, "B", 3, 3, 3, "-")}}, OutcomeIncomplete, "unseen_item", -1},
		{"seen on an incomplete sheet is seen", movement, Test{Items: lines, Sheets: []Sheet{
			sheet(t, "A", 3, 3, 3, "-"), sheet(t, "B", 3, 3, 3, "-"), sheet(t, "C", "-", "-", "-", 3)}}, OutcomePromote, "majority", 12},
		{"too few complete sheets", points, Test{Items: seven, Sheets: []Sheet{at("A"), half("B"), half("C")}}, OutcomeIncomplete, "quorum", -1},
		{"must-pass failed by two of three", movement, Test{Items: must, Sheets: []Sheet{
			sheet(t, "A", 3, 1, 3, 3), sheet(t, "B", 3, 0, 3, 3), sheet(t, "C", 3, 3, 3, 3)}}, OutcomeRetest, "majority", 1},
		{"two failing lines are allowed", movement, Test{Items: lines, Sheets: []Sheet{sheet(t, "A", 1, 1, 3, 3)}}, OutcomePromote, "majority", 2},
		{"three are not", movement, Test{Items: lines, Sheets: []Sheet{sheet(t, "A", 1, 1, 0, 3)}}, OutcomeRetest, "majority", 1},
		{"honours", movement, Test{Items: lines, Sheets: []Sheet{sheet(t, "A", 3, 4, 3, 3)}}, OutcomeHonours, "majority", 6},
		{"a bonus item fails nobody and is not in honours", movement, Test{Items: bonus, Sheets: []Sheet{sheet(t, "A", 3, 3, 3, 0)}}, OutcomeHonours, "majority", 6},
		{"double", with(movement, func(p *Policy) { p.Scale.Double = true }), Test{Items: lines, Sheets: []Sheet{sheet(t, "A", 4, 4, 4, 4)}}, OutcomeDouble, "majority", 9},
		{"double where the scheme has none", movement, Test{Items: lines, Sheets: []Sheet{sheet(t, "A", 4, 4, 4, 4)}}, OutcomeHonours, "majority", 9},
		{"one double and one honours of three is honours", with(movement, func(p *Policy) { p.Scale.Double = true }), Test{Items: lines, Sheets: []Sheet{
			sheet(t, "A", 4, 4, 4, 4), sheet(t, "B", 3, 3, 3, 3), sheet(t, "C", 2, 2, 2, 2)}}, OutcomeHonours, "majority", 9},
		{"tie by the chief who passes", points, Test{Items: seven, Sheets: []Sheet{at("A"), under("B")}, Chief: "A"}, OutcomePromote, "majority", 1},
		{"tie by the chief who fails", points, Test{Items: seven, Sheets: []Sheet{at("A"), under("B")}, Chief: "B"}, OutcomeRetest, "majority", 1},
		{"tie without a chief", points, Test{Items: seven, Sheets: []Sheet{at("A"), under("B")}}, OutcomeCommittee, "majority", -1},
		{"tie with an absent chief", with(points, func(p *Policy) { p.Quorum = 2 }), Test{Items: seven, Chief: "C",
			Sheets: []Sheet{at("A"), under("B"), sheet(t, "C", "-", "-", "-", "-", "-", "-", "-")}}, OutcomeCommittee, "majority", -1},
		{"tie is a retest by policy", with(points, func(p *Policy) { p.Tie = TieRetest }), Test{Items: seven, Sheets: []Sheet{at("A"), under("B")}, Chief: "A"}, OutcomeRetest, "majority", 1},
		{"mean of 49 and 48.5", with(points, func(p *Policy) { p.Panel = Mean }), Test{Items: seven, Sheets: []Sheet{at("A"), under("B")}}, OutcomeRetest, "threshold", 1},
		{"median of an even number", with(points, func(p *Policy) { p.Panel = Median }), Test{Items: seven, Sheets: []Sheet{
			at("A"), under("B"), sheet(t, "C", 8, 8, 8, 8, 8, 8, 8), sheet(t, "D", 1, 1, 1, 1, 1, 1, 1)}}, OutcomeRetest, "threshold", 1},
		{"trimmed mean of five drops both ends", with(points, func(p *Policy) { p.Panel = TrimmedMean }), Test{Items: seven, Sheets: []Sheet{
			at("A"), at("B"), at("C"), sheet(t, "D", 10, 10, 10, 10, 10, 10, 10), sheet(t, "E", 0, 0, 0, 0, 0, 0, 0)}}, OutcomePromote, "threshold", 1},
		{"trimmed mean of four is the plain mean", with(points, func(p *Policy) { p.Panel = TrimmedMean }), Test{Items: seven, Sheets: []Sheet{
			at("A"), at("B"), at("C"), sheet(t, "E", 0, 0, 0, 0, 0, 0, 0)}}, OutcomeRetest, "threshold", 98},
		{"an ending fault", points, Test{Items: seven, Sheets: []Sheet{half("A")}, EndingFault: true}, OutcomeRetest, "ending_fault", -2},
		{"a section minimum missed", with(movement, func(p *Policy) { p.Rules.SectionMinima = []SectionMinimum{{"kicks", Whole(1) / 2}} }),
			Test{Items: sectioned, Sheets: []Sheet{sheet(t, "A", 2, 1, 4, 4)}}, OutcomeRetest, "majority", 1},
		{"a section minimum with nothing seen", with(movement, func(p *Policy) {
			p.Rules.SectionMinima, p.Rules.MinimumSeen = []SectionMinimum{{"kicks", Whole(1) / 2}}, ptr(Whole(0))
		}), Test{Items: sectioned, Sheets: []Sheet{sheet(t, "A", "-", "-", 4, 4), sheet(t, "B", 4, 4, 4, 4), sheet(t, "C", 4, 4, 4, 4)}}, OutcomeHonours, "majority", -3},
		{"a threshold out of reach", CategoryPoints(Whole(71)), Test{Items: seven, Sheets: []Sheet{at("A")}}, OutcomeRetest, "majority", -2},
		{"no rule to miss", with(points, func(p *Policy) { p.Rules.Threshold = nil }), Test{Items: seven, Sheets: []Sheet{at("A")}}, OutcomePromote, "majority", -2},
		{"deductions count after the sum", points, Test{Items: seven, Sheets: []Sheet{{Examiner: "A", Marks: at("A").Marks, Deductions: Whole(1) / 2}}}, OutcomeRetest, "majority", 1},
	} {
		t.Run(c.name, func(t *testing.T) {
			r, err := c.policy.Decide(c.test)
			require.NoError(t, err)
			assert.Equal(t, c.outcome, r.Outcome, "%+v", r.Reasons)
			require.NotEmpty(t, r.Reasons)
			assert.Equal(t, Rule(c.rule), r.Reasons[0].Rule)
			switch c.steps {
			case -1:
				assert.Nil(t, r.Change)
			case -2:
				require.NotNil(t, r.Change)
				assert.NotNil(t, r.Change.Impossible)
			case -3:
			default:
				require.NotNil(t, r.Change)
				assert.Nil(t, r.Change.Impossible)
				assert.Equal(t, c.steps, r.Change.Steps, "%+v", r.Change)
			}
		})
	}
}

func TestUnseenItemsCountAsARatio(t *testing.T) {
	r, err := CategoryPoints(Whole(49)).Decide(Test{Items: itemsOf(7), Sheets: []Sheet{
		sheet(t, "A", 7, 7, "-", 7, 7, 7, 7), sheet(t, "B", 7, 7, 7, 7, 7, 7, "6.5"), sheet(t, "C", 0, 0, 0, 0, 0, "-", "-")}})
	require.NoError(t, err)
	assert.Equal(t, "42", r.Tallies[0].Points.String())
	assert.Equal(t, "60", r.Tallies[0].Possible.String())
	assert.Equal(t, "70", r.Tallies[0].Full.String())
	assert.Equal(t, VerdictPass, r.Tallies[0].Verdict)
	assert.Equal(t, &Sums{Points: Whole(42), Possible: Whole(60), Full: Whole(70)}, r.Tallies[0].Reasons[0].Sums)
	assert.Equal(t, VerdictFail, r.Tallies[1].Verdict)
	assert.Equal(t, VerdictIncomplete, r.Tallies[2].Verdict)
	assert.Equal(t, Reason{Rule: RuleMinimumSeen, Examiner: "C", Figure: "5", Threshold: "6", Margin: "-1", Of: 7}, r.Tallies[2].Reasons[0])
}

func TestPointsAreKeptWithinWhatWasPossible(t *testing.T) {
	items := itemsOf(2)
	items[1].Bonus = true
	p := CategoryPoints(Whole(10))
	over := p.Tally(items, sheet(t, "A", 10, 10))
	assert.Equal(t, "10", over.Points.String())
	under := p.Tally(items, Sheet{Examiner: "A", Marks: sheet(t, "A", 1, 0).Marks, Deductions: Whole(5)})
	assert.Equal(t, "0", under.Points.String())
}

func TestChecksNameThePlace(t *testing.T) {
	good := func() (Policy, Test) {
		return MovementScale(), Test{Items: itemsOf(2), Sheets: []Sheet{sheet(t, "A", 2, 3)}}
	}
	for path, spoil := range map[string]func(*Policy, *Test){
		"scale.lowest":                    func(p *Policy, _ *Test) { p.Scale.Lowest = -1 },
		"scale.highest":                   func(p *Policy, _ *Test) { p.Scale.Highest = 0 },
		"scale.step":                      func(p *Policy, _ *Test) { p.Scale.Step = Whole(3) },
		"scale.failing":                   func(p *Policy, _ *Test) { p.Scale.Failing = ptr(Whole(4)) },
		"scale.honours":                   func(p *Policy, _ *Test) { p.Scale.Honours = ptr(Whole(5)) },
		"scale.labels[1].mark":            func(p *Policy, _ *Test) { p.Scale.Labels[1].Mark = 0 },
		"rules.threshold":                 func(p *Policy, _ *Test) { p.Rules.Threshold = ptr(Decimal(-1)) },
		"rules.allowed_failing":           func(p *Policy, _ *Test) { p.Rules.AllowedFailing = ptr(-1) },
		"rules.minimum_seen":              func(p *Policy, _ *Test) { p.Rules.MinimumSeen = ptr(Whole(2)) },
		"rules.section_minima[0].ratio":   func(p *Policy, _ *Test) { p.Rules.SectionMinima = []SectionMinimum{{"all", Whole(2)}} },
		"panel.rule":                      func(p *Policy, _ *Test) { p.Panel = "dice" },
		"panel.tie":                       func(p *Policy, _ *Test) { p.Tie = "coin" },
		"panel.quorum":                    func(p *Policy, _ *Test) { p.Quorum = -1 },
		"items":                           func(_ *Policy, x *Test) { x.Items = nil },
		"items[1].id":                     func(_ *Policy, x *Test) { x.Items[1].ID = "i1" },
		"items[0].weight":                 func(_ *Policy, x *Test) { x.Items[0].Weight = 0 },
		"panel.examiners":                 func(_ *Policy, x *Test) { x.Sheets = nil },
		"panel.examiners[1]":              func(_ *Policy, x *Test) { x.Sheets = append(x.Sheets, x.Sheets[0]) },
		"sheets.A.marks":                  func(_ *Policy, x *Test) { x.Sheets[0].Marks = x.Sheets[0].Marks[:1] },
		"sheets.A.marks.i1":               func(_ *Policy, x *Test) { x.Sheets[0].Marks[0].Value = Whole(5) },
		"sheets.A.deductions":             func(_ *Policy, x *Test) { x.Sheets[0].Deductions = -1 },
		"panel.chief":                     func(_ *Policy, x *Test) { x.Chief = "Z" },
		"rules.section_minima[0].section": func(p *Policy, _ *Test) { p.Rules.SectionMinima = []SectionMinimum{{"none", 0}} },
	} {
		p, x := good()
		spoil(&p, &x)
		_, err := p.Decide(x)
		var f *FieldError
		if assert.ErrorAs(t, err, &f, path) {
			assert.Equal(t, path, f.Path)
			assert.True(t, errors.Is(err, ErrScheme))
		}
	}
}

// TestSchemesAsTheyBegin: the three schemes to begin with, each figure of them.
func TestSchemesAsTheyBegin(t *testing.T) {
	label := func(words ...string) (out []Label) {
		for i, w := range words {
			out = append(out, Label{Whole(i), w})
		}
		return out
	}
	assert.Equal(t, Policy{Scale: Scale{Highest: Whole(4), Step: Whole(1), Failing: ptr(Whole(1)), Honours: ptr(Whole(3)), Labels: label("not known", "not right yet", "sound", "strong", "outstanding")},
		Rules: Rules{AllowedFailing: ptr(2)}, Panel: Majority, Tie: TieChief}, MovementScale())
	assert.Equal(t, Policy{Scale: Scale{Highest: Whole(10), Step: Whole(1) / 2, Honours: ptr(Whole(9))}, Rules: Rules{Threshold: ptr(Whole(49))}, Panel: Majority, Tie: TieChief}, CategoryPoints(Whole(49)))
	assert.Equal(t, Policy{Scale: Scale{Highest: Whole(1), Step: Whole(1), Failing: ptr(Whole(0)), Labels: label("not yet", "shown")}, Rules: Rules{AllowedFailing: ptr(0)}, Panel: Majority, Tie: TieChief}, SignOff())
}

// TestEndsOfRanges: each figure of a scheme and a test at the end of its range, and one beyond.
func TestEndsOfRanges(t *testing.T) {
	most := Whole(MaxItems * MaxMark * MaxWeight)
	for path, set := range map[string]struct {
		within, beyond []func(*Policy, *Test)
	}{
		"rules.threshold":       {within: thresholds(0, most), beyond: thresholds(-1, most+1)},
		"rules.minimum_seen":    {within: seenLeast(0, Whole(1)), beyond: seenLeast(-1, Whole(1)+1)},
		"rules.allowed_failing": {within: []func(*Policy, *Test){func(p *Policy, _ *Test) { p.Rules.AllowedFailing = ptr(0) }}, beyond: []func(*Policy, *Test){func(p *Policy, _ *Test) { p.Rules.AllowedFailing = ptr(-1) }}},
		"panel.quorum":          {within: quorums(0, MaxExaminers), beyond: quorums(-1, MaxExaminers+1)},
		"items[0].weight":       {within: weights(1, MaxWeight), beyond: weights(0, MaxWeight+1)},
		"scale.highest":         {within: highest(1, MaxMark), beyond: highest(0, MaxMark+1)},
		"scale.step":            {within: stepped(Whole(1)/2, Whole(2), Whole(4)), beyond: stepped(0, -1, Whole(3), Whole(4)+1)},
		"scale.failing":         {within: failing(0, Whole(3)), beyond: failing(-Whole(1), Whole(4), Whole(1)/2)},
		"scale.honours":         {within: honours(0, Whole(4)), beyond: honours(-Whole(1), Whole(5), Whole(1)/2)},
	} {
		for i, change := range append(append([]func(*Policy, *Test){}, set.within...), set.beyond...) {
			p, x := MovementScale(), Test{Items: itemsOf(2), Sheets: []Sheet{sheet(t, "A", 2, 3)}}
			change(&p, &x)
			_, err := p.Decide(x)
			var f *FieldError
			if within := i < len(set.within); within {
				assert.NoError(t, err, "%s %d", path, i)
			} else if assert.ErrorAs(t, err, &f, "%s %d", path, i) {
				assert.Equal(t, path, f.Path)
			}
		}
	}
}

func changes[T any](change func(*Policy, *Test, T), values ...T) (out []func(*Policy, *Test)) {
	for _, v := range values {
		out = append(out, func(p *Policy, x *Test) { change(p, x, v) })
	}
	return out
}

func thresholds(all ...Decimal) []func(*Policy, *Test) {
	return changes(func(p *Policy, _ *Test, v Decimal) { p.Rules.Threshold = &v }, all...)
}

func seenLeast(all ...Decimal) []func(*Policy, *Test) {
	return changes(func(p *Policy, _ *Test, v Decimal) { p.Rules.MinimumSeen = &v }, all...)
}

func quorums(all ...int) []func(*Policy, *Test) {
	return changes(func(p *Policy, _ *Test, v int) { p.Quorum = v }, all...)
}

func weights(all ...int) []func(*Policy, *Test) {
	return changes(func(_ *Policy, x *Test, v int) { x.Items[0].Weight = v }, all...)
}

// highest are scales without the figures that would lie above them.
func highest(all ...int) []func(*Policy, *Test) {
	return changes(func(p *Policy, x *Test, v int) {
		p.Scale.Highest, p.Scale.Failing, p.Scale.Honours, p.Scale.Labels = Whole(v), nil, nil, nil
		for i := range x.Sheets[0].Marks {
			x.Sheets[0].Marks[i].Value = 0
		}
	}, all...)
}

func stepped(all ...Decimal) []func(*Policy, *Test) {
	return changes(func(p *Policy, x *Test, v Decimal) {
		p.Scale.Step, p.Scale.Failing, p.Scale.Honours, p.Scale.Labels = v, nil, nil, nil
		for i := range x.Sheets[0].Marks {
			x.Sheets[0].Marks[i].Value = 0
		}
	}, all...)
}

func failing(all ...Decimal) []func(*Policy, *Test) {
	return changes(func(p *Policy, _ *Test, v Decimal) { p.Scale.Failing = &v }, all...)
}

func honours(all ...Decimal) []func(*Policy, *Test) {
	return changes(func(p *Policy, _ *Test, v Decimal) { p.Scale.Honours = &v }, all...)
}
