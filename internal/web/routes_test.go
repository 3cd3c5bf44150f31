package web_test

import (
	"log/slog"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"velvetladder/internal/golden"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

// TestEveryRouteAsksWho is the table of all routes: signed out, and signed in with the wrong
// role, each is refused.
func TestEveryRouteAsksWho(t *testing.T) {
	golden.Alone(t)
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
	golden.Alone(t)
	h := webtest.NewHouse(t).Furnish()
	h.Evening("Evening")
	as, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "Marek", Role: store.Instructor}})
	require.NoError(t, err)
	marek := &webtest.Visitor{T: t, H: as}
	address := regexp.MustCompile(`/static/[0-9a-f]+/css/roles.css`).FindString(marek.Do("GET", "/students", "").Body.String())
	css := marek.Do("GET", address, "").Body.String()
	selector := regexp.MustCompile(`(a|form|button)((?:\[(?:href|action|formaction)[\^$*]?="[^"]+"\])+)((?::not\([^)]*\))*)`)
	selectors := selector.FindAllStringSubmatch(css, -1)
	require.NotEmpty(t, selectors)
	fits := func(conditions, address string) bool {
		all := regexp.MustCompile(`\[(?:href|action|formaction)([\^$*]?)="([^"]+)"\]`).FindAllStringSubmatch(conditions, -1)
		for _, c := range all {
			if !map[string]bool{"": address == c[2], "^": strings.HasPrefix(address, c[2]), "$": strings.HasSuffix(address, c[2]), "*": strings.Contains(address, c[2])}[c[1]] {
				return false
			}
		}
		return len(all) > 0
	}
	hidden := func(element, address string) bool {
		return slices.ContainsFunc(selectors, func(s []string) bool {
			not := regexp.MustCompile(`:not\(([^)]*)\)`).FindAllStringSubmatch(s[3], -1)
			return s[1] == element && fits(s[2], address) && !slices.ContainsFunc(not, func(n []string) bool { return fits(n[1], address) })
		})
	}
	for _, rt := range web.Routes() { // every route, whether or not some page leads to it
		sample := regexp.MustCompile(`\{[a-z]+\}`).ReplaceAllString(rt.Path, "9f3a")
		for _, at := range []string{sample, sample + "?x=y"} {
			assert.Equal(t, rt.May == frame.Owner, hidden(map[string]string{"GET": "a", "POST": "form"}[rt.Method], at), "%s %s", rt.Method, at)
		}
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
