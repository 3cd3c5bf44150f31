package store

import (
	"context"
	"maps"
	"slices"
	"strings"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/scoring"
)

// Deed is one thing somebody did, as the audit trail has it.
type Deed struct {
	At       time.Time
	Actor    string
	Told     office.Told
	Happened *gradingday.Happened // what happened at a grading; nil of deeds
	Audit    string               // the trail's entry, from which it may be undone; "" of marks and the like
	Undo     bool

	at, key string // its place
}

// TrailQuery asks for part of the audit trail.
type TrailQuery struct {
	Grading string          // all that happened at one grading, marks included; "" the whole school's deeds without marks
	Match   func(Deed) bool // what is looked for; nil everything
	Before  string          // deeds before this place, as answered before; "" the newest
	Limit   int
}

// trailBatch is how many deeds are read at a time where some are looked for.
const trailBatch = 500

// Deeds reads the audit trail, the newest first. older is the place to ask on from; "" there
// is no more.
func (s *Store) Deeds(ctx context.Context, q TrailQuery) (out []Deed, older string, err error) {
	at, key, _ := strings.Cut(q.Before, " ")
	size := q.Limit + 1
	if q.Match != nil {
		size = max(size, trailBatch)
	}
	for {
		var batch []Deed
		if q.Grading == "" {
			batch, err = s.schoolDeeds(ctx, at, key, size)
		} else {
			batch, err = s.gradingDeeds(ctx, q.Grading, at, key, size)
		}
		if err != nil {
			return nil, "", err
		}
		for _, d := range batch {
			if at, key = d.at, d.key; q.Match != nil && !q.Match(d) {
				continue
			}
			if len(out) == q.Limit {
				last := out[len(out)-1]
				return out, last.at + " " + last.key, nil
			}
			out = append(out, d)
		}
		if len(batch) < size {
			return out, "", nil
		}
	}
}

const selectEntry = `SELECT a.id, a.actor, a.at, a.action, a.kind, a.args, a.undoes,
	(a.changes <> '[]' OR a.kind = 'attendance_read') AND NOT EXISTS (SELECT 1 FROM audit u WHERE u.undoes = a.id), printf('%012d', a.seq)
	FROM audit a`

// entryRow is a row of the audit trail.
type entryRow struct {
	Entry
	undoes, at, key string
}

func bindEntry(e *entryRow) []any {
	return []any{&e.ID, &e.Actor, &e.at, &e.Told.Said, &e.Told.Kind, asJSON{&e.Told.Deed}, asText{&e.undoes}, &e.Undoable, &e.key}
}

func (s *Store) schoolDeeds(ctx context.Context, at, key string, limit int) (out []Deed, err error) {
	where, args := ``, []any{}
	if at != "" {
		where, args = ` WHERE (a.at, a.seq) < (?, CAST(? AS INTEGER))`, []any{at, key}
	}
	rows, err := list(ctx, s.r, bindEntry, selectEntry+where+` ORDER BY a.at DESC, a.seq DESC LIMIT ?`, append(args, limit)...)
	if err != nil {
		return nil, err
	}
	if err := s.tell(ctx, rows); err != nil {
		return nil, err
	}
	for _, e := range rows {
		out = append(out, Deed{At: e.At, Actor: e.Actor, Told: e.Told, Audit: e.ID, Undo: e.Undoable, at: e.at, key: e.key})
	}
	return out, nil
}

// tell fills in what entries of the trail stand for: what was undone, the names of people, the texts of entries.
func (s *Store) tell(ctx context.Context, rows []entryRow) error {
	undone, err := s.undone(ctx, rows)
	if err != nil {
		return err
	}
	var ids []string
	all := slices.Collect(maps.Values(undone))
	for i := range rows {
		all = append(all, &rows[i])
	}
	for _, e := range all {
		ids = append(ids, e.Told.Who, e.Told.Other, e.Told.Entry)
	}
	names, err := s.namesOf(ctx, ids)
	if err != nil {
		return err
	}
	for _, e := range all {
		e.Told.Names = names
		if err := (asTime{&e.At}).Scan(e.at); err != nil {
			return err
		}
		if of := undone[e.undoes]; of != nil {
			e.Told.Undid = &of.Told
		}
	}
	return nil
}

// undone are the entries that entries took back, and those that these took back, by id.
func (s *Store) undone(ctx context.Context, look []entryRow) (map[string]*entryRow, error) {
	out := map[string]*entryRow{}
	for {
		var ids []string
		for _, e := range look {
			if e.undoes != "" && out[e.undoes] == nil {
				ids = append(ids, e.undoes)
			}
		}
		if len(ids) == 0 {
			return out, nil
		}
		var err error
		if look, err = list(ctx, s.r, bindEntry, selectEntry+` WHERE a.id IN (SELECT value FROM json_each(?))`, toJSON(ids)); err != nil {
			return nil, err
		}
		for i := range look {
			out[look[i].ID] = &look[i]
		}
	}
}

// namesOf are the names people have today, and the texts of entries, by id.
func (s *Store) namesOf(ctx context.Context, ids []string) (map[string]string, error) {
	rows, err := list(ctx, s.r, func(x *[2]string) []any { return []any{&x[0], &x[1]} }, `WITH asked AS (SELECT DISTINCT value AS id FROM json_each(?) WHERE value <> '')
		SELECT x.id, x.name FROM asked CROSS JOIN student x USING (id)
		UNION ALL SELECT x.id, x.name FROM asked CROSS JOIN examiner x USING (id)
		UNION ALL SELECT x.id, x.name FROM asked CROSS JOIN officer x USING (id)
		UNION ALL SELECT x.id, x.name FROM asked CROSS JOIN person x USING (id)
		UNION ALL SELECT x.id, x.text FROM asked CROSS JOIN fault_event x USING (id)
		UNION ALL SELECT x.id, x.reason FROM asked CROSS JOIN signature_event x USING (id)
		UNION ALL SELECT x.id, x.reason FROM asked CROSS JOIN eligibility_event x USING (id)
		UNION ALL SELECT x.id, x.reason FROM asked CROSS JOIN withdrawal_event x USING (id)
		UNION ALL SELECT x.id, x.partner FROM asked CROSS JOIN bout x USING (id)`, toJSON(ids))
	out := map[string]string{}
	for _, x := range rows {
		out[x[0]] = x[1]
	}
	return out, err
}

// NoteDeed puts a deed on the audit trail that changed no row: a paper sheet read twice.
func (s *Store) NoteDeed(ctx context.Context, by By, deed office.Deed) (Done, error) {
	return s.write(ctx, by, func(*txn) (string, office.Deed, error) { return "", deed, nil })
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
