package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
)

// TestWhatOneIsTold: sentences that ask are written as a list has them; what is nearly one stays.
func TestWhatOneIsTold(t *testing.T) {
	for typed, want := range map[string]string{
		"throw 50 push kicks in a minute":                 "Push kicks, 50 in 60 secs",
		"2) do 12 burpees within 30 secs.":                "2) Burpees, 12 in 30 secs",
		"- throw a jab":                                   "- A jab",
		"throw a partner":                                 "throw a partner",
		"Hip throw 3 each side":                           "Hip throw 3 each side",
		"spar with 4 opponents, 2 minutes each":           "Sparring, 4 x 2 minutes (4 opponents)",
		"break a board with your elbow strike":            "Elbow strike, 1 board",
		"break two boards with a side kick (adults)":      "Side kick, two boards (adults)",
		"break a board with the foot":                     "break a board with the foot",
		"break a board with a side kick and a punch":      "break a board with a side kick and a punch",
		"do the Harbour form without help":                "Harbour form without help",
		"do everything in the second form":                "do everything in the second form",
		"stand in horse stance while I count to ten":      "Horse stance, 10 secs (counted)",
		"round kick the pad at belly height, 10 each leg": "Round kick, on pad, at belly height, 10 each leg",
		"kick the pad":                                    "kick the pad",
		"punch pad 10 times":                              "Punch, on pad, 10 times",
		"1 round of light sparring with kicks":            "Light sparring, 1 round ((with kicks))",
		"two rounds of sparring with a friend, 90 s each": "Sparring, two x 90 s ((with a friend))",
		"walk through form \"First Step\" with me":        "Form First Step (with me)",
		"go through the kata Still Water":                 "Kata Still Water",
	} {
		assert.Equal(t, want, commanded(typed), typed)
	}
}

// TestWhatIsNoListOfItsOwn: names with strokes, columns of blanks, titles before each line and names in two tongues are taken apart, and what only
// looks so stays.
func TestWhatIsNoListOfItsOwn(t *testing.T) {
	b := Open(curriculum.Curriculum{Sections: []curriculum.Section{{ID: "k", Name: "Kicks", Kind: "kick"}, {ID: "s", Name: "Strikes", Kind: "strike"}}})
	for typed, want := range map[string]string{
		"jab/cross/hook, 1 min each":   "Jab, 1 min|Cross, 1 min|Hook, 1 min",
		"jab/hook/upper x5 ea":         "Jab, x5|Hook, x5|Uppercut, x5",
		"jab/cross each":               "",
		"jab/cross/hook, 10 each side": "",
		"jab/cross/hook":               "",
		"red/blue/green, 3 each":       "",
	} {
		assert.Equal(t, want, strings.Join(b.slashedEach(typed, "strike"), "|"), typed)
	}
	assert.Empty(t, b.slashedEach("jab/cross/hook, 1 min each", "combination"))
	for typed, want := range map[string]string{
		"ready stance, horse stance 20 sec, cat stance L and R": "Ready stance|Horse stance 20 sec|Cat stance L and R",
		"ready stance, horse stance, cat stance":                "",
		"ready stance, horse stance, cat stance 20 sec":         "",
		"horse stance 20 sec, cat stance":                       "",
		"ready stance, front kick 5 times, cat stance":          "",
		"ready stance 2, horse stance 20 sec, cat stance":       "",
	} {
		assert.Equal(t, want, strings.Join(b.someCounted(typed, "stance"), "|"), typed)
	}
	for typed, want := range map[string]string{
		"Age-uke / rising block - 5 each way": "Age-uke (rising block) - 5 each way",
		"- Mae geri / front kick":             "- Mae geri (front kick)",
		"Age-uke / gyaku-zuki, 5 each":        "Age-uke / gyaku-zuki, 5 each",
		"Rising block / punch":                "Rising block / punch",
		"Age-uke / push-ups":                  "Age-uke / push-ups",
	} {
		assert.Equal(t, want, b.translated(typed), typed)
	}
	title := []string{"Gold - hands: jab", "Gold - feet: front kick", "", "Gold - form: Step One"}
	assert.Equal(t, "Gold", b.sharedTitle(title))
	assert.Equal(t, []string{"       hands: jab", "       feet: front kick", "", "       form: Step One"}, b.withoutTitle(title))
	for _, other := range [][]string{title[:2], {"Gold - jab", "Gold - cross", "Gold - hook: lead"}, {"Gold - a: jab", "Lime - b: jab", "Gold - c: jab"},
		{"Kicks - a: one", "Kicks - b: two", "Kicks - c: three"}, {"Gold - a: jab", "Gold - b: jab", "jab"}} {
		assert.Equal(t, other, b.withoutTitle(other))
	}
	columns := []string{"Ishi One     fast", "Ishi Two     slow", "Jab, cross       5 steps", "Signed     ____"}
	assert.Equal(t, []string{"Ishi One, fast", "Ishi Two, slow", "Jab, cross       5 steps", "Signed     ____"}, blanksAsCommas(columns))
	assert.Equal(t, columns[:2], blanksAsCommas(columns[:2]))
	ticked := []string{"Jab      ok  retry", "Cross      ok  retry", "Hook      pass / fail"}
	assert.Equal(t, ticked, blanksAsCommas(ticked))
	assert.Equal(t, []string{"- defend a haymaker", "- defend a tackle"}, b.defendEach("- defend a haymaker and a tackle."))
	assert.Empty(t, b.defendEach("defend a friend and a stranger"))
	assert.Equal(t, []string{"Plank, 60 s", "", "Kicks", "60 s", "Jab", "Cross, 2 x 30 s", ""}, b.amountsBelow([]string{"Plank", "60 s", "Kicks", "60 s", "Jab", "Cross", "2 x 30 s"}))
}
