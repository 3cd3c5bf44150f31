package binder

import (
	"strings"

	"velvetladder/internal/core/pattern"
)

// What the candidate chooses is asked as free choice, in whatever words it is said.

// ofOwn is whose choice it is, behind what is chosen; ownFirst the same before it; chosenKind what is chosen.
const (
	ofOwn = `(?:of|to|at) (?:(?:the )?(?:candidate|student|child|pupil)(?:['’]s|s['’]|s)?|(?:your|my|their|his|her|his or her|his/her)|own|free|personal)` +
		`(?: own)?(?: choice| choosing| making| invention| liking)?`
	ownFirst = `(?:(?:(?:your|my|their|his|her|his or her|his/her|(?:the )?(?:candidate|student)['’]?s['’]?) )?(?:own(?:[- ]choice)?|personal(?:[- ]choice)?|favou?rite|free[- ]choice)(?: of)?` +
		`|(?:your|their|candidate['’]?s['’]?|student['’]?s['’]?) choice(?: of)?|tokui)`
	chosenKind = `((?:\pL+ ){0,2}?)(forms?|katas?|patterns?|poomsaes?|tuls?|hyungs?|combinations?|combos?|self[- ]?defen[cs]e techniques?|defen[cs]es?|escapes?|one[- ]steps?|throws?|take ?downs?|locks?|sweeps?)`
)

var (
	choiceBehind = pattern.Of(`(?i)^((?:[-–—*•] )?)(?:any )?(?:(\d{1,2}|an?|one|two|three|four|five|six) )?(?:different |any )?` + chosenKind + `( (?:of|with) [^,;:(]*\d[^,;:(]*)?(?:,| -| –|:)? \(?(` + ofOwn + `|(?:own|free|personal|candidate['’]?s|student['’]?s) choice)\)?((?: ?[,;(:.]| from | out of | with | not | including | against | of \d| x ?\d).*)?$`)
	choiceBefore = pattern.Of(`(?i)^((?:[-–—*•] )?)(?:(\d{1,2}|an?|one|two|three|four|five|six) )?(` + ownFirst + `)(?:,| -| –|:)? (?:any )?(?:(\d{1,2}|one|two|three|four|five|six) )?(?:different |any |an? )?` + chosenKind + `((?: ?[,;(:.]| from | out of | with | not | including | against | of \d| x ?\d).*)?$`)
	// ofYourOwn is behind what is practised how many of it the candidate brings: One-step: 5 of your own.
	ofYourOwn = pattern.Of(`(?i)^((?:[-–—*•] )?(?:\d[- ])?\pL[^,;:(\t]*?)(?:,|:| -| –) ?(\d{1,2}) (?:` + ofOwn + `|(?:of )?(?:own|free)(?: choice)?)((?:[,;(:.]| against | with | from | including ).*)?$`)
)

// kindTitle is a heading by which one of what stands below it can be called.
var kindTitle = pattern.Of(`(?i)^` + chosenKind + `$`)

// choiceOr are two of which the candidate chooses: own choice of Seven Stones or Still Pond.
var choiceOr = pattern.Of(`^(?i:` + ownFirst + `) \p{Lu}[\pL ]+ or \p{Lu}[\pL ]+(?:[,;(].*)?$`)

// madeUp is what a candidate makes up: make up your own combination.
var madeUp = pattern.Of(`(?i)^((?:[-–—*•] )?)(?:make up|create|invent|compose|design|show|perform|do|demonstrate) (?:(?:your|their|his|her|my) own|an own|one of your own) `)

// madeUpAny is the same of a thing that is said not to be there yet: make up a form.
var madeUpAny = pattern.Of(`(?i)^((?:[-–—*•] )?)(?:make up|create|invent|compose|design) an? (` + chosenKind + `\b)`)

// ownChoice says that something is one's own, or chosen.
var ownChoice = pattern.Of(`(?i)\bown\b|choice|choosing|making|liking|invention`)

// byOthers is what is not the candidate's to choose.
var byOthers = pattern.Of(`(?i)\b(?:examiner|panel|instructor|sensei|teacher|coach)`)

// ofWhom is whose choice it is, behind what is chosen.
var ofWhom = pattern.Of(`(?i)^(?:of|to|at) `)

// someOfOwn are so many of what the heading says: 5 of your own.
var someOfOwn = pattern.Of(`(?i)^(\d{1,2}|two|three|four|five|six) (` + ofOwn + `)((?:[,;(:.]| against | with | from | including ).*)?$`)

// choiceAlone says whose choice it is, and nothing of what: own choice out of two.
var choiceAlone = pattern.Of(`(?i)^(` + ownFirst + `)((?: (?:out )?of (?:the )?(?:\d|two|three|four|five|six|any|all|those)\b| from | \(|, ).*|)$`)

// wordAmount are two or more by a word.
var wordAmount = map[string]string{"": "1", "a": "1", "an": "1", "one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6"}

// freelyChosen is a line that leaves the choice to the candidate, written as free choice, with the heading it stands below: 3 combinations of your own.
// What is known by the name as it is typed keeps it.
func (b *Reader) freelyChosen(text, title string) string {
	if at := strings.LastIndexAny(title, "/&"); at >= 0 { // Block/Strike combos
		title = title[at+1:]
	}
	if m := choiceAlone.FindStringSubmatch(text[listed(text):]); m != nil && kindTitle.MatchString(title) && !choiceBefore.MatchString(text) { // KATA: own choice out of two
		text = m[1] + " " + strings.ToLower(title) + m[2]
	}
	if choiceOr.MatchString(text) {
		name, rest := cutAny(text, ",;(")
		return strings.TrimSpace(name) + ", 1 in all, free choice" + rest
	}
	if m := someOfOwn.FindStringSubmatch(text); m != nil && title != "" {
		text = m[1] + " " + strings.ToLower(title) + " " + m[2] + m[3]
	}
	text = madeUpAny.ReplaceAllString(madeUp.ReplaceAllString(text, "${1}own "), "${1}own $2")
	lead, many, name, rest := "", "", "", ""
	if m := choiceBehind.FindStringSubmatch(text); m != nil && ownChoice.MatchString(m[6]) {
		lead, many, name, rest = m[1], m[2], b.ofMany(m[3], m[4], " "+m[6]), m[7]
		switch {
		case ofWhom.MatchString(m[6]):
			name += " " + m[6]
		case !ownChoice.MatchString(name):
			name = m[6] + " " + strings.ToLower(name) // form, own choice
		}
		if m[5] != "" {
			rest = " ((" + strings.TrimSpace(m[5]) + "))" + rest
		}
	} else if m := choiceBefore.FindStringSubmatch(text); m != nil {
		lead, many, name, rest = m[1], m[2]+m[4], b.ofMany(m[3]+" "+m[5], m[6], ""), m[7]
	} else if m := ofYourOwn.FindStringSubmatch(text); m != nil {
		return m[1] + ", " + m[2] + " in all, free choice" + behindChoice(m[3])
	} else {
		return text
	}
	if strings.Contains(strings.ToLower(rest), "free choice") || byOthers.MatchString(rest) { // it is written so
		return text
	}
	if n := wordAmount[strings.ToLower(many)]; n != "" {
		many = n
	}
	if m := choiceTimes.FindStringSubmatch(rest); m != nil {
		many, rest = m[1], m[2]
	}
	said := ""
	switch {
	case ofForms.MatchString(name):
		said = ", form"
	case ofCombos.MatchString(name):
		said = ", combination"
	case ofDefences.MatchString(name):
		said = ", self-defence"
	}
	return lead + capitalised(name) + ", " + many + " in all, free choice" + said + behindChoice(rest)
}

var (
	choiceTimes = pattern.Of(`(?i)^(?:,| -| –|:)? ?(?:x ?)?(\d{1,2})(?: ?x| times| of them)?((?:[,;(].*)?)$`)
	ofForms     = pattern.Of(`(?i)\b(?:form|kata|pattern|poomsae|tul|hyung)\b`)
	ofDefences  = pattern.Of(`(?i)\bdefen[cs]e\b`)
	ofCombos    = pattern.Of(`(?i)\bcomb(?:ination|o)\b`)
)

// ofMany is the name of several, with what stands behind it, as one is called; as it is typed where that is known.
func (b *Reader) ofMany(before, many, behind string) string {
	if b.Named(before+many+behind) != nil {
		return before + many
	}
	return before + one(many)
}

// one is the word for one of several.
func one(many string) string {
	return strings.TrimSuffix(strings.TrimSuffix(many, "s"), "S")
}

// behindChoice is what else is said, as a remark.
func behindChoice(rest string) string {
	rest = strings.TrimSpace(rest)
	if rest == "" || strings.ContainsAny(rest[:1], ",;(") {
		return rest
	}
	return " ((" + strings.Trim(rest, ":. ") + "))"
}
