package progress

import (
	"math"
	"slices"
	"sort"
	"strings"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/timetable"
)

// The figures of the forecast, chosen on generated schools (backtest_test.go, the seeds
// below 1000) and held against others.
const (
	forget     = 0.97 // what a week counts of the week after it
	ownWeeks   = 10.0 // weeks of the usual pace that a student's own history starts from
	ownClasses = 40.0 // classes of the usual pace of sign-offs to start from
	unruly     = 1.6  // how much less a class attended tells than one of a steady chance would
	lumpy      = 0.5  // what is left of the weight of a record that is entered in lumps
	weeksAway  = 3    // weeks with classes and without the student after which it is said
)

// Forecast says when all rules will be met.
type Forecast struct {
	Early, Likely, Late civil.Date // about one in ten are ready before, half by, and about one in ten after it; zero: beyond the horizon of the timetable
	PerWeek             float64    // classes expected in a usual week
	Drives              Drives     // what it hangs on
	Never               *Answer    // why there is none; nil there is one

	need   Need
	today  civil.Date
	model  pace
	sounds []float64 // by classes attended: the chance that all that is open is signed off
	ahead  timetable.Ahead
	usual  int
	fades  float64 // how much of the pace of today is left ahead
	open   float64 // the share of the classes on the timetable that are held, as the past weeks tell
	quiet  Quiet
}

// pace is the posterior of a student's classes a week, Gamma(shape, weeks).
type pace struct{ shape, weeks float64 }

// Foresee forecasts the first day on which a need is met.
//
// Classes attended in an exposure of E usual weeks are taken as Poisson with a rate that has
// a Gamma prior about the program's pace; each week of the student's own history is added to
// it, forgotten by a factor of forget a week (the discounted Gamma–Poisson model of West,
// Harrison and Migon, J. Amer. Statist. Assoc. 80, 1985), with attended classes counting
// 1/unruly of their number because people come in streaks. So the number that will be
// attended is negative binomial:
//
//	a = ownWeeks·p + Σ forget^age · came / unruly,  b = ownWeeks + Σ forget^age · E / unruly
//	P(N = n) = C(n+a−1, n) · (b/(b+E))^a · (E/(b+E))^n
//
// Sign-offs in n classes attended are negative binomial likewise, with a pace per class in units
// of what one open requirement brings: as the last ones come more slowly, m open ones count as
// Σ i^−Slowing over i = 1…m (see UsualPace).
// The chance of being ready on day t, not before the rules of date hold, is
//
//	F(t) = Σ over n ≥ lack of P(N(t) = n) · P(S(n) ≥ m)
//
// times the chance of each kind of class that is missing: its own pace is that of all classes, which
// counts like kindClasses of the kind, and those of the kind attended and held since the promotion.
// Where only some of what is open is asked, Signed is how many are signed off until those are among
// them (see untilAll). People come a little less as time goes on, by fades, and a share of drops of them
// only as dropped says: F is the mean of both. Weeks without classes have no
// exposure, so holidays neither count against a student nor bring a day nearer. Floating
// point is in order here: nothing is decided by it.
func (n Need) Foresee(p Pace, prior Prior, ahead timetable.Ahead, usual int, today civil.Date) Forecast {
	f := Forecast{need: n, today: today, ahead: ahead, usual: usual, Never: n.Never}
	a, b := ownWeeks*prior.PerWeek, ownWeeks
	classes := ownClasses * prior.Typical
	signed, away := classes*prior.PerClass, 0
	age := 1.0
	f.open, f.quiet = prior.Quiet.open(p), prior.Quiet
	if f.fades = fades; prior.Batched {
		f.fades = fadesBatched
	}
	p = p.without(prior.Quiet)
	if prior.Batched {
		p = p.spread()
	}
	for _, w := range slices.Backward(p) {
		a += age * float64(w.Came) / unruly
		b += age * exposure(w.Held, usual) / unruly
		if taught, open := w.taught(); taught > 0 {
			signed += age * float64(w.Signed)
			classes += age * taught * math.Pow(open, prior.Slowing)
		}
		age *= forget
	}
	for _, w := range slices.Backward(p) {
		if w.Came > 0 {
			break
		}
		if w.Held > 0 {
			away++
		}
	}
	// Batches and holidays that nobody entered tell less than a steady record would.
	if prior.Batched {
		signed, classes = signed*lumpy, classes*lumpy
	}
	if prior.Quiet.Holidays() > 0 {
		a, b = a*unsure, b*unsure
	}
	f.model = pace{max(a, 0.05), b}
	f.PerWeek = f.model.shape / f.model.weeks
	if n.Signed > 0 {
		f.signOffs(math.Max(signed, 0.05), classes, prior.Slowing)
	}
	f.Drives = f.drives(away, signed/classes*math.Pow(float64(n.Signed), prior.Slowing))
	if f.Never != nil {
		return f
	}
	f.Early, f.Likely, f.Late = f.span()
	return f
}

// People come a little less as time goes on than they did; batches of sign-offs hide what was shown since
// the last. A few drop the habit, which no record of theirs foretells: without them the late day is missed too
// often. Chosen on made-up schools of all habits and days of the demo that no test looks at.
const (
	fades        = 0.91
	fadesBatched = 1.25
	drops        = 0.05 // of those who come as they did, who soon come much less
	dropped      = 0.4  // what is left of their pace
	unsure       = 0.25 // what is left of the weight of weeks with holidays that nobody entered
)

// mostClasses is as many classes ahead as the sums go; a student who needs more is years away.
const mostClasses = 420

// signOffs fills in, by classes attended, the chance that all open requirements are signed off.
func (f *Forecast) signOffs(shape, classes, slowing float64) {
	m, open := 0.0, max(f.need.Open, f.need.Signed)
	for i := open - f.need.Signed + 1; i <= open; i++ {
		m += math.Pow(float64(i), -slowing)
	}
	faster := 1.0
	if m < 1 { // the first of many open ones comes sooner than one that is open alone
		m, faster = 1, 1/m
	}
	f.sounds = make([]float64, mostClasses+1)
	for n := 1; n <= mostClasses; n++ {
		// With a need that is no whole number the chance lies between its neighbours.
		low := atLeast(int(m), shape, classes, faster*float64(n))
		high := atLeast(int(m)+1, shape, classes, faster*float64(n))
		f.sounds[n] = low + (m-math.Floor(m))*(high-low)
		if f.sounds[n] > 0.9999 {
			for k := n; k <= mostClasses; k++ {
				f.sounds[k] = 1
			}
			break
		}
	}
}

// atLeast is P(N ≥ k) of a negative binomial count with Gamma(a, b) rate in an exposure.
func atLeast(k int, a, b, exposure float64) float64 {
	p := math.Exp(a * math.Log(b/(b+exposure)))
	q, below := exposure/(b+exposure), 0.0
	for n := range k {
		below += p
		p *= (float64(n) + a) / float64(n+1) * q
	}
	return max(1-below, 0)
}

// chance is F for an exposure per kind of class.
func (f *Forecast) chance(exposure func(of string) float64) float64 {
	lack := 0
	out := 1.0
	for _, c := range f.need.Classes {
		if c.Of == "" {
			lack = max(lack, c.Lack)
		} else {
			own := f.ofKind(c)
			out *= atLeast(c.Lack, own.shape, own.weeks, exposure(c.Of))
		}
	}
	if f.sounds == nil {
		if lack > 0 {
			out *= atLeast(lack, f.model.shape, f.model.weeks, exposure(""))
		}
		return out
	}
	e, a, b := exposure(""), f.model.shape, f.model.weeks
	p := math.Exp(a * math.Log(b/(b+e)))
	q, sum, seen := e/(b+e), 0.0, 0.0
	for n := 0; n <= mostClasses && seen < 0.99999; n++ {
		if n >= lack {
			if f.sounds[n] == 1 { // and so for all that are more
				sum += 1 - seen
				break
			}
			sum += p * f.sounds[n]
		}
		seen += p
		p *= (float64(n) + a) / float64(n+1) * q
	}
	return out * sum
}

// kindClasses is how many classes of a kind the own pace in all counts like, for the pace in that kind.
const kindClasses = 4

// ofKind is the pace in classes of one kind: as in all classes, until those of the kind say otherwise.
func (f *Forecast) ofKind(c ClassNeed) pace {
	if c.Held == 0 {
		return f.model
	}
	m := exposure(kindClasses, f.usual)
	return pace{m*f.model.shape/f.model.weeks + float64(c.Came)/unruly, m + exposure(c.Held, f.usual)/unruly}
}

// until is the exposure, in usual weeks, of the classes up to a day.
func (f *Forecast) until(d civil.Date) func(string) float64 {
	return func(of string) float64 {
		days := f.ahead[strings.ToLower(of)]
		n, _ := slices.BinarySearchFunc(days, d.AddDays(1), func(x, y civil.Date) int { return y.DaysTo(x) })
		return f.open * f.fades * exposure(n, f.usual)
	}
}

func (f *Forecast) waits() bool { return len(f.need.Classes) > 0 || f.need.Signed > 0 }

func (f *Forecast) first() civil.Date { return civil.Max(f.today, f.need.From) }

// at is F on a day.
func (f *Forecast) at(d civil.Date) float64 {
	switch {
	case f.Never != nil || d.Before(f.first()):
		return 0
	case !f.waits():
		return 1
	}
	e := f.until(d)
	return (1-drops)*f.chance(e) + drops*f.chance(func(of string) float64 { return dropped * e(of) })
}

// leftOut is the share that the early and the late day each leave out.
const leftOut = 0.1

// span is the early, the likely and the late day. F rises only with classes, by steps that can be large, so of the two days around
// the step the early one is that before which the share nearest to leftOut is ready, and the late one that after which it is.
func (f *Forecast) span() (early, likely, late civil.Date) {
	first, days := f.first(), f.ahead[""]
	from, _ := slices.BinarySearchFunc(days, first.AddDays(1), func(x, y civil.Date) int { return y.DaysTo(x) })
	days = days[from:] // with the first day before them, all on which F rises
	on := func(i int) civil.Date {
		if i == 0 {
			return first
		}
		return days[i-1]
	}
	chance := func(i int) float64 {
		if i < 0 {
			return 0
		}
		return f.at(on(i))
	}
	reaches := func(q float64) int {
		return sort.Search(len(days)+1, func(i int) bool { return chance(i) >= q })
	}
	if i := reaches(leftOut); i <= len(days) {
		next := i + 1
		for next <= len(days) && on(next) == on(i) { // two classes on a day
			next++
		}
		if early = on(i); next <= len(days) && chance(i)-leftOut < leftOut-chance(i-1) {
			early = on(next)
		}
	}
	if i := reaches(0.5); i <= len(days) {
		likely = on(i)
	}
	if i := reaches(1 - leftOut); i <= len(days) {
		if i > 0 && 1-leftOut-chance(i-1) < chance(i)-(1-leftOut) {
			i--
		}
		late = on(i)
	}
	return early, likely, late
}

// Chance is the chance of being ready on a day, in percent, rounded down; 0 and 100 only
// where the rules leave no doubt.
func (f *Forecast) Chance(d civil.Date) int {
	p := f.at(d)
	if f.Never != nil || d.Before(f.first()) {
		return 0
	}
	if !f.waits() {
		return 100
	}
	return min(max(int(p*100), 1), 99)
}

// Drives is what a forecast hangs on.
type Drives struct {
	Never     *Answer     // why there is none
	Classes   []ClassNeed // still to come
	PerWeek   float64     // classes expected in a usual week
	Signed    int         // requirements to be signed off
	PerTen    float64     // of them, in ten classes
	NotBefore civil.Date  // by the rules of date and age; zero: they hold
	Stopped   int         // weeks, the last ones, of which no register shows anybody; 0: too few to tell
	Holidays  int         // weeks of the last months in which nobody came though classes stand on the timetable; 0: too few
	Away      int         // weeks with classes in which this student did not come; 0: too few
}

// Nothing reports whether neither days nor classes nor sign-offs are missing.
func (d Drives) Nothing() bool {
	return d.Never == nil && len(d.Classes) == 0 && d.Signed == 0 && d.NotBefore.IsZero()
}

// fewWeeks is how many weeks without anybody may be chance.
const fewWeeks = 2

func (f *Forecast) drives(away int, perClass float64) Drives {
	d := Drives{Never: f.Never, Classes: f.need.Classes, PerWeek: f.PerWeek, Signed: f.need.Signed, PerTen: perClass * 10}
	if f.today.Before(f.need.From) {
		d.NotBefore = f.need.From
	}
	if d.Never != nil || d.Nothing() {
		return d
	}
	switch stopped, missing := f.quiet.Stopped(), f.quiet.Holidays(); {
	case stopped >= fewWeeks:
		d.Stopped = stopped
	case missing >= fewWeeks:
		d.Holidays = missing
	}
	if away >= weeksAway && f.quiet.Stopped() == 0 {
		d.Away = away
	}
	return d
}
