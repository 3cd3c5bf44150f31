package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// Announce makes decisions known, in one transaction: whoever is promoted stands on the new
// rung from the day of the grading on. All of the candidates are announced, or none.
func (s *Store) Announce(ctx context.Context, by By, gradingID string, ids []string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, rows, err := review(ctx, t, gradingID, "")
		if err != nil {
			return "", office.Deed{}, err
		}
		n, err := t.announce(ctx, g, rows, func(r Reviewed) bool { return slices.Contains(ids, r.ID) })
		return gradingID, office.Deed{Kind: office.Announced, N: n, What: g.Title()}, err
	})
}

// announce makes the results of the chosen known, and says how many.
func (t *txn) announce(ctx context.Context, g Grading, rows []Reviewed, chosen func(Reviewed) bool) (n int, err error) {
	for _, r := range rows {
		if !chosen(r) || r.Announced {
			continue
		}
		if r.Decision == nil {
			return 0, refuse("%s has no decision yet; nothing was announced.", r.Name)
		}
		promotes := r.Decision.Outcome.Promotes()
		if promotes {
			stands, err := one(ctx, t, bindStanding, selectStanding+`WHERE e.id = ?`, r.EnrolmentID)
			if err != nil {
				return 0, err
			}
			if stands.Rung.ID != r.From.ID {
				return 0, &Refused{fmt.Sprintf("%s was tested from %s but stands on %s now; nothing was announced. Correct the rank, or undo the decision.", r.Name, r.FromWords, stands.Rung.Name), r.StudentID}
			}
		}
		n++
		if err := t.exec(ctx, `INSERT INTO announcement (candidate_id, decision_id, actor, at) VALUES (?, ?, ?, ?)`, r.ID, r.Decision.ID, t.by.Actor, t.at); err != nil {
			return 0, err
		}
		if err := t.passed(ctx, g, r, r.Decision.Outcome); err != nil {
			return 0, err
		}
		if !promotes {
			continue
		}
		if err := t.promote(ctx, g, r, r.Decision.Outcome); err != nil {
			return 0, err
		}
	}
	if n == 0 {
		return 0, refuse("Nothing is decided that has not been announced.")
	}
	return n, nil
}

// atOnce makes results known as soon as the whole panel of a group has signed, as the marks
// propose, where the grading says so. What the marks make no proposal for, and whoever stands
// on another rung by now, waits for somebody to decide.
func (t *txn) atOnce(ctx context.Context, gradingID, group string) error {
	results, err := one(ctx, t, func(r *gradingday.Results) []any { return []any{r} }, `SELECT results FROM grading WHERE id = ?`, gradingID)
	if err != nil || results != gradingday.AtOnce {
		return err
	}
	g, rows, err := review(ctx, t, gradingID, "")
	if err != nil {
		return err
	}
	last, err := t.lastDecisions(ctx, gradingID)
	if err != nil {
		return err
	}
	for _, r := range rows {
		if r.GroupID != group || r.Sealed() || r.Announced || r.Decision != nil || !r.Result.Outcome.Promotes() && r.Result.Outcome != scoring.OutcomeRetest {
			continue
		}
		by := r.Test.Chief
		if by == "" {
			by = "the panel"
		}
		d, err := t.decide(ctx, g, r, last[r.ID], Decision{CandidateID: r.ID, Outcome: r.Result.Outcome, DecidedBy: by})
		if err != nil {
			return err
		}
		r.Decision = &d
		var no *Refused
		if _, err := t.announce(ctx, g, []Reviewed{r}, func(Reviewed) bool { return true }); err != nil && !errors.As(err, &no) {
			return err
		}
	}
	return nil
}

// promote writes the rank of a promotion, from the day of the grading on.
func (t *txn) promote(ctx context.Context, g Grading, r Reviewed, outcome scoring.Outcome) error {
	book, err := t.book(ctx, g.ProgramID)
	if err != nil {
		return err
	}
	to := r.To
	to.Name = r.ToWords
	why := progress.Why{Because: map[scoring.Outcome]progress.Because{scoring.OutcomeHonours: progress.BecauseHonours, scoring.OutcomeDouble: progress.BecauseReferred}[outcome]}
	if err := t.addGrade(ctx, r.EnrolmentID, to, g.On, progress.Promoted, why, r.ID, grade(book, to.ID, outcome != scoring.OutcomePromote)); err != nil {
		return err
	}
	return t.handOut(ctx, r.ID, to.ID, r.StudentID, false)
}

// AnnounceAt sets when all that is decided by then, and not held, becomes known by itself; the
// zero time is never.
func (s *Store) AnnounceAt(ctx context.Context, by By, gradingID string, at time.Time) (Done, error) {
	if !at.IsZero() && !at.After(s.now()) {
		return Done{}, check.Problems{{Field: "announce_at", Text: "lies in the past; write a time to come, or announce now"}}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, err := grading(ctx, t, gradingID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if at.IsZero() {
			return gradingID, office.AnnounceWaits.Named(g.Title()), t.exec(ctx, `UPDATE grading SET announce_at = NULL WHERE id = ?`, gradingID)
		}
		return gradingID, office.Deed{Kind: office.AnnounceSet, What: g.Title(), On: civil.On(at.In(s.zone)), At: at.In(s.zone).Format("15:04")},
			t.exec(ctx, `UPDATE grading SET announce_at = ? WHERE id = ?`, at.UTC().Format(time.RFC3339), gradingID)
	})
}

// AnnounceDue announces what was to become known by now, and says of how many gradings. What
// cannot be announced stays as it is, without its time, and is said in the audit trail.
func (s *Store) AnnounceDue(ctx context.Context) (int, error) {
	due, err := list(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT id FROM grading WHERE announce_at <= ? AND deleted_at IS NULL`, s.now().UTC().Format(time.RFC3339))
	for _, id := range due {
		title := ""
		_, err := s.write(ctx, By{Actor: "the set time"}, func(t *txn) (string, office.Deed, error) {
			g, rows, err := review(ctx, t, id, "")
			if err != nil {
				return "", office.Deed{}, err
			}
			title = g.Title()
			if err := t.exec(ctx, `UPDATE grading SET announce_at = NULL WHERE id = ?`, id); err != nil {
				return "", office.Deed{}, err
			}
			n, err := t.announce(ctx, g, rows, func(r Reviewed) bool { return r.Decision != nil && !r.Decision.Held })
			return id, office.Deed{Kind: office.Announced, N: n, What: g.Title()}, err
		})
		var no *Refused
		if errors.As(err, &no) {
			failed := office.Deed{Kind: office.AnnounceFailed, What: title, Who: no.About}
			if no.About != "" {
				failed.Kind = office.AnnounceBlocked
			}
			_, err = s.write(ctx, By{Actor: "the set time"}, func(t *txn) (string, office.Deed, error) {
				return id, failed, t.exec(ctx, `UPDATE grading SET announce_at = NULL WHERE id = ?`, id)
			})
		}
		if err != nil {
			return 0, err
		}
	}
	return len(due), err
}
