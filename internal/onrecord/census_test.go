package onrecord_test

import (
	"crypto/sha256"
	"database/sql"
	"fmt"
	"io"
	"regexp"
	"testing"

	_ "github.com/ncruces/go-sqlite3/driver"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/demotest"
	"velvetladder/internal/golden"
)

// random are texts that look random: ids, and what is made with them.
var random = regexp.MustCompile(`[0-9a-f]{16,}`)

// TestTheDemoAsItWasLookedAt builds the demo of one day and counts what is on record: of each
// table the rows, of each column the different values, the least, the most, and the sum of all. After a change
// that is meant: go test ./internal/onrecord -run LookedAt -update, and look at the demo.
func TestTheDemoAsItWasLookedAt(t *testing.T) {
	golden.Alone(t)
	db, err := sql.Open("sqlite3", "file:"+demotest.Copy(t))
	require.NoError(t, err)
	defer db.Close()
	texts := func(query string) []string { return golden.Texts(t, db, query) }
	var out []string
	for _, table := range texts(`SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND sql NOT LIKE '%VIRTUAL%' ORDER BY name`) {
		if table == "goose_db_version" { // has the day of the migrations
			continue
		}
		out = append(out, fmt.Sprintf("%s: %s", table, texts(`SELECT count(*) FROM "` + table + `"`)[0]))
		for _, column := range texts(`SELECT name FROM pragma_table_info('` + table + `') ORDER BY name`) {
			var many int
			var least, most, sum sql.NullString
			require.NoError(t, db.QueryRow(fmt.Sprintf(`SELECT count(DISTINCT "%[1]s"), substr(min("%[1]s"), 1, 60), substr(max("%[1]s"), 1, 60), sum(length("%[1]s")) FROM "%[2]s"`, column, table)).Scan(&many, &least, &most, &sum))
			line := fmt.Sprintf("  %s: %d", column, many)
			if !random.MatchString(least.String+most.String) && many > 0 {
				line += fmt.Sprintf(", %q to %q", least.String, most.String)
			}
			all := sha256.New()
			for _, x := range texts(fmt.Sprintf(`SELECT coalesce(hex("%s"), '-') FROM "%s" ORDER BY 1`, column, table)) {
				io.WriteString(all, x+"\n")
			}
			out = append(out, fmt.Sprintf("%s, %x", line, all.Sum(nil)[:6]))
		}
	}
	golden.Hold(t, "testdata/demo.txt", out, nil)
}
