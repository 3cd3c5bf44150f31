package classes

import (
	"html/template"
	"net/http"
	"slices"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type insightsView struct {
	Quiet    []store.Quiet
	Grades   []gradeTime
	Rates    []store.Tested
	Weak     []store.Weak
	Sections []sectionRate
	Cohorts  []progress.Cohort
	Picture  template.HTML
	Any      bool
}

type gradeTime struct {
	progress.InGrade
	Rung string
}

// sectionRate is the share of failing marks in a section.
type sectionRate struct {
	Name           string
	Marks, Failing int
}

// weakShown is how many of the weakest items are listed, and weakMarks how many marks an item
// needs before it says anything.
const (
	weakShown = 10
	weakMarks = 12
)

// insightsShow is what the records say of a program, each figure with the students behind it.
func (ch *chapter) insightsShow(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	ctx := r.Context()
	var v insightsView
	var err error
	if v.Quiet, err = ch.records.GoneQuiet(ctx, b.Program.ID); err != nil {
		ch.Fail(w, r, err)
		return
	}
	ways, stays, err := ch.records.Ways(ctx, b.Program.ID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Any = len(ways) > 0
	for _, g := range progress.TimeInGrade(stays) {
		if g.Position < len(b.Rungs) {
			v.Grades = append(v.Grades, gradeTime{g, b.Rungs[g.Position].Name})
		}
	}
	v.Cohorts = progress.Cohorts(ways, ch.records.Today())
	if len(v.Cohorts) > 0 {
		v.Picture = template.HTML(chart.Cohorts(v.Cohorts))
	}
	if v.Rates, err = ch.records.PassRates(ctx, b.Program.ID); err != nil {
		ch.Fail(w, r, err)
		return
	}
	weak, err := ch.records.WeakItems(ctx, b.Program.ID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, x := range weak {
		at := slices.IndexFunc(v.Sections, func(s sectionRate) bool { return s.Name == x.Section })
		if at < 0 {
			at = len(v.Sections)
			v.Sections = append(v.Sections, sectionRate{Name: x.Section})
		}
		v.Sections[at].Marks += x.Marks
		v.Sections[at].Failing += x.Failing
		if x.Marks >= weakMarks && x.Failing > 0 && len(v.Weak) < weakShown {
			v.Weak = append(v.Weak, x)
		}
	}
	slices.SortStableFunc(v.Sections, func(x, y sectionRate) int { return y.Failing*x.Marks - x.Failing*y.Marks })
	ch.Show(w, r, http.StatusOK, b.Program.ID, frame.Page{Screen: "insights", Title: "Insights", Nav: "insights", Body: v})
}
