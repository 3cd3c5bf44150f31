package binder

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
)

// The parts of a line behind its name, one after the other: amount, keyword or remark.

// remark takes what stands in parentheses: words that say something of the line, as they would
// behind a comma, and else a remark. In double parentheses all of it is a remark.
func (b *Reader) remark(l *PageLine, said string) {
	if strings.HasPrefix(said, "(") && strings.HasSuffix(said, ")") {
		l.note(said[1 : len(said)-1])
		return
	}
	if levels := strings.FieldsFunc(said, func(r rune) bool { return strings.ContainsRune(",/&", r) }); len(levels) > 1 && !slices.ContainsFunc(levels, func(x string) bool { return (curriculum.Meaning{Means: check.Key(x)}).Level() == "" }) {
		l.note(said) // low, mid, high
		return
	}
	if strings.Contains(said, ": ") && strings.Contains(said, ",") { // double kick: chudan, jodan
		l.note(said)
		return
	}
	several := 0
	for _, part := range SplitParts(said) {
		if b.levelSaid(l, check.Key(part)) != "" {
			several++
		}
	}
	for _, part := range SplitParts(said) {
		if several > 1 && b.levelSaid(l, check.Key(part)) != "" { // jodan, chudan, chudan
			l.note(check.Tidy(part))
			continue
		}
		if part = check.Tidy(part); curriculum.Bare(part) && part != "" && b.sparringKind(l) != "fitness" {
			l.doubt(fmt.Sprintf("“(%s)” is read as a remark; where it is the amount, write it without brackets, %s a side or %s times", part, part, part))
		}
		if k := curriculum.KindNamed(part); k != "" && l.Said == "" && l.Section == "" && l.under.mixed {
			l.Said = k // Yoko geri (kick), under a heading that says no kind
			continue
		}
		if curriculum.SetsAndReps.MatchString(check.Key(part)) { // (3 x 2), which may be the amount
			l.note(part)
			continue
		}
		b.ofAge(l, check.Key(part))
		if part != "" && !b.keyword(l, part) && !b.countsOwn(l, part) && !(part == said && b.bracket(l, said)) {
			l.note(part)
			if strings.ContainsFunc(part, unicode.IsDigit) && !curriculum.Bare(part) && !countsOther.MatchString(part) && !b.saysAttack(part) && !fromAge.MatchString(check.Key(part)) {
				l.perhaps = part
			}
		}
	}
}

// numberAsked begins what is asked about a number in brackets.
var numberAsked = pattern.Of(`^“\((\d{1,3})\)” is read as a remark`)

// bracketAmounts reads a number in brackets as the amount where at least three lines of a page have one, and asks about the first.
func bracketAmounts(lines []PageLine) {
	numbered := func(l *PageLine) string {
		if l.Problem != "" || l.Aside != "" || !l.usual || !slices.Contains(append([]Kind{"combination"}, amounted...), l.Kind) {
			return ""
		}
		for _, d := range l.Doubts {
			if m := numberAsked.FindStringSubmatch(d.Reason); m != nil {
				return m[1]
			}
		}
		return ""
	}
	many := 0
	for i := range lines {
		if numbered(&lines[i]) != "" {
			many++
		}
	}
	if many < leastNumbers {
		return
	}
	first := true
	for i := range lines {
		l := &lines[i]
		n := numbered(l)
		q, err := curriculum.ParseQuantity(n)
		if n == "" || err != nil {
			continue
		}
		l.Quantity, l.usual = q, false
		l.Note = strings.Join(slices.DeleteFunc(SplitParts(l.Note), func(part string) bool { return strings.TrimSpace(part) == n }), ", ")
		l.Doubts = slices.DeleteFunc(l.Doubts, func(d notation.Doubt) bool { return numberAsked.MatchString(d.Reason) })
		if first {
			l.doubt(fmt.Sprintf("“(%s)” is read as the amount, %s in all, here and on the other lines with a number in brackets; write for example %s a side where it is more", n, n, n))
		}
		first = false
	}
}

// countedAs is an amount that says what it counts: 10 combos each side.
var countedAs = pattern.Of(`(?i)^(\d{1,3}) (combos?|combinations?|kicks|punches|strikes|blocks|throws|rolls|breakfalls)( .+|)$`)

// countsOther are remarks whose figures count no repetitions: how long a form is, which half of it, for what age, how many points.
var countsOther = pattern.Of(`(?i)^(?:must (?:use|show|land|score|include) .*|with an? (?:fresh|new|different|other) (?:opponent|partner)\b.*` +
	`|\d{1,3} ?%(?: .*)?|(?:the )?(?:first|last) \d{1,2} (?:fast|slow|slowly|hard|quick|quickly|with \pL.*)|\d{1,3} ?(?:°|degrees?)(?: .*)?|(?:min\.? ` +
	`|max\.? |at least |up to )?\d{1,4} (?:pages?|words)` +
	`|(?:vs\.?|against|onto) (?:\d|two|three)|(?:(?:w/|with|against|vs\.?) ?)?(?:\d|two|three|four|five) (?:different |other |new |fresh )?(?:partners|opponents|attackers|people)|(?:all )?\d{1,3} (?:movements?|mvm?ts?|moves|counts)|in \d{1,3} (?:moves|counts)` +
	`|(?:the )?(?:\d{1,2}(?:st|nd|rd|th)|first|second|third|last) (?:\d{1,2} )?(?:half|quarter|third|parts?|sections?|lines?|moves?|movements?|counts?|steps?)(?: only)?` +
	`|(?:moves?|movements?|counts?|lines?|pages?) #?\d{1,3} ?(?:-|–|to|&|and) ?#?\d{1,3}(?: only)?` +
	`|(?:\d{1,3} ?(?:points?|pts|marks?)|(?:at least |min(?:imum)? )?\d{1,3} ?(?:%|per ?cent)(?: or (?:more|better|over)| (?:to |needed to )?pass(?: mark)?| needed| correct)?)` +
	`|(?:[\pL ]+ )?(?:for |if )?(?:under|over|age[sd]?|above|below)[ -]?\d{1,2}(?:'?s|\+)?(?: only)?|\d{1,2}\+(?: (?:years|only))?` +
	`|(?:\d|one|two|three|four) (?:different )?(?:answers?|releases?|escapes?|defen[cs]es?|counters?|versions?|finishes|endings)|without \pL.*|(?:in )?(?:\d|two|three|four|five|six) (?:ways|scenarios?)|1 scenario|all (?:\d|two|three|four|five|six|seven|eight)|pass(?:ing)? mark:? \d{1,3} ?%?` +
	`|all (?:the |its )?(?:moves|movements|steps|counts)|(?:\pL+ ){0,5}\d{1,2} ?oz(?: \pL+)?|(?:\pL+ ){1,4}\d{1,3} ?m|(?:\pL+ ){0,4}\d{1,3} ?(?:cm|metres?|meters?|inch(?:es)?|feet)(?: (?:\pL+ ?){1,2})?)$`)

// eachOther is each of what is no side: new partner each round.
var eachOther = pattern.Of(`(?i)^[^\d]*\b(?:each|every|per) (?:round|time|punch|kick|strike|block|move|movement|technique|rep|count|step|minute|class|lesson|week|combination|combo|turn|throw|fall)$`)

// keyword reads a part that says something of a line and could be nothing else.
func (b *Reader) keyword(l *PageLine, part string) bool {
	if curriculum.KindNamed(part) != "" || strings.HasPrefix(check.Key(part), "term ") || strings.HasPrefix(check.Key(part), "entry ") {
		return false
	}
	said := *l
	said.Tracks = slices.Clone(l.Tracks)
	if b.ReadPart(&said, part) != "" {
		return false
	}
	*l = said
	return true
}

// readsOtherwise reports whether a remark would be read as something else in parentheses.
func (b *Reader) readsOtherwise(note string) bool {
	var l PageLine
	b.remark(&l, note)
	first, _, _ := strings.Cut(note, ",")
	_, err := curriculum.ParseQuantity(first)
	return l.Note != note || len(l.Tracks) > 0 || err == nil && !curriculum.Bare(first)
}

func (l *PageLine) note(said string) {
	if l.Said == "combination" && comboOnly.MatchString(said) { // front kick, round kick (combination)
		return
	}
	if strings.ContainsFunc(said, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }) {
		l.Note = strings.TrimPrefix(l.Note+", "+said, ", ")
	}
}

// lineParts reads the parts behind a name. column is where they begin, from 1. amount is false
// where no amount is among them.
func (b *Reader) lineParts(l *PageLine, rest string, column int) (amount bool) {
	for parts := strings.Split(rest, ","); len(parts) > 0; {
		n, read, problem := b.nextPart(l, parts, amount)
		if problem != "" {
			lead := utf8.RuneCountInString(parts[0]) - utf8.RuneCountInString(strings.TrimLeft(parts[0], " \t"))
			l.fail(column+lead, problem)
			return false
		}
		amount = amount || read
		for _, part := range parts[:n] {
			column += utf8.RuneCountInString(part) + 1
		}
		parts = parts[n:]
	}
	return amount
}

// nextPart reads the first of the parts of a line, with the one behind it where both are one; n says how many it was, read whether it was
// the amount. before says that there is one already.
func (b *Reader) nextPart(l *PageLine, parts []string, before bool) (n int, read bool, problem string) {
	word := check.Tidy(parts[0])
	if word == "" {
		return 1, false, ""
	}
	if at := slices.IndexFunc(parts, func(part string) bool { return b.levelSaid(l, check.Key(part)) == "" }); at > 1 || at < 0 && len(parts) > 1 { // low, mid, high
		n = len(parts)
		if at > 0 {
			n = at
		}
		for _, part := range parts[:n] {
			l.note(check.Tidy(part))
		}
		return n, false, ""
	}
	if len(parts) > 1 {
		if is, read := b.twoParts(l, word, check.Tidy(parts[1]), before); is {
			return 2, read, ""
		}
	}
	if m := restAlone.FindString(check.Key(word)); m != "" && l.Quantity.Measure == curriculum.RoundsTimed && l.Quantity.Rest == 0 {
		if q, err := curriculum.ParseQuantity(fmt.Sprintf("%d x %d s, %s", l.Quantity.Rounds, l.Quantity.Seconds, m)); err == nil { // 3 x 2 min, light contact, 1 min rest
			l.Quantity = q
			return 1, false, ""
		}
	}
	if q, err := curriculum.ParseQuantity(word); err == nil {
		if before {
			l.doubt(fmt.Sprintf("there are two amounts, %s and %s; the last one is taken", l.Quantity, q))
		}
		l.Quantity = q
		return 1, true, ""
	}
	counted := l.Quantity.Measure != ""
	if problem = b.ReadPart(l, word); problem == "" {
		return 1, !counted && l.Quantity.Measure != "", "" // 3 sets of 10
	}
	if len(parts) > 1 && b.ReadPart(l, word+", "+check.Tidy(parts[1])) == "" { // the name of a rung or a group may hold a comma
		return 2, false, ""
	}
	if strict(word) {
		return 1, false, problem
	}
	b.loose(l, word)
	return 1, l.Quantity.Measure != "", "" // 10 each side on focus mitts
}

// twoParts reads two parts that are one amount with a comma in it, 2 x 60 s, 30 s rest; also what a track does instead.
func (b *Reader) twoParts(l *PageLine, word, next string, before bool) (is, read bool) {
	rest := restPattern.MatchString(check.Key(next))
	q, err := curriculum.ParseQuantity(word + ", " + next)
	if both := !before && b.sparringKind(l) != "self_defence" && !(curriculum.IsAmount(word) && curriculum.IsAmount(next)); err == nil && (rest || both) { // 5 forward, 5 back; of a defence both hands may hold
		l.Quantity = q
		return true, true
	}
	return rest && b.ReadPart(l, word+", "+next) == "", false
}

// asFar is how far something is done.
var asFar = pattern.Of(`(?i)^as (?:far as|\pL+ as|(?:a |part of the )?warm|an? (?:drill|flow|set)\b|an? (?:group|team|class|pair))\b`)

// strictParts are words that begin a part which is no remark: what follows them is wrong.
var strictParts = pattern.Of(`(?i)^(?:(?:weight|marks|sprint|level|stage) |entry \pL)`)

// weightOnLegs is where the weight is in a stance.
var weightOnLegs = pattern.Of(`(?i)^weight (?:is |stays |mostly )?(?:even|equal|on|over|forward|back|cent|low|in|between|distribut|\d{2} ?(?:/|-|:) ?\d{2})`)

// strict reports whether a part is meant for something and says it wrongly.
func strict(part string) bool {
	return strictParts.MatchString(part) && !weightOnLegs.MatchString(part) || curriculum.SetsAndReps.MatchString(strings.ToLower(part)) || curriculum.RightAndLeft.MatchString(strings.ToLower(part))
}

// restPattern is the second half of rounds with a rest, of everybody or for a track.
var restPattern = pattern.Of(`^\d[\d:]* ?(?:\w*|['’′″"]) (?:rest|break)( for .+)?$`)

// restAlone is a rest apart from its rounds.
var restAlone = pattern.Of(`^\d[\d:]* ?(?:\w+|['’′″"”]) (?:rest|break)$`)

// SplitParts splits the parts of a line at their commas, but for that before a rest.
func SplitParts(text string) (out []string) {
	for _, part := range strings.Split(text, ",") {
		if n := len(out); n > 0 && restPattern.MatchString(check.Key(part)) {
			out[n-1] += "," + part
			continue
		}
		out = append(out, part)
	}
	return out
}
