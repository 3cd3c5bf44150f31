// Package demotest gives tests the demo school of one day, on record.
package demotest

import (
	"context"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/onrecord"
)

// On is the day on which the school stands.
var On = civil.MustParse("2026-11-24")

// Now is noon of that day.
func Now() time.Time { return time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC) }

// built is the school's file.
var built = sync.OnceValues(func() ([]byte, error) {
	dir := os.Getenv("VELVETLADDER_SHARED")
	if dir == "" {
		return build()
	}
	return shared(filepath.Join(dir, "demo.db"), build)
})

// Copy is the path of a copy of the school that is the test's own.
func Copy(t *testing.T) string {
	file, err := built()
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "demo.db")
	require.NoError(t, os.WriteFile(path, file, 0o600))
	return path
}

func build() ([]byte, error) {
	dir, err := os.MkdirTemp("", "velvetladder-demo-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	path := filepath.Join(dir, "demo.db")
	if err := onrecord.Build(context.Background(), path, On); err != nil {
		return nil, err
	}
	return os.ReadFile(path)
}

// longest is how long a file that somebody else makes is waited for.
const longest = 4 * time.Minute

// shared is a file that the tests of several packages, each a program of its own, make once: whoever comes first makes
// it, and the others wait.
func shared(path string, make func() ([]byte, error)) ([]byte, error) {
	lock, err := os.OpenFile(path+".lock", os.O_CREATE|os.O_EXCL, 0o600)
	if err == nil {
		defer lock.Close()
		file, err := make()
		if err == nil {
			err = os.WriteFile(path+".part", file, 0o600)
		}
		if err == nil {
			err = os.Rename(path+".part", path)
		}
		return file, err
	}
	if !os.IsExist(err) {
		return nil, err
	}
	for end := time.Now().Add(longest); time.Now().Before(end); time.Sleep(100 * time.Millisecond) {
		file, err := os.ReadFile(path)
		if err == nil || !os.IsNotExist(err) {
			return file, err
		}
	}
	return nil, fmt.Errorf("%s: %w: whoever began to make it did not finish", path, fs.ErrNotExist)
}
