package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/ncruces/go-sqlite3"
)

// ErrUnsound is wrapped where a file does not hold what it should.
var ErrUnsound = errors.New("the file is damaged or is not a school's")

// ErrNoRoom is wrapped where the disk is full.
var ErrNoRoom = errors.New("the disk is full")

// Full reports whether an error says that there is no room left, or that the disk takes nothing more.
func Full(err error) bool {
	return errors.Is(err, sqlite3.FULL) || errors.Is(err, sqlite3.IOERR_WRITE) || errors.Is(err, ErrNoRoom) || err != nil && (strings.Contains(err.Error(), "no space left") || strings.Contains(err.Error(), "disk is full"))
}

// ReadOnly reports whether an error says that a file or disk cannot be written to.
func ReadOnly(err error) bool {
	return errors.Is(err, sqlite3.READONLY) || errors.Is(err, sqlite3.CANTOPEN) || errors.Is(err, fs.ErrPermission) || err != nil && strings.Contains(err.Error(), "read-only")
}

// Backup writes all records to a new file, while the school is at work: one view of them, that holds every mark
// acknowledged before. The file is opened and looked through before it gets its name; path must not be
// there yet, and whatever goes wrong, nothing is left there.
func (s *Store) Backup(ctx context.Context, path string) error { return backup(ctx, s.dsn, path) }

// BackupFile is Backup of a database by its path. It changes nothing in it, so that it may be served meanwhile by
// another version of the program.
func BackupFile(ctx context.Context, db, path string) error {
	if _, err := os.Stat(db); err != nil {
		return err
	}
	if err := sniff(db); err != nil {
		return err
	}
	dsn, err := dsnOf(db, "_pragma=busy_timeout(5000)")
	if err != nil {
		return err
	}
	return backup(ctx, dsn, path)
}

func backup(ctx context.Context, dsn, path string) (err error) {
	if _, err := os.Stat(path); err == nil {
		return fmt.Errorf("%s is there already; a backup is a new file", path)
	}
	part := path + partEnd
	if err := discard(part); err != nil {
		return err
	}
	defer func() {
		if err != nil {
			discard(part)
			if Full(err) || errors.Is(err, sqlite3.IOERR) && noRoom(ctx, dsn, part) {
				err = fmt.Errorf("%w at %s; nothing was left there: %w", ErrNoRoom, filepath.Dir(path), err)
			}
		}
	}()
	// A connection of its own: VACUUM INTO reads, and writes only the new file.
	own, err := sql.Open("sqlite3", dsn)
	if err != nil {
		return err
	}
	own.SetMaxOpenConns(1)
	defer own.Close()
	if err := between("write"); err != nil {
		return err
	}
	if _, err := own.ExecContext(ctx, `VACUUM INTO ?`, part); err != nil {
		return fmt.Errorf("writing the backup: %w", err)
	}
	if _, err := CheckFile(ctx, part); err != nil {
		return err
	}
	return take(part, path)
}

// noRoom tries whether a file as large as the records fits; the database only says that writing failed.
func noRoom(ctx context.Context, dsn, path string) bool {
	db, err := sql.Open("sqlite3", dsn)
	if err != nil {
		return false
	}
	defer db.Close()
	var size int64
	if err := db.QueryRowContext(ctx, `SELECT page_count * page_size FROM pragma_page_count, pragma_page_size`).Scan(&size); err != nil {
		return false
	}
	defer os.Remove(path)
	f, err := os.Create(path)
	if err != nil {
		return errors.Is(err, syscall.ENOSPC)
	}
	_, err = io.CopyN(f, zeros{}, size)
	return errors.Is(errors.Join(err, f.Close()), syscall.ENOSPC)
}

// dsnOf is how the driver opens a file.
func dsnOf(path, with string) (string, error) {
	abs, err := filepath.Abs(path)
	if err != nil {
		return "", err
	}
	return "file:" + (&url.URL{Path: abs}).EscapedPath() + "?" + with, nil
}

// openOnly opens a file by a single connection, without looking at what it is.
func openOnly(path, with string) (*sql.DB, error) {
	dsn, err := dsnOf(path, with)
	if err != nil {
		return nil, err
	}
	db, err := sql.Open("sqlite3", dsn)
	if err == nil {
		db.SetMaxOpenConns(1)
	}
	return db, err
}

type zeros struct{}

// Read gives zeros without end.
func (zeros) Read(p []byte) (int, error) { clear(p); return len(p), nil }

// Contents is what a database file holds.
type Contents struct {
	School   string
	Schema   int64
	Students int
	Marks    int
	Last     time.Time // the last deed on record; zero: none
}

// CheckFile opens a file without changing it and looks whether it is a whole and sound school. Whatever
// is wrong wraps ErrUnsound.
func CheckFile(ctx context.Context, path string) (c Contents, err error) {
	info, err := os.Stat(path)
	if err != nil {
		return c, err
	}
	if info.Size() == 0 {
		return c, fmt.Errorf("%w: it is empty", ErrUnsound)
	}
	if err := sniff(path); err != nil {
		return c, fmt.Errorf("%w: %w", ErrUnsound, err)
	}
	db, err := openOnly(path, "mode=ro&_pragma=query_only(on)")
	if err != nil {
		return c, err
	}
	defer db.Close()
	found, err := list(ctx, db, func(s *string) []any { return []any{s} }, `PRAGMA integrity_check(5)`)
	if err != nil {
		return c, fmt.Errorf("%w: %w", ErrUnsound, err)
	}
	if len(found) != 1 || found[0] != "ok" {
		return c, fmt.Errorf("%w: %s", ErrUnsound, strings.Join(found, "; "))
	}
	var broken int
	if err := db.QueryRowContext(ctx, `SELECT count(*) FROM pragma_foreign_key_check`).Scan(&broken); err != nil || broken > 0 {
		return c, fmt.Errorf("%w: %d rows speak of others that are not there (%w)", ErrUnsound, broken, orErr(err, errors.New("foreign keys")))
	}
	var last string
	err = db.QueryRowContext(ctx, `SELECT (SELECT max(version_id) FROM goose_db_version), name, (SELECT count(*) FROM student WHERE deleted_at IS NULL), (SELECT count(*) FROM mark_event), coalesce((SELECT max(at) FROM audit), '') FROM school`).Scan(&c.Schema, &c.School, &c.Students, &c.Marks, &last)
	if err != nil {
		return c, fmt.Errorf("%w: %w", ErrUnsound, err)
	}
	if last != "" {
		c.Last, err = time.Parse(time.RFC3339Nano, last)
	}
	return c, err
}

// sound is CheckFile for records that are open.
func (s *Store) sound(ctx context.Context) error {
	var broken int
	if err := s.w.QueryRowContext(ctx, `SELECT count(*) FROM pragma_foreign_key_check`).Scan(&broken); err != nil {
		return err
	}
	if broken > 0 {
		return fmt.Errorf("%w: %d rows speak of others that are not there", ErrUnsound, broken)
	}
	return nil
}
