package store

import (
	"context"
	_ "embed"
	"errors"
	"strings"
	"sync"
	"time"

	"golang.org/x/text/unicode/norm"

	"github.com/alexedwards/argon2id"
	"github.com/alexedwards/scs/sqlite3store"
	"github.com/ncruces/go-sqlite3"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
)

// Role says what a person may do.
type Role string

// The roles. An owner may do everything.
const (
	Owner      Role = "owner"
	Instructor Role = "instructor"
)

// Roles are the choices.
var Roles = []Role{Owner, Instructor}

// Words is the role with what it may do.
func (r Role) Words() string {
	return map[Role]string{Owner: "owner: defines the curriculum, decides, sees everything", Instructor: "instructor: teaches, keeps registers, signs off"}[r]
}

// Person is somebody who signs in.
type Person struct {
	ID, Name string
	SignIn   string // typed at the door, without regard to letter case
	Role     Role
	Second   bool // they have a second factor
}

// ErrWrong is the answer to a name and a password that do not belong together; it does not say
// which of them is wrong.
var ErrWrong = errors.New("the name and the password do not belong together")

const selectPerson = `SELECT p.id, p.name, p.sign_in, p.role, EXISTS (SELECT 1 FROM second_factor f WHERE f.person_id = p.id) FROM person p `

func bindPerson(p *Person) []any { return []any{&p.ID, &p.Name, &p.SignIn, &p.Role, &p.Second} }

// People are all who may sign in, by name.
func (s *Store) People(ctx context.Context) ([]Person, error) {
	return list(ctx, s.r, bindPerson, selectPerson+`WHERE p.deleted_at IS NULL ORDER BY p.role DESC, p.name`)
}

// Person is one who may sign in.
func (s *Store) Person(ctx context.Context, id string) (Person, error) {
	return one(ctx, s.r, bindPerson, selectPerson+`WHERE p.id = ? AND p.deleted_at IS NULL`, id)
}

// nobody makes a hash like any other, compared with where there is no such person, so that
// an answer takes as long.
var nobody = func() string {
	hash, err := argon2id.CreateHash("nobody at all", argon2id.DefaultParams)
	if err != nil {
		panic(err) // only where the machine has no randomness
	}
	return hash
}

// hashers is how many passwords are looked at at once: each takes 64 MiB for as long as it lasts.
const hashers = 2

// hashing waits for its turn to look at a password, and does so; whoever has gone meanwhile waits no more.
func (s *Store) hashing(ctx context.Context, look func() error) error {
	select {
	case s.hashes <- struct{}{}:
	case <-ctx.Done():
		return ctx.Err()
	}
	defer func() { <-s.hashes }()
	return look()
}

// typed is a password as every keyboard comes to it: an é is one however a device puts it together, and wide letters are letters
// (NFKC).
func typed(password string) string { return norm.NFKC.String(clipTo(password, office.MostPassword)) }

// matches reports whether a password is the one a hash was made of.
func (s *Store) matches(ctx context.Context, password, hash string) (same bool, err error) {
	err = s.hashing(ctx, func() error {
		same, err = argon2id.ComparePasswordAndHash(typed(password), hash)
		if raw := clipTo(password, office.MostPassword); err == nil && !same && raw != typed(password) { // a hash from before
			same, err = argon2id.ComparePasswordAndHash(raw, hash)
		}
		return err
	})
	return same, err
}

// SignIn finds the person a name and a password belong to, or answers ErrWrong.
func (s *Store) SignIn(ctx context.Context, name, password string) (Person, error) {
	type row struct {
		Person
		hash string
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return append(bindPerson(&x.Person), &x.hash) },
		`SELECT p.id, p.name, p.sign_in, p.role, EXISTS (SELECT 1 FROM second_factor f WHERE f.person_id = p.id), w.hash FROM person p JOIN person_password w ON w.person_id = p.id WHERE p.sign_in = ? AND p.deleted_at IS NULL`, check.Key(name))
	if err != nil {
		return Person{}, err
	}
	if len(rows) == 0 {
		s.nobodyOnce.Do(func() { s.nobody = nobody() })
		if _, err := s.matches(ctx, password, s.nobody); err != nil {
			return Person{}, err
		}
		return Person{}, ErrWrong
	}
	same, err := s.matches(ctx, password, rows[0].hash)
	if err != nil {
		return Person{}, err
	}
	if !same {
		return Person{}, ErrWrong
	}
	return rows[0].Person, nil
}

func clipTo(s string, n int) string {
	if r := []rune(s); len(r) > n {
		return string(r[:n])
	}
	return s
}

// SavePerson adds a person when the ID is empty, else changes name, sign-in name and role. A
// password is needed for a new person; "" leaves the one there is. first allows the first owner
// of a school, and nobody else.
func (s *Store) SavePerson(ctx context.Context, by By, x Person, password string, first bool) (Done, error) {
	return s.savePerson(ctx, by, x, password, first, "")
}

//go:embed common/passwords.txt
var commonFile string

// common are the passwords that are tried first: the 10,000 most used of a list that was put together from what leaked, and
// all of it that are long enough.
var common = sync.OnceValue(func() map[string]bool {
	out := map[string]bool{}
	for p := range strings.Lines(commonFile) {
		out[strings.TrimSpace(p)] = true
	}
	return out
})

// checkPerson says what is wrong with somebody who is to sign in; a new one needs a password.
func (s *Store) checkPerson(ctx context.Context, x Person, password string) error {
	var p check.Problems
	p.Name("name", x.Name)
	p.Name("sign_in", x.SignIn)
	check.OneOf(&p, "role", x.Role, Roles)
	if x.ID == "" || password != "" {
		school, err := s.School(ctx)
		if err != nil {
			return err
		}
		office.CheckPassword(&p, norm.NFKC.String(password), func(p string) bool { return common()[p] }, x.SignIn, x.Name, school)
	}
	if len(p) > 0 {
		return p
	}
	return nil
}

// savePerson is SavePerson; a new password signs the person out everywhere but on the device of a sign-in.
func (s *Store) savePerson(ctx context.Context, by By, x Person, password string, first bool, here string) (Done, error) {
	x.Name, x.SignIn = check.Tidy(x.Name), check.Key(x.SignIn)
	if err := s.checkPerson(ctx, x, password); err != nil {
		return Done{}, err
	}
	hash := ""
	if password != "" {
		err := s.hashing(ctx, func() (err error) {
			hash, err = argon2id.CreateHash(typed(password), argon2id.DefaultParams)
			return err
		})
		if err != nil {
			return Done{}, err
		}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		if first {
			n, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM person`)
			if err != nil {
				return "", office.Deed{}, err
			}
			if n > 0 {
				return "", office.Deed{}, refuse("This school has an owner already; sign in, or ask the owner.")
			}
		}
		id, kind := x.ID, office.PersonChanged
		if id == "" {
			id, kind = NewID(), office.PersonAdded
		}
		if err := t.touch(ctx, "person", id); err != nil {
			return "", office.Deed{}, err
		}
		var err error
		if x.ID == "" {
			err = t.exec(ctx, `INSERT INTO person (id, name, sign_in, role) VALUES (?, ?, ?, ?)`, id, x.Name, x.SignIn, x.Role)
		} else {
			if x.Role != Owner {
				if err := t.anotherOwner(ctx, id); err != nil {
					return "", office.Deed{}, err
				}
			}
			err = t.exec(ctx, `UPDATE person SET name = ?, sign_in = ?, role = ? WHERE id = ? AND deleted_at IS NULL`, x.Name, x.SignIn, x.Role, id)
		}
		if errors.Is(err, sqlite3.CONSTRAINT_UNIQUE) {
			return "", office.Deed{}, check.Problems{{Field: "sign_in", Text: "“" + x.SignIn + "” is taken; choose another name to sign in with"}}
		}
		if err != nil || hash == "" {
			return id, kind.Of(id), err
		}
		if err := t.endSignIns(ctx, id, here); err != nil {
			return "", office.Deed{}, err
		}
		return id, kind.Of(id), t.setPassword(ctx, id, hash)
	})
}

// there answers ErrNotFound where nobody who may sign in has an id.
func (t *txn) there(ctx context.Context, person string) error {
	_, err := one(ctx, t, bindPerson, selectPerson+`WHERE p.id = ? AND p.deleted_at IS NULL`, person)
	return err
}

func (t *txn) setPassword(ctx context.Context, person, hash string) error {
	return t.exec(ctx, `INSERT INTO person_password (person_id, hash) VALUES (?1, ?2) ON CONFLICT (person_id) DO UPDATE SET hash = ?2`, person, hash)
}

// ResetPassword gives a person another password and takes their second factor away: for whoever is at the machine itself. They are
// signed out everywhere, at once also by a program that serves the file meanwhile.
func (s *Store) ResetPassword(ctx context.Context, by By, person, password string) (Done, error) {
	hash, err := argon2id.CreateHash(typed(password), argon2id.DefaultParams)
	if err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		for _, do := range []func() error{
			func() error { return t.there(ctx, person) },
			func() error { return t.setPassword(ctx, person, hash) },
			func() error { return t.dropFactor(ctx, person) },
			func() error { return t.endSignIns(ctx, person, "") },
		} {
			if err := do(); err != nil {
				return "", office.Deed{}, err
			}
		}
		return person, office.PasswordReset.Of(person), nil
	})
}

// ChangePassword sets a person's password; the one there is must be known. They stay signed in on the device of a sign-in.
func (s *Store) ChangePassword(ctx context.Context, by By, x Person, old, password, here string) (Done, error) {
	if _, err := s.SignIn(ctx, x.SignIn, old); err != nil {
		if errors.Is(err, ErrWrong) {
			err = check.Problems{{Field: "old", Text: "is not your password"}}
		}
		return Done{}, err
	}
	return s.savePerson(ctx, by, x, password, false, here)
}

// anotherOwner refuses what would leave a school without an owner.
func (t *txn) anotherOwner(ctx context.Context, but string) error {
	n, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM person WHERE role = 'owner' AND deleted_at IS NULL AND id <> ?`, but)
	if err == nil && n == 0 {
		return refuse("This is the only owner; make somebody else an owner first.")
	}
	return err
}

// DeletePerson ends a person's access. What they wrote stays under their name.
func (s *Store) DeletePerson(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "person", id)
}

func personFree(ctx context.Context, t *txn, id string) error { return t.anotherOwner(ctx, id) }

// Sessions keeps signed-in sessions: found by reading, so that a page never waits for a write.
type Sessions struct{ find, write *sqlite3store.SQLite3Store }

// Sessions are the sessions of this school. Those that have ended go when somebody signs in.
func (s *Store) Sessions() *Sessions {
	none := sqlite3store.Config{}
	return &Sessions{sqlite3store.NewWithConfig(s.r, none), sqlite3store.NewWithConfig(s.w, none)}
}

// Find looks a session up.
func (x *Sessions) Find(token string) ([]byte, bool, error) { return x.find.Find(token) }

// Commit keeps a session.
func (x *Sessions) Commit(token string, data []byte, expiry time.Time) error {
	return x.write.Commit(token, data, expiry)
}

// Delete ends a session.
func (x *Sessions) Delete(token string) error { return x.write.Delete(token) }
