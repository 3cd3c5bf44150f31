package notation

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// MaxMoves is the most moves one line may have.
const MaxMoves = 1000

// Error says what is wrong and where: Column counts characters from 1.
type Error struct {
	Column  int
	Problem string
}

// Error gives column and problem.
func (e *Error) Error() string { return fmt.Sprintf("column %d: %s", e.Column, e.Problem) }

// token is a word, a note, or one of the signs , + / ! ~
type token struct {
	text   string
	column int
	kind   rune // 'w' a word, '(' a note, else the sign itself
}

func join(words []token) string {
	out := make([]string, len(words))
	for i, w := range words {
		out[i] = w.text
	}
	return strings.Join(out, " ")
}

func scan(line string) (out []token, err error) {
	text := []rune(line)
	for i := 0; i < len(text); {
		r := text[i]
		switch {
		case unicode.IsSpace(r):
			i++
		case strings.ContainsRune(",+/!~", r):
			out = append(out, token{string(r), i + 1, r})
			i++
		case r == '(':
			end := slices.Index(text[i:], ')')
			if end < 0 {
				return nil, &Error{i + 1, "this note is not closed; write ) after it"}
			}
			note := strings.Join(strings.Fields(string(text[i+1:i+end])), " ")
			if note == "" || strings.Contains(note, "(") {
				return nil, &Error{i + 1, "a note is some words in one pair of parentheses"}
			}
			out = append(out, token{note, i + 1, '('})
			i += end + 1
		case r == ')':
			return nil, &Error{i + 1, "this parenthesis closes nothing"}
		default:
			start := i
			for i < len(text) && !unicode.IsSpace(text[i]) && !strings.ContainsRune(",+/!~()", text[i]) {
				i++
			}
			out = append(out, token{string(text[start:i]), start + 1, 'w'})
		}
	}
	return out, nil
}

// Parse reads a line. The first thing wrong is an *Error with its column.
func (c *Catalogue) Parse(line string) (Sequence, error) {
	tokens, err := scan(line)
	if err != nil {
		return nil, err
	}
	end := len([]rune(line)) + 1
	if len(tokens) == 0 {
		return nil, &Error{1, "there is no move; write for example: lead jab, rear cross"}
	}
	seq := Sequence{Count{Beat{}}}
	moves := 0
	for i := 0; ; {
		j := i
		for j < len(tokens) && !strings.ContainsRune(",+/", tokens[j].kind) {
			j++
		}
		if i == j {
			at, sign := end, "the end"
			if j < len(tokens) {
				at, sign = tokens[j].column, strconv.Quote(tokens[j].text)
			}
			return nil, &Error{at, "a move is missing before " + sign}
		}
		m, err := c.move(tokens[i:j])
		if err != nil {
			return nil, err
		}
		if moves++; moves > MaxMoves {
			return nil, &Error{tokens[i].column, fmt.Sprintf("this is move %d; a line has at most %d", moves, MaxMoves)}
		}
		last := &seq[len(seq)-1]
		beat := &(*last)[len(*last)-1]
		*beat = append(*beat, m)
		if j == len(tokens) {
			return seq, nil
		}
		switch tokens[j].kind {
		case ',':
			*last = append(*last, Beat{})
		case '/':
			seq = append(seq, Count{Beat{}})
		}
		i = j + 1
	}
}

// after are the words that begin what stands after a name.
var after = []string{"low", "mid", "high", "to", "in", "turn", "angle", "keep", "free"}

func (c *Catalogue) move(words []token) (Move, error) {
	var m Move
	i, err := c.before(words, &m)
	if err != nil {
		return m, err
	}
	return m, c.extras(words[i:], &m)
}

// before reads sides, travel, repeats and the name, and returns where the extras begin.
func (c *Catalogue) before(words []token, m *Move) (int, error) {
	i := 0
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
			m.Technique, m.Name = c.entries[entry].ID, c.entries[entry].Name
			return i + n, nil
		}
		if number, err := strconv.Atoi(w.text); err == nil {
			entry, there := c.calls[number]
			if !there {
				return 0, &Error{w.column, fmt.Sprintf("no technique has the call number %d%s", number, c.numbers())}
			}
			if other, twice := c.twice[number]; twice {
				return 0, &Error{w.column, fmt.Sprintf("the call number %d is given to both %s and %s; write the name", number, c.entries[entry].Name, c.entries[other].Name)}
			}
			m.Technique, m.Name, m.Number = c.entries[entry].ID, c.entries[entry].Name, number
			return i + 1, nil
		}
		n, err = c.keyword(rest, m)
		if err != nil {
			return 0, err
		}
		if n == 0 {
			if slices.Contains(after, w.text) && (len(m.Travel) > 0 || m.Side != "") {
				break
			}
			return 0, c.unknown(rest)
		}
		i += n
	}
	if len(m.Travel) == 0 && !(m.Side != "" && i < len(words) && words[i].text == "free") {
		at := words[len(words)-1]
		return 0, &Error{at.column, "a technique or a travel such as step is missing in this move"}
	}
	return i, nil
}

// keyword reads a side, a repeat or a travel, and returns how many words it took.
func (c *Catalogue) keyword(rest []token, m *Move) (int, error) {
	w := rest[0]
	switch s := Side(w.text); s {
	case Lead, Rear, Left, Right, Both, SameSide, SameName:
		if m.Side != "" {
			return 0, &Error{w.column, fmt.Sprintf("a second side; this move is %s already", m.Side)}
		}
		m.Side = s
		return 1, nil
	}
	times := 0
	if w.text == "double" {
		times = 2
	} else if n, err := strconv.Atoi(strings.TrimPrefix(w.text, "x")); err == nil && w.text[0] == 'x' {
		if times = n; n < 2 || n > 100 {
			return 0, &Error{w.column, "a move is repeated x2 to x100"}
		}
	}
	if times > 0 {
		if m.Times > 0 {
			return 0, &Error{w.column, "a second repeat in one move"}
		}
		m.Times = times
		return 1, nil
	}
	kind := c.travel(rest)
	if kind == "" {
		return 0, nil
	}
	t, n := Travel{Kind: kind}, len(strings.Fields(kind))
	if kind == "turn" || kind == "spin" {
		turn, more, err := readTurn(rest[1:])
		if err != nil {
			return 0, err
		}
		t.Turn = turn
		n += more
	}
	m.Travel = append(m.Travel, t)
	return n, nil
}

// travel is the travel that the words begin with, "" for none. A name that starts at its
// second word wins: "step back fist" is a step and a back fist.
func (c *Catalogue) travel(words []token) string {
	for _, kind := range travels {
		parts := strings.Fields(kind)
		if len(words) < len(parts) || join(words[:len(parts)]) != kind {
			continue
		}
		if len(parts) == 2 {
			if _, n, err := c.find(words[1:]); err != nil || n > 0 {
				continue
			}
		}
		return kind
	}
	return ""
}

// readTurn reads "cw 90"; nothing where no direction follows.
func readTurn(rest []token) (Turn, int, error) {
	if len(rest) == 0 || rest[0].text != "cw" && rest[0].text != "ccw" {
		return Turn{}, 0, nil
	}
	if len(rest) < 2 {
		return Turn{}, 0, &Error{rest[0].column, "the degrees are missing; write for example turn cw 90"}
	}
	degrees, err := strconv.Atoi(rest[1].text)
	if err != nil || degrees < 1 || degrees > 720 {
		return Turn{}, 0, &Error{rest[1].column, fmt.Sprintf("%q is not an angle; write 1 to 720 degrees", rest[1].text)}
	}
	return Turn{rest[0].text == "ccw", degrees}, 2, nil
}

func (c *Catalogue) unknown(rest []token) error {
	n := slices.IndexFunc(rest, func(t token) bool { return slices.Contains(after, t.text) })
	if n <= 0 {
		n = len(rest)
	}
	phrase := join(rest[:n])
	problem := fmt.Sprintf("%q is not in the catalogue", phrase)
	if near := c.Nearest(phrase); len(near) > 0 {
		problem += "; near it are " + strings.Join(near, ", ")
	}
	return &Error{rest[0].column, problem}
}

// extras reads what stands after the name.
func (c *Catalogue) extras(words []token, m *Move) error {
	for i := 0; i < len(words); {
		w := words[i]
		once := func(seen bool) error {
			if seen {
				return &Error{w.column, fmt.Sprintf("%q stands twice in this move", w.text)}
			}
			return nil
		}
		// phrase reads the words up to the next extra.
		phrase := func() ([]string, error) {
			var out []string
			for i++; i < len(words) && words[i].kind == 'w' && !slices.Contains(after, words[i].text); i++ {
				out = append(out, words[i].text)
			}
			if len(out) == 0 {
				return nil, &Error{w.column, fmt.Sprintf("nothing follows %q", w.text)}
			}
			return out, nil
		}
		var err error
		switch {
		case w.kind == '!':
			err = once(m.Shout)
			m.Shout = true
			i++
		case w.kind == '~':
			err = once(m.Breath)
			m.Breath = true
			i++
		case w.kind == '(':
			m.Notes = append(m.Notes, w.text)
			i++
		case w.text == "low" || w.text == "mid" || w.text == "high":
			err = once(m.Level != "")
			m.Level = Level(w.text)
			i++
		case w.text == "to":
			if err = once(m.Target != nil); err == nil {
				m.Target, err = phrase()
			}
		case w.text == "in":
			if err = once(m.Stance != ""); err == nil {
				var said []string
				said, err = phrase()
				m.Stance = strings.Join(said, " ")
			}
		case w.text == "turn":
			var n int
			if err = once(m.Turn.Degrees > 0); err == nil {
				m.Turn, n, err = readTurn(words[i+1:])
				switch {
				case err == nil && n == 0:
					err = &Error{w.column, "after a name a turn needs its way and angle; write for example turn cw 90"}
				case m.Technique == "": // without a name a turn is travel wherever it stands
					m.Travel, m.Turn = append(m.Travel, Travel{"turn", m.Turn}), Turn{}
				}
			}
			i += 1 + n
		case w.text == "angle":
			if err = once(m.AngleOut > 0); err == nil {
				err = readAngle(words[i:], m)
			}
			i += 3
		case w.text == "keep":
			err = once(m.Keep)
			m.Keep = true
			i++
		case w.text == "free":
			err = once(m.Free)
			m.Free = true
			i++
		default:
			err = &Error{w.column, fmt.Sprintf("%q does not belong after a name; a comma, plus or slash begins the next move", w.text)}
		}
		if err != nil {
			return err
		}
	}
	if m.Keep && m.Free {
		return &Error{words[0].column, "a move cannot both keep and free"}
	}
	return nil
}

func readAngle(words []token, m *Move) error {
	if len(words) < 3 || words[1].text != "out" {
		return &Error{words[0].column, "an angle is written as angle out 45"}
	}
	degrees, err := strconv.Atoi(words[2].text)
	if err != nil || degrees < 1 || degrees > 180 {
		return &Error{words[2].column, fmt.Sprintf("%q is not an angle; write 1 to 180 degrees", words[2].text)}
	}
	m.AngleOut = degrees
	return nil
}
