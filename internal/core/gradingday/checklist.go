package gradingday

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
)

// CheckItem is one thing a candidate brings, or that is missing about them.
type CheckItem struct {
	Kind   string // kit, paper, evidence, measure, contact
	What   string
	State  progress.State
	Detail string // "" says nothing more
}

// Bringing is what is known of a candidate before the day.
type Bringing struct {
	Kit      []string  // asked for the rung
	Owned    *[]string // nil: nobody looked
	Verdict  progress.Verdict
	Spars    bool
	HeightCM int
	WeightKG int
	Contact  string
}

// Checklist is what a candidate must bring and what is missing, kit first. What is not known is
// unknown, never missing.
func Checklist(b Bringing) (out []CheckItem) {
	for _, k := range b.Kit {
		item := CheckItem{"kit", k, progress.Unknown, "nobody has looked"}
		if b.Owned != nil {
			item.State, item.Detail = progress.NotMet, "not owned"
			if slices.ContainsFunc(*b.Owned, func(o string) bool { return check.Key(o) == check.Key(k) }) {
				item.State, item.Detail = progress.Met, ""
			}
		}
		out = append(out, item)
	}
	for _, a := range b.Verdict.Answers {
		if a.Kind == curriculum.KitOwned || a.Waived != "" {
			continue
		}
		detail := a.Figure
		if a.State != progress.Met && a.Missing != "" {
			detail = "missing: " + a.Missing
		}
		if a.Kind.Paper() {
			out = append(out, CheckItem{"paper", string(a.Kind), a.State, detail})
		} else if a.State != progress.Met {
			out = append(out, CheckItem{"evidence", a.Words(), a.State, detail})
		}
	}
	if b.Spars {
		for _, m := range []struct {
			what string
			n    int
		}{{"height", b.HeightCM}, {"weight", b.WeightKG}} {
			if m.n == 0 {
				out = append(out, CheckItem{"measure", m.what, progress.Unknown, "not measured; sparring pairs are matched on it"})
			}
		}
	}
	if b.Contact == "" {
		out = append(out, CheckItem{"contact", "an address to write to", progress.Unknown, "none is on record"})
	}
	return out
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
	Items             []CheckItem
	Cautions          []string
	From              string // who signs
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
	list := func(title string, kinds []string, words func(CheckItem) string) {
		first := true
		for _, i := range x.Items {
			if !slices.Contains(kinds, i.Kind) {
				continue
			}
			w := words(i)
			if w == "" {
				continue
			}
			if first {
				fmt.Fprintf(&b, "\n%s\n", title)
				first = false
			}
			b.WriteString("- " + w + "\n")
		}
	}
	list("Bring:", []string{"kit"}, func(i CheckItem) string {
		switch i.State {
		case progress.NotMet:
			return i.What + " (not on our list of what you own: please tell us if you need it)"
		case progress.Unknown:
			return i.What + " (please check that it fits and is whole)"
		}
		return i.What
	})
	list("Still missing before the day:", []string{"paper", "evidence"}, func(i CheckItem) string {
		if i.State == progress.Met {
			return ""
		}
		if i.Detail == "" {
			return i.What
		}
		return i.What + ", " + i.Detail
	})
	list("We shall measure on the day:", []string{"measure"}, func(i CheckItem) string { return i.What })
	b.WriteString("\nWhoever is ill, injured or not fit on the day does not test; tell us, and another day is found. An adaptation on record is no worse. If anything medical has changed, ask your doctor first and tell the instructor.\n")
	for _, c := range x.Cautions {
		b.WriteString("- " + c + "\n")
	}
	fmt.Fprintf(&b, "\n%s\n%s\n", x.From, x.School)
	return Note{fmt.Sprintf("%s: the %s on %s", x.Name, x.Word, x.On.Long()), b.String()}
}
