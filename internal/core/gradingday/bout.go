package gradingday

import (
	"fmt"
	"slices"

	"velvetladder/internal/core/curriculum"
)

// Bout is two people sparring under a rung's rule.
type Bout struct {
	ID              string
	RingID          string
	A, B            string // candidates; B is "" where a partner helps out
	AName, BName    string
	Rounds, Seconds int // 1 to MaxRounds, 1 to MaxRoundSeconds
	Rule            curriculum.SparringRule
	Events          []BoutEvent // that stand, in order
	Faults          []Fault
}

// What bounds a bout.
const (
	MaxRounds       = 20
	MaxRoundSeconds = 3600
	MaxPoints       = 10 // of one point given
)

// BoutKind says what happened in a bout.
type BoutKind string

// What happens in a bout.
const (
	BoutPoint     BoutKind = "point"
	BoutStopped   BoutKind = "stopped" // somebody is hurt
	BoutEnded     BoutKind = "ended"
	BoutWithdrawn BoutKind = "withdrawn" // takes back what it supersedes
)

// BoutEvent is something in a bout.
type BoutEvent struct {
	ID         string
	BoutID     string
	Kind       BoutKind
	Side       string // a or b, of a point; "" of the bout
	Round      int    // from 1
	Points     int    // of a point: 1 to MaxPoints
	Text       string
	Supersedes string
}

// Points are the points of both sides over all rounds.
func (b Bout) Points() (a, c int) {
	for _, e := range b.Events {
		switch {
		case e.Kind == BoutPoint && e.Side == "a":
			a += e.Points
		case e.Kind == BoutPoint && e.Side == "b":
			c += e.Points
		}
	}
	return a, c
}

// End is what ended a bout; nil while it goes on.
func (b Bout) End() *BoutEvent {
	i := slices.IndexFunc(b.Events, func(e BoutEvent) bool { return e.Kind == BoutEnded || e.Kind == BoutStopped })
	if i < 0 {
		return nil
	}
	return &b.Events[i]
}

// BoutError says why a bout or an entry of it is refused.
type BoutError string

// Error gives the reason.
func (e BoutError) Error() string { return string(e) }

// Check says what is wrong with the length of a bout.
func (b Bout) Check() error {
	if b.Rounds < 1 || b.Rounds > MaxRounds || b.Seconds < 1 || b.Seconds > MaxRoundSeconds {
		return BoutError(fmt.Sprintf("A bout has 1 to %d rounds of 1 to %d seconds.", MaxRounds, MaxRoundSeconds))
	}
	return nil
}

// Check says what is wrong with an entry, whatever bout it is of.
func (e BoutEvent) Check() error {
	if err := EntryID(e.ID); err != nil {
		return err
	}
	known := slices.Contains([]BoutKind{BoutPoint, BoutEnded, BoutStopped, BoutWithdrawn}, e.Kind)
	point := e.Kind != BoutPoint || (e.Side == "a" || e.Side == "b") && e.Points > 0
	if !known || !point || e.Round < 1 || e.Round > MaxRounds || e.Points < 0 || e.Points > MaxPoints {
		return BoutError(fmt.Sprintf("This is no event of a bout: a point has a side and 1 to %d points in a round from 1 to %d.", MaxPoints, MaxRounds))
	}
	return nil
}

// Takes says why an entry cannot be added to a bout as it stands; nil it can.
func (b Bout) Takes(e BoutEvent) error {
	switch {
	case e.Kind == BoutWithdrawn && !slices.ContainsFunc(b.Events, func(x BoutEvent) bool { return x.ID == e.Supersedes }):
		return BoutError("What is to be taken back is not on record, or was taken back already.")
	case e.Kind == BoutWithdrawn:
		return nil
	case b.End() != nil:
		return BoutError("This bout has ended. Take the end back to go on.")
	case e.Supersedes != "":
		return BoutError("A new entry replaces nothing; take the old one back.")
	case e.Round > b.Rounds && b.Rounds == 1:
		return BoutError("This bout has 1 round.")
	case e.Round > b.Rounds:
		return BoutError(fmt.Sprintf("This bout has %d rounds.", b.Rounds))
	}
	return nil
}
