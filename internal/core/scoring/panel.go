package scoring

import (
	"fmt"
	"math/big"
	"slices"
)

// Outcome is what the panel's marks come to.
type Outcome string

// The outcomes. OutcomeCommittee means that the marks make no proposal.
const (
	OutcomePromote    Outcome = "promote"
	OutcomeHonours    Outcome = "promote_with_honours"
	OutcomeDouble     Outcome = "refer_for_double_promotion"
	OutcomeRetest     Outcome = "retest"
	OutcomeIncomplete Outcome = "incomplete"
	OutcomeCommittee  Outcome = "committee_decides"
)

// Promotes reports whether the outcome moves the candidate up.
func (o Outcome) Promotes() bool {
	return o == OutcomePromote || o == OutcomeHonours || o == OutcomeDouble
}

// Result is the outcome of one candidate's test and why.
type Result struct {
	Tallies []Tally // one per examiner, in the panel's order
	Outcome Outcome
	Reasons []Reason
	Unseen  []int // indexes of counted items that nobody on the panel saw
	Change  *Change
}

// Votes counts the complete sheets, and those of them that pass.
func (r Result) Votes() (pass, complete int) {
	for _, t := range r.Tallies {
		if t.Complete() {
			complete++
		}
		if t.Verdict.Passes() {
			pass++
		}
	}
	return pass, complete
}

// Decide adds up every sheet, applies the panel's rules and looks for the smallest change
// that would turn a promotion into a retest or a retest into a promotion. It returns a
// *FieldError where policy or test cannot be held.
func (p Policy) Decide(t Test) (Result, error) {
	if err := p.Check(); err != nil {
		return Result{}, err
	}
	if err := t.Check(p); err != nil {
		return Result{}, err
	}
	r := p.outcome(t)
	if r.Outcome.Promotes() || r.Outcome == OutcomeRetest {
		c := p.smallestChange(t, r)
		r.Change = &c
	}
	return r, nil
}

func (p Policy) quorum(panel int) int {
	if p.Quorum > 0 {
		return p.Quorum
	}
	return panel/2 + 1
}

func (p Policy) outcome(t Test) Result {
	r := Result{}
	var complete []int
	for i, s := range t.Sheets {
		r.Tallies = append(r.Tallies, p.Tally(t.Items, s))
		if r.Tallies[i].Complete() {
			complete = append(complete, i)
		}
	}
	for k, it := range t.Items {
		if !it.Bonus && !slices.ContainsFunc(t.Sheets, func(s Sheet) bool { return s.Marks[k].Seen }) {
			r.Unseen = append(r.Unseen, k)
		}
	}
	say := func(reason Reason) { r.Reasons = append(r.Reasons, reason) }
	if t.EndingFault {
		r.Outcome = OutcomeRetest
		say(Reason{Rule: RuleEndingFault, Examiner: t.Chief})
		return r
	}
	if len(r.Unseen) > 0 {
		r.Outcome = OutcomeIncomplete
		say(countedReason(RuleUnseen, t.Items, r.Unseen, 0))
	}
	if need := p.quorum(len(t.Sheets)); len(complete) < need {
		r.Outcome = OutcomeIncomplete
		say(Reason{Rule: RuleQuorum, Figure: fmt.Sprint(len(complete)), Threshold: fmt.Sprint(need), Margin: fmt.Sprint(len(complete) - need), Of: len(t.Sheets)})
	}
	if r.Outcome == OutcomeIncomplete {
		return r
	}
	if p.Panel == Majority {
		p.majority(t, &r, complete)
	} else {
		p.byFigure(t, &r, complete)
	}
	if r.Outcome == OutcomePromote {
		p.honours(&r, complete)
	}
	return r
}

// voted is how a majority panel's count comes out.
func (p Policy) voted(pass, voters int, chiefComplete, chiefPasses bool) Outcome {
	switch {
	case 2*pass > voters:
		return OutcomePromote
	case 2*pass < voters:
		return OutcomeRetest
	case p.Tie == TieRetest:
		return OutcomeRetest
	case p.Tie == TieCommittee || !chiefComplete:
		return OutcomeCommittee
	case chiefPasses:
		return OutcomePromote
	}
	return OutcomeRetest
}

func (p Policy) majority(t Test, r *Result, complete []int) {
	pass, chiefComplete, chiefPasses := 0, false, false
	for _, i := range complete {
		passes := r.Tallies[i].Verdict.Passes()
		if passes {
			pass++
		}
		if t.Chief != "" && t.Sheets[i].Examiner == t.Chief {
			chiefComplete, chiefPasses = true, passes
		}
	}
	voters := len(complete)
	r.Outcome = p.voted(pass, voters, chiefComplete, chiefPasses)
	need := voters/2 + 1
	r.Reasons = append(r.Reasons, Reason{
		Rule: RuleMajority, Holds: 2*pass > voters, Figure: fmt.Sprint(pass), Threshold: fmt.Sprint(need), Margin: fmt.Sprint(pass - need), Of: voters,
	})
	if 2*pass == voters {
		r.Reasons = append(r.Reasons, Reason{Rule: RuleTie, Holds: r.Outcome.Promotes(), Examiner: t.Chief, Tie: p.Tie, Absent: !chiefComplete})
	}
	for _, i := range complete {
		for _, reason := range r.Tallies[i].Reasons {
			if !reason.Holds {
				r.Reasons = append(r.Reasons, reason)
			}
		}
	}
}

func (p Policy) byFigure(t Test, r *Result, complete []int) {
	sheets := pick(t.Sheets, complete)
	r.Outcome = OutcomePromote
	r.Reasons = append(r.Reasons, p.sheetReasons(t.Items, sheets, p.Panel)...)
	for _, reason := range r.Reasons {
		if !reason.Holds {
			r.Outcome = OutcomeRetest
		}
	}
}

func (p Policy) honours(r *Result, complete []int) {
	honours, double := 0, 0
	for _, i := range complete {
		switch r.Tallies[i].Verdict {
		case VerdictDouble:
			double++
		case VerdictHonours:
			honours++
		}
	}
	say := func(rule Rule, have int) {
		need := len(complete)/2 + 1
		r.Reasons = append(r.Reasons, Reason{Rule: rule, Holds: true, Figure: fmt.Sprint(have), Threshold: fmt.Sprint(need), Margin: fmt.Sprint(have - need), Of: len(complete)})
	}
	switch {
	case 2*double > len(complete):
		r.Outcome = OutcomeDouble
		say(RuleDouble, double)
	case 2*(honours+double) > len(complete):
		r.Outcome = OutcomeHonours
		say(RuleHonours, honours+double)
	}
}

func pick(sheets []Sheet, which []int) (out []Sheet) {
	for _, i := range which {
		out = append(out, sheets[i])
	}
	return out
}

// findings are the figures the rules look at, over one sheet or a panel's complete sheets.
type findings struct {
	threshold *Decimal
	ratio     *big.Rat   // points of possible
	sections  []*big.Rat // in the order of the section minima
	failing   []int      // items failing on more than half of the sheets that saw them
	mustPass  []int      // those of failing that must pass
}

func (p Policy) findings(items []Item, sheets []Sheet, rule PanelRule) findings {
	f := findings{threshold: p.Rules.Threshold}
	ratios := make([]*big.Rat, len(sheets))
	for j, s := range sheets {
		t := p.add(items, s)
		ratios[j] = big.NewRat(int64(t.points()), int64(t.possible))
	}
	f.ratio = aggregate(rule, ratios)
	for _, m := range p.Rules.SectionMinima {
		for j, s := range sheets {
			points, possible := p.section(items, s, m.Section)
			ratios[j] = big.NewRat(int64(points), int64(possible))
		}
		f.sections = append(f.sections, aggregate(rule, ratios))
	}
	for k, it := range items {
		if p.itemFails(it, k, sheets) {
			f.failing = append(f.failing, k)
			if p.mustPass(it) {
				f.mustPass = append(f.mustPass, k)
			}
		}
	}
	return f
}

// itemFails reports whether more than half of the sheets that saw the item fail it.
func (p Policy) itemFails(it Item, k int, sheets []Sheet) bool {
	return !it.Bonus && p.mostFail(k, sheets)
}

// mostFail is itemFails, of a bonus item too: its mark costs nothing, and yet it was not right.
func (p Policy) mostFail(k int, sheets []Sheet) bool {
	saw, fail := 0, 0
	for _, s := range sheets {
		if m := s.Marks[k]; m.Seen {
			saw++
			if p.Scale.Fails(m.Value) {
				fail++
			}
		}
	}
	return 2*fail > saw
}

// sawItem are the sheets by which the panel judges an item: the complete ones that saw it, or where
// none of these did, all that saw it.
func (p Policy) sawItem(t Test, k int) []Sheet {
	var complete, all []Sheet
	for _, s := range t.Sheets {
		if !s.Marks[k].Seen {
			continue
		}
		if all = append(all, s); p.complete(t.Items, s, p.add(t.Items, s)) {
			complete = append(complete, s)
		}
	}
	if len(complete) > 0 {
		return complete
	}
	return all
}

// Passed reports whether an item was passed at a test, whatever came of the whole: it was seen, and
// does not fail for the panel. On a scale on which no mark fails it was passed with the test.
func (p Policy) Passed(t Test, k int, promoted bool) bool {
	sheets := p.sawItem(t, k)
	if len(sheets) == 0 {
		return false
	}
	if p.Scale.Failing == nil {
		return promoted
	}
	return !p.mostFail(k, sheets)
}

// holds reports whether every rule that is on holds over the sheets.
func (p Policy) holds(items []Item, sheets []Sheet, rule PanelRule) bool {
	if len(sheets) == 1 {
		return p.passes(items, sheets[0], p.add(items, sheets[0]))
	}
	f := p.findings(items, sheets, rule)
	if len(f.mustPass) > 0 || p.Rules.AllowedFailing != nil && len(f.failing) > *p.Rules.AllowedFailing {
		return false
	}
	if f.threshold != nil {
		full := p.add(items, sheets[0]).full
		if new(big.Rat).Mul(f.ratio, full.rat()).Cmp(f.threshold.rat()) < 0 {
			return false
		}
	}
	for i, m := range p.Rules.SectionMinima {
		if f.sections[i].Cmp(m.Ratio.rat()) < 0 {
			return false
		}
	}
	return true
}

// aggregate is the panel's figure: the mean, the median (of an even number the mean of the
// middle two), or the mean without the highest and the lowest (from five sheets on).
func aggregate(rule PanelRule, ratios []*big.Rat) *big.Rat {
	if len(ratios) == 1 {
		return ratios[0]
	}
	used := ratios
	if rule == Median || rule == TrimmedMean && len(ratios) >= 5 {
		used = slices.Clone(ratios)
		slices.SortFunc(used, (*big.Rat).Cmp)
		if rule == TrimmedMean {
			used = used[1 : len(used)-1]
		} else {
			n := len(used)
			used = used[(n-1)/2 : n/2+1]
		}
	}
	sum := new(big.Rat)
	for _, r := range used {
		sum.Add(sum, r)
	}
	return sum.Quo(sum, big.NewRat(int64(len(used)), 1))
}
