package words

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/core/progress"
)

// attacksAtHome is what somebody does in each usual attack, in words for home. %s is where the
// side goes.
var attacksAtHome = map[curriculum.AttackKind]string{
	"push": "pushes you%s", "wrist grab": "holds one of your wrists%s", "two-hand wrist grab": "holds your wrist with both hands", "shoulder grab": "takes you by the shoulder%s", "two-hand shoulder grab": "takes both your shoulders",
	"lapel grab": "takes you by the collar%s", "two-hand lapel grab": "takes your collar with both hands", "hair grab": "takes you by the hair%s", "sleeve grab": "takes you by the sleeve%s", "arm grab": "takes you by the arm%s", "belt grab": "takes you by the belt%s", "leg grab": "takes hold of your leg%s",
	"full nelson": "puts both arms under yours and the hands behind your head, from behind, without pressing", "arm lock": "holds your arm behind your back%s, without lifting it", "gun": "points a training gun at you%s", "hug": "puts both arms around you", "headlock": "holds your head under an arm%s",
	"front choke": "puts both hands to your neck, from the front", "rear choke": "puts an arm or both hands to your neck, from behind", "side choke": "puts both hands to your neck, from the side", "tackle": "comes at your legs", "club": "swings a padded stick%s", "stick": "swings a padded stick%s",
	"knife overhead": "comes down with a training knife%s", "knife thrust": "thrusts a training knife%s", "knife slash": "swings a training knife%s", "ground mounted": "sits on you as you lie on your back", "ground face down": "is on your back as you lie face down",
}

// attackAtHome is an attack in words a parent understands: "holds one of your wrists, with the left
// hand, from behind".
func attackAtHome(a practice.Given) string {
	limb := "hand"
	if a.Nature == "kick" {
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
	case a.Nature == "kick":
		words = "gives a " + string(a.Kind) + side
	case a.Nature == "strike":
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

// eachSide is what a side of a line means, as said at home.
func eachSide(x progress.Item) string {
	switch {
	case !x.TwoSided:
		return ""
	case x.Quantity.Side == curriculum.ByLimb:
		return " with each " + limb(x.Line)
	case x.Quantity.Side == curriculum.ByDirection && x.Kind == "evasion":
		return " to the left and as often to the right"
	case x.Quantity.Side == curriculum.ByDirection:
		return " one way, then turn, and as often back"
	}
	if practice.Paired(x.Moves) || slices.Contains([]curriculum.Kind{"self_defence", "partner_set", "lock", "throw"}, x.Kind) {
		return " on each side, left and right exchanged the second time"
	}
	return " on each side, the other foot in front the second time"
}

// HowMuch is how much and how, as said at home.
// It is long: a case for each measure.
func HowMuch(x progress.Item) string {
	q := x.Quantity
	words := ""
	switch q.Measure {
	case curriculum.RepsPerSide:
		words = times(q.Reps) + eachSide(x)
	case curriculum.NoTouchDown:
		words = times(q.Reps) + eachSide(x) + ", without putting the foot down"
	case curriculum.Alternating:
		words = times(q.Reps) + " in all, left and right in turn"
	case curriculum.Timed:
		words = fmt.Sprintf("for %d seconds", q.Seconds)
	case curriculum.TimedSide:
		words = fmt.Sprintf("for %d seconds", q.Seconds) + eachSide(x)
	case curriculum.CountWithin:
		words = fmt.Sprintf("as many as you can in %d seconds; %d are asked", q.Seconds, q.Reps)
	case curriculum.Holds:
		words = fmt.Sprintf("hold it for %d seconds, %s", q.Seconds, times(q.Reps))
	case curriculum.RoundsTimed:
		words = fmt.Sprintf("%d rounds of %d seconds", q.Rounds, q.Seconds)
		if q.Rest > 0 {
			words += fmt.Sprintf(", resting %d seconds between", q.Rest)
		}
	default:
		words = times(q.Reps)
		if q.Reps > 1 {
			words += " in all"
		}
	}
	if n := x.Slots(); n > 0 {
		words = fmt.Sprintf("%d of your own choice", n)
		if n == 1 {
			words = "one of your own choice"
		}
		if q.Measure == curriculum.RepsPerSide {
			words += "," + eachSide(x)
		}
	}
	if x.Line.Sprint > 0 {
		words += fmt.Sprintf(", as fast as you can for the last %d seconds", x.Line.Sprint)
	}
	switch {
	case x.Kind == "knowledge":
		words = "say the answer aloud"
	case x.TwoSided && x.Left && !x.Right:
		words += "; the right side needs it most"
	case x.TwoSided && x.Right && !x.Left:
		words += "; the left side needs it most"
	}
	if x.Setting != "" && x.Setting != "air" {
		words += ", " + x.Setting.Words()
	}
	for _, m := range []struct {
		on   bool
		said string
	}{{x.NonStop, "without stopping"}, {x.Slow, "slowly"}, {x.Supported, "holding on to something"}, {x.Phases, "part by part"}, {x.Free && x.Slots() == 0, "of your own choice"}} {
		if m.on {
			words += ", " + m.said
		}
	}
	if height := heightsAtHome[x.Line.Level]; height != "" {
		words += ", " + height
	}
	return words
}

// heightsAtHome are the least heights a family is told of; low is as everybody does it.
var heightsAtHome = map[notation.Level]string{"mid": "at the height of the body or higher", "high": "at the height of the head"}

func times(n int) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return fmt.Sprintf("%d times", n)
}

// CalledAtHome is what a task is called for a family: Mill Wheel: you defend, the first 2 of its 3 parts.
func CalledAtHome(t practice.Task) string {
	var how []string
	if said := map[curriculum.Role]string{"attacker": "you attack", "defender": "you defend", "holder": "you hold the pad"}[t.Role]; said != "" {
		how = append(how, said)
	}
	if t.Setting != "" && t.Setting != curriculum.Settings[0] && t.Role != "holder" {
		how = append(how, t.Setting.Words())
	}
	switch whole := t.Stage == 0 || t.Stage >= t.Stages; {
	case whole:
	case t.Part != "":
		how = append(how, "as far as “"+t.Part+"”")
	case t.Stage == 1:
		how = append(how, fmt.Sprintf("the first of its %d parts", t.Stages))
	default:
		how = append(how, fmt.Sprintf("the first %d of its %d parts", t.Stage, t.Stages))
	}
	if len(how) == 0 {
		return t.Name
	}
	return t.Name + ": " + strings.Join(how, ", ")
}

// AttackAtHome is how the partner attacks, as said at home: takes hold of one of your wrists; "" nobody does, or it is not on record.
func AttackAtHome(p practice.PartnerPart) string {
	if p.Kind != practice.PartnerAttacks {
		return ""
	}
	var out []string
	for _, a := range p.Attacks {
		out = append(out, attackAtHome(a))
	}
	if len(out) == 0 && p.Moves != "" {
		return "does " + p.Moves
	}
	return strings.Join(out, ", then ")
}

// Partner is what somebody else has to do; "" nobody is needed.
func Partner(p practice.PartnerPart) string {
	switch p.Kind {
	case practice.PartnerDefends:
		return "Your partner defends. You give the attack, in reach and straight on, and let it be stopped."
	case practice.PartnerAttacks:
		attack := AttackAtHome(p)
		if attack == "" {
			return "Your partner gives the attack slowly and stops where they are stopped."
		}
		return "Slowly: your partner " + attack + ". In reach, and no faster than you can answer; they stop where they are stopped."
	case practice.PartnerStrikes:
		return "You hold; your partner strikes. Elbows in, the pad against the body."
	case practice.PartnerHolds:
		return "A partner holds the pad in both hands, against the body."
	case practice.PartnerStands:
		return "With a partner of about your size."
	}
	return ""
}

// HomeCaution is a caution that holds where no instructor stands by.
func HomeCaution(c practice.HomeCaution) string {
	return map[practice.HomeCaution]string{
		practice.HandsOnlyTouch: "Hands at the neck only touch at home; never squeeze. Children practise this with the instructor.",
		practice.GoThroughSteps: "Not at home without the instructor’s word: go through the steps alone.",
		practice.TapAndWord:     "Slowly, with room around you. Agree a tap and a word that stop at once.",
		practice.SoftWeapon:     "Only with a soft training weapon. In earnest: leave if you can.",
		practice.NoSparring:     "No sparring at home. Move alone, or shadow a partner out of reach.",
		practice.NoBoards:       "No boards at home.",
		practice.WarmUpFirst:    "Warm up first. Stop on pain or dizziness.",
		practice.LowFirst:       "Low and slowly first; a clear, dry floor to land on.",
	}[c]
}

// toFamilies says in words for home what the usual cautions say to an instructor.
var toFamilies = strings.NewReplacer(" Not on young tracks unless the owner allows.", "", "The rung's rule, kit checked, stop word.", "With the kit on and a stop word agreed, in class.")

// Cautions are those of a task, in words for home: of the line, and those that hold where no instructor stands by.
func Cautions(t practice.Task) (out []string) {
	for _, c := range t.Cautions {
		out = append(out, toFamilies.Replace(c))
	}
	for _, c := range t.AtHome {
		out = append(out, HomeCaution(c))
	}
	return out
}

// Exposure is what a task leaves open and what covers that, in a sentence; "" is not on record.
func Exposure(t practice.Task) string {
	switch {
	case t.LeavesOpen == "":
		return ""
	case t.CoveredBy == "":
		return "It leaves open: " + t.LeavesOpen + "."
	}
	return "It leaves open: " + t.LeavesOpen + "; covered by: " + t.CoveredBy + "."
}

// Leads are what sets a task up and what follows it; "" is not on record.
func Leads(t practice.Task) (out string) {
	if t.SetUpBy != "" {
		out = "Before it: " + t.SetUpBy + "."
	}
	if t.FollowedBy != "" {
		out = strings.TrimSpace(out + " After it: " + t.FollowedBy + ".")
	}
	return out
}
