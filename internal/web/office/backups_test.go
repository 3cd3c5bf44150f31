package office_test

import (
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

func TestBackupsOnThePage(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	dir := filepath.Join(t.TempDir(), "backups")
	with := func(dir string) *webtest.Visitor {
		s, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "owner", Role: store.Owner}, Backups: dir})
		require.NoError(t, err)
		return &webtest.Visitor{T: t, H: s}
	}
	v := with(dir)
	assert.Contains(t, v.Do("GET", "/backups", "").Body.String(), "None is there yet")
	w := v.Do("POST", "/backups", "")
	require.Equal(t, http.StatusSeeOther, w.Code)
	made := strings.TrimPrefix(w.Header().Get("Location"), "/backups?made=")
	assert.Contains(t, v.Do("GET", "/backups?made="+made, "").Body.String(), "was made, opened and looked through")
	assert.True(t, strings.HasPrefix(v.Do("GET", "/backups/"+made, "").Body.String(), "SQLite format 3"))
	for _, name := range []string{"school.db", "..%2fschool.db", "velvetladder-20260101-000000.db"} {
		assert.Equal(t, http.StatusNotFound, v.Do("GET", "/backups/"+name, "").Code)
	}
	assert.NotContains(t, v.Do("GET", "/backups", "").Body.String(), "None was made since")
	stale := t.TempDir() // the newest is four days old, and one is dated ahead
	for _, name := range []string{"velvetladder-20300101-030000.db", "velvetladder-20261120-030000.db", "velvetladder-20261119-030000.db"} {
		require.NoError(t, os.WriteFile(filepath.Join(stale, name), nil, 0o600))
	}
	page := webtest.Text(with(stale).Do("GET", "/backups", "").Body.String())
	assert.Contains(t, page, "None was made since Fri 20 Nov 2026.")
	assert.Contains(t, page, "Tue 1 Jan 2030, 03:00 a clock was wrong then")
	assert.Contains(t, h.Visitor().Do("GET", "/backups", "").Body.String(), "No backups are kept here")
	assert.Equal(t, http.StatusConflict, h.Visitor().Do("POST", "/backups", "").Code)
	blocked := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(blocked, nil, 0o600))
	w = with(filepath.Join(blocked, "backups")).Do("POST", "/backups", "")
	assert.Equal(t, http.StatusInsufficientStorage, w.Code)
	assert.Contains(t, webtest.WrongWords(w.Body.String()), "nothing was left of it")
	w = with("/proc").Do("POST", "/backups", "")
	assert.Contains(t, webtest.WrongWords(w.Body.String()), "Nothing can be written at /proc")
}

// TestBackupsThatAreEncrypted: on the page, from the passphrase typed twice to a rehearsal with it; a mistake changes nothing.
func TestBackupsThatAreEncrypted(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	dir := t.TempDir()
	s, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "owner", Role: store.Owner}, Backups: dir})
	require.NoError(t, err)
	v := &webtest.Visitor{T: t, H: s}
	post := func(path string, pairs ...string) (int, string) {
		w := v.Do("POST", path, webtest.Values(pairs...).Encode())
		return w.Code, webtest.Text(w.Body.String())
	}
	code, said := post("/backups/rehearse")
	assert.Equal(t, http.StatusConflict, code)
	assert.Contains(t, said, "There is no backup to rehearse with yet")
	code, said = post("/backups/seal", "password", "geese over the mill", "again", "geese over the hill")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, said, "is not the same")
	code, said = post("/backups/seal", "password", "geese", "again", "geese")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, said, "has 5 characters")
	assert.NotContains(t, v.Do("POST", "/backups/seal", "password=geese+geese&again=x").Body.String(), "geese geese", "no page shows it")
	code, _ = post("/backups/seal", "password", "geese over the mill", "again", "geese over the mill")
	require.Equal(t, http.StatusSeeOther, code)
	code, _ = post("/backups")
	require.Equal(t, http.StatusSeeOther, code)
	page := v.Do("GET", "/backups", "").Body.String()
	webtest.Says(t, page, "◆ Backups are encrypted since 24 Nov 2026")
	webtest.Says(t, page, "velvetladder-20261124-120000.db.age encrypted")
	webtest.Says(t, page, "Looked through last on Tue 24 Nov 2026, 12:00: velvetladder-20261124-120000.db.age holds 2 students")
	webtest.Says(t, page, "It was never rehearsed")
	assert.True(t, strings.HasPrefix(v.Do("GET", "/backups/velvetladder-20261124-120000.db.age", "").Body.String(), "age-encryption.org/v1"))
	code, said = post("/backups/rehearse", "password", "geese over the hill")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, said, "does not open it")
	code, _ = post("/backups/rehearse", "password", "geese over the mill")
	require.Equal(t, http.StatusSeeOther, code)
	webtest.Says(t, v.Do("GET", "/backups", "").Body.String(), "◆ Rehearsed on Tue 24 Nov 2026, 12:00 by owner: velvetladder-20261124-120000.db.age held 2 students")
	require.NoError(t, os.Remove(filepath.Join(dir, "velvetladder-20261124-120000.db.age")))
	code, _ = post("/backups/seal", "do", "clear")
	require.Equal(t, http.StatusSeeOther, code)
	post("/backups")
	require.NoError(t, os.Truncate(filepath.Join(dir, "velvetladder-20261124-120000.db"), 8192))
	code, said = post("/backups/rehearse")
	assert.Equal(t, http.StatusConflict, code)
	assert.Contains(t, said, "could not be put in place")
}
