package binder

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// A school types one page after the other: what stands on the first is known when the next is read.

// oftenGone is which pages of the corpus make test goes through: one in so many.
const oftenGone = 8

// taught is the program of a page with the techniques of another page, those nobody had to be asked about.
func taught(t *testing.T, b, other *Reader, page []string) *Reader {
	var sure []PageLine
	for _, l := range asRead(other, page) {
		if l.Problem == "" && !l.Waits && len(l.Doubts) == 0 && (b == other || l.Draw == nil && l.From == "") {
			sure = append(sure, l)
		}
	}
	n := 0
	c, err := other.AddPage("yellow", sure, func() string { n++; return fmt.Sprint("n", n) })
	require.NoError(t, err)
	out := b.Curriculum
	out.Techniques = slices.Clone(b.Techniques)
	for _, x := range c.Techniques {
		if !slices.ContainsFunc(out.Techniques, func(y curriculum.Technique) bool { return check.Key(x.Name) == check.Key(y.Name) }) {
			out.Techniques = append(out.Techniques, x)
		}
	}
	return Open(out)
}

var (
	ofVariant  = regexp.MustCompile(` \[[^\]]*\]$`)
	saidAnyway = regexp.MustCompile(`\b(?:in|on|the|a|an|again|jodan|high|chudan|mid|level|to)\b`)
)

// wordsOf are the words of a line without signs, plurals and what a known name says for itself.
func wordsOf(said string) []string {
	words := strings.FieldsFunc(saidAnyway.ReplaceAllString(strings.ToLower(said), " "), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	for i := range words {
		words[i] = strings.TrimSuffix(words[i], "s")
	}
	return words
}

// allIn reports whether each word stands in a text, hammer and fist in hammerfist too.
func allIn(words []string, text string) bool {
	joined := strings.Join(wordsOf(text), "")
	return !slices.ContainsFunc(words, func(w string) bool { return !strings.Contains(joined, w) })
}

// asAgain is what is asked of a line, without the moves and the attack that a known technique has already.
func asAgain(b *Reader, l PageLine) string {
	l.Moves, l.Attack = "", nil
	return map[bool]string{true: "~"}[l.Aside != ""] + ofVariant.ReplaceAllString(understood(b, l), "")
}

// readOtherwise are the lines of a page that a program with more techniques reads otherwise, and those it asks about alone.
func readOtherwise(b, knows *Reader, page []string, same func(was, is PageLine) bool) (lines int, other, asked []string) {
	open := func(l PageLine) bool { return l.Problem != "" || len(l.Doubts) > 0 || l.Asked || l.Waits }
	first, again, at := asRead(b, page), map[int][]PageLine{}, map[int]int{}
	for _, l := range knows.ParsePage(strings.Join(page, "\n")) {
		again[l.Number] = append(again[l.Number], l)
	}
	for _, l := range first {
		i := at[l.Number]
		at[l.Number]++
		row := strings.TrimSpace(page[l.Number-1])
		if open(l) || l.Aside != "" || knows.Named(row) != nil && b.Named(row) == nil && strings.Contains(row, ",") { // a row that is one thing there, by its very name
			continue
		}
		lines++
		say := func(is string) string { return fmt.Sprintf("%q: %s | %s", page[l.Number-1], asAgain(b, l), is) }
		switch {
		case i >= len(again[l.Number]):
			other = append(other, say("nothing"))
		case open(again[l.Number][i]):
			asked = append(asked, say(fmt.Sprint(again[l.Number][i].Problem, again[l.Number][i].Doubts)))
		case !same(l, again[l.Number][i]):
			other = append(other, say(asAgain(knows, again[l.Number][i])))
		}
	}
	for n, ls := range again {
		if at[n] == 0 {
			other = append(other, fmt.Sprintf("%q: nothing | %s", page[n-1], asAgain(knows, ls[0])))
		}
	}
	return lines, other, asked
}

// TestTheSamePageAgain: a page typed once more for the next rung says the same; what is known is not asked about again.
func TestTheSamePageAgain(t *testing.T) {
	golden.Alone(t)
	t.Parallel()
	lines, asked, i := 0, 0, 0
	corpus(t, func(name string, b *Reader, page []string) {
		if i++; !golden.Sample(i, oftenGone) {
			return
		}
		knows := taught(t, b, b, page)
		n, other, ask := readOtherwise(b, knows, page, func(was, is PageLine) bool { return strings.EqualFold(asAgain(b, was), asAgain(knows, is)) })
		assert.Empty(t, other, name)
		for _, x := range ask {
			t.Log(name, x)
		}
		lines, asked = lines+n, asked+len(ask)
	})
	t.Logf("%d lines, %d asked about", lines, asked)
	assert.Greater(t, lines, 1000)
	assert.LessOrEqual(t, asked, lines/500)
}

// TestAfterAnotherPage: what another school's page has made known changes neither how much is asked nor a word of it; only the kind of what is known
// already is that of the catalogue.
func TestAfterAnotherPage(t *testing.T) {
	golden.Alone(t)
	t.Parallel()
	type page struct {
		name string
		b    *Reader
		text []string
	}
	var all []page
	corpus(t, func(name string, b *Reader, text []string) { all = append(all, page{name, b, text}) })
	lines, asked := 0, 0
	for i, p := range all {
		if !golden.Sample(i, oftenGone) {
			continue
		}
		q := all[(i*37+11)%len(all)]
		knows := taught(t, p.b, q.b, q.text)
		n, other, ask := readOtherwise(p.b, knows, p.text, func(was, is PageLine) bool {
			kind := was.Kind
			if known := knows.Technique(is.TechniqueID); known != nil {
				kind = known.Kind
			}
			same := is.Kind == kind && was.Setting == is.Setting && (was.Quantity == is.Quantity || was.usual)
			before, after := was.Name+" "+was.Note+" "+string(was.LeastLevel), is.Name+" "+is.Note+" "+string(is.LeastLevel)
			if rest, heights, _ := p.b.Glossed(was.Name); is.Name == rest && len(heights) == 1 && is.LeastLevel == heights[0] { // Mawashi geri gedan, once the kick itself is known
				before = rest + " " + was.Note + " " + string(heights[0])
			}
			return same && allIn(wordsOf(before), after) && allIn(wordsOf(after), before+" "+was.Text)
		})
		assert.Empty(t, other, "%s after %s", p.name, q.name)
		for _, x := range ask {
			t.Log(p.name, "after", q.name, x)
		}
		lines, asked = lines+n, asked+len(ask)
	}
	t.Logf("%d lines, %d asked about", lines, asked)
	assert.Greater(t, lines, 1000)
	assert.LessOrEqual(t, asked, lines/200)
}
