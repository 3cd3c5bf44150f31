package binder

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"
)

// What is written in capitals, and how it is written else.

// inSmall reports whether a name begins with a small letter.
func inSmall(name string) bool {
	r, _ := utf8.DecodeRuneInString(name)
	return unicode.IsLower(r)
}

// inCapitals reports whether all letters of a text, more than three, are capitals.
func inCapitals(text string) bool {
	letters := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) {
			return r
		}
		return -1
	}, text)
	return utf8.RuneCountInString(letters) > 3 && letters == strings.ToUpper(letters) && letters != strings.ToLower(letters)
}

// shoutingFrom is how many lines of a hundred are in capitals where capitals tell nothing.
const shoutingFrom = 60

// inCapitalsMostly reports whether most lines of a page are in capitals, so that they tell nothing.
func inCapitalsMostly(lines []string) bool {
	loud, of := 0, 0
	for _, line := range lines {
		if strings.ContainsFunc(line, unicode.IsLetter) {
			if of++; inCapitals(line) {
				loud++
			}
		}
	}
	return of >= leastLines && 100*loud >= shoutingFrom*of
}

// lowered is a name in capitals as it is usually written: the names of forms and defences with a capital
// to each word, others with one.
func lowered(name string, k Kind) string {
	if !inCapitals(name) {
		return name
	}
	words := strings.Fields(name)
	each := slices.Contains([]Kind{"form", "self_defence", "partner_set", "combination"}, k)
	for i, w := range words {
		if utf8.RuneCountInString(w) < 2 {
			continue
		}
		if w = strings.ToLower(w); i == 0 || each {
			w = capitalised(w)
		}
		words[i] = w
	}
	return strings.Join(words, " ")
}
