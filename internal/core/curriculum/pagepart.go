package curriculum

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
	"velvetladder/internal/core/scoring"
)

// remark takes what stands in parentheses: words that say something of the line, as they would
// behind a comma, and else a remark. In double parentheses all of it is a remark.
func (b *Book) remark(l *PageLine, said string) {
	if strings.HasPrefix(said, "(") && strings.HasSuffix(said, ")") {
		l.note(said[1 : len(said)-1])
		return
	}
	if levels := strings.FieldsFunc(said, func(r rune) bool { return strings.ContainsRune(",/&", r) }); len(levels) > 1 && !slices.ContainsFunc(levels, func(x string) bool { return (Meaning{Means: check.Key(x)}).level() == "" }) {
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
		if part = check.Tidy(part); bare(part) && part != "" && b.sparringKind(l) != "fitness" {
			l.doubt(fmt.Sprintf("“(%s)” is read as a remark; where it is the amount, write it without brackets, %s a side or %s times", part, part, part))
		}
		if k := KindNamed(part); k != "" && l.Said == "" && l.Section == "" && l.under.mixed {
			l.Said = k // Yoko geri (kick), under a heading that says no kind
			continue
		}
		if setsPattern.MatchString(check.Key(part)) { // (3 x 2), which may be the amount
			l.note(part)
			continue
		}
		if part != "" && !b.keyword(l, part) && !b.countsOwn(l, part) && !(part == said && b.bracket(l, said)) {
			l.note(part)
			if strings.ContainsFunc(part, unicode.IsDigit) && !bare(part) && !countsOther.MatchString(part) && !b.saysAttack(part) {
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
		q, err := ParseQuantity(n)
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
var countsOther = pattern.Of(`(?i)^(?:\d{1,3} ?%(?: .*)?|(?:the )?(?:first|last) \d{1,2} (?:fast|slow|slowly|hard|quick|quickly|with \pL.*)|\d{1,3} ?(?:°|degrees?)(?: .*)?|(?:min\.? |max\.? |at least |up to )?\d{1,4} (?:pages?|words)` +
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

func (l *PageLine) note(said string) {
	if strings.TrimSpace(said) != "" {
		l.Note = strings.TrimPrefix(l.Note+", "+said, ", ")
	}
}

// lineParts reads the parts behind a name. column is where they begin, from 1. amount is false
// where no amount is among them.
func (b *Book) lineParts(l *PageLine, rest string, column int) (amount bool) {
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
func (b *Book) nextPart(l *PageLine, parts []string, before bool) (n int, read bool, problem string) {
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
	if m := restAlone.FindString(check.Key(word)); m != "" && l.Quantity.Measure == RoundsTimed && l.Quantity.Rest == 0 {
		if q, err := ParseQuantity(fmt.Sprintf("%d x %d s, %s", l.Quantity.Rounds, l.Quantity.Seconds, m)); err == nil { // 3 x 2 min, light contact, 1 min rest
			l.Quantity = q
			return 1, false, ""
		}
	}
	if q, err := ParseQuantity(word); err == nil {
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
func (b *Book) twoParts(l *PageLine, word, next string, before bool) (is, read bool) {
	rest := restPattern.MatchString(check.Key(next))
	q, err := ParseQuantity(word + ", " + next)
	if both := !before && b.sparringKind(l) != "self_defence" && !(isAmount(word) && isAmount(next)); err == nil && (rest || both) { // 5 forward, 5 back; of a defence both hands may hold
		l.Quantity = q
		return true, true
	}
	return rest && b.ReadPart(l, word+", "+next) == "", false
}

// asFar is how far something is done.
var asFar = pattern.Of(`(?i)^as (?:far as|\pL+ as|(?:a |part of the )?warm|an? (?:drill|flow|set)\b|an? (?:group|team|class|pair))\b`)

// bare reports whether an amount is only a number, which behind a name may be its number in a
// series.
func bare(amount string) bool {
	return !strings.ContainsFunc(check.Tidy(amount), func(r rune) bool { return !unicode.IsDigit(r) })
}

// strictParts are words that begin a part which is no remark: what follows them is wrong.
var strictParts = pattern.Of(`(?i)^(?:(?:weight|marks|sprint|level|stage) |entry \pL)`)

// weightOnLegs is where the weight is in a stance.
var weightOnLegs = pattern.Of(`(?i)^weight (?:is |stays |mostly )?(?:even|equal|on|over|forward|back|cent|low|in|between|distribut|\d{2} ?(?:/|-|:) ?\d{2})`)

// strict reports whether a part is meant for something and says it wrongly.
func strict(part string) bool {
	return strictParts.MatchString(part) && !weightOnLegs.MatchString(part) || setsPattern.MatchString(strings.ToLower(part)) || eachSide.MatchString(strings.ToLower(part))
}

// nearlySaid are parts that begin as ones that are understood.
var nearlySaid = pattern.Of(`^(?i:not for|until|from|as|weight|marks|always|stage|level|entry|sprint)\b|^(?:\S+ )?for \p{Lu}|\d.* for \p{Lu}`)

// fromAttack is what a defence is from.
var fromAttack = pattern.Of(`(?i)^from (?:an? |the |behind|left|right)`)

// fromStance is a remark that says where one stands.
var fromStance = pattern.Of(`(?i)^from (?:a |an |the )?.*(?:memory|stance|dachi|position|knees|ground|floor|guard|side|front|behind|horse|bow|walking|sparring|fighting|standing|standstill|kneeling|sitting|a turn|seiza)$`)

// fromBody is from where on the body something begins.
var fromBody = pattern.Of(`(?i)^from (?:the |your |a )?(?:hips?|shoulders?|ear|chest|waist|belt|chin|guard|line|move|walk|run|stand|seat|chair|distance|half|full)\b`)

// thereBack speaks of both ways.
var thereBack = pattern.Of(`(?i)\b(?:forwards?|fwd)\b.*\bback|\bback(?:wards?)?\b.*\b(?:forwards?|fwd)\b|\b(?:both|each) (?:way|direction)s?\b`)

// stepsIn is how many steps: 10 steps forward.
var stepsIn = pattern.Of(`(?i)^(\d{1,2}) (steps?(?: (?:forwards?|back|backwards?|moving))?(?: (?:and|then|with) (?:an? )?turn)?)$`)

// countIn is how often and where: 20 in horse stance.
var countIn = pattern.Of(`(?i)^(\d{1,3}) ((?:in|from) (?:an? |the )?[\pL -]*(?:stance|dachi|guard|position|place|line)|in (?:one go|a row)|without (?:any )?(?:help|stopping|mistakes?|pause|support).*)$`)

// countsOwn reads an amount that says of what it is: Jab-cross-hook, 10 combos each side.
func (b *Book) countsOwn(l *PageLine, part string) bool {
	m := countedAs.FindStringSubmatch(part)
	if m == nil || l.Quantity.Measure != "" || !slices.Contains([]Kind{kindInWords(m[2]), ""}, b.kindOf(l)) {
		return false
	}
	q, err := ParseQuantity(strings.TrimSpace(m[1] + m[3]))
	if err == nil {
		l.Quantity = q
	}
	return err == nil
}

// attacksOfSet is how many attacks are answered in a set.
var attacksOfSet = pattern.Of(`(?i)^(\d{1,2}) ((?:different )?attacks)$`)

// loose takes a part that is neither amount nor keyword as a remark. One that holds a figure or
// speaks of each side may be an amount and is asked about.
func (b *Book) loose(l *PageLine, part string) {
	if b.countsOwn(l, part) {
		return
	}
	words := strings.Fields(part)
	if b.looseAmount(l, part) {
		return
	}
	if i, j := amountAt(words); i < j && j < len(words) && i == 0 && !notAlike.MatchString(strings.Join(words[j:], " ")) {
		if q, err := ParseQuantity(strings.Join(words[:j], " ")); err == nil && l.Quantity.Measure == "" {
			l.Quantity = q
			if part = strings.Join(words[j:], " "); b.keyword(l, part) {
				return
			}
		}
	}
	if l.Slow && thenFast.MatchString(part) { // slow, then fast
		l.Slow = false
		l.note("slowly")
	}
	l.note(part)
	if thenMore.MatchString(part) && (b.amountIn(part) != "" || slices.Contains([]Kind{"strike", "kick"}, kindInWords(part))) {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where more is asked, write it on a line of its own", part))
	}
	if check.Key(part) == "double" {
		l.doubt("“double” is read as a remark; where the technique is done twice at once, write its name with it, and where it is another one, its own name")
	}
	if nearlySaid.MatchString(part) && !fromStance.MatchString(part) && !(slices.Contains([]Kind{"self_defence", "lock", "throw"}, b.kindOf(l)) && fromAttack.MatchString(part)) && !asFar.MatchString(part) && !fromBody.MatchString(part) && !weightOnLegs.MatchString(part) {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; it begins as what this program understands, such as until a rung, from a group, not for a track", part))
	} else if !b.saysAttack(part) && (strings.HasPrefix(strings.ToLower(part), "both ") && !bothOther.MatchString(part) || bothOnly.MatchString(part)) && !strings.ContainsFunc(part, unicode.IsDigit) {
		l.perhaps = part // both arms: an amount, unless another part is one
	} else if !countsOther.MatchString(part) && !eachOther.MatchString(part) && !b.saysAttack(part) && (strings.ContainsFunc(part, unicode.IsDigit) || notAlike.MatchString(part) || l.Quantity.Measure != "" && b.amountIn(part) != "") {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is the amount, write for example 5 a side, 10 or 60 s", part))
	}
}

// bothOther are both of what are no sides.
var bothOther = pattern.Of(`(?i)^both (?:partners|parts|halves|guards|forms|times)\b`)

// secondsEach is how long each leg is stood on.
var secondsEach = pattern.Of(`(?i)^(\d{1,3} ?(?:s|secs?|seconds?)) each$`)

// eachAtTail ends a sentence with how often on each side.
var eachAtTail = pattern.Of(`(?i)^\pL[^\d]* (?:x ?)?\d{1,3} ?(?:x |times )?(?:each|per|on each|with each|every) (?:side|leg|arm|hand|foot)$`)

// movingCount is how often on the way: moving back 4.
var movingCount = pattern.Of(`(?i)^((?:moving|stepping|going|walking|travelling) (?:forwards?|backwards?|back)) (?:x ?)?(\d{1,2})$`)

// looseAmount takes a part that says an amount with what it is of, on or in: 20 on the pads, 10 steps forward. It reports whether it was one.
func (b *Book) looseAmount(l *PageLine, part string) bool {
	if m := eachOn.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" && strings.HasPrefix(m[2], "on ") { // 15 each on belly pad
		if q, err := ParseQuantity(m[1] + " each"); err == nil {
			l.Quantity = q
			if !b.keyword(l, m[2]) {
				l.note(m[2])
			}
			return true
		}
	}
	if l.Quantity.Measure == "" && b.sideAmount(l, part) {
		return true
	}
	if m := attacksOfSet.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" && (b.sparringKind(l) == "partner_set" || kindInWords(l.Name) == "partner_set") { // Jiyu ippon kumite, 5 attacks
		l.Quantity = Quantity{Measure: RepsInAll, Reps: figure(m[1])}
		l.note(m[2])
		return true
	}
	if m := movingCount.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" { // moving back 4
		l.Quantity = Quantity{Measure: RepsInAll, Reps: figure(m[2])}
		l.note(m[1])
		return true
	}
	if m := countWay.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" { // 5 forward
		l.Quantity = Quantity{Measure: RepsInAll, Reps: figure(m[1])}
		l.note(m[2])
		return true
	}
	if m := countOn.FindStringSubmatch(part); m != nil && m[1] == "" && l.Quantity.Measure == "" && l.Setting == "" {
		if on := settingSaid(check.Key(m[3])); on != "" {
			l.Quantity, l.Setting = Quantity{Measure: RepsInAll, Reps: figure(m[2])}, on
			return true
		}
	}
	if m := stepsIn.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" && slices.Contains([]Kind{"stance", "strike", "block", "kick", "footwork", "combination"}, b.kindOf(l)) { // 10 steps forward
		n, _ := strconv.Atoi(m[1])
		l.Quantity = Quantity{Measure: RepsInAll, Reps: n}
		if l.note(m[2]); thereBack.MatchString(strings.Replace(l.Text, l.Name, "", 1)) {
			l.doubt(fmt.Sprintf("%d is read as in all; where as many go each way, write %d each way", n, n))
		}
		return true
	}
	if m := countIn.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" { // 20 in horse stance
		n, _ := strconv.Atoi(m[1])
		l.Quantity = Quantity{Measure: RepsInAll, Reps: n}
		l.note(m[2])
		return true
	}
	return false
}

// sideAmount takes a part that says how often or how long on each side; it reports whether it was one.
func (b *Book) sideAmount(l *PageLine, part string) bool {
	if words := strings.Fields(part); l.Setting == "" && eachAtTail.MatchString(part) { // push the bag away 10x each leg
		if i, j := amountAt(words); i > 1 && j == len(words) {
			if q, err := ParseQuantity(strings.Join(words[i:], " ")); err == nil {
				l.Quantity = q
				l.note(strings.Join(words[:i], " "))
				return true
			}
		}
	}
	if m := secondsEach.FindStringSubmatch(part); m != nil && slices.Contains([]Kind{"stance", "balance"}, cmp.Or(kindInWords(l.Name), b.sparringKind(l))) { // Balance on one leg, 5 seconds each
		if q, err := ParseQuantity(m[1] + " a side"); err == nil {
			l.Quantity = q
			return true
		}
	}
	return false
}

// countWay is how often, and which way: 5 forward.
var countWay = pattern.Of(`(?i)^(\d{1,3}) (forwards?|backwards?|back|fwd|bwd)$`)

// thenMore begins what is asked next.
var thenMore = pattern.Of(`(?i)^(?:and )?then `)

// thenFast is how something is done behind how it is begun.
var thenFast = pattern.Of(`(?i)^(?:and |& )?then (?:fast|faster|quick|quickly|at (?:full )?speed|full speed|with power)$`)

// holdsOn is what somebody holds on to who need not stand alone.
var holdsOn = pattern.Of(`^(?:while |may )?(?:hold|holding|hold on|holding on)(?: on)?(?: to)? (?:a |an |the |my |your )?(?:wall|chair|bar|barre|rail|partner's (?:arm|shoulder|hand))(?: is ok| allowed| if needed| if you need(?: it)?)?$`)

// restPattern is the second half of rounds with a rest, of everybody or for a track.
var restPattern = pattern.Of(`^\d[\d:]* ?(?:\w*|['’′″"]) (?:rest|break)( for .+)?$`)

// restAlone is a rest apart from its rounds.
var restAlone = pattern.Of(`^\d[\d:]* ?(?:\w+|['’′]) (?:rest|break)$`)

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

// ReadPart reads one part of a line that is no amount, such as "must" or "until Blue belt",
// and returns what is wrong with it; "" nothing.
// It is long: a case for each thing a part of a line may say, in the order in which they are tried.
func (b *Book) ReadPart(l *PageLine, word string) string {
	key := check.Key(word)
	first, rest, _ := strings.Cut(key, " ")
	_, said, _ := strings.Cut(word, " ") // the rest as it was typed
	if what, name, found := strings.Cut(key, " for "); found {
		return b.readTrack(l, what, name)
	}
	switch {
	case slices.Contains([]string{"must", "must pass", "must-pass", "mandatory", "compulsory", "obligatory", "required", "essential"}, key):
		l.MustPass = true
	case key == "bonus" || key == "optional" || key == "extra" || key == "desirable":
		l.Bonus = true
	case boardsPart.MatchString(key):
		l.Setting = boards
		if n := boardsPart.FindStringSubmatch(key)[1]; n != "1" && n != "one" && n != "a" || len(strings.Fields(key)) > 2 {
			l.note(word)
		}
	case trackOnly(b, l, key):
	case holdsOn.MatchString(key):
		l.Supported = true
		l.note(word)
	case key == "always":
		l.Carry = Carry{Kind: Always}
	case key == "again" || key == "show again":
		l.ShowAgain = true
	case key == "free choice":
		l.Free = true
	case key == "slowly" || key == "slow":
		l.Slow = true
	case key == "non-stop" || key == "non stop" || key == "nonstop":
		l.NonStop = true
	case key == "supported" || key == "with help" && slices.Contains(append(basic, "balance", "stance", "fitness"), b.kindOf(l)) || key == "with support" || key == "support allowed":
		l.Supported = true
	case key == "by phases":
		l.Phases = true
	case first == "term" && rest != "":
		l.Term = check.Tidy(said)
	case KindNamed(word) != "" && !b.answersBy(l, KindNamed(word)):
		l.Said = KindNamed(word)
	case key == "not a number":
		l.Plain = true
	case sidesOnly[key] != "":
		l.Sides = sidesOnly[key]
	case first == "sprint":
		return readSprint(l, rest)
	case sprintLast.MatchString(key):
		return readSprint(l, sprintLast.FindStringSubmatch(key)[1])
	case first == "entry" && rest != "" && unicode.IsLetter([]rune(rest)[0]):
		l.Entries = append(l.Entries, check.Tidy(said))
	case voiceOf(key) != "":
		l.Voice = voiceOf(key)
	case key == "covers settings":
		l.Covers = true
	case first == "as" && slices.Contains(Roles, Role(rest)):
		l.Role = Role(rest)
	case b.levelSaid(l, key) != "":
		level := b.levelSaid(l, key)
		if l.LeastLevel != "" && l.LeastLevel != level {
			l.doubt(fmt.Sprintf("there are two heights, %s and %s; the last one is taken", l.LeastLevel, level))
		}
		l.LeastLevel = level
	case first == "level" && (rest == "low" || rest == "mid" || rest == "high"):
		l.LeastLevel = notation.Level(rest)
	case b.marksInWords(l, key):
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
		if s := settingSaid(key); s != "" {
			l.Setting = s
			return ""
		}
		if setsPattern.MatchString(key) && b.sets(l, key) {
			return ""
		}
		if setsPattern.MatchString(key) {
			_, err := ParseQuantity(word)
			return err.Error()
		}
		return fmt.Sprintf("%q is not understood; after the name stand an amount such as 5 a side, must, bonus, weight 2, as attacker, on pads, always, until a rung …", word)
	}
	return ""
}

// answersBy reports whether a kind behind an attack under self-defence is how it is answered, "Rear choke -
// throw", and not what the line is.
func (b *Book) answersBy(l *PageLine, k Kind) bool {
	return b.sparringKind(l) == "self_defence" && slices.Contains([]Kind{"throw", "lock", "strike", "kick", "block"}, k) && attackInWords.MatchString(l.Name)
}

var settingPart = pattern.Of(`^(?:on|onto|to|against|with|using|in) (?:a |an |the |focus |kick |kicking |heavy |thai |target |hand |big |small |large |soft )*(pads?|paddles?|targets?|shields?|mitts?|bags?|partner|pairs|air|boards?)$`)

// struckOn are the things that a kick or a punch goes to.
var struckOn = pattern.Of(`^(?:pad|shield|mitt|bag|board)`)

// thingAlone are pads or a bag and nothing more.
var thingAlone = pattern.Of(`^(?:(?:focus|kick|thai|heavy|target) )?(?:pads?|paddles?|shields?|mitts?|bag|heavy bag)$`)

// heightWord is behind a height: high section.
var heightWord = pattern.Of(` (?:sections?|level|height)$`)

// levelSaid is the height that a part of a line says, in words of the program too; in a set, a form or a defence those are of its moves.
func (b *Book) levelSaid(l *PageLine, key string) notation.Level {
	word := heightWord.ReplaceAllString(key, "")
	if level := (Meaning{Means: word}).level(); level != "" || slices.Contains([]Kind{"partner_set", "self_defence", "form", "sparring"}, b.kindOf(l)) || kindInWords(l.Name) == "partner_set" {
		return level
	}
	if m, whole := b.meaningOf(word); m != nil && whole && l.LeastLevel == "" {
		return m.level()
	}
	return ""
}

// settingSaid is the setting that words mean: on the pad, on focus mitts, with partner, in pairs.
func settingSaid(key string) Setting {
	key = strings.TrimSuffix(key, " only")
	if s := thingAlone.FindString(key); s != "" { // (pads)
		key = "on " + key
	}
	m := settingPart.FindStringSubmatch(key)
	if m == nil || strings.HasPrefix(key, "to ") && !struckOn.MatchString(m[1]) {
		return ""
	}
	switch strings.TrimSuffix(m[1], "s") {
	case "pad", "paddle", "target", "shield", "mitt":
		return "pads"
	case "bag":
		return "bag"
	case "partner", "pair":
		return "partner"
	case "board":
		return boards
	}
	return Settings[0]
}

var boardsPart = pattern.Of(`^(a|\d{1,2}|one|two|three|four|five) (?:(?:rebreakable|re-breakable|plastic|pine|wooden|wood|thin|demo) )?boards?$`)

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
	if at < 0 { // (adults) is adults only
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

// sprintLast is the closing sprint, said last: last 20 secs sprint.
var sprintLast = pattern.Of(`^(?:the )?last (\d+ ?\pL*) (?:a )?sprint(?:ing)?$`)

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
