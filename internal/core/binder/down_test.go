package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
)

// readAs are the lines that a page is read as, each in the words of the corpus; what is set aside as its reason, what is asked about with a question mark.
func readAs(b *Reader, page string) (out []string) {
	for _, l := range b.ParsePage(page) {
		switch {
		case l.Aside != "":
			out = append(out, "~ "+l.Aside)
		case l.Problem != "" || len(l.Doubts) > 0 || l.Waits:
			out = append(out, "? "+l.Name)
		default:
			out = append(out, understood(b, l))
		}
	}
	return out
}

// TestCellsOneBelowTheOther: a table that was copied cell by cell is read as the same table typed as one, whatever its columns; blank cells
// and blank lines between records change nothing.
func TestCellsOneBelowTheOther(t *testing.T) {
	b := shore()
	table := "Technique\tReps\tNotes\nFront kick\t10 each leg\tknee high\nPalm heel strike\t8 each hand\t\nPattern One\t1\tslowly\n"
	want := readAs(b, table)
	down := strings.ReplaceAll(table, "\t", "\n")
	assert.Equal(t, []string{"~ the head of the columns", "kick: Front kick, 10 each limb (knee high)", "strike: Palm heel strike, 8 each limb", "form: Pattern One, 1, slowly"}, want)
	assert.Equal(t, want, readAs(b, down))
	assert.Equal(t, want, readAs(b, strings.Replace(down, "Front kick", "\nFront kick", 1)), "a blank line below the heads")
	assert.Equal(t, []string{"kick: Front kick, 10 each limb", "block: Low block, 5 each limb", "fitness: Press-ups, 15"}, readAs(b, "Front kick\n10 each leg\nLow block\n5 each arm\nPress-ups\n15 reps"), "without heads")
	assert.NotContains(t, readAs(b, "Technique\nReps\nFront kick\nSide kick\nBack kick\nHook kick"), "~ the head of the columns", "two words are no heads where no amounts stand below")
}

// TestBesideEachOther: what stands in columns is one line each, where all of it is of one kind; a technique and its stance are not.
func TestBesideEachOther(t *testing.T) {
	b := shore()
	assert.Equal(t, []string{"kick: Front kick, 5 a side", "kick: Side kick, 5 a side", "kick: Hook kick, 5 a side"}, readAs(b, "Kicks\nFront kick\t\tSide kick\nHook kick"))
	assert.Equal(t, readAs(b, "Kicks\nFront kick\tSide kick"), readAs(b, "Kicks\nFront kick     Side kick"))
	assert.Len(t, readAs(b, "Kicks\nFront kick\tHorse stance"), 1)
	assert.Len(t, readAs(b, "Kicks\nFront kick\tlead leg"), 1)
}

// TestColumnsOfTracks: an amount for each track is what its columns say; the last is that of everybody else, and what is none is left out.
func TestColumnsOfTracks(t *testing.T) {
	b := island(func(c *curriculum.Curriculum) {
		c.Program.Tracks = []curriculum.Track{{ID: "c", Name: "Cubs"}, {ID: "j", Name: "Juniors"}, {ID: "a", Name: "Adults"}}
	})
	want := []string{"fitness: Press-ups, 20, 5 times for Cubs, 10 times for Juniors", "kick: Front kick, 10 a side, not for Cubs"}
	assert.Equal(t, want, readAs(b, "CUBS (5-7)  |  JUNIORS (8-12)  |  ADULTS\nPress-ups: 5 | 10 | 20\nFront kick: none | 10 a side | 10 a side"))
	assert.Equal(t, want, readAs(b, "Item\tCubs\tJuniors\tAdults\nPress-ups\t5\t10\t20\nFront kick\t-\t10 a side\t10 a side"))
	for _, l := range b.ParsePage("Cubs | Juniors | Adults\nCrane Form: first half | all | all") {
		assert.True(t, l.Problem != "" || len(l.Doubts) > 0, "what is no amount is asked about")
	}
	assert.NotEqual(t, want, readAs(shore(), "Cubs | Juniors | Adults\nPress-ups: 5 | 10 | 20\nFront kick: none | 10 a side | 10 a side"), "where the program has no such tracks")
}

// TestTablesSetWithSpaces: columns that begin where their heads do are those of the same table with tabs, blank cells and all; without heads that are
// known nothing is cut.
func TestTablesSetWithSpaces(t *testing.T) {
	b := shore()
	spaces := "Item              Reps       Notes\nLow block         5L 5R      slowly\nFront kick                   knee first\nForm One          once\n"
	tabs := "Item\tReps\tNotes\nLow block\t5L 5R\tslowly\nFront kick\t\tknee first\nForm One\tonce\t\n"
	assert.Equal(t, []string{"~ the head of the columns", "block: Low block, 5 a side, slowly", "kick: Front kick, 5 a side (knee first)", "form: Form One, 1"}, readAs(b, tabs))
	assert.Equal(t, readAs(b, tabs), readAs(b, spaces))
	assert.Equal(t, []string{"kick: Front kick, 10 a side"}, readAs(b, "Kicks\nFront kick   10 each side"))
	assert.Equal(t, []string{"~ the head of the columns", "block: Low block, 5 a side"}, readAs(b, "Item\tReps\nLow block\t-"), "a dash says nothing")
}
