package store

import (
	"context"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// Referral is what became of a referral for double promotion.
type Referral struct {
	CandidateID       string
	Granted           bool
	TestedAt          string // the grading at which the second rung is tested instead; "" none
	Reason, DecidedBy string
}

func bindReferral(r *Referral) []any {
	return []any{&r.CandidateID, &r.Granted, asText{&r.TestedAt}, &r.Reason, &r.DecidedBy}
}

// SettleReferral grants the second rung of a double promotion, sets its test, or lets the first stand. It is
// a named person's decision with a reason, for a referral that was announced.
func (s *Store) SettleReferral(ctx context.Context, by By, x Referral) (Done, error) {
	x.Reason, x.DecidedBy = check.Tidy(x.Reason), check.Tidy(x.DecidedBy)
	var p check.Problems
	p.Name("decided_by", x.DecidedBy)
	if p.Line("reason", x.Reason, check.LineLength); x.Reason == "" {
		p.Add("reason", "is empty; say why, it stays on record")
	}
	if x.Granted && x.TestedAt != "" {
		p.Add("tested_at", "is chosen, and the second rung granted; one of the two")
	}
	if err := p.Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, r, _, err := t.underReview(ctx, x.CandidateID, nil)
		if err != nil {
			return "", office.Deed{}, err
		}
		switch {
		case !r.Announced || r.Decision == nil || r.Decision.Outcome != scoring.OutcomeDouble:
			return "", office.Deed{}, refuse("%s was not referred for double promotion, or it is not announced yet.", r.Name)
		case r.Referral != nil:
			return "", office.Deed{}, refuse("%s's referral has been settled by %s.", r.Name, r.Referral.DecidedBy)
		}
		if err := t.exec(ctx, `INSERT INTO referral_event (id, candidate_id, granted, grading_id, reason, decided_by, actor, at) VALUES (?, ?, ?, nullif(?, ''), ?, ?, ?, ?)`,
			NewID(), x.CandidateID, x.Granted, x.TestedAt, x.Reason, x.DecidedBy, t.by.Actor, t.at); err != nil {
			return "", office.Deed{}, err
		}
		deed, err := t.secondRung(ctx, g, r, x)
		return x.CandidateID, deed, err
	})
}

// secondRung does what a referral came to.
func (t *txn) secondRung(ctx context.Context, g Grading, r Reviewed, x Referral) (office.Deed, error) {
	if !x.Granted && x.TestedAt == "" {
		return office.ReferralRefused.Of(r.StudentID), nil
	}
	stands, err := one(ctx, t, bindStanding, selectStanding+`WHERE e.id = ?`, r.EnrolmentID)
	if err != nil {
		return office.Deed{}, err
	}
	book, err := t.book(ctx, g.ProgramID)
	if err != nil {
		return office.Deed{}, err
	}
	up := book.Above(r.To.ID)
	if stands.Rung.ID != r.To.ID || up == nil {
		return office.Deed{}, refuse("%s stands on %s; there is no second rung to climb from there.", r.Name, stands.Rung.Name)
	}
	if !x.Granted {
		at, err := grading(ctx, t, x.TestedAt)
		if err != nil {
			return office.Deed{}, err
		}
		if !at.ClosedAt.IsZero() || at.On.Before(t.s.Today()) {
			return office.Deed{}, refuse("%s is over; choose a grading that is still to come, or plan one.", at.Title())
		}
		return office.Deed{Kind: office.ReferralTested, Who: r.StudentID, What: up.Name, In: at.Title()}, t.enter(ctx, at, []Entrant{{r.EnrolmentID, up.ID, x.Reason}})
	}
	if err := t.handOut(ctx, r.ID, up.ID, r.StudentID, false); err != nil {
		return office.Deed{}, err
	}
	return office.Deed{Kind: office.ReferralGranted, Who: r.StudentID, What: up.Name},
		t.addGrade(ctx, r.EnrolmentID, *up, g.On, progress.Promoted, progress.Why{Because: progress.BecauseDouble, Reason: x.Reason}, r.ID, grade(book, up.ID, false))
}
