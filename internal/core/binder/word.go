package binder

import (
	"slices"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
)

// What a word of a name says of the line it stands on: a height, a term in brackets.

// lastLevel are English words for a height at the end of a name.
var lastLevel = pattern.Of(`(?i)^(.+?) (low|mid|middle|high)(?: level)?$`)

// atLevel reads a known name with a height beside it: "mae geri jodan", "Front kick high".
func (b *Reader) atLevel(l *PageLine) {
	if b.Named(l.Name) != nil || l.LeastLevel != "" {
		return
	}
	name, levels, modifiers := b.Glossed(l.Name)
	if m := lastLevel.FindStringSubmatch(l.Name); m != nil && len(levels) == 0 {
		name, levels = m[1], []notation.Level{curriculum.Meaning{Means: strings.ToLower(m[2])}.Level()}
	}
	if t := b.Named(name); t != nil && len(levels) == 1 && len(modifiers) == 0 {
		l.Name, l.LeastLevel = t.Name, levels[0]
	} else if m := lastLevel.FindStringSubmatch(l.Name); m != nil && !l.Plain && strings.Contains(m[1], " ") && !joins.MatchString(m[1]) && slices.Contains([]Kind{"strike", "kick"}, b.KindInName(m[1])) { // Side kick low
		l.Name, l.LeastLevel = m[1], curriculum.Meaning{Means: strings.ToLower(m[2])}.Level()
	}
}

// termShape is of remarks that may be a term: a few words, letters alone, none of them plain English.
var (
	termShape    = pattern.Of(`^\p{L}[\p{L}' -]{1,38}$`)
	plainEnglish = pattern.Of(`(?i)\b(an?|the|and|or|with|without|to|of|in|on|at|by|for|from|as|each|every|per|any|all|both|side|sides|hand|hands|leg|legs|arm|foot|feet|knee|slow|slowly|fast|left|right|lead|rear|front|back|low|high|mid|middle|step|stepping|partner|pad|pads|bag|air|static|moving|only|first|then|no|not|must|once|twice|times|good|full|half|new|old|kick|punch|block|stance|strike|form|eyes|guard|hips?|contact|self|optional)\b`)
)

// bracket takes what stands in brackets as the term, where the program says that it is one; where it
// does not say, it may be.
func (b *Reader) bracket(l *PageLine, said string) bool {
	if b.Program.SecondLanguage == "" || b.Program.Brackets == curriculum.BracketRemarks || l.Term != "" || !termShape.MatchString(said) || plainEnglish.MatchString(said) {
		return false
	}
	if b.Program.Brackets == curriculum.BracketTerms {
		l.Term = said
		return true
	}
	l.mayBeTerm = said
	return false
}
