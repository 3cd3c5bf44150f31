package binder

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Whether a name names one thing.

// manyLimbs are words for many that name none of them.
var manyLimbs = pattern.Of(`(?i)^(?:knees|elbows|punches|kicks|palms|fists|hands|strikes|blocks|parries|checks)$`)

// askWhichForm asks where the name of a form leaves open which is meant.
func (b *Reader) askWhichForm(l *PageLine) {
	if l.Kind != "form" || !l.New {
		return
	}
	if !l.Free && earlierForm.MatchString(l.Name) && !numberedTitle.MatchString(l.Name) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s is read as the name of a form; where one of several is meant, write which, or what is chosen from and “free choice”", l.Name))
	}
	if atRandom.MatchString(l.Name) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s leaves it to the examiner which is shown; write a line for each that may be drawn", l.Name))
	}
	if twoTitles.MatchString(l.Name) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s may name several; write a line for each", l.Name))
	}
	if !l.Free && oneOfTwo.MatchString(l.Name) && len(l.Doubts) == 0 {
		l.doubt(fmt.Sprintf("%s leaves a choice; write a line for each, or what is chosen from and “free choice”", l.Name))
	}
}

// numberedTitle is a form called by its number, as its capitals say: Second Form.
var numberedTitle = pattern.Of(`^(?:First|Second|Third|Fourth|Fifth) (?:Form|Kata|Pattern|Set)$`)

// setLast ends the name of a set, which is shown as a form is: Long Fist set.
var setLast = pattern.Of(`(?i)\pL set(?: (?:one|two|three|four|five|\d))?$`)

// earlierForm is a form that is told by when it was learnt.
var earlierForm = pattern.Of(`(?i)^(?:plus |also )?(?:the |one |one of the |an? )?(?:previous|last|earlier|lower|older?|other` +
	`|first) (?:belt(?:['’]s)? |grade |rank )?(?:forms?|katas?|patterns?|poomsae|hyung|tul)$`)

// atRandom is one of several forms that the examiner draws.
var atRandom = pattern.Of(`(?i)^(?:an? )?random\b`)

var (
	// oddSign is no sign of a name.
	oddSign = pattern.Of(`[^\pL\pN\pM '’ʼ"“”„‘&/.,()!?+#°–—→-]|[_|=*~<>^\\{}\[\]]|\.\.|__`)
	// sayNothing are words that name nothing by themselves.
	sayNothing = pattern.Of(`(?i)^(?:(?:the )?(?:first|second|third|last|next|new|old|other|same) (?:one|form|kata|pattern)s?|all (?:two|three|four|five|six|seven|eight|nine|ten)|free|own|various|different|optional|any|some|more|others?|rest|extra|etc|incl|including|and|then|also|above|below|basic|advanced|review|revision)$`)
	// commandFirst begins a sentence that asks.
	commandFirst = pattern.Of(`(?i)^(?:show|do|give|answer|perform|demonstrate|execute) \pL`)
	// attackFirst begins what the partner does.
	attackFirst = pattern.Of(`(?i)^(?:attack|attacker|attacking|defend|defence|defense|answer|counter)s? \pL`)
	// eachOfThem speaks of each of several.
	eachOfThem = pattern.Of(`(?i)\b(?:each|respectively)\b`)
	// formWord ends the name of a form.
	formWord = pattern.Of(`(?i)\bform with (?:music|the count|count|kiai|power|meaning)$|(?:forms?|patterns?|kata|tul|hyung|poomsae|sets?|\d+|one|two|three|four|five|six|seven|eight|nine|ten|[ivx]+)$`)
)

// mostWords is how many words the name of a technique has at most that nobody asks about.
const mostWords = 8

// twoForeign reports whether words of the second language name a kick and a strike, or others of two kinds: maegeri junzuki.
func (b *Reader) twoForeign(words []string) bool {
	ends := 0
	if at := curriculum.JoinsOn.FindStringIndex(strings.Join(words, " ")); at != nil {
		words = strings.Fields(strings.Join(words, " ")[:at[0]])
	}
	for i, w := range words {
		m, _ := b.MeaningOf(w)
		if m == nil || !slices.Contains(inRows, m.Kind()) {
			continue
		}
		next := ""
		if i+1 < len(words) {
			next = check.Key(words[i+1])
		}
		if withWhat.MatchString(w) && goesOn.MatchString(next) { // empi uchi, uchi uke: one blow, one block
			continue
		}
		ends++
	}
	return ends > 1
}

var (
	// withWhat are words for what strikes, and goesOn what may follow them in one name.
	withWhat = pattern.Of(`(?i)^(?:mikazuki|empi|enpi|uraken|tettsui|haito|nukite|uchi|shuto|teisho|kakato|ate|sonnal|palkup|mok)$`)
	goesOn   = pattern.Of(`^(?:uchi|uke|ate|zuki|tsuki|barai|geri|makki|makgi|chigi|jireugi)$`)
)

// lowerForm is one of the forms of the rungs below.
var lowerForm = pattern.Of(`(?i)^(?:any |one )?(?:previous|earlier|lower|other|former) (?:grade |belt |rank )?(?:form|kata|pattern|poomsae|hyung|tul)s?\b`)

// askName asks where a name does not look like one.
func (b *Reader) askName(l *PageLine, words []string) {
	if len(l.Doubts) > 0 || l.Said != "" {
		return
	}
	small, content := 0, 1
	quoted := strings.ContainsAny(l.Name, "\"“”„‘’")
	for _, w := range words[1:] {
		if !joinsFirst.MatchString(w) {
			content++
		}
		if r, _ := utf8.DecodeRuneInString(w); unicode.IsLower(r) && !joinsFirst.MatchString(w) && w != "the" {
			small++
		}
	}
	told := slices.Contains(curriculum.SaidKinds, l.Kind)
	switch is := b.KindInName(l.Name); {
	case endsOpen.MatchString(l.Name) && !told:
		l.doubt(fmt.Sprintf("the name %s ends in the middle of a sentence; write the name first, and what is said of it in brackets", l.Name))
	case oddSign.MatchString(l.Name) && !told:
		l.doubt(fmt.Sprintf("%s is read as a name; write it without the signs that belong to the sheet", l.Name))
	case hyphened.MatchString(l.Name) && slices.Contains(curriculum.Basic, l.Kind) && b.isMove(strings.Split(l.Name, "-")[0]) && b.isMove(strings.Split(l.Name, "-")[1]):
		l.doubt(fmt.Sprintf("%s may name several; write a line for each, or a combination’s name and its moves after a colon", l.Name))
	case joinsFirst.MatchString(l.Name) && !told && !(len(words) == 2 && strings.EqualFold(words[1], headNouns[l.Kind])) && l.Kind != "self_defence" && l.Kind != "sparring" && !lowerForm.MatchString(l.Name):
		l.doubt(fmt.Sprintf("%s begins as a remark does; write the name first", l.Name))
	case slices.Contains(curriculum.Basic, l.Kind) && l.usual && is == "" && len(words) >= leastNumbers && inSmall(l.Name) && l.Moves == "":
		l.doubt(fmt.Sprintf("%s is read as a technique; where it says how others are done, write it in brackets behind them, or at the head of the section", l.Name))
	case eachOfThem.MatchString(l.Name) && !told:
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	case slices.Contains(curriculum.Basic, l.Kind) && b.twoForeign(words):
		l.doubt(fmt.Sprintf("%s may name several; write a line for each, or a combination’s name and its moves after a colon", l.Name))
	case commandFirst.MatchString(l.Name) && !told && l.Kind != "self_defence" && !titled(words):
		l.doubt(fmt.Sprintf("%s begins as a sentence does; write the name first, and how much behind it", l.Name))
	case sentenceName.MatchString(l.Name) && !told && l.Kind != "self_defence":
		l.doubt(fmt.Sprintf("%s reads as a sentence; write the name first, and what is said of it in brackets", l.Name))
	case someNumberOf.MatchString(l.Name):
		l.doubt(fmt.Sprintf("%s names several; write a line for each", l.Name))
	case toSomebody.MatchString(l.Name) && slices.Contains(curriculum.Basic, l.Kind):
		l.doubt(fmt.Sprintf("%s reads as a sentence; write the name first, and what it is done to in brackets", l.Name))
	case l.usual && (l.Kind == "fitness" && (distance.MatchString(l.Name+" "+l.Note) || curriculum.MovesAbout.MatchString(strings.ToLower(l.Name))) || l.Kind == "balance" && asLongAs.MatchString(l.Name)):
		l.doubt(fmt.Sprintf("nothing says for how long or how often, and %s is read; write for example 60 s or 10 times", l.Quantity))
	case attackFirst.MatchString(l.Name) && slices.Contains(curriculum.Basic, l.Kind):
		l.doubt(fmt.Sprintf("%s speaks of an attack; where it is to be answered, write it under Self-defence, or with as attacker", l.Name))
	case sayNothing.MatchString(l.Name) && !numberedTitle.MatchString(l.Name) || manyLimbs.MatchString(l.Name) || curriculum.UsualKind(l.Name) == l.Kind && (strings.HasSuffix(l.Name, "s") || manySaid.MatchString(l.Text) && !l.Quantity.PerSide()) && slices.Contains(append(curriculum.Basic, "combination", "form"), l.Kind):
		l.doubt(fmt.Sprintf("%s names nothing by itself; write what is asked", l.Name))
	case slices.Contains(amounted, l.Kind) && content > mostWords:
		l.doubt(fmt.Sprintf("%s is long for a name; where several are meant, write a line for each", l.Name))
	case l.Kind == "combination" && l.Moves == "" && len(words) == 1 && is != "combination" && !strings.ContainsFunc(l.Name, unicode.IsDigit):
		l.doubt(fmt.Sprintf("nothing says what the moves of %s are; write them behind a colon", l.Name))
	case l.Kind == "form" && is != "" && is != "form" && l.Moves == "" && !quoted && !titled(words) && !setLast.MatchString(l.Name):
		l.doubt(fmt.Sprintf("%s stands under %s and reads like %s; write “%s” on the line, or a heading above it", l.Name, l.Section, aKind(is), is.Words()))
	case l.Kind == "form" && !l.Free && small > 1 && !lowerForm.MatchString(l.Name) && !quoted && !formWord.MatchString(l.Name) && !(aKata.MatchString(l.Name) && !plainEnglish.MatchString(l.Name)):
		l.doubt(fmt.Sprintf("%s is read as the name of a form; if it is none, write its kind on the line, or a heading above it", l.Name))
	}
}

var (
	// sentenceName is what somebody does, or what is done.
	sentenceName = pattern.Of(`(?i)^(?:he|she|they|everyone|everybody|we|you|the students?|students?|the candidates?) \pL|\pL (?:is|are|was|has to|have to|must|should) \pL`)
	// someNumberOf are several that are counted: the first three forms.
	someNumberOf = pattern.Of(`(?i)\b(?:first|last|next|all|any|previous) (?:two|three|four|five|six|\d{1,2}) (?:forms|patterns|kata|sets|techniques|combinations)\b`)
	// toSomebody is a sentence of what is done to what: Block a punch with the …
	toSomebody = pattern.Of(`(?i)^(?:kick|punch|strike|block|parry|stop|catch|hit) (?:an?|the) .* with (?:an?|the) `)
	// distance is how far, which is no amount, or what is done so far and no time.
	// asLongAs is a time told by something else than a clock: for ten breaths.
	asLongAs = pattern.Of(`(?i)\b(?:for|while) (?:\S+ )?(?:breaths?|songs?|claps?|heartbeats?|i |we |you |the )`)
	distance = pattern.Of(`(?i)\b(?:till|until|lengths?|widths?|laps?|across|to the (?:wall|end|line|door|other side)) |\b(?:there|up|down) and back\b|\bup and down\b|\b(?:bear|crab` +
		`|duck|monkey|frog|lizard|inchworm|spider|animal|crocodile|army|commando)s? (?:walk|crawl|jump|hop)s?\b|\b(?:shuttle|relay)s?\b`)
)

// aKata is a word for a form in the name of one.
var aKata = pattern.Of(`(?i)\b(?:kata|hyung|poomsae|tul)\b`)

// endsOpen ends where something has to follow.
var endsOpen = pattern.Of(` (?:and|or|with|of|the|an?|by|for|within|from|at)$`)

// manySaid are so many of a kind, which none of them names: five blocks, five kicks.
var manySaid = pattern.Of(`(?i)\b(?:\d{1,2}|one|two|three|four|five|six|seven|eight|nine|ten) (?:kicks|blocks|strikes|punches|stances|forms|patterns|combinations)\b`)

// twoTitles are two names in capitals: Pebble and Boulder.
var twoTitles = pattern.Of(`^(?:\p{Lu}\pL+ ?){1,2} (?:and|&) \p{Lu}\pL+(?: \p{Lu}\pL+)?$`)
