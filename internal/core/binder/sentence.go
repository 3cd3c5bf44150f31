package binder

import (
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// A sentence as it would stand in a list.

// nextWord begins a sentence of several that come one after another: Then two rounds of sparring.
var nextWord = pattern.Of(`^\s*(?:(?:And|Then|Next|Lastly|Finally|After that|Afterwards|Firstly),? |First, |At the end,? (?:there (?:is|are) |you do |we do )?)`)

var (
	// What a sentence says before it comes to what is asked.
	surelyAsked = pattern.Of(`(?i)^\s*(?:[-–—*•] )?(?:please )?(?:(?:(?:the )?(?:students?|candidates?)|he|she|they|everyone|everybody) (?:shows?|performs?|demonstrates?|does) (?:an? |the )?|(?:the )?(?:students?|candidates?|you|i|he|she|they|everyone|everybody) (?:must|should|will|shall|can|has to|have to|then) (?:also |then )?(?:be (?:able|asked) to )?|(?:must |should )?be able to |able to )?(?:(?:perform|demonstrate|execute|show (?:me|us)|let (?:me|us) see) (?:(?:an? |the |your |how you )?(?:best |nicest |strongest )?)?)?`)
	maybeAsked  = pattern.Of(`(?i)^\s*(?:show|do|complete|give|hold|stand in|stay in|keep) (?:an? |the )?`)
	leadsIn     = pattern.Of(`(?i)^(?:can you do (?:it|this|these|them)|are you ready|things (?:i|you) (?:can|should|must) (?:do|know))\b.*[?!:]$|^(?:hi|hello|hey|dear)\b.*:$` +
		`|\b(?:must|should|will|shall|can|able to|asked to|required to|needs?|requires?)\b.*:$`)
	sparFor      = pattern.Of(`(?i)^\s*spar for `)
	aHeight      = pattern.Of(`(?i)(?:, ?| [-–—] |@ ?|\b(?:at|to) (?:the )?)(?:(head|face|chin|neck|chest|body|belly|stomach|waist|belt|hip|knee|thigh|shin|ankle|low|middle|mid|high)[- ](?:height|level|high))\b`)
	heightLast   = pattern.Of(`(?i)^(.*\pL(?: kick| punch| strike)?) (head|face|chin|neck|chest|stomach|waist|belt|hip|thigh|shin|ankle)[- ](?:height|level|high)((?:,| [-–x×(\d]| each| per).*)?$`)
	heightJoined = pattern.Of(`(?i)[(,–]| - |\b(?:to|at|then|the|above|below|over|under|or|and|up|own|your|on)$`)
	orMore       = pattern.Of(`(?i)^(?:,? then| (?:or|and|to|if))\b`)
	sideJoined   = pattern.Of(`(?i)\b(?:l ?[/+] ?r|r ?[/+] ?l)\b`)
	sidesFirst   = pattern.Of(`(?i)\b(?:l ?[/+] ?r|r ?[/+] ?l),? ?x? ?(\d{1,3})( *(?:[(,]|$)| +\p{L})`)
	countSides   = pattern.Of(`(?i)^(\s*)(\d{1,3}) ?x? ?(\p{L}.*?),? (?:l ?[/+] ?r|r ?[/+] ?l)\s*$`)
	eachOf       = pattern.Of(`(?i)\b(?:with|on|to|for|using) ((?:each|every|per) (?:side|leg|hand|arm|foot)s?)\b`)
	article      = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:an?|the) )(\p{L}[\p{L} -]+)`)
	roundsOf     = pattern.Of(`(?i)^\s*(?:[-–—*•] )?(one|two|three|four|five|\d) rounds? of ((?:free |light |touch |technical |controlled )?)sparring,? ?\(?(\d+ ?(?:min|sec)\w*|(?:one|two|three) minutes?|(?:thirty|forty|sixty|ninety) seconds)(?: each)?\)?\.?`)
	roundsTimed  = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,2}) rounds?,?(?: of)? (\d{1,2}):(\d\d)(?: ?min\w*)?(?: each)?`)
	// 30 s/side
	secondsSlash = pattern.Of(`(?i)\b(\d+ ?(?:s|secs?|seconds?|m|mins?|minutes?)) ?/ ?(side|leg|hand|arm|foot)\b`)
	timesEach    = pattern.Of(`(?i)\b(\d{1,3}) (?:times|reps|repetitions|x) ((?:with |on )?(?:each|every|per) (?:side|leg|hand|arm|foot)s?)\b`)
)

// numbersNoted are the numbers of a series behind their word: Set, nos 1 & 2.
var numbersNoted = pattern.Of(`(?i)(\pL)(?:,| [-–—])? (?:nos?\.?|numbers?) ?(\d{1,3} ?(?:-|–|&|and|to) ?\d{1,3})\b`)

var (
	// roundsFirst are rounds before what is done in them, with a rest: 3 x 3 min skipping, 30s rest.
	roundsFirst = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,2} ?x ?\d+ ?(?:s|secs?|seconds?|m|mins?|minutes?)) (?:rounds? )?(?:of )?(\pL[^,;:]*), (\d+ ?\pL+ rest)$`)
	// wayBehind is how often, and which way: 5 x forward.
	wayBehind = pattern.Of(`(?i)^(.*\pL\)?),? (\d{1,3}) ?x (forwards?|backwards?|fwd|bwd|back)$`)
	// eachBehind is an amount of each of a list, behind a colon: Rising, inside, low: 10 of each.
	eachBehind = pattern.Of(`(?i)^([^:]*\pL[^:]*,[^:]*?): (\d{1,3} ?(?:x |times )?(?:of )?each(?:,? (?:side|leg|arm|hand|both (?:sides|legs|arms|hands)))?)$`)
)

var heights = map[string]string{"head": "high", "face": "high", "chest": "mid", "body": "mid", "belly": "mid", "stomach": "mid", "middle": "mid", "mid": "mid", "low": "low", "high": "high", "waist": "mid", "belt": "mid", "hip": "mid", "chin": "high", "neck": "high", "knee": "low", "thigh": "low", "ankle": "low", "shin": "low"}

// notOwnHeight is before a height that is not a technique’s, or where it leaves only a word for many.
var notOwnHeight = pattern.Of(`(?i)\b(?:pads?|paddles?|shields?|targets?|balloon|mitts?|held|tackle|grab|choke|hug|push|swing|stab|slash|club|stick|bat|attack` +
	`|attacker) (?:at|to)$|^[^\pL]*(?:kick|punch|strike|block)s? (?:at|to)$`)

// atSign is "@ bag" for "on the bag".
var atSign = pattern.Of(`(?i) @ ?(?:the )?(bag|pads?|paddles?|shields?|mitts?|targets?)\b`)

// asListed is a line as it would stand in a list: "Perform 10 front kicks with each leg." is "10 front
// kicks each leg". Names of the program stay as they are. Blanks keep the columns where that is possible.
func (b *Reader) asListed(line string) string {
	if curriculum.IsAmount(line) {
		return line
	}
	if at := listed(line); at > 0 && strings.ContainsAny(line[:at], "0123456789") { // 1) hold a low horse stance for two minutes
		return line[:at] + b.asListed(line[at:])
	}
	if name := strings.TrimSpace(line[listed(line):]); b.Named(name) != nil {
		return line
	}
	blanks := func(s string) string { return strings.Repeat(" ", utf8.RuneCountInString(s)) }
	if from, to := b.nameIn([]rune(line)); b.Named(string([]rune(line)[from:to])) != nil && maybeAsked.MatchString(line) {
		return line // a name that begins as a sentence does
	}
	whole := line
	lead := surelyAsked.FindString(line)
	if rest := line[len(lead):]; strings.ContainsFunc(lead, unicode.IsLetter) || b.askedBy(rest) {
		line = blanks(lead) + rest
		if more := maybeAsked.FindString(rest); b.askedBy(rest) || doA.MatchString(rest) {
			line = blanks(lead) + blanks(more) + rest[len(more):]
		}
		line = capitalised(strings.TrimSuffix(strings.TrimRight(line, " "), "."))
	}
	if whole, found := strings.CutSuffix(line, ")."); found {
		line = whole + ")"
	}
	if at := sparFor.FindString(line); at != "" {
		line = strings.Replace(at, "spar for", "Sparring,", 1)
		line = strings.Replace(line, "Spar for", "Sparring,", 1) + whole[len(at):]
		line = strings.TrimSuffix(line, ".")
	}
	if m := article.FindStringSubmatch(line); m != nil && !whoDoes.MatchString(m[2]) && b.KindInName(m[2]) != "" && b.KindInName(m[2]) != "knowledge" {
		line = blanks(m[1]) + capitalised(line[len(m[1]):])
	}
	line = atSign.ReplaceAllString(line, ", on $1")
	if m := boardsFirst.FindStringSubmatch(line[listed(line):]); m != nil { // 1 board - front kick
		line = line[:listed(line)] + m[2] + ", " + m[1]
	}
	line = roundsInFigures(line)
	line = timesEach.ReplaceAllString(line, "$1 $2")
	line = secondsSlash.ReplaceAllString(line, "$1 each $2")
	line = eachOf.ReplaceAllString(line, "$1")
	if countSides.MatchString(line) {
		line = countSides.ReplaceAllString(line, "$1$3, $2 a side")
	} else if sidesFirst.MatchString(line) {
		line = sidesFirst.ReplaceAllString(line, ", $1 a side,$2")
	} else if sideJoined.MatchString(line) && strings.ContainsFunc(line, unicode.IsDigit) {
		if said := sideJoined.ReplaceAllString(line, "a side"); b.amountIn(strings.ReplaceAll(said, ",", " ")) != b.amountIn(strings.ReplaceAll(line, ",", " ")) {
			line = said
		}
	}
	if at := aHeight.FindStringSubmatchIndex(line); at != nil && !strings.Contains(line[:at[0]], "(") && !notOwnHeight.MatchString(strings.TrimRight(line[:at[2]], " ")) && !orMore.MatchString(line[at[1]:]) {
		line = line[:at[0]] + ", level " + heights[strings.ToLower(line[at[2]:at[3]])] + "," + line[at[1]:]
	} else if m := heightLast.FindStringSubmatch(line); m != nil && !heightJoined.MatchString(m[1]) { // Front kick waist high
		line = m[1] + ", level " + heights[strings.ToLower(m[2])] + "," + strings.TrimPrefix(m[3], ",")
	}
	return line
}

// roundsInFigures is a line with its rounds behind their name, in seconds, and the numbers of a series behind theirs.
func roundsInFigures(line string) string {
	line = roundsFirst.ReplaceAllString(line, "$1$3, $2, $4")
	line = wayBehind.ReplaceAllString(line, "$1, $2 times, $3")
	line = eachBehind.ReplaceAllString(line, "$1, $2")
	line = numbersNoted.ReplaceAllString(line, "$1 $2")
	if rounds := roundsOf.ReplaceAllString(line, "${2}sparring, $1 x $3"); rounds != line {
		line = capitalised(rounds)
	}
	line = roundsTimed.ReplaceAllStringFunc(line, func(s string) string {
		m := roundsTimed.FindStringSubmatch(s)
		minutes, _ := strconv.Atoi(m[3])
		seconds, _ := strconv.Atoi(m[4])
		return m[1] + m[2] + " x " + strconv.Itoa(60*minutes+seconds) + " s"
	})
	return line
}

// whoDoes begins a sentence of what somebody does.
var whoDoes = pattern.Of(`(?i)^(?:attacker|partner|opponent|defender|candidate|student|holder)\b`)

// doA is what somebody can do: do a front kick.
var doA = pattern.Of(`(?i)^\s*(?:do|show) (?:an? \pL|(?:your )?(?:form|kata|pattern|poomsae|hyung|tul)\b)`)

// capitalised is a line whose first letter is a capital.
func capitalised(line string) string {
	at := strings.IndexFunc(line, func(r rune) bool { return !unicode.IsSpace(r) })
	if at < 0 {
		return line
	}
	r, size := utf8.DecodeRuneInString(line[at:])
	return line[:at] + string(unicode.ToUpper(r)) + line[at+size:]
}

// askedBy reports whether a verb such as "show" leads in what is asked: an amount or a known name
// follows it.
func (b *Reader) askedBy(text string) bool {
	verb := maybeAsked.FindString(text)
	if verb == "" {
		return false
	}
	rest := strings.TrimRight(text[len(verb):], ". ")
	words := strings.Fields(rest)
	if amount := b.amountIn(strings.ReplaceAll(rest, ",", " ")); amount != "" || len(words) > 0 && curriculum.Bare(words[0]) {
		return true
	}
	for n := len(words); n > 0; n-- {
		if b.Named(check.Tidy(strings.TrimRight(strings.Join(words[:n], " "), ",;"))) != nil {
			return n == len(words) || !slices.Contains([]string{"for", "while", "when", "during"}, words[n]) // stand in attention stance for the whole bow
		}
	}
	return false
}
