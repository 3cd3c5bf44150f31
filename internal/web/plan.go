package web

import (
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
)

type planView struct {
	Class   timetable.Class
	On      civil.Date
	Plan    practice.Plan
	Form    form
	Themes  []option
	Coming  []likely
	Unheard bool // the class was never held: it is planned for whom it is for
	Certain bool // by the register, not by habit
	query   url.Values
	path    string
}

type likely struct {
	Name   string
	Rung   string
	Chance int // percent
}

// comesAtAll is from which chance on, in permille, a student is planned for.
const comesAtAll = 200

// With is the plan's address with a topic pinned, dropped, or neither.
func (v planView) With(what, id string) string {
	q := url.Values{}
	for name, x := range v.query {
		for _, y := range x {
			if y != id || name != "pin" && name != "drop" {
				q.Add(name, y)
			}
		}
	}
	if what != "" {
		q.Add(what, id)
	}
	return v.path + "?" + q.Encode()
}

// Pins are what is pinned and what is dropped, for the form that plans again.
func (v planView) Pins() [2][]string { return [2][]string{v.query["pin"], v.query["drop"]} }

// Dropped are the topics taken out by hand.
func (v planView) Dropped() []string { return v.query["drop"] }

// What serving a student is worth: all that can be said of a need, the most pressing first.
const (
	needMustPass = 3
	needNotYet   = 2
	needOpen     = 2
	needStale    = 1
	needNear     = 2 // a grading that tests the next rung is near
)

// planShow proposes what a class works on.
func (a *app) planShow(w http.ResponseWriter, r *http.Request) {
	ctx := r.Context()
	c, on, ok := a.heldSlot(w, r)
	if !ok {
		return
	}
	q := r.URL.Query()
	v := planView{Class: c, On: on, query: q, path: "/plan/" + c.ID + "/" + on.String(), Form: form{Values: url.Values{}}}
	p := &v.Form.Problems
	tonight := practice.Tonight{Minutes: p.Whole("minutes", q.Get("minutes"), 10, 300, c.Minutes), On: on, Theme: q.Get("theme"), Pinned: map[string]bool{}, Dropped: map[string]bool{}}
	for _, id := range q["pin"] {
		tonight.Pinned[id] = true
	}
	for _, id := range q["drop"] {
		tonight.Dropped[id] = true
	}
	chances, heard, err := a.store.Likely(ctx, c.ID, on)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	v.Unheard = !heard
	coming := map[string]bool{}
	for id, n := range chances {
		if n >= comesAtAll {
			coming[id] = true
		}
		v.Certain = v.Certain || n == 1000
	}
	climbs, err := a.store.ReadyOfStudents(ctx, coming, c.Programs)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	topics, sections, err := a.topics(r, climbs, chances, on)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	for _, x := range climbs {
		v.Coming = append(v.Coming, likely{x.Name, x.Rung.Short(), chances[x.StudentID] / 10})
	}
	v.Plan = practice.MakePlan(topics, tonight)
	v.Themes = []option{{"", "none"}}
	for _, s := range sections {
		v.Themes = append(v.Themes, option{s, s})
	}
	v.Form.Values = values("minutes", strconv.Itoa(tonight.Minutes), "theme", tonight.Theme)
	if len(*p) > 0 {
		v.Form.Values.Set("minutes", q.Get("minutes"))
	}
	status := http.StatusOK
	if len(*p) > 0 {
		status = http.StatusUnprocessableEntity
	}
	a.show(w, r, status, "", page{Screen: "plan", Title: "Plan for " + c.Name, Nav: "classes", Body: v})
}

// topics are what those who come still need, each with whom it serves and how much.
func (a *app) topics(r *http.Request, climbs []store.ReadyClimb, chances map[string]int, on civil.Date) (out []practice.Topic, sections []string, err error) {
	ctx := r.Context()
	at, taught, near := map[string]int{}, map[string]civil.Date{}, map[string]bool{}
	seen := map[string]bool{}
	for _, c := range climbs {
		if !seen[c.ProgramID] {
			seen[c.ProgramID] = true
			lately, err := a.store.TaughtSince(ctx, c.ProgramID, on.AddDays(-30))
			if err != nil {
				return nil, nil, err
			}
			for _, t := range lately {
				if t.On.Before(on) {
					taught[t.TechniqueID] = civil.Max(taught[t.TechniqueID], t.On)
				}
			}
		}
		if _, known := near[c.Next.ID]; !known {
			planned, err := a.store.PlannedFor(ctx, c.Next.ID, "")
			if err != nil {
				return nil, nil, err
			}
			near[c.Next.ID] = len(planned) > 0 && on.DaysTo(planned[0].On) <= 42
		}
		for _, it := range c.Items {
			worth, why := need(it, on)
			if worth == 0 {
				continue
			}
			if near[c.Next.ID] && it.Counts {
				worth += needNear
			}
			key := it.TechniqueID + "." + string(it.Role)
			i, there := at[key]
			if !there {
				i = len(out)
				at[key] = i
				place := slices.IndexFunc(c.Book.Sections, func(s curriculum.Section) bool { return s.ID == it.SectionID })
				out = append(out, practice.Topic{ID: key, Name: it.Call, Section: it.Section, Place: place, Kind: it.Kind, Minutes: practice.TopicMinutes(it.Kind), Cautions: it.Cautions, Taught: taught[it.TechniqueID]})
				if !slices.Contains(sections, it.Section) {
					sections = append(sections, it.Section)
				}
			}
			out[i].Serves = append(out[i].Serves, practice.Served{Student: c.StudentID, Name: c.Name, Rung: c.Next.Short(), Worth: worth * chances[c.StudentID], Why: why})
		}
	}
	return out, sections, nil
}

// need is how much one needs to work on something, and why.
func need(it progress.Item, on civil.Date) (worth int, why string) {
	switch {
	case it.Counts && !it.Done:
		worth, why = needOpen, "not signed off yet"
		if it.MustPass {
			worth, why = worth+needMustPass, "must pass"
		}
		if !it.NotYet.IsZero() {
			worth, why = worth+needNotYet, "tried, not right yet"
		}
	case it.Done && it.Freshness == curriculum.Carried && !it.Seen.IsZero() && it.Seen.DaysTo(on) >= progress.StaleDays:
		worth, why = needStale, "not seen for "+many(it.Seen.DaysTo(on)/7, "week")
	}
	return worth, why
}
