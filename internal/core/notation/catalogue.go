// Package notation is the small written language for combinations and forms.
//
//	from ready stance: left step back, right inward block / lead side kick mid to ribs! Breathe out.
//
// A comma begins the next move, a plus what happens at the same time, a slash what the next
// shouted number covers. Words that are no move run to their full stop and are a step too.
// Everything works on parsed moves, never on strings.
package notation

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
)

// Entry is a technique as notation knows it.
type Entry struct {
	ID, Name string
	Aliases  []string
	Call     int      // the program's call number, 0 for none
	Stands   Feet     // of a stance; "" of anything else
	Kind     string   // what people call its kind, such as "block or parry"
	Own      []string // steps of a footwork or combination, whose feet move as they do
}

// Catalogue resolves names, aliases and call numbers to techniques.
type Catalogue struct {
	entries []Entry
	exact   map[string]int   // name or alias → entry
	loose   map[string][]int // what is left without case, hyphens, spaces and doubled letters
	calls   map[int]int      // call number → entry
	twice   map[int]int      // call number → a second entry that has it too
	longest int              // words of the longest name
	ids     map[string]int   // id → entry

	stances     map[string][]standing // loose name of a stance, with and without the word
	stanceWords int                   // words of the longest of them

	mu  sync.Mutex
	own map[string]*Sequence // id → its own moves; nil: none that can be read
}

type standing struct {
	name  string
	feet  Feet
	entry int // -1: one of the usual stances, which the program may not have
}

// usual are the stances every line may name, with or without the word stance.
var usual = []standing{
	{"attention stance", SideBySide, -1}, {"ready stance", SideBySide, -1}, {"natural stance", SideBySide, -1}, {"horse stance", SideBySide, -1},
	{"walking stance", OneLeads, -1}, {"front stance", OneLeads, -1}, {"long front stance", OneLeads, -1}, {"back stance", OneLeads, -1},
	{"cat stance", OneLeads, -1}, {"fighting stance", OneLeads, -1},
}

// UsualFeet is how the feet stand in a stance that goes by a usual name; one leads where the
// name says nothing.
func UsualFeet(name string) Feet {
	for _, s := range usual {
		if plain := strings.TrimSuffix(s.name, " stance"); loose(name) == loose(s.name) || loose(name) == loose(plain) {
			return s.feet
		}
	}
	return OneLeads
}

// NewCatalogue makes a catalogue. An exact name or alias that two techniques share is an
// error naming both. A call number that two share is told when a line uses it.
func NewCatalogue(entries []Entry) (*Catalogue, error) {
	c := &Catalogue{entries: entries, exact: map[string]int{}, loose: map[string][]int{}, calls: map[int]int{}, twice: map[int]int{},
		ids: map[string]int{}, stances: map[string][]standing{}, own: map[string]*Sequence{}}
	for i, e := range entries {
		c.ids[e.ID] = i
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
			if e.Stands != "" {
				c.addStance(name, standing{e.Name, e.Stands, i})
			}
		}
	}
	for _, s := range usual {
		if len(c.stances[loose(s.name)]) == 0 && len(c.stances[loose(strings.TrimSuffix(s.name, " stance"))]) == 0 {
			c.addStance(s.name, s)
		}
	}
	return c, nil
}

// addStance makes a stance known by a name, with and without the word stance.
func (c *Catalogue) addStance(name string, s standing) {
	plain := strings.TrimSuffix(strings.ToLower(name), " stance")
	for _, key := range []string{loose(plain), loose(plain + " stance")} {
		if !slices.Contains(c.stances[key], s) {
			c.stances[key] = append(c.stances[key], s)
		}
	}
	c.stanceWords = max(c.stanceWords, len(strings.Fields(plain))+2)
}

// stance finds the longest name of a stance starting at the first word, with a side before it
// where one is said. It returns how many words it took; 0 for none.
func (c *Catalogue) stance(words []token) (Stance, int, error) {
	if found, n, err := c.stanceNamed(words); n > 0 || err != nil {
		return found, n, err
	}
	if len(words) < 2 {
		return Stance{}, 0, nil
	}
	side := Side(words[0].key())
	if side != Left && side != Right {
		return Stance{}, 0, nil
	}
	found, n, err := c.stanceNamed(words[1:])
	if n == 0 || err != nil {
		return Stance{}, 0, err
	}
	found.Side = side
	return found, n + 1, nil
}

func (c *Catalogue) stanceNamed(words []token) (Stance, int, error) {
	for n := min(c.stanceWords, len(words)); n > 0; n-- {
		switch found := c.stances[loose(join(words[:n]))]; len(found) {
		case 0:
		case 1:
			return Stance{Name: found[0].name, Feet: found[0].feet}, n, nil
		default:
			return Stance{}, 0, &Error{Column: words[0].column, Problem: fmt.Sprintf("%q may be %s or %s; write the one you mean in full", join(words[:n]), found[0].name, found[1].name)}
		}
	}
	return Stance{}, 0, nil
}

// stancesNear names the stances there are, the nearest first, for an error.
func (c *Catalogue) stancesNear(phrase string) string {
	names := map[string]bool{}
	for _, all := range c.stances {
		for _, s := range all {
			names[s.name] = true
		}
	}
	out := slices.Sorted(maps.Keys(names))
	slices.SortStableFunc(out, func(a, b string) int {
		return check.Distance(loose(phrase), loose(a)) - check.Distance(loose(phrase), loose(b))
	})
	return "; near it are " + strings.Join(out[:min(3, len(out))], ", ")
}

// moves are the own moves of a footwork or a combination, read once; nil where it has none
// that can be read.
func (c *Catalogue) moves(id string) *Sequence {
	entry, there := c.ids[id]
	if !there || len(c.entries[entry].Own) == 0 {
		return nil
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	own, known := c.own[id]
	if !known {
		var whole []Sequence
		for _, line := range c.entries[entry].Own {
			if r, _, err := c.read(line); err == nil {
				whole = append(whole, r.Sequence)
			}
		}
		if len(whole) > 0 {
			seq := Join(whole...)
			own = &seq
		}
		c.own[id] = own
	}
	return own
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
var Words = slices.Concat([]string{"lead", "rear", "left", "right", "both", "same-side", "same-name", "double"}, travels,
	[]string{"low", "mid", "high", "to", "to the left", "to the right", "in", "from", "turn cw 90", "turn ccw 90", "angle out 45", "keep", "free"})

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
			return 0, 0, &Error{Column: words[0].column, Problem: fmt.Sprintf("%q may be %s or %s; write the one you mean in full", phrase, c.entries[found[0]].Name, c.entries[found[1]].Name)}
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
	wanted := loose(phrase)
	for _, e := range c.entries {
		best := -1
		for _, name := range append([]string{e.Name}, e.Aliases...) {
			if d := check.Distance(wanted, loose(name)); best < 0 || d < best {
				best = d
			}
		}
		if best <= 1+utf8.RuneCountInString(wanted)/2 {
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
