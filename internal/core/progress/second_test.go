package progress

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/golden"
)

// negative is P(N = n) of a negative binomial count with a Gamma(a, b) rate in an exposure.
func negative(n int, a, b, e float64) float64 {
	if e == 0 {
		return map[bool]float64{true: 1}[n == 0]
	}
	x, _ := math.Lgamma(float64(n) + a)
	y, _ := math.Lgamma(a)
	z, _ := math.Lgamma(float64(n) + 1)
	return math.Exp(x - y - z + a*math.Log(b/(b+e)) + float64(n)*math.Log(e/(b+e)))
}

func atLeastPlain(k int, a, b, e float64) float64 {
	sum := 0.0
	for n := range k {
		sum += negative(n, a, b, e)
	}
	return math.Max(1-sum, 0)
}

// plainChance is the formula of Foresee's doc comment, written down without any of its
// shortcuts.
func plainChance(n Need, p Pace, prior Prior, ahead timetable.Ahead, usual int, d civil.Date) float64 {
	return 0.95*plainAt(0.91, n, p, prior, ahead, usual, d) + 0.05*plainAt(0.91*0.4, n, p, prior, ahead, usual, d)
}

// plainAt is that where so much of the pace is left.
func plainAt(left float64, n Need, p Pace, prior Prior, ahead timetable.Ahead, usual int, d civil.Date) float64 {
	a, b := 10*prior.PerWeek, 10.0
	taught := 40 * prior.Typical
	signed := taught * prior.PerClass
	for i, w := range p {
		age := math.Pow(0.97, float64(len(p)-1-i))
		a += age * float64(w.Came) / 1.6
		b += age * float64(w.Held) / math.Max(float64(usual), 1) / 1.6
		if w.Came > 0 && w.Open > 0 {
			came, open := float64(w.Came), float64(w.Open)-float64(w.Signed)/2
			if w.Signed >= w.Open {
				came, open = came/2, float64(w.Open)/2
			}
			signed += age * float64(w.Signed)
			taught += age * came * math.Pow(open, prior.Slowing)
		}
	}
	a, signed = math.Max(a, 0.05), math.Max(signed, 0.05)
	exposure := func(of string) float64 {
		k := 0
		for _, x := range ahead[of] {
			if !d.Before(x) {
				k++
			}
		}
		return left * float64(k) / math.Max(float64(usual), 1)
	}
	m := 0.0
	for i := max(n.Open, n.Signed); i > max(n.Open, n.Signed)-n.Signed; i-- {
		m += math.Pow(float64(i), -prior.Slowing)
	}
	sounds := func(classes int) float64 {
		if n.Signed == 0 {
			return 1
		}
		if m < 1 {
			return atLeastPlain(1, signed, taught, float64(classes)/m)
		}
		low := atLeastPlain(int(m), signed, taught, float64(classes))
		return low + (m-math.Floor(m))*(atLeastPlain(int(m)+1, signed, taught, float64(classes))-low)
	}
	lack, out := 0, 1.0
	for _, c := range n.Classes {
		if c.Of == "" {
			lack = max(lack, c.Lack)
		} else {
			ka, kb := a, b
			if c.Held > 0 {
				kb = 4 / math.Max(float64(usual), 1)
				ka = kb*a/b + float64(c.Came)/1.6
				kb += float64(c.Held) / math.Max(float64(usual), 1) / 1.6
			}
			out *= atLeastPlain(c.Lack, ka, kb, exposure(strings.ToLower(c.Of)))
		}
	}
	sum := 0.0
	for k := lack; k <= 420; k++ {
		sum += negative(k, a, b, exposure("")) * sounds(k)
	}
	return out * sum
}

// TestTheChanceIsTheFormula: forecasts of drawn students against the formula, day by day.
func TestTheChanceIsTheFormula(t *testing.T) {
	golden.Alone(t)
	today := day("2027-03-10")
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, from, to int) int { return rapid.IntRange(from, to).Draw(t, name) }
		var p Pace
		for range n("weeks", 0, 12) {
			w := Week{Came: n("came", 0, 3), Held: n("held", 0, 3), Open: n("open", 0, 6)}
			w.Signed = n("signed", 0, w.Open)
			p = append(p, w)
		}
		prior := Prior{PerWeek: float64(n("per week", 1, 20)) / 10, PerClass: float64(n("per class", 1, 9)) / 10, Slowing: rapid.SampledFrom(slowings[:]).Draw(t, "slowing"), Typical: float64(n("typical", 10, 30)) / 10}
		ahead := timetable.Ahead{}
		for d := today.AddDays(1); len(ahead[""]) < 90; d = d.AddDays(n("gap", 0, 4)) {
			ahead[""] = append(ahead[""], d)
			if len(ahead[""])%3 == 0 {
				ahead["sparring"] = append(ahead["sparring"], d)
			}
		}
		usual := n("usual", 0, 4)
		need := Need{Signed: n("to sign", 0, 5)}
		if need.Signed > 0 {
			need.Open = need.Signed + n("open besides", 0, 4)
		}
		if lack := n("lack", 0, 12); lack > 0 {
			need.Classes = append(need.Classes, ClassNeed{Lack: lack})
		}
		if lack := n("sparring", 0, 3); lack > 0 {
			x := ClassNeed{Of: "Sparring", Lack: lack, Held: n("sparring held", 0, 9)}
			x.Came = n("sparred", 0, x.Held)
			need.Classes = append(need.Classes, x)
		}
		if n("dated", 0, 1) == 1 {
			need.From = today.AddDays(n("from", -5, 60))
		}
		f := need.Foresee(p, prior, ahead, usual, today)
		first := civil.Max(today, need.From)
		waits := need.Signed > 0 || len(need.Classes) > 0
		for _, after := range []int{-1, 0, 10, 40, 150} {
			d := today.AddDays(after)
			want := 0.0
			switch {
			case d.Before(first):
			case !waits:
				want = 1
			default:
				want = plainChance(need, p, prior, ahead, usual, d)
			}
			require.InDelta(t, want, f.at(d), 3e-4, "%+v on %s", need, d)
			percent := f.Chance(d)
			switch {
			case d.Before(first):
				require.Zero(t, percent)
			case !waits:
				require.Equal(t, 100, percent)
			default:
				require.GreaterOrEqual(t, percent, 1)
				require.LessOrEqual(t, percent, 99)
				require.Equal(t, int(math.Min(math.Max(math.Floor(100*f.at(d)), 1), 99)), percent)
				require.InDelta(t, math.Min(math.Max(math.Floor(100*want), 1), 99), percent, 1)
			}
		}
		days := []civil.Date{first}
		for _, d := range ahead[""] {
			if first.Before(d) {
				days = append(days, d)
			}
		}
		// The early day leaves out of all days the share nearest to a tenth before it, the late one after it; the likely is the first of half.
		early, likely, late := days[0], civil.Date{}, days[0]
		off := func(d civil.Date) float64 { return math.Abs(f.at(d.AddDays(-1)) - 0.1) }
		over := func(d civil.Date) float64 { return math.Abs(1 - f.at(d) - 0.1) }
		for _, d := range days {
			if off(d) < off(early) {
				early = d
			}
			if over(d) <= over(late) {
				late = d
			}
			if likely.IsZero() && f.at(d) >= 0.5 {
				likely = d
			}
		}
		last := f.at(days[len(days)-1])
		if last < 0.1 {
			early = civil.Date{}
		}
		if last < 0.9 {
			late = civil.Date{}
		}
		require.Equal(t, likely, f.Likely)
		for _, x := range []struct {
			name      string
			want, got civil.Date
			off       func(civil.Date) float64
		}{{"early", early, f.Early, off}, {"late", late, f.Late, over}} {
			if x.want != x.got { // two days that are as near
				require.False(t, x.want.IsZero() || x.got.IsZero(), x.name)
				require.InDelta(t, x.off(x.want), x.off(x.got), 1e-9, "%s: %s, not %s", x.name, x.got, x.want)
			}
		}
	})
}

// TestTheUsualPaceIsTheLikeliest: against the likelihood written down for each power, of which the mean is taken.
func TestTheUsualPaceIsTheLikeliest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		usual := rapid.IntRange(0, 3).Draw(t, "usual")
		var all []Pace
		for range rapid.IntRange(0, 4).Draw(t, "students") {
			var p Pace
			for range rapid.IntRange(0, 8).Draw(t, "weeks") {
				w := Week{Came: rapid.IntRange(0, 3).Draw(t, "came"), Held: rapid.IntRange(0, 3).Draw(t, "held"), Open: rapid.IntRange(0, 9).Draw(t, "open")}
				w.Signed = rapid.IntRange(0, w.Open).Draw(t, "signed")
				p = append(p, w)
			}
			all = append(all, p)
		}
		read, silent, batches := asRead(all)
		came, weeks := 0.0, 0.0
		for _, p := range read {
			for _, w := range p {
				came, weeks = came+float64(w.Came), weeks+float64(w.Held)/math.Max(float64(usual), 1)
			}
		}
		want := Prior{PerWeek: (came + 5.6) / (weeks + 4), PerClass: 0.5, Typical: 1, Quiet: silent, Batched: batches}
		// The classes of each student in which something was open, how much of it, and what was signed off.
		type lesson struct{ classes, open, signed float64 }
		var lessons [][]lesson
		taught, signed := 0.0, 0.0
		for _, p := range read {
			var own []lesson
			for _, w := range p {
				if w.Open == 0 || w.Came == 0 {
					continue
				}
				x := lesson{float64(w.Came), float64(w.Open) - float64(min(w.Signed, w.Open))/2, float64(w.Signed)}
				if w.Signed >= w.Open {
					x.classes /= 2
				}
				own = append(own, x)
				taught, signed = taught+x.classes, signed+x.signed
			}
			lessons = append(lessons, own)
		}
		// Given how many a student was signed off, each of them fell into a lesson with the chance classes · open^power, of all lessons.
		weights, powers := 0.0, 0.0
		for _, power := range []float64{0, 0.25, 0.5, 0.75, 1, 1.25, 1.5} {
			likelihood := 1.0
			for _, own := range lessons {
				all := 0.0
				for _, x := range own {
					all += x.classes * math.Pow(x.open, power)
				}
				for _, x := range own {
					likelihood *= math.Pow(x.classes*math.Pow(x.open, power)/all, x.signed)
				}
			}
			likelihood = math.Sqrt(likelihood) * math.Exp(-2*(power-0.65)*(power-0.65))
			weights, powers = weights+likelihood, powers+likelihood*power
		}
		if taught > 0 {
			exposed := 0.0
			want.Slowing = powers / weights
			for _, own := range lessons {
				for _, x := range own {
					exposed += x.classes * math.Pow(x.open, want.Slowing)
				}
			}
			want.Typical = exposed / taught
			want.PerClass = (signed + 5) / (exposed + 10*want.Typical)
		}
		got := UsualPace(all, usual)
		require.InDeltaSlice(t, []float64{want.PerWeek, want.PerClass, want.Slowing, want.Typical}, []float64{got.PerWeek, got.PerClass, got.Slowing, got.Typical}, 1e-9)
		require.Equal(t, []any{want.Quiet, want.Batched}, []any{got.Quiet, got.Batched})
	})
	assert.Equal(t, Prior{PerWeek: 1.4, PerClass: 0.5, Typical: 1}, UsualPace(nil, 2), "where nothing is known")
	flat := UsualPace([]Pace{{{Came: 2, Held: 2, Open: 1}}}, 2)
	assert.Equal(t, []float64{0.6829, 1}, []float64{math.Round(flat.Slowing*1e4) / 1e4, flat.Typical}, "the mean of the powers as usual as they are")
}

// TestWhatAForecastHangsOn: the words, by what is missing.
func TestWhatAForecastHangsOn(t *testing.T) {
	today := day("2027-03-10")
	prior := Prior{PerWeek: 1.5, PerClass: 0.4, Typical: 1}
	noneIsEnough := &Answer{Lack: Lack{Kind: LackNever}}
	drives := func(n Need, p Pace) string { return SayDrives(n.Foresee(p, prior, nil, 2, today).Drives) }
	assert.Equal(t, "nothing is missing", drives(Need{}, nil))
	assert.Equal(t, "nothing is missing", drives(Need{From: today}, nil))
	assert.Equal(t, "not before Thu 11 Mar 2027", drives(Need{From: today.AddDays(1)}, nil))
	assert.Equal(t, "1 more class at 1.5 a week", strings.Replace(drives(Need{Classes: []ClassNeed{{Lack: 1}}}, nil), "1 class more", "1 more class", 1))
	assert.Equal(t, "2 classes more and 1 sparring class more at 1.5 a week, and 3 requirements to be signed off, 4.0 in ten classes; not before Thu 11 Mar 2027", drives(Need{Classes: []ClassNeed{{Lack: 2}, {Of: "sparring", Lack: 1}}, Signed: 3, From: today.AddDays(1)}, nil))
	assert.Equal(t, "1 requirement to be signed off, 4.0 in ten classes", drives(Need{Signed: 1}, nil))
	assert.Equal(t, "nothing can mend it: a class was missed", drives(Need{Never: noneIsEnough, Signed: 1}, nil))
	idle, holiday, here := Week{Held: 2}, Week{}, Week{Came: 1, Held: 2}
	away := func(p ...Week) bool {
		return strings.Contains(drives(Need{Classes: []ClassNeed{{Lack: 2}}}, p), "; away for 3 weeks with classes")
	}
	assert.True(t, away(here, idle, holiday, idle, idle))
	assert.False(t, away(idle, here, idle, idle))
	assert.False(t, away(idle, idle, here), "back again")
	never := Need{Never: noneIsEnough, Signed: 1}.Foresee(nil, prior, nil, 2, today)
	assert.Equal(t, []any{0, civil.Date{}, civil.Date{}}, []any{never.Chance(today), never.Early, never.Late})
	lone := Need{Signed: 1}.Foresee(Pace{{Came: 1, Held: 2, Signed: 1, Open: 1}}, prior, nil, 2, today)
	assert.InDelta(t, 1.5, lone.PerWeek, 0.05)
}

// TestTheNeedIsReadFromTheVerdict: what each rule leaves missing.
func TestTheNeedIsReadFromTheVerdict(t *testing.T) {
	today := day("2027-03-10")
	e := Evidence{Since: day("2027-01-10"), Born: day("2018-03-20"), Registered: day("2026-01-01"), Attended: Attended{{Kind: "sparring"}: 3}, Held: Attended{{Kind: "sparring"}: 8},
		Ahead:    timetable.Ahead{"": {today.AddDays(1), today.AddDays(3), today.AddDays(5), today.AddDays(7)}},
		Sections: []SectionDone{{ID: "k", Name: "Kicks", Done: 1, Of: 4, Open: []string{"a", "b", "c"}}, {ID: "f", Name: "Forms", Done: 0, Of: 2, Open: []string{"d", "e"}}},
		Stripes:  []StripeState{{SectionID: "k", Section: "Kicks"}, {SectionID: "f", Section: "Forms", Awarded: today}}}
	need := func(rules ...curriculum.Rule) Need { return NeedOf(Judge(rules, e, today), e) }
	assert.Equal(t, Need{From: day("2027-04-10")}, need(curriculum.Rule{Kind: curriculum.MonthsSince, Amount: 3}, curriculum.Rule{Kind: curriculum.LeastAge, Amount: 9}))
	assert.Equal(t, Need{From: day("2027-03-20")}, need(curriculum.Rule{Kind: curriculum.DaysSince, Amount: 10}, curriculum.Rule{Kind: curriculum.LeastAge, Amount: 9}))
	assert.Equal(t, Need{Classes: []ClassNeed{{Lack: 2}}}, need(curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 5}))
	assert.Equal(t, Need{Classes: []ClassNeed{{Lack: 1}}}, need(curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 4}))
	assert.Empty(t, need(curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 3}))
	assert.Equal(t, Need{Signed: 5, Open: 5}, need(curriculum.Rule{Kind: curriculum.AllStripes}), "the three of the section whose stripe is missing are done when 4½ of the five are")
	assert.Equal(t, 5, need(curriculum.Rule{Kind: curriculum.AllSignedOff}).Signed)
	assert.Equal(t, Need{Signed: 4, Open: 5}, need(curriculum.Rule{Kind: curriculum.EachSignedOff, Amount: 2}), "1 of 3 kicks and 2 of 2 forms")
	assert.Equal(t, 5, need(curriculum.Rule{Kind: curriculum.AllStripes}, curriculum.Rule{Kind: curriculum.AllSignedOff}, curriculum.Rule{Kind: curriculum.EachSignedOff, Amount: 1}).Signed, "the most of them")
	many := Evidence{Sections: []SectionDone{{ID: "k", Done: 6, Of: 8}, {ID: "f", Done: 5, Of: 5}}, Stripes: []StripeState{{SectionID: "k"}}}
	for _, rule := range []curriculum.Rule{{Kind: curriculum.AllSignedOff}, {Kind: curriculum.AllStripes}, {Kind: curriculum.EachSignedOff, Amount: 8}} {
		assert.Equal(t, Need{Signed: 2, Open: 2}, NeedOf(Verdict{Answers: []Answer{judge(rule, many, today)}}, many), rule.Kind)
	}
	half := Evidence{Sections: []SectionDone{{ID: "k", Done: 3, Of: 6}, {ID: "f", Done: 0, Of: 20}}, Stripes: []StripeState{{SectionID: "k"}, {SectionID: "f", Awarded: today}}}
	assert.Equal(t, Need{Signed: 18, Open: 23}, NeedOf(Judge([]curriculum.Rule{{Kind: curriculum.AllStripes}}, half, today), half), "the last of 3 among 23 is the 18th, at 3·24/4")
	missed := need(curriculum.Rule{Kind: curriculum.ClassShare, Amount: 100})
	assert.Equal(t, "nothing can mend it: a class was missed", SayLack(*missed.Never))
	assert.Empty(t, missed.Classes)
	assert.Equal(t, Need{Classes: []ClassNeed{{Lack: 2}}}, need(curriculum.Rule{Kind: curriculum.ClassShare, Amount: 50}), "5 of 10")
	assert.Equal(t, "2 classes more; so many are not on the timetable", strings.Replace(SayLack(*need(curriculum.Rule{Kind: curriculum.ClassesSince, Of: "sparring", Amount: 5}).Never), "sparring ", "", 1))
	unknown := e
	unknown.Registered = civil.Date{}
	assert.Empty(t, NeedOf(Judge([]curriculum.Rule{{Kind: curriculum.ClassesSince, Amount: 5}}, unknown, today), unknown), "a register that can be given is taken as given")
}

// TestClimbsAreReplayedAsTheyWere: what was known on a day, when all was met, and a constant
// rate, on climbs small enough to follow by hand.
func TestClimbsAreReplayedAsTheyWere(t *testing.T) {
	mon := day("2027-03-01")
	days := func(after ...int) (out []civil.Date) {
		for _, n := range after {
			out = append(out, mon.AddDays(n))
		}
		return out
	}
	type small struct {
		Climb
		Classes int
	}
	cal0 := &Calendar{Registered: mon.AddDays(-99), Ahead: timetable.Ahead{"": days(40, 41, 42, 43)}}
	made := func(x small) *Climb {
		x.Rules = nil
		if x.Classes > 0 {
			x.Rules = append(x.Rules, curriculum.Rule{Kind: curriculum.ClassesSince, Amount: x.Classes})
		}
		if x.Signed > 0 {
			x.Rules = append(x.Rules, curriculum.Rule{Kind: curriculum.AllSignedOff})
		}
		c := finished(x.Climb)
		return &c
	}
	is := small{Climb{Since: mon, Until: mon.AddDays(30), From: mon.AddDays(9), Signed: 2, Came: days(-7, -3, 0, 2, 7, 9), SignOff: days(2, 8)}, 3}
	c := made(is)
	met := func(change func(*small)) string {
		x := is
		change(&x)
		d, found := made(x).met(cal0)
		if !found {
			require.Equal(t, x.Until, d)
			return "never"
		}
		return d.String()
	}
	assert.Equal(t, "2027-03-10", met(func(*small) {}), "the rule of age comes last")
	assert.Equal(t, "2027-03-09", met(func(c *small) { c.From = civil.Date{} }), "the second sign-off")
	assert.Equal(t, "2027-03-08", met(func(c *small) { c.From, c.Signed = civil.Date{}, 1 }), "the third class since")
	assert.Equal(t, "2027-03-10", met(func(c *small) { c.From, c.Classes = civil.Date{}, 4 }))
	assert.Equal(t, "never", met(func(c *small) { c.Classes = 5 }))
	assert.Equal(t, "never", met(func(c *small) { c.Signed = 3 }))
	assert.Equal(t, "never", met(func(c *small) { c.Until = mon.AddDays(8) }))
	assert.Equal(t, "2027-03-10", met(func(c *small) { c.Until = mon.AddDays(9) }))
	assert.Equal(t, "2027-03-01", met(func(c *small) { c.From, c.Classes, c.Signed = civil.Date{}, 0, 0 }))
	assert.Equal(t, Need{From: mon.AddDays(9), Classes: []ClassNeed{{Lack: 1}}, Signed: 1, Open: 1}, c.known(mon.AddDays(2), cal0))
	assert.Equal(t, Need{From: mon.AddDays(9), Classes: []ClassNeed{{Lack: 2}}, Signed: 2, Open: 2}, c.known(mon.AddDays(1), cal0))
	assert.Equal(t, Need{From: mon.AddDays(9)}, c.known(mon.AddDays(8), cal0))
	assert.Equal(t, mon.AddDays(2+7), c.naive(mon.AddDays(2), Need{From: mon.AddDays(9)}))
	assert.Equal(t, mon.AddDays(14+7), c.naive(mon.AddDays(14), Need{Classes: []ClassNeed{{Lack: 1}}, Signed: 1}), "two sign-offs in two weeks: one more in a week")
	assert.Equal(t, mon.AddDays(14+4), c.naive(mon.AddDays(14), Need{Classes: []ClassNeed{{Lack: 1}}}), "four classes in two weeks: one more in half a week")
	assert.Equal(t, mon.AddDays(3+42), c.naive(mon.AddDays(3), Need{Classes: []ClassNeed{{Of: "sparring", Lack: 3}}}), "none so far counts as half a one, less than a week as a week")

	held := map[civil.Date]int{mon: 2, mon.AddDays(7): 3}
	assert.Nil(t, PaceOf(nil, nil, 2, mon, mon, held))
	assert.Equal(t, Pace{{Came: 2}, {Came: 2, Held: 2, Signed: 1, Open: 2}, {Came: 2, Held: 3, Signed: 1, Open: 1}}, PaceOf(c.Came, c.SignOff, 2, mon, mon.AddDays(16), held))
	assert.Equal(t, 0, PaceOf(c.Came, c.SignOff, 0, mon, mon.AddDays(16), held)[2].Open, "more were signed off than asked")
	assert.Len(t, PaceOf(c.Came, nil, 2, mon, mon.AddDays(7*60), held), PaceWeeks)

	table := timetable.Table{Classes: []timetable.Class{{ID: "a", Kind: "general", Weekday: 1, Start: 1080, Minutes: 60, From: mon}, {ID: "b", Kind: "general", Weekday: 3, Start: 1080, Minutes: 60, From: mon.AddDays(21)}}}
	cal := CalendarOf(table, "", "", mon.AddDays(-3), mon.AddDays(60))
	assert.Equal(t, 2, cal.Usual, "what most weeks have")
	assert.Equal(t, []int{0, 1, 1, 1, 2}, []int{cal.Held[mon.AddDays(-7)], cal.Held[mon], cal.Held[mon.AddDays(7)], cal.Held[mon.AddDays(14)], cal.Held[mon.AddDays(21)]})
	next := cal.after(mon)[""]
	assert.Equal(t, mon.AddDays(7), next[0], "a class of the day itself is no more ahead")
	assert.True(t, slices.IsSortedFunc(cal.Ahead[""], func(x, y civil.Date) int { return y.DaysTo(x) }))
	even := Calendar{Held: map[civil.Date]int{}}
	assert.Empty(t, even.after(mon)[""])
}

// TestTheShareOutsideIsThatOfTheDays: where every day came, the shares that the report makes of scaled chances are those of the days that
// are before the early and after the late one.
func TestTheShareOutsideIsThatOfTheDays(t *testing.T) {
	today, rng := day("2027-03-10"), rand.New(rand.NewPCG(3, 3))
	ahead := timetable.Ahead{}
	for i := range 200 {
		ahead[""] = append(ahead[""], today.AddDays(1+2*i+i%2))
	}
	var low, high []follow
	before, after, open, n := 0, 0, 0, 4000
	for range n {
		need := Need{Signed: rng.IntN(5), Classes: []ClassNeed{{Lack: 1 + rng.IntN(60)}}}
		if rng.IntN(3) == 0 {
			need.From = today.AddDays(rng.IntN(60))
		}
		prior := Prior{PerWeek: 0.2 + rng.Float64(), PerClass: 0.2 + rng.Float64(), Slowing: rng.Float64(), Typical: 1 + rng.Float64()}
		f := need.Foresee(nil, prior, ahead, 2, today)
		came := civil.Max(ahead[""][rng.IntN(200)], f.first())
		low = append(low, follow{f.scaled(f.at(came), f.Early.AddDays(-1), f.Early, leftOut), true})
		high = append(high, follow{f.scaled(f.at(came.AddDays(-1)), f.Late, f.Late, 1-leftOut), true})
		if !f.Early.IsZero() && came.Before(f.Early) || f.Early.IsZero() && f.at(came) < 0.1 {
			before++
		}
		if !f.Late.IsZero() && f.Late.Before(came) {
			after++
		}
		if f.Late.IsZero() {
			open++
		}
	}
	require.Greater(t, min(before, after, open), 100)
	assert.InDelta(t, float64(before)/float64(n), below(low, leftOut+ulps), 1e-9)
	assert.InDelta(t, float64(after)/float64(n), 1-below(high, 1-leftOut), 1e-9)
	f := Need{Classes: []ClassNeed{{Lack: 3}}}.Foresee(nil, Prior{PerWeek: 1, Typical: 1}, ahead, 2, today)
	edge := f.at(f.Late)
	assert.InDeltaSlice(t, []float64{0, 0.45, 0.9, 0.95, 1}, []float64{f.scaled(0, f.Late, f.Late, 0.9), f.scaled(edge/2, f.Late, f.Late, 0.9), f.scaled(edge, f.Late, f.Late, 0.9), f.scaled((1+edge)/2, f.Late, f.Late, 0.9), f.scaled(1, f.Late, f.Late, 0.9)}, 1e-12, "stretched on both sides of the edge")
	assert.Equal(t, 0.3, f.scaled(0.3, f.Late, civil.Date{}, 0.9), "a span without that end")
	sure := Need{From: today.AddDays(3)}.Foresee(nil, Prior{}, ahead, 2, today)
	assert.Equal(t, []float64{0, 1}, []float64{sure.scaled(0, sure.Late, sure.Late, 0.9), sure.scaled(1, sure.Late, sure.Late, 0.9)}, "nothing is left above a sure day")
}

// TestTheSpanOfOneSchool holds the report of one generated school to what it was.
func TestTheSpanOfOneSchool(t *testing.T) {
	r := Replay(generated(5001))
	const was = `
981 819 162, 761 121 118, 30.8 73.2 57.2, 0.111
  1   2 of 537
 15  33 of 91
 25  28 of 96
 35  48 of 80
 45  52 of 84
 55  66 of 99
 65  70 of 102
 75  72 of 104
 85  84 of 140
 97  97 of 396
`
	assert.Equal(t, was, "\n"+told(r))
	assert.Equal(t, 1000, r.Inside+r.Early+r.Late)
	assert.Equal(t, r.Forecasts, r.Came+r.Censored)
	assert.Equal(t, Report{}, Replay(nil, nil))
	assert.Equal(t, []int{368, 203}, []int{r.Held, r.EarlyFree})
	assert.InDelta(t, r.Early*r.Forecasts/(r.Forecasts-r.Held), r.EarlyFree, 20, "those that a rule holds are never before it")
	// Of four: the first and third came, the second was followed only so far.
	four := []follow{{0.3, true}, {0.1, true}, {0.2, false}, {0.9, true}}
	assert.InDeltaSlice(t, []float64{0, 0.25, 0.25, 1 - 0.75*0.5, 1}, []float64{below(four, 0.1), below(four, 0.15), below(four, 0.3), below(four, 0.5), below(four, 0.95)}, 1e-12)
	assert.InDelta(t, 0.5, below([]follow{{0.2, false}, {0.2, true}}, 0.3), 1e-12, "of a tie those that came first")
}

// TestUntilAllAreAmongThem: how many of all that is open are signed off until of each part enough are,
// against drawing the order a few thousand times.
func TestUntilAllAreAmongThem(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 7))
	for _, parts := range [][]part{{{1, 1}}, {{0, 4}}, {{3, 3}, {2, 2}}, {{3, 3}, {0, 2}}, {{1, 3}, {2, 2}}, {{2, 8}, {1, 6}}, {{1, 10}, {1, 1}}, {{2, 5}, {2, 5}, {2, 5}, {0, 6}}} {
		var deck []int
		for i, p := range parts {
			for range p.open {
				deck = append(deck, i)
			}
		}
		sum, draws := 0, 4000
		for range draws {
			rng.Shuffle(len(deck), func(i, j int) { deck[i], deck[j] = deck[j], deck[i] })
			left, missing := make([]int, len(parts)), 0
			for i, p := range parts {
				left[i], missing = p.lack, missing+p.lack
			}
			for n, i := range deck {
				if missing == 0 {
					sum += n
					break
				}
				if left[i] > 0 {
					left[i]--
					missing--
				}
				if missing == 0 && n == len(deck)-1 {
					sum += n + 1
				}
			}
		}
		assert.InDelta(t, float64(sum)/float64(draws), float64(untilAll(parts)), 0.55, parts)
	}
}

// TestReplaysKnowEveryRule: when a climb was ready, by each kind of rule, against going through its days
// one by one with the rule written down anew.
func TestReplaysKnowEveryRule(t *testing.T) {
	start := day("2026-01-05")
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, from, to int) int { return rapid.IntRange(from, to).Draw(t, name) }
		cal := Calendar{Registered: start.AddDays(-30), Ahead: timetable.Ahead{}}
		c := Climb{Since: start, Until: start.AddDays(120), From: start.AddDays(n("from", -5, 20))}
		for d := start.AddDays(-10); d.Before(c.Until); d = d.AddDays(n("gap", 1, 4)) {
			kind := rapid.SampledFrom([]string{"general", "sparring"}).Draw(t, "kind")
			cal.Kept = append(cal.Kept, Visit{d, Attendance{kind, timetable.Hall}})
			if n("came", 0, 2) > 0 {
				c.Visits = append(c.Visits, Visit{d, Attendance{kind, rapid.SampledFrom(timetable.Modes).Draw(t, "mode")}})
				c.Came = append(c.Came, d)
			}
		}
		for i := range 3 {
			w := SectionWay{ID: fmt.Sprint("s", i), Of: n("of", 0, 4), Striped: n("striped", 0, 1) == 1}
			w.Known = n("known", 0, w.Of)
			for range n("done", 0, w.Of-w.Known) {
				w.Done = append(w.Done, start.AddDays(n("signed", -20, 130)))
			}
			slices.SortFunc(w.Done, func(x, y civil.Date) int { return y.DaysTo(x) })
			if n("award", 0, 1) == 1 {
				w.Awarded = start.AddDays(n("awarded", 0, 130))
			}
			for _, d := range w.Done {
				if !d.Before(start) {
					c.SignOff = append(c.SignOff, d)
				}
			}
			c.Sections = append(c.Sections, w)
		}
		slices.SortFunc(c.SignOff, func(x, y civil.Date) int { return y.DaysTo(x) })
		for _, r := range []curriculum.Rule{{Kind: curriculum.ClassesSince, Amount: n("classes", 1, 12)}, {Kind: curriculum.ClassesSince, Of: "Sparring", Amount: n("sparring", 1, 6)}, {Kind: curriculum.ClassShare, Amount: n("share", 10, 99)},
			{Kind: curriculum.AllSignedOff}, {Kind: curriculum.EachSignedOff, Amount: n("each", 1, 3)}, {Kind: curriculum.AllStripes}} {
			if n("rule "+string(r.Key()), 0, 2) == 0 {
				c.Rules = append(c.Rules, r)
			}
		}
		if n("wait", 0, 3) == 0 {
			told := start.AddDays(n("told", 1, 60))
			c.Waits = append(c.Waits, Wait{told, told.AddDays(n("waits", 0, 40))})
		}
		for _, r := range c.Rules {
			if n("waive "+string(r.Key()), 0, 4) == 0 {
				c.Waived = append(c.Waived, WaivedOn{r.Key(), start.AddDays(n("waived", 0, 90))})
			}
		}
		plain := func(d civil.Date) bool {
			for _, w := range c.Waits {
				if !d.Before(w.Told) && d.Before(w.From) {
					return false
				}
			}
			came, sparred, held := 0, 0, 0
			for _, v := range cal.Kept {
				if !v.On.Before(start) && !d.Before(v.On) {
					held++
				}
			}
			for _, v := range c.Visits {
				if v.On.Before(start) || d.Before(v.On) || v.Mode == timetable.Recorded {
					continue
				}
				if came++; v.Kind == "sparring" {
					sparred++
				}
			}
			for _, r := range c.Rules {
				if slices.ContainsFunc(c.Waived, func(w WaivedOn) bool { return w.Rule == r.Key() && !d.Before(w.On) }) {
					continue
				}
				switch {
				case r.Kind == curriculum.ClassesSince && r.Of == "" && came < r.Amount, r.Of != "" && sparred < r.Amount, r.Kind == curriculum.ClassShare && held > 0 && min(came, held)*100 < r.Amount*held:
					return false
				}
				for _, w := range c.Sections {
					done := w.Known
					for _, x := range w.Done {
						if !d.Before(x) {
							done++
						}
					}
					awarded := !w.Awarded.IsZero() && !d.Before(w.Awarded)
					switch {
					case r.Kind == curriculum.AllSignedOff && done < w.Of, r.Kind == curriculum.EachSignedOff && done < min(w.Of, r.Amount), r.Kind == curriculum.AllStripes && w.Striped && !awarded && done < w.Of:
						return false
					}
				}
			}
			return true
		}
		want, found := civil.Date{}, false
		for d := civil.Max(c.Since, c.From); !c.Until.Before(d); d = d.AddDays(1) {
			if plain(d) {
				want, found = d, true
				break
			}
		}
		got, met := c.met(&cal)
		require.Equal(t, found, met)
		if found {
			require.Equal(t, want, got)
		}
	})
}
