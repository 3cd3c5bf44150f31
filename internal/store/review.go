package store

import (
	"context"
	"time"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

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
