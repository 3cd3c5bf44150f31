package e2e

import (
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	_ "github.com/ncruces/go-sqlite3/driver"
	"github.com/stretchr/testify/require"
)

// scoringState is the part of a scoring table's state these tests read.
type scoringState struct {
	Candidates []struct{ ID string }
	Items      []struct{ IDs map[string]string } // candidate → item
	Marks      []struct {
		ID, Candidate, Item string
		Supersedes          string
	}
}

func (s *server) get(path string) string {
	res, err := http.Get(s.url + path)
	require.NoError(s.t, err)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(s.t, err)
	require.Equal(s.t, http.StatusOK, res.StatusCode, "%s: %s", path, text)
	return string(text)
}

// openTable finds the address of a scoring table that is not signed.
func (s *server) openTable() string {
	for _, g := range regexp.MustCompile(`/gradings/[0-9a-f]{20}`).FindAllString(s.get("/gradings"), -1) {
		page := s.get(g)
		for _, at := range regexp.MustCompile(`href="(/scoring/[0-9a-f]{20}/[0-9a-f]{20})"[^>]*>[^·]*· \d+ of`).FindAllStringSubmatch(page, -1) {
			if state := s.state(at[1]); len(state.Candidates) > 1 && len(state.Marks) > 0 {
				return at[1]
			}
		}
	}
	s.t.Fatal("no table with two candidates and marks is open")
	return ""
}

func (s *server) state(table string) (out scoringState) {
	require.NoError(s.t, json.Unmarshal([]byte(s.get(table+"/state")), &out))
	return out
}

// TestNoAcknowledgedMarkIsLost kills the program while marks are being sent, again and
// again, and expects every mark that was acknowledged to stand after the next start.
func TestNoAcknowledgedMarkIsLost(t *testing.T) {
	rounds := 25
	if os.Getenv("VELVETLADDER_LONG") != "" {
		rounds = 1000
	}
	db := filepath.Join(t.TempDir(), "demo.db")
	s := start(t, "demo", "--db", db)
	table := s.openTable()
	examiner := strings.Split(table, "/")[2]
	chance := rand.New(rand.NewPCG(1, 2))
	acknowledged := 0
	for round := range rounds {
		state := s.state(table)
		stands := map[string]string{} // place → id of the newest mark
		for _, m := range state.Marks {
			stands[m.Candidate+m.Item] = m.ID
		}
		sent := map[string]string{} // place → newest mark acknowledged this round
		killAt := 1 + chance.IntN(6)
		died := make(chan struct{})
		for n := 0; ; n++ {
			c, it := state.Candidates[chance.IntN(len(state.Candidates))].ID, ""
			for it == "" { // not every line is asked of every candidate
				it = state.Items[chance.IntN(len(state.Items))].IDs[c]
			}
			place, id := c+it, fmt.Sprintf("kill-%d-%d", round, n)
			if n == killAt {
				// The power goes while the next mark is on its way.
				go func() { s.kill(); close(died) }()
			}
			body := fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"item":%q,"kind":"mark","value":%d,"note":"","supersedes":%q}]}`, id, c, examiner, it, chance.IntN(5), stands[place])
			res, err := http.Post(s.url+table+"/marks", "application/json", strings.NewReader(body))
			if err != nil {
				break
			}
			_, err = io.ReadAll(res.Body)
			res.Body.Close()
			if err != nil {
				break
			}
			require.Equal(t, http.StatusOK, res.StatusCode)
			stands[place], sent[place] = id, id
			acknowledged++
		}
		<-died
		s.run()
		now := map[string]string{}
		before := map[string]string{}
		for _, m := range s.state(table).Marks {
			now[m.Candidate+m.Item], before[m.Candidate+m.Item] = m.ID, m.Supersedes
		}
		for place, id := range sent {
			// The mark on its way when the power went may have been stored without an answer.
			require.True(t, now[place] == id || before[place] == id, "round %d: the acknowledged mark %s is gone; %s stands", round, id, now[place])
		}
	}
	require.GreaterOrEqual(t, acknowledged, rounds)
	s.stop()
	records, err := sql.Open("sqlite3", "file:"+db)
	require.NoError(t, err)
	defer records.Close()
	var sound string
	require.NoError(t, records.QueryRow(`PRAGMA integrity_check`).Scan(&sound))
	require.Equal(t, "ok", sound)
	var dangling int
	require.NoError(t, records.QueryRow(`SELECT count(*) FROM pragma_foreign_key_check`).Scan(&dangling))
	require.Zero(t, dangling)
	t.Logf("%d marks acknowledged over %d kills, none lost", acknowledged, rounds)
}
