package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strings"
	"sync"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

// MarkKind says what an examiner wrote.
type MarkKind string

// The kinds of mark. An open mark holds a note, or takes a mark back.
const (
	MarkGiven   MarkKind = "mark"
	MarkNotSeen MarkKind = "not_seen"
	MarkOpen    MarkKind = "open"
)

// Mark is one examiner's entry for one item of one candidate. The ID is made by whoever
// writes it; Supersedes is the id of the entry it replaces, "" for the first.
type Mark struct {
	ID          string          `json:"id"`
	CandidateID string          `json:"candidate"`
	ExaminerID  string          `json:"examiner"`
	ItemID      string          `json:"item"`
	Kind        MarkKind        `json:"kind"`
	Value       scoring.Decimal `json:"value"`          // of kind mark, in points; 0 otherwise
	Count       int             `json:"count,omitzero"` // what was counted behind the mark: press-ups, skips; 0 to 100,000
	Note        string          `json:"note"`
	Ticked      string          `json:"ticked,omitempty"` // what was seen of a free-choice line's list, a line each
	Supersedes  string          `json:"supersedes"`
}

// maxTicked bounds how many things are ticked on one line.
const maxTicked = 40

func bindMark(m *Mark) []any {
	return []any{&m.ID, &m.CandidateID, &m.ExaminerID, &m.ItemID, &m.Kind, asDecimal{&m.Value}, &m.Count, &m.Note, &m.Ticked, asText{&m.Supersedes}}
}

const markColumns = `id, candidate_id, examiner_id, item_id, kind, value, coalesce(count, 0), note, ticked, supersedes`

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
type Stale struct{ Current Mark }

// Error names the entry that stands there.
func (e *Stale) Error() string {
	return "another device has marked this since; what stands now is " + e.Current.Words()
}

// Words is the mark as people say it.
func (m Mark) Words() string {
	switch m.Kind {
	case MarkNotSeen:
		return "not seen"
	case MarkOpen:
		return "no mark"
	}
	return m.Value.String()
}

func eventID(id string) error {
	if len(id) < 8 || len(id) > 64 || strings.Trim(id, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-") != "" {
		return check.Problems{{Field: "id", Text: "must be 8 to 64 letters, digits or hyphens, made at random by whoever writes the entry"}}
	}
	return nil
}

// RecordMarks writes marks in one transaction; all or none. A mark that is on record with
// the same content is no error and writes nothing; with other content it is ErrConflict; a
// mark that supersedes an outdated entry is a *Stale.
func (s *Store) RecordMarks(ctx context.Context, by By, marks []Mark) error {
	_, err := s.write(ctx, by, func(t *txn) (string, string, error) {
		tables := map[[2]string]markTable{}
		for i := range marks {
			m := &marks[i]
			if m.Note = check.Tidy(m.Note); m.Kind != MarkGiven {
				m.Value = 0
			}
			if err := t.recordMark(ctx, *m, tables); err != nil {
				return "", "", err
			}
		}
		return "", "Marked " + count(len(marks), "item"), nil
	})
	return err
}

// TakeMarks writes what devices kept. Each mark is taken or refused by itself; the good ones
// are kept, and the answer comes once they are on the disk. A mark that is on record with the
// same content is no error and writes nothing. Marks that several devices send at once share
// one transaction, so that twenty tablets do not wait for the disk one after the other.
func (s *Store) TakeMarks(ctx context.Context, by By, marks []Mark) (refused []RefusedEntry, err error) {
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
	marks   []Mark
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
		_, err := s.write(ctx, By{}, func(t *txn) (string, string, error) {
			tables := map[[2]string]markTable{}
			for _, b := range batch {
				t.by = b.by
				b.refused = nil
				for i, m := range b.marks {
					if m.Note = check.Tidy(m.Note); m.Kind != MarkGiven {
						m.Value = 0
					}
					err := t.recordMark(ctx, m, tables)
					if refusedAlone(err) {
						b.refused = append(b.refused, RefusedEntry{i, err})
					} else if err != nil {
						return "", "", err
					}
				}
			}
			t.by = By{}
			return "", "", nil
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

func (t *txn) recordMark(ctx context.Context, m Mark, tables map[[2]string]markTable) error {
	problems := check.Problems{}
	if err := eventID(m.ID); err != nil {
		return err
	}
	check.OneOf(&problems, "kind", m.Kind, []MarkKind{MarkGiven, MarkNotSeen, MarkOpen})
	problems.Line("note", m.Note, check.LineLength)
	if m.Ticked != "" && (strings.Count(m.Ticked, "\n") >= maxTicked || len(m.Ticked) > maxTicked*check.LineLength) {
		problems.Add("ticked", "is too long; up to %d things are ticked", maxTicked)
	}
	if m.Count < 0 || m.Count > 100_000 {
		problems.Add("count", "is %d; it must be from 0 to 100000", m.Count)
	}
	if err := problems.Err(); err != nil {
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
	case m.Kind == MarkGiven && !at.policy.Scale.Holds(m.Value):
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
	value := sql.NullInt64{Int64: int64(m.Value), Valid: m.Kind == MarkGiven}
	return t.exec(ctx, `INSERT INTO mark_event (id, candidate_id, examiner_id, item_id, kind, value, count, note, ticked, supersedes, actor, at) VALUES (?, ?, ?, ?, ?, ?, nullif(?, 0), ?, ?, nullif(?, ''), ?, ?)`,
		m.ID, m.CandidateID, m.ExaminerID, m.ItemID, m.Kind, value, m.Count, m.Note, m.Ticked, m.Supersedes, t.by.Actor, t.at)
}

// FaultKind says what a fault comes to.
type FaultKind string

// The kinds of fault.
const (
	FaultNote      FaultKind = "note"
	FaultDeduction FaultKind = "deduction"
	FaultEnding    FaultKind = "ending"           // ends the test once the chief confirms it
	FaultConfirmed FaultKind = "ending_confirmed" // supersedes an ending fault
	FaultWithdrawn FaultKind = "withdrawn"        // supersedes any
)

// Fault is something in a candidate's conduct: a note, a deduction, or the end of the test.
type Fault struct {
	ID          string          `json:"id"`
	CandidateID string          `json:"candidate"`
	ExaminerID  string          `json:"examiner"`
	Kind        FaultKind       `json:"kind"`
	Points      scoring.Decimal `json:"points"`            // of a deduction
	Conduct     Conduct         `json:"conduct,omitempty"` // what kind of conduct; "" something else
	BoutID      string          `json:"bout,omitempty"`    // of a fault seen in a bout
	Text        string          `json:"text"`
	Supersedes  string          `json:"supersedes"`
}

// Conduct is what a fault is about.
type Conduct string

// The kinds of conduct. Head is head contact beyond the rule or any sign of concussion: it
// ends that person's sparring for the day.
const (
	ExcessContact Conduct = "excess_contact"
	LossOfControl Conduct = "loss_of_control"
	UnsafeAct     Conduct = "unsafe_act"
	Disrespect    Conduct = "disrespect"
	Stopping      Conduct = "stopping"
	TooFar        Conduct = "too_far" // out of reach where contact is none: nothing could have touched
	Head          Conduct = "head"
)

// Conducts are the choices, in the order screens offer them.
var Conducts = []Conduct{ExcessContact, LossOfControl, UnsafeAct, Disrespect, Stopping, TooFar, Head}

// Words is the conduct as people say it.
func (c Conduct) Words() string {
	return map[Conduct]string{ExcessContact: "excess contact", LossOfControl: "loss of control", UnsafeAct: "unsafe act", Disrespect: "disrespect", Stopping: "stopping", TooFar: "too far to reach", Head: "head contact or a sign of concussion: no more sparring today"}[c]
}

func bindFault(f *Fault) []any {
	return []any{&f.ID, &f.CandidateID, &f.ExaminerID, &f.Kind, asDecimal{&f.Points}, &f.Conduct, asText{&f.BoutID}, &f.Text, asText{&f.Supersedes}}
}

const faultColumns = `id, candidate_id, examiner_id, kind, points, conduct, bout_id, text, supersedes`

// maxDeduction is the most points one fault takes off.
var maxDeduction = scoring.Whole(1000)

// RecordFault writes a fault, its withdrawal or its confirmation, under the same rules for
// ids as RecordMarks.
func (s *Store) RecordFault(ctx context.Context, by By, f Fault) error {
	f.Text = check.Tidy(f.Text)
	var p check.Problems
	check.OneOf(&p, "kind", f.Kind, []FaultKind{FaultNote, FaultDeduction, FaultEnding, FaultConfirmed, FaultWithdrawn})
	if f.Conduct != "" {
		check.OneOf(&p, "conduct", f.Conduct, Conducts)
	}
	if p.Line("text", f.Text, check.LineLength); f.Text == "" {
		if f.Text, _, _ = strings.Cut(f.Conduct.Words(), ":"); f.Text == "" {
			p.Add("text", "is empty; say what was seen")
		}
	}
	if f.Kind == FaultDeduction && (f.Points <= 0 || f.Points > maxDeduction) {
		p.Add("points", "is %s; a deduction takes more than 0 and at most %s points", f.Points, maxDeduction)
	} else if f.Kind != FaultDeduction {
		f.Points = 0
	}
	if err := orErr(eventID(f.ID), p.Err()); err != nil {
		return err
	}
	_, err := s.write(ctx, by, func(t *txn) (string, string, error) {
		same, err := list(ctx, t, bindFault, `SELECT `+faultColumns+` FROM fault_event WHERE id = ?`, f.ID)
		if err != nil {
			return "", "", err
		}
		if len(same) > 0 {
			if same[0] != f {
				return "", "", ErrConflict
			}
			return f.ID, "Sent a fault again", nil
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
			return "", "", refuse("This examiner does not mark this candidate.")
		case err != nil:
			return "", "", err
		case !at.begun:
			return "", "", refuse("This grading has not begun; open the tables first.")
		case at.announced > 0:
			return "", "", refuse("The result has been announced; its faults stay as they are.")
		case at.signed > 0 && f.Supersedes == "":
			return "", "", refuse("This sheet is signed. Reopen it, with a reason, to note a fault.")
		}
		if f.Kind == FaultConfirmed && at.chief != "" && f.ExaminerID != at.chief {
			return "", "", refuse("A fault that ends the test is confirmed by the chief examiner.")
		}
		needs := f.Kind == FaultConfirmed || f.Kind == FaultWithdrawn
		if needs {
			old, err := list(ctx, t, bindFault, `SELECT `+faultColumns+` FROM fault WHERE id = ? AND candidate_id = ?`, f.Supersedes, f.CandidateID)
			if err != nil {
				return "", "", err
			}
			if len(old) > 0 {
				f.Conduct, f.BoutID = old[0].Conduct, old[0].BoutID
			}
			if len(old) == 0 || f.Kind == FaultConfirmed && old[0].Kind != FaultEnding {
				return "", "", refuse("The fault this entry is about is not on record, or was settled already.")
			}
		} else if f.Supersedes != "" {
			return "", "", refuse("A new fault replaces nothing; withdraw the old one.")
		}
		if f.Conduct == Head && f.BoutID != "" && f.Kind != FaultWithdrawn {
			if err := t.stopBout(ctx, f.BoutID); err != nil {
				return "", "", err
			}
		}
		return f.ID, "Noted a fault: " + f.Text, t.exec(ctx, `INSERT INTO fault_event (id, candidate_id, examiner_id, kind, points, conduct, bout_id, text, supersedes, actor, at) VALUES (?, ?, ?, ?, ?, ?, nullif(?, ''), ?, nullif(?, ''), ?, ?)`,
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
	Items       []GroupItem // in the order they are called
	Marks       []Mark      // that stand now, by this examiner
	Faults      []Fault
	SignatureID string    // "" while the sheet is open
	Waiting     []Fault   // for the chief examiner: faults of the whole panel that would end a test, not settled yet
	At          time.Time // when this was read
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
	x.Items = merge(x.Grading, x.Candidates, all)
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
	return s.write(ctx, by, func(t *txn) (string, string, error) {
		type head struct {
			name, grading string
			begun         bool
		}
		h, err := one(ctx, t, func(h *head) []any { return []any{&h.name, &h.grading, &h.begun} }, `SELECT e.name, g.id, g.begun_at IS NOT NULL FROM candidate_group o JOIN examiner e ON e.panel_id = o.panel_id JOIN grading g ON g.id = o.grading_id WHERE o.id = ? AND e.id = ?`, group, examiner)
		if err != nil {
			return "", "", err
		}
		if !h.begun {
			return "", "", refuse("This grading has not begun; open the tables first.")
		}
		last, signed, err := t.lastSignature(ctx, examiner, group)
		if err != nil {
			return "", "", err
		}
		if signed {
			return "", "", refuse("This sheet is signed already.")
		}
		type gap struct{ candidate, item, label, mark, name string }
		gaps, err := list(ctx, t, func(g *gap) []any { return []any{&g.candidate, &g.item, &g.label, asText{&g.mark}, &g.name} },
			`SELECT c.id, i.id, i.label, (SELECT m.id FROM mark m WHERE m.candidate_id = c.id AND m.examiner_id = ?1 AND m.item_id = i.id), s.name FROM candidate c JOIN test_item i ON i.sheet_id = c.sheet_id AND i.carried IS NULL
			JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id WHERE c.group_id = ?2 AND c.withdrawn_at IS NULL
			AND NOT EXISTS (SELECT 1 FROM mark m WHERE m.candidate_id = c.id AND m.examiner_id = ?1 AND m.item_id = i.id AND m.kind <> 'open') ORDER BY c.number, i.position`, examiner, group)
		if err != nil {
			return "", "", err
		}
		if len(gaps) > 0 && !fill {
			return "", "", refuse("%s still to be given, the first for %s: %s. Mark it, or say that you did not see it.", count(len(gaps), "mark"), gaps[0].name, gaps[0].label)
		}
		tables := map[[2]string]markTable{}
		for _, g := range gaps {
			if err := t.recordMark(ctx, Mark{ID: NewID(), CandidateID: g.candidate, ExaminerID: examiner, ItemID: g.item, Kind: MarkNotSeen, Supersedes: g.mark}, tables); err != nil {
				return "", "", err
			}
		}
		id := NewID()
		if err := t.exec(ctx, `INSERT INTO signature_event (id, examiner_id, group_id, kind, supersedes, actor, at) VALUES (?, ?, ?, 'signed', nullif(?, ''), ?, ?)`, id, examiner, group, last, t.by.Actor, t.at); err != nil {
			return "", "", err
		}
		return id, h.name + " signed a sheet", t.atOnce(ctx, h.grading, group)
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
	return s.write(ctx, by, func(t *txn) (string, string, error) {
		last, signed, err := t.lastSignature(ctx, examiner, group)
		if err != nil {
			return "", "", err
		}
		if !signed {
			return "", "", refuse("This sheet is not signed.")
		}
		if told, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM announcement a JOIN candidate c ON c.id = a.candidate_id WHERE c.group_id = ?`, group); err != nil || told > 0 {
			return "", "", orErr(err, refuse("Results of this group have been announced; its sheets stay closed."))
		}
		id := NewID()
		return id, "Reopened a sheet: " + reason, t.exec(ctx, `INSERT INTO signature_event (id, examiner_id, group_id, kind, reason, supersedes, actor, at) VALUES (?, ?, ?, 'reopened', ?, ?, ?, ?)`, id, examiner, group, reason, last, t.by.Actor, t.at)
	})
}
