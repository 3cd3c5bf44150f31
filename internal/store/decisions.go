package store

import (
	"context"
	"slices"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// Decision is what a named person decided for a candidate.
type Decision struct {
	ID, CandidateID string
	Outcome         scoring.Outcome // promote, with honours, double or retest
	Proposal        scoring.Outcome // what the marks came to at that time
	Reason          string          // must be there where the two differ
	RetestFrom      civil.Date      // of a retest: the earliest day
	Scope           scoring.Scope   // of a retest; "" the grading's own
	Held            bool            // not to be announced with the others
	Correction      bool            // of a result that was announced
	DecidedBy       string
	At              time.Time
}

func bindDecision(d *Decision) []any {
	return []any{&d.ID, &d.CandidateID, &d.Outcome, &d.Proposal, &d.Reason, asDate{&d.RetestFrom}, &d.Scope, &d.Held, &d.Correction, &d.DecidedBy, asTime{&d.At}}
}

const decisionColumns = `d.id, d.candidate_id, d.outcome, d.proposal, d.reason, d.retest_from, d.scope, d.held, d.correction, d.decided_by, d.at`

// Note is a remark an examiner left on a line, or what was counted for it.
type Note struct {
	Examiner, Item, Text string
	Count                int
	ItemID               string
	Faults               []string // of the line, seen in this candidate
}

type signedSheet struct{ examiner, group string }

// Decide records a decision for a candidate in place of an earlier one, if any. What the
// marks propose is worked out anew in the same transaction.
func (s *Store) Decide(ctx context.Context, by By, d Decision) (Done, error) {
	if err := d.check(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, r, last, err := t.toDecide(ctx, d.CandidateID, nil)
		if err != nil {
			return "", office.Deed{}, err
		}
		d, err := t.decide(ctx, g, r, last, d)
		return d.ID, office.Deed{Kind: office.Decided, Who: r.StudentID, Outcome: d.Outcome}, err
	})
}

// Agree decides as the marks propose for several candidates, all or none.
func (s *Store) Agree(ctx context.Context, by By, candidates []string, decidedBy string) (Done, error) {
	if len(candidates) == 0 {
		return Done{}, check.Problems{{Field: "form", Text: "nobody is ticked; tick those whose proposal you agree with"}}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		deed := office.Deed{Kind: office.Agreed}
		read, agreed := reviews{}, map[string]bool{}
		for _, c := range candidates {
			g, r, last, err := t.toDecide(ctx, c, read)
			if err != nil {
				return "", office.Deed{}, err
			}
			if r.Decision != nil || agreed[c] {
				continue // decided already, perhaps otherwise, or ticked twice
			}
			agreed[c], deed.What = true, g.Title()
			if !r.Result.Outcome.Promotes() && r.Result.Outcome != scoring.OutcomeRetest {
				return "", office.Deed{}, refuse("Nothing was decided: the marks of %s come to no proposal one could agree with.", r.Name)
			}
			d := Decision{CandidateID: c, Outcome: r.Result.Outcome, DecidedBy: decidedBy}
			if err := d.check(); err != nil {
				return "", office.Deed{}, err
			}
			if _, err := t.decide(ctx, g, r, last, d); err != nil {
				return "", office.Deed{}, err
			}
		}
		if deed.N = len(agreed); deed.N == 0 {
			return "", office.Deed{}, nil // nothing was left to agree with
		}
		return "", deed, nil
	})
}

func (d *Decision) check() error {
	d.Reason, d.DecidedBy = check.Tidy(d.Reason), check.Tidy(d.DecidedBy)
	var p check.Problems
	check.OneOf(&p, "outcome", d.Outcome, []scoring.Outcome{scoring.OutcomePromote, scoring.OutcomeHonours, scoring.OutcomeDouble, scoring.OutcomeRetest})
	if d.Scope != "" {
		check.OneOf(&p, "scope", d.Scope, scoring.Scopes)
	}
	p.Line("reason", d.Reason, check.LineLength)
	p.Name("decided_by", d.DecidedBy)
	return p.Err()
}

// decide writes a decision in place of the last entry, and gives it as it is on record.
func (t *txn) decide(ctx context.Context, g Grading, r Reviewed, last string, d Decision) (Decision, error) {
	if len(r.Open) > 0 {
		return d, refuse("%s cannot be decided yet: %s has not signed.", r.Name, r.Open[0])
	}
	d.Proposal = r.Result.Outcome
	if d.Outcome != d.Proposal && d.Reason == "" {
		return d, check.Problems{{Field: "reason", Text: "this differs from what the marks propose; say why, it stays on record"}}
	}
	switch {
	case d.Outcome != scoring.OutcomeRetest:
		d.RetestFrom, d.Scope = civil.Date{}, scoring.ScopeWhole
	case d.RetestFrom.IsZero():
		d.RetestFrom = g.RetestFrom()
	case d.RetestFrom.Before(g.On):
		return d, check.Problems{{Field: "retest_from", Text: "a retest cannot be before the grading on " + g.On.Long()}}
	}
	if d.Scope == "" {
		d.Scope = g.RetestScope
	}
	d.ID = NewID()
	return d, t.exec(ctx, `INSERT INTO decision_event (id, candidate_id, outcome, proposal, reason, retest_from, scope, held, correction, decided_by, supersedes, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, nullif(?, ''), ?, ?)`,
		d.ID, d.CandidateID, d.Outcome, d.Proposal, d.Reason, dateOrNull(d.RetestFrom), d.Scope, d.Held, d.Correction, d.DecidedBy, last, t.by.Actor, t.at)
}

// Hold keeps a decision back when the others are announced, or lets it go with them again.
func (s *Store) Hold(ctx context.Context, by By, candidate string, held bool) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, r, last, err := t.toDecide(ctx, candidate, nil)
		if err != nil {
			return "", office.Deed{}, err
		}
		if r.Decision == nil {
			return "", office.Deed{}, refuse("%s has no decision that could be held.", r.Name)
		}
		d := *r.Decision
		d.Held = held
		deed := office.ResultHeld.Of(r.StudentID)
		if !held {
			deed.Kind = office.ResultLetGo
		}
		d, err = t.decide(ctx, g, r, last, d)
		return d.ID, deed, err
	})
}

// reviews are the gradings that were read in one transaction for several of their candidates. nil reads
// the one candidate alone.
type reviews map[string]*reviewedGrading

type reviewedGrading struct {
	Grading
	rows []Reviewed
	last map[string]string // candidate → the newest entry of its decisions
}

// toDecide reads a candidate under review and the newest entry of its decisions.
func (t *txn) toDecide(ctx context.Context, candidate string, read reviews) (Grading, Reviewed, string, error) {
	g, r, last, err := t.underReview(ctx, candidate, read)
	if err == nil && r.Announced {
		err = refuse("%s's result has been announced. What was announced stays on record; correct it with a new entry.", r.Name)
	}
	return g, r, last, err
}

// underReview is toDecide for results that were announced, too.
func (t *txn) underReview(ctx context.Context, candidate string, read reviews) (Grading, Reviewed, string, error) {
	of, err := one(ctx, t, func(id *string) []any { return []any{id} }, `SELECT grading_id FROM candidate WHERE id = ? AND withdrawn_at IS NULL`, candidate)
	if err != nil {
		return Grading{}, Reviewed{}, "", err
	}
	x, only := read[of], candidate
	if read != nil {
		only = ""
	}
	if x == nil {
		x = &reviewedGrading{}
		if x.Grading, x.rows, err = review(ctx, t, of, only); err != nil {
			return x.Grading, Reviewed{}, "", err
		}
		if x.last, err = t.lastDecisions(ctx, of); err != nil {
			return x.Grading, Reviewed{}, "", err
		}
		if read != nil {
			read[of] = x
		}
	}
	r := x.rows[slices.IndexFunc(x.rows, func(r Reviewed) bool { return r.ID == candidate })]
	if !x.Begun() {
		return x.Grading, r, "", refuse("This grading has not begun.")
	}
	return x.Grading, r, x.last[candidate], nil
}

// lastDecisions are the newest entries of the decisions of a grading, by candidate.
func (t *txn) lastDecisions(ctx context.Context, grading string) (map[string]string, error) {
	rows, err := list(ctx, t, func(x *[2]string) []any { return []any{&x[0], &x[1]} },
		`SELECT e.candidate_id, e.id FROM candidate c CROSS JOIN decision_event e ON e.candidate_id = c.id
		WHERE c.grading_id = ? AND NOT EXISTS (SELECT 1 FROM decision_event n WHERE n.supersedes = e.id)`, grading)
	out := map[string]string{}
	for _, x := range rows {
		out[x[0]] = x[1]
	}
	return out, err
}

// UndoDecision takes a decision back that has not been announced.
func (s *Store) UndoDecision(ctx context.Context, by By, candidate string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		_, r, last, err := t.toDecide(ctx, candidate, nil)
		if err != nil {
			return "", office.Deed{}, err
		}
		if r.Decision == nil {
			return "", office.Deed{}, refuse("%s has no decision to take back.", r.Name)
		}
		return candidate, office.DecisionWithdrawn.Of(r.StudentID), t.exec(ctx, `INSERT INTO decision_event (id, candidate_id, outcome, proposal, decided_by, supersedes, actor, at) VALUES (?, ?, 'undone', ?, ?, ?, ?, ?)`,
			NewID(), candidate, r.Result.Outcome, t.by.Actor, last, t.by.Actor, t.at)
	})
}

// CorrectResult replaces a result that was announced, as a new entry: the announcement and
// what it rested on stay on record. The rank follows in the same transaction.
func (s *Store) CorrectResult(ctx context.Context, by By, d Decision) (Done, error) {
	if err := d.check(); err != nil {
		return Done{}, err
	}
	if d.Reason == "" {
		return Done{}, check.Problems{{Field: "reason", Text: "is empty; say why the result is corrected, it stays on record"}}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, r, last, err := t.underReview(ctx, d.CandidateID, nil)
		if err != nil {
			return "", office.Deed{}, err
		}
		if !r.Announced || r.Decision == nil {
			return "", office.Deed{}, refuse("%s's result has not been announced; undo the decision instead.", r.Name)
		}
		if r.Decision.Outcome == d.Outcome {
			return "", office.Deed{}, check.Problems{{Field: "outcome", Text: "is what was announced; choose another"}}
		}
		if r.Referral != nil {
			return "", office.Deed{}, refuse("%s's referral has been settled; correct the rank on the student's page.", r.Name)
		}
		d.Correction = true
		d, err = t.decide(ctx, g, r, last, d)
		if err != nil {
			return "", office.Deed{}, err
		}
		stands, err := one(ctx, t, bindStanding, selectStanding+`WHERE e.id = ?`, r.EnrolmentID)
		if err != nil {
			return "", office.Deed{}, err
		}
		was, now := r.Decision.Outcome.Promotes(), d.Outcome.Promotes()
		switch {
		case was && stands.Rung.ID != r.To.ID || !was && stands.Rung.ID != r.From.ID:
			return "", office.Deed{}, refuse("%s stands on %s by now; correct the rank on the student's page.", r.Name, stands.Rung.Name)
		case !was && now, was && now: // with honours or without: the grade may change
			err = t.promote(ctx, g, r, d.Outcome)
		case was:
			from := r.From
			from.Name = r.FromWords
			since, e := one(ctx, t, func(on *civil.Date) []any { return []any{asDate{on}} }, `SELECT on_date FROM rank_entry WHERE enrolment_id = ? AND rung_id = ? ORDER BY rowid DESC LIMIT 1`, r.EnrolmentID, r.From.ID)
			if err = ignoreMissing(e); err == nil {
				if since.IsZero() {
					since = g.On
				}
				err = t.addGrade(ctx, r.EnrolmentID, from, since, progress.Corrected, progress.Why{Because: progress.BecauseCorrected, Reason: d.Reason}, r.ID, "")
			}
			if err == nil {
				err = t.handOut(ctx, r.ID, r.To.ID, r.StudentID, true)
			}
		}
		if err == nil {
			err = t.passed(ctx, g, r, d.Outcome)
		}
		return d.ID, office.Deed{Kind: office.ResultCorrected, Who: r.StudentID, Outcome: d.Outcome}, err
	})
}
