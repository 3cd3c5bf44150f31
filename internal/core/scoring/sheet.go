package scoring

import (
	"fmt"
	"math/big"
	"strings"
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

// Reason is one rule, what was found and what was asked. Figure, Threshold and Margin are
// exact numbers as text ("48.5", "146/3"), in points unless the rule counts items or sheets.
type Reason struct {
	Rule      string   `json:"rule"`
	Holds     bool     `json:"holds"`
	Examiner  string   `json:"examiner,omitempty"`
	Section   string   `json:"section,omitempty"`
	Items     []string `json:"items,omitempty"` // ids
	Figure    string   `json:"figure,omitempty"`
	Threshold string   `json:"threshold,omitempty"`
	Margin    string   `json:"margin,omitempty"` // how far inside the rule: figure less threshold, or threshold less figure where it bounds from above; below 0 where it is missed
	Text      string   `json:"text"`
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

func (p Policy) fails(it Item, m Mark) bool {
	return m.Seen && !it.Bonus && p.Scale.Failing != nil && m.Value <= *p.Scale.Failing
}

// Weak reports whether a mark tells of something that is not right yet: it fails, or lies in the
// lower half of a scale on which no mark fails by itself.
func (p Policy) Weak(mark Decimal) bool {
	if p.Scale.Failing != nil {
		return mark <= *p.Scale.Failing
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
			t.raw += w * m.Value
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
		if p.fails(it, m) {
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
			points += Decimal(it.Weight) * s.Marks[i].Value
			possible += Decimal(it.Weight) * p.Scale.Highest
		}
	}
	return points, possible
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
		if p.fails(it, s.Marks[i]) {
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
		out.Reasons = append(out.Reasons, Reason{Rule: "double", Holds: true, Examiner: s.Examiner, Figure: p.Scale.Highest.String(),
			Threshold: p.Scale.Highest.String(), Margin: "0", Text: "every counted item has the highest mark " + p.Scale.Highest.String()})
	} else if out.Verdict == VerdictHonours {
		out.Reasons = append(out.Reasons, Reason{Rule: "honours", Holds: true, Examiner: s.Examiner, Threshold: p.Scale.Honours.String(),
			Text: fmt.Sprintf("every counted item is at %s or above", *p.Scale.Honours)})
	}
	return out
}

func (p Policy) incompleteReasons(items []Item, s Sheet, t totals) (out []Reason) {
	share := p.Rules.minimumSeen()
	if t.possible == 0 {
		out = append(out, Reason{Rule: "nothing_seen", Examiner: s.Examiner, Figure: "0", Text: "no counted item was seen"})
	} else if productsCompare(int64(t.seen), unit, int64(share), int64(t.counted)) < 0 {
		need := ceilDiv(int64(share)*int64(t.counted), unit)
		out = append(out, Reason{
			Rule: "minimum_seen", Examiner: s.Examiner, Figure: fmt.Sprint(t.seen), Threshold: fmt.Sprint(need), Margin: fmt.Sprint(int64(t.seen) - need),
			Text: fmt.Sprintf("%d of %d counted items seen; at least %d are needed", t.seen, t.counted, need),
		})
	}
	for _, m := range p.Rules.SectionMinima {
		if _, possible := p.section(items, s, m.Section); possible == 0 {
			out = append(out, Reason{Rule: "section_unseen", Examiner: s.Examiner, Section: m.Section,
				Text: fmt.Sprintf("%s has a minimum, and no counted item of it was seen", m.Section)})
		}
	}
	return out
}

// sheetReasons explains every rule that is on for one sheet, or for the sheets of a panel
// that decides by a figure.
func (p Policy) sheetReasons(items []Item, sheets []Sheet, rule PanelRule) (out []Reason) {
	f := p.findings(items, sheets, rule)
	full := p.add(items, sheets[0]).full
	if f.threshold != nil {
		onFull := new(big.Rat).Mul(f.ratio, full.rat())
		margin := new(big.Rat).Sub(onFull, p.Rules.Threshold.rat())
		// A single sheet with everything seen has no "share" to convert: its points are the figure.
		said := fmt.Sprintf("%s of %s points", plain(onFull), full)
		if len(sheets) > 1 {
			said = fmt.Sprintf("%s %s of %s points", strings.ReplaceAll(string(rule), "_", " "), plain(onFull), full)
		} else if t := p.add(items, sheets[0]); t.possible != t.full {
			said = fmt.Sprintf("%s of %s points seen, which is %s of the full %s", t.points(), t.possible, plain(onFull), full)
		}
		out = append(out, Reason{
			Rule: "threshold", Holds: margin.Sign() >= 0, Figure: exact(onFull), Threshold: p.Rules.Threshold.String(), Margin: exact(margin),
			Text: fmt.Sprintf("%s; the threshold is %s: %s", said, *p.Rules.Threshold, distance(margin)),
		})
	}
	for i, m := range p.Rules.SectionMinima {
		margin := new(big.Rat).Sub(f.sections[i], m.Ratio.rat())
		hundred := big.NewRat(100, 1)
		out = append(out, Reason{
			Rule: "section_minimum", Section: m.Section, Holds: margin.Sign() >= 0,
			Figure: exact(f.sections[i]), Threshold: m.Ratio.String(), Margin: exact(margin),
			Text: fmt.Sprintf("%s: %s %% of what was possible; at least %s %% is asked", m.Section,
				plain(new(big.Rat).Mul(f.sections[i], hundred)), plain(new(big.Rat).Mul(m.Ratio.rat(), hundred))),
		})
	}
	names := func(list []int) (ids []string, text string) {
		var words []string
		for _, i := range list {
			ids, words = append(ids, items[i].ID), append(words, items[i].Name())
		}
		return ids, strings.Join(words, ", ")
	}
	if p.Rules.AllowedFailing != nil {
		allowed := *p.Rules.AllowedFailing
		ids, text := names(f.failing)
		said := fmt.Sprintf("%s; up to %d allowed", many(len(f.failing), "failing item"), allowed)
		if text != "" {
			said += ": " + text
		}
		out = append(out, Reason{
			Rule: "failing_items", Holds: len(f.failing) <= allowed, Items: ids, Figure: fmt.Sprint(len(f.failing)),
			Threshold: fmt.Sprint(allowed), Margin: fmt.Sprint(allowed - len(f.failing)), Text: said,
		})
	}
	if !p.Rules.IgnoreMustPass {
		if ids, text := names(f.mustPass); len(ids) > 0 {
			out = append(out, Reason{Rule: "must_pass", Items: ids, Figure: fmt.Sprint(len(ids)), Threshold: "0",
				Margin: fmt.Sprint(-len(ids)), Text: "must pass, and failing: " + text})
		} else if p.hasMustPass(items) {
			out = append(out, Reason{Rule: "must_pass", Holds: true, Figure: "0", Threshold: "0", Margin: "0", Text: "no must-pass item is failing"})
		}
	}
	if len(out) == 0 {
		out = append(out, Reason{Rule: "no_rule", Holds: true, Text: "no rule is switched on: a complete sheet passes"})
	}
	return out
}

func (p Policy) hasMustPass(items []Item) bool {
	for _, it := range items {
		if p.mustPass(it) && p.Scale.Failing != nil {
			return true
		}
	}
	return false
}

func distance(margin *big.Rat) string {
	switch margin.Sign() {
	case 0:
		return "exactly met"
	case 1:
		return plain(margin) + " clear"
	}
	return plain(new(big.Rat).Neg(margin)) + " short"
}

func many(n int, noun string) string {
	switch n {
	case 0:
		return "no " + noun
	case 1:
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

func ceilDiv(a, b int64) int64 { return (a + b - 1) / b }
