package store

import (
	"fmt"
	"path/filepath"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

func TestManyTablesMarkAtOnce(t *testing.T) {
	x := newSchool(t)
	plan := x.plan()
	plan.Examiners = []gradingday.Examiner{{Name: "A", Chief: true}, {Name: "B"}, {Name: "C"}, {Name: "D"}, {Name: "E"}}
	d, err := x.SaveGrading(bg, me, plan)
	require.NoError(t, err)
	_, err = x.AddCandidates(bg, me, d.ID, []Entrant{{EnrolmentID: x.standing(0).EnrolmentID}, {EnrolmentID: x.standing(1).EnrolmentID}})
	require.NoError(t, err)
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(t, err)
	g, err := x.Grading(bg, d.ID)
	require.NoError(t, err)
	group := x.table(d.ID).GroupID
	var all sync.WaitGroup
	for n, e := range g.Examiners {
		all.Go(func() {
			table, err := x.ScoringTable(bg, e.ID, group)
			assert.NoError(t, err)
			for c := range table.Candidates {
				for i := range table.Items {
					assert.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{table.mark(c, i, n%5)}))
				}
			}
		})
	}
	all.Wait()
	rows, err := x.Progress(bg, d.ID)
	require.NoError(t, err)
	require.Len(t, rows, 5)
	for _, r := range rows {
		assert.Equal(t, r.Of, r.Marks)
		assert.False(t, r.Signed)
	}
	// No examiner's table holds another's marks.
	table, err := x.ScoringTable(bg, g.Examiners[2].ID, group)
	require.NoError(t, err)
	for _, m := range table.Marks {
		assert.Equal(t, g.Examiners[2].ID, m.ExaminerID)
		assert.Equal(t, scoring.Whole(2), m.Value)
	}
}

func TestOneOfTwoSimultaneousFirstMarksWins(t *testing.T) {
	x := newSchool(t)
	_, table := x.begun()
	var all sync.WaitGroup
	won := make(chan gradingday.Mark, 8)
	for i := range 8 {
		all.Go(func() {
			m := table.mark(0, 0, i%5)
			if x.RecordMarks(bg, me, []gradingday.Mark{m}) == nil {
				won <- m
			}
		})
	}
	all.Wait()
	close(won)
	var winners []gradingday.Mark
	for m := range won {
		winners = append(winners, m)
	}
	require.Len(t, winners, 1)
	assert.Equal(t, winners, x.table(table.Grading.ID).Marks)
}

func TestStudentsGoInTogetherOrNotAtAll(t *testing.T) {
	x := newSchool(t)
	before, total, err := x.Students(bg, "", "", 100, 0)
	require.NoError(t, err)
	require.Len(t, before, 3)
	people := []NewStudent{{Student: progress.Student{Name: "Dot Lock", Stance: progress.Southpaw}, Starts: []Start{{x.rungs[0], today}}}, {Student: progress.Student{Name: "Eve Race", Stance: progress.Orthodox}, Starts: []Start{{"no rung", today}}}}
	_, err = x.AddStudents(bg, me, people)
	require.ErrorIs(t, err, ErrNotFound)
	_, after, err := x.Students(bg, "", "", 100, 0)
	require.NoError(t, err)
	assert.Equal(t, total, after)
	people[1].Starts = nil
	_, err = x.AddStudents(bg, me, people)
	require.NoError(t, err)
	rows, n, err := x.Students(bg, x.program, "dot", 100, 0)
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	assert.Equal(t, "White belt", rows[0].Rung.Name)
	rows, n, err = x.Students(bg, "", "", 2, 3)
	require.NoError(t, err)
	assert.Equal(t, 5, n)
	assert.Equal(t, []string{"Dot Lock", "Eve Race"}, []string{rows[0].Name, rows[1].Name})
	assert.Nil(t, rows[1].Rung)
}

func TestDeletedStudentsLeaveTheCounts(t *testing.T) {
	x := newSchool(t)
	stand := func() int {
		all, err := x.Ladder(bg, x.program)
		require.NoError(t, err)
		return all[0].Students
	}
	require.Equal(t, 3, stand())
	gone, err := x.DeleteStudent(bg, me, x.people[0])
	require.NoError(t, err)
	assert.Equal(t, 2, stand())
	_, err = x.Student(bg, x.people[0])
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = x.Undo(bg, me, gone.Audit)
	require.NoError(t, err)
	assert.Equal(t, 3, stand())
	_, err = x.EndEnrolment(bg, me, x.standing(1).EnrolmentID)
	require.NoError(t, err)
	assert.Equal(t, 2, stand())
	on, err := x.OnRung(bg, x.rungs[0], 1)
	require.NoError(t, err)
	assert.Len(t, on, 1)
}

func TestEnrolments(t *testing.T) {
	x := newSchool(t)
	_, err := x.Enrol(bg, me, x.people[0], x.rungs[1], today)
	problem(t, err, "rung", "climbs that program already")
	_, err = x.Enrol(bg, me, x.people[0], x.rungs[1], today.AddDays(1))
	problem(t, err, "since", "lies in the future")
	_, err = x.Enrol(bg, me, "nobody", x.rungs[1], today)
	assert.ErrorIs(t, err, ErrNotFound)
	enrolment := x.standing(0).EnrolmentID
	_, err = x.CorrectRank(bg, me, enrolment, x.rungs[1], today, "")
	problem(t, err, "reason", "stays on record")
	_, err = x.CorrectRank(bg, me, enrolment, x.rungs[1], today.AddDays(3), "so it is")
	problem(t, err, "on", "lies in the future")
	other, err := x.SaveProgram(bg, me, curriculum.Program{Name: "Karate"})
	require.NoError(t, err)
	foreign, err := x.SaveRung(bg, me, curriculum.Rung{ProgramID: other.ID, Kind: curriculum.Belt, Name: "Red belt", Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ff0000"}})
	require.NoError(t, err)
	_, err = x.CorrectRank(bg, me, enrolment, foreign.ID, today, "so it is")
	problem(t, err, "rung", "belongs to another program")
	_, err = x.Enrol(bg, me, x.people[0], foreign.ID, today)
	require.NoError(t, err)
	all, err := x.Standings(bg, x.people[0])
	require.NoError(t, err)
	assert.Len(t, all, 2, "one person may climb several ladders")
	x.followsHistory()
}

func TestFindAndNextGrading(t *testing.T) {
	x := newSchool(t)
	_, found, err := x.NextGrading(bg, x.program)
	require.NoError(t, err)
	assert.False(t, found)
	for _, days := range []int{-3, 12, 5} {
		plan := x.plan()
		plan.On, plan.Name = today.AddDays(days), fmt.Sprint("In ", days)
		_, err := x.SaveGrading(bg, me, plan)
		require.NoError(t, err)
	}
	next, found, err := x.NextGrading(bg, x.program)
	require.NoError(t, err)
	assert.True(t, found)
	assert.Equal(t, "In 5", next.Title())
	for text, kind := range map[string]string{"rill": "students", "REED": "techniques", "yellow": "ladder", "in 12": "gradings"} {
		rows, err := x.Find(bg, text, 5)
		require.NoError(t, err)
		require.NotEmpty(t, rows, text)
		assert.Equal(t, kind, rows[0].Kind)
	}
	none, err := x.Find(bg, "  ", 5)
	require.NoError(t, err)
	assert.Empty(t, none)
}

func TestCategoriesGatherTheirLines(t *testing.T) {
	x := newSchool(t)
	plan := x.plan()
	plan.Marking, plan.Policy = gradingday.CategoryPoints, scoring.CategoryPoints(scoring.Whole(11))
	d, err := x.SaveGrading(bg, me, plan)
	require.NoError(t, err)
	_, err = x.AddCandidates(bg, me, d.ID, []Entrant{{EnrolmentID: x.standing(0).EnrolmentID}})
	require.NoError(t, err)
	_, err = x.Begin(bg, me, d.ID)
	refused(t, err, "nobody could pass for Yellow belt: the threshold is 11, and its sheet has 10 points in all")
	plan.ID, plan.Policy = d.ID, scoring.CategoryPoints(scoring.Whole(7))
	_, err = x.SaveGrading(bg, me, plan)
	require.NoError(t, err)
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(t, err)
	table := x.table(d.ID)
	require.Len(t, table.Items, 1)
	assert.Len(t, table.Items[0].Lines, 3)
	m := table.mark(0, 0, 7)
	m.Value -= scoring.Whole(1) / 2
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}))
	_, err = x.Sign(bg, me, table.Examiner.ID, table.GroupID, false)
	require.NoError(t, err)
	_, rows, err := x.Review(bg, d.ID)
	require.NoError(t, err)
	assert.Equal(t, scoring.OutcomeRetest, rows[0].Result.Outcome)
	assert.Equal(t, "6.5", rows[0].Result.Tallies[0].Points.String())
}

func TestLateCandidatesGetTheFrozenSheet(t *testing.T) {
	x := newSchool(t)
	d, err := x.SaveGrading(bg, me, x.plan())
	require.NoError(t, err)
	_, err = x.AddCandidates(bg, me, d.ID, []Entrant{{EnrolmentID: x.standing(0).EnrolmentID}})
	require.NoError(t, err)
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(t, err)
	table := x.table(d.ID)
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{table.mark(0, 0, 3)}))
	_, err = x.DeleteRequirement(bg, me, x.lines[1])
	require.NoError(t, err)
	_, err = x.AddCandidates(bg, me, d.ID, []Entrant{{EnrolmentID: x.standing(1).EnrolmentID}})
	require.NoError(t, err)
	all, err := x.Candidates(bg, d.ID)
	require.NoError(t, err)
	require.Len(t, all, 2)
	assert.Equal(t, all[0].SheetID, all[1].SheetID)
	assert.NotEqual(t, all[0].GroupID, all[1].GroupID, "a group in which marking has begun stays as it is")
}

func TestTheSchoolIsThereAfterARestart(t *testing.T) {
	path := filepath.Join(t.TempDir(), "school.db")
	s, err := Open(bg, path, clock)
	require.NoError(t, err)
	_, err = s.NameSchool(bg, me, "Old Mill")
	require.NoError(t, err)
	require.NoError(t, s.Close())
	again := open(t, path)
	name, err := again.School(bg)
	require.NoError(t, err)
	assert.Equal(t, "Old Mill", name)
	assert.Equal(t, today, again.Today())
}

func TestCatalogue(t *testing.T) {
	x := newSchool(t)
	b, err := x.Book(bg, x.program)
	require.NoError(t, err)
	_, err = b.Read("lead front-kick, rear low block")
	require.NoError(t, err)
	dusty := curriculum.Technique{ProgramID: x.program, Name: "Dusty kick", Kind: "kick", Aliases: []string{"Front  KICK"}}
	_, err = x.SaveTechnique(bg, me, dusty)
	problem(t, err, "aliases", "is what Front kick is called already")
	dusty.Aliases = []string{"Flour kick"}
	made, err := x.SaveTechnique(bg, me, dusty)
	require.NoError(t, err)
	_, err = x.SaveTechnique(bg, me, curriculum.Technique{ProgramID: x.program, Name: "flour kick", Kind: "kick"})
	problem(t, err, "name", "is what Dusty kick is called already")
	dusty.ID, dusty.ProgramID, dusty.Aliases = made.ID, "", []string{"Low block"}
	_, err = x.SaveTechnique(bg, me, dusty)
	problem(t, err, "aliases", "is what Low block is called already")
	dusty.Aliases = []string{"Flour kick", "Grain kick"}
	_, err = x.SaveTechnique(bg, me, dusty)
	require.NoError(t, err, "its own names are no clash")
	// A file from elsewhere may hold a clash all the same: lines are then not read, and nothing worse.
	_, err = x.w.Exec(`UPDATE technique SET aliases = '["Front kick"]' WHERE id = ?`, made.ID)
	require.NoError(t, err)
	b, err = x.Book(bg, x.program)
	require.NoError(t, err)
	assert.Nil(t, b.Catalogue)
	assert.NotEmpty(t, b.Compile(curriculum.Asking{RungID: x.rungs[1], Group: 3}).Lines)
}

// TestABadDateIsAnErrorWithItsPlace spoils one value after the other and reads what holds it.
func TestABadDateIsAnErrorWithItsPlace(t *testing.T) {
	for _, c := range []struct{ spoil, place string }{
		{`UPDATE enrolment SET since = '2026-02-31'`, "since"},
		{`UPDATE student SET birth_date = 'in spring'`, "birth_date"},
		{`UPDATE climb_summary SET last_on = '2026-2-3'`, "last_on"},
		{`UPDATE climb_summary SET signed = 'r' || char(9) || 't' || char(9) || 'performer' || char(9) || '0' || char(9) || '' || char(9) || '2026-01-01' || char(9) || '' || char(10) || 'r' || char(9) || 't' || char(9) || 'performer' || char(9) || '0' || char(9) || '' || char(9) || 'soon' || char(9)`, `"signed": line 2`},
		{`UPDATE climb_summary SET weeks = 'Monday' || char(9) || '123'`, `"weeks": line 1`},
		{`UPDATE climb_summary SET stripes = 'r' || char(9) || 's' || char(9) || '2026-13-01'`, `"stripes": line 1`},
		{`UPDATE climb_summary SET presumed = 'r' || char(9) || 'never'`, `"presumed": line 1`},
		{`UPDATE climb_summary SET attended = 'general' || char(9) || 'hall' || char(9) || 'many'`, `"attended": line 1`},
	} {
		x := newSchool(t)
		_, err := x.WhoMayTest(bg, x.program, today)
		require.NoError(t, err)
		changed, err := x.w.Exec(c.spoil)
		require.NoError(t, err)
		if n, _ := changed.RowsAffected(); n == 0 {
			_, err = x.w.Exec(`INSERT INTO climb_summary (enrolment_id, attended, weeks, signed, stripes) SELECT id, '', '', '', '' FROM enrolment`)
			require.NoError(t, err)
			_, err = x.w.Exec(c.spoil)
			require.NoError(t, err)
		}
		x.known.forget(map[string]bool{"": true}, nil)
		_, err = x.WhoMayTest(bg, x.program, today)
		require.ErrorContains(t, err, c.place, c.spoil)
	}
}
