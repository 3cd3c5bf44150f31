package binder

import (
	"cmp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// A heading and what stands behind it on its line.

// bulleted is a line with the sign of a list before it.
var bulleted = pattern.Of(`^\s*[-–—*•] `)

var (
	headAnd  = pattern.Of(`^(\s*(?:\d{1,2}[.)] )?[^:,;(\t\d]{3,40}?)(?:: +| [-–—] | {2,})(\S.*)$`)
	myOwn    = pattern.Of(`(?i)^\s*(?:[-–—*•] )?(?:(?:my|the|our) (\p{L}+)s (?:are|is)|i can (\p{L}+)):`)
	anAmount = pattern.Of(`^(?i)(?:(?:one|two|three|x ?\d{1,3}|\d{1,3}) ?(?:boards?|times|reps|each|a side|per side|x|s|secs?|seconds?|mins?|minutes?|rounds?)\b|x ?\d{1,3}\b|\d{1,3}\b|(?:one|two|three)$)`)
	someOf   = pattern.Of(`(?i)^(?:all|any|each|every|both|as|see|same)\b`)
)

// setLabel is a label of one set: Set: Striking Set A.
var setLabel = pattern.Of(`(?i)^(\W*set) ?: `)

// whoFeeds is who leads what is done on pads.
var whoFeeds = pattern.Of(`(?i)^\s*(?:(?:pad )?holder|coach|instructor|partner|trainer) (?:feeds?|calls?|leads?|holds|decides|chooses)\b[^,;:]*$|^\s*in (?:pairs|twos|threes)$`)

// behindHeading takes a heading and what stands behind it on its line apart, "Kicks: Front kick x10, Side
// kick x10"; other lines stay.
func (b *Reader) behindHeading(line string) []string {
	if out := b.behindBracket(line); out != nil {
		return out
	}
	if dashHead.MatchString(strings.TrimSpace(line)) || gradeOf.MatchString(strings.TrimSpace(line)) { // SELF DEFENCE - GRADE 2
		return []string{line}
	}
	m := headAnd.FindStringSubmatch(setLabel.ReplaceAllString(myOwn.ReplaceAllStringFunc(line, func(s string) string { return myOwn.ReplaceAllString(s, "$1${2}s:") }), "${1}s: "))
	if m == nil || b.namedAlone(m[1]) && !(oneWord.MatchString(m[1]) && waysOnly(m[2])) || strings.Contains(line, "\t") {
		return []string{line}
	}
	name := strings.TrimSpace(m[1][listed(m[1]):])
	if alone := b.onlyHeads(m[1], name, m[2]); alone != "" {
		return []string{alone}
	}
	if words := strings.Fields(m[2]); len(words) > 1 && slices.Contains(single, check.Key(name)) && !slices.ContainsFunc(words, func(w string) bool { return !whichWay.MatchString(w) }) { // block - high low inside
		m[2] = strings.Join(words, ", ")
	}
	if each := eachOfList.FindStringSubmatch(m[2]); each != nil { // Kicks: 10 each of front, round, side
		m[2] = each[2] + ", " + each[1] + " each"
	}
	first, _ := cutAny(m[2], "(,;")
	h, is := b.inlineHead(m, name, first)
	kind := cmp.Or(h.kind, b.kindIn(h.section))
	if is && oneWord.MatchString(name) && waysOnly(m[2]) && b.KindInName(name) == kind && !strings.HasSuffix(strings.ToLower(name), "s") { // Elbow: forward, side
		name += "s"
	}
	if r, _ := utf8.DecodeRuneInString(name); is && h.mixed && bulleted.MatchString(line) && unicode.IsLower(r) && !strings.Contains(line, ":") { // - clinch - head kick
		return []string{line}
	}
	if is && slices.Contains(curriculum.Basic, kind) && strings.Count(m[2], " - ") > 0 && !strings.ContainsAny(m[2], ",;:(") && !strings.ContainsFunc(m[2], unicode.IsDigit) && strings.HasSuffix(strings.ToLower(name), "s") { // Strikes: front punch - reverse punch
		m[2] = strings.ReplaceAll(m[2], " - ", ", ")
	}
	said := strings.TrimSuffix(m[2], ".")
	_, err := curriculum.ParseQuantity(said)
	switch {
	case is && err == nil && !curriculum.Bare(said) && kind != "sparring" && (kind == "combination" || slices.Contains(amounted, kind)): // Kicking: fifteen times each leg
		return []string{m[1] + " (" + said + ")"}
	case is && someOf.MatchString(said) && slices.Contains([]Kind{"form", "combination", "self_defence"}, kind): // Forms: all up to green belt
		return []string{m[1], said}
	case !is || someOf.MatchString(m[2]) || err == nil && kind != "sparring":
		return []string{line}
	case kind == "sparring" && curriculum.SectionKey(name) != "sparring" && anAmount.MatchString(m[2]): // Free sparring: 2 rounds
		return []string{m[1], strings.TrimRight(m[1], " ") + ", " + m[2]}
	case is && h.mixed && ofEachSaid.MatchString(said): // Fundamentals: 10 of each, both sides, in front stance
		return []string{m[1] + " (" + ofEachSaid.ReplaceAllString(said, "$1 each") + ")"}
	case is && h.mixed && curriculum.IsAmount(strings.TrimSpace(first)) && !curriculum.Bare(first): // Warm-up: 15 minutes (skipping)
		return []string{line}
	case kind == "sparring" && mannerFirst.MatchString(said): // Sparring: continuous, 5 rounds
		parts := mannerFirst.FindStringSubmatch(said)
		return []string{m[1], "Sparring (" + parts[1] + ")" + parts[2]}
	case kind == "board_break" && boardsFirst.MatchString(said): // Breaking: one board, side kick
		return []string{m[1], boardsFirst.ReplaceAllString(said, "$2, $1")}
	case kind == "knowledge":
		if out := knowledgeBehind(m[1], name, said, m[2]); out != nil {
			return out
		}
	}
	return append([]string{m[1]}, b.inlineList(name, said, kind)...)
}

// onlyHeads is a line that is a heading alone, what stands behind it says who leads it or of which stripe it is; "" where it is none.
func (b *Reader) onlyHeads(heading, name, said string) string {
	if settingHeads[curriculum.SectionKey(name)] != "" && whoFeeds.MatchString(said) { // Pads - holder feeds
		return heading + " (" + strings.TrimSpace(said) + ")"
	}
	if h, is := b.headingOf(name); is && !h.unknown && stripeAlone.MatchString(strings.Trim(said, "() .:")) { // Kicks - white stripe
		return heading
	}
	return ""
}

// meansWhat is a term and what it means.
var meansWhat = pattern.Of(`^\s*\pL[^=]* ?= ?\pL[^=]*$`)

// knowledgeBehind are the lines for what is written or told behind a heading, as said; nil where it is a list as others are.
func knowledgeBehind(heading, name, said, typed string) []string {
	one := strings.TrimRight(heading, " ")
	switch {
	case standardFirst.MatchString(said): // Written test: 80% or better
		return []string{heading, one + ", once (" + said + ")"}
	case writtenWork.MatchString(name) && !strings.Contains(said, ";") && len(sentencesOf(said)) == 1: // Essay: one page on patience
		return []string{heading, one + ", once (" + strings.NewReplacer(" (", ", ", "(", "", ")", "").Replace(said) + ")"}
	case strings.Contains(typed, ";"):
		return append([]string{heading}, strings.Split(typed, ";")...)
	}
	if terms := outsideBrackets(said, ","); len(terms) > 1 && !slices.ContainsFunc(terms, func(term string) bool { return !meansWhat.MatchString(term) }) { // Terms: uke = block, geri = kick
		return append([]string{heading}, terms...)
	}
	return nil
}

// letteredHead is a heading and behind it a list with letters, and letterSign one of those: Kihon (from guard): a) front kick; b) side kick.
var (
	letteredHead = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?)(\pL[\pL -]{2,30}?)( ?\([^()]*\))?: *a[.)] *(\pL.*)$`)
	letterSign   = pattern.Of(`[;,.]?\s+([b-h])[.)] *(\pL)`)
)

// lettered are the heading and the lines of such a list; nil where a line is none.
func (b *Reader) lettered(line string) []string {
	m := letteredHead.FindStringSubmatch(line)
	if m == nil {
		return nil
	}
	if _, is := b.headingOf(strings.TrimSpace(m[2])); !is {
		return nil
	}
	out, from := []string{m[1] + m[2] + m[3]}, 0
	for i, at := range letterSign.FindAllStringSubmatchIndex(m[4], -1) {
		if m[4][at[2]] != byte('b'+i) {
			return nil
		}
		out, from = append(out, m[4][from:at[0]]), at[4]
	}
	if from == 0 {
		return nil
	}
	return append(out, m[4][from:])
}

// behindBracket does so where a bracket stands behind the heading: Kicks (pads or air): flying side kick, axe kick. nil where none does.
func (b *Reader) behindBracket(line string) []string {
	if out := b.lettered(line); out != nil {
		return out
	}
	m := bracketHead.FindStringSubmatch(line)
	if m == nil {
		return nil
	}
	h, is := b.headingOf(strings.TrimSpace(m[2]))
	if anyAmount.MatchString(m[3]) && !slices.Contains(amounted, cmp.Or(h.kind, b.kindIn(h.section))) {
		return nil
	}
	if !is || h.mixed && h.first == "" {
		return nil
	}
	out := b.behindHeading(m[1] + m[2] + ": " + m[4])
	if kind := cmp.Or(h.kind, b.kindIn(h.section)); len(out) == 2 && kind == "knowledge" { // Essay (1 page): What my belt means
		if short, whole := strings.CutSuffix(out[1], ")"); whole {
			out[1] = short + ", " + m[3] + ")"
		} else {
			out[1] += " (" + m[3] + ")"
		}
	} else if len(out) > 1 {
		out[0] += " (" + m[3] + ")"
	}
	return out
}

// movesInRow reports whether a list names moves alone, two or more, with an amount behind the last at most.
func (b *Reader) movesInRow(said string) bool {
	moves := 0
	for _, part := range outsideBrackets(said, ",") {
		words := strings.Fields(part)
		from, to := amountAt(words)
		if from == to {
			from = len(words)
		}
		name := strings.Join(words[:from], " ")
		if is := b.KindInName(name); strings.ContainsAny(part, ";:/+") || name != "" && (!slices.Contains(inRows, is) && is != "evasion" || strings.Contains(part, " - ")) {
			return false
		}
		if name != "" {
			moves++
		}
	}
	return moves > 1
}

// inlineList are the lines that a list behind a heading stands for.
func (b *Reader) inlineList(name, said string, kind Kind) []string {
	if headNouns[kind] != "" && !strings.Contains(said, ",") { // front; side; round
		said = strings.ReplaceAll(said, ";", ",")
	}
	if each := b.eachWithAmount(name, said, kind); each != nil {
		return each
	}
	if parts := numberedInLine(said); len(parts) > 1 { // wrist, same side 2. wrist, cross 3. lapel
		return parts
	}
	if parts := sentencesOf(said); len(parts) > 1 && !slices.ContainsFunc(parts, func(part string) bool { return len(strings.Fields(part)) > mostListed+2 }) {
		return parts
	}
	if kind == "combination" && b.movesInRow(said) { // Combinations: jab, cross, x 10
		return []string{said}
	}
	if at := strings.LastIndex(said, ";"); at > 0 && saysOfOthers.MatchString(strings.TrimSpace(said[at+1:])) && strings.Count(said, ";") == 1 && strings.Contains(said[:at], ",") { // straight arm, bent arm; standing
		out := b.underHead(name, said[:at], kind)
		for i := range out {
			out[i] += " (" + strings.TrimSpace(said[at+1:]) + ")"
		}
		return out
	}
	if at := strings.LastIndex(said, ";"); at > 0 && strings.Count(said, ";") == 1 && strings.Contains(said[:at], ",") && b.tailOfAll(said[at+1:]) { // front kick, side kick; 10 per leg
		said = said[:at] + "," + said[at+1:]
	}
	if parts := outsideBrackets(said, ";"); len(parts) > 1 && kind != "self_defence" && kind != "combination" {
		var out []string
		for _, part := range parts { // front, side, round x20; back, hook x10
			if short, all := shortOfAll(kind, outsideBrackets(part, ","), ""); all != "" {
				for _, one := range short {
					out = append(out, capitalised(withHead(name, strings.TrimSpace(one), kind))+all)
				}
				continue
			}
			out = append(out, part)
		}
		return out
	}
	return b.underHead(name, said, kind)
}

// eachWithAmount are the lines for a list of which each says how much, or some do and the others nothing: hip x 10, shoulder x 10 each side; nil where
// a piece is anything else.
func (b *Reader) eachWithAmount(head, said string, kind Kind) (out []string) {
	some, last, signs := 0, false, ","
	if strings.Contains(said, ";") {
		signs = ";"
	}
	parts := outsideBrackets(said, signs)
	counted := !slices.ContainsFunc(parts, func(part string) bool { return !timesInBrackets.MatchString(part) }) // front (10), side (10)
	for _, part := range parts {
		if counted {
			part = timesInBrackets.ReplaceAllString(part, " x$1")
		}
		words := strings.Fields(strings.ReplaceAll(part, ",", " "))
		i, j := amountAt(words)
		last = i < j
		if i == j { // no amount
			i, j = len(words), len(words)
		} else if some++; i == 0 || j != len(words) || !curriculum.IsAmount(strings.Join(words[i:], " ")) || curriculum.Bare(words[i]) && i+1 == len(words) {
			return nil
		}
		name := timesSign.ReplaceAllString(strings.Join(words[:i], " "), "")
		var is bool
		if name, is = b.ofItsKind(head, name, kind); !is {
			return nil
		}
		if i < j {
			name += ", " + strings.Join(words[i:], " ")
		}
		out = append(out, capitalised(name))
	}
	if some == 0 || len(out) < 2 || some == 1 && last { // which is of all of them
		return nil
	}
	return out
}

// ofItsKind is a name under a heading, with the word that it leaves out, where it is of the kind of that heading and nothing else.
func (b *Reader) ofItsKind(head, name string, kind Kind) (whole string, is bool) {
	told := b.KindInName(name)
	if short := shortName.MatchString(name) || kind == "throw" && !strings.Contains(name, " "); told == "" && short && headNouns[kind] != "" || kind == "kick" && aKickAlone.MatchString(name) {
		name, told = withHead(head, name, kind), kind
	}
	return name, told == kind && lettersOnly.MatchString(name) && !andWord.MatchString(name) && len(strings.Fields(name)) <= mostListed
}

// eachUnder are the lines for such a list on a line of its own, or for one with how much of each behind the last: low, high, 10 each; nil where a
// piece is anything else.
func (b *Reader) eachUnder(head, said string, kind Kind) []string {
	if twiceRunning(said) { // teep, teep, switch kick
		return nil
	}
	if each := b.eachWithAmount(head, said, kind); each != nil {
		return each
	}
	parts := outsideBrackets(strings.ReplaceAll(said, ";", ","), ",")
	if one := func(part string) bool { return !aHeightAlone.MatchString(strings.TrimSpace(part)) }; kind == "block" && len(parts) > 1 && !slices.ContainsFunc(parts, one) { // low, high
		out := make([]string, len(parts))
		for i, part := range parts {
			out[i] = capitalised(withHead(head, strings.TrimSpace(part), kind))
		}
		return out
	}
	last := strings.TrimSpace(parts[len(parts)-1])
	names, all := b.amountOfAll(parts)
	if all == "" || len(names) < 2 || !saidOfEach.MatchString(last) && !curriculum.IsAmount(last) {
		return nil
	}
	out, itself, boxed := slices.Clone(names), b.KindInName(names[0]) == kind, true
	for i, name := range names {
		name = strings.TrimSpace(name)
		whole, is := b.ofItsKind(head, name, kind)
		if boxed = boxed && blowOnly.MatchString(name); !is || itself != (b.KindInName(name) == kind) { // Side kick, chambered high, 10 per leg
			return nil
		}
		out[i] = capitalised(whole) + all
	}
	if boxed { // Lead uppercut, rear hook, 10 each side, which may be done one after the other
		return nil
	}
	return out
}

var (
	// timesInBrackets is how often, in brackets behind a name.
	timesInBrackets = pattern.Of(` *\((\d{1,3})\)\s*$`)
	// timesSign is what stands between a name and how often.
	timesSign = pattern.Of(`(?: [x×])?[ :–—-]*$`)
	// aKickAlone is a kick by the word alone that says which.
	aKickAlone = pattern.Of(`(?i)^` + bareKick + `$`)
)

// lettersOnly is a name without a figure or a sign.
var lettersOnly = pattern.Of(`^\pL[\pL’' -]*$`)

// bracketHead is a heading with a bracket and a list behind it.
var bracketHead = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?)(\pL[\pL -]{2,30}?) ?\(([^()]*)\): +(\S.*)$`)

var (
	// manyOfKind is a heading with words before the one that says the kind: Pad kicks.
	manyOfKind = pattern.Of(`(?i)^(?:pad|bag|basic|stationary|standing|moving|static|line|jumping|stretch|floor|air|hand|close) (kicks|kicking|punches|punching|strikes|striking|blocks|blocking|stances|throws|falls)$`)
	// sentenceEnd ends one sentence and begins the next.
	sentenceEnd = pattern.Of(`(\pL+|\d+|\))\. +(\p{Lu})`)
	// writtenShort ends no sentence.
	writtenShort = pattern.Of(`(?i)^(?:incl|approx|max|min|e\.g|i\.e|etc|vs|no|nr|st|mr|ms|mrs|dr)$`)
)

// sentencesOf are the sentences of a text.
func sentencesOf(text string) (out []string) {
	from := 0
	for _, m := range sentenceEnd.FindAllStringSubmatchIndex(text, -1) {
		if !writtenShort.MatchString(text[m[2]:m[3]]) {
			out = append(out, text[from:m[3]])
			from = m[4]
		}
	}
	return append(out, text[from:])
}

// whichWay is a word for which of its kind something is.
var whichWay = pattern.Of(`(?i)^(?:high|low|middle|mid|inside|outside|inward|outward|upward|downward|up|down|forward|forwards|backward|backwards|sideways|across` +
	`|horizontal|vertical|diagonal|front|back|side|round|rear)$`)

// inlineHead is the heading that a name on a line with more behind it is; m are the parts of that line, of which the name becomes the
// heading's. first is what stands behind it up to a comma or a bracket.
func (b *Reader) inlineHead(m []string, name, first string) (h headed, is bool) {
	if h, is = b.headingOf(name); is && h.mixed && check.Key(name) == "hands" && b.KindInName(first) == "strike" { // Hands: punch, palm, claw
		h, is = b.sectionOf("strike")
		m[1] = strings.Replace(m[1], name, h.section, 1)
	}
	if !is {
		h, is = b.headingOf(headWords.ReplaceAllString(name, "")) // Hand work
	}
	if !is {
		if h, is = b.placedHead(name); is && h.setting != "" { // Kicks on pads: front, round
			m[1] += " (" + curriculum.SettingWords[h.setting] + ")"
		}
	}
	if !is && manyOfKind.MatchString(name) && !strings.Contains(m[0], " - ") { // Pad kicks
		h, is = b.headingOf(manyOfKind.FindStringSubmatch(name)[1])
		m[1] = strings.Replace(m[1], name, manyOfKind.FindStringSubmatch(name)[1], 1)
	}
	if key := check.Key(name); !is && slices.Contains(single, key) && slices.Contains([]Kind{"strike", "kick", "block", "stance", "throw", "lock"}, curriculum.UsualKind(key)) && (len(outsideBrackets(m[2], ",;")) > 1 || b.KindInName(m[2]) == curriculum.UsualKind(key)) { // Kick: turning, hooking
		h, is = b.sectionOf(curriculum.UsualKind(key))
		m[1] = strings.Replace(m[1], name, name+"s", 1)
	}
	if key := check.Key(name); !is && key == "break" && !strings.Contains(m[2], ";") && slices.Contains([]Kind{"kick", "strike"}, b.KindInName(first)) { // Break – side kick
		h, is = b.sectionOf("board_break")
		m[1] = strings.Replace(m[1], name, name+"s", 1)
	}
	if one := b.KindInName(name); !is && (wordForMany.MatchString(name) || oneWord.MatchString(name) && waysOnly(m[2])) && slices.Contains(curriculum.Basic, one) && !amountLeads(m[2]) { // Elbows: inward, outward
		h, is = b.sectionOf(one)
		m[1] = strings.Replace(m[1], name, h.section, 1)
	}
	return h, is
}

// waysOnly reports whether a list says only which way each of its pieces goes: forward, side, back – 5 of each.
func waysOnly(list string) bool {
	parts := outsideBrackets(list, ",;")
	for last := len(parts) - 1; last > 0 && (curriculum.IsAmount(check.Tidy(parts[last])) || eachOn.MatchString(strings.TrimSpace(parts[last]))); last-- { // horizontal, up, down, 10 of each on pads
		parts = parts[:last]
	}
	last := len(parts) - 1
	parts[last] = dashed.Split(parts[last], 2)[0]
	ways := 0
	for _, part := range parts {
		if part = strings.TrimSpace(part); !whichWay.MatchString(part) {
			return false
		}
		if !aHeightAlone.MatchString(part) {
			ways++
		}
	}
	return last > 1 && ways > 1 || last == 0 && slantOnly.MatchString(parts[0])
}

// slantOnly is a way that is said of blows alone.
var slantOnly = pattern.Of(`(?i)^(?:horizontal|vertical|diagonal)$`)

// amountLeads reports whether a text begins with an amount: 20 each leg on the belly pad.
func amountLeads(text string) bool {
	first, _ := cutAny(text, "(,;")
	i, j := amountAt(strings.Fields(first))
	return i == 0 && j > 0 || curriculum.IsAmount(strings.TrimSpace(first))
}

// writtenWork is one thing that is written, which is no heading.
var writtenWork = pattern.Of(`(?i)^(?:[\pL-]+ )?(?:essay|report|poem|letter|thesis)$`)

// standardFirst is how well a paper has to be written.
var standardFirst = pattern.Of(`(?i)^(?:at least |minimum |pass(?: mark)?:? (?:is )?)?\d{1,3} ?(?:%|/ ?\d|(?:out )?of \d|per ?cent)`)

// ofEachSaid is how often each of what stands below is shown.
var ofEachSaid = pattern.Of(`(?i)^(?:all )?(\d{1,3})(?: times| reps)? (?:of )?each\b`)

// eachOfList is an amount before what it is of: 10 each of front, round, side.
var eachOfList = pattern.Of(`(?i)^(\d{1,3})(?: times| reps|x)? (?:each )?of(?: each)?:? (\pL[^:;]*,[^:;]*)$`)

// saysOfOthers is how all of a list before it are done.
var saysOfOthers = pattern.Of(`(?i)^(?:(?:all )?(?:standing|kneeling|moving|stationary|sitting|lying|walking|slowly|slow|fast|on the spot|in line|from (?:standing|kneeling|guard|the knees|the ground)|(?:on )?both sides|left and right|l ?[&/+] ?r|r ?[&/+] ?l))$`)

// numberSign is the number of one of several in a line.
var numberSign = pattern.Of(`(?:^|[;,.]?\s+)(\d{1,2})[.)] *(\pL)`)

// numberedInLine are the parts of a text that numbers part: 1. wrist 2. lapel. nil where they are not in order from one.
func numberedInLine(text string) (out []string) {
	from := -1
	for i, m := range numberSign.FindAllStringSubmatchIndex(text, -1) {
		if curriculum.Figure(text[m[2]:m[3]]) != i+1 || i == 0 && m[0] > 0 {
			return nil
		}
		if from >= 0 {
			out = append(out, strings.TrimSpace(text[from:m[0]]))
		}
		from = m[4]
	}
	if from < 0 {
		return nil
	}
	return append(out, strings.TrimSpace(text[from:]))
}

// mannerFirst is how sparring is done, which names nothing.
var mannerFirst = pattern.Of(`(?i)^((?:continuous|light|technical|slow|controlled|touch|semi|full|no|soft)(?:[ -]contact)?)(,.*|)$`)

// boardsFirst are boards before what they are broken with.
var boardsFirst = pattern.Of(`(?i)^((?:one|two|three|\d|an?) boards?)(?:,|:| with| -| –) *(?:an? |the )?(\pL.*)$`)

// labelAmount puts the amount in a heading with a list behind it in brackets: Kicks on the spot x 10: front kick, side kick.
func (b *Reader) labelAmount(line string) string {
	label, said, found := strings.Cut(line, ": ")
	label = commaAmount.ReplaceAllString(label, "$1 $2") // hand strikes, 6 each
	words := strings.Fields(label[min(listed(label), len(label)):])
	i, j := amountAt(words)
	if m := eachTail.FindStringIndex(strings.Join(words, " ")); m != nil && i == j && len(words) > 2 {
		i, j = len(words)-2, len(words)
	}
	if !found || i == 0 || i == j || strings.ContainsAny(label, ",;(\t") {
		return line
	}
	head := strings.TrimSpace(headWords.ReplaceAllString(" "+strings.Join(words[:i], " "), ""))
	if _, is := b.headingOf(head); !is || j < len(words) {
		return line
	}
	amount := strings.Join(words[i:j], " ")
	var out []string
	for _, part := range outsideBrackets(said, ",;") {
		out = append(out, strings.TrimSpace(part)+" "+amount)
	}
	return label[:listed(label)] + head + ": " + strings.Join(out, "; ")
}

var (
	// commaAmount is an amount behind a comma in a label.
	commaAmount = pattern.Of(`^([^,;(\t]*\pL), (\d[^,;(\t]*)$`)
	// eachTail is an amount of each, at the end of a label.
	eachTail = pattern.Of(`(?i) \d{1,3} each$`)
)

// bracketList is a heading and in brackets what it lists.
var bracketList = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?)(\pL[\pL ]{2,30}?) ?\(([^()\d]+)\)[.:]?\s*$`)

// headBrackets is such a list behind a colon: Throws (hip, shoulder, leg reap). Other lines stay.
func (b *Reader) headBrackets(line string) string {
	m := bracketList.FindStringSubmatch(line)
	if m == nil {
		return line
	}
	parts := outsideBrackets(m[3], ",;")
	h, is := b.headingOf(strings.TrimSpace(m[2]))
	if !is || h.mixed || len(parts) < leastNumbers || slices.ContainsFunc(parts, func(part string) bool {
		return saysOnlyHow(strings.TrimSpace(part)) || len(strings.Fields(part)) > mostListed
	}) {
		return line
	}
	return m[1] + m[2] + ": " + m[3]
}

var sentenceHead = pattern.Of(`^(\s*\pL[\pL -]{2,50})\. +(\S.*)$`)

// shortWithAmount is a label of one kind, a word or two that leave its word out, and how much: Kick: front x 20.
var shortWithAmount = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] )?(?:kick|punch|block|strike|stance|throw|lock)s?: +[\pL-]+(?: [\pL-]{2,})?) +([x×] ?\d|\d)`)

// firstSentence makes a heading that ends as a sentence one with a colon: Kicking. Fifteen times each leg.
func (b *Reader) firstSentence(line string) string {
	if m := sentenceHead.FindStringSubmatch(line); m != nil && b.Named(strings.TrimSpace(m[1])) == nil {
		if _, is := b.headingOf(strings.TrimSpace(m[1])); is {
			return m[1] + ": " + m[2]
		}
	}
	return line
}

// attackSentence is a defence told in sentences, the attack first, with what is done about it behind a colon: Bear hug from the front. Drop
// your weight, groin slap.
func (b *Reader) attackSentence(line string) string {
	m := sentenceHead.FindStringSubmatch(line)
	if m == nil || b.Named(strings.TrimSpace(m[1])) != nil || strings.ContainsAny(m[2], ":?") {
		return line
	}
	attack, _ := b.attackIn(m[1])
	if behind, _ := b.attackIn(m[2]); len(attack) != 1 || len(behind) > 0 {
		return line
	}
	return m[1] + ": " + m[2]
}

// outsideBrackets are the pieces of a text between signs that stand in no brackets; a text of signs alone is one.
func outsideBrackets(text, signs string) []string {
	depth := 0
	pieces := strings.FieldsFunc(text, func(r rune) bool {
		switch r {
		case '(':
			depth++
		case ')':
			depth--
		}
		return depth == 0 && strings.ContainsRune(signs, r)
	})
	if len(pieces) == 0 {
		return []string{text}
	}
	return pieces
}
