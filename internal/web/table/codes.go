package table

import (
	"html/template"
	"net/http"

	"velvetladder/internal/chart"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type codesView struct {
	Grading store.Grading
	Codes   []codeCard
	Here    bool // the address reaches this machine only
}

type codeCard struct {
	store.JoinCode
	Ring, Address string
	Picture       template.HTML
}

// codesMake makes codes for chosen examiners and shows them once.
func (ch *chapter) codesMake(w http.ResponseWriter, r *http.Request) {
	in, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	g, err := ch.records.Grading(r.Context(), r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	by.Request = "" // each asking makes new codes, and those before are void
	v := codesView{Grading: g}
	v.Here = frame.FromHere(r)
	wanted := map[string]bool{}
	for _, id := range in["examiner"] {
		wanted[id] = true
	}
	for _, e := range g.Examiners {
		if len(wanted) > 0 && !wanted[e.ID] {
			continue
		}
		c, err := ch.records.MakeCode(r.Context(), by, e.ID)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		address := frame.Link(r, "/join/"+c.Spelt())
		picture, err := chart.QR(address, "Code for "+e.Name)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Codes = append(v.Codes, codeCard{c, g.Rings[e.Ring].Name, address, template.HTML(picture)})
	}
	if len(v.Codes) == 0 {
		ch.Fail(w, r, store.ErrNotFound)
		return
	}
	if frame.WantsJSON(r) {
		out := []map[string]string{}
		for _, c := range v.Codes {
			out = append(out, map[string]string{"examiner": c.Examiner.ID, "name": c.Examiner.Name, "code": c.Code})
		}
		frame.SendJSON(w, http.StatusOK, map[string]any{"codes": out})
		return
	}
	ch.Show(w, r, http.StatusOK, g.ProgramID, frame.Page{Screen: "codes", Title: "Codes for examiners", Nav: "gradings", Arrived: true, Body: v})
}
