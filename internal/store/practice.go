package store

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"net/url"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
)

// FamilyLink lets a student or guardian read one student's climb, and tick practice.
type FamilyLink struct {
	ID, StudentID string
	Who           string // for whom it was made
	ExpiresOn     civil.Date
	Revoked       bool
	Actor         string
	At            time.Time
}

const selectLink = `SELECT id, student_id, who, expires_on, revoked_at IS NOT NULL, actor, at FROM family_link `

func bindLink(l *FamilyLink) []any {
	return []any{&l.ID, &l.StudentID, &l.Who, asDate{&l.ExpiresOn}, &l.Revoked, &l.Actor, asTime{&l.At}}
}

// LinkDays are for how long a link may be made.
var LinkDays = []int{30, 180, 365}

// MakeLink makes a link for a student. token is what stands in its address: 160 random bits
// that are told this once and never again.
func (s *Store) MakeLink(ctx context.Context, by By, student, who string, days int) (token string, done Done, err error) {
	who = check.Tidy(who)
	var p check.Problems
	p.Line("who", who, check.NameLength)
	if days < 1 || days > 366 {
		p.Add("days", "is %d; a link holds for 1 to 366 days", days)
	}
	if len(p) > 0 {
		return "", Done{}, p
	}
	b := make([]byte, 20)
	rand.Read(b)
	token = hex.EncodeToString(b)
	done, err = s.write(ctx, By{Actor: by.Actor}, func(t *txn) (string, office.Deed, error) {
		if _, err := one(ctx, t, bindStudent, `SELECT `+studentColumns+` FROM student s WHERE s.id = ? AND s.deleted_at IS NULL`, student); err != nil {
			return "", office.Deed{}, err
		}
		id := NewID()
		return id, office.LinkMade.Of(student), t.exec(ctx, `INSERT INTO family_link (id, student_id, digest, who, expires_on, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?)`, id, student, digest(token), who, s.Today().AddDays(days).String(), t.by.Actor, t.at)
	})
	return token, done, err
}

func digest(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// RevokeLink ends a link at once.
func (s *Store) RevokeLink(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		return id, office.Deed{Kind: office.LinkEnded}, t.exec(ctx, `UPDATE family_link SET revoked_at = ? WHERE id = ? AND revoked_at IS NULL`, t.at, id)
	})
}

// Links are the links ever made for a student, newest first.
func (s *Store) Links(ctx context.Context, student string) ([]FamilyLink, error) {
	return list(ctx, s.r, bindLink, selectLink+`WHERE student_id = ? ORDER BY at DESC`, student)
}

// ErrEnded says that a link was right once and holds no longer.
var ErrEnded = errors.New("this link has ended")

// LinkOf finds the link a token belongs to: ErrNotFound for none, ErrEnded for one that was
// revoked or has run out.
func (s *Store) LinkOf(ctx context.Context, token string) (FamilyLink, error) {
	l, err := one(ctx, s.r, bindLink, selectLink+`WHERE digest = ?`, digest(token))
	if err == nil && (l.Revoked || l.ExpiresOn.Before(s.Today())) {
		return FamilyLink{}, ErrEnded
	}
	return l, err
}

// Practised is how often something was practised at home.
type Practised struct {
	TechniqueID string
	Role        curriculum.Role
	Times       int
	Last        civil.Date
	TodayID     string // today's tick; "" none
}

// PractisedOf sums up the ticks of the last weeks.
func (s *Store) PractisedOf(ctx context.Context, enrolment string, from civil.Date) ([]Practised, error) {
	return list(ctx, s.r, func(p *Practised) []any {
		return []any{&p.TechniqueID, &p.Role, &p.Times, asDate{&p.Last}, asText{&p.TodayID}}
	},
		`SELECT technique_id, role, count(*), max(on_date), max(CASE WHEN on_date = ?3 THEN id END) FROM practice_event e
		WHERE enrolment_id = ?1 AND on_date >= ?2 AND kind = 'practised' AND NOT EXISTS (SELECT 1 FROM practice_event n WHERE n.supersedes = e.id) GROUP BY technique_id, role`, enrolment, from.String(), s.Today().String())
}

// Tick notes that something was practised today, or takes today's tick back.
func (s *Store) Tick(ctx context.Context, by By, enrolment, technique string, role curriculum.Role) (Done, error) {
	var p check.Problems
	if check.OneOf(&p, "role", role, curriculum.Roles); len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		name, err := t.asksFor(ctx, enrolment, technique)
		if err != nil {
			return "", office.Deed{}, err
		}
		today := s.Today().String()
		if err := t.notMore(ctx, MostTicks, "ticks of today", `SELECT count(*) FROM practice_event WHERE enrolment_id = ? AND on_date = ?`, enrolment, today); err != nil {
			return "", office.Deed{}, err
		}
		have, err := list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT id FROM practice_event e WHERE enrolment_id = ? AND technique_id = ? AND role = ? AND on_date = ? AND kind = 'practised' AND NOT EXISTS (SELECT 1 FROM practice_event n WHERE n.supersedes = e.id)`, enrolment, technique, role, today)
		if err != nil {
			return "", office.Deed{}, err
		}
		id, kind, deed, supersedes := NewID(), "practised", office.Practised, any(nil)
		if len(have) > 0 {
			kind, deed, supersedes = "withdrawn", office.PractisedWithdrawn, have[0]
		}
		return id, deed.Named(name), t.exec(ctx, `INSERT INTO practice_event (id, enrolment_id, technique_id, role, on_date, kind, supersedes, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`, id, enrolment, technique, role, today, kind, supersedes, t.by.Actor, t.at)
	})
}

// How much a family's link may write, so that whoever holds one fills neither the file nor somebody's evening. Each is more than
// a family at practice comes near.
const (
	MostTicks   = 400 // a day for one climb, taken back ones too
	MostClips   = 10  // a day for one climb
	MostWaiting = 30  // clips of a climb that nobody has answered
	MostChoices = 60  // a day for one climb
)

// notMore refuses what comes more often than it may.
func (t *txn) notMore(ctx context.Context, most int, what, counted string, args ...any) error {
	n, err := one(ctx, t, func(n *int) []any { return []any{n} }, counted, args...)
	if err == nil && n >= most {
		err = refuse("%d %s are on record already; that is as many as fit.", n, what)
	}
	return err
}

// midnight is the instant at which today began in the school's zone, as it is kept.
func (s *Store) midnight() string {
	return s.Today().At(0, s.zone).UTC().Format(time.RFC3339Nano)
}

// asksFor is the name of a technique of the program an enrolment climbs in.
func (t *txn) asksFor(ctx context.Context, enrolment, technique string) (string, error) {
	return one(ctx, t, func(n *string) []any { return []any{n} }, `SELECT x.name FROM technique x JOIN enrolment e ON e.program_id = x.program_id AND e.ended_on IS NULL WHERE e.id = ? AND x.id = ? AND x.deleted_at IS NULL`, enrolment, technique)
}

// Clip is a clip sent in, with its answer.
type Clip struct {
	ID, TechniqueID, Name string
	Role                  curriculum.Role
	Address               string
	From                  string
	At                    time.Time
	Answer, AnsweredBy    string
}

// Clips are the clips sent in for a climb, newest first.
func (s *Store) Clips(ctx context.Context, enrolment string) ([]Clip, error) {
	return list(ctx, s.r, func(c *Clip) []any {
		return []any{&c.ID, &c.TechniqueID, &c.Name, &c.Role, &c.Address, &c.From, asTime{&c.At}, asText{&c.Answer}, asText{&c.AnsweredBy}}
	}, `SELECT c.id, c.technique_id, t.name, c.role, c.text, c.actor, c.at,
		(SELECT a.text FROM clip_event a WHERE a.about = c.id AND a.kind = 'answered' ORDER BY a.rowid DESC LIMIT 1), (SELECT a.actor FROM clip_event a WHERE a.about = c.id AND a.kind = 'answered' ORDER BY a.rowid DESC LIMIT 1)
		FROM clip_event c JOIN technique t ON t.id = c.technique_id WHERE c.enrolment_id = ? AND c.kind = 'sent' AND NOT EXISTS (SELECT 1 FROM clip_event w WHERE w.about = c.id AND w.kind = 'withdrawn') ORDER BY c.rowid DESC`, enrolment)
}

// SendClip keeps the address of a clip for feedback. The clip itself stays where it is.
func (s *Store) SendClip(ctx context.Context, by By, enrolment, technique string, role curriculum.Role, address string) (Done, error) {
	address = check.Tidy(address)
	var p check.Problems
	check.OneOf(&p, "role", role, curriculum.Roles)
	p.Line("address", address, check.LineLength)
	if u, err := url.Parse(address); err != nil || u.Scheme != "https" || u.Host == "" {
		p.Add("address", "is not the address of a clip; copy it from where the clip lies, it begins with https://")
	}
	if len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		name, err := t.asksFor(ctx, enrolment, technique)
		if err != nil {
			return "", office.Deed{}, err
		}
		if err := t.notMore(ctx, MostClips, "clips of today", `SELECT count(*) FROM clip_event WHERE enrolment_id = ? AND kind = 'sent' AND at >= ?`, enrolment, s.midnight()); err != nil {
			return "", office.Deed{}, err
		}
		if err := t.notMore(ctx, MostWaiting, "clips that wait for an answer", `SELECT count(*) FROM clip_event c WHERE enrolment_id = ? AND kind = 'sent' AND NOT EXISTS (SELECT 1 FROM clip_event a WHERE a.about = c.id)`, enrolment); err != nil {
			return "", office.Deed{}, err
		}
		id := NewID()
		return id, office.ClipCame.Named(name), t.exec(ctx, `INSERT INTO clip_event (id, enrolment_id, technique_id, role, kind, text, actor, at) VALUES (?, ?, ?, ?, 'sent', ?, ?, ?)`, id, enrolment, technique, role, address, t.by.Actor, t.at)
	})
}

// AnswerClip adds an instructor's answer to a clip; the newest one is shown.
func (s *Store) AnswerClip(ctx context.Context, by By, clip, answer string) (Done, error) {
	answer = check.Tidy(answer)
	var p check.Problems
	if answer == "" {
		p.Add("answer", "is empty; write what was good, and the one thing to mend")
	}
	if p.Line("answer", answer, check.LineLength); len(p) > 0 {
		return Done{}, p
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		return clip, office.Deed{Kind: office.ClipAnswered}, t.exec(ctx, `INSERT INTO clip_event (id, enrolment_id, technique_id, role, kind, text, about, actor, at) SELECT ?2, enrolment_id, technique_id, role, 'answered', ?3, id, ?4, ?5 FROM clip_event WHERE id = ?1 AND kind = 'sent'`, clip, NewID(), answer, t.by.Actor, t.at)
	})
}

// Drilled is how often each combination of a program was drawn and called.
func (s *Store) Drilled(ctx context.Context, program string) (map[string]int, error) {
	type row struct {
		line string
		n    int
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.line, &x.n} }, `SELECT line, count(*) FROM drill_event WHERE program_id = ? GROUP BY line`, program)
	out := map[string]int{}
	for _, x := range rows {
		out[x.line] = x.n
	}
	return out, err
}

// Drill notes that a combination was called.
func (s *Store) Drill(ctx context.Context, by By, program, line string) (Done, error) {
	line = check.Tidy(line)
	var p check.Problems
	if p.Line("line", line, check.LineLength); len(p) > 0 || line == "" {
		return Done{}, append(p, check.Problem{Field: "line", Text: "is empty"})
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		id := NewID()
		return id, office.Drilled.Named(line), t.exec(ctx, `INSERT INTO drill_event (id, program_id, line, on_date, actor, at) SELECT ?, id, ?, ?, ?, ? FROM program WHERE id = ?`, id, line, s.Today().String(), t.by.Actor, t.at, program)
	})
}
