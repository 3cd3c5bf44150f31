package main

import (
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
)

// TestStart: without a command the school of this computer is served from its usual place, shown in the browser, on another port where the
// usual one is taken; a second start shows the running one; what a killed one left behind is taken over; nothing is lost.
func TestStart(t *testing.T) {
	golden.Alone(t)
	home := t.TempDir()
	t.Setenv("XDG_CONFIG_HOME", home)
	var shown []string
	was := show
	show = func(address string) error { shown = append(shown, address); return nil }
	t.Cleanup(func() { show = was })
	if l, err := net.Listen("tcp", "127.0.0.1:8484"); err == nil { // or somebody else has it
		defer l.Close()
	}
	folder := filepath.Join(home, "VelvetLadder")
	lock := filepath.Join(folder, "running")
	out, errs := served(t, func(address string) {
		assert.NotContains(t, address, ":8484/")
		assert.Contains(t, get(t, address+"welcome"), "This school has no owner yet")
		text, err := os.ReadFile(lock)
		require.NoError(t, err)
		assert.Equal(t, address, string(text))
		code, out, errs := call("")
		assert.Equal(t, exitOK, code, errs)
		assert.Equal(t, "Your school is open already, at "+address+"\n", out)
		require.Len(t, shown, 2)
		assert.Contains(t, shown[0], address+"welcome?code=")
		assert.Equal(t, address, shown[1])
	})
	for _, said := range []string{"Your school is kept in " + folder, "Nobody owns it yet", "To stop, close it or press Ctrl+C"} {
		assert.Contains(t, out, said)
	}
	assert.NotContains(t, errs, "WARNING")
	assert.FileExists(t, filepath.Join(folder, "school.db"))
	assert.NoFileExists(t, lock, "the place is given back")
	info, err := os.Stat(folder)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o700), info.Mode().Perm(), "others on this computer do not read it")
	// Killed, it left its place behind; nobody answers there.
	require.NoError(t, os.WriteFile(lock, []byte("http://127.0.0.1:1/"), 0o600))
	_, _ = served(t, func(address string) { assert.Contains(t, get(t, address+"welcome"), "This school has no owner yet") }, "start", "--no-browser")
	assert.Len(t, shown, 2, "no browser where none is wanted")
	// Its file is gone, and what lay beside it is there: no empty school is begun.
	require.NoError(t, os.Rename(filepath.Join(folder, "school.db"), filepath.Join(folder, "school.db-wal")))
	code, _, errs := call("", "--no-browser")
	assert.Equal(t, exitTrouble, code)
	assert.Contains(t, errs, "but one was kept there or beside it")
	assert.NoFileExists(t, lock)
}

// TestTakePlace: an empty place is somebody who is about to begin, and is waited for; one that was left empty long ago is taken over.
func TestTakePlace(t *testing.T) {
	lock := filepath.Join(t.TempDir(), "running")
	running, taken, err := takePlace(lock)
	require.NoError(t, err)
	assert.Empty(t, running)
	old := time.Now().Add(-time.Hour)
	require.NoError(t, os.Chtimes(lock, old, old))
	running, again, err := takePlace(lock)
	require.NoError(t, err)
	assert.Empty(t, running)
	again()
	assert.NoFileExists(t, lock)
	taken()
	_, _, err = takePlace(filepath.Join(lock, "no folder", "running"))
	assert.Error(t, err)
	_, out, _ := call("", "--help")
	assert.Contains(t, strings.Join(strings.Fields(out), " "), "Open the school of this computer in the browser")
}
