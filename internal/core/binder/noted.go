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

// askRemark asks where the remark of a line may mean a technique, a role or an amount.
func (b *Reader) askRemark(l *PageLine, amount bool) {
	named := b.Named(l.Name)
	for part := range strings.SplitSeq(l.Note, ", ") {
		if t := b.Named(part); t != nil && t.Kind != "stance" && b.KindInName(part) != "stance" && named != nil && slices.Contains(curriculum.Basic, named.Kind) {
			l.doubt(fmt.Sprintf("“%s” is read as a remark and is a technique; where this is a combination, write its name and after a colon its moves", t.Name))
			break
		}
	}
	if rolesNoted.MatchString(l.Note) && !partnerDoes.MatchString(l.Note) && l.Role == curriculum.Roles[0] && !(b.kindOf(l) == "self_defence" && attackerDoes.MatchString(l.Note)) {
		l.doubt(fmt.Sprintf("“%s” speaks of a role; write a line for each, with as attacker or as defender", l.Note))
	}
	if asksMore.MatchString(l.Note) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where more is asked, write it on a line of its own", l.Note))
	}
	if named != nil && laterAlone.MatchString(l.Note) && named.Kind == "self_defence" {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where a later part of %s is asked, add that on its page, and write it in full there", l.Note, named.Name))
	}
	l.inAll()
	if l.perhaps != "" && !amount && !agesSaid.MatchString(l.perhaps) && !(bothOnly.MatchString(l.perhaps) && curriculum.DefaultAmount(b.kindOf(l)).PerSide()) {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is the amount, write for example 5 a side, 10 or 60 s", l.perhaps))
	}
}

// asksMore is a sentence in a remark that asks for more: I’ll also ask for one from a lower belt.
var asksMore = pattern.Of(`(?i)[.;] (?:.* )?(?:also|ask|plus|in addition|another)\b`)

// sparredFreely is how sparring is done, where its cell leaves the word out.
var sparredFreely = pattern.Of(`(?i)^(?:free|light|continuous|points?|technical|controlled|touch|semi[- ]contact|light[- ]contact|free ?style)$`)

// nameBehind exchanges the attack and the name that stands behind it: Headlock from the side (Escaping Ram); Right punch: Falling Leaf.
func (b *Reader) nameBehind(l *PageLine) {
	if k := b.kindOf(l); k != "self_defence" && k != "" && !l.under.mixed || b.Named(l.Name) != nil {
		return
	}
	behind, said := strings.TrimSuffix(cmp.Or(l.Moves, l.Note), "."), l.Name
	if at := strings.LastIndex(behind, ", "); at >= 0 && l.Moves == "" { // Wrist grab, two on one – Turning Mill
		said, behind = said+", "+behind[:at], behind[at+2:]
	}
	words := strings.Fields(behind)
	attack, _ := b.attackIn(strings.ReplaceAll(said, ",", ""))
	attacked := attack != nil || attackerDoes.MatchString(said) && attackNoted.MatchString(said) // The attacker chokes you against a wall – Leaning Pillar
	if !attacked || l.Moves != "" && l.Note != "" || len(words) < 2 || len(words) > mostListed || eitherSide.MatchString(" "+behind) || strings.ContainsAny(behind, ",;/+.") ||
		slices.ContainsFunc(words, func(w string) bool {
			r, _ := utf8.DecodeRuneInString(w)
			return !unicode.IsUpper(r) && !smallWord.MatchString(w) && !(len(words) > 2 && w == words[len(words)-1] && ofADefence.MatchString(w)) // Open Sluice throw
		}) {
		return
	}
	if attack, _ := b.attackIn(behind); attack != nil || saysOnlyHow(behind) {
		return
	}
	l.Name, l.Note, l.Moves, l.mayBeTerm = behind, said, "", ""
	l.Said = cmp.Or(l.Said, "self_defence")
}

// ofADefence is the word for what it is behind the name of a defence.
var ofADefence = pattern.Of(`^(?:throw|lock|control|technique|defen[cs]e|release|escape|takedown)$`)

// eachSideOnly is no limb of an attacker's.
var eachSideOnly = pattern.Of(`(?i)^(?:on )?(?:each|both|every) sides?$`)

// ofTotal takes an amount of each side that a total is said before: 10 (5 each leg).
func (b *Reader) ofTotal(l *PageLine) {
	parts := strings.Split(l.Note, ", ")
	for i, part := range parts {
		if q, err := curriculum.ParseQuantity(part); err == nil && q.Measure == curriculum.RepsPerSide && l.Quantity.Measure == curriculum.RepsInAll && l.Quantity.Reps == 2*q.Reps {
			l.Quantity, l.Note = q, strings.Join(slices.Delete(parts, i, i+1), ", ")
			if l.perhaps == part {
				l.perhaps = ""
			}
			return
		} else if m := ofEachOne.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" && !strings.Contains(l.Text, ":") { // lead jab and rear cross, 10 of each
			l.Quantity, l.perhaps, l.Note = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: curriculum.Figure(m[1])}, "", strings.Join(slices.Delete(slices.Clone(parts), i, i+1), ", ")
			l.Doubts = slices.DeleteFunc(l.Doubts, func(d notation.Doubt) bool { return strings.Contains(d.Reason, "“"+part+"”") })
			return
		} else if l.Quantity.Measure == curriculum.Timed && part == "each" && slices.Contains(append(curriculum.Basic, "balance"), b.kindOf(l)) { // Cat stance, 5 seconds each
			l.Quantity.Measure, l.Note = curriculum.TimedSide, strings.Join(slices.Delete(parts, i, i+1), ", ")
			l.Doubts = slices.DeleteFunc(l.Doubts, func(d notation.Doubt) bool { return strings.Contains(d.Reason, "“"+part+"”") })
			if l.perhaps == part {
				l.perhaps = ""
			}
			return
		} else if q, err := curriculum.ParseQuantity(fmt.Sprintf("%d %s", l.Quantity.Reps, part)); err == nil && l.Quantity.Measure == curriculum.RepsInAll && q.Measure == curriculum.RepsPerSide && !strings.HasPrefix(check.Key(part), "either ") && (notAlike.MatchString(part) || eitherSide.MatchString(" "+part)) && (b.kindOf(l) != "self_defence" || eachSideOnly.MatchString(part)) { // eight kicks on the shield, each leg
			l.Quantity, l.Note = q, strings.Join(slices.Delete(parts, i, i+1), ", ")
			l.Doubts = slices.DeleteFunc(l.Doubts, func(d notation.Doubt) bool { return strings.Contains(d.Reason, "“"+part+"”") })
			return
		}
	}
}

// howInName takes out of a new name how it is done: Front kick w/ kiai; Side kick holding the wall, which is supported.
func (b *Reader) howInName(l *PageLine) {
	if b.Named(l.Name) != nil {
		return
	}
	if sparredFreely.MatchString(l.Name) && b.kindOf(l) == "sparring" { // Free, in a cell
		l.Name += " sparring"
	}
	if m := standsIn.FindStringSubmatch(l.Name); m != nil && b.kindOf(l) == "stance" { // Stands in fighting stance
		l.Name = capitalised(m[1])
	}
	if name, slow := strings.CutSuffix(l.Name, " slowly"); slow && slices.Contains([]Kind{"strike", "kick", "block", "form", "combination", "breakfall", "throw", "lock", "self_defence", "footwork"}, b.kindOf(l)) {
		l.Name, l.Slow = name, true
	}
	if m := formTail.FindStringSubmatch(l.Name); m != nil && b.kindOf(l) == "form" { // Stone Path at full speed
		l.Name, l.Note = m[1], strings.Trim(m[2]+", "+l.Note, ", ")
	}
	if m := askedTail.FindStringSubmatch(l.Name); m != nil { // First Gate if asked
		l.Name = m[1]
		l.note(m[2])
	}
	if m := shoutTail.FindStringSubmatch(l.Name); m != nil && !slices.Contains(curriculum.SaidKinds, b.kindOf(l)) {
		l.Name = m[1]
		l.note(m[2])
	}
	if m := holdingTail.FindStringSubmatch(l.Name); m != nil && slices.Contains(append(curriculum.Basic, "balance"), b.KindInName(m[1])) {
		if l.Name, l.Supported = m[1], true; check.Key(m[2]) != "with support" { // which says no more
			l.note(m[2])
		}
	}
}

// standsIn is a stance as what somebody does.
var standsIn = pattern.Of(`(?i)^(?:(?:i )?can )?(?:stands?|stays?|gets?) in(?:to)? (?:an? |the |my |good |proper )*([\pL -]+ stance)$`)

// bothOnly says that both sides are shown, which the usual amount of most kinds is of.
var bothOnly = pattern.Of(`(?i)^(?:on |in )?(?:both(?: (?:sides|arms|legs|hands|feet|ways|directions))?|each (?:side|arm|leg|hand|foot|way|direction))\.?$`)

// strikesTwice reports whether more than one of the parts of a remark strikes or kicks.
func (b *Reader) strikesTwice(parts []string) bool {
	found := 0
	for _, part := range parts {
		if is := b.KindInName(part); is == "strike" || is == "kick" {
			found++
		}
	}
	return found > 1
}

// orFirst begins what may be shown instead.
var orFirst = pattern.Of(`(?i)^or (?:an? |the )?\pL`)

// plainBreak is the breaking of a board whatever with.
var plainBreak = pattern.Of(`(?i)^(?:(?:one|single) )?(?:board|tile) ?break(?:ing)?s?$`)

var (
	// oneSide is a name with one side behind it.
	oneSide = pattern.Of(`^(.+?),? ((?:[LR]|(?i:left|right))(?: (?:hand|arm|leg|foot|side))?)$`)
	// sideAhead is a name with one side before it: R side kick, left leg round kick.
	sideAhead = pattern.Of(`^((?:[LR]|(?i:left|right))(?: (?:hand|arm|leg|foot))?) (.+)$`)
)

// oneSided takes the side out of the name of what is struck, kicked or blocked with one: 10 x round kick L, right front kick.
func (b *Reader) oneSided(l *PageLine) {
	if b.Named(l.Name) != nil || l.Plain {
		return
	}
	name, side := "", ""
	if m := oneSide.FindStringSubmatch(l.Name); m != nil {
		name, side = m[1], m[2]
	} else if m := sideAhead.FindStringSubmatch(l.Name); m != nil {
		name, side = m[2], m[1]
	}
	if !slices.Contains(curriculum.Basic, b.KindInName(name)) || !slices.Contains(curriculum.Basic, b.kindOf(l)) || notSided.MatchString(name) {
		return
	}
	l.Name, l.sided = capitalised(b.single(name)), true
	l.note(strings.ToLower(sideLetter.ReplaceAllStringFunc(side, func(s string) string { return map[string]string{"L": "left", "R": "right"}[s] })))
}

// notSided is a name with a side, a list or a stance that a letter names in it, or a punch that is called after a side.
var notSided = pattern.Of(`(?i)\b(?:left|right|l|r|and|or|then)\b|[&/,+]|^stance\b|^overhand$`)

// sideLetter is a side in a letter.
var sideLetter = pattern.Of(`^[LR]\b`)

// handLast ends with what may be held as well: a wrist grab, both hands.
var handLast = pattern.Of(`(?i)(?:hand|arm)s$`)

// bothSidesSaid is a remark that says both sides and nothing else.
var bothSidesSaid = pattern.Of(`(?i)^(?:on |from )?both (?:sides?|legs?|hands?|arms?|feet|stances?)$`)

// inAll takes an amount for that of each side where both are asked for, and asks where they are spoken of otherwise.
func (l *PageLine) inAll() {
	if l.Quantity.Measure == curriculum.Timed && bothNoted.MatchString(l.Note) {
		l.doubt(fmt.Sprintf("%s is read as in all, with “%s” as a remark; write %s a side where it is asked of each", l.Quantity, l.Note, l.Quantity))
	}
	if l.Quantity.Measure == curriculum.RepsInAll && (l.Sides == curriculum.BothSides || bothSidesSaid.MatchString(l.Note) && !(attackNoted.MatchString(l.Name) && handLast.MatchString(l.Note))) { // 5, both sides
		l.Quantity.Measure = curriculum.RepsPerSide
	}
	if l.Quantity.Measure == curriculum.Timed && l.Sides == curriculum.BothSides { // 20 s, both sides
		l.Quantity.Measure = curriculum.TimedSide
	}
	if l.Quantity.Measure == curriculum.RepsInAll && bothNoted.MatchString(l.Note) {
		l.doubt(fmt.Sprintf("%s is read as in all, with “%s” as a remark; write %d a side where it is asked of each", l.Quantity, l.Note, l.Quantity.Reps))
	}
}

// mostNamed is how many words of a remark may name another technique.
const mostNamed = 8

// orAnother is a remark that allows something else: or side kick if the knee is bad.
var orAnother = pattern.Of(`(?i)^or \pL`)

// nameByItself is a remark that is a name where its heading's word is left out: side, round.
var nameByItself = pattern.Of(`(?i)^(?:side|round|roundhouse|hook|axe|push|crescent|rising|cross|jab|uppercut|teep|elbow|knee)$`)

// othersNamed asks where the remark of a line that shows one thing may name others: a part of it behind a comma that is not known to say how
// something is done, "Block high, block low", "Hip throw, leg reap".
func (b *Reader) othersNamed(l *PageLine, amount bool) {
	if l.Note == "" || slices.Contains([]Kind{"knowledge", "sparring"}, l.Kind) || l.under.section != "" && slices.Contains([]Kind{"character", "courtesy"}, l.Kind) || len(l.Doubts) > 0 {
		return
	}
	parts, bare := strings.Split(l.Note, ", "), 0
	if l.Kind == "self_defence" && curriculum.AgainstFirst.MatchString(l.Name) && beginsStep.MatchString(parts[0]) { // Against a push, step back, front kick
		return
	}
	if l.Kind == "board_break" && plainBreak.MatchString(l.Name) && !b.strikesTwice(parts) { // Board break - elbow: what it is broken with
		return
	}
	for _, part := range parts {
		kind := b.KindInName(inStance.ReplaceAllString(part, ""))
		if orFirst.MatchString(part) && slices.Contains(curriculum.Basic, l.Kind) && slices.Contains(curriculum.Basic, kind) && len(l.Doubts) == 0 { // Front kick (or side kick)
			l.doubt(fmt.Sprintf("“%s” leaves a choice; write the one that is asked, or a line for each", part))
			return
		}
		if ofPartner.MatchString(part) && slices.Contains(curriculum.Basic, l.Kind) { // Check low kick, partner throws
			continue
		}
		named := l.Kind == "board_break" && slices.Contains([]Kind{"strike", "kick"}, kind) || slices.Contains(curriculum.Basic, l.Kind) && twoBare.MatchString(part) && !bothNoted.MatchString(part) || slices.Contains([]Kind{"strike", "kick", "block", "throw", "breakfall"}, kind) || kind == "evasion" && l.Kind == "evasion" || answersWith.MatchString(part) || kind == "fitness" && l.Kind == "fitness"
		if l.Kind == "self_defence" && curriculum.AgainstFirst.MatchString(l.Name) { // against thrust, slash
			whole, _ := b.attackIn(l.Name + " " + part)
			named = len(strings.Fields(part)) <= 2 && !saysOnlyHow(part) && whole == nil && !beginsStep.MatchString(part)
		} else if l.Kind == "self_defence" && attackInWords.MatchString(l.Name) {
			named = attackNoted.MatchString(part) && !strings.Contains(part, " and ")
		} else if l.Kind == "self_defence" && len(parts) > 1 && !titled(strings.Fields(l.Name)) && attackNoted.MatchString(part) {
			named = true
		} else if l.Kind == "partner_set" && namedFor.MatchString(l.Name) && slices.Contains(curriculum.Basic, b.KindInName(part)) { // vs. jodan zuki, mae geri
			named = true
		} else if is := b.KindInName(part); l.Kind == "partner_set" && (is == "partner_set" || is == "sparring") { // three-step sparring 5-8, semi-free sparring
			named = true
		} else if l.Kind == "self_defence" || l.Kind == "partner_set" {
			continue // how it is attacked, or answered
		}
		if slices.Contains(curriculum.Basic, l.Kind) && l.Moves == "" && (nameByItself.MatchString(part) || orAnother.MatchString(part) && slices.Contains(curriculum.Basic, kind)) && behindAComma(l.Text, part) {
			l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is another technique, write a line for each, or a combination’s name and its moves after a colon", part))
			return
		}
		if words := strings.Fields(part); slices.Contains(curriculum.Basic, l.Kind) && len(words) > 1 && len(words) <= mostListed && alikeLast(l.Name, part) { // Outward handsword, inward handsword
			named = true
		}
		told := amount || b.coached(part) || picture.MatchString(part) && kind == "" || eitherLimb.MatchString(check.Key(part)) || boardsPart.MatchString(check.Key(part)) || l.Kind != "breakfall" && eitherSide.MatchString(" "+part) || l.Kind == "stance" && stepsHow.MatchString(part) || countsOther.MatchString(part) && l.Kind == "form" || turned.MatchString(part) || howDone.MatchString(part) || ofPart.MatchString(part) || limbAlone.MatchString(part) || struckWhere.MatchString(part) || l.Kind == "form" && otherWay.MatchString(part) || stanceAlone.MatchString(part) || b.levelSaid(&PageLine{}, check.Key(part)) != "" || l.Kind == "self_defence" || l.Kind == "fitness" || len(strings.Fields(part)) > mostListed
		if b.Named(part) == nil && (!saysOnlyHow(part) || named && twoBare.MatchString(part)) && !heightSaid.MatchString(part) && len(strings.Fields(part)) <= mostNamed && behindAComma(l.Text, part) && (named || !told) {
			l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is another technique, write a line for each, or a combination’s name and its moves after a colon", part))
			return
		}
		if bareWord.MatchString(part) && !saysHow.MatchString(part) {
			bare++
		}
	}
	if bare > 1 && bare == len(parts) && slices.ContainsFunc(parts, func(part string) bool { return b.levelSaid(&PageLine{}, check.Key(part)) == "" }) && len(strings.Fields(l.Name)) <= 2 {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where %s is one of several, write a line for each", l.Note, l.Name))
	}
}

var (
	// ofBody is how a part of the body is held or moved: feet parallel, wrist turned out.
	ofBody = pattern.Of(`(?i)^(?:(?:your|the|other|both|lead|rear|front|back) )?(?:feet|foot|toes?|heels?|thumbs?|wrists?|shoulders?|chin|chest|back|hips?|knees?|elbows?|fists?|hands?|arms?|legs?|head|eyes?|weight|body|shin|guard|fingers?)(?: (?:is|are|stays?|must|should be))? (?:\pL+ed|\pL+ing|bent|straight|parallel|together|apart|tight|turned|closed|open|flat|low|high|up|down|in|out|back|forward|even|level|over|above|below|behind|inside|outside|on|off|to|at|by|first|still|square|relaxed|correct|firm|strong)(?: .*)?$`)
	// coachSays begins how something is done, as a teacher says it.
	coachSays = pattern.Of(`(?i)^(?:stops?|covers?|lands?|snaps?|watch(?:es)?|don['’]?t|do not|never|breathe|pivots?|stays?|points?|faces|looks?|rises|finish(?:es)?|ends?|starts?|begins?|exhale|relax|squeeze|aim|bend|lean|lift|turns|moves|keeps?|feel|think|try|show|make|remember|mind|partner|coach|instructor) \pL|^(?:best|full|good|proper|correct|clean|crisp|sharp|loud|steady|nice|even|smooth) \pL+$|^(?:above|below|past|through|along) \pL|^(?:down|across) the \pL+$|\pL on (?:the )?last(?: one)?$|^(?:\pL+ )?(?:guards?|gloves?|helmets?|head ?gear|gum ?shields?|mouth ?guards?|protection|shin ?pads?)(?: on)?!?$`)
)

// coached reports whether a few words say how something is done and name nothing: feet parallel, stops at the shoulder, best effort.
func (b *Reader) coached(part string) bool {
	return b.Named(part) == nil && (ofBody.MatchString(part) || coachSays.MatchString(part) && !slices.Contains(append(curriculum.Basic, "throw", "lock", "breakfall", "stance"), curriculum.KindInWords(part)))
}

// alikeLast reports whether two names of several words end with the same one.
func alikeLast(one, other string) bool {
	a, b := strings.Fields(check.Key(one)), strings.Fields(check.Key(other))
	return len(a) > 1 && len(b) > 1 && a[len(a)-1] == b[len(b)-1]
}

// turned is how far one turns: 90 degrees.
var turned = pattern.Of(`(?i)^\d{2,3} ?(?:°|degrees?)$`)

// stepsHow says how one moves in a stance.
var stepsHow = pattern.Of(`(?i)^(?:step|turn|walk|mov|advanc|retreat|shift|slid)(?:e|es|s|ing|ping)?\b`)

// twoBare are two more of what is named: Kick front, round and side.
var twoBare = pattern.Of(`(?i)^(?:up|down|front|back|side|round|turning|high|low|middle|inside|outside|inner|outer|inward|outward|hook|axe|crescent|rising|reverse|straight|upward|downward|rear|push) (?:and|&|or) (?:(?:in |to )?the )?(?:up|down|front|back|side|round|turning|high|low|middle|inside|outside|inner|outer|inward|outward|hook|axe|crescent|rising|reverse|straight|upward|downward|rear|push)$`)

// answersWith is what follows a block or a parry.
var answersWith = pattern.Of(`(?i)^(?:counter|return|riposte|follow[- ]up)\b`)

// limbAlone is a remark that says which limb, or which way; or one that ends with an exclamation mark.
var limbAlone = pattern.Of(`(?i)^(?:(?:the )?(?:front|back|rear|lead|other|same|left|right|strong|weak|l|r)(?: (?:leg|hand|arm|foot|side))?|(?:(?:inner|outer|inside|outside) )?(?:forearms?|edge|heel|instep|ball of (?:the )?foot|toes|knuckles|blade|wrist)|turn(?:ing)?|across .*|l ?[&/+] ?r|r ?[&/+] ?l|\pL+(?:al|ive|ic)|.*!)$`)

// otherWay is how a form is gone through another way.
var otherWay = pattern.Of(`(?i)^(?:in reverse|reversed|backwards?|mirrored|(?:as a |in )?mirror(?: image)?|(?:side|part) (?:[a-d]|one|two|\d))$`)

// struckWhere is a remark that says where a strike lands, or from where to where it swings.
var struckWhere = pattern.Of(`(?i)^(?:(?:the )?(?:solar plexus|nose|bridge of the nose|ribs?|floating ribs|jaw|chin|temples?|throat|face|body|stomach|belly|groin|neck|eyes?|ears?|collar ?bone|kidneys?|thigh|shin|instep|philtrum|chest|sternum)|(?:inside|outside|in|out|inner|outer|up|down|high|low|left|right|front|back)[ -]to[ -](?:the )?(?:inside|outside|in|out|inner|outer|up|down|high|low|left|right|front|back))$`)

// behindAComma reports whether a part stands in a line behind a comma, a dash or a semicolon, and not in brackets.
func behindAComma(line, part string) bool {
	line = line[listed(line):]
	at := strings.Index(line, part)
	return at > 0 && strings.Count(line[:at], "(") == strings.Count(line[:at], ")")
}

// sidesNoted takes out of the remark how an amount is spread: alternating, or as much on each of the sides
// that are named. Where it says each of what is not sure, it is asked.
func (l *PageLine) sidesNoted(amount bool) bool {
	parts := strings.Split(l.Note, ", ")
	if at := slices.IndexFunc(parts, bothOnly.MatchString); at >= 0 && l.Quantity.Measure == curriculum.Timed && slices.Contains([]Kind{"stance", "balance"}, curriculum.KindInWords(l.Name)) { // Cat stance both sides, hold 20 sec
		if q, err := curriculum.ParseQuantity(fmt.Sprintf("%d s a side", l.Quantity.Seconds)); err == nil {
			l.Quantity, l.Note = q, strings.Join(slices.Delete(parts, at, at+1), ", ")
			l.Doubts = slices.DeleteFunc(l.Doubts, func(d notation.Doubt) bool { return strings.Contains(d.Reason, "in all") })
			return amount
		}
	}
	for i, part := range parts {
		switch m := eachNoted.FindStringSubmatch(part); {
		case alternatingNoted.MatchString(part) && l.Quantity.Measure == curriculum.RepsInAll:
			l.Quantity.Measure = curriculum.Alternating
		case m != nil && !amount && bothNoted.MatchString(l.Note):
			q, err := curriculum.ParseQuantity(m[1] + " a side")
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
	if l.Quantity.PerSide() && eachOfWhat.MatchString(l.Text) && strings.Contains(l.Note, " and ") && !bothNoted.MatchString(l.Note) {
		l.doubt(fmt.Sprintf("%s is read, with “%s” as a remark; where as much is asked of each of them, write a line for each", l.Quantity, l.Note))
	}
	return amount
}

// restNoted takes the rest of rounds out of the remark: 3 x 2 min (1 min rest).
func (l *PageLine) restNoted() {
	parts := strings.Split(l.Note, ", ")
	for i, part := range parts {
		if l.Quantity.Measure != curriculum.RoundsTimed || l.Quantity.Rest != 0 || !restAlone.MatchString(check.Key(part)) {
			continue
		}
		if q, err := curriculum.ParseQuantity(fmt.Sprintf("%d x %d s, %s", l.Quantity.Rounds, l.Quantity.Seconds, check.Key(part))); err == nil {
			l.Quantity, l.Note = q, strings.Join(slices.Delete(parts, i, i+1), ", ")
			if l.perhaps == part {
				l.perhaps = ""
			}
			return
		}
	}
}

// roundsNoted takes how many rounds out of the remark, where nothing says how long they are: as long as is usual, and that is asked.
func (l *PageLine) roundsNoted() {
	parts := strings.Split(l.Note, ", ")
	for i, part := range parts {
		m := roundsSaidAlone.FindStringSubmatch(check.Key(part))
		if m == nil || l.Quantity.Measure != curriculum.RoundsTimed {
			continue
		}
		q, err := curriculum.ParseQuantity(fmt.Sprintf("%s x %d s, %d s rest", m[1], l.Quantity.Seconds, l.Quantity.Rest))
		if err != nil {
			return
		}
		l.Quantity, l.Note, l.usual = q, strings.Join(slices.Delete(parts, i, i+1), ", "), false
		l.doubt(fmt.Sprintf("nothing says how long a round is, and %s is read; write for example %s x 90 s", q, m[1]))
		return
	}
}

// picture is what children are told to think of: close the door.
var picture = pattern.Of(`(?i)^(?:switch|swap|change) (?:sides|legs|hands|feet)$|^(?:close|open|shut|reach|look|touch|hide|answer|smash|squash|break|pour|wipe` +
	`|ring|knock|splash|paint|chop|pop|pick|catch` +
	`|climb)(?:ing)? (?:the|an?|your|my|up|over|for|on|into|behind|through) ?`)

// formTail is a name in large letters and behind it how a form is shown.
var formTail = pattern.Of(`^(\p{Lu}[\pL’'-]*(?: (?:(?:of|in|on|to|at|and|by|over|under) )?(?:the )?\p{Lu}[\pL’'-]*)+(?: \d{1,2})?) ((?:with|without|while|in|at|from|facing` +
	`|to) (?:an? |the |own |your )?\p{Ll}[\p{Ll} -]+)$`)

// ofEachOne is how often each of several is shown.
var ofEachOne = pattern.Of(`^([1-9]\d?) of each$`)
