// Package words is what values of the core are called in English: typed arguments in, text out. It
// covers what is stored or computed; why an input was refused is said beside its rule.
package words

import (
	"fmt"
	"strings"
)

// plurals are those that are not made with an s.
var plurals = map[string]string{"class": "classes", "entry": "entries", "match": "matches", "person": "people", "box": "boxes", "child": "children"}

// Count is a number of things: 1 mark, 2 marks, 0 marks. The noun may be several words, of which the last
// is put in the plural.
func Count(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %s", n, Plural(noun))
}

// No is Count, with no for nothing: no failing item, 1 failing item.
func No(n int, noun string) string {
	if n == 0 {
		return "no " + noun
	}
	return Count(n, noun)
}

// Plural is a noun of which there are several, or none.
func Plural(noun string) string {
	before, last := "", noun
	if i := strings.LastIndexByte(noun, ' '); i >= 0 {
		before, last = noun[:i+1], noun[i+1:]
	}
	if p := plurals[last]; p != "" {
		return before + p
	}
	return before + last + "s"
}

// upper begins a sentence.
func upper(s string) string {
	if s == "" {
		return ""
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
