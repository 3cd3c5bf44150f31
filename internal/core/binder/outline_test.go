package binder

import (
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
)

// TestOutlines: marks in order become as many blanks; marks out of order, or only two that are no letters, stay, and lines
// without a mark are left alone.
func TestOutlines(t *testing.T) {
	for in, want := range map[string]string{
		"A. Kicks|A1 Front kick|A2 Side kick|Hook kick|B) Blocks|B1. Low block": "   Kicks|   Front kick|   Side kick|Hook kick|   Blocks|    Low block",
		"A1 Front kick|A2 Side kick|B1 Low block":                               "   Front kick|   Side kick|   Low block",
		"A.1 Front kick|A.2 Side kick|A.10 Low block":                           "",
		"A1 Front kick|A3 Side kick|A4 Low block":                               "",
		"A. Kicks|A2 Front kick|A3 Side kick":                                   "",
		"B. Kicks|B1 Front kick|B2 Side kick":                                   "   Kicks|   Front kick|   Side kick",
		"A1 Front kick|C1 Side kick|C2 Low block":                               "",
		"1. Kicks|1.1 Front kick|1.2 Side kick|2. Blocks|2.1 Low block":         "1. Kicks|    Front kick|    Side kick|2. Blocks|    Low block",
		"1.5 minutes plank|2 minutes skipping|1.6 miles|1.7 miles":              "",
		"A. Kicks|A1 Front kick|B. Blocks|A. Throws|A1 Hip throw":               "   Kicks|   Front kick|   Blocks|   Throws|   Hip throw",
		"A. Kicks|A1 Front kick|A. Blocks|A1 Low block":                         "",
		"A2 Front kick|A3 Side kick|A4 Low block":                               "",
		"A. Kicks|A1 Front kick":                                                "",
		"A. Iron Fan|  step out|B. Oak Gate":                                    "   Iron Fan|  step out|   Oak Gate",
		"A. Iron Fan|C. Oak Gate":                                               "",
	} {
		if want == "" {
			want = in
		}
		assert.Equal(t, want, strings.Join(withoutOutline(strings.Split(in, "|")), "|"), in)
	}
}

// TestAnOutlineKeepsItsPlaces: a line is shown as it was typed, and what is wrong in it is pointed at there.
func TestAnOutlineKeepsItsPlaces(t *testing.T) {
	b := Open(curriculum.Curriculum{Sections: []curriculum.Section{{ID: "k", Name: "Kicks", Kind: "kick"}}})
	read := b.ParsePage("A. Kicks (8 each leg)\nA1 Front kick\nA2 Side kick, 5 a side, level upstairs")
	assert.Len(t, read, 2)
	assert.Equal(t, []string{"A1 Front kick", "Front kick", "8 each limb"}, []string{read[0].Text, read[0].Name, read[0].Quantity.String()})
	assert.Equal(t, "A2 Side kick, 5 a side, level upstairs", read[1].Text)
	assert.NotEmpty(t, read[1].Problem)
	assert.Equal(t, "level upstairs", strings.TrimSpace(read[1].Text[read[1].Column-1:]))
}

func TestTheAmountOfAHeading(t *testing.T) {
	for heading, want := range map[string]string{
		"Kicks (8 each leg)":                           "8 each limb",
		"Kicks (all 8 each leg unless stated)":         "8 each limb",
		"Kicks (red stripe) [10 a side, unless noted]": "10 a side",
		"Kicks (8)":          "",
		"Kicks (red stripe)": "",
		"Kicks":              "",
		"Hand techniques (15 each side where not noted)": "15 a side",
	} {
		got := ""
		if q, _, _ := headAmount(heading); q != nil {
			got = q.String()
		}
		assert.Equal(t, want, got, heading)
	}
}

// TestNearWords: one letter in a short word, two in a word of nine letters or more.
func TestNearWords(t *testing.T) {
	assert.True(t, near("kicks", "kicsk"))
	assert.False(t, near("kicks", "kxcsz"))
	assert.False(t, near("sparring", "sparxxng"), "eight letters, two others")
	assert.True(t, near("roundhous", "roundhxxs"), "nine letters, two others")
	assert.False(t, near("roundhous", "roundxxxs"))
}

// TestSeveralInOneLine: as many as may stand in a line, not one more, and two only where they are named
// one after the other.
func TestSeveralInOneLine(t *testing.T) {
	b := Open(curriculum.Curriculum{Sections: []curriculum.Section{{ID: "f", Name: "Forms", Kind: "form"}}})
	lines := func(line string) int { return len(b.ParsePage("Forms\n" + line)) }
	assert.Equal(t, mostSeveral, lines("Set 3–"+strconv.Itoa(3+mostSeveral-1)))
	assert.Equal(t, 1, lines("Set 3–"+strconv.Itoa(3+mostSeveral)))
	assert.Equal(t, 2, lines("Set 3 and 4"))
	assert.Equal(t, 1, lines("Set 3 and 5"))
}

// TestOneWrongIdIsEnough: where an id stands twice, no more is looked at.
func TestOneWrongIdIsEnough(t *testing.T) {
	found := curriculum.Curriculum{Program: curriculum.Program{ID: "p"}, Rungs: []curriculum.Rung{{ID: "r", Name: "White belt"}, {ID: "r", Name: "Blue belt"}}}.Validate()
	assert.Len(t, found, 1)
}

// TestBoardsUnderAHeadingWithAnAmount: what breaks boards is asked once, whatever the heading asks of the
// others; a Roman number before a heading is its place.
func TestBoardsUnderAHeadingWithAnAmount(t *testing.T) {
	b := Open(curriculum.Curriculum{Sections: []curriculum.Section{{ID: "k", Name: "Kicks", Kind: "kick"}, {ID: "s", Name: "Strikes", Kind: "strike"}}})
	read := b.ParsePage("I. Strikes\nPalm strike\nII. Kicks (8 each leg)\nFront kick\nSide kick, 2 boards")
	assert.Len(t, read, 3)
	assert.Equal(t, []string{"8 each limb", "once"}, []string{read[1].Quantity.String(), read[2].Quantity.String()})
	assert.Equal(t, []Kind{"strike", "kick"}, []Kind{read[0].Kind, read[1].Kind})
}

// TestPastedFromAWordProcessor: bullets, letters, spaces that hold words together and quotes as such programs make them; what is typed is
// shown as it was.
func TestPastedFromAWordProcessor(t *testing.T) {
	b := Open(curriculum.Curriculum{Sections: []curriculum.Section{
		{ID: "k", Name: "Kicks", Kind: "kick"}, {ID: "f", Name: "Forms", Kind: "form"}, {ID: "d", Name: "Self-defence", Kind: "self_defence"},
	}})
	page := strings.Join([]string{
		"Kicks",
		"\u2022\tFront kick \u2013 10 each side",
		"\u00a0\u00a0\u2013\u00a0Round\u00a0kick, 5\u00a0a\u00a0side",
		"Forms",
		"\u2003\u2013 First Quarry form",
		"Self Defence",
		"a) Wrist escape",
		"(b) Lapel release",
		"iv) Push, 3 a side",
		"\u2022 c)\tHair grab",
		"\u200bBear hug escape",
	}, "\n")
	var got []string
	for _, l := range b.ParsePage(page) {
		assert.Empty(t, l.Problem, l.Text)
		got = append(got, l.Name+" "+l.Quantity.String())
	}
	assert.Equal(t, []string{
		"Front kick 10 a side", "Round kick 5 a side", "First Quarry form once",
		"Wrist escape 2 a side", "Lapel release 2 a side", "Push 3 a side", "Hair grab 2 a side", "Bear hug escape 2 a side",
	}, got)
	assert.Equal(t, "(b) Lapel release", b.ParsePage(page)[4].Text)
}

// TestPagesOfStrangersReadOnce: pages of habits that were met late, each line with what a sensible reader understands; "?" stands behind
// what is read and asked about, and for what is only asked.
func TestPagesOfStrangersReadOnce(t *testing.T) {
	var sections []curriculum.Section
	for _, name := range []string{"Courtesy", "Stances", "Strikes", "Kicks", "Blocks", "Forms", "Self-defence", "Sparring", "Fitness", "Knowledge"} {
		sections = append(sections, curriculum.Section{ID: name, Name: name, Kind: curriculum.UsualKind(name)})
	}
	b := Open(curriculum.Curriculum{Sections: sections, Techniques: []curriculum.Technique{
		{ID: "1", Name: "Front kick", Kind: "kick"}, {ID: "2", Name: "Round kick", Kind: "kick"},
		{ID: "3", Name: "Jab", Kind: "strike"}, {ID: "4", Name: "Cross", Kind: "strike"},
	}})
	for _, x := range []struct {
		habit      string
		page, want []string
	}{
		{"a letter to the class", []string{
			"Here is what you need:",
			"- front kick, round kick and side kick, 10 on each leg",
			"- Quarry form 2",
			"- 3 self defence techniques of your choice",
			"- 20 push ups / 30 sit ups / 40 squats",
			"- break one board with a side kick",
		}, []string{
			"Front kick, 10 each limb, kick",
			"Round kick, 10 each limb, kick",
			"Side kick, 10 each limb, kick",
			"Quarry form 2, once, form",
			"Self defence technique of your choice, 3 times, self_defence",
			"Push ups, 20 times, fitness",
			"Sit ups, 30 times, fitness",
			"Squats, 40 times, fitness",
			"Side kick, once, kick",
		}},
		{"a column for each side", []string{
			"KICKS                    L   R",
			"Front kick               10  10",
			"Hook kick                5   5",
			"Blocks",
			"High block\t10\t10",
		}, []string{"Front kick, 10 a side, kick", "Hook kick, 5 a side, kick", "High block, 10 a side, block"}},
		{"two amounts, and no head over them", []string{"Blocks", "High block     10   4"}, []string{"High block, 4 times, block?"}},
		{"a heading on each line", []string{
			"Stance work: walking stance, sitting stance",
			"Foot work: front rising kick",
			"Free sparring: 3 rounds",
			"Breaking: side kick, 1 board",
			"Theory: counting to 10; meaning of white belt",
		}, []string{
			"Walking stance, 5 a side, stance",
			"Sitting stance, 5 a side, stance",
			"Front rising kick, 5 a side, kick",
			"Free sparring, 3 × 60 s, 30 s rest, sparring?",
			"side kick, once, kick",
			"counting to 10, once, knowledge",
			"meaning of white belt, once, knowledge",
		}},
		{"footwork that is none of the legs", []string{
			"Sparring",
			"Rounds of the hall, 3 rounds of 2 min",
			"Footwork",
			"Step and slide",
		}, []string{"Rounds of the hall, 3 × 120 s, sparring", "Step and slide, 5 a side, footwork"}},
		{"boxes, and how often behind a dash", []string{"Blocks", "[ ] Low block - step forward x5"}, []string{"Low block, 5 times, block"}},
		{"parts of a sheet with their points", []string{
			"Section A - Kicks (30 points)",
			"A1. Low roundhouse kick [10]",
			"A2. Front kick, both legs [5]",
			"Section B: Strikes",
			"B1. Jab - cross - hook [10]",
			"B2. Knee strike [5]",
			"Part 3. Sparring [30 pts]",
			"2 x 2 minute rounds, light contact [30]",
		}, []string{
			"Low roundhouse kick, 5 a side, kick",
			"Front kick, 5 a side, kick",
			"Jab - cross - hook, 4 a side, combination",
			"Knee strike, 5 a side, strike",
			"Sparring, 2 × 120 s, sparring",
		}},
		{"one by one, or one after the other", []string{"Strikes", "Jab, cross and hook, 10"}, []string{"?"}},
		{"named twice", []string{"Kicks", "Hook kick, push kick and hook kick, 3 a side", "Push kick"}, []string{
			"Hook kick, 3 a side, kick", "Push kick, 3 a side, kick", "Hook kick, 3 a side, kick", "Push kick, 5 a side, kick",
		}},
		{"sentences of a list", []string{
			"Self-defence",
			"- Wrist grab from the front is taken off with the thumb",
			"- Bear hug from behind is broken by dropping the weight",
		}, []string{
			"Wrist grab from the front is taken off with the thumb, 2 a side, self_defence",
			"Bear hug from behind is broken by dropping the weight, 2 a side, self_defence",
		}},
	} {
		var got []string
		for _, l := range b.ParsePage(strings.Join(x.page, "\n")) {
			asked := ""
			if len(l.Doubts) > 0 {
				asked = "?"
			}
			switch {
			case l.Aside != "":
			case l.Problem != "":
				got = append(got, "?")
			default:
				got = append(got, l.Name+", "+l.Quantity.String()+", "+string(l.Kind)+asked)
			}
		}
		assert.Equal(t, x.want, got, x.habit)
	}
}
