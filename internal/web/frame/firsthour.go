package frame

import (
	"velvetladder/internal/core/office"
	"velvetladder/internal/words"
)

// FirstHour is the way from an empty school to its first register, as the owner sees it until it is gone.
type FirstHour struct {
	Steps []FirstStep
	Left  int
}

// FirstStep is a step with where it is begun.
type FirstStep struct {
	Step               office.FirstStep
	Title, Says, Begin string
	To                 string // where it is begun; "" where a step before is needed first
	Done, Skipped      bool
	Next               bool
	Number             int
}

// Next is the step that is to be done now.
func (h FirstHour) Next() FirstStep {
	for _, s := range h.Steps {
		if s.Next {
			return s
		}
	}
	return FirstStep{}
}

// firstHour puts the steps of a school before its owner. rail are the rungs of the program looked at, the highest first.
func firstHour(h office.FirstHour, rail []railRung) (out FirstHour) {
	out.Left = h.Left()
	page := "/rungs/new"
	if n := len(rail); n > 0 {
		page = "/binder/" + rail[max(n-2, 0)].ID // newcomers are tested for the second
	}
	to := map[office.FirstStep]string{office.StepSchool: "/settings", office.StepProgram: "/programs/new", office.StepPage: page, office.StepStudents: "/students/new",
		office.StepWeek: "/classes/new", office.StepRegister: "/classes", office.StepGrading: "/gradings/new"}
	for i, s := range office.FirstSteps {
		x := FirstStep{Step: s, To: to[s], Number: i + 1, Next: s == h.Next()}
		x.Title, x.Says, x.Begin = words.FirstStep(s)
		for _, d := range h.Done {
			x.Done = x.Done || d == s
		}
		x.Skipped = !x.Done && h.Taken(s)
		out.Steps = append(out.Steps, x)
	}
	return out
}
