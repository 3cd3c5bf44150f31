package check

import (
	"fmt"
	"strings"
)

// plurals are those that are not made with an s.
var plurals = map[string]string{"class": "classes", "entry": "entries", "match": "matches", "person": "people", "box": "boxes", "child": "children", "family": "families"}

// Count is a number of things: 1 mark, 2 marks, 0 marks. The noun may be several words, of which the last
// is put in the plural.
func Count(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %s", n, Plural(noun))
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
