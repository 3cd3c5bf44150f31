package door_test

import (
	"html"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

// TestATypedFormOutlivesItsSession: whoever is signed out in the middle of a form signs in and sends what was typed;
// a wrong password, somebody who may not, and a second try lose none of it, and no page shows a password.
func TestATypedFormOutlivesItsSession(t *testing.T) {
	_, browser := webtest.ClosedHouse(t)
	v := browser()
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/welcome", webtest.Values("name", "Rosa", "sign_in", "rosa", "password", webtest.Secret).Encode()).Code)
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/people", webtest.Values("name", "Marek", "sign_in", "marek", "role", "instructor", "password", webtest.Secret).Encode()).Code)
	v.Do("POST", "/sign-out", "")

	const name = `Nell "N" <b>Ford</b> & Søn`
	typed := webtest.Values("request", "typed-form-1", "name", name, "birth_date", "2014-05-06", "password", "not for a page")
	w := v.Form("/students/new", typed)
	require.Equal(t, http.StatusUnauthorized, w.Code)
	require.Contains(t, w.Header().Get("Content-Type"), "text/html", "no JSON as a page")
	assert.NotContains(t, w.Body.String(), "not for a page")
	assert.NotContains(t, w.Body.String(), "<b>Ford", "what was typed is text")
	assert.Contains(t, html.UnescapeString(webtest.Text(w.Body.String())), name, "it can be looked at")

	in := func(page, who, password string) url.Values {
		f := webtest.FieldsOf(page, `action="/sign-in"`)
		f.Set("sign_in", who)
		f.Set("password", password)
		return f
	}
	w = v.Form("/sign-in", in(w.Body.String(), "rosa", "wrong wrong wrong"))
	require.Equal(t, http.StatusUnauthorized, w.Code)
	w = v.Form("/sign-in", in(w.Body.String(), "marek", webtest.Secret))
	require.Equal(t, http.StatusOK, w.Code)
	require.Contains(t, w.Body.String(), "What you typed is still here")
	form := webtest.FieldsOf(w.Body.String(), `action="/students/new"`)
	form.Set("request", "typed-form-1") // which FieldsOf leaves out
	w = v.Form("/students/new", form)
	require.Equal(t, http.StatusForbidden, w.Code, "an instructor adds nobody")
	w = v.Form("/sign-in", in(w.Body.String(), "rosa", webtest.Secret))
	form = webtest.FieldsOf(w.Body.String(), `action="/students/new"`)
	form.Set("request", "typed-form-1")
	assert.Contains(t, w.Body.String(), `value="typed-form-1"`, "sent twice it counts once")
	w = v.Form("/students/new", form)
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	assert.Contains(t, html.UnescapeString(webtest.Text(v.Do("GET", w.Header().Get("Location"), "").Body.String())), name)

	for _, c := range []struct{ name, to, waits string }{
		{"another site", "//evil.example/x", "a=1"}, {"with a backslash", "/\\evil.example", "a=1"}, {"no address", "", "a=1"}, {"broken values", "/students/new", "%zz"},
	} {
		assert.Zero(t, frame.WaitingIn(webtest.Values("waits_to", c.to, "waits", c.waits)), c.name)
	}
	v.Do("POST", "/sign-out", "")
	w = v.Form("/students/new", webtest.Values("name", strings.Repeat("x", frame.MaxBody/4)))
	assert.Contains(t, w.Body.String(), "too much to be carried", "and it is said")
}

// TestADeviceThatKeepsSomething asks which entries are on record; entries of another hand are taken only as handed to
// the owner.
func TestADeviceThatKeepsSomething(t *testing.T) {
	x := webtest.NewHall(t)
	sits := x.Join(x.Own)
	marks := "/scoring/" + x.Own + "/" + x.GroupA + "/marks"
	body := func(id, more string) string {
		return strings.TrimSuffix(x.Body(id, x.Own, x.Candidate, x.ItemA, "3"), "}") + more + "}"
	}
	w := sits.Do("POST", marks, body("mark-of-somebody", `,"hand":"person 7"`))
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), "entered by somebody else")
	assert.NotContains(t, w.Body.String(), "mark-of-somebody", "no entry is named: all stay on the device")
	w = sits.Do("POST", marks, body("mark-of-somebody", `,"hand":"person 7","handed":true`))
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), "Only the owner takes in")
	ask := `{"ids":["mark-of-somebody","mark-of-nobody"]}`
	assert.JSONEq(t, `{"stored":[]}`, x.Browser().Do("POST", "/kept/stored", ask).Body.String())
	w = x.Owns.Do("POST", marks, body("mark-of-somebody", `,"hand":"person 7","handed":true`))
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	assert.JSONEq(t, `{"stored":["mark-of-somebody"]}`, x.Browser().Do("POST", "/kept/stored", ask).Body.String())
	require.Equal(t, http.StatusOK, sits.Do("POST", marks, body("mark-of-somebody", `,"hand":"examiner `+x.Own+`"`)).Code, "the same again, from the examiner's own device")

	for _, bad := range []string{`{"ids":[]}`, `{"ids":["x"]}`, `{"ids":["` + strings.Repeat("a", 65) + `"]}`, `{"other":1}`} {
		assert.Equal(t, http.StatusUnprocessableEntity, x.Browser().Do("POST", "/kept/stored", bad).Code, bad)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, x.Owns.Do("POST", "/kept/handed", `{"hand":"examiner `+x.Own+`","n":0}`).Code)
	require.Equal(t, http.StatusOK, x.Owns.Do("POST", "/kept/handed", `{"hand":"examiner `+x.Own+`","n":1}`).Code)
	assert.Contains(t, webtest.Text(x.Owns.Do("GET", "/trail", "").Body.String()), "Took in 1 entry that a device of")
	assert.Equal(t, http.StatusUnauthorized, x.Browser().Do("POST", "/kept/handed", `{"hand":"examiner 1","n":1}`).Code)

	// A device that was sent home in the middle of a form gets it back with a new code.
	seats, err := x.Store.Seats(webtest.Ctx, x.Day)
	require.NoError(t, err)
	for _, s := range seats {
		if s.ExaminerID == x.Own && s.EndedAt.IsZero() {
			_, err = x.Store.EndSeat(webtest.Ctx, webtest.Me, s.ID)
			require.NoError(t, err)
		}
	}
	reopen := "/scoring/" + x.Own + "/" + x.GroupA + "/reopen"
	w = sits.Form(reopen, webtest.Values("reason", "two were swapped"))
	require.Equal(t, http.StatusUnauthorized, w.Code)
	code, err := x.Store.MakeCode(webtest.Ctx, webtest.Me, x.Own)
	require.NoError(t, err)
	f := webtest.FieldsOf(w.Body.String(), `action="/join"`)
	f.Set("code", code.Code)
	w = sits.Form("/join", f)
	assert.Equal(t, "two were swapped", webtest.FieldsOf(w.Body.String(), `action="`+reopen+`"`).Get("reason"))
}
