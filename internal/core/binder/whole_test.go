package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestHowMuchOfAll: an amount below several that say none is that of all of them, and of no other; where one says its own it is asked about.
func TestHowMuchOfAll(t *testing.T) {
	b := shore()
	all := "~ how much of each of what stands above"
	assert.Equal(t, []string{"kick: Front kick, 5 a side", "block: Low block, 8 a side", "block: High block, 8 a side", all}, readAs(b, "Kicks\nFront kick\nBlocks\nLow block\nHigh block\n8 each side"))
	assert.Equal(t, []string{"kick: Front kick, 8 a side", "block: Low block, 8 a side", "block: High block, 8 a side", all}, readAs(b, "Kicks\nFront kick\nBlocks\nLow block\nHigh block\nEverything 8 each side"))
	assert.Equal(t, []string{"kick: Front kick, 3", "block: Low block, 8 a side", all}, readAs(b, "Kicks\nFront kick x3\nBlocks\nLow block\nEverything 8 each side"))
	assert.NotContains(t, readAs(b, "Blocks\nLow block x3\nHigh block\n8 each side"), all)
	for _, l := range b.ParsePage("Blocks\nLow block x3\nHigh block\n8 each side")[2:] {
		assert.Contains(t, l.Problem, "only how much", "of which, nobody knows")
	}
	assert.NotContains(t, readAs(b, "Blocks (5 each side)\nLow block\n8 each side"), all)
}

// TestWhatAPageSaysOfItself: what is about the page, for everybody, or from who wrote it asks nothing; what is shown is not taken for it.
func TestWhatAPageSaysOfItself(t *testing.T) {
	b := shore()
	for line, want := range map[string]string{
		"Version 4, March 2024    Page 1 of 1": "~ it is about the page", "Last updated 3 May": "~ it is about the page", "www.otterhall.example": "~ it is about the page", "coach@otterhall.example": "~ it is about the page",
		"Bring a drink and your licence.": "~ what to bring or to see to", "Please arrive ten minutes early": "~ what to bring or to see to", "> All locks slowly. Tap = stop.": "~ a remark on the page", "Remember to breathe!": "~ a remark on the page",
		"Cool-down: breathing, bow": "~ it is not tested", "Skipping (not marked), 2 min": "~ it is not tested", "Mum or dad signs here:": "~ a sum, a fee or a place to sign", "7. Total 40 marks": "~ a sum, a fee or a place to sign", "Total: 40 marks": "~ a sum, a fee or a place to sign",
		"I do my best kick": "? I do my best kick", "I do my best kick, kick": "kick: I do my best kick, 5 a side",
		"~~Crescent kick~~ (dropped)": "~ it is struck out", "Bring the knee up": "? Bring the knee up",
	} {
		got := readAs(b, "Kicks\nFront kick x5\n"+line)
		assert.Equal(t, want, got[len(got)-1], line)
	}
	assert.Equal(t, []string{"fitness: Squats, 50"}, readAs(b, "Fitness\n`50` squats"))
	assert.Equal(t, []string{"kick: Front kick, 5", "~ a greeting", "~ a greeting"}, readAs(b, "Kicks\nFront kick x5\nCheers,\nTom"))
	assert.Equal(t, []string{"stance: Horse stance, 60 s", "strike: Middle punch, 20", "kick: Front kick, 20"}, readAs(b, "W1  Stance: horse, 1 min hold\nW1  Punch: middle x 20\nW2  Kick: front x 20"), "weeks written short")
	assert.Equal(t, []string{"~ the title of the page", "self_defence: Quiet Door, 2 a side against push"}, readAs(b, "Green belt\nSelf defence\nQuiet Door, push to the chest"))
}

// TestWordsOfATest: how a test is put in words, and what stands for what is said above, is read as in a list.
func TestWordsOfATest(t *testing.T) {
	b := shore()
	for page, want := range map[string]string{
		"Kicks\nShow me a front kick on each leg (x5)":                    "kick: Front kick, 5 each limb",
		"Kicks\nShow me your best side kick":                              "kick: Side kick, 5 a side",
		"Kicks\nfront, side, round: 10 each, both legs":                   "kick: Front kick, 10 each limb|kick: Side kick, 10 each limb|kick: Round kick, 10 each limb",
		"Strikes\nlow punch ...... x10\nhigh punch ...... ditto":          "strike: low punch, 10|strike: high punch, 10",
		"Strikes\njab, cross, hook, uppercut combo":                       "combination: jab, cross, hook, uppercut, 4 a side: jab, cross, hook, uppercut",
		"KICK  [ ] 3. low kick, 20 each leg\nFIT   [ ] 9. skip 3 mins":    "kick: low kick, 20 each limb|fitness: skip, 180 s",
		"our fourth kata: Ishi Yon":                                       "form: Ishi Yon, 1",
		"Forms\nLong Form, first 20 moves":                                "form: Long Form, 1 (first 20 moves)",
		"Knowledge\nA partner pushes you. What do you do?":                "? A partner pushes you. What do you do?",
		"Knowledge\nWhat does the knot stand for?":                        "knowledge: What does the knot stand for?, 1",
		"00:00 skipping 2 min\n05:00 Front kick x10\n25:00 Side kick x10": "fitness: skipping, 120 s|kick: Front kick, 10|kick: Side kick, 10",
		"Kicks\nFront kick x5\nTurn the hip":                              "kick: Front kick, 5|? Turn the hip",
		"Kicks\nFront kick, hook, 10 each leg":                            "? Front kick",
		"Kicks\nFront kick\nknee high":                                    "kick: Front kick, 5 a side|? knee high",
		"Kicks\nFront kick\npivot!":                                       "kick: Front kick, 5 a side|? pivot!",
		"Locks\nGooseneck, from a lapel grab":                             "lock: Gooseneck, 3 a side (from a lapel grab)",
	} {
		assert.Equal(t, want, strings.Join(readAs(b, page), "|"), page)
	}
}

// TestSignsOfAWholePage: what most lines begin with is a sign of the page; what one line begins with is its own.
func TestSignsOfAWholePage(t *testing.T) {
	b := shore()
	assert.Equal(t, []string{"kick: Front kick, 5", "kick: Side kick, 5", "strike: Jab, 5"}, readAs(b, "o Front kick x5\no Side kick x5\no Jab x5"))
	assert.Equal(t, []string{"strike: Jab, 5 (Ido)", "kick: Front kick, 5 (Ido)", "kick: Side kick, 5 (Ido)"}, readAs(b, "Ido: Jab x5\nIdo: Front kick x5\nIdo: Side kick x5"))
	assert.Equal(t, []string{"kick: Front kick, 5, must", "kick: Side kick, 5, must", "strike: Jab, 5, must"}, readAs(b, "Must: Front kick x5\nMust: Side kick x5\nMust: Jab x5"), "a label that says something")
	for page, want := range map[string]string{
		"Kicks: front, side, hook and axe":                            "kick: Front kick, 5 a side|kick: Side kick, 5 a side|kick: Hook kick, 5 a side|kick: Axe kick, 5 a side",
		"Kicks are done ten times with each leg: front, side":         "kick: Front kick, 10 each limb|kick: Side kick, 10 each limb",
		"The form for this term is Long Bridge.":                      "form: Long Bridge, 1",
		"Kicks\nHook kick: L x10, R x10":                              "kick: Hook kick, 10 a side",
		"Kicks\nHook kick: L x10, R x8":                               "? L|? R",
		"Self-defence\nBent Willow (knife to throat)":                 "self_defence: Bent Willow, 2 a side against knife thrust (knife to throat)",
		"Warm-up (on the spot): skipping 120 s\nKicks\nFront kick x5": "fitness: Skipping, 120 s (on the spot)|kick: Front kick, 5",
	} {
		assert.Equal(t, want, strings.Join(readAs(b, page), "|"), page)
	}
}

// TestForWhomLinesAre: what says for whom the lines below it are is asked about, since a line is everybody's; what is for everybody is set aside, and
// a technique of that name is one.
func TestForWhomLinesAre(t *testing.T) {
	b := shore()
	for _, whom := range []string{"Under 10s", "Adults", "Over 12s only", "For juniors:", "10-12 years", "Ages 5+"} {
		lines := b.ParsePage("Kicks\nSide kick x3\n" + whom + "\nFront kick x5")
		assert.Contains(t, lines[1].Problem, "for whom", whom)
		assert.Equal(t, []string{"", "Front kick"}, []string{lines[2].Problem, lines[2].Name}, whom)
	}
	assert.Equal(t, []string{"kick: Side kick, 3", "~ it is for everybody", "kick: Front kick, 5"}, readAs(b, "Kicks\nSide kick x3\nEveryone\nFront kick x5"))
	for page, want := range map[string]string{
		"Self-defence\n1) Right hand push ... \"Swinging Gate\"":                       "self_defence: Swinging Gate, 2 a side against right push",
		"Forms\nPebble and Boulder":                                                    "? Pebble and Boulder",
		"Kicks\nFront kick, or side kick if the knee is bad, 10 each leg":              "? Front kick",
		"Self-defence\nMuddy Boots - shoved from the side":                             "self_defence: Muddy Boots, 2 a side against push, side",
		"Kicks\nFront kick, desirable":                                                 "kick: Front kick, 5 a side, bonus",
		"Horse stance with low block, 5 a side":                                        "block: Horse stance with low block, 5 a side",
		"Kicks\nFront kick x3\nHook kick\n8 each leg":                                  "kick: Front kick, 3|kick: Hook kick, 5 a side|? ",
		"Foot maneuvers\nstep through x5":                                              "footwork: step through, 5",
		"Kicks\nFront kick x3\nHands, 5 a side":                                        "kick: Front kick, 3|? Hands",
		"Technique / Form     Score 1-5     Reps\nFront kick                       x5": "~ the head of the columns|kick: Front kick, 5",
	} {
		assert.Equal(t, want, strings.Join(readAs(b, page), "|"), page)
	}
}
