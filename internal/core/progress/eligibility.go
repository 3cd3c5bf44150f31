package progress

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/timetable"
)

// State is how a rule, or all of them, are answered.
type State string

// The states. Missing evidence is never a failure: it is unknown.
const (
	Met     State = "met"
	NotMet  State = "not_met"
	Unknown State = "unknown"
)

// Evidence is what is on record about one climb to the next rung.
type Evidence struct {
	Since      civil.Date                     // of the last promotion, or the start; zero: not known
	Born       civil.Date                     // zero: not known
	RetestFrom civil.Date                     // the earliest day after an announced retest; zero: none
	Word       string                         // who said that the student is ready; "" nobody
	Waived     map[curriculum.RuleKind]string // by the key of the rules the owner has waived: the reason

	Today      civil.Date      // the day on which the evidence was read; zero: the day it is judged on
	Attended   Attended        // classes since Since
	Registered civil.Date      // the first day on which a register of the program was kept; zero: none was
	Held       Attended        // classes held since, of the program and track, by registers kept
	Ahead      timetable.Ahead // classes to come after Today
	Sections   []SectionDone   // what the rung asks, bonus lines aside, by section; nil: not looked up
	Done       []civil.Date    // days on which lines of it were done, in order; what is presumed has none
	Stripes    []StripeState   // section stripes of the rung
	Kit        []string        // asked for the rung
	Owned      []string        // kit on record
	KitKnown   bool            // whether anybody looked what kit there is
	Papers     []Paper
	Character  string // what the family gave as an example; "" nothing
}

// Attended counts classes by kind (check.Key of it) and mode.
type Attended map[Attendance]int

// Attendance is how a class was attended.
type Attendance struct {
	Kind string
	Mode timetable.Mode
}

// count adds up what a rule counts.
func (a Attended) count(r curriculum.Rule) (n int) {
	of := check.Key(r.Of)
	for k, x := range a {
		if (of == "" || of == k.Kind) && r.Counts(k.Mode) {
			n += x
		}
	}
	return n
}

// SectionDone is how much of a section's requirements is signed off.
type SectionDone struct {
	ID, Name string
	Done, Of int
	Open     []string // what is not signed off yet, in the words of the test sheet
}

// StripeState is a section stripe on the way to a rung.
type StripeState struct {
	SectionID, Section, Colour string
	Due                        bool       // every requirement of the section is signed off
	Awarded                    civil.Date // zero: not yet
}

// Paper is a membership, an insurance or a signed disclaimer.
type Paper struct {
	Kind  curriculum.RuleKind `json:"kind"`
	Until civil.Date          `json:"until"` // the last day on which it is valid; zero: it does not end
}

// Answer is one rule held against the evidence on a day.
type Answer struct {
	Kind      curriculum.RuleKind // the rule's key
	State     State
	Figure    string     // what is: "4 months"
	Threshold string     // what is asked: "6 months"
	Missing   string     // what would change it; "" nothing is missing
	Lacks     int        // classes, requirements or stripes that are missing, 0 of other rules
	Earliest  civil.Date // the first day on which the rule can be met, every timetabled class attended and missing evidence given at once; zero: none in sight
	Waived    string     // the reason; "" it is not waived

	rule curriculum.Rule
}

// Rule is the rule that was held.
func (a Answer) Rule() curriculum.Rule { return a.rule }

// Words is the rule as it is asked.
func (a Answer) Words() string { return a.rule.Words() }

// Verdict is all rules together.
type Verdict struct {
	State    State
	Answers  []Answer
	Earliest civil.Date // the first day on which all of them can be met; zero: none in sight
	On       civil.Date // the day judged
}

// Judge holds rules against the evidence on a day. Any rule not met: not met; else any
// unknown: unknown; else met. Without rules nothing stands in the way. A waived rule is met.
//
//	months:  the day of the promotion that many months later, on the last day of a month that
//	         is too short
//	age:     the birthday; one born on 29 February has it on 1 March of a common year
//	classes: counted from the day of the promotion on; none is zero where registers were kept
//	         all the while, unknown where they were not and those on record do not suffice
//	share:   attended × 100 ≥ percent × held, of the classes with a register since
func Judge(rules []curriculum.Rule, e Evidence, on civil.Date) Verdict {
	v := Verdict{State: Met, Earliest: on, On: on}
	if e.Today.IsZero() {
		e.Today = on
	}
	if !e.RetestFrom.IsZero() {
		rules = append([]curriculum.Rule{{Kind: curriculum.RetestWait}}, rules...)
	}
	v.Answers = make([]Answer, 0, len(rules))
	for i, r := range rules {
		a := judge(r, e, on)
		if reason, waived := e.Waived[a.Kind]; waived {
			a.State, a.Waived, a.Missing, a.Lacks, a.Earliest = Met, reason, "", 0, on
		}
		v.Answers = append(v.Answers, a)
		if a.State == NotMet || a.State == Unknown && v.State == Met {
			v.State = a.State
		}
		switch {
		case a.Earliest.IsZero() || v.Earliest.IsZero():
			v.Earliest = civil.Date{}
		case i == 0 || v.Earliest.Before(a.Earliest):
			v.Earliest = a.Earliest
		}
	}
	return v
}

func judge(r curriculum.Rule, e Evidence, on civil.Date) Answer {
	a := Answer{Kind: r.Key(), rule: r, State: Unknown, Earliest: on}
	// until answers a rule that is met from a day on.
	until := func(day civil.Date) Answer {
		if a.Earliest = day; on.Before(day) {
			a.State, a.Missing = NotMet, count(on.DaysTo(day), "day")+" more"
		} else {
			a.State = Met
		}
		return a
	}
	// given answers a rule of which so many are done; what is missing can be given today.
	given := func(done, of int, what string, lacks []string) Answer {
		a.Figure, a.Threshold = fmt.Sprintf("%d of %d", done, of), fmt.Sprintf("%d of %d", of, of)
		if a.State = Met; done < of {
			a.State, a.Lacks, a.Missing = NotMet, of-done, few(lacks, what)
		}
		return a
	}
	switch r.Kind {
	case curriculum.MonthsSince, curriculum.DaysSince:
		unit, day := "day", e.Since.AddDays(r.Amount)
		if r.Kind == curriculum.MonthsSince {
			unit, day = "month", e.Since.AddMonths(r.Amount)
		}
		a.Threshold = count(r.Amount, unit)
		if e.Since.IsZero() {
			a.Missing = "the day of the last promotion"
			return a
		}
		a.Figure = count(max(e.Since.DaysTo(on), 0), "day")
		if unit == "month" {
			a.Figure = count(fullMonths(e.Since, on), "month")
		}
		return until(day)
	case curriculum.LeastAge:
		a.Threshold = count(r.Amount, "year")
		if e.Born.IsZero() {
			a.Missing = "the birth date"
			return a
		}
		a.Figure = count(max(e.Born.Age(on), 0), "year")
		return until(Birthday(e.Born, r.Amount))
	case curriculum.RetestWait:
		a.Threshold = "not before " + e.RetestFrom.Long()
		a.Figure = on.Long()
		return until(e.RetestFrom)
	case curriculum.ClassesSince:
		return e.classes(a, r)
	case curriculum.ClassShare:
		return e.share(a, r)
	case curriculum.AllStripes:
		done, open := 0, []string(nil)
		for _, s := range e.Stripes {
			if s.Awarded.IsZero() {
				open = append(open, s.Section)
			} else {
				done++
			}
		}
		return given(done, len(e.Stripes), "stripe", open)
	case curriculum.AllSignedOff, curriculum.EachSignedOff:
		done, of, open := 0, 0, []string(nil)
		for _, s := range e.Sections {
			need := s.Of
			if r.Kind == curriculum.EachSignedOff {
				need = min(need, r.Amount)
			}
			done, of = done+min(s.Done, need), of+need
			if lack := need - s.Done; lack > 0 && r.Kind == curriculum.EachSignedOff {
				open = append(open, fmt.Sprintf("%d of %s", lack, s.Name))
			} else if lack > 0 {
				open = append(open, s.Open...)
			}
		}
		return given(done, of, "requirement", open)
	case curriculum.KitOwned:
		a.Threshold = few(e.Kit, "")
		if len(e.Kit) == 0 {
			a.State, a.Threshold, a.Figure = Met, "no kit", "none is asked"
			return a
		}
		if !e.KitKnown {
			a.Missing = "a look at the kit: " + few(e.Kit, "")
			return a
		}
		var lacks []string
		for _, k := range e.Kit {
			if !slices.ContainsFunc(e.Owned, func(o string) bool { return check.Key(o) == check.Key(k) }) {
				lacks = append(lacks, k)
			}
		}
		return given(len(e.Kit)-len(lacks), len(e.Kit), "", lacks)
	case curriculum.Membership, curriculum.Insurance, curriculum.Disclaimer:
		a.Threshold = "valid on " + on.Long()
		a.Missing = "the " + string(r.Kind)
		for _, p := range e.Papers {
			if p.Kind != r.Kind {
				continue
			}
			if p.Until.IsZero() || !p.Until.Before(on) {
				a.State, a.Missing, a.Figure = Met, "", "valid"
				if !p.Until.IsZero() {
					a.Figure = "valid until " + p.Until.Long()
				}
				return a
			}
			a.State, a.Figure, a.Missing = NotMet, "ends on "+p.Until.Long(), "a new "+string(r.Kind)
		}
		return a
	case curriculum.CharacterTask:
		a.Threshold = "examples from the family"
		if e.Character == "" {
			a.Missing = "an example from the family"
			return a
		}
		a.State, a.Figure = Met, e.Character
	case curriculum.Word:
		a.Threshold = "an instructor’s word"
		if e.Word == "" {
			a.Missing = "an instructor who says so"
			return a
		}
		a.State, a.Figure = Met, "given by "+e.Word
	}
	return a
}

// classes answers how many classes were attended. Those to come are counted from the day the
// evidence was read.
func (e Evidence) classes(a Answer, r curriculum.Rule) Answer {
	n := e.Attended.count(r)
	noun := "class"
	if r.Of != "" {
		noun = r.Of + " class"
	}
	a.Figure, a.Threshold = count(n, noun), count(r.Amount, noun)
	if n >= r.Amount {
		a.State = Met
		return a
	}
	a.Lacks = r.Amount - n
	a.Earliest, _ = e.Ahead.Nth(r.Of, a.Lacks)
	switch {
	case e.Since.IsZero():
		a.Missing = "the day of the last promotion"
	case e.Registered.IsZero():
		a.Figure, a.Missing = "no register was kept", "the registers since "+e.Since.Long()
	case e.Since.Before(e.Registered):
		a.Figure += " since the registers began on " + e.Registered.Long()
		a.Missing = "the registers before " + e.Registered.Long()
	default:
		a.State, a.Missing = NotMet, count(a.Lacks, noun)+" more"
		if a.Earliest.IsZero() {
			a.Missing += "; so many are not on the timetable"
		}
		return a
	}
	a.Earliest = e.Today
	return a
}

// share answers what part of the classes held was attended.
func (e Evidence) share(a Answer, r curriculum.Rule) Answer {
	n, held := e.Attended.count(r), 0
	for _, x := range e.Held {
		held += x
	}
	n = min(n, held)
	a.Threshold = fmt.Sprintf("%d percent of the classes held", r.Amount)
	if held == 0 {
		a.Missing = "a register since " + e.Since.Long()
		return a
	}
	a.Figure = fmt.Sprintf("%d of %d classes, %d percent", n, held, n*100/held)
	if n*100 >= r.Amount*held {
		a.State = Met
		return a
	}
	a.State = NotMet
	if r.Amount == 100 {
		a.Earliest, a.Missing = civil.Date{}, "nothing can mend it: a class was missed"
		return a
	}
	// The least j with (n+j)·100 ≥ percent·(held+j).
	a.Lacks = (r.Amount*held - 100*n + 99 - r.Amount) / (100 - r.Amount)
	a.Earliest, _ = e.Ahead.Nth("", a.Lacks)
	a.Missing = count(a.Lacks, "class") + " more without missing one"
	return a
}

// fewNamed is how many missing things are named before the rest is only counted.
const fewNamed = 4

// few names some of a list.
func few(list []string, what string) string {
	if len(list) <= fewNamed {
		return strings.Join(list, ", ")
	}
	words := strings.Join(list[:fewNamed-1], ", ") + fmt.Sprintf(" and %d more", len(list)-fewNamed+1)
	if what != "" {
		words += " " + what + "s"
	}
	return words
}

// Birthday is the day on which one born on a day is of an age.
func Birthday(born civil.Date, age int) civil.Date {
	day := born.AddMonths(12 * age)
	if born.Age(day) < age { // 29 February: clamped to the 28th, a day early
		day = day.AddDays(1)
	}
	return day
}

// fullMonths is the number of months from one day to another, rounded down.
func fullMonths(from, to civil.Date) int {
	n := max(from.DaysTo(to)/31, 0)
	for !to.Before(from.AddMonths(n + 1)) {
		n++
	}
	return n
}

func count(n int, noun string) string {
	switch {
	case n == 1:
		return "1 " + noun
	case strings.HasSuffix(noun, "class"):
		noun += "e"
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

// Words is a verdict in a phrase: "may test", "from Tue 12 Jan 2027: 19 days more", "not
// known: the birth date".
func (v Verdict) Words() string {
	switch v.State {
	case Met:
		return "may test"
	case NotMet:
		words := "from " + v.Earliest.Long()
		if v.Earliest.IsZero() {
			words = "not in sight"
		} else if v.Earliest == v.On { // what is missing can be given at once
			words = "not yet:"
			for i, a := range v.Answers {
				if a.State == NotMet {
					words += " " + a.Missing + " missing"
					if slices.ContainsFunc(v.Answers[i+1:], func(a Answer) bool { return a.State == NotMet }) {
						words += ","
					}
				}
			}
		}
		for _, a := range v.Answers {
			if a.State == Unknown {
				words += ", if " + a.Missing + " is given"
			}
		}
		return words
	}
	for _, a := range v.Answers {
		if a.State == Unknown {
			return "not known: " + a.Missing + " is missing"
		}
	}
	return "not known"
}
