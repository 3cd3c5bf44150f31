package store

import (
	"context"
	"errors"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
)

const selectAttendance = `SELECT e.id, r.class_id, e.on_date, e.student_id, e.visitor, e.state, e.mode, e.make_up, e.supersedes FROM attendance_event e JOIN register r ON r.id = e.register_id `

func bindAttendance(a *gradingday.Attendance) []any {
	return []any{&a.ID, &a.ClassID, asDate{&a.On}, asText{&a.StudentID}, &a.Visitor, &a.State, &a.Mode, &a.MakeUp, asText{&a.Supersedes}}
}

// Outdated says that somebody else wrote about the same student first, and what stands.
type Outdated struct{ Current gradingday.Attendance }

// Error says what stands.
func (e *Outdated) Error() string {
	return "another device has written about this student since: " + string(e.Current.State)
}

// RefusedEntry is an entry that could not be taken, and why.
type RefusedEntry struct {
	At  int // its place among those handed in
	Why error
}

// RecordAttendance writes entries in one transaction. Each is taken or refused by itself; the
// good ones are kept. An entry that is on record with the same content, or that says of a
// student what stands already, is no error and writes nothing; with other content under one
// id it is ErrConflict; one that replaces an outdated entry is *Outdated. The register of a
// class is made with its first entry.
func (s *Store) RecordAttendance(ctx context.Context, by By, entries []gradingday.Attendance) (refused []RefusedEntry, err error) {
	_, err = s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		h := newHall(t)
		if refused, err = h.recordAll(ctx, entries, func(int) {}); err != nil {
			return "", office.Deed{}, err
		}
		return "", office.AttendanceEntered.Many(len(entries) - len(refused)), nil
	})
	return refused, err
}

// hall is what one transaction has read to enter attendance.
type hall struct {
	t         *txn
	table     *timetable.Table
	written   int // entries that are new
	registers map[string]hallRegister
	students  map[string]civil.Date // → joined on
	judging   judging               // the sheets that climbs lead to, compiled once
}

func newHall(t *txn) *hall {
	return &hall{t: t, registers: map[string]hallRegister{}, students: map[string]civil.Date{}}
}

type hallRegister struct {
	id  string
	err error // why no entry can be made; nil one can
}

func (h *hall) recordAll(ctx context.Context, entries []gradingday.Attendance, step func(done int)) (refused []RefusedEntry, err error) {
	for i, e := range entries {
		step(i)
		err := h.record(ctx, e)
		if refusedAlone(err) {
			refused = append(refused, RefusedEntry{i, err})
		} else if err != nil {
			return nil, err
		}
	}
	return refused, nil
}

// record is long: the refusals stand in the order in which they are told.
func (h *hall) record(ctx context.Context, a gradingday.Attendance) error {
	var p check.Problems
	if err := gradingday.EntryID(a.ID); err != nil {
		return err
	}
	a.Visitor = check.Tidy(a.Visitor)
	check.OneOf(&p, "state", a.State, gradingday.AttendanceStates)
	check.OneOf(&p, "mode", a.Mode, timetable.Modes)
	p.Line("visitor", a.Visitor, check.NameLength)
	if (a.StudentID == "") == (a.Visitor == "") {
		p.Add("student", "is missing; an entry is about a student, or names a visitor")
	}
	if a.On.IsZero() {
		p.Add("on", "is missing; write the day of the class")
	}
	if err := p.Err(); err != nil {
		return err
	}
	same, err := list(ctx, h.t, bindAttendance, selectAttendance+`WHERE e.id = ?`, a.ID)
	if err != nil {
		return err
	}
	if len(same) > 0 {
		if a.Supersedes == "" { // one who was taken out and came after all: see below
			same[0].Supersedes = ""
		}
		if same[0] != a {
			return ErrConflict
		}
		return nil
	}
	if today := h.t.s.Today(); today.Before(a.On) {
		return check.Problems{{Field: "on", Text: a.On.Long() + " lies in the future; attendance is entered on the day or later"}}
	}
	if a.StudentID != "" {
		joined, err := h.joined(ctx, a.StudentID)
		if err != nil {
			return err
		}
		if a.On.Before(joined) {
			return check.Problems{{Field: "on", Text: a.On.Long() + " is before this student joined on " + joined.Long() + "; correct the day, or the record of the student"}}
		}
	}
	register, err := h.register(ctx, a)
	if err != nil {
		return err
	}
	if a.StudentID != "" {
		current, err := list(ctx, h.t, bindAttendance, selectAttendance+`WHERE e.register_id = ? AND e.student_id = ? AND NOT EXISTS (SELECT 1 FROM attendance_event n WHERE n.supersedes = e.id)`, register, a.StudentID)
		if err != nil {
			return err
		}
		if len(current) > 0 && current[0].ID != a.Supersedes {
			c := current[0]
			if c.State == a.State && c.Mode == a.Mode && c.MakeUp == a.MakeUp {
				return nil // two devices saw the same
			}
			if a.Supersedes != "" || c.State != gradingday.Absent {
				return &Outdated{c}
			}
			a.Supersedes = c.ID
		}
		if len(current) == 0 && a.Supersedes != "" {
			return refuse("The entry this one replaces is not on record.")
		}
	} else if a.Supersedes != "" {
		n, err := one(ctx, h.t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM attendance_event e WHERE e.id = ? AND e.register_id = ? AND e.student_id IS NULL AND NOT EXISTS (SELECT 1 FROM attendance_event n WHERE n.supersedes = e.id)`, a.Supersedes, register)
		if err != nil {
			return err
		}
		if n == 0 {
			return refuse("The entry this one replaces is not on record, or was replaced before.")
		}
	}
	if err := h.t.stale(ctx, a.StudentID); err != nil {
		return err
	}
	h.written++
	return h.t.exec(ctx, `INSERT INTO attendance_event (id, register_id, on_date, student_id, visitor, state, mode, make_up, supersedes, actor, at) VALUES (?, ?, ?, nullif(?, ''), ?, ?, ?, ?, nullif(?, ''), ?, ?)`,
		a.ID, register, a.On.String(), a.StudentID, a.Visitor, a.State, a.Mode, a.MakeUp, a.Supersedes, h.t.by.Actor, h.t.at)
}

func (h *hall) joined(ctx context.Context, student string) (civil.Date, error) {
	if d, there := h.students[student]; there {
		return d, nil
	}
	d, err := one(ctx, h.t, func(d *civil.Date) []any { return []any{asDate{d}} }, `SELECT joined_on FROM student WHERE id = ? AND deleted_at IS NULL`, student)
	if errors.Is(err, ErrNotFound) {
		return d, refuse("This student is not on record.")
	}
	if err == nil {
		h.students[student] = d
	}
	return d, err
}

// register finds the register of a class on a day, or makes it if the class is held then.
func (h *hall) register(ctx context.Context, a gradingday.Attendance) (string, error) {
	key := a.ClassID + a.On.String()
	if r, there := h.registers[key]; there {
		return r.id, r.err
	}
	have, err := list(ctx, h.t, func(id *string) []any { return []any{id} }, `SELECT id FROM register WHERE class_id = ? AND on_date = ?`, a.ClassID, a.On.String())
	if err != nil {
		return "", err
	}
	r := hallRegister{}
	if len(have) > 0 {
		r.id = have[0]
	} else if r.id, r.err = h.open(ctx, a.ClassID, a.On); r.err != nil {
		var no *Refused
		if !errors.As(r.err, &no) {
			return "", r.err
		}
	}
	h.registers[key] = r
	return r.id, r.err
}

func (h *hall) open(ctx context.Context, class string, on civil.Date) (string, error) {
	if h.table == nil {
		t, err := readTimetable(ctx, h.t)
		if err != nil {
			return "", err
		}
		h.table = &t
	}
	slots := h.table.On(on)
	at := slices.IndexFunc(slots, func(x timetable.Slot) bool { return x.Class.ID == class })
	if at < 0 {
		name, err := list(ctx, h.t, func(x *[2]string) []any { return []any{&x[0], asText{&x[1]}} }, `SELECT name, deleted_at FROM class WHERE id = ?`, class)
		switch {
		case err != nil:
			return "", err
		case len(name) == 0:
			return "", refuse("This class is not on record.")
		case name[0][1] != "":
			return "", refuse("%s was taken off the timetable, and no register of it was kept on %s.", name[0][0], on.Long())
		}
		return "", refuse("%s is not held on %s.", name[0][0], on.Long())
	}
	if c := slots[at]; c.Off {
		return "", refuse("%s was not held on %s: %s. Take the closure back if it was.", c.Name, on.Long(), c.Closed)
	}
	c := slots[at].Class
	id := NewID()
	return id, h.t.exec(ctx, `INSERT INTO register (id, class_id, on_date, name, kind, start, minutes, programs, tracks, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		id, c.ID, on.String(), c.Name, c.Kind, c.Start, c.Minutes, toJSON(c.Programs), toJSON(c.Tracks), h.t.by.Actor, h.t.at)
}

// KeepRegister opens the register of a class on a day, so that nobody coming is on record as
// such.
func (s *Store) KeepRegister(ctx context.Context, by By, class string, on civil.Date) (Done, error) {
	if s.Today().Before(on) {
		return Done{}, refuse("%s lies in the future; a register is kept on the day or later.", on.Long())
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		h := newHall(t)
		id, err := h.register(ctx, gradingday.Attendance{ClassID: class, On: on})
		return id, office.Deed{Kind: office.RegisterKept}, err
	})
}

// OnRegister is a student who may come to a class, with the entry that stands.
type OnRegister struct {
	Climbing
	Entry *gradingday.Attendance // nil: none
	Last  civil.Date             // the last class attended; zero: none
}

// RegisterOf reads the register of a class on a day: those of its programs and tracks in rank
// order, the highest rank first, then whoever else was entered, and visitors. kept is the
// register's id, "" where none was made yet.
func (s *Store) RegisterOf(ctx context.Context, class timetable.Class, on civil.Date) (people []OnRegister, visitors []gradingday.Attendance, kept string, err error) {
	ids, err := list(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT id FROM register WHERE class_id = ? AND on_date = ?`, class.ID, on.String())
	if err != nil {
		return nil, nil, "", err
	}
	if len(ids) > 0 {
		kept = ids[0]
	}
	entries, err := list(ctx, s.r, bindAttendance, selectAttendance+`WHERE e.register_id = ? AND NOT EXISTS (SELECT 1 FROM attendance_event n WHERE n.supersedes = e.id) ORDER BY e.at`, kept)
	if err != nil {
		return nil, nil, kept, err
	}
	byStudent := map[string]*gradingday.Attendance{}
	for i := range entries {
		if e := &entries[i]; e.StudentID != "" {
			byStudent[e.StudentID] = e
		} else if e.State != gradingday.Absent {
			visitors = append(visitors, *e)
		}
	}
	all, err := s.read(ctx, on, `e.ended_on IS NULL AND (?1 = '[]' OR e.program_id IN (SELECT value FROM json_each(?1)) OR s.id IN (SELECT student_id FROM attendance_event WHERE register_id = ?2))`, toJSON(class.Programs), kept)
	if err != nil {
		return nil, nil, kept, err
	}
	seen := map[string]bool{}
	slices.SortStableFunc(all, func(x, y Climbing) int { return y.Rung.Position - x.Rung.Position })
	for _, c := range all {
		e := byStudent[c.StudentID]
		if seen[c.StudentID] || e == nil && !class.For(c.ProgramID, c.Track.ID) || on.Before(c.Joined) {
			continue
		}
		seen[c.StudentID] = true
		people = append(people, OnRegister{Climbing: c, Entry: e, Last: c.LastOn})
	}
	return people, visitors, kept, nil
}

// AttendedClass is a class that a student attended.
type AttendedClass struct {
	On    civil.Date
	Name  string
	Kind  string
	State gradingday.AttendanceState
	Mode  timetable.Mode
}

// AttendedSince lists a student's classes since a day, newest first, at most limit of them.
func (s *Store) AttendedSince(ctx context.Context, student string, from civil.Date, limit int) ([]AttendedClass, error) {
	return list(ctx, s.r, func(a *AttendedClass) []any { return []any{asDate{&a.On}, &a.Name, &a.Kind, &a.State, &a.Mode} },
		`SELECT a.on_date, r.name, r.kind, a.state, a.mode FROM attendance a JOIN register r ON r.id = a.register_id WHERE a.student_id = ? AND a.on_date >= ? ORDER BY a.on_date DESC, r.start DESC LIMIT ?`, student, from.String(), limit)
}

// StudentNumbered is the student with a check-in number.
func (s *Store) StudentNumbered(ctx context.Context, number int) (progress.Student, error) {
	return one(ctx, s.r, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.number = ? AND s.deleted_at IS NULL`, number)
}

// errOnlyLooking ends a transaction that was to show what would be written.
var errOnlyLooking = errors.New("only looking")

// LookAttendance says which entries would be refused, and keeps nothing.
func (s *Store) LookAttendance(ctx context.Context, by By, entries []gradingday.Attendance) (refused []RefusedEntry, err error) {
	_, err = s.write(ctx, By{Actor: by.Actor}, func(t *txn) (string, office.Deed, error) {
		if refused, err = newHall(t).recordAll(ctx, entries, func(int) {}); err != nil {
			return "", office.Deed{}, err
		}
		return "", office.Deed{}, errOnlyLooking
	})
	if errors.Is(err, errOnlyLooking) {
		err = nil
	}
	return refused, err
}

// ImportAttendance writes the entries of a file as RecordAttendance does. step is told how many were looked at, while nothing is on
// record before all are. It can be undone as a whole.
func (s *Store) ImportAttendance(ctx context.Context, by By, entries []gradingday.Attendance, step func(done int)) (done Done, refused []RefusedEntry, err error) {
	done, err = s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		h := newHall(t)
		refused, err = h.recordAll(ctx, entries, step)
		return "", office.AttendanceRead.Many(h.written), err
	})
	return done, refused, err
}

// takeBackAttendance enters the contrary of what came out of a file, where it still stands: the entries stay, and those that replace
// them say who and when. Registers that the file opened stay too; a class was held.
func (t *txn) takeBackAttendance(ctx context.Context, entry string) error {
	type given struct{ id, register, on, student string }
	all, err := list(ctx, t, func(x *given) []any { return []any{&x.id, &x.register, &x.on, &x.student} },
		`SELECT e.id, e.register_id, e.on_date, e.student_id FROM audit a CROSS JOIN attendance_event e ON e.at = a.at AND e.actor = a.actor
		WHERE a.id = ? AND e.student_id IS NOT NULL AND e.state <> 'absent' AND NOT EXISTS (SELECT 1 FROM attendance_event n WHERE n.supersedes = e.id)`, entry)
	if err != nil {
		return err
	}
	if len(all) == 0 {
		return refuse("Nothing of it stands any more: all of it was taken back or corrected.")
	}
	for _, x := range all {
		if err := t.stale(ctx, x.student); err != nil {
			return err
		}
		if err := t.exec(ctx, `INSERT INTO attendance_event (id, register_id, on_date, student_id, state, mode, supersedes, actor, at)
			SELECT ?, register_id, on_date, student_id, 'absent', mode, id, ?, ?
			FROM attendance_event
			WHERE id = ?`,
			NewID(), t.by.Actor, t.at, x.id); err != nil {
			return err
		}
	}
	return nil
}

// NamedAttendance is an attendance with names, for a file.
type NamedAttendance struct {
	Name   string
	Born   civil.Date
	On     civil.Date
	Class  string
	Start  int
	State  gradingday.AttendanceState
	Mode   timetable.Mode
	MakeUp bool
}

// AllAttendance is every student's attendance, oldest first.
func (s *Store) AllAttendance(ctx context.Context) ([]NamedAttendance, error) {
	return list(ctx, s.r, func(x *NamedAttendance) []any {
		return []any{&x.Name, asDate{&x.Born}, asDate{&x.On}, &x.Class, &x.Start, &x.State, &x.Mode, &x.MakeUp}
	}, `SELECT s.name, s.birth_date, a.on_date, r.name, r.start, a.state, a.mode, a.make_up FROM attendance a JOIN register r ON r.id = a.register_id JOIN student s ON s.id = a.student_id ORDER BY a.on_date, r.start, s.name_key`)
}

// DaysAttended are the days of a student's classes for a program since a day, in order.
func (s *Store) DaysAttended(ctx context.Context, student, program string, from civil.Date) ([]civil.Date, error) {
	return list(ctx, s.r, func(d *civil.Date) []any { return []any{asDate{d}} },
		`SELECT a.on_date FROM attendance a JOIN register r ON r.id = a.register_id WHERE a.student_id = ? AND a.on_date >= ? AND (r.programs = '[]' OR instr(r.programs, '"' || ? || '"')) ORDER BY a.on_date`, student, from.String(), program)
}

// likelyBack is how many registers of a class back it is counted who came.
const likelyBack = 8

// Turnout is who comes to a class on a day.
type Turnout struct {
	Chances map[string]int  // student → of coming, in permille
	Heard   bool            // the class was held before
	Kept    bool            // by the register of the day
	MakeUp  map[string]bool // who is there to make up for a class missed
	Online  bool            // most entries of the last times were live, online
}

// Likely is who comes to a class on a day. Once the register of the day has entries, whoever is on it
// is certain and the others do not come; before, it is as Expected says.
func (s *Store) Likely(ctx context.Context, class string, on civil.Date) (Turnout, error) {
	type entry struct {
		student string
		makeUp  bool
		mode    timetable.Mode
	}
	here, err := list(ctx, s.r, func(x *entry) []any { return []any{&x.student, &x.makeUp, &x.mode} },
		`SELECT a.student_id, a.make_up, a.mode FROM attendance a JOIN register r ON r.id = a.register_id WHERE r.class_id = ? AND r.on_date = ? AND a.student_id IS NOT NULL`, class, on.String())
	if err != nil || len(here) == 0 {
		if err != nil {
			return Turnout{}, err
		}
		return s.Expected(ctx, class, on)
	}
	t := Turnout{Chances: map[string]int{}, Heard: true, Kept: true, MakeUp: map[string]bool{}}
	live := 0
	for _, x := range here {
		t.Chances[x.student] = 1000
		t.MakeUp[x.student] = x.makeUp
		if x.mode == timetable.Live {
			live++
		}
	}
	t.Online = 2*live > len(here)
	return t, nil
}

// Expected is who came to a class before a day: how often each came the last times it was held, with
// one class each way added so that nobody is certain. Where it was never held, whoever it is for is as
// likely to come as not.
func (s *Store) Expected(ctx context.Context, class string, on civil.Date) (Turnout, error) {
	type row struct {
		student     string
		n, of, live int
	}
	t := Turnout{Chances: map[string]int{}}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.student, &x.n, &x.of, &x.live} },
		`WITH back AS (SELECT id FROM register WHERE class_id = ?1 AND on_date < ?2 ORDER BY on_date DESC LIMIT ?3)
		SELECT a.student_id, count(*), (SELECT count(*) FROM back), sum(a.mode = 'live') FROM attendance a JOIN back ON back.id = a.register_id WHERE a.student_id IS NOT NULL GROUP BY a.student_id`, class, on.String(), likelyBack)
	if err != nil {
		return t, err
	}
	entries, live := 0, 0
	for _, x := range rows {
		t.Chances[x.student] = 1000 * (x.n + 1) / (x.of + 2)
		entries, live = entries+x.n, live+x.live
	}
	t.Online = 2*live > entries
	if t.Heard = len(rows) > 0; t.Heard {
		return t, nil
	}
	c, err := s.Class(ctx, class)
	if err != nil {
		return t, ignoreMissing(err)
	}
	all, err := s.stand(ctx, `e.ended_on IS NULL`)
	for _, x := range all {
		if c.For(x.ProgramID, x.Track.ID) && !on.Before(x.Joined) {
			t.Chances[x.StudentID] = 500
		}
	}
	return t, err
}
