package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// What stands behind a name and is neither an amount nor a keyword by itself: a remark, or an amount with what it is of.

// fromBefore is of an earlier test.
var fromBefore = pattern.Of(`(?i)^from (?:the |your )?(?:last|previous|earlier) (?:time|belt|grade|grading|test|term|year)$`)

// nearlySaid are parts that begin as ones that are understood.
var nearlySaid = pattern.Of(`^(?i:not for|until|from|as|weight|marks|always|stage|level|entry|sprint)\b|^(?:\S+ )?for \p{Lu}|\d.* for \p{Lu}`)

// fromAttack is what a defence is from.
var fromAttack = pattern.Of(`(?i)^from (?:an? |the |behind|left|right)`)

// fromStance is a remark that says where one stands.
var fromStance = pattern.Of(`(?i)^from (?:a |an |the )?.*(?:memory|stance|dachi|position|knees|ground|floor|guard|side|front|behind|horse|bow|walking|sparring|fighting` +
	`|standing|standstill|kneeling|sitting|a turn|seiza)$`)

// fromBody is from where on the body something begins.
var fromBody = pattern.Of(`(?i)^from (?:the |your |a )?(?:hips?|shoulders?|ear|chest|waist|belt|chin|guard|line|move|walk|run|stand|seat|chair|distance|half|full)\b`)

// thereBack speaks of both ways.
var thereBack = pattern.Of(`(?i)\b(?:forwards?|fwd)\b.*\bback|\bback(?:wards?)?\b.*\b(?:forwards?|fwd)\b|\b(?:both|each) (?:way|direction)s?\b`)

// stepsIn is how many steps: 10 steps forward.
var stepsIn = pattern.Of(`(?i)^(\d{1,2}) (steps?(?: (?:forwards?|back|backwards?|moving))?(?: (?:and|then|with) (?:an? )?turn)?)$`)

// countIn is how often and where: 20 in horse stance.
var countIn = pattern.Of(`(?i)^(\d{1,3}) ((?:in|from) (?:an? |the )?[\pL -]*(?:stance|dachi|guard|position|place|line)|in (?:one go|a row)|without (?:any )?(?:help` +
	`|stopping|mistakes?|pause|support).*)$`)

// countsOwn reads an amount that says of what it is: Jab-cross-hook, 10 combos each side.
func (b *Reader) countsOwn(l *PageLine, part string) bool {
	m := countedAs.FindStringSubmatch(part)
	if m == nil || l.Quantity.Measure != "" || !slices.Contains([]Kind{curriculum.KindInWords(m[2]), ""}, b.kindOf(l)) {
		return false
	}
	q, err := curriculum.ParseQuantity(strings.TrimSpace(m[1] + m[3]))
	if err == nil {
		l.Quantity = q
	}
	return err == nil
}

// attacksOfSet is how many attacks are answered in a set.
var attacksOfSet = pattern.Of(`(?i)^(\d{1,2}) ((?:different )?attacks)$`)

// loose takes a part that is neither amount nor keyword as a remark. One that holds a figure or
// speaks of each side may be an amount and is asked about.
func (b *Reader) loose(l *PageLine, part string) {
	if b.countsOwn(l, part) {
		return
	}
	if b.saysAge(l, check.Key(part)) {
		b.ofAge(l, check.Key(part))
		l.note(part)
		return
	}
	words := strings.Fields(part)
	if b.looseAmount(l, part) {
		return
	}
	if i, j := amountAt(words); i < j && j < len(words) && i == 0 && !notAlike.MatchString(strings.Join(words[j:], " ")) {
		if q, err := curriculum.ParseQuantity(strings.Join(words[:j], " ")); err == nil && l.Quantity.Measure == "" {
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
	if thenMore.MatchString(part) && (b.amountIn(part) != "" || slices.Contains([]Kind{"strike", "kick"}, curriculum.KindInWords(part))) {
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where more is asked, write it on a line of its own", part))
	}
	if strings.ContainsAny(part[:1], `"“`) && b.kindOf(l) == "self_defence" {
		l.doubt(fmt.Sprintf("%s is read as a remark; where it is asked, write for example “Shout” before it, on a line of its own", part))
	}
	if check.Key(part) == "double" {
		l.doubt("“double” is read as a remark; where the technique is done twice at once, write its name with it, and where it is another one, its own name")
	}
	if nearlySaid.MatchString(part) && !fromBefore.MatchString(part) && !fromStance.MatchString(part) && !(slices.Contains([]Kind{"self_defence", "lock", "throw"}, b.kindOf(l)) && fromAttack.MatchString(part)) && !asFar.MatchString(part) && !fromBody.MatchString(part) && !weightOnLegs.MatchString(part) {
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
func (b *Reader) looseAmount(l *PageLine, part string) bool {
	if m := eachOn.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" && strings.HasPrefix(m[2], "on ") { // 15 each on belly pad
		if q, err := curriculum.ParseQuantity(m[1] + " each"); err == nil {
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
	if m := attacksOfSet.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" && (b.sparringKind(l) == "partner_set" || curriculum.KindInWords(l.Name) == "partner_set") { // Jiyu ippon kumite, 5 attacks
		l.Quantity = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: curriculum.Figure(m[1])}
		l.note(m[2])
		return true
	}
	if m := movingCount.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" { // moving back 4
		l.Quantity = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: curriculum.Figure(m[2])}
		l.note(m[1])
		return true
	}
	if m := countWay.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" { // 5 forward
		l.Quantity = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: curriculum.Figure(m[1])}
		l.note(m[2])
		return true
	}
	if m := countOn.FindStringSubmatch(part); m != nil && m[1] == "" && l.Quantity.Measure == "" && l.Setting == "" {
		if on := settingSaid(check.Key(m[3])); on != "" {
			l.Quantity, l.Setting = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: curriculum.Figure(m[2])}, on
			return true
		}
	}
	if m := stepsIn.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" && slices.Contains([]Kind{"stance", "strike", "block", "kick", "footwork", "combination"}, b.kindOf(l)) { // 10 steps forward
		n, _ := strconv.Atoi(m[1])
		l.Quantity = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: n}
		if l.note(m[2]); thereBack.MatchString(strings.Replace(l.Text, l.Name, "", 1)) {
			l.doubt(fmt.Sprintf("%d is read as in all; where as many go each way, write %d each way", n, n))
		}
		return true
	}
	if m := countIn.FindStringSubmatch(part); m != nil && l.Quantity.Measure == "" { // 20 in horse stance
		n, _ := strconv.Atoi(m[1])
		l.Quantity = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: n}
		l.note(m[2])
		return true
	}
	return false
}

// sideAmount takes a part that says how often or how long on each side; it reports whether it was one.
func (b *Reader) sideAmount(l *PageLine, part string) bool {
	if words := strings.Fields(part); l.Setting == "" && eachAtTail.MatchString(part) { // push the bag away 10x each leg
		if i, j := amountAt(words); i > 1 && j == len(words) {
			if q, err := curriculum.ParseQuantity(strings.Join(words[i:], " ")); err == nil {
				l.Quantity = q
				l.note(strings.Join(words[:i], " "))
				return true
			}
		}
	}
	if m := secondsEach.FindStringSubmatch(part); m != nil && slices.Contains([]Kind{"stance", "balance"}, cmp.Or(curriculum.KindInWords(l.Name), b.sparringKind(l))) { // Balance on one leg, 5 seconds each
		if q, err := curriculum.ParseQuantity(m[1] + " a side"); err == nil {
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
var holdsOn = pattern.Of(`^(?:while |may )?(?:hold|holding|hold on|holding on)(?: on)?(?: to)? (?:a |an |the |my |your )?(?:wall|chair|bar|barre|rail|partner's (?:arm` +
	`|shoulder|hand))(?: is ok| allowed| if needed| if you need(?: it)?)?$`)
