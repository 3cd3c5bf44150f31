package door_test

import (
	"log/slog"
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

// TestTheDoor: the first start makes the owner, others sign in, wrong passwords are slowed down,
// and whoever is signed out, taken out or given another password is out at once.
func TestTheDoor(t *testing.T) {
	h, browser := webtest.ClosedHouse(t)
	v := browser()
	assert.Equal(t, "/welcome?why=no-owner", v.Do("GET", "/students", "").Header().Get("Location"))
	assert.Contains(t, v.Do("GET", "/welcome", "").Body.String(), "Who owns this school?")
	w := v.Do("POST", "/welcome", "name=Rosa&sign_in=rosa&password=short&school=Marrowby")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "has 5 characters; at least 10 are needed")
	assert.NotContains(t, w.Body.String(), `value="short"`, "no page shows a password")
	w = v.Do("POST", "/welcome", url.Values{"name": {"Rosa Castell"}, "sign_in": {" Rosa "}, "password": {webtest.Secret}, "school": {"Marrowby"}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	assert.Equal(t, http.StatusOK, v.Do("GET", "/people", "").Code)
	assert.Equal(t, "/sign-in?why=have-owner", v.Do("GET", "/welcome", "").Header().Get("Location"))
	w = browser().Do("POST", "/welcome", url.Values{"name": {"Mallory"}, "sign_in": {"m"}, "password": {webtest.Secret}}.Encode())
	assert.Equal(t, http.StatusConflict, w.Code, "there is no second first start")

	other := browser()
	assert.Equal(t, "/sign-in?back=%2Fstudents%3Ftext%3Dx&why=sign-in", other.Do("GET", "/students?text=x", "").Header().Get("Location"))
	assert.Equal(t, http.StatusUnauthorized, other.SignIn("rosa", "four odd grain sack").Code)
	assert.Equal(t, http.StatusUnauthorized, other.SignIn("nobody", webtest.Secret).Code)
	w = other.SignIn("ROSA", webtest.Secret)
	assert.Equal(t, "/classes", w.Header().Get("Location"))
	for _, back := range []string{"//evil.example/", "https://evil.example/", "/\\evil.example", "javascript:alert(1)"} {
		w := other.Do("POST", "/sign-in", url.Values{"sign_in": {"rosa"}, "password": {webtest.Secret}, "back": {back}}.Encode())
		if w.Code == http.StatusSeeOther {
			assert.Equal(t, "/", w.Header().Get("Location"), back)
		}
	}

	// The owner lets an instructor in, who may teach and no more.
	w = v.Do("POST", "/people", url.Values{"name": {"Marek"}, "sign_in": {"marek"}, "role": {"instructor"}, "password": {webtest.Secret}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	w = v.Do("POST", "/people", url.Values{"name": {"Marek"}, "sign_in": {"MAREK"}, "role": {"instructor"}, "password": {webtest.Secret}}.Encode())
	assert.Contains(t, w.Body.String(), "is taken")
	marek := browser()
	require.Equal(t, http.StatusSeeOther, marek.SignIn("marek", webtest.Secret).Code)
	assert.Equal(t, http.StatusOK, marek.Do("GET", "/students/"+h.Student, "").Code)
	w = marek.Do("GET", "/people", "")
	assert.Equal(t, http.StatusForbidden, w.Code)
	assert.Contains(t, w.Body.String(), "Only the owner may do that")
	assert.NotContains(t, marek.Do("GET", "/ladder", "").Body.String(), "Add a rung</a>")
	people, err := h.Store.People(webtest.Ctx)
	require.NoError(t, err)
	id := map[string]string{}
	for _, p := range people {
		id[p.SignIn] = p.ID
	}
	// What he writes stands under his name.
	marek.Do("POST", "/enrolments/"+h.Enrolment+"/word", "student="+h.Student+"&who=Marek")
	given, err := h.Store.GivenEver(webtest.Ctx, h.Enrolment)
	require.NoError(t, err)
	require.Len(t, given, 1)
	assert.Equal(t, "Marek", given[0].Actor)

	w = marek.Do("POST", "/account", url.Values{"old": {"wrong wrong wrong"}, "password": {"another secret!"}}.Encode())
	assert.Contains(t, w.Body.String(), "is not your password")
	second := browser()
	require.Equal(t, http.StatusSeeOther, second.SignIn("marek", webtest.Secret).Code)
	w = marek.Do("POST", "/account", url.Values{"old": {webtest.Secret}, "password": {"another secret!"}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	assert.Equal(t, http.StatusOK, marek.Do("GET", "/account", "").Code, "still in on this device")
	assert.Equal(t, http.StatusSeeOther, second.Do("GET", "/account", "").Code, "out on the other")
	guess := url.Values{"old": {"guess guess guess"}, "password": {"another secret!"}}.Encode()
	for range frame.TriesAName - 1 {
		marek.Do("POST", "/account", guess)
	}
	w = marek.Do("POST", "/account", guess)
	assert.Equal(t, http.StatusTooManyRequests, w.Code, "who is in is bounded too")
	assert.Contains(t, w.Body.String(), "Nothing was changed")
	assert.Equal(t, http.StatusUnprocessableEntity, v.Do("POST", "/account", guess).Code, "and nobody else by it")
	w = v.Do("POST", "/people/"+id["rosa"], url.Values{"name": {"Rosa Castell"}, "sign_in": {"rosa"}, "role": {"instructor"}}.Encode())
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), "the only owner")
	assert.Equal(t, http.StatusConflict, v.Do("POST", "/people/"+id["rosa"]+"/delete", "").Code)
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/people/"+id["marek"]+"/delete", "").Code)
	assert.Equal(t, http.StatusSeeOther, marek.Do("GET", "/account", "").Code, "taken out is out at once")
	v.Do("POST", "/sign-out", "")
	assert.Equal(t, http.StatusSeeOther, v.Do("GET", "/", "").Code)

	slow := browser()
	for range frame.TriesAName {
		slow.SignIn("greta", "guess guess guess")
	}
	w = slow.SignIn("greta", webtest.Secret)
	assert.Equal(t, http.StatusTooManyRequests, w.Code)
	assert.Contains(t, w.Body.String(), "Too many tries")
}

// TestTheFirstOwnerKnowsTheCode: where the program said a code when it started, nobody becomes the owner without it, by
// looking or by sending; a mistake in the form keeps it.
func TestTheFirstOwnerKnowsTheCode(t *testing.T) {
	h := webtest.NewHouse(t)
	closed, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Code: "0123456789abcdef0123"})
	require.NoError(t, err)
	v := &webtest.Visitor{T: t, H: closed}
	owner := url.Values{"name": {"Mallory"}, "sign_in": {"m"}, "password": {webtest.Secret}}
	for _, code := range []string{"", "0123456789abcdef012", "0123456789abcdef01234", "0123456789ABCDEF0123"} {
		w := v.Do("GET", "/welcome?code="+code, "")
		assert.Equal(t, http.StatusForbidden, w.Code, code)
		assert.Contains(t, w.Body.String(), "This school has no owner yet")
		assert.NotContains(t, w.Body.String(), "0123456789abcdef0123")
		owner.Set("code", code)
		assert.Equal(t, http.StatusForbidden, v.Do("POST", "/welcome", owner.Encode()).Code, code)
		if code == "" {
			owner.Del("code")
			assert.Equal(t, http.StatusForbidden, v.Do("POST", "/welcome?code=0123456789abcdef0123", owner.Encode()).Code, "the form itself holds it")
		}
	}
	people, err := h.Store.People(webtest.Ctx)
	require.NoError(t, err)
	assert.Empty(t, people)
	w := v.Do("GET", "/welcome?code=0123456789abcdef0123", "")
	require.Equal(t, http.StatusOK, w.Code)
	form := webtest.FieldsOf(w.Body.String(), `action="/welcome"`)
	form.Set("name", "Rosa")
	form.Set("sign_in", "rosa")
	form.Set("password", "short")
	w = v.Do("POST", "/welcome", form.Encode())
	require.Equal(t, http.StatusUnprocessableEntity, w.Code)
	form = webtest.FieldsOf(w.Body.String(), `action="/welcome"`)
	form.Set("password", webtest.Secret)
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/welcome", form.Encode()).Code)
	assert.Equal(t, "/sign-in?why=have-owner", (&webtest.Visitor{T: t, H: closed}).Do("GET", "/welcome?code=0123456789abcdef0123", "").Header().Get("Location"), "it is of no more use")
}
