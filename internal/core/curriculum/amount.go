package curriculum

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/pattern"
)

// sideWords are the words for each meaning of a side that people write behind an amount.
var sideWords = map[string]SideMeaning{
	"side": "", "stance": ByStance, "limb": ByLimb, "knee": ByLimb, "elbow": ByLimb, "fist": ByLimb, "leg": ByLimb, "hand": ByLimb, "arm": ByLimb, "foot": ByLimb, "feet": ByLimb,
	"way": ByDirection, "direction": ByDirection,
}

// ErrQuantity is wrapped by every error of ParseQuantity.
var ErrQuantity = errors.New("not an amount")

var (
	farMetres = pattern.Of(`(?:^|\D)(?:[6-9]|\d{2,}) ?m\b`)
	// SetsAndReps is a number of sets of so many, 3x8, in small letters.
	SetsAndReps = pattern.Of(`^(\d{1,4}) ?(?:x|×|sets? (?:of|x|×)|sets?) ?(\d{1,4})$`)
	// RightAndLeft is how often on the right and on the left, 8R 8L, in small letters.
	RightAndLeft = pattern.Of(`^\d{1,4} ?(?:r|right) ?[/+&,]? ?\d{1,4} ?(?:l|left)$|^\d{1,4} ?[/+] ?\d{1,4}$`)
)

// ParseQuantity reads an amount as people write it: "5 a side", "10", "once", "60 s",
// "2 min", "1:30", "2 x 90 s", "3 x 60 s, 30 s rest". It reads what Quantity.String prints.
func ParseQuantity(text string) (Quantity, error) {
	if !MayBeAmount(text) {
		return Quantity{}, notAnAmount(text)
	}
	said := strings.ToLower(check.Tidy(text))
	q, ok := readQuantity(said)
	if !ok {
		if m := SetsAndReps.FindStringSubmatch(said); m != nil {
			return q, fmt.Errorf("%w: %q; write the reps in all, %d, and the sets as a remark: (%s)", ErrQuantity, text, Figure(m[1])*Figure(m[2]), check.Tidy(text))
		}
		return q, notAnAmount(text)
	}
	var p check.Problems
	q.Check(&p)
	if len(p) > 0 {
		return q, fmt.Errorf("%w: %s %s", ErrQuantity, p[0].Field, p[0].Text)
	}
	return q, nil
}

// FigureWords are numbers in words, in figures.
var FigureWords = map[string]string{"one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6", "seven": "7", "eight": "8", "nine": "9", "ten": "10", "twelve": "12", "fifteen": "15", "twenty": "20", "thirty": "30", "forty": "40", "fifty": "50", "sixty": "60", "ninety": "90"}

func notAnAmount(text string) error {
	return fmt.Errorf("%w: %q; write for example 5 a side, 10, once, 60 s, or 2 x 90 s, 30 s rest", ErrQuantity, text)
}

// MayBeAmount tells quickly what is no amount: it has neither a figure nor a number in words.
func MayBeAmount(text string) bool {
	if strings.ContainsAny(text, "0123456789½") {
		return true
	}
	for word := range strings.FieldsFuncSeq(strings.ToLower(text), func(r rune) bool { return r == ' ' || r == '-' }) {
		if word == "once" || word == "twice" || word == "thrice" || word == "minute" || FigureWords[word] != "" {
			return true
		}
	}
	return false
}

// Figure is a number that a pattern found: four digits at most.
func Figure(s string) int {
	n, _ := strconv.Atoi(s)
	return n
}

// Bare reports whether an amount is only a number, which behind a name may be its number in a
// series.
func Bare(amount string) bool {
	return !strings.ContainsFunc(check.Tidy(amount), func(r rune) bool { return !unicode.IsDigit(r) })
}

// DefaultAmount is how much is usually asked of a kind.
func DefaultAmount(k Kind) Quantity {
	text := map[Kind]string{
		"lock": "3 a side", "throw": "3 a side", "breakfall": "5", "form": "once", "combination": "4 a side", "self_defence": "2 a side", "partner_set": "3 a side",
		"sparring": "2 x 60 s, 30 s rest", "fitness": "60 s", "balance": "5 a side without touching down", "knowledge": "once", "courtesy": "once", "board_break": "once", "character": "once",
	}[k]
	if text == "" {
		text = "5 a side"
	}
	q, err := ParseQuantity(text)
	if err != nil {
		panic(err) // written above
	}
	return q
}
