package e2e

import (
	"context"
	"database/sql"
	"encoding/json"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	_ "github.com/ncruces/go-sqlite3/driver"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
	"velvetladder/internal/rehearsal"
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

// TestNoAcknowledgedMarkIsLost kills the program at a random moment while the tablets of a whole
// panel mark, again and again. After each start every mark that was acknowledged is on record
// once, and the file is sound.
func TestNoAcknowledgedMarkIsLost(t *testing.T) {
	t.Parallel()
	rounds, begin, done := 10, 0, ""
	if golden.Long() { // how far it came is kept, so that a run that was broken off goes on
		rounds, done = 1000, filepath.Join("..", "..", "build", "kills")
		require.NoError(t, os.MkdirAll(filepath.Dir(done), 0o755))
		if text, err := os.ReadFile(done); err == nil {
			begin, _ = strconv.Atoi(string(text))
		}
	}
	s := startDemo(t)
	grading := regexp.MustCompile(`/gradings/([0-9a-f]{20})"[^>]*><bdi>Stripe evening`).FindStringSubmatch(s.get("/gradings"))[1]
	chance := rand.New(rand.NewPCG(1, 2))
	var mu sync.Mutex
	acknowledged := map[string]bool{}
	fresh := 0
	for round := begin; round < rounds; round++ {
		if round > begin && round%100 == 0 { // no mark is corrected a hundred times: go on with a fresh school
			s.stop()
			s = startDemo(t)
			acknowledged = map[string]bool{}
		}
		db := s.db()
		dead := make(chan struct{})
		killAfter := 1 + chance.IntN(60) // marks
		var marks atomic.Int64
		var once sync.Once
		stop := func() bool {
			select {
			case <-dead:
				return true
			default:
				return false
			}
		}
		_, err := rehearsal.Run(context.Background(), rehearsal.Options{URL: s.url, Grading: grading, Seed: uint64(round), Loss: 20, Away: 60, Correct: 300, NotSeen: 10, MostTime: time.Minute, Stop: stop,
			Acknowledged: func(id string) {
				mu.Lock()
				acknowledged[id] = true
				fresh++
				mu.Unlock()
				if marks.Add(1) >= int64(killAfter) {
					once.Do(func() { // the power goes while other marks are on their way
						go func() { s.kill(); close(dead) }()
					})
				}
			}})
		if marks.Load() < int64(killAfter) {
			require.NoError(t, err, "round %d: the rehearsal ended before the power went", round)
			s.kill()
		} else {
			<-dead
		}
		records, err := sql.Open("sqlite3", "file:"+db)
		require.NoError(t, err)
		var sound string
		require.NoError(t, records.QueryRow(`PRAGMA integrity_check`).Scan(&sound))
		require.Equal(t, "ok", sound, "round %d", round)
		var dangling, doubled int
		require.NoError(t, records.QueryRow(`SELECT count(*) FROM pragma_foreign_key_check`).Scan(&dangling))
		require.Zero(t, dangling, "round %d", round)
		require.NoError(t, records.QueryRow(`SELECT count(*) FROM (SELECT 1 FROM mark GROUP BY candidate_id, examiner_id, item_id HAVING count(*) > 1)`).Scan(&doubled))
		require.Zero(t, doubled, "round %d: one mark stands at each place", round)
		have := map[string]bool{}
		rows, err := records.Query(`SELECT id FROM mark_event`)
		require.NoError(t, err)
		for rows.Next() {
			var id string
			require.NoError(t, rows.Scan(&id))
			have[id] = true
		}
		require.NoError(t, rows.Close())
		require.NoError(t, records.Close())
		for id := range acknowledged {
			require.True(t, have[id], "round %d: the acknowledged mark %s is gone", round, id)
		}
		if s.run(); done != "" {
			require.NoError(t, os.WriteFile(done, []byte(strconv.Itoa(round+1)), 0o644))
		}
	}
	s.stop()
	require.GreaterOrEqual(t, fresh, rounds-begin)
	t.Logf("%d marks acknowledged over %d kills, none lost", fresh, rounds-begin)
	if done != "" {
		require.NoError(t, os.Remove(done))
	}
}
