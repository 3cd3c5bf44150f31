package frame

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
)

// What devices send and are sent of entries that they keep while there is no network. Each is the value
// of the core, field by field, under the names that stand in the scripts.

// Mark is a mark on the wire.
type Mark struct {
	ID          string              `json:"id"`
	CandidateID string              `json:"candidate"`
	ExaminerID  string              `json:"examiner"`
	ItemID      string              `json:"item"`
	Kind        gradingday.MarkKind `json:"kind"`
	Value       scoring.Decimal     `json:"value"`
	Count       int                 `json:"count,omitzero"`
	Note        string              `json:"note"`
	Ticked      string              `json:"ticked,omitempty"`
	Faults      string              `json:"faults,omitempty"`
	Again       gradingday.Again    `json:"again,omitempty"`
	Supersedes  string              `json:"supersedes"`
}

// Fault is a fault on the wire.
type Fault struct {
	ID          string               `json:"id"`
	CandidateID string               `json:"candidate"`
	ExaminerID  string               `json:"examiner"`
	Kind        gradingday.FaultKind `json:"kind"`
	Points      scoring.Decimal      `json:"points"`
	Conduct     gradingday.Conduct   `json:"conduct,omitempty"`
	BoutID      string               `json:"bout,omitempty"`
	Text        string               `json:"text"`
	Supersedes  string               `json:"supersedes"`
}

// BoutEvent is something in a bout on the wire.
type BoutEvent struct {
	ID         string              `json:"id"`
	BoutID     string              `json:"bout"`
	Kind       gradingday.BoutKind `json:"kind"`
	Side       string              `json:"side"`
	Round      int                 `json:"round"`
	Points     int                 `json:"points"`
	Text       string              `json:"text"`
	Supersedes string              `json:"supersedes"`
}

// Attendance is an entry of a register on the wire.
type Attendance struct {
	ID         string                     `json:"id"`
	ClassID    string                     `json:"class"`
	On         civil.Date                 `json:"on"`
	StudentID  string                     `json:"student"`
	Visitor    string                     `json:"visitor"`
	State      gradingday.AttendanceState `json:"state"`
	Mode       timetable.Mode             `json:"mode"`
	MakeUp     bool                       `json:"make_up"`
	Supersedes string                     `json:"supersedes"`
}

// SignOff is a sign-off on the wire.
type SignOff struct {
	ID          string          `json:"id"`
	EnrolmentID string          `json:"enrolment"`
	TechniqueID string          `json:"technique"`
	Role        curriculum.Role `json:"role"`
	Stage       int             `json:"stage"`
	Side        string          `json:"side"`
	Kind        string          `json:"kind"`
	Fault       string          `json:"fault"`
	Clip        bool            `json:"clip"`
	ClassID     string          `json:"class"`
	On          civil.Date      `json:"on"`
	Supersedes  string          `json:"supersedes"`
	Line        string          `json:"line"`
}

// Marks are marks on the wire; none is an empty list.
func Marks(all []gradingday.Mark) []Mark {
	return Each(all, func(m gradingday.Mark) Mark { return Mark(m) })
}

// Faults are faults on the wire; none is an empty list.
func Faults(all []gradingday.Fault) []Fault {
	return Each(all, func(f gradingday.Fault) Fault { return Fault(f) })
}

// Each turns every value of a list into another; none is an empty list.
func Each[T, U any](all []T, turn func(T) U) []U {
	out := make([]U, len(all))
	for i, x := range all {
		out[i] = turn(x)
	}
	return out
}

// currentOf is what stands where another device was first.
func currentOf(stale *store.Stale) *Mark {
	m := Mark(stale.Current)
	return &m
}
