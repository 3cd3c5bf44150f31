package binder

import (
	"cmp"
	"fmt"
	"math/bits"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// far are units of what no amount counts: 5 km run, 2 pages.
var far = pattern.Of(`^(?i)(?:kms?|k|miles?|metres?|meters?|m|yards?|laps?|lengths?|pages?|hours?|hrs?|days?|weeks?|months?)$`)

// inName takes out of a new name what stands in it without a comma: "Front kick 10 each leg",
// "Front kick on pads", "10 front kicks", "ready stance 10 secs still".
func (b *Reader) inName(l *PageLine, have bool) (amount bool) {
	if b.mustBehind(l) {
		return false
	}
	if !have && b.timesOn(l) {
		return true
	}
	words := strings.Fields(l.Name)
	if soManyWays.MatchString(l.Name) {
		return false
	}
	if curriculum.KindInWords(l.Name) == "partner_set" && unicode.IsDigit([]rune(l.Name)[0]) && !curriculum.IsAmount(strings.Join(words[:min(2, len(words))], " ")) { // 3 step sparring
		return false
	}
	if m := setsIn(words); m != "" && !have {
		if b.sets(l, m) {
			return true
		}
		_, err := curriculum.ParseQuantity(m)
		l.fail(1, err.Error())
		return false
	}
	i, j := amountAt(words)
	if have {
		i, j = 0, 0
	}
	if !have && unicode.IsDigit([]rune(l.Name)[0]) && i > 0 && !far.MatchString(words[1]) && b.aroundOf(l, words, false) { // 50 sit-ups in 2 mins
		return l.Problem == ""
	}
	if told := slices.Contains(curriculum.SaidKinds, b.sparringKind(l)); told && i > 0 && j < len(words) { // lead a 10 min warm-up
		return false
	}
	switch {
	case i < j && i > 0:
		before := words[:i]
		if last := before[len(before)-1]; len(before) > 1 && (last == "x" || last == "×") {
			before = before[:len(before)-1]
		}
		l.Quantity, _ = curriculum.ParseQuantity(strings.TrimRight(strings.Join(words[i:j], " "), ".,;"))
		l.Name = strings.Join(before, " ")
		b.tail(l)
		if after := strings.Join(words[j:], " "); after != "" && !b.keyword(l, after) {
			b.loose(l, after)
		}
		return true
	case i < j && j < len(words) && !have:
		l.Quantity, _ = curriculum.ParseQuantity(strings.Join(words[i:j], " "))
		l.Name = b.single(strings.TrimPrefix(strings.Join(words[j:], " "), "of "))
		return true
	}
	if !have && unicode.IsDigit([]rune(l.Name)[0]) && !(len(words) > 1 && far.MatchString(words[1])) && b.around(l, words) {
		b.tail(l)
		return l.Problem == ""
	}
	b.tail(l)
	return false
}

// countOn is how often and on what: 20 on the pads.
var countOn = pattern.Of(`(?i)^(?:(.*[\pL)]) )?(\d{1,3}) (?:times |x |reps )?((?:on|against) .+)$`)

// mustBehind takes whether a name must be passed out of its end; it reports whether what is before is known.
func (b *Reader) mustBehind(l *PageLine) bool {
	for _, part := range []string{" must pass", " must", " bonus", " optional", " compulsory", " obligatory", " mandatory"} {
		if name, found := strings.CutSuffix(l.Name, part); found {
			b.ReadPart(l, strings.TrimSpace(part))
			l.Name = name
			if b.Named(name) != nil {
				return true
			}
		}
	}
	return false
}

// timesOn takes how often and on what out of the end of a name: jab 20 on the pads. It reports whether they stood there.
func (b *Reader) timesOn(l *PageLine) bool {
	m := countOn.FindStringSubmatch(l.Name)
	if m == nil || m[1] == "" || b.Named(l.Name) != nil || l.Setting != "" {
		return false
	}
	on := settingSaid(check.Key(m[3]))
	if on != "" {
		l.Name, l.Quantity, l.Setting = m[1], curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: curriculum.Figure(m[2])}, on
		b.tail(l)
	}
	return on != ""
}

// soManyWays is how many of what is not named: 3 techniques against punches.
var soManyWays = pattern.Of(`(?i)^(?:\d{1,2}|two|three|four|five|six|ten) (?:\pL+ )?(?:techniques?|defen[cs]es?|escapes?|releases?|answers?|ways|counters?|responses?) (?:against|from|to|for|of|vs\.?) `)

// sets takes sets times reps in a name, or as a part alone, as the reps in all and a remark, where the words say sets or it is an exercise; where
// sparring is, as rounds of minutes. It reports whether it was so.
func (b *Reader) sets(l *PageLine, said string) bool {
	m, kind := curriculum.SetsAndReps.FindStringSubmatch(said), b.sparringKind(l)
	if m == nil || l.Quantity.Measure != "" || restOff.MatchString(l.Text) {
		return false
	}
	before, after, within := strings.Cut(strings.ToLower(l.Name), said)
	if !within {
		before, after = l.Name, ""
	}
	before, after = strings.TrimRight(l.Name[:min(len(before), len(l.Name))], " ,:-–—"), strings.TrimSpace(after)
	amount := strconv.Itoa(curriculum.Figure(m[1]) * curriculum.Figure(m[2]))
	switch inSets := strings.Contains(said, "set"); {
	case kind == "sparring" && !inSets && curriculum.Figure(m[1]) <= mostRounds && curriculum.Figure(m[2]) <= longestRound:
		amount = m[1] + " x " + m[2] + " min"
	case !inSets && kind != "fitness" && b.KindInName(before) != "fitness":
		return false
	case after != "" && curriculum.IsAmount(amount+" "+after): // each side
		amount, after = amount+" "+after, ""
		fallthrough
	default:
		l.note(said)
	}
	q, err := curriculum.ParseQuantity(amount)
	if err != nil {
		return false
	}
	if before == "" && kind != "sparring" { // 2 sets of 20 squats
		before, after = capitalised(after), ""
	}
	l.Quantity, l.Name = q, cmp.Or(before, l.Section)
	if after != "" {
		b.loose(l, after)
	}
	return true
}

// restOff is a rest by another word: 5 x 2, 1 off.
var restOff = pattern.Of(`(?i)\d ?(?:mins?|minutes?)? off\b`)

// mostRounds and longestRound, in minutes, are what a bout usually has at most.
const mostRounds, longestRound = 12, 5

// setsIn is sets times reps that stand in words; "" none.
func setsIn(words []string) string {
	for i := range words {
		if !beginsAmount(words[i]) {
			continue
		}
		for j := i + 1; j <= min(len(words), i+4); j++ {
			said := strings.ToLower(strings.Join(words[i:j], " "))
			if _, err := curriculum.ParseQuantity(said); err != nil && curriculum.SetsAndReps.MatchString(said) && !(j < len(words) && (secondsWord.MatchString(words[j]) || strings.EqualFold(words[j], "times"))) {
				return said
			}
		}
	}
	return ""
}

var secondsWord = pattern.Of(`(?i)^(s|secs?|seconds?|m|mins?|minutes?|rounds?)(?:[.,/].*)?$`)

// single is a name as it stands before an amount: of a known one in the plural the singular,
// else with a capital.
func (b *Reader) single(name string) string {
	if one := strings.TrimRight(name, "sS"); b.Named(name) == nil && b.Named(one) != nil {
		return one
	}
	if one := strings.TrimSuffix(name, "es"); b.Named(name) == nil && b.Named(one) != nil {
		return one
	}
	if m := doneHow.FindStringSubmatch(name); m != nil { // straight punches in forward stance
		name = oneOfMany.ReplaceAllString(m[1], "$1") + m[2]
	}
	name = oneOfMany.ReplaceAllString(name, "$1")
	r, size := utf8.DecodeRuneInString(name)
	return string(unicode.ToUpper(r)) + name[size:]
}

// doneHow is a name and how or where that is done.
var doneHow = pattern.Of(`(?i)^(.+?)( (?:in|on|from|with|to|off|while|against|at) .+)$`)

// oneOfMany is the plural of what is struck, kicked or blocked with at the end of a name.
var oneOfMany = pattern.Of(`(?i)\b(kick|punch|strike|block|fist|elbow|hook|jab|cross|uppercut|throw)(?:e?s)$`)

// around reads an amount that stands around a name, or before it: "10 front kicks each leg".
func (b *Reader) around(l *PageLine, words []string) bool {
	told := slices.Contains(curriculum.SaidKinds, b.sparringKind(l)) // 5 tenets
	return b.knownBehind(l, words) || b.aroundOf(l, words, false) || !told && b.aroundOf(l, words, true)
}

// knownBehind reads a number and what is known in the plural: "10 palm strikes on the pad".
func (b *Reader) knownBehind(l *PageLine, words []string) bool {
	if !curriculum.Bare(words[0]) {
		return false
	}
	for end := len(words); end > 1; end-- {
		plural := strings.Join(words[1:end], " ")
		if one := b.single(plural); b.Named(plural) == nil && b.Named(one) != nil {
			q, err := curriculum.ParseQuantity(words[0])
			if rest := strings.Join(words[end:], " "); err == nil && !eachWord.MatchString(rest) && b.amountIn(words[0]+" "+rest) == "" {
				l.Name, l.Quantity = one, q
				if rest != "" && !b.keyword(l, rest) {
					b.loose(l, rest)
				}
				return true
			}
		}
	}
	return false
}

func (b *Reader) aroundOf(l *PageLine, words []string, number bool) bool {
	for end := len(words); end > 1; end-- { // words behind are a remark
		for i := end - 1; i > 0; i-- {
			for j := i + 1; j <= end; j++ {
				if end < len(words) && j == end {
					continue
				}
				said := strings.Join(append(slices.Clone(words[:i]), words[j:end]...), " ")
				if curriculum.Bare(said) == number && l.take(said, b.sparringKind(l) == "fitness", b.single(strings.Join(words[i:j], " "))) {
					if rest := strings.Join(words[end:], " "); rest != "" && !b.keyword(l, rest) {
						b.loose(l, rest)
					}
					return true
				}
			}
		}
	}
	return false
}

// tail takes words out of the end of a name: behind a known one, or that say how a line is shown.
func (b *Reader) tail(l *PageLine) {
	if b.atLevel(l); b.Named(l.Name) != nil {
		return
	}
	words := strings.Fields(l.Name)
	for n := len(words) - 1; n > 0; n-- {
		name, rest := strings.Join(words[:n], " "), strings.Join(words[n:], " ")
		known := b.Named(name) != nil
		switch {
		case rangeAlone.MatchString(rest): // One step 1 to 5
			return
		case known && strings.ContainsAny(rest[:1], "/&+"): // two in one
			return
		case known && (ofPart.MatchString(rest) || toPart.MatchString(rest) || b.saysFrom(name, rest)):
			l.note(rest)
		case len(words)-n > 1 && !setting(rest) && !boardsPart.MatchString(strings.ToLower(rest)) && !(known && b.reads(rest)):
			continue
		case len(words)-n == 1 && !(known && b.reads(rest)):
			continue
		case !b.keyword(l, rest):
			l.note(rest)
		}
		l.Name = leftBehind.ReplaceAllString(name, "")
		return
	}
	if m := eitherSide.FindStringIndex(l.Name); m != nil && m[0] > 0 && curriculum.KindInWords(l.Name) != "knowledge" { // Fighting stance L & R
		l.note(strings.TrimSpace(l.Name[m[0]:]))
		l.Name = strings.TrimSpace(l.Name[:m[0]])
		return
	}
	for n := len(words) - 1; n > 1 && l.Quantity.Measure != ""; n-- { // a known name and a remark, an amount behind both
		rest := strings.Join(words[n:], " ")
		if b.Named(strings.Join(words[:n], " ")) != nil && !connecting.MatchString(rest) && (whichWayFirst.MatchString(rest) || saysOnlyHow(rest) || howDone.MatchString(rest)) {
			l.Name = strings.Join(words[:n], " ")
			l.note(rest)
			return
		}
	}
}

var (
	// whichWayFirst begins which way, or on which side, something is done.
	whichWayFirst = pattern.Of(`(?i)^(?:forwards?|backwards?|inside|outside|in|out|up|down|over|across|left|right|high|low|mid|middle|front|rear|lead|back|both|each|on|moving|stepping|walking|sliding|standing|without|only)\b`)
	// rangeAlone are numbers of a series behind its name.
	rangeAlone = pattern.Of(`(?i)^(?:nos?\.? |numbers? )?\d{1,2} ?(?:-|–|to|and|&) ?\d{1,2}$`)
	// heldFrom is from where, on or with what something is done.
	heldFrom = pattern.Of(`(?i)^(?:from|to (?:the|an?)) (?:[\pL-]+ ){0,3}[\pL-]+$|^(?:in|off|on|with) (?:[\pL-]+ ){0,3}(?:stance|\pL*-?dachi|seogi|sogi|kamae|legs?|foot|feet|hands?|arms?|knees|floor|ground|spot|line|weights?|friend)$`)
	// otherDone makes another technique of one, or says on what: with a jump, and a punch, on the pad.
	otherDone = pattern.Of(`(?i)\b(?:and|then|into|counter\pL*|pads?|bags?|shields?|mitts?|boards?|partners?|jump\pL*|spin\pL*|fly\pL*|turn\pL*|switch\pL*|slid\pL*|skip\pL*|step\pL*|double|combination)\b`)
)

// saysFrom reports whether words behind a known name say from where, on or with what it is done: Side kick from horse stance.
func (b *Reader) saysFrom(name, rest string) bool {
	kind := b.Named(name).Kind
	held := heldFrom.MatchString(rest) && !otherDone.MatchString(rest)
	return held && (slices.Contains(amounted, kind) || kind == "sparring") && slices.Contains([]Kind{"", "stance"}, b.KindInName(strings.SplitN(rest, " ", 2)[1]))
}

// leftBehind is what is left of a setting that was taken out behind a name: Switch kick to the.
var leftBehind = pattern.Of(`(?i) (?:to|on|onto|against|with|at|in)(?: the| an?)?$`)

// toPart is what a known technique goes to, and onPart what an exercise is done on.
var (
	toPart = pattern.Of(`(?i)^to (?:the )?(?:temple|head|face|jaw|chin|nose|ears?|neck|throat|eyes?|collar ?bone|chest|ribs?|body|stomach|belly|solar plexus|kidneys?|groin|thigh|knee|shin)s?(?: and (?:head|face|chin|chest|body|legs?|thigh))?$`)
	onPart = pattern.Of(`(?i) on (?:my |your |the |their )?(?:knees|fists|knuckles|toes|hands|fingertips)$`)
)

// eitherSide is at the end of a name what says that it is shown on both sides.
var eitherSide = pattern.Of(`(?i) (?:on )?(?:l ?(?:&|/|\+|and) ?r|r ?(?:&|/|\+|and) ?l|left ?(?:&|/|\+|and) ?right|right ?(?:&|/|\+|and) ?left|(?:off )?both (?:sides|arms|hands|legs|feet)|(?:off )?either side|(?:with|off) (?:both|each|either) (?:legs?|hands?|arms?|feet|foot|sides?))$`)

func setting(words string) bool { return settingSaid(check.Key(words)) != "" }

func (b *Reader) reads(part string) bool { var l PageLine; return b.keyword(&l, part) }

// take reads an amount that stands around a name, of an exercise or of something else.
func (l *PageLine) take(amount string, exercise bool, name string) bool {
	q, err := curriculum.ParseQuantity(amount)
	if err != nil || curriculum.Bare(amount) && q.Reps > 100 && curriculum.KindInWords(strings.ToLower(name)) != "fitness" || !unicode.IsLetter([]rune(name)[0]) || strings.EqualFold(name, "x") || name == "×" {
		return false
	}
	if curriculum.Bare(amount) && !exercise && curriculum.KindInWords(name) != "fitness" && !pluralOf(amount, l.Name) {
		l.doubt(fmt.Sprintf("%s is read as the amount, %s in all; write %s a side behind the name for each side, or “not a number” where it belongs to the name", amount, amount, amount))
	}
	l.Name, l.Quantity = strings.TrimSuffix(strings.TrimSuffix(name, " x"), " ×"), q
	return true
}

// pluralOf reports whether a name says first how many of several: 10 fast punches.
func pluralOf(amount, name string) bool {
	said, found := strings.CutPrefix(name, amount+" ")
	said = strings.TrimSpace(where.ReplaceAllString(said, ""))
	return found && (oneOfMany.MatchString(said) || rolls.MatchString(said)) && !notOne.MatchString(said)
}

// where is at the end of a name where it is done.
var where = pattern.Of(`(?i)(?: (?:in|from) (?:an? |the )?(?:[\p{L}-]+ ){1,2}stance\b.*| in the air| on (?:the )?(?:pads?|shields?|bag|spot|move))$`)

var (
	rolls = pattern.Of(`(?i)\b(?:rolls|falls|breakfalls|knees)$`)
	// notOne is said of several that are different: 8 basic strikes.
	notOne = pattern.Of(`(?i)\b(?:basic|different|various|other|own|main|hand|leg|kinds?|types?|single)\b`)
)

// near reports whether two words differ by a letter that is missing, too many, another or
// exchanged with its neighbour; by two in long ones.
func near(x, y string) bool {
	if x == y {
		return true
	}
	most := 1
	if min(len(x), len(y)) >= 9 {
		most = 2
	}
	if d := len(x) - len(y); d > 2*most || -d > 2*most { // letters of more bytes may be twice as long
		return false
	}
	if min(len(x), len(y)) < 4 {
		return false
	}
	a, b := letters(x), letters(y) // each change takes one letter away and brings one, at most
	return bits.OnesCount64(a&^b) <= most && bits.OnesCount64(b&^a) <= most && check.Distance(x, y) <= most
}

// initials are the first letters of several words, without figures; "" of one.
func initials(name string) (out string) {
	words := strings.Fields(name)
	if len(words) < 2 {
		return ""
	}
	for _, w := range words {
		if !unicode.IsDigit(rune(w[0])) {
			out += w[:1]
		}
	}
	return out
}

// letters are those of a word, a bit each; some share one.
func letters(word string) (set uint64) {
	for _, r := range word {
		set |= 1 << (r & 63)
	}
	return set
}

// amountIn is the longest run of words in a text that is an amount and not only a number; ""
// none.
func (b *Reader) amountIn(text string) string {
	words := strings.Fields(text)
	i, j := amountAt(words)
	return strings.Join(words[i:j], " ")
}

// amountAt is where in words the longest amount stands that is not only a number; i = j nowhere.
func amountAt(words []string) (i, j int) {
	for n := min(len(words), 12); n > 0; n-- {
		for at := 0; at+n <= len(words); at++ {
			if !beginsAmount(words[at]) || at > 0 && strings.EqualFold(words[at], "once") && strings.EqualFold(words[at-1], "at") {
				continue
			}
			if n > 1 && at > 0 && curriculum.Bare(words[at]) && numberedForm.MatchString(words[at-1]) && (strings.EqualFold(words[at+1], "both") || strings.EqualFold(words[at+1], "each")) { // Set 1 both sides
				continue
			}
			said := strings.TrimRight(strings.Join(words[at:at+n], " "), ".,;")
			if curriculum.Bare(said) || at+n < len(words) && eachWord.MatchString(said) { // each what?
				continue
			}
			if curriculum.IsAmount(said) {
				return at, at + n
			}
		}
	}
	return 0, 0
}

// numberedForm is a word whose number belongs to the name.
var numberedForm = pattern.Of(`(?i)^(?:set|form|kata|pattern|poomsae|tul|hyung)$`)

// beginsAmount reports whether an amount may begin with a word.
func beginsAmount(word string) bool {
	switch word = strings.ToLower(word); word {
	case "x", "×", "hold", "held", "for", "each", "every", "both", "on", "l/r", "r/l", "left/right", "right/left", "round", "rounds":
		return true
	}
	return curriculum.MayBeAmount(word)
}

var eachWord = pattern.Of(`(?i)\b(each|ea|every|per|both)$`)

var (
	wordModifiers = []struct {
		words *pattern.Pattern
		m     curriculum.Modifier
	}{
		{pattern.Of(`(?i)\b(jump(ing)?|flying)\b ?`), "jumping"}, {pattern.Of(`(?i)\bspin(ning)?\b ?|^(?:360|540|720)°?(?: degrees?)? `), "spinning"}, {pattern.Of(`(?i)\bstepping\b ?`), "stepping"}, {pattern.Of(`(?i)\bsliding\b ?`), "sliding"},
		{pattern.Of(`(?i)\bskipping\b ?`), "skipping"}, {pattern.Of(`(?i)\bswitch(ing)?\b ?`), "switching"}, {pattern.Of(`(?i)\b(lead|front)[ -]leg\b ?`), "lead-leg"}, {pattern.Of(`(?i)\b(rear|back)[ -]leg\b ?`), "rear-leg"},
	}
	attackInWords = pattern.Of(`(?i)\b(grab|choke|punch|push|kick|hug|headlock|hold|strike|attack|knife|club)s?$`)
	doubled       = pattern.Of(`(?i)\bdouble\b(?:$|[^-]| -)`)
	severals      = pattern.Of(`(?i)\d or \d$|\b[A-H] ?(?:and|&|\+|,|to) ?[A-H]$|\b\d{1,2} ?(?:[-–—&+]|to|and|thru|through) ?(?:\p{L}+\.? )?\d{1,2}$|\b[A-H] ?[-–] ?[A-H]$`)
	notAlike      = pattern.Of(`(?i)^(left|right|l|r)$|^(each|every|per|both|either|a side|over each|all)\b|\b(each|every|per)\b`)
	connecting    = pattern.Of(`(?i)^(?:w/|(?:in|into|from|with|to|against|off|then|and|while|after|at|followed by)\b)`)
	ofPart        = pattern.Of(`(?i)^(the )?((other|left|right|both|second|first|last|third|1st|2nd|3rd) )+(sides?|half|part|stage|way|section|time)( only| also| too| as well)?$`)
)

// variant reads jumping, flying, spinning, lead and rear in the name of a new kick or strike, and
// finds the technique it is a variant of.
func (b *Reader) variant(l *PageLine) {
	if !slices.Contains([]Kind{"kick", "strike", "block"}, l.Kind) || roundAbout.MatchString(l.Name) {
		return
	}
	base, levels, modifiers := b.Glossed(l.Name)
	l.Levels, l.Modifiers = levels, append(l.Modifiers, modifiers...)
	for _, x := range wordModifiers {
		if x.words.MatchString(base) {
			l.Modifiers = append(l.Modifiers, x.m)
			base = x.words.ReplaceAllString(base, "")
		}
	}
	if t := b.Named(check.Tidy(base)); t != nil && len(l.Modifiers) > 0 {
		l.Base = t.ID
	}
	if doubled.MatchString(l.Name) {
		l.doubt(fmt.Sprintf("%s is read as a technique of that name; where it is the single one done twice, write its name and the amount", l.Name))
	}
}

// roundAbout is what is parried from every side, where nobody turns.
var roundAbout = pattern.Of(`(?i)^360.* defen[cs]es?\b`)

// nearest is a technique whose name is nearly a new one's.
func (b *Reader) nearest(name string) *curriculum.Technique {
	key := check.Key(name)
	if utf8.RuneCountInString(key) < 6 {
		return nil
	}
	for i := range b.Techniques {
		if other := check.Key(b.Techniques[i].Name); other != key && near(key, other) && !bothWords(key, other) && !bothNumbers(key, other) && figuresIn(key) == figuresIn(other) && lettersAlone(key) == lettersAlone(other) {
			return &b.Techniques[i]
		}
	}
	return nil
}

// plainWords are words of names, so that one is no misspelling of another: low block, down block.
var plainWords = strings.Fields("low down up upper lower high head rear front lead back palm pak side round inward outward upward downward inside outside reverse obverse inner outer hook hand hands axe fore face turning body hip horse cat")

// bothWords reports whether two names differ in words of which each is one by itself.
func bothWords(x, y string) bool {
	one, other := strings.Fields(x), strings.Fields(y)
	if len(one) != len(other) {
		return false
	}
	for i := range one {
		if one[i] != other[i] && !(slices.Contains(plainWords, one[i]) && slices.Contains(plainWords, other[i])) {
			return false
		}
	}
	return true
}

// countWords number names as figures do: Shodan, Nidan; one, two; hana, dul.
var countWords = strings.Fields("shodan nidan sandan yondan godan rokudan ichi ni san shi yon go roku nana hachi kyu ju il ee sam sa oh one two three four five six seven " +
	"eight nine ten first second third fourth fifth sixth i ii iii iv v vi vii viii ix x hana dul set net daseot ilbo sambo iljang ijang samjang " +
	"sho dai")

// bothNumbers reports whether two names differ in such words alone.
func bothNumbers(x, y string) bool {
	one, other := strings.Fields(strings.ReplaceAll(x, "-", " ")), strings.Fields(strings.ReplaceAll(y, "-", " "))
	if len(one) != len(other) {
		return false
	}
	for i := range one {
		if one[i] != other[i] && !(slices.Contains(countWords, one[i]) && slices.Contains(countWords, other[i])) {
			return false
		}
	}
	return true
}

// lettersAlone are the words of one letter in a name, which number as figures do: Combo A, Combo B.
func lettersAlone(s string) (out string) {
	for _, w := range strings.Fields(s) {
		if utf8.RuneCountInString(w) == 1 {
			out += w
		}
	}
	return out
}

func figuresIn(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsDigit(r) {
			return r
		}
		return -1
	}, s)
}
