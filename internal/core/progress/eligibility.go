package progress

import (
	"fmt"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
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
	Waived     map[curriculum.RuleKind]string // rules the owner has waived, with the reason
}

// Answer is one rule held against the evidence on a day.
type Answer struct {
	Kind      curriculum.RuleKind
	State     State
	Figure    string     // what is: "4 months"
	Threshold string     // what is asked: "6 months"
	Missing   string     // what would change it; "" nothing is missing
	Earliest  civil.Date // the first day on which the rule can be met, missing evidence given at once
	Waived    string     // the reason; "" it is not waived
}

// Verdict is all rules together.
type Verdict struct {
	State    State
	Answers  []Answer
	Earliest civil.Date // the first day on which all of them can be met
}

// Judge holds rules against the evidence on a day. Any rule not met: not met; else any
// unknown: unknown; else met. Without rules nothing stands in the way. A waived rule is met.
//
//	months: the day of the promotion that many months later, on the last day of a month that
//	        is too short
//	age:    the birthday; one born on 29 February has it on 1 March of a common year
func Judge(rules []curriculum.Rule, e Evidence, on civil.Date) Verdict {
	v := Verdict{State: Met, Earliest: on}
	if !e.RetestFrom.IsZero() {
		rules = append([]curriculum.Rule{{Kind: curriculum.RetestWait}}, rules...)
	}
	for i, r := range rules {
		a := judge(r, e, on)
		if reason, waived := e.Waived[r.Kind]; waived {
			a.State, a.Waived, a.Missing, a.Earliest = Met, reason, "", on
		}
		v.Answers = append(v.Answers, a)
		if a.State == NotMet || a.State == Unknown && v.State == Met {
			v.State = a.State
		}
		if i == 0 || v.Earliest.Before(a.Earliest) {
			v.Earliest = a.Earliest
		}
	}
	return v
}

func judge(r curriculum.Rule, e Evidence, on civil.Date) Answer {
	a := Answer{Kind: r.Kind, State: Unknown, Earliest: on}
	// until answers a rule that is met from a day on.
	until := func(day civil.Date) Answer {
		if a.Earliest = day; on.Before(day) {
			a.State, a.Missing = NotMet, count(on.DaysTo(day), "day")+" more"
		} else {
			a.State = Met
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
	if n == 1 {
		return "1 " + noun
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
