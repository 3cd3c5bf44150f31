package words

import (
	"fmt"
	"math"
	"slices"

	"velvetladder/internal/core/agreement"
	"velvetladder/internal/core/scoring"
)

// steady is the correlation from which a panel, or one examiner, is called steady enough to decide by.
const steady = 0.75

// StepsApart is a difference in scale steps, to the nearest tenth: 0.4 lower, 1.2 higher, as the others.
func StepsApart(steps float64) string {
	n := math.Round(math.Abs(steps) * 10)
	switch {
	case n == 0:
		return "as the others"
	case steps < 0:
		return fmt.Sprintf("%.1f lower", n/10)
	}
	return fmt.Sprintf("%.1f higher", n/10)
}

// Severity is how one examiner marks beside the others.
func Severity(s agreement.Severity) string {
	if !s.Enough {
		return "too few to say"
	}
	return StepsApart(s.Mean)
}

// SeverityRange is between what the severity of an examiner lies with 95 in 100; why not, where it is not computed.
func SeverityRange(s agreement.Severity) string {
	if !s.Enough {
		return fmt.Sprintf("%s on %s; it takes %d on %d candidates at least", Count(s.Marks, "mark"), Count(s.Candidates, "candidate"), agreement.FewMarks, agreement.FewCandidates)
	}
	return fmt.Sprintf("between %s and %s with 95 in 100, on %s", StepsApart(s.Low), StepsApart(s.High), Count(s.Candidates, "candidate"))
}

// AStep is what a step is on a scale: a mark, a half point.
func AStep(scale scoring.Scale) string {
	switch scale.Step {
	case scoring.Whole(1):
		return "one mark"
	case scoring.Whole(1) / 2:
		return "half a point"
	}
	return scale.Step.String() + " points"
}

// Beside says in a sentence or two who marks lower or higher, the furthest first, and how sure that is.
func Beside(all []agreement.Severity, scale scoring.Scale) (lead, sure string) {
	if len(all) == 0 {
		return "Nobody has marked beside another yet.", "It takes a panel of two at least who mark the same candidates, and have signed."
	}
	enough := slices.DeleteFunc(slices.Clone(all), func(s agreement.Severity) bool { return !s.Enough })
	if len(enough) == 0 {
		return "Too few marks stand beside each other to say who marks lower.", fmt.Sprintf("It takes %d marks on %d candidates that another examiner saw too.", agreement.FewMarks, agreement.FewCandidates)
	}
	far := slices.MaxFunc(enough, func(a, b agreement.Severity) int {
		if math.Abs(a.Mean) < math.Abs(b.Mean) {
			return -1
		}
		return 1
	})
	if !far.Sure() {
		return "Nobody marks lower or higher than chance would have it.", "What differs may be the luck of who was looked at."
	}
	way := "lower"
	if far.Mean > 0 {
		way = "higher"
	}
	lead = fmt.Sprintf("%s marks %.1f of a step %s than those who saw the same.", far.Examiner, math.Abs(far.Mean), way)
	if math.Abs(far.Mean) >= 0.95 {
		lead = fmt.Sprintf("%s marks %.1f steps %s than those who saw the same.", far.Examiner, math.Abs(far.Mean), way)
	}
	return lead, fmt.Sprintf("That is sure: %s. A step is %s.", SeverityRange(far), AStep(scale))
}

// AlikeChanges says how many of so many results would be others if all examiners had marked alike.
func AlikeChanges(results, up, down int) string {
	var parts []string
	if up > 0 {
		parts = append(parts, fmt.Sprintf("%s would have been %s", Count(up, "retest"), plainly(up, "a promotion", "promotions")))
	}
	if down > 0 {
		parts = append(parts, fmt.Sprintf("%s would have been none", Count(down, "promotion")))
	}
	if len(parts) == 0 {
		return fmt.Sprintf("If all had marked alike, none of %s would be another.", Count(results, "result"))
	}
	return fmt.Sprintf("If all had marked alike, %s, of %s.", joined(parts), Count(results, "result"))
}

func plainly(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}

func joined(parts []string) string {
	if len(parts) == 2 {
		return parts[0] + " and " + parts[1]
	}
	return parts[0]
}

// Moved is by how many points an examiner's marks are moved, rounded to hundredths of a point.
func Moved(by scoring.Decimal) string {
	sign := "+"
	if by < 0 {
		sign, by = "−", -by
	}
	hundredths := (by*100 + scoring.Whole(1)/2) / scoring.Whole(1)
	return fmt.Sprintf("%s%d.%02d", sign, hundredths/100, hundredths%100)
}

// Steady says what the correlations of a panel come to.
func Steady(c agreement.Correlation) string {
	together := fmt.Sprintf("A panel of these %d", len(c.Examiners))
	switch {
	case c.Single >= steady:
		return "Each of them alone is steady enough to decide by."
	case c.Average >= steady:
		return together + " is steady enough to decide by; one of them alone is not."
	}
	return together + " is not steady yet: talk over what a mark means, and mark together."
}

// Apart says what examiners gave to a thing, each by a letter and the mean of their marks; alike where they agree.
func Apart(p agreement.Part, letters map[string]string, scale scoring.Scale) string {
	if p.Agreement >= 0.95 {
		return "alike"
	}
	out := ""
	names := make([]string, 0, len(p.Means))
	for name := range p.Means {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		if out != "" {
			out += " · "
		}
		points := float64(scale.Lowest)/float64(scoring.Whole(1)) + p.Means[name]*float64(scale.Step)/float64(scoring.Whole(1))
		out += fmt.Sprintf("%s %.1f", letters[name], points)
	}
	return out
}
