package notation

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
)

// Error says what is wrong and where: Column counts characters from 1.
type Error struct {
	Column  int
	Problem string
	Words   string // a name that no technique has, which is all that is wrong; "" something else is
}

// Error gives column and problem.
func (e *Error) Error() string { return fmt.Sprintf("column %d: %s", e.Column, e.Problem) }

// Doubt is what was read in one way and might be meant in another: the person who types is
// asked, and where nobody can be asked it stands as it was read.
type Doubt struct {
	Column int // counts characters from 1
	Reason string
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
				return nil, &Error{Column: offset + i + 1, Problem: "this note is not closed; write ) after it"}
			}
			note := strings.Join(strings.Fields(string(text[i+1:i+end])), " ")
			if note == "" || strings.Contains(note, "(") {
				return nil, &Error{Column: offset + i + 1, Problem: "a note is some words in one pair of parentheses"}
			}
			out = append(out, token{note, offset + i + 1, '('})
			i += end + 1
		case r == ')':
			return nil, &Error{Column: offset + i + 1, Problem: "this parenthesis closes nothing"}
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
