package store

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base32"
	"encoding/hex"
	"strings"
	"time"
	"unicode"

	"github.com/pquerna/otp"
	"github.com/pquerna/otp/hotp"
	"github.com/pquerna/otp/totp"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
)

// A second factor is a code of six figures that changes every half-minute (RFC 6238, SHA-1, as all apps for it know), or one of
// ten recovery codes. Each works once.

const (
	codeStep      = 30 // seconds that a code holds
	codeSlack     = 1  // steps that a clock may be off, either way
	recoveryCodes = 10
	recoveryChars = 16 // of base 32: 80 bits
)

// Factor is a person's second factor.
type Factor struct {
	Since time.Time // zero: they have none
	Left  int       // recovery codes that were not used
}

// Factor is the second factor of a person.
func (s *Store) Factor(ctx context.Context, person string) (Factor, error) {
	f, err := one(ctx, s.r, func(f *Factor) []any { return []any{asTime{&f.Since}, &f.Left} },
		`SELECT since, (SELECT count(*) FROM recovery_code r WHERE r.person_id = f.person_id AND r.used_at IS NULL) FROM second_factor f WHERE person_id = ?`, person)
	f.Since = f.Since.In(s.zone)
	return f, ignoreMissing(err)
}

// NewSecret is what an app makes codes of: 160 bits, base 32.
func NewSecret() string {
	raw := make([]byte, 20)
	rand.Read(raw)
	return base32.StdEncoding.EncodeToString(raw)
}

// SecretAddress is a secret as an app reads it from a picture, with the school's name and the name to sign in with.
func SecretAddress(secret, school, signIn string) (string, error) {
	raw, err := base32.StdEncoding.DecodeString(secret)
	if err != nil {
		return "", err
	}
	key, err := totp.Generate(totp.GenerateOpts{Issuer: cmp.Or(school, "Velvet Ladder"), AccountName: signIn, Secret: raw})
	if err != nil {
		return "", err
	}
	return key.URL(), nil
}

// stepOf finds the half-minute a code belongs to; 0 none that is near, or none after the last that was taken.
func (s *Store) stepOf(code, secret string, last int64) int64 {
	now := s.now().Unix() / codeStep
	for step := now - codeSlack; step <= now+codeSlack; step++ {
		right, err := hotp.ValidateCustom(code, uint64(step), secret, hotp.ValidateOpts{Digits: otp.DigitsSix, Algorithm: otp.AlgorithmSHA1})
		if err == nil && right && step > last {
			return step
		}
	}
	return 0
}

// SetFactor gives a person a second factor once a code shows that their app has the secret, and answers the recovery codes: they are
// shown once and kept as digests. Whatever factor there was goes.
func (s *Store) SetFactor(ctx context.Context, by By, person, secret, code string) (codes []string, err error) {
	step := s.stepOf(plainRecovery(code), secret, 0)
	if step == 0 {
		return nil, check.Problems{{Field: "code", Text: "is not the code of this moment. Type the six figures that the app shows now; if they are refused again, look whether the clocks of this machine and of the app's device are right"}}
	}
	_, err = s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if err := t.there(ctx, person); err != nil {
			return "", office.Deed{}, err
		}
		if err := t.exec(ctx, `INSERT INTO second_factor (person_id, secret, step, since) VALUES (?1, ?2, ?3, ?4) ON CONFLICT (person_id) DO UPDATE SET secret = ?2, step = ?3, since = ?4`, person, secret, step, t.at); err != nil {
			return "", office.Deed{}, err
		}
		codes, err = t.newCodes(ctx, person)
		return person, office.FactorSet.Of(person), err
	})
	return codes, err
}

// NewRecoveryCodes makes recovery codes in the place of those there are.
func (s *Store) NewRecoveryCodes(ctx context.Context, by By, person string) (codes []string, err error) {
	_, err = s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		codes, err = t.newCodes(ctx, person)
		return person, office.CodesMade.Of(person), err
	})
	return codes, err
}

func (t *txn) newCodes(ctx context.Context, person string) (codes []string, err error) {
	if err := t.there(ctx, person); err != nil {
		return nil, err
	}
	if _, err := t.ExecContext(ctx, `DELETE FROM recovery_code WHERE person_id = ?`, person); err != nil {
		return nil, err
	}
	for range recoveryCodes {
		code := rand.Text()[:recoveryChars]
		if err := t.exec(ctx, `INSERT INTO recovery_code (digest, person_id) VALUES (?, ?)`, recoveryDigest(code), person); err != nil {
			return nil, err
		}
		codes = append(codes, code[:4]+"-"+code[4:8]+"-"+code[8:12]+"-"+code[12:])
	}
	return codes, nil
}

// DropFactor takes a person's second factor away.
func (s *Store) DropFactor(ctx context.Context, by By, person string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if err := t.there(ctx, person); err != nil {
			return "", office.Deed{}, err
		}
		return person, office.FactorDropped.Of(person), t.dropFactor(ctx, person)
	})
}

func (t *txn) dropFactor(ctx context.Context, person string) error {
	for _, table := range []string{"second_factor", "recovery_code"} {
		if _, err := t.ExecContext(ctx, `DELETE FROM `+table+` WHERE person_id = ?`, person); err != nil {
			return err
		}
	}
	return nil
}

// TakeCode takes a code of a person's second factor, or one of their recovery codes: each once, also when it is sent twice at the same
// time. Another is answered ErrWrong.
func (s *Store) TakeCode(ctx context.Context, p Person, code string) error {
	code = plainRecovery(code)
	_, err := s.write(ctx, By{Actor: p.Name}, func(t *txn) (string, office.Deed, error) {
		type factor struct {
			secret string
			last   int64
		}
		f, err := one(ctx, t, func(f *factor) []any { return []any{&f.secret, &f.last} }, `SELECT secret, step FROM second_factor WHERE person_id = ?`, p.ID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if step := s.stepOf(code, f.secret, f.last); step > 0 {
			return p.ID, office.Deed{}, t.exec(ctx, `UPDATE second_factor SET step = ? WHERE person_id = ?`, step, p.ID)
		}
		res, err := t.ExecContext(ctx, `UPDATE recovery_code SET used_at = ? WHERE digest = ? AND person_id = ? AND used_at IS NULL`, t.at, recoveryDigest(code), p.ID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if n, err := res.RowsAffected(); err != nil || n == 0 {
			return "", office.Deed{}, orErr(err, ErrWrong)
		}
		return p.ID, office.CodeUsed.Of(p.ID), nil
	})
	return err
}

// plainRecovery is a code as people type it, without what they put between.
func plainRecovery(code string) string {
	return strings.Map(func(r rune) rune {
		if r == '-' || unicode.IsSpace(r) {
			return -1
		}
		return unicode.ToUpper(r)
	}, code)
}

func recoveryDigest(code string) string {
	sum := sha256.Sum256([]byte(plainRecovery(code)))
	return hex.EncodeToString(sum[:])
}
