// Package practice is what a class or a student works on: the practice sheet for home, the
// caller, combinations, and the plan of a class.
package practice

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// Task is one thing on a practice sheet, in words a parent understands.
type Task struct {
	progress.Next
	Do         string                 // "5 times on each side, slowly"
	Moves      []curriculum.StripMove // for the student's stance
	Gives      []curriculum.StripMove // what the partner does
	Other      []curriculum.StripMove // the other side of a defence, where it is told otherwise
	OtherGives []curriculum.StripMove
	Look       []string // what is right
	Mend       string   // how the fault seen in this student is corrected; "" none
	Partner    string   // the partner's part; "" none is needed
	Cautions   []string
	Clips      []curriculum.Clip
	Drill      string   // the way in that suits the student; "" none is on record
	Cues       []string // what to say to oneself
	Exposure   string   // what it leaves open, and what covers that; "" not on record
	Leads      string   // what sets it up and what follows it; "" not on record
}

// SheetTasks is how many things a sheet lists: what a week of evenings holds.
const SheetTasks = 8

// Sheet is what is left for the next rung and what has not been seen for long, the most urgent
// first, told for the student's stance; with AsWritten, where it is not known, lead and rear
// stay. Clips are those of rungs already reached, and of the one climbed to. Ways in are those that
// suit the track.
func Sheet(b *curriculum.Book, rung string, things []progress.Next, stance curriculum.View, track string) (out []Task) {
	for _, x := range things {
		t := b.Technique(x.TechniqueID)
		if t == nil {
			continue
		}
		task := Task{Next: x, Do: plainly(x.Item), Partner: partner(b, x.Item, t), Mend: mend(x.Item), Look: x.Checkpoints, Moves: curriculum.Told(x.Moves, stance.For()), Gives: curriculum.Told(x.Line.Partner, stance.For())}
		if x.TwoSided && x.Quantity.Side == "" && t.Defends() {
			if other := curriculum.OtherSide(x.Moves, stance.For()); curriculum.Differs(x.Moves, stance.For(), other) {
				task.Other, task.OtherGives = curriculum.Told(x.Moves, other), curriculum.Told(x.Line.Partner, other)
			}
		}
		task.Cautions = append(slices.Clone(x.Cautions), atHome(b, x.Item, t)...)
		for _, c := range Clips(b, t, rung) {
			if c.Stage == 0 || x.Stage == 0 || c.Stage <= x.Stage {
				task.Clips = append(task.Clips, c)
			}
		}
		if d := b.DrillFor(t, track, far(&x.Item)); d != nil {
			task.Drill = d.String()
		}
		task.Cues, task.Exposure, task.Leads = b.Cues(t), exposure(t), leads(t)
		out = append(out, task)
	}
	return out
}

// Clips are the school's clips of a technique that are shown to who climbs to a rung.
func Clips(b *curriculum.Book, t *curriculum.Technique, rung string) (out []curriculum.Clip) {
	for _, c := range t.Clips {
		if c.From == "" || b.Place(c.From) >= 0 && b.Place(c.From) <= b.Place(rung) {
			out = append(out, c)
		}
	}
	return out
}

// exposure is what a technique leaves open and what covers that, in a sentence.
func exposure(t *curriculum.Technique) string {
	switch {
	case t.LeavesOpen == "":
		return ""
	case t.CoveredBy == "":
		return "It leaves open: " + t.LeavesOpen + "."
	}
	return "It leaves open: " + t.LeavesOpen + "; covered by: " + t.CoveredBy + "."
}

// leads is what sets a technique up and what follows it.
func leads(t *curriculum.Technique) (out string) {
	if t.SetUpBy != "" {
		out = "Before it: " + t.SetUpBy + "."
	}
	if t.FollowedBy != "" {
		out = strings.TrimSpace(out + " After it: " + t.FollowedBy + ".")
	}
	return out
}

// eachSide is what a side of a line means, as said at home.
func eachSide(x progress.Item) string {
	switch {
	case !x.TwoSided:
		return ""
	case x.Quantity.Side == curriculum.ByLimb:
		return " with each " + limbOf(x.Kind)
	case x.Quantity.Side == curriculum.ByDirection && x.Kind == "evasion":
		return " to the left and as often to the right"
	case x.Quantity.Side == curriculum.ByDirection:
		return " one way, then turn, and as often back"
	}
	if paired(x.Moves) {
		return " on each side, left and right exchanged the second time"
	}
	return " on each side, the other foot in front the second time"
}

// plainly is how much and how, as said at home.
// It is long: a case for each measure.
func plainly(x progress.Item) string {
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
	return words
}

func times(n int) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return fmt.Sprintf("%d times", n)
}

// partner is what somebody else has to do.
func partner(b *curriculum.Book, x progress.Item, t *curriculum.Technique) string {
	attack := ""
	for i, a := range t.Attack {
		if i > 0 {
			attack += ", then "
		}
		attack += attackAtHome(b, a)
	}
	if attack == "" && t.AttackMoves != "" {
		attack = "does " + t.AttackMoves
	}
	switch {
	case x.Role == "attacker":
		return "Your partner defends. You give the attack, in reach and straight on, and let it be stopped."
	case x.Role == "defender" && attack != "":
		return "Slowly: your partner " + attack + ". In reach, and no faster than you can answer; they stop where they are stopped."
	case x.Role == "defender":
		return "Your partner gives the attack slowly and stops where they are stopped."
	case x.Role == "holder":
		return "You hold; your partner strikes. Elbows in, the pad against the body."
	case x.Setting == "pads":
		return "A partner holds the pad in both hands, against the body."
	case x.Setting == "partner":
		return "With a partner of about your size."
	}
	return ""
}

// atHome are the cautions that hold where no instructor stands by.
func atHome(b *curriculum.Book, x progress.Item, t *curriculum.Technique) (out []string) {
	choke := slices.ContainsFunc(t.Attack, func(a curriculum.AttackElement) bool { return b.Program.NatureOf(a.Kind) == "choke" })
	weapon := slices.ContainsFunc(t.Attack, func(a curriculum.AttackElement) bool { return b.Program.NatureOf(a.Kind) == "weapon" })
	switch {
	case choke:
		out = append(out, "Hands at the neck only touch at home; never squeeze. Children practise this with the instructor.")
	case t.Kind == "lock" || t.Kind == "throw":
		out = append(out, "Not at home without the instructor’s word: go through the steps alone.")
	case x.Role == "defender" || x.Role == "attacker":
		out = append(out, "Slowly, with room around you. Agree a tap and a word that stop at once.")
	}
	if weapon {
		out = append(out, "Only with a soft training weapon. In earnest: leave if you can.")
	}
	if t.Kind == "sparring" {
		out = append(out, "No sparring at home. Move alone, or shadow a partner out of reach.")
	}
	if t.Kind == "board_break" {
		out = append(out, "No boards at home.")
	}
	if t.Kind == "fitness" {
		out = append(out, "Warm up first. Stop on pain or dizziness.")
	}
	if slices.Contains(t.Modifiers, "jumping") || slices.Contains(t.Modifiers, "spinning") {
		out = append(out, "Low and slowly first; a clear, dry floor to land on.")
	}
	return out
}
