package notation

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"velvetladder/internal/core/check"
)

// sentence is words and commas up to the first full stop.
func sentence(tokens []token) (text string, n int, there bool) {
	var out strings.Builder
	words := false
	for i, t := range tokens {
		switch t.kind {
		case ',':
			out.WriteByte(',')
			continue
		case '(':
			t.text = "(" + t.text + ")"
		case 'w':
			words = words || strings.Trim(t.text, ".") != ""
		default:
			return "", 0, false
		}
		if i > 0 {
			out.WriteByte(' ')
		}
		out.WriteString(t.text)
		if t.stops() {
			return strings.TrimSpace(strings.TrimSuffix(out.String(), ".")), i + 1, words
		}
	}
	return "", 0, false
}

// doubtSentence notes where a piece of a sentence would read as a move, or nearly.
func (c *Catalogue) doubtSentence(tokens []token, doubts *[]Doubt) {
	for len(tokens) > 0 {
		n := slices.IndexFunc(tokens, func(t token) bool { return t.kind == ',' })
		if n < 0 {
			n = len(tokens)
		}
		piece := slices.Clone(tokens[:n])
		if n > 0 {
			last := &piece[n-1]
			if last.text = strings.TrimSuffix(last.text, "."); last.text == "" {
				piece = piece[:n-1]
			}
		}
		if move := c.nearly(piece); move != "" {
			*doubts = append(*doubts, Doubt{piece[0].column, fmt.Sprintf("%q is read as words of a sentence; if it is the move %s, write it so, with a comma before and after it and no full stop", join(piece), move)})
		}
		tokens = tokens[min(n+1, len(tokens)):]
	}
}

// nearly is the move that words would read as, or nearly read as; "" none.
func (c *Catalogue) nearly(words []token) string {
	if len(words) == 0 {
		return ""
	}
	if m, _, err := c.move(words, new([]Doubt)); err == nil {
		return c.printMove(m)
	}
	i := 0
	var m Move
	for i < len(words) {
		n, err := c.keyword(words[i:], &m)
		if n == 0 || err != nil {
			break
		}
		i += n
	}
	said := words[i:]
	if i == 0 || len(said) == 0 || len(said) > c.longest {
		return ""
	}
	const most = 2 // letters that may be wrong
	wanted := loose(join(said))
	for n, e := range c.entries {
		for _, name := range append([]string{e.Name}, e.Aliases...) {
			if d := check.Distance(wanted, loose(name)); d <= most && d < utf8.RuneCountInString(wanted) {
				c.name(&m, n, 0)
				return c.printMove(m)
			}
		}
	}
	return ""
}
