package binder

import (
	"maps"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/pattern"
)

// Signs and short words that a line of the page explains.

var (
	signLegend = pattern.Of(`^\s*\(?([*†‡§]{1,2})\)? ?(?:=|:|–|-|—|means|marks|is|are)? ?(\p{L}.*?)[.)]?$`)
	signMust   = pattern.Of(`(?i)\b(?:must|required|compulsory|mandatory|essential|has to|have to)\b`)
	signBonus  = pattern.Of(`(?i)\b(?:bonus|optional|extra|not required|not needed)\b`)
)

// mostLegend is how many words explain a sign at most.
const mostLegend = 8

// explained says on each line what other lines say of its signs and short words; legend are the places of those, with why they are set aside.
func explained(lines []string, stripes map[int]string) (out []string, legend map[int]string) {
	out, signs := withoutSigns(lines)
	out, short := shortWords(out)
	maps.Copy(signs, stripes)
	legend = map[int]string{}
	for i, says := range signs {
		legend[i] = "what a sign means: " + says
	}
	for i, says := range short {
		legend[i] = "what its short words mean: " + says
	}
	return out, legend
}

// withoutSigns reads a legend such as "* = must be passed" and says so on the lines with the sign; legend
// are the places of such lines, with what each says.
func withoutSigns(lines []string) (out []string, legend map[int]string) {
	legend = map[int]string{}
	means := map[string]string{}
	for i, line := range lines {
		m := signLegend.FindStringSubmatch(line)
		if m == nil || means[m[1]] != "" || len(strings.Fields(m[2])) > mostLegend {
			continue
		}
		said := ""
		switch {
		case signBonus.MatchString(m[2]):
			said = "bonus"
		case signMust.MatchString(m[2]):
			said = "must"
		}
		others := slices.ContainsFunc(lines, func(x string) bool { return x != line && signed(x, m[1]) >= 0 })
		if said != "" && others {
			means[m[1]], legend[i] = said, said
		}
	}
	for i, line := range lines {
		if _, explains := legend[i]; explains {
			continue
		}
		for sign, said := range means {
			if at := signed(line, sign); at >= 0 {
				line = strings.TrimRight(line[:at]+strings.Repeat(" ", utf8.RuneCountInString(sign))+line[at+len(sign):], " \t") + ", " + said
			}
		}
		lines[i] = line
	}
	return lines, legend
}

// signed is where in a line a sign stands at a word, not before a blank as in a list; -1 nowhere.
func signed(line, sign string) int {
	for at := 0; ; {
		k := strings.Index(line[at:], sign)
		if k < 0 {
			return -1
		}
		at += k
		before, _ := utf8.DecodeLastRuneInString(line[:at])
		after, _ := utf8.DecodeRuneInString(line[at+len(sign):])
		mark := func(r rune) bool { return r != utf8.RuneError && strings.ContainsRune(sign, r) }
		if !mark(before) && !mark(after) && (strings.TrimSpace(line[:at]) != "" || unicode.IsLetter(after)) {
			return at
		}
		at += len(sign)
	}
}
