package store

import (
	"context"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

// School is the name over the door.
func (s *Store) School(ctx context.Context) (string, error) {
	return one(ctx, s.r, func(n *string) []any { return []any{n} }, `SELECT name FROM school`)
}

// NameSchool gives the school its name.
func (s *Store) NameSchool(ctx context.Context, by By, name string) (Done, error) {
	name = check.Tidy(name)
	var p check.Problems
	if p.Line("school", name, check.NameLength); len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		return "school", office.SchoolNamed.Named(name), t.exec(ctx, `UPDATE school SET name = ?`, name)
	})
}

func bindProgram(p *curriculum.Program) []any { return []any{&p.ID, &p.Name, &p.SecondLanguage} }

const selectProgram = `SELECT id, name, second_language FROM program WHERE deleted_at IS NULL `

// Programs are all programs in the school's order.
func (s *Store) Programs(ctx context.Context) ([]curriculum.Program, error) {
	return list(ctx, s.r, bindProgram, selectProgram+`ORDER BY position, name_key`)
}

// Program is one program.
func (s *Store) Program(ctx context.Context, id string) (curriculum.Program, error) {
	return one(ctx, s.r, bindProgram, selectProgram+`AND id = ?`, id)
}

// SaveProgram adds a program (with the default sections) when its ID is empty, else changes it.
func (s *Store) SaveProgram(ctx context.Context, by By, p curriculum.Program) (Done, error) {
	p.Name, p.SecondLanguage = check.Tidy(p.Name), check.Tidy(p.SecondLanguage)
	if err := p.Check().Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if p.ID != "" {
			if err := t.touch(ctx, "program", p.ID); err != nil {
				return "", office.Deed{}, err
			}
			err := t.exec(ctx, `UPDATE program SET name = ?, name_key = ?, second_language = ? WHERE id = ? AND deleted_at IS NULL`, p.Name, check.Key(p.Name), p.SecondLanguage, p.ID)
			return p.ID, office.ProgramChanged.Named(p.Name), named(err, "name", p.Name, "program")
		}
		p.ID = NewID()
		if err := t.touch(ctx, "program", p.ID); err != nil {
			return "", office.Deed{}, err
		}
		err := t.exec(ctx, `INSERT INTO program (id, name, name_key, second_language, position) VALUES (?, ?, ?, ?, (SELECT count(*) FROM program))`, p.ID, p.Name, check.Key(p.Name), p.SecondLanguage)
		if err != nil {
			return "", office.Deed{}, named(err, "name", p.Name, "program")
		}
		for i, name := range curriculum.DefaultSections {
			if err := t.exec(ctx, `INSERT INTO section (id, program_id, name, name_key, kind, position) VALUES (?, ?, ?, ?, ?, ?)`, NewID(), p.ID, name, check.Key(name), curriculum.UsualKind(name), i); err != nil {
				return "", office.Deed{}, err
			}
		}
		return p.ID, office.ProgramAdded.Named(p.Name), nil
	})
}

// DeleteProgram takes out a program on whose ladder nobody stands and nothing was graded.
func (s *Store) DeleteProgram(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "program", id)
}

// takeOut marks a row of a definition as deleted unless something refers to it.
func (s *Store) takeOut(ctx context.Context, by By, table, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		row, err := t.row(ctx, table, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		if row == nil || row["deleted_at"] != nil {
			return "", office.Deed{}, ErrNotFound
		}
		if err := mayTakeOut[table](ctx, t, id); err != nil {
			return "", office.Deed{}, err
		}
		if err := t.touch(ctx, table, id); err != nil {
			return "", office.Deed{}, err
		}
		name, _ := row["name"].(string)
		if name == "" {
			name = "a " + table
		}
		deed := office.Deleted.Named(name)
		switch table {
		case "student", "person", "officer":
			deed = office.PersonDeleted.Of(id)
		}
		if table == "person" { // so that letting them in again signs them in nowhere
			if err := t.endSignIns(ctx, id, ""); err != nil {
				return "", office.Deed{}, err
			}
		}
		return id, deed, t.exec(ctx, `UPDATE `+table+` SET deleted_at = ? WHERE id = ?`, t.at, id)
	})
}

// reference is a count of rows that stand in the way and what to call them.
type reference struct{ query, one, many string }

// free refuses when any reference counts rows, and says which.
func (t *txn) free(ctx context.Context, what, id string, refs ...reference) error {
	for _, ref := range refs {
		n, err := one(ctx, t, func(n *int) []any { return []any{n} }, ref.query, id)
		if err != nil {
			return err
		}
		if n == 1 {
			return refuse("This %s cannot be deleted: 1 %s.", what, ref.one)
		}
		if n > 1 {
			return refuse("This %s cannot be deleted: %d %s.", what, n, ref.many)
		}
	}
	return nil
}

func programFree(ctx context.Context, t *txn, id string) error {
	return t.free(ctx, "program", id,
		reference{`SELECT count(*) FROM enrolment WHERE program_id = ?`, "student climbs it", "students climb it"},
		reference{`SELECT count(*) FROM grading WHERE program_id = ? AND deleted_at IS NULL`, "grading belongs to it", "gradings belong to it"},
		reference{`SELECT count(*) FROM rung WHERE program_id = ? AND deleted_at IS NULL`, "rung is on its ladder; delete that first", "rungs are on its ladder; delete them first"})
}

func sectionFree(ctx context.Context, t *txn, id string) error {
	return t.free(ctx, "section", id,
		reference{`SELECT count(*) FROM requirement r JOIN rung g ON g.id = r.rung_id AND g.deleted_at IS NULL WHERE r.section_id = ? AND r.deleted_at IS NULL`, "requirement stands in it", "requirements stand in it"},
		reference{`SELECT count(*) FROM rung WHERE deleted_at IS NULL AND instr(details, '"' || ?1 || '"')`, "rung gives a stripe for it", "rungs give a stripe for it"})
}

func rungFree(ctx context.Context, t *txn, id string) error {
	return t.free(ctx, "rung", id,
		reference{`SELECT count(*) FROM enrolment WHERE rung_id = ?`, "student stands on it", "students stand on it"},
		reference{`SELECT count(DISTINCT enrolment_id) FROM rank_entry WHERE rung_id = ?`, "student's rank history names it", "students' rank histories name it"},
		reference{`SELECT count(*) FROM grading_rung g JOIN grading x ON x.id = g.grading_id AND x.deleted_at IS NULL WHERE g.rung_id = ?`, "grading tests for it", "gradings test for it"},
		reference{`SELECT count(*) FROM technique t WHERE t.deleted_at IS NULL AND instr(t.details, '"' || ?1 || '"')`, "technique has a part that arrives on it", "techniques have parts that arrive on it"},
		reference{`SELECT count(*) FROM requirement r JOIN rung g ON g.id = r.rung_id AND g.deleted_at IS NULL WHERE r.deleted_at IS NULL AND r.rung_id <> ?1 AND instr(r.details, '"' || ?1 || '"')`, "requirement is carried up to it", "requirements are carried up to it"},
		reference{`SELECT count(*) FROM program WHERE deleted_at IS NULL AND json_extract(details, '$.permanent_from') = ?1`, "program names it as the first with permanent grades", ""})
}

// Sections are a program's sections in the school's order.
func (s *Store) Sections(ctx context.Context, program string) ([]curriculum.Section, error) {
	return sections(ctx, s.r, program)
}

func sections(ctx context.Context, q querier, program string) ([]curriculum.Section, error) {
	return list(ctx, q, func(x *curriculum.Section) []any { return []any{&x.ID, &x.ProgramID, &x.Name, &x.Kind, &x.Position} },
		`SELECT id, program_id, name, kind, position FROM section WHERE program_id = ? AND deleted_at IS NULL ORDER BY position, name_key`, program)
}

// SaveSection adds a section at the end when its ID is empty, else changes its name and kind.
func (s *Store) SaveSection(ctx context.Context, by By, x curriculum.Section) (Done, error) {
	x.Name = check.Tidy(x.Name)
	var p check.Problems
	p.Name("name", x.Name)
	if x.Kind != "" {
		check.OneOf(&p, "kind", x.Kind, curriculum.Kinds)
	}
	if len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		deed := office.SectionChanged.Named(x.Name)
		query := `UPDATE section SET name = ?, name_key = ?, kind = ? WHERE id = ? AND deleted_at IS NULL`
		args := []any{x.Name, check.Key(x.Name), x.Kind, x.ID}
		if x.ID == "" {
			x.ID, deed.Kind = NewID(), office.SectionAdded
			query = `INSERT INTO section (name, name_key, kind, id, program_id, position) SELECT ?, ?, ?, ?, p.id, (SELECT coalesce(max(position), -1) + 1 FROM section WHERE program_id = p.id) FROM program p WHERE p.id = ? AND p.deleted_at IS NULL`
			args = []any{x.Name, check.Key(x.Name), x.Kind, x.ID, x.ProgramID}
		}
		if err := t.touch(ctx, "section", x.ID); err != nil {
			return "", office.Deed{}, err
		}
		return x.ID, deed, named(t.exec(ctx, query, args...), "name", x.Name, "section")
	})
}

// DeleteSection takes out a section in which nothing stands.
func (s *Store) DeleteSection(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "section", id)
}

// MoveSection moves a section by places, below 0 is towards the front.
func (s *Store) MoveSection(ctx context.Context, by By, id string, places int) (Done, error) {
	return s.move(ctx, by, "section", id, `SELECT id FROM section WHERE program_id = (SELECT program_id FROM section WHERE id = ?) AND deleted_at IS NULL ORDER BY position, name_key`, places)
}

// move shifts a row among its siblings and numbers them anew.
func (s *Store) move(ctx context.Context, by By, table, id, siblings string, places int) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		ids, err := list(ctx, t, func(x *string) []any { return []any{x} }, siblings, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		from := slices.Index(ids, id)
		if from < 0 {
			return "", office.Deed{}, ErrNotFound
		}
		to := min(max(from+places, 0), len(ids)-1)
		ids = slices.Insert(slices.Delete(ids, from, from+1), to, id)
		return id, office.Moved.Named(table), t.number(ctx, table, 0, ids)
	})
}

// number gives rows the positions first, first+1 … in their order.
func (t *txn) number(ctx context.Context, table string, first int, ids []string) error {
	if len(ids) == 0 {
		return nil
	}
	if err := t.touch(ctx, table, ids...); err != nil {
		return err
	}
	return t.exec(ctx, `UPDATE `+table+` SET position = ?1 + j.key FROM json_each(?2) j WHERE j.value = `+table+`.id`, first, toJSON(ids))
}

// LadderRung is a rung with those who stand on it.
type LadderRung struct {
	curriculum.Rung
	Students int
}

func bindRung(r *curriculum.Rung) []any {
	return []any{&r.ID, &r.ProgramID, &r.Position, &r.Kind, &r.Name, asJSON{&r.Cloth}}
}

const rungColumns = `r.id, r.program_id, r.position, r.kind, r.name, r.cloth`

// Ladder is a program's rungs, lowest first, with the number of students on each.
func (s *Store) Ladder(ctx context.Context, program string) ([]LadderRung, error) {
	return list(ctx, s.r, func(r *LadderRung) []any { return append(bindRung(&r.Rung), &r.Students) },
		// Counting an index and taking off the deleted students, counted once, spares a look at every
		// student; CROSS JOIN holds SQLite to that order. They are few, or a whole file that was undone.
		`WITH gone AS (SELECT e.rung_id, count(*) AS n FROM student s CROSS JOIN enrolment e ON e.student_id = s.id
		 WHERE s.deleted_at IS NOT NULL AND +e.ended_on IS NULL GROUP BY +e.rung_id)
		 SELECT `+rungColumns+`, (SELECT count(*) FROM enrolment e WHERE e.rung_id = r.id AND e.ended_on IS NULL) - coalesce((SELECT n FROM gone WHERE rung_id = r.id), 0)
		 FROM rung r WHERE r.program_id = ? AND r.deleted_at IS NULL ORDER BY r.position, r.name_key`, program)
}

// Rung is one rung that has not been deleted.
func (s *Store) Rung(ctx context.Context, id string) (curriculum.Rung, error) {
	return rung(ctx, s.r, id)
}

func rung(ctx context.Context, q querier, id string) (curriculum.Rung, error) {
	return one(ctx, q, func(r *curriculum.Rung) []any { return append(bindRung(r), asJSON{&r.RungDetails}) }, `SELECT `+rungColumns+`, r.details FROM rung r WHERE r.id = ? AND r.deleted_at IS NULL`, id)
}

// SaveRung adds a rung when its ID is empty, at its Position (the rungs from there on move
// up; a position past the end is the top), else changes everything but its place.
func (s *Store) SaveRung(ctx context.Context, by By, r curriculum.Rung) (Done, error) {
	r.Name = check.Tidy(r.Name)
	if err := r.Check().Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if r.ID != "" {
			if err := t.touch(ctx, "rung", r.ID); err != nil {
				return "", office.Deed{}, err
			}
			err := t.exec(ctx, `UPDATE rung SET kind = ?, name = ?, name_key = ?, cloth = ?, details = ? WHERE id = ? AND deleted_at IS NULL`, r.Kind, r.Name, check.Key(r.Name), toJSON(r.Cloth), toJSON(r.RungDetails), r.ID)
			return r.ID, office.Changed.Named(r.Name), named(err, "name", r.Name, "rung of this ladder")
		}
		above, err := list(ctx, t, func(id *string) []any { return []any{id} },
			`SELECT id FROM rung WHERE program_id = ? AND deleted_at IS NULL ORDER BY position, name_key`, r.ProgramID)
		if err != nil {
			return "", office.Deed{}, err
		}
		r.ID = NewID()
		at := min(max(r.Position, 0), len(above))
		above = above[at:]
		if err := t.touch(ctx, "rung", r.ID); err != nil {
			return "", office.Deed{}, err
		}
		if err := t.number(ctx, "rung", at+1, above); err != nil {
			return "", office.Deed{}, err
		}
		err = t.exec(ctx, `INSERT INTO rung (id, program_id, position, kind, name, name_key, cloth, details) SELECT ?, id, ?, ?, ?, ?, ?, ? FROM program WHERE id = ? AND deleted_at IS NULL`,
			r.ID, at, r.Kind, r.Name, check.Key(r.Name), toJSON(r.Cloth), toJSON(r.RungDetails), r.ProgramID)
		return r.ID, office.Added.Named(r.Name), named(err, "name", r.Name, "rung of this ladder")
	})
}

// DeleteRung takes out a rung to which no student and no grading refers.
func (s *Store) DeleteRung(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "rung", id)
}

// MoveRung moves a rung by places, above 0 is up the ladder.
func (s *Store) MoveRung(ctx context.Context, by By, id string, places int) (Done, error) {
	return s.move(ctx, by, "rung", id, `SELECT id FROM rung WHERE program_id = (SELECT program_id FROM rung WHERE id = ?) AND deleted_at IS NULL ORDER BY position, name_key`, places)
}
