package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
)

// PersonRecord is everything on record about one student, table by table, as columns and values.
type PersonRecord struct {
	Student string                      `json:"student"`
	At      string                      `json:"at"`
	Tables  map[string][]map[string]any `json:"tables"`
}

// personTables say which rows are about a student, ?1.
var personTables = []struct{ table, where string }{
	{"student", `id = ?1`},
	{"enrolment", `student_id = ?1`},
	{"rank_entry", `enrolment_id IN (SELECT id FROM enrolment WHERE student_id = ?1)`},
	{"adaptation", `student_id = ?1`},
	{"attendance_event", `student_id = ?1`},
	{"signoff_event", `enrolment_id IN (SELECT id FROM enrolment WHERE student_id = ?1)`},
	{"stripe_event", `enrolment_id IN (SELECT id FROM enrolment WHERE student_id = ?1)`},
	{"eligibility_event", `enrolment_id IN (SELECT id FROM enrolment WHERE student_id = ?1)`},
	{"taped_event", `student_id = ?1`},
	{"practice_event", `enrolment_id IN (SELECT id FROM enrolment WHERE student_id = ?1)`},
	{"clip_event", `enrolment_id IN (SELECT id FROM enrolment WHERE student_id = ?1)`},
	{"choice_event", `enrolment_id IN (SELECT id FROM enrolment WHERE student_id = ?1)`},
	{"family_link", `student_id = ?1`},
	{"candidate", `enrolment_id IN (SELECT id FROM enrolment WHERE student_id = ?1)`},
	{"mark_event", ofCandidate},
	{"fault_event", ofCandidate},
	{"decision_event", ofCandidate},
	{"announcement", ofCandidate},
	{"referral_event", ofCandidate},
	{"stock_event", ofCandidate},
	{"bout", ofBout},
	{"bout_event", `bout_id IN (SELECT id FROM bout WHERE ` + ofBout + `)`},
	{"withdrawal_event", ofCandidate},
	{"message", `student_id = ?1`},
	{"message_event", `message_id IN (SELECT id FROM message WHERE student_id = ?1)`},
	{"test_line", `sheet_id IN (SELECT t.id FROM test_sheet t JOIN candidate c ON c.id = t.candidate_id JOIN enrolment e ON e.id = c.enrolment_id WHERE e.student_id = ?1)`}, // of a sheet made for them alone
	{"erasure", `student_id = ?1`},
	{"audit", `instr(args, ?1) OR instr(changes, ?1)`},
}

const ofBout = `a IN (SELECT c.id FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id WHERE e.student_id = ?1) OR b IN (SELECT c.id FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id WHERE e.student_id = ?1)`

const ofCandidate = `candidate_id IN (SELECT c.id FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id WHERE e.student_id = ?1)`

// ExportPerson writes everything on record about a student as JSON, for a request to see it.
func (s *Store) ExportPerson(ctx context.Context, student string, w io.Writer) error {
	x, err := one(ctx, s.r, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.id = ?`, student)
	if err != nil {
		return err
	}
	out := PersonRecord{Student: x.Name, At: s.now().UTC().Format("2006-01-02T15:04:05Z"), Tables: map[string][]map[string]any{}}
	for _, t := range personTables {
		rows, err := s.r.QueryContext(ctx, `SELECT * FROM `+t.table+` WHERE `+t.where, student)
		if err != nil {
			return err
		}
		columns, err := rows.Columns()
		if err != nil {
			rows.Close()
			return err
		}
		for rows.Next() {
			values, into := make([]any, len(columns)), make([]any, len(columns))
			for i := range values {
				into[i] = &values[i]
			}
			if err := rows.Scan(into...); err != nil {
				rows.Close()
				return err
			}
			row := map[string]any{}
			for i, c := range columns {
				if c != "digest" { // of a family link: it opens nothing, and says nothing
					row[c] = values[i]
				}
			}
			out.Tables[t.table] = append(out.Tables[t.table], row)
		}
		if err := rows.Err(); err != nil {
			return err
		}
	}
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(out)
}

// erased are the texts about a student that go, by table; figures and dates stay, so that what was counted
// stays counted, but nothing says any more whose they are.
var erased = []struct{ table, set string }{
	{"student", `name = ?2, name_key = ?3, birth_date = NULL, guardian = '', contact = '', height_cm = 0, weight_kg = 0, waist_cm = 0, shoulder_mm = 0, leg_mm = 0, foot_mm = 0, belt_size = '', uniform_size = '', limits = '', stance = '', kit = NULL, papers = '[]', erased_at = ?4, deleted_at = coalesce(deleted_at, ?4)`},
	{"rank_entry", `reason = ''`},
	{"adaptation", `what = json_remove(what, '$.reason')`},
	{"signoff_event", `fault = ''`},
	{"stripe_event", `reason = ''`},
	{"eligibility_event", `reason = CASE WHEN reason = '' THEN '' ELSE 'erased' END, actor = CASE WHEN actor LIKE '% (family)' THEN 'family' ELSE actor END`},
	{"practice_event", `actor = CASE WHEN actor LIKE '% (family)' THEN 'family' ELSE actor END`},
	{"clip_event", `text = 'erased', actor = CASE WHEN actor LIKE '% (family)' THEN 'family' ELSE actor END`},
	{"choice_event", `lines = '[]', actor = CASE WHEN actor LIKE '% (family)' THEN 'family' ELSE actor END`},
	{"candidate", `reason = CASE WHEN reason = '' THEN '' ELSE 'erased' END`},
	{"mark_event", `note = '', ticked = ''`},
	{"fault_event", `text = 'erased'`},
	{"decision_event", `reason = CASE WHEN reason = '' THEN '' ELSE 'erased' END`},
	{"referral_event", `reason = 'erased'`},
	{"withdrawal_event", `reason = CASE WHEN reason = '' THEN '' ELSE 'erased' END`},
	{"bout", `partner = CASE WHEN partner = '' THEN '' ELSE 'erased' END`},
	{"bout_event", `text = ''`},
	{"test_line", `line = json_remove(CASE json_type(line, '$.adapted') WHEN 'text' THEN json_set(line, '$.adapted', 'adapted') ELSE line END, '$.adapted.reason', '$.why')`},
	{"message", `to_name = 'erased', address = '', subject = 'erased', body = 'erased'`},
	{"message_event", `text = ''`},
	{"family_link", `who = '', digest = id, revoked_at = coalesce(revoked_at, ?4)`},
}

// ErasePerson takes away everything that says who a student was: names, of now and before, birth date, guardian, contact, measures,
// health notes, remarks, messages and their answers, and the name where texts about others say it in full. Marks, ranks and attendance stay as
// figures of a former student without name, so that what was counted stays counted. It cannot be undone. The records are
// append-only, which this one deed sets aside, in one transaction that says so on the trail. What the pages of the file still hold goes
// with Rebuild; older backups hold the name until they are gone.
func (s *Store) ErasePerson(ctx context.Context, by By, student, confirm string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		x, err := one(ctx, t, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.id = ? AND s.erased_at IS NULL`, student)
		if err != nil {
			return "", office.Deed{}, err
		}
		if check.Key(confirm) != check.Key(x.Name) {
			return "", office.Deed{}, check.Problems{{Field: "confirm", Text: "is not the name of the student; write it as it stands above. Erasing cannot be undone"}}
		}
		if tied, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id JOIN grading g ON g.id = c.grading_id WHERE e.student_id = ? AND c.withdrawn_at IS NULL AND g.deleted_at IS NULL AND NOT EXISTS (SELECT 1 FROM announcement a WHERE a.candidate_id = c.id)`, student); err != nil || tied > 0 {
			return "", office.Deed{}, orErr(err, refuse("%s is a candidate of a grading whose result is not announced; withdraw them or announce it first.", x.Name))
		}
		name := fmt.Sprintf("Former student %d", x.Number)
		names, err := t.namesEver(ctx, student, x.Name)
		if err != nil {
			return "", office.Deed{}, err
		}
		guards, err := t.lift(ctx)
		if err != nil {
			return "", office.Deed{}, err
		}
		for _, take := range []func() error{
			func() error { return t.eraseTrail(ctx, student, names, name) },
			func() error { return t.eraseRows(ctx, student, name) },
			func() error { return t.eraseMentions(ctx, student, names, name) },
		} {
			if err := take(); err != nil {
				return "", office.Deed{}, err
			}
		}
		for _, sql := range guards {
			if _, err := t.ExecContext(ctx, sql); err != nil {
				return "", office.Deed{}, err
			}
		}
		return student, office.Erased.Of(student), t.stale(ctx, student)
	})
}

// namesEver are the names a student has and had.
func (t *txn) namesEver(ctx context.Context, student, now string) ([]string, error) {
	type both struct{ before, after string }
	all, err := list(ctx, t, func(b *both) []any { return []any{&b.before, &b.after} },
		`SELECT DISTINCT coalesce(c.value ->> '$.before.name', ''), coalesce(c.value ->> '$.after.name', '') FROM audit a, json_each(a.changes) c
		WHERE instr(a.changes, ?1) AND c.value ->> 'table' = 'student' AND c.value ->> 'id' = ?1`, student)
	names := []string{now}
	for _, b := range all {
		for _, n := range []string{b.before, b.after} {
			if n != "" && !slices.Contains(names, n) {
				names = append(names, n)
			}
		}
	}
	return names, err
}

// eraseRows takes the texts out of the rows that are about a student.
func (t *txn) eraseRows(ctx context.Context, student, name string) error {
	where := map[string]string{}
	for _, p := range personTables {
		where[p.table] = p.where
	}
	for _, e := range erased {
		query := `UPDATE ` + e.table + ` SET ` + e.set + ` WHERE ` + where[e.table]
		args := []any{student, name, check.Key(name), t.at} // ?1 to ?4
		for !strings.Contains(query, fmt.Sprint("?", len(args))) {
			args = args[:len(args)-1]
		}
		if _, err := t.ExecContext(ctx, query, args...); err != nil {
			return fmt.Errorf("%s: %w", e.table, err)
		}
	}
	if _, err := t.ExecContext(ctx, `UPDATE enrolment SET ended_on = coalesce(ended_on, ?2) WHERE student_id = ?1`, student, t.s.Today().String()); err != nil {
		return err
	}
	_, err := t.ExecContext(ctx, `UPDATE officer SET family = (SELECT json_group_array(value) FROM json_each(family) WHERE value <> ?1) WHERE instr(family, ?1)`, student)
	return err
}

// eraseTrail takes out of the trail what stood before and after deeds, who did what by a family's link, and what was kept of
// forms to know them again; and the name of deeds from before kinds were kept.
func (t *txn) eraseTrail(ctx context.Context, student string, names []string, name string) error {
	if _, err := t.ExecContext(ctx, `DELETE FROM request WHERE audit IN (SELECT id FROM audit WHERE instr(changes, ?1) OR instr(args, ?1))`, student); err != nil {
		return err
	}
	// A link's deeds are known by their instant: it is that of the entry they made, to the nanosecond.
	if _, err := t.ExecContext(ctx, `UPDATE audit SET actor = 'family' WHERE actor LIKE '% (family)' AND at IN (
		SELECT p.at FROM practice_event p JOIN enrolment e ON e.id = p.enrolment_id WHERE e.student_id = ?1
		UNION ALL SELECT p.at FROM clip_event p JOIN enrolment e ON e.id = p.enrolment_id WHERE e.student_id = ?1
		UNION ALL SELECT p.at FROM eligibility_event p JOIN enrolment e ON e.id = p.enrolment_id WHERE e.student_id = ?1
		UNION ALL SELECT p.at FROM choice_event p JOIN enrolment e ON e.id = p.enrolment_id WHERE e.student_id = ?1)`, student); err != nil {
		return err
	}
	if _, err := t.ExecContext(ctx, `UPDATE audit SET changes = '[]' WHERE instr(changes, ?1)`, student); err != nil {
		return err
	}
	for _, n := range names {
		if _, err := t.ExecContext(ctx, `UPDATE audit SET action = replace(action, ?1, ?2) WHERE kind = '' AND instr(action, ?1)`, n, name); err != nil {
			return err
		}
		if _, err := t.ExecContext(ctx, `UPDATE attendance_event SET visitor = ?2 WHERE visitor = ?1 COLLATE NOCASE`, n, name); err != nil {
			return err
		}
	}
	return nil
}

// Texts in which a name is not looked for: who somebody is, and who did something. An account or an examiner of the same name is told of, and
// stays.
var (
	notSearched = []string{"person", "person_password", "sign_in", "second_factor", "recovery_code", "sessions", "officer", "examiner", "request", "goose_db_version", "sqlite_sequence", "erasure"}
	whoDid      = []string{"id", "actor", "decided_by", "ended_by", "name_key", "at"}
)

// eraseMentions puts another name in the place of a student's, wherever a text says it in full, in whatever letters: in remarks about others, notes, letters to
// others. Where somebody else has the name too, their texts are not touched, and the erasure says so. A name of one word is no
// full name: it may be a word.
func (t *txn) eraseMentions(ctx context.Context, student string, names []string, name string) error {
	keys := []string{}
	for _, n := range names {
		keys = append(keys, check.Key(n))
	}
	others, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT (SELECT count(*) FROM student WHERE id <> ?1 AND erased_at IS NULL AND name_key IN (SELECT value FROM json_each(?2)))
		+ (SELECT count(*) FROM person WHERE lower(name) IN (SELECT value FROM json_each(?2))) + (SELECT count(*) FROM officer WHERE name_key IN (SELECT value FROM json_each(?2)))`, student, toJSON(keys))
	if err != nil {
		return err
	}
	if _, err := t.ExecContext(ctx, `INSERT INTO erasure (student_id, at, actor, namesake) VALUES (?, ?, ?, ?)`, student, t.at, t.by.Actor, min(others, 1)); err != nil || others > 0 {
		return err
	}
	var called []mention
	for _, n := range names {
		if strings.Contains(n, " ") {
			called = append(called, mentionOf(n))
		}
	}
	type column struct{ table, name string }
	all, err := list(ctx, t, func(c *column) []any { return []any{&c.table, &c.name} },
		`SELECT m.name, c.name FROM sqlite_schema m, pragma_table_list l, pragma_table_info(m.name) c WHERE m.type = 'table' AND l.name = m.name AND l.schema = 'main' AND l.wr = 0 AND c.type = 'TEXT' AND c.pk = 0`)
	if err != nil {
		return err
	}
	for _, c := range all {
		if len(called) == 0 || slices.Contains(notSearched, c.table) || slices.Contains(whoDid, c.name) || strings.HasSuffix(c.name, "_id") || strings.HasSuffix(c.name, "_at") || c.table == "student" && c.name == "name" {
			continue
		}
		if err := t.eraseIn(ctx, c.table, c.name, called, name); err != nil {
			return fmt.Errorf("%s.%s: %w", c.table, c.name, err)
		}
	}
	t.wrote[""] = true // nobody can say which: all that is kept in memory is read again
	return nil
}

// eraseIn puts another name in the place of those that the texts of a column say.
func (t *txn) eraseIn(ctx context.Context, table, column string, called []mention, name string) error {
	type text struct {
		row int64
		is  string
	}
	var changed []text
	rows, err := t.Tx.QueryContext(ctx, fmt.Sprintf(`SELECT rowid, %[2]q FROM %[1]q WHERE %[2]q <> ''`, table, column))
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var x text
		if err := rows.Scan(&x.row, asText{&x.is}); err != nil {
			return err
		}
		was := x.is
		for _, m := range called {
			x.is = m.replaced(x.is, name)
		}
		if x.is != was {
			changed = append(changed, x)
		}
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	for _, x := range changed {
		if _, err := t.Tx.ExecContext(ctx, fmt.Sprintf(`UPDATE %q SET %q = ? WHERE rowid = ?`, table, column), x.is, x.row); err != nil {
			return err
		}
	}
	return nil
}

// mention finds a full name in a text, in whatever letters and with whatever space between its words.
type mention struct{ *regexp.Regexp }

func mentionOf(name string) mention {
	spelt := func(name string) string {
		words := strings.Fields(name)
		for i, w := range words {
			words[i] = regexp.QuoteMeta(w)
		}
		return strings.Join(words, `\s+`)
	}
	as := spelt(name)
	if inJSON := strings.Trim(toJSON(name), `"`); inJSON != name { // as it stands in a column of JSON
		as += "|" + spelt(inJSON)
	}
	return mention{regexp.MustCompile(`(?i)` + as)}
}

// replaced is a text with another name wherever this one stands by itself: not within longer words.
func (m mention) replaced(text, name string) string {
	var out strings.Builder
	done := 0
	for _, at := range m.FindAllStringIndex(text, -1) {
		before, _ := utf8.DecodeLastRuneInString(text[:at[0]])
		after, _ := utf8.DecodeRuneInString(text[at[1]:])
		if unicode.IsLetter(before) || unicode.IsLetter(after) {
			continue
		}
		out.WriteString(text[done:at[0]])
		out.WriteString(name)
		done = at[1]
	}
	return out.String() + text[done:]
}

// lift takes the append-only guards off for the rest of the transaction and gives what puts them back.
func (t *txn) lift(ctx context.Context) (guards []string, err error) {
	type trigger struct{ name, sql string }
	all, err := list(ctx, t, func(x *trigger) []any { return []any{&x.name, &x.sql} }, `SELECT name, sql FROM sqlite_schema WHERE type = 'trigger' AND name LIKE '%!_no!_update' ESCAPE '!'`)
	if err != nil {
		return nil, err
	}
	for _, x := range all {
		if _, err := t.ExecContext(ctx, `DROP TRIGGER "`+x.name+`"`); err != nil {
			return nil, err
		}
		guards = append(guards, x.sql)
	}
	return guards, nil
}

// Erasure is a student who was erased.
type Erasure struct {
	Student  string    // what they are called now
	At       time.Time // in the school's zone
	Actor    string    // "" not on record any more
	Namesake bool      // somebody else has the name: where texts of others say it, it stayed
	Rebuilt  time.Time // zero: pages of the file still hold what was erased
}

// Erasures are all, the newest first.
func (s *Store) Erasures(ctx context.Context) ([]Erasure, error) {
	all, err := list(ctx, s.r, func(e *Erasure) []any {
		return []any{&e.Student, asTime{&e.At}, &e.Actor, &e.Namesake, asTime{&e.Rebuilt}}
	},
		`SELECT s.name, e.at, e.actor, e.namesake, e.rebuilt_at FROM erasure e JOIN student s ON s.id = e.student_id ORDER BY e.at DESC`)
	for i := range all {
		all[i].At = all[i].At.In(s.zone)
		if !all[i].Rebuilt.IsZero() {
			all[i].Rebuilt = all[i].Rebuilt.In(s.zone)
		}
	}
	return all, err
}

// ErrTableOpen says that the file is not rebuilt while examiners mark.
var ErrTableOpen = errors.New("a grading is under way")

// ErrRead says that the file's log could not be cut off, because pages were being read all the time.
var ErrRead = errors.New("the file was being read all the time")

// cutTries is how often the log is tried to be cut off, a tenth of a second apart: a page reads for a few milliseconds.
const cutTries = 50

// Rebuild writes all pages of the file anew where somebody was erased since they were written, and cuts its log off: only then
// nothing of them is left in the file. It needs free disk of about twice the file's size for a moment, and nobody can
// write meanwhile; so it waits while examiners mark (ErrTableOpen). Whatever keeps it from being done, it can be called again.
func (s *Store) Rebuild(ctx context.Context) error {
	if err := s.rebuild(ctx); err != nil {
		return orErr(ctx.Err(), err) // the engine says only that it was interrupted
	}
	return nil
}

func (s *Store) rebuild(ctx context.Context) error {
	left, err := one(ctx, s.r, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM erasure WHERE rebuilt_at IS NULL`)
	if err != nil || left == 0 {
		return err
	}
	marking, err := one(ctx, s.r, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM grading g WHERE begun_at IS NOT NULL AND closed_at IS NULL AND deleted_at IS NULL AND on_date >= ?
		AND EXISTS (SELECT 1 FROM candidate c WHERE c.grading_id = g.id AND c.withdrawn_at IS NULL AND NOT EXISTS (SELECT 1 FROM announcement a WHERE a.candidate_id = c.id))`, s.Today().AddDays(-1).String())
	if err != nil {
		return err
	}
	if marking > 0 {
		return ErrTableOpen
	}
	began := s.now().UTC().Format(time.RFC3339Nano)
	if _, err := s.w.ExecContext(ctx, `VACUUM`); err != nil {
		return err
	}
	if err := s.cutLog(ctx); err != nil {
		return err
	}
	_, err = s.w.ExecContext(ctx, `UPDATE erasure SET rebuilt_at = ? WHERE rebuilt_at IS NULL AND at <= ?`, s.now().UTC().Format(time.RFC3339Nano), began)
	return err
}

// cutLog brings the log into the file and cuts it off.
func (s *Store) cutLog(ctx context.Context) error {
	for range cutTries {
		busy, err := one(ctx, s.w, func(b *[3]int) []any { return []any{&b[0], &b[1], &b[2]} }, `PRAGMA wal_checkpoint(TRUNCATE)`)
		if err != nil {
			return err
		}
		if busy[0] == 0 {
			return nil
		}
		select {
		case <-time.After(100 * time.Millisecond):
		case <-ctx.Done():
			return ctx.Err()
		}
	}
	return ErrRead
}
