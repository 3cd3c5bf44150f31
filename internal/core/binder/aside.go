package binder

import (
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Lines that ask nothing.

var (
	asideLine  = pattern.Of(`(?i)^(?:assessor|examiner|instructor|coach|teacher)s? (?:to|will|must) (?:tick|sign|initial|mark|date)\b|^(?:pass(?:ed)?|fail(?:ed)?|re-?test|re-?take|no change|merit|distinction|good|fair|poor|yes|no)(?: ?[/|] ?(?:pass(?:ed)?|fail(?:ed)?|re-?test|re-?take|no change|merit|distinction|good|fair|poor|yes|no))+$|^(grand )?(total|sub.?total|sum|average)\b|^testing for ?:|^belt ?: ?(?:white|yellow|orange|gold|green|blue|purple|brown|red|black)\b|^(grading |exam(ination)? |test(ing)? )?(fees?|cost|price)\b|^page \d|\.{4,}$|_{3,}$|^(signed|passed by|marked by|graded by|examined by|signature|student'?s? name|name of|candidate|examiner)s?\b.*[:_]|^(name|date|age|club) ?[:_]|^pass ?mark\b|^pass ?[:=]? ?\d{2,3}$|^(?:to )?pass(?:ing)?(?: mark| grade| rate)? ?[:=-]? ?(?:is )?\d+ ?(?:%|per ?cent|points|of)|^[-_=*. ]{3,}$|\bsigns? here\b|^ready (?:to|for) (?:test|grade|grading|promotion)\b|\bdate ?: ?_`)
	titleLine  = pattern.Of(`(?i)\b(belt|stripe|grade|rank|tip|level|tag|sash|degree|white|yellow|orange|green|blue|purple|brown|red|black)\b|^grading (for|to)\b|\b(?:stage|phase|level|part|book) (?:one|two|three|four|five|six|seven|eight|\d{1,2})$|\b\d+(st|nd|rd|th)\b.*\b(kup|gup|kyu|dan)\b|^\d{1,2}\.? (?:kyu|gup|kup|geup)\b|\b(requirements|requirement list|syllabus|curriculum|grading sheet|test sheet|checklist|chart|manual|handbook|goals|(?:exam|examination|grading|test) programme?)\b|^(?:things |what )(?:i|you|we) (?:need|have|must|test|expect|want|practi[sc]e|will)\b`)
	gradeAlone = pattern.Of(`(?i)^(?:(?:kyu|kup|gup|geup|dan) ?\d{1,2}|\d{1,2}(?:st|nd|rd|th|\.)? ?(?:kyu|kup|gup|geup|dan)|(?:(?:junior|senior|advanced|\d(?:st|nd|rd|th)) )?(?:white|yellow|orange|green|blue|purple|brown|red|black)(?: (?:\d|i{1,3}|iv|v|sash|belt))?)(?: ?(?:->|→|to|[-–—]) ?.{3,50})?$|^(?:testing|grading|test|exam) for:? `)
	aboutLine  = pattern.Of(`(?i)\bof (?:all )?(?:the )?above\b|\b(?:against|with|for|of) the same (?:two|three|four|five|six|\d{1,2}|attacks?|list|ones)\b|` +
		`\b(?:any|all|every|each|one) (?:\pL+ )?(?:patterns?|forms?|katas?|poomsae|tuls?|techniques?|sets?) (?:previously|already) (?:learnt|learned|taught|passed)\b|` +
		`^(review\b.*\d|as (above|before)|as (?:at |for |in )?(?:the )?(?:white|yellow|orange|green|blue|purple|brown` +
		`|red|black|last|previous|lower|earlier) (?:belt|stripe|tip|level|grade|rank|rung)\b|all (?:the )?(?:white|yellow|orange|green|blue|purple|brown|red) (?:belt |stripe ` +
		`|level )?(?:requirements|material|techniques)\b|(?:plus|and|with) everything (?:from|of|in)\b|same as|both of|all of|all (the )?(previous|earlier|last)` +
		`|everything (from|of|above)|the above|repeat (all|the|above)|ditto\b)`)
	restLine  = pattern.Of(`(?i)^(?:(?:with )?\d+ ?(?:s|secs?|seconds?|m|mins?|minutes?)\.? (?:of )?(?:rest|break|breather|pause)|(?:rest|break|pause)[:,]? (?:of )?\d+ ?(?:s|secs?|seconds?|m|mins?|minutes?))\b(?: (?:between|after|before|each|every)\b.*)?[.]?$|^\d+ ?(?:s|secs?|seconds?|m|mins?|minutes?) between (?:the |each )?rounds?[.]?$`)
	asOthers  = pattern.Of(`(?i)^\s*(?:as (?:taught|learned|learnt|shown|for|at|in|on|asked)\b|same as\b|like (?:for|at|in|on)\b|see (?:above|before|\pL+ belt)\b)`)
	laterLine = pattern.Of(`(?i)^(later|extension|next stage|second stage|part two) ?:`)
	partOf    = pattern.Of(`^(?i)(ad?|attacker|attack|d|defender|defence|answer) ?: ?`)
)

// inBrackets is a line that is a remark as a whole.
var inBrackets = pattern.Of(`^\([^()]*\pL[^()]*\)\.?$`)

// titleEnd ends a title, whatever it is of: Self-defence course, session test.
var titleEnd = pattern.Of(`(?i)\b(?:test|exam|examination|syllabus|requirements|course|checklist|sheet|curriculum|programme|assessment|academy|club|dojo|dojang|association|federation|gym|check[- ]?off)$`)

// ofATitle are the words of a title beside the section it is of.
var ofATitle = pattern.Of(`(?i)\b(?:white|yellow|orange|green|blue|purple|brown|red|black|gold|belt|stripe|grade|rank|tip|level|tag|sash|kyu|kup|gup|geup|dan|\d+(?:st|nd|rd|th)|requirements?|syllabus|curriculum|grading|test|sheet|for|the|adults?|juniors?)\b|[–—:/-]`)

// greeting begins or ends a letter.
var greeting = pattern.Of(`(?i)^(?:hi|hello|hey|dear|good (?:morning|evening|afternoon)|see you|thanks|thank you|regards|kind regards|best wishes|many thanks|good luck|cheers|yours)\b[^,:;\d]{0,30}[,!.]?$`)

// struckOut is what somebody took out and left standing: ~~Crescent kick~~.
var struckOut = pattern.Of(`^~~[^~]+~~(?: ?\([^()]*\))?[.]?$`)

// shownThings are in what is shown, whatever verb begins it: Bring the knee up.
var shownThings = pattern.Of(`(?i)\b(?:knee|leg|foot|feet|hand|arm|hips?|chin|guard|elbow|heel|partner|attacker|opponent|question)s?\b`)

// takesLeave ends a letter: who writes stands below it.
var takesLeave = pattern.Of(`(?i)^(?:thanks|thank you|regards|kind regards|best wishes|best|many thanks|cheers|yours|see you|good luck)\b[^,:;\d]{0,30}[,!.]?$`)

// toBring is what to bring, to wear or to see to.
var toBring = pattern.Of(`(?i)^do ?n[’']?t forget (?:your|the|to|a) [^:;]*$|^(?:please |(?:they|students?|everyone|everybody|(?:your )?child(?:ren)?` +
	`|you) (?:must |should |will |has to |have to |needs? to )(?:also )?(?:need to )?|remember to |do ?n.t forget (?:to )?(?:bring )?|also )*(?:bring` +
	`|wear|arrive|be (?:early|on time|there|here)|pay|let (?:us|me) know)\b[^:;]*$`)

// aboutPage is of which version a page is, who made it and where it is found.
var aboutPage = pattern.Of(`(?i)^(?:(?:version|ver\.?|rev(?:ision)?\.?|issue|edition|draft)\s*:?\s*(?:no\.? ?)?v?\d|(?:last )?(?:updated|revised|amended|printed|reviewed)\b|valid from\b|©|\(c\)\s|copyright\b|https?://|www\.|(?:tel|phone|e-?mail|mobile)\b\s*[:.]|\S+@\S+\.\S+$)|\bpage \d+ (?:of|/) ?\d+$`)

// saidOfAll is a sentence about all of a page, which is no step: All locks slowly. Tap = stop.
var saidOfAll = pattern.Of(`(?i)^(?:> ?)?(?:all|every|everything|each|always|never|no|remember|note|nb|important|warning|caution)\b[^:;]*[.!]$|^(?:> ?)?(?:note|nb|important|warning|caution|remember) ?[:!] `)

// allFromBelow is all of what was asked before: all kicks from previous grades.
var allFromBelow = pattern.Of(`(?i)^(?:all|every|each) (?:of )?(?:the )?(?:\pL+ ){0,2}(?:from|of|in|for) (?:the |your )?(?:previous|lower|earlier|last|other|all)\b`)

// howHard is how all of what stands around it is fought or worn: no head contact for under 16s, light contact only.
var howHard = pattern.Of(`(?i)^(?:no|light|touch|semi|controlled|full) (?:(?:head|face|body|leg|hard|heavy) )?contact (?:only|to (?:the )?(?:head` +
	`|face|legs?|groin|back)\b.*|(?:sparring )?\(?for \pL.*)$` +
	`|^no (?:head|face|hard|heavy) (?:contact|shots|kicks|punches)\b[^,:;]*$|^(?:gum ?shields?|mouth ?guards?|head ?guards?|pads|gloves|shin ?(?:pads|guards)|protective (?:gear|kit|equipment))` +
	`(?:(?: and |, )\pL[\pL ]*?)? (?:must be |to be |are |is )?(?:worn|compulsory|required|needed|mandatory)$`)

// notTested is what a page says is not marked, and how a class ends.
var notTested = pattern.Of(`(?i)^cool[- ]?down\b|^[^():]*\((?:not|un)[ -]?(?:marked|tested|examined|graded|scored|assessed)\)`)

// saysSides is in what says on which side all is done.
var saysSides = pattern.Of(`(?i)\b(?:sides?|both|legs?|arms?|left|right)\b`)

// beltFirst is a title that begins with its belt.
var beltFirst = pattern.Of(`(?i)^(?:white|yellow|orange|gold|green|blue|purple|brown|red|black)(?:[ /-](?:white|yellow|orange|green|blue|purple|brown|red|black))? (?:belt|sash|stripe|tag|tip)\b`)

// whomWord is in titles for whom a page is.
var whomWord = pattern.Of(`(?i)\b(?:juniors?|seniors?|adults?|kids|children|cubs|tigers|dragons|cadets?|youths?|teens?|beginners?|class|students?|program(?:me)?)\b`)

// letterFirst begins a letter.
var letterFirst = pattern.Of(`(?i)^(?:dear|hi|hello) \pL[^:]*,`)

// examWord is in titles of what a page is for.
var examWord = pattern.Of(`(?i)\b(?:exam|examination|test|grading|syllabus|requirements)\b`)

// dashHead is a head of columns with a dash between: Skill - how we check it.
var dashHead = pattern.Of(`(?i)^(?:name of )?(?:skill|technique|item|requirement|what|exercise|task|name)s?\s+[-–—:|/]\s+(?:attacks?$|how|what|reps|amount|notes?|standard|times|number|points?|marks?)(?: (?:we|to|many|much|you|often|long|it|check|look|for|is|asked|checked|tested))*$`)

// asksNothing is what stands where nothing is asked: Breaking: none at this level.
var asksNothing = pattern.Of(`(?i)^(?:[\pL -]+ ?[:–—-] ?)?(?:none|n/?a|nothing|nil|not (?:required|tested|asked|applicable|needed|yet|(?:at|for|in|on) this (?:level|grade|belt|stripe|rank|test)))(?: (?:(?:at|for|in|on) (?:this` +
	`|the) (?:level|grade|belt|stripe|rank|test)|yet|required|this time|(?:until|till|before) (?:\pL+ ){0,2}\pL+))?[.]?$`)

// ruleParts are what asks time, classes, age, kit or papers, and nothing that is shown.
var ruleParts = []*pattern.Pattern{
	pattern.Of(`(?i)^(?:must:? |to )?(?:attend|have attended|have come to|come to|complete|completed) (?:at least |a minimum of )?` + someMany + ` (?:\pL+ )?(?:classes|lessons|sessions|hours|training hours)\b`),
	pattern.Of(`(?i)^(?:has |have |must have )?(?:trained|been training|practi[sc]ed|attended) (?:for )?(?:at least |a minimum of |no less than )?` + someMany + ` (?:\pL+ )?(?:months?|weeks?|years?|hours|classes|lessons|sessions)\b`),
	pattern.Of(`(?i)^(?:min(?:imum|\.)? |least )?(?:training )?time (?:in|since|between|at)\b[^,;]* ` + someMany + ` (?:months?|weeks?|years?)$`),
	pattern.Of(`(?i)^(?:min(?:imum|\.)? |least )?(?:training )?time(?: in (?:grade|rank)| since last (?:grading|test))?\s*[:=-]\s*\d`),
	pattern.Of(`(?i)^(?:min(?:imum|\.)?|at least) (?:of )?` + someMany + ` (?:months?|weeks?|(?:\pL+ )?(?:lessons?|classes|sessions)|hours|hrs)\b[^,;]*$`),
	pattern.Of(`(?i)^` + someMany + ` (?:months?|weeks?|lessons?|classes|sessions|training hours) (?:since|after|from|as|at|in|minimum|of training)\b[^,;]*$`),
	pattern.Of(`(?i)^(?:(?:the )?(?:candidates?|students?) )?must (?:have|hold|bring)\b.*\b(?:licen[cs]e|membership|insurance|licen[cs]e book)\b`),
	pattern.Of(`(?i)^` + someMany + ` (?:hours|hrs|days|evenings) of (?:practi[cs]e|training|classes|mat time|lessons|attendance)\b[^,;]*$`),
	pattern.Of(`(?i)^(?:min(?:imum|\.)? )?(?:attendance|classes attended|lessons attended|classes|lessons)\s*[:=-]\s*\d`),
	pattern.Of(`(?i)^(?:min(?:imum|\.)? )?attendance:? (?:of |at )?(?:at least )?` + someMany + ` (?:classes|lessons|sessions)\b`),
	pattern.Of(`(?i)^(?:min(?:imum|\.)? )?attendance:? (?:of )?(?:at least |over )?\d{1,3} ?(?:%|per ?cent)`),
	pattern.Of(`(?i)^(?:min(?:imum|\.)? age|(?:minimum )?age|at least|over)\s*[:=-]?\s*\d{1,2}(?: (?:years?|yrs?)(?: old| of age)?|\+| and over| or over| or older)?$`),
	pattern.Of(`(?i)^(?:must )?(?:own|have|bring|wear|need|needs)\b[^,;]*\b(?:own|full|clean) (?:\pL+ )?(?:gloves|mitts|guards?|gum ?shield|mouth ?guard|uniform|kit|gi|equipment|sparring gear|gear|pads)\b[^,;:]*$`),
	pattern.Of(`(?i)^(?:a |an |must have )?(?:valid |current |paid |up[- ]to[- ]date )?(?:membership|insurance|licen[cs]e|first[- ]aid certificate)(?: (?:card|book|paid|valid|current|and (?:insurance|membership|licen[cs]e)|in date|up to date))*$`),
}

// timeHead heads what is asked of time.
var timeHead = pattern.Of(`(?i)^(?:min(?:imum|\.)? |training )*time(?: in (?:grade|rank))?:?$`)

// shortRule is what a rule asks, behind another.
var shortRule = pattern.Of(`(?i)^` + someMany + ` (?:months?|weeks?|years?|lessons?|classes|sessions|hours)$`)

// someMany is a number in figures or words.
const someMany = `(?:\d+|two|three|four|five|six|seven|eight|nine|ten|twelve|twenty|thirty|forty|fifty)`

// isRule reports whether a line asks nothing but what a rule of the rung asks: Minimum 24 lessons since last grading, min age 8.
func isRule(text string) bool {
	parts := strings.FieldsFunc(strings.TrimRight(text, ". "), func(r rune) bool { return strings.ContainsRune(",;", r) })
	for len(parts) > 1 && shortRule.MatchString(strings.TrimSpace(parts[len(parts)-1])) {
		parts = parts[:len(parts)-1]
	}
	return len(parts) > 0 && !slices.ContainsFunc(parts, func(part string) bool {
		return !slices.ContainsFunc(ruleParts, func(x *pattern.Pattern) bool { return x.MatchString(strings.TrimSpace(part)) })
	})
}

// kitAlone is a list of what is worn: Gloves and gum shields.
var kitAlone = pattern.Of(`(?i)^` + worn + `(?:(?:, ?| and | & |, and )` + worn + `)+\.?$`)

// worn is a thing that is worn, as a group.
const worn = `(?:own |full |clean )?(?:gloves|mitts|gum ?shields?|mouth ?guards?|head ?guards?|helmets?|shin ?(?:guards?|pads?)|foot ?(?:pads?|guards?)|groin ?guards?|chest ?guards?|sparring gear)`

// setAside says why a line is no requirement: a title, a sum, a fee, a place to sign.
func (b *Reader) setAside(line string, first bool) string {
	text := strings.TrimSpace(line)
	if b.Named(text) != nil {
		return ""
	}
	if text = strings.TrimSpace(line[listed(line):]); (asideLine.MatchString(text) || asideLine.MatchString(strings.TrimSpace(line))) && !choiceBefore.MatchString(text) {
		return "a sum, a fee or a place to sign"
	}
	text = titleTime.ReplaceAllString(text, "")
	if first && b.isTitle(line, text) {
		return "the title of the page"
	}
	switch {
	case dashHead.MatchString(text):
		return "the head of the columns"
	case aboutPage.MatchString(text):
		return "it is about the page"
	case toBring.MatchString(text) && !shownThings.MatchString(text):
		return "what to bring or to see to"
	case strings.HasPrefix(text, ">") || saidOfAll.MatchString(text) && !allFromBelow.MatchString(text) && b.amountIn(text) == "" && !saysSides.MatchString(text):
		return "a remark on the page"
	case howHard.MatchString(text):
		return "a remark on the page"
	case struckOut.MatchString(text):
		return "it is struck out"
	case greeting.MatchString(text) && curriculum.KindInWords(text) == "":
		return "a greeting"
	case notTested.MatchString(text):
		return "it is not tested"
	case asksNothing.MatchString(text):
		return "it asks nothing"
	case kitAlone.MatchString(text), isRule(text), timeHead.MatchString(text):
		return "time, classes, age, kit and papers are asked by the rules of the rung"
	case inBrackets.MatchString(strings.TrimSpace(line[listed(line):])):
		return "a remark on the page"
	case leadsIn.MatchString(text) && (letterFirst.MatchString(text) || !strings.ContainsFunc(text, unicode.IsDigit)):
		return "it leads in what follows"
	}
	return ""
}

// stripeSection is a heading for what a stripe asks of one section.
var stripeSection = pattern.Of(`(?i)^(?:stripe|tip|tag) (?:\d{1,2}|one)\b.* ?[-–—:] ?\pL`)

// badgeNumber is the number of what children earn.
var badgeNumber = pattern.Of(`(?i)^(?:badge|patch|sticker|star|animal) (?:no\.? ?|number )?\d{1,2}(?: ?[:–—-] .*)?$`)

// isTitle reports whether the first line of a page is its title, as it stands and without its time.
func (b *Reader) isTitle(line, text string) bool {
	none := b.amountIn(text) == ""
	if _, heads := b.heading(text); heads && stripeSection.MatchString(text) { // Stripe 1 (white) - Basics
		return false
	}
	if titleLine.MatchString(text) && !strings.ContainsAny(text, ";,\t") && slices.Contains([]Kind{"", "knowledge"}, curriculum.KindInWords(text)) && !strings.HasSuffix(text, "?") && none {
		return true
	}
	if titleEnd.MatchString(text) && none && !strings.ContainsAny(text, ";:\t") {
		return true
	}
	parts := strings.Split(text, ",")
	unkind := b.KindInName(text) == ""
	switch {
	case len(parts) > 1 && unkind && !slices.ContainsFunc(parts, func(part string) bool { return !titleLine.MatchString(part) || b.amountIn(part) != "" }): // 5th grade, blue belt
	case len(parts) == 2 && (titleLine.MatchString(parts[0]) || titleLine.MatchString(parts[1])) && slices.ContainsFunc(parts, whomWord.MatchString) && none && unkind: // Advanced Juniors, green tip
	case len(parts) == 2 && titleEnd.MatchString(parts[0]) && none && b.KindInName(parts[0]) == "" && !strings.ContainsAny(text, ";:\t"): // Session test, intermediate kickboxing
	case beltFirst.MatchString(text) && none && !strings.Contains(text, "\t") && (unkind || strings.ContainsAny(text, ",:")): // Purple belt, block 2: weapons
	case titleLine.MatchString(text) && examWord.MatchString(text) && none && !strings.ContainsAny(text, ";\t:"): // Blue belt exam, spring term
	case gradeAlone.MatchString(strings.TrimSpace(headBracket.ReplaceAllString(titleTime.ReplaceAllString(line, ""), ""))) && !isRule(text):
	case badgeNumber.MatchString(text) && none && unkind && !strings.ContainsAny(text, ",;\t"): // Badge 3: the Heron
	case gradeOf.MatchString(text): // Self defence - grade 2
	case ageBehind.MatchString(line) && none && unkind && !strings.ContainsAny(text, ",;:\t"): // Junior Warriors (age 6-9)
	default:
		return false
	}
	return true
}

// gradeOf is of what a page is, and which grade of it.
var gradeOf = pattern.Of(`(?i)^\pL[\pL'’ -]*?(?: ?[-–—:] ?| )(?:grade|level|session|week|module) (?:\d{1,2}|one|two|three|four|five)(?: (?:check|test|exam|assessment))?$`)

// ageBehind is an age behind a title.
var ageBehind = pattern.Of(`(?i)\((?:ages?|aged) \d[^()]*\)\s*$`)
