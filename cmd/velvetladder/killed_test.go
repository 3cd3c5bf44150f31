package main

import (
	"bufio"
	"bytes"
	"context"
	"database/sql"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	_ "github.com/ncruces/go-sqlite3/driver"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/demotest"
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
	assert.Greater(t, kills, 600)
	require.NoError(t, os.Remove(progressFile))
}

// next goes through the first calls one by one and then in growing strides: a database writes its pages in hundreds of equal calls.
func next(n int) int { return n + 1 + n/400 }

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

// TestKilledInTheMiddleOfARequest kills the serving program at the first, second, third … write and flush of a request that changes much:
// students read in on the screen, and results announced. Afterwards all of it is on record or nothing; and the same request sent again to the
// program started anew makes it whole, once.
func TestKilledInTheMiddleOfARequest(t *testing.T) {
	if os.Getenv("VELVETLADDER_LONG") == "" {
		t.Skip("starts and kills the program for minutes; make test-long")
	}
	if _, err := exec.LookPath("strace"); err != nil {
		t.Skip("strace is not installed")
	}
	bin := filepath.Join(t.TempDir(), "velvetladder")
	out, err := exec.Command("go", "build", "-o", bin, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	ctx, whole := context.Background(), demotest.Copy(t)
	count := func(db, query string) (n int) {
		s, err := sql.Open("sqlite3", "file:"+db+"?mode=ro")
		require.NoError(t, err)
		defer s.Close()
		require.NoError(t, s.QueryRow(query).Scan(&n))
		return n
	}
	var csv strings.Builder
	csv.WriteString("name,birth_date,program,rung\n")
	for i := range 60 {
		fmt.Fprintf(&csv, "Quillon Ashdown %d,%s,Karate,White belt\n", i, civil.MustParse("2015-03-01").AddDays(i)) // of one day they might be one person
	}
	grading := ""
	var ready []string
	{
		s, err := store.Open(ctx, whole, func() time.Time { return time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC) })
		require.NoError(t, err)
		all, err := s.Gradings(ctx, "")
		require.NoError(t, err)
		for _, g := range all {
			_, rows, err := s.Review(ctx, g.ID)
			require.NoError(t, err)
			var may []string
			for _, r := range rows {
				if r.Decision != nil && !r.Announced {
					may = append(may, r.ID)
				}
			}
			if len(may) > len(ready) {
				grading, ready = g.ID, may
			}
		}
		require.NoError(t, s.Close())
	}
	require.NotEmpty(t, ready, "the demo has results that wait")
	kills := 0
	for what, x := range map[string]struct {
		path, sum string
		form      url.Values
		added     int
		looked    bool // the path takes a file, which is looked at first
	}{
		"import":   {"/students/import", `SELECT count(*) FROM student WHERE name LIKE 'Quillon Ashdown%'`, url.Values{"text": {csv.String()}, "add": {"1"}}, 60, true},
		"announce": {"/review/" + grading + "/announce", `SELECT count(*) FROM announcement`, url.Values{"candidate": ready}, len(ready), false},
	} {
		before := count(whole, x.sum)
		for _, call := range []string{"pwrite64", "fsync", "fdatasync"} {
			for n := 1; ; n = next(n) {
				db := filepath.Join(t.TempDir(), "school.db")
				copied(t, whole, db)
				x.form.Set("request", store.NewID())
				address, stop := begun(t, bin, db)
				killed := attached(t, stop.Process.Pid, call, n, func() error {
					res, err := posted(address+x.path, x.form, x.looked)
					if err == nil {
						assert.Equal(t, http.StatusOK, res.StatusCode, what)
					}
					return err
				})
				stop.Process.Kill()
				stop.Wait()
				c, err := store.CheckFile(ctx, db)
				require.NoError(t, err, "%s, %s %d: %v", what, call, n, c)
				got := count(db, x.sum) - before
				assert.Contains(t, []int{0, x.added}, got, "%s, %s %d: all or nothing", what, call, n)
				if !killed {
					assert.Equal(t, x.added, got, "%s comes through", what)
					break
				}
				kills++
				address, stop = begun(t, bin, db)
				_, err = posted(address+x.path, x.form, x.looked)
				require.NoError(t, err)
				stop.Process.Kill()
				stop.Wait()
				assert.Equal(t, x.added, count(db, x.sum)-before, "%s, %s %d: sent again it is there once", what, call, n)
			}
		}
	}
	t.Log(kills, "kills in the middle of a request")
	assert.Greater(t, kills, 20)
}

// posted sends a form; one with a file is looked at first, and sent on from the page it led to.
func posted(address string, form url.Values, looked bool) (*http.Response, error) {
	res, err := http.PostForm(address, form)
	if err == nil && looked {
		res.Body.Close()
		res, err = http.PostForm(res.Request.URL.String(), form)
	}
	if err == nil {
		res.Body.Close()
	}
	return res, err
}

// begun starts the program over a school where nobody signs in.
func begun(t *testing.T, bin, db string) (address string, cmd *exec.Cmd) {
	cmd = exec.Command(bin, "demo", "--db", db, "--on", "2026-11-24")
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	return regexp.MustCompile(`http://[^/]+`).FindString(line), cmd
}

// attached has a running program killed at the nth of a system call from now on while it is asked for something, and reports whether it was.
func attached(t *testing.T, pid int, call string, n int, do func() error) bool {
	trace := exec.Command("strace", "-f", "-o", "/dev/null", "-p", fmt.Sprint(pid), "-e", "trace="+call, "-e", fmt.Sprintf("inject=%s:signal=SIGKILL:when=%d", call, n))
	said, err := trace.StderrPipe()
	require.NoError(t, err)
	require.NoError(t, trace.Start())
	_, err = bufio.NewReader(said).ReadString('\n') // it is attached
	require.NoError(t, err)
	err = do()
	if err == nil {
		trace.Process.Signal(syscall.SIGINT) // it lets go
	} else {
		trace.Process.Kill() // it waits for what is dead
	}
	trace.Wait()
	return err != nil
}
