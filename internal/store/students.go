package store

import (
	"context"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
)

const studentColumns = `s.id, s.name, s.birth_date, s.guardian, s.contact, s.stance, s.height_cm, s.weight_kg, s.waist_cm, s.shoulder_mm, s.leg_mm, s.foot_mm, s.belt_size, s.uniform_size, s.limits, s.joined_on, coalesce(s.number, 0)`

func bindStudent(s *progress.Student) []any {
	return []any{&s.ID, &s.Name, asDate{&s.BirthDate}, &s.Guardian, &s.Contact, &s.Stance, &s.HeightCM, &s.WeightKG, &s.WaistCM, &s.ShoulderMM, &s.LegMM, &s.FootMM, &s.BeltSize, &s.UniformSize, &s.Limits, asDate{&s.JoinedOn}, &s.Number}
}

// Standing is where a student stands on one ladder.
type Standing struct {
	EnrolmentID, StudentID, Name string
	ProgramID, Program           string
	Rung                         curriculum.Rung
	Since                        civil.Date
	EndedOn                      civil.Date
}

func bindStanding(x *Standing) []any {
	return append([]any{&x.EnrolmentID, &x.StudentID, &x.Name, &x.ProgramID, &x.Program, asDate{&x.Since}, asDate{&x.EndedOn}}, bindRung(&x.Rung)...)
}

const selectStanding = `SELECT e.id, s.id, s.name, p.id, p.name, e.since, e.ended_on, ` + rungColumns + `
	FROM enrolment e JOIN student s ON s.id = e.student_id AND s.deleted_at IS NULL JOIN program p ON p.id = e.program_id JOIN rung r ON r.id = e.rung_id `

// ListedStudent is a student with one enrolment, or none.
type ListedStudent struct {
	progress.Student
	EnrolmentID, Program string
	Rung                 *curriculum.Rung
	Since                civil.Date
}

// Students lists students by name, with a row per enrolment; program "" is all of them.
// text is found in names and guardians. At most limit rows come back, from the offset on.
func (s *Store) Students(ctx context.Context, program, text string, limit, offset int) (rows []ListedStudent, total int, err error) {
	key := check.Key(text)
	// CROSS JOIN holds SQLite to walking the students by name, so that a page ends early.
	from := ` FROM student s LEFT JOIN enrolment e ON e.student_id = s.id AND e.ended_on IS NULL`
	where := ` WHERE s.deleted_at IS NULL`
	if program != "" {
		from, where = ` FROM student s CROSS JOIN enrolment e ON e.student_id = s.id AND e.ended_on IS NULL`, where+` AND e.program_id = ?1`
	}
	if key != "" {
		where += ` AND (instr(s.name_key, ?2) OR instr(lower(s.guardian), ?2))`
	}
	if total, err = one(ctx, s.r, func(n *int) []any { return []any{n} }, `SELECT count(*)`+from+where+` AND ?1 = ?1 AND ?2 = ?2`, program, key); err != nil {
		return nil, 0, err
	}
	type row struct {
		ListedStudent
		rungID, rungProgram, kind, rungName, cloth *string
		position                                   *int
	}
	raw, err := list(ctx, s.r, func(x *row) []any {
		return append(bindStudent(&x.Student), asText{&x.EnrolmentID}, asText{&x.Program}, asDate{&x.Since}, &x.rungID, &x.rungProgram, &x.position, &x.kind, &x.rungName, &x.cloth)
	}, `SELECT `+studentColumns+`, e.id, p.name, e.since, r.id, r.program_id, r.position, r.kind, r.name, r.cloth`+from+` LEFT JOIN program p ON p.id = e.program_id LEFT JOIN rung r ON r.id = e.rung_id`+where+` ORDER BY s.name_key, s.rowid LIMIT ?3 OFFSET ?4`, program, key, limit, offset)
	if err != nil {
		return nil, 0, err
	}
	for _, x := range raw {
		if x.rungID != nil {
			x.Rung = &curriculum.Rung{ID: *x.rungID, ProgramID: *x.rungProgram, Position: *x.position, Kind: curriculum.RungKind(*x.kind), Name: *x.rungName}
			if err := (asJSON{&x.Rung.Cloth}).Scan(*x.cloth); err != nil {
				return nil, 0, err
			}
		}
		rows = append(rows, x.ListedStudent)
	}
	return rows, total, nil
}

// asText scans text; NULL is "".
type asText struct{ s *string }

// Scan implements sql.Scanner.
func (a asText) Scan(src any) error {
	text, err := textOf(src)
	*a.s = text
	return err
}

// Student is one student who has not been deleted.
func (s *Store) Student(ctx context.Context, id string) (progress.Student, error) {
	return one(ctx, s.r, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.id = ? AND s.deleted_at IS NULL`, id)
}

// Standings are a student's enrolments, also ended ones.
func (s *Store) Standings(ctx context.Context, student string) ([]Standing, error) {
	return list(ctx, s.r, bindStanding, selectStanding+`WHERE s.id = ? ORDER BY e.ended_on IS NOT NULL, p.position`, student)
}

// SaveStudent adds a student when the ID is empty, else changes the record.
func (s *Store) SaveStudent(ctx context.Context, by By, x progress.Student) (Done, error) {
	if err := tidyStudent(&x, s.Today()); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if x.ID == "" {
			id, err := t.addStudent(ctx, x)
			return id, office.PersonAdded.Of(id), err
		}
		if err := t.touch(ctx, "student", x.ID); err != nil {
			return "", office.Deed{}, err
		}
		return x.ID, office.PersonChanged.Of(x.ID), t.exec(ctx, updateStudent, studentValues(x, x.ID)...)
	})
}

const updateStudent = `UPDATE student
	SET name = ?, name_key = ?, birth_date = ?, guardian = ?, contact = ?, stance = ?, height_cm = ?, weight_kg = ?, waist_cm = ?,
		shoulder_mm = ?, leg_mm = ?, foot_mm = ?, belt_size = ?, uniform_size = ?, limits = ?, joined_on = ?
	WHERE id = ? AND deleted_at IS NULL`

func tidyStudent(x *progress.Student, today civil.Date) error {
	for _, f := range []*string{&x.Name, &x.Guardian, &x.Contact, &x.BeltSize, &x.UniformSize} {
		*f = check.Tidy(*f)
	}
	problems := x.Check(today)
	x.Limits = problems.Text("limits", x.Limits)
	return problems.Err()
}

func studentValues(x progress.Student, id string) []any {
	return []any{x.Name, check.Key(x.Name), dateOrNull(x.BirthDate), x.Guardian, x.Contact, x.Stance, x.HeightCM, x.WeightKG, x.WaistCM, x.ShoulderMM, x.LegMM, x.FootMM, x.BeltSize, x.UniformSize, x.Limits, dateOrNull(x.JoinedOn), id}
}

func (t *txn) addStudent(ctx context.Context, x progress.Student) (string, error) {
	id := NewID()
	if err := t.touch(ctx, "student", id); err != nil {
		return "", err
	}
	return id, t.exec(ctx, `INSERT INTO student (name, name_key, birth_date, guardian, contact, stance, height_cm, weight_kg, waist_cm, shoulder_mm, leg_mm, foot_mm, belt_size, uniform_size, limits, joined_on, id, number) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, (SELECT coalesce(max(number), 100) + 1 FROM student))`, studentValues(x, id)...)
}

// DeleteStudent takes a student's record out of every list. One who was graded stays.
func (s *Store) DeleteStudent(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "student", id)
}

func studentFree(ctx context.Context, t *txn, id string) error {
	return t.free(ctx, "student", id,
		reference{`SELECT count(*) FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id WHERE e.student_id = ?`, "grading holds their marks; end the enrolment instead", "gradings hold their marks; end the enrolment instead"})
}

// Start is a rung a student stands on since a day.
type Start struct {
	RungID string
	Since  civil.Date
}

// NewStudent is a student to be added, with the rungs to begin on, one a program.
type NewStudent struct {
	progress.Student
	Starts []Start
	Ask    bool   // who on record may be this one refuses it, with ErrKnown
	Into   string // id of one on record whose record is completed, and nobody added; "" somebody new
}

// ErrKnown refuses a student who may be on record already.
type ErrKnown struct{ Known []progress.Known }

func (e *ErrKnown) Error() string { return "somebody on record may be this student" }

// known are the students on record who may be the one about to be added.
func (t *txn) known(ctx context.Context, x progress.Student) error {
	all, err := list(ctx, t, func(x *progress.Student) []any { return []any{&x.ID, &x.Name, asDate{&x.BirthDate}} },
		`SELECT id, name, birth_date FROM student WHERE deleted_at IS NULL ORDER BY name_key, rowid`)
	if found := progress.MayBeKnown(x, all); len(found) > 0 {
		return &ErrKnown{found}
	}
	return err
}

// AddStudents adds students with their first enrolment in one transaction; all go in or none. What is done names the student where it is
// one.
func (s *Store) AddStudents(ctx context.Context, by By, all []NewStudent) (Done, error) {
	return s.ImportStudents(ctx, by, all, func(int) {})
}

// ImportStudents is AddStudents for very many: step is told how many are in, while nothing is on record before all are.
func (s *Store) ImportStudents(ctx context.Context, by By, all []NewStudent, step func(done int)) (Done, error) {
	for i := range all {
		if err := tidyStudent(&all[i].Student, s.Today()); err != nil {
			return Done{}, err
		}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		deed, only, completed := office.StudentsAdded.Many(len(all)), "", 0
		for i, x := range all {
			id, err := t.bringIn(ctx, x)
			if err != nil {
				return "", office.Deed{}, err
			}
			if x.Into != "" {
				completed++
			} else if len(all) == 1 {
				deed, only = office.PersonAdded.Of(id), id
			}
			step(i + 1)
		}
		if completed > 0 {
			deed = office.Deed{Kind: office.StudentsRead, N: len(all) - completed, M: completed}
		}
		return only, deed, nil
	})
}

// bringIn adds a student, or completes the record of one, and puts them on the rungs they begin on. Whoever is completed keeps the
// rung they stand on.
func (t *txn) bringIn(ctx context.Context, x NewStudent) (id string, err error) {
	if x.Ask {
		if err := t.known(ctx, x.Student); err != nil {
			return "", err
		}
	}
	climbs := map[string]bool{}
	if id = x.Into; id == "" {
		id, err = t.addStudent(ctx, x.Student)
	} else {
		climbs, err = t.complete(ctx, id, x.Student)
	}
	if err != nil {
		return "", err
	}
	for _, start := range x.Starts {
		if len(climbs) > 0 {
			r, err := rung(ctx, t, start.RungID)
			if err != nil {
				return "", err
			}
			if climbs[r.ProgramID] {
				continue
			}
		}
		if _, err := t.enrol(ctx, id, start.RungID, start.Since); err != nil {
			return "", err
		}
	}
	return id, nil
}

// complete fills in what a record does not say, and tells which programs the student climbs.
func (t *txn) complete(ctx context.Context, id string, from progress.Student) (climbs map[string]bool, err error) {
	x, err := one(ctx, t, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.id = ? AND s.deleted_at IS NULL`, id)
	if err != nil {
		return nil, err
	}
	if now, changed := x.Completed(from); changed {
		if err := tidyStudent(&now, t.s.Today()); err != nil {
			return nil, err
		}
		if err := t.touch(ctx, "student", id); err != nil {
			return nil, err
		}
		if err := t.exec(ctx, updateStudent, studentValues(now, id)...); err != nil {
			return nil, err
		}
	}
	programs, err := list(ctx, t, func(p *string) []any { return []any{p} }, `SELECT program_id FROM enrolment WHERE student_id = ? AND ended_on IS NULL`, id)
	climbs = map[string]bool{}
	for _, p := range programs {
		climbs[p] = true
	}
	return climbs, err
}

// Enrol puts a student on a rung of a program's ladder, standing there since a day. One who
// left the program comes back to the rung given here.
func (s *Store) Enrol(ctx context.Context, by By, student, rungID string, since civil.Date) (Done, error) {
	if since.IsZero() {
		since = s.Today()
	}
	if s.Today().Before(since) {
		return Done{}, check.Problems{{Field: "since", Text: since.Long() + " lies in the future; write today or an earlier day"}}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if _, err := one(ctx, t, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.id = ? AND s.deleted_at IS NULL`, student); err != nil {
			return "", office.Deed{}, err
		}
		id, err := t.enrol(ctx, student, rungID, since)
		return id, office.Deed{Kind: office.Enrolled}, err
	})
}

func (t *txn) enrol(ctx context.Context, student, rungID string, since civil.Date) (string, error) {
	r, err := rung(ctx, t, rungID)
	if err != nil {
		return "", err
	}
	type enrolment struct {
		id    string
		ended *string
	}
	old, err := list(ctx, t, func(e *enrolment) []any { return []any{&e.id, &e.ended} }, `SELECT id, ended_on FROM enrolment WHERE student_id = ? AND program_id = ?`, student, r.ProgramID)
	if err != nil {
		return "", err
	}
	if len(old) > 0 {
		if old[0].ended == nil {
			return "", check.Problems{{Field: "rung", Text: "this student climbs that program already; correct the rank instead"}}
		}
		if err := t.exec(ctx, `UPDATE enrolment SET ended_on = NULL WHERE id = ?`, old[0].id); err != nil {
			return "", err
		}
		return old[0].id, t.addGrade(ctx, old[0].id, r, since, progress.Corrected, progress.Why{Because: progress.BecauseCameBack}, "", "")
	}
	id := NewID()
	if err := t.exec(ctx, `INSERT INTO enrolment (id, student_id, program_id, rung_id, since, version_id) VALUES (?1, ?2, ?3, ?4, ?5, (SELECT id FROM version WHERE program_id = ?3 ORDER BY number DESC LIMIT 1))`, id, student, r.ProgramID, r.ID, since.String()); err != nil {
		return "", err
	}
	return id, t.addGrade(ctx, id, r, since, progress.Started, progress.Why{}, "", "")
}

// addGrade writes the newest entry of a rank history and lets the enrolment follow it.
func (t *txn) addGrade(ctx context.Context, enrolment string, r curriculum.Rung, on civil.Date, kind progress.EntryKind, why progress.Why, candidate, grade string) error {
	var supersedes any
	if kind != progress.Started {
		last, err := one(ctx, t, func(id *string) []any { return []any{id} }, `SELECT id FROM rank_entry e WHERE enrolment_id = ? AND NOT EXISTS (SELECT 1 FROM rank_entry n WHERE n.supersedes = e.id)`, enrolment)
		if err != nil {
			return err
		}
		supersedes = last
	}
	if err := t.exec(ctx, `INSERT INTO rank_entry (id, enrolment_id, rung_id, rung_words, on_date, kind, because, because_on, reason, candidate_id, supersedes, grade, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, nullif(?, ''), ?, ?, ?, ?)`,
		NewID(), enrolment, r.ID, r.Name, on.String(), kind, why.Because, dateOrNull(why.On), why.Reason, candidate, supersedes, grade, t.by.Actor, t.at); err != nil {
		return err
	}
	t.staleClimb(enrolment)
	return t.exec(ctx, `UPDATE enrolment SET rung_id = ?, since = ? WHERE id = ?`, r.ID, on.String(), enrolment)
}

// CorrectRank adds an entry that puts an enrolment on another rung, with the reason. The
// entries before it stay.
func (s *Store) CorrectRank(ctx context.Context, by By, enrolment, rungID string, on civil.Date, reason string) (Done, error) {
	reason = check.Tidy(reason)
	var p check.Problems
	if reason == "" {
		p.Add("reason", "is empty; say why the rank is corrected, it stays on record")
	}
	p.Line("reason", reason, check.LineLength)
	if on.IsZero() {
		p.Add("on", "is empty; write the day from which the student stands on this rung")
	} else if s.Today().Before(on) {
		p.Add("on", "%s lies in the future; write today or an earlier day", on.Long())
	}
	if err := p.Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		st, err := one(ctx, t, bindStanding, selectStanding+`WHERE e.id = ?`, enrolment)
		if err != nil {
			return "", office.Deed{}, err
		}
		r, err := rung(ctx, t, rungID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if r.ProgramID != st.ProgramID {
			return "", office.Deed{}, check.Problems{{Field: "rung", Text: "belongs to another program; choose a rung of " + st.Program}}
		}
		return enrolment, office.Deed{Kind: office.RankCorrected, Who: st.StudentID, What: r.Name}, t.addGrade(ctx, enrolment, r, on, progress.Corrected, progress.Why{Reason: reason}, "", "")
	})
}

// EndEnrolment stops a student's climb in a program from today; history stays.
func (s *Store) EndEnrolment(ctx context.Context, by By, enrolment string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		return enrolment, office.Deed{Kind: office.EnrolmentEnded}, t.exec(ctx, `UPDATE enrolment SET ended_on = ? WHERE id = ? AND ended_on IS NULL`, s.Today().String(), enrolment)
	})
}

// History is an enrolment's rank history, oldest entry first.
func (s *Store) History(ctx context.Context, enrolment string) ([]progress.Entry, error) {
	return list(ctx, s.r, func(e *progress.Entry) []any {
		return []any{&e.ID, &e.RungID, &e.Words, &e.Position, asDate{&e.On}, &e.Kind, &e.Because, asDate{&e.Why.On}, &e.Reason, &e.Actor, &e.Grade}
	}, `SELECT e.id, e.rung_id, e.rung_words, CASE WHEN r.deleted_at IS NULL THEN r.position ELSE -1 END, e.on_date, e.kind, e.because, e.because_on, e.reason, e.actor, e.grade
		FROM rank_entry e JOIN rung r ON r.id = e.rung_id WHERE e.enrolment_id = ? ORDER BY e.rowid`, enrolment)
}

// Found is one answer of Find.
type Found struct{ Kind, ID, Name, Detail string }

// Find looks for text in the names of students, techniques, rungs and gradings; the first
// limit of each.
func (s *Store) Find(ctx context.Context, text string, limit int) ([]Found, error) {
	key := check.Key(text)
	if key == "" {
		return nil, nil
	}
	return list(ctx, s.r, func(f *Found) []any { return []any{&f.Kind, &f.ID, &f.Name, &f.Detail} }, `
		SELECT * FROM (SELECT 'students', s.id, s.name, coalesce((SELECT group_concat(r.name, ', ') FROM enrolment e JOIN rung r ON r.id = e.rung_id WHERE e.student_id = s.id), '') FROM student s WHERE s.deleted_at IS NULL AND instr(s.name_key, ?1) ORDER BY s.name_key LIMIT ?2)
		UNION ALL SELECT * FROM (SELECT 'techniques', t.id, t.name, p.name FROM technique t JOIN program p ON p.id = t.program_id WHERE t.deleted_at IS NULL AND (instr(t.name_key, ?1) OR instr(lower(t.term), ?1) OR instr(lower(t.aliases), ?1)) ORDER BY t.name_key LIMIT ?2)
		UNION ALL SELECT * FROM (SELECT 'ladder', r.id, r.name, p.name FROM rung r JOIN program p ON p.id = r.program_id WHERE r.deleted_at IS NULL AND p.deleted_at IS NULL AND instr(r.name_key, ?1) ORDER BY p.position, r.position LIMIT ?2)
		UNION ALL SELECT * FROM (SELECT 'gradings', g.id, coalesce(nullif(g.name, ''), p.name || ' grading'), g.on_date FROM grading g JOIN program p ON p.id = g.program_id WHERE g.deleted_at IS NULL AND instr(lower(g.name || ' ' || p.name || ' grading ' || g.place || ' ' || g.on_date), ?1) ORDER BY g.on_date DESC LIMIT ?2)`, key, limit)
}
