package frame

import (
	"context"
	"errors"
	"net/http"
	"net/netip"

	"github.com/alexedwards/scs/v2"

	"velvetladder/internal/mail"
	"velvetladder/internal/store"
)

type seatKey struct{}

// Sitting is what a session's seat comes to.
type Sitting struct {
	store.Seat
	Ended bool // the session had a seat, and it holds no more
}

// SittingOf is what a request's seat comes to; the zero value where its session has none.
func SittingOf(r *http.Request) Sitting {
	x, _ := r.Context().Value(seatKey{}).(Sitting)
	return x
}

// SeatOf is the seat a request comes from; ok is false where it comes from no examiner's device.
func SeatOf(r *http.Request) (s store.Seat, ok bool) {
	x, _ := r.Context().Value(seatKey{}).(Sitting)
	return x.Seat, x.ID != ""
}

// stillMay reports whether a stream's device is still allowed to listen: the seat is taken, or the person is let in
// and signed in on this device.
func (fr *Frame) stillMay(r *http.Request) (bool, error) {
	ctx := r.Context()
	if s, seated := SeatOf(r); seated {
		_, err := fr.records.Seated(ctx, s.ID)
		return !errors.Is(err, store.ErrNotFound), unless(err, store.ErrNotFound)
	}
	x := SignInOf(r)
	if x.ID == "" { // nobody signs in here
		return true, nil
	}
	now, x, err := fr.records.SignedIn(ctx, x.ID)
	if err != nil {
		return !errors.Is(err, store.ErrNotFound), unless(err, store.ErrNotFound)
	}
	fr.stillHere(ctx, x) // a page that is open and kept told counts as use
	return now.Role == PersonOf(r).Role, nil
}

// unless is an error but for one that is no trouble.
func unless(err, known error) error {
	if errors.Is(err, known) {
		return nil
	}
	return err
}

// holders are whom a stream is counted for, and how many each may have open: the device, and the person on all devices.
func (fr *Frame) holders(r *http.Request) map[string]int {
	if s, seated := SeatOf(r); seated {
		return map[string]int{"seat " + s.ID: mostOfDevice, "examiner " + s.ExaminerID: mostOfPerson}
	}
	if p := PersonOf(r); p.ID != "" {
		return map[string]int{"session " + fr.Sessions.Token(r.Context()): mostOfDevice, "person " + p.ID: mostOfPerson}
	}
	return nil
}

// inPlace reports whether an examiner's device may use an address: it is about their own sheet,
// or their own ring.
func inPlace(s store.Seat, r *http.Request) bool {
	examiner, ring := r.PathValue("examiner"), r.PathValue("ring")
	return (examiner != "" || ring != "") && (examiner == "" || examiner == s.ExaminerID) && (ring == "" || ring == s.RingID)
}

// WantsJSON reports whether a program asks, and not a browser.
func WantsJSON(r *http.Request) bool { return r.Header.Get("Accept") == "application/json" }

// Access says how people come in.
type Access struct {
	Everybody *store.Person  // whoever calls is this person, without signing in; nil: people sign in
	Code      string         // which the first owner of a school must know; "": whoever comes first is it
	Proxies   []netip.Prefix // whose word on who asks, how and for which host is taken
	Hosts     []string       // the names of the school, in small letters; none: any
	Mail      mail.Sender    // nil: nothing is ever sent
	Backups   string         // the directory of automatic backups; "": none are kept
}

func (fr *Frame) sessionManager() *scs.SessionManager {
	m := scs.New()
	m.Store = fr.records.Sessions()
	m.Lifetime = store.SignInMost
	m.Cookie.Name, m.Cookie.HttpOnly, m.Cookie.SameSite = "velvetladder", true, http.SameSiteLaxMode
	m.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) { fr.unkept(w, err) }
	return m
}

// session loads and keeps the session of a request. Over TLS its cookie goes over nothing else, and belongs to this host alone.
func (fr *Frame) session(next http.Handler) http.Handler {
	over := *fr.Sessions // the same sessions by another cookie
	over.Cookie.Name, over.Cookie.Secure = "__Host-"+over.Cookie.Name, true
	plain, secured := fr.Sessions.LoadAndSave(next), over.LoadAndSave(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if Secured(r) {
			secured.ServeHTTP(w, r)
			return
		}
		plain.ServeHTTP(w, r)
	})
}

type personKey struct{}

// PersonOf is who a request comes from; the zero person where nobody is signed in.
func PersonOf(r *http.Request) store.Person {
	p, _ := r.Context().Value(personKey{}).(store.Person)
	return p
}

// ActorOf is the name under which a request writes.
func ActorOf(r *http.Request) string {
	if p := PersonOf(r); p.Name != "" {
		return p.Name
	}
	if s, seated := SeatOf(r); seated {
		return s.Examiner
	}
	return store.AtTheDoor
}

type signInKey struct{}

// SignInOf is the sign-in a request comes by; the zero value where nobody signs in.
func SignInOf(r *http.Request) store.SignIn {
	x, _ := r.Context().Value(signInKey{}).(store.SignIn)
	return x
}

// stillHere notes that a sign-in is in use. That it could not be noted keeps nobody from their work.
func (fr *Frame) stillHere(ctx context.Context, x store.SignIn) {
	if err := fr.records.StillHere(ctx, x); err != nil && ctx.Err() == nil {
		fr.Log.Error("that a sign-in is in use could not be noted", "error", err)
	}
}

// whoever puts the person of the session into the request.
func (fr *Frame) whoever(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		var p store.Person
		if id := fr.Sessions.GetString(r.Context(), "seat"); id != "" {
			// A device that came in by a code is that examiner's and nobody else's.
			x := Sitting{}
			var err error
			if x.Seat, err = fr.records.Seated(r.Context(), id); errors.Is(err, store.ErrNotFound) {
				x, err = Sitting{Ended: true}, nil
			}
			if err != nil {
				fr.broken(w, err)
				return
			}
			r = r.WithContext(context.WithValue(r.Context(), seatKey{}, x))
		} else if fr.Access.Everybody != nil {
			p = *fr.Access.Everybody
		} else if id := fr.Sessions.GetString(r.Context(), "sign_in"); id != "" {
			found, x, err := fr.records.SignedIn(r.Context(), id)
			if err != nil && !errors.Is(err, store.ErrNotFound) {
				fr.broken(w, err)
				return
			}
			if err == nil {
				p = found
				fr.stillHere(r.Context(), x)
				r = r.WithContext(context.WithValue(r.Context(), signInKey{}, x))
			}
		}
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), personKey{}, p)))
	})
}

// NobodyYet reports whether the school has no account at all: the first start.
func (fr *Frame) NobodyYet(ctx context.Context) (bool, error) {
	if fr.peopled.Load() {
		return false, nil
	}
	all, err := fr.records.People(ctx)
	if len(all) > 0 {
		fr.peopled.Store(true)
	}
	return len(all) == 0, err
}
