package main

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"velvetladder/internal/golden"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
)

// said is what a running command has printed so far.
type said struct {
	sync.Mutex
	bytes.Buffer
}

func (s *said) Write(p []byte) (int, error) {
	s.Lock()
	defer s.Unlock()
	return s.Buffer.Write(p)
}

func (s *said) String() string {
	s.Lock()
	defer s.Unlock()
	return s.Buffer.String()
}

// served runs a serving command, lets do look at it, and stops it as an operator does.
func served(t *testing.T, do func(address string), args ...string) (out, errs string) {
	t.Helper()
	var o, e said
	ended := make(chan int, 1)
	go func() { ended <- run(args, streams{strings.NewReader(""), &o, &e}) }()
	at := regexp.MustCompile(`https?://[^/]+/`)
	require.Eventually(t, func() bool { return at.MatchString(o.String()) }, 30*time.Second, 5*time.Millisecond, "%s", e.String())
	do(at.FindString(o.String()))
	require.NoError(t, syscall.Kill(os.Getpid(), syscall.SIGTERM))
	select {
	case code := <-ended:
		assert.Equal(t, exitOK, code, e.String())
	case <-time.After(30 * time.Second):
		t.Fatal("it does not stop")
	}
	return o.String(), e.String()
}

func get(t *testing.T, address string) string {
	t.Helper()
	res, err := http.Get(address)
	require.NoError(t, err)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	return fmt.Sprint(res.StatusCode, " ", res.Request.URL.Path, " ", string(text))
}

// TestServing: a new school is served and asks for its owner, keeps backups beside its file
// unless it is told not to, warns where the network can read along, and stops when asked.
func TestServing(t *testing.T) {
	defer func(was time.Duration) { firstBackup = was }(firstBackup)
	firstBackup = 20 * time.Millisecond
	dir := t.TempDir()
	db := filepath.Join(dir, "school.db")
	out, errs := served(t, func(address string) {
		assert.Contains(t, get(t, address), "403 /welcome ", "who has not read the code is not asked to own the school")
		require.Eventually(t, func() bool { all, _ := filepath.Glob(filepath.Join(dir, "backups", "*")); return len(all) > 0 }, 20*time.Second, 10*time.Millisecond, "a backup beside the file")
	}, "serve", "--db", db, "--addr", "127.0.0.1:0")
	assert.Regexp(t, `^Velvet Ladder serves the school at http://127\.0\.0\.1:\d+/welcome\?code=[0-9a-f]{20} \(stop with Ctrl\+C\)\. Nobody owns it yet`, out)
	assert.Contains(t, errs, "stopping")
	assert.NotContains(t, errs, "WARNING")
	assert.NotContains(t, errs, "announced")

	bare := filepath.Join(t.TempDir(), "bare.db")
	_, errs = served(t, func(address string) { get(t, strings.Replace(address, "[::]", "127.0.0.1", 1)) }, "serve", "--db", bare, "--addr", "0.0.0.0:0", "--backups", "off")
	assert.Contains(t, errs, "WARNING: 0.0.0.0:0 can be reached from the network without encryption")
	assert.NoDirExists(t, filepath.Join(filepath.Dir(bare), "backups"))
	out, _ = served(t, func(string) {}, "serve", "--db", bare, "--addr", "127.0.0.1:0", "--backups", "off", "--host", "Ladder.example", "--host", "::1")
	assert.Regexp(t, `at http://ladder\.example:\d+/welcome`, out)
	out, _ = served(t, func(string) {}, "serve", "--db", bare, "--addr", "127.0.0.1:0", "--backups", "off", "--host", "ladder.example", "--proxy", "127.0.0.1")
	assert.Contains(t, out, "at https://ladder.example/welcome")
	elsewhere := filepath.Join(t.TempDir(), "kept")
	served(t, func(string) {
		require.Eventually(t, func() bool { all, _ := filepath.Glob(filepath.Join(elsewhere, "*")); return len(all) > 0 }, 20*time.Second, 10*time.Millisecond)
	}, "serve", "--db", bare, "--addr", "127.0.0.1:0", "--backups", elsewhere)
}

// TestADemoThatIsThereStays: a file that holds a school is served as it is, and nobody signs in.
func TestADemoThatIsThereStays(t *testing.T) {
	db := filepath.Join(t.TempDir(), "kept.db")
	s, err := store.Open(context.Background(), db, time.Now)
	require.NoError(t, err)
	_, err = s.SaveProgram(context.Background(), store.By{Actor: "owner"}, curriculum.Program{Name: "Reed and Weir"})
	require.NoError(t, err)
	require.NoError(t, s.Close())
	out, _ := served(t, func(address string) { assert.Contains(t, get(t, address+"ladder"), "Reed and Weir") }, "demo", "--db", db)
	assert.Contains(t, out, "serves the demo school")
	file := filepath.Join(t.TempDir(), "notes.txt")
	require.NoError(t, os.WriteFile(file, []byte("x"), 0o600))
	assert.ErrorContains(t, fillDemo(context.Background(), filepath.Join(file, "demo.db"), civil.MustParse("2026-11-24")), "not a directory", "what stands in the way is said")
}

// TestADemoOfADay: the clock begins at nine of that day and goes on; another word for a day is refused.
func TestADemoOfADay(t *testing.T) {
	day := civil.MustParse("2027-02-28")
	now := from(day, time.Now().Add(-90*time.Minute))
	assert.Equal(t, day, civil.On(now()))
	assert.Equal(t, "10:30", now().Format("15:04"))
	err := demoCommand{Addr: "127.0.0.1:0", On: "tomorrow"}.Run(streams{})
	assert.ErrorContains(t, err, "--on: ")
}

// TestDueResultsAreLookedFor: trouble with the records is told, the end of the program is not.
func TestDueResultsAreLookedFor(t *testing.T) {
	s, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "school.db"), time.Now)
	require.NoError(t, err)
	look := func(ctx context.Context) string {
		var out said
		announceDue(ctx, s, slog.New(slog.NewTextHandler(&out, nil)))
		return out.String()
	}
	soon, cancel := context.WithTimeout(context.Background(), 300*time.Millisecond)
	defer cancel()
	assert.Empty(t, look(soon), "nothing is due, nothing is said")
	require.NoError(t, s.Close())
	over, stop := context.WithCancel(context.Background())
	stop()
	assert.Empty(t, look(over))
	later, cancel := context.WithTimeout(context.Background(), 300*time.Millisecond)
	defer cancel()
	assert.Contains(t, look(later), "results could not be announced")
}

// TestTheMadeUpSchool: as many people, lines and tables as were asked for.
func TestTheMadeUpSchool(t *testing.T) {
	path := filepath.Join(t.TempDir(), "school.db")
	ctx := context.Background()
	s, id, err := simulateCommand{Rings: 2, Panel: 3, People: 5, Lines: 8}.build(ctx, path)
	require.NoError(t, err)
	defer s.Close()
	g, err := s.Grading(ctx, id)
	require.NoError(t, err)
	var tables []string
	for _, e := range g.Examiners {
		tables = append(tables, fmt.Sprint(e.Name, " ", e.Chief, " ", e.Ring))
	}
	assert.Equal(t, []string{"Examiner A1 true 0", "Examiner A2 false 0", "Examiner A3 false 0", "Examiner B1 true 1", "Examiner B2 false 1", "Examiner B3 false 1"}, tables)
	all, err := s.Candidates(ctx, id)
	require.NoError(t, err)
	var names []string
	for _, c := range all {
		names = append(names, c.Name)
	}
	assert.ElementsMatch(t, []string{"Candidate 001", "Candidate 002", "Candidate 003", "Candidate 004", "Candidate 005"}, names)
	table, err := s.ScoringTable(ctx, g.Examiners[0].ID, all[0].GroupID)
	require.NoError(t, err)
	sections := map[string]int{}
	for _, it := range table.Items {
		sections[it.Section]++
	}
	assert.Len(t, table.Items, 8)
	assert.Len(t, sections, 4, "over four sections")
	n, err := countMarks(path)
	require.NoError(t, err)
	assert.Zero(t, n)
	assert.Positive(t, peakMiB())
}

// TestABareHandler: every request is counted, and an end that comes too early is told.
func TestABareHandler(t *testing.T) {
	out, err := bareHandler(context.Background(), 3, 31)
	require.NoError(t, err)
	assert.Equal(t, 30, out.Requests, "ten of each client")
	assert.Positive(t, out.PerSecond)
	assert.Greater(t, out.P50Millis, 0.001)
	assert.Less(t, out.P99Millis, 30_000.0)
	assert.LessOrEqual(t, out.P50Millis, out.P99Millis)
	over, stop := context.WithCancel(context.Background())
	stop()
	_, err = bareHandler(over, 1, 1)
	assert.ErrorIs(t, err, context.Canceled)
}

// TestBoundsOfCommands: the least and the most that are taken, and one beyond.
func TestBoundsOfCommands(t *testing.T) {
	golden.Alone(t)
	file := curriculumFile(t, 0)
	for group, code := range map[string]int{"0": exitTrouble, "1": exitOK, "50": exitOK, "51": exitTrouble} {
		got, _, errs := call(file, "compile", "-", "--rung", "Orange belt", "--group", group)
		assert.Equal(t, code, got, "%s %s", group, errs)
	}
	bounds := "a made-up school has 1 to 8 rings"
	refused := func(args ...string) bool {
		_, _, errs := call("", append([]string{"simulate", "--most-requests", "1"}, args...)...)
		return strings.Contains(errs, bounds)
	}
	for _, x := range []struct {
		flag, value string
		refused     bool
	}{
		{"--rings", "0", true}, {"--rings", "9", true}, {"--examiners", "0", true}, {"--examiners", "2", true}, {"--examiners", "4", true}, {"--examiners", "7", true}, {"--candidates", "0", true}, {"--candidates", "1001", true}, {"--lines", "0", true}, {"--lines", "201", true},
		{"--rings", "1", false}, {"--candidates", "1", false}, {"--lines", "1", false}, {"--examiners", "1", false}, {"--examiners", "5", false}, {"--rings", "8", false},
	} {
		assert.Equal(t, x.refused, refused(x.flag, x.value), "%s %s", x.flag, x.value)
	}
}

// TestAFullDiskAtTheDoor: who signs in while the disk is full is told so, and comes in once there is room.
func TestAFullDiskAtTheDoor(t *testing.T) {
	small := t.TempDir()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=3m", "tmpfs", small).CombinedOutput(); err != nil {
		t.Skipf("a small disk cannot be made here: %s", out)
	}
	t.Cleanup(func() { exec.Command("umount", small).Run() })
	db, filler := filepath.Join(small, "school.db"), filepath.Join(small, "filler")
	s, err := store.Open(context.Background(), db, time.Now)
	require.NoError(t, err)
	_, err = s.SavePerson(context.Background(), store.By{Actor: "x"}, store.Person{Name: "Rosa", SignIn: "rosa", Role: store.Owner}, "four odd grain sacks", true)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	_, errs := served(t, func(address string) {
		f, err := os.Create(filler)
		require.NoError(t, err)
		for _, piece := range []int{4096, 1} {
			for err == nil {
				_, err = f.Write(make([]byte, piece))
			}
			err = nil
		}
		require.NoError(t, f.Close())
		signIn := func() (int, string) {
			res, err := http.PostForm(address+"sign-in", url.Values{"sign_in": {"rosa"}, "password": {"four odd grain sacks"}})
			require.NoError(t, err)
			defer res.Body.Close()
			text, err := io.ReadAll(res.Body)
			require.NoError(t, err)
			return res.StatusCode, string(text)
		}
		code, text := signIn()
		assert.Equal(t, http.StatusInsufficientStorage, code)
		assert.Contains(t, text, "The disk is full")
		require.NoError(t, os.Remove(filler))
		code, _ = signIn()
		assert.Equal(t, http.StatusOK, code)
	}, "serve", "--db", db, "--addr", "127.0.0.1:0", "--backups", "off")
	assert.NotContains(t, errs, "panic")
}
