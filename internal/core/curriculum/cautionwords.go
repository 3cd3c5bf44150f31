package curriculum

import (
	"cmp"
	"slices"
	"strings"

	"velvetladder/internal/core/pattern"
)

// worded is a kind of caution and the words of a text that call for it.
type worded struct{ kind, word string }

// theNeck is struck at: chop to the side of the neck, elbow to the back of the head.
const theNeck = `\bto (?:the |his |her |their )?(?:\w+ of (?:the )?)?(?:neck|nape)\b|\bto (?:the |his |her |their )?back of (?:the |his |her )?(?:head|skull)\b`

// heldJoint are holds on a joint whose names do not say so.
const heldJoint = `\b(?:goose[ -]?necks?|come[ -]?alongs?|hammer[ -]?locks?|toe[ -]?holds?|key[ -]?locks?|knee ?bars?|kimuras?|americanas?)\b|\bheel hooks?(?:$| (?:defen[cs]e` +
	`|escape|entry|from)\b)|\bfigure[ -](?:four|4)s?(?: (?:hold|lock)s?)?$`

// throughTheAir is done with both feet off the floor, whatever it is called.
const throughTheAir = `\b(?:cart ?wheels?|aerials?|somersaults?|back ?flips?|hand ?springs?)\b`

var (
	jumping = pattern.Of(`\b(jump(s|ing|ed)?|fly(ing)?|flies|spin(s|ning)?|hop(s|ping)?|leap(s|ing)?)\b`)
	// A kick is named after how far it turns in the air.
	turningName = pattern.Of(`^(?:\w+ )?(?:360|540|720)°?(?: degrees?)?(?: |$)|\b(?:tornado|superman)\b|\b(?:butterfly|scissors?) (?:kick|twist)s?\b|` + throughTheAir)
	// What goes head over heels, or over somebody.
	overHeels = pattern.Of(throughTheAir + `|\b(?:div(?:e|es|ing)|flips?|flipping|high falls?)\b`)
	onJoint   = pattern.Of(`lock|\b(bar|crank|twist|bend)s?\b`)
	aLock     = pattern.Of(`\b(wrist|arm|elbow|shoulder|finger|thumb|leg|knee|ankle|joint|standing)[ -]?(locks?|bars?|cranks?|twists?)\b|` + heldJoint + `|\b(a|an|the|into|to|with|w/` +
		`|and|or|finish|finishing|end|ending) locks?( (on|hold|and)\b|[,.;)]|$)`)
	atTheNeck = pattern.Of(`\b(chok(es?|ed|ing|e ?holds?)|strang(les?|led|ling|le ?holds?)|head[ -]?locks?|neck (holds?|locks?|cranks?)|guillotines?|sleeper holds?|rear naked` +
		`|\w{2,}[ -]?jime|shime[ -]waza)\b`)
	// Chokes that are called so only as a name: triangle from guard.
	chokeName = pattern.Of(atTheNeck.String() + `|^sleepers?\b|^triangles?(?:$| (?:from|on|hold)\b)`)
	takedown  = pattern.Of(`\b(throw(s|ing|n)?|threw|sweep(s|ing)?|swept|reap(s|ing|ed)?|trip(s|ping|ped)?|take[ -]?downs?|(take|takes|taking|taken|bring|brings` +
		`|bringing) (\w+ ){0,3}(down|to the (floor|ground|mat)))\b`)
	// What is a takedown also where blows are thrown and blocks sweep.
	plainTakedown = pattern.Of(`^(?:(?:front|rear|back|inside|outside|forward|spinning|low) )?sweeps?$|\btake[ -]?downs?\b|\bcatch(?:es` +
		`|ing)? (?:\w+ ){1,3}\(?(?:and )?(?:sweep|trip|throw)\b|\b(leg|foot|knee|ankle|hip|shoulder|body) (sweep|reap|throw|trip)s?\b|\b(sweep(s|ing)?|swept|reap(s` +
		`|ing|ed)?) (\w+ ){0,3}(legs?|foot|feet|ankles?)\b|\b(take|takes|taking|taken|bring|brings|bringing) (\w+ ){0,3}to the (floor|ground|mat)\b`)
	// A punch is thrown too, and so is any technique of the catalogue.
	thrownBlow = pattern.Of(`\b(throw(s|ing|n)?|threw) ((a|an|the|his|her|your|their|another|one|two|\d+) )?(\w+ )?(punch|punches|jab|jabs|cross|crosses|hook|hooks|uppercut|uppercuts|kick|kicks|strike|strikes|blow|blows|elbow|elbows|knee|knees|fist|fists|technique|techniques|combination|combinations|◦)`)
	// A hand or a block is brought down too.
	ownPart  = pattern.Of(`\b(take|takes|taking|taken|bring|brings|bringing) (\w+ ){0,2}(hands?|fists?|arms?|elbows?|knees?|foot|feet|heels?|guard|palms?|legs?|block|shoulders?|hips?|weight|blade|it) down\b`)
	struckAt = pattern.Of(`\b(?:to|at) (?:the )?(?:` + TargetWords + `(?:, ?|,? and |,? or | ?& ?| ?/ ?)(?:the )?){1,3}(?:eyes?|throat|windpipe|groin|kneecap|spine|neck)\b` +
		`|\b(?:to|at) (?:the )?(?:shin|thigh|legs?),? (?:and|or|&|/) (?:the )?knees?\b|\bto (the |his |her |their |both |(?:the |an |your )?(?:attacker|opponent|partner)[’']?s[’']? )?(\w+ of the |\w+ )?(eyes?|throat|windpipe|groin|knees?|kneecap|spine)\b`)
	// What a technique is named after where it strikes: groin kick. A knee strike is struck with it.
	struckName = pattern.Of(struckAt.String() + `|` + theNeck + `|` + blowAt.String())
	// blowAt is a blow called by what it strikes, in a name or in a step.
	blowAt = pattern.Of(`\b(eyes?|throat|windpipe|groin|spine|neck)[ -](kick|strike|punch|poke|gouge|jab|slap|chop|rake|thrust|attack|flick` +
		`|whip|claw|dig|smash|spear|hit|press|rip|knee|elbow)s?\b|\b(?:claw|rake|gouge|slash)s? (?:to|at|across|over|down) (?:the |his |her |your )?(?:face|eyes?)\b`)
	// struckPart is such a part as what is struck: strike the groin, poke at the eyes.
	struckPart = pattern.Of(`\b(?:strik|hit|kick|slap|punch|knee|pok|goug|rak|jab|stamp|stomp|attack|chop|squeez|grab)(?:e|es|s|ing|ting|ping)? (?:at |for |into ` +
		`|on )?(?:(?:the |his |her |their |an? |both )(?:\w+ )?)?(?:eyes?|throat|windpipe|groin|spine|kneecap)\b`)
	// lockedPart is a joint that is locked, by what is done: lock the wrist, twist his arm. One’s own is locked too.
	lockedPart = pattern.Of(`\b(?:lock|twist|bend|crank|hyperextend)(?:s|ing)? (?:up )?(?:the |his |her |their |an? )(?:\w+ )?(?:wrist|arm|elbow|shoulder|fingers?|thumb|leg|ankle|joint)s?\b`)
	goingDown  = pattern.Of(`\b(drop|kneel|sink|go|come|get|fall|land|rest)(s|ing|es)?\b|\bdown\b`)
	aWeapon    = pattern.Of(`\b(knife|knives|blade|dagger|machete|cosh|baton|cudgel|gun|pistol|firearm|weapon|weapons)\b|\b(a|an|the|his|her|with|vs|against|by) (club|stick|bat|bottle|staff)\b|\b(overhead|overarm|downward|swinging|thrusting|straight|roundhouse|two-handed|two-hand) (club|stick|bat|bottle|staff)\b|\b(club|stick|bat|bottle|staff) (attacks?|swings?|swung|raised|defen[cs]es?|strikes?|thrusts?|overhead|disarms?|grabs?|downward)\b`)
	// A block called after a knife is done with the edge of the hand; against one it is named so.
	againstWeapon = pattern.Of(`\b(against|versus|vs\.?|from) (\w+ ){0,2}(knife|knives|blade|dagger|machete|club|stick|bat|bottle|staff|weapons?)\b`)
	handBlade     = pattern.Of(`\b(knife|blade)s?[ -](hands?|edge|foot|feet|block|strike|chop)\b|\bblade of (the|your) (hand|foot)\b|\b(foot|hand) blade\b`)
	// A form with a weapon is named after it: Staff form 1. The edge of the hand is none.
	withWeapon = pattern.Of(`\b(?:with|against) (a |the |your )?(?:(?:partner|opponent|attacker)['’]?s? )?(?:foam |wooden |rubber )?(stick|club|staff|knife|baton|sword|weapon)s?\b`)
	weaponForm = pattern.Of(`\b(staff|staves|stick|sticks|club|baton|spear|sword|sabre|knives|nunchakus?|nun ?chucks?|tonfas?|kamas?|escrima|eskrima|halberd|whip)\b|\b(?:bo|jo|sai` +
		`|fan) (?:form|kata|pattern|set)\b|\b(knife|blade) (form|pattern|set)\b`)
	denying = pattern.Of(`\b(no|not|not a|without|w/o|never|don['’]t|do not|instead of|rather than|leave out|omit)( (a|an|the|any|to))?( [\w-]+ ?(,|/|or|and|&))? $`)
)

// withPartner are the kinds in which the bare word throw, sweep or trip is done to somebody.
var withPartner = []Kind{"self_defence", "lock", "throw", "partner_set"}

// answering are the kinds in which a weapon is named as an attack.
var answering = append([]Kind{"block", "evasion"}, withPartner...)

// calm are the kinds that call for no caution by their words.
var calm = []Kind{"knowledge", "courtesy", "character", "fitness"}

// thrownFrom is what a fall comes from.
var thrownFrom = pattern.Of(`\b(?:from|after|out of) (?:an? |the )?(?:\w+ )?(?:throw|sweep|trip|reap|takedown)\b`)

// heldAt is a weapon that threatens where nothing is struck.
var heldAt = pattern.Of(`\b(?:knife|blade|gun|weapon|stick)\b.*\b(?:threat|held|to|at)\b`)

// heldTo is a weapon and where it is held, which is not struck: knife to the throat.
var heldTo = pattern.Of(`\b(knife|blade|gun|pistol|weapon)(?: held)? (?:to|at|against) (?:the |his |her |your )?(?:throat|neck|eyes?|groin|spine|back|head|face|stomach)\b`)

// undenied is the first match of a pattern in a text that nothing before it denies: "no throw".
func undenied(said *pattern.Pattern, text string) string {
	for _, at := range said.FindAllStringIndex(text, -1) {
		if !denying.MatchString(text[:at[0]]) {
			return text[at[0]:at[1]]
		}
	}
	return ""
}

// sensitive is the part of the body in a target that is shown and not struck; "" none.
func sensitive(target []string) string {
	for _, w := range target {
		switch w = strings.Trim(strings.ToLower(w), ".,;"); w {
		case "eye", "eyes", "throat", "windpipe", "groin", "knee", "knees", "kneecap", "spine", "neck", "nape":
			return w
		}
	}
	return ""
}

// wordsInName are the words of a technique’s own name that call for a caution: jumps in kicks, strikes, blocks, evasions, balance,
// footwork, combinations and what breaks a board, what is not struck where it is named as the target, the neck in locks, throws and defences; in a defence also what it plainly ends in,
// a takedown or a lock, and in all that answers an attack the weapon.
func (b *Book) wordsInName(kind Kind, name string) (out []worded) {
	name = strings.ToLower(name)
	find := func(caution string, said *pattern.Pattern) {
		if word := undenied(said, name); word != "" {
			out = append(out, worded{caution, word})
		}
	}
	switch kind {
	case "evasion", "balance", "block":
		find("weapon", withWeapon)
		if find("jump", jumping); len(out) == 0 || out[len(out)-1].kind != "jump" {
			find("jump", overHeels)
		}
	case "kick", "strike", "footwork":
		find("weapon", withWeapon)
		if find("jump", jumping); len(out) == 0 || out[len(out)-1].kind != "jump" {
			find("jump", turningName)
		}
		find("target", struckName)
		find("throw", plainTakedown)
	case "combination", "board_break":
		find("jump", jumping)
		find("target", struckName)
	case "form", "sparring":
		find("weapon", weaponForm)
	case "lock", "throw":
		find("choke", chokeName)
		find("throw", plainTakedown)
		find("joint", aLock)
	case "breakfall":
		find("throw", thrownFrom)
		find("jump", overHeels)
	case "self_defence", "partner_set":
		if !heldAt.MatchString(name) {
			find("target", struckName)
		}
		find("choke", chokeName)
		if find("throw", plainTakedown); calledThrow(name) && !slices.ContainsFunc(out, func(f worded) bool { return f.kind == "throw" }) {
			out = append(out, worded{"throw", "throw"})
		}
		find("joint", aLock)
	}
	name = handBlade.ReplaceAllString(name, "◦")
	switch {
	case slices.Contains(withPartner, kind):
		find("weapon", aWeapon)
	case slices.Contains(answering, kind):
		find("weapon", againstWeapon)
	}
	return out
}

var (
	// throwLast ends the name of a throw.
	throwLast = pattern.Of(`([\pL'’-]+) throws?$`)
	// beforeAThrow is a word behind which throw is what somebody else does, or a throw of which something else is said.
	beforeAThrow = pattern.Of(`^(?:an?|the|no|any|each|every|all|of|to|from|against|versus|vs|before|after|without|into|and|or|their|his|her|your|attempted)$`)
)

// calledThrow reports whether a defence ends in a throw by its name: Open Sluice throw.
func calledThrow(name string) bool {
	m := throwLast.FindStringSubmatch(name)
	return m != nil && !beforeAThrow.MatchString(m[1]) && !AgainstFirst.MatchString(name)
}

// wordsInSentence are those of a sentence in a step of something of a kind, names of the catalogue taken out. A joint that is locked is
// another’s only where something is done to somebody.
func (b *Book) wordsInSentence(kind Kind, sentence string) (out []worded) {
	words := strings.ToLower(sentence)
	if at := undenied(struckAt, words); at != "" && !(strings.Contains(at, "knee") && goingDown.MatchString(words)) { // down to one knee
		out = append(out, worded{"target", at})
	}
	for _, said := range []*pattern.Pattern{struckPart, blowAt, blowToNeck} { // strike groin, groin slap, chop to neck
		if at := undenied(said, words); at != "" && len(out) == 0 {
			out = append(out, worded{"target", at})
		}
	}
	words = handBlade.ReplaceAllString(b.withoutNames(words), "◦")
	find := func(caution string, said *pattern.Pattern, words string) {
		if word := undenied(said, words); word != "" {
			out = append(out, worded{caution, word})
		}
	}
	find("throw", takedown, ownPart.ReplaceAllString(thrownBlow.ReplaceAllString(words, "◦"), "◦"))
	find("choke", atTheNeck, words)
	if find("joint", aLock, words); slices.Contains(withPartner, kind) && !slices.ContainsFunc(out, func(f worded) bool { return f.kind == "joint" }) {
		find("joint", lockedPart, words)
	}
	find("weapon", aWeapon, words)
	return out
}

// armed is a remark that says with which weapon something is done.
var armed = pattern.Of(`^(?:with (?:a |the )?)?(?:padded |soft |foam |wooden )?(?:staff|long staff|short staff|bo|stick|sticks|club|baton|sword|wooden sword|knife|spear|fan)$`)

// atHeight is a height that a strike or a kick goes to: throat level. The hands may be at that of the eyes.
var atHeight = pattern.Of(`^(throat|groin)[ -](?:level|height|high)$`)

// remarkedIn are the kinds in which a remark calls for a caution that elsewhere only a name does.
var remarkedIn = map[string][]Kind{"weapon": {"form"}, "jump": {"breakfall", "evasion"}, "target": {"strike", "kick", "combination"}}

// blowToNeck is a blow to the neck in a step, which an arm that goes to the neck is not.
var blowToNeck = pattern.Of(`\b(?:chop|elbow|strike|punch|hammer ?fist|heel|palm|kick|hit|back ?fist|ridge ?hand|knife ?hand|forearm|blow)s?(?: \pL+){0,2} (?:` + theNeck + `)`)

var atTheNape = pattern.Of(theNeck)

// wordsInRemark are those of a remark with which something of a kind is asked, "w/ takedown",
// "jumping", "groin".
func (b *Book) wordsInRemark(kind Kind, remark string) (out []worded) {
	remark = heldTo.ReplaceAllString(strings.ToLower(remark), "$1")
	together := slices.Contains(withPartner, kind)
	for _, f := range b.wordsInSentence(kind, remark) {
		if f.kind == "throw" && !together || f.kind == "weapon" && !slices.Contains(answering, kind) {
			continue
		}
		out = append(out, f)
	}
	words := b.withoutNames(remark)
	if word := undenied(plainTakedown, words); word != "" && !together {
		out = append(out, worded{"throw", word})
	}
	if word := undenied(jumping, words); word != "" {
		out = append(out, worded{"jump", word})
	}
	for caution, said := range map[string]*pattern.Pattern{"weapon": weaponForm, "jump": overHeels, "target": atTheNape} { // Long Heron (bo form)
		if word := undenied(said, words); word != "" && slices.Contains(remarkedIn[caution], kind) && !slices.ContainsFunc(out, func(f worded) bool { return f.kind == caution }) {
			out = append(out, worded{caution, word})
		}
	}
	for _, part := range strings.FieldsFunc(words, func(r rune) bool { return strings.ContainsRune(",;/()", r) }) {
		part = strings.TrimPrefix(strings.TrimPrefix(strings.TrimSpace(part), "at "), "the ")
		if armed.MatchString(part) { // overhead strike (staff)
			out = append(out, worded{"weapon", part})
		}
		if kind == "strike" || kind == "kick" {
			part = atHeight.ReplaceAllString(part, "$1")
		}
		if part == "knee" || part == "knees" { // a height, or what strikes
			continue
		}
		if sensitive([]string{part}) != "" {
			out = append(out, worded{"target", part})
		}
	}
	return out
}

// ofRemark are the cautions that follow from a remark with which something of a kind is asked,
// looked for once: from its words, or from its moves where it is written in moves.
func (b *Book) ofRemark(kind Kind, remark string) (out []Caution) {
	if remark == "" || slices.Contains(calm, kind) {
		return nil
	}
	key := string(kind) + ": " + remark
	b.mu.Lock()
	out, there := b.remarked[key]
	b.mu.Unlock()
	if there {
		return out
	}
	add := adder(&out)
	for _, f := range b.wordsInRemark(kind, remark) {
		add(f.kind, Ground{Kind: ByRemark, Text: f.word})
	}
	if b.noted(&Technique{Note: remark}) != nil {
		if seq, err := b.Read(remark); err == nil {
			b.byMoves(kind, seq, add)
		}
	}
	b.mu.Lock()
	b.remarked[key] = out
	b.mu.Unlock()
	return out
}

// withoutNames is a text in small letters without those names of the catalogue that hold a word
// which would mean a takedown, a choke, a lock or a weapon in a sentence; of throws and locks the
// names stay, they are what they say.
func (b *Book) withoutNames(words string) string {
	b.likeOnce.Do(func() {
		for i := range b.Techniques {
			t := &b.Techniques[i]
			if t.Kind == "throw" || t.Kind == "lock" {
				continue
			}
			for _, name := range append([]string{t.Name}, t.Aliases...) {
				name = strings.ToLower(name)
				if slices.ContainsFunc([]*pattern.Pattern{takedown, atTheNeck, aLock, aWeapon}, func(p *pattern.Pattern) bool { return p.MatchString(name) }) {
					b.like = append(b.like, name)
				}
			}
		}
		slices.SortFunc(b.like, func(x, y string) int { return cmp.Or(cmp.Compare(len(y), len(x)), cmp.Compare(x, y)) })
	})
	for _, name := range b.like {
		words = strings.ReplaceAll(words, name, "◦")
	}
	return words
}

// AgainstFirst begins what is answered.
var AgainstFirst = pattern.Of(`(?i)^(?:against|vs\.?|versus) `)

// TargetWords is what is struck, as a group.
const TargetWords = `(?:head|face|temple|jaw|chin|nose|eyes?|throat|neck|collar ?bone|chest|body|ribs|stomach|solar plexus|groin|thigh|knee|shin|legs?|kidneys?)`
