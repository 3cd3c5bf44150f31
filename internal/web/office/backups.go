package office

import (
	"errors"
	"net/http"
	"net/url"
	"path/filepath"
	"slices"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
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

	Key               store.BackupKey
	Looked, Rehearsed store.LookedThrough
	Said              string // what a rehearsal found
	Seal, Rehearse    frame.Form
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
	v.Seal, v.Rehearse = f.For("seal"), f.For("rehearse")
	var err error
	if v.Key, err = ch.records.BackupKey(r.Context()); err == nil {
		v.Looked, v.Rehearsed, err = ch.records.LastLooked(r.Context())
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
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
	k, err := ch.records.KeepBackup(r.Context(), store.By{Actor: by.Actor}, ch.Access.Backups)
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
	if store.Sealed(name) {
		w.Header().Set("Content-Type", "application/octet-stream")
	}
	w.Header().Set("Content-Disposition", "attachment; filename="+name)
	http.ServeFile(w, r, filepath.Join(ch.Access.Backups, name))
}

// backupsSeal has backups encrypted from now on, or in the clear again.
func (ch *chapter) backupsSeal(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if v.Get("do") == "clear" {
			return ch.records.UnsealBackups(r.Context(), by)
		}
		if v.Get("password") != v.Get("again") {
			return store.Done{}, check.Problems{{Field: "again", Text: "is not the same; write the passphrase twice, so that it is what you mean"}}
		}
		return ch.records.SealBackups(r.Context(), by, v.Get("password"))
	}, frame.To("/backups"), func(status int, f frame.Form) {
		f.Values, f.Of = url.Values{}, "seal"
		ch.backupsPage(w, r, status, f, "")
	})
}

// backupsRehearse puts the newest backup in place aside and says what is in it.
func (ch *chapter) backupsRehearse(w http.ResponseWriter, r *http.Request) {
	v, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	all, err := store.Backups(ch.Access.Backups, ch.records.Zone())
	if err != nil || len(all) == 0 {
		ch.Fail(w, r, orNone(err))
		return
	}
	name := v.Get("name")
	if name == "" {
		name = all[0].Name
	}
	_, err = ch.records.Rehearse(r.Context(), store.By{Actor: by.Actor}, ch.Access.Backups, name, v.Get("password"))
	f := frame.Form{Of: "rehearse", Values: url.Values{}}
	switch {
	case errors.Is(err, store.ErrPassphrase):
		f.Problems = check.Problems{{Field: "password", Text: "does not open it. Nothing was changed; try again"}}
		ch.backupsPage(w, r, http.StatusUnprocessableEntity, f, "")
	case errors.Is(err, store.ErrUnsound):
		f.General = name + " could not be put in place: " + err.Error() + ". Make a backup now, and keep this one aside."
		ch.backupsPage(w, r, http.StatusConflict, f, "")
	case store.Full(err):
		f.General = "There is no room to put it in place aside: it takes the size of the school’s file for a moment."
		ch.backupsPage(w, r, http.StatusInsufficientStorage, f, "")
	case err != nil:
		ch.Fail(w, r, err)
	default:
		http.Redirect(w, r, "/backups#rehearsal", http.StatusSeeOther)
	}
}

func orNone(err error) error {
	if err == nil {
		return &store.Refused{Reason: "There is no backup to rehearse with yet; make one first."}
	}
	return err
}
