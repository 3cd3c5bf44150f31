package frame

import (
	"net/http"
	"net/url"

	"velvetladder/internal/store"
)

// Role says who may use a route.
type Role string

const (
	Anyone     Role = "anyone"     // files without anything about people in them
	Owner      Role = "owner"      // defines the curriculum, decides
	Instructor Role = "instructor" // and the owner
	Examiner   Role = "examiner"   // a device that came in by a code, for its own sheets; and the owner
	Ringside   Role = "ringside"   // such a device, for its own ring; and whoever teaches
	Family     Role = "family"     // whoever holds an unguessable link; the handler looks it up first of all
)

// roles are the choices.
var roles = []Role{Anyone, Owner, Instructor, Examiner, Ringside, Family}

// Route is one line of a chapter's table of contents.
type Route struct {
	Method, Path string
	May          Role
	Handle       http.HandlerFunc
	Limit        func(http.Handler) http.Handler // how often it may be asked for; nil: as often as one likes
	Proof        bool                            // the password is asked for again, unless it was lately
	Takes        string                          // what is taken out of the school here, for the trail; "": nothing about people
}

// Get is the route of a page, a file or a stream.
func Get(path string, may Role, handle http.HandlerFunc) Route {
	return Route{Method: http.MethodGet, Path: path, May: may, Handle: handle}
}

// Post is the route of what is sent.
func Post(path string, may Role, handle http.HandlerFunc) Route {
	return Route{Method: http.MethodPost, Path: path, May: may, Handle: handle}
}

// Proved is the route for those alone who gave their password within the last minutes.
func (x Route) Proved() Route {
	x.Proof = true
	return x
}

// Taking is the route of a file about people: that it was taken out is noted on the trail.
func (x Route) Taking(what string) Route {
	x.Takes = what
	return x
}

// Limited is the route with a bound on how often it may be asked for.
func (x Route) Limited(by func(http.Handler) http.Handler) Route {
	x.Limit = by
	return x
}

// Allows reports whether a person of a role may use a route.
func (may Role) Allows(is store.Role) bool {
	switch may {
	case Anyone, Family:
		return true
	case Owner:
		return is == store.Owner
	case Examiner:
		return is == store.Owner
	case Instructor, Ringside:
		return is == store.Owner || is == store.Instructor
	}
	return false
}

// guard lets only those through who may use a route.
func (fr *Frame) guard(route Route) http.HandlerFunc {
	may, next := route.May, route.Handle
	if route.Takes != "" {
		next = fr.noting(route.Takes, next)
	}
	return func(w http.ResponseWriter, r *http.Request) {
		p := PersonOf(r)
		seat, seated := SeatOf(r)
		x := SittingOf(r)
		switch {
		case may == Anyone || may == Family:
			next(w, r)
		case seated && (may == Examiner || may == Ringside) && inPlace(seat, r):
			next(w, r)
		case seated && r.Method == http.MethodGet && r.URL.Path == "/":
			http.Redirect(w, r, "/join?why=in-place", http.StatusSeeOther)
		case seated:
			fr.refuseSeat(w, r)
		case x.Ended && fromForm(r):
			fr.keepForm(w, r, http.StatusUnauthorized, waitingView{Seat: true, Title: "This device was sent home", Text: "Or its grading is over. What you typed is kept on this page: with a new code from the head table it is sent."})
		case x.Ended && isData(r):
			SendJSON(w, http.StatusUnauthorized, problem{Problem: "This device was sent home, or the grading is over. What it still keeps stays on it; ask at the head table for a new code."})
		case x.Ended:
			http.Redirect(w, r, "/join?why=sent-home", http.StatusSeeOther)
		case may.Allows(p.Role) && route.Proof && p.ID != "" && !fr.records.ProvedLately(SignInOf(r)):
			fr.askAgain(w, r, route.Takes != "")
		case may.Allows(p.Role):
			next(w, r)
		case p.ID != "" || p.Role != "":
			fr.refuseRole(w, r)
		case fromForm(r):
			fr.keepForm(w, r, http.StatusUnauthorized, waitingView{Title: "Sign in again", Text: "You are not signed in on this device any more. What you typed is kept on this page; sign in and send it."})
		case isData(r):
			SendJSON(w, http.StatusUnauthorized, problem{Problem: "You are not signed in on this device any more. Sign in; what you entered is kept here."})
		default:
			to := "/sign-in?back=" + url.QueryEscape(r.URL.RequestURI()) + "&why=sign-in"
			if none, err := fr.NobodyYet(r.Context()); err != nil {
				fr.broken(w, err)
				return
			} else if none {
				to = "/welcome?why=no-owner"
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

func (fr *Frame) refuseSeat(w http.ResponseWriter, r *http.Request) {
	const text = "This device marks one examiner's sheets at one grading, and nothing else."
	if fromForm(r) {
		fr.keepForm(w, r, http.StatusForbidden, waitingView{Seat: true, Title: "Not from this device", Text: text + " What you typed is kept on this page."})
		return
	}
	if isData(r) {
		SendJSON(w, http.StatusForbidden, problem{Problem: text})
		return
	}
	fr.Message(w, r, http.StatusForbidden, "Not from this device", text+" Go back to your groups, or leave the grading there.")
}

func (fr *Frame) refuseRole(w http.ResponseWriter, r *http.Request) {
	if r.Header.Get("Content-Type") == "application/json" {
		SendJSON(w, http.StatusForbidden, problem{Problem: "Only the owner may do that."})
		return
	}
	if fromForm(r) {
		fr.keepForm(w, r, http.StatusForbidden, waitingView{Title: "Only the owner may do that", Text: "You are signed in as an instructor. What you typed is kept on this page: the owner can sign in here and send it."})
		return
	}
	fr.Message(w, r, http.StatusForbidden, "Only the owner may do that", "You are signed in as an instructor. Ask the owner, or sign in as one.")
}
