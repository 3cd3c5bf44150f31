package words

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// unit is what a rule counts.
func unit(r curriculum.Rule) string {
	switch r.Kind {
	case curriculum.MonthsSince:
		return "month"
	case curriculum.DaysSince:
		return "day"
	case curriculum.LeastAge:
		return "year"
	case curriculum.ClassesSince:
		return strings.TrimSpace(r.Of + " class")
	case curriculum.AllStripes:
		return "stripe"
	case curriculum.AllSignedOff, curriculum.EachSignedOff:
		return "requirement"
	}
	return ""
}

// Figure is what is, of a rule: 4 months, 3 of 5. on is the day it was judged for.
func Figure(a progress.Answer, on civil.Date) string {
	switch a.Rule().Kind {
	case curriculum.MonthsSince, curriculum.DaysSince, curriculum.LeastAge:
		if !a.Counted {
			return ""
		}
		return Count(a.Have, unit(a.Rule()))
	case curriculum.RetestWait:
		return on.Long()
	case curriculum.ClassesSince:
		return classesHad(a)
	case curriculum.ClassShare:
		if !a.Counted {
			return ""
		}
		return fmt.Sprintf("%d of %d classes, %d percent", a.Have, a.Held, a.Have*100/a.Held)
	case curriculum.KitOwned:
		if len(a.Asked) == 0 {
			return "none is asked"
		}
	case curriculum.Membership, curriculum.Insurance, curriculum.Disclaimer:
		return validity(a)
	case curriculum.CharacterTask:
		return a.By
	case curriculum.Word:
		if a.By == "" {
			return ""
		}
		return "given by " + a.By
	}
	if !a.Counted {
		return ""
	}
	return fmt.Sprintf("%d of %d", a.Have, a.Need)
}

func classesHad(a progress.Answer) string {
	if !a.Counted {
		return "no register was kept"
	}
	had := Count(a.Have, unit(a.Rule()))
	if !a.Since.IsZero() {
		had += " since the registers began on " + a.Since.Long()
	}
	return had
}

func validity(a progress.Answer) string {
	switch {
	case !a.Counted:
		return ""
	case a.Until.IsZero():
		return "valid"
	case a.State == progress.NotMet:
		return "ends on " + a.Until.Long()
	}
	return "valid until " + a.Until.Long()
}

// Lack is what would change an answer; "" nothing is missing.
func Lack(a progress.Answer) string {
	l := a.Lack
	switch l.Kind {
	case progress.LackDays:
		return Count(l.N, "day") + " more"
	case progress.LackClasses:
		more := Count(l.N, unit(a.Rule())) + " more"
		if l.NoClass {
			more += "; so many are not on the timetable"
		}
		return more
	case progress.LackUnbroken:
		return Count(l.N, "class") + " more without missing one"
	case progress.LackNever:
		return "nothing can mend it: a class was missed"
	case progress.LackThings:
		return things(l, unit(a.Rule()))
	case progress.LackPromotion:
		return "the day of the last promotion"
	case progress.LackBirthDate:
		return "the birth date"
	case progress.LackKitLook:
		return "a look at the kit: " + things(l, "")
	case progress.LackPaper:
		return "the " + string(a.Rule().Kind)
	case progress.LackNewPaper:
		return "a new " + string(a.Rule().Kind)
	case progress.LackExample:
		return "an example from the family"
	case progress.LackWord:
		return "an instructor who says so"
	case progress.LackRegisters:
		return "the registers since " + l.On.Long()
	case progress.LackRegistersBefore:
		return "the registers before " + l.On.Long()
	case progress.LackRegister:
		return "a register since " + l.On.Long()
	}
	return ""
}

// isOrAre is the verb behind what is missing.
func isOrAre(a progress.Answer) string {
	if a.Lack.Kind == progress.LackRegisters || a.Lack.Kind == progress.LackRegistersBefore {
		return " are "
	}
	return " is "
}

// given says that what is missing is there.
func given(a progress.Answer) string {
	if a.Lack.Kind == progress.LackWord {
		return "an instructor says so"
	}
	return Lack(a) + isOrAre(a) + "given"
}

// fewNamed is how many missing things are named before the rest is only counted.
const fewNamed = 4

// things names some of what is missing, and counts the rest.
func things(l progress.Lack, noun string) string {
	list := slices.Clone(l.Names)
	for i, n := range l.Each {
		list[i] = fmt.Sprintf("%d of %s", n, list[i])
	}
	if len(list) <= fewNamed {
		return strings.Join(list, ", ")
	}
	said := strings.Join(list[:fewNamed-1], ", ") + fmt.Sprintf(" and %d more", len(list)-fewNamed+1)
	if noun != "" {
		said += " " + check.Plural(noun)
	}
	return said
}

// Verdict is a verdict in a phrase: "may test", "from Tue 12 Jan 2027: 19 days more", "not
// known: the birth date is missing".
func Verdict(v progress.Verdict) string {
	switch v.State {
	case progress.Met:
		return "may test"
	case progress.NotMet:
		return notYet(v)
	}
	for _, a := range v.Answers {
		if a.State == progress.Unknown {
			return "not known: " + Lack(a) + isOrAre(a) + "missing"
		}
	}
	return "not known"
}

func notYet(v progress.Verdict) string {
	var lacks, ifs []string
	for _, a := range v.Answers {
		switch a.State {
		case progress.NotMet:
			lacks = append(lacks, Lack(a)+" missing")
		case progress.Unknown:
			ifs = append(ifs, ", if "+given(a))
		}
	}
	said := "from " + v.Earliest.Long()
	if v.Earliest.IsZero() {
		said = "not in sight"
	} else if v.Earliest == v.On { // what is missing can be given at once
		said = "not yet: " + strings.Join(lacks, ", ")
	}
	return said + strings.Join(ifs, "")
}

// Missing says in a sentence what is missing until the next test, and when it can be, for a family. unseen is how much of the test has not
// been shown yet, which no rule may ask for.
func Missing(name, rung string, v progress.Verdict, unseen int) string {
	switch {
	case v.State == progress.Met && unseen == 0:
		return fmt.Sprintf("Nothing is missing: %s may be tested for %s.", name, rung)
	case v.State == progress.Met && unseen == 1:
		return fmt.Sprintf("%s may be tested for %s. One thing on the test has not been shown in full yet; it comes first below.", name, rung)
	case v.State == progress.Met:
		return fmt.Sprintf("%s may be tested for %s. %d things on the test have not been shown in full yet; they come first below.", name, rung, unseen)
	}
	var out []string
	for _, a := range v.Answers {
		if a.State != progress.Met {
			out = append(out, forFamily(a))
		}
	}
	said := fmt.Sprintf("Before %s can be tested for %s: %s.", name, rung, List(out))
	if !v.Earliest.IsZero() && v.On.Before(v.Earliest) {
		said += " The earliest day is " + v.Earliest.Long() + "."
	}
	return said
}

func forFamily(a progress.Answer) string {
	n := func(one, many string) string {
		if a.Lacks == 1 {
			return one
		}
		return fmt.Sprintf(many, a.Lacks)
	}
	unknown := a.State == progress.Unknown
	switch a.Rule().Kind {
	case curriculum.ClassesSince, curriculum.ClassShare:
		if unknown {
			return "the school looks up how many classes there were"
		}
		of := ""
		if a.Rule().Of != "" {
			of = strings.ToLower(a.Rule().Of) + " "
		}
		return n("one more "+of+"class", "%d more "+of+"classes")
	case curriculum.MonthsSince, curriculum.DaysSince:
		return "some time with this belt, until " + a.Earliest.Long()
	case curriculum.RetestWait:
		return "the wait after the last test, until " + a.Earliest.Long()
	case curriculum.LeastAge:
		if unknown {
			return "the school needs the date of birth"
		}
		return "the birthday on " + a.Earliest.Long()
	case curriculum.AllSignedOff, curriculum.EachSignedOff:
		return n("one thing is still to be shown", "%d things are still to be shown")
	case curriculum.AllStripes:
		return n("one stripe is still to be earned", "%d stripes are still to be earned")
	case curriculum.KitOwned:
		return "kit to bring: " + things(a.Lack, "")
	case curriculum.Membership, curriculum.Insurance, curriculum.Disclaimer:
		return a.Rule().Words() + ", at the desk"
	case curriculum.CharacterTask:
		return "an example for the character task, from the family"
	case curriculum.Word:
		return "the instructor’s word that it is time"
	}
	return a.Rule().Words()
}

// List is a list as one says it: a, b and c.
func List(all []string) string {
	if len(all) < 2 {
		return strings.Join(all, "")
	}
	return strings.Join(all[:len(all)-1], ", ") + " and " + all[len(all)-1]
}

// Anew is why the answer about what is signed off is another one since the upgrade.
func Anew(x progress.Anew) string {
	if x.Met {
		return fmt.Sprintf("%d of %d were signed off on this climb; the others were seen before, at gradings or on entry, at what is asked now.", x.Done, x.Of)
	}
	named := x.Open[:min(fewNamed, len(x.Open))]
	more := ""
	if n := len(x.Open) - len(named); n > 0 {
		more = fmt.Sprintf(" and %d more", n)
	}
	return "Everything new was signed off. What lower rungs asked counts too now, at what is asked here, and was never seen: " + strings.Join(named, "; ") + more + "."
}

// Why is why somebody came to stand on a rung; "" where there is no more to say.
func Why(w progress.Why) string {
	said := map[progress.Because]string{
		progress.BecauseHonours: "with honours", progress.BecauseReferred: "referred for double promotion", progress.BecauseDouble: "double promotion",
		progress.BecauseCorrected: "result corrected", progress.BecauseCameBack: "came back",
	}[w.Because]
	if w.Because == progress.BecauseMerit {
		said = "merit stripe on " + w.On.Long()
	}
	if said == "" {
		return w.Reason
	}
	return said + because(w.Reason)
}
