package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Settle finds the technique a line names and the section it goes to; what is wrong is the
// line's problem.
func (b *Reader) Settle(l *PageLine) {
	t := b.Named(l.Name)
	switch {
	case t != nil:
		l.TechniqueID, l.Kind, l.Name = t.ID, t.Kind, t.Name
		l.onBoards(b.sparringKind(l))
		if s := curriculum.SectionFor(b.Sections, "form"); s != nil && t.Kind == "form" && l.under.kind == "partner_set" { // Kicking set, under Sets
			l.Section = s.Name
		}
		if l.Term != "" && t.Term != "" && check.Key(l.Term) != check.Key(t.Term) {
			l.fail(1, fmt.Sprintf("%s is known by the term %s; change it on its page", t.Name, t.Term))
		}
		if l.Sides != "" && t.Sides != "" && l.Sides != t.Sides {
			l.fail(1, fmt.Sprintf("%s is known as trained on %s; change it on its page", t.Name, t.Sides.Words()))
		}
		if l.Said != "" && l.Said != t.Kind {
			l.fail(1, fmt.Sprintf("%s is known as a %s; change it on its page", t.Name, t.Kind.Words()))
		}
	case l.Section == "" && !l.under.mixed && cmp.Or(l.Said, b.KindInName(l.Name)) == "" && !b.defends(l):
		l.New, l.headless = true, l.Problem == ""
		if l.Quantity.Measure == "" && l.Note+l.Moves == "" && len(strings.Fields(l.Name)) <= mostWordsOfHead && l.headless {
			l.Unheard = lowered(l.Name, "") // it may be a heading
		}
		l.fail(1, fmt.Sprintf("“%s” is new, so its section is not known; write a heading such as Kicks above it", l.Name))
	default:
		l.New = true
		if said := strings.TrimRight(l.Name, "! "); said != l.Name && slices.Contains(curriculum.Basic, b.KindInName(said)) { // Jab!
			l.Name = said
		}
		b.settleKind(l)
		if l.Kind == "" && l.Section == "" {
			l.kindless = l.Problem == ""
			l.fail(1, fmt.Sprintf("nothing says of which kind %s is; write it at the end of the line, for example [kind kick]", l.Name))
		} else if l.Kind == "" {
			l.kindless = l.Problem == ""
			l.fail(1, fmt.Sprintf("the section %s does not say of which kind %s is; write it at the end of the line, for example [kind kick], or give the section a kind on the program’s page", l.Section, l.Name))
		}
		if series, number, known, numbered := b.Numbers(l.Name); numbered && !l.Plain && !movesFrom.MatchString(l.Name) && !slices.Contains(curriculum.SaidKinds, l.Kind) {
			l.Series, l.Place, l.Asked = series, number, !known && l.Kind != "form" && !saidNumber.MatchString(l.Text)
		}
	}
	if s := curriculum.SectionFor(b.Sections, "strike"); s != nil && l.under.kind == "board_break" && l.Kind == "strike" { // Breaking: elbow, where breaks have no section of their own
		l.Section = s.Name
	}
	for _, s := range b.Sections {
		if l.Section != "" && check.Key(s.Name) == check.Key(l.Section) {
			l.SectionID, l.Section = s.ID, s.Name
		}
	}
	if s := curriculum.SectionFor(b.Sections, l.Kind); l.Section == "" && s != nil {
		l.SectionID, l.Section = s.ID, s.Name
	}
	if l.SectionID == "" {
		l.fail(1, "this program has no section for it; write a heading with one of its sections above it")
	}
}

// mostWordsOfHead is how many words a line has at most that may be a heading by its place alone.
const mostWordsOfHead = 3

// onBoards asks a kick or a strike that is known, under a heading of board breaks, on boards.
func (l *PageLine) onBoards(asked Kind) {
	if asked == "board_break" && l.Setting == "" && slices.Contains([]Kind{"kick", "strike"}, l.Kind) {
		l.Setting = curriculum.Boards
	}
}

// settleKind is the kind of what is new: what the line says, its heading, or its words.
func (b *Reader) settleKind(l *PageLine) {
	if l.Kind = cmp.Or(l.Said, l.under.kind, b.kindIn(l.Section)); l.Said == "" && l.Kind == "sparring" && arranged.MatchString(l.Name) && l.Quantity.Measure != curriculum.RoundsTimed && l.Quantity.Measure != curriculum.Timed {
		l.Kind = "partner_set"
	}
	if l.Said == "" && l.Kind == "partner_set" && (freeSpar.MatchString(l.Name) || (l.Quantity.Measure == curriculum.Timed || l.Quantity.Measure == curriculum.RoundsTimed) && sparEnd.MatchString(l.Name)) { // Free sparring, under Set sparring
		l.Kind = "sparring"
	}
	if l.Said == "" && l.Kind == "partner_set" && curriculum.KindInWords(l.Name) == "form" { // Kicking set, under Sets
		l.Kind = "form"
		if s := curriculum.SectionFor(b.Sections, "form"); s != nil && l.under.kind == "partner_set" {
			l.Section = s.Name
		}
	}
	if l.Said == "" && l.Kind == "form" && curriculum.KindInWords(l.Name) == "partner_set" { // Two man set, under Forms & sets
		l.Kind = "partner_set"
	}
	if is := b.KindInName(l.Name); l.Said == "" && l.Kind == "self_defence" && l.under.kind == "" && plainlyNamed.MatchString(l.Name) && !attackNoted.MatchString(l.Note) && l.Moves == "" && slices.Contains([]Kind{"breakfall", "throw", "lock"}, is) {
		l.Kind = is
	}
	if is := b.KindInName(l.Name); l.Said == "" && l.under.kind == "" && l.Section != "" && curriculum.UsualKind(l.Section) == "" && slices.Contains(curriculum.Basic, l.Kind) && slices.Contains(curriculum.Basic, is) {
		l.Kind = is // Front kick, under Combatives
	}
	b.movesByName(l)
	if l.Said == "" && slices.Contains(append(inRows, ""), l.Kind) && b.byNumbers(l.Name) { // 1-2-low kick, under Boxing
		l.Kind = "combination"
	}
	if l.Said == "" && slices.Contains([]Kind{"strike", "footwork", "stance", "evasion"}, l.Kind) && shadowed.MatchString(l.Name) { // Shadow boxing, under Boxing
		l.Kind = "fitness"
	}
	if l.Kind == "" && b.answersNoted(l) { // Bowing Reed (rear choke)
		l.Kind = "self_defence"
	}
	if l.Kind == "" {
		if l.Kind = b.KindInName(l.Name); l.Kind == "" && !limbNamed.MatchString(l.Name) {
			l.Kind = l.under.first
		}
	}
	if l.Kind == "" && b.answersWeapon(l) {
		l.Kind = "self_defence"
	}
	if l.Kind == "" && b.defends(l) { // Turning Tide (left lapel grab)
		l.Kind = "self_defence"
	}
	if l.Said == "" && l.Kind == "form" && ofAForm.MatchString(l.Name) { // Applications of Lantern Walk, under Forms
		b.movesTo(l, "self_defence")
	}
	if is := b.KindInName(l.Name); l.Said == "" && l.Kind == "board_break" && !orBreak.MatchString(l.Name) && slices.Contains([]Kind{"strike", "kick"}, is) { // Side kick, under Breaking
		l.Kind = is
		l.onBoards("board_break")
	}
}

// movesTo makes a line of another kind than its heading, in the section of that kind where the program has one.
func (b *Reader) movesTo(l *PageLine, k Kind) {
	if l.Kind = k; curriculum.SectionFor(b.Sections, k) != nil {
		l.Section = curriculum.SectionFor(b.Sections, k).Name
	}
}

// answersWeapon reports whether a name and a remark are an attack with a weapon together, which one defends against: Stick - overhead swing,
// Knife downward stab, under Weapons.
func (b *Reader) answersWeapon(l *PageLine) bool {
	return slices.ContainsFunc(strings.Split(l.Note, ", "), func(part string) bool {
		attack, _ := b.attackIn(l.Name + " " + part)
		return (part != "" || strings.Contains(l.Name, " ")) && slices.ContainsFunc(attack, func(a curriculum.AttackElement) bool { return b.Program.NatureOf(a.Kind) == "weapon" })
	})
}

// byNumbers reports whether a name is a row of punches by their numbers, and of other moves: 1-2-3, 1-2-low kick, slip-2-3.
func (b *Reader) byNumbers(name string) bool {
	if rangeName.MatchString(name) { // Elbow 1-4, of which some are known
		return false
	}
	pieces := strings.Split(name, "-")
	numbers := 0
	for _, piece := range pieces {
		piece = strings.TrimSpace(piece)
		if len(piece) == 1 && '1' <= piece[0] && piece[0] <= '9' {
			numbers++
		} else if !b.isMove(piece) {
			return false
		}
	}
	return numbers > 0 && len(pieces) > 1
}

// shadowed is done without a partner and for a time.
var shadowed = pattern.Of(`(?i)^shadow[- ]?(?:box|boxing|work|sparring)\b`)

// orBreak is a break by its name, or one with what the candidate chooses.
var orBreak = pattern.Of(`(?i)\b(?:breaks?|breaking|or|choice|own|any)\b|/`)

// plainlyNamed is a fall, a throw or a lock by its plain name, which is no answer to an attack: side fall, hip throw, wrist lock.
var plainlyNamed = pattern.Of(`(?i)^(?:(?:front|back|rear|side|forwards?|backwards?|shoulder|sitting|rolling|soft|hard|left|right|hip|outer|inner|major|minor|leg` +
	`|one[- ]arm|arm|elbow|wrist|finger|bent|straight|standing|kneeling|two[- ]hand) )+(?:(?:break[- ]?)?falls?|rolls?|throws?|reap(?:s|ing)?|sweeps?|(?:arm |wrist )?locks?` +
	`|take ?downs?|arm ?bars?)$|^(?:break[- ]?falls?|fall(?:ing)? (?:to the )?(?:forwards?|backwards?|back|sideways|sides?|front))$`)

// plainKick is a kick by its name and by nothing else, whatever stands around it: front kick, side kick to the knee.
var plainKick = pattern.Of(`(?i)^(?:[\p{L}-]+ ){0,3}(?:kicks?|geri|chagi)(?: (?:to|at) (?:the )?\pL+)?$`)

// limbNamed ends with a limb, which is none of what is done with it: jumping feet, under Feet.
var limbNamed = pattern.Of(`(?i)\b(?:feet|foot|hands?)$`)

// ofAForm is what the moves of a form are for, shown with a partner.
var ofAForm = pattern.Of(`(?i)^(?:\pL+ )?(?:bunkai|applications?)(?: (?:of|from|for|to) \pL.*)?$`)

// andShown is what is shown as well as told.
var andShown = pattern.Of(`(?i)^\pL+ (?:and|&|or|/) (?:show|demonstrate|perform|do|apply)\b`)

// heldByThem is what an attacker holds with, and no lock of one’s own.
var heldByThem = pattern.Of(`(?i)^(?:(?:front|rear|side|back|standing) )?(?:bear hugs?|full nelson|(?:wall|front|rear|side|two[- ]hand(?:ed)?) (?:choke|strangle)s?|(?:hair|lapel|wrist|sleeve|shoulder|clothing) (?:grab|pull)s?)$`)

// movesByName moves what its name tells to be of another kind than its heading says.
func (b *Reader) movesByName(l *PageLine) {
	if l.Said != "" {
		return
	}
	if l.Kind == "strike" && plainKick.MatchString(l.Name) && b.KindInName(l.Name) == "kick" { // Front kick, under Striking
		b.movesTo(l, "kick")
	}
	if slices.Contains([]Kind{"strike", "kick"}, l.Kind) && b.namedAnswer(l) { // Falling Star (right straight), under Punches
		b.movesTo(l, "self_defence")
	}
	if l.Kind == "lock" && heldByThem.MatchString(l.Name) { // Front bear hug, under Holds
		b.movesTo(l, "self_defence")
	}
	if l.Kind == "breakfall" && l.Quantity.Measure == curriculum.RoundsTimed && rolledRounds.MatchString(l.Name) { // Rolling, 2 x 3 min
		b.movesTo(l, "sparring")
	}
	if l.New && l.Said == "" && l.Kind == "stance" && curriculum.KindInWords(l.Name) == "footwork" { // Cover step, under Stances
		b.movesTo(l, "footwork")
	}
	if l.New && l.Said == "" && (l.Kind == "strike" || l.Kind == "kick") && comboLast.MatchString(l.Name) { // 6 punch combo, under Strikes
		b.movesTo(l, "combination")
	}
	if l.New && l.Said == "" && l.Kind == "sparring" && steppedDrill.MatchString(l.Name) {
		b.movesTo(l, "footwork")
	}
	if l.New && slices.Contains(curriculum.Basic, l.Kind) && shouted.MatchString(l.Name) { // Shout KIAI, under Hands
		b.movesTo(l, "courtesy")
	}
	if !slices.Contains(curriculum.SaidKinds, l.Kind) && l.Kind != "" && toldNotShown.MatchString(l.Name) && !andShown.MatchString(l.Name) { // Explain the moves, under Forms
		b.movesTo(l, "knowledge")
	}
}

// namedAnswer reports whether a new line has a name of its own and in its remark the attack that it answers.
func (b *Reader) namedAnswer(l *PageLine) bool {
	words := strings.Fields(l.Name)
	return l.New && l.Moves == "" && len(words) > 1 && titled(words) && b.KindInName(l.Name) == "" && b.attackOfASide(l.Note)
}

// attackOfASide reports whether a remark is one attack with a left or a right limb.
func (b *Reader) attackOfASide(remark string) bool {
	attack, more := b.attackIn(strings.TrimSuffix(remark, " straight") + strings.Repeat(" straight punch", strings.Count(remark, " straight")))
	return len(attack) == 1 && !more && (attack[0].Side == "left" || attack[0].Side == "right")
}

// rolledRounds is free work on the ground, as it is called there.
var rolledRounds = pattern.Of(`(?i)^(?:(?:light|free|positional|situational|open) )?(?:rolling|rolls)$`)

// comboLast is called a combination by its last word.
var comboLast = pattern.Of(`(?i)\pL (?:combo|combination)s?(?: \d{1,2})?$`)

// shouted is a shout by itself.
var shouted = pattern.Of(`(?i)^(?:(?:good|loud|strong|big|shout|yell|show|give|do|make)(?: an?| the| your)?(?: loud| strong| big)? )?(?:ki[ -]?(?:h?ai|hap|yap))s?(?: loudly)?!?$`)

// toldNotShown begins what is told.
var toldNotShown = pattern.Of(`(?i)^(?:the )?(?:meanings?|history|names) of (?:the |your |this |each |all )?\pL|^(?:name|list|recite|state) (?:the|your|all|any|at least|two|three|four|five|\d) \pL` +
	`|^know (?:the |its |their )?(?:meanings?|history|names?)\b|^(?:what|why|when|where|who|which) (?:is|are|was|were|does|do we|did|may|must|should) ` +
	`|^(?:explain|describe|discuss) [\pL\d]|\bterminology\b|\b(?:first aid|safety) questions?$|^(?:tell|ask) (?:us|me|them|the \pL+|your \pL+) (?:what|why` +
	`|how|who|when|where|about|which)\b`)

// sparEnd is sparring of some sort.
var sparEnd = pattern.Of(`(?i)^\pL+ sparring$`)

// freeSpar is what is sparred freely, by its name.
var freeSpar = pattern.Of(`(?i)^(?:\pL+ )?(?:free|light|continuous|point|contact|jiyu|freestyle)[- ](?:sparring|kumite|fighting)\b|^(?:randori|free fight)`)

// answersNoted reports whether a name in capitals, of words that name no move, has an attack as its remark.
func (b *Reader) answersNoted(l *PageLine) bool {
	words := strings.Fields(l.Name)
	attack, _ := b.attackIn(strings.ReplaceAll(l.Note, ",", ""))
	if attack == nil {
		attack, _ = b.AttackOf(l.Name, l.Note, "("+l.Note)
	}
	armed := slices.ContainsFunc(attack, func(a curriculum.AttackElement) bool { return b.Program.NatureOf(a.Kind) == "weapon" }) // Open Palm (right overhead club)
	is := b.KindInName(l.Name)
	pictured := (is == "footwork" || is == "evasion") && b.KindInName(words[len(words)-1]) == "" // Circling Crow (right punch)
	return attack != nil && len(words) > 1 && (titled(words) || ownDefences.MatchString(l.Name)) && (armed || pictured || !slices.Contains(inRows, is)) && is != "form"
}

// saidNumber is a number that is said to be one.
var saidNumber = pattern.Of(`(?i)\b(?:number|no\.?|nr\.?) ?\d|#\d`)

// defends reports whether a line that nothing else tells the kind of answers an attack: Turning Tide (left jab), Against mount.
func (b *Reader) defends(l *PageLine) bool {
	if curriculum.AgainstFirst.MatchString(l.Name) {
		return true
	}
	attack, _ := b.attackIn(l.Note)
	if attack == nil {
		attack, _ = b.attackIn(strings.ReplaceAll(l.Note, ",", ""))
	}
	return titled(strings.Fields(l.Name)) && (attack != nil || attackNoted.MatchString(l.Note))
}

// attackNoted is a remark that says how somebody is attacked.
var attackNoted = pattern.Of(`(?i)\b(?:grab|choke|punch|bear hug|hug|headlock|kick|push|(?:two|three|2|3) (?:men|man|people|opponents?|attackers?)|tackle|nelson|strangle|club|knife|attack|hold|lapel|wrist)s?\b`)

// kindIn is the kind of a section by its name; "" where it has none.
func (b *Reader) kindIn(section string) Kind {
	for _, s := range b.Sections {
		if check.Key(s.Name) == check.Key(section) {
			return s.Kind
		}
	}
	return ""
}

// partAsked is a line that asks a part of something: First half of a form.
var partAsked = pattern.Of(`(?i)^half of (?:the )?\pL|^(?:the )?(?:first|second|third|last|1st|2nd|3rd) (?:half|part|third|section|(?:\w+ )?(?:moves|steps` +
	`|movements))(?: of |,? ?\(|,|$)| (?:up )?to (?:the )?(?:move|count|step) \d|[-–—,(] ?(?:only )?(?:up to|as far as|until|to) the (?:\w+ )?(?:half|middle` +
	`|shout|kiai|turn|line|move|step|count)\b`)

// steppedDrill is stepping that is practised alone, under Sparring too.
var steppedDrill = pattern.Of(`(?i)^(?:\pL+ )?(?:footwork|movement|stepping)(?: (?:drill|pattern)s?)?$`)

// ownDefences is a defence by what it does: plucking defence.
var ownDefences = pattern.Of(`(?i)^\pL+ (?:defen[cs]e|release|escape)$`)

// comboOnly says no more than that something is a combination.
var comboOnly = pattern.Of(`(?i)^(?:in |as an? )?(?:combination|combo|renraku|renzoku)$`)
