package store

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
)

// BenchmarkReview reads and decides a grading of 200 candidates, 5 examiners and 40 lines:
// 40,000 marks. BenchmarkMark stores one mark, beside a bare insert that waits for the disk.
func BenchmarkReview(b *testing.B) {
	x, grading := largeGrading(b, 200)
	b.Run("200 candidates", func(b *testing.B) {
		for b.Loop() {
			_, rows, err := x.Review(bg, grading)
			if err != nil || len(rows) != 200 {
				b.Fatal(err, len(rows))
			}
		}
	})
	b.Run("one candidate", func(b *testing.B) {
		all, err := x.Candidates(bg, grading)
		require.NoError(b, err)
		for b.Loop() {
			if _, _, err := review(bg, x.r, grading, all[7].ID); err != nil {
				b.Fatal(err)
			}
		}
	})
}

func BenchmarkMark(b *testing.B) {
	x, grading := largeGrading(b, 3)
	table := x.table(grading)
	b.Run("one mark", func(b *testing.B) {
		for i := 0; b.Loop(); i++ {
			m := &table.Marks[i%len(table.Marks)] // corrections all over the sheet, not of one place
			m.ID, m.Supersedes = NewID(), m.ID
			if err := x.RecordMarks(bg, me, []gradingday.Mark{*m}); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("a bare durable insert", func(b *testing.B) {
		_, err := x.w.Exec(`CREATE TABLE bare (id TEXT PRIMARY KEY, value INTEGER) STRICT`)
		require.NoError(b, err)
		for b.Loop() {
			if _, err := x.w.Exec(`INSERT INTO bare VALUES (?, 3)`, NewID()); err != nil {
				b.Fatal(err)
			}
		}
	})
}

func largeGrading(b *testing.B, candidates int) (*school, string) {
	x := newSchool(b)
	for i := range 37 {
		_, err := x.SaveRequirement(bg, me, x.asks(x.rungs[1], false), fmt.Sprint("Technique ", i), "strike")
		require.NoError(b, err)
	}
	var people []NewStudent
	for i := range candidates - 3 {
		people = append(people, NewStudent{Student: progress.Student{Name: fmt.Sprint("Student ", i), Stance: progress.Orthodox}, Starts: []Start{{x.rungs[0], today}}})
	}
	if len(people) > 0 {
		_, err := x.AddStudents(bg, me, people)
		require.NoError(b, err)
	}
	plan := x.plan()
	for i := range 4 {
		plan.Examiners = append(plan.Examiners, gradingday.Examiner{Name: fmt.Sprint("Examiner ", i)})
	}
	d, err := x.SaveGrading(bg, me, plan)
	require.NoError(b, err)
	eligible, err := x.Eligible(bg, d.ID)
	require.NoError(b, err)
	var entrants []Entrant
	for _, e := range eligible {
		entrants = append(entrants, Entrant{EnrolmentID: e.EnrolmentID})
	}
	_, err = x.AddCandidates(bg, me, d.ID, entrants)
	require.NoError(b, err)
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(b, err)
	g, rows, err := x.Review(bg, d.ID)
	require.NoError(b, err)
	for n, e := range g.Examiners {
		var marks []gradingday.Mark
		for i, r := range rows {
			for k, it := range r.Items {
				m := Table{Candidates: []Candidate{r.Candidate}, Items: []gradingday.GroupItem{{Item: it}}, Examiner: e}.mark(0, 0, 1+(i*7+k*5+n)%4)
				marks = append(marks, m)
			}
		}
		require.NoError(b, x.RecordMarks(bg, me, marks))
	}
	return x, d.ID
}

// largeSchool has so many students with ten years of classes, about 600 entries of attendance
// each, and rules that ask for everything.
func largeSchool(b *testing.B, students int) *school {
	x := newSchool(b)
	for i := range 17 {
		_, err := x.SaveRequirement(bg, me, x.asks(x.rungs[1], false), fmt.Sprint("Technique ", i), "strike")
		require.NoError(b, err)
	}
	r, err := x.Rung(bg, x.rungs[1])
	require.NoError(b, err)
	r.Rules = []curriculum.Rule{{Kind: curriculum.MonthsSince, Amount: 3}, {Kind: curriculum.ClassesSince, Amount: 60}, {Kind: curriculum.ClassesSince, Amount: 12, Of: "Sparring"}, {Kind: curriculum.AllSignedOff, Amount: 1}, {Kind: curriculum.LeastAge, Amount: 7}, {Kind: curriculum.Membership, Amount: 1}}
	_, err = x.SaveRung(bg, me, r)
	require.NoError(b, err)
	for _, w := range []int{1, 2, 4, 5} {
		kind := "General"
		if w == 5 {
			kind = "Sparring"
		}
		_, err := x.SaveClass(bg, me, timetable.Class{Name: "Evening", Kind: kind, Weekday: w, Start: 1080, Minutes: 60, From: today.AddDays(-3660), Programs: []string{x.program}})
		require.NoError(b, err)
	}
	var people []NewStudent
	for i := range students - 3 {
		people = append(people, NewStudent{Student: progress.Student{Name: fmt.Sprint("Student ", i), Stance: progress.Orthodox, BirthDate: today.AddDays(-4000 - i)}, Starts: []Start{{x.rungs[0], today.AddDays(-90 - i%300)}}})
	}
	_, err = x.AddStudents(bg, me, people)
	require.NoError(b, err)
	for _, q := range []string{
		`WITH RECURSIVE d (n) AS (SELECT 0 UNION ALL SELECT n + 1 FROM d WHERE n < 3640)
		INSERT INTO register (id, class_id, on_date, name, kind, start, minutes, programs, tracks, actor, at)
		SELECT 'register' || c.rowid || '-' || n, c.id, date('` + today.String() + `', '-' || n || ' days'), c.name, c.kind, c.start, c.minutes, c.programs, c.tracks, 'x', 'x' FROM d JOIN class c
		ON c.weekday = (CAST(strftime('%w', date('` + today.String() + `', '-' || n || ' days')) AS INTEGER) + 6) % 7 + 1`,
		// A student comes to about three classes of ten, each on days of their own.
		`INSERT INTO attendance_event (id, register_id, on_date, student_id, state, mode, actor, at)
		SELECT 'a' || r.rowid || '-' || s.rowid, r.id, r.on_date, s.id, 'present', 'hall', 'x', 'x' FROM student s CROSS JOIN register r WHERE (r.rowid * 7919 + s.rowid * 104729) % 100 < 29`,
		`INSERT INTO signoff_event (id, enrolment_id, rung_id, technique_id, role, kind, on_date, actor, at)
		SELECT 's' || e.rowid || '-' || q.rowid, e.id, q.rung_id, q.technique_id, q.role, 'shown', '` + today.AddDays(-30).String() + `', 'x', 'x' FROM enrolment e CROSS JOIN requirement q WHERE q.rung_id = '` + x.rungs[1] + `' AND (e.rowid + q.rowid * 3) % 4 > 0`,
	} {
		_, err := x.w.Exec(q)
		require.NoError(b, err)
	}
	_, err = x.write(bg, me, func(t *txn) (string, office.Deed, error) {
		ids, err := list(bg, t, func(id *string) []any { return []any{id} }, `SELECT id FROM enrolment`)
		for _, id := range ids {
			t.staleClimb(id)
		}
		return "", office.Deed{}, err
	})
	require.NoError(b, err)
	return x
}

// BenchmarkClimbs judges and forecasts everybody in a school of 500 and of 5,000 students with
// ten years of attendance, and enters one more class attended.
func BenchmarkClimbs(b *testing.B) {
	for _, n := range benchSizes() {
		x := largeSchool(b, n)
		var rows int
		require.NoError(b, x.r.QueryRow(`SELECT count(*) FROM attendance_event`).Scan(&rows))
		b.Run(fmt.Sprintf("%d students, %d entries, who may test", n, rows), func(b *testing.B) {
			for b.Loop() {
				all, err := x.WhoMayTest(bg, x.program, today)
				if err != nil || len(all) != n {
					b.Fatal(err, len(all))
				}
			}
		})
		b.Run(fmt.Sprintf("%d students, all read anew, and the forecast", n), func(b *testing.B) {
			for b.Loop() {
				x.known.forget(map[string]bool{"": true}, nil)
				all, err := x.WhoMayTest(bg, x.program, today)
				require.NoError(b, err)
				if _, err := x.Foresee(bg, all); err != nil {
					b.Fatal(err)
				}
			}
		})
		b.Run(fmt.Sprintf("%d students, and the forecast", n), func(b *testing.B) {
			for b.Loop() {
				all, err := x.WhoMayTest(bg, x.program, today)
				require.NoError(b, err)
				f, err := x.Foresee(bg, all)
				if err != nil || len(f) != n {
					b.Fatal(err, len(f))
				}
			}
		})
		b.Run(fmt.Sprintf("%d students, one entry", n), func(b *testing.B) {
			table, err := x.Timetable(bg)
			require.NoError(b, err)
			c := table.Classes[1]
			a := x.came(c, 0, today)
			for b.Loop() {
				old := a.ID
				a.ID, a.State = NewID(), map[bool]gradingday.AttendanceState{true: gradingday.Present, false: gradingday.Late}[a.State == gradingday.Late]
				if err := x.enter(a); err != nil {
					b.Fatal(err, old)
				}
				a.Supersedes = a.ID
			}
		})
	}
}

// benchSizes are the numbers of students; BENCH_SMALL leaves the large school out, whose three
// million entries take minutes to make.
func benchSizes() []int {
	if os.Getenv("BENCH_SMALL") != "" {
		return []int{500}
	}
	return []int{500, 5000}
}

// BenchmarkHeadTable reads how far a grading of 5 rings, 5 examiners each, 200 candidates and 40
// lines is, with all its 40,000 marks given; beside it the reading of one scoring table.
func BenchmarkHeadTable(b *testing.B) {
	s := open(b, filepath.Join(b.TempDir(), "school.db"))
	must := func(d Done, err error) string {
		require.NoError(b, err)
		return d.ID
	}
	program := must(s.SaveProgram(bg, me, curriculum.Program{Name: "Kenpo"}))
	var rungs []string
	for i, name := range []string{"White belt", "Yellow belt"} {
		rungs = append(rungs, must(s.SaveRung(bg, me, curriculum.Rung{ProgramID: program, Position: i, Kind: curriculum.Belt, Name: name, Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffffff"}})))
	}
	sections, err := s.Sections(bg, program)
	require.NoError(b, err)
	for i := range 40 {
		must(s.SaveRequirement(bg, me, curriculum.Requirement{RungID: rungs[1], SectionID: sections[2].ID, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 5}, Weight: 1}, fmt.Sprint("Drill ", i), "strike"))
	}
	var people []NewStudent
	for i := range 200 {
		people = append(people, NewStudent{Student: progress.Student{Name: fmt.Sprintf("Candidate %03d", i), Stance: progress.Orthodox}, Starts: []Start{{RungID: rungs[0], Since: today.AddDays(-200)}}})
	}
	_, err = s.AddStudents(bg, me, people)
	require.NoError(b, err)
	g := gradingday.Grading{ProgramID: program, On: today, Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 4, RungIDs: rungs[1:]}
	for ring := range 5 {
		g.Rings = append(g.Rings, gradingday.Ring{})
		for k := range 5 {
			g.Examiners = append(g.Examiners, gradingday.Examiner{Name: fmt.Sprint("Examiner ", ring, k), Ring: ring})
		}
	}
	id := must(s.SaveGrading(bg, me, g))
	may, err := s.Eligible(bg, id)
	require.NoError(b, err)
	var entrants []Entrant
	for _, m := range may {
		entrants = append(entrants, Entrant{EnrolmentID: m.EnrolmentID})
	}
	must(s.AddCandidates(bg, me, id, entrants))
	must(s.Begin(bg, me, id))
	full, err := s.Grading(bg, id)
	require.NoError(b, err)
	all, err := s.Candidates(bg, id)
	require.NoError(b, err)
	var table [2]string
	for _, c := range all {
		_, panel := full.PanelOf(c.RingID)
		var marks []gradingday.Mark
		for _, e := range panel {
			t, err := s.ScoringTable(bg, e.ID, c.GroupID)
			require.NoError(b, err)
			table = [2]string{e.ID, c.GroupID}
			for _, it := range t.Items {
				marks = append(marks, gradingday.Mark{ID: NewID(), CandidateID: c.ID, ExaminerID: e.ID, ItemID: it.IDs[c.ID], Kind: gradingday.MarkGiven, Value: scoring.Whole(3)})
			}
		}
		require.NoError(b, s.RecordMarks(bg, me, marks))
	}
	b.Run("head", func(b *testing.B) {
		for b.Loop() {
			h, err := s.Head(bg, id)
			require.NoError(b, err)
			require.Len(b, h.Tables, 250)
		}
	})
	b.Run("table", func(b *testing.B) {
		for b.Loop() {
			_, err := s.ScoringTable(bg, table[0], table[1])
			require.NoError(b, err)
		}
	})
}
