package store

import (
	"context"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
)

func adaptations(ctx context.Context, q querier, student, program string) ([]curriculum.Adaptation, error) {
	return list(ctx, q, func(a *curriculum.Adaptation) []any {
		return []any{asJSON{a}, &a.ID, asDate{&a.From}, asDate{&a.To}}
	}, `SELECT what, id, from_date, to_date FROM adaptation WHERE student_id = ? AND program_id = ? AND deleted_at IS NULL ORDER BY rowid`, student, program)
}

// Adaptations are what is recorded for a student in a program, past ones too, oldest entry first.
func (s *Store) Adaptations(ctx context.Context, student, program string) ([]curriculum.Adaptation, error) {
	return adaptations(ctx, s.r, student, program)
}

// AddAdaptation records that a student is excused from something, or does something else.
func (s *Store) AddAdaptation(ctx context.Context, by By, student, program string, a curriculum.Adaptation) (Done, error) {
	a.Reason = check.Tidy(a.Reason)
	b, err := s.Book(ctx, program)
	if err != nil {
		return Done{}, err
	}
	if err := b.CheckAdaptation(a).Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if _, err := one(ctx, t, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.id = ? AND s.deleted_at IS NULL`, student); err != nil {
			return "", office.Deed{}, err
		}
		id := NewID()
		if err := t.touch(ctx, "adaptation", id); err != nil {
			return "", office.Deed{}, err
		}
		return id, office.TestAdapted.Of(student), t.exec(ctx, `INSERT INTO adaptation (id, student_id, program_id, what, from_date, to_date) VALUES (?, ?, ?, ?, ?, ?)`,
			id, student, program, toJSON(a), dateOrNull(a.From), dateOrNull(a.To))
	})
}

// EndAdaptation ends an adaptation today; one that has not begun is taken out.
func (s *Store) EndAdaptation(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if err := t.touch(ctx, "adaptation", id); err != nil {
			return "", office.Deed{}, err
		}
		today := s.Today()
		return id, office.Deed{Kind: office.AdaptationEnded}, t.exec(ctx, `UPDATE adaptation SET to_date = ?2, deleted_at = CASE WHEN from_date > ?2 THEN ?3 END WHERE id = ?1 AND deleted_at IS NULL`, id, today.AddDays(-1).String(), t.at)
	})
}

// SetTrack chooses an enrolment's track by hand; "" lets the age decide again.
func (s *Store) SetTrack(ctx context.Context, by By, enrolment, track string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		st, err := one(ctx, t, bindStanding, selectStanding+`WHERE e.id = ?`, enrolment)
		if err != nil {
			return "", office.Deed{}, err
		}
		b, err := t.book(ctx, st.ProgramID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if track != "" && b.Track(track) == nil {
			return "", office.Deed{}, check.Problems{{Field: "track", Text: "is no track of this program; choose one"}}
		}
		if err := t.touch(ctx, "enrolment", enrolment); err != nil {
			return "", office.Deed{}, err
		}
		return enrolment, office.TrackSet.Of(st.StudentID), t.exec(ctx, `UPDATE enrolment SET track_id = ? WHERE id = ?`, track, enrolment)
	})
}

// grade is what a promotion to a rung leaves: provisional below the program's first rung of
// permanent grades unless won with honours; "" where the program knows no provisional grades.
func grade(b *curriculum.Book, rung string, honours bool) string {
	switch {
	case b.Program.PermanentFrom == "":
		return ""
	case b.Provisional(rung) && !honours:
		return "provisional"
	}
	return "permanent"
}

// AwardMerit turns the provisional grade an enrolment stands on into a permanent one: a
// merit stripe. It is a new entry of the rank history.
func (s *Store) AwardMerit(ctx context.Context, by By, enrolment string, on civil.Date, reason string) (Done, error) {
	reason = check.Tidy(reason)
	var p check.Problems
	if reason == "" {
		p.Add("reason", "is empty; say what the merit stripe is given for")
	}
	if p.Line("reason", reason, check.LineLength); len(p) > 0 {
		return Done{}, p
	}
	if on.IsZero() {
		on = s.Today()
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		st, err := one(ctx, t, bindStanding, selectStanding+`WHERE e.id = ?`, enrolment)
		if err != nil {
			return "", office.Deed{}, err
		}
		last, err := one(ctx, t, func(g *string) []any { return []any{g} }, `SELECT grade FROM rank_entry e WHERE enrolment_id = ? AND NOT EXISTS (SELECT 1 FROM rank_entry n WHERE n.supersedes = e.id)`, enrolment)
		if err != nil {
			return "", office.Deed{}, err
		}
		if last != "provisional" {
			return "", office.Deed{}, refuse("%s's grade is not provisional.", st.Name)
		}
		return enrolment, office.MeritGiven.Of(st.StudentID), t.addGrade(ctx, enrolment, st.Rung, st.Since, "correction", progress.Why{Because: progress.BecauseMerit, On: on, Reason: reason}, "", "permanent")
	})
}
