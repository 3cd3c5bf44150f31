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
