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
	"velvetladder/internal/core/pattern"
)

// pageLine reads one line that is no heading: the name, the parts behind it, a remark in
// parentheses, and after a colon the moves.
func (b *Book) pageLine(l *PageLine) {
	if aboutLine.MatchString(strings.TrimSpace(l.Text[listed(l.Text):])) || laterLine.MatchString(strings.TrimSpace(l.Text)) {
		l.fail(1, ofOtherLines)
		return
	}
	if _, behind, found := strings.Cut(l.Text, ": "); found && asOthers.MatchString(behind) {
		l.fail(1, ofOtherLines)
		return
	}
	if restLine.MatchString(strings.TrimSpace(l.Text[listed(l.Text):])) {
		l.fail(1, "this says how long the rest is; write it behind the rounds it parts, for example 3 x 2 min, 30 s rest")
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
	if slices.Contains([]Kind{"sparring", "combination", ""}, b.sparringKind(l)) && b.roundsAlone(l, line) {
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
	if m := asksBehind.FindStringSubmatch(l.Moves); m != nil && b.Named(l.Name) == nil && (l.under.mixed || b.sparringKind(l) == "knowledge") { // Legal: what is reasonable force?
		l.note(l.Name)
		l.Name, l.Moves, l.Said = capitalised(l.Moves), "", cmp.Or(l.Said, "knowledge")
	}
	if kindInWords(l.Name) != "partner_set" {
		if !slices.Contains(saidKinds, b.sparringKind(l)) { // Translate: age uke, gedan barai
			l.Moves = b.heightsInMoves(l.Moves)
		}
	}
	combination := lonelyName.MatchString(l.Name) || b.kindInName(l.Name) == "combination"
	if (bare(l.Name) || letterAlone.MatchString(l.Name)) && l.Moves != "" && b.sparringKind(l) == "combination" { // 1: jab, cross
		l.Name = "Combination " + l.Name
	}
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

// letterAlone is the letter of one of several.
var letterAlone = pattern.Of(`^[A-H]$`)

// heightsInMoves is moves with the heights that words of the second language mean: mae geri chudan is mae geri mid. Moves of which one
// names only a height, or nothing that is known, stay as they are.
func (b *Book) heightsInMoves(moves string) string {
	parts := strings.Split(moves, ",")
	for i, part := range parts {
		name, levels, _ := b.glossed(part)
		if kind := b.kindInName(name); kind == "" || len(levels) > 1 {
			return moves
		}
		if len(levels) == 1 && heightIn.MatchString(part) {
			parts[i] = strings.Repeat(" ", min(i, 1)) + name + " " + string(levels[0])
		}
	}
	return strings.Join(parts, ",")
}

// bracketBehind is a bracket behind moves.
var bracketBehind = pattern.Of(`^(.*[\pL\d]) \(([^()]*)\)\.?$`)

// dashedAmount is an amount behind a dash at the end of moves.
var dashedAmount = pattern.Of(`^(.*\pL) [-–—] ([^-–—]*\d[^-–—]*)$`)

// shortAlone is a name that leaves out the word of its heading.
var shortAlone = pattern.Of(`(?i)^(?:front|back|rear|side|round|turning|reverse turning|hook|axe|crescent|push|inside|outside|inward|outward|upward|downward|rising|high|low|middle|mid|upper|lower|horse|cat|crane|walking|fighting|jumping front|jump front|spinning back|spinning side|spinning hook)$`)

// asksBehind is a question behind a label.
var asksBehind = pattern.Of(`(?i)^(?:what|why|how|who|when|where|which|name|explain)\b.*\?$`)

// timesBehind is how often, at the end.
var timesBehind = pattern.Of(`^(.*\pL) [x×] ?(\d{1,2})$`)

// amountBehind takes an amount out of the end of the moves of a line: Combo 1: jab, cross, 5 a side.
func (l *PageLine) amountBehind() bool {
	if m := bracketBehind.FindStringSubmatch(l.Moves); m != nil { // low block, front kick (five times each side)
		if q, err := ParseQuantity(m[2]); err == nil && !bare(m[2]) {
			l.Quantity, l.Moves = q, m[1]
			return true
		}
	}
	if m := dashedAmount.FindStringSubmatch(l.Moves); m != nil && isAmount(m[2]) && !bare(m[2]) { // jodan, chudan, mae geri - 1 each
		l.Quantity, _ = ParseQuantity(m[2])
		l.Moves = m[1]
		return true
	}
	at := strings.LastIndex(l.Moves, ",")
	if m := timesBehind.FindStringSubmatch(l.Moves); m != nil && at < 0 && kindInWords(l.Name) == "partner_set" { // Kihon ippon kumite: jodan oi zuki x 2
		l.Quantity, _ = ParseQuantity("x" + m[2])
		l.Moves = m[1]
		return true
	}
	if at <= 0 {
		return false
	}
	said := eachFirst.ReplaceAllString(strings.TrimSpace(l.Moves[at+1:]), "")
	words := strings.Fields(said)
	if i, j := amountAt(words); i > 0 && j == len(words) && strings.ContainsFunc(strings.Join(words[i:j], ""), func(r rune) bool { return '3' <= r && r <= '9' }) { // front kick, round kick x 4; x 2 may be of the last move
		q, err := ParseQuantity(strings.Join(words[i:j], " "))
		if err == nil {
			l.Quantity, l.Moves = q, strings.TrimRight(strings.TrimSpace(l.Moves[:at+1])+" "+strings.Join(words[:i], " "), " -–—x×")
			return true
		}
	}
	q, err := ParseQuantity(said)
	if err != nil || bare(said) {
		return false
	}
	l.Quantity, l.Moves = q, strings.TrimSpace(l.Moves[:at])
	return true
}

// amountNoted takes the amount of a line out of the first of its remarks, where it says one and nothing else of the line does; it reports whether
// the line has one.
func (b *Book) amountNoted(l *PageLine, amount bool) bool {
	amount = amount || l.Quantity.Measure != "" // in brackets: (10 combos each side)
	first, note, _ := strings.Cut(l.Note, ",")
	if q, err := ParseQuantity(first); !amount && err == nil && (!bare(first) || b.sparringKind(l) == "fitness") { // Front kick (10 each leg, chambered)
		l.Quantity, l.Note, amount = q, check.Tidy(note), true
	}
	if said, more, _ := strings.Cut(l.Note, ", "); !amount && setsPattern.MatchString(check.Key(said)) { // Light sparring (3 x 2)
		whole := l.Note
		if l.Note = more; b.sets(l, check.Key(said)) {
			amount = true
		} else {
			l.Note = whole
		}
	}
	return amount
}

// finish settles a line whose parts are read.
func (b *Book) finish(l *PageLine, amount bool) {
	if l.Problem != "" {
		return
	}
	amount = b.amountNoted(l, amount)
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
	b.oneSided(l)
	if trackOnly(b, &PageLine{}, check.Key(l.Name)) {
		l.fail(1, fmt.Sprintf("“%s” says for whom; the name of what is asked comes first, then for example not for Cubs", l.Name))
		return
	}
	b.wholeName(l)
	b.howInName(l)
	b.nameBehind(l)
	b.ofTotal(l)
	l.restNoted()
	amount = l.sidesNoted(amount)
	b.askRemark(l, amount)
	b.oneOf(l, amount)
	b.whichOf(l)
	b.brokenWith(l)
	b.Settle(l)
	b.othersNamed(l, amount)
	b.movesNoted(l)
	if l.Moves != "" && slices.Contains([]Kind{"board_break", "knowledge", "courtesy", "character", "fitness", "sparring", "balance"}, l.Kind) {
		l.fail(1, fmt.Sprintf("a %s has no moves; write what stands behind the colon a line each, or in brackets as a remark", l.Kind.Words()))
	}
	b.sparringWords(l)
	l.onWhatNamed()
	l.Free = l.Free || l.Kind == "combination" && l.Moves == "" && ownCombo.MatchString(l.Name) && saysChoice(l.Name) // Own combination, 4 moves
	if l.usual = !amount && l.Quantity.Measure == ""; l.usual {
		l.Quantity = l.usualAmount()
		if l.Quantity.Measure == RepsPerSide && l.sided {
			l.Quantity.Measure = RepsInAll
		}
		l.roundsNoted()
		if l.under.unread != "" && slices.Contains(amounted, l.Kind) {
			l.doubt(fmt.Sprintf("“%s” in the heading is read as no amount; write it as one there, for example (5 a side), or on the line", l.under.unread))
		}
	}
	if p := l.Requirement.Check(); len(p) > 0 {
		l.fail(1, p[0].Field+" "+p[0].Text)
	}
}

// onWhatNamed takes the setting of a line from its name, where that says one; what is worked in a round on pads is free.
func (l *PageLine) onWhatNamed() {
	if m := hitsWhat.FindStringSubmatch(l.Name); m != nil && slices.Contains([]Kind{"strike", "kick"}, l.Kind) { // punch the pad
		l.Setting = cmp.Or(l.Setting, settingSaid("on "+check.Key(m[1])))
	}
	if m := onWhat.FindString(l.Name); l.Kind == "combination" && l.Moves == "" && m != "" && roundWord.MatchString(l.Name) { // Pad round
		l.Free, l.Setting = true, cmp.Or(l.Setting, settingSaid("on "+check.Key(m)))
	}
}

// oneOf names one of several: of what is known, or of which so many are asked, Front kicks x 5.
func (b *Book) oneOf(l *PageLine, amount bool) {
	if words := strings.Fields(l.Name); l.Plain || b.Named(l.Name) != nil || len(words) > 0 && figureWords[strings.ToLower(words[0])] != "" { // Three punches
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
func (b *Book) movesNoted(l *PageLine) {
	if l.Moves == "" {
		return
	}
	if !strings.Contains(l.Moves, ".") && !slices.ContainsFunc(strings.Split(l.Moves, ","), func(part string) bool {
		part = strings.TrimSpace(part)
		return !(heightOrSide.MatchString(part) || countsOther.MatchString(part) || ofPart.MatchString(part) || oneSideOnly.MatchString(part))
	}) { // Kicking set: right side only
		l.note(l.Moves)
		l.Moves = ""
	}
	if slices.Contains(saidKinds, l.Kind) || l.Kind == "stance" && b.kindInName(l.Moves) == "" || l.Kind == "balance" && !strings.ContainsFunc(l.Moves, unicode.IsDigit) { // Written essay: “My training”
		l.note(strings.NewReplacer(" (", ", ", "(", "", ")", "").Replace(l.Moves))
		l.Moves = ""
	}
	moves := strings.TrimSuffix(l.Moves, ".")
	if l.Kind == "self_defence" && !b.attackAndMoves(l) && l.Moves != "" && !strings.ContainsAny(moves, "/.+") {
		b.attackBehind(l, moves)
	}
	if m := bracketBehind.FindStringSubmatch(l.Moves); l.Kind == "partner_set" && m != nil && heightIn.MatchString(m[1]) { // Gohon kumite: jodan, chudan (5 steps)
		l.note(m[2])
		l.Moves = m[1]
	}
	if before, side, found := strings.Cut(l.Moves, " - "); l.Kind == "partner_set" && found && oneSideOnly.MatchString(side) { // jodan, chudan - right side only
		l.note(side)
		l.Moves = before
	}
	if l.Kind == "partner_set" && l.Moves != "" && !slices.ContainsFunc(strings.Split(l.Moves, ","), func(part string) bool {
		part = strings.TrimSpace(part)
		return !heightOrSide.MatchString(part) && !slices.Contains([]Kind{"strike", "kick"}, kindInWords(part)) && !foreignAttack.MatchString(part)
	}) && (heightIn.MatchString(l.Moves) || strings.Contains(l.Moves, ",")) { // Kihon ippon: jodan, chudan, mae geri
		if l.note(l.Moves); l.Quantity.perSide() && eachOfWhat.MatchString(l.Text) || eachAtEnd.MatchString(l.Text) {
			l.doubt(fmt.Sprintf("%s is read, with “%s” as a remark; where as much is asked of each of them, write a line for each", l.Quantity, l.Moves))
		}
		l.Moves = ""
	}
	if words := strings.Fields(l.Moves); l.Kind == "form" && len(words) > 1 && len(words) <= mostListed && titled(words) && !strings.ContainsAny(l.Moves, ",/+.0123456789") { // Form one: Quiet Water
		l.note(l.Moves)
		l.Moves = ""
	}
}

// wholeName gives a name the word of its heading where it leaves that out, and the signs that it is known with.
func (b *Book) wholeName(l *PageLine) {
	if t := b.alike(l.Name); t != nil && b.Named(l.Name) == nil {
		l.Name = t.Name
	}
	kind, known := b.sparringKind(l), b.Named(l.Name)
	if headNouns[kind] != "" && shortAlone.MatchString(l.Name) && !l.Plain && (known == nil || known.Kind != kind) { // Front, under Kicks; hook, which is a punch elsewhere
		l.Name += " " + headNouns[kind]
		l.Name = b.single(l.Name)
	}
	if kind == "lock" && b.Named(l.Name) == nil && !l.Plain { // Wrist, under Locks
		l.Name = withHead("", l.Name, "lock")
	}
}

// whichOf names one of several that are told apart by what is noted.
func (b *Book) whichOf(l *PageLine) {
	if t := b.Named(l.Name + ", " + l.Note); l.Note != "" && t != nil { // Wrist grab (cross), beside Wrist grab (straight)
		l.Name, l.Note = t.Name, ""
	}
}

// brokenWith names what boards are broken with, where that stands behind the colon: Board break: side kick.
func (b *Book) brokenWith(l *PageLine) {
	if l.Moves == "" || UsualKind(l.Name) != "board_break" || b.kindOf(l) != "board_break" {
		return
	}
	l.Name, l.Moves = capitalised(strings.TrimSuffix(l.Moves, ".")), ""
	if slices.Contains([]Kind{"strike", "kick"}, b.kindInName(l.Name)) && !orBreak.MatchString(l.Name) {
		l.Setting = cmp.Or(l.Setting, boards)
	} else {
		l.Said = "board_break"
	}
}

// attackBehind takes what stands behind the colon of a defence for the attack where it is one, and asks where it may be: Storm over Reeds: right
// hook punch.
func (b *Book) attackBehind(l *PageLine, moves string) {
	named, alone := titled(strings.Fields(l.Name)) && strings.Contains(l.Name, " "), !strings.Contains(moves, ",")
	said := strings.ReplaceAll(moves, ",", "")
	attack, _ := b.attackIn(said)
	if attack == nil && named {
		if attack = b.attackWithin(said); attack != nil && !b.isHeld(attack) {
			attack = nil
		}
	}
	switch {
	case len(attack) == 1 && (named && alone || b.isHeld(attack) && !beginsStep.MatchString(moves)):
		l.note(l.Moves)
		l.Moves = ""
	case named && !alone && attack == nil:
		if several, _ := b.attackIn(moves); len(several) > 1 {
			l.doubt(fmt.Sprintf("“%s” is read as what is done; where it is the attack, write it in brackets", moves))
		}
	}
}

// attackAndMoves takes the attack that stands first behind the colon of a defence out of what is done about it: right hand cross wrist grab. Pin, step
// back; gun to the chest, hands up first. It reports whether one stood there.
func (b *Book) attackAndMoves(l *PageLine) bool {
	if before, done, found := strings.Cut(l.Moves, ". "); found && l.Note == "" && strings.TrimSpace(done) != "" {
		if x, _ := b.attackIn(before); x != nil {
			l.note(before)
			l.Moves = check.Tidy(strings.TrimSuffix(strings.NewReplacer("/", " or ", "+", " and ").Replace(done), ".")) + "."
			return true
		}
	}
	before, rest, found := strings.Cut(strings.TrimSuffix(l.Moves, "."), ", ")
	if x, _ := b.attackIn(before); found && x != nil && bare(rest) && l.Quantity.Measure == "" { // Kneeling: front choke, 2
		l.note(before)
		l.Moves, l.Quantity = "", Quantity{Measure: RepsInAll, Reps: figure(rest)}
		return true
	}
	if x, _ := b.attackIn(before); found && x != nil && b.isHeld(x) && !beginsStep.MatchString(rest) && !strings.Contains(rest, ",") && b.kindInName(rest) == "" {
		l.note(before)
		l.note(rest)
		l.Moves = ""
		return true
	}
	return false
}

// eachAtEnd is an amount of each of several, behind them.
var eachAtEnd = pattern.Of(`(?i), each (?:x|×) ?\d{1,2}$`)

var (
	// heightIn is a height that is attacked, by a word that names no move.
	heightIn = pattern.Of(`(?i)\b(?:jodan|chudan|gedan)\b`)
	// foreignAttack is an attack in the words of a system.
	foreignAttack = pattern.Of(`(?i)^(?:\pL+ ){0,2}(?:geri|zuki|tsuki|chagi|jireugi|uchi)(?: (?:keage|kekomi|jodan|chudan|gedan))?$`)
)

// oneSideOnly is a remark that only one side is shown.
var oneSideOnly = pattern.Of(`(?i)^(?:(?:right|left|strong|weak|r|l) (?:side|hand|leg|foot|lead)?s? ?only|both sides|either side|both ways)$`)

var (
	askedTail   = pattern.Of(`(?i)^(.+?) (if (?:asked|time|time allows|requested|called|needed)|(?:when|where) asked|on request)$`)
	shoutTail   = pattern.Of(`(?i)^(.+?) ((?:w/|with) ?(?:a )?(?:loud |strong |big )?(?:kiai|kihap|shout|yell|voice)|(?:all )?alone|without (?:any )?(?:help|assistance|prompting|mistakes?|stopping|support|reminding|reminders?))$`)
	holdingTail = pattern.Of(`(?i)^(.+?) (with (?:some )?(?:help|support)|(?:while )?hold(?:ing)? (?:on ?)?(?:to )?(?:a |the |my |your )?(?:wall|chair|bar|barre|rail|partner|hand).*)$`)
)

// kindOf is the kind that a line will have, as far as its heading and its words tell.
func (b *Book) kindOf(l *PageLine) Kind {
	return cmp.Or(l.Said, b.sparringKind(l), b.kindInName(l.Name))
}

var (
	saysHow    = pattern.Of(`(?i)^(?:(?:on|onto|in|into|with|without|from|to|at|as|by|for|under|over|after|before|against|vs|versus|no|not|any|(?:knees?|hands?|hips?|elbows?|fists?)(?: (?:tight|covered|closed|clenched|relaxed|above|level|flexed|still|tucked|loose|up|down|in|out|high|low|bent|straight|together|apart|open|closed|first|back|forward|over|on|at|off|behind|turned|square|by|touching|crossed|tight|locked|must|should|is|are|stays?|turns?|goes)\b|s?$)|toes|heels?(?: (?:down|up|out|in))?$|eyes|guard|same|each|both|all|until|while|when|then|and|or|like|of|off|if|through|via|using|keep|keeps|hold|holds|low|high|mid|light|full|new|again|slow|fast|one|two|three|left|right|lead|rear|slap|tap|(?:shoulders?|chin|chest|weight|shin|wrist) (?:tight|covered|relaxed|tucked|level|even|up|down|on|over|straight|is|stays))\b|\W|\d)`)
	inStance   = pattern.Of(`(?i)\b(?:in(?:to)? |to )?\w+ stance\b`)
	heightSaid = pattern.Of(`(?i)\b(?:height|level|high)\b`)
	bareWord   = pattern.Of(`^\p{L}{2,}$`)
)

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
var numbering = pattern.Of(`(?i)^(?:level|stage|phase|part|no|number|set|series|grade|version)\.?$`)

// leastCount is the least number behind an exercise that is no number of a series.
const leastCount = 5

var (
	alternatingNoted = pattern.Of(`(?i)^alternat(?:ing|e)(?: (?:sides|hands|legs|arms|feet))?$`)
	eachNoted        = pattern.Of(`(?i)^(\d{1,3} ?(?:s|secs?|seconds?|m|mins?|minutes?|reps|times|x)?) each$`)
	eachOfWhat       = pattern.Of(`(?i)\b\d{1,3} (?:x |times )?each\s*(?:[,;)]|$)`)
)

var roundsSaidAlone = pattern.Of(`^(\d{1,2}) rounds?(?: (continuous|non-?stop|light|light contact|free|technical|points?|of sparring))?$`)

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
var roundsOn = pattern.Of(`(?i)^(\d{1,2}|one|two|three|four|five) rounds? (?:of |on )?(?:the )?(\pL[\pL -]*?)(?:,| -| –) *(\d[\d:]* ?\pL*)(?: each| per round)?$`)

// boutsOf are rounds told by how many others: 4 opponents, 1½ minutes each.
var boutsOf = pattern.Of(`(?i)^(\d{1,2}|one|two|three|four|five) (?:different |new |fresh )?(opponents?|partners?|bouts?|fights?|matches)(?:,| of| for| x|:)? *(\d[\d:½.]* ?(?:s|secs?|seconds?|m|mins?|minutes?))(?: each)?\b(.*)$`)

// contactFirst are words of contact or limbs before rounds.
var contactFirst = pattern.Of(`(?i)^((?:no|non|light|touch|semi|full|controlled|soft)[- ]contact|hands only|kicks only|body only|boxing only|light|technical|soft) +(\d.*)$`)

// countsTo is a question that asks to count, whose numbers are no amount: count 1 - 10.
var countsTo = pattern.Of(`(?i)^\W*(?:\d{1,2}[.)] )?(?:\pL+ )?count(?:ing)? (?:in \pL+ )?(?:from |to )?\d+(?: ?(?:-|–|to) ?\d+)?[^,;(]*$`)

// sparringKind is the kind that a line's heading gives it.
func (b *Book) sparringKind(l *PageLine) Kind { return cmp.Or(l.under.kind, b.kindIn(l.Section)) }

// padRounds is what rounds on pads or on the bag are called, where the heading or the line puts them there; "" it does neither.
func padRounds(l *PageLine, text string) string {
	on := l.under.setting
	if m := onWhat.FindString(text); m != "" {
		on = settingSaid("on " + check.Key(m))
	}
	if on == "pads" || on == "bag" {
		return "Rounds"
	}
	return ""
}

// hitsWhat is the name of what goes to a pad or the bag.
var hitsWhat = pattern.Of(`(?i)\bthe ((?:focus |kick |heavy )?(?:pads?|mitts?|shields?|bag))$`)

// roundWord speaks of a round.
var roundWord = pattern.Of(`(?i)\brounds?\b`)

// onWhat is what rounds are done on.
var onWhat = pattern.Of(`(?i)\b(?:pads?|mitts?|shields?|bag)\b`)

// roundsAlone reads an amount alone under Sparring, which is its round: "2 x 90 secs, light contact"; rounds on pads or on the bag are
// worked freely.
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
	if m := boutsOf.FindStringSubmatch(text); m != nil && isAmount(m[1]+" x "+m[3]) { // 4 opponents, 1½ minutes each
		before, rest = m[1]+" x "+m[3]+", "+m[1]+" "+m[2], m[4]
	}
	if m := contactFirst.FindStringSubmatch(before); m != nil { // no contact 1 x 2 min
		before, rest = m[2], ", "+m[1]+rest
	}
	if m := roundsSaidAlone.FindStringSubmatch(check.Key(before)); m != nil && b.sparringKind(l) == "sparring" { // 2 rounds, of which nothing says how long
		l.Name, l.Role, l.Weight, l.Note = "Sparring", Roles[0], 1, before
		if said := b.behind(l, []rune(rest), 0); l.Problem == "" {
			b.lineParts(l, said, 1)
		}
		b.finish(l, false)
		return true
	}
	words := strings.Fields(before)
	for n := len(words); n > 0; n-- {
		q, err := ParseQuantity(strings.TrimRight(strings.Join(words[:n], " "), ",-–—"))
		if err != nil || q.Measure != RoundsTimed && q.Measure != Timed {
			continue
		}
		name := "Sparring"
		if b.sparringKind(l) != "sparring" {
			if name = padRounds(l, text); name == "" || q.Measure != RoundsTimed && !roundWord.MatchString(text) {
				return false
			}
			l.Said, l.Free = "combination", true
			if m := onWhat.FindString(text); m != "" {
				l.Setting = settingSaid("on " + check.Key(m))
			}
		}
		l.Name, l.Quantity, l.Role, l.Weight = name, q, Roles[0], 1
		parts := b.behind(l, []rune(", "+strings.TrimLeft(strings.Join(words[n:], " "), ",-–— ")+rest), 0)
		if l.Problem == "" {
			b.lineParts(l, parts, 1)
		}
		if l.Quantity != q && l.Quantity.Rest == q.Rest {
			l.doubt(fmt.Sprintf("there are two amounts, %s and %s; the last one is taken", q, l.Quantity))
		}
		b.finish(l, true)
		return true
	}
	return false
}

// ofOtherLines is what is wrong with a line that asks nothing itself.
const ofOtherLines = "this speaks of other lines; write what is asked, a line for each, or add a later part on the technique’s page"

// partSigns end a name and part what follows it; a tab or semicolon does as a comma does.
const partSigns = ",;\t"

// nameIn is where in a line the name stands. A known name may hold any sign; others end at a
// comma, a remark or a colon.
func (b *Book) nameIn(line []rune) (from, to int) {
	text := string(line)
	first := utf8.RuneCountInString(text[:listed(text)])
	ends := func(i int) bool { return endsName(line, i) }
	for _, from := range []int{0, first} {
		for to := min(len(line), from+2*check.NameLength); to > from; to-- {
			if t := b.Named(string(line[from:to])); ends(to) && t != nil && !(t.Kind == "stance" && b.movesFrom(line, to)) {
				return from, to
			}
		}
	}
	for to = first; !ends(to); to++ {
	}
	if stanceAlone.MatchString(string(line[first:to])) && b.movesFrom(line, to) {
		for to++; !ends(to); to++ {
		}
	}
	return first, to
}

// endsName reports whether a name ends before a sign of a line.
func endsName(line []rune, at int) bool {
	return at == len(line) || strings.ContainsRune(partSigns+"(", line[at]) || colon(line, at) || dash(line, at)
}

// movesFrom reports whether behind the comma after a stance what is done in it is named: Walking stance, low block.
func (b *Book) movesFrom(line []rune, comma int) bool {
	if comma == len(line) || line[comma] != ',' {
		return false
	}
	end := comma + 1
	for ; !endsName(line, end); end++ {
	}
	return slices.Contains([]Kind{"strike", "kick", "block"}, b.kindInName(check.Tidy(string(line[comma+1:end]))))
}

// stanceAlone is the name of a stance and nothing else.
var stanceAlone = pattern.Of(`(?i)^(?:in )?(?:an? )?(?:[\pL-]+ ){1,2}(?:stance|dachi|seogi|sogi|kubi)$|^(?:in )?\pL+-?(?:dachi|seogi)$`)

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
			if i+1 < len(rest) && rest[i+1] == '.' { // Broken Oar (right cross). Both sides.
				i++
				rest[i] = ','
			}
		case strings.ContainsRune(partSigns, rest[i]), rest[i] != ' ' && dash(line, from+i):
			rest[i] = ','
		case colon(rest, i):
			first, _, _ := strings.Cut(string(rest[i+1:]), ",")
			first, _, _ = strings.Cut(first, "(")
			if manyTechniques.MatchString(first) { // Against a wrist grab: 3 techniques
				rest[i] = ','
				continue
			}
			if _, err := ParseQuantity(first); err == nil && !(bare(first) && b.calls()) || err != nil && amountLeads(first) || markInWords.MatchString(check.Key(first)) { // Cross: 10 each hand; Squats: 20=good
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

// manyTechniques is how many of what is not named.
var manyTechniques = pattern.Of(`(?i)^ *(?:\d{1,2}|two|three|four|five) (?:different |own )?(?:techniques?|ways|defen[cs]es?|answers?|counters?)\.? *$`)

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
