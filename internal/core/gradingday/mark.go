package gradingday

import (
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/scoring"
)

// MarkKind says what an examiner wrote.
type MarkKind string

// The kinds of mark. An open mark holds a note, or takes a mark back.
const (
	MarkGiven   MarkKind = "mark"
	MarkNotSeen MarkKind = "not_seen"
	MarkOpen    MarkKind = "open"
)

// Mark is one examiner's entry for one item of one candidate. The ID is made by whoever
// writes it; Supersedes is the id of the entry it replaces, "" for the first.
type Mark struct {
	ID          string
	CandidateID string
	ExaminerID  string
	ItemID      string
	Kind        MarkKind
	Value       scoring.Decimal // of kind mark, in points; 0 otherwise
	Count       int             // what was counted behind the mark: press-ups, skips; 0 to MaxCount
	Note        string
	Ticked      string // what was seen of a free-choice line's list, a line each, MaxTicked at most
	Faults      string // which of the line's faults were seen in this candidate, a line each, MaxTicked at most
	Again       Again  // the line is asked for again, for this candidate alone; "" it is not
	Supersedes  string
}

// Again says why an examiner asks for a line again.
type Again string

// The reasons to ask for a line again.
const (
	AgainFollowed  Again = "followed"  // the candidate followed the neighbour
	AgainDisturbed Again = "disturbed" // something came between
	AgainDoubt     Again = "doubt"     // the examiner is in doubt
)

// Agains are the reasons, in the order screens offer them.
var Agains = []Again{AgainFollowed, AgainDisturbed, AgainDoubt}

// Settled reports whether nothing is left to do at a place: it has a mark or a "not seen", and is not asked for again.
func (m Mark) Settled() bool { return m.Kind != MarkOpen && m.Again == "" }

// FaultsSeen are the faults of the line that were seen; none is nil.
func (m Mark) FaultsSeen() []string {
	if m.Faults == "" {
		return nil
	}
	return strings.Split(m.Faults, "\n")
}

// What bounds a mark.
const (
	MaxCount  = 100_000
	MaxTicked = 40
)

// Tidy puts a mark as it is kept: its note without stray spaces, its value only where it is one.
func (m *Mark) Tidy() {
	if m.Note = check.Tidy(m.Note); m.Kind != MarkGiven {
		m.Value = 0
	}
}

// Check says what is wrong with a mark, whatever sheet it is for.
func (m Mark) Check() error {
	if err := EntryID(m.ID); err != nil {
		return err
	}
	var p check.Problems
	check.OneOf(&p, "kind", m.Kind, []MarkKind{MarkGiven, MarkNotSeen, MarkOpen})
	p.Line("note", m.Note, check.LineLength)
	for field, list := range map[string]string{"ticked": m.Ticked, "faults": m.Faults} {
		if strings.Count(list, "\n") >= MaxTicked || len(list) > MaxTicked*check.LineLength {
			p.Add(field, "is too long; up to %d things are ticked", MaxTicked)
		}
	}
	check.OneOf(&p, "again", m.Again, append([]Again{""}, Agains...))
	if m.Again != "" && m.Kind == MarkOpen {
		p.Add("again", "is asked for a line that has no mark yet; it is called anyway")
	}
	if m.Count < 0 || m.Count > MaxCount {
		p.Add("count", "is %d; it must be from 0 to %d", m.Count, MaxCount)
	}
	return p.Err()
}

// EntryID refuses an id of an entry that cannot have been made at random.
func EntryID(id string) error {
	if len(id) < 8 || len(id) > 64 || strings.Trim(id, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-") != "" {
		return check.Problems{{Field: "id", Text: "must be 8 to 64 letters, digits or hyphens, made at random by whoever writes the entry"}}
	}
	return nil
}

// NobodySaw reports whether an item has to be called again: all of a panel say they did not see it,
// and the test was not ended by a fault.
func NobodySaw(notSeen, panel int, ended bool) bool { return panel > 0 && notSeen >= panel && !ended }

// Sealed reports whether the marks of a group are still kept from everybody but who gave them:
// somebody of the panel has not signed.
func Sealed(signed, panel int) bool { return signed < panel }
