package progress

import (
	"math"
	"slices"
)

// How students have been coming, as a forecast reads it.

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

// What is taken where nothing is known, chosen as the figures of the forecast are.
const (
	usualCame   = 1.4 // classes a week where nothing is known of anybody
	usualSigned = 0.5 // sign-offs a class where nothing is known
)

// slowings are the powers tried: from a pace that stays the same to one that goes with what is
// open, as where every requirement has its own small chance in each class, and on to where the last ones are the hardest.
var slowings = [7]float64{0, 0.25, 0.5, 0.75, 1, 1.25, 1.5}

// Students differ, and what is signed off comes in lumps, so that the record of a program tells its power less surely than single sign-offs
// by chance would; the power is taken as usual until it does. Chosen as the figures of the forecast are.
const (
	usualSlowing = 0.65 // power that is usual
	slowSpread   = 0.5  // its standard deviation among programs
	lumps        = 2.0  // so many times less the record tells
)

// UsualPace is a program's pace over all its students. Sign-offs in a week with so many classes
// attended and so many requirements open are taken as Poisson with the mean
// PerClass · came · open^Slowing. The power is the mean of those tried, each weighted by how usual it is and by how likely it makes the
// record, given how many each student was signed off in all: the quick and the slow must not look like early and late.
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
		off := (power - usualSlowing) / slowSpread
		weight := math.Exp((fit[i]-likeliest)/lumps - off*off/2)
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
