// Package store keeps the school's records in one SQLite file.
//
// Definitions (programs, rungs, techniques, requirements, students) are rows that may
// change; every change is undoable from the audit trail. What happened (marks, faults,
// signatures, decisions, ranks) is append-only: triggers refuse to change or delete it.
package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"embed"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	mathrand "math/rand/v2"
	"os"
	"regexp"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/ncruces/go-sqlite3"
	_ "github.com/ncruces/go-sqlite3/driver"
	"github.com/pressly/goose/v3"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is the school's records. It is safe for concurrent use.
type Store struct {
	w, r *sql.DB
	dsn  string
	now  func() time.Time
	zone *time.Location
	books
	paces paces
	known known

	ordered sync.Map // group → order
	beside  besideKnown
	markQueue

	last atomic.Int64 // deed on record

	keeping    sync.Mutex    // one automatic backup at a time
	hashes     chan struct{} // a place for each password that may be looked at at once
	nobodyOnce sync.Once
	nobody     string
}

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not on record")
	// ErrConflict: an id that was used before came again with other content.
	ErrConflict = errors.New("this was sent before with other content")
)

// Refused says why the records do not allow something, in words for the person asking.
type Refused struct {
	Reason string
	About  string // id of the student it is about, where it is one's standing; else ""
}

// Error gives the reason.
func (r *Refused) Error() string { return r.Reason }

func refuse(format string, args ...any) error { return &Refused{Reason: fmt.Sprintf(format, args...)} }

// readers is how many connections may read at once: enough for the pages of a small
// school's devices, few enough that their caches stay small.
const readers = 6

// Open opens the file, or makes it, and brings its schema up to date. now is the clock.
// A file that is no Velvet Ladder database, or a newer one, is refused untouched. Before the schema
// of records that are there already changes, they are copied, as they were, beside the file.
func Open(ctx context.Context, path string, now func() time.Time) (*Store, error) {
	return openAt(ctx, path, now, newestSchema(), path+beforeMark)
}

// newestSchema is the number of the newest migration.
func newestSchema() int64 {
	all, _ := migrations.ReadDir("migrations") // they are part of the program
	return int64(len(all))
}

// openAt is Open up to a schema; before is how the names of copies begin, "" makes none.
func openAt(ctx context.Context, path string, now func() time.Time, schema int64, before string) (*Store, error) {
	if err := sniff(path); err != nil {
		return nil, err
	}
	dsn, err := dsnOf(path, "_pragma=busy_timeout(5000)&_pragma=journal_mode(wal)&_pragma=synchronous(full)&_pragma=foreign_keys(on)&_pragma=secure_delete(on)")
	if err != nil {
		return nil, err
	}
	w, err := sql.Open("sqlite3", dsn+"&_txlock=immediate")
	if err != nil {
		return nil, err
	}
	w.SetMaxOpenConns(1)
	s := &Store{w: w, dsn: dsn, now: now, hashes: make(chan struct{}, hashers), books: books{drafts: map[string]draft{}, versions: map[string]*curriculum.Book{}}}
	if err := s.prepare(ctx, schema, before); err != nil {
		w.Close()
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	if s.r, err = sql.Open("sqlite3", dsn+"&_pragma=query_only(on)&_txlock=deferred"); err != nil {
		w.Close()
		return nil, err
	}
	s.r.SetMaxOpenConns(readers)
	s.r.SetMaxIdleConns(readers)
	var zone string
	var last int64
	if err := s.r.QueryRowContext(ctx, `SELECT zone, (SELECT coalesce(max(seq), 0) FROM audit) FROM school`).Scan(&zone, &last); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	s.last.Store(last)
	if s.zone, err = time.LoadLocation(zone); err != nil {
		return nil, errors.Join(fmt.Errorf("the school's time zone: %w", err), s.Close())
	}
	return s, nil
}

// sniff refuses a file that is something else, before the driver could touch it.
func sniff(path string) error {
	f, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	defer f.Close()
	const magic = "SQLite format 3\x00"
	head := make([]byte, len(magic))
	if n, _ := io.ReadFull(f, head); n > 0 && string(head[:n]) != magic {
		return fmt.Errorf("%s is not a database: it does not begin as an SQLite file does", path)
	}
	return nil
}

func (s *Store) prepare(ctx context.Context, schema int64, before string) error {
	var tables, ours int
	if err := s.w.QueryRowContext(ctx, `SELECT count(*), count(*) FILTER (WHERE name = 'goose_db_version') FROM sqlite_schema WHERE type = 'table'`).Scan(&tables, &ours); err != nil {
		return err
	}
	if tables > 0 && ours == 0 {
		return errors.New("this database belongs to another program; nothing was changed")
	}
	// A mark must survive a power cut: every commit waits for the disk.
	var synchronous int
	if err := s.w.QueryRowContext(ctx, `PRAGMA synchronous`).Scan(&synchronous); err != nil || synchronous != 2 {
		return fmt.Errorf("synchronous is %d, not 2 (full): %w", synchronous, err)
	}
	dir, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, s.w, dir)
	if err != nil {
		return err
	}
	current, target, err := provider.GetVersions(ctx)
	if err != nil {
		return err
	}
	if current > target {
		return fmt.Errorf("it was written by a newer version (schema %d; this program knows up to %d)", current, target)
	}
	if current > 0 && current < schema && before != "" {
		copied := fmt.Sprintf("%s%d-%s", before, current, s.now().Format(keptTime))
		if err := s.Backup(ctx, copied); err != nil {
			return fmt.Errorf("its schema is brought up to date only once a copy of it as it is lies beside it; nothing was changed: %w", err)
		}
	}
	_, err = provider.UpTo(ctx, schema)
	return err
}

// Close ends all use of the file.
func (s *Store) Close() error { return errors.Join(s.r.Close(), s.w.Close()) }

// Today is the civil date in the school's zone.
func (s *Store) Today() civil.Date { return civil.On(s.now().In(s.zone)) }

// Now is the instant by the store's clock.
func (s *Store) Now() time.Time { return s.now() }

// NewID makes a permanent random id of 20 characters (80 bits).
func NewID() string {
	b := make([]byte, 10)
	idSource.Lock()
	io.ReadFull(idSource.from, b) // neither source ends or fails
	idSource.Unlock()
	return hex.EncodeToString(b)
}

// idSource is where ids come from: chance, but while a school is made that is to be the same each
// time.
var idSource = struct {
	sync.Mutex
	from io.Reader
}{from: rand.Reader}

// SameIDs makes the ids that are given from now on follow from a seed, until back is called.
// What is secret, such as a link or a code, stays random.
func SameIDs(seed [32]byte) (back func()) {
	idSource.Lock()
	defer idSource.Unlock()
	idSource.from = mathrand.NewChaCha8(seed)
	return func() {
		idSource.Lock()
		defer idSource.Unlock()
		idSource.from = rand.Reader
	}
}

// By says who writes, and with which request. The same Request again, with the same
// Digest, is answered as the first time and writes nothing. An empty Request is never
// remembered.
type By struct {
	Actor, Request, Digest string
	// Record is the id of what a form was made from, and Seen the last deed on record at that time: a change to
	// it is refused as Overtaken where somebody has changed it since. "" asks for no such care. PageOf and DraftOf are what a
	// typed page and a version to be published are made from.
	Record string
	Seen   int64
}

// Overtaken says that somebody changed a record after the form was made that would change it.
type Overtaken struct {
	Actor string
	At    time.Time // in the school's zone
}

// Error says who changed it and when.
func (o *Overtaken) Error() string {
	return fmt.Sprintf("%s changed this on %s at %s, after you had opened it.", o.Actor, civil.On(o.At).Long(), o.At.Format("15:04"))
}

// Seen is the last deed on record, as a form carries it.
func (s *Store) Seen() int64 { return s.last.Load() }

// Done is what a write left behind.
type Done struct {
	ID    string // of the row it made or changed
	Audit string // of the trail's entry, from which it can be undone
}

// txn is one write transaction with the rows of definitions it changes.
type txn struct {
	*sql.Tx
	s      *Store
	by     By
	deed   int64 // place of its entry in the trail
	at     string
	before []change
	undoes string

	staleClimbs   map[string]bool // enrolments to be summed up again
	staleStudents map[string]bool
	wrote         map[string]bool // tables that were written to; "" where nobody can say which

	asked      map[string]bool      // queries that came once
	statements map[string]*sql.Stmt // and those that came again, prepared; they end with the transaction
}

// prepared is a statement that is worth keeping: from its second use in one transaction on.
// nil is none yet.
func (t *txn) prepared(ctx context.Context, query string) (*sql.Stmt, error) {
	if s := t.statements[query]; s != nil {
		return s, nil
	}
	if !t.asked[query] {
		if t.asked == nil {
			t.asked, t.statements = map[string]bool{}, map[string]*sql.Stmt{}
		}
		t.asked[query] = true
		return nil, nil
	}
	s, err := t.PrepareContext(ctx, query)
	t.statements[query] = s
	return s, err
}

// QueryContext is the transaction's, with statements kept.
func (t *txn) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	s, err := t.prepared(ctx, query)
	if err != nil {
		return nil, err
	}
	if s == nil {
		return t.Tx.QueryContext(ctx, query, args...)
	}
	return s.QueryContext(ctx, args...)
}

// written finds the table a statement writes to.
var written = regexp.MustCompile(`^\s*(?:INSERT(?: OR \w+)? INTO|UPDATE|DELETE FROM) "?(\w+)`)

// ExecContext is the transaction's, with statements kept. It notes which table is written to.
func (t *txn) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	table := ""
	if m := written.FindStringSubmatch(query); m != nil {
		table = m[1]
	}
	if t.wrote == nil {
		t.wrote = map[string]bool{}
	}
	t.wrote[table] = true
	s, err := t.prepared(ctx, query)
	if err != nil {
		return nil, err
	}
	if s == nil {
		return t.Tx.ExecContext(ctx, query, args...)
	}
	return s.ExecContext(ctx, args...)
}

// change is a row of a definition before and after, as column → value.
type change struct {
	Table  string         `json:"table"`
	ID     string         `json:"id"`
	Before map[string]any `json:"before"`
	After  map[string]any `json:"after"`
}

// write runs fn in one transaction together with its audit entry and its request id.
// fn returns the id of the row it is about, and the deed.
func (s *Store) write(ctx context.Context, by By, fn func(*txn) (id string, deed office.Deed, err error)) (Done, error) {
	tx, err := s.w.BeginTx(ctx, nil)
	if err != nil {
		return Done{}, err
	}
	defer tx.Rollback()
	t := &txn{Tx: tx, s: s, by: by, at: s.now().UTC().Format(time.RFC3339Nano)}
	if by.Request != "" {
		var done Done
		var digest string
		err := t.QueryRowContext(ctx, `SELECT digest, result, audit FROM request WHERE id = ?`, by.Request).Scan(&digest, &done.ID, &done.Audit)
		if err == nil && digest != by.Digest {
			return Done{}, ErrConflict
		}
		if err == nil {
			return done, nil
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return Done{}, err
		}
	}
	id, deed, err := fn(t)
	if err != nil {
		return Done{}, err
	}
	if err := t.sumUp(ctx); err != nil {
		return Done{}, err
	}
	done := Done{ID: id}
	if deed.Kind != "" { // what is kept as an entry of its own, with who and when, needs no line besides
		done.Audit = NewID()
		if err := t.audit(ctx, done.Audit, deed); err != nil {
			return Done{}, err
		}
	}
	if by.Request != "" {
		if _, err := t.ExecContext(ctx, `INSERT INTO request (id, digest, result, audit, at) VALUES (?, ?, ?, ?, ?)`, by.Request, by.Digest, done.ID, done.Audit, t.at); err != nil {
			return Done{}, err
		}
	}
	if err := tx.Commit(); err != nil {
		return done, err
	}
	for last := s.last.Load(); t.deed > last && !s.last.CompareAndSwap(last, t.deed); {
		last = s.last.Load()
	}
	s.known.forget(t.wrote, t.staleClimbs)
	return done, nil
}

func (t *txn) audit(ctx context.Context, id string, deed office.Deed) error {
	changes := []change{}
	for _, c := range t.before {
		after, err := t.row(ctx, c.Table, c.ID)
		if err != nil {
			return err
		}
		c.After = after
		changes = append(changes, c)
	}
	text, err := json.Marshal(changes)
	if err != nil {
		return err
	}
	res, err := t.ExecContext(ctx, `INSERT INTO audit (id, at, actor, action, kind, args, changes, undoes) VALUES (?, ?, ?, '', ?, ?, ?, nullif(?, ''))`,
		id, t.at, t.by.Actor, deed.Kind, toJSON(deed), string(text), t.undoes)
	if err == nil {
		t.deed, err = res.LastInsertId()
	}
	return err
}

// PageOf is the By.Record of a page that is typed for a rung: somebody else may have typed the same.
func PageOf(rung string) string { return "page:" + rung }

// DraftOf is the By.Record of a version that is published from a program's draft: of what was looked at.
func DraftOf(program string) string { return "draft:" + program }

// asSeen refuses a page or a version where somebody has changed what it was made from.
func (t *txn) asSeen(ctx context.Context) error {
	about := `c.value ->> 'table' = 'requirement' AND coalesce(c.value ->> '$.after.rung_id', c.value ->> '$.before.rung_id') = ?2`
	of, asked := strings.CutPrefix(t.by.Record, PageOf(""))
	if !asked {
		if of, asked = strings.CutPrefix(t.by.Record, DraftOf("")); !asked {
			return nil
		}
		about = `c.value ->> 'table' IN ('rung', 'technique', 'section', 'requirement') AND ?2 = coalesce(c.value ->> '$.after.program_id', c.value ->> '$.before.program_id',
			(SELECT g.program_id FROM rung g WHERE g.id = coalesce(c.value ->> '$.after.rung_id', c.value ->> '$.before.rung_id')))`
	}
	all, err := list(ctx, t, func(o *Overtaken) []any { return []any{&o.Actor, asTime{&o.At}} },
		`SELECT a.actor, a.at FROM audit a WHERE a.seq > ?1 AND EXISTS (SELECT 1 FROM json_each(a.changes) c WHERE `+about+`) ORDER BY a.seq DESC LIMIT 1`, t.by.Seen, of)
	if err != nil || len(all) == 0 {
		return err
	}
	all[0].At = all[0].At.In(t.s.zone)
	return &all[0]
}

// touch remembers a row of a definition as it is before it changes.
func (t *txn) touch(ctx context.Context, table string, ids ...string) error {
	for _, id := range ids {
		row, err := t.row(ctx, table, id)
		if err != nil {
			return err
		}
		if t.by.Record == id && row["deleted_at"] != nil { // there is nothing left to merge with
			return ErrNotFound
		}
		if err := t.overtaken(ctx, table, id); err != nil {
			return err
		}
		t.before = append(t.before, change{Table: table, ID: id, Before: row})
	}
	return nil
}

// overtaken refuses to change what a form was made from where somebody changed it since.
func (t *txn) overtaken(ctx context.Context, table, id string) error {
	if t.by.Record == "" || t.by.Record != id {
		return nil
	}
	all, err := list(ctx, t, func(o *Overtaken) []any { return []any{&o.Actor, asTime{&o.At}} },
		`SELECT actor, at FROM audit WHERE seq > ?1 AND (args ->> 'record' = ?3
		OR EXISTS (SELECT 1 FROM json_each(changes) c WHERE c.value ->> 'table' = ?2 AND c.value ->> 'id' = ?3)) ORDER BY seq DESC LIMIT 1`, t.by.Seen, table, id)
	if err != nil || len(all) == 0 {
		return err
	}
	all[0].At = all[0].At.In(t.s.zone)
	return &all[0]
}

// row reads a row as column → value; nil where there is none. table is never foreign text.
func (t *txn) row(ctx context.Context, table, id string) (map[string]any, error) {
	rows, err := t.QueryContext(ctx, `SELECT * FROM `+table+` WHERE id = ?`, id)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	if !rows.Next() {
		return nil, rows.Err()
	}
	columns, err := rows.Columns()
	if err != nil {
		return nil, err
	}
	values, into := make([]any, len(columns)), make([]any, len(columns))
	for i := range values {
		into[i] = &values[i]
	}
	if err := rows.Scan(into...); err != nil {
		return nil, err
	}
	out := map[string]any{}
	for i, c := range columns {
		out[c] = values[i]
	}
	return out, rows.Err()
}

// exec runs one statement and expects it to touch a row.
func (t *txn) exec(ctx context.Context, query string, args ...any) error {
	res, err := t.ExecContext(ctx, query, args...)
	if err != nil {
		return err
	}
	if n, err := res.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, ErrNotFound)
	}
	return nil
}

// named turns a broken uniqueness of names into a problem of the name field.
func named(err error, field, name, where string) error {
	if errors.Is(err, sqlite3.CONSTRAINT_UNIQUE) {
		return check.Problems{{Field: field, Text: fmt.Sprintf("%q is already the name of another %s; choose a different one", name, where)}}
	}
	return err
}

// ignoreMissing is an error other than ErrNotFound, nil for that.
func ignoreMissing(err error) error {
	if errors.Is(err, ErrNotFound) {
		return nil
	}
	return err
}

// querier reads, inside or outside a transaction.
type querier interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
}

// list reads rows into values; bind says where the columns go.
func list[T any](ctx context.Context, q querier, bind func(*T) []any, query string, args ...any) ([]T, error) {
	rows, err := q.QueryContext(ctx, query, args...)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []T
	for rows.Next() {
		var v T
		if err := rows.Scan(bind(&v)...); err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, rows.Err()
}

// one is list for a single row; ErrNotFound where there is none.
func one[T any](ctx context.Context, q querier, bind func(*T) []any, query string, args ...any) (T, error) {
	all, err := list(ctx, q, bind, query, args...)
	if err == nil && len(all) == 0 {
		err = ErrNotFound
	}
	if err != nil {
		var none T
		return none, err
	}
	return all[0], nil
}

// asJSON scans a JSON column into v.
type asJSON struct{ v any }

// Scan implements sql.Scanner.
func (j asJSON) Scan(src any) error {
	switch src := src.(type) {
	case nil:
		return nil
	case string:
		return json.Unmarshal([]byte(src), j.v)
	case []byte:
		return json.Unmarshal(src, j.v)
	}
	return fmt.Errorf("%v is a %T, where a text of JSON stands", src, src)
}

// toJSON is v as the text of a JSON column; a nil slice is [].
func toJSON(v any) string {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // our own types always marshal
	}
	if string(text) == "null" {
		return "[]"
	}
	return string(text)
}

// asDate scans a date column; NULL is no date.
type asDate struct{ d *civil.Date }

// Scan implements sql.Scanner.
func (a asDate) Scan(src any) error {
	text, err := textOf(src)
	if text == "" || err != nil {
		*a.d = civil.Date{}
		return err
	}
	*a.d, err = civil.Parse(text)
	return err
}

// textOf is a column of text; NULL is "".
func textOf(src any) (string, error) {
	switch src := src.(type) {
	case nil:
		return "", nil
	case string:
		return src, nil
	}
	return "", fmt.Errorf("%v is a %T, where a text stands", src, src)
}

func dateOrNull(d civil.Date) any {
	if d.IsZero() {
		return nil
	}
	return d.String()
}

// asTime scans an instant.
type asTime struct{ t *time.Time }

// Scan implements sql.Scanner.
func (a asTime) Scan(src any) error {
	text, err := textOf(src)
	if text == "" || err != nil {
		*a.t = time.Time{}
		return err
	}
	*a.t, err = time.Parse(time.RFC3339Nano, text)
	return err
}
