package store

import (
	"context"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/practice"
)

// WeekTheme is what a week is about for one program.
type WeekTheme struct {
	ID, ProgramID string
	practice.Theme
}

// Themes are the themes of the week a day lies in, which begins on first, by program.
func (s *Store) Themes(ctx context.Context, first civil.Date) (map[string]WeekTheme, error) {
	rows, err := list(ctx, s.r, bindTheme, selectThemes, first.String(), first.AddDays(7).String())
	out := map[string]WeekTheme{}
	for _, x := range rows {
		out[x.ProgramID] = x
	}
	return out, err
}

// selectThemes also finds a theme of a week that began on another day, when the school's weeks did.
const selectThemes = `SELECT id, program_id, words, sections FROM week_theme WHERE deleted_at IS NULL AND week >= ? AND week < ? ORDER BY week DESC`

func bindTheme(x *WeekTheme) []any {
	return []any{&x.ID, &x.ProgramID, &x.Words, asJSON{&x.Sections}}
}

// SaveThemes keeps what the week that begins on first is about, by program; an empty theme takes it
// away. Sections that are not the program's are left out.
func (s *Store) SaveThemes(ctx context.Context, by By, first civil.Date, themes map[string]practice.Theme) (Done, error) {
	var p check.Problems
	for _, h := range themes {
		words := check.Tidy(h.Words)
		p.Line("words", words, check.LineLength)
		if words != "" && !strings.ContainsFunc(words, unicode.IsLetter) {
			p.Add("words", "has no word in it; write what the week is about, for example low stances, jumping, or leave it empty")
		}
	}
	if len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		have, err := list(ctx, t, bindTheme, selectThemes, first.String(), first.AddDays(7).String())
		if err != nil {
			return "", office.Deed{}, err
		}
		ids := map[string]string{}
		for _, x := range have {
			ids[x.ProgramID] = x.ID
		}
		for program, h := range themes {
			h.Words = check.Tidy(h.Words)
			own, err := list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT id FROM section WHERE program_id = ? AND deleted_at IS NULL AND id IN (SELECT value FROM json_each(?)) ORDER BY position`, program, toJSON(h.Sections))
			if err != nil {
				return "", office.Deed{}, err
			}
			id, there := ids[program]
			if !there {
				if len(own) == 0 && h.Words == "" {
					continue
				}
				id = NewID()
			}
			if err := t.touch(ctx, "week_theme", id); err != nil {
				return "", office.Deed{}, err
			}
			switch {
			case !there:
				err = t.exec(ctx, `INSERT INTO week_theme (id, program_id, week, words, sections) SELECT ?, id, ?, ?, ? FROM program WHERE id = ? AND deleted_at IS NULL`, id, first.String(), h.Words, toJSON(own), program)
			case len(own) == 0 && h.Words == "":
				err = t.exec(ctx, `UPDATE week_theme SET deleted_at = ? WHERE id = ?`, t.at, id)
			default:
				err = t.exec(ctx, `UPDATE week_theme SET words = ?, sections = ? WHERE id = ?`, h.Words, toJSON(own), id)
			}
			if err != nil {
				return "", office.Deed{}, err
			}
		}
		return first.String(), office.Deed{Kind: office.ThemeSet, On: first}, nil
	})
}

// Missed is something a class worked on while somebody was away who comes to it.
type Missed struct {
	StudentID, TechniqueID string
	On                     civil.Date
	Class                  string // its name
}

// missedHabit is for how many days back one visit to a class counts as coming to it.
const missedHabit = 84

// MissedBy is what classes worked on from a day on while these students were away from a class they
// come to, and have not seen in any class since; each technique once, the latest day.
func (s *Store) MissedBy(ctx context.Context, students []string, from, before civil.Date) ([]Missed, error) {
	return list(ctx, s.r, func(m *Missed) []any { return []any{&m.StudentID, &m.TechniqueID, asDate{&m.On}, &m.Class} }, `
		WITH who AS (SELECT value AS student_id FROM json_each(?1)),
		held AS (SELECT x.technique_id, r.id, r.class_id, r.on_date, r.name, t.program_id FROM taught x JOIN register r ON r.id = x.register_id JOIN technique t ON t.id = x.technique_id
			WHERE r.on_date >= ?2 AND r.on_date < ?3),
		habit AS (SELECT DISTINCT a.student_id, r.class_id FROM who JOIN attendance a ON a.student_id = who.student_id JOIN register r ON r.id = a.register_id
			WHERE a.on_date >= ?4 AND a.on_date < ?3)
		SELECT h.student_id, x.technique_id, max(x.on_date), x.name FROM held x JOIN habit h ON h.class_id = x.class_id
		JOIN enrolment e ON e.student_id = h.student_id AND e.program_id = x.program_id AND e.ended_on IS NULL
		JOIN student s ON s.id = h.student_id AND s.deleted_at IS NULL AND (s.joined_on IS NULL OR s.joined_on <= x.on_date)
		WHERE NOT EXISTS (SELECT 1 FROM attendance a WHERE a.register_id = x.id AND a.student_id = h.student_id)
		AND NOT EXISTS (SELECT 1 FROM held y JOIN attendance a ON a.register_id = y.id AND a.student_id = h.student_id WHERE y.technique_id = x.technique_id AND y.on_date >= x.on_date)
		GROUP BY h.student_id, x.technique_id ORDER BY max(x.on_date) DESC, h.student_id, x.technique_id`,
		toJSON(append([]string{}, students...)), from.String(), before.String(), from.AddDays(-missedHabit).String())
}

// LastTaught is when classes last worked on each technique, from a day on and before another.
func (s *Store) LastTaught(ctx context.Context, from, before civil.Date) (map[string]civil.Date, error) {
	type row struct {
		technique string
		on        civil.Date
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.technique, asDate{&x.on}} },
		`SELECT x.technique_id, max(r.on_date) FROM taught x JOIN register r ON r.id = x.register_id WHERE r.on_date >= ? AND r.on_date < ? GROUP BY x.technique_id`, from.String(), before.String())
	out := map[string]civil.Date{}
	for _, x := range rows {
		out[x.technique] = x.on
	}
	return out, err
}

// RungsTested are the rungs that gradings test from a day to a day.
func (s *Store) RungsTested(ctx context.Context, from, to civil.Date) (map[string]bool, error) {
	rows, err := list(ctx, s.r, func(id *string) []any { return []any{id} },
		`SELECT DISTINCT x.rung_id FROM grading g JOIN grading_rung x ON x.grading_id = g.id WHERE g.deleted_at IS NULL AND g.on_date >= ? AND g.on_date <= ?`, from.String(), to.String())
	out := map[string]bool{}
	for _, id := range rows {
		out[id] = true
	}
	return out, err
}
