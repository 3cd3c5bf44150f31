package parts

import (
	"strconv"
	"strings"

	"velvetladder/internal/core/curriculum"
)

// Word is what a ticked box sends.
func Word(on bool) string {
	if on {
		return "1"
	}
	return ""
}

// Positive is a number, and nothing for none.
func Positive(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

// Near suggests names that are spelled alike.
func Near(b *curriculum.Book, name string) string {
	if b.Catalogue == nil {
		return ""
	}
	if like := b.Catalogue.Nearest(name); len(like) > 0 {
		return "; near it are " + strings.Join(like, ", ")
	}
	return ""
}
