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
	require.Greater(t, len(ran()), 100)
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

// TestWhatIsKeptIsNotRead holds the list of tables whose writes clear nothing to the tables that
// judging climbs reads.
func TestWhatIsKeptIsNotRead(t *testing.T) {
	golden.Alone(t)
	s, db := demoRecords(t)
	ran, err := s.Watch()
	require.NoError(t, err)
	for _, program := range golden.Texts(t, db, `SELECT id FROM program`) {
		all, err := s.WhoMayTest(context.Background(), program, demoDay)
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
