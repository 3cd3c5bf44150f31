package binder

import (
	"cmp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// pageText is a piece of a page: a line, or what stands behind a heading on its line.
type pageText struct {
	number int    // of the line, from 0
	typed  string // as it was typed
	line   string // as it is read
	legend string // why it is set aside that says what a sign or a short word of others means; "" it explains none
	indent int    // how far it is indented
	over   bool   // something stands right below it
	steps  bool   // and begins as a step does
	leads  bool   // a list stands right below it, of which it is no line
	deeper bool   // what stands below it is indented by more
	apart  bool   // a blank line stands above it, and something right below, as headings do
	part   bool   // it began as a part of the page: Part 3: Partner
	inline bool   // a heading with what stands below it behind it on its line
	piece  bool   // of a list behind a heading on its line, so no heading itself
	own    bool   // of a sentence with a heading of its own, which holds for no other line: My kicks are: …
}

// plainly is a page without what only makes a page of it: the marks of an outline, of a text for the web,
// boxes to tick, signs that a legend explains; a heading and what stands behind it are taken apart.
// What is taken out leaves blanks where it can, so that columns stay.
// head is that of columns whose cells say themselves what they hold.
func (b *Reader) plainly(written []string) (out []pageText, head string) {
	lines := blanksAsCommas(b.withoutTitle(leftAndRight(semicolons(written))))
	stripes := b.stripesSay(lines)
	lines = withoutCodes(b.sectionsBehind(lines))
	lines = plainNumbers(dashNumbers(withoutHours(withoutWeeks(lines))))
	for i, line := range b.sectionedTable(withoutPipes(lines)) {
		lines[i] = blanked(nextWord, halfMinutes.ReplaceAllString(line, "${1}½ min"))
	}
	lines, head = keyedRows(dittoed(lines))
	framed, table := map[int]bool{}, head != ""
	for i, line := range lines {
		if _, is := headRow(line); is {
			table = true
		}
		if !table {
			line = oneCell(b, line)
		}
		line, framed[i] = unframed(line)
		lines[i] = writtenPlainly(line)
	}
	lines = b.numbersBehind(lines)
	lines, legend := explained(withoutOutline(lines), stripes)
	breaking := false
	for i, line := range lines {
		typed := strings.TrimRight(written[i], " \t")
		if kind := curriculum.UsualKind(strings.TrimRight(strings.TrimSpace(line), ":")); kind != "" {
			breaking = kind == "board_break"
		}
		if m := limbLabel.FindStringSubmatch(line); m != nil && breaking { // Foot: side kick
			line = m[1] + m[3] + " (" + m[2] + ")"
		}
		line = b.calledThenAttack(b.translated(b.rangeBehind(b.whomLast(grabsInFull(line)))))
		pieces := b.behindHeading(b.attackSentence(b.firstSentence(b.headBrackets(b.labelAmount(line)))))
		if len(pieces) == 1 && pieces[0] != line && b.otherBelow(lines, i, pieces[0]) { // punching - 10 on each hand
			pieces = []string{line}
		}
		if len(pieces) == 1 {
			pieces = b.eachOf(pieces[0])
		}
		if each := boxesIn(written[i]); each != nil {
			pieces = each
		}
		if m := labelBox.FindStringSubmatch(written[i]); m != nil && b.boxed(written, m[1]) {
			pieces = []string{b.asHeading(m[1]), m[2]}
		}
		if each := b.beside(line); each != nil && !table {
			pieces = each
		}
		mine := myOwn.MatchString(line)
		for k, part := range pieces {
			if _, own := settingHeads[curriculum.SectionKey(strings.TrimSpace(pieces[0]))]; own && len(pieces) > 1 { // on the pad: jab, cross
				mine = true
			}
			mine = mine || len(pieces) > 1 && i > 0 && strings.TrimSpace(written[i-1]) != "" && whereLabel.MatchString(check.Key(pieces[0])) // Ground: guard pass
			out = append(out, pageText{i, typed, part, legend[i], len(written[i]) - len(strings.TrimLeft(written[i], " \t")), over(written, i), over(written, i) && isStep(written[i+1]), k == 0 && over(written, i) && ofSomeList(written[i+1]) && !ofSomeList(written[i]), k == 0 && deeper(written, i), k == 0 && apart(written, i), k == 0 && (framed[i] || partOfPage.MatchString(written[i])), k == 0 && len(pieces) > 1, k > 0, mine})
		}
	}
	return out, head
}

var (
	// eachCounted is a line of names, each with how often behind it and no comma between.
	eachCounted = pattern.Of(`^\s*(?:[-–—*•] )?(?:\pL[\pL -]* [x×] ?\d{1,3}\s*){2,}$`)
	// timesThenName is such an amount with the next name behind it.
	timesThenName = pattern.Of(`([x×] ?\d{1,3}) +(\pL)`)
)

// twoCounted are two names, each with how often: Yoko geri keage x 3 and yoko geri kekomi x 3.
var twoCounted = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\pL[\pL -]* [x×] ?\d{1,3}),? (?:and|&) (\pL[\pL -]* [x×] ?\d{1,3})$`)

// eachOf are the lines for each of several that one names in one of the ways that need no heading; the line itself where it does not.
func (b *Reader) eachOf(line string) []string {
	if each := waysOfOne(line); each != nil {
		return each
	}
	if each := twoApart(line); each != nil && b.Named(strings.TrimSpace(line)) == nil {
		return each
	}
	if m := twoCounted.FindStringSubmatch(line); m != nil {
		return []string{m[1] + m[2], m[1] + capitalised(m[3])}
	}
	if each := b.sharedNoun(line); each != nil {
		return each
	}
	if m := eachThenList.FindStringSubmatch(line); m != nil { // 30 seconds each: star jumps, squats
		var out []string
		for name := range strings.SplitSeq(m[3], ",") {
			out = append(out, m[1]+strings.TrimSpace(name)+", "+m[2])
		}
		return out
	}
	if each := b.defendEach(line); each != nil {
		return each
	}
	return fromEach(line)
}

// seriesRange are numbers of a series behind its name, with blanks around the dash or behind a colon: Grab art 1 - 5, Wrist grabs: 1 to 4.
var seriesRange = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] +)?)(\pL[^:;,(\t\d]*?)(: *| )(?:(?i:nos?\.?|numbers?) ?)?(1) ?(?:[-–]|to) ?(\d{1,2})\s*(?:,? ((?:on )?(?:left and right|right and left|both sides|l ?[&/+] ?r|r ?[&/+] ?l)))?$`)

// rangeBehind writes such numbers as a range; other lines stay.
func (b *Reader) rangeBehind(line string) string {
	m := seriesRange.FindStringSubmatch(line)
	if m == nil || curriculum.Figure(m[5]) <= 1 || b.Named(m[2]) != nil || strings.HasSuffix(strings.ToLower(m[2]), "counting") {
		return line
	}
	name := m[2]
	if m[3] != " " {
		if _, is := b.headingOf(name); is {
			return line
		}
		name = strings.TrimSuffix(name, "s")
	}
	if m[6] != "" {
		m[6] = ", " + m[6]
	}
	return m[1] + name + " 1-" + m[5] + m[6]
}

// whereLabel is a label of one line for where it is done, among others of its heading.
var whereLabel = pattern.Of(`^[-–—*• ]*(?:on the )?(?:ground|floor|clinch|grappling)(?: ?work)?:?$`)

// limbLabel is with what a board is broken, before the technique.
var limbLabel = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(hand|foot|feet|leg|elbow)s?: *(\pL[^:(]*)$`)

var (
	// eachOpponent is how long with each of so many: 5 opponents, 1 min each.
	eachOpponent = pattern.Of(`(?i)^(.*?\pL),?(?: w/| with| against| vs\.?)? (\d{1,2}) ((?:different )?(?:opponents|partners))(?:,| for|:)? (\d{1,3} ?(?:mins?|minutes?|secs?|seconds?|s)) each$`)
	// eachThenList is an amount of each of several that stand behind it.
	eachThenList = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,3} ?(?:secs?|seconds?|s|mins?|minutes?|reps?|times)) (?:of )?each:? +(\pL[^:(]*,[^:(]*)$`)
	// countOf is how often, as it is counted: to a count of ten.
	countOf = pattern.Of(`(?i)^(.*\pL) to (?:an? |the )?count of (\d{1,3}|ten|five|twenty)$`)
	// setsBehind are sets behind a colon: Press ups: 2 sets of 20.
	setsBehind = pattern.Of(`(?i)^([^:]*\pL): (\d{1,2} ?(?:sets? (?:of|x)|sets?) ?\d{1,3})$`)
	// restsOff is a rest by another word: 3 x 3, 1 off.
	restsOff = pattern.Of(`(?i)(\d{1,2}) ?[x×] ?(\d)(?: ?mins?)?,? \(?(\d) (?:mins? )?off\)?$`)
)

var (
	squareBrackets = pattern.Of(`\[([^\[\]()]+)\]`)
	equalsSign     = pattern.Of(`^(.*[\pL)]) = (\S.*)$`)
)

// listOnly is the sign or the number of a line of a list.
var listOnly = pattern.Of(`^\s*(?:[-–—*•]|\(?\w{1,2}[.)])?\s*$`)

// amountSigned is a line with an amount in square brackets or behind an equals sign as one that is read: Side kick [10 each], Side kick = 10.
func amountSigned(line string) string {
	line = squareBrackets.ReplaceAllStringFunc(line, func(s string) string {
		if inside := strings.Trim(s, "[]"); curriculum.IsAmount(inside) && !curriculum.Bare(inside) {
			return "(" + inside + ")"
		}
		if strings.ContainsFunc(s, unicode.IsLetter) && !strings.ContainsFunc(s, unicode.IsDigit) && strings.Contains(s, ",") { // Gate in the Wind [front kick, right]
			return "(" + strings.Trim(s, "[]") + ")"
		}
		return s
	})
	if m := equalsSign.FindStringSubmatch(line); m != nil && leadingAmount(m[2]) != nil {
		return m[1] + ", " + m[2]
	}
	return line
}

// inFullWith writes with and without in full.
func inFullWith(line string) string {
	return withStroke.ReplaceAllStringFunc(line, func(said string) string {
		if strings.HasSuffix(strings.ToLower(said), "o") {
			return said[:1] + "without"
		}
		return said[:1] + "with "
	})
}

// writtenPlainly is a line without the signs of a list and places to mark, and with what people write short as it is read.
func writtenPlainly(line string) string {
	if !tickBox.MatchString(line) {
		line = anyBullet.ReplaceAllString(line, "$1- ")
	}
	line = strings.ReplaceAll(line, " -- ", " - ")
	line = amountSigned(withoutPlace(shortLeaders.ReplaceAllString(leaders.ReplaceAllString(line, "$1 - $2"), "$1 - $2")))
	line = blanked(letterMark, blanked(tickBox, shortened(withoutMarkup(line))))
	if m := plusFirst.FindStringSubmatch(line); m != nil {
		line = m[1] + strings.Repeat(" ", len(m[2])) + m[3]
	}
	if m := calledDash.FindStringSubmatch(line); m != nil {
		line = m[1] + ": " + m[2]
	}
	line = blanked(placeFirst, blanked(smile, strings.Replace(line, ": + ", ": ", 1)))                 // feet: + back kick
	if m := stripeOne.FindStringSubmatch(line); m != nil && slices.Contains(single, check.Key(m[2])) { // Stripe 2 - stance
		line = strings.Repeat(" ", utf8.RuneCountInString(m[1])) + m[2] + "s"
	}
	line = roundsShort.ReplaceAllString(otherWayBehind.ReplaceAllString(line, "$1, $2"), "$1 rounds")
	line = formOfSteps.ReplaceAllString(line, "$1$2-$3")
	line = colourSection.ReplaceAllString(line, "$1$2: ")
	line = settingBehind.ReplaceAllString(line, "$1, $2$3")
	line = asMany.ReplaceAllString(line, ", $1, AMRAP")
	line = eachTimes.ReplaceAllString(hashRange.ReplaceAllString(line, "#$1-$2"), "$1 each$2")
	line = quotedName.ReplaceAllString(numberLabel.ReplaceAllString(howNeeded(line), "$1$2. "), "$1 $2 $3")
	line = minutesOf.ReplaceAllString(calledAs.ReplaceAllString(line, "$1: $2"), "$1    $2")
	line = inHyphens(inFigures(blanked(stripeOf, blanked(weekOf, line))))
	line = areDone.ReplaceAllString(formIs.ReplaceAllString(whichForm.ReplaceAllString(line, "$1$2: "), "$1$2: $3"), "$1 ($2): $3")
	if m := attackThenName.FindStringSubmatch(line); m != nil {
		line = m[1] + m[3] + " (" + m[2] + ")"
	}
	if eachCounted.MatchString(line) { // jab x10 cross x10 hook x10
		line = timesThenName.ReplaceAllString(line, "$1, $2")
	}
	line = setsBehind.ReplaceAllString(countOf.ReplaceAllString(strings.TrimRight(line, " \r"), "$1, $2 times"), "$1, $2")
	line = roundsAndRest(restsOff.ReplaceAllString(eachOpponent.ReplaceAllString(line, "$1, $2 x $4 ($2 $3)"), "$1 x $2 min, $3 min rest"))
	if m := slashesEach.FindStringSubmatch(line); m != nil {
		line = strings.ReplaceAll(m[1], " / ", ", ") + ", x" + m[2] + m[3]
	}
	if m := leftThenRight.FindStringSubmatch(line); m != nil && m[2] == m[3] {
		line = m[1] + ", " + m[2] + " a side"
	}
	line = commanded(rewritten(inFullWith(line)))
	line = stepList.ReplaceAllString(stepNumbers.ReplaceAllString(line, "$1$2 $3-$4"), "$1$2 $3")
	line = roundsTimes.ReplaceAllString(line, "$1$3 x $2 rounds")
	line = numbersFrom.ReplaceAllString(line, "$1 $2-$3$4")
	line = wordsOn.ReplaceAllString(line, "$1$3 ($2 words)")
	if m := manyUnder.FindStringSubmatch(line); m != nil && curriculum.UsualKind(strings.TrimSpace(m[2])) == "" && curriculum.KindInWords(m[2]) == "" && !thingAlone.MatchString(check.Key(m[2])) {
		line = m[1] + m[2] + ", " + m[3] + m[5] + " (" + m[4] + ")"
	}
	line = eachInBrackets.ReplaceAllString(line, "$1, $3$4 each $2")
	if !strings.ContainsAny(line, ",;") {
		line = shortWithAmount.ReplaceAllString(line, "$1, $2")
	}
	line = ofEachSide.ReplaceAllString(onceThrough.ReplaceAllString(line, "$1"), "$1 each $2")
	return timesAtEnd.ReplaceAllString(pointsAtEnd.ReplaceAllString(partHead(line), " ($1 points)"), "$1, x$2")
}

// otherBelow reports whether right below a heading with its amount stands what is of another kind, so that it is no heading but asked itself.
func (b *Reader) otherBelow(lines []string, i int, head string) bool {
	if i+1 == len(lines) {
		return false
	}
	h, is := b.heading(head)
	below := b.KindInName(strings.TrimSpace(lines[i+1][listed(lines[i+1]):]))
	kind := cmp.Or(h.kind, b.kindIn(h.section))
	return is && !h.unknown && kind != "" && below != "" && below.Home() != kind.Home() && slices.Contains(amounted, below)
}

// over reports whether something stands right below a line, and deeper whether that is indented by more.
func over(written []string, i int) bool {
	return i+1 < len(written) && strings.TrimSpace(written[i+1]) != ""
}

// isStep reports whether a line reads as a step of a defence.
func isStep(line string) bool {
	text := strings.TrimSpace(line[listed(line):])
	return strings.HasSuffix(text, ".") || beginsStep.MatchString(text) || partOf.MatchString(text)
}

// ofSomeList reports whether a line stands in a list, of boxes or other signs.
func ofSomeList(line string) bool { return ofAList.MatchString(line) || ticked.MatchString(line) }

func deeper(written []string, i int) bool {
	if over(written, i) && chapters(written[i]) > 1 && chapters(written[i+1]) > chapters(written[i]) { // 1.1, and 1.1.1 below it
		return true
	}
	indent := func(line string) int { return len(line) - len(strings.TrimLeft(line, " \t")) }
	return over(written, i) && !strings.Contains(strings.TrimLeft(written[i+1], " \t"), "\t") && (indent(written[i+1]) > indent(written[i])+1 || strings.HasPrefix(written[i+1], "\t") && indent(written[i]) == 0)
}

// apart reports whether a line has a blank one above it and something right below.
func apart(written []string, i int) bool {
	blank := func(k int) bool { return strings.TrimSpace(written[k]) == "" }
	return i > 0 && i+1 < len(written) && blank(i-1) && !blank(i+1)
}

var (
	partOfPage  = pattern.Of(`^(?i)\s*(?:section|part|unit|module|area)\s+(?:[a-z]|\d{1,2}|[ivx]{1,4})\s*[-–—:.)]\s+`)
	ofPoints    = pattern.Of(`(?i)\s*[\[(]\s*(?:\d{1,3}|max(?:imum)? \d{1,3})\s*(?:points?|pts|marks?|%)\s*[\])]\s*$`)
	pointsAtEnd = pattern.Of(`\s*\[(\d{1,3})\]\s*$`)
	timesAtEnd  = pattern.Of(`^([^,;\d]+?\s[-–—]\s[^,;\d]+?)\s+[x×] ?(\d{1,3})\s*$`)
)

var (
	placeAtEnd = pattern.Of(`^(.*\pL.*?)(?:\s|\t)*(?:_{2,}|\.{4,})(?:\s*/ ?\d{1,3})?\s*$`)
	marksHead  = pattern.Of(`(?i)^(\s*\S.*?)\s{2,}(?:pass|fail|yes|no|ok|redo|done|date|mark|score|signed|initials)(?:(?:\s*[/|,]\s*|\s+)(?:pass|fail|yes|no|ok|redo|retry|done|date|mark|score|signed|initials))*\s*$`)
)

var (
	// boxAtEnd is a line with a place to tick behind it.
	boxAtEnd = pattern.Of(`^(.*\pL.*?)[\s._·…]*(?:(?:\[[ _]*\]|\( *\)|[☐□▢◻])\s*)+$`)
	// placeBetween is a place to write the marks between a heading and what it asks.
	placeBetween = pattern.Of(`^(\s*\pL[^_:]{2,40}?)\s{2,}_{2,}\s+(\pL.*|\d.*)$`)
	// pointsOver is out of how many points a line is marked: Stances        /10.
	pointsOver = pattern.Of(`\s*(?: {2,}|\t)/ ?\d{1,3}\s*$`)
	// amountLeader are dots that lead from a name to how often it is shown: Front kick ..... 10 each leg.
	amountLeader = pattern.Of(`^(.*?\pL\)?)\s*(?:\.{4,}|…{2,}|·{4,})\s*((?:\d|once|twice|x ?\d).*)$`)
	// leader are dots that lead from a name to what is said of it.
	leader = pattern.Of(`^(.*?\pL\)?)\s*(?:\.{4,}|…{2,}|·{4,}|_{4,})\s*(\pL.*)$`)
)

// boxesIn are the parts of a line with a box before each of them: Red stripe ☐ jab x5 ☐ cross x5; nil where there are not several.
func boxesIn(line string) []string {
	parts := innerBox.Split(line, -1)
	if len(parts) < 3 {
		return nil
	}
	if first := strings.Trim(parts[0], " :-–"); first == "" || stripeAlone.MatchString(first) {
		return parts[1:]
	}
	return nil
}

// innerBox is a box to tick before what stands in a line.
var innerBox = pattern.Of(`\s*[☐☑☒□▢◻]\s*`)

// eitherMark are two marks of which one is given.
var eitherMark = pattern.Of(`(?i)pass\W+(?:fail|redo|retry)|yes\W+no\b`)

// toSign is for whom or what a place is left.
var toSign = pattern.Of(`(?i)\b(?:signature|initials|signed|date|name)\b|\b(?:instructor|examiner|parent|student|candidate|coach|teacher)s?\b[^,]{0,12}$`)

// withoutPlace is a line without the place to mark or sign at its end; one that is nothing else stays.
func withoutPlace(line string) string {
	if m := marksHead.FindStringSubmatch(line); m != nil && (!strings.Contains(line, "\t") || eitherMark.MatchString(line[len(m[1]):])) { // of cells, one that says yes is an answer
		return m[1]
	}
	if m := boxAtEnd.FindStringSubmatch(line); m != nil && !toSign.MatchString(m[1]) {
		line = m[1]
	}
	line = placeBetween.ReplaceAllString(line, "$1: $2")
	line = pointsOver.ReplaceAllString(line, "")
	line = amountLeader.ReplaceAllString(line, "$1, $2")
	if m := leader.FindStringSubmatch(line); m != nil { // Heron ....... front, right punch
		line = m[1] + " - " + m[2]
	}
	if m := placeAtEnd.FindStringSubmatch(line); m != nil && !asideLine.MatchString(strings.TrimSpace(m[1]+":")) && !toSign.MatchString(m[1]) {
		return m[1]
	}
	return line
}

// halfMinutes are minutes and a half in figures: 1,5 min.
var halfMinutes = pattern.Of(`(?i)\b(\d{1,2})[.,]5 ?min(?:ute)?s?\b`)

// framedHead is a heading with a frame of signs: = Kicks =, *** Kicks ***, [Kicks].
var framedHead = pattern.Of(`^(\s*)(?:([=~*_+<>|★☆◆◇■•–—-]+)\s*(\pL[^=~_+<>|★☆◆◇■•]*?)\s*([=~*_+<>|★☆◆◇■•–—-]+)|(\[)\s*(\pL[^\[\]]*?)\s*(\]))[:.]?\s*$`)

// unframed is a line without such a frame.
func unframed(line string) (plain string, was bool) {
	m := framedHead.FindStringSubmatch(line)
	if m == nil || m[2] != "" && m[2][0] != m[4][0] || m[2] == "*" || m[2] == "**" || m[2] == "_" || m[2] == "__" {
		return line, false // *slanted*
	}
	return m[1] + strings.Repeat(" ", utf8.RuneCountInString(m[2]+m[5])) + m[3] + m[6], true
}

// partHead is a heading without its place on the page and the points it gives, "Section C - Sparring (30 points)"; other lines stay.
func partHead(line string) string {
	at := partOfPage.FindString(line)
	if at == "" {
		return line
	}
	return strings.Repeat(" ", utf8.RuneCountInString(at)) + ofPoints.ReplaceAllString(line[len(at):], "")
}

// plainSpace makes the spaces of a word processor, which hold words together or are of another width, plain ones.
func plainSpace(r rune) rune {
	if r != '\t' && unicode.Is(unicode.Zs, r) || r == '\u200b' || r == '\ufeff' {
		return ' '
	}
	return r
}

// plusFirst is before what is asked beside the rest.
var plusFirst = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:plus|also|and also):? +)(\pL.*)$`)

// calledDash is a combination with its moves behind a dash: Combination 8 – low block, cross.
var calledDash = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] )?(?:combo|combination|combi) [\pL\d]{1,3}) [-–—] (\pL[^,]*,.*)$`)

// What is asked of everybody, of most, of some, before what it is: Must: three front kicks.
var (
	mustLabel   = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:must|must have|must pass|compulsory|required|essential|mandatory) ?[:–] +(\pL.*?)[.]?$`)
	bonusLabel  = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:could|nice to have|optional|bonus|extra) ?[:–] +(\pL[^:]*?)[.]?$`)
	shouldLabel = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)should ?[:–] +`)
)

// howNeeded is a line with what it says first of how needed it is behind it.
func howNeeded(line string) string {
	if m := mustLabel.FindStringSubmatch(line); m != nil && !isRule(m[2]) {
		return m[1] + m[2] + ", must"
	}
	return shouldLabel.ReplaceAllString(bonusLabel.ReplaceAllString(line, "$1$2, bonus"), "$1")
}

var (
	// hashRange are numbers of a series, with blanks between: One step #1 - #3.
	hashRange = pattern.Of(`#(\d{1,2}) [-–] #?(\d{1,2})\b`)
	// placeFirst is a place for a date or a tick before a line.
	placeFirst = pattern.Of(`^\s*(?:_{1,}/_{1,}(?:/_{1,})?|_{2,})\s+`)
	// stripeOne is a stripe and the one word for what it is for.
	stripeOne = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:(?:\pL+ )?(?:stripe|tip|tag)(?: \d{1,2})?) ?[-–—:=] *)(\pL+)\s*$`)
	// roundsShort are rounds, written short: 2 rds.
	roundsShort = pattern.Of(`(?i)\b(\d{1,2})(?: ?rds| rd)\b\.?`)
	// otherWayBehind is a form by its number and how else it is gone through: Long Harbour 3 in reverse.
	otherWayBehind = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[\pL ]* (?:\d{1,2}|one|two|three|four|five|six)) (in reverse|backwards?|mirrored|mirror image)\s*$`)
	// formOfSteps is a name that begins with how many steps it has: 8 step form.
	formOfSteps = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,2}) ((?:step|point|count|move|movement|corner|direction|gate|punch|kick|hit|piece) (?:form|pattern|set|kata|combination|combo|sequence)s?\b)`)
	// smile is a face of signs at the end of a line.
	smile = pattern.Of(`\s[:;]-?[)D]\s*$`)
	// colourSection is the colour of a stripe with what it is for: GREEN (blocks): up, in, out.
	colourSection = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:white|yellow|orange|gold|green|blue|purple|brown|red|black|silver|grey|pink)(?: (?:stripe|tip|tape|tag))? \((\pL[\pL &-]+)\) ?[:–-] *`)
	// settingBehind is a setting behind the last of several moves: teep, rear kick, lead hook on pads.
	settingBehind = pattern.Of(`(?i)^([^,(;]*\pL ?[,/][^(;]*\pL) (on (?:the )?(?:focus )?(?:pads|mitts|bag|heavy bag|shield))( \(.*|,.*|$)`)
	// asMany is a time in which as much is done as one can: AMRAP in 1 min.
	asMany = pattern.Of(`(?i),? (?:amrap|as many as (?:possible|you can)|max(?:imum)?(?: reps)?)(?: in| for)? (\d+ ?(?:s|secs?|seconds?|m|mins?|minutes?))\b`)
	// eachTimes is an amount of each: 10x each.
	eachTimes = pattern.Of(`(?i)\b(\d{1,3}) ?x each\s*([,;).]|$)`)
)

// numberLabel is a label that says only which of them it is: Technique 3: Closing Shutters.
var numberLabel = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:techniques?|tech|self[- ]defen[cs]e|sd|defen[cs]e|item|skill) #?(\d{1,2})\s*[:–-]\s+`)

// quotedName is a name in quotation marks.
var quotedName = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] +)?)["“”](\p{Lu}[^"“”]*\pL)["“”](\s*$|\s*[(,:–—-].*$)`)

var (
	// whichForm is a label that says which of the forms it is: our fourth kata: Ishi Yon.
	whichForm = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:our |the |your |my |a )?(?:(?:first|second|third|fourth|fifth|new|next|set|main|weapons?|empty hand|compulsory|required|grading|\d(?:st|nd|rd|th)) )(kata|form|pattern|poomsae|hyung|tul|set): +`)
	// formIs tells which form it is: The form for this term is Long Bridge.
	formIs = pattern.Of(`(?i)^(\s*)(?:the |our |your )?(form|kata|pattern|poomsae|hyung|tul)(?: (?:for|of|this|at) [\pL\d ]{3,25}?)? is (?:called )?(\pL.*?)[.]?$`)
	// areDone tells how several things below a colon are done: Kicks are done ten times with each leg: front, side.
	areDone = pattern.Of(`(?i)^(\s*\pL+s) (?:are|is) (?:done|shown|performed|practi[sc]ed|executed) ([^:]+): +(.+)$`)
	// attackThenName is an attack, dots or a dash, and in quotation marks the name of what answers it: Right hand push ... "Swinging Gate".
	attackThenName = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] +)?)(\pL[^"“”]*?\pL)\s*(?:\.{2,}|…+|[-–—:=]|→)\s*["“](\p{Lu}[^"“”!?]+)["”]\s*$`)
	// slashesEach are several with slashes between, and how often each of them: Jab / Cross – each x10.
	slashesEach = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^:;,(\d/]*(?: / [^:;,(\d/]+)+?) [-–—:] (?:each|all) [x×] ?(\d{1,3})(.*)$`)
	// leftThenRight is how often on the left and on the right: Switch kick: L x10, R x10.
	leftThenRight = pattern.Of(`(?i)^([^:]*\pL): *l(?:eft)? ?x? ?(\d{1,3}),? *r(?:ight)? ?x? ?(\d{1,3})$`)
	// withStroke is with or without, written short: block w/ punch.
	withStroke = pattern.Of(`(?i)(\s)w/ ?(o\b)?`)
	// stepNumbers are numbers of step sparring behind a colon: 3-step: 5 to 8.
	stepNumbers = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:\d|one|two|three)[- ]steps?(?: sparring)?): *(\d{1,2}) ?(?:-|–|to) ?(\d{1,2})$`)
	stepList    = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:\d|one|two|three)[- ]steps?(?: sparring)?): *(\d{1,2}(?:, ?\d{1,2})+)$`)
	// roundsTimes are rounds with how many behind how long they are: rounds of 90 seconds x 3.
	roundsTimes = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)rounds? of (\d+ ?\pL+) ?[x×] ?(\d{1,2})$`)
	// numbersFrom are numbers of a series with blanks around the dash: numbers 1 - 10.
	numbersFrom = pattern.Of(`(?i)\b(nos?\.?|numbers?|#) ?(\d{1,2}) [-–] (\d{1,2})(\s*(?:$|[,;()]))`)
	// wordsOn is how many words are written, and on what: 500 words: what I learned.
	wordsOn = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] +)?)(\d{2,4}) words?(?::| -| –| on| about) +(\pL.+)$`)
	// manyUnder is a name and how many of what: Burnout: 50 kicks each leg.
	manyUnder = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] +)?)(\pL[\pL -]{2,30}): (\d{1,3}) (kicks|punches|strikes|blocks|knees|elbows|throws)( (?:on |with )?each \pL+| a side)?\.?$`)
	// eachInBrackets is each side, and behind it in brackets how often: front kick on each leg (x5).
	eachInBrackets = pattern.Of(`(?i)^([^(;:\t]*?\pL) (?:on |with )?each (leg|arm|hand|side|foot) \((?:x ?(\d{1,3})|(\d{1,3}) ?x)\)$`)
	// ofEachSide is how many of each of what a list names, on each side: 10 of each, each leg.
	ofEachSide = pattern.Of(`(?i)\b(\d{1,3}) of each,? (?:on |with )?each (leg|arm|hand|side|foot)\b`)
	// onceThrough is how often something is gone through.
	onceThrough = pattern.Of(`(?i)\b(once|twice|three times|\d+ times) (?:all the way )?through\b`)
)

// minutesOf is a time of something: 1 minute of jumping jacks.
var minutesOf = pattern.Of(`(?i)\b(\d+ ?(?:minutes?|mins?|seconds?|secs?)) of (\pL)`)

// calledAs gives a combination its moves: Combo A = jab, cross.
var calledAs = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] )?(?:combo|combination|combi|series) [\pL\d]{1,10}) = (\pL)`)

// longDashes are long dashes without spaces, which part the moves of a combination: Jab–cross–hook.
var longDashes = pattern.Of(`(\pL)[–—](\pL)`)

// inHyphens is a line with hyphens for such dashes, where there are several.
func inHyphens(line string) string {
	if len(longDashes.FindAllString(line, -1)) < 2 {
		return line
	}
	return longDashes.ReplaceAllString(line, "$1-$2")
}

// numberFirst is a number in words before several of something: Twenty straight punches.
var numberFirst = pattern.Of(`(?i)(^\s*(?:[-–—*•] |\d{1,2}[.)] )?|[,;:.] +|\band +)(five|six|seven|eight|nine|ten|twelve|fifteen|twenty|thirty|forty|fifty|sixty|ninety) (\p{Ll}[\p{Ll} -]*?s)\b`)

// fewFirst is a small number before several of what is struck, kicked or blocked: Three clean front kicks.
var fewFirst = pattern.Of(`(?i)(^\s*(?:[-–—*•] |\d{1,2}[.)] )?|[,;:.] +)(two|three|four) ((?:\p{Ll}+ ){1,3}(?:kicks|punches|strikes|blocks|elbows|knees|jabs|crosses|hooks|uppercuts)\b)`)

// inFigures is a line with such numbers as figures; numbers of fingers and of what is asked in words stay.
func inFigures(line string) string {
	line = fewFirst.ReplaceAllStringFunc(line, func(s string) string {
		m := fewFirst.FindStringSubmatch(s)
		if notOne.MatchString(m[3]) {
			return s
		}
		return m[1] + map[string]string{"two": "2", "three": "3", "four": "4"}[strings.ToLower(m[2])] + " " + m[3]
	})
	return numberFirst.ReplaceAllStringFunc(line, func(s string) string {
		m := numberFirst.FindStringSubmatch(s)
		if isUnit.MatchString(m[3]) || curriculum.KindInWords(m[3]) == "" {
			return s
		}
		return m[1] + curriculum.FigureWords[strings.ToLower(m[2])] + " " + m[3]
	})
}

// isUnit begins what an amount counts, which reads its numbers itself.
var isUnit = pattern.Of(`^(?:times|reps|rounds?|minutes?|mins?|seconds?|secs?|repetitions|each|boards?|fingers?|questions?|words?|steps?)\b`)

// leaders are the dots between a name and what is asked of it.
var leaders = pattern.Of(`([\pL\d)"”]) ?(?:\.{4,}|…{2,}|(?:\. ){3,}\.) ?([\pL\d])`)

// shortLeaders are three dots before an amount: stand on one leg ... 10 seconds.
var shortLeaders = pattern.Of(`([\pL\d)"”]) (?:\.{3}|…) (\d)`)

// writtenFor are names written short: FK for front kick, 30 pu for 30 push-ups.
var writtenFor = []struct {
	short *pattern.Pattern
	name  string
}{
	{pattern.Of(`\bFK(s?)\b`), "front kick$1"}, {pattern.Of(`\bR[HN]?K(s?)\b`), "round kick$1"}, {pattern.Of(`\bSK(s?)\b`), "side kick$1"}, {pattern.Of(`\bBK(s?)\b`), "back kick$1"},
	{pattern.Of(`(?i)\b(\d{1,3}) ?x? ?pu\b`), "$1 push-ups"}, {pattern.Of(`(?i)\b(\d{1,3}) ?x? ?su\b`), "$1 sit-ups"}, {pattern.Of(`(?i)\b(\d{1,3}) ?x? ?sq\b`), "$1 squats"},
}

// shortened is a line without the full stops of what is written short: 10 ea. side, 2 min.
func shortened(line string) string {
	for _, x := range writtenFor {
		line = x.short.ReplaceAllString(line, x.name)
	}
	return shortWord.ReplaceAllStringFunc(line, func(s string) string { return strings.Replace(s, ".", " ", 1) })
}
