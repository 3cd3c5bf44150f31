package frame

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
)

// broken answers when even the layout cannot be made.
func (fr *Frame) broken(w http.ResponseWriter, err error) {
	fr.Log.Error("a page could not be made", "error", err)
	http.Error(w, "The records cannot be read just now. Nothing was changed; try again, and see the log.", http.StatusInternalServerError)
}

// unkept answers when a session could not be kept.
func (fr *Frame) unkept(w http.ResponseWriter, err error) {
	status, title, text := Explain(err)
	fr.Log.Error("a session could not be kept", "error", err)
	http.Error(w, title+"\n\n"+text, status)
}

type message struct{ Title, Text string }

// Message renders a page that says one thing.
func (fr *Frame) Message(w http.ResponseWriter, r *http.Request, status int, title, text string) {
	fr.Show(w, r, status, "", Page{Screen: "message", Title: title, Body: message{title, text}})
}

// Fail renders an error no form can show.
func (fr *Frame) Fail(w http.ResponseWriter, r *http.Request, err error) {
	status, title, text := Explain(err)
	if status >= http.StatusInternalServerError {
		fr.Log.Error("a request failed", "error", err, "path", r.URL.Path)
	}
	fr.Message(w, r, status, title, text)
}

// Explain is an error as status and words.
func Explain(err error) (status int, title, text string) {
	var problems check.Problems
	var refused *store.Refused
	var stale *store.Stale
	var large *http.MaxBytesError
	var invalid *store.InvalidCurriculum
	var old *store.Outdated
	var overtaken *store.Overtaken
	switch {
	case errors.As(err, &old):
		return http.StatusConflict, "Entered on another device", old.Error()
	case store.Full(err):
		return http.StatusInsufficientStorage, "The disk is full",
			"This was not stored, and nothing that was stored before is lost. Make room on the disk that holds the school’s file; marks that wait on a tablet are delivered by themselves then."
	case store.ReadOnly(err):
		return http.StatusServiceUnavailable, "The school’s file cannot be written to",
			"This was not stored, and nothing that was stored before is lost. Let the program write to the file and its folder, and try again."
	case errors.Is(err, context.Canceled): // whoever asked has gone
		return http.StatusServiceUnavailable, "Nobody waits for this any more", "What was under way is stored, or nothing of it. Ask again."
	case errors.Is(err, store.ErrNotFound):
		return http.StatusNotFound, "This is not on record", "It may have been deleted, or the address is mistyped. The ladder and the search lead to everything there is."
	case errors.Is(err, store.ErrConflict):
		return http.StatusConflict, "This was sent before with other content", "The first version was stored and nothing of this one. Load the page again and make the change there."
	case errors.As(err, &stale):
		return http.StatusConflict, "Marked on another device", stale.Error()
	case errors.As(err, &overtaken):
		return http.StatusConflict, "Changed meanwhile", overtaken.Error()
	case errors.As(err, &refused):
		return http.StatusConflict, "This cannot be done", refused.Reason
	case errors.As(err, &problems):
		return http.StatusUnprocessableEntity, "Something needs correcting", problems.Error()
	case errors.As(err, &invalid):
		return http.StatusUnprocessableEntity, "The curriculum would not hold together", invalid.Error()
	case errors.As(err, &large):
		return http.StatusRequestEntityTooLarge, "This is too large", fmt.Sprintf("Up to %d MiB can be sent at once.", MaxBody>>20)
	}
	return http.StatusInternalServerError, "Something went wrong here", "Nothing was changed. Go back and try again; the log says more."
}
