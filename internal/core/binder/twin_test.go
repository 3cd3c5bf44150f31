package binder

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// TestWhatIsListedTwiceIsShownTwice: lines that name the same and differ in a remark stay apart, by a name or by being shown again; one side each
// is one line; what is said twice is asked once.
func TestWhatIsListedTwiceIsShownTwice(t *testing.T) {
	c := island(nil).Curriculum
	c.Program.SecondLanguage = "" // whose terms brackets may hold
	b := Open(c)
	for page, want := range map[string]string{
		"Kicks|Push kick (lead leg)|Push kick (rear leg)":                       "kick: Push kick, lead leg, 5 a side [lead-leg]|kick: Push kick, rear leg, 5 a side [rear-leg]",
		"Kicks|Push kick, 10|Push kick, 10 (back leg)":                          "kick: Push kick, 10|kick: Push kick, back leg, 10 [rear-leg]",
		"Kicks|Crescent kick (in), 5|Crescent kick (out), 5":                    "kick: Crescent kick, in, 5|kick: Crescent kick, out, 5",
		"Kicks|Push kick (L), 10|Push kick (R), 10":                             "kick: Push kick, 10 a side|~",
		"Kicks|Push kick (left leg), 10|Push kick (right leg), 10":              "kick: Push kick, 10 a side|~",
		"Kicks|Push kick (L), 10|Push kick (R), 12":                             "kick: Push kick, 10 (L)|kick: Push kick, 12, again (R)",
		"Kicks|Push kick (L), 10|Push kick (L), 10":                             "kick: Push kick, 10 (L)|kick: Push kick, 10 (L)",
		"Kicks|Push kick (L), 10, on pads|Push kick (R), 10":                    "kick: Push kick, 10, on pads (L)|kick: Push kick, 10 (R)",
		"Kicks|Push kick, 10|Push kick, 10 (land behind)":                       "kick: Push kick, 10|kick: Push kick, 10, again (land behind)",
		"Kicks|Push kick, 10|Push kick, 12":                                     "kick: Push kick, 10|kick: Push kick, 12",
		"Kicks|Push kick, 10|Push kick, 12, slowly (chamber)":                   "kick: Push kick, 10|kick: Push kick, 12, slowly (chamber)",
		"Kicks|Push kick, 10|Push kick, 12, again (chamber)":                    "kick: Push kick, 10|kick: Push kick, 12, again (chamber)",
		"Self-defence|Wrist grab (same side), 2|Wrist grab (cross), 2":          "self_defence: Wrist grab, same side, 2 against wrist grab|self_defence: Wrist grab, cross, 2 against wrist grab",
		"Self-defence|Old Mill (1st way), 2|Old Mill (2nd way), 2":              "self_defence: Old Mill, 1st way, 2|self_defence: Old Mill, 2nd way, 2",
		"Self-defence|Old Mill (gently), 2|Old Mill (2nd way), 2":               "self_defence: Old Mill, 2 (gently)|self_defence: Old Mill, 2, again (2nd way)",
		"Forms|Long Bridge|Long Bridge (backwards)":                             "form: Long Bridge, 1|form: Long Bridge, 1, again (backwards)",
		"Sparring|2 x 60 s (hands only)|1 x 60 s (two partners)|2 x 60 s":       "sparring: Sparring, 2 x 60 s (hands only)|sparring: Sparring, 1 x 60 s, again (two partners)|sparring: Sparring, 2 x 60 s, again",
		"Fitness|Push-ups 20 (knuckles)|Push-ups 10 (one hand)":                 "fitness: Push-ups, 20 (knuckles)|fitness: Push-ups, 10, again (one hand)",
		"Knowledge|What is a block? (say it)|What is a block? (write it)":       "knowledge: What is a block?, 1 (say it)|knowledge: What is a block?, 1 (write it)",
		"Blocks|Rising block, 5 (left)|Rising block, 5 (right)|Rising block, 5": "block: Rising block, 5 (left)|block: Rising block, 5, again (right)|block: Rising block, 5, again",
	} {
		var got []string
		for _, l := range b.ParsePage(strings.ReplaceAll(page, "|", "\n")) {
			said := understood(b, l)
			switch {
			case l.Problem != "":
				said = "! " + l.Problem
			case l.Aside != "":
				said = "~"
			case len(l.Doubts) > 0:
				said = "? " + said
			}
			got = append(got, said)
		}
		assert.Equal(t, want, strings.Join(got, "|"), page)
	}
}

// TestEveryRemarkIsOnTheSheet: what a page of the corpus says of a line is looked for on the sheet, whatever else names the same.
func TestEveryRemarkIsOnTheSheet(t *testing.T) {
	golden.Alone(t)
	t.Parallel()
	lines := 0
	corpus(t, func(name string, b *Reader, page []string) {
		read := slices.DeleteFunc(asRead(b, page), func(l PageLine) bool { return l.Problem != "" || l.Aside != "" || l.Waits || l.From != "" })
		c, err := b.AddPage("yellow", read, counter())
		require.NoError(t, err, name)
		sheet := Open(c).Compile(curriculum.Asking{RungID: "yellow", Undrawn: true})
		for _, r := range c.Requirements {
			if r.Note == "" {
				continue
			}
			lines++
			is := slices.ContainsFunc(sheet.Lines, func(l curriculum.Line) bool {
				return l.TechniqueID == r.TechniqueID && check.Key(l.Note) == check.Key(r.Note)
			})
			assert.True(t, is, "%s: %s (%s)", name, Open(c).Technique(r.TechniqueID).Name, r.Note)
		}
	})
	assert.Greater(t, lines, 500)
}

// TestLinesThatWouldBeCalledAlike: the remark is called with the name where two lines would be called alike, and said nowhere else then.
func TestLinesThatWouldBeCalledAlike(t *testing.T) {
	b := island(nil)
	for page, want := range map[string]string{
		"Sparring|2 x 60 s (hands only)|1 x 60 s (two partners)":              "Sparring, hands only//|Sparring, two partners//",
		"Sparring|2 x 60 s (hands only)|Push-ups 20, fitness":                 "Sparring/hands only/hands only|Push-ups//",
		"Kicks|Front kick, 10|Front kick, 10 (land behind), again":            "Front kick//|Front kick, land behind//",
		"Kicks|Front kick, 10 (slow), on pads|Front kick, 10 (fast)":          "Front kick, on pads//|Front kick/fast/fast",
		"Kicks|Front kick, 5|Front kick, 5 (" + strings.Repeat("x", 61) + ")": "Front kick//|Front kick/" + strings.Repeat("x", 61) + "/" + strings.Repeat("x", 61),
		"Kicks|Front kick, 5|Front kick, 5 (" + strings.Repeat("y", 60) + ")": "Front kick//|Front kick, " + strings.Repeat("y", 60) + "//",
	} {
		c, err := b.AddPage("y", b.ParsePage(strings.ReplaceAll(page, "|", "\n")), counter())
		require.NoError(t, err, page)
		var got []string
		for _, l := range Open(c).Compile(curriculum.Asking{RungID: "y"}).Lines {
			got = append(got, l.Call+"/"+l.Remark()+"/"+l.Detail)
		}
		assert.Equal(t, want, strings.Join(got, "|"), page)
	}
}

// TestANameWithCommasIsKnownAgain: a combination that is called by its moves, and a hold by which it is, are the same technique on the next page.
func TestANameWithCommasIsKnownAgain(t *testing.T) {
	b := island(nil)
	for _, page := range []string{
		"Kicks\nFront kick, 10\nLow kick, 10\nCombination: front kick, low kick, hook kick", "Combinations\nFront kick, low kick, 5 a side",
		"Self-defence\nWrist grab (same side), 2\nWrist grab (cross), 2",
	} {
		c, err := b.AddPage("w", b.ParsePage(page), counter())
		require.NoError(t, err, page)
		next := Open(c)
		again := next.ParsePage(next.PageOf("w"))
		assert.Len(t, again, len(c.Requirements), page)
		for i, l := range again {
			assert.Equal(t, []any{"", false, c.Requirements[i].TechniqueID}, []any{l.Problem, l.New, l.TechniqueID}, "%s: %s", page, l.Text)
		}
	}
}

// TestAnotherOfTheName: a remark that says which of several it is, where a rung below asks the same name with another such, names one of its
// own; the same remark, none, or one that says how, is the one that is known.
func TestAnotherOfTheName(t *testing.T) {
	b := island(nil)
	c, err := b.AddPage("w", b.ParsePage("Self-defence\nBear hug from behind, arms free\nWrist hold (same side)\nHeadlock\nRound kick, kick\nReed lock (standing), lock"), counter())
	require.NoError(t, err)
	next := Open(c)
	typed := "Self-defence\nBear hug from behind, arms trapped\nWrist hold, cross\nHeadlock, arms trapped\nBear hug from behind (arms free)\nWrist hold (fast)\nReed lock (on the ground)\nBear hug from behind"
	said := func(b *Reader, typed string) (out []string) {
		for _, l := range b.ParsePage(typed) {
			out = append(out, fmt.Sprint(l.Name, " | ", l.Note, " | ", l.New, " ", l.Problem))
		}
		return out
	}
	assert.Equal(t, []string{"Bear hug from behind, arms trapped |  | true ", "Wrist hold, cross |  | true ", "Headlock | arms trapped | false ", "Bear hug from behind | arms free | false ",
		"Wrist hold | fast | false ", "Reed lock, on the ground |  | true ", "Bear hug from behind |  | false "}, said(next, typed))
	c, err = next.AddPage("y", next.ParsePage("Self-defence\nBear hug from behind, arms trapped\nReed lock (on the ground)"), counter())
	require.NoError(t, err)
	assert.Equal(t, Kind("lock"), Open(c).Named("Reed lock, on the ground").Kind)
	assert.Equal(t, []string{"Bear hug from behind, arms trapped |  | false "}, said(Open(c), "Self-defence\nBear hug from behind (arms trapped)"), "known by its remark from then on")
}

// TestNamesThatJoin several: by a sign always, by "and" where each part says what it is.
func TestNamesThatJoin(t *testing.T) {
	b := Open(curriculum.Curriculum{Techniques: []curriculum.Technique{{ID: "j", Name: "Jab", Kind: "strike"}}})
	for name, want := range map[string]bool{
		"Jab": false, "Jab & hook": true, "Reed + Crane": true, "Reed/Crane": true, "Reed /": false, "Jab and low kick": true, "Reed and Crane": false, "Jab and Crane": false, "Reed and low kick": false,
	} {
		assert.Equal(t, want, b.joined(name), name)
	}
}
