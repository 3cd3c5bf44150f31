package parts

import (
	"fmt"
	"net/url"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

// RuleWords says the policy of a grading in one line.
func RuleWords(g store.Grading) string {
	var parts []string
	if t := g.Policy.Rules.Threshold; t != nil {
		parts = append(parts, "threshold "+t.String()+" points")
	}
	if n := g.Policy.Rules.AllowedFailing; n != nil {
		if *n == 0 {
			parts = append(parts, "no failing line")
		} else {
			parts = append(parts, "up to "+words.Count(*n, "failing line"))
		}
	}
	for _, m := range g.Policy.Rules.SectionMinima {
		parts = append(parts, m.Section+" at least "+percentWords(m.Ratio)+" %")
	}
	if g.Policy.Rules.IgnoreMustPass {
		parts = append(parts, "must-pass lines count like others")
	}
	panel := "one examiner"
	if n := len(g.Panel(0)); n > 1 {
		panel = strings.ReplaceAll(string(g.Policy.Panel), "_", " ") + " of " + strconv.Itoa(n)
		if q := g.Policy.Quorum; q > 0 {
			panel += ", " + strconv.Itoa(q) + " needed"
		}
	}
	if len(g.Rings) > 1 {
		panel += " in each of " + strconv.Itoa(len(g.Rings)) + " rings"
	}
	parts = append(parts, panel)
	if g.Results == gradingday.AtOnce {
		parts = append(parts, "results at once")
	}
	if scope := words.Scope(g.RetestScope); scope != "" {
		parts = append(parts, "a retest asks "+scope)
	}
	return strings.Join(parts, " · ")
}

// PanelOptions are the rules of a panel.
var PanelOptions = []frame.Option{{Value: "majority", Label: "majority of the panel"}, {Value: "mean", Label: "mean"},
	{Value: "median", Label: "median"}, {Value: "trimmed_mean", Label: "trimmed mean: without the highest and the lowest"}}

// TieOptions are the rules of a tie.
var TieOptions = []frame.Option{{Value: "chief", Label: "the chief examiner's sheet decides"}, {Value: "retest", Label: "it is a retest"}, {Value: "committee", Label: "the committee decides"}}

// PolicyValues are the fields of a policy's form.
func PolicyValues(p scoring.Policy) url.Values {
	v := frame.Values("panel", string(p.Panel), "tie", string(p.Tie))
	if p.Quorum > 0 {
		v.Set("quorum", strconv.Itoa(p.Quorum))
	}
	if t := p.Rules.Threshold; t != nil {
		v.Set("threshold", t.String())
	}
	if n := p.Rules.AllowedFailing; n != nil {
		v.Set("allowed_failing", strconv.Itoa(*n))
	}
	if m := p.Rules.MinimumSeen; m != nil {
		v.Set("minimum_seen", percentWords(*m))
	}
	if h := p.Scale.Honours; h != nil {
		v.Set("honours", h.String())
	}
	if p.Scale.Double {
		v.Set("double", "1")
	}
	if p.Rules.IgnoreMustPass {
		v.Set("ignore_must_pass", "1")
	}
	var minima []string
	for _, m := range p.Rules.SectionMinima {
		minima = append(minima, m.Section+" "+percentWords(m.Ratio))
	}
	v.Set("minima", strings.Join(minima, "\n"))
	return v
}

// percentWords is a ratio from 0 to 1 in hundredths.
func percentWords(d scoring.Decimal) string { return (100 * d).String() }

// UsualPolicy is what a school of marking begins with.
func UsualPolicy(marking gradingday.Marking) scoring.Policy {
	switch marking {
	case gradingday.CategoryPoints:
		return scoring.CategoryPoints(0)
	case gradingday.SignOff:
		return scoring.SignOff()
	}
	return scoring.MovementScale()
}

// ReadPolicy reads the fields of a policy on the scale and panel rule of base.
func ReadPolicy(v url.Values, base scoring.Policy, marking gradingday.Marking, p *check.Problems) scoring.Policy {
	policy := base
	policy.Rules = scoring.Rules{}
	number := func(field, hint string) *scoring.Decimal {
		text := strings.TrimSuffix(strings.TrimSpace(v.Get(field)), "%")
		if text == "" {
			return nil
		}
		d, err := scoring.ParseDecimal(strings.TrimSpace(text))
		if err != nil {
			p.Add(field, "%s; %s", err, hint)
			return nil
		}
		return &d
	}
	policy.Rules.Threshold = number("threshold", "write points such as 49 or 48.5, or leave it empty for none")
	if policy.Rules.Threshold == nil && marking == gradingday.CategoryPoints && p.Of("threshold") == "" {
		p.Add("threshold", "is empty; category points are held against a sum, for example 49 of 70")
	}
	if policy.Scale.Failing != nil {
		if strings.TrimSpace(v.Get("allowed_failing")) != "" {
			n := p.Whole("allowed_failing", v.Get("allowed_failing"), 0, 100, 0)
			policy.Rules.AllowedFailing = &n
		}
	}
	if v.Get("panel") == "" { // a form that does not ask for more: the usual rules
		return policy
	}
	check.OneOf(p, "panel", scoring.PanelRule(v.Get("panel")), []scoring.PanelRule{scoring.Majority, scoring.Mean, scoring.Median, scoring.TrimmedMean})
	policy.Panel = scoring.PanelRule(v.Get("panel"))
	if tie := v.Get("tie"); tie != "" {
		check.OneOf(p, "tie", scoring.TieRule(tie), []scoring.TieRule{scoring.TieChief, scoring.TieRetest, scoring.TieCommittee})
		policy.Tie = scoring.TieRule(tie)
	}
	policy.Quorum = p.Whole("quorum", v.Get("quorum"), 0, gradingday.MaxPanel, 0)
	ratio := func(field string, d *scoring.Decimal) *scoring.Decimal {
		if d == nil {
			return nil
		}
		if *d < 0 || *d > scoring.Whole(100) || *d%100 != 0 {
			p.Add(field, "is %s; write percent from 0 to 100", *d)
			return nil
		}
		x := *d / 100
		return &x
	}
	if m := ratio("minimum_seen", number("minimum_seen", "write percent such as 75, or leave it empty for three quarters")); m != nil {
		policy.Rules.MinimumSeen = m
	}
	policy.Scale.Honours = number("honours", "write a mark of the scale, or leave it empty for no honours")
	policy.Scale.Double = v.Get("double") != ""
	policy.Rules.IgnoreMustPass = v.Get("ignore_must_pass") != ""
	policy.Rules.SectionMinima = readMinima(v.Get("minima"), p)
	return policy
}

// readMinima are the least shares of sections, a line each: Kicks 60.
func readMinima(text string, p *check.Problems) (out []scoring.SectionMinimum) {
	for i, line := range strings.Split(text, "\n") {
		if line = check.Tidy(line); line == "" {
			continue
		}
		at := strings.LastIndex(line, " ")
		if at < 0 {
			p.Add("minima", "line %d: %q has no percent; write for example Kicks 60", i+1, line)
			continue
		}
		d, err := scoring.ParseDecimal(strings.TrimSuffix(line[at+1:], "%"))
		if err != nil || d < 0 || d > scoring.Whole(100) || d%100 != 0 {
			p.Add("minima", "line %d: %q is no percent from 0 to 100; write for example Kicks 60", i+1, line[at+1:])
			continue
		}
		out = append(out, scoring.SectionMinimum{Section: strings.TrimSpace(line[:at]), Ratio: d / 100})
	}
	return out
}

// DetailValues fills the form of what belongs to a program as a whole.
func DetailValues(d curriculum.ProgramDetails) url.Values {
	v := frame.Values("counting", strings.Join(d.Counting, ", "), "opening", strings.Join(d.Opening, "\n"),
		"closing", strings.Join(d.Closing, "\n"), "permanent_from", d.PermanentFrom, "marking", string(d.Marking),
		"side_means", string(d.SideMeans), "voice", string(d.Voice), "brackets", string(d.Brackets))
	var meanings []string
	for _, m := range d.Meanings {
		meanings = append(meanings, m.String())
	}
	v.Set("words", strings.Join(meanings, "\n"))
	for i, t := range d.Tracks {
		at := fmt.Sprintf("track_%d_", i)
		for name, value := range map[string]string{"id": t.ID, "name": t.Name, "from": Positive(t.From), "to": Positive(t.To), "young": Word(t.Young), "risk": Word(t.AllowsRisk)} {
			v.Set(at+name, value)
		}
	}
	for i, g := range d.Groups {
		at := fmt.Sprintf("group_%d_", i)
		for name, value := range map[string]string{"id": g.ID, "name": g.Name, "draw": strconv.Itoa(g.Draw), "outright": Word(g.Outright)} {
			v.Set(at+name, value)
		}
	}
	var commands []string
	for _, c := range d.Commands {
		commands = append(commands, c.Word+" = "+c.Meaning)
	}
	v.Set("commands", strings.Join(commands, "\n"))
	v.Set("attacks", strings.Join(d.AttackLines(), "\n"))
	if d.Policy != nil {
		if t := d.Policy.Rules.Threshold; t != nil {
			v.Set("threshold", t.String())
		}
		if n := d.Policy.Rules.AllowedFailing; n != nil {
			v.Set("allowed_failing", strconv.Itoa(*n))
		}
	}
	return v
}
