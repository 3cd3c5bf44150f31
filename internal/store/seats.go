package store

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"strings"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
)

// ErrCode is the answer to a code that lets nobody in, without saying why.
var ErrCode = errors.New("this code is not known, was used, or is too old")

// Letters of a join code: no two that look alike, no vowels, so that no words come about.
const codeLetters = "BCDFGHJKLMNPQRSTVWXZ23456789"

const (
	codeLength = 10               // 28^10, about 2^48
	codeLasts  = 12 * time.Hour   // from when it was made
	seatAfter  = 48 * time.Hour   // a seat ends so long after the day of the grading has begun
	deviceMost = check.LineLength // characters kept of what a device calls itself
)

// JoinCode is a code just made; it is shown once and never again.
type JoinCode struct {
	ID, Code string
	Examiner gradingday.Examiner
	Until    time.Time
}

// Spelt is the code in two halves.
func (c JoinCode) Spelt() string { return c.Code[:codeLength/2] + "-" + c.Code[codeLength/2:] }

func digestOf(code string) string {
	sum := sha256.Sum256([]byte(plainCode(code)))
	return hex.EncodeToString(sum[:])
}

// plainCode is a code as people type it, without what they put between.
func plainCode(code string) string {
	return strings.Map(func(r rune) rune {
		if strings.ContainsRune(codeLetters, r) {
			return r
		}
		return -1
	}, strings.ToUpper(code))
}

// MakeCode makes a code that lets one device in as an examiner, in place of codes made for them
// before and not used.
func (s *Store) MakeCode(ctx context.Context, by By, examiner string) (JoinCode, error) {
	raw := make([]byte, codeLength)
	rand.Read(raw)
	for i, b := range raw {
		raw[i] = codeLetters[int(b)%len(codeLetters)]
	}
	out := JoinCode{ID: NewID(), Code: string(raw), Until: s.now().Add(codeLasts)}
	_, err := s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		of, err := one(ctx, t, func(id *string) []any { return []any{id} }, `SELECT p.grading_id FROM examiner e JOIN panel p ON p.id = e.panel_id WHERE e.id = ?`, examiner)
		if err != nil {
			return "", office.Deed{}, err
		}
		g, err := grading(ctx, t, of)
		if err != nil {
			return "", office.Deed{}, err
		}
		for _, e := range g.Examiners {
			if e.ID == examiner {
				out.Examiner = e
			}
		}
		if err := s.seatsOpen(g); err != nil {
			return "", office.Deed{}, err
		}
		if _, err := t.ExecContext(ctx, `UPDATE join_code SET ended_at = ? WHERE examiner_id = ? AND used_at IS NULL AND ended_at IS NULL`, t.at, examiner); err != nil {
			return "", office.Deed{}, err
		}
		return out.ID, office.CodeMade.Of(out.Examiner.ID), t.exec(ctx, `INSERT INTO join_code (id, examiner_id, digest, until, actor, at) VALUES (?, ?, ?, ?, ?, ?)`,
			out.ID, examiner, digestOf(out.Code), out.Until.UTC().Format(time.RFC3339), t.by.Actor, t.at)
	})
	return out, err
}

// seatsOpen refuses where examiners have nothing to do at a grading any more, or not yet.
func (s *Store) seatsOpen(g Grading) error {
	switch {
	case !g.Begun():
		return refuse("The tables are not open yet; open them first.")
	case g.Over(s.now().In(s.zone)):
		return refuse("This grading is over; its examiners' devices are out.")
	}
	return nil
}

// Over reports whether examiners' devices are out: the grading was closed, all its results are
// announced, or its day has passed by a day. now is in the school's zone.
func (g Grading) Over(now time.Time) bool {
	day, _ := time.ParseInLocation("2006-01-02", g.On.String(), now.Location()) // a civil date always parses
	return !g.ClosedAt.IsZero() || g.Candidates > 0 && g.Announced >= g.Candidates || now.After(day.Add(seatAfter))
}

// Seat is a device that came in by a code, as one examiner of one grading.
type Seat struct {
	ID         string
	ExaminerID string
	Examiner   string
	Chief      bool
	RingID     string
	GradingID  string
	Device     string // what the browser says of itself
	At         time.Time
	EndedAt    time.Time // zero: the device is in
}

const selectSeat = `SELECT s.id, s.examiner_id, e.name, e.chief, e.panel_id, p.grading_id, s.device, s.at, s.ended_at FROM seat s JOIN examiner e ON e.id = s.examiner_id JOIN panel p ON p.id = e.panel_id `

func bindSeat(x *Seat) []any {
	return []any{&x.ID, &x.ExaminerID, &x.Examiner, &x.Chief, &x.RingID, &x.GradingID, &x.Device, asTime{&x.At}, asTime{&x.EndedAt}}
}

// Invited is the examiner a code would let in; nothing is used up by looking.
func (s *Store) Invited(ctx context.Context, code string) (gradingday.Examiner, Grading, error) {
	return s.invited(ctx, s.r, code)
}

func (s *Store) invited(ctx context.Context, q querier, code string) (gradingday.Examiner, Grading, error) {
	type row struct{ examiner, grading string }
	x, err := one(ctx, q, func(r *row) []any { return []any{&r.examiner, &r.grading} }, `SELECT c.examiner_id, p.grading_id FROM join_code c JOIN examiner e ON e.id = c.examiner_id JOIN panel p ON p.id = e.panel_id
		WHERE c.digest = ? AND c.used_at IS NULL AND c.ended_at IS NULL AND c.until > ?`, digestOf(code), s.now().UTC().Format(time.RFC3339))
	if errors.Is(err, ErrNotFound) {
		err = ErrCode
	}
	if err != nil {
		return gradingday.Examiner{}, Grading{}, err
	}
	g, err := grading(ctx, q, x.grading)
	if err == nil {
		err = s.seatsOpen(g)
	}
	for _, e := range g.Examiners {
		if e.ID == x.examiner {
			return e, g, err
		}
	}
	return gradingday.Examiner{}, g, orErr(err, ErrCode)
}

// Join uses a code up and gives the device its seat.
func (s *Store) Join(ctx context.Context, code, device string) (Seat, error) {
	if r := []rune(check.Tidy(device)); len(r) > deviceMost {
		device = string(r[:deviceMost])
	}
	var seat string
	_, err := s.write(ctx, By{Actor: "the door"}, func(t *txn) (string, office.Deed, error) {
		e, _, err := s.invited(ctx, t, code)
		if err != nil {
			return "", office.Deed{}, err
		}
		t.by.Actor, seat = e.Name, NewID()
		if err := t.exec(ctx, `INSERT INTO seat (id, code_id, examiner_id, device, at) SELECT ?, id, examiner_id, ?, ? FROM join_code WHERE digest = ?`, seat, check.Tidy(device), t.at, digestOf(code)); err != nil {
			return "", office.Deed{}, err
		}
		return seat, office.Joined.Of(e.ID), t.exec(ctx, `UPDATE join_code SET used_at = ? WHERE digest = ?`, t.at, digestOf(code))
	})
	if err != nil {
		return Seat{}, err
	}
	return one(ctx, s.r, bindSeat, selectSeat+`WHERE s.id = ?`, seat)
}

// Seated is a seat that holds: not sent home, of a grading that goes on. ErrNotFound otherwise.
func (s *Store) Seated(ctx context.Context, id string) (Seat, error) {
	type row struct {
		Seat
		g Grading
	}
	x, err := one(ctx, s.r, func(r *row) []any {
		return append(bindSeat(&r.Seat), asDate{&r.g.On}, asTime{&r.g.ClosedAt}, &r.g.Candidates, &r.g.Announced)
	}, `SELECT s.id, s.examiner_id, e.name, e.chief, e.panel_id, p.grading_id, s.device, s.at, s.ended_at, g.on_date, g.closed_at,
		(SELECT count(*) FROM candidate c WHERE c.grading_id = g.id AND c.withdrawn_at IS NULL), (SELECT count(*) FROM candidate c JOIN announcement a ON a.candidate_id = c.id WHERE c.grading_id = g.id)
		FROM seat s JOIN examiner e ON e.id = s.examiner_id JOIN panel p ON p.id = e.panel_id JOIN grading g ON g.id = p.grading_id WHERE s.id = ? AND s.ended_at IS NULL AND g.deleted_at IS NULL`, id)
	if err == nil && x.g.Over(s.now().In(s.zone)) {
		err = ErrNotFound
	}
	return x.Seat, err
}

// Seats are all devices that came in at a grading, the newest first.
func (s *Store) Seats(ctx context.Context, gradingID string) ([]Seat, error) {
	return list(ctx, s.r, bindSeat, selectSeat+`WHERE p.grading_id = ? ORDER BY s.at DESC`, gradingID)
}

// EndSeat sends a device home. What it stored stays; what it still keeps is not taken any more.
func (s *Store) EndSeat(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		x, err := one(ctx, t, bindSeat, selectSeat+`WHERE s.id = ?`, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		if !x.EndedAt.IsZero() {
			return "", office.Deed{}, refuse("This device is out already.")
		}
		return x.GradingID, office.SentHome.Of(x.ExaminerID), t.exec(ctx, `UPDATE seat SET ended_at = ?, ended_by = ? WHERE id = ?`, t.at, t.by.Actor, id)
	})
}

// CloseGrading sends all examiners' devices of a grading home, or lets new ones in again.
func (s *Store) CloseGrading(ctx context.Context, by By, gradingID string, closed bool) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, err := grading(ctx, t, gradingID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if !g.Begun() {
			return "", office.Deed{}, refuse("The tables are not open yet.")
		}
		if !closed {
			return gradingID, office.LetInAgain.Named(g.Title()), t.exec(ctx, `UPDATE grading SET closed_at = NULL WHERE id = ?`, gradingID)
		}
		if _, err := t.ExecContext(ctx, `UPDATE seat SET ended_at = ?, ended_by = ? WHERE ended_at IS NULL AND examiner_id IN (SELECT e.id FROM examiner e JOIN panel p ON p.id = e.panel_id WHERE p.grading_id = ?)`, t.at, t.by.Actor, gradingID); err != nil {
			return "", office.Deed{}, err
		}
		return gradingID, office.AllSentHome.Named(g.Title()), t.exec(ctx, `UPDATE grading SET closed_at = ? WHERE id = ?`, t.at, gradingID)
	})
}
