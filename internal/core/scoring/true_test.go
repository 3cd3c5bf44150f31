package scoring

import (
	"fmt"
	"math/big"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// plainly is a second, simple reckoning of one sheet, in fractions, item by item.
type plainly struct {
	points, possible, full *big.Rat
	seen, counted          int
	failing, must          []string // names of items
	asksMust               bool
	all                    func(least Decimal) bool // every counted item is seen at it or above
}

func reckon(p Policy, items []Item, s Sheet) (x plainly) {
	x.points, x.possible, x.full = new(big.Rat).Neg(s.Deductions.rat()), new(big.Rat), new(big.Rat)
	of := func(it Item, value Decimal) *big.Rat {
		return new(big.Rat).Mul(big.NewRat(int64(it.Weight), 1), value.rat())
	}
	for i, it := range items {
		m := s.Marks[i]
		if m.Seen {
			x.points.Add(x.points, of(it, m.Value))
		}
		if it.Bonus {
			continue
		}
		x.counted++
		x.full.Add(x.full, of(it, p.Scale.Highest))
		if it.MustPass && p.Scale.Failing != nil {
			x.asksMust = true
		}
		if !m.Seen {
			continue
		}
		x.seen++
		x.possible.Add(x.possible, of(it, p.Scale.Highest))
		if p.Scale.Failing != nil && m.Value <= *p.Scale.Failing {
			x.failing = append(x.failing, it.Name())
			if it.MustPass {
				x.must = append(x.must, it.Name())
			}
		}
	}
	if x.points.Sign() < 0 {
		x.points.SetInt64(0)
	}
	if x.points.Cmp(x.possible) > 0 {
		x.points.Set(x.possible)
	}
	x.all = func(least Decimal) bool {
		for i, it := range items {
			if !it.Bonus && (!s.Marks[i].Seen || s.Marks[i].Value < least) {
				return false
			}
		}
		return true
	}
	return x
}

// Words says a reason; set by the tests from outside, which know how.
var Words func(Reason) string

// shown is a ratio as a sentence has it: a decimal of at most eight characters, else cut after two places.
func shown(r *big.Rat) string {
	for places := range 10 {
		if text := r.FloatString(places); fraction(nil, text).Cmp(r) == 0 && len(text) <= 8 {
			return text
		}
	}
	text := r.FloatString(12)
	return text[:strings.Index(text, ".")+3] + "…"
}

func fraction(t require.TestingT, s string) *big.Rat {
	if s == "" {
		return new(big.Rat)
	}
	r, ok := new(big.Rat).SetString(s)
	if t != nil {
		require.True(t, ok, s)
	}
	return r
}

// thousands draws that often.
func thousands(t *testing.T, law func(*rapid.T)) {
	for range 30 {
		rapid.Check(t, law)
	}
}

// TestLawEveryReasonOfASheetIsTrue: of thousands of sheets every rule that is on is explained once, with the
// figure, threshold and margin that a second reckoning gives, and a sentence that says the same; and what
// is not so is not said.
func TestLawEveryReasonOfASheetIsTrue(t *testing.T) {
	said := map[string]int{}
	thousands(t, func(rt *rapid.T) {
		p, x := draw(rt, shape{items: 6, sheets: 1, steps: 4, rules: allRules, unseen: true, deductions: true})
		s := x.Sheets[0]
		got := p.Tally(x.Items, s)
		is := reckon(p, x.Items, s)
		want := map[Rule]bool{}
		complete := is.possible.Sign() > 0 && big.NewRat(int64(is.seen), int64(max(is.counted, 1))).Cmp(p.Rules.MinimumSeen.rat()) >= 0
		sections := map[string]*big.Rat{}
		for _, m := range p.Rules.SectionMinima {
			have, of := new(big.Rat), new(big.Rat)
			for i, it := range x.Items {
				if it.Section == m.Section && !it.Bonus && s.Marks[i].Seen {
					have.Add(have, big.NewRat(int64(it.Weight)*int64(s.Marks[i].Value), 1))
					of.Add(of, big.NewRat(int64(it.Weight)*int64(p.Scale.Highest), 1))
				}
			}
			if of.Sign() == 0 {
				complete = false
			} else {
				sections[m.Section] = have.Quo(have, of)
			}
		}
		passes := true
		for _, r := range got.Reasons {
			said[string(r.Rule)+fmt.Sprint(r.Holds)]++
			require.False(rt, want[r.Rule], "%s stands once", r.Rule)
			want[r.Rule] = true
			passes = passes && r.Holds
			if r.Threshold != "" && r.Figure != "" && r.Rule != "failing_items" && r.Rule != "must_pass" {
				margin := new(big.Rat).Sub(fraction(rt, r.Figure), fraction(rt, r.Threshold))
				require.Zero(rt, margin.Cmp(fraction(rt, r.Margin)), "%+v", r)
				require.Equal(rt, complete && margin.Sign() >= 0, r.Holds, "%+v", r)
			}
			switch r.Rule {
			case "threshold":
				figure := new(big.Rat).Quo(new(big.Rat).Mul(is.points, is.full), is.possible)
				require.Zero(rt, figure.Cmp(fraction(rt, r.Figure)))
				require.Equal(rt, p.Rules.Threshold.String(), r.Threshold)
				margin := new(big.Rat).Sub(figure, p.Rules.Threshold.rat())
				how := map[int]string{0: "exactly met", 1: shown(margin) + " clear", -1: shown(new(big.Rat).Neg(margin)) + " short"}[margin.Sign()]
				begin := fmt.Sprintf("%s of %s points", shown(figure), shown(is.full))
				if is.possible.Cmp(is.full) != 0 {
					begin = fmt.Sprintf("%s of %s points seen, which is %s of the full %s", shown(is.points), shown(is.possible), shown(figure), shown(is.full))
				}
				require.Equal(rt, fmt.Sprintf("%s; the threshold is %s: %s", begin, p.Rules.Threshold, how), Words(r))
			case "section_minimum":
				figure := sections[r.Section]
				require.Zero(rt, figure.Cmp(fraction(rt, r.Figure)))
				hundred := new(big.Rat).Mul(figure, big.NewRat(100, 1))
				asked := new(big.Rat).Mul(p.Rules.SectionMinima[0].Ratio.rat(), big.NewRat(100, 1))
				require.Equal(rt, fmt.Sprintf("%s: %s %% of what was possible; at least %s %% is asked", r.Section, shown(hundred), shown(asked)), Words(r))
			case "failing_items":
				require.Equal(rt, []string{fmt.Sprint(len(is.failing)), fmt.Sprint(*p.Rules.AllowedFailing), fmt.Sprint(*p.Rules.AllowedFailing - len(is.failing))}, []string{r.Figure, r.Threshold, r.Margin})
				require.Equal(rt, len(is.failing) <= *p.Rules.AllowedFailing, r.Holds)
				words := map[int]string{0: "no failing item", 1: "1 failing item"}[min(len(is.failing), 2)]
				if words == "" {
					words = fmt.Sprintf("%d failing items", len(is.failing))
				}
				words += fmt.Sprintf("; up to %d allowed", *p.Rules.AllowedFailing)
				if len(is.failing) > 0 {
					words += ": " + strings.Join(is.failing, ", ")
				}
				require.Equal(rt, words, Words(r))
				require.Equal(rt, len(is.failing), len(r.Items))
			case "must_pass":
				require.Equal(rt, len(is.must) == 0, r.Holds)
				require.Equal(rt, []string{fmt.Sprint(len(is.must)), "0", fmt.Sprint(-len(is.must))}, []string{r.Figure, r.Threshold, r.Margin})
				if r.Holds {
					require.Equal(rt, "no must-pass item is failing", Words(r))
				} else {
					require.Equal(rt, "must pass, and failing: "+strings.Join(is.must, ", "), Words(r))
				}
			case "no_rule":
				require.Equal(rt, "no rule is switched on: a complete sheet passes", Words(r))
			case "double":
				require.Equal(rt, "every counted item has the highest mark "+p.Scale.Highest.String(), Words(r))
				require.Equal(rt, []string{p.Scale.Highest.String(), p.Scale.Highest.String(), "0"}, []string{r.Figure, r.Threshold, r.Margin})
			case "honours":
				require.Equal(rt, fmt.Sprintf("every counted item is at %s or above", *p.Scale.Honours), Words(r))
			case "nothing_seen":
				require.Equal(rt, "no counted item was seen", Words(r))
			case "minimum_seen":
				require.Equal(rt, fmt.Sprint(is.seen), r.Figure)
				require.Equal(rt, fmt.Sprintf("%d of %d counted items seen; at least %s are needed", is.seen, is.counted, r.Threshold), Words(r))
				need := fraction(rt, r.Threshold)
				share := new(big.Rat).Mul(p.Rules.MinimumSeen.rat(), big.NewRat(int64(is.counted), 1))
				require.True(rt, need.Cmp(share) >= 0 && new(big.Rat).Sub(need, big.NewRat(1, 1)).Cmp(share) < 0, "the least whole number")
			case "section_unseen":
				require.Equal(rt, r.Section+" has a minimum, and no counted item of it was seen", Words(r))
			default:
				rt.Fatalf("a reason nobody reckons: %+v", r)
			}
		}
		require.Equal(rt, complete, got.Complete())
		if !complete {
			require.Equal(rt, is.possible.Sign() == 0, want["nothing_seen"])
			return
		}
		require.Equal(rt, passes, got.Verdict.Passes(), "every reason holds, and it passes")
		top, honours := p.Scale.Double && is.all(p.Scale.Highest), p.Scale.Honours != nil && is.all(*p.Scale.Honours)
		expect := map[Rule]bool{
			"threshold": p.Rules.Threshold != nil, "section_minimum": len(p.Rules.SectionMinima) > 0, "failing_items": p.Rules.AllowedFailing != nil, "must_pass": is.asksMust,
			"double": passes && top, "honours": passes && honours && !top,
		}
		expect["no_rule"] = !expect["threshold"] && !expect["section_minimum"] && !expect["failing_items"] && !expect["must_pass"]
		for rule, is := range expect {
			require.Equal(rt, is, want[rule], "%s is said: %v", rule, got.Reasons)
		}
	})
	for _, rule := range []string{"threshold", "section_minimum", "failing_items", "must_pass"} {
		assert.NotZero(t, said[rule+"true"], rule)
		assert.NotZero(t, said[rule+"false"], rule)
	}
}

// TestLawEveryReasonOfAPanelIsTrue: votes, quorum, ties, what nobody saw and honours are counted again from
// the sheets' verdicts, and the sentences say those counts.
func TestLawEveryReasonOfAPanelIsTrue(t *testing.T) {
	thousands(t, func(rt *rapid.T) {
		p, x := draw(rt, shape{items: 4, sheets: 5, steps: 3, rules: []PanelRule{Majority}, unseen: true, deductions: true})
		got, err := p.Decide(x)
		if err != nil {
			rt.Skip("no such policy")
		}
		complete, pass, honours, double := 0, 0, 0, 0
		for _, s := range x.Sheets {
			switch v := p.Tally(x.Items, s).Verdict; {
			case v == VerdictIncomplete:
				continue
			case v == VerdictDouble:
				double, pass = double+1, pass+1
			case v == VerdictHonours:
				honours, pass = honours+1, pass+1
			case v == VerdictPass:
				pass++
			}
			complete++
		}
		var unseen []string
		for k, it := range x.Items {
			if !it.Bonus && !slices.ContainsFunc(x.Sheets, func(s Sheet) bool { return s.Marks[k].Seen }) {
				unseen = append(unseen, it.Name())
			}
		}
		need := len(x.Sheets)/2 + 1
		text := map[string]string{}
		for _, r := range got.Reasons {
			if r.Rule == "majority" || r.Rule == "quorum" || r.Rule == "tie" || r.Rule == "unseen_item" || r.Examiner == "" && (r.Rule == "double" || r.Rule == "honours") {
				text[string(r.Rule)] = Words(r)
				if margin := new(big.Rat).Sub(fraction(rt, r.Figure), fraction(rt, r.Threshold)); r.Rule == "unseen_item" { // at most none
					require.Zero(rt, margin.Neg(margin).Cmp(fraction(rt, r.Margin)), "%+v", r)
				} else if r.Rule != "tie" {
					require.Zero(rt, margin.Cmp(fraction(rt, r.Margin)), "%+v", r)
				}
				asked := map[Rule]int{RuleUnseen: 0, RuleQuorum: len(x.Sheets)/2 + 1, RuleMajority: complete/2 + 1, RuleHonours: complete/2 + 1, RuleDouble: complete/2 + 1}
				if n, counts := asked[r.Rule]; counts {
					require.Equal(rt, fmt.Sprint(n), r.Threshold, "%+v", r)
				}
			}
		}
		want := map[string]string{}
		if len(unseen) > 0 {
			want["unseen_item"] = "seen by nobody, to be called again: " + strings.Join(unseen, ", ")
		}
		if complete < need {
			sheets := map[int]string{0: "no complete sheet", 1: "1 complete sheet"}[min(complete, 2)]
			if sheets == "" {
				sheets = fmt.Sprintf("%d complete sheets", complete)
			}
			want["quorum"] = fmt.Sprintf("%s of %d; at least %d are needed", sheets, len(x.Sheets), need)
		}
		if len(want) == 0 {
			want["majority"] = fmt.Sprintf("%d of %d complete sheets pass; more than half is %d", pass, complete, complete/2+1)
			if 2*pass == complete {
				require.NotEmpty(rt, text["tie"])
				want["tie"] = text["tie"]
			}
			switch {
			case !got.Outcome.Promotes() && got.Outcome != OutcomeDouble:
			case 2*double > complete:
				want["double"] = fmt.Sprintf("%d of %d complete sheets have double", double, complete)
			case 2*(honours+double) > complete:
				want["honours"] = fmt.Sprintf("%d of %d complete sheets have honours", honours+double, complete)
			}
		}
		require.Equal(rt, want, text)
	})
}
