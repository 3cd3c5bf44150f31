package web

import (
	"context"
	"errors"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/httprate"

	"velvetladder/internal/core/check"
	"velvetladder/internal/mail"
	"velvetladder/internal/store"
)

// Access says how people come in.
type Access struct {
	Everybody *store.Person // whoever calls is this person, without signing in; nil: people sign in
	Secure    bool          // the cookie goes over TLS only
	Mail      mail.Sender   // nil: nothing is ever sent
	Backups   string        // the directory of automatic backups; "": none are kept
}

// signedInFor is how long a device stays signed in: a month, so that a tablet on the wall of
// the hall need not be taken down every week.
const signedInFor = 30 * 24 * time.Hour

// Tries at the door: for one name from one address, and for all names from it.
const (
	triesAName    = 6
	triesAll      = 30
	linkTries     = 240 // of family links, from one address
	codeTries     = 60  // of join codes, from one address: a hall may come through one
	triesInterval = time.Minute
)

func (a *app) sessionManager(access Access) *scs.SessionManager {
	m := scs.New()
	m.Store = a.store.Sessions()
	m.Lifetime = signedInFor
	m.Cookie.Name, m.Cookie.HttpOnly, m.Cookie.SameSite, m.Cookie.Secure = "velvetladder", true, http.SameSiteLaxMode, access.Secure
	m.ErrorFunc = func(w http.ResponseWriter, _ *http.Request, err error) { a.broken(w, err) }
	return m
}

type personKey struct{}

// personOf is who a request comes from; the zero person where nobody is signed in.
func personOf(r *http.Request) store.Person {
	p, _ := r.Context().Value(personKey{}).(store.Person)
	return p
}

// actorOf is the name under which a request writes.
func actorOf(r *http.Request) string {
	if p := personOf(r); p.Name != "" {
		return p.Name
	}
	if s, seated := seatOf(r); seated {
		return s.Examiner
	}
	return "the door"
}

// whoever puts the person of the session into the request.
func (a *app) whoever(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		var p store.Person
		if id := a.sessions.GetString(r.Context(), "seat"); id != "" {
			// A device that came in by a code is that examiner's and nobody else's.
			x := sitting{}
			var err error
			if x.Seat, err = a.store.Seated(r.Context(), id); errors.Is(err, store.ErrNotFound) {
				x, err = sitting{ended: true}, nil
			}
			if err != nil {
				a.broken(w, err)
				return
			}
			r = r.WithContext(context.WithValue(r.Context(), seatKey{}, x))
		} else if a.access.Everybody != nil {
			p = *a.access.Everybody
		} else if id := a.sessions.GetString(r.Context(), "person"); id != "" {
			found, err := a.store.Person(r.Context(), id)
			if err != nil && !errors.Is(err, store.ErrNotFound) {
				a.broken(w, err)
				return
			}
			if err == nil && found.Stamp == a.sessions.GetInt(r.Context(), "stamp") {
				p = found
			}
		}
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), personKey{}, p)))
	})
}

// allows reports whether a person of a role may use a route.
func (may role) allows(is store.Role) bool {
	switch may {
	case anyone, family:
		return true
	case owner:
		return is == store.Owner
	case examiner:
		return is == store.Owner
	case instructor, ringside:
		return is == store.Owner || is == store.Instructor
	}
	return false
}

// guard lets only those through who may use a route.
func (a *app) guard(may role, next http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		p := personOf(r)
		seat, seated := seatOf(r)
		x, _ := r.Context().Value(seatKey{}).(sitting)
		switch {
		case may == anyone || may == family:
			next(w, r)
		case seated && (may == examiner || may == ringside) && inPlace(seat, r):
			next(w, r)
		case seated && r.Method == http.MethodGet && r.URL.Path == "/":
			http.Redirect(w, r, "/join", http.StatusSeeOther)
		case seated:
			a.refuseSeat(w, r)
		case x.ended && isData(r):
			sendJSON(w, http.StatusUnauthorized, problem{Problem: "This device was sent home, or the grading is over. What it still keeps stays on it; ask at the head table for a new code."})
		case x.ended:
			http.Redirect(w, r, "/join", http.StatusSeeOther)
		case may.allows(p.Role):
			next(w, r)
		case p.ID != "" || p.Role != "":
			a.refuseRole(w, r)
		case isData(r):
			sendJSON(w, http.StatusUnauthorized, problem{Problem: "You are not signed in on this device any more. Sign in; what you entered is kept here."})
		default:
			to := "/sign-in?back=" + url.QueryEscape(r.URL.RequestURI())
			if none, err := a.nobodyYet(r.Context()); err != nil {
				a.broken(w, err)
				return
			} else if none {
				to = "/welcome"
			}
			http.Redirect(w, r, to, http.StatusSeeOther)
		}
	}
}

// isData reports whether a request is a script's, or writes: it is answered with words, not with
// another page.
func isData(r *http.Request) bool {
	return r.Method != http.MethodGet && r.Method != http.MethodHead || r.Header.Get("Content-Type") == "application/json" || r.Header.Get("Accept") == "text/event-stream"
}

func (a *app) refuseSeat(w http.ResponseWriter, r *http.Request) {
	const text = "This device marks one examiner's sheets at one grading, and nothing else."
	if isData(r) {
		sendJSON(w, http.StatusForbidden, problem{Problem: text})
		return
	}
	a.message(w, r, http.StatusForbidden, "Not from this device", text+" Go back to your groups, or leave the grading there.")
}

func (a *app) refuseRole(w http.ResponseWriter, r *http.Request) {
	if r.Header.Get("Content-Type") == "application/json" {
		sendJSON(w, http.StatusForbidden, problem{Problem: "Only the owner may do that."})
		return
	}
	a.message(w, r, http.StatusForbidden, "Only the owner may do that", "You are signed in as an instructor. Ask the owner, or sign in as one.")
}

// nobodyYet reports whether the school has no account at all: the first start.
func (a *app) nobodyYet(ctx context.Context) (bool, error) {
	if a.peopled.Load() {
		return false, nil
	}
	all, err := a.store.People(ctx)
	if len(all) > 0 {
		a.peopled.Store(true)
	}
	return len(all) == 0, err
}

type doorView struct {
	Form    form
	Welcome bool
	Back    string
	Self    store.Person
}

func (a *app) door(w http.ResponseWriter, r *http.Request, status int, v doorView) {
	title := "Sign in"
	if v.Welcome {
		title = "Welcome"
	}
	a.show(w, r, status, "", page{Screen: "door", Title: title, Bare: true, Body: v})
}

// welcomeShow asks for the owner's account, at the first start only.
func (a *app) welcomeShow(w http.ResponseWriter, r *http.Request) {
	none, err := a.nobodyYet(r.Context())
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if !none {
		http.Redirect(w, r, "/sign-in", http.StatusSeeOther)
		return
	}
	a.door(w, r, http.StatusOK, doorView{Welcome: true})
}

func (a *app) welcomeSave(w http.ResponseWriter, r *http.Request) {
	v, by, err := posted(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	by.Actor = check.Tidy(v.Get("name"))
	_, err = a.store.SavePerson(r.Context(), by, store.Person{Name: v.Get("name"), SignIn: v.Get("sign_in"), Role: store.Owner}, v.Get("password"), true)
	if err == nil && check.Tidy(v.Get("school")) != "" {
		_, err = a.store.NameSchool(r.Context(), store.By{Actor: by.Actor}, v.Get("school"))
	}
	var p check.Problems
	switch {
	case errors.As(err, &p):
		v.Del("password")
		a.door(w, r, http.StatusUnprocessableEntity, doorView{Welcome: true, Form: form{Values: v, Problems: p}})
	case err != nil:
		a.fail(w, r, err)
	default:
		a.enter(w, r, v.Get("sign_in"), v.Get("password"), "/")
	}
}

func (a *app) signInShow(w http.ResponseWriter, r *http.Request) {
	if none, err := a.nobodyYet(r.Context()); err == nil && none {
		http.Redirect(w, r, "/welcome", http.StatusSeeOther)
		return
	}
	a.door(w, r, http.StatusOK, doorView{Back: here(r.URL.Query().Get("back")), Self: personOf(r)})
}

// here is an address of this site; anything else is the home screen.
func here(back string) string {
	p, err := url.Parse(back)
	if err != nil || p.Host != "" || p.Scheme != "" || !strings.HasPrefix(p.Path, "/") || strings.HasPrefix(back, "//") || strings.Contains(back, "\\") {
		return "/"
	}
	return p.RequestURI()
}

func (a *app) signInSave(w http.ResponseWriter, r *http.Request) {
	v, _, err := posted(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.enter(w, r, v.Get("sign_in"), v.Get("password"), here(v.Get("back")))
}

// enter begins a session, under a new token.
func (a *app) enter(w http.ResponseWriter, r *http.Request, name, password, back string) {
	p, err := a.store.SignIn(r.Context(), name, password)
	if errors.Is(err, store.ErrWrong) {
		a.door(w, r, http.StatusUnauthorized, doorView{Back: back, Form: form{Values: values("sign_in", name), General: "The name and the password do not belong together. Try again, or ask the owner for a new password."}})
		return
	}
	if err == nil {
		err = a.sessions.RenewToken(r.Context())
	}
	if err == nil {
		err = a.store.DropExpired(r.Context())
	}
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.sessions.Put(r.Context(), "person", p.ID)
	a.sessions.Put(r.Context(), "stamp", p.Stamp)
	http.Redirect(w, r, back, http.StatusSeeOther)
}

func (a *app) signOut(w http.ResponseWriter, r *http.Request) {
	if err := a.sessions.Destroy(r.Context()); err != nil {
		a.fail(w, r, err)
		return
	}
	// What browsers keep of this site, children's names above all, goes too.
	w.Header().Set("Clear-Site-Data", `"cache"`)
	http.Redirect(w, r, "/sign-in?out=1", http.StatusSeeOther)
}

// address is where a request comes from: the other end of the connection, never a header that
// anybody may write.
func address(r *http.Request) (string, error) {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	return host, err
}

// slowDown bounds the tries at the door.
func (a *app) slowDown() func(http.Handler) http.Handler {
	told := httprate.WithLimitHandler(func(w http.ResponseWriter, r *http.Request) {
		a.message(w, r, http.StatusTooManyRequests, "Too many tries", "Wait a minute, then try again. If the password is forgotten, the owner can set a new one.")
	})
	byName := httprate.LimitBy(triesAName, triesInterval, func(r *http.Request) (string, error) {
		from, err := address(r)
		return from + " " + check.Key(r.FormValue("sign_in")), err
	}, told)
	all := httprate.LimitBy(triesAll, triesInterval, address, told)
	return func(next http.Handler) http.Handler { return all(byName(next)) }
}

type peopleView struct {
	People []store.Person
	Self   store.Person
	Form   form // a new one
	Edit   form // Of is the person's id
	Roles  []option
	Shared bool // everybody is the owner: nobody signs in
}

func (a *app) peopleShow(w http.ResponseWriter, r *http.Request) {
	a.peoplePage(w, r, http.StatusOK, form{}, form{})
}

func (a *app) peoplePage(w http.ResponseWriter, r *http.Request, status int, f, edit form) {
	v := peopleView{Self: personOf(r), Form: f, Edit: edit, Roles: options(store.Roles, store.Role.Words), Shared: a.access.Everybody != nil}
	if f.Values == nil {
		v.Form.Values = values("role", string(store.Instructor))
	}
	var err error
	if v.People, err = a.store.People(r.Context()); err != nil {
		a.fail(w, r, err)
		return
	}
	a.show(w, r, status, "", page{Screen: "people", Title: "People who sign in", Body: v})
}

func (a *app) peopleSave(w http.ResponseWriter, r *http.Request) {
	id := chi.URLParam(r, "person")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.SavePerson(r.Context(), by, store.Person{ID: id, Name: v.Get("name"), SignIn: v.Get("sign_in"), Role: store.Role(v.Get("role"))}, v.Get("password"), false)
	}, to("/people"), func(status int, f form) {
		if f.Values.Del("password"); id != "" {
			f.Of = id
			a.peoplePage(w, r, status, form{}, f)
			return
		}
		a.peoplePage(w, r, status, f, form{})
	})
}

func (a *app) peopleDelete(w http.ResponseWriter, r *http.Request) {
	a.save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return a.store.DeletePerson(r.Context(), by, chi.URLParam(r, "person"))
	}, to("/people"), func(status int, f form) { a.peoplePage(w, r, status, form{}, form{General: f.General}) })
}

// accountSave changes one's own password and signs in anew with it.
func (a *app) accountSave(w http.ResponseWriter, r *http.Request) {
	self := personOf(r)
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		done, err := a.store.ChangePassword(r.Context(), by, self, v.Get("old"), v.Get("password"))
		if err == nil {
			fresh, err := a.store.Person(r.Context(), self.ID)
			if err != nil {
				return done, err
			}
			a.sessions.Put(r.Context(), "stamp", fresh.Stamp)
		}
		return done, err
	}, to("/account"), func(status int, f form) {
		f.Values = url.Values{}
		a.account(w, r, status, f)
	})
}

func (a *app) accountShow(w http.ResponseWriter, r *http.Request) {
	a.account(w, r, http.StatusOK, form{})
}

func (a *app) account(w http.ResponseWriter, r *http.Request, status int, f form) {
	a.show(w, r, status, "", page{Screen: "account", Title: "Your account", Body: peopleView{Self: personOf(r), Form: f, Shared: a.access.Everybody != nil}})
}
