package binder

import (
	"cmp"
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// A line that asks several things is taken apart.

// rolesSaid is a part of a line that asks it in both roles.
var rolesSaid = pattern.Of(`(?i)(?:, ?|\t| [-–—] | ?\()(?:in )?(?:both roles|as (?:attacker|defender) and (?:as )?(?:attacker|defender)|attack(?:er|ing)? (?:and|&|/) defen(?:d(?:er|ing)|[cs]e)|attacker/defender)\)?(?:,|;|\.?$)`)

// bothRoles gives a line for each role where both are asked: Five-step, both roles.
func (b *Reader) bothRoles(lines []string, kind Kind) (out []string) {
	for _, line := range lines {
		at := rolesSaid.FindStringIndex(line)
		if at == nil || kind != "partner_set" && kind != "self_defence" && b.KindInName(strings.TrimSpace(line)) != "partner_set" {
			out = append(out, line)
			continue
		}
		rest := strings.TrimLeft(line[at[1]:], ",; ")
		for _, role := range []string{"as attacker", "as defender"} {
			one := line[:at[0]] + ", " + role
			if rest != "" {
				one += ", " + rest
			}
			out = append(out, one)
		}
	}
	return out
}

// apartIn takes what a line asks apart where it names several; row are the moves where it names them one after another, alone that no other
// sign has said so.
func (r *pageReader) apartIn(l *PageLine, text string, alone bool) (each []string, row, ask string) {
	kind, noun := cmp.Or(l.under.kind, r.kindIn(l.Section)), ""
	if each = r.ofLabel(text, l.Said); each != nil {
		return each, "", ""
	}
	from, to := r.nameIn([]rune(text))
	name := string([]rune(text)[from:to])
	if curriculum.IsAmount(text) || strings.Contains(name, ",") && r.Named(name) != nil { // 3 x 2 min rounds, 30 s rest; a known name may hold commas
		return []string{text}, "", ""
	}
	if alone {
		if each = r.eachListed(text, kind); each != nil {
			return each, "", ""
		}
	}
	if l.Said == "combination" { // Jab, cross, of which the line says so
		kind = l.Said
	}
	if slices.Contains(append(curriculum.Basic, ""), kind) && twiceRunning(text) { // teep, teep, switch kick
		kind = "combination"
	}
	if kind == "combination" {
		noun = strings.ToLower(rowNoun.FindString(r.title))
	}
	whole := []string{text}
	if !alone || slices.Contains([]Kind{"form", "self_defence", "partner_set", "sparring", "knowledge"}, kind) {
		return whole, "", ""
	}
	if moves, end, is := r.rowOf(text, noun, kind); is && (l.Said == "" || !slices.Contains(curriculum.Basic, l.Said) && strings.ContainsAny(text, partSigns+"/+>–-")) {
		l.nameEnd, l.Said = end, cmp.Or(l.Said, "combination")
		return whole, moves, ""
	}
	if kind == "combination" {
		return whole, "", ""
	}
	if short := r.shortList(text, kind); short != nil {
		return short, "", ""
	}
	if (kind == "" || slices.Contains(amounted, kind)) && r.labelled(text[listed(text):]) != nil {
		l.Section, l.under = "", headed{mixed: true, setting: l.under.setting}
	}
	each, ask = r.enumerated(text)
	return each, "", ask
}

// twiceRunning reports whether a row names one thing twice running, which no list does.
func twiceRunning(text string) bool {
	parts := strings.Split(strings.ToLower(text), ",")
	for i := 1; i < len(parts); i++ {
		if strings.TrimSpace(parts[i]) == strings.TrimSpace(parts[i-1]) {
			return true
		}
	}
	return false
}

// ofLabel are the lines for what a label has behind its colon, where the line says of which kind all of it is: Extensions: Bending Willow, Quiet
// Storm; nil where that may be the steps of one thing.
func (b *Reader) ofLabel(text string, said Kind) []string {
	label, list, found := strings.Cut(text[listed(text):], ": ")
	plain := slices.Contains(amounted, said) || said == "fitness" || said == "form"
	if !found || said == "" || b.Named(label) != nil {
		return nil
	}
	if !plain {
		return b.titledList(label, list)
	}
	if each := b.underHead(label, list, said); len(each) > 1 {
		return each
	}
	return nil
}

// titledList are the lines for a list of names with capitals, Bending Willow, Quiet Storm, each with what is said of all and with its label as a
// remark; nil of any other list.
func (b *Reader) titledList(label, list string) []string {
	parts, all := b.ofAll(outsideBrackets(list, ","))
	for i, part := range parts {
		name, bracket := cutAny(strings.TrimSpace(part), "(")
		if !titled(strings.Fields(name)) {
			return nil
		}
		if parts[i] = strings.TrimSpace(part); bracket == "" {
			parts[i] += " ((" + strings.ToLower(label) + "))"
		}
		parts[i] += all
	}
	return parts
}

// twoStances are two stances with a stroke between that end with the same word, which no combination is made of.
var twoStances = pattern.Of(`(?i)^(\pL[\pL -]* (\pL+)) ?/ ?(\pL[\pL -]* (\pL+?))((?:,| [-–—]| \(| x ?\d| \d).*|)$`)

// twoOfOne are two ways of what ends with the same word, and how much of each.
var twoOfOne = pattern.Of(`(?i)^((?:in|out|inside|outside|inwards?|outwards?|inner|outer|upwards?|downwards?) (?:\pL+ )?(\pL+)) ?/ ?((?:in|out|inside|outside|inwards?|outwards?|inner|outer|upwards?|downwards?) (?:\pL+ )?(\pL+))((?:,| \d| [x×] ).*|)$`)

// plainList are the lines for falls, throws and locks that one lists by their plain names, each with what is said of all: side fall, back fall,
// 5 each; hip throw and outer reap; nil where it is no such list.
func (b *Reader) plainList(body string) (out []string) {
	pieces := sidesApart(outsideBrackets(strings.ReplaceAll(body, " / ", ", "), ","))
	names, last, _ := b.namesIn(pieces)
	if len(names) < 2 || slices.ContainsFunc(names, func(name string) bool { return !plainlyNamed.MatchString(name) }) || slices.ContainsFunc(pieces[last+1:], func(piece string) bool { return !b.saysOfAll(piece) }) {
		return nil
	}
	tail := eachAlone.ReplaceAllString(strings.Join(append([]string{""}, pieces[last+1:]...), ","), "$1")
	for _, name := range names {
		out = append(out, capitalised(name)+tail)
	}
	return out
}

// ofEachHold is how many answers to each of the attacks before it.
var ofEachHold = pattern.Of(`(?i)^(?:one|two|three|any|a|\d) (?:different )?(?:releases?|escapes?|defen[cs]es?|answers?|counters?|techniques?)(?: (?:for|of|from|to` +
	`|against))?(?: each| of each)?[.]?$`)

// waysAlone are ways of one kind of thing whose word stands in their heading.
var waysAlone = pattern.Of(`(?i)^(?:(?:up|down|in|out|inside|outside|inward|outward|front|side|back|round|high|low|middle|rising|hook|axe|crescent|inner|outer)(?: |$)){2,}$`)

// heldList are the lines for attacks that one lists, three or more, or two with how many answers to each: wrist grab, lapel grab, hair grab;
// nil where it is no such list.
func (b *Reader) heldList(body string) (out []string) {
	names, answers, found := strings.Cut(body, ": ")
	pieces := outsideBrackets(names, ",")
	if found && !ofEachHold.MatchString(answers) || len(pieces) < leastNumbers && !found || len(pieces) < 2 {
		return nil
	}
	for _, piece := range pieces {
		attack, _ := b.attackIn(piece)
		if attack == nil || !b.isHeld(attack) || strings.ContainsAny(piece, "(") {
			return nil
		}
		if piece = capitalised(strings.TrimSpace(piece)); found {
			piece += " ((" + answers + "))"
		}
		out = append(out, piece)
	}
	return out
}

// eachListed is a line for each that a line lists, where its signs say that it is a list and no row; nil where it is none.
func (r *pageReader) eachListed(text string, kind Kind) (each []string) {
	body := text[listed(text):]
	parts := func(signs string) (out []string) {
		for _, part := range outsideBrackets(body, signs) {
			out = append(out, strings.TrimSpace(part))
		}
		return out
	}
	counted := kind == "" || slices.Contains(amounted, kind)
	if each = r.inOneBreath(body, kind); each != nil {
		return each
	}
	if names := parts(","); kind == "form" && sameButLast(names) { // Tide One, Tide Two
		return names
	}
	if names := joinsForms.Split(body, -1); (kind == "form" || kind == "" && r.KindInName(names[0]) == "form") && len(names) == 2 && sameFirst(names) { // Taki Shodan & Taki Nidan
		return names
	}
	if each = r.inSeries(text, kind); each != nil {
		return each
	}
	if each = r.answersListed(body, kind); each != nil {
		return each
	}
	if names := parts(";"); len(names) > 1 && !strings.Contains(text, ":") && counted && r.allTell(names) && (len(r.kindsOf(names)) == 1 || len(names) >= leastNumbers) { // backfist to the temple; hammerfist to the collar bone
		for i := range names {
			names[i] = capitalised(names[i])
		}
		return names
	}
	if each = r.strokeBetween(body, kind); each != nil && counted {
		return each
	}
	if each = r.inOneStance(text); each != nil && counted {
		return each
	}
	if each = r.eachUnder(r.title, body, kind); each != nil && (headNouns[kind] != "" || kind == "strike" || kind == "fitness") {
		return each
	}
	if each = r.basicsListed(body, kind); each != nil {
		return each
	}
	if each = r.exercisesIn(text, kind); each != nil {
		return each
	}
	if each = r.countedUnder(text); each != nil && (counted || kind == "self_defence") {
		return each
	}
	if names := plusSign.Split(body, -1); len(names) > 1 && slices.Contains(oneByOne, kind) && !strings.ContainsAny(text, ",;:(") && r.allTell(names) && len(r.kindsOf(names)) == 1 { // X-block high + X-block low
		return names
	}
	if names := parts(","); r.namesEach(names, kind) {
		return names
	}
	if each = r.ofACell(text, kind); each != nil {
		return each
	}
	return r.countedShort(text, kind)
}

// strokeBetween are two ways of one thing, or two stances, which no combination is made of, with a stroke between.
func (b *Reader) strokeBetween(body string, kind Kind) []string {
	m := twoOfOne.FindStringSubmatch(body)
	if kind == "stance" && m == nil {
		m = twoStances.FindStringSubmatch(body)
	}
	if m == nil || !strings.EqualFold(m[2], m[4]) || kind != "stance" && !slices.Contains(curriculum.Basic, b.KindInName(m[2])) { // Inward elbow / outward elbow, 5 each arm
		return nil
	}
	return []string{m[1] + m[5], capitalised(m[3]) + m[5]}
}

// namesEach reports whether a line lists ways of one blow, elbow up, elbow down, or names of defences by themselves: Dark Gate, Hollow Reed; Locked Door
// (full nelson), Open Door (bear hug).
func (b *Reader) namesEach(names []string, kind Kind) bool {
	all := func(is func(string) bool) bool {
		return !slices.ContainsFunc(names, func(name string) bool { return !is(name) })
	}
	switch {
	case len(names) < 2:
		return false
	case kind == "strike" || kind == "block":
		return sameButLast(names) && b.waysOfOneName(names, kind)
	}
	return kind == "self_defence" && (all(titledAttack.MatchString) || all(func(name string) bool { return b.ownName(name) && !saysOnlyHow(name) }))
}

// answersListed are the lines for falls, throws, locks and attacks that one lists under Self-defence; nil where it lists none.
func (b *Reader) answersListed(body string, kind Kind) []string {
	if kind != "self_defence" {
		return nil
	}
	if each := b.plainList(body); each != nil {
		return each
	}
	if each := b.heldList(body); each != nil {
		return each
	}
	names := outsideBrackets(body, ";")
	if len(names) < 2 || strings.Contains(body, ":") {
		return nil
	}
	for i := range names { // against a headlock from the side; against a straight punch
		names[i] = strings.TrimSpace(names[i])
		if attack, _ := b.attackIn(names[i]); attack == nil || strings.Contains(names[i], ",") {
			return nil
		}
	}
	return names
}

// basicsListed are the lines for basics with strokes between, or of which some say how much.
func (b *Reader) basicsListed(body string, kind Kind) []string {
	if each := b.slashedEach(body, kind); each != nil {
		return each
	}
	return b.someCounted(body, kind)
}

// inOneBreath are questions that stand one after the other, and ways before one word that they share: front, side and back kick; nil where there
// are neither.
func (b *Reader) inOneBreath(body string, kind Kind) []string {
	switch {
	case kind == "knowledge" && questionEnd.MatchString(body): // What is…? Who was…?
		return strings.Split(questionEnd.ReplaceAllString(strings.TrimSpace(body), "?\n$1"), "\n")
	case kind == "" || slices.Contains(amounted, kind):
		return b.sharedNoun(body)
	}
	return nil
}

// questionEnd stands between two questions.
var questionEnd = pattern.Of(`\? +(\p{Lu}\pL+ )`)

// ofACell are the lines for what one cell of a spreadsheet lists, each with what the other cells say: leg sweep, hip throw | 3 each side. nil
// where it lists nothing.
func (r *pageReader) ofACell(text string, kind Kind) (out []string) {
	list := strings.Join(r.inCell, ",")
	if len(r.inCell) < 2 || !slices.Contains([]Kind{"lock", "throw", "kick", "block", "stance", "breakfall"}, kind) || !strings.HasPrefix(text, list) {
		return nil
	}
	if each := r.eachUnder(r.title, list, kind); each != nil && kind == "block" { // Low, mid, high | 5 each
		for i := range each {
			each[i] += text[len(list):]
		}
		return each
	}
	for _, name := range r.inCell {
		name = strings.TrimSpace(name)
		if told := r.KindInName(name); told != kind && (told != "" || kind != "lock" && kind != "throw") || len(strings.Fields(name)) > mostListed || strings.ContainsFunc(name, unicode.IsDigit) || saysOnlyHow(name) {
			return nil
		}
		out = append(out, capitalised(name)+text[len(list):])
	}
	return out
}

// titledAttack is a name in capitals with its attack in brackets.
var titledAttack = pattern.Of(`^\p{Lu}[\pL’'-]*(?: (?:of|the|in|on|to|\p{Lu}[\pL’'-]*))* \([^()]+\)\.?$`)

// countedShort are the lines for numbers of what leaves out the word of its heading: 10 front, 10 round, 10 side - each leg. nil where it is none.
func (r *pageReader) countedShort(text string, kind Kind) (out []string) {
	body, tail := text[listed(text):], ""
	if m := tailOfSides.FindStringSubmatch(body); m != nil {
		body, tail = m[1], " "+m[2]
	}
	for _, part := range outsideBrackets(body, ",") {
		m := someShort.FindStringSubmatch(strings.TrimSpace(part))
		if headNouns[kind] == "" || m == nil || !shortName.MatchString(m[2]) || r.KindInName(m[2]) != "" {
			return nil
		}
		out = append(out, capitalised(withHead(r.title, m[2], kind))+", "+m[1]+tail)
	}
	if len(out) < 2 {
		return nil
	}
	return out
}

// tailOfSides is behind a list that all of it is shown with each leg.
var tailOfSides = pattern.Of(`(?i)^(.*\pL)\s*(?: [-–—] |, |\()((?:on |with )?each (?:leg|side|arm|hand))\)?!?$`)

// joinsForms stands between two forms.
var joinsForms = pattern.Of(`,?\s+(?:and|&|\+)\s+`)

// sameFirst reports whether two names in capitals begin with the same word and have another behind it.
func sameFirst(names []string) bool {
	x, y := strings.Fields(names[0]), strings.Fields(names[1])
	return len(x) == 2 && len(y) == 2 && x[0] == y[0] && x[1] != y[1] && titled(x) && titled(y)
}

// waysOfOneName reports whether several names are each a blow or a block of a kind with the way it goes behind it.
func (b *Reader) waysOfOneName(names []string, kind Kind) bool {
	return !slices.ContainsFunc(names, func(name string) bool {
		words := strings.Fields(name)
		return len(words) != 2 || !wayWord.MatchString(words[1]) || b.KindInName(words[0]) != kind
	})
}

// wayWord is a way that a blow goes.
var wayWord = pattern.Of(`(?i)^(?:up|down|back|in|out|forwards?|backwards?|across|over|inwards?|outwards?|upwards?|downwards?)$`)

// sameButLast reports whether several names have all words in common but the last.
func sameButLast(names []string) bool {
	head := func(name string) string {
		words := strings.Fields(check.Key(name))
		return strings.Join(words[:max(len(words)-1, 0)], " ")
	}
	return len(names) > 1 && !slices.ContainsFunc(names, func(name string) bool {
		return head(name) == "" || head(name) != head(names[0]) || len(strings.Fields(name)) > mostListed
	})
}

// nameAlone reports whether a piece of a list is a word or two that say no way, no place and no other kind, so that it can only be a name.
func (r *pageReader) nameAlone(part string, kind Kind) bool {
	part = strings.TrimSpace(part)
	is := r.KindInName(part)
	return wordsAlone.MatchString(part) && !shortName.MatchString(part) && !saysOnlyHow(part) && !whichWay.MatchString(part) && !r.reads(part) && !r.saysAttack(part) && (is == "" || is == kind)
}

// nounLast is the word for a stance behind its name.
var nounLast = pattern.Of(`(?i) (?:dachi|seogi|sogi|stance|step|steps)$`)

// wordsAlone are one or two words.
var wordsAlone = pattern.Of(`^[\pL-]{3,}(?: [\pL-]{3,})?$`)

// shortList is a line of three or more names that leave out the word of their heading: Front, back, cat, under Stances. nil where it is none.
//
// Ways alone with no comma between are such names too: two of blocks, three of kicks.
func (r *pageReader) shortList(text string, kind Kind) []string {
	if body := text[listed(text):]; waysAlone.MatchString(body) && (kind == "block" || kind == "kick" && len(strings.Fields(body)) >= leastNumbers) { // Up down in out, under Blocks
		text = text[:listed(text)] + strings.Join(strings.Fields(body), ", ")
		return r.underHead(r.title, strings.TrimSpace(text[listed(text):]), kind)
	}
	text = sideFalls(r.title, kind, text)
	parts, _ := r.ofAll(outsideBrackets(text[listed(text):], ","))
	if slices.Contains([]Kind{"footwork", "throw", "lock", "stance"}, kind) && len(parts) >= leastNumbers && !slices.ContainsFunc(parts, func(part string) bool { return !r.nameAlone(part, kind) }) {
		var out []string
		noun := nounLast.FindString(strings.TrimSpace(parts[len(parts)-1])) // heisoku, heiko dachi
		for _, part := range parts {                                        // Tenkan, irimi, under Footwork
			if part = capitalised(strings.TrimSpace(part)); noun != "" && !strings.Contains(part, " ") {
				part += noun
			}
			out = append(out, part)
		}
		return out
	}
	if headNouns[kind] == "" || len(parts) < leastNumbers || slices.ContainsFunc(parts, func(part string) bool {
		part, _ = cutAny(part, "(")
		part = strings.TrimSpace(part)
		is := r.KindInName(part)
		if is == kind && (kind == "breakfall" || nounLast.MatchString(part)) || kind == "stance" && check.Key(part) == "bow" { // Back, front, forward roll; bow, cat, horse stance
			return false
		}
		return !shortName.MatchString(part) || is != "" || len(strings.Fields(part)) > 2
	}) {
		return nil
	}
	return r.underHead(r.title, strings.TrimSpace(text[listed(text):]), kind)
}
