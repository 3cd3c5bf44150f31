package web

import (
	"html/template"
	"net/http"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/curriculum"
)

type coverageView struct {
	Rows    []curriculum.AttackRow
	Open    int
	Picture template.HTML
	Answers int
}

func (a *app) coverageShow(w http.ResponseWriter, r *http.Request) {
	b, ok := a.book(w, r)
	if !ok {
		return
	}
	v := coverageView{Rows: b.Coverage()}
	names := map[string]string{}
	for _, t := range b.Techniques {
		names[t.ID] = t.Name
	}
	answering := map[string]bool{}
	for _, row := range v.Rows {
		if row.Answered() < 0 {
			v.Open++
		}
		for _, x := range row.Answers {
			answering[x.TechniqueID] = true
		}
	}
	v.Answers = len(answering)
	v.Picture = template.HTML(chart.Coverage{Rungs: b.Rungs, Rows: v.Rows, Names: names}.SVG())
	a.show(w, r, http.StatusOK, b.Program.ID, page{Screen: "coverage", Title: "Attack coverage", Nav: "ladder", Body: v})
}
