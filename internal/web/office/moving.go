package office

import (
	"bytes"
	"fmt"
	"net/http"
	"slices"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/exchange"
	"velvetladder/internal/web/frame"
)

// calendarAhead is how many days of classes the calendar holds: half a year.
const calendarAhead = 182

// calendarFile is the classes of the next half-year and all gradings to come, as a calendar. Names of people are not in
// it.
func (ch *chapter) calendarFile(w http.ResponseWriter, r *http.Request) {
	ctx := r.Context()
	name, err := ch.records.School(ctx)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	table, err := ch.records.Timetable(ctx)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	gradings, err := ch.records.Gradings(ctx, "")
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	hours, err := ch.records.PlannedHours(ctx)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	today, zone := ch.records.Today(), ch.records.Zone()
	var events []exchange.Event
	for i := range calendarAhead {
		day := today.AddDays(i)
		for _, s := range table.On(day) {
			if s.Off {
				continue
			}
			from, to, _ := s.Instants(day, zone)
			events = append(events, exchange.Event{ID: "class-" + s.Class.ID + "-" + day.String(), Title: s.Class.Name, Place: s.Class.Place, From: from, To: to})
		}
	}
	slices.Reverse(gradings)
	for _, g := range gradings {
		if g.On.Before(today) {
			continue
		}
		e := exchange.Event{ID: "grading-" + g.ID, Title: g.Title(), Place: g.Place, Day: g.On, Text: "For " + g.RungWords() + ". " + fmt.Sprintf("%d candidates.", g.Candidates)}
		if h, planned := hours[g.ID]; planned {
			e.Day, e.From, e.To = civil.Date{}, g.On.At(h.From, zone), g.On.At(h.To, zone)
		}
		events = append(events, e)
	}
	var out bytes.Buffer
	if err := exchange.WriteCalendar(&out, name, events, ch.records.Now().Truncate(time.Second)); err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "text/calendar; charset=utf-8", name+".ics", out.Bytes())
}

// schoolFile is the whole school as JSON lines. It is sent as it is read.
func (ch *chapter) schoolFile(w http.ResponseWriter, r *http.Request) {
	name, err := ch.records.School(r.Context())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "application/jsonl", name+" "+ch.records.Today().String()+".jsonl", nil)
	if err := ch.records.ExportSchool(r.Context(), w); err != nil {
		ch.Log.Error("a school's file was broken off", "error", err)
		panic(http.ErrAbortHandler) // so that nobody takes half a file for a whole one
	}
}
