package web

import (
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/store"
)

// visitor is a browser with a cookie.
type visitor struct {
	t      *testing.T
	h      http.Handler
	cookie string
}

func (v *visitor) do(method, path, body string) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, path, strings.NewReader(body))
	if strings.HasPrefix(body, "{") {
		r.Header.Set("Content-Type", "application/json")
	} else if method == "POST" {
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	if v.cookie != "" {
		r.Header.Set("Cookie", v.cookie)
	}
	w := httptest.NewRecorder()
	v.h.ServeHTTP(w, r)
	for _, c := range w.Result().Cookies() {
		if c.Name == "velvetladder" {
			v.cookie = c.Name + "=" + c.Value
		}
	}
	return w
}

func (v *visitor) signIn(name, password string) *httptest.ResponseRecorder {
	return v.do("POST", "/sign-in", url.Values{"sign_in": {name}, "password": {password}, "back": {"/classes"}}.Encode())
}

// closedHouse is a furnished school where people sign in.
func closedHouse(t *testing.T) (*house, func() *visitor) {
	h := newHouse(t).furnish()
	closed, err := New(h.s, slog.New(slog.DiscardHandler), Access{})
	require.NoError(t, err)
	return h, func() *visitor { return &visitor{t: t, h: closed} }
}

const secret = "four odd grain sacks"

// TestTheDoor: the first start makes the owner, others sign in, wrong passwords are slowed down,
// and whoever is signed out, taken out or given another password is out at once.
func TestTheDoor(t *testing.T) {
	h, browser := closedHouse(t)
	v := browser()
	assert.Equal(t, "/welcome", v.do("GET", "/students", "").Header().Get("Location"))
	assert.Contains(t, v.do("GET", "/welcome", "").Body.String(), "Who owns this school?")
	w := v.do("POST", "/welcome", "name=Rosa&sign_in=rosa&password=short&school=Marrowby")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "has 5 characters; at least 10 are needed")
	assert.NotContains(t, w.Body.String(), `value="short"`, "no page shows a password")
	w = v.do("POST", "/welcome", url.Values{"name": {"Rosa Castell"}, "sign_in": {" Rosa "}, "password": {secret}, "school": {"Marrowby"}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	assert.Equal(t, http.StatusOK, v.do("GET", "/people", "").Code)
	assert.Equal(t, "/sign-in", v.do("GET", "/welcome", "").Header().Get("Location"))
	w = browser().do("POST", "/welcome", url.Values{"name": {"Mallory"}, "sign_in": {"m"}, "password": {secret}}.Encode())
	assert.Equal(t, http.StatusConflict, w.Code, "there is no second first start")

	other := browser()
	assert.Equal(t, "/sign-in?back=%2Fstudents%3Ftext%3Dx", other.do("GET", "/students?text=x", "").Header().Get("Location"))
	assert.Equal(t, http.StatusUnauthorized, other.signIn("rosa", "four odd grain sack").Code)
	assert.Equal(t, http.StatusUnauthorized, other.signIn("nobody", secret).Code)
	w = other.signIn("ROSA", secret)
	assert.Equal(t, "/classes", w.Header().Get("Location"))
	for _, back := range []string{"//evil.example/", "https://evil.example/", "/\\evil.example", "javascript:alert(1)"} {
		w := other.do("POST", "/sign-in", url.Values{"sign_in": {"rosa"}, "password": {secret}, "back": {back}}.Encode())
		if w.Code == http.StatusSeeOther {
			assert.Equal(t, "/", w.Header().Get("Location"), back)
		}
	}

	// The owner lets an instructor in, who may teach and no more.
	w = v.do("POST", "/people", url.Values{"name": {"Marek"}, "sign_in": {"marek"}, "role": {"instructor"}, "password": {secret}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	w = v.do("POST", "/people", url.Values{"name": {"Marek"}, "sign_in": {"MAREK"}, "role": {"instructor"}, "password": {secret}}.Encode())
	assert.Contains(t, w.Body.String(), "is taken")
	marek := browser()
	require.Equal(t, http.StatusSeeOther, marek.signIn("marek", secret).Code)
	assert.Equal(t, http.StatusOK, marek.do("GET", "/students/"+h.student, "").Code)
	w = marek.do("GET", "/people", "")
	assert.Equal(t, http.StatusForbidden, w.Code)
	assert.Contains(t, w.Body.String(), "Only the owner may do that")
	assert.NotContains(t, marek.do("GET", "/ladder", "").Body.String(), "Add a rung</a>")
	people, err := h.s.People(bg)
	require.NoError(t, err)
	id := map[string]string{}
	for _, p := range people {
		id[p.SignIn] = p.ID
	}
	// What he writes stands under his name.
	marek.do("POST", "/enrolments/"+h.enrolment+"/word", "student="+h.student+"&who=Marek")
	given, err := h.s.GivenEver(bg, h.enrolment)
	require.NoError(t, err)
	require.Len(t, given, 1)
	assert.Equal(t, "Marek", given[0].Actor)

	w = marek.do("POST", "/account", url.Values{"old": {"wrong wrong wrong"}, "password": {"another secret!"}}.Encode())
	assert.Contains(t, w.Body.String(), "is not your password")
	second := browser()
	require.Equal(t, http.StatusSeeOther, second.signIn("marek", secret).Code)
	w = marek.do("POST", "/account", url.Values{"old": {secret}, "password": {"another secret!"}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	assert.Equal(t, http.StatusOK, marek.do("GET", "/account", "").Code, "still in on this device")
	assert.Equal(t, http.StatusSeeOther, second.do("GET", "/account", "").Code, "out on the other")
	w = v.do("POST", "/people/"+id["rosa"], url.Values{"name": {"Rosa Castell"}, "sign_in": {"rosa"}, "role": {"instructor"}}.Encode())
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), "the only owner")
	assert.Equal(t, http.StatusConflict, v.do("POST", "/people/"+id["rosa"]+"/delete", "").Code)
	require.Equal(t, http.StatusSeeOther, v.do("POST", "/people/"+id["marek"]+"/delete", "").Code)
	assert.Equal(t, http.StatusSeeOther, marek.do("GET", "/account", "").Code, "taken out is out at once")
	v.do("POST", "/sign-out", "")
	assert.Equal(t, http.StatusSeeOther, v.do("GET", "/", "").Code)

	slow := browser()
	for range triesAName {
		slow.signIn("greta", "guess guess guess")
	}
	w = slow.signIn("greta", secret)
	assert.Equal(t, http.StatusTooManyRequests, w.Code)
	assert.Contains(t, w.Body.String(), "Too many tries")
}

// TestEveryRouteAsksWho is the table of all routes: signed out, and signed in with the wrong
// role, each is refused.
func TestEveryRouteAsksWho(t *testing.T) {
	h, browser := closedHouse(t)
	owns := browser()
	owns.do("POST", "/welcome", url.Values{"name": {"Rosa"}, "sign_in": {"rosa"}, "password": {secret}}.Encode())
	owns.do("POST", "/people", url.Values{"name": {"Marek"}, "sign_in": {"marek"}, "role": {"instructor"}, "password": {secret}}.Encode())
	marek := browser()
	require.Equal(t, http.StatusSeeOther, marek.signIn("marek", secret).Code)
	// A link that was never made, one that was ended, and one that has run out.
	revoked, d, err := h.s.MakeLink(bg, me, h.student, "Greta", 30)
	require.NoError(t, err)
	_, err = h.s.RevokeLink(bg, me, d.ID)
	require.NoError(t, err)
	past, _, err := h.later(-40).MakeLink(bg, me, h.student, "Greta", 30)
	require.NoError(t, err)
	tokens := []string{"x", strings.Repeat("0", 40), revoked, past}
	filled := regexp.MustCompile(`\{[a-z]+\}`)
	for _, rt := range (&app{}).routes() {
		if rt.may == anyone {
			continue
		}
		if rt.may == family { // no session helps: only the link does
			for _, token := range tokens {
				path := strings.Replace(rt.path, "{token}", token, 1)
				for _, who := range []*visitor{browser(), marek, owns} {
					assert.Equal(t, http.StatusNotFound, who.do(rt.method, path, "technique="+h.technique+"&role=performer").Code, "%s %s", rt.method, path)
				}
			}
			continue
		}
		path := filled.ReplaceAllString(rt.path, "x")
		for _, body := range []string{"", "{}"} {
			w := browser().do(rt.method, path, body)
			if rt.method == "GET" && body == "" {
				assert.Equal(t, http.StatusSeeOther, w.Code, path)
				assert.Contains(t, w.Header().Get("Location"), "/sign-in", path)
			} else if rt.method == "POST" {
				assert.Equal(t, http.StatusUnauthorized, w.Code, path)
			}
			w = marek.do(rt.method, path, body)
			if rt.may == owner || rt.may == examiner { // who teaches sees nobody's sheets either
				assert.Equal(t, http.StatusForbidden, w.Code, "%s %s", rt.method, path)
			} else {
				assert.NotEqual(t, http.StatusForbidden, w.Code, "%s %s", rt.method, path)
				assert.NotEqual(t, http.StatusUnauthorized, w.Code, "%s %s", rt.method, path)
			}
		}
		forged := browser()
		forged.cookie = "velvetladder=" + strings.Repeat("A", 43)
		assert.NotEqual(t, http.StatusOK, forged.do(rt.method, path, "").Code, path)
	}
	assert.False(t, role("nonsense").allows(store.Owner), "a role that nobody declared lets nobody in")
}

// TestWhatIsNotOffered: of the routes that only the owner may use none is linked from a page as an
// instructor sees it, but for those that the style sheet hides.
func TestWhatIsNotOffered(t *testing.T) {
	h := newHouse(t).furnish()
	h.evening("Evening")
	as, err := New(h.s, slog.New(slog.DiscardHandler), Access{Everybody: &store.Person{Name: "Marek", Role: store.Instructor}})
	require.NoError(t, err)
	marek := &visitor{t: t, h: as}
	css, err := staticFiles.ReadFile("static/css/app.css")
	require.NoError(t, err)
	rule := regexp.MustCompile(`\[data-role="instructor"\] :is\(([^{]*)\) \{ display: none`).FindSubmatch(css)
	require.NotNil(t, rule)
	hidden := func(element, address string) bool {
		for _, sel := range regexp.MustCompile(`(a|form)\[(?:href|action)(\^|\$|)="([^"]+)"\]`).FindAllStringSubmatch(string(rule[1]), -1) {
			fits := map[string]bool{"": address == sel[3], "^": strings.HasPrefix(address, sel[3]), "$": strings.HasSuffix(address, sel[3])}[sel[2]]
			if sel[1] == element && fits {
				return true
			}
		}
		return false
	}
	owns := map[string][]*regexp.Regexp{}
	for _, rt := range (&app{}).routes() {
		if rt.may == owner {
			owns[rt.method] = append(owns[rt.method], regexp.MustCompile("^"+regexp.MustCompile(`\{[a-z]+\}`).ReplaceAllString(rt.path, "[^/]+")+"$"))
		}
	}
	for _, page := range []string{"/ladder/" + h.yellow, "/students", "/students/" + h.student, "/classes", "/techniques", "/techniques/" + h.technique, "/gradings", "/gradings/" + h.grading, "/eligible", "/stripes", "/practice/" + h.enrolment, "/account"} {
		body := marek.do("GET", page, "").Body.String()
		for _, x := range regexp.MustCompile(`<(a|form)[^>]* (?:href|action)="([^"#?]*)[^"]*"`).FindAllStringSubmatch(body, -1) {
			method := map[string]string{"a": "GET", "form": "POST"}[x[1]]
			for _, route := range owns[method] {
				if route.MatchString(x[2]) {
					assert.True(t, hidden(x[1], x[2]), "%s offers %s %s", page, method, x[2])
				}
			}
		}
	}
}

// TestWhatATrackMayNotDo: the note on a sheet is the owner's alone.
func TestWhatATrackMayNotDo(t *testing.T) {
	h, _ := mill(t)
	b := h.book()
	cubs, rung := b.Program.Tracks[0], b.RungNamed("Orange belt")
	x := *b.Named("Mill Wheel")
	x.YoungestTrack = b.Program.Tracks[2].ID
	_, err := h.s.SaveTechnique(bg, me, x)
	require.NoError(t, err)
	as, err := New(h.s, slog.New(slog.DiscardHandler), Access{Everybody: &store.Person{Name: "Marek", Role: store.Instructor}})
	require.NoError(t, err)
	marek := &visitor{t: t, h: as}
	for _, page := range []string{"/sheet/" + rung.ID + "?track=" + cubs.ID, "/ladder/" + rung.ID + "?track=" + cubs.ID} {
		assert.Contains(t, strings.ToLower(text(h.page(page))), "not for cubs: it suits", page)
		assert.NotContains(t, strings.ToLower(text(marek.do("GET", page, "").Body.String())), "not for cubs", page)
	}
	assert.NotContains(t, marek.do("GET", "/sheet/"+rung.ID+"?track="+cubs.ID, "").Body.String(), "Mill Wheel")
}
