package binder

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Where the name of a line ends, and what stands behind it.

// nameIn is where in a line the name stands. A known name may hold any sign; others end at a
// comma, a remark or a colon.
func (b *Reader) nameIn(line []rune) (from, to int) {
	text := string(line)
	first := utf8.RuneCountInString(text[:listed(text)])
	ends := func(i int) bool { return endsName(line, i) }
	for _, from := range []int{0, first} {
		for to := min(len(line), from+2*check.NameLength); to > from; to-- {
			if t := b.Named(string(line[from:to])); ends(to) && t != nil && !(t.Kind == "stance" && b.movesFrom(line, to)) {
				return from, to
			}
		}
	}
	for to = first; !ends(to); to++ {
	}
	if stanceAlone.MatchString(string(line[first:to])) && b.movesFrom(line, to) {
		for to++; !ends(to); to++ {
		}
	}
	return first, to
}

// endsName reports whether a name ends before a sign of a line.
func endsName(line []rune, at int) bool {
	return at == len(line) || strings.ContainsRune(partSigns+"(", line[at]) || colon(line, at) || dash(line, at)
}

// movesFrom reports whether behind the comma after a stance what is done in it is named: Walking stance, low block.
func (b *Reader) movesFrom(line []rune, comma int) bool {
	if comma == len(line) || line[comma] != ',' {
		return false
	}
	end := comma + 1
	for ; !endsName(line, end); end++ {
	}
	return slices.Contains([]Kind{"strike", "kick", "block"}, b.KindInName(check.Tidy(string(line[comma+1:end]))))
}

// stanceAlone is the name of a stance and nothing else.
var stanceAlone = pattern.Of(`(?i)^(?:in )?(?:an? )?(?:[\pL-]+ ){1,2}(?:stance|dachi|seogi|sogi|kubi)$|^(?:in )?\pL+-?(?:dachi|seogi)$`)

// toldTo is where the name of a question or a task ends: at a bracket or the end of the line, unless a part
// behind a comma says something of the line.
func (b *Reader) toldTo(l *PageLine, line []rune, to int) int {
	if !slices.Contains(curriculum.SaidKinds, b.sparringKind(l)) || to == len(line) || line[to] != ',' {
		return to
	}
	rest, _, _ := strings.Cut(string(line[to+1:]), "(")
	for _, part := range SplitParts(rest) {
		if _, err := curriculum.ParseQuantity(part); err == nil || b.reads(check.Tidy(part)) || curriculum.KindNamed(part) != "" {
			return to
		}
	}
	return to + 1 + utf8.RuneCountInString(strings.TrimRight(rest, " "))
}

// dash reports whether a character is a dash with spaces around it, which parts as a comma does.
// It may stand before the space that ends a name.
func dash(line []rune, i int) bool {
	if i+2 < len(line) && line[i] == ' ' {
		i++
	}
	return i > 0 && i+1 < len(line) && strings.ContainsRune("-–—", line[i]) && line[i-1] == ' ' && line[i+1] == ' '
}

// colon reports whether a character is a colon, not one of a time such as 1:30.
func colon(line []rune, i int) bool {
	return line[i] == ':' && (i == 0 || i+1 == len(line) || !unicode.IsDigit(line[i-1]) || !unicode.IsDigit(line[i+1]))
}

// behind takes the remarks and the moves out of what follows a name, and returns the parts
// between, each character where it stood.
func (b *Reader) behind(l *PageLine, line []rune, from int) string {
	rest := slices.Clone(line[from:])
	for i := 0; i < len(rest); i++ {
		switch {
		case rest[i] == '(':
			end := closes(rest[i:])
			if end < 0 {
				l.fail(from+i+1, "this remark is not closed; write ) after it, at the end of the line or before the colon")
				return ""
			}
			b.remark(l, check.Tidy(string(rest[i+1:i+end])))
			for j := range end {
				rest[i+j] = ' '
			}
			i += end
			rest[i] = ','
			if i+1 < len(rest) && rest[i+1] == '.' { // Broken Oar (right cross). Both sides.
				i++
				rest[i] = ','
			}
		case strings.ContainsRune(partSigns, rest[i]), rest[i] != ' ' && dash(line, from+i):
			rest[i] = ','
		case colon(rest, i):
			first, _, _ := strings.Cut(string(rest[i+1:]), ",")
			first, _, _ = strings.Cut(first, "(")
			if manyTechniques.MatchString(first) { // Against a wrist grab: 3 techniques
				rest[i] = ','
				continue
			}
			if _, err := curriculum.ParseQuantity(first); err == nil && !(curriculum.Bare(first) && b.calls()) || err != nil && amountLeads(first) || markInWords.MatchString(check.Key(first)) { // Cross: 10 each hand; Squats: 20=good
				rest[i] = ','
				continue
			}
			l.Moves, l.before = strings.TrimSpace(string(rest[i+1:])), from+i+1
			for l.before < len(line) && unicode.IsSpace(line[l.before]) {
				l.before++
			}
			return string(rest[:i])
		}
	}
	return string(rest)
}

// manyTechniques is how many of what is not named.
var manyTechniques = pattern.Of(`(?i)^ *(?:\d{1,2}|two|three|four|five) (?:different |own )?(?:techniques?|ways|defen[cs]es?|answers?|counters?)\.? *$`)

// closes is where the parenthesis that a text begins with is closed; -1 nowhere.
func closes(text []rune) int {
	depth := 0
	for i, r := range text {
		switch r {
		case '(':
			depth++
		case ')':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}
