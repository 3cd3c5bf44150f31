package frame

import (
	"encoding/json"
	"errors"
	"mime"
	"net/http"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
)

// problem is an error as the scoring table's script reads it.
type problem struct {
	Problem string `json:"problem"`
	Current *Mark  `json:"current,omitempty"` // what stands where someone else was first
}

// FailJSON answers a script with what went wrong.
func (fr *Frame) FailJSON(w http.ResponseWriter, r *http.Request, err error) {
	status, title, text := Explain(err)
	if status >= http.StatusInternalServerError {
		fr.Log.Error("a request failed", "error", err, "path", r.URL.Path)
	}
	out := problem{Problem: title + ": " + text}
	var stale *store.Stale
	if errors.As(err, &stale) {
		out.Current = currentOf(stale)
	}
	SendJSON(w, status, out)
}

// SendJSON answers a script.
func SendJSON(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	json.NewEncoder(w).Encode(v)
}

// ReadJSON reads a request's body strictly.
func ReadJSON(r *http.Request, v any) error {
	if kind, _, _ := mime.ParseMediaType(r.Header.Get("Content-Type")); kind != "application/json" {
		return check.Problems{{Field: "request", Text: "must be application/json"}}
	}
	dec := json.NewDecoder(r.Body)
	dec.DisallowUnknownFields()
	if err := dec.Decode(v); err != nil {
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			return err
		}
		return check.Problems{{Field: "request", Text: "cannot be read: " + err.Error()}}
	}
	return nil
}
