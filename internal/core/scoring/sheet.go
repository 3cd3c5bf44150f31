package scoring

import (
	"fmt"
	"math/big"
)

// Item is what gets one mark: a line of the sheet, or a category that gathers lines.
type Item struct {
	ID       string
	Label    string // as people call it; the ID where it is empty
	Section  string
	Weight   int  // 1 to MaxWeight
	Bonus    bool // can only add points: never counted, never failing
	MustPass bool // a failing mark here fails the sheet; of no effect on a bonus item
}

// Name is the label, or the ID where there is none.
func (it Item) Name() string {
	if it.Label != "" {
		return it.Label
	}
	return it.ID
}

// Mark is one examiner's mark of one item. The zero value is "not seen".
type Mark struct {
	Value Decimal
	Seen  bool
}

// Seen returns the mark v.
func Seen(v Decimal) Mark { return Mark{v, true} }

// Sheet is one examiner's marks of one candidate, in the order of the items.
type Sheet struct {
	Examiner   string
	Marks      []Mark
	Deductions Decimal // points taken off for faults, 0 or more
	Shift      Decimal // added to every mark seen when points are added up, and to none of them: what Alike tries; 0 of a real sheet
}

// Alike is a test as if its examiners marked alike: when points are added up, each one's marks count so much more, or
// less where it is below 0. What fails, fails as it was marked, and so do honours; points stay within what is possible.
func (t Test) Alike(shift map[string]Decimal) Test {
	sheets := make([]Sheet, len(t.Sheets))
	for i, s := range t.Sheets {
		s.Shift = shift[s.Examiner]
		sheets[i] = s
	}
	t.Sheets = sheets
	return t
}

// Test is all that was marked of one candidate.
type Test struct {
	Items       []Item
	Sheets      []Sheet // one per examiner of the panel; an absent examiner's holds nothing seen
	Chief       string  // the chief examiner, "" for none
	EndingFault bool    // a fault that ends the test, confirmed by the chief examiner
}

// Check reports the first thing in the test that the policy cannot hold, as a *FieldError.
func (t Test) Check(p Policy) error {
	if len(t.Items) == 0 || len(t.Items) > MaxItems {
		return wrong("items", "has %d; a sheet has 1 to %d", len(t.Items), MaxItems)
	}
	ids, sections := map[string]bool{}, map[string]bool{}
	for i, it := range t.Items {
		path := fmt.Sprintf("items[%d]", i)
		if it.ID == "" {
			return wrong(path+".id", "is empty")
		}
		if ids[it.ID] {
			return wrong(path+".id", "%q stands twice", it.ID)
		}
		if it.Weight < 1 || it.Weight > MaxWeight {
			return wrong(path+".weight", "is %d; it must be a whole number from 1 to %d", it.Weight, MaxWeight)
		}
		ids[it.ID], sections[it.Section] = true, true
	}
	for i, m := range p.Rules.SectionMinima {
		if !sections[m.Section] {
			return wrong(fmt.Sprintf("rules.section_minima[%d].section", i), "no item is in section %q", m.Section)
		}
	}
	if len(t.Sheets) == 0 || len(t.Sheets) > MaxExaminers {
		return wrong("panel.examiners", "has %d; a panel has 1 to %d", len(t.Sheets), MaxExaminers)
	}
	examiners := map[string]bool{}
	for i, s := range t.Sheets {
		if examiners[s.Examiner] {
			return wrong(fmt.Sprintf("panel.examiners[%d]", i), "%q stands twice", s.Examiner)
		}
		examiners[s.Examiner] = true
		path := "sheets." + s.Examiner
		if len(s.Marks) != len(t.Items) {
			return wrong(path+".marks", "has %d marks for %d items", len(s.Marks), len(t.Items))
		}
		if s.Deductions < 0 || s.Deductions > Whole(MaxItems*MaxMark*MaxWeight) {
			return wrong(path+".deductions", "add up to %s; a deduction is 0 or more", s.Deductions)
		}
		for k, m := range s.Marks {
			if m.Seen && !p.Scale.Holds(m.Value) {
				return wrong(path+".marks."+t.Items[k].ID, "is %s; the scale is %s", m.Value, p.Scale.Describe())
			}
		}
	}
	if t.Chief != "" && !examiners[t.Chief] {
		return wrong("panel.chief", "%q is not an examiner of this panel", t.Chief)
	}
	return nil
}

// Verdict is what one examiner's sheet says.
type Verdict string

// The verdicts of one sheet.
const (
	VerdictFail       Verdict = "fail"
	VerdictPass       Verdict = "pass"
	VerdictHonours    Verdict = "pass_with_honours"
	VerdictDouble     Verdict = "double"
	VerdictIncomplete Verdict = "incomplete"
)

// Passes reports whether the verdict is a pass of any kind.
func (v Verdict) Passes() bool {
	return v == VerdictPass || v == VerdictHonours || v == VerdictDouble
}

// Rule names what a reason is about.
type Rule string

// The rules: of one sheet, or of a panel that decides by a figure; of the panel's votes.
const (
	RuleThreshold     Rule = "threshold"
	RuleSection       Rule = "section_minimum"
	RuleFailing       Rule = "failing_items"
	RuleMustPass      Rule = "must_pass"
	RuleNone          Rule = "no_rule" // none is on: a complete sheet passes
	RuleHonours       Rule = "honours"
	RuleDouble        Rule = "double"
	RuleNothingSeen   Rule = "nothing_seen"
	RuleMinimumSeen   Rule = "minimum_seen"
	RuleSectionUnseen Rule = "section_unseen"
	RuleUnseen        Rule = "unseen_item" // by nobody on the panel
	RuleQuorum        Rule = "quorum"
	RuleMajority      Rule = "majority"
	RuleTie           Rule = "tie"
	RuleEndingFault   Rule = "ending_fault"
)

// Reason is one rule, what was found and what was asked. Figure, Threshold and Margin are
// exact numbers as text ("48.5", "146/3"), in points unless the rule counts items or sheets.
type Reason struct {
	Rule      Rule
	Holds     bool
	Examiner  string // whose sheet; "" the panel's
	Section   string
	Items     []string // ids
	Names     []string // of the items
	Figure    string
	Threshold string
	Margin    string // how far inside the rule: figure less threshold, or threshold less figure where it bounds from above; below 0 where it is missed
	Of        int    // the items or sheets a counted figure is of; 0: it is none
	Sums      *Sums  // behind the figure of a threshold; nil of other rules
	Tie       TieRule
	Absent    bool // of a tie: the chief examiner has no complete sheet
}

// Sums are what the figure of a threshold is reckoned from.
type Sums struct {
	By                     PanelRule // of which sheets; "" one sheet
	Points, Possible, Full Decimal   // of one sheet: points, of those possible over what was seen; over all of it
}

// Tally is one examiner's sheet added up.
type Tally struct {
	Examiner string
	Points   Decimal // after deductions, between 0 and Possible
	Possible Decimal // over the counted items seen
	Full     Decimal // over all counted items
	Seen     int     // counted items seen
	Counted  int     // counted items on the sheet
	Failing  []int   // indexes of counted items with a failing mark
	Verdict  Verdict
	Reasons  []Reason
}

// Complete reports whether the sheet has a say on the panel.
func (t Tally) Complete() bool { return t.Verdict != VerdictIncomplete }

// totals are the sums the rules look at; sections are keyed by the section's name.
type totals struct {
	raw, possible, full Decimal // raw is before clamping, after deductions
	seen, counted       int
	failing             int
	mustPassFailing     int
	allHonours, allTop  bool
}

func (t totals) points() Decimal { return min(max(t.raw, 0), t.possible) }

// Fails reports whether a mark fails on an item: a bonus item never does, nor what was not seen.
func (p Policy) Fails(it Item, m Mark) bool {
	return m.Seen && !it.Bonus && p.Scale.Fails(m.Value)
}

// Weak reports whether a mark tells of something that is not right yet: it fails, or lies in the
// lower half of a scale on which no mark fails by itself.
func (p Policy) Weak(mark Decimal) bool {
	if p.Scale.Failing != nil {
		return p.Scale.Fails(mark)
	}
	return 2*mark <= p.Scale.Highest
}

// mustPass reports whether a failing mark on the item alone fails the sheet.
func (p Policy) mustPass(it Item) bool {
	return it.MustPass && !it.Bonus && !p.Rules.IgnoreMustPass
}

func (p Policy) add(items []Item, s Sheet) totals {
	t := totals{raw: -s.Deductions, allHonours: p.Scale.Honours != nil, allTop: p.Scale.Double}
	for i, it := range items {
		m, w := s.Marks[i], Decimal(it.Weight)
		if m.Seen {
			t.raw += w * (m.Value + s.Shift)
		}
		if it.Bonus {
			continue
		}
		t.counted++
		t.full += w * p.Scale.Highest
		if !m.Seen {
			t.allHonours, t.allTop = false, false
			continue
		}
		t.seen++
		t.possible += w * p.Scale.Highest
		t.allHonours = t.allHonours && m.Value >= *p.Scale.Honours
		t.allTop = t.allTop && m.Value == p.Scale.Highest
		if p.Fails(it, m) {
			t.failing++
			if p.mustPass(it) {
				t.mustPassFailing++
			}
		}
	}
	return t
}

// section adds up the counted items seen in one section, before deductions.
func (p Policy) section(items []Item, s Sheet, name string) (points, possible Decimal) {
	for i, it := range items {
		if it.Section == name && !it.Bonus && s.Marks[i].Seen {
			points += Decimal(it.Weight) * (s.Marks[i].Value + s.Shift)
			possible += Decimal(it.Weight) * p.Scale.Highest
		}
	}
	return min(max(points, 0), possible), possible
}

func (p Policy) complete(items []Item, s Sheet, t totals) bool {
	if t.possible == 0 || productsCompare(int64(t.seen), unit, int64(p.Rules.minimumSeen()), int64(t.counted)) < 0 {
		return false
	}
	for _, m := range p.Rules.SectionMinima {
		if _, possible := p.section(items, s, m.Section); possible == 0 {
			return false
		}
	}
	return true
}

// passes reports whether every rule that is on holds for a complete sheet.
func (p Policy) passes(items []Item, s Sheet, t totals) bool {
	r := p.Rules
	if r.Threshold != nil && productsCompare(int64(t.points()), int64(t.full), int64(*r.Threshold), int64(t.possible)) < 0 {
		return false
	}
	if r.AllowedFailing != nil && t.failing > *r.AllowedFailing || t.mustPassFailing > 0 {
		return false
	}
	for _, m := range r.SectionMinima {
		points, possible := p.section(items, s, m.Section)
		if productsCompare(int64(points), unit, int64(m.Ratio), int64(possible)) < 0 {
			return false
		}
	}
	return true
}

// Tally adds up one examiner's sheet and judges it by the policy's rules. The sheet must
// have passed Test.Check.
//
//	possible = Σ weight × highest over counted items seen
//	full     = Σ weight × highest over all counted items
//	points   = Σ weight × mark over items seen, less deductions, kept within 0 … possible
//	threshold is met when points × full ≥ threshold × possible
func (p Policy) Tally(items []Item, s Sheet) Tally {
	t := p.add(items, s)
	out := Tally{
		Examiner: s.Examiner, Points: t.points(), Possible: t.possible, Full: t.full,
		Seen: t.seen, Counted: t.counted,
	}
	for i, it := range items {
		if p.Fails(it, s.Marks[i]) {
			out.Failing = append(out.Failing, i)
		}
	}
	if !p.complete(items, s, t) {
		out.Verdict = VerdictIncomplete
		out.Reasons = p.incompleteReasons(items, s, t)
		return out
	}
	switch {
	case !p.passes(items, s, t):
		out.Verdict = VerdictFail
	case t.allTop:
		out.Verdict = VerdictDouble
	case t.allHonours:
		out.Verdict = VerdictHonours
	default:
		out.Verdict = VerdictPass
	}
	out.Reasons = p.sheetReasons(items, []Sheet{s}, Mean)
	for i := range out.Reasons {
		out.Reasons[i].Examiner = s.Examiner
	}
	if out.Verdict == VerdictDouble {
		out.Reasons = append(out.Reasons, Reason{Rule: RuleDouble, Holds: true, Examiner: s.Examiner, Figure: p.Scale.Highest.String(), Threshold: p.Scale.Highest.String(), Margin: "0"})
	} else if out.Verdict == VerdictHonours {
		out.Reasons = append(out.Reasons, Reason{Rule: RuleHonours, Holds: true, Examiner: s.Examiner, Threshold: p.Scale.Honours.String()})
	}
	return out
}

func (p Policy) incompleteReasons(items []Item, s Sheet, t totals) (out []Reason) {
	share := p.Rules.minimumSeen()
	if t.possible == 0 {
		out = append(out, Reason{Rule: RuleNothingSeen, Examiner: s.Examiner, Figure: "0"})
	} else if productsCompare(int64(t.seen), unit, int64(share), int64(t.counted)) < 0 {
		need := ceilDiv(int64(share)*int64(t.counted), unit)
		out = append(out, Reason{Rule: RuleMinimumSeen, Examiner: s.Examiner, Figure: fmt.Sprint(t.seen), Threshold: fmt.Sprint(need), Margin: fmt.Sprint(int64(t.seen) - need), Of: t.counted})
	}
	for _, m := range p.Rules.SectionMinima {
		if _, possible := p.section(items, s, m.Section); possible == 0 {
			out = append(out, Reason{Rule: RuleSectionUnseen, Examiner: s.Examiner, Section: m.Section})
		}
	}
	return out
}

// sheetReasons explains every rule that is on for one sheet, or for the sheets of a panel
// that decides by a figure.
func (p Policy) sheetReasons(items []Item, sheets []Sheet, rule PanelRule) (out []Reason) {
	f := p.findings(items, sheets, rule)
	if f.threshold != nil {
		t := p.add(items, sheets[0])
		onFull := new(big.Rat).Mul(f.ratio, t.full.rat())
		margin := new(big.Rat).Sub(onFull, p.Rules.Threshold.rat())
		sums := &Sums{Points: t.points(), Possible: t.possible, Full: t.full}
		if len(sheets) > 1 {
			sums = &Sums{By: rule, Full: t.full}
		}
		out = append(out, Reason{Rule: RuleThreshold, Holds: margin.Sign() >= 0, Figure: exact(onFull), Threshold: p.Rules.Threshold.String(), Margin: exact(margin), Sums: sums})
	}
	for i, m := range p.Rules.SectionMinima {
		margin := new(big.Rat).Sub(f.sections[i], m.Ratio.rat())
		out = append(out, Reason{Rule: RuleSection, Section: m.Section, Holds: margin.Sign() >= 0, Figure: exact(f.sections[i]), Threshold: m.Ratio.String(), Margin: exact(margin)})
	}
	if p.Rules.AllowedFailing != nil {
		out = append(out, countedReason(RuleFailing, items, f.failing, *p.Rules.AllowedFailing))
	}
	if !p.Rules.IgnoreMustPass && (len(f.mustPass) > 0 || p.hasMustPass(items)) {
		out = append(out, countedReason(RuleMustPass, items, f.mustPass, 0))
	}
	if len(out) == 0 {
		out = append(out, Reason{Rule: RuleNone, Holds: true})
	}
	return out
}

// countedReason is a rule that lets so many items be found at most.
func countedReason(rule Rule, items []Item, found []int, most int) Reason {
	r := Reason{Rule: rule, Holds: len(found) <= most, Figure: fmt.Sprint(len(found)), Threshold: fmt.Sprint(most), Margin: fmt.Sprint(most - len(found))}
	for _, k := range found {
		r.Items, r.Names = append(r.Items, items[k].ID), append(r.Names, items[k].Name())
	}
	return r
}

func (p Policy) hasMustPass(items []Item) bool {
	for _, it := range items {
		if p.mustPass(it) && p.Scale.Failing != nil {
			return true
		}
	}
	return false
}

func ceilDiv(a, b int64) int64 { return (a + b - 1) / b }
