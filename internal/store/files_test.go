package store

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"velvetladder/internal/golden"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var errKilled = errors.New("the program was killed here")

// killedAt lets a number of steps be taken and none after: as if the program had died there, its own tidying included.
func killedAt(t *testing.T, steps int) {
	between = func(string) error {
		if steps--; steps < 0 {
			return errKilled
		}
		return nil
	}
	t.Cleanup(func() { between = func(string) error { return nil } })
}

// everyKill does something again and again, killed one step later each time, until it is done, and has the rest looked at.
func everyKill(t *testing.T, do func() error, look func(at int, done bool)) {
	for at := 0; ; at++ {
		require.Less(t, at, 100, "it is never done")
		killedAt(t, at)
		err := do()
		between = func(string) error { return nil }
		if err != nil {
			require.ErrorIs(t, err, errKilled, "step %d", at)
		}
		look(at, err == nil)
		if err == nil {
			return
		}
	}
}

// TestARestoreIsNeverHalfDone: killed before any of its steps, the name of the school stands for the old school or the
// new one, whole; and where it is the new one the old one is kept.
func TestARestoreIsNeverHalfDone(t *testing.T) {
	golden.Alone(t)
	x := newSchool(t)
	_, table := x.begun()
	backup := filepath.Join(t.TempDir(), "backup.db")
	require.NoError(t, x.Backup(bg, backup))
	x.markAll(table, 3)
	require.NoError(t, x.Close())
	old, err := CheckFile(bg, x.path)
	require.NoError(t, err)
	require.Positive(t, old.Marks)
	was, err := os.ReadFile(x.path)
	require.NoError(t, err)
	for name, beside := range map[string]string{"a whole school": "", "one that cannot be brought into one file": "what the database left"} {
		dir := t.TempDir()
		path := filepath.Join(dir, "school.db")
		seen := map[int]int{}
		everyKill(t, func() error {
			left, err := filepath.Glob(path + "*")
			require.NoError(t, err)
			for _, f := range left {
				require.NoError(t, os.Remove(f))
			}
			data := was
			if beside != "" {
				data = append(bytes.Clone(was[:16]), "and nothing of a database after its head"...)
				require.NoError(t, os.WriteFile(path+"-wal", []byte(beside), 0o600))
			}
			require.NoError(t, os.WriteFile(path, data, 0o600))
			_, _, err = Restore(bg, backup, path, now())
			return err
		}, func(at int, done bool) {
			found, err := CheckFile(bg, path)
			if beside == "" || done {
				require.NoError(t, err, "%s, step %d", name, at)
			}
			if err == nil {
				seen[found.Marks]++
			}
			kept := path + replacedMark + now().Format(keptTime)
			if found.School != "" && found.Marks == 0 { // the new one
				if beside != "" {
					text, err := os.ReadFile(kept + "-wal")
					require.NoError(t, err, "%s, step %d", name, at)
					assert.Equal(t, beside, string(text))
					assert.NoFileExists(t, path+"-wal", "it is no part of the new one")
					return
				}
				behind, err := CheckFile(bg, kept)
				require.NoError(t, err, "step %d", at)
				assert.Equal(t, old.Marks, behind.Marks)
			}
			traces, err := Traces(path, "")
			require.NoError(t, err)
			assert.Empty(t, traces, "a school is there")
			if done {
				left, err := filepath.Glob(path + partEnd + "*")
				require.NoError(t, err)
				assert.Empty(t, left)
			}
		})
		if beside == "" {
			assert.Greater(t, seen[old.Marks], 5, "killed while the old one was there")
			assert.Greater(t, seen[0], 1, "and when the new one was")
		}
	}
}

// TestWhatIsMadeIsWholeOrNotThere: a backup and a school that is read in, killed before any step; and the next try is not
// troubled by what the one before left.
func TestWhatIsMadeIsWholeOrNotThere(t *testing.T) {
	golden.Alone(t)
	x := newSchool(t)
	var file strings.Builder
	require.NoError(t, x.ExportSchool(bg, &file))
	for name, do := range map[string]func(path string) error{
		"backup":  func(path string) error { return x.Backup(bg, path) },
		"move in": func(path string) error { return ImportSchool(bg, path, strings.NewReader(file.String()), now) },
	} {
		path := filepath.Join(t.TempDir(), "made.db")
		everyKill(t, func() error { return do(path) }, func(at int, done bool) {
			left, globbed := filepath.Glob(path + "*")
			require.NoError(t, globbed)
			_, err := CheckFile(bg, path)
			if !done && errors.Is(err, os.ErrNotExist) {
				return
			}
			require.NoError(t, err, "%s, step %d", name, at)
			if !done { // it has its name, and was not yet told so: the next try begins anew
				require.NoError(t, os.Remove(path))
				return
			}
			assert.Equal(t, []string{path}, left, name)
		})
	}
}

// TestStaleSidesAreNoPartOfARestore: what a killed restore left beside its unfinished file is not read into the next one.
func TestStaleSidesAreNoPartOfARestore(t *testing.T) {
	x := newSchool(t)
	backup := filepath.Join(t.TempDir(), "backup.db")
	require.NoError(t, x.Backup(bg, backup))
	// The wal of a copy that went on and was killed: it fits the backup's pages.
	stale := filepath.Join(t.TempDir(), "stale.db")
	require.NoError(t, copyFile(backup, stale))
	s := open(t, stale)
	for range 20 {
		_, err := s.SaveStudent(bg, me, student("Stale "+NewID()))
		require.NoError(t, err)
	}
	wal, err := os.ReadFile(stale + "-wal")
	require.NoError(t, err)
	require.NotEmpty(t, wal)
	path := filepath.Join(t.TempDir(), "school.db")
	require.NoError(t, os.WriteFile(path+partEnd+"-wal", wal, 0o600))
	require.NoError(t, os.WriteFile(path+"-wal", wal, 0o600))
	_, _, err = Restore(bg, backup, path, now())
	require.NoError(t, err)
	assert.NoFileExists(t, path+"-wal")
	found, err := CheckFile(bg, path)
	require.NoError(t, err)
	assert.Equal(t, 3, found.Students)
}

// TestACopyBeforeTheSchemaChanges: an older school lies beside, as it was, once it was brought up to date; where there is
// no room for that nothing is changed.
func TestACopyBeforeTheSchemaChanges(t *testing.T) {
	path := filepath.Join(t.TempDir(), "school.db")
	text, err := os.ReadFile("testdata/first_climb.db")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path, text, 0o600))
	killedAt(t, 0)
	_, err = Open(bg, path, now)
	require.ErrorIs(t, err, errKilled)
	between = func(string) error { return nil }
	c, err := CheckFile(bg, path)
	require.NoError(t, err)
	assert.EqualValues(t, 1, c.Schema, "nothing was changed")
	open(t, path)
	copied, err := filepath.Glob(path + beforeMark + "*")
	require.NoError(t, err)
	require.Len(t, copied, 1)
	assert.Contains(t, copied[0], ".schema-1-2026")
	was, err := CheckFile(bg, copied[0])
	require.NoError(t, err)
	assert.EqualValues(t, 1, was.Schema)
	assert.Equal(t, c.Students, was.Students)
	open(t, path)
	again, err := filepath.Glob(path + beforeMark + "*")
	require.NoError(t, err)
	assert.Equal(t, copied, again, "one that is up to date is not copied")
}

// TestFullDisksWhereFilesChangeHands: a restore and a school that is read in, on a disk with too little room for them: it is said, the old school is whole and
// nothing is left; a copy before the schema changes that does not fit changes nothing.
func TestFullDisksWhereFilesChangeHands(t *testing.T) {
	x := newSchool(t)
	backup := filepath.Join(t.TempDir(), "backup.db")
	require.NoError(t, x.Backup(bg, backup))
	var file strings.Builder
	require.NoError(t, x.ExportSchool(bg, &file))
	size := func(path string) int {
		info, err := os.Stat(path)
		require.NoError(t, err)
		return int(info.Size())
	}
	first, err := os.ReadFile("testdata/first_climb.db")
	require.NoError(t, err)
	for name, c := range map[string]struct {
		room   int
		before []byte
		do     func(path string) error
	}{
		"restore":    {size(backup) * 3 / 2, nil, func(path string) error { _, _, err := Restore(bg, backup, path, now()); return err }},
		"move in":    {size(backup) / 2, nil, func(path string) error { return ImportSchool(bg, path, strings.NewReader(file.String()), now) }},
		"new schema": {len(first) * 4 / 3, first, func(path string) error { _, err := Open(bg, path, now); return err }},
	} {
		small := t.TempDir()
		if out, err := exec.Command("mount", "-t", "tmpfs", "-o", fmt.Sprintf("size=%d", c.room), "tmpfs", small).CombinedOutput(); err != nil {
			t.Skipf("a small disk cannot be made here: %s", out)
		}
		t.Cleanup(func() { exec.Command("umount", small).Run() })
		path := filepath.Join(small, "school.db")
		was := c.before
		if name == "restore" {
			was, err = os.ReadFile(backup)
			require.NoError(t, err)
		}
		if was != nil {
			require.NoError(t, os.WriteFile(path, was, 0o600))
		}
		err := c.do(path)
		require.Error(t, err, name)
		assert.True(t, Full(err), "%s: %v", name, err)
		left, globbed := filepath.Glob(filepath.Join(small, "*"))
		require.NoError(t, globbed)
		if was == nil {
			assert.Empty(t, left, name)
			continue
		}
		for _, f := range left {
			assert.NotContains(t, f, partEnd, name)
		}
		_, err = CheckFile(bg, path)
		assert.NoError(t, err, "%s: the old school is whole", name)
	}
}
