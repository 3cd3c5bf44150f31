package gradingday

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/timetable"
)

// AttendanceState says whether somebody came.
type AttendanceState string

// The states. Absent takes an entry back.
const (
	Present AttendanceState = "present"
	Late    AttendanceState = "late"
	Absent  AttendanceState = "absent"
)

// AttendanceStates are the choices.
var AttendanceStates = []AttendanceState{Present, Late, Absent}

// Attendance is an entry of a register. The ID is made by whoever writes it; Supersedes is the
// id of the entry it replaces, "" for the first of a student.
type Attendance struct {
	ID         string
	ClassID    string
	On         civil.Date
	StudentID  string // "" of a visitor
	Visitor    string // the name of one on trial; "" of a student
	State      AttendanceState
	Mode       timetable.Mode
	MakeUp     bool
	Supersedes string
}
