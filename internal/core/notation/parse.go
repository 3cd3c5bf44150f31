package notation

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// MaxMoves is the most moves and sentences one line may have.
const MaxMoves = 1000

// Reading is a line as it was read.
type Reading struct {
	Sequence
	Doubts []Doubt
}

// Parse reads a line. The first thing wrong is an *Error with its column.
func (c *Catalogue) Parse(line string) (Sequence, error) {
	r, err := c.Read(line)
	return r.Sequence, err
}

// Read reads a line and says what could also be meant.
func (c *Catalogue) Read(line string) (Reading, error) {
	r, places, err := c.read(line)
	if err == nil {
		err = c.possible(r.Sequence, places)
	}
	if err != nil {
		return Reading{}, err
	}
	return r, nil
}

// place says where the parts of a move stand that can be impossible where they stand.
type place struct{ move, side, in int }

// ReadSteps reads the steps of one technique, which go on from each other: only the first may
// say where it starts. In the answer nil errors stand for steps that were read.
func (c *Catalogue) ReadSteps(lines []string) ([]Reading, []error) {
	out, errs := make([]Reading, len(lines)), make([]error, len(lines))
	var whole Sequence
	var all []place
	step := []int{} // of each move
	for i, line := range lines {
		r, places, err := c.read(line)
		if err == nil && i > 0 && r.From.Name != "" {
			err = &Error{Column: 1, Problem: "a sequence says where it starts once, at the start of its first step"}
		}
		if errs[i] = err; err != nil {
			continue
		}
		out[i] = r
		if i == 0 {
			whole.From = r.From
		}
		whole.Counts = append(whole.Counts, r.Counts...)
		all = append(all, places...)
		for range places {
			step = append(step, i)
		}
	}
	if n, err := c.impossible(whole, all); err != nil {
		errs[step[n]] = err
	}
	return out, errs
}

// read parses without looking at the feet.
func (c *Catalogue) read(line string) (out Reading, places []place, err error) {
	rest, offset, err := c.start(line, &out.From)
	if err != nil {
		return out, nil, err
	}
	tokens, err := scan(rest, offset)
	if err != nil {
		return out, nil, err
	}
	end := utf8.RuneCountInString(line) + 1
	if len(tokens) == 0 {
		return out, nil, &Error{Column: end, Problem: "there is no move; write for example: lead jab, rear cross"}
	}
	out.Counts = []Count{{Beat{}}}
	for i := 0; ; {
		m, at, n, err := c.piece(tokens[i:], end, &out.Doubts)
		if err != nil {
			return out, nil, err
		}
		if places = append(places, at); len(places) > MaxMoves {
			return out, nil, &Error{Column: tokens[i].column, Problem: fmt.Sprintf("this is step %d; a line has at most %d", len(places), MaxMoves)}
		}
		last := &out.Counts[len(out.Counts)-1]
		beat := &(*last)[len(*last)-1]
		*beat = append(*beat, m)
		if i += n; i == len(tokens) {
			return out, places, nil
		}
		switch tokens[i].kind {
		case ',':
			*last = append(*last, Beat{})
		case '/':
			out.Counts = append(out.Counts, Count{Beat{}})
		case '+':
		default: // after a sentence no comma is needed
			*last = append(*last, Beat{})
			continue
		}
		i++
	}
}

var startPattern = regexp.MustCompile(`^\s*(?i:from)\s+([^,:/+!~().;]+):`)

// start reads "from right front stance:" and returns the rest of the line.
func (c *Catalogue) start(line string, from *Stance) (rest string, offset int, err error) {
	m := startPattern.FindStringSubmatchIndex(line)
	if m == nil {
		return line, 0, nil
	}
	words, err := scan(line[m[2]:m[3]], utf8.RuneCountInString(line[:m[2]]))
	if err != nil {
		return "", 0, err
	}
	s, n, err := c.stance(words)
	switch {
	case err != nil:
		return "", 0, err
	case n < len(words):
		return "", 0, &Error{Column: words[0].column, Problem: fmt.Sprintf("%q is no stance of this program%s", join(words), c.stancesNear(join(words)))}
	case s.Feet == SideBySide && s.Side != "":
		return "", 0, &Error{Column: words[0].column, Problem: fmt.Sprintf("in %s the feet are level; no side stands before it", s.Name)}
	}
	*from = s
	return line[m[1]:], utf8.RuneCountInString(line[:m[1]]), nil
}

// piece reads the next move or sentence and returns how many tokens it took.
func (c *Catalogue) piece(tokens []token, end int, doubts *[]Doubt) (m Move, at place, n int, err error) {
	n = slices.IndexFunc(tokens, func(t token) bool { return strings.ContainsRune(",+/", t.kind) })
	if n < 0 {
		n = len(tokens)
	}
	if n == 0 {
		column, sign := end, "the end"
		if len(tokens) > 0 {
			column, sign = tokens[0].column, strconv.Quote(tokens[0].text)
		}
		return m, at, 0, &Error{Column: column, Problem: "a move is missing before " + sign}
	}
	var doubted []Doubt
	m, at, err = c.move(tokens[:n], &doubted)
	if err == nil {
		*doubts = append(*doubts, doubted...)
		return m, at, n, nil
	}
	if text, took, there := sentence(tokens); there {
		c.doubtSentence(tokens[:took], doubts)
		m = Move{Sentence: text}
		for took < len(tokens) && strings.ContainsRune("!~(", tokens[took].kind) {
			if wrong := m.sign(tokens[took]); wrong != nil {
				return m, at, 0, wrong
			}
			took++
		}
		return m, place{move: tokens[0].column}, took, nil
	}
	return m, at, 0, err
}
