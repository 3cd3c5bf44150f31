package store

import (
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"velvetladder/internal/core/gradingday"

	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const secret = "four odd grain sacks"

// owned is a school with an owner.
func owned(t *testing.T) (*school, Person) {
	x := newSchool(t)
	_, err := x.SavePerson(bg, me, Person{Name: "Rosa", SignIn: "rosa", Role: Owner}, secret, true)
	require.NoError(t, err)
	p, err := x.SignIn(bg, "rosa", secret)
	require.NoError(t, err)
	return x, p
}

// TestHowLongASignInHolds: twelve hours without use, fourteen days whatever happens; and a clock that went wrong
// lets nobody in for longer.
func TestHowLongASignInHolds(t *testing.T) {
	x, p := owned(t)
	start := clock()
	at := func(d time.Duration) { x.now = func() time.Time { return start.Add(d) } }
	const h, day = time.Hour, 24 * time.Hour
	for _, c := range []struct {
		what string
		used []time.Duration
		then time.Duration
		in   bool
	}{
		{"at once", nil, 0, true},
		{"twelve hours without use", nil, 12 * h, true},
		{"a little more", nil, 12*h + time.Second, false},
		{"used after eleven hours, looked at after twenty-three", []time.Duration{11 * h}, 23 * h, true},
		{"used too late", []time.Duration{13 * h}, 13 * h, false},
		{"used a minute after coming in, which is not noted", []time.Duration{time.Minute}, 12*h + time.Second, false},
		{"used every ten hours, for two weeks", every(10*h, 14*day), 14 * day, true},
		{"and a second more", every(10*h, 14*day), 14*day + time.Second, false},
		{"the clock is set back an hour", nil, -h, true},
		{"and a little more: it was made while the clock was wrong", nil, -h - time.Second, false},
		{"the clock goes forward a year", nil, 365 * day, false},
	} {
		at(0)
		in, err := x.BeginSignIn(bg, p, "192.0.2.1", "an iPad")
		require.NoError(t, err)
		for _, d := range c.used {
			at(d)
			if _, now, err := x.SignedIn(bg, in.ID); err == nil {
				require.NoError(t, x.StillHere(bg, now))
			}
		}
		at(c.then)
		_, _, err = x.SignedIn(bg, in.ID)
		assert.Equal(t, c.in, err == nil, c.what)
		all, err := x.SignIns(bg, p.ID)
		require.NoError(t, err)
		listed := false
		for _, s := range all {
			listed = listed || s.ID == in.ID
		}
		assert.Equal(t, c.in, listed, "%s: what holds is listed", c.what)
		at(0)
		_, _ = x.EndSignIn(bg, me, in.ID, "")
	}
}

func every(d, until time.Duration) (out []time.Duration) {
	for at := d; at <= until; at += d {
		out = append(out, at)
	}
	return out
}

// TestThePasswordIsAskedForAgain: it holds for ten minutes, and only the right one renews it.
func TestThePasswordIsAskedForAgain(t *testing.T) {
	x, p := owned(t)
	start := clock()
	in, err := x.BeginSignIn(bg, p, "192.0.2.1", "an iPad")
	require.NoError(t, err)
	proved := func() bool {
		_, now, err := x.SignedIn(bg, in.ID)
		require.NoError(t, err)
		return x.ProvedLately(now)
	}
	for d, holds := range map[time.Duration]bool{0: true, ProvedFor: true, ProvedFor + time.Second: false, -time.Second: false} {
		x.now = func() time.Time { return start.Add(d) }
		assert.Equal(t, holds, proved(), d)
	}
	x.now = func() time.Time { return start.Add(time.Hour) }
	assert.ErrorIs(t, x.Prove(bg, in, "wrong", ""), ErrWrong)
	assert.False(t, proved())
	require.NoError(t, x.Prove(bg, in, secret, ""))
	assert.True(t, proved())
}

// TestWhoComesFromWhere: known addresses are those of this very account, deeds of the door stand on the trail without what
// nobody's name was typed.
func TestWhoComesFromWhere(t *testing.T) {
	x, p := owned(t)
	_, err := x.BeginSignIn(bg, p, "192.0.2.1", "an iPad")
	require.NoError(t, err)
	for who, known := range map[[2]string]bool{{"rosa", "192.0.2.1"}: true, {" ROSA ", "192.0.2.1"}: true, {"rosa", "192.0.2.2"}: false, {"nobody", "192.0.2.1"}: false} {
		got, err := x.ComesFrom(bg, who[0], who[1])
		require.NoError(t, err)
		assert.Equal(t, known, got, who)
	}
	require.NoError(t, x.NoteRefused(bg, "Rosa", "203.0.113.9"))
	require.NoError(t, x.NoteRefused(bg, "my secret password", "203.0.113.9"))
	deeds, _, err := x.Deeds(bg, TrailQuery{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, "the door: Somebody who said to be Rosa was refused at the door, from 203.0.113.9", deeds[0].Actor+": "+saidOf(deeds[0]))
	assert.Equal(t, "Rosa: Rosa signed in on an iPad, from 192.0.2.1", deeds[1].Actor+": "+saidOf(deeds[1]))
	var all string
	require.NoError(t, x.r.QueryRow(`SELECT group_concat(args) FROM audit`).Scan(&all))
	assert.NotContains(t, all, "secret password")
}

// TestASecondFactor: a code works once, near its time, also when it is sent many times at once; recovery codes work once each; nothing
// of them can be read in the file but the secret.
func TestASecondFactor(t *testing.T) {
	x, p := owned(t)
	start := clock()
	x.now = func() time.Time { return start }
	key := NewSecret()
	at := func(d time.Duration) string {
		code, err := totp.GenerateCode(key, start.Add(d))
		require.NoError(t, err)
		return code
	}
	_, err := x.SetFactor(bg, me, p.ID, key, "000000")
	problem(t, err, "code", "is not the code of this moment")
	_, err = x.SetFactor(bg, me, p.ID, "", at(0))
	problem(t, err, "code", "is not the code of this moment")
	codes, err := x.SetFactor(bg, me, p.ID, key, " "+at(0)[:3]+" "+at(0)[3:])
	require.NoError(t, err)
	require.Len(t, codes, recoveryCodes)
	p, err = x.SignIn(bg, "rosa", secret)
	require.NoError(t, err)
	require.True(t, p.Second)

	assert.ErrorIs(t, x.TakeCode(bg, p, at(0)), ErrWrong, "the code it was set up with has been used")
	assert.ErrorIs(t, x.TakeCode(bg, p, at(-30*time.Second)), ErrWrong, "nor does an older one work")
	assert.ErrorIs(t, x.TakeCode(bg, p, at(61*time.Second)), ErrWrong, "nor one of too late a time")
	x.now = func() time.Time { return start.Add(5 * time.Minute) }
	assert.NoError(t, x.TakeCode(bg, p, at(5*time.Minute-30*time.Second)), "a clock may be half a minute off")
	var right sync.Map
	var wait sync.WaitGroup
	for i := range 8 {
		wait.Go(func() { right.Store(i, x.TakeCode(bg, p, at(5*time.Minute)) == nil) })
	}
	wait.Wait()
	taken := 0
	right.Range(func(_, ok any) bool {
		if ok.(bool) {
			taken++
		}
		return true
	})
	assert.Equal(t, 1, taken, "sent eight times at once it works once")

	assert.NoError(t, x.TakeCode(bg, p, strings.ToLower(codes[0])))
	assert.ErrorIs(t, x.TakeCode(bg, p, codes[0]), ErrWrong)
	f, err := x.Factor(bg, p.ID)
	require.NoError(t, err)
	assert.Equal(t, recoveryCodes-1, f.Left)
	in, err := x.BeginSignIn(bg, p, "192.0.2.1", "an iPad")
	require.NoError(t, err)
	assert.ErrorIs(t, x.Prove(bg, in, secret, ""), ErrWrong, "the password alone proves nothing now")
	assert.NoError(t, x.Prove(bg, in, secret, codes[1]))
	newer, err := x.NewRecoveryCodes(bg, me, p.ID)
	require.NoError(t, err)
	assert.ErrorIs(t, x.TakeCode(bg, p, codes[2]), ErrWrong, "new ones take the place of the old")
	assert.NoError(t, x.TakeCode(bg, p, newer[0]))
	other, err := x.SavePerson(bg, me, Person{Name: "Marek", SignIn: "marek", Role: Instructor}, secret, false)
	require.NoError(t, err)
	assert.Error(t, x.TakeCode(bg, Person{ID: other.ID}, newer[1]), "nobody else's codes")

	address, err := SecretAddress(key, "Mill & Weir", "rosa")
	require.NoError(t, err)
	assert.Contains(t, address, "otpauth://totp/Mill%20&%20Weir:rosa?")
	assert.Contains(t, address, "secret="+strings.TrimRight(key, "="))
	_, err = SecretAddress("not base 32!", "", "rosa")
	assert.Error(t, err)

	_, err = x.ResetPassword(bg, me, p.ID, "another good one")
	require.NoError(t, err)
	_, _, err = x.SignedIn(bg, in.ID)
	assert.ErrorIs(t, err, ErrNotFound)
	p, err = x.SignIn(bg, "rosa", "another good one")
	require.NoError(t, err)
	assert.False(t, p.Second, "whoever is at the machine takes the second factor away too")
	var file strings.Builder
	require.NoError(t, x.ExportSchool(bg, &file))
	for _, hidden := range []string{key, "argon2", `"sign_in"`, "recovery_code"} {
		assert.NotContains(t, file.String(), hidden, "a school's file lets nobody in")
	}
}

// TestAClockThatWentWrong: set back an hour, and forward a year and back, what was done later stands later, and what holds until a time
// holds until then.
func TestAClockThatWentWrong(t *testing.T) {
	x := newSchool(t)
	start := clock()
	at := func(d time.Duration) { x.now = func() time.Time { return start.Add(d) } }
	e := x.standing(0)
	kick, err := x.Requirement(bg, x.lines[0])
	require.NoError(t, err)
	at(0)
	token, _, err := x.MakeLink(bg, me, e.StudentID, "Una", 30)
	require.NoError(t, err)
	_, table := x.begun()
	code, err := x.MakeCode(bg, me, table.Examiner.ID)
	require.NoError(t, err)
	first := table.mark(0, 0, 1)
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{first}))
	for i, d := range []time.Duration{0, -time.Hour, 365 * 24 * time.Hour, -2 * time.Hour} {
		at(d)
		line := fmt.Sprint("kick ", i)
		_, err := x.Choose(bg, me, e.EnrolmentID, kick.TechniqueID, []string{line})
		require.NoError(t, err)
		all, err := x.Choices(bg, e.EnrolmentID)
		require.NoError(t, err)
		assert.Equal(t, []string{line}, all[e.EnrolmentID][kick.TechniqueID], "the last choice counts")
		again := table.mark(0, 0, 2)
		again.Supersedes = first.ID
		require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{again}))
		first = again
		now, err := x.ScoringTable(bg, table.Examiner.ID, table.GroupID)
		require.NoError(t, err)
		assert.Contains(t, fmt.Sprint(now.Marks), again.ID, "the mark that takes another's place stands")
	}
	for d, holds := range map[time.Duration]bool{-time.Hour: true, 29 * 24 * time.Hour: true, 365 * 24 * time.Hour: false} {
		at(d)
		_, err := x.LinkOf(bg, token)
		assert.Equal(t, holds, err == nil, "the link, %s", d)
	}
	at(365 * 24 * time.Hour)
	_, _, err = x.Invited(bg, code.Spelt())
	assert.Error(t, err, "a code is too old then")
	at(-time.Hour)
	_, err = x.Join(bg, code.Spelt(), "an iPad")
	assert.NoError(t, err, "and holds when the clock is right again")
}
