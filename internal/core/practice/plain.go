package practice

import (
	"fmt"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/progress"
)

// attacksAtHome is what somebody does in each usual attack, in words for home. %s is where the
// side goes.
var attacksAtHome = map[curriculum.AttackKind]string{
	"push": "pushes you%s", "wrist grab": "holds one of your wrists%s", "two-hand wrist grab": "holds your wrist with both hands", "shoulder grab": "takes you by the shoulder%s", "two-hand shoulder grab": "takes both your shoulders",
	"lapel grab": "takes you by the collar%s", "two-hand lapel grab": "takes your collar with both hands", "hair grab": "takes you by the hair%s", "hug": "puts both arms around you", "headlock": "holds your head under an arm%s",
	"front choke": "puts both hands to your neck, from the front", "rear choke": "puts an arm or both hands to your neck, from behind", "tackle": "comes at your legs", "club": "swings a padded stick%s", "stick": "swings a padded stick%s",
	"knife overhead": "comes down with a training knife%s", "knife thrust": "thrusts a training knife%s", "knife slash": "swings a training knife%s", "ground mounted": "sits on you as you lie on your back", "ground face down": "is on your back as you lie face down",
}

// attackAtHome is an attack in words a parent understands: "holds one of your wrists, with the left
// hand, from behind".
func attackAtHome(b *curriculum.Book, a curriculum.AttackElement) string {
	nature := b.Program.NatureOf(a.Kind)
	limb := "hand"
	if nature == "kick" {
		limb = "leg"
	}
	side := ""
	switch a.Side {
	case notation.Left, notation.Right:
		side = fmt.Sprintf(" with the %s %s", a.Side, limb)
	case notation.Lead:
		side = " with the front " + limb
	case notation.Rear:
		side = " with the back " + limb
	}
	words, known := attacksAtHome[a.Kind]
	switch {
	case known && strings.Contains(words, "%s"):
		words = fmt.Sprintf(words, side)
	case known:
	case nature == "kick":
		words = "gives a " + string(a.Kind) + side
	case nature == "strike":
		words = "strikes: " + string(a.Kind) + side
	default:
		words = "gives this: " + string(a.Kind) + side
	}
	switch a.Level {
	case notation.High:
		words += ", at head height"
	case notation.Mid:
		words += ", at chest height"
	case notation.Low:
		words += ", low"
	}
	switch a.Motion {
	case "step-through":
		words += ", stepping forward"
	case "lunge":
		words += ", with one long step"
	case "static":
		words += ", standing still"
	}
	switch a.Origin {
	case "rear":
		if !strings.Contains(words, "behind") {
			words += ", from behind"
		}
	case "side":
		words += ", from the side"
	case "ground":
		if !strings.Contains(words, " lie ") {
			words += ", on the ground"
		}
	}
	return words
}

// mend is how the fault that was seen in this student is corrected; "" where nothing is on record.
func mend(x progress.Item) string {
	for _, f := range x.Faults {
		if x.Fault != "" && f.Seen == x.Fault && !x.Done {
			return f.Correction
		}
	}
	return ""
}
