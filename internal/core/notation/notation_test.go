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
		{ID: "jab", Name: "jab", Kind: "strike"}, {ID: "leadjab", Name: "Lead jab"}, {ID: "cross", Name: "cross", Aliases: []string{"straight"}, Call: 12, Kind: "strike"},
		{ID: "low", Name: "low block", Kind: "block or parry"}, {ID: "palm", Name: "palm strike", Aliases: []string{"heel strike"}, Kind: "strike"},
		{ID: "side", Name: "side kick", Call: 7, Kind: "kick"}, {ID: "hammer", Name: "hammer fist", Kind: "strike"}, {ID: "check", Name: "check"}, {ID: "fist", Name: "fist"},
		{ID: "back", Name: "back fist", Kind: "strike"}, {ID: "round", Name: "round kick", Kind: "kick"}, {ID: "lunge", Name: "lunge punch", Kind: "strike"},
		{ID: "turnkick", Name: "turn kick", Kind: "kick"}, {ID: "high", Name: "high guard"}, {ID: "rolling", Name: "rolling elbow"},
		{ID: "roling", Name: "roling block", Aliases: []string{"rollin gate"}}, {ID: "roligate", Name: "rolin gate"}, {ID: "slip", Name: "slip"},
		{ID: "parry", Name: "palm parry", Kind: "block or parry"}, {ID: "inward", Name: "inward block", Kind: "block or parry"}, {ID: "left", Name: "left gate"},
		{ID: "front", Name: "front stance", Stands: OneLeads}, {ID: "horse", Name: "Millstone stance", Aliases: []string{"horse stance"}, Stands: SideBySide},
		{ID: "drill", Name: "Mill drill 12", Call: 31, Own: []string{"step through lead cross", "turn cw 90"}},
		{ID: "slide", Name: "Ferry slide", Own: []string{"slide", "shuffle"}}, {ID: "ring", Name: "Ring one", Own: []string{"Ring two, switch"}}, {ID: "gnir", Name: "Ring two", Own: []string{"Ring one, switch"}},
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
		"31, left 31":         "31, left 31",
		"turn cw 90 cross":    "turn cw 90 cross",
		"cross turn ccw 180!~ (eyes first) (slowly)": "cross turn ccw 180!~ (eyes first) (slowly)",
		"cross ~ !":                   "cross!~",
		"high guard high":             "high guard high",
		"LEAD Jab, Turn CW 90 CROSS":  "Lead jab, turn cw 90 cross", // keywords ignore case and are printed small
		"shuffle back":                "shuffle back",
		"slide forward lead cross":    "slide lead cross",
		"turn cw 1, cross turn ccw 1": "turn cw 1, cross turn ccw 1",
		"shuffle forwards, 3x cross":  "shuffle, x3 cross",
		"shuffle back fist":           "shuffle back fist", // a shuffle and a back fist
		"side step to the Left, circle to the right lead cross": "side step to the left, circle to the right lead cross",
		"side step lead cross to left ear":                      "side step lead cross to left ear",
		"cross to low back":                                     "cross to low back",
		"cross to high left ear low in front":                   "cross low to high left ear in front stance",
		"from ready: left step back, right cross":               "from ready stance: left step back, right cross",
		"From  RIGHT front stance :  lead cross":                "from right front stance: lead cross",
		"from horse stance: cross":                              "from Millstone stance: cross", // the school's own name
		"right front stance":                                    "right front stance",
		"left cat stance":                                       "in left cat stance", // a usual stance that the program lacks
		"side step to the":                                      "side step to the",
		"x2 step lead cross":                                    "double step lead cross",
		"step double lead 7":                                    "step double lead 7",
		"double step 7":                                         "double step 7",
		"cross angle out 1":                                     "cross angle out 1",
		"cross in left fighting":                                "cross in left fighting stance",
		"in cat":                                                "in cat stance",
		"cross in Right front stance":                           "cross in right front stance",
		"cross in crane":                                        "cross in crane",
		"cross in right crane":                                  "cross in right crane",
		"cross in left":                                         "cross in left",
		"cross in left crane":                                   "cross in left crane",
		"cross in horse":                                        "cross in Millstone stance",
		"x2 step through lead cross":                            "double step through lead cross",
		"step through lead x2 cross":                            "step through double lead cross", // of the technique alone
		"step double turn cw 90 cross":                          "double step turn cw 90 cross",
		"step x3 in front stance":                               "x3 step in front stance",
		"Press behind the shoulder.!":                           "Press behind the shoulder.!",
		"Grip the wrist, thumb down. Turn it (slowly) out.~ (eyes up) rear rolling elbow":    "Grip the wrist, thumb down., Turn it (slowly) out.~ (eyes up), rear rolling elbow",
		"lead cross / Breathe out. / rear cross":                                             "lead cross / Breathe out. / rear cross",
		"rear check + Look at the wrist..!":                                                  "rear check + Look at the wrist..!",
		"Step back, then press.":                                                             "step back, then press.", // a piece that reads as a move is one
		"lead jab, rear cross.":                                                              "Lead jab, rear cross.",
		"same-side slip, same-name palm parry":                                               "same-side slip, same-name palm parry",
		"turn cw 180 right lunge punch in right front stance, step through left lunge punch": "turn cw 180 right lunge punch in right front stance, step through left lunge punch",
		"left 7 high":                                "left 7 high",
		"step through":                               "step through",
		"jump spin cw 360":                           "jump spin cw 360",
		"step turn cw 180":                           "step turn cw 180",
		"rear check keep, lead cross, rear free":     "rear check keep, lead cross, rear free",
		"cross angle out 45 in front stance to ribs": "cross to ribs in front stance angle out 45",
		"in front stance turn cw 90":                 "turn cw 90 in front stance",
	} {
		seq, err := c.Parse(in)
		require.NoError(t, err, in)
		assert.Equal(t, want, c.Print(seq), in)
	}
}

func TestErrorsSayWhere(t *testing.T) {
	c := catalogue(t)
	for in, want := range map[string]string{
		"":                                         "column 1: there is no move",
		"from ready:":                              "column 12: there is no move",
		"from ready: lead cross":                   "column 13: nobody leads in ready stance",
		"from ready: x2 turn cw 90, lead step":     "column 28: nobody leads in ready stance",
		"from ready: slide, rear front stance":     "column 20: nobody leads in ready stance",
		"from cornfield: lead cross":               `column 6: "cornfield" is no stance of this program; near it are`,
		"from left ready: lead cross":              "column 6: in ready stance the feet are level",
		"left horse stance":                        "column 1: in Millstone stance the feet are level",
		"cross in left horse":                      "column 7: in Millstone stance the feet are level",
		"left turn cw 90":                          "column 1: a foot does not go with turn alone; write left step turn cw 90",
		"rear spin":                                "column 1: a foot does not go with spin alone; write rear step turn for",
		"cross, step through in left front stance": "column 21: this move puts the right foot in front; it cannot end in left front stance",
		"right step back in right front stance":    "column 17: this move puts the left foot in front",
		"x2 step through in right front stance":    "column 17: this move puts the left foot in front",
		"step through left front stance":           "column 14: this move puts the right foot in front",
		"Grip it / and turn.":                      "column 1: \"Grip it\" is not in the catalogue; near it are fist, slip; a step in plain words ends with a full stop and has no / or + in it",
		"Grip it":                                  "column 1: \"Grip it\" is not in the catalogue",
		"Grip it.!!":                               "column 10: \"!\" stands twice",
		".":                                        "column 1: \".\" is not in the catalogue",
		"cross to low":                             "column 7: nothing follows",
		"cross to low in front":                    "column 7: nothing follows",
		"lead jab, reer cross":                     `column 11: "reer cross" is not in the catalogue`,
		"rear croß":                                `column 6: "croß" is not in the catalogue; near it are cross`,
		"cross +":                                  "column 8: a move is missing before the end",
		"+ cross":                                  `column 1: a move is missing before "+"`,
		"cross, , jab":                             `column 8: a move is missing before ","`,
		"cross / / jab":                            `column 9: a move is missing before "/"`,
		"lead rear cross":                          "column 6: a second side; this move is lead already",
		"double x3 cross":                          "column 8: a second repeat",
		"x1 cross":                                 "column 1: a move is repeated x2 to x100",
		"99":                                       "column 1: no technique has the call number 99",
		"lead":                                     "column 1: a technique or a travel such as step is missing",
		"cross to":                                 `column 7: nothing follows "to"`,
		"cross turn":                               "column 7: after a name a turn needs its way",
		"turn cw":                                  "column 6: the degrees are missing",
		"turn cw 721":                              `column 9: "721" is not an angle`,
		"turn cw 0":                                `column 9: "0" is not an angle`,
		"cross angle out 181":                      `column 17: "181" is not an angle`,
		"cross angle out 0":                        `column 17: "0" is not an angle`,
		"x101 cross":                               "column 1: a move is repeated x2 to x100",
		"turn cw 900":                              `column 9: "900" is not an angle`,
		"cross angle in 45":                        "column 7: an angle is written as angle out 45",
		"cross angle out x":                        `column 17: "x" is not an angle`,
		"cross jab":                                `column 7: "jab" begins another move; write a comma before it`,
		"cross (open":                              "column 7: this note is not closed",
		"cross)":                                   "column 6: this parenthesis closes nothing",
		"cross ()":                                 "column 7: a note is some words",
		"cross keep free":                          "column 7: a move cannot both keep and free",
		"turn left":                                "column 6: a foot does not go with turn alone; write left step turn for the foot that steps as you turn, or turn ccw 90 for the way",
		"right turn":                               "column 1: a foot does not go with turn alone; write right step turn for the foot that steps as you turn, or turn cw 90 for the way",
		"step turn left 90":                        "column 16: a turn needs its way; write turn ccw 90 for the left or turn cw 90 for the right",
		"turn 180":                                 "column 6: a turn needs its way; write turn ccw 180 for the left or turn cw 180 for the right",
		"turn cw 90 180":                           "column 12: no technique has the call number 180",
		"cross x3":                                 "column 7: a repeat stands before the move: write x3 cross",
		"cross low x 3":                            "column 11: a repeat stands before the move: write x3 cross",
		"cross x":                                  `column 7: "x" does not belong after a name`,
		"cross double":                             "column 7: a repeat stands before the move: write double cross",
		"cross Right hand":                         "column 7: a side stands before the move: write Right cross",
		"turn cw 90 in front stance left":          "column 28: a side stands before the move: write left step",
		"forward":                                  `column 1: "forward" is not in the catalogue; write step where the same foot keeps leading`,
		"cross, back":                              `column 8: "back" is not in the catalogue; write step back, slide back or shuffle back`,
		"advance":                                  `column 1: "advance" is not in the catalogue; write step or shuffle`,
		"retreat low":                              `column 1: "retreat" is not in the catalogue; write step back or shuffle back`,
		"pivot":                                    `column 1: "pivot" is not in the catalogue; write turn cw 90`,
		"hand cross":                               `column 1: "hand cross" is not in the catalogue; the side stands before the name by itself`,
		"front hand cross":                         `column 1: "front hand cross" is not in the catalogue; write lead for`,
		"back hand cross high":                     `column 1: "back hand cross" is not in the catalogue; write rear for`,
		"R cross":                                  `column 1: "R cross" is not in the catalogue; write right or rear`,
		"L cross":                                  `column 1: "L cross" is not in the catalogue; write left or lead`,
		"retreat hand cross":                       `column 1: "retreat hand cross" is not in the catalogue; write step back or`,
		"turn into horse stance":                   `column 6: "into horse stance" is not in the catalogue; write in where a move ends in a stance`,
		"cross into horse stance":                  `column 7: "into" does not belong after a name; write in where`,
		"cross with a shout":                       `column 7: "with a shout" does not belong after a name; write ! behind the move`,
		"kiai":                                     `column 1: "kiai" is not in the catalogue; write ! behind the move`,
		"x0 cross":                                 "column 1: a move is repeated x2 to x100",
		"0x cross":                                 "column 1: a move is repeated x2 to x100",
		"1x cross":                                 "column 1: a move is repeated x2 to x100",
		"cross 3x":                                 "column 7: a repeat stands before the move: write 3x cross",
		"step forwards":                            `column 6: "forwards" is not in the catalogue; write step where`,
		"left cross right jab":                     `column 12: "right jab" begins another move; write a comma before it, or + where both are done at once`,
		"in horse stance rear jab":                 `column 17: "rear jab" begins another move`,
		"cross nonsense jab":                       `column 7: "nonsense" does not belong after a name`,
		"high cross":                               `column 1: "high cross" is not in the catalogue; the level stands behind the name`,
		"hand nonsense":                            `column 1: "hand nonsense" is not in the catalogue; a step in plain words`,
		"forward cross":                            `column 1: "forward cross" is not in the catalogue; write step where`,
		"cross!!":                                  `column 7: "!" stands twice`,
		"rolingate":                                `column 1: "rolingate" may be`,
		strings.Repeat("jab,", 5000) + "jab":       "column 4001: this is step 1001; a line has at most 1000",
	} {
		_, err := c.Parse(in)
		require.Error(t, err, in)
		assert.True(t, strings.HasPrefix(err.Error(), want), "%.40s: %s", in, err)
	}
	_, err := c.Parse("cross high high")
	assert.ErrorContains(t, err, `column 12: "high" stands twice`)
	_, err = NewCatalogue([]Entry{{ID: "a", Name: "jab"}, {ID: "b", Name: "cross", Aliases: []string{"jab"}}})
	assert.ErrorContains(t, err, `"jab" is a name of both jab and cross`)
	_, err = c.Parse("left 8")
	assert.ErrorContains(t, err, "column 6: no technique has the call number 8; there are 7, 12, 31")
	called, err := NewCatalogue([]Entry{{ID: "skip", Name: "skip"}, {ID: "sb", Name: "Slide back"}, {ID: "lead", Name: "lead"}})
	require.NoError(t, err)
	for line, id := range map[string]string{"skip": "skip", "slide back": "sb", "step lead": "lead", "slide": "", "lead slide back": "lead"} {
		seq, err := called.Parse(line)
		if line == "lead slide back" { // the name takes the word, so that the rest is no extra
			assert.ErrorContains(t, err, "column 6")
			continue
		}
		require.NoError(t, err, line)
		assert.Equal(t, id, seq.Counts[0][0][0].Technique, "a name wins over a keyword of as many words: %s", line)
	}
	assert.Equal(t, []string{"drill a", "drill b", "drill c"}, func() []string {
		c, _ := NewCatalogue([]Entry{{Name: "drill a"}, {Name: "drill b"}, {Name: "drill c"}, {Name: "drill d"}})
		return c.Nearest("drill e")
	}(), "three at most")
	many := []Entry{}
	for i := range 13 {
		many = append(many, Entry{ID: fmt.Sprint(i), Name: fmt.Sprintf("drill %c", 'a'+i), Call: i + 1})
	}
	numbered, err := NewCatalogue(many)
	require.NoError(t, err)
	_, err = numbered.Parse("14")
	assert.ErrorContains(t, err, "there are 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, …")
	twelve, err := NewCatalogue(many[:12])
	require.NoError(t, err)
	_, err = twelve.Parse("14")
	assert.EqualError(t, err, "column 1: no technique has the call number 14; there are 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12")
	none, err := NewCatalogue([]Entry{{Name: "abcd"}, {Name: "abcx"}, {Name: "abxx"}})
	require.NoError(t, err)
	assert.Equal(t, []string{"abcd", "abcx"}, none.Nearest("abcde")[:2], "the nearest first")
	two, err := NewCatalogue([]Entry{{ID: "a", Name: "Reed stance", Stands: OneLeads}, {ID: "b", Name: "reed", Stands: SideBySide}})
	require.NoError(t, err)
	_, err = two.Parse("in reed")
	assert.ErrorContains(t, err, "in reed")
	_, err = two.Parse("step in reed")
	assert.EqualError(t, err, `column 9: "reed" may be Reed stance or reed; write the one you mean in full`)
	assert.Equal(t, []Feet{SideBySide, SideBySide, OneLeads, OneLeads}, []Feet{UsualFeet("Horse Stance"), UsualFeet("natural"), UsualFeet("cat stance"), UsualFeet("Heron stance")})
	twice, err := NewCatalogue([]Entry{{ID: "a", Name: "jab", Call: 3}, {ID: "b", Name: "cross", Call: 3}})
	require.NoError(t, err)
	_, err = twice.Parse("lead 3")
	assert.ErrorContains(t, err, "column 6: the call number 3 is given to both jab and cross")
}

// line draws a line of moves, most of them well written.
func line(t *rapid.T) string {
	word := func(name string, choices ...string) string { return rapid.SampledFrom(choices).Draw(t, name) }
	var out strings.Builder
	out.WriteString(word("start", "", "", "from ready: ", "from left front stance: ", "from horse: "))
	for i := range rapid.IntRange(1, 4).Draw(t, "moves") {
		if i > 0 {
			out.WriteString(word("sign", ", ", " + ", " / "))
		}
		if word("what", "move", "move", "move", "sentence") == "sentence" {
			out.WriteString(word("said", "Grip the wrist, thumb down. ", "Press it (slowly).!", "left hand down.~", "Wait.. "))
			continue
		}
		for range rapid.IntRange(0, 2).Draw(t, "before") {
			out.WriteString(word("keyword", "lead ", "rear ", "left ", "right ", "both ", "same-side ", "same-name ", "double ", "x4 ", "step ", "step back ", "step through ", "slide ", "switch ", "turn cw 90 ", "turn ccw 180 ", "turn cw 60 ", "turn ccw 150 ", "spin ", "jump ", "side step to the left ", "circle ", "shuffle back "))
		}
		out.WriteString(word("name", "jab", "lead jab", "cross", "back fist", "fist", "low block", "turn kick", "7", "high guard", "Palm-strike", "step", "front stance", "31", "lunge punch"))
		for range rapid.IntRange(0, 2).Draw(t, "after") {
			out.WriteString(word("extra", " low", " high", " to ribs", " to left ear", " to low back", " in cat stance", " in right front stance", " in horse", " turn ccw 180", " angle out 30", " keep", " free", "!", " ~", " (with care)"))
		}
	}
	return out.String()
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
		entries = append(entries, Entry{ID: fmt.Sprint("t", i), Name: fmt.Sprintf("technique number %d", i), Call: i})
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
