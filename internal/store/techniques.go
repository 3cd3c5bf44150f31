package store

import (
	"context"
	"fmt"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

const techniqueColumns = `t.id, t.program_id, t.name, t.kind, t.term, t.note, t.aliases, t.checkpoints, t.faults, t.cautions, t.surfaces, t.details`

func bindTechnique(t *curriculum.Technique) []any {
	return []any{&t.ID, &t.ProgramID, &t.Name, &t.Kind, &t.Term, &t.Note, asJSON{&t.Aliases}, asJSON{&t.Checkpoints}, asJSON{&t.Faults}, asJSON{&t.Cautions}, asJSON{&t.Surfaces}, asJSON{&t.TechniqueDetails}}
}

// techniqueValues are the columns that hold what a technique says.
var techniqueValues = []string{"name", "name_key", "kind", "term", "note", "aliases", "checkpoints", "faults", "cautions", "surfaces", "details"}

func valuesOf(x curriculum.Technique) []any {
	return []any{x.Name, check.Key(x.Name), x.Kind, x.Term, x.Note, toJSON(x.Aliases), toJSON(x.Checkpoints), toJSON(x.Faults), toJSON(x.Cautions), toJSON(x.Surfaces), toJSON(x.TechniqueDetails)}
}

// requirementValues are the columns that hold what a requirement says.
var requirementValues = []string{"rung_id", "position", "section_id", "technique_id", "role", "measure", "reps", "seconds", "rounds", "rest", "side_means", "must_pass", "bonus", "weight", "note", "details"}

func valuesOfRequirement(r curriculum.Requirement) []any {
	q := r.Quantity
	return []any{r.RungID, r.Position, r.SectionID, r.TechniqueID, r.Role, q.Measure, q.Reps, q.Seconds, q.Rounds, q.Rest, q.Side, r.MustPass, r.Bonus, r.Weight, r.Note, toJSON(r.RequirementDetails)}
}

// ListedTechnique is a technique with the number of rungs that ask for it.
type ListedTechnique struct {
	curriculum.Technique
	Rungs int
}

// Techniques are a program's techniques by name. kind and text narrow the list; text is
// found in names, terms and aliases.
func (s *Store) Techniques(ctx context.Context, program string, kind curriculum.Kind, text string) ([]ListedTechnique, error) {
	found, err := list(ctx, s.r, func(t *ListedTechnique) []any { return append(bindTechnique(&t.Technique), &t.Rungs) },
		`SELECT `+techniqueColumns+`, (SELECT count(DISTINCT r.rung_id) FROM requirement r JOIN rung g ON g.id = r.rung_id AND g.deleted_at IS NULL WHERE r.technique_id = t.id AND r.deleted_at IS NULL)
		 FROM technique t WHERE t.program_id = ? AND t.deleted_at IS NULL AND (? = '' OR t.kind = ?)
		 AND (? = '' OR instr(t.name_key, ?) OR instr(lower(t.term), ?) OR instr(lower(t.aliases), ?)) ORDER BY t.name_key`,
		program, kind, kind, check.Key(text), check.Key(text), check.Key(text), check.Key(text))
	slices.SortStableFunc(found, func(x, y ListedTechnique) int { return check.Natural(x.Name, y.Name) })
	return found, err
}

// Technique is one technique that has not been deleted.
func (s *Store) Technique(ctx context.Context, id string) (curriculum.Technique, error) {
	return one(ctx, s.r, bindTechnique, `SELECT `+techniqueColumns+` FROM technique t WHERE t.id = ? AND t.deleted_at IS NULL`, id)
}

// SaveTechnique adds a technique when its ID is empty, else changes it.
func (s *Store) SaveTechnique(ctx context.Context, by By, x curriculum.Technique) (Done, error) {
	x.Name, x.Term, x.Note = check.Tidy(x.Name), check.Tidy(x.Term), check.Tidy(x.Note)
	if err := x.Check().Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		deed := office.Changed.Named(x.Name)
		added := x.ID == ""
		if added {
			x.ID, deed.Kind = NewID(), office.Added
		} else {
			program, err := one(ctx, t, func(id *string) []any { return []any{id} }, `SELECT program_id FROM technique WHERE id = ? AND deleted_at IS NULL`, x.ID)
			if err != nil {
				return "", office.Deed{}, err
			}
			x.ProgramID = program
		}
		b, err := t.book(ctx, x.ProgramID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if added {
			b.Number(&x)
		}
		if err := t.ownNames(ctx, x); err != nil {
			return "", office.Deed{}, err
		}
		if err := b.CheckTechnique(x).Err(); err != nil {
			return "", office.Deed{}, err
		}
		// Lines of moves that name it by what it was called follow its new name.
		for _, y := range append(b.Renamed(x), x) {
			if err := t.putTechnique(ctx, y); err != nil {
				return "", office.Deed{}, err
			}
		}
		return x.ID, deed, nil
	})
}

// putTechnique adds or changes a technique's row.
func (t *txn) putTechnique(ctx context.Context, x curriculum.Technique) error {
	if err := t.touch(ctx, "technique", x.ID); err != nil {
		return err
	}
	err := t.exec(ctx, `INSERT INTO technique (id, program_id, name, name_key, kind, term, note, aliases, checkpoints, faults, cautions, surfaces, details) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (id) DO UPDATE SET name = excluded.name, name_key = excluded.name_key, kind = excluded.kind, term = excluded.term, note = excluded.note, aliases = excluded.aliases,
		checkpoints = excluded.checkpoints, faults = excluded.faults, cautions = excluded.cautions, surfaces = excluded.surfaces, details = excluded.details`,
		append([]any{x.ID, x.ProgramID}, valuesOf(x)...)...)
	return named(err, "name", x.Name, "technique of this program")
}

// ownNames refuses a name or an alias that another technique of the program goes by: a line
// of moves could not tell them apart.
func (t *txn) ownNames(ctx context.Context, x curriculum.Technique) error {
	keys := []string{check.Key(x.Name)}
	for _, a := range x.Aliases {
		keys = append(keys, check.Key(a))
	}
	type clash struct{ name, said string }
	found, err := list(ctx, t, func(c *clash) []any { return []any{&c.name, &c.said} }, `
		SELECT o.name, k.value FROM json_each(?1) k JOIN technique o ON o.deleted_at IS NULL AND o.id <> ?2
		AND o.program_id = CASE WHEN ?3 <> '' THEN ?3 ELSE (SELECT program_id FROM technique WHERE id = ?2) END
		WHERE (k.key > 0 AND o.name_key = k.value) OR EXISTS (SELECT 1 FROM json_each(o.aliases) a WHERE lower(a.value) = k.value) LIMIT 1`, toJSON(keys), x.ID, x.ProgramID)
	if err != nil || len(found) == 0 {
		return err
	}
	field := "aliases"
	if found[0].said == keys[0] {
		field = "name"
	}
	return check.Problems{{Field: field, Text: fmt.Sprintf("%q is what %s is called already; choose a different one", found[0].said, found[0].name)}}
}

func (t *txn) addTechnique(ctx context.Context, x curriculum.Technique) (string, error) {
	b, err := t.book(ctx, x.ProgramID)
	if err != nil {
		return "", err
	}
	x.ID = NewID()
	b.Number(&x)
	if err := t.ownNames(ctx, x); err != nil {
		return "", err
	}
	return x.ID, t.putTechnique(ctx, x)
}

// DeleteTechnique takes out a technique that no rung asks for.
func (s *Store) DeleteTechnique(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "technique", id)
}

func techniqueFree(ctx context.Context, t *txn, id string) error {
	return t.free(ctx, "technique", id,
		reference{`SELECT count(*) FROM requirement r JOIN rung g ON g.id = r.rung_id AND g.deleted_at IS NULL WHERE r.technique_id = ? AND r.deleted_at IS NULL`, "requirement asks for it", "requirements ask for it"},
		reference{`SELECT count(*) FROM technique o WHERE o.deleted_at IS NULL AND o.id <> ?1 AND instr(o.details, '"' || ?1 || '"')`, "technique builds on it, or leads to it", "techniques build on it, or lead to it"})
}

// Use is a rung that asks for a technique, and how.
type Use struct {
	RungID, Rung, Section string
	Role                  curriculum.Role
	Quantity              curriculum.Quantity
	MustPass              bool
}

// UsedBy lists where a technique is asked, lowest rung first.
func (s *Store) UsedBy(ctx context.Context, technique string) ([]Use, error) {
	return list(ctx, s.r, func(u *Use) []any {
		q := &u.Quantity
		return []any{&u.RungID, &u.Rung, &u.Section, &u.Role, &q.Measure, &q.Reps, &q.Seconds, &q.Rounds, &q.Rest, &q.Side, &u.MustPass}
	}, `SELECT g.id, g.name, c.name, r.role, r.measure, r.reps, r.seconds, r.rounds, r.rest, r.side_means, r.must_pass
		FROM requirement r JOIN rung g ON g.id = r.rung_id AND g.deleted_at IS NULL JOIN section c ON c.id = r.section_id
		WHERE r.technique_id = ? AND r.deleted_at IS NULL ORDER BY g.position, r.position`, technique)
}

// ListedRequirement is a requirement with what it names.
type ListedRequirement struct {
	curriculum.Requirement
	Technique curriculum.Technique
	Section   string
}

const selectRequirement = `SELECT r.id, r.rung_id, r.section_id, r.technique_id, r.position, r.role, r.measure, r.reps, r.seconds, r.rounds, r.rest, r.side_means, r.must_pass, r.bonus, r.weight, r.note, r.details, c.name, ` + techniqueColumns + `
	FROM requirement r JOIN section c ON c.id = r.section_id JOIN technique t ON t.id = r.technique_id WHERE r.deleted_at IS NULL AND `

func bindRequirement(r *ListedRequirement) []any {
	q := &r.Quantity
	return append([]any{&r.ID, &r.RungID, &r.SectionID, &r.TechniqueID, &r.Position, &r.Role, &q.Measure, &q.Reps, &q.Seconds, &q.Rounds, &q.Rest, &q.Side,
		&r.MustPass, &r.Bonus, &r.Weight, &r.Note, asJSON{&r.RequirementDetails}, &r.Section}, bindTechnique(&r.Technique)...)
}

// Requirements are what a rung asks for, by section and then in the school's order.
func (s *Store) Requirements(ctx context.Context, rung string) ([]ListedRequirement, error) {
	return requirements(ctx, s.r, rung)
}

func requirements(ctx context.Context, q querier, rung string) ([]ListedRequirement, error) {
	return list(ctx, q, bindRequirement, selectRequirement+`r.rung_id = ? ORDER BY c.position, c.name_key, r.position`, rung)
}

// Requirement is one requirement.
func (s *Store) Requirement(ctx context.Context, id string) (ListedRequirement, error) {
	return one(ctx, s.r, bindRequirement, selectRequirement+`r.id = ?`, id)
}

// SaveRequirement adds a requirement at the end of its section when its ID is empty, else
// changes it. A requirement without a TechniqueID names its technique by name: the program's
// technique of that name or alias, or a new one of the given kind. Without a SectionID it
// goes where techniques of its kind usually stand.
func (s *Store) SaveRequirement(ctx context.Context, by By, r curriculum.Requirement, name string, kind curriculum.Kind) (Done, error) {
	name, r.Note = check.Tidy(name), check.Tidy(r.Note)
	problems := r.Check()
	if r.TechniqueID == "" {
		problems.Name("technique", name)
	}
	if err := problems.Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		of, err := rung(ctx, t, r.RungID)
		if err != nil {
			return "", office.Deed{}, err
		}
		deed := office.RequirementChanged.Named(of.Name)
		if r.ID == "" {
			deed.Kind = office.RequirementAdded
		}
		if r.TechniqueID == "" {
			series, err := t.techniqueOf(ctx, &r, &kind, of, name)
			if err != nil {
				return "", office.Deed{}, err
			}
			if series.Kind != "" && r.ID == "" {
				deed = series
			}
		}
		if r.SectionID == "" {
			places, err := sections(ctx, t, of.ProgramID)
			if err != nil {
				return "", office.Deed{}, err
			}
			if p := curriculum.SectionFor(places, kind); p != nil {
				r.SectionID = p.ID
			}
		}
		if err := t.placeRequirement(ctx, &r, of); err != nil {
			return "", office.Deed{}, err
		}
		if err := t.touch(ctx, "requirement", r.ID); err != nil {
			return "", office.Deed{}, err
		}
		return r.ID, deed, t.put(ctx, "requirement", r.ID, requirementValues, valuesOfRequirement(r))
	})
}

// techniqueOf finds the technique a requirement names, or adds a new one; a deed that says so where that
// continues a series.
func (t *txn) techniqueOf(ctx context.Context, r *curriculum.Requirement, kind *curriculum.Kind, of curriculum.Rung, name string) (series office.Deed, err error) {
	found, err := list(ctx, t, bindTechnique, `SELECT `+techniqueColumns+` FROM technique t WHERE t.program_id = ? AND t.deleted_at IS NULL
		AND (t.name_key = ? OR EXISTS (SELECT 1 FROM json_each(t.aliases) a WHERE lower(a.value) = ?)) ORDER BY t.name_key = ? DESC`, of.ProgramID, check.Key(name), check.Key(name), check.Key(name))
	switch {
	case err != nil:
		return series, err
	case len(found) > 1 && check.Key(found[0].Name) != check.Key(name):
		return series, check.Problems{{Field: "technique", Text: fmt.Sprintf("%q is an alias of both %s and %s; write the one you mean", name, found[0].Name, found[1].Name)}}
	case len(found) > 0:
		r.TechniqueID, *kind = found[0].ID, found[0].Kind
		return series, nil
	case r.SectionID == "":
		return series, check.Problems{{Field: "section", Text: fmt.Sprintf("%q is new, so the program cannot tell its section; choose one", name)}}
	case *kind == "":
		return series, check.Problems{{Field: "kind", Text: fmt.Sprintf("%q is new, and its section does not say of which kind it is; choose one", name)}}
	}
	if r.TechniqueID, err = t.addTechnique(ctx, curriculum.Technique{ProgramID: of.ProgramID, Name: name, Kind: *kind}); err != nil {
		return series, err
	}
	x, err := one(ctx, t, bindTechnique, `SELECT `+techniqueColumns+` FROM technique t WHERE t.id = ?`, r.TechniqueID)
	if err == nil && x.Series != "" {
		series = office.Deed{Kind: office.SeriesContinued, What: of.Name, In: name, M: x.Number, Series: x.Series}
	}
	return series, err
}

// placeRequirement gives a requirement its id and place, and refuses what is not of its rung's program.
func (t *txn) placeRequirement(ctx context.Context, r *curriculum.Requirement, of curriculum.Rung) error {
	place := `SELECT position FROM requirement WHERE rung_id = ? AND id = ? AND deleted_at IS NULL`
	if r.ID == "" {
		r.ID, place = NewID(), `SELECT coalesce(max(position), -1) + 1 FROM requirement WHERE rung_id = ?1 AND id <> ?2`
	}
	var err error
	if r.Position, err = one(ctx, t, func(n *int) []any { return []any{n} }, place, r.RungID, r.ID); err != nil {
		return err
	}
	fits, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM section c, technique t
		WHERE c.id = ? AND t.id = ? AND c.program_id = ? AND t.program_id = c.program_id AND c.deleted_at IS NULL AND t.deleted_at IS NULL`, r.SectionID, r.TechniqueID, of.ProgramID)
	if err != nil {
		return err
	}
	if fits == 0 {
		return check.Problems{{Field: "section", Text: "is not one of this program's sections; choose one"}}
	}
	_, err = one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT 1 WHERE (?1 = '' OR EXISTS (SELECT 1 FROM rung u
		WHERE u.id = ?1 AND u.program_id = ?2 AND u.position >= ?3 AND u.deleted_at IS NULL))`, r.Carry.Rung, of.ProgramID, of.Position)
	if err != nil {
		return orErr(ignoreMissing(err), check.Problems{{Field: "carry", Text: "the rung until which it is asked again is not this one or one above; choose again"}})
	}
	return nil
}

// DeleteRequirement takes out a requirement. Sheets already begun keep it.
func (s *Store) DeleteRequirement(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "requirement", id)
}

// MoveRequirement moves a requirement by places among those of its rung and section.
func (s *Store) MoveRequirement(ctx context.Context, by By, id string, places int) (Done, error) {
	return s.move(ctx, by, "requirement", id, `SELECT r.id FROM requirement r JOIN requirement x ON x.id = ? AND x.rung_id = r.rung_id AND x.section_id = r.section_id AND r.deleted_at IS NULL ORDER BY r.position, r.id`, places)
}
