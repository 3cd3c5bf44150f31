package curriculum

import (
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestOutlines: marks in order become as many blanks; marks out of order, or only two, stay, and lines
// without a mark are left alone.
func TestOutlines(t *testing.T) {
	for in, want := range map[string]string{
		"A. Kicks|A1 Front kick|A2 Side kick|Hook kick|B) Blocks|B1. Low block": "   Kicks|   Front kick|   Side kick|Hook kick|   Blocks|    Low block",
		"A1 Front kick|A2 Side kick|B1 Low block":                               "   Front kick|   Side kick|   Low block",
		"A.1 Front kick|A.2 Side kick|A.10 Low block":                           "",
		"A1 Front kick|A3 Side kick|A4 Low block":                               "",
		"A. Kicks|A2 Front kick|A3 Side kick":                                   "",
		"B. Kicks|B1 Front kick|B2 Side kick":                                   "",
		"A1 Front kick|C1 Side kick|C2 Low block":                               "",
		"1. Kicks|1.1 Front kick|1.2 Side kick|2. Blocks|2.1 Low block":         "1. Kicks|    Front kick|    Side kick|2. Blocks|    Low block",
		"1.5 minutes plank|2 minutes skipping|1.6 miles|1.7 miles":              "",
		"A. Kicks|A1 Front kick":                                                "",
	} {
		if want == "" {
			want = in
		}
		assert.Equal(t, want, strings.Join(withoutOutline(strings.Split(in, "|")), "|"), in)
	}
}

// TestAnOutlineKeepsItsPlaces: a line is shown as it was typed, and what is wrong in it is pointed at there.
func TestAnOutlineKeepsItsPlaces(t *testing.T) {
	b := Open(Curriculum{Sections: []Section{{ID: "k", Name: "Kicks", Kind: "kick"}}})
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
		if q := headAmount(heading); q != nil {
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
	b := Open(Curriculum{Sections: []Section{{ID: "f", Name: "Forms", Kind: "form"}}})
	lines := func(line string) int { return len(b.ParsePage("Forms\n" + line)) }
	assert.Equal(t, mostSeveral, lines("Set 3–"+strconv.Itoa(3+mostSeveral-1)))
	assert.Equal(t, 1, lines("Set 3–"+strconv.Itoa(3+mostSeveral)))
	assert.Equal(t, 2, lines("Set 3 and 4"))
	assert.Equal(t, 1, lines("Set 3 and 5"))
}

// TestOneWrongIdIsEnough: where an id stands twice, no more is looked at.
func TestOneWrongIdIsEnough(t *testing.T) {
	found := Curriculum{Program: Program{ID: "p"}, Rungs: []Rung{{ID: "r", Name: "White belt"}, {ID: "r", Name: "Blue belt"}}}.Validate()
	assert.Len(t, found, 1)
}

// TestBoardsUnderAHeadingWithAnAmount: what breaks boards is asked once, whatever the heading asks of the
// others; a Roman number before a heading is its place.
func TestBoardsUnderAHeadingWithAnAmount(t *testing.T) {
	b := Open(Curriculum{Sections: []Section{{ID: "k", Name: "Kicks", Kind: "kick"}, {ID: "s", Name: "Strikes", Kind: "strike"}}})
	read := b.ParsePage("I. Strikes\nPalm strike\nII. Kicks (8 each leg)\nFront kick\nSide kick, 2 boards")
	assert.Len(t, read, 3)
	assert.Equal(t, []string{"8 each limb", "once"}, []string{read[1].Quantity.String(), read[2].Quantity.String()})
	assert.Equal(t, []Kind{"strike", "kick"}, []Kind{read[0].Kind, read[1].Kind})
}

// TestPastedFromAWordProcessor: bullets, letters, spaces that hold words together and quotes as such programs make them; what is typed is
// shown as it was.
func TestPastedFromAWordProcessor(t *testing.T) {
	b := Open(Curriculum{Sections: []Section{{ID: "k", Name: "Kicks", Kind: "kick"}, {ID: "f", Name: "Forms", Kind: "form"}, {ID: "d", Name: "Self-defence", Kind: "self_defence"}}})
	page := "Kicks\n\u2022\tFront kick \u2013 10 each side\n\u00a0\u00a0\u2013\u00a0Round\u00a0kick, 5\u00a0a\u00a0side\nForms\n\u2003\u2013 First Quarry form\nSelf Defence\na) Wrist escape\n(b) Lapel release\niv) Push, 3 a side\n\u2022 c)\tHair grab\n\u200bBear hug escape"
	var got []string
	for _, l := range b.ParsePage(page) {
		assert.Empty(t, l.Problem, l.Text)
		got = append(got, l.Name+" "+l.Quantity.String())
	}
	assert.Equal(t, []string{"Front kick 10 a side", "Round kick 5 a side", "First Quarry form once", "Wrist escape 2 a side", "Lapel release 2 a side", "Push 3 a side", "Hair grab 2 a side", "Bear hug escape 2 a side"}, got)
	assert.Equal(t, "(b) Lapel release", b.ParsePage(page)[4].Text)
}
