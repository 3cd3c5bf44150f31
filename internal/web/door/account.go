package door

import (
	"errors"
	"html/template"
	"net/http"
	"net/url"
	"slices"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type accountView struct {
	Self    store.Person
	Form    frame.Form
	Shared  bool // everybody is the owner: nobody signs in
	Factor  store.Factor
	SignIns []store.SignIn
	Here    string // the sign-in of this very device
}

func (ch *chapter) accountShow(w http.ResponseWriter, r *http.Request) {
	ch.accountPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) accountPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	v := accountView{Self: frame.PersonOf(r), Form: f, Shared: ch.Access.Everybody != nil, Here: frame.SignInOf(r).ID}
	if !v.Shared {
		var err error
		if v.Factor, err = ch.records.Factor(r.Context(), v.Self.ID); err == nil {
			v.SignIns, err = ch.records.SignIns(r.Context(), v.Self.ID)
		}
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "account", Title: "Your account", Body: v})
}

// accountSave changes one's own password. This device stays signed in, all others are signed out.
func (ch *chapter) accountSave(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		defer ch.Hub.LookAgain()
		return ch.records.ChangePassword(r.Context(), by, frame.PersonOf(r), v.Get("old"), v.Get("password"), frame.SignInOf(r).ID)
	}, frame.To("/account"), func(status int, f frame.Form) {
		f.Values = url.Values{}
		ch.accountPage(w, r, status, f)
	})
}

// signInsEnd signs oneself out on another device; the owner anybody.
func (ch *chapter) signInsEnd(w http.ResponseWriter, r *http.Request) {
	self, to := frame.PersonOf(r), "/account"
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		defer ch.Hub.LookAgain()
		of := self.ID
		if v.Get("people") != "" && self.Role == store.Owner {
			of, to = "", "/people"
		}
		return ch.records.EndSignIn(r.Context(), by, r.PathValue("signin"), of)
	}, func(store.Done) string { return to }, nil)
}

type factorView struct {
	Self    store.Person
	Form    frame.Form
	Factor  store.Factor
	Secret  string // of a new one, in groups of four; "" none is being set up
	Picture template.HTML
	Codes   []string // recovery codes just made, shown this once
	Shared  bool
}

// factorShow offers a second factor: a secret that is kept in the session until a code shows that the app has it.
func (ch *chapter) factorShow(w http.ResponseWriter, r *http.Request) {
	ch.factorPage(w, r, http.StatusOK, factorView{})
}

// newSecret is under which name a session keeps a secret that is being set up.
const newSecret = "new_secret"

func (ch *chapter) factorPage(w http.ResponseWriter, r *http.Request, status int, v factorView) {
	ctx := r.Context()
	v.Self, v.Shared = frame.PersonOf(r), ch.Access.Everybody != nil
	var err error
	if v.Factor, err = ch.records.Factor(ctx, v.Self.ID); err != nil {
		ch.Fail(w, r, err)
		return
	}
	if v.Factor.Since.IsZero() && !v.Shared {
		secret := ch.Sessions.GetString(ctx, newSecret)
		if secret == "" {
			secret = store.NewSecret()
			ch.Sessions.Put(ctx, newSecret, secret)
		}
		school, err := ch.records.School(ctx)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		address, err := store.SecretAddress(secret, school, v.Self.SignIn)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		picture, err := chart.QR(address, "The secret for your app")
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Picture = template.HTML(picture)
		for four := range slices.Chunk([]byte(secret), 4) {
			v.Secret += string(four) + " "
		}
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "factor", Title: "Second factor", Body: v})
}

// factorSave sets a second factor up, makes new recovery codes, or takes it away. Codes are shown with the answer, this once.
func (ch *chapter) factorSave(w http.ResponseWriter, r *http.Request) {
	in, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	by.Request = "" // nothing is answered a second time
	self := frame.PersonOf(r)
	var codes []string
	switch in.Get("do") {
	case "drop":
		_, err = ch.records.DropFactor(r.Context(), by, self.ID)
	case "codes":
		codes, err = ch.records.NewRecoveryCodes(r.Context(), by, self.ID)
	default:
		if codes, err = ch.records.SetFactor(r.Context(), by, self.ID, ch.Sessions.GetString(r.Context(), newSecret), in.Get("code")); err == nil {
			ch.Sessions.Remove(r.Context(), newSecret)
		}
	}
	var p check.Problems
	switch {
	case errors.As(err, &p):
		ch.factorPage(w, r, http.StatusUnprocessableEntity, factorView{Form: frame.Form{Values: url.Values{}, Problems: p}})
	case err != nil:
		ch.Fail(w, r, err)
	case codes == nil:
		http.Redirect(w, r, "/account?why=factor-gone", http.StatusSeeOther)
	default:
		ch.factorPage(w, r, http.StatusOK, factorView{Codes: codes})
	}
}
