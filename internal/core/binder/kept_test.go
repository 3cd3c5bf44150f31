package binder

import (
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// TestNothingTypedVanishes: a word that is in nothing of what a line became is found, words of amounts, sides and headings aside.
func TestNothingTypedVanishes(t *testing.T) {
	b := island(nil)
	for typed, want := range map[string]string{
		"Kicks: front kick x10 each leg, must | front kick": "", "Show me a front kick, ten times | front kick": "", "Water Wheel 2 x 90 secs | waterwheel": "", "Waterwheel | water wheel": "",
		"Mawa dori osu | mawa dori": "", "Front kick, slippery | front kick": "slippery", "Parries (inside), front kick | front kick": "inside", "Elbows, knees | elbow": "", "Front kicks and lunges | front kick": "lunges",
	} {
		line, kept, _ := strings.Cut(typed, " | ")
		assert.Equal(t, want, b.lost(line, kept), typed)
	}
	var lost PageLine
	lost.Number, lost.Text, lost.Name, lost.Kind, lost.Quantity = 1, "Front kick, slippery", "Front kick", "kick", curriculum.DefaultAmount("kick")
	lines := []PageLine{lost}
	b.askLost(lines)
	require.Len(t, lines[0].Doubts, 1)
	assert.Contains(t, lines[0].Doubts[0].Reason, "“slippery” stands in nothing")
	for change, open := range map[string]func(*PageLine){"a problem": func(l *PageLine) { l.fail(1, "x") }, "set aside": func(l *PageLine) { l.Aside = "x" }, "waiting": func(l *PageLine) { l.Waits = true }, "a remark": func(l *PageLine) { l.Note = "slippery" }, "moves": func(l *PageLine) { l.Moves = "slippery." }, "the attacker's part": func(l *PageLine) { l.Attacks = "slippery." }} {
		l := lost
		open(&l)
		lines := []PageLine{l}
		b.askLost(lines)
		assert.Empty(t, lines[0].Doubts, change)
	}
}

// TestWordsOfPagesAreFoundAgain: on all pages of the corpus, lines that ask nothing hold every longer word that is typed in them, but for a
// few dozen that amounts, sides and leading words are made of. It is reckoned apart from the rule.
func TestWordsOfPagesAreFoundAgain(t *testing.T) {
	golden.Alone(t)
	long, lost := regexp.MustCompile(`\pL{6,}`), map[string]int{}
	words := 0
	corpus(t, func(_ string, b *Reader, page []string) {
		said, asked, sections := map[int]string{}, map[int]bool{}, "" // sections that are asked about, once for all their rows
		for _, l := range asRead(b, page) {
			sections += strings.ToLower(l.Unheard) + " "
			asked[l.Number] = asked[l.Number] || l.Problem != "" || l.Waits || len(l.Doubts) > 0 || l.Aside != ""
			said[l.Number] += strings.ToLower(strings.Join(append([]string{l.Name, l.Note, l.Moves, l.Attacks, l.Term, l.Section, l.Kind.Words(), curriculum.AttackWords(l.Attack)}, b.PartsOf(l.Requirement)...), " "))
			for _, look := range l.MarkLooks {
				said[l.Number] += strings.ToLower(look.Looks)
			}
		}
		for n, line := range page {
			if said[n+1] == "" || asked[n+1] {
				continue
			}
			for _, word := range long.FindAllString(strings.ToLower(line), -1) {
				words++
				if !strings.Contains(sections, word) && !strings.Contains(said[n+1], strings.TrimSuffix(word, "s")) && !strings.Contains(said[n+1], strings.TrimSuffix(word, "es")) {
					lost[word]++
				}
			}
		}
	})
	var different []string
	for word := range lost {
		different = append(different, word)
	}
	slices.Sort(different)
	assert.Less(t, len(different), 155, "%v", different)
	assert.Greater(t, words, 1500)
}
