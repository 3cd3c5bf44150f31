package office

import (
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
)

// Lengths of a password in characters. The longest is what a person may still type.
const (
	LeastPassword = 10
	MostPassword  = 200
)

// CheckPassword says what is wrong with a password as a password; common tells whether one, in small letters, is
// among those that are tried first, and about are names that whoever tries would begin with. Any characters will do: length is asked for, and that it is none that is tried first.
func CheckPassword(p *check.Problems, password string, common func(string) bool, about ...string) {
	switch n := len([]rune(password)); {
	case n < LeastPassword:
		p.Add("password", "has %d characters; at least %d are needed. Four words that do not belong together are easy to keep", n, LeastPassword)
	case n > MostPassword:
		p.Add("password", "has %d characters; up to %d fit", n, MostPassword)
	default:
		if why := guessed(password, common, about); why != "" {
			p.Add("password", "is one of those that are tried first: %s. Four words that do not belong together are easy to keep", why)
		}
	}
}

// spelt undoes the usual ways of writing a word with figures.
var spelt = strings.NewReplacer("0", "o", "1", "l", "3", "e", "4", "a", "5", "s", "7", "t", "@", "a", "$", "s", "!", "i")

// guessed says why a password is soon found; "" it is not.
func guessed(password string, common func(string) bool, about []string) string {
	low := strings.ToLower(strings.TrimSpace(password))
	bare := strings.TrimFunc(low, func(c rune) bool { return !unicode.IsLetter(c) })
	switch {
	case common(low):
		return "it is on the list of the most used ones"
	case repeats(low):
		return "it is the same over and over"
	case runs(low):
		return "it runs along the alphabet, the figures or the keys"
	case bare != "" && (common(bare) || common(spelt.Replace(bare))), common(spelt.Replace(low)):
		return "it is a much used one with figures or signs"
	}
	rest, named := low, ""
	for _, part := range strings.Fields(strings.ToLower(strings.Join(about, " "))) {
		if len([]rune(part)) >= 3 && strings.Contains(rest, part) {
			rest, named = strings.ReplaceAll(rest, part, ""), part
		}
	}
	if named != "" && len([]rune(strings.TrimSpace(rest))) < 6 {
		return "it is little more than “" + named + "”"
	}
	return ""
}

// repeats reports whether a text is a piece of up to four characters over and over.
func repeats(s string) bool {
	r := []rune(s)
	for n := 1; n <= 4 && n*2 <= len(r); n++ {
		same := true
		for i := n; i < len(r) && same; i++ {
			same = r[i] == r[i-n]
		}
		if same {
			return true
		}
	}
	return false
}

// rows are what fingers and tongues run along.
var rows = []string{"abcdefghijklmnopqrstuvwxyz", "01234567890123456789", "qwertyuiop", "asdfghjkl", "zxcvbnm", "qwertzuiop", "yxcvbnm", "azertyuiop", "qsdfghjklm", "1qaz2wsx3edc4rfv5tgb6yhn7ujm"}

// runs reports whether all of a text lies along one or several rows, forwards or backwards, at least four at a time.
func runs(s string) bool {
	r := []rune(s)
	for i := 0; i < len(r); {
		n := 0
		for _, row := range rows {
			n = max(n, along(r[i:], row), along(r[i:], reversed(row)))
		}
		if n < 4 {
			return false
		}
		i += n
	}
	return true
}

// along is how many of the first characters stand in a row one after another.
func along(r []rune, row string) int {
	best := 0
	for n := 4; n <= len(r) && strings.Contains(row, string(r[:n])); n++ {
		best = n
	}
	return best
}

func reversed(s string) string {
	r := []rune(s)
	for i, j := 0, len(r)-1; i < j; i, j = i+1, j-1 {
		r[i], r[j] = r[j], r[i]
	}
	return string(r)
}
