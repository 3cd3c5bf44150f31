package curriculum

import (
	"cmp"
	"encoding/csv"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
)

// pageText is a piece of a page: a line, or what stands behind a heading on its line.
type pageText struct {
	number int    // of the line, from 0
	typed  string // as it was typed
	line   string // as it is read
	legend string // what the line says of others by a sign; "" it explains none
	indent int    // how far it is indented
	over   bool   // something stands right below it
	steps  bool   // and begins as a step does
	leads  bool   // a list stands right below it, of which it is no line
	deeper bool   // what stands below it is indented by more
	apart  bool   // a blank line stands above it, and something right below, as headings do
	part   bool   // it began as a part of the page: Part 3: Partner
	inline bool   // a heading with what stands below it behind it on its line
	own    bool   // of a sentence with a heading of its own, which holds for no other line: My kicks are: …
}

// plainly is a page without what only makes a page of it: the marks of an outline, of a text for the web,
// boxes to tick, signs that a legend explains; a heading and what stands behind it are taken apart.
// What is taken out leaves blanks where it can, so that columns stay.
func (b *Book) plainly(written []string) (out []pageText) {
	lines := leftAndRight(semicolons(written))
	lines = dashNumbers(withoutHours(lines))
	piped := 0
	for _, line := range lines {
		if strings.Count(line, "|") > 1 || strings.Contains(line, " | ") {
			piped++
		}
	}
	for i, line := range lines {
		if piped > 1 && !pipeRow.MatchString(line) {
			line = strings.TrimRight(pipeSign.ReplaceAllString(line, "\t"), "\t")
		}
		lines[i] = blanked(nextWord, halfMinutes.ReplaceAllString(line, "${1}½ min"))
	}
	framed := map[int]bool{}
	for i, line := range lines {
		line, framed[i] = unframed(oneCell(b, line))
		if !tickBox.MatchString(line) {
			line = anyBullet.ReplaceAllString(line, "$1- ")
		}
		line = withoutPlace(line)
		line = blanked(letterMark, blanked(tickBox, shortened(withoutMarkup(strings.Map(plainSpace, line)))))
		line = blanked(stripeOf, blanked(weekOf, line))
		lines[i] = timesAtEnd.ReplaceAllString(pointsAtEnd.ReplaceAllString(partHead(line), " ($1 points)"), "$1, x$2")
	}
	lines = b.numbersBehind(lines)
	lines, legend := withoutSigns(withoutOutline(lines))
	for i, line := range lines {
		typed := strings.TrimRight(written[i], " \t")
		pieces := b.behindHeading(b.firstSentence(b.headBrackets(b.labelAmount(line))))
		if len(pieces) == 1 {
			pieces = fromEach(pieces[0])
		}
		mine := myOwn.MatchString(line)
		for k, part := range pieces {
			if _, own := settingHeads[sectionKey(strings.TrimSpace(pieces[0]))]; own && len(pieces) > 1 { // on the pad: jab, cross
				mine = true
			}
			out = append(out, pageText{i, typed, part, legend[i], len(written[i]) - len(strings.TrimLeft(written[i], " \t")), over(written, i), over(written, i) && isStep(written[i+1]), k == 0 && over(written, i) && ofSomeList(written[i+1]) && !ofSomeList(written[i]), k == 0 && deeper(written, i), k == 0 && apart(written, i), k == 0 && (framed[i] || partOfPage.MatchString(written[i])), k == 0 && len(pieces) > 1, mine})
		}
	}
	return out
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
	indent := func(line string) int { return len(line) - len(strings.TrimLeft(line, " \t")) }
	return over(written, i) && !strings.Contains(strings.TrimLeft(written[i+1], " \t"), "\t") && (indent(written[i+1]) > indent(written[i])+1 || strings.HasPrefix(written[i+1], "\t") && indent(written[i]) == 0)
}

// apart reports whether a line has a blank one above it and something right below.
func apart(written []string, i int) bool {
	blank := func(k int) bool { return strings.TrimSpace(written[k]) == "" }
	return i > 0 && i+1 < len(written) && blank(i-1) && !blank(i+1)
}

var (
	sidesHead = regexp.MustCompile(`^(\s*.*?)(?:\t| {2,})\s*(?i:l|left)(?:\t| {2,})\s*(?i:r|right)\s*$`)
	sidesRow  = regexp.MustCompile(`^(\s*\S.*?)(?:\t| {2,})\s*(\d{1,3})(?:\t| {2,})\s*(\d{1,3})\s*$`)
	wideGap   = regexp.MustCompile(`(\S) {2,}(\d)`)
)

// semicolons makes the semicolons or commas of a table tabs, where its first line is the head of columns: Section;Technique;How many.
func semicolons(written []string) []string {
	at := slices.IndexFunc(written, func(line string) bool { return strings.TrimSpace(line) != "" })
	if at < 0 || strings.Contains(written[at], "\t") {
		return written
	}
	for _, sign := range []string{";", ","} {
		if _, is := headRow(strings.ReplaceAll(written[at], sign, "\t")); !is {
			continue
		}
		out := make([]string, len(written))
		for i, line := range written {
			cells := csv.NewReader(strings.NewReader(line))
			cells.Comma, cells.LazyQuotes = rune(sign[0]), true
			row, err := cells.Read()
			if err != nil {
				row = []string{line}
			}
			out[i] = strings.Join(row, "\t")
		}
		return out
	}
	return written
}

// leftAndRight reads a table with a column for each side, "Kicks  L  R" with rows such as "Front kick  10  10" below: as many a side.
// Elsewhere a wide gap before a figure parts cells, as a tab does.
func leftAndRight(written []string) []string {
	out, sides := slices.Clone(written), false
	for i, line := range out {
		if m := sidesHead.FindStringSubmatch(line); m != nil {
			sides, out[i] = true, m[1]
			continue
		}
		if m := sidesRow.FindStringSubmatch(line); m != nil && sides && m[2] == m[3] {
			out[i] = m[1] + ", " + m[2] + " a side"
			continue
		}
		out[i] = wideGap.ReplaceAllStringFunc(line, func(gap string) string {
			first, size := utf8.DecodeRuneInString(gap)
			return string(first) + "\t" + strings.Repeat(" ", len(gap)-size-2) + gap[len(gap)-1:]
		})
	}
	return out
}

var (
	partOfPage  = regexp.MustCompile(`^(?i)\s*(?:section|part|unit|module|area)\s+(?:[a-z]|\d{1,2}|[ivx]{1,4})\s*[-–—:.)]\s+`)
	ofPoints    = regexp.MustCompile(`(?i)\s*[\[(]\s*(?:\d{1,3}|max(?:imum)? \d{1,3})\s*(?:points?|pts|marks?|%)\s*[\])]\s*$`)
	pointsAtEnd = regexp.MustCompile(`\s*\[(\d{1,3})\]\s*$`)
	timesAtEnd  = regexp.MustCompile(`^([^,;\d]+?\s[-–—]\s[^,;\d]+?)\s+[x×] ?(\d{1,3})\s*$`)
)

var numberBehind = regexp.MustCompile(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?(\pL[^,;:()\d\t]*\pL)) (\d{1,3})$`)

// seriesWord ends a name that goes on with its number, or the sign before one.
var seriesWord = regexp.MustCompile(`(?i) (?:x|no|nr|number|part|level|set|form|pattern|combo|combination|defen[cs]e|technique|drill)$`)

// leastNumbers is how many different names with a number behind them show that it is the amount.
const leastNumbers = 3

// numbersBehind puts a comma before the number behind a name, where several different ones have one: Skip side kick 5, Downward kick 5.
// A series has the same name with other numbers.
func (b *Book) numbersBehind(lines []string) []string {
	seen, at := map[string]int{}, []int{}
	for i, line := range lines {
		m := numberBehind.FindStringSubmatch(line)
		if m == nil || b.Named(strings.TrimSpace(line[listed(line):])) != nil || !slices.Contains(amounted, b.kindInName(m[2])) || doubled.MatchString(m[2]) || seriesWord.MatchString(m[2]) {
			continue
		}
		seen[check.Key(m[2])]++
		at = append(at, i)
	}
	if len(seen) < leastNumbers || len(seen) < len(at) {
		return lines
	}
	out := slices.Clone(lines)
	for _, i := range at {
		out[i] = numberBehind.ReplaceAllString(lines[i], "$1, $3")
	}
	return out
}

var (
	placeAtEnd = regexp.MustCompile(`^(.*\pL.*?)(?:\s|\t)*(?:_{2,}|\.{4,})(?:\s*/ ?\d{1,3})?\s*$`)
	marksHead  = regexp.MustCompile(`(?i)^(\s*\S.*?)\s{2,}(?:pass|fail|yes|no|ok|redo|done|date|mark|score|signed|initials)(?:\s*[/|,]\s*(?:pass|fail|yes|no|ok|redo|retry|done|date|mark|score|signed|initials))*\s*$`)
)

var (
	// boxAtEnd is a line with a place to tick behind it.
	boxAtEnd = regexp.MustCompile(`^(.*\pL.*?)[\s._·…]*(?:(?:\[[ _]*\]|\( *\)|[☐□▢◻])\s*)+$`)
	// leader are dots that lead from a name to what is said of it.
	leader = regexp.MustCompile(`^(.*?\pL\)?)\s*(?:\.{4,}|…{2,}|·{4,}|_{4,})\s*(\pL.*)$`)
)

// toSign is for whom or what a place is left.
var toSign = regexp.MustCompile(`(?i)\b(?:signature|initials|signed|date|name)\b|\b(?:instructor|examiner|parent|student|candidate|coach|teacher)s?\b[^,]{0,12}$`)

// withoutPlace is a line without the place to mark or sign at its end; one that is nothing else stays.
func withoutPlace(line string) string {
	if m := marksHead.FindStringSubmatch(line); m != nil {
		return m[1]
	}
	if m := boxAtEnd.FindStringSubmatch(line); m != nil && !toSign.MatchString(m[1]) {
		line = m[1]
	}
	if m := leader.FindStringSubmatch(line); m != nil { // Heron ....... front, right punch
		line = m[1] + " - " + m[2]
	}
	if m := placeAtEnd.FindStringSubmatch(line); m != nil && !asideLine.MatchString(strings.TrimSpace(m[1]+":")) && !toSign.MatchString(m[1]) {
		return m[1]
	}
	return line
}

// stripeOf is for which stripe a line is asked: Red stripe: front kick, knee.
var stripeOf = regexp.MustCompile(`(?i)^\s*(?:[-–—*•] )?(?:\d{1,2}(?:st|nd|rd|th) )?(?:\pL+ ){0,2}(?:stripe|tip|tape|tag)(?: \d)?\s*[-–—:=]\s+`)

// nextWord begins a sentence of several that come one after another: Then two rounds of sparring.
var nextWord = regexp.MustCompile(`^\s*(?:(?:Then|Next|Lastly|Finally|After that|Afterwards|Firstly),? |First, )`)

// halfMinutes are minutes and a half in figures: 1,5 min.
var halfMinutes = regexp.MustCompile(`(?i)\b(\d{1,2})[.,]5 ?min(?:ute)?s?\b`)

// dashNumber is a number of a list with a dash behind it: 1 - Endurance.
var dashNumber = regexp.MustCompile(`^(\s*)(\d{1,2}) [-–—] (\pL|\d)`)

// dashNumbers writes the numbers of such a list as others do, where at least three stand in order.
func dashNumbers(lines []string) []string {
	out, last, n := slices.Clone(lines), 0, 0
	for i, line := range lines {
		m := dashNumber.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		if k := figure(m[2]); k == last+1 {
			last, n = k, n+1
			out[i] = dashNumber.ReplaceAllString(line, "$1$2.  $3")
		} else {
			return lines
		}
	}
	if n < leastNumbers {
		return lines
	}
	return out
}

// hourFirst is a time of the day before a line.
var hourFirst = regexp.MustCompile(`^\s*(?:[01]?\d|2[0-3])[.:][0-5]\d(?: ?[ap]m)?(?:\s*[-–]\s*(?:[01]?\d|2[0-3])[.:][0-5]\d)?\s+\pL`)

// withoutHours blanks the times of a day's plan, where at least three lines have one.
func withoutHours(lines []string) []string {
	out, n := slices.Clone(lines), 0
	for i, line := range lines {
		if at := hourFirst.FindString(line); at != "" {
			_, size := utf8.DecodeLastRuneInString(at)
			out[i], n = strings.Repeat(" ", utf8.RuneCountInString(at)-1)+line[len(at)-size:], n+1
		}
	}
	if n < leastNumbers {
		return lines
	}
	return out
}

// pipeSign parts the cells of a table.
var pipeSign = regexp.MustCompile(`[ \t]*\|[ \t]*`)

// weekOf is when a line is taught, or at which station it is asked, which asks nothing: Week 1-2: Jab, cross.
var weekOf = regexp.MustCompile(`(?i)^\s*(?:[-–—*•] )?(?:weeks?|stations?|rounds?|lessons?|class|classes|months?|sessions?|days?) \d{1,2}(?: ?(?:[-–&,]|and|to) ?\d{1,2})*\s*[-–—:.)]\s+`)

// anyBullet is any sign that a list has before its lines: a star, an arrow, a picture.
var anyBullet = regexp.MustCompile(`^(\s*)[\p{So}‣◦⁃∙❖➤➜▶▸›][\x{fe0f}]?\s+`)

// oneCell is a row of two cells, a heading and what stands under it, as a heading and its list.
func oneCell(b *Book, line string) string {
	head, rest, found := strings.Cut(line, "\t")
	if !found || strings.Contains(strings.TrimSpace(rest), "\t") || strings.TrimSpace(rest) == "" {
		return line
	}
	if _, is := headRow(line); is {
		return line
	}
	if h, is := b.headingOf(strings.TrimSpace(head)); is && !h.mixed && h.setting == "" && strings.TrimSpace(head) != "" {
		return head + ": " + strings.TrimSpace(rest)
	}
	return line
}

// framedHead is a heading with a frame of signs: = Kicks =, *** Kicks ***, [Kicks].
var framedHead = regexp.MustCompile(`^(\s*)(?:([=~*_+<>|★☆◆◇■•–—-]+)\s*(\pL[^=~_+<>|★☆◆◇■•]*?)\s*([=~*_+<>|★☆◆◇■•–—-]+)|(\[)\s*(\pL[^\[\]]*?)\s*(\]))[:.]?\s*$`)

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

// letterMark is a letter or a small Roman number of a list: a), (b), iv).
var letterMark = regexp.MustCompile(`^\s*(?:[-–—*•·▪] )?\(?(?:[a-z]|i{2,3}|iv|vi{1,3}|ix)\)\s+|^\s*[a-h]\.\s+|^\s*\d{1,2}[a-z][.)]\s+`)

var (
	headAnd  = regexp.MustCompile(`^(\s*(?:\d{1,2}[.)] )?[^:,;(\t\d]{3,40}?)(?:: +| [-–—] | {2,})(\S.*)$`)
	myOwn    = regexp.MustCompile(`(?i)^\s*(?:[-–—*•] )?(?:(?:my|the|our) (\p{L}+)s (?:are|is)|i can (\p{L}+)):`)
	anAmount = regexp.MustCompile(`^(?i)(?:one|two|three|x ?\d{1,3}|\d{1,3}) ?(?:boards?|times|reps|each|a side|per side|x|s|sec|min)?\b`)
	someOf   = regexp.MustCompile(`(?i)^(?:all|any|each|every|both|as|see|same)\b`)
)

// behindHeading takes a heading and what stands behind it on its line apart, "Kicks: Front kick x10, Side
// kick x10"; other lines stay.
func (b *Book) behindHeading(line string) []string {
	if m := bracketHead.FindStringSubmatch(line); m != nil && !anyAmount.MatchString(m[3]) {
		if h, is := b.headingOf(strings.TrimSpace(m[2])); is && !h.mixed { // Kicks (pads or air): flying side kick, axe kick
			out := b.behindHeading(m[1] + m[2] + ": " + m[4])
			if len(out) > 1 {
				out[0] += " (" + m[3] + ")"
			}
			return out
		}
	}
	m := headAnd.FindStringSubmatch(myOwn.ReplaceAllStringFunc(line, func(s string) string { return myOwn.ReplaceAllString(s, "$1${2}s:") }))
	if m == nil || b.Named(m[1]) != nil || strings.Contains(line, "\t") {
		return []string{line}
	}
	name := strings.TrimSpace(m[1][listed(m[1]):])
	h, is := b.headingOf(name)
	if !is {
		h, is = b.headingOf(headWords.ReplaceAllString(name, "")) // Hand work
	}
	if !is && manyOfKind.MatchString(name) && !strings.Contains(m[0], " - ") { // Pad kicks
		h, is = b.headingOf(manyOfKind.FindStringSubmatch(name)[1])
		m[1] = strings.Replace(m[1], name, manyOfKind.FindStringSubmatch(name)[1], 1)
	}
	if key := check.Key(name); !is && slices.Contains(single, key) && slices.Contains([]Kind{"strike", "kick", "block", "stance", "throw", "lock"}, UsualKind(key)) && (len(outsideBrackets(m[2], ",;")) > 1 || b.kindInName(m[2]) == UsualKind(key)) { // Kick: turning, hooking
		h, is = b.sectionOf(UsualKind(key))
		m[1] = strings.Replace(m[1], name, name+"s", 1)
	}
	if one := b.kindInName(name); !is && wordForMany.MatchString(name) && slices.Contains(basic, one) { // Elbows: inward, outward
		h, is = b.sectionOf(one)
		m[1] = strings.Replace(m[1], name, h.section, 1)
	}
	kind := cmp.Or(h.kind, b.kindIn(h.section))
	said := strings.TrimSuffix(m[2], ".")
	_, err := ParseQuantity(said)
	switch {
	case is && err == nil && !bare(said) && kind != "sparring" && slices.Contains(amounted, kind): // Kicking: fifteen times each leg
		return []string{m[1] + " (" + said + ")"}
	case is && someOf.MatchString(said) && slices.Contains([]Kind{"form", "combination", "self_defence"}, kind): // Forms: all up to green belt
		return []string{m[1], said}
	case !is || someOf.MatchString(m[2]) || err == nil && kind != "sparring":
		return []string{line}
	case kind == "sparring" && sectionKey(name) != "sparring" && anAmount.MatchString(m[2]): // Free sparring: 2 rounds
		return []string{m[1], strings.TrimRight(m[1], " ") + ", " + m[2]}
	case kind == "board_break" && boardsFirst.MatchString(said): // Breaking: one board, side kick
		return []string{m[1], boardsFirst.ReplaceAllString(said, "$2, $1")}
	case kind == "knowledge" && strings.Contains(m[2], ";"):
		return append([]string{m[1]}, strings.Split(m[2], ";")...)
	}
	if parts := sentencesOf(said); len(parts) > 1 && !slices.ContainsFunc(parts, func(part string) bool { return len(strings.Fields(part)) > mostListed+2 }) {
		return append([]string{m[1]}, parts...)
	}
	if parts := outsideBrackets(said, ";"); len(parts) > 1 && kind != "self_defence" && kind != "combination" {
		return append([]string{m[1]}, parts...)
	}
	return append([]string{m[1]}, b.underHead(name, said, kind)...)
}

// bracketHead is a heading with a bracket and a list behind it.
var bracketHead = regexp.MustCompile(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?)(\pL[\pL -]{2,30}?) ?\(([^()]*)\): +(\S.*)$`)

var (
	// manyOfKind is a heading with words before the one that says the kind: Pad kicks.
	manyOfKind = regexp.MustCompile(`(?i)^(?:pad|bag|basic|stationary|standing|moving|static|line|jumping|stretch|floor|air|hand|close) (kicks|kicking|punches|punching|strikes|striking|blocks|blocking|stances|throws|falls)$`)
	// sentenceEnd ends one sentence and begins the next.
	sentenceEnd = regexp.MustCompile(`(\pL+|\d+|\))\. +(\p{Lu})`)
	// writtenShort ends no sentence.
	writtenShort = regexp.MustCompile(`(?i)^(?:incl|approx|max|min|e\.g|i\.e|etc|vs|no|nr|st|mr|ms|mrs|dr)$`)
)

// sentencesOf are the sentences of a text.
func sentencesOf(text string) (out []string) {
	from := 0
	for _, m := range sentenceEnd.FindAllStringSubmatchIndex(text, -1) {
		if !writtenShort.MatchString(text[m[2]:m[3]]) {
			out = append(out, text[from:m[3]])
			from = m[4]
		}
	}
	return append(out, text[from:])
}

// boardsFirst are boards before what they are broken with.
var boardsFirst = regexp.MustCompile(`(?i)^((?:one|two|three|\d|an?) boards?)(?:,|:| with| -| –) *(?:an? |the )?(\pL.*)$`)

// labelAmount puts the amount in a heading with a list behind it in brackets: Kicks on the spot x 10: front kick, side kick.
func (b *Book) labelAmount(line string) string {
	label, said, found := strings.Cut(line, ": ")
	words := strings.Fields(label[min(listed(label), len(label)):])
	i, j := amountAt(words)
	if !found || i == 0 || i == j || strings.ContainsAny(label, ",;(\t") {
		return line
	}
	head := strings.TrimSpace(headWords.ReplaceAllString(" "+strings.Join(words[:i], " "), ""))
	if _, is := b.headingOf(head); !is || j < len(words) {
		return line
	}
	amount := strings.Join(words[i:j], " ")
	var out []string
	for _, part := range outsideBrackets(said, ",;") {
		out = append(out, strings.TrimSpace(part)+" "+amount)
	}
	return label[:listed(label)] + head + ": " + strings.Join(out, "; ")
}

// bracketList is a heading and in brackets what it lists.
var bracketList = regexp.MustCompile(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?)(\pL[\pL ]{2,30}?) ?\(([^()\d]+)\)[.:]?\s*$`)

// headBrackets is such a list behind a colon: Throws (hip, shoulder, leg reap). Other lines stay.
func (b *Book) headBrackets(line string) string {
	m := bracketList.FindStringSubmatch(line)
	if m == nil {
		return line
	}
	parts := outsideBrackets(m[3], ",;")
	h, is := b.headingOf(strings.TrimSpace(m[2]))
	if !is || h.mixed || len(parts) < leastNumbers || slices.ContainsFunc(parts, func(part string) bool {
		return saysOnlyHow(strings.TrimSpace(part)) || len(strings.Fields(part)) > mostListed
	}) {
		return line
	}
	return m[1] + m[2] + ": " + m[3]
}

var sentenceHead = regexp.MustCompile(`^(\s*\pL[\pL -]{2,30})\. +(\S.*)$`)

// firstSentence makes a heading that ends as a sentence one with a colon: Kicking. Fifteen times each leg.
func (b *Book) firstSentence(line string) string {
	if m := sentenceHead.FindStringSubmatch(line); m != nil && b.Named(strings.TrimSpace(m[1])) == nil {
		if _, is := b.headingOf(strings.TrimSpace(m[1])); is {
			return m[1] + ": " + m[2]
		}
	}
	return line
}

// outsideBrackets are the pieces of a text between signs that stand in no brackets.
func outsideBrackets(text, signs string) []string {
	depth := 0
	return strings.FieldsFunc(text, func(r rune) bool {
		switch r {
		case '(':
			depth++
		case ')':
			depth--
		}
		return depth == 0 && strings.ContainsRune(signs, r)
	})
}

var (
	starred   = regexp.MustCompile("(\\*\\*|__|\\*|_|`)(\\p{L}[^*_`]*?)(\\*\\*|__|\\*|_|`)")
	starredIn = regexp.MustCompile(`_\(([^()]*)\)_|\*\(([^()]*)\)\*`)
	pipeRow   = regexp.MustCompile(`^\s*\|(.+)\|\s*$`)
	pipeRule  = regexp.MustCompile(`^\s*\|[-:| ]+\|\s*$`)
)

// withoutMarkup is a line without the signs of a text for the web: **bold**, _(slanted)_, a table's pipes.
func withoutMarkup(line string) string {
	if pipeRule.MatchString(line) {
		return "---"
	}
	if m := pipeRow.FindStringSubmatch(line); m != nil {
		cells := strings.Split(m[1], "|")
		for i := range cells {
			cells[i] = strings.TrimSpace(cells[i])
		}
		return strings.Join(cells, "\t")
	}
	line = starredIn.ReplaceAllString(line, "($1$2)")
	return starred.ReplaceAllStringFunc(line, func(s string) string {
		m := starred.FindStringSubmatch(s)
		if m[1] != m[3] {
			return s
		}
		return m[2]
	})
}

var (
	tickBox   = regexp.MustCompile(`^\s*(?:[-–—*•] )?(?:[☐☑☒□■▢▣◻◯○●✓✔✗►➢→»]|\[[ xX✓]?\]|\([ _]?\))\s*`)
	shortWord = regexp.MustCompile(`(?i)\b(?:ea|min|mins|sec|secs|rep|reps|approx)\.(?:[ ,;)]|$)`)
)

// blanked puts as many blanks for what a pattern finds first.
func blanked(pattern *regexp.Regexp, line string) string {
	at := pattern.FindStringIndex(line)
	if at == nil {
		return line
	}
	return line[:at[0]] + strings.Repeat(" ", utf8.RuneCountInString(line[at[0]:at[1]])) + line[at[1]:]
}

// shortened is a line without the full stops of what is written short: 10 ea. side, 2 min.
func shortened(line string) string {
	return shortWord.ReplaceAllStringFunc(line, func(s string) string { return strings.Replace(s, ".", " ", 1) })
}

// outlined are the marks of an outline before a line: A. or A) before a heading, A1, A.1 or 1.1 before a
// line.
var outlined = regexp.MustCompile(`^\s*(?:([A-Z])(?:[.)]|\.?(\d{1,2})[.):]?)|(\d{1,2})\.(\d{1,2})[.)]?)\s+`)

// withoutOutline puts blanks, as many, for the marks of an outline, where at least three lines have them
// and all are in order: A, A1, A2, B, B1 or 1.1, 1.2, 2.1. Other lines stay as they are.
func withoutOutline(lines []string) []string {
	out := slices.Clone(lines)
	marked, chapter, number := 0, 0, 0
	for i, line := range lines {
		m := outlined.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		c, _ := strconv.Atoi(m[3])
		if m[1] != "" {
			c = int(m[1][0]-'A') + 1
		}
		n, _ := strconv.Atoi(m[2] + m[4])
		if marked == 0 && n > 1 || marked > 0 && (c != chapter || n != number+1) && (c != chapter+1 || n > 1) {
			return lines
		}
		marked, chapter, number = marked+1, c, n
		out[i] = strings.Repeat(" ", len(m[0])) + line[len(m[0]):]
	}
	if marked < 3 {
		return lines
	}
	for i, line := range out { // 1 Kicks, above 1.1
		if m := chapterMark.FindStringSubmatch(line); m != nil && i+1 < len(lines) {
			if next := outlined.FindStringSubmatch(lines[i+1]); next != nil && next[3] == m[1] && next[4] == "1" {
				out[i] = strings.Repeat(" ", len(m[0])) + line[len(m[0]):]
			}
		}
	}
	return out
}

// chapterMark is the number of a chapter of an outline.
var chapterMark = regexp.MustCompile(`^(\d{1,2})\s+`)

var (
	signLegend = regexp.MustCompile(`^\s*\(?([*†‡§]{1,2})\)? ?(?:=|:|–|-|—|means|marks|is|are)? ?(\p{L}.*?)[.)]?$`)
	signMust   = regexp.MustCompile(`(?i)\b(?:must|required|compulsory|mandatory|essential|has to|have to)\b`)
	signBonus  = regexp.MustCompile(`(?i)\b(?:bonus|optional|extra|not required|not needed)\b`)
)

// mostLegend is how many words explain a sign at most.
const mostLegend = 8

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

var (
	// What a sentence says before it comes to what is asked.
	surelyAsked = regexp.MustCompile(`(?i)^\s*(?:[-–—*•] )?(?:(?:the )?(?:students?|candidates?|you|i) (?:must|should|will|shall|can|has to|have to) (?:also )?(?:be (?:able|asked) to )?|(?:must |should )?be able to |able to )?(?:(?:perform|demonstrate|execute|show (?:me|us)|let (?:me|us) see) (?:an? |the |your |how you )?)?`)
	maybeAsked  = regexp.MustCompile(`(?i)^\s*(?:show|do|complete|give|hold|stand in|stay in|keep) (?:an? |the )?`)
	leadsIn     = regexp.MustCompile(`(?i)^(?:can you do (?:it|this|these|them)|are you ready|things (?:i|you) (?:can|should|must) (?:do|know))\b.*[?!:]$|\b(?:must|should|will|shall|can|able to|asked to|required to|needs?|requires?)\b.*:$`)
	sparFor     = regexp.MustCompile(`(?i)^\s*spar for `)
	aHeight     = regexp.MustCompile(`(?i)(?:, ?|@ ?|\bat )(?:(head|face|chest|body|belly|waist|belt|knee|shin)[- ](?:height|level|high))\b`)
	orMore      = regexp.MustCompile(`(?i)^ (?:or|and|to|if)\b`)
	sideJoined  = regexp.MustCompile(`(?i)\b(?:l ?[/+] ?r|r ?[/+] ?l)\b`)
	sidesFirst  = regexp.MustCompile(`(?i)\b(?:l ?[/+] ?r|r ?[/+] ?l),? ?x? ?(\d{1,3})( *(?:[(,]|$)| +\p{L})`)
	countSides  = regexp.MustCompile(`(?i)^(\s*)(\d{1,3}) ?x? ?(\p{L}.*?),? (?:l ?[/+] ?r|r ?[/+] ?l)\s*$`)
	eachOf      = regexp.MustCompile(`(?i)\b(?:with|on|to|for|using) ((?:each|every|per) (?:side|leg|hand|arm|foot)s?)\b`)
	article     = regexp.MustCompile(`(?i)^(\s*(?:[-–—*•] )?(?:an?|the) )(\p{L}[\p{L} -]+)`)
	roundsOf    = regexp.MustCompile(`(?i)^\s*(?:[-–—*•] )?(one|two|three|four|five|\d) rounds? of (?:free |light )?sparring,? ?\(?(\d+ ?(?:min|sec)\w*|one minute|two minutes)(?: each)?\)?\.?`)
	roundsTimed = regexp.MustCompile(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,2}) rounds?,?(?: of)? (\d{1,2}):(\d\d)(?: ?min\w*)?(?: each)?`)
	// 30 s/side
	secondsSlash = regexp.MustCompile(`(?i)\b(\d+ ?(?:s|secs?|seconds?|m|mins?|minutes?)) ?/ ?(side|leg|hand|arm|foot)\b`)
	timesEach    = regexp.MustCompile(`(?i)\b(\d{1,3}) (?:times|reps|repetitions|x) ((?:with |on )?(?:each|every|per) (?:side|leg|hand|arm|foot)s?)\b`)
)

// numbersNoted are the numbers of a series behind their word: Set, nos 1 & 2.
var numbersNoted = regexp.MustCompile(`(?i)(\pL),? (?:nos?\.?|numbers?) ?(\d{1,3} ?(?:-|–|&|and|to) ?\d{1,3})\b`)

var heights = map[string]string{"head": "high", "face": "high", "chest": "mid", "body": "mid", "belly": "mid", "waist": "mid", "belt": "mid", "knee": "low", "shin": "low"}

// atSign is "@ bag" for "on the bag".
var atSign = regexp.MustCompile(`(?i) @ ?(?:the )?(bag|pads?|paddles?|shields?|mitts?|targets?)\b`)

// asListed is a line as it would stand in a list: "Perform 10 front kicks with each leg." is "10 front
// kicks each leg". Names of the program stay as they are. Blanks keep the columns where that is possible.
func (b *Book) asListed(line string) string {
	if name := strings.TrimSpace(line[listed(line):]); b.Named(name) != nil {
		return line
	}
	blanks := func(s string) string { return strings.Repeat(" ", utf8.RuneCountInString(s)) }
	if from, to := b.nameIn([]rune(line)); b.Named(string([]rune(line)[from:to])) != nil && maybeAsked.MatchString(line) {
		return line // a name that begins as a sentence does
	}
	whole := line
	lead := surelyAsked.FindString(line)
	if rest := line[len(lead):]; strings.ContainsFunc(lead, unicode.IsLetter) || b.askedBy(rest) {
		line = blanks(lead) + rest
		if more := maybeAsked.FindString(rest); b.askedBy(rest) || doA.MatchString(rest) {
			line = blanks(lead) + blanks(more) + rest[len(more):]
		}
		line = capitalised(strings.TrimSuffix(strings.TrimRight(line, " "), "."))
	}
	if whole, found := strings.CutSuffix(line, ")."); found {
		line = whole + ")"
	}
	if at := sparFor.FindString(line); at != "" {
		line = strings.Replace(at, "spar for", "Sparring,", 1)
		line = strings.Replace(line, "Spar for", "Sparring,", 1) + whole[len(at):]
		line = strings.TrimSuffix(line, ".")
	}
	if m := article.FindStringSubmatch(line); m != nil && b.kindInName(m[2]) != "" && b.kindInName(m[2]) != "knowledge" {
		line = blanks(m[1]) + capitalised(line[len(m[1]):])
	}
	line = atSign.ReplaceAllString(line, ", on $1")
	if m := boardsFirst.FindStringSubmatch(line[listed(line):]); m != nil { // 1 board - front kick
		line = line[:listed(line)] + m[2] + ", " + m[1]
	}
	line = numbersNoted.ReplaceAllString(line, "$1 $2")
	line = roundsOf.ReplaceAllString(line, "Sparring, $1 x $2")
	line = roundsTimed.ReplaceAllStringFunc(line, func(s string) string {
		m := roundsTimed.FindStringSubmatch(s)
		minutes, _ := strconv.Atoi(m[3])
		seconds, _ := strconv.Atoi(m[4])
		return m[1] + m[2] + " x " + strconv.Itoa(60*minutes+seconds) + " s"
	})
	line = timesEach.ReplaceAllString(line, "$1 $2")
	line = secondsSlash.ReplaceAllString(line, "$1 each $2")
	line = eachOf.ReplaceAllString(line, "$1")
	if countSides.MatchString(line) {
		line = countSides.ReplaceAllString(line, "$1$3, $2 a side")
	} else if sidesFirst.MatchString(line) {
		line = sidesFirst.ReplaceAllString(line, ", $1 a side,$2")
	} else if sideJoined.MatchString(line) && strings.ContainsFunc(line, unicode.IsDigit) {
		if said := sideJoined.ReplaceAllString(line, "a side"); b.amountIn(strings.ReplaceAll(said, ",", " ")) != b.amountIn(strings.ReplaceAll(line, ",", " ")) {
			line = said
		}
	}
	if at := aHeight.FindStringSubmatchIndex(line); at != nil && !strings.Contains(line[:at[0]], "(") && !orMore.MatchString(line[at[1]:]) {
		line = line[:at[0]] + ", level " + heights[strings.ToLower(line[at[2]:at[3]])] + "," + line[at[1]:]
	}
	return line
}

// doA is what somebody can do: do a front kick.
var doA = regexp.MustCompile(`(?i)^\s*(?:do|show) an? \pL`)

// capitalised is a line whose first letter is a capital.
func capitalised(line string) string {
	at := strings.IndexFunc(line, func(r rune) bool { return !unicode.IsSpace(r) })
	if at < 0 {
		return line
	}
	r, size := utf8.DecodeRuneInString(line[at:])
	return line[:at] + string(unicode.ToUpper(r)) + line[at+size:]
}

// askedBy reports whether a verb such as "show" leads in what is asked: an amount or a known name
// follows it.
func (b *Book) askedBy(text string) bool {
	verb := maybeAsked.FindString(text)
	if verb == "" {
		return false
	}
	rest := strings.TrimRight(text[len(verb):], ". ")
	words := strings.Fields(rest)
	if amount := b.amountIn(strings.ReplaceAll(rest, ",", " ")); amount != "" || len(words) > 0 && bare(words[0]) {
		return true
	}
	for n := len(words); n > 0; n-- {
		if b.Named(check.Tidy(strings.TrimRight(strings.Join(words[:n], " "), ",;"))) != nil {
			return true
		}
	}
	return false
}
