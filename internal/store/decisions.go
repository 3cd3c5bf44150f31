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

// Reviewed is a candidate with marks, outcome and decision.
type Reviewed struct {
	Candidate
	Panel     []gradingday.Examiner // of the candidate's ring, in the order of the test's sheets
	Items     []gradingday.Item
	Test      scoring.Test
	Result    scoring.Result
	Faults    []gradingday.Fault
	Notes     []Note
	Open      []string // names of examiners who have not signed
	Bouts     []gradingday.Bout
	Decision  *Decision
	Announced bool
	ToldAt    time.Time
	Referral  *Referral // what became of a referral for double promotion
}

// Sealed reports whether marks are still to be kept from everybody but who gave them: the
// panel has not signed.
func (r Reviewed) Sealed() bool { return len(r.Open) > 0 }

// HasResult reports whether there is something to write of: all have signed, and their sheets are added up.
func (r Reviewed) HasResult() bool {
	return !r.Sealed() && len(r.Test.Sheets) > 0 && len(r.Result.Tallies) == len(r.Test.Sheets)
}

// Note is a remark an examiner left on a line, or what was counted for it.
type Note struct {
	Examiner, Item, Text string
	Count                int
	ItemID               string
	Faults               []string // of the line, seen in this candidate
}

// Review reads a whole grading and decides every candidate by its policy.
func (s *Store) Review(ctx context.Context, gradingID string) (Grading, []Reviewed, error) {
	tx, err := s.r.BeginTx(ctx, nil) // one view of the records for all the queries
	if err != nil {
		return Grading{}, nil, err
	}
	defer tx.Rollback()
	return review(ctx, tx, gradingID, "")
}

// review is Review, for one candidate only where one is given.
func review(ctx context.Context, q querier, gradingID, only string) (Grading, []Reviewed, error) {
	g, err := grading(ctx, q, gradingID)
	if err != nil {
		return g, nil, err
	}
	all, err := candidates(ctx, q, gradingID, only)
	if err != nil {
		return g, nil, err
	}
	bySheet, err := sheets(ctx, q, gradingID)
	if err != nil {
		return g, nil, err
	}
	x, err := readTested(ctx, q, gradingID, only)
	if err != nil {
		return g, nil, err
	}
	names := map[string]string{}
	for _, e := range g.Examiners {
		names[e.ID] = e.Name
	}
	var out []Reviewed
	for _, c := range all {
		r := Reviewed{Candidate: c, Items: bySheet[c.SheetID], Faults: x.faults[c.ID], Bouts: x.bouts[c.ID], Decision: x.decisions[c.ID], Referral: x.referrals[c.ID]}
		_, r.Panel = g.PanelOf(c.RingID)
		for _, e := range r.Panel {
			if !x.signed[signedSheet{e.ID, c.GroupID}] {
				r.Open = append(r.Open, e.Name)
			}
		}
		labels := map[string]string{}
		for _, it := range r.Items {
			labels[it.ID] = it.Label
		}
		for _, m := range x.marks[c.ID] {
			if m.Note != "" || m.Count > 0 || m.Faults != "" {
				r.Notes = append(r.Notes, Note{names[m.ExaminerID], labels[m.ItemID], m.Note, m.Count, m.ItemID, m.FaultsSeen()})
			}
		}
		r.ToldAt, r.Announced = x.told[c.ID]
		r.Test = gradingday.Assemble(r.Items, r.Panel, x.marks[c.ID], r.Faults)
		if g.Begun() {
			if r.Result, err = g.Policy.Decide(r.Test); err != nil {
				return g, nil, err
			}
		}
		out = append(out, r)
	}
	return g, out, nil
}

// tested is what is on record of a grading's candidates, by candidate.
type tested struct {
	marks     map[string][]gradingday.Mark
	faults    map[string][]gradingday.Fault
	bouts     map[string][]gradingday.Bout
	decisions map[string]*Decision
	referrals map[string]*Referral
	told      map[string]time.Time
	signed    map[signedSheet]bool
}

type signedSheet struct{ examiner, group string }

func readTested(ctx context.Context, q querier, gradingID, only string) (x tested, err error) {
	of, arg := ` IN (SELECT id FROM candidate WHERE grading_id = ?1 AND withdrawn_at IS NULL)`, gradingID
	if only != "" {
		of, arg = ` IN (SELECT id FROM candidate WHERE id = ?1 AND withdrawn_at IS NULL)`, only
	}
	marks, err := list(ctx, q, bindMark, `SELECT `+markColumns+` FROM mark WHERE candidate_id`+of, arg)
	if err != nil {
		return x, err
	}
	x.marks = gathered(marks, func(m gradingday.Mark) string { return m.CandidateID })
	faults, err := list(ctx, q, bindFault, `SELECT `+faultColumns+` FROM fault WHERE candidate_id`+of+` ORDER BY at`, arg)
	if err != nil {
		return x, err
	}
	x.faults = gathered(faults, func(f gradingday.Fault) string { return f.CandidateID })
	fought, err := bouts(ctx, q, `b.a`+of+` OR b.b`+of, arg)
	if err != nil {
		return x, err
	}
	x.bouts = map[string][]gradingday.Bout{}
	for _, b := range fought {
		x.bouts[b.A] = append(x.bouts[b.A], b)
		if b.B != "" {
			x.bouts[b.B] = append(x.bouts[b.B], b)
		}
	}
	decisions, err := list(ctx, q, bindDecision, `SELECT `+decisionColumns+` FROM decision d WHERE d.candidate_id`+of, arg)
	if err != nil {
		return x, err
	}
	x.decisions = map[string]*Decision{}
	for i, d := range decisions {
		x.decisions[d.CandidateID] = &decisions[i]
	}
	referrals, err := list(ctx, q, bindReferral, `SELECT candidate_id, granted, grading_id, reason, decided_by FROM referral_event WHERE candidate_id`+of, arg)
	if err != nil {
		return x, err
	}
	x.referrals = map[string]*Referral{}
	for i, r := range referrals {
		x.referrals[r.CandidateID] = &referrals[i]
	}
	return x, x.readSettled(ctx, q, gradingID, of, arg)
}

// readSettled reads what was announced and which sheets are signed.
func (x *tested) readSettled(ctx context.Context, q querier, gradingID, of, arg string) error {
	type announced struct {
		id string
		at time.Time
	}
	told, err := list(ctx, q, func(x *announced) []any { return []any{&x.id, asTime{&x.at}} }, `SELECT candidate_id, at FROM announcement WHERE candidate_id`+of, arg)
	if err != nil {
		return err
	}
	x.told = map[string]time.Time{}
	for _, a := range told {
		x.told[a.id] = a.at
	}
	signatures, err := list(ctx, q, func(x *signedSheet) []any { return []any{&x.examiner, &x.group} },
		`SELECT x.examiner_id, x.group_id FROM candidate_group o CROSS JOIN signature x ON x.group_id = o.id WHERE o.grading_id = ?1
		UNION ALL SELECT e.id, o.id FROM candidate_group o JOIN examiner e ON e.panel_id = o.panel_id AND e.absent_at IS NOT NULL WHERE o.grading_id = ?1`, gradingID)
	x.signed = map[signedSheet]bool{}
	for _, s := range signatures {
		x.signed[s] = true
	}
	return err
}

// gathered puts values by a key, in their order.
func gathered[T any](all []T, key func(T) string) map[string][]T {
	out := map[string][]T{}
	for _, x := range all {
		out[key(x)] = append(out[key(x)], x)
	}
	return out
}

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
			since, e := one(ctx, t, func(on *civil.Date) []any { return []any{asDate{on}} }, `SELECT on_date FROM rank_entry WHERE enrolment_id = ? AND rung_id = ? ORDER BY at DESC LIMIT 1`, r.EnrolmentID, r.From.ID)
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
