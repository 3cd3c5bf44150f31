// Package frame is what every screen stands in: the page and its form, routes and who may use them, who
// is there, errors, streams, entries, downloads. It knows no screen.
package frame

import (
	"context"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"html/template"
	"io/fs"
	"log/slog"
	"maps"
	"net/http"
	"path"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
	"velvetladder/internal/words"
)

//go:embed *.html static
var files embed.FS

// Frame is what all chapters share.
type Frame struct {
	records  Records
	Log      *slog.Logger
	Access   Access
	Sessions *scs.SessionManager
	Hub      Hub
	peopled  atomic.Bool // there is an account
	screens  map[string]*screen
	static   map[string]file // address below the version → where it is
	serviced string          // the service worker
	version  string          // of the static files, part of their address
}

// Records is what the frame asks of the store.
type Records interface {
	Book(ctx context.Context, program string) (*curriculum.Book, error)
	FirstHour(ctx context.Context) (office.FirstHour, error)
	Ladder(ctx context.Context, program string) ([]store.LadderRung, error)
	Now() time.Time
	NoteDeed(ctx context.Context, by store.By, deed office.Deed) (store.Done, error)
	People(ctx context.Context) ([]store.Person, error)
	Programs(ctx context.Context) ([]curriculum.Program, error)
	Rung(ctx context.Context, id string) (curriculum.Rung, error)
	School(ctx context.Context) (string, error)
	Seated(ctx context.Context, id string) (store.Seat, error)
	Seen() int64
	ProvedLately(x store.SignIn) bool
	Sessions() *store.Sessions
	SignedIn(ctx context.Context, id string) (store.Person, store.SignIn, error)
	StillHere(ctx context.Context, x store.SignIn) error
	Trail(ctx context.Context, id string) (store.Entry, error)
	Undo(ctx context.Context, by store.By, entry string) (store.Done, error)
}

// Chapter is what a chapter of the job brings into the house.
type Chapter struct {
	Routes    []Route
	Files     fs.FS            // NAME.html of every screen, NAME.js where it has a script; partials.html where screens share pieces
	Functions template.FuncMap // of its templates
	Mat       []string         // screens used on the mat: a device keeps them, and what they need, for when it has no network
}

// file is a static file: one that ships with the application, or one that is made at the start.
type file struct {
	fs   fs.FS
	name string
	made string
}

func (x file) read() ([]byte, error) {
	if x.fs == nil {
		return []byte(x.made), nil
	}
	return fs.ReadFile(x.fs, x.name)
}

// New is a frame without chapters.
func New(records Records, log *slog.Logger, access Access) *Frame {
	fr := &Frame{records: records, Log: log, Access: access}
	fr.Sessions = fr.sessionManager()
	return fr
}

// Chapter is what the frame itself answers.
func (fr *Frame) Chapter() Chapter {
	return Chapter{Files: files, Routes: []Route{
		Post("/undo", Owner, fr.undo),
		Get("/now", Anyone, fr.nowShow),
		Get("/static/*", Anyone, fr.serveStatic),
		Get("/sw.js", Anyone, fr.worker),
	}}
}

// Handler is the whole application. shared are chapters whose partials every template knows. It fails when
// a template does not parse, and panics where a route has no role.
func (fr *Frame) Handler(shared Chapter, chapters ...Chapter) (http.Handler, error) {
	chapters = append([]Chapter{shared}, chapters...)
	if err := fr.gather(chapters); err != nil {
		return nil, err
	}
	if err := fr.makeWorker(chapters); err != nil {
		return nil, err
	}
	if err := fr.parse(shared, chapters); err != nil {
		return nil, err
	}
	r := chi.NewRouter()
	r.Use(fr.recoverer, fr.secure, fr.arrive, http.NewCrossOriginProtection().Handler, middleware.RequestSize(MaxBody), middleware.GetHead, fr.session, fr.whoever)
	guessing := fr.ByAddress(linkTries)
	for _, c := range chapters {
		for _, x := range c.Routes {
			if !slices.Contains(roles, x.May) {
				panic("the route " + x.Method + " " + x.Path + " declares no role")
			}
			handle := http.Handler(fr.guard(x))
			if x.May == Family {
				handle = guessing(handle)
			}
			if x.Limit != nil {
				handle = x.Limit(handle)
			}
			r.Method(x.Method, x.Path, handle)
		}
	}
	r.NotFound(func(w http.ResponseWriter, r *http.Request) { fr.Fail(w, r, store.ErrNotFound) })
	r.MethodNotAllowed(func(w http.ResponseWriter, r *http.Request) {
		fr.Message(w, r, http.StatusMethodNotAllowed, "This address takes no such request", "The page you came from may be out of date; go back and load it again.")
	})
	return r, nil
}

// gather finds the static files, those of the frame and the scripts of the chapters' screens, makes the
// style sheet of roles, and names their version.
func (fr *Frame) gather(chapters []Chapter) error {
	fr.static = map[string]file{}
	err := fs.WalkDir(files, "static", func(name string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			fr.static[strings.TrimPrefix(name, "static/")] = file{fs: files, name: name}
		}
		return err
	})
	if err != nil {
		return err
	}
	for _, c := range chapters {
		scripts, err := fs.Glob(c.Files, "*.js")
		if err != nil {
			return err
		}
		for _, name := range scripts {
			fr.static["js/"+name] = file{fs: c.Files, name: name}
		}
	}
	fr.static["css/roles.css"] = file{name: "roles.css", made: ownersOnly(chapters)}
	sum := sha256.New()
	for _, name := range slices.Sorted(maps.Keys(fr.static)) {
		text, err := fr.static[name].read()
		if err != nil {
			return err
		}
		fmt.Fprintln(sum, name, len(text))
		sum.Write(text)
	}
	fr.version = hex.EncodeToString(sum.Sum(nil))[:12]
	return nil
}

// partials is the file of a chapter's shared pieces.
const partials = "partials.html"

// parse reads every template: the layout with the shared pieces, for each chapter its functions and
// pieces on top, for each screen its own, which must parse by itself.
func (fr *Frame) parse(shared Chapter, chapters []Chapter) error {
	layout, err := template.New("layout.html").Funcs(fr.functions()).Funcs(shared.Functions).ParseFS(files, "layout.html", partials)
	if err != nil {
		return err
	}
	if _, err := fs.Stat(shared.Files, partials); err == nil {
		if layout, err = layout.ParseFS(shared.Files, partials); err != nil {
			return err
		}
	}
	fr.screens = map[string]*screen{}
	for _, c := range chapters {
		of, err := layout.Clone()
		if err != nil {
			return err
		}
		of.Funcs(c.Functions)
		if _, err := fs.Stat(c.Files, partials); err == nil {
			if of, err = of.ParseFS(c.Files, partials); err != nil {
				return err
			}
		}
		names, err := fs.Glob(c.Files, "*.html")
		if err != nil {
			return err
		}
		for _, name := range names {
			if name == partials || name == "layout.html" {
				continue
			}
			alone := template.New(name).Funcs(fr.functions()).Funcs(shared.Functions).Funcs(c.Functions)
			if _, err := alone.ParseFS(c.Files, name); err != nil {
				return err
			}
			fr.screens[strings.TrimSuffix(name, ".html")] = &screen{of: of, files: c.Files, name: name}
		}
	}
	return nil
}

// screen is a template that is put into its chapter's layout when it is first shown: with all screens that
// is half of the start.
type screen struct {
	once  sync.Once
	of    *template.Template // the layout with the pieces of the chapter
	files fs.FS
	name  string
	whole *template.Template
	err   error
}

func (x *screen) template() (*template.Template, error) {
	x.once.Do(func() {
		own, err := x.of.Clone()
		if err == nil {
			own, err = own.ParseFS(x.files, x.name)
		}
		x.whole, x.err = own, err
	})
	return x.whole, x.err
}

// asset is the address of a static file, which changes with what stands in any of them.
func (fr *Frame) asset(name string) string { return "/static/" + fr.version + "/" + name }

// script is the address of a screen's script: its own, or what every screen does.
func (fr *Frame) script(screen string) string {
	own := "js/" + screen + ".js"
	if _, has := fr.static[own]; !has {
		own = "js/lib/shell.js"
	}
	return fr.asset(own)
}

func (fr *Frame) functions() template.FuncMap {
	return template.FuncMap{
		"asset":  fr.asset,
		"made":   madeFrom,
		"script": fr.script,
		"bar":    func(done, of int) template.HTML { return template.HTML(chart.Bar(done, of)) },
		"belt":   func(c curriculum.Cloth, w, h int) template.HTML { return template.HTML(chart.Belt(c, w, h)) },
		"icon":   icon,
		"field": func(f Form, name, label string, more ...string) field {
			x := field{Form: f, Name: name, Label: label}
			if len(more) > 0 {
				x.Type = more[0]
			}
			if len(more) > 1 {
				x.Hint = more[1]
			}
			return x
		},
		"pick": func(f Form, name, label string, options []Option) field {
			return field{Form: f, Name: name, Label: label, Options: options}
		},
		"lines":       func(list []string) string { return strings.Join(list, "\n") },
		"join":        strings.Join,
		"add":         func(a, b int) int { return a + b },
		"many":        words.Count,
		"anew":        words.Anew,
		"checkdetail": words.CheckDetail,
		"deed":        words.Deed,
		"figure":      words.Figure,
		"lack":        words.Lack,
		"why":         words.Why,
		"verdict":     words.Verdict,
		"mark":        words.Mark,
		"fault":       words.Fault,
		"outcome":     words.Outcome,
		"reason":      words.Reason,
		"scope":       words.Scope,
		"unseen":      words.Unseen,
		"percent":     func(n, of int) int { return 100 * n / max(of, 1) },
		"even":        func(n int) bool { return n%2 == 0 },
		"size":        sizeWords,
		"whys":        words.Whys,
		"phrases":     phrases,
		"leftout":     words.LeftOut,
		"throughout":  words.Throughout,
		"toldapart":   words.ToldApart,
		"detail":      words.DetailBesideNote,
		"manner":      words.Manner,
		"standard":    words.Standard,
		"asked":       words.Asked,
		"calledfor":   words.CalledAmount,
		"adapted":     words.Adapted,
	}
}

// phrases are the sentences that the scripts of a screen say, as JSON.
func phrases(screen string) (string, error) {
	text, err := json.Marshal(words.Script(screen))
	return string(text), err
}

// icon is the drawing of a vendored icon, hidden from screen readers.
func icon(name string) (template.HTML, error) {
	text, err := files.ReadFile("static/vendor/lucide/" + name + ".svg")
	if err != nil {
		return "", err
	}
	_, drawing, _ := strings.Cut(string(text), "<svg")
	return template.HTML(`<svg aria-hidden="true" focusable="false"` + drawing), nil
}

// serveStatic serves what ships with the application. The version in the address lets browsers keep files
// for good.
func (fr *Frame) serveStatic(w http.ResponseWriter, r *http.Request) {
	_, name, _ := strings.Cut(strings.TrimPrefix(r.URL.Path, "/static/"), "/")
	x, is := fr.static[strings.TrimPrefix(path.Clean("/"+name), "/")]
	if !is {
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
	if x.fs == nil {
		http.ServeContent(w, r, x.name, time.Time{}, strings.NewReader(x.made))
		return
	}
	http.ServeFileFS(w, r, x.fs, x.name)
}

// makeWorker puts before the service worker which screens it keeps, and which files they need.
func (fr *Frame) makeWorker(chapters []Chapter) error {
	var screens, shipped []string
	for _, c := range chapters {
		screens = append(screens, c.Mat...)
	}
	for _, name := range slices.Sorted(maps.Keys(fr.static)) {
		own := strings.TrimSuffix(path.Base(name), ".js")
		if path.Dir(name) == "js/lib" || path.Dir(name) == "js" && slices.Contains(screens, own) || path.Ext(name) == ".css" || path.Ext(name) == ".woff2" {
			shipped = append(shipped, fr.asset(name))
		}
	}
	text, err := files.ReadFile("static/js/sw.js")
	if err != nil {
		return err
	}
	lists, err := json.Marshal([2][]string{screens, shipped})
	fr.serviced = fmt.Sprintf("const [screens, shipped] = %s;\n%s", lists, text)
	return err
}

// worker is the service worker. It has the site's root as its scope, so it is not served from among the
// static files.
func (fr *Frame) worker(w http.ResponseWriter, r *http.Request) {
	w.Header().Set("Cache-Control", "no-cache")
	http.ServeContent(w, r, "sw.js", time.Time{}, strings.NewReader(fr.serviced))
}
