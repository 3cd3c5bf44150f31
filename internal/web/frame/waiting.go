package frame

import (
	"net/http"
	"net/url"
	"slices"
	"strings"
)

// A form that reaches the server when nobody is let in any more is not lost: the page that asks who one is carries
// what was typed, and it is sent from there.

// Waiting is a form that was not taken: where it goes, and what was typed.
type Waiting struct {
	To     string
	Values url.Values
}

// waitingMost is how much of a form is carried, in bytes as it is sent: it has to fit into a form again.
const waitingMost = MaxBody / 4

// notCarried are fields that no page holds.
var notCarried = []string{"password", "old", "again", "code"}

// Carried is a waiting form as it stands in hidden fields of another.
func (x Waiting) Carried() string { return x.Values.Encode() }

// Pair is one field of a form.
type Pair struct{ Name, Value string }

// Pairs are the fields in a steady order.
func (x Waiting) Pairs() (out []Pair) {
	names := make([]string, 0, len(x.Values))
	for name := range x.Values {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		for _, v := range x.Values[name] {
			out = append(out, Pair{name, v})
		}
	}
	return out
}

// Typed are the fields that somebody filled in, to be looked at.
func (x Waiting) Typed() (out []Pair) {
	for _, p := range x.Pairs() {
		if p.Name != "request" && p.Name != "from" && strings.TrimSpace(p.Value) != "" {
			out = append(out, p)
		}
	}
	return out
}

// WaitingIn reads a form that another one carries; the zero value where none does.
func WaitingIn(v url.Values) Waiting {
	to := v.Get("waits_to")
	values, err := url.ParseQuery(v.Get("waits"))
	if err != nil || Back(to) != to {
		return Waiting{}
	}
	return Waiting{to, values}
}

// fromForm reports whether a request is a form that a browser sent by itself: it shows what it is answered.
func fromForm(r *http.Request) bool {
	return r.Method == http.MethodPost && strings.Contains(r.Header.Get("Accept"), "text/html")
}

type waitingView struct {
	Waiting
	Title, Text string
	In          bool // whoever sees it may send it
	Seat        bool // it is an examiner's device, which comes in by a code
	Again       bool // they are signed in, and give their password again
	Code        bool // and a code of their second factor
	Page        bool // what waits is a page, and no file
	Gone        bool // what the form is about is not on record any more
	Wrong       string
	Lost        bool // the form was too large to be carried
	File        bool // a file was chosen, which has to be chosen again
}

// keepForm answers a form that nobody was let in to send: it asks who one is, and carries what was typed.
func (fr *Frame) keepForm(w http.ResponseWriter, r *http.Request, status int, v waitingView) {
	typed, by, err := Posted(r)
	if err == nil {
		for _, name := range notCarried {
			typed.Del(name)
		}
		typed.Set("request", by.Request)
		v.Waiting = Waiting{r.URL.RequestURI(), typed}
		v.File = r.MultipartForm != nil && len(r.MultipartForm.File) > 0
	}
	if err != nil || len(v.Carried()) > waitingMost {
		v.Waiting, v.Lost = Waiting{}, true
	}
	fr.Show(w, r, status, "", Page{Screen: "waiting", Title: v.Title, Bare: true, Body: v})
}

const (
	againTitle = "Your password once more"
	againText  = "This lets somebody in, takes people’s data out or erases it. So that nobody does it on a device that was left open, your password is asked for again; it holds for ten minutes."
)

// askAgain asks somebody who is signed in for their password before what needs it, and carries a form meanwhile. file says that
// what waits is a file to be taken, and no page.
func (fr *Frame) askAgain(w http.ResponseWriter, r *http.Request, file bool) {
	if r.Method == http.MethodPost && !fromForm(r) {
		SendJSON(w, http.StatusUnauthorized, problem{Problem: againText})
		return
	}
	v := waitingView{Title: againTitle, Text: againText, Again: true, Code: PersonOf(r).Second}
	if r.Method == http.MethodPost {
		v.Text += " What you typed is kept on this page, but for passwords."
		fr.keepForm(w, r, http.StatusUnauthorized, v)
		return
	}
	v.Waiting, v.Page = Waiting{To: r.URL.RequestURI()}, !file
	fr.Show(w, r, http.StatusUnauthorized, "", Page{Screen: "waiting", Title: v.Title, Bare: true, Body: v})
}

// AskAgain shows the question for the password anew, because the answer was wrong.
func (fr *Frame) AskAgain(w http.ResponseWriter, r *http.Request, x Waiting, page bool, wrong string) {
	fr.Show(w, r, http.StatusUnprocessableEntity, "", Page{Screen: "waiting", Title: againTitle, Bare: true,
		Body: waitingView{Waiting: x, Title: againTitle, Text: againText, Again: true, Page: page, Code: PersonOf(r).Second, Wrong: wrong}})
}

// Proven goes on with what waited for a password: it leads to a page, and offers a file or a form.
func (fr *Frame) Proven(w http.ResponseWriter, r *http.Request, x Waiting, page bool) {
	switch {
	case x.To == "" || len(x.Values) == 0 && page:
		http.Redirect(w, r, Back(x.To), http.StatusSeeOther)
	default:
		fr.Show(w, r, http.StatusOK, "", Page{Screen: "waiting", Title: "Go on", Bare: true,
			Body: waitingView{Waiting: x, In: true, Title: "Thank you; go on", Text: "For ten minutes you are not asked again on this device."}})
	}
}

// Resume shows a form that waited to whoever has just come in, ready to be sent.
func (fr *Frame) Resume(w http.ResponseWriter, r *http.Request, x Waiting) {
	fr.Show(w, r, http.StatusOK, "", Page{Screen: "waiting", Title: "What you typed is still here", Bare: true,
		Body: waitingView{Waiting: x, In: true, Title: "What you typed is still here", Text: "It was not sent, because this device was signed out. Look at it, and send it."}})
}
