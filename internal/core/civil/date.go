// Package civil holds dates as a school's calendar has them: a day, no clock, no zone.
package civil

import (
	"errors"
	"fmt"
	"time"
)

// Date is a day of the Gregorian calendar. The zero value is no date.
type Date struct{ t time.Time }

// ErrDate is wrapped by every error of Parse.
var ErrDate = errors.New("not a date")

// Parse reads YYYY-MM-DD, from 1900 to 2199.
func Parse(s string) (Date, error) {
	t, err := time.Parse("2006-01-02", s)
	if err != nil {
		return Date{}, fmt.Errorf("%w: %q; write it as YYYY-MM-DD, for example 2016-04-30", ErrDate, s)
	}
	if t.Year() < 1900 || t.Year() > 2199 {
		return Date{}, fmt.Errorf("%w this school can use: %q; the year must be from 1900 to 2199", ErrDate, s)
	}
	return Date{t}, nil
}

// MustParse is Parse for dates written in the program itself.
func MustParse(s string) Date {
	d, err := Parse(s)
	if err != nil {
		panic(err)
	}
	return d
}

// On is the civil date of an instant in the instant's own zone.
func On(t time.Time) Date {
	y, m, d := t.Date()
	return Date{time.Date(y, m, d, 0, 0, 0, 0, time.UTC)}
}

// IsZero reports whether there is no date.
func (d Date) IsZero() bool { return d.t.IsZero() }

// String is YYYY-MM-DD, or "" for no date.
func (d Date) String() string {
	if d.IsZero() {
		return ""
	}
	return d.t.Format("2006-01-02")
}

// MarshalText is String.
func (d Date) MarshalText() ([]byte, error) { return []byte(d.String()), nil }

// UnmarshalText reads what Parse reads; "" is no date.
func (d *Date) UnmarshalText(text []byte) (err error) {
	if *d = (Date{}); len(text) > 0 {
		*d, err = Parse(string(text))
	}
	return err
}

// Long is for people: "Sat 12 Dec 2026".
func (d Date) Long() string {
	if d.IsZero() {
		return ""
	}
	return d.t.Format("Mon 2 Jan 2006")
}

// Short is "12 Dec".
func (d Date) Short() string {
	if d.IsZero() {
		return ""
	}
	return d.t.Format("2 Jan")
}

// Full is as printed papers have it: "12 December 2026".
func (d Date) Full() string {
	if d.IsZero() {
		return ""
	}
	return d.t.Format("2 January 2006")
}

// MonthYear is "Dec 2026".
func (d Date) MonthYear() string { return d.t.Format("Jan 2006") }

// Before reports whether d is an earlier day than e.
func (d Date) Before(e Date) bool { return d.t.Before(e.t) }

// AddDays is n days later.
func (d Date) AddDays(n int) Date { return Date{d.t.AddDate(0, 0, n)} }

// AddMonths is n months later, on the last day of a month that is too short.
func (d Date) AddMonths(n int) Date {
	y, m, day := d.t.Date()
	first := time.Date(y, m+time.Month(n), 1, 0, 0, 0, 0, time.UTC)
	last := first.AddDate(0, 1, -1).Day()
	return Date{first.AddDate(0, 0, min(day, last)-1)}
}

// FirstOfMonth is the first day of d's month.
func (d Date) FirstOfMonth() Date { return d.AddDays(1 - d.t.Day()) }

// DaysTo is the number of days from d to e, below 0 when e is earlier.
func (d Date) DaysTo(e Date) int { return int(e.t.Sub(d.t) / (24 * time.Hour)) }

// Age is the number of full years from the birth date d to the day on; one born on
// 29 February has the birthday on 1 March of a common year.
func (d Date) Age(on Date) int {
	y, m, day := d.t.Date()
	birthday := time.Date(on.t.Year(), m, day, 0, 0, 0, 0, time.UTC)
	years := on.t.Year() - y
	if on.t.Before(birthday) {
		years--
	}
	return years
}

// Weekday is 1 for Monday to 7 for Sunday.
func (d Date) Weekday() int { return (int(d.t.Weekday())+6)%7 + 1 }

// Monday is the first day of d's week.
func (d Date) Monday() Date { return d.AddDays(1 - d.Weekday()) }

// At is the instant of a time of day, in minutes after midnight, on d in a zone. Where the
// clock goes forward over it, it is as much later as the clock skips; where the clock goes
// back, the first of the two.
func (d Date) At(minute int, zone *time.Location) time.Time {
	y, m, day := d.t.Date()
	return time.Date(y, m, day, minute/60, minute%60, 0, 0, zone)
}

// Max is the later of two dates; no date is before every other.
func Max(a, b Date) Date {
	if a.Before(b) {
		return b
	}
	return a
}
