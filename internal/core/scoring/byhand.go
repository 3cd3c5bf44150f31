package scoring

// ByHand are the figures that close one candidate's sheet on paper: what an examiner's own sums are held against. Where
// every item was seen, they decide as Tally does.
type ByHand struct {
	Stood, StoodOf     Decimal // points of what stands from an earlier attempt, and the points possible there
	Full               Decimal // points of the counted items, all at the highest mark
	Threshold          *Decimal
	Sections           []SectionByHand
	Failing            *Decimal // the highest failing mark; nil: none fails by itself
	Allowed            *int     // failing marks allowed; nil: they are not counted
	Must               bool     // whether a failing mark on one item fails the sheet
	Weighted           bool     // whether a mark counts more than once
	Counted, LeastSeen int      // items that count, and how many of them are to be seen at least
}

// SectionByHand is a section minimum in points: Least, rounded up to the next sum that marks can make, of Of.
// Where Of is 0 nothing of the section is on the sheet, which is never complete then.
type SectionByHand struct {
	Section   string
	Least, Of Decimal
}

// ByHand gives the figures for a sheet of items, of which those with a mark in stands (nil: all are marked) stand from an
// earlier attempt.
func (p Policy) ByHand(items []Item, stands []*Decimal) ByHand {
	out := ByHand{Threshold: p.Rules.Threshold, Failing: p.Scale.Failing, Allowed: p.Rules.AllowedFailing}
	sections := map[string]Decimal{}
	for k, it := range items {
		of := Decimal(it.Weight) * p.Scale.Highest
		out.Weighted = out.Weighted || it.Weight > 1
		if k < len(stands) && stands[k] != nil {
			out.Stood += Decimal(it.Weight) * *stands[k]
			if !it.Bonus {
				out.StoodOf += of
			}
		}
		if it.Bonus {
			continue
		}
		out.Counted++
		out.Full += of
		out.Must = out.Must || p.mustPass(it) && p.Scale.Failing != nil
		sections[it.Section] += of
	}
	for productsCompare(int64(out.LeastSeen), unit, int64(p.Rules.minimumSeen()), int64(out.Counted)) < 0 {
		out.LeastSeen++
	}
	for _, m := range p.Rules.SectionMinima {
		of := sections[m.Section]
		out.Sections = append(out.Sections, SectionByHand{m.Section, p.leastOf(m.Ratio, of), of})
	}
	return out
}

// leastOf is the least sum of marks that reaches a ratio of a number of points.
func (p Policy) leastOf(ratio, of Decimal) Decimal {
	step := Decimal(1)
	if p.Scale.Lowest%p.Scale.Step == 0 {
		step = p.Scale.Step // every sum of marks is a multiple of it
	}
	low, high := Decimal(0), of/step+1
	for low < high {
		if mid := (low + high) / 2; productsCompare(int64(mid*step), unit, int64(ratio), int64(of)) < 0 {
			low = mid + 1
		} else {
			high = mid
		}
	}
	return low * step
}
