package binder

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// TestAKindOnTheLineIsTheKind: the word of a kind behind a new name, which the page offers beside each line, is never a name itself
// nor a remark, whatever the section, the name and what stands between say.
func TestAKindOnTheLineIsTheKind(t *testing.T) {
	t.Parallel()
	b, wrong := island(nil), []string(nil)
	for _, s := range b.Sections {
		for _, name := range []string{"Hook kick", "Low block", "Elbow", "Duck", "Moon Gate", "Side kick", "Horse stance"} {
			for i, k := range curriculum.Kinds {
				for j, behind := range []string{"", ", 6", " (slowly)"} {
					if (i+j)%3 != 0 {
						continue
					}
					typed := name + behind + " [kind " + k.Words() + "]"
					if lines := b.ParsePage(s.Name + "\n" + typed); len(lines) != 1 || lines[0].Name != name || lines[0].Kind != k || lines[0].Problem != "" {
						wrong = append(wrong, fmt.Sprintf("%s: %s: %d lines, %s: %s %s", s.Name, typed, len(lines), lines[0].Kind, lines[0].Name, lines[0].Problem))
					}
				}
			}
		}
	}
	assert.Empty(t, wrong)
}

// kindChosen is a page where the kind of something new was chosen beside its line.
func kindChosen(page []string, lines []PageLine, l PageLine, k Kind) []string {
	page = slices.Clone(page)
	alone := !slices.ContainsFunc(lines, func(x PageLine) bool { return x.Number == l.Number && x.New && x.Name != l.Name })
	page[l.Number-1] = WithKind(page[l.Number-1], l.Name, k.Words(), alone)
	return page
}

// TestAKindChosenBesideALine: on pages of every habit, tables, lists and sentences, a kind that is chosen beside a line becomes that of what
// the line names. One in fifty may miss it: names that are put together from several lines.
func TestAKindChosenBesideALine(t *testing.T) {
	golden.Alone(t)
	t.Parallel()
	n, missed := 0, []string(nil)
	eachRead(t, 20, func(at string, b *Reader, page []string, lines []PageLine, i int) {
		l := lines[i]
		again := slices.ContainsFunc(lines[:i], func(x PageLine) bool { return x.New && check.Key(x.Name) == check.Key(l.Name) })
		if !l.New || again || l.Problem != "" || l.Aside != "" || i%4 != 0 {
			return
		}
		k := Kind("throw")
		if l.Kind == k {
			k = "kick"
		}
		n++
		after := asRead(b, kindChosen(page, lines, l, k))
		if !slices.ContainsFunc(after, func(x PageLine) bool { return x.Number == l.Number && x.Kind == k }) {
			missed = append(missed, at+" "+page[l.Number-1]+": "+l.Name)
		}
	})
	assert.Greater(t, n, 100)
	few := 0
	if !golden.Long() { // one page in twenty may hold a few more than its share
		few = 3
	}
	assert.LessOrEqual(t, 50*(len(missed)-few), n, missed)
}

// TestWithKind: a line says each kind once, the last one chosen, and those of other names stay.
func TestWithKind(t *testing.T) {
	for want, line := range map[string]string{
		WithKind("Hook, 5", "Hook", "kick", true):                                       "Hook, 5 [kind kick]",
		WithKind("Hook, 5 [kind kick] ", "Hook", "strike", true):                        "Hook, 5 [kind strike]",
		WithKind("Hook; axe", "Axe", "throw", false):                                    "Hook; axe [Axe: kind throw]",
		WithKind("Hook; axe [Axe: kind throw] [Hook: kind kick]", "axe", "kick", false): "Hook; axe [Hook: kind kick] [axe: kind kick]",
		WithKind("Hook [kind of odd]", "Hook", "kick", true):                            "Hook [kind of odd] [kind kick]",
	} {
		assert.Equal(t, line, want)
	}
	b := island(nil)
	lines := b.ParsePage("Strikes\nReed, axe [axe: kind kick]\nBell (high) [KIND throw]\nBog [kind of odd]\nSwamp 1-3 [Swamp 2: kind lock]\nBog 2 [kind kick] [kind lock]")
	said := []string(nil)
	for _, l := range lines {
		said = append(said, string(l.Kind)+" "+l.Name)
	}
	assert.Equal(t, []string{"strike Reed", "throw Bell", "strike Bog [kind of odd]", "strike Swamp 1-3", "lock Bog 2"}, said)
}

// TestASectionInTheSchoolsWords: a heading that no section is called offers to become one, in small letters; below a section whose name says
// no kind, what a name plainly is stays that.
func TestASectionInTheSchoolsWords(t *testing.T) {
	b := island(nil)
	head := b.ParsePage("COMBATIVES:\nPalm heel, 5\n\nKicks\nHeel kick\n\nWHAT WE LIKE TO SEE FROM ALL OF YOU ON THE DAY ITSELF\nHook")
	assert.Equal(t, "Combatives", head[0].Unheard)
	assert.NotEmpty(t, head[0].Problem)
	for _, l := range head[1:] {
		assert.Empty(t, l.Unheard, l.Text)
	}
	assert.Equal(t, "Combatives", b.ParsePage("COMBATIVES\nPalm heel, 5 a side")[0].Unheard, "the first line of a short page")
	assert.Empty(t, b.ParsePage("Bridge, 30 s\nPalm heel, 5 a side")[0].Unheard)
	cells := b.ParsePage("Section\tItem\tHow many\nCombatives\tPalm heel\t5\nCombatives\tHook\t5\nKicks\tHeel kick\t5")
	assert.True(t, slices.ContainsFunc(cells, func(l PageLine) bool { return l.Unheard == "Combatives" }), cells)
	b = island(func(c *curriculum.Curriculum) {
		c.Sections = append(c.Sections, curriculum.Section{ID: "c", Name: "Combatives", Kind: "strike"})
	})
	said := []string(nil)
	for _, l := range b.ParsePage("COMBATIVES\nPalm heel, 5\nHeel kick, 10 each leg\nEye flick, 5\nLow block, 5\nKicks\nElbow\nFitness\nBag: 1 x 2 min round flat out\nHeavy bag: 2 x 3 min\nPads 3 x 1 min, must") {
		said = append(said, l.Section+" "+string(l.Kind)+" "+l.Name+", "+l.Quantity.String())
		assert.Empty(t, l.Problem)
	}
	assert.Equal(t, []string{"Combatives strike Palm heel, 5 times", "Combatives kick Heel kick, 10 each limb", "Combatives strike Eye flick, 5 times", "Combatives block Low block, 5 times",
		"Kicks kick Elbow, 5 a side", "Fitness fitness Bag rounds, 1 × 120 s", "Fitness fitness Heavy bag rounds, 2 × 180 s", "Fitness fitness Pad rounds, 3 × 60 s"}, said)
}

// TestAKindOfAWholeList: the kind chosen beside a label and a list that nobody knows is that of each thing on the list; steps of one thing stay
// its steps.
func TestAKindOfAWholeList(t *testing.T) {
	b := island(nil)
	asks := func(typed string) bool { return b.ParsePage(typed)[0].AsksKind() }
	assert.True(t, asks("Strikes\nEndings: Bending Willow, Quiet Storm"))
	assert.False(t, asks("Combinations\nCombo 1: jab, cross, gate"), "a combination has moves")
	for typed, want := range map[string][]string{
		"Endings: Bending Willow, Quiet Storm [kind self-defence technique]":                  {"self_defence Bending Willow", "self_defence Quiet Storm"},
		"Paddles: front, side, reed kick, 5 each [kind kick]":                                 {"kick Front kick", "kick Side kick", "kick Reed kick"},
		"Reed jab, cross [kind combination]":                                                  {"combination Reed jab, cross"},
		"Group 2: Bending Reed (left push), Quiet Pool, 3 each [kind self-defence technique]": {"self_defence Bending Reed", "self_defence Quiet Pool"},
		"Lanes: bear crawl, frog jump [kind fitness item]":                                    {"fitness Bear crawl", "fitness Frog jump"},
		"Reed Cut: step in, turn the hip, let go [kind self-defence technique]":               {"self_defence Reed Cut"},
		"Bog: mud, reeds [kind throw or takedown]":                                            {"throw Bog"},
	} {
		var got []string
		for _, l := range b.ParsePage(typed) {
			got = append(got, string(l.Kind)+" "+l.Name)
		}
		assert.Equal(t, want, got, typed)
	}
}
