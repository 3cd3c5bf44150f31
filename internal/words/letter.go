package words

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
)

// CheckDetail is what is known of something a candidate brings; "" says nothing more.
func CheckDetail(i gradingday.CheckItem) string {
	switch {
	case i.Answer != nil:
		if lack := Lack(*i.Answer); i.State != progress.Met && lack != "" {
			return "missing: " + lack
		}
		return Figure(*i.Answer, i.On)
	case i.Kind == "kit" && i.State == progress.Unknown:
		return "nobody has looked"
	case i.Kind == "kit" && i.State == progress.NotMet:
		return "not owned"
	case i.Kind == "measure":
		return "not measured; sparring pairs are matched on it"
	case i.Kind == "contact":
		return "none is on record"
	}
	return ""
}

// Note is a message to a candidate or their guardian.
type Note struct{ Subject, Body string }

// Invitation is what a message about the day says.
type Invitation struct {
	School, Word      string // "grading"
	Name, To          string // the new rank in the school's words
	Guardian          string // "" the student is written to
	On                civil.Date
	Place             string
	Come, Begin, Ends int // times of day; 0: no plan yet
	Ring              string
	Items             []gradingday.CheckItem
	Cautions          []string
	From              string // who signs
}

// list writes what is to be said of items of some kinds, under a title where there is anything.
func (x Invitation) list(b *strings.Builder, title string, kinds []string, said func(gradingday.CheckItem) string) {
	first := true
	for _, i := range x.Items {
		if !slices.Contains(kinds, i.Kind) {
			continue
		}
		w := said(i)
		if w == "" {
			continue
		}
		if first {
			fmt.Fprintf(b, "\n%s\n", title)
			first = false
		}
		b.WriteString("- " + w + "\n")
	}
}

// Invite writes what to bring and when to come.
func Invite(x Invitation) Note {
	var b strings.Builder
	who := x.Guardian
	if who == "" {
		who = x.Name
	}
	fmt.Fprintf(&b, "Dear %s,\n\n", who)
	whose := "you are"
	if x.Guardian != "" {
		whose = x.Name + " is"
	}
	fmt.Fprintf(&b, "%s entered for the %s on %s, for %s.\n\n", whose, x.Word, x.On.Long(), x.To)
	if x.Place != "" {
		fmt.Fprintf(&b, "Where: %s\n", x.Place)
	}
	if x.Begin > 0 {
		fmt.Fprintf(&b, "Come at: %s, in uniform, to warm up\nThe test begins at %s in %s and is over at about %s.\n", timetable.Clock(x.Come), timetable.Clock(x.Begin), x.Ring, timetable.Clock(x.Ends))
	} else {
		b.WriteString("When: the time is still to be set; we shall write again.\n")
	}
	x.list(&b, "Bring:", []string{"kit"}, func(i gradingday.CheckItem) string {
		switch i.State {
		case progress.NotMet:
			return i.What + " (not on our list of what you own: please tell us if you need it)"
		case progress.Unknown:
			return i.What + " (please check that it fits and is whole)"
		}
		return i.What
	})
	x.list(&b, "Still missing before the day:", []string{"paper", "evidence"}, func(i gradingday.CheckItem) string {
		if i.State == progress.Met {
			return ""
		}
		if detail := CheckDetail(i); detail != "" {
			return i.What + ", " + detail
		}
		return i.What
	})
	x.list(&b, "We shall measure on the day:", []string{"measure"}, func(i gradingday.CheckItem) string { return i.What })
	b.WriteString("\nWhoever is ill, injured or not fit on the day does not test; tell us, and another day is found. An adaptation on record is no worse. If anything medical has changed, ask your doctor first and tell the instructor.\n")
	for _, c := range x.Cautions {
		b.WriteString("- " + c + "\n")
	}
	fmt.Fprintf(&b, "\n%s\n%s\n", x.From, x.School)
	return Note{fmt.Sprintf("%s: the %s on %s", x.Name, x.Word, x.On.Long()), b.String()}
}
