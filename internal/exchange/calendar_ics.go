package exchange

import (
	"io"
	"time"

	ics "github.com/arran4/golang-ical"

	"velvetladder/internal/core/civil"
)

// Event is an entry of a calendar. With Day it takes the whole day and From and To are not read.
type Event struct {
	ID                 string // permanent
	Title, Place, Text string
	Day                civil.Date // zero: it has times
	From, To           time.Time
}

// WriteCalendar writes events as an iCalendar file (RFC 5545): instants in UTC, so that every calendar shows them
// right whatever zones it knows, lines folded at 75 octets and ended as the format wants. stamp is the instant it
// is made.
func WriteCalendar(w io.Writer, name string, events []Event, stamp time.Time) error {
	c := ics.NewCalendarFor("Velvet Ladder")
	c.SetMethod(ics.MethodPublish)
	c.SetName(name)
	c.SetXWRCalName(name)
	for _, x := range events {
		e := c.AddEvent(x.ID + "@velvetladder.invalid")
		e.SetDtStampTime(stamp.UTC())
		e.SetSummary(x.Title)
		if x.Place != "" {
			e.SetLocation(x.Place)
		}
		if x.Text != "" {
			e.SetDescription(x.Text)
		}
		if !x.Day.IsZero() {
			e.SetAllDayStartAt(x.Day.At(0, time.UTC))
			e.SetAllDayEndAt(x.Day.AddDays(1).At(0, time.UTC))
			continue
		}
		e.SetStartAt(x.From.UTC())
		e.SetEndAt(x.To.UTC())
	}
	_, err := io.WriteString(w, c.Serialize(ics.WithNewLineWindows))
	return err
}
