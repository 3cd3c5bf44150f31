package store

import (
	"bufio"
	"context"
	"database/sql"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"slices"
	"strings"
	"time"
)

// SchoolFormat and SchoolVersion stand at the head of a school's file.
const (
	SchoolFormat  = "velvetladder/school"
	SchoolVersion = 1
)

// private tables let people in, or are made anew by the others; they stay behind when a school moves. People set new passwords.
var private = []string{"person", "person_password", "sign_in", "second_factor", "recovery_code", "backup_key", "backup_event", "sessions", "join_code", "seat", "request", "goose_db_version", "curriculum_revision"}

// schoolHead is the first line of a school's file.
type schoolHead struct {
	Format  string `json:"format"`
	Version int    `json:"version"`
	Schema  int64  `json:"schema"` // of the records: the number of the newest migration
	At      string `json:"at"`
	School  string `json:"school"`
}

// schoolTable begins the rows of a table.
type schoolTable struct {
	Table   string   `json:"table"`
	Columns []string `json:"columns"`
}

// ExportSchool writes everything on record but what lets people in, as JSON lines: a head, then for each table a
// line that names it and its columns, then a line for each row, an array in the order of the columns. It is one view of the
// records, taken while the school is at work.
func (s *Store) ExportSchool(ctx context.Context, w io.Writer) error {
	tx, err := s.r.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer tx.Rollback()
	out := bufio.NewWriterSize(w, 1<<16)
	enc := json.NewEncoder(out)
	enc.SetEscapeHTML(false)
	head := schoolHead{Format: SchoolFormat, Version: SchoolVersion, At: s.now().UTC().Format(time.RFC3339)}
	if err := tx.QueryRowContext(ctx, `SELECT (SELECT max(version_id) FROM goose_db_version), name FROM school`).Scan(&head.Schema, &head.School); err != nil {
		return err
	}
	if err := enc.Encode(head); err != nil {
		return err
	}
	tables, err := portableTables(ctx, tx)
	if err != nil {
		return err
	}
	for _, t := range tables {
		if err := exportTable(ctx, tx, enc, t); err != nil {
			return fmt.Errorf("%s: %w", t, err)
		}
	}
	return out.Flush()
}

func portableTables(ctx context.Context, q querier) ([]string, error) {
	all, err := list(ctx, q, func(n *string) []any { return []any{n} }, `SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY rowid`)
	return slices.DeleteFunc(all, func(t string) bool { return slices.Contains(private, t) }), err
}

func exportTable(ctx context.Context, tx *sql.Tx, enc *json.Encoder, table string) error {
	// Rows in the order they were made, so that a row stands after those it speaks of.
	order := ""
	var withRowid bool
	if err := tx.QueryRowContext(ctx, `SELECT wr = 0 FROM pragma_table_list WHERE name = ? AND schema = 'main'`, table).Scan(&withRowid); err != nil {
		return err
	}
	if withRowid {
		order = ` ORDER BY rowid`
	}
	rows, err := tx.QueryContext(ctx, `SELECT * FROM "`+table+`"`+order)
	if err != nil {
		return err
	}
	defer rows.Close()
	columns, err := rows.Columns()
	if err != nil {
		return err
	}
	if err := enc.Encode(schoolTable{table, columns}); err != nil {
		return err
	}
	values, into := make([]any, len(columns)), make([]any, len(columns))
	for i := range values {
		into[i] = &values[i]
	}
	for rows.Next() {
		if err := rows.Scan(into...); err != nil {
			return err
		}
		for i, v := range values {
			if blob, is := v.([]byte); is {
				values[i] = map[string]string{"base64": base64.StdEncoding.EncodeToString(blob)}
			}
		}
		if err := enc.Encode(values); err != nil {
			return err
		}
	}
	return rows.Err()
}

// FileError says which line of a school's file is wrong.
type FileError struct {
	Line    int // from 1
	Problem string
}

// Error gives line and problem.
func (e *FileError) Error() string { return fmt.Sprintf("line %d: %s", e.Line, e.Problem) }

// maxLine bounds a line of a school's file: the largest row is a curriculum's version.
const maxLine = 64 << 20

// ImportSchool makes a new database from a school's file. path must not be there yet; whatever goes wrong, nothing
// is left there. Every row is held to the records' own rules.
func ImportSchool(ctx context.Context, path string, r io.Reader, now func() time.Time) (err error) {
	if _, err := os.Stat(path); err == nil {
		return fmt.Errorf("%s is there already; a school is read into a new file", path)
	}
	if info, err := os.Stat(path + "-wal"); err == nil && info.Size() > 0 {
		return fmt.Errorf("%s-wal is what a database left there that is gone; move it elsewhere first", path)
	}
	part := path + partEnd
	if err := discard(part); err != nil {
		return err
	}
	defer func() {
		if err != nil {
			discard(part)
		}
	}()
	lines := bufio.NewScanner(r)
	lines.Buffer(make([]byte, 1<<16), maxLine)
	head, err := readSchoolHead(lines)
	if err != nil {
		return err
	}
	// The rows go in as the school had them that wrote the file, and are brought up to date like any other school's.
	s, err := openAt(ctx, part, now, head.Schema, "")
	if err != nil {
		return err
	}
	if err := errors.Join(s.importSchool(ctx, lines), s.Close()); err != nil {
		return err
	}
	if s, err = openAt(ctx, part, now, newestSchema(), ""); err != nil {
		return err
	}
	if err := errors.Join(s.sound(ctx), s.Close()); err != nil {
		return err
	}
	return take(part, path)
}

// readSchoolHead reads the first line of a school's file.
func readSchoolHead(lines *bufio.Scanner) (head schoolHead, err error) {
	wrong := func(format string, args ...any) error { return &FileError{1, fmt.Sprintf(format, args...)} }
	if !lines.Scan() {
		return head, wrong("the file is empty, or its first line is too long")
	}
	if err := json.Unmarshal(lines.Bytes(), &head); err != nil || head.Format != SchoolFormat {
		return head, wrong("this is not a school's file: the first line must be {\"format\": %q, …}", SchoolFormat)
	}
	if newest := newestSchema(); head.Version != SchoolVersion || head.Schema < 1 || head.Schema > newest {
		return head, wrong("the file is of version %d and schema %d; this program reads version %d and schemas up to %d. Use the program that wrote it, or a newer one", head.Version, head.Schema, SchoolVersion, newest)
	}
	return head, nil
}

// importSchool is long: a file is read line by line, each saying how the next is read.
func (s *Store) importSchool(ctx context.Context, lines *bufio.Scanner) error {
	n := 1
	wrong := func(format string, args ...any) error { return &FileError{n, fmt.Sprintf(format, args...)} }
	next := func() bool { n++; return lines.Scan() }
	tx, err := s.w.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer tx.Rollback()
	if _, err := tx.ExecContext(ctx, `PRAGMA defer_foreign_keys = ON`); err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `DELETE FROM school`); err != nil {
		return err
	}
	tables, err := portableTables(ctx, tx)
	if err != nil {
		return err
	}
	var insert *sql.Stmt
	var table schoolTable
	for next() {
		line := lines.Bytes()
		if len(line) > 0 && line[0] == '{' {
			table = schoolTable{}
			if err := json.Unmarshal(line, &table); err != nil || !slices.Contains(tables, table.Table) {
				return wrong("%.80q names no table of the records", line)
			}
			have, err := list(ctx, tx, func(c *string) []any { return []any{c} }, `SELECT name FROM pragma_table_info(?)`, table.Table)
			if err != nil {
				return err
			}
			for _, c := range table.Columns {
				if !slices.Contains(have, c) {
					return wrong("%s has no column %q", table.Table, c)
				}
			}
			if insert, err = tx.PrepareContext(ctx, `INSERT INTO "`+table.Table+`" ("`+strings.Join(table.Columns, `", "`)+`") VALUES (`+strings.TrimSuffix(strings.Repeat("?, ", len(table.Columns)), ", ")+`)`); err != nil {
				return wrong("%s: %s", table.Table, err)
			}
			continue
		}
		if insert == nil {
			return wrong("a row stands before the line that names its table")
		}
		values, err := readRow(line, len(table.Columns))
		if err != nil {
			return wrong("%s: %s", table.Table, err)
		}
		if _, err := insert.ExecContext(ctx, values...); err != nil {
			return wrong("this row of %s is refused: %s", table.Table, err)
		}
	}
	if err := lines.Err(); err != nil {
		return wrong("%s", err)
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("the file does not hold together: %w", err)
	}
	return nil
}

func readRow(line []byte, columns int) ([]any, error) {
	dec := json.NewDecoder(strings.NewReader(string(line)))
	dec.UseNumber()
	var values []any
	if err := dec.Decode(&values); err != nil {
		return nil, errors.New("this is no row: an array of the columns' values is expected")
	}
	if len(values) != columns {
		return nil, fmt.Errorf("this row has %d values for %d columns", len(values), columns)
	}
	for i, v := range values {
		switch v := v.(type) {
		case json.Number:
			if whole, err := v.Int64(); err == nil {
				values[i] = whole
			} else if values[i], err = v.Float64(); err != nil {
				return nil, err
			}
		case map[string]any:
			text, _ := v["base64"].(string)
			blob, err := base64.StdEncoding.DecodeString(text)
			if err != nil {
				return nil, err
			}
			values[i] = blob
		case []any, bool:
			return nil, fmt.Errorf("value %d is neither text nor number", i+1)
		}
	}
	return values, nil
}
