package store

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/ncruces/go-sqlite3"
)

// Files of records change hands in steps, each of which leaves a whole school under the school's name, whatever happens
// between them: what is new is made whole under another name first, and takes its place in one step.

// partEnd is the end of the name of a file that is not whole yet.
const partEnd = ".part"

// sides are what the database keeps beside a file.
var sides = []string{"-wal", "-shm", "-journal"}

// between is asked before every step that changes which files are there. Tests have the program die in it.
var between = func(string) error { return nil }

func rename(from, to string) error {
	if err := between("rename"); err != nil {
		return err
	}
	return os.Rename(from, to)
}

func remove(path string) error {
	if err := between("remove"); err != nil {
		return err
	}
	if err := os.Remove(path); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	return nil
}

// discard takes a file away that is not whole, with what the database kept beside it.
func discard(path string) error {
	errs := []error{remove(path)}
	for _, end := range sides {
		errs = append(errs, remove(path+end))
	}
	return errors.Join(errs...)
}

// take gives a file that is whole its name, and waits until the disk has file and name.
func take(part, path string) error {
	if err := alone(part); err != nil {
		return err
	}
	if err := flush(part); err != nil {
		return err
	}
	for _, end := range sides { // of the file that stood there: no part of the one that comes
		if err := remove(path + end); err != nil {
			return err
		}
	}
	if err := rename(part, path); err != nil {
		return err
	}
	return flushFolder(path)
}

// alone refuses a database whose newest pages still stand beside it: under another name they would be lost.
func alone(path string) error {
	for _, end := range []string{"-wal", "-journal"} {
		if info, err := os.Stat(path + end); err == nil && info.Size() > 0 {
			return fmt.Errorf("%s could not be brought into one file; %s%s still holds a part of it", path, path, end)
		}
	}
	for _, end := range sides {
		if err := remove(path + end); err != nil {
			return err
		}
	}
	return nil
}

// flush waits until a file is on the disk.
func flush(path string) error {
	if err := between("flush"); err != nil {
		return err
	}
	f, err := os.OpenFile(path, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	return errors.Join(f.Sync(), f.Close())
}

// flushFolder waits until the names in a file's folder are on the disk. A system that cannot wait for that is not waited for.
func flushFolder(path string) error {
	if err := between("flush folder"); err != nil {
		return err
	}
	dir, err := os.Open(filepath.Dir(path))
	if err != nil {
		return err
	}
	defer dir.Close()
	if err := dir.Sync(); err != nil && !errors.Is(err, errors.ErrUnsupported) && !errors.Is(err, fs.ErrInvalid) && !errors.Is(err, fs.ErrPermission) {
		return err
	}
	return nil
}

// copyFile copies a file under another name; what it cannot finish it leaves under the name's part.
func copyFile(from, to string) (err error) {
	if err := between("copy"); err != nil {
		return err
	}
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to+partEnd, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	if err := errors.Join(err, out.Sync(), out.Close()); err != nil {
		return errors.Join(err, remove(to+partEnd))
	}
	return rename(to+partEnd, to)
}

// keepAs gives a file a second name that stays when the first is taken by another file.
func keepAs(path, kept string) error {
	if err := between("link"); err != nil {
		return err
	}
	if err := os.Link(path, kept); err == nil {
		return nil
	}
	return copyFile(path, kept) // not every disk gives a file two names
}

// Restore puts a backup in a database's place. The backup is looked through first, and brought to this program's
// schema beside it; what it replaces is kept, and kept says where ("" there was nothing). The school
// must not be served meanwhile: Restore refuses while somebody writes. Wherever it is broken off, the
// school's name stands for the old school or for the new one.
func Restore(ctx context.Context, backup, path string, now time.Time) (kept string, c Contents, err error) {
	if c, err = CheckFile(ctx, backup); err != nil {
		return "", c, err
	}
	part := path + partEnd
	if err := discard(part); err != nil {
		return "", c, err
	}
	defer func() {
		if err != nil {
			discard(part)
		}
	}()
	if err := copyFile(backup, part); err != nil {
		return "", c, err
	}
	s, err := openAt(ctx, part, func() time.Time { return now }, newestSchema(), "")
	if err != nil {
		return "", c, fmt.Errorf("%w: %w", ErrUnsound, err)
	}
	_, err = s.w.ExecContext(ctx, `PRAGMA wal_checkpoint(TRUNCATE)`)
	if err := errors.Join(err, s.Close()); err != nil {
		return "", c, err
	}
	if _, err := os.Stat(path); err == nil {
		if kept, err = setAside(ctx, path, now); err != nil {
			return kept, c, err
		}
	} else if !errors.Is(err, fs.ErrNotExist) {
		return "", c, err
	}
	return kept, c, take(part, path)
}

// setAside keeps what a restore replaces: the file, and where it cannot be brought into one file, what stands beside it.
func setAside(ctx context.Context, path string, now time.Time) (kept string, err error) {
	if err := settle(ctx, path); err != nil {
		return "", err
	}
	first := path + replacedMark + now.Format(keptTime)
	kept = first
	for n := 2; ; n++ { // one of the same second was broken off
		if _, err := os.Lstat(kept); err != nil {
			break
		}
		kept = fmt.Sprint(first, "-", n)
	}
	if err := keepAs(path, kept); err != nil {
		return "", err
	}
	for _, end := range []string{"-wal", "-journal"} {
		if _, err := os.Stat(path + end); err == nil {
			if err := copyFile(path+end, kept+end); err != nil {
				return kept, err
			}
		}
	}
	return kept, flushFolder(path)
}

// Ends of the names of files that are kept beside a school's.
const (
	replacedMark = ".replaced-" // what a restore took the place of
	beforeMark   = ".schema-"   // as it was before its schema was brought up to date
)

// settle refuses while a database is in use, and brings what it wrote into its file. One that cannot be opened is
// what a restore is for.
func settle(ctx context.Context, path string) error {
	db, err := openOnly(path, "_pragma=busy_timeout(200)&_pragma=locking_mode(exclusive)")
	if err != nil {
		return err
	}
	defer db.Close()
	_, err = db.ExecContext(ctx, `BEGIN EXCLUSIVE`)
	if errors.Is(err, sqlite3.BUSY) || errors.Is(err, sqlite3.LOCKED) {
		return fmt.Errorf("%s is in use; stop the program that serves it first", path)
	}
	if err == nil {
		db.ExecContext(ctx, `ROLLBACK`)
	}
	return nil
}

// Traces are the files that say that a school was kept under a name where there is none now: unfinished ones, kept
// ones, and backups in a directory ("" there is none). They are none where a school is there.
func Traces(path, backups string) (found []string, err error) {
	if info, err := os.Stat(path); err == nil && info.Size() > 0 {
		return nil, nil
	}
	dir, base := filepath.Split(path)
	if dir == "" {
		dir = "."
	}
	entries, err := os.ReadDir(dir)
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, err
	}
	for _, e := range entries {
		rest, ours := strings.CutPrefix(e.Name(), base)
		if ours && (slices.Contains(sides, rest) || strings.HasPrefix(rest, partEnd) || strings.HasPrefix(rest, replacedMark) || strings.HasPrefix(rest, beforeMark)) {
			found = append(found, filepath.Join(dir, e.Name()))
		}
	}
	if backups != "" {
		all, err := Backups(backups, time.UTC)
		if err != nil {
			return nil, err
		}
		if len(all) > 0 {
			found = append(found, filepath.Join(backups, all[0].Name))
		}
	}
	return found, nil
}
