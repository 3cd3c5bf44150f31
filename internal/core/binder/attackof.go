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
	"velvetladder/internal/core/pattern"
)

// What a technique answers, read from its name, a remark or the attacker’s part.

// AttackOf is the attack that a self-defence technique or partner set is named or remarked for: Escape from headlock, Falling Bell (front
// choke). A punch or a kick counts only where it is said to be the attack, in brackets or behind against: it may be the answer. Of several
// that are named none is taken. More is the remark it was read from where that holds more than the attack.
func (b *Reader) AttackOf(name, note, typed string) (out []curriculum.AttackElement, rest string) {
	parts := strings.Split(note, ", ")
	if curriculum.AnswersWhat.MatchString(note) && len(parts) > 1 { // against jab, cross
		if x, more := b.attackIn(strings.Join(parts, " then ")); len(x) == len(parts) && !more {
			return x, ""
		}
	}
	name = placeBehind.ReplaceAllString(name, "")
	if out, rest = b.attackByName(name, note, parts); out != nil {
		return out, rest
	}
	plainName := titled(strings.Fields(name)) && strings.Contains(name, " ") && !slices.Contains(curriculum.Basic, b.KindInName(name)) // Dancing Flame - right front kick
	said := func(part string, x []curriculum.AttackElement) bool {                                                                     // a punch may be the answer
		dashed := plainName && strings.HasPrefix(note, part) && !strings.Contains(typed, ", "+part)
		bracketed := strings.Contains(typed, "("+part) || strings.Contains(typed, "("+note)
		return dashed || bracketed || b.isHeld(x) || saysAgainst.MatchString(part) || attackerDoes.MatchString(part) || strings.HasPrefix(part, "from ")
	}
	x, more := b.attackIn(strings.Join(parts, " "))
	if x == nil && sideAgain.MatchString(strings.ToLower(note)) { // Left hook, right hook
		x, more = b.attackIn(note)
	}
	if x != nil && said(note, x) {
		if more {
			return x, note
		}
		return x, ""
	}
	out = nil
	at := -1
	for i, part := range parts {
		x, more := b.attackIn(part)
		if x != nil && out != nil || x != nil && !said(part, x) {
			return nil, note
		}
		if x == nil {
			continue
		}
		if out = x; !more {
			at = i
		}
	}
	if at >= 0 {
		note = strings.Join(slices.Delete(parts, at, at+1), ", ")
	}
	if out == nil {
		out = b.attackBeside(name, note, typed, plainName)
	}
	return out, note
}

// attackNames are a name and what of it may be an attack: what it is for, or a sentence is of.
func attackNames(name string) []string {
	names := []string{name}
	if m := attackIs.FindStringSubmatch(name); m != nil { // A wrist grab from the front is taken off with the thumb
		names = append(names, "against "+m[1])
	}
	if before := namedFor.FindString(name); before != "" { // Closed Door from a push
		names = append(names, "against "+name[len(before):])
	}
	return names
}

// handsTold counts the parts of a remark that say by which hand or from where each: same side, cross side, two on one.
func handsTold(parts []string) (n int) {
	for _, part := range parts {
		if handTold.MatchString(part) {
			n++
		}
	}
	return n
}

// attackByName is the attack that a name says, alone or with the parts of a remark, and the remark that is left.
func (b *Reader) attackByName(name, note string, parts []string) (out []curriculum.AttackElement, rest string) {
	names := attackNames(name)
	for _, name := range names[1:] { // against jab and cross
		if strings.Contains(name, " and ") {
			names = append(names, strings.ReplaceAll(name, " and ", " then "))
		}
	}
	for _, name := range names { // Hair pull (rear)
		if b.fromSeveral(name, parts) {
			break
		}
		if whole, more := b.attackIn(name + " " + strings.Join(parts, " ")); whole != nil && (saysAgainst.MatchString(name) || b.isHeld(whole) && !ownChoke.MatchString(name)) {
			if more || handsTold(parts) > 1 {
				return whole, note
			}
			return whole, ""
		}
	}
	for _, name := range names {
		if whole, rest := b.attackWithOne(name, parts); whole != nil {
			return whole, rest
		}
		if out, _ = b.attackIn(name); out != nil && (saysAgainst.MatchString(name) || attackerDoes.MatchString(name) || b.isHeld(out) && !ownChoke.MatchString(name)) {
			return out, note
		}
	}
	return nil, ""
}

// fromSeveral reports whether somebody is held from one place by the name and from others by the parts of a remark: strangle from front, rear.
func (b *Reader) fromSeveral(name string, parts []string) bool {
	return placeTold.MatchString(name) && slices.ContainsFunc(parts, placeAgain.MatchString)
}

var (
	placeTold  = pattern.Of(`(?i) from (?:the )?(?:front|rear|behind|back|side)$`)
	placeAgain = pattern.Of(`(?i)^(?:from )?(?:the )?(?:front|rear|behind|back|side)\b`)
)

// handTold is by which hand or from where somebody is held.
var handTold = pattern.Of(`(?i)\b(?:same|cross|opposite|two on one|two[- ]hand(?:s|ed)?|double|both|one hand(?:ed)?|left|right|front|rear|side|behind|back)\b`)

// attackIs is a sentence of what is done about an attack.
var attackIs = pattern.Of(`(?i)^(.+?) (?:is|are|gets|get) (?:[\pL]+ly )?\pL+(?:ed|en|ken|t|ne)\b`)

// besideAttack are words beside an attack with which it may be the answer, or part of a drill: arm drag to rear choke.
var besideAttack = pattern.Of(`(?i)\b(?:to|into|or|and|then|apply|drills?|art|arts|flow|set|series|your|own|counter|break|grip|fight|safely|rules?|game|tag|two|double)\b`)

// attackBeside is the attack of a name or a remark of which other words say more than an attack holds: opposite wrist grab, against choke on
// the wall. What may be an answer counts only behind against or in brackets; named says that the name is one that tells nothing.
func (b *Reader) attackBeside(name, note, typed string, named bool) []curriculum.AttackElement {
	if against := saysAgainst.MatchString(name); against {
		said := saysAgainst.ReplaceAllString(strings.TrimSpace(saysAgainst.ReplaceAllString(name, "")), "") // Defence against
		if x := b.attackWithin(leadsTo.ReplaceAllString(strings.TrimSpace(said), "")); x != nil {
			return x
		}
	}
	if m := namedFor.FindString(name); m != "" {
		if x := b.attackWithin(name[len(m):]); x != nil && (!strings.HasSuffix(m, " from ") || b.isHeld(x)) {
			return x
		}
	}
	if x := b.attackWithin(name); x != nil && b.isHeld(x) && !ownChoke.MatchString(name) {
		return x
	}
	if x := b.attackWithin(note); x != nil && (strings.Contains(typed, "("+note) || named && !strings.Contains(typed, ", "+note) && b.isHeld(x)) {
		return x
	}
	if x := b.attackWithin(name + " " + strings.ReplaceAll(note, ",", "")); note != "" && b.namesAttack(check.Key(name)) && x != nil && b.isHeld(x) && !ownChoke.MatchString(name) { // Seated choke (on a chair), from behind
		return x
	}
	return nil
}

// attackWithin is an attack in a few words of which some one after the other say more than it holds, as short a run of them as can be, and
// nothing of another attack, of an answer, of a side or where it comes from; nil where there is none.
func (b *Reader) attackWithin(text string) []curriculum.AttackElement {
	words := strings.Fields(attackNoise.ReplaceAllString(strings.ReplaceAll(check.Key(text), "-", " "), " "))
	for n := range min(len(words), mostListed) {
		for i := 0; i+n <= len(words); i++ {
			rest := strings.Join(words[i:i+n], " ")
			x, is := b.attackPart(slices.Concat(words[:i], words[i+n:]))
			if !is || besideAttack.MatchString(rest) || whichAttack.MatchString(rest) || b.namesAttack(rest) || slices.Contains(append(curriculum.Basic, "throw", "lock"), curriculum.KindInWords(rest)) {
				continue
			}
			if i > 0 && i+n == len(words) && n > 0 && !whereAttacked.MatchString(words[i-1]) && !whereAttacked.MatchString(rest) || i+n < len(words) && n > 0 && (words[i+n] == "to" || words[i+n] == "into") { // arm drag to rear choke
				continue
			}
			return []curriculum.AttackElement{x.AttackElement}
		}
	}
	return nil
}

// whichAttack are words that say which of its kind an attack is.
var whichAttack = pattern.Of(`\b(?:left|right|rear|front|behind|back|sides?|low|high|overhead|both|lead|flank)\b`)

// leadsTo begins what is answered.
var leadsTo = pattern.Of(`(?i)^(?:to|from|of|against|an?|the) `)

// whereAttacked begins where or how somebody is attacked.
var whereAttacked = pattern.Of(`^(?:on|in|at|from|while|when|against|with|by|under|over|behind|\pL+ing)\b`)

// namesAttack reports whether a few words hold an attack.
func (b *Reader) namesAttack(text string) bool {
	words := strings.FieldsFunc(text, func(r rune) bool { return unicode.IsSpace(r) || strings.ContainsRune(",;()", r) })
	for i := range words {
		for j := i + 1; j <= len(words); j++ {
			phrase := strings.Join(words[i:j], " ")
			if x := cmp.Or(attackPhrases()[phrase], attackPhrases()[strings.TrimSuffix(phrase, "s")]); x.Kind != "" {
				return true
			}
		}
	}
	return false
}

// ownChoke is a hold by a name that it has where one's own is shown.
var ownChoke = pattern.Of(`(?i)^(?:standing |arm[ -]in |high[ -]elbow )?guillotine(?: choke)?$|^(?:naked|cross(?:ed)?[ -]collar|sliding collar|(?:arm )?triangle) (?:choke|strangle)$`)

// attackWithOne is the attack that a name says together with one of several remarks, and the others of them: Knife defence, overhead,
// rubber knife. nil where the name says one alone, and where more than one of them would.
func (b *Reader) attackWithOne(name string, parts []string) (out []curriculum.AttackElement, rest string) {
	if alone, _ := b.attackIn(name); alone != nil || len(parts) < 2 {
		return nil, ""
	}
	for i, part := range parts {
		whole, more := b.attackIn(name + " " + part)
		switch {
		case whole == nil:
			continue
		case out != nil || more && curriculum.KindInWords(part) != "" || !saysAgainst.MatchString(name) && !b.isHeld(whole):
			return nil, ""
		}
		out, rest = whole, strings.Join(slices.Delete(slices.Clone(parts), i, i+1), ", ")
	}
	return out, rest
}

// placeBehind is the number of a technique among those against one attack: Wrist grab 1.
var placeBehind = pattern.Of(`,? (?:(?i:(?:no|nr)\.?|number)? ?#?\d{1,2}|[A-Z])$`)

// defendsFirst begins what is done about an attack.
var defendsFirst = pattern.Of(`(?i)^(?:and )?(?:step|slip|block|parry|duck|cover|catch|check|jam|lean|deflect|evade|move|turn|side ?step|bob|weave|redirect|scoop|absorb|trap|shield|brush|intercept|stop|pin|sweep|clear|angle|swim|shell|get out|run|(?:inward|outward|rising|high|low|inside|outside|downward|upward) (?:block|parry))\b`)

// isAttack reports whether a few words are an attack that is no answer.
func (b *Reader) isAttack(text string) bool {
	x, _ := b.attackIn(text)
	return x != nil && b.isHeld(x)
}

// isHeld reports whether no part of an attack could be an answer: a hold, a choke, a weapon, a push.
func (b *Reader) isHeld(attack []curriculum.AttackElement) bool {
	return !slices.ContainsFunc(attack, func(a curriculum.AttackElement) bool {
		return !slices.Contains([]curriculum.AttackKind{"push", "two-hand push", "slap"}, a.Kind) && slices.Contains([]curriculum.Nature{"strike", "kick"}, b.Program.NatureOf(a.Kind))
	})
}

// attackLabelled is the attack that stands before a colon with what is done about it: Left jab: slip outside, hook to the body; nil where the
// line is not so.
func (b *Reader) attackLabelled(l *PageLine) []curriculum.AttackElement {
	done := l.Moves
	if done == "" && l.Note != "" && strings.Contains(l.Text, ": "+l.Note) { // Front kick: scoop and push
		done = l.Note
	}
	x, _ := b.attackIn(placeBehind.ReplaceAllString(l.Name, ""))
	if l.Kind != "self_defence" || x == nil || done == "" {
		return nil
	}
	if sided := !slices.ContainsFunc(x, func(a curriculum.AttackElement) bool { return a.Side == "" }); sided && l.Moves != "" || defendsFirst.MatchString(done) {
		return x
	}
	return nil
}

// defenceAgainst names what is done about an attack that is the name of a strike or a kick by itself, which is another technique:
// Front kick: scoop and push is Defence against front kick. Other lines stay.
func (b *Reader) defenceAgainst(line string) string {
	at := listed(line)
	label, done, found := strings.Cut(line[at:], ": ")
	attack, then, more := strings.Cut(done, ", ")
	named := found && more && strings.Contains(label, " ") && titled(strings.Fields(label))
	if named && b.attackAlone(attack) && (beginsStep.MatchString(then) || b.attackAlone(then)) { // Gentle Rain: wrist grab, pull away and back knuckle
		return line[:at] + label + " (" + strings.TrimSpace(attack) + ") - " + strings.TrimRight(strings.TrimSpace(then), ".") + "."
	}
	if !found || !defendsFirst.MatchString(strings.TrimSpace(done)) || !slices.Contains([]Kind{"strike", "kick"}, b.KindInName(label)) {
		return line
	}
	x, _ := b.attackIn(label)
	if len(x) != 1 || x[0].Side == "left" || x[0].Side == "right" || b.isHeld(x) || saysAgainst.MatchString(label) || attackerDoes.MatchString(label) {
		return line
	}
	first, size := utf8.DecodeRuneInString(label)
	return line[:at] + "Defence against " + string(unicode.ToLower(first)) + label[size:] + ": " + done
}

// attackAlone reports whether a text says an attack and nothing else that is done: wrist grab, two-hand push.
func (b *Reader) attackAlone(text string) bool {
	attack, more := b.attackIn(strings.TrimSpace(text))
	return attack != nil && !more && !defendsFirst.MatchString(strings.TrimSpace(text))
}

// noteAndMoves is a remark that goes on with what is done about it.
var noteAndMoves = pattern.Of(`^([^.]+)\. (\p{Lu}.*\.)$`)

// answersAttack are the kinds that answer an attack; those of mayAnswer do where their name says against what, slip vs jab, of which the last
// are no basics that a remark may put to one use: there it counts too.
var (
	answersAttack = []Kind{"self_defence", "partner_set"}
	madeToAnswer  = curriculum.MayAnswer[3:]
)

// mayAnswerBy reports whether something of a kind, with a name and a remark, may say what it answers.
func mayAnswerBy(k Kind, name, note string) bool {
	return slices.Contains(answersAttack, k) || slices.Contains(curriculum.MayAnswer, k) && curriculum.AnswersWhat.MatchString(name) || slices.Contains(madeToAnswer, k) && curriculum.AnswersWhat.MatchString(note)
}

// attacksOn reads what the techniques of lines answer out of their names, remarks or the attacker's part. Where a name comes again with
// another attack it stays a remark: a technique answers one.
func (b *Reader) attacksOn(lines []PageLine) {
	told := map[string][]curriculum.AttackElement{}
	for i := range lines {
		l := &lines[i]
		below := l.under.attack != nil && inAList.MatchString(l.Text) && slices.Contains([]Kind{"self_defence", "lock", "throw"}, l.Kind) // 2. Arm bar, below Cross wrist grab
		if l.Aside != "" || l.Problem != "" || !below && !mayAnswerBy(l.Kind, l.Name, l.Note) {
			continue
		}
		key := check.Key(l.Name)
		if len(l.Attack) > 0 { // before names were told apart
			told[key] = l.Attack
			continue
		}
		before, again := told[key]
		if t := b.Technique(l.TechniqueID); t != nil && len(t.Attack) > 0 {
			before, again = t.Attack, true
		}
		b.movesBehind(l)
		attack, note := b.AttackOf(l.Name, l.Note, l.Text)
		if m := noteAndMoves.FindStringSubmatch(l.Note); m != nil && l.Kind == "self_defence" && l.Moves == "" { // Hidden Spur - rear bear hug. Stomp, turn.
			if said, before := b.AttackOf(l.Name, m[1], l.Text); said != nil {
				attack, note, l.Moves = said, before, check.Tidy(m[2])
			}
		}
		if attack == nil {
			attack = b.attackLabelled(l)
		}
		if attack == nil && l.Attacks != "" {
			attack, _ = b.attackIn(l.Attacks)
		}
		if attack == nil && below {
			attack = l.under.attack
			note = strings.Trim(note+", "+l.under.attacks, ", ")
		}
		if again && !slices.Equal(before, attack) {
			continue
		}
		told[key] = attack
		l.Attack, l.Note = attack, note
	}
}

// attacksListed takes the names of new defences that are an attack and nothing else for it where all that stands below their heading are attacks
// alone, or most: haymaker, between wrist grab and bear hug. Anywhere else such a name may be the answer.
func (r *pageReader) attacksListed() {
	group := map[int][]*PageLine{}
	heads := slices.Sorted(slices.Values(r.heads))
	for i := range r.out {
		if l := &r.out[i]; l.New && l.Aside == "" && l.Problem == "" && l.Said == "" && r.sparringKind(l) == "self_defence" {
			head, _ := slices.BinarySearch(heads, l.Number)
			group[head] = append(group[head], l)
		}
	}
	for _, lines := range group {
		alone, sure := 0, 0
		for _, l := range lines {
			if attack, _ := r.attackIn(l.Name); len(attack) == 1 && l.Moves == "" {
				if alone++; len(l.Attack) > 0 {
					sure++
				}
			}
		}
		if sure == 0 || len(lines) < leastTold || alone < len(lines) && (sure < leastTold || 2*sure <= len(lines)) {
			continue
		}
		for _, l := range lines {
			if attack, _ := r.attackIn(l.Name); len(attack) == 1 && len(l.Attack) == 0 && l.Moves == "" && !ownChoke.MatchString(l.Name) {
				l.Attack, l.Kind = attack, "self_defence"
			}
		}
	}
}

// hangsOn begins with a side, or as what hangs on the words before does.
var hangsOn = pattern.Of(`(?i)^(?:left|right|with|the|your|as|and|hold(?:ing)?)\b`)

// leastTold is how many parts are told in a row where no attack stands before them and no full stop behind.
const leastTold = 3

// movesBehind takes what is told behind the name and the attack of a defence for its steps: Broken Oar (wrist grab) - Circle the wrist, step in. Of
// one that is known it is left out where these are its steps.
func (b *Reader) movesBehind(l *PageLine) {
	if l.Kind != "self_defence" || l.Moves != "" || dashed.FindStringIndex(l.Text) == nil && !bracketThenSteps.MatchString(strings.TrimSpace(l.Text)) || noteAndMoves.MatchString(l.Note) {
		return
	}
	parts := strings.Split(l.Note, ", ")
	at := slices.IndexFunc(parts, func(part string) bool {
		attack, _ := b.attackIn(part)
		return attack == nil && beginsStep.MatchString(part) && !hangsOn.MatchString(part)
	})
	if at < 0 {
		return
	}
	before, done := strings.Join(parts[:at], ", "), strings.Join(parts[at:], ", ")
	sentence := strings.HasSuffix(done, ".")
	if t := b.Technique(l.TechniqueID); t != nil {
		if steps := t.StepsAt(1); len(steps) == 1 && sameWords(steps[0].Moves, done) {
			l.Note = before
		}
		return
	}
	attack, _ := b.AttackOf(l.Name, before, l.Text)
	switch {
	case attack == nil && !titled(strings.Fields(l.Name)) || strings.ContainsAny(done, "/+→>"):
	case at > 0 && attack != nil && (sentence || strings.Contains(done, ",")), sentence && strings.Contains(done, ","), len(parts)-at >= leastTold:
		l.Note, l.Moves = before, strings.TrimRight(done, ". ")+"."
	}
}

// askAttack asks where a new defence speaks of an attack and none was made out of it.
func (b *Reader) askAttack(lines []PageLine) {
	for i := range lines {
		l := &lines[i]
		if l.Kind != "self_defence" || !l.New || len(l.Attack) > 0 || l.Aside != "" || l.Problem != "" || l.Asked || l.Waits || len(l.Doubts) > 0 || ownChoke.MatchString(l.Name) || ofMany.MatchString(l.Name+" "+l.Note) {
			continue
		}
		said := l.Name + " " + l.Note
		told := curriculum.AttackerActs.MatchString(strings.ToLower(l.Name)) || handLaid.MatchString(l.Note) && titled(strings.Fields(l.Name))
		if told || fromFirst.MatchString(l.Moves) || b.namesAttack(attackNoise.ReplaceAllString(attackTold(attackKey(said)), "")) {
			l.doubt(fmt.Sprintf("%s speaks of an attack and is read without one; write a line for each, or the attack in brackets behind a name, for example (rear choke)", l.Name))
		}
	}
}

// handLaid is a hand laid on somebody, beside a name.
var handLaid = pattern.Of(`(?i)\b(?:hands?|arms?|fingers?|fist|grip|hold) (?:on|at|round|around|to|of|over) (?:the |your |one |both )?(?:chest|shoulders?|throat|neck` +
	`|face|mouth|arms?|wrists?|belt|back|waist|hair|head|elbow|sleeve|lapels?|collar)\b`)

// fromFirst begins what says what is answered, where what is done stands: release from same side, cross, double.
var fromFirst = pattern.Of(`(?i)^(?:releases?|escapes?|defen[cs]es?|break(?:ing)? free) (?:from|against) `)

// ofMany is an attack by several, or of several kinds.
var ofMany = pattern.Of(`(?i)\b(?:attackers|people|persons|opponents|partners|any|several|various|different|games?|drills?)\b`)

// NamedAttack is a technique that states no attack, with the one that its name, a remark or the attacker's part says.
type NamedAttack struct {
	*curriculum.Technique
	Said []curriculum.AttackElement
}

// AttacksNamed are the techniques that say what they answer only in words, which coverage does not see until it is stated.
func (b *Reader) AttacksNamed() (out []NamedAttack) {
	for i := range b.Techniques {
		t := &b.Techniques[i]
		if len(t.Attack) > 0 {
			continue
		}
		var said []curriculum.AttackElement
		if mayAnswerBy(t.Kind, t.Name, "") {
			said, _ = b.AttackOf(t.Name, "", "")
		}
		for _, r := range b.UsedBy(t.ID) {
			if said == nil && r.Note != "" && mayAnswerBy(t.Kind, "", r.Note) {
				said, _ = b.AttackOf("", r.Note, "("+r.Note)
			}
		}
		if said == nil && t.AttackMoves != "" {
			said, _ = b.attackIn(t.AttackMoves)
		}
		if said != nil {
			out = append(out, NamedAttack{t, said})
		}
	}
	return out
}
