package binder

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/golden"
)

// TestWhatAHeadingSays: what stands in a heading beside what it heads holds for every line below it, or is asked about once; nothing of it
// is lost.
func TestWhatAHeadingSays(t *testing.T) {
	c := island(nil).Curriculum
	c.Program.Tracks = []curriculum.Track{{ID: "cubs", Name: "Cubs"}, {ID: "adults", Name: "Adults"}}
	b := Open(c)
	for typed, want := range map[string]string{
		"Self-defence (slow and smooth)|Ground: bump and roll|Push": "Bump and roll, 2 a side (slow and smooth, ground) | Push, 2 a side (slow and smooth)",
		"Kicks (25 mins, both legs)|Hop kick":                       "Hop kick, 5 a side () ? in the heading is read as no amount", "Kicks (10 min)|Hop kick|Skip kick, 60 s": "Hop kick, 5 a side () ? in the heading is read as no amount | Skip kick, 60 s ()",
		"Kicks (2 min each)|Hop kick": "Hop kick, 120 s ()", "Kicks (60 s)|Hop kick": "Hop kick, 60 s ()", "Fitness (119 s)|Squats": "Squats, 119 s ()", "Fitness (120 s)|Squats": "Squats, 60 s () ? in the heading is read as no amount",
		"Kicks (adults only)|Hop kick|Skip kick, not for Adults": "Hop kick, 5 a side, not for Cubs () | Skip kick, 5 a side, not for Adults ()",
		"Kicks, fast|Hop kick":                              "Hop kick, 5 a side (fast)",
		"Kicks (all on the right, then left)|Hop kick":      "Hop kick, 5 a side (all on the right, then left)",
		"Kicks (from zenkutsu-dachi)|Hop kick":              "Hop kick, 5 a side (from zenkutsu-dachi)",
		"Fitness (in 2 minutes)|Squats":                     "Squats, 120 s ()",
		"Kicks (candidate picks 1 of 2)|Hop kick|Skip kick": "Hop kick, 5 a side (candidate picks 1 of 2) ? leaves out some | Skip kick, 5 a side (candidate picks 1 of 2)",
		"Kicks, any 2 of the following|Hop kick|Skip kick":  "Hop kick, 5 a side (any 2) ? leaves out some | Skip kick, 5 a side (any 2)",
		"Sparring (16+ only)|2 x 2 min":                     "Sparring, 2 × 120 s (16+ only)",
		"Kicks (in 2 minutes)|Hop kick":                     "Hop kick, 5 a side () ? in the heading is read as no amount",
		"Kicks (ten crisp ones of many)|Hop kick, 6":        "Hop kick, 6 times () ? “crisp” in the heading of line 1",
		"Kicks (20 points)|Hop kick":                        "Hop kick, 5 a side ()",
		"Forms (candidate picks 1 of 3)":                    "? where the candidate chooses",
		"Kicks (five crisp ones)|Hop kick|Blocks (all of them crisp and clean)|Low block, good ones": "Hop kick, 5 a side () ? “crisp” in the heading of line 1 | Low block, 5 a side (good ones, all of them crisp and clean)",
	} {
		var got []string
		for _, l := range b.ParsePage(strings.ReplaceAll(typed, "|", "\n")) {
			said := ""
			if l.Problem == "" {
				said = strings.Join(append([]string{l.Name, l.Quantity.String()}, b.PartsOf(l.Requirement)...), ", ") + " (" + l.Note + ")"
			}
			for _, d := range append(l.Doubts, notation.Doubt{Reason: l.Problem}) {
				if at := strings.Index(want, "? "); d.Reason != "" && at >= 0 {
					asked, _, _ := strings.Cut(want[at+2:], " |")
					require.Contains(t, d.Reason, asked, typed)
					said += " ? " + asked
				} else if d.Reason != "" {
					said += " ? " + d.Reason
				}
			}
			got = append(got, strings.TrimSpace(said))
		}
		assert.Equal(t, want, strings.Join(got, " | "), typed)
	}
}

// TestOneSideOfATechnique: a side before or behind the name of a kick, strike or block is said of it and is no other technique; both sides with
// the same amount are one requirement of each.
func TestOneSideOfATechnique(t *testing.T) {
	b := island(nil)
	for _, kick := range []string{"hop kick", "Hop kick", "skip side kick"} {
		for _, way := range []string{"R KICK x 10, L KICK x 10", "Right KICK x 10\nLeft KICK x 10", "KICK right 10\nKICK left 10", "right leg KICK, 10\nleft leg KICK, 10", "KICK R x 10\nKICK L x 10"} {
			lines := b.ParsePage("Kicks\n" + strings.ReplaceAll(way, "KICK", kick))
			require.Len(t, lines, 2, way)
			l := lines[0]
			assert.Equal(t, []any{strings.ToLower(kick), "10 a side", ""}, []any{strings.ToLower(l.Name), l.Quantity.String(), l.Note}, way)
			assert.Contains(t, lines[1].Aside, "the other side of line", way)
		}
	}
	for typed, want := range map[string]string{
		"Kicks|R hop kick x 10, L hop kick x 8": "Hop kick, 10 times (right) | Hop kick, 8 times, again (left)", "Kicks|Right hop kick": "Hop kick, 5 times (right)", "Kicks|Hop kick right and left": "Hop kick, 5 a side (right and left)",
		"Strikes|Overhand right": "Overhand right, 5 a side ()", "Stances|L stance": "L stance, 5 a side ()", "Strikes|Left jab hand, 6": "Jab hand, 6 times (left)", "Blocks|Low block L, 4": "Low block, 4 times (left)",
	} {
		var got []string
		for _, l := range b.ParsePage(strings.ReplaceAll(typed, "|", "\n")) {
			got = append(got, strings.Join(slices.Concat([]string{l.Name, l.Quantity.String()}, b.PartsOf(l.Requirement)), ", ")+" ("+l.Note+")")
		}
		assert.Equal(t, want, strings.Join(got, " | "), typed)
	}
}

// TestHeightsByTheBody: a height told by the body, with or without a word before it, is the level of what is shown and no part of its name.
func TestHeightsByTheBody(t *testing.T) {
	golden.Alone(t)
	b := island(nil)
	for height, level := range map[string]string{"head": "high", "face": "high", "chin": "high", "neck": "high", "chest": "mid", "stomach": "mid", "belt": "mid", "waist": "mid", "hip": "mid", "thigh": "low", "knee": "low", "shin": "low"} {
		for _, way := range []string{"Swan kick to H height", "Swan kick at H height", "Swan kick, H height", "Swan kick H high", "Swan kick H height x 8", "Swan kick at the H level", "Swan kick to H height, 8", "- Swan kick @ H height"} {
			if height == "knee" && (strings.Contains(way, "k H")) {
				continue // Swan kick knee high may be a drill
			}
			l := b.ParsePage("Kicks\n" + strings.ReplaceAll(way, "H", height))[0]
			assert.Equal(t, []any{"Swan kick", level, "", 0}, []any{l.Name, string(l.LeastLevel), l.Note, len(l.Doubts)}, "%s %s", way, height)
		}
	}
	for typed, name := range map[string]string{"Kick to belt height": "Kick to belt height", "Swan kick, pad at hip height": "Swan kick", "Swan kick knee height, then head height": "Swan kick knee height"} {
		l := b.ParsePage("Kicks\n" + typed)[0]
		assert.Equal(t, []string{name, ""}, []string{l.Name, string(l.LeastLevel)}, typed)
	}
}

// TestSheetsWithoutAHead: each row begins with its section, and what the other cells hold is told by most of them.
func TestSheetsWithoutAHead(t *testing.T) {
	b := island(nil)
	for rows, want := range map[string][]string{
		"Kicks|Hop kick|slow|5|each side\nKicks|Skip kick||8|\nFitness|Squats||2|min\nBlocks|Low block||5|must": {"Hop kick, 5 a side, slowly ()", "Skip kick, 8 times ()", "Squats, 120 s ()", "Low block, 5 times, must ()"},
		"Kicks|Hop kick|10 each leg|high\nKicks|Skip kick|5|\nKnowledge|Why we bow||aloud":                      {"Hop kick, 10 each limb, level high ()", "Skip kick, 5 times ()", "Why we bow, once (aloud)"},
		"Kicks|Hop kick|from guard|6|x\nKicks|Skip kick|loud|7|\nKicks|Swan kick|light|8|x":                     {"Hop kick, 6 times, must (from guard)", "Skip kick, 7 times (loud)", "Swan kick, 8 times, must (light)"},
	} {
		var got []string
		for _, l := range b.ParsePage(strings.ReplaceAll(rows, "|", "\t")) {
			require.Empty(t, l.Problem, l.Text)
			got = append(got, strings.Join(append([]string{l.Name, l.Quantity.String()}, b.PartsOf(l.Requirement)...), ", ")+" ("+l.Note+")")
		}
		assert.Equal(t, want, got, rows)
	}
}

// TestNumbersAreFoundAgain: a number behind a name that stands in nothing of what the line was read as is asked about; one that is the amount, in
// seconds, in sets or of both sides is not.
func TestNumbersAreFoundAgain(t *testing.T) {
	b := island(nil)
	for typed, asked := range map[string]bool{
		"Fitness|Squats 3x15": false, "Fitness|Plank 1:30": false, "Fitness|Plank 2 min": false, "Kicks|Hop kick 10R 10L": false, "Kicks|Hop kick, 3 sets of 5": false, "Sparring|Light sparring 3x2": false, "Fitness|30 seconds each: squats, lunges": false,
		"Sparring|Light sparring (15)   3 rounds x 2 min": true,
	} {
		lines := b.ParsePage(strings.ReplaceAll(typed, "|", "\n"))
		assert.Equal(t, asked, len(lines[0].Doubts) > 0, "%s: %v", typed, lines[0].Doubts)
	}
	l := PageLine{Text: "Hop kick, 7 of 9"}
	l.Name, l.Quantity = "Hop kick", curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 7}
	assert.Equal(t, []string{"9", "", "", ""}, []string{lostNumber([]PageLine{l}, ""), lostNumber([]PageLine{l}, "of 9"), lostNumber([]PageLine{{Text: "5. Hop"}}, ""), func() string {
		l.Text, l.Quantity = "Hop kick 2 x 3 min", curriculum.Quantity{Measure: curriculum.RoundsTimed, Rounds: 2, Seconds: 180}
		return lostNumber([]PageLine{l}, "")
	}()})
}
