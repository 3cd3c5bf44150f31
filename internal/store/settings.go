package store

import (
	"context"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/office"
)

// Settings are what the school has set, with what is usual where it has not.
func (s *Store) Settings(ctx context.Context) (office.Settings, error) {
	return settings(ctx, s.r)
}

func settings(ctx context.Context, q querier) (office.Settings, error) {
	x, err := one(ctx, q, func(x *office.Settings) []any { return []any{asJSON{x}} }, `SELECT settings FROM school`)
	x.Fill()
	return x, err
}

// SaveSettings keeps the school's name and settings. printable says what papers have letters
// for.
func (s *Store) SaveSettings(ctx context.Context, by By, name string, x office.Settings, printable func(rune) bool) (Done, error) {
	name = check.Tidy(name)
	for _, f := range []*string{&x.Seal, &x.Head, &x.Examiner, &x.GradingWord, &x.Title, &x.MailFrom} {
		*f = check.Tidy(*f)
	}
	x.Fill()
	p := x.Check(printable)
	p.Line("school", name, check.NameLength)
	if err := p.Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if err := t.touch(ctx, "school", "1"); err != nil {
			return "", office.Deed{}, err
		}
		old, err := settings(ctx, t)
		if err != nil {
			return "", office.Deed{}, err
		}
		x.Skipped = old.Skipped
		return "school", office.Deed{Kind: office.SettingsChanged}, t.exec(ctx, `UPDATE school SET name = ?, settings = ?`, name, toJSON(x))
	})
}

// FirstHour is how far the school is on its way to the first register and grading.
func (s *Store) FirstHour(ctx context.Context) (office.FirstHour, error) {
	var done [7]bool
	h, err := one(ctx, s.r, func(h *office.FirstHour) []any {
		return []any{asJSON{&h.Skipped}, &done[0], &done[1], &done[2], &done[3], &done[4], &done[5], &done[6]}
	}, `SELECT coalesce(settings ->> 'first_steps_skipped', '[]'), name <> '',
		EXISTS (SELECT 1 FROM program WHERE deleted_at IS NULL),
		EXISTS (SELECT 1 FROM requirement WHERE deleted_at IS NULL),
		EXISTS (SELECT 1 FROM student WHERE deleted_at IS NULL),
		EXISTS (SELECT 1 FROM class WHERE deleted_at IS NULL),
		EXISTS (SELECT 1 FROM register WHERE on_date > ''),
		EXISTS (SELECT 1 FROM grading WHERE deleted_at IS NULL)
		FROM school`)
	for i, step := range office.FirstSteps {
		if done[i] {
			h.Done = append(h.Done, step)
		}
	}
	return h, err
}

// SkipFirstStep keeps the first hour from asking for a step any more.
func (s *Store) SkipFirstStep(ctx context.Context, by By, step office.FirstStep, words string) (Done, error) {
	if !slices.Contains(office.FirstSteps, step) {
		return Done{}, check.Problems{{Field: "step", Text: "is no step of the first hour; load the page again"}}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if err := t.touch(ctx, "school", "1"); err != nil {
			return "", office.Deed{}, err
		}
		x, err := settings(ctx, t)
		if err != nil {
			return "", office.Deed{}, err
		}
		if !slices.Contains(x.Skipped, step) {
			x.Skipped = append(x.Skipped, step)
		}
		return "school", office.FirstStepSkipped.Named(words), t.exec(ctx, `UPDATE school SET settings = json_set(settings, '$.first_steps_skipped', json(?))`, toJSON(x.Skipped))
	})
}

// LongGone is a child who left so long ago that the record may be erased.
type LongGone struct {
	StudentID, Name string
	Left            civil.Date // the end of the last enrolment
}

// DueForErasing are students who were under 18 when they left, longer ago than the settings keep
// such records. Nothing is erased by itself.
func (s *Store) DueForErasing(ctx context.Context) ([]LongGone, error) {
	x, err := s.Settings(ctx)
	if err != nil || x.Retention == 0 {
		return nil, err
	}
	return list(ctx, s.r, func(g *LongGone) []any { return []any{&g.StudentID, &g.Name, asDate{&g.Left}} },
		`SELECT s.id, s.name, max(e.ended_on) AS left_on FROM student s JOIN enrolment e ON e.student_id = s.id WHERE s.erased_at IS NULL AND s.birth_date IS NOT NULL
		GROUP BY s.id HAVING count(*) = count(e.ended_on) AND left_on < ?1 AND left_on < date(s.birth_date, '+18 years') ORDER BY left_on, s.name_key`, s.Today().AddMonths(-12*x.Retention).String())
}
