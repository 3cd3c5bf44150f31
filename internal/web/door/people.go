package door

import (
	"crypto/subtle"
	"errors"
	"net/http"
	"net/url"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type doorView struct {
	Form    frame.Form
	Welcome bool
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
		http.Redirect(w, r, "/sign-in", http.StatusSeeOther)
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
		ch.enter(w, r, v.Get("sign_in"), v.Get("password"), "/", frame.Waiting{})
	}
}

func (ch *chapter) signInShow(w http.ResponseWriter, r *http.Request) {
	if none, err := ch.NobodyYet(r.Context()); err == nil && none {
		http.Redirect(w, r, "/welcome", http.StatusSeeOther)
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

// enter begins a session, under a new token, and goes on with what waited for it.
func (ch *chapter) enter(w http.ResponseWriter, r *http.Request, name, password, back string, waits frame.Waiting) {
	p, err := ch.records.SignIn(r.Context(), name, password)
	if errors.Is(err, store.ErrWrong) {
		ch.door(w, r, http.StatusUnauthorized, doorView{Back: back, Waits: waits, Form: frame.Form{Values: frame.Values("sign_in", name), General: "The name and the password do not belong together. Try again, or ask the owner for a new password."}})
		return
	}
	if err == nil {
		err = ch.Sessions.RenewToken(r.Context())
	}
	if err == nil {
		err = ch.records.DropExpired(r.Context())
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Sessions.Put(r.Context(), "person", p.ID)
	ch.Sessions.Put(r.Context(), "stamp", p.Stamp)
	ch.Sessions.Remove(r.Context(), "seat") // a device that was an examiner's is this person's now
	if waits.To != "" {
		ch.Resume(w, r, waits)
		return
	}
	http.Redirect(w, r, back, http.StatusSeeOther)
}

func (ch *chapter) signOut(w http.ResponseWriter, r *http.Request) {
	if err := ch.Sessions.Destroy(r.Context()); err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Hub.LookAgain()
	// What browsers keep of this site, children's names above all, goes too.
	w.Header().Set("Clear-Site-Data", `"cache"`)
	http.Redirect(w, r, "/sign-in?out=1", http.StatusSeeOther)
}

type peopleView struct {
	People []store.Person
	Self   store.Person
	Form   frame.Form // a new one
	Edit   frame.Form // Of is the person's id
	Roles  []frame.Option
	Shared bool // everybody is the owner: nobody signs in
}

func (ch *chapter) peopleShow(w http.ResponseWriter, r *http.Request) {
	ch.peoplePage(w, r, http.StatusOK, frame.Form{}, frame.Form{})
}

func (ch *chapter) peoplePage(w http.ResponseWriter, r *http.Request, status int, f, edit frame.Form) {
	v := peopleView{Self: frame.PersonOf(r), Form: f, Edit: edit, Roles: frame.Options(store.Roles, store.Role.Words), Shared: ch.Access.Everybody != nil}
	if f.Values == nil {
		v.Form.Values = frame.Values("role", string(store.Instructor))
	}
	var err error
	if v.People, err = ch.records.People(r.Context()); err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "people", Title: "People who sign in", Body: v})
}

func (ch *chapter) peopleSave(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("person")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.SavePerson(r.Context(), by, store.Person{ID: id, Name: v.Get("name"), SignIn: v.Get("sign_in"), Role: store.Role(v.Get("role"))}, v.Get("password"), false)
	}, frame.To("/people"), func(status int, f frame.Form) {
		if f.Values.Del("password"); id != "" {
			f.Of = id
			ch.peoplePage(w, r, status, frame.Form{}, f)
			return
		}
		ch.peoplePage(w, r, status, f, frame.Form{})
	})
}

func (ch *chapter) peopleDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeletePerson(r.Context(), by, r.PathValue("person"))
	}, frame.To("/people"), func(status int, f frame.Form) {
		ch.peoplePage(w, r, status, frame.Form{}, frame.Form{General: f.General})
	})
}

// accountSave changes one's own password and signs in anew with it.
func (ch *chapter) accountSave(w http.ResponseWriter, r *http.Request) {
	self := frame.PersonOf(r)
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		done, err := ch.records.ChangePassword(r.Context(), by, self, v.Get("old"), v.Get("password"))
		if err == nil {
			fresh, err := ch.records.Person(r.Context(), self.ID)
			if err != nil {
				return done, err
			}
			ch.Sessions.Put(r.Context(), "stamp", fresh.Stamp)
		}
		return done, err
	}, frame.To("/account"), func(status int, f frame.Form) {
		f.Values = url.Values{}
		ch.account(w, r, status, f)
	})
}

func (ch *chapter) accountShow(w http.ResponseWriter, r *http.Request) {
	ch.account(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) account(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	ch.Show(w, r, status, "", frame.Page{Screen: "account", Title: "Your account", Body: peopleView{Self: frame.PersonOf(r), Form: f, Shared: ch.Access.Everybody != nil}})
}
