package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
)

// What is doubtful about a line is asked.

// bothNoted is a remark that speaks of both sides.
var bothNoted = pattern.Of(`(?i)\b(r|right) ?(?:&|/|\+|and) ?(l|left)\b|\b(l|left) ?(?:&|/|\+|and|then) ?(r|right)\b|\b(?:both|each|per|every) (?:sides?|legs?|hands?|arms?|feet|foot|stances?|ways?)\b`)

// rolesNoted is a remark that speaks of who does it.
var rolesNoted = pattern.Of(`(?i)(?:^|[^\d\pL ] |\b(?:as|for|by|and|the|both|of|each) )(attackers?|defenders?)\b|^(?:attackers?|defenders?)\b|\b(both roles|tori)\b|(?:^|, |\b(?:as|for|by|and|the|both) )uke\b`)

// ask notes what is doubtful about a line that makes something new; what is asked first keeps some of the rest from being asked.
func (b *Reader) ask(l *PageLine) {
	if l.Problem != "" || l.Plain {
		return
	}
	b.variant(l)
	words := strings.Fields(l.Name)
	b.askHeading(l, words)
	b.askKnown(l, words)
	b.askCalled(l, words)
	b.askNumber(l, words)
	b.askKind(l, words)
	b.askSeveral(l)
	b.askName(l, words)
}

// askHeading asks where a line may be a heading.
func (b *Reader) askHeading(l *PageLine, words []string) {
	if l.usual && l.Moves == "" && l.Said == "" && l.Setting == "" && mayBeHeading(l.Name) || l.usual && len(words) == 1 && l.Note == "" && strings.HasSuffix(l.Name, "s") && slices.Contains([]Kind{"strike", "kick", "block", "stance", "evasion"}, l.Kind) && curriculum.KindInWords(l.Name) == "" {
		l.doubt(fmt.Sprintf("%s is read as a technique; if it is a heading, write one of the program’s sections for it", l.Name))
	}
	if told := curriculum.SaidKinds; l.Said == "" && len(l.MarkLooks) == 0 && slices.Contains(told, l.Kind) && !strings.HasSuffix(l.Name, "?") && l.Note == "" && len(l.Doubts) == 0 {
		if is := curriculum.UsualKind(l.Name); l.usual && !strings.Contains(l.Text, ",") && (is != "" && is != l.Kind || len(words) == 1 && !learntByHeart.MatchString(l.Name) && b.KindInName(l.Name) != l.Kind) {
			l.doubt(fmt.Sprintf("%s is read as a %s; if it is a heading, write one of the program’s sections for it", l.Name, l.Kind.Words()))
		} else if q := l.Quantity; !l.usual && (q.PerSide() || l.Kind == "knowledge" && q.Seconds > 0) {
			l.doubt(fmt.Sprintf("%s stands under %s with %s; write its kind on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it"), q))
		}
	}
	if l.Said == "" && l.usual && l.Note == "" && slices.Contains([]Kind{"sparring", "fitness"}, l.Kind) && len(words) <= 2 && len(l.Doubts) == 0 && b.KindInName(l.Name) == "" && !strings.ContainsFunc(l.Name, unicode.IsDigit) {
		l.doubt(fmt.Sprintf("%s is read as a %s; if it is a heading, write one of the program’s sections for it", l.Name, l.Kind.Words()))
	}
}

// learntByHeart is what a school has its students say, which heads nothing.
var learntByHeart = pattern.Of(`(?i)^(?:tenets|oath|creed|motto|pledge|commands)$`)

// askKnown asks where a name is nearly one that is known, or begins as one.
func (b *Reader) askKnown(l *PageLine, words []string) {
	if m := lastLevel.FindStringSubmatch(l.Name); m != nil {
		if t := b.nearest(m[1]); t != nil {
			l.doubt(fmt.Sprintf("%s is nearly %s, which is known; write that name, a comma and %s if it is meant", l.Name, t.Name, strings.ToLower(m[2])))
		}
	}
	if t := b.nearest(l.Name); t != nil {
		l.doubt(fmt.Sprintf("%s is nearly %s, which is known; write that name if it is meant", l.Name, t.Name))
	}
	for n := len(words) - 1; n > 0 && blowsInRow(l.Name) == nil; n-- {
		t := b.Named(strings.Join(words[:n], " "))
		if another := l.Kind == "combination" && words[n] == "and" || t != nil && l.Kind == "self_defence" && t.Kind == l.Kind; t != nil && connecting.MatchString(strings.Join(words[n:], " ")) && (!another || laterPart.MatchString(strings.Join(words[n:], " "))) {
			l.doubt(fmt.Sprintf("%s begins as %s does, which is known; put a comma behind its name if it is meant", l.Name, t.Name))
		}
	}
}

// laterPart goes on with a later part of what is known: with extension.
var laterPart = pattern.Of(`(?i)^(?:with|and) (?:(?:the|its|an?) )?(?:extensions?|ending|finish|follow[- ]?ups?|tail|both endings?)$`)

// laterAlone is such a part alone, as a remark: Swinging Gate, extension.
var laterAlone = pattern.Of(`(?i)^(?:(?:with|and) )?(?:(?:the|its|an?) )?extensions?$`)

var (
	// leftToChoose is one of two heights, sides or ways: jodan or chudan.
	leftToChoose = pattern.Of(`(?i)\b(?:jodan|chudan|gedan|high|mid|middle|low|left|right|lead|rear|front|back|inside|outside|side|round) or (?:jodan|chudan|gedan|high` +
		`|mid|middle|low|left|right|lead|rear|front|back|inside|outside|side|round)\b`)
	// oneOfTwo are two names in capitals of which one is shown: Tide One or Tide Two.
	oneOfTwo = pattern.Of(`^(?:\p{Lu}[\pL'’-]* ?){1,3} or (?:\p{Lu}[\pL'’-]*(?: |$)){1,3}`)
	// handOrFoot is what a board is broken with, left to whoever breaks it, for a name.
	handOrFoot = pattern.Of(`(?i)^(?:any |either )?(?:hand|foot|kick|punch|elbow)s?(?: technique)? or (?:any |a )?(?:hand|foot|kick|punch|elbow)s?(?: technique)?$`)
	// thenMove is one move after another: push then palm heel.
	thenMove = pattern.Of(`(?i)^\pL[\pL -]*,? then \pL`)
	// inTurn are hands one after another: left right left right.
	inTurn = pattern.Of(`(?i)^(?:left,? right|right,? left),? (?:left|right)\b`)
)

// askChoice asks once below each heading that lets only some of what stands below it be shown: every line is asked of everybody.
func askChoice(lines []PageLine) {
	var asked string
	for i := range lines {
		l := &lines[i]
		if choice := l.under.choice; choice != "" && choice+l.Section != asked && l.Aside == "" && l.Problem == "" && !l.notAmong() {
			l.doubt(fmt.Sprintf("“%s” in the heading leaves out some of what stands below, and every line is read as asked of everybody; where the candidate chooses, make what stands below techniques and write here what it is chosen from with “free choice”", choice))
			asked = choice + l.Section
		}
	}
}

// notAmong reports whether a line below a heading of what is shown is told, so that a choice there leaves it out.
func (l *PageLine) notAmong() bool {
	return slices.Contains(curriculum.SaidKinds, l.Kind) && l.under.section != "" && !slices.Contains(curriculum.SaidKinds, cmp.Or(l.under.kind, curriculum.UsualKind(l.under.section)))
}

// ownCombo is a combination that the candidate makes.
var ownCombo = pattern.Of(`(?i)^(?:(?:your|my|their|his or her) )?own (?:combination|combo)s?\b`)

// mixed are headings under which things of several kinds stand.
var mixed = []string{"basic", "fundamental", "stretche", "stretching", "warm up", "technique", "hand", "feet", "foot", "requirement", "material", "kihon", "kihon waza", "basic school", "basic technique", "basic movement", "basic motion", "basic training", "fundamental movement", "fundamental technique", "waza", "game", "ground", "ground work", "floor", "floor work", "line work", "linework", "line drill", "test", "moving", "standing", "moving line", "bag work and pad", "technique list", "clinch", "grappling", "circuit", "defence", "attack", "other", "general", "extra", "drill", "misc", "miscellaneou", "move", "skill", "techniques to know", "what to know", "kihon ido", "ido kihon", "defensive art", "offensive art", "martial art", "art", "practical", "son", "safe",
	"groundwork", "ground fighting", "ground fight", "technical", "technique check", "technical check", "skills check", "core skill", "core technique", "tool", "individual technique", "single technique",
	"demonstration", "close range", "long range", "hit back", "hitting back", "body movement", "what i can do"}

// mayBeHeading reports whether a line that says a name alone looks like a heading: in capitals,
// or by its word.
func mayBeHeading(name string) bool {
	return inCapitals(name) || slices.Contains(mixed, curriculum.SectionKey(name))
}

func (l *PageLine) doubt(reason string) {
	l.Doubts = append(l.Doubts, notation.Doubt{Column: 1, Reason: reason})
}
