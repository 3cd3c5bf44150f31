// Package practice is what a class or a student works on: the practice sheet for home, the
// caller, combinations, and the plan of a class.
package practice

import (
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// Task is one thing on a practice sheet.
type Task struct {
	progress.Next
	Name       string                 // of the technique, with its entry
	Part       string                 // the name of the last part asked, where that is not the whole; "" it has none, or is the whole
	Moves      []curriculum.StripMove // for the student's stance
	Gives      []curriculum.StripMove // what the partner does
	Other      []curriculum.StripMove // the other side of a defence, where it is told otherwise
	OtherGives []curriculum.StripMove
	Look       []string // what is right
	Mend       string   // how the fault seen in this student is corrected; "" none
	Partner    PartnerPart
	AtHome     []HomeCaution
	Clips      []curriculum.Clip
	Drill      string   // the way in that suits the student; "" none is on record
	Cues       []string // what to say to oneself
	LeavesOpen string   // "" these are not on record
	CoveredBy  string
	SetUpBy    string
	FollowedBy string
}

// Answered reports whether the partner begins, so that what one does is an answer and comes after.
func (t Task) Answered() bool { return t.Partner.Kind == PartnerAttacks }

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
		task := Task{Next: x, Name: t.Name, Partner: partner(b, x.Item, t), AtHome: atHome(x.Item, t), Mend: mend(x.Item), Look: x.Checkpoints, Moves: curriculum.Told(x.Moves, stance.For()), Gives: curriculum.Told(x.Line.Partner, stance.For())}
		if x.Entry != "" {
			task.Name += ", " + x.Entry
		}
		if x.Stage > 0 && x.Stage < x.Stages && t.Stages[x.Stage-1].Name != "" {
			task.Part = t.StageName(x.Stage)
		}
		if x.TwoSided && x.Quantity.Side == "" && t.Defends() {
			if other := curriculum.OtherSide(x.Moves, stance.For()); curriculum.Differs(x.Moves, stance.For(), other) {
				task.Other, task.OtherGives = curriculum.Told(x.Moves, other), curriculum.Told(x.Line.Partner, other)
			}
		}
		for _, c := range Clips(b, t, rung) {
			if c.Stage == 0 || x.Stage == 0 || c.Stage <= x.Stage {
				task.Clips = append(task.Clips, c)
			}
		}
		d := b.DrillFor(t, track, far(&x.Item), func(with curriculum.Setting) bool { return with == "" }) // at home there is nothing
		if d == nil {
			d = b.DrillFor(t, track, far(&x.Item), nil) // it says what it takes
		}
		if d != nil {
			task.Drill = d.String()
		}
		task.Cues = b.Cues(t)
		task.LeavesOpen, task.CoveredBy, task.SetUpBy, task.FollowedBy = t.LeavesOpen, t.CoveredBy, t.SetUpBy, t.FollowedBy
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

// PartnerKind is what somebody else does while one practises.
type PartnerKind string

// The parts of a partner; nobody is needed where it is "".
const (
	PartnerDefends PartnerKind = "defends" // against the attack that one gives
	PartnerAttacks PartnerKind = "attacks" // with Attacks, else Moves; neither is on record: as the instructor showed
	PartnerStrikes PartnerKind = "strikes" // the pad one holds
	PartnerHolds   PartnerKind = "holds"   // the pad
	PartnerStands  PartnerKind = "stands"  // there, of about the same size
)

// PartnerPart is what somebody else does while one practises.
type PartnerPart struct {
	Kind    PartnerKind
	Attacks []Given
	Moves   string
}

// Given is an attack that is given, with its nature.
type Given struct {
	curriculum.AttackElement
	Nature curriculum.Nature
}

// partner is what somebody else has to do.
func partner(b *curriculum.Book, x progress.Item, t *curriculum.Technique) PartnerPart {
	switch {
	case x.Role == "attacker":
		return PartnerPart{Kind: PartnerDefends}
	case x.Role == "defender" || x.Role == "performer" && t.Defends():
		p := PartnerPart{Kind: PartnerAttacks, Moves: t.AttackMoves}
		for _, a := range t.Attack {
			p.Attacks = append(p.Attacks, Given{a, b.Program.NatureOf(a.Kind)})
		}
		return p
	case x.Role == "holder":
		return PartnerPart{Kind: PartnerStrikes}
	case x.Setting == "pads":
		return PartnerPart{Kind: PartnerHolds}
	case x.Setting == "partner":
		return PartnerPart{Kind: PartnerStands}
	}
	return PartnerPart{}
}

// HomeCaution is a caution that holds where no instructor stands by.
type HomeCaution string

// The cautions for home.
const (
	HandsOnlyTouch HomeCaution = "hands only touch" // at the neck
	GoThroughSteps HomeCaution = "go through steps" // of a lock or a throw
	TapAndWord     HomeCaution = "tap and word"     // with a partner
	SoftWeapon     HomeCaution = "soft weapon"
	NoSparring     HomeCaution = "no sparring"
	NoBoards       HomeCaution = "no boards"
	WarmUpFirst    HomeCaution = "warm up first"
	LowFirst       HomeCaution = "low first" // of jumps and spins
)

// atHome are the cautions that hold where no instructor stands by: by the kinds of caution that the line has anyhow, so that
// a takedown in the steps or a jump in the words counts as one in the kind.
func atHome(x progress.Item, t *curriculum.Technique) (out []HomeCaution) {
	due := map[string]bool{}
	for _, kind := range x.Risks {
		due[kind] = true
	}
	switch {
	case due["choke"]:
		out = append(out, HandsOnlyTouch)
	case due["joint"] || due["throw"]:
		out = append(out, GoThroughSteps)
	case x.Role == "defender" || x.Role == "attacker" || t.Kind == "self_defence":
		out = append(out, TapAndWord)
	}
	for _, x := range []struct {
		holds bool
		HomeCaution
	}{
		{due["weapon"], SoftWeapon}, {due["sparring"], NoSparring}, {t.Kind == "board_break" || x.Setting == "boards", NoBoards},
		{due["fitness"], WarmUpFirst}, {due["jump"], LowFirst},
	} {
		if x.holds {
			out = append(out, x.HomeCaution)
		}
	}
	return out
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
