package binder

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// What the whole of a page says of its lines: the sign of a list, labels that come again and again, ditto, an amount for all.

// listSigns are signs that a list has before its lines elsewhere: the o of a word processor or a circle to mark; an arrow, or a dash without a
// space, of which one or two may stand before remarks, so that half of all lines have it where it is one.
var listSigns = []struct {
	sign *pattern.Pattern
	half bool
}{
	{pattern.Of(`^(\s*)[oO0]\s+(\p{Lu}|\d)`), false},
	{pattern.Of(`^(\s*)(?:> ?|-)([\pL\d])`), true},
}

// withBullets is a page with a plain sign for such a list; one line alone may be a name.
func withBullets(written []string) []string {
	out := slices.Clone(written)
	for _, x := range listSigns {
		n, all := 0, 0
		for _, line := range written {
			if strings.TrimSpace(line) != "" {
				all++
			}
			if x.sign.MatchString(line) {
				n++
			}
		}
		if n < leastNumbers || x.half && 2*n < all {
			continue
		}
		for i := range out {
			out[i] = x.sign.ReplaceAllString(out[i], "$1- $2")
		}
	}
	return out
}

// oneLabel is a word and a colon before what is asked.
var oneLabel = pattern.Of(`^(\s*(?:[-–—*•] )?)(\pL{2,14}): +(\pL[^:|\t]*?)(\s*)$`)

// keyLabel is a label that says something by itself.
var keyLabel = pattern.Of(`(?i)^(?:must|should|could|may|bonus|optional|extra|required|essential|mandatory|compulsory|note|later|extension|either|or|and|left|right|pads?|bag|air|boards?|partner)$`)

// withoutLabels puts a label that comes before three lines or more, and is no section and no technique, behind them as a remark: Ido: oi zuki x5.
func (b *Reader) withoutLabels(lines []string) []string {
	times := map[string]int{}
	for _, line := range lines {
		if m := oneLabel.FindStringSubmatch(line); m != nil {
			times[strings.ToLower(m[2])]++
		}
	}
	out := slices.Clone(lines)
	for i, line := range out {
		m := oneLabel.FindStringSubmatch(line)
		if m == nil || times[strings.ToLower(m[2])] < leastNumbers || b.Named(m[2]) != nil || b.KindInName(m[2]) != "" || curriculum.UsualKind(m[2]) != "" || partOf.MatchString(m[2]+":") || keyLabel.MatchString(m[2]) {
			continue
		}
		if h, is := b.headingOf(m[2]); is && !h.unknown {
			continue
		}
		out[i] = m[1] + m[3] + " (" + m[2] + ")" + m[4]
	}
	return out
}

// labelBox is a label, a box to tick, perhaps a number, and what is asked: KICK  [ ] 3. low kick.
var labelBox = pattern.Of(`^\s*(\pL[\pL -]{1,18}?)\s*(?:\[ ?\]|[☐□▢◻])\s*(?:\d{1,2}[.)]\s*)?(\pL.*)$`)

// asHeading is a label of one as a heading for several: KICK.
func (b *Reader) asHeading(label string) string {
	if _, is := b.headingOf(label); !is {
		if h, many := b.headingOf(label + "s"); many && !h.unknown {
			return label + "s"
		}
	}
	return label
}

// boxed reports whether labels before boxes are how a page writes its headings: one of them is a heading, or several are in capitals.
func (b *Reader) boxed(written []string, label string) bool {
	if h, is := b.headingOf(label); is && !h.unknown {
		return true
	}
	n := 0
	for _, line := range written {
		if m := labelBox.FindStringSubmatch(line); m != nil && m[1] == strings.ToUpper(m[1]) {
			n++
		}
	}
	return n > 1 && label == strings.ToUpper(label)
}

// dittoBehind is a name and the sign that says as above: inner block ...... ditto.
var dittoBehind = pattern.Of(`(?i)^(.*?\pL\)?\s*(?:\.{3,}|…+|[-–—:,]|\s{3,})\s*)\(?(?:ditto|do\.|(?:the )?same(?: as (?:above|before))?|as above|likewise|"|″|〃)\)?\s*$`)

// saidBehind is a name and what is said of it.
var saidBehind = pattern.Of(`^.*?\pL\)?\s*(?:\.{3,}|…+|[-–—:,]|\s{3,})\s*(\S.*)$`)

// dittoed is a page with what the line above says where a line says ditto.
func dittoed(lines []string) []string {
	out := slices.Clone(lines)
	for i := 1; i < len(lines); i++ {
		if m := dittoBehind.FindStringSubmatch(lines[i]); m != nil && !strings.Contains(lines[i], "\t") {
			if above := saidBehind.FindStringSubmatch(out[i-1]); above != nil {
				out[i] = m[1] + above[1]
			}
		}
	}
	return out
}

// whomLine is for whom what stands below is: Under 10s, Adults.
var whomLine = pattern.Of(`(?i)^(?:for )?(?:(everyone|everybody|all students|all|all ages)|(?:under|over|below|above|up to|age[sd]?|from) \d{1,2}(?:[’']?s|\+)?(?: (?:years?|yrs?|and (?:over|under|up)|only))*|\d{1,2} ?(?:-|–|to) ?\d{1,2} (?:years?|yrs?)(?: olds?)?|(?:the )?(?:adults?|juniors?|seniors?|kids|children|cubs|tigers|dragons|teens?|teenagers|youths?|cadets?|men|women|boys|girls|ladies)(?: only)?) ?:?$`)

// forWhom reads a line above others that says for whom they are: everybody, or some, which is asked about, since a requirement is everybody's and
// says itself what a track changes.
func (r *pageReader) forWhom(l *PageLine, x pageText, text string) bool {
	m := whomLine.FindStringSubmatch(strings.TrimSpace(text[listed(text):]))
	if m == nil || !x.over || r.table != nil || r.Named(strings.TrimSpace(text)) != nil {
		return false
	}
	if h, is := r.headingOf(strings.TrimRight(strings.TrimSpace(text), ": ")); is && !h.unknown {
		return false
	}
	r.under, r.since, r.inline = headed{mixed: true}, len(r.out)+1, false
	if m[1] != "" {
		l.Aside = "it is for everybody"
	} else {
		l.fail(1, "this says for whom what stands below is; write that at each line, for example not for Cubs, or 5 for Cubs")
	}
	r.add(*l)
	return true
}

// forAll is an amount of all that stands above, which have said none: 5 each side; everything 10 each side.
var forAll = pattern.Of(`(?i)^(?:(?:all|everything|each|all of (?:these|them|the above)|each of (?:these|them|the above)|all the above)(?: of (?:these|them))?[:,]? +)?(.+)$`)

// ofWholePage says that what is said holds for all above, and not only below the last heading.
var ofWholePage = pattern.Of(`(?i)^(?:everything|(?:all |each )?(?:of )?the above)\b`)

// amountForAll reads a line that says only how much, below others of its heading that do not: it is of all of them. Where others say how much, it is asked of which.
func (r *pageReader) amountForAll(l *PageLine, text string) bool {
	m := forAll.FindStringSubmatch(strings.TrimRight(strings.TrimSpace(text[listed(text):]), ". "))
	if m == nil || !curriculum.IsAmount(m[1]) || curriculum.Bare(m[1]) || r.table != nil || cmp.Or(r.under.kind, r.kindIn(r.under.section)) == "sparring" {
		return false
	}
	q, err := curriculum.ParseQuantity(m[1])
	if err != nil || q.Measure == curriculum.RoundsTimed {
		return false
	}
	other := func(x PageLine) bool { return x.Aside == "" && (!x.usual || x.Problem != "" && !x.kindless) }
	if r.under.amount != nil || len(r.out) == r.since || slices.ContainsFunc(r.out[r.since:], other) {
		l.fail(1, "this says only how much; write it behind what it is of")
		r.add(*l)
		return true
	}
	first := r.since
	if ofWholePage.MatchString(text) {
		first = 0
	}
	for i := range r.out[first:] {
		if x := &r.out[first+i]; x.Aside == "" && x.usual && x.under.amount == nil {
			x.Quantity, x.usual = q, false
		}
	}
	l.Aside = "how much of each of what stands above"
	r.add(*l)
	return true
}

// numberAhead is a number with no sign behind it, and what stands there: 1 Ukemi.
var numberAhead = pattern.Of(`^(\d{1,2}) (\p{Lu}.*)$`)

// withDots puts a dot behind the numbers of headings that have none: 1 Ukemi, 2 Throws, 3 Locks, each with its list below. Anything else that
// begins with a number says how many.
func withDots(written []string) []string {
	var at []int
	lists := 0
	for i, line := range written {
		m := numberAhead.FindStringSubmatch(line)
		if m == nil || strings.Contains(line, "\t") {
			continue
		}
		if curriculum.Figure(m[1]) != len(at)+1 {
			return written
		}
		at = append(at, i)
		if i+1 < len(written) && strings.TrimLeft(written[i+1], " ") != written[i+1] {
			lists++
		}
	}
	if len(at) < leastNumbers || lists < leastNumbers-1 {
		return written
	}
	out := slices.Clone(written)
	for n, i := range at {
		out[i] = numberAhead.ReplaceAllString(written[i], strconv.Itoa(n+1)+". $2")
	}
	return out
}
