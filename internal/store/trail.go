package store

import (
	"context"
	"strings"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/scoring"
)

// Deed is one thing somebody did, as the audit trail tells it.
type Deed struct {
	At     time.Time
	Actor  string
	Action string // in words
	Audit  string // the trail's entry, from which it may be undone; "" of marks and the like
	Undo   bool
}

// TrailQuery asks for part of the audit trail.
type TrailQuery struct {
	Grading string // all that happened at one grading, marks included; "" the whole school's deeds without marks
	Text    string // in actor or action
	Before  string // deeds before this place, as answered before; "" the newest
	Limit   int
}

// Deeds reads the audit trail, the newest first. older is the instant to ask on from; "" there
// is no more.
func (s *Store) Deeds(ctx context.Context, q TrailQuery) (out []Deed, older string, err error) {
	type row struct {
		Deed
		at, key string
	}
	bind := func(d *row) []any { return []any{&d.at, &d.key, &d.Actor, &d.Action, &d.Audit, &d.Undo} }
	before, beforeKey, _ := strings.Cut(q.Before, " ")
	var rows []row
	const narrow = ` WHERE (?2 = '' OR (at, key) < (?2, ?5)) AND (?3 = '' OR instr(lower(actor || ' ' || action), lower(?3)) > 0) ORDER BY at DESC, key DESC LIMIT ?4`
	if q.Grading == "" {
		rows, err = list(ctx, s.r, bind, `SELECT at, key, actor, action, id, undo FROM (SELECT at, printf('%012d', seq) AS key, actor, action, id, changes <> '[]' AND NOT EXISTS (SELECT 1 FROM audit u WHERE u.undoes = a.id) AS undo FROM audit a)`+narrow, q.Grading, before, q.Text, q.Limit+1, beforeKey)
	} else {
		rows, err = list(ctx, s.r, bind, `WITH who AS (SELECT c.id, s.name, c.group_id FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id WHERE c.grading_id = ?1),
		sealed AS (SELECT o.id FROM candidate_group o WHERE o.grading_id = ?1 AND EXISTS (SELECT 1 FROM examiner e WHERE e.panel_id = o.panel_id AND NOT EXISTS (SELECT 1 FROM signature x WHERE x.examiner_id = e.id AND x.group_id = o.id))),
		deed AS (
			SELECT m.at, m.id AS key, m.actor, w.name || ', ' || i.label || ': ' || CASE WHEN w.group_id IN sealed THEN iif(m.supersedes IS NULL, 'marked', 'mark changed') || ', sealed until all have signed (' || x.name || '’s sheet)' ELSE CASE m.kind WHEN 'not_seen' THEN 'not seen' WHEN 'open' THEN 'no mark' ELSE printf('%g', m.value / 1e9) END || iif(m.count IS NULL, '', ' (' || m.count || ' counted)')
				|| CASE WHEN p.id IS NULL THEN '' ELSE ', before: ' || CASE p.kind WHEN 'not_seen' THEN 'not seen' WHEN 'open' THEN 'no mark' ELSE printf('%g', p.value / 1e9) END END || iif(m.ticked = '', '', ', seen: ' || replace(m.ticked, char(10), '; ')) || iif(m.note = '', '', ' “' || m.note || '”') || ' (' || x.name || '’s sheet)' END AS action, '' AS id, 0 AS undo
			FROM mark_event m JOIN who w ON w.id = m.candidate_id JOIN test_item i ON i.id = m.item_id JOIN examiner x ON x.id = m.examiner_id LEFT JOIN mark_event p ON p.id = m.supersedes
			UNION ALL SELECT f.at, f.id, f.actor, w.name || ', ' || CASE f.kind WHEN 'note' THEN 'conduct noted' WHEN 'deduction' THEN 'deduction of ' || printf('%g', f.points / 1e9) WHEN 'ending' THEN 'fault that would end the test' WHEN 'ending_confirmed' THEN 'the chief examiner confirmed the end of the test' ELSE 'fault withdrawn' END || ': ' || f.text || ' (' || x.name || '’s sheet)', '', 0
			FROM fault_event f JOIN who w ON w.id = f.candidate_id JOIN examiner x ON x.id = f.examiner_id
			UNION ALL SELECT g.at, g.id, g.actor, x.name || ' ' || iif(g.kind = 'signed', 'signed the sheet of ', 'had the sheet reopened of ') || o.name || iif(g.reason = '', '', ': ' || g.reason), '', 0
			FROM signature_event g JOIN examiner x ON x.id = g.examiner_id JOIN candidate_group o ON o.id = g.group_id WHERE o.grading_id = ?1
			UNION ALL SELECT d.at, d.id, d.actor, w.name || ': ' || iif(d.outcome = 'undone', 'decision taken back', iif(d.correction, 'corrected to ', 'decided ') || replace(d.outcome, '_', ' ') || iif(d.held, ', held', '') || ' by ' || d.decided_by) || iif(d.reason = '', '', ': ' || d.reason) || iif(d.proposal = d.outcome OR d.outcome = 'undone', '', ' (the marks said ' || replace(d.proposal, '_', ' ') || ')'), '', 0
			FROM decision_event d JOIN who w ON w.id = d.candidate_id
			UNION ALL SELECT a.at, a.candidate_id, a.actor, w.name || ': result announced', '', 0 FROM announcement a JOIN who w ON w.id = a.candidate_id
			UNION ALL SELECT r.at, r.id, r.actor, w.name || ': double promotion ' || iif(r.granted, 'granted', 'not granted') || ' by ' || r.decided_by || ': ' || r.reason, '', 0 FROM referral_event r JOIN who w ON w.id = r.candidate_id
			UNION ALL SELECT b.at, b.id, b.actor, 'bout of ' || w.name || ' and ' || coalesce(v.name, b.partner) || ': ' || b.rounds || ' × ' || b.seconds || ' s', '', 0 FROM bout b JOIN who w ON w.id = b.a LEFT JOIN who v ON v.id = b.b
			UNION ALL SELECT k.at, k.id, k.actor, CASE k.kind WHEN 'point' THEN iif(k.side = 'a', w.name, coalesce(v.name, b.partner)) || ': ' || k.points || ' in round ' || k.round WHEN 'withdrawn' THEN 'taken back in the bout of ' || w.name ELSE 'bout of ' || w.name || ' ' || k.kind END || iif(k.text = '', '', ': ' || k.text), '', 0
			FROM bout_event k JOIN bout b ON b.id = k.bout_id JOIN who w ON w.id = b.a LEFT JOIN who v ON v.id = b.b
			UNION ALL SELECT j.used_at, t.id, x.name, x.name || ' joined on ' || t.device, '', 0 FROM seat t JOIN join_code j ON j.id = t.code_id JOIN examiner x ON x.id = t.examiner_id JOIN panel p ON p.id = x.panel_id WHERE p.grading_id = ?1
			UNION ALL SELECT t.ended_at, t.id || 'x', t.ended_by, 'sent a device of ' || x.name || ' home', '', 0 FROM seat t JOIN examiner x ON x.id = t.examiner_id JOIN panel p ON p.id = x.panel_id WHERE p.grading_id = ?1 AND t.ended_at IS NOT NULL)
		SELECT at, key, actor, action, id, undo FROM deed`+narrow, q.Grading, before, q.Text, q.Limit+1, beforeKey)
	}
	for i, r := range rows {
		if i == q.Limit {
			older = rows[i-1].at + " " + rows[i-1].key
			break
		}
		if err := (asTime{&r.Deed.At}).Scan(r.at); err != nil {
			return nil, "", err
		}
		out = append(out, r.Deed)
	}
	return out, older, err
}

// NoteDeed puts a deed on the audit trail that changed no row: a paper sheet read twice.
func (s *Store) NoteDeed(ctx context.Context, by By, action string) (Done, error) {
	return s.write(ctx, by, func(*txn) (string, string, error) { return "", action, nil })
}

// Came is how a candidate came to class on the way to a grading.
type Came struct {
	Since, Last civil.Date
	Times       int
}

// AttendanceAt says of every candidate of a grading how often they came to class since they
// stand on their rung, up to the day.
func (s *Store) AttendanceAt(ctx context.Context, gradingID string) (map[string]Came, error) {
	type row struct {
		id string
		Came
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.id, asDate{&x.Since}, &x.Times, asDate{&x.Last}} },
		`SELECT c.id, x.since, count(a.id), max(a.on_date) FROM candidate c JOIN grading g ON g.id = c.grading_id JOIN enrolment e ON e.id = c.enrolment_id
		JOIN (SELECT k.id, coalesce((SELECT max(r.on_date) FROM rank_entry r WHERE r.enrolment_id = k.enrolment_id AND r.rung_id = k.from_rung_id), n.since) AS since FROM candidate k JOIN enrolment n ON n.id = k.enrolment_id WHERE k.grading_id = ?1) x ON x.id = c.id
		LEFT JOIN attendance a ON a.student_id = e.student_id AND a.on_date >= x.since AND a.on_date <= g.on_date WHERE c.grading_id = ?1 AND c.withdrawn_at IS NULL GROUP BY c.id`, gradingID)
	out := map[string]Came{}
	for _, r := range rows {
		out[r.id] = r.Came
	}
	return out, err
}

// Told is a result that was announced, with what it rests on.
type Told struct {
	Grading Grading
	Reviewed
}

// Result is one candidate's result; ErrNotFound until it is announced, unless early is set.
func (s *Store) Result(ctx context.Context, candidate string, early bool) (Told, error) {
	of, err := one(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT grading_id FROM candidate WHERE id = ? AND withdrawn_at IS NULL`, candidate)
	if err != nil {
		return Told{}, err
	}
	g, rows, err := review(ctx, s.r, of, candidate)
	if err == nil && (len(rows) == 0 || !rows[0].Announced && !early || rows[0].Decision == nil) {
		err = ErrNotFound
	}
	if err != nil {
		return Told{}, err
	}
	return Told{g, rows[0]}, nil
}

// ToldOf are the candidates under which an enrolment has announced results, the newest first.
func (s *Store) ToldOf(ctx context.Context, enrolment string) ([]string, error) {
	return list(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT c.id FROM candidate c JOIN announcement a ON a.candidate_id = c.id JOIN grading g ON g.id = c.grading_id WHERE c.enrolment_id = ? ORDER BY g.on_date DESC`, enrolment)
}

// Relabelled is one candidate under two policies.
type Relabelled struct {
	Reviewed
	Other scoring.Result
	Why   error // why the other policy cannot hold this candidate's marks; nil it can
}

// Laboratory puts the marks of a grading through another policy; nothing is written. Only
// candidates whose panel has signed take part.
func (s *Store) Laboratory(ctx context.Context, gradingID string, other scoring.Policy) (Grading, []Relabelled, error) {
	g, rows, err := s.Review(ctx, gradingID)
	var out []Relabelled
	for _, r := range rows {
		if r.Sealed() {
			continue
		}
		x := Relabelled{Reviewed: r}
		x.Other, x.Why = other.Decide(r.Test)
		out = append(out, x)
	}
	return g, out, err
}
