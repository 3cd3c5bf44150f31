package store

import (
	"context"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
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
	DecidedBy       string
	At              time.Time
}

func bindDecision(d *Decision) []any {
	return []any{&d.ID, &d.CandidateID, &d.Outcome, &d.Proposal, &d.Reason, asDate{&d.RetestFrom}, &d.DecidedBy, asTime{&d.At}}
}

const decisionColumns = `d.id, d.candidate_id, d.outcome, d.proposal, d.reason, d.retest_from, d.decided_by, d.at`

// Reviewed is a candidate with marks, outcome and decision.
type Reviewed struct {
	Candidate
	Items     []Item
	Test      scoring.Test
	Result    scoring.Result
	Faults    []Fault
	Notes     []Note
	Open      []string // names of examiners who have not signed
	Decision  *Decision
	Announced bool
}

// Note is a remark an examiner left on a line.
type Note struct{ Examiner, Item, Text string }

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
	ofGrading := ` IN (SELECT id FROM candidate WHERE grading_id = ?1 AND withdrawn_at IS NULL AND ?2 = ?2)`
	if only != "" {
		ofGrading = ` IN (SELECT id FROM candidate WHERE id = ?2 AND grading_id = ?1 AND withdrawn_at IS NULL)`
	}
	marks, err := list(ctx, q, bindMark, `SELECT `+markColumns+` FROM mark WHERE candidate_id`+ofGrading, gradingID, only)
	if err != nil {
		return g, nil, err
	}
	faults, err := list(ctx, q, bindFault, `SELECT `+faultColumns+` FROM fault WHERE candidate_id`+ofGrading+` ORDER BY at`, gradingID, only)
	if err != nil {
		return g, nil, err
	}
	decisions, err := list(ctx, q, bindDecision, `SELECT `+decisionColumns+` FROM decision d WHERE d.candidate_id`+ofGrading, gradingID, only)
	if err != nil {
		return g, nil, err
	}
	told, err := list(ctx, q, func(id *string) []any { return []any{id} }, `SELECT candidate_id FROM announcement WHERE candidate_id`+ofGrading, gradingID, only)
	if err != nil {
		return g, nil, err
	}
	type signed struct{ examiner, group string }
	signatures, err := list(ctx, q, func(x *signed) []any { return []any{&x.examiner, &x.group} }, `SELECT x.examiner_id, x.group_id FROM signature x JOIN candidate_group o ON o.id = x.group_id WHERE o.grading_id = ?`, gradingID)
	if err != nil {
		return g, nil, err
	}

	isSigned := map[signed]bool{}
	for _, x := range signatures {
		isSigned[x] = true
	}
	row := map[string]int{}
	for i, e := range g.Examiners {
		row[e.ID] = i
	}
	var out []Reviewed
	at := map[string]int{}
	places := map[string]map[string]int{} // sheet → item → place
	for sheet, items := range bySheet {
		places[sheet] = map[string]int{}
		for i, it := range items {
			places[sheet][it.ID] = i
		}
	}
	for _, c := range all {
		r := Reviewed{Candidate: c, Items: bySheet[c.SheetID]}
		for _, it := range r.Items {
			r.Test.Items = append(r.Test.Items, it.Item)
		}
		for _, e := range g.Examiners {
			r.Test.Sheets = append(r.Test.Sheets, scoring.Sheet{Examiner: e.Name, Marks: make([]scoring.Mark, len(r.Items))})
			if e.Chief {
				r.Test.Chief = e.Name
			}
			if !isSigned[signed{e.ID, c.GroupID}] {
				r.Open = append(r.Open, e.Name)
			}
		}
		at[c.ID] = len(out)
		out = append(out, r)
	}
	for _, m := range marks {
		r := &out[at[m.CandidateID]]
		k := places[r.SheetID][m.ItemID]
		if m.Kind == MarkGiven {
			r.Test.Sheets[row[m.ExaminerID]].Marks[k] = scoring.Seen(m.Value)
		}
		if m.Note != "" {
			r.Notes = append(r.Notes, Note{g.Examiners[row[m.ExaminerID]].Name, r.Items[k].Label, m.Note})
		}
	}
	for _, f := range faults {
		r := &out[at[f.CandidateID]]
		r.Faults = append(r.Faults, f)
		switch f.Kind {
		case FaultDeduction:
			r.Test.Sheets[row[f.ExaminerID]].Deductions += f.Points
		case FaultConfirmed:
			r.Test.EndingFault = true
		}
	}
	for _, d := range decisions {
		out[at[d.CandidateID]].Decision = &d
	}
	for _, id := range told {
		out[at[id]].Announced = true
	}
	if !g.Begun() {
		return g, out, nil
	}
	for i := range out {
		if out[i].Result, err = g.Policy.Decide(out[i].Test); err != nil {
			return g, nil, err
		}
	}
	return g, out, nil
}

// Decide records a decision for a candidate in place of an earlier one, if any. What the
// marks propose is worked out anew in the same transaction.
func (s *Store) Decide(ctx context.Context, by By, d Decision) (Done, error) {
	d.Reason, d.DecidedBy = check.Tidy(d.Reason), check.Tidy(d.DecidedBy)
	var p check.Problems
	check.OneOf(&p, "outcome", d.Outcome, []scoring.Outcome{scoring.OutcomePromote, scoring.OutcomeHonours, scoring.OutcomeDouble, scoring.OutcomeRetest})
	p.Line("reason", d.Reason, check.LineLength)
	p.Name("decided_by", d.DecidedBy)
	if err := p.Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, string, error) {
		g, r, last, err := t.toDecide(ctx, d.CandidateID)
		if err != nil {
			return "", "", err
		}
		if len(r.Open) > 0 {
			return "", "", refuse("%s cannot be decided yet: %s has not signed.", r.Name, r.Open[0])
		}
		d.Proposal = r.Result.Outcome
		if d.Outcome != d.Proposal && d.Reason == "" {
			return "", "", check.Problems{{Field: "reason", Text: "this differs from what the marks propose; say why, it stays on record"}}
		}
		switch {
		case d.Outcome != scoring.OutcomeRetest:
			d.RetestFrom = civil.Date{}
		case d.RetestFrom.IsZero():
			d.RetestFrom = g.On.AddDays(g.RetestDays)
		case d.RetestFrom.Before(g.On):
			return "", "", check.Problems{{Field: "retest_from", Text: "a retest cannot be before the grading on " + g.On.Long()}}
		}
		id := NewID()
		return id, "Decided for " + r.Name + ": " + string(d.Outcome), t.exec(ctx, `INSERT INTO decision_event (id, candidate_id, outcome, proposal, reason, retest_from, decided_by, supersedes, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, nullif(?, ''), ?, ?)`,
			id, d.CandidateID, d.Outcome, d.Proposal, d.Reason, dateOrNull(d.RetestFrom), d.DecidedBy, last, t.by.Actor, t.at)
	})
}

// toDecide reads a candidate under review and the newest entry of its decisions.
func (t *txn) toDecide(ctx context.Context, candidate string) (Grading, Reviewed, string, error) {
	of, err := one(ctx, t, func(id *string) []any { return []any{id} }, `SELECT grading_id FROM candidate WHERE id = ? AND withdrawn_at IS NULL`, candidate)
	if err != nil {
		return Grading{}, Reviewed{}, "", err
	}
	g, rows, err := review(ctx, t, of, candidate)
	if err != nil {
		return g, Reviewed{}, "", err
	}
	r := rows[0]
	if !g.Begun() {
		return g, r, "", refuse("This grading has not begun.")
	}
	if r.Announced {
		return g, r, "", refuse("%s's result has been announced. What was announced stays; correct the rank on the student's page.", r.Name)
	}
	last, err := list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT id FROM decision_event e WHERE candidate_id = ? AND NOT EXISTS (SELECT 1 FROM decision_event n WHERE n.supersedes = e.id)`, candidate)
	if err != nil || len(last) == 0 {
		return g, r, "", err
	}
	return g, r, last[0], nil
}

// UndoDecision takes a decision back that has not been announced.
func (s *Store) UndoDecision(ctx context.Context, by By, candidate string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, string, error) {
		_, r, last, err := t.toDecide(ctx, candidate)
		if err != nil {
			return "", "", err
		}
		if r.Decision == nil {
			return "", "", refuse("%s has no decision to take back.", r.Name)
		}
		return candidate, "Took back the decision for " + r.Name, t.exec(ctx, `INSERT INTO decision_event (id, candidate_id, outcome, proposal, decided_by, supersedes, actor, at) VALUES (?, ?, 'undone', ?, ?, ?, ?, ?)`,
			NewID(), candidate, r.Result.Outcome, t.by.Actor, last, t.by.Actor, t.at)
	})
}

// Announce makes decisions known, in one transaction: whoever is promoted stands on the new
// rung from the day of the grading on. All of the candidates are announced, or none.
func (s *Store) Announce(ctx context.Context, by By, gradingID string, ids []string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, string, error) {
		g, rows, err := review(ctx, t, gradingID, "")
		if err != nil {
			return "", "", err
		}
		book, err := t.book(ctx, g.ProgramID)
		if err != nil {
			return "", "", err
		}
		chosen := map[string]bool{}
		for _, id := range ids {
			chosen[id] = true
		}
		n := 0
		for _, r := range rows {
			if !chosen[r.ID] || r.Announced {
				continue
			}
			if r.Decision == nil {
				return "", "", refuse("%s has no decision yet; nothing was announced.", r.Name)
			}
			n++
			if err := t.exec(ctx, `INSERT INTO announcement (candidate_id, decision_id, actor, at) VALUES (?, ?, ?, ?)`, r.ID, r.Decision.ID, t.by.Actor, t.at); err != nil {
				return "", "", err
			}
			if !r.Decision.Outcome.Promotes() {
				continue
			}
			stands, err := one(ctx, t, bindStanding, selectStanding+`WHERE e.id = ?`, r.EnrolmentID)
			if err != nil {
				return "", "", err
			}
			if stands.Rung.ID != r.From.ID {
				return "", "", refuse("%s was tested from %s but stands on %s now; nothing was announced. Correct the rank, or undo the decision.", r.Name, r.FromWords, stands.Rung.Name)
			}
			to := r.To
			to.Name = r.ToWords
			reason := ""
			if r.Decision.Outcome == scoring.OutcomeHonours {
				reason = "with honours"
			} else if r.Decision.Outcome == scoring.OutcomeDouble {
				reason = "referred for double promotion"
			}
			if err := t.addGrade(ctx, r.EnrolmentID, to, g.On, progress.Promoted, reason, r.ID, grade(book, to.ID, r.Decision.Outcome != scoring.OutcomePromote)); err != nil {
				return "", "", err
			}
		}
		if n == 0 {
			return "", "", refuse("Nothing is decided that has not been announced.")
		}
		return gradingID, "Announced " + count(n, "result") + " of " + g.Title(), nil
	})
}
