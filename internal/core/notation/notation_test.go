package notation

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func catalogue(t testing.TB) *Catalogue {
	c, err := NewCatalogue([]Entry{
		{"jab", "jab", nil, 0}, {"leadjab", "Lead jab", nil, 0}, {"cross", "cross", []string{"straight"}, 12}, {"low", "low block", nil, 0}, {"palm", "palm strike", []string{"heel strike"}, 0},
		{"side", "side kick", nil, 7}, {"hammer", "hammer fist", nil, 0}, {"check", "check", nil, 0}, {"fist", "fist", nil, 0}, {"back", "back fist", nil, 0}, {"round", "round kick", nil, 0},
		{"turnkick", "turn kick", nil, 0}, {"high", "high guard", nil, 0}, {"rolling", "rolling elbow", nil, 0}, {"roling", "roling block", []string{"rollin gate"}, 0}, {"roligate", "rolin gate", nil, 0},
	})
	require.NoError(t, err)
	return c
}

func TestParsePrints(t *testing.T) {
	c := catalogue(t)
	for in, want := range map[string]string{
		"slide back lead low block, rear palm strike high / cross step lead side kick mid to ribs, lead hammer fist + rear check!": "slide back lead low block, rear palm strike high / cross step lead side kick mid to ribs, lead hammer fist + rear check!",
		"  Palm-Strike ,CROSS": "palm strike, cross",
		"heel strike":          "palm strike",
		"hamer fist":           "hammer fist",
		"lead slide cross":     "slide lead cross",
		"lead double jab":      "lead double jab", // not "double lead jab", which is another technique
		"lead jab":             "Lead jab",
		"x3 cross high to left ear in cat stance": "x3 cross high to left ear in cat stance",
		"step back fist":      "step back fist", // a step and a back fist
		"step back lead fist": "step back lead fist",
		"turn kick":           "turn kick",
		"turn cw 90 cross":    "turn cw 90 cross",
		"cross turn ccw 180!~ (eyes first) (slowly)": "cross turn ccw 180!~ (eyes first) (slowly)",
		"cross ~ !":                              "cross!~",
		"high guard high":                        "high guard high",
		"left 7 high":                            "left 7 high",
		"step through":                           "step through",
		"jump spin cw 360":                       "jump spin cw 360",
		"step turn cw 180":                       "step turn cw 180",
		"rear check keep, lead cross, rear free": "rear check keep, lead cross, rear free",
		"cross angle out 45 in front stance to ribs": "cross to ribs in front stance angle out 45",
	} {
		seq, err := c.Parse(in)
		require.NoError(t, err, in)
		assert.Equal(t, want, c.Print(seq), in)
	}
}

func TestErrorsSayWhere(t *testing.T) {
	c := catalogue(t)
	for in, want := range map[string]string{
		"":                                   "column 1: there is no move",
		"lead jab, reer cross":               `column 11: "reer cross" is not in the catalogue`,
		"rear croß":                          `column 6: "croß" is not in the catalogue; near it are cross`,
		"cross +":                            "column 8: a move is missing before the end",
		"+ cross":                            `column 1: a move is missing before "+"`,
		"cross, , jab":                       `column 8: a move is missing before ","`,
		"cross / / jab":                      `column 9: a move is missing before "/"`,
		"lead rear cross":                    "column 6: a second side; this move is lead already",
		"double x3 cross":                    "column 8: a second repeat",
		"x1 cross":                           "column 1: a move is repeated x2 to x100",
		"99":                                 "column 1: no technique has the call number 99",
		"lead":                               "column 1: a technique or a travel such as step is missing",
		"cross to":                           `column 7: nothing follows "to"`,
		"cross turn":                         "column 7: after a name a turn needs its way",
		"turn cw":                            "column 6: the degrees are missing",
		"turn cw 900":                        `column 9: "900" is not an angle`,
		"cross angle in 45":                  "column 7: an angle is written as angle out 45",
		"cross angle out x":                  `column 17: "x" is not an angle`,
		"cross jab":                          `column 7: "jab" does not belong after a name`,
		"cross (open":                        "column 7: this note is not closed",
		"cross)":                             "column 6: this parenthesis closes nothing",
		"cross ()":                           "column 7: a note is some words",
		"cross keep free":                    "column 7: a move cannot both keep and free",
		"cross!!":                            `column 7: "!" stands twice`,
		"rolingate":                          `column 1: "rolingate" may be`,
		strings.Repeat("jab,", 5000) + "jab": "column 4001: this is move 1001; a line has at most 1000",
	} {
		_, err := c.Parse(in)
		require.Error(t, err, in)
		assert.True(t, strings.HasPrefix(err.Error(), want), "%.40s: %s", in, err)
	}
	_, err := c.Parse("cross high high")
	assert.ErrorContains(t, err, `column 12: "high" stands twice`)
	_, err = NewCatalogue([]Entry{{"a", "jab", nil, 0}, {"b", "cross", []string{"jab"}, 0}})
	assert.ErrorContains(t, err, `"jab" is a name of both jab and cross`)
	_, err = c.Parse("left 8")
	assert.ErrorContains(t, err, "column 6: no technique has the call number 8; there are 7, 12")
	twice, err := NewCatalogue([]Entry{{"a", "jab", nil, 3}, {"b", "cross", nil, 3}})
	require.NoError(t, err)
	_, err = twice.Parse("lead 3")
	assert.ErrorContains(t, err, "column 6: the call number 3 is given to both jab and cross")
}

func TestWalk(t *testing.T) {
	c := catalogue(t)
	walk := func(line string, southpaw bool) (string, Facts) {
		seq, err := c.Parse(line)
		require.NoError(t, err)
		steps, f := seq.Walk(southpaw)
		var limbs []string
		for _, s := range steps {
			limbs = append(limbs, string(s.Limb))
		}
		return strings.Join(limbs, " "), f
	}
	for _, c := range []struct{ line, orthodox, southpaw string }{
		{"lead cross, rear cross", "left right", "right left"},
		{"step through lead cross, lead cross", "right right", "left left"}, // its own travel happens first
		{"switch, rear cross", " left", " right"},
		{"step lead cross, slide rear cross, cross step lead cross", "left right left", "right left right"}, // nothing else exchanges
		{"turn cw 180 lead cross", "right", "left"},
		{"turn cw 90 lead cross, turn ccw 90 lead cross, spin cw 360 lead cross", "left left left", "right right right"},
		{"lead cross turn cw 180, lead cross", "left right", "right left"}, // a turn after the name comes after the move
		{"left cross, right cross, both cross", "left right both", "left right both"},
	} {
		limbs, _ := walk(c.line, false)
		assert.Equal(t, c.orthodox, limbs, c.line)
		limbs, _ = walk(c.line, true)
		assert.Equal(t, c.southpaw, limbs, c.line)
	}
	_, f := walk("lead double cross low, rear cross high / step through turn cw 90 lead cross mid + rear check keep", false)
	assert.Equal(t, Facts{Moves: 5, Counts: 2, Beats: 3, Left: 3, Right: 2, Lead: 3, Rear: 2, Low: 2, Mid: 1, High: 1, Turns: 1, Facing: 90, HalfSeconds: 4 + 2 + 3, Held: []string{"check"}}, f)
	_, f = walk("rear check keep, rear free, rear free", false)
	assert.Empty(t, f.Held)
	assert.Equal(t, []string{"rear free frees what is not kept"}, f.Problems)
}

func TestMirror(t *testing.T) {
	c := catalogue(t)
	for in, want := range map[string]string{
		"left cross to right ear turn cw 90, lead jab": "right cross to left ear turn ccw 90, Lead jab",
		"turn ccw 180 rear cross angle out 45":         "turn cw 180 rear cross angle out 45",
		"both cross keep":                              "both cross keep",
	} {
		seq, err := c.Parse(in)
		require.NoError(t, err)
		assert.Equal(t, want, c.Print(seq.Mirror()))
		assert.Equal(t, in, strings.Replace(c.Print(seq), "Lead jab", "lead jab", 1), "the original is untouched")
	}
}

// TestForAStance names the limbs of a call for one stance, and of an answer for all four
// pairings of attacker and defender.
func TestForAStance(t *testing.T) {
	c := catalogue(t)
	read := func(line string) Sequence {
		seq, err := c.Parse(line)
		require.NoError(t, err)
		return seq
	}
	said := read("lead cross, step through rear cross / left cross turn cw 90")
	assert.Equal(t, "left cross, step through left cross / left cross turn cw 90", c.Print(said.For(false, "")))
	assert.Equal(t, "right cross, step through right cross / right cross turn ccw 90", c.Print(said.For(true, "")))
	attack, answer := read("step through rear cross high"), read("same-side low block, same-name palm strike, rear cross")
	for _, x := range []struct {
		attacker, defender bool
		want               string
	}{
		{false, false, "right low block, left palm strike, right cross"}, // the rear hand leads after the step through
		{false, true, "right low block, left palm strike, left cross"},
		{true, false, "left low block, right palm strike, right cross"},
		{true, true, "left low block, right palm strike, left cross"},
	} {
		assert.Equal(t, x.want, c.Print(answer.For(x.defender, attack.LastLimb(x.attacker))), "%v", x)
	}
	assert.Equal(t, "same-side low block, same-name palm strike, right cross", c.Print(answer.For(false, "")))
	assert.Equal(t, c.Print(answer), c.Print(answer.Mirror()), "relations stay in the mirror")
	assert.Contains(t, c.Names(), "heel strike")
}

// line draws a line of moves, most of them well written.
func line(t *rapid.T) string {
	word := func(name string, choices ...string) string { return rapid.SampledFrom(choices).Draw(t, name) }
	var out strings.Builder
	for i := range rapid.IntRange(1, 6).Draw(t, "moves") {
		if i > 0 {
			out.WriteString(word("sign", ", ", " + ", " / "))
		}
		for range rapid.IntRange(0, 3).Draw(t, "before") {
			out.WriteString(word("keyword", "lead ", "rear ", "left ", "right ", "both ", "same-side ", "same-name ", "double ", "x4 ", "step ", "step back ", "step through ", "slide ", "switch ", "turn cw 90 ", "spin ", "jump "))
		}
		out.WriteString(word("name", "jab", "lead jab", "cross", "back fist", "fist", "low block", "turn kick", "7", "high guard", "Palm-strike", "step"))
		for range rapid.IntRange(0, 3).Draw(t, "after") {
			out.WriteString(word("extra", " low", " high", " to ribs", " to left ear", " in cat stance", " turn ccw 180", " angle out 30", " keep", " free", "!", " ~", " (with care)"))
		}
	}
	return out.String()
}

func TestLaws(t *testing.T) {
	c := catalogue(t)
	read := 0
	rapid.Check(t, func(t *rapid.T) {
		seq, err := c.Parse(line(t))
		if err != nil {
			var at *Error
			require.ErrorAs(t, err, &at)
			return
		}
		read++
		printed := c.Print(seq)
		back, err := c.Parse(printed)
		require.NoError(t, err, printed)
		require.Equal(t, seq, back, printed)
		require.Equal(t, printed, c.Print(back))
		require.Equal(t, seq, seq.Mirror().Mirror())
		_, orthodox := seq.Walk(false)
		_, southpaw := seq.Walk(true)
		require.Equal(t, orthodox.Moves, southpaw.Moves)
		require.Equal(t, orthodox.Facing, southpaw.Facing)
		require.NotEqual(t, orthodox.LeftLeads, southpaw.LeftLeads)
		// The mirror done southpaw is the original done orthodox, seen in a mirror.
		_, mirrored := seq.Mirror().Walk(true)
		require.Equal(t, []int{orthodox.Left, orthodox.Right, orthodox.Lead, orthodox.Rear}, []int{mirrored.Right, mirrored.Left, mirrored.Lead, mirrored.Rear})
		require.Equal(t, (360-orthodox.Facing)%360, mirrored.Facing)
	})
	require.Greater(t, read, 10, "most drawn lines must be readable")
}

func FuzzParse(f *testing.F) {
	c := catalogue(f)
	f.Add("slide back lead low block, rear palm strike high / 7!~ (x) keep")
	f.Add("step back fist turn cw 90 (")
	f.Fuzz(func(t *testing.T, in string) {
		seq, err := c.Parse(in)
		if err != nil {
			var at *Error
			require.ErrorAs(t, err, &at)
			require.Positive(t, at.Column)
			require.LessOrEqual(t, at.Column, len([]rune(in))+1)
			return
		}
		back, err := c.Parse(c.Print(seq))
		require.NoError(t, err)
		require.Equal(t, seq, back)
	})
}

func BenchmarkParse(b *testing.B) {
	var entries []Entry
	for i := range 600 {
		entries = append(entries, Entry{fmt.Sprint("t", i), fmt.Sprintf("technique number %d", i), nil, i})
	}
	c, err := NewCatalogue(entries)
	require.NoError(b, err)
	line := strings.Repeat("slide back lead technique number 77 high to ribs, ", 20) + "rear technique number 599!"
	for b.Loop() {
		if _, err := c.Parse(line); err != nil {
			b.Fatal(err)
		}
	}
}
