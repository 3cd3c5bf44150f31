package office

import (
	"errors"
	"net/http"

	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type erasuresView struct {
	All     []store.Erasure
	Left    int        // whose traces pages of the file still hold
	Backups int        // that were made before the last erasing: they hold what was erased
	Form    frame.Form // only for what is to be said
}

func (ch *chapter) erasuresShow(w http.ResponseWriter, r *http.Request) {
	if r.URL.Query().Get("full") != "" {
		ch.erasuresPage(w, r, http.StatusInsufficientStorage, noRoom)
		return
	}
	ch.erasuresPage(w, r, http.StatusOK, "")
}

const noRoom = "Erased it is, but the file could not be written anew: the disk is full. It takes about twice the file’s size for a moment. Make room; it is tried again every minute, or by the button."

func (ch *chapter) erasuresPage(w http.ResponseWriter, r *http.Request, status int, said string) {
	v := erasuresView{Form: frame.Form{General: said}}
	var err error
	if v.All, err = ch.records.Erasures(r.Context()); err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, e := range v.All {
		if e.Rebuilt.IsZero() {
			v.Left++
		}
	}
	if v.Left == 0 && status != http.StatusOK { // it was done meanwhile
		status, v.Form.General = http.StatusOK, ""
	}
	if len(v.All) > 0 && ch.Access.Backups != "" {
		kept, err := store.Backups(ch.Access.Backups, ch.records.Zone())
		if err != nil {
			v.Form.General = "The backups cannot be read: " + err.Error()
		}
		for _, k := range kept {
			if k.At.Before(v.All[0].At) {
				v.Backups++
			}
		}
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "erasures", Title: "What was erased", Body: v})
}

// erasuresRebuild writes the file anew now.
func (ch *chapter) erasuresRebuild(w http.ResponseWriter, r *http.Request) {
	err := ch.records.Rebuild(r.Context())
	switch {
	case err == nil:
		http.Redirect(w, r, "/erasures?why=rebuilt", http.StatusSeeOther)
	case errors.Is(err, store.ErrTableOpen):
		ch.erasuresPage(w, r, http.StatusConflict, "A grading is under way: nobody could mark while the file is written anew. It is done by itself when all its results are announced, or it is closed at the head table.")
	case errors.Is(err, store.ErrRead):
		ch.erasuresPage(w, r, http.StatusConflict, "The file was being read all the time. It is tried again every minute.")
	case store.Full(err):
		ch.Log.Error("the file could not be rebuilt after erasing", "error", err)
		ch.erasuresPage(w, r, http.StatusInsufficientStorage, noRoom)
	default:
		ch.Fail(w, r, err)
	}
}
