package binder

import (
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// For whom a line is: Cubs only, adults only, 14 and over.

// trackOnly reads "Cubs only" and "Cubs: not needed", in the words of a part. Where no track is called so, those for adults are the ones that are
// not young, those for children the young ones.
func (b *Reader) trackOnly(l *PageLine, key string) bool {
	name, only := strings.CutSuffix(key, " only")
	not := false
	if !only {
		for _, end := range []string{" not needed", " exempt", " excused"} {
			if cut, found := strings.CutSuffix(key, end); found {
				name, not = strings.TrimRight(cut, ":"), true
			}
		}
	}
	name = strings.TrimPrefix(name, "for ")
	in := func(t curriculum.Track) bool { return check.Key(t.Name) == name }
	if !slices.ContainsFunc(b.Program.Tracks, in) {
		switch {
		case grownUps.MatchString(name):
			in = func(t curriculum.Track) bool { return !t.Young }
		case children.MatchString(name):
			in = func(t curriculum.Track) bool { return t.Young }
		default:
			return false
		}
		if young := func(t curriculum.Track) bool { return t.Young }; !slices.ContainsFunc(b.Program.Tracks, young) || !slices.ContainsFunc(b.Program.Tracks, func(t curriculum.Track) bool { return !t.Young }) {
			return false
		}
	}
	for _, t := range b.Program.Tracks {
		if in(t) == not {
			b.readTrack(l, "not", check.Key(t.Name))
		}
	}
	return true
}

var (
	// grownUps are those of tracks that are not young, children those of young ones.
	grownUps = pattern.Of(`^(?:adults?|seniors?|grown[ -]ups?|teens? (?:and|&) adults?|adults? (?:and|&) teens?)$`)
	children = pattern.Of(`^(?:kids?|child(?:ren)?|juniors?|minors?)$`)
	// fromAge is for whom from an age on: 14 and over only, over 16s, not under 12.
	fromAge = pattern.Of(`^(?:(?:only )?(?:for )?(?:over|above|from|age[sd]?) (\d{1,2})(?:['’]?s)?(?: ?\+| (?:and|&|or) (?:over|up|older|above)| up(?:wards)?)?` +
		`|(?:for )?(?:age[sd]? )?(\d{1,2}) ?(?:\+|(?:years?|yrs?)? ?(?:(?:and|&|or) (?:over|older|up|above)|\+))(?: years?)?|(?:not (?:for )?|no )(?:under|below) (\d{1,2})(?:['’]?s)?)(?: only)?$`)
)

// ofAge leaves a line out of the tracks that end before the age from which it is asked; the words stay, for tracks that have some below and some
// above it.
func (b *Reader) ofAge(l *PageLine, key string) {
	m := fromAge.FindStringSubmatch(key)
	if !b.saysAge(l, key) {
		return
	}
	from, _ := strconv.Atoi(m[1] + m[2] + m[3])
	for _, t := range b.Program.Tracks {
		if t.To > 0 && t.To < from {
			b.readTrack(l, "not", check.Key(t.Name))
		}
	}
}

// whomFirst begins a line with for whom it is: Adults: side kick, 1 board.
var whomFirst = pattern.Of(`^(\s*(?:[-–—*•] )?)(\pL[\pL -]{1,25}): *([^:]*\pL[^:]*)$`)

// amountsFor is how much of something for some and for others: Push ups: adults 30, cubs 10.
var amountsFor = pattern.Of(`^(\s*(?:[-–—*•] )?)(\pL[\pL -]*?)(?:: *|, | [-–—] )(\pL+):? (\d{1,3}),? (?:and |/ )?(\pL+):? (\d{1,3})$`)

// tracksCalled are the tracks of a word: of their name, or of those for grown-ups or for children.
func (b *Reader) tracksCalled(word string) (out []curriculum.Track) {
	var l PageLine
	if !b.trackOnly(&l, check.Key(word)+" only") {
		return nil
	}
	for _, t := range b.Program.Tracks {
		if !slices.ContainsFunc(l.Tracks, func(c curriculum.TrackChange) bool { return c.TrackID == t.ID && c.LeaveOut }) {
			out = append(out, t)
		}
	}
	return out
}

// boardsAlone are how many boards, which says nothing of what breaks them.
var boardsAlone = pattern.Of(`(?i)^\d{1,2} (?:\pL+ ){0,2}(?:boards?|bricks?|tiles?)$`)

// whomLast is a line with for whom it is behind what is asked.
func (b *Reader) whomLast(line string) string {
	m := whomFirst.FindStringSubmatch(line)
	if a := amountsFor.FindStringSubmatch(line); a != nil {
		if of := b.tracksCalled(a[5]); len(of) == 1 && len(b.tracksCalled(a[3])) > 0 { // the first amount is of all others
			return a[1] + a[2] + ", " + a[4] + ", " + a[6] + " for " + of[0].Name
		}
	}
	if m == nil || !b.trackOnly(&PageLine{}, check.Key(m[2])+" only") {
		return line
	}
	if first, _, _ := strings.Cut(m[3], ","); curriculum.IsAmount(strings.TrimSpace(first)) || boardsAlone.MatchString(first) {
		return line
	}
	return m[1] + capitalised(m[3]) + ", " + m[2] + " only"
}

// ageLast is an age behind what is asked, with or without a sign between: Axe kick over 14s; Jump kick - not under 10; Back kick 16 and over.
var ageLast = pattern.Of(`(?i)^(.*?\pL)(?: [-–—]|:|,)? ((?:only )?(?:for )?(?:not (?:for )?(?:under|below) ` + anAge + `(?:['’]?s)?|(?:over|above|under|below) ` + anAge + `['’]?s` +
	`|(?:age[sd]? )?` + anAge + ` (?:years? |yrs )?(?:and|&|or) (?:over|older|up|above))(?: only)?)$`)

// anAge is an age at which a track may begin or end.
const anAge = `(?:[4-9]|1\d|2[01])`

// lasting are the kinds of what is held or lasts, where over 15s is how long.
var lasting = []Kind{"fitness", "balance", "stance"}

// overSeconds is an age or a time.
var overSeconds = pattern.Of(`^over \d{1,2}s$`)

// saysAge reports whether a part of a line is from which age on it is asked.
func (b *Reader) saysAge(l *PageLine, key string) bool {
	return fromAge.MatchString(key) && !(overSeconds.MatchString(key) && slices.Contains(lasting, b.kindOf(l)))
}

// ageInBrackets puts an age at the end of a line in brackets, before it is taken for how many or, of an s behind it, for how long. What is held
// or lasts keeps its seconds: plank over 15s.
func ageInBrackets(line string) string {
	m := ageLast.FindStringSubmatch(line)
	if m == nil || strings.Contains(line, "\t") || slices.Contains(lasting, curriculum.KindInWords(m[1])) {
		return line
	}
	return m[1] + " (" + m[2] + ")"
}
