package notation

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// after are the words that begin what stands after a name.
var after = []string{"low", "mid", "high", "to", "in", "turn", "angle", "keep", "free"}

// extras reads what stands after the name.
// It is long: a case for each word that may follow a move.
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
				return &Error{Column: w.column, Problem: fmt.Sprintf("%q stands twice in this move", w.text)}
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
				return nil, &Error{Column: w.column, Problem: fmt.Sprintf("nothing follows %q", w.text)}
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
					err = &Error{Column: w.column, Problem: "after a name a turn needs its way and angle; write for example turn cw 90"}
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
			return c.misplaced(*m, words[i:])
		}
		if err != nil {
			return err
		}
	}
	if m.Keep && m.Free {
		return &Error{Column: words[0].column, Problem: "a move cannot both keep and free"}
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
		return &Error{Column: words[0].column, Problem: "an angle is written as angle out 45"}
	}
	degrees, err := strconv.Atoi(words[2].text)
	if err != nil || degrees < 1 || degrees > 180 {
		return &Error{Column: words[2].column, Problem: fmt.Sprintf("%q is not an angle; write 1 to 180 degrees", words[2].text)}
	}
	m.AngleOut = degrees
	return nil
}

// misplaced is the error of a word behind the name that belongs elsewhere.
func (c *Catalogue) misplaced(m Move, rest []token) error {
	w := rest[0]
	name := m.Name
	if name == "" {
		name = "step"
	}
	times := w.key()
	if times == "x" && len(rest) > 1 {
		times += rest[1].key()
	}
	for from := range min(2, len(rest)) { // a name, or a side and a name
		if _, n, err := c.find(rest[from:]); err == nil && n > 0 && (from == 0 || sided(w)) {
			return &Error{Column: w.column, Problem: fmt.Sprintf("%q begins another move; write a comma before it, or + where both are done at once", join(rest[:from+n]))}
		}
	}
	switch {
	case isRepeat(times):
		return &Error{Column: w.column, Problem: fmt.Sprintf("a repeat stands before the move: write %s %s", times, name)}
	case w.key() == "into":
		return &Error{Column: w.column, Problem: `"into" does not belong after a name; ` + stands}
	case slices.ContainsFunc(rest, func(t token) bool { return ways[t.key()] == shouts }):
		return &Error{Column: w.column, Problem: fmt.Sprintf("%q does not belong after a name; %s", join(rest), shouts)}
	case sided(w):
		return &Error{Column: w.column, Problem: fmt.Sprintf("a side stands before the move: write %s %s", w.text, name)}
	}
	return &Error{Column: w.column, Problem: fmt.Sprintf("%q does not belong after a name; a comma, plus or slash begins the next move", w.text)}
}

// sided reports whether a word is a side as it stands before one limb.
func sided(w token) bool { return slices.Contains([]Side{Left, Right, Lead, Rear}, Side(w.key())) }
