package binder

import (
	"slices"
	"strings"

	"velvetladder/internal/core/pattern"
)

var (
	// calledAgainst is a name in large letters, what stands between it and an attack, and the rest.
	calledAgainst = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] +)?)(\p{Lu}[\pL’'-]*(?: (?:(?:of|in|on|to|at|and|by|over|under) )?(?:the )?\p{Lu}[\pL’'-]*)+)` +
		`(?:,? (?:is )?(?:used |done )?(?:as an? (?:defen[cs]e|answer|counter) )?(?:against|vs\.?|versus|v\.|for|to meet|from)|\.) ([^:;()]+)$`)
	// calledColon is the same with a colon between.
	calledColon = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] +)?)(\p{Lu}[\pL’'-]*(?: (?:(?:of|in|on|to|at|and|by|over|under) )?(?:the )?\p{Lu}[\pL’'-]*)+): ([^:;()]+)$`)
	// saysAnswer are words for an answer to an attack, which alone are no name of one: Wrist Escape from behind.
	saysAnswer = pattern.Of(`(?i)\b(?:escapes?|releases?|defen[cs]es?|defend|counters?|answers?|breaks?|freedom|response|self|getting|get|techniques?|drills?|partner|free|no|numbers?)\b`)
)

// calledThenAttack puts a dash between a name of its own and its attack, as it is read: Drifting Ember for a straight left punch. Names that say a
// kind or an attack stay whole, for the attack is all that tells them apart: Arm Bar from a lapel grab.
func (b *Reader) calledThenAttack(line string) string {
	if m := bracketThenSteps.FindStringSubmatch(line); m != nil && beginsStep.MatchString(m[2]) {
		return m[1] + " - " + m[2]
	}
	line, steps := told(line)
	m := calledAgainst.FindStringSubmatch(line)
	if colon := calledColon.FindStringSubmatch(line); colon != nil { // Iron Orchard: right hook punch, then left cross
		m = colon
	}
	if m == nil || !b.ownName(m[2]) || b.Named(m[2]) != nil && b.Named(strings.TrimSpace(line)) != nil {
		return line + steps
	}
	said := articleBefore.ReplaceAllString(strings.TrimRight(m[3], "."), "")
	attack, _ := b.attackIn(said)
	if colon := m[0][len(m[1])+len(m[2])] == ':'; len(attack) == 0 || colon && steps == "" && (len(attack) < 2 || attack[0].Side == "" || attack[1].Side == "") {
		return line + steps
	}
	return m[1] + m[2] + " - " + said + steps
}

var (
	articleBefore = pattern.Of(`(?i)^(?:an?|the) `)
	// bracketThenSteps is a name with its attack in brackets and right behind them what is done: Hidden Ash (rear bear hug) Stomp, turn.
	bracketThenSteps = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] +)?\p{Lu}[^:;()]*\([^()]+\))\.? (\p{Lu}\p{Ll}+\b[^:;()]*\.)$`)
)

// toldBehind is what is done about an attack, in a sentence or more behind it.
var toldBehind = pattern.Of(`^((?:[^.]|\bvs?\.|^\s*\d{1,2}\.)*\p{Ll}{3,})(\. \p{Lu}\p{Ll}+\b[^:;()]*\.)$`)

// told parts a line from the sentences that tell what is done: Willow Branch for a cross wrist grab. Turn the hand, step in.
func told(line string) (first, steps string) {
	if m := toldBehind.FindStringSubmatch(line); m != nil && beginsStep.MatchString(strings.TrimPrefix(m[2], ". ")) {
		return m[1], m[2]
	}
	return line, ""
}

// ownNameOnly is a name in large letters of two words or more.
var ownNameOnly = pattern.Of(`^\p{Lu}[\pL’'-]*(?: (?:(?:of|in|on|to|at|and|by|over|under) )?(?:the )?\p{Lu}[\pL’'-]*)+$`)

// ownName reports whether a text is a name in large letters that says neither an attack nor of which kind it is: Hollow Reed.
func (b *Reader) ownName(text string) bool {
	pictured := []Kind{"", "courtesy", "character", "fitness", "evasion", "footwork"} // Bent Bow, Circling Crow
	return ownNameOnly.MatchString(text) && slices.Contains(pictured, b.KindInName(text)) && !b.namesAttack(attackTold(attackKey(text))) && !saysAnswer.MatchString(text)
}
