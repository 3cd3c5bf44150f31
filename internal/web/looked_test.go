package web

import (
	"crypto/sha256"
	"flag"
	"fmt"
	"html"
	"io"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/onrecord"
	"velvetladder/internal/store"
)

var update = flag.Bool("update", false, "write testdata anew, after a look at the pages")

var (
	links  = regexp.MustCompile(`(?:href|action|src)="(/[^"#]*)`)
	shown  = regexp.MustCompile(`(?:value|placeholder|aria-label|data-[a-z-]+|title|min|max|href)="([^"]*)"|<(?:option|input)[^>]* (selected|checked|disabled)`)
	markup = regexp.MustCompile(`(?s)<(?:script|style).*?</(?:script|style)>|<[^>]*>`)
	chance = regexp.MustCompile(`[0-9a-f]{16,}`)
)

// words are what a page says and what its fields hold, a line each; ids are left out.
func words(page string) (out []string) {
	if _, main, found := strings.Cut(page, "<main"); found {
		page = "<main" + main
	}
	page = chance.ReplaceAllString(page, "…")
	for part := range strings.SplitSeq(markup.ReplaceAllStringFunc(page, func(tag string) string {
		held := ""
		for _, m := range shown.FindAllStringSubmatch(tag, -1) {
			if said := m[1] + m[2]; said != "" {
				held += "\x01[" + said + "]"
			}
		}
		return "\x01" + held
	}), "\x01") {
		if line := strings.Join(strings.Fields(html.UnescapeString(part)), " "); line != "" {
			out = append(out, line)
		}
	}
	return out
}

// TestPagesAsTheyWereLookedAt goes from the home screen along every link of the demo school, to
// two pages of each kind, and holds their words to what they were when somebody looked last.
// After a change that is meant: go test ./internal/web -run LookedAt -update, and look.
func TestPagesAsTheyWereLookedAt(t *testing.T) {
	path := filepath.Join(t.TempDir(), "demo.db")
	require.NoError(t, onrecord.Build(bg, path, civil.On(clock())))
	s, err := store.Open(bg, path, clock)
	require.NoError(t, err)
	defer s.Close()
	h, err := New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), Access{Everybody: &store.Person{Name: "Rosalind Castellane", Role: store.Owner}})
	require.NoError(t, err)
	x := &house{Handler: h, t: t, s: s, path: path}
	routes := chi.NewRouter()
	for _, rt := range (&app{}).routes() {
		if rt.method == "GET" {
			routes.Get(rt.path, http.NotFound)
		}
	}
	kind := func(link string) string {
		plain, query, _ := strings.Cut(link, "?")
		c := chi.NewRouteContext()
		if !routes.Match(c, "GET", plain) {
			return ""
		}
		var asked []string
		for part := range strings.SplitSeq(query, "&") {
			name, _, _ := strings.Cut(part, "=")
			asked = append(asked, name)
		}
		slices.Sort(asked)
		return c.RoutePattern() + " " + strings.Join(slices.Compact(asked), " ")
	}
	const each, most = 2, 150
	var out []string
	went, kinds := map[string]bool{}, map[string]int{}
	for todo := []string{"/"}; len(todo) > 0; todo = todo[1:] {
		link := todo[0]
		what := kind(link)
		if what == "" || strings.Contains(what, "*") || kinds[what] == each || went[link] {
			continue
		}
		went[link] = true
		kinds[what]++
		w := x.do("GET", link, "")
		require.Less(t, w.Code, 500, link)
		var said []string
		sort := w.Header().Get("Content-Type")
		out = append(out, "", fmt.Sprintf("== %s: %d %s %s", chance.ReplaceAllString(link, "…"), w.Code, sort, chance.ReplaceAllString(w.Header().Get("Location"), "…")))
		switch {
		case strings.HasPrefix(sort, "text/html"):
			page := w.Body.String()
			said = words(page)
			for _, m := range links.FindAllStringSubmatch(page, -1) {
				todo = append(todo, html.UnescapeString(m[1]))
			}
		case strings.HasPrefix(sort, "text/"):
			said = strings.Split(chance.ReplaceAllString(w.Body.String(), "…"), "\n")
		}
		if n := len(said) - most; n > 0 { // of a long page the rest by its sum
			said = append(said[:most:most], fmt.Sprintf("and %d lines more: %x", n, sha256.Sum256([]byte(strings.Join(said[most:], "\n"))))[:60])
		}
		out = append(out, said...)
		if to := w.Header().Get("Location"); to != "" {
			todo = append(todo, to)
		}
	}
	now := strings.Join(out, "\n") + "\n"
	const file = "testdata/pages.txt"
	if *update {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(file, []byte(now), 0o644))
	}
	then, err := os.ReadFile(file)
	require.NoError(t, err)
	was, page := strings.Split(string(then), "\n"), ""
	for i, line := range strings.Split(now, "\n") {
		if strings.HasPrefix(line, "== ") {
			page = line
		}
		require.Less(t, i, len(was), line)
		require.Equal(t, was[i], line, "line %d of %s, on %s", i+1, file, page)
	}
	require.Equal(t, len(was), strings.Count(now, "\n")+1)
}
