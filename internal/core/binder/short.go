package binder

import (
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"velvetladder/internal/core/pattern"
)

// Short words of a page's own, which a line of it tells: zk = zenkutsu dachi, kk = kokutsu dachi.

var (
	// shortLabel may stand before such a line.
	shortLabel = pattern.Of(`(?i)^[\s(]*(?:(?:key|legend|codes?|abbreviations?|short) ?: *)?`)
	// shortEntry is one of them.
	shortEntry = pattern.Of(`^\(?(\pL{1,4}) ?= ?(\pL[\pL -]{2,40}?)[.)]?$`)
	// aStance ends with a word for a stance.
	aStance = pattern.Of(`(?i)(?:dachi|stance|seogi|sogi|kubi)$`)
)

// shortWords writes a page's own short words out on its lines; a stance before what is done in it goes behind it: zk age uke is age uke, in
// zenkutsu dachi. legend are the places of the lines that tell them, with what each says.
func shortWords(lines []string) (out []string, legend map[int]string) {
	means := shortsOf(lines)
	if legend = map[int]string{}; len(means) == 0 {
		return lines, legend
	}
	for i, line := range lines {
		for _, e := range shortEntries(line) {
			if slices.Contains(means, e) {
				legend[i] = strings.TrimPrefix(legend[i]+", "+e[0]+" is "+e[1], ", ")
			}
		}
	}
	for i, line := range lines {
		if _, tells := legend[i]; tells {
			continue
		}
		for _, e := range means {
			word := e[1]
			at := wordAt(line, e[0])
			switch {
			case at == nil:
			case aStance.MatchString(word) && at[0] == listed(line) && at[1] < len(line) && line[at[1]] == ' ':
				line = line[:at[0]] + strings.TrimSpace(line[at[1]:]) + ", in " + word
			default:
				line = line[:at[0]] + word + line[at[1]:]
			}
		}
		lines[i] = line
	}
	return lines, legend
}

// shortsOf are the short words that lines tell and that others use.
func shortsOf(lines []string) (means [][2]string) {
	for _, line := range lines {
		entries := shortEntries(line)
		if slices.ContainsFunc(entries, func(e [2]string) bool {
			return slices.ContainsFunc(lines, func(other string) bool {
				return other != line && shortEntries(other) == nil && wordAt(other, e[0]) != nil
			})
		}) {
			means = append(means, entries...)
		}
	}
	return means
}

// inFull is a line with short words written out.
func inFull(line string, means [][2]string) string {
	for _, e := range means {
		if at := wordAt(line, e[0]); at != nil {
			line = line[:at[0]] + e[1] + line[at[1]:]
		}
	}
	return line
}

// shortEntries are the short words that a line tells, all of it; nil where it tells none.
func shortEntries(line string) (out [][2]string) {
	for _, part := range strings.FieldsFunc(strings.TrimSpace(shortLabel.ReplaceAllString(line, "")), func(r rune) bool { return r == ',' || r == ';' }) {
		m := shortEntry.FindStringSubmatch(strings.TrimSpace(part))
		if m == nil || utf8.RuneCountInString(m[2]) <= utf8.RuneCountInString(m[1]) {
			return nil
		}
		out = append(out, [2]string{m[1], strings.TrimSpace(m[2])})
	}
	return out
}

// wordAt is where a word stands in a line by itself; nil nowhere.
func wordAt(line, word string) []int {
	at := regexp.MustCompile(`(?:^|[\s(/+,-])(` + regexp.QuoteMeta(word) + `)(?:$|[\s)/+,;:.-])`).FindStringSubmatchIndex(line)
	if at == nil {
		return nil
	}
	return at[2:4]
}
