package store

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"velvetladder/internal/golden"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const passphrase = "geese over the mill pond"

// TestSealedBackups: with a passphrase backups are encrypted, open with it and with no other, also when the school's own file is gone;
// nothing of the school is left in the clear, whenever the program is killed.
func TestSealedBackups(t *testing.T) {
	golden.Alone(t)
	x := newSchool(t)
	_, table := x.begun()
	x.markAll(table, 3)
	dir := filepath.Join(t.TempDir(), "kept")
	clear, err := x.KeepBackup(bg, me, dir)
	require.NoError(t, err)
	assert.False(t, clear.Sealed)
	for bad, says := range map[string]string{"short": "has 5 characters", "password123": "tried first"} {
		_, err = x.SealBackups(bg, me, bad)
		problem(t, err, "password", says)
	}
	_, err = x.SealBackups(bg, me, passphrase)
	require.NoError(t, err)
	require.NoError(t, os.Remove(filepath.Join(dir, clear.Name)))

	inClear := func() (found []string) {
		files, err := filepath.Glob(filepath.Join(dir, "*"))
		require.NoError(t, err)
		for _, f := range files {
			data, err := os.ReadFile(f)
			require.NoError(t, err)
			if bytes.Contains(data, []byte("Ada Rill")) {
				found = append(found, filepath.Base(f))
			}
		}
		return found
	}
	var k Kept
	at := 0
	everyKill(t, func() error {
		at++
		x.now = func() time.Time { return now().Add(time.Duration(at) * time.Minute) }
		k, err = x.KeepBackup(bg, me, dir)
		return err
	}, func(at int, done bool) {
		all, err := Backups(dir, time.UTC)
		require.NoError(t, err)
		for _, b := range all {
			assert.True(t, b.Sealed, "step %d: none counts that is in the clear", at)
			assert.NoError(t, Unseal(filepath.Join(dir, b.Name), "", passphrase, filepath.Join(t.TempDir(), "whole.db")), "step %d: what has its name is whole", at)
		}
		if done {
			assert.Empty(t, inClear(), "what killed programs left is tidied")
		}
	})
	assert.Greater(t, at, 10, "killed at many steps")
	assert.True(t, k.Sealed)
	path := filepath.Join(dir, k.Name)
	opened := filepath.Join(t.TempDir(), "opened.db")
	assert.ErrorIs(t, Unseal(path, "", "geese over the mill", opened), ErrPassphrase)
	assert.ErrorIs(t, Unseal(path, "", "", opened), ErrPassphrase)
	assert.NoFileExists(t, opened)
	require.NoError(t, Unseal(path, "", passphrase, opened))
	c, err := CheckFile(bg, opened)
	require.NoError(t, err)
	assert.Positive(t, c.Marks)

	// A new passphrase is another key: each backup opens with its own.
	_, err = x.SealBackups(bg, me, "another four odd words")
	require.NoError(t, err)
	x.now = func() time.Time { return now().Add(24 * time.Hour) }
	newer, err := x.KeepBackup(bg, me, dir)
	require.NoError(t, err)
	assert.NoError(t, Unseal(path, "", passphrase, opened))
	assert.Error(t, Unseal(filepath.Join(dir, newer.Name), "", passphrase, opened))
	assert.NoError(t, Unseal(filepath.Join(dir, newer.Name), "", "another four odd words", opened))
	bitten, err := os.ReadFile(path)
	require.NoError(t, err)
	bitten[len(bitten)/2] ^= 1
	require.NoError(t, os.WriteFile(path, bitten, 0o600))
	require.NoError(t, os.Remove(opened))
	assert.ErrorIs(t, Unseal(path, "", passphrase, opened), ErrUnsound)
	assert.NoFileExists(t, opened, "half of one is none")
	_, err = x.UnsealBackups(bg, me)
	require.NoError(t, err)
	x.now = func() time.Time { return now().Add(48 * time.Hour) }
	plain, err := x.KeepBackup(bg, me, dir)
	require.NoError(t, err)
	assert.False(t, plain.Sealed)
	alone := filepath.Join(t.TempDir(), newer.Name)
	require.NoError(t, copyFile(filepath.Join(dir, newer.Name), alone))
	assert.ErrorContains(t, Unseal(alone, "", passphrase, opened), "say where the key is")
	var file strings.Builder
	require.NoError(t, x.ExportSchool(bg, &file))
	assert.NotContains(t, file.String(), "AGE ENCRYPTED", "the key does not move house")
}

// TestARehearsal: the newest backup is put aside as a restore would, said what is in it, and nothing of it is left; that it was looked
// through stays on record, and so it is for one that is made.
func TestARehearsal(t *testing.T) {
	golden.Alone(t)
	x := newSchool(t)
	dir := t.TempDir()
	made, rehearsed, err := x.LastLooked(bg)
	require.NoError(t, err)
	assert.Equal(t, []string{"", ""}, []string{made.Name, rehearsed.Name})
	k, err := x.KeepBackup(bg, By{}, dir)
	require.NoError(t, err)
	for range 2 {
		c, err := x.Rehearse(bg, me, dir, k.Name, "")
		require.NoError(t, err)
		assert.Equal(t, 3, c.Students)
		left, err := filepath.Glob(filepath.Join(dir, "*"))
		require.NoError(t, err)
		assert.Equal(t, []string{filepath.Join(dir, k.Name)}, left)
	}
	made, rehearsed, err = x.LastLooked(bg)
	require.NoError(t, err)
	assert.Equal(t, []any{k.Name, "", 3}, []any{made.Name, made.Actor, made.Students})
	assert.Equal(t, []any{k.Name, "tester", 3}, []any{rehearsed.Name, rehearsed.Actor, rehearsed.Students})
	assert.False(t, rehearsed.At.IsZero())
	_, err = x.Rehearse(bg, me, dir, "velvetladder-20200101-000000.db", "")
	assert.ErrorIs(t, err, ErrNotFound)
	require.NoError(t, os.WriteFile(filepath.Join(dir, k.Name), []byte("SQLite format 3\x00 and no more"), 0o600))
	_, err = x.Rehearse(bg, me, dir, k.Name, "")
	assert.ErrorIs(t, err, ErrUnsound)
	_, err = x.SealBackups(bg, me, passphrase)
	require.NoError(t, err)
	x.now = func() time.Time { return now().Add(time.Hour) }
	k, err = x.KeepBackup(bg, By{}, dir)
	require.NoError(t, err)
	_, err = x.Rehearse(bg, me, dir, k.Name, "wrong wrong wrong")
	assert.ErrorIs(t, err, ErrPassphrase)
	c, err := x.Rehearse(bg, me, dir, k.Name, passphrase)
	require.NoError(t, err)
	assert.Equal(t, 3, c.Students)
}
