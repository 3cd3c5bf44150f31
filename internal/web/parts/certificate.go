package parts

import (
	"slices"
	"strings"
	"time"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
)

// Printing is what papers of a grading are made from.
type Printing struct {
	Day    store.DayPlan
	Set    office.Settings
	School string
	Book   *curriculum.Book
	Only   string // one candidate; "" everybody
}

// Certificate is the page of one who was promoted.
func (p Printing) Certificate(name, rung, rank, grade string, panel []gradingday.Examiner) exchange.Certificate {
	g := p.Day.Grading
	place := g.Place
	if place == "" {
		place = p.School
	}
	c := exchange.Certificate{School: p.School, Seal: p.Set.SealOf(p.School), Colour: p.Set.SealColour, Title: p.Set.Title, Name: name, Rank: rank, Rungs: p.Book.Rungs,
		Lines: p.Set.Words(map[string]string{"name": name, "rank": rank, "program": p.Book.Program.Name, "date": LongDate(g.On.String()), "place": place, "school": p.School, "grade": grade})}
	c.At = slices.IndexFunc(p.Book.Rungs, func(x curriculum.Rung) bool { return x.ID == rung })
	for _, e := range panel {
		title := p.Set.Examiner
		if e.Chief {
			title = "Chief " + strings.ToLower(p.Set.Examiner)
		}
		c.Signs = append(c.Signs, exchange.Sign{Name: e.Name, Title: title})
	}
	if len(c.Signs) == 0 {
		c.Signs = []exchange.Sign{{Title: p.Set.Head}}
	}
	return c
}

// LongDate is a date as printed papers have it: "12 December 2026".
func LongDate(d string) string {
	t, err := time.Parse("2006-01-02", d)
	if err != nil {
		return d
	}
	return t.Format("2 January 2006")
}
