package binder

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Lines that go on with the one before them.

// continues reports whether a line goes on with the steps of the one before it, a sentence
// without an amount; as is the part it tells: "attacker" or "defender".
func (b *Reader) continues(line string, before *PageLine) (text string, as curriculum.Role, is bool) {
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
	if b.Named(text) != nil || b.amountIn(text) != "" || strings.ContainsAny(text, "\t;:") || strings.HasSuffix(text, "?") {
		return "", "", false
	}
	words := strings.Fields(text)
	if headAnd.MatchString(text) && headAnd.MatchString(strings.TrimSpace(before.Text)) { // Forms - …, Partner set - …
		return "", "", false
	}
	if strings.HasSuffix(strings.TrimSpace(before.Text), ".") { // a page of sentences, each of its own
		return "", "", false
	}
	if b.KindInName(text) == "self_defence" && !strings.HasSuffix(text, ".") { // Escape rear naked choke (standing + ground)
		return "", "", false
	}
	if curriculum.AgainstFirst.MatchString(text) || curriculum.IfAttacked.MatchString(strings.ToLower(text)) || ownDefence.MatchString(text) || partAsked.MatchString(text) || aboutLine.MatchString(text) || ofOthers.MatchString(text) {
		return "", "", false
	}
	if b.namedAndTold(text) || b.namedAgainst(text) {
		return "", "", false
	}
	if breaksBoard.MatchString(text) { // and to break a thin board with a hammer fist.
		return "", "", false
	}
	if len(words) > 2 && namedTwice.MatchString(text) { // Crossed Swords for a stick from the side.
		return "", "", false
	}
	if !strings.HasSuffix(text, ".") && beginsStep.MatchString(before.Name) { // get out of a wrist grab, and below it get up off the floor
		return "", "", false
	}
	if !strings.HasSuffix(text, ".") && !titled(strings.Fields(before.Name)) && !b.namesAttack(attackTold(attackKey(before.Text))) { // Stranger danger words, and below it Run and tell a grown up
		return "", "", false
	}
	sentence := strings.HasSuffix(text, ".") && len(words) > 2 || len(words) >= 6 && !strings.Contains(text, ",") && before.Kind != "form" && beginsStep.MatchString(text) && len(dashed.Split(text, 2)) == 1
	return text, "defender", sentence && !titled(words)
}

// stepsBelow reports whether a line, indented below a defence that says its attack, lists what is done: Step back, circle the hands under, front kick.
func (b *Reader) stepsBelow(x pageText, text string, before *PageLine) bool {
	far, first := len(before.Text)-len(strings.TrimLeft(before.Text, " \t")), SplitParts(text)[0]
	if attack, _ := b.attackIn(first); attack != nil && !beginsStep.MatchString(first) && b.KindInName(first) != "block" { // wrist grab, lapel grab
		return false
	}
	against, _ := b.attackIn(before.Note)
	return before.Kind == "self_defence" && against != nil && before.Problem == "" && x.indent > far && listed(strings.TrimSpace(text)) == 0 && len(SplitParts(text)) > 1 &&
		!strings.ContainsAny(text, "\t;:(?") && !strings.ContainsFunc(text, unicode.IsDigit) && b.Named(text) == nil
}

// namedAndTold reports whether a line has a name of its own and tells it behind a dash: Broken Oar (wrist grab) - Circle the wrist.
func (b *Reader) namedAndTold(text string) bool {
	parts := dashed.Split(text, 2)
	name, inside, _ := strings.Cut(parts[0], "(")
	words := strings.Fields(name)
	if len(parts) < 2 || len(words) == 0 || len(words) > 6 {
		return false
	}
	attack, _ := b.attackIn(strings.TrimRight(strings.TrimSpace(inside), ")"))
	return attack != nil || len(words) > 1 && titled(words)
}

// nameAndComma is a name of two words or more and what stands behind its comma.
var nameAndComma = pattern.Of(`^\p{Lu}[\pL’'-]*(?: \p{Lu}[\pL’'-]*)+, ([^.,;]+)`)

// namedAgainst reports whether a line has a name of its own and behind a comma what it answers: Split Log, headlock from the side.
func (b *Reader) namedAgainst(text string) bool {
	m := nameAndComma.FindStringSubmatch(text)
	if m == nil {
		return false
	}
	attack, _ := b.attackIn(strings.TrimSpace(m[1]))
	return attack != nil
}

// breaksBoard asks for a break.
var breaksBoard = pattern.Of(`(?i)^(?:and (?:to )?)?break (?:an?|one|two|\d) (?:\pL+ )*(?:boards?|tiles?)\b`)

// namedTwice begins with two words in capitals, as a name does.
var namedTwice = pattern.Of(`^\p{Lu}\p{Ll}+ \p{Lu}\p{Ll}+ (?:for|against|from|vs\.?|to|of)\b`)

// ofOthers speaks of other lines: answer each attack in two ways.
var ofOthers = pattern.Of(`(?i)\b(?:each|every|all|any|both) (?:of |the |these )*(?:attacks?|techniques?|defen[cs]es?|one|them|these)\b`)

// beginsStep begins what is done next in a defence.
var beginsStep = pattern.Of(`(?i)^(?:and |then )?(?:step|block|punch|strike|kick|turn|pivot|slide|grab|grip|hold|pull|push|move|bring|drop|raise|lift|place|put|hook|sweep|stomp|stamp|follow|finish|cover|hit|trap|check|parry|pin|lock|deliver|execute|shift|twist|pass|counter|strip|release|swing|bend|lower|keep|take|throw|drive|press|roll|rotate|circle|wrap|clear|break|scoop|jam|slip|duck|hit|tap|slap|shout|run|guard|lead|lean|bridge|shrimp|tuck|frame|swim|post|base|clamp|elbow|knee|stand|escape|get|left|right|with|the|your|as)\b`)

// dashed is a dash with spaces around it.
var dashed = pattern.Of(`\s[-–—]\s`)

// ownDefence begins what is a defence of its own, not a step of the one before it.
var ownDefence = pattern.Of(`(?i)^(?:(?:self.)?defen[cs]es? (?:against|to|from|vs|versus)|defend against|escapes? from|releases? from|break free|get out of)\b`)

// smallWord is written small in a title too.
var smallWord = pattern.Of(`^(?:of|the|in|and|to|a|an|on|at|for|with|from|by|over|under|into|onto|through|behind|between|without|\d+)$`)

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
func (l *PageLine) more(text string, as curriculum.Role) {
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
