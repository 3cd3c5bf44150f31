package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
)

// TestAnswersBelowAnAttack: what stands in a numbered list right below an attack answers it, until the list ends.
func TestAnswersBelowAnAttack(t *testing.T) {
	for page, want := range map[string]string{
		"Cross wrist grab|#1 Palm up|#2 Arm bar||Bear hug|1) Drop and elbow|Falling Oak": "self_defence: Palm up, 2 a side against wrist grab (cross wrist grab)" +
			"|self_defence: Arm bar, 2 a side against wrist grab (cross wrist grab)|self_defence: Drop and elbow, 2 a side against hug|self_defence: Falling Oak, 2 a side",
		"Rear choke:|a) turn in|b) step out":                "self_defence: turn in, 2 a side against rear choke, rear|self_defence: step out, 2 a side against rear choke, rear",
		"Wrist grab|- palm up release":                      "self_defence: palm up release, 2 a side against wrist grab",
		"Self-defence|Wrist, collar and hair grabs":         "self_defence: Wrist grab, 2 a side against wrist grab|self_defence: Collar grab, 2 a side against lapel grab|self_defence: Hair grab, 2 a side against hair grab",
		"Self-defence|Held against a wall by the throat":    "self_defence: Held against a wall by the throat, 2 a side against front choke",
		"Self-defence|Bear hug. Drop your weight, stamp":    "self_defence: Bear hug, 2 a side against hug",
		"Self-defence|Broken Ice (left & right wrist grab)": "self_defence: Broken Ice, 2 a side against wrist grab",
		"Techniques|Circling Owl (right front kick)":        "self_defence: Circling Owl, 2 a side against right front kick",
		"Self-defence|Hollow Oak, front push, 3 a side|Hollow Oak, other side|Split Ice, headlock from the side. First half only.": "self_defence: Hollow Oak, 3 a side against push" +
			"|self_defence: Hollow Oak, 2 a side, again (other side)|self_defence: Split Ice, 2 a side against headlock, side",
		"Self-defence|Slow Oak: rear bear hug (arms pinned)":                  "self_defence: Slow Oak, 2 a side against hug, rear (rear bear hug, arms pinned)",
		"Self-defence|Silent Oak (flank hug, right arm free)|Swinging bottle": "self_defence: Silent Oak, 2 a side against hug, side (flank hug, right arm free)|self_defence: Swinging bottle, 2 a side against club",
		"Self-defence|Broken Ice (left kick)":                                 "? self_defence: Broken Ice, 2 a side (left kick)",
	} {
		assert.Equal(t, want, strings.ReplaceAll(understoodIn(shore(), page), "step out.", "step out"), page)
	}
}

// TestForWhomFirst: for whom a line is may stand before it, what is worn is no requirement, and marks in a table are shown.
func TestForWhomFirst(t *testing.T) {
	for page, want := range map[string]string{
		"Breaking|Adults: elbow, 1 board": "strike: Elbow, 1, on boards, not for Cubs",
		"Fitness|Push ups: adults 30, cubs 10|Kicks|Left/right low kick 20 each|Pond kick, boards: 1": "fitness: Push ups, 30, 10 times for Cubs|kick: Low kick, 20 a side|kick: Pond kick, 1, on boards",
		"Sparring|No contact sparring for under 10s|1 v 2 for 30 seconds|Technical sparring 2 x 1.5":  "~ a remark on the page|sparring: 1 on 2 sparring, 30 s|sparring: Technical sparring, 2 x 90 s",
		"Stances|Cover step back|Strikes|6 punch combo|Jab body + head|Inward elbow/outward elbow": "footwork: Cover step back, 5 a side|combination: 6-punch combo, 4 a side|strike: Jab, 5 a side (body + head)" +
			"|strike: Inward elbow, 5 a side|strike: Outward elbow, 5 a side",
		"Breaking|Adults: 2 boards":                             "? : Adults, 0 x 0 s: 2 boards",
		"Card 2: I can...|do a side fall|stand in a low stance": "breakfall: side fall, 5|stance: Low stance, 5 a side",
		"Being a good partner|Bow to a partner|Tidy the pads":   "courtesy: Bow to a partner, 1|character: Tidy the pads, 1",
		"Sparring|1 x 1 min|Gloves and gum shields":             "sparring: Sparring, 1 x 60 s|~ time, classes, age, kit and papers are asked by the rules of the rung",
		"Section\tItem\tMax\tPass|Kicks\tPond kick\t10\t6":      "~ the head of the columns|kick: Pond kick, 5 a side (max 10, pass 6)",
		"Strikes|Jab!|Shout kiai|Slip slip hook|Double jab cross|Pond punch, alternate legs x20": "strike: Jab, 5 a side|courtesy: Shout kiai, 1|combination: Slip slip hook, 4 a side: Slip, slip, hook" +
			"|combination: Double jab cross, 4 a side: Double jab, cross|strike: Pond punch, 20 alternating",
		"Strikes|Horizontal, rising and spinning elbow":                                                "strike: Horizontal elbow, 5 a side|strike: Rising elbow, 5 a side|strike: Spinning elbow, 5 a side [spinning]",
		"Blocks|slip 1|parry inside 2":                                                                 "? block: slip 1, 5 a side|? block: parry inside 2, 5 a side",
		"Forms|First 8 moves of Still Pond|Still Pond kata from last belt":                             "form: Still Pond, 1 (First 8 moves)|form: Still Pond kata, 1 (from last belt)",
		"Holds|Scarf hold for 20 seconds|Wrist turn from a punch":                                      "lock: Scarf hold, 20 s|lock: Wrist turn from a punch, 3 a side",
		"Kicks|Thrusting sweep kick|3rd stripe: Forms|Still Pond":                                      "kick: Thrusting sweep kick, 5 a side|form: Still Pond, 1",
		"Fitness|50 squats without a break|Sparring|Sparring 4 rounds, 1½ minutes|K1 rules, 1 x 2 min": "fitness: Squats, 50 (without a break)|sparring: Sparring, 4 x 90 s|sparring: K1 rules, 1 x 120 s",
	} {
		assert.Equal(t, want, understoodIn(trackedBook(curriculum.Track{ID: "cubs", Name: "Cubs", To: 12, Young: true}, curriculum.Track{ID: "grown", Name: "Grown", From: 13}), page), page)
	}
}
