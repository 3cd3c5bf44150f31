package store

import (
	"context"
	"slices"
	"strings"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// Climbing is a standing with whether the student may be tested for the rung above.
type Climbing struct {
	Standing
	Next    *curriculum.Rung // nil at the top
	Track   curriculum.Track // on the day asked for
	Verdict progress.Verdict
	Given   []Given // waivers and words for the climb to Next that stand
}

// Given is a waiver or an instructor's word on record.
type Given struct {
	ID     string              `json:"id"`
	RungID string              `json:"rung"`
	Kind   string              `json:"kind"` // waiver, word
	Rule   curriculum.RuleKind `json:"rule"`
	Reason string              `json:"reason"`
	Actor  string              `json:"actor"`
}

const selectClimbing = `SELECT s.birth_date, e.track_id, e.version_id,
	(SELECT max(d.retest_from) FROM candidate c JOIN announcement a ON a.candidate_id = c.id JOIN decision_event d ON d.id = a.decision_id WHERE c.enrolment_id = e.id AND c.from_rung_id = e.rung_id),
	(SELECT json_group_array(json_object('id', v.id, 'rung', v.rung_id, 'kind', v.kind, 'rule', v.rule, 'reason', v.reason, 'actor', v.actor)) FROM eligibility_event v
	 WHERE v.enrolment_id = e.id AND v.kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM eligibility_event n WHERE n.supersedes = v.id)), `

// climbings reads standings and judges each on a day by the rules of the version it climbs by.
func (s *Store) climbings(ctx context.Context, q querier, draft func(program string) (*curriculum.Book, error), on civil.Date, where string, args ...any) ([]Climbing, error) {
	type row struct {
		Climbing
		born, retest   civil.Date
		track, version string
		given          []Given
	}
	rows, err := list(ctx, q, func(x *row) []any {
		return append([]any{asDate{&x.born}, &x.track, asText{&x.version}, asDate{&x.retest}, asJSON{&x.given}}, bindStanding(&x.Standing)...)
	}, selectClimbing+strings.TrimPrefix(selectStanding, "SELECT ")+where, args...)
	if err != nil {
		return nil, err
	}
	out := make([]Climbing, 0, len(rows))
	drafts := map[string]*curriculum.Book{}
	for _, x := range rows {
		b := drafts[x.ProgramID]
		if b == nil {
			if b, err = draft(x.ProgramID); err != nil {
				return nil, err
			}
			drafts[x.ProgramID] = b
		}
		x.Track = trackOn(b, x.track, x.born, on)
		if x.Next = b.Above(x.Standing.Rung.ID); x.Next != nil {
			e := progress.Evidence{Since: x.Since, Born: x.born, Waived: map[curriculum.RuleKind]string{}}
			if e.RetestFrom = x.retest; e.RetestFrom.Before(x.Since) { // of an earlier climb
				e.RetestFrom = civil.Date{}
			}
			for _, g := range x.given {
				if g.RungID != x.Next.ID {
					continue
				}
				x.Given = append(x.Given, g)
				if g.Kind == "word" {
					e.Word = g.Reason
				} else {
					e.Waived[g.Rule] = g.Reason
				}
			}
			if x.version != "" {
				v, err := s.versionBook(ctx, q, x.version)
				if err != nil {
					return nil, err
				}
				if v.Rung(x.Next.ID) != nil { // else the rung is younger than the version
					b = v
				}
			}
			x.Verdict = progress.Judge(b.RulesOf(x.Next.ID, x.Track.ID), e, on)
		}
		out = append(out, x.Climbing)
	}
	return out, nil
}

func (s *Store) read(ctx context.Context, on civil.Date, where string, args ...any) ([]Climbing, error) {
	return s.climbings(ctx, s.r, func(program string) (*curriculum.Book, error) { return s.Book(ctx, program) }, on, where, args...)
}

// OnRung lists who stands on a rung, longest first, at most limit of them, judged today.
func (s *Store) OnRung(ctx context.Context, rung string, limit int) ([]Climbing, error) {
	return s.read(ctx, s.Today(), `WHERE e.id IN (SELECT id FROM enrolment WHERE rung_id = ? AND ended_on IS NULL ORDER BY since LIMIT ?) ORDER BY e.since, s.name_key`, rung, limit)
}

// ClimbingOf is one enrolment, judged on a day.
func (s *Store) ClimbingOf(ctx context.Context, enrolment string, on civil.Date) (Climbing, error) {
	all, err := s.read(ctx, on, `WHERE e.id = ?`, enrolment)
	if err == nil && len(all) == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return Climbing{}, err
	}
	return all[0], nil
}

// WhoMayTest are all who climb in a program and have a rung above them, judged on a day, by
// rung from the lowest up.
func (s *Store) WhoMayTest(ctx context.Context, program string, on civil.Date) ([]Climbing, error) {
	all, err := s.read(ctx, on, `WHERE e.program_id = ? AND e.ended_on IS NULL ORDER BY r.position, s.name_key`, program)
	return slices.DeleteFunc(all, func(c Climbing) bool { return c.Next == nil }), err
}

// Eligible are the students on the rungs below the ones a grading tests who are not entered,
// judged on its day.
func (s *Store) Eligible(ctx context.Context, grading string) ([]Climbing, error) {
	on, err := one(ctx, s.r, func(d *civil.Date) []any { return []any{asDate{d}} }, `SELECT on_date FROM grading WHERE id = ?`, grading)
	if err != nil {
		return nil, err
	}
	return s.read(ctx, on, `WHERE e.ended_on IS NULL AND EXISTS (
		SELECT 1 FROM grading_rung x JOIN rung up ON up.id = x.rung_id WHERE x.grading_id = ?1 AND up.program_id = r.program_id
		AND r.position = (SELECT max(b.position) FROM rung b WHERE b.program_id = up.program_id AND b.deleted_at IS NULL AND b.position < up.position))
		AND NOT EXISTS (SELECT 1 FROM candidate c WHERE c.grading_id = ?1 AND c.enrolment_id = e.id AND c.withdrawn_at IS NULL) ORDER BY r.position, s.name_key`, grading)
}

// climbings are the climbs as the transaction sees them.
func (t *txn) climbings(ctx context.Context, on civil.Date, where string, args ...any) ([]Climbing, error) {
	return t.s.climbings(ctx, t, func(program string) (*curriculum.Book, error) { return t.book(ctx, program) }, on, where, args...)
}

// mayTest refuses an entrant who may not be tested on the day, unless a reason is given.
func (t *txn) mayTest(ctx context.Context, g Grading, enrolment, reason string) error {
	if reason != "" {
		return nil
	}
	all, err := t.climbings(ctx, g.On, `WHERE e.id = ?`, enrolment)
	if err != nil || len(all) == 0 || all[0].Verdict.State != progress.NotMet {
		return err
	}
	return check.Problems{{Field: "reason", Text: all[0].Name + " may be tested " + all[0].Verdict.Words() + "; say why the test is allowed on " + g.On.Long()}}
}

// Waive lets a student off one rule of the rung they climb to, with a reason that stays on
// record.
func (s *Store) Waive(ctx context.Context, by By, enrolment string, rule curriculum.RuleKind, reason string) (Done, error) {
	reason = check.Tidy(reason)
	var p check.Problems
	if check.OneOf(&p, "rule", rule, append(slices.Clone(curriculum.RuleKinds), curriculum.RetestWait)); reason == "" {
		p.Add("reason", "is empty; say why the rule does not hold for this student, it is shown for ever")
	}
	if p.Line("reason", reason, check.LineLength); len(p) > 0 {
		return Done{}, p
	}
	return s.give(ctx, by, enrolment, "waiver", rule, reason)
}

// GiveWord records that an instructor says a student is ready for the rung above.
func (s *Store) GiveWord(ctx context.Context, by By, enrolment, who string) (Done, error) {
	who = check.Tidy(who)
	var p check.Problems
	if p.Name("who", who); len(p) > 0 {
		return Done{}, p
	}
	return s.give(ctx, by, enrolment, "word", curriculum.Word, who)
}

func (s *Store) give(ctx context.Context, by By, enrolment, kind string, rule curriculum.RuleKind, reason string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, string, error) {
		all, err := t.climbings(ctx, s.Today(), `WHERE e.id = ? AND e.ended_on IS NULL`, enrolment)
		if err != nil {
			return "", "", err
		}
		if len(all) == 0 {
			return "", "", ErrNotFound
		}
		c := all[0]
		if c.Next == nil {
			return "", "", refuse("%s stands on the highest rung; there is nothing above to be tested for.", c.Name)
		}
		if slices.ContainsFunc(c.Given, func(g Given) bool { return g.Kind == kind && g.Rule == rule }) {
			return "", "", refuse("That is on record already for %s.", c.Name)
		}
		id := NewID()
		action := "Waived a rule for " + c.Name
		if kind == "word" {
			action = reason + " said that " + c.Name + " is ready"
		}
		return id, action, t.exec(ctx, `INSERT INTO eligibility_event (id, enrolment_id, rung_id, kind, rule, reason, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`, id, enrolment, c.Next.ID, kind, rule, reason, t.by.Actor, t.at)
	})
}

// WithdrawGiven takes back a waiver or a word: a new entry, the old one stays on record.
func (s *Store) WithdrawGiven(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, string, error) {
		return id, "Withdrew a waiver or a word", t.exec(ctx, `INSERT INTO eligibility_event (id, enrolment_id, rung_id, kind, rule, supersedes, actor, at)
			SELECT ?2, enrolment_id, rung_id, 'withdrawn', rule, id, ?3, ?4 FROM eligibility_event v WHERE v.id = ?1 AND v.kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM eligibility_event n WHERE n.supersedes = v.id)`, id, NewID(), t.by.Actor, t.at)
	})
}

// PastGiven is a waiver or a word with when it was given, for ever on record.
type PastGiven struct {
	Given
	Rung      string
	At        time.Time
	Withdrawn bool
}

// GivenEver are all waivers and words of an enrolment, also withdrawn ones, oldest first.
func (s *Store) GivenEver(ctx context.Context, enrolment string) ([]PastGiven, error) {
	return list(ctx, s.r, func(g *PastGiven) []any {
		return []any{&g.ID, &g.RungID, &g.Kind, &g.Rule, &g.Reason, &g.Actor, &g.Rung, asTime{&g.At}, &g.Withdrawn}
	}, `SELECT v.id, v.rung_id, v.kind, v.rule, v.reason, v.actor, r.name, v.at, EXISTS (SELECT 1 FROM eligibility_event n WHERE n.supersedes = v.id)
		FROM eligibility_event v JOIN rung r ON r.id = v.rung_id WHERE v.enrolment_id = ? AND v.kind <> 'withdrawn' ORDER BY v.at`, enrolment)
}
