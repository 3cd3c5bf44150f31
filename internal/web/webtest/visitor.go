package webtest

import (
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
)

// Visitor is a browser with a cookie.
type Visitor struct {
	T      *testing.T
	H      http.Handler
	Cookie string
	From   string // the address they come from; "" the same as all others
	Kind   string // of content they send; "" as is usual
}

// Do asks with the visitor's cookie, and keeps the one that comes back.
func (v *Visitor) Do(method, path, body string) *httptest.ResponseRecorder {
	return v.ask(method, path, body, "")
}

// Form sends a form as a browser does that shows what it is answered.
func (v *Visitor) Form(path string, form url.Values) *httptest.ResponseRecorder {
	return v.ask("POST", path, form.Encode(), "text/html,*/*;q=0.8")
}

func (v *Visitor) ask(method, path, body, accept string) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, path, strings.NewReader(body))
	if strings.HasPrefix(body, "{") {
		r.Header.Set("Content-Type", "application/json")
	} else if method == "POST" {
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	if v.From != "" {
		r.RemoteAddr = v.From + ":40000"
	}
	if v.Kind != "" {
		r.Header.Set("Content-Type", v.Kind)
	}
	if accept != "" {
		r.Header.Set("Accept", accept)
	}
	if v.Cookie != "" {
		r.Header.Set("Cookie", v.Cookie)
	}
	w := httptest.NewRecorder()
	v.H.ServeHTTP(w, r)
	for _, c := range w.Result().Cookies() {
		if c.Name == "velvetladder" {
			v.Cookie = c.Name + "=" + c.Value
		}
	}
	return w
}

// Listen opens a stream of a server, as a page does that is kept told; it is closed with the test.
func (v *Visitor) Listen(server *httptest.Server, path string) *http.Response {
	v.T.Helper()
	r, err := http.NewRequestWithContext(v.T.Context(), "GET", server.URL+path, nil)
	require.NoError(v.T, err)
	r.Header.Set("Cookie", v.Cookie)
	r.Header.Set("Accept", "text/event-stream")
	res, err := http.DefaultClient.Do(r)
	require.NoError(v.T, err)
	v.T.Cleanup(func() { res.Body.Close() })
	return res
}

// SignIn is the form at the door.
func (v *Visitor) SignIn(name, password string) *httptest.ResponseRecorder {
	return v.Do("POST", "/sign-in", url.Values{"sign_in": {name}, "password": {password}, "back": {"/classes"}}.Encode())
}

// ClosedHouse is a furnished school where people sign in.
func ClosedHouse(t *testing.T) (*House, func() *Visitor) {
	h := NewHouse(t).Furnish()
	closed := h.Closed(h.Store)
	return h, func() *Visitor { return &Visitor{T: t, H: closed} }
}

// Closed is the application over a school where people sign in.
func (h *House) Closed(s *store.Store) http.Handler {
	closed, err := web.New(s, slog.New(slog.DiscardHandler), frame.Access{})
	require.NoError(h.T, err)
	return closed
}

// Secret is everybody's password.
const Secret = "four odd grain sacks"

// Visitor is a browser at the school.
func (h *House) Visitor() *Visitor { return &Visitor{T: h.T.(*testing.T), H: h.Handler} }
