package notation

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// move reads one move: what stands before its name, the name, and what stands after it.
func (c *Catalogue) move(words []token, doubts *[]Doubt) (Move, place, error) {
	var m Move
	at := place{move: words[0].column}
	i, err := c.before(words, &m, &at)
	if err == nil {
		err = c.extras(words[i:], &m, &at, doubts)
	}
	if err == nil {
		err = m.impossible(at)
	}
	if err == nil {
		m.doubt(words, doubts)
	}
	return m, at, err
}

// doubt notes what a move says that people also mean otherwise: a side behind a step, and a side
// in a remark.
func (m Move) doubt(words []token, doubts *[]Doubt) {
	last := words[len(words)-1]
	if n := len(words); n > 1 && m.Technique == "" && m.Side != "" && last.key() == string(m.Side) && words[n-2].key() != "the" {
		*doubts = append(*doubts, Doubt{last.column, fmt.Sprintf("%q says which foot moves; if it is the way, write side step to the %s", last.text, last.text)})
	}
	if m.Technique == "" && len(m.Target) == 2 && m.Target[0] == "the" && (m.Target[1] == "left" || m.Target[1] == "right") {
		*doubts = append(*doubts, Doubt{last.column, fmt.Sprintf("“to the %s” is read as what the move goes for; if it is the way, write side step to the %s", m.Target[1], m.Target[1])})
	}
	for _, w := range words {
		if w.kind == '(' && m.Times == 0 && isRepeat(strings.ReplaceAll(strings.ToLower(w.text), " ", "")) {
			*doubts = append(*doubts, Doubt{w.column, fmt.Sprintf("(%s) is a remark; if the move is repeated, write x%d %s", w.text, repeats(strings.ReplaceAll(strings.ToLower(w.text), " ", "")), m.Name)})
		}
		side, _, _ := strings.Cut(strings.ToLower(w.text), " ")
		if w.kind == '(' && m.Side == "" && m.Technique != "" && slices.Contains([]Side{Left, Right, Lead, Rear}, Side(side)) {
			*doubts = append(*doubts, Doubt{w.column, fmt.Sprintf("(%s) is a remark; if it is the limb, write %s %s", w.text, side, m.Name)})
		}
	}
}

// impossible is what cannot be whoever does the move.
func (m Move) impossible(at place) error {
	turns := func(t Travel) bool { return t.Kind != "turn" && t.Kind != "spin" }
	switch {
	case m.Technique == "" && len(m.Travel) > 0 && m.Side != "" && !slices.ContainsFunc(m.Travel, turns):
		t := m.Travel[0]
		problem := fmt.Sprintf("a foot does not go with %s alone; write %s step %s for the foot that steps as you turn", t.Kind, m.Side, strings.TrimSpace("turn "+t.turnWords()))
		if way, ok := map[Side]string{Left: "ccw", Right: "cw"}[m.Side]; ok && t.Turn.Degrees == 0 {
			problem += fmt.Sprintf(", or turn %s 90 for the way", way)
		}
		return &Error{Column: at.side, Problem: problem}
	case m.In.Side != "" && m.In.Feet == SideBySide:
		return &Error{Column: at.in, Problem: fmt.Sprintf("in %s the feet are level; no side stands before it", m.In.Name)}
	case m.Stands == SideBySide && m.Side != "":
		return &Error{Column: at.side, Problem: fmt.Sprintf("in %s the feet are level; no side stands before it", m.Name)}
	}
	return nil
}

func (t Travel) turnWords() string {
	if t.Turn.Degrees == 0 {
		return ""
	}
	return t.Turn.String()
}

// before reads sides, travel, repeats and the name, and returns where the extras begin.
// It is long: a case for each word that may stand before a move.
func (c *Catalogue) before(words []token, m *Move, at *place) (int, error) {
	i, travelled := 0, 0 // travelled: how many travels stood before the repeat
	for i < len(words) {
		w := words[i]
		rest := words[i:]
		if end := slices.IndexFunc(rest, func(t token) bool { return t.kind != 'w' }); end >= 0 {
			rest = rest[:end]
		}
		if len(rest) == 0 {
			break
		}
		entry, n, err := c.find(rest)
		if err != nil {
			return 0, err
		}
		// The longest name wins over a keyword, but not over a travel of more words: where
		// there is a technique called cross, "cross step" is still a way to move.
		if n > 0 && len(strings.Fields(c.travel(rest))) <= n {
			c.name(m, entry, 0)
			m.Whole = m.Times > 0 && travelled < len(m.Travel)
			return i + n, nil
		}
		if number, err := strconv.Atoi(w.text); err == nil {
			if n := len(m.Travel); n > 0 && m.Travel[n-1].Kind == "turn" && m.Travel[n-1].Turn.Degrees == 0 {
				return 0, &Error{Column: w.column, Problem: fmt.Sprintf("a turn needs its way; write turn ccw %d for the left or turn cw %d for the right", number, number)}
			}
			entry, err := c.called(number, w.column)
			if err != nil {
				return 0, err
			}
			c.name(m, entry, number)
			m.Whole = m.Times > 0 && travelled < len(m.Travel)
			return i + 1, nil
		}
		n, err = c.keyword(rest, m)
		if err != nil {
			return 0, err
		}
		if n == 0 {
			if !slices.Contains(after, w.key()) {
				n, err = c.standing(rest, m, at)
				if n > 0 || err != nil {
					m.Whole = m.Times > 0
					return i + n, err
				}
				return 0, c.unknown(rest)
			}
			if len(m.Travel) > 0 || m.Side != "" || c.ends(words[i:]) {
				break
			}
			return 0, c.unknown(rest)
		}
		switch {
		case m.Side != "" && at.side == 0:
			at.side = w.column
		case m.Times > 0 && n == 1 && isRepeat(w.key()):
			travelled = len(m.Travel)
		}
		i += n
	}
	m.Whole = m.Times > 0
	ends := i < len(words) && words[i].key() == "in" && m.Side == ""
	if len(m.Travel) == 0 && !ends && !(m.Side != "" && i < len(words) && words[i].key() == "free") {
		last := words[len(words)-1]
		return 0, &Error{Column: last.column, Problem: "a technique or a travel such as step is missing in this move"}
	}
	return i, nil
}

// name puts a technique into a move.
func (c *Catalogue) name(m *Move, entry, number int) {
	e := c.entries[entry]
	m.Technique, m.Name, m.Stands, m.Number = e.ID, e.Name, e.Stands, number
}

// called is the technique of a call number.
func (c *Catalogue) called(number, column int) (int, error) {
	entry, there := c.calls[number]
	if !there {
		return 0, &Error{Column: column, Problem: fmt.Sprintf("no technique has the call number %d%s", number, c.numbers())}
	}
	if other, twice := c.twice[number]; twice {
		return 0, &Error{Column: column, Problem: fmt.Sprintf("the call number %d is given to both %s and %s; write the name", number, c.entries[entry].Name, c.entries[other].Name)}
	}
	return entry, nil
}

// ends reports whether words begin with "in" and a stance that is known, which is a move of
// its own.
func (c *Catalogue) ends(words []token) bool {
	if words[0].key() != "in" {
		return false
	}
	_, n, err := c.stance(words[1:])
	return err == nil && n > 0
}

// standing reads "right front stance" where the program has no technique of that name: the
// feet take one of the usual stances.
func (c *Catalogue) standing(words []token, m *Move, at *place) (int, error) {
	if m.Side != "" && m.Side != Left && m.Side != Right || len(m.Travel) > 0 {
		return 0, nil
	}
	s, n, err := c.stance(words)
	if err != nil || n == 0 || !strings.EqualFold(words[n-1].text, "stance") {
		return 0, err
	}
	at.in = words[0].column
	if s.Side == "" {
		s.Side, m.Side = m.Side, ""
	}
	m.In = s
	return n, nil
}

func isRepeat(word string) bool {
	return repeats(word) >= 0
}

// repeats is how many times a word says: x3, 3x, double; -1 of a word that is no repeat.
func repeats(word string) int {
	if word == "double" {
		return 2
	}
	for _, count := range []string{strings.TrimPrefix(word, "x"), strings.TrimSuffix(word, "x")} {
		if n, err := strconv.Atoi(count); err == nil && count != word && n >= 0 {
			return n
		}
	}
	return -1
}

// keyword reads a side, a repeat or a travel, and returns how many words it took.
func (c *Catalogue) keyword(rest []token, m *Move) (int, error) {
	w, word := rest[0], rest[0].key()
	switch s := Side(word); s {
	case Lead, Rear, Left, Right, Both, SameSide, SameName:
		if m.Side != "" {
			return 0, &Error{Column: w.column, Problem: fmt.Sprintf("a second side; this move is %s already", m.Side)}
		}
		m.Side = s
		return 1, nil
	}
	if isRepeat(word) {
		times := repeats(word)
		if times < 2 || times > 100 {
			return 0, &Error{Column: w.column, Problem: "a move is repeated x2 to x100"}
		}
		if m.Times > 0 {
			return 0, &Error{Column: w.column, Problem: "a second repeat in one move"}
		}
		m.Times = times
		return 1, nil
	}
	kind := c.travel(rest)
	if kind == "" {
		return 0, nil
	}
	t, n := Travel{Kind: kind}, len(strings.Fields(kind))
	switch kind {
	case "slide", "shuffle": // forward is where they go
		if len(rest) > 1 && strings.TrimSuffix(rest[1].key(), "s") == "forward" {
			if _, name, err := c.find(rest[1:]); err == nil && name == 0 {
				n++
			}
		}
	case "turn", "spin":
		turn, more, err := readTurn(rest[1:])
		if err != nil {
			return 0, err
		}
		t.Turn = turn
		n += more
	case "side step", "circle":
		if len(rest) >= n+3 && rest[n].key() == "to" && rest[n+1].key() == "the" {
			if way := Side(rest[n+2].key()); way == Left || way == Right {
				t.Way = way
				n += 3
			}
		}
	}
	m.Travel = append(m.Travel, t)
	return n, nil
}

// travel is the travel that the words begin with, "" for none. A name that starts at its
// second word wins: "step back fist" is a step and a back fist.
func (c *Catalogue) travel(words []token) string {
	first := words[0].key()
	for _, kind := range travels {
		begins, second, two := strings.Cut(kind, " ")
		if begins != first || two && (len(words) < 2 || words[1].key() != second) {
			continue
		}
		if two {
			if _, n, err := c.find(words[1:]); err != nil || n > 0 {
				continue
			}
		}
		return kind
	}
	return ""
}

// leftward says of each word for the way of a turn whether it goes to the left.
var leftward = map[string]bool{"cw": false, "clockwise": false, "ccw": true, "counterclockwise": true, "counter-clockwise": true, "anticlockwise": true, "anti-clockwise": true}

// readTurn reads "cw 90", "clockwise 90" and "90 degrees clockwise"; nothing where no direction follows.
func readTurn(rest []token) (Turn, int, error) {
	way, angle, n := 0, 1, 2
	if len(rest) > 0 && strings.Trim(rest[0].text, "0123456789") == "" { // the angle is said first
		if way, angle = 1, 0; len(rest) > 1 && rest[1].key() == "degrees" {
			way, n = 2, 3
		}
	}
	if len(rest) <= way {
		return Turn{}, 0, nil
	}
	left, known := leftward[rest[way].key()]
	short := rest[way].key() == "cw" || rest[way].key() == "ccw"
	switch {
	case !known:
		return Turn{}, 0, nil
	case len(rest) <= angle && short:
		return Turn{}, 0, &Error{Column: rest[way].column, Problem: "the degrees are missing; write for example turn cw 90"}
	case len(rest) <= angle:
		return Turn{}, 0, nil
	}
	degrees, err := strconv.Atoi(rest[angle].text)
	if err != nil && !short { // a name may begin with such a word
		return Turn{}, 0, nil
	}
	if err != nil || degrees < 1 || degrees > 720 {
		return Turn{}, 0, &Error{Column: rest[angle].column, Problem: fmt.Sprintf("%q is not an angle; write 1 to 720 degrees", rest[angle].text)}
	}
	if angle == 1 && len(rest) > 2 && rest[2].key() == "degrees" {
		n = 3
	}
	return Turn{left, degrees}, n, nil
}

// ways says how a word that people write for a way to move is written here, and before how one
// they write before a name is.
var (
	ways = map[string]string{
		"forward": wayOn, "forwards": wayOn, "backward": "write step back", "backwards": "write step back", "back": "write step back, slide back or shuffle back",
		"pivot": "write turn cw 90 or turn ccw 90, or a sentence that ends with a full stop", "advance": "write step or shuffle", "shout": shouts, "kiai": shouts, "kihap": shouts, "yell": shouts, "retreat": "write step back or shuffle back",
	}
	before = map[string]string{"into": stands, "low": levels, "mid": levels, "high": levels, "hand": sideAlone, "arm": sideAlone, "foot": sideAlone, "leg": sideAlone, "l": "write left or lead", "r": "write right or rear", "front": "write lead for the hand or foot in front", "back": "write rear for the hand or foot behind"}
)

const (
	wayOn     = "write step where the same foot keeps leading, step through where the other foot passes it"
	levels    = "the level stands behind the name: jab high"
	shouts    = "write ! behind the move at which it is given"
	stands    = "write in where a move ends in a stance: step in horse stance"
	sideAlone = "the side stands before the name by itself: right jab, lead jab"
)

// instead is how words that are no move are written here; "" where nobody can say.
func (c *Catalogue) instead(rest []token) string {
	if len(rest) == 1 {
		return ways[rest[0].key()]
	}
	name := rest[1:]
	for len(name) > 1 && before[name[0].key()] == sideAlone {
		name = name[1:]
	}
	if _, n, err := c.find(name); err == nil && n > 0 {
		return cmp.Or(before[rest[0].key()], ways[rest[0].key()])
	}
	return ""
}

func (c *Catalogue) unknown(rest []token) error {
	n := slices.IndexFunc(rest, func(t token) bool { return slices.Contains(after, t.key()) })
	if n <= 0 {
		n = len(rest)
	}
	phrase := join(rest[:n])
	problem := fmt.Sprintf("%q is not in the catalogue", phrase)
	if instead := c.instead(rest[:n]); instead != "" {
		return &Error{rest[0].column, problem + "; " + instead, phrase}
	}
	if near := c.Nearest(phrase); len(near) > 0 {
		problem += "; near it are " + strings.Join(near, ", ")
	}
	return &Error{rest[0].column, problem + "; a step in plain words ends with a full stop and has no / or + in it", phrase}
}

// sign takes a shout, a breath or a note into a move.
func (m *Move) sign(t token) error {
	twice := false
	switch t.kind {
	case '!':
		twice, m.Shout = m.Shout, true
	case '~':
		twice, m.Breath = m.Breath, true
	case '(':
		m.Notes = append(m.Notes, t.text)
	}
	if twice {
		return &Error{Column: t.column, Problem: fmt.Sprintf("%q stands twice in this move", t.text)}
	}
	return nil
}
