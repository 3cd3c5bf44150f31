package main

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
)

func TestMovingHouse(t *testing.T) {
	golden.Alone(t)
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	s, err := store.Open(context.Background(), at("school.db"), time.Now)
	require.NoError(t, err)
	_, err = s.NameSchool(context.Background(), store.By{Actor: "owner"}, "Marrowby Mill")
	require.NoError(t, err)
	_, err = s.SaveStudent(context.Background(), store.By{Actor: "owner"}, progress.Student{Name: "Ada Rill", Stance: progress.Orthodox})
	require.NoError(t, err)

	code, out, errs := call("", "backup", at("backup.db"), "--db", at("school.db"))
	require.Equal(t, exitOK, code, errs)
	assert.Contains(t, out, "holds Marrowby Mill: 1 students")
	code, _, errs = call("", "backup", at("backup.db"), "--db", at("school.db"))
	assert.Equal(t, exitTrouble, code)
	assert.Contains(t, errs, "is there already")
	code, _, errs = call("", "backup", "/proc/backup.db", "--db", at("school.db"))
	assert.Equal(t, exitTrouble, code)
	assert.NotEmpty(t, errs)
	code, _, _ = call("", "backup", at("other.db"), "--db", at("none.db"))
	assert.Equal(t, exitTrouble, code)
	assert.NoFileExists(t, at("none.db"), "a mistyped name makes no school")

	code, _, errs = call("", "restore", at("backup.db"), "--db", at("school.db"))
	assert.Equal(t, exitTrouble, code)
	assert.Contains(t, errs, "nothing was replaced")
	require.NoError(t, s.Close())
	code, out, errs = call("", "restore", at("backup.db"), "--db", at("school.db"))
	require.Equal(t, exitOK, code, errs)
	assert.Contains(t, out, "is kept as")

	code, file, errs := call("", "move-out", "--db", at("school.db"))
	require.Equal(t, exitOK, code, errs)
	code, out, errs = call(file, "move-in", "-", "--db", at("moved.db"))
	require.Equal(t, exitOK, code, errs)
	assert.Contains(t, out, "1 students")
	code, _, errs = call(strings.Replace(file, "Ada Rill", "Ada\x00Rill", 1)+"junk", "move-in", "-", "--db", at("worse.db"))
	assert.Equal(t, exitTrouble, code)
	assert.Contains(t, errs, "line ")
	assert.NoFileExists(t, at("worse.db"))

	require.NoError(t, os.WriteFile(at("grading.json"), []byte(`{"format":"velvetladder/grading","version":1,"school":"","id":"","title":"","program":"","on":"","place":"","marking":"","rungs":[],"rings":[],
		"candidates":[{"id":"c","name":"Ada","number":1,"group":"","ring":"","from":"","to":"","outcome":"retest","tally":`+document+`}]}`), 0o600))
	code, out, errs = call("", "grading", at("grading.json"))
	assert.Equal(t, exitRefused, code, errs)
	assert.Contains(t, out, "Ada: the marks come to promote, the file says retest")
	code, _, _ = call(`{}`, "grading", "-")
	assert.Equal(t, exitRefused, code)
}

// TestAnEncryptedBackupIsPutBack: with the passphrase from standard input, and not with another; nothing in the clear is left.
func TestAnEncryptedBackupIsPutBack(t *testing.T) {
	golden.Alone(t)
	ctx, dir := context.Background(), t.TempDir()
	path := filepath.Join(dir, "school.db")
	s, err := store.Open(ctx, path, time.Now)
	require.NoError(t, err)
	by := store.By{Actor: "owner"}
	_, err = s.SealBackups(ctx, by, "geese over the mill")
	require.NoError(t, err)
	k, err := s.KeepBackup(ctx, by, filepath.Join(dir, "backups"))
	require.NoError(t, err)
	require.NoError(t, s.Close())
	backup := filepath.Join(dir, "backups", k.Name)
	for in, says := range map[string]string{"geese\n": "this passphrase does not open it", "": "no passphrase was given", "\n": "no passphrase was given"} {
		code, out, errs := call(in, "restore", backup, "--db", path)
		assert.Equal(t, []any{exitTrouble, ""}, []any{code, out})
		assert.Contains(t, errs, says)
	}
	require.NoError(t, os.Remove(path))
	code, _, errs := call("", "serve", "--db", path, "--addr", "127.0.0.1:0")
	assert.Equal(t, exitTrouble, code)
	assert.Contains(t, errs, k.Name, "where a school was kept none is begun")
	code, out, errs := call("geese over the mill\r\n", "restore", backup, "--db", path)
	require.Equal(t, exitOK, code, errs)
	assert.Contains(t, out, "holds a school without a name now")
	left, err := filepath.Glob(path + "?part*")
	require.NoError(t, err)
	assert.Empty(t, left)
	code, _, errs = call("", "restore", backup, "--db", path, "--passphrase", "geese over the mill", "--key", filepath.Join(dir, "none.age"))
	assert.Equal(t, exitTrouble, code)
	assert.Contains(t, errs, "none.age")
}
