package web_test

import (
	"crypto/tls"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

// TestBehindAProxy: a named proxy's word on TLS, host and client is taken, nobody else's is; and a host that is not the
// school's is refused.
func TestBehindAProxy(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	proxies, err := frame.Proxies([]string{"10.1.0.0/16", "192.0.2.7", "::ffff:192.0.2.8"})
	require.NoError(t, err)
	app, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Proxies: proxies, Hosts: []string{"ladder.example", "10.1.0.9"}, Code: "c0de"})
	require.NoError(t, err)
	ask := func(method, path, body, from, host string, tls_ bool, headers ...string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(method, path, strings.NewReader(body))
		r.RemoteAddr, r.Host = from+":40000", host
		if tls_ {
			r.TLS = &tls.ConnectionState{}
		}
		if body != "" {
			r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		}
		for i := 0; i+1 < len(headers); i += 2 {
			r.Header.Add(headers[i], headers[i+1])
		}
		w := httptest.NewRecorder()
		app.ServeHTTP(w, r)
		return w
	}
	welcome := "/welcome?code=c0de"
	for _, x := range []struct {
		what, from, host string
		tls              bool
		headers          []string
		status           int
		strict           bool
	}{
		{"plain, by name", "203.0.113.5", "ladder.example:8484", false, nil, 200, false},
		{"by name in capitals, with the root's dot", "203.0.113.5", "Ladder.Example.", false, nil, 200, false},
		{"TLS of our own", "203.0.113.5", "ladder.example", true, nil, 200, true},
		{"a stranger who claims TLS", "203.0.113.5", "ladder.example", false, []string{"X-Forwarded-Proto", "https"}, 200, false},
		{"a stranger who claims a host", "203.0.113.5", "evil.example", false, []string{"X-Forwarded-Host", "ladder.example"}, 421, false},
		{"a proxy with TLS", "10.1.2.3", "127.0.0.1:8484", false, []string{"X-Forwarded-Proto", "https", "X-Forwarded-Host", "ladder.example"}, 200, true},
		{"a proxy that passes the host on", "192.0.2.7", "ladder.example", false, []string{"X-Forwarded-Proto", "https"}, 200, true},
		{"a proxy mapped into IPv6", "192.0.2.8", "ladder.example", false, []string{"X-Forwarded-Proto", "HTTPS"}, 200, true},
		{"a proxy that says it was plain", "10.1.2.3", "ladder.example", false, []string{"X-Forwarded-Proto", "http"}, 200, false},
		{"what the client added stands first", "10.1.2.3", "ladder.example", false, []string{"X-Forwarded-Proto", "https, http"}, 200, false},
		{"a host the client added", "10.1.2.3", "10.1.0.9", false, []string{"X-Forwarded-Host", "ladder.example, evil.example"}, 421, false},
		{"another host", "203.0.113.5", "evil.example", false, nil, 421, false},
		{"a name inside another", "203.0.113.5", "ladder.example.evil.example", false, nil, 421, false},
		{"by address", "203.0.113.5", "10.1.0.9:8484", false, nil, 200, false},
	} {
		w := ask("GET", welcome, "", x.from, x.host, x.tls, x.headers...)
		assert.Equal(t, x.status, w.Code, x.what)
		assert.Equal(t, x.strict, w.Header().Get("Strict-Transport-Security") != "", x.what)
		assert.NotContains(t, w.Body.String(), "evil.example", x.what)
	}
	owner := "name=Rosa&sign_in=rosa&code=c0de&password=" + strings.ReplaceAll(webtest.Secret, " ", "+")
	w := ask("POST", "/welcome", owner, "10.1.2.3", "ladder.example", false, "X-Forwarded-Proto", "https", "X-Forwarded-For", "203.0.113.9", "Origin", "https://ladder.example")
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	cookie := w.Result().Cookies()[0]
	assert.True(t, cookie.Secure && cookie.HttpOnly, "over TLS the cookie goes over nothing else")
	assert.Equal(t, "__Host-velvetladder", cookie.Name)
	in := []string{"X-Forwarded-Proto", "https", "X-Forwarded-For", "203.0.113.9", "Cookie", cookie.Name + "=" + cookie.Value}
	link := func(headers ...string) string {
		return ask("POST", "/practice/"+h.Enrolment+"/link", "who=Greta&days=30", "10.1.2.3", "ladder.example", false, headers...).Body.String()
	}
	assert.Contains(t, link(in...), "https://ladder.example/family/", "links are as others reach the school")
	in[1] = "http"
	assert.NotContains(t, link(in...), "/family/", "and without TLS it is not sent at all")

	// Each client behind the proxy has tries of its own, whoever else they claim to be.
	try := func(client string) int {
		return ask("POST", "/sign-in", "sign_in=rosa&password=wrong+wrong+wrong", "10.1.2.3", "ladder.example", false, "X-Forwarded-For", "198.51.100.1, "+client).Code
	}
	for range frame.TriesAName {
		assert.Equal(t, http.StatusUnauthorized, try("203.0.113.20"))
	}
	assert.Equal(t, http.StatusTooManyRequests, try("203.0.113.20"))
	assert.Equal(t, http.StatusUnauthorized, try("203.0.113.21"), "the next one is not slowed down by them")
	_, err = frame.Proxies([]string{"somewhere"})
	assert.Error(t, err)
}
