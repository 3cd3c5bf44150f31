package frame

import (
	"net/http"

	"velvetladder/internal/store"
)

// HandOf names who enters something on a device: the examiner whose seat it is, or the person who is signed in;
// "" where nobody is let in. What a device keeps is sent only as the hand that made it. An examiner who was sent
// home and joins again with a new code is the same hand.
func HandOf(r *http.Request) string {
	if s, seated := SeatOf(r); seated {
		return "examiner " + s.ExaminerID
	}
	switch p := PersonOf(r); {
	case p.ID != "":
		return "person " + p.ID
	case p.Role != "": // whoever calls is the owner
		return "everybody"
	}
	return ""
}

// batch is what a device sends of what it kept.
type batch[T any] struct {
	Entries []T    `json:"entries"`
	Hand    string `json:"hand"`   // who made them; "" whoever sends them
	Handed  bool   `json:"handed"` // they were handed to the head table, whose they are not
}

// mayBring refuses entries that another hand made, but for those the owner was handed.
func (b batch[T]) mayBring(r *http.Request) error {
	switch {
	case b.Handed && PersonOf(r).Role != store.Owner:
		return &store.Refused{Reason: "Only the owner takes in what another device kept."}
	case !b.Handed && b.Hand != "" && b.Hand != HandOf(r):
		return &store.Refused{Reason: "This was entered by somebody else than who is on this device now. It stays here until they are back, or until it is handed to the head table."}
	}
	return nil
}
