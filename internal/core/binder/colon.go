package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// What stands behind the colon of a line: its moves, its attack, or how it is asked.

// movesNoted takes what stands behind the colon of what has no moves as a remark, or as what is broken with.
func (b *Reader) movesNoted(l *PageLine) {
	if l.Moves == "" && b.kindOf(l) == "self_defence" && behindDash(l.Text, l.Note) { // Choke from the front - pin the chin, turn, elbow over
		if parts := strings.Split(l.Note, ", "); len(parts) > 1 && !slices.ContainsFunc(parts, func(part string) bool {
			return !strings.Contains(part, " ") || !beginsStep.MatchString(part) && b.KindInName(part) == ""
		}) && stepVerb.MatchString(parts[0]) {
			if attack, _ := b.attackIn(l.Name); attack != nil {
				l.Moves, l.Note = strings.Join(parts, ". ")+".", ""
			}
		}
	}
	if l.Moves == "" {
		return
	}
	b.howBehind(l)
	if !strings.Contains(l.Moves, ".") && !slices.ContainsFunc(strings.Split(l.Moves, ","), func(part string) bool {
		part = strings.TrimSpace(part)
		return !(heightOrSide.MatchString(part) || countsOther.MatchString(part) || ofPart.MatchString(part) || oneSideOnly.MatchString(part))
	}) { // Kicking set: right side only
		l.note(l.Moves)
		l.Moves = ""
	}
	if slices.Contains(curriculum.SaidKinds, l.Kind) || l.Kind == "stance" && b.KindInName(l.Moves) == "" || l.Kind == "balance" && !strings.ContainsFunc(l.Moves, unicode.IsDigit) { // Written essay: “My training”
		l.note(strings.NewReplacer(" (", ", ", "(", "", ")", "").Replace(l.Moves))
		l.Moves = ""
	}
	moves := strings.TrimSuffix(l.Moves, ".")
	if l.Kind == "self_defence" && !b.attackAndMoves(l) && l.Moves != "" && !strings.ContainsAny(moves, "/.+") {
		b.attackBehind(l, moves)
	}
	if m := bracketBehind.FindStringSubmatch(l.Moves); l.Kind == "partner_set" && m != nil && heightIn.MatchString(m[1]) { // Gohon kumite: jodan, chudan (5 steps)
		l.note(m[2])
		l.Moves = m[1]
	}
	if before, side, found := strings.Cut(l.Moves, " - "); l.Kind == "partner_set" && found && oneSideOnly.MatchString(side) { // jodan, chudan - right side only
		l.note(side)
		l.Moves = before
	}
	if l.Kind == "partner_set" && l.Moves != "" && !slices.ContainsFunc(strings.Split(l.Moves, ","), func(part string) bool {
		part = strings.TrimSpace(part)
		return !heightOrSide.MatchString(part) && !slices.Contains([]Kind{"strike", "kick"}, curriculum.KindInWords(part)) && !foreignAttack.MatchString(part)
	}) && (heightIn.MatchString(l.Moves) || strings.Contains(l.Moves, ",")) { // Kihon ippon: jodan, chudan, mae geri
		if l.note(l.Moves); l.Quantity.PerSide() && eachOfWhat.MatchString(l.Text) || eachAtEnd.MatchString(l.Text) {
			l.doubt(fmt.Sprintf("%s is read, with “%s” as a remark; where as much is asked of each of them, write a line for each", l.Quantity, l.Moves))
		}
		l.Moves = ""
	}
	if words := strings.Fields(l.Moves); l.Kind == "form" && len(words) > 1 && len(words) <= mostListed && titled(words) && !strings.ContainsAny(l.Moves, ",/+.0123456789") { // Form one: Quiet Water
		l.note(l.Moves)
		l.Moves = ""
	}
}

// brokenWith names what boards are broken with, where that stands behind the colon: Board break: side kick.
func (b *Reader) brokenWith(l *PageLine) {
	if first, more, _ := strings.Cut(l.Note, ", "); l.Moves == "" && breakAlone.MatchString(l.Name) && strings.Contains(l.Text, "\t") && slices.Contains([]Kind{"strike", "kick"}, b.KindInName(first)) && b.namesOne(first) && !orBreak.MatchString(first) {
		l.Name, l.Note, l.Setting = capitalised(first), more, curriculum.Boards // Break | 1 board | side kick
		return
	}
	if l.Moves == "" || curriculum.UsualKind(l.Name) != "board_break" || b.kindOf(l) != "board_break" {
		return
	}
	l.Name, l.Moves = capitalised(strings.TrimSuffix(l.Moves, ".")), ""
	if slices.Contains([]Kind{"strike", "kick"}, b.KindInName(l.Name)) && !orBreak.MatchString(l.Name) {
		l.Setting = cmp.Or(l.Setting, curriculum.Boards)
	} else {
		l.Said = "board_break"
	}
}

// howBehind takes what stands behind the colon of a basic technique for a remark where all of it says how it is done or with what; and behind what
// somebody does to one, that is no move, for steps: Someone sits on me: bump and roll.
func (b *Reader) howBehind(l *PageLine) {
	kind, parts := b.kindOf(l), strings.Split(strings.TrimSuffix(l.Moves, "."), ",")
	said := func(is func(part string) bool) bool {
		return !slices.ContainsFunc(parts, func(part string) bool { return !is(strings.TrimSpace(part)) })
	}
	switch {
	case slices.Contains(curriculum.Basic, kind) && said(func(part string) bool {
		return limbAlone.MatchString(part) || struckWhere.MatchString(part) || b.coached(part) || saidOfKnee.MatchString(part)
	}) && !said(func(part string) bool { return whichWay.MatchString(part) }):
		l.note(l.Moves)
		l.Moves = ""
	case kind == "self_defence" && attackerDoes.MatchString(l.Name) && !strings.ContainsAny(l.Moves, ".,/+>") && b.saysAttack(l.Name) && !b.saysAttack(l.Moves) && strings.Contains(l.Moves, " ") && b.KindInName(l.Moves) == "":
		l.Moves += "."
	}
}

// stepVerb begins a step, and no side or remark.
var stepVerb = pattern.Of(`(?i)^(?:step|turn|pivot|slide|pull|push|drop|pin|tuck|strip|twist|press|roll|rotate|trap|grab|raise|lift|lower|bend|shift|swing|break|clear|peel|duck|stamp|cover) `)

// behindDash reports whether a remark stands behind a dash on its line.
func behindDash(text, note string) bool {
	at := dashed.FindStringIndex(text)
	return note != "" && at != nil && strings.HasPrefix(strings.TrimSpace(text[at[1]:]), note)
}

// breakAlone is a break that does not say with what.
var breakAlone = pattern.Of(`(?i)^(?:board )?break(?:ing|s)?$`)

// attackBehind takes what stands behind the colon of a defence for the attack where it is one, and asks where it may be: Storm over Reeds: right
// hook punch.
func (b *Reader) attackBehind(l *PageLine, moves string) {
	named, alone := titled(strings.Fields(l.Name)) && strings.Contains(l.Name, " "), !strings.Contains(moves, ",")
	said := strings.ReplaceAll(moves, ",", "")
	attack, _ := b.attackIn(said)
	if attack == nil && named {
		if attack = b.attackWithin(said); attack != nil && !b.isHeld(attack) {
			attack = nil
		}
	}
	switch {
	case len(attack) == 1 && (named && alone || b.isHeld(attack) && !beginsStep.MatchString(moves)):
		l.note(l.Moves)
		l.Moves = ""
	case named && !alone && attack == nil:
		if several, _ := b.attackIn(moves); len(several) > 1 {
			l.doubt(fmt.Sprintf("“%s” is read as what is done; where it is the attack, write it in brackets", moves))
		}
	}
}

// attackAndMoves takes the attack that stands first behind the colon of a defence out of what is done about it: right hand cross wrist grab. Pin, step
// back; gun to the chest, hands up first. It reports whether one stood there.
func (b *Reader) attackAndMoves(l *PageLine) bool {
	if before, done, found := strings.Cut(l.Moves, ". "); found && l.Note == "" && strings.TrimSpace(done) != "" {
		if x, _ := b.attackIn(before); x != nil {
			l.note(before)
			l.Moves = check.Tidy(strings.TrimSuffix(strings.NewReplacer("/", " or ", "+", " and ").Replace(done), ".")) + "."
			return true
		}
	}
	before, rest, found := strings.Cut(strings.TrimSuffix(l.Moves, "."), ", ")
	if x, _ := b.attackIn(before); found && x != nil && curriculum.Bare(rest) && l.Quantity.Measure == "" { // Kneeling: front choke, 2
		l.note(before)
		l.Moves, l.Quantity = "", curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: curriculum.Figure(rest)}
		return true
	}
	if x, _ := b.attackIn(before); found && x != nil && b.isHeld(x) && !beginsStep.MatchString(rest) && !strings.Contains(rest, ",") && b.KindInName(rest) == "" {
		l.note(before)
		l.note(rest)
		l.Moves = ""
		return true
	}
	return false
}

// eachAtEnd is an amount of each of several, behind them.
var eachAtEnd = pattern.Of(`(?i), each (?:x|×) ?\d{1,2}$`)
