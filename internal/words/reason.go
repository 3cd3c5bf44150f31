package words

import (
	"fmt"
	"math/big"
	"strconv"
	"strings"

	"velvetladder/internal/core/scoring"
)

// Reason says one rule: what was found, what was asked, and by how much it is kept or missed.
func Reason(r scoring.Reason) string {
	switch r.Rule {
	case scoring.RuleThreshold:
		return fmt.Sprintf("%s; the threshold is %s: %s", points(r), r.Threshold, Distance(r.Margin))
	case scoring.RuleSection:
		return fmt.Sprintf("%s: %s %% of what was possible; at least %s %% is asked", r.Section, percent(r.Figure), percent(r.Threshold))
	case scoring.RuleFailing:
		return fmt.Sprintf("%s; up to %s allowed", No(whole(r.Figure), "failing item"), r.Threshold) + listed(": ", r.Names)
	case scoring.RuleMustPass:
		if r.Holds {
			return "no must-pass item is failing"
		}
		return "must pass, and failing" + listed(": ", r.Names)
	case scoring.RuleNone:
		return "no rule is switched on: a complete sheet passes"
	case scoring.RuleHonours, scoring.RuleDouble:
		return high(r)
	case scoring.RuleNothingSeen:
		return "no counted item was seen"
	case scoring.RuleMinimumSeen:
		return fmt.Sprintf("%s of %d counted items seen; at least %s are needed", r.Figure, r.Of, r.Threshold)
	case scoring.RuleSectionUnseen:
		return r.Section + " has a minimum, and no counted item of it was seen"
	case scoring.RuleUnseen:
		return "seen by nobody, to be called again" + listed(": ", r.Names)
	case scoring.RuleQuorum:
		return fmt.Sprintf("%s of %d; at least %s are needed", No(whole(r.Figure), "complete sheet"), r.Of, r.Threshold)
	case scoring.RuleMajority:
		return fmt.Sprintf("%s of %d complete sheets pass; more than half is %s", r.Figure, r.Of, r.Threshold)
	case scoring.RuleTie:
		return tie(r)
	case scoring.RuleEndingFault:
		return "a fault that ends the test, confirmed by the chief examiner"
	}
	return string(r.Rule)
}

// points is the figure of a threshold. A single sheet with everything seen has no share to convert: its
// points are the figure.
func points(r scoring.Reason) string {
	figure, full := plain(ratio(r.Figure)), r.Sums.Full
	switch {
	case r.Sums.By != "":
		return fmt.Sprintf("%s %s of %s points", strings.ReplaceAll(string(r.Sums.By), "_", " "), figure, full)
	case r.Sums.Possible != full:
		return fmt.Sprintf("%s of %s points seen, which is %s of the full %s", r.Sums.Points, r.Sums.Possible, figure, full)
	}
	return fmt.Sprintf("%s of %s points", figure, full)
}

// high is why a sheet or a panel has honours or double.
func high(r scoring.Reason) string {
	switch {
	case r.Of > 0:
		return fmt.Sprintf("%s of %d complete sheets have %s", r.Figure, r.Of, r.Rule)
	case r.Rule == scoring.RuleDouble:
		return "every counted item has the highest mark " + r.Threshold
	}
	return fmt.Sprintf("every counted item is at %s or above", r.Threshold)
}

func tie(r scoring.Reason) string {
	switch {
	case r.Tie == scoring.TieRetest:
		return "a tie is a retest"
	case r.Tie == scoring.TieCommittee:
		return "a tie goes to the committee"
	case r.Absent:
		return "a tie goes by the chief examiner, who has no complete sheet: the committee decides"
	case r.Holds:
		return "a tie goes by the chief examiner's sheet, which passes"
	}
	return "a tie goes by the chief examiner's sheet, which fails"
}

// Change says the smallest change that would turn a result, with the names of examiners and items.
func Change(c scoring.Change, t scoring.Test) string {
	to := "a retest"
	if c.Towards == scoring.OutcomePromote {
		to = "a promotion"
	}
	switch {
	case c.Impossible != nil:
		return upper(Never(*c.Impossible))
	case !c.Exact:
		return fmt.Sprintf("At least %s would be needed to make it %s", Count(c.Steps, "step"), to)
	}
	var parts []string
	for _, m := range c.Moves {
		parts = append(parts, fmt.Sprintf("%s, %s: %s → %s", t.Sheets[m.Sheet].Examiner, t.Items[m.Item].Name(), m.From, m.To))
	}
	return fmt.Sprintf("%s would make it %s: %s", Count(c.Steps, "step"), to, strings.Join(parts, "; "))
}

// Never says why no marks could turn a result.
func Never(n scoring.Never) string {
	switch {
	case n.EndingFault:
		return "impossible, because an ending fault is confirmed: no marks could turn it"
	case !n.Up:
		return "impossible, because even with every mark seen at its lowest the rules that are on would hold"
	case len(n.Short) == 0:
		return "impossible, because the sheets that could turn are too few"
	}
	var short []string
	for _, r := range n.Short {
		who := ""
		if r.Examiner != "" {
			who = r.Examiner + ": "
		}
		short = append(short, who+Reason(r))
	}
	return "impossible, because even with every mark seen at its highest: " + strings.Join(short, "; ")
}

// Distance is a margin as people say it: exactly met, 2 clear, 0.5 short.
func Distance(margin string) string {
	m := ratio(margin)
	switch m.Sign() {
	case 0:
		return "exactly met"
	case 1:
		return plain(m) + " clear"
	}
	return plain(m.Neg(m)) + " short"
}

// Outcome is what a panel's marks come to, or a decision.
func Outcome(o scoring.Outcome) string {
	return map[scoring.Outcome]string{
		scoring.OutcomePromote: "promote", scoring.OutcomeHonours: "promote with honours", scoring.OutcomeDouble: "refer for double promotion",
		scoring.OutcomeRetest: "retest", scoring.OutcomeIncomplete: "incomplete", scoring.OutcomeCommittee: "committee decides",
	}[o]
}

// Scope is what a retest asks again; "" for all of it.
func Scope(s scoring.Scope) string {
	return map[scoring.Scope]string{scoring.ScopeItems: "only what failed", scoring.ScopeSections: "the sections in which something failed"}[s]
}

func listed(before string, names []string) string {
	if len(names) == 0 {
		return ""
	}
	return before + strings.Join(names, ", ")
}

func whole(figure string) int {
	n, _ := strconv.Atoi(figure)
	return n
}

// ratio reads an exact number as the core writes it; 0 where it is none.
func ratio(figure string) *big.Rat {
	r, is := new(big.Rat).SetString(figure)
	if !is {
		return new(big.Rat)
	}
	return r
}

func percent(figure string) string {
	return plain(new(big.Rat).Mul(ratio(figure), big.NewRat(100, 1)))
}

// plain prints a ratio for a sentence: exact when short, else cut after two decimal
// places and marked "…" so that nobody takes it for the whole figure.
func plain(r *big.Rat) string {
	if places, exact := r.FloatPrec(); exact && places <= 9 {
		if text := r.FloatString(places); len(text) <= 8 {
			return text
		}
	}
	hundredths := new(big.Int).Quo(new(big.Int).Mul(r.Num(), big.NewInt(100)), r.Denom())
	sign := ""
	if r.Sign() < 0 {
		sign = "-"
		hundredths.Abs(hundredths)
	}
	units, rest := new(big.Int).QuoRem(hundredths, big.NewInt(100), new(big.Int))
	return fmt.Sprintf("%s%s.%02d…", sign, units, rest.Int64())
}
