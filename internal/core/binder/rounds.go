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

// Rounds, and on what they are worked.

// onWhatNamed takes the setting of a line from its name, where that says one; what is worked in a round on pads is free.
func (l *PageLine) onWhatNamed() {
	if m := hitsWhat.FindStringSubmatch(l.Name); m != nil && !pastWhat.MatchString(l.Name) && slices.Contains([]Kind{"strike", "kick"}, l.Kind) { // punch the pad
		l.Setting = cmp.Or(l.Setting, settingSaid("on "+check.Key(m[1])))
	}
	if m := onWhat.FindString(l.Name); l.Kind == "combination" && l.Moves == "" && m != "" && roundWord.MatchString(l.Name) { // Pad round
		if l.Free = true; l.Setting == "" || l.Setting == l.under.setting {
			l.Setting = settingSaid("on " + check.Key(m))
		}
	}
}

var roundsSaidAlone = pattern.Of(`^(\d{1,2}) rounds?(?: (continuous|non-?stop|light|light contact|free|technical|points?|of sparring))?$`)

// padsLast is on what rounds are worked, as all that is said of them.
var padsLast = pattern.Of(`(?i)\d ?(?:s|secs?|seconds?|m|mins?|minutes?)?,? (?:on (?:the )?)?(?:(?:focus|thai|kick|heavy) )?(?:pads?|mitts?|bag|shields?)(?: ?work)?$`)

// roundsOn are rounds of something, with how long they are behind it.
var roundsOn = pattern.Of(`(?i)^(\d{1,2}|one|two|three|four|five) rounds? (?:of |on )?(?:the )?(\pL[\pL -]*?)(?:,| -| –) *(\d[\d:]* ?\pL*)(?: each| per round)?$`)

// boutsOf are rounds told by how many others: 4 opponents, 1½ minutes each.
var boutsOf = pattern.Of(`(?i)^(\d{1,2}|one|two|three|four|five) (?:different |new |fresh )?(opponents?|partners?|bouts?|fights?|matches)(?:,| of| for| x` +
	`|:)? *(\d[\d:½.]* ?(?:s|secs?|seconds?|m|mins?|minutes?))(?: each)?\b(.*)$`)

// contactFirst are words of contact or limbs before rounds.
var contactFirst = pattern.Of(`(?i)^((?:no|non|light|touch|semi|full|controlled|soft)[- ]contact|hands only|kicks only|body only|boxing only|light|technical|soft) +(\d.*)$`)

// padRounds is whether rounds are worked on pads or on the bag, where the heading or the line puts them there; "" it does neither.
func padRounds(l *PageLine, text string) curriculum.Setting {
	on := l.under.setting
	if m := onWhat.FindString(text); m != "" {
		on = settingSaid("on " + check.Key(m))
	}
	if on == "pads" || on == "bag" {
		return on
	}
	return ""
}

// roundsOfThing names rounds that are called by what they are worked on alone: Bag: 2 x 2 min.
func (l *PageLine) roundsOfThing(kind Kind) {
	on := thingAlone.FindString(check.Key(l.Name))
	if on == "" || l.Quantity.Measure != curriculum.RoundsTimed || l.Said != "" {
		return
	}
	l.Name, l.Setting = capitalised(strings.TrimSuffix(on, "s"))+" rounds", settingSaid("on "+on)
	if kind != "fitness" { // worked freely
		l.Said, l.Free = "combination", true
	}
}

// pastWhat is what is not hit: jump kick over the pad.
var pastWhat = pattern.Of(`(?i)\b(?:over|past|behind|around|round|without) the \pL+$`)

// hitsWhat is the name of what goes to a pad or the bag.
var hitsWhat = pattern.Of(`(?i)\bthe ((?:focus |kick |heavy )?(?:pads?|mitts?|shields?|bag))(?: hard| \pL+ly)?$`)

// roundWord speaks of a round.
var roundWord = pattern.Of(`(?i)\brounds?\b|^(?:\pL+ )?(?:pad|bag|mitt|shield) ?work$`)

// onWhat is what rounds are done on.
var onWhat = pattern.Of(`(?i)\b(?:pads?|mitts?|shields?|bag)\b`)

// roundsThenHow parts what says how many rounds from what is said of them in brackets or behind a comma: 2 rounds, no contact to the head.
func roundsThenHow(text string) (before, rest string) {
	if before = text; strings.ContainsAny(text, "(;") {
		at := strings.IndexAny(text, "(;")
		before, rest = text[:at], text[at:]
	}
	if first, more, found := strings.Cut(before, ","); found && roundsSaidAlone.MatchString(check.Key(first)) && !strings.ContainsFunc(more, unicode.IsDigit) {
		return first, "," + more + rest
	}
	return before, rest
}

// roundsAlone reads an amount alone under Sparring, which is its round: "2 x 90 secs, light contact"; rounds on pads or on the bag are
// worked freely.
func (b *Reader) roundsAlone(l *PageLine, line []rune) bool {
	text := strings.TrimSpace(string(line))
	text = text[listed(text):]
	before, rest := roundsThenHow(text)
	if m := roundsOn.FindStringSubmatch(before); m != nil && curriculum.IsAmount(m[1]+" x "+m[3]) { // 2 rounds pads, 2 min each
		before = m[1] + " x " + m[3] + ", " + m[2]
		if thingAlone.MatchString(check.Key(m[2])) {
			before = m[1] + " x " + m[3] + ", on " + m[2]
		}
	}
	if m := boutsOf.FindStringSubmatch(text); m != nil && curriculum.IsAmount(m[1]+" x "+m[3]) { // 4 opponents, 1½ minutes each
		before, rest = m[1]+" x "+m[3]+", "+m[1]+" "+m[2], m[4]
	}
	if m := contactFirst.FindStringSubmatch(before); m != nil { // no contact 1 x 2 min
		before, rest = m[2], ", "+m[1]+rest
	}
	if m := roundsSaidAlone.FindStringSubmatch(check.Key(before)); m != nil && b.sparringKind(l) == "sparring" { // 2 rounds, of which nothing says how long
		l.Name, l.Role, l.Weight, l.Note = "Sparring", curriculum.Roles[0], 1, before
		if said := b.behind(l, []rune(rest), 0); l.Problem == "" {
			b.lineParts(l, said, 1)
		}
		b.finish(l, false)
		return true
	}
	words := strings.Fields(before)
	for n := len(words); n > 0; n-- {
		q, err := curriculum.ParseQuantity(strings.TrimRight(strings.Join(words[:n], " "), ",-–—"))
		if err != nil || q.Measure != curriculum.RoundsTimed && q.Measure != curriculum.Timed {
			continue
		}
		name := "Sparring"
		if on := padRounds(l, text); b.sparringKind(l) != "sparring" || l.Said == "" && on != "" && padsLast.MatchString(text) { // 2 x 3 min pads, under Sparring too
			if name = "Rounds"; on == "" || q.Measure != curriculum.RoundsTimed && !roundWord.MatchString(text) {
				return false
			}
			kind := cmp.Or(l.Said, b.sparringKind(l))
			if l.Said, l.Free = cmp.Or(l.Said, "combination"), true; kind == "fitness" {
				l.Said, l.Free, name = kind, false, strings.TrimSuffix(capitalised(string(on)), "s")+" rounds" // Bag: 2 x 2 min, under Fitness
			}
			if m := onWhat.FindString(text); m != "" {
				l.Setting = settingSaid("on " + check.Key(m))
			}
		}
		l.Name, l.Quantity, l.Role, l.Weight = name, q, curriculum.Roles[0], 1
		parts := b.behind(l, []rune(", "+strings.TrimLeft(strings.Join(words[n:], " "), ",-–— ")+rest), 0)
		if l.Problem == "" {
			b.lineParts(l, parts, 1)
		}
		if l.Quantity != q && l.Quantity.Rest == q.Rest {
			l.doubt(fmt.Sprintf("there are two amounts, %s and %s; the last one is taken", q, l.Quantity))
		}
		b.finish(l, true)
		return true
	}
	return false
}

const (
	howMany = `(\d{1,2}|one|two|three|four|five|six|eight|ten)`
	howLong = `(\d[\d:.½]*|one|two|three|half a|an?)[ -]?(mins?|minutes?|m|secs?|seconds?|s|['’′])`
)

var (
	// roundsSaid are rounds in the ways they are written: 3 rounds of 2 minutes, 3x2 min, 3 two-minute rounds, 3 x 2.
	roundsSaid = pattern.Of(`(?i)^(.*?)\b(?:` + howMany + ` ?(?:(?:rounds?|rds?|rnds?|bouts?|fights?)(?:,| -)? ?(?:x|×|of|for|at)?|[x×]) ?` + howLong + `(?: each)?|` + howMany + ` ` + howLong + `[ -](?:rounds|rds|bouts|fights)|` + howMany + ` ?[x×] ?(\d))$`)
	// restSaid is the rest between them, behind them.
	restSaid = pattern.Of(`(?i)^(.*[^\s,;:–-])(?:,|;| -| –)? +(?:with |w/ ?)?\(?(?:` + howLong + ` (?:rest|breaks?|pause)|rest:? (?:of )?` + howLong + `)(?: (?:in )?between(?: each)?(?: rounds?)?)?\)?(,.*)?$`)
)

// roundsAndRest writes rounds with the rest between them as they are read, behind a comma; other lines stay.
func roundsAndRest(line string) string {
	m := restSaid.FindStringSubmatch(line)
	if m == nil {
		return line
	}
	rounds := roundsSaid.FindStringSubmatch(m[1])
	if rounds == nil {
		return line
	}
	name := strings.TrimRight(rounds[1], " ,:–-(")
	n, long := cmp.Or(rounds[2], rounds[5], rounds[8]), strings.TrimSpace(cmp.Or(rounds[3]+" "+rounds[4], " "))
	if long == "" {
		long = strings.TrimSpace(rounds[6] + " " + rounds[7])
	}
	if rounds[9] != "" {
		long = rounds[9] + " min"
	}
	said := n + " x " + long + ", " + strings.TrimSpace(m[2]+" "+m[3]+m[4]+" "+m[5]) + " rest"
	if !curriculum.IsAmount(said) {
		return line
	}
	if strings.TrimSpace(name) != "" && !listOnly.MatchString(name) {
		said = name + ", " + said
	} else if name != "" {
		said = rounds[1] + said
	}
	return said + m[6]
}
