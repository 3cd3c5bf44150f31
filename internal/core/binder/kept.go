package binder

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"sync"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Nothing that is typed may vanish: a word that is found in nothing that its line has become is asked about.

// keptWord is a word of a line that has to be found again.
var keptWord = pattern.Of(`\pL[\pL'’]+`)

// wordsOfAmounts are words that are found again in an amount, in what a line says of itself, or that only lead in what is asked.
const wordsOfAmounts = `grade rank grading term new big large weapon weapons manoeuvre manoeuvres maneuver maneuvers onto using against the a an of on to with in for from at and or then as by per every either both over any all each it is are be so not only just about
must pass desirable mandatory compulsory obligatory optional essential required requirement extra bonus yes no ok always again
leg legs hand hands arm arms foot feet knee knees elbow elbows fist fists side sides stance stances limb way ways direction directions total full whole entire minute
pad pads mitt mitts focus shield shields paddle paddles bag bags heavy kick kicking board boards partner partners pairs air target targets thai
will should shall could nice which what how much many asked tested show shows demonstrate perform do does can able you your my me we our his her their know knows stand take give execute display candidate student opponent opponents first next finally also able please now
white yellow orange green blue purple brown red black gold grey stripe stripes belt belts tip tag week weeks day station stations round rounds part section unit number numbers no nos
times once twice thrice last sprint rest alternating alternate alternately height level head waist body high mid middle low
few some ready prepared finish finished end start begin you'll you’ll teacher coach signs sign here ask warm up padwork has have attempts swings throws comes gives
while walk thru good ones long total under less than count half done shown this term course second third fourth fifth plus also followed through power ditto best nicest strongest re li rechts links rt lt flat out power speed
work practice practise test section drills training movement movements moving motion skills techniques technique waza sheet spot place line lines being`

// needsNoPlace are those words.
var needsNoPlace = sync.OnceValue(func() map[string]bool {
	out := map[string]bool{}
	for word := range strings.FieldsSeq(wordsOfAmounts) {
		out[word] = true
	}
	for word := range curriculum.AmountWords() {
		out[word] = true
	}
	return out
})

// wordsOfAttacks are all words of which attacks are made.
var wordsOfAttacks = sync.OnceValue(func() string {
	return "followed by then " + strings.Join(slices.Sorted(maps.Keys(attackPhrases())), " ")
})

// askLost asks about words of a line that stand in nothing of what it was read as. A line that is asked about already, or set aside, is not
// looked at; nor are words that head a section.
func (b *Reader) askLost(lines []PageLine) {
	var typed []string
	for i := range lines {
		typed = append(typed, lines[i].Text)
	}
	title, shorts := b.sharedTitle(typed), shortsOf(typed)
	var unheard []string // sections that are asked about once, for all rows that begin with them
	for i := range lines {
		if lines[i].Unheard != "" {
			unheard = append(unheard, lines[i].Unheard)
		}
	}
	for from := 0; from < len(lines); {
		to, open := from, false
		var kept strings.Builder
		for ; to < len(lines) && lines[to].Number == lines[from].Number; to++ {
			l := &lines[to]
			open = open || len(l.Table) > 0 || l.Problem != "" || l.Aside != "" || l.Waits || len(l.Doubts) > 0
			b.keeps(&kept, l)
		}
		if l := sideLeft(lines[from:to]); l != nil && !open {
			l.doubt(fmt.Sprintf("“%s” is read as a remark; where it is another of them, write a line for each", l.Note))
			open = true
		}
		if l := &lines[from]; !open && !dittoBehind.MatchString(l.Text) {
			said := inFull(behindTitle(cardLabel.ReplaceAllString(l.Text, "$1$2: $3"), title), shorts)
			for _, section := range unheard {
				said = strings.TrimPrefix(said, section)
			}
			said = curriculum.ThereAndBack.ReplaceAllString(madeUpAny.ReplaceAllString(madeUp.ReplaceAllString(said, "own "), "own $2"), "")
			if lost := b.lost(shortened(said), strings.ToLower(kept.String())); lost != "" {
				l.doubt(fmt.Sprintf("“%s” stands in nothing that is read of this line; where it matters, write it behind a comma, or on a line of its own", lost))
			} else if lost := lostNumber(lines[from:to], kept.String()); lost != "" {
				l.doubt(fmt.Sprintf("“%s” stands in nothing that is read of this line; where it is the amount, write for example 5 a side, 10 or 60 s behind a comma", lost))
			}
		}
		from = to
	}
}

var (
	figures   = pattern.Of(`\d+`)
	partTimes = pattern.Of(`\d+[:.,]\d+|\d½|\d+ ?(?:mins?|minutes?|') \d+|\d+ ?%|/ ?\d+\s*$`)
)

// lostNumber is the first number behind the name on the line of a page that is found nowhere in what the line was read as, in seconds or twice,
// of both sides; "" none.
func lostNumber(lines []PageLine, kept string) string {
	l := &lines[0]
	name, _, _ := strings.Cut(strings.ToLower(l.Name), " ")
	at := strings.Index(strings.ToLower(l.Text), name)
	if name == "" || at < 0 {
		return ""
	}
	have := map[int]bool{}
	for i := range lines {
		l := &lines[i]
		have[l.Quantity.Reps], have[2*l.Quantity.Reps], have[l.Weight], have[l.Place] = true, true, true, true
		for _, n := range figures.FindAllString(l.Quantity.String(), -1) {
			have[curriculum.Figure(n)] = true
		}
	}
	for _, n := range figures.FindAllString(kept, -1) {
		have[curriculum.Figure(n)] = true
	}
	for _, n := range figures.FindAllString(partTimes.ReplaceAllString(l.Text[at:], ""), -1) {
		if !have[curriculum.Figure(n)] && !have[60*curriculum.Figure(n)] {
			return n
		}
	}
	return ""
}

var (
	// headSays is what a heading says besides what it heads: in brackets, behind a comma or a dash.
	headSays = pattern.Of(`[(\[][^)\]]*[)\]]|, .*$| [-–—] .*$`)
	// headApart are words of a heading that say nothing of what stands below it: points, unless stated otherwise.
	headApart = pattern.Of(`(?i)\b\d(?:st|nd|rd|th) (?:stripe|tip|tag)s?\b|\b(?:unless|if not|where not|except)\b[^)]*|\b(?:marks?|points?|pts|basics?` +
		`|school|total|part|list|page|continued|cont|see|below|following|stated|noted|drills?|various)\b`)
	// agesSaid is for whom of what age.
	agesSaid = pattern.Of(`(?i)\b\d{1,2} ?\+|\b(?:over|under|aged?|from) \d{1,2}s?\b|\bu\d{1,2}s?\b|\b\d{1,2} (?:years|yrs|and (?:over|older|up|under)|or (?:over|older|under))\b`)
)

// askHeads asks below a heading about what it says besides what it heads, where nothing of that is found in what stands below it.
func (r *pageReader) askHeads() {
	typed := map[int]string{}
	for _, x := range r.page {
		typed[x.number+1] = x.typed
	}
	heads := slices.Sorted(slices.Values(r.heads))
	for i, head := range heads {
		said := headApart.ReplaceAllString(strings.Join(headSays.FindAllString(typed[head], -1), " "), "")
		if strings.TrimSpace(said) == "" || curriculum.UsualKind(strings.Trim(said, " :.–-")) != "" { // Stripe 6 - Good person
			continue
		}
		var kept strings.Builder
		var first *PageLine
		for n := range r.out {
			l := &r.out[n]
			if l.Number <= head || i+1 < len(heads) && l.Number > heads[i+1] || l.Aside != "" {
				continue
			}
			if first == nil {
				first = l
			}
			r.keeps(&kept, l)
			kept.WriteString(" " + l.under.unread)
		}
		if first == nil || first.Problem != "" {
			continue
		}
		lost := agesSaid.FindString(said)
		if lost == "" || curriculum.IsAmount(check.Tidy(strings.Trim(said, " ()[],"))) || strings.Contains(kept.String(), lost) {
			lost = r.lost(said, strings.ToLower(kept.String()))
		}
		if lost != "" {
			first.doubt(fmt.Sprintf("“%s” in the heading of line %d stands in nothing that is read below it; where it matters, write it on the lines, behind a comma", lost, head))
		}
	}
}

// keeps writes down all words that a line was read as.
func (b *Reader) keeps(kept *strings.Builder, l *PageLine) {
	for _, x := range l.MarkLooks {
		kept.WriteString(" " + x.Looks)
	}
	for _, text := range append([]string{l.Name, l.Note, l.Moves, l.Attacks, l.Term, l.Section, l.Kind.Words(), l.From, curriculum.AttackWords(l.Attack)}, b.PartsOf(l.Requirement)...) {
		kept.WriteString(" " + text)
	}
	if t := b.Technique(l.TechniqueID); t != nil { // a page typed again tells its steps once more
		kept.WriteString(" " + curriculum.MovesLine(t.StepsAt(len(t.Stages))))
	}
	if len(l.Attack) > 0 {
		kept.WriteString(" " + wordsOfAttacks()) // by which it was read
	}
	if l.Quantity.Rest > 0 {
		kept.WriteString(" off pause")
	}
	if l.LeastLevel != "" {
		kept.WriteString(" face chin neck chest belly stomach hip thigh shin ankle")
	}
	if l.Supported {
		kept.WriteString(" help support")
	}
	if l.Free {
		kept.WriteString(" own choice")
	}
	if l.Role != curriculum.Roles[0] {
		kept.WriteString(" both roles attacker defender attacking defending attack defence defense")
	}
	for _, m := range l.Modifiers {
		kept.WriteString(" " + string(m))
	}
	if len(l.Tracks) > 0 {
		kept.WriteString(" only adults seniors grown-ups teens juniors kids children over under above from age years and older up not exempt excused needed")
	}
	for _, t := range l.Tracks {
		if track := slices.IndexFunc(b.Program.Tracks, func(x curriculum.Track) bool { return x.ID == t.TrackID }); track >= 0 {
			for _, x := range b.Program.Tracks { // Adults only is not for Cubs
				kept.WriteString(" " + x.Name)
			}
		}
	}
	for _, x := range l.Makes {
		kept.WriteString(" " + x.Name)
	}
	if l.Draw != nil {
		kept.WriteString(" " + l.Draw.Name)
	}
}

// closed writes words together: Water Wheel, waterwheel.
var closed = strings.NewReplacer(" ", "", "-", "")

// lost is the first word of a typed line that is found nowhere in what it was read as; "" none.
func (b *Reader) lost(typed, kept string) string {
	small := needsNoPlace()
	for _, word := range keptWord.FindAllString(strings.ToLower(withoutPlace(typed[listed(typed):])), -1) {
		if small[word] || small[strings.TrimSuffix(word, "s")] || strings.Contains(kept, word) || strings.Contains(kept, strings.TrimSuffix(word, "s")) || strings.Contains(kept, strings.TrimSuffix(word, "es")) {
			continue
		}
		if m, whole := b.MeaningOf(word); m != nil && whole { // jodan, geri waza
			continue
		}
		if _, heads := b.headingOf(word); heads || curriculum.UsualKind(word) != "" || slices.Contains(mixed, curriculum.SectionKey(word)) || strings.Contains(closed.Replace(kept), word) {
			continue
		}
		return word
	}
	return ""
}

// sideNamed begins with a side and is one of several that do: left temple, right temple, left knee.
var sideNamed = pattern.Of(`(?i)^(?:left|right|lead|rear) \pL+$`)

// sideLeft is the line of several, read of one, whose remark may be another of them; nil none.
func sideLeft(lines []PageLine) *PageLine {
	if len(lines) < 2 || !slices.ContainsFunc(lines, func(l PageLine) bool { return sideNamed.MatchString(l.Name) }) {
		return nil
	}
	for i := range lines {
		if slices.ContainsFunc(SplitParts(lines[i].Note), func(part string) bool { return sideNamed.MatchString(strings.TrimSpace(part)) }) {
			return &lines[i]
		}
	}
	return nil
}
