package binder

import (
	"cmp"
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// What a heading says of the lines below it.

// headed is what a heading says of the lines below it.
type headed struct {
	section string                     // name of the section; "" each line's words say it
	kind    Kind                       // of what is new, where the heading says another than its section
	setting curriculum.Setting         // a setting as heading: Shields
	mixed   bool                       // things of several kinds stand below
	first   Kind                       // of what stands below where its words tell none: Stances & footwork
	legend  bool                       // call numbers stand below
	amount  *curriculum.Quantity       // of what stands below without one: Kicks (8 each leg); nil: the usual one
	note    string                     // how all of what stands below is done: Kicks (from fighting stance)
	choice  string                     // that only some of what stands below is shown: choose 5 of 7
	unread  string                     // what it says of amounts, in brackets, that could not be read
	partly  bool                       // one of its words tells no kind: Grip & stances
	limb    string                     // with what all below it strikes, where it says that alone: elbow
	attack  []curriculum.AttackElement // what all of a list below it answers: Cross wrist grab
	attacks string                     // that attack as the heading says it, where that is more: Cross wrist grab
	unknown bool                       // it looks like a heading and is none of the program's
}

// settingHeads are settings that stand as headings.
var settingHeads = map[string]curriculum.Setting{
	"pad": "pads", "pad work": "pads", "padwork": "pads", "pad drill": "pads", "on pad": "pads", "shield": "pads", "kick shield": "pads", "strike shield": "pads", "thai pad": "pads", "focus pad": "pads", "focus mitt": "pads", "mitt": "pads", "target pad": "pads",
	"bag": "bag", "bag work": "bag", "bagwork": "bag", "on the bag": "bag", "heavy bag": "bag", "partner": "partner", "partner work": "partner", "with a partner": "partner", "with partner": "partner", "on the pad": "pads", "on bag": "bag", "in pair": "partner", "pair work": "partner", "on board": "boards", "board": "boards",
}

var (
	headBracket = pattern.Of(`\s*[(\[][^()\[\]]*[)\]]`)
	headStripe  = pattern.Of(`(?i)\s*[-–—:,]?\s*\b(?:\w+ )?(?:stripe|tip|tag)(?: (?:\d(?: (?:of|/) ?\d)?|one|two|three|four|five|six|seven)\b)?\s*[-–—:=]?\s*|^\s*\d{1,2}\s*[.:)]\s*|\s+\d{1,2}$`)
	headWords   = pattern.Of(`(?i)\s+(?:section|part|work|practice|test|requirements?|skills?|scenarios?|in moving|moving|on the spot|movements?|motions?|drills|arts|training)$`)
)

// stripeAlone is a stripe as heading, of which no legend says what it is for.
var stripeAlone = pattern.Of(`(?i)^(?:(?:white|yellow|orange|gold|green|blue|purple|brown|red|black|silver|grey|pink|first|second|third|fourth|fifth|\d(?:st|nd|rd|th)) (?:stripe|tip|tape|tag)|(?:stripe|tip|tape|tag) (?:\d|one|two|three|four|five))$`)

// hashNumber is the number of one of several: #4 Make up your own.
var hashNumber = pattern.Of(`^#\d`)

// myHead is whose what stands below is, in a heading for children.
var myHead = pattern.Of(`(?i)^(?:my|our|your) `)

// mineToo reports whether a line is a heading as others of the page are that say whose what stands below is: My words.
func (r *pageReader) mineToo(x pageText, text string) bool {
	return r.mine > 1 && x.over && myHead.MatchString(text) && len(strings.Fields(text)) == 2
}

// keptSafe heads what children learn of keeping out of harm; what stands below says itself what it is.
var keptSafe = pattern.Of(`^(?:(?:be|being|stay|staying|keep|keeping) safe|(?:personal |street |child |stranger )?safety|bully ?proof(?:ing)?|classes (?:required|needed))$`)

// manyBasics are basics of a kind of training.
var manyBasics = pattern.Of(`^(?:\pL+ ){1,2}(?:basics|fundamentals)$`)

// partOfTest is a part of a test by its letter or number.
var partOfTest = pattern.Of(`^(?:part|section|module|unit|phase|station|stop|corner) (?:[a-h]|\d|one|two|three|four|i{1,3}|iv)$`)

// testPart reports whether a heading is a part of a test by its number, with or without brackets behind it: Station 3 (ground).
func testPart(text string) bool {
	return partOfTest.MatchString(check.Key(headBracket.ReplaceAllString(text, "")))
}

// titleTime is what a title says of time and age: Green belt (at least 6 months after orange).
var titleTime = pattern.Of(`(?i)\s*\([^()]*\b(?:months?|weeks?|years?|yrs?|age[ds]?|belt|sash|stripe|tag|kids|children|juniors|teens|adults)\b[^()]*\)`)

// headSaid is what a heading says of the amounts below it: Kicks (8 each leg unless stated).
var headSaid = pattern.Of(`(?i)^(?:all(?: [a-z]+:)? )?(.*?),?(?: (?:of each|each time|for all|unless|if not|where not|except).*)?$`)

// anyAmount is what speaks of an amount.
var anyAmount = pattern.Of(`(?i)\b\d+ (?:in|on|with|at) |\b\d+ ?(?:x|×|times|reps?|repetitions?|steps?|each|per|sets?|secs?|s|mins?)(?:\b|\s)`)

// withinTime is how long all of what stands below may take, or each of it.
var withinTime = pattern.Of(`(?i)^(?:as many as (?:you can|possible) )?in (\d+ ?(?:secs?|seconds?|s|mins?|minutes?|m))$`)

// roundsBelow is how long each round below a heading is; the rest between them is asked about.
var roundsBelow = pattern.Of(`(?i)^(\d{1,3} ?(?:mins?|minutes?|secs?|seconds?)) rounds?$`)

// headAmount is the amount in the brackets of a heading, for the lines below that have none, nil where there is none; the setting beside it,
// (each 10x on pads); and what cannot be read. A number alone may count the lines, so it is no amount.
func headAmount(line string) (q *curriculum.Quantity, setting curriculum.Setting, unread string) {
	for _, bracket := range headBracket.FindAllString(line, -1) {
		inside := strings.Trim(bracket, " ()[]")
		if m := roundsBelow.FindStringSubmatch(inside); m != nil { // Bag work (3 min rounds)
			if q, err := curriculum.ParseQuantity("1 x " + m[1]); err == nil {
				return &q, "", ""
			}
		}
		for _, part := range append([]string{inside}, SplitParts(inside)...) { // with step, 3 times each side
			said := headSaid.ReplaceAllString(check.Tidy(part), "$1")
			if within := withinTime.FindStringSubmatch(said); within != nil { // Fitness (in 2 minutes)
				if q, err := curriculum.ParseQuantity(within[1]); err == nil && curriculum.UsualKind(headBracket.ReplaceAllString(line, "")) == "fitness" {
					return &q, "", ""
				}
				unread = inside
			}
			for _, try := range []string{check.Tidy(part), said, eachFirst.ReplaceAllString(said, ""), eachLast.ReplaceAllString(said, "")} {
				words := strings.Fields(try)
				if m := forwardOnly.FindStringSubmatch(try); m != nil && !curriculum.IsAmount(try) {
					words = strings.Fields(strings.TrimSuffix(try, m[1]))
				}
				i, j := amountAt(words)
				rest := strings.Join(append(slices.Clone(words[:i]), words[j:]...), " ")
				if m := ofEachAlone.FindStringSubmatch(try); m != nil && strings.HasSuffix(try, " of each") { // 10 of each
					q, err := curriculum.ParseQuantity(m[1])
					if err == nil {
						return &q, "", ""
					}
				}
				if on := settingSaid(check.Key(rest)); i < j && (rest == "" || on != "") {
					q, err := curriculum.ParseQuantity(strings.Join(words[i:j], " "))
					if err == nil {
						return &q, on, ""
					}
				}
			}
		}
		if anyAmount.MatchString(agesSaid.ReplaceAllString(inside, "")) { // (over 12s)
			unread = inside
		}
	}
	return nil, "", unread
}

// bracketHead is a heading that says in brackets on what all below it is done, Striking (pads), or which of several things it is, Basics (stances).
func (b *Reader) bracketHead(text string) (h headed, is bool) {
	for _, bracket := range headBracket.FindAllString(text, -1) {
		if s, is := settingHeads[curriculum.SectionKey(strings.Trim(bracket, " ()[]"))]; is {
			if h, is = b.headingOf(strings.TrimSpace(headBracket.ReplaceAllString(text, ""))); is && h.setting == "" {
				h.setting = s
				return h, true
			}
		}
	}
	before, bracket := cutAny(text, "(")
	if all, is := b.headingOf(strings.TrimSpace(before)); bracket == "" || !is || !all.mixed || all.setting != "" || !strings.HasSuffix(text, ")") {
		return headed{}, false
	}
	h, is = b.headingOf(strings.TrimSpace(strings.Trim(bracket, "() ")))
	return h, is && !h.mixed && !h.unknown && h.setting == ""
}

// headNote is how all of what stands below a heading is done, as its brackets say: in line, from fighting stance.
func headNote(line string) string {
	var out []string
	for _, bracket := range headBracket.FindAllString(line, -1) {
		inside := strings.Trim(bracket, " ()[]")
		if curriculum.IsAmount(check.Tidy(inside)) {
			continue
		}
		for _, part := range SplitParts(inside) {
			part = unlessSaid.ReplaceAllString(check.Tidy(part), "")
			if strings.HasPrefix(check.Key(part), "extension") { // Self-defence (extensions)
				out = append(out, "extension")
			} else if ageAlone.MatchString(part) || otherDoes.MatchString(part) { // Breaking (over 12s); Pads (holder calls)
				out = append(out, part)
			} else if m := forwardOnly.FindStringSubmatch(part); m != nil && !curriculum.IsAmount(part) {
				out = append(out, m[1])
			} else if goesOn := len(out) > 0 && thenOnly.MatchString(part); someBelow.MatchString(part) || goesOn {
				out = append(out, part)
			} else if (aPlaceSaid.MatchString(part) || stanceAlone.MatchString(part) || inEnglish.MatchString(part)) && !stripeOrTime.MatchString(part) && !bothOnly.MatchString(part) && !eitherSide.MatchString(" "+part) && !eachInWords.MatchString(part) && settingSaid(check.Key(part)) == "" && !strings.ContainsFunc(part, unicode.IsDigit) {
				out = append(out, part)
			}
		}
	}
	return strings.Join(out, ", ")
}

// takesNote puts what the heading says of all below it behind what the line says itself, but for a stance where the line has its own.
func (b *Reader) takesNote(l *PageLine) {
	if label, _, found := strings.Cut(strings.TrimSpace(l.Text), ":"); found && (settingHeads[curriculum.SectionKey(label)] != "" || curriculum.KindInWords(label) == "sparring") { // Bag: 2 x 3 min, which heads itself
		return
	}
	said, own := check.Key(l.Text), len(l.Tracks) > 0
	if label, list, found := strings.Cut(said, ": "); found && strings.Contains(label, check.Key(l.under.note)) { // Kicks (from fighting stance): front, side
		said = list
	}
	for _, part := range SplitParts(l.under.note) {
		part = check.Tidy(part)
		if someBelow.MatchString(part) && l.notAmong() {
			continue
		}
		if l.Problem != "" || l.Aside != "" || own && b.trackOnly(&PageLine{}, check.Key(part)) || !own && b.trackOnly(l, check.Key(part)) { // Kicks (adults only)
			continue
		}
		if sideOfAll.MatchString(part) && l.Sides == "" && l.Quantity.Measure == curriculum.RepsPerSide && l.usual { // Self-defence (right side)
			l.Quantity.Measure = curriculum.RepsInAll
		}
		if part != "" && !strings.Contains(check.Key(l.Name+" "+l.Note), check.Key(part)) && !(inSomeStance.MatchString(part) && inSomeStance.MatchString(said)) {
			if l.note(part); !own {
				b.ofAge(l, check.Key(part))
			}
		}
	}
}

// otherDoes is what somebody else does.
var otherDoes = pattern.Of(`(?i)^(?:(?:pad |the |your )*(?:holder|feeder|caller|partner|examiner|coach|instructor|panel|attacker)) \pL+(?:s|es)?(?: \pL+)?$`)

// sideOfAll is the one side on which all below a heading is shown.
var sideOfAll = pattern.Of(`(?i)^(?:left|right) side$`)

// ageAlone says only for what age.
var ageAlone = pattern.Of(`(?i)^(?:only |for )?(?:over|under|above|below|aged?|from) \d{1,2}s?(?: only)?$|^\d{1,2}(?: ?\+| (?:years )?and (?:over|older|up))(?: only)?$`)

var (
	// inSomeStance names a stance.
	inSomeStance = pattern.Of(`(?i)\b(?:stances?|\S*dachi|seogi|sogi|kubi|guard|bow)\b`)
	// unlessSaid is behind what holds where a line says nothing else.
	unlessSaid = pattern.Of(`(?i),? (?:unless|if not|where not|except)\b.*$`)
	// forwardOnly is an amount in brackets with the way one goes.
	forwardOnly = pattern.Of(`(?i)^(?:each |all )?(?:\d{1,3} ?(?:x|times|steps)|[x×] ?\d{1,3}) ?((?:going |moving )?(?:forwards?|backwards?|back|fwd|in line|there and back|forwards? and back(?:wards?)?))$`)
	// eachInWords is how often each is shown, in words.
	eachInWords = pattern.Of(`(?i)^(?:each )?(?:once|twice|three times|(?:two|three|four|five|six|seven|eight|nine|ten|twelve|fifteen|twenty) (?:times|each|reps|of each)?)|^both stances$`)
	// someBelow says that only some of what stands below is shown.
	someBelow = pattern.Of(`(?i)^any \d|\b(?:choose|pick|select|draw)s?\b|\b(?:own|your|free|candidate['’]?s?|student['’]?s?|examiner['’]?s?|panel['’]?s?) choice\b|\bof choice\b|\b(?:\d|one|two|three|four|five|six) (?:of|from|out of) (?:\d|the|these|them)\b`)
	// thenOnly goes on with how something is done: all on the right, then left.
	thenOnly = pattern.Of(`(?i)^(?:then|and|after that)\b[^\d]+$`)
	// inEnglish is no term of another language: choose one, all on the right.
	inEnglish = pattern.Of(`(?i)^\S+ .*\b(?:the|an?|of|on|in|at|with|without|from|to|each|all|both|only|then|and|or|no|not|one|two|own|every|per|by|for|if|your|side|sides|hand|leg)\b|^(?:all|both|each|no|not|with|choose|pick|own|your|any|see|on) \S`)
	// aPlaceSaid begins how or from where something is done.
	aPlaceSaid = pattern.Of(`(?i)^(?:from|in|at|without|while|moving|standing|sitting|stationary|static|kneeling|slowly|slow|fast|light|full|no) ?\b`)
)

// eachLast is behind a time that all have: hold 10 sec each.
var eachLast = pattern.Of(`(?i) (?:each|ea|of each|every one)$`)

// eachFirst is before an amount that all have.
var eachFirst = pattern.Of(`(?i)^(?:each|all|every one)(?: of them)?:? `)

// heading reads a line that may be a heading: a section by its name, a near spelling or its
// kind, with stripe words, numbers and a bracketed term beside it; a setting; a mixed heading.
func (b *Reader) heading(line string) (h headed, is bool) {
	line = strings.TrimSpace(line)
	if b.namedAlone(line) {
		return h, false
	}
	if iCan.MatchString(line) { // Card 2: I can...
		return headed{mixed: true}, true
	}
	if legendHead.MatchString(strings.TrimSpace(strings.TrimLeft(line, "# "))) {
		return headed{legend: true, mixed: true}, true
	}
	if stripeAlone.MatchString(strings.Trim(headBracket.ReplaceAllString(line, ""), "-–—*#:!. ")) {
		return headed{mixed: true}, true
	}
	marked := strings.HasPrefix(line, "#") && !hashNumber.MatchString(line) || strings.HasSuffix(line, ":") && !strings.ContainsAny(line, partSigns)
	text := strings.TrimSpace(strings.TrimRight(line[listed(line):], ":!. "))
	if h, is = b.bracketHead(text); is {
		return h, true
	}
	plain := headStripe.ReplaceAllString(headBracket.ReplaceAllString(text, ""), "")
	for _, try := range []string{text, myHead.ReplaceAllString(text, ""), plain} {
		if h, is = b.headingOf(strings.TrimSpace(strings.TrimRight(try, ":!. "))); is {
			return h, true
		}
	}
	if h, is = b.placedHead(strings.TrimSpace(headBracket.ReplaceAllString(text, ""))); is {
		return h, true
	}
	if h, is = b.partHead(text); is {
		return h, true
	}
	if short := levelHead.ReplaceAllString(text, ""); short != text { // Level 2 Self-protection
		if h, is = b.headingOf(short); is {
			return h, true
		}
	}
	for _, try := range []string{text, strings.TrimSpace(headBracket.ReplaceAllString(text, ""))} { // Hand work (in line)
		if short := headWords.ReplaceAllString(try, ""); short != try && (try == text || !strings.HasSuffix(strings.ToLower(try), " test")) {
			if h, is = b.headingWord(short); is {
				return h, true
			}
		}
	}
	if h, is = b.headWith(text); is {
		return h, true
	}
	if h, is = b.joinedHeading(text); !is { // Stripe 2 (yellow): Punches & blocks
		h, is = b.joinedHeading(strings.TrimSpace(plain))
	}
	if is {
		return h, true
	}
	return headed{unknown: true}, marked && !strings.ContainsAny(line, partSigns)
}

// verbHead is a heading that says what is done with all that stands below it: Demonstrate.
func verbHead(line string) (h headed, is bool) {
	switch strings.TrimRight(check.Key(line), ": ") {
	case "demonstrate", "perform", "show", "display", "execute":
		return headed{mixed: true}, true
	case "explain", "describe", "understand":
		return headed{kind: "knowledge"}, true
	case "defend":
		return headed{mixed: true, first: "self_defence"}, true
	}
	return h, false
}

// headWith is a heading that says with whom or on what: Kicking with a partner.
func (b *Reader) headWith(text string) (h headed, is bool) {
	if h, is = verbHead(text); is {
		return h, true
	}
	for _, said := range []string{" with a partner", " with partner", " in pairs", " on pads", " on the pads", " on the bag", " on bag"} {
		if short, found := strings.CutSuffix(strings.ToLower(text), said); found {
			if h, is = b.headingOf(short); is && h.setting == "" {
				h.setting = settingHeads[curriculum.SectionKey(strings.TrimSpace(said))]
				for s, words := range curriculum.SettingWords {
					if words == strings.TrimSpace(said) {
						h.setting = s
					}
				}
				return h, true
			}
		}
	}
	return h, false
}

// placed begins on what, or with whom.
var placed = pattern.Of(`(?i) (?:on|with|in) `)

// placedHead is a heading that says where from or on what: Basics from a fighting stance, Combinations on the focus pads.
func (b *Reader) placedHead(text string) (h headed, is bool) {
	if m := fromWhere.FindStringSubmatch(text); m != nil {
		if h, is = b.headingOf(m[1]); is {
			return h, true
		}
	}
	m := placed.FindStringIndex(text)
	if m == nil {
		return h, false
	}
	at := m[0]
	if on := settingSaid(check.Key(text[at+1:])); on != "" {
		h, is = b.headingOf(text[:at])
		is = is && h.setting == ""
		h.setting = on
	}
	return h, is
}

// combosOf are the combinations of something.
var combosOf = pattern.Of(`^(?:[\pL/&-]+ ){1,3}(?:combos|combinations)$`)

// levelHead is before a heading of which level it is.
var levelHead = pattern.Of(`(?i)^(?:level|stage|grade|part|phase|section|station|stop|corner) (?:\d{1,2}|[a-h])[.: -]+ ?`)

// partHead is a heading that is a part of a test, and says in brackets of what: Paper 2 (kata), Station 1 (stances and blocks).
func (b *Reader) partHead(text string) (h headed, is bool) {
	m := paperHead.FindStringSubmatch(text)
	if m == nil {
		return h, false
	}
	if h, is = b.headingOf(m[1]); !is {
		h, is = b.joinedHeading(m[1])
	}
	if !is && testPart(text) { // Station 3 (ground): what stands below says what it is
		return headed{mixed: true}, true
	}
	return h, is
}

// paperHead is a part of a test by its number, and in brackets what it is of.
var paperHead = pattern.Of(`(?i)^(?:paper|part|section|unit|phase|module|stage|station|stop|corner) (?:\d{1,2}|[ivx]+|[a-h]) ?\(([^()]+)\)$`)

// fromWhere is a heading that says where from.
var fromWhere = pattern.Of(`(?i)^(\pL+(?: waza)?) (?:from|in) (?:an? |the )?(?:\pL+ )?(?:kamae|stance|dachi|guard|position|motion|movement|place|line|seogi)$`)

// itemNumber is the number of a line in a list.
var itemNumber = pattern.Of(`^\(?\d{1,2}[.)] +`)

// mostlyAmounts reports whether the lines of a page that are no headings mostly say an amount, so that
// a short one that says none is a heading as likely as not.
func (b *Reader) mostlyAmounts(lines []string) bool {
	with, of := 0, 0
	for _, line := range plainNumbers(lines) {
		text := itemNumber.ReplaceAllString(strings.TrimSpace(line), "")
		if text == "" || strings.HasSuffix(text, "?") || len(strings.Fields(text)) < 2 && b.Named(text) == nil {
			continue
		}
		if _, is := b.heading(text); is {
			continue
		}
		if of++; b.amountIn(strings.NewReplacer(",", " ", "(", " ", ")", " ", ":", " ").Replace(text)) != "" || strings.ContainsFunc(text, unicode.IsDigit) {
			with++
		}
	}
	return of >= leastLines && 100*with >= mostSay*of
}

// Of at least so many lines so many in a hundred say an amount.
const (
	leastLines = 5
	mostSay    = 55
)

// amounted are the kinds whose lines usually say an amount.
var amounted = []Kind{"strike", "kick", "block", "stance", "evasion", "footwork", "breakfall", "fitness", "balance"}

// aloneAsHead reports whether a line under a setting is a word or two that name nothing known and no
// kind: another heading, as likely as not.
func (b *Reader) aloneAsHead(line string) bool {
	text := strings.TrimSpace(line)
	return len(strings.Fields(text)) <= 2 && listed(text) == 0 && !strings.ContainsFunc(text, func(r rune) bool { return !unicode.IsLetter(r) && r != ' ' && r != ':' }) && b.Named(text) == nil && b.KindInName(text) == ""
}

var joins = pattern.Of(`(?i)\s*(?:&|/|\+|\band\b)\s*`)

// wordForMany is a word for many; cross is none.
var wordForMany = pattern.Of(`(?i)^\s*\pL{2,}[^s\s]s\s*$`)

// joinedHeading reads several headings in one: Stances & footwork.
func (b *Reader) joinedHeading(text string) (out headed, is bool) {
	parts := joins.Split(text, -1)
	if len(parts) < 2 {
		return out, false
	}
	sure, partly := slices.ContainsFunc(parts, func(part string) bool { _, is := b.headingOf(strings.TrimSpace(part)); return is }), false
	sure = sure || !slices.ContainsFunc(parts, func(part string) bool { return !manyLimbs.MatchString(strings.TrimSpace(part)) }) // Knees and elbows
	for _, part := range parts {
		h, is := b.headingOf(strings.TrimSpace(part))
		if kind := curriculum.UsualKind(part); !is && sure && kind != "" { // Stance and footwork
			h, is = headed{kind: kind}, true
		} else if kind = curriculum.KindInWords(part); !is && sure && kind != "" && wordForMany.MatchString(part) { // Hands & elbows
			h, is = headed{kind: kind}, true
		}
		if !is && sure && len(strings.Fields(part)) == 1 && b.KindInName(part) == "" { // Rolling/Sparring
			partly = true
			continue
		}
		if !is || h.setting != "" {
			return out, false
		}
		if out.first == "" {
			out = headed{mixed: true, first: cmp.Or(h.first, h.kind, b.kindIn(h.section))}
		}
	}
	out.partly = partly
	return out, true
}

// mostHeading is how long, in bytes, what may be a heading spelt wrongly is at most.
const mostHeading = 40

// namedAlone reports whether a technique has such a name, and no section: Sparring may be both, once a line said only how many rounds of it.
func (b *Reader) namedAlone(name string) bool {
	if t := b.Named(name); t == nil || slices.Contains([]Kind{"sparring", "knowledge", "board_break"}, curriculum.UsualKind(name)) || curriculum.SectionKey(name) == "warm up" { // Kumite, Essay
		return false
	}
	return !slices.ContainsFunc(b.Sections, func(s curriculum.Section) bool { return check.Key(s.Name) == check.Key(name) })
}

func (b *Reader) headingOf(text string) (h headed, is bool) {
	if b.namedAlone(text) {
		return h, false
	}
	return b.headingWord(text)
}

// firstUnder is the kind of what stands under a mixed heading and says none: Feet, and below it stomp.
var firstUnder = map[string]Kind{"warm up": "fitness", "hand": "strike", "foot": "kick", "feet": "kick", "safe": "self_defence", "hit back": "strike", "hitting back": "strike"}

// firstIfSo is the kind of most of what stands below how somebody should be.
func firstIfSo(key string) Kind {
	if beingSo.MatchString(key) {
		return "character"
	}
	return ""
}

// iCan heads what a child can do, on a card of several.
var iCan = pattern.Of(`(?i)^(?:(?:card|sheet|page|set|part|step) \d{1,2}[:.]? ?[-–—]? ?)?(?:today |now )?i can ?(?:\.{2,}|…|:|[-–—])+$`)

// beingSo heads how somebody should be.
var beingSo = pattern.Of(`^being (?:an? )?(?:good|kind|helpful|polite|nice|great|better)(?: \pL+)?$`)

// headingWord reads such words where something else says that they are a heading, though a technique may be called so too: Foot skills.
func (b *Reader) headingWord(text string) (h headed, is bool) {
	key := strings.Replace(check.Key(text), "-waza", " waza", 1)
	if key == "" {
		return h, false
	}
	for _, s := range b.Sections {
		if check.Key(s.Name) == key {
			return headed{section: s.Name}, true
		}
	}
	one := curriculum.SectionKey(key)
	if s, is := settingHeads[one]; is {
		return headed{setting: s, mixed: true}, true
	}
	if first := firstUnder[one]; slices.Contains(mixed, one) || beingSo.MatchString(key) { // Being a good student, of which the bow is etiquette
		return headed{mixed: true, first: cmp.Or(first, firstIfSo(key))}, true
	}
	if manyBasics.MatchString(key) || keptSafe.MatchString(key) || partOfTest.MatchString(key) { // Moving basics; Be safe, of what is told and what is shown
		return headed{mixed: true}, true
	}
	kind := headingKind(key)
	if strings.HasSuffix(key, " knowledge") { // Dojo knowledge
		kind = "knowledge"
	}
	if combosOf.MatchString(key) { // Punch combos
		kind = "combination"
	}
	if word, found := strings.CutSuffix(key, " waza"); found {
		if m, _ := b.MeaningOf(word); m != nil {
			kind = m.Kind()
		}
	}
	if _, singular := curriculum.UsualKinds[one]; kind == "" && !singular && lettersAlone(key) == "" && (len(key) >= 5 || len(key) == 4 && strings.HasSuffix(key, "s")) && len(key) <= mostHeading { // a near spelling
		for _, s := range b.Sections {
			if near(key, check.Key(s.Name)) || near(one, curriculum.SectionKey(s.Name)) && one != key {
				return headed{section: s.Name}, true
			}
		}
		for name := range curriculum.UsualKinds {
			if len(name) >= 6 && near(one, name) && initials(one) == initials(name) && headingKind(name+"s") != "" { // Breaking Reed is no breaking free
				kind = curriculum.UsualKinds[name]
			}
		}
	}
	if kind == "" {
		return h, false
	}
	if s := curriculum.SectionFor(b.Sections, kind); s != nil {
		h = headed{section: s.Name}
		if s.Kind != kind {
			h.kind = kind
		}
		if one == "hand technique" && curriculum.SectionFor(b.Sections, "block") != nil { // blocks are too
			h = headed{mixed: true, first: kind}
		}
		return h, true
	}
	return h, false
}
