package store

import (
	"context"
	"errors"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
)

// How long somebody stays signed in on a device. Both are counted by the records' clock.
const (
	signInIdle  = 12 * time.Hour      // without a page, and without one that is open and kept told
	SignInMost  = 14 * 24 * time.Hour // whatever happens
	seenEvery   = 5 * time.Minute     // how exactly it is known when it was last used
	aheadMost   = time.Hour           // what is dated further ahead was made while a clock was wrong, and has ended
	ProvedFor   = 10 * time.Minute    // how long the password is not asked for again before what needs it
	signInsKept = 90 * 24 * time.Hour // ended ones, to know the addresses somebody comes from
)

// SignIn is somebody who is signed in on a device.
type SignIn struct {
	ID, PersonID, Person string
	At, Seen             time.Time
	Proved               time.Time // when the password was last asked for
	Address, Device      string
}

func bindSignIn(x *SignIn) []any {
	return []any{&x.ID, &x.PersonID, &x.Person, asTime{&x.At}, asTime{&x.Seen}, asTime{&x.Proved}, &x.Address, &x.Device}
}

const selectSignIn = `SELECT i.id, i.person_id, p.name, i.at, i.seen_at, i.proved_at, i.address, i.device FROM sign_in i JOIN person p ON p.id = i.person_id
	WHERE i.ended_at IS NULL AND p.deleted_at IS NULL `

// over reports whether a sign-in has ended by the clock.
func (s *Store) over(x SignIn) bool {
	now := s.now()
	return now.Sub(x.Seen) > signInIdle || now.Sub(x.At) > SignInMost || x.At.Sub(now) > aheadMost || x.Seen.Sub(now) > aheadMost
}

// ProvedLately reports whether the password was asked for lately enough.
func (s *Store) ProvedLately(x SignIn) bool {
	since := s.now().Sub(x.Proved)
	return since >= 0 && since <= ProvedFor
}

// BeginSignIn notes that a person has come in on a device, whoever they said they are having been found true.
func (s *Store) BeginSignIn(ctx context.Context, p Person, address, device string) (SignIn, error) {
	now := s.now()
	x := SignIn{ID: NewID(), PersonID: p.ID, Person: p.Name, At: now, Seen: now, Proved: now, Address: address, Device: device}
	_, err := s.write(ctx, By{Actor: p.Name}, func(t *txn) (string, office.Deed, error) {
		if err := t.there(ctx, p.ID); err != nil {
			return "", office.Deed{}, err
		}
		old := now.Add(-signInsKept).UTC().Format(time.RFC3339Nano)
		if _, err := t.ExecContext(ctx, `DELETE FROM sign_in WHERE seen_at < ?`, old); err != nil {
			return "", office.Deed{}, err
		}
		if _, err := t.ExecContext(ctx, `DELETE FROM sessions WHERE expiry < julianday('now')`); err != nil {
			return "", office.Deed{}, err
		}
		deed := office.SignedIn.Named(device)
		deed.Who, deed.In = p.ID, address
		return x.ID, deed, t.exec(ctx, `INSERT INTO sign_in (id, person_id, at, seen_at, proved_at, address, device) VALUES (?1, ?2, ?3, ?3, ?3, ?4, ?5)`, x.ID, p.ID, t.at, address, device)
	})
	return x, err
}

// SignedIn is who is signed in by a sign-in, and how; ErrNotFound where it has ended.
func (s *Store) SignedIn(ctx context.Context, id string) (Person, SignIn, error) {
	x, err := one(ctx, s.r, bindSignIn, selectSignIn+`AND i.id = ?`, id)
	if err == nil && s.over(x) {
		err = ErrNotFound
	}
	if err != nil {
		return Person{}, SignIn{}, err
	}
	p, err := s.Person(ctx, x.PersonID)
	return p, x, err
}

// StillHere notes that a sign-in is in use; more often than every few minutes it does nothing.
func (s *Store) StillHere(ctx context.Context, x SignIn) error {
	if d := s.now().Sub(x.Seen); d >= 0 && d < seenEvery {
		return nil
	}
	_, err := s.w.ExecContext(ctx, `UPDATE sign_in SET seen_at = ? WHERE id = ?`, s.now().UTC().Format(time.RFC3339Nano), x.ID)
	return err
}

// SignIns are those that hold, of a person or of all (""), the last used first.
func (s *Store) SignIns(ctx context.Context, person string) ([]SignIn, error) {
	all, err := list(ctx, s.r, bindSignIn, selectSignIn+`AND (?1 = '' OR i.person_id = ?1) ORDER BY i.seen_at DESC`, person)
	out := all[:0]
	for _, x := range all {
		if !s.over(x) {
			x.At, x.Seen = x.At.In(s.zone), x.Seen.In(s.zone)
			out = append(out, x)
		}
	}
	return out, err
}

// EndSignIn signs somebody out on a device; of is whose it must be, "" anybody's.
func (s *Store) EndSignIn(ctx context.Context, by By, id, of string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		x, err := one(ctx, t, bindSignIn, selectSignIn+`AND i.id = ?`, id)
		if err == nil && of != "" && x.PersonID != of {
			err = ErrNotFound
		}
		if err != nil {
			return "", office.Deed{}, err
		}
		deed := office.SignedOut.Named(x.Device)
		deed.Who = x.PersonID
		return id, deed, t.exec(ctx, `UPDATE sign_in SET ended_at = ? WHERE id = ?`, t.at, id)
	})
}

// endSignIns signs a person out everywhere but on one device ("" everywhere).
func (t *txn) endSignIns(ctx context.Context, person, but string) error {
	_, err := t.ExecContext(ctx, `UPDATE sign_in SET ended_at = ? WHERE person_id = ? AND id <> ? AND ended_at IS NULL`, t.at, person, but)
	return err
}

// ComesFrom reports whether somebody has signed in by a name from an address before, within the last months.
func (s *Store) ComesFrom(ctx context.Context, name, address string) (bool, error) {
	n, err := one(ctx, s.r, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM sign_in i JOIN person p ON p.id = i.person_id WHERE p.sign_in = ? AND p.deleted_at IS NULL AND i.address = ?`, check.Key(name), address)
	return n > 0, err
}

// NoteRefused notes that somebody tried to come in by the name of a person and was refused. Names of nobody are not noted: people type
// passwords there.
func (s *Store) NoteRefused(ctx context.Context, name, address string) error {
	id, err := one(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT id FROM person WHERE sign_in = ? AND deleted_at IS NULL`, check.Key(name))
	if errors.Is(err, ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	deed := office.SignInRefused.Of(id)
	deed.In = address
	_, err = s.NoteDeed(ctx, By{Actor: AtTheDoor}, deed)
	return err
}

// AtTheDoor is the actor of what nobody who is known did.
const AtTheDoor = "the door"

// Prove asks somebody who is signed in for their password again, and for a code where they have a second factor.
func (s *Store) Prove(ctx context.Context, x SignIn, password, code string) error {
	p, err := s.Person(ctx, x.PersonID)
	if err != nil {
		return err
	}
	if p, err = s.SignIn(ctx, p.SignIn, password); err != nil {
		return err
	}
	if p.Second {
		if err := s.TakeCode(ctx, p, code); err != nil {
			return err
		}
	}
	_, err = s.w.ExecContext(ctx, `UPDATE sign_in SET proved_at = ? WHERE id = ?`, s.now().UTC().Format(time.RFC3339Nano), x.ID)
	return err
}
