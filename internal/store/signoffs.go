package store

import (
	"context"
	"database/sql"
	"errors"
	"maps"
	"slices"
	"strings"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// SignOff is an entry about a requirement of the rung a student climbs to: shown, or not yet.
// The ID is made by whoever writes it. A withdrawn one names in Supersedes what it takes back.
type SignOff struct {
	ID          string
	EnrolmentID string
	TechniqueID string
	Role        curriculum.Role
	Stage       int
	Side        string // left, right; "": all that are asked
	Kind        string // shown, not_yet, withdrawn
	Fault       string
	Clip        bool
	ClassID     string // in which it was shown; "" outside of one
	On          civil.Date
	Supersedes  string
	Line        string // of the test sheet, by its key; "": every line of technique and role
}

func bindSignOff(x *SignOff) []any {
	return []any{&x.ID, &x.EnrolmentID, &x.TechniqueID, &x.Role, &x.Stage, &x.Side, &x.Kind, &x.Fault, &x.Clip, asText{&x.ClassID}, asDate{&x.On}, asText{&x.Supersedes}, &x.Line}
}

const selectSignOff = `SELECT e.id, e.enrolment_id, e.technique_id, e.role, e.stage, e.side, e.kind, e.fault, e.clip, g.class_id, e.on_date, e.supersedes, e.line FROM signoff_event e LEFT JOIN register g ON g.id = e.register_id `

// RecordSignOffs writes entries in one transaction. Each is taken or refused by itself, as
// attendance is; one that is on record with the same content is no error.
func (s *Store) RecordSignOffs(ctx context.Context, by By, entries []SignOff) (refused []RefusedEntry, err error) {
	_, err = s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		h := hall{t: t, registers: map[string]hallRegister{}, students: map[string]civil.Date{}}
		climbs := map[string]*Climbing{}
		for i, e := range entries {
			err := h.signOff(ctx, e, climbs)
			var problems check.Problems
			var no *Refused
			if errors.As(err, &problems) || errors.As(err, &no) || errors.Is(err, ErrConflict) || errors.Is(err, ErrNotFound) {
				refused = append(refused, RefusedEntry{i, err})
			} else if err != nil {
				return "", office.Deed{}, err
			}
		}
		return "", office.SignOffsEntered.Many(len(entries) - len(refused)), nil
	})
	return refused, err
}

// signOff is long: the refusals stand in the order in which they are told.
func (h *hall) signOff(ctx context.Context, x SignOff, climbs map[string]*Climbing) error {
	t := h.t
	if err := gradingday.EntryID(x.ID); err != nil {
		return err
	}
	x.Fault = check.Tidy(x.Fault)
	same, err := list(ctx, t, bindSignOff, selectSignOff+`WHERE e.id = ?`, x.ID)
	if err != nil {
		return err
	}
	if len(same) > 0 {
		if same[0] != x {
			return ErrConflict
		}
		return nil
	}
	var p check.Problems
	check.OneOf(&p, "kind", x.Kind, []string{"shown", "not_yet", "withdrawn"})
	check.OneOf(&p, "side", x.Side, []string{"", "left", "right"})
	check.OneOf(&p, "role", x.Role, curriculum.Roles)
	p.Line("fault", x.Fault, check.LineLength)
	if (x.Kind == "withdrawn") != (x.Supersedes != "") {
		p.Add("supersedes", "names the entry that is taken back, and only then")
	}
	if x.On.IsZero() {
		p.Add("on", "is missing; write the day on which it was shown")
	} else if t.s.Today().Before(x.On) {
		p.Add("on", "%s lies in the future", x.On.Long())
	}
	if err := p.Err(); err != nil {
		return err
	}
	c := climbs[x.EnrolmentID]
	if c == nil {
		all, err := t.stand(ctx, x.On, `e.id = ? AND e.ended_on IS NULL`, x.EnrolmentID)
		if err != nil {
			return err
		}
		if len(all) == 0 {
			return refuse("This climb is not on record, or has ended.")
		}
		c = &all[0]
		climbs[x.EnrolmentID] = c
	}
	if c.Next == nil {
		return refuse("%s stands on the highest rung; there is nothing above to be signed off.", c.Name)
	}
	register := ""
	if x.ClassID != "" {
		if register, err = h.register(ctx, gradingday.Attendance{ClassID: x.ClassID, On: x.On}); err != nil {
			return err
		}
	}
	rung := c.Next.ID
	var demand any
	if x.Kind == "withdrawn" {
		old, err := list(ctx, t, func(r *[2]string) []any { return []any{&r[0], &r[1]} }, `SELECT rung_id, enrolment_id FROM signoff WHERE id = ?`, x.Supersedes)
		if err != nil {
			return err
		}
		if len(old) == 0 || old[0][1] != x.EnrolmentID {
			return refuse("The entry to be taken back is not on record, or was taken back before.")
		}
		rung = old[0][0]
	} else {
		it, err := signedLine(h.judging.asked(*c), x, c)
		if err != nil {
			return err
		}
		if x.Stage < 0 || x.Stage > max(it.Stage, it.Stages) {
			return check.Problems{{Field: "stage", Text: "is not a part of this technique"}}
		}
		if x.Line != "" {
			d := it.Demand()
			d.Stage = x.Stage
			demand = toJSON(d)
		}
	}
	t.staleClimb(x.EnrolmentID)
	return t.exec(ctx, `INSERT INTO signoff_event (id, enrolment_id, rung_id, technique_id, role, stage, side, kind, fault, clip, register_id, on_date, supersedes, line, demand, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, nullif(?, ''), ?, nullif(?, ''), ?, ?, ?, ?)`,
		x.ID, x.EnrolmentID, rung, x.TechniqueID, x.Role, x.Stage, x.Side, x.Kind, x.Fault, x.Clip, register, x.On.String(), x.Supersedes, x.Line, demand, t.by.Actor, t.at)
}

// signedLine is the line of a climb's own sheet that a sign-off is of.
func signedLine(asked *progress.Asked, x SignOff, c *Climbing) (*progress.Item, error) {
	ofTechnique := false
	for i := range asked.Items {
		it := &asked.Items[i]
		if it.TechniqueID != x.TechniqueID || it.Role != x.Role {
			continue
		}
		if ofTechnique = true; x.Line == "" || it.Key() == x.Line {
			return it, nil
		}
	}
	if ofTechnique {
		return nil, refuse("The line of %s's sheet for %s has changed since the page was opened; open it anew and sign off what is asked now.", c.Name, c.Next.Name)
	}
	return nil, refuse("%s does not ask %s for that; it may have been taken out.", c.Next.Name, c.Name)
}

// SignedOff is a sign-off on record, with who gave it.
type SignedOff struct {
	SignOff
	RungID string
	Demand *curriculum.Demand // at which it was shown; nil: not said
	Actor  string
	At     time.Time
}

func bindSignedOff(x *SignedOff) []any {
	return append(bindSignOff(&x.SignOff), &x.RungID, &x.Actor, asTime{&x.At}, asJSON{&x.Demand})
}

// signOffs are the standing sign-offs that a condition on e, the entry, picks, oldest first.
func signOffs(ctx context.Context, q querier, where string, args ...any) ([]SignedOff, error) {
	return list(ctx, q, bindSignedOff, `SELECT e.id, e.enrolment_id, e.technique_id, e.role, e.stage, e.side, e.kind, e.fault, e.clip, g.class_id, e.on_date, e.supersedes, e.line, e.rung_id, e.actor, e.at, e.demand
		FROM signoff e LEFT JOIN register g ON g.id = e.register_id WHERE `+where+` ORDER BY e.on_date, e.at`, args...)
}

// SignOffsOf are an enrolment's standing sign-offs, for whatever rung, oldest first.
func (s *Store) SignOffsOf(ctx context.Context, enrolment string) ([]SignedOff, error) {
	return signOffs(ctx, s.r, `e.enrolment_id = ?`, enrolment)
}

// SignOffsIn are the sign-offs given in a class on a day.
func (s *Store) SignOffsIn(ctx context.Context, class string, on civil.Date) ([]SignedOff, error) {
	return signOffs(ctx, s.r, `g.class_id = ? AND g.on_date = ?`, class, on.String())
}

// Showings are sign-offs as the core reads them.
func Showings(all []SignedOff) (out []progress.Showing) {
	for _, x := range all {
		out = append(out, progress.Showing{TechniqueID: x.TechniqueID, Role: x.Role, Rung: x.RungID, Demand: x.Demand, Stage: x.Stage, Side: x.Side, On: x.On, NotYet: x.Kind == "not_yet", Fault: x.Fault, Clip: x.Clip})
	}
	return out
}

// ReadyClimb is a climb with all there is to know of how far it is.
type ReadyClimb struct {
	Climbing
	progress.Readiness
	Stripes []progress.StripeState
	SignOff []SignedOff // for the rung climbed to
	Book    *curriculum.Book
}

// ReadyOf looks a climb up with its readiness for the rung above; without a rung above there
// is nothing to be ready for.
func (s *Store) ReadyOf(ctx context.Context, enrolment string) (ReadyClimb, error) {
	c, err := s.ClimbingOf(ctx, enrolment, s.Today())
	if err != nil || c.Next == nil {
		return ReadyClimb{Climbing: c}, err
	}
	out := ReadyClimb{Climbing: c, Book: c.book}
	all, err := s.SignOffsOf(ctx, enrolment)
	if err != nil {
		return out, err
	}
	for _, x := range all {
		if x.RungID == c.Next.ID {
			out.SignOff = append(out.SignOff, x)
		}
	}
	graded, err := s.graded(ctx, enrolment)
	if err != nil {
		return out, err
	}
	j := &judging{}
	asked := j.asked(c)
	faulty, err := faultyAt(ctx, s.r, `c.enrolment_id = ?`, enrolment)
	if err != nil {
		return out, err
	}
	shown := slices.Concat(faulty[enrolment], graded, Showings(all))
	slices.SortStableFunc(shown, func(x, y progress.Showing) int { return y.On.DaysTo(x.On) })
	out.Readiness = asked.Ready(shown, j.presumed(c, asked))
	awarded, err := s.stripesOf(ctx, enrolment, c.Next.ID)
	out.Stripes = progress.Stripes(c.book.Rung(c.Next.ID), c.book, out.Sections, awarded)
	return out, err
}

// faultyAt are the lines in which examiners saw a fault at announced gradings and which were not passed there, by
// enrolment, oldest first. where picks candidates c.
func faultyAt(ctx context.Context, q querier, where string, args ...any) (map[string][]progress.Showing, error) {
	type row struct {
		enrolment, rung, faults string
		line                    curriculum.Line
		on                      civil.Date
	}
	rows, err := list(ctx, q, func(x *row) []any {
		return []any{&x.enrolment, &x.rung, &x.faults, asJSON{&x.line}, asDate{&x.on}}
	}, `SELECT c.enrolment_id, c.to_rung_id, m.faults, l.line, g.on_date FROM candidate c JOIN announcement a ON a.candidate_id = c.id JOIN grading g ON g.id = c.grading_id
			CROSS JOIN mark m ON m.candidate_id = c.id AND m.faults <> '' JOIN test_line l ON l.sheet_id = c.sheet_id AND l.item_id = m.item_id
		WHERE (`+where+`) AND c.withdrawn_at IS NULL AND NOT EXISTS (SELECT 1 FROM graded_line x WHERE x.candidate_id = c.id AND x.line_id = l.id) ORDER BY g.on_date, l.position`, args...)
	out := map[string][]progress.Showing{}
	for _, x := range rows {
		for _, seen := range strings.Split(x.faults, "\n") {
			if slices.ContainsFunc(x.line.Faults, func(f curriculum.Fault) bool { return f.Seen == seen }) {
				out[x.enrolment] = append(out[x.enrolment], progress.Showing{TechniqueID: x.line.TechniqueID, Role: x.line.Role, Rung: x.rung, On: x.on, NotYet: true, Fault: seen})
			}
		}
	}
	return out, err
}

// graded are the lines that a student passed at gradings that were announced.
func (s *Store) graded(ctx context.Context, enrolment string) ([]progress.Showing, error) {
	return list(ctx, s.r, func(x *progress.Showing) []any {
		x.Graded = true
		return []any{&x.TechniqueID, &x.Role, asDate{&x.On}, asJSON{&x.Demand}}
	}, `SELECT technique_id, role, on_date, demand FROM graded_line WHERE enrolment_id = ? ORDER BY on_date`, enrolment)
}

// passed notes anew which lines a candidate passed whose result is announced, as what.
func (t *txn) passed(ctx context.Context, g Grading, r Reviewed, outcome scoring.Outcome) error {
	t.staleClimb(r.EnrolmentID)
	if _, err := t.ExecContext(ctx, `DELETE FROM graded_line WHERE candidate_id = ?`, r.ID); err != nil {
		return err
	}
	for k, it := range r.Items {
		if !g.Policy.Passed(r.Test, k, outcome.Promotes()) {
			continue
		}
		for i := range it.Lines {
			l := &it.Lines[i]
			if err := t.exec(ctx, `INSERT INTO graded_line (candidate_id, enrolment_id, line_id, technique_id, role, on_date, demand) VALUES (?, ?, ?, ?, ?, ?, ?)`,
				r.ID, r.EnrolmentID, it.LineIDs[i], l.TechniqueID, l.Role, g.On.String(), toJSON(l.Demand())); err != nil {
				return err
			}
		}
	}
	return nil
}

func (s *Store) stripesOf(ctx context.Context, enrolment, rung string) (map[string]civil.Date, error) {
	type row struct {
		section string
		on      civil.Date
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.section, asDate{&x.on}} }, `SELECT section_id, on_date FROM stripe WHERE enrolment_id = ? AND rung_id = ?`, enrolment, rung)
	out := map[string]civil.Date{}
	for _, x := range rows {
		out[x.section] = x.on
	}
	return out, err
}

// DueStripe is a section stripe that is due and not awarded yet.
type DueStripe struct {
	EnrolmentID, StudentID, Name string
	Rung                         string // climbed to
	progress.StripeState
}

// DueStripes are the stripes that are due in a program: every requirement of the section is
// signed off.
func (s *Store) DueStripes(ctx context.Context, program string) (out []DueStripe, err error) {
	all, err := s.stand(ctx, `e.program_id = ? AND e.ended_on IS NULL AND e.id IN (SELECT enrolment_id FROM signoff_event)`, program)
	if err != nil {
		return nil, err
	}
	type row struct{ enrolment, rung, section string }
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.enrolment, &x.rung, &x.section} }, `SELECT x.enrolment_id, x.rung_id, x.section_id FROM stripe x JOIN enrolment e ON e.id = x.enrolment_id WHERE e.program_id = ?`, program)
	if err != nil {
		return nil, err
	}
	have := map[row]bool{}
	for _, x := range rows {
		have[x] = true
	}
	j := &judging{}
	for _, c := range byRung(all) {
		if c.Next == nil || len(c.Next.Stripes) == 0 {
			continue
		}
		done, _, err := j.done(c)
		if err != nil {
			return nil, err
		}
		for _, x := range progress.Stripes(c.book.Rung(c.Next.ID), c.book, done, nil) {
			if x.Due && !have[row{c.EnrolmentID, c.Next.ID, x.SectionID}] {
				out = append(out, DueStripe{c.EnrolmentID, c.StudentID, c.Name, c.Next.Name, x})
			}
		}
	}
	return out, nil
}

// Stripe names a section stripe of one climb.
type Stripe struct{ EnrolmentID, SectionID string }

// AwardStripes awards section stripes in one transaction, all of them or none. One that is not
// due needs a reason.
func (s *Store) AwardStripes(ctx context.Context, by By, on civil.Date, stripes []Stripe, reason string) (Done, error) {
	reason = check.Tidy(reason)
	var p check.Problems
	p.Line("reason", reason, check.LineLength)
	if s.Today().Before(on) {
		p.Add("on", "%s lies in the future; write today or an earlier day", on.Long())
	}
	if len(stripes) == 0 {
		p.Add("stripes", "none is chosen; choose the stripes to award")
	}
	if len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		id, deed := "", office.StripesAwarded.Many(len(stripes))
		j := &judging{}
		for _, x := range stripes {
			all, err := t.stand(ctx, on, `e.id = ? AND e.ended_on IS NULL`, x.EnrolmentID)
			if err != nil {
				return "", office.Deed{}, err
			}
			if len(all) == 0 || all[0].Next == nil {
				return "", office.Deed{}, refuse("This climb is not on record, or leads no higher.")
			}
			c := all[0]
			done, _, err := j.done(c)
			if err != nil {
				return "", office.Deed{}, err
			}
			states := progress.Stripes(c.book.Rung(c.Next.ID), c.book, done, nil)
			at := slices.IndexFunc(states, func(s progress.StripeState) bool { return s.SectionID == x.SectionID })
			if at < 0 {
				return "", office.Deed{}, refuse("%s has no stripe for that section on the way to %s.", c.Name, c.Next.Name)
			}
			if !states[at].Due && reason == "" {
				return "", office.Deed{}, check.Problems{{Field: "reason", Text: c.Name + " has not been signed off on everything for the " + states[at].Section + " stripe; say why it is awarded all the same"}}
			}
			have, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM stripe WHERE enrolment_id = ? AND rung_id = ? AND section_id = ?`, x.EnrolmentID, c.Next.ID, x.SectionID)
			if err != nil {
				return "", office.Deed{}, err
			}
			if have > 0 {
				return "", office.Deed{}, refuse("%s has the %s stripe already.", c.Name, states[at].Section)
			}
			if id = NewID(); len(stripes) == 1 {
				deed = office.Deed{Kind: office.StripeAwarded, What: states[at].Section, Who: c.StudentID}
			}
			t.staleClimb(x.EnrolmentID)
			if err := t.exec(ctx, `INSERT INTO stripe_event (id, enrolment_id, rung_id, section_id, kind, on_date, reason, actor, at) VALUES (?, ?, ?, ?, 'awarded', ?, ?, ?, ?)`, id, x.EnrolmentID, c.Next.ID, x.SectionID, on.String(), reason, t.by.Actor, t.at); err != nil {
				return "", office.Deed{}, err
			}
		}
		return id, deed, nil
	})
}

// WithdrawStripe takes an awarded stripe back: a new entry, the old one stays.
func (s *Store) WithdrawStripe(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		of, err := one(ctx, t, func(e *string) []any { return []any{e} }, `SELECT enrolment_id FROM stripe WHERE id = ?`, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		t.staleClimb(of)
		return id, office.Deed{Kind: office.StripeWithdrawn}, t.exec(ctx, `INSERT INTO stripe_event (id, enrolment_id, rung_id, section_id, kind, on_date, supersedes, actor, at) SELECT ?2, enrolment_id, rung_id, section_id, 'withdrawn', on_date, id, ?3, ?4 FROM stripe WHERE id = ?1`, id, NewID(), t.by.Actor, t.at)
	})
}

// PastStripe is a stripe with when it was awarded, for ever on record.
type PastStripe struct {
	ID, Rung, RungID, Section, SectionID, Reason, Actor string
	On                                                  civil.Date
	Withdrawn                                           bool
}

// StripesEver are all stripes of an enrolment, also those taken back, oldest first.
func (s *Store) StripesEver(ctx context.Context, enrolment string) ([]PastStripe, error) {
	return list(ctx, s.r, func(x *PastStripe) []any {
		return []any{&x.ID, &x.Rung, &x.RungID, &x.Section, &x.SectionID, &x.Reason, &x.Actor, asDate{&x.On}, &x.Withdrawn}
	}, `SELECT e.id, g.name, e.rung_id, c.name, e.section_id, e.reason, e.actor, e.on_date, EXISTS (SELECT 1 FROM stripe_event n WHERE n.supersedes = e.id)
		FROM stripe_event e JOIN rung g ON g.id = e.rung_id JOIN section c ON c.id = e.section_id WHERE e.enrolment_id = ? AND e.kind = 'awarded' ORDER BY e.on_date, e.at`, enrolment)
}

// Taught is what a class worked on.
type Taught struct {
	ID, TechniqueID, Name string
	On                    civil.Date
}

// Teach records that a class worked on a technique; again, it is taken back.
func (s *Store) Teach(ctx context.Context, by By, class string, on civil.Date, technique string) (Done, error) {
	if s.Today().Before(on) {
		return Done{}, refuse("%s lies in the future.", on.Long())
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		h := hall{t: t, registers: map[string]hallRegister{}}
		register, err := h.register(ctx, gradingday.Attendance{ClassID: class, On: on})
		if err != nil {
			return "", office.Deed{}, err
		}
		name, err := one(ctx, t, func(n *string) []any { return []any{n} }, `SELECT name FROM technique WHERE id = ? AND deleted_at IS NULL`, technique)
		if err != nil {
			return "", office.Deed{}, err
		}
		stands, err := list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT id FROM taught WHERE register_id = ? AND technique_id = ?`, register, technique)
		if err != nil {
			return "", office.Deed{}, err
		}
		id, kind, deed, supersedes := NewID(), "taught", office.Taught, sql.NullString{}
		if len(stands) > 0 {
			kind, deed, supersedes = "withdrawn", office.TaughtWithdrawn, sql.NullString{String: stands[0], Valid: true}
		}
		return id, deed.Named(name), t.exec(ctx, `INSERT INTO taught_event (id, register_id, technique_id, kind, supersedes, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?)`, id, register, technique, kind, supersedes, t.by.Actor, t.at)
	})
}

// TaughtIn is what a class worked on on a day.
func (s *Store) TaughtIn(ctx context.Context, class string, on civil.Date) ([]Taught, error) {
	return list(ctx, s.r, func(x *Taught) []any { return []any{&x.ID, &x.TechniqueID, &x.Name, asDate{&x.On}} },
		`SELECT x.id, x.technique_id, t.name, r.on_date FROM taught x JOIN register r ON r.id = x.register_id JOIN technique t ON t.id = x.technique_id WHERE r.class_id = ? AND r.on_date = ? ORDER BY x.at`, class, on.String())
}

// SaveEvidence records what kit a student has and which papers are valid until when. kit nil:
// nobody looked.
func (s *Store) SaveEvidence(ctx context.Context, by By, student string, kit *[]string, papers []progress.Paper) (Done, error) {
	var p check.Problems
	for _, x := range papers {
		if !x.Kind.Paper() {
			p.Add("papers", "%q is no paper that rules ask for", x.Kind)
		}
	}
	var owned any
	if kit != nil {
		for _, k := range *kit {
			p.Line("kit", k, check.NameLength)
		}
		owned = toJSON(*kit)
	}
	if len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if _, err := one(ctx, t, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.id = ? AND s.deleted_at IS NULL`, student); err != nil {
			return "", office.Deed{}, err
		}
		if err := t.touch(ctx, "student", student); err != nil {
			return "", office.Deed{}, err
		}
		return student, office.EvidenceNoted.Of(student), t.exec(ctx, `UPDATE student SET kit = ?, papers = ? WHERE id = ?`, owned, toJSON(papers), student)
	})
}

// EvidenceOf is what kit and papers of a student are on record. kit is nil where nobody looked.
func (s *Store) EvidenceOf(ctx context.Context, student string) (kit *[]string, papers []progress.Paper, err error) {
	type row struct {
		kit    *[]string
		papers []progress.Paper
	}
	x, err := one(ctx, s.r, func(x *row) []any { return []any{asJSON{&x.kit}, asJSON{&x.papers}} }, `SELECT kit, papers FROM student WHERE id = ? AND deleted_at IS NULL`, student)
	return x.kit, x.papers, err
}

// ReadyOfStudents are the climbs of some students with their readiness, in the programs given
// (none: all), highest rank first. Their sign-offs are read at one go.
func (s *Store) ReadyOfStudents(ctx context.Context, students map[string]bool, programs []string) (out []ReadyClimb, err error) {
	ids := slices.Sorted(maps.Keys(students))
	const of = `e.ended_on IS NULL AND e.student_id IN (SELECT value FROM json_each(?1)) AND (?2 = '[]' OR e.program_id IN (SELECT value FROM json_each(?2)))`
	all, err := s.stand(ctx, of, toJSON(ids), toJSON(programs))
	if err != nil {
		return nil, err
	}
	given, err := signOffs(ctx, s.r, `e.enrolment_id IN (SELECT e.id FROM enrolment e WHERE `+of+`)`, toJSON(ids), toJSON(programs))
	if err != nil {
		return nil, err
	}
	faulty, err := faultyAt(ctx, s.r, `c.enrolment_id IN (SELECT e.id FROM enrolment e WHERE `+of+`)`, toJSON(ids), toJSON(programs))
	if err != nil {
		return nil, err
	}
	byClimb := map[string][]SignedOff{}
	for _, g := range given {
		byClimb[g.EnrolmentID+g.RungID] = append(byClimb[g.EnrolmentID+g.RungID], g)
	}
	j := &judging{}
	for _, c := range slices.Backward(byRung(all)) {
		if c.Next == nil {
			continue
		}
		x := ReadyClimb{Climbing: c, Book: c.book, SignOff: byClimb[c.EnrolmentID+c.Next.ID]}
		asked := j.asked(c)
		seen, err := showings(c.seen, asked)
		if err != nil {
			return nil, err
		}
		shown := slices.Concat(faulty[c.EnrolmentID], seen, Showings(x.SignOff))
		slices.SortStableFunc(shown, func(x, y progress.Showing) int { return y.On.DaysTo(x.On) })
		x.Readiness = asked.Ready(shown, j.presumed(c, asked))
		out = append(out, x)
	}
	return out, nil
}
