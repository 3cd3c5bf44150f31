package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"maps"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/demotest"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
)

// growing are the tables that grow with every class and every grading: nothing that is asked of
// them may go through all their rows.
var growing = regexp.MustCompile(`^(\w+_event|announcement|attendance|audit|bout|candidate|candidate_group|graded_line|message|rank_entry|register|request|seat|test_item|test_line|test_sheet)$`)

// whole are the queries that mean to read everything, with the reason.
var whole = map[string]string{
	"FROM attendance a JOIN register r ON r.id = a.register_id JOIN student s":               "the file of all attendance",
	"SELECT min(on_date) FROM register":                                                      "goes by the day and ends at the first",
	"FROM rank_entry k JOIN enrolment e ON e.id = k.enrolment_id JOIN student s ON s.id = e": "the replay of forecasts goes through every climb",
	"FROM attendance a JOIN register r ON r.id = a.register_id WHERE a.student_id IS NOT N":  "the replay",
	"FROM signoff WHERE kind = 'shown'\n		UNION ALL":                                         "the replay",
	"SELECT enrolment_id, rung_id, on_date FROM entered":                                     "the replay",
	"SELECT enrolment_id || rung_id, section_id, on_date FROM stripe":                        "the replay",
	"SELECT enrolment_id || rung_id, rule, date(at) FROM eligibility_event":                  "the replay",
	"SELECT c.enrolment_id, date(a.at), d.retest_from FROM announcement a":                   "the replay",
}

// TestNoScans asks the demo everything that can be asked and looks at how each query is carried
// out: none goes through a growing table from end to end.
func TestNoScans(t *testing.T) {
	golden.Alone(t)
	s, db := demoRecords(t)
	ran, err := s.Watch()
	require.NoError(t, err)
	askAll(t, s, db, func(string, []reflect.Value) {})
	for _, grading := range golden.Texts(t, db, `SELECT id FROM grading`) {
		_, _, err := s.Deeds(context.Background(), store.TrailQuery{Grading: grading, Limit: 50})
		require.NoError(t, err)
	}
	before := len(ran())
	writeAll(t, s, db)
	require.Greater(t, len(ran()), before+20)
	require.Greater(t, before, 100)
	told := map[string]bool{}
	for q, x := range plans(t, db, ran()) {
		scanned := slices.DeleteFunc(x.scans, func(table string) bool { return !growing.MatchString(table) })
		meant := slices.ContainsFunc(slices.Collect(maps.Keys(whole)), func(known string) bool {
			told[known] = told[known] || strings.Contains(q, known)
			return strings.Contains(q, known)
		})
		if len(scanned) > 0 && !meant {
			assert.Fail(t, "goes through all of "+strings.Join(scanned, ", "), q)
		}
	}
	for known := range whole {
		assert.True(t, told[known], "nothing asks any more: %s", known)
	}
}

// writeAll writes what is written often: marks, a fault, a signature taken back and given, decisions, attendance,
// sign-offs, an undo.
func writeAll(t *testing.T, s *store.Store, db *sql.DB) {
	ctx, by := context.Background(), store.By{Actor: "Mira Quell"}
	first := func(query string) []string { return strings.Split(golden.Texts(t, db, query)[0], " ") }
	sheet := first(`SELECT x.examiner_id || ' ' || x.group_id || ' ' || c.id || ' ' || c.grading_id FROM signature x JOIN candidate c ON c.group_id = x.group_id AND c.withdrawn_at IS NULL
		WHERE NOT EXISTS (SELECT 1 FROM announcement a JOIN candidate k ON k.id = a.candidate_id WHERE k.group_id = x.group_id) LIMIT 1`)
	examiner, group, candidate := sheet[0], sheet[1], sheet[2]
	_, err := s.Reopen(ctx, by, examiner, group, "one was swapped")
	require.NoError(t, err)
	table, err := s.ScoringTable(ctx, examiner, group)
	require.NoError(t, err)
	old := table.Marks[0]
	refused, err := s.TakeMarks(ctx, by, []gradingday.Mark{{ID: store.NewID(), CandidateID: old.CandidateID, ExaminerID: examiner, ItemID: old.ItemID, Kind: gradingday.MarkNotSeen, Supersedes: old.ID}})
	require.NoError(t, err)
	require.Empty(t, refused)
	require.NoError(t, s.RecordFault(ctx, by, gradingday.Fault{ID: store.NewID(), CandidateID: candidate, ExaminerID: examiner, Kind: gradingday.FaultNote, Text: "late"}))
	_, err = s.Sign(ctx, by, examiner, group, true)
	require.NoError(t, err)
	// What follows may be refused: it is asked all the same.
	s.Agree(ctx, by, []string{candidate}, "Mira Quell")
	s.Announce(ctx, by, sheet[3], []string{candidate})
	class := first(`SELECT r.class_id || ' ' || a.student_id || ' ' || a.on_date FROM attendance_event a JOIN register r ON r.id = a.register_id WHERE a.student_id IS NOT NULL ORDER BY a.rowid DESC LIMIT 1`)
	_, err = s.RecordAttendance(ctx, by, []gradingday.Attendance{{ID: store.NewID(), ClassID: class[0], StudentID: class[1], On: civil.MustParse(class[2]), State: gradingday.Late, Mode: "hall"}})
	require.NoError(t, err)
	shown := first(`SELECT e.id || ' ' || x.technique_id FROM signoff_event x JOIN enrolment e ON e.id = x.enrolment_id WHERE e.ended_on IS NULL ORDER BY x.rowid DESC LIMIT 1`)
	_, err = s.RecordSignOffs(ctx, by, []store.SignOff{{ID: store.NewID(), EnrolmentID: shown[0], TechniqueID: shown[1], Role: "performer", Kind: "shown", On: demotest.On}})
	require.NoError(t, err)
	s.Undo(ctx, by, first(`SELECT id FROM audit WHERE changes <> '[]' ORDER BY seq DESC LIMIT 1`)[0])
}

// TestWhatIsKeptIsNotRead holds the list of tables whose writes clear nothing to the tables that
// judging climbs reads.
func TestWhatIsKeptIsNotRead(t *testing.T) {
	golden.Alone(t)
	s, db := demoRecords(t)
	ran, err := s.Watch()
	require.NoError(t, err)
	for _, program := range golden.Texts(t, db, `SELECT id FROM program`) {
		all, err := s.WhoMayTest(context.Background(), program, demotest.On)
		require.NoError(t, err)
		require.NotEmpty(t, all)
	}
	read := map[string]bool{}
	for _, x := range plans(t, db, ran()) {
		for _, table := range x.reads {
			read[table] = true
		}
	}
	for _, table := range []string{"enrolment", "student", "climb_summary", "decision_event", "eligibility_event", "register", "requirement"} {
		require.True(t, read[table], table)
	}
	for _, table := range store.Apart {
		assert.False(t, read[table], "climbs are judged by %s, and a write to it clears nothing", table)
	}
}

// plan is how a query is carried out: the tables it reads, by themselves or by an index, and those it
// goes through from end to end.
type plan struct{ reads, scans []string }

func plans(t *testing.T, db *sql.DB, queries []string) map[string]plan {
	names := map[string]string{} // root page → table
	for _, x := range golden.Texts(t, db, `SELECT rootpage || ' ' || tbl_name FROM sqlite_schema WHERE rootpage > 0`) {
		page, table, _ := strings.Cut(x, " ")
		names[page] = table
	}
	out := map[string]plan{}
	for _, q := range queries {
		if !strings.HasPrefix(q, "SELECT") && !strings.HasPrefix(q, "WITH") {
			continue
		}
		rows, err := db.Query("EXPLAIN "+q, make([]any, parameters(q))...)
		require.NoError(t, err, q)
		open, x := map[int]string{}, plan{}
		for rows.Next() {
			var addr, p1, p2, p3, p5 int
			var code string
			var p4, comment any
			require.NoError(t, rows.Scan(&addr, &code, &p1, &p2, &p3, &p4, &p5, &comment))
			switch code {
			case "OpenRead":
				open[p1] = names[fmt.Sprint(p2)]
				x.reads = append(x.reads, open[p1])
			case "Rewind":
				x.scans = append(x.scans, open[p1])
			}
		}
		require.NoError(t, rows.Close())
		out[q] = x
	}
	return out
}

var numbered = regexp.MustCompile(`\?(\d+)`)

// parameters is how many values a query takes.
func parameters(q string) int {
	if n := numbered.FindAllStringSubmatch(q, -1); n != nil {
		most := 0
		for _, m := range n {
			var k int
			fmt.Sscan(m[1], &k)
			most = max(most, k)
		}
		return most
	}
	return strings.Count(q, "?")
}
