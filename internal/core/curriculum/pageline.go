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
)

// pageLine reads one line that is no heading: the name, the parts behind it, a remark in
// parentheses, and after a colon the moves.
func (b *Book) pageLine(l *PageLine) {
	if aboutLine.MatchString(strings.TrimSpace(l.Text[listed(l.Text):])) || laterLine.MatchString(strings.TrimSpace(l.Text)) {
		l.fail(1, "this speaks of other lines; write what is asked, a line for each, or add a later part on the technique’s page")
		return
	}
	if partAsked.MatchString(l.Text[listed(l.Text):]) {
		l.fail(1, "this asks a part of a technique; write the name of the whole and, for example, stage 1, once its parts are on its page")
		return
	}
	line := []rune(l.Text)
	if b.sparringKind(l) == "knowledge" && countsTo.MatchString(l.Text) {
		l.nameEnd = len(line)
	}
	if b.sparringKind(l) == "sparring" && b.roundsAlone(l, line) {
		return
	}
	from, to := b.nameIn(line)
	if to = b.toldTo(l, line, to); l.nameEnd > 0 {
		to = l.nameEnd
	}
	l.Name = strings.TrimRight(check.Tidy(string(line[from:to])), ".")
	if utf8.RuneCountInString(l.Name) > check.NameLength || l.Name == "" {
		l.fail(1, fmt.Sprintf("a technique's name of up to %d characters comes first", check.NameLength))
		return
	}
	l.Role, l.Weight = Roles[0], 1
	rest := b.behind(l, line, to)
	combination := lonelyName.MatchString(l.Name) || b.kindInName(l.Name) == "combination"
	behind := l.amountBehind()
	l.Name = rowName(l.Name, l.Moves)
	if hyphened.MatchString(l.Moves) {
		l.Moves = strings.ReplaceAll(l.Moves, "-", ", ")
	}
	if l.Moves != "" && combination && l.Said == "" && slices.Contains(append(amounted, ""), b.sparringKind(l)) {
		l.Said = "combination" // Combo 1: jab, cross, under Strikes
	}
	amount := l.Problem == "" && b.lineParts(l, rest, to+1) || behind
	b.finish(l, amount)
}

// bracketBehind is a bracket behind moves.
var bracketBehind = regexp.MustCompile(`^(.*[\pL\d]) \(([^()]*)\)\.?$`)

// amountBehind takes an amount out of the end of the moves of a line: Combo 1: jab, cross, 5 a side.
func (l *PageLine) amountBehind() bool {
	if m := bracketBehind.FindStringSubmatch(l.Moves); m != nil { // low block, front kick (five times each side)
		if q, err := ParseQuantity(m[2]); err == nil && !bare(m[2]) {
			l.Quantity, l.Moves = q, m[1]
			return true
		}
	}
	at := strings.LastIndex(l.Moves, ",")
	if at <= 0 {
		return false
	}
	said := strings.TrimSpace(l.Moves[at+1:])
	q, err := ParseQuantity(said)
	if err != nil || bare(said) {
		return false
	}
	l.Quantity, l.Moves = q, strings.TrimSpace(l.Moves[:at])
	return true
}

// finish settles a line whose parts are read.
func (b *Book) finish(l *PageLine, amount bool) {
	if l.Problem != "" {
		return
	}
	first, note, _ := strings.Cut(l.Note, ",")
	if q, err := ParseQuantity(first); !amount && err == nil && (!bare(first) || b.sparringKind(l) == "fitness") { // Front kick (10 each leg, chambered)
		l.Quantity, l.Note, amount = q, check.Tidy(note), true
	}
	if b.Named(l.Name) == nil && slices.Contains(amounted, b.kindInName(l.Name)) {
		l.totalNamed()
	}
	if b.atLevel(l); !l.Plain && b.Named(l.Name) == nil {
		amount = b.inName(l, amount) || amount
	}
	if l.Problem != "" {
		return
	}
	amount = b.exercise(l, amount)
	if m := oneSide.FindStringSubmatch(l.Name); m != nil && b.Named(l.Name) == nil && slices.Contains(amounted, b.kindInName(m[1])) { // 10 x round kick L
		l.Name = b.single(m[1])
		l.note(m[2])
	}
	if trackOnly(b, &PageLine{}, check.Key(l.Name)) {
		l.fail(1, fmt.Sprintf("“%s” says for whom; the name of what is asked comes first, then for example not for Cubs", l.Name))
		return
	}
	if t := b.alike(l.Name); t != nil && b.Named(l.Name) == nil {
		l.Name = t.Name
	}
	b.howInName(l)
	b.nameBehind(l)
	b.ofTotal(l)
	l.restNoted()
	amount = l.sidesNoted(amount)
	b.askRemark(l, amount)
	b.oneOf(l, amount)
	b.Settle(l)
	b.othersNamed(l, amount)
	l.movesNoted()
	if l.New && l.Moves != "" && slices.Contains([]Kind{"board_break", "knowledge", "courtesy", "character", "fitness", "sparring", "balance"}, l.Kind) {
		l.fail(1, fmt.Sprintf("a %s has no moves; write what stands behind the colon a line each, or in brackets as a remark", l.Kind.Words()))
	}
	b.sparringWords(l)
	if l.usual = !amount; l.usual {
		l.Quantity = l.usualAmount()
		l.roundsNoted()
		if l.under.unread != "" && slices.Contains(amounted, l.Kind) {
			l.doubt(fmt.Sprintf("“%s” in the heading is read as no amount; write it as one there, for example (5 a side), or on the line", l.under.unread))
		}
	}
	if p := l.Requirement.Check(); len(p) > 0 {
		l.fail(1, p[0].Field+" "+p[0].Text)
	}
}

// oneOf names one of several: of what is known, or of which so many are asked, Front kicks x 5.
func (b *Book) oneOf(l *PageLine, amount bool) {
	if l.Plain || b.Named(l.Name) != nil {
		return
	}
	one := oneOfMany.ReplaceAllString(l.Name, "$1")
	if known := strings.TrimSuffix(l.Name, "s"); b.Named(known) != nil {
		l.Name = known
	} else if amount && strings.Contains(one, " ") && slices.Contains(basic, b.kindInName(one)) {
		l.Name = one
	}
}

// movesNoted takes what stands behind the colon of what has no moves as a remark, or as what is broken with.
func (l *PageLine) movesNoted() {
	if !l.New || l.Moves == "" {
		return
	}
	if slices.Contains(saidKinds, l.Kind) || l.Kind == "balance" && !strings.ContainsFunc(l.Moves, unicode.IsDigit) { // Written essay: “My training”
		l.note(l.Moves)
		l.Moves = ""
	}
	if l.Kind == "board_break" && l.Moves != "" && UsualKind(l.Name) == l.Kind { // Board break: side kick
		l.Name, l.Moves = capitalised(strings.TrimSuffix(l.Moves, ".")), ""
	}
}

// askRemark asks where the remark of a line may mean a technique, a role or an amount.
func (b *Book) askRemark(l *PageLine, amount bool) {
	for part := range strings.SplitSeq(l.Note, ", ") {
		if t := b.Named(part); t != nil && b.Named(l.Name) != nil && t.Kind != "stance" {
			l.doubt(fmt.Sprintf("“%s” is read as a remark and is a technique; where this is a combination, write its name and after a colon its moves", t.Name))
			break
		}
	}
	if rolesNoted.MatchString(l.Note) && l.Role == Roles[0] && !(b.kindOf(l) == "self_defence" && attackerDoes.MatchString(l.Note)) {
		l.doubt(fmt.Sprintf("“%s” speaks of a role; write a line for each, with as attacker or as defender", l.Note))
	}
	l.inAll()
	if l.perhaps != "" && !amount && !(bothOnly.MatchString(l.perhaps) && DefaultAmount(b.kindOf(l)).perSide()) {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is the amount, write for example 5 a side, 10 or 60 s", l.perhaps))
	}
}

var (
	shoutTail   = regexp.MustCompile(`(?i)^(.+?) ((?:w/|with) ?(?:a )?(?:loud |strong |big )?(?:kiai|kihap|shout|yell|voice)|(?:all )?alone|without (?:any )?(?:help|assistance|prompting|mistakes?|stopping|support|reminding|reminders?))$`)
	holdingTail = regexp.MustCompile(`(?i)^(.+?) ((?:while )?holding (?:on ?)?(?:to )?(?:a |the |my |your )?(?:wall|chair|bar|barre|rail|partner|hand).*)$`)
)

// sparredFreely is how sparring is done, where its cell leaves the word out.
var sparredFreely = regexp.MustCompile(`(?i)^(?:free|light|continuous|points?|technical|controlled|touch|semi[- ]contact|light[- ]contact|free ?style)$`)

// nameBehind exchanges the attack and the name that stands behind it: Headlock from the side (Escaping Ram); Right punch: Falling Leaf.
func (b *Book) nameBehind(l *PageLine) {
	if k := b.kindOf(l); k != "self_defence" && k != "" && !l.under.mixed || b.Named(l.Name) != nil {
		return
	}
	behind, said := cmp.Or(l.Moves, l.Note), l.Name
	if at := strings.LastIndex(behind, ", "); at >= 0 && l.Moves == "" { // Wrist grab, two on one – Turning Mill
		said, behind = said+", "+behind[:at], behind[at+2:]
	}
	words := strings.Fields(behind)
	if attack, _ := b.attackIn(strings.ReplaceAll(said, ",", "")); attack == nil || l.Moves != "" && l.Note != "" || len(words) < 2 || len(words) > mostListed || eitherSide.MatchString(" "+behind) || strings.ContainsAny(behind, ",;/+.") ||
		slices.ContainsFunc(words, func(w string) bool {
			r, _ := utf8.DecodeRuneInString(w)
			return !unicode.IsUpper(r) && !smallWord.MatchString(w)
		}) {
		return
	}
	if attack, _ := b.attackIn(behind); attack != nil || saysOnlyHow(behind) {
		return
	}
	l.Name, l.Note, l.Moves, l.mayBeTerm = behind, said, "", ""
	l.Said = cmp.Or(l.Said, "self_defence")
}

// ofTotal takes an amount of each side that a total is said before: 10 (5 each leg).
func (b *Book) ofTotal(l *PageLine) {
	parts := strings.Split(l.Note, ", ")
	for i, part := range parts {
		if q, err := ParseQuantity(part); err == nil && q.Measure == RepsPerSide && l.Quantity.Measure == RepsInAll && l.Quantity.Reps == 2*q.Reps {
			l.Quantity, l.Note = q, strings.Join(slices.Delete(parts, i, i+1), ", ")
			if l.perhaps == part {
				l.perhaps = ""
			}
			return
		} else if q, err := ParseQuantity(fmt.Sprintf("%d %s", l.Quantity.Reps, part)); err == nil && l.Quantity.Measure == RepsInAll && q.Measure == RepsPerSide && (notAlike.MatchString(part) || eitherSide.MatchString(" "+part)) && b.kindOf(l) != "self_defence" { // eight kicks on the shield, each leg
			l.Quantity, l.Note = q, strings.Join(slices.Delete(parts, i, i+1), ", ")
			l.Doubts = slices.DeleteFunc(l.Doubts, func(d notation.Doubt) bool { return strings.Contains(d.Reason, "“"+part+"”") })
			return
		}
	}
}

// howInName takes out of a new name how it is done: Front kick w/ kiai; Side kick holding the wall, which is supported.
func (b *Book) howInName(l *PageLine) {
	if b.Named(l.Name) != nil {
		return
	}
	if sparredFreely.MatchString(l.Name) && b.kindOf(l) == "sparring" { // Free, in a cell
		l.Name += " sparring"
	}
	if m := shoutTail.FindStringSubmatch(l.Name); m != nil && !slices.Contains(saidKinds, b.kindOf(l)) {
		l.Name = m[1]
		l.note(m[2])
	}
	if m := holdingTail.FindStringSubmatch(l.Name); m != nil && slices.Contains(append(basic, "balance"), b.kindInName(m[1])) {
		l.Name, l.Supported = m[1], true
		l.note(m[2])
	}
}

// attackerDoes begins what the attacker does.
var attackerDoes = regexp.MustCompile(`(?i)^(?:the |an? |your )?(?:attacker|partner|opponent|somebody|someone) \pL`)

// bothOnly says that both sides are shown, which the usual amount of most kinds is of.
var bothOnly = regexp.MustCompile(`(?i)^both (?:sides|arms|legs|hands|feet)$`)

// kindOf is the kind that a line will have, as far as its heading and its words tell.
func (b *Book) kindOf(l *PageLine) Kind {
	return cmp.Or(l.Said, b.sparringKind(l), b.kindInName(l.Name))
}

// oneSide is a name with one side behind it.
var oneSide = regexp.MustCompile(`^(.+) ([LR])$`)

// inAll asks where an amount is read as in all and both sides are spoken of.
func (l *PageLine) inAll() {
	if l.Quantity.Measure == Timed && bothNoted.MatchString(l.Note) {
		l.doubt(fmt.Sprintf("%s is read as in all, with “%s” as a remark; write %s a side where it is asked of each", l.Quantity, l.Note, l.Quantity))
	}
	if l.Quantity.Measure == RepsInAll && bothNoted.MatchString(l.Note) {
		l.doubt(fmt.Sprintf("%s is read as in all, with “%s” as a remark; write %d a side where it is asked of each", l.Quantity, l.Note, l.Quantity.Reps))
	}
	if l.Quantity.Measure == RepsInAll && l.Sides == BothSides {
		l.doubt(fmt.Sprintf("%s is read as in all, with “both sides” said of the technique; write %d a side where it is asked of each", l.Quantity, l.Quantity.Reps))
	}
}

var (
	saysHow    = regexp.MustCompile(`(?i)^(?:(?:on|onto|in|into|with|without|from|to|at|as|by|for|under|over|after|before|against|vs|versus|no|not|any|knees?|hands?|toes|heels?(?: (?:down|up|out|in))?$|hips?|eyes|guard|same|each|both|all|until|while|when|then|and|or|like|of|off|if|through|via|using|keep|keeps|hold|holds|low|high|mid|light|full|new|again|slow|fast|one|two|three|left|right|lead|rear)\b|\W|\d)`)
	inStance   = regexp.MustCompile(`(?i)\b(?:in(?:to)? |to )?\w+ stance\b`)
	heightSaid = regexp.MustCompile(`(?i)\b(?:height|level|high)\b`)
	bareWord   = regexp.MustCompile(`^\p{L}{2,}$`)
)

// mostNamed is how many words of a remark may name another technique.
const mostNamed = 8

// othersNamed asks where the remark of a line that shows one thing may name others: a part of it behind a comma that is not known to say how
// something is done, "Block high, block low", "Hip throw, leg reap".
func (b *Book) othersNamed(l *PageLine, amount bool) {
	if l.Note == "" || slices.Contains([]Kind{"knowledge", "sparring"}, l.Kind) || l.under.section != "" && slices.Contains([]Kind{"character", "courtesy"}, l.Kind) || len(l.Doubts) > 0 {
		return
	}
	parts, bare := strings.Split(l.Note, ", "), 0
	for _, part := range parts {
		kind := b.kindInName(inStance.ReplaceAllString(part, ""))
		named := l.Kind == "board_break" && slices.Contains([]Kind{"strike", "kick"}, kind) || slices.Contains(basic, l.Kind) && twoBare.MatchString(part) && !bothNoted.MatchString(part) || slices.Contains([]Kind{"strike", "kick", "block", "throw", "breakfall"}, kind) || answersWith.MatchString(part) || kind == "fitness" && l.Kind == "fitness"
		if l.Kind == "self_defence" && againstFirst.MatchString(l.Name) { // against thrust, slash
			named = len(strings.Fields(part)) <= 2 && !saysOnlyHow(part)
		} else if l.Kind == "self_defence" && attackInWords.MatchString(l.Name) {
			named = attackNoted.MatchString(part) && !strings.Contains(part, " and ")
		} else if l.Kind == "self_defence" && len(parts) > 1 && !titled(strings.Fields(l.Name)) && attackNoted.MatchString(part) {
			named = true
		} else if l.Kind == "partner_set" && namedFor.MatchString(l.Name) && slices.Contains(basic, b.kindInName(part)) { // vs. jodan zuki, mae geri
			named = true
		} else if is := b.kindInName(part); l.Kind == "partner_set" && (is == "partner_set" || is == "sparring") { // three-step sparring 5-8, semi-free sparring
			named = true
		} else if l.Kind == "self_defence" || l.Kind == "partner_set" {
			continue // how it is attacked, or answered
		}
		told := amount || howDone.MatchString(part) || ofPart.MatchString(part) || limbAlone.MatchString(part) || stanceAlone.MatchString(part) || l.Kind == "self_defence" || l.Kind == "fitness" || len(strings.Fields(part)) > mostListed
		if b.Named(part) == nil && !saysOnlyHow(part) && !heightSaid.MatchString(part) && len(strings.Fields(part)) <= mostNamed && behindAComma(l.Text, part) && (named || !told) {
			l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is another technique, write a line for each, or a combination’s name and its moves after a colon", part))
			return
		}
		if bareWord.MatchString(part) && !saysHow.MatchString(part) {
			bare++
		}
	}
	if bare > 1 && bare == len(parts) && len(strings.Fields(l.Name)) <= 2 {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where %s is one of several, write a line for each", l.Note, l.Name))
	}
}

// twoBare are two more of what is named: Kick front, round and side.
var twoBare = regexp.MustCompile(`(?i)^(?:front|back|side|round|turning|high|low|middle|inside|outside|inner|outer|inward|outward|hook|axe|crescent|rising|reverse|straight|upward|downward|rear|push) (?:and|&|or) (?:front|back|side|round|turning|high|low|middle|inside|outside|inner|outer|inward|outward|hook|axe|crescent|rising|reverse|straight|upward|downward|rear|push)$`)

// answersWith is what follows a block or a parry.
var answersWith = regexp.MustCompile(`(?i)^(?:counter|return|riposte|follow[- ]up)\b`)

// againstFirst begins what is answered.
var againstFirst = regexp.MustCompile(`(?i)^(?:against|vs\.?|versus) `)

// limbAlone is a remark that says which limb, or which way; or one that ends with an exclamation mark.
var limbAlone = regexp.MustCompile(`(?i)^(?:(?:the )?(?:front|back|rear|lead|other|same|left|right|strong|weak|l|r)(?: (?:leg|hand|arm|foot|side))?|(?:(?:inner|outer|inside|outside) )?(?:forearms?|edge|heel|instep|ball of (?:the )?foot|toes|knuckles|blade|wrist)|turn(?:ing)?|across .*|l ?[&/+] ?r|r ?[&/+] ?l|\pL+(?:al|ive|ic)|.*!)$`)

// behindAComma reports whether a part stands in a line behind a comma, a dash or a semicolon, and not in brackets.
func behindAComma(line, part string) bool {
	line = line[listed(line):]
	at := strings.Index(line, part)
	return at > 0 && strings.Count(line[:at], "(") == strings.Count(line[:at], ")")
}

// totalNamed takes the total out of a name where as much a side is said: 30 front kicks (15 R, 15 L).
func (l *PageLine) totalNamed() {
	words := slices.DeleteFunc(strings.Fields(l.Name), func(w string) bool { return w == "x" || w == "×" })
	last, total := len(words)-1, strconv.Itoa(2*l.Quantity.Reps)
	switch {
	case l.Quantity.Measure != RepsPerSide || last < 1:
	case words[0] == total:
		l.Name = capitalised(oneOfMany.ReplaceAllString(strings.Join(words[1:], " "), "$1"))
	case words[last] == total:
		l.Name = strings.Join(words[:last], " ")
	}
}

// exercise reads a fitness item: a number behind it is how often, "Burpees 15", and what it is done on is
// a remark, "push-ups on my knees".
func (b *Book) exercise(l *PageLine, amount bool) bool {
	words := strings.Fields(l.Name)
	last := len(words) - 1
	if l.Plain || b.Named(l.Name) != nil || last < 0 {
		return amount
	}
	n, err := strconv.Atoi(words[last])
	counted := !amount && last > 0 && err == nil && n >= leastCount && !numbering.MatchString(words[last-1])
	if name := strings.Join(words[:max(last, 0)], " "); counted && b.Named(name) != nil && slices.Contains(counts, b.Named(name).Kind) { // Front kick 10
		l.Quantity, l.Name = Quantity{Measure: RepsInAll, Reps: n}, name
		return true
	}
	if b.sparringKind(l) != "fitness" && kindInWords(l.Name) != "fitness" {
		return amount
	}
	if at := onPart.FindStringIndex(l.Name); at != nil && at[0] > 0 {
		l.note(check.Tidy(l.Name[at[0]:]))
		l.Name = l.Name[:at[0]]
	}
	if counted {
		l.Quantity, l.Name = Quantity{Measure: RepsInAll, Reps: n}, strings.Join(words[:last], " ")
		return true
	}
	return amount
}

// counts are the kinds behind whose known names a number is how often.
var counts = []Kind{"strike", "kick", "block", "evasion", "footwork", "breakfall", "fitness"}

// numbering are words whose number is no count: Beep test level 5.
var numbering = regexp.MustCompile(`(?i)^(?:level|stage|phase|part|no|number|set|series|grade|version)\.?$`)

// leastCount is the least number behind an exercise that is no number of a series.
const leastCount = 5

var (
	alternatingNoted = regexp.MustCompile(`(?i)^alternating(?: (?:sides|hands|legs|arms|feet))?$`)
	eachNoted        = regexp.MustCompile(`(?i)^(\d{1,3} ?(?:s|secs?|seconds?|m|mins?|minutes?|reps|times|x)?) each$`)
	eachOfWhat       = regexp.MustCompile(`(?i)\b\d{1,3} (?:x |times )?each\s*(?:[,;)]|$)`)
)

// sidesNoted takes out of the remark how an amount is spread: alternating, or as much on each of the sides
// that are named. Where it says each of what is not sure, it is asked.
func (l *PageLine) sidesNoted(amount bool) bool {
	parts := strings.Split(l.Note, ", ")
	for i, part := range parts {
		switch m := eachNoted.FindStringSubmatch(part); {
		case alternatingNoted.MatchString(part) && l.Quantity.Measure == RepsInAll:
			l.Quantity.Measure = Alternating
		case m != nil && !amount && bothNoted.MatchString(l.Note):
			q, err := ParseQuantity(m[1] + " a side")
			if err != nil {
				continue
			}
			l.Quantity, amount, l.perhaps = q, true, ""
			l.Doubts = slices.DeleteFunc(l.Doubts, func(d notation.Doubt) bool { return strings.Contains(d.Reason, part) })
		default:
			continue
		}
		l.Note = strings.Join(slices.Delete(parts, i, i+1), ", ")
		break
	}
	if l.Quantity.perSide() && eachOfWhat.MatchString(l.Text) && strings.Contains(l.Note, " and ") && !bothNoted.MatchString(l.Note) {
		l.doubt(fmt.Sprintf("%s is read, with “%s” as a remark; where as much is asked of each of them, write a line for each", l.Quantity, l.Note))
	}
	return amount
}

// restNoted takes the rest of rounds out of the remark: 3 x 2 min (1 min rest).
func (l *PageLine) restNoted() {
	parts := strings.Split(l.Note, ", ")
	for i, part := range parts {
		if l.Quantity.Measure != RoundsTimed || l.Quantity.Rest != 0 || !restAlone.MatchString(check.Key(part)) {
			continue
		}
		if q, err := ParseQuantity(fmt.Sprintf("%d x %d s, %s", l.Quantity.Rounds, l.Quantity.Seconds, check.Key(part))); err == nil {
			l.Quantity, l.Note = q, strings.Join(slices.Delete(parts, i, i+1), ", ")
			if l.perhaps == part {
				l.perhaps = ""
			}
			return
		}
	}
}

var roundsSaidAlone = regexp.MustCompile(`^(\d{1,2}) rounds?$`)

// roundsNoted takes how many rounds out of the remark, where nothing says how long they are: as long as is usual, and that is asked.
func (l *PageLine) roundsNoted() {
	parts := strings.Split(l.Note, ", ")
	for i, part := range parts {
		m := roundsSaidAlone.FindStringSubmatch(check.Key(part))
		if m == nil || l.Quantity.Measure != RoundsTimed {
			continue
		}
		q, err := ParseQuantity(fmt.Sprintf("%s x %d s, %d s rest", m[1], l.Quantity.Seconds, l.Quantity.Rest))
		if err != nil {
			return
		}
		l.Quantity, l.Note, l.usual = q, strings.Join(slices.Delete(parts, i, i+1), ", "), false
		l.doubt(fmt.Sprintf("nothing says how long a round is, and %s is read; write for example %s x 90 s", q, m[1]))
		return
	}
}

// usualAmount is what a line without an amount asks: boards once, what its heading says, or what is usual
// for its kind.
func (l *PageLine) usualAmount() Quantity {
	switch {
	case l.Setting == boards:
		return Quantity{Measure: RepsInAll, Reps: 1}
	case l.under.amount != nil:
		return *l.under.amount
	}
	return DefaultAmount(l.Kind)
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

// roundsOn are rounds of something, with how long they are behind it.
var roundsOn = regexp.MustCompile(`(?i)^(\d{1,2}|one|two|three|four|five) rounds? (?:of |on )?(?:the )?(\pL[\pL -]*?)(?:,| -| –) *(\d[\d:]* ?\pL*)(?: each| per round)?$`)

// contactFirst are words of contact or limbs before rounds.
var contactFirst = regexp.MustCompile(`(?i)^((?:no|non|light|touch|semi|full|controlled|soft)[- ]contact|hands only|kicks only|body only|boxing only|light|technical|soft) +(\d.*)$`)

// countsTo is a question that asks to count, whose numbers are no amount: count 1 - 10.
var countsTo = regexp.MustCompile(`(?i)^\W*(?:\d{1,2}[.)] )?count(?:ing)? (?:from |to )?\d+(?: ?(?:-|–|to) ?\d+)?[^,;(]*$`)

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
	if m := roundsOn.FindStringSubmatch(before); m != nil && isAmount(m[1]+" x "+m[3]) { // 2 rounds pads, 2 min each
		before = m[1] + " x " + m[3] + ", " + m[2]
		if thingAlone.MatchString(check.Key(m[2])) {
			before = m[1] + " x " + m[3] + ", on " + m[2]
		}
	}
	if m := contactFirst.FindStringSubmatch(before); m != nil { // no contact 1 x 2 min
		before, rest = m[2], ", "+m[1]+rest
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
	if to < len(line) && line[to] == ',' && stanceAlone.MatchString(string(line[first:to])) { // Walking stance, low block
		end := to + 1
		for ; !ends(end); end++ {
		}
		if slices.Contains([]Kind{"strike", "kick", "block"}, b.kindInName(check.Tidy(string(line[to+1:end])))) {
			to = end
		}
	}
	return first, to
}

// stanceAlone is the name of a stance and nothing else.
var stanceAlone = regexp.MustCompile(`(?i)^(?:in )?(?:an? )?(?:[\pL-]+ ){1,2}(?:stance|dachi|seogi|sogi)$`)

// toldTo is where the name of a question or a task ends: at a bracket or the end of the line, unless a part
// behind a comma says something of the line.
func (b *Book) toldTo(l *PageLine, line []rune, to int) int {
	if !slices.Contains(saidKinds, b.sparringKind(l)) || to == len(line) || line[to] != ',' {
		return to
	}
	rest, _, _ := strings.Cut(string(line[to+1:]), "(")
	for _, part := range SplitParts(rest) {
		if _, err := ParseQuantity(part); err == nil || b.reads(check.Tidy(part)) || KindNamed(part) != "" {
			return to
		}
	}
	return to + 1 + utf8.RuneCountInString(strings.TrimRight(rest, " "))
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
			if _, err := ParseQuantity(first); err == nil && !(bare(first) && b.calls()) || markInWords.MatchString(check.Key(first)) { // Cross: 10 each hand; Squats: 20=good
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
	case l.Section == "" && !l.under.mixed && cmp.Or(l.Said, b.kindInName(l.Name)) == "" && !b.defends(l):
		l.New, l.headless = true, l.Problem == ""
		l.fail(1, fmt.Sprintf("“%s” is new, so its section is not known; write a heading such as Kicks above it", l.Name))
	default:
		l.New = true
		if l.Kind = cmp.Or(l.Said, l.under.kind, b.kindIn(l.Section)); l.Said == "" && l.Kind == "sparring" && arranged.MatchString(l.Name) && l.Quantity.Measure != RoundsTimed && l.Quantity.Measure != Timed {
			l.Kind = "partner_set"
		}
		if l.Kind == "" && b.answersNoted(l) { // Bowing Reed (rear choke)
			l.Kind = "self_defence"
		}
		if l.Kind == "" {
			l.Kind = cmp.Or(b.kindInName(l.Name), l.under.first)
		}
		if l.Kind == "" && b.defends(l) { // Turning Tide (left lapel grab)
			l.Kind = "self_defence"
		}
		if l.Kind == "" && l.Section == "" {
			l.kindless = l.Problem == ""
			l.fail(1, fmt.Sprintf("nothing says of which kind %s is; write it on the line, for example %s, kick", l.Name, l.Name))
		} else if l.Kind == "" {
			l.kindless = l.Problem == ""
			l.fail(1, fmt.Sprintf("the section %s does not say of which kind %s is; write it on the line, for example %s, kick, or give the section a kind on the program’s page", l.Section, l.Name, l.Name))
		}
		if series, number, known, numbered := b.Numbers(l.Name); numbered && !l.Plain && !slices.Contains(saidKinds, l.Kind) {
			l.Series, l.Place, l.Asked = series, number, !known && l.Kind != "form" && !saidNumber.MatchString(l.Text)
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

// answersNoted reports whether a name in capitals, of words that name no move, has an attack as its remark.
func (b *Book) answersNoted(l *PageLine) bool {
	words := strings.Fields(l.Name)
	attack, _ := b.attackIn(l.Note)
	return attack != nil && len(words) > 1 && titled(words) && !slices.Contains(inRows, b.kindInName(l.Name)) && b.kindInName(l.Name) != "form"
}

// saidNumber is a number that is said to be one.
var saidNumber = regexp.MustCompile(`(?i)\b(?:number|no\.?|nr\.?) ?\d|#\d`)

// defends reports whether a line that nothing else tells the kind of answers an attack: Turning Tide (left jab), Against mount.
func (b *Book) defends(l *PageLine) bool {
	if againstFirst.MatchString(l.Name) {
		return true
	}
	attack, _ := b.attackIn(l.Note)
	return titled(strings.Fields(l.Name)) && (attack != nil || attackNoted.MatchString(l.Note))
}

// attackNoted is a remark that says how somebody is attacked.
var attackNoted = regexp.MustCompile(`(?i)\b(?:grab|choke|punch|bear hug|hug|headlock|kick|push|tackle|nelson|strangle|club|knife|attack|hold|lapel|wrist)s?\b`)

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

// partAsked is a line that asks a part of something: First half of a form.
var partAsked = regexp.MustCompile(`(?i)^(?:the )?(?:first|second|third|last|1st|2nd|3rd) (?:half|part|third|section|(?:\w+ )?(?:moves|steps|movements)) of |[-–—,(] ?(?:only )?(?:up to|as far as|until|to) the (?:\w+ )?(?:half|middle|shout|kiai|turn|line|move|step|count)\b`)
