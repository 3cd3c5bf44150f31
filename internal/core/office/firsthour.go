package office

import "slices"

// FirstStep is a step of the way from an empty school to its first register and grading.
type FirstStep string

// The steps.
const (
	StepSchool   FirstStep = "school"   // it has a name
	StepProgram  FirstStep = "program"  // there is one
	StepPage     FirstStep = "page"     // a rung asks for something
	StepStudents FirstStep = "students" // somebody is on record
	StepWeek     FirstStep = "week"     // a class is on the timetable
	StepRegister FirstStep = "register" // one was kept
	StepGrading  FirstStep = "grading"  // one is planned
)

// FirstSteps are the steps, in the order in which they are gone.
var FirstSteps = []FirstStep{StepSchool, StepProgram, StepPage, StepStudents, StepWeek, StepRegister, StepGrading}

// FirstHour is how far a school is on its way to the first register and grading.
type FirstHour struct {
	Done    []FirstStep // what is on record
	Skipped []FirstStep // what the owner does not want to be reminded of
}

// Taken reports whether a step is done or skipped.
func (h FirstHour) Taken(s FirstStep) bool {
	return slices.Contains(h.Done, s) || slices.Contains(h.Skipped, s)
}

// Next is the first step that is neither done nor skipped; "" where the hour is over.
func (h FirstHour) Next() FirstStep {
	for _, s := range FirstSteps {
		if !h.Taken(s) {
			return s
		}
	}
	return ""
}

// Left is how many steps are neither done nor skipped.
func (h FirstHour) Left() (n int) {
	for _, s := range FirstSteps {
		if !h.Taken(s) {
			n++
		}
	}
	return n
}
