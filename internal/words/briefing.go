package words

import (
	"cmp"
	"fmt"
	"strings"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

// BriefPart is a part of a briefing: a heading and its sentences.
type BriefPart struct {
	Title string
	Rows  []string
}

// Briefing is a briefing as it is read to candidates and sent to families, part by part.
func Briefing(b gradingday.Briefing) []BriefPart {
	out := []BriefPart{{"How it goes", briefWay(b)}, {"What marks mean", briefMarks(b)}, {"What passes", briefPass(b)}}
	for _, s := range b.Sheets {
		out = append(out, BriefPart{"What is seen: " + s.For, briefSeen(s)})
	}
	return append(out, BriefPart{"Afterwards", briefAfter(b)}, BriefPart{"If something hurts", []string{
		"Say so at once, to any examiner: pain, dizziness, a knock to the head. Nobody loses marks by stopping, and a test can be finished another day. What the instructor, a doctor or the hall's rules say comes first."}})
}

func briefWay(b gradingday.Briefing) []string {
	looked := "one examiner looks"
	if b.Panel > 1 {
		looked = fmt.Sprintf("%d examiners look, each marks alone, and none sees another's marks before all have signed", b.Panel)
	}
	return []string{"Names are called, then line after line. On each line " + looked + ".",
		"A line that nobody saw, or that an examiner asks for again, is called once more. That is no bad sign."}
}

func briefMarks(b gradingday.Briefing) (out []string) {
	s := b.Policy.Scale
	var named []string
	for m := s.Lowest; m <= s.Highest; m += s.Step {
		if word := s.Word(m); word != "" {
			named = append(named, m.String()+" "+word)
		}
	}
	each := "Each line gets a mark"
	if b.Marking == gradingday.CategoryPoints {
		each = "Each section gets one mark, after the last of its lines"
	}
	if len(named) > 0 {
		out = append(out, each+": "+strings.Join(named, ", ")+".")
	} else {
		out = append(out, each+", "+s.Describe()+".")
	}
	if s.Failing != nil {
		out = append(out, fmt.Sprintf("%s and below is not enough on that line.", s.Failing))
	}
	return out
}

func briefPass(b gradingday.Briefing) (out []string) {
	r := b.Policy.Rules
	if r.Threshold != nil {
		out = append(out, fmt.Sprintf("%s points of the whole sheet are needed; exactly that many is enough.", r.Threshold))
	}
	if r.AllowedFailing != nil {
		switch *r.AllowedFailing {
		case 0:
			out = append(out, "No line may be below that.")
		default:
			out = append(out, fmt.Sprintf("Up to %s may be below that.", Count(*r.AllowedFailing, "line")))
		}
	}
	for _, m := range r.SectionMinima {
		out = append(out, fmt.Sprintf("In %s at least %s of 100 of the points.", m.Section, m.Ratio*100))
	}
	if !r.IgnoreMustPass {
		for _, s := range b.Sheets {
			if len(s.Must) > 0 {
				out = append(out, fmt.Sprintf("For %s these must be sound by themselves: %s.", s.For, strings.Join(s.Must, ", ")))
			}
		}
	}
	if len(out) == 0 {
		out = append(out, "Nothing is held against a figure: the panel looks at the whole.")
	}
	if b.Panel > 1 && (b.Policy.Panel == scoring.Majority || b.Policy.Panel == "") {
		out = append(out, "It is passed when more than half of the examiners say so.")
	}
	return append(out, "An unsafe act, or contact beyond the rule, can end the test; the chief examiner confirms it.")
}

func briefSeen(s gradingday.BriefSheet) (out []string) {
	for _, x := range s.Sections {
		var parts []string
		for _, l := range x.Lines {
			amount := cmp.Or(MoreCalled(l.Asked, l.Called), l.Asked.String())
			parts = append(parts, strings.Join(l.Names, " · ")+" ("+amount+")")
		}
		out = append(out, x.Name+": "+strings.Join(parts, "; ")+".")
	}
	if len(s.Bonus) > 0 {
		out = append(out, "A bonus, which can only help: "+strings.Join(s.Bonus, ", ")+".")
	}
	return out
}

func briefAfter(b gradingday.Briefing) (out []string) {
	if b.Results == gradingday.AtOnce {
		out = append(out, "Results are known as soon as the whole panel has signed.")
	} else {
		out = append(out, "The committee weighs marks, character and attendance; results are announced after that, not on the mat.")
	}
	again := "the whole test"
	if scope := Scope(b.Scope); scope != "" {
		again = strings.TrimPrefix(scope, ", ")
	}
	return append(out, fmt.Sprintf("Whoever is not there yet shows %s again, from %s on.", again, b.Retest.Long()))
}
