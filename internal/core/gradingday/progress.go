package gradingday

import (
	"cmp"
	"slices"
)

// Stage is how far a group is on the day.
type Stage string

// The stages of a group.
const (
	Waiting   Stage = "waiting"    // nobody has marked anything
	UnderWay  Stage = "under_way"  // some marks are still to be given
	CallAgain Stage = "call_again" // every mark is given, and nobody saw something
	ToSign    Stage = "to_sign"    // every mark is given and something seen of each; signatures are missing
	Ready     Stage = "ready"      // all have signed: the group may leave
)

// TableState is how far one examiner is with a group.
type TableState struct {
	ExaminerID, GroupID string
	Given, Of           int    // entries: marks and "not seen"
	At                  string // the line this examiner marked last, as called; "" it is in another group, or none
	AtLine              int    // its place, from 1
	Signed              bool
	Absent              bool // the examiner is not there: nobody waits for this table
}

// Unseen is an item of one candidate that has to be called again: every examiner says they did not see it, or one
// asks for it.
type Unseen struct {
	Candidate, Name, Item string
	Line                  int    // its number in the group's running order
	By                    string // the examiner who asks for it again; "": nobody saw it
	Why                   Again
}

// HalfSeen is an item that one examiner did not see of most of a group, though it is not called again: what they
// say of it rests on few.
type HalfSeen struct {
	Examiner, Item string
	Line           int // its number in the group's running order
	NotSeen, Of    int // candidates
}

// MostlyUnseen reports whether an examiner did not see an item of most of those who are asked it: more than half.
func MostlyUnseen(notSeen, of int) bool { return 2*notSeen > of }

// GroupState is how far a group is.
type GroupState struct {
	GroupID string
	Stage   Stage
	Given   int // entries over all tables
	Of      int
	Unseen  []Unseen // to be called again, in the order of lines
	Half    []HalfSeen
}

// StateOf sums up a group from its tables and from what nobody saw.
func StateOf(group string, tables []TableState, unseen []Unseen) GroupState {
	out := GroupState{GroupID: group, Unseen: slices.Clone(unseen)}
	slices.SortStableFunc(out.Unseen, func(a, b Unseen) int {
		return cmp.Or(cmp.Compare(a.Line, b.Line), cmp.Compare(a.Name, b.Name), cmp.Compare(a.By, b.By))
	})
	signed := 0
	waited := 0
	for _, t := range tables {
		if t.Absent {
			continue
		}
		waited++
		out.Given, out.Of = out.Given+t.Given, out.Of+t.Of
		if t.Signed {
			signed++
		}
	}
	switch {
	case waited > 0 && signed == waited && len(unseen) == 0:
		out.Stage = Ready
	case out.Given == 0:
		out.Stage = Waiting
	case out.Given < out.Of:
		out.Stage = UnderWay
	case len(unseen) > 0:
		out.Stage = CallAgain
	default:
		out.Stage = ToSign
	}
	return out
}
