package web

import (
	"bytes"
	"context"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"log/slog"
	"net/http"
	"net/url"
	"path"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"github.com/alexedwards/scs/v2"
	"github.com/go-chi/chi/v5"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
)

//go:embed templates/*.html
var templateFiles embed.FS

//go:embed static
var staticFiles embed.FS

// app is what all handlers share.
type app struct {
	store     *store.Store
	log       *slog.Logger
	templates map[string]*template.Template
	version   string // of the static files, part of their address
	access    Access
	sessions  *scs.SessionManager
	peopled   atomic.Bool // there is an account
	hub       hub
	groups    sync.Map // group → grading
}

// screens are the pages; each has a template and a script of its name.
var screens = []string{"ladder", "programs", "rungs", "requirements", "sheet", "binder", "difference", "check", "coverage", "load", "versions", "glossary", "booklet", "files",
	"techniques", "technique", "technique_edit", "numbers", "many", "forecasts", "students", "eligible", "student", "import",
	"plan", "insights", "practice", "family", "caller", "combinations", "classes", "class", "register", "checkin", "signoffs", "stripes", "attendance",
	"gradings", "grading", "day", "officers", "checklist", "pairs", "lineup", "belts", "papers", "outbox", "settings", "backups", "record", "head", "codes", "join", "scoring", "paper", "ring", "bouts", "review", "result", "lab", "trail", "find", "message", "door", "people", "account"}

// parse reads every template and names the version of the static files.
func (a *app) parse() error {
	sum := sha256.New()
	err := fs.WalkDir(staticFiles, "static", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		text, err := staticFiles.ReadFile(name)
		fmt.Fprintln(sum, name, len(text))
		sum.Write(text)
		return err
	})
	if err != nil {
		return err
	}
	a.version = hex.EncodeToString(sum.Sum(nil))[:12]
	layout, err := template.New("layout.html").Funcs(a.functions()).Funcs(curriculumFunctions()).Funcs(peopleFunctions()).Funcs(classesFunctions()).Funcs(gradingsFunctions()).Funcs(a.reviewFunctions()).ParseFS(templateFiles, "templates/layout.html", "templates/partials.html")
	if err != nil {
		return err
	}
	a.templates = map[string]*template.Template{}
	for _, name := range screens {
		own, err := layout.Clone()
		if err != nil {
			return err
		}
		if a.templates[name], err = own.ParseFS(templateFiles, "templates/"+name+".html"); err != nil {
			return err
		}
	}
	return nil
}

// asset is the address of a static file, which changes with what stands in any of them.
func (a *app) asset(name string) string { return "/static/" + a.version + "/" + name }

// scriptOf is the script of a screen: its own, or what every screen does.
func scriptOf(screen string) string {
	own := "js/" + screen + ".js"
	if _, err := fs.Stat(staticFiles, "static/"+own); err != nil {
		return "js/lib/shell.js"
	}
	return own
}

func (a *app) functions() template.FuncMap {
	return template.FuncMap{
		"asset":  a.asset,
		"script": func(screen string) string { return a.asset(scriptOf(screen)) },
		"bar":    func(done, of int) template.HTML { return template.HTML(chart.Bar(done, of)) },
		"belt":   func(c curriculum.Cloth, w, h int) template.HTML { return template.HTML(chart.Belt(c, w, h)) },
		"icon":   icon,
		"field": func(f form, name, label string, more ...string) field {
			x := field{Form: f, Name: name, Label: label}
			if len(more) > 0 {
				x.Type = more[0]
			}
			if len(more) > 1 {
				x.Hint = more[1]
			}
			return x
		},
		"pick": func(f form, name, label string, options []option) field {
			return field{Form: f, Name: name, Label: label, Options: options}
		},
		"lines":   func(list []string) string { return strings.Join(list, "\n") },
		"join":    strings.Join,
		"add":     func(a, b int) int { return a + b },
		"many":    many,
		"percent": func(n, of int) int { return 100 * n / max(of, 1) },
		"even":    func(n int) bool { return n%2 == 0 },
		"size":    sizeWords,
	}
}

// icon is the drawing of a vendored icon, hidden from screen readers.
func icon(name string) (template.HTML, error) {
	text, err := staticFiles.ReadFile("static/vendor/lucide/" + name + ".svg")
	if err != nil {
		return "", err
	}
	_, drawing, _ := strings.Cut(string(text), "<svg")
	return template.HTML(`<svg aria-hidden="true" focusable="false"` + drawing), nil
}

func many(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

// static serves what ships with the application. The version in the address lets browsers
// keep files for good.
func (a *app) static(w http.ResponseWriter, r *http.Request) {
	_, name, _ := strings.Cut(strings.TrimPrefix(r.URL.Path, "/static/"), "/")
	name = path.Join("static", path.Clean("/"+name))
	info, err := fs.Stat(staticFiles, name)
	if err != nil || info.IsDir() {
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
	http.ServeFileFS(w, r, staticFiles, name)
}

// worker is the service worker. It has the site's root as its scope, so it is not served from
// among the static files.
func (a *app) worker(w http.ResponseWriter, r *http.Request) {
	w.Header().Set("Cache-Control", "no-cache")
	http.ServeFileFS(w, r, staticFiles, "static/js/sw.js")
}

// page is what the layout needs, with the screen's own view as Body.
type page struct {
	Screen, Title string
	Nav           string // the entry of the top bar that is current
	Bare          bool   // used on the mat or at the table: no rail, no top bar
	School        string
	Programs      []curriculum.Program
	Program       curriculum.Program // the current one; its ID is "" where there is none
	Rail          []railRung
	Here          string // the chosen rung
	Done          *store.Entry
	Request       string // the id for this page's forms
	Path          string
	Person        store.Person // signed in
	Owner         bool
	Body          any
}

// railRung is a rung on the rail.
type railRung struct {
	ID, Name, Short string
	Belt            bool // drawn at full height
	Cloth           curriculum.Cloth
	Students        int
}

const programCookie = "program"

// show renders a screen. of names the program the screen is about; "" is the one looked at
// last.
func (a *app) show(w http.ResponseWriter, r *http.Request, status int, of string, p page) {
	ctx := r.Context()
	var err error
	p.Person = personOf(r)
	p.Owner = p.Person.Role == store.Owner
	if p.Person.Role == "" { // whoever is not let in sees nothing but the name over the door
		p.Bare = true
		p.School, err = a.store.School(ctx)
		if err != nil {
			a.broken(w, err)
			return
		}
		a.render(w, r, status, p)
		return
	}
	if p.School, err = a.store.School(ctx); err != nil {
		a.broken(w, err)
		return
	}
	if p.Programs, err = a.store.Programs(ctx); err != nil {
		a.broken(w, err)
		return
	}
	p.Program = choose(p.Programs, of, r)
	if p.Program.ID != "" && !p.Bare {
		http.SetCookie(w, &http.Cookie{Name: programCookie, Value: p.Program.ID, Path: "/", HttpOnly: true, SameSite: http.SameSiteLaxMode, MaxAge: 31536000})
		rungs, err := a.store.Ladder(ctx, p.Program.ID)
		if err != nil {
			a.broken(w, err)
			return
		}
		for _, g := range slices.Backward(rungs) {
			p.Rail = append(p.Rail, railRung{g.ID, g.Name, g.Short(), g.Kind == curriculum.Belt, g.Cloth, g.Students})
		}
	}
	if id := r.URL.Query().Get("done"); id != "" {
		if e, err := a.store.Trail(ctx, id); err == nil {
			p.Done = &e
		}
	}
	a.render(w, r, status, p)
}

func (a *app) render(w http.ResponseWriter, r *http.Request, status int, p page) {
	p.Request, p.Path = store.NewID(), r.URL.Path
	var out bytes.Buffer
	if err := a.templates[p.Screen].ExecuteTemplate(&out, "layout.html", p); err != nil {
		a.broken(w, fmt.Errorf("rendering %s: %w", p.Screen, err))
		return
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.WriteHeader(status)
	w.Write(out.Bytes())
}

// choose finds the program a page is about: the one it names, the one the address names,
// the one looked at last, or the first.
func choose(all []curriculum.Program, of string, r *http.Request) curriculum.Program {
	wanted := []string{of, r.URL.Query().Get("program")}
	if c, err := r.Cookie(programCookie); err == nil {
		wanted = append(wanted, c.Value)
	}
	for _, id := range wanted {
		for _, p := range all {
			if p.ID == id {
				return p
			}
		}
	}
	if len(all) > 0 {
		return all[0]
	}
	return curriculum.Program{}
}

// book is the curriculum of the program a page is about, as it is being edited. A school
// without a program is led to the first step; ok is false then, and after an error.
func (a *app) book(w http.ResponseWriter, r *http.Request) (b *curriculum.Book, ok bool) {
	p, err := a.program(r)
	if err != nil {
		a.fail(w, r, err)
		return nil, false
	}
	if p.ID == "" {
		http.Redirect(w, r, "/programs/new", http.StatusSeeOther)
		return nil, false
	}
	if b, err = a.store.Book(r.Context(), p.ID); err != nil {
		a.fail(w, r, err)
		return nil, false
	}
	return b, true
}

// rungBook is the rung an address names with its curriculum.
func (a *app) rungBook(w http.ResponseWriter, r *http.Request) (g *curriculum.Rung, b *curriculum.Book, ok bool) {
	x, err := a.store.Rung(r.Context(), chi.URLParam(r, "rung"))
	if err == nil {
		b, err = a.store.Book(r.Context(), x.ProgramID)
	}
	if err == nil {
		if g = b.Rung(x.ID); g == nil {
			err = store.ErrNotFound
		}
	}
	if err != nil {
		a.fail(w, r, err)
		return nil, nil, false
	}
	return g, b, true
}

// program is the current program for a handler that needs it before rendering.
func (a *app) program(r *http.Request) (curriculum.Program, error) {
	all, err := a.store.Programs(r.Context())
	return choose(all, "", r), err
}

// broken answers when even the layout cannot be made.
func (a *app) broken(w http.ResponseWriter, err error) {
	a.log.Error("a page could not be made", "error", err)
	http.Error(w, "The records cannot be read just now. Nothing was changed; try again, and see the log.", http.StatusInternalServerError)
}

type message struct{ Title, Text string }

// message renders a page that says one thing.
func (a *app) message(w http.ResponseWriter, r *http.Request, status int, title, text string) {
	a.show(w, r, status, "", page{Screen: "message", Title: title, Body: message{title, text}})
}

// fail renders an error no form can show.
func (a *app) fail(w http.ResponseWriter, r *http.Request, err error) {
	status, title, text := explain(err)
	if status >= http.StatusInternalServerError {
		a.log.Error("a request failed", "error", err, "path", r.URL.Path)
	}
	a.message(w, r, status, title, text)
}

// explain is an error as status and words.
func explain(err error) (status int, title, text string) {
	var problems check.Problems
	var refused *store.Refused
	var stale *store.Stale
	var large *http.MaxBytesError
	var invalid *store.InvalidCurriculum
	var old *store.Outdated
	switch {
	case errors.As(err, &old):
		return http.StatusConflict, "Entered on another device", old.Error()
	case store.Full(err):
		return http.StatusInsufficientStorage, "The disk is full", "This was not stored, and nothing that was stored before is lost. Make room on the disk that holds the school’s file; marks that wait on a tablet are delivered by themselves then."
	case store.ReadOnly(err):
		return http.StatusServiceUnavailable, "The school’s file cannot be written to", "This was not stored, and nothing that was stored before is lost. Let the program write to the file and its folder, and try again."
	case errors.Is(err, context.Canceled): // whoever asked has gone
		return http.StatusServiceUnavailable, "Nobody waits for this any more", "What was under way is stored, or nothing of it. Ask again."
	case errors.Is(err, store.ErrNotFound):
		return http.StatusNotFound, "This is not on record", "It may have been deleted, or the address is mistyped. The ladder and the search lead to everything there is."
	case errors.Is(err, store.ErrConflict):
		return http.StatusConflict, "This was sent before with other content", "The first version was stored and nothing of this one. Load the page again and make the change there."
	case errors.As(err, &stale):
		return http.StatusConflict, "Marked on another device", stale.Error()
	case errors.As(err, &refused):
		return http.StatusConflict, "This cannot be done", refused.Reason
	case errors.As(err, &problems):
		return http.StatusUnprocessableEntity, "Something needs correcting", problems.Error()
	case errors.As(err, &invalid):
		return http.StatusUnprocessableEntity, "The curriculum would not hold together", invalid.Error()
	case errors.As(err, &large):
		return http.StatusRequestEntityTooLarge, "This is too large", fmt.Sprintf("Up to %d MiB can be sent at once.", maxBody>>20)
	}
	return http.StatusInternalServerError, "Something went wrong here", "Nothing was changed. Go back and try again; the log says more."
}

// form is what people typed and what is wrong with it.
type form struct {
	Values   url.Values
	Problems check.Problems
	General  string
	Of       string // which form it is where a page has several; empty for the only one
}

// For is the form as typed when it is the one so called, and an empty one otherwise.
func (f form) For(of string) form {
	if f.Of != of {
		return form{Of: of}
	}
	return f
}

// Get is the typed value of a field.
func (f form) Get(name string) string { return f.Values.Get(name) }

// Has reports whether a field has a value among several.
func (f form) Has(name, value string) bool { return slices.Contains(f.Values[name], value) }

// Problem is what is wrong with a field.
func (f form) Problem(name string) string { return f.Problems.Of(name) }

type option struct{ Value, Label string }

// field is one labelled input for the partials.
type field struct {
	Form                    form
	Name, Label, Type, Hint string
	Options                 []option
}

// ID is the field's name within the page.
func (f field) ID() string {
	if f.Form.Of == "" {
		return f.Name
	}
	return f.Name + "-" + f.Form.Of
}

// values makes form values from pairs.
func values(pairs ...string) url.Values {
	v := url.Values{}
	for i := 0; i+1 < len(pairs); i += 2 {
		v.Add(pairs[i], pairs[i+1])
	}
	return v
}

func options[T ~string](list []T, words func(T) string) (out []option) {
	for _, x := range list {
		out = append(out, option{string(x), words(x)})
	}
	return out
}

// posted reads a form and says who sent it. The digest covers all that was typed, so that
// the same form sent twice is answered once.
func posted(r *http.Request) (url.Values, store.By, error) {
	var err error
	if strings.HasPrefix(r.Header.Get("Content-Type"), "multipart/form-data") {
		err = r.ParseMultipartForm(maxBody)
	} else {
		err = r.ParseForm()
	}
	if err != nil {
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			return nil, store.By{}, err
		}
		return nil, store.By{}, check.Problems{{Field: "form", Text: "could not be read; load the page again"}}
	}
	v := r.PostForm
	id := v.Get("request")
	v.Del("request")
	sum := sha256.Sum256([]byte(r.URL.Path + "?" + v.Encode()))
	return v, store.By{Actor: actorOf(r), Request: id, Digest: hex.EncodeToString(sum[:])}, nil
}

// save runs a form's write. On success it goes to the address that next gives; what is wrong
// with the fields goes back to again, which shows the form with its input kept.
func (a *app) save(w http.ResponseWriter, r *http.Request, write func(url.Values, store.By) (store.Done, error), next func(store.Done) string, again func(status int, f form)) {
	v, by, err := posted(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	done, err := write(v, by)
	if err == nil {
		to := next(done)
		mark := "?"
		if strings.Contains(to, "?") {
			mark = "&"
		}
		to, anchor, _ := strings.Cut(to, "#")
		if to += mark + "done=" + done.Audit; anchor != "" {
			to += "#" + anchor
		}
		http.Redirect(w, r, to, http.StatusSeeOther)
		return
	}
	var problems check.Problems
	var refused *store.Refused
	var invalid *store.InvalidCurriculum
	status, _, text := explain(err)
	switch {
	case again != nil && errors.As(err, &problems):
		again(status, form{Values: v, Problems: problems})
	case again != nil && (errors.As(err, &refused) || errors.As(err, &invalid)):
		again(status, form{Values: v, General: text})
	default:
		a.fail(w, r, err)
	}
}

// to is a constant next address.
func to(address string) func(store.Done) string { return func(store.Done) string { return address } }

// undo takes back the entry of the audit trail a page offered.
func (a *app) undo(w http.ResponseWriter, r *http.Request) {
	back := "/"
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if p, err := url.Parse(v.Get("back")); err == nil && p.Host == "" && p.Scheme == "" && strings.HasPrefix(p.Path, "/") && !strings.HasPrefix(p.Path, "//") {
			back = p.Path
		}
		// What was added is gone afterwards, and its page with it: go to the list.
		if e, err := a.store.Trail(r.Context(), v.Get("entry")); err == nil && strings.HasPrefix(e.Action, "Added ") && strings.Count(back, "/") > 1 {
			back = back[:1+strings.Index(back[1:], "/")]
		}
		return a.store.Undo(r.Context(), by, v.Get("entry"))
	}, func(store.Done) string { return back }, nil)
}
