package binder

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
)

// TestWaysOfOne: several ways of one strike in a line are a line each, with how often behind each; what only looks so stays.
func TestWaysOfOne(t *testing.T) {
	for typed, want := range map[string]string{
		"Hammer fists: downwards, sideways":      "Hammer fist downwards|Hammer fist sideways",
		"- Hammer fist - side, back and down, 5": "- Hammer fist side, 5|- Hammer fist back, 5|- Hammer fist down, 5",
		"Elbow strikes: up / in, 10 of each":     "Elbow up, 10|Elbow in, 10",
		"Elbows: horizontal, upwards":            "Horizontal elbow|Elbow upwards",
		"Knife hand: in & out x 5":               "Knife hand in, x 5|Knife hand out, x 5",
		"Hammer fist: down":                      "",
		"Hammer fist: left, right":               "",
		"Hammer fist: high, low":                 "",
		"Hand: up, down":                         "",
		"Kicks: front, side":                     "",
	} {
		assert.Equal(t, want, strings.Join(waysOfOne(typed), "|"), typed)
	}
	for said, want := range map[string]string{
		"back, left, right":              "back, left side fall, right side fall",
		"back, left side and right side": "back, left side fall and right side fall",
		"side, left and right hands":     "side, left side fall and right hands",
		"front, back":                    "front, back",
	} {
		assert.Equal(t, want, sideFalls("Falls", "breakfall", said), said)
	}
	assert.Equal(t, "left, right", sideFalls("Kicks", "kick", "left, right"))
}

// TestWhatIsToldBehindADash: what is told behind a new defence's name and attack is its steps, each line a defence of its own.
func TestWhatIsToldBehindADash(t *testing.T) {
	b := trackedBook()
	page := []string{
		"Closing the Gate (two hand front choke) - Step back with the left, pin both arms, front kick.|front choke|Step back with the left, pin both arms, front kick.|",
		"Waterfall (right straight punch) - Block, step in|right straight punch|Block, step in.|",
		"Broken Oar (left wrist grab) – circle the wrist|left wrist grab||circle the wrist",
		"Fallen Reed - Step out, turn, push.||Step out, turn, push.|",
		"Leaning Post (push) - softly, both sides|push||softly",
		"Iron Bridge - front kick, right leg|right front kick||",
		"Storm Gate (hook punch) - left side only|hook||left side only",
	}
	var typed []string
	for _, x := range page {
		line, _, _ := strings.Cut(x, "|")
		typed = append(typed, line)
	}
	lines := b.ParsePage("Self defence\n" + strings.Join(typed, "\n"))
	assert.Len(t, lines, len(page))
	for i, x := range page {
		want := strings.Split(x, "|")
		l := lines[i]
		assert.Equal(t, want[1:], []string{curriculum.AttackWords(l.Attack), l.Moves, l.Note}, want[0])
		assert.Equal(t, Kind("self_defence"), l.Kind, want[0])
	}
	known := trackedBook()
	c := known.Curriculum
	c.Techniques = []curriculum.Technique{{ID: "w", Name: "Waterfall", Kind: "self_defence"}}
	l := Open(c).ParsePage("Self defence\nWaterfall - Block, step in, turn.")[0]
	assert.Equal(t, []string{"", "Block, step in, turn."}, []string{l.Moves, l.Note}, "it has its own steps")
}

// TestWhatAColumnAndAHeadingSay: a column of heights is that of the technique and one of ranks is not, one side in a heading is asked in all, and
// rounds on pads are worked freely under Sparring too.
func TestWhatAColumnAndAHeadingSay(t *testing.T) {
	b := trackedBook()
	for page, want := range map[string]string{
		"Requirement\tNumber\tLevel\nStraight punch\t10\tmiddle":          "10 times mid",
		"Requirement\tNumber\tHeight\nSide kick\t5\tjodan":                "5 times high",
		"Requirement\tNumber\tLevel\nSide kick\t5\t2":                     "5 times ",
		"Self-defence (right side)\nCalling Heron (wrist grab)":           "2 times ",
		"Self-defence (right side)\nCalling Heron (wrist grab), 3 a side": "3 a side ",
		"Self-defence\nCalling Heron (wrist grab)":                        "2 a side ",
	} {
		lines := b.ParsePage(page)
		l := lines[len(lines)-1]
		assert.Equal(t, want, fmt.Sprintf("%s %s", l.Quantity, l.LeastLevel), page)
	}
	for typed, kind := range map[string]Kind{"2 x 3 min pads": "combination", "2 x 2 min on the bag": "combination", "2 x 2 min": "sparring", "2 x 2 min light, pads on shins": "sparring"} {
		l := b.ParsePage("Sparring\n" + typed)[0]
		assert.Equal(t, kind, l.Kind, typed)
		assert.Equal(t, kind == "combination", l.Free, typed)
	}
}

// TestAListOfAttacks: among attacks alone a punch is an attack too; beside named defences it may be the answer, and is asked about.
func TestAListOfAttacks(t *testing.T) {
	b := trackedBook()
	page := "Self defence - any attack, 4 from:\nwrist grab\nhaymaker\nstraight punch\nbear hug\nheadlock\nlapel grab"
	for _, l := range b.ParsePage(page) {
		assert.Equal(t, Kind("self_defence"), l.Kind, l.Text)
		assert.NotEmpty(t, l.Attack, l.Text)
	}
	said := func(page, name string) *PageLine {
		lines := b.ParsePage(page)
		for i := range lines {
			if lines[i].Text == name {
				return &lines[i]
			}
		}
		return nil
	}
	l := said("Self defence\nwrist grab\nClosing Gate\nFalling Leaf\nTurning Mill\nhaymaker\nbear hug\nheadlock", "haymaker")
	assert.Empty(t, l.Attack, "half of them are attacks")
	assert.NotEmpty(t, l.Doubts)
	assert.NotEmpty(t, said("Self defence\nwrist grab\nbear hug\nhaymaker", "haymaker").Attack, "all are attacks")
	assert.Empty(t, said("Self defence\nwrist grab\nhaymaker", "haymaker").Attack, "two are too few to tell")
	assert.Empty(t, said("Self defence\nhaymaker\nstraight punch\nuppercut", "haymaker").Attack, "none of them is one for sure")
	below := "Self defence\nClosing Gate\nFalling Leaf\nTurning Mill\nSelf defence - any three:\nwrist grab\nhaymaker\nbear hug"
	assert.NotEmpty(t, said(below, "haymaker").Attack, "what stands under another heading does not count")
	assert.Equal(t, Kind("kick"), said("Strikes\nSide kick to the knee", "Side kick to the knee").Kind)
	assert.Equal(t, Kind("strike"), said("Strikes\nCheck low kick", "Check low kick").Kind, "it is asked about")
	assert.NotEmpty(t, said("Strikes\nCheck low kick", "Check low kick").Doubts)
	assert.Equal(t, Kind("knowledge"), said("Forms\nExplain the moves of your form", "Explain the moves of your form").Kind)
	assert.NotEqual(t, Kind("knowledge"), said("Forms\nExplain and show your form", "Explain and show your form").Kind)
}

// TestOneTechniqueUnderTwoHeadings: what the headings say keeps two lines of one name apart, so that neither takes the other's place.
func TestOneTechniqueUnderTwoHeadings(t *testing.T) {
	for page, want := range map[string][]string{
		"Kihon (moving)\nOi zuki x 5\nKihon (standing)\nOi zuki x 10":                                            {"Oi zuki 5 times (moving)", "Oi zuki 10 times (standing)"},
		"Self defence (standing)\nShomenuchi - Leaning Gate\nSelf defence (kneeling)\nShomenuchi - Leaning Gate": {"Leaning Gate, standing 2 a side ()", "Leaning Gate, kneeling 2 a side ()"},
	} {
		b := trackedBook()
		c, err := b.AddPage("yellow", b.ParsePage(page), counter())
		assert.NoError(t, err, page)
		var got []string
		for _, r := range c.Requirements {
			got = append(got, fmt.Sprintf("%s %s (%s)", Open(c).Technique(r.TechniqueID).Name, r.Quantity, r.Note))
		}
		assert.Equal(t, want, got, page)
	}
}
