package words

import (
	"fmt"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/progress"
)

// Urge is why a thing comes first.
func Urge(n progress.Next) string {
	switch u := n.Urge; u.Kind {
	case progress.UrgeNew:
		return "new at this rung"
	case progress.UrgeMore:
		return "more is asked than before"
	case progress.UrgeInPart:
		return "known in part: the rest is new"
	case progress.UrgeAgain:
		return "asked again, and not seen from this student yet"
	case progress.UrgeMustPass:
		return "must pass: without it the test is not passed"
	case progress.UrgeHalf:
		has := "left"
		if u.Misses == "left" {
			has = "right"
		}
		return fmt.Sprintf("%s is signed off, %s is missing", SideName(n.Line, has), SideName(n.Line, u.Misses))
	case progress.UrgeNotYet:
		if u.Fault == "" {
			return "tried on " + u.On.Long() + ": not right yet"
		}
		return "tried on " + u.On.Long() + ": " + u.Fault
	case progress.UrgeStripe:
		return "the last thing for the " + n.Section + " stripe"
	case progress.UrgeBase:
		return u.Name + " builds on it"
	case progress.UrgeUnseen:
		return "asked again, and not seen for " + Count(u.Days, "day")
	case progress.UrgeChoice:
		return "of your own choice"
	}
	return ""
}

// Likeness is why two records may be of one person.
func Likeness(l progress.Likeness) string {
	return map[progress.Likeness]string{
		progress.Same: "the same name", progress.SameBorn: "the same name, born the same day", progress.SameBornApart: "the same name, born another day",
		progress.Nearly: "nearly the same name", progress.NearlyBorn: "nearly the same name, born the same day",
	}[l]
}

// HalfYear is the half year that begins on a day: "2025, first half".
func HalfYear(from civil.Date) string {
	if from.String()[5:7] == "07" {
		return from.String()[:4] + ", second half"
	}
	return from.String()[:4] + ", first half"
}
