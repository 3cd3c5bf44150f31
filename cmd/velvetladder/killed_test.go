package main

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
)

// changing are the system calls by which files come to be what they are.
var changing = []string{"openat", "write", "pwrite64", "ftruncate", "fsync", "fdatasync", "rename", "renameat", "linkat", "unlinkat", "close"}

// TestKilledAtEverySystemCall runs the real program's backup, restore and move-in, and kills it at the first, second, third … of each
// system call that changes files, until it comes through. Afterwards the school is the old or the new one, a backup is whole or not there,
// and the same command again does its work. How far it came stands in build/killed, so that a run that was broken off goes on.
func TestKilledAtEverySystemCall(t *testing.T) {
	if os.Getenv("VELVETLADDER_LONG") == "" {
		t.Skip("kills the program a thousand times; make test-long")
	}
	if _, err := exec.LookPath("strace"); err != nil {
		t.Skip("strace is not installed")
	}
	bin := filepath.Join(t.TempDir(), "velvetladder")
	out, err := exec.Command("go", "build", "-o", bin, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	ctx, kept := context.Background(), t.TempDir()
	made := func(path string, students int) {
		s, err := store.Open(ctx, path, time.Now)
		require.NoError(t, err)
		for i := range students {
			_, err := s.SaveStudent(ctx, store.By{Actor: "x"}, progress.Student{Name: fmt.Sprint("Student ", i), Stance: progress.Orthodox})
			require.NoError(t, err)
		}
		require.NoError(t, s.Close())
	}
	old, fresh := filepath.Join(kept, "old.db"), filepath.Join(kept, "new.db")
	made(old, 2)
	made(fresh, 5)
	file := filepath.Join(kept, "school.jsonl")
	text, err := exec.Command(bin, "move-out", "--db", fresh).Output()
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, text, 0o600))

	progressFile := filepath.Join("..", "..", "build", "killed")
	require.NoError(t, os.MkdirAll(filepath.Dir(progressFile), 0o755))
	before, _ := os.ReadFile(progressFile)
	done, kills := map[string]bool{}, 0
	for _, line := range strings.Fields(string(before)) {
		what, n, _ := strings.Cut(line, "=")
		done[what] = true
		k, _ := strconv.Atoi(n)
		kills += k
	}
	for what, args := range map[string][]string{"restore": {"restore", fresh}, "backup": {"backup"}, "move-in": {"move-in", file}} {
		for _, call := range changing {
			if done[what+"/"+call] {
				continue
			}
			own := 0
			for n := 1; ; n = next(n) {
				dir := t.TempDir()
				db := filepath.Join(dir, "school.db")
				target, all := db, append([]string{}, args...)
				switch what {
				case "backup":
					target = filepath.Join(dir, "backup.db")
					all = append(all, target, "--db", db)
					copied(t, old, db)
				case "restore":
					copied(t, old, db)
					all = append(all, "--db", db)
				default:
					all = append(all, "--db", db)
				}
				killed := underStrace(t, bin, call, n, all)
				c, err := store.CheckFile(ctx, target)
				switch {
				case err != nil && what != "restore":
					require.ErrorIs(t, err, os.ErrNotExist, "%s, %s %d", what, call, n)
				default:
					require.NoError(t, err, "%s, %s %d", what, call, n)
					assert.Contains(t, map[string][]int{"restore": {2, 5}, "backup": {2}, "move-in": {5}}[what], c.Students, "%s, %s %d", what, call, n)
				}
				if !killed {
					require.NoError(t, err)
					break
				}
				own++
				if what != "restore" {
					os.Remove(target)
				}
				out, err := exec.Command(bin, all...).CombinedOutput()
				require.NoError(t, err, "%s, %s %d, once more: %s", what, call, n, out)
			}
			kills += own
			f, err := os.OpenFile(progressFile, os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o644)
			require.NoError(t, err)
			fmt.Fprintf(f, "%s/%s=%d\n", what, call, own)
			require.NoError(t, f.Close())
		}
	}
	t.Log(kills, "kills, after each of which the school was whole")
	assert.Greater(t, kills, 300)
	require.NoError(t, os.Remove(progressFile))
}

// next goes through the first calls one by one and then in growing strides: a database writes its pages in hundreds of equal calls.
func next(n int) int { return n + 1 + n/24 }

// underStrace runs the program and has it killed at the nth of a system call, and reports whether it was.
func underStrace(t *testing.T, bin, call string, n int, args []string) bool {
	t.Helper()
	cmd := exec.Command("strace", append([]string{"-f", "-qq", "-o", "/dev/null", "-e", "trace=" + call, "-e", fmt.Sprintf("inject=%s:signal=SIGKILL:when=%d", call, n), bin}, args...)...)
	var said bytes.Buffer
	cmd.Stdout, cmd.Stderr = &said, &said
	err := cmd.Run()
	if err == nil {
		return false
	}
	require.Contains(t, err.Error(), "killed", "%s %d: %s", call, n, said.String())
	return true
}

func copied(t *testing.T, from, to string) {
	data, err := os.ReadFile(from)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(to, data, 0o600))
}
