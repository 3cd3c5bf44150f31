package parts

import (
	"net/http"
	"slices"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
)

// ResultView is a result as the family and the office read it.
type ResultView struct {
	store.Told
	Letter gradingday.Letter
	Grade  string // provisional or permanent; "" where the school has no such grades
	Second string // the second rung of a double promotion that was granted; "" none
	rungID string
	Again  []string
	Early  bool // not announced yet
	School string
	Today  civil.Date
	Home   string // of the family's link; "" in the office
}

// RungID is the rung the student stands on by this result: the second of a double promotion.
func (v ResultView) RungID() string { return v.rungID }

// Rank is what that rung is called.
func (v ResultView) Rank() string {
	if v.Second != "" {
		return v.Second
	}
	return v.ToWords
}

// Honours reports whether the promotion was with honours; the highest marks include them.
func (v ResultView) Honours() bool {
	return v.Decision.Outcome == scoring.OutcomeHonours || v.Decision.Outcome == scoring.OutcomeDouble
}

// ResultOf is the view of one candidate’s result.
func (ps *Parts) ResultOf(r *http.Request, x store.Told) (ResultView, error) {
	v := ResultView{Told: x, Early: !x.Announced, Today: ps.records.Today()}
	notes, seen := map[string][]string{}, map[string][]string{}
	for _, n := range x.Notes {
		if n.Text != "" {
			notes[n.ItemID] = append(notes[n.ItemID], n.Text)
		}
		for _, f := range n.Faults {
			if !slices.Contains(seen[n.ItemID], f) {
				seen[n.ItemID] = append(seen[n.ItemID], f)
			}
		}
	}
	lines := [][]curriculum.Line{}
	for _, it := range x.Items {
		lines = append(lines, it.Lines)
	}
	v.Letter = gradingday.LetterOf(x.Grading.Policy, x.Test, lines, notes, seen)
	b, err := ps.records.Book(r.Context(), x.Grading.ProgramID)
	if err != nil {
		return v, err
	}
	v.rungID = x.To.ID
	if x.Referral != nil && x.Referral.Granted {
		if up := b.Above(x.To.ID); up != nil {
			v.Second, v.rungID = up.Name, up.ID
		}
	}
	if x.Decision.Outcome.Promotes() && b.Program.PermanentFrom != "" {
		v.Grade = "permanent"
		if b.Provisional(v.rungID) && (v.Second != "" || x.Decision.Outcome == scoring.OutcomePromote) {
			v.Grade = "provisional"
		}
	}
	if x.Decision.Outcome == scoring.OutcomeRetest && x.Decision.Scope != scoring.ScopeWhole {
		for _, k := range x.Grading.Policy.Again(x.Test, x.Decision.Scope).Items {
			v.Again = append(v.Again, x.Test.Items[k].Name())
		}
	}
	v.School, err = ps.records.School(r.Context())
	return v, err
}
