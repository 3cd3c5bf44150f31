package gradingday

import (
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/scoring"
)

// FaultKind says what a fault comes to.
type FaultKind string

// The kinds of fault.
const (
	FaultNote      FaultKind = "note"
	FaultDeduction FaultKind = "deduction"
	FaultEnding    FaultKind = "ending"           // ends the test once the chief confirms it
	FaultConfirmed FaultKind = "ending_confirmed" // supersedes an ending fault
	FaultWithdrawn FaultKind = "withdrawn"        // supersedes any
)

// FaultKinds are all of them.
var FaultKinds = []FaultKind{FaultNote, FaultDeduction, FaultEnding, FaultConfirmed, FaultWithdrawn}

// Conduct is what a fault is about.
type Conduct string

// The kinds of conduct. Head is head contact beyond the rule or any sign of concussion: it
// ends that person's sparring for the day.
const (
	ExcessContact Conduct = "excess_contact"
	LossOfControl Conduct = "loss_of_control"
	UnsafeAct     Conduct = "unsafe_act"
	Disrespect    Conduct = "disrespect"
	Stopping      Conduct = "stopping"
	TooFar        Conduct = "too_far" // out of reach where contact is none: nothing could have touched
	Head          Conduct = "head"
)

// Conducts are the choices, in the order screens offer them.
var Conducts = []Conduct{ExcessContact, LossOfControl, UnsafeAct, Disrespect, Stopping, TooFar, Head}

// Fault is something in a candidate's conduct: a note, a deduction, or the end of the test.
type Fault struct {
	ID          string
	CandidateID string
	ExaminerID  string
	Kind        FaultKind
	Points      scoring.Decimal // of a deduction: more than 0, at most MaxDeduction
	Conduct     Conduct         // what kind of conduct; "" something else
	BoutID      string          // of a fault seen in a bout
	Text        string          // what was seen; "" where the conduct says it
	Supersedes  string
}

// MaxDeduction is the most points one fault takes off.
var MaxDeduction = scoring.Whole(1000)

// Settles reports whether an entry is about a fault of before: it confirms or withdraws it.
func (f Fault) Settles() bool { return f.Kind == FaultConfirmed || f.Kind == FaultWithdrawn }

// EndsSparring reports whether whoever it is about does not spar any more that day.
func (f Fault) EndsSparring() bool { return f.Conduct == Head && f.Kind != FaultWithdrawn }

// Tidy puts a fault as it is kept.
func (f *Fault) Tidy() {
	if f.Text = check.Tidy(f.Text); f.Kind != FaultDeduction {
		f.Points = 0
	}
}

// Check says what is wrong with a fault, whoever it is about.
func (f Fault) Check() error {
	if err := EntryID(f.ID); err != nil {
		return err
	}
	var p check.Problems
	check.OneOf(&p, "kind", f.Kind, FaultKinds)
	if f.Conduct != "" {
		check.OneOf(&p, "conduct", f.Conduct, Conducts)
	}
	if p.Line("text", f.Text, check.LineLength); f.Text == "" && f.Conduct == "" && !f.Settles() {
		p.Add("text", "is empty; say what was seen")
	}
	if f.Kind == FaultDeduction && (f.Points <= 0 || f.Points > MaxDeduction) {
		p.Add("points", "is %s; a deduction takes more than 0 and at most %s points", f.Points, MaxDeduction)
	}
	return p.Err()
}

// FaultRefusal is why a fault may not be entered; "" it may.
type FaultRefusal string

// The refusals.
const (
	FaultAnnounced  FaultRefusal = "The result has been announced; its faults stay as they are."
	FaultSigned     FaultRefusal = "This sheet is signed. Reopen it, with a reason, to note a fault."
	FaultForChief   FaultRefusal = "A fault that ends the test is confirmed by the chief examiner."
	FaultNotThere   FaultRefusal = "The fault this entry is about is not on record, or was settled already."
	FaultsAreNotNew FaultRefusal = "A new fault replaces nothing; withdraw the old one."
)

// FaultPlace is what decides whether a fault may be entered.
type FaultPlace struct {
	Signed, Announced bool   // the examiner's sheet, the candidate's result
	Chief             string // examiner of the ring; "" none
	Old               *Fault // that stands and is superseded; nil none
}

// May says whether a fault may be entered at a place. A signed sheet takes no new fault, but one
// that stands can be settled; only the chief examiner, where there is one, confirms that a test ends.
func (f Fault) May(at FaultPlace) FaultRefusal {
	switch {
	case at.Announced:
		return FaultAnnounced
	case at.Signed && f.Supersedes == "":
		return FaultSigned
	case f.Kind == FaultConfirmed && at.Chief != "" && f.ExaminerID != at.Chief:
		return FaultForChief
	case f.Settles() && (at.Old == nil || f.Kind == FaultConfirmed && at.Old.Kind != FaultEnding):
		return FaultNotThere
	case !f.Settles() && f.Supersedes != "":
		return FaultsAreNotNew
	}
	return ""
}
