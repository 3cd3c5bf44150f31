package store

import (
	"context"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
)

// Officer is someone who examines here. A grading names examiners by name; who has an officer's name
// is held to what stands here.
type Officer struct {
	ID, Name string
	Holds    map[string]string // program → the highest rung held
	Family   []string          // students of their family
}

func bindOfficer(o *Officer) []any {
	return []any{&o.ID, &o.Name, asJSON{&o.Holds}, asJSON{&o.Family}}
}

// Officers are all who examine here, by name.
func (s *Store) Officers(ctx context.Context) ([]Officer, error) { return officers(ctx, s.r) }

func officers(ctx context.Context, q querier) ([]Officer, error) {
	return list(ctx, q, bindOfficer, `SELECT id, name, holds, family FROM officer WHERE deleted_at IS NULL ORDER BY name_key`)
}

// SaveOfficer adds an examiner when the ID is empty, else changes one.
func (s *Store) SaveOfficer(ctx context.Context, by By, o Officer) (Done, error) {
	o.Name = check.Tidy(o.Name)
	var p check.Problems
	if p.Name("name", o.Name); len(p) > 0 {
		return Done{}, p
	}
	for program, rung := range o.Holds {
		if rung == "" {
			delete(o.Holds, program)
		}
	}
	if o.Holds == nil {
		o.Holds = map[string]string{}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		wrong, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT (SELECT count(*) FROM json_each(?1) j WHERE NOT EXISTS (SELECT 1 FROM rung r WHERE r.id = j.value AND r.program_id = j.key AND r.deleted_at IS NULL)) +
			(SELECT count(*) FROM json_each(?2) j WHERE NOT EXISTS (SELECT 1 FROM student s WHERE s.id = j.value AND s.deleted_at IS NULL))`, toJSON(o.Holds), toJSON(o.Family))
		if err != nil {
			return "", office.Deed{}, err
		}
		if wrong > 0 {
			return "", office.Deed{}, check.Problems{{Field: "holds", Text: "a rung or a student is not on record any more; choose again"}}
		}
		kind, query := office.ExaminerChanged, `UPDATE officer SET name = ?, name_key = ?, holds = ?, family = ? WHERE id = ? AND deleted_at IS NULL`
		if o.ID == "" {
			o.ID, kind, query = NewID(), office.ExaminerAdded, `INSERT INTO officer (name, name_key, holds, family, id) VALUES (?, ?, ?, ?, ?)`
		}
		if err := t.touch(ctx, "officer", o.ID); err != nil {
			return "", office.Deed{}, err
		}
		return o.ID, kind.Of(o.ID), named(t.exec(ctx, query, o.Name, check.Key(o.Name), toJSON(o.Holds), toJSON(o.Family), o.ID), "name", o.Name, "examiner")
	})
}

// DeleteOfficer takes an examiner off the list; gradings keep the name.
func (s *Store) DeleteOfficer(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "officer", id)
}

// UnknownExaminers are the names gradings of the last year and to come give to examiners of whom
// nothing stands here.
func (s *Store) UnknownExaminers(ctx context.Context) ([]string, error) {
	all, err := list(ctx, s.r, func(n *string) []any { return []any{n} }, `SELECT DISTINCT e.name FROM examiner e JOIN panel p ON p.id = e.panel_id JOIN grading g ON g.id = p.grading_id WHERE g.deleted_at IS NULL AND g.on_date >= ? ORDER BY e.name`, s.Today().AddMonths(-12).String())
	if err != nil {
		return nil, err
	}
	known, err := s.Officers(ctx)
	if err != nil {
		return nil, err
	}
	has := map[string]bool{}
	for _, o := range known {
		has[check.Key(o.Name)] = true
	}
	var out []string
	for _, n := range all {
		if !has[check.Key(n)] {
			has[check.Key(n)] = true
			out = append(out, n)
		}
	}
	return out, nil
}
