// Package scoring turns examiners' marks into an outcome with its reasons.
//
// All arithmetic is exact: marks and points are Decimals (billionths), comparisons are
// of products or of ratios of integers, and no floating point number occurs.
package scoring

import (
	"errors"
	"fmt"
)

// ErrScheme is wrapped by every error about a scheme or policy that contradicts itself.
var ErrScheme = errors.New("scheme")

// Limits that keep every sum and product inside 64 and 128 bits.
const (
	MaxItems     = 1000 // items on one sheet
	MaxWeight    = 1000 // weight of one item
	MaxMark      = 1000 // highest mark of a scale, in points
	MaxSteps     = 100_000
	MaxExaminers = 99
)

// Label names one mark of a scale, for example 2 "sound".
type Label struct {
	Mark Decimal `json:"mark"`
	Word string  `json:"word"`
}

// Scale is the set of marks an examiner may give: Lowest, Lowest+Step … Highest, in points.
type Scale struct {
	Lowest  Decimal  `json:"lowest"`
	Highest Decimal  `json:"highest"`
	Step    Decimal  `json:"step"`
	Labels  []Label  `json:"labels,omitempty"`
	Failing *Decimal `json:"failing"` // the highest failing mark; nil: no mark fails by itself
	Honours *Decimal `json:"honours"` // the least mark of an honours sheet; nil: no honours
	Double  bool     `json:"double"`  // whether a sheet of highest marks is referred for double promotion
}

// SectionMinimum asks for at least Ratio (0 to 1) of the possible points of one section.
type SectionMinimum struct {
	Section string  `json:"section"`
	Ratio   Decimal `json:"ratio"`
}

// Rules are the conditions of a pass. A nil or empty rule is off; with no rule on, a
// complete sheet passes.
type Rules struct {
	Threshold      *Decimal         `json:"threshold"`        // points of the full sheet; exactly at it passes
	SectionMinima  []SectionMinimum `json:"section_minima"`   // before deductions
	AllowedFailing *int             `json:"allowed_failing"`  // how many counted items may have a failing mark
	IgnoreMustPass bool             `json:"ignore_must_pass"` // must-pass items are then items like others
	MinimumSeen    *Decimal         `json:"minimum_seen"`     // least share of counted items seen, by number; nil: 3/4
}

// PanelRule says how a panel's sheets become one result.
type PanelRule string

// The panel rules.
const (
	Majority    PanelRule = "majority"
	Mean        PanelRule = "mean"
	Median      PanelRule = "median"
	TrimmedMean PanelRule = "trimmed_mean" // with fewer than five complete sheets the plain mean
)

// TieRule says what an even split of a majority panel becomes.
type TieRule string

// The tie rules. TieChief gives the committee the decision when the chief examiner has no
// complete sheet.
const (
	TieChief     TieRule = "chief"
	TieRetest    TieRule = "retest"
	TieCommittee TieRule = "committee"
)

// Policy is everything but the marks: scale, rules of a pass and rules of the panel. A
// grading keeps a copy of its own.
type Policy struct {
	Scale  Scale     `json:"scale"`
	Rules  Rules     `json:"rules"`
	Panel  PanelRule `json:"panel"`
	Tie    TieRule   `json:"tie"`
	Quorum int       `json:"quorum"` // complete sheets needed; 0: more than half of the panel
}

// defaultMinimumSeen is three quarters of the counted items.
const defaultMinimumSeen Decimal = unit * 3 / 4

func (r Rules) minimumSeen() Decimal {
	if r.MinimumSeen != nil {
		return *r.MinimumSeen
	}
	return defaultMinimumSeen
}

func ptr[T any](v T) *T { return &v }

// MovementScale marks each line 0 to 4; 0 and 1 fail. Up to two failing lines are
// allowed, none on a must-pass line; a majority of the panel decides.
func MovementScale() Policy {
	return Policy{
		Scale: Scale{
			Highest: Whole(4), Step: Whole(1), Failing: ptr(Whole(1)), Honours: ptr(Whole(3)),
			Labels: []Label{
				{Whole(0), "not known"}, {Whole(1), "not right yet"}, {Whole(2), "sound"},
				{Whole(3), "strong"}, {Whole(4), "outstanding"},
			},
		},
		Rules: Rules{AllowedFailing: ptr(2)},
		Panel: Majority, Tie: TieChief,
	}
}

// CategoryPoints marks each category 0 to 10 in half points and holds the sum against a
// threshold given in points of the full sheet.
func CategoryPoints(threshold Decimal) Policy {
	return Policy{
		Scale: Scale{Highest: Whole(10), Step: Whole(1) / 2, Honours: ptr(Whole(9))},
		Rules: Rules{Threshold: &threshold},
		Panel: Majority, Tie: TieChief,
	}
}

// SignOff marks each line 0 (not yet) or 1 (shown); 0 fails.
func SignOff() Policy {
	return Policy{
		Scale: Scale{
			Highest: Whole(1), Step: Whole(1), Failing: ptr(Whole(0)),
			Labels: []Label{{Whole(0), "not yet"}, {Whole(1), "shown"}},
		},
		Rules: Rules{AllowedFailing: ptr(0)},
		Panel: Majority, Tie: TieChief,
	}
}

// Holds reports whether m is a mark of the scale.
func (s Scale) Holds(m Decimal) bool {
	return m >= s.Lowest && m <= s.Highest && (m-s.Lowest)%s.Step == 0
}

// Fails reports whether a mark fails by itself.
func (s Scale) Fails(mark Decimal) bool { return s.Failing != nil && mark <= *s.Failing }

// Describe says which marks the scale has: "0 to 10 in steps of 0.5".
func (s Scale) Describe() string {
	return fmt.Sprintf("%s to %s in steps of %s", s.Lowest, s.Highest, s.Step)
}

// Word is the scale's label of a mark, or "" where it has none.
func (s Scale) Word(m Decimal) string {
	for _, l := range s.Labels {
		if l.Mark == m {
			return l.Word
		}
	}
	return ""
}

// FieldError says which field of a policy, item or sheet is wrong. Path is a JSON path
// such as "scheme.step".
type FieldError struct {
	Path, Problem string
}

// Error gives path and problem.
func (e *FieldError) Error() string { return e.Path + ": " + e.Problem }

// Unwrap makes errors.Is(err, ErrScheme) true.
func (e *FieldError) Unwrap() error { return ErrScheme }

func wrong(path, format string, args ...any) error {
	return &FieldError{path, fmt.Sprintf(format, args...)}
}

// Check reports the first contradiction of a policy as a *FieldError.
// It is long: a rule for each field.
func (p Policy) Check() error {
	s, r := p.Scale, p.Rules
	switch {
	case s.Lowest < 0:
		return wrong("scale.lowest", "is %s; it must be 0 or more", s.Lowest)
	case s.Highest <= s.Lowest:
		return wrong("scale.highest", "is %s; it must be above the lowest mark %s", s.Highest, s.Lowest)
	case s.Highest > Whole(MaxMark):
		return wrong("scale.highest", "is %s; it must be at most %d", s.Highest, MaxMark)
	case s.Step <= 0:
		return wrong("scale.step", "is %s; it must be above 0", s.Step)
	case (s.Highest-s.Lowest)%s.Step != 0:
		return wrong("scale.step", "is %s; whole steps from %s must reach %s", s.Step, s.Lowest, s.Highest)
	case (s.Highest-s.Lowest)/s.Step > MaxSteps:
		return wrong("scale.step", "is %s; a scale has at most %d steps", s.Step, MaxSteps)
	case s.Failing != nil && (!s.Holds(*s.Failing) || *s.Failing == s.Highest):
		return wrong("scale.failing", "is %s; it must be a mark of the scale (%s) below the highest", *s.Failing, s.Describe())
	case s.Honours != nil && !s.Holds(*s.Honours):
		return wrong("scale.honours", "is %s; it must be a mark of the scale (%s)", *s.Honours, s.Describe())
	case r.Threshold != nil && (*r.Threshold < 0 || *r.Threshold > Whole(MaxItems*MaxMark*MaxWeight)):
		return wrong("rules.threshold", "is %s; it must be from 0 to %d", *r.Threshold, MaxItems*MaxMark*MaxWeight)
	case r.AllowedFailing != nil && *r.AllowedFailing < 0:
		return wrong("rules.allowed_failing", "is %d; it must be 0 or more", *r.AllowedFailing)
	case r.MinimumSeen != nil && (*r.MinimumSeen < 0 || *r.MinimumSeen > Whole(1)):
		return wrong("rules.minimum_seen", "is %s; it must be from 0 to 1", *r.MinimumSeen)
	case p.Quorum < 0 || p.Quorum > MaxExaminers:
		return wrong("panel.quorum", "is %d; it must be from 0 to %d", p.Quorum, MaxExaminers)
	}
	seen := map[Decimal]bool{}
	for i, l := range s.Labels {
		if !s.Holds(l.Mark) {
			return wrong(fmt.Sprintf("scale.labels[%d].mark", i), "is %s; the scale is %s", l.Mark, s.Describe())
		}
		if seen[l.Mark] {
			return wrong(fmt.Sprintf("scale.labels[%d].mark", i), "%s has a label already", l.Mark)
		}
		seen[l.Mark] = true
	}
	sections := map[string]bool{}
	for i, m := range r.SectionMinima {
		path := fmt.Sprintf("rules.section_minima[%d]", i)
		if m.Ratio < 0 || m.Ratio > Whole(1) {
			return wrong(path+".ratio", "is %s; it must be from 0 to 1", m.Ratio)
		}
		if sections[m.Section] {
			return wrong(path+".section", "%q has a minimum already", m.Section)
		}
		sections[m.Section] = true
	}
	switch p.Panel {
	case Majority, Mean, Median, TrimmedMean:
	default:
		return wrong("panel.rule", "is %q; it must be majority, mean, median or trimmed_mean", p.Panel)
	}
	switch p.Tie {
	case TieChief, TieRetest, TieCommittee:
	default:
		return wrong("panel.tie", "is %q; it must be chief, retest or committee", p.Tie)
	}
	return nil
}
