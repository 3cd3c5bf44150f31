package curriculum

import (
	"cmp"
	"html/template"
	"net/http"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/web/frame"
)

type coverageView struct {
	Rows    []curriculum.AttackRow
	Open    int
	Picture template.HTML
	Answers int
	Gaps    []curriculum.AttackKind
	Named   int // techniques that say their attack only in words
	Ranges  []rangeRow
}

// rangeRow is one target with what there is inside, in the middle, outside and at no range said.
type rangeRow struct {
	Target string
	Cells  [4][]rangeCell
}

type rangeCell struct{ ID, Name, Rung string }

func (ch *chapter) coverageShow(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	v := coverageView{Rows: b.Coverage(), Gaps: b.Gaps(), Named: len(binder.For(b).AttacksNamed())}
	for _, r := range b.ByRange() {
		row := rangeRow{Target: cmp.Or(r.Target, "no target said")}
		for i, zone := range []curriculum.Zone{"inside", "middle", "outside", ""} {
			for _, x := range r.In[zone] {
				cell := rangeCell{ID: x.TechniqueID, Name: b.Technique(x.TechniqueID).Name, Rung: "no rung"}
				if x.Rung >= 0 {
					cell.Rung = b.Rungs[x.Rung].Short()
				}
				row.Cells[i] = append(row.Cells[i], cell)
			}
		}
		v.Ranges = append(v.Ranges, row)
	}
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
	ch.Show(w, r, http.StatusOK, b.Program.ID, frame.Page{Screen: "coverage", Title: "Attack coverage", Nav: "ladder", Body: v})
}
