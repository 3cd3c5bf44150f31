package binder

import (
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// A line may name several: a list, of which each is asked, or a row, which is one combination.

// oneByOne are kinds of which several named in a line are shown one by one; strikes in a row may be a combination.
var oneByOne = []Kind{"kick", "block", "stance", "breakfall", "footwork", "throw"}

var (
	exercises = pattern.Of(`^\d{1,4} \pL[^/,;:()\d]*(?: ?/ ?\d{1,4} \pL[^/,;:()\d]*)+$`)
	andWord   = pattern.Of(`\s+(?:and|&)\s+`)
	rowSigns  = pattern.Of(`\s+[-–—]\s+|\s*(?:→|➔|➝|=>|->|›|>)\s*|,?\s+then\s+`)
	plusSign  = pattern.Of(`\s*\+\s*`)
	slashes   = pattern.Of(`\s*/\s*`)
	andLast   = pattern.Of(`,?\s+(?:and|&)\s+`)
	hyphened  = pattern.Of(`^\pL+(?: \pL+)?(?:-\pL+(?: \pL+)?){2,}$`)
)

// cutAny cuts a text at the first of some signs.
func cutAny(text, signs string) (before, after string) {
	if at := strings.IndexAny(text, signs); at >= 0 {
		return text[:at], text[at:]
	}
	return text, ""
}

// saysOnlyHow reports whether words begin as a remark does; a single one may be a name: knee.
func saysOnlyHow(name string) bool {
	name = strings.TrimSpace(turnOf.ReplaceAllString(name, ""))
	if inBlock.MatchString(name) {
		return false
	}
	if partNamed.MatchString(name) || headLast.MatchString(name) && !joinsFirst.MatchString(name) {
		return false
	}
	return saysHow.MatchString(levelFirst.ReplaceAllString(name, "")) && !ofParts.MatchString(name)
}

// inBlock is a block by which way it goes, as children are told: in block, out block.
var inBlock = pattern.Of(`(?i)^(?:in|out|up|down) blocks?$`)

// ofParts begins a name with how many fingers or knuckles strike: two finger poke.
var ofParts = pattern.Of(`(?i)^(?:one|two|three|four|half)[ -](?:finger|knuckle) \pL`)

var (
	headLast   = pattern.Of(`(?i)^(?:[\pL-]+ ){1,3}(?:kick|punch|strike|block|elbow|fist|jab|cross|hook|uppercut|throw|lock|stance)s?$`)
	joinsFirst = pattern.Of(`(?i)^(?:on|onto|in|into|with|without|from|to|at|as|by|for|under|over|after|before|against|vs|no|not|any|same|each|both|all|until|while|when|then|and|or|like|of|off|if|through|via|using|keep|hold)(?:[^\pL-]|$)`)
)

// partNamed are names that are the part of the body alone.
var partNamed = pattern.Of(`(?i)^(?:knee|hip|heel|shoulder|elbow|hand|toe)s?$`)

// levelFirst is a height or a side before a name, which a remark may begin with too.
var levelFirst = pattern.Of(`(?i)^(?:low|mid|high|left|right|lead|rear) `)

// enumerated takes a line that names several, "Front kick, round kick and side kick, 10 on each leg", apart: a line for each, with what
// is said of all. Where that may be a combination it is asked; any other line stays.
func (b *Reader) enumerated(line string) (lines []string, ask string) {
	mark := line[:listed(line)]
	if strings.Contains(line, "\t") || b.Named(strings.TrimSpace(line[len(mark):])) != nil {
		return []string{line}, ""
	}
	pieces, ofEach := outsideBrackets(line[len(mark):], ","), strings.Contains(line, "of each")
	if names, all := b.ofAll(pieces); all != "" && !slices.ContainsFunc(names, func(name string) bool { return !b.namesOne(strings.TrimSpace(name)) }) && len(b.kindsOf(names)) == 1 && (slices.Contains(oneByOne, b.KindInName(names[0])) || eachArm.MatchString(all) || ofEach) { // hammerfist, back fist, palm strike – 5 each hand
		line = mark + strings.Join(names, ",") + all
		pieces = outsideBrackets(line[len(mark):], ",")
	}
	pieces = sidesApart(pieces)
	each := b.amountEach(line[len(mark):])
	if each == nil {
		each = b.labelled(line[len(mark):])
	}
	if each == nil {
		each = b.counted(pieces)
	}
	if each != nil {
		for _, one := range each {
			lines = append(lines, mark+one)
		}
		return lines, ""
	}
	names, last, joined := b.namesIn(pieces)
	kinds := b.kindsOf(names)
	alone := !slices.ContainsFunc(kinds, func(k Kind) bool { return !slices.Contains(oneByOne, k) })
	switch {
	case len(names) < 2 || len(kinds) > 1 && (len(names) < 3 || !joined): // Low block, horse stance
		return []string{line}, ""
	}
	tail := strings.Join(pieces[last+1:], ",")
	switch apart := alone || ofEach || sameHead(names) || eachArm.MatchString(tail); {
	case !apart && (len(names) < 3 || !joined):
		return []string{line}, ""
	case !apart || slices.ContainsFunc(names, oneGo.MatchString):
		return []string{line}, severalNamed(names)
	case slices.ContainsFunc(pieces[last+1:], func(piece string) bool { return !b.saysOfAll(piece) }): // what is it?
		return []string{line}, ""
	}
	for _, name := range names {
		one := mark + capitalised(name)
		if strings.TrimSpace(tail) != "" {
			one += "," + tail
		}
		lines = append(lines, one)
	}
	return lines, ""
}

var (
	// eachArm is an amount of each arm, which no combination has.
	eachArm = pattern.Of(`(?i)\b(?:each|per|ea|a|/) ?(?:arms?|hands?|fists?)\b`)
	// oneGo says that several are done in one go.
	oneGo = pattern.Of(`(?i)\b(?:same (?:leg|hand|side)|in a row|in one go|together|then|without)\b`)
)

// sidesApart takes the sides in a bracket behind the last piece of a list for a piece: long stance, back stance (L and R).
func sidesApart(pieces []string) []string {
	last := strings.TrimSpace(pieces[len(pieces)-1])
	at := strings.LastIndex(last, " (")
	if at <= 0 || !strings.HasSuffix(last, ")") {
		return pieces
	}
	if sides := last[at+2 : len(last)-1]; !eitherSide.MatchString(" "+sides) && !bothOnly.MatchString(sides) {
		return pieces
	}
	return append(slices.Clone(pieces[:len(pieces)-1]), last[:at], last[at+2:len(last)-1])
}

// saysOfAll reports whether a piece behind several names says something of all of them.
func (b *Reader) saysOfAll(piece string) bool {
	piece = strings.TrimSpace(piece)
	_, err := curriculum.ParseQuantity(piece)
	if head, bracket := cutAny(piece, "("); bracket != "" && head != "" { // no hands cartwheel (bonus)
		return b.saysOfAll(head) && b.amountIn(head) != ""
	}
	return err == nil || eitherSide.MatchString(" "+piece) || b.reads(piece) || curriculum.KindNamed(piece) != "" || saysOnlyHow(piece) || howDone.MatchString(piece) || limbAlone.MatchString(piece) || heightSaid.MatchString(piece) || b.amountIn(piece) != ""
}

// namesIn are the names with which the pieces of a line begin, those joined by "and" one by one; last is the last piece of them.
func (b *Reader) namesIn(pieces []string) (names []string, last int, joined bool) {
	last = -1
	for i, piece := range pieces {
		if i > 0 && b.kindOfAll(pieces, i) { // Front kick, kick
			break
		}
		all := andWord.Split(strings.TrimSpace(piece), -1)
		if b.Named(strings.TrimSpace(piece)) != nil {
			all = []string{strings.TrimSpace(piece)}
		}
		if eitherSide.MatchString(" "+strings.TrimSpace(piece)) || joinedIdiom.MatchString(piece) { // forward roll R & L
			all = []string{strings.TrimSpace(piece)}
		}
		if slices.ContainsFunc(all, func(name string) bool { return !b.namesOne(name) || saysOnlyHow(name) }) {
			break
		}
		for i := range all {
			all[i] = articleFirst.ReplaceAllString(all[i], "")
		}
		names, last, joined = append(names, all...), i, joined || len(all) > 1
	}
	return names, last, joined
}

// kindOfAll reports whether a piece is the kind of what stands before it, and not one of several names: Front kick, kick.
func (b *Reader) kindOfAll(pieces []string, at int) bool {
	return curriculum.KindNamed(strings.TrimSpace(pieces[at])) != "" && (at+1 == len(pieces) || !b.namesOne(strings.TrimSpace(pieces[at+1])))
}

// articleFirst is an article before a name.
var articleFirst = pattern.Of(`(?i)^(?:show )?(?:(?:an?|the) )?`)

// kindsOf are the kinds of several names, each once.
func (b *Reader) kindsOf(names []string) (kinds []Kind) {
	for _, name := range names {
		k := b.KindInName(name)
		if t := b.Named(name); t != nil {
			k = t.Kind
		}
		if !slices.Contains(kinds, k) {
			kinds = append(kinds, k)
		}
	}
	return kinds
}

// eachAlone is "each" that means each of those named.
var eachAlone = pattern.Of(`(?i) each( on| at| with|,|$)`)

// labelled takes a list behind a label that names nothing apart, with the label as remark: Line work: low block, front kick. nil where it is
// no such list.
func (b *Reader) labelled(line string) []string {
	label, said, found := strings.Cut(line, ": ")
	if m := eachLabel.FindStringSubmatch(label); m != nil && b.allTell(outsideBrackets(said, ",;")) { // 20 of each: front kick, side kick
		var out []string
		for _, part := range outsideBrackets(strings.TrimSuffix(said, "."), ",;") {
			out = append(out, capitalised(strings.TrimSpace(part))+", "+m[1])
		}
		return out
	}
	if named, _, is := strings.Cut(label, " - "); is && titled(strings.Fields(named)) && strings.Contains(named, " ") { // Turning Mill - front push: step back, inward block
		return nil
	}
	if label = strings.TrimSpace(label); !found || titled(strings.Fields(label)) && strings.Contains(label, " ") || b.KindInName(label) != "" || b.Named(label) != nil || strings.Contains(label, "\t") || strings.Contains(said, ":") {
		return nil
	}
	parts := outsideBrackets(said, ";")
	if len(parts) < 2 {
		parts = outsideBrackets(said, ",")
	}
	if len(parts) == 1 && len(strings.Fields(label)) == 1 && unicode.IsDigit([]rune(said)[0]) && slices.Contains(amounted, b.KindInName(said)) && !titled(strings.Fields(said)) { // Jumping: 5 frog jumps
		return []string{said + " ((" + label + "))"}
	}
	if len(parts) < 2 || !b.allTell(parts) {
		return nil
	}
	var out []string
	parts, all := b.ofAll(parts)
	for _, part := range parts {
		out = append(out, capitalised(strings.TrimSpace(part))+all+" (("+strings.NewReplacer(" (", " – ", "(", "", ")", "", ",", " –").Replace(label)+"))")
	}
	return out
}

// ofAll are the pieces of a list and what is said of all of them, as it stands behind each: jab, cross (pads, 30 s each); inward, outward –
// 10 each; jab, cross, 10 of each, R & L. An amount is of all where no other piece has one.
func (b *Reader) ofAll(parts []string) (each []string, all string) {
	names := len(parts)
	for names > 2 && b.howOnly(parts[names-1]) {
		names--
	}
	if names < len(parts) { // jab, cross, 20 each on the shield, hard
		if each, all = b.amountOfAll(parts[:names]); all != "" {
			return each, all + "," + strings.Join(parts[names:], ",")
		}
	}
	return b.amountOfAll(parts)
}

// howOnly reports whether a piece of a list says how the others are done, and nothing else.
func (b *Reader) howOnly(piece string) bool {
	piece = strings.TrimSpace(piece)
	return !strings.ContainsFunc(piece, unicode.IsDigit) && b.KindInName(piece) == "" && !b.reads(piece) && (howDone.MatchString(piece) || saysOnlyHow(piece))
}

// amountOfAll are such pieces where nothing says how they are done.
func (b *Reader) amountOfAll(parts []string) (each []string, all string) {
	if len(parts) < 2 {
		return parts, ""
	}
	out := slices.Clone(parts)
	names, tail := len(parts), []string{}
	for ; names > 1 && b.tailOfAll(parts[names-1]) && !aHeightAlone.MatchString(strings.TrimSpace(parts[names-1])); names-- {
		tail = append([]string{strings.TrimSpace(parts[names-1])}, tail...)
	}
	last := strings.TrimSpace(parts[names-1])
	pieces, bracket := dashed.Split(last, -1), false
	if at := strings.LastIndex(last, "("); at > 0 && strings.HasSuffix(last, ")") && saidOfEach.MatchString(last[at:]) {
		inside := last[at+1 : len(last)-1]
		first, _, more := strings.Cut(inside, ",")
		if ofEachAlone.MatchString(first) || b.amountIn(strings.ReplaceAll(eachAlone.ReplaceAllString(inside, "$1"), ",", " ")) != "" {
			pieces, bracket = append([]string{last[:at]}, inside), true
			if more && ofEachAlone.MatchString(first) { // 10 of each, moving
				pieces = append(pieces[:1], strings.Split(inside, ",")...)
			}
		}
	}
	if words := strings.Fields(last); len(pieces) == 1 && len(tail) == 0 { // roll punch, vertical snap punch 10 ea
		if i, j := amountAt(words); i > 0 && j == len(words) && i < j && b.muchOf(strings.Join(words[:i], " "), strings.Join(words[i:], " "), len(parts)) {
			pieces = []string{strings.Join(words[:i], " "), strings.Join(words[i:], " ")}
		}
	}
	if m := muchOfEach.FindStringSubmatch(last); len(pieces) == 1 && len(tail) == 0 && m != nil { // front, back, horse 10 secs each
		pieces = m[1:]
	}
	if said := pieces[1:]; len(said) > 0 && (len(tail) > 0 || b.tailOfAll(pieces[len(pieces)-1]) || bracket || len(pieces) == 2 && strings.HasSuffix(last, ")")) {
		last, tail = strings.TrimSpace(pieces[0]), append(slices.Clone(said), tail...)
	}
	out = out[:names]
	out[names-1] = last
	if two := andOf.Split(last, -1); len(two) == 2 && names > 1 && b.joined(last) && len(tail) > 0 { // front kick, side kick & axe kick, 10 each
		out = append(out[:names-1], two...)
	}
	if names < 2 || !slices.ContainsFunc(tail, b.saysMuch) || slices.ContainsFunc(out, b.saysMuch) {
		return parts, ""
	}
	for _, said := range tail {
		if m := eachOn.FindStringSubmatch(strings.TrimSpace(said)); m != nil { // 10 each on the bag
			all += ", " + m[1] + ", " + m[2]
			continue
		}
		all += ", " + eachAlone.ReplaceAllString(ofEachAlone.ReplaceAllString(strings.TrimSpace(said), "$1"), "$1")
	}
	return out, all
}

// saysMuch reports whether a piece of a list says how much of it is asked.
func (b *Reader) saysMuch(text string) bool {
	text = strings.TrimSpace(text)
	if eachOn.MatchString(text) || muchOfEach.MatchString(text) || timesLast.MatchString(text) || saysOften(text) || ofEachAlone.MatchString(text) {
		return true
	}
	return b.amountIn(strings.ReplaceAll(eachAlone.ReplaceAllString(text, "$1"), ",", " ")) != ""
}

// saysOften reports whether a piece ends with how often, five times or more: backfist 10.
func saysOften(text string) bool {
	m := countBehind.FindStringSubmatch(strings.TrimSpace(text))
	return m != nil && curriculum.Figure(m[2]) >= leastCount
}

// muchOf reports whether an amount behind the last of so many names may be of all: of what tells its kind, or of three where it says each.
func (b *Reader) muchOf(name, amount string, names int) bool {
	kind := b.KindInName(name)
	return slices.Contains(amounted, kind) || names > 2 && kind == "" && saidOfEach.MatchString(amount)
}

// muchOfEach is how much of each behind the last of several.
var muchOfEach = pattern.Of(`(?i)^([^\d(]*?\pL) (?:x ?)?(\d{1,3} ?(?:secs?|seconds?|s|mins?|minutes?|reps?|times|x)? (?:each|ea\.?)(?: (?:on|in|with|from) .+)?)$`)

// andOf joins the last two of several.
var andOf = pattern.Of(` (?:&|and) `)

// ofEachAlone is an amount of each of several.
var ofEachAlone = pattern.Of(`(?i)^(?:x ?)?(\d{1,3}(?: ?x| times| reps)?) (?:of )?each(?: combination| combo| kick| punch| technique| one)?$`)

// tailOfAll reports whether a piece behind the names of a list is an amount, or says on which sides or on what.
func (b *Reader) tailOfAll(piece string) bool {
	piece = strings.TrimSpace(piece)
	i, j := amountAt(strings.Fields(piece)) // 3 times across the floor
	return curriculum.IsAmount(piece) && !curriculum.Bare(piece) || eachOn.MatchString(piece) || i == 0 && j > 0 && !strings.Contains(piece, "(") && b.KindInName(piece) == "" || ofEachAlone.MatchString(piece) || curriculum.IsAmount("2 "+piece) && !strings.ContainsFunc(piece, unicode.IsDigit) || b.reads(piece)
}

// eachOn is an amount of each of several, and on what or in what it is done: 10 each on the bag.
var eachOn = pattern.Of(`(?i)^(\d{1,3}) ?(?:x |reps )?(?:each|ea|of each) ((?:on|in|with|from|up|down|along|across) .+)$`)

// saidOfEach speaks of each of several.
var saidOfEach = pattern.Of(`(?i)\b(?:each|ea|per|/)\b|/ ?(?:leg|side|arm|hand)`)

// ofEach is an amount of each that is named before it.
var ofEach = pattern.Of(`(?i)^(.*?)[,:;]? *x? ?(\d{1,3}) ?(?:x|times|reps)? of each$`)

// sameHead reports whether several names end with one word: inward elbow, outward elbow.
func sameHead(names []string) bool {
	head := func(name string) string {
		words := strings.Fields(check.Key(name))
		return words[len(words)-1]
	}
	return len(names) >= leastNumbers && !slices.ContainsFunc(names, func(name string) bool { return head(name) != head(names[0]) || len(strings.Fields(name)) < 2 })
}

func severalNamed(names []string) string {
	return "several are named; write each on a line of its own, or all as one combination: Combination: " + strings.Join(names, ", ")
}

// turnOf are degrees in a name: 360 turning kick.
var turnOf = pattern.Of(`\b(?:90|180|270|360|540|720)\b°?`)

// namesOne reports whether words name one technique: one that is known, or up to five words that tell their kind, without a figure.
func (b *Reader) namesOne(name string) bool {
	return b.Named(name) != nil || !partnerDoes.MatchString(name) && len(strings.Fields(name)) <= 5 && !strings.ContainsFunc(turnOf.ReplaceAllString(name, ""), unicode.IsDigit) && !strings.ContainsAny(name, ":;()\t") && b.KindInName(name) != ""
}

// partnerDoes is what the one does on whom all of a list is shown: uke moving.
var partnerDoes = pattern.Of(`(?i)^(?:uke|partner|attacker|opponent) (?:moving|standing|standing still|resisting|walking|resists|moves|stands|holds on)$`)

// underHead is what stands behind a heading on its line, piece by piece: a list is taken apart, one thing and what is said of it stays whole.
// Words that do without that of their heading get it: Stances: front, back.
func (b *Reader) underHead(head, said string, kind Kind) []string {
	said = sideFalls(head, kind, waysApart(kind, said))
	parts, all := b.ofAll(sameHeld(kind, outsideBrackets(said, ",;")))
	parts, all = shortOfAll(kind, parts, all)
	if slices.Contains([]Kind{"knowledge", "character", "courtesy", "combination", "sparring", "board_break", "partner_set"}, kind) {
		if !b.allTell(parts) {
			return []string{said}
		}
		return toEach(parts, all, kind == "board_break")
	}
	var out []string
	if kind == "" || slices.Contains(amounted, kind) && kind != "fitness" {
		parts = b.amountsBehind(parts)
	}
	heights := len(parts) > 0 && aHeightAlone.MatchString(strings.TrimSpace(parts[0])) // Blocks: high, low
	noun := headNouns[kind] != "" || ownNoun(head, kind) != ""
	parts = b.lastTwo(parts, noun, kind)
	first, _ := cutAny(strings.TrimSpace(parts[0]), "(")
	short := noun && len(parts) > 1 && b.KindInName(first) == "" // Blocks: inward, outward extended
	for i, part := range parts {
		part = strings.TrimSpace(part)
		named, _ := cutAny(part, "(")
		words := strings.Fields(named)
		if name, bracket := cutAny(part, "("); noun && b.KindInName(name) != kind && (nounLeft.MatchString(strings.TrimSpace(name)) || heights && aHeightAlone.MatchString(strings.TrimSpace(name)) || short && shortName.MatchString(strings.TrimSpace(name)) || len(parts) > 2 && kind == "stance" && oneWord.MatchString(strings.TrimSpace(name))) {
			out = append(out, strings.TrimSpace(withHead(head, strings.TrimSpace(name), kind)+" "+bracket))
			continue
		}
		if m := timesLast.FindStringSubmatch(part); m != nil && noun && shortName.MatchString(m[1]) &&
			slices.Contains([]Kind{"", kind}, b.KindInName(m[1])) && !strings.HasSuffix(strings.ToLower(m[1]), headNouns[kind]) { // front x10, round x5
			out = append(out, withHead(head, m[1], kind)+", "+m[2])
			continue
		}
		if m := someShort.FindStringSubmatch(part); m != nil && !turnOf.MatchString(m[1]) && noun && shortName.MatchString(m[2]) && slices.Contains([]Kind{"", kind}, b.KindInName(m[2])) { // kick - 8 front, 8 side
			out = append(out, withHead(head, m[2], kind)+", "+m[1]+strings.TrimPrefix(m[3], ","))
			continue
		}
		switch _, err := curriculum.ParseQuantity(part); {
		case b.kindOfAll(parts, i) && len(out) > 0:
			out = toEach(out, ", "+part, false)
		case partnerDoes.MatchString(part) && len(out) > 0:
			out = toEach(out, " (("+part+"))", false)
		case b.tells(part), kind == "self_defence" && (b.isAttack(part) || eachAgainst.MatchString(part) && eachAgainst.MatchString(strings.TrimSpace(parts[0]))), kind == "form" && len(words) > 1 && titled(words) && unicode.IsUpper([]rune(part)[0]):
			out = append(out, part)
		case err == nil || b.reads(part) || saysOnlyHow(part) || howDone.MatchString(part) && len(out) > 0 && kind != "lock" && kind != "throw" || heightSaid.MatchString(part) || anAmount.MatchString(part):
			if len(out) == 0 {
				return []string{said}
			}
			out[len(out)-1] += ", " + part
		case kind == "form" && (unicode.IsUpper([]rune(part)[0]) || unicode.IsDigit([]rune(part)[0])):
			out = append(out, part)
		case kind != "form" && kind != "self_defence" && kind != "" && len(words) <= mostListed && len(parts) > 1:
			out = append(out, withHead(head, part, kind))
		default:
			return []string{said}
		}
	}
	return toEach(out, all, true)
}

// toEach puts what is said of all behind each of several names, with a capital to each if wanted.
func toEach(names []string, all string, capital bool) []string {
	for i := range names {
		if names[i] += all; capital {
			names[i] = capitalised(names[i])
		}
	}
	return names
}

var (
	// heldAndWhence is what is answered, and from where it comes.
	heldAndWhence = pattern.Of(`(?i)^(.*\pL) from (?:the |one )?(?:front|rear|back|behind|side|left|right)$`)
	// whenceAlone says only from where it comes.
	whenceAlone = pattern.Of(`(?i)^(?:and |& )?(from (?:the |one )?(?:front|rear|back|behind|side|left|right))$`)
)

// sameHeld puts what is answered before each piece that says only from where: against a choke from the front, from behind.
func sameHeld(kind Kind, parts []string) []string {
	if kind != "self_defence" {
		return parts
	}
	out, held := slices.Clone(parts), ""
	for i, part := range parts {
		part = strings.TrimSpace(part)
		if m := heldAndWhence.FindStringSubmatch(part); m != nil {
			held = m[1]
		} else if m := whenceAlone.FindStringSubmatch(part); m != nil && held != "" {
			out[i] = held + " " + m[1]
		}
	}
	return out
}

// eachAgainst begins with what something is done against.
var eachAgainst = pattern.Of(`(?i)^(?:against|from|vs\.?|versus) `)

// timesLast is one or two words and how often, behind the last of a list.
var timesLast = pattern.Of(`(?i)^(\pL[\pL -]*?) ?([x×] ?\d{1,3}|\d{1,3} ?(?:x|times))$`)

// shortOfAll takes how often out of the last of several that leave out the word of their heading, of which no other says it: front, side, round x10.
func shortOfAll(kind Kind, parts []string, all string) ([]string, string) {
	last := len(parts) - 1
	if last < 1 || all != "" || headNouns[kind] == "" {
		return parts, all
	}
	m := timesLast.FindStringSubmatch(strings.TrimSpace(parts[last]))
	if m == nil || slices.ContainsFunc(append(slices.Clone(parts[:last]), m[1]), func(part string) bool { return !shortName.MatchString(strings.TrimSpace(part)) }) {
		return parts, all
	}
	return append(slices.Clone(parts[:last]), m[1]), ", " + m[2]
}

// someShort is how many of what leaves out the word of its heading.
var someShort = pattern.Of(`^(\d{1,3}) (\pL[\pL -]*?)(, [^,]*)?$`)

// oneWord is a stance by its word alone: crane, in a list of stances.
var oneWord = pattern.Of(`^\pL{3,}$`)

// lastTwo takes the last of a list apart where it is two short names, and their heading has a noun for them: front, side, hook and axe.
func (b *Reader) lastTwo(parts []string, noun bool, kind Kind) []string {
	last := len(parts) - 1
	if last < 1 || !noun {
		return parts
	}
	two := andWord.Split(strings.TrimSpace(parts[last]), -1)
	if len(two) != 2 || !shortName.MatchString(two[0]) {
		return parts
	}
	if whole := len(strings.Fields(two[1])) == 2 && b.KindInName(two[1]) == kind && b.KindInName(two[0]) == ""; !whole && (!shortName.MatchString(two[1]) || b.KindInName(two[0]+two[1]) != "") { // front, side and round kick
		return parts
	}
	return append(slices.Clip(parts[:last]), two...)
}

// shortName are one or two words that may name a kick or a block without that word.
var shortName = pattern.Of(`(?i)^(?:(?:in|out)[- ](?:to[- ])?(?:in|out)|front|back|rear|lead|side|high|low|mid|middle|inside|outside|inner|outer|inward|outward|upward|downward|rising|double|single|cross|straight|vertical|horizontal|reverse|spinning|jumping|flying|obscure|diagonal|round|turning|push|snap|thrust|axe|hook|crescent|stomp|cat|horse|bow|ready|attention|fighting|walking|sitting|long|short|wide|narrow|natural|parallel|closed|open|neutral|twist|forearm|palm|elbow|knife|push-down|[\pL-]+(?:wards?|ed|ing))(?: [\pL-]+)?$`)

var (
	aHeightAlone = pattern.Of(`(?i)^(?:high|low|mid|middle|up|down|in|out)$`)
	// nounLeft are names of kicks, blocks and stances that leave that word out: walking, L.
	nounLeft = pattern.Of(`^(?:\pL+ing(?: \pL+)?|[A-Z])$`)
)

// mostListed is how many words a name in a list has at most that tells no kind.
const mostListed = 4

// headNouns are the words for one of a kind, which names in a list leave out.
var headNouns = map[Kind]string{"kick": "kick", "stance": "stance", "block": "block", "throw": "throw", "breakfall": "breakfall"}

// jointAlone is what is locked, by itself.
var jointAlone = pattern.Of(`(?i)^(?:(?:straight|bent|standing|kneeling|reverse) )?(?:wrist|elbow|fingers?|arm|shoulder|knee|ankle|thumb|leg)$`)

// withHead is a name of a list with the word of its heading: front, under Stances; inward, under Elbows.
func withHead(head, name string, kind Kind) string {
	if kind == "lock" && jointAlone.MatchString(name) { // Locks: wrist, straight arm
		return name + " lock"
	}
	noun, words := headNouns[kind], len(strings.Fields(name))
	if own := ownNoun(head, kind); own != "" {
		noun = own
	}
	if noun == "" || words > 2 || kind == "throw" && words > 1 {
		return name
	}
	return name + " " + noun
}

// ownNoun is the word of a heading for one of many that names a strike or a parry by itself: Elbows, Punches.
func ownNoun(head string, kind Kind) string {
	key := check.Key(strings.TrimSpace(head[listed(head):]))
	one := strings.TrimSuffix(key, "s")
	switch {
	case strings.HasSuffix(key, "ches"):
		one = strings.TrimSuffix(key, "es")
	case strings.HasSuffix(key, "ies"):
		one = strings.TrimSuffix(key, "ies") + "y"
	}
	if key == "punch" && kind == "strike" { // punch - 8 straight, 8 hook
		return key
	}
	if m, whole := (&curriculum.Book{}).MeaningOf(key); m != nil && whole && m.Kind() == kind && curriculum.KindInWords(key) == "" { // Chagi: ap, dollyo
		return key
	}
	if one == key || strings.Contains(one, " ") || one == "strike" || curriculum.KindInWords(one) != kind && curriculum.UsualKind(one) != kind || !slices.Contains([]Kind{"strike", "block", "breakfall"}, kind) {
		return ""
	}
	return one
}

// tells reports whether a piece of a list begins with a known name, or tells its kind.
func (b *Reader) tells(part string) bool {
	part, _, _ = strings.Cut(part, ",")
	words := strings.Fields(part)
	for n := len(words); n > 0; n-- {
		if b.Named(strings.Join(words[:n], " ")) != nil {
			return true
		}
	}
	return !saysOnlyHow(part) && b.KindInName(part) != ""
}

func (b *Reader) allTell(parts []string) bool {
	return !slices.ContainsFunc(parts, func(part string) bool {
		return !b.tells(strings.TrimSpace(part)) || anAmount.MatchString(strings.TrimSpace(part))
	})
}

// howDone are words that say how something is done: slowly, chambered, deep.
var howDone = pattern.Of(`(?i)^(?:hard$|fast$|loud$|sharp$|crisp$|snappy$|relaxed$|powerful$|full power$|there and back$|back and forth$|(?:lots|many|a few|some|very|quite|more|less|nice|good|strong|correct|proper|clear|loud|big|small|own|clean|sharp|relaxed|deep|straight|bent|tight|loose|long|short|wide|narrow|static|moving|still|jumping|spinning|alternate|alternating|forwards?|backwards?|upwards?|downwards?|inwards?|outwards?|sideways|solo|alone|together|twice|once|optional|minimum|max|maximum|at|air|pad|pads|bag|chamber|re-?chamber|land|lands|lift|lifts|point|points|retract|pull|bend|breathe|look|pause|recover|recoil|snap|power|speed|balance|focus|technique|form|posture|breathing|kiai|shout|repeat|continuous|continuously|freestyle|whole|complete|random|called|to command|self|perfect|basic|advanced)\b.*|\pL+(?:ly|ed|ing)(?: .*)?|.* (?:height|level|contact|speed|power|command|count|guard|up|down|straight|bent|first|only|too|required|needed|allowed|optional))$`)

// labelFrom is a label that goes on with each of a list behind it: Escape from: wrist grab; bear hug.
var labelFrom = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] )?(\pL[\pL -]* (?:from|against|vs|versus|to)))\s*:\s*(\S.*)$`)

// answerTo is a label for defences against each of a list: Defend: choke, bear hug.
var answerTo = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] )?(?:defend|defence|defense|escapes?|releases?|get out of|break free)(?: of| from| against)?\s*):\s*(\S.*)$`)

// fromEach takes such a list apart.
func fromEach(line string) []string {
	m := labelFrom.FindStringSubmatch(line)
	if a := answerTo.FindStringSubmatch(line); m == nil && a != nil {
		m = []string{"", a[1], "Defence against", a[2]}
	}
	if out := grabsOf(line); out != nil {
		return out
	}
	if w := weaponDefence.FindStringSubmatch(line); m == nil && w != nil { // Club defence: from overhead, from the side
		m = []string{"", w[1], w[2], w[3]}
	}
	if m == nil {
		return []string{line}
	}
	parts := numberedInLine(m[3]) // 1. wrist, same side 2. wrist, cross
	for i := range parts {
		parts[i] = strings.ReplaceAll(parts[i], ",", "")
	}
	if len(parts) < 2 {
		parts = outsideBrackets(m[3], ";")
	}
	if len(parts) < 2 {
		parts = outsideBrackets(m[3], ",")
	}
	if len(parts) < 2 || slices.ContainsFunc(parts, func(part string) bool {
		_, err := curriculum.ParseQuantity(part)
		return err == nil || strings.Contains(part, "#") || len(strings.Fields(part)) > mostListed+2
	}) {
		return []string{line}
	}
	var out []string
	for _, part := range parts {
		if part = strings.TrimSpace(part); weaponDefence.MatchString(line) && !strings.HasPrefix(strings.ToLower(part), "from ") && !strings.HasPrefix(strings.ToLower(part), "against ") {
			part = "against " + part
		}
		out = append(out, m[2]+" "+part)
	}
	return out
}

// grabsShort are several grabs with the word behind the last: wrist, collar and hair grabs.
var grabsShort = pattern.Of(`(?i)\b(` + heldOn + `(?:, ` + heldOn + `)*),? (?:and|&) (` + heldOn + `) (grab|hold|pull)s?\b`)

// heldOn is what is taken hold of.
const heldOn = `(?:wrist|collar|hair|lapel|sleeve|shoulder|arm|belt|shirt|hand|ankle)`

// grabsInFull is a line with that word behind each.
func grabsInFull(line string) string {
	return grabsShort.ReplaceAllStringFunc(line, func(said string) string {
		m := grabsShort.FindStringSubmatch(said)
		return strings.ReplaceAll(m[1], ",", " "+m[3]+",") + " " + m[3] + ", " + m[2] + " " + m[3]
	})
}

// grabLabel is a label for grabs or chokes of several sorts: Wrist grabs: straight, cross, two on one.
var grabLabel = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] )?)((?:wrist|clothing|hand|body|arm|hair)? ?(?:grab|choke|strangle))s?\s*: +(\pL[\pL, -]*)$`)

// grabsOf are the lines that such a list stands for; nil where a line is none.
func grabsOf(line string) (out []string) {
	m := grabLabel.FindStringSubmatch(line)
	if m == nil {
		return nil
	}
	noun := strings.TrimPrefix(strings.ToLower(strings.TrimSpace(m[2])), "clothing ")
	for part := range strings.SplitSeq(m[3], ",") {
		part = strings.TrimSpace(part)
		if words := strings.Fields(part); len(words) == 0 || len(words) > 3 || beginsStep.MatchString(part) {
			return nil
		}
		out = append(out, m[1]+capitalised(part)+" "+noun)
	}
	if len(out) < 2 {
		return nil
	}
	return out
}

// weaponDefence is a label for defences against a weapon, or a hold, of each of a list.
var weaponDefence = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] )?((?:knife|club|stick|bottle|staff|weapon|punch|kick|grab|choke|wrist|lapel|ground) (?:defen[cs]es?|escapes?|releases?)))\s*:\s*(\S.*)$`)
