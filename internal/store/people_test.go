package store

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/alexedwards/argon2id"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
)

// TestPeople: passwords are held as hashes, in no trail, and a change of one can be told.
func TestPeople(t *testing.T) {
	x := newSchool(t)
	const secret = "four odd grain sacks"
	_, err := x.SavePerson(bg, me, Person{Name: "Rosa", SignIn: "rosa", Role: "cook"}, "short", true)
	problem(t, err, "role", "is not a choice")
	problem(t, err, "password", "has 5 characters")
	d, err := x.SavePerson(bg, me, Person{Name: "Rosa", SignIn: " Rosa ", Role: Owner}, secret, true)
	require.NoError(t, err)
	_, err = x.SavePerson(bg, me, Person{Name: "Mallory", SignIn: "m", Role: Owner}, secret, true)
	refused(t, err, "has an owner already")
	p, err := x.SignIn(bg, "ROSA", secret)
	require.NoError(t, err)
	for _, guess := range [][2]string{{"rosa", "wrong"}, {"nobody", secret}, {"", ""}} {
		_, err = x.SignIn(bg, guess[0], guess[1])
		assert.ErrorIs(t, err, ErrWrong)
	}
	here, err := x.BeginSignIn(bg, p, "192.0.2.1", "an iPad")
	require.NoError(t, err)
	there, err := x.BeginSignIn(bg, p, "192.0.2.2", "a Mac")
	require.NoError(t, err)
	_, err = x.ChangePassword(bg, me, p, secret, "rosa 12345", here.ID)
	problem(t, err, "password", "tried first")
	_, err = x.ChangePassword(bg, me, p, "wrong", "another secret", "")
	problem(t, err, "old", "is not your password")
	_, err = x.ChangePassword(bg, me, p, secret, "another secret", here.ID)
	require.NoError(t, err)
	_, _, err = x.SignedIn(bg, here.ID)
	assert.NoError(t, err, "still in where it was changed")
	_, _, err = x.SignedIn(bg, there.ID)
	assert.ErrorIs(t, err, ErrNotFound, "and out elsewhere")
	_, err = x.DeletePerson(bg, me, d.ID)
	refused(t, err, "only owner")
	d, err = x.SavePerson(bg, me, Person{Name: "Marek", SignIn: "marek", Role: Instructor}, secret, false)
	require.NoError(t, err)
	marek, err := x.SignIn(bg, "marek", secret)
	require.NoError(t, err)
	his, err := x.BeginSignIn(bg, marek, "192.0.2.3", "a Mac")
	require.NoError(t, err)
	d, err = x.DeletePerson(bg, me, d.ID)
	require.NoError(t, err)
	_, err = x.SignIn(bg, "marek", secret)
	assert.ErrorIs(t, err, ErrWrong)
	_, err = x.Undo(bg, me, d.Audit)
	require.NoError(t, err)
	_, err = x.SignIn(bg, "marek", secret)
	assert.NoError(t, err, "undone, he is let in again")
	_, _, err = x.SignedIn(bg, his.ID)
	assert.ErrorIs(t, err, ErrNotFound, "but no session of before is")
	var trail string
	require.NoError(t, x.r.QueryRow(`SELECT group_concat(changes) || group_concat(action) || group_concat(args) FROM audit`).Scan(&trail))
	assert.NotContains(t, trail, "argon2", "no trail holds a password")
	assert.NotContains(t, trail, secret)
	require.NoError(t, x.Sessions().Commit("token", []byte("x"), clock().AddDate(-3, 0, 0)))
	_, found, err := x.Sessions().Find("token")
	require.NoError(t, err)
	assert.False(t, found, "it has ended")
	require.NoError(t, x.Sessions().Delete("token"))
}

// TestPasswordsAreLookedAtAFewAtATime: whoever cannot have a turn yet waits, and gives up with their request; a name that
// nobody has takes a turn too.
func TestPasswordsAreLookedAtAFewAtATime(t *testing.T) {
	x := newSchool(t)
	const secret = "four odd grain sacks"
	_, err := x.SavePerson(bg, me, Person{Name: "Rosa", SignIn: "rosa", Role: Owner}, secret, true)
	require.NoError(t, err)
	p, err := x.SignIn(bg, "rosa", secret)
	require.NoError(t, err)
	assert.Zero(t, len(x.hashes), "every turn is given back")
	for range hashers {
		x.hashes <- struct{}{}
	}
	gone, cancel := context.WithCancel(bg)
	cancel()
	_, err = x.SignIn(gone, "rosa", secret)
	assert.ErrorIs(t, err, context.Canceled)
	soon, cancel := context.WithTimeout(bg, 20*time.Millisecond)
	defer cancel()
	for what, ask := range map[string]func() error{
		"the right one":    func() error { _, err := x.SignIn(soon, "rosa", secret); return err },
		"a name of nobody": func() error { _, err := x.SignIn(soon, "nobody", secret); return err },
		"a new password":   func() error { _, err := x.ChangePassword(soon, me, p, secret, "another secret", ""); return err },
		"somebody is added": func() error {
			_, err := x.SavePerson(soon, me, Person{Name: "M", SignIn: "m", Role: Instructor}, secret, false)
			return err
		},
	} {
		assert.ErrorIs(t, ask(), context.DeadlineExceeded, what)
	}
	<-x.hashes
	_, err = x.SignIn(bg, "rosa", secret)
	assert.NoError(t, err, "one turn is enough")
	assert.Len(t, x.hashes, hashers-1)
}

// TestTheListOfPasswordsShips: the first and the last of it are known, and no empty line is among them.
func TestTheListOfPasswordsShips(t *testing.T) {
	all := strings.Fields(commonFile)
	assert.Greater(t, len(common()), 11_000)
	assert.True(t, common()["123456"] && common()[all[len(all)-1]])
	assert.False(t, common()[""])
	x := newSchool(t)
	_, err := x.SavePerson(bg, me, Person{Name: "Rosa", SignIn: "rosa", Role: Owner}, "Manchester1999", true)
	problem(t, err, "password", "a much used one with figures")
}

// TestAPasswordOnAnotherKeyboard: it is the same however a device puts its letters together, and a much used one is not hidden by wide letters.
func TestAPasswordOnAnotherKeyboard(t *testing.T) {
	golden.Alone(t)
	x := newSchool(t)
	rosa := Person{Name: "Rosa", SignIn: "rosa", Role: Owner}
	_, err := x.SavePerson(bg, me, rosa, "Ｐａｓｓｗｏｒｄ１２３", true)
	problem(t, err, "password", "tried first")
	d, err := x.SavePerson(bg, me, rosa, "dojo na\u00efve garden", true)
	require.NoError(t, err)
	_, err = x.SignIn(bg, "rosa", "dojo nai\u0308ve garden")
	assert.NoError(t, err)
	_, err = x.SignIn(bg, "rosa", "dojo naive garden")
	assert.ErrorIs(t, err, ErrWrong)
	// A hash that was made before letters were put together still knows what was typed then.
	old, err := argon2id.CreateHash("dojo nai\u0308ve gate", argon2id.DefaultParams)
	require.NoError(t, err)
	_, err = x.w.Exec(`UPDATE person_password SET hash = ? WHERE person_id = ?`, old, d.ID)
	require.NoError(t, err)
	_, err = x.SignIn(bg, "rosa", "dojo nai\u0308ve gate")
	assert.NoError(t, err)
	_, err = x.SealBackups(bg, me, "gee\u0301se over the mill")
	require.NoError(t, err)
	dir := t.TempDir()
	k, err := x.KeepBackup(bg, me, dir)
	require.NoError(t, err)
	_, err = x.Rehearse(bg, me, dir, k.Name, "ge\u00e9se over the mill")
	assert.NoError(t, err)
}
