package door

import (
	"crypto/subtle"
	"errors"
	"net/http"
	"net/url"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type doorView struct {
	Form    frame.Form
	Welcome bool
	Second  bool   // the password was right, and a code is asked for
	Code    string // that the first owner came with
	Back    string
	Self    store.Person
	Waits   frame.Waiting // a form that is sent once somebody is in
}

func (ch *chapter) door(w http.ResponseWriter, r *http.Request, status int, v doorView) {
	title := "Sign in"
	if v.Welcome {
		title = "Welcome"
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "door", Title: title, Bare: true, Body: v})
}

// welcomeShow asks for the owner's account, at the first start only.
func (ch *chapter) welcomeShow(w http.ResponseWriter, r *http.Request) {
	none, err := ch.NobodyYet(r.Context())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if !none {
		http.Redirect(w, r, "/sign-in?why=have-owner", http.StatusSeeOther)
		return
	}
	if !ch.invited(r.URL.Query().Get("code")) {
		ch.uninvited(w, r)
		return
	}
	ch.door(w, r, http.StatusOK, doorView{Welcome: true, Code: r.URL.Query().Get("code")})
}

// invited reports whether somebody knows the code that the program says to whoever starts it.
func (ch *chapter) invited(code string) bool {
	return subtle.ConstantTimeCompare([]byte(code), []byte(ch.Access.Code)) == 1
}

func (ch *chapter) uninvited(w http.ResponseWriter, r *http.Request) {
	ch.Message(w, r, http.StatusForbidden, "This school has no owner yet", "Open the address that the program said when it was started, with the code at its end: it stands in the window or the log of the machine the program runs on. It is another one at each start.")
}

func (ch *chapter) welcomeSave(w http.ResponseWriter, r *http.Request) {
	v, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if none, err := ch.NobodyYet(r.Context()); err == nil && none && !ch.invited(v.Get("code")) {
		ch.uninvited(w, r)
		return
	}
	by.Actor = check.Tidy(v.Get("name"))
	_, err = ch.records.SavePerson(r.Context(), by, store.Person{Name: v.Get("name"), SignIn: v.Get("sign_in"), Role: store.Owner}, v.Get("password"), true)
	if err == nil && check.Tidy(v.Get("school")) != "" {
		_, err = ch.records.NameSchool(r.Context(), store.By{Actor: by.Actor}, v.Get("school"))
	}
	var p check.Problems
	switch {
	case errors.As(err, &p):
		v.Del("password")
		ch.door(w, r, http.StatusUnprocessableEntity, doorView{Welcome: true, Code: v.Get("code"), Form: frame.Form{Values: v, Problems: p}})
	case err != nil:
		ch.Fail(w, r, err)
	default:
		p, err := ch.records.SignIn(r.Context(), v.Get("sign_in"), v.Get("password"))
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		ch.letIn(w, r, p, "/", frame.Waiting{})
	}
}

func (ch *chapter) signInShow(w http.ResponseWriter, r *http.Request) {
	if none, err := ch.NobodyYet(r.Context()); err == nil && none {
		http.Redirect(w, r, "/welcome?why=no-owner", http.StatusSeeOther)
		return
	}
	ch.door(w, r, http.StatusOK, doorView{Back: frame.Back(r.URL.Query().Get("back")), Self: frame.PersonOf(r)})
}

func (ch *chapter) signInSave(w http.ResponseWriter, r *http.Request) {
	v, _, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.enter(w, r, v.Get("sign_in"), v.Get("password"), frame.Back(v.Get("back")), frame.WaitingIn(v))
}

// enter looks at a name and a password, and lets somebody in or asks for the code of their second factor.
func (ch *chapter) enter(w http.ResponseWriter, r *http.Request, name, password, back string, waits frame.Waiting) {
	wrong := func(status int, text string) {
		ch.door(w, r, status, doorView{Back: back, Waits: waits, Form: frame.Form{Values: frame.Values("sign_in", name), General: text}})
	}
	if slow, err := ch.slowed(w, r, name); err != nil {
		ch.Fail(w, r, err)
		return
	} else if slow {
		wrong(http.StatusTooManyRequests, slowWords)
		return
	}
	p, err := ch.records.SignIn(r.Context(), name, password)
	if errors.Is(err, store.ErrWrong) {
		if err := ch.records.NoteRefused(r.Context(), name, frame.Asker(r)); err != nil {
			ch.Log.Error("a refusal at the door could not be noted", "error", err)
		}
		wrong(http.StatusUnauthorized, "The name and the password do not belong together. Try again, or ask the owner for a new password.")
		return
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if p.Second {
		// Half in: the session knows who gave the right password, and nothing is open to it yet.
		if err := ch.Sessions.RenewToken(r.Context()); err != nil {
			ch.Fail(w, r, err)
			return
		}
		ch.Sessions.Remove(r.Context(), "sign_in")
		ch.Sessions.Put(r.Context(), "half", p.ID)
		ch.Sessions.Put(r.Context(), "half_until", ch.records.Now().Add(halfFor).Unix())
		ch.door(w, r, http.StatusOK, doorView{Second: true, Back: back, Waits: waits})
		return
	}
	ch.letIn(w, r, p, back, waits)
}

// letIn begins a session, under a new token, and goes on with what waited for it.
func (ch *chapter) letIn(w http.ResponseWriter, r *http.Request, p store.Person, back string, waits frame.Waiting) {
	err := ch.Sessions.RenewToken(r.Context())
	var x store.SignIn
	if err == nil {
		x, err = ch.records.BeginSignIn(r.Context(), p, frame.Asker(r), deviceWords(r.UserAgent()))
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, old := range []string{"half", "half_until", "seat"} { // a device that was an examiner's is this person's now
		ch.Sessions.Remove(r.Context(), old)
	}
	ch.Sessions.Put(r.Context(), "sign_in", x.ID)
	if waits.To != "" {
		ch.Resume(w, r, waits)
		return
	}
	http.Redirect(w, r, back, http.StatusSeeOther)
}

// halfFor is how long a code may follow its password.
const halfFor = 5 * time.Minute

// codeSave takes the code that follows a password.
func (ch *chapter) codeSave(w http.ResponseWriter, r *http.Request) {
	v, _, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	back, waits := frame.Back(v.Get("back")), frame.WaitingIn(v)
	over := func(status int, text string) {
		ch.Sessions.Remove(r.Context(), "half")
		ch.door(w, r, status, doorView{Back: back, Waits: waits, Form: frame.Form{General: text}})
	}
	id, until := ch.Sessions.GetString(r.Context(), "half"), ch.Sessions.GetInt64(r.Context(), "half_until")
	left := time.Unix(until, 0).Sub(ch.records.Now())
	if id == "" || left < 0 || left > halfFor {
		over(http.StatusUnauthorized, "The code came too late. Sign in again.")
		return
	}
	p, err := ch.records.Person(r.Context(), id)
	if err != nil {
		over(http.StatusUnauthorized, "Sign in again.")
		return
	}
	if slow, err := ch.slowed(w, r, p.SignIn); err != nil {
		ch.Fail(w, r, err)
		return
	} else if slow {
		over(http.StatusTooManyRequests, slowWords)
		return
	}
	err = ch.records.TakeCode(r.Context(), p, v.Get("code"))
	if errors.Is(err, store.ErrWrong) {
		if err := ch.records.NoteRefused(r.Context(), p.SignIn, frame.Asker(r)); err != nil {
			ch.Log.Error("a refusal at the door could not be noted", "error", err)
		}
		ch.door(w, r, http.StatusUnauthorized, doorView{Second: true, Back: back, Waits: waits, Form: frame.Form{Values: url.Values{}, Problems: check.Problems{{Field: "code", Text: "is not the code of this moment, or was used already. Each works once: wait for the next, or take one of your recovery codes"}}}})
		return
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.letIn(w, r, p, back, waits)
}

// slowWords tell somebody that there were too many tries for an account.
const slowWords = "There were too many tries for this name within the hour. Wait a while, or sign in where you have signed in before. Whoever is at the machine itself can set a new password: velvetladder owner --reset."

// slowed counts a try for an account, from all addresses together; those that its person has come from before count by themselves, so
// that strangers keep nobody out.
func (ch *chapter) slowed(w http.ResponseWriter, r *http.Request, name string) (bool, error) {
	from := frame.Asker(r)
	known, err := ch.records.ComesFrom(r.Context(), name, from)
	if err != nil {
		return false, err
	}
	key := check.Key(name)
	if known {
		key += " " + from
	}
	return ch.account(w, r, key), nil
}

// proveSave takes the password of somebody who is signed in, and goes on with what waited for it.
func (ch *chapter) proveSave(w http.ResponseWriter, r *http.Request) {
	v, _, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	waits, page := frame.WaitingIn(v), v.Get("page") != ""
	err = ch.records.Prove(r.Context(), frame.SignInOf(r), v.Get("password"), v.Get("code"))
	switch {
	case errors.Is(err, store.ErrWrong):
		ch.AskAgain(w, r, waits, page, "That is not right. Try again.")
	case err != nil:
		ch.Fail(w, r, err)
	default:
		ch.Proven(w, r, waits, page)
	}
}

func (ch *chapter) signOut(w http.ResponseWriter, r *http.Request) {
	if x := frame.SignInOf(r); x.ID != "" {
		if _, err := ch.records.EndSignIn(r.Context(), store.By{Actor: frame.ActorOf(r)}, x.ID, x.PersonID); err != nil {
			ch.Fail(w, r, err)
			return
		}
	}
	if err := ch.Sessions.Destroy(r.Context()); err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Hub.LookAgain()
	// What browsers keep of this site, children's names above all, goes too.
	w.Header().Set("Clear-Site-Data", `"cache"`)
	http.Redirect(w, r, "/sign-in?out=1", http.StatusSeeOther)
}
