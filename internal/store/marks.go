package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"sync"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/scoring"
)

func bindMark(m *gradingday.Mark) []any {
	return []any{&m.ID, &m.CandidateID, &m.ExaminerID, &m.ItemID, &m.Kind, asDecimal{&m.Value}, &m.Count, &m.Note, &m.Ticked, &m.Faults, &m.Again, asText{&m.Supersedes}}
}

const markColumns = `id, candidate_id, examiner_id, item_id, kind, value, coalesce(count, 0), note, ticked, faults, again, supersedes`

// asDecimal scans billionths; NULL is 0.
type asDecimal struct{ d *scoring.Decimal }

// Scan implements sql.Scanner.
func (a asDecimal) Scan(src any) error {
	n, whole := src.(int64)
	if *a.d = scoring.Decimal(n); !whole && src != nil {
		return fmt.Errorf("%v is a %T, where billionths stand", src, src)
	}
	return nil
}

// Stale says that someone else wrote to the same place first, and what stands there now.
type Stale struct{ Current gradingday.Mark }

// Error names the entry that stands there.
func (e *Stale) Error() string {
	return "another device has marked this since"
}

// TakeMarks writes what devices kept. Each mark is taken or refused by itself; the good ones
// are kept, and the answer comes once they are on the disk. A mark that is on record with the
// same content is no error and writes nothing. Marks that several devices send at once share
// one transaction, so that twenty tablets do not wait for the disk one after the other.
func (s *Store) TakeMarks(ctx context.Context, by By, marks []gradingday.Mark) (refused []RefusedEntry, err error) {
	mine := &markBatch{by: by, marks: marks, done: make(chan struct{})}
	s.marking.Lock()
	s.waiting = append(s.waiting, mine)
	lead := !s.leading
	s.leading = true
	s.marking.Unlock()
	if lead { // others wait for these too, and who leads does not wait for others'
		go s.leadMarks(context.WithoutCancel(ctx))
	}
	select {
	case <-mine.done:
		return mine.refused, mine.err
	case <-ctx.Done():
		return nil, ctx.Err() // it may still be stored; the device asks again with the same ids
	}
}

// markBatch is one device's marks on their way to the disk.
type markBatch struct {
	by      By
	marks   []gradingday.Mark
	refused []RefusedEntry
	err     error
	done    chan struct{}
}

// markQueue gathers what devices send while the disk is busy.
type markQueue struct {
	marking sync.Mutex
	waiting []*markBatch
	leading bool
}

func (s *Store) leadMarks(ctx context.Context) {
	for {
		s.marking.Lock()
		batch := s.waiting
		s.waiting = nil
		if len(batch) == 0 {
			s.leading = false
			s.marking.Unlock()
			return
		}
		s.marking.Unlock()
		_, err := s.write(ctx, By{}, func(t *txn) (string, office.Deed, error) {
			tables := map[[2]string]markTable{}
			for _, b := range batch {
				t.by = b.by
				b.refused = nil
				for i, m := range b.marks {
					m.Tidy()
					err := t.recordMark(ctx, m, tables)
					if refusedAlone(err) {
						b.refused = append(b.refused, RefusedEntry{i, err})
					} else if err != nil {
						return "", office.Deed{}, err
					}
				}
			}
			t.by = By{}
			return "", office.Deed{}, nil
		})
		for _, b := range batch {
			b.err = err
			close(b.done)
		}
	}
}

// refusedAlone reports whether an error is about one entry, and no trouble with the records.
func refusedAlone(err error) bool {
	var problems check.Problems
	var no *Refused
	var old *Outdated
	var stale *Stale
	return errors.As(err, &problems) || errors.As(err, &no) || errors.As(err, &old) || errors.As(err, &stale) || errors.Is(err, ErrConflict) || errors.Is(err, ErrNotFound)
}

// markTable is what decides whether an examiner may mark a candidate, and how.
type markTable struct {
	policy            scoring.Policy
	begun             bool
	signed, announced int
	sheet, name       string
}

// markTable reads a table once for all marks of one transaction: nothing else writes meanwhile.
func (t *txn) markTable(ctx context.Context, candidate, examiner string, kept map[[2]string]markTable) (markTable, error) {
	if at, there := kept[[2]string{candidate, examiner}]; there {
		return at, nil
	}
	at, err := one(ctx, t, func(p *markTable) []any {
		return []any{asJSON{&p.policy}, &p.begun, &p.signed, &p.announced, asText{&p.sheet}, &p.name}
	}, `SELECT g.policy, g.begun_at IS NOT NULL, (SELECT count(*) FROM signature x WHERE x.examiner_id = e.id AND x.group_id = c.group_id), (SELECT count(*) FROM announcement a WHERE a.candidate_id = c.id), c.sheet_id, s.name
		FROM candidate c JOIN grading g ON g.id = c.grading_id JOIN candidate_group o ON o.id = c.group_id JOIN examiner e ON e.panel_id = o.panel_id
		JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id
		WHERE c.id = ?1 AND e.id = ?2 AND c.withdrawn_at IS NULL AND g.deleted_at IS NULL`, candidate, examiner)
	if err == ErrNotFound {
		return at, refuse("This examiner does not mark this candidate.")
	}
	if err == nil {
		kept[[2]string{candidate, examiner}] = at
	}
	return at, err
}

func (t *txn) recordMark(ctx context.Context, m gradingday.Mark, tables map[[2]string]markTable) error {
	if err := m.Check(); err != nil {
		return err
	}
	same, err := list(ctx, t, bindMark, `SELECT `+markColumns+` FROM mark_event WHERE id = ?`, m.ID)
	if err != nil {
		return err
	}
	if len(same) > 0 {
		if same[0] != m {
			return ErrConflict
		}
		return nil
	}
	at, err := t.markTable(ctx, m.CandidateID, m.ExaminerID, tables)
	if err != nil {
		return err
	}
	known, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) + coalesce(sum(i.carried IS NOT NULL), 0) FROM test_item i WHERE i.id = ? AND i.sheet_id = ?`, m.ItemID, at.sheet)
	switch {
	case err != nil:
		return err
	case known == 2:
		return refuse("%s passed this at an earlier attempt; it stands and is not marked again.", at.name)
	case !at.begun:
		return refuse("This grading has not begun; open the tables first.")
	case known == 0:
		return refuse("This item is not on %s's sheet.", at.name)
	case at.announced > 0:
		return refuse("%s's result has been announced; its marks stay as they are.", at.name)
	case at.signed > 0:
		return refuse("This sheet is signed. Reopen it, with a reason, to change a mark.")
	case m.Kind == gradingday.MarkGiven && !at.policy.Scale.Holds(m.Value):
		return check.Problems{{Field: "value", Text: fmt.Sprintf("%s is not a mark here; the scale is %s", m.Value, at.policy.Scale.Describe())}}
	}
	current, err := list(ctx, t, bindMark, `SELECT `+markColumns+` FROM mark WHERE candidate_id = ? AND examiner_id = ? AND item_id = ?`, m.CandidateID, m.ExaminerID, m.ItemID)
	if err != nil {
		return err
	}
	if len(current) > 0 && current[0].ID != m.Supersedes {
		return &Stale{current[0]}
	}
	if len(current) == 0 && m.Supersedes != "" {
		return refuse("The entry this one replaces is not on record.")
	}
	value := sql.NullInt64{Int64: int64(m.Value), Valid: m.Kind == gradingday.MarkGiven}
	return t.exec(ctx, `INSERT INTO mark_event (id, candidate_id, examiner_id, item_id, kind, value, count, note, ticked, faults, again, supersedes, actor, at) VALUES (?, ?, ?, ?, ?, ?, nullif(?, 0), ?, ?, ?, ?, nullif(?, ''), ?, ?)`,
		m.ID, m.CandidateID, m.ExaminerID, m.ItemID, m.Kind, value, m.Count, m.Note, m.Ticked, m.Faults, m.Again, m.Supersedes, t.by.Actor, t.at)
}

// EntriesStored are those of some ids under which something a device may keep is on record.
func (s *Store) EntriesStored(ctx context.Context, ids []string) ([]string, error) {
	return list(ctx, s.r, func(id *string) []any { return []any{id} }, `WITH asked AS (SELECT value AS id FROM json_each(?))
		SELECT id FROM asked
		WHERE EXISTS (SELECT 1 FROM mark_event x WHERE x.id = asked.id)
			OR EXISTS (SELECT 1 FROM fault_event x WHERE x.id = asked.id)
			OR EXISTS (SELECT 1 FROM bout_event x WHERE x.id = asked.id)
			OR EXISTS (SELECT 1 FROM attendance_event x WHERE x.id = asked.id)
			OR EXISTS (SELECT 1 FROM signoff_event x WHERE x.id = asked.id)
			OR EXISTS (SELECT 1 FROM calibration_event x WHERE x.id = asked.id)`, toJSON(append([]string{}, ids...)))
}

func bindFault(f *gradingday.Fault) []any {
	return []any{&f.ID, &f.CandidateID, &f.ExaminerID, &f.Kind, asDecimal{&f.Points}, &f.Conduct, asText{&f.BoutID}, &f.Text, asText{&f.Supersedes}}
}

const faultColumns = `id, candidate_id, examiner_id, kind, points, conduct, bout_id, text, supersedes`

// RecordFault writes a fault, its withdrawal or its confirmation, under the same rules for
// ids as TakeMarks.
func (s *Store) RecordFault(ctx context.Context, by By, f gradingday.Fault) error {
	f.Tidy()
	if err := f.Check(); err != nil {
		return err
	}
	_, err := s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		same, err := list(ctx, t, bindFault, `SELECT `+faultColumns+` FROM fault_event WHERE id = ?`, f.ID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if len(same) > 0 {
			if f.Settles() { // it is about the same as what it settles
				f.Conduct, f.BoutID = same[0].Conduct, same[0].BoutID
			}
			if same[0] != f {
				return "", office.Deed{}, ErrConflict
			}
			return f.ID, office.Deed{}, nil
		}
		type place struct {
			begun             bool
			signed, announced int
			chief             string // of the ring; "" none
		}
		at, err := one(ctx, t, func(p *place) []any { return []any{&p.begun, &p.signed, &p.announced, asText{&p.chief}} },
			`SELECT g.begun_at IS NOT NULL, (SELECT count(*) FROM signature x WHERE x.examiner_id = e.id AND x.group_id = c.group_id), (SELECT count(*) FROM announcement a WHERE a.candidate_id = c.id),
			(SELECT x.id FROM examiner x WHERE x.panel_id = o.panel_id AND x.chief = 1)
			FROM candidate c JOIN grading g ON g.id = c.grading_id JOIN candidate_group o ON o.id = c.group_id JOIN examiner e ON e.panel_id = o.panel_id WHERE c.id = ? AND e.id = ? AND c.withdrawn_at IS NULL`, f.CandidateID, f.ExaminerID)
		switch {
		case err == ErrNotFound:
			return "", office.Deed{}, refuse("This examiner does not mark this candidate.")
		case err != nil:
			return "", office.Deed{}, err
		case !at.begun:
			return "", office.Deed{}, refuse("This grading has not begun; open the tables first.")
		}
		where := gradingday.FaultPlace{Signed: at.signed > 0, Announced: at.announced > 0, Chief: at.chief}
		if f.Settles() {
			old, err := list(ctx, t, bindFault, `SELECT `+faultColumns+` FROM fault WHERE id = ? AND candidate_id = ?`, f.Supersedes, f.CandidateID)
			if err != nil {
				return "", office.Deed{}, err
			}
			if len(old) > 0 {
				where.Old = &old[0]
				f.Conduct, f.BoutID = old[0].Conduct, old[0].BoutID
			}
		}
		if no := f.May(where); no != "" {
			return "", office.Deed{}, refuse("%s", string(no))
		}
		if f.EndsSparring() && f.BoutID != "" {
			if err := t.stopBout(ctx, f.BoutID); err != nil {
				return "", office.Deed{}, err
			}
		}
		return f.ID, office.Deed{Kind: office.FaultNoted, Entry: f.ID, In: string(f.Conduct)}, t.exec(ctx, `INSERT INTO fault_event (id, candidate_id, examiner_id, kind, points, conduct, bout_id, text, supersedes, actor, at) VALUES (?, ?, ?, ?, ?, ?, nullif(?, ''), ?, nullif(?, ''), ?, ?)`,
			f.ID, f.CandidateID, f.ExaminerID, f.Kind, int64(f.Points), f.Conduct, f.BoutID, f.Text, f.Supersedes, t.by.Actor, t.at)
	})
	return err
}

// Table is everything one examiner's scoring table shows of one group.
type Table struct {
	Grading     Grading
	Examiner    gradingday.Examiner
	GroupID     string
	Group       string
	RingID      string
	Candidates  []Candidate
	Items       []gradingday.GroupItem // in the order they are called
	Marks       []gradingday.Mark      // that stand now, by this examiner
	Faults      []gradingday.Fault
	SignatureID string             // "" while the sheet is open
	AllSigned   bool               // everybody of the panel who is there
	Waiting     []gradingday.Fault // for the chief examiner: faults of the whole panel that would end a test, not settled yet
	At          time.Time          // when this was read
}

// ScoringTable reads the table of one examiner and group.
func (s *Store) ScoringTable(ctx context.Context, examiner, group string) (Table, error) {
	var x Table
	x.At = s.now()
	type head struct{ grading, group, ring string }
	h, err := one(ctx, s.r, func(h *head) []any { return []any{&h.grading, &h.group, &h.ring} },
		`SELECT o.grading_id, o.name, o.panel_id FROM candidate_group o JOIN examiner e ON e.panel_id = o.panel_id WHERE o.id = ? AND e.id = ?`, group, examiner)
	if err != nil {
		return x, err
	}
	x.GroupID, x.Group, x.RingID = group, h.group, h.ring
	if x.Grading, err = s.Grading(ctx, h.grading); err != nil {
		return x, err
	}
	for _, e := range x.Grading.Examiners {
		if e.ID == examiner {
			x.Examiner = e
		}
	}
	if x.Candidates, err = list(ctx, s.r, bindCandidate, selectCandidate+`AND c.group_id = ? ORDER BY c.number`, group); err != nil {
		return x, err
	}
	all, err := sheets(ctx, s.r, h.grading)
	if err != nil {
		return x, err
	}
	x.Items = gradingday.Merge(x.Grading.Marking, onSheets(x.Candidates), all)
	if x.Marks, err = list(ctx, s.r, bindMark, `SELECT `+markColumns+` FROM mark WHERE examiner_id = ? AND candidate_id IN (SELECT id FROM candidate WHERE group_id = ?)`, examiner, group); err != nil {
		return x, err
	}
	if x.Faults, err = list(ctx, s.r, bindFault, `SELECT `+faultColumns+` FROM fault WHERE examiner_id = ? AND candidate_id IN (SELECT id FROM candidate WHERE group_id = ?) ORDER BY at`, examiner, group); err != nil {
		return x, err
	}
	if x.Examiner.Chief {
		if x.Waiting, err = list(ctx, s.r, bindFault, `SELECT `+faultColumns+` FROM fault WHERE kind = 'ending' AND candidate_id IN (SELECT id FROM candidate WHERE group_id = ?) ORDER BY at`, group); err != nil {
			return x, err
		}
	}
	signed, err := list(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT id FROM signature WHERE examiner_id = ? AND group_id = ?`, examiner, group)
	if len(signed) > 0 {
		x.SignatureID = signed[0]
	}
	if err != nil {
		return x, err
	}
	x.AllSigned, err = one(ctx, s.r, func(b *bool) []any { return []any{b} }, `SELECT NOT EXISTS (SELECT 1 FROM examiner e WHERE e.panel_id = ? AND e.absent_at IS NULL AND NOT EXISTS (SELECT 1 FROM signature x WHERE x.examiner_id = e.id AND x.group_id = ?))`, h.ring, group)
	return x, err
}

// Sheet says how far an examiner is with a group.
type Sheet struct {
	ExaminerID, GroupID string
	Marks               int // given, not seen included
	Of                  int
	Signed              bool
}

// Progress is how far every examiner of a grading is with every group.
func (s *Store) Progress(ctx context.Context, gradingID string) ([]Sheet, error) {
	return list(ctx, s.r, func(x *Sheet) []any { return []any{&x.ExaminerID, &x.GroupID, &x.Marks, &x.Of, &x.Signed} },
		`SELECT e.id, o.id, (SELECT count(*) FROM candidate c JOIN mark m ON m.candidate_id = c.id WHERE c.group_id = o.id AND c.withdrawn_at IS NULL AND m.examiner_id = e.id AND m.kind <> 'open'),
		(SELECT count(*) FROM candidate c JOIN test_item i ON i.sheet_id = c.sheet_id AND i.carried IS NULL WHERE c.group_id = o.id AND c.withdrawn_at IS NULL),
		EXISTS (SELECT 1 FROM signature x WHERE x.examiner_id = e.id AND x.group_id = o.id)
		FROM candidate_group o JOIN examiner e ON e.panel_id = o.panel_id WHERE o.grading_id = ? AND EXISTS (SELECT 1 FROM candidate c WHERE c.group_id = o.id AND c.withdrawn_at IS NULL)
		ORDER BY o.position, e.position`, gradingID)
}

// Sign closes an examiner's sheet of a group. Every item of every candidate must have a
// mark or "not seen"; with fill, those without become "not seen" first.
func (s *Store) Sign(ctx context.Context, by By, examiner, group string, fill bool) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		type head struct {
			name, grading string
			begun         bool
		}
		h, err := one(ctx, t, func(h *head) []any { return []any{&h.name, &h.grading, &h.begun} }, `SELECT e.name, g.id, g.begun_at IS NOT NULL FROM candidate_group o JOIN examiner e ON e.panel_id = o.panel_id JOIN grading g ON g.id = o.grading_id WHERE o.id = ? AND e.id = ?`, group, examiner)
		if err != nil {
			return "", office.Deed{}, err
		}
		if !h.begun {
			return "", office.Deed{}, refuse("This grading has not begun; open the tables first.")
		}
		last, signed, err := t.lastSignature(ctx, examiner, group)
		if err != nil {
			return "", office.Deed{}, err
		}
		if signed {
			return "", office.Deed{}, refuse("This sheet is signed already.")
		}
		type gap struct {
			candidate, item, label, mark, name string
			again                              bool
		}
		gaps, err := list(ctx, t, func(g *gap) []any { return []any{&g.candidate, &g.item, &g.label, asText{&g.mark}, &g.name, &g.again} },
			`SELECT c.id, i.id, i.label, (SELECT m.id FROM mark m WHERE m.candidate_id = c.id AND m.examiner_id = ?1 AND m.item_id = i.id), s.name,
			EXISTS (SELECT 1 FROM mark m WHERE m.candidate_id = c.id AND m.examiner_id = ?1 AND m.item_id = i.id AND m.again <> '')
			FROM candidate c JOIN test_item i ON i.sheet_id = c.sheet_id AND i.carried IS NULL
			JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id WHERE c.group_id = ?2 AND c.withdrawn_at IS NULL
			AND NOT EXISTS (SELECT 1 FROM mark m WHERE m.candidate_id = c.id AND m.examiner_id = ?1 AND m.item_id = i.id AND m.kind <> 'open' AND m.again = '') ORDER BY c.number, i.position`, examiner, group)
		if err != nil {
			return "", office.Deed{}, err
		}
		if at := slices.IndexFunc(gaps, func(g gap) bool { return g.again }); at >= 0 && (fill || len(gaps) == 1) {
			return "", office.Deed{}, refuse("%s of %s is asked for again; mark it, or let its mark stand.", gaps[at].label, gaps[at].name)
		}
		if len(gaps) > 0 && !fill {
			return "", office.Deed{}, refuse("%s still to be given, the first for %s: %s. Mark it, or say that you did not see it.", check.Count(len(gaps), "mark"), gaps[0].name, gaps[0].label)
		}
		tables := map[[2]string]markTable{}
		for _, g := range gaps {
			if err := t.recordMark(ctx, gradingday.Mark{ID: NewID(), CandidateID: g.candidate, ExaminerID: examiner, ItemID: g.item, Kind: gradingday.MarkNotSeen, Supersedes: g.mark}, tables); err != nil {
				return "", office.Deed{}, err
			}
		}
		id := NewID()
		if err := t.exec(ctx, `INSERT INTO signature_event (id, examiner_id, group_id, kind, supersedes, actor, at) VALUES (?, ?, ?, 'signed', nullif(?, ''), ?, ?)`, id, examiner, group, last, t.by.Actor, t.at); err != nil {
			return "", office.Deed{}, err
		}
		return id, office.SheetSigned.Of(examiner), t.atOnce(ctx, h.grading, group)
	})
}

func (t *txn) lastSignature(ctx context.Context, examiner, group string) (id string, signed bool, err error) {
	type last struct{ id, kind string }
	all, err := list(ctx, t, func(l *last) []any { return []any{&l.id, &l.kind} },
		`SELECT id, kind FROM signature_event e WHERE examiner_id = ? AND group_id = ? AND NOT EXISTS (SELECT 1 FROM signature_event n WHERE n.supersedes = e.id)`, examiner, group)
	if err != nil || len(all) == 0 {
		return "", false, err
	}
	return all[0].id, all[0].kind == "signed", nil
}

// Reopen takes a signature back, with a reason, so that marks can be corrected.
func (s *Store) Reopen(ctx context.Context, by By, examiner, group, reason string) (Done, error) {
	reason = check.Tidy(reason)
	var p check.Problems
	if p.Line("reason", reason, check.LineLength); reason == "" {
		p.Add("reason", "is empty; say why the sheet is opened again, it stays on record")
	}
	if err := p.Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		last, signed, err := t.lastSignature(ctx, examiner, group)
		if err != nil {
			return "", office.Deed{}, err
		}
		if !signed {
			return "", office.Deed{}, refuse("This sheet is not signed.")
		}
		if told, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM announcement a JOIN candidate c ON c.id = a.candidate_id WHERE c.group_id = ?`, group); err != nil || told > 0 {
			return "", office.Deed{}, orErr(err, refuse("Results of this group have been announced; its sheets stay closed."))
		}
		id := NewID()
		return id, office.Deed{Kind: office.SheetReopened, Entry: id}, t.exec(ctx, `INSERT INTO signature_event (id, examiner_id, group_id, kind, reason, supersedes, actor, at) VALUES (?, ?, ?, 'reopened', ?, ?, ?, ?)`, id, examiner, group, reason, last, t.by.Actor, t.at)
	})
}
