package store

import (
	"context"
	"errors"
	"time"

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
	Stamp    int // of the password: sessions of an older one have ended
}

// Lengths of a password in characters. The longest is what a person may still type.
const (
	LeastPassword = 10
	MostPassword  = 200
)

// ErrWrong is the answer to a name and a password that do not belong together; it does not say
// which of them is wrong.
var ErrWrong = errors.New("the name and the password do not belong together")

const selectPerson = `SELECT p.id, p.name, p.sign_in, p.role, coalesce(w.stamp, 0) FROM person p LEFT JOIN person_password w ON w.person_id = p.id `

func bindPerson(p *Person) []any { return []any{&p.ID, &p.Name, &p.SignIn, &p.Role, &p.Stamp} }

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

// matches reports whether a password is the one a hash was made of.
func (s *Store) matches(ctx context.Context, password, hash string) (same bool, err error) {
	err = s.hashing(ctx, func() error {
		same, err = argon2id.ComparePasswordAndHash(clipTo(password, MostPassword), hash)
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
		`SELECT p.id, p.name, p.sign_in, p.role, w.stamp, w.hash FROM person p JOIN person_password w ON w.person_id = p.id WHERE p.sign_in = ? AND p.deleted_at IS NULL`, check.Key(name))
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

func checkPassword(p *check.Problems, password string) {
	switch n := len([]rune(password)); {
	case n < LeastPassword:
		p.Add("password", "has %d characters; at least %d are needed. Four words that do not belong together are easy to keep", n, LeastPassword)
	case n > MostPassword:
		p.Add("password", "has %d characters; up to %d fit", n, MostPassword)
	}
}

// SavePerson adds a person when the ID is empty, else changes name, sign-in name and role. A
// password is needed for a new person; "" leaves the one there is. first allows the first owner
// of a school, and nobody else.
func (s *Store) SavePerson(ctx context.Context, by By, x Person, password string, first bool) (Done, error) {
	x.Name, x.SignIn = check.Tidy(x.Name), check.Key(x.SignIn)
	var p check.Problems
	p.Name("name", x.Name)
	p.Name("sign_in", x.SignIn)
	check.OneOf(&p, "role", x.Role, Roles)
	if x.ID == "" || password != "" {
		checkPassword(&p, password)
	}
	if len(p) > 0 {
		return Done{}, p
	}
	hash := ""
	if password != "" {
		err := s.hashing(ctx, func() (err error) {
			hash, err = argon2id.CreateHash(password, argon2id.DefaultParams)
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
		return id, kind.Of(id), t.exec(ctx, `INSERT INTO person_password (person_id, hash) VALUES (?1, ?2) ON CONFLICT (person_id) DO UPDATE SET hash = ?2, stamp = stamp + 1`, id, hash)
	})
}

// ChangePassword sets a person's password; the one there is must be known.
func (s *Store) ChangePassword(ctx context.Context, by By, x Person, old, password string) (Done, error) {
	if _, err := s.SignIn(ctx, x.SignIn, old); err != nil {
		if errors.Is(err, ErrWrong) {
			err = check.Problems{{Field: "old", Text: "is not your password"}}
		}
		return Done{}, err
	}
	return s.SavePerson(ctx, by, x, password, false)
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

// Sessions are the sessions of this school. Expired ones go when somebody signs in.
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

// DropExpired takes ended sessions out of the file.
func (s *Store) DropExpired(ctx context.Context) error {
	_, err := s.w.ExecContext(ctx, `DELETE FROM sessions WHERE expiry < julianday('now')`)
	return err
}
