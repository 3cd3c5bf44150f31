package web_test

import (
	"crypto/sha256"
	"fmt"
	"html"
	"io"
	"log/slog"
	"maps"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/demotest"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

var (
	forms  = regexp.MustCompile(`(?s)<form[^>]*method="post"[^>]*action="([^"]*)"[^>]*>(.*?)</form>`)
	links  = regexp.MustCompile(`(?:href|action|src)="(/[^"#]*)`)
	shown  = regexp.MustCompile(`(?:value|placeholder|aria-label|data-[a-z-]+|title|min|max|href)="([^"]*)"|<(?:option|input)[^>]* (selected|checked|disabled)`)
	markup = regexp.MustCompile(`(?s)<(?:script|style).*?</(?:script|style)>|<[^>]*>`)
	chance = regexp.MustCompile(`[0-9a-f]{16,}|\b[0-9A-Z]{5}-[0-9A-Z]{5}\b`)
)

// drawn are the places of what moves in a drawing, and what it is made of.
var drawn = regexp.MustCompile(` data-(?:from|to|at|foot|kick|trunk)="\d+"| href="#[ps]\d[^"]*"`)

// madeFrom are the hidden fields that say what a form was made from: they hold what stands in the fields.
var madeFrom = regexp.MustCompile(`<input type="hidden" name="(seen|was)"[^>]*>`)

// spoken is what a page says and what its fields hold, a line each; ids are left out.
func spoken(page string) (out []string) {
	if _, main, found := strings.Cut(page, "<main"); found {
		page = "<main" + main
	}
	page = drawn.ReplaceAllString(page, "")
	page = chance.ReplaceAllString(madeFrom.ReplaceAllString(page, ""), "…")
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

// foundForm is a form found on a page: where it goes, and what it sends whatever is typed.
type foundForm struct {
	to          string
	held, shown url.Values // whatever is typed, and as it stands
}

// TestPagesAsTheyWereLookedAt goes from the home screen along every link of the demo school, to
// four pages of each kind, then sends each form it met as it stands and empty, and holds the
// words that come to what they were when somebody looked last: of two pages of a kind in full,
// of long ones and of the others as a sum.
// After a change that is meant: go test ./internal/web -run LookedAt -update, and look.
func TestPagesAsTheyWereLookedAt(t *testing.T) {
	golden.Alone(t)
	path := demotest.Copy(t)
	s, err := store.Open(webtest.Ctx, path, webtest.Clock)
	require.NoError(t, err)
	defer s.Close()
	h, err := web.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), frame.Access{Everybody: &store.Person{Name: "Rosalind Castellane", Role: store.Owner}})
	require.NoError(t, err)
	x := &webtest.House{Handler: h, T: t, Store: s, Path: path}
	routes := chi.NewRouter()
	for _, rt := range web.Routes() {
		routes.Method(rt.Method, rt.Path, http.NotFoundHandler())
	}
	kind := func(method, link string) string {
		plain, query, _ := strings.Cut(link, "?")
		c := chi.NewRouteContext()
		if !routes.Match(c, method, plain) {
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
	const each, inFull, most = 4, 2, 120
	var out []string
	went, kinds := map[string]bool{}, map[string]int{}
	var sent []foundForm
	for todo := []string{"/"}; len(todo) > 0; todo = todo[1:] {
		link := todo[0]
		what := kind("GET", link)
		if what == "" || strings.Contains(what, "*") || kinds[what] == each || went[link] {
			continue
		}
		went[link] = true
		kinds[what]++
		w := x.Do("GET", link, "")
		require.Less(t, w.Code, 500, link)
		var said []string
		sort := w.Header().Get("Content-Type")
		out = append(out, "", fmt.Sprintf("== %s: %d %s %s", chance.ReplaceAllString(link, "…"), w.Code, sort, chance.ReplaceAllString(w.Header().Get("Location"), "…")))
		switch {
		case strings.HasPrefix(sort, "text/html"):
			page := w.Body.String()
			said = spoken(page)
			for _, m := range forms.FindAllStringSubmatch(page, -1) {
				f := foundForm{html.UnescapeString(m[1]), url.Values{}, url.Values{}}
				for _, in := range webtest.Inputs.FindAllString(m[2], -1) {
					name, value := webtest.Attribute("name").FindStringSubmatch(in), webtest.Attribute("value").FindStringSubmatch(in)
					tick := strings.Contains(in, `type="checkbox"`) || strings.Contains(in, `type="radio"`)
					switch {
					case name == nil || value == nil || slices.Contains([]string{"request", "seen", "was"}, name[1]) || tick && !strings.Contains(in, " checked"):
					case strings.Contains(in, `type="hidden"`):
						f.held.Add(name[1], html.UnescapeString(value[1]))
						fallthrough
					default:
						f.shown.Add(name[1], html.UnescapeString(value[1]))
					}
				}
				for _, a := range webtest.Areas.FindAllStringSubmatch(m[2], -1) {
					f.shown.Add(a[1], html.UnescapeString(a[2]))
				}
				for _, a := range webtest.Selects.FindAllStringSubmatch(m[2], -1) {
					if o := webtest.ChosenOption.FindStringSubmatch(a[2]); o != nil {
						f.shown.Add(a[1], html.UnescapeString(o[1]))
					} else if o := webtest.Attribute("value").FindStringSubmatch(a[2]); o != nil {
						f.shown.Add(a[1], html.UnescapeString(o[1]))
					}
				}
				what := kind("POST", f.to)
				if named := "form " + what + " " + strings.Join(slices.Sorted(maps.Keys(f.held)), " "); what != "" && kinds[named] == 0 {
					kinds[named]++
					sent = append(sent, f)
				}
			}
			for _, m := range links.FindAllStringSubmatch(page, -1) {
				todo = append(todo, html.UnescapeString(m[1]))
			}
		case strings.HasPrefix(sort, "text/"):
			said = strings.Split(chance.ReplaceAllString(w.Body.String(), "…"), "\n")
		}
		keep := most
		if kinds[what] > inFull {
			keep = 0
		}
		if n := len(said) - keep; n > 0 {
			said = append(said[:keep:keep], fmt.Sprintf("and %d lines more: %x", n, sha256.Sum256([]byte(strings.Join(said[keep:], "\n"))))[:40])
		}
		out = append(out, said...)
		if to := w.Header().Get("Location"); to != "" {
			todo = append(todo, to)
		}
	}
	send := func(how, to string, v url.Values) {
		v.Set("request", fmt.Sprint("request ", len(out)))
		w := x.Do("POST", to, v.Encode())
		require.Less(t, w.Code, 500, to)
		after := w.Header().Get("Location")
		out = append(out, "", fmt.Sprintf("== sent %s: %s: %d %s", how, chance.ReplaceAllString(to, "…"), w.Code, chance.ReplaceAllString(after, "…")))
		if w.Code == http.StatusSeeOther {
			w = x.Do("GET", after, "")
		}
		said := spoken(w.Body.String())
		out = append(out, said[:min(len(said), most/4)]...)
		out = append(out, fmt.Sprintf("in all %x", sha256.Sum256([]byte(strings.Join(said, "\n"))))[:32])
	}
	for _, f := range sent {
		if !strings.Contains(f.to, "delete") && !strings.Contains(f.to, "/end") {
			send("as it stands", f.to, f.shown)
		}
	}
	for _, f := range sent {
		send("empty", f.to, f.held)
	}
	// Each field by itself with what cannot be, and where a range is told, at and beyond its ends.
	said := regexp.MustCompile(`(?s)class="said"[^>]*><strong>(.*?)</strong>`)
	ends := regexp.MustCompile(`from (\d+) to (\d+)`)
	try := func(f foundForm, field, value string) []string {
		v := maps.Clone(f.shown)
		v.Set("request", fmt.Sprint("try ", len(out)))
		v.Set(field, value)
		w := x.Do("POST", f.to, v.Encode())
		require.Less(t, w.Code, 500, "%s %s=%s", f.to, field, value)
		line := fmt.Sprintf("%s=%q: %d", field, value, w.Code)
		var why []string
		for _, m := range said.FindAllStringSubmatch(w.Body.String(), -1) {
			why = append(why, html.UnescapeString(webtest.Text(m[1])))
		}
		out = append(out, line+" "+chance.ReplaceAllString(strings.Join(why, " | "), "…"))
		return why
	}
	for _, f := range sent {
		if strings.Contains(f.to, "delete") || strings.Contains(f.to, "/end") || f.to == "/undo" || strings.Contains(f.to, "/move") {
			continue
		}
		out = append(out, "", "== tried: "+chance.ReplaceAllString(f.to, "…"))
		for _, field := range slices.Sorted(maps.Keys(f.shown)) {
			if _, held := f.held[field]; held || field == "back" {
				continue
			}
			for _, why := range try(f, field, "9999999x") {
				if m := ends.FindStringSubmatch(why); m != nil {
					low, _ := strconv.Atoi(m[1])
					high, _ := strconv.Atoi(m[2])
					for _, n := range []int{low - 1, low, high, high + 1} {
						try(f, field, strconv.Itoa(n))
					}
				}
			}
		}
	}
	page := ""
	golden.Hold(t, "testdata/pages.txt", out, func(i int) string {
		if strings.HasPrefix(out[i], "== ") {
			page = out[i]
		}
		return page
	})
}
