package curriculum

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
)

// pageLine reads one line that is no heading: the name, the parts behind it, a remark in
// parentheses, and after a colon the moves.
func (b *Book) pageLine(l *PageLine) {
	if aboutLine.MatchString(strings.TrimSpace(l.Text)) || laterLine.MatchString(strings.TrimSpace(l.Text)) {
		l.fail(1, "this speaks of other lines; write what is asked, a line for each, or add a later part on the technique’s page")
		return
	}
	line := []rune(l.Text)
	if b.sparringKind(l) == "sparring" && b.roundsAlone(l, line) {
		return
	}
	from, to := b.nameIn(line)
	l.Name = check.Tidy(string(line[from:to]))
	if utf8.RuneCountInString(l.Name) > check.NameLength || l.Name == "" {
		l.fail(1, fmt.Sprintf("a technique's name of up to %d characters comes first", check.NameLength))
		return
	}
	l.Role, l.Weight = Roles[0], 1
	rest := b.behind(l, line, to)
	amount := l.Problem == "" && b.lineParts(l, rest, to+1)
	b.finish(l, amount)
}

// finish settles a line whose parts are read.
func (b *Book) finish(l *PageLine, amount bool) {
	if l.Problem != "" {
		return
	}
	first, note, _ := strings.Cut(l.Note, ",")
	if q, err := ParseQuantity(first); !amount && err == nil && !bare(first) { // Front kick (10 each leg, chambered)
		l.Quantity, l.Note, amount = q, check.Tidy(note), true
	}
	if !l.Plain && b.Named(l.Name) == nil {
		amount = b.inName(l, amount) || amount
	}
	if l.Problem != "" {
		return
	}
	if trackOnly(b, &PageLine{}, check.Key(l.Name)) {
		l.fail(1, fmt.Sprintf("“%s” says for whom; the name of what is asked comes first, then for example not for Cubs", l.Name))
		return
	}
	if t := b.alike(l.Name); t != nil && b.Named(l.Name) == nil {
		l.Name = t.Name
	}
	if l.Quantity.Measure == RepsInAll && bothNoted.MatchString(l.Note) {
		l.doubt(fmt.Sprintf("%s is read as in all, with “%s” as a remark; write %d a side where it is asked of each", l.Quantity, l.Note, l.Quantity.Reps))
	}
	b.Settle(l)
	if l.usual = !amount; l.usual {
		l.Quantity = DefaultAmount(l.Kind)
		if l.Setting == boards {
			l.Quantity = Quantity{Measure: RepsInAll, Reps: 1}
		}
	}
	if p := l.Requirement.Check(); len(p) > 0 {
		l.fail(1, p[0].Field+" "+p[0].Text)
	}
}

// bothNoted is a remark that speaks of both sides.
var bothNoted = regexp.MustCompile(`(?i)\b(r|right) ?(?:&|/|\+|and) ?(l|left)\b|\b(l|left) ?(?:&|/|\+|and|then) ?(r|right)\b|\bboth (sides|legs|hands|arms|feet)\b`)

// basic are the kinds whose techniques are called by their last word.
var basic = []Kind{"strike", "kick", "block", "stance"}

// ask notes what is doubtful about a line that makes something new.
func (b *Book) ask(l *PageLine) {
	if l.Problem != "" || l.Plain {
		return
	}
	b.variant(l)
	words := strings.Fields(l.Name)
	if l.usual && l.Moves == "" && l.Said == "" && mayBeHeading(l.Name) || l.usual && len(words) == 1 && l.Note == "" && strings.HasSuffix(l.Name, "s") && slices.Contains([]Kind{"strike", "kick", "block", "stance", "evasion"}, l.Kind) && kindInWords(l.Name) == "" {
		l.doubt(fmt.Sprintf("%s is read as a technique; if it is a heading, write one of the program’s sections for it", l.Name))
	}
	if t := b.nearest(l.Name); t != nil {
		l.doubt(fmt.Sprintf("%s is nearly %s, which is known; write that name if it is meant", l.Name, t.Name))
	}
	for n := len(words) - 1; n > 0; n-- {
		if t := b.Named(strings.Join(words[:n], " ")); t != nil && connecting.MatchString(strings.Join(words[n:], " ")) {
			l.doubt(fmt.Sprintf("%s begins as %s does, which is known; put a comma behind its name if it is meant", l.Name, t.Name))
		}
	}
	if is := kindInWords(words[len(words)-1]); l.Said == "" && UsualKind(l.under.section) == l.Kind && slices.Contains(basic, is) && slices.Contains(basic, l.Kind) && is != l.Kind {
		l.doubt(fmt.Sprintf("%s stands under %s and is called a %s; write “%s” on the line, or a heading above it", l.Name, l.Section, is.Words(), is.Words()))
	}
	if l.Kind == "self_defence" && attackInWords.MatchString(l.Name) && l.Note != "" && unicode.IsUpper([]rune(l.Note)[0]) && l.Moves == "" {
		l.doubt(fmt.Sprintf("%s is read as the name and “%s” as a remark; where it is the attack, write the name first", l.Name, l.Note))
	}
	if is := kindInWords(l.Name); l.Said == "" && !l.usual && is != "" && is != l.Kind && slices.Contains([]Kind{"knowledge", "courtesy", "character"}, l.Kind) {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like a %s; write “%s” on the line, or a heading above it", l.Name, l.Section, is.Words(), is.Words()))
	}
	if severals.MatchString(l.Name) {
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	}
	if strings.Contains(strings.ToLower(l.Name), "choice") && !l.Free {
		l.doubt("where the candidate chooses, write the name of what is chosen from and “free choice”")
	}
	if l.Series == "" && len(l.Doubts) == 0 && strings.ContainsFunc(l.Name, unicode.IsDigit) {
		l.doubt(fmt.Sprintf("the name %s holds a number; where that is an amount, put a comma before it", l.Name))
	}
}

// alike is the technique whose name differs by hyphens and spaces alone; nil where there is
// none or several are.
func (b *Book) alike(name string) (out *Technique) {
	plain := func(s string) string { return strings.NewReplacer("-", "", " ", "").Replace(check.Key(s)) }
	key := plain(name)
	for i := range b.Techniques {
		if plain(b.Techniques[i].Name) == key {
			if out != nil {
				return nil
			}
			out = &b.Techniques[i]
		}
	}
	return out
}

// sparringKind is the kind that a line's heading gives it.
func (b *Book) sparringKind(l *PageLine) Kind { return cmp.Or(l.under.kind, b.kindIn(l.Section)) }

// roundsAlone reads an amount alone under Sparring, which is its round: "2 x 90 secs, light
// contact".
func (b *Book) roundsAlone(l *PageLine, line []rune) bool {
	text := strings.TrimSpace(string(line))
	text = text[listed(text):]
	before, rest := text, ""
	if at := strings.IndexAny(text, "(;"); at >= 0 {
		before, rest = text[:at], text[at:]
	}
	words := strings.Fields(before)
	for n := len(words); n > 0; n-- {
		q, err := ParseQuantity(strings.TrimRight(strings.Join(words[:n], " "), ",-–—"))
		if err != nil || q.Measure != RoundsTimed && q.Measure != Timed {
			continue
		}
		l.Name, l.Quantity, l.Role, l.Weight = "Sparring", q, Roles[0], 1
		parts := b.behind(l, []rune(", "+strings.TrimLeft(strings.Join(words[n:], " "), ",-–— ")+rest), 0)
		if l.Problem == "" {
			b.lineParts(l, parts, 1)
		}
		b.finish(l, true)
		return true
	}
	return false
}

// mixed are headings under which things of several kinds stand.
var mixed = []string{"basic", "fundamental", "stretche", "stretching", "warm up", "technique", "hand", "feet", "requirement", "material", "other", "general", "extra", "drill"}

// mayBeHeading reports whether a line that says a name alone looks like a heading: in capitals,
// or by its word.
func mayBeHeading(name string) bool {
	letters := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) {
			return r
		}
		return -1
	}, name)
	capitals := utf8.RuneCountInString(letters) > 3 && letters == strings.ToUpper(letters) && letters != strings.ToLower(letters)
	return capitals || slices.Contains(mixed, sectionKey(name))
}

func (l *PageLine) doubt(reason string) {
	l.Doubts = append(l.Doubts, notation.Doubt{Column: 1, Reason: reason})
}

var (
	listSign   = regexp.MustCompile(`^\s*(?:(?:[-–—*•·▪]|#+|\d{1,3}[.)])\s+)?`)
	listNumber = regexp.MustCompile(`^\s*\d{1,3}[.)] `)
	listNear   = regexp.MustCompile(`^\s*(?:[-–—*•·▪]|\d{1,3}[.)])\p{L}`)
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

// partSigns end a name and part what follows it; a tab or semicolon does as a comma does.
const partSigns = ",;\t"

// nameIn is where in a line the name stands. A known name may hold any sign; others end at a
// comma, a remark or a colon.
func (b *Book) nameIn(line []rune) (from, to int) {
	text := string(line)
	first := utf8.RuneCountInString(text[:listed(text)])
	ends := func(i int) bool {
		return i == len(line) || strings.ContainsRune(partSigns+"(", line[i]) || colon(line, i) || dash(line, i)
	}
	for _, from := range []int{0, first} {
		for to := min(len(line), from+2*check.NameLength); to > from; to-- {
			if ends(to) && b.Named(string(line[from:to])) != nil {
				return from, to
			}
		}
	}
	for to = first; !ends(to); to++ {
	}
	return first, to
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
func (b *Book) behind(l *PageLine, line []rune, from int) string {
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
		case strings.ContainsRune(partSigns, rest[i]), rest[i] != ' ' && dash(line, from+i):
			rest[i] = ','
		case colon(rest, i):
			first, _, _ := strings.Cut(string(rest[i+1:]), ",")
			first, _, _ = strings.Cut(first, "(")
			if _, err := ParseQuantity(first); err == nil && !(bare(first) && b.calls()) { // Cross: 10 each hand
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

// remark takes what stands in parentheses: words that say something of the line, as they would
// behind a comma, and else a remark. In double parentheses all of it is a remark.
func (b *Book) remark(l *PageLine, said string) {
	if strings.HasPrefix(said, "(") && strings.HasSuffix(said, ")") {
		l.note(said[1 : len(said)-1])
		return
	}
	for _, part := range SplitParts(said) {
		if part = check.Tidy(part); part != "" && !b.keyword(l, part) {
			l.note(part)
		}
	}
}

// keyword reads a part that says something of a line and could be nothing else.
func (b *Book) keyword(l *PageLine, part string) bool {
	if KindNamed(part) != "" || strings.HasPrefix(check.Key(part), "term ") || strings.HasPrefix(check.Key(part), "entry ") {
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
func (b *Book) readsOtherwise(note string) bool {
	var l PageLine
	b.remark(&l, note)
	first, _, _ := strings.Cut(note, ",")
	_, err := ParseQuantity(first)
	return l.Note != note || err == nil && !bare(first)
}

func (l *PageLine) note(said string) { l.Note = strings.TrimPrefix(l.Note+", "+said, ", ") }

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

// calls reports whether a technique of the program has a call number.
func (b *Book) calls() bool {
	return slices.ContainsFunc(b.Techniques, func(t Technique) bool { return t.Call > 0 })
}

// lineParts reads the parts behind a name. column is where they begin, from 1. amount is false
// where no amount is among them.
func (b *Book) lineParts(l *PageLine, rest string, column int) (amount bool) {
	parts := strings.Split(rest, ",")
	for i := 0; i < len(parts); i++ {
		part := parts[i]
		word := check.Tidy(part)
		lead := utf8.RuneCountInString(part) - utf8.RuneCountInString(strings.TrimLeft(part, " \t"))
		// "2 x 60 s, 30 s rest" is one amount with a comma in it, also what a track does instead.
		if i+1 < len(parts) && restPattern.MatchString(check.Key(parts[i+1])) {
			whole := word + ", " + check.Tidy(parts[i+1])
			q, err := ParseQuantity(whole)
			if err == nil {
				l.Quantity, amount = q, true
			}
			if err == nil || b.ReadPart(l, whole) == "" {
				column += utf8.RuneCountInString(part) + 1 + utf8.RuneCountInString(parts[i+1]) + 1
				i++
				continue
			}
		}
		if word != "" {
			if q, err := ParseQuantity(word); err == nil {
				if amount {
					l.doubt(fmt.Sprintf("there are two amounts, %s and %s; the last one is taken", l.Quantity, q))
				}
				l.Quantity, amount = q, true
			} else if problem := b.ReadPart(l, word); problem != "" {
				// The name of a rung or a group may hold a comma.
				if i+1 < len(parts) && b.ReadPart(l, word+", "+check.Tidy(parts[i+1])) == "" {
					column += utf8.RuneCountInString(part) + 1 + utf8.RuneCountInString(parts[i+1]) + 1
					i++
					continue
				}
				if strict(word) {
					l.fail(column+lead, problem)
					return false
				}
				b.loose(l, word)
			}
		}
		column += utf8.RuneCountInString(part) + 1
	}
	return amount
}

// bare reports whether an amount is only a number, which behind a name may be its number in a
// series.
func bare(amount string) bool {
	return !strings.ContainsFunc(check.Tidy(amount), func(r rune) bool { return !unicode.IsDigit(r) })
}

// strictParts are words that begin a part which is no remark: what follows them is wrong.
var strictParts = regexp.MustCompile(`(?i)^(weight|marks|sprint|level|stage|entry) `)

// strict reports whether a part is meant for something and says it wrongly.
func strict(part string) bool {
	return strictParts.MatchString(part) || setsPattern.MatchString(strings.ToLower(part)) || eachSide.MatchString(strings.ToLower(part))
}

// nearlySaid are parts that begin as ones that are understood.
var nearlySaid = regexp.MustCompile(`^(?i:not for|until|from|as|weight|marks|always|stage|level|entry|sprint)\b|^(?:\S+ )?for \p{Lu}|\d.* for \p{Lu}`)

// loose takes a part that is neither amount nor keyword as a remark. One that holds a figure or
// speaks of each side may be an amount and is asked about.
func (b *Book) loose(l *PageLine, part string) {
	words := strings.Fields(part)
	if i, j := amountAt(words); i < j && j < len(words) && i == 0 && !notAlike.MatchString(strings.Join(words[j:], " ")) {
		if q, err := ParseQuantity(strings.Join(words[:j], " ")); err == nil && l.Quantity.Measure == "" {
			l.Quantity = q
			part = strings.Join(words[j:], " ")
		}
	}
	l.note(part)
	if nearlySaid.MatchString(part) {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; it begins as what this program understands, such as until a rung, from a group, not for a track", part))
	} else if strings.ContainsFunc(part, unicode.IsDigit) || notAlike.MatchString(part) {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is the amount, write for example 5 a side, 10 or 60 s", part))
	}
}

// inName takes out of a new name what stands in it without a comma: "Front kick 10 each leg",
// "Front kick on pads", "10 front kicks", "ready stance 10 secs still".
func (b *Book) inName(l *PageLine, have bool) (amount bool) {
	for _, part := range []string{" must pass", " must", " bonus", " optional", " compulsory", " mandatory"} {
		if name, found := strings.CutSuffix(l.Name, part); found {
			b.ReadPart(l, strings.TrimSpace(part))
			l.Name = name
			if b.Named(name) != nil {
				return false
			}
		}
	}
	words := strings.Fields(l.Name)
	if m := setsIn(words); m != "" && !have {
		_, err := ParseQuantity(m)
		l.fail(1, err.Error())
		return false
	}
	i, j := amountAt(words)
	if have {
		i, j = 0, 0
	}
	if !have && unicode.IsDigit([]rune(l.Name)[0]) && i > 0 && b.aroundOf(l, words, false) { // 50 sit-ups in 2 mins
		return l.Problem == ""
	}
	switch {
	case i < j && i > 0:
		before := words[:i]
		if last := before[len(before)-1]; len(before) > 1 && (last == "x" || last == "×") {
			before = before[:len(before)-1]
		}
		l.Quantity, _ = ParseQuantity(strings.TrimRight(strings.Join(words[i:j], " "), ".,;"))
		l.Name = strings.Join(before, " ")
		b.tail(l)
		if after := strings.Join(words[j:], " "); after != "" && !b.keyword(l, after) {
			b.loose(l, after)
		}
		return true
	case i < j && j < len(words) && !have:
		l.Quantity, _ = ParseQuantity(strings.Join(words[i:j], " "))
		l.Name = b.single(strings.Join(words[j:], " "))
		return true
	}
	if !have && unicode.IsDigit([]rune(l.Name)[0]) && b.around(l, words) {
		return l.Problem == ""
	}
	b.tail(l)
	return false
}

// setsIn is sets times reps that stand in words; "" none.
func setsIn(words []string) string {
	for i := range words {
		if !beginsAmount(words[i]) {
			continue
		}
		for j := i + 1; j <= min(len(words), i+4); j++ {
			said := strings.ToLower(strings.Join(words[i:j], " "))
			if _, err := ParseQuantity(said); err != nil && setsPattern.MatchString(said) && !(j < len(words) && (secondsWord.MatchString(words[j]) || strings.EqualFold(words[j], "times"))) {
				return said
			}
		}
	}
	return ""
}

var secondsWord = regexp.MustCompile(`(?i)^(s|secs?|seconds?|m|mins?|minutes?|rounds?)(?:[.,/].*)?$`)

// single is a name as it stands before an amount: of a known one in the plural the singular,
// else with a capital.
func (b *Book) single(name string) string {
	if one := strings.TrimRight(name, "sS"); b.Named(name) == nil && b.Named(one) != nil {
		return one
	}
	r, size := utf8.DecodeRuneInString(name)
	return string(unicode.ToUpper(r)) + name[size:]
}

// around reads an amount that stands around a name, or before it: "10 front kicks each leg".
func (b *Book) around(l *PageLine, words []string) bool {
	return b.aroundOf(l, words, false) || b.aroundOf(l, words, true)
}

func (b *Book) aroundOf(l *PageLine, words []string, number bool) bool {
	for end := len(words); end > 1; end-- { // words behind are a remark
		for i := end - 1; i > 0; i-- {
			for j := i + 1; j <= end; j++ {
				if end < len(words) && j == end {
					continue
				}
				said := strings.Join(append(slices.Clone(words[:i]), words[j:end]...), " ")
				if bare(said) == number && l.take(said, b.single(strings.Join(words[i:j], " "))) {
					if end < len(words) {
						b.loose(l, strings.Join(words[end:], " "))
					}
					return true
				}
			}
		}
	}
	return false
}

// tail takes words out of the end of a name: behind a known one, or that say how a line is shown.
func (b *Book) tail(l *PageLine) {
	words := strings.Fields(l.Name)
	for n := len(words) - 1; n > 0; n-- {
		name, rest := strings.Join(words[:n], " "), strings.Join(words[n:], " ")
		known := b.Named(name) != nil
		switch {
		case known && ofPart.MatchString(rest):
			l.note(rest)
		case len(words)-n > 1 && !setting(rest) && !boardsPart.MatchString(strings.ToLower(rest)) && !(known && b.reads(rest)):
			continue
		case len(words)-n == 1 && !(known && b.reads(rest)):
			continue
		default:
			b.keyword(l, rest)
		}
		l.Name = name
		return
	}
	for n := len(words) - 1; n > 1 && l.Quantity.Measure != ""; n-- { // a known name and a remark, an amount behind both
		rest := strings.Join(words[n:], " ")
		if b.Named(strings.Join(words[:n], " ")) != nil && !connecting.MatchString(rest) {
			l.Name = strings.Join(words[:n], " ")
			l.note(rest)
			return
		}
	}
}

func setting(words string) bool {
	for _, said := range settingWords {
		if check.Key(words) == said {
			return true
		}
	}
	return false
}

func (b *Book) reads(part string) bool { var l PageLine; return b.keyword(&l, part) }

// take reads an amount that stands around a name.
func (l *PageLine) take(amount, name string) bool {
	q, err := ParseQuantity(amount)
	if err != nil || bare(amount) && q.Reps > 100 || !unicode.IsLetter([]rune(name)[0]) || strings.EqualFold(name, "x") || name == "×" {
		return false
	}
	if bare(amount) {
		l.doubt(fmt.Sprintf("%s is read as the amount, %s in all; write %s a side behind the name for each side, or “not a number” where it belongs to the name", amount, amount, amount))
	}
	l.Name, l.Quantity = strings.TrimSuffix(strings.TrimSuffix(name, " x"), " ×"), q
	return true
}

// restPattern is the second half of rounds with a rest, of everybody or for a track.
var restPattern = regexp.MustCompile(`^\d[\d:]* ?\w* rest( for .+)?$`)

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

// Settle finds the technique a line names and the section it goes to; what is wrong is the
// line's problem.
func (b *Book) Settle(l *PageLine) {
	t := b.Named(l.Name)
	switch {
	case t != nil:
		l.TechniqueID, l.Kind, l.Name = t.ID, t.Kind, t.Name
		if l.Term != "" && t.Term != "" && check.Key(l.Term) != check.Key(t.Term) {
			l.fail(1, fmt.Sprintf("%s is known by the term %s; change it on its page", t.Name, t.Term))
		}
		if l.Sides != "" && t.Sides != "" && l.Sides != t.Sides {
			l.fail(1, fmt.Sprintf("%s is known as trained on %s; change it on its page", t.Name, t.Sides.Words()))
		}
		if l.Said != "" && l.Said != t.Kind {
			l.fail(1, fmt.Sprintf("%s is known as a %s; change it on its page", t.Name, t.Kind.Words()))
		}
		if l.Moves != "" && l.Moves != lineOf(t.StepsAt(len(t.Stages))) {
			l.fail(1, fmt.Sprintf("%s is known, with moves of its own; change them on its page", t.Name))
		}
		l.Moves = ""
	case l.Section == "" && !l.under.mixed:
		l.New = true
		l.fail(1, fmt.Sprintf("%q is new, so its section is not known; write a heading such as Kicks above it", l.Name))
	default:
		l.New = true
		if l.Kind = cmp.Or(l.Said, l.under.kind, b.kindIn(l.Section)); l.Kind == "" {
			l.Kind = cmp.Or(kindInWords(l.Name), l.under.first)
		}
		if l.Kind == "" && l.Section == "" {
			l.kindless = l.Problem == ""
			l.fail(1, fmt.Sprintf("nothing says of which kind %s is; write it on the line, for example %s, kick", l.Name, l.Name))
		} else if l.Kind == "" {
			l.kindless = l.Problem == ""
			l.fail(1, fmt.Sprintf("the section %s does not say of which kind %s is; write it on the line, for example %s, kick, or give the section a kind on the program’s page", l.Section, l.Name, l.Name))
		}
		if series, number, known, numbered := b.Numbers(l.Name); numbered && !l.Plain {
			l.Series, l.Place, l.Asked = series, number, !known
		}
	}
	for _, s := range b.Sections {
		if l.Section != "" && check.Key(s.Name) == check.Key(l.Section) {
			l.SectionID, l.Section = s.ID, s.Name
		}
	}
	if s := SectionFor(b.Sections, l.Kind); l.Section == "" && s != nil {
		l.SectionID, l.Section = s.ID, s.Name
	}
	if l.SectionID == "" {
		l.fail(1, "this program has no section for it; write a heading with one of its sections above it")
	}
}

// kindIn is the kind of a section by its name; "" where it has none.
func (b *Book) kindIn(section string) Kind {
	for _, s := range b.Sections {
		if check.Key(s.Name) == check.Key(section) {
			return s.Kind
		}
	}
	return ""
}

// SectionFor is the section in which a technique of a kind stands where nothing else is said:
// one of its kind, else of the kind's home; nil where there is none.
func SectionFor(sections []Section, k Kind) *Section {
	for _, kind := range []Kind{k, k.Home()} {
		for i := range sections {
			if sections[i].Kind == kind && k != "" {
				return &sections[i]
			}
		}
	}
	return nil
}

// ReadPart reads one part of a line that is no amount, such as "must" or "until Blue belt",
// and returns what is wrong with it; "" nothing.
func (b *Book) ReadPart(l *PageLine, word string) string {
	key := check.Key(word)
	first, rest, _ := strings.Cut(key, " ")
	_, said, _ := strings.Cut(word, " ") // the rest as it was typed
	if what, name, found := strings.Cut(key, " for "); found {
		return b.readTrack(l, what, name)
	}
	switch {
	case slices.Contains([]string{"must", "must pass", "must-pass", "mandatory", "compulsory", "required", "essential"}, key):
		l.MustPass = true
	case key == "bonus" || key == "optional" || key == "extra":
		l.Bonus = true
	case boardsPart.MatchString(key):
		l.Setting = boards
		if n := boardsPart.FindStringSubmatch(key)[1]; n != "1" && n != "one" && n != "a" {
			l.note(word)
		}
	case trackOnly(b, l, key):
	case key == "always":
		l.Carry = Carry{Kind: Always}
	case key == "again" || key == "show again":
		l.ShowAgain = true
	case key == "free choice":
		l.Free = true
	case key == "slowly" || key == "slow":
		l.Slow = true
	case key == "non-stop":
		l.NonStop = true
	case key == "supported" || key == "support allowed":
		l.Supported = true
	case key == "by phases":
		l.Phases = true
	case first == "term" && rest != "":
		l.Term = check.Tidy(said)
	case KindNamed(word) != "":
		l.Said = KindNamed(word)
	case key == "not a number":
		l.Plain = true
	case sidesOnly[key] != "":
		l.Sides = sidesOnly[key]
	case first == "sprint":
		return readSprint(l, rest)
	case first == "entry" && rest != "":
		l.Entries = append(l.Entries, check.Tidy(said))
	case voiceOf(key) != "":
		l.Voice = voiceOf(key)
	case key == "covers settings":
		l.Covers = true
	case first == "as" && slices.Contains(Roles, Role(rest)):
		l.Role = Role(rest)
	case first == "level" && (rest == "low" || rest == "mid" || rest == "high"):
		l.LeastLevel = notation.Level(rest)
	case first == "marks":
		return readMarks(l, rest)
	case first == "weight" || first == "stage":
		n, err := strconv.Atoi(rest)
		if err != nil || n < 1 || n > 100 {
			return fmt.Sprintf("after %s stands a whole number from 1 to 100", first)
		}
		if first == "weight" {
			l.Weight = n
		} else {
			l.StageCap = n
		}
	case first == "until":
		for _, r := range b.Rungs {
			if check.Key(r.Name) == rest || check.Key(r.Short()) == rest {
				l.Carry = Carry{Kind: Until, Rung: r.ID}
				return ""
			}
		}
		return fmt.Sprintf("%q is no rung of this ladder", said)
	case first == "from":
		for _, g := range b.Program.Groups {
			if check.Key(g.Name) == rest {
				l.Carry = Carry{Kind: Sample, Group: g.ID}
				return ""
			}
		}
		return fmt.Sprintf("%q is no sample group of this program", said)
	default:
		for s, words := range settingWords {
			if key == words {
				l.Setting = s
				return ""
			}
		}
		if setsPattern.MatchString(key) {
			_, err := ParseQuantity(word)
			return err.Error()
		}
		return fmt.Sprintf("%q is not understood; after the name stand an amount such as 5 a side, must, bonus, weight 2, as attacker, on pads, always, until a rung …", word)
	}
	return ""
}

var boardsPart = regexp.MustCompile(`^(a|\d{1,2}|one|two|three|four|five) boards?$`)

// trackOnly reads "Cubs only" and "Cubs: not needed", in the words of a part.
func trackOnly(b *Book, l *PageLine, key string) bool {
	name, only := strings.CutSuffix(key, " only")
	not := false
	if !only {
		for _, end := range []string{" not needed", " exempt", " excused"} {
			if cut, found := strings.CutSuffix(key, end); found {
				name, not = strings.TrimRight(cut, ":"), true
			}
		}
	}
	at := slices.IndexFunc(b.Program.Tracks, func(t Track) bool { return check.Key(t.Name) == name })
	if at < 0 || !only && !not {
		return false
	}
	for i, t := range b.Program.Tracks {
		if (i == at) == not {
			b.readTrack(l, "not", check.Key(t.Name))
		}
	}
	return true
}

// sidesOnly are the words that say on which side alone a technique is trained.
var sidesOnly = map[string]SidePolicy{"lead only": LeadSide, "rear only": RearSide, "left only": LeftOnly, "right only": RightOnly, "no sides": NoSide, "both sides": BothSides}

// readSprint reads when the closing sprint is called: "sprint 15 s", "sprint last 15 s".
func readSprint(l *PageLine, rest string) string {
	q, err := ParseQuantity(strings.TrimPrefix(strings.TrimPrefix(rest, "the "), "last "))
	if err != nil || q.Measure != Timed && q.Measure != RepsInAll {
		return "after sprint stand the seconds before the end, for example sprint 15 s"
	}
	l.Sprint = max(q.Seconds, q.Reps)
	return ""
}

// voiceOf is the voice that words mean; "" none.
func voiceOf(words string) Voice {
	for _, v := range Voices {
		if words == v.Words() {
			return v
		}
	}
	return ""
}

// readMarks reads a fitness table: "marks 18=2 26=3", the least count and its mark.
func readMarks(l *PageLine, rest string) string {
	l.Table = nil
	if rest == "" {
		return "after marks stand counts with their marks, for example marks 18=2 26=3"
	}
	for _, row := range strings.Fields(rest) {
		count, mark, found := strings.Cut(row, "=")
		n, err := strconv.Atoi(count)
		m, wrong := scoring.ParseDecimal(mark)
		if !found || err != nil || wrong != nil {
			return fmt.Sprintf("%q is not understood; after marks stand counts with their marks, for example marks 18=2 26=3", row)
		}
		l.Table = append(l.Table, TableMark{n, m})
	}
	return ""
}

// readTrack reads what one track changes: "not for Cubs", "bonus for Cubs", "3 a side for
// Cubs", "level low for Cubs", "stage 1 for Cubs".
func (b *Book) readTrack(l *PageLine, what, name string) string {
	track := slices.IndexFunc(b.Program.Tracks, func(t Track) bool { return check.Key(t.Name) == name })
	if track < 0 {
		return fmt.Sprintf("%q is no track of this program", name)
	}
	id := b.Program.Tracks[track].ID
	at := slices.IndexFunc(l.Tracks, func(c TrackChange) bool { return c.TrackID == id })
	if at < 0 {
		at = len(l.Tracks)
		l.Tracks = append(l.Tracks, TrackChange{TrackID: id})
	}
	c := &l.Tracks[at]
	first, rest, _ := strings.Cut(what, " ")
	n, err := strconv.Atoi(rest)
	switch {
	case what == "not":
		c.LeaveOut = true
	case what == "bonus":
		c.Bonus = true
	case first == "stage" && err == nil && n > 0 && n <= maxStages:
		c.StageCap = n
	case first == "level" && (rest == "low" || rest == "mid" || rest == "high"):
		c.Level = notation.Level(rest)
	default:
		q, err := ParseQuantity(what)
		if err != nil {
			return fmt.Sprintf("%q is not understood; before “for %s” stands not, bonus, an amount, level low or stage 1", what, b.Program.Tracks[track].Name)
		}
		c.Quantity = &q
	}
	return ""
}
