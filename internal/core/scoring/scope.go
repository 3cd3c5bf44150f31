package scoring

import (
	"math/big"
	"slices"
)

// Scope says what a retest asks again. What is not asked again stands as it was marked.
type Scope string

// The scopes.
const (
	ScopeWhole    Scope = "whole"
	ScopeItems    Scope = "items"    // what failed
	ScopeSections Scope = "sections" // every item of a section in which something failed
)

// Scopes are the choices; whole is the usual one.
var Scopes = []Scope{ScopeWhole, ScopeItems, ScopeSections}

// Again is what a retest of a scope asks again, as indexes of items in their order, with the
// marks at which the others stand. Item k of Carried counts only where k is not in Items.
type Again struct {
	Items   []int
	Carried []Decimal // by item: the median mark over the sheets by which the panel judges it; of the middle two the lower; the least mark that passes where that one fails and the item does not
}

// Again works out the scope of a retest from a test. An item failed when it fails for the panel, or
// when nobody saw it. On a scale without a failing
// mark it failed when its carried mark is below the threshold's share of the highest mark;
// where a threshold was missed all the same, the lowest items are asked again. A section
// whose minimum the panel missed is asked again whole. Where nothing of that is found, or an
// ending fault was confirmed, everything is asked again.
// It is long: the rules of a retest stand one after the other, as the text above has them.
func (p Policy) Again(t Test, scope Scope) Again {
	out := Again{Carried: make([]Decimal, len(t.Items))}
	all := func() Again {
		out.Items = nil
		for k := range t.Items {
			out.Items = append(out.Items, k)
		}
		return out
	}
	failed, seen := make([]bool, len(t.Items)), make([]bool, len(t.Items))
	var full Decimal
	for k, it := range t.Items {
		out.Carried[k], seen[k] = p.carriedMark(t, k)
		if !it.Bonus {
			full += Decimal(it.Weight) * p.Scale.Highest
			failed[k] = !seen[k] || p.mostFail(k, p.sawItem(t, k))
		}
	}
	if scope == ScopeWhole || scope == "" || t.EndingFault {
		return all()
	}
	sections := map[string]bool{}
	for _, m := range p.Rules.SectionMinima {
		var points, possible Decimal
		for k, it := range t.Items {
			if it.Section == m.Section && !it.Bonus && seen[k] {
				points += Decimal(it.Weight) * out.Carried[k]
				possible += Decimal(it.Weight) * p.Scale.Highest
			}
		}
		if new(big.Int).Mul(big.NewInt(int64(points)), big.NewInt(int64(unit))).Cmp(new(big.Int).Mul(big.NewInt(int64(m.Ratio)), big.NewInt(int64(possible)))) < 0 {
			sections[m.Section] = true
		}
	}
	if th := p.Rules.Threshold; th != nil && p.Scale.Failing == nil && full > 0 {
		lowest, under := Decimal(-1), false
		for k, it := range t.Items {
			if it.Bonus || failed[k] {
				continue
			}
			// carried / highest < threshold / full
			if new(big.Int).Mul(big.NewInt(int64(out.Carried[k])), big.NewInt(int64(full))).Cmp(new(big.Int).Mul(big.NewInt(int64(*th)), big.NewInt(int64(p.Scale.Highest)))) < 0 {
				failed[k], under = true, true
			}
			if lowest < 0 || out.Carried[k] < lowest {
				lowest = out.Carried[k]
			}
		}
		for k, it := range t.Items {
			if !under && !it.Bonus && out.Carried[k] == lowest {
				failed[k] = true
			}
		}
	}
	for k, it := range t.Items {
		if failed[k] && scope == ScopeSections {
			sections[it.Section] = true
		}
	}
	for k, it := range t.Items {
		if failed[k] || sections[it.Section] || !it.Bonus && !seen[k] {
			out.Items = append(out.Items, k)
		}
	}
	if len(out.Items) == 0 {
		return all()
	}
	return out
}

// carriedMark is the mark at which an item stands.
func (p Policy) carriedMark(t Test, k int) (Decimal, bool) {
	sheets := p.sawItem(t, k)
	var marks []Decimal
	for _, s := range sheets {
		marks = append(marks, s.Marks[k].Value)
	}
	if len(marks) == 0 {
		return 0, false
	}
	slices.Sort(marks)
	stands := marks[(len(marks)-1)/2]
	if p.Scale.Fails(stands) && !p.mostFail(k, sheets) {
		stands = *p.Scale.Failing + p.Scale.Step
	}
	return stands, true
}
