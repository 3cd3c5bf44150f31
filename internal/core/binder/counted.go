package binder

import (
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Lists of which each has its amount, or its label.

// amountEach takes several apart of which each has its amount, 20 push-ups / 30 sit-ups, or all the one behind them, jab / cross / hook 10 of
// each; nil where they do not.
func (b *Reader) amountEach(line string) []string {
	var out []string
	if each := exercises.FindString(line); each != "" {
		for _, part := range strings.Split(each, "/") {
			out = append(out, strings.TrimSpace(part))
		}
		return out
	}
	if bracketed := numberInBrackets.FindAllStringSubmatch(line, -1); len(bracketed) > 1 && strings.TrimRight(numberInBrackets.ReplaceAllString(line, ""), ",; ") == "" { // press-ups (10), sit-ups (20)
		for _, m := range bracketed {
			out = append(out, strings.TrimSpace(m[1])+", "+m[2])
		}
		return out
	}
	m := ofEach.FindStringSubmatch(line)
	if m == nil {
		if m = amountBehind.FindStringSubmatch(line); m == nil || b.amountIn(m[2]) == "" {
			return nil
		}
	}
	names := strings.FieldsFunc(m[1], func(r rune) bool { return strings.ContainsRune("/,;+&", r) })
	if len(names) < 2 || slices.ContainsFunc(names, func(name string) bool { return !b.namesOne(strings.TrimSpace(name)) }) {
		return nil
	}
	for _, name := range names {
		out = append(out, capitalised(strings.Trim(name, " -–—"))+", "+eachAlone.ReplaceAllString(m[2], "$1"))
	}
	return out
}

// numberInBrackets is a name and how often behind it: press-ups (10).
var numberInBrackets = pattern.Of(`\s*(\pL[^(),;:]*?)\s*\((\d{1,3})\)[,;]?`)

// amountBehind is what is said of all of a list behind a colon: jab, cross: 30 s each.
var amountBehind = pattern.Of(`^([^:(]+[,;/][^:(]+?) ?: *((?:x ?)?\d.*)$`)

// eachLabel is an amount of each that is listed behind it.
var eachLabel = pattern.Of(`(?i)^\s*x? ?(\d{1,3}) ?(?:x|times|reps)? ?(?:of )?each(?: of)?$`)

// exercisesIn are the lines for a list of exercises each with its amount, before or behind it: 15 push-ups, squats 20, plank 1 min. nil where it is none.
func (b *Reader) exercisesIn(text string, kind Kind) (out []string) {
	body := strings.TrimSpace(text[listed(text):])
	if m := anyLabel.FindStringSubmatch(body); m != nil && b.KindInName(m[1]) == "" && (curriculum.UsualKind(m[1]) == "fitness" || kind == "fitness" || kind == "") { // Finish - 50 push-ups
		body = m[2]
	}
	fit := kind == "fitness"
	parts := outsideBrackets(andLast.ReplaceAllString(strings.ReplaceAll(body, " / ", ", "), ", "), ",")
	for _, part := range parts {
		words := strings.Fields(leadsExercise.ReplaceAllString(part, ""))
		if strings.Contains(part, " - ") || restLine.MatchString(strings.TrimSpace(part)) || len(words) < 2 || len(words) > mostListed+2 {
			return nil
		}
		i, j := amountAt(words)
		last := len(words) - 1
		switch {
		case i == 0 && j > 0 && j <= last:
			out = append(out, capitalised(strings.Join(words[j:], " "))+", "+strings.Join(words[:j], " "))
		case j == last+1 && i > 0:
			out = append(out, capitalised(strings.Join(words[:i], " "))+", "+strings.Join(words[i:], " "))
		case curriculum.Bare(words[0]) && unicode.IsLetter([]rune(words[1])[0]):
			out = append(out, capitalised(strings.Join(words[1:], " "))+" x "+words[0])
		case curriculum.Bare(words[last]):
			out = append(out, capitalised(strings.Join(words[:last], " "))+" x "+words[last])
		default:
			return nil
		}
		name, _ := cutAny(out[len(out)-1], ",")
		is := b.KindInName(strings.TrimSpace(lastNumber.ReplaceAllString(name, "")))
		fit = fit || is == "fitness"
		if is != "fitness" && is != "" {
			return nil
		}
	}
	if len(parts) < 2 || !fit {
		return nil
	}
	return out
}

// countedUnder are the lines for a list behind a label that is no heading, each with its amount: Staff: figure eight 10x, low sweep 10x, form.
// The label goes with each. nil where it is none.
func (b *Reader) countedUnder(text string) (out []string) {
	m := anyLabel.FindStringSubmatch(strings.TrimSpace(text[listed(text):]))
	if m == nil || !strings.Contains(text, ":") || lonelyName.MatchString(m[1]) || b.KindInName(m[1]) == "combination" {
		return nil
	}
	with := 0
	parts := outsideBrackets(m[2], ",;")
	for _, part := range parts {
		words := strings.Fields(part)
		if i, j := amountAt(words); i > 0 && j == len(words) {
			with++
		} else if len(words) < 2 || j > i {
			return nil
		}
		out = append(out, strings.TrimSpace(part)+" ("+m[1]+")")
	}
	if with < 2 {
		return nil
	}
	return out
}

// leadsExercise is before an exercise and its amount in a sentence: do 50 push-ups, a three minute plank.
var leadsExercise = pattern.Of(`(?i)^\s*(?:do|perform|complete|an?) `)

// anyLabel is a word or two before a list.
var anyLabel = pattern.Of(`^(\pL+(?: \pL+)?)(?::| [-–—]) +(\S.*)$`)

// stanceLabel is a stance, or the way from one to another, before what is shown in it.
var stanceLabel = pattern.Of(`(?i)^(?:in |from )?((?:moving|stepping|going) (?:forwards?|backwards?|back)|stationary|standing|on the spot|in line|[A-Z]-?(?i:stance)` +
	`|(?:an? )?(?:[\pL-]+ ){1,2}(?:stance|dachi|seogi|sogi|kubi)(?: ?(?:->|→|to|into|/) ?(?:[\pL-]+ ){1,2}(?:stance|dachi|seogi|sogi|kubi))?(?:,? (?:moving )?(?:forwards?` +
	`|backwards?))?)\s*[:–-]\s+(\pL.*|\d.*)$`)

// inOneStance are the lines that a list behind a stance stands for: Walking stance: middle punch, high block. nil where it is none.
func (b *Reader) inOneStance(text string) (out []string) {
	m := stanceLabel.FindStringSubmatch(strings.TrimSpace(text[listed(text):]))
	if m == nil {
		return nil
	}
	parts, all := b.ofAll(outsideBrackets(m[2], ",;"))
	for _, part := range parts {
		part = strings.TrimSpace(part)
		if len(out) > 0 && strings.ContainsAny(part[:1], "0123456789") { // low block, 8 steps
			out[len(out)-1] += ", " + part
			continue
		}
		if name, _ := cutAny(part, "("); !slices.Contains([]Kind{"strike", "kick", "block"}, b.KindInName(name)) {
			return nil
		}
		out = append(out, part+" ("+m[1]+")"+all)
	}
	return out
}

// counted are the pieces of a line that each name something and say how much of it, "25 press-ups, 50 sit-ups"; what is only said of
// one stays with it. nil where they do not.
func (b *Reader) counted(pieces []string) []string {
	var out []string
	pending := false // a name without its amount
	for _, piece := range pieces {
		piece = strings.TrimSpace(piece)
		words := strings.Fields(piece)
		i, j := amountAt(words)
		if i == j && len(words) > 1 && curriculum.Bare(words[0]) {
			i, j = 0, 1
		}
		if last := len(words) - 1; i == j && last > 0 && curriculum.Bare(words[last]) && len(pieces) > 1 && !b.reads(piece) && slices.Contains(amounted, b.KindInName(strings.Join(words[:last], " "))) { // front kick 10, side kick 10
			i, j = last, last+1
			piece = strings.Join(words[:last], " ") + ", " + words[last]
		}
		rest := strings.Join(append(slices.Clone(words[:i]), words[j:]...), " ")
		if _, err := curriculum.ParseQuantity(piece); err == nil && pending { // front kick, 10 each leg, knee, 10
			out[len(out)-1], pending = out[len(out)-1]+", "+piece, false
			continue
		}
		if len(out) > 0 && b.reads(piece) { // sprint last 10 s
			out[len(out)-1] += ", " + piece
			continue
		}
		if pending {
			return nil
		}
		switch {
		case i == j && b.namesOne(piece) && !saysOnlyHow(piece) && slices.Contains(amounted, b.KindInName(piece)):
			out, pending = append(out, piece), true
		case i < j && strings.ContainsFunc(rest, unicode.IsLetter) && (b.Named(rest) != nil || b.Named(b.single(rest)) != nil || slices.Contains(amounted, b.KindInName(rest))) && !saysOnlyHow(rest):
			out = append(out, piece)
		case len(out) > 0 && curriculum.KindNamed(piece) != "": // of all
			for i := range out {
				out[i] += ", " + piece
			}
		case len(out) > 0 && i == j && saysHow.MatchString(piece):
			out[len(out)-1] += ", " + piece
		default:
			return nil
		}
	}
	if len(out) < 2 || pending {
		return nil
	}
	return out
}

// amountsBehind are the pieces of a list with a comma before their numbers, where at least two end with one: jab 20, hook 10.
func (b *Reader) amountsBehind(parts []string) []string {
	out, n, all := slices.Clone(parts), 0, ""
	last := len(out) - 1
	if m := bracketBehind.FindStringSubmatch(strings.TrimSpace(out[last])); m != nil && curriculum.IsAmount("2 "+m[2]) { // side 5 (each leg), which is said of all
		out[last], all = m[1], ", "+m[2]
	}
	for i, part := range out {
		if m := countBehind.FindStringSubmatch(strings.TrimSpace(part)); m != nil && (curriculum.Figure(m[2]) >= leastCount || all != "") {
			if out[i], n = m[1]+", "+m[2], n+1; b.KindInName(m[1]) == "" {
				out[i] = m[2] + " " + m[1]
			}
		}
	}
	if n < 2 {
		return parts
	}
	for i := range out {
		out[i] += all
	}
	return out
}

// countBehind is a name and a number behind it.
var countBehind = pattern.Of(`^(\pL[\pL -]*?)(?: [x×])? (\d{1,3})$`)
