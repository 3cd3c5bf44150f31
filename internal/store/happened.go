package store

import (
	"cmp"
	"context"
	"slices"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

// happenedRow is a row of something that happened, with its place in the trail.
type happenedRow struct {
	gradingday.Happened
	at, key, actor string
	signed, panel  int    // examiners
	was            [2]any // kind and value of the mark before
}

// happenings are the kinds of thing that happen at a grading, each with the query that reads them: for a grading ?1,
// before a place (?2, ?3), at most ?4 of them, the newest first. They begin with at, key and actor.
var happenings = []struct {
	kind  gradingday.HappenedKind
	query string
	bind  func(*happenedRow) []any
}{
	{gradingday.HappenedMark, `SELECT m.at, m.id, m.actor, s.name, i.label, x.name, m.kind, m.value, coalesce(m.count, 0), m.note, m.ticked, p.kind, p.value,
		(SELECT count(*) FROM examiner e JOIN signature g ON g.examiner_id = e.id AND g.group_id = c.group_id WHERE e.panel_id = x.panel_id AND e.absent_at IS NULL), (SELECT count(*) FROM examiner e WHERE e.panel_id = x.panel_id AND e.absent_at IS NULL)
		FROM candidate c CROSS JOIN mark_event m ON m.candidate_id = c.id JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id
		JOIN test_item i ON i.id = m.item_id JOIN examiner x ON x.id = m.examiner_id LEFT JOIN mark_event p ON p.id = m.supersedes
		WHERE c.grading_id = ?1 AND (m.at, m.id) < (?2, ?3) ORDER BY m.at DESC, m.id DESC LIMIT ?4`,
		func(h *happenedRow) []any {
			return []any{&h.Candidate, &h.Item, &h.Examiner, &h.Mark.Kind, asDecimal{&h.Mark.Value}, &h.Mark.Count, &h.Mark.Note, &h.Mark.Ticked, &h.was[0], &h.was[1], &h.signed, &h.panel}
		}},
	{gradingday.HappenedFault, `SELECT f.at, f.id, f.actor, s.name, x.name, f.kind, f.points, f.conduct, f.text
		FROM candidate c CROSS JOIN fault_event f ON f.candidate_id = c.id JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id
		JOIN examiner x ON x.id = f.examiner_id WHERE c.grading_id = ?1 AND (f.at, f.id) < (?2, ?3) ORDER BY f.at DESC, f.id DESC LIMIT ?4`,
		func(h *happenedRow) []any {
			return []any{&h.Candidate, &h.Examiner, &h.Fault.Kind, asDecimal{&h.Fault.Points}, &h.Fault.Conduct, &h.Fault.Text}
		}},
	{gradingday.HappenedSigned, `SELECT g.at, g.id, g.actor, x.name, o.name, g.kind, g.reason
		FROM candidate_group o CROSS JOIN signature_event g ON g.group_id = o.id JOIN examiner x ON x.id = g.examiner_id
		WHERE o.grading_id = ?1 AND (g.at, g.id) < (?2, ?3) ORDER BY g.at DESC, g.id DESC LIMIT ?4`,
		func(h *happenedRow) []any { return []any{&h.Examiner, &h.Group, &h.Kind, &h.Reason} }},
	{gradingday.HappenedDecision, `SELECT d.at, d.id, d.actor, s.name, d.outcome, d.proposal, d.reason, d.held, d.correction, d.decided_by
		FROM candidate c CROSS JOIN decision_event d ON d.candidate_id = c.id JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id
		WHERE c.grading_id = ?1 AND (d.at, d.id) < (?2, ?3) ORDER BY d.at DESC, d.id DESC LIMIT ?4`,
		func(h *happenedRow) []any {
			return []any{&h.Candidate, &h.Outcome, &h.Proposal, &h.Reason, &h.Held, &h.Corrected, &h.By}
		}},
	{gradingday.HappenedAnnounced, `SELECT a.at, a.candidate_id, a.actor, s.name
		FROM candidate c CROSS JOIN announcement a ON a.candidate_id = c.id JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id
		WHERE c.grading_id = ?1 AND (a.at, a.candidate_id) < (?2, ?3) ORDER BY a.at DESC, a.candidate_id DESC LIMIT ?4`,
		func(h *happenedRow) []any { return []any{&h.Candidate} }},
	{gradingday.HappenedReferral, `SELECT r.at, r.id, r.actor, s.name, r.granted, r.grading_id IS NOT NULL, r.decided_by, r.reason
		FROM candidate c CROSS JOIN referral_event r ON r.candidate_id = c.id JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id
		WHERE c.grading_id = ?1 AND (r.at, r.id) < (?2, ?3) ORDER BY r.at DESC, r.id DESC LIMIT ?4`,
		func(h *happenedRow) []any { return []any{&h.Candidate, &h.Granted, &h.Tested, &h.By, &h.Reason} }},
	{gradingday.HappenedBout, `SELECT b.at, b.id, b.actor, ` + boutNames + `, b.rounds, b.seconds FROM panel p CROSS JOIN bout b ON b.panel_id = p.id` + joinBoutNames + `
		WHERE p.grading_id = ?1 AND (b.at, b.id) < (?2, ?3) ORDER BY b.at DESC, b.id DESC LIMIT ?4`,
		func(h *happenedRow) []any {
			return []any{&h.Bout.AName, &h.Bout.BName, &h.Bout.Rounds, &h.Bout.Seconds}
		}},
	{gradingday.HappenedInBout, `SELECT k.at, k.id, k.actor, ` + boutNames + `, k.kind, k.side, k.round, k.points, k.text
		FROM panel p CROSS JOIN bout b ON b.panel_id = p.id CROSS JOIN bout_event k ON k.bout_id = b.id` + joinBoutNames + `
		WHERE p.grading_id = ?1 AND (k.at, k.id) < (?2, ?3) ORDER BY k.at DESC, k.id DESC LIMIT ?4`,
		func(h *happenedRow) []any {
			return []any{&h.Bout.AName, &h.Bout.BName, &h.Event.Kind, &h.Event.Side, &h.Event.Round, &h.Event.Points, &h.Event.Text}
		}},
	{gradingday.HappenedJoined, `SELECT j.used_at, t.id, x.name, x.name, t.device
		FROM panel p JOIN examiner x ON x.panel_id = p.id CROSS JOIN seat t ON t.examiner_id = x.id JOIN join_code j ON j.id = t.code_id
		WHERE p.grading_id = ?1 AND (j.used_at, t.id) < (?2, ?3) ORDER BY j.used_at DESC, t.id DESC LIMIT ?4`,
		func(h *happenedRow) []any { return []any{&h.Examiner, &h.Device} }},
	{gradingday.HappenedSentHome, `SELECT t.ended_at, t.id || 'x', t.ended_by, x.name
		FROM panel p JOIN examiner x ON x.panel_id = p.id CROSS JOIN seat t ON t.examiner_id = x.id
		WHERE p.grading_id = ?1 AND t.ended_at IS NOT NULL AND (t.ended_at, t.id || 'x') < (?2, ?3) ORDER BY t.ended_at DESC, t.id DESC LIMIT ?4`,
		func(h *happenedRow) []any { return []any{&h.Examiner} }},
}

const boutNames = `sa.name, coalesce(sb.name, b.partner)`

const joinBoutNames = ` JOIN candidate ca ON ca.id = b.a JOIN enrolment ea ON ea.id = ca.enrolment_id JOIN student sa ON sa.id = ea.student_id
		LEFT JOIN candidate cb ON cb.id = b.b LEFT JOIN enrolment eb ON eb.id = cb.enrolment_id LEFT JOIN student sb ON sb.id = eb.student_id`

// afterAll is a place behind everything in the trail.
const afterAll = "9999"

// gradingDeeds are what happened at a grading before a place, the newest first.
func (s *Store) gradingDeeds(ctx context.Context, grading, at, key string, limit int) (out []Deed, err error) {
	if at == "" {
		at = afterAll
	}
	for _, what := range happenings {
		rows, err := list(ctx, s.r, func(h *happenedRow) []any { return append([]any{&h.at, &h.key, &h.actor}, what.bind(h)...) }, what.query, grading, at, key, limit)
		if err != nil {
			return nil, err
		}
		for _, h := range rows {
			d := Deed{Actor: h.actor, at: h.at, key: h.key}
			if err := (asTime{&d.At}).Scan(h.at); err != nil {
				return nil, err
			}
			happened := h.told(what.kind)
			d.Happened = &happened
			out = append(out, d)
		}
	}
	slices.SortStableFunc(out, func(x, y Deed) int { return cmp.Or(cmp.Compare(y.at, x.at), cmp.Compare(y.key, x.key)) })
	return out[:min(len(out), limit)], nil
}

// told is the row as a value: what is still sealed is left out.
func (h happenedRow) told(kind gradingday.HappenedKind) gradingday.Happened {
	out := h.Happened
	switch kind {
	case gradingday.HappenedSigned: // the row says which of the two it is
		return out
	case gradingday.HappenedDecision:
		if out.Outcome == "undone" {
			kind = gradingday.HappenedUndecided
		}
	case gradingday.HappenedMark:
		if before, is := h.was[0].(string); is {
			value, _ := h.was[1].(int64)
			out.Before = &gradingday.Mark{Kind: gradingday.MarkKind(before), Value: scoring.Decimal(value)}
		}
		out = out.Seal(gradingday.Sealed(h.signed, h.panel))
	}
	out.Kind = kind
	return out
}
