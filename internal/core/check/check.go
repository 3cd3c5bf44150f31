// Package check looks at what people type: lengths, characters, ranges, dates. What is
// wrong is said per field, with what would be right, and never more than one thing a field.
package check

import (
	"cmp"
	"fmt"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/civil"
)

// Lengths in characters.
const (
	NameLength = 80
	LineLength = 300
	TextLength = 4000
	ListLength = 40 // lines of a list such as checkpoints
)

// Problem says what is wrong with one field and what would be right.
type Problem struct{ Field, Text string }

// Problems collects what is wrong with one form or record; nil is all well.
type Problems []Problem

// Error gives all problems in one line.
func (p Problems) Error() string {
	var parts []string
	for _, x := range p {
		parts = append(parts, x.Field+": "+x.Text)
	}
	return strings.Join(parts, "; ")
}

// Of is the problem of a field, or "".
func (p Problems) Of(field string) string {
	for _, x := range p {
		if x.Field == field {
			return x.Text
		}
	}
	return ""
}

// Add notes a problem unless the field has one already.
func (p *Problems) Add(field, format string, args ...any) {
	if p.Of(field) == "" {
		*p = append(*p, Problem{field, fmt.Sprintf(format, args...)})
	}
}

// Err is the problems as an error, nil when there are none.
func (p Problems) Err() error {
	if len(p) == 0 {
		return nil
	}
	return p
}

// Tidy trims a line, folds runs of white space and mends broken UTF-8.
func Tidy(s string) string {
	if isTidy(s) {
		return s
	}
	return strings.Join(strings.Fields(strings.ToValidUTF8(s, "\uFFFD")), " ")
}

// isTidy reports whether a line is of ASCII and has no space but single ones between words: nearly all are.
func isTidy(s string) bool {
	before := byte(' ')
	for i := range len(s) {
		c := s[i]
		if c < ' ' || c > '~' || c == ' ' && before == ' ' {
			return false
		}
		before = c
	}
	return s == "" || before != ' '
}

// Key is what two names must not share: letter case and space aside they are the same.
func Key(s string) string { return strings.ToLower(Tidy(s)) }

// Name checks a name that must be there.
func (p *Problems) Name(field, value string) {
	if value == "" {
		p.Add(field, "is empty; write a name of up to %d characters", NameLength)
		return
	}
	p.Line(field, value, NameLength)
}

// Line checks one line of text that may be empty, of at most limit characters.
func (p *Problems) Line(field, value string, limit int) {
	if n := utf8.RuneCountInString(value); n > limit {
		p.Add(field, "has %d characters; up to %d fit", n, limit)
	}
	for i, r := range []rune(value) {
		// Combining marks and right-to-left letters are names like others; what is refused are
		// control characters and the invisible ones that turn the writing direction about.
		if unicode.IsControl(r) || r >= 0x202A && r <= 0x202E || r >= 0x2066 && r <= 0x2069 {
			p.Add(field, "holds an invisible control character (U+%04X) as character %d; take it out", r, i+1)
			return
		}
	}
}

// Lines splits a text area into its lines that say something, and checks them.
func (p *Problems) Lines(field, value string) (out []string) {
	for line := range strings.Lines(value) {
		if line = Tidy(line); line != "" {
			p.Line(field, line, LineLength)
			out = append(out, line)
		}
	}
	if len(out) > ListLength {
		p.Add(field, "has %d lines; up to %d fit", len(out), ListLength)
	}
	return out
}

// Text checks a longer text with line breaks.
func (p *Problems) Text(field, value string) string {
	value = strings.TrimSpace(strings.ReplaceAll(strings.ToValidUTF8(value, "\uFFFD"), "\r\n", "\n"))
	if n := utf8.RuneCountInString(value); n > TextLength {
		p.Add(field, "has %d characters; up to %d fit", n, TextLength)
	}
	for i, line := range strings.Split(value, "\n") {
		var inner Problems
		if inner.Line(field, strings.ReplaceAll(line, "\t", " "), TextLength); len(inner) > 0 {
			p.Add(field, "line %d %s", i+1, inner[0].Text)
		}
	}
	return value
}

// Whole reads a whole number from least to most. An empty text is other.
func (p *Problems) Whole(field, value string, least, most, other int) int {
	value = strings.TrimSpace(value)
	if value == "" {
		return other
	}
	n, err := strconv.Atoi(value)
	if err != nil {
		p.Add(field, "%q is not a whole number; write one from %d to %d", clip(value), least, most)
		return other
	}
	if n < least || n > most {
		p.Add(field, "is %d; it must be from %d to %d", n, least, most)
	}
	return n
}

// Date reads YYYY-MM-DD; empty is no date.
func (p *Problems) Date(field, value string) civil.Date {
	value = strings.TrimSpace(value)
	if value == "" {
		return civil.Date{}
	}
	d, err := civil.Parse(value)
	if err != nil {
		p.Add(field, "%s", strings.Replace(err.Error(), value, clip(value), 1))
	}
	return d
}

// OneOf checks a choice.
func OneOf[T ~string](p *Problems, field string, value T, choices []T) {
	for _, c := range choices {
		if c == value {
			return
		}
	}
	words := make([]string, len(choices))
	for i, c := range choices {
		words[i] = string(c)
	}
	p.Add(field, "%q is not a choice; it must be one of %s", clip(string(value)), strings.Join(words, ", "))
}

func clip(s string) string {
	if r := []rune(s); len(r) > 40 {
		return string(r[:40]) + "…"
	}
	return s
}

// Natural compares two names as people list them: without case, and numbers in them by their
// size, so that drill 2 comes before drill 10.
func Natural(a, b string) int {
	x, y := []rune(Key(a)), []rune(Key(b))
	for len(x) > 0 && len(y) > 0 {
		n, m := digits(x), digits(y)
		if n > 0 && m > 0 {
			p, q := strings.TrimLeft(string(x[:n]), "0"), strings.TrimLeft(string(y[:m]), "0")
			if order := cmp.Or(cmp.Compare(len(p), len(q)), cmp.Compare(p, q)); order != 0 {
				return order
			}
			x, y = x[n:], y[m:]
			continue
		}
		if x[0] != y[0] {
			return cmp.Compare(x[0], y[0])
		}
		x, y = x[1:], y[1:]
	}
	return cmp.Compare(len(x), len(y))
}

// digits is how many digits text begins with.
func digits(text []rune) int {
	for i, r := range text {
		if r < '0' || r > '9' {
			return i
		}
	}
	return len(text)
}
