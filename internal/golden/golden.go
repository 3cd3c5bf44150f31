// Package golden holds what tests describe to what it was when somebody looked at it last, in a
// file beside the test. After a change that is meant, the test is run with -update, and what
// changed is looked at.
package golden

import (
	"database/sql"
	"flag"
	"os"
	"path/filepath"
	"strings"

	"github.com/stretchr/testify/require"
)

// Update says that files are written anew.
var Update = flag.Bool("update", false, "write the files that tests hold things to anew, after a look")

// T is what a test is told by.
type T interface {
	require.TestingT
	Helper()
}

// Alone skips a test where races are watched for: it goes through much and does one thing at a
// time. make test runs such tests by themselves.
func Alone(t interface{ Skip(...any) }) {
	if raced {
		t.Skip("is run without the race detector")
	}
}

// Long reports whether make test-long runs, which goes through all of what make test goes through a part of.
func Long() bool { return os.Getenv("VELVETLADDER_LONG") != "" }

// Sample reports whether the i-th of many that are alike is gone through: every n-th, and in make test-long each.
func Sample(i, n int) bool { return i%n == 0 || Long() }

// Texts are the answers to a query of one column.
func Texts(t T, db *sql.DB, query string) (out []string) {
	t.Helper()
	rows, err := db.Query(query)
	require.NoError(t, err)
	defer rows.Close()
	for rows.Next() {
		var s string
		require.NoError(t, rows.Scan(&s))
		out = append(out, s)
	}
	require.NoError(t, rows.Err())
	return out
}

// Hold compares lines with a file, and fails at the first that differs. place names where a line
// stands, for the message; nil: by its number alone.
func Hold(t T, file string, lines []string, place func(i int) string) {
	t.Helper()
	if *Update {
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
		require.NoError(t, os.WriteFile(file, []byte(strings.Join(lines, "\n")+"\n"), 0o644))
	}
	then, err := os.ReadFile(file)
	require.NoError(t, err)
	was := strings.Split(strings.TrimSuffix(string(then), "\n"), "\n")
	for i, line := range lines {
		where := ""
		if place != nil {
			where = ", " + place(i)
		}
		require.Less(t, i, len(was), "more than there was in %s%s: %s", file, where, line)
		require.Equal(t, was[i], line, "line %d of %s%s", i+1, file, where)
	}
	require.Equal(t, len(was), len(lines), "lines of %s", file)
}
