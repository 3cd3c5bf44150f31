package web

import (
	"html/template"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
)

type labView struct {
	Grading  store.Grading
	Form     form
	Panels   []option
	Ties     []option
	Sections []string
	Rule     string // the grading's own policy in words
	Other    string // the one tried
	Rows     []labRow
	Changed  int
	Left     int // candidates whose panel has not signed
	Up, Down int
	Markings []option
}

type labRow struct {
	store.Relabelled
	Differs bool
	Was, Is []string // reasons
	Plumb   template.HTML
	Trouble string
	Decided scoring.Outcome
}

var panelOptions = []option{{"majority", "majority of the panel"}, {"mean", "mean"}, {"median", "median"}, {"trimmed_mean", "trimmed mean: without the highest and the lowest"}}
var tieOptions = []option{{"chief", "the chief examiner's sheet decides"}, {"retest", "it is a retest"}, {"committee", "the committee decides"}}

// labShow is the policy laboratory: the marks of a grading through another policy, side by
// side with its own. Nothing is stored.
func (a *app) labShow(w http.ResponseWriter, r *http.Request) {
	id := chi.URLParam(r, "grading")
	g, err := a.store.Grading(r.Context(), id)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	q := r.URL.Query()
	v := labView{Grading: g, Panels: panelOptions, Ties: tieOptions, Rule: ruleWords(g)}
	other := g.Policy
	v.Form.Values = policyValues(g.Policy)
	status := http.StatusOK
	if q.Get("panel") != "" {
		v.Form.Values = q
		var p check.Problems
		if other = readPolicy(q, g.Policy, g.Marking, &p); len(p) > 0 {
			v.Form.Problems, status, other = p, http.StatusUnprocessableEntity, g.Policy
		} else if err := other.Check(); err != nil {
			p.Add("policy", "%s", err)
			v.Form.Problems, status, other = p, http.StatusUnprocessableEntity, g.Policy
		}
	}
	g, rows, err := a.store.Laboratory(r.Context(), id, other)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	tried := g
	tried.Policy = other
	v.Other = ruleWords(tried)
	seen := map[string]bool{}
	for _, x := range rows {
		row := labRow{Relabelled: x, Differs: x.Other.Outcome != x.Result.Outcome}
		if x.Why != nil {
			row.Trouble, row.Differs = x.Why.Error(), true
		}
		for _, it := range x.Items {
			if !seen[it.Section] {
				seen[it.Section] = true
				v.Sections = append(v.Sections, it.Section)
			}
		}
		for _, reason := range x.Result.Reasons {
			row.Was = append(row.Was, named(reason))
		}
		for _, reason := range x.Other.Reasons {
			row.Is = append(row.Is, named(reason))
		}
		if row.Differs {
			v.Changed++
			switch {
			case x.Other.Outcome.Promotes() && !x.Result.Outcome.Promotes():
				v.Up++
			case !x.Other.Outcome.Promotes() && x.Result.Outcome.Promotes():
				v.Down++
			}
		}
		v.Rows = append(v.Rows, row)
	}
	v.Left = g.Candidates - len(rows)
	a.show(w, r, status, g.ProgramID, page{Screen: "lab", Title: "Policy laboratory", Nav: "gradings", Body: v})
}

// named is a reason with whose sheet it is about.
func named(r scoring.Reason) string {
	if r.Examiner != "" {
		return r.Examiner + ": " + r.Text
	}
	return r.Text
}

// policyValues are the fields of a policy's form.
func policyValues(p scoring.Policy) url.Values {
	v := values("panel", string(p.Panel), "tie", string(p.Tie))
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

// usualPolicy is what a school of marking begins with.
func usualPolicy(marking gradingday.Marking) scoring.Policy {
	switch marking {
	case gradingday.CategoryPoints:
		return scoring.CategoryPoints(0)
	case gradingday.SignOff:
		return scoring.SignOff()
	}
	return scoring.MovementScale()
}

// readPolicy reads the fields of a policy on the scale and panel rule of base.
func readPolicy(v url.Values, base scoring.Policy, marking gradingday.Marking, p *check.Problems) scoring.Policy {
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
	for i, line := range strings.Split(v.Get("minima"), "\n") {
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
		policy.Rules.SectionMinima = append(policy.Rules.SectionMinima, scoring.SectionMinimum{Section: strings.TrimSpace(line[:at]), Ratio: d / 100})
	}
	return policy
}
