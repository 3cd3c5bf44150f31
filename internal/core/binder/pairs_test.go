package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestTwoWaysInALine: two ways of one technique are two techniques, or a remark where they are heights, legs and ways to go; what is done stands
// indented below the defence that it belongs to.
func TestTwoWaysInALine(t *testing.T) {
	for page, want := range map[string]string{
		"Kicks|Pond kick inside and outside, 10 each leg":         "kick: Pond kick inside, 10 each limb|kick: Pond kick outside, 10 each limb",
		"Kicks|Inside and outside pond kick":                      "kick: Inside pond kick, 5 a side|kick: Outside pond kick, 5 a side",
		"Kicks|Pond kick front and rear leg x 8":                  "kick: Pond kick, 8 (front and rear leg)",
		"Kicks|Pond kick high/low - 10 each":                      "kick: Pond kick, 10 a side (high/low)",
		"Kicks|Pond kick up and down the hall":                    "kick: Pond kick, 5 a side (up and down the hall)",
		"Strikes|Elbows forward, back and up":                     "strike: Forward elbow, 5 a side|strike: Back elbow, 5 a side|strike: Up elbow, 5 a side",
		"Strikes|Ridge hand to head and ribs, 6":                  "strike: Ridge hand, 6 (to head and ribs)",
		"Strikes|Ridge hand||Elbows|Horizontal|Elbow to the rear": "strike: Ridge hand, 5 a side|strike: Horizontal elbow, 5 a side|strike: Elbow to the rear, 5 a side",
		"Breakfalls|Mill fall, left and right":                    "breakfall: Mill fall, 5 a side (left and right)",
		"Stances|Oak stance (count of 8)":                         "stance: Oak stance, 8 s (count of 8)",
		"Self-defence|Wrist grabs (single, cross)": "self_defence: Single wrist grab, 2 a side against wrist grab" +
			"|self_defence: Cross wrist grab, 2 a side against wrist grab",
		"Self-defence|Bear hug - over arms, under arms": "self_defence: Bear hug over arms, 2 a side against hug|self_defence: Bear hug under arms, 2 a side against hug",
		"Techniques:|A. Iron Fan (front push)|   Deflect outward, palm to chin, knee|B. Oak Gate (rear choke)|   Step out, elbow|Kicks:|Pond kick": "" +
			"self_defence: Iron Fan, 2 a side against push|self_defence: Oak Gate, 2 a side against rear choke, rear" +
			"|kick: Pond kick, 5 a side",
		"Techniques:|1. Iron Fan (front push)|   wrist grab, lapel grab": "self_defence: Iron Fan, 2 a side against push" +
			"|? self_defence: wrist grab, 2 a side against wrist grab (lapel grab)",
		"Sparring|3 x 1 min|no head contact for under 16s|light contact only": "sparring: Sparring, 3 x 60 s|~ a remark on the page|~ a remark on the page",
		"Sparring|Move in and out|3 x 1 min rounds":                           "? sparring: Move in and out, 2 x 60 s, 30 s rest|sparring: Sparring, 3 x 60 s",
		"Pads - holder feeds|R1 2 min hands only":                             "combination: Rounds, 1 x 120 s, on pads, free choice (hands only, holder feeds)",
		"Punches|Falling Oak (right straight)|Sweeping Oak (left hook)|Pond punch (left hand)": "" +
			"self_defence: Falling Oak, 2 a side (right straight)|self_defence: Sweeping Oak, 2 a side against left hook" +
			"|strike: Pond punch, 5 a side (left hand)",
		"Kicks|Pond kick left leg, pond kick right leg|Blocks|Block up / block down": "kick: Pond kick, 5 a side (left and right)|block: Block up, 5 a side|block: Block down, 5 a side",
		"Combos: pond jab, pond cross x 10":                                          "combination: pond jab, pond cross, 10: pond jab, pond cross",
		"Self-defence|Gentle Oak: wrist grab, pull away and elbow|Ice Oak: left hook, right hook": "self_defence: Gentle Oak, 2 a side against wrist grab (pull away and elbow.)" +
			"|self_defence: Ice Oak, 2 a side against left hook against right hook",
		"Holds|Front bear hug|Wrist turn|Blocks|Long guard v hook|Self-defence|Hair grab, back|Knife attack": "self_defence: Front bear hug, 2 a side against hug|lock: Wrist turn, 3 a side" +
			"|block: Long guard vs hook, 5 a side against hook" +
			"|self_defence: Hair grab from behind, 2 a side against hair grab, rear|? self_defence: Knife attack, 2 a side",
		"Stripe one: Kicks|x10 each leg: front, side, round|Questions|Number of moves": "kick: Front kick, 10 each limb|kick: Side kick, 10 each limb|kick: Round kick, 10 each limb" +
			"|knowledge: Number of moves, 1",
		"Forms|Still Reed first half|Meaning of the form|Random form 1-2": "form: Still Reed, 1 (first half)|knowledge: Meaning of the form, 1|? form: Random form 1, 1" +
			"|? form: Random form 2, 1",
		"Fitness|250 skips|Mile run|Character|Attendance 16 classes": "fitness: Skips, 250|fitness: Run, 1 (a mile)" +
			"|~ time, classes, age, kit and papers are asked by the rules of the rung",
		"Self-defence|What is a fair answer?|Name three weak points|How do you leave a headlock?": "knowledge: What is a fair answer?, 1|knowledge: Name three weak points, 1" +
			"|? self_defence: How do you leave a headlock?, 2 a side",
	} {
		assert.Equal(t, want, understoodIn(shore(), page), page)
	}
	lines := shore().ParsePage(strings.ReplaceAll("Techniques:|A. Iron Fan (front push)|   Deflect outward, palm to chin, knee", "|", "\n"))
	assert.Equal(t, "Deflect outward, palm to chin, knee.", lines[0].Moves)
}
