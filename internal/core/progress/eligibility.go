package progress

import (
	"slices"

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

// Answer is one rule held against the evidence on a day. What is and what is asked are counts of what the
// rule counts: months, days, years, classes, requirements, stripes, pieces of kit.
type Answer struct {
	Kind     curriculum.RuleKind // the rule's key
	State    State
	Have     int
	Need     int
	Held     int        // classes held, of a share, whose Need is in percent
	Counted  bool       // Have is known
	Since    civil.Date // of classes: the day the registers began, where they do not reach back
	Until    civil.Date // of a paper: the last day on which it is valid; zero: it does not end
	By       string     // who gave the word; the example of the character task
	Asked    []string   // the kit that is asked
	Lack     Lack       // what would change it
	Lacks    int        // classes, requirements or stripes that are missing, 0 of other rules
	Earliest civil.Date // the first day on which the rule can be met, every timetabled class attended and missing evidence given at once; zero: none in sight
	Waived   string     // the reason; "" it is not waived

	rule curriculum.Rule
}

// LackKind says what is missing.
type LackKind string

// What can be missing. LackNothing is the zero value.
const (
	LackNothing         LackKind = ""
	LackDays            LackKind = "days"             // N more
	LackClasses         LackKind = "classes"          // N more
	LackUnbroken        LackKind = "unbroken"         // N more classes without missing one
	LackNever           LackKind = "never"            // a class was missed, and all are asked
	LackThings          LackKind = "things"           // those named; how many, Answer.Lacks says
	LackPromotion       LackKind = "promotion"        // the day of the last one
	LackBirthDate       LackKind = "birth_date"       //
	LackKitLook         LackKind = "kit_look"         // nobody has looked at the kit
	LackPaper           LackKind = "paper"            // none is on record
	LackNewPaper        LackKind = "new_paper"        // the one on record ends before
	LackExample         LackKind = "example"          //
	LackWord            LackKind = "word"             //
	LackRegisters       LackKind = "registers"        // since On
	LackRegistersBefore LackKind = "registers_before" // before On
	LackRegister        LackKind = "register"         // one since On
)

// Lack is what is missing.
type Lack struct {
	Kind    LackKind
	N       int
	Names   []string   // of things: requirements, stripes, pieces of kit, sections
	Each    []int      // of sections: how many are missing in each; nil of other things
	On      civil.Date // of registers
	NoClass bool       // so many classes are not on the timetable
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
			a.State, a.Waived, a.Lack, a.Lacks, a.Earliest = Met, reason, Lack{}, 0, on
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
	switch r.Kind {
	case curriculum.MonthsSince, curriculum.DaysSince:
		return e.since(a, r, on)
	case curriculum.LeastAge:
		if a.Need = r.Amount; e.Born.IsZero() {
			a.Lack.Kind = LackBirthDate
			return a
		}
		a.Have, a.Counted = max(e.Born.Age(on), 0), true
		return a.until(Birthday(e.Born, r.Amount), on)
	case curriculum.RetestWait:
		return a.until(e.RetestFrom, on)
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
		return a.given(done, len(e.Stripes), Lack{Names: open})
	case curriculum.AllSignedOff, curriculum.EachSignedOff:
		return e.signedOff(a, r)
	case curriculum.KitOwned:
		return e.kit(a)
	case curriculum.Membership, curriculum.Insurance, curriculum.Disclaimer:
		return e.paper(a, r, on)
	case curriculum.CharacterTask:
		return a.said(e.Character, LackExample)
	case curriculum.Word:
		return a.said(e.Word, LackWord)
	}
	return a
}

// until answers a rule that is met from a day on.
func (a Answer) until(day, on civil.Date) Answer {
	if a.Earliest = day; on.Before(day) {
		a.State, a.Lack = NotMet, Lack{Kind: LackDays, N: on.DaysTo(day)}
	} else {
		a.State = Met
	}
	return a
}

// given answers a rule of which so many are done; what is missing can be given today.
func (a Answer) given(done, of int, lack Lack) Answer {
	a.Have, a.Need, a.Counted = done, of, true
	if a.State = Met; done < of {
		lack.Kind = LackThings
		a.State, a.Lacks, a.Lack = NotMet, of-done, lack
	}
	return a
}

// said answers a rule that is met by what somebody says.
func (a Answer) said(by string, lack LackKind) Answer {
	if a.By = by; by == "" {
		a.Lack.Kind = lack
		return a
	}
	a.State = Met
	return a
}

// since answers how long ago the last promotion was.
func (e Evidence) since(a Answer, r curriculum.Rule, on civil.Date) Answer {
	a.Need = r.Amount
	if e.Since.IsZero() {
		a.Lack.Kind = LackPromotion
		return a
	}
	a.Counted = true
	if r.Kind == curriculum.MonthsSince {
		a.Have = fullMonths(e.Since, on)
		return a.until(e.Since.AddMonths(r.Amount), on)
	}
	a.Have = max(e.Since.DaysTo(on), 0)
	return a.until(e.Since.AddDays(r.Amount), on)
}

// signedOff answers how much is signed off, in all or in each section.
func (e Evidence) signedOff(a Answer, r curriculum.Rule) Answer {
	done, of, lack := 0, 0, Lack{}
	for _, s := range e.Sections {
		need := s.Of
		if r.Kind == curriculum.EachSignedOff {
			need = min(need, r.Amount)
		}
		done, of = done+min(s.Done, need), of+need
		if missing := need - s.Done; missing > 0 && r.Kind == curriculum.EachSignedOff {
			lack.Names, lack.Each = append(lack.Names, s.Name), append(lack.Each, missing)
		} else if missing > 0 {
			lack.Names = append(lack.Names, s.Open...)
		}
	}
	return a.given(done, of, lack)
}

// kit answers whether the student owns what the rung asks.
func (e Evidence) kit(a Answer) Answer {
	a.Asked = e.Kit
	if len(e.Kit) == 0 {
		a.State = Met
		return a
	}
	if !e.KitKnown {
		a.Lack = Lack{Kind: LackKitLook, Names: e.Kit}
		return a
	}
	var lacks []string
	for _, k := range e.Kit {
		if !slices.ContainsFunc(e.Owned, func(o string) bool { return check.Key(o) == check.Key(k) }) {
			lacks = append(lacks, k)
		}
	}
	return a.given(len(e.Kit)-len(lacks), len(e.Kit), Lack{Names: lacks})
}

// paper answers whether a membership, an insurance or a disclaimer is valid.
func (e Evidence) paper(a Answer, r curriculum.Rule, on civil.Date) Answer {
	a.Lack.Kind = LackPaper
	for _, p := range e.Papers {
		if p.Kind != r.Kind {
			continue
		}
		a.Until, a.Counted = p.Until, true
		if p.Until.IsZero() || !p.Until.Before(on) {
			a.State, a.Lack = Met, Lack{}
			return a
		}
		a.State, a.Lack.Kind = NotMet, LackNewPaper
	}
	return a
}

// classes answers how many classes were attended. Those to come are counted from the day the
// evidence was read.
func (e Evidence) classes(a Answer, r curriculum.Rule) Answer {
	n := e.Attended.count(r)
	a.Have, a.Need, a.Counted = n, r.Amount, true
	if n >= r.Amount {
		a.State = Met
		return a
	}
	a.Lacks = r.Amount - n
	a.Earliest, _ = e.Ahead.Nth(r.Of, a.Lacks)
	switch {
	case e.Since.IsZero():
		a.Lack.Kind = LackPromotion
	case e.Registered.IsZero():
		a.Counted, a.Lack = false, Lack{Kind: LackRegisters, On: e.Since}
	case e.Since.Before(e.Registered):
		a.Since, a.Lack = e.Registered, Lack{Kind: LackRegistersBefore, On: e.Registered}
	default:
		a.State, a.Lack = NotMet, Lack{Kind: LackClasses, N: a.Lacks, NoClass: a.Earliest.IsZero()}
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
	if a.Need, a.Held = r.Amount, held; held == 0 {
		a.Lack = Lack{Kind: LackRegister, On: e.Since}
		return a
	}
	a.Have, a.Counted = n, true
	if n*100 >= r.Amount*held {
		a.State = Met
		return a
	}
	a.State = NotMet
	if r.Amount == 100 {
		a.Earliest, a.Lack.Kind = civil.Date{}, LackNever
		return a
	}
	// The least j with (n+j)·100 ≥ percent·(held+j).
	a.Lacks = (r.Amount*held - 100*n + 99 - r.Amount) / (100 - r.Amount)
	a.Earliest, _ = e.Ahead.Nth("", a.Lacks)
	a.Lack = Lack{Kind: LackUnbroken, N: a.Lacks}
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
