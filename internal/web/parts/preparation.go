package parts

import (
	"velvetladder/internal/store"
)

// Preparation is the row of places around a grading.
type Preparation struct {
	Grading store.Grading
	Here    string
	Owner   bool
}

func RingOf(g store.Grading, id string) int {
	ring, _ := g.PanelOf(id)
	return ring
}
