package store

import (
	"context"
	"slices"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/scoring"
)

// carriedFor is what an enrolment need not show again for a rung: the items that stand from
// the last attempt, by key, with the day of it. Nothing where that attempt was no retest, its
// scope is whole, it lies too far back, or its marks are on another scale.
// kept are the requirements of that attempt's sheet: what was drawn is not drawn anew.
func (t *txn) carriedFor(ctx context.Context, g Grading, enrolment, rung string) (stands map[string]scoring.Decimal, kept []string, on civil.Date, err error) {
	type attempt struct {
		candidate, grading string
		outcome            scoring.Outcome
		scope              scoring.Scope
		on                 civil.Date
	}
	last, err := list(ctx, t, func(a *attempt) []any {
		return []any{&a.candidate, &a.grading, &a.outcome, &a.scope, asDate{&a.on}}
	}, `SELECT c.id, g.id, d.outcome, d.scope, g.on_date FROM candidate c JOIN announcement a ON a.candidate_id = c.id JOIN decision d ON d.candidate_id = c.id JOIN grading g ON g.id = c.grading_id
		WHERE c.enrolment_id = ? AND c.to_rung_id = ? AND c.withdrawn_at IS NULL AND g.id <> ? AND g.deleted_at IS NULL ORDER BY g.on_date DESC, a.at DESC LIMIT 1`, enrolment, rung, g.ID)
	if err != nil || len(last) == 0 || last[0].outcome != scoring.OutcomeRetest || last[0].scope == scoring.ScopeWhole {
		return nil, nil, civil.Date{}, err
	}
	old, rows, err := review(ctx, t, last[0].grading, last[0].candidate)
	if err != nil || len(rows) == 0 || old.On.AddDays(old.CarryDays).Before(g.On) || old.Marking != g.Marking {
		return nil, nil, civil.Date{}, err
	}
	again := old.Policy.Again(rows[0].Test, last[0].scope)
	stands = map[string]scoring.Decimal{}
	for k, it := range rows[0].Items {
		for _, l := range it.Lines {
			kept = append(kept, l.RequirementID)
		}
		if !slices.Contains(again.Items, k) && !it.Bonus && g.Policy.Scale.Holds(again.Carried[k]) {
			stands[it.Key(g.Marking)] = again.Carried[k]
		}
	}
	return stands, kept, last[0].on, nil
}
