package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Whether a line names several, or says how many.

// twoWays are two ways of doing something, in its name: Inward and outward elbow.
var twoWays = pattern.Of(`(?i)\b(?:upwards?|downwards?|forwards?|inwards?|outwards?|front|vertical|straight) (?:and|&) (?:sideways|downwards?|backwards?|upwards?|outwards?|diagonal|horizontal)\b|\b(?:inward|inside|inner|high|front|upward|rising|forward|vertical)s? ?(?:and|&|/|\+) ?(?:outward|outside|outer|low|back|rear|side|round|downward|backward|horizontal)s?\b|\b(?:outward|outside|outer|low|back|downward)s? ?(?:and|&|/|\+) ?(?:inward|inside|inner|high|front|upward)s?\b`)

// stopped is what a block or an evasion is called, without what it is done against: parry vs jab and cross.
func stopped(l *PageLine) string {
	if at := curriculum.AnswersWhat.FindStringIndex(l.Name); at != nil && at[0] > 0 && slices.Contains([]Kind{"block", "evasion", "footwork"}, l.Kind) {
		return l.Name[:at[0]]
	}
	return l.Name
}

// askNumber asks where a name may stand for several, or says how many.
func (b *Reader) askNumber(l *PageLine, words []string) {
	if (allOf.MatchString(l.Name) || ofARung.MatchString(l.Name)) && !slices.Contains(curriculum.SaidKinds, l.Kind) && b.Named(l.Name) == nil {
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	}
	if l.usual && l.New && l.Moves == "" && slices.Contains(append(curriculum.Basic, "footwork"), l.Kind) && (pointToWatch.MatchString(l.Name) && !wayBetween.MatchString(l.Text) || saidOfKnee.MatchString(l.Name) && !b.waysOfOneName(SplitParts(l.Text), l.Kind)) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s reads like how something is done; where it is, write it in brackets behind it", l.Name))
	}
	if l.New && (curriculum.Bare(l.Name) || l.Kind != "board_break" && sideOnly.MatchString(l.Name)) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read as a name; write what is asked, and how much behind it", l.Name))
	}
	if l.Kind == "self_defence" && l.New && (whatToDo.MatchString(l.Name) && !curriculum.AttackerActs.MatchString(strings.ToLower(l.Name)) || strings.HasSuffix(l.Note, "?")) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like a question; where it is told and not shown, write “knowledge question” on the line", l.Name, cmp.Or(l.Section, "it")))
	}
	if l.Kind == "self_defence" && l.New && len(l.Attack) == 0 && knifeAlone.MatchString(l.Name) && !b.answersWeapon(l) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read without an attack; write how the knife comes, for example knife thrust, knife slash, knife from above", l.Name))
	}
	kicks := func(a curriculum.AttackElement) bool { return b.Program.NatureOf(a.Kind) == "kick" }
	if l.Kind == "self_defence" && l.New && anyKick.MatchString(l.Name+" ("+l.Note+")") && !slices.ContainsFunc(l.Attack, kicks) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s does not say which kick is answered; write for example front kick or round kick", l.Name))
	}
	said := fmt.Sprintf("%s %d", l.Name, l.Quantity.Reps)
	stops := slices.Contains([]Kind{"block", "evasion"}, l.Kind) && l.Quantity.Measure == curriculum.RepsInAll && strings.Contains(strings.ToLower(l.Text), strings.ToLower(said))
	if m := stopsNumber.FindStringSubmatch(said); m != nil && l.New && stops && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read as the amount; where it is the number of the punch, write which punch it is, for example %s vs jab", m[2], check.Tidy(m[1])))
	}
	if l.Kind == "knowledge" && l.New && whatWouldYouDo.MatchString(l.Name) {
		l.doubt(fmt.Sprintf("%s is read as a question to be answered; where it is shown, write “self-defence” on the line", l.Name))
	}
	b.askWhichForm(l)
	if m := handOrFoot.FindString(l.Name); m != "" && l.Kind == "board_break" && l.New && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("“%s” leaves a choice and names nothing; write the technique that breaks the board, or “board break” before it", m))
	}
	if m := leftToChoose.FindString(l.Name); m != "" && slices.Contains(curriculum.Basic, l.Kind) && l.Moves == "" && l.New && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("“%s” leaves a choice; write the one that is asked, or a line for each", m))
	}
	if (l.Kind == "strike" && inTurn.MatchString(l.Name) || slices.Contains(curriculum.Basic, l.Kind) && l.Said == "" && thenMove.MatchString(l.Name)) && l.Moves == "" && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like a combination; write “combination” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
	if sentences.MatchString(l.Name) {
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	}
	if andOne.MatchString(l.Name) && l.New && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	}
	if m := twoWays.FindString(l.Name); m != "" && !(l.Kind == "stance" && strings.HasPrefix(strings.ToLower(m), "forward")) && (slices.Contains(curriculum.Basic, l.Kind) || l.Kind == "self_defence" && strings.ContainsAny(m, "/&")) && l.Moves == "" && b.Named(l.Name) == nil && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("“%s” may mean two of them; write a line for each", m))
	}
	if is := b.KindInName(l.Name); l.Said == "" && is == "combination" && slices.Contains(curriculum.Basic, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like a combination; write “combination” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
	if b.joined(stopped(l)) && l.Moves == "" && !slices.Contains([]Kind{"self_defence", "knowledge", "evasion", "character", "courtesy"}, l.Kind) {
		l.doubt(fmt.Sprintf("%s may name several; write a line for each, or a combination’s name and its moves after a colon", l.Name))
	}
	if l.usual && l.Moves == "" && l.Note == "" && saysNumber.MatchString(l.Name) && l.Kind != "character" && !strings.HasSuffix(l.Name, "?") && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s says a number; where that is the amount, put a comma before it", l.Name))
	}
	if l.usual && l.Moves == "" && l.Said == "" && !slices.Contains(curriculum.SaidKinds, l.Kind) && beginsNumber.MatchString(l.Name) && !(l.Kind == "self_defence" && manyPeople.MatchString(l.Name)) && !ofSoMany.MatchString(l.Name) && !((l.Kind == "form" || l.Kind == "self_defence" && (len(l.Attack) > 0 || l.Note != "" && (strings.Contains(l.Text, "(") || strings.Contains(l.Text, " - ") || strings.Contains(l.Text, " – ")) || l.Kind == "self_defence" && strings.Contains(l.Text, ": "))) && len(words) > 1 && len(words) <= mostListed && titled(words)) && !numberOfParts.MatchString(l.Name) && !turnOf.MatchString(l.Name) && !strings.HasSuffix(l.Name, "?") && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s begins with a number; where that is the amount, write it behind the name", l.Name))
	}
}

// anyKick is a kick of an attacker's that is not said to be any of them.
var anyKick = pattern.Of(`(?i)(?:\(|against an? |vs\.? an? |vs\.? |, |from an? )(?:left |right |lead |rear )?kick(?:\)|,|$)`)

// stopsNumber is what is done about a punch, with a number that may be the punch's.
var stopsNumber = pattern.Of(`(?i)^((?:slip|parry|catch|roll|duck|check|cover)(?: (?:inside|outside|left|right))?) ([1-8])$`)

// knifeAlone is an attack with a knife of which nothing says how it comes.
var knifeAlone = pattern.Of(`(?i)^(?:(?:defen[cs]e )?(?:against|from|vs\.?|to) (?:an? )?)?(?:knife|knives)(?: (?:attacks?|defen[cs]es?))?$`)

// manyPeople begins what several people do.
var manyPeople = pattern.Of(`(?i)^(?:two|three|2|3) (?:(?:people|persons|men|man|attackers|opponents|hands) \pL|attackers$|opponents$)`)

// saysChoice reports whether a name says that it is chosen.
func saysChoice(name string) bool {
	return strings.Contains(strings.ToLower(name), "choice") || ofChoice.MatchString(name)
}

// ofItsMoves is a form and which of its moves: Little Mountain steps 1-8.
var ofItsMoves = pattern.Of(`(?i)^(.+?) ((?:steps|moves|movements|counts) \d{1,2} ?(?:-|–|to) ?\d{1,2})$`)

// askSeveral asks where several are named, one is chosen, or a number is left in the name.
func (b *Reader) askSeveral(l *PageLine) {
	if l.Kind == "combination" && l.New && l.Moves == "" && !l.Free && hyphenRow.MatchString(l.Name) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s may be its moves; write a name, a colon and the moves, for example Combination 1: front kick, round kick", l.Name))
	}
	if first, _, _ := strings.Cut(l.Note, ", "); l.Kind == "combination" && l.New && l.Moves == "" && !l.Free &&
		b.KindInName(l.Name) == "" && !titled(strings.Fields(l.Name)) && slices.Contains([]Kind{"strike", "kick"}, b.KindInName(first)) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("“%s” is read as a remark on %s; where both are its moves, write a name, a colon and the moves", first, l.Name)) // Fake low, punch high
	}
	if l.Kind == "self_defence" && l.New && b.fromSeveral(l.Name, strings.Split(l.Note, ", ")) {
		l.doubt(fmt.Sprintf("“%s, %s” may be several; write a line for each", l.Name, l.Note))
	}
	if first, rest, row := strings.Cut(l.Moves, ", "); row && l.New && l.Kind == "combination" && curriculum.AnswersWhat.MatchString(first) && strings.HasPrefix(l.Name, first) && len(l.Attack) == 0 {
		l.doubt(fmt.Sprintf("“%s” may be done too, or be what is answered too; write a name and its moves after a colon, or for example %s and %s", rest, first, rest))
	}
	if words := strings.Fields(check.Key(l.Name)); l.New && len(words) > 2 && len(slices.Compact(words)) == 1 { // punch punch punch
		l.doubt(fmt.Sprintf("%s is one word %d times; write it once, and behind it how often, for example %d in all", l.Name, len(strings.Fields(l.Name)), len(strings.Fields(l.Name))))
	}
	for part := range strings.SplitSeq(l.Note, ", ") {
		if t := b.Named(part); t != nil && (slices.Contains(curriculum.Basic, l.Kind) || l.Kind == "form" && t.Kind == l.Kind) && t.Kind != "stance" && b.KindInName(part) != "stance" {
			l.doubt(fmt.Sprintf("“%s” is read as a remark and is a technique; where this is a combination, write its name and after a colon its moves", t.Name))
			break
		}
	}
	if parts := strings.Split(l.Name, "-"); len(parts) > 1 && l.Moves == "" && l.Said != "combination" && !slices.ContainsFunc(parts, func(p string) bool { return b.Named(check.Tidy(p)) == nil }) {
		l.doubt(fmt.Sprintf("%s may name several; write a line for each, or a combination’s name and its moves after a colon", l.Name))
	}
	if l.Kind == "self_defence" && manyAttacks.MatchString(l.Name) && l.Moves == "" && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	}
	if twoHeads.MatchString(curriculum.DoneIn.ReplaceAllString(l.Name, "$1")) && !curriculum.JoinsOn.MatchString(l.Name) && slices.Contains(curriculum.Basic, l.Kind) && l.Moves == "" && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s may name several; write a line for each, or a combination’s name and its moves after a colon", l.Name))
	}
	if l.Kind == "combination" && b.byNumbers(l.Name) {
		return
	}
	if severals.MatchString(movesFrom.ReplaceAllString(stepsFirst.ReplaceAllString(l.Name, ""), "")) && l.Moves == "" && !(l.Kind == "knowledge" && strings.Contains(strings.ToLower(l.Name), "count")) && !countsTo.MatchString(l.Name) {
		if m := ofItsMoves.FindStringSubmatch(l.Name); m != nil && l.Kind == "form" {
			l.doubt(fmt.Sprintf("“%s” is a part of %s; write its name and, for example, stage 1, once its parts are on its page, or put a comma behind its name where that is a remark", m[2], m[1]))
			return
		}
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	}
	if saysChoice(l.Name) && !slices.Contains(curriculum.SaidKinds, l.Kind) && !l.Free {
		l.doubt("where the candidate chooses, write the name of what is chosen from and “free choice”")
	}
	if anyOfThem.MatchString(l.Note) && slices.Contains([]Kind{"form", "self_defence", "partner_set"}, l.Kind) && !l.Free && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where the candidate chooses, write the name of what is chosen from and “free choice”", l.Note))
	}
	if told := curriculum.SaidKinds; !l.Free && (!slices.Contains(told, l.Kind) || anyOf.MatchString(l.Name)) && l.Series == "" && len(l.Doubts) == 0 && l.Moves == "" && strings.ContainsFunc(numberWithin.ReplaceAllString(stepsOf.ReplaceAllString(turnOf.ReplaceAllString(l.Name, ""), ""), ""), unicode.IsDigit) {
		l.doubt(fmt.Sprintf("the name %s holds a number; where that is an amount, put a comma before it", l.Name))
	}
}

// hyphenRow are two moves with a hyphen between: front-round.
var hyphenRow = pattern.Of(`(?i)\b(?:front|round|side|hook|axe|crescent|spinning|jab|cross)-(?:front|round|side|back|hook|axe|crescent|spinning|jab|cross)\b`)

// anyOfThem lets somebody choose.
var anyOfThem = pattern.Of(`(?i)^(?:any|either|choose|pick)(?: (?:one|two|three|four|five|\d)(?: of (?:them|these))?)?$|\b(?:your|own|examiner'?s|panel'?s) choice\b`)

// stepsFirst is a number that belongs to a name: 3-step 1.
var (
	stepsFirst = pattern.Of(`^\d-`)
	stepsOf    = pattern.Of(`(?i)^\d[- ]steps? (?:\pL+ ?)*(?:\d{1,2}$)?`)
)

// movesFrom are the moves of a form from one to another: bunkai of moves 1-6.
var movesFrom = pattern.Of(`(?i)\b(?:of|from|for) (?:the )?(?:moves|movements|steps|counts) \d{1,2} ?(?:[-–]|to) ?\d{1,2}\b`)

// numberWithin is a number that belongs to a name: 45 degrees, 5-punch combination, 2 on 1 sparring, against 2 attackers.
var numberWithin = pattern.Of(`(?i)\bk-?1\b|\b(?:moves|movements|steps|counts) \d{1,2} ?(?:[-–]|to) ?\d{1,2}\b|\bfirst \d{1,2} (?:moves?|movements?` +
	`|steps?|counts?|techniques?)\b|\b\d{1,2} ?oz\b|\bin \d (?:directions|ways)\b|\b\d{1,3} ?(?:°|degrees?\b)|\b\d{1,2}-(?:punch|kick|strike|hit|count` +
	`|point|piece|move|block|man|person|direction|way|angle|corner|gate)s?\b|\b\d (?:on|vs\.?|v|against) \d \pL|\bon 1 (?:foot|leg|knee|hand|arm)\b` +
	`|\pL \d (?:attackers|opponents|people|partners|assailants)\b`)

// ofSoMany is a name that says of how many one thing is: four direction punch.
var ofSoMany = pattern.Of(`(?i)^(?:two|three|four|five|six|seven|eight|nine|ten|twelve)[ -](?:direction|directional|part|point|way|corner|gate|finger|hand|handed|knuckle|stage) \pL`)

// beginsNumber is a name that says first how many.
var beginsNumber = pattern.Of(`(?i)^(?:one|two|three|four|five|six|seven|eight|nine|ten|twelve|fifteen|twenty|any|\d+) \p{L}`)

// numberOfParts is a number that belongs to a name: two finger poke.
var numberOfParts = pattern.Of(`(?i)^(?:one|two|three|four|five|\d)[ -](?:fingers?|hands?|handed|arm|armed|legs?|legged|knuckles?|points?|steps?|ways?|man|person|on)\b`)

// anyOf lets somebody choose: any 3 terms.
var anyOf = pattern.Of(`(?i)\bany\b`)

// saysNumber is a name that says how many of what is counted.
var saysNumber = pattern.Of(`(?i)\b(?:one|two|three|four|five|six|seven|eight|nine|ten|a|\d+) (?:bouts?|rounds?|times|reps|sets|minutes?|seconds?|lengths?|laps?)\b`)

var (
	// manyAttacks is a number of attacks or answers: from two wrist grabs and one choke.
	manyAttacks = pattern.Of(`(?i)\b(?:two|three|four|five|six|[2-9]|1\d|any|several|various|different) (?:\pL+ )?(?:grabs|chokes|holds|attacks|punches|kicks|hugs|locks|escapes|releases|defen[cs]es|techniques|ways|throws|answers|responses)\b`)
	// twoHeads are two names without a sign between them: front kick side kick.
	twoHeads = pattern.Of(`(?i)\pL+ (?:kick|punch|block|strike)(?: and)? (?:\pL+ ){0,4}(?:kick|punch|block|strike|stance|hand|fist|elbow)$|\b(?:jab|cross|uppercut|hook) (?:jab|cross|uppercut|hook)\b`)
)

// ofChoice is what the candidate brings, or one of several.
var ofChoice = pattern.Of(`(?i)^(?:own|your|my|their|his or her|one of|any of|either|some|another|any (?:one|other)) `)

// sideOnly is a name that is only a letter, a side or a word of amounts.
var sideOnly = pattern.Of(`(?i)^(?:\pL|left|right|legs?|hands?|arms?|sides?|foot|feet|times|reps)$`)

// whatToDo begins a question of what is to be done: what to do if somebody follows you.
var whatToDo = pattern.Of(`(?i)^(?:what|when|where|who|how|why)(?: |$)`)

// whatWouldYouDo asks for an answer to an attack, which may be shown: A partner pushes you. What do you do?
var whatWouldYouDo = pattern.Of(`(?i)\b(?:grabs?|holds?|push(?:es)?|punch(?:es)?|kicks?|chokes?|hits?|attacks?|pulls?)\b.*\bwhat (?:do|would|will|can) you do\b`)

// pointToWatch is how something is done, as one tells it: Bring the knee up.
var pointToWatch = pattern.Of(`(?i)^(?:bring|keep|turn|pull|push|lift|raise|bend|straighten|point|look|land|snap|rotate|pivot|extend|drop|relax|tuck|lean|lock|squeeze|drive|put|get|let|move|swing|close|open) (?:on |with |at |over |from |into )?(?:the|your|his|her|their|both|one|each) \pL`)

// saidOfKnee is how a limb is held, or an exclamation: knee high, pivot!
var saidOfKnee = pattern.Of(`(?i)^(?:knees?|elbows?|fists?|palms?) (?:high|low|up|down|in|out|allowed|bent|straight|first|forward|back|together|level)$|^\pL+!$`)

// allOf is a name for several: all forms.
// ofARung names what another rung asks: Orange belt techniques in the air.
var ofARung = pattern.Of(`(?i)^(?:white|yellow|orange|green|blue|purple|brown|red|black) (?:belt |stripe )?(?:techniques|forms|kicks|blocks|strikes|combinations|material|requirements|self[- ]defen[cs]e)\b`)

var allOf = pattern.Of(`(?i)^(?:all|every) `)

// andOne names one more of a kind: Long Lake and one free form.
var andOne = pattern.Of(`(?i).+ and one (?:\pL+ )?(?:form|kata|pattern|set|throw|lock|combination)\b`)

// sentences are names that stand as sentences, one behind the other: Jab. Cross. Hook.
var sentences = pattern.Of(`\pL\. +\pL.*\pL\. +\pL|^[Oo]ne .+ and (?:one|another) `)

var joinedBy = pattern.Of(`\s*(?:&|\+|/)\s*|\s+and\s+|[–—]`)

// withShort is "w/ both arms", which names one.
var withShort = pattern.Of(`(?i)\bw/ ?`)

// joinedIdiom are names of one thing that hold an "and".
var joinedIdiom = pattern.Of(`(?i)\b(?:bob|duck|slip|bend)(?:bing|ing)? (?:and|&) (?:weav(?:e|ing)|roll|duck|cover)\b|\bbow(?:ing)? in (?:and|&) out\b` +
	`|\bstep (?:and|&) (?:slide|drag)\b|\b(?:forwards?|fwd|up|left) ?(?:/|and|&|\+) ?(?:back(?:wards?)?|down|right)$|\broll(?:s|ing)? (?:\pL+ )?(?:and` +
	`|&) (?:stand|get)(?:s|ing)? up\b|\bfall(?:s|ing)? (?:\pL+ )?(?:and|&) slap\b`)

// joined reports whether a name joins several: by a sign, or by "and" where each tells a kind or is known.
func (b *Reader) joined(name string) bool {
	parts := joinedBy.Split(withShort.ReplaceAllString(name, "with "), -1)
	if len(parts) < 2 || slices.Contains(parts, "") || joinedIdiom.MatchString(name) {
		return false
	}
	if !strings.Contains(strings.ToLower(name), " and ") {
		return true
	}
	if slices.ContainsFunc(parts, func(part string) bool { return slices.Contains(curriculum.SaidKinds, b.KindInName(part)) }) {
		return false
	}
	for _, part := range parts {
		if b.Named(part) == nil && b.KindInName(part) == "" {
			return false
		}
	}
	return true
}
