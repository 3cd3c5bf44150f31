package words

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/scoring"
)

// Sum is a line at the end of a paper sheet, with a box for each candidate: what the pen writes there, and what stands
// small beside it. A given sum is printed instead.
type Sum struct {
	Label string
	Boxes []string // by candidate
	Given bool
}

// AfterSums is what stands below them: how a sheet with gaps is judged, and when a retest is at the earliest.
func AfterSums(p scoring.Policy, retest civil.Date) (out string) {
	if p.Rules.Threshold != nil {
		out = "Where a mark is missing, the threshold is the same share of what was possible: threshold × possible ÷ all points. "
	}
	return out + "Earliest retest, where the panel comes to one: " + retest.Long() + "."
}

// Sums are the lines that close a group's sheet on paper, from each candidate's figures.
func Sums(p scoring.Policy, group []scoring.ByHand) (out []Sum) {
	add := func(label string, given bool, say func(scoring.ByHand) string) {
		s := Sum{Label: label, Given: given}
		for _, b := range group {
			s.Boxes = append(s.Boxes, say(b))
		}
		out = append(out, s)
	}
	some := func(is func(scoring.ByHand) bool) bool {
		for _, b := range group {
			if is(b) {
				return true
			}
		}
		return false
	}
	points := "Marks of this sheet, added up"
	if some(func(b scoring.ByHand) bool { return b.Weighted }) {
		points = "Marks of this sheet, added up, each as often as it counts"
	}
	add(points, false, func(scoring.ByHand) string { return "" })
	if some(func(b scoring.ByHand) bool { return b.Stood > 0 || b.StoodOf > 0 }) {
		add("Stands from an earlier attempt", true, func(b scoring.ByHand) string { return b.Stood.String() })
	}
	add("Taken off for faults", false, func(scoring.ByHand) string { return "" })
	add("Sum, never below 0 nor above what was possible", false, func(b scoring.ByHand) string { return "of " + b.Full.String() })
	if t := p.Rules.Threshold; t != nil {
		add("Threshold; exactly at it is enough", true, func(scoring.ByHand) string { return t.String() })
	}
	for k := range p.Rules.SectionMinima {
		name := p.Rules.SectionMinima[k].Section
		of := func(b scoring.ByHand) (s scoring.SectionByHand) {
			for _, x := range b.Sections {
				if x.Section == name {
					return x
				}
			}
			return s
		}
		add(name+" alone, before anything is taken off", false, func(b scoring.ByHand) string {
			if of(b).Of == 0 {
				return "incomplete"
			}
			return "≥ " + of(b).Least.String() + " of " + of(b).Of.String()
		})
	}
	if f := p.Scale.Failing; f != nil && p.Rules.AllowedFailing != nil {
		add("Marks of "+f.String()+" or below", false, func(b scoring.ByHand) string { return "up to " + scoring.Whole(*b.Allowed).String() })
	}
	if some(func(b scoring.ByHand) bool { return b.Must }) {
		add("Of these, marked ◆", false, func(scoring.ByHand) string { return "none" })
	}
	add("Marks given; with fewer the sheet is incomplete", false, func(b scoring.ByHand) string {
		return "≥ " + scoring.Whole(b.LeastSeen).String() + " of " + scoring.Whole(b.Counted).String()
	})
	add("Result of this sheet: pass, retest or incomplete", false, func(scoring.ByHand) string { return "" })
	return out
}
