package review

import (
	"html/template"
	"net/http"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

type labView struct {
	Grading  store.Grading
	Form     frame.Form
	Panels   []frame.Option
	Ties     []frame.Option
	Sections []string
	Rule     string // the grading's own policy in words
	Other    string // the one tried
	Rows     []labRow
	Changed  int
	Left     int // candidates whose panel has not signed
	Up, Down int
	Markings []frame.Option
	Alike    bool // as if all examiners marked alike
	Moved    []labMoved
}

// labMoved is by how much an examiner's marks are moved.
type labMoved struct{ Examiner, Words string }

type labRow struct {
	store.Relabelled
	Differs bool
	Was, Is []string // reasons
	Plumb   template.HTML
	Trouble string
	Decided scoring.Outcome
}

// labShow is the policy laboratory: the marks of a grading through another policy, side by
// side with its own. Nothing is stored.
func (ch *chapter) labShow(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	g, err := ch.records.Grading(r.Context(), id)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	q := r.URL.Query()
	v := labView{Grading: g, Panels: parts.PanelOptions, Ties: parts.TieOptions, Rule: parts.RuleWords(g)}
	other := g.Policy
	v.Form.Values = parts.PolicyValues(g.Policy)
	status := http.StatusOK
	if q.Get("panel") != "" {
		v.Form.Values = q
		var p check.Problems
		if other = parts.ReadPolicy(q, g.Policy, g.Marking, &p); len(p) > 0 {
			v.Form.Problems, status, other = p, http.StatusUnprocessableEntity, g.Policy
		} else if err := other.Check(); err != nil {
			p.Add("policy", "%s", err)
			v.Form.Problems, status, other = p, http.StatusUnprocessableEntity, g.Policy
		}
	}
	g, rows, err := ch.records.Laboratory(r.Context(), id, other)
	if err == nil && q.Get("alike") != "" {
		err = ch.tryAlike(r, &v, g, other, rows)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	tried := g
	tried.Policy = other
	v.Other = parts.RuleWords(tried)
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
		row.Was, row.Is = reasonsNamed(x.Result), reasonsNamed(x.Other)
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
	ch.Show(w, r, status, g.ProgramID, frame.Page{Screen: "lab", Title: "Policy laboratory", Nav: "gradings", Body: v})
}

// tryAlike puts the marks through the policy as if all examiners marked alike.
func (ch *chapter) tryAlike(r *http.Request, v *labView, g store.Grading, other scoring.Policy, rows []store.Relabelled) error {
	shift, err := ch.shiftOf(r, g)
	v.Alike = true
	for _, e := range g.Examiners {
		if by := shift[e.Name]; by != 0 {
			v.Moved = append(v.Moved, labMoved{e.Name, words.Moved(by)})
		}
	}
	for i := range rows {
		rows[i].Other, rows[i].Why = other.Decide(rows[i].Test.Alike(shift))
	}
	return err
}

func reasonsNamed(r scoring.Result) (out []string) {
	for _, reason := range r.Reasons {
		out = append(out, named(reason))
	}
	return out
}

// named is a reason with whose sheet it is about.
func named(r scoring.Reason) string {
	if r.Examiner != "" {
		return r.Examiner + ": " + words.Reason(r)
	}
	return words.Reason(r)
}
