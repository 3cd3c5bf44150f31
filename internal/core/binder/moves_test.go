package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
)

// TestMovesMakeWhatNobodyKnows: in an empty school a row of moves makes the combination and each move, once, with the kind its word tells;
// the next page knows them.
func TestMovesMakeWhatNobodyKnows(t *testing.T) {
	b := island(nil)
	lines := b.ParsePage("Combinations\nCombo 1: reed jab - reed cross → stamp kick, 5 a side\nStamp kick, reed jab, 3 a side\nSlip, reed cross and reed jab")
	require.Len(t, lines, 3)
	for _, l := range lines {
		require.Empty(t, l.Problem, l.Text)
	}
	assert.Equal(t, []Numbered{{Name: "Reed jab", Kind: "strike"}, {Name: "Reed cross", Kind: "strike"}, {Name: "Stamp kick", Kind: "kick"}}, lines[0].Makes)
	assert.Empty(t, lines[1].Makes, "they are made above")
	assert.Equal(t, []string{"reed jab, reed cross, stamp kick", "Stamp kick, reed jab"}, []string{lines[0].Moves, lines[1].Moves})
	assert.Equal(t, "5 a side", lines[0].Quantity.String(), "an amount behind the moves")
	c, err := b.AddPage("w", lines, counter())
	require.NoError(t, err)
	made := map[string]Kind{}
	for _, x := range c.Techniques {
		require.Empty(t, made[x.Name], "%s stands once", x.Name)
		made[x.Name] = x.Kind
	}
	assert.Equal(t, Kind("kick"), made["Stamp kick"])
	assert.Equal(t, Kind("combination"), made["Combo 1"])
	next := Open(c)
	for _, f := range next.Check() {
		assert.NotEqual(t, curriculum.Unreadable, f.Kind, "its moves can be read")
	}
	again := next.ParsePage("Combinations\nCombo 2: stamp kick, reed cross")
	require.Empty(t, again[0].Problem)
	assert.Empty(t, again[0].Makes)
}

// TestMovesThatMakeNothing: what tells no kind, or is under another heading than moves are, is asked about, and nothing is made of it.
func TestMovesThatMakeNothing(t *testing.T) {
	b := island(nil)
	for page, problem := range map[string]string{
		"Combinations\nCombo 1: reed jab, bamboozle": `"reed jab" is not in the catalogue`,
		"Kicks\nMill kick: reed jab, stamp kick":     "“reed jab” is no move that this program knows",
		"Sparring\nShark bait: reed jab, stamp kick": "a sparring round has no moves",
	} {
		lines := b.ParsePage(page)
		require.NotEmpty(t, lines, page)
		last := lines[len(lines)-1]
		assert.Contains(t, last.Problem, problem, page)
		assert.Empty(t, last.Makes, page)
	}
	again := b.ParsePage("Combinations\nCombo 1: reed jab, bamboozle\nCombo 2: reed jab, stamp kick")
	assert.Len(t, again[1].Makes, 2, "what one line could not make the next one can")
}

// TestWaitingForAHeading: below a heading that is asked about a kind stays open, and such a page is not added.
func TestWaitingForAHeading(t *testing.T) {
	b := island(nil)
	lines := b.ParsePage("Juggling:\nOld oak, 2\nMill kick, 5")
	require.Len(t, lines, 3)
	assert.NotEmpty(t, lines[0].Problem)
	assert.True(t, lines[1].Waits)
	assert.Equal(t, []any{false, Kind("kick"), ""}, []any{lines[2].Waits, lines[2].Kind, lines[2].Problem}, "its words tell")
	_, err := b.AddPage("w", lines, counter())
	require.ErrorIs(t, err, ErrPage)
	_, err = b.AddPage("w", lines[1:], counter())
	require.ErrorIs(t, err, ErrPage, "a kind is not guessed")
	lines = b.ParsePage("Old oak, 2\nElder, 3\n\nKicks\nMill kick")
	assert.Equal(t, []bool{true, false}, []bool{lines[0].Problem != "", lines[0].Waits}, "of lines without a heading the first is asked")
	assert.True(t, lines[1].Waits)
}

// TestALineHasAnEnd: a line that is too long is asked to be several, once, and the others are read.
func TestALineHasAnEnd(t *testing.T) {
	long := "Kicks: " + strings.Repeat("mill kick, ", MaxLine)
	lines := island(nil).ParsePage("Strikes\nReed jab\n" + long + "\nReed cross\n" + strings.Repeat("x", MaxLine))
	require.Len(t, lines, 4)
	assert.Equal(t, []any{3, "a line has up to 600 characters; write it as several", MaxLine}, []any{lines[1].Number, lines[1].Problem, lines[1].Column})
	assert.Equal(t, []any{"Reed cross", ""}, []any{lines[2].Name, lines[2].Problem})
	assert.NotContains(t, lines[3].Problem, "up to 600", "as long as a line may be")
}

// TestSidesBehindMoves: the side of a move may stand behind it, and its last word be left out where one technique begins so; what is a move
// by itself, a way to step and what two techniques begin with stay as they are.
func TestSidesBehindMoves(t *testing.T) {
	b := island(func(c *curriculum.Curriculum) {
		for _, name := range []string{"Straight punch", "Palm heel", "Hook kick", "Side elbow", "Side kick", "Low sweep", "Ridge hand strike"} {
			c.Techniques = append(c.Techniques, curriculum.Technique{ID: name, Name: name, Kind: map[bool]Kind{true: "kick", false: "strike"}[strings.HasSuffix(name, "kick")]})
		}
	})
	alone := b.ParsePage("Strikes\nCombination: straight left, straight right, jab")[0]
	assert.Equal(t, []string{"Straight left, straight right, jab", "left straight punch, right straight punch, jab", ""}, []string{alone.Name, alone.Moves, alone.Problem})
	for typed, want := range map[string]string{
		"straight left, straight right, knee":             "left straight punch, right straight punch, knee",
		"jab - palm right - front kick left leg":          "jab, right palm heel, left front kick",
		"left straight, hook right":                       "left straight punch, right hook",
		"jab, hook, cross right arm":                      "jab, hook, right cross",
		"straight punch left, side, jab":                  "straight punch left, side, jab", // kick or elbow?
		"jab, low left":                                   "jab, low left",
		"jab, ridge":                                      "jab, ridge",
		"reed jab, straight, straight left, stamp kick 2": "reed jab, straight, straight left, stamp kick 2",
	} {
		l := b.ParsePage("Combinations\nCombo 7: " + typed)[0]
		assert.Equal(t, want, l.Moves, typed)
		assert.Equal(t, want == typed, l.Problem != "", "%s: %s", typed, l.Problem)
	}
}
