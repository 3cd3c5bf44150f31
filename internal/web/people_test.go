package web_test

import (
	"log/slog"
	"net/http"
	"net/url"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

// TestTheDoor: the first start makes the owner, others sign in, wrong passwords are slowed down,
// and whoever is signed out, taken out or given another password is out at once.
func TestTheDoor(t *testing.T) {
	h, browser := webtest.ClosedHouse(t)
	v := browser()
	assert.Equal(t, "/welcome", v.Do("GET", "/students", "").Header().Get("Location"))
	assert.Contains(t, v.Do("GET", "/welcome", "").Body.String(), "Who owns this school?")
	w := v.Do("POST", "/welcome", "name=Rosa&sign_in=rosa&password=short&school=Marrowby")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "has 5 characters; at least 10 are needed")
	assert.NotContains(t, w.Body.String(), `value="short"`, "no page shows a password")
	w = v.Do("POST", "/welcome", url.Values{"name": {"Rosa Castell"}, "sign_in": {" Rosa "}, "password": {webtest.Secret}, "school": {"Marrowby"}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	assert.Equal(t, http.StatusOK, v.Do("GET", "/people", "").Code)
	assert.Equal(t, "/sign-in", v.Do("GET", "/welcome", "").Header().Get("Location"))
	w = browser().Do("POST", "/welcome", url.Values{"name": {"Mallory"}, "sign_in": {"m"}, "password": {webtest.Secret}}.Encode())
	assert.Equal(t, http.StatusConflict, w.Code, "there is no second first start")

	other := browser()
	assert.Equal(t, "/sign-in?back=%2Fstudents%3Ftext%3Dx", other.Do("GET", "/students?text=x", "").Header().Get("Location"))
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

// TestEveryRouteAsksWho is the table of all routes: signed out, and signed in with the wrong
// role, each is refused.
func TestEveryRouteAsksWho(t *testing.T) {
	h, browser := webtest.ClosedHouse(t)
	owns := browser()
	owns.Do("POST", "/welcome", url.Values{"name": {"Rosa"}, "sign_in": {"rosa"}, "password": {webtest.Secret}}.Encode())
	owns.Do("POST", "/people", url.Values{"name": {"Marek"}, "sign_in": {"marek"}, "role": {"instructor"}, "password": {webtest.Secret}}.Encode())
	marek := browser()
	require.Equal(t, http.StatusSeeOther, marek.SignIn("marek", webtest.Secret).Code)
	// A link that was never made, one that was ended, and one that has run out.
	revoked, d, err := h.Store.MakeLink(webtest.Ctx, webtest.Me, h.Student, "Greta", 30)
	require.NoError(t, err)
	_, err = h.Store.RevokeLink(webtest.Ctx, webtest.Me, d.ID)
	require.NoError(t, err)
	past, _, err := h.Later(-40).MakeLink(webtest.Ctx, webtest.Me, h.Student, "Greta", 30)
	require.NoError(t, err)
	tokens := []string{"x", strings.Repeat("0", 40), revoked, past}
	filled := regexp.MustCompile(`\{[a-z]+\}`)
	for _, rt := range web.Routes() {
		if rt.May == frame.Anyone {
			continue
		}
		if rt.May == frame.Family { // no session helps: only the link does
			for _, token := range tokens {
				path := strings.Replace(rt.Path, "{token}", token, 1)
				for _, who := range []*webtest.Visitor{browser(), marek, owns} {
					assert.Equal(t, http.StatusNotFound, who.Do(rt.Method, path, "technique="+h.Technique+"&role=performer").Code, "%s %s", rt.Method, path)
				}
			}
			continue
		}
		path := filled.ReplaceAllString(rt.Path, "x")
		for _, body := range []string{"", "{}"} {
			w := browser().Do(rt.Method, path, body)
			if rt.Method == "GET" && body == "" {
				assert.Equal(t, http.StatusSeeOther, w.Code, path)
				assert.Contains(t, w.Header().Get("Location"), "/sign-in", path)
			} else if rt.Method == "POST" {
				assert.Equal(t, http.StatusUnauthorized, w.Code, path)
			}
			w = marek.Do(rt.Method, path, body)
			if rt.May == frame.Owner || rt.May == frame.Examiner { // who teaches sees nobody's sheets either
				assert.Equal(t, http.StatusForbidden, w.Code, "%s %s", rt.Method, path)
			} else {
				assert.NotEqual(t, http.StatusForbidden, w.Code, "%s %s", rt.Method, path)
				assert.NotEqual(t, http.StatusUnauthorized, w.Code, "%s %s", rt.Method, path)
			}
		}
		forged := browser()
		forged.Cookie = "velvetladder=" + strings.Repeat("A", 43)
		assert.NotEqual(t, http.StatusOK, forged.Do(rt.Method, path, "").Code, path)
	}
	assert.False(t, frame.Role("nonsense").Allows(store.Owner), "a role that nobody declared lets nobody in")
}

// TestWhatIsNotOffered: of the routes that only the owner may use none is linked from a page as an
// instructor sees it, but for those that the style sheet hides.
func TestWhatIsNotOffered(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Evening("Evening")
	as, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "Marek", Role: store.Instructor}})
	require.NoError(t, err)
	marek := &webtest.Visitor{T: t, H: as}
	css, err := os.ReadFile("frame/static/css/app.css")
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
	for _, rt := range web.Routes() {
		if rt.May == frame.Owner {
			owns[rt.Method] = append(owns[rt.Method], regexp.MustCompile("^"+regexp.MustCompile(`\{[a-z]+\}`).ReplaceAllString(rt.Path, "[^/]+")+"$"))
		}
	}
	for _, page := range []string{"/ladder/" + h.Yellow, "/students", "/students/" + h.Student, "/classes", "/techniques", "/techniques/" + h.Technique, "/gradings", "/gradings/" + h.Grading, "/eligible", "/stripes", "/practice/" + h.Enrolment, "/account"} {
		body := marek.Do("GET", page, "").Body.String()
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
	h, _ := webtest.Mill(t)
	b := h.Book()
	cubs, rung := b.Program.Tracks[0], b.RungNamed("Orange belt")
	x := *b.Named("Mill Wheel")
	x.YoungestTrack = b.Program.Tracks[2].ID
	_, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, x)
	require.NoError(t, err)
	as, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "Marek", Role: store.Instructor}})
	require.NoError(t, err)
	marek := &webtest.Visitor{T: t, H: as}
	for _, page := range []string{"/sheet/" + rung.ID + "?track=" + cubs.ID, "/ladder/" + rung.ID + "?track=" + cubs.ID} {
		assert.Contains(t, strings.ToLower(webtest.Text(h.Page(page))), "not for cubs: it suits", page)
		assert.NotContains(t, strings.ToLower(webtest.Text(marek.Do("GET", page, "").Body.String())), "not for cubs", page)
	}
	assert.NotContains(t, marek.Do("GET", "/sheet/"+rung.ID+"?track="+cubs.ID, "").Body.String(), "Mill Wheel")
}
