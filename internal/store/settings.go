package store

import (
	"context"

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
		return "school", office.Deed{Kind: office.SettingsChanged}, t.exec(ctx, `UPDATE school SET name = ?, settings = ?`, name, toJSON(x))
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
