package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// pageLine reads one line that is no heading: the name, the parts behind it, a remark in
// parentheses, and after a colon the moves.
func (b *Reader) pageLine(l *PageLine) {
	if l.namesNothing(); l.Problem != "" {
		return
	}
	line := []rune(l.Text)
	if b.sparringKind(l) == "knowledge" && countsTo.MatchString(l.Text) || leadsFor.MatchString(l.Text[listed(l.Text):]) {
		l.nameEnd = len(line)
	}
	if k := b.sparringKind(l); (slices.Contains([]Kind{"sparring", "combination", ""}, k) || k == "fitness" && l.under.setting != "") && b.roundsAlone(l, line) {
		return
	}
	from, to := b.nameIn(line)
	if to = b.toldTo(l, line, to); l.nameEnd > 0 {
		to = l.nameEnd
	}
	l.Name = strings.TrimRight(check.Tidy(string(line[from:to])), ". –—-")
	if utf8.RuneCountInString(l.Name) > check.NameLength || l.Name == "" {
		l.fail(1, fmt.Sprintf("a technique's name of up to %d characters comes first", check.NameLength))
		return
	}
	l.Role, l.Weight = curriculum.Roles[0], 1
	rest := b.behind(l, line, to)
	if m := asksBehind.FindStringSubmatch(l.Moves); m != nil && b.Named(l.Name) == nil && (m[1] != "" || l.under.mixed || b.sparringKind(l) == "knowledge") { // Legal: what is reasonable force?
		l.note(l.Name)
		l.Name, l.Moves, l.Said = capitalised(l.Moves), "", cmp.Or(l.Said, "knowledge")
	}
	if curriculum.KindInWords(l.Name) != "partner_set" {
		if !slices.Contains(curriculum.SaidKinds, b.sparringKind(l)) { // Translate: age uke, gedan barai
			l.Moves = b.heightsInMoves(l.Moves)
		}
	}
	combination := lonelyName.MatchString(l.Name) || b.KindInName(l.Name) == "combination"
	if timesAlone.MatchString(l.Name) { // 2 x 90 sec, under Forms
		l.fail(1, "this says how much and not of what; write the name before it, or a heading such as Sparring above it")
		return
	}
	if (curriculum.Bare(l.Name) || letterAlone.MatchString(l.Name)) && l.Moves != "" && b.sparringKind(l) == "combination" { // 1: jab, cross
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

// leadsFor is what one leads or teaches for a time, which belongs to what it is: teach a 10 minute warm up.
var leadsFor = pattern.Of(`(?i)^(?:teach|lead|run|give|take) an? \d{1,2}[ -]?min(?:ute)?s?\b`)

// timesAlone is half of an amount.
var timesAlone = pattern.Of(`(?i)^x ?\d{1,3}$`)

// namesNothing fails a line that asks nothing itself: it speaks of others, of a rest or of a part.
func (l *PageLine) namesNothing() {
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
	if said := l.Text[listed(l.Text):]; partAsked.MatchString(said) && !stepsName.MatchString(said) {
		l.fail(1, "this asks a part of a technique; write the name of the whole and, for example, stage 1, once its parts are on its page")
		return
	}
}

// stepsName ends what is called so: Form: First Steps.
var stepsName = pattern.Of(`\b(?:First|Second|Third|Last) (?:Steps|Moves|Movements)$`)

// letterAlone is the letter of one of several.
var letterAlone = pattern.Of(`^[A-H]$`)

// heightsInMoves is moves with the heights that words of the second language mean: mae geri chudan is mae geri mid. Moves of which one
// names only a height, or nothing that is known, stay as they are.
func (b *Reader) heightsInMoves(moves string) string {
	parts := strings.Split(moves, ",")
	for i, part := range parts {
		name, levels, _ := b.Glossed(part)
		if kind := b.KindInName(name); kind == "" || len(levels) > 1 {
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

// limbHead is a heading of strikes of one limb, and wayAlone a way of them by itself.
var (
	limbHead = pattern.Of(`(?i)^(elbow|knee)s?(?: strikes?| techniques?)?:?$`)
	wayAlone = pattern.Of(`(?i)^(?:` + strikeWay + `|front|rear|lead|long|spear|curved?|flying|jumping|spinning)(?: (?:lead|rear|jumping|spinning))?$`)
)

// shortAlone is a name that leaves out the word of its heading.
var shortAlone = pattern.Of(`(?i)^(?:front|back|rear|side|round|turning|reverse turning|hook|axe|crescent|push|inside|outside|inward|outward|upward|downward|rising|high|low|middle|mid|upper|lower|horse|cat|crane|walking|fighting|jumping front|jump front|spinning back|spinning side|spinning hook)$`)

// asksBehind is a question behind a label, or what is to be told there.
var asksBehind = pattern.Of(`(?i)^(?:what|why|how|who|when|where|which|name|explain)\b.*\?$|^(explain|describe|discuss|tell (?:us|me|the panel)) \pL.*$`)

// timesBehind is how often, at the end.
var timesBehind = pattern.Of(`^(.*\pL) [x×] ?(\d{1,2})$`)

// amountBehind takes an amount out of the end of the moves of a line: Combo 1: jab, cross, 5 a side.
func (l *PageLine) amountBehind() bool {
	if m := bracketBehind.FindStringSubmatch(l.Moves); m != nil { // low block, front kick (five times each side)
		if q, err := curriculum.ParseQuantity(m[2]); err == nil && !curriculum.Bare(m[2]) {
			l.Quantity, l.Moves = q, m[1]
			return true
		}
	}
	if m := dashedAmount.FindStringSubmatch(l.Moves); m != nil && curriculum.IsAmount(m[2]) && !curriculum.Bare(m[2]) { // jodan, chudan, mae geri - 1 each
		l.Quantity, _ = curriculum.ParseQuantity(m[2])
		l.Moves = m[1]
		return true
	}
	at := strings.LastIndex(l.Moves, ",")
	if m := timesBehind.FindStringSubmatch(l.Moves); m != nil && at < 0 && curriculum.KindInWords(l.Name) == "partner_set" { // Kihon ippon kumite: jodan oi zuki x 2
		l.Quantity, _ = curriculum.ParseQuantity("x" + m[2])
		l.Moves = m[1]
		return true
	}
	if at <= 0 {
		return false
	}
	said := eachFirst.ReplaceAllString(strings.TrimSpace(l.Moves[at+1:]), "")
	words := strings.Fields(said)
	if i, j := amountAt(words); i > 0 && j == len(words) && strings.ContainsFunc(strings.Join(words[i:j], ""), func(r rune) bool { return '3' <= r && r <= '9' }) { // front kick, round kick x 4; x 2 may be of the last move
		q, err := curriculum.ParseQuantity(strings.Join(words[i:j], " "))
		if err == nil {
			l.Quantity, l.Moves = q, strings.TrimRight(strings.TrimSpace(l.Moves[:at+1])+" "+strings.Join(words[:i], " "), " -–—x×")
			return true
		}
	}
	q, err := curriculum.ParseQuantity(said)
	if err != nil || curriculum.Bare(said) {
		return false
	}
	l.Quantity, l.Moves = q, strings.TrimSpace(l.Moves[:at])
	return true
}

// limbsAlone are knees or elbows, with how often.
var limbsAlone = pattern.Of(`(?i)^(knee|elbow)s$`)

// amountNoted takes the amount of a line out of the first of its remarks, where it says one and nothing else of the line does; it reports whether
// the line has one.
func (b *Reader) amountNoted(l *PageLine, amount bool) bool {
	amount = amount || l.Quantity.Measure != "" // in brackets: (10 combos each side)
	first, note, _ := strings.Cut(l.Note, ",")
	if q, err := curriculum.ParseQuantity(first); !amount && err == nil && (!curriculum.Bare(first) || b.sparringKind(l) == "fitness") { // Front kick (10 each leg, chambered)
		l.Quantity, l.Note, amount = q, check.Tidy(note), true
	}
	if said, more, _ := strings.Cut(l.Note, ", "); !amount && curriculum.SetsAndReps.MatchString(check.Key(said)) { // Light sparring (3 x 2)
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
func (b *Reader) finish(l *PageLine, amount bool) {
	if l.Problem != "" {
		return
	}
	amount = b.amountNoted(l, amount)
	if b.Named(l.Name) == nil && slices.Contains(amounted, b.KindInName(l.Name)) {
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
	if b.trackOnly(&PageLine{}, check.Key(l.Name)) {
		l.fail(1, fmt.Sprintf("“%s” says for whom; the name of what is asked comes first, then for example not for Cubs", l.Name))
		return
	}
	if m := limbsAlone.FindStringSubmatch(l.Name); m != nil && amount && b.Named(l.Name) == nil { // 10 knees each leg
		l.Name = capitalised(strings.ToLower(m[1]))
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
	b.whichOne(l)
	l.roundsOfThing(b.sparringKind(l))
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
		if l.Quantity.Measure == curriculum.RepsPerSide && l.sided {
			l.Quantity.Measure = curriculum.RepsInAll
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

// oneOf names one of several: of what is known, or of which so many are asked, Front kicks x 5.
func (b *Reader) oneOf(l *PageLine, amount bool) {
	if words := strings.Fields(l.Name); l.Plain || b.Named(l.Name) != nil || len(words) > 0 && curriculum.FigureWords[strings.ToLower(words[0])] != "" { // Three punches
		return
	}
	one := oneOfMany.ReplaceAllString(l.Name, "$1")
	if known := strings.TrimSuffix(l.Name, "s"); b.Named(known) != nil {
		l.Name = known
	} else if amount && strings.Contains(one, " ") && slices.Contains(curriculum.Basic, b.KindInName(one)) {
		l.Name = one
	}
}

// wholeName gives a name the word of its heading where it leaves that out, and the signs that it is known with.
func (b *Reader) wholeName(l *PageLine) {
	if t := b.alike(l.Name); t != nil && b.Named(l.Name) == nil {
		l.Name = t.Name
	}
	kind, known := b.sparringKind(l), b.Named(l.Name)
	if headNouns[kind] != "" && shortAlone.MatchString(l.Name) && !l.Plain && (known == nil || known.Kind != kind) { // Front, under Kicks; hook, which is a punch elsewhere
		l.Name += " " + headNouns[kind]
		l.Name = b.single(l.Name)
	}
	if l.under.limb != "" && kind == "strike" && known == nil && wayAlone.MatchString(l.Name) && !l.Plain { // Horizontal, under Elbows
		l.Name += " " + l.under.limb
	}
	if kind == "lock" && b.Named(l.Name) == nil && !l.Plain { // Wrist, under Locks
		l.Name = withHead("", l.Name, "lock")
	}
}

// whichOf names one of several that are told apart by what is noted.
func (b *Reader) whichOf(l *PageLine) {
	if t := b.Named(l.Name + ", " + l.Note); l.Note != "" && t != nil { // Wrist grab (cross), beside Wrist grab (straight)
		l.Name, l.Note = t.Name, ""
	}
}

var (
	// heightIn is a height that is attacked, by a word that names no move.
	heightIn = pattern.Of(`(?i)\b(?:jodan|chudan|gedan)\b`)
	// foreignAttack is an attack in the words of a system.
	foreignAttack = pattern.Of(`(?i)^(?:\pL+ ){0,2}(?:geri|zuki|tsuki|chagi|jireugi|uchi)(?: (?:keage|kekomi|jodan|chudan|gedan))?$`)
)

// oneSideOnly is a remark that only one side is shown.
var oneSideOnly = pattern.Of(`(?i)^(?:(?:right|left|strong|weak|r|l) (?:side|hand|leg|foot|lead)?s? ?only|both sides|either side|both ways)$`)

var (
	askedTail = pattern.Of(`(?i)^(.+?) (if (?:asked|time|time allows|requested|called|needed)|(?:when|where) asked|on request)$`)
	shoutTail = pattern.Of(`(?i)^(.+?) ((?:w/|with) ?(?:a )?(?:loud |strong |big )?(?:kiai|kihap|shout|yell|voice)|with (?:deep |slow |correct ` +
		`|proper )?(?:breathing|hip twist|hip rotation|full power)|(?:all )?alone|without (?:any )?(?:help|assistance|prompting|mistakes?|stopping|support|reminding|reminders?))$`)
	holdingTail = pattern.Of(`(?i)^(.+?) (with (?:some )?(?:help|support)|(?:while )?hold(?:ing)? (?:on ?)?(?:to )?(?:a |the |my |your )?(?:wall|chair|bar|barre|rail|partner|hand).*)$`)
)

// kindOf is the kind that a line will have, as far as its heading and its words tell.
func (b *Reader) kindOf(l *PageLine) Kind {
	return cmp.Or(l.Said, b.sparringKind(l), b.KindInName(l.Name))
}

var (
	saysHow = pattern.Of(`(?i)^(?:(?:on|onto|in|into|with|without|from|to|at|as|by|for|under|over|after|before|against|vs|versus|no|not|any|(?:knees?|hands?|hips?|elbows?` +
		`|fists?)(?: (?:tight|covered|closed|clenched|relaxed|above|level|flexed|still|tucked|loose|up|down|in|out|high|low|bent|straight|together|apart|open|closed|first` +
		`|back|forward|over|on|at|off|behind|turned|square|by|touching|crossed|tight|locked|must|should|is|are|stays?|turns?|goes)\b|s?$)|toes|heels?(?: (?:down|up|out|in))?$` +
		`|eyes|guard|same|each|both|all|until|while|when|then|and|or|like|of|off|if|through|via|using|keep|keeps|hold|holds|low|high|mid|light|full|new|again|slow|slower|fast` +
		`|faster|stronger|smoother|sharper|deeper|harder|better|one|two|three|left|right|lead|rear|slap|tap|(?:shoulders?|chin|chest|weight|shin|wrist) (?:tight|covered` +
		`|relaxed|tucked|level|even|up|down|on|over|straight|is|stays))\b|\W|\d)`)
	inStance   = pattern.Of(`(?i)\b(?:in(?:to)? |to )?\w+ stance\b`)
	heightSaid = pattern.Of(`(?i)\b(?:height|level|high)\b`)
	bareWord   = pattern.Of(`^\p{L}{2,}$`)
)

// totalNamed takes the total out of a name where as much a side is said: 30 front kicks (15 R, 15 L).
func (l *PageLine) totalNamed() {
	words := slices.DeleteFunc(strings.Fields(l.Name), func(w string) bool { return w == "x" || w == "×" })
	last, total := len(words)-1, strconv.Itoa(2*l.Quantity.Reps)
	switch {
	case l.Quantity.Measure != curriculum.RepsPerSide || last < 1:
	case words[0] == total:
		l.Name = capitalised(oneOfMany.ReplaceAllString(strings.Join(words[1:], " "), "$1"))
	case words[last] == total:
		l.Name = strings.Join(words[:last], " ")
	}
}

// exercise reads a fitness item: a number behind it is how often, "Burpees 15", and what it is done on is
// a remark, "push-ups on my knees".
func (b *Reader) exercise(l *PageLine, amount bool) bool {
	words := strings.Fields(l.Name)
	last := len(words) - 1
	if l.Plain || b.Named(l.Name) != nil || last < 0 {
		return amount
	}
	n, err := strconv.Atoi(words[last])
	counted := !amount && last > 0 && err == nil && n >= leastCount && !numbering.MatchString(words[last-1])
	if name := strings.Join(words[:max(last, 0)], " "); counted && b.Named(name) != nil && slices.Contains(counts, b.Named(name).Kind) { // Front kick 10
		l.Quantity, l.Name = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: n}, name
		return true
	}
	if b.sparringKind(l) != "fitness" && curriculum.KindInWords(l.Name) != "fitness" {
		return amount
	}
	if at := onPart.FindStringIndex(l.Name); at != nil && at[0] > 0 {
		l.note(check.Tidy(l.Name[at[0]:]))
		l.Name = l.Name[:at[0]]
	}
	if counted {
		l.Quantity, l.Name = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: n}, strings.Join(words[:last], " ")
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

// usualAmount is what a line without an amount asks: boards once, what its heading says, or what is usual
// for its kind.
func (l *PageLine) usualAmount() curriculum.Quantity {
	switch {
	case l.Setting == curriculum.Boards:
		return curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}
	case l.under.amount != nil:
		return *l.under.amount
	}
	q := curriculum.DefaultAmount(l.Kind)
	if l.oneSide() && q.Measure == curriculum.RepsPerSide {
		q.Measure = curriculum.RepsInAll // there is no other side
	}
	if l.Kind == "breakfall" && q.Measure == curriculum.RepsInAll && (l.Sides == curriculum.BothSides || slices.ContainsFunc(strings.Split(l.Note, ", "), onEach.MatchString)) { // Side fall, left and right
		q.Measure = curriculum.RepsPerSide
	}
	return q
}

// onEach is a remark that something is shown on both sides.
var onEach = pattern.Of(`(?i)^(?:on )?(?:both|both sides|each side|left (?:and|&|/) ?right|right (?:and|&|/) ?left|l ?[/&+] ?r|r ?[/&+] ?l)$`)

// oneSide reports whether what is asked is trained on the left or on the right alone.
func (l *PageLine) oneSide() bool {
	return l.Sides == curriculum.LeftOnly || l.Sides == curriculum.RightOnly
}

// alike is the technique whose name differs by hyphens and spaces alone; nil where there is
// none or several are.
func (b *Reader) alike(name string) (out *curriculum.Technique) {
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

// countsTo is a question that asks to count, whose numbers are no amount: count 1 - 10.
var countsTo = pattern.Of(`(?i)^\W*(?:\d{1,2}[.)] )?(?:\pL+ )?count(?:ing)? (?:in \pL+ )?(?:from |to )?\d+(?: ?(?:-|–|to) ?\d+)?[^,;(]*$`)

// sparringKind is the kind that a line's heading gives it.
func (b *Reader) sparringKind(l *PageLine) Kind {
	return cmp.Or(l.under.kind, b.kindIn(l.Section))
}

// ofOtherLines is what is wrong with a line that asks nothing itself.
const ofOtherLines = "this speaks of other lines; write what is asked, a line for each, or add a later part on the technique’s page"

// partSigns end a name and part what follows it; a tab or semicolon does as a comma does.
const partSigns = ",;\t"

// calls reports whether a technique of the program has a call number.
func (b *Reader) calls() bool {
	return slices.ContainsFunc(b.Techniques, func(t curriculum.Technique) bool { return t.Call > 0 })
}
