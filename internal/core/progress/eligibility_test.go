package progress

import (
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/timetable"
)

// How answers are said; set by the tests from outside, which know how.
var (
	SayFigure  func(Answer, civil.Date) string
	SayLack    func(Answer) string
	SayVerdict func(Verdict) string
	SayDrives  func(Drives) string
)

func day(s string) civil.Date { return civil.MustParse(s) }

func TestRulesOneByOne(t *testing.T) {
	months, days, age, word := curriculum.Rule{Kind: curriculum.MonthsSince, Amount: 6}, curriculum.Rule{Kind: curriculum.DaysSince, Amount: 30}, curriculum.Rule{Kind: curriculum.LeastAge, Amount: 7}, curriculum.Rule{Kind: curriculum.Word}
	for _, x := range []struct {
		name     string
		rule     curriculum.Rule
		evidence Evidence
		on       string
		state    State
		figure   string
		missing  string
		earliest string
	}{
		{"months exactly", months, Evidence{Since: day("2026-05-24")}, "2026-11-24", Met, "6 months", "", "2026-11-24"},
		{"a day short", months, Evidence{Since: day("2026-05-25")}, "2026-11-24", NotMet, "5 months", "1 day more", "2026-11-25"},
		{"a month that is too short", months, Evidence{Since: day("2026-08-31")}, "2027-02-27", NotMet, "5 months", "1 day more", "2027-02-28"},
		{"and its last day", months, Evidence{Since: day("2026-08-31")}, "2027-02-28", Met, "6 months", "", "2027-02-28"},
		{"no day of promotion", months, Evidence{}, "2026-11-24", Unknown, "", "the day of the last promotion", "2026-11-24"},
		{"days", days, Evidence{Since: day("2026-10-25")}, "2026-11-24", Met, "30 days", "", "2026-11-24"},
		{"days short", days, Evidence{Since: day("2026-11-20")}, "2026-11-24", NotMet, "4 days", "26 days more", "2026-12-20"},
		{"before the promotion", days, Evidence{Since: day("2026-12-01")}, "2026-11-24", NotMet, "0 days", "37 days more", "2026-12-31"},
		{"a birthday", age, Evidence{Born: day("2019-11-24")}, "2026-11-24", Met, "7 years", "", "2026-11-24"},
		{"the day before", age, Evidence{Born: day("2019-11-25")}, "2026-11-24", NotMet, "6 years", "1 day more", "2026-11-25"},
		{"29 February, a common year", age, Evidence{Born: day("2020-02-29")}, "2027-02-28", NotMet, "6 years", "1 day more", "2027-03-01"},
		{"no birth date is no failure", age, Evidence{}, "2026-11-24", Unknown, "", "the birth date", "2026-11-24"},
		{"nobody has said so", word, Evidence{}, "2026-11-24", Unknown, "", "an instructor who says so", "2026-11-24"},
		{"the word", word, Evidence{Word: "R. Castellane"}, "2026-11-24", Met, "given by R. Castellane", "", "2026-11-24"},
	} {
		t.Run(x.name, func(t *testing.T) {
			v := Judge([]curriculum.Rule{x.rule}, x.evidence, day(x.on))
			require.Len(t, v.Answers, 1)
			a := v.Answers[0]
			assert.Equal(t, x.state, v.State)
			assert.Equal(t, x.figure, SayFigure(a, v.On))
			assert.Equal(t, x.missing, SayLack(a))
			assert.Equal(t, x.earliest, a.Earliest.String())
		})
	}
}

func TestAllRulesMustHold(t *testing.T) {
	rules := []curriculum.Rule{{Kind: curriculum.MonthsSince, Amount: 2}, {Kind: curriculum.LeastAge, Amount: 10}, {Kind: curriculum.Word}}
	on := day("2026-11-24")
	assert.Equal(t, "may test", SayVerdict(Judge(nil, Evidence{}, on)), "without rules nothing stands in the way")
	v := Judge(rules, Evidence{Since: day("2026-11-01"), Born: day("2017-01-05")}, on)
	assert.Equal(t, NotMet, v.State, "not met outweighs unknown")
	assert.Equal(t, "from Tue 5 Jan 2027, if an instructor says so", SayVerdict(v))
	v = Judge(rules, Evidence{Since: day("2026-01-01"), Word: "R."}, on)
	assert.Equal(t, Unknown, v.State)
	assert.Equal(t, "not known: the birth date is missing", SayVerdict(v))
	v = Judge(rules, Evidence{Since: day("2026-01-01"), Word: "R.", Waived: map[curriculum.RuleKind]string{curriculum.LeastAge: "moved here with the rank"}}, on)
	assert.Equal(t, Met, v.State)
	assert.Equal(t, []any{"moved here with the rank", Lack{}, 0, on}, []any{v.Answers[1].Waived, v.Answers[1].Lack, v.Answers[1].Lacks, v.Answers[1].Earliest}, "nothing is lacking of what is waived")
	v = Judge(nil, Evidence{RetestFrom: day("2026-12-01")}, on)
	assert.Equal(t, NotMet, v.State, "a retest waits, whatever the rung asks")
	assert.Equal(t, "2026-12-01", v.Earliest.String())
	assert.Equal(t, Met, Judge(nil, Evidence{RetestFrom: on}, on).State)
}

func anyDay(t *rapid.T, name string) civil.Date {
	return day("2016-01-01").AddDays(rapid.IntRange(0, 5000).Draw(t, name))
}

// TestEveryRule: each rule met, not met and unknown, with figure and day.
func TestEveryRule(t *testing.T) {
	on := day("2026-11-24") // a Tuesday
	week := timetable.Table{Classes: []timetable.Class{
		{Name: "Evening", Kind: "General", Weekday: 2, Start: 1080, Minutes: 60, From: day("2020-01-01")},
		{Name: "Sparring", Kind: "Sparring", Weekday: 4, Start: 1080, Minutes: 60, From: day("2020-01-01"), To: day("2026-12-31")},
	}, Closures: []timetable.Closure{{From: day("2026-12-21"), To: day("2027-01-03")}}}
	ahead := week.Ahead(on.AddDays(1), "", "")
	base := Evidence{Since: day("2026-06-01"), Today: on, Registered: day("2026-01-01"), Ahead: ahead,
		Attended: Attended{{"general", timetable.Hall}: 9, {"sparring", timetable.Live}: 2, {"general", timetable.Recorded}: 3},
		Held:     Attended{{"general", timetable.Hall}: 14, {"sparring", timetable.Hall}: 6},
		Sections: []SectionDone{{ID: "k", Name: "Kicks", Done: 2, Of: 3, Open: []string{"Side kick"}}, {ID: "f", Name: "Forms", Done: 1, Of: 1}},
		Stripes:  []StripeState{{Section: "Kicks"}, {Section: "Forms", Awarded: on}},
		Kit:      []string{"Gloves", "Mouth guard"}}
	with := func(change func(*Evidence)) Evidence {
		e := base
		change(&e)
		return e
	}
	for _, x := range []struct {
		name     string
		rule     curriculum.Rule
		evidence Evidence
		state    State
		figure   string
		missing  string
		earliest string
	}{
		{"classes enough", curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 11}, base, Met, "11 classes", "", "2026-11-24"},
		{"classes short", curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 13}, base, NotMet, "11 classes", "2 classes more", "2026-12-01"},
		{"recorded ones count", curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 13, Modes: "hall live recorded"}, base, Met, "14 classes", "", "2026-11-24"},
		{"only in the hall", curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 10, Modes: "hall"}, base, NotMet, "9 classes", "1 class more", "2026-11-26"},
		{"of a kind", curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 3, Of: "Sparring"}, base, NotMet, "2 Sparring classes", "1 Sparring class more", "2026-11-26"},
		{"a kind that ends", curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 9, Of: "Sparring"}, base, NotMet, "2 Sparring classes", "7 Sparring classes more; so many are not on the timetable", ""},
		{"over the holiday", curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 19}, base, NotMet, "11 classes", "8 classes more", "2027-01-05"},
		{"no register ever", curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 13}, with(func(e *Evidence) { e.Registered, e.Attended = civil.Date{}, nil }), Unknown, "no register was kept", "the registers since Mon 1 Jun 2026", "2026-11-24"},
		{"registers begun late", curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 13}, with(func(e *Evidence) { e.Registered = day("2026-08-01") }), Unknown, "11 classes since the registers began on Sat 1 Aug 2026", "the registers before Sat 1 Aug 2026", "2026-11-24"},
		{"a share reached", curriculum.Rule{Kind: curriculum.ClassShare, Amount: 55}, base, Met, "11 of 20 classes, 55 percent", "", "2026-11-24"},
		{"a share missed", curriculum.Rule{Kind: curriculum.ClassShare, Amount: 60}, base, NotMet, "11 of 20 classes, 55 percent", "3 classes more without missing one", "2026-12-03"},
		{"every class", curriculum.Rule{Kind: curriculum.ClassShare, Amount: 100}, base, NotMet, "11 of 20 classes, 55 percent", "nothing can mend it: a class was missed", ""},
		{"no class held", curriculum.Rule{Kind: curriculum.ClassShare, Amount: 60}, with(func(e *Evidence) { e.Held = nil }), Unknown, "", "a register since Mon 1 Jun 2026", "2026-11-24"},
		{"a stripe to come", curriculum.Rule{Kind: curriculum.AllStripes, Amount: 1}, base, NotMet, "1 of 2", "Kicks", "2026-11-24"},
		{"all signed off", curriculum.Rule{Kind: curriculum.AllSignedOff, Amount: 1}, base, NotMet, "3 of 4", "Side kick", "2026-11-24"},
		{"two a section", curriculum.Rule{Kind: curriculum.EachSignedOff, Amount: 2}, base, Met, "3 of 3", "", "2026-11-24"},
		{"three a section", curriculum.Rule{Kind: curriculum.EachSignedOff, Amount: 3}, base, NotMet, "3 of 4", "1 of Kicks", "2026-11-24"},
		{"nobody looked at the kit", curriculum.Rule{Kind: curriculum.KitOwned, Amount: 1}, base, Unknown, "", "a look at the kit: Gloves, Mouth guard", "2026-11-24"},
		{"kit missing", curriculum.Rule{Kind: curriculum.KitOwned, Amount: 1}, with(func(e *Evidence) { e.KitKnown, e.Owned = true, []string{"gloves"} }), NotMet, "1 of 2", "Mouth guard", "2026-11-24"},
		{"no kit asked", curriculum.Rule{Kind: curriculum.KitOwned, Amount: 1}, with(func(e *Evidence) { e.Kit = nil }), Met, "none is asked", "", "2026-11-24"},
		{"no paper on record", curriculum.Rule{Kind: curriculum.Membership, Amount: 1}, base, Unknown, "", "the membership", "2026-11-24"},
		{"a paper to its last day", curriculum.Rule{Kind: curriculum.Insurance, Amount: 1}, with(func(e *Evidence) { e.Papers = []Paper{{curriculum.Insurance, on}} }), Met, "valid until Tue 24 Nov 2026", "", "2026-11-24"},
		{"and a day after", curriculum.Rule{Kind: curriculum.Insurance, Amount: 1}, with(func(e *Evidence) { e.Papers = []Paper{{curriculum.Insurance, on.AddDays(-1)}} }), NotMet, "ends on Mon 23 Nov 2026", "a new insurance", "2026-11-24"},
		{"a paper without end", curriculum.Rule{Kind: curriculum.Disclaimer, Amount: 1}, with(func(e *Evidence) { e.Papers = []Paper{{Kind: curriculum.Disclaimer}} }), Met, "valid", "", "2026-11-24"},
		{"no example", curriculum.Rule{Kind: curriculum.CharacterTask, Amount: 1}, base, Unknown, "", "an example from the family", "2026-11-24"},
		{"an example", curriculum.Rule{Kind: curriculum.CharacterTask, Amount: 1}, with(func(e *Evidence) { e.Character = "lays the table unasked" }), Met, "lays the table unasked", "", "2026-11-24"},
	} {
		t.Run(x.name, func(t *testing.T) {
			v := Judge([]curriculum.Rule{x.rule}, x.evidence, on)
			a := v.Answers[0]
			assert.Equal(t, x.state, a.State)
			assert.Equal(t, x.figure, SayFigure(a, v.On))
			assert.Equal(t, x.missing, SayLack(a))
			assert.Equal(t, x.earliest, a.Earliest.String())
			waived := x.evidence
			waived.Waived = map[curriculum.RuleKind]string{x.rule.Key(): "moved here"}
			assert.Equal(t, Met, Judge([]curriculum.Rule{x.rule}, waived, on).State)
			assert.NotEmpty(t, a.Kind.Words())
		})
	}
	assert.Equal(t, "not in sight", SayVerdict(Judge([]curriculum.Rule{{Kind: curriculum.ClassShare, Amount: 100}}, base, on)))
}

// anyEvidence draws what may be on record, with a timetable ahead.
func anyEvidence(t *rapid.T, today civil.Date) Evidence {
	n := func(name string, most int) int { return rapid.IntRange(0, most).Draw(t, name) }
	e := Evidence{Since: today.AddDays(-n("since", 900)), Born: today.AddDays(-n("born", 9000)), Word: rapid.SampledFrom([]string{"", "R."}).Draw(t, "word"), Today: today}
	if rapid.Bool().Draw(t, "retest") {
		e.RetestFrom = today.AddDays(n("retest from", 100) - 50)
	}
	if rapid.Bool().Draw(t, "registers") {
		e.Registered = e.Since.AddDays(n("registered", 200) - 100)
	}
	week := timetable.Table{Closures: []timetable.Closure{{From: today.AddDays(n("closed", 30)), To: today.AddDays(30 + n("open", 20))}}}
	for i := range rapid.IntRange(1, 3).Draw(t, "classes") {
		week.Classes = append(week.Classes, timetable.Class{Name: "C", Kind: []string{"general", "sparring"}[i%2], Weekday: 1 + (i*3+n("weekday", 6))%7, Start: 600, Minutes: 60, From: today.AddDays(-400)})
	}
	e.Ahead = week.Ahead(today.AddDays(1), "", "")
	e.Attended, e.Held = Attended{}, Attended{}
	for _, kind := range []string{"general", "sparring"} {
		for _, m := range timetable.Modes {
			e.Attended[Attendance{kind, m}] = n(kind+string(m), 12)
		}
		e.Held[Attendance{kind, timetable.Hall}] = 24 + n("held "+kind, 20)
	}
	of := 1 + n("asked", 4)
	e.Sections = []SectionDone{{ID: "k", Name: "Kicks", Done: n("done", of), Of: of}, {ID: "f", Name: "Forms", Done: 1, Of: 1}}
	e.Stripes = []StripeState{{SectionID: "k", Section: "Kicks"}}
	e.Kit, e.Owned, e.KitKnown = []string{"Gloves"}, []string{"gloves"}[:n("gloves", 1)], rapid.Bool().Draw(t, "looked")
	if rapid.Bool().Draw(t, "paper") {
		e.Papers = []Paper{{curriculum.Membership, today.AddDays(n("until", 400) - 100)}}
	}
	return e
}

func anyRule(t *rapid.T, name string) curriculum.Rule {
	r := curriculum.Rule{Kind: rapid.SampledFrom(curriculum.RuleKinds).Draw(t, name), Amount: 1}
	if r.Kind.Counted() {
		r.Amount = rapid.IntRange(1, 60).Draw(t, name+" amount")
	}
	if r.Kind == curriculum.ClassesSince {
		r.Of = rapid.SampledFrom([]string{"", "", "sparring", "weapons"}).Draw(t, name+" of")
	}
	if r.Kind == curriculum.ClassesSince || r.Kind == curriculum.ClassShare {
		r.Modes = rapid.SampledFrom([]string{"", "hall", "hall live recorded"}).Draw(t, name+" modes")
	}
	return r
}

// later is the evidence on a later day when every timetabled class was attended in the hall
// and everything missing was given at once.
func (e Evidence) later(d civil.Date) Evidence {
	out := e
	out.Today, out.Attended, out.Held = d, maps.Clone(e.Attended), maps.Clone(e.Held)
	for kind, days := range e.Ahead {
		if kind == "" {
			continue
		}
		n := before(days, d.AddDays(1))
		out.Attended[Attendance{kind, timetable.Hall}] += n
		out.Held[Attendance{kind, timetable.Hall}] += n
	}
	out.Word, out.Character, out.KitKnown, out.Owned = "R.", "tidies", true, e.Kit
	out.Papers = []Paper{{Kind: curriculum.Membership}, {Kind: curriculum.Insurance}, {Kind: curriculum.Disclaimer}}
	out.Stripes = []StripeState{{Section: "Kicks", Awarded: d}}
	out.Sections = nil
	return out
}

// TestLawsOfEligibility: the earliest day is truly the first one, time never makes anyone
// less eligible, another rule never makes anyone more so, more classes never less, and
// missing evidence is no failure.
func TestLawsOfEligibility(t *testing.T) {
	rank := map[State]int{NotMet: 0, Unknown: 1, Met: 2}
	rapid.Check(t, func(t *rapid.T) {
		today := anyDay(t, "today")
		e := anyEvidence(t, today)
		var rules []curriculum.Rule
		for i := range rapid.IntRange(0, 4).Draw(t, "rules") {
			rules = append(rules, anyRule(t, string(rune('a'+i))))
		}
		v := Judge(rules, e, today)
		require.LessOrEqual(t, rank[Judge(append(slices.Clone(rules), anyRule(t, "more")), e, today).State], rank[v.State], "another rule")
		if len(e.Papers) == 0 { // a paper may end
			require.LessOrEqual(t, rank[v.State], rank[Judge(rules, e, today.AddDays(rapid.IntRange(0, 400).Draw(t, "later"))).State], "time")
		}
		more := e
		more.Attended = maps.Clone(e.Attended)
		more.Attended[Attendance{rapid.SampledFrom([]string{"general", "sparring"}).Draw(t, "more of"), rapid.SampledFrom(timetable.Modes).Draw(t, "more by")}] += rapid.IntRange(1, 30).Draw(t, "more classes")
		require.LessOrEqual(t, rank[v.State], rank[Judge(rules, more, today).State], "more classes")
		less := e
		less.Born, less.Papers, less.KitKnown, less.Registered = civil.Date{}, nil, false, civil.Date{}
		if v.State == Met {
			require.NotEqual(t, NotMet, Judge(rules, less, today).State, "missing evidence is never a failure")
		}
		for i, a := range v.Answers[len(v.Answers)-len(rules):] {
			if a.State == Unknown && rules[i].Kind == curriculum.ClassesSince {
				continue // how many there were nobody knows
			}
			// Walk the days: met on the earliest day, and on none before.
			first := civil.Date{}
			for d := today; today.DaysTo(d) < 900; d = d.AddDays(1) {
				l := e.later(d)
				l.RetestFrom = civil.Date{}
				if Judge(rules[i:i+1], l, d).State == Met {
					first = d
					break
				}
			}
			if a.Earliest.IsZero() || today.DaysTo(a.Earliest) >= 900 {
				require.True(t, first.IsZero(), "%s: no day was in sight, but %s is one", a.Kind, first)
			} else {
				require.Equal(t, civil.Max(today, a.Earliest).String(), first.String(), "%s", a.Kind)
			}
		}
	})
}

// TestForesee: what is certain is told as certain, chances rise with the days and with the
// classes attended, and holidays bring no day nearer.
func TestForesee(t *testing.T) {
	today := day("2026-11-24")
	week := timetable.Table{Classes: []timetable.Class{{Name: "A", Kind: "general", Weekday: 2, Start: 1, Minutes: 60, From: day("2020-01-01")}, {Name: "B", Kind: "sparring", Weekday: 5, Start: 1, Minutes: 60, From: day("2020-01-01")}}}
	ahead := week.Ahead(today.AddDays(1), "", "")
	regular := make(Pace, 30)
	for i := range regular {
		regular[i] = Week{Came: 2, Held: 2}
	}
	prior := UsualPace([]Pace{regular}, 2)
	assert.InDelta(t, 2, prior.PerWeek, 0.1)
	see := func(n Need, p Pace) Forecast { return n.Foresee(p, prior, ahead, 2, today) }

	f := see(Need{From: day("2027-01-09")}, regular)
	assert.Equal(t, []string{"2027-01-09", "2027-01-09", "2027-01-09"}, []string{f.Early.String(), f.Likely.String(), f.Late.String()})
	assert.Equal(t, []int{0, 100}, []int{f.Chance(day("2027-01-08")), f.Chance(day("2027-01-09"))})
	assert.Equal(t, "not before Sat 9 Jan 2027", SayDrives(f.Drives))
	f = see(Need{}, regular)
	assert.Equal(t, today, f.Likely)
	assert.Equal(t, "nothing is missing", SayDrives(f.Drives))
	f = see(Need{Never: &Answer{Lack: Lack{Kind: LackNever}}}, regular)
	assert.True(t, f.Late.IsZero())
	assert.Equal(t, 0, f.Chance(today.AddDays(900)))

	f = see(Need{Classes: []ClassNeed{{Lack: 10}, {Of: "sparring", Lack: 3}}, Signed: 2}, regular)
	assert.Equal(t, "10 classes more and 3 sparring classes more at 2.0 a week, and 2 requirements to be signed off, 5.0 in ten classes", SayDrives(f.Drives))
	assert.True(t, f.Early.Before(f.Likely) && f.Likely.Before(f.Late), "%s %s %s", f.Early, f.Likely, f.Late)
	assert.InDelta(t, 35, today.DaysTo(f.Likely), 15)
	sluggish := slices.Clone(regular)
	for i := range sluggish[20:] {
		sluggish[20+i].Came = 0
	}
	slow := see(Need{Classes: []ClassNeed{{Lack: 10}}}, sluggish)
	assert.Contains(t, SayDrives(slow.Drives), "away for 10 weeks with classes")
	assert.True(t, f.Likely.Before(slow.Likely))
	week.Closures = []timetable.Closure{{From: today.AddDays(5), To: today.AddDays(33)}}
	closed := Need{Classes: []ClassNeed{{Lack: 10}}}.Foresee(regular, prior, week.Ahead(today.AddDays(1), "", ""), 2, today)
	assert.InDelta(t, 28, see(Need{Classes: []ClassNeed{{Lack: 10}}}, regular).Likely.DaysTo(closed.Likely), 7, "four weeks without classes")
	assert.True(t, see(Need{Classes: []ClassNeed{{Of: "weapons", Lack: 1}}}, regular).Late.IsZero(), "no such class")

	rapid.Check(t, func(t *rapid.T) {
		p := make(Pace, rapid.IntRange(0, PaceWeeks).Draw(t, "weeks"))
		for i := range p {
			p[i] = Week{Came: rapid.IntRange(0, 3).Draw(t, "came"), Held: rapid.IntRange(0, 2).Draw(t, "held"), Open: rapid.IntRange(0, 3).Draw(t, "open"), Signed: rapid.IntRange(0, 1).Draw(t, "signed")}
		}
		n := Need{Signed: rapid.IntRange(0, 9).Draw(t, "signs"), From: today.AddDays(rapid.IntRange(-9, 60).Draw(t, "from"))}
		if lack := rapid.IntRange(0, 40).Draw(t, "lack"); lack > 0 {
			n.Classes = []ClassNeed{{Lack: lack}}
		}
		f := n.Foresee(p, prior, ahead, 2, today)
		last := -1
		for i := range 60 {
			c := f.Chance(today.AddDays(i * 9))
			require.GreaterOrEqual(t, c, last, "chances rise with the days")
			last = c
		}
		if !f.Late.IsZero() {
			require.False(t, f.Likely.Before(f.Early) || f.Late.Before(f.Likely))
			require.Greater(t, f.at(f.Late), 0.8, "nearest to nine in ten")
		}
		harder := n
		harder.Classes = []ClassNeed{{Lack: 41}}
		h := harder.Foresee(p, prior, ahead, 2, today)
		require.LessOrEqual(t, h.at(today.AddDays(120)), f.at(today.AddDays(120))+1e-9, "a larger need is no nearer")
		require.Equal(t, f.Likely, n.Foresee(p, prior, ahead, 2, today).Likely, "the same again")
	})
}
