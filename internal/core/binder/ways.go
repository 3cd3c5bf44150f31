package binder

import (
	"slices"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Ways of one technique in a line: Hammer fist: side, down; blocks high low middle.

// waysOf is a strike, by the word that names it, and two or more ways of it: Hammer fists: downwards, sideways; Elbow - up, in, 5 each.
var waysOf = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:hammer[ -]?|back[ -]?|knife[ -]?|ridge[ -]?)?(?:fist|hand|elbow|knee|knuckle|chop|palm|palm heel|heel palm))` +
	`(?:s?| strikes?)(?::|,| [-–—]) *` +
	`((?:` + strikeWay + `)(?:(?:, ?| ?/ ?|,? and | ?& ?)(?:` + strikeWay + `))+)((?:,| [-–—x]|:)? ?(?:x ?)?\d.*)?$`)

// strikeWay is a way in which an arm or a knee strikes.
const strikeWay = `(?:straight )?(?:(?:up|down|in|out|side|back|for)wards?|sideways|up|down|in|out|side|back|round|across|over(?:hand|head)?|horizontal|vertical|diagonal|rising|reverse|straight)`

var (
	// wayBetween stands between two ways.
	wayBetween = pattern.Of(`(?i), ?| ?/ ?|,? and | ?& ?`)
	// wayAhead is a way that stands before the name.
	wayAhead = pattern.Of(`(?i)^(?:horizontal|vertical|diagonal|rising|reverse|straight|overhead|overhand)$`)
)

// waysOfOne is a line for each of several ways of a strike, with how often behind each; nil where a line says no such.
func waysOfOne(line string) (out []string) {
	m := waysOf.FindStringSubmatch(line)
	if m == nil || curriculum.KindInWords(m[2]) != "strike" {
		return nil
	}
	much := strings.TrimSuffix(strings.TrimLeft(m[4], " ,:–—-"), " of each")
	for _, way := range wayBetween.Split(m[3], -1) {
		one := m[2] + " " + strings.ToLower(way)
		if wayAhead.MatchString(way) {
			one = way + " " + strings.ToLower(m[2])
		}
		if much != "" {
			one += ", " + much
		}
		out = append(out, m[1]+capitalised(one))
	}
	return out
}

// wayPair are two ways that make two techniques of one, and wayNoun the words of those.
const (
	wayPair = `(?:inside|outside|inner|outer|inwards?|outwards?|upwards?|downwards?)`
	wayNoun = `(?:kick|punch|strike|block|elbow|fist|hand|forearm|crescent|uke|geri|parry|stance)s?`
	wayJoin = `(?: and | ?& ?| ?/ ?)`
	muchEnd = `((?:,| -| –| \(| [x×])? ?\d.*)?`
)

var (
	// twoBehind are such ways behind the name: Low kick inside and outside, 10 each leg.
	twoBehind = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:\pL[\pL-]* ){0,3}` + wayNoun + `),? (` + wayPair + `|in|up)` + wayJoin + `(` + wayPair + `|out|down)` + muchEnd + `$`)
	// twoAhead are such ways before it: High and low block.
	twoAhead = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(` + wayPair + `|high|low|middle|rising|front|back|side)` + wayJoin + `(` + wayPair + `|high|low|middle|rising|front|back|rear|side|round) ((?:\pL[\pL-]* )?` + wayNoun + `)` + muchEnd + `$`)
)

// twoApart are the lines for the two techniques of such a line, with how often behind each; nil where it is none.
func twoApart(line string) []string {
	if m := twoBehind.FindStringSubmatch(line); m != nil && slices.Contains(curriculum.Basic, curriculum.KindInWords(m[2])) && !upAndDown.MatchString(line) {
		name := m[1] + strings.TrimSuffix(m[2], "s") + " "
		return []string{name + strings.ToLower(m[3]) + m[5], name + strings.ToLower(m[4]) + m[5]}
	}
	if m := twoAhead.FindStringSubmatch(line); m != nil && slices.Contains(curriculum.Basic, curriculum.KindInWords(m[4])) {
		name := " " + strings.ToLower(strings.TrimSuffix(m[4], "s")) + m[5]
		return []string{m[1] + m[2] + name, m[1] + capitalised(strings.ToLower(m[3])) + name}
	}
	if m := slashed.FindStringSubmatch(line); m != nil { // Block up / block down
		one, two := strings.ToLower(m[2]), strings.ToLower(m[3])
		kind := curriculum.KindInWords(one)
		same := slices.ContainsFunc(strings.Fields(one), func(w string) bool {
			return slices.Contains(strings.Fields(two), w) && curriculum.KindInWords(w) == kind
		})
		if same && kind == "block" && curriculum.KindInWords(two) == kind {
			return []string{m[1] + m[2] + m[4], m[1] + capitalised(m[3]) + m[4]}
		}
	}
	return nil
}

// slashed are two names with a sign between.
var slashed = pattern.Of(`^(\s*(?:[-–—*•] )?)(\pL+ \pL[\pL -]*?) ?/ ?(\pL+ \pL[\pL -]*?)` + muchEnd + `$`)

// upAndDown is a way through the hall.
var upAndDown = pattern.Of(`(?i)\bup(?: and | ?& ?)down\b`)

// waysInRow are three ways of one kind or more, with nothing between, and what is said of all: high low middle x 5 each side.
var waysInRow = pattern.Of(`(?i)^((?:(?:high|low|middle|mid|rising|inside|outside|inner|outer|inward|outward|upward|downward|front|back|side|round|in|out|up|down) ?){3,}?)((?: ?[x×–-]? ?\d.*)?)$`)

// waysApart puts commas between such ways.
func waysApart(kind Kind, said string) string {
	m := waysInRow.FindStringSubmatch(strings.TrimSpace(said))
	if m == nil || headNouns[kind] == "" {
		return said
	}
	if said = strings.Join(strings.Fields(m[1]), ", "); m[2] != "" {
		said += ", " + strings.TrimLeft(m[2], " x×–-")
	}
	return said
}

// nounOfAll are several of one kind with its word behind the last: low, middle and high block, 5 each.
var nounOfAll = pattern.Of(`^(\s*(?:[-–—*•] )?)([\pL-]+(?:, [\pL-]+)+,? (?:and|&) [\pL-]+) (\pL+)((?:,| -| –| \(| [x×]? ?\d).*)?$`)

// waysBefore are three or more ways of one kind of thing, with its word for many behind them: front side round kicks, 5 each.
var waysBefore = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:(?:up|down|in|out|inside|outside|inward|outward|front|side|back|round|high|low|middle|rising|hook|axe|crescent|push|inner` +
	`|outer) ){3,})(kicks|blocks)((?:,| -| –| \(| [x×]? ?\d).*)?$`)

// limbNoun is the word of a strike with a part of the arm.
var limbNoun = pattern.Of(`(?i)^(?:elbow|punch|fist|forearm|palm)(?:e?s)?$`)

// sharedNoun are the lines that such a line stands for; nil where it is none.
func (b *Reader) sharedNoun(line string) (out []string) {
	m := nounOfAll.FindStringSubmatch(line)
	if run := waysBefore.FindStringSubmatch(line); run != nil { // up down in out blocks
		m = []string{line, run[1], strings.Join(strings.Fields(run[2]), ", "), run[3], run[4]}
	}
	if m == nil || b.Named(strings.TrimSpace(line)) != nil || !slices.Contains([]Kind{"kick", "block", "stance"}, b.KindInName(m[3])) && !limbNoun.MatchString(m[3]) {
		return nil
	}
	for _, name := range strings.FieldsFunc(andWord.ReplaceAllString(m[2], ","), func(r rune) bool { return r == ',' }) {
		if name = strings.TrimSpace(name); !waysBefore.MatchString(line) && (!shortName.MatchString(name) || b.KindInName(name) != "") {
			return nil
		}
		out = append(out, m[1]+capitalised(name)+" "+strings.TrimSuffix(m[3], "s")+m[4])
	}
	return out
}

// fallsAside is one of a list of falls to a side that says the side alone.
var fallsAside = pattern.Of(`(?i)(^|, ?|,? and | ?& ?)(left|right)(?: sides?)?(,|,? and | ?&|$)`)

// sideFalls writes what it is to such falls under a heading: back, left, right.
func sideFalls(head string, kind Kind, said string) string {
	if kind != "breakfall" {
		return said
	}
	noun := "breakfall"
	if own := ownNoun(head, kind); own != "" {
		noun = own
	}
	for range 2 { // of two in a row the first takes the comma
		said = fallsAside.ReplaceAllString(said, "$1$2 side "+noun+"$3")
	}
	return said
}
