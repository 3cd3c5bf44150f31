package curriculum

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/check"
)

// read is how a line of a page is read, in one line.
func read(b *Book, l PageLine) string {
	if l.Problem != "" {
		return fmt.Sprintf("%d: %s", l.Column, l.Problem)
	}
	amount := strings.NewReplacer(" times", "", "once", "1", "×", "x").Replace(l.Quantity.String())
	out := strings.Join(append([]string{l.Name, amount}, b.PartsOf(l.Requirement)...), ", ")
	if l.Note != "" {
		out += " (" + l.Note + ")"
	}
	if l.Moves != "" {
		out += ": " + l.Moves
	}
	for _, d := range l.Doubts {
		out += " ? " + strings.Fields(d.Reason)[0]
	}
	return out
}

// TestAPageAsAStrangerTypesIt: pages copied out of a handbook, a list or a spreadsheet. In
// this program jab, slip and hopping jab are known, the rest is new.
func TestAPageAsAStrangerTypesIt(t *testing.T) {
	b := school(func(c *Curriculum) {
		c.technique("jab").Aliases = []string{"Lead straight", "1. Jab of old"}
		c.Techniques = append(c.Techniques, Technique{ID: "odd", Name: "Elbow: inside, (short)", Kind: "strike"}, Technique{ID: "two", Name: "2 for 1", Kind: "combination"})
	})
	for line, want := range map[string]string{
		// Signs of a list.
		"1. Hook, 5": "Hook, 5", "2) Hook, 5": "Hook, 5", "- Hook, 5": "Hook, 5", "  • Hook, 5": "Hook, 5", "– Jab": "Jab, 5 a side", "* Hook": "Hook, 5 a side", "12. Jab, 3": "Jab, 3",
		"1. Jab of old, 3": "Jab, 3", "1.Hook, 3": "Hook, 3", "1.5 m jump, 3": "1.5 m jump, 3 ? the", "-Hook, 3": "Hook, 3", "2 for 1, once": "2 for 1, 1", "1. 2 for 1, once": "2 for 1, 1",
		// Amounts that stand without a comma.
		"Hook 10 each hand": "Hook, 10 each limb", "Hook x 20": "Hook, 20", "Hook x20 reps": "Hook, 20", "Hook 20x": "Hook, 20", "Plank 1 minute": "Plank, 60 s", "Plank 1:30": "Plank, 90 s", "Plank 1:30 min": "Plank, 90 s",
		"Hook – 10 each": "Hook, 10 a side", "Hook - on pads": "Hook, 5 a side, on pads", "Hook 8 a side - must": "Hook, 8 a side, must", "Hook - left": "Hook, 5 a side (left)", "Hook — 4 - 8 a side": "Hook, 8 a side ? there",
		"Jab 10 each hand": "Jab, 10 each limb", "lead STRAIGHT x 3": "Jab, 3", "Mill drill 12": "Mill drill 12, 4 a side", "Mill drill 12 x 5 times": "Mill drill 12, 5", "Mill drill 12 4 a side": "Mill drill 12, 4 a side",
		"Sparring 2 x 2 min": "Sparring, 2 x 120 s", "Sparring, 2 x 1:30, 0:30 rest": "Sparring, 2 x 90 s, 30 s rest", "Push-ups 3 x 10": `1: not an amount: "3 x 10"; write the reps in all, 30, and the sets as a remark: (3 x 10)`,
		"Push-ups, 3 sets of 10": `11: not an amount: "3 sets of 10"; write the reps in all, 30`,
		"Hook x 20 must pass":    "Hook, 20, must", "Hook 8R 8L": "Hook, 8 a side", "Hook, 8/8": "Hook, 8 a side", "Hook, 5+5": "Hook, 5 a side", "Hook, 5+6": `7: "5+6" is not understood`, "Hook, 10 reps L/R": "Hook, 10 a side", "Hook, once each": "Hook, 1 a side", "Hook 2½ min": "Hook, 150 s", "Hook, ½ min": "Hook, 30 s",
		"Shields: 3 x 1 min (30 sec rest)": "Shields, 3 x 60 s (30 sec rest)", "Hook bonus": "Hook, 5 a side, bonus", "Must": "Must, 5 a side",
		"GAMES": "GAMES, 5 a side ? GAMES", "Games": "Games, 5 a side ? Games", "BASICS, 5": "BASICS, 5", "KO": "KO, 5 a side", "漢字漢字": "漢字漢字, 5 a side", "JABS: lead jab": "JABS, 5 a side: lead jab",
		// Amounts before the name.
		"20 push-ups": "Push-ups, 20 ? 20", "10 front kicks": "Front kicks, 10 ? 10", "10 front kicks each leg": "Front kicks, 10 each limb", "10 hopping jabs": "Hopping jab, 10 ? 10", "4 SLIPS each side": "Slip, 4 a side", "10 x front kick": "Front kick, 10", "2 min plank": "Plank, 120 s", "3 x 10 push-ups": `1: not an amount: "3 x 10"`,
		"10 élan kicks": "Élan kicks, 10 ? 10", "10 élan kicks, not a number": "10 élan kicks, 5 a side", "10 élan kicks, 4 a side": "10 élan kicks, 4 a side ? the", "360 turn kick": "360 turn kick, 5 a side ? the", "101 kick": "101 kick, 5 a side ? the", "100 kicks": "Kicks, 100 ? 100",
		"3 2 1 drill": "3 2 1 drill, 5 a side ? the", "10 x": "10 x, 5 a side ? the", "10": "10, 5 a side ? the", "5 holds of 10 s plank": "Plank, 5 holds of 10 s",
		// Amounts in the remark and behind a colon.
		"Hook (10 each hand)": "Hook, 10 each limb", "Hook, 4 (10 each hand)": "Hook, 4 (10 each hand)", "Hook (10 each hand, short, hard)": "Hook, 10 each limb (short, hard)", "Hook (10)": "Hook, 5 a side (10)", "Jab (2 x 60 s)": "Jab, 2 x 60 s",
		"Hook: 10 each hand": "Hook, 10 each limb", "Hook: 10 a side, must (fast)": "Hook, 10 a side, must (fast)", "Jab: 10": "Jab, 10", "Hook: x2 lead jab": "Hook, 5 a side: x2 lead jab", "Hook: 1:30": "Hook, 90 s",
		"Hook, 4 a side: lead jab, 10": "27: no technique has the call number 10",
		// Remarks.
		"Hook (short), 4": "Hook, 4 (short)", "Hook (short) 4": "Hook, 4 (short)", "Hook (short), on pads (hard (very))": "Hook, 5 a side, on pads (short, hard (very))", "Hook, 4 (see: page 3): lead jab": "Hook, 4 (see: page 3): lead jab", "Hook, 4 (short": "9: this remark is not closed", "Hook, must (": "12: this remark is not closed",
		// Signs of a spreadsheet.
		"Hook\t10 a side\tmust": "Hook, 10 a side, must", "Hook; 10 a side; must": "Hook, 10 a side, must", "\tHook, 4": "Hook, 4",
		// Known names with any sign in them.
		"Elbow: inside, (short), 3": "Elbow: inside, (short), 3", "- elbow: INSIDE, (short): 3 a side": "Elbow: inside, (short), 3 a side",
		// Lines that are no requirement.
		"Stretches:": "1: this is no section of the program; its sections are All", "## Kicks": "1: this is no section", "Hook, 4 a side:": "Hook, 4 a side", ", 5": "1: a technique's name of up to", "- , 5": "1: a technique's name of up to", strings.Repeat("x", 81) + ", 5": "1: a technique's name of up to",
		"Hook, often": "Hook, 5 a side (often)", "1. Hook,  often": "Hook, 5 a side (often)", "Hook (short), often": "Hook, 5 a side (short, often)", "Hook, weight x": "7: after weight stands", "1. Hook,  weight x": "11: after weight stands",
	} {
		lines := b.ParsePage("All\n" + line)
		require.Len(t, lines, 1, line)
		got := read(b, lines[0])
		if lines[0].Problem != "" {
			assert.True(t, strings.HasPrefix(got, want), "%s\n%s\n%s", line, want, got)
			continue
		}
		assert.Equal(t, want, got, line)
	}
	for _, heading := range []string{"All", "all:", "- All", "# ALL", "1. All :"} {
		lines := b.ParsePage(heading + "\nHook, 4")
		require.Len(t, lines, 1, heading)
		assert.Equal(t, "All", lines[0].Section, heading)
	}
	moves := b.ParsePage("All\n- lead jab (of old), 4 :  lead jab, rear nothing")[0]
	assert.Equal(t, 42, moves.Column, "a column is counted on the line as typed: %s", moves.Problem)
	numbered := school(func(c *Curriculum) { c.technique("jab").Call = 10 })
	assert.Equal(t, "Hook, 5 a side: 10", read(numbered, numbered.ParsePage("All\nHook: 10")[0]), "where techniques have call numbers, a number behind the colon is a move")
	assert.Equal(t, "Hook, 10 a side", read(numbered, numbered.ParsePage("All\nHook: 10 a side")[0]))
}

// TestAmountsInOtherWords: what people write for the same amount.
func TestAmountsInOtherWords(t *testing.T) {
	for want, said := range map[string][]string{
		"5 a side":           {"5 on both sides", "5 each", "5 x each", "5 every side", "5 for each side", "x5 each side", "5 both sides", "5 a sides"},
		"5 each limb":        {"5 per leg", "5 both legs", "5 with both hands", "5 × each arm", "5 each foot", "5 on both feet"},
		"5 each way":         {"5 in each direction", "5 both ways"},
		"1":                  {"1 time", "1 rep", "once"},
		"20":                 {"x 20", "×20", "20 times", "20 reps"},
		"90 s":               {"1:30", "1:30 min", "01:30 minutes", "1:30 m"},
		"2 x 90 s, 5 s rest": {"2 x 1:30, 0:05 rest", "2 rounds of 1:30 min, 5 secs rest"},
		"18 in 60 s":         {"18 within 1:00", "18 in 1 min"},
	} {
		for _, text := range said {
			q, err := ParseQuantity(text)
			require.NoError(t, err, text)
			assert.Equal(t, want, strings.NewReplacer(" times", "", "once", "1", "×", "x").Replace(q.String()), text)
		}
	}
	for _, text := range []string{"1:60", "1:5", "5 each way round", "x", "x 5 x", "5 on sides", "both sides", "12:345"} {
		_, err := ParseQuantity(text)
		assert.ErrorIs(t, err, ErrQuantity, text)
	}
}

// TestLawAKnownNameIsReadWhateverItHolds: a page prints names as they are, and reads them back.
func TestLawAKnownNameIsReadWhateverItHolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		name := check.Tidy(rapid.StringOfN(rapid.RuneFrom([]rune("ab 1,:;(-.#x/é")), 1, 30, -1).Draw(t, "name"))
		if name == "" || check.Key(strings.TrimRight(name, ":")) == "all" {
			return
		}
		b := school(func(c *Curriculum) {
			c.Techniques = append(c.Techniques, Technique{ID: "odd", Name: name, Kind: "kick"})
			c.Requirements = []Requirement{{ID: "r", RungID: "white", SectionID: c.Sections[0].ID, TechniqueID: "odd", Role: "performer", Weight: 1, Quantity: Quantity{Measure: RepsInAll, Reps: 7}}}
		})
		lines := b.ParsePage(b.PageOf("white"))
		if len(lines) != 1 || lines[0].TechniqueID != "odd" || lines[0].Quantity.Reps != 7 || lines[0].Problem != "" {
			t.Fatalf("%q: %+v", b.PageOf("white"), lines)
		}
	})
}
