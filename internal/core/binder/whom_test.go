package binder

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
)

// trackedBook is a school with tracks of these ages.
func trackedBook(tracks ...curriculum.Track) *Reader {
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Here"}, Rungs: []curriculum.Rung{{ID: "yellow", Name: "Yellow belt"}}}
	c.Program.Tracks = tracks
	for i, s := range curriculum.DefaultSections {
		c.Sections = append(c.Sections, curriculum.Section{ID: fmt.Sprint("s", i), Name: s, Kind: curriculum.UsualKind(s)})
	}
	return Open(c)
}

// leftOut are the tracks that a line is not for.
func leftOut(b *Reader, l PageLine) (out []string) {
	for _, t := range b.Program.Tracks {
		for _, c := range l.Tracks {
			if c.TrackID == t.ID && c.LeaveOut {
				out = append(out, t.Name)
			}
		}
	}
	return out
}

// TestFromWhichAge: a line from an age on is left out of exactly the tracks of which no member is as old, counted year by year, and its words stay.
func TestFromWhichAge(t *testing.T) {
	for _, from := range []int{4, 9, 13, 17} {
		for _, to := range []int{from + 1, from + 5} {
			tracks := []curriculum.Track{{ID: "a", Name: "Sprouts", From: 0, To: from}, {ID: "b", Name: "Herons", From: from + 1, To: to}, {ID: "c", Name: "Oaks", From: to + 1}}
			b := trackedBook(tracks...)
			for _, age := range []int{7, 12, 14, 16, 18} {
				var out []string
				for _, x := range tracks {
					old := false
					for year := range 100 {
						if year >= x.From && (x.To == 0 || year <= x.To) && year >= age {
							old = true
						}
					}
					if !old {
						out = append(out, x.Name)
					}
				}
				for _, line := range []string{"Side kick - not under %d", "Side kick over %ds", "Side kick: over %ds only", "Jump kick %d and over", "Side kick, 5 each leg - %d years and up"} {
					l := b.ParsePage("Kicks\n" + fmt.Sprintf(line, age))[0]
					require.Equal(t, out, leftOut(b, l), "%s, %d, %v", line, age, tracks)
					require.Contains(t, []string{"Side kick", "Jump kick"}, l.Name)
					require.Contains(t, []string{"5 a side", "5 each limb"}, l.Quantity.String(), line)
					require.Empty(t, l.Doubts, line)
				}
				for _, said := range []string{"%d and over", "%d+", "over %ds only", "%d years and over only", "ages %d and up", "not under %d"} {
					words := fmt.Sprintf(said, age)
					for _, line := range []string{"Side kick (" + words + ")", "Side kick, " + words, "Side kick, 5 each leg, " + words} {
						l := b.ParsePage("Kicks\n" + line)[0]
						require.Equal(t, out, leftOut(b, l), "%s, %v", line, tracks)
						require.Equal(t, words, l.Note, line)
						require.Empty(t, l.Problem)
						require.Empty(t, l.Doubts, line)
					}
				}
			}
		}
	}
}

// TestOverSoManySeconds: of what is held, over 15s is a time and nobody's age; 16 and over is one.
func TestOverSoManySeconds(t *testing.T) {
	b := trackedBook(curriculum.Track{ID: "a", Name: "Sprouts", To: 9, Young: true}, curriculum.Track{ID: "c", Name: "Oaks", From: 10})
	for _, line := range []string{"Stances\nHorse stance, over 15s", "Fitness\nPlank over 15s", "Fitness\nPlank - over 15s", "Kicks\nKick over 3 people"} {
		assert.Empty(t, leftOut(b, b.ParsePage(line)[0]), line)
	}
	for _, line := range []string{"Stances\nHorse stance, 16 and over", "Fitness\nPlank, 16 and over", "Kicks\nSide kick over 15s"} {
		assert.Equal(t, []string{"Sprouts"}, leftOut(b, b.ParsePage(line)[0]), line)
	}
	assert.Equal(t, "with count, then without", b.ParsePage("Forms\nPebble Walk w/ count, then w/o")[0].Note)
}

// TestForGrownUps: adults and children are the tracks that are so, whatever they are called; where a school has none of the other sort, the
// words stay.
func TestForGrownUps(t *testing.T) {
	b := trackedBook(curriculum.Track{ID: "a", Name: "Sprouts", Young: true}, curriculum.Track{ID: "b", Name: "Herons", Young: true}, curriculum.Track{ID: "c", Name: "Oaks"})
	for said, out := range map[string][]string{
		"adults only": {"Sprouts", "Herons"}, "seniors only": {"Sprouts", "Herons"}, "grown-ups only": {"Sprouts", "Herons"}, "Oaks only": {"Sprouts", "Herons"},
		"children only": {"Oaks"}, "kids only": {"Oaks"}, "Sprouts only": {"Herons", "Oaks"}, "juniors exempt": {"Sprouts", "Herons"}, "adults exempt": {"Oaks"},
		"friends only": nil,
	} {
		l := b.ParsePage("Kicks\nSide kick (" + said + ")")[0]
		assert.Equal(t, out, leftOut(b, l), said)
		assert.Equal(t, out == nil, l.Note != "", said)
		assert.Empty(t, l.Doubts, said)
	}
	alone := trackedBook(curriculum.Track{ID: "c", Name: "Oaks"})
	l := alone.ParsePage("Kicks\nSide kick (adults only)")[0]
	assert.Empty(t, l.Tracks)
	assert.Equal(t, "adults only", l.Note)
}

// TestAgeOfAHeading: what a heading says of an age holds for every line below it, and a page that is written out again reads the same.
func TestAgeOfAHeading(t *testing.T) {
	b := trackedBook(curriculum.Track{ID: "a", Name: "Sprouts", To: 9, Young: true}, curriculum.Track{ID: "c", Name: "Oaks", From: 10})
	for _, l := range b.ParsePage("Kicks (over 14s)\nSide kick\nRound kick, 5 each leg") {
		assert.Equal(t, []string{"Sprouts"}, leftOut(b, l), l.Text)
		assert.Equal(t, "over 14s", l.Note)
	}
	for _, note := range []string{"14+", "over 14s", "softly"} {
		c := b.Curriculum
		c.Techniques = []curriculum.Technique{{ID: "k", Name: "Side kick", Kind: "kick"}}
		c.Requirements = []curriculum.Requirement{{ID: "r", RungID: "yellow", SectionID: b.Sections[3].ID, TechniqueID: "k", Quantity: curriculum.DefaultAmount("kick"), Weight: 1, Role: curriculum.Roles[0], Note: note}}
		here, again := Open(c), 0
		for _, l := range here.ParsePage(here.PageOf("yellow")) {
			if l.TechniqueID == "k" {
				again++
				assert.Equal(t, note, l.Note)
				assert.Empty(t, l.Tracks, "the age was a remark: %s", note)
			}
		}
		assert.Equal(t, 1, again, note)
	}
}
