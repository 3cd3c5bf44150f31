// Package words is what values of the core are called in English: typed arguments in, text out. It
// covers what is stored or computed; why an input was refused is said beside its rule.
package words

import (
	"strings"

	"velvetladder/internal/core/check"
)

// Count is a number of things: 1 mark, 2 marks, 0 marks.
func Count(n int, noun string) string { return check.Count(n, noun) }

// No is Count, with no for nothing: no failing item, 1 failing item.
func No(n int, noun string) string {
	if n == 0 {
		return "no " + noun
	}
	return Count(n, noun)
}

// upper begins a sentence.
func upper(s string) string {
	if s == "" {
		return ""
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
