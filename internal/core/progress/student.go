// Package progress follows a student's way up a ladder.
package progress

import (
	"velvetladder/internal/core/body"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
)

// Stance is which foot stands forward by habit.
type Stance string

// The stances. An orthodox student has the left foot forward; "" is not known yet.
const (
	Orthodox Stance = "orthodox"
	Southpaw Stance = "southpaw"
)

// Stances are the choices.
var Stances = []Stance{Orthodox, Southpaw}

// Student is a person who trains. Everything but the name may be unknown.
type Student struct {
	ID          string
	Name        string
	BirthDate   civil.Date
	Guardian    string // of a minor
	Contact     string // the guardian's or the student's own
	Stance      Stance
	HeightCM    int // 0: not measured
	WeightKG    int // for pairing in sparring; 0: not measured
	WaistCM     int // for the size of a belt; 0: not measured
	ShoulderMM  int // from joint to joint, to draw stances to scale; 0: not measured
	LegMM       int // from the floor to the hip
	FootMM      int
	BeltSize    string
	UniformSize string
	Limits      string // an injury or another reason to adapt, in the school's words
	JoinedOn    civil.Date
	Number      int // typed or scanned at the check-in screen; given by the records, counting up from 101
}

// The least and the most that parts of a body can measure, in millimetres.
const (
	leastShoulder, mostShoulder = 150, 700
	leastLeg, mostLeg           = 200, 1500
	leastFoot, mostFoot         = 80, 400
)

// Body are the parts of the student's body: what was measured, and what follows from the height.
func (s Student) Body() body.Parts {
	cm := func(mm int) float64 { return float64(mm) / 10 }
	return body.PartsOf(body.Measured{HeightCM: float64(s.HeightCM), ShoulderCM: cm(s.ShoulderMM), LegCM: cm(s.LegMM), FootCM: cm(s.FootMM)})
}

// grown is the age from which the proportions of grown people hold, in years.
const grown = 14

// Estimated says which parts the drawing of a student guesses at: "" none that matters. A child's proportions are not those
// of grown people, which the published ones are.
func (s Student) Estimated(today civil.Date) Estimate {
	parts := s.ShoulderMM > 0 && s.LegMM > 0 && s.FootMM > 0
	switch {
	case s.HeightCM == 0 && !parts:
		return NoHeight
	case !parts && !s.BirthDate.IsZero() && s.BirthDate.Age(today) < grown:
		return ChildParts
	}
	return ""
}

// Estimate is what a drawing guesses at.
type Estimate string

// What a drawing can guess at.
const (
	NoHeight   Estimate = "height" // nothing was measured
	ChildParts Estimate = "child"  // a child whose parts were not measured
)

// Check notes what is wrong with a student, seen on the day today.
func (s Student) Check(today civil.Date) check.Problems {
	var p check.Problems
	p.Name("name", s.Name)
	p.Line("guardian", s.Guardian, check.NameLength)
	p.Line("contact", s.Contact, check.LineLength)
	p.Line("belt_size", s.BeltSize, 20)
	p.Line("uniform_size", s.UniformSize, 20)
	if s.Stance != "" {
		check.OneOf(&p, "stance", s.Stance, Stances)
	}
	if !s.BirthDate.IsZero() {
		if today.Before(s.BirthDate) {
			p.Add("birth_date", "%s lies in the future; a birth date is today or earlier", s.BirthDate.Long())
		} else if s.BirthDate.Age(today) > 110 {
			p.Add("birth_date", "%s would make an age of %d; check the year", s.BirthDate.Long(), s.BirthDate.Age(today))
		}
	}
	if s.HeightCM != 0 && (s.HeightCM < 40 || s.HeightCM > 260) {
		p.Add("height_cm", "is %d cm; it must be from 40 to 260, or empty", s.HeightCM)
	}
	if s.WeightKG != 0 && (s.WeightKG < 8 || s.WeightKG > 250) {
		p.Add("weight_kg", "is %d kg; it must be from 8 to 250, or empty", s.WeightKG)
	}
	if s.WaistCM != 0 && (s.WaistCM < 30 || s.WaistCM > 200) {
		p.Add("waist_cm", "is %d cm; it must be from 30 to 200, or empty", s.WaistCM)
	}
	for _, x := range []struct {
		field           string
		mm, least, most int
	}{{"shoulder_cm", s.ShoulderMM, leastShoulder, mostShoulder}, {"leg_cm", s.LegMM, leastLeg, mostLeg}, {"foot_cm", s.FootMM, leastFoot, mostFoot}} {
		if x.mm != 0 && (x.mm < x.least || x.mm > x.most) {
			p.Add(x.field, "is %s cm; it must be from %d to %d, or empty", check.Hundredths(x.mm*10), x.least/10, x.most/10)
		}
	}
	if !s.JoinedOn.IsZero() && s.JoinedOn.Before(s.BirthDate) {
		p.Add("joined_on", "%s is before the birth date", s.JoinedOn.Long())
	}
	return p
}

// Entry is one line of a rank history: from On the student stood on the rung.
type Entry struct {
	ID       string
	RungID   string
	Words    string // the rank in the words of the day
	Position int    // of the rung on today's ladder, -1 where it is gone
	On       civil.Date
	Kind     EntryKind
	Why
	Actor string
	Grade string // "provisional", "permanent", or "" where the program makes no difference
}

// Because says why an entry was made, where its kind does not.
type Because string

// The kinds of why. BecauseNothing is the zero value.
const (
	BecauseNothing   Because = ""
	BecauseHonours   Because = "honours"
	BecauseReferred  Because = "referred"  // for double promotion
	BecauseDouble    Because = "double"    // a double promotion was granted
	BecauseCorrected Because = "corrected" // an announced result was
	BecauseMerit     Because = "merit"     // a merit stripe was given, On a day
	BecauseCameBack  Because = "came_back"
)

// Why is why an entry was made.
type Why struct {
	Because Because
	On      civil.Date // of a merit stripe; zero of others
	Reason  string     // what somebody wrote; "" nothing
}

// EntryKind says how a student came to stand on a rung.
type EntryKind string

// The kinds of entry.
const (
	Started   EntryKind = "start"
	Promoted  EntryKind = "promotion"
	Corrected EntryKind = "correction" // a later entry that mends an earlier one
)
