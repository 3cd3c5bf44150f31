package notation

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// MaxMoves is the most moves and sentences one line may have.
const MaxMoves = 1000

// Error says what is wrong and where: Column counts characters from 1.
type Error struct {
	Column  int
	Problem string
}

// Error gives column and problem.
func (e *Error) Error() string { return fmt.Sprintf("column %d: %s", e.Column, e.Problem) }

// Doubt is what was read in one way and might be meant in another: the person who types is
// asked, and where nobody can be asked it stands as it was read.
type Doubt struct {
	Column int // counts characters from 1
	Reason string
}

// Reading is a line as it was read.
type Reading struct {
	Sequence
	Doubts []Doubt
}

// token is a word, a note, or one of the signs , + / ! ~
type token struct {
	text   string
	column int
	kind   rune // 'w' a word, '(' a note, else the sign itself
}

// stops reports whether a full stop ends a sentence at this word: a word ends before a space,
// a sign or the end of the line.
func (t token) stops() bool { return t.kind == 'w' && strings.HasSuffix(t.text, ".") }

// key is a word as keywords are compared: they ignore case.
func (t token) key() string {
	if t.kind != 'w' {
		return ""
	}
	return strings.ToLower(t.text)
}

func join(words []token) string {
	out := make([]string, len(words))
	for i, w := range words {
		out[i] = w.text
	}
	return strings.Join(out, " ")
}

// scan splits a line into tokens; columns are counted from 1 after offset characters.
func scan(line string, offset int) (out []token, err error) {
	text := []rune(line)
	for i := 0; i < len(text); {
		r := text[i]
		switch {
		case unicode.IsSpace(r):
			i++
		case strings.ContainsRune(",+/!~", r):
			out = append(out, token{string(r), offset + i + 1, r})
			i++
		case r == '(':
			end := slices.Index(text[i:], ')')
			if end < 0 {
				return nil, &Error{offset + i + 1, "this note is not closed; write ) after it"}
			}
			note := strings.Join(strings.Fields(string(text[i+1:i+end])), " ")
			if note == "" || strings.Contains(note, "(") {
				return nil, &Error{offset + i + 1, "a note is some words in one pair of parentheses"}
			}
			out = append(out, token{note, offset + i + 1, '('})
			i += end + 1
		case r == ')':
			return nil, &Error{offset + i + 1, "this parenthesis closes nothing"}
		default:
			start := i
			for i < len(text) && !unicode.IsSpace(text[i]) && !strings.ContainsRune(",+/!~()", text[i]) {
				i++
			}
			out = append(out, token{string(text[start:i]), offset + start + 1, 'w'})
		}
	}
	return out, nil
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
			err = &Error{1, "a sequence says where it starts once, at the start of its first step"}
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
		return out, nil, &Error{end, "there is no move; write for example: lead jab, rear cross"}
	}
	out.Counts = []Count{{Beat{}}}
	for i := 0; ; {
		m, at, n, err := c.piece(tokens[i:], end, &out.Doubts)
		if err != nil {
			return out, nil, err
		}
		if places = append(places, at); len(places) > MaxMoves {
			return out, nil, &Error{tokens[i].column, fmt.Sprintf("this is step %d; a line has at most %d", len(places), MaxMoves)}
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
		return "", 0, &Error{words[0].column, fmt.Sprintf("%q is no stance of this program%s", join(words), c.stancesNear(join(words)))}
	case s.Feet == SideBySide && s.Side != "":
		return "", 0, &Error{words[0].column, fmt.Sprintf("in %s the feet are level; no side stands before it", s.Name)}
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
		return m, at, 0, &Error{column, "a move is missing before " + sign}
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
	wanted := []rune(loose(join(said)))
	for n, e := range c.entries {
		for _, name := range append([]string{e.Name}, e.Aliases...) {
			if d := distance(wanted, []rune(loose(name))); d <= most && d < len(wanted) {
				c.name(&m, n, 0)
				return c.printMove(m)
			}
		}
	}
	return ""
}

// after are the words that begin what stands after a name.
var after = []string{"low", "mid", "high", "to", "in", "turn", "angle", "keep", "free"}

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
	return m, at, err
}

// impossible is what cannot be whoever does the move.
func (m Move) impossible(at place) error {
	turns := func(t Travel) bool { return t.Kind != "turn" && t.Kind != "spin" }
	switch {
	case m.Technique == "" && len(m.Travel) > 0 && m.Side != "" && !slices.ContainsFunc(m.Travel, turns):
		t := m.Travel[0]
		return &Error{at.side, fmt.Sprintf("a foot does not go with %s alone; write %s step %s for the foot that steps as you turn", t.Kind, m.Side, strings.TrimSpace("turn "+t.turnWords()))}
	case m.In.Side != "" && m.In.Feet == SideBySide:
		return &Error{at.in, fmt.Sprintf("in %s the feet are level; no side stands before it", m.In.Name)}
	case m.Stands == SideBySide && m.Side != "":
		return &Error{at.side, fmt.Sprintf("in %s the feet are level; no side stands before it", m.Name)}
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
		return 0, &Error{last.column, "a technique or a travel such as step is missing in this move"}
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
		return 0, &Error{column, fmt.Sprintf("no technique has the call number %d%s", number, c.numbers())}
	}
	if other, twice := c.twice[number]; twice {
		return 0, &Error{column, fmt.Sprintf("the call number %d is given to both %s and %s; write the name", number, c.entries[entry].Name, c.entries[other].Name)}
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
	if word == "double" {
		return true
	}
	_, err := strconv.Atoi(strings.TrimPrefix(word, "x"))
	return err == nil && strings.HasPrefix(word, "x")
}

// keyword reads a side, a repeat or a travel, and returns how many words it took.
func (c *Catalogue) keyword(rest []token, m *Move) (int, error) {
	w, word := rest[0], rest[0].key()
	switch s := Side(word); s {
	case Lead, Rear, Left, Right, Both, SameSide, SameName:
		if m.Side != "" {
			return 0, &Error{w.column, fmt.Sprintf("a second side; this move is %s already", m.Side)}
		}
		m.Side = s
		return 1, nil
	}
	if isRepeat(word) {
		times := 2
		if word != "double" {
			if times, _ = strconv.Atoi(word[1:]); times < 2 || times > 100 {
				return 0, &Error{w.column, "a move is repeated x2 to x100"}
			}
		}
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
	switch kind {
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

// readTurn reads "cw 90"; nothing where no direction follows.
func readTurn(rest []token) (Turn, int, error) {
	if len(rest) == 0 || rest[0].key() != "cw" && rest[0].key() != "ccw" {
		return Turn{}, 0, nil
	}
	if len(rest) < 2 {
		return Turn{}, 0, &Error{rest[0].column, "the degrees are missing; write for example turn cw 90"}
	}
	degrees, err := strconv.Atoi(rest[1].text)
	if err != nil || degrees < 1 || degrees > 720 {
		return Turn{}, 0, &Error{rest[1].column, fmt.Sprintf("%q is not an angle; write 1 to 720 degrees", rest[1].text)}
	}
	return Turn{rest[0].key() == "ccw", degrees}, 2, nil
}

func (c *Catalogue) unknown(rest []token) error {
	n := slices.IndexFunc(rest, func(t token) bool { return slices.Contains(after, t.key()) })
	if n <= 0 {
		n = len(rest)
	}
	phrase := join(rest[:n])
	problem := fmt.Sprintf("%q is not in the catalogue", phrase)
	if near := c.Nearest(phrase); len(near) > 0 {
		problem += "; near it are " + strings.Join(near, ", ")
	}
	return &Error{rest[0].column, problem + "; a step in plain words ends with a full stop and has no / or + in it"}
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
		return &Error{t.column, fmt.Sprintf("%q stands twice in this move", t.text)}
	}
	return nil
}

// extras reads what stands after the name.
func (c *Catalogue) extras(words []token, m *Move, at *place, doubts *[]Doubt) error {
	for i := 0; i < len(words); {
		w := words[i]
		if w.kind != 'w' {
			if err := m.sign(w); err != nil {
				return err
			}
			i++
			continue
		}
		once := func(seen bool) error {
			if seen {
				return &Error{w.column, fmt.Sprintf("%q stands twice in this move", w.text)}
			}
			return nil
		}
		// phrase reads the words up to the next extra.
		phrase := func(from int) ([]string, error) {
			out := []string{}
			for i = from; i < len(words) && words[i].kind == 'w' && !slices.Contains(after, words[i].key()); i++ {
				out = append(out, words[i].text)
			}
			if len(out) == 0 {
				return nil, &Error{w.column, fmt.Sprintf("nothing follows %q", w.text)}
			}
			return out, nil
		}
		var err error
		switch w.key() {
		case "low", "mid", "high":
			err = once(m.Level != "")
			m.Level = Level(w.key())
			i++
		case "to":
			if err = once(m.Target != nil); err == nil {
				m.Target, err = c.target(words, i, phrase)
			}
		case "in":
			if err = once(m.In.Name != ""); err == nil {
				at.in = w.column
				i, err = c.inStance(words, i, m, doubts, phrase)
			}
		case "turn":
			n := 0
			if err = once(m.Turn.Degrees > 0); err == nil {
				m.Turn, n, err = readTurn(words[i+1:])
				switch {
				case err == nil && n == 0:
					err = &Error{w.column, "after a name a turn needs its way and angle; write for example turn cw 90"}
				case m.Technique == "": // without a name a turn is travel wherever it stands
					m.Travel, m.Turn = append(m.Travel, Travel{Kind: "turn", Turn: m.Turn}), Turn{}
				}
			}
			i += 1 + n
		case "angle":
			if err = once(m.AngleOut > 0); err == nil {
				err = readAngle(words[i:], m)
			}
			i += 3
		case "keep":
			err = once(m.Keep)
			m.Keep = true
			i++
		case "free":
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

// target reads what follows "to". A level right after it belongs to the target where a word
// follows that begins no extra: to low back.
func (c *Catalogue) target(words []token, i int, phrase func(int) ([]string, error)) ([]string, error) {
	level := ""
	if i+2 < len(words) && slices.Contains(after[:3], words[i+1].key()) && words[i+2].kind == 'w' && !slices.Contains(after, words[i+2].key()) {
		level = words[i+1].text
		i++
	}
	out, err := phrase(i + 1)
	if level != "" && err == nil {
		out = append([]string{level}, out...)
	}
	for i, w := range out {
		if s := Side(strings.ToLower(w)); s == Left || s == Right { // keywords are printed small, so that they can be mirrored
			out[i] = string(s)
		}
	}
	return out, err
}

// inStance reads what follows "in" and returns where it ends.
func (c *Catalogue) inStance(words []token, i int, m *Move, doubts *[]Doubt, phrase func(int) ([]string, error)) (int, error) {
	rest := words[i+1:]
	if end := slices.IndexFunc(rest, func(t token) bool { return t.kind != 'w' }); end >= 0 {
		rest = rest[:end]
	}
	s, n, err := c.stance(rest)
	if err != nil {
		return i, err
	}
	if n > 0 {
		m.In = s
		return i + 1 + n, nil
	}
	said, err := phrase(i + 1)
	if err != nil {
		return i, err
	}
	if side := Side(strings.ToLower(said[0])); (side == Left || side == Right) && len(said) > 1 {
		m.In.Side, said = side, said[1:]
	}
	m.In.Name = strings.Join(said, " ")
	*doubts = append(*doubts, Doubt{rest[0].column, fmt.Sprintf("%q is no stance of this program%s", m.In.Name, c.stancesNear(m.In.Name))})
	return i + 1 + len(said) + min(len(m.In.Side), 1), nil
}

func readAngle(words []token, m *Move) error {
	if len(words) < 3 || words[1].key() != "out" {
		return &Error{words[0].column, "an angle is written as angle out 45"}
	}
	degrees, err := strconv.Atoi(words[2].text)
	if err != nil || degrees < 1 || degrees > 180 {
		return &Error{words[2].column, fmt.Sprintf("%q is not an angle; write 1 to 180 degrees", words[2].text)}
	}
	m.AngleOut = degrees
	return nil
}
