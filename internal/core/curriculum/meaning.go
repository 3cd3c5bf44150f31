package curriculum

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
)

// Meaning is a word of the program's second language and the English word it stands for in names: a
// level, a modifier, or a kind of technique.
type Meaning struct {
	Word  string `json:"word"`
	Means string `json:"means"` // high, jumping, kick …
}

// Brackets says what stands in brackets behind a name on a page; "" is not said, and asked.
type Brackets string

// What brackets may hold.
const (
	BracketTerms   Brackets = "terms"   // the term in the second language
	BracketRemarks Brackets = "remarks" // a remark
)

// ParseMeanings reads one word of the second language a line, an equals sign, and what it means.
func ParseMeanings(lines []string) (out []Meaning, err error) {
	seen := map[string]bool{}
	for i, line := range lines {
		word, means, found := strings.Cut(line, "=")
		m := Meaning{check.Key(word), check.Key(means)}
		switch {
		case !found || m.Word == "" || strings.ContainsFunc(m.Word, func(r rune) bool { return !unicode.IsLetter(r) && r != '\'' }):
			return nil, fmt.Errorf("line %d: %q; write a word and what it means, for example jodan = high", i+1, line)
		case m.Level() == "" && m.Modifier() == "" && m.Kind() == "":
			return nil, fmt.Errorf("line %d: %q says nothing of a name; write a level (low, mid, high), a variant (jumping, spinning …) or a kind (kick, block, stance …)", i+1, check.Tidy(means))
		case seen[m.Word]:
			return nil, fmt.Errorf("line %d: %q stands twice", i+1, m.Word)
		}
		seen[m.Word] = true
		out = append(out, m)
	}
	return out, nil
}

// String is the line ParseMeanings reads.
func (m Meaning) String() string { return m.Word + " = " + m.Means }

// Level is the height that the word means, "" none.
func (m Meaning) Level() notation.Level {
	switch m.Means {
	case "low", "mid", "high":
		return notation.Level(m.Means)
	case "middle":
		return notation.Mid
	}
	return ""
}

// Modifier is the variant that the word means, "" none.
func (m Meaning) Modifier() Modifier {
	if k := Modifier(m.Means); slices.Contains(Modifiers, k) {
		return k
	}
	if m.Means == "flying" {
		return "jumping"
	}
	return ""
}

// Kind is the kind of technique that the word means, "" none.
func (m Meaning) Kind() Kind {
	if k := KindNamed(m.Means); k != "" {
		return k
	}
	return KindInWords(m.Means)
}

// shortestEnding is how many letters a word has at least that is recognised at the end of another.
const shortestEnding = 3

// MeaningOf is what a word of a name means; words of a kind are found at the end of a longer word too,
// and it is then not the whole word. nil where nothing is known.
func (b *Book) MeaningOf(word string) (m *Meaning, whole bool) {
	key := check.Key(word)
	for i := range b.Program.Meanings {
		if b.Program.Meanings[i].Word == key {
			return &b.Program.Meanings[i], true
		}
	}
	for i := range b.Program.Meanings {
		if x := &b.Program.Meanings[i]; len(x.Word) >= shortestEnding && strings.HasSuffix(key, x.Word) && x.Kind() != "" {
			return x, false
		}
	}
	for i := range usualMeanings {
		if usualMeanings[i].Word == key {
			return &usualMeanings[i], true
		}
	}
	for i := range usualMeanings {
		if x := &usualMeanings[i]; (len(x.Word) > shortestEnding || x.Word == "uke" && len(key) > len("rebuke")) && strings.HasSuffix(key, x.Word) && x.Kind() != "" { // maegeri
			return x, false
		}
	}
	return nil, false
}

// usualMeanings are words that many schools write, for a program that says nothing else of them.
var usualMeanings = []Meaning{
	{"geri", "kick"}, {"keri", "kick"}, {"chagi", "kick"}, {"zuki", "strike"}, {"tsuki", "strike"}, {"uchi", "strike"}, {"jireugi", "strike"}, {"chigi", "strike"},
	{"uke", "block"}, {"makgi", "block"}, {"dachi", "stance"}, {"tachi", "stance"}, {"renraku", "combination"}, {"renzoku", "combination"}, {"seogi", "stance"}, {"sogi", "stance"}, {"kubi", "stance"}, {"nage", "throw"}, {"gari", "throw"}, {"gatame", "lock"}, {"ukemi", "breakfall"}, {"makki", "block"}, {"jirugi", "strike"}, {"taerigi", "strike"}, {"ttaerigi", "strike"}, {"matsogi", "sparring"}, {"taeryon", "sparring"}, {"daeryeon", "sparring"}, {"uraken", "strike"}, {"tettsui", "strike"}, {"haito", "strike"}, {"barai", "block"}, {"empi", "strike"}, {"enpi", "strike"}, {"nukite", "strike"}, {"ate", "strike"},
	{"kyorugi", "sparring"}, {"gyeorugi", "sparring"}, {"mikazuki", "kick"}, {"tameshiwari", "board break"}, {"kyukpa", "board break"}, {"kyokpa", "board break"}, {"gyeokpa", "board break"}, {"kumite", "sparring"}, {"randori", "sparring"}, {"kata", "form"}, {"poomsae", "form"}, {"hyung", "form"}, {"kansetsu", "lock"},
	{"jodan", "high"}, {"chudan", "mid"}, {"gedan", "low"}, {"olgul", "high"}, {"momtong", "mid"}, {"arae", "low"}, {"tobi", "jumping"}, {"twio", "jumping"},
}

// nameWords are the words of a name, a hyphen parting them as a space does.
func nameWords(name string) []string {
	return strings.FieldsFunc(name, func(r rune) bool { return r == ' ' || r == '-' })
}

// KindInName is the kind that the words of a name tell, in English or the second language; its last
// word that tells one decides there. "" none.
func (b *Book) KindInName(name string) Kind {
	if k := KindInWords(name); k != "" {
		return k
	}
	if at := JoinsOn.FindStringIndex(name); at != nil {
		if k := b.KindInName(name[:at[0]]); k != "" {
			return k
		}
	}
	words := nameWords(name)
	for i, w := range slices.Backward(words) {
		m, _ := b.MeaningOf(w)
		if m == nil || m.Kind() == "" {
			continue
		}
		if at := slices.IndexFunc(words[:i], func(w string) bool { return doneFrom.MatchString(w) }); at > 0 && m.Kind() == "stance" { // Shuto uke in kokutsu dachi
			return b.KindInName(strings.Join(words[:at], " "))
		}
		if m.Kind() == "stance" { // Yoko-geri keage kiba-dachi
			if k := b.KindInName(strings.Join(words[:i], " ")); slices.Contains([]Kind{"strike", "kick", "block"}, k) {
				return k
			}
		}
		return m.Kind()
	}
	return ""
}

// JoinsOn joins on what goes with a technique and does not say of which kind it is.
var JoinsOn = pattern.Of(`(?i) (?:after|with|while|off|from|against|vs\.?|versus) `)

// doneFrom stands before the stance in which something is done.
var doneFrom = pattern.Of(`^(?i:in|from)$`)

// Glossed takes the words out of a name that mean a level or a modifier, and says which.
func (b *Book) Glossed(name string) (rest string, levels []notation.Level, modifiers []Modifier) {
	var kept []string
	for _, w := range strings.Fields(name) {
		m, whole := b.MeaningOf(w)
		switch {
		case m != nil && whole && m.Level() != "":
			levels = append(levels, m.Level())
		case m != nil && whole && m.Modifier() != "":
			modifiers = append(modifiers, m.Modifier())
		default:
			kept = append(kept, w)
		}
	}
	return strings.Join(kept, " "), levels, modifiers
}
