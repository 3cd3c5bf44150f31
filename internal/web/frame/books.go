package frame

import (
	"net/http"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
)

// choose finds the program a page is about: the one it names, the one the address names,
// the one looked at last, or the first.
func choose(all []curriculum.Program, of string, r *http.Request) curriculum.Program {
	wanted := []string{of, r.URL.Query().Get("program")}
	if c, err := r.Cookie(programCookie); err == nil {
		wanted = append(wanted, c.Value)
	}
	for _, id := range wanted {
		for _, p := range all {
			if p.ID == id {
				return p
			}
		}
	}
	if len(all) > 0 {
		return all[0]
	}
	return curriculum.Program{}
}

// Book is the curriculum of the program a page is about, as it is being edited. A school
// without a program is led to the first step; ok is false then, and after an error.
func (fr *Frame) Book(w http.ResponseWriter, r *http.Request) (b *curriculum.Book, ok bool) {
	p, err := fr.Program(r)
	if err != nil {
		fr.Fail(w, r, err)
		return nil, false
	}
	if p.ID == "" {
		http.Redirect(w, r, "/programs/new?why=no-program", http.StatusSeeOther)
		return nil, false
	}
	if b, err = fr.records.Book(r.Context(), p.ID); err != nil {
		fr.Fail(w, r, err)
		return nil, false
	}
	return b, true
}

// RungBook is the rung an address names with its curriculum.
func (fr *Frame) RungBook(w http.ResponseWriter, r *http.Request) (g *curriculum.Rung, b *curriculum.Book, ok bool) {
	x, err := fr.records.Rung(r.Context(), r.PathValue("rung"))
	if err == nil {
		b, err = fr.records.Book(r.Context(), x.ProgramID)
	}
	if err == nil {
		if g = b.Rung(x.ID); g == nil {
			err = store.ErrNotFound
		}
	}
	if err != nil {
		fr.Fail(w, r, err)
		return nil, nil, false
	}
	return g, b, true
}

// Program is the current program for a handler that needs it before rendering.
func (fr *Frame) Program(r *http.Request) (curriculum.Program, error) {
	all, err := fr.records.Programs(r.Context())
	return choose(all, "", r), err
}
