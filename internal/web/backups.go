package web

import (
	"net/http"
	"path/filepath"
	"slices"

	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type backupsView struct {
	Dir  string // "" none are kept
	Rows []store.Kept
	Form frame.Form
	Made string
}

func (a *app) backupsShow(w http.ResponseWriter, r *http.Request) {
	a.backupsPage(w, r, http.StatusOK, frame.Form{}, r.URL.Query().Get("made"))
}

func (a *app) backupsPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form, made string) {
	v := backupsView{Dir: a.Access.Backups, Form: f}
	if v.Dir != "" {
		var err error
		if v.Rows, err = store.Backups(v.Dir, a.store.Zone()); err != nil && v.Form.General == "" {
			v.Form.General = "The backups cannot be read: " + err.Error()
		}
	}
	if slices.ContainsFunc(v.Rows, func(k store.Kept) bool { return k.Name == made }) {
		v.Made = made
	}
	a.Show(w, r, status, "", frame.Page{Screen: "backups", Title: "Backups", Body: v})
}

// backupsMake makes one now.
func (a *app) backupsMake(w http.ResponseWriter, r *http.Request) {
	_, by, err := frame.Posted(r)
	if err != nil {
		a.Fail(w, r, err)
		return
	}
	if a.Access.Backups == "" {
		a.Fail(w, r, &store.Refused{Reason: "This program was started without a place for backups."})
		return
	}
	k, err := a.store.KeepBackup(r.Context(), a.Access.Backups)
	if err != nil {
		a.Log.Error("a backup could not be made", "error", err)
		words := "The backup could not be made, and nothing was left of it: " + err.Error() + "."
		switch {
		case store.Full(err):
			words = "There is no room for a backup at " + a.Access.Backups + ". Nothing was left of it, and the records are as they were. Make room there, or start the program with another --backups."
		case store.ReadOnly(err):
			words = "Nothing can be written at " + a.Access.Backups + ". Let the program write there, or start it with another --backups."
		}
		a.backupsPage(w, r, http.StatusInsufficientStorage, frame.Form{General: words}, "")
		return
	}
	if _, err := a.store.NoteDeed(r.Context(), store.By{Actor: by.Actor}, "Made the backup "+k.Name); err != nil {
		a.Fail(w, r, err)
		return
	}
	http.Redirect(w, r, "/backups?made="+k.Name, http.StatusSeeOther)
}

// backupsFile hands a backup out, to be kept elsewhere.
func (a *app) backupsFile(w http.ResponseWriter, r *http.Request) {
	name := r.PathValue("name")
	all, err := store.Backups(a.Access.Backups, a.store.Zone())
	if err != nil || a.Access.Backups == "" || !slices.ContainsFunc(all, func(k store.Kept) bool { return k.Name == name }) {
		a.Fail(w, r, store.ErrNotFound)
		return
	}
	w.Header().Set("Content-Type", "application/vnd.sqlite3")
	w.Header().Set("Content-Disposition", "attachment; filename="+name)
	http.ServeFile(w, r, filepath.Join(a.Access.Backups, name))
}
