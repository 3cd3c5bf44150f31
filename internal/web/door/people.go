package door

import (
	"net/http"
	"net/url"

	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type peopleView struct {
	People  []store.Person
	SignIns map[string][]store.SignIn // by person, the last used first
	Self    store.Person
	Form    frame.Form            // a new one
	Edit    frame.Form            // Of is the person's id
	Edits   map[string]frame.Form // by person, as the record stands or as it was typed
	Roles   []frame.Option
	Shared  bool // everybody is the owner: nobody signs in
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
	v.Edits = map[string]frame.Form{}
	for _, p := range v.People {
		f := edit.For(p.ID).Filled(frame.Values("name", p.Name, "sign_in", p.SignIn, "role", string(p.Role)))
		if v.Edits[p.ID] = f; edit.Of == p.ID {
			v.Edit.General = f.General
		}
	}
	ins, err := ch.records.SignIns(r.Context(), "")
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.SignIns = map[string][]store.SignIn{}
	for _, x := range ins {
		v.SignIns[x.PersonID] = append(v.SignIns[x.PersonID], x)
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
