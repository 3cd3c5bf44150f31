package binder

import (
	"cmp"
	"slices"
	"strings"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// A row of moves, which is one combination.

// inRows are the kinds of which a combination is made.
var inRows = []Kind{"strike", "kick", "block", "evasion"}

// rowOf reads what is done one after another, "Rising block - reverse punch, 5 a side": a combination of that name; end is
// the number of characters up to the end of the name. noun is what moves are called that leave it out: front - round, under Kicking combinations.
func (b *Reader) rowOf(line, noun string, kind Kind) (moves string, end int, is bool) {
	mark := listed(line)
	body, _ := cutAny(line[mark:], "(,;:\t")
	body = strings.TrimRight(body, " ")
	if b.Named(strings.TrimSpace(line)) != nil || oneOfTwoWords.MatchString(body) {
		return "", 0, false
	}
	if m := rowCalled.FindStringSubmatch(line[mark:]); m != nil { // jab, cross, hook combo
		if row := strings.Split(m[1], ","); !slices.ContainsFunc(row, func(name string) bool { return !b.isMove(strings.TrimSpace(name)) }) {
			return m[1], utf8.RuneCountInString(strings.TrimRight(line[:mark]+calledInBrackets.ReplaceAllString(line[mark:], ""), " ")), true
		}
	}
	if t := b.Named(body); t != nil { // jab, cross, front kick, of which the first is known
		if row, end := b.rowByCommas(line, noun); end > 0 && slices.Contains(inRows, t.Kind) && rowHere(kind, row, b.kindsOf(row)) {
			return strings.Join(row, ", "), end, true
		}
		return "", 0, false
	}
	if words := strings.Fields(body); len(words) > 1 {
		if i, j := amountAt(words); i > 0 && j == len(words) { // x10 behind the last
			body = strings.TrimRight(body[:strings.LastIndex(body, words[i])], " -–—")
		}
	}
	if cut := bareLast.ReplaceAllString(body, ""); hyphened.MatchString(cut) { // Jab-cross-hook 10
		body = cut
	}
	row := b.rowBySigns(body, kind)
	for i, name := range row {
		if noun != "" && b.KindInName(name) == "" && !saysHow.MatchString(name) && !limbLast.MatchString(name) && b.isMove(name+" "+noun) {
			row[i] = name + " " + noun
		}
	}
	if words := strings.Fields(body); len(words) > 2 && twiceFirst.MatchString(words[0]) && allMoves(words[1:], oneMove) && (kind == "combination" || kind == "strike" || kind == "") { // Double jab cross
		return words[0] + " " + strings.Join(words[1:], ", "), utf8.RuneCountInString(line[:mark] + body), true
	}
	if words := strings.Fields(body); (kind == "combination" || kind == "strike" || kind == "") && len(row) == 1 && len(words) > 1 && (allMoves(words, oneMove) || len(words) >= leastNumbers && allMoves(words, moveOrSlip) && slices.ContainsFunc(words, oneMove.MatchString)) { // jab cross hook, slip slip hook
		return strings.Join(words, ", "), utf8.RuneCountInString(line[:mark] + body), true
	}
	if blows := blowsInRow(body); len(blows) > 1 && (kind == "combination" || kind == "strike" || kind == "") { // Jab to body cross to head
		return strings.Join(blows, ", "), utf8.RuneCountInString(line[:mark] + body), true
	}
	if spaced := movesInWords(strings.Fields(body)); kind == "combination" && len(row) == 1 && len(spaced) > 1 && !slices.ContainsFunc(spaced, func(name string) bool { return !b.isMove(name) }) { // jab cross low kick
		return strings.Join(spaced, ", "), utf8.RuneCountInString(line[:mark] + body), true
	}
	if len(row) == 1 && kind != "fitness" {
		if row, end = b.rowByCommas(line, noun); end > 0 && (rowHere(kind, row, b.kindsOf(row)) || kind == "" && listNumber.MatchString(line) && leadFirst.MatchString(row[0])) && !(slices.Contains(append(curriculum.Basic, ""), kind) && eachBehindList.MatchString(line)) {
			return strings.Join(row, ", "), end, true
		}
		row = []string{body}
	}
	if len(row) < 2 || slices.ContainsFunc(row, func(name string) bool { return !b.isMove(name) }) {
		return "", 0, false
	}
	return strings.Join(row, ", "), utf8.RuneCountInString(line[:mark] + body), true
}

// leadFirst is a punch with which a row begins: Kizami zuki, gyaku zuki on a numbered line is one item of the list.
var leadFirst = pattern.Of(`(?i)\b(?:jab|kizami[ -]?(?:zuki|tsuki)|(?:oi|jun)[ -]?(?:zuki|tsuki)|lunge punch|stepping punch|lead punch)$`)

// oneOfTwoWords is one move by two words that may be moves themselves.
var oneOfTwoWords = pattern.Of(`(?i)^(?:(?:hook|axe|sweep) kick|(?:jab|cross|hook|uppercut|elbow|knee) (?:strike|punch)|(?:cross|elbow|knee) block|(?:cross|hook|uppercut|axe|spear` +
	`|round|side|back|switch) (?:elbow|knee))(?:e?s)?$`)

// rowHere reports whether moves with commas between are a row under a kind: of combinations, or three of different kinds, or what is
// stopped and what is given back.
func rowHere(under Kind, row []string, kinds []Kind) bool {
	stopped := len(row) == 2 && len(kinds) == 2 && slices.Contains([]Kind{"block", "evasion"}, kinds[0]) && slices.Contains([]Kind{"strike", "kick"}, kinds[1])
	blows := []Kind{"strike", "kick"}
	if two := len(row) == 2 && len(kinds) == 2 && slices.Contains(blows, kinds[0]) && slices.Contains(blows, kinds[1]); two && slices.Contains(blows, under) && !partNamed.MatchString(strings.TrimSpace(row[1])) && !(under == "kick" && check.Key(row[1]) == "hook") {
		return true // Front kick, double punch, under Kicks, where a hook is a kick too
	}
	if slices.Contains([]Kind{"strike", ""}, under) && inTurns(row) { // Lead jab, rear cross, lead hook
		return true
	}
	return under == "combination" || len(row) >= leastNumbers && len(kinds) > 1 && slices.ContainsFunc(kinds, func(k Kind) bool { return k != "block" && k != "evasion" }) || stopped || doubleFirst.MatchString(row[0])
}

// oneBlow is a punch by its name in boxing, with which hand and to where.
const oneBlow = `(?:(?:(?:lead|rear|left|right|low|high|body|head|double|short|long) )*(?:jab|cross|hook|upper ?cut|overhand)(?: to (?:the )?(?:body|head|chin` +
	`|face|ribs|liver|belly|stomach|temple|jaw))?)`

var (
	blow     = pattern.Of(`(?i)` + oneBlow)
	blowRow  = pattern.Of(`(?i)^` + oneBlow + `(?:[ -]` + oneBlow + `)+$`)
	blowOnly = pattern.Of(`(?i)^` + oneBlow + `$`)
	blowHand = pattern.Of(`(?i)^(?:lead|rear|left|right)\b`)
	blowName = pattern.Of(`(?i)\b(?:jab|cross|hook|upper ?cut|overhand)\b`)
)

// blowsInRow are punches that stand one after another without a sign between; nil where anything else does.
func blowsInRow(body string) []string {
	if !blowRow.MatchString(body) {
		return nil
	}
	return blow.FindAllString(body, -1)
}

// inTurns reports whether punches are one combination, not a list of some: where one comes again, or each is of the other hand than the one before.
func inTurns(row []string) bool {
	var hands, names []string
	for _, name := range row {
		if name = strings.TrimSpace(name); !blowOnly.MatchString(name) {
			return false
		}
		if hand := check.Key(blowHand.FindString(name)); hand != "" {
			hands = append(hands, hand)
		}
		names = append(names, check.Key(blowName.FindString(name)))
	}
	each := len(slices.Compact(slices.Clone(hands)))
	slices.Sort(names)
	jabs := check.Key(blowName.FindString(row[0])) == "jab"
	return len(row) >= leastNumbers && len(slices.Compact(names)) < len(row) || len(hands) == len(row) && each == len(row) && (jabs || len(row) >= leastNumbers)
}

// twiceFirst begins a move that is done more than once.
var twiceFirst = pattern.Of(`(?i)^(?:double|triple)$`)

// doubleFirst begins a move that is done twice, with another behind it: double jab, cross.
var doubleFirst = pattern.Of(`(?i)^(?:double|triple) (?:jab|cross|punch|hook)`)

// bareLast is a number alone behind the moves.
var bareLast = pattern.Of(`(?: [-–—])? \d{1,3}$`)

// rowBySigns takes what is done one after another apart at the signs between: dashes and arrows, plus, strokes, and, hyphens.
func (b *Reader) rowBySigns(body string, kind Kind) []string {
	row := rowSigns.Split(calledCombo.ReplaceAllString(body, ""), -1)
	if kind == "combination" && len(row) == 1 { // jab + cross
		row = plusSign.Split(body, -1)
	}
	if plus := plusSign.Split(body, -1); len(row) == 1 && len(plus) > 1 && len(b.kindsOf(plus)) > 1 { // Osae uke + nukite
		row = plus
	}
	if slashed := slashes.Split(body, -1); len(row) == 1 && (len(b.kindsOf(slashed)) > 1 || len(slashed) >= leastNumbers && !slices.ContainsFunc(slashed, func(move string) bool {
		return !oneMove.MatchString(strings.TrimSpace(sideOfMove.ReplaceAllString(move, "")))
	})) { // Rising block / reverse punch: of different kinds, so not one or the other
		row = slashed
	}
	if answered := andWord.Split(body, -1); len(row) == 1 && len(answered) == 2 && !(stopsOne.MatchString(answered[0]) && attackAlone.MatchString(answered[1])) { // Rising block and counter punch
		if kinds := b.kindsOf(answered); len(kinds) == 2 && slices.Contains([]Kind{"block", "evasion"}, kinds[0]) && slices.Contains([]Kind{"strike", "kick"}, kinds[1]) {
			row = answered
		}
	}
	if hyphened.MatchString(body) {
		row = strings.Split(body, "-")
	}
	return row
}

var (
	// stopsOne is one attack and what is done about it, where another attack follows: parry jab and cross.
	stopsOne = pattern.Of(`(?i)^(?:block|check|cover|scoop|absorb|catch|stop|parry|deflect|jam|redirect|slip|duck|dodge|evade)(?:ing)? (?:an? |the )?(?:\pL+ )?` + oneAttack)
	// attackAlone is an attack that is not said to be given back.
	attackAlone = pattern.Of(`(?i)^(?:an? |the )?(?:(?:low|high|mid|middle|body|round|front|side|straight|left|right|lead|rear) )?` + oneAttack)
)

// oneAttack ends the name of an attack.
const oneAttack = `(?:jab|cross|hook|upper ?cut|overhand|punch|kick|strike|round ?house|teep|knee|elbow)e?s?$`

// moveNoun ends the name of a move.
var moveNoun = pattern.Of(`(?i)^(?:jab|cross|hook|uppercut|overhand|elbow|knee|teep|kick|punch|roundhouse|fist|backfist|sweep|duck|slip|weave|parry|sprawl)$`)

// movesInWords are moves that stand one after another without a sign between; nil where one does not end as a move does.
func movesInWords(words []string) (out []string) {
	from := 0
	for i, w := range words {
		if moveNoun.MatchString(w) {
			out = append(out, strings.Join(words[from:i+1], " "))
			from = i + 1
		}
	}
	if from < len(words) {
		return nil
	}
	return out
}

// calledCombo is behind the moves of a combination that is called one.
var calledCombo = pattern.Of(`(?i),? (?:combination|combo)s?$`)

// rowCalled are moves with commas between that are called a combination behind them.
var rowCalled = pattern.Of(`(?i)^(\pL[^(;:\t\d]*,[^(;:\t\d]*?),? (?:combination|combo|\((?:in |as an? )?(?:combination|combo|renraku|renzoku)\))$`)

// calledInBrackets is such a word in brackets, which is none of the name.
var calledInBrackets = pattern.Of(`(?i),? \([^()]*\)$`)

// limbLast ends a remark that says with what.
var limbLast = pattern.Of(`(?i)\pL (?:legs?|hands?|arms?|foot|feet|sides?|height|level)$`)

// eachBehindList ends a list of which each is shown so often: teep, round kick, knee - 10 each.
var eachBehindList = pattern.Of(`(?i),? (?:[-–—] )?(?:x ?)?\d{1,3}(?: ?x| times| reps)? (?:of )?each\.?$`)

// sideOfMove is before a move with which side or to what it is done.
var sideOfMove = pattern.Of(`(?i)^(?:lead|rear|front|back|left|right|body|head|low|high) `)

// oneMove is a word that names a move by itself.
var oneMove = pattern.Of(`(?i)^(?:jab|cross|hook|uppercut|overhand|elbow|knee|teep)$`)

// moveOrSlip is such a word, or one for how a blow is slipped.
var moveOrSlip = pattern.Of(`(?i)^(?:jab|cross|hook|uppercut|overhand|elbow|knee|teep|slip|duck|roll|bob|weave)$`)

// allMoves reports whether every word is one of a kind.
func allMoves(words []string, one *pattern.Pattern) bool {
	return !slices.ContainsFunc(words, func(w string) bool { return !one.MatchString(w) })
}

// rowByCommas reads moves with commas between, where combinations stand: Jab, cross, hook, 5 a side.
func (b *Reader) rowByCommas(line, noun string) (row []string, end int) {
	at := listed(line)
	body, _ := cutAny(line[at:], "(;:\t")
	for _, piece := range strings.Split(body, ",") {
		name := strings.TrimSpace(piece)
		if called := name + " " + noun; noun != "" && b.KindInName(name) == "" && !saysHow.MatchString(name) && !limbLast.MatchString(name) && b.isMove(called) {
			name = called
		}
		if words := strings.Fields(name); len(row) > 0 && !b.isMove(name) { // rear uppercut x5
			i, j := amountAt(words)
			if last := strings.TrimRight(strings.Join(words[:i], " "), " -–—"); last != "" && j == len(words) && j > i && b.isMove(last) {
				return append(row, last), utf8.RuneCountInString(line[:at+strings.Index(piece, last)+len(last)])
			}
		}
		if !b.isMove(name) {
			break
		}
		row = append(row, name)
		at += len(piece) + 1
	}
	if len(row) < 2 {
		return nil, 0
	}
	rest := strings.TrimSpace(strings.TrimPrefix(line[min(at, len(line)):], ","))
	if end := at - 1; end >= 0 && end < len(line) && line[end] == '(' {
		rest = line[end:]
	}
	if first, _ := cutAny(rest, ",("); first != "" && !strings.HasPrefix(rest, "(") && !b.saysOfAll(first) {
		return nil, 0
	}
	return row, utf8.RuneCountInString(strings.TrimRight(line[:min(at-1, len(line))], " "))
}

// isMove reports whether words name a move of a combination.
func (b *Reader) isMove(name string) bool {
	if t := b.Named(name); t != nil {
		return slices.Contains(inRows, t.Kind)
	}
	return !ofPartner.MatchString(name) && b.namesOne(name) && (!saysOnlyHow(name) || oneMove.MatchString(sideOfMove.ReplaceAllString(name, ""))) && !articleIn.MatchString(name) && slices.Contains(inRows, b.KindInName(name))
}

// ofPartner begins what the other one does: partner kicks.
var ofPartner = pattern.Of(`(?i)^(?:partner|opponent|attacker|instructor|coach|holder|feeder)\b`)

// articleIn is in what is a sentence: ducks under the noodle.
var articleIn = pattern.Of(`(?i) (?:under|over|around|past|through|at|off) (?:an?|the) `)

// lonelyName is the name of a combination that a page calls nothing else: Combo: jab - cross.
var lonelyName = pattern.Of(`(?i)^(?:combo|combination|sequence|kick combo|kicking combo|hand combo|combination drill)s?$`)

// rowName is what such a combination is called: its moves.
func rowName(name, moves string) string {
	if !lonelyName.MatchString(name) {
		return name
	}
	return cmp.Or(capitalised(check.Tidy(rowSigns.ReplaceAllString(moves, ", "))), name)
}

// rowCalled is a row without the word that it is one, and with what it is worked on apart: jab, cross, hook combination on pads.
func (r *pageReader) rowCalled(l *PageLine, text string) string {
	noMove := func(part string) bool { return !r.isMove(strings.TrimSpace(part)) }
	if m := calledRow.FindStringSubmatch(text[listed(text):]); m != nil && l.Said == "" && r.Named(text) == nil && !slices.ContainsFunc(strings.Split(m[1], ","), noMove) {
		text, l.Said = m[1]+", "+strings.TrimLeft(m[2], " ,-–"), "combination"
		text = strings.TrimSuffix(text, ", ")
	}
	if cmp.Or(l.Said, r.under.kind, r.kindIn(r.under.section)) == "combination" {
		text = workedOn.ReplaceAllString(text, "$1, $2$3")
	}
	return text
}

var (
	calledRow = pattern.Of(`(?i)^([^:;()\d]+,[^:;()\d]+?) (?:combination|combo|combi)((?:,| -| –| (?:on|in|x|\d)).*)?$`)
	// workedOn is what a row is worked on, behind its last move.
	workedOn = pattern.Of(`(?i)^([^:;()\d]+,[^:;()\d]*?\pL) (on (?:the )?(?:\pL+ )?(?:pads?|mitts?|bag|shields?))((?:,| -| –).*)?$`)
)
