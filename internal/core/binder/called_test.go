package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestCalledThenAttack: a name of its own keeps clear of the attack behind it, however the two are joined, and what is done about it is its steps;
// names that say a kind or a hold stay whole.
func TestCalledThenAttack(t *testing.T) {
	b := island(nil)
	for typed, want := range map[string]string{
		"Reed Bow for a straight left punch":                                           "Reed Bow, 2 a side against left straight punch",
		"Reed Bow vs. hair pull from behind":                                           "Reed Bow, 2 a side against hair grab, rear",
		"3. Reed Bow, used against a right hook":                                       "Reed Bow, 2 a side against right hook",
		"Reed Bow. A push with both hands from the front.":                             "Reed Bow, 2 a side against both push",
		"Reed Bow -- knife thrust to the belly, right hand":                            "Reed Bow, 2 a side against right knife thrust, mid",
		"Reed Bow: right hook punch, then left cross":                                  "Reed Bow, 2 a side against right hook against left straight punch",
		"Reed Bow - you are grabbed by the right wrist":                                "Reed Bow, 2 a side against wrist grab (you are grabbed by the right wrist)",
		"Reed Bow for a rear bear hug. Step, turn.":                                    "Reed Bow, 2 a side against hug, rear + Step, turn.",
		"Reed Bow (rear bear hug, arms pinned). Stomp, turn, push away.":               "Reed Bow, 2 a side against hug, rear (rear bear hug, arms pinned) + Stomp, turn, push away.",
		"Reed Bow - you are grabbed by the wrist, cross hand. Turn the hand, step in.": "Reed Bow, 2 a side against wrist grab (cross hand) + Turn the hand, step in.",
		"Reed Bow - tackle at waist height":                                            "Reed Bow, 2 a side against tackle (tackle at waist height)",
		"Bow in the Reeds from a push":                                                 "Bow in the Reeds, 2 a side against push",
		"Arm Bar from a lapel grab":                                                    "Arm Bar from a lapel grab, 2 a side against lapel grab",
		"Wrist Escape from behind":                                                     "Wrist Escape from behind, 2 a side against wrist grab, rear",
		"Reed Bow, Grey Pool":                                                          "Reed Bow, 2 a side|Grey Pool, 2 a side",
		"Reed Bow ext.":                                                                "Reed Bow, 2 a side (extension)",
		"Reed Bow\nRun to a grown up":                                                  "Reed Bow, 2 a side|Run to a grown up, 2 a side",
		"Words for strangers\nRun and tell the teacher about it":                       "Words for strangers, 2 a side|Run and tell the teacher about it, 2 a side",
	} {
		var got []string
		for _, l := range b.ParsePage("Self-defence\n" + typed) {
			assert.Empty(t, l.Problem, typed)
			assert.Empty(t, l.LeastLevel, typed)
			said := strings.TrimPrefix(understood(b, l), "self_defence: ")
			if l.Moves != "" {
				said += " + " + l.Moves
			}
			got = append(got, said)
		}
		assert.Equal(t, want, strings.Join(got, "|"), typed)
	}
}

// TestRowsOfBlows: punches in a row are one combination where one comes again, the hands take turns or they say where they go; without that a list
// is a list, or is asked about.
func TestRowsOfBlows(t *testing.T) {
	b := island(nil)
	for typed, want := range map[string]string{
		"Jab, cross, hook, cross x 10":      "combination 10 times: Jab, cross, hook, cross",
		"Jab, cross, hook, cross; 10 times": "combination 10 times: Jab, cross, hook, cross",
		"Lead jab, rear cross, lead hook":   "combination 4 a side: Lead jab, rear cross, lead hook",
		"Lead jab rear cross":               "combination 4 a side: Lead jab, rear cross",
		"Jab to body cross to head x10":     "combination 10 times: Jab to body, cross to head",
		"Jab-cross":                         "combination 4 a side: Jab, cross",
		"Jab cross on pads - 2 x 1 min":     "combination 2 × 60 s: Jab, cross",
		"Lead hook, rear hook":              "?",
		"Jab, cross, hook":                  "?",
	} {
		l := b.ParsePage("Strikes\n" + typed)[0]
		got := string(l.Kind) + " " + l.Quantity.String() + ": " + l.Moves
		if len(l.Doubts) > 0 || l.Problem != "" {
			got = "?"
		}
		assert.Equal(t, want, got, "%s: %v %s", typed, l.Doubts, l.Problem)
	}
	l := b.ParsePage("Combinations\nfake low, punch high")[0]
	assert.NotEmpty(t, l.Doubts, "moves that no list of moves knows")
}

// TestTableOfSections: the heads of the columns may stand beside the name of each section, and cells of one side alone are how often.
func TestTableOfSections(t *testing.T) {
	b := island(nil)
	page := "Hands | L | R | notes\nReed block | 3 | 3 | from walking stance\n\nKicks | L | R | notes\nReed kick | 5 | 5 | high\n\nForms | | |\nElm Gate | 1 | | own timing\n\n" +
		"Sparring | | |\nFree sparring | | | 2 rounds 1½ min\n\nBreaking | | |\nReed kick | 2 boards | 2 boards |"
	var got []string
	for _, l := range b.ParsePage(page) {
		if l.Aside == "" {
			assert.Empty(t, l.Problem, l.Text)
			got = append(got, understood(b, l))
		}
	}
	assert.Equal(t, []string{"block: Reed block, 3 a side (from walking stance)", "kick: Reed kick, 5 a side, level high", "form: Elm Gate, 1 (own timing)", "sparring: Free sparring, 2 x 90 s",
		"kick: Reed kick, 1, on boards (each side, 2 boards)"}, got)
}

// TestHowItIsPut: ways to put what is asked that say no more than the plain line does.
func TestHowItIsPut(t *testing.T) {
	b := island(nil)
	for page, want := range map[string]string{
		"Stances\nHeron dachi / Pool dachi":                                 "stance: Heron dachi, 5 a side|stance: Pool dachi, 5 a side",
		"Stances\nCat stance for 5 seconds each":                            "stance: Cat stance, 5 s a side",
		"Stances\nHorse stance 10 seconds!":                                 "stance: Horse stance, 10 s",
		"Stances\nThe student stands in a low horse stance for one minute.": "stance: Horse stance, 60 s",
		"Basics (stances)\nReedtai":                                         "stance: Reedtai, 5 a side",
		"Strikes\nReed punch, 3 levels":                                     "strike: Reed punch, 5 a side (3 levels)",
		"Strikes\nElbow strike - close the door":                            "strike: Elbow strike, 5 a side (close the door)",
		"Kicks\nReed kick - right leg 5, left leg 5":                        "kick: Reed kick, 5 a side",
		"Kicks\nMae geri / mawashi geri same leg x5":                        "combination: Mae geri then mawashi geri, 5 (same leg): Mae geri, mawashi geri",
		"Kicks\nReed kick through 1 board":                                  "kick: Reed kick, 1, on boards",
		"Kicks\nHigh reed kick - either leg":                                "kick: High reed kick, 5 a side (either leg)",
		"Forms\nStone Path at full speed":                                   "form: Stone Path, 1 (at full speed)",
		"Kicks\nReed kick 10, both sides":                                   "kick: Reed kick, 10 a side",
		"Stances\nReed stance 20s, both sides":                              "stance: Reed stance, 20 s a side",
		"Kicks (from fighting stance): front, side":                         "kick: Front kick, 5 a side (from fighting stance)|kick: Side kick, 5 a side (from fighting stance)",
		"Kicks: front kick x 10, side kick x 5":                             "kick: Front kick, 10|kick: Side kick, 5",
		"Kicks: reed fox kick x 10, pond kick - 5":                          "kick: Reed fox kick, 10|kick: Pond kick, 5",
		"Stances: fox, horse stance x 3":                                    "stance: Fox stance, 3|stance: Horse stance, 3",
		"BLOCKS: high, inside":                                              "block: High block, 5 a side|block: Inside block, 5 a side",
		"Fitness: 25 push-ups, 25 squats in 3 mins":                         "fitness: Push-ups, 25|fitness: Squats, 25 (in 3 mins)",
		"Blocks\nblock high block low":                                      "block: High block, 5 a side|block: Low block, 5 a side",
		"Forms\nSecond Form":                                                "form: Second Form, 1",
		"Forms\nForm One with a partner counting":                           "form: Form One, 1 (with a partner counting)",
		"Forms\nReed form together":                                         "form: Reed form, 1 (together)",
		"Fitness\n20 burpees under 1 min":                                   "fitness: Burpees, 20 in 60 s",
		"Fitness\nShadow boxing 2 x 2":                                      "fitness: Shadow boxing, 2 x 120 s",
		"Sparring\n3x2 boxing only":                                         "sparring: Sparring, 3 x 120 s (boxing only)",
		"Sparring\nStanding randori, 3 partners x 2 min":                    "sparring: Standing randori, 3 x 120 s (3 partners)",
		"Self-defence\nExtensions: Bending Willow, Quiet Storm":             "self_defence: Bending Willow, 2 a side (extension)|self_defence: Quiet Storm, 2 a side (extension)",
		"Self-defence\nKnife: downward stab":                                "self_defence: Knife downward stab, 2 a side against knife overhead",
		"Self-defence\nChoke, rear":                                         "self_defence: Choke from behind, 2 a side against rear choke, rear",
	} {
		assert.Equal(t, want, understoodIn(b, strings.ReplaceAll(page, "\n", "|")), page)
	}
}
