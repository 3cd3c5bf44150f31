// Package notation is the small written language for combinations and forms.
//
//	slide back lead low block, rear palm strike high / cross step lead side kick mid to ribs!
//
// A comma begins the next move, a plus what happens at the same time, a slash what the next
// shouted number covers. Everything works on parsed moves, never on strings.
package notation

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
)

// Entry is a technique as notation knows it.
type Entry struct {
	ID, Name string
	Aliases  []string
}

// Catalogue resolves names, aliases and call numbers to techniques.
type Catalogue struct {
	entries []Entry
	exact   map[string]int   // name or alias → entry
	loose   map[string][]int // what is left without case, hyphens, spaces and doubled letters
	calls   map[int]int      // call number → entry
	longest int              // words of the longest name
}

// NewCatalogue makes a catalogue. calls gives numbers to technique ids. An exact name or
// alias that two techniques share is an error naming both, as is a call of an unknown one.
func NewCatalogue(entries []Entry, calls map[int]string) (*Catalogue, error) {
	c := &Catalogue{entries: entries, exact: map[string]int{}, loose: map[string][]int{}, calls: map[int]int{}}
	ids := map[string]int{}
	for i, e := range entries {
		ids[e.ID] = i
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
	for n, id := range calls {
		at, there := ids[id]
		if !there {
			return nil, fmt.Errorf("call number %d belongs to a technique that is not in the catalogue", n)
		}
		c.calls[n] = at
	}
	return c, nil
}

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

// nearest names the techniques spelled most like a phrase, at most three.
func (c *Catalogue) nearest(phrase string) []string {
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
