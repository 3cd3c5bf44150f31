package store

import (
	"context"
	"slices"
	"strings"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

// Given is a waiver, an instructor's word or an example from the family on record.
type Given struct {
	ID          string
	EnrolmentID string
	RungID      string
	Kind        string // waiver, word, character
	Rule        curriculum.RuleKind
	Reason      string
	Actor       string
}

// Waive lets a student off one rule of the rung they climb to, with a reason that stays on
// record.
func (s *Store) Waive(ctx context.Context, by By, enrolment string, rule curriculum.RuleKind, reason string) (Done, error) {
	reason = check.Tidy(reason)
	var p check.Problems
	kind, _, _ := strings.Cut(string(rule), ":")
	if check.OneOf(&p, "rule", curriculum.RuleKind(kind), append(slices.Clone(curriculum.RuleKinds), curriculum.RetestWait)); reason == "" {
		p.Add("reason", "is empty; say why the rule does not hold for this student, it is shown for ever")
	}
	if p.Line("reason", reason, check.LineLength); len(p) > 0 {
		return Done{}, p
	}
	return s.give(ctx, by, enrolment, "waiver", rule, reason)
}

// GiveExample records what the family gave as an example of the character task.
func (s *Store) GiveExample(ctx context.Context, by By, enrolment, example string) (Done, error) {
	example = check.Tidy(example)
	var p check.Problems
	if example == "" {
		p.Add("example", "is empty; write what the family saw, in a line")
	}
	if p.Line("example", example, check.LineLength); len(p) > 0 {
		return Done{}, p
	}
	return s.give(ctx, by, enrolment, "character", curriculum.CharacterTask, example)
}

// MostExamples are as many examples of the character task as stand for one rung.
const MostExamples = 20

// ExamplesAt are the examples of the character task that stand for a grading's candidates and their rung, by enrolment,
// with who gave them.
func (s *Store) ExamplesAt(ctx context.Context, gradingID string) (map[string][]string, error) {
	type row struct{ enrolment, text, actor string }
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.enrolment, &x.text, &x.actor} },
		`SELECT v.enrolment_id, v.reason, v.actor FROM candidate c JOIN eligibility_event v ON v.enrolment_id = c.enrolment_id AND v.rung_id = c.to_rung_id AND v.kind = 'character'
		WHERE c.grading_id = ? AND c.withdrawn_at IS NULL AND NOT EXISTS (SELECT 1 FROM eligibility_event n WHERE n.supersedes = v.id) ORDER BY v.at`, gradingID)
	out := map[string][]string{}
	for _, x := range rows {
		out[x.enrolment] = append(out[x.enrolment], x.text+" ("+x.actor+")")
	}
	return out, err
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
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		all, err := t.climbings(ctx, s.Today(), `e.id = ? AND e.ended_on IS NULL`, enrolment)
		if err != nil {
			return "", office.Deed{}, err
		}
		if len(all) == 0 {
			return "", office.Deed{}, ErrNotFound
		}
		c := all[0]
		if c.Next == nil {
			return "", office.Deed{}, refuse("%s stands on the highest rung; there is nothing above to be tested for.", c.Name)
		}
		if slices.ContainsFunc(c.Given, func(g Given) bool {
			return g.Kind == kind && g.Rule == rule && (kind != "character" || check.Key(g.Reason) == check.Key(reason))
		}) {
			return "", office.Deed{}, refuse("That is on record already for %s.", c.Name)
		}
		if n := len(c.Given); kind == "character" && n >= MostExamples {
			return "", office.Deed{}, refuse("%d things are on record for this rung already; that is enough.", n)
		}
		id := NewID()
		deed := office.RuleWaived.Of(c.StudentID)
		switch kind {
		case "word":
			deed.Kind, deed.Entry = office.WordGiven, id
		case "character":
			deed.Kind = office.ExampleNoted
		}
		return id, deed, t.exec(ctx, `INSERT INTO eligibility_event (id, enrolment_id, rung_id, kind, rule, reason, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`, id, enrolment, c.Next.ID, kind, rule, reason, t.by.Actor, t.at)
	})
}

// WithdrawGiven takes back a waiver or a word: a new entry, the old one stays on record.
func (s *Store) WithdrawGiven(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		return id, office.Deed{Kind: office.GivenWithdrawn}, t.exec(ctx, `INSERT INTO eligibility_event (id, enrolment_id, rung_id, kind, rule, supersedes, actor, at)
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
