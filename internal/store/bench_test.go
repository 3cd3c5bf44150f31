package store

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
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
			if err := x.RecordMarks(bg, me, []Mark{*m}); err != nil {
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
		var marks []Mark
		for i, r := range rows {
			for k, it := range r.Items {
				m := Table{Candidates: []Candidate{r.Candidate}, Items: []Called{{Item: it}}, Examiner: e}.mark(0, 0, 1+(i*7+k*5+n)%4)
				marks = append(marks, m)
			}
		}
		require.NoError(b, x.RecordMarks(bg, me, marks))
	}
	return x, d.ID
}
