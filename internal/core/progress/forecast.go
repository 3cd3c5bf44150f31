package progress

import (
	"math"
	"slices"
	"sort"
	"strings"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/timetable"
)

// Week is what one week held for a student.
type Week struct {
	Came   int // classes attended
	Held   int // classes held for the program and track; 0 in a holiday
	Signed int // requirements signed off
	Open   int // requirements that were open when the week began
}

// PaceWeeks is how many weeks back a student's pace is read; what is older no longer tells.
const PaceWeeks = 40

// Pace is how a student has been coming, oldest week first, at most PaceWeeks of them.
type Pace []Week

// Prior is the usual pace of a program, to which a short history is shrunk.
type Prior struct {
	PerWeek  float64 // classes in a week in which all usual classes are held
	PerClass float64 // requirements signed off in a class attended, while one is open
	Slowing  float64 // the pace of sign-offs goes with the number still open, to this power
	Typical  float64 // the mean of that power, over classes attended with something open
	Batched  bool    // sign-offs are entered in batches, at the month's end say
	Quiet    Quiet   // weeks with classes on the timetable to which nobody came
}

// The figures of the forecast, chosen on generated schools (backtest_test.go, the seeds
// below 1000) and held against others.
const (
	forget      = 0.97 // what a week counts of the week after it
	ownWeeks    = 10.0 // weeks of the usual pace that a student's own history starts from
	ownClasses  = 40.0 // classes of the usual pace of sign-offs to start from
	unruly      = 1.6  // how much less a class attended tells than one of a steady chance would
	lumpy       = 0.5  // what is left of the weight of a record that is entered in lumps
	weeksAway   = 3    // weeks with classes and without the student after which it is said
	usualCame   = 1.4  // classes a week where nothing is known of anybody
	usualSigned = 0.35 // sign-offs a class where nothing is known
)

// slowings are the powers tried: from a pace that stays the same to one that goes with what is
// open, as where every requirement has its own small chance in each class, and on to where the last ones are the hardest.
var slowings = [7]float64{0, 0.25, 0.5, 0.75, 1, 1.25, 1.5}

// UsualPace is a program's pace over all its students. Sign-offs in a week with so many classes
// attended and so many requirements open are taken as Poisson with the mean
// PerClass · came · open^Slowing. The power is the mean of those tried, each weighted by how likely it makes the record, given how
// many each student was signed off in all: the quick and the slow must not look like early and late.
func UsualPace(all []Pace, usual int) Prior {
	all, silent, batches := asRead(all)
	var came, weeks, signed, taught float64
	var fit [len(slowings)]float64 // the log-likelihood, by power
	for _, p := range all {
		var own [len(slowings)]float64
		ownSigned := 0.0
		for _, w := range p {
			came += float64(w.Came)
			weeks += exposure(w.Held, usual)
			classes, open := w.taught()
			if classes == 0 {
				continue
			}
			ownSigned += float64(w.Signed)
			taught += classes
			log := math.Log(open)
			for i, power := range slowings {
				own[i] += classes * math.Exp(power*log)
				fit[i] += float64(w.Signed) * power * log
			}
		}
		signed += ownSigned
		for i := range slowings {
			if ownSigned > 0 {
				fit[i] -= ownSigned * math.Log(own[i])
			}
		}
	}
	// A few weeks of the figures above keep a program that has just begun from extremes.
	out := Prior{PerWeek: (came + usualCame*4) / (weeks + 4), PerClass: usualSigned, Typical: 1, Batched: batches, Quiet: silent}
	if taught == 0 {
		return out
	}
	likeliest, sum := slices.Max(fit[:]), 0.0
	for i, power := range slowings {
		weight := math.Exp(fit[i] - likeliest)
		sum += weight
		out.Slowing += weight * power
	}
	out.Slowing /= sum
	exposed := 0.0 // Σ came · open^power
	for _, p := range all {
		for _, w := range p {
			if classes, open := w.taught(); classes > 0 {
				exposed += classes * math.Pow(open, out.Slowing)
			}
		}
	}
	out.Typical = exposed / taught
	out.PerClass = (signed + usualSigned*10) / (exposed + 10*out.Typical)
	return out
}

// asRead are the paces of a program without the weeks that were quiet, and with what was entered
// in batches given to the weeks in which it was shown.
func asRead(all []Pace) (out []Pace, silent Quiet, batches bool) {
	silent = quiet(all)
	for _, p := range all {
		out = append(out, p.without(silent))
	}
	if batches = batched(out); batches {
		for i, p := range out {
			out[i] = p.spread()
		}
	}
	return out, silent, batches
}

// What counts as entering in batches: of the weeks with classes at most so many in a hundred hold all the sign-offs, of which there are
// some, and at most so many in a hundred of those that would if each student's weeks with sign-offs fell as they may: in a small
// school many weeks have none.
const (
	batchWeeks  = 45
	batchChance = 60
	batchLeast  = 20
	batchBack   = 6 // weeks that a batch is spread over, at most
)

// batched reports whether a program's sign-offs are entered in batches. Paces end with the same
// week.
func batched(all []Pace) bool {
	var signed, held [PaceWeeks]int
	total, students := 0, 0 // students: their weeks with sign-offs, one by one
	for _, p := range all {
		for i, w := range p {
			at := len(p) - 1 - i
			if at >= PaceWeeks {
				continue
			}
			signed[at] += w.Signed
			held[at] = max(held[at], w.Held)
			if total += w.Signed; w.Signed > 0 {
				students++
			}
		}
	}
	with, of := 0, 0
	for i := range signed {
		if held[i] > 0 {
			of++
			if signed[i] > 0 {
				with++
			}
		}
	}
	if total < batchLeast || 100*with > batchWeeks*of {
		return false
	}
	scattered := float64(of) * (1 - math.Pow(1-1/float64(of), float64(students)))
	return 100*float64(with) <= batchChance*scattered
}

// spread gives what was signed off in a batch to the weeks since the batch before, as the student
// came: that is when it was shown.
func (p Pace) spread() Pace {
	out := slices.Clone(p)
	for i := range out {
		total := p[i].Signed
		if total == 0 {
			continue
		}
		from := i
		for from > 0 && i-from < batchBack-1 && p[from-1].Signed == 0 && p[from-1].Open > 0 {
			from--
		}
		came := 0
		for k := from; k <= i; k++ {
			came += p[k].Came
		}
		if came == 0 || from == i {
			continue
		}
		open, given, so := out[from].Open, 0, 0
		for k := from; k <= i; k++ {
			so += p[k].Came
			part := (total*so+came/2)/came - given
			out[k].Signed, out[k].Open = part, max(open-given, 0)
			given += part
		}
	}
	return out
}

// Quiet are weeks, the last whole one first, in which classes stood on the timetable and nobody of
// the program came: a holiday that nobody entered, or registers that were not kept.
type Quiet [PaceWeeks]bool

// fewest is how many students a program has to have before their absence tells anything.
const fewest = 4

func quiet(all []Pace) (out Quiet) {
	var came, held, students [PaceWeeks]int
	for _, p := range all {
		for i, w := range p {
			if at := len(p) - 1 - i; at < PaceWeeks {
				came[at] += w.Came
				held[at] = max(held[at], w.Held)
				students[at]++
			}
		}
	}
	for i := range out {
		out[i] = held[i] > 0 && came[i] == 0 && students[i] >= fewest
	}
	return out
}

// Stopped is how many weeks up to now were quiet: registers may have stopped.
func (q Quiet) Stopped() (n int) {
	for n < PaceWeeks && q[n] {
		n++
	}
	return n
}

// Holidays is how many weeks were quiet before somebody came again: holidays that the timetable
// does not have.
func (q Quiet) Holidays() (n int) {
	for _, is := range q[q.Stopped():] {
		if is {
			n++
		}
	}
	return n
}

// open is the share of the weeks with classes on the timetable in which some were held, of those
// a pace goes back to.
func (q Quiet) open(p Pace) float64 {
	held, were := 0.0, 0.0
	for i, w := range p {
		if at := len(p) - 1 - i; at >= q.Stopped() && at < PaceWeeks && w.Held > 0 {
			if held++; !q[at] {
				were++
			}
		}
	}
	if q.Holidays() == 0 || held == 0 {
		return 1
	}
	return (were + 4) / (held + 4) // a few weeks as they should be keep a short history from extremes
}

// without is a pace in which nothing was held in the weeks that were quiet.
func (p Pace) without(q Quiet) Pace {
	if q == (Quiet{}) {
		return p
	}
	out := slices.Clone(p)
	for i := range out {
		if at := len(out) - 1 - i; at < PaceWeeks && q[at] {
			out[i].Held = 0
		}
	}
	return out
}

// taught is in how many classes of a week something could be signed off, and how much was open
// meanwhile. Where the last one was signed off it was, taking the middle, half way through.
func (w Week) taught() (classes, open float64) {
	if w.Open == 0 {
		return 0, 0
	}
	classes, open = float64(w.Came), float64(w.Open)-float64(min(w.Signed, w.Open))/2
	if w.Signed >= w.Open {
		classes /= 2
	}
	return classes, open
}

func exposure(held, usual int) float64 { return float64(held) / float64(max(usual, 1)) }

// Need is what still stands between a student and a test.
type Need struct {
	From    civil.Date // the day from which the rules of date and age hold; zero: they do
	Classes []ClassNeed
	Signed  int     // requirements to be signed off, in all, until those asked are among them
	Open    int     // that are not signed off yet; 0: as many as Signed
	Never   *Answer // why no day is in sight; nil one is
}

// ClassNeed is a number of classes that are missing.
type ClassNeed struct {
	Of   string // kind; "" any
	Lack int    // at least 1
	Came int    // of that kind, since the last promotion
	Held int    // and held; 0: not known
}

// NeedOf reads from a verdict what is missing. Evidence that can be given at any time (a
// paper, kit, a word) is taken as given.
func NeedOf(v Verdict, e Evidence) (n Need) {
	all := 0
	var open, striped []part
	for _, s := range e.Sections {
		all += s.Of - s.Done
		open = append(open, part{s.Of - s.Done, s.Of - s.Done})
		striped = append(striped, part{0, s.Of - s.Done})
		for _, x := range e.Stripes {
			if x.SectionID == s.ID && x.Awarded.IsZero() {
				striped[len(striped)-1].lack = s.Of - s.Done
			}
		}
	}
	sign := func(parts []part) {
		if k := untilAll(parts); k > n.Signed {
			n.Signed, n.Open = k, all
		}
	}
	for _, a := range v.Answers {
		if a.State == Met {
			continue
		}
		kind, of, _ := strings.Cut(string(a.Kind), ":")
		switch k := curriculum.RuleKind(kind); k {
		case curriculum.MonthsSince, curriculum.DaysSince, curriculum.LeastAge, curriculum.RetestWait:
			n.From = civil.Max(n.From, a.Earliest)
		case curriculum.ClassesSince, curriculum.ClassShare:
			if a.State == NotMet && a.Earliest.IsZero() {
				n.Never = &a
			}
			if a.State == NotMet && a.Lacks > 0 {
				x := ClassNeed{Of: of, Lack: a.Lacks}
				if of != "" {
					x.Came, x.Held = e.Attended.count(curriculum.Rule{Of: of}), e.Held.count(curriculum.Rule{Of: of})
				}
				n.Classes = append(n.Classes, x)
			}
		case curriculum.AllStripes:
			sign(striped)
		case curriculum.AllSignedOff:
			sign(open)
		case curriculum.EachSignedOff:
			each := make([]part, len(open))
			for i, s := range e.Sections {
				each[i] = part{max(min(s.Of, a.Rule().Amount)-s.Done, 0), s.Of - s.Done}
			}
			sign(each)
		}
	}
	return n
}

// part is a section of which so many are lacking of so many that are open.
type part struct{ lack, open int }

// untilAll is how many of all that is open are signed off, in the middle, until of each part as many are
// as it lacks, where what is signed off next is any of them as likely as another. When a share x of all
// is done, a part of o open ones has at least l of them done with the chance that a binomial count of o
// at x is l or more; the mean of the largest share that a part waits for is the sum of the chances that
// not all have come, over x from 0 to 1. Exact where all is asked.
func untilAll(parts []part) int {
	lack, open := 0, 0
	for _, p := range parts {
		lack, open = lack+p.lack, open+p.open
	}
	if lack == 0 || lack == open {
		return lack
	}
	const steps = 200
	mean := 0.0
	for i := range steps {
		x, all := (float64(i)+0.5)/steps, 1.0
		for _, p := range parts {
			if p.lack > 0 {
				all *= binomialAtLeast(p.lack, p.open, x)
			}
		}
		mean += (1 - all) / steps
	}
	return min(max(int(math.Round(mean*float64(open+1))), lack), open)
}

// binomialAtLeast is P(N ≥ k) of a binomial count of n at x.
func binomialAtLeast(k, n int, x float64) float64 {
	p, below := math.Pow(1-x, float64(n)), 0.0
	for i := range k {
		below += p
		p *= float64(n-i) / float64(i+1) * x / (1 - x)
	}
	return max(1-below, 0)
}

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
	fades        = 0.9
	fadesBatched = 1.16
	drops        = 0.03 // of those who come as they did, who soon come much less
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
