package progress

import (
	"cmp"
	"math"
	"slices"
	"sort"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/timetable"
)

// Climb is one way from a rung to the next as it is on record, for replaying. What can be given at any
// time (a paper, kit, a word) is no part of it: live forecasts take it as given too.
type Climb struct {
	Program string // students of one program share a usual pace
	Since   civil.Date
	Until   civil.Date        // the last day on record: of the promotion, of the end, or today
	From    civil.Date        // the day from which rules of date and age hold; zero: always
	Rules   []curriculum.Rule // of classes, sign-offs and stripes
	Waived  []WaivedOn
	Waits   []Wait // after retests

	Visits   []Visit      // classes attended, in order, also before Since
	Came     []civil.Date // their days
	Sections []SectionWay // what is asked, by section
	Signed   int          // requirements asked to be signed off in all
	SignOff  []civil.Date // days on which one of them was, in order
}

// Visit is a class that was attended, or held.
type Visit struct {
	On civil.Date
	Attendance
}

// WaivedOn is a rule that the owner waived.
type WaivedOn struct {
	Rule curriculum.RuleKind // its key
	On   civil.Date
}

// Wait is a retest that was announced on a day, not before another.
type Wait struct{ Told, From civil.Date }

// SectionWay is how the requirements of a section came to be signed off.
type SectionWay struct {
	ID      string
	Of      int
	Known   int          // of them that count as done and no day is on record for
	Done    []civil.Date // the others, in order, also before the climb began
	Striped bool         // a stripe is given for it
	Awarded civil.Date   // that stripe; zero: never
}

// Calendar is the timetable that climbs are replayed against.
type Calendar struct {
	Held       map[civil.Date]int // classes on the timetable in the week that begins on this Monday
	Ahead      timetable.Ahead    // every class ever on the timetable, by kind, in order
	Usual      int                // classes in a usual week
	Registered civil.Date         // the first day on which a register was kept
	Kept       []Visit            // classes held, by registers kept, in order
}

// CalendarOf reads the calendar of a program and track from a timetable, from a day to at least the
// horizon after another.
func CalendarOf(t timetable.Table, program, track string, from, to civil.Date) Calendar {
	c := Calendar{Held: map[civil.Date]int{}, Ahead: timetable.Ahead{}}
	for end := to.AddDays(timetable.Horizon); from.Before(end); from = from.AddDays(timetable.Horizon) {
		for kind, days := range t.Ahead(from, program, track) {
			c.Ahead[kind] = append(c.Ahead[kind], days...)
		}
	}
	perWeek := map[int]int{}
	for _, d := range c.Ahead[""] {
		c.Held[d.Monday()]++
	}
	for _, n := range c.Held {
		perWeek[n]++
	}
	for n, weeks := range perWeek {
		if weeks > perWeek[c.Usual] || weeks == perWeek[c.Usual] && n > c.Usual {
			c.Usual = n
		}
	}
	return c
}

// after is the timetable's classes after a day, up to the horizon.
func (c Calendar) after(d civil.Date) timetable.Ahead {
	out := timetable.Ahead{}
	for kind, days := range c.Ahead {
		out[kind] = days[before(days, d.AddDays(1)):before(days, d.AddDays(timetable.Horizon))]
	}
	return out
}

// before is the number of days in a sorted list that are earlier than one.
func before(list []civil.Date, d civil.Date) int {
	i, _ := slices.BinarySearchFunc(list, d, func(x, y civil.Date) int { return y.DaysTo(x) })
	return i
}

// PaceOf is a student's pace as known at the end of a day: whole weeks before the week of
// that day, none before the first day on record. asked is how many requirements the climb
// that began on since asks.
func PaceOf(came, signed []civil.Date, asked int, since, on civil.Date, held map[civil.Date]int) (p Pace) {
	if len(came) == 0 {
		return nil
	}
	last := on.Monday()
	week := civil.Max(last.AddDays(-7*PaceWeeks), came[0].Monday())
	for ; week.Before(last); week = week.AddDays(7) {
		next := week.AddDays(7)
		w := Week{Came: before(came, next) - before(came, week), Held: held[week]}
		if !week.Before(since.Monday()) {
			w.Signed = before(signed, next) - before(signed, week)
			w.Open = max(asked-before(signed, week), 0)
		}
		p = append(p, w)
	}
	return p
}

// visits are those from a day on and before another, by kind and mode.
func visits(all []Visit, from, before civil.Date) Attended {
	out := Attended{}
	i, _ := slices.BinarySearchFunc(all, from, func(x Visit, d civil.Date) int { return d.DaysTo(x.On) })
	for ; i < len(all) && all[i].On.Before(before); i++ {
		out[all[i].Attendance]++
	}
	return out
}

// evidence is what was on record about a climb at the end of a day.
func (c *Climb) evidence(on civil.Date, cal *Calendar) Evidence {
	end := on.AddDays(1)
	e := Evidence{Since: c.Since, Today: on, Registered: cal.Registered, Attended: visits(c.Visits, c.Since, end)}
	if slices.ContainsFunc(c.Rules, func(r curriculum.Rule) bool { return r.Kind == curriculum.ClassShare || r.Of != "" }) {
		e.Held = visits(cal.Kept, c.Since, end)
	}
	for _, w := range c.Waits {
		if !on.Before(w.Told) {
			e.RetestFrom = civil.Max(e.RetestFrom, w.From)
		}
	}
	for _, w := range c.Waived {
		if !on.Before(w.On) {
			if e.Waived == nil {
				e.Waived = map[curriculum.RuleKind]string{}
			}
			e.Waived[w.Rule] = "waived"
		}
	}
	for _, s := range c.Sections {
		e.Sections = append(e.Sections, SectionDone{ID: s.ID, Name: s.ID, Of: s.Of, Done: s.Known + before(s.Done, end)})
		if s.Striped {
			x := StripeState{SectionID: s.ID, Section: s.ID}
			if !s.Awarded.IsZero() && !on.Before(s.Awarded) {
				x.Awarded = s.Awarded
			}
			e.Stripes = append(e.Stripes, x)
		}
	}
	return e
}

func (c *Climb) shares() bool {
	return slices.ContainsFunc(c.Rules, func(r curriculum.Rule) bool { return r.Kind == curriculum.ClassShare })
}

// known is what a climb still needed at the end of a day, by the rules that hold today.
func (c *Climb) known(on civil.Date, cal *Calendar) Need {
	e := c.evidence(on, cal)
	e.Ahead = cal.after(on)
	n := NeedOf(Judge(c.Rules, e, on), e)
	n.From = civil.Max(n.From, c.From)
	return n
}

// ready reports whether nothing was missing at the end of a day, from which on the rules of date and age hold, that takes time: a stripe
// whose section is done counts as given.
func (c *Climb) ready(on civil.Date, cal *Calendar) bool {
	e := c.evidence(on, cal)
	e.Ahead = timetable.Ahead{}
	n := NeedOf(Judge(c.Rules, e, on), e)
	return len(n.Classes) == 0 && n.Signed == 0 && n.Never == nil && !on.Before(n.From)
}

// met is the first day on which everything was met; found is false where it never was while
// the climb is on record.
func (c *Climb) met(cal *Calendar) (d civil.Date, found bool) {
	first := civil.Max(c.Since, c.From)
	days := []civil.Date{first}
	note := func(on civil.Date) {
		if first.Before(on) && !c.Until.Before(on) {
			days = append(days, on)
		}
	}
	for _, on := range c.Came {
		note(on)
	}
	for _, on := range c.SignOff {
		note(on)
	}
	for _, s := range c.Sections {
		note(s.Awarded)
	}
	for _, w := range c.Waits {
		note(w.From)
	}
	for _, w := range c.Waived {
		note(w.On)
	}
	slices.SortFunc(days, func(x, y civil.Date) int { return y.DaysTo(x) })
	at := 0
	if c.shares() || len(c.Waits) > 0 { // what was met may be so no more
		at = slices.IndexFunc(days, func(on civil.Date) bool { return c.ready(on, cal) })
	} else if at = sort.Search(len(days), func(i int) bool { return c.ready(days[i], cal) }); at == len(days) {
		at = -1
	}
	if at < 0 || c.Until.Before(days[at]) {
		return c.Until, false
	}
	return days[at], true
}

// since is how many classes of a kind were attended since a day, up to the end of another; "" is any.
func (c *Climb) since(from, on civil.Date, of string) int {
	return visits(c.Visits, from, on.AddDays(1)).count(curriculum.Rule{Of: of})
}

// naive is the day a constant rate since the promotion leads to: the baseline.
func (c *Climb) naive(on civil.Date, need Need) civil.Date {
	weeks := max(float64(c.Since.DaysTo(on))/7, 1)
	d := civil.Max(on, need.From)
	goOn := func(lack, done int) {
		if lack > 0 {
			rate := max(float64(done), 0.5) / weeks
			d = civil.Max(d, on.AddDays(min(int(math.Ceil(7*float64(lack)/rate)), timetable.Horizon)))
		}
	}
	for _, x := range need.Classes {
		goOn(x.Lack, c.since(c.Since, on, x.Of))
	}
	goOn(need.Signed, before(c.SignOff, on.AddDays(1)))
	return d
}

// rivalBack is how many days back the rival looks.
const rivalBack = 12 * 7

// rival is the day that the own last twelve weeks lead to, walked along the timetable: the good
// simple way somebody reckons by hand. The share of the classes held that the student came to,
// and the sign-offs for each class attended, go on as they were.
func (c *Climb) rival(on civil.Date, need Need, cal *Calendar) civil.Date {
	from, end := civil.Max(on.AddDays(-rivalBack), c.Came[0]), on.AddDays(1)
	day := civil.Max(on, need.From)
	// walk goes on along the timetable for so many classes of a kind, at the share attended so far.
	walk := func(of string, classes float64) {
		days := cal.Ahead[check.Key(of)]
		held := before(days, end) - before(days, from)
		share := max(float64(c.since(from, on, of)), 1) / float64(max(held, 1))
		at := before(days, end) + int(math.Ceil(classes/share)) - 1
		if at >= len(days) {
			day = on.AddDays(timetable.Horizon)
		} else if classes > 0 {
			day = civil.Max(day, days[at])
		}
	}
	classes := 0.0
	for _, x := range need.Classes {
		if x.Of == "" {
			classes = max(classes, float64(x.Lack))
		} else {
			walk(x.Of, float64(x.Lack))
		}
	}
	if need.Signed > 0 {
		since := civil.Max(from, c.Since)
		signed, taught := before(c.SignOff, end)-before(c.SignOff, since), before(c.Came, end)-before(c.Came, since)
		if signed == 0 { // as since the promotion
			signed, taught = before(c.SignOff, end), before(c.Came, end)-before(c.Came, c.Since)
		}
		classes = max(classes, float64(need.Signed)*(float64(taught)+1)/(float64(signed)+0.5))
	}
	if classes > 0 {
		walk("", classes)
	}
	return earlier(day, on.AddDays(timetable.Horizon))
}

func earlier(x, y civil.Date) civil.Date {
	if y.Before(x) {
		return y
	}
	return x
}

// Report is how forecasts of the past held against what came.
type Report struct {
	Forecasts int // made for climbs that still lacked classes or sign-offs
	Came      int // of them those whose day came while on record
	Censored  int // and those that were still climbing, or had left, when the records end
	// Inside is the share of days that fell from early to late, in permille. Those whose day
	// did not come count as far as they were followed: the product-limit estimate of Kaplan
	// and Meier (J. Amer. Statist. Assoc. 53, 1958) over the forecast's own chance at the day, scaled so that
	// it is 0.1 at the end of the day before the early one and 0.9 on the late one.
	Inside       int
	Early, Late  int        // the shares before and after it, in permille
	Held         int        // of the forecasts those whose early day a rule of date or age gives: nobody can be before it
	EarlyFree    int        // the share before the early day of the others, in permille
	Error, Naive float64    // mean absolute error in days of the likely day and of the constant rate
	Rival        float64    // and of the own last twelve weeks on the timetable
	Tenths       []ChanceOf // of the chances given for 60 and 120 days ahead
	Brier        float64    // mean squared difference of chance and outcome: 0 is perfect, 0.25 a coin
}

// ChanceOf is what came of chances of about one size.
type ChanceOf struct {
	Told, Came float64 // mean chance told, and share that came true
	N          int
}

// replayEvery is the days between two days of which forecasts are made.
const replayEvery = 28

// Replay makes, for days of the past, the forecasts that the records of that day allowed and
// holds them against what came.
// It is long: one pass over all climbs that gathers every figure of the report.
func Replay(climbs []Climb, calendars map[string]Calendar) (r Report) {
	var first, last civil.Date
	for _, c := range climbs {
		if first.IsZero() || c.Since.Before(first) {
			first = c.Since
		}
		last = civil.Max(last, c.Until)
	}
	type end struct {
		day  civil.Date
		came bool
	}
	ends := make([]end, len(climbs))
	for i := range climbs {
		cal := calendars[climbs[i].Program]
		ends[i].day, ends[i].came = climbs[i].met(&cal)
	}
	var low, high, free []follow
	var tenths [10]ChanceOf
	judged, missed, missedNaive, missedRival := 0, 0.0, 0.0, 0.0
	for on := first.AddDays(8 * 7); on.Before(last); on = on.AddDays(replayEvery) {
		paces := map[string][]Pace{}
		var now []int
		var own []Pace
		for i := range climbs {
			c := &climbs[i]
			if c.Since.Before(on) && on.Before(c.Until) {
				p := PaceOf(c.Came[:before(c.Came, on.AddDays(1))], c.SignOff[:before(c.SignOff, on.AddDays(1))], c.Signed, c.Since, on, calendars[c.Program].Held)
				paces[c.Program] = append(paces[c.Program], p)
				now, own = append(now, i), append(own, p)
			}
		}
		prior := map[string]Prior{}
		for program, all := range paces {
			prior[program] = UsualPace(all, calendars[program].Usual)
		}
		for i, k := range now {
			c, day, came := &climbs[k], ends[k].day, ends[k].came
			if came && !on.Before(day) {
				continue
			}
			cal := calendars[c.Program]
			need := c.known(on, &cal)
			if len(need.Classes) == 0 && need.Signed == 0 || need.Never != nil {
				continue // dates alone decide, or no day is in sight
			}
			f := need.Foresee(own[i], prior[c.Program], cal.after(on), cal.Usual, on)
			if f.Early == f.Late && !f.Early.IsZero() {
				continue // a day, no span
			}
			r.Forecasts++
			low = append(low, follow{f.scaled(f.at(day), f.Early.AddDays(-1), f.Early, leftOut), came})
			high = append(high, follow{f.scaled(f.at(day.AddDays(-1)), f.Late, f.Late, 1-leftOut), came})
			if f.at(f.Early.AddDays(-1)) > 0 {
				free = append(free, low[len(low)-1])
			}
			if came {
				r.Came++
				likely := f.Likely
				if likely.IsZero() {
					likely = on.AddDays(timetable.Horizon)
				}
				missed += math.Abs(float64(day.DaysTo(likely)))
				missedNaive += math.Abs(float64(day.DaysTo(c.naive(on, need))))
				missedRival += math.Abs(float64(day.DaysTo(c.rival(on, need, &cal))))
			} else {
				r.Censored++
			}
			for _, days := range []int{60, 120} {
				then := on.AddDays(days)
				if !came && c.Until.Before(then) {
					continue // nobody knows
				}
				told, true1 := f.at(then), 0.0
				if came && !then.Before(day) {
					true1 = 1
				}
				t := &tenths[min(int(told*10), 9)]
				t.Told, t.Came, t.N = t.Told+told, t.Came+true1, t.N+1
				r.Brier += (told - true1) * (told - true1)
				judged++
			}
		}
	}
	if r.Forecasts == 0 {
		return r
	}
	early, late := below(low, leftOut+ulps), 1-below(high, 1-leftOut)
	r.Early, r.Late = int(math.Round(early*1000)), int(math.Round(late*1000))
	r.Inside = 1000 - r.Early - r.Late
	r.Held, r.EarlyFree = r.Forecasts-len(free), int(math.Round(below(free, leftOut+ulps)*1000))
	if r.Came > 0 {
		r.Error, r.Naive, r.Rival = missed/float64(r.Came), missedNaive/float64(r.Came), missedRival/float64(r.Came)
	}
	if judged > 0 {
		r.Brier /= float64(judged)
	}
	for _, t := range tenths {
		if t.N > 0 {
			t.Told, t.Came = t.Told/float64(t.N), t.Came/float64(t.N)
			r.Tenths = append(r.Tenths, t)
		}
	}
	return r
}

// follow is how far a forecast's chance had risen when its day came, or when the records
// end.
type follow struct {
	chance float64
	came   bool
}

// ulps is more than what rounding does to a chance, and less than any step of one.
const ulps = 1e-9

// scaled is a chance stretched on both sides of that on a day so that this becomes a figure. Where the span has no such end the chance
// stays as it is.
func (f *Forecast) scaled(chance float64, on, end civil.Date, figure float64) float64 {
	edge := f.at(on)
	switch {
	case end.IsZero():
		return chance
	case chance < edge:
		return chance * figure / edge
	case edge >= 1:
		return 1
	}
	return figure + (chance-edge)*(1-figure)/(1-edge)
}

// below is the product-limit estimate of the share whose chance was less than a figure when
// the day came.
func below(all []follow, figure float64) float64 {
	all = slices.Clone(all)
	slices.SortFunc(all, func(x, y follow) int {
		c := cmp.Compare(x.chance, y.chance)
		if c == 0 && x.came != y.came { // those that came first, as usual
			if x.came {
				return -1
			}
			return 1
		}
		return c
	})
	left := 1.0
	for i, x := range all {
		if x.chance >= figure {
			break
		}
		if x.came {
			left *= 1 - 1/float64(len(all)-i)
		}
	}
	return 1 - left
}

// DatesOf is the day from which the rules of date and age among some hold.
func DatesOf(rules []curriculum.Rule, e Evidence) (from civil.Date) {
	for _, r := range rules {
		switch r.Kind {
		case curriculum.MonthsSince, curriculum.DaysSince, curriculum.LeastAge:
			if _, waived := e.Waived[r.Key()]; !waived {
				from = civil.Max(from, judge(r, e, civil.Max(e.Since, e.Today)).Earliest)
			}
		}
	}
	return from
}
