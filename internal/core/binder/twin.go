package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
)

// Lines of a page that name the same with different remarks, which a test sheet would show as one.

// asAsked is what a line asks but for how much and its remark.
type asAsked struct {
	name    string
	role    curriculum.Role
	setting curriculum.Setting
	level   notation.Level
	stage   int
	entries string
	tracks  int
	slow    bool
	nonStop bool
	free    bool
}

// asks is what a line asks in that sense.
func (l *PageLine) asks() asAsked {
	return asAsked{check.Key(l.Name), l.Role, l.Setting, l.LeastLevel, l.StageCap, strings.Join(l.Entries, "/"), len(l.Tracks), l.Slow, l.NonStop, l.Free}
}

// apart reports whether a line is none that another could be shown as one with: told, set aside, to be corrected or shown again anyway.
func (l *PageLine) apart() bool {
	return l.Problem != "" && !l.kindless || l.Aside != "" || l.ShowAgain || slices.Contains(curriculum.SaidKinds, l.Kind)
}

// twins keeps lines apart that name the same and differ in their remark: where that says which of them it is, and they are new, by names of
// their own; else what comes later is shown again. Of one side each they become one line.
func twins(lines []PageLine) {
	same := map[asAsked][]int{}
	for i := range lines {
		l := &lines[i]
		if l.apart() {
			continue
		}
		k := l.asks()
		same[k] = append(same[k], i)
	}
	for i := range lines { // in the order of the page
		for _, at := range same {
			if at[0] != i || len(at) < 2 {
				continue
			}
			group := make([]*PageLine, len(at))
			for n, k := range at {
				group[n] = &lines[k]
			}
			tellApart(group)
		}
	}
	otherHeights(lines)
}

// otherHeights shows again what names the same at another height and says something of its own: Roundhouse, low; Roundhouse, to the body.
func otherHeights(lines []PageLine) {
	heights := map[asAsked]*PageLine{}
	for i := range lines {
		l := &lines[i]
		if l.apart() {
			continue
		}
		k := l.asks()
		k.level = ""
		if before := heights[k]; before != nil && before.LeastLevel != l.LeastLevel && before.Note+l.Note != "" && check.Key(before.Note) != check.Key(l.Note) {
			l.ShowAgain = true
		}
		heights[k] = l
	}
}

// tellApart settles lines that name the same.
func tellApart(group []*PageLine) {
	notes := map[string]bool{}
	for _, l := range group {
		notes[check.Key(l.Note)] = true
	}
	first := group[0]
	switch {
	case len(notes) < len(group): // said twice: shown once is enough
	case len(group) == 2 && oneSideEach(group) && first.Quantity == group[1].Quantity && first.Quantity.Measure == curriculum.RepsInAll:
		first.Quantity.Measure, first.Note = curriculum.RepsPerSide, ""
		group[1].Aside = fmt.Sprintf("the other side of line %d, which is asked on each", first.Number)
	case !slices.ContainsFunc(group, func(l *PageLine) bool {
		return !l.New || l.Moves != "" || l.Note != "" && (!l.namesWhich() || sideOrPart.MatchString(l.Note))
	}):
		for _, l := range group {
			if l.Note != "" {
				if m := whichLimb.FindStringSubmatch(l.Note); m != nil && check.Key(m[2]) == "leg" {
					l.Modifiers = append(l.Modifiers, map[string]curriculum.Modifier{"lead": "lead-leg", "front": "lead-leg", "rear": "rear-leg", "back": "rear-leg"}[check.Key(m[1])])
				}
				l.Name, l.Note = l.Name+", "+l.Note, ""
			}
		}
	default:
		for _, l := range group[1:] {
			l.ShowAgain = true
		}
	}
}

var (
	// sideOrPart is a side or a part of what is named, which is none of its own: other side, first half.
	sideOrPart = pattern.Of(`(?i)^(?:the )?(?:(?:other|left|right|both) sides?|(?:first|second|last) (?:half|part))(?: only| too)?$`)
	// sideAlone is one side.
	sideAlone = pattern.Of(`(?i)^(?:(?:on|with|to) )?(?:the |your )?(l|left|r|right)(?: (?:side|leg|hand|arm|foot))?(?: only)?$`)
	// whichLimb says with which limb something is done.
	whichLimb = pattern.Of(`(?i)^(?:(?:with|off) )?(?:the )?(lead|rear|front|back)(?: (leg|hand|arm|foot|elbow))?$`)
	// goesWhere says which way something goes.
	goesWhere = pattern.Of(`(?i)^(?:in|out|inwards?|outwards?|inside|outside|inner|outer|upwards?|downwards?|rising|falling|forwards?|backwards?|horizontal|vertical|straight|round|hooking|thrust(?:ing)?|snap(?:ping)?)$`)
	// whichHold says how, or from where, somebody is held.
	whichHold = pattern.Of(`(?i)^(?:from |on |against )?(?:the |a )?(?:front|back|rear|behind|side|above|below|inside|outside|ground|floor|wall|standing|kneeling)$|^(?:same|opposite|other|mirror|cross(?:ed)?)(?: ?-?(?:side|hand|arm|lapel))?$|^(?:straight|diagonal|single|double|(?:one|two|both)(?: |-)(?:hands?|handed)|high|low|overhead|thrust|slash)$|^(?:the )?(?:first|second|third|1st|2nd|3rd) (?:way|version|variation|method)$|^arms? (?:free|pinned|trapped|in|out)$|^(?:over|under)(?: the)? arms?$`)
)

// whichOne lets a line name another than a technique that is known where a rung asks that one with a remark that says which of several it is,
// and the line has another such: Bear hug (arms free) at one rung, Bear hug (arms trapped) at the next.
func (b *Reader) whichOne(l *PageLine) {
	t := b.Named(l.Name)
	if t == nil || l.Note == "" || l.Moves != "" {
		return
	}
	of := PageLine{Kind: t.Kind, Requirement: l.Requirement}
	if full := b.Named(t.Name + ", " + l.Note); full != nil {
		l.Name, l.Note = full.Name, ""
		return
	}
	if !of.namesWhich() {
		return
	}
	another := false
	for _, r := range b.Requirements {
		if r.TechniqueID != t.ID {
			continue
		}
		x := PageLine{Kind: t.Kind, Requirement: r}
		if check.Key(r.Note) == check.Key(l.Note) || r.Note == "" {
			return
		}
		another = another || x.namesWhich()
	}
	if another {
		l.Said, l.Name, l.Note = cmp.Or(l.Said, t.Kind), t.Name+", "+l.Note, ""
	}
}

// oneSideEach reports whether of two lines one says left and the other right.
func oneSideEach(group []*PageLine) bool {
	one, two := sideAlone.FindStringSubmatch(group[0].Note), sideAlone.FindStringSubmatch(group[1].Note)
	return one != nil && two != nil && !strings.EqualFold(one[1][:1], two[1][:1])
}

// namesWhich reports whether the remark of a line says which of several it is: with the lead leg, held from behind.
func (l *PageLine) namesWhich() bool {
	for part := range strings.SplitSeq(l.Note, ", ") {
		held := slices.Contains([]Kind{"self_defence", "lock", "throw", "partner_set"}, l.Kind) && whichHold.MatchString(part)
		if !held && !(slices.Contains(curriculum.Basic, l.Kind) && (whichLimb.MatchString(part) || goesWhere.MatchString(part))) {
			return false
		}
	}
	return true
}
