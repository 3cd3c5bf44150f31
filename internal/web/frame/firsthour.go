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

// whys say why somebody was led to another page than the one they asked for.
var whys = map[string]string{
	"no-program":  "There is no program yet, and that page is about one. Begin one here; it takes a minute.",
	"no-rungs":    "That page needs a ladder with rungs; this one is still empty.",
	"sign-in":     "Sign in first; then the page you asked for opens.",
	"have-owner":  "This school has its owner already: sign in.",
	"no-owner":    "Nobody owns this school yet: begin here.",
	"sent-home":   "This device was sent home, or its grading is over. For another, type the code from the head table.",
	"in-place":    "This device sits at a table: here is its place.",
	"rebuilt":     "The file was written anew: nothing of whom you erased is left in it.",
	"file-gone":   "That file is not here any more: a file that was looked at waits for two hours, and not over a new start of the program. If it was being read in, the audit trail says whether it arrived. Else choose it again.",
	"factor-gone": "There was nothing to confirm any more; this is how your account stands.",
}
