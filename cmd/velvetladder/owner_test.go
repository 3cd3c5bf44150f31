package main

import (
	"context"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/store"
)

// TestAForgottenPassword: whoever is at the machine sets a new one, and the program that serves the school meanwhile knows at once.
func TestAForgottenPassword(t *testing.T) {
	db := filepath.Join(t.TempDir(), "school.db")
	code, _, errs := call("", "owner", "--db", db)
	assert.Equal(t, exitTrouble, code)
	assert.Contains(t, errs, "no such file")
	s, err := store.Open(context.Background(), db, time.Now)
	require.NoError(t, err)
	_, _, errs = call("", "owner", "--db", db)
	assert.Contains(t, errs, "nobody owns this school yet")
	const old = "four odd grain sacks"
	_, err = s.SavePerson(context.Background(), store.By{Actor: "x"}, store.Person{Name: "Rosa Castell", SignIn: "rosa", Role: store.Owner}, old, true)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	served(t, func(address string) {
		jar, err := cookiejar.New(nil)
		require.NoError(t, err)
		client := &http.Client{Jar: jar}
		signIn := func(password string) int {
			res, err := client.PostForm(address+"sign-in", url.Values{"sign_in": {"rosa"}, "password": {password}, "back": {"/account"}})
			require.NoError(t, err)
			defer res.Body.Close()
			io.Copy(io.Discard, res.Body)
			return res.StatusCode
		}
		at := func() string {
			res, err := client.Get(address + "account")
			require.NoError(t, err)
			defer res.Body.Close()
			return res.Request.URL.Path
		}
		require.Equal(t, http.StatusOK, signIn(old))
		require.Equal(t, "/account", at())
		code, out, errs := call("", "owner", "--db", db, "--reset", "Somebody")
		assert.Equal(t, []any{exitTrouble, ""}, []any{code, out})
		assert.Contains(t, errs, `nobody signs in as "Somebody"`)
		code, out, errs = call("", "owner", "--db", db, "--reset", " ROSA ")
		require.Equal(t, exitOK, code, errs)
		fresh := regexp.MustCompile(`password ([a-z2-7-]{23}) `).FindStringSubmatch(out)
		require.NotNil(t, fresh, out)
		assert.Equal(t, "/sign-in", at(), "signed out at once")
		assert.Equal(t, http.StatusUnauthorized, signIn(old))
		assert.Equal(t, http.StatusOK, signIn(fresh[1]))
		assert.Equal(t, "/account", at())
		_, out, _ = call("", "owner", "--db", db)
		assert.Equal(t, "Rosa Castell signs in as rosa: owner\n", out)
		assert.False(t, strings.Contains(out, fresh[1]))
	}, "serve", "--db", db, "--addr", "127.0.0.1:0", "--backups", "off")
}
