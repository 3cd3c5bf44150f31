package office

import (
	"net/http"
	"path/filepath"
	"slices"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type backupsView struct {
	Dir  string // "" none are kept
	Rows []store.Kept
	Form frame.Form
	Made string
	Now  time.Time
	Late string // the day of the newest, where none was made for more than a day
}

// lateAfter is how old the newest backup may be before the page says that something keeps the next from being made.
const lateAfter = 48 * time.Hour

func (ch *chapter) backupsShow(w http.ResponseWriter, r *http.Request) {
	ch.backupsPage(w, r, http.StatusOK, frame.Form{}, r.URL.Query().Get("made"))
}

func (ch *chapter) backupsPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form, made string) {
	v := backupsView{Dir: ch.Access.Backups, Form: f}
	if v.Dir != "" {
		var err error
		if v.Rows, err = store.Backups(v.Dir, ch.records.Zone()); err != nil && v.Form.General == "" {
			v.Form.General = "The backups cannot be read: " + err.Error()
		}
	}
	v.Now = ch.records.Now().In(ch.records.Zone())
	for _, k := range v.Rows { // the newest first; what is dated ahead counts for nothing
		if !k.At.After(v.Now) {
			if v.Now.Sub(k.At) > lateAfter {
				v.Late = civil.On(k.At).Long()
			}
			break
		}
	}
	if slices.ContainsFunc(v.Rows, func(k store.Kept) bool { return k.Name == made }) {
		v.Made = made
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "backups", Title: "Backups", Body: v})
}

// backupsMake makes one now.
func (ch *chapter) backupsMake(w http.ResponseWriter, r *http.Request) {
	_, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if ch.Access.Backups == "" {
		ch.Fail(w, r, &store.Refused{Reason: "This program was started without a place for backups."})
		return
	}
	k, err := ch.records.KeepBackup(r.Context(), ch.Access.Backups)
	if err != nil {
		ch.Log.Error("a backup could not be made", "error", err)
		words := "The backup could not be made, and nothing was left of it: " + err.Error() + "."
		switch {
		case store.Full(err):
			words = "There is no room for a backup at " + ch.Access.Backups + ". Nothing was left of it, and the records are as they were. Make room there, or start the program with another --backups."
		case store.ReadOnly(err):
			words = "Nothing can be written at " + ch.Access.Backups + ". Let the program write there, or start it with another --backups."
		}
		ch.backupsPage(w, r, http.StatusInsufficientStorage, frame.Form{General: words}, "")
		return
	}
	if _, err := ch.records.NoteDeed(r.Context(), store.By{Actor: by.Actor}, office.BackupMade.Named(k.Name)); err != nil {
		ch.Fail(w, r, err)
		return
	}
	http.Redirect(w, r, "/backups?made="+k.Name, http.StatusSeeOther)
}

// backupsFile hands a backup out, to be kept elsewhere.
func (ch *chapter) backupsFile(w http.ResponseWriter, r *http.Request) {
	name := r.PathValue("name")
	all, err := store.Backups(ch.Access.Backups, ch.records.Zone())
	if err != nil || ch.Access.Backups == "" || !slices.ContainsFunc(all, func(k store.Kept) bool { return k.Name == name }) {
		ch.Fail(w, r, store.ErrNotFound)
		return
	}
	w.Header().Set("Content-Type", "application/vnd.sqlite3")
	w.Header().Set("Content-Disposition", "attachment; filename="+name)
	http.ServeFile(w, r, filepath.Join(ch.Access.Backups, name))
}
