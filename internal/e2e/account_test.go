package e2e

import (
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAnOwnersAccount goes from the printed address to a second factor, out and in again with a code, killed in between, and to a device
// signed out from another; axe looks at every screen.
func TestAnOwnersAccount(t *testing.T) {
	t.Parallel()
	s := start(t, "serve", "--db", filepath.Join(t.TempDir(), "school.db"), "--addr", "127.0.0.1:0", "--backups", "off")
	x := open(t, s, 1280, 800)
	x.visit("/welcome?code=" + s.code)
	x.fill("name", "Rosalind Castellane")
	x.fill("sign_in", "rosalind")
	x.fill("password", "football2026!")
	x.submit("main button")
	assert.Contains(t, x.text(), "is one of those that are tried first")
	x.accessible("a password that is refused")
	x.fill("password", "four odd grain sacks")
	x.submit("main button")

	x.visit("/account")
	assert.Contains(t, x.text(), "Whoever owns a school should have one")
	x.accessible("the account")
	x.submit(`a[href="/account/second"]`)
	x.accessible("the picture for the app")
	secret := strings.ReplaceAll(eval[string](x, `document.querySelector("main code").innerText`), " ", "")
	code := func(ago time.Duration) string {
		text, err := totp.GenerateCode(secret, time.Now().Add(-ago))
		require.NoError(t, err)
		return text
	}
	x.fill("code", code(30*time.Second))
	x.submit("main form .is-primary")
	recovery := eval[string](x, `document.querySelector(".codes code").innerText`)
	require.Len(t, recovery, 19)
	x.accessible("the recovery codes")

	// On another device: the password, then a code; what was typed before is asked for once more after a kill.
	y := open(t, s, 390, 844)
	signIn := func() {
		y.visit("/sign-in?back=/account")
		y.fill("sign_in", "Rosalind")
		y.fill("password", "four odd grain sacks")
		y.submit("main form button")
	}
	signIn()
	assert.Contains(t, y.text(), "And your code")
	y.accessible("the code that is asked for")
	s.kill()
	s.restart()
	y.fill("code", code(0))
	y.submit("main form .is-primary")
	y.until(`location.pathname === "/account"`)
	assert.Contains(t, y.text(), "10 recovery codes left")
	x.visit("/account")
	x.submit(`form[action^="/signed-in/"] button`)
	assert.Contains(t, x.text(), "Signed Rosalind Castellane out")
	y.visit("/students")
	y.until(`location.pathname === "/sign-in"`)
	signIn()
	y.fill("code", recovery)
	y.submit("main form .is-primary")
	y.until(`location.pathname === "/account"`)
	assert.Contains(t, y.text(), "9 recovery codes left")
	x.visit("/trail")
	for _, said := range []string{"signed in on", "A recovery code of Rosalind Castellane was used up", "Set up a second factor for Rosalind Castellane"} {
		assert.Contains(t, x.text(), said)
	}
	x.visit("/people")
	x.accessible("people who sign in")
}
