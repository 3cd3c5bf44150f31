// Package notation is the small written language for combinations and forms.
//
//	slide back lead low block, rear palm strike high / cross step lead side kick mid to ribs!
//
// A comma begins the next move, a plus what happens at the same time, a slash what the next
// shouted number covers. Everything works on parsed moves, never on strings.
package notation

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// Entry is a technique as notation knows it.
type Entry struct {
	ID, Name string
	Aliases  []string
	Call     int // the program's call number, 0 for none
}

// Catalogue resolves names, aliases and call numbers to techniques.
type Catalogue struct {
	entries []Entry
	exact   map[string]int   // name or alias → entry
	loose   map[string][]int // what is left without case, hyphens, spaces and doubled letters
	calls   map[int]int      // call number → entry
	twice   map[int]int      // call number → a second entry that has it too
	longest int              // words of the longest name
}

// NewCatalogue makes a catalogue. An exact name or alias that two techniques share is an
// error naming both. A call number that two share is told when a line uses it.
func NewCatalogue(entries []Entry) (*Catalogue, error) {
	c := &Catalogue{entries: entries, exact: map[string]int{}, loose: map[string][]int{}, calls: map[int]int{}, twice: map[int]int{}}
	for i, e := range entries {
		if _, there := c.calls[e.Call]; there && e.Call != 0 {
			c.twice[e.Call] = i
		} else if e.Call != 0 {
			c.calls[e.Call] = i
		}
		for _, name := range append([]string{e.Name}, e.Aliases...) {
			words := strings.Fields(name)
			key := strings.Join(words, " ")
			if other, there := c.exact[key]; there && other != i {
				return nil, fmt.Errorf("%q is a name of both %s and %s", key, entries[other].Name, e.Name)
			}
			c.exact[key] = i
			if l := loose(name); !slices.Contains(c.loose[l], i) {
				c.loose[l] = append(c.loose[l], i)
			}
			c.longest = max(c.longest, len(words)+2) // "palm-strike" may be written as two words
		}
	}
	return c, nil
}

// numbers names the call numbers there are, for an error.
func (c *Catalogue) numbers() string {
	if len(c.calls) == 0 {
		return "; this program gives none"
	}
	all := slices.Sorted(maps.Keys(c.calls))
	var out []string
	for _, n := range all[:min(len(all), 12)] {
		out = append(out, strconv.Itoa(n))
	}
	if len(all) > 12 {
		out = append(out, "…")
	}
	return "; there are " + strings.Join(out, ", ")
}

// Names are all names and aliases with the kind of completion a field can offer: the
// program's names first, then the words of the language.
func (c *Catalogue) Names() (out []string) {
	for _, e := range c.entries {
		out = append(append(out, e.Name), e.Aliases...)
	}
	return out
}

// Words are the words of the language that a name may stand beside.
var Words = slices.Concat([]string{"lead", "rear", "left", "right", "both", "same-side", "same-name", "double"}, travels, []string{"low", "mid", "high", "to", "in", "turn cw 90", "turn ccw 90", "angle out 45", "keep", "free"})

// loose is a name without case, hyphens, spaces and doubled letters.
func loose(s string) string {
	var out []rune
	for _, r := range strings.ToLower(s) {
		if r == '-' || unicode.IsSpace(r) || len(out) > 0 && out[len(out)-1] == r && unicode.IsLetter(r) {
			continue
		}
		out = append(out, r)
	}
	return string(out)
}

// find looks for the longest name starting at the first word: exactly, then loosely.
// It returns how many words the name has; 0 for none.
func (c *Catalogue) find(words []token) (entry, length int, err error) {
	for n := min(c.longest, len(words)); n > 0; n-- {
		phrase := join(words[:n])
		if i, there := c.exact[phrase]; there {
			return i, n, nil
		}
		switch found := c.loose[loose(phrase)]; len(found) {
		case 0:
		case 1:
			return found[0], n, nil
		default:
			return 0, 0, &Error{words[0].column, fmt.Sprintf("%q may be %s or %s; write the one you mean in full", phrase, c.entries[found[0]].Name, c.entries[found[1]].Name)}
		}
	}
	return 0, 0, nil
}

// Nearest names the techniques spelled most like a phrase, at most three.
func (c *Catalogue) Nearest(phrase string) []string {
	type near struct {
		name string
		far  int
	}
	var all []near
	wanted := []rune(loose(phrase))
	for _, e := range c.entries {
		best := -1
		for _, name := range append([]string{e.Name}, e.Aliases...) {
			if d := distance(wanted, []rune(loose(name))); best < 0 || d < best {
				best = d
			}
		}
		if best <= 1+len(wanted)/2 {
			all = append(all, near{e.Name, best})
		}
	}
	slices.SortStableFunc(all, func(a, b near) int { return a.far - b.far })
	var out []string
	for _, x := range all[:min(3, len(all))] {
		out = append(out, x.name)
	}
	return out
}

// distance is the number of letters to add, take away or change (Levenshtein).
func distance(a, b []rune) int {
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i, x := range a {
		before := row[0]
		row[0] = i + 1
		for j, y := range b {
			cost := before
			if x != y {
				cost++
			}
			before, row[j+1] = row[j+1], min(cost, row[j+1]+1, row[j]+1)
		}
	}
	return row[len(b)]
}
