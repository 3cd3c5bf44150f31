package binder

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
)

// mostMade is how many techniques the moves of one line may make.
const mostMade = 12

// pageMoves reads the moves on a page against the program's techniques and the page's own. Moves that people write as a row, or of
// which nobody knows the name, are made out where the words tell what they are.
func (b *Reader) pageMoves(lines []PageLine, fresh []notation.Entry) {
	if !slices.ContainsFunc(lines, func(l PageLine) bool { return l.Moves+l.Attacks != "" }) {
		return
	}
	m := &moveReader{Reader: b, entries: callEntries(append(b.Entries(), fresh...), lines)}
	err := m.open()
	for i := range lines {
		l := &lines[i]
		switch {
		case l.Moves+l.Attacks == "" || l.Problem != "" || l.Aside != "":
		case err != nil:
			l.fail(1, err.Error())
		case !l.New:
			m.again(l)
		case l.Moves != "":
			m.read(l)
		}
	}
}

// again holds what is typed of a technique that is known to what is known of it: the same is no question, whatever signs stand between.
func (m *moveReader) again(l *PageLine) {
	t := m.Technique(l.TechniqueID)
	own := curriculum.MovesLine(t.StepsAt(len(t.Stages)))
	if l.Moves != "" && !sameWords(l.Moves, own) {
		read := *l
		if m.read(&read); read.Problem == "" && (read.Moves == "" || sameWords(read.Moves, own)) {
			*l = read
		}
	}
	switch {
	case (l.Moves == "" || sameWords(l.Moves, own)) && (l.Attacks == "" || sameWords(l.Attacks, t.AttackMoves)):
	case own == "" && l.Moves != "":
		l.fail(1, fmt.Sprintf("%s is known, without moves; write them on its page", t.Name))
	default:
		l.fail(1, fmt.Sprintf("%s is known, with moves of its own; change them on its page", t.Name))
	}
}

// betweenMoves are words that may stand between moves in place of a sign.
var betweenMoves = pattern.Of(`(?i)\b(?:and|or|then)\b`)

// sameWords reports whether two lines of moves say the same, whatever signs stand between.
func sameWords(x, y string) bool {
	plain := func(s string) string {
		return strings.Join(strings.FieldsFunc(strings.ToLower(betweenMoves.ReplaceAllString(s, " ")), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }), " ")
	}
	return plain(x) == plain(y)
}

// moveReader reads moves; what the lines before have made is known to the next ones.
type moveReader struct {
	*Reader
	entries   []notation.Entry
	catalogue *notation.Catalogue
}

func (m *moveReader) open() (err error) {
	m.catalogue, err = notation.NewCatalogue(m.entries)
	return err
}

func (m *moveReader) read(l *PageLine) {
	r, err := m.catalogue.Read(l.Moves)
	if strings.HasSuffix(l.Moves, ".") && len(r.Doubts) == 0 && slices.Contains(amounted, l.Kind) {
		l.doubt(fmt.Sprintf("“%s” is read as a step of %s; where other things are asked, write a line for each", strings.TrimSuffix(l.Moves, "."), l.Name))
	}
	if err != nil && !slices.Contains(amounted, l.Kind) && (m.asRow(l) || inWords(l, m.saysAttack(l.Name))) {
		if l.Moves == "" {
			return
		}
		r, err = m.catalogue.Read(l.Moves)
	}
	for _, d := range r.Doubts {
		l.Doubts = append(l.Doubts, notation.Doubt{Column: l.before + d.Column, Reason: d.Reason})
	}
	if err == nil {
		return
	}
	var at *notation.Error
	if errors.As(err, &at) && at.Words != "" && l.Kind != "combination" && !strings.HasSuffix(l.Moves, ".") {
		l.noMoves = l.New && l.Problem == ""
		l.fail(l.before+at.Column, fmt.Sprintf("“%s” is no move that this program knows; write a line for each thing that is asked, a sentence that ends with a full stop for a step, and in brackets what is only a remark", at.Words))
	} else if errors.As(err, &at) {
		l.fail(l.before+at.Column, at.Problem)
	} else {
		l.fail(1, err.Error())
	}
}

// asRow reads moves that people part by dashes, arrows and "then", and makes those that nobody knows where their words tell that they
// are one; otherwise all stays as it was.
func (m *moveReader) asRow(l *PageLine) bool {
	moves, had := saidReturn.ReplaceAllString(check.Tidy(andLast.ReplaceAllString(rowSigns.ReplaceAllString(strings.TrimSuffix(l.Moves, "."), ", "), ", ")), "$1"), len(m.entries)
	var made []Numbered
	for {
		_, err := m.catalogue.Read(moves)
		if err == nil {
			l.Moves, l.Makes = moves, made
			return true
		}
		if sided := m.sidesFirst(moves); sided != moves {
			moves = sided
			continue
		}
		var at *notation.Error
		if !errors.As(err, &at) || len(made) == mostMade {
			break
		}
		words := cmp.Or(at.Words, pieceAt(moves, at.Column))
		if whole := m.inFull(words); whole != "" {
			moves = replacedAt(moves, at.Column, words, whole)
			continue
		}
		name := capitalised(words)
		if piece := pieceAt(moves, at.Column); hoppedKick.MatchString(piece) || stopsAKick.MatchString(piece) && m.isMove(piece) {
			name = capitalised(piece)
		}
		if !m.isMove(name) || slices.ContainsFunc(made, func(x Numbered) bool { return check.Key(x.Name) == check.Key(name) }) {
			break
		}
		kind := m.KindInName(name)
		if stopsAKick.MatchString(name) { // check low kick
			kind = "block"
		}
		made = append(made, Numbered{Name: name, Kind: kind})
		m.entries = append(m.entries, notation.Entry{ID: "made " + check.Key(name), Name: name})
		if m.open() != nil {
			break
		}
	}
	if len(m.entries) > had {
		m.entries = m.entries[:had]
		_ = m.open() // it could be opened before
	}
	return false
}

// saidReturn is said before what answers in a row, and is no part of its name: check low kick, return low kick.
var saidReturn = pattern.Of(`(?i)((?:^|, ))(?:return(?:ing)?(?: back)?(?: with)?(?: an?| the)?|(?:counter|answer|reply|come back)(?:ing)?(?: with| back with)?(?: an?| the)) `)

// hoppedKick is a kick by how one steps into it, which is one name: switch kick.
var hoppedKick = pattern.Of(`(?i)^(?:switch|skip|hop|slide|step) (?:kick|knee|teep)$`)

// sideBehind is a move with its side behind it.
var sideBehind = pattern.Of(`(?i)^(\pL[\pL -]*) (left|right)(?: (?:hand|arm|fist|leg|foot))?$`)

// smallLast ends with a word that goes with what follows it: with the left.
var smallLast = pattern.Of(`(?i)\b(?:the|your|to|with|on|off|from|and|or)$`)

// sidesFirst puts the side before each move that has it behind: straight left, round kick right leg.
func (m *moveReader) sidesFirst(moves string) string {
	pieces := strings.Split(moves, ", ")
	for i, piece := range pieces {
		s := sideBehind.FindStringSubmatch(piece)
		if s == nil || m.Named(piece) != nil || smallLast.MatchString(s[1]) {
			continue
		}
		if t := m.Named(s[1]); t != nil && slices.Contains(inRows, t.Kind) || t == nil && m.isMove(s[1]) || m.inFull(s[1]) != "" {
			pieces[i] = strings.ToLower(s[2]) + " " + s[1]
		}
	}
	return strings.Join(pieces, ", ")
}

// inFull is the one strike or kick whose name begins with some words and has one more, which people leave out where they say a side:
// straight, of Straight punch.
func (m *moveReader) inFull(words string) string {
	var names []string
	for _, e := range m.entries {
		if rest, begins := strings.CutPrefix(check.Key(e.Name), check.Key(words)+" "); begins && !strings.Contains(rest, ",") { // a row may be called by its moves
			names = append(names, e.Name)
			if strings.Contains(rest, " ") {
				return ""
			}
		}
	}
	if len(names) != 1 || levelFirst.MatchString(words+" ") || !slices.Contains([]Kind{"strike", "kick"}, m.KindInName(names[0])) {
		return ""
	}
	if m.isMove(words) && (m.KindInName(words) != m.KindInName(names[0]) || !nounBehind.MatchString(names[0])) { // a hook, whatever hook kicks there are
		return ""
	}
	return strings.ToLower(names[0])
}

// nounBehind ends a name with the word that people leave out.
var nounBehind = pattern.Of(`(?i) (?:punch|kick|strike|heel)$`)

// replacedAt puts other words where some stand at a column.
func replacedAt(text string, column int, words, by string) string {
	runes := []rune(text)
	return string(runes[:column-1]) + by + string(runes[min(column-1+utf8.RuneCountInString(words), len(runes)):])
}

// pieceAt is the move that stands at a column of several, with commas between.
func pieceAt(moves string, column int) string {
	from := 0
	for piece := range strings.SplitSeq(moves, ",") {
		if from += utf8.RuneCountInString(piece) + 1; column <= from {
			return strings.TrimSpace(piece)
		}
	}
	return ""
}

// heightOrSide is where something is done to, or on which side.
var heightOrSide = pattern.Of(`(?i)^(?:(?:jodan|chudan|gedan|high|middle|mid|low) (?:and|&|/|then) (?:jodan|chudan|gedan|high|middle|mid|low)|left and right|right and left|jodan|chudan|gedan|high|middle|mid|low|upper|lower|(?:both|left|right|each) sides?|left|right|l ?[&/] ?r)$`)

// listOfShort reports whether a text lists three or more of a word or two each, which may name several: wrist, lapel, hair.
func listOfShort(text string) bool {
	parts := strings.Split(text, ",")
	return len(parts) >= leastNumbers && !slices.ContainsFunc(parts, func(part string) bool {
		return len(strings.Fields(part)) > 2 || beginsStep.MatchString(strings.TrimSpace(part))
	})
}

// saysAttack reports whether a name is an attack.
func (b *Reader) saysAttack(name string) bool {
	attack, _ := b.attackIn(name)
	return attack != nil
}

// leastStep is how many words a step in plain words has at least.
const leastStep = 3

// attackOfSet is what is attacked with in a set, by words of a system: mae geri, ushiro, oi zuki chudan; or on which side.
var attackOfSet = pattern.Of(`(?i)^(?:(?:mae|yoko|mawashi|ushiro|ura mawashi|oi|gyaku|kizami|maete|jun)(?:[- ](?:geri|zuki|tsuki))?(?: (?:jodan|chudan|gedan|kekomi|keage))?|l ?[+&/] ?r|r ?[+&/] ?l|(?:each )?(?:once |twice )?(?:left and right|right and left)|face|stomach|head|body|chest)$`)

// inWords takes what stands behind the colon of a defence, and is no moves, as a step in plain words, or as the attack, which is a remark.
func inWords(l *PageLine, saidAttack bool) bool {
	if l.Kind == "self_defence" && attackNoted.MatchString(l.Moves) && !beginsStep.MatchString(l.Moves) && !strings.ContainsAny(l.Moves, ",/.+") { // Gate 1: cross wrist grab
		l.note(l.Moves)
		l.Moves = ""
		return true
	}
	parts := strings.Split(l.Moves, ",")
	if l.Kind == "self_defence" && saidAttack && handsTold(parts) == len(parts) && !beginsStep.MatchString(l.Moves) && !strings.ContainsAny(l.Moves, "/.+") { // Wrist: same side
		if l.note(l.Moves); len(parts) > 1 {
			l.doubt(fmt.Sprintf("“%s” may be several ways of %s; write a line for each", l.Moves, l.Name))
		}
		l.Moves = ""
		return true
	}
	if l.Kind == "partner_set" || l.Kind == "form" || l.Kind == "sparring" {
		if slices.ContainsFunc(strings.Split(l.Moves, ","), func(part string) bool {
			part = strings.TrimSpace(part)
			return !heightOrSide.MatchString(part) && !(l.Kind == "partner_set" && attackOfSet.MatchString(part))
		}) {
			return false
		}
		l.note(l.Moves) // Gohon kumite: jodan, chudan, both sides
		l.Moves = ""
		return true
	}
	if l.Kind == "self_defence" && (saidAttack || beginsStep.MatchString(l.Moves)) && strings.Contains(l.Moves, " ") && !manyAttacks.MatchString(l.Moves) && !strings.ContainsFunc(l.Moves, unicode.IsDigit) && !listOfShort(l.Moves) {
		l.Moves = check.Tidy(strings.NewReplacer("/", " or ", "+", " and ").Replace(strings.TrimRight(l.Moves, ". "))) + "."
		return true
	}
	if manyAttacks.MatchString(l.Moves) || !slices.Contains([]Kind{"self_defence", "lock", "throw"}, l.Kind) || strings.ContainsFunc(l.Moves, unicode.IsDigit) || len(strings.Fields(l.Moves)) < leastStep || !beginsStep.MatchString(l.Moves) && !strings.HasSuffix(l.Moves, ".") {
		return false
	}
	moves := strings.NewReplacer("/", " or ", "+", " and ").Replace(strings.TrimRight(l.Moves, ". "))
	l.Moves = check.Tidy(moves) + "."
	return true
}
