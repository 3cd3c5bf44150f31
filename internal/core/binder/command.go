package binder

import (
	"cmp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// What a page tells somebody to do, as it would stand in a list: throw 50 push kicks in a minute.

// commands are such ways to ask, each as it stands in a list. The mark of a list is before the first group.
var commands = []struct {
	said  *pattern.Pattern
	plain string
}{
	// throw 50 push kicks in a minute
	{pattern.Of(`(?i)^(?:throw|do|perform|complete|show|land|hit|kick|punch|deliver) (\d{1,3}) (\pL[\pL -]*?) (?:in|within|inside) (?:a|one|1) (minute|min)$`), "$2, $1 in 60 secs"},
	{pattern.Of(`(?i)^(?:throw|do|perform|complete|show|land|hit|kick|punch|deliver) (\d{1,3}) (\pL[\pL -]*?) (?:in|within|inside) (\d{1,3} ?(?:secs?|seconds?|s))$`), "$2, $1 in $3"},
	// throw ten jabs
	{pattern.Of(`(?i)^(?:throw|land|deliver) (\d{1,3}|an?|the|your|some) ((?:\pL[\pL -]* )?(?:kick|punch|strike|jab|cross|hook|uppercut|elbow|knee|backfist)(?:e?s)?\b.*)$`), "$1 $2"},
	// two rounds of light sparring, ninety seconds each, with a partner I choose
	{pattern.Of(`(?i)^(?:do )?(\d{1,2}|one|two|three|four|five) rounds? of ((?:\pL+ )?)sparring,? (\d{1,3} ?(?:mins?|minutes?|secs?|seconds?|s)|(?:one|a|two|ninety|sixty` +
		`|thirty) (?:minutes?|seconds)) each(?:, ([^\d]+))?$`), "${2}sparring, $1 x $3 (($4))"},
	// 1 round of light sparring with kicks; 2 rounds of light sparring with someone bigger, 2 mins each, hands only
	{pattern.Of(`(?i)^(\d{1,2}|one|two|three|four|five) (rounds?) of ((?:\pL+ )?)sparring,? ((?:with|against|using|without|on) [^,\d]+), (\d{1,3} ?(?:mins?|minutes?|secs?` +
		`|seconds?|s))(?: each)?(?:, (.+))?$`), "${3}sparring, $1 x $5 (($4, $6))"},
	{pattern.Of(`(?i)^(\d{1,2}|one|two|three|four|five) (rounds?) of ((?:\pL+ )?)sparring,? ((?:with|against|using|without|on) [^,\d]+)$`), "${3}sparring, $1 $2 (($4))"},
	// spar three people, one minute each
	{pattern.Of(`(?i)^(?:spar|fight)(?: with| against)? (\d{1,2}|two|three|four|five|six|eight|ten) (?:different |other )?(people|partners|opponents|students` +
		`|classmates),? (?:for )?(\d{1,3} ?\pL+|(?:one|two|three) minutes?) each$`), "Sparring, $1 x $3 ($1 $2)"},
	// break a board with a hammer fist
	{pattern.Of(`(?i)^break (\d|an?|one|two|three) boards? (?:with|using) (?:an?|the|your|one) (\pL+(?:[ -]\pL+){0,3}?)(,.*|\s*\(.*)?$`), "$2, $1 boards$3"},
	// stand in horse stance while I count to twenty
	{pattern.Of(`(?i)^(?:stand|stay|sit|hold still) in (?:an? |the |your )?(?:low |deep |good )?(\pL[\pL -]*? stance) (?:while|as|for|until|till|to) .*\bcount(?:s` +
		`|ing)? (?:of |to )?(\d{1,3}|ten|twenty|thirty)\b.*$`), "$1, $2 secs (counted)"},
	// round kick the pad at belly height
	{pattern.Of(`(?i)^((?:\pL+ ){1,2}(?:kick|punch|knee|elbow)) the (pads?|bag|shield|paddle|mitts?|target)( at \pL+ height)?(,.*|)$`), "$1, on $2,$3$4"},
	// punch pad 10 times
	{pattern.Of(`(?i)^((?:\pL+ ){0,2}(?:kick|punch)) (pads?|bag|shield|paddle) ((?:x ?)?\d.*)$`), "$1, on $2, $3"},
	// walk through form "First Step" with me
	{pattern.Of(`(?i)^(?:walk|go|step|work|run) through (?:the |your )?(form|kata|pattern|poomsae) ["“]?(\p{Lu}[^"”,(]*?)["”]?(?: ((?:with|while|without|slowly|on|facing) .*)|)$`), "$1 $2 ($3)"},
	// do the Harbour form
	{pattern.Of(`(?i)^do (?:the |your )?(\pL+(?:[ -]\pL+){0,2} (?:form|kata|pattern|poomsae|hyung|tul))\b`), "$1"},
}

// boardsOf are boards whose number is an article.
var boardsOf = pattern.Of(`(?i), (?:an?|one|1) boards\b`)

// numbersTold are numbers in words before a time.
var numbersTold = strings.NewReplacer(", ten secs", ", 10 secs", ", twenty secs", ", 20 secs", ", thirty secs", ", 30 secs",
	" x ninety seconds", " x 90 secs", " x sixty seconds", " x 60 secs", " x thirty seconds", " x 30 secs", " x one minute", " x 1 min", " x a minute", " x 1 min", " x two minutes", " x 2 mins")

// spokenTo is before what somebody is told: you'll do, be ready to; saysWhen before what comes first or last.
var (
	spokenTo = pattern.Of(`(?i)^(?:you (?:should|must|will|shall|need to|have to) (?:also )?(?:be able to )?|you['’]ll (?:also )?(?:have to )?|be (?:ready|prepared|able) to )(\pL)`)
	saysWhen = pattern.Of(`(?i)^(?:finish(?: off)?|end|start|begin|open|close) (?:with|by doing) (\d|(?:ten|twelve|fifteen|twenty|thirty|forty|fifty)\b)`)
)

// twoBreaks are several boards, or what names no technique: break a board with the foot.
var twoBreaks = pattern.Of(`(?i)^break [^(,]*(?:\band\b|\b(?:hand|foot|feet|elbow|knee)s?(?: technique)?(?:,|\(|\.?$))`)

// commanded is a line that tells somebody what to do, as it stands in a list; other lines stay.
func commanded(line string) string {
	at := listed(line)
	if at == 0 {
		at = len(line) - len(strings.TrimLeft(line, " "))
	}
	said := strings.TrimSuffix(strings.TrimRight(line[at:], " "), ".")
	if twoBreaks.MatchString(said) {
		return line
	}
	if plain := saysWhen.ReplaceAllString(said, "$1"); plain != said {
		word, rest, _ := strings.Cut(plain, " ")
		return line[:at] + cmp.Or(curriculum.FigureWords[strings.ToLower(word)], word) + " " + rest
	}
	if plain := spokenTo.ReplaceAllString(said, "$1"); plain != said && (strings.HasPrefix(plain, "throw ") || strings.HasPrefix(plain, "do ") || strings.HasPrefix(plain, "defend ")) {
		said, line = plain, line[:at]+plain
	}
	for _, x := range commands {
		if x.said.MatchString(said) {
			said = strings.Replace(strings.TrimSuffix(x.said.ReplaceAllString(said, x.plain), " ()"), ", ))", "))", 1)
			return line[:at] + capitalised(numbersTold.Replace(boardsOf.ReplaceAllString(said, ", 1 board")))
		}
	}
	return line
}

// defendAll is what each of several attacks is answered by: defend a haymaker, a tackle and a rear choke.
var defendAll = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] )?)((?:defend|defence|defense|escape|get out of|get away from|break free)(?: against| from| of` +
	`| yourself against)?) ((?:an?|the|one) \pL[\pL' -]*(?:, (?:an?|the|one) \pL[\pL' -]*)*),? (?:and|or|&) ((?:an?|the|one) \pL[\pL' -]*?)([,(].*|[.])?$`)

// defendEach are the lines for each of such attacks; nil where a line names none, or what is no attack.
func (b *Reader) defendEach(line string) (out []string) {
	m := defendAll.FindStringSubmatch(line)
	if m == nil {
		return nil
	}
	for _, against := range append(strings.Split(m[3], ", "), m[4]) {
		if attack, _ := b.attackIn(against); attack == nil {
			return nil
		}
		out = append(out, m[1]+m[2]+" "+against+strings.TrimSuffix(m[5], "."))
	}
	return out
}

// titleFirst is what each line of a page may have before what it asks: Gold - hands: jab, cross.
var titleFirst = pattern.Of(`^\s*(\pL[\pL ]{1,30}?) [-–—|:] *\pL`)

// sharedTitle is what all lines of a page have before what they ask, where most say a label behind it: Gold, of Gold - hands: jab, cross. "" where
// they have nothing in common.
func (b *Reader) sharedTitle(lines []string) (title string) {
	of, labels := 0, 0
	for _, line := range lines {
		if strings.TrimSpace(line) == "" {
			continue
		}
		m := titleFirst.FindStringSubmatch(line)
		if m == nil || title != "" && m[1] != title {
			return ""
		}
		title = m[1]
		if of++; strings.Contains(behindTitle(line, title), ": ") {
			labels++
		}
	}
	if _, is := b.headingOf(title); of < leastNumbers || 2*labels < of || is || b.KindInName(title) != "" {
		return ""
	}
	return title
}

// behindTitle is what stands behind such a title.
func behindTitle(line, title string) string {
	return strings.TrimLeft(strings.TrimPrefix(strings.TrimLeft(line, " "), title), " -–—|:")
}

// withoutTitle blanks such a title before each line.
func (b *Reader) withoutTitle(lines []string) []string {
	title := b.sharedTitle(lines)
	if title == "" {
		return lines
	}
	out := slices.Clone(lines)
	for i, line := range lines {
		rest := behindTitle(line, title)
		out[i] = strings.Repeat(" ", utf8.RuneCountInString(line)-utf8.RuneCountInString(rest)) + rest
	}
	return out
}

// inTwoTongues are two names of one thing with a stroke between, and what is said of it: Age-uke / rising block - 5 each way.
var inTwoTongues = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?)(\pL[\pL -]*?) ?/ ?(\pL[\pL -]*?\pL)((?:,| [-–—] | ?\(| [x×]? ?\d).*|)$`)

// translated is such a line with the second name in brackets, where one is in the second language and the other in English; other lines stay.
func (b *Reader) translated(line string) string {
	m := inTwoTongues.FindStringSubmatch(line)
	if m == nil || b.Named(strings.TrimSpace(line)) != nil {
		return line
	}
	one, other := b.foreign(m[2]), b.foreign(m[3])
	same := slices.Contains(append(curriculum.Basic, "footwork", b.KindInName(m[2])), b.KindInName(m[3]))
	if one == other || b.KindInName(m[2]) == "" || !same || curriculum.KindInWords(m[2]) != "" && curriculum.KindInWords(m[3]) != "" {
		return line
	}
	return m[1] + m[2] + " (" + m[3] + ")" + m[4]
}

// foreign reports whether a word of a name is of the second language.
func (b *Reader) foreign(name string) bool {
	return slices.ContainsFunc(strings.FieldsFunc(name, func(r rune) bool { return r == ' ' || r == '-' }), func(word string) bool {
		m, _ := b.MeaningOf(word)
		return m != nil && m.Kind() != ""
	})
}

// slashedNames are three names or more with strokes between, and how much of each: jab/cross/hook, 1 min each.
var slashedNames = pattern.Of(`(?i)^(\pL+(?: ?/ ?\pL+){2,})((?: \pL+)?)((?:,|[:;]| [-–—] | ?\(| [x×]? ?\d).*\b(?:each|ea)\b(?:,.*|\)|))$`)

// slashedEach are the lines for each of such names; nil where there are none, or they are no basics.
func (b *Reader) slashedEach(body string, kind Kind) (out []string) {
	m := slashedNames.FindStringSubmatch(body)
	if m != nil && kind == "" {
		kind = b.KindInName(m[1] + m[2])
	}
	if m == nil || !slices.Contains(curriculum.Basic, kind) || m[2] == "" && b.KindInName(m[1][:strings.IndexAny(m[1], " /")]) == "" {
		return nil
	}
	for name := range strings.SplitSeq(m[1], "/") {
		if name = strings.TrimSpace(name); strings.EqualFold(name, "upper") && kind == "strike" { // jab/hook/upper
			name = "uppercut"
		}
		said := eachLast.ReplaceAllString(m[3], "")
		if said = strings.TrimLeft(said, " "); said != "" && !strings.ContainsAny(said[:1], ",;:") {
			said = ", " + strings.TrimLeft(said, "-–— ")
		}
		out = append(out, capitalised(name)+m[2]+said)
	}
	return out
}

// someCounted are the lines for basics of which one between says how much and the last does not: ready stance, horse stance 20 sec, fighting
// stance. nil where they are none.
func (b *Reader) someCounted(body string, kind Kind) (out []string) {
	pieces := outsideBrackets(body, ",")
	if !slices.Contains(curriculum.Basic, kind) || len(pieces) < leastNumbers || strings.ContainsAny(body, ";:") {
		return nil
	}
	counted := 0
	for i, piece := range pieces {
		words := strings.Fields(piece)
		from, to := amountAt(words)
		if amount := from < to; amount && (from == 0 || to < len(words) || i+1 == len(pieces)) {
			return nil
		} else if amount {
			counted++
		} else if name, _ := cutAny(piece, "("); strings.ContainsFunc(name, unicode.IsDigit) {
			return nil
		}
		name, _ := cutAny(piece, "(0123456789")
		if b.KindInName(strings.TrimSpace(sidesBehind.ReplaceAllString(name, ""))) != kind {
			return nil
		}
		out = append(out, capitalised(strings.TrimSpace(piece)))
	}
	if counted == 0 {
		return nil
	}
	return out
}

// sidesBehind says on which sides something is done.
var sidesBehind = pattern.Of(`(?i),? (?:on )?(?:l ?[&/+] ?r|l and r|r ?[&/+] ?l|left and right|both sides)\s*$`)

// widelyApart is a name and far behind it what is asked of it, in columns of blanks.
var widelyApart = pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?[\pL(][^\t]*?[\pL)]) {4,}([\pL\d×].*)$`)

// toTick is what is ticked behind a line.
var toTick = pattern.Of(`(?i)^(?:(?:ok|yes|no|pass|fail|done|retry|y|n|good|again|initials?|date)[\s/|]*)+$`)

// blanksAsCommas puts a comma between such a name and what stands behind it, where at least three lines are so and no heading says columns.
func blanksAsCommas(lines []string) []string {
	out, n := slices.Clone(lines), 0
	for i, line := range lines {
		if strings.Contains(line, "\t  ") { // before an amount
			n++
		} else if m := widelyApart.FindStringSubmatch(line); m != nil && !strings.ContainsAny(line, "\t_:") && !strings.Contains(m[2], "    ") && !toTick.MatchString(m[2]) {
			if n++; !strings.Contains(m[1], ",") {
				out[i] = m[1] + ", " + m[2]
			}
		}
	}
	if n < leastNumbers {
		return lines
	}
	return out
}
