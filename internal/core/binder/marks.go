package binder

import (
	"cmp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// What a list has before its lines: signs, numbers, outlines, boxes.

// ofAList is what stands before a line of a list.
var ofAList = pattern.Of(`^(\s*)(?:([-–—*•·▪►→»\p{So}‣◦⁃∙❖➤➜▶▸›])[\x{fe0f}]?|(\d{1,3})[.)]|\d{1,2}\.\d{1,2}[.)]?|\(?[a-z][.)]|[A-Z]\d{1,2}[.:)]?)\s`)

// ofOneList reports whether two lines stand in one list, side by side: by the same sign and as far from the edge.
func ofOneList(x, y string) bool {
	a, b := ofAList.FindStringSubmatch(x), ofAList.FindStringSubmatch(y)
	if ticked.MatchString(x) && ticked.MatchString(y) {
		return true
	}
	return a != nil && b != nil && len(a[1]) == len(b[1]) && a[2] == b[2]
}

// ofNumber is a heading with a number of a list, "6. Defences against"; it holds up to the next number of that list.
type ofNumber struct {
	head   pageText
	inline bool // with what stands below it behind it on its line
	below  bool // something stands below it
}

// ticked is a line of a list of boxes.
var ticked = pattern.Of(`^\s*(?:[☐☑☒□■▢▣◻◯○●✓✔✗►➢→»]|\[[ xX✓]?\]|\([ _]?\))\s`)

// ended reports whether a line is the next of the list in which the heading stands, with others between them.
func (o *ofNumber) ended(x pageText) bool {
	a, b := ofAList.FindStringSubmatch(o.head.typed), ofAList.FindStringSubmatch(x.typed)
	if x.number == o.head.number {
		o.below, o.inline = true, true
		return false
	}
	if o.inline && (ofOneList(o.head.typed, x.typed) || ticked.MatchString(o.head.typed) && ticked.MatchString(x.typed)) {
		*o = ofNumber{}
		return true
	}
	if a == nil || b == nil || a[3] == "" || b[3] == "" || a[1] != b[1] {
		o.below = true
		return false
	}
	m, _ := strconv.Atoi(a[3])
	n, _ := strconv.Atoi(b[3])
	over := o.below && n == m+1
	*o = ofNumber{}
	return over
}

var (
	listSign   = pattern.Of(`^\s*(?:(?:[-–—*•·▪]|#+(?:\d{1,3}[.):]?)?|\d{1,3}[.)]|[IVX]{1,4}[.)])\s+)?`)
	listNumber = pattern.Of(`^\s*\d{1,3}[.)] `)
	listNear   = pattern.Of(`^\s*(?:[-–—*•·▪]|\d{1,3}[.)])\p{L}`)
)

// listed is how many bytes of a line are what a list has before each of its lines: a dash, a
// dot, a number.
func listed(line string) int {
	if sign := listNear.FindString(line); sign != "" {
		_, letter := utf8.DecodeLastRuneInString(sign)
		return len(sign) - letter
	}
	return len(listSign.FindString(line))
}

var numberBehind = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?(\pL[^,;:()\d\t]*\pL)) (\d{1,3})$`)

// seriesWord ends a name that goes on with its number, or the sign before one.
var seriesWord = pattern.Of(`(?i) (?:x|no|nr|number|part|level|set|form|pattern|combo|combination|defen[cs]e|technique|drill)$`)

// leastNumbers is how many different names with a number behind them show that it is the amount.
const leastNumbers = 3

// numbersBehind puts a comma before the number behind a name, where several different ones have one: Skip side kick 5, Downward kick 5.
// A series has the same name with other numbers. A single one counts where all such numbers are round.
func (b *Reader) numbersBehind(lines []string) []string {
	seen, at := map[string]int{}, []int{}
	for i, line := range lines {
		m := numberBehind.FindStringSubmatch(line)
		if m == nil || b.Named(strings.TrimSpace(line[listed(line):])) != nil || !slices.Contains(amounted, b.KindInName(m[2])) || doubled.MatchString(m[2]) || seriesWord.MatchString(m[2]) {
			continue
		}
		seen[check.Key(m[2])]++
		at = append(at, i)
	}
	all := len(seen) >= leastNumbers && len(seen) == len(at)
	if !all && slices.ContainsFunc(at, func(i int) bool { return curriculum.Figure(numberBehind.FindStringSubmatch(lines[i])[3])%5 != 0 }) {
		return lines
	}
	out := slices.Clone(lines)
	for _, i := range at {
		if m := numberBehind.FindStringSubmatch(lines[i]); !all && (seen[check.Key(m[2])] > 1 || curriculum.UsualKind(m[2]) != "" || strings.HasSuffix(m[2], " to")) { // front kick 10, but not kick 5
			continue
		}
		out[i] = numberBehind.ReplaceAllString(lines[i], "$1, $3")
	}
	return out
}

// stripeOf is for which stripe a line is asked: Red stripe: front kick, knee.
var stripeOf = pattern.Of(`(?i)^\s*(?:[-–—*•] )?(?:\d{1,2}(?:st|nd|rd|th) )?(?:\pL+ ){0,2}(?:stripe|tip|tape|tag)(?: \d)?\s*[-–—:=]\s+`)

// stripeSays is what a stripe is for, where it stands as a heading below: Red stripe = kicks.
var stripeSays = pattern.Of(`(?i)^\s*(?:[-–—*•] )?((?:\pL+ ){1,2}(?:stripe|tip|tape|tag)(?: \d)?)\s*(?:[=:–—-]|is for|stands for|means|is|for)\s*(\pL[\pL &/'-]{2,30}?)[.]?\s*$`)

// stripesSay writes what a stripe is for in place of the stripe, where that stands as a heading of its own; the lines that say it are
// given with what they say.
func (b *Reader) stripesSay(lines []string) map[int]string {
	said := map[int]string{}
	for i, line := range lines {
		m := stripeSays.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		if h, is := b.heading(m[2]); !is || h.unknown {
			continue
		}
		for k, other := range lines {
			if k != i && check.Key(strings.Trim(headBracket.ReplaceAllString(other, ""), " :.-–—*#")) == check.Key(m[1]) {
				lines[k], said[i] = m[2], check.Tidy(m[1]+", "+m[2])
			}
		}
	}
	return said
}

// dashNumber is a number of a list with a dash behind it: 1 - Endurance.
var dashNumber = pattern.Of(`^(\s*)(\d{1,2}) [-–—] (\pL|\d)`)

// dashNumbers writes the numbers of such a list as others do, where at least three stand in order.
func dashNumbers(lines []string) []string {
	out, last, n := slices.Clone(lines), 0, 0
	for i, line := range lines {
		m := dashNumber.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		if k := curriculum.Figure(m[2]); k == last+1 {
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

// plainNumber is the number of a list before what it asks, without a sign: 1 Twin block.
var plainNumber = pattern.Of(`^(\s*)(\d{1,2}) +\pL`)

// plainNumbers blanks the numbers of such lists, of which three or more lines one below the other count on from one.
func plainNumbers(lines []string) []string {
	out := slices.Clone(lines)
	for from := 0; from < len(lines); {
		to := from
		for ; to < len(lines); to++ {
			if m := plainNumber.FindStringSubmatch(lines[to]); m == nil || curriculum.Figure(m[2]) != to-from+1 {
				break
			}
		}
		if to-from >= leastNumbers {
			for i := from; i < to; i++ {
				m := plainNumber.FindStringSubmatch(lines[i])
				out[i] = m[1] + strings.Repeat(" ", len(m[2])) + lines[i][len(m[1])+len(m[2]):]
			}
		}
		from = max(to, from+1)
	}
	return out
}

// hourFirst is a time of the day before a line.
var hourFirst = pattern.Of(`^\s*(?:[01]?\d|2[0-3])[.:][0-5]\d(?: ?[ap]m)?(?:\s*[-–]\s*(?:[01]?\d|2[0-3])[.:][0-5]\d)?\s+\pL`)

// minuteFirst is a time on the clock of a lesson before a line: 25:00 spar.
var minuteFirst = pattern.Of(`^\s*\d{1,2}:[0-5]\d\s+\pL`)

// withoutHours blanks the times of a day's plan, where at least three lines have one.
func withoutHours(lines []string) []string {
	out, n := slices.Clone(lines), 0
	for i, line := range lines {
		if at := cmp.Or(hourFirst.FindString(line), minuteFirst.FindString(line)); at != "" {
			_, size := utf8.DecodeLastRuneInString(at)
			out[i], n = strings.Repeat(" ", utf8.RuneCountInString(at)-1)+line[len(at)-size:], n+1
		}
	}
	if n < leastNumbers {
		return lines
	}
	return out
}

// weekOf is when a line is taught, or at which station it is asked, which asks nothing: Week 1-2: Jab, cross.
var weekOf = pattern.Of(`(?i)^\s*(?:[-–—*•] )?(?:stations? [A-H]|(?:weeks?|stations?|rounds?|lessons?|class|classes|months?|sessions?|days?) \d{1,2})(?: ?(?:[-–&,]|and|to) ?\d{1,2})*\s*[-–—:.)]\s+`)

// weekShort is a week, a lesson or a day written short before a line, where several lines begin so: W1  Stance: horse.
var weekShort = pattern.Of(`^\s*(?:[-–—*•] )?(?:W|Wk|wk|L|D|M|T)\.? ?\d{1,2}\s*(?:[-–—:.)]\s*|\s{2,}|\t)`)

// withoutWeeks is a page without such labels; one alone may be a name.
func withoutWeeks(lines []string) []string {
	n, same := 0, map[string]int{}
	for _, line := range lines {
		if m := weekShort.FindString(line); m != "" {
			n++
			same[strings.TrimRight(m, " \t-–—:.)")]++
		}
	}
	if n < 3 || n == len(same) && 2*n < len(lines) {
		return lines
	}
	out := slices.Clone(lines)
	for i, line := range out {
		out[i] = blanked(weekShort, line)
	}
	return out
}

// anyBullet is any sign that a list has before its lines: a star, an arrow, a picture.
var anyBullet = pattern.Of(`^(\s*)[\p{So}‣◦⁃∙❖➤➜▶▸›][\x{fe0f}]?\s+`)

// letterMark is a letter or a small Roman number of a list: a), (b), iv).
var letterMark = pattern.Of(`^\s*(?:[-–—*•·▪] )?\(?(?:[a-z]|i{2,3}|iv|vi{1,3}|ix)\)\s+|^\s*[a-km-qs-z]\.\s+|^\s*\d{1,2}[a-z][.)]\s+`)

var (
	starred   = pattern.Of("(\\*\\*|__|\\*|_|`)(\\p{L}[^*_`]*?)(\\*\\*|__|\\*|_|`)")
	starredIn = pattern.Of(`_\(([^()]*)\)_|\*\(([^()]*)\)\*`)
	codeMark  = pattern.Of("`([^`]+)`")
	pipeRow   = pattern.Of(`^\s*\|(.+)\|\s*$`)
	pipeRule  = pattern.Of(`^\s*\|[-:| ]+\|\s*$`)
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
	line = codeMark.ReplaceAllString(starredIn.ReplaceAllString(line, "($1$2)"), "$1")
	return starred.ReplaceAllStringFunc(line, func(s string) string {
		m := starred.FindStringSubmatch(s)
		if m[1] != m[3] {
			return s
		}
		return m[2]
	})
}

var (
	tickBox   = pattern.Of(`^\s*(?:[-–—*•] )?(?:[☐☑☒□■▢▣◻◯○●✓✔✗►➢→»]|\[[ xX✓]?\]|\([ _]?\))\s*`)
	shortWord = pattern.Of(`(?i)\b(?:ea|min|mins|sec|secs|rep|reps|approx)\.(?:[ ,;)]|$)`)
)

// blanked puts as many blanks for what a pattern finds first.
func blanked(said *pattern.Pattern, line string) string {
	at := said.FindStringIndex(line)
	if at == nil {
		return line
	}
	return line[:at[0]] + strings.Repeat(" ", utf8.RuneCountInString(line[at[0]:at[1]])) + line[at[1]:]
}

// outlined are the marks of an outline before a line: A. or A) before a heading, A1, A.1 or 1.1 before a
// line.
var outlined = pattern.Of(`^\s*(?:([A-Z])(?:[.)]|\.?(\d{1,2})[.):]?)|(\d{1,2})\.(\d{1,2})[.)]?)\s+`)

// romanChapter is the Roman number of a chapter, whose lines may begin with letters: II. Moving basics.
var romanChapter = pattern.Of(`^\s*([IVX]{1,4})[.)]\s+\S`)

// romans are the Roman numbers of chapters, in order.
var romans = strings.Fields("I II III IV V VI VII VIII IX X XI XII XIII XIV XV")

// lineCode is a code before a line: K1 Front kick.
var lineCode = pattern.Of(`^\s*([A-Z]{1,2})-?(\d{1,2})[.:)]?\s+\pL`)

// withoutCodes blanks codes of letters and numbers before lines, where at least three lines have one and the numbers of each letter
// begin with one and are in order. Letters in order are an outline.
func withoutCodes(lines []string) []string {
	out, last, other, n := slices.Clone(lines), map[string]int{}, map[string]bool{}, 0
	for i, line := range lines {
		m := lineCode.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		if k := curriculum.Figure(m[2]); last[m[1]] == 0 && k > 1 { // of another page: Y5, among O1, O2
			other[m[1]] = true
		} else if k != last[m[1]]+1 {
			return lines
		} else {
			last[m[1]]++
			n++
		}
		at := lineCode.FindStringIndex(line)
		_, size := utf8.DecodeLastRuneInString(line[:at[1]])
		out[i] = strings.Repeat(" ", at[1]-size) + line[at[1]-size:]
	}
	if n < leastNumbers || len(last)+len(other) < 2 {
		return lines
	}
	return out
}

// deepNumber is the number of a line in an outline of three levels or more.
var deepNumber = pattern.Of(`^\s*\d{1,2}(?:\.\d{1,2}){2,4}[.)]?\s+`)

// chapters is how deep a line stands in an outline of numbers; 0: it has none.
func chapters(line string) int {
	return len(strings.FieldsFunc(chapterNumber.FindString(strings.TrimSpace(line)), func(r rune) bool { return r == '.' }))
}

// chapterNumber is the number of a line in an outline.
var chapterNumber = pattern.Of(`^\d{1,2}(?:\.\d{1,2}){0,4}(?:[.)]? )`)

// withoutOutline puts blanks, as many, for the marks of an outline, where at least three lines have them, or two with letters,
// and all are in order: A, A1, A2, B, B1 or 1.1, 1.2, 2.1; letters begin anew below each Roman number, and
// wherever A stands again. Other lines stay as they are.
func withoutOutline(lines []string) []string {
	out := slices.Clone(lines)
	marked, chapter, number, roman, letters := 0, 0, 0, 0, 0
	for i, line := range lines {
		if deepNumber.MatchString(line) {
			lines[i], out[i] = blanked(deepNumber, line), blanked(deepNumber, line)
			continue
		}
		if m := romanChapter.FindStringSubmatch(line); m != nil && roman < len(romans) && m[1] == romans[roman] && int(m[1][0]-'A') != chapter {
			roman, chapter, number = roman+1, 0, 0
			continue
		}
		m := outlined.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		c, _ := strconv.Atoi(m[3])
		if m[1] != "" {
			c = int(m[1][0]-'A') + 1
		}
		n, _ := strconv.Atoi(m[2] + m[4])
		if m[1] != "" && n == 0 {
			letters++
		}
		if again := m[1] == "A" && n == 0; again && chapter > 1 {
			chapter, number = 0, 0
		}
		if marked == 0 && n > 1 || marked > 0 && (c != chapter || n != number+1) && (c != chapter+1 || n > 1) {
			return lines
		}
		marked, chapter, number = marked+1, c, n
		out[i] = strings.Repeat(" ", len(m[0])) + line[len(m[0]):]
	}
	if marked < 3 && letters < 2 {
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
var chapterMark = pattern.Of(`^(\d{1,2})\s+`)
