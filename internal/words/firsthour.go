package words

import "velvetladder/internal/core/office"

// FirstStep is a step of the first hour: what it is called, what it is for, and what is pressed to begin it.
func FirstStep(s office.FirstStep) (title, says, begin string) {
	switch s {
	case office.StepSchool:
		return "Name the school", "It stands above the ladder and on every paper.", "Name it"
	case office.StepProgram:
		return "Begin a program", "From a general ladder, from a file, or rung by rung.", "Choose a ladder"
	case office.StepPage:
		return "Say what a rung asks", "Type or paste the page of your ring binder; new techniques are made on the way.", "Type a page"
	case office.StepStudents:
		return "Bring in the students", "One by one, or all at once from a spreadsheet.", "Add a student"
	case office.StepWeek:
		return "Put the week on the timetable", "Registers, readiness and class plans follow from it.", "Add a class"
	case office.StepRegister:
		return "Keep the first register", "Tap who came; it counts towards their next rung at once.", "Open today’s classes"
	case office.StepGrading:
		return "Plan the next grading", "A day and a place; the program says who may test.", "Plan a grading"
	}
	return "", "", ""
}
