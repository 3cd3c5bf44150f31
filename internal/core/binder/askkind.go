package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Whether something is of the kind under which it stands.

// firstPerson is a sentence of whoever is tested.
var firstPerson = pattern.Of(`(?i)^i (?:know|do|am|have|listen|help|tidy|say|share|come|practi[sc]e|wear|tell|try|never|always)\b`)

// alsoKicks are names of strikes that under Kicks are kicks.
var alsoKicks = pattern.Of(`(?i)\b(?:k?nees?|hooks?|cross|k?nee strikes?)$`)

// stopsWhat is a block by what it stops: catch jab.
var stopsWhat = pattern.Of(`(?i)^(?:catch|stop|parry|jam|check|deflect) `)

// versus joins on what something is done against: long guard vs. jab.
var versus = pattern.Of(`(?i) (?:against|vs\.?|versus|from) `)

// aKind is a kind with its article: a strike, an evasion.
func aKind(k Kind) string {
	if words := k.Words(); strings.ContainsRune("aeiou", rune(words[0])) {
		return "an " + words
	}
	return "a " + k.Words()
}

// stopsAKick is a block by what is done to a kick or a punch.
var stopsAKick = pattern.Of(`(?i)^(?:block|check|cover|scoop|absorb|catch|stop|parry|deflect|jam|redirect)(?:ing)? `)

// askCalled asks where a name is called as another kind is.
func (b *Reader) askCalled(l *PageLine, words []string) {
	if l.Said == "" && slices.Contains(curriculum.Basic, l.Kind) && b.KindInName(l.Name) == "form" {
		l.doubt(fmt.Sprintf("%s stands under %s and is called a form; write “form” on the line, or a heading above it", l.Name, l.Section))
	}
	if is := b.KindInName(words[len(words)-1]); l.Said == "" && !(l.Kind == "kick" && alsoKicks.MatchString(l.Name)) && curriculum.UsualKind(l.under.section) == l.Kind && slices.Contains(curriculum.Basic, is) && slices.Contains(curriculum.Basic, l.Kind) && is != l.Kind && !(l.Kind == "block" && stopsWhat.MatchString(l.Name)) && !((is == "stance" || versus.MatchString(l.Name)) && b.KindInName(l.Name) == l.Kind) {
		l.doubt(fmt.Sprintf("%s stands under %s and is called %s; write “%s” on the line, or a heading above it", l.Name, l.Section, aKind(is), is.Words()))
	}
	if is := b.KindInName(l.Name); l.Said == "" && l.under.kind == "" && slices.Contains(curriculum.Basic, l.Kind) && slices.Contains([]Kind{"lock", "throw", "breakfall", "self_defence", "partner_set"}, is) && !slices.Contains(curriculum.Basic, b.KindInName(words[len(words)-1])) && !(l.Kind == "kick" && is == "throw") && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it"), aKind(is), is.Words()))
	}
	if is := b.KindInName(l.Name); l.Said == "" && slices.Contains([]Kind{"strike", "kick"}, l.Kind) && (is == "evasion" && len(words) > 1 || is == "block" && stopsAKick.MatchString(l.Name) && !strings.HasPrefix(strings.ToLower(l.Name), "stop kick")) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it"), aKind(is), is.Words()))
	}
	if l.Kind == "self_defence" && attackInWords.MatchString(l.Name) && !versus.MatchString(l.Name) && l.Note != "" && unicode.IsUpper([]rune(l.Note)[0]) && l.Moves == "" {
		l.doubt(fmt.Sprintf("%s is read as the name and “%s” as a remark; where it is the attack, write the name first", l.Name, l.Note))
	}
	if is := b.KindInName(l.Name); l.Said == "" && !l.usual && is != "" && is != l.Kind && slices.Contains(curriculum.SaidKinds, l.Kind) {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, l.Section, aKind(is), is.Words()))
	}
}

// afterLast is a name that ends with what is done before it: circle out after combo.
var afterLast = pattern.Of(`(?i)\b(?:after|off|following|out of) (?:an? |the |your )?[\pL-]+$`)

// askKind asks where what stands in a section reads like another kind.
func (b *Reader) askKind(l *PageLine, words []string) {
	if is := b.KindInName(l.Name); l.Said == "" && l.Kind == "sparring" && is != "" && is != "sparring" && is != "partner_set" && (l.usual || l.Quantity.Measure != curriculum.RoundsTimed) && !limbWords.MatchString(l.Name) {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, l.Section, aKind(is), is.Words()))
	}
	if l.Said == "" && curriculum.KindInWords(l.Name) == "sparring" && !(l.Kind == "fitness" && strings.Contains(strings.ToLower(l.Name), "shadow")) && !slices.Contains([]Kind{"sparring", "partner_set", "knowledge", "character", "courtesy"}, l.Kind) {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like sparring; write “sparring round” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
	if last := b.KindInName(words[len(words)-1]); l.Said == "" && curriculum.KindInWords(l.Name) == "fitness" && !slices.Contains(curriculum.Basic, last) && !(l.Kind == "self_defence" && awayFrom.MatchString(l.Name)) && !(l.Kind == "evasion" && curriculum.MovesAbout.MatchString(strings.ToLower(l.Name))) && !slices.Contains([]Kind{"fitness", "knowledge", "character", "courtesy"}, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like a fitness item; write “fitness” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
	if is := curriculum.KindInWords(l.Name); l.Said == "" && is != "" && is != l.Kind && !ofAForm.MatchString(l.Name) && !(l.Kind == "footwork" && afterLast.MatchString(l.Name)) && !(is == "courtesy" && l.Kind == "stance") && len(l.Doubts) == 0 && curriculum.KindInWords(words[len(words)-1]) != l.Kind && !slices.Contains(goesUnder[l.Kind], is) && !(l.Kind == "fitness" && !l.usual && slices.Contains([]Kind{"strike", "kick"}, is)) {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it"), aKind(is), is.Words()))
	}
	if q := l.Quantity; l.Kind == "sparring" && q.PerSide() && q.Seconds > 0 && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read; rounds are written as for example 3 x %d s", q, q.Seconds))
	}
	if l.Said == "" && l.usual && l.Kind == "sparring" && !sparred.MatchString(l.Name+" "+l.Note) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read as rounds of %s; where it is no sparring, write its kind on the line, or a heading above it", l.Name, l.Quantity))
	}
	if !l.usual && l.Quantity.Measure == curriculum.RepsInAll && l.Kind == "self_defence" && manyOf.MatchString(l.Text) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%d is read as the amount; where it is how many different ones, write a line for each", l.Quantity.Reps))
	}
	if l.Said == "" && l.usual && l.Kind == "fitness" && b.KindInName(l.Name) != "fitness" && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and says neither how many nor how long; write that behind the name, or the kind it is of", l.Name, cmp.Or(l.Section, "it")))
	}
	if m := lengthsNoted.FindString(l.Note); l.usual && m != "" && slices.Contains(curriculum.Basic, l.Kind) && len(l.Doubts) == 0 { // up the hall and back
		l.doubt(fmt.Sprintf("“%s” is read as a remark; write how often that is, for example 5 a side or 10", m))
	}
	if m := timeNoted.FindString(l.Note); l.usual && m != "" && slices.Contains(curriculum.Basic, l.Kind) && len(l.Doubts) == 0 { // of a whole round
		l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is the amount, write for example 5 a side, 10 or 60 s", m))
	}
	if l.Said == "" && l.Quantity.Measure == curriculum.Timed && slices.Contains([]Kind{"breakfall", "throw"}, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read as a %s for %s; where it is sparring or fitness, write that on the line", l.Name, l.Kind.Words(), l.Quantity))
	}
	if l.Said == "" && l.Quantity.Measure == curriculum.RoundsTimed && slices.Contains([]Kind{"self_defence", "form", "lock", "throw", "breakfall", "board_break"}, l.Kind) {
		l.doubt(fmt.Sprintf("%s stands under %s with rounds; where it is sparring, write “sparring round” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
	if l.Kind != "breakfall" && curriculum.BodyHeight.MatchString(strings.ToLower(l.Name)) && strings.TrimSpace(curriculum.BodyHeight.ReplaceAllString(strings.ToLower(l.Name), "")) == "" {
		l.doubt(fmt.Sprintf("%s says how high and not what; write it behind what is shown so", l.Name))
	}
	if l.Said == "" && l.under.partly && b.KindInName(l.Name) == "" && slices.Contains(amounted, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under a heading of several things, and is read as %s; where it is another, write its kind on the line", l.Name, aKind(l.Kind)))
	}
	if l.Said == "" && firstPerson.MatchString(l.Name) && slices.Contains(amounted, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like no technique; write its kind on the line, for example knowledge question or character task", l.Name, cmp.Or(l.Section, "it")))
	}
	if l.Said == "" && (strings.HasSuffix(l.Name, "?") || l.Note == "" && l.Quantity.Measure != curriculum.RoundsTimed && talkOf.MatchString(l.Name)) && !slices.Contains(curriculum.SaidKinds, l.Kind) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s stands under %s and reads like a question; write “knowledge question” on the line, or a heading above it", l.Name, cmp.Or(l.Section, "it")))
	}
}

// lengthsNoted is how far, which is no amount.
var lengthsNoted = pattern.Of(`(?i)\b(?:\d{1,2}|one|two|three|four) (?:lengths?|widths?|laps?)(?: (?:each|of the (?:hall|dojo|room|mat|gym)))?\b`)

// talkOf is spoken of and not done: stranger danger talk.
var talkOf = pattern.Of(`(?i)(?:\btalk|\bdiscussion|\brules)$|^knowledge of\b|^(?:talk|speak) about\b|^discuss\b`)

// goesUnder are, by the kind of a section, the others whose words its lines may be named with.
var goesUnder = map[Kind][]Kind{
	"board_break": {"kick", "strike"}, "kick": {"strike", "block", "evasion", "throw", "fitness"}, "strike": {"footwork", "fitness"}, "block": {"strike", "evasion"}, "evasion": {"block", "footwork", "breakfall", "fitness"}, "combination": {"kick", "strike", "block", "evasion", "footwork"},
	"self_defence": {"strike", "kick", "block", "evasion", "throw", "lock", "footwork", "courtesy", "breakfall", "combination", "knowledge"}, "partner_set": {"strike", "kick", "block", "sparring", "self_defence"}, "sparring": {"partner_set", "kick", "strike"},
	"form": {"strike", "kick", "block", "stance", "combination", "footwork"}, "fitness": {"stance", "balance", "footwork", "throw"}, "footwork": {"stance", "evasion", "block", "kick", "strike"}, "stance": {"footwork", "balance"}, "lock": {"throw", "self_defence"}, "throw": {"lock", "self_defence", "breakfall"},
	"breakfall": {"throw", "footwork"}, "courtesy": {"character", "knowledge"}, "character": {"courtesy", "knowledge"}, "knowledge": curriculum.Kinds, "balance": {"stance", "kick", "fitness"},
}

// awayFrom is what somebody does to get away, which is no exercise.
var awayFrom = pattern.Of(`(?i)\b(?:shout|yell|stop|no|push|away|safe|help|grown[- ]?up|adult|teacher|tell)\b`)

var (
	// sparred are words for what is sparred.
	sparred = pattern.Of(`(?i)\b(?:spar|fight|box|wrestl|grappl|roll|bouts?|rounds?|contact|randori|\S*kumite|kyorugi|gyeorugi|taeryon|opponents?|partners?|attackers?|vs|against|light|points?|body|gloves?|match|games?|tag|continuous|clinch|ground|mma|hands|feet|kicks|punches|free|one|two|three)`)
	// arranged are words for what partners show in turn, not freely.
	arranged = pattern.Of(`(?i)\b(?:yakusoku|ippon|nihon|sanbon|gohon|(?:one|two|three|five|\d)[- ]steps?|arranged|pre-?arranged)\b`)
	// manyOf is a number behind a colon: Defence against a stick: 2.
	manyOf = pattern.Of(`: ?\d{1,2}$`)
)

// timeNoted is how long something is, in a remark.
var timeNoted = pattern.Of(`(?i)\b\d{1,2} ?(?:mins?|minutes?|secs?|seconds?)\b`)
