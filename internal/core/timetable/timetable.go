// Package timetable is a school's week: which classes are held on which day, and which are
// not.
package timetable

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
)

// Mode says how somebody took part in a class.
type Mode string

// The modes.
const (
	Hall     Mode = "hall"
	Live     Mode = "live"     // online, while it was held
	Recorded Mode = "recorded" // watched afterwards
)

// Modes are the choices.
var Modes = []Mode{Hall, Live, Recorded}

// Words is the mode as people say it.
func (m Mode) Words() string {
	return map[Mode]string{Hall: "in the hall", Live: "live online", Recorded: "from a recording"}[m]
}

// WeekdayNames are Monday to Sunday.
var WeekdayNames = []string{"Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"}

// midnight is the minutes of a day.
const midnight = 24 * 60

// Class is held every week from a day to a day. A class held once begins and ends on the
// same day.
type Class struct {
	ID       string
	Name     string
	Kind     string     // the school's word: general, sparring, forms …
	Weekday  int        // 1 Monday to 7 Sunday
	Start    int        // minutes after midnight, 0 to 1439
	Minutes  int        // 5 to 720; a class over midnight belongs to the day on which it begins
	From, To civil.Date // inclusive; zero: no end
	Programs []string   // ids; none: all
	Tracks   []string   // ids; none: all
	Place    string
}

// Check notes what is wrong with a class.
func (c Class) Check() check.Problems {
	var p check.Problems
	p.Name("name", c.Name)
	p.Name("kind", c.Kind)
	p.Line("place", c.Place, check.NameLength)
	if c.Weekday < 1 || c.Weekday > 7 {
		p.Add("weekday", "is not chosen; choose a day of the week")
	}
	if c.Start < 0 || c.Start >= midnight {
		p.Add("start", "is not a time of day; write it as 18:30")
	}
	if c.Minutes < 5 || c.Minutes > 720 {
		p.Add("minutes", "is %d; a class lasts from 5 to 720 minutes", c.Minutes)
	}
	if c.From.IsZero() {
		p.Add("from", "is empty; write the first day of this class")
	} else if !c.To.IsZero() && c.To.Before(c.From) {
		p.Add("to", "%s is before %s, the first day", c.To.Long(), c.From.Long())
	} else if c.Weekday >= 1 && c.Weekday <= 7 && !c.To.IsZero() && c.To.Before(c.first()) {
		p.Add("to", "no %s lies between %s and %s", WeekdayNames[c.Weekday-1], c.From.Long(), c.To.Long())
	}
	return p
}

var (
	makeUpWords = regexp.MustCompile(`(?i)\b(?:make|catch)[- ]?ups?\b`)
	onlineWords = regexp.MustCompile(`(?i)\b(?:online|livestream|live stream|video call)\b`)
)

// MakesUp reports whether a class is there for what was missed, by its name or its kind: a make-up or
// a catch-up class.
func (c Class) MakesUp() bool { return makeUpWords.MatchString(c.Name + ", " + c.Kind) }

// Online reports whether a class is held online, by its name, its kind or its place.
func (c Class) Online() bool { return onlineWords.MatchString(c.Name + ", " + c.Kind + ", " + c.Place) }

func (c Class) first() civil.Date { return c.From.AddDays((c.Weekday - c.From.Weekday() + 7) % 7) }

// HeldOn reports whether the class is on the timetable of a day, closures aside.
func (c Class) HeldOn(d civil.Date) bool {
	return d.Weekday() == c.Weekday && !d.Before(c.From) && (c.To.IsZero() || !c.To.Before(d))
}

// For reports whether the class is for a program and a track; "" is any.
func (c Class) For(program, track string) bool {
	in := func(list []string, id string) bool { return id == "" || len(list) == 0 || slices.Contains(list, id) }
	return in(c.Programs, program) && in(c.Tracks, track)
}

// Clock is a time of day as people write it: 18:30.
func Clock(minute int) string {
	return fmt.Sprintf("%02d:%02d", minute/60%24, minute%60)
}

var clockPattern = regexp.MustCompile(`^(?:(\d{1,2})[:.](\d{2})|(\d{2})(\d{2})|(\d{1,2})) ?([ap]\.?m\.?)?$`)

// ParseClock reads a time of day as people write it: 18:30, 18.30, 1830, 9:05, 6.30 pm, 6pm. An
// hour alone says am or pm.
func ParseClock(s string) (minute int, err error) {
	m := clockPattern.FindStringSubmatch(strings.ToLower(strings.TrimSpace(s)))
	if m != nil {
		h, _ := strconv.Atoi(m[1] + m[3] + m[5])
		minutes, _ := strconv.Atoi(m[2] + m[4])
		half := m[6] != ""
		if half && h >= 1 && h <= 12 {
			if h %= 12; m[6][0] == 'p' {
				h += 12
			}
		} else if half {
			h = 24
		}
		if h <= 23 && minutes <= 59 && (half || m[5] == "") {
			return h*60 + minutes, nil
		}
	}
	return 0, fmt.Errorf("%q is not a time of day; write it as 18:30, from 00:00 to 23:59, or 6.30 pm", s)
}

// NextOn is the first day of a class's weekday from a day on, within its own first and last day;
// that day where it is over.
func (c Class) NextOn(day civil.Date) civil.Date {
	on := civil.Max(day, c.From)
	on = on.AddDays((c.Weekday - on.Weekday() + 7) % 7)
	if !c.To.IsZero() && c.To.Before(on) {
		return day
	}
	return on
}

// Hours is the span of a class: "18:30–19:30", "23:30–00:30 next day".
func (c Class) Hours() string {
	end := c.Start + c.Minutes
	words := Clock(c.Start) + "–" + Clock(end)
	if end > midnight {
		words += " next day"
	}
	return words
}

// Instants are the beginning and the end on a day in a zone. The length is real minutes, so
// that a class over a change of the clock is neither longer nor shorter. skipped reports
// that the clock goes forward over the written beginning.
func (c Class) Instants(d civil.Date, zone *time.Location) (begin, end time.Time, skipped bool) {
	begin = d.At(c.Start, zone)
	return begin, begin.Add(time.Duration(c.Minutes) * time.Minute), begin.Hour()*60+begin.Minute() != c.Start
}

// Closure is a class, or every class, that is not held from a day to a day.
type Closure struct {
	ID       string
	ClassID  string // "": all of them
	From, To civil.Date
	Reason   string
}

// Check notes what is wrong with a closure.
func (c Closure) Check() check.Problems {
	var p check.Problems
	if c.From.IsZero() {
		p.Add("from", "is empty; write the first day without classes")
	} else if c.To.Before(c.From) {
		p.Add("to", "%s is before %s, the first day", c.To.Long(), c.From.Long())
	} else if c.From.DaysTo(c.To) > 400 {
		p.Add("to", "makes a closure of more than a year; end the classes instead")
	}
	if c.Reason == "" {
		p.Add("reason", "is empty; say why, for example “Summer holiday”")
	}
	p.Line("reason", c.Reason, check.NameLength)
	return p
}

// Table is a school's timetable.
type Table struct {
	Classes  []Class
	Closures []Closure
}

// Slot is a class on a day.
type Slot struct {
	Class
	On     civil.Date
	Off    bool   // it is not held
	Closed string // why
}

// On are the classes of a day by time of day, with those that are closed.
func (t Table) On(d civil.Date) (out []Slot) {
	for _, c := range t.Classes {
		if c.HeldOn(d) {
			s := Slot{Class: c, On: d}
			s.Closed, s.Off = t.closed(c.ID, d)
			out = append(out, s)
		}
	}
	slices.SortStableFunc(out, func(x, y Slot) int { return cmp.Or(cmp.Compare(x.Start, y.Start), cmp.Compare(x.Name, y.Name)) })
	return out
}

func (t Table) closed(class string, d civil.Date) (why string, closed bool) {
	for _, c := range t.Closures {
		if (c.ClassID == "" || c.ClassID == class) && !d.Before(c.From) && !c.To.Before(d) {
			return c.Reason, true
		}
	}
	return "", false
}

// Ahead are the days of the classes to come, by check.Key of the kind and under "" all of them, in order; a
// day stands as often as classes are held on it.
type Ahead map[string][]civil.Date

// Horizon is how far ahead days are looked up: three years, beyond which nobody plans.
const Horizon = 3 * 366

// Ahead looks up the classes of a program and a track from a day on.
func (t Table) Ahead(from civil.Date, program, track string) Ahead {
	out := Ahead{}
	byDay := [8][]Class{}
	for _, c := range t.Classes {
		if c.For(program, track) {
			byDay[c.Weekday] = append(byDay[c.Weekday], c)
		}
	}
	d, day := from, from.Weekday()
	for range Horizon {
		for _, c := range byDay[day] {
			if !c.HeldOn(d) {
				continue
			}
			if _, closed := t.closed(c.ID, d); !closed {
				out[""] = append(out[""], d)
				out[check.Key(c.Kind)] = append(out[check.Key(c.Kind)], d)
			}
		}
		d, day = d.AddDays(1), day%7+1
	}
	return out
}

// Nth is the day of the n-th class to come of a kind, n from 1; none where so many are not
// on the timetable.
func (a Ahead) Nth(kind string, n int) (d civil.Date, found bool) {
	if days := a[check.Key(kind)]; n >= 1 && n <= len(days) {
		return days[n-1], true
	}
	return civil.Date{}, false
}
