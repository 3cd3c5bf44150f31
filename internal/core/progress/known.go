package progress

import (
	"slices"
	"strings"
	"unicode/utf8"

	"velvetladder/internal/core/check"
)

// Known is a student on record who may be the one about to be added, and why.
type Known struct {
	Student
	Why string
}

// MayBeKnown are those of the students on record who may be the one about to be added, in their order. Twins and namesakes are among them:
// it is asked, never decided.
func MayBeKnown(added Student, all []Student) (out []Known) {
	for _, x := range all {
		if why := mayBe(added, x); why != "" {
			out = append(out, Known{x, why})
		}
	}
	return out
}

// mayBe says why two records may be of one person, "" where nothing says so: the same words as a name; or, born the same day or with a birth
// date unknown, names that differ by a slip (one letter, two from ten letters on) or of which one is the other with words left out.
func mayBe(a, b Student) string {
	known := !a.BirthDate.IsZero() && !b.BirthDate.IsZero()
	born := known && a.BirthDate == b.BirthDate
	x, y := strings.Fields(check.Key(a.Name)), strings.Fields(check.Key(b.Name))
	if len(x) == 0 || len(y) == 0 {
		return ""
	}
	slices.Sort(x)
	slices.Sort(y)
	if slices.Equal(x, y) {
		switch {
		case born:
			return "the same name, born the same day"
		case known:
			return "the same name, born another day"
		}
		return "the same name"
	}
	if known && !born || !slip(check.Key(a.Name), check.Key(b.Name)) && !within(x, y) && !within(y, x) {
		return ""
	}
	if born {
		return "nearly the same name, born the same day"
	}
	return "nearly the same name"
}

func slip(a, b string) bool {
	short := min(utf8.RuneCountInString(a), utf8.RuneCountInString(b))
	most := 1
	if short >= 10 {
		most = 2
	}
	return short >= 4 && check.Distance(a, b) <= most
}

// within says that a name of two words or more stands whole in another.
func within(few, more []string) bool {
	return len(few) > 1 && !slices.ContainsFunc(few, func(word string) bool { return !slices.Contains(more, word) })
}
