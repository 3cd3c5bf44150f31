package curriculum

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
)

// headed is what a heading says of the lines below it.
type headed struct {
	section string    // name of the section; "" each line's words say it
	kind    Kind      // of what is new, where the heading says another than its section
	setting Setting   // a setting as heading: Shields
	mixed   bool      // things of several kinds stand below
	first   Kind      // of what stands below where its words tell none: Stances & footwork
	legend  bool      // call numbers stand below
	amount  *Quantity // of what stands below without one: Kicks (8 each leg); nil: the usual one
	unread  string    // what it says of amounts, in brackets, that could not be read
	unknown bool      // it looks like a heading and is none of the program's
}

// settingHeads are settings that stand as headings.
var settingHeads = map[string]Setting{
	"pad": "pads", "pad work": "pads", "padwork": "pads", "pad drill": "pads", "on pad": "pads", "shield": "pads", "focus pad": "pads", "focus mitt": "pads", "mitt": "pads", "target pad": "pads",
	"bag": "bag", "bag work": "bag", "bagwork": "bag", "on the bag": "bag", "heavy bag": "bag", "partner": "partner", "partner work": "partner", "with a partner": "partner", "with partner": "partner", "on the pad": "pads", "on bag": "bag", "in pair": "partner", "pair work": "partner", "on board": "boards", "board": "boards",
}

var (
	headBracket = regexp.MustCompile(`\s*[(\[][^()\[\]]*[)\]]`)
	headStripe  = regexp.MustCompile(`(?i)\s*[-–—:,]?\s*\b(?:\w+ )?(?:stripe|tip|tag)(?: \d)?\s*[-–—:]?\s*|^\s*\d{1,2}\s*[.:)]\s*|\s+\d{1,2}$`)
	headWords   = regexp.MustCompile(`(?i)\s+(?:section|part|work|practice|test|requirements?|skills?|in moving|moving|on the spot|movements?|motions?|drills|training)$`)
)

// titleTime is what a title says of time and age: Green belt (at least 6 months after orange).
var titleTime = regexp.MustCompile(`(?i)\s*\([^()]*\b(?:months?|weeks?|years?|yrs?|age[ds]?|belt|sash|stripe|tag)\b[^()]*\)`)

// headSaid is what a heading says of the amounts below it: Kicks (8 each leg unless stated).
var headSaid = regexp.MustCompile(`(?i)^(?:all(?: [a-z]+:)? )?(.*?),?(?: (?:of each|each time|for all|unless|if not|where not|except).*)?$`)

// anyAmount is what speaks of an amount.
var anyAmount = regexp.MustCompile(`(?i)\b\d+ ?(?:x|×|times|reps?|repetitions?|steps?|each|per|sets?|secs?|s|mins?)(?:\b|\s)`)

// headAmount is the amount in the brackets of a heading, for the lines below that have none; nil where
// there is none, and what cannot be read. A number alone may count the lines, so it is no amount.
func headAmount(line string) (q *Quantity, unread string) {
	for _, bracket := range headBracket.FindAllString(line, -1) {
		inside := strings.Trim(bracket, " ()[]")
		for _, part := range append([]string{inside}, SplitParts(inside)...) { // with step, 3 times each side
			said := headSaid.ReplaceAllString(check.Tidy(part), "$1")
			if q, err := ParseQuantity(said); err == nil && !bare(said) {
				return &q, ""
			}
		}
		if anyAmount.MatchString(inside) {
			unread = inside
		}
	}
	return nil, unread
}

// heading reads a line that may be a heading: a section by its name, a near spelling or its
// kind, with stripe words, numbers and a bracketed term beside it; a setting; a mixed heading.
func (b *Book) heading(line string) (h headed, is bool) {
	line = strings.TrimSpace(line)
	if b.Named(line) != nil {
		return h, false
	}
	if legendHead.MatchString(strings.TrimSpace(strings.TrimLeft(line, "# "))) {
		return headed{legend: true, mixed: true}, true
	}
	marked := strings.HasPrefix(line, "#") || strings.HasSuffix(line, ":") && !strings.ContainsAny(line, partSigns)
	text := strings.TrimSpace(strings.TrimRight(line[listed(line):], ":!. "))
	for _, bracket := range headBracket.FindAllString(text, -1) { // Striking (pads)
		if s, is := settingHeads[sectionKey(strings.Trim(bracket, " ()[]"))]; is {
			if h, is = b.headingOf(strings.TrimSpace(headBracket.ReplaceAllString(text, ""))); is && h.setting == "" {
				h.setting = s
				return h, true
			}
		}
	}
	for _, try := range []string{text, headStripe.ReplaceAllString(headBracket.ReplaceAllString(text, ""), "")} {
		if h, is = b.headingOf(strings.TrimSpace(strings.TrimRight(try, ":!. "))); is {
			return h, true
		}
	}
	if short := headWords.ReplaceAllString(text, ""); short != text {
		if h, is = b.headingOf(short); is {
			return h, true
		}
	}
	for _, said := range []string{" with a partner", " with partner", " in pairs", " on pads", " on the pads", " on the bag", " on bag"} {
		if short, found := strings.CutSuffix(strings.ToLower(text), said); found { // Kicking with a partner
			if h, is = b.headingOf(short); is && h.setting == "" {
				h.setting = settingHeads[sectionKey(strings.TrimSpace(said))]
				for s, words := range settingWords {
					if words == strings.TrimSpace(said) {
						h.setting = s
					}
				}
				return h, true
			}
		}
	}
	if h, is = b.joinedHeading(text); is {
		return h, true
	}
	return headed{unknown: true}, marked && !strings.ContainsAny(line, partSigns)
}

// mostlyAmounts reports whether the lines of a page that are no headings mostly say an amount, so that
// a short one that says none is a heading as likely as not.
func (b *Book) mostlyAmounts(lines []string) bool {
	with, of := 0, 0
	for _, line := range lines {
		text := strings.TrimSpace(line)
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
func (b *Book) aloneAsHead(line string) bool {
	text := strings.TrimSpace(line)
	return len(strings.Fields(text)) <= 2 && listed(text) == 0 && !strings.ContainsFunc(text, func(r rune) bool { return !unicode.IsLetter(r) && r != ' ' && r != ':' }) && b.Named(text) == nil && b.kindInName(text) == ""
}

var joins = regexp.MustCompile(`(?i)\s*(?:&|/|\+|\band\b)\s*`)

// wordForMany is a word for many.
var wordForMany = regexp.MustCompile(`(?i)^\s*\pL{3,}s\s*$`)

// joinedHeading reads several headings in one: Stances & footwork.
func (b *Book) joinedHeading(text string) (out headed, is bool) {
	parts := joins.Split(text, -1)
	if len(parts) < 2 {
		return out, false
	}
	sure := slices.ContainsFunc(parts, func(part string) bool { _, is := b.headingOf(strings.TrimSpace(part)); return is })
	for i, part := range parts {
		h, is := b.headingOf(strings.TrimSpace(part))
		if kind := UsualKind(part); !is && sure && kind != "" { // Stance and footwork
			h, is = headed{kind: kind}, true
		} else if kind = kindInWords(part); !is && sure && kind != "" && wordForMany.MatchString(part) { // Hands & elbows
			h, is = headed{kind: kind}, true
		}
		if !is || h.setting != "" {
			return out, false
		}
		if i == 0 {
			out = headed{mixed: true, first: cmp.Or(h.kind, b.kindIn(h.section))}
		}
	}
	return out, true
}

// mostHeading is how long, in bytes, what may be a heading spelt wrongly is at most.
const mostHeading = 40

func (b *Book) headingOf(text string) (h headed, is bool) {
	key := strings.Replace(check.Key(text), "-waza", " waza", 1)
	if key == "" || b.Named(text) != nil {
		return h, false
	}
	for _, s := range b.Sections {
		if check.Key(s.Name) == key {
			return headed{section: s.Name}, true
		}
	}
	one := sectionKey(key)
	if s, is := settingHeads[one]; is {
		return headed{setting: s, mixed: true}, true
	}
	if slices.Contains(mixed, one) {
		return headed{mixed: true}, true
	}
	kind := headingKind(key)
	if word, found := strings.CutSuffix(key, " waza"); found {
		if m, _ := b.meaningOf(word); m != nil {
			kind = m.kind()
		}
	}
	if _, singular := usualKinds[one]; kind == "" && !singular && lettersAlone(key) == "" && (len(key) >= 5 || len(key) == 4 && strings.HasSuffix(key, "s")) && len(key) <= mostHeading { // a near spelling
		for _, s := range b.Sections {
			if near(key, check.Key(s.Name)) || near(one, sectionKey(s.Name)) && one != key {
				return headed{section: s.Name}, true
			}
		}
		for name := range usualKinds {
			if len(name) >= 6 && (near(one, name) && headingKind(name+"s") != "") {
				kind = usualKinds[name]
			}
		}
	}
	if kind == "" {
		return h, false
	}
	if s := SectionFor(b.Sections, kind); s != nil {
		h = headed{section: s.Name}
		if s.Kind != kind {
			h.kind = kind
		}
		if one == "hand technique" && SectionFor(b.Sections, "block") != nil { // blocks are too
			h = headed{mixed: true, first: kind}
		}
		return h, true
	}
	return h, false
}

// near reports whether two words differ by a letter that is missing, too many, another or
// exchanged with its neighbour; by two in long ones.
func near(x, y string) bool {
	if x == y {
		return true
	}
	most := 1
	if min(len(x), len(y)) >= 9 {
		most = 2
	}
	if d := len(x) - len(y); d > 2*most || -d > 2*most { // letters of more bytes may be twice as long
		return false
	}
	return min(len(x), len(y)) >= 4 && check.Distance(x, y) <= most
}

// kindsInWords are the words that tell the kind of what they name, the telling ones first.
var kindsInWords = []struct {
	kind  Kind
	words *regexp.Regexp
}{
	{"knowledge", regexp.MustCompile(`\?$|\b(?:dojo|dojang|class|school|club|hall) rules\b|\btenets\b|\b(?:student|school|club) (?:creed|oath)\b|^(?:the )?meanings? of\b|^(explain|(?:i )?know|describe|recite|name|list|what|why|how|who|when|where) `)},
	{"board_break", regexp.MustCompile(`\bboards?\b|\bbreaking\b`)},
	{"self_defence", regexp.MustCompile(`\b(chok(e|es|ing)|headlock|bear hug|(wrist|lapel|hair|sleeve|collar) grab|knife (threat|attack|thrust|slash|defen[cs]e)|(stick|club) (attack|swing)|escapes?|releases?|break free|^defend(?:ing)? |\b(?:somebody|someone|an attacker|attacker) (?:holds?|grabs?|pushes|chokes?)\b|\bget away\b|\bbunkai\b|defend against|get out of|defen[cs]e (against|from|vs)|self.defen[cs]e|against an?)\b`)},
	{"partner_set", regexp.MustCompile(`\b(?:ippon|nihon|sanbon|gohon|yakusoku)[- ]kumite\b|\b(?:one|two|three|five|[1235])[- ]steps? (?:sparring|kumite)\b|^(?:one|two|three|five|[1235])-step\b|\bpre-?arranged\b`)},
	{"sparring", regexp.MustCompile(`\bspar(ring)?\b|\bfree fighting\b`)},
	{"character", regexp.MustCompile(`^(?:good )?(?:attitude|behaviour|effort|discipline)\b|^i (?:help|tidy|share|say|do my|keep my|listen|wait|look after)\b|\bchores?\b|\bhomework\b|\bplease and thank you\b|\btidy\b|\b(?:tie|put on|wear|fold|look after) (?:my |your |the |their )?(?:own )?(?:belt|uniform|kit)\b`)},
	{"fitness", regexp.MustCompile(`\b(?:bear |crab |duck |wheelbarrow )(?:crawls?|walks?)\b|\bwall sits?\b|\bleg raises?\b|\b(push|press|sit|pull|chin).?ups?\b|\b(squats?|planks?|burpees?|crunch(es)?|jumping jacks?|star jumps?|skipping rope|rope skipping|(?:bunny|frog|rabbit) (?:hops?|jumps?)|lunges|sprawls?|run|running|stretch(es)?|splits|conditioning|circuits?|skipping|jump rope|mountain climbers?|shadow ?boxing|jogging|sprints?|laps)\b`)},
	{"breakfall", regexp.MustCompile(`\b(break ?falls?|fall(?:s|ing)? (?:safely )?(?:forwards?|backwards?|sideways)|back fall|side fall|front fall|forward roll|backward roll|shoulder roll|rolls?)\b`)},
	{"throw", regexp.MustCompile(`\b(throws?|take ?downs?|sweep|reap|trip)\b`)},
	{"lock", regexp.MustCompile(`\b(locks?|arm bar|wrist twist|holds?)\b`)},
	{"combination", regexp.MustCompile(`\b(combinations?|combos?)\b|\b(?:(?:jab|cross|hook|upper ?cut|overhand|punch|kick|elbow|knee)[ -]){2,}(?:jab|cross|hook|upper ?cut|overhand|punch|kick|elbow|knee)\b`)},
	{"form", regexp.MustCompile(`\b(forms?|patterns?)\b`)},
	{"kick", regexp.MustCompile(`\bkicks?\b|\bkicking\b|\bteeps?\b|\bcrescents?\b|\broundhouses?\b`)},
	{"block", regexp.MustCompile(`\b(blocks?|parry|parries|cover)\b|\b(?:hand|forearm) guard(?:ing)?$`)},
	{"stance", regexp.MustCompile(`\bstances?\b`)},
	{"evasion", regexp.MustCompile(`\b(slips?|bob|weave|duck|fade|lean back)\b`)},
	{"footwork", regexp.MustCompile(`\b(footwork|shuffle|pivot|step and slide|stepping|circling|steps)\b`)},
	{"strike", regexp.MustCompile(`\b(punch(es)?|punching|strikes?|jabs?|cross|hooks?|upper ?cuts?|elbows?|back[ -]?fists?|hammer[ -]?fists?|palm|knife[ -]?hand|ridge[ -]?hand|spear[ -]?hand|chops?|finger ?tips?|knees?|fist)\b`)},
	{"courtesy", regexp.MustCompile(`\b(bow|bowing|etiquette)\b`)},
}

// doneIn is the stance in which a technique is done: double punch in sitting stance.
var doneIn = regexp.MustCompile(`^(.+?) (?:in|from) (?:an? |the |your )?(?:[\p{L}-]+ ){1,2}stance\b`)

// stanceFirst is a stance and what is done in it: horse stance punch.
var stanceFirst = regexp.MustCompile(`^(?:in )?(?:an? |the )?[\p{L}-]+ stance,? (.+)$`)

// mostTold is how many texts are kept with what was found out about them; then they begin anew.
const mostTold = 4096

// memo keeps what was found out about a text: a page asks it a dozen times of each line.
type memo[T any] struct {
	mu sync.Mutex
	of map[string]T
}

func (m *memo[T]) get(text string, find func(string) T) T {
	m.mu.Lock()
	out, there := m.of[text]
	m.mu.Unlock()
	if there {
		return out
	}
	out = find(text)
	m.mu.Lock()
	defer m.mu.Unlock()
	if len(m.of) >= mostTold || m.of == nil {
		m.of = map[string]T{}
	}
	m.of[strings.Clone(text)] = out
	return out
}

var (
	kindsTold memo[Kind]
	amounts   memo[bool]
)

// isAmount reports whether a text is an amount.
func isAmount(text string) bool {
	return amounts.get(text, func(text string) bool { _, err := ParseQuantity(text); return err == nil })
}

// kindInWords is the kind that the words of a name tell; "" none.
func kindInWords(name string) Kind { return kindsTold.get(name, kindByWords) }

func kindByWords(name string) Kind {
	key := doneIn.ReplaceAllString(strings.ToLower(name), "$1")
	if m := stanceFirst.FindStringSubmatch(key); m != nil && slices.Contains([]Kind{"strike", "kick", "block"}, kindInWords(m[1])) {
		key = m[1]
	}
	if at := joinsOn.FindStringIndex(key); at != nil {
		if before := kindInWords(key[:at[0]]); slices.Contains(append(basic, "evasion"), before) {
			return before
		}
	}
	for _, x := range kindsInWords {
		if x.words.MatchString(key) {
			return x.kind
		}
	}
	return ""
}

var (
	asideLine  = regexp.MustCompile(`(?i)^(?:assessor|examiner|instructor|coach|teacher)s? (?:to|will|must) (?:tick|sign|initial|mark|date)\b|^(?:pass(?:ed)?|fail(?:ed)?|re-?test|re-?take|no change|merit|distinction|good|fair|poor|yes|no)(?: ?[/|] ?(?:pass(?:ed)?|fail(?:ed)?|re-?test|re-?take|no change|merit|distinction|good|fair|poor|yes|no))+$|^(grand )?(total|sub.?total|sum)\b|^(grading |exam(ination)? |test(ing)? )?(fees?|cost|price)\b|^page \d|\.{4,}$|_{3,}$|^(signed|passed by|marked by|graded by|examined by|signature|student'?s? name|name of|candidate|examiner)s?\b.*[:_]|^(name|date|age|club) ?[:_]|^pass ?mark\b|^[-_=*. ]{3,}$|\bdate ?: ?_`)
	titleLine  = regexp.MustCompile(`(?i)\b(belt|stripe|grade|rank|tip|level|tag|sash|degree|white|yellow|orange|green|blue|purple|brown|red|black)\b|^grading (for|to)\b|\b\d+(st|nd|rd|th)\b.*\b(kup|gup|kyu|dan)\b|\b(requirements|syllabus|curriculum|grading sheet|test sheet|checklist|chart|manual|handbook|goals|(?:exam|examination|grading|test) programme?)\b|^(?:things |what )(?:i|you) (?:need|have|must)\b`)
	ruleLine   = regexp.MustCompile(`(?i)^(?:min(?:imum|\.)? |least )?(?:training )?time (?:in|since|between|at)\b[^,;]* \d+ (?:months?|weeks?|years?)$|^(?:min(?:imum|\.)? |least )?(?:training )?time(?: in (?:grade|rank)| since last (?:grading|test))?\s*[:=-]\s*\d|^(?:min(?:imum|\.)?|at least) (?:of )?\d+ (?:months?|weeks?|lessons?|classes|hours|sessions)\b[^,;]*$|^(?:min(?:imum|\.)? )?(?:attendance|classes attended|lessons attended)\s*[:=-]\s*\d`)
	gradeAlone = regexp.MustCompile(`(?i)^(?:(?:kyu|kup|gup|geup|dan) ?\d{1,2}|\d{1,2}(?:st|nd|rd|th|\.)? ?(?:kyu|kup|gup|geup|dan)|(?:(?:junior|senior|advanced|\d(?:st|nd|rd|th)) )?(?:white|yellow|orange|green|blue|purple|brown|red|black)(?: (?:\d|i{1,3}|iv|v|sash|belt))?)(?: ?(?:->|→|to|[-–—]) ?.{3,50})?$|^(?:testing|grading|test|exam) for:? `)
	aboutLine  = regexp.MustCompile(`(?i)\bof (?:all )?(?:the )?above\b|^(review\b.*\d|as (above|before)|same as|both of|all of|all (the )?(previous|earlier|last)|everything (from|of|above)|the above|repeat (all|the|above)|ditto\b)`)
	laterLine  = regexp.MustCompile(`(?i)^(later|extension|next stage|second stage|part two) ?:`)
	partOf     = regexp.MustCompile(`^(?i)(ad?|attacker|attack|d|defender|defence|answer) ?: ?`)
)

// inBrackets is a line that is a remark as a whole.
var inBrackets = regexp.MustCompile(`^\([^()]*\pL[^()]*\)\.?$`)

// titleEnd ends a title, whatever it is of: Self-defence course, session test.
var titleEnd = regexp.MustCompile(`(?i)\b(?:test|exam|examination|syllabus|requirements|course|checklist|sheet|curriculum|programme|assessment)$`)

// asksNothing is what stands where nothing is asked: Breaking: none at this level.
var asksNothing = regexp.MustCompile(`(?i)^(?:[\pL -]+ ?[:–—-] ?)?(?:none|n/?a|nothing|nil|not (?:required|tested|asked|applicable|needed))(?: (?:(?:at|for|in|on) (?:this|the) (?:level|grade|belt|stripe|rank|test)|yet|required|this time))?[.]?$`)

// setAside says why a line is no requirement: a title, a sum, a fee, a place to sign.
func (b *Book) setAside(line string, first bool) string {
	text := strings.TrimSpace(line)
	if b.Named(text) != nil {
		return ""
	}
	if text = strings.TrimSpace(line[listed(line):]); asideLine.MatchString(text) || asideLine.MatchString(strings.TrimSpace(line)) {
		return "a sum, a fee or a place to sign"
	}
	if text = titleTime.ReplaceAllString(text, ""); first && titleLine.MatchString(text) && !strings.ContainsAny(text, ";,\t") && slices.Contains([]Kind{"", "knowledge"}, kindInWords(text)) && !strings.HasSuffix(text, "?") && b.amountIn(text) == "" {
		return "the title of the page"
	}
	if asksNothing.MatchString(text) {
		return "it asks nothing"
	}
	if first && titleEnd.MatchString(text) && b.amountIn(text) == "" && !strings.ContainsAny(text, ";:\t") {
		return "the title of the page"
	}
	if parts := strings.Split(text, ","); first && len(parts) > 1 && !slices.ContainsFunc(parts, func(part string) bool { return !titleLine.MatchString(part) || b.amountIn(part) != "" }) && b.kindInName(text) == "" {
		return "the title of the page" // 5th grade, blue belt
	}
	if ruleLine.MatchString(text) {
		return "time and classes are asked by the rules of the rung"
	}
	if first && gradeAlone.MatchString(strings.TrimSpace(headBracket.ReplaceAllString(titleTime.ReplaceAllString(line, ""), ""))) {
		return "the title of the page"
	}
	if inBrackets.MatchString(text) {
		return "a remark on the page"
	}
	if leadsIn.MatchString(text) && !strings.ContainsFunc(text, unicode.IsDigit) {
		return "it leads in what follows"
	}
	return ""
}

// amountIn is the longest run of words in a text that is an amount and not only a number; ""
// none.
func (b *Book) amountIn(text string) string {
	words := strings.Fields(text)
	i, j := amountAt(words)
	return strings.Join(words[i:j], " ")
}

// amountAt is where in words the longest amount stands that is not only a number; i = j nowhere.
func amountAt(words []string) (i, j int) {
	for n := min(len(words), 12); n > 0; n-- {
		for at := 0; at+n <= len(words); at++ {
			if !beginsAmount(words[at]) || at > 0 && strings.EqualFold(words[at], "once") && strings.EqualFold(words[at-1], "at") {
				continue
			}
			said := strings.TrimRight(strings.Join(words[at:at+n], " "), ".,;")
			if bare(said) || at+n < len(words) && eachWord.MatchString(said) { // each what?
				continue
			}
			if isAmount(said) {
				return at, at + n
			}
		}
	}
	return 0, 0
}

// beginsAmount reports whether an amount may begin with a word.
func beginsAmount(word string) bool {
	switch word = strings.ToLower(word); word {
	case "x", "×", "hold", "held", "for":
		return true
	}
	return mayBeAmount(word)
}

var eachWord = regexp.MustCompile(`(?i)\b(each|ea|every|per|both)$`)

// continues reports whether a line goes on with the steps of the one before it, a sentence
// without an amount; as is the part it tells: "attacker" or "defender".
func (b *Book) continues(line string, before *PageLine) (text string, as Role, is bool) {
	if before == nil || !slices.Contains([]Kind{"self_defence", "lock", "throw", "partner_set", "form"}, before.Kind) || before.Problem != "" {
		return "", "", false
	}
	text = strings.TrimSpace(line[listed(line):])
	if m := partOf.FindString(text); m != "" {
		as = "defender"
		if strings.HasPrefix(strings.ToLower(m), "a") && !strings.HasPrefix(strings.ToLower(m), "answer") {
			as = "attacker"
		}
		return strings.TrimSpace(text[len(m):]), as, true
	}
	if b.Named(text) != nil || b.amountIn(text) != "" || strings.ContainsAny(text, "\t;:") || strings.HasSuffix(text, "?") || !before.New {
		return "", "", false
	}
	words := strings.Fields(text)
	if headAnd.MatchString(text) && headAnd.MatchString(strings.TrimSpace(before.Text)) { // Forms - …, Partner set - …
		return "", "", false
	}
	if strings.HasSuffix(strings.TrimSpace(before.Text), ".") { // a page of sentences, each of its own
		return "", "", false
	}
	if ownDefence.MatchString(text) || partAsked.MatchString(text) || ofOthers.MatchString(text) {
		return "", "", false
	}
	sentence := strings.HasSuffix(text, ".") && len(words) > 2 || len(words) >= 6 && !strings.Contains(text, ",") && before.Kind != "form" && beginsStep.MatchString(text) && len(dashed.Split(text, 2)) == 1
	return text, "defender", sentence && !titled(words)
}

// ofOthers speaks of other lines: answer each attack in two ways.
var ofOthers = regexp.MustCompile(`(?i)\b(?:each|every|all|any|both) (?:of |the |these )*(?:attacks?|techniques?|defen[cs]es?|one|them|these)\b`)

// beginsStep begins what is done next in a defence.
var beginsStep = regexp.MustCompile(`(?i)^(?:and |then )?(?:step|block|punch|strike|kick|turn|pivot|slide|grab|grip|hold|pull|push|move|bring|drop|raise|lift|place|put|hook|sweep|follow|finish|cover|hit|trap|check|parry|pin|lock|deliver|execute|shift|twist|pass|counter|strip|release|swing|bend|lower|keep|take|throw|drive|press|roll|rotate|circle|wrap|clear|guard|lead|lean|left|right|with|the|your|as)\b`)

// dashed is a dash with spaces around it.
var dashed = regexp.MustCompile(`\s[-–—]\s`)

// ofAList is what stands before a line of a list.
var ofAList = regexp.MustCompile(`^(\s*)(?:([-–—*•·▪►→»\p{So}‣◦⁃∙❖➤➜▶▸›])[\x{fe0f}]?|(\d{1,3})[.)]|\d{1,2}\.\d{1,2}[.)]?|\(?[a-z][.)]|[A-Z]\d{1,2}[.:)]?)\s`)

// ofOneList reports whether two lines stand in one list, side by side: by the same sign and as far from the edge.
func ofOneList(x, y string) bool {
	a, b := ofAList.FindStringSubmatch(x), ofAList.FindStringSubmatch(y)
	if ticked.MatchString(x) && ticked.MatchString(y) {
		return true
	}
	return a != nil && b != nil && len(a[1]) == len(b[1]) && a[2] == b[2]
}

// ofNumber is a heading with a number of a list, "6. Defences against"; it holds up to the next number of that list.
type ofNumber struct {
	head   pageText
	inline bool // with what stands below it behind it on its line
	below  bool // something stands below it
}

// ticked is a line of a list of boxes.
var ticked = regexp.MustCompile(`^\s*(?:[☐☑☒□■▢▣◻◯○●✓✔✗►➢→»]|\[[ xX✓]?\]|\([ _]?\))\s`)

// ended reports whether a line is the next of the list in which the heading stands, with others between them.
func (o *ofNumber) ended(x pageText) bool {
	a, b := ofAList.FindStringSubmatch(o.head.typed), ofAList.FindStringSubmatch(x.typed)
	if x.number == o.head.number {
		o.below, o.inline = true, true
		return false
	}
	if o.inline && (ofOneList(o.head.typed, x.typed) || ticked.MatchString(o.head.typed) && ticked.MatchString(x.typed)) {
		*o = ofNumber{}
		return true
	}
	if a == nil || b == nil || a[3] == "" || b[3] == "" || a[1] != b[1] {
		o.below = true
		return false
	}
	m, _ := strconv.Atoi(a[3])
	n, _ := strconv.Atoi(b[3])
	over := o.below && n == m+1
	*o = ofNumber{}
	return over
}

// ownDefence begins what is a defence of its own, not a step of the one before it.
var ownDefence = regexp.MustCompile(`(?i)^(?:(?:self.)?defen[cs]es? (?:against|to|from|vs|versus)|defend against|escapes? from|releases? from|break free|get out of)\b`)

// smallWord is written small in a title too.
var smallWord = regexp.MustCompile(`^(?:of|the|in|and|to|a|an|on|at|for|with|from|by|\d+)$`)

// titled reports whether most words of a name begin with a capital, as in a title.
func titled(words []string) bool {
	n, of := 0, 0
	for _, w := range words[min(1, len(words)):] {
		if smallWord.MatchString(w) {
			continue
		}
		of++
		if r, _ := utf8.DecodeRuneInString(w); unicode.IsUpper(r) {
			n++
		}
	}
	return 2*n > of
}

// more adds a step to a line, one that continues it.
func (l *PageLine) more(text string, as Role) {
	text = strings.ReplaceAll(strings.TrimRight(check.Tidy(text), ". "), "/", " or ") + "."
	into := &l.Moves
	if as == "attacker" {
		into = &l.Attacks
	}
	if *into != "" {
		*into += " / "
	}
	*into += text
}

// columns are the columns of a spreadsheet, by what their heads say.
type columns struct {
	section, item, amount, must, bonus, notes, setting int

	left, right int

	others []int // columns that it does not know, whose cells are remarks
	whole  bool  // every cell of their head says what its column holds
}

var cellHeads = map[string]string{
	"section": "section", "category": "section", "area": "section", "heading": "section", "type": "section", "group": "section", "topic": "section", "subject": "section", "component": "section", "module": "section", "kind": "section",
	"material": "item", "content": "item", "curriculum": "item", "movement": "item", "move": "item", "element": "item", "task": "item", "drill": "item", "syllabus": "item", "test item": "item",
	"qty": "amount", "how": "amount", "duration": "amount", "length": "amount", "how often": "amount", "attempt": "amount", "trie": "amount", "minimum": "amount", "how long": "amount", "target": "amount", "reps/time": "amount", "rep/time": "amount",
	"left": "left", "l": "left", "left side": "left", "right": "right", "r": "right", "right side": "right",
	"must know": "must", "mandatory?": "must", "instruction": "notes", "standard": "notes", "criteria": "notes", "info": "notes", "point to watch": "notes", "coaching point": "notes", "what we look for": "notes", "look for": "notes",
	"item": "item", "technique": "item", "name": "item", "requirement": "item", "exercise": "item", "what": "item", "skill": "item", "description": "item",
	"amount": "amount", "rep": "amount", "quantity": "amount", "how many": "amount", "count": "amount", "time": "amount", "number": "amount", "how much": "amount",
	"must": "must", "must pass": "must", "required": "must", "essential": "must", "compulsory": "must", "mandatory": "must",
	"optional": "bonus", "bonus": "bonus", "extra": "bonus",
	"note": "notes", "remark": "notes", "comment": "notes", "detail": "notes", "setting": "setting", "with": "setting", "equipment": "setting",
}

// sheetCell heads a column that is only of the sheet: numbers of its lines, places to tick, the belt it is for.
var sheetCell = regexp.MustCompile(`^(?:no\.?|nr\.?|#|number|ok|okay|pass|passed|fail|pass/fail|result|done|date|dates?|mark|marks|score|points?|max|signed?|initials?|check|tick|retest|rank|belt|grade|level|stripe|examiner|instructor|student|comment by.*|seen|✓|✔)$`)

// headRow reads a header row: at least an item and one more column are named.
func headRow(line string) (c columns, is bool) {
	c = columns{section: -1, item: -1, amount: -1, must: -1, bonus: -1, notes: -1, setting: -1, left: -1, right: -1, whole: true}
	at := map[string]*int{"section": &c.section, "item": &c.item, "amount": &c.amount, "must": &c.must, "bonus": &c.bonus, "notes": &c.notes, "setting": &c.setting, "left": &c.left, "right": &c.right}
	n := 0
	for i, cell := range strings.Split(line, "\t") {
		key := strings.TrimRight(check.Key(headBracket.ReplaceAllString(cell, "")), "?:")
		what, known := cellHeads[key]
		if !known {
			what, known = cellHeads[strings.TrimSuffix(key, "s")]
		}
		c.whole = c.whole && (known || key == "")
		if p := at[what]; p != nil && *p < 0 {
			*p = i
			n++
		} else if key != "" && !sheetCell.MatchString(key) {
			c.others = append(c.others, i)
		}
	}
	return c, n > 1 && c.item >= 0
}

// row is one row of a spreadsheet as a heading and a line, ditto marks and empty sections taken
// from the row above.
func (c columns) row(line string, above []string) (section, text string, own []string) {
	own = strings.Split(line, "\t")
	cell := func(i int) string {
		if i < 0 || i >= len(own) {
			return ""
		}
		own[i] = strings.TrimSpace(own[i])
		if slices.Contains([]string{`"`, "''", "〃", "″", "do.", "ditto", "”", "“"}, strings.ToLower(own[i])) || i == c.section && own[i] == "" {
			if own[i] = ""; i < len(above) {
				own[i] = above[i]
			}
		}
		return own[i]
	}
	section = cell(c.section)
	text = cell(c.item)
	if left, right := cell(c.left), cell(c.right); left != "" && left == right { // as many on each side
		text += ", " + left + " a side"
	} else if left != "" || right != "" {
		text += " (left " + left + ", right " + right + ")"
	}
	for _, i := range []int{c.amount, c.setting} {
		if s := cell(i); s != "" {
			text += ", " + s
		}
	}
	tick := func(s string) bool {
		return slices.Contains([]string{"y", "yes", "x", "✓", "✔", "must", "true", "1", "●", "*"}, strings.ToLower(s))
	}
	if tick(cell(c.must)) {
		text += ", must"
	}
	if tick(cell(c.bonus)) {
		text += ", bonus"
	}
	for _, i := range c.others {
		if s := cell(i); c.amount < 0 && isAmount(s) && !bare(s) { // Level 1: 10 each side
			text += ", " + s
		} else if s != "" && !tick(s) && strings.ContainsFunc(s, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }) {
			text += " (" + strings.NewReplacer("(", "[", ")", "]").Replace(s) + ")"
		}
	}
	if s := cell(c.notes); s != "" {
		text += " (" + strings.NewReplacer("(", "[", ")", "]").Replace(s) + ")"
	}
	return section, text, own
}

var (
	wordModifiers = []struct {
		words *regexp.Regexp
		m     Modifier
	}{
		{regexp.MustCompile(`(?i)\b(jump(ing)?|flying)\b ?`), "jumping"}, {regexp.MustCompile(`(?i)\bspin(ning)?\b ?`), "spinning"}, {regexp.MustCompile(`(?i)\bstepping\b ?`), "stepping"}, {regexp.MustCompile(`(?i)\bsliding\b ?`), "sliding"},
		{regexp.MustCompile(`(?i)\bskipping\b ?`), "skipping"}, {regexp.MustCompile(`(?i)\bswitch(ing)?\b ?`), "switching"}, {regexp.MustCompile(`(?i)\b(lead|front)[ -]leg\b ?`), "lead-leg"}, {regexp.MustCompile(`(?i)\b(rear|back)[ -]leg\b ?`), "rear-leg"},
	}
	attackInWords = regexp.MustCompile(`(?i)\b(grab|choke|punch|push|kick|hug|headlock|hold|strike|attack|knife|club)s?$`)
	doubled       = regexp.MustCompile(`(?i)\bdouble\b`)
	severals      = regexp.MustCompile(`(?i)\b\d{1,2} ?(?:[-–—&+]|to|and|thru|through) ?(?:\p{L}+\.? )?\d{1,2}$|\b[A-H] ?[-–] ?[A-H]$`)
	notAlike      = regexp.MustCompile(`(?i)^(left|right|l|r)$|^(each|every|per|both|either|a side|over each|all)\b|\b(each|every|per)\b`)
	connecting    = regexp.MustCompile(`(?i)^(?:w/|(?:in|into|from|with|to|against|off|then|and|while|after|at|followed by)\b)`)
	ofPart        = regexp.MustCompile(`(?i)^(the )?((other|left|right|both|second|first|last|third|1st|2nd|3rd) )+(sides?|half|part|stage|way|section|time)( only)?$`)
)

// variant reads jumping, flying, spinning, lead and rear in the name of a new kick or strike, and
// finds the technique it is a variant of.
func (b *Book) variant(l *PageLine) {
	if !slices.Contains([]Kind{"kick", "strike", "block"}, l.Kind) {
		return
	}
	base, levels, modifiers := b.glossed(l.Name)
	l.Levels, l.Modifiers = levels, append(l.Modifiers, modifiers...)
	for _, x := range wordModifiers {
		if x.words.MatchString(base) {
			l.Modifiers = append(l.Modifiers, x.m)
			base = x.words.ReplaceAllString(base, "")
		}
	}
	if t := b.Named(check.Tidy(base)); t != nil && len(l.Modifiers) > 0 {
		l.Base = t.ID
	}
	if doubled.MatchString(l.Name) {
		l.doubt(fmt.Sprintf("%s is read as a technique of that name; where it is the single one done twice, write its name and the amount", l.Name))
	}
}

// nearest is a technique whose name is nearly a new one's.
func (b *Book) nearest(name string) *Technique {
	key := check.Key(name)
	if utf8.RuneCountInString(key) < 6 {
		return nil
	}
	for i := range b.Techniques {
		if other := check.Key(b.Techniques[i].Name); other != key && near(key, other) && figuresIn(key) == figuresIn(other) && lettersAlone(key) == lettersAlone(other) {
			return &b.Techniques[i]
		}
	}
	return nil
}

// lettersAlone are the words of one letter in a name, which number as figures do: Combo A, Combo B.
func lettersAlone(s string) (out string) {
	for _, w := range strings.Fields(s) {
		if utf8.RuneCountInString(w) == 1 {
			out += w
		}
	}
	return out
}

func figuresIn(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsDigit(r) {
			return r
		}
		return -1
	}, s)
}
