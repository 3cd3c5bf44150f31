package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// rowNoun is in a heading what its combinations are made of.
var rowNoun = pattern.Of(`(?i)\b(?:kick|punch|block)`)

// overList reads a line with a list right below it, or what is indented by more: a heading, if it says no amount, is short, and names no
// technique of the section it stands in, which may have steps or points to watch below it.
func (r *pageReader) overList(x pageText, text string) (h headed, is bool) {
	words := strings.TrimSpace(headBracket.ReplaceAllString(strings.TrimRight(text[listed(text):], ":. "), ""))
	if x.leads && onTheGround.MatchString(words) {
		return headed{mixed: true}, true
	}
	if inside := strings.Trim(headBracket.FindString(text), " ()[]"); inside != "" { // A. Crossing Rain (two-hand wrist grab)
		if attack, _ := r.attackIn(inside); attack != nil {
			return h, false
		}
	}
	now := cmp.Or(r.under.kind, r.kindIn(r.under.section))
	kind := cmp.Or(curriculum.UsualKind(words), r.KindInName(words))
	steps := slices.Contains([]Kind{"self_defence", "lock", "throw", "form", "partner_set"}, now) && (x.steps || kind == "" || kind == now)
	if r.headDeep && x.deeper && !strings.ContainsAny(words, partSigns+":") && r.amountIn(words) == "" && !r.namedAlone(words) && x.indent == r.headIndent { // as the headings before it stand
		if kind == "" {
			return headed{unknown: true}, true
		}
		return r.sectionOf(kind)
	}
	if len(strings.Fields(words)) > mostListed || strings.ContainsAny(words, partSigns+":/+") || r.amountIn(words) != "" || r.namedAlone(words) || steps {
		return h, false
	}
	if kind == "" && slices.Contains(amounted, now) && x.leads {
		return headed{unknown: true}, true // Work rate, and a list below it
	}
	if many := wordForMany.MatchString(lastWord.FindString(words)); kind == now && !many && now != "" || !many && curriculum.UsualKind(words) == "" && (kind == "" && now != "" || slices.Contains(amounted, kind)) {
		return h, false
	}
	if kind == "" {
		return headed{unknown: true}, true
	}
	return r.sectionOf(kind)
}

// sectionOf is what a heading says that means a kind.
func (b *Reader) sectionOf(kind Kind) (h headed, is bool) {
	s := curriculum.SectionFor(b.Sections, kind)
	if s == nil {
		return h, false
	}
	if h = (headed{section: s.Name}); s.Kind != kind {
		h.kind = kind
	}
	return h, true
}

// headTail is a heading and behind a comma what it says of the amounts below, with that in brackets: Kicks, 10 each leg. Other lines stay.
func headTail(b *Reader, x pageText, text string) string {
	if whole := amountThenHow(b, x, text); whole != "" {
		return whole
	}
	colon := strings.HasSuffix(strings.TrimSpace(text), ":")
	before, said, found := strings.Cut(strings.TrimRight(text, ": "), ",")
	if at := dashed.FindStringIndex(text); !found && at != nil && !b.headsAlone(text[:at[0]]) { // Combinations on pads – 10 each
		before, said, found = text[:at[0]], text[at[1]:], true
	}
	if m := allBehind.FindStringSubmatch(said); m != nil && x.over && !boxAtEnd.MatchString(x.typed) && !ticked.MatchString(x.typed) {
		if h, is := b.heading(before); is && !h.unknown {
			if m[1] != "" { // choose 5 of 7
				before += " (" + m[1] + ")"
			}
			if said = strings.TrimLeft(m[2], ", "); said == "" {
				return before
			}
			text, found = before+", "+said, true
		}
	}
	if saysHowBelow(said) && x.over && !strings.ContainsAny(before, partSigns+":") && b.headsAlone(before) { // Kicks, fast, on command
		return before + " (" + strings.TrimSpace(strings.TrimRight(said, ":. ")) + ")"
	}
	if both := strings.TrimSpace(said); colon && curriculum.IsAmount(both) && !curriculum.Bare(both) {
		said = strings.ReplaceAll(both, ",", " ")
	}
	if !found || !x.over || strings.ContainsAny(said, partSigns+":(") {
		return text
	}
	said = strings.TrimSpace(said)
	if q, err := curriculum.ParseQuantity(headSaid.ReplaceAllString(strings.TrimPrefix(said, "each "), "$1")); err != nil || curriculum.Bare(said) || q.Measure == curriculum.RoundsTimed {
		return text
	}
	if h, is := b.heading(before); !is || h.unknown || !slices.Contains(append([]Kind{"combination"}, amounted...), cmp.Or(h.kind, b.kindIn(h.section), h.first, "strike")) {
		return text
	}
	return before + " (" + strings.TrimPrefix(said, "each ") + ")"
}

// amountThenHow writes a heading with how often and how all below it is done behind a dash, Kihon - each 5 times, moving forward, as one with
// brackets; "" where it is none.
func amountThenHow(b *Reader, x pageText, text string) string {
	parts := dashed.Split(strings.TrimRight(text, ": "), 2)
	if len(parts) < 2 || !x.over {
		return ""
	}
	much, how, found := strings.Cut(parts[1], ", ")
	q, err := curriculum.ParseQuantity(strings.TrimSuffix(strings.TrimPrefix(check.Key(much), "each "), " each"))
	if !found || err != nil || curriculum.Bare(much) || q.Measure == curriculum.RoundsTimed || strings.ContainsAny(parts[0], partSigns+":") || !b.headsAlone(parts[0]) ||
		!saysHowBelow(how) && !aPlaceSaid.MatchString(how) {
		return ""
	}
	return parts[0] + " (" + strings.TrimPrefix(much, "each ") + ") (" + how + ")"
}

// howBelow is how all below a heading is done.
var howBelow = pattern.Of(`(?i)^(?:in (?:an? )?(?:[\pL-]+ ){1,3}stance|in \pL+[- ]dachi|fast|slow(?:ly)?|slow then fast|on command|with (?:kiai|shout|power|speed|meaning|feeling)|without (?:help|count|counting)|to (?:the )?count|by (?:the )?count|in (?:the )?air|moving|in line|on the spot|stationary|standing)$`)

// saysHowBelow reports whether all parts of what stands behind a heading say how what stands below it is done.
func saysHowBelow(said string) bool {
	return strings.TrimSpace(said) != "" && !slices.ContainsFunc(SplitParts(strings.TrimRight(said, ":. ")), func(part string) bool { return !howBelow.MatchString(check.Tidy(part)) })
}

// headsAlone reports whether words are a heading by themselves, without where or on what.
func (b *Reader) headsAlone(words string) bool {
	_, is := b.headingOf(strings.TrimSpace(words))
	return is
}

// allBehind is behind a heading whether all or some of what stands below is shown.
var allBehind = pattern.Of(`(?i)^ (?:all|(choose \d+(?: of \d+)?|any \d+(?: of (?:these|them|the following|those below|the list below|\d+))?))((?:,.*)?)$`)

// headingAt reports whether a line is a heading, by its words or as the others of the page are written.
func (r *pageReader) headingAt(x pageText, text string) (h headed, is bool) {
	numbered := listNumber.MatchString(text)
	defer func() {
		if numbered && r.numbers >= 0 {
			if r.numbers++; !is {
				r.numbers = -1
			}
		}
	}()
	h, is = r.byNameOrAttack(x, text)
	amount := r.amountIn(text) != ""
	if one := lastNumber.ReplaceAllString(strings.TrimSpace(text[listed(text):]), ""); is && !h.unknown && numberedItem.MatchString(text) && !testPart(text) && !amount && (h.section == r.under.section || slices.Contains(numberedKinds, curriculum.UsualKind(one)) && !strings.HasSuffix(one, "s")) {
		is = false // Combination 4, under Combinations; Kata 1
	}
	if inside := strings.Trim(headBracket.FindString(text), " ()[]"); is && inside != "" && !curriculum.IsAmount(inside) && !stripeOrTime.MatchString(inside) && !x.leads && !x.deeper && curriculum.KindInWords(text) == "partner_set" && slices.Contains([]Kind{"sparring", "partner_set"}, cmp.Or(r.under.kind, r.kindIn(r.under.section))) {
		is = false // Three-step sparring (face, stomach), under Sparring
	}
	plain := !strings.ContainsAny(text, partSigns) && !amount
	if !is && plain && (x.part || numbered && r.numbers > 1 && !strings.Contains(text, "(") && r.Named(text[listed(text):]) == nil) { // 4. Defence
		h, is = headed{unknown: true}, true
	}
	if kind := r.singularHead(x, text); !is && plain && kind != "" {
		h, is = r.sectionOf(kind)
	}
	if now := cmp.Or(r.under.kind, r.kindIn(r.under.section)); !is && (x.leads || x.deeper) && now == "self_defence" && groupOfAttacks.MatchString(strings.TrimRight(text[listed(text):], ": ")) { // A) Against grabs
		h, is = headed{section: r.under.section, kind: r.under.kind}, true
		if where := strings.ToLower(strings.TrimSpace(strings.TrimRight(text[listed(text):], ": "))); whereAttacked.MatchString(where) && !strings.HasPrefix(where, "against") {
			h.note = where
		}
	}
	if !is && (x.leads || x.deeper) {
		h, is = r.overList(x, text)
	}
	if !is && (x.deeper || x.leads) && strings.HasSuffix(strings.TrimSpace(text), ":") { // In motion, 5 steps forward:
		h, is = headed{unknown: true}, true
		if allOf.MatchString(text[listed(text):]) && r.KindInName(text) != "" { // All kicks 5 each leg:
			h, is = r.sectionOf(r.KindInName(text))
		}
	}
	if !is && plain && r.mineToo(x, text) {
		h, is = headed{unknown: true}, true
	}
	if !is && plain && x.apart {
		h, is = r.twoHeads(text)
	}
	r.apart = r.apart || is && x.apart
	if r.capitals = !r.shouting && (r.capitals || is && inCapitals(text)); is {
		return h, true
	}
	switch kind := cmp.Or(r.under.kind, r.kindIn(r.under.section)); {
	case plain && r.capitals && inCapitals(text) && r.Named(text) == nil:
	case slices.Contains(amounted, kind) && x.indent == 0 && r.aloneAsHead(text) && r.mostly():
	case (r.under.setting != "" || r.apart && x.apart) && r.aloneAsHead(text):
	default:
		return h, false
	}
	return headed{unknown: true}, true
}

// standingUp heads what is done on the feet, where another heading has what is done on the ground.
var standingUp = pattern.Of(`(?i)^(?:stand(?:ing)?[ -]?up|standing|on the feet|on your feet)$`)

// twoHeads reads a heading of two, of which the program has no section for the second, and one that says only that what stands below is done on
// the feet: Etiquette and mat work; Stand up.
func (r *pageReader) twoHeads(text string) (h headed, is bool) {
	if words := strings.Fields(text); len(words) > 1 && len(words) <= 3 && r.Named(text) == nil && manyWord.MatchString(words[len(words)-1]) { // Kick combinations
		if kind := curriculum.UsualKind(words[len(words)-1]); kind != "" {
			return r.sectionOf(kind)
		}
	}
	said := strings.TrimRight(strings.TrimSpace(text[listed(text):]), ": ")
	if standingUp.MatchString(said) && slices.ContainsFunc(r.page, func(x pageText) bool { return whereLabel.MatchString(check.Key(x.line)) }) {
		return headed{mixed: true}, true
	}
	two := andWord.Split(said, -1)
	if len(two) != 2 || len(strings.Fields(said)) > mostListed+1 || headingKind(check.Key(two[0])) == "" || r.KindInName(two[1]) != "" {
		return h, false
	}
	return r.sectionOf(headingKind(check.Key(two[0])))
}

// singularHead is the kind of a heading in the singular: Kick, and below it front kick; "" where the line is none. A word that may be what is asked
// itself, Punch, is none.
func (r *pageReader) singularHead(x pageText, text string) Kind {
	word := check.Key(strings.TrimRight(text[listed(text):], ": "))
	if x.over && x.apart && manyLimbs.MatchString(word) && r.Named(word) == nil { // Elbows, under Punches
		return r.KindInName(word)
	}
	if etiquetteOf.MatchString(word) && x.over && r.KindInName(r.below(x)) == "courtesy" { // Dojo etiquette
		return "courtesy"
	}
	kind := curriculum.UsualKind(word)
	if kind == "" || !x.over || x.piece || kind == cmp.Or(r.under.kind, r.kindIn(r.under.section)) || r.Named(word) != nil {
		return ""
	}
	if !slices.Contains(single, word) || slices.Contains([]string{"punch", "knee", "hold", "roll"}, word) || !x.leads && !slices.Contains(neverAlone, word) && r.KindInName(r.below(x)) != kind {
		return ""
	}
	return kind
}

// etiquetteOf is the etiquette of a place, which heads what it is or is asked about itself.
var etiquetteOf = pattern.Of(`^(?:dojo|dojang|class|school|club|mat|hall|general) etiquette$`)

// onTheGround is where all of a list is done.
var onTheGround = pattern.Of(`(?i)^(?:on|from) the (?:ground|floor):?$`)

// longInHead is from how many seconds on a time in a heading is how long all of it takes, where it does not say each.
const longInHead = 120

// eachInHead says that an amount in a heading is of each: 2 min each, in 2 minutes.
var eachInHead = pattern.Of(`(?i)\b(?:each|every|per|ea|in \d+)\b|/`)

// neverAlone are words for a kind that are not the name of one thing of it.
var neverAlone = []string{"evasion", "balance", "combination", "breakfall", "board break"}

// below is the next line that is not blank.
func (r *pageReader) below(x pageText) string {
	for _, next := range r.page {
		if next.number > x.number && strings.TrimSpace(next.line) != "" {
			return strings.TrimSpace(next.line[listed(next.line):])
		}
	}
	return ""
}

// byName reports whether a line is a heading by its words. A section's name that a technique has too, and that stands without a sign, is one on a
// page with headings, if it stands in another section and over something that is asked.
func (r *pageReader) byName(x pageText, text string) (h headed, is bool) {
	if h, is = r.heading(text); !is || r.Named(text) == nil || curriculum.SectionKey(text) == "warm up" {
		return h, is
	}
	below, kind := r.below(x), func(h headed) Kind { return cmp.Or(h.kind, r.kindIn(h.section)) }
	_, heads := r.heading(below)
	another := h.section != r.under.section || kind(h) != kind(r.under) || onlyAmount.MatchString(below)
	loud := r.capitals && x.over && inCapitals(strings.TrimSpace(text)) // SPARRING, as the headings above it
	return h, x.inline || x.apart || loud || (len(r.heads) > 0 && another || onlyAmount.MatchString(below)) && below != "" && (!heads || strings.Contains(below, ": "))
}

// inAList begins a line that stands in a list of numbers, letters or signs, firstNumber the first of one of numbers or letters.
var (
	inAList     = pattern.Of(`^\s*(?:#\d{1,2}\b|\(?\d{1,2}[.)]|\(?[A-Ha-h][.)]|[-–—*•] )`)
	firstNumber = pattern.Of(`^\s*(?:#1\b|\(?1[.)] |\(?[Aa]\) )`)
)

// byNameOrAttack reports whether a line is a heading by its words, or as an attack with a list of what answers it.
func (r *pageReader) byNameOrAttack(x pageText, text string) (h headed, is bool) {
	if h, is = r.byName(x, text); is && !h.unknown {
		return h, true
	}
	if said, heads := r.attackHead(x, text); heads {
		return said, true
	}
	return h, is
}

// attackHead reads an attack with a list of numbers or letters right below it as the heading of what
// answers it.
func (r *pageReader) attackHead(x pageText, text string) (h headed, is bool) {
	said := strings.TrimRight(strings.TrimSpace(text), ": ")
	now := cmp.Or(r.under.kind, r.kindIn(r.under.section))
	if !x.over || inAList.MatchString(x.typed) || r.Named(said) != nil {
		return h, false
	}
	at := slices.IndexFunc(r.page, func(next pageText) bool { return next.number == x.number+1 })
	if at < 0 || !firstNumber.MatchString(r.page[at].typed) {
		return h, false
	}
	attack, _ := r.attackIn(said)
	answer := strings.TrimSpace(inAList.ReplaceAllString(r.page[at].typed, ""))
	answers := slices.Contains([]Kind{"throw", "lock", "strike", "kick", "block", "combination"}, curriculum.KindInWords(answer))
	if below, _ := r.attackIn(answer); len(attack) != 1 || below != nil && !answers {
		return h, false
	}
	if !slices.Contains([]Kind{"", "self_defence", "lock", "throw"}, now) && !(x.apart && r.isHeld(attack)) {
		return h, false
	}
	return r.sectionOf("self_defence")
}

// onlyAmount begins what is only an amount, of what its heading names.
var onlyAmount = pattern.Of(`(?i)^(?:\d{1,2}|one|two|three|four|five|six)\b`)

// groupOfAttacks is what several defences below it are against, or where they are done.
var groupOfAttacks = pattern.Of(`(?i)^(?:(?:defen[cs]es? )?(?:against|vs\.?|versus|from) )?(?:all )?(?:grabs?|grabbing|strikes|striking|punches|punching|kicks|kicking|chokes|holds|hugs|bear hugs|headlocks|pushes|weapons?|(?:wrist|lapel|shoulder|collar|arm|hand) grabs|grips)(?: (?:attacks?|defen[cs]es?|escapes|releases))?(?: (?:and|&) (?:grabs|strikes|punches|kicks|chokes|holds|hugs|pushes|grips))?$|^(?:on|from) the (?:ground|floor)$|^(?:from )?(?:standing|kneeling|sitting)$|^(?:un)?armed attacks?$|^(?:\pL[\pL-]* ){1,2}attacks$|^if (?:somebody|someone|they|you|an? (?:attacker|stranger|adult|bully)) \pL+(?: \pL+){0,3}$`)

// into begins what stands below a heading.
func (r *pageReader) into(l PageLine, x pageText, h headed, text string) {
	if m := limbHead.FindStringSubmatch(strings.TrimSpace(headBracket.ReplaceAllString(text[listed(text):], ""))); m != nil {
		h.limb = strings.ToLower(m[1])
	}
	kind := cmp.Or(r.outer.kind, r.kindIn(r.outer.section))
	where := x.own && h.mixed && h.first == "" && whereLabel.MatchString(check.Key(text)) && slices.Contains([]Kind{"self_defence", "lock", "throw"}, kind)
	if !where {
		r.bareHead(&h)
	}
	said := strings.TrimRight(strings.TrimSpace(headBracket.ReplaceAllString(text[listed(text):], "")), ": ")
	if attack, more := r.attackIn(said); len(attack) == 1 && cmp.Or(h.kind, r.kindIn(h.section)) == "self_defence" {
		if h.attack = attack; more {
			h.attacks = strings.ToLower(said)
		}
	}
	r.after, r.drawn, r.numberOf = -1, nil, ofNumber{head: x}
	if !r.inline || !x.inline {
		r.around = r.under
	}
	r.inline = x.inline
	r.head, r.since, r.headDeep, r.headIndent = l, len(r.out), x.deeper, x.indent
	if where {
		r.under, r.inline = r.outer, false // of this line alone, with what the heading says too
		r.under.note = strings.TrimPrefix(r.outer.note+", "+strings.ToLower(strings.TrimSpace(text[listed(text):])), ", ")
		return
	}
	r.headSaid(&h, text)
	if myHead.MatchString(text) {
		r.mine++
	}
	r.title = strings.TrimSpace(strings.TrimRight(headBracket.ReplaceAllString(text[listed(text):], ""), ":. "))
	if h.setting != "" && h.mixed && r.inline && cmp.Or(r.around.kind, r.kindIn(r.around.section)) == "fitness" { // Bag: 2 x 2 min, under Fitness
		h.section, h.kind, h.mixed = r.around.section, "fitness", false
	}
	if r.under = h; h.unknown {
		if aboutLine.MatchString(strings.TrimSpace(text[listed(text):])) { // All white belt requirements plus:
			l.fail(1, ofOtherLines)
		}
		r.noSection(&l, 1, r.title)
		r.add(l)
		r.under.mixed = true
	} else if !r.inline {
		r.heads = append(r.heads, l.Number)
	}
}

// headSaid reads what a heading says of all that stands below it, besides its section: how much of each, on what, how, and how many are chosen.
// A long time that is not said of each is how long all of it takes, Kicks (25 mins), and stays unread.
func (r *pageReader) headSaid(h *headed, text string) {
	on := curriculum.Setting("")
	if h.amount, on, h.unread = headAmount(text); h.amount != nil && h.amount.Measure != curriculum.RoundsTimed && h.amount.Seconds >= longInHead && !eachInHead.MatchString(text) {
		h.amount, h.unread = nil, strings.Trim(headBracket.FindString(text), " ()[]")
	}
	if !h.unknown {
		h.note = headNote(text)
		h.choice = strings.Join(slices.DeleteFunc(SplitParts(h.note), func(part string) bool { return !someBelow.MatchString(part) }), ", ")
	}
	if h.setting == "" && !h.unknown {
		h.setting = on
	}
	if said := r.amountIn(strings.NewReplacer(",", " ", ":", " ").Replace(text)); h.amount == nil && said != "" && strings.HasSuffix(strings.TrimSpace(text), ":") && !h.unknown {
		if q, err := curriculum.ParseQuantity(said); err == nil && !curriculum.Bare(said) {
			h.amount = &q
		}
	}
	if h.unknown && h.amount == nil && anyAmount.MatchString(text) {
		h.unread = strings.TrimSpace(strings.TrimRight(text, ": "))
	}
}

// bareHead takes a heading with nothing below it as what is asked itself, and asks: Free sparring. next is the heading that follows it; nil at the
// end of the page.
func (r *pageReader) bareHead(next *headed) {
	kind, h := cmp.Or(r.under.kind, r.kindIn(r.under.section)), r.head
	if h.Text != "" && len(r.out) == r.since && r.under.mixed && next == nil { // Essay & interview, at the end of the page
		h.Aside = "a heading with nothing below it"
		r.add(h)
		return
	}
	if h.Text == "" || len(r.out) > r.since || kind == "" || r.under.mixed || r.under.setting != "" {
		return
	}
	if inside := strings.Trim(headBracket.FindString(h.Text), " ()[]"); inside != "" && r.under.amount == nil && r.under.unread == "" && len(strings.Fields(inside)) > 2 && settingSaid(check.Key(inside)) == "" && !stripeOrTime.MatchString(inside) {
		why := "nothing stands below this heading; write what is asked of it, a line for each"
		if someBelow.MatchString(inside) {
			why = "nothing stands below this heading; where the candidate chooses, write here the name of what is chosen from and “free choice”, for example Own form, free choice"
		}
		h.fail(1, why)
		r.add(h)
		return
	}
	if next != nil && (kind != "sparring" && kind != "board_break" || next.section == r.under.section) {
		if own := next.section == r.under.section && curriculum.SectionKey(r.title) == curriculum.SectionKey(r.under.section); next.setting == "" && !next.mixed && !next.unknown && !own { // else it goes on below: Knowledge, Essay: one page
			h.Aside = "a heading with nothing below it"
			r.add(h)
		}
		return
	}
	h.Section, h.under = r.under.section, r.under
	if key := curriculum.SectionKey(r.title); key == curriculum.SectionKey(r.under.section) || strings.HasSuffix(r.title, "s") || curriculum.UsualKinds[key] != "" && !strings.Contains(key, " ") {
		h.Aside = "a heading with nothing below it"
		r.add(h)
		return
	}
	r.pageLine(&h)
	h.Kind = cmp.Or(h.Kind, kind)
	h.doubt(fmt.Sprintf("nothing stands below %s, so it is read as what is asked itself", h.Name))
	r.add(h)
}

// stripeOrTime is in the brackets of a heading for which stripe, or how long it takes.
var stripeOrTime = pattern.Of(`(?i)\b(?:stripe|tip|tag|belt|minutes?|mins?|points?|marks?)\b`)
