package frame

import (
	"errors"
	"fmt"
	"net/http"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
	"velvetladder/internal/words"
)

// MaxEntries is how many entries one request may carry: what a device kept over a weekend.
const MaxEntries = 500

// Taken answers what became of each entry.
type Taken struct {
	At      int64          `json:"at"` // when, in ms
	Stored  []string       `json:"stored"`
	Refused []RefusedEntry `json:"refused"`
	Problem string         `json:"problem,omitempty"` // where nothing was taken: why
}

// RefusedEntry is one that was not stored, and why.
type RefusedEntry struct {
	ID      string `json:"id"`
	Problem string `json:"problem"`
	Current any    `json:"current,omitempty"` // what stands where another device was first
}

// TakenOf is what became of entries with these ids, at an instant.
func TakenOf(at time.Time, ids []string, refused []store.RefusedEntry) Taken {
	out := Taken{At: at.UnixMilli(), Stored: []string{}, Refused: []RefusedEntry{}}
	why := map[int]error{}
	for _, x := range refused {
		why[x.At] = x.Why
	}
	for i, id := range ids {
		err := why[i]
		if err == nil {
			out.Stored = append(out.Stored, id)
			continue
		}
		_, _, text := Explain(err)
		e := RefusedEntry{ID: id, Problem: text}
		var old *store.Outdated
		if errors.As(err, &old) {
			e.Current, e.Problem = Attendance(old.Current), old.Error()
		}
		var stale *store.Stale
		if errors.As(err, &stale) {
			e.Current, e.Problem = currentOf(stale), stale.Error()+"; what stands now is "+words.Mark(stale.Current)
		}
		out.Refused = append(out.Refused, e)
	}
	return out
}

// ReadEntries reads what a device sends of what it kept: 1 to MaxEntries, made by who sends them or handed to the
// owner.
func ReadEntries[T any](r *http.Request) ([]T, error) {
	var in batch[T]
	err := ReadJSON(r, &in)
	if err == nil {
		err = in.mayBring(r)
	}
	if err == nil && (len(in.Entries) == 0 || len(in.Entries) > MaxEntries) {
		err = check.Problems{{Field: "entries", Text: fmt.Sprintf("must be 1 to %d", MaxEntries)}}
	}
	return in.Entries, err
}

// TakeEach stores entries one by one, each taken or refused by itself, and answers what became
// of them. told is called where something was taken.
func TakeEach[T any](fr *Frame, w http.ResponseWriter, r *http.Request, id func(T) string, take func(T) error, told func()) {
	entries, err := ReadEntries[T](r)
	if err != nil {
		fr.FailJSON(w, r, err)
		return
	}
	var ids []string
	var refused []store.RefusedEntry
	for i, e := range entries {
		ids = append(ids, id(e))
		err := take(e)
		if status, _, _ := Explain(err); err != nil && status >= http.StatusInternalServerError {
			fr.FailJSON(w, r, err)
			return
		}
		if err != nil {
			refused = append(refused, store.RefusedEntry{At: i, Why: err})
		}
	}
	if fr.Answered(w, r, ids, refused) > 0 {
		told()
	}
}

// TakeEntries stores what a device kept about a class, and answers what became of each entry. It
// is answered only once all is on the disk. of is an entry's id, and whether it belongs to the
// class and day of the address.
func TakeEntries[T any](fr *Frame, w http.ResponseWriter, r *http.Request, of func(e T, class, on string) (id string, here bool), record func(store.By, []T) ([]store.RefusedEntry, error)) {
	entries, err := ReadEntries[T](r)
	var ids []string
	for _, e := range entries {
		id, here := of(e, r.PathValue("class"), r.PathValue("on"))
		if ids = append(ids, id); err == nil && !here {
			err = &store.Refused{Reason: "These entries belong to the register of another class."}
		}
	}
	var refused []store.RefusedEntry
	if err == nil {
		refused, err = record(store.By{Actor: ActorOf(r)}, entries)
	}
	if err != nil {
		fr.FailJSON(w, r, err)
		return
	}
	SendJSON(w, http.StatusOK, TakenOf(fr.records.Now(), ids, refused))
}

// Answered is what became of entries a device kept: with one that nothing was taken of, the
// status says why.
func (fr *Frame) Answered(w http.ResponseWriter, r *http.Request, ids []string, refused []store.RefusedEntry) (taken int) {
	out := TakenOf(fr.records.Now(), ids, refused)
	status := http.StatusOK
	if len(out.Stored) == 0 && len(refused) > 0 {
		title, text := "", ""
		status, title, text = Explain(refused[0].Why)
		out.Problem = title + ": " + text
	}
	if status >= http.StatusInternalServerError {
		fr.Log.Error("a request failed", "error", refused[0].Why, "path", r.URL.Path)
	}
	SendJSON(w, status, out)
	return len(out.Stored)
}
