package gradings

import (
	"net/http"
	"net/url"

	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type officersView struct {
	Officers []officerRow
	Ladders  []officerLadder
	Students []frame.Option
	Form     frame.Form
	Edit     frame.Form // Of is the officer's id
	Unknown  []string
}

// officerLadder is a program with the rungs somebody may hold, the highest first.
type officerLadder struct {
	ID, Name string
	Rungs    []frame.Option
}

type officerRow struct {
	store.Officer
	Words []string
	Kin   []frame.Option
	Form  frame.Form // as the record stands, or as it was typed
}

func (ch *chapter) officersShow(w http.ResponseWriter, r *http.Request) {
	ch.officersPage(w, r, http.StatusOK, frame.Form{}, frame.Form{})
}

func (ch *chapter) officersPage(w http.ResponseWriter, r *http.Request, status int, f, edit frame.Form) {
	ctx := r.Context()
	v := officersView{Form: f, Edit: edit}
	all, err := ch.records.Officers(ctx)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	programs, err := ch.records.Programs(ctx)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	names := map[string]string{}
	for _, p := range programs {
		rungs, err := ch.records.Ladder(ctx, p.ID)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		l := officerLadder{ID: p.ID, Name: p.Name}
		for i := len(rungs) - 1; i >= 0; i-- {
			l.Rungs = append(l.Rungs, frame.Option{Value: rungs[i].ID, Label: rungs[i].Name})
			names[rungs[i].ID] = rungs[i].Name
		}
		v.Ladders = append(v.Ladders, l)
	}
	people, _, err := ch.records.Students(ctx, "", "", 5000, 0)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	called := map[string]string{}
	for _, s := range people {
		if called[s.ID] == "" {
			called[s.ID] = s.Name
			v.Students = append(v.Students, frame.Option{Value: s.ID, Label: s.Name})
		}
	}
	for _, o := range all {
		v.Officers = append(v.Officers, v.row(o, names, called))
	}
	if v.Unknown, err = ch.records.UnknownExaminers(ctx); err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "officers", Title: "Examiners", Nav: "gradings", Body: v})
}

// row is an officer on the page, with their form.
func (v *officersView) row(o store.Officer, rungs, students map[string]string) officerRow {
	row, values := officerRow{Officer: o}, frame.Values("name", o.Name)
	for _, l := range v.Ladders {
		values.Set("holds_"+l.ID, o.Holds[l.ID])
		if rung := rungs[o.Holds[l.ID]]; rung != "" {
			row.Words = append(row.Words, rung+" in "+l.Name)
		}
	}
	for _, s := range o.Family {
		values.Add("family", s)
		if students[s] != "" {
			row.Kin = append(row.Kin, frame.Option{Value: s, Label: students[s]})
		}
	}
	if row.Form = v.Edit.For(o.ID).Filled(values); v.Edit.Of == o.ID {
		v.Edit.General = row.Form.General
	}
	return row
}

func (ch *chapter) officersSave(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("officer")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		o := store.Officer{ID: id, Name: v.Get("name"), Holds: map[string]string{}, Family: v["family"]}
		for _, program := range v["program"] {
			o.Holds[program] = v.Get("holds_" + program)
		}
		return ch.records.SaveOfficer(r.Context(), by, o)
	}, frame.To("/officers"), func(status int, f frame.Form) {
		if id != "" {
			f.Of = id
			ch.officersPage(w, r, status, frame.Form{}, f)
			return
		}
		ch.officersPage(w, r, status, f, frame.Form{})
	})
}

func (ch *chapter) officersDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteOfficer(r.Context(), by, r.PathValue("officer"))
	}, frame.To("/officers"), nil)
}
