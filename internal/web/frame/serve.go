package frame

import (
	"context"
	"log/slog"
	"net"
	"net/http"
	"sync"
	"time"
)

// Bounds on what a request may take. There is no write timeout: streams will come.
const (
	MaxBody       = 8 << 20 // bytes; the curriculum of 3,000 techniques, or a CSV of 40,000 students
	headerTimeout = 10 * time.Second
	readTimeout   = 60 * time.Second
	idleTimeout   = 2 * time.Minute
	maxHeader     = 32 << 10
)

// NewServer is New with the bounds a server needs.
func NewServer(h http.Handler, log *slog.Logger) *http.Server {
	stop := make(chan struct{})
	server := &http.Server{
		BaseContext: func(net.Listener) context.Context {
			return context.WithValue(context.Background(), stoppingKey{}, stop)
		},
		Handler: h, ReadHeaderTimeout: headerTimeout, ReadTimeout: readTimeout, IdleTimeout: idleTimeout, MaxHeaderBytes: maxHeader,
		ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelWarn),
	}
	server.RegisterOnShutdown(sync.OnceFunc(func() { close(stop) }))
	return server
}

// policy lets a page load only what ships with the application, run no inline script or
// style, and be framed by nobody.
const policy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; worker-src 'self'; manifest-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"

func (fr *Frame) secure(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cache-Control", "no-store") // pages hold children's data; static files say otherwise
		// What is last on record before anything is read: a form carries it.
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), seenKey{}, fr.records.Seen())))
	})
}

type seenKey struct{}

// recoverer turns a panic into a page and a log line; nothing is half-written, because
// every write is one transaction.
func (fr *Frame) recoverer(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			if v := recover(); v != nil {
				if v == http.ErrAbortHandler {
					panic(v)
				}
				fr.Log.Error("a handler gave up", "panic", v, "path", r.URL.Path)
				fr.Message(w, r, http.StatusInternalServerError, "Something went wrong here", "Nothing was changed. Go back and try again; the log says more.")
			}
		}()
		next.ServeHTTP(w, r)
	})
}
