package office

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestTheFirstHour(t *testing.T) {
	all := FirstSteps
	for _, x := range []struct {
		done, skipped []FirstStep
		next          FirstStep
		left          int
	}{
		{nil, nil, StepSchool, 7},
		{[]FirstStep{StepSchool, StepProgram}, nil, StepPage, 5},
		{[]FirstStep{StepSchool, StepWeek}, []FirstStep{StepProgram}, StepPage, 4},
		{[]FirstStep{StepStudents}, []FirstStep{StepStudents}, StepSchool, 6},
		{all[:6], nil, StepGrading, 1},
		{all[:6], all[6:], "", 0},
		{all, nil, "", 0},
	} {
		h := FirstHour{x.done, x.skipped}
		assert.Equal(t, x.next, h.Next(), "%v", x)
		assert.Equal(t, x.left, h.Left(), "%v", x)
	}
}
