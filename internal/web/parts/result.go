package parts

import (
	"net/http"

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
	Again  []string
	Early  bool // not announced yet
	School string
	Today  civil.Date
	Home   string // of the family's link; "" in the office
}

// ResultOf is the view of one candidate’s result.
func (ps *Parts) ResultOf(r *http.Request, x store.Told) (ResultView, error) {
	v := ResultView{Told: x, Early: !x.Announced, Today: ps.records.Today()}
	notes := map[string][]string{}
	for _, n := range x.Notes {
		for _, it := range x.Items {
			if it.Label == n.Item && n.Text != "" {
				notes[it.ID] = append(notes[it.ID], n.Text)
			}
		}
	}
	lines := [][]curriculum.Line{}
	for _, it := range x.Items {
		lines = append(lines, it.Lines)
	}
	v.Letter = gradingday.LetterOf(x.Grading.Policy, x.Test, lines, notes)
	b, err := ps.records.Book(r.Context(), x.Grading.ProgramID)
	if err != nil {
		return v, err
	}
	if x.Decision.Outcome.Promotes() && b.Program.PermanentFrom != "" {
		v.Grade = "permanent"
		if b.Provisional(x.To.ID) && x.Decision.Outcome == scoring.OutcomePromote {
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
