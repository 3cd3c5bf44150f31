package gradings

import (
	"html/template"
	"net/http"
	"strconv"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type lineupView struct {
	Grading store.Grading
	Nav     preparation
	Form    frame.Form
	LineUp  gradingday.LineUp
	Rows    [][]store.Preparing
	Picture template.HTML
}

func (ch *chapter) lineupShow(w http.ResponseWriter, r *http.Request) {
	g, people, err := ch.records.Preparing(r.Context(), r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	set, err := ch.records.Settings(r.Context())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := lineupView{Grading: g, Nav: preparation{Grading: g, Here: "lineup", Owner: frame.PersonOf(r).Role == store.Owner}, Form: frame.Form{Values: r.URL.Query()}}
	status, h := http.StatusOK, set.Hall
	if v.Form.Get("width_cm") != "" {
		h = gradingday.Hall{WidthCM: v.Form.Problems.Whole("width_cm", v.Form.Get("width_cm"), 200, 10000, h.WidthCM),
			DepthCM: v.Form.Problems.Whole("depth_cm", v.Form.Get("depth_cm"), 200, 10000, h.DepthCM), Left: v.Form.Get("left") == "1"}
		if len(v.Form.Problems) > 0 {
			status, h = http.StatusUnprocessableEntity, set.Hall
		}
	} else {
		v.Form.Values = frame.Values("width_cm", strconv.Itoa(h.WidthCM), "depth_cm", strconv.Itoa(h.DepthCM))
		if h.Left {
			v.Form.Values.Set("left", "1")
		}
	}
	var line []gradingday.InLine
	var names []string
	var cloths []curriculum.Cloth
	for _, p := range people {
		line = append(line, gradingday.InLine{ID: p.ID, Name: p.Name, Rung: p.From.Position, Since: p.Since.String(), HeightCM: p.HeightCM})
		names, cloths = append(names, p.Name), append(cloths, p.From.Cloth)
	}
	v.LineUp = gradingday.MakeLineUp(line, h)
	for _, row := range v.LineUp.Rows {
		var out []store.Preparing
		for _, s := range row.Stands {
			out = append(out, people[s.Who])
		}
		v.Rows = append(v.Rows, out)
	}
	if len(people) > 0 {
		v.Picture = template.HTML(chart.LineUp(v.LineUp, h, names, cloths))
	}
	ch.Show(w, r, status, g.ProgramID, frame.Page{Screen: "lineup", Title: "Line-up, " + g.Title(), Nav: "gradings", Body: v})
}
