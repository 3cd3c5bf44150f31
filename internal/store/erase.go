package store

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strings"

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
	{"bout", `a IN (SELECT c.id FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id WHERE e.student_id = ?1) OR b IN (SELECT c.id FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id WHERE e.student_id = ?1)`},
	{"message", `student_id = ?1`},
	{"test_line", `sheet_id IN (SELECT t.id FROM test_sheet t JOIN candidate c ON c.id = t.candidate_id JOIN enrolment e ON e.id = c.enrolment_id WHERE e.student_id = ?1)`}, // of a sheet made for them alone
}

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
	{"student", `name = ?2, name_key = ?3, birth_date = NULL, guardian = '', contact = '', height_cm = 0, weight_kg = 0, waist_cm = 0, belt_size = '', uniform_size = '', limits = '', kit = NULL, papers = '[]', erased_at = ?4, deleted_at = coalesce(deleted_at, ?4)`},
	{"rank_entry", `reason = ''`},
	{"adaptation", `what = json_remove(what, '$.reason')`},
	{"signoff_event", `fault = ''`},
	{"stripe_event", `reason = ''`},
	{"eligibility_event", `reason = CASE WHEN reason = '' THEN '' ELSE 'erased' END`},
	{"clip_event", `text = 'erased'`},
	{"choice_event", `lines = '[]'`},
	{"family_link", `who = '', digest = id, revoked_at = coalesce(revoked_at, ?4)`},
	{"candidate", `reason = CASE WHEN reason = '' THEN '' ELSE 'erased' END`},
	{"mark_event", `note = '', ticked = ''`},
	{"fault_event", `text = 'erased'`},
	{"decision_event", `reason = CASE WHEN reason = '' THEN '' ELSE 'erased' END`},
	{"referral_event", `reason = 'erased'`},
	{"test_line", `line = json_remove(CASE WHEN json_extract(line, '$.adapted') IS NULL THEN line ELSE json_set(line, '$.adapted', 'adapted') END, '$.why')`},
	{"message", `to_name = 'erased', address = '', subject = 'erased', body = 'erased'`},
}

// ErasePerson takes away everything that says who a student was: name, birth date, guardian, contact, measures,
// health notes, remarks and messages. Marks, ranks and attendance stay as figures of a former student without name, so
// that what was counted stays counted. It cannot be undone. The records are append-only, which this one deed sets aside, in
// one transaction that says so on the trail; older backups still hold the name until they are gone.
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
		guards, err := t.lift(ctx)
		if err != nil {
			return "", office.Deed{}, err
		}
		where := map[string]string{}
		for _, p := range personTables {
			where[p.table] = p.where
		}
		for _, e := range erased {
			if _, err := t.ExecContext(ctx, `UPDATE `+e.table+` SET `+e.set+` WHERE (`+where[e.table]+`) AND ?2 || ?3 || ?4 <> ''`, student, name, check.Key(name), t.at); err != nil {
				return "", office.Deed{}, fmt.Errorf("%s: %w", e.table, err)
			}
		}
		if _, err := t.ExecContext(ctx, `UPDATE enrolment SET ended_on = coalesce(ended_on, ?2) WHERE student_id = ?1`, student, s.Today().String()); err != nil {
			return "", office.Deed{}, err
		}
		// What stood before and after deeds; and deeds from before kinds were kept, which name the student.
		if _, err := t.ExecContext(ctx, `UPDATE audit SET changes = '[]', action = replace(action, ?2, ?3) WHERE kind = '' AND instr(action, ?2) OR instr(changes, ?1)`, student, x.Name, name); err != nil {
			return "", office.Deed{}, err
		}
		if _, err := t.ExecContext(ctx, `UPDATE officer SET family = (SELECT json_group_array(value) FROM json_each(family) WHERE value <> ?1) WHERE instr(family, ?1)`, student); err != nil {
			return "", office.Deed{}, err
		}
		for _, sql := range guards {
			if _, err := t.ExecContext(ctx, sql); err != nil {
				return "", office.Deed{}, err
			}
		}
		return student, office.Erased.Of(student), t.stale(ctx, student)
	})
}

// lift takes the append-only guards off for the rest of the transaction and gives what puts them back.
func (t *txn) lift(ctx context.Context) (guards []string, err error) {
	type trigger struct{ name, table, sql string }
	all, err := list(ctx, t, func(x *trigger) []any { return []any{&x.name, &x.table, &x.sql} }, `SELECT name, tbl_name, sql FROM sqlite_schema WHERE type = 'trigger'`)
	if err != nil {
		return nil, err
	}
	for _, x := range all {
		if !strings.HasSuffix(x.name, "_no_update") || !slices.ContainsFunc(erased, func(e struct{ table, set string }) bool { return e.table == x.table }) && x.table != "audit" {
			continue
		}
		if _, err := t.ExecContext(ctx, `DROP TRIGGER "`+x.name+`"`); err != nil {
			return nil, err
		}
		guards = append(guards, x.sql)
	}
	return guards, nil
}
