package store

import (
	"context"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"sync"
	"time"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

// books keeps curricula that were read, for as long as nothing changes them.
type books struct {
	mu       sync.Mutex
	drafts   map[string]draft            // program → its draft
	versions map[string]*curriculum.Book // version → its curriculum, which never changes
}

type draft struct {
	revision int
	book     *curriculum.Book
}

// Book is a program's curriculum as it is being edited.
func (s *Store) Book(ctx context.Context, program string) (*curriculum.Book, error) {
	tx, err := s.r.BeginTx(ctx, nil) // revision and rows must belong together
	if err != nil {
		return nil, err
	}
	defer tx.Rollback()
	revision, err := revisionOf(ctx, tx, program)
	if err != nil {
		return nil, err
	}
	s.books.mu.Lock()
	kept := s.books.drafts[program]
	s.books.mu.Unlock()
	if kept.book != nil && kept.revision == revision {
		return kept.book, nil
	}
	c, err := readCurriculum(ctx, tx, program)
	if err != nil {
		return nil, err
	}
	book := curriculum.Open(c)
	s.books.mu.Lock()
	defer s.books.mu.Unlock()
	s.books.drafts[program] = draft{revision, book}
	return book, nil
}

func revisionOf(ctx context.Context, q querier, program string) (int, error) {
	return one(ctx, q, func(n *int) []any { return []any{n} }, `SELECT v.revision FROM curriculum_revision v JOIN program p ON p.id = v.program_id WHERE p.id = ? AND p.deleted_at IS NULL`, program)
}

// book is Book within a transaction, which may have changed it.
func (t *txn) book(ctx context.Context, program string) (*curriculum.Book, error) {
	revision, err := revisionOf(ctx, t, program)
	if err != nil {
		return nil, err
	}
	t.s.books.mu.Lock()
	kept := t.s.books.drafts[program]
	t.s.books.mu.Unlock()
	if kept.book != nil && kept.revision == revision && len(t.before) == 0 {
		return kept.book, nil
	}
	c, err := readCurriculum(ctx, t, program)
	return curriculum.Open(c), err
}

const requirementColumns = `r.id, r.rung_id, r.section_id, r.technique_id, r.position, r.role, r.measure, r.reps, r.seconds, r.rounds, r.rest, r.side_means, r.must_pass, r.bonus, r.weight, r.note, r.details`

func bindPlainRequirement(r *curriculum.Requirement) []any {
	q := &r.Quantity
	return []any{&r.ID, &r.RungID, &r.SectionID, &r.TechniqueID, &r.Position, &r.Role, &q.Measure, &q.Reps, &q.Seconds, &q.Rounds, &q.Rest, &q.Side, &r.MustPass, &r.Bonus, &r.Weight, &r.Note, asJSON{&r.RequirementDetails}}
}

func readCurriculum(ctx context.Context, q querier, program string) (c curriculum.Curriculum, err error) {
	c.Program, err = one(ctx, q, func(p *curriculum.Program) []any {
		return []any{&p.ID, &p.Name, &p.SecondLanguage, asJSON{&p.ProgramDetails}}
	}, `SELECT id, name, second_language, details FROM program WHERE id = ? AND deleted_at IS NULL`, program)
	if err != nil {
		return c, err
	}
	if c.Sections, err = sections(ctx, q, program); err != nil {
		return c, err
	}
	if c.Rungs, err = list(ctx, q, func(r *curriculum.Rung) []any { return append(bindRung(r), asJSON{&r.RungDetails}) },
		`SELECT `+rungColumns+`, r.details FROM rung r WHERE r.program_id = ? AND r.deleted_at IS NULL ORDER BY r.position, r.name_key`, program); err != nil {
		return c, err
	}
	if c.Techniques, err = list(ctx, q, bindTechnique, `SELECT `+techniqueColumns+` FROM technique t WHERE t.program_id = ? AND t.deleted_at IS NULL ORDER BY t.name_key`, program); err != nil {
		return c, err
	}
	c.Requirements, err = list(ctx, q, bindPlainRequirement, `SELECT `+requirementColumns+` FROM rung g JOIN requirement r ON r.rung_id = g.id AND r.deleted_at IS NULL
		WHERE g.program_id = ? AND g.deleted_at IS NULL ORDER BY g.position, g.name_key, r.position, r.id`, program)
	return c, err
}

// InvalidCurriculum says what makes a curriculum impossible to put on record.
type InvalidCurriculum struct{ Found []curriculum.Invalid }

// Error gives the first few findings.
func (e *InvalidCurriculum) Error() string {
	text := e.Found[0].Error()
	if n := len(e.Found) - 1; n > 0 {
		text += fmt.Sprintf(" (and %d more)", n)
	}
	return text
}

// SaveCurriculum puts a whole curriculum on record in one transaction: as a new program
// where its id is not known, else in place of that program's draft. What the curriculum no
// longer has is taken out, unless students or gradings refer to it. All of it or nothing.
func (s *Store) SaveCurriculum(ctx context.Context, by By, c curriculum.Curriculum) (Done, error) {
	if found := c.Validate(); len(found) > 0 {
		return Done{}, &InvalidCurriculum{found}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		known, err := list(ctx, t, bindProgram, selectProgram+`AND id = ?`, c.Program.ID)
		if err != nil {
			return "", office.Deed{}, err
		}
		old, deed := curriculum.Curriculum{}, office.ProgramAdded.Named(c.Program.Name)
		if len(known) > 0 {
			deed.Kind = office.ProgramRead
			b, err := t.book(ctx, c.Program.ID)
			if err != nil {
				return "", office.Deed{}, err
			}
			old = b.Curriculum
		}
		return c.Program.ID, deed, t.replace(ctx, old, c)
	})
}

// ChangeCurriculum lets change make a curriculum out of a copy of the present one, and puts
// the difference on record. The deed is what change says it is.
func (s *Store) ChangeCurriculum(ctx context.Context, by By, program string, change func(*curriculum.Book) (c curriculum.Curriculum, deed office.Deed, err error)) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if err := t.asSeen(ctx); err != nil {
			return "", office.Deed{}, err
		}
		b, err := t.book(ctx, program)
		if err != nil {
			return "", office.Deed{}, err
		}
		c, deed, err := change(b)
		if err != nil {
			return "", office.Deed{}, err
		}
		if found := c.Validate(); len(found) > 0 {
			return "", office.Deed{}, &InvalidCurriculum{found}
		}
		return program, deed, t.replace(ctx, b.Curriculum, c)
	})
}

// replaced is one table of a curriculum on its way to the records.
type replaced struct {
	table  string
	ids    []string // of the new one, in order
	old    []string
	same   func(id string) bool
	insert func(id string) (columns []string, values []any)
	named  bool
}

// replace writes what differs between two states of a program's curriculum.
// It is long: a description for each table.
func (t *txn) replace(ctx context.Context, old, now curriculum.Curriculum) error {
	id := now.Program.ID
	before, after := curriculum.Open(old), curriculum.Open(now)
	requirement := func(c curriculum.Curriculum) map[string]*curriculum.Requirement {
		places, out := map[string]int{}, map[string]*curriculum.Requirement{}
		for i := range c.Requirements {
			r := c.Requirements[i]
			r.Position = places[r.RungID] // in its rung
			places[r.RungID]++
			out[r.ID] = &r
		}
		return out
	}
	wasAsked, isAsked := requirement(old), requirement(now)
	tables := []replaced{
		{table: "program", ids: []string{id}, named: true, same: func(string) bool { return reflect.DeepEqual(old.Program, now.Program) }, insert: func(string) ([]string, []any) {
			p := now.Program
			return []string{"name", "name_key", "second_language", "details"}, []any{p.Name, check.Key(p.Name), p.SecondLanguage, toJSON(p.ProgramDetails)}
		}},
		{table: "section", ids: ids(now.Sections, func(x curriculum.Section) string { return x.ID }), old: ids(old.Sections, func(x curriculum.Section) string { return x.ID }), named: true,
			same: func(id string) bool { return reflect.DeepEqual(before.Section(id), after.Section(id)) }, insert: func(id string) ([]string, []any) {
				x := after.Section(id)
				return []string{"program_id", "name", "name_key", "kind", "position"}, []any{now.Program.ID, x.Name, check.Key(x.Name), x.Kind, x.Position}
			}},
		{table: "rung", ids: ids(now.Rungs, func(x curriculum.Rung) string { return x.ID }), old: ids(old.Rungs, func(x curriculum.Rung) string { return x.ID }), named: true,
			same: func(id string) bool { return reflect.DeepEqual(before.Rung(id), after.Rung(id)) }, insert: func(id string) ([]string, []any) {
				x := after.Rung(id)
				return []string{"program_id", "position", "kind", "name", "name_key", "cloth", "details"}, []any{now.Program.ID, x.Position, x.Kind, x.Name, check.Key(x.Name), toJSON(x.Cloth), toJSON(x.RungDetails)}
			}},
		{table: "technique", ids: ids(now.Techniques, func(x curriculum.Technique) string { return x.ID }), old: ids(old.Techniques, func(x curriculum.Technique) string { return x.ID }), named: true,
			same: func(id string) bool { return reflect.DeepEqual(before.Technique(id), after.Technique(id)) }, insert: func(id string) ([]string, []any) {
				x := after.Technique(id)
				return append([]string{"program_id"}, techniqueValues...), append([]any{now.Program.ID}, valuesOf(*x)...)
			}},
		{table: "requirement", ids: ids(now.Requirements, func(x curriculum.Requirement) string { return x.ID }), old: ids(old.Requirements, func(x curriculum.Requirement) string { return x.ID }),
			same: func(id string) bool { return reflect.DeepEqual(wasAsked[id], isAsked[id]) }, insert: func(id string) ([]string, []any) {
				return requirementValues, valuesOfRequirement(*isAsked[id])
			}},
	}
	if err := t.foreign(ctx, id, tables); err != nil {
		return err
	}
	// What goes out makes room for names that come in: first requirements, last sections.
	for _, x := range slices.Backward(tables) {
		for _, gone := range x.old {
			if slices.Contains(x.ids, gone) {
				continue
			}
			if x.table == "rung" || x.table == "technique" || x.table == "section" {
				if err := mayTakeOut[x.table](ctx, t, gone); err != nil {
					return err
				}
			}
			if err := t.touch(ctx, x.table, gone); err != nil {
				return err
			}
			if err := t.exec(ctx, `UPDATE `+x.table+` SET deleted_at = ? WHERE id = ?`, t.at, gone); err != nil {
				return err
			}
		}
	}
	for _, x := range tables {
		if err := t.upsert(ctx, x); err != nil {
			return err
		}
	}
	return nil
}

func ids[T any](list []T, id func(T) string) (out []string) {
	for _, x := range list {
		out = append(out, id(x))
	}
	return out
}

// foreign refuses ids that belong to another program's records.
func (t *txn) foreign(ctx context.Context, program string, tables []replaced) error {
	for _, x := range tables {
		owner := map[string]string{"program": "r.id", "requirement": "(SELECT program_id FROM rung g WHERE g.id = r.rung_id)"}[x.table]
		if owner == "" {
			owner = "r.program_id"
		}
		taken, err := list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT r.id FROM json_each(?) j JOIN `+x.table+` r ON r.id = j.value WHERE `+owner+` <> ? LIMIT 1`, toJSON(x.ids), program)
		if err != nil {
			return err
		}
		if len(taken) > 0 {
			return refuse("The id %q of a %s belongs to another program here; nothing was read in.", taken[0], x.table)
		}
	}
	return nil
}

func (t *txn) upsert(ctx context.Context, x replaced) error {
	var changed []string
	for _, id := range x.ids {
		if !slices.Contains(x.old, id) || !x.same(id) {
			changed = append(changed, id)
		}
	}
	if x.table == "program" && x.same("") {
		return nil
	}
	if err := t.touch(ctx, x.table, changed...); err != nil {
		return err
	}
	if x.named { // two rows may exchange their names
		if _, err := t.ExecContext(ctx, `UPDATE `+x.table+` SET name_key = 'being changed ' || id WHERE id IN (SELECT value FROM json_each(?))`, toJSON(changed)); err != nil {
			return err
		}
	}
	for _, id := range changed {
		columns, values := x.insert(id)
		if x.table == "program" {
			columns = append(columns, "position")
			at, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT coalesce((SELECT position FROM program WHERE id = ?), (SELECT count(*) FROM program))`, id)
			if err != nil {
				return err
			}
			values = append(values, at)
		}
		if err := t.put(ctx, x.table, id, columns, values); err != nil {
			return named(err, "name", "This name", x.table)
		}
	}
	return nil
}

// put writes a row of a definition: a new one, or over the one of that id.
func (t *txn) put(ctx context.Context, table, id string, columns []string, values []any) error {
	query, marks, sets := `INSERT INTO `+table+` (id, deleted_at`, `?, NULL`, `deleted_at = NULL`
	for _, c := range columns {
		query += ", " + c
		marks += ", ?"
		sets += ", " + c + " = excluded." + c
	}
	query += `) VALUES (` + marks + `) ON CONFLICT (id) DO UPDATE SET ` + sets
	return t.exec(ctx, query, append([]any{id}, values...)...)
}

// SavePage adds the lines of a binder page to a rung, with the techniques that are new, and
// changes what the rung asks of them already. All of them or none.
func (s *Store) SavePage(ctx context.Context, by By, rungID, text string) (Done, error) {
	r, err := s.Rung(ctx, rungID)
	if err != nil {
		return Done{}, err
	}
	return s.ChangeCurriculum(ctx, by, r.ProgramID, func(b *curriculum.Book) (curriculum.Curriculum, office.Deed, error) {
		c := b.Curriculum
		lines, _ := binder.For(b).PageFor(rungID, text)
		if len(lines) == 0 {
			return c, office.Deed{}, check.Problems{{Field: "page", Text: "is empty; write a heading such as Kicks and a line for each requirement"}}
		}
		var p check.Problems
		asked, added, changed, says := 0, 0, 0, false // says: a line that asks for nothing sets call numbers, or a sample group
		for _, l := range lines {
			says = says || len(l.Legend) > 0 || l.Draw != nil
			if l.Aside == "" {
				asked++
			}
			if l.Aside == "" && l.Stands == nil {
				added++
			} else if l.Changes() {
				changed++
			}
			if l.Problem != "" {
				p.Add("page", "line %d, column %d: %s", l.Number, l.Column, l.Problem)
			}
		}
		if asked == 0 && !says {
			p.Add("page", "asks for nothing: every line is set aside, as a title, a sum or a place to sign")
		}
		if len(p) > 0 {
			return c, office.Deed{}, p
		}
		c, err := binder.For(b).AddPage(rungID, lines, NewID)
		if err == nil && reflect.DeepEqual(c, b.Curriculum) {
			return c, office.Deed{}, check.Problems{{Field: "page", Text: fmt.Sprintf("asks for nothing new: %s asks all of it already", r.Name)}}
		}
		deed := office.Deed{Kind: office.RequirementsAdded, N: added, What: r.Name}
		if changed > 0 && added > 0 {
			deed.Kind, deed.M = office.RequirementsWritten, changed
		} else if changed > 0 {
			deed.Kind, deed.N = office.RequirementsChanged, changed
		}
		return c, deed, err
	})
}

// ChangeProgram changes what belongs to a program as a whole.
func (s *Store) ChangeProgram(ctx context.Context, by By, program string, deed office.Deed, change func(*curriculum.ProgramDetails) error) (Done, error) {
	return s.ChangeCurriculum(ctx, by, program, func(b *curriculum.Book) (curriculum.Curriculum, office.Deed, error) {
		c := b.Curriculum
		// A copy: what the book holds is read by others.
		text, err := json.Marshal(c.Program.ProgramDetails)
		if err != nil {
			return c, office.Deed{}, err
		}
		c.Program.ProgramDetails = curriculum.ProgramDetails{}
		if err := json.Unmarshal(text, &c.Program.ProgramDetails); err != nil {
			return c, office.Deed{}, err
		}
		if err := change(&c.Program.ProgramDetails); err != nil {
			return c, office.Deed{}, err
		}
		if p := c.Program.Check(); len(p) > 0 {
			return c, office.Deed{}, p
		}
		return c, deed, nil
	})
}

// Version is a published curriculum.
type Version struct {
	ID, ProgramID string
	Number        int
	Note, Actor   string
	At            time.Time
	Revision      int // of the draft it was published from
	Students      int // who climb by it
}

const selectVersion = `SELECT v.id, v.program_id, v.number, v.note, v.actor, v.at, v.revision, (SELECT count(*) FROM enrolment e JOIN student s ON s.id = e.student_id AND s.deleted_at IS NULL WHERE e.version_id = v.id AND e.ended_on IS NULL) FROM version v `

func bindVersion(v *Version) []any {
	return []any{&v.ID, &v.ProgramID, &v.Number, &v.Note, &v.Actor, asTime{&v.At}, &v.Revision, &v.Students}
}

// Versions are a program's published versions, the newest first, and whether the draft has
// changed since.
func (s *Store) Versions(ctx context.Context, program string) (all []Version, changed bool, err error) {
	if all, err = list(ctx, s.r, bindVersion, selectVersion+`WHERE v.program_id = ? ORDER BY v.number DESC`, program); err != nil {
		return nil, false, err
	}
	if len(all) == 0 {
		return nil, true, nil
	}
	revision, err := revisionOf(ctx, s.r, program)
	if err != nil || revision == all[0].Revision {
		return all, false, err
	}
	b, err := s.Book(ctx, program)
	if err != nil {
		return nil, false, err
	}
	same, err := published(ctx, s.r, all[0].ID, b)
	return all, !same, err
}

// published reports whether a version holds a curriculum to the letter: changes may have been
// undone.
func published(ctx context.Context, q querier, version string, b *curriculum.Book) (bool, error) {
	document, err := one(ctx, q, func(d *string) []any { return []any{d} }, `SELECT document FROM version WHERE id = ?`, version)
	return document == toJSON(b.Curriculum), err
}

// VersionBook is a published curriculum, and its number.
func (s *Store) VersionBook(ctx context.Context, id string) (*curriculum.Book, error) {
	return s.versionBook(ctx, s.r, id)
}

func (s *Store) versionBook(ctx context.Context, q querier, id string) (*curriculum.Book, error) {
	s.books.mu.Lock()
	kept := s.books.versions[id]
	s.books.mu.Unlock()
	if kept != nil {
		return kept, nil
	}
	c, err := one(ctx, q, func(c *curriculum.Curriculum) []any { return []any{asJSON{c}} }, `SELECT document FROM version WHERE id = ?`, id)
	if err != nil {
		return nil, err
	}
	book := curriculum.Open(c)
	s.books.mu.Lock()
	defer s.books.mu.Unlock()
	s.books.versions[id] = book
	return book, nil
}

// Publish makes a version of a program's draft as it stands. Students who climbed by the
// draft, because nothing was published when they began, go on by the first version; with
// everyone, all who climb are moved to the new one.
func (s *Store) Publish(ctx context.Context, by By, program, note string, everyone bool) (Done, error) {
	note = check.Tidy(note)
	var p check.Problems
	if p.Line("note", note, check.LineLength); len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		b, err := t.book(ctx, program)
		if err != nil {
			return "", office.Deed{}, err
		}
		if err := t.asSeen(ctx); err != nil {
			return "", office.Deed{}, err
		}
		if len(b.Rungs) == 0 {
			return "", office.Deed{}, refuse("The ladder is empty; there is nothing to publish.")
		}
		revision, err := revisionOf(ctx, t, program)
		if err != nil {
			return "", office.Deed{}, err
		}
		last, err := list(ctx, t, bindVersion, selectVersion+`WHERE v.program_id = ? ORDER BY v.number DESC LIMIT 1`, program)
		if err != nil {
			return "", office.Deed{}, err
		}
		number := 1
		if len(last) > 0 {
			number = last[0].Number + 1
			same, err := published(ctx, t, last[0].ID, b)
			if err != nil {
				return "", office.Deed{}, err
			}
			if same {
				return "", office.Deed{}, refuse("The draft is the same as version %d; nothing was published.", last[0].Number)
			}
		}
		id := NewID()
		if err := t.exec(ctx, `INSERT INTO version (id, program_id, number, note, document, revision, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
			id, program, number, note, toJSON(b.Curriculum), revision, t.by.Actor, t.at); err != nil {
			return "", office.Deed{}, err
		}
		if _, err := t.ExecContext(ctx, `UPDATE enrolment SET version_id = ?1 WHERE program_id = ?2 AND (version_id IS NULL OR ?3)`, id, program, everyone); err != nil {
			return "", office.Deed{}, err
		}
		return id, office.Deed{Kind: office.VersionPublished, M: number, What: b.Program.Name}, nil
	})
}

// MoveToVersion lets students climb by another version: those given, or with none given all
// who climb by the version from.
func (s *Store) MoveToVersion(ctx context.Context, by By, version, from string, enrolments []string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		v, err := one(ctx, t, bindVersion, selectVersion+`WHERE v.id = ?`, version)
		if err != nil {
			return "", office.Deed{}, err
		}
		if len(enrolments) == 0 {
			if enrolments, err = list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT id FROM enrolment WHERE program_id = ? AND version_id = ? AND ended_on IS NULL`, v.ProgramID, from); err != nil {
				return "", office.Deed{}, err
			}
		}
		if len(enrolments) == 0 {
			return "", office.Deed{}, refuse("Nobody climbs by that version.")
		}
		if err := t.touch(ctx, "enrolment", enrolments...); err != nil {
			return "", office.Deed{}, err
		}
		for _, e := range enrolments {
			if err := t.exec(ctx, `UPDATE enrolment SET version_id = ? WHERE id = ? AND program_id = ?`, version, e, v.ProgramID); err != nil {
				return "", office.Deed{}, err
			}
		}
		return version, office.Deed{Kind: office.MovedToVersion, N: len(enrolments), M: v.Number}, nil
	})
}
