package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
)

// bothNoted is a remark that speaks of both sides.
var bothNoted = pattern.Of(`(?i)\b(r|right) ?(?:&|/|\+|and) ?(l|left)\b|\b(l|left) ?(?:&|/|\+|and|then) ?(r|right)\b|\b(?:both|each|per|every) (?:sides?|legs?|hands?|arms?|feet|foot|stances?|ways?)\b`)

// twoWays are two ways of doing something, in its name: Inward and outward elbow.
// manyLimbs are words for many that name none of them.
var manyLimbs = pattern.Of(`(?i)^(?:knees|elbows|punches|kicks|palms|fists|hands|strikes|blocks|parries|checks)$`)

var twoWays = pattern.Of(`(?i)\b(?:upwards?|downwards?|forwards?|inwards?|outwards?|front|vertical|straight) (?:and|&) (?:sideways|downwards?|backwards?|upwards?|outwards?|diagonal|horizontal)\b|\b(?:inward|inside|inner|high|front|upward|rising|forward|vertical)s? ?(?:and|&|/|\+) ?(?:outward|outside|outer|low|back|rear|side|round|downward|backward|horizontal)s?\b|\b(?:outward|outside|outer|low|back|downward)s? ?(?:and|&|/|\+) ?(?:inward|inside|inner|high|front|upward)s?\b`)

// rolesNoted is a remark that speaks of who does it.
var rolesNoted = pattern.Of(`(?i)(?:^|[^\d\pL ] |\b(?:as|for|by|and|the|both|of|each) )(attackers?|defenders?)\b|^(?:attackers?|defenders?)\b|\b(both roles|tori)\b|(?:^|, |\b(?:as|for|by|and|the|both) )uke\b`)

// firstPerson is a sentence of whoever is tested.
var firstPerson = pattern.Of(`(?i)^i (?:know|do|am|have|listen|help|tidy|say|share|come|practi[sc]e|wear|tell|try|never|always)\b`)

// alsoKicks are names of strikes that under Kicks are kicks.
var alsoKicks = pattern.Of(`(?i)\b(?:k?nees?|hooks?|cross|k?nee strikes?)$`)

// ask notes what is doubtful about a line that makes something new; what is asked first keeps some of the rest from being asked.
func (b *Reader) ask(l *PageLine) {
	if l.Problem != "" || l.Plain {
		return
	}
	b.variant(l)
	words := strings.Fields(l.Name)
	b.askHeading(l, words)
	b.askKnown(l, words)
	b.askCalled(l, words)
	b.askNumber(l, words)
	b.askKind(l, words)
	b.askSeveral(l)
	b.askName(l, words)
}

// askHeading asks where a line may be a heading.
func (b *Reader) askHeading(l *PageLine, words []string) {
	if l.usual && l.Moves == "" && l.Said == "" && l.Setting == "" && mayBeHeading(l.Name) || l.usual && len(words) == 1 && l.Note == "" && strings.HasSuffix(l.Name, "s") && slices.Contains([]Kind{"strike", "kick", "block", "stance", "evasion"}, l.Kind) && curriculum.KindInWords(l.Name) == "" {
		l.doubt(fmt.Sprintf("%s is read as a technique; if it is a heading, write one of the program’s sections for it", l.Name))
	}
	if told := curriculum.SaidKinds; l.Said == "" && len(l.MarkLooks) == 0 && slices.Contains(told, l.Kind) && !strings.HasSuffix(l.Name, "?") && l.Note == "" && len(l.Doubts) == 0 {
		if is := curriculum.UsualKind(l.Name); l.usual && !strings.Contains(l.Text, ",") && (is != "" && is != l.Kind || len(words) == 1 && !learntByHeart.MatchString(l.Name) && b.KindInName(l.Name) != l.Kind) {
			l.doubt(fmt.Sprintf("%s is read as a %s; if it is a heading, write one of the program’s sections for it", l.Name, l.Kind.Words()))
		} else if q := l.Quantity; !l.usual && (q.PerSide() || l.Kind == "knowledge" && q.Seconds > 0) {
			l.doubt(fmt.Sprintf("%s stands under %s with %s; write its kind on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it"), q))
		}
	}
	if l.Said == "" && l.usual && l.Note == "" && slices.Contains([]Kind{"sparring", "fitness"}, l.Kind) && len(words) <= 2 && len(l.Doubts) == 0 && b.KindInName(l.Name) == "" && !strings.ContainsFunc(l.Name, unicode.IsDigit) {
		l.doubt(fmt.Sprintf("%s is read as a %s; if it is a heading, write one of the program’s sections for it", l.Name, l.Kind.Words()))
	}
}

// learntByHeart is what a school has its students say, which heads nothing.
var learntByHeart = pattern.Of(`(?i)^(?:tenets|oath|creed|motto|pledge|commands)$`)

// askKnown asks where a name is nearly one that is known, or begins as one.
func (b *Reader) askKnown(l *PageLine, words []string) {
	if m := lastLevel.FindStringSubmatch(l.Name); m != nil {
		if t := b.nearest(m[1]); t != nil {
			l.doubt(fmt.Sprintf("%s is nearly %s, which is known; write that name, a comma and %s if it is meant", l.Name, t.Name, strings.ToLower(m[2])))
		}
	}
	if t := b.nearest(l.Name); t != nil {
		l.doubt(fmt.Sprintf("%s is nearly %s, which is known; write that name if it is meant", l.Name, t.Name))
	}
	for n := len(words) - 1; n > 0; n-- {
		t := b.Named(strings.Join(words[:n], " "))
		if another := l.Kind == "combination" && words[n] == "and" || t != nil && l.Kind == "self_defence" && t.Kind == l.Kind; t != nil && connecting.MatchString(strings.Join(words[n:], " ")) && (!another || laterPart.MatchString(strings.Join(words[n:], " "))) {
			l.doubt(fmt.Sprintf("%s begins as %s does, which is known; put a comma behind its name if it is meant", l.Name, t.Name))
		}
	}
}

// laterPart goes on with a later part of what is known: with extension.
var laterPart = pattern.Of(`(?i)^(?:with|and) (?:(?:the|its|an?) )?(?:extensions?|ending|finish|follow[- ]?ups?|tail|both endings?)$`)

// laterAlone is such a part alone, as a remark: Swinging Gate, extension.
var laterAlone = pattern.Of(`(?i)^(?:(?:with|and) )?(?:(?:the|its|an?) )?extensions?$`)

// stopsWhat is a block by what it stops: catch jab.
var stopsWhat = pattern.Of(`(?i)^(?:catch|stop|parry|jam|check|deflect) `)

// stopped is what a block or an evasion is called, without what it is done against: parry vs jab and cross.
func stopped(l *PageLine) string {
	if at := curriculum.AnswersWhat.FindStringIndex(l.Name); at != nil && at[0] > 0 && slices.Contains([]Kind{"block", "evasion", "footwork"}, l.Kind) {
		return l.Name[:at[0]]
	}
	return l.Name
}

// versus joins on what something is done against: long guard vs. jab.
var versus = pattern.Of(`(?i) (?:against|vs\.?|versus|from) `)

// aKind is a kind with its article: a strike, an evasion.
func aKind(k Kind) string {
	if words := k.Words(); strings.ContainsRune("aeiou", rune(words[0])) {
		return "an " + words
	}
	return "a " + k.Words()
}

// stopsAKick is a block by what is done to a kick or a punch.
var stopsAKick = pattern.Of(`(?i)^(?:block|check|cover|scoop|absorb|catch|stop|parry|deflect|jam|redirect)(?:ing)? `)

// askCalled asks where a name is called as another kind is.
func (b *Reader) askCalled(l *PageLine, words []string) {
	if l.Said == "" && slices.Contains(curriculum.Basic, l.Kind) && b.KindInName(l.Name) == "form" {
		l.doubt(fmt.Sprintf("%s stands under %s and is called a form; write “form” on the line, or a heading above it", l.Name, l.Section))
	}
	if is := b.KindInName(words[len(words)-1]); l.Said == "" && !(l.Kind == "kick" && alsoKicks.MatchString(l.Name)) && curriculum.UsualKind(l.under.section) == l.Kind && slices.Contains(curriculum.Basic, is) && slices.Contains(curriculum.Basic, l.Kind) && is != l.Kind && !(l.Kind == "block" && stopsWhat.MatchString(l.Name)) && !((is == "stance" || versus.MatchString(l.Name)) && b.KindInName(l.Name) == l.Kind) {
		l.doubt(fmt.Sprintf("%s stands under %s and is called %s; write “%s” on the line, or a heading above it", l.Name, l.Section, aKind(is), is.Words()))
	}
	if is := b.KindInName(l.Name); l.Said == "" && l.under.kind == "" && slices.Contains(curriculum.Basic, l.Kind) && slices.Contains([]Kind{"lock", "throw", "breakfall", "self_defence", "partner_set"}, is) && !slices.Contains(curriculum.Basic, b.KindInName(words[len(words)-1])) && !(l.Kind == "kick" && is == "throw") && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it"), aKind(is), is.Words()))
	}
	if is := b.KindInName(l.Name); l.Said == "" && slices.Contains([]Kind{"strike", "kick"}, l.Kind) && (is == "evasion" && len(words) > 1 || is == "block" && stopsAKick.MatchString(l.Name) && !strings.HasPrefix(strings.ToLower(l.Name), "stop kick")) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it"), aKind(is), is.Words()))
	}
	if l.Kind == "self_defence" && attackInWords.MatchString(l.Name) && !versus.MatchString(l.Name) && l.Note != "" && unicode.IsUpper([]rune(l.Note)[0]) && l.Moves == "" {
		l.doubt(fmt.Sprintf("%s is read as the name and “%s” as a remark; where it is the attack, write the name first", l.Name, l.Note))
	}
	if is := b.KindInName(l.Name); l.Said == "" && !l.usual && is != "" && is != l.Kind && slices.Contains(curriculum.SaidKinds, l.Kind) {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, l.Section, aKind(is), is.Words()))
	}
}

// askNumber asks where a name may stand for several, or says how many.
func (b *Reader) askNumber(l *PageLine, words []string) {
	if (allOf.MatchString(l.Name) || ofARung.MatchString(l.Name)) && !slices.Contains(curriculum.SaidKinds, l.Kind) && b.Named(l.Name) == nil {
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	}
	if l.usual && l.New && l.Moves == "" && slices.Contains(append(curriculum.Basic, "footwork"), l.Kind) && (pointToWatch.MatchString(l.Name) && !wayBetween.MatchString(l.Text) || saidOfKnee.MatchString(l.Name)) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s reads like how something is done; where it is, write it in brackets behind it", l.Name))
	}
	if l.New && (curriculum.Bare(l.Name) || l.Kind != "board_break" && sideOnly.MatchString(l.Name)) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read as a name; write what is asked, and how much behind it", l.Name))
	}
	if l.Kind == "self_defence" && l.New && (whatToDo.MatchString(l.Name) && !curriculum.AttackerActs.MatchString(strings.ToLower(l.Name)) || strings.HasSuffix(l.Note, "?")) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like a question; where it is told and not shown, write “knowledge question” on the line", l.Name, cmp.Or(l.Section, "it")))
	}
	if l.Kind == "self_defence" && l.New && len(l.Attack) == 0 && knifeAlone.MatchString(l.Name) && len(l.Doubts) == 0 {
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

// askWhichForm asks where the name of a form leaves open which is meant.
func (b *Reader) askWhichForm(l *PageLine) {
	if l.Kind != "form" || !l.New {
		return
	}
	if !l.Free && earlierForm.MatchString(l.Name) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read as the name of a form; where one of several is meant, write which, or what is chosen from and “free choice”", l.Name))
	}
	if atRandom.MatchString(l.Name) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s leaves it to the examiner which is shown; write a line for each that may be drawn", l.Name))
	}
	if twoTitles.MatchString(l.Name) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s may name several; write a line for each", l.Name))
	}
	if !l.Free && oneOfTwo.MatchString(l.Name) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s leaves a choice; write a line for each, or what is chosen from and “free choice”", l.Name))
	}
}

var (
	// leftToChoose is one of two heights, sides or ways: jodan or chudan.
	leftToChoose = pattern.Of(`(?i)\b(?:jodan|chudan|gedan|high|mid|middle|low|left|right|lead|rear|front|back|inside|outside|side|round) or (?:jodan|chudan|gedan|high` +
		`|mid|middle|low|left|right|lead|rear|front|back|inside|outside|side|round)\b`)
	// oneOfTwo are two names in capitals of which one is shown: Tide One or Tide Two.
	oneOfTwo = pattern.Of(`^(?:\p{Lu}[\pL'’-]* ?){1,3} or (?:\p{Lu}[\pL'’-]*(?: |$)){1,3}`)
	// handOrFoot is what a board is broken with, left to whoever breaks it, for a name.
	handOrFoot = pattern.Of(`(?i)^(?:any |either )?(?:hand|foot|kick|punch|elbow)s?(?: technique)? or (?:any |a )?(?:hand|foot|kick|punch|elbow)s?(?: technique)?$`)
	// thenMove is one move after another: push then palm heel.
	thenMove = pattern.Of(`(?i)^\pL[\pL -]*,? then \pL`)
	// inTurn are hands one after another: left right left right.
	inTurn = pattern.Of(`(?i)^(?:left,? right|right,? left),? (?:left|right)\b`)
)

// earlierForm is a form that is told by when it was learnt.
var earlierForm = pattern.Of(`(?i)^(?:plus |also )?(?:the |one |one of the |an? )?(?:previous|last|earlier|lower|older?|other` +
	`|first) (?:belt(?:['’]s)? |grade |rank )?(?:forms?|katas?|patterns?|poomsae|hyung|tul)$`)

// knifeAlone is an attack with a knife of which nothing says how it comes.
var knifeAlone = pattern.Of(`(?i)^(?:(?:defen[cs]e )?(?:against|from|vs\.?|to) (?:an? )?)?(?:knife|knives)(?: (?:attacks?|defen[cs]es?))?$`)

// atRandom is one of several forms that the examiner draws.
var atRandom = pattern.Of(`(?i)^(?:an? )?random\b`)

// manyPeople begins what several people do.
var manyPeople = pattern.Of(`(?i)^(?:two|three|2|3) (?:(?:people|persons|men|man|attackers|opponents|hands) \pL|attackers$|opponents$)`)

// afterLast is a name that ends with what is done before it: circle out after combo.
var afterLast = pattern.Of(`(?i)\b(?:after|off|following|out of) (?:an? |the |your )?[\pL-]+$`)

// askKind asks where what stands in a section reads like another kind.
func (b *Reader) askKind(l *PageLine, words []string) {
	if is := b.KindInName(l.Name); l.Said == "" && l.Kind == "sparring" && is != "" && is != "sparring" && is != "partner_set" && (l.usual || l.Quantity.Measure != curriculum.RoundsTimed) && !limbWords.MatchString(l.Name) {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, l.Section, aKind(is), is.Words()))
	}
	if l.Said == "" && curriculum.KindInWords(l.Name) == "sparring" && !(l.Kind == "fitness" && strings.Contains(strings.ToLower(l.Name), "shadow")) && !slices.Contains([]Kind{"sparring", "partner_set", "knowledge", "character", "courtesy"}, l.Kind) {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like sparring; write “sparring round” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
	if last := b.KindInName(words[len(words)-1]); l.Said == "" && curriculum.KindInWords(l.Name) == "fitness" && !slices.Contains(curriculum.Basic, last) && !(l.Kind == "self_defence" && awayFrom.MatchString(l.Name)) && !(l.Kind == "evasion" && curriculum.MovesAbout.MatchString(strings.ToLower(l.Name))) && !slices.Contains([]Kind{"fitness", "knowledge", "character", "courtesy"}, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like a fitness item; write “fitness” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
	if is := curriculum.KindInWords(l.Name); l.Said == "" && is != "" && is != l.Kind && !ofAForm.MatchString(l.Name) && !(l.Kind == "footwork" && afterLast.MatchString(l.Name)) && !(is == "courtesy" && l.Kind == "stance") && len(l.Doubts) == 0 && curriculum.KindInWords(words[len(words)-1]) != l.Kind && !slices.Contains(goesUnder[l.Kind], is) {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it"), aKind(is), is.Words()))
	}
	if q := l.Quantity; l.Kind == "sparring" && q.PerSide() && q.Seconds > 0 && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read; rounds are written as for example 3 x %d s", q, q.Seconds))
	}
	if l.Said == "" && l.usual && l.Kind == "sparring" && !sparred.MatchString(l.Name+" "+l.Note) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read as rounds of %s; where it is no sparring, write its kind on the line, or a heading above it", l.Name, l.Quantity))
	}
	if !l.usual && l.Quantity.Measure == curriculum.RepsInAll && l.Kind == "self_defence" && manyOf.MatchString(l.Text) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%d is read as the amount; where it is how many different ones, write a line for each", l.Quantity.Reps))
	}
	if l.Said == "" && l.usual && l.Kind == "fitness" && b.KindInName(l.Name) != "fitness" && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and says neither how many nor how long; write that behind the name, or the kind it is of", l.Name, cmp.Or(l.Section, "it")))
	}
	if m := lengthsNoted.FindString(l.Note); l.usual && m != "" && slices.Contains(curriculum.Basic, l.Kind) && len(l.Doubts) == 0 { // up the hall and back
		l.doubt(fmt.Sprintf("“%s” is read as a remark; write how often that is, for example 5 a side or 10", m))
	}
	if m := timeNoted.FindString(l.Note); l.usual && m != "" && slices.Contains(curriculum.Basic, l.Kind) && len(l.Doubts) == 0 { // of a whole round
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is the amount, write for example 5 a side, 10 or 60 s", m))
	}
	if l.Said == "" && l.Quantity.Measure == curriculum.Timed && slices.Contains([]Kind{"breakfall", "throw"}, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read as a %s for %s; where it is sparring or fitness, write that on the line", l.Name, l.Kind.Words(), l.Quantity))
	}
	if l.Said == "" && l.Quantity.Measure == curriculum.RoundsTimed && slices.Contains([]Kind{"self_defence", "form", "lock", "throw", "breakfall", "board_break"}, l.Kind) {
		l.doubt(fmt.Sprintf("%s stands under %s with rounds; where it is sparring, write “sparring round” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
	if l.Kind != "breakfall" && curriculum.BodyHeight.MatchString(strings.ToLower(l.Name)) && strings.TrimSpace(curriculum.BodyHeight.ReplaceAllString(strings.ToLower(l.Name), "")) == "" {
		l.doubt(fmt.Sprintf("%s says how high and not what; write it behind what is shown so", l.Name))
	}
	if l.Said == "" && l.under.partly && b.KindInName(l.Name) == "" && slices.Contains(amounted, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under a heading of several things, and is read as %s; where it is another, write its kind on the line", l.Name, aKind(l.Kind)))
	}
	if l.Said == "" && firstPerson.MatchString(l.Name) && slices.Contains(amounted, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like no technique; write its kind on the line, for example knowledge question or character task", l.Name, cmp.Or(l.Section, "it")))
	}
	if l.Said == "" && (strings.HasSuffix(l.Name, "?") || l.Note == "" && l.Quantity.Measure != curriculum.RoundsTimed && talkOf.MatchString(l.Name)) && !slices.Contains(curriculum.SaidKinds, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like a question; write “knowledge question” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
}

var (
	// oddSign is no sign of a name.
	oddSign = pattern.Of(`[^\pL\pN\pM '’ʼ"“”„‘&/.,()!?+#°–—→-]|[_|=*~<>^\\{}\[\]]|\.\.|__`)
	// sayNothing are words that name nothing by themselves.
	sayNothing = pattern.Of(`(?i)^(?:(?:the )?(?:first|second|third|last|next|new|old|other|same) (?:one|form|kata|pattern)s?|all (?:two|three|four|five|six|seven|eight|nine|ten)|free|own|various|different|optional|any|some|more|others?|rest|extra|etc|incl|including|and|then|also|above|below|basic|advanced|review|revision)$`)
	// commandFirst begins a sentence that asks.
	commandFirst = pattern.Of(`(?i)^(?:show|do|give|answer|perform|demonstrate|execute) \pL`)
	// attackFirst begins what the partner does.
	attackFirst = pattern.Of(`(?i)^(?:attack|attacker|attacking|defend|defence|defense|answer|counter)s? \pL`)
	// eachOfThem speaks of each of several.
	eachOfThem = pattern.Of(`(?i)\b(?:each|respectively)\b`)
	// formWord ends the name of a form.
	formWord = pattern.Of(`(?i)\bform with (?:music|the count|count|kiai|power|meaning)$|(?:forms?|patterns?|kata|tul|hyung|poomsae|sets?|\d+|one|two|three|four|five|six|seven|eight|nine|ten|[ivx]+)$`)
)

// mostWords is how many words the name of a technique has at most that nobody asks about.
const mostWords = 8

// twoForeign reports whether words of the second language name a kick and a strike, or others of two kinds: maegeri junzuki.
func (b *Reader) twoForeign(words []string) bool {
	ends := 0
	if at := curriculum.JoinsOn.FindStringIndex(strings.Join(words, " ")); at != nil {
		words = strings.Fields(strings.Join(words, " ")[:at[0]])
	}
	for i, w := range words {
		m, _ := b.MeaningOf(w)
		if m == nil || !slices.Contains(inRows, m.Kind()) {
			continue
		}
		next := ""
		if i+1 < len(words) {
			next = check.Key(words[i+1])
		}
		if withWhat.MatchString(w) && goesOn.MatchString(next) { // empi uchi, uchi uke: one blow, one block
			continue
		}
		ends++
	}
	return ends > 1
}

var (
	// withWhat are words for what strikes, and goesOn what may follow them in one name.
	withWhat = pattern.Of(`(?i)^(?:mikazuki|empi|enpi|uraken|tettsui|haito|nukite|uchi|shuto|teisho|kakato|ate|sonnal|palkup|mok)$`)
	goesOn   = pattern.Of(`^(?:uchi|uke|ate|zuki|tsuki|barai|geri|makki|makgi|chigi|jireugi)$`)
)

// lowerForm is one of the forms of the rungs below.
var lowerForm = pattern.Of(`(?i)^(?:any |one )?(?:previous|earlier|lower|other|former) (?:grade |belt |rank )?(?:form|kata|pattern|poomsae|hyung|tul)s?\b`)

// askName asks where a name does not look like one.
func (b *Reader) askName(l *PageLine, words []string) {
	if len(l.Doubts) > 0 || l.Said != "" {
		return
	}
	small, content := 0, 1
	quoted := strings.ContainsAny(l.Name, "\"“”„‘’")
	for _, w := range words[1:] {
		if !joinsFirst.MatchString(w) {
			content++
		}
		if r, _ := utf8.DecodeRuneInString(w); unicode.IsLower(r) && !joinsFirst.MatchString(w) && w != "the" {
			small++
		}
	}
	told := slices.Contains(curriculum.SaidKinds, l.Kind)
	switch is := b.KindInName(l.Name); {
	case endsOpen.MatchString(l.Name) && !told:
		l.doubt(fmt.Sprintf("the name %s ends in the middle of a sentence; write the name first, and what is said of it in brackets", l.Name))
	case oddSign.MatchString(l.Name) && !told:
		l.doubt(fmt.Sprintf("%s is read as a name; write it without the signs that belong to the sheet", l.Name))
	case hyphened.MatchString(l.Name) && slices.Contains(curriculum.Basic, l.Kind) && b.isMove(strings.Split(l.Name, "-")[0]) && b.isMove(strings.Split(l.Name, "-")[1]):
		l.doubt(fmt.Sprintf("%s may name several; write a line for each, or a combination’s name and its moves after a colon", l.Name))
	case joinsFirst.MatchString(l.Name) && !told && !(len(words) == 2 && strings.EqualFold(words[1], headNouns[l.Kind])) && l.Kind != "self_defence" && l.Kind != "sparring" && !lowerForm.MatchString(l.Name):
		l.doubt(fmt.Sprintf("%s begins as a remark does; write the name first", l.Name))
	case slices.Contains(curriculum.Basic, l.Kind) && l.usual && is == "" && len(words) >= leastNumbers && inSmall(l.Name) && l.Moves == "":
		l.doubt(fmt.Sprintf("%s is read as a technique; where it says how others are done, write it in brackets behind them, or at the head of the section", l.Name))
	case eachOfThem.MatchString(l.Name) && !told:
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	case slices.Contains(curriculum.Basic, l.Kind) && b.twoForeign(words):
		l.doubt(fmt.Sprintf("%s may name several; write a line for each, or a combination’s name and its moves after a colon", l.Name))
	case commandFirst.MatchString(l.Name) && !told && l.Kind != "self_defence" && !titled(words):
		l.doubt(fmt.Sprintf("%s begins as a sentence does; write the name first, and how much behind it", l.Name))
	case sentenceName.MatchString(l.Name) && !told && l.Kind != "self_defence":
		l.doubt(fmt.Sprintf("%s reads as a sentence; write the name first, and what is said of it in brackets", l.Name))
	case someNumberOf.MatchString(l.Name):
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	case toSomebody.MatchString(l.Name) && slices.Contains(curriculum.Basic, l.Kind):
		l.doubt(fmt.Sprintf("%s reads as a sentence; write the name first, and what it is done to in brackets", l.Name))
	case l.usual && (l.Kind == "fitness" && (distance.MatchString(l.Name+" "+l.Note) || curriculum.MovesAbout.MatchString(strings.ToLower(l.Name))) || l.Kind == "balance" && asLongAs.MatchString(l.Name)):
		l.doubt(fmt.Sprintf("nothing says for how long or how often, and %s is read; write for example 60 s or 10 times", l.Quantity))
	case attackFirst.MatchString(l.Name) && slices.Contains(curriculum.Basic, l.Kind):
		l.doubt(fmt.Sprintf("%s speaks of an attack; where it is to be answered, write it under Self-defence, or with as attacker", l.Name))
	case sayNothing.MatchString(l.Name) || manyLimbs.MatchString(l.Name) || curriculum.UsualKind(l.Name) == l.Kind && (strings.HasSuffix(l.Name, "s") || manySaid.MatchString(l.Text) && !l.Quantity.PerSide()) && slices.Contains(append(curriculum.Basic, "combination", "form"), l.Kind):
		l.doubt(fmt.Sprintf("%s names nothing by itself; write what is asked", l.Name))
	case slices.Contains(amounted, l.Kind) && content > mostWords:
		l.doubt(fmt.Sprintf("%s is long for a name; where several are meant, write a line for each", l.Name))
	case l.Kind == "combination" && l.Moves == "" && len(words) == 1 && is != "combination" && !strings.ContainsFunc(l.Name, unicode.IsDigit):
		l.doubt(fmt.Sprintf("nothing says what the moves of %s are; write them behind a colon", l.Name))
	case l.Kind == "form" && is != "" && is != "form" && l.Moves == "" && !quoted && !titled(words):
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, l.Section, aKind(is), is.Words()))
	case l.Kind == "form" && !l.Free && small > 1 && !lowerForm.MatchString(l.Name) && !quoted && !formWord.MatchString(l.Name) && !(aKata.MatchString(l.Name) && !plainEnglish.MatchString(l.Name)):
		l.doubt(fmt.Sprintf("%s is read as the name of a form; if it is none, write its kind on the line, or a heading above it", l.Name))
	}
}

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

// askChoice asks once below each heading that lets only some of what stands below it be shown: every line is asked of everybody.
func askChoice(lines []PageLine) {
	var asked string
	for i := range lines {
		l := &lines[i]
		if choice := l.under.choice; choice != "" && choice+l.Section != asked && l.Aside == "" && l.Problem == "" && !l.notAmong() {
			l.doubt(fmt.Sprintf("“%s” in the heading leaves out some of what stands below, and every line is read as asked of everybody; where the candidate chooses, make what stands below techniques and write here what it is chosen from with “free choice”", choice))
			asked = choice + l.Section
		}
	}
}

// notAmong reports whether a line below a heading of what is shown is told, so that a choice there leaves it out.
func (l *PageLine) notAmong() bool {
	return slices.Contains(curriculum.SaidKinds, l.Kind) && l.under.section != "" && !slices.Contains(curriculum.SaidKinds, cmp.Or(l.under.kind, curriculum.UsualKind(l.under.section)))
}

var (
	// sentenceName is what somebody does, or what is done.
	sentenceName = pattern.Of(`(?i)^(?:he|she|they|everyone|everybody|we|you|the students?|students?|the candidates?) \pL|\pL (?:is|are|was|has to|have to|must|should) \pL`)
	// someNumberOf are several that are counted: the first three forms.
	someNumberOf = pattern.Of(`(?i)\b(?:first|last|next|all|any|previous) (?:two|three|four|five|six|\d{1,2}) (?:forms|patterns|kata|sets|techniques|combinations)\b`)
	// toSomebody is a sentence of what is done to what: Block a punch with the …
	toSomebody = pattern.Of(`(?i)^(?:kick|punch|strike|block|parry|stop|catch|hit) (?:an?|the) .* with (?:an?|the) `)
	// distance is how far, which is no amount, or what is done so far and no time.
	// asLongAs is a time told by something else than a clock: for ten breaths.
	asLongAs = pattern.Of(`(?i)\b(?:for|while) (?:\S+ )?(?:breaths?|songs?|claps?|heartbeats?|i |we |you |the )`)
	distance = pattern.Of(`(?i)\b(?:till|until|lengths?|widths?|laps?|across|to the (?:wall|end|line|door|other side)) |\b(?:there|up|down) and back\b|\bup and down\b|\b(?:bear|crab` +
		`|duck|monkey|frog|lizard|inchworm|spider|animal|crocodile|army|commando)s? (?:walk|crawl|jump|hop)s?\b|\b(?:shuttle|relay)s?\b`)
)

// lengthsNoted is how far, which is no amount.
var lengthsNoted = pattern.Of(`(?i)\b(?:\d{1,2}|one|two|three|four) (?:lengths?|widths?|laps?)(?: (?:each|of the (?:hall|dojo|room|mat|gym)))?\b`)

// hyphenRow are two moves with a hyphen between: front-round.
var hyphenRow = pattern.Of(`(?i)\b(?:front|round|side|hook|axe|crescent|spinning|jab|cross)-(?:front|round|side|back|hook|axe|crescent|spinning|jab|cross)\b`)

// talkOf is spoken of and not done: stranger danger talk.
var talkOf = pattern.Of(`(?i)(?:\btalk|\bdiscussion|\brules)$|^knowledge of\b|^(?:talk|speak) about\b|^discuss\b`)

// ownCombo is a combination that the candidate makes.
var ownCombo = pattern.Of(`(?i)^(?:(?:your|my|their|his or her) )?own (?:combination|combo)s?\b`)

// anyOfThem lets somebody choose.
var anyOfThem = pattern.Of(`(?i)^(?:any|either|choose|pick)(?: (?:one|two|three|four|five|\d)(?: of (?:them|these))?)?$|\b(?:your|own|examiner'?s|panel'?s) choice\b`)

// goesUnder are, by the kind of a section, the others whose words its lines may be named with.
var goesUnder = map[Kind][]Kind{
	"board_break": {"kick", "strike"}, "kick": {"strike", "block", "evasion", "throw", "fitness"}, "strike": {"footwork", "fitness"}, "block": {"strike", "evasion"}, "evasion": {"block", "footwork", "breakfall", "fitness"}, "combination": {"kick", "strike", "block", "evasion", "footwork"},
	"self_defence": {"strike", "kick", "block", "evasion", "throw", "lock", "footwork", "courtesy", "breakfall", "combination", "knowledge"}, "partner_set": {"strike", "kick", "block", "sparring", "self_defence"}, "sparring": {"partner_set", "kick", "strike"},
	"form": {"strike", "kick", "block", "stance", "combination", "footwork"}, "fitness": {"stance", "balance", "footwork", "throw"}, "footwork": {"stance", "evasion", "block", "kick", "strike"}, "stance": {"footwork", "balance"}, "lock": {"throw", "self_defence"}, "throw": {"lock", "self_defence", "breakfall"},
	"breakfall": {"throw", "footwork"}, "courtesy": {"character", "knowledge"}, "character": {"courtesy", "knowledge"}, "knowledge": curriculum.Kinds, "balance": {"stance", "kick", "fitness"},
}

// stepsFirst is a number that belongs to a name: 3-step 1.
var (
	stepsFirst = pattern.Of(`^\d-`)
	stepsOf    = pattern.Of(`(?i)^\d[- ]steps? (?:\pL+ ?)*(?:\d{1,2}$)?`)
)

// aKata is a word for a form in the name of one.
var aKata = pattern.Of(`(?i)\b(?:kata|hyung|poomsae|tul)\b`)

// movesFrom are the moves of a form from one to another: bunkai of moves 1-6.
var movesFrom = pattern.Of(`(?i)\b(?:of|from|for) (?:the )?(?:moves|movements|steps|counts) \d{1,2} ?(?:[-–]|to) ?\d{1,2}\b`)

// numberWithin is a number that belongs to a name: 45 degrees, 5-punch combination, 2 on 1 sparring, against 2 attackers.
var numberWithin = pattern.Of(`(?i)\bk-?1\b|\b(?:moves|movements|steps|counts) \d{1,2} ?(?:[-–]|to) ?\d{1,2}\b|\bfirst \d{1,2} (?:moves?|movements?` +
	`|steps?|counts?|techniques?)\b|\b\d{1,2} ?oz\b|\bin \d (?:directions|ways)\b|\b\d{1,3} ?(?:°|degrees?\b)|\b\d{1,2}-(?:punch|kick|strike|hit|count` +
	`|point|piece|move|block|man|person|direction|way|angle|corner|gate)s?\b|\b\d (?:on|vs\.?|v|against) \d \pL|\bon 1 (?:foot|leg|knee|hand|arm)\b` +
	`|\pL \d (?:attackers|opponents|people|partners|assailants)\b`)

// endsOpen ends where something has to follow.
var endsOpen = pattern.Of(` (?:and|or|with|of|the|an?|by|for|within|from|at)$`)

// awayFrom is what somebody does to get away, which is no exercise.
var awayFrom = pattern.Of(`(?i)\b(?:shout|yell|stop|no|push|away|safe|help|grown-?up|adult)\b`)

// inSmall reports whether a name begins with a small letter.
func inSmall(name string) bool {
	r, _ := utf8.DecodeRuneInString(name)
	return unicode.IsLower(r)
}

// manySaid are so many of a kind, which none of them names: five blocks, five kicks.
var manySaid = pattern.Of(`(?i)\b(?:\d{1,2}|one|two|three|four|five|six|seven|eight|nine|ten) (?:kicks|blocks|strikes|punches|stances|forms|patterns|combinations)\b`)

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
	// sparred are words for what is sparred.
	sparred = pattern.Of(`(?i)\b(?:spar|fight|box|wrestl|grappl|roll|bouts?|rounds?|contact|randori|\S*kumite|kyorugi|gyeorugi|taeryon|opponents?|partners?|attackers?|vs|against|light|points?|body|gloves?|match|games?|tag|continuous|clinch|ground|mma|hands|feet|kicks|punches|free|one|two|three)`)
	// arranged are words for what partners show in turn, not freely.
	arranged = pattern.Of(`(?i)\b(?:yakusoku|ippon|nihon|sanbon|gohon|(?:one|two|three|five|\d)[- ]steps?|arranged|pre-?arranged)\b`)
	// manyOf is a number behind a colon: Defence against a stick: 2.
	manyOf = pattern.Of(`: ?\d{1,2}$`)
)

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

// twoTitles are two names in capitals: Pebble and Boulder.
var twoTitles = pattern.Of(`^(?:\p{Lu}\pL+ ?){1,2} (?:and|&) \p{Lu}\pL+(?: \p{Lu}\pL+)?$`)

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

// timeNoted is how long something is, in a remark.
var timeNoted = pattern.Of(`(?i)\b\d{1,2} ?(?:mins?|minutes?|secs?|seconds?)\b`)

// andOne names one more of a kind: Long Lake and one free form.
var andOne = pattern.Of(`(?i).+ and one (?:\pL+ )?(?:form|kata|pattern|set|throw|lock|combination)\b`)

// sentences are names that stand as sentences, one behind the other: Jab. Cross. Hook.
var sentences = pattern.Of(`\pL\. +\pL.*\pL\. +\pL|^[Oo]ne .+ and (?:one|another) `)

var joinedBy = pattern.Of(`\s*(?:&|\+|/)\s*|\s+and\s+|[–—]`)

// withShort is "w/ both arms", which names one.
var withShort = pattern.Of(`(?i)\bw/ ?`)

// joinedIdiom are names of one thing that hold an "and".
var joinedIdiom = pattern.Of(`(?i)\b(?:bob|duck|slip|bend)(?:bing|ing)? (?:and|&) (?:weav(?:e|ing)|roll|duck|cover)\b|\bbow(?:ing)? in (?:and|&) out\b|\bstep (?:and|&) (?:slide|drag)\b|\b(?:forwards?|fwd|up|left) ?(?:/|and|&|\+) ?(?:back(?:wards?)?|down|right)$|\broll(?:s|ing)? (?:\pL+ )?(?:and|&) (?:stand|get)(?:s|ing)? up\b`)

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

// mixed are headings under which things of several kinds stand.
var mixed = []string{"basic", "fundamental", "stretche", "stretching", "warm up", "technique", "hand", "feet", "foot", "requirement", "material", "kihon", "kihon waza", "basic school", "basic technique", "basic movement", "basic motion", "basic training", "fundamental movement", "fundamental technique", "waza", "game", "ground", "ground work", "floor", "floor work", "line work", "linework", "line drill", "test", "moving", "standing", "moving line", "bag work and pad", "technique list", "clinch", "grappling", "circuit", "defence", "attack", "other", "general", "extra", "drill", "misc", "miscellaneou", "move", "skill", "techniques to know", "what to know", "kihon ido", "ido kihon", "defensive art", "offensive art", "martial art", "art", "practical", "son", "safe",
	"groundwork", "ground fighting", "ground fight", "technical", "technique check", "technical check", "skills check", "core skill", "core technique", "tool", "individual technique", "single technique",
	"demonstration", "close range", "long range", "hit back", "hitting back", "body movement", "what i can do"}

// mayBeHeading reports whether a line that says a name alone looks like a heading: in capitals,
// or by its word.
func mayBeHeading(name string) bool {
	return inCapitals(name) || slices.Contains(mixed, curriculum.SectionKey(name))
}

// inCapitals reports whether all letters of a text, more than three, are capitals.
func inCapitals(text string) bool {
	letters := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) {
			return r
		}
		return -1
	}, text)
	return utf8.RuneCountInString(letters) > 3 && letters == strings.ToUpper(letters) && letters != strings.ToLower(letters)
}

// shoutingFrom is how many lines of a hundred are in capitals where capitals tell nothing.
const shoutingFrom = 60

// inCapitalsMostly reports whether most lines of a page are in capitals, so that they tell nothing.
func inCapitalsMostly(lines []string) bool {
	loud, of := 0, 0
	for _, line := range lines {
		if strings.ContainsFunc(line, unicode.IsLetter) {
			if of++; inCapitals(line) {
				loud++
			}
		}
	}
	return of >= leastLines && 100*loud >= shoutingFrom*of
}

// lowered is a name in capitals as it is usually written: the names of forms and defences with a capital
// to each word, others with one.
func lowered(name string, k Kind) string {
	if !inCapitals(name) {
		return name
	}
	words := strings.Fields(name)
	each := slices.Contains([]Kind{"form", "self_defence", "partner_set", "combination"}, k)
	for i, w := range words {
		if utf8.RuneCountInString(w) < 2 {
			continue
		}
		if w = strings.ToLower(w); i == 0 || each {
			w = capitalised(w)
		}
		words[i] = w
	}
	return strings.Join(words, " ")
}

func (l *PageLine) doubt(reason string) {
	l.Doubts = append(l.Doubts, notation.Doubt{Column: 1, Reason: reason})
}
