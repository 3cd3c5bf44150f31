package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
	"velvetladder/internal/core/scoring"
)

// Numbered is an entry of a legend: the program's call number, and the technique it calls.
type Numbered struct {
	Number int
	Name   string
	Kind   Kind // of a technique that is new
}

var (
	legendHead  = pattern.Of(`(?i)^(?:(?:call|punch|strike|combination|technique) )?(?:(?:numbers|key|legend|number code|codes?|numbering)(?: of .*)?|number):?$`)
	legendLabel = pattern.Of(`(?i)^\s*(?:key|legend|numbers?|codes?|call numbers?) ?: +`)
	legendEntry = pattern.Of(`^#?(\d{1,3})\s*=\s*(\p{L}.*)$`)
	legendUnder = pattern.Of(`^#?(\d{1,3})\s*(?:[=:.)–-]|\s)\s*(\p{L}.*)$`)
	callsOnly   = pattern.Of(`^(\d{1,3}(?:[-–]\d{1,3})+)(?:\s*[,;:(]\s*|\s+(?:[x×]\s*)?|$)(.*)$`)
)

// legend reads a line that gives call numbers: "1 = jab", "1 = jab, 2 = cross", and under a heading
// such as Numbers "1. Jab" too.
func (b *Reader) legend(line string, under bool) (out []Numbered, is bool) {
	line = legendLabel.ReplaceAllString(line, "")
	pattern := legendEntry
	if under {
		pattern = legendUnder
	}
	for _, part := range strings.FieldsFunc(strings.TrimSpace(line), func(r rune) bool { return strings.ContainsRune(",;\t", r) }) {
		m := pattern.FindStringSubmatch(strings.TrimSpace(part))
		if m == nil {
			return nil, false
		}
		n, _ := strconv.Atoi(m[1])
		x := Numbered{Number: n, Name: check.Tidy(strings.TrimRight(m[2], ". "))}
		if t := b.Named(x.Name); t != nil {
			x.Name = t.Name
		} else {
			x.Name = string(unicode.ToUpper([]rune(x.Name)[0])) + string([]rune(x.Name)[1:])
			x.Kind = b.KindInName(x.Name)
		}
		out = append(out, x)
	}
	return out, len(out) > 0
}

// legendLine is a line of a legend, set aside; what is wrong with it is its problem.
func (b *Reader) legendLine(l *PageLine, entries []Numbered, calls map[int]string) {
	var said []string
	for _, x := range entries {
		t := b.Named(x.Name)
		switch {
		case x.Number < 1:
			l.fail(1, "a call number is from 1 to 999")
		case t == nil && x.Kind == "":
			l.fail(1, fmt.Sprintf("nothing says of which kind %s is; write a name that tells it, for example %s punch, or add the technique first", x.Name, x.Name))
		case calls[x.Number] != "" && check.Key(calls[x.Number]) != check.Key(x.Name):
			l.fail(1, fmt.Sprintf("%d calls %s already", x.Number, calls[x.Number]))
		case t != nil && t.Call > 0 && t.Call != x.Number:
			l.fail(1, fmt.Sprintf("%s is called by %d already; change it on its page", t.Name, t.Call))
		}
		calls[x.Number] = x.Name
		said = append(said, fmt.Sprintf("%d calls %s", x.Number, x.Name))
	}
	l.Legend = entries
	if l.Problem == "" {
		l.Aside = "call numbers: " + strings.Join(said, ", ")
	}
}

// callNumbers are the program's call numbers with the names they call.
func (b *Reader) callNumbers() map[int]string {
	out := map[int]string{}
	for i := range b.Techniques {
		if t := &b.Techniques[i]; t.Call > 0 {
			out[t.Call] = t.Name
		}
	}
	return out
}

// byNumber reads a line that begins with call numbers, "1-4-2, 5 a side": a combination of that name,
// whose moves they are.
func byNumber(line string, calls map[int]string) (text, moves string, is bool) {
	line = strings.TrimSpace(line)
	line = line[listed(line):]
	m := callsOnly.FindStringSubmatch(line)
	if m == nil {
		return "", "", false
	}
	var numbers []string
	for _, n := range strings.FieldsFunc(m[1], func(r rune) bool { return !unicode.IsDigit(r) }) {
		k, _ := strconv.Atoi(n)
		if calls[k] == "" {
			return "", "", false
		}
		numbers = append(numbers, n)
	}
	return strings.TrimRight(strings.Join(numbers, "-")+", "+m[2], ", "), strings.Join(numbers, ", "), true
}

var rangeName = pattern.Of(`^((?:\d-)?\p{L}.*?)\s*#?(\d{1,3})\s*(?:(-|–|—|to|through|(?i:thru))|&|\+|and)\s*#?(\d{1,3})$`)

// numberList are numbers of a series one by one: One-steps 7, 8, 9.
var numberList = pattern.Of(`^(\pL[\pL -]*?) #?(\d{1,3}(?:(?:, ?|,? ?(?:and|&) ?)#?\d{1,3})+)( \([^()\d]*\)|)$`)

// letterList are letters of a series one by one: Wrist release A, B, 3x.
var letterList = pattern.Of(`^(\pL[\pL -]*?) ([A-H](?:(?:, ?|,? ?(?:and|&|/) ?)[A-H])+)((?:,| \d| x).*|)$`)

// inSeries are the lines that numbers of a series one by one, or several ranges, stand for: One-steps 7, 8, 9; Wrist grabs 1-4, lapel grabs 1-2. nil
// where a line names none.
func (b *Reader) inSeries(line string, kind Kind) (out []string) {
	mark := line[:listed(line)]
	body := strings.TrimSpace(line[len(mark):])
	if m := numberList.FindStringSubmatch(body); m != nil && slices.Contains(numberedKinds, cmp.Or(b.KindInName(strings.TrimSuffix(m[1], "s")), kind)) {
		last := 0
		for _, n := range strings.FieldsFunc(m[2], func(r rune) bool { return !unicode.IsDigit(r) }) {
			if last > 0 && curriculum.Figure(n) != last+1 {
				return nil
			}
			last = curriculum.Figure(n)
			out = append(out, mark+strings.TrimSuffix(m[1], "s")+" "+n+m[3])
		}
		return out
	}
	if m := letterList.FindStringSubmatch(body); m != nil && slices.Contains(numberedKinds, cmp.Or(b.KindInName(strings.TrimSuffix(m[1], "s")), kind)) { // Wrist release A, B
		for _, letter := range strings.FieldsFunc(m[2], func(r rune) bool { return !unicode.IsUpper(r) }) {
			out = append(out, mark+m[1]+" "+letter+m[3])
		}
		return out
	}
	pieces := outsideBrackets(body, ",")
	if len(pieces) < 2 || slices.ContainsFunc(pieces, func(piece string) bool {
		m := rangeName.FindStringSubmatch(strings.TrimSpace(piece))
		return m == nil || !slices.Contains(numberedKinds, cmp.Or(b.KindInName(m[1]), b.KindInName(strings.TrimSuffix(m[1], "s")), kind))
	}) {
		return nil
	}
	for _, piece := range pieces {
		out = append(out, mark+capitalised(strings.TrimSpace(piece)))
	}
	return out
}

// ofOneThing ends what counts the parts of one thing: Tower form steps 1-12.
var ofOneThing = pattern.Of(`(?i)\b(?:steps?|moves?|movements?|counts?|parts?|sections?|lines?|pages?)$`)

// numberedItem is a word and its number, behind what a list has before its lines.
var numberedItem = pattern.Of(`^\s*(?:\d{1,3}[.)]\s+|[-–—*•]\s+)?\p{L}[\p{L}-]* \d{1,3}(?:\s*\([^()]*\))?$`)

// choiceOf is before numbers of which only some are asked: any 6 of.
var choiceOf = pattern.Of(`(?i)^(?:any|one|two|three|some|choice|\d+)\b.*\b(?:of|from)$`)

// mostSeveral bounds how many lines one line may stand for.
const mostSeveral = 30

// numberedKinds are the kinds whose names are numbers of a series.
var numberedKinds = []Kind{"form", "combination", "partner_set", "self_defence", "lock", "throw", "breakfall"}

// numberedNoun is a series of the school's own numbers whatever kind it is of: elbows 1-7, outside defences 1 to 7.
var numberedNoun = pattern.Of(`(?i)^(?:(?:outside|inside|hand|punch|kick|knife|stick|basic) )?(?:(?:elbow|knee|palm|hand)(?: strike)?|defen[cs]e|strike|block|kick|counter|attack)s?$`)

// several is a line for each that it names: "Set 2–5", "Combination 3 and 4". One that names one thing
// stands alone.
func (b *Reader) several(l PageLine) []PageLine {
	m := rangeName.FindStringSubmatch(l.Name)
	if m == nil || !l.New || l.Plain || choiceOf.MatchString(m[1]) || ofOneThing.MatchString(m[1]) && l.Kind != "partner_set" {
		return []PageLine{l}
	}
	series := check.Tidy(m[1])
	if one := strings.TrimSuffix(series, "s"); one != series && curriculum.UsualKind(one) != "" && b.Named(l.Name) == nil { // Combinations 1 to 20
		series = one
	}
	ownNumbers := numberedNoun.MatchString(series) && l.Quantity.Measure != curriculum.Timed
	if one := strings.TrimSuffix(series, "s"); ownNumbers && b.Named(l.Name) == nil { // Elbows 1-7
		series = one
	}
	_, _, known, _ := b.Numbers(series + " 1")
	if !known && !ownNumbers && !slices.Contains(numberedKinds, cmp.Or(b.KindInName(series), l.Kind)) && !(l.Kind == "partner_set" && curriculum.UsualKind(series) == l.Kind) { // Set sparring 1-5
		return []PageLine{l}
	}
	from, _ := strconv.Atoi(m[2])
	to, _ := strconv.Atoi(m[4])
	if from < 1 || to <= from || to-from >= mostSeveral || m[3] == "" && to != from+1 {
		return []PageLine{l}
	}
	var out []PageLine
	l.Doubts = slices.DeleteFunc(slices.Clone(l.Doubts), func(d notation.Doubt) bool { return strings.Contains(d.Reason, " names several") })
	for n := from; n <= to; n++ {
		x := l
		x.Name, x.TechniqueID, x.Series, x.Place, x.New = fmt.Sprintf("%s %d", series, n), "", "", 0, false
		x.Section, x.SectionID = l.under.section, "" // settled anew
		x.Tracks, x.Doubts = slices.Clone(l.Tracks), slices.Clone(l.Doubts)
		if l.kindless || l.headless { // its name without the numbers may tell
			x.Column, x.Problem, x.kindless, x.headless = 0, "", false, false
		}
		if t := b.alike(x.Name); t != nil {
			x.Name = t.Name
		}
		b.Settle(&x)
		x.Asked = !known && !unicode.IsUpper([]rune(series)[0]) && b.KindInName(series) == "" && !slices.Contains(numberedKinds, curriculum.UsualKind(series)) // a range is of a series
		out = append(out, x)
	}
	return out
}

var drawLine = pattern.Of(`(?i)^(\d{1,2}|one|two|three|four|five|six|seven|eight|nine|ten) (?:questions?|answers?|terms?|items?)(?: drawn| chosen| at random)* (?:from|out of|of|on) (?:the )?(?:list (?:of )?)?(.+?)[.:]?$`)

var smallNumbers = []string{"zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"}

// draws reads "3 questions from Terms": a sample group of which so many are drawn. below is true where the line points at
// those under it: "from the list below".
func (b *Reader) draws(line string) (group *curriculum.SampleGroup, below bool) {
	line = strings.TrimSpace(line)
	m := drawLine.FindStringSubmatch(line[listed(line):])
	if m == nil {
		m = drawLine.FindStringSubmatch(line) // "3. questions" is a list, "3 questions" is not
	}
	if m == nil {
		return nil, false
	}
	n := slices.Index(smallNumbers, strings.ToLower(m[1]))
	if n < 0 {
		n, _ = strconv.Atoi(m[1])
	}
	name := check.Tidy(m[2])
	switch check.Key(name) {
	case "list", "list below", "below", "these", "those below", "following", "questions below", "following questions", "these questions":
		name, below = "Questions", true
	}
	if n < 1 || n > 50 || strings.ContainsAny(name, ",;") {
		return nil, false
	}
	for _, g := range b.Program.Groups {
		if check.Key(g.Name) == check.Key(name) {
			g.Draw = n
			return &g, below
		}
	}
	return &curriculum.SampleGroup{Name: string(unicode.ToUpper([]rune(name)[0])) + string([]rune(name)[1:]), Draw: n}, below
}

// rightLeft is an amount for each side one by one: 3x right, 3x left.
var rightLeft = pattern.Of(`(?i)(?:\bx ?)?\b(\d{1,3}) ?x? ?(right|left|r|l)\b ?(?:[,/&+]|and)? ?(?:x ?)?(\d{1,3}) ?x? ?(right|left|r|l)\b`)

// thereAndBack is an amount for each way one by one: x 4 forward, x 4 back.
var thereAndBack = pattern.Of(`(?i)(?:x ?)?\b(\d{1,3}) ?x? ?(?:forwards?|fwd)\b ?(?:[,/&+]|and|then)? ?(?:turn,? ?(?:and )?)?(?:x ?)?(\d{1,3}) ?x? ?(?:back(?:wards?)?|bwd)\b`)

// eachWay is such an amount as one each way, where both are as much.
func eachWay(said string) string {
	if m := thereAndBack.FindStringSubmatch(said); m[1] == m[2] {
		if strings.Contains(said, "turn") {
			return m[1] + " each way, with a turn"
		}
		return m[1] + " each way"
	}
	return said
}

// sideFirst is the same with the side first: R x 20, L x 20.
var sideFirst = pattern.Of(`(?i)(?:,)? (right|left|r|l) ?x? ?(\d{1,3})x? ?(?:[,/&+]|and)? ?(right|left|r|l) ?x? ?(\d{1,3})x?\b`)

// aSide is such an amount as one a side, where both sides are as much.
func aSide(said string) string {
	if m := sideFirst.FindStringSubmatch(said); m != nil && m[2] == m[4] && !strings.EqualFold(m[1][:1], m[3][:1]) {
		return ", " + m[2] + " a side"
	}
	m := rightLeft.FindStringSubmatch(said)
	if m == nil {
		return said
	}
	if m[1] != m[3] || strings.EqualFold(m[2][:1], m[4][:1]) {
		return said
	}
	return m[1] + " a side"
}

var markInWords = pattern.Of(`^(\d{1,5}) ?= ?(\p{L}[\p{L} -]*)$`)

// marksInWords reads "20=good", by the labels of the program's scale.
func (b *Reader) marksInWords(l *PageLine, key string) bool {
	m := markInWords.FindStringSubmatch(key)
	if m == nil {
		return false
	}
	scale := scoring.MovementScale().Scale
	if b.Program.Policy != nil {
		scale = b.Program.Policy.Scale
	}
	n, _ := strconv.Atoi(m[1])
	for _, label := range scale.Labels {
		if check.Key(label.Word) == check.Tidy(m[2]) {
			l.Table = append(slices.Clone(l.Table), curriculum.TableMark{Count: n, Mark: label.Mark})
			slices.SortStableFunc(l.Table, func(x, y curriculum.TableMark) int { return cmp.Compare(x.Count, y.Count) })
			return true
		}
	}
	return false
}

var (
	contactWords = pattern.Of(`(?i)\b(no|non|zero|touch|light)[- ]contact\b|\bcontact[: ]+(none|touch|light)\b`)
	otherContact = pattern.Of(`(?i)\b(semi|medium|full|hard|heavy|controlled)[- ]contact\b`)
	limbWords    = pattern.Of(`(?i)\b((?:hands?|punches|fists?|boxing|kicks?|feet|legs) only|hands and feet|no (?:kicks|kicking|punches|head shots?|head contact))\b`)
)

// sparringWords proposes the rung's sparring rule from what is said of contact and limbs on a line that
// is sparred; the words stay as its remark.
func (b *Reader) sparringWords(l *PageLine) {
	if l.Kind != "sparring" {
		return
	}
	said := l.Name + ", " + l.Note
	var rule curriculum.SparringRule
	if m := contactWords.FindStringSubmatch(said); m != nil {
		word := curriculum.Contact(strings.ToLower(m[1] + m[2]))
		if word == "no" || word == "non" || word == "zero" {
			word = "none"
		}
		rule.Contact = word
	} else if m := otherContact.FindString(said); m != "" {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; the rung’s sparring rule knows none, touch and light contact", m))
	}
	rule.Limbs = strings.ToLower(limbWords.FindString(said))
	if rule.Contact != "" || rule.Limbs != "" {
		l.Sparring = &rule
	}
}

// propose puts what lines say of sparring into a rung's rule, where it has none of its own: on top of
// the rule that holds there.
func (b *Reader) propose(rung string, lines []PageLine) *curriculum.SparringRule {
	g := b.Rung(rung)
	if g == nil || g.Sparring != nil {
		return nil
	}
	rule := curriculum.SparringRule{Contact: curriculum.Contacts[0]}
	if old := b.SparringOf(rung); old != nil {
		rule = *old
	}
	said := false
	for _, l := range lines {
		if l.Sparring != nil {
			said = true
			rule.Contact, rule.Limbs = cmp.Or(l.Sparring.Contact, rule.Contact), cmp.Or(l.Sparring.Limbs, rule.Limbs)
		}
	}
	if !said {
		return nil
	}
	return &rule
}

// callEntries are the entries of a catalogue with the call numbers of a page's legend.
func callEntries(entries []notation.Entry, lines []PageLine) []notation.Entry {
	for _, l := range lines {
		for _, x := range l.Legend {
			i := slices.IndexFunc(entries, func(e notation.Entry) bool { return check.Key(e.Name) == check.Key(x.Name) })
			if i < 0 {
				entries = append(entries, notation.Entry{ID: fmt.Sprintf("call %d", x.Number), Name: x.Name, Call: x.Number})
			} else {
				entries[i].Call = x.Number
			}
		}
	}
	return entries
}
