package frame

import (
	"bytes"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
)

// Page is what the layout needs, with the screen's own view as Body.
type Page struct {
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
	Seen          int64  // the last deed when it was asked for
	Path          string
	Refused       int          // the status of a page that says why something was not done
	Arrived       bool         // what was sent is on record, and this page answers it itself
	Person        store.Person // signed in
	Hand          string       // who enters things on this device; "" nobody
	HandName      string
	Owner         bool
	First         *FirstHour // nil: it is over, or whoever asks is not the owner
	Why           string     // why this page is shown and not the one that was asked for
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

// Show renders a screen. of names the program the screen is about; "" is the one looked at
// last.
func (fr *Frame) Show(w http.ResponseWriter, r *http.Request, status int, of string, p Page) {
	ctx := r.Context()
	var err error
	p.Person = PersonOf(r)
	p.Seen, _ = r.Context().Value(seenKey{}).(int64)
	p.Why = whys[r.URL.Query().Get("why")]
	if p.Hand = HandOf(r); p.Hand != "" {
		p.HandName = ActorOf(r)
	}
	p.Owner = p.Person.Role == store.Owner
	if p.Person.Role == "" { // whoever is not let in sees nothing but the name over the door
		p.Bare = true
		p.School, err = fr.records.School(ctx)
		if err != nil {
			fr.broken(w, err)
			return
		}
		fr.render(w, r, status, p)
		return
	}
	if p.School, err = fr.records.School(ctx); err != nil {
		fr.broken(w, err)
		return
	}
	if p.Programs, err = fr.records.Programs(ctx); err != nil {
		fr.broken(w, err)
		return
	}
	p.Program = choose(p.Programs, of, r)
	if p.Program.ID != "" && !p.Bare {
		http.SetCookie(w, &http.Cookie{Name: programCookie, Value: p.Program.ID, Path: "/", HttpOnly: true, SameSite: http.SameSiteLaxMode, MaxAge: 31536000})
		rungs, err := fr.records.Ladder(ctx, p.Program.ID)
		if err != nil {
			fr.broken(w, err)
			return
		}
		for _, g := range slices.Backward(rungs) {
			p.Rail = append(p.Rail, railRung{g.ID, g.Name, g.Pictured(), g.Kind == curriculum.Belt, g.Cloth, g.Students})
		}
	}
	if p.Owner && !p.Bare {
		h, err := fr.records.FirstHour(ctx)
		if err != nil {
			fr.broken(w, err)
			return
		}
		if h.Next() != "" {
			first := firstHour(h, p.Rail)
			p.First = &first
		}
	}
	if id := r.URL.Query().Get("done"); id != "" {
		if e, err := fr.records.Trail(ctx, id); err == nil {
			p.Done = &e
		}
	}
	fr.render(w, r, status, p)
}

func (fr *Frame) render(w http.ResponseWriter, r *http.Request, status int, p Page) {
	p.Request, p.Path = store.NewID(), r.URL.Path
	if status >= http.StatusBadRequest {
		p.Refused = status
	}
	var out bytes.Buffer
	t, err := fr.screens[p.Screen].template()
	if err == nil {
		err = t.ExecuteTemplate(&out, "layout.html", p)
	}
	if err != nil {
		fr.broken(w, fmt.Errorf("rendering %s: %w", p.Screen, err))
		return
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.WriteHeader(status)
	w.Write(out.Bytes())
}

// undo takes back the entry of the audit trail a page offered.
func (fr *Frame) undo(w http.ResponseWriter, r *http.Request) {
	back := "/"
	fr.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		back, _, _ = strings.Cut(Back(v.Get("back")), "?")
		// What was added is gone afterwards, and its page with it: go to the list.
		if e, err := fr.records.Trail(r.Context(), v.Get("entry")); err == nil && e.Told.Kind.Adds() && strings.Count(back, "/") > 1 {
			back = back[:1+strings.Index(back[1:], "/")]
		}
		return fr.records.Undo(r.Context(), by, v.Get("entry"))
	}, func(store.Done) string { return back }, nil)
}
