package curriculum

import (
	"fmt"
	"net/http"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type differenceView struct {
	// Of one rung beyond another.
	Rung, Below *curriculum.Rung
	Others      []*curriculum.Rung // it can be held against
	Changes     []curriculum.Difference
	Same        int // lines that are as they were
	Minutes     int // more than below
	Chosen      chosen

	// Of two versions.
	Versions   []store.Version
	From, To   string
	FromWords  string
	ToWords    string
	Rungs      []curriculum.RungChanges
	Techniques []curriculum.Difference
}

// differenceRung says what a rung asks beyond the one below, or beyond another one.
func (ch *chapter) differenceRung(w http.ResponseWriter, r *http.Request) {
	g, b, ok := ch.RungBook(w, r)
	if !ok {
		return
	}
	v := differenceView{Rung: g, Chosen: choice(r, b)}
	for i := range b.Rungs {
		if b.Rungs[i].ID != g.ID {
			v.Others = append(v.Others, &b.Rungs[i])
		}
	}
	v.Below = b.Rung(r.URL.Query().Get("beyond"))
	if v.Below == nil && g.Position > 0 {
		v.Below = &b.Rungs[g.Position-1]
	}
	sheet := func(rung *curriculum.Rung) curriculum.TestSheet {
		return b.Compile(curriculum.Asking{RungID: rung.ID, TrackID: v.Chosen.Track, Group: sheetGroup, Undrawn: true})
	}
	older, newer := curriculum.TestSheet{}, sheet(g)
	if v.Below != nil {
		older = sheet(v.Below)
	}
	v.Changes = curriculum.Differences(older, newer)
	v.Same, v.Minutes = len(newer.Lines), newer.Minutes()-older.Minutes()
	for _, c := range v.Changes {
		if c.Line != nil {
			v.Same--
		}
	}
	ch.Show(w, r, http.StatusOK, g.ProgramID, frame.Page{Screen: "difference", Title: "What " + g.Name + " asks beyond", Nav: "ladder", Here: g.ID, Body: v})
}

// differenceVersions says how two versions of the curriculum differ; "" is the draft.
func (ch *chapter) differenceVersions(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	versions, _, err := ch.records.Versions(r.Context(), b.Program.ID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	q := r.URL.Query()
	v := differenceView{Versions: versions, From: q.Get("from"), To: q.Get("to"), Chosen: choice(r, b)}
	if v.From == "" && len(versions) > 0 && !q.Has("from") {
		v.From = versions[0].ID
	}
	open := func(id string) (*curriculum.Book, string, error) {
		if id == "" {
			return b, "the draft", nil
		}
		for _, x := range versions {
			if x.ID == id {
				book, err := ch.records.VersionBook(r.Context(), id)
				return book, fmt.Sprintf("version %d", x.Number), err
			}
		}
		return nil, "", store.ErrNotFound
	}
	older, from, err := open(v.From)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	newer, to, err := open(v.To)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.FromWords, v.ToWords = from, to
	v.Rungs, v.Techniques = curriculum.Compare(older, newer, v.Chosen.Track)
	ch.Show(w, r, http.StatusOK, b.Program.ID, frame.Page{Screen: "difference", Title: "From " + from + " to " + to, Nav: "ladder", Body: v})
}
