package binder

import (
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// An attack told as what somebody does, put as the attack it is: drunk pushes you with both hands, when someone holds my wrist.

// attackOn are parts of the body and of what is worn that are taken hold of.
const attackOn = `(wrists?|hands?|lapels?|shoulders?|hair|collar|sleeves?|arms?|belt|shirt|jacket|throat|neck|legs?|ankle|ponytail|hood|coat|backpack|bag)`

// whoAttacks is somebody who attacks.
const whoAttacks = `(?:an? |the |my |your |his |her )?(?:big |little |older |bad )?(?:mum|mummy|mom|dad|daddy|brother|sister|teacher|guy|drunk|drunken|angry|big|other|stranger|man|woman|person|bully|robber|mugger|friend|classmate|child|kid|boy|girl|uke|he|she|they|assailant|aggressor|driver|passenger|fan)(?: (?:drunk|stranger|man|woman|person|bully|child|kid|boy|girl|fan))?`

// attackerDoes begins what the attacker does.
var attackerDoes = pattern.Of(`(?i)^(?:[^,:]*\b(?:when|if|while) )?(?:(?:the |an? |your |his |her )?(?:attacker|partner|opponent|somebody|someone) \pL|` + whoAttacks + ` (?:` + curriculum.AttackVerbs + `)e?s\b)`)

// attackVerbs are what an attacker does, as the attack it is, in the order in which they are put.
var attackVerbs = []struct {
	verb *pattern.Pattern
	noun string
}{
	{pattern.Of(`^.*\b(?:when|if|while) (the |an? |your )?(attacker|partner|opponent|somebody|someone|friend|bully|he|she|they)\b`), "$1$2"},
	{pattern.Of(`^attack(?:er)?: ?`), ""},
	{pattern.Of(`^(?:when |if )?(?:you are |being )?(?:held|grabbed|seized|pinned|taken|pushed)(?: (?:up )?against (?:an? |the )?wall)? by (?:the |your )?(?:throat|neck)$`), "front choke"},
	{pattern.Of(`^(?:when |if )?(?:you are |being )?(?:held|grabbed|seized|pinned|taken)(?: (?:up )?against (?:an? |the )?wall)? by (?:the |your |one ` +
		`|both )?(hair|collar|lapel|sleeve|wrist|shirt|arm)s?$`), "$1 grab"},
	{pattern.Of(`^(?:when |if )?(?:(?:you are|one is) |being )?(?:held|grabbed|seized|taken) by (?:the |your |one )?(left|right) (wrist|sleeve|lapel|arm|hand|shoulder)\b`), "own $2 grab"},
	{pattern.Of(`^(?:the |your |one )?(left|right) (wrist|sleeve|lapel|arm|hand|shoulder) is (?:held|grabbed|seized|taken)\b`), "own $2 grab"},
	{pattern.Of(`\b(?:spits|shouts|swears|insults|threatens|approaches|argues|follows)(?: (?:at )?you)? (?:and|then|&) `), ""},
	{pattern.Of(`^(?:the |an? |your )?(?:attacker|partner|opponent|somebody|someone)s? (?:(?:has you in|throws|gives|does|attacks with|attempts|comes with|tries) )?(?:an? )?`), ""},
	{pattern.Of(`^` + whoAttacks + ` (` + curriculum.AttackVerbs + `)(e?s)\b`), "$1$2"},
	{pattern.Of(`^steps? (?:through|in|forwards?|up)(?: (?:with|and))? (?:an? )?`), "step through "},
	{pattern.Of(`^(?:has you in|throws|gives|attacks with|swings) (?:an? )?`), ""},
	{pattern.Of(`\b(grab|hold)(?:bing|s|ing)? (?:of )?(?:both |two )(?:of )?(?:your |my )?(wrists|lapels|shoulders|sleeves)\b`), "two-hand $2 grab"},
	{pattern.Of(`\b(?:grabs?|grabbing|holds?|holding|seizes?|seizing|takes|catches) (?:you by |hold of )?(?:of )?(?:one of )?(?:your |my |their |his |her |the |both |one )?(?:left |right )?` + attackOn + `\b`), "$1 grab"},
	{pattern.Of(`\b(?:an? )?threat with (?:an? |the )?(knife|gun|stick|club)\b`), "$1 threat"},
	{pattern.Of(`\b(lapel|collar|shirt|sleeve|hair) pull\b`), "$1 grab"},
	{pattern.Of(`\b(one|two)[- ]handed\b`), "$1-hand"},
	{pattern.Of(`\bpulls? (?:you by )?(?:your |my |the )?hair\b`), "hair grab"},
	{pattern.Of(`\b(push|shove)(?:e?s)? (?:you (?:in|on) the |your |my |the )(?:chest|shoulders?|back|stomach)\b`), "$1"},
	{pattern.Of(`\b(push|punch|slap)es(?: you| me)?\b`), "$1"}, {pattern.Of(`\b(slap|shove|push)s(?: you| me)?\b`), "$1"},
	{pattern.Of(`\b(?:chokes|strangles|choking|strangling|strangled|choked)(?: you| me)?\b`), "choke"}, {pattern.Of(`\b(?:bear hugs|bear hugging)(?: you| me)?\b`), "bear hug"}, {pattern.Of(`\b(?:hugs|hugging)(?: you| me)?\b`), "hug"}, {pattern.Of(`\btackles(?: you| me)?\b`), "tackle"},
	{pattern.Of(`\b(?:strikes|hits|punches|swings)(?: at)?(?: you| me)? with (?:the |his |her |their )?(?:other|free)(?: hand| fist| arm)?\b`), "punch"},
	{pattern.Of(`\bkicks (?:you )?(?:to|at|in) (?:the |your )?groin\b`), "groin kick"},
	{pattern.Of(`^(one |single |both |two )?(wrist|sleeve|collar|shoulder|hair|lapel)s?(?: (?:pulled|seized|taken|held|grabbed))?(, | from | with | one | both | two |$)`), "$1$2 grab$3"}, {pattern.Of(`\b(wrist|sleeve|collar|hair|lapel) (release|escape|freedom)s?\b`), "$1 grab $2"},
	{pattern.Of(`\bstraight (right|left)\b(?: (?:punch|hand))?`), "$1 straight punch"},
	{pattern.Of(`\b(choke|headlock|hug|nelson) hold\b`), "$1"},
	{pattern.Of(`^(?:when|if) (?:you are |you're |one is |being )?(held|grabbed|pushed|choked|punched|kicked|hugged|strangled)\b`), "$1"}, {pattern.Of(`\b(?:held|holds?|grabbed|gripped) (?:round|around) (?:the |your )?(?:body|waist|chest|arms)\b`), "hug"}, {pattern.Of(`\b(?:held|grabbed) (?:round|around) (?:the |your )?neck\b`), "headlock"},
	{pattern.Of(`^(?:held|grabbed|seized|taken) (?:by|at|on) (?:the |your |one |both )?` + attackOn + `\b`), "$1 grab"},
	{pattern.Of(`\b(?:an? |the |your )?(?:grabbed|held|seized|gripped) ` + attackOn + `\b`), "$1 grab"},
	{pattern.Of(`\bgrabs? (?:to|of|on|at) (?:the |your |one )?(wrist|lapel|shoulder|hair|collar|sleeve|arm|belt|shirt|throat)\b`), "$1 grab"}, {pattern.Of(`\b(?:left|right) wrist (grabbed|held|seized)\b`), "own wrist $1"},
	{pattern.Of(`\bfrom (?:the |your )?(?:left|right)$`), "from one side"}, {pattern.Of(`\bwith both hands\b`), "both hands"}, {pattern.Of(`\bwith one (?:hand|arm)\b`), "with one hand"},
	{pattern.Of(`\br[. ] ?(\pL)`), "right $1"}, {pattern.Of(`\bl[. ] ?(\pL)`), "left $1"}, {pattern.Of(`\br[.]? (?:&|and) `), "right & "}, {pattern.Of(`\bl[.]? (?:&|and) `), "left & "},
	{pattern.Of(`\b(left|right)(?:-| ?& ?| and |/| )(left|right) (punch|hook|jab|cross|uppercut)(?:e?s)?(?: combination| combo| combinations)?\b`), "$1 $3 then $2 $3"},
}

// defenceWithin stands between an attack and more of it: knife defence overhead.
var defenceWithin = pattern.Of(`\b(knife|gun|stick|club) defences?,? `)

// sideAgain begins the next attack behind a comma: left hook, right hook.
var sideAgain = pattern.Of(`, (left|right) `)

// sideKick is a side kick of one leg, which is no kick of one side.
var sideKick = pattern.Of(`\b(left|right) side kick\b`)

// limbWithin is a leg between a kick and what it is: front right kick.
var limbWithin = pattern.Of(`\b(front|side|round|back|push) (left|right) kick\b`)

// inWordsHand is how many hands in figures: 2-hand push.
var inWordsHand = pattern.Of(`\b[12][- ]hand`)

// armsSaid is which arm of somebody who is held is free, which is no side of the attack: flank hug, right arm free.
var armsSaid = pattern.Of(`\b(?:left|right|one|both) arms? (free|trapped|pinned|in|out)\b`)

// eitherHand is the one hand or the other, which is no side: right & left wrist grab.
var eitherHand = pattern.Of(`\b(?:right ?(?:&|and|or|/) ?left|left ?(?:&|and|or|/) ?right) ((?:\pL+ ){0,2}(?:grab|hold|hug|choke|push)s?)\b`)

// attackKey is a text by which attacks are found: in small letters, hands in words, what somebody does as the attack it is.
func attackKey(text string) string {
	text = strings.ReplaceAll(check.Key(text), "defense", "defence")
	text = armsSaid.ReplaceAllString(text, "arms $1")
	text = eitherHand.ReplaceAllString(text, "$1")
	text = inWordsHand.ReplaceAllStringFunc(text, func(s string) string { return map[byte]string{'1': "one", '2': "two"}[s[0]] + s[1:] })
	return text
}

// attackTold puts what somebody does as the attack it is.
func attackTold(text string) string {
	text = sideKick.ReplaceAllString(text, "$1 sidekick")
	text = limbWithin.ReplaceAllString(text, "$2 $1 kick")
	text = defenceWithin.ReplaceAllString(text, "$1 ")
	for _, x := range attackVerbs {
		text = x.verb.ReplaceAllString(text, x.noun)
	}
	return text
}
